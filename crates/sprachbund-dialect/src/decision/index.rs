//! What is unique or indexed where nothing is said of it at the column.

use super::Silence;
use crate::dialect::Conventions;

/// Whether a column is unique by a constraint of its own.
#[derive(Clone, Copy, Debug)]
pub struct Uniqueness<'c> {
    pub conventions: &'c Conventions,
    /// Whether it carries a one-to-one.
    pub one_to_one: bool,
    /// Whether it is the whole key, which is unique without one.
    pub whole_key: bool,
    /// Whether it is one of several that a relation has.
    pub of_several: bool,
}

impl Silence for Uniqueness<'_> {
    type Value = bool;

    fn silent(&self) -> bool {
        false
    }

    fn fixed(&self) -> Option<bool> {
        if self.whole_key || self.of_several {
            return Some(false);
        }
        (self.one_to_one && self.conventions.references.one_to_one_unique).then_some(true)
    }
}

/// Whether the column of an attribute has an index of its own.
#[derive(Clone, Copy, Debug)]
pub struct ValueIndex {
    /// Whether the word for its type means an indexed column.
    pub by_word: bool,
    /// Whether something else indexes it: it is the whole key, or unique.
    pub served: bool,
    /// Whether the framework makes an index over such a type.
    pub makeable: bool,
}

impl Silence for ValueIndex {
    type Value = bool;

    fn silent(&self) -> bool {
        self.by_word
    }

    fn fixed(&self) -> Option<bool> {
        (self.served || !self.makeable).then_some(false)
    }
}

/// Whether the column of a relation has an index of its own.
#[derive(Clone, Copy, Debug)]
pub struct ReferenceIndex<'c> {
    pub conventions: &'c Conventions,
    /// Whether something else indexes it: it is the whole key, or unique.
    pub served: bool,
    /// Whether it is one of several that the relation has.
    pub of_several: bool,
    /// Whether an attribute of its own says it.
    pub has_attribute: bool,
    /// Whether the database keeps the reference.
    pub enforced: bool,
}

impl ReferenceIndex<'_> {
    /// Whether the server makes it, since there is a foreign key, and the framework relies on that.
    pub fn is_left_to_server(&self) -> bool {
        self.enforced && self.conventions.leaves_indexes_to_server()
    }
}

impl Silence for ReferenceIndex<'_> {
    type Value = bool;

    fn silent(&self) -> bool {
        self.conventions.references.indexed && !self.has_attribute && !self.is_left_to_server()
    }

    fn fixed(&self) -> Option<bool> {
        (self.served || self.of_several).then_some(false)
    }
}
