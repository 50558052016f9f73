//! Names and texts of SQL, for each server.
//!
//! Quotes are doubled on every server. What differs is the backslash: PostgreSQL and SQLite take it
//! as a letter, MariaDB and MySQL as an escape, and the first two of these three have a mode for
//! the other way (`standard_conforming_strings`, `NO_BACKSLASH_ESCAPES`). What is written here ends
//! where it should in every mode; see [`settled`] for what it then means.

use std::borrow::Cow;

use serde_json::Value;

use crate::schema::Database;
use crate::server::{Backslash, Quotes};

/// A table, a column or another named thing.
pub fn name(name: &str, database: Database) -> String {
    quoted_name(name, database.server().quotes.name)
}

fn quoted_name(name: &str, quote: char) -> String {
    format!("{quote}{}{quote}", name.replace(quote, &format!("{quote}{quote}")))
}

/// A name as the standard has it.
pub fn standard_name(name: &str) -> String {
    quoted_name(name, '"')
}

/// A text.
pub fn text(content: &str, database: Database) -> String {
    match database.server().quotes.backslash {
        Backslash::Escape => standard_text(&content.replace('\\', "\\\\").replace('\0', "\\0")),
        // The form with E means the same whether or not backslashes escape in the other one.
        Backslash::EscapeWithPrefix if content.contains('\\') => {
            format!("E{}", standard_text(&content.replace('\\', "\\\\")))
        }
        Backslash::EscapeWithPrefix | Backslash::Letter => standard_text(content),
    }
}

/// A text as the standard has it.
fn standard_text(content: &str) -> String {
    format!("'{}'", content.replace('\'', "''"))
}

/// A constant; lists and maps as JSON text.
pub fn literal(value: &Value, database: Database) -> String {
    constant(value, |content| text(content, database))
}

/// A constant as the standard has it.
pub fn standard_literal(value: &Value) -> String {
    constant(value, standard_text)
}

fn constant(value: &Value, text: impl Fn(&str) -> String) -> String {
    match value {
        Value::Null => "NULL".to_owned(),
        Value::Bool(true) => "TRUE".to_owned(),
        Value::Bool(false) => "FALSE".to_owned(),
        Value::Number(number) => number.to_string(),
        Value::String(content) => text(content),
        other => text(&other.to_string()),
    }
}

/// Whether a text is a name, or several with dots between them, as SQL takes them: plain words, or
/// names in quotes.
pub fn is_path(text: &str) -> bool {
    let mut rest = text;
    loop {
        let length = match rest.chars().next() {
            Some(quote @ ('"' | '`')) => quoted(rest, quote, false).unwrap_or(0),
            _ => rest
                .find(|letter: char| !(letter.is_alphanumeric() || matches!(letter, '_' | '$')))
                .unwrap_or(rest.len()),
        };
        rest = &rest[length..];
        match (length, rest.strip_prefix('.')) {
            (0, _) => return false,
            (_, Some(next)) => rest = next,
            (_, None) => return rest.is_empty(),
        }
    }
}

/// The name of a function, an operator class or an access method, which may be qualified already;
/// anything else is taken for one name.
pub fn path(text: &str, database: Option<Database>) -> Cow<'_, str> {
    match (is_path(text), database) {
        (true, _) => Cow::Borrowed(text),
        (false, Some(database)) => Cow::Owned(name(text, database)),
        (false, None) => Cow::Owned(standard_name(text)),
    }
}

/// A type as a server spells it, with its parameters; what would not end where a type ends is taken
/// for a name.
pub fn type_name(text: &str, database: Database) -> Cow<'_, str> {
    let mut depth = 0i32;
    let mut inside = None;
    let lists = text.chars().any(|letter| {
        match (inside, letter) {
            (Some(quote), letter) if quote == letter => inside = None,
            (Some(_), _) => {}
            (None, '\'' | '"' | '`') => inside = Some(letter),
            (None, '(') => depth += 1,
            (None, ')') => depth -= 1,
            (None, ',') => return depth == 0,
            (None, _) => {}
        }
        false
    });
    let ends = !database.server().quotes.type_ends_with_parameters
        || text.find(')').is_none_or(|at| at + 1 == text.len());
    if ends && !lists && !text.trim().is_empty() && is_whole(text, database) {
        Cow::Borrowed(text)
    } else {
        Cow::Owned(name(text, database))
    }
}

