//! Causes that concern keys, and tables without one.

use super::{Speaker, Words, words};
use crate::fit::Grade::{Added, Dropped, Respelled, Strengthened, Weakened};

/// Why a key is another one.
#[derive(Clone, Debug, PartialEq)]
pub(in crate::fit) enum OfKey {
    NoViews,
    NoKeyOfView,
    /// Columns that tell the records apart become the key.
    KeyByUniqueness(Vec<String>),
    /// Keys have one column here.
    KeyOfOneColumn,
    /// A column of this name becomes the key.
    GivenKey(String),
    /// The framework refuses the class; nothing stands in for a key.
    Keyless,
    /// The framework makes the table and does not read it.
    Unreadable,
    NoName,
}

impl OfKey {
    pub(super) fn words(&self, Speaker { framework, .. }: &Speaker<'_>) -> Words {
        match self {
            OfKey::NoViews => words(
                Respelled,
                format!("{framework} has no word for a view"),
                "a class of a table that it does not make",
            ),
            OfKey::NoKeyOfView => words(
                Respelled,
                format!("{framework} has no key of a view"),
                "its columns are unique",
            ),
            OfKey::KeyByUniqueness(columns) => words(
                Strengthened,
                format!("{framework} has no class without a key"),
                format!("({}) is unique and never null: it becomes the key", columns.join(", ")),
            ),
            OfKey::KeyOfOneColumn => words(
                Weakened,
                format!("{framework} has no key of several columns"),
                "its columns are unique, and another key takes its place",
            ),
            OfKey::GivenKey(name) => words(
                Added,
                format!("{framework} has no class without a key"),
                format!("it gets a column `{name}` that is numbered"),
            )
            .then_do("give the table the column, too"),
            OfKey::Keyless => words(
                Weakened,
                format!("{framework} has no class without a key"),
                "the framework refuses the class until it has one",
            )
            .then_do("declare the columns that identify a record"),
            OfKey::Unreadable => words(
                Weakened,
                format!("{framework} does not read records that nothing tells apart"),
                "the table is made, and is not used",
            )
            .then_do("give it a key"),
            OfKey::NoName => {
                words(Dropped, "the name of a primary key cannot be said", "the server names it")
            }
        }
    }
}
