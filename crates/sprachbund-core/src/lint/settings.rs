//! What a project decides about the rules.

use std::collections::BTreeMap;

use super::exceptions::Exception;
use super::rule::Rule;
use crate::diagnostic::Severity;

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

impl LintSettings {
    /// The severity of a rule; `None` when it is off.
    pub fn severity(&self, rule: &Rule) -> Option<Severity> {
        self.severities.get(rule.name).copied().unwrap_or(Some(rule.severity))
    }

    pub(super) fn parameter(&self, rule: &str, name: &str) -> Option<&Setting> {
        if self.parameters.is_empty() { None } else { self.parameters.get(&(rule.to_owned(), name.to_owned())) }
    }
}
