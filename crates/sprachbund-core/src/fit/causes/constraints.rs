//! Causes that concern unique constraints, indexes, checks and exclusions.

use super::{Elsewhere, Speaker, Words, left_out, words};
use crate::fit::Grade::{Added, Dropped, Moved, Respelled};

/// Why a check, an exclusion or the name of a constraint is said in another way.
#[derive(Clone, Debug, PartialEq)]
pub(in crate::fit) enum OfConstraint {
    CheckIsCode,
    TypeChecksJson,
    NoChecks(Elsewhere),
    Exclusion(Elsewhere),
    CheckNeedsName,
    /// The name that the server holds.
    NameCut(String),
    SameNames,
    OwnNameNeeded,
    ChecksByItself,
}

const CHECK: &str = "check the values where input is validated";
const ANEW: &str = "write it anew";
const GIVEN: &str = "one is given";

impl OfConstraint {
    pub(super) fn words(&self, Speaker { framework, .. }: &Speaker<'_>) -> Words {
        match self {
            OfConstraint::CheckIsCode => {
                left_out("this check is code that could not be read as SQL").then_do(ANEW)
            }
            OfConstraint::TypeChecksJson => {
                words(Dropped, "the type itself keeps its values to JSON", "no check is needed")
            }
            OfConstraint::NoChecks(kept) => {
                let reason = format!("{framework} makes no checks on this server");
                match kept {
                    Elsewhere::Script => words(Moved, reason, "the script adds it"),
                    Elsewhere::Nowhere => words(Dropped, reason, "left out").then_do(CHECK),
                }
            }
            OfConstraint::Exclusion(Elsewhere::Script) => {
                words(Moved, "an exclusion constraint is written as SQL", "the script adds it")
            }
            OfConstraint::Exclusion(Elsewhere::Nowhere) => {
                left_out("this exclusion constraint is code of the source's language").then_do(ANEW)
            }
            OfConstraint::CheckNeedsName => words(Added, "a check must have a name", GIVEN),
            OfConstraint::NameCut(name) => words(
                Respelled,
                format!("{framework} refuses a name that the server would cut"),
                format!("`{name}`, which the server holds"),
            ),
            OfConstraint::SameNames => words(
                Added,
                "two that the framework would call the same must have names of their own",
                GIVEN,
            ),
            OfConstraint::OwnNameNeeded => {
                words(Added, "such an index must have a name of its own", GIVEN)
            }
            OfConstraint::ChecksByItself => {
                words(Added, "the framework checks such a column by itself", "a check")
            }
        }
    }
}
