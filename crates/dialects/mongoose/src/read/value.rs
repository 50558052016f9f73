//! `default`: a constant, a function that the framework calls for each document, or what neither
//! can be read as.

use serde_json::{Value, json};

use crate::decision::values::coerced;
use crate::declaration::FieldDeclaration;
use crate::host::evaluate::constant;
use crate::host::outline::{Expr, ExprKind};
use crate::host::typescript::place::Place;
use crate::host::typescript::value::{called, made};
use crate::schema::{Default_, Function, Type};

/// What a list is where nothing else is said.
pub(super) fn empty_list() -> Default_ {
    Default_::Literal(json!([]))
}

/// Reads a default, which is always the application's.
pub(super) fn default(place: &Place<'_>, written: &Expr, declared: &mut FieldDeclaration) {
    let value = place.value(written);
    let text = || place.project.sources.text(written.span);
    // Each place of the text is a moment of its own.
    let moment = |name: &str| name == "Date.now" || name == "Date";
    let found = match &value.kind {
        ExprKind::Name(name) if name == "undefined" => None,
        ExprKind::Name(name) if moment(name) => Some(Default_::Function(Function::Now)),
        ExprKind::Name(name) => Some(
            called(name).map_or_else(|| Default_::host("typescript", text()), Default_::Function),
        ),
        ExprKind::Function { returns, .. } => Some(returned(place, returns.as_deref(), text())),
        _ => match constant(&value) {
            Some(Value::Null) => None,
            Some(value) => Some(Default_::Literal(value)),
            None => Some(Default_::host("typescript", text())),
        },
    };
    // Every number of the language may have digits after the point.
    let number = declared.spelling.word == "Number";
    declared.application_default =
        found.map(|found| Box::new(if number { coerced(&Type::Double, found) } else { found }));
}

/// What a function gives that the framework calls.
fn returned(place: &Place<'_>, returns: Option<&Expr>, text: &str) -> Default_ {
    let host = || Default_::host("typescript", text);
    let Some(returned) = returns else { return host() };
    let written = place.project.sources.text(returned.span);
    if returned
        .call()
        .is_some_and(|call| call.callee_name() == "Date.now" && call.arguments.is_empty())
    {
        return Default_::Function(Function::Now);
    }
    if let Some(function) = made(returned, written) {
        return Default_::Function(function);
    }
    match constant(&place.value(returned)) {
        Some(Value::Null) | None => host(),
        Some(value) => Default_::Literal(value),
    }
}
