//! Relations and foreign keys: who acts on deletion, when keys are checked, what makes a one-to-one unique.

use super::{Fitting, Grade};
use crate::dialect::Feature;
use crate::schema::facts::{FactKey, foreign_key_element};
use crate::schema::{Action, EnforcedBy, Entity, Origin, RelationKind, Unique};

/// Fits every reference.
pub(super) fn fit(fitting: &mut Fitting) {
    fitting.each_entity(|fitting, entity| {
        if !entity.mapped.code {
            return;
        }
        for at in 0..entity.relations.len() {
            if entity.relations[at].kind != RelationKind::ManyToMany {
                actions(fitting, entity, at);
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

/// Carries the intent on deletion over to whoever acts in the target.
fn actions(fitting: &mut Fitting, entity: &mut Entity, at: usize) {
    let relation = &entity.relations[at];
    let element = format!("{}.{}", entity.name, relation.name.as_deref().unwrap_or_default());
    let columns = relation.columns.clone();
    let relation_fact = FactKey::new(&entity.table, format!("relation {}", columns.join(", ")), "on_delete");
    let key = entity.foreign_keys.iter().position(|key| key.columns == columns);
    let in_application = entity.relations[at].on_delete;
    if let (Some(action), false) = (in_application, fitting.capabilities.has(Feature::ApplicationAction)) {
        entity.relations[at].on_delete = None;
        let mut facts = vec![relation_fact];
        let taken_over = database_action(fitting, action);
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
        entity.relations[at].on_delete = Some(Action::NoAction);
        return fitting.lose(
            Grade::Weakened,
            "the value that references were set to on deletion cannot be said",
            "nothing: the database refuses",
            element,
            vec![relation_fact],
        );
    }
    if fitting.conventions.delete_actor == crate::dialect::conventions::Actor::Application && in_application.is_none() {
        let action = key.map_or(Action::NoAction, |key| entity.foreign_keys[key].on_delete);
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

/// What the database can do of an application's action.
fn database_action(fitting: &Fitting, action: Action) -> Action {
    match action {
        Action::Protect => Action::Restrict,
        Action::SetValue => Action::NoAction,
        Action::SetDefault if !fitting.capabilities.has(Feature::SetDefault) => Action::NoAction,
        other => other,
    }
}

fn one_to_one(fitting: &mut Fitting, entity: &mut Entity, at: usize) {
    let columns = entity.relations[at].columns.clone();
    if entity.relations[at].kind != RelationKind::OneToOne || entity.is_unique(&columns) {
        return;
    }
    let unique = Unique { columns, origin: Origin::implied("a one-to-one is unique"), ..Unique::default() };
    let facts = vec![FactKey::new(&entity.table, crate::schema::facts::unique_element(&unique), "")];
    let element = format!("{}.{}", entity.name, entity.relations[at].name.as_deref().unwrap_or_default());
    entity.uniques.push(unique);
    fitting.lose(Grade::Strengthened, "a one-to-one was not unique in the database", "a unique constraint is made", element, facts);
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
