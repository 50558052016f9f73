//! Indexes, unique constraints, checks and exclusions. What declarations cannot say, the script
//! adds after the tables are made, unless the server cannot add it later.

use std::borrow::Cow;
use std::collections::HashSet;

use super::causes::Elsewhere;
use super::causes::constraints::OfConstraint;
use super::causes::indexes::{Lost, OfIndex};
use super::causes::layers::OfLayer;
use super::voices::extras_of_constraint;
use super::{Fitting, uniques};
use crate::decision::companions::{
    is_positive, json_check, pattern_class, positive_check, positive_rule,
};
use crate::dialect::conventions::JoinIndexed;
use crate::dialect::grammar::{ConstraintNames, IndexPlace, JoinTablePlace};
use crate::dialect::naming::Case;
use crate::dialect::{Feature, capabilities};
use crate::history::{Operation, sql};
use crate::schema::facts::{Aspect, Element};
use crate::schema::{Check, EnforcedBy, Entity, Index, NamedBy, Origin};
use crate::server::{Unbounded, index_references, is_unbounded};

/// Fits every constraint and index, then adds what the target's conventions make besides.
pub(super) fn fit(fitting: &mut Fitting) {
    fitting.each_entity(|fitting, entity| {
        // Some unique constraints become indexes, of which the server may lack something.
        uniques::fit(fitting, entity);
        indexes(fitting, entity);
        checks(fitting, entity);
        exclusions(fitting, entity);
        if (entity.mapped.code || fitting.conventions.grammar.join_table == JoinTablePlace::Table)
            && !entity.external
        {
            // What the framework makes besides has the framework's names: it comes after those that
            // must be given.
            names(fitting, entity);
            additions(fitting, entity);
        }
        // A server indexes only references that no other index serves: all others are there now.
        indexes_of_references(fitting, entity);
    });
}

/// The indexes that the server makes for foreign keys, or the framework in its join tables.
fn indexes_of_references(fitting: &mut Fitting, entity: &mut Entity) {
    let before = entity.indexes.len();
    let silent_join = entity.mapped.table && !entity.mapped.code;
    if silent_join && !fitting.conventions.leaves_indexes_to_server() {
        for (place, key) in entity.foreign_keys.iter().enumerate() {
            if fitting.conventions.joins.indexed.is_indexed(place)
                && !entity.indexes.iter().any(|index| index.plain_columns() == key.columns)
            {
                entity
                    .indexes
                    .push(Index::over(&key.columns, Origin::implied("references are indexed")));
            }
        }
    }
    if fitting.conventions.server_indexes_references() && entity.mapped.table {
        index_references(entity);
    }
    for at in before..entity.indexes.len() {
        let by_framework = silent_join && fitting.conventions.joins.indexed != JoinIndexed::Neither;
        let cause = match fitting.conventions.server_indexes_references() && !by_framework {
            true => OfIndex::IndexOfReference,
            false => OfIndex::IndexOfJoin,
        };
        fitting.because_element(entity, Element::of_index(&entity.indexes[at]), cause);
    }
}

