//! The rooms of the house: nothing outside a dialect's folder knows the dialect, but for the one list.

use std::fs;
use std::path::{Path, PathBuf};

use sprachbund_core::dialect::DIALECTS;

/// Files that may name dialects: the list of them, and the tour of the program through its demo data.
const LISTS: &[&str] = &["sprachbund-core/src/dialect/mod.rs", "sprachbund/src/commands/demo.rs", "sprachbund-core/src/lint/examples.rs"];

#[test]
fn no_dialect_is_named_outside_its_room() {
    // The language of databases is everybody's.
    let ids: Vec<&str> = DIALECTS.iter().map(|dialect| dialect.id).filter(|id| *id != "sql").collect();
    let crates = Path::new(env!("CARGO_MANIFEST_DIR")).parent().expect("a workspace");
    let mut found = Vec::new();
    for folder in ["sprachbund-core/src", "sprachbund-catalog/src", "sprachbund/src"] {
        for path in files(&crates.join(folder)) {
            let name = path.strip_prefix(crates).expect("a file of the workspace").to_string_lossy().replace('\\', "/");
            let in_a_room = ids.iter().any(|id| name.starts_with(&format!("sprachbund-core/src/dialect/{id}/")));
            if in_a_room || LISTS.contains(&name.as_str()) || name.ends_with("/tests.rs") {
                continue;
            }
            let text = fs::read_to_string(&path).expect("a readable file");
            let named = code(&text, name.contains("/lint/")).into_iter();
            let named = named.filter(|(_, line)| ids.iter().any(|id| line.to_lowercase().contains(id)));
            found.extend(named.map(|(at, line)| format!("{name}:{at}: {}", line.trim())));
        }
    }
    assert!(found.is_empty(), "say it in the dialect's own room:\n{}", found.join("\n"));
}

/// The lines of a file that are code: without comments, tests, and, of rules, the examples that their pages show.
fn code(text: &str, rule: bool) -> Vec<(usize, &str)> {
    let shown = text.split("#[cfg(test)]").next().unwrap_or_default();
    let lines = shown.lines().enumerate().map(|(at, line)| (at + 1, line.split("//").next().unwrap_or_default()));
    let mut kept = Vec::new();
    let mut in_examples = false;
    for (at, line) in lines {
        let begins = |word: &str| line.trim_start().starts_with(word);
        in_examples |= rule && (begins("wrong:") || begins("right:") || begins("cases:"));
        in_examples &= !(begins("check,") || begins("..PLAIN") || begins("whole:") || begins("parameters:"));
        let imports = rule && begins("use crate::lint::");
        if !in_examples && !imports {
            kept.push((at, line));
        }
    }
    kept
}

/// Every source file below a folder.
fn files(folder: &Path) -> Vec<PathBuf> {
    let mut found = Vec::new();
    for entry in fs::read_dir(folder).expect("a folder").flatten() {
        let path = entry.path();
        if path.is_dir() {
            found.extend(files(&path));
        } else if path.extension().is_some_and(|extension| extension == "rs") {
            found.push(path);
        }
    }
    found.sort();
    found
}

#[test]
fn what_is_looked_through_is_what_is_there() {
    let text = "// django\nfn f() {\n    wrong: django(\"x\"),\n    check,\n    g(\"django\"); // django\n}\n#[cfg(test)]\nmod tests { /* django */ }\n";
    let named = |rule: bool| code(text, rule).into_iter().filter(|(_, line)| line.contains("django")).map(|(at, _)| at).collect::<Vec<_>>();
    assert_eq!(named(true), [5]);
    assert_eq!(named(false), [3, 5]);
}
