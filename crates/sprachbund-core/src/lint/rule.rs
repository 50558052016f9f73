//! A rule as data: its documentation, its examples, its check. `explain` and docs/rules/ show the
//! texts, tests run the examples.

use super::Context;
use super::examples::sql;
use crate::diagnostic::{Diagnostic, Severity, Subject};
use crate::schema::{Database, Entity, Field, Relation};

/// One rule.
#[derive(Clone, Copy)]
pub struct Rule {
    /// Names the fault.
    pub name: &'static str,
    /// Severity unless the configuration says otherwise.
    pub severity: Severity,
    /// What is found, in one line.
    pub finds: &'static str,
    /// What follows from it on a real database.
    pub consequence: &'static str,
    /// The consequence as SQL, with what the server answers in comments.
    pub sql: &'static str,
    /// How to mend it, and what the mending costs.
    pub cure: &'static str,
    /// When to turn it off.
    pub exception: &'static str,
    /// What a project may set.
    pub parameters: &'static [Parameter],
    /// Codes of what readers and `resolve` say, where the rule is about what no schema shows any
    /// more.
    pub raised: &'static [&'static str],
    /// Declarations in which it is found.
    pub wrong: Example,
    /// The same, mended.
    pub right: Example,
    /// Further inputs, each with the number of findings.
    pub cases: &'static [(usize, Example)],
    /// Whether it holds entities against each other; else it looks at each by itself, and large
    /// projects are linted by parts.
    pub whole: bool,
    pub check: fn(&Context<'_>, &mut Vec<Diagnostic>),
}

/// What most rules have in common: nothing to set, nothing raised, no further cases.
pub(super) const PLAIN: Rule = Rule {
    name: "",
    severity: Severity::Note,
    finds: "",
    consequence: "",
    sql: "",
    cure: "",
    exception: "",
    parameters: &[],
    raised: &[],
    wrong: sql(""),
    right: sql(""),
    cases: &[],
    whole: false,
    check: |_, _| {},
};

impl Rule {
    /// A finding about an element of an entity (a column, a relation, an index); empty for the
    /// entity itself.
    pub(super) fn finding(
        &self,
        entity: &Entity,
        element: impl Into<String>,
        message: impl Into<String>,
    ) -> Diagnostic {
        let subject = Subject { entity: entity.id.clone(), element: element.into() };
        Diagnostic { subject: Some(subject), ..Diagnostic::new(self.name, self.severity, message) }
    }

    /// A finding about a column.
    pub(super) fn of_column(
        &self,
        entity: &Entity,
        field: &Field,
        message: impl Into<String>,
    ) -> Diagnostic {
        self.finding(entity, format!("column {}", field.column), message)
    }

    /// A finding about a relation.
    pub(super) fn of_relation(
        &self,
        entity: &Entity,
        relation: &Relation,
        message: impl Into<String>,
    ) -> Diagnostic {
        let called = || relation.name.clone().or(relation.through.clone()).unwrap_or_default();
        let what = if relation.columns.is_empty() { called() } else { relation.columns.join(", ") };
        self.finding(entity, format!("relation {what}"), message)
    }

    /// The value that a parameter has by itself.
    pub fn parameter(&self, name: &str) -> Option<&'static Parameter> {
        self.parameters.iter().find(|parameter| parameter.name == name)
    }
}

/// Something of a rule that a project may set.
#[derive(Clone, Copy, Debug)]
pub struct Parameter {
    pub name: &'static str,
    /// What it decides, in one line.
    pub says: &'static str,
    pub value: Value,
}

/// What a parameter is when nothing is set.
#[derive(Clone, Copy, Debug)]
pub enum Value {
    Number(u32),
    Words(&'static [&'static str]),
}

/// Declarations in a dialect.
#[derive(Clone, Copy, Debug)]
pub struct Example {
    pub dialect: &'static str,
    pub database: Database,
    /// The dialect that they are to be carried to.
    pub to: Option<&'static str>,
    /// SQL of the tables that stand beside them.
    pub beside: Option<&'static str>,
    pub text: &'static str,
}

impl Example {
    pub(super) const fn new(dialect: &'static str, text: &'static str) -> Self {
        Example { dialect, database: Database::PostgreSql, to: None, beside: None, text }
    }

    /// The same on another server.
    pub(super) const fn on(self, database: Database) -> Self {
        Example { database, ..self }
    }

    /// The same with a dialect to carry it to.
    pub(super) const fn to(self, dialect: &'static str) -> Self {
        Example { to: Some(dialect), ..self }
    }

    /// The same with tables beside it.
    pub(super) const fn beside(self, script: &'static str) -> Self {
        Example { beside: Some(script), ..self }
    }

    /// What stands before its text in a file of its own.
    pub fn head(&self) -> &'static str {
        crate::dialects::by_id(self.dialect).map_or("", |dialect| dialect.details.example_head)
    }

    /// The language that it is written in, as fences of Markdown call it.
    pub fn language(&self) -> &'static str {
        crate::dialects::by_id(self.dialect).map_or("", |dialect| dialect.language.id)
    }
}