/// Takes from an index what the server itself cannot hold, and says what that is if it took
/// anything; `None` when nothing is left that would be of use.
fn held_by_server(
    fitting: &mut Fitting,
    entity: &Entity,
    mut index: Index,
) -> Option<(Index, Option<Feature>)> {
    let held_whole = match fitting.host().unbounded {
        Unbounded::Whole => true,
        Unbounded::Digest => index.unique,
        Unbounded::Beginning => false,
    };
    let unbounded =
        |column: &String| entity.field(column).is_some_and(|field| is_unbounded(&field.r#type));
    // In its own words, how much of a text is indexed, and in which way, stays as it is.
    let in_part = fitting.own_dialect
        && ["length", "fulltext"].iter().any(|extra| index.extras.contains_key(*extra));
    if !held_whole && !in_part && index.columns.iter().any(unbounded) {
        fitting.because_element(entity, Element::of_index(&index), OfIndex::BeginningOfText);
        return None;
    }
    let lacking: Vec<Feature> = capabilities::of_index(&index)
        .into_iter()
        .filter(|feature| !fitting.server.has(*feature))
        .collect();
    let Some(first) = lacking.first() else { return Some((index, None)) };
    // Without its condition or its further columns an index is slower or larger, and right; a
    // unique one would refuse other rows.
    let spared = [Feature::PartialIndex, Feature::CoveringIndex];
    if index.unique || !lacking.iter().all(|feature| spared.contains(feature)) {
        let lost = if index.unique { Lost::Uniqueness } else { Lost::Speed };
        fitting.because_element(
            entity,
            Element::of_index(&index),
            OfIndex::NoSuchIndex(*first, lost),
        );
        return None;
    }
    (index.condition, index.include) = (None, Vec::new());
    Some((index, Some(*first)))
}

/// What of an index the target cannot say.
fn lacking(fitting: &Fitting, index: &Index) -> Option<OfIndex> {
    let has = |feature| fitting.capabilities.has(feature);
    let part = |test: fn(&crate::schema::IndexPart) -> bool| index.parts.iter().any(test);
    let host = |expression: &crate::schema::Expression| !expression.is_sql();
    if index.condition.as_deref().is_some_and(host)
        || index.parts.iter().any(|part| part.expression.as_deref().is_some_and(host))
    {
        return Some(OfIndex::IndexOverCode);
    }
    let implied_pattern = fitting.conventions.indexes.text_pattern
        && part(|part| {
            part.operator_class.as_deref().is_some_and(|class| class.ends_with("_pattern_ops"))
        });
    let sayable_method = index
        .method
        .as_deref()
        .is_none_or(|method| fitting.capabilities.index_methods.contains(&method));
    let checks: [(bool, Feature, &'static str); 7] = [
        (part(|part| part.descending), Feature::DescendingIndex, "a descending key of an index"),
        (
            part(|part| part.expression.is_some()),
            Feature::ExpressionIndex,
            "an index over an expression",
        ),
        (
            !implied_pattern && part(|part| part.operator_class.is_some()),
            Feature::OperatorClass,
            "an operator class of an index",
        ),
        (!sayable_method, Feature::IndexMethod, "an access method of an index"),
        (!index.include.is_empty(), Feature::CoveringIndex, "further columns of an index"),
        (index.condition.is_some(), Feature::PartialIndex, "a condition of an index"),
        (index.nulls_not_distinct, Feature::NullsNotDistinct, "that null counts as a value"),
    ];
    let long = |limit: usize| {
        !index.unique
            && index.named_by == NamedBy::Author
            && index.name.as_ref().is_some_and(|name| name.chars().count() > limit)
    };
    let unsayable = |what| OfIndex::Unsayable(what, Elsewhere::Script);
    if !fitting.own_dialect && fitting.conventions.limits.index_name.is_some_and(long) {
        return Some(unsayable("so long a name of an index"));
    }
    checks
        .into_iter()
        .find(|(used, feature, _)| *used && !has(*feature))
        .map(|(_, _, words)| unsayable(words))
}

fn indexes(fitting: &mut Fitting, entity: &mut Entity) {
    let mut kept = Vec::new();
    for index in std::mem::take(&mut entity.indexes) {
        let whole = Element::of_index(&index);
        let Some((index, simplified)) = held_by_server(fitting, entity, index) else { continue };
        if let Some(feature) = simplified {
            simpler_index(fitting, entity, &mut kept, index, (feature, whole));
            continue;
        }
        let Some(cause) = lacking(fitting, &index) else {
            if let Some(mut index) = uniques::of_index(fitting, entity, index) {
                extras_of_constraint(fitting, entity, &whole, &mut index.extras);
                kept.push(index);
            }
            continue;
        };
        if cause != OfIndex::IndexOverCode {
            let operation = Operation::AddIndex { table: entity.table.clone(), index };
            fitting.script.push(sql::statement(
                &operation,
                entity,
                &fitting.schema,
                fitting.database(),
            ));
        }
        fitting.because_element(entity, whole, cause);
    }
    entity.indexes = kept;
}

/// An index of which the server cannot hold something: the rest of it, told once.
fn simpler_index(
    fitting: &mut Fitting,
    entity: &Entity,
    kept: &mut Vec<Index>,
    mut index: Index,
    (feature, whole): (Feature, Element),
) {
    if lacking(fitting, &index).is_some() {
        let operation = Operation::AddIndex { table: entity.table.clone(), index };
        fitting.script.push(sql::statement(
            &operation,
            entity,
            &fitting.schema,
            fitting.database(),
        ));
        return fitting.because_element(entity, whole, OfIndex::NoSuchIndex(feature, Lost::Script));
    }
    let simpler = Element::of_index(&index);
    let is_it = |known: &Index| Element::of_index(known) == simpler;
    let known = simpler != whole && entity.indexes.iter().chain(kept.iter()).any(is_it);
    if simpler == whole {
        extras_of_constraint(fitting, entity, &whole, &mut index.extras);
    } else {
        index.extras.clear();
    }
    if !kept.iter().any(is_it) {
        kept.push(index);
    }
    match known {
        true => fitting.because_element(entity, whole, OfIndex::NoSuchIndex(feature, Lost::Known)),
        false => fitting.because_elements(
            entity,
            [whole, simpler],
            OfIndex::NoSuchIndex(feature, Lost::Part),
        ),
    }
}

fn checks(fitting: &mut Fitting, entity: &mut Entity) {
    let implied_json: Vec<Check> = if fitting.conventions.checks.json {
        Vec::new()
    } else {
        entity.fields.iter().filter_map(json_check).collect()
    };
    let mut kept = Vec::new();
    for check in std::mem::take(&mut entity.checks) {
        let element = Element::of_check(&check);
        if !check.expression.is_sql() {
            fitting.because_element(entity, element, OfConstraint::CheckIsCode);
        } else if implied_json.iter().any(|implied| implied.expression == check.expression)
            && fitting.host().checks_json
        {
            fitting.because_element(entity, element, OfConstraint::TypeChecksJson);
        } else if fitting.capabilities.has(Feature::Check) {
            let mut check = check;
            extras_of_constraint(fitting, entity, &element, &mut check.extras);
            kept.push(check);
        } else if !fitting.host().adds_constraints {
            fitting.because_element(entity, element, OfConstraint::NoChecks(Elsewhere::Nowhere));
        } else {
            let operation = Operation::AddCheck { table: entity.table.clone(), check };
            fitting.script.push(sql::statement(
                &operation,
                entity,
                &fitting.schema,
                fitting.database(),
            ));
            fitting.because_element(entity, element, OfConstraint::NoChecks(Elsewhere::Script));
        }
    }
    entity.checks = kept;
}

fn exclusions(fitting: &mut Fitting, entity: &mut Entity) {
    let mut kept = Vec::new();
    for check in std::mem::take(&mut entity.exclusions) {
        let sql_text = check.expression.is_sql();
        let sayable = if sql_text {
            fitting.conventions.limits.exclusions_as_sql
        } else {
            fitting.own_dialect
        };
        if sayable && fitting.capabilities.has(Feature::Exclusion) {
            kept.push(check);
            continue;
        }
        let kept = sql_text && fitting.server.has(Feature::Exclusion);
        let kept = if kept { Elsewhere::Script } else { Elsewhere::Nowhere };
        fitting.because_element(
            entity,
            Element::of_exclusion(&check),
            OfConstraint::Exclusion(kept),
        );
        if kept == Elsewhere::Script {
            let constraint = check.name.as_ref().map_or(String::new(), |name| {
                format!("CONSTRAINT {} ", crate::quoting::sql::standard_name(name))
            });
            fitting.script.push(format!(
                "ALTER TABLE {} ADD {constraint}EXCLUDE {};",
                crate::quoting::sql::standard_name(&entity.table),
                check.expression.text
            ));
        }
    }
    entity.exclusions = kept;
}

/// Constraints and indexes that must have a name in the target get one.
fn names(fitting: &mut Fitting, entity: &mut Entity) {
    if fitting.conventions.grammar.index == IndexPlace::Class {
        names_as_held(fitting, entity);
        return listed_names(fitting, entity);
    }
    if fitting.conventions.names.index.is_some() {
        names_as_held(fitting, entity);
        return index_names(fitting, entity);
    }
    if fitting.conventions.grammar.constraint_names == ConstraintNames::Optional {
        return names_of_doubles(fitting, entity);
    }
    let implied: Vec<Check> = entity
        .fields
        .iter()
        .filter_map(|field| match is_positive(&fitting.conventions, entity, field) {
            true => Some(positive_check(&field.column)),
            false => json_check(field).filter(|_| fitting.conventions.checks.json),
        })
        .collect();
    for at in 0..entity.checks.len() {
        let check = &mut entity.checks[at];
        let by_convention = implied.iter().any(|known| known.expression == check.expression);
        if check.name.is_none() && !by_convention {
            check.name = Some(given_name(&entity.table, &format!("check{}", at + 1)));
            let element = Element::of_check(check);
            fitting.because(entity, element, Aspect::Name, OfConstraint::CheckNeedsName);
        }
    }
    for at in 0..entity.indexes.len() {
        let index = &mut entity.indexes[at];
        let special = index.unique
            || index.condition.is_some()
            || index
                .parts
                .iter()
                .any(|part| part.expression.is_some() || part.operator_class.is_some())
            || !index.include.is_empty();
        let pattern = index.parts.iter().any(|part| {
            part.operator_class.as_deref().is_some_and(|class| class.ends_with("_pattern_ops"))
        });
        if index.name.is_none() && special && !(pattern && fitting.conventions.indexes.text_pattern)
        {
            index.name = Some(given_name(&entity.table, &format!("idx{}", at + 1)));
            index.named_by = NamedBy::Author;
            let element = Element::of_index(index);
            fitting.because(entity, element, Aspect::Name, OfIndex::IndexNeedsName);
        }
    }
}

/// PostgreSQL cuts a name that is too long, which some frameworks leave to it and others refuse:
/// what is written is what it holds.
fn names_as_held(fitting: &mut Fitting, entity: &mut Entity) {
    let limit = fitting.conventions.identifier_limit();
    let mut cut = Vec::new();
    let mut hold = |element: Element, name: &mut Option<String>| {
        if let Some(long) = name.as_mut().filter(|name| name.len() > limit) {
            long.truncate(long.floor_char_boundary(limit));
            cut.push((element, long.clone()));
        }
    };
    for unique in &mut entity.uniques {
        hold(Element::of_unique(unique), &mut unique.name);
    }
    for index in &mut entity.indexes {
        hold(Element::of_index(index), &mut index.name);
    }
    for check in &mut entity.checks {
        hold(Element::of_check(check), &mut check.name);
    }
    for key in &mut entity.foreign_keys {
        hold(Element::of_foreign_key(key), &mut key.name);
    }
    for (element, name) in cut {
        fitting.because(entity, element, Aspect::Name, OfConstraint::NameCut(name));
    }
}

/// On MariaDB and MySQL a unique constraint is an index; where the framework names both after their
/// columns alone, another index over them must have a name of its own.
fn names_of_doubles(fitting: &mut Fitting, entity: &mut Entity) {
    if !fitting.host().several_words || fitting.home {
        return;
    }
    let unnamed = |index: &Index| index.named_by == NamedBy::Framework;
    for at in 0..entity.indexes.len() {
        let index = &entity.indexes[at];
        let columns = index.plain_columns();
        let unique = entity
            .uniques
            .iter()
            .any(|unique| unique.named_by != NamedBy::Author && unique.columns == columns);
        let before = entity.indexes[..at]
            .iter()
            .any(|other| unnamed(other) && other.plain_columns() == columns);
        if columns.is_empty() || !unnamed(index) || !(unique || before) {
            continue;
        }
        let index = &mut entity.indexes[at];
        index.name = Some(sql::default_index_name(&entity.table, index));
        index.named_by = NamedBy::Author;
        let element = Element::of_index(index);
        fitting.because(entity, element, Aspect::Name, OfIndex::SecondIndexNeedsName);
    }
}

/// Indexes over the same columns cannot both have the framework's name for them.
fn listed_names(fitting: &mut Fitting, entity: &mut Entity) {
    let limit = fitting.conventions.identifier_limit();
    // Where all that is unique is an index, names say what kind they are of; else the server cuts
    // whatever is too long.
    let by_kind = fitting.conventions.indexes.unique_as_index;
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
        let made_by_server =
            fitting.conventions.server_indexes_references() && index.named_by == NamedBy::Server;
        if index.named_by == NamedBy::Author || made_by_server {
            continue;
        }
        let own = called(&index.columns, if index.unique && by_kind { "key" } else { "idx" });
        // A name that the server cuts is not known again by a framework that looks for what is
        // there already.
        let cut_by_server = !by_kind && !fitting.home && own.len() >= limit;
        if !taken.insert(own.clone()) || cut_by_server {
            // A number tells it from the table and from others that begin alike.
            let name = match cut_by_server {
                true => cut(
                    &format!("{}_{}", entity.table, index.columns.join("_")),
                    &format!("idx{}", at + 1),
                    limit,
                ),
                false => sql::default_index_name(&entity.table, index),
            };
            let free =
                if taken.contains(&name) { cut(&name, &(at + 1).to_string(), limit) } else { name };
            taken.insert(free.clone());
            named.push((at, free));
        }
    }
    let mut keys: Vec<(usize, String)> = Vec::new();
    let unnamed = entity
        .foreign_keys
        .iter()
        .enumerate()
        .filter(|(_, key)| key.name.is_none() && key.enforced == EnforcedBy::Database);
    for (at, key) in unnamed.filter(|_| fitting.capabilities.has(Feature::ConstraintName)) {
        let name = called(&key.columns, "fkey");
        if !taken.insert(name.clone()) {
            keys.push((at, cut(&name, &format!("fkey{}", at + 1), limit)));
        }
    }
    for (at, name) in named {
        let index = &mut entity.indexes[at];
        (index.name, index.named_by) = (Some(name), NamedBy::Author);
        let element = Element::of_index(index);
        fitting.because(entity, element, Aspect::Name, OfConstraint::SameNames);
    }
    for (at, name) in keys {
        let key = &mut entity.foreign_keys[at];
        key.name = Some(name);
        let element = Element::of_foreign_key(key);
        fitting.because(entity, element, Aspect::Name, OfConstraint::SameNames);
    }
}

/// A name with its ending, the name cut where both together would be too long.
fn cut(name: &str, ending: &str, limit: usize) -> String {
    let room = limit.saturating_sub(ending.len() + 1).min(name.len());
    format!("{}_{ending}", &name[..name.floor_char_boundary(room)])
}

/// Indexes get a name where the framework's own would be that of another one, or where it has none
/// for them.
fn index_names(fitting: &mut Fitting, entity: &mut Entity) {
    let mut taken: Vec<String> = Vec::new();
    for at in 0..entity.indexes.len() {
        let index = &entity.indexes[at];
        let made_by_server =
            fitting.conventions.server_indexes_references() && index.named_by == NamedBy::Server;
        if index.named_by == NamedBy::Author || made_by_server {
            continue;
        }
        // One column and nothing else is said at the column; its name comes first.
        let first = index
            .parts
            .first()
            .filter(|part| !part.descending)
            .and_then(|part| part.column.clone());
        let plain = index.plain_columns().len() == 1
            && !index.unique
            && index.parts.iter().all(crate::schema::IndexPart::is_plain);
        let clash = first.as_ref().is_none_or(|first| {
            taken.contains(first)
                || (!plain
                    && entity.indexes.iter().any(|other| {
                        other.plain_columns() == [first.clone()]
                            && other.named_by != NamedBy::Author
                    }))
        });
        if !clash {
            taken.extend(first);
            continue;
        }
        let index = &mut entity.indexes[at];
        index.name = Some(sql::default_index_name(&entity.table, index));
        index.named_by = NamedBy::Author;
        let element = Element::of_index(index);
        fitting.because(entity, element, Aspect::Name, OfConstraint::OwnNameNeeded);
    }
}

/// Django limits names of indexes to 30 characters (`Index.max_name_length`).
pub(super) fn given_name(table: &str, tail: &str) -> String {
    let head: String = table.chars().take(29 - tail.len()).collect();
    format!("{head}_{tail}")
}

/// What the target's conventions make besides: checks and rules of positive numbers, checks of JSON
/// columns, second indexes for patterns.
fn additions(fitting: &mut Fitting, entity: &mut Entity) {
    for at in 0..entity.fields.len() {
        let positive = is_positive(&fitting.conventions, entity, &entity.fields[at]);
        if positive && entity.fields[at].rules.first() != Some(&positive_rule()) {
            let rules = &mut entity.fields[at].rules;
            rules.retain(|rule| *rule != positive_rule());
            rules.insert(0, positive_rule());
            fitting.because_column(entity, at, Aspect::Rules, OfLayer::RefusesNegative);
        }
        let field = &entity.fields[at];
        let mut checks: Vec<Check> =
            positive.then(|| positive_check(&field.column)).into_iter().collect();
        checks.extend(json_check(field).filter(|_| fitting.conventions.checks.json));
        let class =
            pattern_class(&field.r#type).filter(|_| fitting.conventions.indexes.text_pattern);
        let own = std::slice::from_ref(&field.column);
        for check in checks {
            if !entity.checks.iter().any(|known| known.expression == check.expression) {
                fitting.because_element(
                    entity,
                    Element::of_check(&check),
                    OfConstraint::ChecksByItself,
                );
                entity.checks.push(check);
            }
        }
        let indexed = entity.key_columns() == own
            || entity.uniques.iter().any(|unique| {
                unique.columns == own
                    && unique.named_by != NamedBy::Author
                    && unique.deferrable.is_none()
            })
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
            let mut index = Index::over(
                own,
                Origin::implied("an indexed text gets a second index for patterns"),
            );
            index.parts[0].operator_class = Some(Cow::Borrowed(class));
            let element = Element::of_index(&index);
            if !entity.indexes.iter().any(|known| Element::of_index(known) == element) {
                entity.indexes.push(index);
                fitting.because_element(entity, element, OfIndex::PatternIndex);
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use crate::fit::tests::{Case, check};

    const CASES: &[Case] = &[
        (
            "sql postgresql > django postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, a integer CHECK (a > 0), CONSTRAINT deep \
             CHECK (a < 99));",
            &["t, check \"a\" > 0, name: nothing -> \"t_check1\" (added: a check must have a \
               name)"],
        ),
        (
            "sql postgresql > prisma postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, a integer, CONSTRAINT deep CHECK (a < 99));",
            &[
                "t, check \"a\" < 99, exists: true -> nothing (moved: Prisma makes no checks on \
                 this server)",
                "t, check \"a\" < 99, name: \"deep\" -> nothing (moved: Prisma makes no checks \
                 on this server)",
                "script: ALTER TABLE \"t\" ADD CONSTRAINT \"deep\" CHECK (\"a\" < 99);",
            ],
        ),
        (
            "sql postgresql > sequelize postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, a integer, CONSTRAINT deep CHECK (a < 99));",
            &[
                "t, check \"a\" < 99, exists: true -> nothing (moved: Sequelize makes no checks \
                 on this server)",
                "t, check \"a\" < 99, name: \"deep\" -> nothing (moved: Sequelize makes no \
                 checks on this server)",
                "script: ALTER TABLE \"t\" ADD CONSTRAINT \"deep\" CHECK (\"a\" < 99);",
            ],
        ),
        (
            "sql postgresql > typeorm mariadb",
            "CREATE TABLE t (id integer PRIMARY KEY, a integer, b integer); CREATE INDEX i ON t \
             (a) WHERE b > 1; CREATE INDEX j ON t (a) INCLUDE (b);",
            &[
                "t, index a, name: \"j\" -> \"i\" (respelled: MariaDB has no index with a \
                 condition)",
                "t, index a, include: [\"b\"] -> nothing (respelled: MariaDB has no index with \
                 a condition)",
                "t, index a where \"b\" > 1, exists: true -> nothing (respelled: MariaDB has no \
                 index with a condition)",
                "t, index a where \"b\" > 1, name: \"i\" -> nothing (respelled: MariaDB has no \
                 index with a condition)",
            ],
        ),
        (
            "sql postgresql > prisma sqlite",
            "CREATE TABLE t (id integer PRIMARY KEY, a integer, b text); CREATE INDEX i ON t \
             USING gin (b gin_trgm_ops); CREATE INDEX j ON t (lower(b));",
            &[
                "t, index b gin_trgm_ops, exists: true -> nothing (dropped: SQLite has no \
                 operator class of an index key)",
                "t, index b gin_trgm_ops, name: \"i\" -> nothing (dropped: SQLite has no \
                 operator class of an index key)",
                "t, index b gin_trgm_ops, method: \"gin\" -> nothing (dropped: SQLite has no \
                 operator class of an index key)",
                "t, index lower(\"b\"), exists: true -> nothing (moved: Prisma cannot say an \
                 index over an expression)",
                "t, index lower(\"b\"), name: \"j\" -> nothing (moved: Prisma cannot say an \
                 index over an expression)",
                "script: CREATE INDEX \"j\" ON \"t\" ((lower(\"b\")));",
            ],
        ),
        (
            "sql postgresql > django sqlite",
            "CREATE TABLE t (id integer PRIMARY KEY, a integer, b integer); CREATE UNIQUE INDEX \
             i ON t (a DESC, b) WHERE b IS NOT NULL;",
            &[],
        ),
        (
            "sql postgresql > typeorm postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, b text); CREATE INDEX j ON t USING hash (b);",
            &[],
        ),
        (
            "sql postgresql > typeorm@0.3 postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, a integer, b text); CREATE INDEX i ON t (a \
             DESC); CREATE INDEX j ON t USING hash (b);",
            &[
                "t, index a desc, exists: true -> nothing (moved: TypeORM cannot say a \
                 descending key of an index)",
                "t, index a desc, name: \"i\" -> nothing (moved: TypeORM cannot say a \
                 descending key of an index)",
                "t, index b, exists: true -> nothing (moved: TypeORM cannot say an access \
                 method of an index)",
                "t, index b, name: \"j\" -> nothing (moved: TypeORM cannot say an access method \
                 of an index)",
                "t, index b, method: \"hash\" -> nothing (moved: TypeORM cannot say an access \
                 method of an index)",
                "script: CREATE INDEX \"i\" ON \"t\" (\"a\" DESC);",
                "script: CREATE INDEX \"j\" ON \"t\" USING hash (\"b\");",
            ],
        ),
        (
            "sql postgresql > sqlalchemy postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, during tsrange, EXCLUDE USING gist (during \
             WITH &&));",
            &[
                "t, exclusion USING gist (during WITH &&), exists: true -> nothing (moved: an \
                 exclusion constraint is written as SQL)",
                "script: ALTER TABLE \"t\" ADD EXCLUDE USING gist (during WITH &&);",
            ],
        ),
        (
            "sql postgresql > prisma postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, during tsrange, EXCLUDE USING gist (during \
             WITH &&));",
            &[
                "t, exclusion USING gist (during WITH &&), exists: true -> nothing (moved: an \
                 exclusion constraint is written as SQL)",
                "script: ALTER TABLE \"t\" ADD EXCLUDE USING gist (during WITH &&);",
            ],
        ),
        (
            "sql postgresql > django postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, a integer); CREATE INDEX \
             a_very_long_name_of_an_index_that_some_take ON t (a);",
            &[
                "t, index a, exists: true -> nothing (moved: Django cannot say so long a name \
                 of an index)",
                "t, index a, name: \"a_very_long_name_of_an_index_that_some_take\" -> nothing \
                 (moved: Django cannot say so long a name of an index)",
                "script: CREATE INDEX \"a_very_long_name_of_an_index_that_some_take\" ON \"t\" \
                 (\"a\");",
            ],
        ),
        (
            "sql postgresql > django mariadb",
            "CREATE TABLE q (id integer PRIMARY KEY); CREATE TABLE t (id integer PRIMARY KEY, \
             q_id integer REFERENCES q (id));",
            &["t, index q_id, exists: nothing -> true (added: this server indexes the columns \
               of a reference)"],
        ),
        (
            "sql mariadb > django postgresql",
            "CREATE TABLE q (id integer PRIMARY KEY); CREATE TABLE t (id integer PRIMARY KEY, \
             q_id integer, FOREIGN KEY (q_id) REFERENCES q (id));",
            &[],
        ),
        (
            "sql mariadb > typeorm mariadb",
            "CREATE TABLE t (id integer PRIMARY KEY, a varchar(9), UNIQUE (a)); CREATE INDEX a \
             ON t (a);",
            &[],
        ),
        (
            "sql mariadb > django mariadb",
            "CREATE TABLE t (id integer PRIMARY KEY, a int unsigned, b json);",
            &[
                "t, column a, rules: nothing -> \
                 [{\"rule\":\"min_value\",\"value\":0,\"message\":null}] (added: Django \
                 refuses negative numbers of such a column by itself)",
                "t, check \"a\" >= 0, exists: nothing -> true (added: the framework checks such \
                 a column by itself)",
            ],
        ),
        (
            "django postgresql > sqlalchemy postgresql",
            "class T(models.Model):
    a = models.CharField(max_length=9, db_index=True)
    b = models.PositiveIntegerField()
",
            &["main_t, index a varchar_pattern_ops, name: nothing -> \"main_t_a_like\" (added: \
               such an index must have a name of its own)"],
        ),
        (
            "sqlalchemy postgresql > django postgresql",
            "class T(Base):
    __tablename__ = 't'
    id: Mapped[int] = mapped_column(primary_key=True)
    a: Mapped[str] = mapped_column(sa.String(9), index=True, unique=True)
    __table_args__ = (sa.CheckConstraint('id > 0'), sa.Index(None, 'a', 'id'))
",
            &[
                "t, check \"id\" > 0, name: nothing -> \"t_check1\" (added: a check must have a \
                 name)",
                "t, index a varchar_pattern_ops, exists: nothing -> true (added: an indexed \
                 text gets a second index for patterns)",
                "t, unique index a, exists: true -> nothing (respelled: Django makes unique \
                 constraints, not plain unique indexes)",
                "t, unique a, as: nothing -> \"constraint\" (respelled: Django makes unique \
                 constraints, not plain unique indexes)",
            ],
        ),
        (
            "sql postgresql > sequelize sqlite",
            "CREATE TABLE t (id integer PRIMARY KEY, a integer, b integer); CREATE INDEX ON t \
             (a, b); CREATE INDEX ON t (a, b) WHERE a > 1;",
            &["t, index a, b where \"a\" > 1, name: nothing -> \"t_a_b_idx\" (added: two that \
               the framework would call the same must have names of their own)"],
        ),
    ];

    #[test]
    fn what_the_pass_makes_of_tables() {
        check(super::fit, CASES);
    }
}
