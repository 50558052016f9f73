//! `lint`: what does not fit together.

use sprachbund_core::lint::{RULES, lint};

use crate::arguments::{LintFormat, LintOptions};
use crate::configuration::Configuration;
use crate::{Failure, Outcome, inputs, report};

pub(crate) fn run(options: &LintOptions) -> Result<Outcome, Failure> {
    let configuration = Configuration::load(&options.input)?;
    let threshold = configuration.threshold(options.threshold.as_ref())?;
    let loaded = inputs::load(&options.input, &configuration)?;
    let reading = super::report_reading(&loaded);
    super::something(&loaded)?;
    let conventions = (loaded.dialect.conventions)(&loaded.settings);
    let mut found = lint(&loaded.schema, &conventions, &loaded.sources, &|rule| configuration.severity(rule));
    for diagnostic in &mut found {
        diagnostic.notes.extend(configuration.severity_source(diagnostic.code));
    }
    match options.format {
        LintFormat::Human => {
            let stdout = std::io::stdout();
            super::print(&report::human::render(&found, &loaded.sources, super::colour(&stdout), super::width()))?;
            super::print(&format!("{} in {} entities\n", report::counts(&found), loaded.schema.entities.len()))?;
        }
        LintFormat::Json => super::print(&pretty(&report::json::render(&found, &loaded.sources)))?,
        LintFormat::Sarif => {
            let rules = RULES.iter().map(|rule| report::sarif::rule(rule.name, rule.finds, rule.cure, rule.severity)).collect();
            super::print(&pretty(&report::sarif::render(&found, &loaded.sources, rules)))?;
        }
    }
    let over = found.iter().any(|diagnostic| diagnostic.severity >= threshold);
    Ok(if over { Outcome::Findings } else { reading })
}

fn pretty(value: &serde_json::Value) -> String {
    serde_json::to_string_pretty(value).unwrap_or_default() + "\n"
}
