//! Expressions of checks, conditions, generated columns and defaults.
//!
//! The [`Tree`] is what counts where there is one: two expressions are equal when the normal forms of their trees
//! are. An expression whose text no reader understands has no tree and equals only its own text.

use std::borrow::Cow;

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use serde_json::Value;

use super::Database;

/// An expression with the text that it was read from.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Expression {
    /// `sql`, or the host language (`python`, `typescript`) of an expression that the application evaluates.
    pub language: String,
    #[serde(default)]
    pub database: Option<Database>,
    pub text: String,
    #[serde(default)]
    pub tree: Option<Tree>,
}

/// An expression's meaning. Columns are stored names.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Tree {
    Column(String),
    Literal(Value),
    /// A comparison or arithmetic: `=`, `<>`, `<`, `<=`, `>`, `>=`, `+`, `-`, `*`, `/`, `%`, `||`, `like`.
    Binary {
        operator: String,
        left: Box<Tree>,
        right: Box<Tree>,
    },
    And(Vec<Tree>),
    Or(Vec<Tree>),
    Not(Box<Tree>),
    IsNull(Box<Tree>),
    In {
        item: Box<Tree>,
        list: Vec<Tree>,
    },
    Between {
        item: Box<Tree>,
        low: Box<Tree>,
        high: Box<Tree>,
    },
    /// A function by its lower-case SQL name.
    Call {
        function: String,
        arguments: Vec<Tree>,
    },
}

impl Expression {
    /// An SQL expression whose meaning is known; its text is printed from the tree.
    pub fn sql(tree: Tree) -> Self {
        let tree = tree.normal();
        Expression { language: "sql".into(), database: None, text: tree.to_sql(), tree: Some(tree) }
    }

    /// SQL as it stands, understood where possible.
    pub fn parse_sql(text: &str) -> Self {
        match sql::parse(text) {
            Some(tree) => Expression::sql(tree),
            None => Expression { language: "sql".into(), database: None, text: text.trim().to_owned(), tree: None },
        }
    }

    /// SQL of this server as it stands, understood where possible: MariaDB and MySQL quote names in their own way.
    pub fn parse_sql_of(text: &str, database: Database) -> Self {
        if !database.is_mysql() {
            return Expression::parse_sql(text);
        }
        match sql::parse_mysql(text) {
            Some(tree) => Expression::sql(tree),
            None => Expression { language: "sql".into(), database: None, text: text.trim().to_owned(), tree: None },
        }
    }

    /// Its text in the server's own quotes.
    pub fn text_for(&self, database: Database) -> Cow<'_, str> {
        match &self.tree {
            Some(tree) if database.is_mysql() => Cow::Owned(tree.to_quoted(backtick_name)),
            _ => Cow::Borrowed(&self.text),
        }
    }

    /// An SQL expression that is parsed already.
    pub(crate) fn of_ast(expression: &sqlparser::ast::Expr, names: &sql::Names<'_>) -> Self {
        match names.lower(expression) {
            Some(tree) => Expression::sql(tree),
            None => Expression { language: "sql".into(), database: None, text: expression.to_string(), tree: None },
        }
    }

    /// An expression of a host language, kept as its author wrote it.
    pub fn host(language: &str, text: impl Into<String>) -> Self {
        Expression { language: language.into(), database: None, text: text.into(), tree: None }
    }

    /// Whether the database can evaluate it.
    pub fn is_sql(&self) -> bool {
        self.language == "sql"
    }

    /// Every column that it names.
    pub fn columns(&self) -> Vec<&str> {
        let mut found = Vec::new();
        if let Some(tree) = &self.tree {
            tree.walk(&mut |node| {
                if let Tree::Column(name) = node {
                    found.push(name.as_str());
                }
            });
        }
        found
    }
}

impl Tree {
    /// A comparison or arithmetic.
    pub fn binary(operator: &str, left: Tree, right: Tree) -> Self {
        Tree::Binary { operator: operator.to_owned(), left: Box::new(left), right: Box::new(right) }
    }

    /// The operands below this node, in order.
    fn operands(&self) -> Vec<&Tree> {
        match self {
            Tree::Column(_) | Tree::Literal(_) => Vec::new(),
            Tree::Binary { left, right, .. } => vec![left, right],
            Tree::And(list) | Tree::Or(list) | Tree::Call { arguments: list, .. } => list.iter().collect(),
            Tree::Not(item) | Tree::IsNull(item) => vec![item],
            Tree::In { item, list } => std::iter::once(&**item).chain(list).collect(),
            Tree::Between { item, low, high } => vec![item, low, high],
        }
    }

