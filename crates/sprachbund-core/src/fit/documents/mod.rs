//! Between tables and documents: what a database of the one kind keeps by itself, the other leaves to the application. The schema is
//! carried over as a whole before anything else is fitted; the account of it is made from the facts that differ, by one table
//! of reasons.

mod from_tables;
mod into_tables;

use std::collections::{HashMap, HashSet};

use super::{Grade, Loss};
use crate::schema::facts::{Difference, FactKey, differences};
use crate::schema::{Database, Default_, Entity, Field, Schema};

/// What a loss is about: how the element of the fact begins, its aspect (empty for any), and what is said. The first row that
/// fits counts.
type Reason = (&'static str, &'static str, Grade, &'static str, &'static str);

/// Reasons that single facts have for themselves.
type Own = HashMap<FactKey, (Grade, String, String)>;

/// A schema that was carried over.
pub(super) struct Crossed {
    pub(super) schema: Schema,
    reasons: &'static [Reason],
    own: Own,
}

/// Carries a schema over if its database keeps what the target's does not.
pub(super) fn cross(schema: &Schema, database: Database) -> Option<Crossed> {
    match (schema.source.database.keeps_documents(), database.keeps_documents()) {
        (false, true) => Some(from_tables::carry(schema)),
        (true, false) => Some(into_tables::carry(schema, database)),
        _ => None,
    }
}

impl Crossed {
    /// The whole account: what fitting says of the schema that was carried over, and what carrying it over says of the rest.
    pub(super) fn account(&self, before: &Schema, after: &Schema, losses: Vec<Loss>) -> Vec<Loss> {
        let found = differences(before, after);
        let classes: HashMap<&str, &str> =
            before.entities.iter().chain(&after.entities).map(|entity| (entity.table.as_str(), entity.name.as_str())).collect();
        let mut of_table: HashMap<&str, Vec<&FactKey>> = HashMap::new();
        found.iter().for_each(|difference| of_table.entry(&difference.key.table).or_default().push(&difference.key));
        let mut told: HashSet<&FactKey> = HashSet::new();
        let mut kept: Vec<Loss> = Vec::new();
        for mut loss in losses {
            // What both have by now is no difference any more, and nothing is told twice.
            let had_facts = !loss.facts.is_empty();
            let own = |fact: &FactKey| {
                let there = of_table.get(fact.table.as_str()).map_or(&[] as &[_], Vec::as_slice);
                there.iter().copied().filter(|key| fact.covers(key)).collect::<Vec<_>>()
            };
            let facts: Vec<&FactKey> = loss.facts.iter().flat_map(own).filter(|key| told.insert(key)).collect();
            loss.facts = facts.into_iter().cloned().collect();
            if !had_facts || !loss.facts.is_empty() {
                kept.push(loss);
            }
        }
        let tables = |schema: &Schema| schema.entities.iter().map(|entity| entity.table.clone()).collect::<HashSet<_>>();
        let (old, new) = (tables(before), tables(after));
        let mut places: HashMap<(Grade, String, String), usize> = HashMap::new();
        let mut named: HashSet<(usize, String)> = HashSet::new();
        for difference in found.iter().filter(|difference| !told.contains(&difference.key)) {
            let table = &difference.key.table;
            let whole = !table.is_empty() && old.contains(table) != new.contains(table);
            let (grade, reason, instead) = if whole { self.of_table(table) } else { self.reason(difference) };
            let at = *places.entry((grade, reason.clone(), instead.clone())).or_insert_with(|| {
                kept.push(Loss { grade, reason, instead, elements: Vec::new(), facts: Vec::new() });
                kept.len() - 1
            });
            let element = match whole {
                true => element(&classes, &FactKey::new(table, "", "")),
                false => element(&classes, &difference.key),
            };
            if named.insert((at, element.clone())) {
                kept[at].elements.push(element);
            }
            kept[at].facts.push(difference.key.clone());
        }
        kept.sort_by_key(|loss| loss.grade);
        kept
    }

    /// Why a table is there on one side only.
    fn of_table(&self, table: &str) -> (Grade, String, String) {
        self.own.get(&FactKey::new(table, "", "")).cloned().unwrap_or_else(|| {
            let (.., grade, reason, instead) = self.reasons.last().unwrap_or(&OTHERWISE);
            (*grade, (*reason).to_owned(), (*instead).to_owned())
        })
    }

    fn reason(&self, difference: &Difference) -> (Grade, String, String) {
        let key = &difference.key;
        if let Some(own) = self.own.get(key).or_else(|| self.own.get(&FactKey { aspect: String::new(), ..key.clone() })) {
            return own.clone();
        }
        let fits = |(element, aspect, ..): &&Reason| {
            let element = if element.is_empty() { key.element.is_empty() } else { key.element.starts_with(element) };
            element && (aspect.is_empty() || key.aspect == *aspect)
        };
        let (_, _, grade, reason, instead) = self.reasons.iter().find(fits).unwrap_or(&OTHERWISE);
        (*grade, (*reason).to_owned(), (*instead).to_owned())
    }
}

/// What is said of a fact that no row has.
const OTHERWISE: Reason = ("", "", Grade::Dropped, "it has no meaning on the other kind of database", "left out");

fn element(classes: &HashMap<&str, &str>, key: &FactKey) -> String {
    match classes.get(key.table.as_str()) {
        Some(class) if key.element.is_empty() => (*class).to_owned(),
        Some(class) if key.element.starts_with("column ") => format!("{class}.{}", &key.element["column ".len()..]),
        Some(class) => format!("{class}: {}", key.element),
        None if key.table.is_empty() => key.element.clone(),
        None => key.table.clone(),
    }
}

/// Puts constants into the form that values of the column's type have.
fn coerce(field: &mut Field) {
    if let Some(Default_::Literal(value)) = field.defaults.application.as_deref_mut() {
        *value = crate::resolve::coerce(&field.r#type, std::mem::take(value));
    }
}

/// Gives a column another stored name, wherever its own table speaks of it.
fn rename_column(entity: &mut Entity, from: &str, to: &str) {
    let put = |column: &mut String| {
        if column == from {
            to.clone_into(column);
        }
    };
    entity.fields.iter_mut().for_each(|field| put(&mut field.column));
    entity.primary_key.iter_mut().flat_map(|key| &mut key.columns).for_each(put);
    entity.uniques.iter_mut().flat_map(|unique| &mut unique.columns).for_each(put);
    entity.foreign_keys.iter_mut().flat_map(|key| &mut key.columns).for_each(put);
    entity.relations.iter_mut().flat_map(|relation| &mut relation.columns).for_each(put);
    for index in &mut entity.indexes {
        index.columns.iter_mut().for_each(put);
        index.parts.iter_mut().filter_map(|part| part.column.as_mut()).for_each(put);
        if let Some(condition) = index.condition.as_mut()
            && let Some(tree) = condition.tree.take()
        {
            let renamed = tree.map_columns(&|column| if column == from { to.to_owned() } else { column });
            **condition = crate::schema::Expression::sql(renamed);
        }
    }
}
