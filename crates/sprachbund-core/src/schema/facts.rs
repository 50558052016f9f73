//! A schema as single facts, for comparing two schemas: each fact has a [`FactKey`] made of stored names, so that the
//! same thing has the same key whatever its host name is.
//!
//! Origins, spans, `implied`, `source`, the order of columns and names that nobody wrote are no facts.

use std::collections::{BTreeMap, HashMap, HashSet};

use rayon::prelude::*;
use serde::Serialize;
use serde_json::{Value, json};

use super::{Database, Entity, EnumType, Field, ForeignKey, Index, NamedBy, Relation, RelationKind, Schema, Unique};

/// What a fact is about.
#[derive(Clone, Debug, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize)]
pub struct FactKey {
    /// Stored name of the table; empty for facts of the whole schema.
    pub table: String,
    /// `column berth_id`, `index berth_id`, `relation berth_id`, ...; empty for the table itself.
    pub element: String,
    pub aspect: String,
}

impl FactKey {
    /// A key.
    pub fn new(table: &str, element: impl Into<String>, aspect: impl Into<String>) -> Self {
        FactKey { table: table.to_owned(), element: element.into(), aspect: aspect.into() }
    }

    /// Whether this key, as a prefix (where nothing follows, empty parts stand for all), covers `other`.
    pub fn covers(&self, other: &FactKey) -> bool {
        let whole_table = self.element.is_empty() && self.aspect.is_empty();
        let aspect = self.aspect.is_empty() || self.aspect == other.aspect;
        self.table == other.table && (whole_table || self.element == other.element) && aspect
    }
}

impl std::fmt::Display for FactKey {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        let parts = [&self.table, &self.element, &self.aspect].into_iter().filter(|part| !part.is_empty());
        f.write_str(&parts.map(String::as_str).collect::<Vec<_>>().join(", "))
    }
}

/// All facts of a schema.
pub type Facts = BTreeMap<FactKey, Value>;

/// A fact that two schemas do not share.
#[derive(Clone, Debug, PartialEq)]
pub struct Difference {
    pub key: FactKey,
    pub left: Option<Value>,
    pub right: Option<Value>,
}

/// The facts in which two schemas differ, table by table.
pub fn differences(left: &Schema, right: &Schema) -> Vec<Difference> {
    let (one, two) = (Collecting::of(left), Collecting::of(right));
    let mut tables: BTreeMap<String, [Vec<&Entity>; 2]> = BTreeMap::new();
    for (side, collecting) in [&one, &two].into_iter().enumerate() {
        for entity in &collecting.schema.entities {
            tables.entry(collecting.key(entity)).or_default()[side].push(entity);
        }
    }
    let mut found = between(&enumerations(left), enumerations(right));
    let parts: Vec<Vec<Difference>> = tables
        .into_par_iter()
        .map(|(key, [own, other])| {
            let same = same_columns((&own, left.source.database), (&other, right.source.database));
            between(&one.facts(&key, &own, &same), two.facts(&key, &other, &same))
        })
        .collect();
    found.extend(parts.into_iter().flatten());
    found
}

/// Columns of two tables whose facts are all the same: most are, and nothing need be said of them.
fn same_columns<'e>((left, on_left): (&[&'e Entity], Database), (right, on_right): (&[&Entity], Database)) -> HashSet<&'e str> {
    let ([one], [two]) = (left, right) else { return HashSet::new() };
    let same = |(at, field): &(usize, &Field)| {
        // Columns mostly stand in the same order.
        let other = two.fields.get(*at).filter(|other| other.column == field.column).or_else(|| two.field(&field.column));
        other.is_some_and(|other| has_same_facts(field, other) && held_as(field, on_left) == held_as(other, on_right))
    };
    one.fields.iter().enumerate().filter(same).map(|(_, field)| field.column.as_str()).collect()
}

/// Whether two columns differ in nothing but where they come from and what holds their types.
fn has_same_facts(left: &Field, right: &Field) -> bool {
    let apart = (right.stored.clone(), right.implied, right.origin.clone());
    let (stored, implied, origin) = apart;
    *right == Field { stored, implied, origin, ..left.clone() }
}

