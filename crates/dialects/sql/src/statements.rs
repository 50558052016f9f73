//! Where statements of a script end, without parsing them: strings, comments, quoted names, dollar
//! quotes, bodies of routines, other delimiters, the commands of the servers' own clients.
//! [`sieve`] uses it to let go of data while a script is read.

use std::io::{self, BufRead};
use std::ops::Range;

use crate::schema::Database;

/// What a statement begins with when it only carries data.
const DATA: &[&str] =
    &["INSERT", "REPLACE", "UPDATE", "DELETE", "COPY", "VALUES", "SELECT", "WITH"];

/// Words that open and close a body inside which `;` ends nothing.
const ROUTINES: &[&str] = &["TRIGGER", "PROCEDURE", "FUNCTION", "EVENT", "PACKAGE"];

/// Words of a statement's head that are looked at.
const HEAD: usize = 12;

/// One statement, by its place in the text; its delimiter is not part of it.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(crate) struct Statement {
    pub(crate) bytes: Range<usize>,
    /// Its first words, in capital letters.
    pub(crate) head: Vec<String>,
}

impl Statement {
    /// Whether it only carries data.
    pub(crate) fn is_data(&self) -> bool {
        self.head.first().is_some_and(|word| DATA.contains(&word.as_str()))
    }
}

/// The statements of a text for a server, in order.
pub(crate) fn statements(text: &str, database: Option<Database>) -> Vec<Statement> {
    let mut lexer = Lexer { database, ..Lexer::default() };
    let mut found = Vec::new();
    let mut at = 0;
    for line in text.split_inclusive('\n') {
        lexer.line(line, at, &mut |statement| found.push(statement));
        at += line.len();
    }
    lexer.finish(at, &mut |statement| found.push(statement));
    found
}

/// Reads a script and leaves out its data: every line stays at its number, statements with data are
/// blank. Memory is that of what is kept and of the longest line. Nothing where more than `most`
/// bytes would be kept, or one line is longer than eight times that.
///
/// # Errors
/// What the reader reports, and text that is not UTF-8.
pub fn sieve(
    reader: impl BufRead,
    most: u64,
    database: Option<Database>,
) -> io::Result<Option<String>> {
    let longest = most.saturating_mul(8);
    let mut reader = reader.take(longest);
    let mut lexer = Lexer { database, ..Lexer::default() };
    let mut kept = String::new();
    let mut line = Vec::new();
    loop {
        line.clear();
        reader.set_limit(longest);
        if reader.read_until(b'\n', &mut line)? == 0 {
            return Ok(Some(kept));
        }
        if kept.len() as u64 > most || line.len() as u64 == longest {
            return Ok(None);
        }
        let text = std::str::from_utf8(&line)
            .map_err(|error| io::Error::new(io::ErrorKind::InvalidData, error))?;
        let body = text.trim_end_matches('\n').len();
        for part in without_data(&mut lexer, text) {
            kept.push_str(&text[part.start.min(body)..part.end.min(body)]);
        }
        kept.push_str(&text[body..]);
    }
}

/// The parts of a line that belong to no statement with data.
fn without_data(lexer: &mut Lexer, line: &str) -> Vec<Range<usize>> {
    // Places are counted from the line's start: a statement that began before starts at 0.
    lexer.start = lexer.start.map(|_| 0);
    let rows = lexer.inside == Inside::Rows;
    let mut data = Vec::new();
    lexer.line(line, 0, &mut |statement: Statement| {
        data.extend(statement.is_data().then_some(statement.bytes))
    });
    if rows {
        return Vec::new();
    }
    if lexer.in_data() {
        data.extend(lexer.start.map(|start| start..line.len()));
    }
    let mut kept = Vec::new();
    let mut from = 0;
    for part in data {
        kept.push(from..part.start);
        from = part.end;
    }
    kept.push(from..line.len());
    kept
}

