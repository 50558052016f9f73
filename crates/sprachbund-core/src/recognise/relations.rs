//! Relations, from foreign keys; many-to-many relations, from tables that hold nothing but two of
//! them.

use std::collections::{HashMap, HashSet};

use super::Recognitions;
use crate::dialect::naming::{Case, plural};
use crate::schema::{EnforcedBy, Entity, Implied, Origin, Part, Relation, RelationKind, Schema};

pub(super) fn recognise(schema: &mut Schema, how: &Recognitions) {
    let places: HashMap<(Option<&str>, &str), usize> = schema
        .entities
        .iter()
        .enumerate()
        .map(|(at, entity)| ((entity.namespace.as_deref(), entity.table.as_str()), at))
        .collect();
    let mut found: Vec<Vec<Relation>> =
        schema.entities.iter().map(|entity| references(schema, &places, entity, how)).collect();
    let joins: Vec<usize> = if how.join_tables { join_tables(schema, &found) } else { Vec::new() };
    for (entity, relations) in schema.entities.iter_mut().zip(&found) {
        for relation in relations.iter().filter(|relation| relation.columns.len() == 1) {
            entity
                .fields
                .iter_mut()
                .filter(|field| field.column == relation.columns[0])
                .for_each(|field| field.name = None);
        }
    }
    for at in &joins {
        let many = many_to_many(schema, *at, &found[*at]);
        let owner = schema.entities.iter().position(|entity| entity.id == found[*at][0].target);
        let join = &mut schema.entities[*at];
        (join.join, join.mapped.code) = (true, false);
        join.fields.iter_mut().for_each(|field| field.name = None);
        for relation in &mut found[*at] {
            (relation.name, relation.inverse) = (None, None);
        }
        if let Some(owner) = owner {
            found[owner].push(many);
        }
    }
    for (entity, relations) in schema.entities.iter_mut().zip(found) {
        entity.relations = relations;
    }
    if how.inverses {
        inverses(schema);
    }
    unique_names(schema);
}

/// The relations over the foreign keys of a table whose target is there.
fn references(
    schema: &Schema,
    places: &HashMap<(Option<&str>, &str), usize>,
    entity: &Entity,
    how: &Recognitions,
) -> Vec<Relation> {
    let mut relations: Vec<Relation> = Vec::new();
    for key in entity.foreign_keys.iter().filter(|key| key.enforced == EnforcedBy::Database) {
        let place = (key.references.namespace.as_deref(), key.references.table.as_str());
        let Some(target) = places.get(&place).map(|at| &schema.entities[*at]) else { continue };
        if relations.iter().any(|known| known.columns == key.columns) {
            continue;
        }
        let one = how.one_to_one && entity.is_unique(&key.columns);
        let kind = if one { RelationKind::OneToOne } else { RelationKind::ManyToOne };
        let name = attribute(&key.columns, &key.references.columns, target);
        relations.push(relation(
            Some(name),
            kind,
            &target.id,
            key.columns.clone(),
            key.origin.clone(),
        ));
    }
    relations
}

fn relation(
    name: Option<String>,
    kind: RelationKind,
    target: &str,
    columns: Vec<String>,
    origin: Origin,
) -> Relation {
    let mut implied = Implied::default();
    implied.add(Part::Name);
    implied.add(Part::Relation);
    Relation { name, implied, ..Relation::over(kind, target, columns, origin) }
}

/// `harbour_id` is called `harbour`; columns that do not end in the key's name are called as they
/// are.
fn attribute(columns: &[String], referenced: &[String], target: &Entity) -> String {
    match (columns, referenced) {
        ([column], [key]) => {
            let snake = Case::Snake.apply(column);
            let endings = [format!("_{}", Case::Snake.apply(key)), "_id".to_owned()];
            let stem = endings
                .iter()
                .find_map(|ending| snake.strip_suffix(ending.as_str()))
                .filter(|stem| !stem.is_empty());
            stem.map_or(snake.clone(), str::to_owned)
        }
        _ => Case::Snake.apply(&target.name),
    }
}

