//! Findings accepted at their place: `# sprachbund: accept RULE: reason`, on the line itself or the one before it.

use super::rule::Rule;
use crate::diagnostic::{Diagnostic, Severity};
use crate::source::{FileId, Sources, Span};

const MARK: &str = "sprachbund: accept ";

/// One comment that accepts a finding.
#[derive(Debug)]
pub struct Silence {
    rule: String,
    reason: String,
    span: Span,
    line: u32,
    used: bool,
}

/// Every such comment in the sources.
pub fn silences(sources: &Sources) -> Vec<Silence> {
    let mut found = Vec::new();
    for (at, file) in sources.files.iter().enumerate() {
        for start in memchr::memmem::find_iter(file.text.as_bytes(), MARK) {
            let rest = file.text[start + MARK.len()..].lines().next().unwrap_or_default();
            let (rule, reason) = rest.split_once(':').unwrap_or((rest, ""));
            let span = Span { file: FileId(at as u32), start: start as u32, end: (start + MARK.len() + rest.len()) as u32 };
            let line = file.position(span.start).0;
            found.push(Silence {
                rule: rule.trim().to_owned(),
                reason: reason.trim().trim_end_matches("*/").trim().to_owned(),
                span,
                line,
                used: false,
            });
        }
    }
    found
}

impl Silence {
    /// Whether it accepts this finding; remembers that it did.
    pub(super) fn covers(&mut self, diagnostic: &Diagnostic, sources: &Sources) -> bool {
        let Some(span) = diagnostic.primary.as_ref().map(|label| label.span) else { return false };
        let here = span.file == self.span.file && self.rule == diagnostic.code && !self.reason.is_empty();
        let line = sources.file(span.file).position(span.start).0;
        let covers = here && (line == self.line || line == self.line + 1);
        self.used |= covers;
        covers
    }

    /// What is wrong with the comment itself.
    pub(super) fn complaint(&self, is_asked: impl Fn(&Rule) -> bool) -> Option<Diagnostic> {
        let complaint = |message: String, help: &str| {
            Some(Diagnostic::new("accepted-in-vain", Severity::Warning, message).at(Some(self.span), "this comment").with_help(help))
        };
        let Some(rule) = super::rule(&self.rule) else {
            let nearest = crate::dialect::nearest(&self.rule, super::rules().map(|rule| rule.name));
            let help = nearest.map_or("see `sprachbund explain` for the rules".to_owned(), |name| format!("did you mean `{name}`?"));
            return complaint(format!("no rule is called `{}`", self.rule), &help);
        };
        if self.reason.is_empty() {
            return complaint("an accepted finding needs its reason".into(), "write it after a second colon: `accept RULE: reason`");
        }
        if !self.used && is_asked(rule) {
            return complaint(format!("`{}` finds nothing here any more", self.rule), "take the comment out");
        }
        None
    }
}