fn between(left: &Facts, mut right: Facts) -> Vec<Difference> {
    let mut found = Vec::new();
    for (key, value) in left {
        let other = right.remove(key);
        if other.as_ref() != Some(value) {
            found.push(Difference { key: key.clone(), left: Some(value.clone()), right: other });
        }
    }
    found.extend(right.into_iter().map(|(key, value)| Difference { key, left: None, right: Some(value) }));
    found
}

/// The facts of a schema.
pub fn facts(schema: &Schema) -> Facts {
    let collecting = Collecting::of(schema);
    let mut facts = enumerations(schema);
    for entity in &schema.entities {
        facts.append(&mut collecting.facts(&collecting.key(entity), &[entity], &HashSet::new()));
    }
    facts
}

fn enumerations(schema: &Schema) -> Facts {
    let fact = |enumeration: &EnumType| (FactKey::new("", format!("enum {}", enumeration.name), "members"), enumeration_value(enumeration));
    schema.enums.iter().map(fact).collect()
}

/// What is known of a whole schema while the facts of its tables are collected.
struct Collecting<'s> {
    schema: &'s Schema,
    namesakes: HashSet<&'s str>,
    /// Tables by the ids of their entities.
    tables: HashMap<&'s str, &'s str>,
}

impl<'s> Collecting<'s> {
    fn of(schema: &'s Schema) -> Self {
        let tables = schema.entities.iter().map(|entity| (entity.id.as_str(), entity.table.as_str())).collect();
        Collecting { schema, namesakes: namesakes(schema), tables }
    }

    /// The table in the keys of an entity's facts. A second class over one table has facts of its own under its name.
    fn key(&self, entity: &Entity) -> String {
        match &entity.inherits {
            Some(super::Inherits { how: super::Inheritance::SameTable, .. }) => format!("{} as {}", entity.table, entity.name),
            _ if self.namesakes.contains(entity.table.as_str()) => entity.address(),
            _ => entity.table.clone(),
        }
    }

    /// The facts of a table, but for those of the columns that are to be left out.
    fn facts(&self, key: &str, entities: &[&Entity], left_out: &HashSet<&str>) -> Facts {
        let mut facts = Facts::new();
        for entity in entities {
            Collector { schema: self.schema, tables: &self.tables, key, entity, left_out, facts: &mut facts }.entity();
        }
        facts
    }
}

/// Names that tables of several named schemas have.
pub fn namesakes(schema: &Schema) -> HashSet<&str> {
    let mut first: HashMap<&str, Option<&str>> = HashMap::new();
    let mut several = HashSet::new();
    for entity in &schema.entities {
        let namespace = entity.namespace.as_deref();
        if *first.entry(&entity.table).or_insert(namespace) != namespace {
            several.insert(entity.table.as_str());
        }
    }
    several
}

fn enumeration_value(enumeration: &EnumType) -> Value {
    let members: Vec<Value> =
        enumeration.members.iter().map(|member| json!([member.name, member.value, member.label, member.in_code])).collect();
    json!({ "members": members, "stored_name": enumeration.stored_name, "inline": enumeration.inline })
}

/// `index berth_id, arrived_at desc where ...`: what tells one index of a table from another.
pub fn index_element(index: &Index) -> String {
    let part = |part: &super::IndexPart| {
        let what = part.column.clone().or_else(|| part.expression.as_ref().map(|expression| expression.text.clone())).unwrap_or_default();
        let class = part.operator_class.as_ref().map_or(String::new(), |class| format!(" {class}"));
        format!("{what}{}{class}", if part.descending { " desc" } else { "" })
    };
    let parts: Vec<String> = index.parts.iter().map(part).collect();
    let unique = if index.unique { "unique index" } else { "index" };
    let condition = index.condition.as_ref().map_or(String::new(), |condition| format!(" where {}", condition.text));
    format!("{unique} {}{condition}", parts.join(", "))
}

/// `unique vessel_id, owner_id`.
pub fn unique_element(unique: &Unique) -> String {
    format!("unique {}", unique.columns.join(", "))
}

