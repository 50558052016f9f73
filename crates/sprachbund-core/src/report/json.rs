//! Diagnostics as JSON.

use super::fingerprint::fingerprints;
use crate::diagnostic::{Diagnostic, Label};
use crate::source::Sources;
use serde_json::{Value, json};

/// A list of objects with rule, severity, message and places.
pub fn render(diagnostics: &[Diagnostic], sources: &Sources) -> Value {
    let one = |(diagnostic, fingerprint): (&Diagnostic, String)| {
        let places: Vec<Value> = diagnostic
            .primary
            .iter()
            .chain(&diagnostic.secondary)
            .map(|label| place(label, sources))
            .collect();
        json!({
            "rule": diagnostic.code,
            "severity": diagnostic.severity.word(),
            "message": diagnostic.message,
            "entity": diagnostic.subject.as_ref().map(|subject| &subject.entity),
            "element": diagnostic.subject.as_ref().map(|subject| &subject.element),
            "fingerprint": fingerprint,
            "cure": diagnostic.cure.as_ref().map(|cure| cure.safety.word()),
            "file": diagnostic.path,
            "places": places,
            "because": diagnostic.notes,
            "help": diagnostic.help,
        })
    };
    diagnostics.iter().zip(fingerprints(diagnostics)).map(one).collect()
}

fn place(label: &Label, sources: &Sources) -> Value {
    let file = sources.file(label.span.file);
    let (line, column) = file.position(label.span.start);
    let (end_line, end_column) = file.position(label.span.end);
    json!({ "file": &*file.path, "line": line, "column": column, "end_line": end_line,
        "end_column": end_column, "text": label.text })
}
