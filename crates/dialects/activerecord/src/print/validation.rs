//! What input must be like.

use serde_json::Value as Json;

use super::model::{column_of, fields};
use crate::declaration::Model;
use crate::quoting::ruby;
use crate::schema::InputRule;

/// The rules of a class, a line for each column.
pub(super) fn lines(model: &Model) -> Vec<String> {
    let mut lines = Vec::new();
    for field in fields(model) {
        let column = ruby::symbol(column_of(field));
        // What is required of a relation is said there.
        if field.required_on_input == Some(true) && field.reference.is_none() {
            lines.push(format!("validates {column}, presence: true"));
        }
        for (name, options) in groups(&field.rules) {
            lines.push(format!("validates {column}, {name}: {{ {} }}", options.join(", ")));
        }
    }
    lines
}

/// The framework's rules with their options: those of one rule and one message together.
fn groups(rules: &[InputRule]) -> Vec<(&'static str, Vec<String>)> {
    let mut groups: Vec<(&str, Option<&String>, Vec<String>)> = Vec::new();
    for ((name, option), rule) in rules.iter().filter_map(|rule| Some((said(rule)?, rule))) {
        let message = rule.message.as_ref();
        match groups.iter_mut().find(|(known, of, _)| (*known, *of) == (name, message)) {
            Some((_, _, options)) => options.push(option),
            None => groups.push((name, message, vec![option])),
        }
    }
    let finished = |(name, message, mut options): (&'static str, Option<&String>, Vec<String>)| {
        options.extend(message.map(|text| format!("message: {}", ruby::text(text))));
        // Whether there must be a value is another rule's.
        options.push("allow_nil: true".into());
        (name, options)
    };
    groups.into_iter().map(finished).collect()
}

/// Our words, and how the framework says them: the rule, and its option where it is one of several.
const RULES: &[(&str, &str, &str)] = &[
    ("max_length", "length", "maximum"),
    ("min_length", "length", "minimum"),
    ("max_value", "numericality", "less_than_or_equal_to"),
    ("min_value", "numericality", "greater_than_or_equal_to"),
    ("inclusion", "inclusion", "in"),
    ("exclusion", "exclusion", "in"),
];

/// The framework's rule, and its option with the value.
fn said(rule: &InputRule) -> Option<(&'static str, String)> {
    if let Some((_, name, option)) = RULES.iter().find(|(known, ..)| *known == rule.rule) {
        return Some((name, format!("{option}: {}", ruby::literal(&rule.value))));
    }
    match (rule.rule.as_str(), &rule.value) {
        ("pattern", Json::String(pattern)) => {
            Some(("format", format!("with: Regexp.new({})", ruby::text(pattern))))
        }
        _ => None,
    }
}
