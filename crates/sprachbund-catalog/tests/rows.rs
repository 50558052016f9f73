//! What servers make of statements: each row of `rows/*.sql`, on each release that can be had.
//!
//! Of a row that the server takes, four readings must be one: its catalog, the statements of the
//! row, the statements that the server itself gives of its tables, and the catalog of an empty
//! database in which the statements that Sprachbund writes of the first were run. What the catalog
//! says, and where a reading differs, stands in `rows/*.txt`, by release; `UPDATE=1` writes it
//! anew, and keeps what releases said that cannot be had here.

mod server;

use std::collections::BTreeMap;
use std::fmt::Write;
use std::path::PathBuf;

use mysql::prelude::Queryable;
use postgres::NoTls;
use serde_json::Value;
use server::{Installed, Server};
use sprachbund_catalog::{AddressText, FoundDatabase, Wanted, read};
use sprachbund_core::compare::{Side, compare};
use sprachbund_core::dialect::Settings;
use sprachbund_core::dialects::by_id;
use sprachbund_core::elide::printed;
use sprachbund_core::fit::fit;
use sprachbund_core::reading::{Reading, read_scripts};
use sprachbund_core::schema::{Database, Schema};

/// A release of a server, in which a row is tried in an empty database.
trait Release {
    /// `MySQL 9`, `PostgreSQL 15`.
    fn label(&self) -> &str;
    fn database(&self) -> Database;
    fn address(&self) -> String;
    /// Empties the database.
    fn empty(&mut self);
    /// Runs statements; `Err` with the server's code for its refusal.
    fn run(&mut self, statements: &str) -> Result<(), String>;
    /// What the server gives of its tables.
    fn dump(&mut self) -> Option<String>;
}

struct Row {
    title: String,
    statements: String,
}

/// The rows of a file: a title after `-- ==`, then statements.
fn rows(text: &str) -> Vec<Row> {
    let parts = text.split("\n-- == ").skip(1);
    let row = |part: &str| {
        let (title, statements) = part.split_once('\n').expect("a title and statements");
        Row { title: title.to_owned(), statements: statements.trim().to_owned() }
    };
    parts.map(row).collect()
}

/// What came of a row in one release, line by line.
fn outcome(release: &mut dyn Release, row: &Row) -> Vec<String> {
    release.empty();
    if let Err(code) = release.run(&row.statements) {
        return vec![format!("refused {code}")];
    }
    let live = match live(release) {
        Ok(live) => live,
        Err(error) => return vec![format!("not read: {error}")],
    };
    let facts = facts(&live.schema);
    let mut lines: Vec<String> = Vec::new();
    lines.extend(
        live.diagnostics.iter().map(|said| format!("says {}: {}", said.code, said.message)),
    );
    let number = live.release;
    let same = |what: &str, other: &Schema| differences(release, what, number, other, &live.schema);
    let Reading { schema, diagnostics, .. } = of_text(release.database(), number, &row.statements);
    lines.extend(same("statements", &schema));
    let said = diagnostics.iter().map(|said| format!("statements say {}", said.code));
    lines
        .extend(said.filter(|line| !live.diagnostics.iter().any(|said| line.ends_with(said.code))));
    if let Some(dump) = release.dump() {
        let Reading { schema, diagnostics, .. } = of_text(release.database(), number, &dump);
        lines.extend(differences(release, "dump", number, &schema, &live.schema));
        let said = diagnostics.iter().map(|said| format!("dump says {}", said.code));
        lines.extend(
            said.filter(|line| !live.diagnostics.iter().any(|said| line.ends_with(said.code))),
        );
    }
    lines.extend(written_again(release, &live));
    lines.sort();
    facts.iter().chain(&lines).map(|line| plain(line)).collect()
}

/// A line of text: a default may be any bytes.
fn plain(line: &str) -> String {
    let letter = |letter: char| match letter {
        control if control.is_control() => control.escape_default().to_string(),
        plain => plain.to_string(),
    };
    line.chars().map(letter).collect()
}

