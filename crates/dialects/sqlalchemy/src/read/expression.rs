//! SQL expressions as Python writes them, to the neutral tree. Columns are stored names: attributes
//! of the class are known by `columns`.

use super::word;
use crate::host::evaluate::{Scope, constant};
use crate::host::outline::{Call, Expr, ExprKind};
use crate::schema::Expression;
use crate::schema::expression::Tree;

/// Operators of comparisons and arithmetic, and SQL's own.
const OPERATORS: &[(&str, &str)] = &[
    ("==", "="),
    ("!=", "<>"),
    ("<", "<"),
    ("<=", "<="),
    (">", ">"),
    (">=", ">="),
    ("+", "+"),
    ("-", "-"),
    ("*", "*"),
    ("/", "/"),
    ("%", "%"),
];

/// Functions of `func` whose parentheses SQL leaves out.
const BARE: &[&str] = &["current_timestamp", "current_date", "current_time", "localtimestamp"];

/// How the expressions of one class name columns.
pub(super) struct Names<'n, 'p> {
    pub(super) scope: Scope<'p>,
    pub(super) columns: &'n dyn Fn(&str) -> Option<String>,
}

impl Names<'_, '_> {
    /// An expression that the database evaluates; what is not understood keeps its text.
    pub(super) fn expression(&self, expr: &Expr) -> Expression {
        if let Some(text) = self.text(expr) {
            return Expression::parse_sql_of(&text, self.scope.project.database);
        }
        let bare = expr
            .call()
            .filter(|call| call.arguments.is_empty() && call.named.is_empty())
            .and_then(|call| call.callee.name()?.rsplit_once("func."));
        if let Some((_, name)) = bare.filter(|(_, name)| BARE.contains(name)) {
            return Expression::parse_sql(name);
        }
        match self.tree(expr) {
            Some(tree) => Expression::sql(tree),
            None => Expression::host("python", self.scope.project.sources.text(expr.span)),
        }
    }

    /// The SQL of `text("...")` or of a plain text.
    pub(super) fn text(&self, expr: &Expr) -> Option<String> {
        if let Some(call) = expr.call().filter(|call| {
            call.named.is_empty()
                && matches!(word(&self.scope, call).as_str(), "text" | "literal_column")
        }) {
            return self.scope.value(call.arguments.first()?).text().map(unescaped);
        }
        self.scope.value(expr).text().map(unescaped)
    }

    /// The column that a name stands for.
    pub(super) fn column(&self, expr: &Expr) -> Option<String> {
        let name = expr.name()?;
        (self.columns)(super::last(name))
    }

    fn tree(&self, expr: &Expr) -> Option<Tree> {
        if let Some(column) = self.column(expr) {
            return Some(Tree::Column(column));
        }
        match &expr.kind {
            ExprKind::Call(call) => self.call(call),
            ExprKind::Operation { operator, operands } => {
                match (operator.as_str(), operands.as_slice()) {
                    ("&", [left, right]) => {
                        Some(Tree::And(vec![self.tree(left)?, self.tree(right)?]))
                    }
                    ("|", [left, right]) => {
                        Some(Tree::Or(vec![self.tree(left)?, self.tree(right)?]))
                    }
                    ("~" | "not", [item]) => Some(Tree::Not(Box::new(self.tree(item)?))),
                    ("==" | "is", [left, right]) if right.kind == ExprKind::Null => {
                        Some(Tree::IsNull(Box::new(self.tree(left)?)))
                    }
                    ("!=" | "is not", [left, right]) if right.kind == ExprKind::Null => {
                        Some(Tree::Not(Box::new(Tree::IsNull(Box::new(self.tree(left)?)))))
                    }
                    (operator, [left, right]) => {
                        let (_, sql) = OPERATORS.iter().find(|(known, _)| *known == operator)?;
                        Some(Tree::binary(sql, self.tree(left)?, self.tree(right)?))
                    }
                    _ => None,
                }
            }
            _ => constant(&self.scope.value(expr)).map(Tree::Literal),
        }
    }

    fn call(&self, call: &Call) -> Option<Tree> {
        if !call.named.is_empty() {
            return None;
        }
        let operands = || {
            call.arguments.iter().map(|argument| self.tree(argument)).collect::<Option<Vec<Tree>>>()
        };
        let name = call.callee.name().unwrap_or_default();
        let method = super::last(name);
        let function = name.split('.').rev().nth(1) == Some("func");
        if function && BARE.contains(&method) && call.arguments.is_empty() {
            return Expression::parse_sql(method).tree;
        }
        if function {
            return Some(Tree::Call { function: method.to_lowercase(), arguments: operands()? });
        }
        match word(&self.scope, call).as_str() {
            "and_" => return Some(Tree::And(operands()?)),
            "or_" => return Some(Tree::Or(operands()?)),
            "not_" => return Some(Tree::Not(Box::new(operands()?.pop()?))),
            "text" | "literal_column" => {
                return Expression::parse_sql_of(
                    &self.text(&Expr {
                        kind: ExprKind::Call(Box::new(call.clone())),
                        span: call.callee.span,
                    })?,
                    self.scope.project.database,
                )
                .tree;
            }
            "true" => return Some(Tree::Literal(true.into())),
            "false" => return Some(Tree::Literal(false.into())),
            "null" => return Some(Tree::Literal(serde_json::Value::Null)),
            "literal" => {
                return constant(&self.scope.value(call.arguments.first()?)).map(Tree::Literal);
            }
            _ => {}
        }
        let item = match &call.callee.kind {
            ExprKind::Name(name) => {
                (self.columns)(super::last(name.rsplit_once('.')?.0)).map(Tree::Column)?
            }
            ExprKind::Operation { operands, .. } => self.tree(operands.first()?)?,
            _ => return None,
        };
        let method = match &call.callee.kind {
            ExprKind::Operation { operator, .. } => operator.trim_start_matches('.'),
            _ => method,
        };
        let item = Box::new(item);
        match (method, call.arguments.as_slice()) {
            ("is_", [value]) if value.kind == ExprKind::Null => Some(Tree::IsNull(item)),
            ("is_not" | "isnot", [value]) if value.kind == ExprKind::Null => {
                Some(Tree::Not(Box::new(Tree::IsNull(item))))
            }
            ("is_", [value]) => Some(Tree::binary("=", *item, self.tree(value)?)),
            ("in_", [list]) => {
                let list = self
                    .scope
                    .value(list)
                    .list()?
                    .iter()
                    .map(|item| self.tree(item))
                    .collect::<Option<Vec<_>>>()?;
                Some(Tree::In { item, list })
            }
            ("between", [low, high]) => Some(Tree::Between {
                item,
                low: Box::new(self.tree(low)?),
                high: Box::new(self.tree(high)?),
            }),
            ("like", [pattern]) => Some(Tree::binary("like", *item, self.tree(pattern)?)),
            _ => None,
        }
    }
}

/// A text of SQL without the marks that keep its colons from being taken for parameters.
pub(super) fn unescaped(text: &str) -> String {
    text.replace("\\:", ":")
}
