//! One file for each verb.

pub(crate) mod compare;
pub(crate) mod demo;
pub(crate) mod dialects;
pub(crate) mod emit;
pub(crate) mod explain;
pub(crate) mod lint;
pub(crate) mod parse;
pub(crate) mod show;

use sprachbund_core::diagnostic::Severity;

use crate::inputs::Loaded;
use crate::{Failure, Outcome, output, report};

/// Columns of the terminal; 100 when there is none.
pub(crate) fn width() -> usize {
    terminal_size::terminal_size().map_or(100, |(width, _)| usize::from(width.0))
}

/// Says on standard error what was assumed and what went wrong while reading.
pub(crate) fn report_reading(loaded: &Loaded) -> Outcome {
    let stderr = std::io::stderr();
    let assumed = &loaded.schema.source.assumed;
    if !assumed.is_empty() {
        output::news(&format!("{}assumed: {}{:#}\n", report::human::FAINT, assumed.join("; "), report::human::FAINT));
    }
    if loaded.diagnostics.is_empty() {
        return Outcome::Clean;
    }
    let text = report::human::render(&loaded.diagnostics, &loaded.sources, output::colour(&stderr), width());
    output::news(&text);
    let errors = loaded.diagnostics.iter().any(|diagnostic| diagnostic.severity == Severity::Error);
    if errors { Outcome::Findings } else { Outcome::Clean }
}

/// Refuses to go on when nothing at all was read.
pub(crate) fn something(loaded: &Loaded) -> Result<(), Failure> {
    if loaded.schema.entities.is_empty() { Err(Failure("nothing was read".into())) } else { Ok(()) }
}
