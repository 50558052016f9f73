//! Causes that concern times of creation and update.

use super::{Speaker, Words, left_out, words};
use crate::fit::Grade::{Added, Respelled, Strengthened, Weakened};

/// Why such a time is kept in another way.
#[derive(Clone, Debug, PartialEq)]
pub(in crate::fit) enum OfTime {
    NoWordForTimes,
    /// A default says the time of creation; `again` where another column has the framework's word.
    DefaultForCreation {
        again: bool,
    },
    NotKept {
        again: bool,
    },
    TimesByDatabase,
    TimesByApplication,
    UpdateTakenOtherwise,
    UpdateIsCode,
    WordForUpdate,
    NothingAtUpdate,
    UpdateByDatabaseToo,
    /// `kept` where the application does it.
    NoDatabaseUpdate {
        kept: bool,
    },
}

const FILL_IN: &str = "let the application fill it in";
const ANEW: &str = "write it anew";

impl OfTime {
    pub(super) fn words(&self, Speaker { framework, .. }: &Speaker<'_>) -> Words {
        match self {
            OfTime::NoWordForTimes => words(
                Respelled,
                format!("{framework} has no word for times of creation and update"),
                "a default, and what an update sets, say the same",
            ),
            OfTime::DefaultForCreation { again: true } => words(
                Respelled,
                format!("{framework} keeps one time of creation of a record"),
                "a default says the same",
            ),
            OfTime::DefaultForCreation { again: false } => words(
                Respelled,
                format!("{framework} has no word for the time of creation"),
                "a default says the same",
            ),
            OfTime::NotKept { again } => {
                let reason = match again {
                    true => format!("{framework} keeps one such column of a record"),
                    false => format!("{framework} does not keep such a column by itself"),
                };
                words(Weakened, reason, "the column stays").then_do(FILL_IN)
            }
            OfTime::TimesByDatabase => words(
                Strengthened,
                format!("{framework} fills in times of creation and update in its own way"),
                "the database fills it in, by a default; so a hand-written insert gets it too",
            ),
            OfTime::TimesByApplication => words(
                Added,
                format!("{framework} fills in times of creation and update in its own way"),
                "the application fills it in too",
            ),
            OfTime::UpdateTakenOtherwise => words(
                Respelled,
                "the time of an update is taken in another way",
                "as the framework takes it",
            ),
            OfTime::UpdateIsCode => {
                left_out("what an update sets is code of the source").then_do(ANEW)
            }
            OfTime::WordForUpdate => words(
                Respelled,
                format!("{framework} has a word for the time of an update"),
                "it is used",
            ),
            OfTime::NothingAtUpdate => words(
                Weakened,
                format!("{framework} sets no value by itself at an update"),
                "the value stays as it was",
            )
            .then_do("let the application set it"),
            OfTime::UpdateByDatabaseToo => {
                words(Added, "the time of an update is taken by the database, too", "ON UPDATE")
            }
            OfTime::NoDatabaseUpdate { kept } => {
                let reason =
                    format!("{framework} does not tell the database to set a value at an update");
                match kept {
                    true => words(Weakened, reason, "the application does it"),
                    false => words(Weakened, reason, "the value stays as it was")
                        .then_do("let the application set it"),
                }
            }
        }
    }
}
