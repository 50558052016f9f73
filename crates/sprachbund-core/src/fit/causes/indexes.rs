//! Causes that concern indexes.

use super::{Elsewhere, Speaker, Words, words};
use crate::dialect::{Feature, capabilities};
use crate::fit::Grade::{Added, Dropped, Moved, Respelled};

/// Why an index is said in another way.
#[derive(Clone, Debug, PartialEq)]
pub(in crate::fit) enum OfIndex {
    IndexOfReference,
    IndexOfJoin,
    BeginningOfText,
    /// The server lacks this of an index.
    NoSuchIndex(Feature, Lost),
    Unsayable(&'static str, Elsewhere),
    IndexOverCode,
    IndexNeedsName,
    SecondIndexNeedsName,
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

const ANEW: &str = "write it anew";
const GIVEN: &str = "one is given";

impl OfIndex {
    pub(super) fn words(&self, Speaker { framework, server }: &Speaker<'_>) -> Words {
        match self {
            OfIndex::IndexOfReference => {
                words(Added, "this server indexes the columns of a reference", "the index")
            }
            OfIndex::IndexOfJoin => words(
                Added,
                format!("{framework} indexes the references of a join table"),
                "the index",
            ),
            OfIndex::BeginningOfText => words(
                Dropped,
                format!("{server} indexes only the beginning of a text without a bound"),
                "the index is left out",
            )
            .then_do("give the column a length, or index its beginning"),
            OfIndex::NoSuchIndex(feature, lost) => {
                let reason = format!("{server} has no {}", capabilities::words(*feature));
                match lost {
                    Lost::Uniqueness => {
                        words(Dropped, reason, "the index is left out; values may repeat")
                            .then_do("let the application see to it that values are unique")
                    }
                    Lost::Speed => {
                        words(Dropped, reason, "the index is left out; queries over it are slower")
                    }
                    Lost::Part => {
                        words(Respelled, reason, "the index holds every row, and its keys only")
                    }
                    Lost::Known => words(Respelled, reason, "another index holds it"),
                    Lost::Script => {
                        words(Moved, reason, "the script makes the index, over every row")
                    }
                }
            }
            OfIndex::Unsayable(what, Elsewhere::Script) => {
                words(Moved, format!("{framework} cannot say {what}"), "the script makes the index")
            }
            OfIndex::Unsayable(what, Elsewhere::Nowhere) => {
                words(Dropped, format!("{framework} cannot say {what}"), "the index is left out")
                    .then_do(ANEW)
            }
            OfIndex::IndexOverCode => words(
                Dropped,
                format!("{framework} cannot say an index over code of the source's language"),
                "the index is left out",
            )
            .then_do(ANEW),
            OfIndex::IndexNeedsName => words(Added, "such an index must have a name", GIVEN),
            OfIndex::SecondIndexNeedsName => words(
                Added,
                "a second index over the same columns must have a name of its own",
                GIVEN,
            ),
            OfIndex::PatternIndex => {
                words(Added, "an indexed text gets a second index for patterns", "the index")
            }
        }
    }
}
