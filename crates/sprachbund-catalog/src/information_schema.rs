//! `information_schema` of MariaDB and MySQL (documentation, "Information Schema Tables"): what the
//! two share. Seven queries, whatever the number of tables. Where they differ is a [`Catalog`], one
//! in the room of each.

use std::collections::{BTreeMap, HashMap};
use std::fmt::Write;
use std::time::Duration;

use ::mysql::prelude::Queryable;
use ::mysql::{Conn, DriverError, Error, OptsBuilder, Row, SslOpts, Value};
use sprachbund_core::schema::Database;

use crate::address::{Address, Password, Tls};
use crate::clients::Script;
use crate::talk::CONNECTING;
use crate::{CatalogError, Wanted, mariadb, mysql, tls};

/// Where the catalogs of the two differ.
pub(crate) struct Catalog {
    pub(crate) database: Database,
    /// Oldest release that is read: before it there are no checks in the catalog.
    pub(crate) oldest: ((u32, u32), &'static str),
    /// Columns as those of [`Column`].
    pub(crate) columns: &'static str,
    /// Table, name, whether it is not unique, column, direction, method, length of what is indexed,
    /// expression, whether queries do without it.
    pub(crate) indexes: &'static str,
    /// Table, name, expression, whether it is not enforced, whether it is of the column of its
    /// name.
    pub(crate) checks: &'static str,
    /// The statement that limits how long a statement may take.
    pub(crate) limit: fn(Duration) -> String,
    /// What stands behind `DEFAULT`; `Err` where the catalog cuts it, and only the statement of the
    /// table has it.
    pub(crate) default: fn(&Column) -> Result<Option<String>, CutShort>,
    /// An expression as statements write it.
    pub(crate) expression: fn(&str) -> String,
    /// What hides an index from queries.
    pub(crate) hidden_index: &'static str,
}

/// The catalog holds the beginning of a value only.
pub(crate) struct CutShort;

/// A column as the catalog has it.
pub(crate) struct Column {
    pub(crate) table: String,
    pub(crate) name: String,
    pub(crate) ty: String,
    pub(crate) nullable: bool,
    pub(crate) default: Option<String>,
    /// In small letters.
    pub(crate) extra: String,
    pub(crate) comment: String,
    pub(crate) generated: Option<String>,
    pub(crate) collation: Option<String>,
    /// The system of reference of a place.
    pub(crate) system: Option<String>,
}

impl Column {
    fn of(row: &Row) -> Column {
        Column {
            table: text(row, 0),
            name: text(row, 1),
            ty: text(row, 2),
            nullable: text(row, 3) != "NO",
            default: maybe(row, 4),
            extra: text(row, 5).to_lowercase(),
            comment: text(row, 6),
            generated: maybe(row, 7).filter(|expression| !expression.is_empty()),
            collation: maybe(row, 8),
            system: maybe(row, 9),
        }
    }

    /// The word of its type, without what stands behind.
    pub(crate) fn type_word(&self) -> &str {
        self.ty.split(|letter: char| !letter.is_ascii_alphanumeric()).next().unwrap_or_default()
    }
}

/// Views as well: they are named as left out.
const TABLES: &str =
    "SELECT table_name, table_comment, table_collation, table_type FROM information_schema.tables
    WHERE table_schema = DATABASE() AND table_type IN ('BASE TABLE', 'SYSTEM VERSIONED', 'VIEW')
    ORDER BY create_time, table_name";

const KEYS: &str = "SELECT table_name, constraint_name, column_name, referenced_table_name, \
     referenced_column_name
    FROM information_schema.key_column_usage
    WHERE table_schema = DATABASE() AND referenced_table_name IS NOT NULL ORDER BY table_name, \
     constraint_name, ordinal_position";

/// Asked for apart: MariaDB joins its catalog row by row.
const RULES: &str = "SELECT table_name, constraint_name, delete_rule, update_rule FROM \
     information_schema.referential_constraints
    WHERE constraint_schema = DATABASE()";

impl Catalog {
    /// The queries that the server is asked.
    pub(crate) fn queries(&self) -> Vec<String> {
        ["SELECT VERSION()", TABLES, self.columns, self.indexes, KEYS, RULES, self.checks]
            .map(str::to_owned)
            .to_vec()
    }

