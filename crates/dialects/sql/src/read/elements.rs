//! What stands in `CREATE TABLE` and the parser does not know, taken out before it reads the rest:
//! else the whole table would be lost. What is taken out is named where it matters to tables.

use sqlparser::tokenizer::{Span, Token, TokenWithSpan};

/// Words that begin what is taken out, somewhere in such a statement.
const MARKS: &[&str] = &[
    "INVISIBLE",
    "VISIBLE",
    "IGNORED",
    "PERSISTENT",
    "REF_SYSTEM_ID",
    "COMPRESSED",
    "COMPRESSION",
    "STORAGE",
    "VERSIONING",
    "PERIOD",
    "VECTOR",
    "PARTITION",
    "OVERLAPS",
    "VALID",
    "INHERIT",
    "ROW",
    "NOT",
    "SET",
];

/// What is left out as a whole.
pub(super) const FOREIGN_KEY_OF_PERIODS: &str = "a foreign key of periods";

/// Words inside an element, what is made of them, and what is said of it. `#` stands for any one
/// token.
const INSIDE: &[(&[&str], Option<&str>, Option<&str>)] = &[
    (&["PERSISTENT"], Some("STORED"), None),
    (&["REF_SYSTEM_ID", "=", "#"], None, Some("the system of reference of a place")),
    (&["COMPRESSED", "=", "#"], None, None),
    (&["COMPRESSED"], None, None),
    (&["COMPRESSION", "PGLZ"], None, None),
    (&["COMPRESSION", "LZ4"], None, None),
    (&["STORAGE", "PLAIN"], None, None),
    (&["STORAGE", "EXTERNAL"], None, None),
    (&["STORAGE", "EXTENDED"], None, None),
    (&["STORAGE", "MAIN"], None, None),
    (&["WITH", "SYSTEM", "VERSIONING"], None, None),
    (&["WITHOUT", "SYSTEM", "VERSIONING"], None, None),
    (&["NOT", "VALID"], None, Some("that older rows were not held against a constraint")),
    (&["NO", "INHERIT"], None, None),
    (
        &["GENERATED", "ALWAYS", "AS", "ROW", "START"],
        None,
        Some("that the server writes into a column when a row began"),
    ),
    (
        &["GENERATED", "ALWAYS", "AS", "ROW", "END"],
        None,
        Some("that the server writes into a column when a row ended"),
    ),
];

/// Words before a name, which may be any word.
const BEFORE_NAMES: &[&str] = &["CONSTRAINT", "REFERENCES", "KEY", "INDEX", "COLLATE", "UNIQUE"];

/// Words behind the parts of an index.
const BEHIND_INDEX: &[(&[&str], Option<&str>)] = &[
    (&["INVISIBLE"], Some("that queries do without an index")),
    (&["IGNORED"], Some("that queries do without an index")),
    (&["NOT", "IGNORED"], None),
    (&["VISIBLE"], None),
];

/// Words behind the columns of a table, up to its end or the next of them.
const BEHIND: &[(&[&str], &str)] = &[
    (&["PARTITION", "BY"], "of which parts a table is made"),
    (&["WITH", "SYSTEM", "VERSIONING"], "that a table keeps the history of its rows"),
];

/// First words of elements that are indexes or constraints.
const OF_INDEXES: &[&str] =
    &["KEY", "INDEX", "UNIQUE", "FULLTEXT", "SPATIAL", "CONSTRAINT", "PRIMARY"];

/// The tokens of a statement that the parser knows, and what was left out of it.
pub(super) struct Known {
    pub(super) tokens: Vec<TokenWithSpan>,
    pub(super) left_out: Vec<LeftOut>,
}

/// Something that was taken out of a statement.
pub(super) struct LeftOut {
    pub(super) what: &'static str,
    pub(super) place: Span,
}

impl LeftOut {
    fn at(what: &'static str, tokens: &[TokenWithSpan]) -> Self {
        LeftOut { what, place: place_of(tokens) }
    }
}

/// From the first token to the last.
pub(super) fn place_of(tokens: &[TokenWithSpan]) -> Span {
    match tokens {
        [first, .., last] => Span::new(first.span.start, last.span.end),
        [only] => only.span,
        [] => Span::empty(),
    }
}

