use foldhash::{HashMap, HashSet};

use super::cascade_reaches_far::cascades;
use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::facts::foreign_key_element;
use crate::schema::{Entity, ForeignKey};

pub(super) const RULE: Rule = Rule {
    name: "cascade-in-circle",
    severity: Severity::Warning,
    finds: "tables whose deletions take each other along, round in a circle",
    consequence: "Deleting one row may empty all of the tables: each deleted row takes along \
                  those that refer to it, and theirs in turn.",
    sql: "DELETE FROM vessels WHERE id = 1;  -- takes its voyages, their pilots' vessels, those \
          vessels' voyages ...",
    cure: "Refuse the deletion, or set the reference to null, at one step of the circle.",
    exception: "When the rows of the circle always go together.",
    wrong: sql("CREATE TABLE vessels (id integer PRIMARY KEY, escort_id integer);
CREATE TABLE escorts (id integer PRIMARY KEY, vessel_id integer REFERENCES vessels (id) ON DELETE \
         CASCADE);
ALTER TABLE vessels ADD FOREIGN KEY (escort_id) REFERENCES escorts (id) ON DELETE CASCADE;
"),
    right: sql("CREATE TABLE vessels (id integer PRIMARY KEY, escort_id integer);
CREATE TABLE escorts (id integer PRIMARY KEY, vessel_id integer REFERENCES vessels (id) ON DELETE \
         CASCADE);
ALTER TABLE vessels ADD FOREIGN KEY (escort_id) REFERENCES escorts (id) ON DELETE SET NULL;
"),
    cases: &[(
        0,
        sql("CREATE TABLE quays (id integer PRIMARY KEY, inside_id integer REFERENCES quays \
             (id) ON DELETE CASCADE);"),
    )],
    whole: true,
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let mut above: HashMap<&str, Vec<(&Entity, &ForeignKey)>> = HashMap::default();
    for entity in context.tables() {
        for key in entity.foreign_keys.iter().filter(|key| cascades(entity, key)) {
            let Some(target) =
                context.referenced(&key.references).filter(|target| target.id != entity.id)
            else {
                continue;
            };
            above.entry(&entity.id).or_default().push((target, key));
        }
    }
    let mut left: HashSet<&str> = HashSet::default();
    for entity in context.tables().filter(|entity| above.contains_key(entity.id.as_str())) {
        let Some(circle) = circle(entity, &above, &mut left) else { continue };
        let (last, key) = circle[circle.len() - 1];
        let tables: Vec<&str> = circle.iter().map(|(entity, _)| entity.table.as_str()).collect();
        found.push(
            RULE.finding(
                last,
                foreign_key_element(key),
                format!("deletions go round in a circle: {}", tables.join(" and ")),
            )
            .at(key.origin.span(), "closes the circle")
            .and_at(circle[0].1.origin.span(), "takes rows along too")
            .because("one deletion may empty all of these tables")
            .with_help("refuse it, or set the reference to null, at one step"),
        );
    }
}

/// A way from an entity back to itself. Entities that were left behind are not entered again: each
/// is walked once.
fn circle<'s>(
    start: &'s Entity,
    above: &HashMap<&str, Vec<(&'s Entity, &'s ForeignKey)>>,
    left: &mut HashSet<&'s str>,
) -> Option<Vec<(&'s Entity, &'s ForeignKey)>> {
    let mut path: Vec<(&Entity, &ForeignKey)> = Vec::new();
    let mut stack: Vec<(&'s Entity, usize)> = vec![(start, 0)];
    while let Some((entity, next)) = stack.pop() {
        path.truncate(stack.len());
        let steps = above.get(entity.id.as_str()).map_or(&[] as &[_], Vec::as_slice);
        let Some((target, key)) = steps.get(next) else {
            left.insert(&entity.id);
            continue;
        };
        stack.push((entity, next + 1));
        path.push((entity, key));
        if let Some(at) = path.iter().position(|(known, _)| known.id == target.id) {
            left.extend(path.iter().map(|(entity, _)| entity.id.as_str()));
            return Some(path.split_off(at));
        }
        if !left.contains(target.id.as_str()) {
            stack.push((target, 0));
        }
    }
    None
}
