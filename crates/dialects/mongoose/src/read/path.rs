//! One path of a schema: a value, a reference, a list, or a document inside the document.

use serde_json::json;
use spelling::Kind;

use super::definition::{self, Definition};
use super::{Part, Reader, index, owned, spelling, value};
use crate::codes;
use crate::declaration::{
    Attribute, FieldDeclaration, JoinColumn, Model, RelationDeclaration, Spelling,
};
use crate::diagnostic::Diagnostic;
use crate::dialect::naming::Case;
use crate::host::arguments::Arguments;
use crate::host::outline::{Expr, ExprKind};
use crate::host::typescript::choices::{Choices, choices};
use crate::host::typescript::place::{Place, last_name};
use crate::schema::{EnumType, InputRule, RelationKind, Shape};
use crate::source::Span;
use crate::types::{CHECKS, RULES, checks};

/// Where paths are read.
#[derive(Clone, Copy)]
pub(super) struct Site<'r, 'p> {
    pub(super) reader: &'r Reader<'p>,
    pub(super) place: Place<'p>,
    /// How many schemas stand around this one.
    pub(super) depth: u32,
}

/// Reads the path `name`.
pub(super) fn read(
    site: &Site<'_, '_>,
    name: &str,
    at: Span,
    written: &Expr,
    model: &mut Model,
    part: &mut Part,
) {
    let said = spelling::read(site, written);
    let mut options = Arguments::of_object(site.place.scope(), &said.options);
    match said.kind {
        Kind::Nested(object) => nested(site, name, at, &object, model, part),
        Kind::Holding(shape, definition) => {
            holding(site, name, at, (shape, definition), &mut options, model, part)
        }
        Kind::HoldingObject(shape, object) => {
            holding_object(site, name, at, (shape, &object), &mut options, model, part)
        }
        Kind::Type(spelling) => field(site, name, at, spelling, options, model, part),
        Kind::Unknown => {
            let message = format!("`{}.{name}` has no type that is known", model.name);
            part.diagnostics.push(
                Diagnostic::of(&codes::UNKNOWN_PATH_TYPE, message)
                    .at(Some(at), "its type is known only at run time")
                    .with_help("write the type, or add the file that it comes from to the inputs"),
            );
            field(site, name, at, Spelling::word("unknown"), options, model, part);
        }
    }
}

/// A plain object: its paths are paths of the same document.
fn nested(
    site: &Site<'_, '_>,
    name: &str,
    at: Span,
    object: &Expr,
    model: &mut Model,
    part: &mut Part,
) {
    if as_json(site, name, at, model, part) {
        return;
    }
    let mut inner = owned(model, name, Shape::Part, at);
    if let ExprKind::Map(pairs) = &object.kind {
        for (key, value) in pairs {
            match key.text() {
                Some(name) => read(site, name, key.span, value, &mut inner, part),
                None => part.diagnostics.push(definition::opaque(&inner, key.span)),
            }
        }
    }
    part.models.push(inner);
}

/// Whether what stands inside is to be read as one value.
fn as_json(site: &Site<'_, '_>, name: &str, at: Span, model: &mut Model, part: &mut Part) -> bool {
    if !site.reader.nested_as_json {
        return false;
    }
    let message =
        format!("`{}.{name}` is read as one value: what it holds is not told apart", model.name);
    part.diagnostics.push(
        Diagnostic::of(&codes::NESTED_AS_JSON, message).at(Some(at), "`documents.nested` says so"),
    );
    let declared = FieldDeclaration {
        name: Some(name.to_owned()),
        spelling: Spelling::word("Mixed"),
        span: Some(at),
        ..Default::default()
    };
    model.attributes.push(Attribute::Field(Box::new(declared)));
    true
}

/// A document, or several, of another schema.
fn holding(
    site: &Site<'_, '_>,
    name: &str,
    at: Span,
    (shape, schema): (Shape, Span),
    options: &mut Arguments<'_>,
    model: &mut Model,
    part: &mut Part,
) {
    if as_json(site, name, at, model, part) {
        return;
    }
    let Some(definition) = site.reader.definition(schema) else { return };
    let mut inner = owned(model, name, shape, at);
    let at = part.models.len();
    definition::read_at(site.reader, definition, &mut inner, part, site.depth + 1);
    options_of_whole(options, &mut inner);
    part.models.insert(at, inner);
}

