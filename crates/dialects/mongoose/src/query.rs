//! Conditions of indexes: what MongoDB takes as `partialFilterExpression` (manual, "Partial
//! Indexes"), and the same as an expression. Equality, order, `$exists: true`, `$in`, and both
//! joined by `$and` and `$or`.

use serde_json::Value;

use crate::host::evaluate::constant;
use crate::host::outline::{Expr, ExprKind};
use crate::quoting::typescript::{literal, property_key};
use crate::schema::expression::Tree;

/// Comparisons, and their signs in SQL.
const COMPARISONS: &[(&str, &str)] =
    &[("$eq", "="), ("$gt", ">"), ("$gte", ">="), ("$lt", "<"), ("$lte", "<=")];

/// The expression of a query; nothing where it says what SQL has no word for.
pub(super) fn read(query: &Expr) -> Option<Tree> {
    let ExprKind::Map(pairs) = &query.kind else { return None };
    let terms: Vec<Tree> =
        pairs.iter().map(|(key, value)| term(key.text()?, value)).collect::<Option<_>>()?;
    joined(terms, Tree::And)
}

fn joined(mut terms: Vec<Tree>, join: fn(Vec<Tree>) -> Tree) -> Option<Tree> {
    match terms.len() {
        0 => None,
        1 => terms.pop(),
        _ => Some(join(terms)),
    }
}

fn term(key: &str, value: &Expr) -> Option<Tree> {
    match key {
        "$and" | "$or" => {
            let terms = value.list()?.iter().map(read).collect::<Option<_>>()?;
            joined(terms, if key == "$and" { Tree::And } else { Tree::Or })
        }
        _ if key.starts_with('$') => None,
        path => {
            let column = || Tree::Column(path.to_owned());
            let ExprKind::Map(pairs) = &value.kind else {
                return Some(Tree::binary("=", column(), Tree::Literal(plain(value)?)));
            };
            let terms: Vec<Tree> = pairs
                .iter()
                .map(|(key, value)| compared(column(), key.text()?, value))
                .collect::<Option<_>>()?;
            joined(terms, Tree::And)
        }
    }
}

fn compared(column: Tree, operator: &str, value: &Expr) -> Option<Tree> {
    match operator {
        "$exists" => (value.boolean() == Some(true))
            .then(|| Tree::Not(Box::new(Tree::IsNull(Box::new(column))))),
        "$in" => {
            let list = value
                .list()?
                .iter()
                .map(|item| plain(item).map(Tree::Literal))
                .collect::<Option<_>>()?;
            Some(Tree::In { item: Box::new(column), list })
        }
        _ => {
            let (_, sign) = COMPARISONS.iter().find(|(known, _)| *known == operator)?;
            Some(Tree::binary(sign, column, Tree::Literal(plain(value)?)))
        }
    }
}

/// A text, a number or a truth value.
fn plain(value: &Expr) -> Option<Value> {
    constant(value).filter(|value| value.is_string() || value.is_number() || value.is_boolean())
}

/// The query of an expression; nothing where MongoDB would not take it.
pub(crate) fn print(tree: &Tree) -> Option<String> {
    let list = |word: &str, terms: &[Tree]| {
        let terms: Vec<String> = terms.iter().map(print).collect::<Option<_>>()?;
        Some(format!("{{ {word}: [{}] }}", terms.join(", ")))
    };
    match tree {
        Tree::And(terms) => list("$and", terms),
        Tree::Or(terms) => list("$or", terms),
        Tree::Not(inner) => match &**inner {
            Tree::IsNull(column) => Some(format!("{{ {}: {{ $exists: true }} }}", path(column)?)),
            _ => None,
        },
        Tree::In { item, list } => {
            let values: Vec<String> = list.iter().map(value).collect::<Option<_>>()?;
            Some(format!("{{ {}: {{ $in: [{}] }} }}", path(item)?, values.join(", ")))
        }
        Tree::Binary { operator, left, right } => {
            let (word, _) = COMPARISONS.iter().find(|(_, sign)| *sign == operator)?;
            let (path, value) = (path(left)?, value(right)?);
            Some(if *word == "$eq" {
                format!("{{ {path}: {value} }}")
            } else {
                format!("{{ {path}: {{ {word}: {value} }} }}")
            })
        }
        _ => None,
    }
}

fn path(tree: &Tree) -> Option<String> {
    match tree {
        Tree::Column(column) => Some(property_key(column)),
        _ => None,
    }
}

fn value(tree: &Tree) -> Option<String> {
    match tree {
        Tree::Literal(value) if !value.is_null() => Some(literal(value)),
        _ => None,
    }
}
