//! Fits a schema to what a database stores. Everything that only an application holds is left
//! behind; the causes follow from the facts that differ, by one table.

use std::collections::{HashMap, HashSet};

use serde_json::Value;

use super::causes::layers::OfLayer;
use super::causes::{Cause, Row, Rows, Speaker, find, row};
use super::report::{Causes, Crossing};
use super::servers::Carried;
use super::types::keep_fraction;
use super::{Fitted, Grade, documents, servers};
use crate::dialect::{Capabilities, Dialect, Feature, Settings};
use crate::history::stored_part;
use crate::schema::enum_name;
use crate::schema::facts::{Aspect, Difference, Element, ElementKind, FactKey, TableKeys};
use crate::schema::{
    Action, Database, Default_, Entity, EnumType, Field, Function, Identity, Schema, Type, Unique,
};
use crate::server::HeldWord;
use crate::server::{Enumerations, Unbounded, index_references, is_unbounded, mariadb, postgresql};

const CODE: &str = "a database has no attributes and classes";
const STAYS: &str = "names of tables and columns stay";

/// What becomes of what only an application holds, and of what this server cannot hold.
const REASONS: Rows = &[
    (
        ElementKind::Enumeration,
        None,
        row(
            Grade::Dropped,
            "values that only the application restricts are not in the database",
            "the column holds any value of its type",
        ),
    ),
    (
        ElementKind::Relation,
        Some(Aspect::OnDelete),
        row(
            Grade::Dropped,
            "what the application does on deletion is not in the database",
            "the database does what its foreign key says",
        ),
    ),
    (
        ElementKind::Relation,
        None,
        row(
            Grade::Dropped,
            "a relation is a foreign key, and no more",
            "the foreign key stays, where there is one",
        ),
    ),
    (
        ElementKind::ForeignKey,
        Some(Aspect::Deferrable),
        row(
            Grade::Strengthened,
            "this server checks a reference at each statement",
            "it is checked at once",
        ),
    ),
    (
        ElementKind::ForeignKey,
        Some(Aspect::OnDelete),
        row(
            Grade::Weakened,
            "this server cannot set a default on deletion",
            "it refuses the deletion",
        ),
    ),
    (
        ElementKind::ForeignKey,
        Some(Aspect::OnUpdate),
        row(Grade::Weakened, "this server cannot set a default on update", "it refuses the update"),
    ),
    (
        ElementKind::ForeignKey,
        None,
        row(
            Grade::Dropped,
            "a reference that only the application checks makes no foreign key",
            "the column stays",
        ),
    ),
    (
        ElementKind::Column,
        Some(Aspect::Type),
        row(
            Grade::Respelled,
            "this server has no such type, or keeps no more than its word",
            "the word that it has",
        ),
    ),
    (
        ElementKind::Column,
        Some(Aspect::HeldAs),
        row(
            Grade::Respelled,
            "this server has no such type, or keeps no more than its word",
            "the word that it has",
        ),
    ),
    (
        ElementKind::Column,
        Some(Aspect::Identity),
        row(Grade::Respelled, "this server numbers keys in its own way", "the server numbers them"),
    ),
    (
        ElementKind::Column,
        Some(Aspect::Nullable),
        row(
            Grade::Weakened,
            "this server computes no column that must have a value",
            "the computed column may be null",
        ),
    ),
    (ElementKind::Column, Some(Aspect::Attribute), row(Grade::Dropped, CODE, STAYS)),
    (
        ElementKind::Column,
        Some(Aspect::ApplicationDefault),
        row(
            Grade::Dropped,
            "a default that the application fills in is not in the database",
            "left out",
        )
        .then_do("give the value with each insert"),
    ),
    (
        ElementKind::Column,
        Some(Aspect::ApplicationUpdate),
        row(
            Grade::Dropped,
            "what the application fills in on update is not in the database",
            "left out",
        )
        .then_do("give the value with each update"),
    ),
    (
        ElementKind::Column,
        Some(Aspect::Choices),
        row(
            Grade::Dropped,
            "values that only the application restricts are not in the database",
            "the column holds any value of its type",
        ),
    ),
    (
        ElementKind::Column,
        Some(Aspect::Format),
        row(Grade::Dropped, "input is not validated by a database", "left out")
            .then_do("check it where input is taken"),
    ),
    (
        ElementKind::Column,
        Some(Aspect::Rules),
        row(Grade::Dropped, "input is not validated by a database", "left out")
            .then_do("check it where input is taken"),
    ),
    (
        ElementKind::Column,
        Some(Aspect::RequiredOnInput),
        row(Grade::Dropped, "input is not validated by a database", "left out")
            .then_do("check it where input is taken"),
    ),
    (
        ElementKind::Column,
        Some(Aspect::Collation),
        row(
            Grade::Weakened,
            "this server does not know the collation",
            "the database's own is used",
        )
        .then_do("give the column a collation of this server where order or case counts"),
    ),
    (ElementKind::Column, Some(Aspect::OptionalInCode), row(Grade::Dropped, CODE, STAYS)),
    (
        ElementKind::Column,
        Some(Aspect::Purpose),
        row(
            Grade::Dropped,
            "the framework no longer keeps such a column by itself",
            "the column stays",
        ),
    ),
    (
        ElementKind::Column,
        Some(Aspect::DatabaseDefault),
        row(Grade::Dropped, "this default is code of the source's language", "left out")
            .then_do("write it anew"),
    ),
    (
        ElementKind::Check,
        None,
        row(Grade::Dropped, "this check is code that could not be read as SQL", "left out")
            .then_do("write it anew"),
    ),
    (
        ElementKind::Exclusion,
        None,
        row(
            Grade::Dropped,
            "this server has no exclusion constraints, or this one is code",
            "left out",
        )
        .then_do("write it anew"),
    ),
    (
        ElementKind::Index,
        None,
        row(Grade::Dropped, "this server cannot hold such an index", "left out")
            .then_do("write one that it can hold"),
    ),
    (
        ElementKind::UniqueIndex,
        None,
        row(Grade::Dropped, "this server cannot hold such an index", "left out; values may repeat")
            .then_do("write one that it can hold"),
    ),
    (
        ElementKind::Unique,
        None,
        row(
            Grade::Weakened,
            "this server cannot hold all of this constraint",
            "what it can hold stays",
        ),
    ),
    (
        ElementKind::Table,
        Some(Aspect::Order),
        row(Grade::Dropped, "tables have no natural order", "left out").then_do("order each query"),
    ),
    (ElementKind::Table, Some(Aspect::Label), row(Grade::Dropped, CODE, STAYS)),
    (ElementKind::Table, Some(Aspect::Class), row(Grade::Dropped, CODE, STAYS)),
    (ElementKind::Table, Some(Aspect::Module), row(Grade::Dropped, CODE, STAYS)),
    (ElementKind::Table, Some(Aspect::HasClass), row(Grade::Dropped, CODE, STAYS)),
    (ElementKind::Table, Some(Aspect::Inherits), row(Grade::Dropped, CODE, STAYS)),
    (
        ElementKind::Table,
        Some(Aspect::SoftDelete),
        row(
            Grade::Weakened,
            "records that are marked as deleted are not left out by a database",
            "the column stays",
        )
        .then_do("filter by the column in each query"),
    ),
    (
        ElementKind::Table,
        Some(Aspect::Comment),
        row(Grade::Dropped, "this server keeps no comments", "left out"),
    ),
    (
        ElementKind::Table,
        Some(Aspect::Namespace),
        row(Grade::Dropped, "this server has no named schemas", "the table has no schema"),
    ),
];

