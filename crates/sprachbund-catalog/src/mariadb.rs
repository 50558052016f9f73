//! The catalog of MariaDB and MySQL: `information_schema` (documentation, "Information Schema
//! Tables"). Seven queries, whatever the number of tables.

use std::collections::{BTreeMap, HashMap};
use std::fmt::Write;

use mysql::prelude::Queryable;
use mysql::{Conn, Error, OptsBuilder, Row, SslOpts};
use sprachbund_core::schema::Database;

use crate::address::{Address, Password, Tls};
use crate::clients::Script;
use crate::talk::CONNECTING;
use crate::{CatalogError, Wanted, tls};

const TABLES: &str =
    "SELECT table_name, table_comment, table_collation FROM information_schema.tables
    WHERE table_schema = DATABASE() AND table_type = 'BASE TABLE' ORDER BY create_time, table_name";

const COLUMNS: &str =
    "SELECT table_name, column_name, column_type, is_nullable, column_default, extra, \
         column_comment, generation_expression,
        collation_name
    FROM information_schema.columns WHERE table_schema = DATABASE() ORDER BY table_name, \
         ordinal_position";

const INDEXES: &str =
    "SELECT table_name, index_name, non_unique, column_name, collation, index_type, \
         sub_part FROM information_schema.statistics
    WHERE table_schema = DATABASE() ORDER BY table_name, index_name, seq_in_index";

const KEYS: &str = "SELECT table_name, constraint_name, column_name, referenced_table_name, \
     referenced_column_name
    FROM information_schema.key_column_usage
    WHERE table_schema = DATABASE() AND referenced_table_name IS NOT NULL ORDER BY table_name, \
     constraint_name, ordinal_position";

/// Asked for apart: MariaDB joins its catalog row by row.
const RULES: &str = "SELECT table_name, constraint_name, delete_rule, update_rule FROM \
     information_schema.referential_constraints
    WHERE constraint_schema = DATABASE()";

const CHECKS_OF_MARIADB: &str =
    "SELECT table_name, constraint_name, check_clause FROM information_schema.check_constraints
    WHERE constraint_schema = DATABASE() ORDER BY table_name, constraint_name";

const CHECKS_OF_MYSQL: &str = "SELECT t.table_name, c.constraint_name, c.check_clause FROM \
     information_schema.check_constraints c
    JOIN information_schema.table_constraints t ON t.constraint_schema = c.constraint_schema AND \
     t.constraint_name = c.constraint_name
    WHERE c.constraint_schema = DATABASE() ORDER BY t.table_name, c.constraint_name";

/// Oldest versions that are read: before them there are no checks in the catalog.
const OLDEST: [(Database, (u32, u32), &str); 2] =
    [(Database::MariaDb, (10, 5), "MariaDB 10.5"), (Database::MySql, (8, 0), "MySQL 8.0")];

/// The queries that MariaDB is asked.
pub(crate) fn queries() -> Vec<String> {
    ["SELECT VERSION()", TABLES, COLUMNS, INDEXES, KEYS, RULES, CHECKS_OF_MARIADB]
        .map(str::to_owned)
        .to_vec()
}

