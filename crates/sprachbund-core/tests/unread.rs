//! Law 0: nothing unread. Every call of the demo register, every class body and every class gets an
//! argument, an attribute or a decorator that no framework knows; each must be kept in the schema
//! or be named by a diagnostic.

use std::fs;
use std::path::{Path, PathBuf};

use sprachbund_core::dialect::{Dialect, Settings};
use sprachbund_core::dialects::by_id;
use sprachbund_core::host::Language;
use sprachbund_core::host::outline::{Class, Expr, ExprKind};
use sprachbund_core::host::typescript::TYPESCRIPT;
use sprachbund_core::reading::read;
use sprachbund_core::schema::json;
use sprachbund_core::source::{FileId, NoFiles, SourceFile};

fn files(folder: &Path, extension: &str) -> Vec<PathBuf> {
    let mut found = Vec::new();
    for entry in fs::read_dir(folder).expect("the demo").flatten() {
        match entry.path() {
            path if path.is_dir() => found.extend(files(&path, extension)),
            path => found
                .extend(path.extension().is_some_and(|known| known == extension).then_some(path)),
        }
    }
    found.sort();
    found
}

/// Where a call's arguments end, and whether it has any.
fn ends_of_calls(expr: &Expr, found: &mut Vec<(usize, bool)>) {
    match &expr.kind {
        ExprKind::Call(call) => {
            found.push((
                expr.span.end as usize - 1,
                !(call.arguments.is_empty() && call.named.is_empty()),
            ));
            call.arguments
                .iter()
                .chain(call.named.iter().map(|(_, value)| value))
                .for_each(|inner| ends_of_calls(inner, found));
        }
        ExprKind::List(items) | ExprKind::Operation { operands: items, .. } => {
            items.iter().for_each(|item| ends_of_calls(item, found))
        }
        ExprKind::Map(pairs) => pairs.iter().for_each(|(_, value)| ends_of_calls(value, found)),
        _ => {}
    }
}

/// The text with a mark in each place, and how many there are.
fn marked(language: &Language, text: &str, first: usize) -> (String, usize) {
    let outline = language.outline(FileId(0), &SourceFile::new("", text));
    let mut ends = Vec::new();
    let mut visit = |class: &Class| {
        class.decorators.iter().for_each(|decorator| ends_of_calls(decorator, &mut ends));
        for member in &class.members {
            member
                .decorators
                .iter()
                .chain(&member.value)
                .for_each(|value| ends_of_calls(value, &mut ends));
        }
    };
    for class in &outline.classes {
        visit(class);
        class.nested.iter().for_each(&mut visit);
    }
    // Where declarations are calls, every call inside a function counts, but for what names only
    // the connection.
    let counts =
        |call: &&Expr| call.call().is_some_and(|call| !call.callee_name().ends_with("declareIn"));
    outline
        .bodies
        .iter()
        .flat_map(|body| body.calls.iter().filter(counts))
        .for_each(|call| ends_of_calls(call, &mut ends));
    ends.sort_unstable();
    ends.dedup();
    let mut out = String::new();
    let mut from = 0;
    for (at, (end, has_arguments)) in ends.iter().enumerate() {
        let head = text[from..*end].trim_end().trim_end_matches(',');
        let mark = match language.id {
            "python" => format!("zz{}=77", first + at),
            "prisma" => format!("zz{}: 77", first + at),
            _ => format!("{{ zz{}: 77 }}", first + at),
        };
        out.push_str(head);
        match (language.id, head.strip_suffix('}')) {
            // Options that stand last get one more.
            ("typescript", Some(_)) => {
                out.truncate(out.len() - 1);
                let inside = out.trim_end().trim_end_matches(',').to_owned();
                let comma = if inside.ends_with('{') { "" } else { "," };
                out = format!("{inside}{comma} zz{}: 77 }}", first + at);
            }
            _ => out.push_str(&format!("{}{mark}", if *has_arguments { ", " } else { "" })),
        }
        from = *end;
    }
    out.push_str(&text[from..]);
    (out, ends.len())
}

