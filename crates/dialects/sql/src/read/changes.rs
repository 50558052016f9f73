//! `ALTER TABLE`, change by change: one that the parser does not know does not take the others with
//! it, and those that servers have and the parser has not are read here.

use sqlparser::ast::{AlterTableOperation, Expr, Ident, ObjectName};
use sqlparser::dialect::Dialect as Grammar;
use sqlparser::parser::{Parser, ParserError};
use sqlparser::tokenizer::{Span, Token, TokenWithSpan};

use super::elements::{self, FOREIGN_KEY_OF_PERIODS};

/// The changes of one table.
pub(super) struct Changes {
    pub(super) name: ObjectName,
    pub(super) if_exists: bool,
    /// With their places.
    pub(super) changes: Vec<(Span, Change)>,
}

/// One change.
pub(super) enum Change {
    Parsed(Box<AlterTableOperation>),
    RenameIndex {
        from: Ident,
        to: Ident,
    },
    /// What is kept of the column is a plain value.
    DropIdentity(Ident),
    DropExpression(Ident),
    SetExpression(Ident, Box<Expr>),
    NotNull(Ident),
    Comment(String),
    /// A check that holds no more, for its server keeps it without asking.
    Unenforced(Ident),
    ToNamespace(Ident),
    /// A table that becomes a part of this one.
    Attach(ObjectName),
    /// How a table is kept, which says nothing of it.
    Nothing,
    /// Something that a schema does not hold.
    Beside(&'static str),
    /// By its text, and why.
    Unparsed(String, ParserError),
}

/// What hides a column.
pub(super) const SHOWN_WHERE_NAMED: &str = "that a column is shown only where it is named";

/// Changes that say how a table is kept and how it is changed, by their first words.
const KEEPING: &[&[&str]] = &[
    &["SET", "WITHOUT"],
    &["SET", "LOGGED"],
    &["SET", "UNLOGGED"],
    &["SET", "TABLESPACE"],
    &["SET", "ACCESS"],
    &["CLUSTER"],
    &["VALIDATE", "CONSTRAINT"],
    &["ALGORITHM"],
    &["LOCK"],
    &["FORCE"],
    &["ORDER", "BY"],
    &["DISABLE", "KEYS"],
    &["ENABLE", "KEYS"],
    &["RESET"],
];

/// Options of a table, of which the comment alone is kept.
const OPTIONS: &[&str] = &[
    "ENGINE",
    "DEFAULT",
    "CHARSET",
    "CHARACTER",
    "COLLATE",
    "ROW_FORMAT",
    "AUTO_INCREMENT",
    "KEY_BLOCK_SIZE",
    "STATS_PERSISTENT",
    "COMMENT",
];

/// The changes of a statement; `None` where it is no `ALTER TABLE`.
pub(super) fn changes(
    grammar: &dyn Grammar,
    tokens: &[TokenWithSpan],
) -> Result<Option<Changes>, ParserError> {
    let mut parser = Parser::new(grammar).with_tokens_with_locations(tokens.to_vec());
    let mut head = &mut parser;
    if !takes(head, &["ALTER"]) {
        return Ok(None);
    }
    let _ = takes(head, &["ONLINE"]) || takes(head, &["IGNORE"]);
    if !takes(head, &["TABLE"]) {
        return Ok(None);
    }
    let if_exists = takes(head, &["IF", "EXISTS"]);
    takes(head, &["ONLY"]);
    head = &mut parser;
    let name = head.parse_object_name(false)?;
    let mut rest: Vec<TokenWithSpan> = Vec::new();
    loop {
        let token = head.next_token();
        if matches!(token.token, Token::EOF) {
            break;
        }
        rest.push(token);
    }
    let changes = elements::split(&rest).into_iter().flat_map(|part| one(grammar, part)).collect();
    Ok(Some(Changes { name, if_exists, changes }))
}

/// What one part says: several changes where columns are added in brackets.
fn one(grammar: &dyn Grammar, tokens: &[TokenWithSpan]) -> Vec<(Span, Change)> {
    let place = elements::place_of(tokens);
    let parser = || Parser::new(grammar).with_tokens_with_locations(tokens.to_vec());
    if let Ok(Some(changes)) = own(&mut parser()) {
        return changes.into_iter().map(|change| (place, change)).collect();
    }
    let (known, left_out) = elements::of_change(tokens);
    let parsed = || {
        let mut parser = Parser::new(grammar).with_tokens_with_locations(known);
        let operation = parser.parse_alter_table_operation()?;
        ended(&mut parser)?;
        Ok(Change::Parsed(Box::new(operation)))
    };
    let whole = left_out.iter().any(|left_out| left_out.what == FOREIGN_KEY_OF_PERIODS);
    let mut changes: Vec<(Span, Change)> = left_out
        .into_iter()
        .map(|left_out| (left_out.place, Change::Beside(left_out.what)))
        .collect();
    if !whole {
        let change = parsed().unwrap_or_else(|error| {
            let words: Vec<String> = tokens.iter().map(|token| token.token.to_string()).collect();
            Change::Unparsed(words.join(" "), error)
        });
        changes.push((place, change));
    }
    changes
}

/// What the parser does not know, or knows of other servers only.
fn own(parser: &mut Parser<'_>) -> Result<Option<Vec<Change>>, ParserError> {
    if takes(parser, &["RENAME", "INDEX"]) || takes(parser, &["RENAME", "KEY"]) {
        let from = parser.parse_identifier()?;
        takes(parser, &["TO"]);
        return Ok(Some(vec![Change::RenameIndex { from, to: parser.parse_identifier()? }]));
    }
    if takes(parser, &["DROP", "CHECK"]) {
        let name = parser.parse_identifier()?;
        let dropped =
            AlterTableOperation::DropConstraint { if_exists: false, name, drop_behavior: None };
        return Ok(Some(vec![Change::Parsed(Box::new(dropped))]));
    }
    if takes(parser, &["ALTER", "CHECK"]) || takes(parser, &["ALTER", "CONSTRAINT"]) {
        let name = parser.parse_identifier()?;
        return Ok(takes(parser, &["NOT", "ENFORCED"]).then(|| vec![Change::Unenforced(name)]));
    }
    if takes(parser, &["ALTER"]) {
        takes(parser, &["COLUMN"]);
        return Ok(of_column(parser)?.map(|change| vec![change]));
    }
    if takes(parser, &["ADD"]) {
        return added(parser);
    }
    if takes(parser, &["SET", "SCHEMA"]) {
        return Ok(Some(vec![Change::ToNamespace(parser.parse_identifier()?)]));
    }
    if takes(parser, &["ATTACH", "PARTITION"]) {
        return Ok(Some(vec![Change::Attach(parser.parse_object_name(false)?)]));
    }
    if takes(parser, &["CONVERT", "TO"]) {
        return Ok(Some(vec![Change::Beside("the character set of all texts of a table")]));
    }
    if KEEPING.iter().any(|words| takes(parser, words))
        || (takes(parser, &["SET"]) && parser.peek_token().token == Token::LParen)
    {
        return Ok(Some(vec![Change::Nothing]));
    }
    options(parser)
}

/// What is changed of a column, after its name.
fn of_column(parser: &mut Parser<'_>) -> Result<Option<Change>, ParserError> {
    let column = parser.parse_identifier()?;
    if takes(parser, &["DROP", "IDENTITY"]) {
        return Ok(Some(Change::DropIdentity(column)));
    }
    if takes(parser, &["DROP", "EXPRESSION"]) {
        return Ok(Some(Change::DropExpression(column)));
    }
    if takes(parser, &["SET", "EXPRESSION", "AS"]) {
        return Ok(Some(Change::SetExpression(column, Box::new(parser.parse_expr()?))));
    }
    if takes(parser, &["SET", "INVISIBLE"]) {
        return Ok(Some(Change::Beside(SHOWN_WHERE_NAMED)));
    }
    let kept = [["SET", "VISIBLE"], ["SET", "STATISTICS"], ["SET", "STORAGE"]];
    let kept = kept.iter().any(|words| takes(parser, words))
        || takes(parser, &["SET", "COMPRESSION"])
        || (takes(parser, &["SET"]) && parser.peek_token().token == Token::LParen);
    Ok(kept.then_some(Change::Nothing))
}

/// What is added, where the parser does not know it.
fn added(parser: &mut Parser<'_>) -> Result<Option<Vec<Change>>, ParserError> {
    if takes(parser, &["CONSTRAINT"]) {
        parser.parse_identifier()?;
    } else if takes(parser, &["COLUMN"]) || parser.peek_token().token == Token::LParen {
        let if_not_exists = takes(parser, &["IF", "NOT", "EXISTS"]);
        let columns = if parser.peek_token().token == Token::LParen {
            let (columns, constraints) = parser.parse_columns()?;
            if !constraints.is_empty() {
                return Ok(None);
            }
            columns
        } else if if_not_exists {
            let column = parser.parse_column_def()?;
            // Where it stands among the others says nothing of it.
            if takes(parser, &["AFTER"]) {
                parser.parse_identifier()?;
            } else {
                takes(parser, &["FIRST"]);
            }
            vec![column]
        } else {
            return Ok(None);
        };
        ended(parser)?;
        let added = columns.into_iter().map(|column_def| {
            Change::Parsed(Box::new(AlterTableOperation::AddColumn {
                column_keyword: true,
                if_not_exists,
                column_def,
                column_position: None,
            }))
        });
        return Ok(Some(added.collect()));
    }
    let required = takes(parser, &["NOT", "NULL"]);
    Ok(if required { Some(vec![Change::NotNull(parser.parse_identifier()?)]) } else { None })
}

/// Options of the table, of which the comment is kept.
fn options(parser: &mut Parser<'_>) -> Result<Option<Vec<Change>>, ParserError> {
    let mut comment = None;
    while parser.peek_token().token != Token::EOF {
        let Some(option) = OPTIONS.iter().find(|option| takes(parser, &[option])) else {
            return Ok(None);
        };
        if matches!(*option, "DEFAULT") {
            continue;
        }
        takes(parser, &["SET"]);
        let _ = parser.consume_token(&Token::Eq);
        match (*option, parser.next_token().token) {
            ("COMMENT", Token::SingleQuotedString(text) | Token::DoubleQuotedString(text)) => {
                comment = Some(text);
            }
            ("COMMENT", _) => return Ok(None),
            _ => {}
        }
    }
    Ok(Some(vec![comment.map_or(Change::Nothing, Change::Comment)]))
}

/// Takes these words, if they stand here.
fn takes(parser: &mut Parser<'_>, words: &[&str]) -> bool {
    let here = words.iter().enumerate().all(|(at, word)| {
        matches!(&parser.peek_nth_token_ref(at).token,
            Token::Word(found) if found.quote_style.is_none()
                && found.value.eq_ignore_ascii_case(word))
    });
    if here {
        words.iter().for_each(|_| drop(parser.next_token()));
    }
    here
}

/// Nothing more stands here.
fn ended(parser: &mut Parser<'_>) -> Result<(), ParserError> {
    match parser.next_token().token {
        Token::EOF | Token::SemiColon => Ok(()),
        other => {
            Err(ParserError::ParserError(format!("Expected: end of statement, found: {other}")))
        }
    }
}

#[cfg(test)]
mod tests {
    use sqlparser::dialect::PostgreSqlDialect;
    use sqlparser::tokenizer::Tokenizer;

