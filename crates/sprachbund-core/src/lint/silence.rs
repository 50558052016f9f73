//! Findings accepted at their place: `# sprachbund: accept RULE: reason`, on the line itself or the
//! one before it.

use crate::codes;
use crate::diagnostic::Diagnostic;
use crate::source::{FileId, Sources, Span};

const MARK: &str = "sprachbund: accept ";

/// Every such comment in the sources, by file and line.
pub(super) struct Silences(Vec<Silence>);

/// One comment that accepts a finding.
struct Silence {
    rule: String,
    reason: String,
    span: Span,
    line: u32,
    used: bool,
}

impl Silences {
    pub(super) fn of(sources: &Sources) -> Self {
        let mut found = Vec::new();
        for (at, file) in sources.files.iter().enumerate() {
            for start in memchr::memmem::find_iter(file.text.as_bytes(), MARK) {
                let rest = file.text[start + MARK.len()..].lines().next().unwrap_or_default();
                let (rule, reason) = rest.split_once(':').unwrap_or((rest, ""));
                let span = Span {
                    file: FileId(at as u32),
                    start: start as u32,
                    end: (start + MARK.len() + rest.len()) as u32,
                };
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
        Silences(found)
    }

    /// Whether one of them accepts this finding; remembers which did.
    pub(super) fn cover(&mut self, diagnostic: &Diagnostic, sources: &Sources) -> bool {
        let Some(span) =
            diagnostic.primary.as_ref().map(|label| label.span).filter(|_| !self.0.is_empty())
        else {
            return false;
        };
        let line = sources.file(span.file).position(span.start).0;
        let first = self
            .0
            .partition_point(|silence| (silence.span.file, silence.line + 1) < (span.file, line));
        let near = self.0[first..]
            .iter_mut()
            .take_while(|silence| silence.span.file == span.file && silence.line <= line);
        let covering =
            near.filter(|silence| silence.rule == diagnostic.code && !silence.reason.is_empty());
        covering.map(|silence| silence.used = true).count() > 0
    }

    /// What is wrong with the comments themselves.
    pub(super) fn complaints(
        &self,
        is_asked: impl Fn(&str) -> bool,
    ) -> impl Iterator<Item = Diagnostic> {
        self.0.iter().filter_map(move |silence| silence.complaint(&is_asked))
    }
}

impl Silence {
    fn complaint(&self, is_asked: impl Fn(&str) -> bool) -> Option<Diagnostic> {
        let complaint = |message: String, help: &str| {
            Some(
                Diagnostic::of(&codes::ACCEPTED_IN_VAIN, message)
                    .at(Some(self.span), "this comment")
                    .with_help(help),
            )
        };
        if !super::names().any(|name| name == self.rule) {
            let nearest = crate::dialect::nearest(&self.rule, super::names());
            let help = nearest
                .map_or("see `sprachbund explain` for the rules".to_owned(), |name| {
                    format!("did you mean `{name}`?")
                });
            return complaint(format!("no rule is called `{}`", self.rule), &help);
        }
        if self.reason.is_empty() {
            return complaint(
                "an accepted finding needs its reason".into(),
                "write it after a second colon: `accept RULE: reason`",
            );
        }
        if !self.used && is_asked(&self.rule) {
            return complaint(
                format!("`{}` finds nothing here any more", self.rule),
                "take the comment out",
            );
        }
        None
    }
}
