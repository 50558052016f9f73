//! Fits a schema to what a database stores. Everything that only an application holds is left behind; the account of it
//! is made from the facts that differ, by one table of reasons.

use std::collections::{HashMap, HashSet};

use serde_json::Value;

use super::types::keep_fraction;
use super::{Fitted, Grade, Loss};
use crate::dialect::sql::{index_references, is_unbounded, mysql_name, read_type, sqlite_name};
use crate::dialect::type_table::postgresql_name;
use crate::dialect::{Capabilities, Dialect, Feature, Settings};
use crate::history::stored_part;
use crate::resolve::enum_name;
use crate::schema::facts::{Difference, FactKey, differences};
use crate::schema::{Action, Database, Default_, Entity, EnumType, Field, Function, Identity, Schema, Type, Unique};

/// What a loss is about: how the element of the fact begins, its aspect (empty for any), and what is said.
type Reason = (&'static str, &'static str, Grade, &'static str, &'static str);

const CODE: &str = "a database has no attributes and classes";
const STAYS: &str = "names of tables and columns stay";

/// The first row that fits counts.
const REASONS: &[Reason] = &[
    (
        "enum ",
        "",
        Grade::Dropped,
        "values that only the application restricts are not in the database",
        "the column holds any value of its type",
    ),
    (
        "relation ",
        "on_delete",
        Grade::Dropped,
        "what the application does on deletion is not in the database",
        "the database does what its foreign key says",
    ),
    ("relation ", "", Grade::Dropped, "a relation is a foreign key, and no more", "the foreign key stays, where there is one"),
    ("foreign key ", "deferrable", Grade::Strengthened, "this server checks a reference at each statement", "it is checked at once"),
    ("foreign key ", "on_delete", Grade::Weakened, "this server cannot set a default on deletion", "it refuses the deletion"),
    ("foreign key ", "on_update", Grade::Weakened, "this server cannot set a default on update", "it refuses the update"),
    ("foreign key ", "", Grade::Dropped, "a reference that only the application checks makes no foreign key", "the column stays"),
    ("column ", "type", Grade::Respelled, "this server has no such type, or keeps no more than its word", "the word that it has"),
    ("column ", "held as", Grade::Respelled, "this server has no such type, or keeps no more than its word", "the word that it has"),
    ("column ", "identity", Grade::Respelled, "this server numbers keys in its own way", "the server numbers them"),
    ("column ", "nullable", Grade::Weakened, "this server computes no column that must have a value", "the computed column may be null"),
    ("column ", "attribute", Grade::Dropped, CODE, STAYS),
    (
        "column ",
        "default in the application",
        Grade::Dropped,
        "a default that the application fills in is not in the database",
        "inserts must give the value",
    ),
    (
        "column ",
        "update in the application",
        Grade::Dropped,
        "what the application fills in on update is not in the database",
        "updates must give the value",
    ),
    (
        "column ",
        "choices",
        Grade::Dropped,
        "values that only the application restricts are not in the database",
        "the column holds any value of its type",
    ),
    ("column ", "format", Grade::Dropped, "input is not validated by a database", "check it where input is taken"),
    ("column ", "rules", Grade::Dropped, "input is not validated by a database", "check it where input is taken"),
    ("column ", "required_on_input", Grade::Dropped, "input is not validated by a database", "check it where input is taken"),
    ("column ", "optional_in_code", Grade::Dropped, CODE, STAYS),
    ("column ", "purpose", Grade::Dropped, "the framework no longer keeps such a column by itself", "the column stays"),
    ("column ", "default in the database", Grade::Dropped, "this default is code of the source's language", "write it anew"),
    ("check ", "", Grade::Dropped, "this check is code that could not be read as SQL", "write it anew"),
    ("exclusion ", "", Grade::Dropped, "this server has no exclusion constraints, or this one is code", "write it anew"),
    ("index ", "", Grade::Dropped, "this server cannot hold such an index", "write one that it can hold"),
    ("unique ", "", Grade::Weakened, "this server cannot hold all of this constraint", "what it can hold stays"),
    ("", "order", Grade::Dropped, "tables have no natural order", "order each query"),
    ("", "label", Grade::Dropped, CODE, STAYS),
    ("", "class", Grade::Dropped, CODE, STAYS),
    ("", "module", Grade::Dropped, CODE, STAYS),
    ("", "has a class", Grade::Dropped, CODE, STAYS),
    ("", "inherits", Grade::Dropped, CODE, STAYS),
    (
        "",
        "soft_delete",
        Grade::Weakened,
        "records that are marked as deleted are not left out by a database",
        "filter by the column in each query",
    ),
    ("", "comment", Grade::Dropped, "this server keeps no comments", "left out"),
    ("", "namespace", Grade::Dropped, "this server has no named schemas", "the table has no schema"),
];

