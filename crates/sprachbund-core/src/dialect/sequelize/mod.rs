//! Sequelize models. Checked against Sequelize 6.37.8 on PostgreSQL 15 and SQLite 3 (see `conformance/`).

mod conventions;
pub(crate) mod print;
mod read;
mod types;

use crate::dialect::{Dialect, Medium};
use crate::host::Language;
use crate::schema::Database;

/// The registry entry.
pub const DIALECT: Dialect = Dialect {
    id: "sequelize",
    framework: "Sequelize",
    versions: &["6"],
    databases: &[Database::PostgreSql, Database::Sqlite],
    unverified: &[],
    language: Language::TypeScript,
    extensions: &["ts", "js", "mts", "cts", "mjs", "cjs"],
    marks: &["DataTypes", "sequelize", "Sequelize", "queryInterface", "@Table"],
    signs: &["sequelize"],
    // Members of its `Model`, and of every object (seen of 6.37.8).
    reserved_members: &[
        "constructor",
        "prototype",
        "sequelize",
        "dataValues",
        "isNewRecord",
        "where",
        "getDataValue",
        "setDataValue",
        "get",
        "set",
        "setAttributes",
        "changed",
        "previous",
        "save",
        "reload",
        "validate",
        "update",
        "destroy",
        "isSoftDeleted",
        "restore",
        "increment",
        "decrement",
        "equals",
        "equalsOneOf",
        "setValidators",
        "toJSON",
        "toString",
        "valueOf",
        "hasOwnProperty",
        "isPrototypeOf",
        "propertyIsEnumerable",
        "toLocaleString",
        "__proto__",
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
        "Model",
        "Sequelize",
        "DataTypes",
        "Deferrable",
        "CreationOptional",
        "InferAttributes",
        "InferCreationAttributes",
        "NonAttribute",
    ],
    classes_global: true,
    single_underscores: false,
    styles: &[],
    namings: &[],
    stand_ins: &[],
    is_framework: |module| module == "sequelize" || module.starts_with("sequelize/"),
    project_settings: |_, _| {},
    target_settings: |_, _| {},
    conventions: conventions::conventions,
    capabilities: conventions::capabilities,
    medium: Medium::Classes { read: read::read, print: print::print },
};