/// What the lexer is inside of.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
enum Inside {
    #[default]
    Nothing,
    /// A string or quoted name, by the byte that ends it; whether a backslash escapes.
    Quoted(u8, bool),
    /// `$tag$`, by its tag.
    Dollar(String),
    /// Comments, by their depth.
    Comment(u32),
    /// Rows after `COPY ... FROM stdin;`, up to `\.`.
    Rows,
}

/// Goes through a script line by line.
#[derive(Debug)]
struct Lexer {
    inside: Inside,
    /// Where the statement starts; nothing was met of it yet when `None`.
    start: Option<usize>,
    head: Vec<String>,
    /// Open bodies of a routine.
    depth: u32,
    delimiter: String,
    /// The server that the text is for, where it is known or shows itself: it decides what a
    /// backslash is.
    database: Option<Database>,
}

impl Default for Lexer {
    fn default() -> Self {
        Lexer {
            inside: Inside::Nothing,
            start: None,
            head: Vec::new(),
            depth: 0,
            delimiter: ";".into(),
            database: None,
        }
    }
}

impl Lexer {
    /// Whether what comes next is data that nobody needs.
    fn in_data(&self) -> bool {
        self.inside == Inside::Rows
            || self.head.first().is_some_and(|word| DATA.contains(&word.as_str()))
    }

    /// Goes through one line, whose first byte is number `at`.
    fn line(&mut self, line: &str, at: usize, found: &mut impl FnMut(Statement)) {
        let bytes = line.as_bytes();
        self.database = self.database.or_else(|| server_of(line));
        if self.inside == Inside::Rows {
            if line.trim_end() == "\\." {
                self.inside = Inside::Nothing;
            }
            return;
        }
        if self.start.is_none() && self.inside == Inside::Nothing && self.client_command(line) {
            return;
        }
        let mut here = 0;
        while here < bytes.len() {
            here = match &mut self.inside {
                Inside::Nothing => self.plain(line, here, at, found),
                Inside::Quoted(end, escapes) => {
                    let (end, escapes) = (*end, *escapes);
                    match bytes[here] {
                        b'\\' if escapes => here + 2,
                        // Doubled, it is one of the text, which goes on as it began.
                        byte if byte == end && bytes.get(here + 1) == Some(&end) => here + 2,
                        byte if byte == end => {
                            self.inside = Inside::Nothing;
                            here + 1
                        }
                        _ => here + 1,
                    }
                }
                Inside::Dollar(tag) => {
                    let tag = tag.clone();
                    match line[here..].find(&tag) {
                        Some(end) => {
                            self.inside = Inside::Nothing;
                            here + end + tag.len()
                        }
                        None => bytes.len(),
                    }
                }
                Inside::Comment(depth) => match &bytes[here..] {
                    [b'*', b'/', ..] => {
                        *depth -= 1;
                        if *depth == 0 {
                            self.inside = Inside::Nothing;
                        }
                        here + 2
                    }
                    [b'/', b'*', ..] => {
                        *depth += 1;
                        here + 2
                    }
                    _ => here + 1,
                },
                Inside::Rows => bytes.len(),
            };
            if self.inside == Inside::Rows {
                return;
            }
        }
    }

