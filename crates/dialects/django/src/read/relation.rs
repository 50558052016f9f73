//! `ForeignKey`, `OneToOneField` and `ManyToManyField`.

use serde_json::json;
use smol_str::SmolStr;

use super::attributes::Sink;
use super::{field, last};
use crate::codes;
use crate::declaration::{Attribute, InverseName, JoinColumn, RelationDeclaration};
use crate::diagnostic::Diagnostic;
use crate::dialect::conventions::Actor;
use crate::host::arguments::{Arguments, kept};
use crate::host::outline::{Call, Expr, Member};
use crate::host::project::Found;
use crate::schema::{Action, RelationKind};

/// `on_delete` values and their actions.
pub(crate) const ACTIONS: &[(&str, Action)] = &[
    ("CASCADE", Action::Cascade),
    ("PROTECT", Action::Protect),
    ("RESTRICT", Action::Restrict),
    ("SET_NULL", Action::SetNull),
    ("SET_DEFAULT", Action::SetDefault),
    ("DO_NOTHING", Action::NoAction),
];

/// `on_delete` values that leave it to the database, from Django 6.1 on, and their actions.
pub(crate) const DATABASE_ACTIONS: &[(&str, Action)] = &[
    ("DB_CASCADE", Action::Cascade),
    ("DB_SET_NULL", Action::SetNull),
    ("DB_SET_DEFAULT", Action::SetDefault),
];

/// Functions that look a model up by its label and name.
const MODEL_LOOKUPS: &[&str] = &["get_model", "get_model_name"];

/// Reads a relation of the framework's class `word`.
///
/// `defaults` are the arguments that a class of the project which extends it gives by itself, if
/// there is one.
pub(super) fn read(
    sink: &mut Sink<'_, '_>,
    member: &Member,
    call: &Call,
    word: &str,
    defaults: Option<Vec<(SmolStr, Expr)>>,
) -> Option<Attribute> {
    let extended = defaults.is_some();
    let kind = match word {
        "OneToOneField" => RelationKind::OneToOne,
        "ManyToManyField" | "ParentalManyToManyField" => RelationKind::ManyToMany,
        _ => RelationKind::ManyToOne,
    };
    let places: &[&str] = if kind == RelationKind::ManyToMany {
        &["to", "related_name"]
    } else {
        &["to", "on_delete", "related_name"]
    };
    let mut arguments = Arguments::of_call(sink.scope, &call.arguments, places, &call.named);
    arguments.extend_missing(defaults.unwrap_or_default());
    let to = arguments.take_raw("to");
    let target = to.as_ref().and_then(|to| target(sink, to));
    if let (Some(target), Some(call)) = (&target, to.as_ref().and_then(Expr::call)) {
        let message =
            format!("`{}` looks its target up at run time: taken to be `{target}`", member.name);
        sink.diagnostics.push(
            Diagnostic::of(&codes::LOOKED_UP_TARGET, message)
                .at(Some(call.callee.span), "this call"),
        );
    }
    let Some(target) = target else {
        sink.diagnostics.push(opaque_target(member));
        return None;
    };
    let mut relation = RelationDeclaration::new(Some(member.name.to_string()), kind, target);
    relation.span = Some(member.span);
    on_delete(&mut relation, &mut arguments);
    if let Some(name) = arguments.take_text("related_name") {
        relation.inverse = inverse(&name);
    }
    relation.constraint = arguments.take_bool("db_constraint");
    relation.parent_link = arguments.take_bool("parent_link").unwrap_or(false);
    relation.symmetrical = arguments.take_bool("symmetrical");
    let columns = arguments
        .take_text("to_field")
        .map(|name| JoinColumn { references: Some(name), ..JoinColumn::default() });
    relation.join_columns.extend(columns);
    if kind == RelationKind::ManyToMany {
        relation.join_table.name = arguments.take_text("db_table");
        through_fields(&mut relation, &mut arguments);
        relation.through =
            arguments.take_raw("through").and_then(|through| self::target(sink, &through));
    }
    let mut carrier = std::mem::take(&mut relation.carrier);
    carrier.span = Some(member.span);
    field::common(sink, &member.name, &mut carrier, &mut arguments);
    if sink.scope.project.database.is_mysql()
        && kind == RelationKind::ManyToOne
        && relation.constraint != Some(false)
    {
        // Django leaves the index of its own `ForeignKey` to the server, and makes that of classes
        // which extend it.
        carrier.indexed = if word == "ForeignKey" && !extended {
            None
        } else {
            Some(carrier.indexed != Some(false)).filter(|indexed| *indexed)
        };
    }
    relation.carrier = carrier;
    relation.extras.append(&mut arguments.into_extras());
    relation.extras.append(&mut relation.carrier.extras);
    Some(Attribute::Relation(Box::new(relation)))
}