    /// Visits this node and all below it.
    pub fn walk<'t>(&'t self, visit: &mut dyn FnMut(&'t Tree)) {
        visit(self);
        for operand in self.operands() {
            operand.walk(visit);
        }
    }

    /// The same tree with every node changed, from below.
    pub fn map(self, change: &dyn Fn(Tree) -> Tree) -> Tree {
        let map = |tree: Tree| tree.map(change);
        let boxed = |tree: Box<Tree>| Box::new(tree.map(change));
        change(match self {
            leaf @ (Tree::Column(_) | Tree::Literal(_)) => leaf,
            Tree::Binary { operator, left, right } => Tree::Binary { operator, left: boxed(left), right: boxed(right) },
            Tree::And(list) => Tree::And(list.into_iter().map(map).collect()),
            Tree::Or(list) => Tree::Or(list.into_iter().map(map).collect()),
            Tree::Not(item) => Tree::Not(boxed(item)),
            Tree::IsNull(item) => Tree::IsNull(boxed(item)),
            Tree::In { item, list } => Tree::In { item: boxed(item), list: list.into_iter().map(map).collect() },
            Tree::Between { item, low, high } => Tree::Between { item: boxed(item), low: boxed(low), high: boxed(high) },
            Tree::Call { function, arguments } => Tree::Call { function, arguments: arguments.into_iter().map(map).collect() },
        })
    }

    /// The same tree with every column renamed.
    pub fn map_columns(self, rename: &dyn Fn(String) -> String) -> Tree {
        self.map(&|tree| match tree {
            Tree::Column(name) => Tree::Column(rename(name)),
            other => other,
        })
    }

    /// The normal form: nested conjunctions flattened, single operands unwrapped, double negation gone, a negated
    /// comparison turned round, `between` spelled as two comparisons, one-element lists as equality.
    pub fn normal(self) -> Tree {
        let boxed = |tree: Box<Tree>| Box::new(tree.normal());
        match self {
            Tree::Literal(Value::Number(number)) => Tree::Literal(whole(number)),
            Tree::Column(_) | Tree::Literal(_) => self,
            Tree::Binary { operator, left, right } => {
                let operator = if operator == "!=" { "<>".to_owned() } else { operator };
                Tree::Binary { operator, left: boxed(left), right: boxed(right) }
            }
            Tree::And(list) => Self::join(list, Tree::And, |tree| match tree {
                Tree::And(inner) => Ok(inner),
                other => Err(other),
            }),
            Tree::Or(list) => Self::join(list, Tree::Or, |tree| match tree {
                Tree::Or(inner) => Ok(inner),
                other => Err(other),
            }),
            Tree::Not(item) => match item.normal() {
                Tree::Not(inner) => *inner,
                Tree::Binary { operator, left, right } if negated(&operator).is_some() => {
                    Tree::Binary { operator: negated(&operator).unwrap_or_default().to_owned(), left, right }
                }
                other => Tree::Not(Box::new(other)),
            },
            Tree::IsNull(item) => Tree::IsNull(boxed(item)),
            Tree::In { item, list } => {
                let mut list: Vec<Tree> = list.into_iter().map(Tree::normal).collect();
                match list.len() {
                    1 => Tree::binary("=", item.normal(), list.remove(0)),
                    _ => Tree::In { item: boxed(item), list },
                }
            }
            Tree::Between { item, low, high } => {
                let item = item.normal();
                let above = Tree::binary(">=", item.clone(), low.normal());
                Tree::And(vec![above, Tree::binary("<=", item, high.normal())])
            }
            Tree::Call { function, arguments } => {
                Tree::Call { function: function.to_lowercase(), arguments: arguments.into_iter().map(Tree::normal).collect() }
            }
        }
    }

    fn join(list: Vec<Tree>, build: fn(Vec<Tree>) -> Tree, open: fn(Tree) -> Result<Vec<Tree>, Tree>) -> Tree {
        let mut flat = Vec::new();
        for item in list {
            match open(item.normal()) {
                Ok(inner) => flat.extend(inner),
                Err(other) => flat.push(other),
            }
        }
        if flat.len() == 1 { flat.remove(0) } else { build(flat) }
    }

    /// As SQL with standard quoting.
    pub fn to_sql(&self) -> String {
        self.to_quoted(quote_name)
    }

