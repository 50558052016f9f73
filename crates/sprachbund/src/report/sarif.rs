//! Diagnostics as SARIF 2.1.0 (OASIS standard, section 3), with as few parts as consumers need.

use serde_json::{Value, json};
use sprachbund_core::diagnostic::{Diagnostic, Label, Severity};
use sprachbund_core::source::Sources;

/// One run with the rules and the results.
pub(crate) fn render(diagnostics: &[Diagnostic], sources: &Sources, rules: Vec<Value>) -> Value {
    let results: Vec<Value> = diagnostics.iter().map(|diagnostic| result(diagnostic, sources)).collect();
    json!({
        "$schema": "https://json.schemastore.org/sarif-2.1.0.json",
        "version": "2.1.0",
        "runs": [{
            "tool": { "driver": { "name": "sprachbund", "version": env!("CARGO_PKG_VERSION"), "rules": rules } },
            "results": results,
        }],
    })
}

/// What may be found.
pub(crate) fn rule(name: &str, finds: &str, help: &str, severity: Severity) -> Value {
    json!({
        "id": name,
        "shortDescription": { "text": finds },
        "help": { "text": help },
        "defaultConfiguration": { "level": severity.word() },
    })
}

fn result(diagnostic: &Diagnostic, sources: &Sources) -> Value {
    let level = match diagnostic.severity {
        Severity::Note => "note",
        Severity::Warning => "warning",
        Severity::Error => "error",
    };
    let locations: Vec<Value> = diagnostic.primary.iter().map(|label| location(label, sources)).collect();
    let related: Vec<Value> = diagnostic.secondary.iter().map(|label| location(label, sources)).collect();
    json!({
        "ruleId": diagnostic.code,
        "level": level,
        "message": { "text": diagnostic.message },
        "locations": locations,
        "relatedLocations": related,
    })
}

fn location(label: &Label, sources: &Sources) -> Value {
    let file = sources.file(label.span.file);
    let (line, column) = file.position(label.span.start);
    let (end_line, end_column) = file.position(label.span.end);
    json!({
        "physicalLocation": {
            "artifactLocation": { "uri": &*file.path },
            "region": { "startLine": line, "startColumn": column, "endLine": end_line, "endColumn": end_column },
        },
        "message": { "text": label.text },
    })
}
