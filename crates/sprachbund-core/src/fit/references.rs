//! Relations and foreign keys: who acts on deletion, when keys are checked, what makes a one-to-one
//! unique.

use std::collections::{HashMap, HashSet};

use super::Fitting;
use super::acting::by_database;
use super::causes::Elsewhere;
use super::causes::actions::{OfAction, Taken};
use super::causes::references::OfReference;
use crate::dialect::Feature;
use crate::dialect::circle::{Ways, has_circle, in_circles};
use crate::dialect::grammar::{ActionPlace, ReferencePlace};
use crate::history::{Operation, sql};
use crate::quoting::sql::standard_name;
use crate::schema::facts::{Aspect, Element, FactKey};
use crate::schema::{
    Action, EnforcedBy, Entity, EntityKind, ForeignKey, Index, Inheritance, NamedBy, Origin,
    Relation, RelationKind, Schema, Unique,
};

/// Fits every reference.
pub(super) fn fit(fitting: &mut Fitting) {
    // References that go first: those that are left close fewer circles.
    if !fitting.capabilities.has(Feature::CompositeReference) {
        over_several(fitting);
    }
    to_what_is_not_unique(fitting);
    if !fitting.home && fitting.conventions.grammar.reference != ReferencePlace::Column {
        without_relation(fitting);
    }
    if !fitting.home && !fitting.conventions.limits.key_references_in_circles {
        of_key_in_circle(fitting);
    }
    if !fitting.home && !fitting.conventions.limits.required_in_circles {
        required_in_circle(fitting);
    }
    let by_database = by_database(fitting);
    fitting.each_entity(|fitting, entity| {
        if !entity.mapped.code {
            return;
        }
        let left = by_database.contains(&entity.address());
        for at in 0..entity.relations.len() {
            if entity.relations[at].kind != RelationKind::ManyToMany {
                // Who acts is settled before whether that one can do it.
                actions(fitting, entity, at, left);
                possible_actions(fitting, entity, at);
                one_to_one(fitting, entity, at);
            }
        }
        for at in 0..entity.foreign_keys.len() {
            checked(fitting, entity, at);
        }
    });
    fitting.each_entity(|fitting, entity| {
        if !entity.mapped.code {
            join_actions(fitting, entity);
        }
    });
}

/// Relations over several columns go where there are none; the script keeps their foreign keys.
fn over_several(fitting: &mut Fitting) {
    let mut moved: Vec<(usize, ForeignKey)> = Vec::new();
    for at in 0..fitting.schema.entities.len() {
        let entity = &mut fitting.schema.entities[at];
        let (gone, kept) = std::mem::take(&mut entity.relations)
            .into_iter()
            .partition(|relation| relation.columns.len() > 1);
        entity.relations = kept;
        let (keys, kept): (Vec<_>, Vec<_>) = std::mem::take(&mut entity.foreign_keys)
            .into_iter()
            .partition(|key| key.columns.len() > 1);
        entity.foreign_keys = kept;
        let gone: Vec<Relation> = gone;
        let entity = entity.clone();
        for relation in gone {
            fitting.because_element(
                &entity,
                Element::Relation(relation.columns),
                OfReference::NoRelationOverSeveral,
            );
        }
        moved.extend(keys.into_iter().map(|key| (at, key)));
    }
    for (at, key) in moved {
        let entity = fitting.schema.entities[at].clone();
        into_script(fitting, &entity, key, OfReference::NoKeyOverSeveral);
    }
}

/// A foreign key that declarations cannot say goes into the script, where the server and the source
/// hold it.
fn into_script(
    fitting: &mut Fitting,
    entity: &Entity,
    key: ForeignKey,
    cause: fn(Elsewhere) -> OfReference,
) {
    let element = Element::of_foreign_key(&key);
    if !fitting.host().adds_constraints || key.enforced == EnforcedBy::Application {
        return fitting.because_element(entity, element, cause(Elsewhere::Nowhere));
    }
    let operation = Operation::AddForeignKey { table: entity.table.clone(), key };
    fitting.script.push(sql::statement(&operation, entity, &fitting.schema, fitting.database()));
    fitting.because_element(entity, element, cause(Elsewhere::Script));
}

/// Where relations say what refers to what, a foreign key that none of them carries (to a table
/// that nothing declares, or a second one over the same columns) is kept by the script.
fn without_relation(fitting: &mut Fitting) {
    fitting.each_entity(|fitting, entity| {
        if !entity.mapped.code || entity.inherits.is_some() || entity.kind == EntityKind::Document {
            return;
        }
        let mut carried: Vec<Vec<String>> =
            entity.relations.iter().map(|relation| relation.columns.clone()).collect();
        let is_carried = |key: &ForeignKey| {
            let place = carried.iter().position(|columns| *columns == key.columns);
            place.map(|place| carried.swap_remove(place)).is_some()
        };
        let (kept, loose): (Vec<_>, Vec<_>) =
            std::mem::take(&mut entity.foreign_keys).into_iter().partition(is_carried);
        entity.foreign_keys = kept;
        for key in loose {
            let known = entity.clone();
            into_script(fitting, &known, key, OfReference::NoRelationMakesKey);
        }
    });
}