/// A document, or several, whose paths stand in place.
fn holding_object(
    site: &Site<'_, '_>,
    name: &str,
    at: Span,
    (shape, object): (Shape, &Expr),
    options: &mut Arguments<'_>,
    model: &mut Model,
    part: &mut Part,
) {
    if as_json(site, name, at, model, part) {
        return;
    }
    let mut inner = owned(model, name, shape, at);
    let place = part.models.len();
    if let ExprKind::Map(pairs) = &object.kind {
        for (key, value) in pairs {
            match (key.text(), value.boolean()) {
                (Some("_id"), Some(false)) => inner.key = Some(Vec::new()),
                (Some(name), _) => read(site, name, key.span, value, &mut inner, part),
                (None, _) => part.diagnostics.push(definition::opaque(&inner, key.span)),
            }
        }
    }
    options_of_whole(options, &mut inner);
    part.models.insert(place, inner);
}

/// What is said of a path that holds documents as a whole.
fn options_of_whole(options: &mut Arguments<'_>, inner: &mut Model) {
    if options.take_bool("_id") == Some(false) {
        inner.key = Some(Vec::new());
    }
    let scope = options.scope;
    let left = std::mem::replace(options, Arguments::of_call(scope, &[], &[], &[])).into_extras();
    if !left.is_empty() {
        inner.extras.insert("path".into(), serde_json::Value::Object(left.into_iter().collect()));
    }
}

/// A value, or a reference.
fn field(
    site: &Site<'_, '_>,
    name: &str,
    at: Span,
    spelling: Spelling,
    mut options: Arguments<'_>,
    model: &mut Model,
    part: &mut Part,
) {
    let attribute = match options.take("alias").map(|alias| alias.kind) {
        Some(ExprKind::Text(alias)) => Some(alias.to_string()),
        _ => None,
    };
    let key = name == "_id";
    let mut declared = FieldDeclaration {
        column: attribute.as_ref().map(|_| name.to_owned()),
        name: Some(attribute.unwrap_or_else(|| name.to_owned())),
        spelling,
        key,
        span: Some(at),
        ..FieldDeclaration::default()
    };
    in_vain(&options, &declared, at, model, part);
    required(site, &mut options, &mut declared);
    rules(&mut options, &mut declared, part);
    matched(site, &mut options, &mut declared);
    restricted(site, name, at, &mut options, &mut declared, model, part);
    let made = key && options.take_bool("auto") == Some(true);
    match options.take_raw("default") {
        Some(default) => value::default(&site.place, &default, &mut declared),
        None if made => {
            declared.application_default =
                site.reader.conventions.keys.implied_default.map(|default| Box::new(default()))
        }
        None if declared.spelling.element.is_some() => {
            declared.application_default = Some(Box::new(value::empty_list()))
        }
        None => {}
    }
    index::of_path(name, at, &mut options, &mut declared, model);
    let reference = options.take_raw("ref");
    let target = reference.as_ref().and_then(|reference| target(site, reference));
    if let (Some(reference), None) = (&reference, &target) {
        let message = format!("what `{}.{name}` refers to is known only at run time", model.name);
        part.diagnostics.push(
            Diagnostic::of(&codes::OPAQUE_REFERENCE, message)
                .at(Some(reference.span), "not a name that can be read here")
                .with_help("write the name of the model as a text"),
        );
        let (word, value) = definition::left(&site.place, "ref", reference);
        declared.extras.insert(word, value);
    }
    let mut extras = options.into_extras();
    declared.extras.append(&mut extras);
    match target {
        Some(target) => {
            model.attributes.push(Attribute::Relation(Box::new(relation(site, target, declared))))
        }
        None => model.attributes.push(Attribute::Field(Box::new(declared))),
    }
}

