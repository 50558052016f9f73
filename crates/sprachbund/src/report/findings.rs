//! Findings of `lint` for people: alike ones together, and a summary by rule and by entity.

use std::collections::BTreeMap;

use sprachbund_core::diagnostic::{Diagnostic, Severity};
use sprachbund_core::report::alike::groups;
use sprachbund_core::source::Sources;

use super::human::{self, FAINT, STRONG};

/// Columns that stand before the first name of a note, and those of them that its first words take.
const BEFORE_NOTES: usize = 32;
const FIRST_WORDS: usize = 18;

/// Names of a list.
const FEW: usize = 8;

/// How it is to look.
pub(crate) struct Look {
    pub(crate) colour: bool,
    pub(crate) width: usize,
    /// Each finding by itself.
    pub(crate) detail: bool,
}

/// All findings, the gravest first; alike ones are told once, with the places of the others.
pub(crate) fn render(found: &[Diagnostic], sources: &Sources, look: &Look) -> String {
    let mut out = String::new();
    for group in groups(found, look.detail) {
        let group: Vec<&Diagnostic> = group.iter().map(|at| &found[*at]).collect();
        let mut first = group[0].clone();
        if group.len() > 1 {
            first.notes.push(format!(
                "{} more like it: {}",
                group.len() - 1,
                others(&group[1..], sources, look.width)
            ));
        }
        out.push_str(&human::render(&[first], sources, look.colour, look.width));
    }
    out
}

/// `Berth (harbour/models.py:12), Quay (...)`, in lines that fit.
fn others(group: &[&Diagnostic], sources: &Sources, width: usize) -> String {
    let one = |diagnostic: &&Diagnostic| {
        let subject = diagnostic.subject.as_ref();
        let entity =
            subject.map_or("", |subject| subject.entity.rsplit('.').next().unwrap_or_default());
        let element =
            subject.map_or("", |subject| subject.element.rsplit(' ').next().unwrap_or_default());
        let name =
            if element.is_empty() { entity.to_owned() } else { format!("{entity}.{element}") };
        let place = diagnostic.primary.as_ref().map(|label| {
            let file = sources.file(label.span.file);
            format!(" ({}:{})", file.path, file.position(label.span.start).0)
        });
        name + &place.unwrap_or_default()
    };
    let mut named: Vec<String> = group.iter().take(FEW).map(one).collect();
    if group.len() > FEW {
        named.push(format!("{} more (--detail shows all)", group.len() - FEW));
    }
    let (mut out, mut line) = (String::new(), BEFORE_NOTES);
    for (at, name) in named.iter().enumerate() {
        let comma = if at == 0 { "" } else { ", " };
        if line + comma.len() + name.len() > width && at > 0 {
            out.push_str(",\n");
            line = BEFORE_NOTES - FIRST_WORDS;
        } else {
            out.push_str(comma);
            line += comma.len();
        }
        out.push_str(name);
        line += name.len();
    }
    out
}

/// Counts by rule and by entity, and the sum of all.
pub(crate) fn summary(found: &[Diagnostic], entities: usize) -> String {
    let mut by_rule: BTreeMap<(std::cmp::Reverse<Severity>, &str), usize> = BTreeMap::new();
    let mut by_entity: BTreeMap<&str, usize> = BTreeMap::new();
    for one in found {
        *by_rule.entry((std::cmp::Reverse(one.severity), one.code)).or_default() += 1;
        if let Some(subject) = &one.subject {
            *by_entity.entry(subject.entity.rsplit('.').next().unwrap_or_default()).or_default() +=
                1;
        }
    }
    let mut out = String::new();
    if !by_rule.is_empty() {
        out.push_str(&format!("{STRONG}by rule{STRONG:#}\n"));
    }
    for ((severity, rule), count) in &by_rule {
        let word = format!("{:<8}", severity.0.word())
            .replace(severity.0.word(), &human::severity_word(severity.0));
        out.push_str(&format!("{count:>5} {word} {rule}\n"));
    }
    let mut counted: Vec<(&str, usize)> = by_entity.into_iter().collect();
    counted.sort_by_key(|(name, count)| (std::cmp::Reverse(*count), *name));
    if !counted.is_empty() {
        let named: Vec<String> =
            counted.iter().take(FEW).map(|(name, count)| format!("{name} {count}")).collect();
        let more = if counted.len() > FEW {
            format!(", {} more", counted.len() - FEW)
        } else {
            String::new()
        };
        out.push_str(&format!("{STRONG}by entity{STRONG:#}\n      {}{more}\n", named.join(", ")));
    }
    let explain = if found.is_empty() {
        String::new()
    } else {
        format!("; {FAINT}`sprachbund explain RULE` tells why{FAINT:#}")
    };
    let word = if entities == 1 { "entity" } else { "entities" };
    out + &format!("{} in {entities} {word}{explain}\n", super::counts(found))
}