/// Words of types that say more of their values than the types of a simpler server.
const RICHER: &[&str] =
    &["native(", "array", "range", "interval", "network address", "search vector", "case-folded"];

/// Elements whose entity has no table of its own here.
const NO_TABLE: Row = row(
    Grade::Dropped,
    "no table is created for it: it belongs to another package, is managed elsewhere, or shares \
     a table",
    "left out",
);

const IN_PLACE: Row = row(
    Grade::Respelled,
    "this server has no named enumerations",
    "the values stand in the column's type",
);
const INDEXED: Row =
    row(Grade::Added, "this server indexes the columns of a reference", "the index");
const KEPT_BY_CHECK: Row = row(
    Grade::Respelled,
    "this server has no unsigned numbers",
    "a check keeps the column at zero or above",
);
const OTHER_NUMBER: Row = row(
    Grade::Respelled,
    "this server has fewer kinds of whole numbers",
    "the next one that holds all of them",
);
const HALF_OF_NUMBERS: Row = row(
    Grade::Weakened,
    "this server has no unsigned numbers of 64 bits",
    "a signed one, which holds half of them",
)
.then_do("see to it that no number is over 9223372036854775807");
const OTHER_DEFAULT: Row = row(
    Grade::Respelled,
    "this server says such a default in another way",
    "the same value in its words",
);
const POORER: Row = row(
    Grade::Weakened,
    "this server has no type that keeps such values in order",
    "a type that holds their text or number",
);
const NO_UNIQUE: Row =
    row(Grade::Dropped, "this server cannot hold this constraint", "left out; values may repeat")
        .then_do("let the application see to it that values are unique");

