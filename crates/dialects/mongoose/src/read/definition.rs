//! `new Schema({...}, {...})`, and what later statements add to it.

use std::collections::HashSet;

use serde_json::json;

use super::{Found, Part, Reader, index, path, populate};
use crate::ONLY_IN;
use crate::codes;
use crate::declaration::{Attribute, FieldDeclaration, Model, Spelling};
use crate::diagnostic::Diagnostic;
use crate::host::arguments::{Arguments, kept as kept_value};
use crate::host::outline::{Expr, ExprKind};
use crate::host::project::Found as Name;
use crate::host::typescript::place::{Place, last, last_name};
use crate::schema::{Extras, Purpose};
use crate::source::{FileId, Span};

/// The word under which extras keep what is said of times beside the names of their paths.
pub(crate) const TIMESTAMPS: &str = "timestamps";

/// How deep schemas hold each other.
const DEEPEST: u32 = 12;

/// What reading a schema once more costs, in parts of a value.
const STEPS: u64 = 50;

/// One schema.
#[derive(Clone, Debug)]
pub(super) struct Definition {
    pub(super) variable: Option<String>,
    pub(super) written: Option<Expr>,
    options: Option<Expr>,
    pub(super) file: FileId,
    pub(super) span: Span,
    /// Tells it from others, wherever its value is put in.
    pub(super) key: Span,
}

/// A call on the variable of a schema.
#[derive(Clone, Debug)]
pub(super) struct Extending {
    pub(super) schema: Span,
    method: String,
    pub(super) arguments: Vec<Expr>,
    pub(super) file: FileId,
    span: Span,
}

/// Whether a call makes a schema.
fn is_schema(callee: &str) -> bool {
    last(callee.trim_start_matches("new ")) == "Schema"
}

/// Finds the schemas that a value is made of.
pub(super) fn within(place: &Place<'_>, variable: Option<&str>, value: &Expr, found: &mut Found) {
    let Some(call) = value.call() else { return };
    if is_schema(call.callee_name()) {
        found.definitions.push(Definition {
            variable: variable.map(str::to_owned),
            written: call.arguments.first().cloned(),
            options: call.arguments.get(1).cloned(),
            file: place.file,
            span: value.span,
            key: call.callee.span,
        });
    }
    call.arguments.iter().for_each(|argument| inside(place, argument, found, 0));
}

fn inside(place: &Place<'_>, value: &Expr, found: &mut Found, depth: u32) {
    if depth > DEEPEST {
        return;
    }
    match &value.kind {
        ExprKind::Call(_) => within(place, None, value, found),
        ExprKind::List(items) => {
            items.iter().for_each(|item| inside(place, item, found, depth + 1))
        }
        ExprKind::Map(pairs) => {
            pairs.iter().for_each(|(_, value)| inside(place, value, found, depth + 1))
        }
        ExprKind::Spread(inner) => inside(place, inner, found, depth + 1),
        _ => {}
    }
}

/// The key of the definition that an expression leads to.
pub(super) fn of(place: &Place<'_>, expr: &Expr) -> Option<Span> {
    let value = place.value(expr);
    match &value.kind {
        ExprKind::Call(call) if is_schema(call.callee_name()) => called(place, expr, 0),
        ExprKind::Name(_) => called(place, expr, 0),
        _ => None,
    }
}

/// The key of the call behind a name.
fn called(place: &Place<'_>, expr: &Expr, depth: u32) -> Option<Span> {
    if depth > DEEPEST {
        return None;
    }
    match &expr.kind {
        ExprKind::Call(call) if is_schema(call.callee_name()) => Some(call.callee.span),
        ExprKind::Name(name) => {
            if let Some(value) = place.variable(name) {
                return called(place, value, depth + 1);
            }
            match place.scope().lookup(name) {
                Name::Value(file, value) => {
                    called(&Place::top(place.project, file), value, depth + 1)
                }
                _ => None,
            }
        }
        ExprKind::Operation { operands, .. } => {
            operands.iter().find_map(|operand| called(place, operand, depth + 1))
        }
        _ => None,
    }
}

