//! What a block says as a whole: key, uniqueness, indexes, table, named schema.

use serde_json::json;

use super::{Reader, parts};
use crate::SILENT_NAMESPACE;
use crate::declaration::{
    Attribute, IndexDeclaration, IndexPartDeclaration, Model, UniqueDeclaration,
};
use crate::diagnostic::Diagnostic;
use crate::dialect::naming::Case;
use crate::host::outline::Expr;
use crate::schema::Extras;

impl Reader<'_> {
    pub(super) fn block_attribute(
        &self,
        model: &mut Model,
        attribute: &Expr,
        found: &mut Vec<Diagnostic>,
    ) {
        let (name, call) = parts(attribute);
        let mut arguments = self.arguments(
            call,
            if matches!(name, "map" | "schema") { &["name"] } else { &["fields"] },
        );
        match name {
            "map" => model.table = arguments.take_text("name"),
            "schema" => {
                model.namespace =
                    arguments.take_text("name").filter(|name| name != SILENT_NAMESPACE)
            }
            "ignore" => {
                model.extras.insert("ignored".into(), true.into());
            }
            "id" | "unique" | "index" | "fulltext" => {
                let (parts, lengths) = index_parts(arguments.take_raw("fields"));
                let map = arguments.take_text("map");
                let mut extras = Extras::new();
                if let Some(name) = arguments.take_text("name") {
                    extras.insert("name".into(), name.into());
                }
                if !lengths.is_empty() {
                    extras.insert("length".into(), lengths.into());
                }
                let method = arguments
                    .take_raw("type")
                    .and_then(|word| word.name().map(|word| word.to_lowercase()));
                if name == "fulltext" {
                    extras.insert("fulltext".into(), true.into());
                }
                let index = IndexDeclaration {
                    parts,
                    unique: name == "unique",
                    method: method.filter(|method| method != "btree"),
                    name: map,
                    extras,
                    span: Some(attribute.span),
                    ..IndexDeclaration::default()
                };
                if name == "id" { self.key(model, index) } else { constrain(model, index) }
            }
            _ => {
                model
                    .extras
                    .insert(name.to_owned(), self.project.sources.text(attribute.span).into());
                return;
            }
        }
        found.extend(arguments.unread(&format!("`@@{name}`"), attribute.span));
    }

    fn key(&self, model: &mut Model, index: IndexDeclaration) {
        let names: Vec<String> =
            index.parts.into_iter().filter_map(|part| part.attribute).collect();
        model.key_name = index.name.or(model.key_name.take());
        for (name, value) in index.extras {
            model.extras.insert(format!("id {name}"), value);
        }
        if let [only] = names.as_slice() {
            for attribute in &mut model.attributes {
                if let Attribute::Field(field) = attribute {
                    field.key |= field.name.as_ref() == Some(only);
                }
            }
            return;
        }
        model.key = Some(names);
    }

    /// A model that nothing identifies is always ignored.
    pub(super) fn keyless(&self, model: &mut Model) {
        if !is_identified(model) {
            model.extras.remove("ignored");
        }
    }
}

/// A key that is said to be unique, too, gets an index for that beside its own.
pub(super) fn uniqueness_of_keys(model: &mut Model) {
    let mut twice = Vec::new();
    for attribute in &mut model.attributes {
        if let Attribute::Field(field) = attribute
            && field.key
            && field.unique.take() == Some(true)
        {
            twice.extend(field.name.clone());
        }
    }
    model.uniques.extend(
        twice.into_iter().map(|name| UniqueDeclaration {
            attributes: vec![name],
            ..UniqueDeclaration::default()
        }),
    );
}

/// Whether something tells the records of a model apart: a key, or unique columns that are never
/// null.
pub(crate) fn is_identified(model: &Model) -> bool {
    let fields = || {
        model.attributes.iter().filter_map(|attribute| match attribute {
            Attribute::Field(field) => Some(field),
            _ => None,
        })
    };
    let required = |name: &String| {
        fields().any(|field| field.name.as_ref() == Some(name) && field.nullable != Some(true))
    };
    model.key.is_some()
        || fields()
            .any(|field| field.key || (field.unique == Some(true) && field.nullable != Some(true)))
        || model.uniques.iter().any(|unique| unique.attributes.iter().all(required))
}

/// A unique one over plain fields is a unique constraint, whatever the server makes of it.
pub(super) fn constrain(model: &mut Model, index: IndexDeclaration) {
    let plain = index.method.is_none()
        && !index.extras.contains_key("length")
        && index.parts.iter().all(|part| {
            !part.descending && part.operator_class.is_none() && part.attribute.is_some()
        });
    if !(index.unique && plain) {
        return model.indexes.push(index);
    }
    model.uniques.push(UniqueDeclaration {
        attributes: index.parts.into_iter().filter_map(|part| part.attribute).collect(),
        name: index.name,
        extras: index.extras,
        span: index.span,
        ..UniqueDeclaration::default()
    });
}

/// The keys of an index, and how much of each is indexed.
fn index_parts(
    fields: Option<Expr>,
) -> (Vec<IndexPartDeclaration>, serde_json::Map<String, serde_json::Value>) {
    let mut lengths = serde_json::Map::new();
    let mut parts = Vec::new();
    // One field may stand without brackets.
    let items = fields
        .as_ref()
        .map_or(&[] as &[Expr], |fields| fields.list().unwrap_or(std::slice::from_ref(fields)));
    for item in items {
        let call = item.call();
        let Some(name) = call.map_or(item.name(), |call| call.callee.name()) else { continue };
        let argument = |word: &str| call.and_then(|call| call.argument(word));
        if let Some(length) = argument("length").and_then(Expr::number) {
            lengths.insert(name.to_owned(), json!(length));
        }
        parts.push(IndexPartDeclaration {
            attribute: Some(name.to_owned()),
            expression: None,
            descending: argument("sort").and_then(Expr::name) == Some("Desc"),
            operator_class: argument("ops").and_then(operator_class),
        });
    }
    (parts, lengths)
}

/// `JsonbPathOps` is `jsonb_path_ops`; others are given as they are.
fn operator_class(ops: &Expr) -> Option<String> {
    match ops.call() {
        Some(call) => call.arguments.first()?.text().map(str::to_owned),
        None => ops.name().map(|name| Case::Snake.apply(name)),
    }
}
