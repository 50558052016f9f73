//! Brings a schema to what two descriptions can share: types as the server holds them, names as words, uniqueness
//! without the object that keeps it, and nothing that only one side can say.

use std::collections::{HashMap, HashSet};

use rayon::prelude::*;
use serde_json::Value;

use super::weigh::Shared;
use crate::dialect::naming::Case;
use crate::schema::enum_name;
use crate::schema::expression::Tree;
use crate::schema::{
    Action, Database, Default_, EnforcedBy, Entity, EnumType, Expression, Field, Function, Identity, Index, IndexPart, NamedBy, Schema,
    Type, Unique, UniqueAs, address,
};
use crate::server::postgresql;

/// Tables whose names several named schemas have are called by their addresses.
pub(super) fn by_address(schema: &Schema, several: &HashSet<String>) -> Schema {
    let mut schema = schema.clone();
    let call = |namespace: &mut Option<String>, table: &mut String| {
        if several.contains(table) {
            *table = address(namespace.take().as_deref(), table);
        }
    };
    for entity in &mut schema.entities {
        call(&mut entity.namespace, &mut entity.table);
        entity.foreign_keys.iter_mut().for_each(|key| call(&mut key.references.namespace, &mut key.references.table));
    }
    schema
}

/// How the server takes the types of both sides.
pub(super) struct Words {
    database: Database,
    /// Columns whose types differ as written and not as held.
    pub(super) spelling: usize,
}

/// The enumerations of a schema by their names, and the server that it is meant for.
struct Enums<'s> {
    database: Database,
    by_name: HashMap<&'s str, &'s EnumType>,
}

impl<'s> Enums<'s> {
    fn of(schema: &'s Schema) -> Self {
        Enums { database: schema.source.database, by_name: by_name(&schema.enums) }
    }
}

fn by_name(enums: &[EnumType]) -> HashMap<&str, &EnumType> {
    enums.iter().map(|known| (known.name.as_str(), known)).collect()
}

impl Words {
    pub(super) fn of(left: &Schema, right: &Schema, database: Database) -> Self {
        let mut words = Words { database, spelling: 0 };
        let tables: HashMap<&str, &Entity> = right.entities.iter().map(|entity| (entity.table.as_str(), entity)).collect();
        let (one, two) = (Enums::of(left), Enums::of(right));
        for (entity, field) in left.entities.iter().flat_map(|entity| entity.fields.iter().map(move |field| (entity, field))) {
            if let Some(other) = tables.get(entity.table.as_str()).and_then(|entity| entity.field(&field.column)) {
                let written = field.r#type != other.r#type;
                words.spelling += usize::from(written && words.held(field, &one) == words.held(other, &two));
            }
        }
        words
    }

