//! Causes that concern values which columns get by themselves.

use serde_json::Value;

use super::{Speaker, Words, words};
use crate::fit::Grade::{Added, Dropped, Moved, Respelled, Strengthened, Weakened};
use crate::schema::Identity;

/// Why a value comes about in another way.
#[derive(Clone, Debug, PartialEq)]
pub(in crate::fit) enum OfValue {
    NumbersEveryKey,
    NumberedNeedsNoDefault,
    NumbersKeysOnly,
    /// The counter that was.
    OtherCounter(Identity),
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
    DatabaseDefaultIsCode,
    /// `fills` where the application does it instead.
    NoDefaultInDatabase {
        by_script: bool,
        fills: bool,
    },
    /// `replaced` where another function stands in.
    NoSuchFunction {
        replaced: bool,
    },
    NoApplicationDefault(Instead),
    /// The code.
    ApplicationDefaultIsCode(String),
    /// The value that code must make anew for each record.
    Changeable(Value),
    MomentForNoTime,
    /// `same` where both defaults are one value.
    OneDefault {
        same: bool,
    },
    GeneratedByCode,
    NoGenerated,
    StoredOnly,
    NullableGenerated,
}

/// What fills in where the application no longer does.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(in crate::fit) enum Instead {
    /// The database's own default of the same value.
    Same,
    /// The database's own default of another value.
    Other,
    /// The default moves into the database.
    Database,
    Nobody,
}

const FILL_IN: &str = "let the application fill it in";
const ANEW: &str = "write it anew";
const DATABASE_COUNTS: &str = "the database's own default is what counts";
const HAND_WRITTEN: &str = "the database fills it in; so a hand-written insert gets it too";

impl OfValue {
    pub(super) fn words(&self, Speaker { framework, .. }: &Speaker<'_>) -> Words {
        match self {
            OfValue::NumbersEveryKey => words(
                Added,
                format!("{framework} has every key of one whole number numbered"),
                "a row that comes without a key gets the next number",
            ),
            OfValue::NoDefaultInDatabase { by_script: true, fills } => words(
                Moved,
                format!("{framework} cannot say a default of the database"),
                if *fills { "the script adds it; the application fills it in too" } else { "the script adds it" },
            ),
            OfValue::NoDefaultInDatabase { by_script: false, fills: true } => words(
                Weakened,
                format!("{framework} cannot say a default of the database"),
                "the application fills it in; a hand-written insert gets none",
            ),
            OfValue::NoDefaultInDatabase { by_script: false, fills: false } => {
                words(Dropped, format!("{framework} cannot say a default of the database"), "left out").then_do(FILL_IN)
            }
            OfValue::NumberedNeedsNoDefault => words(Dropped, "a column that is numbered needs no default", "the database numbers it"),
            OfValue::NumbersKeysOnly => {
                words(Dropped, format!("{framework} numbers only a key of one column"), "the column is not numbered").then_do(FILL_IN)
            }
            OfValue::OtherCounter(before) => {
                let grade = if *before == Identity::Always { Weakened } else { Respelled };
                words(grade, "the key's numbers come from another kind of counter", format!("{framework} numbers it in its own way"))
            }
            OfValue::NoWordForTimes => words(
                Respelled,
                format!("{framework} has no word for times of creation and update"),
                "a default, and what an update sets, say the same",
            ),
            OfValue::DefaultForCreation { again: true } => {
                words(Respelled, format!("{framework} keeps one time of creation of a record"), "a default says the same")
            }
            OfValue::DefaultForCreation { again: false } => {
                words(Respelled, format!("{framework} has no word for the time of creation"), "a default says the same")
            }
            OfValue::NotKept { again } => {
                let reason = match again {
                    true => format!("{framework} keeps one such column of a record"),
                    false => format!("{framework} does not keep such a column by itself"),
                };
                words(Weakened, reason, "the column stays").then_do(FILL_IN)
            }
            OfValue::TimesByDatabase => words(
                Strengthened,
                format!("{framework} fills in times of creation and update in its own way"),
                "the database fills it in, by a default; so a hand-written insert gets it too",
            ),
            OfValue::TimesByApplication => {
                words(Added, format!("{framework} fills in times of creation and update in its own way"), "the application fills it in too")
            }
            OfValue::UpdateTakenOtherwise => words(Respelled, "the time of an update is taken in another way", "as the framework takes it"),
            OfValue::UpdateIsCode => words(Dropped, "what an update sets is code of the source", "left out").then_do(ANEW),
            OfValue::WordForUpdate => words(Respelled, format!("{framework} has a word for the time of an update"), "it is used"),
            OfValue::NothingAtUpdate => {
                words(Weakened, format!("{framework} sets no value by itself at an update"), "the value stays as it was")
                    .then_do("let the application set it")
            }
            OfValue::UpdateByDatabaseToo => words(Added, "the time of an update is taken by the database, too", "ON UPDATE"),
            OfValue::NoDatabaseUpdate { kept } => {
                let reason = format!("{framework} does not tell the database to set a value at an update");
                match kept {
                    true => words(Weakened, reason, "the application does it"),
                    false => words(Weakened, reason, "the value stays as it was").then_do("let the application set it"),
                }
            }
            OfValue::DatabaseDefaultIsCode => {
                words(Dropped, "this default is an expression of the source's language", "left out").then_do(ANEW)
            }
            OfValue::NoSuchFunction { replaced: true } => {
                words(Respelled, "this server has no such function", "the server's one function for the current time")
            }
            OfValue::NoSuchFunction { replaced: false } => {
                words(Dropped, "this server has no such function", "the column has no default").then_do(FILL_IN)
            }
            OfValue::NoApplicationDefault(instead) => {
                let reason = format!("{framework} has no word for such a default of the application");
                match instead {
                    Instead::Same => words(Respelled, reason, DATABASE_COUNTS),
                    Instead::Other => words(Weakened, reason, DATABASE_COUNTS),
                    Instead::Database => words(Strengthened, reason, HAND_WRITTEN),
                    Instead::Nobody => words(Dropped, reason, "the column has no default").then_do(FILL_IN),
                }
            }
            OfValue::ApplicationDefaultIsCode(text) => {
                words(Dropped, format!("the default `{text}` is code of the source's language"), "left out").then_do(ANEW)
            }
            OfValue::Changeable(value) => words(Dropped, "a default that can be changed in place must be made by a function", "left out")
                .then_do(format!("write a function that returns `{value}`")),
            OfValue::MomentForNoTime => {
                words(Dropped, "a moment is no value of the column's type", "left out").then_do("write what is meant")
            }
            OfValue::OneDefault { same } => {
                let grade = if *same { Respelled } else { Weakened };
                words(grade, format!("{framework} has one default to a column"), DATABASE_COUNTS)
            }
            OfValue::GeneratedByCode => {
                words(Dropped, "its expression is code of the source's language", "the column is an ordinary one").then_do(FILL_IN)
            }
            OfValue::NoGenerated => {
                words(Dropped, format!("{framework} has no generated columns"), "the column is an ordinary one").then_do(FILL_IN)
            }
            OfValue::StoredOnly => words(Respelled, "a generated column can only be kept in the table here", "it is kept there"),
            OfValue::NullableGenerated => {
                words(Weakened, format!("{framework} makes every generated column nullable"), "its values are still computed")
            }
        }
    }
}
