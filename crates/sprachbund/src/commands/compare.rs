//! `compare`: how two descriptions of one schema differ.

use std::collections::BTreeMap;

use serde_json::json;
use sprachbund_core::compare::{CODES, Comparison, Divergence, Side, compare, joined};
use sprachbund_core::diagnostic::{Diagnostic, Severity};
use sprachbund_core::fit::carried;
use sprachbund_core::source::Sources;

use crate::arguments::{CompareOptions, Input, InputOptions, LintFormat};
use crate::configuration::Configuration;
use crate::inputs::{self, Loaded};
use crate::report::human::{FAINT, STRONG};
use crate::{Failure, Outcome, account, output, report};

/// Elements shown of a kind of notes.
const FEW: usize = 4;

pub(crate) fn run(options: &CompareOptions) -> Result<Outcome, Failure> {
    let side = |input: &Input, from: &Option<String>| InputOptions {
        inputs: vec![input.clone()],
        from: from.clone(),
        database: options.database.clone(),
        reach: options.reach.clone(),
        ..InputOptions::default()
    };
    let (left_input, right_input) = (side(&options.left, &options.left_from), side(&options.right, &options.right_from));
    let configuration = Configuration::load(&left_input)?;
    let threshold = configuration.compare_threshold(options.threshold.as_ref())?;
    let mut left = inputs::load(&left_input, &configuration)?;
    let mut right = inputs::load(&right_input, &configuration)?;
    super::report_reading(&left);
    super::report_reading(&right);
    super::something(&left)?;
    super::something(&right)?;
    as_tables(&mut left, &right);
    as_tables(&mut right, &left);
    let database = if options.database.is_some() { left.settings.database() } else { meant(&left, &right) };
    let (left_can, right_can) = ((left.dialect.capabilities)(&left.settings), (right.dialect.capabilities)(&right.settings));
    let mut comparison = compare(
        &Side { schema: &left.schema, capabilities: &left_can },
        &Side { schema: &right.schema, capabilities: &right_can },
        database,
    );
    let before = comparison.found.len();
    comparison.found.retain(|found| !configuration.disregards(found.code, &found.table));
    let disregarded = before - comparison.found.len();
    let over = comparison.found.iter().any(|found| found.severity >= threshold);
    let shift = left.sources.files.len();
    let sizes = [&left, &right].map(|loaded| format!("{} ({})", account::size(&loaded.schema), loaded.dialect.framework));
    let sources = joined(left.sources, right.sources);
    let diagnostics: Vec<Diagnostic> = comparison.found.iter().map(|found| found.diagnostic(shift)).collect();
    match options.format {
        LintFormat::Human => {
            let text = human(&comparison, &diagnostics, &sources, options.detail);
            output::page(&text)?;
            output::page(&summary(&comparison, &diagnostics, &sizes, disregarded, database.id()))?;
        }
        LintFormat::Json => {
            let places = report::json::render(&diagnostics, &sources);
            let value = json!({
                "left": options.left.to_string(), "right": options.right.to_string(), "database": database.id(),
                "found": merged(&comparison.found, places), "spelling": comparison.spelling, "unknown": comparison.unknown, "disregarded": disregarded,
            });
            output::result(&(serde_json::to_string_pretty(&value).unwrap_or_default() + "\n"))?;
        }
        LintFormat::Sarif => {
            let rules = CODES.iter().map(|code| report::sarif::rule(code.name, code.finds, code.advice, None, code.severity)).collect();
            let value = report::sarif::render(&diagnostics, &sources, rules, &BTreeMap::new());
            output::result(&(serde_json::to_string_pretty(&value).unwrap_or_default() + "\n"))?;
        }
        LintFormat::Junit => output::result(&report::junit::render("compare", &diagnostics, &sources)?)?,
    }
    Ok(if over { Outcome::Findings } else { Outcome::Clean })
}

