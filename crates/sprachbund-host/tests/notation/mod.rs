//! Expressions as tests write them: `'text'`, `name`, `f(a, n=b)`, `[a, b]`, `{k: v}`, `...spread`,
//! `(a) => b`, `(op a b)`, and `?` for what is opaque.

use sprachbund_host::outline::{Expr, ExprKind};

pub(crate) fn list<'a>(items: impl IntoIterator<Item = &'a Expr>) -> String {
    items.into_iter().map(expr).collect::<Vec<_>>().join(", ")
}

pub(crate) fn expr(expression: &Expr) -> String {
    match &expression.kind {
        ExprKind::Text(text) => format!("'{text}'"),
        ExprKind::Number(text) | ExprKind::Name(text) => text.to_string(),
        ExprKind::Boolean(value) => value.to_string(),
        ExprKind::Null => "null".into(),
        ExprKind::Call(call) => {
            let named = call.named.iter().map(|(name, value)| format!("{name}={}", expr(value)));
            let all: Vec<String> = call.arguments.iter().map(expr).chain(named).collect();
            format!("{}({})", expr(&call.callee), all.join(", "))
        }
        ExprKind::List(items) => format!("[{}]", list(items)),
        ExprKind::Map(pairs) => {
            let pairs: Vec<String> = pairs
                .iter()
                .map(|(key, value)| format!("{}: {}", expr(key), expr(value)))
                .collect();
            format!("{{{}}}", pairs.join(", "))
        }
        ExprKind::Spread(inner) => format!("...{}", expr(inner)),
        ExprKind::Function { parameters, returns } => {
            format!(
                "({}) => {}",
                parameters.join(", "),
                returns.as_ref().map_or("?".into(), |returned| expr(returned))
            )
        }
        ExprKind::Operation { operator, operands } => {
            format!("({operator} {})", operands.iter().map(expr).collect::<Vec<_>>().join(" "))
        }
        ExprKind::Opaque => "?".into(),
    }
}
