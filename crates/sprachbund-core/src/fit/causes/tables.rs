//! Causes that concern whole tables.

use super::{Elsewhere, Speaker, Words, left_out, words};
use crate::fit::Grade::{Added, Dropped, Moved, Respelled, Weakened};

/// Why a table is said in another way.
#[derive(Clone, Debug, PartialEq)]
pub(in crate::fit) enum OfTable {
    NoSecondClass,
    /// The target of a reference.
    Undeclared(String),
    NotJoined,
    OfAnotherPackage,
    CreatesEveryTable,
    /// The named schema.
    NoNamespace(String),
    NoReferenceIntoNamespace,
    Comment(Elsewhere),
    NoDisplayText,
    NoSuchOrder,
    NoSoftDelete,
    NoNameOfReference,
}

impl OfTable {
    pub(super) fn words(&self, Speaker { framework, .. }: &Speaker<'_>) -> Words {
        match self {
            OfTable::NoSecondClass => words(
                Dropped,
                format!("{framework} has no second class over one table"),
                "the class is left out; relations to it lead to the first one",
            ),
            OfTable::Undeclared(target) => words(
                Dropped,
                format!("nobody declares `{target}`, so the type of the reference is not known"),
                "the reference and its column are left out",
            )
            .then_do("add the declaration to the inputs"),
            OfTable::NotJoined => words(
                Respelled,
                format!("{framework} has no child tables joined to their parent's"),
                "the child is a class of its own with a one-to-one to its parent",
            ),
            OfTable::OfAnotherPackage => words(
                Respelled,
                format!(
                    "this class belongs to a package of the source framework that {framework} \
                     does not have"
                ),
                "a stub with its key only, for which no table is created",
            ),
            OfTable::CreatesEveryTable => words(
                Added,
                format!("{framework} creates every table that its declarations name"),
                "it creates this one",
            )
            .then_do("tell it in its configuration to leave out this table"),
            OfTable::NoNamespace(name) => words(
                Dropped,
                format!("{framework} cannot put a table into a named schema"),
                "the table is expected on the search path",
            )
            .then_do(format!("set it to `{name}` for the connection")),
            OfTable::NoReferenceIntoNamespace => words(
                Dropped,
                format!("{framework} cannot refer to a table of a named schema"),
                "the table is expected on the search path",
            ),
            OfTable::Comment(Elsewhere::Script) => {
                words(Moved, "the comment of the table cannot be said", "the script adds it")
            }
            OfTable::Comment(Elsewhere::Nowhere) => words(
                Dropped,
                "the comment of the table cannot be said",
                "this server keeps none either",
            ),
            OfTable::NoDisplayText => {
                left_out("the display text of a record has no place in an entity")
                    .then_do("format records where they are shown")
            }
            OfTable::NoSuchOrder => {
                left_out("this natural order cannot be said").then_do("order each query")
            }
            OfTable::NoSoftDelete => words(
                Weakened,
                format!("{framework} does not leave out records that are marked as deleted"),
                "the column stays",
            )
            .then_do("filter by it in each query"),
            OfTable::NoNameOfReference => {
                words(Dropped, "the name of a foreign key cannot be said", "the framework names it")
            }
        }
    }
}
