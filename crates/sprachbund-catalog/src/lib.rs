//! Live databases into the neutral schema.
//!
//! A session is read-only and has time limits (`talk`). A fixed number of queries asks a
//! server's catalog for its own words on tables, columns, constraints and indexes; they are put
//! together as a script, which the SQL dialect reads as any other. One file for each server:
//! `postgresql`, `mariadb`, `mysql` (what these two share in `information_schema`), `sqlite`.
//! [`address`] takes URLs apart; a password is in no message.
//!
//! The servers' clients are a third of what a first build costs, so they are a feature (`clients`):
//! a build without them knows an address when it sees one, and says what is missing.

mod address;
#[cfg(feature = "clients")]
mod clients;
#[cfg(feature = "clients")]
mod information_schema;
#[cfg(feature = "clients")]
mod mariadb;
#[cfg(feature = "clients")]
mod mysql;
mod patience;
#[cfg(feature = "clients")]
mod postgresql;
#[cfg(feature = "clients")]
mod sqlite;
#[cfg(feature = "clients")]
mod talk;
#[cfg(feature = "clients")]
mod tls;

use sprachbund_core::diagnostic::Diagnostic;
use sprachbund_core::schema::Schema;

pub use address::AddressText;
#[cfg(feature = "clients")]
pub use clients::{queries, read};
pub use patience::Patience;

/// What is read of a database.
#[derive(Clone, Debug, Default)]
pub struct Wanted {
    /// Named schemas (PostgreSQL); the first of the search path when empty.
    pub namespaces: Vec<String>,
    pub patience: Patience,
}

/// Why a database could not be read. No text holds a password.
#[derive(Clone, Debug, thiserror::Error, PartialEq, Eq)]
pub enum CatalogError {
    #[error(
        "`{address}` is not the address of a database: {why}; expected one such as \
         postgresql://user@host:5432/name, mariadb://user@host/name or sqlite:harbour.db"
    )]
    Address { address: String, why: String },
    #[error(
        "{address} is a live database, and this build reads none: build it with `--features \
         databases`, or give a dump of it"
    )]
    NoClients { address: String },
    #[error("{address} cannot be reached: {why}; check host and port, and that the server runs")]
    Unreachable { address: String, why: String },
    #[error(
        "{address} refused the login: {why}; give the password by PGPASSWORD, MYSQL_PWD or the \
         server's password file"
    )]
    Login { address: String, why: String },
    #[error("{address}: there is no such database: {why}")]
    NoDatabase { address: String, why: String },
    #[error(
        "{address}: a right is missing: {why}; reading needs no more than SELECT on the catalog"
    )]
    Right { address: String, why: String },
    #[error("{address}: {server} is too old; {needed} or later is read")]
    TooOld { address: String, server: String, needed: &'static str },
    #[error("{address}: the connection broke or a query failed: {why}")]
    Broken { address: String, why: String },
    #[error(
        "{address}: no answer within {seconds} seconds (while {step}); raise `{limit}` under \
         [connection] in sprachbund.toml"
    )]
    Silent { address: String, step: String, seconds: u64, limit: &'static str },
}

#[cfg(feature = "clients")]
impl CatalogError {
    /// The same with `change` made to what the server said.
    fn with_words(mut self, change: impl Fn(&str) -> String) -> Self {
        match &mut self {
            CatalogError::Address { why, .. }
            | CatalogError::Unreachable { why, .. }
            | CatalogError::Login { why, .. }
            | CatalogError::NoDatabase { why, .. }
            | CatalogError::Right { why, .. }
            | CatalogError::Broken { why, .. }
            | CatalogError::TooOld { server: why, .. } => *why = change(why),
            CatalogError::Silent { .. } | CatalogError::NoClients { .. } => {}
        }
        self
    }
}

/// A database as it was found.
pub struct FoundDatabase {
    pub schema: Schema,
    /// The server's release, where it says one that matters.
    pub release: Option<(u32, u32)>,
    pub diagnostics: Vec<Diagnostic>,
    /// The script that its catalog was put together to, for excerpts.
    pub sources: sprachbund_core::source::Sources,
}

/// Reads no database: the servers' clients are not built in.
///
/// # Errors
/// Always [`CatalogError::NoClients`].
#[cfg(not(feature = "clients"))]
pub fn read(
    address: &AddressText,
    _: &Wanted,
    _: &sprachbund_core::dialect::Settings,
    _: &dyn Fn(&str, u64),
) -> Result<FoundDatabase, CatalogError> {
    Err(CatalogError::NoClients { address: address.to_string() })
}
