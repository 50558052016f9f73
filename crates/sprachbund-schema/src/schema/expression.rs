//! Expressions of checks, conditions, generated columns and defaults.
//!
//! The [`Tree`] is what counts where there is one: two expressions are equal when the normal forms
//! of their trees are. An expression whose text no reader understands has no tree and equals only
//! its own text.

use std::borrow::Cow;

use serde::de::Error;
use serde::{Deserialize, Deserializer, Serialize};
use serde_json::Value;

use super::Database;
use super::expression_sql as sql;
use crate::quoting::sql as quoting;

/// The language of what would reach out of a statement.
const FRAGMENT: &str = "fragment";

/// An expression with the text that it was read from.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields)]
pub struct Expression {
    /// `sql`; the host language (`python`, `typescript`) of an expression that the application
    /// evaluates; or `fragment` for SQL that does not end where its text ends, which stands in no
    /// statement.
    pub language: String,
    #[serde(default)]
    pub database: Option<Database>,
    pub text: String,
    #[serde(default)]
    pub tree: Option<Tree>,
}

/// An expression's meaning. Columns are stored names.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "snake_case")]
pub enum Tree {
    Column(String),
    Literal(Value),
    /// A comparison or arithmetic: `=`, `<>`, `<`, `<=`, `>`, `>=`, `+`, `-`, `*`, `/`, `%`, `||`,
    /// `like`.
    Binary {
        #[serde(deserialize_with = "operator")]
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
        #[serde(deserialize_with = "function")]
        function: String,
        arguments: Vec<Tree>,
    },
}

/// Operators of [`Tree::Binary`]; `!=` is read as `<>`.
const OPERATORS: &[&str] =
    &["=", "<>", "!=", "<", "<=", ">", ">=", "+", "-", "*", "/", "%", "||", "like"];

/// An operator of a schema file: it is printed as it stands.
fn operator<'de, D: Deserializer<'de>>(deserializer: D) -> Result<String, D::Error> {
    let text = String::deserialize(deserializer)?;
    let known = OPERATORS.contains(&text.to_lowercase().as_str());
    if known {
        Ok(text)
    } else {
        Err(D::Error::custom(format!(
            "`{text}` is no operator; expected one of {}",
            OPERATORS.join(" ")
        )))
    }
}

