//! `defaultValue`: what the database fills in, or the application.

use serde_json::Value;

use crate::declaration::FieldDeclaration;
use crate::host::evaluate::constant;
use crate::host::outline::{Call, Expr, ExprKind};
use crate::host::typescript::place::{Place, last_name};
use crate::host::typescript::value::{called, made};
use crate::quoting::sql::{standard_literal, standard_name};
use crate::schema::{Database, Default_, Function};

/// Words of the framework for values that the application makes.
const MADE: &[(&str, Function)] = &[("NOW", Function::Now), ("UUIDV4", Function::RandomUuid)];

/// Reads a default into its column.
pub(super) fn default(place: &Place<'_>, written: &Expr, declared: &mut FieldDeclaration) {
    let value = place.value(written);
    let text = || place.project.sources.text(written.span);
    if let Some(sql) = sql(&value) {
        declared.database_default =
            Some(Box::new(Default_::parse_sql(&sql, place.project.database)));
        return;
    }
    let made = value.call().map_or(&value, |call| &call.callee);
    let word = last_name(made).unwrap_or_default();
    let of_framework = MADE
        .iter()
        .find(|(known, _)| *known == word)
        .map(|(_, function)| Default_::Function(*function));
    let application = match &value.kind {
        _ if of_framework.is_some() => of_framework,
        ExprKind::Function { returns, .. } => Some(returned(place, returns.as_deref(), text())),
        ExprKind::Name(name) => Some(
            called(name).map_or_else(|| Default_::host("typescript", text()), Default_::Function),
        ),
        _ => None,
    };
    if let Some(application) = application {
        declared.application_default = Some(Box::new(application));
        return;
    }
    match constant(&value) {
        Some(Value::Null) => {}
        Some(Value::String(letters)) if declared.spelling.word == "BLOB" => {
            let bytes: String = letters.bytes().map(|byte| format!("{byte:02x}")).collect();
            let sql = if place.project.database == Database::Sqlite {
                format!("X'{bytes}'")
            } else {
                format!("'\\x{bytes}'")
            };
            declared.database_default =
                Some(Box::new(Default_::parse_sql(&sql, place.project.database)));
        }
        Some(value) => declared.database_default = Some(Box::new(Default_::Literal(value))),
        None => declared.application_default = Some(Box::new(Default_::host("typescript", text()))),
    }
}

/// What a function gives that the application calls.
fn returned(place: &Place<'_>, returns: Option<&Expr>, text: &str) -> Default_ {
    let host = || Default_::host("typescript", text);
    let Some(returned) = returns else { return host() };
    if let Some(function) = made(returned, place.project.sources.text(returned.span)) {
        return Default_::Function(function);
    }
    match constant(&place.value(returned)) {
        Some(Value::Null) | None => host(),
        Some(value) => Default_::Literal(value),
    }
}

/// The SQL of `literal('...')` or `fn('name', ...)`.
pub(super) fn sql(value: &Expr) -> Option<String> {
    let call = value.call()?;
    match last_name(&call.callee)? {
        "literal" => call.arguments.first()?.text().map(str::to_owned),
        "fn" => function(call),
        "col" => call.arguments.first()?.text().map(standard_name),
        _ => None,
    }
}

fn function(call: &Call) -> Option<String> {
    let (name, arguments) = call.arguments.split_first()?;
    let argument = |argument: &Expr| {
        sql(argument).or_else(|| constant(argument).map(|value| standard_literal(&value)))
    };
    let arguments: Vec<String> = arguments.iter().map(argument).collect::<Option<_>>()?;
    Some(format!("{}({})", name.text()?, arguments.join(", ")))
}