    /// As SQL, names in the server's own quotes.
    pub fn to_quoted(&self, quote: fn(&str) -> String) -> String {
        let list = |items: &[Tree], separator: &str| items.iter().map(|item| item.operand(quote)).collect::<Vec<_>>().join(separator);
        match self {
            Tree::Column(name) => quote(name),
            Tree::Literal(value) => literal_sql(value),
            Tree::Binary { operator, left, right } => {
                format!("{} {} {}", left.operand(quote), operator.to_uppercase(), right.operand(quote))
            }
            Tree::And(items) if items.is_empty() => "TRUE".to_owned(),
            Tree::Or(items) if items.is_empty() => "FALSE".to_owned(),
            Tree::And(items) => list(items, " AND "),
            Tree::Or(items) => list(items, " OR "),
            Tree::Not(item) => match &**item {
                Tree::IsNull(inner) => format!("{} IS NOT NULL", inner.operand(quote)),
                other => format!("NOT {}", other.operand(quote)),
            },
            Tree::IsNull(item) => format!("{} IS NULL", item.operand(quote)),
            Tree::In { item, list: items } => format!("{} IN ({})", item.operand(quote), list(items, ", ")),
            Tree::Between { item, low, high } => {
                format!("{} BETWEEN {} AND {}", item.operand(quote), low.operand(quote), high.operand(quote))
            }
            Tree::Call { function, arguments } => {
                let arguments = arguments.iter().map(|item| item.to_quoted(quote)).collect::<Vec<_>>().join(", ");
                format!("{function}({arguments})")
            }
        }
    }

    fn operand(&self, quote: fn(&str) -> String) -> String {
        match self {
            Tree::Column(_) | Tree::Literal(_) | Tree::Call { .. } => self.to_quoted(quote),
            _ => format!("({})", self.to_quoted(quote)),
        }
    }
}

fn negated(operator: &str) -> Option<&'static str> {
    Some(match operator {
        "=" => "<>",
        "<>" => "=",
        _ => return None,
    })
}

/// A name as SQL's delimited identifier.
pub fn quote_name(name: &str) -> String {
    format!("\"{}\"", name.replace('"', "\"\""))
}

/// A number without digits after the point, where they say nothing: `3.0` is 3.
fn whole(number: serde_json::Number) -> Value {
    let exact = |value: &f64| number.is_f64() && value.fract() == 0.0 && value.abs() < 9_007_199_254_740_992.0;
    number.as_f64().filter(exact).map_or(Value::Number(number.clone()), |value| Value::from(value as i64))
}

/// A name in the quotes of MariaDB and MySQL.
pub fn backtick_name(name: &str) -> String {
    format!("`{}`", name.replace('`', "``"))
}

/// A constant in SQL; text in single quotes with quotes doubled, lists and maps as JSON text.
pub fn literal_sql(value: &Value) -> String {
    match value {
        Value::Null => "NULL".to_owned(),
        Value::Bool(true) => "TRUE".to_owned(),
        Value::Bool(false) => "FALSE".to_owned(),
        Value::Number(number) => number.to_string(),
        Value::String(text) => format!("'{}'", text.replace('\'', "''")),
        other => format!("'{}'", other.to_string().replace('\'', "''")),
    }
}

pub(crate) mod sql {
    //! SQL to [`Tree`], by the sqlparser crate.

    use serde_json::Value;
    use sqlparser::ast::{self, BinaryOperator, Expr, FunctionArg, FunctionArgExpr, FunctionArguments, Ident, UnaryOperator};
    use sqlparser::dialect::{MySqlDialect, PostgreSqlDialect};
    use sqlparser::parser::Parser;

    use super::Tree;

    pub(super) fn parse(text: &str) -> Option<Tree> {
        let mut parser = Parser::new(&PostgreSqlDialect {}).with_recursion_limit(64).try_with_sql(text).ok()?;
        let expression = parser.parse_expr().ok()?;
        parser.peek_token().eq(&sqlparser::tokenizer::Token::EOF).then_some(())?;
        Names { column: &folded, is_text: None }.lower(&expression)
    }

    pub(super) fn parse_mysql(text: &str) -> Option<Tree> {
        let mut parser = Parser::new(&MySqlDialect {}).with_recursion_limit(64).try_with_sql(text).ok()?;
        let expression = parser.parse_expr().ok()?;
        parser.peek_token().eq(&sqlparser::tokenizer::Token::EOF).then_some(())?;
        Names { column: &|name| name.value.clone(), is_text: None }.lower(&expression)
    }

