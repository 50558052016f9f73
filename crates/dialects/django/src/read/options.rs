//! `class Meta`: table, key, indexes, constraints and the rest of a class's options.

use std::collections::HashMap;

use serde_json::{Value, json};

use super::{Reader, query, relation};
use crate::codes;
use crate::declaration::{
    Attribute, CheckDeclaration, FieldDeclaration, Form, IndexDeclaration, IndexPartDeclaration,
    InverseName, Model, Spelling, UniqueDeclaration,
};
use crate::diagnostic::Diagnostic;
use crate::host::arguments::{Arguments, kept};
use crate::host::evaluate::Scope;
use crate::host::outline::{Call, Class, Expr, ExprKind};
use crate::host::project::Found;
use crate::schema::{Deferrable, OrderKey};
use crate::source::FileId;
use crate::types::INDEX_METHODS;

/// Options that a child without options of its own does not inherit.
const NOT_INHERITED: &[&str] = &["abstract", "app_label", "db_table", "proxy", "managed"];

/// The option that orders the records of one parent among themselves.
pub(crate) const ORDER_WITHIN: &str = "order_with_respect_to";

/// The field that the option makes by itself.
pub(crate) const ORDER_FIELD: &str = "_order";

/// Steps of inheritance that are followed.
const DEEPEST: u32 = 32;

/// An option with the file in which it was written.
type Written<'p> = (FileId, &'p Expr);

/// Puts the class options into the model.
pub(super) fn apply<'p>(
    reader: &Reader<'p>,
    file: FileId,
    class: &'p Class,
    model: &mut Model,
    diagnostics: &mut Vec<Diagnostic>,
) {
    let mut options: Vec<(&'p str, Written<'p>)> =
        collect(reader, file, class, 0).into_iter().collect();
    options.sort_by_key(|(_, (_, expr))| (expr.span.file, expr.span.start));
    composite_key(reader, file, class, model);
    for (name, (file, expr)) in options {
        let scope = Scope { project: reader.project, file, class: Some(class) };
        let value = scope.value(expr);
        match (name, &value) {
            ("db_table", value) if value.text().is_some() => {
                model.table = value.text().map(str::to_owned)
            }
            ("db_table_comment", value) if value.text().is_some() => {
                model.comment = value.text().map(str::to_owned)
            }
            ("abstract", value) if value.boolean().is_some() => {
                if value.boolean() == Some(true) {
                    model.form = Form::Abstract;
                }
            }
            ("proxy", value) if value.boolean() == Some(true) => model.form = Form::SameTable,
            ("managed", value) if value.boolean().is_some() => model.managed = value.boolean(),
            ("app_label", _) => {}
            ("ordering", value) => model.order = order(&scope, value),
            ("unique_together", value) => {
                model.uniques.extend(pairs(value).into_iter().map(|attributes| UniqueDeclaration {
                    attributes,
                    span: Some(expr.span),
                    ..UniqueDeclaration::default()
                }))
            }
            ("index_together", value) => model
                .indexes
                .extend(pairs(value).into_iter().map(|attributes| plain_index(attributes, expr))),
            ("indexes", value) => {
                for item in value.list().unwrap_or_default() {
                    model.indexes.extend(item.call().and_then(|call| index(&scope, call, item)));
                }
            }
            ("constraints", value) => {
                for item in value.list().unwrap_or_default() {
                    constraint(&scope, item, model, diagnostics);
                }
            }
            ("default_related_name", value) if value.text().is_some() => {
                default_inverse(model, value.text().unwrap_or_default())
            }
            (ORDER_WITHIN, value) => {
                let column = FieldDeclaration {
                    name: Some(ORDER_FIELD.into()),
                    spelling: Spelling::word("IntegerField"),
                    span: Some(expr.span),
                    ..FieldDeclaration::default()
                };
                model.attributes.push(Attribute::Field(Box::new(column)));
                model.extras.insert(name.into(), kept(&scope, value));
            }
            (name, _) => {
                let value = query::plain_text(&scope, expr)
                    .map_or_else(|| kept(&scope, expr), Value::String);
                model.extras.insert(name.to_owned(), value);
            }
        }
    }
}

/// The class's own options; without any, those of the abstract classes that it extends.
fn collect<'p>(
    reader: &Reader<'p>,
    file: FileId,
    class: &'p Class,
    depth: u32,
) -> HashMap<&'p str, Written<'p>> {
    if depth > DEEPEST {
        return HashMap::new();
    }
    if let Some(meta) = class.nested("Meta") {
        return of_meta(reader, file, meta, depth + 1);
    }
    let mut options = HashMap::new();
    for (file, parent) in
        class.bases.iter().filter_map(Expr::name).filter_map(|name| as_class(reader, file, name))
    {
        let inherited = collect(reader, file, parent, depth + 1);
        if inherited.get("abstract").is_some_and(|(_, value)| value.boolean() == Some(true)) {
            for (name, value) in inherited
                .into_iter()
                .filter(|(name, _)| *name == "managed" || !NOT_INHERITED.contains(name))
            {
                options.entry(name).or_insert(value);
            }
        }
    }
    options
}

