//! One attribute of a model to its column.

use super::spelling::{self, Site};
use super::{Draft, FilePart, Reader, Reference, Target, value};
use crate::codes;
use crate::declaration::{FieldDeclaration, IndexDeclaration, IndexPartDeclaration};
use crate::diagnostic::Diagnostic;
use crate::host::arguments::Arguments;
use crate::host::outline::{Expr, ExprKind};
use crate::host::typescript::place::{Place, last, last_name};
use crate::schema::{Action, Database, Deferrable, Identity};
use crate::types::NUMBERED;

/// Values of `onDelete` and `onUpdate`, whatever their case.
const ACTIONS: &[(&str, Action)] = &[
    ("CASCADE", Action::Cascade),
    ("SET NULL", Action::SetNull),
    ("SET DEFAULT", Action::SetDefault),
    ("RESTRICT", Action::Restrict),
    ("NO ACTION", Action::NoAction),
];

/// The word of a type that is not known.
const UNKNOWN: &str = "unknown";

/// Options that look as if they said something, and what says it.
const IN_VAIN: &[(&str, &str)] = &[
    ("index", "list the index in `indexes` of the model's options"),
    ("default", "the word is `defaultValue`"),
];

/// Reads the attribute under `key`.
pub(super) fn read(
    reader: &Reader<'_>,
    place: &Place<'_>,
    draft: &mut Draft,
    key: &Expr,
    written: &Expr,
    part: &mut FilePart,
) {
    let Some(name) = key.text().map(str::to_owned) else {
        part.diagnostics.push(unknown(&draft.title, key));
        return;
    };
    let mut options = match &written.kind {
        ExprKind::Map(_) => Arguments::of_object(place.scope(), written),
        // The type alone.
        _ => Arguments::of_call(place.scope(), std::slice::from_ref(written), &["type"], &[]),
    };
    let column = options.take_text("field").unwrap_or_else(|| draft.options.stored(&name));
    if let Some(field) = field(reader, place, (draft, &name, column), &mut options, key, part) {
        draft.fields.push(FieldDeclaration { extras: options.into_extras(), ..field });
    }
}

fn unknown(title: &str, key: &Expr) -> Diagnostic {
    Diagnostic::of(
        &codes::OPAQUE_ATTRIBUTES,
        format!("some attributes of `{title}` are known only at run time"),
    )
    .at(Some(key.span), "what is spread here is not known")
    .because("its columns are missing")
    .with_help("write them as an object, or as a constant of a file in reach")
}