/// Relations to columns that are not unique, by the addresses of their tables and their columns.
pub(super) fn to_any(schema: &Schema) -> HashSet<(String, Vec<String>)> {
    // Of the classes over one table the first one says what is unique.
    let first = |entity: &&Entity| {
        entity.inherits.as_ref().is_none_or(|inherits| inherits.how != Inheritance::SameTable)
    };
    let entities: HashMap<String, &Entity> =
        schema.entities.iter().filter(first).map(|entity| (entity.address(), entity)).collect();
    let refers = |key: &ForeignKey| {
        let target = entities.get(&key.references.address());
        target.is_some_and(|target| !target.external && !target.is_unique(&key.references.columns))
    };
    let of_entity = |entity: &Entity| {
        let keys = entity.foreign_keys.iter().filter(|key| refers(key));
        keys.map(|key| (entity.address(), key.columns.clone())).collect::<Vec<_>>()
    };
    schema.entities.iter().flat_map(of_entity).collect()
}

/// A relation to columns that are not unique goes where the framework demands that they are.
fn to_what_is_not_unique(fitting: &mut Fitting) {
    if fitting.home || fitting.conventions.limits.refers_to_any {
        return;
    }
    let gone = to_any(&fitting.schema);
    fitting.each_entity(|fitting, entity| {
        let address = entity.address();
        let goes = |columns: &Vec<String>| gone.contains(&(address.clone(), columns.clone()));
        let (out, kept) = std::mem::take(&mut entity.relations)
            .into_iter()
            .partition(|relation| goes(&relation.columns));
        let (keys, rest): (Vec<_>, Vec<_>) = std::mem::take(&mut entity.foreign_keys)
            .into_iter()
            .partition(|key| goes(&key.columns));
        (entity.relations, entity.foreign_keys) = (kept, rest);
        let out: Vec<Relation> = out;
        for key in keys {
            let both = [Element::Relation(key.columns.clone()), Element::of_foreign_key(&key)];
            fitting.because_elements(entity, both, OfReference::RefersToUnique);
        }
        for relation in out {
            fitting.because_element(
                entity,
                Element::Relation(relation.columns),
                OfReference::RefersToUnique,
            );
        }
    });
}

/// References that are never null and close a circle, where the framework refuses that: they may be
/// null as far as it knows.
fn required_in_circle(fitting: &mut Fitting) {
    let required = |entity: &Entity, relation: &Relation| {
        let never = |column: &String| entity.field(column).is_some_and(|field| !field.nullable);
        relation.columns.len() == 1
            && relation.target != entity.id
            && relation.columns.iter().all(never)
    };
    let all = fitting.schema.entities.iter().flat_map(|entity| {
        let needed = entity.relations.iter().filter(move |relation| required(entity, relation));
        needed.map(|relation| (entity.id.clone(), relation.target.clone()))
    });
    let circled = in_circles(all);
    let mut open = Ways::default();
    let mut closing: Vec<(usize, String)> = Vec::new();
    for (at, entity) in fitting
        .schema
        .entities
        .iter()
        .enumerate()
        .filter(|(_, entity)| circled.contains(&entity.id))
    {
        for relation in entity
            .relations
            .iter()
            .filter(|relation| required(entity, relation) && circled.contains(&relation.target))
        {
            let column = &relation.columns[0];
            if entity.key_columns().contains(column)
                || !open.would_circle(&entity.id, &relation.target)
            {
                open.add(&entity.id, &relation.target);
            } else {
                closing.push((at, column.clone()));
            }
        }
    }
    for (at, column) in closing {
        let (table, key) = (
            fitting.schema.entities[at].table.clone(),
            fitting.keys.key(&fitting.schema.entities[at]),
        );
        fitting.schema.entities[at]
            .fields
            .iter_mut()
            .filter(|field| field.column == column)
            .for_each(|field| field.nullable = true);
        let kept =
            if fitting.host().alters_nullability { Elsewhere::Script } else { Elsewhere::Nowhere };
        if kept == Elsewhere::Script {
            fitting.script.push(format!(
                "ALTER TABLE {} ALTER COLUMN {} SET NOT NULL;",
                standard_name(&table),
                standard_name(&column)
            ));
        }
        let fact = FactKey::new(&key, Element::Column(column), Aspect::Nullable);
        fitting.causes.note(fact, OfReference::RequiredCircle(kept));
    }
}