/// Takes out of `CREATE TABLE` what the parser does not know; with `parts` those of the table, too.
pub(super) fn known(tokens: Vec<TokenWithSpan>, head: &[String], parts: bool) -> Known {
    let creates = head.first().is_some_and(|word| word == "CREATE")
        && head.iter().any(|word| word == "TABLE");
    let marked = || MARKS.iter().any(|mark| tokens.iter().any(|token| is(token, mark)));
    if !creates || !marked() {
        return Known { tokens, left_out: Vec::new() };
    }
    let said: Vec<TokenWithSpan> = tokens
        .iter()
        .filter(|token| !matches!(token.token, Token::Whitespace(_)))
        .cloned()
        .collect();
    match body(&said) {
        Some((open, close)) => taken_apart(&said, open, close, parts),
        None => Known { tokens, left_out: Vec::new() },
    }
}

/// The brackets around the columns.
fn body(tokens: &[TokenWithSpan]) -> Option<(usize, usize)> {
    let open = tokens.iter().position(|token| token.token == Token::LParen)?;
    let before = &tokens[..open];
    if before.iter().any(|token| ["AS", "SELECT", "OF"].iter().any(|word| is(token, word))) {
        return None;
    }
    closing(tokens, open).map(|close| (open, close))
}

fn closing(tokens: &[TokenWithSpan], open: usize) -> Option<usize> {
    let mut depth = 0_usize;
    (open..tokens.len()).find(|at| {
        match tokens[*at].token {
            Token::LParen => depth += 1,
            Token::RParen => depth -= 1,
            _ => {}
        }
        depth == 0
    })
}

fn taken_apart(tokens: &[TokenWithSpan], open: usize, close: usize, parts: bool) -> Known {
    let mut left_out = Vec::new();
    let mut required: Vec<String> = Vec::new();
    let mut elements: Vec<Vec<TokenWithSpan>> = Vec::new();
    for element in split(&tokens[open + 1..close]) {
        let words = spoken(element);
        let first = words.first().map_or("", String::as_str);
        if first == "PERIOD" && words.get(1).is_some_and(|word| word == "FOR") {
            left_out.push(LeftOut::at("which columns a period lies between", element));
        } else if first == "VECTOR"
            && matches!(words.get(1).map(String::as_str), Some("KEY" | "INDEX"))
        {
            left_out.push(LeftOut::at("an index over a vector", element));
        } else if words.iter().any(|word| word == "FOREIGN") && names_period(element) {
            left_out.push(LeftOut::at(FOREIGN_KEY_OF_PERIODS, element));
        } else if let Some(column) = required_column(element, &words) {
            required.push(column);
        } else {
            elements.push(of_element(element, first, &mut left_out));
        }
    }
    for element in &mut elements {
        let named =
            element.first().is_some_and(|token| required.contains(&token.token.to_string()));
        if named && let Some(last) = element.last().map(|token| token.span) {
            let words = ["NOT", "NULL"]
                .map(|word| TokenWithSpan { token: Token::make_keyword(word), span: last });
            element.extend(words);
        }
    }
    let comma = TokenWithSpan { token: Token::Comma, span: tokens[open].span };
    let mut out = tokens[..=open].to_vec();
    out.extend(elements.join(&comma));
    out.push(tokens[close].clone());
    let rest = &tokens[close + 1..];
    out.extend(if parts { behind(rest, &mut left_out) } else { rest.to_vec() });
    Known { tokens: out, left_out }
}

/// A change of a table without what the parser does not know in what it adds.
pub(super) fn of_change(tokens: &[TokenWithSpan]) -> (Vec<TokenWithSpan>, Vec<LeftOut>) {
    let words = spoken(tokens);
    let mut left_out = Vec::new();
    if words.first().is_none_or(|word| word != "ADD") || tokens.len() < 2 {
        return (tokens.to_vec(), left_out);
    }
    if words.iter().any(|word| word == "FOREIGN") && names_period(tokens) {
        return (Vec::new(), vec![LeftOut::at(FOREIGN_KEY_OF_PERIODS, tokens)]);
    }
    let mut known = tokens[..1].to_vec();
    known.extend(of_element(&tokens[1..], &words[1], &mut left_out));
    (known, left_out)
}

