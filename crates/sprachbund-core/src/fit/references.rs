//! Relations and foreign keys: who acts on deletion, when keys are checked, what makes a one-to-one unique.

use std::collections::{HashMap, HashSet};

use super::{Fitting, Grade, element};
use crate::dialect::Feature;
use crate::dialect::circle::{Ways, has_circle, in_circles};
use crate::history::{Operation, sql};
use crate::quoting::sql::standard_name;
use crate::schema::facts::{FactKey, foreign_key_element, index_element, relation_element, unique_element};
use crate::schema::{
    Action, Database, EnforcedBy, Entity, EntityKind, ForeignKey, Index, Inheritance, NamedBy, Origin, Relation, RelationKind, Schema,
    Unique,
};

/// Fits every reference.
pub(super) fn fit(fitting: &mut Fitting) {
    if !fitting.capabilities.has(Feature::CompositeReference) {
        over_several(fitting);
    }
    to_what_is_not_unique(fitting);
    if !fitting.home && !fitting.conventions.references_on_columns {
        without_relation(fitting);
    }
    if !fitting.home && !fitting.conventions.key_references_in_circles {
        of_key_in_circle(fitting);
    }
    if !fitting.home && !fitting.conventions.required_in_circles {
        required_in_circle(fitting);
    }
    fitting.each_entity(|fitting, entity| {
        if !entity.mapped.code {
            return;
        }
        for at in 0..entity.relations.len() {
            if entity.relations[at].kind != RelationKind::ManyToMany {
                actions(fitting, entity, at);
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
        let (gone, kept) = std::mem::take(&mut entity.relations).into_iter().partition(|relation| relation.columns.len() > 1);
        entity.relations = kept;
        let (keys, kept): (Vec<_>, Vec<_>) = std::mem::take(&mut entity.foreign_keys).into_iter().partition(|key| key.columns.len() > 1);
        entity.foreign_keys = kept;
        let gone: Vec<Relation> = gone;
        let (name, table) = (entity.name.clone(), entity.table.clone());
        for relation in gone {
            let element = format!("{name}.{}", relation.name.as_deref().unwrap_or_default());
            let facts = vec![FactKey::new(&table, format!("relation {}", relation.columns.join(", ")), "")];
            let reason = format!("{} has no relation over several columns", fitting.framework);
            fitting.lose(Grade::Dropped, reason, "its columns stay; look records up by them", element, facts);
        }
        moved.extend(keys.into_iter().map(|key| (at, key)));
    }
    for (at, key) in moved {
        let entity = fitting.schema.entities[at].clone();
        let reason = format!("{} has no foreign key over several columns", fitting.framework);
        into_script(fitting, &entity, key, reason);
    }
}

/// A foreign key that declarations cannot say goes into the script, where the server and the source hold it.
fn into_script(fitting: &mut Fitting, entity: &Entity, key: ForeignKey, reason: String) {
    let facts = vec![FactKey::new(&entity.table, foreign_key_element(&key), "")];
    let element = format!("{} ({})", entity.name, key.columns.join(", "));
    if fitting.database() == Database::Sqlite || key.enforced == EnforcedBy::Application {
        fitting.lose(Grade::Dropped, reason, "nothing refuses a reference to nothing", element, facts);
        return;
    }
    let operation = Operation::AddForeignKey { table: entity.table.clone(), key };
    fitting.script.push(sql::statement(&operation, entity, &fitting.schema, fitting.database()));
    fitting.lose(Grade::Moved, reason, "the script adds it", element, facts);
}

/// Where relations say what refers to what, a foreign key that none of them carries (to a table that nothing declares, or a
/// second one over the same columns) is kept by the script.
fn without_relation(fitting: &mut Fitting) {
    fitting.each_entity(|fitting, entity| {
        if !entity.mapped.code || entity.inherits.is_some() || entity.kind == EntityKind::Document {
            return;
        }
        let mut carried: Vec<Vec<String>> = entity.relations.iter().map(|relation| relation.columns.clone()).collect();
        let is_carried = |key: &ForeignKey| {
            let place = carried.iter().position(|columns| *columns == key.columns);
            place.map(|place| carried.swap_remove(place)).is_some()
        };
        let (kept, loose): (Vec<_>, Vec<_>) = std::mem::take(&mut entity.foreign_keys).into_iter().partition(is_carried);
        entity.foreign_keys = kept;
        for key in loose {
            let reason = format!("{} makes foreign keys of its relations, and none of them is this one", fitting.framework);
            let known = entity.clone();
            into_script(fitting, &known, key, reason);
        }
    });
}

/// Relations to columns that are not unique, by the addresses of their tables and their columns.
pub(super) fn to_any(schema: &Schema) -> HashSet<(String, Vec<String>)> {
    // Of the classes over one table the first one says what is unique.
    let first = |entity: &&Entity| entity.inherits.as_ref().is_none_or(|inherits| inherits.how != Inheritance::SameTable);
    let entities: HashMap<String, &Entity> = schema.entities.iter().filter(first).map(|entity| (entity.address(), entity)).collect();
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
    if fitting.home || fitting.conventions.refers_to_any {
        return;
    }
    let gone = to_any(&fitting.schema);
    fitting.each_entity(|fitting, entity| {
        let address = entity.address();
        let goes = |columns: &Vec<String>| gone.contains(&(address.clone(), columns.clone()));
        let (out, kept) = std::mem::take(&mut entity.relations).into_iter().partition(|relation| goes(&relation.columns));
        let (keys, rest): (Vec<_>, Vec<_>) = std::mem::take(&mut entity.foreign_keys).into_iter().partition(|key| goes(&key.columns));
        (entity.relations, entity.foreign_keys) = (kept, rest);
        let out: Vec<Relation> = out;
        let mut facts: Vec<FactKey> =
            out.iter().map(|relation| FactKey::new(&entity.table, relation_element(&fitting.schema, relation), "")).collect();
        facts.extend(keys.iter().map(|key| FactKey::new(&entity.table, foreign_key_element(key), "")));
        if let Some(first) = keys.first() {
            let element = format!("{} ({})", entity.name, first.columns.join(", "));
            let reason = format!("{} refers only to what is unique", fitting.framework);
            fitting.lose(Grade::Dropped, reason, "the column stays; look records up by it", element, facts);
        }
    });
}

/// References that are never null and close a circle, where the framework refuses that: they may be null as far as it knows.
fn required_in_circle(fitting: &mut Fitting) {
    let required = |entity: &Entity, relation: &Relation| {
        let never = |column: &String| entity.field(column).is_some_and(|field| !field.nullable);
        relation.columns.len() == 1 && relation.target != entity.id && relation.columns.iter().all(never)
    };
    let all = fitting.schema.entities.iter().flat_map(|entity| {
        let needed = entity.relations.iter().filter(move |relation| required(entity, relation));
        needed.map(|relation| (entity.id.clone(), relation.target.clone()))
    });
    let circled = in_circles(all);
    let mut open = Ways::default();
    let mut closing: Vec<(usize, String)> = Vec::new();
    for (at, entity) in fitting.schema.entities.iter().enumerate().filter(|(_, entity)| circled.contains(&entity.id)) {
        for relation in entity.relations.iter().filter(|relation| required(entity, relation) && circled.contains(&relation.target)) {
            let column = &relation.columns[0];
            if entity.key_columns().contains(column) || !open.would_circle(&entity.id, &relation.target) {
                open.add(&entity.id, &relation.target);
            } else {
                closing.push((at, column.clone()));
            }
        }
    }
    for (at, column) in closing {
        let table = fitting.schema.entities[at].table.clone();
        let element = element(&fitting.schema.entities[at], &column);
        fitting.schema.entities[at].fields.iter_mut().filter(|field| field.column == column).for_each(|field| field.nullable = true);
        let facts = vec![FactKey::new(&table, format!("column {column}"), "nullable")];
        let reason = format!("{} refuses references in a circle that are never null", fitting.framework);
        if fitting.database() == Database::PostgreSql {
            fitting.script.push(format!("ALTER TABLE {} ALTER COLUMN {} SET NOT NULL;", standard_name(&table), standard_name(&column)));
            fitting.lose(Grade::Moved, reason, "the script says NOT NULL", element, facts);
        } else {
            fitting.lose(Grade::Weakened, reason, "the column may be null; the code still demands a value", element, facts);
        }
    }
}

/// Foreign keys of a column of the key that the framework does not make where tables refer to each other in a circle.
fn of_key_in_circle(fitting: &mut Fitting) {
    let kept = |key: &&ForeignKey| key.enforced == EnforcedBy::Database;
    let references = fitting.schema.entities.iter().flat_map(|entity| {
        entity.foreign_keys.iter().filter(kept).map(|key| (entity.address(), key.references.address())).collect::<Vec<_>>()
    });
    if !has_circle(references) {
        return;
    }
    let mut moved: Vec<(usize, usize)> = Vec::new();
    for (at, entity) in fitting.schema.entities.iter().enumerate().filter(|(_, entity)| entity.mapped.code) {
        let of_key = |key: &ForeignKey| key.columns.iter().any(|column| entity.key_columns().contains(column));
        let keys = entity.foreign_keys.iter().enumerate().filter(|(_, key)| kept(key) && of_key(key));
        moved.extend(keys.map(|(key, _)| (at, key)));
    }
    for (at, number) in moved {
        let entity = fitting.schema.entities[at].clone();
        let key = &mut fitting.schema.entities[at].foreign_keys[number];
        let operation = Operation::AddForeignKey { table: entity.table.clone(), key: key.clone() };
        let stored = foreign_key_element(key);
        let said = [
            ("deferrable", key.deferrable.take().is_some()),
            ("on_delete", std::mem::take(&mut key.on_delete) != Action::NoAction),
            ("on_update", std::mem::take(&mut key.on_update) != Action::NoAction),
            ("enforced", true),
        ];
        key.enforced = EnforcedBy::Application;
        let facts = said.iter().filter(|(_, said)| *said).map(|(aspect, _)| FactKey::new(&entity.table, stored.clone(), *aspect)).collect();
        fitting.script.push(sql::statement(&operation, &entity, &fitting.schema, fitting.database()));
        let element = format!("{} ({})", entity.name, entity.foreign_keys[number].columns.join(", "));
        let reason = format!("{} makes no foreign key of a key's column where tables refer to each other in a circle", fitting.framework);
        fitting.lose(Grade::Moved, reason, "the script adds it", element, facts);
    }
}

/// Carries the intent on deletion over to whoever acts in the target.
fn actions(fitting: &mut Fitting, entity: &mut Entity, at: usize) {
    let relation = &entity.relations[at];
    let element = format!("{}.{}", entity.name, relation.name.as_deref().unwrap_or_default());
    let columns = relation.columns.clone();
    let relation_fact = FactKey::new(&entity.table, format!("relation {}", columns.join(", ")), "on_delete");
    let key = entity.foreign_keys.iter().position(|key| key.columns == columns);
    let in_application = entity.relations[at].on_delete;
    // Here an action of the application is said on the other side, of which there must be one.
    let by_inverse =
        fitting.conventions.references_on_columns && (entity.relations[at].inverse.is_none() || in_application != Some(Action::Cascade));
    if let (Some(action), false) = (in_application, fitting.capabilities.has(Feature::ApplicationAction) && !by_inverse) {
        entity.relations[at].on_delete = None;
        let mut facts = vec![relation_fact];
        let taken_over = database_action(fitting, action, is_required(entity, &columns));
        let Some(key) = key.filter(|key| entity.foreign_keys[*key].enforced == EnforcedBy::Database) else {
            let reason = format!("the application no longer acts on deletion, and no foreign key does ({})", action.word());
            return fitting.lose(Grade::Dropped, reason, "act where records are deleted", element, facts);
        };
        let before = entity.foreign_keys[key].on_delete;
        if before == Action::NoAction && taken_over != Action::NoAction {
            entity.foreign_keys[key].on_delete = taken_over;
            facts.push(FactKey::new(&entity.table, foreign_key_element(&entity.foreign_keys[key]), "on_delete"));
        }
        let (grade, instead) = match (action, taken_over) {
            _ if before != Action::NoAction => (Grade::Weakened, format!("the database acts as before: ON DELETE {}", before.sql())),
            (Action::SetValue, _) | (Action::SetDefault, Action::NoAction) => {
                (Grade::Weakened, "the database refuses the deletion".to_owned())
            }
            (_, Action::NoAction) => (Grade::Respelled, "the database refuses a deletion that leaves references".to_owned()),
            (_, action) => (Grade::Strengthened, format!("the database does it: ON DELETE {}", action.sql())),
        };
        return fitting.lose(grade, format!("on deletion the application acted ({})", action.word()), instead, element, facts);
    }
    let lost_value = in_application == Some(Action::SetValue) && !entity.relations[at].extras.contains_key("set_value");
    if lost_value {
        entity.relations[at].on_delete = Some(application_action(fitting, Action::NoAction, false));
        return fitting.lose(
            Grade::Weakened,
            "the value that references were set to on deletion cannot be said",
            "nothing: the database refuses",
            element,
            vec![relation_fact],
        );
    }
    let application_acts = fitting.conventions.delete_actor == crate::dialect::conventions::Actor::Application;
    if let (true, Some(action), Some(key)) = (application_acts, in_application, key) {
        let stored = foreign_key_element(&entity.foreign_keys[key]);
        let keys = &mut entity.foreign_keys[key];
        let before = [("on_delete", std::mem::take(&mut keys.on_delete)), ("on_update", std::mem::take(&mut keys.on_update))];
        let said = before.iter().filter(|(_, action)| *action != Action::NoAction);
        let facts: Vec<FactKey> = said.map(|(aspect, _)| FactKey::new(&entity.table, stored.clone(), *aspect)).collect();
        if !facts.is_empty() {
            let reason = format!("{} acts on deletion in the application, not in the database", fitting.framework);
            let instead = format!("the application does it ({}); a hand-written DELETE is refused", action.word());
            return fitting.lose(Grade::Weakened, reason, instead, element, facts);
        }
        return;
    }
    if application_acts && in_application.is_none() {
        let action = key.map_or(Action::NoAction, |key| entity.foreign_keys[key].on_delete);
        let action = application_action(fitting, action, is_required(entity, &columns));
        entity.relations[at].on_delete = Some(action);
        let mut facts = vec![relation_fact];
        if let Some(key) = key
            && (action, entity.foreign_keys[key].on_update) != (Action::NoAction, Action::NoAction)
        {
            let stored = foreign_key_element(&entity.foreign_keys[key]);
            let keys = &mut entity.foreign_keys[key];
            if keys.on_delete != Action::NoAction {
                facts.push(FactKey::new(&entity.table, stored.clone(), "on_delete"));
            }
            if keys.on_update != Action::NoAction {
                facts.push(FactKey::new(&entity.table, stored, "on_update"));
            }
            (keys.on_delete, keys.on_update) = (Action::NoAction, Action::NoAction);
            let reason = format!("{} acts on deletion in the application, not in the database", fitting.framework);
            let instead = format!("the application does it ({}); a hand-written DELETE is refused", action.word());
            return fitting.lose(Grade::Weakened, reason, instead, element, facts);
        }
        let reason = format!("{} says for each relation what the application does on deletion", fitting.framework);
        fitting.lose(Grade::Added, reason, "nothing: the database refuses", element, facts);
    }
}

/// Actions that the application has no word for, and those that a column cannot follow.
fn possible_actions(fitting: &mut Fitting, entity: &mut Entity, at: usize) {
    let columns = entity.relations[at].columns.clone();
    let element = format!("{}.{}", entity.name, entity.relations[at].name.as_deref().unwrap_or_default());
    let required = is_required(entity, &columns);
    let never_null = "a reference that is never null cannot be set to null";
    if let Some(action) = entity.relations[at].on_delete {
        let possible = application_action(fitting, action, required);
        if possible != action {
            entity.relations[at].on_delete = Some(possible);
            let known = fitting.conventions.application_actions.contains(&action);
            let facts = vec![FactKey::new(&entity.table, format!("relation {}", columns.join(", ")), "on_delete")];
            let changes = matches!(action, Action::SetValue | Action::SetDefault);
            let grade = if changes { Grade::Weakened } else { Grade::Respelled };
            let no_word = || format!("{} cannot tell the application to act so on deletion ({})", fitting.framework, action.word());
            let reason = if known { never_null.to_owned() } else { no_word() };
            fitting.lose(grade, reason, "the application refuses the deletion", element.clone(), facts);
        }
    }
    let Some(key) = entity.foreign_keys.iter().position(|key| key.columns == columns) else { return };
    for (name, when) in [("on_delete", "deletion"), ("on_update", "change of the key")] {
        let stored = foreign_key_element(&entity.foreign_keys[key]);
        let key = &mut entity.foreign_keys[key];
        let action = if name == "on_delete" { &mut key.on_delete } else { &mut key.on_update };
        if *action == Action::SetNull && !null_can_be_set(fitting, required) {
            *action = Action::NoAction;
            let facts = vec![FactKey::new(&entity.table, stored, name)];
            let instead = format!("NO ACTION: the database refuses the {when}, as it did");
            fitting.lose(Grade::Respelled, never_null, instead, element.clone(), facts);
        }
    }
}

fn null_can_be_set(fitting: &Fitting, required: bool) -> bool {
    !required || fitting.conventions.null_set_on_required
}

/// What the application can do of an action.
fn application_action(fitting: &Fitting, action: Action, required: bool) -> Action {
    let known = fitting.conventions.application_actions.contains(&action);
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
    if fitting.conventions.documents {
        return;
    }
    if fitting.conventions.kind_by_uniqueness {
        if entity.relations[at].inverse.is_some() {
            return;
        }
        if entity.relations[at].kind == RelationKind::ManyToOne && entity.is_unique(&columns) {
            entity.relations[at].kind = RelationKind::OneToOne;
            let fact = FactKey::new(&entity.table, format!("relation {}", columns.join(", ")), "kind");
            let element = format!("{}.{}", entity.name, entity.relations[at].name.as_deref().unwrap_or_default());
            let reason = "a relation over a unique column is a one-to-one";
            return fitting.lose(Grade::Respelled, reason, "it is read as one", element, vec![fact]);
        }
    }
    if entity.relations[at].kind != RelationKind::OneToOne {
        return;
    }
    let by_relation = !fitting.conventions.kind_by_uniqueness && fitting.conventions.one_to_one_unique;
    if by_relation && index_for_constraint(fitting, entity, &columns) {
        return;
    }
    if entity.is_unique(&columns) {
        return;
    }
    let r#as = fitting.conventions.unique_as(columns.len(), false);
    let unique = Unique { columns, r#as, origin: Origin::implied("a one-to-one is unique"), ..Unique::default() };
    let facts = vec![FactKey::new(&entity.table, unique_element(&unique), "")];
    let element = format!("{}.{}", entity.name, entity.relations[at].name.as_deref().unwrap_or_default());
    entity.uniques.push(unique);
    fitting.lose(Grade::Strengthened, "a one-to-one was not unique in the database", "a unique constraint is made", element, facts);
}

/// A one-to-one makes a unique constraint: it takes the place of a plain unique index without a name of its own.
fn index_for_constraint(fitting: &mut Fitting, entity: &mut Entity, columns: &[String]) -> bool {
    let constrained = entity.key_columns() == columns || entity.uniques.iter().any(|unique| unique.columns == columns);
    let plain = |index: &Index| {
        index.unique
            && index.named_by != NamedBy::Author
            && index.condition.is_none()
            && index.method.is_none()
            && index.include.is_empty()
            && index.plain_columns() == columns
            && index.parts.iter().all(crate::schema::IndexPart::is_plain)
    };
    let Some(at) = entity.indexes.iter().position(plain).filter(|_| !constrained) else { return false };
    let index = entity.indexes.remove(at);
    let nulls_not_distinct = index.nulls_not_distinct;
    let unique = Unique { columns: columns.to_vec(), nulls_not_distinct, origin: index.origin.clone(), ..Unique::default() };
    let facts = vec![FactKey::new(&entity.table, index_element(&index), ""), FactKey::new(&entity.table, unique_element(&unique), "")];
    let element = format!("{} ({})", entity.name, columns.join(", "));
    entity.uniques.push(unique);
    fitting.lose(Grade::Respelled, "a one-to-one makes a unique constraint", "it takes the place of the unique index", element, facts);
    true
}

/// When a foreign key is checked, and whether there is one.
fn checked(fitting: &mut Fitting, entity: &mut Entity, at: usize) {
    let stored = foreign_key_element(&entity.foreign_keys[at]);
    let element = format!("{} ({})", entity.name, entity.foreign_keys[at].columns.join(", "));
    let fact = |aspect: &str| vec![FactKey::new(&entity.table, stored.clone(), aspect)];
    let has_relation = entity.relations.iter().any(|relation| relation.columns == entity.foreign_keys[at].columns);
    let fixed = fitting.conventions.deferrable;
    let default = [entity.foreign_keys[at].on_delete, entity.foreign_keys[at].on_update].contains(&Action::SetDefault);
    if default && !fitting.capabilities.has(Feature::SetDefault) {
        for (name, action) in [("on_delete", true), ("on_update", false)] {
            let key = &mut entity.foreign_keys[at];
            let action = if action { &mut key.on_delete } else { &mut key.on_update };
            if *action == Action::SetDefault {
                *action = Action::NoAction;
                let reason = format!("{} cannot tell the database to set a default", fitting.framework);
                fitting.lose(Grade::Weakened, reason, "the database refuses", element.clone(), fact(name));
            }
        }
    }
    let key = &mut entity.foreign_keys[at];
    if fitting.conventions.kind_by_uniqueness && key.enforced == EnforcedBy::Application {
        let said = [
            ("deferrable", key.deferrable.take().is_some()),
            ("on_delete", std::mem::take(&mut key.on_delete) != Action::NoAction),
            ("on_update", std::mem::take(&mut key.on_update) != Action::NoAction),
        ];
        let facts: Vec<FactKey> = said.iter().filter(|(_, said)| *said).flat_map(|(aspect, _)| fact(aspect)).collect();
        if !facts.is_empty() {
            let reason = "nothing is said of when and how the database checks a reference that it does not keep";
            fitting.lose(Grade::Respelled, reason, "the application keeps it as before", element, facts);
        }
        return;
    }
    let wanted = if fitting.conventions.references_enforced { EnforcedBy::Database } else { EnforcedBy::Application };
    if key.enforced != wanted && !fitting.capabilities.has(Feature::UnenforcedReference) {
        key.enforced = wanted;
        let (grade, reason, instead) = match wanted {
            EnforcedBy::Database => {
                (Grade::Strengthened, "every relation has a foreign key here", "the database refuses a reference to nothing")
            }
            EnforcedBy::Application => (Grade::Weakened, "no relation has a foreign key here", "the application keeps the reference"),
        };
        fitting.lose(grade, reason, instead, element.clone(), fact("enforced"));
    }
    let key = &mut entity.foreign_keys[at];
    if key.deferrable.is_some() && !fitting.capabilities.has(Feature::Deferrable) {
        key.deferrable = None;
        let reason = "a foreign key cannot be checked at commit here";
        return fitting.lose(Grade::Strengthened, reason, "it is checked at each statement", element, fact("deferrable"));
    }
    if has_relation && fixed.is_some() && key.deferrable != fixed {
        key.deferrable = fixed;
        let reason = format!("{} has every foreign key checked at commit", fitting.framework);
        fitting.lose(Grade::Added, reason, "DEFERRABLE INITIALLY DEFERRED", element, fact("deferrable"));
    }
}

/// Join tables that the framework makes by itself.
fn join_actions(fitting: &mut Fitting, entity: &mut Entity) {
    for at in 0..entity.relations.len() {
        let (expected, relation) = (
            (fitting.conventions.delete_actor == crate::dialect::conventions::Actor::Application).then_some(Action::Cascade),
            &mut entity.relations[at],
        );
        if relation.on_delete != expected {
            relation.on_delete = expected;
            let fact = FactKey::new(&entity.table, format!("relation {}", relation.columns.join(", ")), "on_delete");
            fitting.lose(
                Grade::Respelled,
                "the rows of a join table go with the records that they join",
                "as the framework does it",
                entity.name.clone(),
                vec![fact],
            );
        }
    }
}