/// The model that `ref` names: by its name, by itself, or by a function that returns either.
fn target(site: &Site<'_, '_>, reference: &Expr) -> Option<String> {
    let value = site.place.value(reference);
    match &value.kind {
        ExprKind::Text(name) => Some(name.to_string()),
        ExprKind::Function { returns: Some(returned), .. } => target(site, returned),
        ExprKind::Name(path) => {
            let variable = last_name(&value).unwrap_or(path);
            let model = site
                .reader
                .found
                .models
                .iter()
                .find(|model| model.variable.as_deref() == Some(variable))?;
            model.name.clone().or_else(|| model.variable.clone())
        }
        ExprKind::Call(call) if last_name(&call.callee) == Some("model") => {
            site.place.value(call.arguments.first()?).text().map(str::to_owned)
        }
        _ => None,
    }
}

fn relation(
    site: &Site<'_, '_>,
    target: String,
    mut declared: FieldDeclaration,
) -> RelationDeclaration {
    let list = declared.spelling.element.take().map(|element| *element);
    let kind = match (&list, declared.unique == Some(true) || declared.key) {
        (Some(_), _) => RelationKind::ManyToMany,
        (None, true) => RelationKind::OneToOne,
        (None, false) => RelationKind::ManyToOne,
    };
    if let Some(element) = list {
        declared.spelling = element;
    }
    let target = site.reader.target(&target, site.place.file);
    let mut relation = RelationDeclaration::new(declared.name.take(), kind, target);
    let column = declared.column.take();
    relation.join_columns = column
        .into_iter()
        .map(|name| JoinColumn { name: Some(name), ..JoinColumn::default() })
        .collect();
    relation.span = declared.span;
    relation.carrier = declared;
    relation
}

/// `required`: a truth value, one with a message, or a function.
fn required(site: &Site<'_, '_>, options: &mut Arguments<'_>, declared: &mut FieldDeclaration) {
    let Some(written) = options.take_raw("required") else { return };
    let value = site.place.value(&written);
    match &value.kind {
        ExprKind::Boolean(required) => declared.required_on_input = required.then_some(true),
        // A message is as good as `true`.
        ExprKind::Text(_) => {
            declared.required_on_input = Some(true);
            let (name, value) = definition::left(&site.place, "required", &written);
            declared.extras.insert(name, value);
        }
        ExprKind::List(items) => {
            declared.required_on_input =
                items.first().and_then(Expr::boolean).filter(|required| *required);
            let (name, value) = definition::left(&site.place, "required", &written);
            declared.extras.insert(name, value);
        }
        _ => {
            let (name, value) = definition::left(&site.place, "required", &written);
            declared.extras.insert(name, value);
        }
    }
}

/// The pattern of `/.../` or `new RegExp('...')` without flags, which say more.
fn pattern(site_text: &str, value: &Expr) -> Option<String> {
    if let Some(call) = value
        .call()
        .filter(|call| last_name(&call.callee) == Some("RegExp") && call.arguments.len() == 1)
    {
        return call.arguments[0].text().map(str::to_owned);
    }
    let inner = site_text.strip_prefix('/')?.strip_suffix('/')?;
    Some(inner.replace("\\/", "/"))
}

/// `match`: a pattern, or one with a message.
fn matched(site: &Site<'_, '_>, options: &mut Arguments<'_>, declared: &mut FieldDeclaration) {
    let Some(written) = options.take("match").filter(|_| checks(&declared.spelling.word, "match"))
    else {
        return;
    };
    let (value, message) = match &written.kind {
        ExprKind::List(items) => {
            (items.first().cloned(), items.get(1).and_then(Expr::text).map(str::to_owned))
        }
        _ => (Some(written.clone()), None),
    };
    let found =
        value.and_then(|value| pattern(site.place.project.sources.text(value.span), &value));
    match found {
        Some(pattern) => declared.rules.push(InputRule {
            rule: "pattern".into(),
            value: pattern.into(),
            message,
        }),
        None => {
            let (name, value) = definition::left(&site.place, "match", &written);
            declared.extras.insert(name, value);
        }
    }
}

