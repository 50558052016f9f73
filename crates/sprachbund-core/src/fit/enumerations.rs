//! What the database calls its enumeration types: each framework has names of its own for them.

use std::collections::BTreeSet;

use super::{Fitting, Grade};
use crate::dialect::Feature;
use crate::resolve::enum_name;
use crate::schema::Database;
use crate::schema::facts::FactKey;

/// Gives a name to lists of values where they must have one.
pub(super) fn name_lists(fitting: &mut Fitting) {
    if fitting.capabilities.has(Feature::InlineEnum) {
        return;
    }
    for at in 0..fitting.schema.enums.len() {
        if std::mem::take(&mut fitting.schema.enums[at].inline) {
            let name = fitting.schema.enums[at].name.clone();
            let facts = fitting.unless_told(FactKey::new("", format!("enum {name}"), "members"));
            fitting.lose(Grade::Respelled, "a list of values must have a name", format!("it is called `{name}`"), name, facts);
        }
    }
}

/// Keeps the name of each type that has one name only.
pub(super) fn keep_names(fitting: &mut Fitting) {
    if !fitting.conventions.enum_type_named {
        return lose_names(fitting);
    }
    let here = fitting.database() == Database::PostgreSql && fitting.schema.source.database == Database::PostgreSql;
    if fitting.home || !here || !fitting.capabilities.has(Feature::EnumType) {
        return;
    }
    for at in 0..fitting.schema.enums.len() {
        let name = fitting.schema.enums[at].name.clone();
        if fitting.schema.enums[at].stored_name.is_some() {
            continue;
        }
        let (mut before, mut after) = (BTreeSet::new(), BTreeSet::new());
        for entity in &fitting.schema.entities {
            for field in entity.fields.iter().filter(|field| enum_name(&field.r#type) == Some(&name) && !field.stored.is_empty()) {
                before.insert(field.stored.trim_end_matches("[]").to_owned());
                let names = [("table", entity.table.as_str()), ("column", &field.column), ("enumeration", &name)];
                after.insert(fitting.conventions.enum_type.apply(&names));
            }
        }
        if before == after || before.is_empty() {
            continue;
        }
        if let Some(only) = before.first().filter(|_| before.len() == 1) {
            fitting.schema.enums[at].stored_name = Some(only.clone());
            let fact = FactKey::new("", format!("enum {name}"), "members");
            let counted = fitting.losses.telling(&fact).is_some();
            let reason = format!("{} has a name of its own for an enumeration type", fitting.framework);
            let instead = format!("the type keeps its name `{only}`, which is written");
            fitting.lose(Grade::Respelled, reason, instead, name, if counted { Vec::new() } else { vec![fact] });
        }
    }
}

/// The framework calls each type after its table and its column.
fn lose_names(fitting: &mut Fitting) {
    for at in 0..fitting.schema.enums.len() {
        if fitting.schema.enums[at].stored_name.take().is_none() {
            continue;
        }
        let name = fitting.schema.enums[at].name.clone();
        let facts = fitting.unless_told(FactKey::new("", format!("enum {name}"), "members"));
        let reason = format!("{} calls an enumeration type after its table and its column", fitting.framework);
        fitting.lose(Grade::Respelled, reason, "the values are the same", name, facts);
    }
}
