//! Texts that try to leave their place: in ten positions of a schema, through every dialect on
//! every server, and read back. What was written must be what is read; `conformance/hostile.py`
//! asks the real languages and servers the same.

use std::collections::BTreeSet;

use proptest::prelude::*;
use proptest::test_runner::{Config, TestRunner};
use serde_json::json;
use sprachbund_core::dialect::{Dialect, Medium, Settings};
use sprachbund_core::dialects::DIALECTS;
use sprachbund_core::elide::printed;
use sprachbund_core::fit::fit;
use sprachbund_core::fit::suit;
use sprachbund_core::quoting::sql;
use sprachbund_core::reading::read;
use sprachbund_core::schema::facts::{Aspect, Difference, differences};
use sprachbund_core::schema::{Database, Schema, Type, json as file};
use sprachbund_core::source::NoFiles;

/// Pieces that texts are put together from: what ends, escapes or begins something in one of the
/// languages.
const PIECES: &[&str] = &[
    "'",
    "\"",
    "`",
    "\\",
    "\\'",
    "''",
    "\"\"",
    "'''",
    "\"\"\"",
    ";",
    "--",
    "/*",
    "*/",
    "#",
    "//",
    "$$",
    "$q$",
    "${",
    "{{",
    "}",
    "%",
    "%s",
    "%(a)s",
    "\n",
    "\r",
    "\t",
    "(",
    ")",
    "[",
    "]",
    ",",
    ".",
    ":",
    "@",
    "@@",
    "=",
    "<",
    ">",
    "&",
    "|",
    "?",
    "~",
    " ",
    "_",
    "__",
    "-",
    "E'",
    "\\n",
    "\\u0027",
    "\\x27",
    "x",
    "a",
    "Z",
    "9",
    "²",
    "½",
    "é",
    "e\u{301}",
    "ﬁ",
    "٣",
    "名",
    "\u{2028}",
    "\u{85}",
    "\u{1b}[31m",
    "\u{7f}",
    "\u{202e}",
    "class",
    "return",
    "None",
    "select",
    "DROP TABLE x;",
    "import os",
];

/// A schema with a text in the names of classes, tables, columns, an enumeration and constraints,
/// and in values.
fn schema(text: &str, database: Database) -> Schema {
    let column = |name: &str, ty: &str| {
        json!({ "name": name, "column": name, "type": ty,
        "nullable": false })
    };
    let with_default = |name: &str, value: &str| {
        let mut column = column(name, "varchar(80)");
        column["defaults"] = json!({ "database": { "literal": value }, "application": null });
        column["comment"] = json!(format!("of {value}"));
        column
    };
    let kind = format!("{text}k");
    let check = json!({ "binary": { "operator": "<>", "left": { "column": "note" },
        "right": { "literal": text } } });
    let meant = format!("\"note\" <> {}", sql::standard_literal(&text.into()));
    let value = json!({
        "sprachbund": 1,
        "source": { "dialect": "sql", "version": "2", "database": database.id() },
        "enums": [{
            "name": kind, "stored_name": (database == Database::PostgreSql).then_some(&kind),
                "module": "harbour", "inline": false,
            "members": [{ "name": text, "value": text }, { "name": "other",
                "value": format!("other {text}") }],
        }],
        "entities": [{
            "id": "harbour.Vessel", "name": "Vessel", "module": "harbour", "table": "vessels",
                "mapped": { "table": true, "code": true },
            "fields": [column("id", "integer")], "primary_key": { "columns": ["id"] },
        }, {
            "id": format!("harbour.{text}"), "name": text, "module": "harbour",
                "table": format!("{text}_t"),
            "comment": format!("about {text}"), "mapped": { "table": true, "code": true },
            "fields": [
                column("id", "integer"),
                with_default(text, &format!("{text}x")),
                with_default("note", text),
                column("kind", &format!("enum({kind})")),
                { "name": null, "column": format!("{text}_id"), "type": "integer",
                    "nullable": false },
            ],
            "primary_key": { "columns": ["id"] },
            "indexes": [{ "parts": [{ "column": "note" }], "columns": ["note"],
                "name": format!("{text}_ix") }],
            "checks": [{ "name": format!("{text}_ck"), "expression": { "language": "sql",
                "text": meant, "tree": check } }],
            "foreign_keys": [{
                "columns": [format!("{text}_id")], "references": { "table": "vessels",
                    "columns": ["id"], "namespace": null },
                "on_delete": "no action", "on_update": "no action", "enforced": "database",
            }],
            "relations": [{
                "name": format!("{text}_rel"), "kind": "many-to-one", "target": "harbour.Vessel",
                    "columns": [format!("{text}_id")],
                "inverse": format!("inverse of {text}"),
            }],
        }],
    });
    file::read(&value.to_string()).expect("a schema")
}

