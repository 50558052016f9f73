//! What the database calls its enumeration types: each framework has names of its own for them.

use std::collections::BTreeSet;

use super::Fitting;
use super::causes::types::OfType;
use crate::dialect::Feature;
use crate::schema::Database;
use crate::schema::enum_name;
use crate::schema::facts::Aspect;
use crate::server::Enumerations;

/// Gives a name to lists of values where they must have one.
pub(super) fn name_lists(fitting: &mut Fitting) {
    if fitting.capabilities.has(Feature::InlineEnum) {
        return;
    }
    for at in 0..fitting.schema.enums.len() {
        if std::mem::take(&mut fitting.schema.enums[at].inline) {
            let name = fitting.schema.enums[at].name.clone();
            fitting.because_enumeration(&name, Aspect::Inline, OfType::ListNeedsName(name.clone()));
        }
    }
}

/// Keeps the name of each type that has one name only.
pub(super) fn keep_names(fitting: &mut Fitting) {
    if !fitting.conventions.limits.enum_type_named {
        return lose_names(fitting);
    }
    let has_types = |server: Database| server.server().enumerations == Enumerations::Types;
    let here = has_types(fitting.database()) && has_types(fitting.schema.source.database);
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
                after.insert(fitting.conventions.names.enum_type.apply(&names));
            }
        }
        if before == after || before.is_empty() {
            continue;
        }
        if let Some(only) = before.first().filter(|_| before.len() == 1) {
            fitting.schema.enums[at].stored_name = Some(only.clone());
            fitting.because_enumeration(&name, Aspect::StoredName, OfType::KeepsName(only.clone()));
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
        fitting.because_enumeration(&name, Aspect::StoredName, OfType::CalledAfterColumn);
    }
}
