//! What is written of tables, and that it is read again as what it was.

use sprachbund_activerecord::DIALECT;
use sprachbund_core::dialect::Settings;
use sprachbund_core::dialects::by_id;
use sprachbund_core::elide::printed;
use sprachbund_core::fit::fit;
use sprachbund_core::reading::{read, read_scripts};
use sprachbund_core::schema::Database;
use sprachbund_core::schema::facts::differences;
use sprachbund_core::source::NoFiles;

/// The files for tables of a server, in a release of the framework, after they were read again.
fn written(script: &str, database: Database, release: &str) -> String {
    let mut settings = Settings { database: Some(database), ..Settings::default() };
    let inputs = vec![("harbour.sql".to_owned(), script.to_owned())];
    let schema = read_scripts(inputs, by_id("sql").expect("SQL"), &mut settings).schema;
    let settings = Settings { version: Some(release.to_owned()), ..settings };
    let fitted = fit(&schema, &DIALECT, &settings);
    let files = printed(&DIALECT, &fitted.schema, &(DIALECT.conventions)(&settings));
    let inputs = files.iter().map(|file| (file.path.clone(), file.text.clone())).collect();
    let back = read(inputs, &DIALECT, &mut settings.clone(), &NoFiles).schema;
    let text: String =
        files.iter().map(|file| format!("--- {}\n{}", file.path, file.text)).collect();
    assert_eq!(differences(&fitted.schema, &back), [], "{database:?} {release}\n{text}");
    text
}

const HARBOUR: &str = "
CREATE TABLE quays (id bigint PRIMARY KEY, name varchar(60) NOT NULL, depth decimal(4,1));
CREATE TABLE berths (
    id bigint PRIMARY KEY,
    number integer DEFAULT 1 NOT NULL,
    quay_id bigint NOT NULL,
    opened date,
    CONSTRAINT berth_quay FOREIGN KEY (quay_id) REFERENCES quays (id) ON DELETE CASCADE,
    CONSTRAINT numbered CHECK (number > 0)
);
CREATE INDEX by_opening ON berths (opened);
";

#[test]
fn tables_are_read_again_as_they_were_written() {
    for release in DIALECT.versions {
        for database in [Database::PostgreSql, Database::MariaDb, Database::MySql] {
            let text = written(HARBOUR, database, release);
            for line in [
                &format!("class CreateTables < ActiveRecord::Migration[{release}]"),
                "create_table :quays, primary_key: [:id] do |t|",
                "t.string :name, limit: 60, null: false",
                "t.decimal :depth, precision: 4, scale: 1",
                "t.integer :number, null: false, default: 1",
                "t.index :opened, name: \"by_opening\"",
                "t.check_constraint \"\\\"number\\\" > 0\", name: \"numbered\"",
            ] {
                let quoted = line.replace("\\\"number\\\"", "`number`");
                let there = text.lines().any(|it| it.trim() == line || it.trim() == quoted);
                assert!(there, "{database:?} {release}: {line}\n{text}");
            }
        }
    }
}