/// An element without what the parser does not know in it.
fn of_element(
    element: &[TokenWithSpan],
    first: &str,
    left_out: &mut Vec<LeftOut>,
) -> Vec<TokenWithSpan> {
    let of_index = OF_INDEXES.contains(&first)
        && element[0].token.to_string().starts_with(char::is_alphabetic);
    let mut out: Vec<TokenWithSpan> = Vec::new();
    let (mut at, mut depth) = (0, 0_usize);
    while at < element.len() {
        let rest = &element[at..];
        match rest[0].token {
            Token::LParen => depth += 1,
            Token::RParen => depth = depth.saturating_sub(1),
            _ => {}
        }
        // Among the columns of a key.
        if begins(rest, &["WITHOUT", "OVERLAPS"]) {
            left_out.push(LeftOut::at("that the periods of a key must not overlap", &rest[..2]));
            at += 2;
            continue;
        }
        let names = at
            .checked_sub(1)
            .is_none_or(|before| BEFORE_NAMES.iter().any(|word| is(&element[before], word)));
        if depth > 0 || names {
            out.push(rest[0].clone());
            at += 1;
            continue;
        }
        let behind_index = BEHIND_INDEX.iter().filter(|_| of_index);
        if let Some((words, said)) = behind_index.into_iter().find(|(words, _)| begins(rest, words))
        {
            left_out.extend(said.map(|what| LeftOut::at(what, &rest[..words.len()])));
            at += words.len();
            continue;
        }
        let inside = INSIDE.iter().find(|(words, ..)| begins(rest, words));
        if let Some((words, instead, said)) = inside {
            left_out.extend(said.map(|what| LeftOut::at(what, &rest[..words.len()])));
            let keyword =
                |word: &str| TokenWithSpan { token: Token::make_keyword(word), span: rest[0].span };
            out.extend(instead.map(keyword));
            at += words.len();
            continue;
        }
        out.push(rest[0].clone());
        at += 1;
        if begins(rest, &["SET", "NULL", "("])
            && let Some(end) = closing(element, at + 1)
        {
            let what = "which columns of a reference are set when its row goes";
            left_out.push(LeftOut::at(what, &element[at + 1..=end]));
            out.push(element[at].clone());
            at = end + 1;
        }
    }
    out
}

/// Whether a key is of a period: `PERIOD during`.
fn names_period(element: &[TokenWithSpan]) -> bool {
    element.windows(2).any(|pair| is(&pair[0], "PERIOD") && matches!(pair[1].token, Token::Word(_)))
}

/// The column that `[CONSTRAINT name] NOT NULL column` is about.
fn required_column(element: &[TokenWithSpan], words: &[String]) -> Option<String> {
    let words: Vec<&str> = words.iter().map(String::as_str).collect();
    match words.as_slice() {
        ["CONSTRAINT", _, "NOT", "NULL", _, ..] => Some(element[4].token.to_string()),
        ["NOT", "NULL", _, ..] => Some(element[2].token.to_string()),
        _ => None,
    }
}

/// What stands behind the columns.
fn behind(tokens: &[TokenWithSpan], left_out: &mut Vec<LeftOut>) -> Vec<TokenWithSpan> {
    let mut out = Vec::new();
    let mut at = 0;
    while at < tokens.len() {
        let found = BEHIND.iter().find(|(words, _)| begins(&tokens[at..], words));
        match found {
            Some((words, said)) => {
                left_out.push(LeftOut::at(said, &tokens[at..at + words.len()]));
                // Parts are told to the end of the statement.
                at = if words[0] == "PARTITION" { tokens.len() } else { at + words.len() };
            }
            None => {
                out.push(tokens[at].clone());
                at += 1;
            }
        }
    }
    out
}

/// Parts between commas that stand in no bracket.
pub(super) fn split(tokens: &[TokenWithSpan]) -> Vec<&[TokenWithSpan]> {
    let mut depth = 0_usize;
    let parts = tokens.split(|token| {
        match token.token {
            Token::LParen => depth += 1,
            Token::RParen => depth = depth.saturating_sub(1),
            _ => {}
        }
        depth == 0 && token.token == Token::Comma
    });
    parts.filter(|part| !part.is_empty()).collect()
}

/// The tokens of an element, words in capital letters.
fn spoken(element: &[TokenWithSpan]) -> Vec<String> {
    let word = |token: &TokenWithSpan| match &token.token {
        Token::Word(word) if word.quote_style.is_none() => word.value.to_uppercase(),
        other => other.to_string(),
    };
    element.iter().map(word).collect()
}

fn begins(tokens: &[TokenWithSpan], words: &[&str]) -> bool {
    tokens.len() >= words.len()
        && words.iter().zip(tokens).all(|(word, token)| match *word {
            "#" => true,
            "(" => token.token == Token::LParen,
            "=" => token.token == Token::Eq,
            word => is(token, word),
        })
}

