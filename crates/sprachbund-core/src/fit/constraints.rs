//! Indexes, unique constraints, checks and exclusions. What declarations cannot say, the script adds after the tables
//! are made, unless the server cannot add it later.

use std::borrow::Cow;
use std::collections::HashSet;

use super::voices::extras_of_constraint;
use super::{Fitting, Grade, element, uniques};
use crate::dialect::conventions::JoinIndexed;
use crate::dialect::naming::Case;
use crate::dialect::sql::{index_references, is_unbounded};
use crate::dialect::{Feature, capabilities};
use crate::history::{Operation, sql};
use crate::resolve::{json_check, pattern_class, unsigned_check};
use crate::schema::facts::{FactKey, foreign_key_element, index_element, unique_element};
use crate::schema::{Check, Database, EnforcedBy, Entity, Index, NamedBy, Origin};

/// Fits every constraint and index, then adds what the target's conventions make besides.
pub(super) fn fit(fitting: &mut Fitting) {
    fitting.each_entity(|fitting, entity| {
        uniques::fit(fitting, entity);
        indexes(fitting, entity);
        checks(fitting, entity);
        exclusions(fitting, entity);
        if (entity.mapped.code || fitting.conventions.references_on_columns) && !entity.external {
            names(fitting, entity);
            additions(fitting, entity);
        }
        indexes_of_references(fitting, entity);
    });
}

/// The indexes that the server makes for foreign keys, or the framework in its join tables.
fn indexes_of_references(fitting: &mut Fitting, entity: &mut Entity) {
    let before = entity.indexes.len();
    let silent_join = entity.mapped.table && !entity.mapped.code;
    if silent_join && !fitting.conventions.leaves_indexes_to_server() {
        for (place, key) in entity.foreign_keys.iter().enumerate() {
            if fitting.conventions.join_indexed.is_indexed(place)
                && !entity.indexes.iter().any(|index| index.plain_columns() == key.columns)
            {
                entity.indexes.push(Index::over(&key.columns, Origin::implied("references are indexed")));
            }
        }
    }
    if fitting.conventions.server_indexes_references && entity.mapped.table {
        index_references(entity);
    }
    for at in before..entity.indexes.len() {
        let element = index_element(&entity.indexes[at]);
        let facts = vec![FactKey::new(&entity.table, element.clone(), "")];
        let name = format!("{}: {element}", entity.name);
        let by_framework = silent_join && fitting.conventions.join_indexed != JoinIndexed::Neither;
        let reason = if fitting.conventions.server_indexes_references && !by_framework {
            "this server indexes the columns of a reference".to_owned()
        } else {
            format!("{} indexes the references of a join table", fitting.framework)
        };
        fitting.lose(Grade::Added, reason, "the index", name, facts);
    }
}

