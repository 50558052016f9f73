//! The talk with a server, whichever it is.

use sprachbund_core::dialect::{Settings, remarks};
use sprachbund_core::dialects::by_id;
use sprachbund_core::reading;
use sprachbund_core::schema::Database;

use crate::address::Address;
use crate::{
    AddressText, CatalogError, FoundDatabase, Wanted, information_schema, mariadb, mysql,
    postgresql, sqlite, talk,
};

/// Reads a database. `progress` is told what is being asked for, and for how many seconds it has
/// been waited for.
///
/// # Errors
/// When it is no address of a known server, and each way in which a server can be out of reach;
/// see [`CatalogError`].
pub fn read(
    address: &AddressText,
    wanted: &Wanted,
    settings: &Settings,
    progress: &dyn Fn(&str, u64),
) -> Result<FoundDatabase, CatalogError> {
    let address = &Address::of(address)?;
    if address.database == Database::MongoDb {
        let why =
            "a collection of MongoDB declares nothing that could be read; give the schemas of \
             the application"
                .to_owned();
        return Err(CatalogError::Address { address: address.shown.clone(), why });
    }
    let script = talk::within(address, wanted, progress, |address, wanted, progress| match address
        .database
    {
        Database::PostgreSql => postgresql::script(address, wanted, progress),
        Database::MySql | Database::MariaDb => {
            information_schema::script(address, wanted, progress)
        }
        Database::Sqlite | Database::MongoDb => sqlite::script(address, progress),
    });
    // A server may repeat the password that it was sent.
    let hidden = |words: &str| {
        address
            .password
            .as_ref()
            .map_or_else(|| words.to_owned(), |password| password.taken_out(words))
    };
    let script = script.map_err(|error| error.with_words(hidden))?;
    progress("reading what was found", 0);
    let mut settings = Settings {
        database: Some(script.database),
        server_release: script.release,
        ..settings.clone()
    };
    let dialect = by_id("sql").expect("the SQL dialect is always there");
    let reading::Reading { schema, mut diagnostics, sources } =
        reading::read_scripts(vec![(address.shown.clone(), script.text)], dialect, &mut settings);
    diagnostics
        .extend(script.children.iter().map(|(child, parent)| remarks::inherits(child, parent)));
    Ok(FoundDatabase { schema, release: script.release, diagnostics, sources })
}

/// The queries that are asked of a server's catalog, for its usual schema; fewer than ten, whatever
/// the number of tables.
pub fn queries(database: Database) -> Vec<String> {
    match database {
        Database::PostgreSql => postgresql::queries(),
        Database::MySql => mysql::CATALOG.queries(),
        Database::MariaDb => mariadb::CATALOG.queries(),
        Database::Sqlite => vec![sqlite::STATEMENTS.to_owned()],
        Database::MongoDb => Vec::new(),
    }
}

/// A catalog as a script.
pub(crate) struct Script {
    pub(crate) text: String,
    /// The server that answered: MariaDB and MySQL are told apart by their version.
    pub(crate) database: Database,
    /// Its release, where it says one that matters.
    pub(crate) release: Option<(u32, u32)>,
    /// Tables that inherit from another, and that other.
    pub(crate) children: Vec<(String, String)>,
}
