//! What input must be like.

use std::rc::Rc;

use serde_json::Value as Json;
use smol_str::SmolStr;

use super::super::run::{Arguments, Value};
use super::Classes;
use crate::schema::InputRule;
use crate::source::Span;

/// What says when a rule holds, and not what it asks for.
const CONDITIONS: &[&str] = &["if", "unless", "on", "except_on"];

/// What says of all rules of a call how they are applied.
const OF_ALL: &[&str] = &["allow_nil", "allow_blank", "strict", "message"];

/// Calls that apply one rule, by what it is called in `validates`.
const ONE_RULE: &[(&str, &str)] = &[
    ("validates_absence_of", "absence"),
    ("validates_acceptance_of", "acceptance"),
    ("validates_comparison_of", "comparison"),
    ("validates_confirmation_of", "confirmation"),
    ("validates_exclusion_of", "exclusion"),
    ("validates_format_of", "format"),
    ("validates_inclusion_of", "inclusion"),
    ("validates_length_of", "length"),
    ("validates_numericality_of", "numericality"),
    ("validates_presence_of", "presence"),
    ("validates_size_of", "length"),
    ("validates_uniqueness_of", "uniqueness"),
];

/// Bounds by the framework's words and by ours.
const BOUNDS: &[(&str, &str, &str)] = &[
    ("length", "maximum", "max_length"),
    ("length", "minimum", "min_length"),
    ("numericality", "greater_than_or_equal_to", "min_value"),
    ("numericality", "less_than_or_equal_to", "max_value"),
];

impl<'p> Classes<'_, 'p> {
    pub(super) fn validations(&mut self, at: usize) {
        let said = Rc::clone(&self.known[at].said);
        for one in said.iter() {
            let name = one.name.as_str();
            let mut given = one.arguments.clone();
            given.unfold();
            if name == "validates" || name == "validates!" {
                self.validates(at, given, one.span);
            } else if let Some((_, rule)) = ONE_RULE.iter().find(|(known, _)| *known == name) {
                // The options are those of the rule, but for when it holds.
                let (own, shared): (Vec<_>, Vec<_>) = given
                    .named
                    .drain(..)
                    .partition(|(option, _)| !CONDITIONS.contains(&option.as_str()));
                let own = own.into_iter().map(|(option, value)| (Value::Text(option), value));
                given.named = shared;
                given.named.push(((*rule).into(), Value::Map(own.collect())));
                self.validates(at, given, one.span);
            }
        }
    }

    fn validates(&mut self, at: usize, given: Arguments<'p>, span: Span) {
        let conditional =
            given.named.iter().any(|(option, _)| CONDITIONS.contains(&option.as_str()));
        let message = given.named("message").and_then(Value::as_text);
        let names: Vec<SmolStr> = given.list.iter().filter_map(Value::as_text).collect();
        for name in &names {
            for (rule, asked) in &given.named {
                let of_all = CONDITIONS.contains(&rule.as_str()) || OF_ALL.contains(&rule.as_str());
                if of_all || asked.holds() == Some(false) {
                    continue;
                }
                self.rule(at, name, (rule, asked), (conditional, message.as_deref()), span);
            }
        }
    }

    fn rule(
        &mut self,
        at: usize,
        name: &str,
        (rule, asked): (&str, &Value<'p>),
        (conditional, message): (bool, Option<&str>),
        span: Span,
    ) {
        let own = |option: &str| asked.entry(option);
        let conditional =
            conditional || CONDITIONS.iter().any(|condition| own(condition).is_some());
        let said = own("message").and_then(Value::as_text).map(String::from);
        let message = said.or_else(|| message.map(str::to_owned));
        if rule == "presence" && !conditional {
            let relation = self.drafts[at]
                .relations
                .iter_mut()
                .find(|relation| relation.name.as_deref() == Some(name));
            if let Some(relation) = relation {
                relation.carrier.required_on_input = Some(true);
                return;
            }
        }
        if !self.has_column(at, name) {
            return;
        }
        let rules = if conditional {
            vec![(format!("{rule} on condition"), asked.json().unwrap_or(Json::Null))]
        } else {
            rules_of(rule, asked)
        };
        let field = self.drafts[at].field(name, span);
        if rule == "presence" && !conditional {
            field.required_on_input = Some(true);
            return;
        }
        field.rules.extend(rules.into_iter().map(|(rule, value)| InputRule {
            rule,
            value,
            message: message.clone(),
        }));
    }
}

/// The rules that one of the framework's rules is, in our words where there are some.
fn rules_of(rule: &str, asked: &Value<'_>) -> Vec<(String, Json)> {
    let mut rules = Vec::new();
    match (rule, asked) {
        ("length" | "numericality", Value::Map(options)) => {
            for (option, value) in options {
                let option = option.as_text().unwrap_or_default();
                let value = value.json().unwrap_or(Json::Null);
                let bound = BOUNDS.iter().find(|(of, word, _)| *of == rule && *word == option);
                match (bound, rule, option.as_str()) {
                    (Some((_, _, word)), ..) => rules.push(((*word).to_owned(), value)),
                    (None, "length", "is") => {
                        rules.push(("min_length".into(), value.clone()));
                        rules.push(("max_length".into(), value));
                    }
                    (None, _, "message" | "allow_nil" | "allow_blank") => {}
                    (None, _, "in" | "within") => {
                        if let Json::Array(items) = &value
                            && let (Some(first), Some(last)) = (items.first(), items.last())
                        {
                            let words = match rule {
                                "length" => ["min_length", "max_length"],
                                _ => ["min_value", "max_value"],
                            };
                            rules.push((words[0].into(), first.clone()));
                            rules.push((words[1].into(), last.clone()));
                        }
                    }
                    (None, rule, option) => rules.push((format!("{rule}.{option}"), value)),
                }
            }
        }
        ("format", Value::Pattern(pattern)) => {
            rules.push(("pattern".into(), pattern.as_str().into()));
        }
        ("format", Value::Map(_)) => match asked.entry("with") {
            Some(Value::Pattern(pattern)) => {
                rules.push(("pattern".into(), pattern.as_str().into()))
            }
            _ => rules.push(("format".into(), Json::Null)),
        },
        ("inclusion" | "exclusion", asked) => {
            let listed = match asked {
                Value::List(_) => Some(asked),
                _ => asked.entry("in").or_else(|| asked.entry("within")),
            };
            let listed = listed.and_then(Value::json).unwrap_or(Json::Null);
            rules.push((rule.to_owned(), listed));
        }
        (rule, asked) => rules.push((rule.to_owned(), asked.json().unwrap_or(Json::Null))),
    }
    rules
}