/// The column of an attribute; nothing where it has none. What is left of the options is the
/// caller's to keep.
pub(super) fn field(
    reader: &Reader<'_>,
    place: &Place<'_>,
    (draft, name, column): (&mut Draft, &str, String),
    options: &mut Arguments<'_>,
    key: &Expr,
    part: &mut FilePart,
) -> Option<FieldDeclaration> {
    let null = options.take_bool("allowNull");
    if null == Some(true) {
        draft.allowing_null.insert(name.to_owned());
    }
    let mut declared = FieldDeclaration {
        column: Some(column).filter(|column| column != name),
        name: Some(name.to_owned()),
        nullable: null.filter(|null| !null),
        key: options.take_bool("primaryKey") == Some(true),
        comment: options.take_text("comment"),
        span: Some(key.span),
        ..FieldDeclaration::default()
    };
    let ty = options.take_raw("type");
    let values = options.take("values");
    let mut site =
        Site { reader, place, class: &draft.model.name, attribute: name, span: key.span, part };
    match ty.as_ref().map(|ty| spelling::read(&mut site, ty, values.as_ref())) {
        Some(spelling::FoundType::Type(spelling)) => declared.spelling = spelling,
        Some(spelling::FoundType::Choices(spelling, choices)) => {
            (declared.spelling, declared.choices) = (spelling, Some(choices))
        }
        Some(spelling::FoundType::Virtual) => {
            let message =
                format!("`{}.{name}` has no column: the application computes it", draft.title);
            part.diagnostics.push(
                Diagnostic::of(&codes::VIRTUAL_ATTRIBUTE, message)
                    .at(Some(key.span), "kept out of the table"),
            );
            return None;
        }
        Some(spelling::FoundType::Unknown) => declared.spelling.word = UNKNOWN.to_owned(),
        None => {
            site.unknown_type("it says none");
            declared.spelling.word = UNKNOWN.to_owned();
        }
    }
    if declared.key {
        declared.nullable = None;
    }
    numbered(reader, &mut declared, options);
    if let Some(default) = options.take_raw("defaultValue") {
        value::default(place, &default, &mut declared);
    }
    uniqueness(draft, name, options, &mut declared, key);
    restricted(reader, place, draft, options, &mut declared, part);
    reference(place, draft, name, options, key);
    // An index that the framework does hear of: `refreshAttributes` of its `model.js`.
    if declared.spelling.word == "JSONB" && options.take_bool("index") == Some(true) {
        let part = IndexPartDeclaration { attribute: Some(name.to_owned()), ..Default::default() };
        let method =
            (reader.conventions.database == Database::PostgreSql).then(|| "gin".to_owned());
        draft.model.indexes.push(IndexDeclaration {
            parts: vec![part],
            method,
            span: Some(key.span),
            ..Default::default()
        });
    }
    for (word, _) in IN_VAIN.iter().filter(|(word, _)| options.take_raw(word).is_some()) {
        draft.in_vain.push((word, name.to_owned(), key.span));
    }
    Some(declared)
}

/// Tells once of a model what several of its attributes say in vain.
pub(super) fn in_vain(draft: &Draft, part: &mut FilePart) {
    for (word, way_out) in IN_VAIN {
        let said: Vec<&(&str, String, crate::source::Span)> =
            draft.in_vain.iter().filter(|(known, ..)| known == word).collect();
        let Some((_, _, first)) = said.first() else { continue };
        let names: Vec<String> = said.iter().map(|(_, name, _)| format!("`{name}`")).collect();
        let message = format!(
            "`{word}` does nothing in attributes of `{}`: {}",
            draft.title,
            names.join(", ")
        );
        part.diagnostics.push(
            Diagnostic::of(&codes::SAID_IN_VAIN, message)
                .at(Some(*first), "Sequelize does not hear it")
                .with_help(*way_out),
        );
    }
}

/// `autoIncrement`, and the numbers that SQLite gives to rows.
fn numbered(reader: &Reader<'_>, declared: &mut FieldDeclaration, options: &mut Arguments<'_>) {
    let identity = options.take_bool("autoIncrementIdentity") == Some(true);
    if options.take_bool("autoIncrement") != Some(true) {
        return;
    }
    let sqlite = reader.conventions.database == Database::Sqlite;
    if sqlite {
        declared.spelling.word = "INTEGER".into();
    }
    declared.spelling.word.push_str(NUMBERED);
    declared.identity = (identity && !sqlite).then_some(Identity::ByDefault);
}

/// `unique: true`, or the name of a constraint over several attributes.
fn uniqueness(
    draft: &mut Draft,
    name: &str,
    options: &mut Arguments<'_>,
    declared: &mut FieldDeclaration,
    key: &Expr,
) {
    let Some(unique) = options.take("unique") else { return };
    let group = match &unique.kind {
        ExprKind::Boolean(unique) => {
            declared.unique = unique.then_some(true);
            return;
        }
        ExprKind::Text(text) => text.to_string(),
        ExprKind::Map(_) => match unique.entry("name").and_then(Expr::text) {
            Some(text) => text.to_owned(),
            None => format!("{}_{name}_unique", draft.title),
        },
        _ => return,
    };
    draft.add_to_unique(&group, name, key);
}

