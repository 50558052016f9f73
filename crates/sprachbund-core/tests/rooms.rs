//! The rooms of the house: nothing outside a dialect's folder knows the dialect, but for the one
//! list.

use std::collections::{BTreeMap, BTreeSet};
use std::fs;
use std::path::{Path, PathBuf};

use sprachbund_core::dialects::DIALECTS;

/// Files that may name dialects: the list of them, the tour of the program through its demo data,
/// and the heads of examples.
const LISTS: &[&str] = &[
    "dialects/all/src/lib.rs",
    "sprachbund/src/commands/demo.rs",
    "sprachbund-core/src/lint/examples.rs",
];

/// The folder of all crates.
fn house() -> &'static Path {
    Path::new(env!("CARGO_MANIFEST_DIR")).parent().expect("a workspace")
}

#[test]
fn no_dialect_is_named_outside_its_room() {
    // The language of databases is everybody's.
    let ids: Vec<&str> =
        DIALECTS.iter().map(|dialect| dialect.id).filter(|id| *id != "sql").collect();
    let mut found = Vec::new();
    for part in parts() {
        for path in files(&house().join(&part.folder).join("src")) {
            let name = path
                .strip_prefix(house())
                .expect("a file of the workspace")
                .to_string_lossy()
                .replace('\\', "/");
            let in_a_room = ids.iter().any(|id| name.starts_with(&format!("dialects/{id}/")));
            if in_a_room || LISTS.contains(&name.as_str()) || name.ends_with("/tests.rs") {
                continue;
            }
            let text = fs::read_to_string(&path).expect("a readable file");
            let named = code(&text, name.contains("/lint/")).into_iter();
            let named =
                named.filter(|(_, line)| ids.iter().any(|id| line.to_lowercase().contains(id)));
            found.extend(named.map(|(at, line)| format!("{name}:{at}: {}", line.trim())));
        }
    }
    assert!(found.is_empty(), "say it in the dialect's own room:\n{}", found.join("\n"));
}

/// The lines of a file that are code: without comments, tests, and, of rules, the examples that
/// their pages show.
fn code(text: &str, rule: bool) -> Vec<(usize, &str)> {
    let shown = text.split("#[cfg(test)]").next().unwrap_or_default();
    let lines = shown
        .lines()
        .enumerate()
        .map(|(at, line)| (at + 1, line.split("//").next().unwrap_or_default()));
    let mut kept = Vec::new();
    let mut in_examples = false;
    for (at, line) in lines {
        let begins = |word: &str| line.trim_start().starts_with(word);
        in_examples |= rule && (begins("wrong:") || begins("right:") || begins("cases:"));
        in_examples &=
            !(begins("check,") || begins("..PLAIN") || begins("whole:") || begins("parameters:"));
        let imports = rule && begins("use crate::lint::");
        if !in_examples && !imports {
            kept.push((at, line));
        }
    }
    kept
}

/// A crate: a floor of the house, or one dialect on it.
struct Floor {
    name: String,
    /// Below the folder of all crates.
    folder: String,
    description: String,
    /// What it stands on, of the house.
    on: BTreeSet<String>,
    /// What others see of it.
    rooms: Vec<String>,
}

/// Every crate of the workspace by its manifest. Cargo forbids that they stand on each other in a
/// circle.
fn parts() -> Vec<Floor> {
    let folders = |below: &Path| {
        let entries = fs::read_dir(below).expect("a folder").flatten().map(|entry| entry.path());
        entries.filter(|path| path.join("Cargo.toml").exists()).collect::<Vec<PathBuf>>()
    };
    let mut found: Vec<Floor> = [folders(house()), folders(&house().join("dialects"))]
        .concat()
        .iter()
        .map(|path| floor(path))
        .collect();
    found.sort_by(|left, right| left.name.cmp(&right.name));
    found
}

fn floor(path: &Path) -> Floor {
    let manifest = fs::read_to_string(path.join("Cargo.toml")).expect("a manifest");
    let value = |key: &str| {
        let line = manifest.lines().find_map(|line| line.strip_prefix(key)?.strip_prefix(" = "));
        line.unwrap_or_default().trim_matches('"').to_owned()
    };
    let dependencies = manifest
        .split("[dependencies]\n")
        .nth(1)
        .unwrap_or_default()
        .split("\n[")
        .next()
        .unwrap_or_default();
    let on = dependencies
        .lines()
        .filter_map(|line| line.split(['.', ' ']).next())
        .filter(|name| name.starts_with("sprachbund"));
    let root = fs::read_to_string(path.join("src/lib.rs")).unwrap_or_default();
    let rooms = root.lines().filter_map(|line| line.strip_prefix("pub mod ")?.strip_suffix(';'));
    Floor {
        name: value("name"),
        folder: path
            .strip_prefix(house())
            .expect("a crate of the house")
            .to_string_lossy()
            .replace('\\', "/"),
        // The command's is the whole's.
        description: Some(value("description"))
            .filter(|text| !text.is_empty())
            .unwrap_or_else(|| "The command.".into()),
        on: on.map(str::to_owned).collect(),
        rooms: rooms.map(str::to_owned).collect(),
    }
}

