//! Lint rules over the neutral schema: one file each, with its documentation, its check and its cases, in a folder for
//! each family.
//!
//! A rule sees only the schema (and the conventions of the dialect that it was read from), so it finds the same thing
//! whatever the declarations were written in. What no schema shows any more (an option that nothing hears) is raised while
//! reading, and becomes a finding of the rule that claims its code.

mod across;
mod context;
mod history;
mod in_vain;
mod indexes;
mod keys;
mod life_cycle;
mod names;
mod presence;
mod relations;
pub mod rule;
pub mod settings;
mod silence;
#[cfg(test)]
mod tests;
mod types;

use foldhash::HashMap;
use rayon::prelude::*;

use crate::diagnostic::{Diagnostic, Severity};
use crate::dialect::Conventions;
use crate::schema::Schema;
use crate::source::{Sources, Span};
use settings::Exceptions;
use silence::Silences;

pub use context::{Beside, Context, Target};
pub use rule::{Example, Rule};
pub use settings::{LintSettings, Setting};

/// Rules about one thing.
pub struct Family {
    /// Name of its folder.
    pub name: &'static str,
    pub title: &'static str,
    /// What its rules are about, in one line.
    pub about: &'static str,
    /// Sorted by name.
    pub rules: &'static [Rule],
}

/// Every family, in the order in which a schema is thought about.
pub const FAMILIES: &[Family] = &[
    presence::FAMILY,
    keys::FAMILY,
    relations::FAMILY,
    indexes::FAMILY,
    types::FAMILY,
    life_cycle::FAMILY,
    names::FAMILY,
    history::FAMILY,
    in_vain::FAMILY,
    across::FAMILY,
];

/// Every rule.
pub fn rules() -> impl Iterator<Item = &'static Rule> {
    FAMILIES.iter().flat_map(|family| family.rules)
}

/// The rule of this name.
pub fn rule(name: &str) -> Option<&'static Rule> {
    rules().find(|rule| rule.name == name)
}

/// What is linted.
pub struct Linting<'a> {
    pub schema: &'a Schema,
    pub conventions: &'a Conventions,
    pub sources: &'a Sources,
    /// What was said while reading.
    pub raised: &'a [Diagnostic],
    pub target: Option<&'a Target>,
    pub beside: Option<&'a Beside>,
    pub settings: &'a LintSettings,
}

/// Whether a rule claims what readers say under this code.
pub fn is_claimed(code: &str) -> bool {
    rules().any(|rule| rule.raised.contains(&code))
}

/// What the rules find, without what the project or a comment at the place accepts.
pub fn lint(linting: &Linting<'_>) -> Vec<Diagnostic> {
    let Linting { schema, conventions, sources, raised, target, beside, settings } = *linting;
    let context = Context::new(schema, conventions, target, beside, settings);
    let on: Vec<(&Rule, Severity)> = rules().filter_map(|rule| Some((rule, settings.severity(rule)?))).collect();
    let found_by: Vec<Vec<Diagnostic>> = on
        .par_iter()
        .map(|(rule, severity)| {
            let mut found = Vec::new();
            (rule.check)(&context, &mut found);
            found.extend(raised.iter().filter(|said| rule.raised.contains(&said.code)).cloned());
            // A finding that matters less than its rule keeps its own severity, unless the project says otherwise.
            let said = settings.severities.contains_key(rule.name);
            let severity = |own: Severity| if said { *severity } else { own.min(*severity) };
            found.into_iter().map(|one| Diagnostic { code: rule.name, severity: severity(one.severity), ..one }).collect()
        })
        .collect();
    let mut found: Vec<Diagnostic> = found_by.into_iter().flatten().collect();
    let path = |diagnostic: &Diagnostic| diagnostic.primary.as_ref().map(|label| &*sources.file(label.span.file).path);
    let mut exceptions = Exceptions::of(settings);
    found.retain(|diagnostic| !exceptions.cover(diagnostic, path(diagnostic)));
    let mut silences = Silences::of(sources);
    found.retain(|diagnostic| !silences.cover(diagnostic, sources));
    // A rule that looks beside, or across, finds nothing where neither was asked for.
    let is_asked = |rule: &Rule| {
        let of = |family: &Family| family.rules.iter().any(|known| known.name == rule.name);
        settings.severity(rule).is_some() && (target.is_some() || !of(&across::FAMILY)) && (beside.is_some() || !of(&history::FAMILY))
    };
    found.extend(silences.complaints(&is_asked));
    found.extend(exceptions.complaints(schema, sources, is_asked));
    let mut found = merged(found);
    found.sort_by_key(|diagnostic| diagnostic.primary.as_ref().map(|label| (label.span.file, label.span.start)));
    found
}

/// Findings of one rule at one place (an attribute that several classes inherit) are one.
fn merged(found: Vec<Diagnostic>) -> Vec<Diagnostic> {
    let mut kept: Vec<Diagnostic> = Vec::with_capacity(found.len());
    let mut seen: HashMap<(&'static str, Span), usize> = HashMap::default();
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
