//! Findings in the forms that programs read: the same two findings in each.

use std::collections::BTreeMap;

use serde_json::{Value, json};
use sprachbund_core::diagnostic::{Diagnostic, Severity, Subject};
use sprachbund_core::mend::FileEdit;
use sprachbund_core::report::fingerprint::fingerprints;
use sprachbund_core::report::{json, junit, sarif};
use sprachbund_core::source::{FileId, SourceFile, Sources, Span};

const TEXT: &str = "class Kai:\n    fläche = 1  # m²\n    tiefe = 2\n";

fn sources() -> Sources {
    Sources { files: vec![SourceFile::new("hafen plan/kai#1.py", TEXT)] }
}

fn place(word: &str) -> Option<Span> {
    let start = TEXT.find(word).expect("it stands there") as u32;
    Some(Span { file: FileId(0), start, end: start + word.len() as u32 })
}

/// A warning with two places, a reason and a way out; and a note about a whole file.
fn findings() -> Vec<Diagnostic> {
    let subject = Subject { entity: "hafen.Kai".into(), element: "column tiefe".into() };
    let message = "`tiefe` & `fläche` <disagree>";
    let warning = Diagnostic::new("presence-disagrees", Severity::Warning, message)
        .at(place("tiefe"), "this one")
        .and_at(place("fläche"), "that one")
        .because("one is required")
        .with_help("say the same of both");
    let note = Diagnostic::new("index-over-nothing", Severity::Note, "it is about all of it");
    vec![Diagnostic { subject: Some(subject), ..warning }, note.in_file("hafen plan/kai#1.py")]
}

#[test]
fn json_says_all_that_is_known() {
    let found = findings();
    let value = json::render(&found, &sources());
    let prints = fingerprints(&found);
    let expected = json!([
        {
            "rule": "presence-disagrees", "severity": "warning",
            "message": "`tiefe` & `fläche` <disagree>",
            "entity": "hafen.Kai", "element": "column tiefe", "fingerprint": prints[0],
            "cure": null, "file": null,
            "places": [
                { "file": "hafen plan/kai#1.py", "line": 3, "column": 5, "end_line": 3,
                  "end_column": 10, "text": "this one" },
                // Columns count letters, not bytes.
                { "file": "hafen plan/kai#1.py", "line": 2, "column": 5, "end_line": 2,
                  "end_column": 11, "text": "that one" },
            ],
            "because": ["one is required"], "help": "say the same of both",
        },
        {
            "rule": "index-over-nothing", "severity": "note", "message": "it is about all of it",
            "entity": null, "element": null, "fingerprint": prints[1], "cure": null,
            "file": "hafen plan/kai#1.py", "places": [], "because": [], "help": null,
        },
    ]);
    assert_eq!(value, expected);
}

fn report(fixes: &BTreeMap<usize, sarif::Fix>) -> Value {
    let value = sarif::render(&findings(), &sources(), sarif::lint_rules(), fixes);
    value["runs"][0].clone()
}

#[test]
fn sarif_has_regions_reasons_and_escaped_paths() {
    let run = report(&BTreeMap::new());
    assert_eq!(run["tool"]["driver"]["name"], "sprachbund");
    let result = &run["results"][0];
    assert_eq!(
        (&result["ruleId"], &result["level"]),
        (&json!("presence-disagrees"), &json!("warning"))
    );
    let text = "`tiefe` & `fläche` <disagree>; one is required; say the same of both";
    assert_eq!(result["message"]["text"], text);
    let physical = &result["locations"][0]["physicalLocation"];
    assert_eq!(physical["artifactLocation"]["uri"], "hafen%20plan/kai%231.py");
    let region = json!({ "startLine": 3, "startColumn": 5, "endLine": 3, "endColumn": 10 });
    assert_eq!(physical["region"], region);
    assert_eq!(result["relatedLocations"][0]["id"], 0);
    assert!(result.get("fixes").is_none());
    let logical = &result["locations"][0]["logicalLocations"][0]["fullyQualifiedName"];
    assert_eq!(logical, "hafen.Kai");
}

