//! A schema as single facts, for comparing two schemas: each fact has a [`FactKey`] made of stored
//! names, so that the same thing has the same key whatever its host name is.
//!
//! Origins, spans, `implied`, `source`, the order of columns and names that nobody wrote are no
//! facts.

mod key;

use std::collections::{BTreeMap, HashMap, HashSet};

use rayon::prelude::*;
use serde_json::{Value, json};

use super::{
    Database, Default_, Entity, EnumMember, EnumType, Field, ForeignKey, Index, NamedBy, Relation,
    RelationKind, Schema, Type, Unique, plain_decimal,
};

pub use key::{Aspect, Element, ElementKind, FactKey};

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
    // What one server calls a type is no name on another.
    let (here, there) = (left.source.database, right.source.database);
    let named = here.shares_words_with(there);
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
            let same = same_columns((&own, here), (&other, there), named);
            between(&one.facts(&key, &own, &same), two.facts(&key, &other, &same))
        })
        .collect();
    found.extend(
        parts
            .into_iter()
            .flatten()
            .filter(|difference| named || difference.key.aspect != Aspect::HeldAs),
    );
    found
}

/// Columns of two tables whose facts are all the same: most are, and nothing need be said of them.
fn same_columns<'e>(
    (left, on_left): (&[&'e Entity], Database),
    (right, on_right): (&[&Entity], Database),
    named: bool,
) -> HashSet<&'e str> {
    let ([one], [two]) = (left, right) else { return HashSet::new() };
    let same = |(at, field): &(usize, &Field)| {
        // Columns mostly stand in the same order.
        let other = two
            .fields
            .get(*at)
            .filter(|other| other.column == field.column)
            .or_else(|| two.field(&field.column));
        other.is_some_and(|other| {
            has_same_facts(field, other)
                && (!named || held_as(field, on_left) == held_as(other, on_right))
        })
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
    found.extend(right.into_iter().map(|(key, value)| Difference {
        key,
        left: None,
        right: Some(value),
    }));
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
    schema.enums.iter().flat_map(of_enumeration).collect()
}

/// The facts of an enumeration: what is stored, and apart from it what is shown, what the code
/// works with, what the type is called.
fn of_enumeration(enumeration: &EnumType) -> Vec<(FactKey, Value)> {
    let EnumType { name, stored_name, members, module: _, inline, origin: _ } = enumeration;
    let of_members = |of: fn(&EnumMember) -> Value| members.iter().map(of).collect::<Vec<_>>();
    let unless_null = |values: Vec<Value>| {
        if values.iter().all(Value::is_null) { Value::Null } else { Value::Array(values) }
    };
    let facts = [
        (Aspect::Members, of_members(|member| json!([member.name, member.value])).into()),
        (Aspect::Labels, unless_null(of_members(|member| json!(member.label)))),
        (Aspect::CodeValues, unless_null(of_members(|member| json!(member.in_code)))),
        (Aspect::StoredName, json!(stored_name)),
        (Aspect::Inline, json!(inline)),
    ];
    let said =
        facts.into_iter().filter(|(aspect, value)| *aspect == Aspect::Members || !is_empty(value));
    said.map(|(aspect, value)| (FactKey::of_enumeration(name, aspect), value)).collect()
}

/// Whether a value says nothing: then there is no fact.
fn is_empty(value: &Value) -> bool {
    match value {
        Value::Null | Value::Bool(false) => true,
        Value::Array(items) => items.is_empty(),
        Value::Object(entries) => entries.is_empty(),
        Value::Bool(true) | Value::Number(_) | Value::String(_) => false,
    }
}

/// What is known of a whole schema while the facts of its tables are collected.
struct Collecting<'s> {
    schema: &'s Schema,
    keys: TableKeys,
    /// Tables by the ids of their entities.
    tables: HashMap<&'s str, &'s str>,
}

impl<'s> Collecting<'s> {
    fn of(schema: &'s Schema) -> Self {
        let tables = schema
            .entities
            .iter()
            .map(|entity| (entity.id.as_str(), entity.table.as_str()))
            .collect();
        Collecting { schema, keys: TableKeys::of(schema), tables }
    }

    fn key(&self, entity: &Entity) -> String {
        self.keys.key(entity)
    }

    /// The facts of a table, but for those of the columns that are to be left out.
    fn facts(&self, key: &str, entities: &[&Entity], left_out: &HashSet<&str>) -> Facts {
        let mut facts = Facts::new();
        for entity in entities {
            Collector {
                schema: self.schema,
                tables: &self.tables,
                key,
                entity,
                left_out,
                facts: &mut facts,
            }
            .entity();
        }
        facts
    }
}

/// How the facts of a schema name its tables.
#[derive(Clone, Debug, Default)]
pub struct TableKeys {
    namesakes: HashSet<String>,
}

impl TableKeys {
    /// The names of the tables of a schema.
    pub fn of(schema: &Schema) -> Self {
        TableKeys { namesakes: namesakes(schema).into_iter().map(str::to_owned).collect() }
    }

