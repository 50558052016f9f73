//! `parse`: declarations to the neutral schema.

use sprachbund_core::schema::json;
use sprachbund_project::Project;
use sprachbund_project::files::write_atomically;

use crate::arguments::ParseOptions;
use crate::{Failure, Outcome, account, output};

pub(crate) fn run(options: &ParseOptions) -> Result<Outcome, Failure> {
    let project = Project::open(options.input.request(), &output::tell)?;
    let read = project.read(&project.session())?;
    let outcome = super::report_reading(&project, &read)?;
    super::something(&read)?;
    let text = json::write(&read.schema);
    match &options.out {
        None => output::result(&text)?,
        Some(path) => {
            write_atomically(path, &text)?;
            let size = account::size(&read.schema);
            output::news(&format!("{size} written to {}\n", path.display()));
        }
    }
    Ok(outcome)
}