/// The options of a `Meta`, and of the classes that it extends: other models' options, or plain
/// classes.
fn of_meta<'p>(
    reader: &Reader<'p>,
    file: FileId,
    meta: &'p Class,
    depth: u32,
) -> HashMap<&'p str, Written<'p>> {
    let mut options = HashMap::new();
    for base in meta.bases.iter().filter_map(Expr::name) {
        let model = base.strip_suffix(".Meta").and_then(|name| as_class(reader, file, name));
        let inherited = match (model, reader.project.lookup(file, None, base)) {
            (Some((file, model)), _) => collect(reader, file, model, depth + 1),
            (None, Found::Class(file, class)) if depth <= DEEPEST => {
                of_meta(reader, file, class, depth + 1)
            }
            (None, _) => HashMap::new(),
        };
        for (name, value) in inherited.into_iter().filter(|(name, _)| *name != "abstract") {
            options.entry(name).or_insert(value);
        }
    }
    for member in &meta.members {
        if let Some(value) = &member.value {
            options.insert(member.name.as_str(), (file, value));
        }
    }
    options
}

fn as_class<'p>(reader: &Reader<'p>, file: FileId, name: &str) -> Option<(FileId, &'p Class)> {
    match reader.project.lookup(file, None, name) {
        Found::Class(file, class) if reader.is_model(file, class) => Some((file, class)),
        _ => None,
    }
}

fn composite_key(reader: &Reader<'_>, file: FileId, class: &Class, model: &mut Model) {
    let scope = Scope { project: reader.project, file, class: None };
    for call in class.members.iter().filter_map(|member| member.value.as_ref()?.call()) {
        if super::last(&scope.path(call.callee_name())) == "CompositePrimaryKey" {
            let attribute = |name: &str| {
                let known = |name: &str| {
                    model.attributes.iter().any(|attribute| attribute.name() == Some(name))
                };
                let stem = name.strip_suffix("_id").filter(|stem| !known(name) && known(stem));
                stem.unwrap_or(name).to_owned()
            };
            model.key = Some(call.arguments.iter().filter_map(Expr::text).map(attribute).collect());
        }
    }
}

fn order(scope: &Scope<'_>, value: &Expr) -> Option<Vec<OrderKey>> {
    let key = |item: &Expr| {
        let text = item
            .text()
            .map_or_else(|| scope.project.sources.text(item.span).to_owned(), str::to_owned);
        let bare = text.strip_prefix('-');
        OrderKey { field: bare.unwrap_or(&text).to_owned(), descending: bare.is_some() }
    };
    Some(value.list()?.iter().map(key).collect())
}

/// A list of names, or a list of such lists.
fn pairs(value: &Expr) -> Vec<Vec<String>> {
    let items = value.list().unwrap_or_default();
    let texts = |items: &[Expr]| {
        items.iter().filter_map(|item| item.text().map(str::to_owned)).collect::<Vec<_>>()
    };
    if items.iter().any(|item| item.text().is_some()) {
        return vec![texts(items)];
    }
    items.iter().filter_map(Expr::list).map(texts).filter(|names| !names.is_empty()).collect()
}

fn plain_index(attributes: Vec<String>, at: &Expr) -> IndexDeclaration {
    let part =
        |name| IndexPartDeclaration { attribute: Some(name), ..IndexPartDeclaration::default() };
    IndexDeclaration {
        parts: attributes.into_iter().map(part).collect(),
        span: Some(at.span),
        ..IndexDeclaration::default()
    }
}

fn index(scope: &Scope<'_>, call: &Call, at: &Expr) -> Option<IndexDeclaration> {
    let word = super::last(&scope.path(call.callee_name()));
    let method = INDEX_METHODS
        .iter()
        .find(|(class, _)| *class == word)
        .map(|(_, method)| (*method).to_owned());
    let mut arguments = Arguments::of_call(*scope, &[], &[], &call.named);
    let mut parts: Vec<IndexPartDeclaration> =
        call.arguments.iter().map(|item| expression_part(scope, item)).collect();
    if let Some(fields) = arguments.take("fields") {
        parts.extend(fields.list()?.iter().filter_map(Expr::text).map(named_part));
    }
    if let Some(classes) = arguments.take("opclasses") {
        for (part, class) in parts.iter_mut().zip(classes.list()?) {
            part.operator_class = class.text().map(str::to_owned);
        }
    }
    let index = IndexDeclaration {
        parts,
        unique: false,
        condition: arguments
            .take_raw("condition")
            .map(|condition| Box::new(query::expression(scope, &condition))),
        method: method.filter(|method| method != "btree"),
        include: arguments
            .take("include")
            .map_or(Vec::new(), |include| pairs(&include).into_iter().flatten().collect()),
        name: arguments.take_text("name"),
        nulls_not_distinct: arguments.take_bool("nulls_distinct") == Some(false),
        extras: arguments.into_extras(),
        span: Some(at.span),
    };
    Some(index)
}