/// Documents are set beside tables as the tables that they would be.
fn as_tables(side: &mut Loaded, other: &Loaded) {
    if side.dialect.keeps_documents() && !other.dialect.keeps_documents() {
        side.schema = carried(&side.schema, other.dialect, other.schema.source.database).into_owned();
    }
}

/// The server that both are meant for; a script or a database knows it better than declarations do.
fn meant(left: &Loaded, right: &Loaded) -> sprachbund_core::schema::Database {
    let knows = |loaded: &Loaded| loaded.settings.database.is_some();
    if knows(right) && !knows(left) { right.schema.source.database } else { left.schema.source.database }
}

/// Differences by table, each with its places and one line about what to do; notes together at the end, unless all
/// are wanted.
fn human(comparison: &Comparison, diagnostics: &[Diagnostic], sources: &Sources, detail: bool) -> String {
    let mut out = String::new();
    let mut table = "";
    let (mut notes, mut shown): (BTreeMap<&str, Vec<String>>, usize) = (BTreeMap::new(), 0);
    for (found, diagnostic) in comparison.found.iter().zip(diagnostics) {
        if found.severity == Severity::Note && !detail {
            notes.entry(found.code).or_default().push(short(found));
            continue;
        }
        if found.table != table || shown == 0 {
            table = &found.table;
            out.push_str(&format!("{STRONG}{table}{STRONG:#}\n"));
        }
        shown += 1;
        let word = report::human::severity_word(found.severity);
        out.push_str(&format!("  {word}[{}]: {}\n", found.code, found.message));
        let places = diagnostic.primary.iter().chain(&diagnostic.secondary).map(|label| {
            let file = sources.file(label.span.file);
            let (line, column) = file.position(label.span.start);
            format!("{} {}:{line}:{column}", label.text, file.path)
        });
        let places: Vec<String> = places.collect();
        if !places.is_empty() {
            out.push_str(&format!("    {FAINT}{}{FAINT:#}\n", places.join("; ")));
        }
        out.push_str(&format!("    {}\n", found.advice));
    }
    let word = report::human::severity_word(Severity::Note);
    for (code, elements) in notes {
        let (finds, advice) = CODES.iter().find(|known| known.name == code).map_or(("", ""), |known| (known.finds, known.advice));
        let named = elements[..elements.len().min(FEW)].join(", ");
        let more = if elements.len() > FEW { format!(" and {} more", elements.len() - FEW) } else { String::new() };
        out.push_str(&format!("{word}[{code}] ({}): {finds}; {advice}\n    {FAINT}{named}{more}{FAINT:#}\n", elements.len()));
    }
    out
}

/// `berths.quay_id`, `quays (index name)`.
fn short(found: &Divergence) -> String {
    match found.element.strip_prefix("column ").or(found.element.strip_prefix("foreign key ")) {
        Some(column) => format!("{}.{column}", found.table),
        None if found.element.is_empty() => found.table.clone(),
        None => format!("{} ({})", found.table, found.element),
    }
}

fn summary(comparison: &Comparison, diagnostics: &[Diagnostic], sizes: &[String; 2], disregarded: usize, database: &str) -> String {
    let mut out = format!("left: {}; right: {}\n", sizes[0], sizes[1]);
    out.push_str(&match diagnostics.is_empty() {
        true => format!("they mean the same on {database}"),
        false => report::counts(diagnostics),
    });
    for (count, words) in [
        (comparison.spelling, "only spelt differently there"),
        (comparison.unknown, "expressions that cannot be told apart or together: look at them"),
        (disregarded, "disregarded by sprachbund.toml"),
    ] {
        if count > 0 {
            out.push_str(&format!("; {count} {words}"));
        }
    }
    out + "\n"
}

/// What was found, each with its places.
fn merged(found: &[Divergence], places: serde_json::Value) -> Vec<serde_json::Value> {
    let with = |(found, rendered): (&Divergence, &serde_json::Value)| {
        let mut value = serde_json::to_value(found).unwrap_or_default();
        value["places"] = rendered["places"].clone();
        value
    };
    found.iter().zip(places.as_array().into_iter().flatten()).map(with).collect()
}