/// `min`, `max`, lengths; each may have a message.
fn rules(options: &mut Arguments<'_>, declared: &mut FieldDeclaration, part: &mut Part) {
    for (rule, option) in RULES
        .iter()
        .filter(|(_, option)| *option != "match" && checks(&declared.spelling.word, option))
    {
        let Some(value) = options.take(option) else { continue };
        let (limit, message) = match &value.kind {
            ExprKind::List(items) => {
                (items.first().cloned(), items.get(1).and_then(Expr::text).map(str::to_owned))
            }
            _ => (Some(value.clone()), None),
        };
        match limit.as_ref().and_then(crate::host::evaluate::constant) {
            Some(limit) => {
                declared.rules.push(InputRule { rule: (*rule).to_owned(), value: limit, message })
            }
            None => {
                let message = format!(
                    "`{option}` of `{}` is known only at run time",
                    declared.name.as_deref().unwrap_or_default()
                );
                part.diagnostics.push(
                    Diagnostic::of(&codes::OPAQUE_LIMIT, message)
                        .at(Some(value.span), "not a number that can be read here")
                        .with_help("write it as a number, or as a constant of a file in reach"),
                );
                declared.extras.insert(
                    (*option).to_owned(),
                    crate::host::arguments::kept(&options.scope, &value),
                );
            }
        }
    }
}

/// `enum`: a list of values, an object of them, or a list with a message.
fn restricted(
    site: &Site<'_, '_>,
    name: &str,
    at: Span,
    options: &mut Arguments<'_>,
    declared: &mut FieldDeclaration,
    model: &Model,
    part: &mut Part,
) {
    if !checks(&declared.spelling.word, "enum") {
        return;
    }
    let Some(written) = options.take_raw("enum") else { return };
    let values = site.place.value(&written);
    let list = values.entry("values").cloned();
    if let (Some(_), Some(message)) = (&list, values.entry("message").and_then(Expr::text)) {
        declared.extras.insert("enum_message".into(), json!(message));
    }
    // As written, a list may still name the enumeration that it comes from.
    let list = list.unwrap_or_else(|| written.clone());
    let found = choices(&site.place, &list).or_else(|| of_object(site, &written));
    match found {
        Some(Choices::Enumeration(name)) => declared.choices = Some(name),
        Some(Choices::Values(values)) => {
            let class = format!("{}{}", model.name, Case::Pascal.apply(name));
            let module = model.module.clone();
            // Nothing is allowed beside the values, but for null.
            let values = values.into_iter().filter(|value| !value.is_null()).collect();
            part.enums.push(EnumType::inline(
                class.clone(),
                module,
                values,
                site.reader.origin(list.span),
            ));
            declared.choices = Some(class);
        }
        None => {
            let message =
                format!("the values of `{}.{name}` are known only at run time", model.name);
            part.diagnostics.push(
                Diagnostic::of(&codes::OPAQUE_CHOICES, message)
                    .at(Some(at), "any value is taken for possible")
                    .with_help("write them as a list, or as a constant of a file in reach"),
            );
            let (word, value) = definition::left(&site.place, "enum", &written);
            declared.extras.insert(word, value);
        }
    }
}

/// An `enum` of the language by its name, or an object whose values count.
fn of_object(site: &Site<'_, '_>, written: &Expr) -> Option<Choices> {
    let values = Expr {
        kind: ExprKind::Call(Box::new(crate::host::outline::Call {
            callee: Expr { kind: ExprKind::Name("Object.values".into()), span: written.span },
            arguments: vec![written.clone()],
            named: Vec::new(),
        })),
        span: written.span,
    };
    choices(&site.place, &values)
}

/// Options that the framework takes in silence, and that do nothing.
fn in_vain(
    options: &Arguments<'_>,
    declared: &FieldDeclaration,
    at: Span,
    model: &Model,
    part: &mut Part,
) {
    let word = declared.spelling.word.as_str();
    for option in CHECKS.iter().filter(|option| options.has(option) && !checks(word, option)) {
        let name = declared.name.as_deref().unwrap_or_default();
        let message = format!(
            "`{option}` of `{}.{name}` does nothing: values of type {word} are not held to it",
            model.name
        );
        part.diagnostics.push(
            Diagnostic::of(&codes::OPTION_IN_VAIN, message)
                .at(Some(at), "any value is taken")
                .with_help("use a type that checks it, or `validate`"),
        );
    }
}

/// The definition of a schema that an expression leads to.
pub(super) fn schema_of(site: &Site<'_, '_>, expr: &Expr) -> Option<Span> {
    let span = definition::of(&site.place, expr)?;
    let known: Option<&Definition> = site.reader.definition(span);
    known.map(|definition| definition.key)
}
