//! Names of classes and attributes.

use std::collections::HashSet;

use super::Recognitions;
use crate::dialect::naming::{Case, singular};
use crate::schema::{Part, Schema};

pub(super) fn recognise(schema: &mut Schema, how: &Recognitions, module: &str) {
    let mut taken = HashSet::new();
    for entity in &mut schema.entities {
        entity.module = entity.namespace.clone().unwrap_or_else(|| module.to_owned());
        let bare = how
            .prefixes
            .iter()
            .find_map(|prefix| entity.table.strip_prefix(prefix.as_str()))
            .filter(|rest| !rest.is_empty());
        let bare = bare.unwrap_or(&entity.table);
        let one = if how.singular { singular(bare) } else { bare.to_owned() };
        let mut name = Case::Pascal.apply(&one);
        if !taken.insert((entity.module.clone(), name.clone())) {
            name = Case::Pascal.apply(&entity.table);
            taken.insert((entity.module.clone(), name.clone()));
        }
        entity.id = format!("{}.{name}", entity.module);
        entity.name = name;
        entity.implied.add(Part::Name);
        for field in &mut entity.fields {
            field.name = Some(field.column.clone());
            field.implied.add(Part::Name);
        }
    }
    for enumeration in &mut schema.enums {
        enumeration.module = module.to_owned();
    }
}