/// The live schema as statements of Sprachbund's, run in an empty database and read again.
fn written_again(release: &mut dyn Release, live: &FoundDatabase) -> Vec<String> {
    let dialect = by_id("sql").expect("a dialect");
    let settings = settings(release.database(), live.release);
    let fitted = fit(&live.schema, dialect, &settings).schema;
    let text: String = printed(dialect, &fitted, &(dialect.conventions)(&settings))
        .into_iter()
        .map(|file| file.text)
        .collect();
    release.empty();
    if let Err(code) = release.run(&text) {
        return vec![format!("written, it is refused: {code}")];
    }
    match self::live(release) {
        Ok(again) => {
            differences(release, "written again", live.release, &again.schema, &live.schema)
        }
        Err(error) => vec![format!("written, it is not read: {error}")],
    }
}

fn settings(database: Database, server_release: Option<(u32, u32)>) -> Settings {
    Settings { database: Some(database), server_release, ..Settings::default() }
}

fn live(release: &dyn Release) -> Result<FoundDatabase, String> {
    let address = AddressText::of(&release.address()).expect("an address");
    read(&address, &Wanted::default(), &Settings::default(), &|_, _| {})
        .map_err(|error| error.to_string())
}

fn of_text(database: Database, release: Option<(u32, u32)>, text: &str) -> Reading {
    let mut settings = settings(database, release);
    let files = vec![("harbour.sql".to_owned(), text.to_owned())];
    read_scripts(files, by_id("sql").expect("a dialect"), &mut settings)
}

fn differences(
    release: &dyn Release,
    what: &str,
    number: Option<(u32, u32)>,
    other: &Schema,
    live: &Schema,
) -> Vec<String> {
    let database = release.database();
    let capabilities = (by_id("sql").expect("a dialect").capabilities)(&settings(database, number));
    let side = |schema| Side { schema, capabilities: &capabilities };
    let comparison = compare(&side(other), &side(live), database);
    let found = comparison.found.iter().map(|found| format!("{what} differ: {}", found.message));
    let mut lines: Vec<String> = found.collect();
    if comparison.unknown > 0 {
        lines.push(format!("{what} cannot be compared in {} places", comparison.unknown));
    }
    lines
}

/// All that a schema says of its tables, a line for each column and each constraint.
fn facts(schema: &Schema) -> Vec<String> {
    let whole = serde_json::to_value(schema).expect("JSON");
    let mut lines = Vec::new();
    let listed = |value: &Value, key: &str| -> Vec<Value> {
        value[key].as_array().cloned().unwrap_or_default()
    };
    for enumeration in listed(&whole, "enums") {
        let values: Vec<String> = listed(&enumeration, "members")
            .iter()
            .map(|member| member["value"].to_string())
            .collect();
        lines.push(format!("type {}: {}", text(&enumeration["name"]), values.join(" ")));
    }
    // Tables of one second are in no order of MySQL's catalog.
    let mut entities = listed(&whole, "entities");
    entities.sort_by_key(|entity| text(&entity["table"]));
    for entity in entities {
        let table = text(&entity["table"]);
        let mut head = format!("{table}:");
        for key in ["namespace", "comment", "kind", "inherits"] {
            let said = &entity[key];
            if !said.is_null() && said.as_str() != Some("table") {
                let _ = write!(head, " {key}={said}");
            }
        }
        lines.push(head);
        for field in listed(&entity, "fields") {
            lines.push(format!("  {}", said(&field, &["name"])));
        }
        if !entity["primary_key"].is_null() {
            lines.push(format!("  key {}", said(&entity["primary_key"], &[])));
        }
        for (key, word) in [
            ("uniques", "unique"),
            ("indexes", "index"),
            ("foreign_keys", "reference"),
            ("checks", "check"),
            ("exclusions", "exclusion"),
        ] {
            lines.extend(
                listed(&entity, key).iter().map(|value| format!("  {word} {}", said(value, &[]))),
            );
        }
    }
    lines
}