/// `foreign key berth_id`.
pub fn foreign_key_element(key: &ForeignKey) -> String {
    format!("foreign key {}", key.columns.join(", "))
}

/// `relation berth_id`, or `relation through harbour.VesselOwners` for a many-to-many.
pub fn relation_element(schema: &Schema, relation: &Relation) -> String {
    element_of_relation(relation, |id| schema.entity(id).map(|entity| entity.table.as_str()))
}

fn element_of_relation<'s>(relation: &'s Relation, table: impl Fn(&str) -> Option<&'s str>) -> String {
    match (&relation.through, relation.kind) {
        (Some(through), RelationKind::ManyToMany) => format!("relation through {}", table(through).unwrap_or(through)),
        _ => format!("relation {}", relation.columns.join(", ")),
    }
}

struct Collector<'s> {
    schema: &'s Schema,
    /// Tables by the ids of their entities.
    tables: &'s HashMap<&'s str, &'s str>,
    /// The table in the keys.
    key: &'s str,
    entity: &'s Entity,
    left_out: &'s HashSet<&'s str>,
    facts: &'s mut Facts,
}

impl Collector<'_> {
    fn put(&mut self, element: &str, aspect: &str, value: Value) {
        let empty = value.is_null() || value == json!([]) || value == json!({}) || value == json!(false);
        if !empty {
            self.facts.insert(FactKey { table: self.key.to_owned(), element: element.to_owned(), aspect: aspect.to_owned() }, value);
        }
    }

    fn extras(&mut self, element: &str, extras: &super::Extras) {
        for (name, value) in extras {
            self.put(element, &format!("extra {name}"), json!([value]));
        }
    }

    fn entity(&mut self) {
        let entity = self.entity;
        let Entity {
            id: _,
            name,
            module,
            table: _,
            namespace,
            kind,
            join: _,
            mapped,
            external,
            comment,
            label,
            order,
            inherits,
            owned_by,
            soft_delete,
            fields,
            primary_key,
            uniques,
            indexes,
            foreign_keys,
            checks,
            exclusions,
            relations,
            implied: _,
            origin: _,
            extras,
        } = entity;
        self.put("", "exists", json!(true));
        self.put("", "module", json!(module));
        self.put("", "has a class", json!(mapped.code));
        if mapped.code {
            self.put("", "class", json!(name));
        }
        self.put("", "created", json!(mapped.table));
        self.put("", "kind", json!(kind));
        self.put("", "external", json!(external));
        self.put("", "namespace", json!(namespace));
        self.put("", "comment", json!(comment));
        self.put("", "label", json!(label));
        self.put("", "order", json!(order));
        self.put("", "inherits", json!(inherits));
        self.put("", "owned_by", json!(owned_by));
        self.put("", "soft_delete", json!(soft_delete));
        self.extras("", extras);
        if let Some(key) = primary_key {
            self.put("key", "columns", json!(key.columns));
            self.put("key", "name", json!(key.name));
        }
        for field in fields.iter().filter(|field| !self.left_out.contains(field.column.as_str())) {
            self.field(field);
        }
        for unique in uniques {
            let element = unique_element(unique);
            self.put(&element, "as", json!(unique.r#as));
            self.put(&element, "name", author_name(unique.named_by, &unique.name));
            self.put(&element, "deferrable", json!(unique.deferrable));
            self.put(&element, "nulls_not_distinct", json!(unique.nulls_not_distinct));
            self.extras(&element, &unique.extras);
        }
        for index in indexes {
            self.index(index);
        }
        for key in foreign_keys {
            self.foreign_key(key);
        }
        for (word, list) in [("check", checks), ("exclusion", exclusions)] {
            for check in list {
                let element = format!("{word} {}", check.expression.text);
                self.put(&element, "exists", json!(true));
                self.put(&element, "name", json!(check.name));
                self.extras(&element, &check.extras);
            }
        }
        for relation in relations {
            self.relation(relation);
        }
    }

    fn field(&mut self, field: &Field) {
        let Field {
            name,
            column,
            r#type,
            stored: _,
            nullable,
            optional_in_code,
            required_on_input,
            defaults,
            on_update,
            identity,
            generated,
            choices,
            format,
            collation,
            comment,
            purpose,
            rules,
            implied: _,
            origin: _,
            extras,
        } = field;
        let element = format!("column {column}");
        let held = json!(held_as(field, self.schema.source.database));
        let mut put = |aspect: &str, value: Value| self.put(&element, aspect, value);
        put("attribute", json!(name));
        put("type", json!(r#type));
        put("held as", held);
        put("nullable", json!(if *nullable { "null" } else { "not null" }));
        put("optional_in_code", optional_in_code.map_or(Value::Null, |optional| json!(if optional { "optional" } else { "required" })));
        put("required_on_input", required_on_input.map_or(Value::Null, |required| json!(if required { "required" } else { "optional" })));
        put("default in the database", json!(defaults.database));
        put("default in the application", json!(defaults.application));
        put("update in the database", json!(on_update.database));
        put("update in the application", json!(on_update.application));
        put("identity", json!(identity));
        put("generated", json!(generated));
        put("choices", json!(choices));
        put("format", json!(format));
        put("collation", json!(collation));
        put("comment", json!(comment));
        put("purpose", json!(purpose));
        put("rules", json!(rules));
        self.extras(&element, extras);
    }

    fn index(&mut self, index: &Index) {
        let element = index_element(index);
        self.put(&element, "exists", json!(true));
        self.put(&element, "name", author_name(index.named_by, &index.name));
        self.put(&element, "method", json!(index.method));
        self.put(&element, "include", json!(index.include));
        self.put(&element, "only_on", json!(index.only_on));
        self.put(&element, "nulls_not_distinct", json!(index.nulls_not_distinct));
        self.extras(&element, &index.extras);
    }

    fn foreign_key(&mut self, key: &ForeignKey) {
        let element = foreign_key_element(key);
        let ForeignKey { columns: _, references, on_delete, on_update, deferrable, enforced, name, origin: _ } = key;
        self.put(&element, "references", json!([references.namespace, references.table, references.columns]));
        self.put(&element, "on_delete", json!(on_delete));
        self.put(&element, "on_update", json!(on_update));
        self.put(&element, "deferrable", json!(deferrable));
        self.put(&element, "enforced", json!(enforced));
        self.put(&element, "name", json!(name));
    }

    fn relation(&mut self, relation: &Relation) {
        let element = element_of_relation(relation, |id| self.tables.get(id).copied());
        let Relation {
            name,
            kind,
            target,
            columns: _,
            through: _,
            inverse,
            on_delete,
            polymorphic,
            comment,
            implied: _,
            origin: _,
            inverse_origin: _,
            extras,
        } = relation;
        let target = self.tables.get(target.as_str()).copied().unwrap_or(target);
        let mut put = |aspect: &str, value: Value| self.put(&element, aspect, value);
        put("attribute", json!(name));
        put("kind", json!(kind));
        put("target", json!(target));
        put("inverse", json!(inverse));
        put("on_delete", json!(on_delete));
        put("polymorphic", json!(polymorphic));
        put("comment", json!(comment));
        self.extras(&element, extras);
    }
}

fn author_name(named_by: NamedBy, name: &Option<String>) -> Value {
    if named_by == NamedBy::Author { json!(name) } else { Value::Null }
}

/// The name of a column's type where a framework chooses it and the server keeps it: on SQLite any, on MariaDB and MySQL
/// where one type has several, which hold more or less, on PostgreSQL that of an enumeration.
pub(crate) fn held_as(field: &Field, database: super::Database) -> Option<&str> {
    use super::Type;
    let chosen = matches!(
        field.r#type,
        Type::Text | Type::Binary(None) | Type::Time { .. } | Type::Timestamp { .. } | Type::Uuid | Type::NetworkAddress | Type::Interval
    );
    let named = database == super::Database::PostgreSql && matches!(field.r#type, Type::Enum(_));
    (named || database == super::Database::Sqlite || (database.is_mysql() && chosen)).then_some(&*field.stored)
}
