//! Lint rules over the neutral schema: one file each, with its documentation, its check and its cases.
//!
//! A rule sees only the schema (and the conventions of the dialect that it was read from), so it finds the same thing
//! whatever the declarations were written in.

mod default_unlike_its_type;
mod entity_without_key;
mod money_in_binary_float;
mod one_to_one_not_unique;
mod presence_disagrees;
mod reference_without_index;
mod relation_known_to_one_side;
mod set_null_on_required;
mod silence;
mod text_unbounded_among_bounded;
mod update_time_left_to_application;

use std::collections::HashMap;

use crate::diagnostic::{Diagnostic, Severity};
use crate::dialect::Conventions;
use crate::schema::{Entity, Field, Schema};
use crate::source::{Sources, Span};

pub use silence::{Silence, silences};

/// Every rule, sorted by name.
pub const RULES: &[Rule] = &[
    default_unlike_its_type::RULE,
    entity_without_key::RULE,
    money_in_binary_float::RULE,
    one_to_one_not_unique::RULE,
    presence_disagrees::RULE,
    reference_without_index::RULE,
    relation_known_to_one_side::RULE,
    set_null_on_required::RULE,
    text_unbounded_among_bounded::RULE,
    update_time_left_to_application::RULE,
];

/// One rule. Its texts are its documentation: `explain` and docs/rules/ show them, and its examples run as tests.
pub struct Rule {
    /// Names the fault.
    pub name: &'static str,
    /// Severity unless the configuration says otherwise.
    pub severity: Severity,
    /// What is found, in one line.
    pub finds: &'static str,
    /// What follows from it on a real database.
    pub consequence: &'static str,
    /// How to mend it, and what the mending costs.
    pub cure: &'static str,
    /// When to turn it off.
    pub exception: &'static str,
    /// Declarations in which it is found.
    pub wrong: Example,
    /// The same, mended.
    pub right: Example,
    /// Further inputs, with the number of findings.
    pub cases: &'static [(Example, usize)],
    pub check: fn(&Context<'_>, &mut Vec<Diagnostic>),
}

/// Declarations in a dialect (`schema` is the neutral form).
pub struct Example {
    pub dialect: &'static str,
    pub text: &'static str,
}

/// What a rule sees.
pub struct Context<'s> {
    pub schema: &'s Schema,
    pub conventions: &'s Conventions,
}

impl<'s> Context<'s> {
    /// Entities that the project itself declares as tables.
    pub fn tables(&self) -> impl Iterator<Item = &'s Entity> {
        self.schema.entities.iter().filter(|entity| !entity.external && entity.mapped.table)
    }

    /// Columns of those, each with its entity.
    pub fn columns(&self) -> impl Iterator<Item = (&'s Entity, &'s Field)> {
        self.tables().flat_map(|entity| entity.fields.iter().map(move |field| (entity, field)))
    }
}

/// `PortCall.berth`, by attribute where there is one, else by column.
pub(crate) fn place(entity: &Entity, field: &Field) -> String {
    let relation = || entity.relations.iter().find(|relation| relation.columns.contains(&field.column))?.name.as_deref();
    format!("{}.{}", entity.name, field.name.as_deref().or_else(relation).unwrap_or(&field.column))
}

/// The rule of this name.
pub fn rule(name: &str) -> Option<&'static Rule> {
    RULES.iter().find(|rule| rule.name == name)
}

/// What the rules find, without what is silenced at its place; `severity` answers the configuration (`None` is off).
pub fn lint(
    schema: &Schema,
    conventions: &Conventions,
    sources: &Sources,
    severity: &dyn Fn(&Rule) -> Option<Severity>,
) -> Vec<Diagnostic> {
    let context = Context { schema, conventions };
    let mut found = Vec::new();
    for rule in RULES {
        let Some(severity) = severity(rule) else { continue };
        let mut own = Vec::new();
        (rule.check)(&context, &mut own);
        found.extend(own.into_iter().map(|diagnostic| Diagnostic { severity, ..diagnostic }));
    }
    let mut silences = silences(sources);
    found.retain(|diagnostic| !silences.iter_mut().any(|silence| silence.covers(diagnostic, sources)));
    found.extend(silences.iter().filter_map(Silence::complaint));
    let mut found = merged(found);
    found.sort_by_key(|diagnostic| diagnostic.primary.as_ref().map(|label| (label.span.file, label.span.start)));
    found
}

/// Findings of one rule at one place (an attribute that several classes inherit) are one.
fn merged(found: Vec<Diagnostic>) -> Vec<Diagnostic> {
    let mut kept: Vec<Diagnostic> = Vec::with_capacity(found.len());
    let mut seen: HashMap<(&'static str, Span), usize> = HashMap::new();
    for diagnostic in found {
        let place = diagnostic.primary.as_ref().map(|label| (diagnostic.code, label.span));
        match place.and_then(|place| seen.get(&place)) {
            Some(at) => kept[*at].notes.push(format!("also: {}", diagnostic.message)),
            None => {
                seen.extend(place.map(|place| (place, kept.len())));
                kept.push(diagnostic);
            }
        }
    }
    kept
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::dialect::{Settings, by_id};
    use crate::source::NoFiles;

    fn findings(rule: &Rule, example: &Example) -> usize {
        let (schema, conventions, sources) = match by_id(example.dialect) {
            Some(dialect) => {
                let mut settings = Settings::default();
                let head = match dialect.id {
                    "django" => "from django.db import models\n",
                    _ => "import { Entity } from 'typeorm';\n",
                };
                let path = format!("harbour/models.{}", dialect.extensions[0]);
                let reading = crate::reading::read(vec![(path, format!("{head}{}", example.text))], dialect, &mut settings, &NoFiles);
                assert!(!reading.schema.entities.is_empty(), "{}: nothing read of {}", rule.name, example.text);
                (reading.schema, (dialect.conventions)(&settings), reading.sources)
            }
            None => {
                let schema = crate::schema::json::read(example.text).expect("a valid schema");
                (schema, (crate::dialect::DIALECTS[0].conventions)(&Settings::default()), Sources::default())
            }
        };
        let only = |other: &Rule| (other.name == rule.name).then_some(Severity::Warning);
        lint(&schema, &conventions, &sources, &only).len()
    }

    #[test]
    fn every_rule_finds_its_wrong_example_and_not_its_right_one() {
        for rule in RULES {
            assert!(findings(rule, &rule.wrong) > 0, "{} does not find its wrong example", rule.name);
            assert_eq!(findings(rule, &rule.right), 0, "{} finds its right example", rule.name);
            for (example, count) in rule.cases {
                assert_eq!(findings(rule, example), *count, "{}: {}", rule.name, example.text);
            }
        }
    }

    #[test]
    fn every_rule_file_is_registered_and_the_list_is_sorted() {
        let folder = concat!(env!("CARGO_MANIFEST_DIR"), "/src/lint");
        let mut files: Vec<String> = std::fs::read_dir(folder)
            .expect("the rules' folder")
            .flatten()
            .map(|entry| entry.file_name().to_string_lossy().trim_end_matches(".rs").replace('_', "-"))
            .filter(|name| !matches!(name.as_str(), "mod" | "silence"))
            .collect();
        files.sort();
        let names: Vec<&str> = RULES.iter().map(|rule| rule.name).collect();
        assert_eq!(names, files, "add the missing file to RULES");
    }
}
