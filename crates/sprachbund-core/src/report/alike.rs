//! Findings that are alike are told once.

use std::cmp::Reverse;
use std::collections::BTreeMap;

use crate::diagnostic::{Diagnostic, Severity};

/// Findings that are alike, from which on they are told once.
const ALIKE: usize = 3;

/// Findings that belong together, by their places, the gravest first: notes of one rule, warnings
/// of one rule with the same reason, errors of one rule about the same element of several entities.
/// With `detail` each stands by itself.
pub fn groups(found: &[Diagnostic], detail: bool) -> Vec<Vec<usize>> {
    let mut alike: BTreeMap<(&str, &str), Vec<usize>> = BTreeMap::new();
    for (at, one) in found.iter().enumerate() {
        alike.entry((one.code, what_is_alike(one))).or_default().push(at);
    }
    let mut groups: BTreeMap<(Reverse<Severity>, usize), Vec<usize>> = BTreeMap::new();
    for members in alike.into_values() {
        let together = !detail && members.len() >= ALIKE;
        for part in members.chunks(if together { members.len() } else { 1 }) {
            let severities = part.iter().map(|at| found[*at].severity);
            let gravest = severities.max().unwrap_or(Severity::Note);
            groups.insert((Reverse(gravest), part[0]), part.to_vec());
        }
    }
    groups.into_values().collect()
}

/// What findings of one rule have in common when they belong together.
fn what_is_alike(one: &Diagnostic) -> &str {
    match one.severity {
        Severity::Note => "",
        Severity::Warning => one.notes.first().map_or("", String::as_str),
        Severity::Error => one.subject.as_ref().map_or("", |subject| subject.element.as_str()),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::diagnostic::Subject;

    fn one(code: &'static str, severity: Severity, element: &str, reason: &str) -> Diagnostic {
        let subject = Subject { entity: "harbour.Quay".into(), element: element.into() };
        let one = Diagnostic::new(code, severity, "a message").because(reason);
        Diagnostic { subject: Some(subject), ..one }
    }

    #[test]
    fn three_of_a_kind_are_told_once_and_the_gravest_first() {
        let note = || one("a", Severity::Note, "column depth", "any");
        let warning = |reason| one("b", Severity::Warning, "column depth", reason);
        let error = |element| one("c", Severity::Error, element, "any");
        let found = [
            note(),
            warning("it is slow"),
            note(),
            warning("it is wrong"),
            note(),
            error("column depth"),
            warning("it is slow"),
            warning("it is slow"),
            error("column name"),
        ];
        let together: &[&[usize]] = &[&[5], &[8], &[1, 6, 7], &[3], &[0, 2, 4]];
        assert_eq!(groups(&found, false), together);
        let apart: &[&[usize]] = &[&[5], &[8], &[1], &[3], &[6], &[7], &[0], &[2], &[4]];
        assert_eq!(groups(&found, true), apart);
    }
}
