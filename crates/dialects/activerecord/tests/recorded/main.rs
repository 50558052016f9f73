//! The history of a made-up harbour authority, which grew over ten years, against what the real
//! framework and the real servers made of it: the catalog after every migration (PostgreSQL 17.12,
//! MariaDB 11.8.9, MySQL 9.7.4, SQLite 3.40 to 3.54), and what the framework says of its classes.

mod catalog;
mod classes;

use std::collections::BTreeMap;
use std::fs;
use std::path::{Path, PathBuf};

use serde_json::Value;
use sha2::{Digest, Sha256};
use sprachbund_activerecord::DIALECT;
use sprachbund_core::dialect::Settings;
use sprachbund_core::history::stored_part;
use sprachbund_core::reading::{Reading, read};
use sprachbund_core::schema::facts::{Aspect, Difference, differences};
use sprachbund_core::schema::{Action, Check, Database, Index, NamedBy, Schema, Unique, UniqueAs};
use sprachbund_core::source::NoFiles;

/// The releases whose answers were recorded.
const RELEASES: &[&str] = &["6.1.7.10", "7.0.10", "7.1.6", "7.2.4", "8.0.5.1", "8.1.4"];

/// Application, recording and server.
const HISTORIES: &[(&str, &str, Database)] = &[
    ("authority", "postgresql.json", Database::PostgreSql),
    ("authority", "mariadb.json", Database::MariaDb),
    ("authority", "mysql.json", Database::MySql),
    ("authority", "sqlite.json", Database::Sqlite),
    ("on_postgresql", "on_postgresql.json", Database::PostgreSql),
    ("on_mysql", "on_mysql.mariadb.json", Database::MariaDb),
    ("on_mysql", "on_mysql.mysql.json", Database::MySql),
];

/// What one server held after each migration.
struct Recording {
    database: Database,
    server: (u32, u32),
    release: String,
    steps: Vec<Step>,
}

/// One migration, and all tables and enumeration types after it.
struct Step {
    number: String,
    name: String,
    tables: BTreeMap<String, Value>,
    enums: Value,
}

fn harbour() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/harbour")
}

fn json(release: &str, file: &str) -> Value {
    let path = harbour().join("recorded").join(release).join(file);
    let text = fs::read_to_string(&path).unwrap_or_else(|_| panic!("{}", path.display()));
    serde_json::from_str(&text).expect("JSON")
}

fn recording(release: &str, file: &str, database: Database) -> Recording {
    let all = json(release, file);
    let server = all["server"].as_str().expect("a server").rsplit(' ').next().expect("a release");
    let mut numbers = server.split('.').map(|number| number.parse().expect("a number"));
    let (mut tables, mut enums) = (BTreeMap::new(), Value::Null);
    let mut steps = Vec::new();
    for step in all["up"].as_array().expect("steps") {
        for (table, made) in step["changed"].as_object().into_iter().flatten() {
            tables.insert(table.clone(), made.clone());
        }
        for table in step["dropped"].as_array().into_iter().flatten() {
            tables.remove(table.as_str().expect("a name"));
        }
        if !step["enum_types"].is_null() {
            enums = step["enum_types"].clone();
        }
        let text = |key: &str| step[key].as_str().expect("a text").to_owned();
        steps.push(Step {
            number: text("version"),
            name: text("name"),
            tables: tables.clone(),
            enums: enums.clone(),
        });
    }
    Recording {
        database,
        server: (numbers.next().unwrap_or(0), numbers.next().unwrap_or(0)),
        release: release.split('.').take(2).collect::<Vec<_>>().join("."),
        steps,
    }
}

/// The files of an application.
fn files(application: &str) -> Vec<(String, String)> {
    fn below(folder: &Path, root: &Path, found: &mut Vec<(String, String)>) {
        let entries = fs::read_dir(folder).expect("a folder").flatten();
        let mut entries: Vec<PathBuf> = entries.map(|entry| entry.path()).collect();
        entries.sort();
        for path in entries {
            if path.is_dir() {
                below(&path, root, found);
            } else {
                let name = path.strip_prefix(root).expect("inside").to_string_lossy().into_owned();
                found.push((name, fs::read_to_string(&path).expect("a text")));
            }
        }
    }
    let (root, mut found) = (harbour().join(application), Vec::new());
    below(&root, &root, &mut found);
    found
}

fn settings(recording: &Recording) -> Settings {
    Settings {
        database: Some(recording.database),
        server_release: Some(recording.server),
        version: Some(recording.release.clone()),
        ..Settings::default()
    }
}

/// The application as it was after a migration.
fn read_until(files: &[(String, String)], number: &str, recording: &Recording) -> Reading {
    let is_made = |path: &str| {
        let file = path.rsplit('/').next().unwrap_or(path);
        !path.contains("db/migrate/") || file.split('_').next().is_some_and(|own| own <= number)
    };
    let inputs = files.iter().filter(|(path, _)| is_made(path)).cloned().collect();
    read(inputs, &DIALECT, &mut settings(recording), &NoFiles)
}

