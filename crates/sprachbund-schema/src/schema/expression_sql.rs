//! SQL to [`Tree`], by the sqlparser crate.
//!
//! The parser takes chains of operators (`a AND b AND c ...`, `x::a::b`) without recursion and
//! builds trees as deep as they are long, on which everything after it recurses, so texts that
//! chain or nest too far are not given to it ([`nests_too_far`]). What is parsed and nests deeper
//! than [`DEEPEST_TREE`] keeps its text and no tree.

use std::ops::ControlFlow;

use serde_json::Value;
use sqlparser::ast::{
    self, BinaryOperator, Expr, FunctionArg, FunctionArgExpr, FunctionArguments, Ident,
    UnaryOperator, VisitMut, VisitorMut,
};
use sqlparser::dialect::{Dialect, MySqlDialect, PostgreSqlDialect};
use sqlparser::keywords::Keyword;
use sqlparser::parser::Parser;
use sqlparser::tokenizer::{Token, TokenWithSpan, Tokenizer, TokenizerError};

use super::default::plain_decimal;
use super::expression::Tree;
use crate::schema::Database;
use crate::server::Backslash;

/// Nesting that the parser follows.
const DEEPEST: usize = 64;

/// Operators that may follow each other in one chain, the chains that they stand in counted too.
const LONGEST_CHAIN: usize = 400;

/// How deep the tree of an expression may be: the schema file nests it twice as deep, and JSON is
/// read up to 128.
const DEEPEST_TREE: usize = 48;

/// An expression as most servers take it.
pub(super) fn parse(text: &str) -> Option<Tree> {
    tree(text, Database::default(), &folded)
}

/// An expression as this server takes it: where backticks are around names, these stand as they
/// are.
pub(super) fn parse_of(text: &str, database: Database) -> Option<Tree> {
    match database.server().quotes.double_around_texts {
        true => tree(text, database, &|name| name.value.clone()),
        false => parse(text),
    }
}

/// The parser's grammar of a server's expressions.
fn grammar(database: Database) -> &'static dyn Dialect {
    if database.server().quotes.double_around_texts {
        &MySqlDialect {}
    } else {
        &PostgreSqlDialect {}
    }
}

fn tree(text: &str, database: Database, column: &dyn Fn(&Ident) -> String) -> Option<Tree> {
    let grammar = grammar(database);
    let tokens = tokens(text, grammar).ok()?;
    if nests_too_far(&tokens) {
        return None;
    }
    let mut parser =
        Parser::new(grammar).with_recursion_limit(DEEPEST).with_tokens_with_locations(tokens);
    let expression = parser.parse_expr().ok()?;
    parser.peek_token().eq(&Token::EOF).then_some(())?;
    Names { column, is_text: None, database }.tree(&expression)
}

/// The tokens of a text. A text with `E` before it is a text like others: not everywhere that takes
/// one does the parser take both.
pub fn tokens(text: &str, grammar: &dyn Dialect) -> Result<Vec<TokenWithSpan>, TokenizerError> {
    let mut tokens = Tokenizer::new(grammar, text).tokenize_with_location()?;
    for token in &mut tokens {
        if let Token::EscapedStringLiteral(content) = &mut token.token {
            token.token = Token::SingleQuotedString(std::mem::take(content));
        }
    }
    Ok(tokens)
}

/// What stands inside one bracket, since its last comma and before it.
#[derive(Clone, Copy, Default)]
struct Chain {
    operators: usize,
    /// Depth of the deepest bracket among the operands.
    inner: usize,
    /// Depth of what stands before the last comma.
    before: usize,
}

impl Chain {
    fn depth(self) -> usize {
        self.before.max(self.operators + self.inner)
    }
}

/// Whether what is made of the tokens would be deeper than may be recursed on. Counted for each
/// bracket: its operators since the last comma, and the deepest bracket among them.
pub fn nests_too_far(tokens: &[TokenWithSpan]) -> bool {
    let (mut now, mut outer): (Chain, Vec<Chain>) = (Chain::default(), Vec::new());
    for token in tokens {
        match &token.token {
            Token::Whitespace(_)
            | Token::Number(..)
            | Token::SingleQuotedString(_)
            | Token::Period => {}
            Token::Comma | Token::SemiColon => {
                now = Chain { before: now.depth(), ..Chain::default() }
            }
            Token::LParen | Token::LBracket | Token::LBrace => {
                // `x[1][2]` is a chain, too.
                now.operators += usize::from(token.token == Token::LBracket);
                outer.push(std::mem::take(&mut now));
            }
            Token::RParen | Token::RBracket | Token::RBrace => {
                let inner = now.depth() + 1;
                now = outer.pop().unwrap_or_default();
                now.inner = now.inner.max(inner);
            }
            Token::Word(word) => now.operators += usize::from(CHAINING.contains(&word.keyword)),
            _ => now.operators += 1,
        }
        if now.depth() + outer.len() > LONGEST_CHAIN {
            return true;
        }
    }
    false
}