/// Foreign keys of a column of the key that the framework does not make where tables refer to each
/// other in a circle.
fn of_key_in_circle(fitting: &mut Fitting) {
    let kept = |key: &&ForeignKey| key.enforced == EnforcedBy::Database;
    let references = fitting.schema.entities.iter().flat_map(|entity| {
        entity
            .foreign_keys
            .iter()
            .filter(kept)
            .map(|key| (entity.address(), key.references.address()))
            .collect::<Vec<_>>()
    });
    if !has_circle(references) {
        return;
    }
    let mut moved: Vec<(usize, usize)> = Vec::new();
    for (at, entity) in
        fitting.schema.entities.iter().enumerate().filter(|(_, entity)| entity.mapped.code)
    {
        let of_key = |key: &ForeignKey| {
            key.columns.iter().any(|column| entity.key_columns().contains(column))
        };
        let keys =
            entity.foreign_keys.iter().enumerate().filter(|(_, key)| kept(key) && of_key(key));
        moved.extend(keys.map(|(key, _)| (at, key)));
    }
    for (at, number) in moved {
        let entity = fitting.schema.entities[at].clone();
        let key = &mut fitting.schema.entities[at].foreign_keys[number];
        let operation = Operation::AddForeignKey { table: entity.table.clone(), key: key.clone() };
        (key.deferrable, key.on_delete, key.on_update) = (None, Action::NoAction, Action::NoAction);
        key.enforced = EnforcedBy::Application;
        let element = Element::of_foreign_key(key);
        fitting.script.push(sql::statement(
            &operation,
            &entity,
            &fitting.schema,
            fitting.database(),
        ));
        for aspect in OF_ENFORCED {
            fitting.because(&entity, element.clone(), aspect, OfReference::KeyInCircle);
        }
    }
}

/// What is said of a foreign key only where the database has it.
const OF_ENFORCED: [Aspect; 4] =
    [Aspect::Deferrable, Aspect::OnDelete, Aspect::OnUpdate, Aspect::Enforced];

/// Carries the intent on deletion over to whoever acts in the target. `left`: where the application
/// acts, relations of this entity may leave it to the database.
fn actions(fitting: &mut Fitting, entity: &mut Entity, at: usize, left: bool) {
    let columns = entity.relations[at].columns.clone();
    let (relation, foreign_key) =
        (Element::Relation(columns.clone()), Element::ForeignKey(columns.clone()));
    let key = entity.foreign_keys.iter().position(|key| key.columns == columns);
    let in_application = entity.relations[at].on_delete;
    // Here an action of the application is said on the other side, of which there must be one.
    let by_inverse = fitting.conventions.grammar.application_action == ActionPlace::Inverse
        && (entity.relations[at].inverse.is_none()
            || in_application
                .is_some_and(|action| !fitting.conventions.delete.application.contains(&action)));
    if let (Some(action), false) =
        (in_application, fitting.capabilities.has(Feature::ApplicationAction) && !by_inverse)
    {
        entity.relations[at].on_delete = None;
        let taken_over = database_action(fitting, action, is_required(entity, &columns));
        let Some(key) =
            key.filter(|key| entity.foreign_keys[*key].enforced == EnforcedBy::Database)
        else {
            return fitting.because(
                entity,
                relation,
                Aspect::OnDelete,
                OfAction::NobodyActs(action),
            );
        };
        let before = entity.foreign_keys[key].on_delete;
        let taken_over = if before == Action::NoAction { taken_over } else { before };
        entity.foreign_keys[key].on_delete = taken_over;
        let taken = match (action, taken_over) {
            _ if before != Action::NoAction => Taken::AsBefore(before),
            (Action::SetValue, _) | (Action::SetDefault, Action::NoAction) => Taken::Refuses,
            (_, Action::NoAction) => Taken::RefusesToo,
            (_, action) => Taken::Does(action),
        };
        let table = fitting.keys.key(entity);
        let mut touched = vec![FactKey::new(&table, relation, Aspect::OnDelete).into()];
        if before != taken_over {
            touched.push(FactKey::new(&table, foreign_key, Aspect::OnDelete).into());
        }
        return fitting.causes.note_all(touched, OfAction::ActedInApplication(action, taken));
    }
    let lost_value = in_application == Some(Action::SetValue)
        && !entity.relations[at].extras.contains_key("set_value");
    if lost_value {
        entity.relations[at].on_delete = Some(application_action(fitting, Action::NoAction, false));
        return fitting.because(entity, relation, Aspect::OnDelete, OfAction::NoValueToSet);
    }
    let application_acts =
        fitting.conventions.delete.actor == crate::dialect::conventions::Actor::Application;
    if let (true, Some(action), Some(key)) = (application_acts, in_application, key) {
        return application_instead(fitting, entity, key, action);
    }
    let by_database = key.map(|key| &mut entity.foreign_keys[key]).filter(|key| {
        left && in_application.is_none()
            && fitting.conventions.delete.database.contains(&key.on_delete)
    });
    if let (true, Some(key)) = (application_acts, by_database) {
        if std::mem::take(&mut key.on_update) != Action::NoAction {
            fitting.because(entity, foreign_key, Aspect::OnUpdate, OfAction::NoActionOnUpdate);
        }
        return;
    }
    if application_acts && in_application.is_none() {
        let action = key.map_or(Action::NoAction, |key| entity.foreign_keys[key].on_delete);
        let action = application_action(fitting, action, is_required(entity, &columns));
        entity.relations[at].on_delete = Some(action);
        if let Some(key) = key
            && (action, entity.foreign_keys[key].on_update) != (Action::NoAction, Action::NoAction)
        {
            let cause = in_application_because(fitting, action);
            fitting.because(entity, relation, Aspect::OnDelete, cause);
            return application_instead(fitting, entity, key, action);
        }
        fitting.because(entity, relation, Aspect::OnDelete, OfAction::SaysActions);
    }
}

