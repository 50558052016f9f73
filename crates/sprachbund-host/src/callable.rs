//! Callables of Python that give a column its value.

use serde_json::{Value, json};

use crate::evaluate::{Scope, constant};
use crate::outline::{Expr, ExprKind};
use crate::project::Found;
use crate::schema::{Default_, Function};

/// A callable by its dotted path, and what it gives.
pub type Callable = (&'static str, Function);

/// Callables of the standard library.
const FUNCTIONS: &[Callable] = &[
    ("datetime.datetime.now", Function::Now),
    ("datetime.datetime.utcnow", Function::Now),
    ("datetime.date.today", Function::Today),
    ("uuid.uuid4", Function::RandomUuid),
];

/// What the application fills in: a constant (as `literal` reads one), a callable of the standard
/// library or of the framework (`own`), or the path of a callable.
pub fn application_default(
    scope: &Scope<'_>,
    expr: &Expr,
    own: &[Callable],
    literal: impl Fn(&Scope<'_>, &Expr) -> Option<Value>,
) -> Option<Default_> {
    if let Some(name) = expr.name() {
        match name {
            "list" => return Some(Default_::Literal(json!([]))),
            "dict" => return Some(Default_::Literal(json!({}))),
            "str" => return Some(Default_::Literal(json!(""))),
            _ => {}
        }
        match scope.lookup(name) {
            Found::External(path) => {
                let known = known(own, &path);
                return Some(
                    known.map_or_else(|| Default_::host("python", path), Default_::Function),
                );
            }
            Found::Function(file, function) => {
                let scope = Scope { project: scope.project, file, class: None };
                if let Some(function) =
                    function.returns.as_ref().and_then(|returned| called(&scope, returned, own))
                {
                    return Some(Default_::Function(function));
                }
                let value = function
                    .returns
                    .as_ref()
                    .map(|returned| scope.value(returned))
                    .and_then(|value| constant(&value));
                return Some(value.map_or_else(
                    || Default_::host("python", module_path(&scope, &function.name)),
                    Default_::Literal,
                ));
            }
            _ => {}
        }
    }
    if let ExprKind::Function { parameters, returns: Some(returned) } = &expr.kind
        && parameters.iter().all(|name| name.is_empty())
    {
        if let Some(function) = called(scope, returned, own) {
            return Some(Default_::Function(function));
        }
        if let Some(value) = constant(&scope.value(returned)) {
            return Some(Default_::Literal(value));
        }
    }
    let value = scope.value(expr);
    match literal(scope, &value) {
        Some(Value::Null) => None,
        Some(value) => Some(Default_::Literal(value)),
        None => Some(Default_::host("python", scope.project.sources.text(expr.span))),
    }
}

/// The function that a call runs, whatever zone it is told.
fn called(scope: &Scope<'_>, returned: &Expr, own: &[Callable]) -> Option<Function> {
    let call = returned.call()?;
    let path = scope.path(call.callee.name()?);
    // An identifier as text is the same to the database.
    if let ("str", [inner]) = (path.as_str(), call.arguments.as_slice()) {
        return called(scope, inner, own).filter(|made| *made == Function::RandomUuid);
    }
    known(own, &path)
}

/// What a callable gives, by its path.
fn known(own: &[Callable], path: &str) -> Option<Function> {
    FUNCTIONS.iter().chain(own).find(|(known, _)| *known == path).map(|(_, function)| *function)
}

/// The dotted path of something declared in the file of `scope`.
pub(crate) fn module_path(scope: &Scope<'_>, name: &str) -> String {
    let path = scope.project.path(scope.file).trim_end_matches(".py").trim_end_matches("/__init__");
    let parts: Vec<&str> =
        path.split('/').filter(|part| !part.is_empty() && *part != ".").collect();
    let tail = &parts[parts.len().saturating_sub(2)..];
    format!("{}.{name}", tail.join("."))
}

/// A constant, with the standard library's exact numbers and identifiers read as text.
pub fn exact(scope: &Scope<'_>, value: &Expr) -> Option<Value> {
    let Some(call) = value.call() else { return constant(value) };
    let ([argument], []) = (call.arguments.as_slice(), call.named.as_slice()) else { return None };
    let path = scope.path(call.callee_name());
    match (path.rsplit('.').next()?, &argument.kind) {
        ("Decimal" | "UUID", ExprKind::Text(text) | ExprKind::Number(text)) => {
            Some(Value::String(text.to_string()))
        }
        _ => None,
    }
}
