//! Table objects, indexes made beside them, and classes that are mapped to them by a call.

use super::column::{self, Place};
use super::connect::Draft;
use super::known::Flavour;
use super::spelling::Site;
use super::{FilePart, Reader, constraint, last, relationship, word};
use crate::declaration::{Attribute, Form, Model};
use crate::dialect::naming::name_of_table;
use crate::host::arguments::Arguments;
use crate::host::evaluate::Scope;
use crate::host::outline::{Expr, ExprKind};
use crate::host::project::Found;
use crate::source::FileId;

/// The address of a table object: its named schema and its name.
pub(super) fn address(scope: &Scope<'_>, value: &Expr) -> Option<(Option<String>, String)> {
    let call = value.call().filter(|call| word(scope, call) == "Table")?;
    let text = |expr: &Expr| scope.value(expr).text().map(str::to_owned);
    Some((call.argument("schema").and_then(text), text(call.arguments.first()?)?))
}

/// Reads `name = Table(...)`.
pub(super) fn read<'p>(
    reader: &Reader<'p>,
    file: FileId,
    variable: &str,
    value: &'p Expr,
    part: &mut FilePart,
) {
    let draft = draft(reader, reader.scope(file, None), variable, value, part);
    part.drafts.extend(draft);
}

/// The table that `Table(...)` makes.
pub(super) fn draft<'p>(
    reader: &Reader<'p>,
    scope: Scope<'p>,
    variable: &str,
    value: &'p Expr,
    part: &mut FilePart,
) -> Option<Draft> {
    let (_, table) = address(&scope, value)?;
    Some(made(reader, scope, variable, table, value, part))
}

/// The table that a call makes whose first argument names it.
pub(super) fn made<'p>(
    reader: &Reader<'p>,
    scope: Scope<'p>,
    variable: &str,
    table: String,
    value: &Expr,
    part: &mut FilePart,
) -> Draft {
    let name = name_of_table(&table);
    let model = Model {
        id: reader.id(scope.file, &name),
        name: name.clone(),
        module: reader.module(scope.file).to_owned(),
        form: Form::Table,
        table: Some(table),
        span: Some(value.span),
        ..Model::default()
    };
    let mut draft = Draft { model, variable: variable.to_owned(), ..Draft::default() };
    let Some(call) = value.call() else { return draft };
    let mut others = Vec::new();
    for argument in call.arguments.iter().skip(1) {
        let value = scope.value(argument);
        match value.call() {
            Some(inner) if word(&scope, inner) == "Column" => {
                let first = inner.arguments.first().map(|name| scope.value(name));
                let attribute = first.as_ref().and_then(Expr::text).unwrap_or_default().to_owned();
                let mut site =
                    Site { reader, scope, class: &name, attribute: &attribute, part: &mut *part };
                let place = Place {
                    attribute: None,
                    annotation: None,
                    call: Some(inner),
                    flavour: Flavour::Plain,
                    span: argument.span,
                };
                let mut read = column::read(&mut site, &place);
                for check in &mut read.checks {
                    check.name =
                        constraint::given_name(reader, "ck", check.name.take(), &draft.model.table);
                }
                draft.add(read);
            }
            Some(inner) if word(&scope, inner) == "MetaData" => {}
            Some(_) => others.push(argument),
            None => {}
        }
    }
    for argument in others {
        constraint::item(reader, scope, argument, &mut draft.model, part);
    }
    let mut named: Vec<_> = call.named.clone();
    named.retain(|(name, _)| {
        !matches!(name.as_str(), "extend_existing" | "keep_existing" | "metadata")
    });
    constraint::options(Arguments::of_call(scope, &[], &[], &named), &mut draft.model);
    draft
}

/// Gives the columns of a table the attributes that a class gets for them.
pub(super) fn as_attributes(draft: &mut Draft) {
    for attribute in &mut draft.model.attributes {
        if let Attribute::Field(field) = attribute
            && let Some(column) = field.column.take()
        {
            field.name = Some(column);
        }
    }
}

