//! Join tables: those whose shape the target's plain many-to-many would not make get a class of
//! their own.

use std::collections::HashSet;

use super::Fitting;
use super::causes::joins::OfJoin;
use super::report::Touched;
use crate::dialect::conventions::JoinKey;
use crate::dialect::grammar::{ColumnPlace, JoinNames, JoinTablePlace, ReferencePlace};
use crate::dialect::naming::{Case, NamePattern, plural};
use crate::dialect::{Conventions, Feature};
use crate::schema::facts::{Aspect, Element, FactKey, relation_element};
use crate::schema::{EnforcedBy, Entity, Index, NamedBy, Part, Relation, RelationKind};
use crate::server::is_index_of_reference;

/// Fits every many-to-many.
pub(super) fn fit(fitting: &mut Fitting) {
    words_of_relations(fitting);
    without_keys(fitting);
    if fitting.conventions.grammar.join_table == JoinTablePlace::Table {
        return owners(fitting);
    }
    let through: Vec<(usize, usize)> = positions(&fitting.schema.entities);
    let mut gone: Vec<(usize, usize)> = Vec::new();
    for (owner, at) in through {
        let relation = fitting.schema.entities[owner].relations[at].clone();
        let Some(join) = relation
            .through
            .as_deref()
            .and_then(|id| fitting.schema.entities.iter().position(|entity| entity.id == id))
        else {
            continue;
        };
        let plain = !fitting.schema.entities[join].mapped.code
            && is_plain(fitting, owner, &relation, &fitting.schema.entities[join]);
        if plain {
            continue;
        }
        if !fitting.schema.entities[join].mapped.code {
            give_class(fitting, join);
        }
        // A class for the join table replaces the shortcut where it cannot be told to use it.
        if !fitting.conventions.limits.joins_by_class {
            because_relation(fitting, owner, &relation, OfJoin::OwnShapeOnly);
            gone.push((owner, at));
        } else if fitting.capabilities.has(Feature::ThroughFields) {
            fields_of_through(fitting, owner, at, join);
        }
    }
    for (owner, at) in gone.into_iter().rev() {
        fitting.schema.entities[owner].relations.remove(at);
    }
    let joined: HashSet<String> = fitting
        .schema
        .entities
        .iter()
        .flat_map(|entity| &entity.relations)
        .filter_map(|relation| relation.through.clone())
        .collect();
    for at in 0..fitting.schema.entities.len() {
        let entity = &fitting.schema.entities[at];
        if !entity.mapped.code && !joined.contains(&entity.id) {
            give_class(fitting, at);
        }
    }
}

/// Leaves a cause on all that is said of a relation.
fn because_relation(fitting: &mut Fitting, owner: usize, relation: &Relation, cause: OfJoin) {
    let element = relation_element(&fitting.schema, relation);
    let table = fitting.keys.key(&fitting.schema.entities[owner]);
    fitting.causes.note(Touched::Element(table, element), cause);
}

/// What only some frameworks say of a many-to-many: that it goes both ways at once, and which
/// references it follows.
fn words_of_relations(fitting: &mut Fitting) {
    let (symmetry, named) = (
        fitting.capabilities.has(Feature::SymmetricalRelation),
        fitting.capabilities.has(Feature::ThroughFields),
    );
    for (owner, at) in positions(&fitting.schema.entities) {
        let element =
            relation_element(&fitting.schema, &fitting.schema.entities[owner].relations[at]);
        let table = fitting.keys.key(&fitting.schema.entities[owner]);
        let fact = |aspect: Aspect| FactKey::new(&table, element.clone(), aspect);
        let relation = &mut fitting.schema.entities[owner].relations[at];
        if !symmetry && std::mem::take(&mut relation.symmetrical) {
            fitting.causes.note(fact(Aspect::Symmetrical), OfJoin::NoSymmetry);
        }
        if !named && !std::mem::take(&mut relation.through_fields).is_empty() {
            fitting.causes.note(fact(Aspect::ThroughFields), OfJoin::NoNamedReferences);
        }
    }
}

