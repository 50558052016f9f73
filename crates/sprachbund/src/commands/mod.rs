//! One file for each verb.

pub(crate) mod compare;
pub(crate) mod demo;
pub(crate) mod dialects;
pub(crate) mod emit;
pub(crate) mod explain;
pub(crate) mod lint;
pub(crate) mod parse;
pub(crate) mod show;

use sprachbund_core::diagnostic::{Diagnostic, Severity};
use sprachbund_core::lint::accepted_reading;
use sprachbund_core::session::Read;
use sprachbund_core::source::Sources;
use sprachbund_project::Project;

use crate::report::human::FAINT;
use crate::{Failure, Outcome, output, report};

/// Columns of the terminal; 100 when there is none.
pub(crate) fn width() -> usize {
    terminal_size::terminal_size().map_or(100, |(width, _)| usize::from(width.0))
}

/// JSON for people, too.
pub(crate) fn pretty(value: &serde_json::Value) -> String {
    serde_json::to_string_pretty(value).unwrap_or_default() + "\n"
}

/// Says on standard error what was assumed, and what went wrong while reading, as far as the
/// project does not accept it.
pub(crate) fn report_reading(project: &Project<'_>, read: &Read) -> Result<Outcome, Failure> {
    tell_assumed(read);
    let settings = project.configuration.lint_settings(read.schema.source.database)?;
    let said = accepted_reading(&read.diagnostics, &read.sources, &settings);
    Ok(tell_diagnostics(&said, &read.sources))
}

/// Says on standard error what had to be assumed.
pub(crate) fn tell_assumed(read: &Read) {
    let assumed = &read.schema.source.assumed;
    if !assumed.is_empty() {
        output::news(&format!("{FAINT}assumed: {}{FAINT:#}\n", assumed.join("; ")));
    }
}

/// Says diagnostics on standard error; an error among them is a finding.
pub(crate) fn tell_diagnostics(said: &[Diagnostic], sources: &Sources) -> Outcome {
    if said.is_empty() {
        return Outcome::Clean;
    }
    let colour = output::colour(&std::io::stderr());
    output::news(&report::human::render(said, sources, colour, width()));
    let errors = said.iter().any(|diagnostic| diagnostic.severity == Severity::Error);
    if errors { Outcome::Findings } else { Outcome::Clean }
}

/// Refuses to go on when nothing at all was read.
pub(crate) fn something(read: &Read) -> Result<(), Failure> {
    if read.schema.entities.is_empty() { Err(Failure("nothing was read".into())) } else { Ok(()) }
}
