//! What a cure looks like in the dialect's own words: the lines of a class that its printer would
//! write anew.

use std::collections::{BTreeMap, HashMap, HashSet};

use rayon::prelude::*;
use similar::{ChangeTag, TextDiff};

use super::{Regions, printed};
use crate::dialect::{Dialect, Settings};
use crate::host::project::Outlines;
use crate::schema::{Change, Entity, Schema, Type};

/// Lines that are shown of one cure.
const MOST_LINES: usize = 6;

/// For each change (by its place in the list) the lines that say it, without those around them.
///
/// Printed is the class with those that it refers to and that refer to it, not the whole schema: a
/// suggestion costs the same in a large project as in a small one.
pub fn suggestions(
    schema: &Schema,
    dialect: &Dialect,
    settings: &Settings,
    changes: &[&Change],
) -> BTreeMap<usize, Vec<String>> {
    let near = Near::of(schema);
    // The framework's own classes are the same in all of them.
    let lowered = Outlines::default();
    let lines = |(at, change): (usize, &&Change)| {
        let part = near.around(change.entity())?;
        let mut changed = part.clone();
        if !change.apply(&mut changed) {
            return None;
        }
        let print = |part: &Schema| printed(part, dialect, settings, &lowered);
        let (before, after) = (print(&part), print(&changed));
        let old = Regions::of(&before.schema, &before.sources);
        let new = Regions::of(&after.schema, &after.sources);
        let entity = part.entity(change.entity())?;
        let class = (entity.name.clone(), entity.address());
        let lines = added(old.text(old.classes.get(&class)?), new.text(new.classes.get(&class)?));
        (!lines.is_empty() && lines.len() <= MOST_LINES).then_some((at, lines))
    };
    changes.par_iter().enumerate().filter_map(lines).collect()
}

/// The entities of a schema, and which of them have to do with each other.
struct Near<'s> {
    schema: &'s Schema,
    places: HashMap<&'s str, usize>,
    /// By the id of an entity: those that refer to it.
    referring: HashMap<&'s str, Vec<usize>>,
}

impl<'s> Near<'s> {
    fn of(schema: &'s Schema) -> Self {
        let (mut places, mut referring) = (HashMap::new(), HashMap::<&str, Vec<usize>>::new());
        for (at, entity) in schema.entities.iter().enumerate() {
            places.insert(entity.id.as_str(), at);
            for id in relatives(entity) {
                referring.entry(id).or_default().push(at);
            }
        }
        Near { schema, places, referring }
    }

    /// A schema of one entity, those that it needs, and those that refer to it.
    fn around(&self, id: &str) -> Option<Schema> {
        let centre = *self.places.get(id)?;
        let mut kept: HashSet<usize> = HashSet::from([centre]);
        kept.extend(self.referring.get(id).into_iter().flatten());
        let mut waiting: Vec<usize> = kept.iter().copied().collect();
        while let Some(at) = waiting.pop() {
            let entity = &self.schema.entities[at];
            // Of the neighbours only what they are made of: whom else they refer to does not
            // matter.
            let parents = entity.inherits.iter().map(|inherits| inherits.entity.as_str());
            let owner = entity.owned_by.as_ref().map(|owner| owner.entity.as_str());
            let all = relatives(entity).filter(|_| at == centre);
            let needed = parents.chain(owner).chain(all);
            waiting
                .extend(needed.filter_map(|id| self.places.get(id)).filter(|at| kept.insert(**at)));
        }
        let mut places: Vec<usize> = kept.into_iter().collect();
        places.sort_unstable();
        let entities: Vec<Entity> =
            places.iter().map(|at| self.schema.entities[*at].clone()).collect();
        Some(self.part(entities))
    }

    /// A schema of these entities alone: relations to others are left out.
    fn part(&self, mut entities: Vec<Entity>) -> Schema {
        let ids: HashSet<String> = entities.iter().map(|entity| entity.id.clone()).collect();
        let mut enumerations: HashSet<String> = HashSet::new();
        for entity in &mut entities {
            entity.relations.retain(|relation| {
                ids.contains(&relation.target)
                    && relation.through.as_ref().is_none_or(|through| ids.contains(through))
            });
            for field in &entity.fields {
                enumerations.extend(enumeration(&field.r#type).map(str::to_owned));
                enumerations.extend(field.choices.clone());
            }
        }
        let known = self.schema.enums.iter();
        let enums = known.filter(|known| enumerations.contains(&known.name)).cloned().collect();
        Schema {
            sprachbund: self.schema.sprachbund,
            source: self.schema.source.clone(),
            entities,
            enums,
            extras: self.schema.extras.clone(),
        }
    }
}

/// The ids of those that an entity refers to.
fn relatives(entity: &Entity) -> impl Iterator<Item = &str> {
    let related = entity.relations.iter();
    let related = related.flat_map(|relation| {
        std::iter::once(relation.target.as_str()).chain(relation.through.as_deref())
    });
    let parents = entity.inherits.iter().map(|inherits| inherits.entity.as_str());
    related.chain(parents).chain(entity.owned_by.as_ref().map(|owner| owner.entity.as_str()))
}

fn enumeration(ty: &Type) -> Option<&str> {
    match ty {
        Type::Enum(name) => Some(name),
        Type::Array(element) => enumeration(element),
        _ => None,
    }
}

/// Lines of the second text that the first one does not have.
fn added(before: &str, after: &str) -> Vec<String> {
    let diff = TextDiff::from_lines(before, after);
    let new = diff.iter_all_changes().filter(|change| change.tag() == ChangeTag::Insert);
    let lines = new.map(|change| change.value().trim().to_owned());
    lines.filter(|line| !line.is_empty()).collect()
}