/// A class of a join table that refers to neither side joins nothing; where relations stand on
/// foreign keys, it must have those.
fn without_keys(fitting: &mut Fitting) {
    if fitting.home {
        return;
    }
    let kept_keys = fitting.conventions.grammar.reference == ReferencePlace::Column;
    for (owner, at) in positions(&fitting.schema.entities).into_iter().rev() {
        let entities = &fitting.schema.entities;
        let relation = &entities[owner].relations[at];
        let Some(join) = relation
            .through
            .as_deref()
            .and_then(|id| entities.iter().find(|entity| entity.id == id))
        else {
            continue;
        };
        let kept = join
            .foreign_keys
            .iter()
            .filter(|key| !kept_keys || key.enforced == EnforcedBy::Database);
        let reached: Vec<String> = kept.map(|key| key.references.address()).collect();
        let target = entities.iter().find(|entity| entity.id == relation.target);
        let sides = [Some(&entities[owner]), target].into_iter().flatten();
        if sides.map(Entity::address).all(|side| reached.contains(&side)) {
            continue;
        }
        let relation = relation.clone();
        because_relation(fitting, owner, &relation, OfJoin::WithoutReferences);
        fitting.schema.entities[owner].relations.remove(at);
    }
}

/// Where join tables are declared by themselves, a many-to-many that both sides know belongs to the
/// side to which the join table refers first.
fn owners(fitting: &mut Fitting) {
    for (owner, at) in positions(&fitting.schema.entities).into_iter().rev() {
        let entities = &fitting.schema.entities;
        let relation = entities[owner].relations[at].clone();
        let Some(inverse) = relation.inverse.clone() else { continue };
        let join = relation
            .through
            .as_deref()
            .and_then(|id| entities.iter().find(|entity| entity.id == id));
        let first =
            join.and_then(|join| join.foreign_keys.first()).map(|key| key.references.address());
        let target = entities.iter().position(|entity| entity.id == relation.target);
        let Some(target) =
            target.filter(|target| *target != owner && first == Some(entities[*target].address()))
        else {
            continue;
        };
        if first == Some(entities[owner].address()) {
            continue;
        }
        [owner, target]
            .into_iter()
            .for_each(|side| because_relation(fitting, side, &relation, OfJoin::NobodyOwns));
        let turned = Relation {
            inverse: relation.name,
            name: Some(inverse),
            target: fitting.schema.entities[owner].id.clone(),
            ..relation
        };
        fitting.schema.entities[owner].relations.remove(at);
        fitting.schema.entities[target].relations.push(turned);
    }
}

fn positions(entities: &[Entity]) -> Vec<(usize, usize)> {
    let of_entity = |(owner, entity): (usize, &Entity)| {
        let many = entity
            .relations
            .iter()
            .enumerate()
            .filter(|(_, relation)| relation.kind == RelationKind::ManyToMany);
        many.map(|(at, _)| (owner, at)).collect::<Vec<_>>()
    };
    entities.iter().enumerate().flat_map(of_entity).collect()
}

/// Whether the target's own many-to-many makes exactly this table.
fn is_plain(fitting: &Fitting, owner: usize, relation: &Relation, join: &Entity) -> bool {
    let conventions = &fitting.conventions;
    let references: Vec<&String> = join.foreign_keys.iter().flat_map(|key| &key.columns).collect();
    let key_fits = match conventions.joins.key {
        JoinKey::Pair => {
            join.fields.len() == references.len()
                && join.key_columns().len() == references.len()
                && join.uniques.is_empty()
        }
        JoinKey::None => {
            join.fields.len() == references.len()
                && join.primary_key.is_none()
                && join.uniques.len() == 1
        }
        JoinKey::OwnColumn(name) => {
            let identity = join
                .field(name)
                .is_some_and(|field| field.identity == Some(conventions.keys.generated));
            join.key_columns() == [name]
                && identity
                && join.uniques.len() == 1
                && join.fields.len() == references.len() + 1
        }
    };
    let other = if relation.inverse.is_some() {
        conventions.joins.inverse_actions
    } else {
        conventions.joins.actions
    };
    let wanted = [conventions.joins.actions, other]
        .map(|(on_delete, on_update)| (on_delete, on_update, conventions.references.deferrable));
    let actions_fit = join
        .foreign_keys
        .iter()
        .zip(wanted)
        .all(|(key, wanted)| (key.on_delete, key.on_update, key.deferrable) == wanted);
    key_fits
        && actions_fit
        && join.foreign_keys.len() == 2
        && join.checks.is_empty()
        && join.indexes.iter().all(|index| is_silent_index(conventions, join, index))
        && (conventions.limits.join_names == JoinNames::TableAndColumns
            || has_silent_columns(fitting, join))
        && (conventions.limits.join_names != JoinNames::Nothing
            || is_named_plainly(&fitting.schema.entities[owner], relation, join))
}