pub(crate) fn script(
    address: &Address,
    wanted: &Wanted,
    progress: &dyn Fn(&str),
) -> Result<Script, CatalogError> {
    progress(CONNECTING);
    let fault = |error: Error| failed(address, &error);
    let mut session = connect(address, wanted).map_err(fault)?;
    progress("version");
    let version: String =
        session.query_first("SELECT VERSION()").map_err(fault)?.unwrap_or_default();
    let database = if version.contains("MariaDB") { Database::MariaDb } else { Database::MySql };
    if let Some(needed) = newer_than(&version, database) {
        return Err(CatalogError::TooOld {
            address: address.shown.clone(),
            server: version,
            needed,
        });
    }
    let limit = match database {
        Database::MariaDb => {
            format!("SET SESSION max_statement_time = {}", wanted.patience.answer.as_secs())
        }
        _ => format!("SET SESSION max_execution_time = {}", wanted.patience.answer.as_millis()),
    };
    session.query_drop(limit).map_err(fault)?;
    session.query_drop("START TRANSACTION WITH CONSISTENT SNAPSHOT, READ ONLY").map_err(fault)?;
    let mut ask = |what: &str, query: &str| -> Result<Vec<Row>, CatalogError> {
        progress(what);
        session.query(query).map_err(fault)
    };
    let (tables, columns, indexes) =
        (ask("tables", TABLES)?, ask("columns", COLUMNS)?, ask("indexes", INDEXES)?);
    let keys = references(&ask("foreign keys", KEYS)?, &ask("actions of foreign keys", RULES)?);
    let checks = ask(
        "checks",
        if database == Database::MariaDb { CHECKS_OF_MARIADB } else { CHECKS_OF_MYSQL },
    )?;
    let text = put_together(&tables, &columns, &indexes, &keys, &checks, database);
    Ok(Script { text, database, release: Some(number(&version)), children: Vec::new() })
}

fn connect(address: &Address, wanted: &Wanted) -> Result<Conn, Error> {
    let options = |secure: bool| {
        OptsBuilder::new()
            .ip_or_hostname(Some(&address.host))
            .tcp_port(address.port.unwrap_or(3306))
            .user(Some(&address.user))
            .pass(address.password.as_ref().map(Password::reveal))
            .db_name(Some(&address.name))
            // The way that the address names, not another one that the server tells of.
            .prefer_socket(false)
            .tcp_connect_timeout(Some(wanted.patience.connect))
            // Later than the answer's own limit, which says better what happened.
            .read_timeout(Some(wanted.patience.answer.saturating_mul(2)))
            .ssl_opts(secure.then(|| match address.tls {
                Tls::Required => SslOpts::default().with_root_cert_path(tls::bundle()),
                Tls::Offered | Tls::Off => {
                    SslOpts::default().with_danger_accept_invalid_certs(true)
                }
            }))
    };
    match address.tls {
        Tls::Required => Conn::new(options(true)),
        Tls::Off => Conn::new(options(false)),
        // A server without TLS refuses to begin it: then the talk is in the clear, as it was asked
        // for.
        Tls::Offered => match Conn::new(options(true)) {
            Err(Error::DriverError(mysql::DriverError::TlsNotSupported)) => {
                Conn::new(options(false))
            }
            done => done,
        },
    }
}

/// The oldest version that is read, if this one is older.
fn newer_than(version: &str, database: Database) -> Option<&'static str> {
    let (_, oldest, needed) = OLDEST.iter().find(|(known, ..)| *known == database)?;
    (number(version) < *oldest).then_some(*needed)
}

/// `10.11.19-MariaDB` as (10, 11).
fn number(version: &str) -> (u32, u32) {
    let mut parts =
        version.split(|letter: char| !letter.is_ascii_digit()).filter_map(|part| part.parse().ok());
    (parts.next().unwrap_or(0), parts.next().unwrap_or(0))
}

fn text(row: &Row, at: usize) -> String {
    maybe(row, at).unwrap_or_default()
}

fn maybe(row: &Row, at: usize) -> Option<String> {
    match row.as_ref(at)? {
        mysql::Value::NULL => None,
        mysql::Value::Bytes(bytes) => Some(String::from_utf8_lossy(bytes).into_owned()),
        mysql::Value::Int(number) => Some(number.to_string()),
        mysql::Value::UInt(number) => Some(number.to_string()),
        other => Some(other.as_sql(true).trim_matches('\'').to_owned()),
    }
}

fn quoted(name: &str) -> String {
    format!("`{}`", name.replace('`', "``"))
}

fn literal(text: &str) -> String {
    format!("'{}'", text.replace('\\', "\\\\").replace('\'', "''"))
}

