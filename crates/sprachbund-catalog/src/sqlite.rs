//! SQLite keeps the statements that made its tables (documentation, "The Schema Table").

use rusqlite::{Connection, OpenFlags};
use sprachbund_core::schema::Database;

use crate::CatalogError;
use crate::address::Address;
use crate::clients::Script;

pub(crate) const STATEMENTS: &str = "SELECT sql FROM sqlite_master WHERE sql IS NOT NULL AND \
                                     type IN ('table', 'index', 'view') AND name NOT LIKE \
                                     'sqlite\\_%' ESCAPE '\\' ORDER BY rowid";

pub(crate) fn script(address: &Address, progress: &dyn Fn(&str)) -> Result<Script, CatalogError> {
    if !std::path::Path::new(&address.name).is_file() {
        return Err(CatalogError::NoDatabase {
            address: address.shown.clone(),
            why: "there is no such file".into(),
        });
    }
    let broken = |error: rusqlite::Error| CatalogError::Broken {
        address: address.shown.clone(),
        why: error.to_string(),
    };
    let connection = Connection::open_with_flags(&address.name, OpenFlags::SQLITE_OPEN_READ_ONLY)
        .map_err(broken)?;
    progress("statements");
    let mut statement = connection.prepare(STATEMENTS).map_err(broken)?;
    let texts = statement.query_map([], |row| row.get::<_, String>(0)).map_err(broken)?;
    let mut text = String::new();
    for statement in texts {
        text.push_str(&statement.map_err(broken)?);
        text.push_str(";\n");
    }
    Ok(Script { text, database: Database::Sqlite, release: None, children: Vec::new() })
}