/// Whether a join table has the name that a relation gives it, and the order in which the two sides
/// stand in it.
fn is_named_plainly(owner: &Entity, relation: &Relation, join: &Entity) -> bool {
    let sides = (owner.name.as_str(), short(&relation.target));
    let in_order = match sides.0 == sides.1 {
        true => relation.name <= relation.inverse,
        false => sides.0 < sides.1,
    };
    let referring: Vec<&String> = join.foreign_keys.iter().flat_map(|key| &key.columns).collect();
    let owner_first = join.relations.first().is_some_and(|first| first.target == owner.id);
    in_order
        && owner_first
        && join.namespace == owner.namespace
        && join.table.len() > 1
        && join.table.starts_with('_')
        && told_apart_by(join).iter().eq(referring)
}

/// The columns that tell the rows of a join table apart.
fn told_apart_by(join: &Entity) -> &[String] {
    match (&join.primary_key, join.uniques.first()) {
        (None, Some(unique)) => &unique.columns,
        _ => join.key_columns(),
    }
}

/// Whether the target indexes these columns of a join table by itself.
fn is_silent_index(conventions: &Conventions, join: &Entity, index: &Index) -> bool {
    let over_reference =
        index.parts.iter().all(|part| part.expression.is_none() && !part.descending)
            && !index.unique
            && index.condition.is_none()
            && index.named_by != NamedBy::Author
            && join.foreign_keys.iter().any(|key| key.columns == index.columns);
    let for_patterns = index.parts.iter().any(|part| part.operator_class.is_some());
    over_reference
        && match (conventions.leaves_indexes_to_server(), for_patterns) {
            (true, _) => is_index_of_reference(join, index),
            (false, true) => conventions.indexes.text_pattern,
            (false, false) => {
                let place = join.foreign_keys.iter().position(|key| key.columns == index.columns);
                place.is_some_and(|place| conventions.joins.indexed.is_indexed(place))
            }
        }
}

/// Whether the columns have the names that the target gives them, where it takes no others.
fn has_silent_columns(fitting: &Fitting, join: &Entity) -> bool {
    let conventions = &fitting.conventions;
    let sides: Vec<&Entity> = join
        .relations
        .iter()
        .filter_map(|relation| fitting.schema.entity(&relation.target))
        .collect();
    let [left, right] = sides.as_slice() else { return false };
    let ordinary = |side: &Entity| {
        let column = side.key_columns().first().map_or("", String::as_str);
        conventions.joins.column.apply(&[
            ("name", &side.name),
            ("table", &side.table),
            ("column", column),
        ])
    };
    let apart = |pattern: &NamePattern, side: &Entity| {
        pattern.apply(&[("name", &side.name), ("ordinary", &ordinary(side))])
    };
    let (from, to) = &conventions.joins.column_to_self;
    let wanted = if ordinary(left) == ordinary(right) {
        [apart(from, left), apart(to, right)]
    } else {
        [ordinary(left), ordinary(right)]
    };
    join.relations
        .iter()
        .zip(&wanted)
        .all(|(relation, column)| relation.columns == std::slice::from_ref(column))
}

