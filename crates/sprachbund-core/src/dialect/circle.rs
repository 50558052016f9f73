//! Tables that refer to each other in a circle.

use std::collections::{HashMap, HashSet};
use std::hash::Hash;

/// Whether any circle is in these references, from table to table; a table may refer to itself.
pub(crate) fn has_circle<T: Eq + Hash + Clone>(references: impl IntoIterator<Item = (T, T)>) -> bool {
    let mut leading: HashMap<T, HashSet<T>> = HashMap::new();
    for (from, to) in references.into_iter().filter(|(from, to)| from != to) {
        leading.entry(from).or_default().insert(to.clone());
        leading.entry(to).or_default();
    }
    // What refers to nothing that is left goes, until nothing goes any more.
    loop {
        let ends: Vec<T> = leading.iter().filter(|(_, to)| to.is_empty()).map(|(from, _)| from.clone()).collect();
        if ends.is_empty() {
            return !leading.is_empty();
        }
        for end in ends {
            leading.remove(&end);
            leading.values_mut().for_each(|to| {
                to.remove(&end);
            });
        }
    }
}

#[cfg(test)]
mod tests {
    use super::has_circle;

    #[test]
    fn circles_are_found() {
        for (references, circle) in
            [(vec![], false), (vec![(1, 1)], false), (vec![(1, 2), (2, 3), (1, 3)], false), (vec![(1, 2), (2, 3), (3, 1), (4, 1)], true)]
        {
            assert_eq!(has_circle(references), circle);
        }
    }
}