    use super::*;

    /// A word for each change.
    fn kinds(text: &str) -> Vec<&'static str> {
        let grammar = PostgreSqlDialect {};
        let tokens = Tokenizer::new(&grammar, text).tokenize_with_location().expect("tokens");
        let changes = changes(&grammar, &tokens).expect("a table").expect("ALTER TABLE");
        let kind = |(_, change): &(Span, Change)| match change {
            Change::Parsed(_) => "parsed",
            Change::RenameIndex { .. } => "index",
            Change::DropIdentity(_) => "identity",
            Change::DropExpression(_) => "expression",
            Change::SetExpression(..) => "new expression",
            Change::NotNull(_) => "required",
            Change::Comment(_) => "comment",
            Change::Unenforced(_) => "unenforced",
            Change::ToNamespace(_) => "moved",
            Change::Attach(_) => "part",
            Change::Nothing => "nothing",
            Change::Beside(_) => "beside",
            Change::Unparsed(..) => "unread",
        };
        changes.changes.iter().map(kind).collect()
    }

    #[test]
    fn one_change_does_not_take_the_others_with_it() {
        for (changes, wanted) in [
            ("ADD COLUMN a int, DROP COLUMN b", &["parsed", "parsed"][..]),
            ("ADD COLUMN a int, WHATEVER b, DROP COLUMN c", &["parsed", "unread", "parsed"]),
            ("ADD COLUMN (a int, b numeric(3, 2))", &["parsed", "parsed"]),
            ("ADD COLUMN IF NOT EXISTS a int AFTER b", &["parsed"]),
            (
                "ADD CONSTRAINT k CHECK (a IN (1, 2)), ADD CONSTRAINT n NOT NULL a",
                &["parsed", "required"],
            ),
            ("ADD CONSTRAINT k CHECK (a > 0) NOT VALID", &["beside", "parsed"]),
            ("ADD CONSTRAINT k FOREIGN KEY (a, PERIOD p) REFERENCES x (a, PERIOD p)", &["beside"]),
            ("RENAME INDEX a TO b, RENAME KEY c TO d", &["index", "index"]),
            ("DROP CHECK a", &["parsed"]),
            ("ALTER CHECK a NOT ENFORCED", &["unenforced"]),
            (
                "ALTER COLUMN a DROP IDENTITY IF EXISTS, ALTER b DROP EXPRESSION",
                &["identity", "expression"],
            ),
            ("ALTER COLUMN a SET EXPRESSION AS (b * 2)", &["new expression"]),
            (
                "ALTER COLUMN a SET INVISIBLE, ALTER COLUMN a SET STATISTICS 9",
                &["beside", "nothing"],
            ),
            ("ALTER COLUMN a SET NOT NULL", &["parsed"]),
            ("SET SCHEMA basin", &["moved"]),
            ("ATTACH PARTITION old FOR VALUES FROM (1) TO (2)", &["part"]),
            ("COMMENT = 'x', ENGINE=InnoDB DEFAULT CHARSET=utf8mb4", &["comment", "nothing"]),
            ("ENGINE=InnoDB COMMENT 'x'", &["comment"]),
            ("CONVERT TO CHARACTER SET utf8mb4", &["beside"]),
            (
                "SET (fillfactor = 70), CLUSTER ON k, VALIDATE CONSTRAINT k",
                &["nothing", "nothing", "nothing"],
            ),
        ] {
            assert_eq!(kinds(&format!("ALTER TABLE ONLY t {changes}")), wanted, "{changes}");
        }
    }
}
