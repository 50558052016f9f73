//! Findings accepted for entities or files, in the project's settings.

use super::settings::LintSettings;
use crate::codes;
use crate::diagnostic::{Diagnostic, Severity};
use crate::schema::Schema;
use crate::source::{Sources, Span};

/// Findings that a project accepts for some of its entities or files. `*` stands for any text.
#[derive(Clone, Debug, Default)]
pub struct Exception {
    pub rule: String,
    /// Id or name of the entity.
    pub entity: Option<String>,
    pub path: Option<String>,
    pub reason: String,
    /// Its place in the project's settings.
    pub place: Option<Span>,
}

/// What a project accepts, and which of it did accept something.
pub(super) struct Exceptions<'s> {
    all: &'s [Exception],
    used: Vec<bool>,
}

impl<'s> Exceptions<'s> {
    pub(super) fn of(settings: &'s LintSettings) -> Self {
        Exceptions { all: &settings.exceptions, used: vec![false; settings.exceptions.len()] }
    }

    /// Whether one of them accepts this finding, which stands in the file of this path; remembers
    /// which did.
    pub(super) fn cover(&mut self, diagnostic: &Diagnostic, path: Option<&str>) -> bool {
        let entity = diagnostic.subject.as_ref().map_or("", |subject| subject.entity.as_str());
        let mut covered = false;
        for (exception, used) in self.all.iter().zip(&mut self.used) {
            let covers = fits(&exception.rule, diagnostic.code)
                && exception.is_for(entity)
                && exception.is_in(path.unwrap_or_default());
            *used |= covers;
            covered |= covers;
        }
        covered
    }

    /// Those that accept nothing, though what they are about was read and their rules looked.
    pub(super) fn complaints(
        &self,
        schema: &Schema,
        sources: &Sources,
        is_asked: impl Fn(&str) -> bool,
    ) -> Vec<Diagnostic> {
        let looked = |exception: &Exception| {
            super::names().any(|name| fits(&exception.rule, name) && is_asked(name))
                && schema.entities.iter().any(|entity| exception.is_for(&entity.id))
                && sources.files.iter().any(|file| exception.is_in(&file.path))
        };
        let unused = self
            .all
            .iter()
            .zip(&self.used)
            .filter(|(exception, used)| !**used && looked(exception));
        let complaint = |(exception, _): (&Exception, _)| {
            let message =
                format!("nothing is found any more that this accepts of `{}`", exception.rule);
            Diagnostic::of(&codes::ACCEPTED_IN_VAIN, message)
                .graded(Severity::Note)
                .at(exception.place, "this entry")
                .with_help("take it out, if this was the whole project")
        };
        unused.map(complaint).collect()
    }
}

impl Exception {
    /// Whether it is about the entity of this id.
    fn is_for(&self, id: &str) -> bool {
        let name = id.rsplit('.').next().unwrap_or(id);
        self.entity.as_ref().is_none_or(|pattern| fits(pattern, id) || fits(pattern, name))
    }

    /// Whether it is about what stands in the file of this path.
    fn is_in(&self, path: &str) -> bool {
        self.path.as_ref().is_none_or(|pattern| fits(pattern, path))
    }
}

/// Whether a name fits a pattern in which `*` stands for any text.
pub fn fits(pattern: &str, name: &str) -> bool {
    let mut parts = pattern.split('*');
    let (first, last) = (parts.next().unwrap_or_default(), parts.next_back());
    let Some(last) = last else { return pattern == name };
    // Each part is taken where it comes first: what follows then has the most room.
    let Some(mut rest) = name.strip_prefix(first) else { return false };
    for part in parts {
        match rest.find(part) {
            Some(at) => rest = &rest[at + part.len()..],
            None => return false,
        }
    }
    rest.ends_with(last)
}

#[cfg(test)]
mod tests {
    use super::fits;

    #[test]
    fn a_star_stands_for_any_text() {
        for (pattern, name, fit) in [
            ("berths", "berths", true),
            ("berths", "berth", false),
            ("*", "", true),
            ("tide_*", "tide_windows", true),
            ("*_log", "port_call_log", true),
            ("*_log", "port_call_logs", false),
            ("a*b*c", "a-b-b-c", true),
            ("a*b*c", "a-c-b", false),
            ("ab*ba", "aba", false),
            ("**", "x", true),
            ("********Z", &"a".repeat(10_000), false),
        ] {
            assert_eq!(fits(pattern, name), fit, "{pattern} {}", &name[..name.len().min(20)]);
        }
    }
}
