//! `@Index`, `@Unique`, `@Check` and `@Exclusion`, on classes and on properties.

use super::last;
use super::relation::{DEFERRABLE, property, selected};
use crate::declaration::{
    Attribute, CheckDeclaration, IndexDeclaration, IndexPartDeclaration, Model, UniqueDeclaration,
};
use crate::dialect::Conventions;
use crate::dialect::release::at_least;
use crate::host::arguments::Arguments;
use crate::host::evaluate::Scope;
use crate::host::outline::{Call, Expr, ExprKind, Member};
use crate::schema::{Database, Deferrable, Expression};

/// A decorator of a class.
pub(super) fn of_class(
    scope: &Scope<'_>,
    conventions: &Conventions,
    decorator: &Expr,
    model: &mut Model,
) {
    let Some(call) = decorator.call() else { return };
    match last(call.callee_name()) {
        "Index" => {
            let columns = columns(scope, call);
            model.indexes.extend(index(scope, conventions, call, columns, decorator));
        }
        "Unique" => {
            let attributes = columns(scope, call);
            model.uniques.push(unique(scope, call, attributes, decorator));
        }
        "Check" => model.checks.extend(check(scope, call, decorator)),
        "Exclusion" => model.exclusions.extend(check(scope, call, decorator)),
        _ => {}
    }
}

/// The decorators of a property that stand beside the one of its column.
pub(super) fn of_member(
    scope: &Scope<'_>,
    conventions: &Conventions,
    member: &Member,
    model: &mut Model,
) {
    for decorator in &member.decorators {
        let Some(call) = decorator.call() else { continue };
        let own = || vec![member.name.to_string()];
        match last(call.callee_name()) {
            "Index" => {
                let index = index(scope, conventions, call, own(), decorator);
                if index.as_ref().is_some_and(is_plain) {
                    mark_indexed(model, &member.name);
                } else {
                    model.indexes.extend(index);
                }
            }
            "Unique" => model.uniques.push(unique(scope, call, own(), decorator)),
            "Check" => model.checks.extend(check(scope, call, decorator)),
            "Exclusion" => model.exclusions.extend(check(scope, call, decorator)),
            _ => {}
        }
    }
}

fn is_plain(index: &IndexDeclaration) -> bool {
    index.name.is_none()
        && !index.unique
        && index.condition.is_none()
        && index.method.is_none()
        && index.extras.is_empty()
}

/// An index that says nothing but its property is an option of the property.
fn mark_indexed(model: &mut Model, name: &str) {
    for attribute in &mut model.attributes {
        match attribute {
            Attribute::Field(field) if field.name.as_deref() == Some(name) => {
                field.indexed = Some(true)
            }
            Attribute::Relation(relation) if relation.name.as_deref() == Some(name) => {
                relation.carrier.indexed = Some(true)
            }
            _ => {}
        }
    }
}

/// The text that stands first: a name, unless it is the only text of a check.
fn name(scope: &Scope<'_>, call: &Call) -> Option<String> {
    scope.value(call.arguments.first()?).text().map(str::to_owned)
}

/// Properties as a list, an object of directions or a function over the properties.
fn columns(scope: &Scope<'_>, call: &Call) -> Vec<String> {
    call.arguments
        .iter()
        .map(|argument| properties(scope, argument))
        .find(|names| !names.is_empty())
        .unwrap_or_default()
}

pub(super) fn properties(scope: &Scope<'_>, expr: &Expr) -> Vec<String> {
    let value = scope.value(expr);
    match &value.kind {
        ExprKind::List(items) => items
            .iter()
            .filter_map(|item| item.text().map(str::to_owned).or_else(|| selected(item)))
            .collect(),
        ExprKind::Function { returns: Some(returned), .. } => match &returned.kind {
            ExprKind::List(items) => items.iter().filter_map(selected).collect(),
            ExprKind::Map(pairs) => {
                pairs.iter().filter_map(|(key, _)| key.text().map(str::to_owned)).collect()
            }
            _ => property(scope, &value).into_iter().collect(),
        },
        _ => Vec::new(),
    }
}

fn index(
    scope: &Scope<'_>,
    conventions: &Conventions,
    call: &Call,
    attributes: Vec<String>,
    at: &Expr,
) -> Option<IndexDeclaration> {
    let mut options = super::trailing_options(*scope, call);
    if options.take_bool("synchronize") == Some(false) {
        return None;
    }
    let part =
        |name| IndexPartDeclaration { attribute: Some(name), ..IndexPartDeclaration::default() };
    Some(IndexDeclaration {
        parts: attributes.into_iter().map(part).collect(),
        unique: options.take_bool("unique").unwrap_or(false),
        condition: options
            .take_text("where")
            .map(|text| Box::new(Expression::parse_sql_of(&text, scope.project.database))),
        method: method(&mut options, conventions),
        name: name(scope, call),
        extras: options.into_extras(),
        span: Some(at.span),
        ..IndexDeclaration::default()
    })
}

/// The access method: `spatial: true`, and `type` where the release hears it.
pub(super) fn method(options: &mut Arguments<'_>, conventions: &Conventions) -> Option<String> {
    let spatial = options.take_bool("spatial") == Some(true);
    let heard =
        at_least(&conventions.version, (1, 0)) && conventions.database == Database::PostgreSql;
    let typed = heard.then(|| options.take_text("type")).flatten();
    typed.filter(|method| method != "btree").or_else(|| spatial.then(|| "gist".to_owned()))
}

fn unique(scope: &Scope<'_>, call: &Call, attributes: Vec<String>, at: &Expr) -> UniqueDeclaration {
    let mut options = super::trailing_options(*scope, call);
    let deferrable = deferrable(&mut options);
    let extras = options.into_extras();
    UniqueDeclaration {
        attributes,
        name: name(scope, call),
        deferrable,
        extras,
        span: Some(at.span),
        ..UniqueDeclaration::default()
    }
}

/// When a constraint is checked; a word that is not known stays.
pub(super) fn deferrable(options: &mut Arguments<'_>) -> Option<Deferrable> {
    let word = options
        .take_raw("deferrable")
        .filter(|word| word.text().is_some_and(|text| !text.is_empty()))?;
    DEFERRABLE
        .iter()
        .find(|(known, _)| Some(*known) == word.text())
        .map(|(_, deferrable)| *deferrable)
}

fn check(scope: &Scope<'_>, call: &Call, at: &Expr) -> Option<CheckDeclaration> {
    let texts: Vec<String> = call
        .arguments
        .iter()
        .filter_map(|argument| scope.value(argument).text().map(str::to_owned))
        .collect();
    let (name, text) = match texts.as_slice() {
        [name, text] => (Some(name.clone()), text),
        [text] => (None, text),
        _ => return None,
    };
    let extras = super::trailing_options(*scope, call).into_extras();
    Some(CheckDeclaration {
        name,
        expression: Expression::parse_sql_of(text, scope.project.database),
        extras,
        span: Some(at.span),
    })
}
