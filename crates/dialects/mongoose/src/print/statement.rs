//! What is said of a schema after its paths: indexes, and virtual paths that lead back along
//! references.

use serde_json::Value;

use super::{Printer, path_of, variable};
use crate::declaration::{
    Attribute, IndexDeclaration, InverseDeclaration, InverseKind, Model, UniqueDeclaration,
};
use crate::dialect::source_text::SourceText;
use crate::query;
use crate::quoting::typescript::{literal, property_key, text};
use crate::read::{index::OVER_SEVERAL, populate::VIRTUALS};
use crate::schema::Extras;

impl<'d> Printer<'d> {
    /// Every statement of the model's file.
    pub(super) fn statements(&mut self, body: &mut SourceText) {
        let mut lines = Vec::new();
        self.indexes(self.model, "", &mut lines);
        let model = self.model;
        for attribute in &model.attributes {
            if let Attribute::Inverse(inverse) = attribute {
                lines.push(self.populated(inverse));
            }
        }
        let schema = variable(model);
        if let Some(virtuals) = model.extras.get(VIRTUALS).and_then(Value::as_object) {
            lines.extend(virtuals.iter().map(|(name, options)| {
                format!("{schema}.virtual({}, {});", text(name), literal(options))
            }));
        }
        if !lines.is_empty() {
            body.gap();
            lines.iter().for_each(|line| body.line(0, line));
        }
    }

    /// The indexes of a model and of what stands inside its documents.
    fn indexes(&self, model: &'d Model, prefix: &str, lines: &mut Vec<String>) {
        lines.extend(model.uniques.iter().map(|unique| self.unique(model, prefix, unique)));
        lines.extend(model.indexes.iter().map(|index| self.index(model, prefix, index)));
        if let Some(list) = model.extras.get(OVER_SEVERAL).and_then(Value::as_array) {
            for entry in list.iter().filter_map(Value::as_array) {
                let parts: Vec<String> = entry
                    .iter()
                    .filter(|part| part.as_object().is_none_or(|part| !part.is_empty()))
                    .map(literal)
                    .collect();
                lines.push(format!("{}.index({});", variable(self.model), parts.join(", ")));
            }
        }
        for inner in self.shared.owned(&model.id) {
            let path = inner.owned_by.as_ref().map_or("", |place| place.path.as_str());
            self.indexes(inner, &format!("{prefix}{path}."), lines);
        }
    }

    fn unique(&self, model: &Model, prefix: &str, unique: &UniqueDeclaration) -> String {
        let keys = unique
            .attributes
            .iter()
            .map(|attribute| format!("{}: 1", key(prefix, path_of(model, attribute))))
            .collect();
        let required = unique.attributes.iter().all(|attribute| is_required(model, attribute));
        let apart = !required && !unique.nulls_not_distinct && unique.attributes.len() == 1;
        let mut options = vec!["unique: true".to_owned()];
        options.extend(apart.then(|| "sparse: true".to_owned()));
        options.extend(unique.name.as_ref().map(|name| format!("name: {}", text(name))));
        self.statement(keys, options, &unique.extras)
    }

    fn index(&self, model: &Model, prefix: &str, index: &IndexDeclaration) -> String {
        let kinds = index.extras.get("methods").and_then(Value::as_array);
        let part = |(at, part): (usize, &crate::declaration::IndexPartDeclaration)| {
            let path = key(prefix, path_of(model, part.attribute.as_deref().unwrap_or_default()));
            let method = match kinds {
                Some(kinds) => kinds.get(at).and_then(Value::as_str),
                None => index.method.as_deref(),
            };
            let direction =
                method.map_or_else(|| if part.descending { "-1" } else { "1" }.to_owned(), text);
            format!("{path}: {direction}")
        };
        let keys = index.parts.iter().enumerate().map(part).collect();
        let mut options = Vec::new();
        if index.unique {
            let attributes = index.parts.iter().filter_map(|part| part.attribute.as_deref());
            let required = attributes.clone().all(|attribute| is_required(model, attribute));
            options.push("unique: true".to_owned());
            let apart = !required && !index.nulls_not_distinct && index.parts.len() == 1;
            options.extend(apart.then(|| "sparse: true".to_owned()));
        }
        options.extend(index.name.as_ref().map(|name| format!("name: {}", text(name))));
        let condition =
            index.condition.as_deref().and_then(|condition| query::print(condition.tree.as_ref()?));
        options.extend(condition.map(|condition| format!("partialFilterExpression: {condition}")));
        self.statement(keys, options, &index.extras)
    }

    fn statement(&self, keys: Vec<String>, mut options: Vec<String>, extras: &Extras) -> String {
        options.extend(super::others(extras, &["methods"]));
        let schema = variable(self.model);
        match options.is_empty() {
            true => format!("{schema}.index({{ {} }});", keys.join(", ")),
            false => {
                format!("{schema}.index({{ {} }}, {{ {} }});", keys.join(", "), options.join(", "))
            }
        }
    }

    /// The other side of a reference.
    fn populated(&self, inverse: &InverseDeclaration) -> String {
        let found = self.shared.models.get(inverse.target.as_str()).copied();
        let (root, prefix) = found.map_or((None, String::new()), |model| {
            let (root, prefix) = self.shared.root(model);
            (Some(root), prefix)
        });
        let path = found.map_or(inverse.owner.as_str(), |model| path_of(model, &inverse.owner));
        let name = root.map_or_else(
            || inverse.target.rsplit('.').next().unwrap_or_default(),
            |root| root.name.as_str(),
        );
        let mut options = vec![
            format!("ref: {}", text(name)),
            "localField: '_id'".to_owned(),
            format!("foreignField: {}", text(&format!("{prefix}{path}"))),
        ];
        options.extend((inverse.kind == InverseKind::OneToOne).then(|| "justOne: true".to_owned()));
        options.extend(super::others(&inverse.extras, &[]));
        format!(
            "{}.virtual({}, {{ {} }});",
            variable(self.model),
            text(&inverse.name),
            options.join(", ")
        )
    }
}

fn key(prefix: &str, path: &str) -> String {
    property_key(&format!("{prefix}{path}"))
}

fn is_required(model: &Model, attribute: &str) -> bool {
    let declared =
        model.attributes.iter().find(|known| known.name() == Some(attribute)).and_then(|known| {
            match known {
                Attribute::Field(field) => Some(&**field),
                Attribute::Relation(relation) => Some(&relation.carrier),
                _ => None,
            }
        });
    declared.map_or(attribute == "_id", |declared| {
        declared.required_on_input == Some(true) || declared.key
    })
}
