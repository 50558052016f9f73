//! Reading the catalog of a database of 10,000 tables against the server's own client asking the
//! same queries; written to docs/benchmarks-servers.md. Starts PostgreSQL and MariaDB from Debian's
//! packages.

#[path = "../tests/server/mod.rs"]
mod server;

use std::cell::Cell;
use std::fmt::Write;
use std::path::Path;
use std::process::{Command, Stdio};
use std::time::Instant;

use sprachbund_catalog::{AddressText, Wanted, queries, read};
use sprachbund_core::dialect::Settings;
use sprachbund_core::schema::Database;

const TABLES: usize = 10_000;

/// Rounds of measuring.
const ROUNDS: usize = 5;

/// Tables of the harbour: twelve columns, an index, and a reference to the table before.
fn tables(database: Database) -> String {
    let (number, moment) = if database == Database::MariaDb {
        ("int NOT NULL AUTO_INCREMENT", "datetime(6) NOT NULL DEFAULT CURRENT_TIMESTAMP(6)")
    } else {
        ("serial", "timestamptz NOT NULL DEFAULT now()")
    };
    let mut text = String::new();
    for at in 0..TABLES {
        let before = at.saturating_sub(1);
        let columns: String = (0..8)
            .map(|column| {
                format!(
                    "depth_{column} numeric(6,2){}, ",
                    if column % 2 == 0 { " NOT NULL" } else { "" }
                )
            })
            .collect();
        let _ = writeln!(
            text,
            "CREATE TABLE berth_{at} (id {number}, name varchar(40) NOT NULL, {columns}noted_at \
             {moment}, before_id int NOT NULL, PRIMARY KEY (id), CONSTRAINT before_{at} \
             FOREIGN KEY (before_id) REFERENCES berth_{before} (id));\n\
             CREATE INDEX name_{at} ON berth_{at} (name);"
        );
    }
    text
}

fn run(command: &mut Command, input: &str) {
    let mut child = command
        .stdin(Stdio::piped())
        .stdout(Stdio::null())
        .spawn()
        .expect("the server's own client");
    std::io::Write::write_all(&mut child.stdin.take().expect("its input"), input.as_bytes())
        .expect("it reads");
    assert!(child.wait().is_ok_and(|status| status.success()));
}

fn median(mut values: Vec<f64>) -> f64 {
    values.sort_by(f64::total_cmp);
    values[values.len() / 2]
}

fn measure(
    database: Database,
    address: &str,
    client: &dyn Fn() -> Command,
    server: &str,
) -> String {
    run(&mut client(), &tables(database));
    let questions = queries(database).join(";\n") + ";\n";
    let asked = Cell::new(0);
    let mut ratios = Vec::new();
    for _ in 0..ROUNDS {
        let start = Instant::now();
        run(&mut client(), &questions);
        let own = start.elapsed().as_secs_f64();
        asked.set(0);
        let start = Instant::now();
        let address = AddressText::of(address).expect("an address");
        let found = read(&address, &Wanted::default(), &Settings::default(), &|_, seconds| {
            asked.set(asked.get() + u32::from(seconds == 0))
        })
        .expect("a catalog");
        ratios.push(start.elapsed().as_secs_f64() / own);
        assert_eq!(found.schema.entities.len(), TABLES);
    }
    format!("| {server} | {} | {:.2} | at most 3 |", queries(database).len(), median(ratios))
}

fn main() {
    let (postgresql, mariadb) =
        (server::postgresql(&["max_locks_per_transaction=1024".into()]), server::mariadb(&[]));
    let psql = || {
        let mut command = Command::new("psql");
        command.args([
            "-q",
            "-A",
            "-t",
            "-h",
            "127.0.0.1",
            "-p",
            &postgresql.port.to_string(),
            "-U",
            "harbour",
            "postgres",
        ]);
        command
    };
    let mysql = || {
        let mut command = Command::new("mariadb");
        command.args([
            "--no-defaults",
            "-h127.0.0.1",
            "-P",
            &mariadb.port.to_string(),
            "-uroot",
            "harbour",
        ]);
        command
    };
    let mut create = Command::new("mariadb");
    run(
        create.args(["--no-defaults", "-h127.0.0.1", "-P", &mariadb.port.to_string(), "-uroot"]),
        "CREATE DATABASE harbour;",
    );
    let rows = [
        measure(
            Database::PostgreSql,
            &format!("postgresql://harbour@127.0.0.1:{}/postgres", postgresql.port),
            &psql,
            "PostgreSQL",
        ),
        measure(
            Database::MariaDb,
            &format!("mariadb://root@127.0.0.1:{}/harbour", mariadb.port),
            &mysql,
            "MariaDB",
        ),
    ];
    let text = format!(
        "# Benchmarks of live databases\n\nA database of {TABLES} tables (12 columns, an index \
         and a reference each): reading it into a schema, against the\n\
         server's own client, which asks the same queries and throws the answers away. Run it \
         again with\n`cargo bench -p sprachbund-catalog`, which starts the servers and writes \
         this page.\n\n| server | queries, whatever the number of tables | time / time of the \
         server's own client | wanted |\n| --- | --- | --- | --- |\n{}\n",
        rows.join("\n")
    );
    print!("{text}");
    let page = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/benchmarks-servers.md");
    std::fs::write(page, text).expect("docs/benchmarks-servers.md is writable");
}
