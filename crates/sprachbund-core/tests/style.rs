//! What the formatter and the lints do not see of code that is written to be read: lines of at most
//! 100 columns, texts included, and functions of at most 80 lines, tests included.

use std::path::{Path, PathBuf};

const COLUMNS: usize = 100;
const LINES: usize = 80;

/// Every source file of the workspace, by path and text.
fn sources() -> Vec<(PathBuf, String)> {
    let mut found = Vec::new();
    let mut folders = vec![Path::new(env!("CARGO_MANIFEST_DIR")).join("..")];
    while let Some(folder) = folders.pop() {
        for entry in std::fs::read_dir(&folder).expect("a folder of the workspace").flatten() {
            let path = entry.path();
            if path.is_dir() && !path.ends_with("target") {
                folders.push(path);
            } else if path.extension().is_some_and(|extension| extension == "rs") {
                let text = std::fs::read_to_string(&path).expect("text");
                found.push((path, text));
            }
        }
    }
    found
}

#[test]
fn lines_are_short() {
    let sources = sources();
    assert!(sources.len() > 300, "the workspace is larger than {}", sources.len());
    for (path, text) in sources {
        for (at, line) in text.lines().enumerate() {
            let columns = line.chars().count();
            assert!(columns <= COLUMNS, "{}:{}: {columns} columns", path.display(), at + 1);
        }
    }
}

/// Name and number of lines of each function: it ends with the brace below its first word.
fn functions(text: &str) -> Vec<(String, usize)> {
    let lines: Vec<&str> = text.lines().collect();
    let mut found = Vec::new();
    for (at, line) in lines.iter().enumerate() {
        let Some((before, name)) = line.split_once("fn ") else { continue };
        let words = ["pub", "pub(crate)", "pub(super)", "const", "async", "unsafe"];
        let is_head = before
            .split_whitespace()
            .all(|word| words.contains(&word) || word.starts_with("pub(in"));
        if !is_head || line.trim_end().ends_with('}') || line.trim_end().ends_with(';') {
            continue;
        }
        let end = format!("{}}}", " ".repeat(line.len() - line.trim_start().len()));
        let length = lines[at..].iter().position(|line| *line == end);
        let name = name.split(['(', '<']).next().unwrap_or_default().to_owned();
        found.extend(length.map(|length| (name, length + 1)));
    }
    found
}

#[test]
fn functions_are_short() {
    let mut count = 0;
    for (path, text) in sources() {
        for (name, lines) in functions(&text) {
            assert!(lines <= LINES, "{}: `{name}` has {lines} lines", path.display());
            count += 1;
        }
    }
    assert!(count > 3000, "only {count} functions were found");
}

#[test]
fn a_long_function_would_be_seen() {
    let long =
        format!("impl A {{\n    pub(crate) fn long(\n{}    }}\n}}\n", "        x();\n".repeat(90));
    assert_eq!(functions(&long), [("long".to_owned(), 92)]);
    assert_eq!(functions("fn short() {}\n    // fn none\n"), []);
}