/// Statements beside classes: indexes over their attributes, and classes mapped by a call.
pub(super) fn statement<'p>(
    reader: &Reader<'p>,
    file: FileId,
    statement: &'p Expr,
    part: &mut FilePart,
) {
    let scope = reader.scope(file, None);
    let Some(call) = statement.call() else { return };
    match word(&scope, call).as_str() {
        "Index" => {
            let owner = call.arguments.iter().skip(1).find_map(first_name);
            let owner = owner
                .and_then(|name| name.rsplit_once('.'))
                .map(|(owner, _)| owner.strip_suffix(".c").unwrap_or(owner).to_owned());
            let Some(owner) = owner else { return };
            let at = part
                .drafts
                .iter()
                .position(|draft| draft.model.name == last(&owner) || draft.variable == owner);
            if let Some(at) = at {
                let index = constraint::index(scope, call, statement, &part.drafts[at].model);
                part.drafts[at].model.indexes.extend(index);
            }
        }
        "map_imperatively" | "mapper" => imperative(reader, file, statement, part),
        _ => {}
    }
}

/// The first dotted name in an expression.
fn first_name(expr: &Expr) -> Option<&str> {
    match &expr.kind {
        ExprKind::Name(name) => {
            Some(name).filter(|name| name.contains('.')).map(|name| name.as_str())
        }
        ExprKind::Call(call) => {
            let own =
                call.callee.name().filter(|name| name.ends_with(".desc") || name.ends_with(".asc"));
            own.and_then(|name| name.rsplit_once('.'))
                .map(|(inner, _)| inner)
                .or_else(|| call.arguments.iter().find_map(first_name))
        }
        ExprKind::Operation { operands, .. } => operands.iter().find_map(first_name),
        _ => None,
    }
}

/// `registry.map_imperatively(Class, table, properties={...})`.
fn imperative<'p>(reader: &Reader<'p>, file: FileId, statement: &'p Expr, part: &mut FilePart) {
    let scope = reader.scope(file, None);
    let Some(call) = statement.call() else { return };
    let (Some(class), Some(table)) =
        (call.arguments.first().and_then(Expr::name), call.arguments.get(1))
    else {
        return;
    };
    let assigned = |name: &str| {
        reader.project.outlines[file.0 as usize].assignments.iter().find(|known| known.name == name)
    };
    let (place, value) = match table.name().map(|name| (scope.lookup(name), assigned(name))) {
        Some((Found::Value(file, value), _)) => (reader.scope(file, None), value),
        Some((_, Some(assignment))) => (scope, &assignment.value),
        _ => (scope, table),
    };
    let (owner, span) = match scope.lookup(class) {
        Found::Class(file, class) => (file, class.span),
        _ => (file, call.callee.span),
    };
    let Some(mut draft) = draft(reader, place, "", value, part) else { return };
    let mapped = draft.model.id.clone();
    as_attributes(&mut draft);
    draft.model.form = Form::Concrete;
    draft.model.name = last(class).to_owned();
    draft.model.id = reader.id(owner, last(class));
    draft.model.module = reader.module(owner).to_owned();
    draft.model.span = Some(span);
    // What the class announces for type checkers is no declaration.
    let own = draft.model.id.clone();
    part.drafts.retain(|known| known.model.id != mapped && known.model.id != own);
    draft.replaces = Some(mapped);
    for (name, value) in call.argument("properties").map(properties).unwrap_or_default() {
        {
            let relation = value
                .call()
                .filter(|call| matches!(word(&scope, call).as_str(), "relationship" | "relation"));
            if relation.is_some() {
                let relationship =
                    relationship::read(reader, scope, &name, None, relation, value.span);
                draft.relationships.push((draft.model.attributes.len(), relationship));
                draft.model.attributes.push(Attribute::Removed(String::new()));
            }
        }
    }
    part.drafts.push(draft);
}

/// `{"quay": relationship(...)}`, `dict(quay=relationship(...))`.
fn properties(expr: &Expr) -> Vec<(String, &Expr)> {
    match &expr.kind {
        ExprKind::Map(pairs) => pairs
            .iter()
            .filter_map(|(name, value)| Some((name.text()?.to_owned(), value)))
            .collect(),
        ExprKind::Call(call) if call.callee_name() == "dict" => {
            call.named.iter().map(|(name, value)| (name.to_string(), value)).collect()
        }
        _ => Vec::new(),
    }
}