fn put_together(
    tables: &[Row],
    columns: &[Row],
    indexes: &[Row],
    keys: &[Reference],
    checks: &[Row],
    database: Database,
) -> String {
    let mut lines: BTreeMap<String, Vec<String>> = BTreeMap::new();
    let usual: BTreeMap<String, String> =
        tables.iter().map(|row| (text(row, 0), text(row, 2))).collect();
    for row in columns {
        let table = text(row, 0);
        let collation = maybe(row, 8).filter(|collation| usual.get(&table) != Some(collation));
        lines.entry(table).or_default().push(column(row, collation, database));
    }
    for (table, name, unique, method, parts) in indexed(indexes) {
        let word = match (name.as_str(), unique, method.as_str()) {
            ("PRIMARY", ..) => "PRIMARY KEY".to_owned(),
            (name, true, _) => format!("UNIQUE KEY {}", quoted(name)),
            (name, false, "FULLTEXT") => format!("FULLTEXT KEY {}", quoted(name)),
            (name, false, "SPATIAL") => format!("SPATIAL KEY {}", quoted(name)),
            (name, false, _) => format!("KEY {}", quoted(name)),
        };
        lines.entry(table).or_default().push(format!("{word} ({})", parts.join(", ")));
    }
    for row in checks {
        lines.entry(text(row, 0)).or_default().push(format!(
            "CONSTRAINT {} CHECK ({})",
            quoted(&text(row, 1)),
            text(row, 2)
        ));
    }
    let mut out = String::new();
    for row in tables {
        let (name, comment) = (text(row, 0), text(row, 1));
        let options = if comment.is_empty() {
            String::new()
        } else {
            format!(" COMMENT={}", literal(&comment))
        };
        let _ = writeln!(
            out,
            "CREATE TABLE {} (\n    {}\n){options};",
            quoted(&name),
            lines.remove(&name).unwrap_or_default().join(",\n    ")
        );
    }
    for (table, name, columns, target, referred, on_delete, on_update) in keys {
        let names =
            |names: &[String]| names.iter().map(|name| quoted(name)).collect::<Vec<_>>().join(", ");
        let _ = writeln!(
            out,
            "ALTER TABLE {} ADD CONSTRAINT {} FOREIGN KEY ({}) REFERENCES {} ({}) ON DELETE \
             {on_delete} ON UPDATE {on_update};",
            quoted(table),
            quoted(name),
            names(columns),
            quoted(target),
            names(referred)
        );
    }
    out
}

fn column(row: &Row, collation: Option<String>, database: Database) -> String {
    let (ty, extra, comment, generated) =
        (text(row, 2), text(row, 5).to_lowercase(), text(row, 6), text(row, 7));
    let mut out = format!("{} {ty}", quoted(&text(row, 1)));
    // A text of JSON has a collation of its own.
    if let Some(collation) =
        collation.filter(|collation| !(ty == "longtext" && collation == "utf8mb4_bin"))
    {
        let _ = write!(out, " COLLATE {collation}");
    }
    if !generated.is_empty() {
        let kind = if extra.contains("virtual") { "VIRTUAL" } else { "STORED" };
        let _ = write!(out, " GENERATED ALWAYS AS ({generated}) {kind}");
    } else if let Some(default) = maybe(row, 4).filter(|default| default != "NULL") {
        let _ = write!(out, " DEFAULT {}", default_text(&default, &ty, &extra, database));
    }
    out.push_str(if extra.contains("auto_increment") { " AUTO_INCREMENT" } else { "" });
    if let Some((_, update)) = extra.split_once("on update ") {
        let _ = write!(out, " ON UPDATE {}", update.trim_end_matches("()"));
    }
    out.push_str(if text(row, 3) == "NO" { " NOT NULL" } else { " NULL" });
    if !comment.is_empty() {
        let _ = write!(out, " COMMENT {}", literal(&comment));
    }
    out
}

