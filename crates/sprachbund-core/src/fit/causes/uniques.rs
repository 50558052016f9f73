//! Causes that concern what is unique.

use super::{Elsewhere, Speaker, Words, words};
use crate::fit::Grade::{Added, Dropped, Moved, Respelled, Strengthened};

/// Why it is said in another way.
#[derive(Clone, Debug, PartialEq)]
pub(in crate::fit) enum OfUnique {
    OneOverSameColumns,
    KeyIsUnique,
    UniqueNeedsName,
    NullCounts(Elsewhere),
    UniqueWithoutName,
    InOneUniqueOnly,
    UniqueInOrder,
    NoDeferrable,
    OtherObject,
    /// Whether all that is unique is an index.
    OneWordForUnique {
        index: bool,
    },
}

const GIVEN: &str = "one is given";

impl OfUnique {
    pub(super) fn words(&self, Speaker { framework, .. }: &Speaker<'_>) -> Words {
        match self {
            OfUnique::OneOverSameColumns => words(
                Respelled,
                format!("{framework} makes one unique constraint over the same columns, not two"),
                "the named one is made",
            ),
            OfUnique::KeyIsUnique => words(
                Respelled,
                "a key is unique by itself",
                "the constraint beside it is left out",
            ),
            OfUnique::UniqueNeedsName => {
                words(Added, "such a unique constraint must have a name", GIVEN)
            }
            OfUnique::NullCounts(kept) => {
                let reason = format!("{framework} cannot say that null counts as a value");
                match kept {
                    Elsewhere::Script => words(Moved, reason, "the script adds the constraint"),
                    Elsewhere::Nowhere => {
                        words(Dropped, reason, "this server cannot hold it either")
                    }
                }
            }
            OfUnique::UniqueWithoutName => words(
                Respelled,
                format!("{framework} gives no name to a unique constraint"),
                "a unique index",
            ),
            OfUnique::InOneUniqueOnly => words(
                Respelled,
                format!("{framework} has a column stand in one unique constraint only"),
                "a unique index",
            ),
            OfUnique::UniqueInOrder => words(
                Respelled,
                format!(
                    "{framework} has columns stand in a unique constraint as they stand in the \
                     class"
                ),
                "a unique index",
            ),
            OfUnique::NoDeferrable => words(
                Strengthened,
                "a unique constraint cannot be checked at commit here",
                "it is checked at each statement",
            ),
            OfUnique::OtherObject => words(
                Respelled,
                "uniqueness is kept by another object of the database",
                "values are as unique as before",
            ),
            OfUnique::OneWordForUnique { index: true } => words(
                Respelled,
                format!("{framework} has one word for all that is unique"),
                "a unique index, as before",
            ),
            OfUnique::OneWordForUnique { index: false } => words(
                Respelled,
                format!("{framework} makes unique constraints, not plain unique indexes"),
                "a unique constraint",
            ),
        }
    }
}