    /// A step outside strings and comments; returns where the next one starts.
    fn plain(
        &mut self,
        line: &str,
        here: usize,
        at: usize,
        found: &mut impl FnMut(Statement),
    ) -> usize {
        let bytes = line.as_bytes();
        let rest = &bytes[here..];
        if self.depth == 0 && line[here..].starts_with(&self.delimiter) {
            self.end(at + here, found);
            return here + self.delimiter.len();
        }
        match rest {
            [b'-', b'-', ..] => return bytes.len(),
            [b'#', ..] if self.start.is_none() => return bytes.len(),
            [b'/', b'*', b'!', ..] => {}
            [b'/', b'*', ..] => {
                self.inside = Inside::Comment(1);
                return here + 2;
            }
            [space, ..] if space.is_ascii_whitespace() => return here + 1,
            _ => {}
        }
        self.start.get_or_insert(at + here);
        match rest[0] {
            quote @ (b'\'' | b'"' | b'`') => {
                // A backslash escapes in MySQL's strings and in PostgreSQL's `E''`; elsewhere it is
                // a letter. Where nobody knows the server, the last one before a quote is taken as
                // such.
                let before = here.checked_sub(1).map(|before| bytes[before]);
                let escapes = match self.database {
                    Some(Database::MySql | Database::MariaDb) => quote != b'`',
                    Some(Database::Sqlite | Database::MongoDb) => false,
                    Some(Database::PostgreSql) => {
                        quote == b'\'' && matches!(before, Some(b'E' | b'e'))
                    }
                    None => {
                        quote == b'\''
                            && (matches!(before, Some(b'E' | b'e'))
                                || has_escaped_quote(&line[here + 1..]))
                    }
                };
                self.inside = Inside::Quoted(quote, escapes);
                here + 1
            }
            b'$' => match dollar_tag(&line[here..]) {
                Some(tag) => {
                    let after = here + tag.len();
                    self.inside = Inside::Dollar(tag);
                    after
                }
                None => here + 1,
            },
            byte if byte.is_ascii_alphabetic() || byte == b'_' => {
                let length = rest
                    .iter()
                    .take_while(|byte| byte.is_ascii_alphanumeric() || matches!(byte, b'_' | b'$'))
                    .count();
                self.word(&line[here..here + length]);
                here + length
            }
            _ => here + line[here..].chars().next().map_or(1, char::len_utf8),
        }
    }

    fn word(&mut self, word: &str) {
        let word = word.to_ascii_uppercase();
        let routine = self.head.first().is_some_and(|first| first == "CREATE")
            && self.head.iter().any(|known| ROUTINES.contains(&known.as_str()));
        if routine && self.delimiter == ";" {
            match word.as_str() {
                "BEGIN" => self.depth += 1,
                "CASE" if self.depth > 0 => self.depth += 1,
                "END" => self.depth = self.depth.saturating_sub(1),
                _ => {}
            }
        }
        if self.head.len() < HEAD {
            self.head.push(word);
        }
    }

    fn end(&mut self, at: usize, found: &mut impl FnMut(Statement)) {
        let head = std::mem::take(&mut self.head);
        let copies = head.first().is_some_and(|word| word == "COPY")
            && head.iter().any(|word| word == "STDIN");
        if let Some(start) = self.start.take() {
            found(Statement { bytes: start..at, head });
        }
        self.depth = 0;
        if copies {
            self.inside = Inside::Rows;
        }
    }

    /// What stands after the last delimiter is a statement too.
    fn finish(&mut self, at: usize, found: &mut impl FnMut(Statement)) {
        self.end(at, found);
    }

    /// Lines that the servers' own clients take for themselves.
    fn client_command(&mut self, line: &str) -> bool {
        let trimmed = line.trim();
        let mut words = trimmed.split_whitespace();
        let first = words.next().unwrap_or_default();
        if first.eq_ignore_ascii_case("delimiter") {
            self.delimiter = words.next().unwrap_or(";").to_owned();
            return true;
        }
        trimmed.starts_with('\\')
            || (trimmed.starts_with('.')
                && trimmed[1..].starts_with(|letter: char| letter.is_ascii_lowercase()))
    }
}

/// The server whose own dump a line begins.
fn server_of(line: &str) -> Option<Database> {
    const HEADS: &[(&str, Database)] = &[
        ("-- PostgreSQL database dump", Database::PostgreSql),
        ("-- MySQL dump", Database::MySql),
        ("-- MariaDB dump", Database::MariaDb),
        ("/*M!999999", Database::MariaDb),
        ("PRAGMA ", Database::Sqlite),
        ("SET SESSION sql_mode", Database::MySql),
    ];
    HEADS.iter().find(|(head, _)| line.starts_with(head)).map(|(_, database)| *database)
}