/// Takes from the database what the application does.
fn application_instead(fitting: &mut Fitting, entity: &mut Entity, key: usize, action: Action) {
    let key = &mut entity.foreign_keys[key];
    (key.on_delete, key.on_update) = (Action::NoAction, Action::NoAction);
    let element = Element::of_foreign_key(key);
    for aspect in [Aspect::OnDelete, Aspect::OnUpdate] {
        let cause = in_application_because(fitting, action);
        fitting.because(entity, element.clone(), aspect, cause);
    }
}

/// Why the application acts and not the database.
fn in_application_because(fitting: &Fitting, action: Action) -> OfAction {
    match fitting.conventions.delete.database.contains(&action) {
        true => OfAction::ChainInApplication(action),
        false => OfAction::ActsInApplication(action),
    }
}

/// Actions that the application has no word for, and those that a column cannot follow.
fn possible_actions(fitting: &mut Fitting, entity: &mut Entity, at: usize) {
    let columns = entity.relations[at].columns.clone();
    let required = is_required(entity, &columns);
    if let Some(action) = entity.relations[at].on_delete {
        let possible = application_action(fitting, action, required);
        if possible != action {
            entity.relations[at].on_delete = Some(possible);
            let known = fitting.conventions.delete.application.contains(&action);
            let cause =
                if known { OfAction::NeverNull(None) } else { OfAction::NoSuchAction(action) };
            fitting.because(entity, Element::Relation(columns.clone()), Aspect::OnDelete, cause);
        }
    }
    let Some(key) = entity.foreign_keys.iter().position(|key| key.columns == columns) else {
        return;
    };
    for (aspect, when) in [(Aspect::OnDelete, "deletion"), (Aspect::OnUpdate, "change of the key")]
    {
        let key = &mut entity.foreign_keys[key];
        let action =
            if aspect == Aspect::OnDelete { &mut key.on_delete } else { &mut key.on_update };
        if *action == Action::SetNull && !null_can_be_set(fitting, required) {
            *action = Action::NoAction;
            let element = Element::of_foreign_key(key);
            fitting.because(entity, element, aspect, OfAction::NeverNull(Some(when)));
        }
    }
}

fn null_can_be_set(fitting: &Fitting, required: bool) -> bool {
    !required || fitting.conventions.delete.null_on_required
}

/// What the application can do of an action.
fn application_action(fitting: &Fitting, action: Action, required: bool) -> Action {
    let known = fitting.conventions.delete.application.contains(&action);
    let possible = action != Action::SetNull || null_can_be_set(fitting, required);
    if known && possible { action } else { Action::Restrict }
}

fn is_required(entity: &Entity, columns: &[String]) -> bool {
    columns.iter().any(|column| entity.field(column).is_some_and(|field| !field.nullable))
}

/// What the database can do of an application's action.
fn database_action(fitting: &Fitting, action: Action, required: bool) -> Action {
    match action {
        Action::SetNull if !null_can_be_set(fitting, required) => Action::NoAction,
        Action::Protect => Action::Restrict,
        Action::SetValue => Action::NoAction,
        Action::SetDefault if !fitting.capabilities.has(Feature::SetDefault) => Action::NoAction,
        other => other,
    }
}