/// Words that continue an expression, or a query.
const CHAINING: &[Keyword] = &[
    Keyword::AND,
    Keyword::OR,
    Keyword::XOR,
    Keyword::NOT,
    Keyword::IS,
    Keyword::IN,
    Keyword::LIKE,
    Keyword::ILIKE,
    Keyword::RLIKE,
    Keyword::REGEXP,
    Keyword::SIMILAR,
    Keyword::BETWEEN,
    Keyword::COLLATE,
    Keyword::AT,
    Keyword::DIV,
    Keyword::MOD,
    Keyword::UNION,
    Keyword::INTERSECT,
    Keyword::EXCEPT,
    Keyword::ARRAY,
    Keyword::NOTNULL,
    Keyword::OVERLAPS,
    Keyword::OPERATOR,
];

/// An expression that was parsed as SQL of a server again, with its texts escaped as that server
/// wants it: the crate prints them as they are.
pub(crate) fn printed(expression: &Expr, database: Database) -> String {
    struct Escape(Backslash);
    impl VisitorMut for Escape {
        type Break = ();
        fn pre_visit_value(&mut self, value: &mut ast::ValueWithSpan) -> ControlFlow<()> {
            match &mut value.value {
                ast::Value::SingleQuotedString(text) | ast::Value::DoubleQuotedString(text)
                    if self.0 == Backslash::Escape =>
                {
                    *text = text.replace('\\', "\\\\").replace('\'', "''");
                }
                // Where a backslash might escape the end, its form leaves no doubt.
                ast::Value::SingleQuotedString(text)
                    if self.0 == Backslash::EscapeWithPrefix
                        && (text.ends_with('\\') || text.contains("\\'")) =>
                {
                    value.value = ast::Value::EscapedStringLiteral(std::mem::take(text));
                }
                ast::Value::SingleQuotedString(text) => *text = text.replace('\'', "''"),
                _ => {}
            }
            ControlFlow::Continue(())
        }
    }
    let mut expression = expression.clone();
    let _ = expression.visit(&mut Escape(database.server().quotes.backslash));
    expression.to_string()
}

/// An unquoted name in small letters, a quoted one as it stands.
fn folded(name: &Ident) -> String {
    if name.quote_style.is_some() { name.value.clone() } else { name.value.to_lowercase() }
}

/// What the names in an expression of a table stand for.
pub struct Names<'n> {
    pub column: &'n dyn Fn(&Ident) -> String,
    /// Whether a column holds text. With it, what servers add when they store an expression (casts
    /// of constants and of text columns, `= ANY (ARRAY[...])`) is taken away again.
    pub is_text: Option<&'n dyn Fn(&str) -> bool>,
    pub database: Database,
}