/// Notes the schemas that a definition holds, or takes paths from.
pub(super) fn held(place: &Place<'_>, expr: &Expr, used: &mut HashSet<Span>, depth: u32) {
    if depth > DEEPEST {
        return;
    }
    match &expr.kind {
        ExprKind::Name(_) | ExprKind::Call(_) => {
            if let Some(span) = of(place, expr) {
                used.insert(span);
            } else if let ExprKind::Name(name) = &expr.kind {
                let value = place.variable(name).map(|value| (place.file, value)).or_else(|| {
                    match place.scope().lookup(name) {
                        Name::Value(file, value) => Some((file, value)),
                        _ => None,
                    }
                });
                if let Some((file, value)) = value
                    .filter(|(_, value)| matches!(value.kind, ExprKind::Map(_) | ExprKind::List(_)))
                {
                    held(&Place::top(place.project, file), value, used, depth + 1);
                }
            }
        }
        ExprKind::List(items) => items.iter().for_each(|item| held(place, item, used, depth + 1)),
        ExprKind::Map(pairs) => {
            for (key, value) in pairs {
                held(place, key, used, depth + 1);
                held(place, value, used, depth + 1);
            }
        }
        ExprKind::Spread(inner) => match &inner.kind {
            // `...base.obj` takes the paths of another schema.
            ExprKind::Name(name) if name.ends_with(".obj") => {
                let head = Expr {
                    kind: ExprKind::Name(name.trim_end_matches(".obj").into()),
                    span: inner.span,
                };
                used.extend(of(place, &head));
            }
            _ => held(place, inner, used, depth + 1),
        },
        _ => {}
    }
}

/// A call on a schema.
pub(super) fn extending(place: &Place<'_>, value: &Expr) -> Option<Extending> {
    let call = value.call()?;
    // What follows in a chain (`schema.virtual('x').get(...)`) says nothing of what is stored.
    let (head, method) = call.callee.name()?.rsplit_once('.')?;
    let head = Expr { kind: ExprKind::Name(head.into()), span: call.callee.span };
    let (schema, method) = (of(place, &head)?, method.to_owned());
    Some(Extending {
        schema,
        method,
        arguments: call.arguments.clone(),
        file: place.file,
        span: value.span,
    })
}

/// Reads a schema into a model; the collection that its options name.
pub(super) fn read(
    reader: &Reader<'_>,
    definition: &Definition,
    model: &mut Model,
    part: &mut Part,
) -> Option<String> {
    read_at(reader, definition, model, part, 0)
}

pub(super) fn read_at(
    reader: &Reader<'_>,
    definition: &Definition,
    model: &mut Model,
    part: &mut Part,
    depth: u32,
) -> Option<String> {
    if depth > DEEPEST {
        let message = format!("`{}` holds itself: what stands deeper is left out", model.name);
        part.diagnostics.push(
            Diagnostic::of(&codes::CIRCULAR_SCHEMA, message)
                .at(Some(definition.span), "holds itself"),
        );
        return None;
    }
    // A few schemas that each hold the next one several times are very many documents.
    if !reader.project.budget.spend(STEPS) {
        reader.project.budget.give_up(definition.span);
        return None;
    }
    let place = Place::top(reader.project, definition.file);
    let empty = Expr { kind: ExprKind::Map(Vec::new()), span: definition.span };
    let options = definition.options.as_ref().map_or(empty.clone(), |options| place.value(options));
    let mut options = Arguments::of_object(place.scope(), &options);
    let site = path::Site { reader, place, depth };
    if let Some(written) = &definition.written {
        paths(&site, written, model, part);
    }
    let said: Vec<(path::Site<'_, '_>, &Extending)> = reader
        .found
        .extending_of
        .get(&definition.key)
        .into_iter()
        .flatten()
        .map(|at| &reader.found.extending[*at])
        .map(|extending| {
            (path::Site { place: Place::top(reader.project, extending.file), ..site }, extending)
        })
        .collect();
    for (site, extending) in
        said.iter().filter(|(_, extending)| matches!(extending.method.as_str(), "add" | "set"))
    {
        match (extending.method.as_str(), extending.arguments.as_slice()) {
            ("add", added) => added.iter().for_each(|added| paths(site, added, model, part)),
            (_, [name, value]) => {
                let name = site.place.value(name).text().unwrap_or_default().into();
                options.extend_missing(vec![(name, value.clone())]);
            }
            _ => {}
        }
    }
    let collection = take_options(&mut options, model);
    for (site, extending) in &said {
        match extending.method.as_str() {
            "add" | "set" => {}
            "index" => index::read(site, &extending.arguments, extending.span, model, part),
            "virtual" => populate::read(site, &extending.arguments, extending.span, model, part),
            "plugin" => plugin(extending, model, part),
            "discriminator" | "remove" | "pick" | "omit" | "searchIndex" => {
                let message =
                    format!("`{}` of the schema of `{}` is not read", extending.method, model.name);
                part.diagnostics.push(
                    Diagnostic::of(&codes::UNREAD_STATEMENT, message)
                        .at(Some(extending.span), "may change what is stored")
                        .with_help("say it in the definition of the schema"),
                );
            }
            // Hooks, methods and the like change nothing of what is stored.
            _ => {}
        }
    }
    for (name, value) in options.into_extras() {
        model.extras.entry(name).or_insert(value);
    }
    collection
}