/// Fits `schema` to a server.
pub(super) fn fit(original: &Schema, dialect: &Dialect, settings: &Settings) -> Fitted {
    let database = settings.database();
    let crossed = documents::cross(original, dialect, database);
    let schema = crossed.as_ref().map_or(original, |crossed| &crossed.schema);
    let capabilities = (dialect.capabilities)(settings);
    let home = schema.source.dialect == dialect.id && schema.source.database == database;
    let mut fitted = if home { schema.clone() } else { stored_part(schema) };
    // What only this server says is not written into a script.
    for entity in &mut fitted.entities {
        entity.extras.clear();
        entity.fields.iter_mut().for_each(|field| field.extras.clear());
    }
    // Columns with another kind of whole number, and whether it holds all of them.
    let mut numbers: HashMap<FactKey, &'static Row> = HashMap::new();
    if !home {
        let enums = fitted.enums.clone();
        let keys = TableKeys::of(&fitted);
        fitted.entities.iter_mut().for_each(|entity| {
            let carried = servers::carry(entity, schema.source.database, database);
            numbers.extend(carried.into_iter().filter_map(|carried| match carried {
                Carried::Number { at, narrower } => {
                    let key = FactKey::new(
                        &keys.key(entity),
                        Element::of_field(&entity.fields[at]),
                        Aspect::Type,
                    );
                    Some((key, if narrower { &HALF_OF_NUMBERS } else { &OTHER_NUMBER }))
                }
                Carried::Check(_) | Carried::Collation(_) => None,
            }));
            entity
                .fields
                .iter_mut()
                .for_each(|field| typed(field, &enums, schema.source.database, database));
            bare(entity, database, &capabilities);
        });
        if database.server().enumerations == Enumerations::Types {
            enums_as_stored(schema, &mut fitted);
        }
        fitted.enums.iter_mut().for_each(without_labels);
        if database.server().enumerations == Enumerations::InColumns {
            enums_in_place(&mut fitted, database);
        }
    }
    fitted.source.dialect = dialect.id.to_owned();
    fitted.source.version = String::new();
    fitted.source.database = database;
    let speaker = Speaker { framework: dialect.framework, server: database.title() };
    let crossing = crossed.as_ref().map(|crossed| Crossing::of(crossed, original, &fitted));
    let keys = TableKeys::of(&fitted);
    let kept: HashSet<String> = fitted.entities.iter().map(|entity| keys.key(entity)).collect();
    let changes =
        Causes::default().report((original, &fitted), &speaker, crossing.as_ref(), |difference| {
            let table = &difference.key.table;
            match numbers.get(&difference.key) {
                Some(row) => Cause::from(*row),
                None if table.is_empty() || kept.contains(table) => cause(difference, database),
                None => Cause::Crossed(&NO_TABLE),
            }
        });
    Fitted {
        schema: fitted,
        named: original.clone(),
        changes,
        refused: Vec::new(),
        renames: Vec::new(),
        script: Vec::new(),
    }
}

