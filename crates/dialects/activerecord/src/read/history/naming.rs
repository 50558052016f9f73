//! Names that the framework gave by itself: nobody has to say them.

use std::collections::HashSet;

use crate::names;
use crate::schema::{Database, Entity, Index, NamedBy, Schema, Unique, UniqueAs};

/// Tables with the names of checks, exclusions and indexes on expressions that were given there.
pub(super) type Given = HashSet<(String, String)>;

/// Takes for unsaid what is called as the framework would call it. What has been called otherwise
/// since, with its table, keeps its name: the framework would give another one now.
pub(super) fn unsay(
    schema: &mut Schema,
    given: &Given,
    database: Database,
    uniques_are_indexes: bool,
) {
    for entity in &mut schema.entities {
        let (table, address) = (entity.table.clone(), entity.address());
        let index_name = |columns: &[&str]| names::of_index(&table, columns, database);
        for index in &mut entity.indexes {
            let columns = index.plain_columns();
            let columns: Vec<&str> = columns.iter().map(AsRef::as_ref).collect();
            let by_itself = match columns.len() == index.parts.len() {
                true => index.name == Some(index_name(&columns)),
                false => {
                    let name = index.name.clone().unwrap_or_default();
                    given.contains(&(address.clone(), name))
                }
            };
            if by_itself {
                index.named_by = NamedBy::Framework;
            }
        }
        if uniques_are_indexes {
            uniques(entity);
        }
        for unique in &mut entity.uniques {
            let columns: Vec<&str> = unique.columns.iter().map(String::as_str).collect();
            let name = match unique.r#as {
                UniqueAs::Index => index_name(&columns),
                UniqueAs::Constraint => names::unique(&table, &columns),
            };
            if unique.name == Some(name) {
                unique.named_by = NamedBy::Framework;
            }
        }
        keys_and_checks(entity, given);
    }
}

/// Where nothing else keeps values unique, an index that does so over plain columns is all that
/// can be meant.
fn uniques(entity: &mut Entity) {
    let plain = |index: &mut Index| index.unique && index.is_over_columns_alone();
    let found: Vec<Index> = entity.indexes.extract_if(.., plain).collect();
    entity.uniques.extend(found.into_iter().map(|index| Unique {
        columns: index.plain_columns(),
        name: index.name,
        named_by: index.named_by,
        r#as: UniqueAs::Index,
        nulls_not_distinct: index.nulls_not_distinct,
        origin: index.origin,
        ..Unique::default()
    }));
}

fn keys_and_checks(entity: &mut Entity, given: &Given) {
    let address = entity.address();
    for key in &mut entity.foreign_keys {
        let columns: Vec<&str> = key.columns.iter().map(String::as_str).collect();
        let by_itself = names::foreign_key(&address, &columns);
        key.name.take_if(|name| *name == by_itself);
    }
    for check in entity.checks.iter_mut().chain(&mut entity.exclusions) {
        check.name.take_if(|name| given.contains(&(address.clone(), name.clone())));
    }
}