    /// The type that the server holds; an enumeration is its values.
    fn held(&self, field: &Field, enums: &Enums<'_>) -> Type {
        if let Some(name) = enum_name(&field.r#type)
            && let Some(known) = enums.by_name.get(name)
            && self.database != Database::Sqlite
        {
            let values = values(known);
            return match &field.r#type {
                Type::Array(_) => Type::Array(Box::new(Type::Enum(values))),
                _ => Type::Enum(values),
            };
        }
        let here = enums.database == self.database && !field.stored.is_empty();
        let name = (self.database.server().type_name)(&field.r#type, "");
        match self.database {
            Database::PostgreSql | Database::MongoDb => {
                match postgresql::SERVER.read_type(&postgresql::type_name(&field.r#type, ""), &|_| false) {
                    // A type of an extension is the same in whatever schema it was installed.
                    Type::Native(name) => Type::Native(name.rsplit('.').next().unwrap_or(&name).to_owned()),
                    known => known,
                }
            }
            Database::Sqlite if here => affinity(&field.stored),
            Database::Sqlite => affinity(&name),
            Database::MySql | Database::MariaDb if here => mysql_type(&field.stored, self.database),
            Database::MySql | Database::MariaDb => mysql_type(&name, self.database),
        }
    }
}

/// What MariaDB and MySQL hold: a truth value is a small number, and texts without a bound differ in how much they hold.
fn mysql_type(word: &str, database: Database) -> Type {
    match database.server().read_type(word, &|_| false) {
        Type::Boolean => Type::Native("tinyint".into()),
        Type::Text | Type::Binary(None) => Type::Native(word.to_lowercase()),
        other => other,
    }
}

/// What SQLite makes of a word (documentation, "Datatypes In SQLite", 3.1): it keeps no lengths.
fn affinity(word: &str) -> Type {
    let word = word.to_uppercase();
    let has = |parts: &[&str]| parts.iter().any(|part| word.contains(part));
    if has(&["INT"]) {
        Type::BigInt
    } else if has(&["CHAR", "CLOB", "TEXT"]) {
        Type::Text
    } else if has(&["BLOB"]) || word.is_empty() {
        Type::Binary(None)
    } else if has(&["REAL", "FLOA", "DOUB"]) {
        Type::Double
    } else {
        Type::Numeric { precision: None, scale: None }
    }
}

fn values(enumeration: &EnumType) -> String {
    let value = |value: &Value| value.as_str().map_or_else(|| value.to_string(), str::to_owned);
    enumeration.members.iter().map(|member| value(&member.value)).collect::<Vec<_>>().join(", ")
}

/// Brings one side to its comparable form.
pub(super) fn bring(schema: &mut Schema, words: &Words, shared: &Shared) {
    let enums = std::mem::take(&mut schema.enums);
    let known = Enums { database: schema.source.database, by_name: by_name(&enums) };
    let held: Vec<Vec<Type>> =
        schema.entities.par_iter().map(|entity| entity.fields.iter().map(|field| words.held(field, &known)).collect()).collect();
    for (entity, types) in schema.entities.iter_mut().zip(held) {
        for (field, ty) in entity.fields.iter_mut().zip(types) {
            bring_field(field, ty, words.database, shared);
            field.choices = field.choices.take().and_then(|name| known.by_name.get(name.as_str()).map(|known| values(known)));
        }
        if !shared.unenforced {
            entity.foreign_keys.retain(|key| key.enforced == EnforcedBy::Database);
        }
        bring_entity(entity, words.database);
    }
    schema.entities.retain(|entity| entity.mapped.table && !entity.external);
}

fn bring_field(field: &mut Field, held: Type, database: Database, shared: &Shared) {
    field.r#type = held;
    field.stored = Default::default();
    field.name = field.name.take().filter(|_| shared.classes).map(|name| Case::Snake.apply(&name));
    field.extras.clear();
    (field.purpose, field.format) = (None, None);
    if let Some(generated) = &mut field.generated {
        in_stored_words(&mut generated.expression, database);
    }
    if database != Database::PostgreSql {
        field.identity = field.identity.map(|_| Identity::ByDefault);
    }
    if database == Database::Sqlite {
        (field.comment, field.collation) = (None, None);
    }
    let scale = matches!(field.r#type, Type::Numeric { .. } | Type::Double | Type::Real);
    for default in [&mut field.defaults.database, &mut field.defaults.application].into_iter().flatten() {
        match &mut **default {
            Default_::Function(function @ Function::StatementNow) if database != Database::PostgreSql => *function = Function::Now,
            Default_::Expression(expression) => in_stored_words(expression, database),
            Default_::Literal(value) if scale => *value = number(value),
            Default_::Literal(value @ Value::Bool(_)) if database != Database::PostgreSql => {
                *value = u8::from(*value == Value::Bool(true)).into()
            }
            _ => {}
        }
    }
}

/// Functions of MariaDB and MySQL under the names by which they are stored (seen of MariaDB 10.11).
const STORED_NAMES: &[(&str, &str)] = &[
    ("length", "octet_length"),
    ("lower", "lcase"),
    ("upper", "ucase"),
    ("character_length", "char_length"),
    ("substring", "substr"),
    ("mid", "substr"),
];

/// An expression in the words in which the server stores it.
fn in_stored_words(expression: &mut Expression, database: Database) {
    match database {
        Database::Sqlite => return without_quoted_numbers(expression),
        Database::PostgreSql => return without_compared_truth(expression),
        _ if database.is_mysql() => {}
        _ => return,
    }
    let stored = |name: String| STORED_NAMES.iter().find(|(said, _)| *said == name).map_or(name, |(_, stored)| (*stored).to_owned());
    if let Some(tree) = expression.tree.take() {
        *expression = Expression::sql(tree.map(&|tree| match tree {
            Tree::Call { function, arguments } => Tree::Call { function: stored(function), arguments },
            other => other,
        }));
    }
}

/// SQLite gives a constant the affinity of the column that it is compared with (documentation, "Datatypes In SQLite", 4.2).
fn without_quoted_numbers(expression: &mut Expression) {
    if let Some(tree) = expression.tree.take() {
        *expression = Expression::sql(tree.map(&|tree| match tree {
            Tree::Literal(Value::String(text)) => Tree::Literal(text.parse().map_or(Value::String(text), Value::Number)),
            other => other,
        }));
    }
}

/// Only truth compares with truth (PostgreSQL documentation, section 9.2): `landed = true` says `landed`.
fn without_compared_truth(expression: &mut Expression) {
    if let Some(tree) = expression.tree.take() {
        *expression = Expression::sql(tree.map(&|tree| match tree {
            Tree::Binary { operator, left, right } if operator == "=" => match *right {
                Tree::Literal(Value::Bool(true)) => *left,
                Tree::Literal(Value::Bool(false)) => Tree::Not(left),
                right => Tree::Binary { operator, left, right: Box::new(right) },
            },
            other => other,
        }));
    }
}

/// A number however it is written: `9.50`, `"9.5"`.
fn number(value: &Value) -> Value {
    let text = value.as_str().map_or_else(|| value.to_string(), str::to_owned);
    match text.split_once('.') {
        Some((whole, part)) if part.chars().all(|digit| digit.is_ascii_digit()) => {
            let part = part.trim_end_matches('0');
            Value::String(if part.is_empty() { whole.to_owned() } else { format!("{whole}.{part}") })
        }
        _ => Value::String(text),
    }
}

fn bring_entity(entity: &mut Entity, database: Database) {
    entity.extras.clear();
    (entity.inherits, entity.label, entity.soft_delete, entity.join) = (None, None, None, false);
    (entity.name, entity.module) = (String::new(), String::new());
    entity.mapped.code = true;
    if database == Database::Sqlite {
        entity.comment = None;
        number_the_key(entity);
    }
    if database == Database::PostgreSql {
        cut_names(entity);
    }
    for key in &mut entity.order {
        key.field = Case::Snake.apply(&key.field);
    }
    for relation in &mut entity.relations {
        relation.name = relation.name.take().map(|name| Case::Snake.apply(&name));
        relation.inverse = relation.inverse.take().map(|name| Case::Snake.apply(&name));
        relation.extras.clear();
    }
    if database.is_mysql() {
        // InnoDB refuses at once either way (documentation, "FOREIGN KEY Constraints").
        let actions = entity.foreign_keys.iter_mut().flat_map(|key| [&mut key.on_delete, &mut key.on_update]);
        actions.filter(|action| **action == Action::Restrict).for_each(|action| *action = Action::NoAction);
    }
    let (plain, rest) = std::mem::take(&mut entity.indexes).into_iter().partition(is_plain_unique);
    entity.indexes = rest;
    entity.uniques.extend(plain.into_iter().map(as_unique));
    for unique in &mut entity.uniques {
        unique.r#as = UniqueAs::Constraint;
        unique.extras.clear();
        if database != Database::PostgreSql {
            (unique.deferrable, unique.nulls_not_distinct) = (None, false);
        }
    }
    for index in &mut entity.indexes {
        index.extras.clear();
        index.only_on = None;
        if database == Database::Sqlite {
            index.method = None;
            index.include.clear();
            index.parts.iter_mut().for_each(|part| part.operator_class = None);
        }
    }
    // Several over the same keys are told apart by what they are, not by the order in which they were made.
    entity.indexes.sort_by(|left, right| (&left.method, &left.name).cmp(&(&right.method, &right.name)));
    let of_indexes = entity.indexes.iter_mut().filter_map(|index| index.condition.as_deref_mut());
    if database == Database::PostgreSql {
        of_indexes.for_each(|condition| in_stored_words(condition, database));
    }
    for check in &mut entity.checks {
        check.extras.clear();
        in_stored_words(&mut check.expression, database);
    }
}

/// SQLite numbers a key of one whole number, whoever asked for it (documentation, "ROWIDs and the INTEGER PRIMARY KEY").
fn number_the_key(entity: &mut Entity) {
    let [only] = entity.key_columns() else { return };
    let only = only.clone();
    if let Some(field) = entity.fields.iter_mut().find(|field| field.column == only && field.r#type == Type::BigInt) {
        field.identity = Some(Identity::ByDefault);
    }
}

/// PostgreSQL cuts longer names without a word (documentation, section 4.1.1).
fn cut_names(entity: &mut Entity) {
    let names = entity.uniques.iter_mut().map(|unique| &mut unique.name);
    let names = names.chain(entity.indexes.iter_mut().map(|index| &mut index.name));
    let names = names.chain(entity.checks.iter_mut().chain(&mut entity.exclusions).map(|check| &mut check.name));
    for name in names.chain(entity.foreign_keys.iter_mut().map(|key| &mut key.name)).flatten() {
        let limit = (0..=Database::PostgreSql.identifier_limit()).rev().find(|at| name.is_char_boundary(*at));
        name.truncate(limit.unwrap_or(0).min(name.len()));
    }
}

fn is_plain_unique(index: &Index) -> bool {
    index.unique
        && index.condition.is_none()
        && index.method.is_none()
        && index.include.is_empty()
        && index.parts.iter().all(IndexPart::is_plain)
}

fn as_unique(index: Index) -> Unique {
    let Index { columns, name, named_by, nulls_not_distinct, origin, .. } = index;
    let named_by = if name.is_some() { named_by } else { NamedBy::Server };
    Unique { columns, name, named_by, nulls_not_distinct, origin, ..Unique::default() }
}

/// Takes out of both sides what cannot be told to be equal or not: checks and defaults without a known meaning. Returns
/// how many there were.
pub(super) fn set_unknown_aside(left: &mut Schema, right: &mut Schema) -> usize {
    let mut unknown = 0;
    let mut others: HashMap<String, &mut Entity> = right.entities.iter_mut().map(|entity| (entity.table.clone(), entity)).collect();
    for entity in &mut left.entities {
        let Some(other) = others.get_mut(&entity.table) else { continue };
        let opaque = |expression: &Expression| expression.tree.is_none();
        let known: Vec<String> = entity.checks.iter().map(|check| squeezed(&check.expression.text)).collect();
        entity.checks.retain(|check| {
            let at = other.checks.iter().position(|candidate| {
                let same = squeezed(&candidate.expression.text) == squeezed(&check.expression.text);
                let taken = known.contains(&squeezed(&candidate.expression.text));
                let named = candidate.name.is_some() && candidate.name == check.name;
                opaque(&check.expression) && (same || (!taken && (named || opaque(&candidate.expression))))
                    || (opaque(&candidate.expression) && named)
            });
            if let Some(at) = at {
                unknown += usize::from(squeezed(&other.checks[at].expression.text) != squeezed(&check.expression.text));
                other.checks.remove(at);
            }
            at.is_none()
        });
        entity.exclusions.retain(|exclusion| {
            let at = other.exclusions.iter().position(|candidate| {
                let coded = !exclusion.expression.is_sql() || !candidate.expression.is_sql();
                squeezed(&candidate.expression.text) == squeezed(&exclusion.expression.text)
                    || (coded && candidate.name.is_some() && candidate.name == exclusion.name)
            });
            if let Some(at) = at {
                unknown += usize::from(squeezed(&other.exclusions[at].expression.text) != squeezed(&exclusion.expression.text));
                other.exclusions.remove(at);
            }
            at.is_none()
        });
        for field in &mut entity.fields {
            let Some(same) = other.fields.iter_mut().find(|same| same.column == field.column) else { continue };
            let both = (field.defaults.database.as_deref(), same.defaults.database.as_deref());
            if let (Some(Default_::Expression(one)), Some(Default_::Expression(two))) = both
                && (opaque(one) || opaque(two))
            {
                unknown += usize::from(squeezed(&one.text) != squeezed(&two.text));
                (field.defaults.database, same.defaults.database) = (None, None);
            }
            if let (Some(one), Some(two)) = (&field.generated, &same.generated)
                && (opaque(&one.expression) || opaque(&two.expression))
            {
                unknown += usize::from(squeezed(&one.expression.text) != squeezed(&two.expression.text));
                (field.generated, same.generated) = (None, None);
            }
        }
    }
    unknown
}

/// A text of SQL without what says nothing: spaces, quotes of names, outer brackets, letter case.
fn squeezed(text: &str) -> String {
    let mut text: String =
        text.chars().filter(|letter| !letter.is_whitespace() && !matches!(letter, '"' | '`')).collect::<String>().to_lowercase();
    while text.starts_with('(') && text.ends_with(')') {
        text = text[1..text.len() - 1].to_owned();
    }
    text
}