fn is(token: &TokenWithSpan, word: &str) -> bool {
    matches!(&token.token, Token::Word(found)
        if found.quote_style.is_none() && found.value.eq_ignore_ascii_case(word))
}

#[cfg(test)]
mod tests {
    use sqlparser::dialect::MySqlDialect;
    use sqlparser::tokenizer::Tokenizer;

    use super::*;

    /// The words that are left, and how many things were left out and named.
    fn left(text: &str) -> (String, usize) {
        let tokens = Tokenizer::new(&MySqlDialect {}, text).tokenize_with_location();
        let head: Vec<String> = text.split_whitespace().take(2).map(str::to_uppercase).collect();
        let known = known(tokens.expect("tokens"), &head, true);
        let words =
            known.tokens.iter().filter(|token| !matches!(token.token, Token::Whitespace(_)));
        let words: Vec<String> = words.map(|token| token.token.to_string()).collect();
        (words.join(" "), known.left_out.len())
    }

    #[test]
    fn what_the_parser_does_not_know_is_taken_out_where_it_stands() {
        for (inside, words, named) in [
            ("a int", "a int", 0),
            ("a int, KEY k (a) INVISIBLE", "a int , KEY k ( a )", 1),
            ("a int, KEY k (a) NOT IGNORED", "a int , KEY k ( a )", 0),
            ("a int AS (b) PERSISTENT", "a int AS ( b ) STORED", 0),
            ("a point REF_SYSTEM_ID=4326 NOT NULL", "a point NOT NULL", 1),
            ("a text COMPRESSED", "a text", 0),
            ("a text STORAGE EXTERNAL COMPRESSION lz4", "a text", 0),
            // The same words as names.
            (
                "storage int, CONSTRAINT compressed CHECK (storage > 0)",
                "storage int , CONSTRAINT compressed CHECK ( storage > 0 )",
                0,
            ),
            (
                "a int REFERENCES persistent (a), KEY ignored (a)",
                "a int REFERENCES persistent ( a ) , KEY ignored ( a )",
                0,
            ),
            (
                "`invisible` int, period int, FOREIGN KEY (period) REFERENCES x (period)",
                "`invisible` int , period int , FOREIGN KEY ( period ) REFERENCES x ( period )",
                0,
            ),
            ("a int, PERIOD FOR p (a, b)", "a int", 1),
            ("a int, VECTOR KEY v (a)", "a int", 1),
            ("a int, PRIMARY KEY (a, p WITHOUT OVERLAPS)", "a int , PRIMARY KEY ( a , p )", 1),
            ("a int, FOREIGN KEY (a, PERIOD p) REFERENCES x (a, PERIOD p)", "a int", 1),
            ("a int, CONSTRAINT n NOT NULL a", "a int NOT NULL", 0),
            ("a int, NOT NULL a NO INHERIT", "a int NOT NULL", 0),
            (
                "a int, CONSTRAINT k CHECK (a > 0) NOT VALID",
                "a int , CONSTRAINT k CHECK ( a > 0 )",
                1,
            ),
            (
                "a int REFERENCES x ON DELETE SET NULL (a)",
                "a int REFERENCES x ON DELETE SET NULL",
                1,
            ),
            ("a int GENERATED ALWAYS AS ROW START", "a int", 1),
            ("a int DEFAULT (b NOT VALID)", "a int DEFAULT ( b NOT VALID )", 0),
        ] {
            let wanted = (format!("CREATE TABLE t ( {words} )"), named);
            assert_eq!(left(&format!("CREATE TABLE t ({inside})")), wanted, "{inside}");
        }
    }

    #[test]
    fn what_stands_behind_the_columns_is_taken_out_too() {
        for (behind, words, named) in [
            ("WITH SYSTEM VERSIONING COMMENT='x'", "COMMENT = 'x'", 1),
            ("COMMENT='x' PARTITION BY HASH (a) PARTITIONS 2", "COMMENT = 'x'", 1),
            ("ENGINE=InnoDB", "ENGINE = InnoDB", 0),
        ] {
            let wanted = (format!("CREATE TABLE t ( a int NOT NULL ) {words}"), named);
            assert_eq!(left(&format!("CREATE TABLE t (a int NOT NULL) {behind}")), wanted);
        }
        assert_eq!(left("SELECT (a INVISIBLE)").1, 0);
    }
}
