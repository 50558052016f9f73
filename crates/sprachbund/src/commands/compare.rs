//! `compare`: how two descriptions of one schema differ.

use std::collections::BTreeMap;

use serde_json::json;
use sprachbund_core::compare::{CODES, Comparison, Divergence};
use sprachbund_core::diagnostic::{Diagnostic, Severity};
use sprachbund_core::report::{json, junit, sarif};
use sprachbund_core::session::{Compared, Read};
use sprachbund_project::{Input, Project, Request};

use crate::arguments::{CompareOptions, LintFormat};
use crate::report::human::{FAINT, STRONG};
use crate::{Failure, Outcome, account, output, report};

/// Elements shown of a kind of notes.
const FEW: usize = 4;

pub(crate) fn run(options: &CompareOptions) -> Result<Outcome, Failure> {
    let side = |input: &Input, from: &Option<String>| Request {
        inputs: vec![input.clone()],
        from: from.clone(),
        database: options.database.clone(),
        ..options.reach.request()
    };
    let left = Project::open(side(&options.left, &options.left_from), &output::tell)?;
    let right = Project::open(side(&options.right, &options.right_from), &output::tell_further)?;
    let configuration = &left.configuration;
    let threshold = configuration.compare_threshold(options.threshold.as_ref())?;
    let session = left.session();
    let reads = [left.read(&session)?, right.read(&right.session())?];
    for (project, read) in [&left, &right].iter().zip(&reads) {
        super::report_reading(project, read)?;
    }
    for read in &reads {
        super::something(read)?;
    }
    let named = options.database.as_ref().map(|_| reads[0].settings.database());
    let mut compared = session.compare(&reads[0], &reads[1], named);
    let found = &mut compared.comparison.found;
    let before = found.len();
    found.retain(|found| !configuration.disregards(found.code, &found.table));
    let disregarded = before - found.len();
    let over = found.iter().any(|found| found.severity >= threshold);
    match options.format {
        LintFormat::Human => {
            let size = |read: &Read| {
                format!("{} ({})", account::size(&read.schema), read.dialect.framework)
            };
            let (diagnostics, sizes) = (compared.diagnostics(), [size(&reads[0]), size(&reads[1])]);
            output::page(&human(&compared, &diagnostics, options.detail))?;
            output::page(&summary(&compared, &diagnostics, &sizes, disregarded))?;
        }
        format => output::result(&for_programs(options, format, &compared, disregarded)?)?,
    }
    Ok(if over { Outcome::Findings } else { Outcome::Clean })
}

/// The differences in a form that programs read.
fn for_programs(
    options: &CompareOptions,
    format: LintFormat,
    compared: &Compared,
    disregarded: usize,
) -> Result<String, Failure> {
    let (diagnostics, sources) = (compared.diagnostics(), &compared.sources);
    let Comparison { found, spelling, unknown, .. } = &compared.comparison;
    Ok(match format {
        LintFormat::Human | LintFormat::Json => super::pretty(&json!({
            "left": options.left.to_string(),
            "right": options.right.to_string(),
            "database": compared.database.id(),
            "found": merged(found, json::render(&diagnostics, sources)),
            "spelling": spelling,
            "unknown": unknown,
            "disregarded": disregarded,
        })),
        LintFormat::Sarif => {
            let (rules, no_fixes) = (sarif::differences(), BTreeMap::new());
            super::pretty(&sarif::render(&diagnostics, sources, rules, &no_fixes))
        }
        LintFormat::Junit => junit::render("compare", &diagnostics, sources)?,
    })
}

/// Differences by table, each with its places and one line about what to do; notes together at the
/// end, unless all are wanted.
fn human(compared: &Compared, diagnostics: &[Diagnostic], detail: bool) -> String {
    let Compared { comparison, sources, .. } = compared;
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
        let (finds, advice) = CODES
            .iter()
            .find(|known| known.name == code)
            .map_or(("", ""), |known| (known.finds, known.advice));
        let named = elements[..elements.len().min(FEW)].join(", ");
        let more = if elements.len() > FEW {
            format!(" and {} more", elements.len() - FEW)
        } else {
            String::new()
        };
        out.push_str(&format!(
            "{word}[{code}] ({}): {finds}; {advice}\n    {FAINT}{named}{more}{FAINT:#}\n",
            elements.len()
        ));
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

fn summary(
    compared: &Compared,
    diagnostics: &[Diagnostic],
    sizes: &[String; 2],
    disregarded: usize,
) -> String {
    let (comparison, database) = (&compared.comparison, compared.database.id());
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