/// A script with the modes that its texts are written for: with the statement before it without
/// which a server that takes backslashes as letters would store two of them for each. In that mode
/// MySQL does not take a quote in the text of a check either (seen on 9.7: it reads its own
/// spelling of the check again, which has a backslash).
pub fn settled(script: String, database: Database) -> String {
    match database.server().quotes.mode {
        Some(mode) if script.contains('\\') || script.contains("''") => mode.to_owned() + &script,
        _ => script,
    }
}

/// Whether a text is SQL that ends where it ends: no bracket, quote or comment reaches out of it,
/// no `;` begins another statement. Only such a text may stand inside a statement. Where a server
/// has modes, it must be so in each of them.
pub fn is_whole(sql: &str, database: Database) -> bool {
    let quotes = &database.server().quotes;
    let ways: &[bool] =
        if quotes.backslash == Backslash::Letter { &[false] } else { &[false, true] };
    ways.iter().all(|escapes| ends_inside(sql, quotes, *escapes))
}

fn ends_inside(sql: &str, quotes: &Quotes, escapes: bool) -> bool {
    let mut open: Vec<char> = Vec::new();
    let mut rest = sql;
    let mut before = ' ';
    while let Some(letter) = rest.chars().next() {
        let length = match letter {
            '\'' | '"' | '`' => {
                let escaped = match quotes.backslash {
                    Backslash::Escape => escapes && letter != quotes.name,
                    // A prefix decides it for the one text.
                    Backslash::EscapeWithPrefix => {
                        letter == '\'' && (escapes || matches!(before, 'e' | 'E'))
                    }
                    Backslash::Letter => false,
                };
                quoted(rest, letter, escaped)
            }
            '$' if quotes.dollars && !before.is_alphanumeric() && before != '_' => {
                dollar_quoted(rest)
            }
            '-' if rest.starts_with("--") => rest.find('\n'),
            '#' if quotes.hash_comments => rest.find('\n'),
            '/' if rest.starts_with("/*") => comment(rest, quotes),
            ';' => None,
            '(' | '[' => {
                open.push(letter);
                Some(1)
            }
            ')' | ']' => (open.pop() == Some(if letter == ')' { '(' } else { '[' })).then_some(1),
            other => Some(other.len_utf8()),
        };
        let Some(length) = length else { return false };
        before = letter;
        rest = &rest[length..];
    }
    open.is_empty()
}

/// Bytes of the quoted thing that a text begins with, if it ends.
fn quoted(text: &str, quote: char, escapes: bool) -> Option<usize> {
    let mut letters = text.char_indices().skip(1).peekable();
    while let Some((at, letter)) = letters.next() {
        if letter == '\\' && escapes {
            letters.next()?;
        } else if letter == quote {
            match letters.peek() {
                Some((_, next)) if *next == quote => drop(letters.next()),
                _ => return Some(at + 1),
            }
        }
    }
    None
}

/// Bytes of `$tag$ ... $tag$`; a single `$` otherwise.
fn dollar_quoted(text: &str) -> Option<usize> {
    let end = text[1..]
        .find(|letter: char| !(letter.is_alphanumeric() || letter == '_'))
        .map(|at| at + 1);
    match end.filter(|end| {
        text[*end..].starts_with('$')
            && !text[1..].starts_with(|first: char| first.is_ascii_digit())
    }) {
        None => Some(1),
        Some(end) => {
            let tag = &text[..=end];
            text[tag.len()..].find(tag).map(|at| at + 2 * tag.len())
        }
    }
}

/// Bytes of the comment that a text begins with, if it ends. One with `!` is code on some servers,
/// and comments nest on PostgreSQL.
fn comment(text: &str, quotes: &Quotes) -> Option<usize> {
    let inner = text[2..].find("*/").map(|at| at + 4)?;
    let is_code = text[2..].starts_with(quotes.code_in_comments);
    (!is_code && !text[2..inner - 2].contains("/*")).then_some(inner)
}

#[cfg(test)]
mod tests {
    use Database::{MariaDb, MySql, PostgreSql, Sqlite};

    use super::*;