fn text(value: &Value) -> String {
    value.as_str().map_or_else(|| value.to_string(), str::to_owned)
}

/// What a value says, without silence and without what tells nothing of the table.
fn said(value: &Value, besides: &[&str]) -> String {
    const OF_THE_READING: &[&str] = &["origin", "implied", "named_by", "tree"];
    let Value::Object(members) = value else { return text(value) };
    let mut out = Vec::new();
    for (key, member) in members {
        if OF_THE_READING.contains(&key.as_str()) || besides.contains(&key.as_str()) {
            continue;
        }
        let empty = match member {
            Value::Null | Value::Bool(false) => key != "nullable",
            Value::Array(items) => items.is_empty(),
            Value::Object(_) => said(member, &[]).is_empty(),
            _ => false,
        };
        if empty || (key == "nullable" && *member == Value::Bool(true)) {
            continue;
        }
        out.push(match member {
            Value::Bool(true) => key.clone(),
            Value::Bool(false) => format!("not {key}"),
            Value::Array(items) => {
                let items: Vec<String> = items.iter().map(|item| said(item, &[])).collect();
                format!("{key}=({})", items.join(", "))
            }
            Value::Object(_) => format!("{key}={{{}}}", said(member, &[])),
            Value::String(text) if key == "column" => text.clone(),
            plain => format!("{key}={plain}"),
        });
    }
    out.join(" ")
}

/// Holds the outcomes of a file's rows against what is written of them, or writes them.
fn check(file: &str, mut releases: Vec<Box<dyn Release>>) {
    let folder = PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("tests/rows");
    let statements = std::fs::read_to_string(folder.join(format!("{file}.sql"))).expect("rows");
    let path = folder.join(format!("{file}.txt"));
    let known = outcomes(&std::fs::read_to_string(&path).unwrap_or_default());
    let (mut wrong, mut written) = (Vec::new(), String::new());
    let only = std::env::var("ROW").ok();
    for row in rows(&statements) {
        if only.as_ref().is_some_and(|only| !row.title.contains(only.as_str())) {
            continue;
        }
        let mut by_release = known.get(&row.title).cloned().unwrap_or_default();
        for release in &mut releases {
            let lines = outcome(release.as_mut(), &row);
            if only.is_some() {
                println!("{}: {}\n{}", row.title, release.label(), lines.join("\n"));
            }
            match by_release.iter_mut().find(|(label, _)| label == release.label()) {
                Some((_, known)) if *known == lines => {}
                Some((_, known)) => {
                    wrong.push(told(&row.title, release.label(), known, &lines));
                    *known = lines;
                }
                None => {
                    wrong.push(told(&row.title, release.label(), &[], &lines));
                    by_release.push((release.label().to_owned(), lines));
                }
            }
        }
        let _ = writeln!(written, "== {}", row.title);
        by_release.sort();
        let mut labels: Vec<&str> = Vec::new();
        for (at, (label, lines)) in by_release.iter().enumerate() {
            labels.push(label);
            if by_release.get(at + 1).is_none_or(|(_, next)| next != lines) {
                let _ = writeln!(written, "-- {}", labels.join(", "));
                lines.iter().for_each(|line| written.push_str(&format!("{line}\n")));
                labels.clear();
            }
        }
        written.push('\n');
    }
    if std::env::var_os("UPDATE").is_some() && only.is_none() {
        return std::fs::write(&path, written).expect("written");
    }
    assert!(
        wrong.is_empty(),
        "{} rows came out otherwise (UPDATE=1 writes them)\n{}",
        wrong.len(),
        wrong.join("\n")
    );
}

fn told(title: &str, label: &str, known: &[String], lines: &[String]) -> String {
    format!("== {title} ({label})\nwanted:\n{}\nfound:\n{}", known.join("\n"), lines.join("\n"))
}

/// Lines by release.
type ByRelease = Vec<(String, Vec<String>)>;