/// How many crates stand below one, at most.
fn height(part: &Floor, parts: &[Floor]) -> usize {
    let below = part.on.iter().filter_map(|name| parts.iter().find(|part| part.name == *name));
    below.map(|part| height(part, parts) + 1).max().unwrap_or(0)
}

/// The rooms of one crate that the code of a room asks, by the room.
fn asks(part: &Floor) -> BTreeMap<String, BTreeSet<String>> {
    let source = house().join(&part.folder).join("src");
    let mut found: BTreeMap<String, BTreeSet<String>> = BTreeMap::new();
    for path in files(&source)
        .into_iter()
        .filter(|path| !path.ends_with("tests.rs") && !path.ends_with("lib.rs"))
    {
        let name = path
            .strip_prefix(&source)
            .expect("a file of the crate")
            .to_string_lossy()
            .replace('\\', "/");
        let room = name.split('/').next().unwrap_or_default().trim_end_matches(".rs").to_owned();
        let text = fs::read_to_string(&path).expect("a readable file");
        let asked = code(&text, false)
            .into_iter()
            .flat_map(|(_, line)| asked(line))
            .filter(|asked| *asked != room);
        found
            .entry(room.clone())
            .or_default()
            .extend(asked.filter(|asked| part.rooms.contains(asked)));
    }
    found.retain(|room, _| part.rooms.contains(room));
    found
}

/// The rooms that a line of code names.
fn asked(line: &str) -> impl Iterator<Item = String> + '_ {
    let name = |text: &str| {
        text.split(|letter: char| !(letter.is_ascii_lowercase() || letter == '_'))
            .next()
            .unwrap_or_default()
            .to_owned()
    };
    line.match_indices("crate::").map(move |(at, word)| name(&line[at + word.len()..]))
}

/// What a dialect may stand on: on nothing that is done with a schema, and on no other dialect but
/// SQL, in which any framework's steps may speak to the server.
const BELOW_A_DIALECT: &[&str] =
    &["sprachbund-dialect", "sprachbund-host", "sprachbund-schema", "sprachbund-sql"];

#[test]
fn every_dialect_stands_by_itself() {
    let parts = parts();
    for dialect in DIALECTS {
        let part = parts
            .iter()
            .find(|part| part.folder == format!("dialects/{}", dialect.id))
            .expect("a crate of the dialect's name");
        let others: Vec<&String> =
            part.on.iter().filter(|name| !BELOW_A_DIALECT.contains(&name.as_str())).collect();
        assert!(others.is_empty(), "{} stands on {others:?}", part.name);
    }
    // Nothing but the list names one, so that a new dialect is its folder and its line in the list.
    let dialects: BTreeSet<String> =
        DIALECTS.iter().map(|dialect| format!("sprachbund-{}", dialect.id)).collect();
    let dialects = &dialects - &BELOW_A_DIALECT.iter().map(|name| (*name).to_owned()).collect();
    let on_one =
        parts.iter().filter(|part| !part.on.is_disjoint(&dialects)).map(|part| part.name.as_str());
    assert_eq!(on_one.collect::<Vec<_>>(), ["sprachbund-dialects"]);
}

/// The crates, the highest first, with their rooms; below them what each room asks of the others in
/// its crate.
fn picture() -> String {
    let parts = parts();
    let mut floors: Vec<&Floor> = parts.iter().collect();
    floors.sort_by_key(|part| std::cmp::Reverse(height(part, &parts)));
    let short = |name: &str| name.strip_prefix("sprachbund-").unwrap_or(name).to_owned();
    let mut out = String::from("```text\n");
    let mut above = None;
    for part in &floors {
        let now = height(part, &parts);
        if above.is_some_and(|above| above != now) {
            out.push_str(&format!("{:>21} |\n", ""));
        }
        above = Some(now);
        out.push_str(format!("{:>21} | {}", part.name, part.rooms.join("  ")).trim_end());
        out.push('\n');
    }
    out.push_str("```\n\n| crate | what it is | stands on |\n| --- | --- | --- |\n");
    for part in &floors {
        let on: Vec<String> = part.on.iter().map(|name| short(name)).collect();
        out.push_str(&format!(
            "| [{}](../crates/{}) | {} | {} |\n",
            part.name,
            part.folder,
            part.description,
            on.join(", ")
        ));
    }
    out.push_str("\nRooms of one crate may ask each other:\n\n| room | asks |\n| --- | --- |\n");
    for part in floors.iter().filter(|part| !part.folder.starts_with("dialects/")) {
        for (room, asked) in asks(part).iter().filter(|(_, asked)| !asked.is_empty()) {
            let list: Vec<&str> = asked.iter().map(String::as_str).collect();
            out.push_str(&format!("| {}/{room} | {} |\n", short(&part.name), list.join(", ")));
        }
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
        fs::write(&path, format!("{before}<!-- rooms -->\n{wanted}<!-- /rooms -->{after}"))
            .expect("a page that can be written");
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
    let text = "// django
fn f() {
    wrong: django(\"x\"),
    check,
    g(\"django\"); // django
}
#[cfg(test)]
mod tests { /* django */ }
";
    let named = |rule: bool| {
        code(text, rule)
            .into_iter()
            .filter(|(_, line)| line.contains("django"))
            .map(|(at, _)| at)
            .collect::<Vec<_>>()
    };
    assert_eq!(named(true), [5]);
    assert_eq!(named(false), [3, 5]);
}
