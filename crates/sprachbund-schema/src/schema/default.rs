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
            // A number of more digits than a number keeps here; its column says what it is.
            None if plain_decimal(text.trim()).is_some() => Default_::Literal(text.trim().into()),
            _ => Default_::Expression(Box::new(expression)),
        }
    }
}

/// A decimal number without the zeros that say nothing: `7.50` is `7.5`, `-0.0` is `0`; `None` for
/// what is no decimal number, one with an exponent among them.
pub fn plain_decimal(text: &str) -> Option<String> {
    let (sign, digits) = match text.strip_prefix('-') {
        Some(digits) => ("-", digits),
        None => ("", text.strip_prefix('+').unwrap_or(text)),
    };
    let (whole, fraction) = digits.split_once('.').unwrap_or((digits, ""));
    let is_digits = |part: &str| part.bytes().all(|byte| byte.is_ascii_digit());
    if whole.is_empty() && fraction.is_empty() || !is_digits(whole) || !is_digits(fraction) {
        return None;
    }
    let (whole, fraction) = (whole.trim_start_matches('0'), fraction.trim_end_matches('0'));
    Some(match (whole, fraction) {
        ("", "") => "0".to_owned(),
        (whole, "") => format!("{sign}{whole}"),
        ("", fraction) => format!("{sign}0.{fraction}"),
        (whole, fraction) => format!("{sign}{whole}.{fraction}"),
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn decimals_lose_only_what_says_nothing() {
        for (text, expected) in [
            ("7.50", Some("7.5")),
            ("-007.0", Some("-7")),
            ("-0.00", Some("0")),
            (".5", Some("0.5")),
            ("100", Some("100")),
            ("12345678901234567890.123450", Some("12345678901234567890.12345")),
            ("+1", Some("1")),
            (".", None),
            ("1e3", None),
            ("1_000", None),
            ("", None),
        ] {
            assert_eq!(plain_decimal(text).as_deref(), expected, "{text}");
        }
    }

    #[test]
    fn a_number_with_more_digits_than_a_double_holds_stays_its_own_text() {
        for text in ["12345678901234567.89", "0.1234567890123456789"] {
            let read = Default_::parse_sql(text, Database::PostgreSql);
            assert_eq!(read, Default_::Literal(text.into()));
        }
        for (text, expected) in [("7.50", 7.5.into()), ("9223372036854775807", i64::MAX.into())] {
            let read = Default_::parse_sql(text, Database::PostgreSql);
            assert_eq!(read, Default_::Literal(expected));
        }
    }
}