/// Tables of exactly two references (and a numbered key), each pair once, which nobody refers to.
fn join_tables(schema: &Schema, found: &[Vec<Relation>]) -> Vec<usize> {
    let referred: HashSet<&str> = schema
        .entities
        .iter()
        .flat_map(|entity| &entity.foreign_keys)
        .map(|key| key.references.table.as_str())
        .collect();
    let is_join = |(at, entity): &(usize, &Entity)| {
        let [first, second] = found[*at].as_slice() else { return false };
        let ([left], [right]) = (first.columns.as_slice(), second.columns.as_slice()) else {
            return false;
        };
        let pair = [left.clone(), right.clone()];
        let others: Vec<_> =
            entity.fields.iter().filter(|field| !pair.contains(&field.column)).collect();
        let only_key = others.iter().all(|field| {
            field.identity.is_some() && entity.key_columns() == [field.column.clone()]
        });
        only_key
            && others.len() < 2
            && entity.is_unique(&pair)
            && !referred.contains(entity.table.as_str())
    };
    schema.entities.iter().enumerate().filter(is_join).map(|(at, _)| at).collect()
}

fn many_to_many(schema: &Schema, join: usize, pair: &[Relation]) -> Relation {
    let entity = &schema.entities[join];
    let own = |relation: &Relation| relation.name.clone().unwrap_or_default();
    let mut many = relation(
        Some(plural(&own(&pair[1]))),
        RelationKind::ManyToMany,
        &pair[1].target,
        Vec::new(),
        entity.origin.clone(),
    );
    many.through = Some(entity.id.clone());
    many
}

/// The other side is called after the class that refers; where it refers more than once, after the
/// attribute too.
fn inverses(schema: &mut Schema) {
    for at in 0..schema.entities.len() {
        if schema.entities[at].join {
            continue;
        }
        let own = Case::Snake.apply(&schema.entities[at].name);
        let own_id = schema.entities[at].id.clone();
        for number in 0..schema.entities[at].relations.len() {
            let relation = &schema.entities[at].relations[number];
            let word =
                if relation.kind == RelationKind::OneToOne { own.clone() } else { plural(&own) };
            let same = |other: &&Relation| other.target == relation.target;
            let several = schema.entities[at].relations.iter().filter(same).count() > 1
                || relation.target == own_id;
            let name = match (&relation.name, several) {
                (Some(attribute), true) => format!("{attribute}_{word}"),
                _ => word,
            };
            schema.entities[at].relations[number].inverse = Some(name);
        }
    }
}

/// No attribute of a class is there twice: a relation gives way to columns, an inverse side to
/// both.
fn unique_names(schema: &mut Schema) {
    let mut taken: Vec<HashSet<String>> = schema
        .entities
        .iter()
        .map(|entity| entity.fields.iter().filter_map(|field| field.name.clone()).collect())
        .collect();
    let places: HashMap<String, usize> =
        schema.entities.iter().enumerate().map(|(at, entity)| (entity.id.clone(), at)).collect();
    let free = |used: &mut HashSet<String>, name: &str, tail: &str| {
        let mut unique = name.to_owned();
        let mut count = 2;
        while !used.insert(unique.clone()) {
            unique =
                if count == 2 { format!("{name}_{tail}") } else { format!("{name}_{tail}{count}") };
            count += 1;
        }
        unique
    };
    for (entity, used) in schema.entities.iter_mut().zip(&mut taken) {
        for relation in &mut entity.relations {
            relation.name = relation.name.as_ref().map(|name| free(used, name, "record"));
        }
    }
    for at in 0..schema.entities.len() {
        for number in 0..schema.entities[at].relations.len() {
            let target = places.get(&schema.entities[at].relations[number].target).copied();
            let relation = &mut schema.entities[at].relations[number];
            if let (Some(target), Some(name)) = (target, relation.inverse.take()) {
                relation.inverse = Some(free(&mut taken[target], &name, "records"));
            }
        }
    }
}