    /// The oldest version that is read, if this one is older.
    fn newer_than(&self, version: &str) -> Option<&'static str> {
        let (oldest, needed) = self.oldest;
        (number(version) < oldest).then_some(needed)
    }
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
    let catalog = if version.contains("MariaDB") { &mariadb::CATALOG } else { &mysql::CATALOG };
    if let Some(needed) = catalog.newer_than(&version) {
        return Err(CatalogError::TooOld {
            address: address.shown.clone(),
            server: version,
            needed,
        });
    }
    session.query_drop((catalog.limit)(wanted.patience.answer)).map_err(fault)?;
    session.query_drop("START TRANSACTION WITH CONSISTENT SNAPSHOT, READ ONLY").map_err(fault)?;
    let mut ask = |what: &str, query: &str| -> Result<Vec<Row>, CatalogError> {
        progress(what);
        session.query(query).map_err(fault)
    };
    let (tables, columns) = (ask("tables", TABLES)?, ask("columns", catalog.columns)?);
    let columns: Vec<Column> = columns.iter().map(Column::of).collect();
    let mut found = Found {
        tables,
        indexes: ask("indexes", catalog.indexes)?,
        keys: references(&ask("foreign keys", KEYS)?, &ask("actions of foreign keys", RULES)?),
        checks: ask("checks", catalog.checks)?,
        columns: Vec::new(),
    };
    for column in columns {
        let default = match (catalog.default)(&column) {
            Ok(default) => default,
            Err(CutShort) => {
                let table = format!("SHOW CREATE TABLE {}", quoted(&column.table));
                let statement = ask("the statement of a table", &table)?;
                statement.first().and_then(|row| shown_default(&text(row, 1), &column.name))
            }
        };
        found.columns.push((column, default));
    }
    let release = Some(number(&version));
    let text = put_together(catalog, found);
    Ok(Script { text, database: catalog.database, release, children: Vec::new() })
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
            Err(Error::DriverError(DriverError::TlsNotSupported)) => Conn::new(options(false)),
            done => done,
        },
    }
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
        Value::NULL => None,
        Value::Bytes(bytes) => Some(String::from_utf8_lossy(bytes).into_owned()),
        Value::Int(number) => Some(number.to_string()),
        Value::UInt(number) => Some(number.to_string()),
        other => Some(other.as_sql(true).trim_matches('\'').to_owned()),
    }
}

fn quoted(name: &str) -> String {
    format!("`{}`", name.replace('`', "``"))
}

pub(crate) fn literal(text: &str) -> String {
    format!("'{}'", text.replace('\\', "\\\\").replace('\'', "''"))
}

/// What the catalog holds of tables.
struct Found {
    tables: Vec<Row>,
    /// With what stands behind `DEFAULT`.
    columns: Vec<(Column, Option<String>)>,
    indexes: Vec<Row>,
    keys: Vec<Reference>,
    checks: Vec<Row>,
}