    #[test]
    fn texts_of_each_server() {
        for (content, database, written) in [
            ("quay", PostgreSql, "'quay'"),
            ("it's", PostgreSql, "'it''s'"),
            ("C:\\", PostgreSql, "E'C:\\\\'"),
            ("\\'", PostgreSql, "E'\\\\'''"),
            ("C:\\", Sqlite, "'C:\\'"),
            ("C:\\", MySql, "'C:\\\\'"),
            ("\\'); DROP TABLE invoices; -- ", MariaDb, "'\\\\''); DROP TABLE invoices; -- '"),
        ] {
            assert_eq!(text(content, database), written, "{content} on {database:?}");
        }
    }

    #[test]
    fn names_of_each_server() {
        for (given, database, written) in [
            ("berths", PostgreSql, "\"berths\""),
            ("a\"b", Sqlite, "\"a\"\"b\""),
            ("a`b\\", MySql, "`a``b\\`"),
            ("a\\", PostgreSql, "\"a\\\""),
        ] {
            assert_eq!(name(given, database), written);
        }
    }

    #[test]
    fn names_that_are_qualified_already() {
        for (text, path) in [
            ("lower", true),
            ("public.gin_trgm_ops", true),
            ("\"Public\".\"a\"\"b\"", true),
            ("`a b`.c", true),
            ("a b", false),
            ("a); DROP TABLE b; --", false),
            ("", false),
            (".a", false),
            ("\"a", false),
        ] {
            assert_eq!(is_path(text), path, "{text}");
        }
        assert_eq!(super::path("a b", Some(PostgreSql)), "\"a b\"");
    }

    #[test]
    fn types_stay_types() {
        for (text, written) in [
            ("numeric(10, 2)", "numeric(10, 2)"),
            ("geometry(Point,4326)", "geometry(Point,4326)"),
            ("enum('a,b','c')", "enum('a,b','c')"),
            ("int, x int", "\"int, x int\""),
            ("int); DROP TABLE b; --", "\"int); DROP TABLE b; --\""),
            ("", "\"\""),
        ] {
            assert_eq!(type_name(text, PostgreSql), written);
        }
        assert_eq!(type_name("varchar(20) array", Sqlite), "\"varchar(20) array\"");
        assert_eq!(type_name("unsigned big int", Sqlite), "unsigned big int");
    }

    #[test]
    fn only_whole_expressions_may_stand_inside_a_statement() {
        for (sql, database, whole) in [
            ("depth > 0", PostgreSql, true),
            ("depth > (0", PostgreSql, false),
            ("depth > 0) OR (1 = 1", PostgreSql, false),
            ("depth > 0; DROP TABLE invoices", PostgreSql, false),
            ("note <> ';)'", PostgreSql, true),
            ("note <> 'a", PostgreSql, false),
            ("note <> $$ ; ) $$", PostgreSql, true),
            ("note <> $q$ ; ) $$", PostgreSql, false),
            ("a[1] = 2", PostgreSql, true),
            ("a[1) = 2", PostgreSql, false),
            ("depth > 0 -- why", PostgreSql, false),
            ("depth > 0 -- why\n", PostgreSql, true),
            ("depth > 0 # why", MySql, false),
            ("depth # 3", PostgreSql, true),
            ("depth /* why */ > 0", PostgreSql, true),
            ("depth /* why > 0", PostgreSql, false),
            ("depth /* a /* b */ > 0", PostgreSql, false),
            ("depth /*! ) */ > 0", MariaDb, false),
            // Where one mode ends the text and the other does not, it may stand nowhere.
            ("note <> 'C:\\'", MySql, false),
            ("note <> 'C:\\\\'", MySql, true),
            ("note <> 'C:\\'", Sqlite, true),
            ("note <> E'C:\\''", PostgreSql, true),
            ("`a)b` > 0", MySql, true),
            ("\"a)b\" > 0", Sqlite, true),
        ] {
            assert_eq!(is_whole(sql, database), whole, "{sql} on {database:?}");
        }
    }

    #[test]
    fn a_script_with_backslashes_says_what_they_mean() {
        assert!(settled("'C:\\\\'".into(), MySql).starts_with("SET SESSION sql_mode"));
        assert_eq!(settled("'C:\\'".into(), PostgreSql), "'C:\\'");
        assert_eq!(settled("'quay'".into(), MariaDb), "'quay'");
    }
}
