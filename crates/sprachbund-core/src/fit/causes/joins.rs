//! Causes that concern join tables.

use super::{Speaker, Words, words};
use crate::fit::Grade::{Added, Dropped, Respelled};

/// Why a many-to-many is said in another way.
#[derive(Clone, Debug, PartialEq)]
pub(in crate::fit) enum OfJoin {
    OwnShapeOnly,
    WithoutReferences,
    NobodyOwns,
    /// The join table that gets a class.
    HasClass(String),
    ReferencesNamed,
    NoSymmetry,
    NoNamedReferences,
}

const BY_CLASS: &str = "reach the other side by the class of the join table";

impl OfJoin {
    pub(super) fn words(&self, Speaker { framework, .. }: &Speaker<'_>) -> Words {
        match self {
            OfJoin::OwnShapeOnly => words(
                Respelled,
                format!("{framework} joins two tables only by a join table of its own shape"),
                "the join table has a class",
            )
            .then_do(BY_CLASS),
            OfJoin::WithoutReferences => words(
                Dropped,
                format!("{framework} joins two tables only by references to both"),
                "the relation is left out",
            )
            .then_do(BY_CLASS),
            OfJoin::NobodyOwns => words(
                Respelled,
                "neither side owns a many-to-many",
                "it is counted to the side that the join table refers to first",
            ),
            OfJoin::HasClass(table) => words(
                Added,
                format!("the join table `{table}` has a shape that {framework} would not give it"),
                "it has a class of its own",
            ),
            OfJoin::ReferencesNamed => words(
                Added,
                "a join to itself by a class names its two references",
                "they are named",
            ),
            OfJoin::NoSymmetry => words(
                Dropped,
                format!("{framework} has no relation that goes both ways at once"),
                "it goes one way",
            )
            .then_do("join both ways where records are joined"),
            OfJoin::NoNamedReferences => words(
                Respelled,
                format!("{framework} does not name the references of a join table"),
                "the relation follows its join table",
            ),
        }
    }
}
