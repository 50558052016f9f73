//! ActiveRecord: models over the tables that migrations make. Seen of releases 6.1.7.10 to 8.1.4 on
//! PostgreSQL 17, MariaDB 11.8, MySQL 9.7 and SQLite 3.

mod bracket;
mod codes;
mod conventions;
mod inflection;
mod names;
mod print;
mod read;
mod types;

use sprachbund_dialect::{declaration, dialect, history, resolve};
use sprachbund_host as host;
use sprachbund_schema::{diagnostic, quoting, schema, source};

use crate::dialect::{Details, Dialect, Medium};
use crate::host::ruby::RUBY;
use crate::schema::Database;

/// The registry entry.
pub const DIALECT: Dialect = Dialect {
    id: "activerecord",
    framework: "ActiveRecord",
    versions: &["8.1", "8.0", "7.2", "7.1", "7.0", "6.1"],
    databases: &[Database::PostgreSql, Database::MySql, Database::MariaDb, Database::Sqlite],
    unverified: &[],
    language: &RUBY,
    extensions: &["rb"],
    marks: &["class ", "module ", "ActiveRecord", "ActiveSupport"],
    signs: &["ActiveRecord", "ApplicationRecord"],
    conventions: conventions::conventions,
    capabilities: conventions::capabilities,
    medium: Medium::Classes { read: read::read, print: print::print },
    details: Details {
        codes: codes::CODES,
        packages: &["activerecord", "rails"],
        ..Details::USUAL
    },
};
