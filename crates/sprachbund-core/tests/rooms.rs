//! The rooms of the house: nothing outside a dialect's folder knows the dialect, but for the one list.

use std::collections::BTreeSet;
use std::fs;
use std::path::{Path, PathBuf};

use sprachbund_core::dialects::DIALECTS;

/// Files that may name dialects: the list of them, and the tour of the program through its demo data.
const LISTS: &[&str] = &["sprachbund-core/src/dialects/mod.rs", "sprachbund/src/commands/demo.rs", "sprachbund-core/src/lint/examples.rs"];

#[test]
fn no_dialect_is_named_outside_its_room() {
    // The language of databases is everybody's.
    let ids: Vec<&str> = DIALECTS.iter().map(|dialect| dialect.id).filter(|id| *id != "sql").collect();
    let crates = Path::new(env!("CARGO_MANIFEST_DIR")).parent().expect("a workspace");
    let mut found = Vec::new();
    for folder in ["sprachbund-core/src", "sprachbund-catalog/src", "sprachbund/src"] {
        for path in files(&crates.join(folder)) {
            let name = path.strip_prefix(crates).expect("a file of the workspace").to_string_lossy().replace('\\', "/");
            let in_a_room = ids.iter().any(|id| name.starts_with(&format!("sprachbund-core/src/dialects/{id}/")));
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

/// The rooms of the core, from the ground up: what stands on one level may ask what stands on it and below.
const LEVELS: &[(&str, &[&str])] = &[
    ("what is meant", &["source", "quoting", "schema", "diagnostic"]),
    ("languages", &["host"]),
    ("what a dialect is", &["server", "declaration", "history", "dialect", "resolve", "elide"]),
    ("each dialect by itself", &["dialects/*"]),
    ("the list of them", &["dialects"]),
    ("what is done with a schema", &["compare", "fit", "lint", "mend", "pages", "reading", "recognise", "subjects"]),
];

/// A room and what it asks.
type Asks = (String, BTreeSet<String>);

/// The room of a file below `src`: a folder or a file of its own name; each dialect has one.
fn room(path: &str) -> String {
    let mut parts = path.split('/');
    match (parts.next().unwrap_or_default(), parts.next(), parts.next()) {
        ("dialects", Some(name), Some(_)) => format!("dialects/{name}"),
        (name, ..) => name.trim_end_matches(".rs").to_owned(),
    }
}

/// The rooms that a line of code names.
fn asked(line: &str) -> impl Iterator<Item = String> + '_ {
    line.match_indices("crate::").map(|(at, word)| {
        let rest = &line[at + word.len()..];
        let name =
            |text: &str| text.split(|letter: char| !(letter.is_ascii_lowercase() || letter == '_')).next().unwrap_or_default().to_owned();
        let first = name(rest);
        let inside = rest[first.len()..].strip_prefix("::").map(name).filter(|inside| first == "dialects" && is_dialect(inside));
        inside.map_or(first, |inside| format!("dialects/{inside}"))
    })
}

fn is_dialect(name: &str) -> bool {
    DIALECTS.iter().any(|dialect| dialect.id == name)
}

/// Every room with the rooms that its code asks.
fn asks() -> Vec<Asks> {
    let source = Path::new(env!("CARGO_MANIFEST_DIR")).join("src");
    let mut found: Vec<Asks> = Vec::new();
    for path in files(&source).into_iter().filter(|path| !path.ends_with("tests.rs") && !path.ends_with("lib.rs")) {
        let name = path.strip_prefix(&source).expect("a file of the core").to_string_lossy().replace('\\', "/");
        let text = fs::read_to_string(&path).expect("a readable file");
        let named: BTreeSet<String> = code(&text, false).into_iter().flat_map(|(_, line)| asked(line)).collect();
        let room = room(&name);
        match found.iter_mut().find(|(known, _)| *known == room) {
            Some((_, asks)) => asks.extend(named),
            None => found.push((room, named)),
        }
    }
    for (room, asks) in &mut found {
        asks.remove(room);
    }
    found
}

/// The level of a room.
fn level(room: &str) -> usize {
    let stands = |rooms: &[&str]| rooms.contains(&room) || (room.starts_with("dialects/") && rooms.contains(&"dialects/*"));
    LEVELS.iter().position(|(_, rooms)| stands(rooms)).unwrap_or_else(|| panic!("on which level is `{room}`?"))
}

#[test]
fn no_room_asks_one_above_it() {
    let wrong = |(room, asks): &Asks| {
        let upwards =
            asks.iter().filter(|asked| level(asked) > level(room) || (asked.starts_with("dialects/") && room.starts_with("dialects/")));
        upwards.map(|asked| format!("{room} asks {asked}")).collect::<Vec<_>>()
    };
    let wrong: Vec<String> = asks().iter().flat_map(wrong).collect();
    assert!(wrong.is_empty(), "{}", wrong.join("\n"));
}

/// The levels, the highest first, and below them what each room asks.
fn picture() -> String {
    let asks = asks();
    let mut out = String::from("```text\n");
    for (title, rooms) in LEVELS.iter().rev() {
        let rooms: Vec<String> = match rooms {
            ["dialects/*"] => asks.iter().filter_map(|(room, _)| room.strip_prefix("dialects/")).map(str::to_owned).collect(),
            rooms => rooms.iter().map(|room| (*room).to_owned()).collect(),
        };
        out.push_str(&format!("{title:>28} | {}\n", rooms.join("  ")));
    }
    out.push_str("```\n\n| room | asks |\n| --- | --- |\n");
    for (room, asked) in &asks {
        let list: Vec<&str> = asked.iter().map(String::as_str).collect();
        out.push_str(&format!("| {room} | {} |\n", list.join(", ")));
    }
    out
}

/// `UPDATE=1 cargo test --test rooms` draws it anew.
#[test]
fn the_picture_of_the_rooms_is_true() {
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/architecture.md");
    let text = fs::read_to_string(&path).expect("the page");
    let (before, rest) = text.split_once("<!-- rooms -->\n").expect("a place for the picture");
    let (found, after) = rest.split_once("<!-- /rooms -->").expect("its end");
    let wanted = format!("\n{}\n", picture());
    if std::env::var_os("UPDATE").is_some() {
        fs::write(&path, format!("{before}<!-- rooms -->\n{wanted}<!-- /rooms -->{after}")).expect("a page that can be written");
        return;
    }
    assert_eq!(found, wanted, "run `UPDATE=1 cargo test --test rooms`");
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