fn put_together(catalog: &Catalog, found: Found) -> String {
    let mut lines: BTreeMap<String, Vec<String>> = BTreeMap::new();
    let usual: BTreeMap<String, String> =
        found.tables.iter().map(|row| (text(row, 0), text(row, 2))).collect();
    // Checks of columns stand beside them: their names are those of the columns.
    let beside: HashMap<(String, String), String> = found
        .checks
        .iter()
        .filter(|row| text(row, 4) == "1")
        .map(|row| ((text(row, 0), text(row, 1)), check(catalog, row)))
        .collect();
    for (column, default) in found.columns {
        let at = (column.table.clone(), column.name.clone());
        let mut line = self::column(catalog, &column, default, usual.get(&column.table));
        if let Some(check) = beside.get(&at) {
            let _ = write!(line, " {check}");
        }
        lines.entry(column.table).or_default().push(line);
    }
    for index in indexed(catalog, &found.indexes) {
        lines.entry(index.table.clone()).or_default().push(index.line(catalog));
    }
    for row in found.checks.iter().filter(|row| text(row, 4) != "1") {
        let name = quoted(&text(row, 1));
        let line = format!("CONSTRAINT {name} {}", check(catalog, row));
        lines.entry(text(row, 0)).or_default().push(line);
    }
    let mut out = String::new();
    for row in &found.tables {
        let (name, comment, kind) = (text(row, 0), text(row, 1), text(row, 3));
        let name_in_quotes = quoted(&name);
        if kind == "VIEW" {
            let _ = writeln!(out, "CREATE VIEW {name_in_quotes} AS SELECT 1;");
            continue;
        }
        let mut options = String::new();
        if !comment.is_empty() {
            let _ = write!(options, " COMMENT={}", literal(&comment));
        }
        if kind == "SYSTEM VERSIONED" {
            options.push_str(" WITH SYSTEM VERSIONING");
        }
        let lines = lines.remove(&name).unwrap_or_default().join(",\n    ");
        let _ = writeln!(out, "CREATE TABLE {name_in_quotes} (\n    {lines}\n){options};");
    }
    for (table, name, columns, target, referred, on_delete, on_update) in &found.keys {
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

fn check(catalog: &Catalog, row: &Row) -> String {
    let enforced = if text(row, 3) == "1" { " NOT ENFORCED" } else { "" };
    format!("CHECK ({}){enforced}", (catalog.expression)(&text(row, 2)))
}

fn column(
    catalog: &Catalog,
    column: &Column,
    default: Option<String>,
    usual: Option<&String>,
) -> String {
    let mut out = format!("{} {}", quoted(&column.name), column.ty);
    // A text of JSON has a collation of its own.
    let of_json = |collation: &str| column.ty == "longtext" && collation == "utf8mb4_bin";
    if let Some(collation) = column.collation.as_ref()
        && Some(collation) != usual
        && !of_json(collation)
    {
        let _ = write!(out, " COLLATE {collation}");
    }
    let of_history = |generated: &&String| generated.starts_with("ROW ");
    if let Some(generated) = column.generated.as_ref().filter(of_history) {
        let _ = write!(out, " GENERATED ALWAYS AS {generated}");
    } else if let Some(generated) = &column.generated {
        let kind = if column.extra.contains("virtual") { "VIRTUAL" } else { "STORED" };
        let expression = (catalog.expression)(generated);
        let _ = write!(out, " GENERATED ALWAYS AS ({expression}) {kind}");
    } else if let Some(default) = default {
        let _ = write!(out, " DEFAULT {default}");
    }
    out.push_str(if column.extra.contains("auto_increment") { " AUTO_INCREMENT" } else { "" });
    if let Some((_, update)) = column.extra.split_once("on update ") {
        let moment = update.split_whitespace().next().unwrap_or_default();
        let _ = write!(out, " ON UPDATE {}", moment.trim_end_matches("()"));
    }
    out.push_str(if column.nullable { " NULL" } else { " NOT NULL" });
    if let Some(system) = &column.system {
        let _ = write!(out, " SRID {system}");
    }
    out.push_str(if column.extra.contains("invisible") { " INVISIBLE" } else { "" });
    if !column.comment.is_empty() {
        let _ = write!(out, " COMMENT {}", literal(&column.comment));
    }
    out
}

/// What stands behind `DEFAULT` for a column in the statement of its table; no such value has a
/// blank.
fn shown_default(statement: &str, column: &str) -> Option<String> {
    let begins = format!("{} ", quoted(column));
    let line = statement.lines().find(|line| line.trim_start().starts_with(&begins))?;
    let (_, behind) = line.split_once(" DEFAULT ")?;
    behind.split([' ', ',']).next().map(str::to_owned)
}

/// An index, with its parts as statements write them.
struct Indexed {
    table: String,
    name: String,
    unique: bool,
    method: String,
    hidden: bool,
    parts: Vec<String>,
}

impl Indexed {
    fn line(&self, catalog: &Catalog) -> String {
        let name = quoted(&self.name);
        let word = match (self.name.as_str(), self.unique, self.method.as_str()) {
            ("PRIMARY", ..) => "PRIMARY KEY".to_owned(),
            (_, true, _) => format!("UNIQUE KEY {name}"),
            (_, false, "FULLTEXT") => format!("FULLTEXT KEY {name}"),
            (_, false, "SPATIAL") => format!("SPATIAL KEY {name}"),
            (_, false, _) => format!("KEY {name}"),
        };
        let hidden = if self.hidden { catalog.hidden_index } else { "" };
        format!("{word} ({}){hidden}", self.parts.join(", "))
    }
}

fn indexed(catalog: &Catalog, rows: &[Row]) -> Vec<Indexed> {
    let mut found: Vec<Indexed> = Vec::new();
    for row in rows {
        let head = maybe(row, 6).map_or(String::new(), |letters| format!("({letters})"));
        let key = match maybe(row, 7) {
            Some(expression) => format!("({})", (catalog.expression)(&expression)),
            None => quoted(&text(row, 3)),
        };
        let part = format!("{key}{head}{}", if text(row, 4) == "D" { " DESC" } else { "" });
        let (table, name) = (text(row, 0), text(row, 1));
        match found.last_mut().filter(|last| last.table == table && last.name == name) {
            Some(last) => last.parts.push(part),
            None => found.push(Indexed {
                table,
                name,
                unique: text(row, 2) == "0",
                method: text(row, 5),
                hidden: text(row, 8) == "1",
                parts: vec![part],
            }),
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
        for (version, catalog, needed) in [
            ("10.11.19-MariaDB-0+deb12u1", &mariadb::CATALOG, None),
            ("10.6.1-MariaDB", &mariadb::CATALOG, None),
            ("10.5.29-MariaDB", &mariadb::CATALOG, Some("MariaDB 10.6")),
            ("5.5.5-MariaDB", &mariadb::CATALOG, Some("MariaDB 10.6")),
            ("8.0.36", &mysql::CATALOG, None),
            ("8.4.3", &mysql::CATALOG, None),
            ("5.7.44-log", &mysql::CATALOG, Some("MySQL 8.0")),
            ("", &mysql::CATALOG, Some("MySQL 8.0")),
        ] {
            assert_eq!(catalog.newer_than(version), needed, "{version}");
        }
    }

    #[test]
    fn the_statement_of_a_table_has_the_default_of_a_column() {
        let statement = "CREATE TABLE `berths` (\n  `id` int NOT NULL,\n  `mark` varbinary(9) \
                         DEFAULT 0x00FF,\n  `note` int DEFAULT '3' COMMENT 'x'\n)";
        for (column, default) in [("mark", Some("0x00FF")), ("note", Some("'3'")), ("id", None)] {
            assert_eq!(shown_default(statement, column).as_deref(), default, "{column}");
        }
    }
}
