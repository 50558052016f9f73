//! Which table of one side is which of the other, and what may have been renamed.

use std::collections::{HashMap, HashSet};

use super::Divergence;
use crate::dialect::naming::{Case, singular};
use crate::history::Tables;
use crate::schema::{Entity, Schema};

/// Likeness from which something may be the same under another name.
const ALIKE: f64 = 0.6;

/// Tables of both sides that stand for one another, by their names.
pub(super) struct Pair {
    pub(super) left: String,
    pub(super) right: String,
}

/// Tables of the same name; then classes of the same name over tables that only one side has.
pub(super) fn tables(left: &Schema, right: &Schema) -> Vec<Pair> {
    let own = |schema: &'_ Schema| -> Vec<(String, String)> {
        let tables =
            schema.entities.iter().filter(|entity| entity.mapped.table && !entity.external);
        tables
            .map(|entity| (entity.table.clone(), Case::Snake.apply(&singular(&entity.name))))
            .collect()
    };
    let (left, right) = (own(left), own(right));
    let names = |side: &[(String, String)]| -> HashSet<String> {
        side.iter().map(|(table, _)| table.clone()).collect()
    };
    let (on_left, on_right) = (names(&left), names(&right));
    let classes: HashMap<&str, &str> = right
        .iter()
        .filter(|(table, _)| !on_left.contains(table))
        .map(|(table, class)| (class.as_str(), table.as_str()))
        .collect();
    let mut pairs: Vec<Pair> = Vec::new();
    for (table, class) in &left {
        if on_right.contains(table) {
            pairs.push(Pair { left: table.clone(), right: table.clone() });
        } else if let Some(other) = classes.get(class.as_str()) {
            pairs.push(Pair { left: table.clone(), right: (*other).to_owned() });
        }
    }
    pairs
}

/// Gives the right side the left side's names for tables that are paired.
pub(super) fn rename(right: &mut Schema, pairs: &[Pair]) {
    let renamed: HashMap<&str, &str> = pairs
        .iter()
        .filter(|pair| pair.left != pair.right)
        .map(|pair| (pair.right.as_str(), pair.left.as_str()))
        .collect();
    for entity in right.entities.iter_mut().filter(|_| !renamed.is_empty()) {
        let keys = entity.foreign_keys.iter_mut().map(|key| &mut key.references.table);
        for table in keys.chain([&mut entity.table]) {
            if let Some(name) = renamed.get(table.as_str()) {
                *table = (*name).to_owned();
            }
        }
    }
}

/// A column that has another name on the right.
pub(super) struct Renamed {
    pub(super) table: String,
    pub(super) right_table: String,
    pub(super) from: String,
    pub(super) to: String,
    /// Why it is taken to be the same.
    pub(super) evidence: String,
}

/// Columns that only one side has and that are the same in all but their name; the right side gets
/// the left side's names, so that nothing else differs because of them.
pub(super) fn columns(left: &Schema, right: &mut Schema, pairs: &[Pair]) -> Vec<Renamed> {
    let mut renamed = Vec::new();
    let mut tables = Tables::of(std::mem::replace(right, Schema::new(Default::default())));
    let on_left: HashMap<&str, &Entity> =
        left.entities.iter().map(|entity| (entity.table.as_str(), entity)).collect();
    for pair in pairs {
        let (Some(one), Some(two)) =
            (on_left.get(pair.left.as_str()).copied(), tables.get(&pair.left))
        else {
            continue;
        };
        let only = |entity: &Entity, than: &Entity| -> Vec<String> {
            entity
                .fields
                .iter()
                .map(|field| field.column.clone())
                .filter(|column| than.field(column).is_none())
                .collect()
        };
        let (from, to) = (only(one, two), only(two, one));
        let mut found: Vec<(String, String, String)> = Vec::new();
        for column in &from {
            let candidates =
                to.iter().filter(|other| !found.iter().any(|(_, taken, _)| taken == *other));
            let alike: Vec<(&String, String)> = candidates
                .filter_map(|other| Some((other, sameness(one, column, two, other)?)))
                .collect();
            // Of two that fit either may be meant, so neither is taken.
            if let [(other, evidence)] = alike.as_slice() {
                found.push((column.clone(), (*other).clone(), evidence.clone()));
            }
        }
        let told = |(from, to, evidence)| Renamed {
            table: pair.left.clone(),
            right_table: pair.right.clone(),
            from,
            to,
            evidence,
        };
        renamed.extend(found.into_iter().map(told));
    }
    let mut names: HashMap<String, HashMap<String, String>> = HashMap::new();
    for Renamed { table, from, to, .. } in &renamed {
        let address = tables.get(table).map_or_else(|| table.clone(), Entity::address);
        names.entry(address).or_default().insert(to.clone(), from.clone());
    }
    tables.rename_columns(&names);
    *right = tables.schema;
    renamed
}

/// Why two columns of different names are the same, if they are.
fn sameness(one: &Entity, from: &str, two: &Entity, to: &str) -> Option<String> {
    let (left, right) = (one.field(from)?, two.field(to)?);
    if left.r#type.kind() != right.r#type.kind() {
        return None;
    }
    let attribute = |entity: &'_ Entity, column: &str| -> Option<String> {
        let relation = || {
            entity
                .relations
                .iter()
                .find(|relation| relation.columns == [column.to_owned()])?
                .name
                .clone()
        };
        entity.field(column)?.name.clone().or_else(relation).map(|name| Case::Snake.apply(&name))
    };
    if let (Some(own), Some(other)) = (attribute(one, from), attribute(two, to))
        && own == other
    {
        return Some(format!("both are the attribute `{own}`"));
    }
    let target = |entity: &Entity, column: &str| {
        let key = entity.foreign_keys.iter().find(|key| key.columns == [column.to_owned()])?;
        Some(key.references.table.clone())
    };
    match (target(one, from), target(two, to)) {
        (Some(own), Some(other)) if own == other => Some(format!("both refer to `{own}`")),
        _ => None,
    }
}

