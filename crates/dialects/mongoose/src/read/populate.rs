//! Virtual paths: those that lead back along references of other documents, and those that the
//! application computes.

use std::collections::HashMap;

use serde_json::Value;

use super::path::Site;
use super::{Part, definition};
use crate::codes;
use crate::declaration::{Attribute, InverseDeclaration, InverseKind, Model};
use crate::diagnostic::Diagnostic;
use crate::host::arguments::Arguments;
use crate::host::outline::Expr;
use crate::schema::RelationKind;
use crate::source::Span;

/// The word under which extras keep virtual paths that follow no reference.
pub(crate) const VIRTUALS: &str = "virtuals";

/// `schema.virtual('portCalls', { ref: 'PortCall', localField: '_id', foreignField: 'berth' })`.
pub(super) fn read(
    site: &Site<'_, '_>,
    arguments: &[Expr],
    span: Span,
    model: &mut Model,
    part: &mut Part,
) {
    let Some(name) = arguments
        .first()
        .map(|name| site.place.value(name))
        .and_then(|name| name.text().map(str::to_owned))
    else {
        return;
    };
    let Some(written) = arguments.get(1).map(|options| site.place.value(options)) else {
        return computed(arguments, span, model, part);
    };
    let text = |word: &str| written.entry(word).and_then(Expr::text).map(str::to_owned);
    let (Some(target), Some(local), Some(foreign)) =
        (text("ref"), text("localField"), text("foreignField"))
    else {
        let (_, value) = definition::left(&site.place, &name, &written);
        return keep(model, &name, value);
    };
    let one = written.entry("justOne").and_then(Expr::boolean) == Some(true);
    if local != "_id" {
        let (_, value) = definition::left(&site.place, &name, &written);
        return keep(model, &name, value);
    }
    let mut options = Arguments::of_object(site.place.scope(), &written);
    for word in ["ref", "localField", "foreignField", "justOne"] {
        options.take_raw(word);
    }
    model.attributes.push(Attribute::Inverse(Box::new(InverseDeclaration {
        name,
        kind: if one { InverseKind::OneToOne } else { InverseKind::OneToMany },
        target: site.reader.target(&target, site.place.file),
        // A path, until all models are known.
        owner: foreign,
        columns: Vec::new(),
        extras: options.into_extras(),
        span: Some(span),
    })));
}

/// Keeps a virtual path that follows no reference.
fn keep(model: &mut Model, name: &str, value: Value) {
    let kept = model
        .extras
        .entry(VIRTUALS.to_owned())
        .or_insert_with(|| Value::Object(serde_json::Map::new()));
    if let Some(kept) = kept.as_object_mut() {
        kept.insert(name.to_owned(), value);
    }
}

/// A virtual path whose value the application computes.
pub(super) fn computed(arguments: &[Expr], span: Span, model: &Model, part: &mut Part) {
    let name = arguments.first().and_then(Expr::text).unwrap_or("a virtual path");
    let message =
        format!("`{name}` of `{}` is not stored: the application computes it", model.name);
    part.diagnostics.push(
        Diagnostic::of(&codes::VIRTUAL_PATH, message).at(Some(span), "kept out of the documents"),
    );
}

/// The model and attribute of a reference, and what kind of relation that is.
type Followed = (String, String, RelationKind);

/// Leads virtual paths to the attributes of the references that they follow; what follows none is
/// kept as it is.
pub(super) fn connect(models: &mut [Model], diagnostics: &mut Vec<Diagnostic>) {
    let mut found: Vec<(usize, usize, Option<Followed>)> = Vec::new();
    let known = KnownModels::of(models);
    for (at, model) in models.iter().enumerate() {
        for (number, attribute) in model.attributes.iter().enumerate() {
            if let Attribute::Inverse(inverse) = attribute {
                found.push((
                    at,
                    number,
                    known.followed(&model.id, &inverse.target, &inverse.owner),
                ));
            }
        }
    }
    for (at, number, found) in found.into_iter().rev() {
        let model = &mut models[at];
        let Attribute::Inverse(inverse) = &mut model.attributes[number] else { continue };
        match found {
            Some((target, owner, kind)) => {
                (inverse.target, inverse.owner) = (target, owner);
                if kind == RelationKind::ManyToMany {
                    inverse.kind = InverseKind::ManyToMany;
                }
            }
            None => {
                let inverse = inverse.clone();
                let message = format!(
                    "`{}.{}` looks for `{}` in `{}`, which is no reference back",
                    model.name, inverse.name, inverse.owner, inverse.target
                );
                diagnostics.push(
                    Diagnostic::of(&codes::VIRTUAL_WITHOUT_REFERENCE, message)
                        .at(inverse.span, "finds nothing, or compares other values")
                        .with_help("name the path that has the reference under `foreignField`"),
                );
                let kind = inverse.kind == InverseKind::OneToOne;
                let name = inverse.target.rsplit('.').next().unwrap_or_default().to_owned();
                let mut kept = serde_json::json!({ "ref": name, "localField": "_id",
                    "foreignField": inverse.owner });
                if let (true, Some(kept)) = (kind, kept.as_object_mut()) {
                    kept.insert("justOne".into(), true.into());
                }
                keep(model, &inverse.name, kept);
                model.attributes.remove(number);
            }
        }
    }
}

/// Models by their ids, and by the ids of those that they stand inside.
struct KnownModels<'m> {
    by_id: HashMap<&'m str, &'m Model>,
    inside: HashMap<&'m str, Vec<&'m Model>>,
}

impl<'m> KnownModels<'m> {
    fn of(models: &'m [Model]) -> Self {
        let mut inside: HashMap<&str, Vec<&Model>> = HashMap::new();
        for model in models {
            if let Some(place) = &model.owned_by {
                inside.entry(&place.entity).or_default().push(model);
            }
        }
        KnownModels {
            by_id: models.iter().map(|model| (model.id.as_str(), model)).collect(),
            inside,
        }
    }

    /// The model and attribute of the reference under a path, also inside other documents.
    fn followed(&self, from: &str, target: &str, path: &str) -> Option<Followed> {
        let model = self.by_id.get(target)?;
        let own = model.attributes.iter().find_map(|attribute| match attribute {
            Attribute::Relation(relation) => {
                let stored = relation
                    .join_columns
                    .first()
                    .and_then(|join| join.name.as_ref())
                    .or(relation.name.as_ref());
                let here = stored.is_some_and(|stored| stored == path) && relation.target == from;
                here.then(|| Some((model.id.clone(), relation.name.clone()?, relation.kind)))?
            }
            _ => None,
        });
        own.or_else(|| {
            self.inside.get(target)?.iter().find_map(|inner| {
                let rest = path.strip_prefix(&inner.owned_by.as_ref()?.path)?.strip_prefix('.')?;
                self.followed(from, &inner.id, rest)
            })
        })
    }
}
