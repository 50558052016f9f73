//! Who numbers a column.

use super::Decision;
use crate::dialect::Conventions;
use crate::dialect::conventions::KeyNumbered;
use crate::schema::{Identity, Type};

/// A column that may be numbered.
#[derive(Clone, Copy, Debug)]
pub struct Counter<'c> {
    pub conventions: &'c Conventions,
    pub ty: &'c Type,
    /// Whether the word for its type means a numbered column.
    pub by_word: bool,
    /// Whether it is the whole key.
    pub alone_in_key: bool,
    /// Whether something else gives it a value: the column that it refers to, or a default.
    pub valued: bool,
}

/// What is said of the numbers of a column.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct Numbering {
    /// Which counter gives them.
    pub identity: Option<Identity>,
    /// Whether they are given in the framework's own way.
    pub numbered: Option<bool>,
}

impl Counter<'_> {
    /// Whether it can be said that a column is numbered in the framework's own way, or is not.
    fn has_a_word(&self) -> bool {
        self.conventions.keys.whole_numbered == KeyNumbered::UnlessValued
    }

    /// Whether the column is numbered in the framework's own way, beside any counter that is named.
    pub fn is_numbered(&self, said: Option<bool>) -> bool {
        let unasked = !self.valued || self.conventions.numbers_every_key();
        said.filter(|_| self.has_a_word())
            .unwrap_or(self.alone_in_key && unasked && self.conventions.numbers_by_itself(self.ty))
    }
}

impl Decision for Counter<'_> {
    type Said = Numbering;
    type Meant = Option<Identity>;

    fn fill(&self, said: Numbering) -> Option<Identity> {
        let named = said.identity.or(self.by_word.then_some(self.conventions.keys.generated));
        named
            .or_else(|| self.is_numbered(said.numbered).then(|| self.conventions.silent_identity()))
    }

    fn ways(&self, meant: &Option<Identity>) -> Vec<Numbering> {
        let silence = Numbering::default();
        let named = Numbering { identity: *meant, numbered: None };
        let own_way = |numbered| Numbering { identity: None, numbered: Some(numbered) };
        match self.conventions.keys.whole_numbered {
            // The server numbers it in any case; that it does is told to those who write the rows.
            KeyNumbered::Always if !self.valued => vec![named, silence],
            KeyNumbered::UnlessValued => vec![silence, own_way(true), own_way(false), named],
            KeyNumbered::WhenSaid | KeyNumbered::Always | KeyNumbered::ByRow => {
                vec![silence, named]
            }
        }
    }
}