/// Values that `validate` restricts the attribute to; the other rules stay as they are written.
fn restricted(
    reader: &Reader<'_>,
    place: &Place<'_>,
    draft: &Draft,
    options: &mut Arguments<'_>,
    declared: &mut FieldDeclaration,
    part: &mut FilePart,
) {
    let Some(validate) = options.take_raw("validate") else { return };
    let mut rules = place.value(&validate);
    if let ExprKind::Map(pairs) = &mut rules.kind
        && let Some(at) = pairs.iter().position(|(key, _)| key.text() == Some("isIn"))
    {
        let written = match &validate.kind {
            ExprKind::Map(written) => written
                .iter()
                .find(|(key, _)| key.text() == Some("isIn"))
                .map(|(_, value)| value.clone()),
            _ => None,
        };
        let list = written.as_ref().unwrap_or(&pairs[at].1);
        let inner = list
            .list()
            .and_then(<[Expr]>::first)
            .filter(|_| list.list().is_some_and(|list| list.len() == 1));
        let attribute = declared.name.clone().unwrap_or_default();
        let mut site = Site {
            reader,
            place,
            class: &draft.model.name,
            attribute: &attribute,
            span: validate.span,
            part,
        };
        if let Some(choices) = inner.and_then(|inner| spelling::enumeration(&mut site, inner)) {
            declared.choices = Some(choices);
            pairs.remove(at);
            if pairs.is_empty() {
                return;
            }
            return options.extend_missing(vec![("validate".into(), rules)]);
        }
    }
    options.extend_missing(vec![("validate".into(), validate)]);
}

/// `references`, `onDelete` and `onUpdate`.
fn reference(
    place: &Place<'_>,
    draft: &mut Draft,
    name: &str,
    options: &mut Arguments<'_>,
    key: &Expr,
) {
    let on_delete = options.take_text("onDelete").as_deref().and_then(action);
    let on_update = options.take_text("onUpdate").as_deref().and_then(action);
    let references = options.take_raw("references").map(|references| place.value(&references));
    if references.is_none() && on_delete.is_none() && on_update.is_none() {
        return;
    }
    let entry = |name: &str| references.as_ref().and_then(|value| value.entry(name)).cloned();
    let whole = references.clone().filter(|value| !matches!(value.kind, ExprKind::Map(_)));
    let target = entry("model").or_else(|| entry("table")).or(whole).as_ref().and_then(table);
    let deferrable = entry("deferrable").as_ref().and_then(deferrable);
    draft.references.push(Reference {
        attribute: name.to_owned(),
        target,
        key: entry("key").as_ref().and_then(Expr::text).map(str::to_owned),
        on_delete,
        on_update,
        deferrable,
        span: key.span,
    });
}

fn deferrable(expr: &Expr) -> Option<Deferrable> {
    let callee = expr.call().map_or(expr, |call| &call.callee);
    match last(callee.name()?) {
        "INITIALLY_DEFERRED" => Some(Deferrable::InitiallyDeferred),
        "INITIALLY_IMMEDIATE" => Some(Deferrable::InitiallyImmediate),
        _ => None,
    }
}

/// The table or the model that a reference names.
fn table(expr: &Expr) -> Option<Target> {
    match &expr.kind {
        ExprKind::Text(name) => Some(Target::Table { namespace: None, name: name.to_string() }),
        ExprKind::Map(_) => {
            let text = |name: &str| expr.entry(name).and_then(Expr::text).map(str::to_owned);
            Some(Target::Table { namespace: text("schema"), name: text("tableName")? })
        }
        // A variable stands for what was defined there.
        ExprKind::Call(call) if last_name(&call.callee) == Some("define") => call
            .arguments
            .first()
            .and_then(Expr::text)
            .map(|title| Target::Model(vec![title.to_owned()])),
        _ => last_name(expr).map(|name| Target::Model(vec![name.to_owned()])),
    }
}

/// The action of a word.
pub(super) fn action(word: &str) -> Option<Action> {
    ACTIONS
        .iter()
        .find(|(known, _)| known.eq_ignore_ascii_case(word.trim()))
        .map(|(_, action)| *action)
}
