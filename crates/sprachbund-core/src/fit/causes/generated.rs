//! Causes that concern values which the database makes: numbers of keys and computed columns.

use super::{Speaker, Words, words};
use crate::fit::Grade::{Added, Dropped, Respelled, Weakened};
use crate::schema::Identity;

/// Why the database makes a value in another way.
#[derive(Clone, Debug, PartialEq)]
pub(in crate::fit) enum OfGenerated {
    NumbersEveryKey,
    NumberedNeedsNoDefault,
    NumbersKeysOnly,
    /// The counter that was.
    OtherCounter(Identity),
    GeneratedByCode,
    NoGenerated,
    StoredOnly,
    NullableGenerated,
}

const FILL_IN: &str = "let the application fill it in";

impl OfGenerated {
    pub(super) fn words(&self, Speaker { framework, .. }: &Speaker<'_>) -> Words {
        match self {
            OfGenerated::NumbersEveryKey => words(
                Added,
                format!("{framework} has every key of one whole number numbered"),
                "a row that comes without a key gets the next number",
            ),
            OfGenerated::NumberedNeedsNoDefault => words(
                Dropped,
                "a column that is numbered needs no default",
                "the database numbers it",
            ),
            OfGenerated::NumbersKeysOnly => words(
                Dropped,
                format!("{framework} numbers only a key of one column"),
                "the column is not numbered",
            )
            .then_do(FILL_IN),
            OfGenerated::OtherCounter(before) => {
                let grade = if *before == Identity::Always { Weakened } else { Respelled };
                words(
                    grade,
                    "the key's numbers come from another kind of counter",
                    format!("{framework} numbers it in its own way"),
                )
            }
            OfGenerated::GeneratedByCode => words(
                Dropped,
                "its expression is code of the source's language",
                "the column is an ordinary one",
            )
            .then_do(FILL_IN),
            OfGenerated::NoGenerated => words(
                Dropped,
                format!("{framework} has no generated columns"),
                "the column is an ordinary one",
            )
            .then_do(FILL_IN),
            OfGenerated::StoredOnly => words(
                Respelled,
                "a generated column can only be kept in the table here",
                "it is kept there",
            ),
            OfGenerated::NullableGenerated => words(
                Weakened,
                format!("{framework} makes every generated column nullable"),
                "its values are still computed",
            ),
        }
    }
}
