//! SQL texts of defaults, read.

use super::expression::Tree;
use super::{Database, Default_, Expression, Function};

/// Texts, in small letters, of the functions that every dialect has.
const FUNCTIONS: &[(&str, Function)] = &[
    ("now()", Function::Now),
    ("current_timestamp", Function::Now),
    ("current_timestamp()", Function::Now),
    ("datetime('now')", Function::Now),
    ("statement_timestamp()", Function::StatementNow),
    ("strftime('%y-%m-%d %h:%m:%f', 'now')", Function::StatementNow),
    ("current_date", Function::Today),
    ("'now'::text::date", Function::Today),
    ("('now'::text)::date", Function::Today),
    ("cast('now' as date)", Function::Today),
    ("gen_random_uuid()", Function::RandomUuid),
    ("uuid_generate_v4()", Function::RandomUuid),
    ("uuid()", Function::RandomUuid),
];

impl Default_ {
    /// Code of a host language that the application runs, as its author wrote it.
    pub fn host(language: &str, text: impl Into<String>) -> Self {
        Default_::Expression(Box::new(Expression::host(language, text)))
    }

    /// The function that every dialect has under this SQL text.
    pub fn function(text: &str) -> Option<Function> {
        let folded = text.trim().to_lowercase();
        // Where an extension was installed says nothing of what its function does.
        let folded = folded.strip_prefix("public.").map_or(folded.clone(), str::to_owned);
        let folded =
            folded.strip_prefix('(').and_then(|text| text.strip_suffix(')')).unwrap_or(&folded);
        let digits = |rest: &str| {
            rest.strip_suffix(')')
                .is_some_and(|digits| digits.bytes().all(|digit| digit.is_ascii_digit()))
        };
        if folded
            .strip_prefix("current_timestamp(")
            .or_else(|| folded.strip_prefix("now("))
            .is_some_and(digits)
        {
            return Some(Function::Now);
        }
        FUNCTIONS.iter().find(|(known, _)| *known == folded).map(|(_, function)| *function)
    }

    /// The default that an SQL text of this server gives: a function that every dialect has, a
    /// constant, or an expression.
    pub fn parse_sql(text: &str, database: Database) -> Self {
        if let Some(function) = Self::function(text) {
            return Default_::Function(function);
        }
        let expression = Expression::parse_sql_of(text, database);
        match expression.tree {
            Some(Tree::Literal(value)) => Default_::Literal(value),
            _ => Default_::Expression(Box::new(expression)),
        }
    }
}
