//! `parse`: declarations to the neutral schema.

use sprachbund_core::schema::json;

use crate::arguments::ParseOptions;
use crate::configuration::Configuration;
use crate::{Failure, Outcome, account, inputs, output};

pub(crate) fn run(options: &ParseOptions) -> Result<Outcome, Failure> {
    let configuration = Configuration::load(&options.input)?;
    let loaded = inputs::load(&options.input, &configuration)?;
    let outcome = super::report_reading(&loaded);
    super::something(&loaded)?;
    let text = json::write(&loaded.schema);
    match &options.out {
        None => output::result(&text)?,
        Some(path) => {
            crate::files::write_atomically(path, &text)?;
            output::news(&(format!("{} written to {}", account::size(&loaded.schema), path.display()) + "\n"));
        }
    }
    Ok(outcome)
}
