//! Causes that concern enumerations and choices.

use super::{Speaker, Words, left_out, words};
use crate::fit::Grade::{Added, Dropped, Respelled, Weakened};

/// Why an enumeration is said in another way.
#[derive(Clone, Debug, PartialEq)]
pub(in crate::fit) enum OfEnumeration {
    NoEnumTypes,
    ChoicesByTypeOnly,
    ChoicesOfBoundedTexts,
    ChoicesOfTexts,
    KeptByCheck,
    UnusedEnumeration,
    /// The name that it gets.
    ListNeedsName(String),
    /// The name that it keeps.
    KeepsName(String),
    CalledAfterColumn,
    NoTypeToName,
    LabelsNeeded,
    NoLabels,
    NoCodeValues,
}

const VALIDATE: &str = "check the values where input is validated";

impl OfEnumeration {
    pub(super) fn words(&self, Speaker { framework, server }: &Speaker<'_>) -> Words {
        match self {
            OfEnumeration::NoEnumTypes => words(
                Weakened,
                format!("{framework} has no enumeration types of the database"),
                "text that the application restricts to the values; the database no longer does",
            ),
            OfEnumeration::ChoicesByTypeOnly => words(
                Dropped,
                format!(
                    "{framework} restricts a column to a list of values only by a type of the \
                     database"
                ),
                "the column takes any value of its type",
            )
            .then_do(VALIDATE),
            OfEnumeration::ChoicesOfBoundedTexts => words(
                Dropped,
                format!("{framework} restricts only bounded texts to a list of values"),
                "the column takes any value of its type",
            )
            .then_do(VALIDATE),
            OfEnumeration::ChoicesOfTexts => words(
                Dropped,
                format!("{framework} restricts only texts to a list of values"),
                "the column takes any value of its type",
            )
            .then_do(VALIDATE),
            OfEnumeration::KeptByCheck => words(
                Respelled,
                format!("{server} has no unsigned numbers"),
                "a check keeps the column at zero or above",
            ),
            OfEnumeration::UnusedEnumeration => {
                words(Dropped, "no column uses this enumeration any more", "it is left out")
            }
            OfEnumeration::ListNeedsName(name) => words(
                Respelled,
                "a list of values must have a name",
                format!("it is called `{name}`"),
            ),
            OfEnumeration::KeepsName(name) => words(
                Respelled,
                format!("{framework} has a name of its own for an enumeration type"),
                format!("the type keeps its name `{name}`, which is written"),
            ),
            OfEnumeration::CalledAfterColumn => words(
                Respelled,
                format!("{framework} calls an enumeration type after its table and its column"),
                "the values are the same",
            ),
            OfEnumeration::NoTypeToName => words(
                Dropped,
                "an enumeration type of the database is not made",
                "its stored name is not used",
            ),
            OfEnumeration::LabelsNeeded => {
                words(Added, "choices need a text to show", "the value is the text")
            }
            OfEnumeration::NoLabels => left_out("members of an enumeration have no texts to show")
                .then_do("keep the texts where records are shown"),
            OfEnumeration::NoCodeValues => words(
                Weakened,
                "members of an enumeration are worth in the code what the database stores",
                "the stored values are what the code sees",
            )
            .then_do("change code that compares with other values"),
        }
    }
}
