//! Committed documents that are made from the code. `UPDATE=1 cargo test --test documents` writes them anew.

use std::path::{Path, PathBuf};

use sprachbund_core::dialect::{DIALECTS, page};
use sprachbund_core::lint::RULES;
use sprachbund_core::schema::json;

fn root() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../..")
}

fn check(path: &str, wanted: &str) {
    let path = root().join(path);
    if std::env::var_os("UPDATE").is_some() {
        std::fs::write(&path, wanted).expect("a writable document");
    }
    let found = std::fs::read_to_string(&path).unwrap_or_default();
    assert!(found == wanted, "{} is stale; run `UPDATE=1 cargo test --test documents`", path.display());
}

#[test]
fn dialect_pages_are_current() {
    for dialect in DIALECTS {
        check(&format!("docs/dialects/{}.md", dialect.id), &page::of_dialect(dialect));
    }
}

#[test]
fn rule_pages_are_current() {
    for rule in RULES {
        check(&format!("docs/rules/{}.md", rule.name), &page::of_rule(rule));
    }
}

#[test]
fn the_json_schema_is_current() {
    check("docs/schema.json", &json::json_schema());
}
