//! Committed documents that are made from the code. `UPDATE=1 cargo test --test documents` writes
//! them anew.

use std::path::{Path, PathBuf};

use sprachbund_core::dialect::{Dialect, Settings};
use sprachbund_core::dialects::DIALECTS;
use sprachbund_core::fit::suit;
use sprachbund_core::fit::{Grade, fit};
use sprachbund_core::lint::rules;
use sprachbund_core::pages as page;
use sprachbund_core::reading::read;
use sprachbund_core::schema::facts::facts;
use sprachbund_core::schema::{Database, json};
use sprachbund_core::source::NoFiles;

fn root() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../..")
}

fn check(path: &str, wanted: &str) {
    let path = root().join(path);
    if std::env::var_os("UPDATE").is_some() {
        std::fs::write(&path, wanted).expect("a writable document");
    }
    let found = std::fs::read_to_string(&path).unwrap_or_default();
    assert!(
        found == wanted,
        "{} is stale; run `UPDATE=1 cargo test --test documents`",
        path.display()
    );
}

#[test]
fn dialect_pages_are_current() {
    for dialect in DIALECTS {
        check(&format!("docs/dialects/{}.md", dialect.id), &page::of_dialect(dialect));
    }
}

#[test]
fn the_page_of_what_reading_says_is_current() {
    check("docs/reading.md", &page::of_reading());
}

/// What each pair of dialects keeps, respells, moves, weakens and drops of the demo register.
#[test]
fn the_compatibility_page_is_current() {
    let mut page = String::from(
        "# Compatibility\n\nMade from the demo register on PostgreSQL; do not edit. For each \
         pair of dialects: how many facts the source states, and how many of\n\
         them the target says otherwise, by what becomes of them. Every one is named by \
         `sprachbund emit`; `conformance/` has each target's own\n\
         framework create what was emitted, and compares.\n\n\
         | from | to | facts | kept | respelled | moved | strengthened | weakened | dropped | \
         added |\n| --- | --- | --- | --- | --- | --- | --- | --- | --- | --- |\n",
    );
    let mut accounts = String::new();
    for source in DIALECTS {
        let mut settings = Settings {
            database: Some(source.database(Some(Database::PostgreSql))),
            ..Settings::default()
        };
        let reading = read(demo(source), source, &mut settings, &NoFiles);
        for target in DIALECTS.iter().filter(|target| target.id != source.id) {
            let mut settings = Settings {
                database: Some(target.database(Some(Database::PostgreSql))),
                ..Settings::default()
            };
            suit(&reading.schema, target, &mut settings);
            let fitted = fit(&reading.schema, target, &settings);
            let count = |grade: Grade| {
                fitted
                    .changes
                    .iter()
                    .filter(|change| change.grade == grade)
                    .map(|change| change.facts.len())
                    .sum::<usize>()
            };
            let total = facts(&fitted.named).len();
            let changed: usize = Grade::ALL
                .iter()
                .filter(|(grade, _)| *grade != Grade::Added)
                .map(|(grade, _)| count(*grade))
                .sum();
            let cells = [
                Grade::Respelled,
                Grade::Moved,
                Grade::Strengthened,
                Grade::Weakened,
                Grade::Dropped,
                Grade::Added,
            ]
            .map(|grade| count(grade).to_string());
            page.push_str(&format!(
                "| {} | {} | {total} | {} | {} |\n",
                source.id,
                target.id,
                total.saturating_sub(changed),
                cells.join(" | ")
            ));
            accounts.push_str(&format!("\n## {} to {}\n\n", source.framework, target.framework));
            for change in fitted.changes.iter().chain(&fitted.refused) {
                let to_do = if change.to_do.is_empty() {
                    String::new()
                } else {
                    format!("; to do: {}", change.to_do)
                };
                let (reason, result) = (&change.reason, &change.result);
                accounts.push_str(&format!(
                    "- {}: {reason}; instead: {result}{to_do} ({})\n",
                    change.grade.word(),
                    change.elements.len()
                ));
            }
        }
    }
    check("docs/compatibility.md", &(page + &accounts));
}

/// The demo register in a dialect.
fn demo(dialect: &Dialect) -> Vec<(String, String)> {
    let folder = root().join("demo").join(dialect.id);
    let mut waiting = vec![folder.clone()];
    let mut found = Vec::new();
    while let Some(path) = waiting.pop() {
        match std::fs::read_dir(&path) {
            Ok(entries) => waiting.extend(entries.flatten().map(|entry| entry.path())),
            Err(_) => {
                let name = path
                    .strip_prefix(&folder)
                    .expect("inside the folder")
                    .to_string_lossy()
                    .replace('\\', "/");
                found.push((name, std::fs::read_to_string(&path).expect("a demo file")));
            }
        }
    }
    found.sort();
    found
}

#[test]
fn rule_pages_are_current() {
    for rule in rules() {
        check(&format!("docs/rules/{}.md", rule.name), &page::of_rule(rule));
    }
    check("docs/rules/README.md", &page::of_rules());
}

#[test]
fn the_json_schema_is_current() {
    check("docs/schema.json", &json::json_schema());
}