/// The name of a function of a schema file.
fn function<'de, D: Deserializer<'de>>(deserializer: D) -> Result<String, D::Error> {
    let text = String::deserialize(deserializer)?;
    if quoting::is_path(&text) {
        Ok(text)
    } else {
        Err(D::Error::custom(format!("`{text}` is no name of a function")))
    }
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
            None => Expression::unread(text, Database::default()),
        }
    }

    /// SQL of this server as it stands, understood where possible: MariaDB and MySQL quote names in
    /// their own way.
    pub fn parse_sql_of(text: &str, database: Database) -> Self {
        sql::parse_of(text, database)
            .map_or_else(|| Expression::unread(text, database), Expression::sql)
    }

    /// SQL that is not understood, or a fragment where it does not end where its text ends.
    fn unread(text: &str, database: Database) -> Self {
        let language = if quoting::is_whole(text, database) { "sql" } else { FRAGMENT };
        Expression {
            language: language.into(),
            database: None,
            text: text.trim().to_owned(),
            tree: None,
        }
    }

    /// Takes it for a fragment if it would reach out of a statement of this server: its text is put
    /// in as it stands.
    pub fn settle(&mut self, database: Database) {
        if self.is_sql() && self.tree.is_none() && !quoting::is_whole(&self.text, database) {
            self.language = FRAGMENT.into();
        }
    }

    /// Its text in the server's own quotes.
    pub fn text_for(&self, database: Database) -> Cow<'_, str> {
        self.tree.as_ref().map_or(Cow::Borrowed(self.text.as_str()), |tree| {
            Cow::Owned(tree.to_text(Some(database)))
        })
    }

    /// An SQL expression that is parsed already.
    pub fn of_ast(expression: &sqlparser::ast::Expr, names: &sql::Names<'_>) -> Self {
        match names.tree(expression) {
            Some(tree) => Expression::sql(tree),
            None => Expression {
                language: "sql".into(),
                database: None,
                text: sql::printed(expression, names.database),
                tree: None,
            },
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
            Tree::And(list) | Tree::Or(list) | Tree::Call { arguments: list, .. } => {
                list.iter().collect()
            }
            Tree::Not(item) | Tree::IsNull(item) => vec![item],
            Tree::In { item, list } => std::iter::once(&**item).chain(list).collect(),
            Tree::Between { item, low, high } => vec![item, low, high],
        }
    }

    /// Nodes on the longest way down.
    pub(crate) fn depth(&self) -> usize {
        1 + self.operands().into_iter().map(Tree::depth).max().unwrap_or(0)
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
            Tree::Binary { operator, left, right } => {
                Tree::Binary { operator, left: boxed(left), right: boxed(right) }
            }
            Tree::And(list) => Tree::And(list.into_iter().map(map).collect()),
            Tree::Or(list) => Tree::Or(list.into_iter().map(map).collect()),
            Tree::Not(item) => Tree::Not(boxed(item)),
            Tree::IsNull(item) => Tree::IsNull(boxed(item)),
            Tree::In { item, list } => {
                Tree::In { item: boxed(item), list: list.into_iter().map(map).collect() }
            }
            Tree::Between { item, low, high } => {
                Tree::Between { item: boxed(item), low: boxed(low), high: boxed(high) }
            }
            Tree::Call { function, arguments } => {
                Tree::Call { function, arguments: arguments.into_iter().map(map).collect() }
            }
        })
    }

    /// The same tree with every column renamed.
    pub fn map_columns(self, rename: &dyn Fn(String) -> String) -> Tree {
        self.map(&|tree| match tree {
            Tree::Column(name) => Tree::Column(rename(name)),
            other => other,
        })
    }

    /// The normal form: nested conjunctions flattened, single operands unwrapped, double negation
    /// gone, a negated comparison turned round, `between` spelled as two comparisons, one-element
    /// lists as equality.
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
                    Tree::Binary {
                        operator: negated(&operator).unwrap_or_default().to_owned(),
                        left,
                        right,
                    }
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
            Tree::Call { function, arguments } => Tree::Call {
                function: function.to_lowercase(),
                arguments: arguments.into_iter().map(Tree::normal).collect(),
            },
        }
    }

    fn join(
        list: Vec<Tree>,
        build: fn(Vec<Tree>) -> Tree,
        open: fn(Tree) -> Result<Vec<Tree>, Tree>,
    ) -> Tree {
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
        self.to_text(None)
    }

    /// As SQL, in the quotes of a server or of the standard.
    pub fn to_text(&self, database: Option<Database>) -> String {
        let list = |items: &[Tree], separator: &str| {
            items.iter().map(|item| item.operand(database)).collect::<Vec<_>>().join(separator)
        };
        match self {
            Tree::Column(name) => database.map_or_else(
                || quoting::standard_name(name),
                |database| quoting::name(name, database),
            ),
            Tree::Literal(value) => database.map_or_else(
                || quoting::standard_literal(value),
                |database| quoting::literal(value, database),
            ),
            Tree::Binary { operator, left, right } => {
                format!(
                    "{} {} {}",
                    left.operand(database),
                    operator.to_uppercase(),
                    right.operand(database)
                )
            }
            Tree::And(items) if items.is_empty() => "TRUE".to_owned(),
            Tree::Or(items) if items.is_empty() => "FALSE".to_owned(),
            Tree::And(items) => list(items, " AND "),
            Tree::Or(items) => list(items, " OR "),
            Tree::Not(item) => match &**item {
                Tree::IsNull(inner) => format!("{} IS NOT NULL", inner.operand(database)),
                other => format!("NOT {}", other.operand(database)),
            },
            Tree::IsNull(item) => format!("{} IS NULL", item.operand(database)),
            Tree::In { item, list: items } => {
                format!("{} IN ({})", item.operand(database), list(items, ", "))
            }
            Tree::Between { item, low, high } => {
                format!(
                    "{} BETWEEN {} AND {}",
                    item.operand(database),
                    low.operand(database),
                    high.operand(database)
                )
            }
            Tree::Call { function, arguments } => {
                let arguments = arguments
                    .iter()
                    .map(|item| item.to_text(database))
                    .collect::<Vec<_>>()
                    .join(", ");
                format!("{}({arguments})", quoting::path(function, database))
            }
        }
    }

    fn operand(&self, database: Option<Database>) -> String {
        match self {
            Tree::Column(_) | Tree::Literal(_) | Tree::Call { .. } => self.to_text(database),
            _ => format!("({})", self.to_text(database)),
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

/// A number without digits after the point, where they say nothing: `3.0` is 3.
fn whole(number: serde_json::Number) -> Value {
    let exact = |value: &f64| {
        number.is_f64() && value.fract() == 0.0 && value.abs() < 9_007_199_254_740_992.0
    };
    number
        .as_f64()
        .filter(exact)
        .map_or(Value::Number(number.clone()), |value| Value::from(value as i64))
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