/// What a file of outcomes says, by row.
fn outcomes(text: &str) -> BTreeMap<String, ByRelease> {
    let mut all: BTreeMap<String, ByRelease> = BTreeMap::new();
    let (mut title, mut labels): (String, Vec<String>) = Default::default();
    for line in text.lines().filter(|line| !line.is_empty()) {
        if let Some(new) = line.strip_prefix("== ") {
            title = new.to_owned();
        } else if let Some(new) = line.strip_prefix("-- ") {
            labels = new.split(", ").map(str::to_owned).collect();
            let row = all.entry(title.clone()).or_default();
            row.extend(labels.iter().map(|label| (label.clone(), Vec::new())));
        } else if let Some(row) = all.get_mut(&title) {
            row.iter_mut()
                .filter(|(label, _)| labels.contains(label))
                .for_each(|(_, lines)| lines.push(line.to_owned()));
        }
    }
    all
}

/// PostgreSQL in one release.
struct Postgresql {
    server: Server,
    installed: Installed,
    client: postgres::Client,
    label: String,
}

impl Postgresql {
    fn of(installed: Installed) -> Box<dyn Release> {
        let server = installed.postgresql(&[]);
        let mut client = postgres::Config::new()
            .host("127.0.0.1")
            .port(server.port)
            .user("harbour")
            .dbname("postgres")
            .connect(NoTls)
            .expect("a session");
        let number: String =
            client.query_one("SHOW server_version_num", &[]).expect("a version").get(0);
        let major = number.parse::<u32>().expect("a number") / 10_000;
        let extensions = "CREATE SCHEMA more; ALTER DATABASE postgres SET search_path TO public, \
                          more; SET search_path TO public, more";
        client.batch_execute(extensions).expect("a schema");
        for extension in ["btree_gist", "citext", "hstore"] {
            client
                .batch_execute(&format!("CREATE EXTENSION {extension} SCHEMA more"))
                .expect("Debian's package postgresql-contrib");
        }
        Box::new(Postgresql { server, installed, client, label: format!("PostgreSQL {major}") })
    }
}

impl Release for Postgresql {
    fn label(&self) -> &str {
        &self.label
    }

    fn database(&self) -> Database {
        Database::PostgreSql
    }

    fn address(&self) -> String {
        format!("postgresql://harbour@127.0.0.1:{}/postgres", self.server.port)
    }

    fn empty(&mut self) {
        let again = "DROP SCHEMA IF EXISTS basin CASCADE; DROP SCHEMA public CASCADE; CREATE \
                     SCHEMA public";
        self.client.batch_execute(again).expect("an empty schema");
    }

    fn run(&mut self, statements: &str) -> Result<(), String> {
        self.client.batch_execute(statements).map_err(|error| {
            error.code().map_or_else(|| error.to_string(), |code| code.code().to_owned())
        })
    }

    fn dump(&mut self) -> Option<String> {
        let program = format!("{}/pg_dump", self.installed.programs_of_postgresql());
        let mut dump = self.installed.command(None, &program);
        dump.args(["-s", "-n", "public", "-h", "127.0.0.1", "-U", "harbour", "-p"]);
        dump.arg(self.server.port.to_string()).arg("postgres");
        let output = dump.stdout(std::process::Stdio::piped()).output().expect("pg_dump");
        Some(String::from_utf8(output.stdout).expect("text"))
    }
}

/// MySQL or MariaDB in one release.
struct Mysql {
    server: Server,
    client: mysql::Conn,
    label: String,
    database: Database,
}

impl Mysql {
    fn of(server: Server, database: Database) -> Box<dyn Release> {
        let options = mysql::OptsBuilder::new()
            .ip_or_hostname(Some("127.0.0.1"))
            .tcp_port(server.port)
            .prefer_socket(false)
            .user(Some("root"));
        let mut client = mysql::Conn::new(options).expect("a session");
        let version: String =
            client.query_first("SELECT VERSION()").expect("an answer").expect("a version");
        let numbers = if database == Database::MariaDb { 2 } else { 1 };
        let numbers: Vec<&str> = version.split(['.', '-']).take(numbers).collect();
        let label = format!("{} {}", database.server().title, numbers.join("."));
        Box::new(Mysql { server, client, label, database })
    }
}

