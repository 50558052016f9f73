//! What goes with a dropped column, and what only loses it, on each server.

use sprachbund_core::dialect::Settings;
use sprachbund_core::dialects::by_id;
use sprachbund_core::history::dropping::column;
use sprachbund_core::reading::read;
use sprachbund_core::schema::Database;
use sprachbund_core::schema::facts::facts;
use sprachbund_core::source::NoFiles;

/// What a table of columns `a`, `b`, `c` has left of `parts` when `a` is dropped.
fn left(parts: &str, after: &str, server: Database) -> Vec<String> {
    let dialect = by_id("sql").expect("a dialect");
    let text =
        format!("CREATE TABLE t (a int NOT NULL, b int NOT NULL, c int NOT NULL{parts});\n{after}");
    let mut settings = Settings { database: Some(server), ..Settings::default() };
    let mut schema = read(vec![("t.sql".into(), text)], dialect, &mut settings, &NoFiles).schema;
    column(&mut schema.entities[0], "a", server);
    let of_column = |text: &String| text.contains(", column ");
    let told =
        facts(&schema).into_keys().map(|key| key.to_string()).filter(|text| !of_column(text));
    let elements = told
        .filter_map(|text| text.strip_prefix("t, ").map(str::to_owned))
        .filter(|text| text.contains(", "));
    let mut elements: Vec<String> =
        elements.filter_map(|text| Some(text.rsplit_once(", ")?.0.to_owned())).collect();
    elements.dedup();
    elements
}

/// Parts of the table, statements after it, and what is left of them on each server.
type Case<'c> = (&'c str, &'c str, &'c [(Database, &'c [&'c str])]);

#[test]
fn what_uses_a_column_goes_with_it_or_loses_it() {
    use Database::{MariaDb, MySql, PostgreSql, Sqlite};
    let cases: &[Case<'_>] = &[
        (", PRIMARY KEY (a, b)", "", &[(PostgreSql, &[]), (MySql, &["key"]), (Sqlite, &[])]),
        (", PRIMARY KEY (a)", "", &[(PostgreSql, &[]), (MySql, &[]), (MariaDb, &[])]),
        (
            ", PRIMARY KEY (b)",
            "",
            &[(PostgreSql, &["key"]), (MySql, &["key"]), (MariaDb, &["key"])],
        ),
        (", UNIQUE (a, b)", "", &[(PostgreSql, &[]), (MySql, &["unique b"])]),
        (", UNIQUE (b, c)", "", &[(PostgreSql, &["unique b, c"]), (MySql, &["unique b, c"])]),
        (", CHECK (a > 0)", "", &[(PostgreSql, &[]), (MySql, &[]), (MariaDb, &[])]),
        (", CHECK (a > b)", "", &[(PostgreSql, &[])]),
        (
            ", CHECK (b > 0)",
            "",
            &[(PostgreSql, &["check \"b\" > 0"]), (MySql, &["check \"b\" > 0"])],
        ),
        (
            "",
            "CREATE INDEX i ON t (a, b);",
            &[(PostgreSql, &[]), (MySql, &["index b"]), (MariaDb, &["index b"])],
        ),
        ("", "CREATE INDEX i ON t (a);", &[(PostgreSql, &[]), (MySql, &[])]),
        ("", "CREATE INDEX i ON t (b) WHERE a > 0;", &[(PostgreSql, &[])]),
        ("", "CREATE INDEX i ON t (b) INCLUDE (a);", &[(PostgreSql, &[])]),
        ("", "CREATE INDEX i ON t ((a + 1));", &[(PostgreSql, &[])]),
        ("", "CREATE INDEX i ON t (b) WHERE c > 0;", &[(PostgreSql, &["index b where \"c\" > 0"])]),
    ];
    for (parts, after, outcomes) in cases {
        for (server, wanted) in *outcomes {
            assert_eq!(
                left(parts, after, *server),
                *wanted,
                "{parts} {after} on {}",
                server.title()
            );
        }
    }
}
