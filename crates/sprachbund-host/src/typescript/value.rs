//! Values of TypeScript that every dialect has, as the application makes them.

use serde_json::json;

use crate::evaluate::{Scope, constant};
use crate::outline::{Class, Expr};
use crate::schema::{EnumMember, EnumType, Function, Origin};

/// The calendar day.
pub const TODAY: &str = "new Date().toISOString().slice(0, 10)";

/// Up to here every whole number is a number of the language.
pub const EXACT: u64 = 1 << 53;

/// Calls without arguments.
const CALLS: &[(&str, Function)] = &[
    ("new Date", Function::Now),
    ("randomUUID", Function::RandomUuid),
    ("crypto.randomUUID", Function::RandomUuid),
    ("uuidv4", Function::RandomUuid),
];

/// What a function that is called without arguments gives.
pub fn called(name: &str) -> Option<Function> {
    CALLS.iter().find(|(known, _)| *known == name).map(|(_, function)| *function)
}

/// What an expression gives each time that it is evaluated; `text` is how it is written.
pub fn made(expr: &Expr, text: &str) -> Option<Function> {
    if text == TODAY {
        return Some(Function::Today);
    }
    expr.call().filter(|call| call.arguments.is_empty()).and_then(|call| called(call.callee_name()))
}

/// An `enum`, as a part of `module`.
pub fn enumeration(scope: &Scope<'_>, class: &Class, module: String) -> Option<EnumType> {
    Some(EnumType {
        name: class.name.to_string(),
        stored_name: None,
        members: enum_members(scope, class)?,
        module,
        inline: false,
        origin: Origin::declared(scope.project.sources.file(class.span.file), class.span),
    })
}

/// Members of an `enum`; one without a value counts up from the one before, whose value may be a
/// constant's.
fn enum_members(scope: &Scope<'_>, class: &Class) -> Option<Vec<EnumMember>> {
    let mut next = 0;
    let mut members = Vec::new();
    for member in &class.members {
        let value = match &member.value {
            Some(value) => constant(&scope.value(value))?,
            None => json!(next),
        };
        next = value.as_i64().map_or(next, |number| number + 1);
        members.push(EnumMember { name: member.name.to_string(), value, ..EnumMember::default() });
    }
    Some(members)
}