/// Whether a string that starts here goes on after `\'`: then the quote was escaped.
fn has_escaped_quote(rest: &str) -> bool {
    let Some(at) = rest.find('\'') else { return false };
    let backslashes = rest[..at].bytes().rev().take_while(|byte| *byte == b'\\').count();
    let after = rest[at + 1..].trim_start();
    backslashes % 2 == 1 && !after.starts_with([',', ')', ';']) && !after.is_empty()
}

/// `$tag$` at the start of the text.
fn dollar_tag(text: &str) -> Option<String> {
    let end = text[1..].find('$')? + 1;
    let tag = &text[1..end];
    let plain = tag.chars().all(|letter| letter.is_alphanumeric() || letter == '_')
        && !tag.starts_with(|letter: char| letter.is_ascii_digit());
    plain.then(|| text[..=end].to_owned())
}

#[cfg(test)]
mod tests {
    use std::io::Read;

    use super::*;

    fn texts(script: &str) -> Vec<&str> {
        statements(script, None)
            .into_iter()
            .map(|statement| script[statement.bytes].trim())
            .collect()
    }

    #[test]
    fn a_delimiter_counts_only_where_it_ends_something() {
        for (script, expected) in [
            ("a; b;", &["a", "b"][..]),
            ("a\n", &["a"]),
            (";;", &[]),
            ("a ';' b; c", &["a ';' b", "c"]),
            ("a 'it''s;' b; c", &["a 'it''s;' b", "c"]),
            ("a \"x;y\" `u;v`; c", &["a \"x;y\" `u;v`", "c"]),
            ("a -- no; end\nb; c", &["a -- no; end\nb", "c"]),
            ("# no; end\nb;", &["b"]),
            ("a /* no; /* deep; */ end; */ b; c", &["a /* no; /* deep; */ end; */ b", "c"]),
            ("/*!40101 SET x = 1 */; c;", &["/*!40101 SET x = 1 */", "c"]),
            ("a $$ x; y $$; b", &["a $$ x; y $$", "b"]),
            ("a $t$ x; $$ y $t$; b", &["a $t$ x; $$ y $t$", "b"]),
            ("a E'it\\'s; b'; c", &["a E'it\\'s; b'", "c"]),
            ("a 'C:\\'; c", &["a 'C:\\'", "c"]),
            (
                "CREATE TRIGGER t BEGIN a; CASE x END; END; c",
                &["CREATE TRIGGER t BEGIN a; CASE x END; END", "c"],
            ),
            (
                "DELIMITER $$\nCREATE PROCEDURE p() BEGIN a; END $$\nDELIMITER ;\nc;",
                &["CREATE PROCEDURE p() BEGIN a; END", "c"],
            ),
            ("\\connect harbour\na;", &["a"]),
            ("COPY quays FROM stdin;\n1\tx;y\n\\.\nb;", &["COPY quays FROM stdin", "b"]),
            ("CREATE TABLE \"länge;\" (x); c", &["CREATE TABLE \"länge;\" (x)", "c"]),
        ] {
            assert_eq!(texts(script), expected, "{script}");
        }
    }

    /// A line, again and again.
    struct Repeated {
        row: Vec<u8>,
        left: usize,
        at: usize,
    }

    impl Read for Repeated {
        fn read(&mut self, into: &mut [u8]) -> io::Result<usize> {
            if self.at == self.row.len() {
                (self.at, self.left) = (0, self.left.saturating_sub(1));
            }
            if self.left == 0 {
                return Ok(0);
            }
            let read = (&self.row[self.at..]).read(into)?;
            self.at += read;
            Ok(read)
        }
    }