/// Adds to what is only on one side what it may be on the other, with the evidence.
pub(super) fn suggest(found: &mut [Divergence], left: &Schema, right: &Schema) {
    let one_sided = |code: &str, on_left: bool| -> Vec<usize> {
        let here = |found: &Divergence| {
            found.code == code
                && found.left.is_some() == on_left
                && found.right.is_some() != on_left
        };
        found.iter().enumerate().filter(|(_, found)| here(found)).map(|(at, _)| at).collect()
    };
    let entities = |schema: &'_ Schema| -> HashMap<String, usize> {
        schema.entities.iter().enumerate().map(|(at, entity)| (entity.table.clone(), at)).collect()
    };
    let (places, others) = (entities(left), entities(right));
    let entity = |at: usize, on_left: bool| -> Option<&Entity> {
        let (schema, places) = if on_left { (left, &places) } else { (right, &others) };
        places.get(&found[at].table).map(|place| &schema.entities[*place])
    };
    let mut hints: Vec<(usize, usize, String)> = Vec::new();
    let candidates: Vec<(usize, &Entity)> = one_sided("table-one-sided", false)
        .into_iter()
        .filter_map(|at| Some((at, entity(at, false)?)))
        .collect();
    let sharing = Sharing::of(&candidates);
    for at in one_sided("table-one-sided", true) {
        let Some(own) = entity(at, true) else { continue };
        let alike = sharing
            .with(own)
            .into_iter()
            .map(|candidate| (candidates[candidate].0, overlap(own, candidates[candidate].1)));
        let best = alike
            .filter(|(_, shared)| *shared >= ALIKE)
            .max_by(|(_, one), (_, two)| one.total_cmp(two));
        hints.extend(best.map(|(other, shared)| {
            (at, other, format!("{:.0} % of the columns are the same", shared * 100.0))
        }));
    }
    let mut columns: HashMap<&str, Vec<usize>> = HashMap::new();
    for at in one_sided("column-one-sided", false) {
        columns.entry(&found[at].table).or_default().push(at);
    }
    for at in one_sided("column-one-sided", true) {
        let of_table = columns.get(found[at].table.as_str()).into_iter().flatten();
        let alike = of_table.filter_map(|other| {
            let (from, to) = (
                entity(at, true)?.field(name_of(&found[at]))?,
                entity(*other, false)?.field(name_of(&found[*other]))?,
            );
            let names = strsim::normalized_damerau_levenshtein(
                name_of(&found[at]),
                name_of(&found[*other]),
            );
            let same =
                from.r#type == to.r#type && from.nullable == to.nullable && names >= ALIKE / 2.0;
            same.then(|| {
                (
                    *other,
                    names,
                    format!(
                        "both are {} and {}",
                        to.r#type,
                        if to.nullable { "may be null" } else { "not null" }
                    ),
                )
            })
        });
        let best = alike.max_by(|(_, one, _), (_, two, _)| one.total_cmp(two));
        hints.extend(best.map(|(other, _, evidence)| (at, other, evidence)));
    }
    for (at, other, evidence) in hints {
        let (from, to) = (name_of(&found[at]).to_owned(), name_of(&found[other]).to_owned());
        for (at, name) in [(at, to), (other, from)] {
            found[at].advice = format!(
                "it may be `{name}` under another name: {evidence}; if so, rename it, or its \
                 data is lost"
            );
        }
    }
}

fn name_of(found: &Divergence) -> &str {
    found.element.strip_prefix("column ").unwrap_or(&found.table)
}

/// Columns that more tables than this have tell nothing of which table it is.
const COMMON: usize = 32;

/// Tables that share the most columns are looked at more closely.
const LOOKED_AT: usize = 8;

/// Tables by the columns that they have.
struct Sharing {
    tables: HashMap<String, Vec<usize>>,
}

impl Sharing {
    fn of(candidates: &[(usize, &Entity)]) -> Self {
        let mut tables: HashMap<String, Vec<usize>> = HashMap::new();
        for (at, (_, entity)) in candidates.iter().enumerate() {
            columns_of(entity)
                .into_iter()
                .for_each(|column| tables.entry(column).or_default().push(at));
        }
        Sharing { tables }
    }

    /// The tables that share most columns with this one.
    fn with(&self, entity: &Entity) -> Vec<usize> {
        let mut shared: HashMap<usize, usize> = HashMap::new();
        let telling = columns_of(entity)
            .into_iter()
            .filter_map(|column| self.tables.get(&column))
            .filter(|tables| tables.len() <= COMMON);
        for table in telling.flatten() {
            *shared.entry(*table).or_default() += 1;
        }
        let mut most: Vec<(usize, usize)> =
            shared.into_iter().map(|(table, columns)| (columns, table)).collect();
        most.sort_unstable_by_key(|(columns, table)| (std::cmp::Reverse(*columns), *table));
        most.into_iter().take(LOOKED_AT).map(|(_, table)| table).collect()
    }
}

fn columns_of(entity: &Entity) -> HashSet<String> {
    entity.fields.iter().map(|field| format!("{} {}", field.column, field.r#type)).collect()
}

/// The share of columns, by name and type, that two tables have in common.
fn overlap(one: &Entity, two: &Entity) -> f64 {
    let (one, two) = (columns_of(one), columns_of(two));
    let all = one.union(&two).count();
    if all == 0 { 0.0 } else { one.intersection(&two).count() as f64 / all as f64 }
}
