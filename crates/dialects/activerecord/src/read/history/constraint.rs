//! Checks, exclusions and unique constraints.

use super::super::run::{Arguments, Run, Value};
use super::reference::addressed;
use super::reference::deferred;
use super::{Steps, written};
use crate::declaration::{CheckDeclaration, UniqueDeclaration};
use crate::names;
use crate::schema::Expression;
use crate::source::Span;

impl<'p> Steps<'_, 'p> {
    pub(super) fn check(
        &mut self,
        run: &mut Run<'_, 'p>,
        table: &str,
        options: &mut Arguments<'p>,
        span: Span,
    ) -> Option<CheckDeclaration> {
        let text = self.first_sql(run, options, "what it checks is not known", span)?;
        let name = options.take("name").and_then(|name| name.as_text()).map(String::from);
        options.take("validate");
        Some(CheckDeclaration {
            name: Some(name.unwrap_or_else(|| self.give(table, names::check(table, &text)))),
            expression: written(&text),
            extras: Default::default(),
            span: Some(span),
        })
    }

    /// An exclusion constraint, which PostgreSQL has: all of it as the server would say it.
    pub(super) fn exclusion(
        &mut self,
        run: &mut Run<'_, 'p>,
        table: &str,
        options: &mut Arguments<'p>,
        span: Span,
    ) -> Option<CheckDeclaration> {
        let text = self.first_sql(run, options, "what it excludes is not known", span)?;
        let name = options.take("name").and_then(|name| name.as_text()).map(String::from);
        let using = options.take("using").and_then(|using| using.as_text());
        let condition = options.take("where").and_then(|text| self.sql_of(run, &text));
        let deferrable = options.take("deferrable").and_then(|said| deferred(&said));
        let mut whole = String::new();
        if let Some(using) = using {
            whole.push_str(&format!("USING {using} "));
        }
        whole.push_str(&format!("({text})"));
        if let Some(condition) = condition {
            whole.push_str(&format!(" WHERE ({condition})"));
        }
        if let Some(deferrable) = deferrable {
            whole.push_str(match deferrable {
                crate::schema::Deferrable::InitiallyDeferred => " DEFERRABLE INITIALLY DEFERRED",
                crate::schema::Deferrable::InitiallyImmediate => " DEFERRABLE INITIALLY IMMEDIATE",
            });
        }
        Some(CheckDeclaration {
            name: Some(name.unwrap_or_else(|| self.give(table, names::exclusion(table, &text)))),
            expression: Expression::parse_sql(&whole),
            extras: Default::default(),
            span: Some(span),
        })
    }

    /// The SQL that a constraint begins with; where it is not known, that is said.
    fn first_sql(
        &mut self,
        run: &mut Run<'_, 'p>,
        options: &Arguments<'p>,
        unknown: &str,
        span: Span,
    ) -> Option<String> {
        let text = options.first().cloned().and_then(|text| self.sql_of(run, &text));
        if text.is_none() {
            self.unread(span, unknown);
        }
        text
    }

    /// Remembers a name that the framework gives.
    fn give(&mut self, table: &str, name: String) -> String {
        self.given.insert((addressed(table), name.clone()));
        name
    }

    /// A unique constraint of PostgreSQL.
    pub(super) fn unique(
        &mut self,
        table: &str,
        options: &mut Arguments<'p>,
        span: Span,
    ) -> Option<UniqueDeclaration> {
        let columns = options.first().and_then(Value::as_texts);
        let index = options.take("using_index").and_then(|index| index.as_text());
        let over = match (&columns, &index) {
            (Some(columns), _) => columns.clone(),
            (None, Some(index)) => {
                let entity = self.made(&super::reference::addressed(table))?;
                let known = super::index::indexes(entity);
                known.into_iter().find(|(name, _)| *name == index.as_str())?.1
            }
            (None, None) => {
                self.unread(span, "its columns are not known");
                return None;
            }
        };
        let name = options.take("name").and_then(|name| name.as_text()).map(String::from);
        let named =
            columns.unwrap_or_else(|| index.iter().map(|index| index.to_string()).collect());
        let named: Vec<&str> = named.iter().map(String::as_str).collect();
        let distinct = options.take("nulls_not_distinct").and_then(|said| said.holds());
        Some(UniqueDeclaration {
            attributes: over,
            name: Some(name.unwrap_or_else(|| names::unique(table, &named))),
            deferrable: options.take("deferrable").and_then(|said| deferred(&said)),
            nulls_not_distinct: distinct == Some(true) && self.since(8, 0),
            extras: Default::default(),
            span: Some(span),
        })
    }
}
