//! TypeORM entities. Checked against TypeORM 0.3.31 on PostgreSQL 15, MariaDB 10.11 and SQLite 3
//! (see `conformance/`).

mod codes;
mod conventions;
pub(crate) mod print;
mod read;
mod types;

use sprachbund_dialect::{decision, declaration, dialect};
use sprachbund_host as host;
use sprachbund_schema::{diagnostic, quoting, schema, source};

use crate::dialect::conventions::Actor;
use crate::dialect::{Details, Dialect, Medium, PlainWord};
use crate::host::language::Reserved;
use crate::host::typescript::TYPESCRIPT;
use crate::schema::Database;

pub use conventions::STRATEGIES;

/// The registry entry.
pub const DIALECT: Dialect = Dialect {
    id: "typeorm",
    framework: "TypeORM",
    versions: &["1.1", "0.3", "0.2"],
    databases: &[Database::PostgreSql, Database::MySql, Database::MariaDb, Database::Sqlite],
    unverified: &[],
    language: &TYPESCRIPT,
    extensions: &["ts", "mts", "cts"],
    marks: &[
        "@Entity",
        "@Column",
        "@PrimaryColumn",
        "@PrimaryGeneratedColumn",
        "@ChildEntity",
        "@ViewEntity",
        "EntitySchema",
    ],
    signs: &["typeorm"],
    conventions: conventions::conventions,
    capabilities: conventions::capabilities,
    medium: Medium::Classes { read: read::read, print: print::print },
    details: Details {
        codes: codes::CODES,
        packages: &["typeorm"],
        names: Reserved {
            // What every object has (ECMAScript 2025, section 20.1.3).
            members: &[
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
            classes: &[
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
            ..Reserved::NOTHING
        },
        namings: &["default", "snake"],
        is_framework: |module| module == "typeorm",
        example_head: "import { Entity } from 'typeorm';\n\n",
        plain_words: &[
            (PlainWord::Text, "varchar"),
            (PlainWord::Time, "timestamp"),
            (PlainWord::Decimal, "decimal"),
            (PlainWord::Number, "int"),
            (PlainWord::Fraction, "float"),
        ],
        plain_default: Some(("default", Actor::Database)),
        ..Details::USUAL
    },
};
