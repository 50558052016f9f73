//! Small changes of a schema by which a finding is mended.

use std::borrow::Cow;

use super::facts::index_element;
use super::{Entity, Index, Origin, Schema, Type, Unique};

/// A change of one element. It names the element, so that it can be made in a schema that was read
/// anew.
#[derive(Clone, Debug, PartialEq)]
pub enum Change {
    /// An index over these columns.
    AddIndex { entity: String, columns: Vec<String> },
    /// The index whose [element](index_element) this is, the last one of several.
    RemoveIndex { entity: String, index: String },
    /// The last unique constraint over these columns.
    RemoveUnique { entity: String, columns: Vec<String> },
    /// The other side of the relation of this name.
    NameInverse { entity: String, relation: String, inverse: String },
    /// The default of the application in the database as well.
    DefaultInDatabase { entity: String, column: String },
    /// Whether these columns may be null.
    Nullable { entity: String, columns: Vec<String>, nullable: bool },
    /// Another type of a column.
    Retype { entity: String, column: String, to: Type },
    /// A unique constraint over these columns.
    AddUnique { entity: String, columns: Vec<String> },
}

impl Change {
    /// Id of the entity that changes.
    pub fn entity(&self) -> &str {
        let (Change::AddIndex { entity, .. }
        | Change::RemoveIndex { entity, .. }
        | Change::RemoveUnique { entity, .. }
        | Change::NameInverse { entity, .. }
        | Change::DefaultInDatabase { entity, .. }
        | Change::Nullable { entity, .. }
        | Change::Retype { entity, .. }
        | Change::AddUnique { entity, .. }) = self;
        entity
    }

    /// Makes the change; says whether there was something to change.
    pub fn apply(&self, schema: &mut Schema) -> bool {
        let entity = schema.entities.iter_mut().find(|known| known.id == self.entity());
        entity.is_some_and(|entity| self.apply_to(entity))
    }

    /// Makes the change in the entity that it is about.
    pub fn apply_to(&self, entity: &mut Entity) -> bool {
        match self {
            Change::AddIndex { columns, .. } => {
                entity.indexes.push(Index::over(columns, Origin::implied("mended")));
                true
            }
            Change::RemoveIndex { index, .. } => {
                let at = entity.indexes.iter().rposition(|known| index_element(known) == *index);
                at.map(|at| entity.indexes.remove(at)).is_some()
            }
            Change::RemoveUnique { columns, .. } => {
                let at = entity.uniques.iter().rposition(|known| known.columns == *columns);
                at.map(|at| entity.uniques.remove(at)).is_some()
            }
            Change::NameInverse { relation, inverse, .. } => {
                let known = entity
                    .relations
                    .iter_mut()
                    .find(|known| known.name.as_deref() == Some(relation));
                known.map(|known| known.inverse = Some(inverse.clone())).is_some()
            }
            Change::DefaultInDatabase { column, .. } => {
                let Some(field) = entity.fields.iter_mut().find(|field| field.column == *column)
                else {
                    return false;
                };
                field.defaults.database = field.defaults.application.clone();
                field.defaults.database.is_some()
            }
            Change::Nullable { columns, nullable, .. } => {
                for field in
                    entity.fields.iter_mut().filter(|field| columns.contains(&field.column))
                {
                    field.nullable = *nullable;
                    field.optional_in_code = field.optional_in_code.map(|_| *nullable);
                    field.required_on_input = field.required_on_input.map(|_| !*nullable);
                }
                true
            }
            Change::Retype { column, to, .. } => {
                let Some(field) = entity.fields.iter_mut().find(|field| field.column == *column)
                else {
                    return false;
                };
                (field.r#type, field.stored) = (to.clone(), Cow::Borrowed(""));
                true
            }
            Change::AddUnique { columns, .. } => {
                entity.uniques.push(Unique {
                    columns: columns.clone(),
                    origin: Origin::implied("mended"),
                    ..Unique::default()
                });
                true
            }
        }
    }
}