fn plugin(extending: &Extending, model: &Model, part: &mut Part) {
    let name = extending.arguments.first().and_then(last_name).unwrap_or("a plugin");
    let message = format!("`{name}` may add paths to `{}` that are not known", model.name);
    part.diagnostics.push(
        Diagnostic::of(&codes::SCHEMA_PLUGIN, message)
            .at(Some(extending.span), "added here")
            .because("a plugin changes a schema when the program runs")
            .with_help("compare with the paths that the schema has then"),
    );
}

/// Reads the paths of an object.
fn paths(site: &path::Site<'_, '_>, written: &Expr, model: &mut Model, part: &mut Part) {
    // Another schema's paths.
    if let Some(definition) = of(&site.place, written).and_then(|span| site.reader.definition(span))
    {
        read_at(site.reader, definition, model, part, site.depth + 1);
        return;
    }
    let object = site.place.value(written);
    let ExprKind::Map(pairs) = &object.kind else {
        part.diagnostics.push(opaque(model, written.span));
        return;
    };
    for (key, value) in pairs {
        match (&key.kind, key.text()) {
            (_, Some(name)) => path::read(site, name, key.span, value, model, part),
            (ExprKind::Spread(inner), _) => match &inner.kind {
                ExprKind::Name(name) if name.ends_with(".obj") => {
                    let head = Expr {
                        kind: ExprKind::Name(name.trim_end_matches(".obj").into()),
                        span: inner.span,
                    };
                    match of(&site.place, &head).and_then(|span| site.reader.definition(span)) {
                        Some(Definition { written: Some(written), file, .. }) => {
                            let site = path::Site {
                                place: Place::top(site.reader.project, *file),
                                ..*site
                            };
                            paths(&site, written, model, part);
                        }
                        _ => part.diagnostics.push(opaque(model, key.span)),
                    }
                }
                _ => part.diagnostics.push(opaque(model, key.span)),
            },
            _ => part.diagnostics.push(opaque(model, key.span)),
        }
    }
}

/// Says that some paths cannot be told.
pub(super) fn opaque(model: &Model, span: Span) -> Diagnostic {
    Diagnostic::of(
        &codes::OPAQUE_PATHS,
        format!("some paths of `{}` are known only at run time", model.name),
    )
    .at(Some(span), "not an object that can be read here")
    .because("what its documents hold there is missing")
    .with_help("write the paths as an object, or as a constant of a file in reach")
}

