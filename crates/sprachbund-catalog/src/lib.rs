//! Live databases into the neutral schema.
//!
//! A session is read-only and has time limits ([`patience`]). A fixed number of queries asks a server's catalog for its own words on
//! tables, columns, constraints and indexes; they are put together as a script, which the SQL dialect reads as any
//! other. One file for each server: [`postgresql`], [`mariadb`] (MySQL too), [`sqlite`]. [`address`] takes URLs apart;
//! a password is in no message.

mod address;
mod mariadb;
mod patience;
mod postgresql;
mod sqlite;
mod tls;

use sprachbund_core::diagnostic::Diagnostic;
use sprachbund_core::dialect::Settings;
use sprachbund_core::dialects::by_id;
use sprachbund_core::reading;
use sprachbund_core::schema::{Database, Schema};

pub use address::{Address, AddressText};
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
        "`{address}` is not the address of a database: {why}; expected one such as postgresql://user@host:5432/name, mariadb://user@host/name or sqlite:harbour.db"
    )]
    Address { address: String, why: String },
    #[error("{address} cannot be reached: {why}; check host and port, and that the server runs")]
    Unreachable { address: String, why: String },
    #[error("{address} refused the login: {why}; give the password by PGPASSWORD, MYSQL_PWD or the server's password file")]
    Login { address: String, why: String },
    #[error("{address}: there is no such database: {why}")]
    NoDatabase { address: String, why: String },
    #[error("{address}: a right is missing: {why}; reading needs no more than SELECT on the catalog")]
    Right { address: String, why: String },
    #[error("{address}: {server} is too old; {needed} or later is read")]
    TooOld { address: String, server: String, needed: &'static str },
    #[error("{address}: the connection broke or a query failed: {why}")]
    Broken { address: String, why: String },
    #[error("{address}: no answer within {seconds} seconds (while {step}); raise `{limit}` under [connection] in sprachbund.toml")]
    Silent { address: String, step: String, seconds: u64, limit: &'static str },
}

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
            CatalogError::Silent { .. } => {}
        }
        self
    }
}

/// A database as it was found.
pub struct Found {
    pub schema: Schema,
    /// The server's release, where it says one that matters.
    pub release: Option<(u32, u32)>,
    pub diagnostics: Vec<Diagnostic>,
    /// The script that its catalog was put together to, for excerpts.
    pub sources: sprachbund_core::source::Sources,
}

/// Reads a database. `progress` is told what is being asked for, and for how many seconds it has been waited for.
///
/// # Errors
/// Each way in which a server can be out of reach; see [`CatalogError`].
pub fn read(address: &Address, wanted: &Wanted, settings: &Settings, progress: &dyn Fn(&str, u64)) -> Result<Found, CatalogError> {
    if address.database == Database::MongoDb {
        let why = "a collection of MongoDB declares nothing that could be read; give the schemas of the application".to_owned();
        return Err(CatalogError::Address { address: address.shown.clone(), why });
    }
    let script = patience::within(address, wanted, progress, |address, wanted, progress| match address.database {
        Database::PostgreSql => postgresql::script(address, wanted, progress),
        Database::MySql | Database::MariaDb => mariadb::script(address, wanted, progress),
        Database::Sqlite | Database::MongoDb => sqlite::script(address, progress),
    });
    // A server may repeat the password that it was sent.
    let hidden = |words: &str| address.password.as_ref().map_or_else(|| words.to_owned(), |password| password.taken_out(words));
    let script = script.map_err(|error| error.with_words(hidden))?;
    progress("reading what was found", 0);
    let mut settings = Settings { database: Some(script.database), server_release: script.release, ..settings.clone() };
    let dialect = by_id("sql").expect("the SQL dialect is always there");
    let reading::Reading { schema, mut diagnostics, sources } =
        reading::read_scripts(vec![(address.shown.clone(), script.text)], dialect, &mut settings);
    diagnostics.extend(script.children.iter().map(|(child, parent)| sprachbund_core::dialect::remarks::inherits(child, parent)));
    Ok(Found { schema, release: script.release, diagnostics, sources })
}

/// The queries that are asked of a server's catalog, for its usual schema; fewer than ten, whatever the number of tables.
pub fn queries(database: Database) -> Vec<String> {
    match database {
        Database::PostgreSql => postgresql::queries(),
        Database::MySql | Database::MariaDb => mariadb::queries(),
        Database::Sqlite => vec![sqlite::STATEMENTS.to_owned()],
        Database::MongoDb => Vec::new(),
    }
}

/// A catalog as a script.
struct Script {
    text: String,
    /// The server that answered: MariaDB and MySQL are told apart by their version.
    database: Database,
    /// Its release, where it says one that matters.
    release: Option<(u32, u32)>,
    /// Tables that inherit from another, and that other.
    children: Vec<(String, String)>,
}
