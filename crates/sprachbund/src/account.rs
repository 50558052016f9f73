//! The account of losses for people, and the size of a schema in words.

use sprachbund_core::fit::{Change, Fitted, Grade};
use sprachbund_core::schema::Schema;

use crate::report::human::{FAINT, STRONG};

/// Elements shown of a loss unless all are wanted.
const FEW: usize = 3;

/// `14 entities with 92 columns`.
pub(crate) fn size(schema: &Schema) -> String {
    let own: Vec<_> = schema.entities.iter().filter(|entity| !entity.external).collect();
    let columns: usize = own.iter().map(|entity| entity.fields.len()).sum();
    let word = if own.len() == 1 { "entity" } else { "entities" };
    format!("{} {word} with {columns} columns", own.len())
}

/// Every change, and what the target refuses.
fn changes(fitted: &Fitted) -> impl Iterator<Item = &Change> {
    fitted.changes.iter().chain(&fitted.refused)
}

/// Every change by grade, worst first: what, why, what was done instead, what remains to be done,
/// where.
pub(crate) fn render(fitted: &Fitted, framework: &str, detail: bool, width: usize) -> String {
    if changes(fitted).next().is_none() {
        return format!("nothing is lost: {framework} says all of it\n");
    }
    let mut out = String::new();
    for (grade, word) in Grade::ALL {
        let graded: Vec<_> = changes(fitted).filter(|change| change.grade == grade).collect();
        if graded.is_empty() {
            continue;
        }
        let elements: usize = graded.iter().map(|change| change.elements.len()).sum();
        out.push_str(&format!("{STRONG}{word}{STRONG:#} ({elements}): {}\n", meaning(grade)));
        for change in graded {
            let to_do = if change.to_do.is_empty() {
                String::new()
            } else {
                format!("; to do: {}", change.to_do)
            };
            out.push_str(&wrapped(
                &format!("{}; instead: {}{to_do}", change.reason, change.result),
                width,
            ));
            let shown = if detail { change.elements.len() } else { FEW.min(change.elements.len()) };
            let more = change.elements.len() - shown;
            let tail = if more > 0 { format!(" and {more} more") } else { String::new() };
            out.push_str(&format!(
                "    {FAINT}{}{tail}{FAINT:#}\n",
                change.elements[..shown].join(", ")
            ));
        }
    }
    let names = fitted.renames.len();
    if names > 0 {
        out.push_str(&format!(
            "{names} names are respelled for the language; stored names stay as they are\n"
        ));
        if detail {
            let name = |name: &Option<String>| name.clone().unwrap_or_else(|| "(none)".into());
            out.extend(fitted.renames.iter().map(|rename| {
                format!("    {}: {} is {}\n", rename.element, name(&rename.from), name(&rename.to))
            }));
        }
    }
    out
}

/// How many elements each grade has, in one line.
pub(crate) fn summary(fitted: &Fitted) -> String {
    let count = |grade: Grade| {
        changes(fitted)
            .filter(|change| change.grade == grade)
            .map(|change| change.elements.len())
            .sum::<usize>()
    };
    let parts: Vec<String> = Grade::ALL
        .iter()
        .map(|(grade, word)| (count(*grade), word))
        .filter(|(count, _)| *count > 0)
        .map(|(count, word)| format!("{count} {word}"))
        .collect();
    if parts.is_empty() {
        "nothing would be lost\n".into()
    } else {
        format!("of the elements, {}; --detail says which\n", parts.join(", "))
    }
}

/// A line of the account, broken between words; what follows the first line stands further in.
fn wrapped(text: &str, width: usize) -> String {
    let mut out = String::from("  ");
    let mut column = 2;
    for (at, word) in text.split(' ').enumerate() {
        let length = word.chars().count();
        if at > 0 && column + 1 + length > width {
            out.push_str("\n    ");
            column = 4;
        } else if at > 0 {
            out.push(' ');
            column += 1;
        }
        out.push_str(word);
        column += length;
    }
    out.push('\n');
    out
}

fn meaning(grade: Grade) -> &'static str {
    match grade {
        Grade::Dropped => "no longer said anywhere",
        Grade::Weakened => "less is promised than before",
        Grade::Moved => "kept by the SQL script, not by the declarations",
        Grade::Added => "the target says more by itself",
        Grade::Strengthened => "more is promised than before",
        Grade::Respelled => "the same, by another construct",
    }
}
