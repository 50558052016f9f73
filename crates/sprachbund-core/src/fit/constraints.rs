//! Indexes, unique constraints, checks and exclusions. What declarations cannot say, the script adds after the tables
//! are made, unless the server cannot add it later.

use std::borrow::Cow;

use super::voices::extras_of_constraint;
use super::{Fitting, Grade, element};
use crate::dialect::sql::{index_references, is_unbounded};
use crate::dialect::{Feature, capabilities};
use crate::history::{Operation, sql};
use crate::resolve::{json_check, pattern_class, unsigned_check};
use crate::schema::facts::{FactKey, index_element, unique_element};
use crate::schema::{Check, Database, Entity, Index, NamedBy, Origin, Unique, UniqueAs};

/// Fits every constraint and index, then adds what the target's conventions make besides.
pub(super) fn fit(fitting: &mut Fitting) {
    fitting.each_entity(|fitting, entity| {
        uniques(fitting, entity);
        indexes(fitting, entity);
        checks(fitting, entity);
        exclusions(fitting, entity);
        if entity.mapped.code && !entity.external {
            names(fitting, entity);
            additions(fitting, entity);
        }
        indexes_of_references(fitting, entity);
    });
}

fn uniques(fitting: &mut Fitting, entity: &mut Entity) {
    nulls_not_distinct(fitting, entity);
    for at in 0..entity.uniques.len() {
        let mut extras = std::mem::take(&mut entity.uniques[at].extras);
        extras_of_constraint(fitting, entity, &unique_element(&entity.uniques[at]), &mut extras);
        entity.uniques[at].extras = extras;
    }
    unique_names(fitting, entity);
    for at in 0..entity.uniques.len() {
        let unique = &mut entity.uniques[at];
        let stored = unique_element(unique);
        let fact = |aspect: &str| vec![FactKey::new(&entity.table, stored.clone(), aspect)];
        let name = format!("{} ({})", entity.name, unique.columns.join(", "));
        if unique.deferrable.is_some() && !fitting.capabilities.has(Feature::DeferrableUnique) {
            unique.deferrable = None;
            fitting.lose(
                Grade::Strengthened,
                "a unique constraint cannot be checked at commit here",
                "it is checked at each statement",
                name.clone(),
                fact("deferrable"),
            );
        }
        let unique = &mut entity.uniques[at];
        let alone = unique.columns.len() == 1;
        let wanted = if alone || unique.named_by == NamedBy::Author { UniqueAs::Constraint } else { fitting.conventions.unique_pair_as };
        if unique.r#as != wanted {
            unique.r#as = wanted;
            fitting.lose(
                Grade::Respelled,
                "uniqueness is kept by another object of the database",
                "values are as unique as before",
                name,
                fact("as"),
            );
        }
    }
}

/// A unique constraint of which more is said than its columns must have a name in the target.
fn unique_names(fitting: &mut Fitting, entity: &mut Entity) {
    if fitting.conventions.join_columns || !entity.mapped.code || entity.external {
        return;
    }
    for (at, unique) in entity.uniques.iter_mut().enumerate() {
        let special = unique.deferrable.is_some() || unique.nulls_not_distinct || !unique.extras.is_empty();
        if special && unique.named_by != NamedBy::Author {
            unique.name = Some(given_name(&entity.table, &format!("uniq{}", at + 1)));
            unique.named_by = NamedBy::Author;
            let fact = FactKey::new(&entity.table, unique_element(unique), "name");
            let name = format!("{}: {}", entity.name, unique_element(unique));
            fitting.lose(Grade::Added, "such a unique constraint must have a name", "one is given", name, vec![fact]);
        }
    }
}

/// Moves the uniqueness for which null counts as a value; a plain one in its place would say less.
fn nulls_not_distinct(fitting: &mut Fitting, entity: &mut Entity) {
    if fitting.capabilities.has(Feature::NullsNotDistinct) {
        return;
    }
    let (moved, kept) = std::mem::take(&mut entity.uniques).into_iter().partition(|unique| unique.nulls_not_distinct);
    entity.uniques = kept;
    for unique in moved {
        let facts = vec![FactKey::new(&entity.table, unique_element(&unique), "")];
        let name = format!("{} ({})", entity.name, unique.columns.join(", "));
        let reason = format!("{} cannot say that null counts as a value", fitting.framework);
        if fitting.database() == Database::PostgreSql {
            let operation = Operation::AddUnique { table: entity.table.clone(), unique };
            fitting.script.push(sql::statement(&operation, entity, &fitting.schema, fitting.database()));
            fitting.lose(Grade::Moved, reason, "the script adds the constraint", name, facts);
        } else {
            fitting.lose(Grade::Dropped, reason, "this server cannot hold it either", name, facts);
        }
    }
}

