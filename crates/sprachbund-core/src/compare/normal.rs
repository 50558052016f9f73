//! Brings a schema to what two descriptions can share: types as the server holds them, names as
//! words, uniqueness without the object that keeps it, and nothing that only one side can say.

use std::collections::{HashMap, HashSet};

use rayon::prelude::*;
use serde_json::Value;

use super::weigh::Shared;
use crate::dialect::naming::Case;
use crate::schema::enum_name;
use crate::schema::{
    Action, Database, Default_, EnforcedBy, Entity, EnumType, Expression, Feature, Field, Function,
    Identity, Index, IndexPart, NamedBy, Schema, Type, Unique, UniqueAs, address,
};
use crate::server::{Comments, Enumerations, HeldWord, LongNames};

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
        entity
            .foreign_keys
            .iter_mut()
            .for_each(|key| call(&mut key.references.namespace, &mut key.references.table));
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
        let tables: HashMap<&str, &Entity> =
            right.entities.iter().map(|entity| (entity.table.as_str(), entity)).collect();
        let (one, two) = (Enums::of(left), Enums::of(right));
        for (entity, field) in left
            .entities
            .iter()
            .flat_map(|entity| entity.fields.iter().map(move |field| (entity, field)))
        {
            if let Some(other) =
                tables.get(entity.table.as_str()).and_then(|entity| entity.field(&field.column))
            {
                let written = field.r#type != other.r#type;
                words.spelling +=
                    usize::from(written && words.held(field, &one) == words.held(other, &two));
            }
        }
        words
    }

    /// The type that the server holds; an enumeration is its values.
    fn held(&self, field: &Field, enums: &Enums<'_>) -> Type {
        if let Some(name) = enum_name(&field.r#type)
            && let Some(known) = enums.by_name.get(name)
            && self.database.server().enumerations != Enumerations::Nowhere
        {
            let values = values(known);
            return match &field.r#type {
                Type::Array(_) => Type::Array(Box::new(Type::Enum(values))),
                _ => Type::Enum(values),
            };
        }
        let here = enums.database == self.database && !field.stored.is_empty();
        let server = self.database.server();
        if server.keeps_documents {
            return field.r#type.clone();
        }
        let chosen = here && server.held_word != HeldWord::OfType;
        (server.kept_type)(&if chosen {
            field.stored.clone()
        } else {
            (server.type_name)(&field.r#type, "")
        })
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
    let held: Vec<Vec<Type>> = schema
        .entities
        .par_iter()
        .map(|entity| entity.fields.iter().map(|field| words.held(field, &known)).collect())
        .collect();
    for (entity, types) in schema.entities.iter_mut().zip(held) {
        for (field, ty) in entity.fields.iter_mut().zip(types) {
            bring_field(field, ty, words.database, shared);
            field.choices = field
                .choices
                .take()
                .and_then(|name| known.by_name.get(name.as_str()).map(|known| values(known)));
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
    let server = database.server();
    if let Some(generated) = &mut field.generated {
        (server.rewrites)(&mut generated.expression);
    }
    if !server.identities.contains(&Identity::Sequence) {
        field.identity = field.identity.map(|_| Identity::ByDefault);
    }
    field.comment = field.comment.take().filter(|_| server.comments != Comments::Nowhere);
    field.collation = field.collation.take().filter(|_| server.collations.is_some());
    let scale = matches!(field.r#type, Type::Numeric { .. } | Type::Double | Type::Real);
    for default in
        [&mut field.defaults.database, &mut field.defaults.application].into_iter().flatten()
    {
        match &mut **default {
            Default_::Function(function @ Function::StatementNow) if !server.two_moments => {
                *function = Function::Now
            }
            Default_::Expression(expression) => (server.rewrites)(expression),
            Default_::Literal(value) if scale => *value = number(value),
            Default_::Literal(value @ Value::Bool(_)) if !server.truth_values => {
                *value = u8::from(*value == Value::Bool(true)).into()
            }
            _ => {}
        }
    }
}

/// A number however it is written: `9.50`, `"9.5"`.
fn number(value: &Value) -> Value {
    let text = value.as_str().map_or_else(|| value.to_string(), str::to_owned);
    match text.split_once('.') {
        Some((whole, part)) if part.chars().all(|digit| digit.is_ascii_digit()) => {
            let part = part.trim_end_matches('0');
            Value::String(if part.is_empty() {
                whole.to_owned()
            } else {
                format!("{whole}.{part}")
            })
        }
        _ => Value::String(text),
    }
}

fn bring_entity(entity: &mut Entity, database: Database) {
    entity.extras.clear();
    (entity.inherits, entity.label, entity.soft_delete, entity.join) = (None, None, None, false);
    (entity.name, entity.module) = (String::new(), String::new());
    entity.mapped.code = true;
    let server = database.server();
    entity.comment = entity.comment.take().filter(|_| server.comments != Comments::Nowhere);
    if server.numbers_rows {
        number_the_key(entity);
    }
    if server.long_names == LongNames::Cut {
        cut_names(entity, server.identifier_limit);
    }
    for key in &mut entity.order {
        key.field = Case::Snake.apply(&key.field);
    }
    for relation in &mut entity.relations {
        relation.name = relation.name.take().map(|name| Case::Snake.apply(&name));
        relation.inverse = relation.inverse.take().map(|name| Case::Snake.apply(&name));
        relation.extras.clear();
    }
    if server.restricts_at_once {
        let actions =
            entity.foreign_keys.iter_mut().flat_map(|key| [&mut key.on_delete, &mut key.on_update]);
        actions
            .filter(|action| **action == Action::Restrict)
            .for_each(|action| *action = Action::NoAction);
    }
    let (plain, rest) = std::mem::take(&mut entity.indexes).into_iter().partition(is_plain_unique);
    entity.indexes = rest;
    entity.uniques.extend(plain.into_iter().map(as_unique));
    for unique in &mut entity.uniques {
        unique.r#as = UniqueAs::Constraint;
        unique.extras.clear();
        unique.deferrable =
            unique.deferrable.filter(|_| !server.lacks.contains(&Feature::DeferrableUnique));
        unique.nulls_not_distinct &= !server.lacks.contains(&Feature::NullsNotDistinct);
    }
    for index in &mut entity.indexes {
        index.extras.clear();
        index.only_on = None;
        if server.one_kind_of_index {
            index.method = None;
            index.include.clear();
            index.parts.iter_mut().for_each(|part| part.operator_class = None);
        }
    }
    // Several over the same keys are told apart by what they are, not by the order in which they
    // were made.
    entity
        .indexes
        .sort_by(|left, right| (&left.method, &left.name).cmp(&(&right.method, &right.name)));
    let of_indexes = entity.indexes.iter_mut().filter_map(|index| index.condition.as_deref_mut());
    of_indexes.for_each(|condition| (server.rewrites)(condition));
    for check in &mut entity.checks {
        check.extras.clear();
        (server.rewrites)(&mut check.expression);
    }
}

/// SQLite numbers a key of one whole number, whoever asked for it (documentation, "ROWIDs and the
/// INTEGER PRIMARY KEY").
fn number_the_key(entity: &mut Entity) {
    let [only] = entity.key_columns() else { return };
    let only = only.clone();
    if let Some(field) =
        entity.fields.iter_mut().find(|field| field.column == only && field.r#type == Type::BigInt)
    {
        field.identity = Some(Identity::ByDefault);
    }
}

/// Longer names are cut without a word.
fn cut_names(entity: &mut Entity, limit: usize) {
    let names = entity.uniques.iter_mut().map(|unique| &mut unique.name);
    let names = names.chain(entity.indexes.iter_mut().map(|index| &mut index.name));
    let names = names
        .chain(entity.checks.iter_mut().chain(&mut entity.exclusions).map(|check| &mut check.name));
    for name in names.chain(entity.foreign_keys.iter_mut().map(|key| &mut key.name)).flatten() {
        name.truncate(name.floor_char_boundary(limit));
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

/// Takes out of both sides what cannot be told to be equal or not: checks and defaults without a
/// known meaning. Returns how many there were.
pub(super) fn set_unknown_aside(left: &mut Schema, right: &mut Schema) -> usize {
    let mut unknown = 0;
    let mut others: HashMap<String, &mut Entity> =
        right.entities.iter_mut().map(|entity| (entity.table.clone(), entity)).collect();
    for entity in &mut left.entities {
        let Some(other) = others.get_mut(&entity.table) else { continue };
        let opaque = |expression: &Expression| expression.tree.is_none();
        let known: Vec<String> =
            entity.checks.iter().map(|check| squeezed(&check.expression.text)).collect();
        entity.checks.retain(|check| {
            let at = other.checks.iter().position(|candidate| {
                let same = squeezed(&candidate.expression.text) == squeezed(&check.expression.text);
                let taken = known.contains(&squeezed(&candidate.expression.text));
                let named = candidate.name.is_some() && candidate.name == check.name;
                opaque(&check.expression)
                    && (same || (!taken && (named || opaque(&candidate.expression))))
                    || (opaque(&candidate.expression) && named)
            });
            if let Some(at) = at {
                unknown += usize::from(
                    squeezed(&other.checks[at].expression.text) != squeezed(&check.expression.text),
                );
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
                unknown += usize::from(
                    squeezed(&other.exclusions[at].expression.text)
                        != squeezed(&exclusion.expression.text),
                );
                other.exclusions.remove(at);
            }
            at.is_none()
        });
        for field in &mut entity.fields {
            let Some(same) = other.fields.iter_mut().find(|same| same.column == field.column)
            else {
                continue;
            };
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
                unknown +=
                    usize::from(squeezed(&one.expression.text) != squeezed(&two.expression.text));
                (field.generated, same.generated) = (None, None);
            }
        }
    }
    unknown
}

/// A text of SQL without what says nothing: spaces, quotes of names, outer brackets, letter case.
fn squeezed(text: &str) -> String {
    let mut text: String = text
        .chars()
        .filter(|letter| !letter.is_whitespace() && !matches!(letter, '"' | '`'))
        .collect::<String>()
        .to_lowercase();
    while text.starts_with('(') && text.ends_with(')') {
        text = text[1..text.len() - 1].to_owned();
    }
    text
}
