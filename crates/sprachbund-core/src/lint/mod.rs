//! Lint rules over the neutral schema: one file each, with its documentation, its check and its
//! cases, in a folder for each family.
//!
//! A rule sees only the schema (and the conventions of the dialect that it was read from), so it
//! finds the same thing whatever the declarations were written in. What no schema shows any more
//! (an option that nothing hears) is raised while reading, and becomes a finding of the rule that
//! claims its code.

mod across;
mod context;
mod examples;
pub mod exceptions;
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

use exceptions::Exceptions;
use foldhash::HashMap;
use rayon::prelude::*;
use silence::Silences;

use crate::codes;
use crate::diagnostic::{Diagnostic, Severity};
use crate::dialect::Conventions;
use crate::schema::{Entity, Schema};
use crate::source::{Sources, Span};
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

/// What linting tells.
#[derive(Clone, Debug, Default)]
pub struct Linted {
    /// What the rules find, by its places.
    pub found: Vec<Diagnostic>,
    /// What was said while reading, and is no rule's.
    pub reading: Vec<Diagnostic>,
}

/// What the rules find, and what was said while reading, without what the project or a comment at
/// the place accepts.
pub fn lint(linting: &Linting<'_>) -> Linted {
    let Linting { schema, conventions, sources, raised, target, beside, settings } = *linting;
    let context = Context::new(schema, conventions, target, beside, settings);
    let on: Vec<(&Rule, Severity)> =
        rules().filter_map(|rule| Some((rule, settings.severity(rule)?))).collect();
    let mut found = found_by(&on, &context);
    for (at, (rule, _)) in on.iter().enumerate() {
        found.extend(
            raised
                .iter()
                .filter(|said| rule.raised.contains(&said.code) && settings.is_on(said.code))
                .map(|said| (at, said.clone())),
        );
    }
    // Rule by rule, in the order of the entities.
    found.sort_by_key(|(at, _)| *at);
    let by_rule = |(at, one): (usize, Diagnostic)| {
        let (rule, severity) = on[at];
        // A finding that matters less than its rule keeps its own severity, unless the project says
        // otherwise.
        let own = if settings.severities.contains_key(rule.name) {
            severity
        } else {
            one.severity.min(severity)
        };
        Diagnostic { code: rule.name, severity: own, ..one }
    };
    let mut found: Vec<Diagnostic> = found.into_iter().map(by_rule).collect();
    let path = |diagnostic: &Diagnostic| {
        diagnostic.primary.as_ref().map(|label| &*sources.file(label.span.file).path)
    };
    // Each of them remembers what it covered, so that those that cover nothing are told: they are
    // asked before findings at one place are made one.
    let mut exceptions = Exceptions::of(settings);
    found.retain(|diagnostic| !exceptions.cover(diagnostic, path(diagnostic)));
    let mut silences = Silences::of(sources);
    found.retain(|diagnostic| !silences.cover(diagnostic, sources));
    let unclaimed = raised.iter().filter(|said| !is_claimed(said.code));
    let mut reading: Vec<Diagnostic> = unclaimed.filter_map(|said| settings.graded(said)).collect();
    reading.retain(|said| !exceptions.cover(said, path(said)) && !silences.cover(said, sources));
    // A rule that looks beside, or across, finds nothing where neither was asked for.
    let is_asked = |name: &str| {
        let of = |family: &Family| family.rules.iter().any(|known| known.name == name);
        settings.is_on(name)
            && (target.is_some() || !of(&across::FAMILY))
            && (beside.is_some() || !of(&history::FAMILY))
    };
    found.extend(silences.complaints(&is_asked));
    found.extend(exceptions.complaints(schema, sources, is_asked));
    let mut found = merged(found);
    found.sort_by_key(|diagnostic| {
        diagnostic.primary.as_ref().map(|label| (label.span.file, label.span.start))
    });
    Linted { found, reading }
}

/// What there is to say of the inputs, without what the project or a comment at the place accepts.
pub fn accepted_reading(
    raised: &[Diagnostic],
    sources: &Sources,
    settings: &LintSettings,
) -> Vec<Diagnostic> {
    let (mut exceptions, mut silences) = (Exceptions::of(settings), Silences::of(sources));
    let path = |one: &Diagnostic| {
        one.primary.as_ref().map(|label| sources.file(label.span.file).path.clone())
    };
    let graded = raised.iter().filter_map(|said| settings.graded(said));
    graded
        .filter(|said| !exceptions.cover(said, path(said).as_deref()))
        .filter(|said| !silences.cover(said, sources))
        .collect()
}

/// Everything that settings and comments may name: rules, and kinds of messages of readers.
pub fn names() -> impl Iterator<Item = &'static str> {
    rules().map(|rule| rule.name).chain(codes::of_reading().map(|code| code.name))
}

/// Entities that rules look at together, while they lie in the processor's cache. In tests each is
/// a part of its own, so that a rule that needs more than one at a time and does not say so fails.
const PART: usize = if cfg!(test) { 1 } else { 32 };

/// What the rules find, each with the place of its rule in the list.
fn found_by(on: &[(&Rule, Severity)], context: &Context<'_>) -> Vec<(usize, Diagnostic)> {
    let entities = &context.schema.entities[..];
    let (whole, single): (Vec<usize>, Vec<usize>) = (0..on.len()).partition(|at| on[*at].0.whole);
    let of_all = whole.chunks(1).map(|rules| (rules, entities));
    let of_parts = entities.chunks(PART).map(|part| (&single[..], part));
    let tasks: Vec<(&[usize], &[Entity])> = of_all.chain(of_parts).collect();
    let run = |(rules, part): &(&[usize], &[Entity])| {
        let context = context.of_part(part);
        let mut found = Vec::new();
        for at in *rules {
            let mut own = Vec::new();
            (on[*at].0.check)(&context, &mut own);
            found.extend(own.into_iter().map(|one| (*at, one)));
        }
        found
    };
    tasks.par_iter().flat_map_iter(run).collect()
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
