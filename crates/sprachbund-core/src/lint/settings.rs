//! What a project decides about the rules.

use std::collections::BTreeMap;

use super::exceptions::Exception;
use super::rule::Rule;
use crate::diagnostic::{Diagnostic, Severity};

/// Severities, parameters and exceptions.
#[derive(Clone, Debug, Default)]
pub struct LintSettings {
    /// By rule, or by kind of messages of readers; `None` turns it off.
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

    /// Whether a rule, or a kind of messages of readers, is not turned off.
    pub fn is_on(&self, name: &str) -> bool {
        self.severities.get(name) != Some(&None)
    }

    /// A message of a reader as the project wants it; none where it turned that kind off.
    pub(super) fn graded(&self, said: &Diagnostic) -> Option<Diagnostic> {
        let severity = self.severities.get(said.code).copied().unwrap_or(Some(said.severity))?;
        Some(said.clone().graded(severity))
    }

    pub(super) fn parameter(&self, rule: &str, name: &str) -> Option<&Setting> {
        if self.parameters.is_empty() {
            None
        } else {
            self.parameters.get(&(rule.to_owned(), name.to_owned()))
        }
    }
}
