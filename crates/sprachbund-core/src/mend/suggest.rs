//! What a cure looks like in the dialect's own words: the lines of a class that its printer would write anew.

use std::collections::BTreeMap;

use similar::{ChangeTag, TextDiff};

use super::{MOST_ROUNDS, Regions, one_of_each, printed};
use crate::dialect::{Dialect, Settings};
use crate::schema::{Change, Schema};

/// Lines that are shown of one cure.
const MOST_LINES: usize = 6;

/// For each change (by its place in the list) the lines that say it, without those around them. A schema is printed once for
/// all classes: classes with several changes take several rounds, of which there are only so many.
pub fn suggestions(schema: &Schema, dialect: &Dialect, settings: &Settings, changes: &[&Change]) -> BTreeMap<usize, Vec<String>> {
    let mut found = BTreeMap::new();
    let before = printed(schema, dialect, settings);
    let old = Regions::of(&before.schema, &before.sources);
    let mut waiting: Vec<usize> = (0..changes.len()).collect();
    for _ in 0..MOST_ROUNDS {
        let (now, later) = one_of_each(changes, waiting);
        if now.is_empty() {
            break;
        }
        let mut changed = schema.clone();
        let made: Vec<usize> = now.into_iter().filter(|at| changes[*at].apply(&mut changed)).collect();
        let after = printed(&changed, dialect, settings);
        let new = Regions::of(&after.schema, &after.sources);
        for at in made {
            let Some(class) = schema.entity(changes[at].entity()).map(|entity| (entity.name.clone(), entity.address())) else { continue };
            let (Some(base), Some(theirs)) = (old.classes.get(&class), new.classes.get(&class)) else { continue };
            let lines = added(old.text(base), new.text(theirs));
            if !lines.is_empty() && lines.len() <= MOST_LINES {
                found.insert(at, lines);
            }
        }
        waiting = later;
    }
    found
}

/// Lines of the second text that the first one does not have.
fn added(before: &str, after: &str) -> Vec<String> {
    let diff = TextDiff::from_lines(before, after);
    let new = diff.iter_all_changes().filter(|change| change.tag() == ChangeTag::Insert);
    new.map(|change| change.value().trim().to_owned()).filter(|line| !line.is_empty()).collect()
}
