//! Tables that refer to each other in a circle.

use std::collections::{HashMap, HashSet};
use std::hash::Hash;

/// Whether any circle is in these references, from table to table; a table may refer to itself.
pub fn has_circle<T: Eq + Hash + Clone>(references: impl IntoIterator<Item = (T, T)>) -> bool {
    !in_circles(references).is_empty()
}

/// The tables that stand in a circle, or that lead to one.
pub fn in_circles<T: Eq + Hash + Clone>(
    references: impl IntoIterator<Item = (T, T)>,
) -> HashSet<T> {
    let references: HashSet<(T, T)> =
        references.into_iter().filter(|(from, to)| from != to).collect();
    let mut left: HashMap<&T, usize> = HashMap::new();
    let mut referring: HashMap<&T, Vec<&T>> = HashMap::new();
    for (from, to) in &references {
        *left.entry(from).or_default() += 1;
        left.entry(to).or_default();
        referring.entry(to).or_default().push(from);
    }
    // What refers to nothing that is left goes, until nothing goes any more.
    let mut ends: Vec<&T> =
        left.iter().filter(|(_, count)| **count == 0).map(|(table, _)| *table).collect();
    while let Some(end) = ends.pop() {
        left.remove(end);
        for table in referring.get(end).into_iter().flatten() {
            if let Some(count) = left.get_mut(table) {
                *count -= 1;
                ends.extend((*count == 0).then_some(*table));
            }
        }
    }
    left.into_keys().cloned().collect()
}

/// References to which one after the other is added.
#[derive(Default)]
pub struct Ways {
    places: HashMap<String, usize>,
    to: Vec<Vec<usize>>,
    /// One of them closed a circle.
    circled: bool,
}

impl Ways {
    /// Whether a circle is there once this reference is added.
    pub fn would_circle(&mut self, from: &str, to: &str) -> bool {
        let (from, to) = (self.place(from), self.place(to));
        self.circled || self.leads(to, from)
    }

    /// Adds a reference.
    pub fn add(&mut self, from: &str, to: &str) {
        let (from, to) = (self.place(from), self.place(to));
        self.circled |= from != to && self.leads(to, from);
        self.to[from].push(to);
    }

    fn place(&mut self, table: &str) -> usize {
        if let Some(known) = self.places.get(table) {
            return *known;
        }
        self.places.insert(table.to_owned(), self.to.len());
        self.to.push(Vec::new());
        self.to.len() - 1
    }

    fn leads(&self, from: usize, to: usize) -> bool {
        let mut seen = vec![false; self.to.len()];
        let mut waiting = vec![from];
        while let Some(at) = waiting.pop() {
            if at == to {
                return true;
            }
            if !std::mem::replace(&mut seen[at], true) {
                waiting.extend(&self.to[at]);
            }
        }
        false
    }
}

#[cfg(test)]
mod tests {
    use super::{Ways, has_circle};

    #[test]
    fn a_reference_that_closes_a_circle_is_told() {
        let mut ways = Ways::default();
        ways.add("a", "b");
        ways.add("b", "c");
        assert!(ways.would_circle("c", "a") && !ways.would_circle("a", "c"));
        ways.add("c", "a");
        assert!(ways.would_circle("x", "y"), "one is there already");
    }

    #[test]
    fn circles_are_found() {
        for (references, circle) in [
            (vec![], false),
            (vec![(1, 1)], false),
            (vec![(1, 2), (2, 3), (1, 3)], false),
            (vec![(1, 2), (2, 3), (3, 1), (4, 1)], true),
        ] {
            assert_eq!(has_circle(references), circle);
        }
    }
}