/// Takes from an index what the server itself cannot hold, and says why if it took anything; `None` when nothing is left
/// that would be of use.
fn held_by_server(fitting: &mut Fitting, entity: &Entity, mut index: Index) -> Option<(Index, Option<String>)> {
    let name = format!("{}: {}", entity.name, index_element(&index));
    let facts = vec![FactKey::new(&entity.table, index_element(&index), "")];
    let (database, mysql) = (fitting.database(), fitting.database().is_mysql());
    let unbounded = |column: &String| entity.field(column).is_some_and(|field| is_unbounded(&field.r#type));
    // At home, how much of a text is indexed, and in which way, stays as it is.
    let in_part = fitting.home && ["length", "fulltext"].iter().any(|extra| index.extras.contains_key(*extra));
    // MariaDB keeps a whole text unique by a digest.
    if mysql && !in_part && !(index.unique && database == Database::MariaDb) && index.columns.iter().any(unbounded) {
        let reason = format!("{} indexes only the beginning of a text without a bound", database.title());
        fitting.lose(Grade::Dropped, reason, "give the column a length, or index its beginning", name, facts);
        return None;
    }
    let lacking: Vec<Feature> = capabilities::of_index(&index).into_iter().filter(|feature| !fitting.server.has(*feature)).collect();
    let Some(first) = lacking.first() else { return Some((index, None)) };
    let reason = format!("{} has no {}", database.title(), capabilities::words(*first));
    let spared = [Feature::PartialIndex, Feature::CoveringIndex];
    if index.unique || !lacking.iter().all(|feature| spared.contains(feature)) {
        let instead = if index.unique { "the application must see to it that values are unique" } else { "queries over it are slower" };
        fitting.lose(Grade::Dropped, reason, instead, name, facts);
        return None;
    }
    (index.condition, index.include) = (None, Vec::new());
    Some((index, Some(reason)))
}

/// What of an index the target cannot say.
fn lacking(fitting: &Fitting, index: &Index) -> Option<&'static str> {
    let has = |feature| fitting.capabilities.has(feature);
    let part = |test: fn(&crate::schema::IndexPart) -> bool| index.parts.iter().any(test);
    let host = |expression: &crate::schema::Expression| !expression.is_sql();
    if index.condition.as_deref().is_some_and(host) || index.parts.iter().any(|part| part.expression.as_deref().is_some_and(host)) {
        return Some("an index over code of the source's language");
    }
    let implied_pattern = fitting.conventions.text_pattern_index
        && part(|part| part.operator_class.as_deref().is_some_and(|class| class.ends_with("_pattern_ops")));
    let sayable_method = index.method.as_deref().is_none_or(|method| fitting.capabilities.index_methods.contains(&method));
    let checks: [(bool, Feature, &'static str); 7] = [
        (part(|part| part.descending), Feature::DescendingIndex, "a descending key of an index"),
        (part(|part| part.expression.is_some()), Feature::ExpressionIndex, "an index over an expression"),
        (!implied_pattern && part(|part| part.operator_class.is_some()), Feature::OperatorClass, "an operator class of an index"),
        (!sayable_method, Feature::IndexMethod, "an access method of an index"),
        (!index.include.is_empty(), Feature::CoveringIndex, "further columns of an index"),
        (index.condition.is_some(), Feature::PartialIndex, "a condition of an index"),
        (index.nulls_not_distinct, Feature::NullsNotDistinct, "that null counts as a value"),
    ];
    let long = |limit: usize| {
        !index.unique && index.named_by == NamedBy::Author && index.name.as_ref().is_some_and(|name| name.chars().count() > limit)
    };
    if !fitting.home && fitting.conventions.index_name_limit.is_some_and(long) {
        return Some("so long a name of an index");
    }
    checks.into_iter().find(|(used, feature, _)| *used && !has(*feature)).map(|(_, _, words)| words)
}

fn indexes(fitting: &mut Fitting, entity: &mut Entity) {
    let mut kept = Vec::new();
    for index in std::mem::take(&mut entity.indexes) {
        let facts = vec![FactKey::new(&entity.table, index_element(&index), "")];
        let name = format!("{}: {}", entity.name, index_element(&index));
        let Some((index, simplified)) = held_by_server(fitting, entity, index) else { continue };
        if let Some(reason) = simplified {
            simpler_index(fitting, entity, &mut kept, index, (reason, name, facts));
            continue;
        }
        let Some(words) = lacking(fitting, &index) else {
            if let Some(mut index) = uniques::of_index(fitting, entity, index) {
                extras_of_constraint(fitting, entity, &index_element(&index), &mut index.extras);
                kept.push(index);
            }
            continue;
        };
        let reason = format!("{} cannot say {words}", fitting.framework);
        let understood = index
            .condition
            .as_deref()
            .into_iter()
            .chain(index.parts.iter().filter_map(|part| part.expression.as_deref()))
            .all(crate::schema::Expression::is_sql);
        if understood {
            let operation = Operation::AddIndex { table: entity.table.clone(), index };
            fitting.script.push(sql::statement(&operation, entity, &fitting.schema, fitting.database()));
            fitting.lose(Grade::Moved, reason, "the script makes the index", name, facts);
        } else {
            fitting.lose(Grade::Dropped, reason, "write it anew", name, facts);
        }
    }
    entity.indexes = kept;
}

/// An index of which the server cannot hold something: the rest of it, told once.
fn simpler_index(
    fitting: &mut Fitting,
    entity: &Entity,
    kept: &mut Vec<Index>,
    mut index: Index,
    (reason, name, mut facts): (String, String, Vec<FactKey>),
) {
    let mut instead = "the index holds every row, and its keys only";
    if lacking(fitting, &index).is_some() {
        let operation = Operation::AddIndex { table: entity.table.clone(), index };
        fitting.script.push(sql::statement(&operation, entity, &fitting.schema, fitting.database()));
        return fitting.lose(Grade::Moved, reason, "the script makes the index, over every row", name, facts);
    }
    let after = FactKey::new(&entity.table, index_element(&index), "");
    if !facts.contains(&after) {
        index.extras.clear();
        let known = entity.indexes.iter().chain(kept.iter()).any(|known| index_element(known) == index_element(&index));
        if known {
            instead = "another index holds it";
        } else {
            facts.push(after);
        }
    }
    if !kept.iter().any(|known| index_element(known) == index_element(&index)) {
        kept.push(index);
    }
    fitting.lose(Grade::Respelled, reason, instead, name, facts);
}

fn checks(fitting: &mut Fitting, entity: &mut Entity) {
    let implied_json: Vec<Check> =
        if fitting.conventions.json_check { Vec::new() } else { entity.fields.iter().filter_map(json_check).collect() };
    let mut kept = Vec::new();
    for check in std::mem::take(&mut entity.checks) {
        let facts = vec![FactKey::new(&entity.table, format!("check {}", check.expression.text), "")];
        let name = format!("{}: {}", entity.name, check.name.clone().unwrap_or_else(|| check.expression.text.clone()));
        if !check.expression.is_sql() {
            fitting.lose(Grade::Dropped, "this check is code that could not be read as SQL", "write it anew", name, facts);
        } else if implied_json.iter().any(|implied| implied.expression == check.expression) && fitting.database() == Database::PostgreSql {
            fitting.lose(Grade::Dropped, "the type itself keeps its values to JSON", "no check is needed", name, facts);
        } else {
            let mut check = check;
            if !fitting.capabilities.has(Feature::Check) {
                let reason = format!("{} makes no checks on this server", fitting.framework);
                if fitting.database() == Database::Sqlite {
                    fitting.lose(Grade::Dropped, reason, "check the values where input is validated", name, facts);
                    continue;
                }
                let operation = Operation::AddCheck { table: entity.table.clone(), check };
                fitting.script.push(sql::statement(&operation, entity, &fitting.schema, fitting.database()));
                fitting.lose(Grade::Moved, reason, "the script adds it", name, facts);
                continue;
            }
            extras_of_constraint(fitting, entity, &format!("check {}", check.expression.text), &mut check.extras);
            kept.push(check);
        }
    }
    entity.checks = kept;
}

fn exclusions(fitting: &mut Fitting, entity: &mut Entity) {
    let mut kept = Vec::new();
    for check in std::mem::take(&mut entity.exclusions) {
        let sql_text = check.expression.is_sql();
        let sayable = fitting.home || (sql_text && fitting.conventions.join_columns && !fitting.conventions.references_on_columns);
        if sayable && fitting.capabilities.has(Feature::Exclusion) {
            kept.push(check);
            continue;
        }
        let facts = vec![FactKey::new(&entity.table, format!("exclusion {}", check.expression.text), "")];
        let name = format!("{}: {}", entity.name, check.name.clone().unwrap_or_default());
        if sql_text && fitting.database() == Database::PostgreSql {
            let constraint =
                check.name.as_ref().map_or(String::new(), |name| format!("CONSTRAINT {} ", crate::quoting::sql::standard_name(name)));
            fitting.script.push(format!(
                "ALTER TABLE {} ADD {constraint}EXCLUDE {};",
                crate::quoting::sql::standard_name(&entity.table),
                check.expression.text
            ));
            fitting.lose(Grade::Moved, "an exclusion constraint is written as SQL", "the script adds it", name, facts);
        } else {
            fitting.lose(Grade::Dropped, "this exclusion constraint is code of the source's language", "write it anew", name, facts);
        }
    }
    entity.exclusions = kept;
}

/// Constraints and indexes that must have a name in the target get one.
fn names(fitting: &mut Fitting, entity: &mut Entity) {
    if fitting.conventions.indexes_listed {
        names_as_held(fitting, entity);
        return listed_names(fitting, entity);
    }
    if fitting.conventions.index_name.is_some() {
        names_as_held(fitting, entity);
        return index_names(fitting, entity);
    }
    if fitting.conventions.join_columns {
        return names_of_doubles(fitting, entity);
    }
    let implied: Vec<Check> = entity
        .fields
        .iter()
        .filter_map(|field| unsigned_check(field).or_else(|| json_check(field).filter(|_| fitting.conventions.json_check)))
        .collect();
    for (at, check) in entity.checks.iter_mut().enumerate() {
        let by_convention = implied.iter().any(|known| known.expression == check.expression);
        if check.name.is_none() && !by_convention {
            check.name = Some(given_name(&entity.table, &format!("check{}", at + 1)));
            let fact = FactKey::new(&entity.table, format!("check {}", check.expression.text), "name");
            fitting.lose(
                Grade::Added,
                "a check must have a name",
                "one is given",
                format!("{}: {}", entity.name, check.expression.text),
                vec![fact],
            );
        }
    }
    for (at, index) in entity.indexes.iter_mut().enumerate() {
        let special = index.unique
            || index.condition.is_some()
            || index.parts.iter().any(|part| part.expression.is_some() || part.operator_class.is_some())
            || !index.include.is_empty();
        let pattern = index.parts.iter().any(|part| part.operator_class.as_deref().is_some_and(|class| class.ends_with("_pattern_ops")));
        if index.name.is_none() && special && !(pattern && fitting.conventions.text_pattern_index) {
            index.name = Some(given_name(&entity.table, &format!("idx{}", at + 1)));
            index.named_by = NamedBy::Author;
            let fact = FactKey::new(&entity.table, index_element(index), "name");
            fitting.lose(
                Grade::Added,
                "such an index must have a name",
                "one is given",
                format!("{}: {}", entity.name, index_element(index)),
                vec![fact],
            );
        }
    }
}

/// PostgreSQL cuts a name that is too long, which some frameworks leave to it and others refuse: what is written is what it
/// holds.
fn names_as_held(fitting: &mut Fitting, entity: &mut Entity) {
    let limit = fitting.conventions.identifier_limit;
    let mut cut = Vec::new();
    let mut hold = |element: String, name: &mut Option<String>| {
        if let Some(long) = name.as_mut().filter(|name| name.len() > limit) {
            long.truncate(long.floor_char_boundary(limit));
            cut.push((element, long.clone()));
        }
    };
    for unique in &mut entity.uniques {
        hold(unique_element(unique), &mut unique.name);
    }
    for index in &mut entity.indexes {
        hold(index_element(index), &mut index.name);
    }
    for check in &mut entity.checks {
        hold(format!("check {}", check.expression.text), &mut check.name);
    }
    for key in &mut entity.foreign_keys {
        hold(foreign_key_element(key), &mut key.name);
    }
    for (element, name) in cut {
        let fact = FactKey::new(&entity.table, element.clone(), "name");
        let reason = format!("{} refuses a name that the server would cut", fitting.framework);
        let facts = fitting.unless_told(fact);
        fitting.lose(Grade::Respelled, reason, format!("`{name}`, which the server holds"), format!("{}: {element}", entity.name), facts);
    }
}

/// On MariaDB and MySQL a unique constraint is an index; where the framework names both after their columns alone, another
/// index over them must have a name of its own.
fn names_of_doubles(fitting: &mut Fitting, entity: &mut Entity) {
    if !fitting.database().is_mysql() || fitting.home {
        return;
    }
    let unnamed = |index: &Index| index.named_by == NamedBy::Framework;
    for at in 0..entity.indexes.len() {
        let index = &entity.indexes[at];
        let columns = index.plain_columns();
        let unique = entity.uniques.iter().any(|unique| unique.named_by != NamedBy::Author && unique.columns == columns);
        let before = entity.indexes[..at].iter().any(|other| unnamed(other) && other.plain_columns() == columns);
        if columns.is_empty() || !unnamed(index) || !(unique || before) {
            continue;
        }
        let index = &mut entity.indexes[at];
        index.name = Some(sql::default_index_name(&entity.table, index));
        index.named_by = NamedBy::Author;
        let fact = FactKey::new(&entity.table, index_element(index), "name");
        let element = format!("{}: {}", entity.name, index_element(index));
        let facts = fitting.unless_told(fact);
        fitting.lose(Grade::Added, "a second index over the same columns must have a name of its own", "one is given", element, facts);
    }
}

/// Indexes over the same columns cannot both have the framework's name for them.
fn listed_names(fitting: &mut Fitting, entity: &mut Entity) {
    let limit = fitting.conventions.identifier_limit;
    // Where all that is unique is an index, names say what kind they are of; else the server cuts whatever is too long.
    let by_kind = fitting.conventions.unique_as_index;
    let called = |columns: &[String], ending: &str| {
        let name = format!("{}_{}", entity.table, columns.join("_"));
        match by_kind || ending == "key" || ending == "fkey" {
            true => cut(&name, ending, limit),
            false => {
                let name = Case::Snake.apply(&name);
                name[..name.floor_char_boundary(limit.min(name.len()))].to_owned()
            }
        }
    };
    let uniques = entity.uniques.iter().filter(|unique| unique.named_by != NamedBy::Author);
    let mut taken: HashSet<String> = uniques.map(|unique| called(&unique.columns, "key")).collect();
    let mut named: Vec<(usize, String)> = Vec::new();
    for (at, index) in entity.indexes.iter().enumerate() {
        let made_by_server = fitting.conventions.server_indexes_references && index.named_by == NamedBy::Server;
        if index.named_by == NamedBy::Author || made_by_server {
            continue;
        }
        let own = called(&index.columns, if index.unique && by_kind { "key" } else { "idx" });
        // A name that the server cuts is not known again by a framework that looks for what is there already.
        let cut_by_server = !by_kind && !fitting.home && own.len() >= limit;
        if !taken.insert(own.clone()) || cut_by_server {
            // A number tells it from the table and from others that begin alike.
            let name = match cut_by_server {
                true => cut(&format!("{}_{}", entity.table, index.columns.join("_")), &format!("idx{}", at + 1), limit),
                false => sql::default_index_name(&entity.table, index),
            };
            let free = if taken.contains(&name) { cut(&name, &(at + 1).to_string(), limit) } else { name };
            taken.insert(free.clone());
            named.push((at, free));
        }
    }
    let mut keys: Vec<(usize, String)> = Vec::new();
    let unnamed = entity.foreign_keys.iter().enumerate().filter(|(_, key)| key.name.is_none() && key.enforced == EnforcedBy::Database);
    for (at, key) in unnamed.filter(|_| fitting.capabilities.has(Feature::ConstraintName)) {
        let name = called(&key.columns, "fkey");
        if !taken.insert(name.clone()) {
            keys.push((at, cut(&name, &format!("fkey{}", at + 1), limit)));
        }
    }
    let reason = "two that the framework would call the same must have names of their own";
    for (at, name) in named {
        let index = &mut entity.indexes[at];
        (index.name, index.named_by) = (Some(name), NamedBy::Author);
        let element = format!("{}: {}", entity.name, index_element(index));
        let facts = fitting.unless_told(FactKey::new(&entity.table, index_element(index), "name"));
        fitting.lose(Grade::Added, reason, "one is given", element, facts);
    }
    for (at, name) in keys {
        let key = &mut entity.foreign_keys[at];
        key.name = Some(name);
        let fact = FactKey::new(&entity.table, foreign_key_element(key), "name");
        let element = format!("{} ({})", entity.name, key.columns.join(", "));
        fitting.lose(Grade::Added, reason, "one is given", element, vec![fact]);
    }
}

/// A name with its ending, the name cut where both together would be too long.
fn cut(name: &str, ending: &str, limit: usize) -> String {
    let room = limit.saturating_sub(ending.len() + 1).min(name.len());
    format!("{}_{ending}", &name[..name.floor_char_boundary(room)])
}

/// Indexes get a name where the framework's own would be that of another one, or where it has none for them.
fn index_names(fitting: &mut Fitting, entity: &mut Entity) {
    let mut taken: Vec<String> = Vec::new();
    for at in 0..entity.indexes.len() {
        let index = &entity.indexes[at];
        let made_by_server = fitting.conventions.server_indexes_references && index.named_by == NamedBy::Server;
        if index.named_by == NamedBy::Author || made_by_server {
            continue;
        }
        // One column and nothing else is said at the column; its name comes first.
        let first = index.parts.first().filter(|part| !part.descending).and_then(|part| part.column.clone());
        let plain = index.plain_columns().len() == 1 && !index.unique && index.parts.iter().all(crate::schema::IndexPart::is_plain);
        let clash = first.as_ref().is_none_or(|first| {
            taken.contains(first)
                || (!plain
                    && entity.indexes.iter().any(|other| other.plain_columns() == [first.clone()] && other.named_by != NamedBy::Author))
        });
        if !clash {
            taken.extend(first);
            continue;
        }
        let index = &mut entity.indexes[at];
        index.name = Some(sql::default_index_name(&entity.table, index));
        index.named_by = NamedBy::Author;
        let fact = FactKey::new(&entity.table, index_element(index), "name");
        let element = format!("{}: {}", entity.name, index_element(index));
        let facts = fitting.unless_told(fact);
        fitting.lose(Grade::Added, "such an index must have a name of its own", "one is given", element, facts);
    }
}

/// Django limits names of indexes to 30 characters (`Index.max_name_length`).
pub(super) fn given_name(table: &str, tail: &str) -> String {
    let head: String = table.chars().take(29 - tail.len()).collect();
    format!("{head}_{tail}")
}

/// What the target's conventions make besides: checks of unsigned and JSON columns, second indexes for patterns.
fn additions(fitting: &mut Fitting, entity: &mut Entity) {
    for at in 0..entity.fields.len() {
        let field = &entity.fields[at];
        let mut checks: Vec<Check> = unsigned_check(field).filter(|_| fitting.conventions.unsigned_check).into_iter().collect();
        checks.extend(json_check(field).filter(|_| fitting.conventions.json_check));
        let column = element(entity, &field.column);
        let class = pattern_class(&field.r#type).filter(|_| fitting.conventions.text_pattern_index);
        let own = std::slice::from_ref(&field.column);
        for check in checks {
            if !entity.checks.iter().any(|known| known.expression == check.expression) {
                let facts = vec![FactKey::new(&entity.table, format!("check {}", check.expression.text), "")];
                entity.checks.push(check);
                fitting.lose(Grade::Added, "the framework checks such a column by itself", "a check", column.clone(), facts);
            }
        }
        let indexed = entity.key_columns() == own
            || entity
                .uniques
                .iter()
                .any(|unique| unique.columns == own && unique.named_by != NamedBy::Author && unique.deferrable.is_none())
            || entity.indexes.iter().any(|index| {
                index.named_by != NamedBy::Author
                    && !index.unique
                    && index.condition.is_none()
                    && index.method.is_none()
                    && index.include.is_empty()
                    && index.parts.iter().all(crate::schema::IndexPart::is_plain)
                    && index.plain_columns() == own
            });
        if let (true, Some(class)) = (indexed, class) {
            let mut index = Index::over(own, Origin::implied("an indexed text gets a second index for patterns"));
            index.parts[0].operator_class = Some(Cow::Borrowed(class));
            let stored = index_element(&index);
            if !entity.indexes.iter().any(|known| index_element(known) == stored) {
                entity.indexes.push(index);
                fitting.lose(
                    Grade::Added,
                    "an indexed text gets a second index for patterns",
                    "the index",
                    column,
                    vec![FactKey::new(&entity.table, stored, "")],
                );
            }
        }
    }
}
