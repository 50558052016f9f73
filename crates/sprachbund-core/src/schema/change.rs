//! Small changes of a schema by which a finding is mended.

use super::facts::index_element;
use super::{Index, Origin, Schema};

/// A change of one element. It names the element, so that it can be made in a schema that was read anew.
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
}

impl Change {
    /// Makes the change; says whether there was something to change.
    pub fn apply(&self, schema: &mut Schema) -> bool {
        let (Change::AddIndex { entity, .. }
        | Change::RemoveIndex { entity, .. }
        | Change::RemoveUnique { entity, .. }
        | Change::NameInverse { entity, .. }
        | Change::DefaultInDatabase { entity, .. }) = self;
        let Some(entity) = schema.entities.iter_mut().find(|known| known.id == *entity) else { return false };
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
                let known = entity.relations.iter_mut().find(|known| known.name.as_deref() == Some(relation));
                known.map(|known| known.inverse = Some(inverse.clone())).is_some()
            }
            Change::DefaultInDatabase { column, .. } => {
                let Some(field) = entity.fields.iter_mut().find(|field| field.column == *column) else { return false };
                field.defaults.database = field.defaults.application.clone();
                field.defaults.database.is_some()
            }
        }
    }
}
