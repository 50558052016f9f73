//! Prisma schema files. Checked against the schema engine of Prisma 7.10 (its validation, its
//! layout and the SQL that it would run), whose SQL was made on PostgreSQL 15 and SQLite 3.40 (see
//! `conformance/`). The engine that npm carries has no SQL for MariaDB and MySQL: what it is there
//! follows Prisma's documentation, unverified; the types are validated.

mod codes;
mod conventions;
mod language;
mod literal;
mod moment;
pub(crate) mod print;
mod read;
mod types;

use sprachbund_dialect::{declaration, dialect};
use sprachbund_host as host;
use sprachbund_schema::{diagnostic, quoting, schema, source};

use crate::dialect::conventions::Actor;
use crate::dialect::{Details, Dialect, Medium, PlainWord, Settings};
use crate::host::language::Reserved;
use crate::schema::{Database, EnforcedBy, Schema};

/// The file of a schema that says what holds for all of it, without its ending.
const PROJECT_FILE: &str = "schema";

/// The named schema of what names none: the one in which PostgreSQL looks first.
const SILENT_NAMESPACE: &str = "public";

/// The registry entry.
pub const DIALECT: Dialect = Dialect {
    id: "prisma",
    framework: "Prisma",
    versions: &["7", "6", "5"],
    databases: &[Database::PostgreSql, Database::MySql, Database::MariaDb, Database::Sqlite],
    unverified: &[Database::MySql, Database::MariaDb],
    language: &language::PRISMA,
    extensions: &["prisma"],
    marks: &["model", "view", "enum", "datasource"],
    signs: &["model", "view", "enum", "datasource"],
    conventions: conventions::conventions,
    capabilities: conventions::capabilities,
    medium: Medium::Classes { read: read::read, print: print::print },
    details: Details {
        codes: codes::CODES,
        packages: &["prisma", "@prisma/client"],
        names: Reserved {
            classes: &[
                "BigInt",
                "Boolean",
                "Bytes",
                "DateTime",
                "Decimal",
                "Float",
                "Int",
                "Json",
                "Prisma",
                "PrismaClient",
                "String",
                "Unsupported",
            ],
            modules: &[PROJECT_FILE],
            ..Reserved::NOTHING
        },
        project_settings: read::settings,
        target_settings,
        example_head: "datasource db {\n  provider = \"postgresql\"\n}\n\n",
        plain_words: &[
            (PlainWord::Text, "String"),
            (PlainWord::Time, "DateTime"),
            (PlainWord::Decimal, "Decimal"),
            (PlainWord::Number, "Int"),
            (PlainWord::Fraction, "Float"),
        ],
        plain_default: Some(("@default", Actor::Database)),
        ..Details::USUAL
    },
};

/// Foreign keys are said for all relations at once: there are none where the schema has none.
fn target_settings(schema: &Schema, settings: &mut Settings) {
    let mut keys = schema
        .entities
        .iter()
        .filter(|entity| entity.mapped.code)
        .flat_map(|entity| &entity.foreign_keys)
        .peekable();
    let any = keys.peek().is_some();
    let unenforced = any && keys.all(|key| key.enforced == EnforcedBy::Application);
    settings.references_enforced = settings.references_enforced.or(unenforced.then_some(false));
}
