//! Diagnostics as SARIF 2.1.0 (OASIS standard, section 3), with as few parts as consumers need.

use std::collections::BTreeMap;

use super::fingerprint::fingerprints;
use crate::diagnostic::{Code, Diagnostic, Label, Severity};
use crate::mend::FileEdit;
use crate::source::{SourceFile, Sources};
use serde_json::{Value, json};

/// A change of files that mends a finding, as SARIF has it (section 3.55).
pub struct Fix {
    changes: Vec<Value>,
}

impl Fix {
    /// Of edits; those of files that were not read are left out.
    pub fn of(edits: &[FileEdit], sources: &Sources) -> Self {
        let mut files: BTreeMap<&str, Vec<Value>> = BTreeMap::new();
        for edit in edits {
            let Some(file) = sources.files.iter().find(|file| *file.path == *edit.path) else {
                continue;
            };
            let region = region(file, edit.start as u32, edit.end as u32);
            let replacement =
                json!({ "deletedRegion": region, "insertedContent": { "text": edit.text } });
            files.entry(&edit.path).or_default().push(replacement);
        }
        let change = |(path, replacements): (&str, Vec<Value>)| {
            json!({ "artifactLocation": { "uri": uri(path) },
            "replacements": replacements })
        };
        Fix { changes: files.into_iter().map(change).collect() }
    }
}

/// One run with the rules, the results and their fixes (by the places of the results).
pub fn render(
    diagnostics: &[Diagnostic],
    sources: &Sources,
    rules: Vec<Value>,
    fixes: &BTreeMap<usize, Fix>,
) -> Value {
    let prints = fingerprints(diagnostics);
    let results = diagnostics.iter().zip(&prints).enumerate().map(|(at, (diagnostic, print))| {
        let mut result = result(diagnostic, print, sources);
        if let Some(fix) = fixes.get(&at) {
            let text = diagnostic.help.clone().unwrap_or_else(|| "mend it".into());
            result["fixes"] =
                json!([{ "description": { "text": text }, "artifactChanges": fix.changes }]);
        }
        result
    });
    let results: Vec<Value> = results.collect();
    json!({
        "$schema": "https://json.schemastore.org/sarif-2.1.0.json",
        "version": "2.1.0",
        "runs": [{
            "tool": { "driver": { "name": "sprachbund", "version": env!("CARGO_PKG_VERSION"),
                "rules": rules } },
            "columnKind": "unicodeCodePoints",
            "results": results,
        }],
    })
}

/// Every rule of lint, and what it says of comments and settings that accept nothing.
pub fn lint_rules() -> Vec<Value> {
    let rules = crate::lint::rules().map(|one| {
        rule(one.name, one.finds, one.cure, Some(&crate::pages::of_rule(one)), one.severity)
    });
    let accepted = &crate::codes::ACCEPTED_IN_VAIN;
    rules.chain([of_code(accepted)]).collect()
}

/// Every kind of difference.
pub fn differences() -> Vec<Value> {
    crate::compare::CODES.iter().map(of_code).collect()
}

fn of_code(code: &Code) -> Value {
    rule(code.name, code.finds, code.advice, None, code.severity)
}

/// What may be found, with its page as Markdown where it has one.
fn rule(name: &str, finds: &str, help: &str, page: Option<&str>, severity: Severity) -> Value {
    let mut help = json!({ "text": help });
    if let Some(page) = page {
        help["markdown"] = json!(page);
    }
    json!({
        "id": name,
        "shortDescription": { "text": finds },
        "help": help,
        "defaultConfiguration": { "level": severity.word() },
    })
}

fn result(diagnostic: &Diagnostic, print: &str, sources: &Sources) -> Value {
    let level = match diagnostic.severity {
        Severity::Note => "note",
        Severity::Warning => "warning",
        Severity::Error => "error",
    };
    let locations: Vec<Value> =
        diagnostic.primary.iter().map(|label| location(label, diagnostic, sources)).collect();
    let numbered = |(at, label): (usize, &Label)| {
        let mut related = location(label, diagnostic, sources);
        related["id"] = json!(at);
        related["message"] = json!({ "text": label.text });
        related
    };
    let related: Vec<Value> = diagnostic.secondary.iter().enumerate().map(numbered).collect();
    let reasons = diagnostic.notes.iter().chain(&diagnostic.help);
    let text = std::iter::once(&diagnostic.message)
        .chain(reasons)
        .map(String::as_str)
        .collect::<Vec<_>>()
        .join("; ");
    json!({
        "ruleId": diagnostic.code,
        "level": level,
        "message": { "text": text },
        "locations": locations,
        "relatedLocations": related,
        "partialFingerprints": { "subject/v1": print },
    })
}

fn location(label: &Label, diagnostic: &Diagnostic, sources: &Sources) -> Value {
    let file = sources.file(label.span.file);
    let mut location = json!({
        "physicalLocation": { "artifactLocation": { "uri": uri(&file.path) }, "region": region(file,
            label.span.start, label.span.end) },
        "message": { "text": label.text },
    });
    if let Some(subject) = &diagnostic.subject {
        location["logicalLocations"] =
            json!([{ "fullyQualifiedName": subject.entity, "kind": "type" }]);
    }
    location
}

fn region(file: &SourceFile, start: u32, end: u32) -> Value {
    let (line, column) = file.position(start);
    let (end_line, end_column) = file.position(end);
    json!({ "startLine": line, "startColumn": column, "endLine": end_line,
        "endColumn": end_column })
}

/// A path as a reference of a URI (RFC 3986): what it may not hold is escaped.
fn uri(path: &str) -> String {
    const PLAIN: &[u8] = b"-._~/!$&'()*+,;=@";
    let letter = |byte: u8| match byte {
        byte if byte.is_ascii_alphanumeric() || PLAIN.contains(&byte) => {
            char::from(byte).to_string()
        }
        byte => format!("%{byte:02X}"),
    };
    path.bytes().map(letter).collect()
}
