//! What a step does to tables is what the real server's catalog says after it: each kind of step,
//! on each server.
//!
//! SQLite is built in; PostgreSQL and MariaDB are started from Debian's packages by the tests that
//! are ignored, MySQL from the root that `conformance/server_root` makes.

mod server;

use mysql::prelude::Queryable;
use postgres::NoTls;
use sprachbund_catalog::{AddressText, Wanted, read};
use sprachbund_core::compare::{Side, compare};
use sprachbund_core::dialect::Settings;
use sprachbund_core::dialects::by_id;
use sprachbund_core::reading::read_scripts;
use sprachbund_core::schema::{Database, Schema};

/// The tables on which each step is taken.
const TABLES: &str = "
CREATE TABLE quays (id int NOT NULL, name varchar(40) NOT NULL, CONSTRAINT quay_key PRIMARY KEY \
     (id));
CREATE TABLE berths (
    id int NOT NULL,
    code varchar(9) NOT NULL,
    length int CHECK (length > 0),
    depth int,
    draught int DEFAULT 3,
    quay_id int NOT NULL,
    CONSTRAINT berth_key PRIMARY KEY (id),
    CONSTRAINT berth_code UNIQUE (code),
    CONSTRAINT berth_quay FOREIGN KEY (quay_id) REFERENCES quays (id) ON DELETE CASCADE
);
CREATE INDEX berth_size ON berths (depth, draught);
CREATE TABLE pilots (id int NOT NULL, license varchar(9) NOT NULL, grade int NOT NULL, CONSTRAINT \
     pilot_key PRIMARY KEY (id, grade));
";

const P: &[Database] = &[Database::PostgreSql];
const M: &[Database] = &[Database::MariaDb, Database::MySql];
const MY: &[Database] = &[Database::MySql];
const S: &[Database] = &[Database::Sqlite];
const PM: &[Database] = &[Database::PostgreSql, Database::MariaDb, Database::MySql];
const PMS: &[Database] =
    &[Database::PostgreSql, Database::MariaDb, Database::MySql, Database::Sqlite];

/// A step, and the servers that take it.
const STEPS: &[(&str, &[Database])] = &[
    (
        "CREATE TABLE tugs (id int NOT NULL PRIMARY KEY, pull decimal(6,2) NOT NULL DEFAULT 1.5)",
        PMS,
    ),
    ("DROP TABLE pilots", PMS),
    ("ALTER TABLE quays RENAME TO piers", PMS),
    ("ALTER TABLE berths ADD COLUMN open boolean NOT NULL DEFAULT true", PM),
    ("ALTER TABLE berths ADD COLUMN note varchar(20)", PMS),
    ("ALTER TABLE berths RENAME COLUMN depth TO deep", PMS),
    ("ALTER TABLE quays RENAME COLUMN id TO number", PMS),
    // What uses the column goes, or loses it.
    ("ALTER TABLE berths DROP COLUMN length", PMS),
    ("ALTER TABLE berths DROP COLUMN depth", PM),
    ("ALTER TABLE berths DROP COLUMN code", PM),
    ("ALTER TABLE berths DROP COLUMN id", PM),
    ("ALTER TABLE berths DROP COLUMN quay_id", P),
    ("ALTER TABLE pilots DROP COLUMN grade", &[Database::PostgreSql, Database::MySql]),
    (
        "ALTER TABLE berths ADD CONSTRAINT code_deep UNIQUE (code, depth); ALTER TABLE berths \
         DROP COLUMN depth",
        MY,
    ),
    ("ALTER TABLE pilots DROP COLUMN license", PMS),
    (
        "ALTER TABLE berths ADD CONSTRAINT deep CHECK (depth > draught); ALTER TABLE berths \
         DROP COLUMN draught",
        P,
    ),
    (
        "CREATE INDEX partly ON berths (length) WHERE depth > 1; ALTER TABLE berths DROP COLUMN \
         depth",
        P,
    ),
    (
        "CREATE INDEX covering ON berths (length) INCLUDE (depth); ALTER TABLE berths DROP \
         COLUMN depth",
        P,
    ),
    // A changed column.
    ("ALTER TABLE berths ALTER COLUMN depth TYPE bigint", P),
    ("ALTER TABLE berths ALTER COLUMN depth SET NOT NULL", P),
    ("ALTER TABLE berths ALTER COLUMN code DROP NOT NULL", P),
    ("ALTER TABLE berths ALTER COLUMN depth SET DEFAULT 7", PM),
    ("ALTER TABLE berths ALTER COLUMN draught DROP DEFAULT", P),
    ("ALTER TABLE berths MODIFY COLUMN depth bigint NOT NULL", M),
    ("ALTER TABLE berths CHANGE COLUMN depth deep smallint NULL DEFAULT 2", M),
    // Constraints and indexes.
    ("ALTER TABLE berths ADD CONSTRAINT deep CHECK (depth > 1)", PM),
    (
        "ALTER TABLE berths ADD CONSTRAINT deep CHECK (depth > 1); ALTER TABLE berths DROP \
         CONSTRAINT deep",
        PM,
    ),
    ("ALTER TABLE pilots ADD CONSTRAINT licensed UNIQUE (license)", PM),
    ("ALTER TABLE berths DROP CONSTRAINT berth_code", PM),
    ("CREATE UNIQUE INDEX licensed ON pilots (license)", PMS),
    ("DROP INDEX berth_size", &[Database::PostgreSql, Database::Sqlite]),
    ("DROP INDEX berth_size ON berths", M),
    (
        "ALTER TABLE pilots ADD COLUMN quay_id int; ALTER TABLE pilots ADD CONSTRAINT works \
         FOREIGN KEY (quay_id) REFERENCES quays (id)",
        PM,
    ),
    ("ALTER TABLE berths DROP CONSTRAINT berth_quay", P),
    ("ALTER TABLE berths DROP FOREIGN KEY berth_quay", M),
    ("ALTER TABLE pilots DROP CONSTRAINT pilot_key", P),
    ("ALTER TABLE pilots DROP PRIMARY KEY", M),
    (
        "ALTER TABLE pilots DROP CONSTRAINT pilot_key; ALTER TABLE pilots ADD CONSTRAINT \
         pilot_id PRIMARY KEY (id)",
        P,
    ),
    // What the database keeps besides.
    (
        "COMMENT ON COLUMN berths.depth IS 'at low water'; COMMENT ON TABLE berths IS 'where \
         vessels lie'",
        P,
    ),
    (
        "CREATE TYPE state AS ENUM ('free', 'taken'); ALTER TABLE berths ADD COLUMN state state \
         NOT NULL DEFAULT 'free'",
        P,
    ),
    ("CREATE TYPE state AS ENUM ('free', 'taken'); DROP TYPE state", P),
    ("ALTER TABLE berths ADD COLUMN more int GENERATED ALWAYS AS (depth + 1) STORED", PM),
    (
        "CREATE TABLE logs (id int); ALTER TABLE logs ADD COLUMN taken_at timestamp DEFAULT \
         CURRENT_TIMESTAMP",
        S,
    ),
];

