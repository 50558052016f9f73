//! What a cure looks like in the dialect's own words: the lines of a class that its printer would write anew.

use std::collections::{BTreeMap, HashSet};

use similar::{ChangeTag, TextDiff};

use super::{Regions, printed};
use crate::dialect::{Dialect, Settings};
use crate::schema::{Change, Schema};

/// Lines that are shown of one cure.
const MOST_LINES: usize = 6;

/// For each change (by its place in the list) the lines that say it, without those around them. A schema is printed once for
/// all classes: classes with several changes take several rounds.
pub fn suggestions(schema: &Schema, dialect: &Dialect, settings: &Settings, changes: &[&Change]) -> BTreeMap<usize, Vec<String>> {
    let mut found = BTreeMap::new();
    let before = printed(schema, dialect, settings);
    let old = Regions::of(&before.schema, &before.sources);
    let mut waiting: Vec<usize> = (0..changes.len()).collect();
    while !waiting.is_empty() {
        let mut touched: HashSet<&str> = HashSet::new();
        let (now, later): (Vec<usize>, Vec<usize>) = waiting.into_iter().partition(|at| touched.insert(changes[*at].entity()));
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