impl Names<'_> {
    /// The meaning of an expression, if it is understood and does not nest too deep.
    pub(crate) fn tree(&self, expression: &Expr) -> Option<Tree> {
        self.lower(expression).map(Tree::normal).filter(|tree| tree.depth() <= DEEPEST_TREE)
    }

    fn lower(&self, expression: &Expr) -> Option<Tree> {
        let lower = |expression: &Expr| self.lower(expression);
        Some(match expression {
            Expr::Identifier(name) => {
                match (name.quote_style, name.value.to_lowercase().as_str()) {
                    (None, "current_timestamp" | "current_date") => return None,
                    _ => Tree::Column((self.column)(name)),
                }
            }
            Expr::Nested(inner) => lower(inner)?,
            Expr::Value(value) => Tree::Literal(literal(&value.value)?),
            Expr::Prefixed { value, .. } if self.is_text.is_some() => lower(value)?,
            Expr::Cast { expr, data_type, .. } => {
                self.cast(lower(expr)?, &data_type.to_string())?
            }
            Expr::AnyOp { left, compare_op: BinaryOperator::Eq, right, .. } => {
                self.within(left, right)?
            }
            Expr::AllOp { left, compare_op: BinaryOperator::NotEq, right } => {
                Tree::Not(Box::new(self.within(left, right)?))
            }
            Expr::UnaryOp { op: UnaryOperator::Not, expr } => Tree::Not(Box::new(lower(expr)?)),
            Expr::UnaryOp { op: UnaryOperator::Minus, expr } => match lower(expr)? {
                Tree::Literal(Value::Number(number)) => {
                    Tree::Literal(serde_json::from_str(&format!("-{number}")).ok()?)
                }
                _ => return None,
            },
            Expr::BinaryOp { left, op, right } => binary(lower(left)?, op, lower(right)?)?,
            Expr::IsNull(item) => Tree::IsNull(Box::new(lower(item)?)),
            Expr::IsNotNull(item) => Tree::Not(Box::new(Tree::IsNull(Box::new(lower(item)?)))),
            Expr::In { expr, target: ast::InTarget::List(list), negated, .. } => {
                let list: Option<Vec<Tree>> = list.iter().map(lower).collect();
                negate(*negated, Tree::In { item: Box::new(lower(expr)?), list: list? })
            }
            Expr::Between { expr, negated, low, high } => {
                let (item, low, high) = (lower(expr)?, lower(low)?, lower(high)?);
                negate(
                    *negated,
                    Tree::Between {
                        item: Box::new(item),
                        low: Box::new(low),
                        high: Box::new(high),
                    },
                )
            }
            Expr::Like { negated, any: false, expr, pattern, escape_char: None } => {
                negate(*negated, Tree::binary("like", lower(expr)?, lower(pattern)?))
            }
            Expr::Function(function) => self.call(function)?,
            _ => return None,
        })
    }

    /// A cast that a server adds: of a constant, or of a text column to another text type.
    fn cast(&self, inner: Tree, to: &str) -> Option<Tree> {
        let is_text = self.is_text?;
        let to = to.to_lowercase();
        let to_text = to.starts_with("text") || to.contains("char");
        match &inner {
            Tree::Literal(_) => Some(inner),
            Tree::Column(name) if to_text && is_text(name) => Some(inner),
            _ => None,
        }
    }

    /// `item = ANY (ARRAY[...])`.
    fn within(&self, item: &Expr, array: &Expr) -> Option<Tree> {
        self.is_text?;
        let mut array = array;
        while let Expr::Nested(inner) | Expr::Cast { expr: inner, .. } = array {
            array = inner;
        }
        let Expr::Array(array) = array else { return None };
        let list: Option<Vec<Tree>> =
            array.elem.iter().map(|element| self.lower(element)).collect();
        Some(Tree::In { item: Box::new(self.lower(item)?), list: list? })
    }

    fn call(&self, function: &ast::Function) -> Option<Tree> {
        let plain = function.over.is_none()
            && function.filter.is_none()
            && function.within_group.is_empty();
        let FunctionArguments::List(list) = &function.args else { return None };
        if !plain || !list.clauses.is_empty() || list.duplicate_treatment.is_some() {
            return None;
        }
        let arguments: Option<Vec<Tree>> = list
            .args
            .iter()
            .map(|argument| match argument {
                FunctionArg::Unnamed(FunctionArgExpr::Expr(expression)) => self.lower(expression),
                _ => None,
            })
            .collect();
        Some(Tree::Call { function: function_name(&function.name), arguments: arguments? })
    }
}

/// The name in small letters; quotes that change nothing are taken away, and so is the named schema
/// that is searched anyway.
fn function_name(name: &ast::ObjectName) -> String {
    let usual =
        |part: &ast::ObjectNamePart| part.as_ident().is_some_and(|name| name.value == "public");
    match name.0.as_slice() {
        [first, part] if usual(first) => Some(part.to_string()),
        [part] => part
            .as_ident()
            .filter(|name| name.value.to_lowercase() == name.value)
            .map(|name| name.value.clone()),
        _ => None,
    }
    .unwrap_or_else(|| name.to_string().to_lowercase())
}

