//! `parse`: declarations to the neutral schema.

use sprachbund_core::schema::json;

use crate::arguments::ParseOptions;
use crate::configuration::Configuration;
use crate::{Failure, Outcome, account, inputs};

pub(crate) fn run(options: &ParseOptions) -> Result<Outcome, Failure> {
    let configuration = Configuration::load(&options.input)?;
    let loaded = inputs::load(&options.input, &configuration)?;
    let outcome = super::report_reading(&loaded);
    super::something(&loaded)?;
    let text = json::write(&loaded.schema);
    match &options.out {
        None => super::print(&text)?,
        Some(path) => {
            crate::commands::emit::write_atomically(path, &text)?;
            anstream::eprintln!("{} written to {}", account::size(&loaded.schema), path.display());
        }
    }
    Ok(outcome)
}