/// Where objects end, and whether they hold anything.
fn ends_of_objects(expr: &Expr, found: &mut Vec<(usize, bool)>) {
    match &expr.kind {
        ExprKind::Map(pairs) => {
            found.push((expr.span.end as usize - 1, !pairs.is_empty()));
            pairs.iter().for_each(|(_, value)| ends_of_objects(value, found));
        }
        ExprKind::Call(call) => {
            call.arguments.iter().for_each(|inner| ends_of_objects(inner, found))
        }
        ExprKind::List(items) => items.iter().for_each(|item| ends_of_objects(item, found)),
        _ => {}
    }
}

/// The text with a mark in each object of its statements, and how many there are.
fn marked_objects(text: &str, first: usize) -> (String, usize) {
    let outline = TYPESCRIPT.outline(FileId(0), &SourceFile::new("", text));
    let mut ends = Vec::new();
    outline
        .assignments
        .iter()
        .map(|given| &given.value)
        .chain(&outline.calls)
        .for_each(|value| ends_of_objects(value, &mut ends));
    ends.sort_unstable();
    ends.dedup();
    let (mut out, mut from) = (String::new(), 0);
    for (at, (end, filled)) in ends.iter().enumerate() {
        out.push_str(text[from..*end].trim_end().trim_end_matches(','));
        out.push_str(&format!("{}zz{}: 77 ", if *filled { ", " } else { "" }, first + at));
        from = *end;
    }
    out.push_str(&text[from..]);
    (out, ends.len())
}

fn unread(dialect: &Dialect, folder: &str, allowed: &dyn Fn(&str) -> bool) -> Vec<String> {
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo").join(folder);
    let mut inputs = Vec::new();
    let mut count = 0;
    for path in files(&root, dialect.extensions[0]) {
        let text = fs::read_to_string(&path).expect("a demo file");
        let (text, marks) = match dialect.id {
            // Its declarations are objects.
            "mongoose" => marked_objects(&text, count),
            _ => marked(dialect.language, &text, count),
        };
        count += marks;
        inputs.push((path.strip_prefix(&root).expect("inside").display().to_string(), text));
    }
    assert!(count > 60, "{count}");
    let texts: String = inputs.iter().map(|(_, text)| text.as_str()).collect();
    let reading = read(inputs, dialect, &mut Settings::default(), &NoFiles);
    let diagnostics = reading.diagnostics.iter().map(|diagnostic| {
        let label =
            diagnostic.primary.as_ref().map_or("", |label| reading.sources.text(label.span));
        format!("{}\n{label}\n", diagnostic.message)
    });
    let known = json::write(&reading.schema) + &diagnostics.collect::<String>();
    let line = |mark: &str| {
        texts.lines().find(|line| line.contains(mark)).unwrap_or_default().trim().to_owned()
    };
    (0..count)
        .map(|at| format!("zz{at}"))
        .filter(|mark| {
            !known.split(|letter: char| !letter.is_alphanumeric()).any(|word| word == mark)
        })
        .map(|mark| line(&mark))
        .filter(|line| !allowed(line))
        .collect()
}

#[test]
fn django() {
    let found = unread(by_id("django").expect("a dialect"), "django", &|_| false);
    assert!(found.is_empty(), "{found:#?}");
}

#[test]
fn typeorm() {
    let found = unread(by_id("typeorm").expect("a dialect"), "typeorm", &|_| false);
    assert!(found.is_empty(), "{found:#?}");
}

#[test]
fn prisma() {
    let found = unread(by_id("prisma").expect("a dialect"), "prisma", &|_| false);
    assert!(found.is_empty(), "{found:#?}");
}

#[test]
fn sequelize() {
    // What stands among the arguments of a type, of SQL or of `Object.values` is no option.
    let inside = |line: &str| {
        ["DataTypes.", "literal(", "Object.values("].iter().any(|word| line.contains(word))
    };
    let found = unread(by_id("sequelize").expect("a dialect"), "sequelize", &inside);
    assert!(found.is_empty(), "{found:#?}");
}

#[test]
fn sqlalchemy() {
    let found = unread(by_id("sqlalchemy").expect("a dialect"), "sqlalchemy", &|_| false);
    assert!(found.is_empty(), "{found:#?}");
}

#[test]
fn mongoose() {
    let found = unread(by_id("mongoose").expect("a dialect"), "mongoose", &|_| false);
    assert!(found.is_empty(), "{found:#?}");
}
