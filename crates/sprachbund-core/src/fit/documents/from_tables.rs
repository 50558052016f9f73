//! Tables become collections. The database holds no more than what is unique; what else it held is
//! left to the application.

use std::collections::{HashMap, HashSet};

use super::{Crossed, rename_column};
use crate::dialect::DocumentRules;
use crate::fit::Grade;
use crate::fit::causes::documents::OfDocument;
use crate::fit::causes::{Rows, row};
use crate::fit::report::{Causes, Touched};
use crate::fit::types::coerced;
use crate::host::Language;
use crate::schema::expression::Tree;
use crate::schema::facts::{Aspect, Element, ElementKind, FactKey, index_element, unique_element};
use crate::schema::{
    Action, Check, Default_, EnforcedBy, Entity, EntityKind, EnumType, Field, ForeignKey, Index,
    InputRule, NamedBy, Origin, PrimaryKey, Purpose, RelationKind, Schema, Type, Unique, UniqueAs,
    Voices,
};
use crate::server::WholeNumbers;

/// The key of every document.
const KEY: &str = "_id";

/// Digits of a second that a moment has.
const MOMENT: Type = Type::Timestamp { precision: Some(3), zoned: true };

const REASONS: Rows = &[
    (
        ElementKind::Enumeration,
        None,
        row(
            Grade::Respelled,
            "MongoDB has no enumeration types",
            "a list of values that the application checks",
        ),
    ),
    (
        ElementKind::Key,
        Some(Aspect::Name),
        row(Grade::Dropped, "the key of a document has no name", "left out"),
    ),
    (
        ElementKind::Key,
        None,
        row(Grade::Respelled, "the key of a document is `_id`", "it takes the place of the key"),
    ),
    (
        ElementKind::Column,
        Some(Aspect::Nullable),
        row(
            Grade::Weakened,
            "MongoDB holds no NOT NULL",
            "the application requires it, and refuses an empty text, too",
        ),
    ),
    (
        ElementKind::Column,
        Some(Aspect::RequiredOnInput),
        row(
            Grade::Added,
            "the application alone says what must be given",
            "what the column needed is required",
        ),
    ),
    (
        ElementKind::Column,
        Some(Aspect::OptionalInCode),
        row(
            Grade::Dropped,
            "schemas do not say what may be missing in the code",
            "`required` says it",
        ),
    ),
    (
        ElementKind::Column,
        Some(Aspect::Type),
        row(Grade::Respelled, "MongoDB has other types", "the one that holds its values"),
    ),
    (
        ElementKind::Column,
        Some(Aspect::HeldAs),
        row(Grade::Respelled, "MongoDB has other types", "the one that holds its values"),
    ),
    (
        ElementKind::Column,
        Some(Aspect::Rules),
        row(Grade::Weakened, "MongoDB holds no length and no limit", "the application checks them"),
    ),
    (
        ElementKind::Column,
        Some(Aspect::Choices),
        row(
            Grade::Weakened,
            "MongoDB has no enumeration types",
            "the application checks the values",
        ),
    ),
    (
        ElementKind::Column,
        Some(Aspect::Identity),
        row(Grade::Dropped, "MongoDB numbers nothing", "left out")
            .then_do("let the application make the key"),
    ),
    (
        ElementKind::Column,
        Some(Aspect::DatabaseDefault),
        row(
            Grade::Weakened,
            "MongoDB has no defaults",
            "the application fills it in, where it can",
        ),
    ),
    (
        ElementKind::Column,
        Some(Aspect::ApplicationDefault),
        row(
            Grade::Added,
            "MongoDB has no defaults",
            "the application fills in what the database did",
        ),
    ),
    (
        ElementKind::Column,
        Some(Aspect::DatabaseUpdate),
        row(Grade::Weakened, "MongoDB sets nothing at an update", "left out")
            .then_do("let the application do it"),
    ),
    (ElementKind::Column, None, row(Grade::Dropped, "documents have no such thing", "left out")),
    (
        ElementKind::Unique,
        Some(Aspect::As),
        row(
            Grade::Respelled,
            "what is unique is kept so by an index",
            "values are as unique as before",
        ),
    ),
    (
        ElementKind::Unique,
        Some(Aspect::Deferrable),
        row(
            Grade::Strengthened,
            "MongoDB checks what is unique at once",
            "it is checked at each statement",
        ),
    ),
    (
        ElementKind::Unique,
        Some(Aspect::NullsNotDistinct),
        row(
            Grade::Strengthened,
            "in an index over several paths MongoDB takes a missing value for a value",
            "only one document may lack them all",
        ),
    ),
    (
        ElementKind::Unique,
        None,
        row(Grade::Respelled, "the key of a document is `_id`", "what was the key is unique"),
    ),
    (
        ElementKind::UniqueIndex,
        Some(Aspect::NullsNotDistinct),
        row(
            Grade::Strengthened,
            "MongoDB takes a missing value for a value",
            "only one document may lack it",
        ),
    ),
    (
        ElementKind::UniqueIndex,
        None,
        row(Grade::Weakened, "MongoDB cannot hold such an index", "what it can hold of it"),
    ),
    (
        ElementKind::Index,
        None,
        row(Grade::Weakened, "MongoDB cannot hold such an index", "what it can hold of it"),
    ),
    (
        ElementKind::ForeignKey,
        Some(Aspect::Enforced),
        row(
            Grade::Weakened,
            "MongoDB holds no references",
            "nothing refuses a reference to nothing",
        ),
    ),
    (
        ElementKind::ForeignKey,
        Some(Aspect::OnDelete),
        row(Grade::Dropped, "MongoDB does nothing on deletion", "left out")
            .then_do("let the application do it"),
    ),
    (
        ElementKind::ForeignKey,
        Some(Aspect::OnUpdate),
        row(
            Grade::Dropped,
            "MongoDB does nothing when a key changes",
            "the key of a document never changes",
        ),
    ),
    (
        ElementKind::ForeignKey,
        None,
        row(
            Grade::Weakened,
            "MongoDB holds no references",
            "nothing refuses a reference to nothing",
        ),
    ),
    (
        ElementKind::Relation,
        Some(Aspect::OnDelete),
        row(Grade::Dropped, "the framework does nothing on deletion", "left out")
            .then_do("let the application do it"),
    ),
    (
        ElementKind::Relation,
        Some(Aspect::Kind),
        row(
            Grade::Respelled,
            "a reference is a one-to-one where it is unique",
            "it is read as one",
        ),
    ),
    (
        ElementKind::Relation,
        None,
        row(Grade::Dropped, "a reference leads to the `_id` of a document", "its path stays")
            .then_do("look documents up by it"),
    ),
    (
        ElementKind::Check,
        None,
        row(Grade::Dropped, "MongoDB holds no checks", "left out")
            .then_do("check the values where input is validated"),
    ),
    (
        ElementKind::Exclusion,
        None,
        row(Grade::Dropped, "MongoDB holds no exclusion constraints", "left out")
            .then_do("check it where input is validated"),
    ),
    (
        ElementKind::Table,
        Some(Aspect::Kind),
        row(Grade::Respelled, "MongoDB keeps documents", "the table becomes a collection"),
    ),
    (
        ElementKind::Table,
        Some(Aspect::Inherits),
        row(
            Grade::Respelled,
            "documents are not joined to those of a parent",
            "the child has a collection of its own",
        ),
    ),
    (
        ElementKind::Table,
        Some(Aspect::Namespace),
        row(
            Grade::Dropped,
            "MongoDB has no named schemas",
            "the collection is in the database of the connection",
        ),
    ),
    (ElementKind::Table, None, row(Grade::Dropped, "documents have no such thing", "left out")),
];

