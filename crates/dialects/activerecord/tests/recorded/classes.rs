//! What the framework says of a class, held against what was read of it.

use std::collections::BTreeMap;

use serde_json::Value;
use sprachbund_core::schema::{Entity, Relation, Schema};

/// What says when a rule holds.
const CONDITIONS: [&str; 3] = ["if", "unless", "on"];

/// The full name of a class: `Pilotage::Plan`.
fn class_name(entity: &Entity) -> String {
    let word = |word: &str| word[..1].to_uppercase() + &word[1..];
    let module = match entity.module.as_str() {
        "main" | "" => String::new(),
        module => module
            .split('/')
            .map(|part| part.split('_').map(word).collect::<String>() + "::")
            .collect(),
    };
    format!("{module}{}", entity.name)
}

/// What differs, one a line.
pub(super) fn reflected(schema: &Schema, name: &str, model: &Value) -> Vec<String> {
    if model["abstract"] == true {
        return Vec::new();
    }
    let Some(entity) = schema.entities.iter().find(|entity| class_name(entity) == name) else {
        return vec![format!("{name}: no such class")];
    };
    let base = model["base_class"].as_str().unwrap_or(name);
    let is_own = |other: &&Entity| other.id == entity.id || class_name(other) == base;
    let class = Class {
        name,
        model,
        schema,
        entity,
        own: schema.entities.iter().filter(is_own).collect(),
        differences: Vec::new(),
    };
    class.held(base == name)
}

/// One class, by the framework and by us.
struct Class<'s> {
    name: &'s str,
    model: &'s Value,
    schema: &'s Schema,
    entity: &'s Entity,
    /// The class and the one whose table it shares.
    own: Vec<&'s Entity>,
    differences: Vec<String>,
}

impl Class<'_> {
    fn held(mut self, has_own_table: bool) -> Vec<String> {
        let model = self.model;
        // The columns of a view are not known, and those of no table not there.
        let has_table = model["table_exists"] != false && self.entity.mapped.table;
        if has_own_table && model["table_exists"] != false {
            let wanted = model["table_name"].as_str().unwrap_or_default();
            self.compare("table", wanted, &self.entity.address());
        }
        for (name, said) in model["associations"].as_object().into_iter().flatten() {
            if has_table && is_plain(said) {
                self.association(name, said);
            }
        }
        for (attribute, values) in model["enums"].as_object().into_iter().flatten() {
            self.enumeration(attribute, values);
        }
        self.differences
    }

    fn compare(&mut self, what: &str, wanted: &str, read: &str) {
        if wanted != read {
            self.differences.push(format!("{}, {what}: {wanted} wanted, {read} read", self.name));
        }
    }

    fn association(&mut self, name: &str, said: &Value) {
        let columns: Vec<&str> = match &said["foreign_key"] {
            Value::Array(columns) => columns.iter().filter_map(Value::as_str).collect(),
            one => one.as_str().into_iter().collect(),
        };
        let kind = said["macro"].as_str().unwrap_or_default();
        match kind {
            "belongs_to" => self.belongs_to(name, &columns),
            "has_many" | "has_one" => self.leads_back(kind, name, said, &columns),
            "has_and_belongs_to_many" => {
                let mut relations =
                    self.schema.entities.iter().flat_map(|entity| &entity.relations);
                let is_it = |relation: &Relation| {
                    relation.through.is_some()
                        && [&relation.name, &relation.inverse]
                            .into_iter()
                            .any(|side| side.as_deref() == Some(name))
                };
                let found = relations.any(is_it);
                self.compare(&format!("{kind} {name}"), "true", &found.to_string());
            }
            // Its class could not be loaded in that release.
            _ => {}
        }
    }

    fn belongs_to(&mut self, name: &str, columns: &[&str]) {
        let relations =
            self.own.iter().flat_map(|entity| entity.relations.iter().map(move |it| (entity, it)));
        let found = relations.clone().find(|(_, it)| it.name.as_deref() == Some(name));
        let found = found.map(|(entity, relation)| {
            let required = relation
                .columns
                .iter()
                .filter_map(|column| entity.field(column))
                .any(|field| field.required_on_input == Some(true));
            format!("{:?} required {required}", relation.columns)
        });
        let rules = self.model["validators"].as_array().into_iter().flatten();
        let asks = |rule: &Value| {
            rule["kind"] == "presence"
                && rule["attributes"].as_array().is_some_and(|all| all.iter().any(|it| it == name))
                && CONDITIONS.iter().all(|word| rule["options"][word].is_null())
        };
        let required = rules.clone().any(asks);
        let wanted = format!("{columns:?} required {required}");
        self.compare(&format!("belongs_to {name}"), &wanted, &found.unwrap_or_default());
    }

    fn leads_back(&mut self, kind: &str, name: &str, said: &Value, columns: &[&str]) {
        let target = said["class_name"].as_str().unwrap_or_default();
        let targets: Vec<&Entity> =
            self.schema.entities.iter().filter(|entity| class_name(entity) == target).collect();
        if targets.iter().any(|entity| !entity.mapped.table) {
            return;
        }
        let found = targets
            .iter()
            .flat_map(|entity| &entity.relations)
            .filter(|relation| self.own.iter().any(|own| own.id == relation.target))
            .any(|relation| relation.columns == columns);
        let what = format!("{kind} {name} over {columns:?}");
        self.compare(&what, "true", &found.to_string());
    }

    fn enumeration(&mut self, attribute: &str, values: &Value) {
        let field = self.entity.field(attribute);
        let known = field
            .and_then(|field| field.choices.as_ref())
            .and_then(|name| self.schema.enums.iter().find(|known| known.name == *name));
        let members = known.map_or(&[][..], |known| &known.members);
        let found: BTreeMap<&str, &Value> =
            members.iter().map(|member| (member.name.as_str(), &member.value)).collect();
        let wanted: BTreeMap<&str, &Value> = values
            .as_object()
            .into_iter()
            .flatten()
            .map(|(name, value)| (name.as_str(), value))
            .collect();
        let (wanted, found) = (format!("{wanted:?}"), format!("{found:?}"));
        self.compare(&format!("enum {attribute}"), &wanted, &found);
    }
}

/// Whether it leads to one class along its own columns.
fn is_plain(said: &Value) -> bool {
    said["options"]["polymorphic"].is_null()
        && said["options"]["as"].is_null()
        && ["through", "scope", "declared_in"].iter().all(|key| said[key].is_null())
}