fn binary(left: Tree, operator: &BinaryOperator, right: Tree) -> Option<Tree> {
    Some(match operator {
        BinaryOperator::And => Tree::And(vec![left, right]),
        BinaryOperator::Or => Tree::Or(vec![left, right]),
        BinaryOperator::PGLikeMatch => Tree::binary("like", left, right),
        BinaryOperator::PGNotLikeMatch => Tree::Not(Box::new(Tree::binary("like", left, right))),
        BinaryOperator::Eq
        | BinaryOperator::NotEq
        | BinaryOperator::Lt
        | BinaryOperator::LtEq
        | BinaryOperator::Gt
        | BinaryOperator::GtEq
        | BinaryOperator::Plus
        | BinaryOperator::Minus
        | BinaryOperator::Multiply
        | BinaryOperator::Divide
        | BinaryOperator::Modulo
        | BinaryOperator::StringConcat => Tree::binary(&operator.to_string(), left, right),
        _ => return None,
    })
}

fn negate(negated: bool, tree: Tree) -> Tree {
    if negated { Tree::Not(Box::new(tree)) } else { tree }
}

/// A number, unless it would be rounded: a double keeps fifteen digits of any.
fn number(text: &str) -> Option<Value> {
    let value: Value = serde_json::from_str(text).ok()?;
    let digits = plain_decimal(text).unwrap_or_default();
    let digits = digits.bytes().filter(u8::is_ascii_digit).skip_while(|digit| *digit == b'0');
    (!value.is_f64() || digits.count() <= 15).then_some(value)
}

fn literal(value: &ast::Value) -> Option<Value> {
    Some(match value {
        ast::Value::Number(text, _) => number(text)?,
        ast::Value::SingleQuotedString(text) | ast::Value::EscapedStringLiteral(text) => {
            Value::String(text.clone())
        }
        ast::Value::Boolean(value) => Value::Bool(*value),
        ast::Value::Null => Value::Null,
        _ => return None,
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::schema::Expression;

    #[test]
    fn chains_and_brackets_are_counted() {
        let chain = |part: &str, count: usize| vec!["n > 0"; count].join(part);
        for (text, too_far) in [
            (chain(" AND ", 150), false),
            (chain(" AND ", 7000), true),
            (chain(" OR ", 7000), true),
            (chain(" + ", 7000), true),
            (chain(" || ", 7000), true),
            (format!("n{}", "::int".repeat(7000)), true),
            (format!("n::int{}", "[]".repeat(27000)), true),
            (format!("{}n{}", "(".repeat(7000), ")".repeat(7000)), true),
            (format!("{}n{}", "(n + n + ".repeat(300), ")".repeat(300)), true),
            (format!("n IN ({})", vec!["-1"; 7000].join(", ")), false),
            (format!("n IN ({})", vec!["'quay'"; 7000].join(", ")), false),
            (format!("f({})", vec!["a = 1 AND b = 2"; 7000].join(", ")), false),
        ] {
            let tokens = Tokenizer::new(&PostgreSqlDialect {}, &text)
                .tokenize_with_location()
                .expect("tokens");
            assert_eq!(nests_too_far(&tokens), too_far, "{}", &text[..60.min(text.len())]);
            // Neither way does it end anything but well.
            assert!(!Expression::parse_sql(&text).text.is_empty());
        }
    }

    #[test]
    fn a_tree_is_never_deeper_than_the_schema_file_can_say() {
        let chain = |count: usize| Expression::parse_sql(&vec!["n"; count].join(" + "));
        assert!(chain(40).tree.is_some());
        assert_eq!(chain(60).tree, None);
        assert!(chain(60).text.ends_with("n + n"));
        // Conjunctions are flat.
        assert!(Expression::parse_sql(&vec!["n > 0"; 100].join(" AND ")).tree.is_some());
    }

    #[test]
    fn what_is_not_understood_is_printed_with_its_escapes() {
        for (sql, database, printed_as) in [
            ("note REGEXP '^[a-z]\\\\d+'", Database::MariaDb, "note REGEXP '^[a-z]\\\\d+'"),
            ("note REGEXP 'it''s'", Database::MySql, "note REGEXP 'it''s'"),
            ("note ~ 'it''s \\'", Database::PostgreSql, "note ~ E'it\\'s \\\\'"),
            ("note ~ 'a''''b'", Database::PostgreSql, "note ~ 'a''''b'"),
            ("note ~ '\\''b'", Database::PostgreSql, "note ~ E'\\\\\\'b'"),
        ] {
            let grammar = grammar(database);
            let expression = Parser::new(grammar)
                .try_with_sql(sql)
                .and_then(|mut parser| parser.parse_expr())
                .expect("SQL");
            assert_eq!(printed(&expression, database), printed_as);
        }
    }
}