/// Nobody can say what a relation leads to.
fn opaque_target(member: &Member) -> Diagnostic {
    let message = format!("the target of `{}` is known only at run time", member.name);
    Diagnostic::of(&codes::OPAQUE_TARGET, message)
        .at(Some(member.span), "relation to an unknown model")
        .with_help("name the model as a class or as text, `\"label.Name\"`")
}

/// The two attributes of the class that joins; what is no such pair stays as it is written.
fn through_fields(relation: &mut RelationDeclaration, arguments: &mut Arguments<'_>) {
    let Some(value) = arguments.take_raw("through_fields") else { return };
    let kept = kept(&arguments.scope, &value);
    let names = kept.as_array().map(|names| {
        names.iter().filter_map(|name| name.as_str().map(str::to_owned)).collect::<Vec<_>>()
    });
    match (names, kept.as_array()) {
        (Some(names), Some(all)) if names.len() == 2 && all.len() == 2 => {
            relation.through_fields = names
        }
        _ => _ = relation.extras.insert("through_fields".into(), kept),
    }
}

/// One of the named actions, or `SET(value)`; a callable is kept as code.
fn on_delete(relation: &mut RelationDeclaration, arguments: &mut Arguments<'_>) {
    let Some(value) = arguments.take_raw("on_delete") else { return };
    let named = value.name().map(last);
    let among = |actions: &[(&str, Action)]| {
        let found = actions.iter().find(|(known, _)| named.as_deref() == Some(*known));
        found.map(|(_, action)| *action)
    };
    if let Some(action) = among(ACTIONS) {
        relation.on_delete = Some(action);
        return;
    }
    if let Some(action) = among(DATABASE_ACTIONS) {
        (relation.on_delete, relation.acts) = (Some(action), Some(Actor::Database));
        return;
    }
    relation.on_delete = Some(Action::SetValue);
    let constant = value
        .call()
        .filter(|call| last(call.callee_name()) == "SET")
        .and_then(|call| call.arguments.first());
    let kept = constant.map_or_else(
        || json!({ "code": arguments.scope.project.sources.text(value.span) }),
        |value| kept(&arguments.scope, value),
    );
    relation.extras.insert("set_value".into(), kept);
}

/// `related_name`: a trailing `+` hides the other side; `%(class)s` and `%(app_label)s` stand for
/// the class's own names.
pub(super) fn inverse(name: &str) -> InverseName {
    if name.ends_with('+') {
        return InverseName::Hidden;
    }
    let pattern = name
        .replace("%(class)s", "{name|lower}")
        .replace("%(app_label)s", "{module}")
        .replace("%(model_name)s", "{name|lower}");
    InverseName::Named(pattern)
}

/// The id of a model named by class, by text, by setting, or by the function that finds the user
/// model.
pub(super) fn target(sink: &Sink<'_, '_>, expr: &Expr) -> Option<String> {
    let own_module = || sink.reader.module(sink.scope.file, sink.class);
    if let Some(name) = expr.name() {
        if last(name) == "AUTH_USER_MODEL" {
            return Some(sink.reader.known.user_model.clone());
        }
        if let Found::Class(file, class) = sink.scope.lookup(name) {
            return Some(sink.reader.id(file, class));
        }
        if let Found::External(path) = sink.scope.lookup(name) {
            let parts: Vec<&str> = path.split('.').collect();
            let label = parts
                .iter()
                .rev()
                .skip(1)
                .find(|part| **part != "models")
                .copied()
                .unwrap_or_default();
            return Some(format!("{label}.{}", last(&path)));
        }
    }
    if let Some(call) = expr.call()
        && last(call.callee_name()) == "get_user_model"
    {
        return Some(sink.reader.known.user_model.clone());
    }
    if let Some(call) = expr.call()
        && MODEL_LOOKUPS.contains(&last(call.callee_name()).as_str())
        && let [label, name] = call.arguments.as_slice()
    {
        return Some(format!("{}.{}", sink.value(label).text()?, sink.value(name).text()?));
    }
    let value = sink.value(expr);
    let text = value.text()?;
    Some(match text.split_once('.') {
        _ if text == "self" => format!("{}.{}", own_module(), sink.class.name),
        Some(_) => text.to_owned(),
        None => format!("{}.{text}", own_module()),
    })
}