impl Release for Mysql {
    fn label(&self) -> &str {
        &self.label
    }

    fn database(&self) -> Database {
        self.database
    }

    fn address(&self) -> String {
        format!("{}://root@127.0.0.1:{}/harbour", self.database.id(), self.server.port)
    }

    fn empty(&mut self) {
        let again = "SET SESSION sql_mode = DEFAULT; SET SESSION foreign_key_checks = DEFAULT;
            DROP DATABASE IF EXISTS harbour; CREATE DATABASE harbour CHARACTER SET utf8mb4;
            USE harbour";
        self.run(again).expect("an empty database");
    }

    fn run(&mut self, statements: &str) -> Result<(), String> {
        let code = |error: mysql::Error| match error {
            mysql::Error::MySqlError(error) => error.code.to_string(),
            other => other.to_string(),
        };
        let mut answer = self.client.query_iter(statements).map_err(code)?;
        while let Some(set) = answer.iter() {
            for row in set {
                row.map_err(code)?;
            }
        }
        Ok(())
    }

    fn dump(&mut self) -> Option<String> {
        let tables: Vec<String> = self.client.query("SHOW TABLES").expect("tables");
        let mut text = String::new();
        for table in tables {
            let shown = format!("SHOW CREATE TABLE `{}`", table.replace('`', "``"));
            let row: Option<mysql::Row> = self.client.query_first(shown).expect("a statement");
            // MariaDB writes bytes as they are.
            let statement: Vec<u8> = row.and_then(|row| row.get(1)).expect("a statement");
            text.push_str(&format!("{};\n", String::from_utf8_lossy(&statement)));
        }
        Some(text)
    }
}

/// SQLite, the release that the clients have built in.
struct Sqlite {
    folder: tempfile::TempDir,
    label: String,
}

impl Release for Sqlite {
    fn label(&self) -> &str {
        &self.label
    }

    fn database(&self) -> Database {
        Database::Sqlite
    }

    fn address(&self) -> String {
        format!("sqlite:{}", self.folder.path().join("harbour.db").display())
    }

    fn empty(&mut self) {
        let _ = std::fs::remove_file(self.folder.path().join("harbour.db"));
    }

    fn run(&mut self, statements: &str) -> Result<(), String> {
        rusqlite::Connection::open(self.folder.path().join("harbour.db"))
            .and_then(|connection| connection.execute_batch(statements))
            .map_err(|error| error.to_string())
    }

    fn dump(&mut self) -> Option<String> {
        None
    }
}

#[test]
fn rows_on_sqlite() {
    let folder = tempfile::tempdir().expect("a folder");
    let label = format!("SQLite {}", rusqlite::version());
    check("sqlite", vec![Box::new(Sqlite { folder, label })]);
}

/// The machine's own, and those of other releases of Debian that can be had.
fn installed(suites: &[&str]) -> Vec<Installed> {
    let mut all = vec![Installed::HERE];
    all.extend(suites.iter().filter_map(|suite| Installed::of_suite(suite)));
    all
}

#[test]
#[ignore = "starts PostgreSQL"]
fn rows_on_postgresql() {
    let releases = installed(&["trixie", "sid"]).into_iter().map(Postgresql::of).collect();
    check("postgresql", releases);
}

#[test]
#[ignore = "starts MySQL and MariaDB"]
fn rows_on_mysql_and_mariadb() {
    let mariadb = installed(&["trixie"]).into_iter().map(|found| found.mariadb(&[]));
    let mut releases: Vec<Box<dyn Release>> =
        mariadb.map(|server| Mysql::of(server, Database::MariaDb)).collect();
    releases.extend(server::mysql().map(|server| Mysql::of(server, Database::MySql)));
    check("mysql", releases);
}
