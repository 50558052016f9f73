//! Between tables and documents: what a database of the one kind keeps by itself, the other leaves
//! to the application. The schema is carried over as a whole before anything else is fitted; causes
//! follow from the facts that differ, by one table for each way.

mod from_tables;
mod into_tables;

use std::collections::HashMap;

use super::causes::Rows;
use super::report::Causes;
use crate::dialect::Dialect;
use crate::schema::{Database, Entity, Schema};

/// A schema that was carried over.
pub(super) struct Crossed {
    pub(super) schema: Schema,
    /// What becomes of facts of which nothing else is said; the last row is that of whole tables.
    pub(super) rows: Rows,
    /// Causes that single things have for themselves.
    pub(super) causes: Causes,
    /// The new names of tables that got another one.
    pub(super) renamed: HashMap<String, String>,
}

/// Carries a schema over if its database keeps what the target's does not; `dialect` is to declare
/// it.
pub(super) fn cross(schema: &Schema, dialect: &Dialect, database: Database) -> Option<Crossed> {
    match (schema.source.database.keeps_documents(), database.keeps_documents()) {
        (false, true) => dialect
            .details
            .documents
            .map(|rules| from_tables::carry(schema, dialect.language, rules)),
        (true, false) => Some(into_tables::carry(schema, database)),
        _ => None,
    }
}

/// Gives a column another stored name, wherever its own table speaks of it.
fn rename_column(entity: &mut Entity, from: &str, to: &str) {
    let put = |column: &mut String| {
        if column == from {
            to.clone_into(column);
        }
    };
    entity.fields.iter_mut().for_each(|field| put(&mut field.column));
    entity.primary_key.iter_mut().flat_map(|key| &mut key.columns).for_each(put);
    entity.uniques.iter_mut().flat_map(|unique| &mut unique.columns).for_each(put);
    entity.foreign_keys.iter_mut().flat_map(|key| &mut key.columns).for_each(put);
    entity.relations.iter_mut().flat_map(|relation| &mut relation.columns).for_each(put);
    for index in &mut entity.indexes {
        index.columns.iter_mut().for_each(put);
        index.parts.iter_mut().filter_map(|part| part.column.as_mut()).for_each(put);
        if let Some(condition) = index.condition.as_mut()
            && let Some(tree) = condition.tree.take()
        {
            let renamed =
                tree.map_columns(&|column| if column == from { to.to_owned() } else { column });
            **condition = crate::schema::Expression::sql(renamed);
        }
    }
}