/// MariaDB gives a default as SQL; MySQL gives its text, and says apart when it is an expression.
fn default_text(default: &str, ty: &str, extra: &str, database: Database) -> String {
    let moment = default.to_lowercase().starts_with("current_timestamp");
    let number = ["int", "decimal", "float", "double", "bit"].iter().any(|word| ty.contains(word));
    match database {
        Database::MySql if extra.contains("default_generated") && !moment => format!("({default})"),
        Database::MySql if !number && !moment => literal(default),
        _ if moment => default.trim_end_matches("()").to_owned(),
        _ => default.to_owned(),
    }
}

type Indexed = (String, String, bool, String, Vec<String>);

fn indexed(rows: &[Row]) -> Vec<Indexed> {
    let mut found: Vec<Indexed> = Vec::new();
    for row in rows {
        let head = maybe(row, 6).map_or(String::new(), |letters| format!("({letters})"));
        let part = format!(
            "{}{head}{}",
            quoted(&text(row, 3)),
            if text(row, 4) == "D" { " DESC" } else { "" }
        );
        let (table, name) = (text(row, 0), text(row, 1));
        match found.last_mut().filter(|last| last.0 == table && last.1 == name) {
            Some(last) => last.4.push(part),
            None => found.push((table, name, text(row, 2) == "0", text(row, 5), vec![part])),
        }
    }
    found
}

type Reference = (String, String, Vec<String>, String, Vec<String>, String, String);

fn references(rows: &[Row], rules: &[Row]) -> Vec<Reference> {
    let rules: HashMap<(String, String), (String, String)> = rules
        .iter()
        .map(|row| ((text(row, 0), text(row, 1)), (text(row, 2), text(row, 3))))
        .collect();
    let mut found: Vec<Reference> = Vec::new();
    for row in rows {
        let (table, name) = (text(row, 0), text(row, 1));
        match found.last_mut().filter(|last| last.0 == table && last.1 == name) {
            Some(last) => {
                last.2.push(text(row, 2));
                last.4.push(text(row, 4));
            }
            None => {
                let key = (table, name);
                let (on_delete, on_update) = rules
                    .get(&key)
                    .cloned()
                    .unwrap_or_else(|| ("NO ACTION".into(), "NO ACTION".into()));
                found.push((
                    key.0,
                    key.1,
                    vec![text(row, 2)],
                    text(row, 3),
                    vec![text(row, 4)],
                    on_delete,
                    on_update,
                ));
            }
        }
    }
    found
}

/// What went wrong, by the server's number (documentation, "Error Codes").
fn failed(address: &Address, error: &Error) -> CatalogError {
    let address = address.shown.clone();
    match error {
        Error::MySqlError(error) => {
            let why = error.message.clone();
            match error.code {
                1044 | 1142 | 1143 | 1227 => CatalogError::Right { address, why },
                1045 | 1698 => CatalogError::Login { address, why },
                1049 => CatalogError::NoDatabase { address, why },
                _ => CatalogError::Broken { address, why },
            }
        }
        Error::DriverError(error) => CatalogError::Unreachable { address, why: error.to_string() },
        other => CatalogError::Broken { address, why: other.to_string() },
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn servers_that_are_too_old() {
        for (version, database, needed) in [
            ("10.11.19-MariaDB-0+deb12u1", Database::MariaDb, None),
            ("10.5.1-MariaDB", Database::MariaDb, None),
            ("10.4.34-MariaDB", Database::MariaDb, Some("MariaDB 10.5")),
            ("5.5.5-MariaDB", Database::MariaDb, Some("MariaDB 10.5")),
            ("8.0.36", Database::MySql, None),
            ("8.4.3", Database::MySql, None),
            ("5.7.44-log", Database::MySql, Some("MySQL 8.0")),
            ("", Database::MySql, Some("MySQL 8.0")),
        ] {
            assert_eq!(newer_than(version, database), needed, "{version}");
        }
    }
}