/// What a database stores of the texts.
fn stored(schema: &Schema) -> BTreeSet<String> {
    let mut found = BTreeSet::new();
    // SQLite keeps neither comments nor enumerations.
    let plain = schema.source.database == Database::Sqlite;
    for entity in &schema.entities {
        found.insert(format!(
            "{:?}: {:?}",
            entity.table,
            entity.comment.as_ref().filter(|_| !plain)
        ));
        for field in &entity.fields {
            let values = match &field.r#type {
                Type::Enum(name) if !plain => schema.enumeration(name),
                _ => None,
            };
            let values: Option<Vec<_>> = values
                .map(|known| known.members.iter().map(|member| member.value.clone()).collect());
            found.insert(format!(
                "{:?}.{:?} {:?} {:?} {values:?}",
                entity.table,
                field.column,
                field.defaults.database,
                field.comment.as_ref().filter(|_| !plain)
            ));
        }
        found.extend(entity.checks.iter().map(|check| {
            format!("{:?} {:?} {:?}", entity.table, check.name, check.expression.tree)
        }));
        found.extend(
            entity
                .indexes
                .iter()
                .filter(|index| index.name.is_some())
                .map(|index| format!("{:?} {:?}", entity.table, index.name)),
        );
        found.extend(
            entity.foreign_keys.iter().map(|key| {
                format!("{:?} {:?} {:?}", entity.table, key.columns, key.references.table)
            }),
        );
    }
    found
}

/// Writes the schema in a dialect and reads it back.
fn held(text: &str, dialect: &Dialect, database: Database) -> Result<(), String> {
    let schema = schema(text, database);
    let mut settings =
        Settings { database: Some(dialect.database(Some(database))), ..Settings::default() };
    suit(&schema, dialect, &mut settings);
    let fitted = fit(&schema, dialect, &settings).schema;
    let files = printed(dialect, &fitted, &(dialect.conventions)(&settings));
    let written: String =
        files.iter().map(|file| format!("--- {}\n{}", file.path, file.text)).collect();
    let mut paths: Vec<String> = files.iter().map(|file| file.path.to_lowercase()).collect();
    paths.sort();
    paths.dedup();
    let inputs = files.iter().map(|file| (file.path.clone(), file.text.clone())).collect();
    let read = read(inputs, dialect, &mut Settings { default_key: None, ..settings }, &NoFiles);
    let told: Vec<&str> = read
        .diagnostics
        .iter()
        .filter(|one| ["syntax-error", "unread-statement"].contains(&one.code))
        .map(|one| one.message.as_str())
        .collect();
    let differing = match dialect.medium {
        Medium::Classes { .. } => {
            // A name that the dialect gives by itself is not written.
            // What a model is called follows from its variable, which has no underscore at its end.
            let variable = dialect.keeps_documents() && text.ends_with('_');
            let alike = |one: &&Difference| {
                matches!(one.key.aspect, Aspect::StoredName | Aspect::Inline)
                    || (one.key.aspect == Aspect::Class && variable)
            };
            differences(&fitted, &read.schema)
                .iter()
                .filter(|one| !alike(one))
                .map(|one| format!("{one:?}"))
                .collect()
        }
        Medium::Statements { .. } => {
            let (meant, made) = (stored(&fitted), stored(&read.schema));
            meant.symmetric_difference(&made).cloned().collect::<Vec<_>>()
        }
    };
    if paths.len() == files.len() && told.is_empty() && differing.is_empty() {
        return Ok(());
    }
    Err(format!(
        "{text:?} in {} on {}: {told:?} {differing:?}\n{written}",
        dialect.id,
        database.id()
    ))
}

fn everywhere(text: &str) -> Result<(), String> {
    for dialect in DIALECTS {
        for database in [Database::PostgreSql, Database::MariaDb, Database::MySql, Database::Sqlite]
        {
            if dialect.databases.contains(&database) || dialect.keeps_documents() {
                held(text, dialect, database)?;
            }
        }
    }
    Ok(())
}

#[test]
fn no_text_leaves_its_place() {
    for piece in PIECES {
        everywhere(&format!("a{piece}b")).unwrap_or_else(|fault| panic!("{fault}"));
    }
    let text = prop::collection::vec(prop::sample::select(PIECES), 1..6)
        .prop_map(|pieces| pieces.concat());
    let mut runner =
        TestRunner::new(Config { cases: 60, failure_persistence: None, ..Config::default() });
    runner
        .run(&text, |text| everywhere(&text).map_err(TestCaseError::fail))
        .unwrap_or_else(|error| panic!("{error}"));
}

#[test]
fn what_is_quoted_is_whole_on_every_server() {
    let text = prop::collection::vec(
        prop_oneof![
            prop::sample::select(PIECES).prop_map(str::to_owned),
            any::<char>().prop_map(String::from)
        ],
        0..8,
    );
    let mut runner =
        TestRunner::new(Config { cases: 400, failure_persistence: None, ..Config::default() });
    let hostile = text.prop_map(|pieces| pieces.concat().replace('\0', ""));
    let law = |text: String| {
        for database in [Database::PostgreSql, Database::MariaDb, Database::MySql, Database::Sqlite]
        {
            for written in [sql::text(&text, database), sql::name(&text, database)] {
                prop_assert!(
                    sql::is_whole(&format!("({written})"), database),
                    "{written} on {}",
                    database.id()
                );
            }
            // A name is one name, a type ends where a type ends, whatever was meant to be one.
            prop_assert!(
                sql::is_path(&sql::path(&text, Some(database))) || text.contains(['"', '`'])
            );
            prop_assert!(
                sql::is_whole(&sql::type_name(&text, database), database),
                "{text:?} on {}",
                database.id()
            );
        }
        Ok(())
    };
    runner.run(&hostile, law).unwrap_or_else(|error| panic!("{error}"));
}
