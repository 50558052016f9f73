//! SQLAlchemy mappings, those of its Flask extension, and classes that are validated and mapped at
//! once. Checked against SQLAlchemy 2.0.58, Flask-SQLAlchemy 3.1.1 and SQLModel 0.0.50 on
//! PostgreSQL 15, MariaDB 10.11 and SQLite 3.40 (see `conformance/`).

mod codes;
mod conventions;
pub(crate) mod print;
mod read;
mod types;

use sprachbund_dialect::{declaration, dialect};
use sprachbund_host as host;
use sprachbund_schema::{diagnostic, quoting, schema, source};

use crate::dialect::conventions::Actor;
use crate::dialect::{Details, Dialect, Medium, PlainWord};
use crate::host::language::Reserved;
use crate::host::python::PYTHON;
use crate::schema::Database;

/// The style of columns without types of the code.
const CLASSIC: &str = "classic";

/// The registry entry.
pub const DIALECT: Dialect = Dialect {
    id: "sqlalchemy",
    framework: "SQLAlchemy",
    versions: &["2.1", "2.0", "1.4"],
    databases: &[Database::PostgreSql, Database::MySql, Database::MariaDb, Database::Sqlite],
    unverified: &[],
    language: &PYTHON,
    extensions: &["py"],
    marks: &[
        "mapped_column(",
        "Column(",
        "Mapped[",
        "DeclarativeBase",
        "declarative_base",
        ".Model)",
        "SQLModel",
        "relationship(",
        "Table(",
        "down_revision",
    ],
    signs: &["sqlalchemy", "sqlmodel"],
    conventions: conventions::conventions,
    capabilities: conventions::capabilities,
    medium: Medium::Classes { read: read::read, print: print::print },
    details: Details {
        codes: codes::CODES,
        packages: &["sqlalchemy"],
        names: Reserved {
            // What a declarative class has of itself, and what the printed files import.
            members: &[
                "metadata",
                "registry",
                "sa",
                "datetime",
                "enum",
                "postgresql",
                "mysql",
                "Any",
                "Base",
                "Decimal",
                "Mapped",
                "Optional",
                "UUID",
                "bool",
                "bytes",
                "dict",
                "float",
                "int",
                "list",
                "str",
                "mapped_column",
                "relationship",
                "uuid4",
            ],
            classes: &["Any", "Base", "Decimal", "Mapped", "Optional", "UUID"],
            ..Reserved::NOTHING
        },
        styles: &["typed", CLASSIC],
        is_framework,
        plain_words: &[
            (PlainWord::Text, "String"),
            (PlainWord::Time, "DateTime"),
            (PlainWord::Decimal, "Numeric"),
            (PlainWord::Number, "Integer"),
            (PlainWord::Fraction, "Float"),
        ],
        plain_default: Some(("default", Actor::Application)),
        ..Details::USUAL
    },
};

/// The package itself and those that build on it, which are known by name.
fn is_framework(module: &str) -> bool {
    let package = module.split('.').next().unwrap_or_default();
    matches!(
        package,
        "sqlalchemy"
            | "sqlmodel"
            | "flask_sqlalchemy"
            | "typing"
            | "typing_extensions"
            | "datetime"
            | "enum"
            | "decimal"
            | "uuid"
    )
}