    #[test]
    fn a_hundred_megabytes_of_data_leave_their_line_ends() {
        // Made as it is read: nobody holds it.
        let row = format!("INSERT INTO calls VALUES (1, '{}');\n", "x; -- '' ".repeat(20_000));
        let rows = 100_000_000 / row.len();
        let data = Repeated { row: row.into_bytes(), left: rows, at: 0 };
        let kept = sieve(
            std::io::BufReader::new(data.chain(&b"CREATE TABLE q (id int);\n"[..])),
            1 << 20,
            None,
        )
        .expect("text")
        .expect("little");
        assert_eq!(kept.trim_matches([';', '\n']), "CREATE TABLE q (id int)");
        assert_eq!(kept.lines().count(), rows + 1);
    }

    #[test]
    fn the_server_says_what_a_backslash_is() {
        use Database::{MariaDb, MySql, PostgreSql, Sqlite};
        for (script, database, expected) in [
            ("a 'rope\\'; b;", PostgreSql, &["a 'rope\\'", "b"][..]),
            ("a 'rope\\''s; end' x; b;", PostgreSql, &["a 'rope\\''s; end' x", "b"]),
            ("a E'rope\\'s; end'; b;", PostgreSql, &["a E'rope\\'s; end'", "b"]),
            ("a E'it''s \\'; end'; b;", PostgreSql, &["a E'it''s \\'; end'", "b"]),
            ("a '' ';' ''; b;", PostgreSql, &["a '' ';' ''", "b"]),
            ("a '\\');'; b;", MariaDb, &["a '\\');'", "b"]),
            ("a \"x\\\";y\"; b;", MySql, &["a \"x\\\";y\"", "b"]),
            ("a `x\\`; b;", MySql, &["a `x\\`", "b"]),
            ("a 'rope\\'; b;", Sqlite, &["a 'rope\\'", "b"]),
        ] {
            let found: Vec<&str> = statements(script, Some(database))
                .into_iter()
                .map(|one| script[one.bytes].trim())
                .collect();
            assert_eq!(found, expected, "{script} on {database:?}");
        }
        assert_eq!(texts("-- MySQL dump 10.13\na '\\');'; b;"), ["a '\\');'", "b"]);
    }

    #[test]
    fn what_is_too_large_is_given_up() {
        for (script, most, kept) in [
            ("CREATE TABLE a (x);\n", 40, true),
            (&"CREATE TABLE a (x);\n".repeat(4), 40, false),
            (&"INSERT INTO a VALUES (1);\n".repeat(4), 40, true),
            (&format!("INSERT INTO a VALUES ({});\n", "1, ".repeat(200)), 40, false),
        ] {
            assert_eq!(
                sieve(script.as_bytes(), most, None).expect("readable").is_some(),
                kept,
                "{script}"
            );
        }
    }

    #[test]
    fn data_is_left_out_and_lines_keep_their_numbers() {
        for (script, expected) in [
            (
                "CREATE TABLE a (x);\nINSERT INTO a VALUES\n(1),\n(2);\nCREATE TABLE b (y);\n",
                "CREATE TABLE a (x);\n\n\n;\nCREATE TABLE b (y);\n",
            ),
            ("COPY a FROM stdin;\n1\n2\n\\.\nCREATE TABLE b (y);", ";\n\n\n\nCREATE TABLE b (y);"),
            ("INSERT INTO a VALUES ('x;\ny'); CREATE TABLE b (y);", "\n; CREATE TABLE b (y);"),
        ] {
            let kept = sieve(script.as_bytes(), 1 << 20, None).expect("readable").expect("little");
            assert_eq!(kept.matches('\n').count(), script.matches('\n').count(), "{kept}");
            let tables = |text: &str| {
                statements(text, None).into_iter().filter(|one| one.head[0] == "CREATE").count()
            };
            assert_eq!(tables(&kept), tables(script), "{kept}");
            assert_eq!(kept, expected);
        }
    }
}
