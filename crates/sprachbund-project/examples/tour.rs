//! Shows, lints, fixes and emits a project, as the command does: `cargo run --example tour`.

use std::error::Error;
use std::io::Write;

use sprachbund_core::dialects::by_id;
use sprachbund_core::session::EmitRequest;
use sprachbund_project::{News, Project, Request};

pub(crate) fn tour(models: &str, out: &mut dyn Write) -> Result<(), Box<dyn Error>> {
    let project = Project::open(Request::of([models]), &|_: News<'_>| {})?;
    let session = project.session();
    let read = project.read(&session)?;
    for entity in &read.schema.entities {
        writeln!(out, "{}: {} columns", entity.table, entity.fields.len())?;
    }
    let findings = session.lint(&read, &project.lint_request(&read)?);
    writeln!(out, "{} findings", findings.found.len())?;
    let fixed = session.fix(&read, &findings.found, &[]);
    writeln!(out, "{} of them fixed, in {} files", fixed.made.len(), fixed.files.len())?;
    let target = by_id("typeorm").ok_or("it is shipped")?;
    let emission = session.emit(&read, &EmitRequest::to(target))?;
    writeln!(out, "{} files, {} changes", emission.files.len(), emission.fitted.changes.len())?;
    Ok(())
}

#[allow(dead_code, reason = "the test calls what it calls")]
fn main() -> Result<(), Box<dyn Error>> {
    let models = std::env::args().nth(1).unwrap_or_else(|| "demo/django".to_owned());
    tour(&models, &mut std::io::stdout())
}