#[test]
fn sarif_knows_every_rule_and_every_difference() {
    let named = |rules: Vec<Value>| -> Vec<String> {
        rules.iter().map(|rule| rule["id"].as_str().unwrap_or_default().to_owned()).collect()
    };
    let rules = named(sarif::lint_rules());
    assert!(sprachbund_core::lint::rules().all(|rule| rules.iter().any(|id| id == rule.name)));
    assert!(rules.contains(&"accepted-in-vain".to_owned()));
    let differences = named(sarif::differences());
    assert_eq!(differences.len(), sprachbund_core::compare::CODES.len());
    for rule in sarif::lint_rules().iter().chain(&sarif::differences()) {
        assert!(rule["help"]["text"].as_str().is_some_and(|help| !help.is_empty()), "{rule}");
        let level = rule["defaultConfiguration"]["level"].as_str();
        assert!(matches!(level, Some("note" | "warning" | "error")), "{rule}");
    }
}

#[test]
fn a_fix_is_what_is_deleted_and_what_comes_instead() {
    let span = place("tiefe").expect("a place");
    let edit = |path: &str| FileEdit {
        path: path.into(),
        start: span.start as usize,
        end: span.end as usize,
        text: "breite".into(),
    };
    let edits = [edit("hafen plan/kai#1.py"), edit("elsewhere.py")];
    let run = report(&BTreeMap::from([(0, sarif::Fix::of(&edits, &sources()))]));
    let changes = &run["results"][0]["fixes"][0]["artifactChanges"];
    assert_eq!(changes.as_array().map(Vec::len), Some(1), "what was not read is left out");
    let replacement = &changes[0]["replacements"][0];
    assert_eq!(replacement["insertedContent"]["text"], "breite");
    let region = json!({ "startLine": 3, "startColumn": 5, "endLine": 3, "endColumn": 10 });
    assert_eq!(replacement["deletedRegion"], region);
    assert!(run["results"][1].get("fixes").is_none());
}

#[test]
fn junit_fails_what_is_graver_than_a_note() {
    let text = junit::render("lint", &findings(), &sources()).expect("a report");
    for part in [
        "tests=\"2\" failures=\"1\"",
        "classname=\"hafen.Kai\" name=\"presence-disagrees column tiefe\"",
        "<failure type=\"warning\" message=\"`tiefe` &amp; `fläche` &lt;disagree&gt;\">",
        "hafen plan/kai#1.py:3:5",
        "one is required",
        "help: say the same of both",
        "name=\"index-over-nothing\"",
        "<system-out>",
    ] {
        assert!(text.contains(part), "{part} in\n{text}");
    }
}

/// Findings, and which of their fingerprints are one.
#[test]
fn fingerprints_go_by_rule_entity_and_element() {
    let [warning, note] = [0, 1].map(|at| findings().swap_remove(at));
    let of = |one: &Diagnostic, code, element: &str| {
        let subject = Subject { entity: "hafen.Kai".into(), element: element.into() };
        Diagnostic { code, subject: Some(subject), ..one.clone() }
    };
    let elsewhere = Diagnostic { message: "in other words".into(), ..warning.clone() };
    let found = [
        warning.clone(),
        of(&warning, "presence-disagrees", "column breite"),
        of(&warning, "text-with-two-empties", "column tiefe"),
        note.clone(),
    ];
    let prints = fingerprints(&found);
    for (at, print) in prints.iter().enumerate() {
        assert!(print.len() == 16 && !prints[..at].contains(print), "{prints:?}");
    }
    assert_eq!(fingerprints(&[elsewhere])[0], prints[0], "words and places may change");
    let twice = fingerprints(&[warning.clone(), warning]);
    assert!(twice[0] == prints[0] && twice[1] != twice[0], "the second of two alike is another");
    let reworded = Diagnostic { message: "in other words".into(), ..note };
    assert_ne!(fingerprints(&[reworded])[0], prints[3], "where nothing is known but the words");
}
