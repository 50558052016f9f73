//! Causes that concern unique constraints, indexes, checks and exclusions.

use super::{Elsewhere, Speaker, Words, words};
use crate::dialect::{Feature, capabilities};
use crate::fit::Grade::{Added, Dropped, Moved, Respelled, Strengthened};

/// Why a constraint or an index is said in another way.
#[derive(Clone, Debug, PartialEq)]
pub(in crate::fit) enum OfConstraint {
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
    IndexOfReference,
    IndexOfJoin,
    BeginningOfText,
    /// The server lacks this of an index.
    NoSuchIndex(Feature, Lost),
    Unsayable(&'static str, Elsewhere),
    IndexOverCode,
    CheckIsCode,
    TypeChecksJson,
    NoChecks(Elsewhere),
    Exclusion(Elsewhere),
    CheckNeedsName,
    IndexNeedsName,
    /// The name that the server holds.
    NameCut(String),
    SecondIndexNeedsName,
    SameNames,
    OwnNameNeeded,
    ChecksByItself,
    PatternIndex,
}

/// What becomes of an index of which the server lacks something.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(in crate::fit) enum Lost {
    Uniqueness,
    Speed,
    /// The rest of it is made.
    Part,
    /// Another index holds the rest.
    Known,
    /// The script makes the rest.
    Script,
}

const CHECK: &str = "check the values where input is validated";
const ANEW: &str = "write it anew";
const GIVEN: &str = "one is given";

impl OfConstraint {
    pub(super) fn words(&self, Speaker { framework, server }: &Speaker<'_>) -> Words {
        match self {
            OfConstraint::OneOverSameColumns => {
                words(Respelled, format!("{framework} makes one unique constraint over the same columns, not two"), "the named one is made")
            }
            OfConstraint::KeyIsUnique => words(Respelled, "a key is unique by itself", "the constraint beside it is left out"),
            OfConstraint::UniqueNeedsName => words(Added, "such a unique constraint must have a name", GIVEN),
            OfConstraint::NullCounts(kept) => {
                let reason = format!("{framework} cannot say that null counts as a value");
                match kept {
                    Elsewhere::Script => words(Moved, reason, "the script adds the constraint"),
                    Elsewhere::Nowhere => words(Dropped, reason, "this server cannot hold it either"),
                }
            }
            OfConstraint::UniqueWithoutName => {
                words(Respelled, format!("{framework} gives no name to a unique constraint"), "a unique index")
            }
            OfConstraint::InOneUniqueOnly => {
                words(Respelled, format!("{framework} has a column stand in one unique constraint only"), "a unique index")
            }
            OfConstraint::UniqueInOrder => words(
                Respelled,
                format!("{framework} has columns stand in a unique constraint as they stand in the class"),
                "a unique index",
            ),
            OfConstraint::NoDeferrable => {
                words(Strengthened, "a unique constraint cannot be checked at commit here", "it is checked at each statement")
            }
            OfConstraint::OtherObject => {
                words(Respelled, "uniqueness is kept by another object of the database", "values are as unique as before")
            }
            OfConstraint::OneWordForUnique { index: true } => {
                words(Respelled, format!("{framework} has one word for all that is unique"), "a unique index, as before")
            }
            OfConstraint::OneWordForUnique { index: false } => {
                words(Respelled, format!("{framework} makes unique constraints, not plain unique indexes"), "a unique constraint")
            }
            OfConstraint::IndexOfReference => words(Added, "this server indexes the columns of a reference", "the index"),
            OfConstraint::IndexOfJoin => words(Added, format!("{framework} indexes the references of a join table"), "the index"),
            OfConstraint::BeginningOfText => {
                words(Dropped, format!("{server} indexes only the beginning of a text without a bound"), "the index is left out")
                    .then_do("give the column a length, or index its beginning")
            }
            OfConstraint::NoSuchIndex(feature, lost) => {
                let reason = format!("{server} has no {}", capabilities::words(*feature));
                match lost {
                    Lost::Uniqueness => words(Dropped, reason, "the index is left out; values may repeat")
                        .then_do("let the application see to it that values are unique"),
                    Lost::Speed => words(Dropped, reason, "the index is left out; queries over it are slower"),
                    Lost::Part => words(Respelled, reason, "the index holds every row, and its keys only"),
                    Lost::Known => words(Respelled, reason, "another index holds it"),
                    Lost::Script => words(Moved, reason, "the script makes the index, over every row"),
                }
            }
            OfConstraint::Unsayable(what, Elsewhere::Script) => {
                words(Moved, format!("{framework} cannot say {what}"), "the script makes the index")
            }
            OfConstraint::Unsayable(what, Elsewhere::Nowhere) => {
                words(Dropped, format!("{framework} cannot say {what}"), "the index is left out").then_do(ANEW)
            }
            OfConstraint::IndexOverCode => {
                words(Dropped, format!("{framework} cannot say an index over code of the source's language"), "the index is left out")
                    .then_do(ANEW)
            }
            OfConstraint::CheckIsCode => words(Dropped, "this check is code that could not be read as SQL", "left out").then_do(ANEW),
            OfConstraint::TypeChecksJson => words(Dropped, "the type itself keeps its values to JSON", "no check is needed"),
            OfConstraint::NoChecks(kept) => {
                let reason = format!("{framework} makes no checks on this server");
                match kept {
                    Elsewhere::Script => words(Moved, reason, "the script adds it"),
                    Elsewhere::Nowhere => words(Dropped, reason, "left out").then_do(CHECK),
                }
            }
            OfConstraint::Exclusion(Elsewhere::Script) => words(Moved, "an exclusion constraint is written as SQL", "the script adds it"),
            OfConstraint::Exclusion(Elsewhere::Nowhere) => {
                words(Dropped, "this exclusion constraint is code of the source's language", "left out").then_do(ANEW)
            }
            OfConstraint::CheckNeedsName => words(Added, "a check must have a name", GIVEN),
            OfConstraint::IndexNeedsName => words(Added, "such an index must have a name", GIVEN),
            OfConstraint::NameCut(name) => words(
                Respelled,
                format!("{framework} refuses a name that the server would cut"),
                format!("`{name}`, which the server holds"),
            ),
            OfConstraint::SecondIndexNeedsName => words(Added, "a second index over the same columns must have a name of its own", GIVEN),
            OfConstraint::SameNames => words(Added, "two that the framework would call the same must have names of their own", GIVEN),
            OfConstraint::OwnNameNeeded => words(Added, "such an index must have a name of its own", GIVEN),
            OfConstraint::ChecksByItself => words(Added, "the framework checks such a column by itself", "a check"),
            OfConstraint::PatternIndex => words(Added, "an indexed text gets a second index for patterns", "the index"),
        }
    }
}
