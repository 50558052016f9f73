//! What a block says as a whole.

use serde_json::Value;

use super::Printer;
use crate::SILENT_NAMESPACE;
use crate::declaration::{IndexDeclaration, IndexPartDeclaration, Model};
use crate::dialect::naming::Case;
use crate::literal::text as quoted;
use crate::schema::Extras;

/// Operator classes that have a word of their own (`JsonbPathOps`).
const OPERATOR_CLASSES: &[&str] = &["inet_ops", "jsonb_ops", "jsonb_path_ops", "array_ops"];

/// Extras of a model that are written in a way of their own.
const OWN_EXTRAS: &[&str] = &["documentation", "ignored", "id name", "id length"];

impl Printer<'_> {
    pub(super) fn block_attributes(&self, model: &Model) -> Vec<String> {
        let mut lines = Vec::new();
        // The name of a key of one field is said there.
        if let Some(key) = &model.key {
            let mut arguments = vec![format!("[{}]", keys(key, model.extras.get("id length")))];
            arguments.extend(client_name(model.extras.get("id name")));
            arguments.extend(model.key_name.as_ref().map(|name| format!("map: {}", quoted(name))));
            lines.push(format!("@@id({})", arguments.join(", ")));
        }
        for unique in &model.uniques {
            let mut arguments = vec![format!("[{}]", unique.attributes.join(", "))];
            arguments.extend(client_name(unique.extras.get("name")));
            arguments.extend(unique.name.as_ref().map(|name| format!("map: {}", quoted(name))));
            lines.push(format!("@@unique({})", arguments.join(", ")));
        }
        lines.extend(model.indexes.iter().map(index));
        lines.extend(model.table.as_ref().map(|table| format!("@@map({})", quoted(table))));
        if self.ignored.contains(model.id.as_str()) {
            lines.push("@@ignore".to_owned());
        }
        if self.several_namespaces {
            lines.push(format!(
                "@@schema({})",
                quoted(model.namespace.as_deref().unwrap_or(SILENT_NAMESPACE))
            ));
        }
        lines.extend(others(&model.extras));
        lines
    }
}

fn others(extras: &Extras) -> Vec<String> {
    let kept = extras.iter().filter(|(name, _)| !OWN_EXTRAS.contains(&name.as_str()));
    kept.filter_map(|(_, value)| Some(format!("@@{}", value.as_str()?))).collect()
}

/// Keys of an index, with how much of each is indexed.
fn keys(names: &[String], lengths: Option<&Value>) -> String {
    let key = |name: &String| match lengths.and_then(|lengths| lengths.get(name)) {
        Some(length) => format!("{name}(length: {length})"),
        None => name.clone(),
    };
    names.iter().map(key).collect::<Vec<_>>().join(", ")
}

fn client_name(name: Option<&Value>) -> Option<String> {
    name.and_then(Value::as_str).map(|name| format!("name: {}", quoted(name)))
}

fn index(index: &IndexDeclaration) -> String {
    let lengths = index.extras.get("length");
    let parts: Vec<String> = index.parts.iter().map(|part| index_part(part, lengths)).collect();
    let mut arguments = vec![format!("[{}]", parts.join(", "))];
    arguments.extend(client_name(index.extras.get("name")));
    arguments.extend(index.method.as_ref().map(|method| format!("type: {}", method_word(method))));
    arguments.extend(index.name.as_ref().map(|name| format!("map: {}", quoted(name))));
    let word = match (index.unique, index.extras.contains_key("fulltext")) {
        (true, _) => "unique",
        (false, true) => "fulltext",
        (false, false) => "index",
    };
    format!("@@{word}({})", arguments.join(", "))
}

fn index_part(part: &IndexPartDeclaration, lengths: Option<&Value>) -> String {
    let name = part.attribute.clone().unwrap_or_default();
    let mut options = Vec::new();
    options.extend(
        lengths.and_then(|lengths| lengths.get(&name)).map(|length| format!("length: {length}")),
    );
    options.extend(part.descending.then(|| "sort: Desc".to_owned()));
    options.extend(part.operator_class.as_ref().map(|class| {
        match OPERATOR_CLASSES.contains(&class.as_str()) {
            true => format!("ops: {}", Case::Pascal.apply(class)),
            false => format!("ops: raw({})", quoted(class)),
        }
    }));
    if options.is_empty() { name } else { format!("{name}({})", options.join(", ")) }
}

fn method_word(method: &str) -> String {
    if method == "spgist" { "SpGist".into() } else { Case::Pascal.apply(method) }
}
