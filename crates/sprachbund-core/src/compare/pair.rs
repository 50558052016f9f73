//! Which table of one side is which of the other, and what may have been renamed.

use std::collections::{HashMap, HashSet};

use super::Divergence;
use crate::dialect::naming::{Case, singular};
use crate::history::{Operation, Tables};
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
        let tables = schema.entities.iter().filter(|entity| entity.mapped.table && !entity.external);
        tables.map(|entity| (entity.table.clone(), Case::Snake.apply(&singular(&entity.name)))).collect()
    };
    let (left, right) = (own(left), own(right));
    let names = |side: &[(String, String)]| -> HashSet<String> { side.iter().map(|(table, _)| table.clone()).collect() };
    let (on_left, on_right) = (names(&left), names(&right));
    let classes: HashMap<&str, &str> =
        right.iter().filter(|(table, _)| !on_left.contains(table)).map(|(table, class)| (class.as_str(), table.as_str())).collect();
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
    for pair in pairs.iter().filter(|pair| pair.left != pair.right) {
        for entity in &mut right.entities {
            if entity.table == pair.right {
                entity.table.clone_from(&pair.left);
            }
            let keys = entity.foreign_keys.iter_mut().filter(|key| key.references.table == pair.right);
            keys.for_each(|key| key.references.table.clone_from(&pair.left));
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

/// Columns that only one side has and that are the same in all but their name; the right side gets the left side's
/// names, so that nothing else differs because of them.
pub(super) fn columns(left: &Schema, right: &mut Schema, pairs: &[Pair]) -> Vec<Renamed> {
    let mut renamed = Vec::new();
    let mut tables = Tables::of(std::mem::replace(right, Schema::new(Default::default())));
    let on_left: HashMap<&str, &Entity> = left.entities.iter().map(|entity| (entity.table.as_str(), entity)).collect();
    for pair in pairs {
        let (Some(one), Some(two)) = (on_left.get(pair.left.as_str()).copied(), tables.get(&pair.left)) else { continue };
        let only = |entity: &Entity, than: &Entity| -> Vec<String> {
            entity.fields.iter().map(|field| field.column.clone()).filter(|column| than.field(column).is_none()).collect()
        };
        let (from, to) = (only(one, two), only(two, one));
        let mut found: Vec<(String, String, String)> = Vec::new();
        for column in &from {
            let candidates = to.iter().filter(|other| !found.iter().any(|(_, taken, _)| taken == *other));
            let alike: Vec<(&String, String)> = candidates.filter_map(|other| Some((other, sameness(one, column, two, other)?))).collect();
            if let [(other, evidence)] = alike.as_slice() {
                found.push((column.clone(), (*other).clone(), evidence.clone()));
            }
        }
        for (from, to, evidence) in found {
            let step = Operation::RenameColumn { table: pair.left.clone(), column: to.clone(), to: from.clone() };
            if tables.apply(&step).is_ok() {
                renamed.push(Renamed { table: pair.left.clone(), right_table: pair.right.clone(), from, to, evidence });
            }
        }
    }
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
        let relation = || entity.relations.iter().find(|relation| relation.columns == [column.to_owned()])?.name.clone();
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
    let one_sided = |code: &str, found: &[Divergence], on_left: bool| -> Vec<usize> {
        let here = |found: &Divergence| found.code == code && found.left.is_some() == on_left && found.right.is_some() != on_left;
        found.iter().enumerate().filter(|(_, found)| here(found)).map(|(at, _)| at).collect()
    };
    let mut hints: Vec<(usize, String)> = Vec::new();
    for code in ["table-one-sided", "column-one-sided"] {
        let candidates = one_sided(code, found, false);
        for at in one_sided(code, found, true) {
            let best = candidates
                .iter()
                .filter_map(|other| Some((*other, likeness(&found[at], &found[*other], left, right)?)))
                .max_by(|(_, (one, _)), (_, (two, _))| one.total_cmp(two));
            if let Some((other, (_, evidence))) = best {
                let (from, to) = (name_of(&found[at]).to_owned(), name_of(&found[other]).to_owned());
                hints.push((at, format!("it may be `{to}` under another name: {evidence}")));
                hints.push((other, format!("it may be `{from}` under another name: {evidence}")));
            }
        }
    }
    for (at, hint) in hints {
        found[at].advice = format!("{hint}; if so, rename it, or its data is lost");
    }
}

fn name_of(found: &Divergence) -> &str {
    found.element.strip_prefix("column ").unwrap_or(&found.table)
}

fn likeness(one: &Divergence, two: &Divergence, left: &Schema, right: &Schema) -> Option<(f64, String)> {
    let table = |schema: &'_ Schema, name: &str| -> Option<usize> { schema.entities.iter().position(|entity| entity.table == name) };
    let names = strsim::normalized_damerau_levenshtein(name_of(one), name_of(two));
    let (first, second) = (&left.entities[table(left, &one.table)?], &right.entities[table(right, &two.table)?]);
    if one.element.is_empty() {
        let shared = overlap(first, second);
        return (shared >= ALIKE).then(|| (shared, format!("{:.0} % of the columns are the same", shared * 100.0)));
    }
    if one.table != two.table {
        return None;
    }
    let (from, to) = (first.field(name_of(one))?, second.field(name_of(two))?);
    let same = from.r#type == to.r#type && from.nullable == to.nullable;
    (same && names >= ALIKE / 2.0)
        .then(|| (names, format!("both are {} and {}", to.r#type, if to.nullable { "may be null" } else { "not null" })))
}

/// The share of columns, by name and type, that two tables have in common.
fn overlap(one: &Entity, two: &Entity) -> f64 {
    let columns =
        |entity: &Entity| -> HashSet<String> { entity.fields.iter().map(|field| format!("{} {}", field.column, field.r#type)).collect() };
    let (one, two) = (columns(one), columns(two));
    let all = one.union(&two).count();
    if all == 0 { 0.0 } else { one.intersection(&two).count() as f64 / all as f64 }
}