fn named_part(name: &str) -> IndexPartDeclaration {
    let bare = name.strip_prefix('-');
    IndexPartDeclaration {
        attribute: Some(bare.unwrap_or(name).to_owned()),
        expression: None,
        descending: bare.is_some(),
        operator_class: None,
    }
}

/// A key of an expression index: `Lower("name")`, `F("a").desc()`, `OpClass(...)`.
fn expression_part(scope: &Scope<'_>, item: &Expr) -> IndexPartDeclaration {
    let mut part = IndexPartDeclaration::default();
    let mut inner = item.clone();
    if let Some(call) = item.call()
        && super::last(&scope.path(call.callee_name())) == "OpClass"
    {
        part.operator_class =
            call.argument("name").or(call.arguments.get(1)).and_then(Expr::text).map(str::to_owned);
        inner = call.arguments.first().cloned().unwrap_or(inner);
    }
    if let Some(call) = inner.call()
        && let ExprKind::Operation { operator, operands } = &call.callee.kind
        && let (".desc" | ".asc", [object]) = (operator.as_str(), operands.as_slice())
    {
        part.descending = operator == ".desc";
        inner = object.clone();
    }
    match query::operand(scope, &inner) {
        Some(crate::schema::expression::Tree::Column(name)) => part.attribute = Some(name),
        _ => part.expression = Some(Box::new(query::expression(scope, &inner))),
    }
    part
}

fn constraint(
    scope: &Scope<'_>,
    item: &Expr,
    model: &mut Model,
    diagnostics: &mut Vec<Diagnostic>,
) {
    let Some(call) = item.call() else { return };
    let mut arguments = Arguments::of_call(*scope, &[], &[], &call.named);
    let name = arguments.take_text("name").map(|name| {
        name.replace("%(class)s", &model.name.to_lowercase())
            .replace("%(app_label)s", &model.module)
    });
    let span = Some(item.span);
    match super::last(&scope.path(call.callee_name())).as_str() {
        "UniqueConstraint" => unique(scope, call, arguments, name, item, model),
        "CheckConstraint" => {
            let condition = arguments.take_raw("condition").or_else(|| arguments.take_raw("check"));
            let expression = condition.map(|condition| query::expression(scope, &condition));
            let extras = arguments.into_extras();
            model.checks.extend(expression.map(|expression| CheckDeclaration {
                name,
                expression,
                extras,
                span,
            }));
        }
        "ExclusionConstraint" => {
            let expression =
                crate::schema::Expression::host("python", scope.project.sources.text(item.span));
            model.exclusions.push(CheckDeclaration {
                name,
                expression,
                extras: Default::default(),
                span,
            });
        }
        word => {
            let message = format!(
                "constraint class `{word}` is not known: it is kept, but its effect on the \
                 table is not"
            );
            diagnostics.push(
                Diagnostic::of(&codes::UNKNOWN_CONSTRAINT, message).at(span, "this constraint"),
            );
            model.extras.insert(
                format!("constraint {}", name.unwrap_or_default()),
                json!({ "code": scope.project.sources.text(item.span) }),
            );
        }
    }
}

/// With a condition, expressions, further columns or operator classes it is a unique index in the
/// database.
fn unique(
    scope: &Scope<'_>,
    call: &Call,
    mut arguments: Arguments<'_>,
    name: Option<String>,
    at: &Expr,
    model: &mut Model,
) {
    let deferrable = arguments.take_raw("deferrable").and_then(|value| {
        match super::last(value.name()?).as_str() {
            "DEFERRED" => Some(Deferrable::InitiallyDeferred),
            "IMMEDIATE" => Some(Deferrable::InitiallyImmediate),
            _ => None,
        }
    });
    let special = !call.arguments.is_empty()
        || ["condition", "include", "opclasses"].iter().any(|name| arguments.has(name));
    if special {
        let call = Call {
            callee: Expr { kind: ExprKind::Name("Index".into()), span: at.span },
            arguments: call.arguments.clone(),
            named: call.named.clone(),
        };
        let index = index(scope, &call, at);
        model.indexes.extend(index.map(|index| IndexDeclaration { unique: true, name, ..index }));
        return;
    }
    let attributes = arguments
        .take("fields")
        .map_or(Vec::new(), |fields| pairs(&fields).into_iter().flatten().collect());
    let nulls_not_distinct = arguments.take_bool("nulls_distinct") == Some(false);
    let extras = arguments.into_extras();
    model.uniques.push(UniqueDeclaration {
        attributes,
        name,
        deferrable,
        nulls_not_distinct,
        extras,
        span: Some(at.span),
    });
}

fn default_inverse(model: &mut Model, name: &str) {
    for attribute in &mut model.attributes {
        if let Attribute::Relation(relation) = attribute
            && relation.inverse == InverseName::Silent
        {
            relation.inverse = relation::inverse(name);
        }
    }
}
