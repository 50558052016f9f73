//! What a project decides about the rules.

use std::collections::BTreeMap;

use super::rule::Rule;
use crate::diagnostic::{Diagnostic, Severity};

/// Severities, parameters and exceptions.
#[derive(Clone, Debug, Default)]
pub struct LintSettings {
    /// By rule; `None` turns it off.
    pub severities: BTreeMap<String, Option<Severity>>,
    /// By rule and parameter.
    pub parameters: BTreeMap<(String, String), Setting>,
    pub exceptions: Vec<Exception>,
}

/// What a parameter is set to.
#[derive(Clone, Debug, PartialEq)]
pub enum Setting {
    Number(u32),
    Words(Vec<String>),
}

/// Findings that a project accepts for some of its entities or files. `*` stands for any text.
#[derive(Clone, Debug, Default)]
pub struct Exception {
    pub rule: String,
    /// Id or name of the entity.
    pub entity: Option<String>,
    pub path: Option<String>,
    pub reason: String,
}

impl LintSettings {
    /// The severity of a rule; `None` when it is off.
    pub fn severity(&self, rule: &Rule) -> Option<Severity> {
        self.severities.get(rule.name).copied().unwrap_or(Some(rule.severity))
    }

    pub(super) fn parameter(&self, rule: &str, name: &str) -> Option<&Setting> {
        if self.parameters.is_empty() { None } else { self.parameters.get(&(rule.to_owned(), name.to_owned())) }
    }
}

impl Exception {
    /// Whether it accepts this finding, which stands in the file of this path.
    pub(super) fn covers(&self, diagnostic: &Diagnostic, path: Option<&str>) -> bool {
        let of = |pattern: &Option<String>, names: &[&str]| match pattern {
            None => true,
            Some(pattern) => names.iter().any(|name| fits(pattern, name)),
        };
        let entity = diagnostic.subject.as_ref().map_or("", |subject| subject.entity.as_str());
        let name = entity.rsplit('.').next().unwrap_or(entity);
        fits(&self.rule, diagnostic.code) && of(&self.entity, &[entity, name]) && of(&self.path, path.as_slice())
    }
}

/// Whether a name fits a pattern in which `*` stands for any text.
pub fn fits(pattern: &str, name: &str) -> bool {
    match pattern.split_once('*') {
        None => pattern == name,
        Some((head, tail)) => {
            let Some(rest) = name.strip_prefix(head) else { return false };
            (0..=rest.len()).filter(|at| rest.is_char_boundary(*at)).any(|at| fits(tail, &rest[at..]))
        }
    }
}
