//! Comments that a server runs as statements, from a release on: a dump is full of them.

use std::borrow::Cow;

use crate::server::{Backslash, ServerRelease};

/// A statement with what its server runs in comments laid open, and the rest of such comments
/// blanked out; every letter stays at its place.
pub(super) fn laid_open(text: &str, server: ServerRelease) -> Cow<'_, str> {
    let quotes = &server.server.quotes;
    if quotes.code_in_comments.is_empty() || memchr::memmem::find(text.as_bytes(), b"/*").is_none()
    {
        return Cow::Borrowed(text);
    }
    let mut out = String::with_capacity(text.len());
    let escapes = quotes.backslash == Backslash::Escape;
    let mut rest = text;
    while let Some(first) = rest.chars().next() {
        let length = match first {
            '\'' | '"' | '`' => quoted(rest, first, escapes && first != '`'),
            '/' if rest.starts_with("/*") => {
                let (body, comment) = match rest[2..].find("*/") {
                    Some(end) => (&rest[2..2 + end], end + 4),
                    None => (&rest[2..], rest.len()),
                };
                if body.starts_with(quotes.code_in_comments) {
                    let head = (quotes.runs_comment)(body, server.release);
                    let run = head.unwrap_or(body.len()) + 2;
                    blank(&rest[..run], &mut out);
                    out.push_str(&rest[run..2 + body.len()]);
                    blank(&rest[2 + body.len()..comment], &mut out);
                    rest = &rest[comment..];
                    continue;
                }
                comment
            }
            '-' if rest.starts_with("-- ") => rest.find('\n').unwrap_or(rest.len()),
            '#' => rest.find('\n').unwrap_or(rest.len()),
            other => other.len_utf8(),
        };
        out.push_str(&rest[..length]);
        rest = &rest[length..];
    }
    Cow::Owned(out)
}

/// Bytes of the text or name in quotes that begins here; all of it where it does not end.
fn quoted(text: &str, quote: char, escapes: bool) -> usize {
    let mut letters = text.char_indices().skip(1);
    while let Some((at, letter)) = letters.next() {
        match letter {
            '\\' if escapes => drop(letters.next()),
            // Doubled, it begins the next piece of the same text.
            letter if letter == quote => return at + 1,
            _ => {}
        }
    }
    text.len()
}

fn blank(text: &str, out: &mut String) {
    out.extend(text.chars().map(|letter| if letter == '\n' { '\n' } else { ' ' }));
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::schema::Database::{self, MariaDb, MySql, PostgreSql};

    #[test]
    fn what_is_run_is_laid_open_where_it_stands() {
        let in_release = |database: Database| database.server().in_release(None);
        for (text, database, open) in [
            ("a /*! b */ c", MySql, "a     b    c"),
            ("a /*!80016 b */ c", MySql, "a          b    c"),
            ("a /*!80016 b */ c", MariaDb, "a               c"),
            ("a /*M!100500 é */ c", MariaDb, "a            é    c"),
            ("a /*M!100500 é */ c", MySql, "a                 c"),
            ("a /* b */ c", MySql, "a /* b */ c"),
            ("'/*! b */' c", MySql, "'/*! b */' c"),
            ("'\\'/*! b */' c", MySql, "'\\'/*! b */' c"),
            ("`\\`/*! b */", MySql, "`\\`    b   "),
            ("-- /*! b */\n/*! c */", MySql, "-- /*! b */\n    c   "),
            ("# /*! b */", MySql, "# /*! b */"),
            ("a /*! b", MySql, "a     b"),
            ("/*!", MySql, "   "),
            ("a /*! b */ c", PostgreSql, "a /*! b */ c"),
        ] {
            assert_eq!(laid_open(text, in_release(database)), open, "{text} on {database:?}");
        }
    }
}