    /// An unquoted name in small letters, a quoted one as it stands.
    fn folded(name: &Ident) -> String {
        if name.quote_style.is_some() { name.value.clone() } else { name.value.to_lowercase() }
    }

    /// What the names in an expression of a table stand for.
    pub(crate) struct Names<'n> {
        pub(crate) column: &'n dyn Fn(&Ident) -> String,
        /// Whether a column holds text. With it, what servers add when they store an expression (casts of constants
        /// and of text columns, `= ANY (ARRAY[...])`) is taken away again.
        pub(crate) is_text: Option<&'n dyn Fn(&str) -> bool>,
    }

    impl Names<'_> {
        pub(crate) fn lower(&self, expression: &Expr) -> Option<Tree> {
            let lower = |expression: &Expr| self.lower(expression);
            Some(match expression {
                Expr::Identifier(name) => match (name.quote_style, name.value.to_lowercase().as_str()) {
                    (None, "current_timestamp" | "current_date") => return None,
                    _ => Tree::Column((self.column)(name)),
                },
                Expr::Nested(inner) => lower(inner)?,
                Expr::Value(value) => Tree::Literal(literal(&value.value)?),
                Expr::Prefixed { value, .. } if self.is_text.is_some() => lower(value)?,
                Expr::Cast { expr, data_type, .. } => self.cast(lower(expr)?, &data_type.to_string())?,
                Expr::AnyOp { left, compare_op: BinaryOperator::Eq, right, .. } => self.within(left, right)?,
                Expr::AllOp { left, compare_op: BinaryOperator::NotEq, right } => Tree::Not(Box::new(self.within(left, right)?)),
                Expr::UnaryOp { op: UnaryOperator::Not, expr } => Tree::Not(Box::new(lower(expr)?)),
                Expr::UnaryOp { op: UnaryOperator::Minus, expr } => match lower(expr)? {
                    Tree::Literal(Value::Number(number)) => Tree::Literal(serde_json::from_str(&format!("-{number}")).ok()?),
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
                    negate(*negated, Tree::Between { item: Box::new(item), low: Box::new(low), high: Box::new(high) })
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
            let list: Option<Vec<Tree>> = array.elem.iter().map(|element| self.lower(element)).collect();
            Some(Tree::In { item: Box::new(self.lower(item)?), list: list? })
        }

        fn call(&self, function: &ast::Function) -> Option<Tree> {
            let plain = function.over.is_none() && function.filter.is_none() && function.within_group.is_empty();
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

    /// The name in small letters; quotes that change nothing are taken away, and so is the named schema that is searched anyway.
    fn function_name(name: &ast::ObjectName) -> String {
        let usual = |part: &ast::ObjectNamePart| part.as_ident().is_some_and(|name| name.value == "public");
        match name.0.as_slice() {
            [first, part] if usual(first) => Some(part.to_string()),
            [part] => part.as_ident().filter(|name| name.value.to_lowercase() == name.value).map(|name| name.value.clone()),
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

    fn literal(value: &ast::Value) -> Option<Value> {
        Some(match value {
            ast::Value::Number(text, _) => serde_json::from_str(text).ok()?,
            ast::Value::SingleQuotedString(text) | ast::Value::EscapedStringLiteral(text) => Value::String(text.clone()),
            ast::Value::Boolean(value) => Value::Bool(*value),
            ast::Value::Null => Value::Null,
            _ => return None,
        })
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn equal_meanings_have_equal_normal_forms() {
        for (left, right) in [
            ("a >= 0 and (b < 3 and c = 1)", "\"a\" >= 0 AND \"b\" < 3 AND \"c\" = 1"),
            ("not (a = 1)", "a <> 1"),
            ("a between 1 and 5", "a >= 1 and a <= 5"),
            ("a in ('x')", "a = 'x'"),
            ("LOWER(a) = 'it''s'", "lower(a) = 'it''s'"),
            ("a is not null", "not (a is null)"),
        ] {
            let (left, right) = (Expression::parse_sql(left), Expression::parse_sql(right));
            assert!(left.tree.is_some(), "{left:?}");
            assert_eq!(left, right);
            assert_eq!(Expression::parse_sql(&left.text), left);
        }
    }

    #[test]
    fn what_is_not_understood_keeps_its_text() {
        for text in ["a @> '{1}'", "a = ANY(b)", "this is (not", "current_timestamp"] {
            let expression = Expression::parse_sql(text);
            assert_eq!((expression.tree, expression.text.as_str()), (None, text));
        }
    }
}