/// Carries tables over into documents.
pub(super) fn carry(schema: &Schema, language: &Language, rules: &DocumentRules) -> Crossed {
    let mut schema = schema.clone();
    let mut own = Causes::default();
    for enumeration in &mut schema.enums {
        enumeration.stored_name = None;
    }
    // There it holds numbers that need more than four bytes.
    if schema.source.database.server().whole_numbers == WholeNumbers::SignedAndUnsigned {
        let unsigned = schema
            .entities
            .iter_mut()
            .flat_map(|entity| &mut entity.fields)
            .filter(|field| field.r#type == Type::UnsignedInteger);
        unsigned.for_each(|field| field.r#type = Type::BigInt);
    }
    keys(&mut schema, &new_key(language, rules), &mut own);
    references(&mut schema);
    for entity in &mut schema.entities {
        entity.kind = EntityKind::Document;
        entity.namespace = None;
        if entity
            .inherits
            .as_ref()
            .is_some_and(|inherits| inherits.how == crate::schema::Inheritance::Joined)
        {
            entity.inherits = None;
        }
        checks(entity, &mut own);
        let table = entity.table.clone();
        entity.fields.iter_mut().for_each(|column| {
            field(column);
            kept_to(column, rules, (&schema.enums, &table), &mut own);
            coerced(column);
        });
        let key = entity.key_columns().to_vec();
        for field in entity.fields.iter_mut().filter(|field| key.contains(&field.column)) {
            (field.nullable, field.required_on_input) = (false, Some(false));
        }
        uniques(entity);
        indexes(entity, rules, &mut own);
        kinds(entity);
    }
    schema.source.database = crate::schema::Database::MongoDb;
    Crossed { schema, rows: REASONS, causes: own, renamed: HashMap::new() }
}

/// Every document has one key: that of one column takes its place, beside any other it is added.
fn keys(schema: &mut Schema, new_key: &Field, own: &mut Causes) {
    let mut renamed: HashMap<String, String> = HashMap::new();
    for entity in schema.entities.iter_mut().filter(|entity| !is_second(entity)) {
        let key = entity.key_columns().to_vec();
        let address = entity.address();
        match key.as_slice() {
            [only] if only == KEY => {}
            [only] if entity.field(KEY).is_none() => {
                let only = only.clone();
                let elements = [Element::column(&only), Element::column(KEY), Element::Key];
                own.note_all(
                    elements.map(|element| Touched::Element(entity.table.clone(), element)),
                    OfDocument::IdIsTheKey,
                );
                rename_column(entity, &only, KEY);
                renamed.insert(address, only);
                let owned = entity.relations.iter().any(|relation| relation.columns == [KEY]);
                for field in entity.fields.iter_mut().filter(|field| field.column == KEY) {
                    field.name = (!owned).then(|| KEY.to_owned());
                }
            }
            _ => {
                if !key.is_empty() {
                    let origin = Origin::implied("it was the key");
                    let known = entity.uniques.iter().any(|unique| unique.columns == key);
                    if !known {
                        entity.uniques.push(Unique {
                            columns: key,
                            r#as: UniqueAs::Index,
                            origin,
                            ..Unique::default()
                        });
                    }
                }
                if entity.field(KEY).is_none() {
                    entity.fields.insert(0, new_key.clone());
                }
                let origin = Origin::implied("every document has one");
                entity.primary_key =
                    Some(PrimaryKey { columns: vec![KEY.to_owned()], name: None, origin });
            }
        }
        entity.primary_key.iter_mut().for_each(|key| key.name = None);
        let key = entity.key_columns().to_vec();
        entity.uniques.retain(|unique| unique.columns != key);
    }
    for key in schema.entities.iter_mut().flat_map(|entity| &mut entity.foreign_keys) {
        if let Some(old) = renamed.get(&key.references.address()) {
            key.references
                .columns
                .iter_mut()
                .filter(|column| *column == old)
                .for_each(|column| KEY.clone_into(column));
        }
    }
}

fn is_second(entity: &Entity) -> bool {
    entity
        .inherits
        .as_ref()
        .is_some_and(|inherits| inherits.how == crate::schema::Inheritance::SameTable)
}

/// The key that the framework makes.
fn new_key(language: &Language, rules: &DocumentRules) -> Field {
    let mut field =
        Field::plain(Some(KEY.to_owned()), KEY.to_owned(), Type::ObjectId, "objectId".into());
    field.defaults.application = Some(Box::new(Default_::host(language.id, rules.new_key)));
    field
}

/// References lead to keys only, over one path each, and nobody acts on them.
fn references(schema: &mut Schema) {
    let keys: HashMap<String, Vec<String>> = schema
        .entities
        .iter()
        .map(|entity| (entity.address(), entity.key_columns().to_vec()))
        .collect();
    let tables: HashMap<String, (String, Vec<String>)> = schema
        .entities
        .iter()
        .map(|entity| (entity.id.clone(), (entity.table.clone(), entity.key_columns().to_vec())))
        .collect();
    for entity in &mut schema.entities {
        let stays = |key: &ForeignKey| {
            keys.get(&key.references.address())
                .is_some_and(|own| *own == key.references.columns && own.len() == 1)
        };
        entity.foreign_keys.retain(stays);
        let mut seen: HashSet<Vec<String>> = HashSet::new();
        entity.foreign_keys.retain(|key| seen.insert(key.columns.clone()));
        let standing: Vec<Vec<String>> =
            entity.foreign_keys.iter().map(|key| key.columns.clone()).collect();
        let mut taken: HashSet<Vec<String>> = HashSet::new();
        entity.relations.retain(|relation| {
            let many = relation.kind == RelationKind::ManyToMany;
            let known = tables.contains_key(&relation.target);
            many || ((!known || standing.contains(&relation.columns))
                && relation.columns.len() == 1
                && taken.insert(relation.columns.clone()))
        });
        let related: Vec<Vec<String>> =
            entity.relations.iter().map(|relation| relation.columns.clone()).collect();
        entity.foreign_keys.retain(|key| related.contains(&key.columns));
        for key in &mut entity.foreign_keys {
            (key.on_delete, key.on_update) = (Action::NoAction, Action::NoAction);
            (key.deferrable, key.name, key.enforced) = (None, None, EnforcedBy::Application);
            key.references.namespace = None;
        }
        for relation in &mut entity.relations {
            relation.on_delete = None;
        }
        // A path that has lost its reference is a value like others.
        let carried: HashSet<String> =
            entity.relations.iter().flat_map(|relation| relation.columns.clone()).collect();
        for field in &mut entity.fields {
            if carried.contains(&field.column) {
                field.name = None;
            } else if field.name.is_none() && entity.mapped.code {
                field.name = Some(field.column.clone());
            }
        }
    }
}

/// Limits of single columns become rules; nothing else of a check stays.
fn checks(entity: &mut Entity, own: &mut Causes) {
    for check in std::mem::take(&mut entity.checks) {
        let Some((column, rule, value)) = limit(&check) else { continue };
        let Some(field) = entity.fields.iter_mut().find(|field| field.column == column) else {
            continue;
        };
        let held = matches!(document_type(&field.r#type), Type::Integer | Type::Double);
        let whole = Touched::Element(entity.table.clone(), Element::of_check(&check));
        match field.rules.iter().find(|known| known.rule == rule) {
            Some(known) if known.value == value => {
                own.note_all([whole], OfDocument::RuleForCheck);
                continue;
            }
            Some(_) => continue,
            None if !held => continue,
            None => field.rules.push(InputRule { rule: rule.to_owned(), value, message: None }),
        }
        let rules = FactKey::new(&entity.table, Element::column(&column), Aspect::Rules);
        own.note_all([whole, rules.into()], OfDocument::RuleForCheck);
    }
    entity.exclusions.clear();
}

/// The column, rule and limit of `column >= 0` and its like.
fn limit(check: &Check) -> Option<(String, &'static str, serde_json::Value)> {
    let Tree::Binary { operator, left, right } = check.expression.tree.as_ref()? else {
        return None;
    };
    let rule = match operator.as_str() {
        ">=" => "min_value",
        "<=" => "max_value",
        _ => return None,
    };
    match (&**left, &**right) {
        (Tree::Column(column), Tree::Literal(value)) if value.is_number() => {
            Some((column.clone(), rule, value.clone()))
        }
        _ => None,
    }
}

fn field(field: &mut Field) {
    let automatic =
        field.identity.is_some() || field.purpose.is_some() || field.generated.is_some();
    field.required_on_input =
        Some(!field.nullable && !automatic && field.required_on_input != Some(false));
    field.nullable = true;
    field.identity = None;
    field.optional_in_code = None;
    field.on_update.database = None;
    bounded(field);
    if let Some(name) = crate::schema::enum_name(&field.r#type) {
        field.choices = Some(name.to_owned());
    }
    field.r#type = match field.purpose {
        Some(Purpose::Version) => Type::Double,
        _ => document_type(&field.r#type),
    };
    let Voices { database, application } = std::mem::take(&mut field.defaults);
    let in_application = application
        .or_else(|| database.filter(|default| !matches!(**default, Default_::Expression(_))));
    field.defaults.application = in_application.map(|mut default| {
        if *default == Default_::Function(crate::schema::Function::StatementNow) {
            *default = Default_::Function(crate::schema::Function::Now);
        }
        default
    });
}

/// What the framework does not check of a type is not said.
fn kept_to(
    field: &mut Field,
    rules: &DocumentRules,
    (enums, table): (&[EnumType], &str),
    own: &mut Causes,
) {
    let keeps_to = rules.keeps_to;
    let element = Element::of_field(field);
    let fact = |aspect| FactKey::new(table, element.clone(), aspect);
    let numbers = |name: &String| {
        enums.iter().any(|known| {
            known.name == *name && known.members.iter().all(|member| member.value.is_number())
        })
    };
    // Numbers of a list are whole or not, as the list says.
    if field.choices.as_ref().is_some_and(numbers)
        && matches!(field.r#type, Type::Integer | Type::BigInt)
    {
        field.r#type = Type::Double;
    }
    if field.r#type == Type::Integer
        && field.rules.iter().any(|rule| keeps_to(&Type::Double, &rule.rule))
    {
        field.r#type = Type::Double;
        own.note(fact(Aspect::ApplicationDefault), OfDocument::ValueOfNumber);
        own.note(fact(Aspect::Type), OfDocument::NumberForLimits);
    }
    let ty = field.r#type.clone();
    if field.rules.iter().any(|rule| !keeps_to(&ty, &rule.rule)) {
        own.note(fact(Aspect::Rules), OfDocument::RuleNotChecked);
        field.rules.retain(|rule| keeps_to(&ty, &rule.rule));
    }
    if field.choices.is_some() && !keeps_to(&ty, "enum") {
        own.note(fact(Aspect::Choices), OfDocument::ChoicesOfTextsAndNumbers);
        field.choices = None;
    }
}

/// A length is a rule.
fn bounded(field: &mut Field) {
    let (Type::Varchar(Some(length)) | Type::Char(Some(length))) = field.r#type else { return };
    if !field.rules.iter().any(|rule| rule.rule == "max_length") {
        field.rules.push(InputRule {
            rule: "max_length".to_owned(),
            value: length.into(),
            message: None,
        });
    }
}

/// The type that holds the values of another one.
fn document_type(ty: &Type) -> Type {
    match ty {
        Type::Boolean | Type::Uuid | Type::ObjectId => ty.clone(),
        Type::SmallInt | Type::Integer | Type::UnsignedSmallInt | Type::UnsignedInteger => {
            Type::Integer
        }
        Type::BigInt | Type::UnsignedBigInt => Type::BigInt,
        Type::Numeric { .. } => Type::Numeric { precision: None, scale: None },
        Type::Real | Type::Double => Type::Double,
        Type::Binary(_) => Type::Binary(None),
        Type::Date | Type::Timestamp { .. } => MOMENT,
        Type::Json | Type::BinaryJson | Type::Range(_) => Type::BinaryJson,
        Type::Array(element) => Type::Array(Box::new(document_type(element))),
        Type::Native(word)
            if ["tinyint", "mediumint", "year"].iter().any(|small| word.starts_with(small)) =>
        {
            Type::Integer
        }
        _ => Type::Text,
    }
}

fn uniques(entity: &mut Entity) {
    for at in 0..entity.uniques.len() {
        let optional = is_optional(entity, &entity.uniques[at].columns);
        let unique = &mut entity.uniques[at];
        (unique.r#as, unique.deferrable) = (UniqueAs::Index, None);
        unique.nulls_not_distinct =
            optional && (unique.nulls_not_distinct || unique.columns.len() > 1);
    }
    // Two indexes over the same keys are one.
    let mut seen: HashSet<String> = HashSet::new();
    entity.uniques.sort_by_key(|unique| unique.named_by != NamedBy::Author);
    entity.uniques.retain(|unique| seen.insert(unique_element(unique)));
}

/// Whether a document may lack one of these.
fn is_optional(entity: &Entity, columns: &[String]) -> bool {
    let key = entity.key_columns();
    columns.iter().any(|column| {
        !key.contains(column)
            && entity.field(column).is_none_or(|field| field.required_on_input != Some(true))
    })
}

fn indexes(entity: &mut Entity, rules: &DocumentRules, own: &mut Causes) {
    let mut kept: Vec<Index> = Vec::new();
    let mut seen: HashSet<String> = HashSet::new();
    let unique_keys: HashSet<Vec<String>> =
        entity.uniques.iter().map(|unique| unique.columns.clone()).collect();
    for mut index in std::mem::take(&mut entity.indexes) {
        let whole = Touched::Element(entity.table.clone(), Element::of_index(&index));
        let mut gone = |cause| own.note(whole.clone(), cause);
        if index.parts.iter().any(|part| part.expression.is_some()) {
            gone(OfDocument::NoExpressionIndex);
            continue;
        }
        if index.parts.iter().any(|part| part.operator_class.is_some()) && index.name.is_none() {
            gone(OfDocument::PatternsToo);
            continue;
        }
        let filter = index
            .condition
            .as_deref()
            .is_none_or(|condition| condition.tree.as_ref().is_some_and(rules.can_filter));
        if !filter && index.unique {
            gone(OfDocument::NoSuchFilter);
            continue;
        }
        if !filter {
            index.condition = None;
        }
        index.parts.iter_mut().for_each(|part| part.operator_class = None);
        index.include = Vec::new();
        index.method = None;
        let columns = index.plain_columns();
        let plain =
            index.parts.iter().all(crate::schema::IndexPart::is_plain) && index.condition.is_none();
        if !index.unique && plain && unique_keys.contains(&columns) {
            // Both would have one name, which MongoDB refuses (manual, "Index Names"; not seen
            // here: there is no such server).
            gone(OfDocument::UniqueIsIndexed);
            continue;
        }
        if index.unique && plain {
            let index_columns = columns.clone();
            // What is unique is one thing here.
            if !unique_keys.contains(&columns) && columns != entity.key_columns() {
                let Index { name, named_by, nulls_not_distinct, origin, extras, .. } = index;
                let optional = is_optional(entity, &columns);
                let nulls_not_distinct = optional && (nulls_not_distinct || columns.len() > 1);
                let known = entity.uniques.iter().any(|unique| unique.columns == columns);
                if !known {
                    entity.uniques.push(Unique {
                        columns,
                        r#as: UniqueAs::Index,
                        name,
                        named_by,
                        deferrable: None,
                        nulls_not_distinct,
                        origin,
                        extras,
                    });
                }
            }
            own.note(
                Touched::Element(entity.table.clone(), Element::Unique(index_columns)),
                OfDocument::OneWordForUnique,
            );
            own.note(whole, OfDocument::OneWordForUnique);
            continue;
        }
        if index.unique {
            let apart = index.parts.len() == 1 && !index.nulls_not_distinct;
            index.nulls_not_distinct = is_optional(entity, &columns) && !apart;
        }
        if seen.insert(index_element(&index)) {
            kept.push(index);
        }
    }
    entity.indexes = kept;
}

/// A reference is a one-to-one where nothing but its being unique is said of it.
fn kinds(entity: &mut Entity) {
    let key = entity.key_columns().to_vec();
    for relation in
        entity.relations.iter_mut().filter(|relation| relation.kind != RelationKind::ManyToMany)
    {
        let plain = |unique: &Unique| {
            unique.columns == relation.columns
                && !unique.nulls_not_distinct
                && unique.named_by != NamedBy::Author
                && unique.extras.is_empty()
        };
        let one = relation.columns == key || entity.uniques.iter().any(plain);
        relation.kind = if one { RelationKind::OneToOne } else { RelationKind::ManyToOne };
    }
}

#[cfg(test)]
mod tests {
    use crate::fit::tests::{Case, check_whole};

    const CASES: &[Case] = &[
        (
            "sql postgresql > mongoose mongodb",
            "CREATE TABLE t (id integer PRIMARY KEY, a varchar(9) NOT NULL, b integer CHECK (b \
             > 0), c timestamptz DEFAULT now());",
            &[
                "t, check \"b\" > 0, exists: true -> nothing (dropped: MongoDB holds no checks)",
                "t, column a, nullable: \"not null\" -> \"null\" (weakened: MongoDB holds no \
                 NOT NULL)",
                "t, column c, default in the database: {\"function\":\"now\"} -> nothing \
                 (weakened: MongoDB has no defaults)",
                "t, column a, rules: nothing -> \
                 [{\"rule\":\"max_length\",\"value\":9,\"message\":null}] (weakened: MongoDB \
                 holds no length and no limit)",
                "t, column a, required_on_input: nothing -> \"required\" (added: the \
                 application alone says what must be given)",
                "t, column b, required_on_input: nothing -> \"optional\" (added: the \
                 application alone says what must be given)",
                "t, column c, required_on_input: nothing -> \"optional\" (added: the \
                 application alone says what must be given)",
                "t, column c, default in the application: nothing -> {\"function\":\"now\"} \
                 (added: MongoDB has no defaults)",
                "t, key, columns: [\"id\"] -> [\"_id\"] (respelled: the key of a document is \
                 `_id`)",
                "t, column id, attribute: \"id\" -> nothing (respelled: the key of a document \
                 is `_id`)",
                "t, column id, type: \"integer\" -> nothing (respelled: the key of a document \
                 is `_id`)",
                "t, column id, nullable: \"not null\" -> nothing (respelled: the key of a \
                 document is `_id`)",
                "t, column _id, attribute: nothing -> \"_id\" (respelled: the key of a document \
                 is `_id`)",
                "t, column _id, type: nothing -> \"integer\" (respelled: the key of a document \
                 is `_id`)",
                "t, column _id, nullable: nothing -> \"not null\" (respelled: the key of a \
                 document is `_id`)",
                "t, column _id, required_on_input: nothing -> \"optional\" (respelled: the key \
                 of a document is `_id`)",
                "t, kind: \"table\" -> \"document\" (respelled: MongoDB keeps documents)",
                "t, column a, type: \"varchar(9)\" -> \"text\" (respelled: MongoDB has other \
                 types)",
                "t, column c, type: \"timestamp with time zone\" -> \"timestamp(3) with time \
                 zone\" (respelled: MongoDB has other types)",
            ],
        ),
        (
            "sql postgresql > mongoose mongodb",
            "CREATE TABLE q (id integer PRIMARY KEY); CREATE TABLE t (id integer PRIMARY KEY, \
             q_id integer REFERENCES q (id) ON DELETE CASCADE); CREATE INDEX i ON t (q_id) \
             WHERE q_id > 1;",
            &[
                "t, foreign key q_id, on_delete: \"cascade\" -> \"no action\" (dropped: MongoDB \
                 does nothing on deletion)",
                "t, foreign key q_id, references: [null,\"q\",[\"id\"]] -> \
                 [null,\"q\",[\"_id\"]] (weakened: MongoDB holds no references)",
                "t, foreign key q_id, enforced: \"database\" -> \"application\" (weakened: \
                 MongoDB holds no references)",
                "t, column q_id, required_on_input: nothing -> \"optional\" (added: the \
                 application alone says what must be given)",
                "q, key, columns: [\"id\"] -> [\"_id\"] (respelled: the key of a document is \
                 `_id`)",
                "q, column id, attribute: \"id\" -> nothing (respelled: the key of a document \
                 is `_id`)",
                "q, column id, type: \"integer\" -> nothing (respelled: the key of a document \
                 is `_id`)",
                "q, column id, nullable: \"not null\" -> nothing (respelled: the key of a \
                 document is `_id`)",
                "q, column _id, attribute: nothing -> \"_id\" (respelled: the key of a document \
                 is `_id`)",
                "q, column _id, type: nothing -> \"integer\" (respelled: the key of a document \
                 is `_id`)",
                "q, column _id, nullable: nothing -> \"not null\" (respelled: the key of a \
                 document is `_id`)",
                "q, column _id, required_on_input: nothing -> \"optional\" (respelled: the key \
                 of a document is `_id`)",
                "t, key, columns: [\"id\"] -> [\"_id\"] (respelled: the key of a document is \
                 `_id`)",
                "t, column id, attribute: \"id\" -> nothing (respelled: the key of a document \
                 is `_id`)",
                "t, column id, type: \"integer\" -> nothing (respelled: the key of a document \
                 is `_id`)",
                "t, column id, nullable: \"not null\" -> nothing (respelled: the key of a \
                 document is `_id`)",
                "t, column _id, attribute: nothing -> \"_id\" (respelled: the key of a document \
                 is `_id`)",
                "t, column _id, type: nothing -> \"integer\" (respelled: the key of a document \
                 is `_id`)",
                "t, column _id, nullable: nothing -> \"not null\" (respelled: the key of a \
                 document is `_id`)",
                "t, column _id, required_on_input: nothing -> \"optional\" (respelled: the key \
                 of a document is `_id`)",
                "q, kind: \"table\" -> \"document\" (respelled: MongoDB keeps documents)",
                "t, kind: \"table\" -> \"document\" (respelled: MongoDB keeps documents)",
            ],
        ),
        (
            "django@5.2 postgresql > mongoose mongodb",
            "class A(models.Model):
    bs = models.ManyToManyField('B')
class B(models.Model):
    code = models.SlugField(unique=True)
",
            &[
                "main_b, index code varchar_pattern_ops, exists: true -> nothing (dropped: an \
                 index serves comparisons with patterns, too)",
                "main_b, column code, format: \"slug\" -> nothing (dropped: Mongoose does not \
                 check text formats)",
                "main_a_bs, relation a_id, on_delete: \"cascade\" -> nothing (dropped: the \
                 framework does nothing on deletion)",
                "main_a_bs, relation b_id, on_delete: \"cascade\" -> nothing (dropped: the \
                 framework does nothing on deletion)",
                "main_a_bs, column a_id, nullable: \"not null\" -> \"null\" (weakened: MongoDB \
                 holds no NOT NULL)",
                "main_a_bs, column b_id, nullable: \"not null\" -> \"null\" (weakened: MongoDB \
                 holds no NOT NULL)",
                "main_b, column code, nullable: \"not null\" -> \"null\" (weakened: MongoDB \
                 holds no NOT NULL)",
                "main_a_bs, foreign key a_id, deferrable: \"initially-deferred\" -> nothing \
                 (weakened: MongoDB holds no references)",
                "main_a_bs, foreign key a_id, references: [null,\"main_a\",[\"id\"]] -> \
                 [null,\"main_a\",[\"_id\"]] (weakened: MongoDB holds no references)",
                "main_a_bs, foreign key a_id, enforced: \"database\" -> \"application\" \
                 (weakened: MongoDB holds no references)",
                "main_a_bs, foreign key b_id, deferrable: \"initially-deferred\" -> nothing \
                 (weakened: MongoDB holds no references)",
                "main_a_bs, foreign key b_id, references: [null,\"main_b\",[\"id\"]] -> \
                 [null,\"main_b\",[\"_id\"]] (weakened: MongoDB holds no references)",
                "main_a_bs, foreign key b_id, enforced: \"database\" -> \"application\" \
                 (weakened: MongoDB holds no references)",
                "main_b, column code, rules: nothing -> \
                 [{\"rule\":\"max_length\",\"value\":50,\"message\":null}] (weakened: MongoDB \
                 holds no length and no limit)",
                "main_a_bs, has a class: nothing -> true (added: the join table `main_a_bs` has \
                 a shape that Mongoose would not give it)",
                "main_a_bs, class: nothing -> \"ABs\" (added: the join table `main_a_bs` has a \
                 shape that Mongoose would not give it)",
                "main_a_bs, relation a_id, attribute: nothing -> \"a\" (added: the join table \
                 `main_a_bs` has a shape that Mongoose would not give it)",
                "main_a_bs, relation a_id, inverse: nothing -> \"aBses\" (added: the join table \
                 `main_a_bs` has a shape that Mongoose would not give it)",
                "main_a_bs, relation b_id, attribute: nothing -> \"b\" (added: the join table \
                 `main_a_bs` has a shape that Mongoose would not give it)",
                "main_a_bs, relation b_id, inverse: nothing -> \"aBses\" (added: the join table \
                 `main_a_bs` has a shape that Mongoose would not give it)",
                "main_a, key, columns: [\"id\"] -> [\"_id\"] (respelled: the key of a document \
                 is `_id`)",
                "main_a, column id, attribute: \"id\" -> nothing (respelled: the key of a \
                 document is `_id`)",
                "main_a, column id, type: \"integer\" -> nothing (respelled: the key of a \
                 document is `_id`)",
                "main_a, column id, nullable: \"not null\" -> nothing (respelled: the key of a \
                 document is `_id`)",
                "main_a, column id, required_on_input: \"optional\" -> nothing (respelled: the \
                 key of a document is `_id`)",
                "main_a, column id, identity: \"by-default\" -> nothing (respelled: the key of \
                 a document is `_id`)",
                "main_a, column _id, attribute: nothing -> \"_id\" (respelled: the key of a \
                 document is `_id`)",
                "main_a, column _id, type: nothing -> \"integer\" (respelled: the key of a \
                 document is `_id`)",
                "main_a, column _id, nullable: nothing -> \"not null\" (respelled: the key of a \
                 document is `_id`)",
                "main_a, column _id, required_on_input: nothing -> \"optional\" (respelled: the \
                 key of a document is `_id`)",
                "main_a_bs, key, columns: [\"id\"] -> [\"_id\"] (respelled: the key of a \
                 document is `_id`)",
                "main_a_bs, column id, type: \"integer\" -> nothing (respelled: the key of a \
                 document is `_id`)",
                "main_a_bs, column id, nullable: \"not null\" -> nothing (respelled: the key of \
                 a document is `_id`)",
                "main_a_bs, column id, required_on_input: \"optional\" -> nothing (respelled: \
                 the key of a document is `_id`)",
                "main_a_bs, column id, identity: \"by-default\" -> nothing (respelled: the key \
                 of a document is `_id`)",
                "main_a_bs, column _id, attribute: nothing -> \"_id\" (respelled: the key of a \
                 document is `_id`)",
                "main_a_bs, column _id, type: nothing -> \"integer\" (respelled: the key of a \
                 document is `_id`)",
                "main_a_bs, column _id, nullable: nothing -> \"not null\" (respelled: the key \
                 of a document is `_id`)",
                "main_a_bs, column _id, required_on_input: nothing -> \"optional\" (respelled: \
                 the key of a document is `_id`)",
                "main_b, key, columns: [\"id\"] -> [\"_id\"] (respelled: the key of a document \
                 is `_id`)",
                "main_b, column id, attribute: \"id\" -> nothing (respelled: the key of a \
                 document is `_id`)",
                "main_b, column id, type: \"integer\" -> nothing (respelled: the key of a \
                 document is `_id`)",
                "main_b, column id, nullable: \"not null\" -> nothing (respelled: the key of a \
                 document is `_id`)",
                "main_b, column id, required_on_input: \"optional\" -> nothing (respelled: the \
                 key of a document is `_id`)",
                "main_b, column id, identity: \"by-default\" -> nothing (respelled: the key of \
                 a document is `_id`)",
                "main_b, column _id, attribute: nothing -> \"_id\" (respelled: the key of a \
                 document is `_id`)",
                "main_b, column _id, type: nothing -> \"integer\" (respelled: the key of a \
                 document is `_id`)",
                "main_b, column _id, nullable: nothing -> \"not null\" (respelled: the key of a \
                 document is `_id`)",
                "main_b, column _id, required_on_input: nothing -> \"optional\" (respelled: the \
                 key of a document is `_id`)",
                "main_a, relation through main_a_bs, kind: \"many-to-many\" -> nothing \
                 (respelled: Mongoose joins two tables only by a join table of its own shape)",
                "main_a, relation through main_a_bs, attribute: \"bs\" -> nothing (respelled: \
                 Mongoose joins two tables only by a join table of its own shape)",
                "main_a, relation through main_a_bs, target: \"main_b\" -> nothing (respelled: \
                 Mongoose joins two tables only by a join table of its own shape)",
                "main_a, relation through main_a_bs, inverse: \"as\" -> nothing (respelled: \
                 Mongoose joins two tables only by a join table of its own shape)",
                "main_a, kind: \"table\" -> \"document\" (respelled: MongoDB keeps documents)",
                "main_a_bs, kind: \"table\" -> \"document\" (respelled: MongoDB keeps documents)",
                "main_b, kind: \"table\" -> \"document\" (respelled: MongoDB keeps documents)",
                "main_a_bs, unique a_id, b_id, as: \"constraint\" -> \"index\" (respelled: what \
                 is unique is kept so by an index)",
                "main_b, unique code, as: \"constraint\" -> \"index\" (respelled: what is \
                 unique is kept so by an index)",
                "main_b, column code, type: \"varchar(50)\" -> \"text\" (respelled: MongoDB has \
                 other types)",
            ],
        ),
        (
            "django@5.2 postgresql > mongoose mongodb",
            "class T(models.Model):
    a = models.DecimalField(max_digits=8, decimal_places=2)
    b = models.JSONField()
    c = models.DateTimeField(auto_now_add=True)
    d = models.DateTimeField(auto_now=True)
",
            &[
                "main_t, column a, nullable: \"not null\" -> \"null\" (weakened: MongoDB holds \
                 no NOT NULL)",
                "main_t, column b, nullable: \"not null\" -> \"null\" (weakened: MongoDB holds \
                 no NOT NULL)",
                "main_t, column c, nullable: \"not null\" -> \"null\" (weakened: MongoDB holds \
                 no NOT NULL)",
                "main_t, column d, nullable: \"not null\" -> \"null\" (weakened: MongoDB holds \
                 no NOT NULL)",
                "main_t, key, columns: [\"id\"] -> [\"_id\"] (respelled: the key of a document \
                 is `_id`)",
                "main_t, column id, attribute: \"id\" -> nothing (respelled: the key of a \
                 document is `_id`)",
                "main_t, column id, type: \"integer\" -> nothing (respelled: the key of a \
                 document is `_id`)",
                "main_t, column id, nullable: \"not null\" -> nothing (respelled: the key of a \
                 document is `_id`)",
                "main_t, column id, required_on_input: \"optional\" -> nothing (respelled: the \
                 key of a document is `_id`)",
                "main_t, column id, identity: \"by-default\" -> nothing (respelled: the key of \
                 a document is `_id`)",
                "main_t, column _id, attribute: nothing -> \"_id\" (respelled: the key of a \
                 document is `_id`)",
                "main_t, column _id, type: nothing -> \"integer\" (respelled: the key of a \
                 document is `_id`)",
                "main_t, column _id, nullable: nothing -> \"not null\" (respelled: the key of a \
                 document is `_id`)",
                "main_t, column _id, required_on_input: nothing -> \"optional\" (respelled: the \
                 key of a document is `_id`)",
                "main_t, kind: \"table\" -> \"document\" (respelled: MongoDB keeps documents)",
                "main_t, column a, type: \"numeric(8,2)\" -> \"numeric\" (respelled: MongoDB \
                 has other types)",
                "main_t, column c, type: \"timestamp with time zone\" -> \"timestamp(3) with \
                 time zone\" (respelled: MongoDB has other types)",
                "main_t, column d, type: \"timestamp with time zone\" -> \"timestamp(3) with \
                 time zone\" (respelled: MongoDB has other types)",
            ],
        ),
        (
            "sql postgresql > mongoose mongodb",
            "CREATE TABLE t (a integer, b integer, PRIMARY KEY (a, b));",
            &[
                "t, column _id, attribute: nothing -> \"_id\" (dropped: documents have no such \
                 thing)",
                "t, column a, nullable: \"not null\" -> \"null\" (weakened: MongoDB holds no \
                 NOT NULL)",
                "t, column b, nullable: \"not null\" -> \"null\" (weakened: MongoDB holds no \
                 NOT NULL)",
                "t, column _id, nullable: nothing -> \"not null\" (weakened: MongoDB holds no \
                 NOT NULL)",
                "t, column _id, required_on_input: nothing -> \"optional\" (added: the \
                 application alone says what must be given)",
                "t, column a, required_on_input: nothing -> \"required\" (added: the \
                 application alone says what must be given)",
                "t, column b, required_on_input: nothing -> \"required\" (added: the \
                 application alone says what must be given)",
                "t, kind: \"table\" -> \"document\" (respelled: MongoDB keeps documents)",
                "t, key, columns: [\"a\",\"b\"] -> [\"_id\"] (respelled: the key of a document \
                 is `_id`)",
                "t, column _id, type: nothing -> \"object id\" (respelled: MongoDB has other \
                 types)",
                "t, unique a, b, as: nothing -> \"index\" (respelled: what is unique is kept so \
                 by an index)",
            ],
        ),
    ];

    #[test]
    fn what_the_pass_makes_of_tables() {
        check_whole(CASES);
    }
}
