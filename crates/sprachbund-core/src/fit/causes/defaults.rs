//! Causes that concern defaults.

use serde_json::Value;

use super::{Speaker, Words, left_out, words};
use crate::fit::Grade::{Dropped, Moved, Respelled, Strengthened, Weakened};

/// Why a default is said in another way.
#[derive(Clone, Debug, PartialEq)]
pub(in crate::fit) enum OfDefault {
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

impl OfDefault {
    pub(super) fn words(&self, Speaker { framework, .. }: &Speaker<'_>) -> Words {
        match self {
            OfDefault::NoDefaultInDatabase { by_script: true, fills } => words(
                Moved,
                format!("{framework} cannot say a default of the database"),
                if *fills {
                    "the script adds it; the application fills it in too"
                } else {
                    "the script adds it"
                },
            ),
            OfDefault::NoDefaultInDatabase { by_script: false, fills: true } => words(
                Weakened,
                format!("{framework} cannot say a default of the database"),
                "the application fills it in; a hand-written insert gets none",
            ),
            OfDefault::NoDefaultInDatabase { by_script: false, fills: false } => {
                left_out(format!("{framework} cannot say a default of the database"))
                    .then_do(FILL_IN)
            }
            OfDefault::DatabaseDefaultIsCode => {
                left_out("this default is an expression of the source's language").then_do(ANEW)
            }
            OfDefault::NoSuchFunction { replaced: true } => words(
                Respelled,
                "this server has no such function",
                "the server's one function for the current time",
            ),
            OfDefault::NoSuchFunction { replaced: false } => {
                words(Dropped, "this server has no such function", "the column has no default")
                    .then_do(FILL_IN)
            }
            OfDefault::NoApplicationDefault(instead) => {
                let reason =
                    format!("{framework} has no word for such a default of the application");
                match instead {
                    Instead::Same => words(Respelled, reason, DATABASE_COUNTS),
                    Instead::Other => words(Weakened, reason, DATABASE_COUNTS),
                    Instead::Database => words(Strengthened, reason, HAND_WRITTEN),
                    Instead::Nobody => {
                        words(Dropped, reason, "the column has no default").then_do(FILL_IN)
                    }
                }
            }
            OfDefault::ApplicationDefaultIsCode(text) => {
                left_out(format!("the default `{text}` is code of the source's language"))
                    .then_do(ANEW)
            }
            OfDefault::Changeable(value) => {
                left_out("a default that can be changed in place must be made by a function")
                    .then_do(format!("write a function that returns `{value}`"))
            }
            OfDefault::MomentForNoTime => {
                left_out("a moment is no value of the column's type").then_do("write what is meant")
            }
            OfDefault::OneDefault { same } => {
                let grade = if *same { Respelled } else { Weakened };
                words(grade, format!("{framework} has one default to a column"), DATABASE_COUNTS)
            }
        }
    }
}