fn one_to_one(fitting: &mut Fitting, entity: &mut Entity, at: usize) {
    let columns = entity.relations[at].columns.clone();
    if fitting.conventions.grammar.reference == ReferencePlace::Path {
        return;
    }
    if fitting.conventions.references.kind_by_uniqueness {
        if entity.relations[at].inverse.is_some() {
            return;
        }
        if entity.relations[at].kind == RelationKind::ManyToOne && entity.is_unique(&columns) {
            entity.relations[at].kind = RelationKind::OneToOne;
            return fitting.because(
                entity,
                Element::Relation(columns),
                Aspect::Kind,
                OfReference::UniqueMakesOneToOne,
            );
        }
    }
    if entity.relations[at].kind != RelationKind::OneToOne {
        return;
    }
    let by_relation = !fitting.conventions.references.kind_by_uniqueness
        && fitting.conventions.references.one_to_one_unique;
    if by_relation && index_for_constraint(fitting, entity, &columns) {
        return;
    }
    if entity.is_unique(&columns) {
        return;
    }
    let r#as = fitting.conventions.unique_as(columns.len(), false);
    let unique = Unique {
        columns,
        r#as,
        origin: Origin::implied("a one-to-one is unique"),
        ..Unique::default()
    };
    fitting.because_element(entity, Element::of_unique(&unique), OfReference::OneToOneIsUnique);
    entity.uniques.push(unique);
}

/// A one-to-one makes a unique constraint: it takes the place of a plain unique index without a
/// name of its own.
fn index_for_constraint(fitting: &mut Fitting, entity: &mut Entity, columns: &[String]) -> bool {
    let constrained = entity.key_columns() == columns
        || entity.uniques.iter().any(|unique| unique.columns == columns);
    let plain = |index: &Index| {
        index.unique
            && index.named_by != NamedBy::Author
            && index.condition.is_none()
            && index.method.is_none()
            && index.include.is_empty()
            && index.plain_columns() == columns
            && index.parts.iter().all(crate::schema::IndexPart::is_plain)
    };
    let Some(at) = entity.indexes.iter().position(plain).filter(|_| !constrained) else {
        return false;
    };
    let index = entity.indexes.remove(at);
    let nulls_not_distinct = index.nulls_not_distinct;
    let unique = Unique {
        columns: columns.to_vec(),
        nulls_not_distinct,
        origin: index.origin.clone(),
        ..Unique::default()
    };
    let both = [Element::of_index(&index), Element::of_unique(&unique)];
    fitting.because_elements(entity, both, OfReference::OneToOneMakesConstraint);
    entity.uniques.push(unique);
    true
}

/// When a foreign key is checked, and whether there is one.
fn checked(fitting: &mut Fitting, entity: &mut Entity, at: usize) {
    let element = Element::of_foreign_key(&entity.foreign_keys[at]);
    let has_relation =
        entity.relations.iter().any(|relation| relation.columns == entity.foreign_keys[at].columns);
    let fixed = fitting.conventions.references.deferrable;
    let default = [entity.foreign_keys[at].on_delete, entity.foreign_keys[at].on_update]
        .contains(&Action::SetDefault);
    if default && !fitting.capabilities.has(Feature::SetDefault) {
        for aspect in [Aspect::OnDelete, Aspect::OnUpdate] {
            let key = &mut entity.foreign_keys[at];
            let action =
                if aspect == Aspect::OnDelete { &mut key.on_delete } else { &mut key.on_update };
            if *action == Action::SetDefault {
                *action = Action::NoAction;
                fitting.because(entity, element.clone(), aspect, OfAction::NoSetDefault);
            }
        }
    }
    let key = &mut entity.foreign_keys[at];
    if fitting.conventions.references.kind_by_uniqueness && key.enforced == EnforcedBy::Application
    {
        (key.deferrable, key.on_delete, key.on_update) = (None, Action::NoAction, Action::NoAction);
        let table = fitting.keys.key(entity);
        let facts = [Aspect::Deferrable, Aspect::OnDelete, Aspect::OnUpdate]
            .map(|aspect| FactKey::new(&table, element.clone(), aspect).into());
        return fitting.causes.note_all(facts, OfReference::KeptByApplication);
    }
    let wanted = if fitting.conventions.references.enforced {
        EnforcedBy::Database
    } else {
        EnforcedBy::Application
    };
    if key.enforced != wanted && !fitting.capabilities.has(Feature::UnenforcedReference) {
        key.enforced = wanted;
        fitting.because(entity, element.clone(), Aspect::Enforced, OfReference::AllKeptBy(wanted));
    }
    let key = &mut entity.foreign_keys[at];
    if key.deferrable.is_some() && !fitting.capabilities.has(Feature::Deferrable) {
        key.deferrable = None;
        return fitting.because(entity, element, Aspect::Deferrable, OfReference::NoDeferrable);
    }
    if has_relation && fixed.is_some() && key.deferrable != fixed {
        key.deferrable = fixed;
        fitting.because(entity, element, Aspect::Deferrable, OfReference::ChecksAtCommit);
    }
}