/// Gives a column the type that the server's word for it means, and the numbering that it has.
fn typed(field: &mut Field, enums: &[EnumType], from: Database, database: Database) {
    let server = database.server();
    field.identity = field.identity.map(|identity| {
        if server.identities.contains(&identity) { identity } else { server.identities[0] }
    });
    if from.server().keeps_fractions && !database.server().keeps_fractions {
        keep_fraction(&mut field.r#type);
    }
    let keeps_word = from == database && !field.stored.is_empty();
    if from != database && matches!(field.r#type, Type::Native(_)) {
        field.r#type = Type::Text;
    }
    let name = |ty: &Type, enumeration: &str| (database.server().type_name)(ty, enumeration);
    match server.held_word {
        HeldWord::OfType => {
            field.stored = name(&field.r#type, enum_name(&field.r#type).unwrap_or_default())
        }
        // Only what is called an integer is the number of its row.
        _ if server.numbers_rows && field.identity.is_some() => field.stored = "integer".into(),
        HeldWord::SqliteOfRow | HeldWord::MysqlOfRow if keeps_word => {}
        HeldWord::SqliteOfRow | HeldWord::MysqlOfRow => field.stored = name(&field.r#type, ""),
    }
    if let Some(default) = field.defaults.database.as_deref_mut() {
        adapt(default, &field.r#type, database);
    }
    if enum_name(&field.r#type).is_none() || server.enumerations == Enumerations::Nowhere {
        let known = |name: &str| {
            server.enumerations == Enumerations::Types
                && enums.iter().any(|known| known.name == name)
        };
        field.r#type = database.server().read_type(&field.stored, &known);
    }
}

/// Each type that the source's framework makes of an enumeration, under the name that it gives it.
fn enums_as_stored(schema: &Schema, fitted: &mut Schema) {
    let stored = |table: &str, column: &str| {
        let entity = schema.entities.iter().find(|entity| entity.table == table)?;
        let name = entity.field(column)?.stored.trim_end_matches("[]").to_owned();
        (schema.source.database.server().enumerations == Enumerations::Types && !name.is_empty())
            .then_some(name)
    };
    let mut made: Vec<EnumType> = Vec::new();
    for entity in &mut fitted.entities {
        for field in &mut entity.fields {
            let Some(known) = enum_name(&field.r#type).and_then(|name| schema.enumeration(name))
            else {
                continue;
            };
            let Some(name) =
                stored(&entity.table, &field.column).filter(|name| *name != known.name)
            else {
                continue;
            };
            if !made.iter().any(|made| made.name == name) {
                made.push(EnumType { name: name.clone(), stored_name: None, ..known.clone() });
            }
            field.r#type = match &field.r#type {
                Type::Array(_) => Type::Array(Box::new(Type::Enum(name))),
                _ => Type::Enum(name),
            };
            field.stored =
                postgresql::type_name(&field.r#type, enum_name(&field.r#type).unwrap_or_default())
                    .into_owned()
                    .into();
        }
    }
    fitted.enums.retain(|known| made.iter().all(|made| made.name != known.name));
    fitted.enums.extend(made);
    let used: HashSet<String> = fitted
        .entities
        .iter()
        .flat_map(|entity| &entity.fields)
        .filter_map(|field| enum_name(&field.r#type))
        .map(str::to_owned)
        .collect();
    fitted.enums.retain(|known| used.contains(&known.name));
}

/// An enumeration of MySQL belongs to its one column.
fn enums_in_place(schema: &mut Schema, database: Database) {
    let named = std::mem::take(&mut schema.enums);
    for entity in &mut schema.entities {
        for field in &mut entity.fields {
            let Type::Enum(name) = &field.r#type else { continue };
            let Some(known) = named.iter().find(|known| known.name == *name) else { continue };
            let name = format!("{}_{}", entity.table, field.column);
            schema.enums.push(EnumType {
                name: name.clone(),
                stored_name: None,
                inline: true,
                module: String::new(),
                ..known.clone()
            });
            field.r#type = Type::Enum(name);
            field.stored =
                format!("enum({})", crate::history::sql::members(known, database).join(",")).into();
        }
    }
}

/// What this server says for a default: it has no lists, and one moment only.
fn adapt(default: &mut Default_, ty: &Type, database: Database) {
    match default {
        Default_::Function(function @ Function::StatementNow) if !database.server().two_moments => {
            *function = Function::Now
        }
        Default_::Literal(value @ Value::Array(_))
            if matches!(ty, Type::Array(_)) && !database.server().arrays =>
        {
            *value = Value::String(value.to_string());
        }
        _ => {}
    }
}

/// Takes away what this server cannot hold.
fn bare(entity: &mut Entity, database: Database, capabilities: &Capabilities) {
    let has = |feature| capabilities.has(feature);
    (entity.order, entity.label, entity.soft_delete, entity.inherits) =
        (Vec::new(), None, None, None);
    for field in &mut entity.fields {
        field.defaults.database =
            field.defaults.database.take().filter(|default| match &**default {
                crate::schema::Default_::Expression(expression) => expression.is_sql(),
                _ => true,
            });
        field.on_update.database =
            field.on_update.database.take().filter(|_| database.server().updates_columns);
        field.nullable |= !database.server().generated_not_null && field.generated.is_some();
        if !has(Feature::ColumnComment) {
            field.comment = None;
        }
    }
    let key = entity.key_columns().to_vec();
    for field in entity
        .fields
        .iter_mut()
        .filter(|field| database.server().numbers_rows && key == [field.column.clone()])
    {
        // A whole key that is an integer is the number of its row, whatever else was meant.
        if field.stored == "integer" {
            field.identity = field.identity.or(Some(Identity::ByDefault));
        }
    }
    if !has(Feature::TableComment) {
        entity.comment = None;
    }
    if !has(Feature::Namespace) {
        entity.namespace = None;
        entity.foreign_keys.iter_mut().for_each(|key| key.references.namespace = None);
    }
    for key in &mut entity.foreign_keys {
        key.deferrable = key.deferrable.filter(|_| has(Feature::Deferrable));
        for action in [&mut key.on_delete, &mut key.on_update] {
            if *action == Action::SetDefault && !has(Feature::SetDefault) {
                *action = Action::NoAction;
            }
        }
    }
    if database.server().unbounded != Unbounded::Whole {
        let keyable = |entity: &Entity, column: &String| {
            entity.field(column).is_none_or(|field| !is_unbounded(&field.r#type))
        };
        let mut whole = std::mem::take(&mut entity.indexes);
        whole.retain(|index| index.columns.iter().all(|column| keyable(entity, column)));
        entity.indexes = whole;
        let mut uniques = std::mem::take(&mut entity.uniques);
        let digested = |entity: &Entity, unique: &Unique| {
            database.server().unbounded == Unbounded::Digest && mariadb::is_digested(entity, unique)
        };
        uniques.retain(|unique| {
            unique.columns.iter().all(|column| keyable(entity, column)) || digested(entity, unique)
        });
        entity.uniques = uniques;
    }
    if database.server().indexes_references {
        index_references(entity);
    }
    bare_constraints(entity, capabilities);
}

/// Constraints and indexes as far as the server holds them.
fn bare_constraints(entity: &mut Entity, capabilities: &Capabilities) {
    let has = |feature| capabilities.has(feature);
    for unique in &mut entity.uniques {
        unique.extras.clear();
        unique.deferrable = unique.deferrable.filter(|_| has(Feature::DeferrableUnique));
        unique.nulls_not_distinct &= has(Feature::NullsNotDistinct);
    }
    entity.indexes.retain_mut(|index| {
        index.extras.clear();
        let expressions: Vec<_> = index
            .condition
            .iter()
            .chain(index.parts.iter().filter_map(|part| part.expression.as_ref()))
            .collect();
        expressions.iter().all(|expression| expression.is_sql())
            && (index.condition.is_none() || has(Feature::PartialIndex))
            && (index.method.is_none() || has(Feature::IndexMethod))
            && (index.include.is_empty() || has(Feature::CoveringIndex))
            && (!index.nulls_not_distinct || has(Feature::NullsNotDistinct))
            && (index.parts.iter().all(|part| part.expression.is_none())
                || has(Feature::ExpressionIndex))
            && (index.parts.iter().all(|part| part.operator_class.is_none())
                || has(Feature::OperatorClass))
    });
    entity.checks.retain_mut(|check| {
        check.extras.clear();
        check.expression.is_sql()
    });
    entity.exclusions.retain(|check| check.expression.is_sql() && has(Feature::Exclusion));
}

fn without_labels(enumeration: &mut EnumType) {
    enumeration.members.iter_mut().for_each(|member| member.label = None);
}

/// Why a fact of the schema is not one of the server.
fn cause(difference: &Difference, database: Database) -> Cause {
    let Difference { key, left, right } = difference;
    let kind = key.element.kind();
    let richer = || {
        left.as_ref()
            .and_then(Value::as_str)
            .is_some_and(|ty| RICHER.iter().any(|word| ty.contains(word)))
    };
    let row = match (kind, &key.aspect) {
        (ElementKind::Enumeration, _)
            if database.server().enumerations == Enumerations::InColumns =>
        {
            Some(&IN_PLACE)
        }
        (ElementKind::Index, _) if left.is_none() => Some(&INDEXED),
        (ElementKind::Check, _) if left.is_none() => Some(&KEPT_BY_CHECK),
        (_, Aspect::DatabaseDefault) if right.is_some() => Some(&OTHER_DEFAULT),
        (ElementKind::Column, Aspect::Type) if richer() => Some(&POORER),
        (ElementKind::Unique, Aspect::As | Aspect::Name) if right.is_none() => Some(&NO_UNIQUE),
        _ => find(REASONS, key),
    };
    let word = match &key.aspect {
        Aspect::Extra(word) | Aspect::InverseExtra(word) => word.clone(),
        aspect => aspect.to_string(),
    };
    row.map_or_else(|| OfLayer::NotOfScripts(word).into(), Cause::from)
}

#[cfg(test)]
mod tests {
    use crate::fit::tests::{Case, check_whole};

    const CASES: &[Case] = &[
        (
            "django postgresql > sql postgresql",
            "class T(models.Model):
    a = models.CharField(max_length=9, default='x', null=True)
    b = models.DateTimeField(auto_now=True)
    c = models.FileField()
",
            &[
                "main_t, column a, attribute: \"a\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "main_t, column b, attribute: \"b\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "main_t, column c, attribute: \"c\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "main_t, column id, attribute: \"id\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "main_t, column a, required_on_input: \"required\" -> nothing (dropped: input \
                 is not validated by a database)",
                "main_t, column b, required_on_input: \"optional\" -> nothing (dropped: input \
                 is not validated by a database)",
                "main_t, column c, required_on_input: \"required\" -> nothing (dropped: input \
                 is not validated by a database)",
                "main_t, column c, format: \"file\" -> nothing (dropped: input is not validated \
                 by a database)",
                "main_t, column id, required_on_input: \"optional\" -> nothing (dropped: input \
                 is not validated by a database)",
                "main_t, column a, default in the application: {\"literal\":\"x\"} -> nothing \
                 (dropped: a default that the application fills in is not in the database)",
                "main_t, column b, default in the application: {\"function\":\"now\"} -> \
                 nothing (dropped: a default that the application fills in is not in the \
                 database)",
                "main_t, column b, update in the application: {\"function\":\"now\"} -> nothing \
                 (dropped: what the application fills in on update is not in the database)",
                "main_t, column b, purpose: \"update-time\" -> nothing (dropped: the framework \
                 no longer keeps such a column by itself)",
            ],
        ),
        (
            "django@5.2 postgresql > sql sqlite",
            "class T(models.Model):
    a = models.DecimalField(max_digits=8, decimal_places=2, db_default=1)
    b = models.JSONField(default=dict)
    c = models.PositiveIntegerField()
",
            &[
                "main_t, column a, attribute: \"a\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "main_t, column b, attribute: \"b\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "main_t, column c, attribute: \"c\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "main_t, column id, attribute: \"id\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "main_t, column a, required_on_input: \"required\" -> nothing (dropped: input \
                 is not validated by a database)",
                "main_t, column b, required_on_input: \"required\" -> nothing (dropped: input \
                 is not validated by a database)",
                "main_t, column c, required_on_input: \"required\" -> nothing (dropped: input \
                 is not validated by a database)",
                "main_t, column c, rules: \
                 [{\"rule\":\"min_value\",\"value\":0,\"message\":null}] -> nothing (dropped: \
                 input is not validated by a database)",
                "main_t, column id, required_on_input: \"optional\" -> nothing (dropped: input \
                 is not validated by a database)",
                "main_t, column b, default in the application: {\"literal\":{}} -> nothing \
                 (dropped: a default that the application fills in is not in the database)",
                "main_t, column b, type: \"binary json\" -> \"json\" (respelled: this server \
                 has no such type, or keeps no more than its word)",
            ],
        ),
        (
            "sql postgresql > sql sqlite",
            "CREATE TABLE t (id integer PRIMARY KEY, a integer[] DEFAULT '{1}', b timestamptz \
             DEFAULT now(), c uuid DEFAULT gen_random_uuid()); CREATE INDEX i ON t USING gin \
             (a);",
            &[
                "t, column a, attribute: \"a\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "t, column b, attribute: \"b\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "t, column c, attribute: \"c\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "t, column id, attribute: \"id\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "t, index a, exists: true -> nothing (dropped: this server cannot hold such an \
                 index)",
                "t, index a, name: \"i\" -> nothing (dropped: this server cannot hold such an \
                 index)",
                "t, index a, method: \"gin\" -> nothing (dropped: this server cannot hold such \
                 an index)",
                "t, column a, type: \"integer array\" -> \"text\" (weakened: this server has no \
                 type that keeps such values in order)",
                "t, column a, default in the database: {\"literal\":[1]} -> \
                 {\"literal\":\"[1]\"} (respelled: this server says such a default in another \
                 way)",
                "t, column b, type: \"timestamp with time zone\" -> \"timestamp\" (respelled: \
                 this server has no such type, or keeps no more than its word)",
                "t, column id, identity: nothing -> \"by-default\" (respelled: this server \
                 numbers keys in its own way)",
            ],
        ),
        (
            "sql postgresql > sql mariadb",
            "CREATE TABLE t (id integer PRIMARY KEY, a text UNIQUE, b jsonb DEFAULT '{}', c \
             varchar DEFAULT 'x'); COMMENT ON COLUMN t.a IS 'what it is'; CREATE INDEX i ON t \
             (a) WHERE c = 'x';",
            &[
                "t, column a, attribute: \"a\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "t, column b, attribute: \"b\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "t, column c, attribute: \"c\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "t, column id, attribute: \"id\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "t, index a where \"c\" = 'x', exists: true -> nothing (dropped: this server \
                 cannot hold such an index)",
                "t, index a where \"c\" = 'x', name: \"i\" -> nothing (dropped: this server \
                 cannot hold such an index)",
                "t, column b, type: \"binary json\" -> \"json\" (respelled: this server has no \
                 such type, or keeps no more than its word)",
                "t, column c, type: \"varchar\" -> \"text\" (respelled: this server has no such \
                 type, or keeps no more than its word)",
            ],
        ),
        (
            "sql postgresql > sql mariadb",
            "CREATE SCHEMA port; CREATE TABLE port.t (id integer PRIMARY KEY, during tsrange, \
             EXCLUDE USING gist (during WITH &&)); ",
            &[
                "t, namespace: \"port\" -> nothing (dropped: this server has no named schemas)",
                "t, column during, attribute: \"during\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "t, column id, attribute: \"id\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "t, exclusion USING gist (during WITH &&), exists: true -> nothing (dropped: \
                 this server has no exclusion constraints, or this one is code)",
                "t, column during, type: \"native(tsrange)\" -> \"text\" (weakened: this server \
                 has no type that keeps such values in order)",
            ],
        ),
        (
            "sql mariadb > sql postgresql",
            "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a enum('port','starboard'), b \
             tinyint(1) DEFAULT 1, c datetime ON UPDATE CURRENT_TIMESTAMP);",
            &[
                "t, column a, attribute: \"a\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "t, column b, attribute: \"b\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "t, column c, attribute: \"c\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "t, column id, attribute: \"id\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "t, column c, update in the database: {\"function\":\"now\"} -> nothing \
                 (dropped: `update in the database` is not written into a script)",
            ],
        ),
        (
            "sql mariadb > sql sqlite",
            "CREATE TABLE t (id int AUTO_INCREMENT PRIMARY KEY, a int unsigned COMMENT 'what it \
             is', b longtext);",
            &[
                "t, column a, comment: \"what it is\" -> nothing (dropped: `comment` is not \
                 written into a script)",
                "t, column a, attribute: \"a\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "t, column b, attribute: \"b\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "t, column id, attribute: \"id\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "t, column a, type: \"unsigned integer\" -> \"bigint\" (respelled: this server \
                 has fewer kinds of whole numbers)",
                "t, check \"a\" >= 0, exists: nothing -> true (respelled: this server has no \
                 unsigned numbers)",
            ],
        ),
        (
            "sql sqlite > sql postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, a real, b blob, c text COLLATE NOCASE);",
            &[
                "t, column a, attribute: \"a\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "t, column b, attribute: \"b\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "t, column c, attribute: \"c\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "t, column id, attribute: \"id\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "t, column c, collation: \"NOCASE\" -> nothing (weakened: this server does not \
                 know the collation)",
            ],
        ),
        (
            "mongoose mongodb > sql postgresql",
            "const T = mongoose.model('T', new Schema({ a: \
             { type: String, required: true, maxlength: 9 }, b: [Number], c: \
             { type: Schema.Types.ObjectId, ref: 'T' } }, { versionKey: false }), 't');\n",
            &[
                "t, column _id, attribute: \"_id\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "t, column a, attribute: \"a\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "t, column b, attribute: \"b\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "t, column _id, required_on_input: \"optional\" -> nothing (dropped: input is \
                 not validated by a database)",
                "t, column a, required_on_input: \"required\" -> nothing (dropped: input is not \
                 validated by a database)",
                "t, column b, required_on_input: \"optional\" -> nothing (dropped: input is not \
                 validated by a database)",
                "t, column c, required_on_input: \"optional\" -> nothing (dropped: input is not \
                 validated by a database)",
                "t, column _id, default in the application: \
                 {\"expression\":{\"language\":\"typescript\",\"database\":null,\"text\":\"() \
                 => new Types.ObjectId()\",\"tree\":null}} -> nothing (dropped: a default that \
                 the application fills in is not in the database)",
                "t, column b, default in the application: {\"literal\":[]} -> nothing (dropped: \
                 a default that the application fills in is not in the database)",
                "t, relation c, kind: \"many-to-one\" -> nothing (dropped: a relation is a \
                 foreign key, and no more)",
                "t, relation c, attribute: \"c\" -> nothing (dropped: a relation is a foreign \
                 key, and no more)",
                "t, relation c, target: \"t\" -> nothing (dropped: a relation is a foreign key, \
                 and no more)",
                "t, column a, nullable: \"null\" -> \"not null\" (strengthened: what the \
                 application requires, the column holds)",
                "t, column a, rules: [{\"rule\":\"max_length\",\"value\":9,\"message\":null}] \
                 -> nothing (strengthened: a length is a part of the column's type)",
                "t, foreign key c, enforced: \"application\" -> \"database\" (strengthened: the \
                 database holds references)",
                "t, kind: \"document\" -> \"table\" (respelled: documents become rows)",
                "t, column _id, type: \"object id\" -> \"char(24)\" (respelled: a database of \
                 tables has other types)",
                "t, column a, type: \"text\" -> \"varchar(9)\" (respelled: a database of tables \
                 has other types)",
                "t, column c, type: \"object id\" -> \"char(24)\" (respelled: a database of \
                 tables has other types)",
            ],
        ),
        (
            "typeorm postgresql > sql mariadb",
            "@Entity()
export class T {
  @PrimaryGeneratedColumn('uuid')
  id!: string;
  @CreateDateColumn()
  a!: Date;
  @UpdateDateColumn()
  b!: Date;
}
",
            &[
                "t, column a, attribute: \"a\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "t, column a, optional_in_code: \"required\" -> nothing (dropped: a database \
                 has no attributes and classes)",
                "t, column b, attribute: \"b\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "t, column b, optional_in_code: \"required\" -> nothing (dropped: a database \
                 has no attributes and classes)",
                "t, column id, attribute: \"id\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "t, column id, optional_in_code: \"required\" -> nothing (dropped: a database \
                 has no attributes and classes)",
                "t, column a, purpose: \"creation-time\" -> nothing (dropped: the framework no \
                 longer keeps such a column by itself)",
                "t, column b, purpose: \"update-time\" -> nothing (dropped: the framework no \
                 longer keeps such a column by itself)",
                "t, column b, update in the application: {\"function\":\"now\"} -> nothing \
                 (dropped: what the application fills in on update is not in the database)",
                "t, column a, type: \"timestamp\" -> \"timestamp(6)\" (respelled: this server \
                 has no such type, or keeps no more than its word)",
                "t, column b, type: \"timestamp\" -> \"timestamp(6)\" (respelled: this server \
                 has no such type, or keeps no more than its word)",
                "t, column id, type: \"uuid\" -> \"char(36)\" (respelled: this server has no \
                 such type, or keeps no more than its word)",
            ],
        ),
        (
            "sql mariadb > sql postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, a int unsigned, b bigint unsigned, c \
             mediumint, d tinyint unsigned);",
            &[
                "t, column a, attribute: \"a\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "t, column b, attribute: \"b\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "t, column c, attribute: \"c\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "t, column d, attribute: \"d\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "t, column id, attribute: \"id\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "t, column b, type: \"unsigned bigint\" -> \"bigint\" (weakened: this server \
                 has no unsigned numbers of 64 bits)",
                "t, column a, type: \"unsigned integer\" -> \"bigint\" (respelled: this server \
                 has fewer kinds of whole numbers)",
                "t, column c, type: \"native(mediumint)\" -> \"integer\" (respelled: this \
                 server has fewer kinds of whole numbers)",
                "t, column d, type: \"native(tinyint unsigned)\" -> \"smallint\" (respelled: \
                 this server has fewer kinds of whole numbers)",
                "t, check \"a\" >= 0, exists: nothing -> true (respelled: this server has no \
                 unsigned numbers)",
                "t, check \"b\" >= 0, exists: nothing -> true (respelled: this server has no \
                 unsigned numbers)",
                "t, check \"d\" >= 0, exists: nothing -> true (respelled: this server has no \
                 unsigned numbers)",
            ],
        ),
        (
            "sql mysql > sql postgresql",
            "CREATE TABLE q (id bigint unsigned AUTO_INCREMENT PRIMARY KEY); CREATE TABLE t (id \
             int unsigned AUTO_INCREMENT PRIMARY KEY, q_id bigint unsigned, FOREIGN KEY (q_id) \
             REFERENCES q (id));",
            &[
                "q, column id, attribute: \"id\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "t, column id, attribute: \"id\" -> nothing (dropped: a database has no \
                 attributes and classes)",
                "t, relation q_id, kind: \"many-to-one\" -> nothing (dropped: a relation is a \
                 foreign key, and no more)",
                "t, relation q_id, attribute: \"q\" -> nothing (dropped: a relation is a \
                 foreign key, and no more)",
                "t, relation q_id, target: \"q\" -> nothing (dropped: a relation is a foreign \
                 key, and no more)",
                "t, relation q_id, inverse: \"ts\" -> nothing (dropped: a relation is a foreign \
                 key, and no more)",
                "q, column id, type: \"unsigned bigint\" -> \"bigint\" (respelled: this server \
                 has fewer kinds of whole numbers)",
                "t, column id, type: \"unsigned integer\" -> \"bigint\" (respelled: this server \
                 has fewer kinds of whole numbers)",
                "t, column q_id, type: \"unsigned bigint\" -> \"bigint\" (respelled: this \
                 server has fewer kinds of whole numbers)",
            ],
        ),
    ];

    #[test]
    fn what_the_pass_makes_of_tables() {
        check_whole(CASES);
    }
}
