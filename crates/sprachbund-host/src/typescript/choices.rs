//! Lists of values to which something is restricted.

use serde_json::Value;

use super::place::Place;
use crate::evaluate::constant;
use crate::outline::{ClassKind, Expr, ExprKind};
use crate::project::Found;

/// What a list holds.
pub enum Choices {
    /// The values of an `enum` of the language.
    Enumeration(String),
    Values(Vec<Value>),
}

/// The choices of a list, if they are known.
pub fn choices(place: &Place<'_>, list: &Expr) -> Option<Choices> {
    if let Some(name) = of_language(place, list) {
        return Some(Choices::Enumeration(name));
    }
    match values_of(place, list)?.kind {
        ExprKind::List(items) => {
            items.iter().map(constant).collect::<Option<_>>().map(Choices::Values)
        }
        _ => None,
    }
}

/// The `enum` whose values a list holds: `Object.values(Name)`, or all its members by name.
fn of_language(place: &Place<'_>, list: &Expr) -> Option<String> {
    let class_of = |path: &str| match place.scope().lookup(path) {
        Found::Class(_, class) if class.kind == ClassKind::Enum => Some(class),
        _ => None,
    };
    if let Some(call) = list.call().filter(|call| call.callee_name() == "Object.values") {
        return class_of(call.arguments.first()?.name()?).map(|class| class.name.to_string());
    }
    let members: Vec<(&str, &str)> =
        list.list()?.iter().map(|item| item.name()?.rsplit_once('.')).collect::<Option<_>>()?;
    let class = class_of(members.first()?.0)?;
    let all = members.iter().all(|(owner, _)| *owner == members[0].0)
        && members
            .iter()
            .map(|(_, name)| *name)
            .eq(class.members.iter().map(|member| member.name.as_str()));
    all.then(|| class.name.to_string())
}

/// A list as it is worth: `Object.values` and `Object.keys` of a constant put in.
fn values_of(place: &Place<'_>, list: &Expr) -> Option<Expr> {
    let value = place.value(list);
    let Some(call) = value.call() else { return Some(value) };
    let whole = place.value(call.arguments.first()?);
    let ExprKind::Map(pairs) = whole.kind else { return None };
    let items = match call.callee_name() {
        "Object.values" => pairs.into_iter().map(|(_, value)| value).collect(),
        "Object.keys" => pairs.into_iter().map(|(key, _)| key).collect(),
        _ => return None,
    };
    Some(Expr { kind: ExprKind::List(items), span: value.span })
}