/// Words of types that say more of their values than the types of a simpler server.
const RICHER: &[&str] = &["native(", "array", "range", "interval", "network address", "search vector", "case-folded"];

/// Elements whose entity has no table of its own here.
const NO_TABLE: (&str, &str) =
    ("no table is created for it: it belongs to another package, is managed elsewhere, or shares a table", "left out");

/// Fits `schema` to a server.
pub(super) fn fit(schema: &Schema, dialect: &Dialect, settings: &Settings) -> Fitted {
    let database = settings.database();
    let capabilities = (dialect.capabilities)(settings);
    let home = schema.source.dialect == dialect.id && schema.source.database == database;
    let mut fitted = if home { schema.clone() } else { stored_part(schema) };
    // What only this server says is not written into a script.
    for entity in &mut fitted.entities {
        entity.extras.clear();
        entity.fields.iter_mut().for_each(|field| field.extras.clear());
    }
    if !home {
        let enums = fitted.enums.clone();
        fitted.entities.iter_mut().for_each(|entity| {
            entity.fields.iter_mut().for_each(|field| typed(field, &enums, schema.source.database, database));
            bare(entity, database, &capabilities);
        });
        if database == Database::PostgreSql {
            enums_as_stored(schema, &mut fitted);
        }
        fitted.enums.iter_mut().for_each(without_labels);
        if database.is_mysql() {
            enums_in_place(&mut fitted);
        }
    }
    fitted.source.dialect = dialect.id.to_owned();
    fitted.source.version = String::new();
    fitted.source.database = database;
    let losses = account(schema, &fitted, database);
    Fitted { schema: fitted, named: schema.clone(), losses, renames: Vec::new(), script: Vec::new() }
}

