//! TypeORM entities. Checked against TypeORM 0.3.31 on PostgreSQL 15, MariaDB 10.11 and SQLite 3 (see `conformance/`).

mod conventions;
pub(crate) mod print;
mod read;
mod types;

use crate::dialect::{Dialect, Medium};
use crate::host::Language;
use crate::schema::Database;

pub use conventions::STRATEGIES;

/// The registry entry.
pub const DIALECT: Dialect = Dialect {
    id: "typeorm",
    framework: "TypeORM",
    versions: &["0.3"],
    databases: &[Database::PostgreSql, Database::MySql, Database::MariaDb, Database::Sqlite],
    unverified: &[Database::MySql],
    language: Language::TypeScript,
    extensions: &["ts", "mts", "cts"],
    marks: &["@Entity", "@Column", "@PrimaryColumn", "@PrimaryGeneratedColumn", "@ChildEntity", "@ViewEntity", "EntitySchema"],
    signs: &["typeorm"],
    // What every object has (ECMAScript 2025, section 20.1.3).
    reserved_members: &[
        "constructor",
        "prototype",
        "__proto__",
        "hasOwnProperty",
        "isPrototypeOf",
        "propertyIsEnumerable",
        "toLocaleString",
        "toString",
        "valueOf",
    ],
    reserved_classes: &[
        "Date",
        "Object",
        "String",
        "Number",
        "Boolean",
        "Array",
        "Buffer",
        "Promise",
        "Column",
        "Entity",
        "Index",
        "Unique",
        "Check",
        "Exclusion",
        "ChildEntity",
        "CreateDateColumn",
        "DeleteDateColumn",
        "Generated",
        "JoinColumn",
        "JoinTable",
        "ManyToMany",
        "ManyToOne",
        "OneToMany",
        "OneToOne",
        "PrimaryColumn",
        "PrimaryGeneratedColumn",
        "TableInheritance",
        "Tree",
        "TreeChildren",
        "TreeParent",
        "UpdateDateColumn",
        "VersionColumn",
        "ViewColumn",
        "ViewEntity",
    ],
    classes_global: false,
    single_underscores: false,
    styles: &[],
    namings: &["default", "snake"],
    stand_ins: &[],
    is_framework: |module| module == "typeorm",
    project_settings: |_, _| {},
    target_settings: |_, _| {},
    conventions: conventions::conventions,
    capabilities: conventions::capabilities,
    medium: Medium::Classes { read: read::read, print: print::print },
};
