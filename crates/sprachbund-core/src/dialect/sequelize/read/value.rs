//! `defaultValue`: what the database fills in, or the application.

use super::last_name;
use super::place::Place;
use crate::declaration::FieldDeclaration;
use crate::host::evaluate::constant;
use crate::host::outline::{Call, Expr, ExprKind};
use crate::schema::expression::{literal_sql, quote_name};
use crate::schema::{Database, Default_, Function};
use serde_json::Value;

/// The calendar day as an expression of the language.
pub(in crate::dialect::sequelize) const TODAY: &str = "new Date().toISOString().slice(0, 10)";

/// Words of the framework for values that the application makes.
const MADE: &[(&str, Function)] = &[("NOW", Function::Now), ("UUIDV4", Function::RandomUuid)];

/// Calls that give a value that every dialect has.
const CALLS: &[(&str, Function)] = &[
    ("new Date", Function::Now),
    ("randomUUID", Function::RandomUuid),
    ("crypto.randomUUID", Function::RandomUuid),
    ("uuidv4", Function::RandomUuid),
];

/// Reads a default into its column.
pub(super) fn default(place: &Place<'_>, written: &Expr, declared: &mut FieldDeclaration) {
    let value = place.value(written);
    let text = || place.project.sources.text(written.span);
    if let Some(sql) = sql(&value) {
        declared.database_default = Some(Box::new(Default_::parse_sql(&sql, place.project.database)));
        return;
    }
    let made = value.call().map_or(&value, |call| &call.callee);
    let word = last_name(made).unwrap_or_default();
    let application = match &value.kind {
        _ if MADE.iter().any(|(known, _)| *known == word) => {
            MADE.iter().find(|(known, _)| *known == word).map(|(_, function)| Default_::Function(*function))
        }
        ExprKind::Function { returns, .. } => Some(returned(place, returns.as_deref(), text())),
        ExprKind::Name(name) => {
            let called = CALLS.iter().find(|(known, _)| known == name).map(|(_, function)| Default_::Function(*function));
            Some(called.unwrap_or_else(|| Default_::host("typescript", text())))
        }
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
            let sql = if place.project.database == Database::Sqlite { format!("X'{bytes}'") } else { format!("'\\x{bytes}'") };
            declared.database_default = Some(Box::new(Default_::parse_sql(&sql, place.project.database)));
        }
        Some(value) => declared.database_default = Some(Box::new(Default_::Literal(value))),
        None => declared.application_default = Some(Box::new(Default_::host("typescript", text()))),
    }
}

/// What a function gives that the application calls.
fn returned(place: &Place<'_>, returns: Option<&Expr>, text: &str) -> Default_ {
    let host = || Default_::host("typescript", text);
    let Some(returned) = returns else { return host() };
    if place.project.sources.text(returned.span) == TODAY {
        return Default_::Function(Function::Today);
    }
    if let Some(call) = returned.call()
        && let Some((_, function)) = CALLS.iter().find(|(known, _)| *known == call.callee_name() && call.arguments.is_empty())
    {
        return Default_::Function(*function);
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
        "col" => call.arguments.first()?.text().map(quote_name),
        _ => None,
    }
}

fn function(call: &Call) -> Option<String> {
    let (name, arguments) = call.arguments.split_first()?;
    let argument = |argument: &Expr| sql(argument).or_else(|| constant(argument).map(|value| literal_sql(&value)));
    let arguments: Vec<String> = arguments.iter().map(argument).collect::<Option<_>>()?;
    Some(format!("{}({})", name.text()?, arguments.join(", ")))
}