    /// The table in the keys of an entity's facts. A second class over one table has facts of its
    /// own under its name; tables of one name in several named schemas are told apart by those.
    pub fn key(&self, entity: &Entity) -> String {
        match &entity.inherits {
            Some(super::Inherits { how: super::Inheritance::SameTable, .. }) => {
                format!("{} as {}", entity.table, entity.name)
            }
            _ if self.namesakes.contains(&entity.table) => entity.address(),
            _ => entity.table.clone(),
        }
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

/// `index berth_id, arrived_at desc where ...`: what tells one index of a table from another.
pub fn index_element(index: &Index) -> String {
    Element::of_index(index).to_string()
}

/// `unique vessel_id, owner_id`.
pub fn unique_element(unique: &Unique) -> String {
    Element::of_unique(unique).to_string()
}

/// `foreign key berth_id`.
pub fn foreign_key_element(key: &ForeignKey) -> String {
    Element::of_foreign_key(key).to_string()
}

/// `relation berth_id`, or `relation through harbour.VesselOwners` for a many-to-many.
pub fn relation_element(schema: &Schema, relation: &Relation) -> Element {
    element_of_relation(relation, |id| schema.entity(id).map(|entity| entity.table.as_str()))
}

fn element_of_relation<'s>(
    relation: &'s Relation,
    table: impl Fn(&str) -> Option<&'s str>,
) -> Element {
    match (&relation.through, relation.kind) {
        (Some(through), RelationKind::ManyToMany) => {
            Element::Join(table(through).unwrap_or(through).to_owned())
        }
        _ => Element::Relation(relation.columns.clone()),
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
    fn put(&mut self, element: &Element, aspect: Aspect, value: Value) {
        if !is_empty(&value) {
            self.facts.insert(FactKey::new(self.key, element.clone(), aspect), value);
        }
    }

    fn extras(&mut self, element: &Element, extras: &super::Extras) {
        for (name, value) in extras {
            self.put(element, Aspect::Extra(name.clone()), json!([value]));
        }
    }

    /// Counts an element of which there may be several that only their names tell apart.
    fn times(&mut self, element: &Element, before: usize) {
        if before > 0 {
            self.put(element, Aspect::Times, json!(before + 1));
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
        self.put(&Element::Table, Aspect::Exists, json!(true));
        self.put(&Element::Table, Aspect::Module, json!(module));
        self.put(&Element::Table, Aspect::HasClass, json!(mapped.code));
        if mapped.code {
            self.put(&Element::Table, Aspect::Class, json!(name));
        }
        self.put(&Element::Table, Aspect::Created, json!(mapped.table));
        self.put(&Element::Table, Aspect::Kind, json!(kind));
        self.put(&Element::Table, Aspect::External, json!(external));
        self.put(&Element::Table, Aspect::Namespace, json!(namespace));
        self.put(&Element::Table, Aspect::Comment, json!(comment));
        self.put(&Element::Table, Aspect::Label, json!(label));
        self.put(&Element::Table, Aspect::Order, json!(order));
        self.put(&Element::Table, Aspect::Inherits, json!(inherits));
        self.put(&Element::Table, Aspect::OwnedBy, json!(owned_by));
        self.put(&Element::Table, Aspect::SoftDelete, json!(soft_delete));
        self.extras(&Element::Table, extras);
        if let Some(key) = primary_key {
            self.put(&Element::Key, Aspect::Columns, json!(key.columns));
            self.put(&Element::Key, Aspect::Name, json!(key.name));
        }
        for field in fields.iter().filter(|field| !self.left_out.contains(field.column.as_str())) {
            self.field(field);
        }
        for (at, unique) in uniques.iter().enumerate() {
            self.unique(unique, &uniques[..at]);
        }
        for (at, index) in indexes.iter().enumerate() {
            self.index(index, &indexes[..at]);
        }
        for (at, key) in foreign_keys.iter().enumerate() {
            self.foreign_key(key, &foreign_keys[..at]);
        }
        let checks = checks.iter().map(|check| (Element::of_check(check), check));
        for (element, check) in
            checks.chain(exclusions.iter().map(|check| (Element::of_exclusion(check), check)))
        {
            self.put(&element, Aspect::Exists, json!(true));
            self.put(&element, Aspect::Name, json!(check.name));
            self.extras(&element, &check.extras);
        }
        for relation in relations {
            self.relation(relation);
        }
    }

    fn unique(&mut self, unique: &Unique, before: &[Unique]) {
        let element = Element::of_unique(unique);
        self.times(&element, before.iter().filter(|other| other.columns == unique.columns).count());
        self.put(&element, Aspect::As, json!(unique.r#as));
        self.put(&element, Aspect::Name, author_name(unique.named_by, &unique.name));
        self.put(&element, Aspect::Deferrable, json!(unique.deferrable));
        self.put(&element, Aspect::NullsNotDistinct, json!(unique.nulls_not_distinct));
        self.extras(&element, &unique.extras);
    }

    fn field(&mut self, field: &Field) {
        let Field {
            name,
            column: _,
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
        let element = Element::of_field(field);
        let held = json!(held_as(field, self.schema.source.database));
        let mut put = |aspect: Aspect, value: Value| self.put(&element, aspect, value);
        put(Aspect::Attribute, json!(name));
        put(Aspect::Type, json!(r#type));
        put(Aspect::HeldAs, held);
        put(Aspect::Nullable, json!(if *nullable { "null" } else { "not null" }));
        put(
            Aspect::OptionalInCode,
            optional_in_code.map_or(Value::Null, |optional| {
                json!(if optional { "optional" } else { "required" })
            }),
        );
        put(Aspect::RequiredOnInput, presence_on_input(*required_on_input));
        put(Aspect::DatabaseDefault, default(r#type, defaults.database.as_deref()));
        put(Aspect::ApplicationDefault, default(r#type, defaults.application.as_deref()));
        put(Aspect::DatabaseUpdate, json!(on_update.database));
        put(Aspect::ApplicationUpdate, json!(on_update.application));
        put(Aspect::Identity, json!(identity));
        put(Aspect::Generated, json!(generated));
        put(Aspect::Choices, json!(choices));
        put(Aspect::Format, json!(format));
        put(Aspect::Collation, json!(collation));
        put(Aspect::Comment, json!(comment));
        put(Aspect::Purpose, json!(purpose));
        put(Aspect::Rules, json!(rules));
        self.extras(&element, extras);
    }

    fn index(&mut self, index: &Index, before: &[Index]) {
        let element = Element::of_index(index);
        let same =
            |other: &&Index| other.columns == index.columns && Element::of_index(other) == element;
        self.times(&element, before.iter().filter(same).count());
        self.put(&element, Aspect::Exists, json!(true));
        self.put(&element, Aspect::Name, author_name(index.named_by, &index.name));
        self.put(&element, Aspect::Method, json!(index.method));
        self.put(&element, Aspect::Include, json!(index.include));
        self.put(&element, Aspect::OnlyOn, json!(index.only_on));
        self.put(&element, Aspect::NullsNotDistinct, json!(index.nulls_not_distinct));
        self.extras(&element, &index.extras);
    }

    fn foreign_key(&mut self, key: &ForeignKey, before: &[ForeignKey]) {
        let element = Element::of_foreign_key(key);
        self.times(&element, before.iter().filter(|other| other.columns == key.columns).count());
        let ForeignKey {
            columns: _,
            references,
            on_delete,
            on_update,
            deferrable,
            enforced,
            name,
            origin: _,
        } = key;
        self.put(
            &element,
            Aspect::References,
            json!([references.namespace, references.table, references.columns]),
        );
        self.put(&element, Aspect::OnDelete, json!(on_delete));
        self.put(&element, Aspect::OnUpdate, json!(on_update));
        self.put(&element, Aspect::Deferrable, json!(deferrable));
        self.put(&element, Aspect::Enforced, json!(enforced));
        self.put(&element, Aspect::Name, json!(name));
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
            symmetrical,
            through_fields,
            required_on_input,
            comment,
            implied: _,
            origin: _,
            inverse_origin: _,
            extras,
            inverse_extras,
        } = relation;
        let target = self.tables.get(target.as_str()).copied().unwrap_or(target);
        let mut put = |aspect: Aspect, value: Value| self.put(&element, aspect, value);
        put(Aspect::Attribute, json!(name));
        put(Aspect::Kind, json!(kind));
        put(Aspect::Target, json!(target));
        put(Aspect::Inverse, json!(inverse));
        put(Aspect::OnDelete, json!(on_delete));
        put(Aspect::Polymorphic, json!(polymorphic));
        put(Aspect::Symmetrical, json!(symmetrical));
        put(Aspect::ThroughFields, json!(through_fields));
        put(Aspect::RequiredOnInput, presence_on_input(*required_on_input));
        put(Aspect::Comment, json!(comment));
        self.extras(&element, extras);
        for (name, value) in inverse_extras {
            self.put(&element, Aspect::InverseExtra(name.clone()), json!([value]));
        }
    }
}

fn presence_on_input(required: Option<bool>) -> Value {
    required.map_or(Value::Null, |required| json!(if required { "required" } else { "optional" }))
}

fn author_name(named_by: NamedBy, name: &Option<String>) -> Value {
    if named_by == NamedBy::Author { json!(name) } else { Value::Null }
}

/// A default; of exact decimals the number, however many zeros it is written with.
fn default(ty: &Type, value: Option<&Default_>) -> Value {
    match (ty, value) {
        (Type::Numeric { .. }, Some(Default_::Literal(Value::String(text)))) => {
            let text = plain_decimal(text).unwrap_or_else(|| text.clone());
            json!(Default_::Literal(text.into()))
        }
        (_, value) => json!(value),
    }
}

/// The name of a column's type where a framework chooses it and the server keeps it.
pub fn held_as(field: &Field, database: Database) -> Option<&str> {
    (database.server().keeps_word)(field).then_some(&*field.stored)
}
