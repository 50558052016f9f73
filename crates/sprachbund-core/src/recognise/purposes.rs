//! Columns that frameworks keep by themselves: times of creation, update and deletion.

use super::Recognitions;
use crate::dialect::naming::Case;
use crate::schema::{Default_, Field, Function, Part, Purpose, Schema, Type};

/// Names, in snake case, that such columns commonly have.
const NAMES: &[(&str, Purpose)] = &[
    ("created", Purpose::CreationTime),
    ("created_at", Purpose::CreationTime),
    ("created_on", Purpose::CreationTime),
    ("creation_time", Purpose::CreationTime),
    ("date_created", Purpose::CreationTime),
    ("inserted_at", Purpose::CreationTime),
    ("changed_at", Purpose::UpdateTime),
    ("last_modified", Purpose::UpdateTime),
    ("modified", Purpose::UpdateTime),
    ("modified_at", Purpose::UpdateTime),
    ("updated", Purpose::UpdateTime),
    ("updated_at", Purpose::UpdateTime),
    ("updated_on", Purpose::UpdateTime),
    ("deleted_at", Purpose::DeletionTime),
    ("deleted_on", Purpose::DeletionTime),
];

pub(super) fn recognise(schema: &mut Schema, how: &Recognitions) {
    for entity in &mut schema.entities {
        for field in entity
            .fields
            .iter_mut()
            .filter(|field| matches!(field.r#type, Type::Timestamp { .. } | Type::Date))
        {
            let snake = Case::Snake.apply(&field.column);
            let Some((_, purpose)) = NAMES.iter().find(|(name, _)| *name == snake) else {
                continue;
            };
            let wanted = match purpose {
                Purpose::DeletionTime => {
                    how.soft_delete && field.nullable && field.defaults.database.is_none()
                }
                _ => how.times && is_filled(field),
            };
            if wanted {
                field.purpose = Some(*purpose);
                field.implied.add(Part::Purpose);
                if *purpose == Purpose::DeletionTime {
                    entity.soft_delete = field.name.clone();
                }
            }
        }
    }
}

/// Whether the database itself fills in the time.
fn is_filled(field: &Field) -> bool {
    let now = |default: &Default_| {
        matches!(
            default,
            Default_::Function(Function::Now | Function::StatementNow | Function::Today)
        )
    };
    field.defaults.database.as_deref().is_some_and(now)
}
