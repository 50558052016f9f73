//! Schema operations: the steps by which a database gets, and changes, its tables. A history of
//! them replays to the stored part of a schema; [`sql`] writes them as SQL.

pub mod dropping;
mod replay;
pub mod sql;

use crate::schema::{
    Check, Entity, EnumType, Field, ForeignKey, Index, PrimaryKey, Schema, Unique,
};

pub use replay::{Impossible, Tables, impossible, replay};

/// One step. Tables are named by their [addresses](Entity::address); new names are bare.
#[derive(Clone, Debug, PartialEq)]
pub enum Operation {
    CreateEnum(EnumType),
    DropEnum {
        name: String,
    },
    /// Another name, other names of members, or more of them; none is taken away.
    AlterEnum {
        from: Box<EnumType>,
        to: Box<EnumType>,
    },
    /// A table with its columns, key, uniques and checks; indexes and foreign keys have steps of
    /// their own.
    CreateTable(Box<Entity>),
    DropTable {
        table: String,
    },
    RenameTable {
        table: String,
        to: String,
    },
    AddColumn {
        table: String,
        field: Box<Field>,
    },
    AlterColumn {
        table: String,
        column: String,
        field: Box<Field>,
    },
    RenameColumn {
        table: String,
        column: String,
        to: String,
    },
    DropColumn {
        table: String,
        column: String,
    },
    AddUnique {
        table: String,
        unique: Unique,
    },
    DropUnique {
        table: String,
        unique: Unique,
    },
    AddIndex {
        table: String,
        index: Index,
    },
    DropIndex {
        table: String,
        index: Index,
    },
    AddForeignKey {
        table: String,
        key: ForeignKey,
    },
    DropForeignKey {
        table: String,
        key: ForeignKey,
    },
    AddCheck {
        table: String,
        check: Check,
    },
    DropCheck {
        table: String,
        check: Check,
    },
    AddExclusion {
        table: String,
        check: Check,
    },
    DropExclusion {
        table: String,
        check: Check,
    },
    /// Another key, or none.
    SetKey {
        table: String,
        key: Option<PrimaryKey>,
    },
    Comment {
        table: String,
        column: Option<String>,
        text: Option<String>,
    },
}

/// The steps that make of a table at this address what it is after something was added to it. Both
/// sides list what was there first.
pub fn additions(table: &str, before: &Entity, mut after: Entity) -> Vec<Operation> {
    let table = || table.to_owned();
    let mut steps: Vec<Operation> = Vec::new();
    let fields = after.fields.split_off(before.fields.len());
    steps.extend(
        fields
            .into_iter()
            .map(|field| Operation::AddColumn { table: table(), field: Box::new(field) }),
    );
    if after.primary_key != before.primary_key {
        steps.push(Operation::SetKey { table: table(), key: after.primary_key.take() });
    }
    let uniques = after.uniques.split_off(before.uniques.len());
    steps.extend(uniques.into_iter().map(|unique| Operation::AddUnique { table: table(), unique }));
    let indexes = after.indexes.split_off(before.indexes.len());
    steps.extend(indexes.into_iter().map(|index| Operation::AddIndex { table: table(), index }));
    let keys = after.foreign_keys.split_off(before.foreign_keys.len());
    steps.extend(keys.into_iter().map(|key| Operation::AddForeignKey { table: table(), key }));
    let checks = after.checks.split_off(before.checks.len());
    steps.extend(checks.into_iter().map(|check| Operation::AddCheck { table: table(), check }));
    let exclusions = after.exclusions.split_off(before.exclusions.len());
    steps.extend(
        exclusions.into_iter().map(|check| Operation::AddExclusion { table: table(), check }),
    );
    steps
}

/// The steps that make the tables of a schema in an empty database: enumerations, tables, indexes,
/// then foreign keys.
pub fn operations(schema: &Schema) -> Vec<Operation> {
    let schema = stored_part(schema);
    let mut steps: Vec<Operation> = schema.enums.into_iter().map(Operation::CreateEnum).collect();
    let mut later = Vec::new();
    for mut entity in schema.entities {
        let table = entity.address();
        for index in std::mem::take(&mut entity.indexes) {
            later.push(Operation::AddIndex { table: table.clone(), index });
        }
        for key in std::mem::take(&mut entity.foreign_keys) {
            later.push(Operation::AddForeignKey { table: table.clone(), key });
        }
        steps.push(Operation::CreateTable(Box::new(entity)));
    }
    later.sort_by_key(|step| matches!(step, Operation::AddForeignKey { .. }));
    steps.extend(later);
    steps
}

/// What of a schema a database holds: tables that the framework creates, without classes,
/// attributes and relations.
pub fn stored_part(schema: &Schema) -> Schema {
    let mut stored = schema.clone();
    stored.entities.retain(|entity| entity.mapped.table && !entity.external);
    for entity in &mut stored.entities {
        entity.relations.clear();
        entity.foreign_keys.retain(|key| key.enforced == crate::schema::EnforcedBy::Database);
        for field in &mut entity.fields {
            (
                field.name,
                field.optional_in_code,
                field.required_on_input,
                field.choices,
                field.format,
            ) = (None, None, None, None, None);
            (field.defaults.application, field.on_update.application, field.purpose) =
                (None, None, None);
            field.rules.clear();
            field.extras.clear();
        }
    }
    let used = |name: &str| {
        let types =
            stored.entities.iter().flat_map(|entity| &entity.fields).map(|field| &field.r#type);
        types.filter_map(crate::schema::enum_name).any(|known| known == name)
    };
    let enums =
        schema.enums.iter().filter(|enumeration| used(&enumeration.name)).cloned().collect();
    stored.enums = enums;
    stored
}
