//! Causes that concern relations and foreign keys.

use super::{Elsewhere, Speaker, Words, words};
use crate::fit::Grade::{Added, Dropped, Moved, Respelled, Strengthened, Weakened};
use crate::schema::EnforcedBy;

/// Why a reference is said in another way.
#[derive(Clone, Debug, PartialEq)]
pub(in crate::fit) enum OfReference {
    NoRelationOverSeveral,
    NoKeyOverSeveral(Elsewhere),
    NoRelationMakesKey(Elsewhere),
    RefersToUnique,
    RequiredCircle(Elsewhere),
    KeyInCircle,
    UniqueMakesOneToOne,
    OneToOneIsUnique,
    OneToOneMakesConstraint,
    KeptByApplication,
    /// All relations are kept by the same.
    AllKeptBy(EnforcedBy),
    NoDeferrable,
    ChecksAtCommit,
}

impl OfReference {
    pub(super) fn words(&self, Speaker { framework, .. }: &Speaker<'_>) -> Words {
        match self {
            OfReference::NoRelationOverSeveral => words(
                Dropped,
                format!("{framework} has no relation over several columns"),
                "its columns stay",
            )
            .then_do("look records up by them"),
            OfReference::NoKeyOverSeveral(kept) => {
                foreign_key(format!("{framework} has no foreign key over several columns"), *kept)
            }
            OfReference::NoRelationMakesKey(kept) => foreign_key(
                format!(
                    "{framework} makes foreign keys of its relations, and none of them is this one"
                ),
                *kept,
            ),
            OfReference::RefersToUnique => words(
                Dropped,
                format!("{framework} refers only to what is unique"),
                "the column stays",
            )
            .then_do("look records up by it"),
            OfReference::RequiredCircle(kept) => required_circle(framework, *kept),
            OfReference::KeyInCircle => words(
                Moved,
                format!(
                    "{framework} makes no foreign key of a key's column where tables refer to \
                     each other in a circle"
                ),
                "the script adds it",
            ),
            OfReference::UniqueMakesOneToOne => words(
                Respelled,
                "a relation over a unique column is a one-to-one",
                "it is read as one",
            ),
            OfReference::OneToOneIsUnique => words(
                Strengthened,
                "a one-to-one was not unique in the database",
                "a unique constraint is made",
            ),
            OfReference::OneToOneMakesConstraint => words(
                Respelled,
                "a one-to-one makes a unique constraint",
                "it takes the place of the unique index",
            ),
            OfReference::KeptByApplication => words(
                Respelled,
                "nothing is said of when and how the database checks a reference that it does \
                 not keep",
                "the application keeps it as before",
            ),
            OfReference::AllKeptBy(EnforcedBy::Database) => words(
                Strengthened,
                "every relation has a foreign key here",
                "the database refuses a reference to nothing",
            ),
            OfReference::AllKeptBy(EnforcedBy::Application) => words(
                Weakened,
                "no relation has a foreign key here",
                "the application keeps the reference",
            ),
            OfReference::NoDeferrable => words(
                Strengthened,
                "a foreign key cannot be checked at commit here",
                "it is checked at each statement",
            ),
            OfReference::ChecksAtCommit => words(
                Added,
                format!("{framework} has every foreign key checked at commit"),
                "DEFERRABLE INITIALLY DEFERRED",
            ),
        }
    }
}

fn required_circle(framework: &str, kept: Elsewhere) -> Words {
    let reason = format!("{framework} refuses references in a circle that are never null");
    match kept {
        Elsewhere::Script => words(Moved, reason, "the script says NOT NULL"),
        Elsewhere::Nowhere => {
            words(Weakened, reason, "the column may be null; the code still demands a value")
        }
    }
}

fn foreign_key(reason: String, kept: Elsewhere) -> Words {
    match kept {
        Elsewhere::Script => words(Moved, reason, "the script adds it"),
        Elsewhere::Nowhere => words(Dropped, reason, "nothing refuses a reference to nothing"),
    }
}