/// Gives a column the type that the server's word for it means, and the numbering that it has.
fn typed(field: &mut Field, enums: &[EnumType], from: Database, database: Database) {
    field.identity = field.identity.map(|identity| match (database, identity) {
        (Database::Sqlite, Identity::AutoIncrement) => Identity::AutoIncrement,
        (Database::PostgreSql, Identity::Sequence | Identity::Always) => identity,
        _ => Identity::ByDefault,
    });
    if database.is_mysql() && !from.is_mysql() {
        keep_fraction(&mut field.r#type);
    }
    let keeps_word = from == database && !field.stored.is_empty();
    if from != database && matches!(field.r#type, Type::Native(_)) {
        field.r#type = Type::Text;
    }
    match database {
        Database::PostgreSql | Database::MongoDb => {
            field.stored = postgresql_name(&field.r#type, enum_name(&field.r#type).unwrap_or_default())
        }
        // SQLite numbers only what it calls an integer.
        Database::Sqlite if field.identity.is_some() => field.stored = "integer".into(),
        Database::Sqlite if keeps_word => {}
        Database::Sqlite => field.stored = sqlite_name(&field.r#type).into(),
        Database::MySql | Database::MariaDb if keeps_word => {}
        Database::MySql | Database::MariaDb => field.stored = mysql_name(&field.r#type, "").into(),
    }
    if let Some(default) = field.defaults.database.as_deref_mut() {
        adapt(default, &field.r#type, database);
    }
    if enum_name(&field.r#type).is_none() || database == Database::Sqlite {
        let known = |name: &str| database == Database::PostgreSql && enums.iter().any(|known| known.name == name);
        field.r#type = read_type(&field.stored, database, &known);
    }
}

/// Each type that the source's framework makes of an enumeration, under the name that it gives it.
fn enums_as_stored(schema: &Schema, fitted: &mut Schema) {
    let stored = |table: &str, column: &str| {
        let entity = schema.entities.iter().find(|entity| entity.table == table)?;
        let name = entity.field(column)?.stored.trim_end_matches("[]").to_owned();
        (schema.source.database == Database::PostgreSql && !name.is_empty()).then_some(name)
    };
    let mut made: Vec<EnumType> = Vec::new();
    for entity in &mut fitted.entities {
        for field in &mut entity.fields {
            let Some(known) = enum_name(&field.r#type).and_then(|name| schema.enumeration(name)) else { continue };
            let Some(name) = stored(&entity.table, &field.column).filter(|name| *name != known.name) else { continue };
            if !made.iter().any(|made| made.name == name) {
                made.push(EnumType { name: name.clone(), stored_name: None, ..known.clone() });
            }
            field.r#type = match &field.r#type {
                Type::Array(_) => Type::Array(Box::new(Type::Enum(name))),
                _ => Type::Enum(name),
            };
            field.stored = postgresql_name(&field.r#type, enum_name(&field.r#type).unwrap_or_default()).into_owned().into();
        }
    }
    fitted.enums.retain(|known| made.iter().all(|made| made.name != known.name));
    fitted.enums.extend(made);
    let used: HashSet<String> =
        fitted.entities.iter().flat_map(|entity| &entity.fields).filter_map(|field| enum_name(&field.r#type)).map(str::to_owned).collect();
    fitted.enums.retain(|known| used.contains(&known.name));
}

/// An enumeration of MySQL belongs to its one column.
fn enums_in_place(schema: &mut Schema) {
    let named = std::mem::take(&mut schema.enums);
    for entity in &mut schema.entities {
        for field in &mut entity.fields {
            let Type::Enum(name) = &field.r#type else { continue };
            let Some(known) = named.iter().find(|known| known.name == *name) else { continue };
            let name = format!("{}_{}", entity.table, field.column);
            schema.enums.push(EnumType { name: name.clone(), stored_name: None, inline: true, module: String::new(), ..known.clone() });
            field.r#type = Type::Enum(name);
            field.stored = format!("enum({})", crate::history::sql::members(known, Database::MySql).join(",")).into();
        }
    }
}

/// What this server says for a default: it has no lists, and one moment only.
fn adapt(default: &mut Default_, ty: &Type, database: Database) {
    match default {
        Default_::Function(function @ Function::StatementNow) if database != Database::PostgreSql => *function = Function::Now,
        Default_::Literal(value @ Value::Array(_)) if matches!(ty, Type::Array(_)) && database == Database::Sqlite => {
            *value = Value::String(value.to_string());
        }
        _ => {}
    }
}

/// Takes away what this server cannot hold.
fn bare(entity: &mut Entity, database: Database, capabilities: &Capabilities) {
    let has = |feature| capabilities.has(feature);
    (entity.order, entity.label, entity.soft_delete, entity.inherits) = (Vec::new(), None, None, None);
    for field in &mut entity.fields {
        field.defaults.database = field.defaults.database.take().filter(|default| match &**default {
            crate::schema::Default_::Expression(expression) => expression.is_sql(),
            _ => true,
        });
        field.on_update.database = field.on_update.database.take().filter(|_| database.is_mysql());
        // MariaDB's grammar has no NOT NULL for them (documentation, "Generated Columns").
        field.nullable |= database == Database::MariaDb && field.generated.is_some();
        if !has(Feature::ColumnComment) {
            field.comment = None;
        }
    }
    let key = entity.key_columns().to_vec();
    for field in entity.fields.iter_mut().filter(|field| database == Database::Sqlite && key == [field.column.clone()]) {
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
    if database.is_mysql() {
        let keyable = |entity: &Entity, column: &String| entity.field(column).is_none_or(|field| !is_unbounded(&field.r#type));
        let mut whole = std::mem::take(&mut entity.indexes);
        whole.retain(|index| index.columns.iter().all(|column| keyable(entity, column)));
        entity.indexes = whole;
        let mut uniques = std::mem::take(&mut entity.uniques);
        let digested = |entity: &Entity, unique: &Unique| {
            let numbered = |column: &String| entity.field(column).is_some_and(|field| field.identity.is_some());
            database == Database::MariaDb && !unique.columns.iter().any(numbered)
        };
        uniques.retain(|unique| unique.columns.iter().all(|column| keyable(entity, column)) || digested(entity, unique));
        entity.uniques = uniques;
        index_references(entity);
    }
    for unique in &mut entity.uniques {
        unique.extras.clear();
        unique.deferrable = unique.deferrable.filter(|_| has(Feature::DeferrableUnique));
        unique.nulls_not_distinct &= has(Feature::NullsNotDistinct);
    }
    entity.indexes.retain_mut(|index| {
        index.extras.clear();
        let expressions: Vec<_> = index.condition.iter().chain(index.parts.iter().filter_map(|part| part.expression.as_ref())).collect();
        expressions.iter().all(|expression| expression.is_sql())
            && (index.condition.is_none() || has(Feature::PartialIndex))
            && (index.method.is_none() || has(Feature::IndexMethod))
            && (index.include.is_empty() || has(Feature::CoveringIndex))
            && (!index.nulls_not_distinct || has(Feature::NullsNotDistinct))
            && (index.parts.iter().all(|part| part.expression.is_none()) || has(Feature::ExpressionIndex))
            && (index.parts.iter().all(|part| part.operator_class.is_none()) || has(Feature::OperatorClass))
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

/// One loss for each reason, with everything that it concerns.
fn account(schema: &Schema, fitted: &Schema, database: Database) -> Vec<Loss> {
    let classes: HashMap<&str, &str> = schema.entities.iter().map(|entity| (entity.table.as_str(), entity.name.as_str())).collect();
    let kept: HashMap<&str, ()> = fitted.entities.iter().map(|entity| (entity.table.as_str(), ())).collect();
    let mut losses: Vec<Loss> = Vec::new();
    let mut places: HashMap<(Grade, String, &str), usize> = HashMap::new();
    let mut named: HashSet<(usize, String)> = HashSet::new();
    for Difference { key, left, right } in differences(schema, fitted) {
        let gone = !key.table.is_empty() && !kept.contains_key(key.table.as_str());
        let (grade, reason, instead) =
            if gone { (Grade::Dropped, NO_TABLE.0.to_owned(), NO_TABLE.1) } else { reason(&key, left.as_ref(), right.is_some(), database) };
        let element = match (classes.get(key.table.as_str()), gone) {
            (Some(class), false) if !key.element.is_empty() => format!("{class}: {}", key.element),
            (Some(class), _) => (*class).to_owned(),
            (None, true) => key.table.clone(),
            (None, false) => key.element.clone(),
        };
        let at = *places.entry((grade, reason.clone(), instead)).or_insert_with(|| {
            losses.push(Loss { grade, reason, instead: instead.to_owned(), elements: Vec::new(), facts: Vec::new() });
            losses.len() - 1
        });
        if named.insert((at, element.clone())) {
            losses[at].elements.push(element);
        }
        losses[at].facts.push(key);
    }
    losses.sort_by_key(|loss| loss.grade);
    losses
}

fn reason(key: &FactKey, left: Option<&Value>, changed: bool, database: Database) -> (Grade, String, &'static str) {
    let in_place = database.is_mysql() && key.element.starts_with("enum ");
    if in_place {
        return (Grade::Respelled, "this server has no named enumerations".to_owned(), "the values stand in the column's type");
    }
    if left.is_none() && key.element.starts_with("index ") {
        return (Grade::Added, "this server indexes the columns of a reference".to_owned(), "the index");
    }
    if changed && key.aspect == "default in the database" {
        return (Grade::Respelled, "this server says such a default in another way".to_owned(), "the same value in its words");
    }
    let fits = |(element, aspect, ..): &&Reason| {
        let element = if element.is_empty() { key.element.is_empty() } else { key.element.starts_with(element) };
        element && (aspect.is_empty() || key.aspect == *aspect)
    };
    if key.aspect == "type" && left.and_then(Value::as_str).is_some_and(|ty| RICHER.iter().any(|word| ty.contains(word))) {
        return (
            Grade::Weakened,
            "this server has no type that keeps such values in order".to_owned(),
            "a type that holds their text or number",
        );
    }
    match REASONS.iter().find(fits) {
        Some((_, _, grade, reason, instead)) => (*grade, (*reason).to_owned(), instead),
        None => {
            let name = key.aspect.strip_prefix("extra ").unwrap_or(&key.aspect);
            (Grade::Dropped, format!("`{name}` is not written into a script"), "left out")
        }
    }
}
