//! Unique constraints: what keeps columns unique, under which name.

use std::collections::HashSet;

use super::Fitting;
use super::causes::Elsewhere;
use super::causes::uniques::OfUnique;
use super::constraints::given_name;
use super::voices::extras_of_constraint;
use crate::dialect::Feature;
use crate::dialect::grammar::ConstraintNames;
use crate::history::{Operation, sql};
use crate::schema::facts::{Aspect, Element, index_element};
use crate::schema::{Entity, Index, NamedBy, Unique, UniqueAs};

/// Fits the unique constraints of an entity.
pub(super) fn fit(fitting: &mut Fitting, entity: &mut Entity) {
    // What goes goes before anything is turned into an index or gets a name.
    doubles(fitting, entity);
    of_key(fitting, entity);
    nulls_not_distinct(fitting, entity);
    if !fitting.conventions.limits.uniques_named {
        as_indexes(fitting, entity);
    }
    for at in 0..entity.uniques.len() {
        let mut extras = std::mem::take(&mut entity.uniques[at].extras);
        extras_of_constraint(
            fitting,
            entity,
            &Element::of_unique(&entity.uniques[at]),
            &mut extras,
        );
        entity.uniques[at].extras = extras;
    }
    // Whether it has a name decides which object of the database keeps it.
    unique_names(fitting, entity);
    for at in 0..entity.uniques.len() {
        let unique = &mut entity.uniques[at];
        let element = Element::of_unique(unique);
        let at_once = !fitting.capabilities.has(Feature::DeferrableUnique)
            && unique.deferrable.take().is_some();
        let wanted =
            fitting.conventions.unique_as(unique.columns.len(), unique.named_by == NamedBy::Author);
        let other = std::mem::replace(&mut unique.r#as, wanted) != wanted;
        if at_once {
            fitting.because(entity, element.clone(), Aspect::Deferrable, OfUnique::NoDeferrable);
        }
        if other {
            fitting.because(entity, element, Aspect::As, OfUnique::OtherObject);
        }
    }
}

/// Of two unique constraints over the same columns the one without a name goes where only one can
/// be: the other one stays alone.
fn doubles(fitting: &mut Fitting, entity: &mut Entity) {
    let conventions = &fitting.conventions;
    if fitting.home || conventions.limits.uniques_repeat {
        return;
    }
    let named: Vec<Vec<String>> = entity
        .uniques
        .iter()
        .filter(|unique| unique.named_by == NamedBy::Author)
        .map(|unique| unique.columns.clone())
        .collect();
    let (gone, kept) = std::mem::take(&mut entity.uniques)
        .into_iter()
        .partition(|unique| unique.named_by != NamedBy::Author && named.contains(&unique.columns));
    entity.uniques = kept;
    let gone: Vec<Unique> = gone;
    for unique in gone {
        fitting.because(
            entity,
            Element::of_unique(&unique),
            Aspect::Times,
            OfUnique::OneOverSameColumns,
        );
    }
}

/// A unique constraint over the key's columns says nothing new, and servers leave it out.
fn of_key(fitting: &mut Fitting, entity: &mut Entity) {
    let key = entity.key_columns().to_vec();
    let again = |unique: &Unique| {
        let wanted =
            fitting.conventions.unique_as(unique.columns.len(), unique.named_by == NamedBy::Author);
        unique.columns == key && unique.deferrable.is_none() && wanted == UniqueAs::Constraint
    };
    let Some(at) = entity.uniques.iter().position(again).filter(|_| !fitting.home) else { return };
    let unique = entity.uniques.remove(at);
    fitting.because_element(entity, Element::of_unique(&unique), OfUnique::KeyIsUnique);
}

/// A unique constraint of which more is said than its columns must have a name in the target.
fn unique_names(fitting: &mut Fitting, entity: &mut Entity) {
    if fitting.conventions.grammar.constraint_names == ConstraintNames::Optional
        || !entity.mapped.code
        || entity.external
    {
        return;
    }
    for at in 0..entity.uniques.len() {
        let unique = &mut entity.uniques[at];
        let special =
            unique.deferrable.is_some() || unique.nulls_not_distinct || !unique.extras.is_empty();
        if special && unique.named_by != NamedBy::Author {
            unique.name = Some(given_name(&entity.table, &format!("uniq{}", at + 1)));
            unique.named_by = NamedBy::Author;
            let element = Element::of_unique(unique);
            fitting.because(entity, element, Aspect::Name, OfUnique::UniqueNeedsName);
        }
    }
}

/// Moves the uniqueness for which null counts as a value; a plain one in its place would say less.
fn nulls_not_distinct(fitting: &mut Fitting, entity: &mut Entity) {
    if fitting.capabilities.has(Feature::NullsNotDistinct) {
        return;
    }
    let (moved, kept) = std::mem::take(&mut entity.uniques)
        .into_iter()
        .partition(|unique| unique.nulls_not_distinct);
    entity.uniques = kept;
    for unique in moved {
        let element = Element::of_unique(&unique);
        let kept = if fitting.server.has(Feature::NullsNotDistinct)
            && !fitting.database().keeps_documents()
        {
            Elsewhere::Script
        } else {
            Elsewhere::Nowhere
        };
        fitting.because_element(entity, element, OfUnique::NullCounts(kept));
        if kept == Elsewhere::Script {
            let operation = Operation::AddUnique { table: entity.table.clone(), unique };
            fitting.script.push(sql::statement(
                &operation,
                entity,
                &fitting.schema,
                fitting.database(),
            ));
        }
    }
}

/// Unique constraints that cannot have their name, or whose columns stand in another one already,
/// become unique indexes.
fn as_indexes(fitting: &mut Fitting, entity: &mut Entity) {
    let mut spoken_for: HashSet<String> = HashSet::new();
    for unique in std::mem::take(&mut entity.uniques) {
        let named = unique.named_by == NamedBy::Author;
        let again = unique.columns.iter().any(|column| spoken_for.contains(column));
        // Columns stand in a constraint in the order in which the class has them.
        let places: Vec<usize> = unique
            .columns
            .iter()
            .filter_map(|own| entity.fields.iter().position(|field| field.column == *own))
            .collect();
        let in_order = places.is_sorted();
        if !named && !again && in_order {
            spoken_for.extend(unique.columns.iter().cloned());
            entity.uniques.push(unique);
            continue;
        }
        let Unique { columns, name, named_by, origin, .. } = unique.clone();
        let index = Index { unique: true, name, named_by, ..Index::over(&columns, origin) };
        let cause = match (named, again) {
            (true, _) => OfUnique::UniqueWithoutName,
            (false, true) => OfUnique::InOneUniqueOnly,
            (false, false) => OfUnique::UniqueInOrder,
        };
        fitting.because(
            entity,
            Element::of_unique(&unique),
            Aspect::Deferrable,
            OfUnique::NoDeferrable,
        );
        fitting.because_elements(
            entity,
            [Element::of_unique(&unique), Element::of_index(&index)],
            cause,
        );
        if !entity.indexes.iter().any(|known| index_element(known) == index_element(&index)) {
            entity.indexes.push(index);
        }
    }
}

/// A plain unique index becomes a unique constraint where the target has no other word for it.
pub(super) fn of_index(fitting: &mut Fitting, entity: &mut Entity, index: Index) -> Option<Index> {
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
    let cause = OfUnique::OneWordForUnique { index: fitting.conventions.indexes.unique_as_index };
    let whole = Element::of_index(&index);
    let named = index.named_by == NamedBy::Author;
    let r#as = fitting.conventions.unique_as(columns.len(), named);
    let Index { name, named_by, nulls_not_distinct, origin, .. } = index;
    let unique =
        Unique { columns, r#as, name, named_by, nulls_not_distinct, origin, ..Unique::default() };
    if entity.uniques.iter().any(|known| known.columns == unique.columns) {
        fitting.because_element(entity, whole, cause);
    } else {
        fitting.because_elements(entity, [whole, Element::of_unique(&unique)], cause);
        entity.uniques.push(unique);
    }
    None
}

#[cfg(test)]
mod tests {
    use crate::fit::tests::{Case, check};

    const CASES: &[Case] = &[
        (
            "sql postgresql > django postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, a integer UNIQUE, b integer, CONSTRAINT \
             both UNIQUE (a, b));",
            &[],
        ),
        (
            "sql postgresql > prisma postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, a integer UNIQUE DEFERRABLE, b integer \
             UNIQUE NULLS NOT DISTINCT);",
            &[
                "t, unique b, as: \"constraint\" -> nothing (moved: Prisma cannot say that null \
                 counts as a value)",
                "t, unique b, nulls_not_distinct: true -> nothing (moved: Prisma cannot say \
                 that null counts as a value)",
                "t, unique a, deferrable: \"initially-immediate\" -> nothing (strengthened: a \
                 unique constraint cannot be checked at commit here)",
                "t, unique a, as: \"constraint\" -> \"index\" (respelled: uniqueness is kept by \
                 another object of the database)",
                "script: ALTER TABLE \"t\" ADD UNIQUE NULLS NOT DISTINCT (\"b\");",
            ],
        ),
        (
            "sql postgresql > typeorm postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, a integer UNIQUE NULLS NOT DISTINCT, b \
             integer UNIQUE DEFERRABLE);",
            &[
                "t, unique a, as: \"constraint\" -> nothing (moved: TypeORM cannot say that \
                 null counts as a value)",
                "t, unique a, nulls_not_distinct: true -> nothing (moved: TypeORM cannot say \
                 that null counts as a value)",
                "script: ALTER TABLE \"t\" ADD UNIQUE NULLS NOT DISTINCT (\"a\");",
            ],
        ),
        (
            "sql postgresql > sequelize sqlite",
            "CREATE TABLE t (id integer PRIMARY KEY, a integer, b integer, UNIQUE (a, b) \
             DEFERRABLE INITIALLY DEFERRED);",
            &["t, unique a, b, deferrable: \"initially-deferred\" -> nothing (strengthened: a \
               unique constraint cannot be checked at commit here)"],
        ),
        (
            "sql postgresql > django mariadb",
            "CREATE TABLE t (id integer PRIMARY KEY, a integer UNIQUE NULLS NOT DISTINCT);",
            &[
                "t, unique a, as: \"constraint\" -> nothing (dropped: Django cannot say that \
                 null counts as a value)",
                "t, unique a, nulls_not_distinct: true -> nothing (dropped: Django cannot say \
                 that null counts as a value)",
            ],
        ),
        (
            "sql postgresql > django postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, a integer, UNIQUE (a) DEFERRABLE INITIALLY \
             DEFERRED);",
            &["t, unique a, name: nothing -> \"t_uniq1\" (added: such a unique constraint must \
               have a name)"],
        ),
        (
            "sql postgresql > typeorm postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, a integer); CREATE UNIQUE INDEX i ON t (a);",
            &[],
        ),
        (
            "sql postgresql > sqlalchemy postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, a integer); CREATE UNIQUE INDEX ON t (a);",
            &["t, unique index a, name: nothing -> \"t_a_idx\" (added: such an index must have \
               a name of its own)"],
        ),
        (
            "sql postgresql > django postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, a integer UNIQUE); CREATE UNIQUE INDEX \
             also ON t (a);",
            &[
                "t, unique index a, exists: true -> nothing (respelled: Django makes unique \
                 constraints, not plain unique indexes)",
                "t, unique index a, name: \"also\" -> nothing (respelled: Django makes unique \
                 constraints, not plain unique indexes)",
            ],
        ),
        (
            "sql postgresql > prisma postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, a integer UNIQUE, CONSTRAINT again UNIQUE \
             (a));",
            &["t, unique a, as: \"constraint\" -> \"index\" (respelled: uniqueness is kept by \
               another object of the database)"],
        ),
        (
            "sql mariadb > typeorm mariadb",
            "CREATE TABLE t (a integer NOT NULL, b integer, PRIMARY KEY (a), UNIQUE (a));",
            &["t, unique a, as: \"constraint\" -> nothing (respelled: a key is unique by itself)"],
        ),
        (
            "sql sqlite > django sqlite",
            "CREATE TABLE t (id integer PRIMARY KEY, a text UNIQUE, b text, UNIQUE (a, b));",
            &["t, unique a, b, as: \"constraint\" -> \"index\" (respelled: uniqueness is kept \
               by another object of the database)"],
        ),
        (
            "typeorm postgresql > prisma postgresql",
            "@Entity()
@Unique('both', ['a', 'b'])
@Index(['b'], { unique: true })
export class T {
  @PrimaryGeneratedColumn()
  id!: number;
  @Column({ unique: true })
  a!: string;
  @Column()
  b!: string;
}
",
            &[
                "t, unique a, as: \"constraint\" -> \"index\" (respelled: uniqueness is kept by \
                 another object of the database)",
                "t, unique a, b, as: \"constraint\" -> \"index\" (respelled: uniqueness is kept \
                 by another object of the database)",
                "t, unique index b, exists: true -> nothing (respelled: Prisma has one word for \
                 all that is unique)",
                "t, unique b, as: nothing -> \"index\" (respelled: Prisma has one word for all \
                 that is unique)",
            ],
        ),
    ];

    #[test]
    fn what_the_pass_makes_of_tables() {
        check(crate::fit::constraints::fit, CASES);
    }
}