/// What a script says of the tables after its last step.
fn replayed(script: &str, database: Database) -> Schema {
    let mut settings = Settings { database: Some(database), ..Settings::default() };
    let reading = read_scripts(
        vec![("steps.sql".into(), script.to_owned())],
        by_id("sql").expect("a dialect"),
        &mut settings,
    );
    assert!(reading.diagnostics.is_empty(), "{script}\n{:#?}", reading.diagnostics);
    reading.schema
}

/// Takes each step with `run`, on fresh tables, and holds the catalog at `address` against what was
/// replayed.
fn each_step(database: Database, address: &str, mut run: impl FnMut(&str)) {
    let mut wrong = Vec::new();
    for (step, _) in STEPS.iter().filter(|(_, servers)| servers.contains(&database)) {
        let script = format!("{TABLES}{step};\n");
        run(&script);
        let address = AddressText::of(address).expect("an address");
        let live = read(&address, &Wanted::default(), &Settings::default(), &|_, _| {})
            .expect("a catalog")
            .schema;
        let said = replayed(&script, database);
        let capabilities = (by_id("sql").expect("a dialect").capabilities)(&Settings {
            database: Some(database),
            ..Settings::default()
        });
        let side = |schema| Side { schema, capabilities: &capabilities };
        let comparison = compare(&side(&said), &side(&live), database);
        wrong.extend(
            comparison
                .found
                .iter()
                .map(|found| format!("{step}: {} (left is replayed)", found.message)),
        );
    }
    assert!(wrong.is_empty(), "\n{}", wrong.join("\n"));
}

#[test]
fn steps_on_sqlite_do_what_is_replayed() {
    let folder = tempfile::tempdir().expect("a folder");
    let path = folder.path().join("harbour.db");
    each_step(Database::Sqlite, &format!("sqlite:{}", path.display()), |script| {
        let _ = std::fs::remove_file(&path);
        let connection = rusqlite::Connection::open(&path).expect("a database");
        connection.execute_batch(script).unwrap_or_else(|error| panic!("{error}\n{script}"));
    });
}

#[test]
#[ignore = "starts PostgreSQL"]
fn steps_on_postgresql_do_what_is_replayed() {
    let server = server::postgresql(&[]);
    let mut client = postgres::Config::new()
        .host("127.0.0.1")
        .port(server.port)
        .user("harbour")
        .dbname("postgres")
        .connect(NoTls)
        .expect("a session");
    each_step(
        Database::PostgreSql,
        &format!("postgresql://harbour@127.0.0.1:{}/postgres", server.port),
        |script| {
            let whole = format!("DROP SCHEMA public CASCADE; CREATE SCHEMA public; {script}");
            client.batch_execute(&whole).unwrap_or_else(|error| panic!("{error:?}\n{script}"));
        },
    );
}

#[test]
#[ignore = "starts MariaDB"]
fn steps_on_mariadb_do_what_is_replayed() {
    on_mysql(Database::MariaDb, &server::mariadb(&[]));
}

#[test]
#[ignore = "starts MySQL"]
fn steps_on_mysql_do_what_is_replayed() {
    match server::mysql() {
        Some(server) => on_mysql(Database::MySql, &server),
        None => eprintln!("MySQL cannot be had here: what its steps do was not tried"),
    }
}

fn on_mysql(database: Database, server: &server::Server) {
    let options = mysql::OptsBuilder::new()
        .ip_or_hostname(Some("127.0.0.1"))
        .tcp_port(server.port)
        .user(Some("root"));
    let mut client = mysql::Conn::new(options).expect("a session");
    each_step(
        database,
        &format!("{}://root@127.0.0.1:{}/harbour", database.id(), server.port),
        |script| {
            let again = "DROP DATABASE IF EXISTS harbour; CREATE DATABASE harbour CHARACTER SET \
                         utf8mb4; USE harbour;";
            for statement in format!("{again}{script}")
                .split(';')
                .filter(|statement| !statement.trim().is_empty())
            {
                client.query_drop(statement).unwrap_or_else(|error| panic!("{error}\n{statement}"));
            }
        },
    );
}