fn give_class(fitting: &mut Fitting, at: usize) {
    let targets: Vec<String> = fitting.schema.entities[at]
        .relations
        .iter()
        .map(|relation| short(&relation.target).to_owned())
        .collect();
    let place = fitting.conventions.grammar.reference;
    // Where columns live in steps, they are attributes by their own names.
    let by_column = fitting.conventions.grammar.columns == ColumnPlace::History;
    let dialect = fitting.dialect;
    let columns = fitting.schema.entities[at].fields.iter().map(|field| field.column.clone());
    let mut taken: HashSet<String> = columns.filter(|_| by_column).collect();
    let mut taken_there: Vec<HashSet<String>> = targets_of(&fitting.schema.entities, at);
    let case = fitting.language.attribute_case;
    let join = &mut fitting.schema.entities[at];
    join.mapped.code = true;
    let own = case.apply(&plural(&join.name));
    let mut facts = vec![(Element::Table, Aspect::HasClass), (Element::Table, Aspect::Class)];
    let to_itself = targets.first() == targets.get(1);
    for (index, (relation, target)) in join.relations.iter_mut().zip(&targets).enumerate() {
        let attribute = match (to_itself, index) {
            (true, 0) => format!("from_{}", Case::Snake.apply(target)),
            (true, _) => format!("to_{}", Case::Snake.apply(target)),
            (false, _) => target.clone(),
        };
        let element = Element::Relation(relation.columns.clone());
        let inverse =
            if to_itself { case.apply(&format!("{own}_{attribute}")) } else { own.clone() };
        let there = &mut taken_there[index];
        relation.name = Some(super::names::member(dialect, &attribute, &mut taken));
        relation.inverse = Some(super::names::member(dialect, &inverse, there));
        relation.implied = [Part::Relation].into_iter().collect();
        facts.extend([Aspect::Attribute, Aspect::Inverse].map(|aspect| (element.clone(), aspect)));
    }
    let key = join.key_columns().to_vec();
    let of_relation =
        |column: &String| join.relations.iter().any(|relation| relation.columns.contains(column));
    // A relation carries its column, but for the parts of a key where columns have a declaration of
    // their own.
    let carried: Vec<String> = join
        .fields
        .iter()
        .map(|field| field.column.clone())
        .filter(|column| match place {
            _ if by_column => false,
            ReferencePlace::ListedColumns => false,
            ReferencePlace::Relation => of_relation(column),
            ReferencePlace::JoinColumns | ReferencePlace::Column | ReferencePlace::Path => {
                of_relation(column) && !key.contains(column)
            }
        })
        .collect();
    for field in join.fields.iter_mut().filter(|field| !carried.contains(&field.column)) {
        field.name = Some(match by_column {
            true => field.column.clone(),
            false => super::names::member(dialect, &field.column, &mut taken),
        });
        facts.push((Element::of_field(field), Aspect::Attribute));
    }
    let (key, table) = (fitting.keys.key(join), join.table.clone());
    let facts =
        facts.into_iter().map(|(element, aspect)| FactKey::new(&key, element, aspect).into());
    fitting.causes.note_all(facts, OfJoin::HasClass(table));
}

/// The names that are taken in each of the classes that a join table refers to.
fn targets_of(entities: &[Entity], join: usize) -> Vec<HashSet<String>> {
    let names = |target: &String| {
        let own = entities.iter().find(|entity| entity.id == *target);
        let of_own = own.into_iter().flat_map(|entity| {
            let relations = entity.relations.iter().filter_map(|relation| relation.name.clone());
            entity.fields.iter().filter_map(|field| field.name.clone()).chain(relations)
        });
        let leading = entities
            .iter()
            .flat_map(|entity| &entity.relations)
            .filter(|relation| relation.target == *target);
        of_own.chain(leading.filter_map(|relation| relation.inverse.clone())).collect()
    };
    entities[join].relations.iter().map(|relation| names(&relation.target)).collect()
}

/// A join table to itself must be told which reference leads where.
fn fields_of_through(fitting: &mut Fitting, owner: usize, at: usize, join: usize) {
    let names: Vec<String> = fitting.schema.entities[join]
        .relations
        .iter()
        .filter_map(|relation| relation.name.clone())
        .collect();
    let owner_entity = &fitting.schema.entities[owner];
    let relation: &Relation = &owner_entity.relations[at];
    if relation.target == owner_entity.id && names.len() >= 2 && relation.through_fields.is_empty()
    {
        let element = relation_element(&fitting.schema, relation);
        let fact = FactKey::new(&fitting.keys.key(owner_entity), element, Aspect::ThroughFields);
        fitting.causes.note(fact, OfJoin::ReferencesNamed);
        fitting.schema.entities[owner].relations[at].through_fields = names[..2].to_vec();
    }
}

fn short(id: &str) -> &str {
    id.rsplit_once('.').map_or(id, |(_, name)| name)
}

#[cfg(test)]
mod tests {
    use crate::fit::tests::{Case, check};

