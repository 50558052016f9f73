//! Where the application usually acts on deletion and a relation may leave it to the database: the
//! entities whose relations can all do so. A chain of references has to be of one kind (Django
//! 6.1.3 refuses others: fields.E323, models.E050).

use std::collections::{HashMap, HashSet};

use super::Fitting;
use crate::dialect::conventions::Actor;
use crate::schema::{Action, EnforcedBy, Entity, Relation};

/// Addresses of the tables whose relations leave it to the database.
pub(super) fn by_database(fitting: &Fitting) -> HashSet<String> {
    if fitting.conventions.delete.database.is_empty() {
        return HashSet::new();
    }
    let entities = &fitting.schema.entities;
    // What comes from the same framework was said in a way that it takes, or not.
    if fitting.home {
        return entities.iter().map(Entity::address).collect();
    }
    let by_id: HashMap<&str, usize> =
        entities.iter().enumerate().map(|(at, entity)| (entity.id.as_str(), at)).collect();
    let mut chains = Chains((0..entities.len()).collect());
    let mut application: Vec<usize> = Vec::new();
    for (at, entity) in entities.iter().enumerate() {
        // What another package declares, and the link to the table of a parent, are of its kind.
        if entity.external || entity.inherits.is_some() {
            application.push(at);
        }
        for relation in &entity.relations {
            let Some(target) = by_id.get(relation.target.as_str()).copied() else { continue };
            if !entity.mapped.code {
                // The rows of a join table that nobody declares go by the application.
                application.push(target);
            } else if let Some(who) = acts(fitting, entity, relation) {
                application.extend(Some(at).filter(|_| who == Actor::Application));
                if refers(fitting, &entities[target]) || entities[target].external {
                    chains.join(at, target);
                }
            }
        }
    }
    let application: HashSet<usize> = application.into_iter().map(|at| chains.of(at)).collect();
    let free = |at: &usize| !application.contains(&chains.of(*at));
    (0..entities.len()).filter(free).map(|at| entities[at].address()).collect()
}

/// Who can do what happens on deletion, if something does.
fn acts(fitting: &Fitting, entity: &Entity, relation: &Relation) -> Option<Actor> {
    if let Some(action) = relation.on_delete {
        return (action != Action::NoAction).then_some(Actor::Application);
    }
    let key = entity.foreign_keys.iter().find(|key| key.columns == relation.columns)?;
    if key.on_delete == Action::NoAction {
        return None;
    }
    let fields = || key.columns.iter().filter_map(|column| entity.field(column));
    let holds = match key.on_delete {
        Action::SetNull => fields().all(|field| field.nullable),
        Action::SetDefault => fields().all(|field| field.defaults.database.is_some()),
        _ => true,
    };
    let said = fitting.conventions.delete.database.contains(&key.on_delete);
    let database = holds && said && key.enforced == EnforcedBy::Database;
    Some(if database { Actor::Database } else { Actor::Application })
}

/// Whether something happens to rows of a table when what they refer to goes.
fn refers(fitting: &Fitting, entity: &Entity) -> bool {
    entity.relations.iter().any(|relation| acts(fitting, entity, relation).is_some())
}

/// Entities that hang together, each by a member that stands for all of them.
struct Chains(Vec<usize>);

impl Chains {
    fn of(&mut self, mut at: usize) -> usize {
        while self.0[at] != at {
            // The way is shorter for whoever comes next.
            self.0[at] = self.0[self.0[at]];
            at = self.0[at];
        }
        at
    }

    fn join(&mut self, one: usize, other: usize) {
        let (one, other) = (self.of(one), self.of(other));
        self.0[one] = other;
    }
}
