//! The account while it is drawn up: equal reasons are one loss, and what is told already is found at once.

use std::collections::HashMap;

use super::{Grade, Loss};
use crate::schema::facts::FactKey;

/// The losses so far.
#[derive(Default)]
pub(super) struct Losses {
    list: Vec<Loss>,
    by_reason: HashMap<(Grade, String, String), usize>,
    /// The loss that tells of a fact first.
    told: HashMap<FactKey, usize>,
}

impl Losses {
    /// Records a change; equal reasons with equal ways out are one loss.
    pub(super) fn add(&mut self, grade: Grade, reason: String, instead: String, element: String, facts: Vec<FactKey>) {
        let at = *self.by_reason.entry((grade, reason, instead)).or_insert_with_key(|(grade, reason, instead)| {
            let (reason, instead) = (reason.clone(), instead.clone());
            self.list.push(Loss { grade: *grade, reason, instead, elements: Vec::new(), facts: Vec::new() });
            self.list.len() - 1
        });
        self.list[at].elements.push(element);
        self.tell(at, facts);
    }

    /// Adds facts to a loss.
    pub(super) fn tell(&mut self, at: usize, facts: Vec<FactKey>) {
        for fact in &facts {
            self.told.entry(fact.clone()).or_insert(at);
        }
        self.list[at].facts.extend(facts);
    }

    /// The loss that tells of a fact.
    pub(super) fn telling(&self, fact: &FactKey) -> Option<usize> {
        self.told.get(fact).copied()
    }

    /// Whether a fact is told, by itself or with the whole of its element or its table.
    pub(super) fn cover(&self, fact: &FactKey) -> bool {
        let of_element = FactKey { aspect: "".into(), ..fact.clone() };
        let of_table = FactKey { element: "".into(), ..of_element.clone() };
        [fact, &of_element, &of_table].into_iter().any(|known| self.told.contains_key(known))
    }

    /// All of them, the gravest first.
    pub(super) fn sorted(mut self) -> Vec<Loss> {
        self.list.sort_by_key(|loss| loss.grade);
        self.list
    }
}