/// Join tables that the framework makes by itself.
fn join_actions(fitting: &mut Fitting, entity: &mut Entity) {
    let in_application =
        fitting.conventions.delete.actor == crate::dialect::conventions::Actor::Application;
    for at in 0..entity.relations.len() {
        let relation = &mut entity.relations[at];
        relation.on_delete = in_application.then_some(Action::Cascade);
        let element = Element::Relation(relation.columns.clone());
        fitting.because(entity, element, Aspect::OnDelete, OfAction::JoinRowsGoAlong);
    }
}

#[cfg(test)]
mod tests {
    use crate::fit::tests::{Case, check};

    const CASES: &[Case] = &[
        (
            "sql postgresql > django postgresql",
            "CREATE TABLE q (id integer PRIMARY KEY); CREATE TABLE t (id integer PRIMARY KEY, \
             q_id integer REFERENCES q (id) ON DELETE SET NULL ON UPDATE CASCADE);",
            &[
                "t, foreign key q_id, on_update: \"cascade\" -> \"no action\" (weakened: Django \
                 leaves deletion to the database, not a change of the key)",
                "t, foreign key q_id, deferrable: nothing -> \"initially-deferred\" (added: \
                 Django has every foreign key checked at commit)",
            ],
        ),
        // A chain of references is of one kind, and Django has no database RESTRICT.
        (
            "sql postgresql > django postgresql",
            "CREATE TABLE q (id integer PRIMARY KEY, q_id integer NOT NULL REFERENCES q ON DELETE \
             RESTRICT); CREATE TABLE t (id integer PRIMARY KEY, q_id integer NOT NULL REFERENCES \
             q (id) ON DELETE CASCADE);",
            &[
                "q, foreign key q_id, on_delete: \"restrict\" -> \"no action\" (weakened: \
                 Django acts on deletion in the application, not in the database)",
                "q, relation q_id, on_delete: nothing -> \"restrict\" (weakened: Django acts on \
                 deletion in the application, not in the database)",
                "t, foreign key q_id, on_delete: \"cascade\" -> \"no action\" (weakened: Django \
                 lets the database act on deletion only where all references of a chain do)",
                "t, relation q_id, on_delete: nothing -> \"cascade\" (weakened: Django lets the \
                 database act on deletion only where all references of a chain do)",
                "q, foreign key q_id, deferrable: nothing -> \"initially-deferred\" (added: \
                 Django has every foreign key checked at commit)",
                "t, foreign key q_id, deferrable: nothing -> \"initially-deferred\" (added: \
                 Django has every foreign key checked at commit)",
            ],
        ),
        (
            "sql postgresql > django@5.2 postgresql",
            "CREATE TABLE q (id integer PRIMARY KEY); CREATE TABLE t (id integer PRIMARY KEY, \
             q_id integer REFERENCES q (id) ON DELETE SET NULL);",
            &[
                "t, foreign key q_id, on_delete: \"set null\" -> \"no action\" (weakened: \
                 Django acts on deletion in the application, not in the database)",
                "t, relation q_id, on_delete: nothing -> \"set null\" (weakened: Django acts on \
                 deletion in the application, not in the database)",
                "t, foreign key q_id, deferrable: nothing -> \"initially-deferred\" (added: \
                 Django has every foreign key checked at commit)",
            ],
        ),
        (
            "sql postgresql > django postgresql",
            "CREATE TABLE q (id integer PRIMARY KEY); CREATE TABLE t (id integer PRIMARY KEY, \
             q_id integer NOT NULL REFERENCES q (id) ON DELETE RESTRICT ON UPDATE CASCADE);",
            &[
                "t, foreign key q_id, on_delete: \"restrict\" -> \"no action\" (weakened: \
                 Django acts on deletion in the application, not in the database)",
                "t, foreign key q_id, on_update: \"cascade\" -> \"no action\" (weakened: Django \
                 acts on deletion in the application, not in the database)",
                "t, relation q_id, on_delete: nothing -> \"restrict\" (weakened: Django acts on \
                 deletion in the application, not in the database)",
                "t, foreign key q_id, deferrable: nothing -> \"initially-deferred\" (added: \
                 Django has every foreign key checked at commit)",
            ],
        ),
        (
            "sql postgresql > django postgresql",
            "CREATE TABLE q (a integer, b integer, PRIMARY KEY (a, b)); CREATE TABLE t (id \
             integer PRIMARY KEY, a integer, b integer, FOREIGN KEY (a, b) REFERENCES q (a, \
             b));",
            &[
                "t, relation a, b, kind: \"many-to-one\" -> nothing (dropped: Django has no \
                 relation over several columns)",
                "t, relation a, b, attribute: \"q\" -> nothing (dropped: Django has no relation \
                 over several columns)",
                "t, relation a, b, target: \"q\" -> nothing (dropped: Django has no relation \
                 over several columns)",
                "t, relation a, b, inverse: \"ts\" -> nothing (dropped: Django has no relation \
                 over several columns)",
                "t, foreign key a, b, references: [null,\"q\",[\"a\",\"b\"]] -> nothing (moved: \
                 Django has no foreign key over several columns)",
                "t, foreign key a, b, on_delete: \"no action\" -> nothing (moved: Django has no \
                 foreign key over several columns)",
                "t, foreign key a, b, on_update: \"no action\" -> nothing (moved: Django has no \
                 foreign key over several columns)",
                "t, foreign key a, b, enforced: \"database\" -> nothing (moved: Django has no \
                 foreign key over several columns)",
                "script: ALTER TABLE \"t\" ADD FOREIGN KEY (\"a\", \"b\") REFERENCES \"q\" \
                 (\"a\", \"b\");",
            ],
        ),
        (
            "sql postgresql > typeorm postgresql",
            "CREATE TABLE q (a integer, b integer, PRIMARY KEY (a, b)); CREATE TABLE t (id \
             integer PRIMARY KEY, a integer, b integer, FOREIGN KEY (a, b) REFERENCES q (a, \
             b));",
            &[],
        ),
        (
            "sql postgresql > prisma postgresql",
            "CREATE TABLE q (id integer PRIMARY KEY); CREATE TABLE t (id integer PRIMARY KEY, \
             q_id integer UNIQUE REFERENCES q (id) DEFERRABLE INITIALLY DEFERRED);",
            &["t, foreign key q_id, deferrable: \"initially-deferred\" -> nothing \
               (strengthened: a foreign key cannot be checked at commit here)"],
        ),
        (
            "sql postgresql > sequelize postgresql",
            "CREATE TABLE q (id integer PRIMARY KEY); CREATE TABLE t (id integer PRIMARY KEY, \
             q_id integer REFERENCES q (id) DEFERRABLE);",
            &[],
        ),
        (
            "sql postgresql > typeorm sqlite",
            "CREATE TABLE q (id integer PRIMARY KEY); CREATE TABLE t (id integer PRIMARY KEY, \
             q_id integer CONSTRAINT by_q REFERENCES q (id) ON DELETE SET DEFAULT);",
            &["t, foreign key q_id, on_delete: \"set default\" -> \"no action\" (weakened: \
               TypeORM cannot tell the database to set a default)"],
        ),
        (
            "sql postgresql > sequelize postgresql",
            "CREATE TABLE a (id integer PRIMARY KEY, b_id integer NOT NULL); CREATE TABLE b (id \
             integer PRIMARY KEY, a_id integer NOT NULL REFERENCES a (id)); ALTER TABLE a ADD \
             FOREIGN KEY (b_id) REFERENCES b (id);",
            &[],
        ),
        (
            "sql postgresql > django postgresql",
            "CREATE TABLE q (id integer PRIMARY KEY, code text); CREATE TABLE t (id integer \
             PRIMARY KEY, q_id integer REFERENCES q (id), FOREIGN KEY (q_id) REFERENCES \
             elsewhere (id));",
            &[
                "t, foreign key q_id, times: 2 -> nothing (moved: Django makes foreign keys of \
                 its relations, and none of them is this one)",
                "t, foreign key q_id, references: [null,\"elsewhere\",[\"id\"]] -> \
                 [null,\"q\",[\"id\"]] (moved: Django makes foreign keys of its relations, and \
                 none of them is this one)",
                "t, foreign key q_id, deferrable: nothing -> \"initially-deferred\" (moved: \
                 Django makes foreign keys of its relations, and none of them is this one)",
                "t, relation q_id, on_delete: nothing -> \"no action\" (added: Django says for \
                 each relation what the application does on deletion)",
                "script: ALTER TABLE \"t\" ADD FOREIGN KEY (\"q_id\") REFERENCES \"elsewhere\" \
                 (\"id\");",
            ],
        ),
        (
            "sql sqlite > prisma sqlite",
            "CREATE TABLE q (id integer PRIMARY KEY, code text); CREATE TABLE t (id integer \
             PRIMARY KEY, code text REFERENCES q (code));",
            &[
                "t, foreign key code, references: [null,\"q\",[\"code\"]] -> nothing (dropped: \
                 Prisma refers only to what is unique)",
                "t, foreign key code, on_delete: \"no action\" -> nothing (dropped: Prisma \
                 refers only to what is unique)",
                "t, foreign key code, on_update: \"no action\" -> nothing (dropped: Prisma \
                 refers only to what is unique)",
                "t, foreign key code, enforced: \"database\" -> nothing (dropped: Prisma refers \
                 only to what is unique)",
                "t, relation code, kind: \"many-to-one\" -> nothing (dropped: Prisma refers \
                 only to what is unique)",
                "t, relation code, attribute: \"code\" -> nothing (dropped: Prisma refers only \
                 to what is unique)",
                "t, relation code, target: \"q\" -> nothing (dropped: Prisma refers only to \
                 what is unique)",
                "t, relation code, inverse: \"ts\" -> nothing (dropped: Prisma refers only to \
                 what is unique)",
            ],
        ),
        (
            "django postgresql > typeorm postgresql",
            "class Q(models.Model):
    pass
class T(models.Model):
    a = models.ForeignKey(Q, models.CASCADE)
    b = models.ForeignKey(Q, models.SET_NULL, null=True, related_name='bs')
    c = models.ForeignKey(Q, models.PROTECT, related_name='cs')
    d = models.OneToOneField(Q, models.DO_NOTHING, related_name='d')
",
            &[
                "main_t, foreign key a_id, on_delete: \"no action\" -> \"cascade\" \
                 (strengthened: on deletion the application acted (cascade))",
                "main_t, relation a_id, on_delete: \"cascade\" -> nothing (strengthened: on \
                 deletion the application acted (cascade))",
                "main_t, foreign key b_id, on_delete: \"no action\" -> \"set null\" \
                 (strengthened: on deletion the application acted (set null))",
                "main_t, relation b_id, on_delete: \"set null\" -> nothing (strengthened: on \
                 deletion the application acted (set null))",
                "main_t, foreign key c_id, on_delete: \"no action\" -> \"restrict\" \
                 (strengthened: on deletion the application acted (protect))",
                "main_t, relation c_id, on_delete: \"protect\" -> nothing (strengthened: on \
                 deletion the application acted (protect))",
                "main_t, relation d_id, on_delete: \"no action\" -> nothing (respelled: on \
                 deletion the application acted (no action))",
            ],
        ),
        (
            "django postgresql > prisma postgresql",
            "class Q(models.Model):
    pass
class T(models.Model):
    a = models.ForeignKey(Q, models.CASCADE, db_constraint=False)
    b = models.ForeignKey(Q, models.SET_DEFAULT, default=1, related_name='bs')
",
            &[
                "main_t, relation a_id, on_delete: \"cascade\" -> nothing (dropped: the \
                 application no longer acts on deletion, and no foreign key does (cascade))",
                "main_t, foreign key b_id, on_delete: \"no action\" -> \"set default\" \
                 (strengthened: on deletion the application acted (set default))",
                "main_t, relation b_id, on_delete: \"set default\" -> nothing (strengthened: on \
                 deletion the application acted (set default))",
                "main_t, foreign key a_id, enforced: \"application\" -> \"database\" \
                 (strengthened: every relation has a foreign key here)",
                "main_t, foreign key a_id, deferrable: \"initially-deferred\" -> nothing \
                 (strengthened: a foreign key cannot be checked at commit here)",
                "main_t, foreign key b_id, deferrable: \"initially-deferred\" -> nothing \
                 (strengthened: a foreign key cannot be checked at commit here)",
            ],
        ),
        (
            "django mariadb > sqlalchemy mariadb",
            "class Q(models.Model):
    pass
class T(models.Model):
    a = models.ForeignKey(Q, models.CASCADE)
    b = models.OneToOneField(Q, models.RESTRICT, related_name='b')
",
            &[
                "main_t, foreign key b_id, on_delete: \"no action\" -> \"restrict\" \
                 (strengthened: on deletion the application acted (restrict))",
                "main_t, relation b_id, on_delete: \"restrict\" -> nothing (strengthened: on \
                 deletion the application acted (restrict))",
            ],
        ),
        (
            "typeorm postgresql > django@5.2 postgresql",
            "@Entity()
export class Q {
  @PrimaryGeneratedColumn()
  id!: number;
}
@Entity()
export class T {
  @PrimaryGeneratedColumn()
  id!: number;
  @ManyToOne(() => Q, { onDelete: 'CASCADE', nullable: false })
  a!: Q;
  @OneToOne(() => Q, { createForeignKeyConstraints: false })
  @JoinColumn()
  b!: Q;
}
",
            &[
                "t, foreign key aId, on_delete: \"cascade\" -> \"no action\" (weakened: Django \
                 acts on deletion in the application, not in the database)",
                "t, relation aId, on_delete: nothing -> \"cascade\" (weakened: Django acts on \
                 deletion in the application, not in the database)",
                "t, relation bId, on_delete: nothing -> \"no action\" (added: Django says for \
                 each relation what the application does on deletion)",
                "t, foreign key aId, deferrable: nothing -> \"initially-deferred\" (added: \
                 Django has every foreign key checked at commit)",
                "t, foreign key bId, deferrable: nothing -> \"initially-deferred\" (added: \
                 Django has every foreign key checked at commit)",
            ],
        ),
    ];

    #[test]
    fn what_the_pass_makes_of_tables() {
        check(super::fit, CASES);
    }
}
