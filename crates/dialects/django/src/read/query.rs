//! Query expressions (`Q`, `F`, functions) to the neutral expression tree. Columns are attribute
//! names here; `resolve` puts the stored names in.

use super::field::literal;
use super::last;
use crate::host::evaluate::Scope;
use crate::host::outline::{Call, Expr, ExprKind};
use crate::schema::Expression;
use crate::schema::expression::Tree;
use crate::types::FUNCTIONS;

/// Comparison lookups and their SQL operators.
const COMPARISONS: &[(&str, &str)] =
    &[("exact", "="), ("gt", ">"), ("gte", ">="), ("lt", "<"), ("lte", "<=")];

/// Arithmetic that combines expressions.
const ARITHMETIC: &[&str] = &["+", "-", "*", "/", "%"];

/// Functions that mark a text for translation.
const TRANSLATIONS: &[&str] =
    &["_", "gettext", "gettext_lazy", "ugettext", "ugettext_lazy", "pgettext_lazy", "gettext_noop"];

/// Texts, also those marked for translation.
pub(super) fn plain_text(scope: &Scope<'_>, expr: &Expr) -> Option<String> {
    let value = scope.value(expr);
    if let Some(text) = value.text() {
        return Some(text.to_owned());
    }
    let call = value.call()?;
    TRANSLATIONS.contains(&last(call.callee_name()).as_str()).then_some(())?;
    plain_text(scope, call.arguments.last()?)
}

/// An expression that the database evaluates; what is not understood keeps its text.
pub(super) fn expression(scope: &Scope<'_>, expr: &Expr) -> Expression {
    if let Some(text) = raw_sql(scope, expr) {
        return Expression::parse_sql_of(&text, scope.project.database);
    }
    match tree(scope, expr) {
        Some(tree) => Expression::sql(tree),
        None => Expression::host("python", scope.project.sources.text(expr.span)),
    }
}

/// The text of `RawSQL("...", ())`, when nothing is put into it.
pub(super) fn raw_sql(scope: &Scope<'_>, expr: &Expr) -> Option<String> {
    let call = expr
        .call()
        .filter(|call| last(&scope.path(call.callee_name())) == "RawSQL" && only_typed(call))?;
    let values = call.arguments.get(1).map(|values| scope.value(values));
    let empty = values.is_some_and(|values| values.list().is_some_and(<[Expr]>::is_empty));
    scope.value(call.arguments.first()?).text().filter(|_| empty).map(str::to_owned)
}

/// Whether the named arguments of a call say nothing but the type of its result in the application.
fn only_typed(call: &Call) -> bool {
    call.named.iter().all(|(name, _)| name == "output_field")
}

fn tree(scope: &Scope<'_>, expr: &Expr) -> Option<Tree> {
    let expr = &scope.value(expr);
    if let Some(call) = expr.call() {
        let word = last(&scope.path(call.callee_name()));
        let operands = || {
            call.arguments
                .iter()
                .map(|argument| operand(scope, argument))
                .collect::<Option<Vec<Tree>>>()
        };
        return match word.as_str() {
            "Q" => {
                let mut parts: Vec<Tree> = call
                    .arguments
                    .iter()
                    .map(|argument| tree(scope, argument))
                    .collect::<Option<_>>()?;
                for (lookup, value) in &call.named {
                    parts.push(condition(scope, lookup, value)?);
                }
                Some(Tree::And(parts))
            }
            _ if !only_typed(call) => None,
            "F" => Some(Tree::Column(call.arguments.first()?.text()?.to_owned())),
            "Value" | "Decimal" => Some(Tree::Literal(literal(scope, expr)?)),
            "ExpressionWrapper" => tree(scope, call.arguments.first()?),
            "RawSQL" => {
                Expression::parse_sql_of(&raw_sql(scope, expr)?, scope.project.database).tree
            }
            _ => {
                let (_, function) = FUNCTIONS.iter().find(|(known, _)| *known == word)?;
                Some(Tree::Call { function: (*function).to_owned(), arguments: operands()? })
            }
        };
    }
    match &expr.kind {
        ExprKind::Operation { operator, operands } => {
            match (operator.as_str(), operands.as_slice()) {
                ("&", [left, right]) => {
                    Some(Tree::And(vec![tree(scope, left)?, tree(scope, right)?]))
                }
                ("|", [left, right]) => {
                    Some(Tree::Or(vec![tree(scope, left)?, tree(scope, right)?]))
                }
                ("~", [item]) => Some(Tree::Not(Box::new(tree(scope, item)?))),
                (operator, [left, right]) if ARITHMETIC.contains(&operator) => {
                    Some(Tree::binary(operator, operand(scope, left)?, operand(scope, right)?))
                }
                _ => None,
            }
        }
        _ => literal(scope, expr).map(Tree::Literal),
    }
}

/// An argument of a function: a text names an attribute.
pub(super) fn operand(scope: &Scope<'_>, expr: &Expr) -> Option<Tree> {
    let value = scope.value(expr);
    match value.text() {
        Some(name) => Some(Tree::Column(name.to_owned())),
        None => tree(scope, &value),
    }
}

/// One keyword of a `Q`: `attribute__lookup=value`.
fn condition(scope: &Scope<'_>, keyword: &str, value: &Expr) -> Option<Tree> {
    let (attribute, lookup) = keyword.split_once("__").unwrap_or((keyword, "exact"));
    let column = Tree::Column(attribute.to_owned());
    let value = scope.value(value);
    let operand = |expr: &Expr| tree(scope, expr);
    if let Some((_, operator)) = COMPARISONS.iter().find(|(known, _)| *known == lookup) {
        return match (lookup, &value.kind) {
            ("exact", ExprKind::Null) => Some(Tree::IsNull(Box::new(column))),
            _ => Some(Tree::binary(operator, column, operand(&value)?)),
        };
    }
    match (lookup, &value.kind) {
        ("isnull", ExprKind::Boolean(true)) => Some(Tree::IsNull(Box::new(column))),
        ("isnull", ExprKind::Boolean(false)) => {
            Some(Tree::Not(Box::new(Tree::IsNull(Box::new(column)))))
        }
        ("in", ExprKind::List(items)) => Some(Tree::In {
            item: Box::new(column),
            list: items.iter().map(operand).collect::<Option<_>>()?,
        }),
        ("range", ExprKind::List(items)) => match items.as_slice() {
            [low, high] => Some(Tree::Between {
                item: Box::new(column),
                low: Box::new(operand(low)?),
                high: Box::new(operand(high)?),
            }),
            _ => None,
        },
        _ => None,
    }
}
