//! Causes that concern what becomes of a reference when its target goes or changes.

use super::{Speaker, Words, words};
use crate::fit::Grade::{Added, Dropped, Respelled, Strengthened, Weakened};
use crate::schema::Action;

/// Why something else is done.
#[derive(Clone, Debug, PartialEq)]
pub(in crate::fit) enum OfAction {
    /// The application acted in this way.
    ActedInApplication(Action, Taken),
    NobodyActs(Action),
    NoValueToSet,
    ActsInApplication(Action),
    /// The same, though the framework could leave it to the database if the whole chain did.
    ChainInApplication(Action),
    SaysActions,
    NoActionOnUpdate,
    /// The application cannot set null; or the database cannot, when this happens.
    NeverNull(Option<&'static str>),
    NoSuchAction(Action),
    NoSetDefault,
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

impl Taken {
    /// `action` is what the application did.
    fn words(self, action: Action) -> Words {
        let reason = format!("on deletion the application acted ({})", action.word());
        match self {
            Taken::AsBefore(before) => words(
                Weakened,
                reason,
                format!("the database acts as before: ON DELETE {}", before.sql()),
            ),
            Taken::Refuses => words(Weakened, reason, "the database refuses the deletion"),
            Taken::RefusesToo => {
                words(Respelled, reason, "the database refuses a deletion that leaves references")
            }
            Taken::Does(action) => words(
                Strengthened,
                reason,
                format!("the database does it: ON DELETE {}", action.sql()),
            ),
        }
    }
}

fn by_application(action: Action) -> String {
    format!("the application does it ({}); a hand-written DELETE is refused", action.word())
}

impl OfAction {
    pub(super) fn words(&self, Speaker { framework, .. }: &Speaker<'_>) -> Words {
        match self {
            OfAction::ActedInApplication(action, taken) => taken.words(*action),
            OfAction::NobodyActs(action) => words(
                Dropped,
                format!(
                    "the application no longer acts on deletion, and no foreign key does ({})",
                    action.word()
                ),
                "references to nothing stay",
            )
            .then_do("act where records are deleted"),
            OfAction::NoValueToSet => words(
                Weakened,
                "the value that references were set to on deletion cannot be said",
                "nothing: the database refuses",
            ),
            OfAction::ActsInApplication(action) => words(
                Weakened,
                format!("{framework} acts on deletion in the application, not in the database"),
                by_application(*action),
            ),
            OfAction::ChainInApplication(action) => words(
                Weakened,
                format!(
                    "{framework} lets the database act on deletion only where all references of \
                     a chain do"
                ),
                by_application(*action),
            ),
            OfAction::SaysActions => words(
                Added,
                format!("{framework} says for each relation what the application does on deletion"),
                "nothing: the database refuses",
            ),
            OfAction::NoActionOnUpdate => words(
                Weakened,
                format!("{framework} leaves deletion to the database, not a change of the key"),
                "NO ACTION: the database refuses the change of a key that is referred to",
            ),
            OfAction::NeverNull(None) => words(
                Respelled,
                "a reference that is never null cannot be set to null",
                "the application refuses the deletion",
            ),
            OfAction::NeverNull(Some(when)) => words(
                Respelled,
                "a reference that is never null cannot be set to null",
                format!("NO ACTION: the database refuses the {when}, as it did"),
            ),
            OfAction::NoSuchAction(action) => {
                let grade = if matches!(action, Action::SetValue | Action::SetDefault) {
                    Weakened
                } else {
                    Respelled
                };
                words(
                    grade,
                    format!(
                        "{framework} cannot tell the application to act so on deletion ({})",
                        action.word()
                    ),
                    "the application refuses the deletion",
                )
            }
            OfAction::NoSetDefault => words(
                Weakened,
                format!("{framework} cannot tell the database to set a default"),
                "the database refuses",
            ),
            OfAction::JoinRowsGoAlong => words(
                Respelled,
                "the rows of a join table go with the records that they join",
                "as the framework does it",
            ),
        }
    }
}
