//! Sequelize models. Checked against Sequelize 6.37.8 on PostgreSQL 15 and SQLite 3 (see
//! `conformance/`).

mod codes;
mod conventions;
mod inflection;
pub(crate) mod print;
mod read;
mod types;

use sprachbund_dialect::{declaration, dialect};
use sprachbund_host as host;
use sprachbund_schema::{diagnostic, quoting, schema, source};

use crate::dialect::conventions::Actor;
use crate::dialect::{Details, Dialect, Medium, PlainWord};
use crate::host::language::Reserved;
use crate::host::typescript::TYPESCRIPT;
use crate::schema::Database;

/// The registry entry.
pub const DIALECT: Dialect = Dialect {
    id: "sequelize",
    framework: "Sequelize",
    versions: &["6"],
    databases: &[Database::PostgreSql, Database::Sqlite],
    unverified: &[],
    language: &TYPESCRIPT,
    extensions: &["ts", "js", "mts", "cts", "mjs", "cjs"],
    marks: &["DataTypes", "sequelize", "Sequelize", "queryInterface", "@Table"],
    signs: &["sequelize"],
    conventions: conventions::conventions,
    capabilities: conventions::capabilities,
    medium: Medium::Classes { read: read::read, print: print::print },
    details: Details {
        codes: codes::CODES,
        packages: &["sequelize"],
        names: Reserved {
            // Members of its `Model`, and of every object (seen of 6.37.8).
            members: &[
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
            classes: &[
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
            ..Reserved::NOTHING
        },
        is_framework: |module| module == "sequelize" || module.starts_with("sequelize/"),
        example_head: "import { DataTypes, Sequelize } from 'sequelize';\n\
                       const sequelize = new Sequelize();\n\n",
        plain_words: &[
            (PlainWord::Text, "STRING"),
            (PlainWord::Time, "DATE"),
            (PlainWord::Decimal, "DECIMAL"),
            (PlainWord::Number, "INTEGER"),
            (PlainWord::Fraction, "FLOAT"),
        ],
        plain_default: Some(("defaultValue", Actor::Database)),
        ..Details::USUAL
    },
};