/// The indexes that the server makes for foreign keys, or the framework in its join tables.
fn indexes_of_references(fitting: &mut Fitting, entity: &mut Entity) {
    let before = entity.indexes.len();
    let silent_join = entity.mapped.table && !entity.mapped.code && fitting.conventions.join_indexed;
    if silent_join && !fitting.conventions.leaves_indexes_to_server() {
        for key in &entity.foreign_keys {
            if !entity.indexes.iter().any(|index| index.plain_columns() == key.columns) {
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
        let reason = if fitting.conventions.server_indexes_references && !silent_join {
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
    // MariaDB keeps a whole text unique by a digest.
    if mysql && !(index.unique && database == Database::MariaDb) && index.columns.iter().any(unbounded) {
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
            if let Some(mut index) = unique_index(fitting, entity, index) {
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

/// A plain unique index becomes a unique constraint where the target has no other word for it.
fn unique_index(fitting: &mut Fitting, entity: &mut Entity, index: Index) -> Option<Index> {
    let plain = index.unique
        && index.condition.is_none()
        && index.method.is_none()
        && index.include.is_empty()
        && index.parts.iter().all(crate::schema::IndexPart::is_plain);
    if !plain || fitting.capabilities.has(Feature::UniqueIndex) {
        return Some(index);
    }
    let mut index = index;
    if index.nulls_not_distinct && index.named_by != NamedBy::Author {
        index.name = Some(given_name(&entity.table, &format!("uniq{}", entity.uniques.len() + 1)));
        index.named_by = NamedBy::Author;
    }
    let columns = index.plain_columns();
    let mut facts = vec![FactKey::new(&entity.table, index_element(&index), "")];
    let named = index.named_by == NamedBy::Author;
    let r#as = if columns.len() == 1 || named { UniqueAs::Constraint } else { fitting.conventions.unique_pair_as };
    let Index { name, named_by, nulls_not_distinct, origin, .. } = index;
    let unique = Unique { columns, r#as, name, named_by, nulls_not_distinct, origin, ..Unique::default() };
    let name = format!("{} ({})", entity.name, unique.columns.join(", "));
    if !entity.uniques.iter().any(|known| known.columns == unique.columns) {
        facts.push(FactKey::new(&entity.table, unique_element(&unique), ""));
        entity.uniques.push(unique);
    }
    let reason = format!("{} makes unique constraints, not plain unique indexes", fitting.framework);
    fitting.lose(Grade::Respelled, reason, "a unique constraint", name, facts);
    None
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
                let operation = Operation::AddCheck { table: entity.table.clone(), check };
                fitting.script.push(sql::statement(&operation, entity, &fitting.schema, fitting.database()));
                let reason = format!("{} makes no checks on this server", fitting.framework);
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
        let sayable = fitting.home || (sql_text && fitting.conventions.join_columns);
        if sayable && fitting.capabilities.has(Feature::Exclusion) {
            kept.push(check);
            continue;
        }
        let facts = vec![FactKey::new(&entity.table, format!("exclusion {}", check.expression.text), "")];
        let name = format!("{}: {}", entity.name, check.name.clone().unwrap_or_default());
        if sql_text && fitting.database() == Database::PostgreSql {
            let constraint =
                check.name.as_ref().map_or(String::new(), |name| format!("CONSTRAINT {} ", crate::schema::expression::quote_name(name)));
            fitting.script.push(format!(
                "ALTER TABLE {} ADD {constraint}EXCLUDE {};",
                crate::schema::expression::quote_name(&entity.table),
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
    if fitting.conventions.join_columns {
        return;
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

/// Django limits names of indexes to 30 characters (`Index.max_name_length`).
fn given_name(table: &str, tail: &str) -> String {
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
