//! Diagnostics as people read them.

pub(crate) mod findings;
pub(crate) mod human;

use sprachbund_core::diagnostic::{Diagnostic, Severity};

/// `3 errors, 1 warning`.
pub(crate) fn counts(diagnostics: &[Diagnostic]) -> String {
    let count = |severity: Severity| {
        diagnostics.iter().filter(|diagnostic| diagnostic.severity == severity).count()
    };
    let part = |severity: Severity| match count(severity) {
        0 => None,
        1 => Some(format!("1 {}", severity.word())),
        several => Some(format!("{several} {}s", severity.word())),
    };
    let parts: Vec<String> =
        Severity::ALL.iter().rev().filter_map(|(_, severity)| part(*severity)).collect();
    if parts.is_empty() { "nothing found".into() } else { parts.join(", ") }
}
