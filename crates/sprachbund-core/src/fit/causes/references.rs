//! Causes that concern relations and foreign keys.

use super::{Elsewhere, Speaker, Words, words};
use crate::fit::Grade::{Added, Dropped, Moved, Respelled, Strengthened, Weakened};
use crate::schema::{Action, EnforcedBy};

/// Why a reference is said in another way.
#[derive(Clone, Debug, PartialEq)]
pub(in crate::fit) enum OfReference {
    NoRelationOverSeveral,
    NoKeyOverSeveral(Elsewhere),
    NoRelationMakesKey(Elsewhere),
    RefersToUnique,
    RequiredCircle(Elsewhere),
    KeyInCircle,
    /// The application acted in this way.
    ActedInApplication(Action, Taken),
    NobodyActs(Action),
    NoValueToSet,
    ActsInApplication(Action),
    SaysActions,
    /// The application cannot set null; or the database cannot, when this happens.
    NeverNull(Option<&'static str>),
    NoSuchAction(Action),
    UniqueMakesOneToOne,
    OneToOneIsUnique,
    OneToOneMakesConstraint,
    NoSetDefault,
    KeptByApplication,
    /// All relations are kept by the same.
    AllKeptBy(EnforcedBy),
    NoDeferrable,
    ChecksAtCommit,
    JoinRowsGoAlong,
}

/// What the database does where the application acted.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(in crate::fit) enum Taken {
    /// It acted already.
    AsBefore(Action),
    /// It refuses what the application did.
    Refuses,
    /// It refuses, as the application did.
    RefusesToo,
    Does(Action),
}

impl OfReference {
    pub(super) fn words(&self, Speaker { framework, .. }: &Speaker<'_>) -> Words {
        match self {
            OfReference::NoRelationOverSeveral => {
                words(Dropped, format!("{framework} has no relation over several columns"), "its columns stay")
                    .then_do("look records up by them")
            }
            OfReference::NoKeyOverSeveral(kept) => foreign_key(format!("{framework} has no foreign key over several columns"), *kept),
            OfReference::NoRelationMakesKey(kept) => {
                foreign_key(format!("{framework} makes foreign keys of its relations, and none of them is this one"), *kept)
            }
            OfReference::RefersToUnique => {
                words(Dropped, format!("{framework} refers only to what is unique"), "the column stays").then_do("look records up by it")
            }
            OfReference::RequiredCircle(kept) => {
                let reason = format!("{framework} refuses references in a circle that are never null");
                match kept {
                    Elsewhere::Script => words(Moved, reason, "the script says NOT NULL"),
                    Elsewhere::Nowhere => words(Weakened, reason, "the column may be null; the code still demands a value"),
                }
            }
            OfReference::KeyInCircle => words(
                Moved,
                format!("{framework} makes no foreign key of a key's column where tables refer to each other in a circle"),
                "the script adds it",
            ),
            OfReference::ActedInApplication(action, taken) => {
                let reason = format!("on deletion the application acted ({})", action.word());
                match taken {
                    Taken::AsBefore(before) => words(Weakened, reason, format!("the database acts as before: ON DELETE {}", before.sql())),
                    Taken::Refuses => words(Weakened, reason, "the database refuses the deletion"),
                    Taken::RefusesToo => words(Respelled, reason, "the database refuses a deletion that leaves references"),
                    Taken::Does(action) => words(Strengthened, reason, format!("the database does it: ON DELETE {}", action.sql())),
                }
            }
            OfReference::NobodyActs(action) => words(
                Dropped,
                format!("the application no longer acts on deletion, and no foreign key does ({})", action.word()),
                "references to nothing stay",
            )
            .then_do("act where records are deleted"),
            OfReference::NoValueToSet => {
                words(Weakened, "the value that references were set to on deletion cannot be said", "nothing: the database refuses")
            }
            OfReference::ActsInApplication(action) => words(
                Weakened,
                format!("{framework} acts on deletion in the application, not in the database"),
                format!("the application does it ({}); a hand-written DELETE is refused", action.word()),
            ),
            OfReference::SaysActions => words(
                Added,
                format!("{framework} says for each relation what the application does on deletion"),
                "nothing: the database refuses",
            ),
            OfReference::NeverNull(None) => {
                words(Respelled, "a reference that is never null cannot be set to null", "the application refuses the deletion")
            }
            OfReference::NeverNull(Some(when)) => words(
                Respelled,
                "a reference that is never null cannot be set to null",
                format!("NO ACTION: the database refuses the {when}, as it did"),
            ),
            OfReference::NoSuchAction(action) => {
                let grade = if matches!(action, Action::SetValue | Action::SetDefault) { Weakened } else { Respelled };
                words(
                    grade,
                    format!("{framework} cannot tell the application to act so on deletion ({})", action.word()),
                    "the application refuses the deletion",
                )
            }
            OfReference::UniqueMakesOneToOne => words(Respelled, "a relation over a unique column is a one-to-one", "it is read as one"),
            OfReference::OneToOneIsUnique => {
                words(Strengthened, "a one-to-one was not unique in the database", "a unique constraint is made")
            }
            OfReference::OneToOneMakesConstraint => {
                words(Respelled, "a one-to-one makes a unique constraint", "it takes the place of the unique index")
            }
            OfReference::NoSetDefault => {
                words(Weakened, format!("{framework} cannot tell the database to set a default"), "the database refuses")
            }
            OfReference::KeptByApplication => words(
                Respelled,
                "nothing is said of when and how the database checks a reference that it does not keep",
                "the application keeps it as before",
            ),
            OfReference::AllKeptBy(EnforcedBy::Database) => {
                words(Strengthened, "every relation has a foreign key here", "the database refuses a reference to nothing")
            }
            OfReference::AllKeptBy(EnforcedBy::Application) => {
                words(Weakened, "no relation has a foreign key here", "the application keeps the reference")
            }
            OfReference::NoDeferrable => {
                words(Strengthened, "a foreign key cannot be checked at commit here", "it is checked at each statement")
            }
            OfReference::ChecksAtCommit => {
                words(Added, format!("{framework} has every foreign key checked at commit"), "DEFERRABLE INITIALLY DEFERRED")
            }
            OfReference::JoinRowsGoAlong => {
                words(Respelled, "the rows of a join table go with the records that they join", "as the framework does it")
            }
        }
    }
}

fn foreign_key(reason: String, kept: Elsewhere) -> Words {
    match kept {
        Elsewhere::Script => words(Moved, reason, "the script adds it"),
        Elsewhere::Nowhere => words(Dropped, reason, "nothing refuses a reference to nothing"),
    }
}