/// The tables without what a recording does not tell.
fn comparable(schema: &Schema, database: Database) -> Schema {
    let mut made = schema.clone();
    for entity in &mut made.entities {
        entity.mapped.code = false;
        entity.indexes.retain(|index| index.method.as_deref() != Some("fulltext"));
        let actions =
            entity.foreign_keys.iter_mut().flat_map(|key| [&mut key.on_delete, &mut key.on_update]);
        // MariaDB and MySQL do not tell the two apart.
        for action in actions.filter(|action| database.is_mysql() && **action == Action::Restrict) {
            *action = Action::NoAction;
        }
        let by_index = |unique: &mut Unique| unique.r#as == UniqueAs::Index;
        for unique in entity.uniques.extract_if(.., by_index) {
            let index = Index::over(&unique.columns, unique.origin);
            entity.indexes.push(Index { unique: true, name: unique.name, ..index });
        }
        // The names of indexes and constraints are compared, whoever gave them.
        entity.indexes.iter_mut().for_each(|index| index.named_by = NamedBy::Author);
        for unique in &mut entity.uniques {
            unique.named_by = NamedBy::Author;
            let by_server = format!("{}_{}_key", entity.table, unique.columns.join("_"));
            if unique.name.as_ref() == Some(&by_server) {
                unique.named_by = NamedBy::Server;
            }
        }
    }
    stored_part(&made)
}

/// Takes the names that the framework gives for unsaid, as reading does: those of foreign keys are
/// made of the table and the columns; of a check or exclusion it is seen by their beginning.
fn without_given_names(schema: &mut Schema, made: &Schema) {
    for entity in &mut schema.entities {
        let address = entity.address();
        let Some(made) = made.entities.iter().find(|made| made.address() == address) else {
            continue;
        };
        for key in &mut entity.foreign_keys {
            let digest = Sha256::digest(format!("{address}_{}_fk", key.columns.join("_and_")));
            let digits: String = digest.iter().take(5).map(|byte| format!("{byte:02x}")).collect();
            key.name.take_if(|name| *name == format!("fk_rails_{digits}"));
        }
        let unnamed = |checks: &[Check]| checks.iter().filter(|check| check.name.is_none()).count();
        for (checks, made, begin) in [
            (&mut entity.checks, &made.checks, "chk_rails_"),
            (&mut entity.exclusions, &made.exclusions, "excl_rails_"),
        ] {
            let mut left = unnamed(made);
            for check in checks {
                if left > 0 && check.name.take_if(|name| name.starts_with(begin)).is_some() {
                    left -= 1;
                }
            }
        }
    }
}

/// The differences after a migration, one a line.
fn held_against(files: &[(String, String)], step: &Step, recording: &Recording) -> Vec<String> {
    let reading = read_until(files, &step.number, recording);
    let made = comparable(&reading.schema, recording.database);
    let mut wanted = catalog::expected(&step.tables, &step.enums, recording);
    without_given_names(&mut wanted, &made);
    let of_classes =
        [Aspect::Module, Aspect::HasClass, Aspect::Class, Aspect::Order, Aspect::SoftDelete];
    let of_tables = |found: &Difference| !of_classes.contains(&found.key.aspect);
    let shown = |found: Difference| {
        format!("{} on {:?} after {}: {found:?}", recording.release, recording.database, step.name)
    };
    let found = differences(&stored_part(&wanted), &made);
    found.into_iter().filter(of_tables).map(shown).collect()
}

/// Every `STRIDE`th migration is looked at, and the last: each server begins at another one, so
/// that together they see all. Where `EVERY_STEP` is set, all of them on each.
const STRIDE: usize = 4;

/// Holds the histories of a server in a release against what was recorded.
fn catalogs(release: &str, database: Database, first: usize, stride: usize) {
    let stride = if std::env::var("EVERY_STEP").is_ok() { 1 } else { stride };
    let mut found = Vec::new();
    for (application, file, _) in HISTORIES.iter().filter(|(_, _, server)| *server == database) {
        let (files, recording) = (files(application), recording(release, file, database));
        let last = recording.steps.len() - 1;
        for (at, step) in recording.steps.iter().enumerate() {
            if at == last || at % stride == first % stride {
                found.extend(held_against(&files, step, &recording));
            }
        }
    }
    assert!(found.is_empty(), "{} differences\n{}", found.len(), found.join("\n"));
}

#[test]
fn catalogs_after_each_migration_on_postgresql() {
    catalogs("8.1.4", Database::PostgreSql, 0, STRIDE);
}

#[test]
fn catalogs_after_each_migration_on_mariadb() {
    catalogs("8.1.4", Database::MariaDb, 1, STRIDE);
}

#[test]
fn catalogs_after_each_migration_on_mysql() {
    catalogs("8.1.4", Database::MySql, 2, STRIDE);
}

#[test]
fn catalogs_after_each_migration_on_sqlite() {
    catalogs("8.1.4", Database::Sqlite, 3, STRIDE);
}

/// After the last migration.
#[test]
fn catalogs_of_every_release() {
    for release in RELEASES {
        for database in [Database::PostgreSql, Database::MariaDb, Database::MySql, Database::Sqlite]
        {
            catalogs(release, database, usize::MAX, usize::MAX);
        }
    }
}

#[test]
fn classes_as_the_framework_reflects_them() {
    let mut found = Vec::new();
    for release in ["7.1.6", "8.1.4"] {
        for application in ["authority", "on_postgresql"] {
            let (history, models) = match application {
                "authority" => ("postgresql.json", "models.json"),
                _ => ("on_postgresql.json", "on_postgresql.models.json"),
            };
            let recording = recording(release, history, Database::PostgreSql);
            let reading = read(files(application), &DIALECT, &mut settings(&recording), &NoFiles);
            let all = json(release, models);
            let models = all["models"].as_object().expect("models");
            let elsewhere = |model: &Value| {
                let parent = model["parent"].as_str().and_then(|parent| models.get(parent));
                [Some(model), parent].into_iter().flatten().any(|one| !one["connection"].is_null())
            };
            for (name, model) in models.iter().filter(|(_, model)| !elsewhere(model)) {
                found.extend(classes::reflected(&reading.schema, name, model));
            }
        }
    }
    assert!(found.is_empty(), "{}", found.join("\n"));
}