/// What the options say of keys, times and versions; the collection, if they name it.
fn take_options(options: &mut Arguments<'_>, model: &mut Model) -> Option<String> {
    let top = model.owned_by.is_none();
    if options.take_bool("_id") == Some(false) && !top {
        model.key = Some(Vec::new());
    }
    let span = model.span;
    let (times, more) = times(options);
    if !more.is_empty() {
        model
            .extras
            .insert(TIMESTAMPS.into(), serde_json::Value::Object(more.into_iter().collect()));
    }
    for (name, purpose) in times {
        match at_path(model, &name) {
            Some(Attribute::Field(field)) => field.purpose = Some(purpose),
            _ => model.attributes.push(Attribute::Field(Box::new(kept(
                &name,
                "Date",
                Some(purpose),
                span,
            )))),
        }
    }
    if top {
        let version = match options.take("versionKey").map(|value| value.kind) {
            Some(ExprKind::Text(name)) => Some(name.to_string()),
            Some(ExprKind::Boolean(false)) => None,
            _ => Some("__v".to_owned()),
        };
        if let Some(name) = version {
            match at_path(model, &name) {
                Some(Attribute::Field(field)) => field.purpose = Some(Purpose::Version),
                _ => model.attributes.push(Attribute::Field(Box::new(kept(
                    &name,
                    "Number",
                    Some(Purpose::Version),
                    span,
                )))),
            }
        }
        if options.take_bool("autoCreate") == Some(false) {
            model.managed = Some(false);
        }
        return options.take_text("collection");
    }
    None
}

/// The attribute over a path.
fn at_path<'m>(model: &'m mut Model, path: &str) -> Option<&'m mut Attribute> {
    model.attributes.iter_mut().find(|attribute| match attribute {
        Attribute::Field(field) => field.column.as_deref().or(field.name.as_deref()) == Some(path),
        _ => attribute.name() == Some(path),
    })
}

/// The times that the framework keeps, by the names of their paths, and what else is said of them.
fn times(options: &mut Arguments<'_>) -> (Vec<(String, Purpose)>, Extras) {
    let silent = [("createdAt", Purpose::CreationTime), ("updatedAt", Purpose::UpdateTime)];
    let said = options.take("timestamps");
    let named = |(name, purpose): (&str, Purpose)| {
        let path = match &said.as_ref()?.kind {
            ExprKind::Boolean(true) => name.to_owned(),
            ExprKind::Map(_) => match said.as_ref()?.entry(name).map(|value| &value.kind) {
                Some(ExprKind::Text(path)) => path.to_string(),
                Some(ExprKind::Boolean(false)) => return None,
                _ => name.to_owned(),
            },
            _ => return None,
        };
        Some((path, purpose))
    };
    let mut more = Arguments::of_object(
        options.scope,
        said.as_ref().filter(|said| matches!(said.kind, ExprKind::Map(_))).unwrap_or(&NOTHING),
    );
    for (name, _) in silent {
        more.take_raw(name);
    }
    (silent.into_iter().filter_map(named).collect(), more.into_extras())
}

/// An object that says nothing.
const NOTHING: Expr =
    Expr { kind: ExprKind::Map(Vec::new()), span: Span { file: FileId(0), start: 0, end: 0 } };

/// A path that the framework adds.
pub(crate) fn kept(
    name: &str,
    word: &str,
    purpose: Option<Purpose>,
    span: Option<Span>,
) -> FieldDeclaration {
    FieldDeclaration {
        name: Some(name.to_owned()),
        spelling: Spelling::word(word),
        purpose,
        span,
        ..FieldDeclaration::default()
    }
}

/// Marks a path that only documents of one kind have.
pub(super) fn only_in(attribute: &mut Attribute, kind: &str) {
    let extras = match attribute {
        Attribute::Field(field) => &mut field.extras,
        Attribute::Relation(relation) => &mut relation.carrier.extras,
        Attribute::Inverse(inverse) => &mut inverse.extras,
        Attribute::Removed(_) => return,
    };
    extras.entry(ONLY_IN.to_owned()).or_insert_with(|| json!(kind));
}

/// What is left of the options of a path, as extras.
pub(super) fn left(place: &Place<'_>, name: &str, value: &Expr) -> (String, serde_json::Value) {
    (name.to_owned(), kept_value(&place.scope(), value))
}