    const CASES: &[Case] = &[
        (
            "sql postgresql > django postgresql",
            "CREATE TABLE a (id integer PRIMARY KEY); CREATE TABLE b (id integer PRIMARY KEY); \
             CREATE TABLE a_b (a_id integer NOT NULL REFERENCES a (id), b_id integer NOT NULL \
             REFERENCES b (id), PRIMARY KEY (a_id, b_id));",
            &[
                "a_b, has a class: nothing -> true (added: the join table `a_b` has a shape \
                 that Django would not give it)",
                "a_b, class: nothing -> \"AB\" (added: the join table `a_b` has a shape that \
                 Django would not give it)",
                "a_b, relation a_id, attribute: nothing -> \"a\" (added: the join table `a_b` \
                 has a shape that Django would not give it)",
                "a_b, relation a_id, inverse: nothing -> \"a_bs\" (added: the join table `a_b` \
                 has a shape that Django would not give it)",
                "a_b, relation b_id, attribute: nothing -> \"b\" (added: the join table `a_b` \
                 has a shape that Django would not give it)",
                "a_b, relation b_id, inverse: nothing -> \"a_bs\" (added: the join table `a_b` \
                 has a shape that Django would not give it)",
            ],
        ),
        (
            "sql postgresql > typeorm postgresql",
            "CREATE TABLE a (id integer PRIMARY KEY); CREATE TABLE b (id integer PRIMARY KEY); \
             CREATE TABLE a_b (a_id integer NOT NULL REFERENCES a (id), b_id integer NOT NULL \
             REFERENCES b (id), PRIMARY KEY (a_id, b_id));",
            &[
                "a_b, has a class: nothing -> true (added: the join table `a_b` has a shape \
                 that TypeORM would not give it)",
                "a_b, class: nothing -> \"AB\" (added: the join table `a_b` has a shape that \
                 TypeORM would not give it)",
                "a_b, column a_id, attribute: nothing -> \"aId\" (added: the join table `a_b` \
                 has a shape that TypeORM would not give it)",
                "a_b, column b_id, attribute: nothing -> \"bId\" (added: the join table `a_b` \
                 has a shape that TypeORM would not give it)",
                "a_b, relation a_id, attribute: nothing -> \"a\" (added: the join table `a_b` \
                 has a shape that TypeORM would not give it)",
                "a_b, relation a_id, inverse: nothing -> \"aBs\" (added: the join table `a_b` \
                 has a shape that TypeORM would not give it)",
                "a_b, relation b_id, attribute: nothing -> \"b\" (added: the join table `a_b` \
                 has a shape that TypeORM would not give it)",
                "a_b, relation b_id, inverse: nothing -> \"aBs\" (added: the join table `a_b` \
                 has a shape that TypeORM would not give it)",
                "a, relation through a_b, kind: \"many-to-many\" -> nothing (respelled: TypeORM \
                 joins two tables only by a join table of its own shape)",
                "a, relation through a_b, attribute: \"bs\" -> nothing (respelled: TypeORM \
                 joins two tables only by a join table of its own shape)",
                "a, relation through a_b, target: \"b\" -> nothing (respelled: TypeORM joins \
                 two tables only by a join table of its own shape)",
                "a, relation through a_b, inverse: \"as\" -> nothing (respelled: TypeORM joins \
                 two tables only by a join table of its own shape)",
            ],
        ),
        (
            "sql postgresql > prisma postgresql",
            "CREATE TABLE a (id integer PRIMARY KEY); CREATE TABLE b (id integer PRIMARY KEY); \
             CREATE TABLE a_b (a_id integer NOT NULL REFERENCES a (id), b_id integer NOT NULL \
             REFERENCES b (id), PRIMARY KEY (a_id, b_id));",
            &[
                "a_b, has a class: nothing -> true (added: the join table `a_b` has a shape \
                 that Prisma would not give it)",
                "a_b, class: nothing -> \"AB\" (added: the join table `a_b` has a shape that \
                 Prisma would not give it)",
                "a_b, column a_id, attribute: nothing -> \"aId\" (added: the join table `a_b` \
                 has a shape that Prisma would not give it)",
                "a_b, column b_id, attribute: nothing -> \"bId\" (added: the join table `a_b` \
                 has a shape that Prisma would not give it)",
                "a_b, relation a_id, attribute: nothing -> \"a\" (added: the join table `a_b` \
                 has a shape that Prisma would not give it)",
                "a_b, relation a_id, inverse: nothing -> \"aBs\" (added: the join table `a_b` \
                 has a shape that Prisma would not give it)",
                "a_b, relation b_id, attribute: nothing -> \"b\" (added: the join table `a_b` \
                 has a shape that Prisma would not give it)",
                "a_b, relation b_id, inverse: nothing -> \"aBs\" (added: the join table `a_b` \
                 has a shape that Prisma would not give it)",
                "a, relation through a_b, kind: \"many-to-many\" -> nothing (respelled: Prisma \
                 joins two tables only by a join table of its own shape)",
                "a, relation through a_b, attribute: \"bs\" -> nothing (respelled: Prisma joins \
                 two tables only by a join table of its own shape)",
                "a, relation through a_b, target: \"b\" -> nothing (respelled: Prisma joins two \
                 tables only by a join table of its own shape)",
                "a, relation through a_b, inverse: \"as\" -> nothing (respelled: Prisma joins \
                 two tables only by a join table of its own shape)",
            ],
        ),
        (
            "sql postgresql > sequelize postgresql",
            "CREATE TABLE a (id integer PRIMARY KEY); CREATE TABLE b (id integer PRIMARY KEY); \
             CREATE TABLE a_b (a_id integer NOT NULL REFERENCES a (id), b_id integer NOT NULL \
             REFERENCES b (id), PRIMARY KEY (a_id, b_id));",
            &[
                "a_b, has a class: nothing -> true (added: the join table `a_b` has a shape \
                 that Sequelize would not give it)",
                "a_b, class: nothing -> \"AB\" (added: the join table `a_b` has a shape that \
                 Sequelize would not give it)",
                "a_b, column a_id, attribute: nothing -> \"aId\" (added: the join table `a_b` \
                 has a shape that Sequelize would not give it)",
                "a_b, column b_id, attribute: nothing -> \"bId\" (added: the join table `a_b` \
                 has a shape that Sequelize would not give it)",
                "a_b, relation a_id, attribute: nothing -> \"a\" (added: the join table `a_b` \
                 has a shape that Sequelize would not give it)",
                "a_b, relation a_id, inverse: nothing -> \"aBs\" (added: the join table `a_b` \
                 has a shape that Sequelize would not give it)",
                "a_b, relation b_id, attribute: nothing -> \"b\" (added: the join table `a_b` \
                 has a shape that Sequelize would not give it)",
                "a_b, relation b_id, inverse: nothing -> \"aBs\" (added: the join table `a_b` \
                 has a shape that Sequelize would not give it)",
            ],
        ),
        (
            "django postgresql > typeorm postgresql",
            "class A(models.Model):
    bs = models.ManyToManyField('B', related_name='as_of')
class B(models.Model):
    pass
",
            &[
                "main_a_bs, has a class: nothing -> true (added: the join table `main_a_bs` has \
                 a shape that TypeORM would not give it)",
                "main_a_bs, class: nothing -> \"ABs\" (added: the join table `main_a_bs` has a \
                 shape that TypeORM would not give it)",
                "main_a_bs, column id, attribute: nothing -> \"id\" (added: the join table \
                 `main_a_bs` has a shape that TypeORM would not give it)",
                "main_a_bs, relation a_id, attribute: nothing -> \"a\" (added: the join table \
                 `main_a_bs` has a shape that TypeORM would not give it)",
                "main_a_bs, relation a_id, inverse: nothing -> \"aBses\" (added: the join table \
                 `main_a_bs` has a shape that TypeORM would not give it)",
                "main_a_bs, relation b_id, attribute: nothing -> \"b\" (added: the join table \
                 `main_a_bs` has a shape that TypeORM would not give it)",
                "main_a_bs, relation b_id, inverse: nothing -> \"aBses\" (added: the join table \
                 `main_a_bs` has a shape that TypeORM would not give it)",
                "main_a, relation through main_a_bs, kind: \"many-to-many\" -> nothing \
                 (respelled: TypeORM joins two tables only by a join table of its own shape)",
                "main_a, relation through main_a_bs, attribute: \"bs\" -> nothing (respelled: \
                 TypeORM joins two tables only by a join table of its own shape)",
                "main_a, relation through main_a_bs, target: \"main_b\" -> nothing (respelled: \
                 TypeORM joins two tables only by a join table of its own shape)",
                "main_a, relation through main_a_bs, inverse: \"as_of\" -> nothing (respelled: \
                 TypeORM joins two tables only by a join table of its own shape)",
            ],
        ),
        (
            "django postgresql > sqlalchemy postgresql",
            "class A(models.Model):
    bs = models.ManyToManyField('B', db_table='joined')
class B(models.Model):
    pass
",
            &[],
        ),
        (
            "django postgresql > prisma postgresql",
            "class A(models.Model):
    bs = models.ManyToManyField('B')
class B(models.Model):
    pass
",
            &[
                "main_a_bs, has a class: nothing -> true (added: the join table `main_a_bs` has \
                 a shape that Prisma would not give it)",
                "main_a_bs, class: nothing -> \"ABs\" (added: the join table `main_a_bs` has a \
                 shape that Prisma would not give it)",
                "main_a_bs, column a_id, attribute: nothing -> \"aId\" (added: the join table \
                 `main_a_bs` has a shape that Prisma would not give it)",
                "main_a_bs, column b_id, attribute: nothing -> \"bId\" (added: the join table \
                 `main_a_bs` has a shape that Prisma would not give it)",
                "main_a_bs, column id, attribute: nothing -> \"id\" (added: the join table \
                 `main_a_bs` has a shape that Prisma would not give it)",
                "main_a_bs, relation a_id, attribute: nothing -> \"a\" (added: the join table \
                 `main_a_bs` has a shape that Prisma would not give it)",
                "main_a_bs, relation a_id, inverse: nothing -> \"aBses\" (added: the join table \
                 `main_a_bs` has a shape that Prisma would not give it)",
                "main_a_bs, relation b_id, attribute: nothing -> \"b\" (added: the join table \
                 `main_a_bs` has a shape that Prisma would not give it)",
                "main_a_bs, relation b_id, inverse: nothing -> \"aBses\" (added: the join table \
                 `main_a_bs` has a shape that Prisma would not give it)",
                "main_a, relation through main_a_bs, kind: \"many-to-many\" -> nothing \
                 (respelled: Prisma joins two tables only by a join table of its own shape)",
                "main_a, relation through main_a_bs, attribute: \"bs\" -> nothing (respelled: \
                 Prisma joins two tables only by a join table of its own shape)",
                "main_a, relation through main_a_bs, target: \"main_b\" -> nothing (respelled: \
                 Prisma joins two tables only by a join table of its own shape)",
                "main_a, relation through main_a_bs, inverse: \"a_set\" -> nothing (respelled: \
                 Prisma joins two tables only by a join table of its own shape)",
            ],
        ),
        (
            "django postgresql > typeorm postgresql",
            "class A(models.Model):\n    near = models.ManyToManyField('self')\n",
            &[
                "main_a, relation through main_a_near, symmetrical: true -> nothing (dropped: \
                 TypeORM has no relation that goes both ways at once)",
                "main_a_near, has a class: nothing -> true (added: the join table `main_a_near` \
                 has a shape that TypeORM would not give it)",
                "main_a_near, class: nothing -> \"ANear\" (added: the join table `main_a_near` \
                 has a shape that TypeORM would not give it)",
                "main_a_near, column id, attribute: nothing -> \"id\" (added: the join table \
                 `main_a_near` has a shape that TypeORM would not give it)",
                "main_a_near, relation from_a_id, attribute: nothing -> \"fromA\" (added: the \
                 join table `main_a_near` has a shape that TypeORM would not give it)",
                "main_a_near, relation from_a_id, inverse: nothing -> \"aNearsFromA\" (added: \
                 the join table `main_a_near` has a shape that TypeORM would not give it)",
                "main_a_near, relation to_a_id, attribute: nothing -> \"toA\" (added: the join \
                 table `main_a_near` has a shape that TypeORM would not give it)",
                "main_a_near, relation to_a_id, inverse: nothing -> \"aNearsToA\" (added: the \
                 join table `main_a_near` has a shape that TypeORM would not give it)",
                "main_a, relation through main_a_near, kind: \"many-to-many\" -> nothing \
                 (respelled: TypeORM joins two tables only by a join table of its own shape)",
                "main_a, relation through main_a_near, attribute: \"near\" -> nothing \
                 (respelled: TypeORM joins two tables only by a join table of its own shape)",
                "main_a, relation through main_a_near, target: \"main_a\" -> nothing \
                 (respelled: TypeORM joins two tables only by a join table of its own shape)",
            ],
        ),
        (
            "django postgresql > sequelize postgresql",
            "class A(models.Model):
    bs = models.ManyToManyField('B', through='AB', through_fields=('a', 'b'))
class B(models.Model):
    pass
class AB(models.Model):
    a = models.ForeignKey(A, models.CASCADE)
    b = models.ForeignKey(B, models.CASCADE)
    share = models.IntegerField()
",
            &["main_a, relation through main_ab, through_fields: [\"a\",\"b\"] -> nothing \
               (respelled: Sequelize does not name the references of a join table)"],
        ),
        (
            "django postgresql > typeorm postgresql",
            "class A(models.Model):
    bs = models.ManyToManyField('B', through='AB', through_fields=('a', 'b'))
class B(models.Model):
    pass
class AB(models.Model):
    a = models.ForeignKey(A, models.CASCADE)
    b = models.ForeignKey(B, models.CASCADE)
    share = models.IntegerField()
",
            &[
                "main_a, relation through main_ab, kind: \"many-to-many\" -> nothing \
                 (respelled: TypeORM joins two tables only by a join table of its own shape)",
                "main_a, relation through main_ab, attribute: \"bs\" -> nothing (respelled: \
                 TypeORM joins two tables only by a join table of its own shape)",
                "main_a, relation through main_ab, target: \"main_b\" -> nothing (respelled: \
                 TypeORM joins two tables only by a join table of its own shape)",
                "main_a, relation through main_ab, inverse: \"a_set\" -> nothing (respelled: \
                 TypeORM joins two tables only by a join table of its own shape)",
                "main_a, relation through main_ab, through_fields: [\"a\",\"b\"] -> nothing \
                 (respelled: TypeORM joins two tables only by a join table of its own shape)",
            ],
        ),
        (
            "typeorm postgresql > django postgresql",
            "@Entity()
export class B {
  @PrimaryGeneratedColumn()
  id!: number;
}
@Entity()
export class A {
  @PrimaryGeneratedColumn()
  id!: number;
  @ManyToMany(() => B)
  @JoinTable()
  bs!: B[];
}
",
            &[
                "a_bs_b, has a class: nothing -> true (added: the join table `a_bs_b` has a \
                 shape that Django would not give it)",
                "a_bs_b, class: nothing -> \"ABs\" (added: the join table `a_bs_b` has a shape \
                 that Django would not give it)",
                "a_bs_b, relation aId, attribute: nothing -> \"a\" (added: the join table \
                 `a_bs_b` has a shape that Django would not give it)",
                "a_bs_b, relation aId, inverse: nothing -> \"a_bses\" (added: the join table \
                 `a_bs_b` has a shape that Django would not give it)",
                "a_bs_b, relation bId, attribute: nothing -> \"b\" (added: the join table \
                 `a_bs_b` has a shape that Django would not give it)",
                "a_bs_b, relation bId, inverse: nothing -> \"a_bses\" (added: the join table \
                 `a_bs_b` has a shape that Django would not give it)",
            ],
        ),
        (
            "prisma postgresql > django postgresql",
            "model A {\n  id Int @id\n  bs B[]\n}\nmodel B {\n  id Int @id\n  as A[]\n}\n",
            &[
                "_AToB, has a class: nothing -> true (added: the join table `_AToB` has a shape \
                 that Django would not give it)",
                "_AToB, class: nothing -> \"ABs\" (added: the join table `_AToB` has a shape \
                 that Django would not give it)",
                "_AToB, relation A, attribute: nothing -> \"a\" (added: the join table `_AToB` \
                 has a shape that Django would not give it)",
                "_AToB, relation A, inverse: nothing -> \"a_bses\" (added: the join table \
                 `_AToB` has a shape that Django would not give it)",
                "_AToB, relation B, attribute: nothing -> \"b\" (added: the join table `_AToB` \
                 has a shape that Django would not give it)",
                "_AToB, relation B, inverse: nothing -> \"a_bses\" (added: the join table \
                 `_AToB` has a shape that Django would not give it)",
            ],
        ),
    ];

    #[test]
    fn what_the_pass_makes_of_tables() {
        check(super::fit, CASES);
    }
}
