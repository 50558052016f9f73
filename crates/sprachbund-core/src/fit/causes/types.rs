//! Causes that concern types of columns and enumerations.

use super::{Speaker, Words, words};
use crate::fit::Grade::{self, Added, Dropped, Respelled, Weakened};
use crate::schema::Type;

/// Why a type is said in another way.
#[derive(Clone, Debug, PartialEq)]
pub(in crate::fit) enum OfType {
    NoEnumTypes,
    /// The server holds another type than the declarations mean.
    HeldAs {
        ty: Type,
        stored: String,
        held: Type,
    },
    FractionsOnRequest,
    ChoicesByTypeOnly,
    ChoicesOfBoundedTexts,
    ChoicesOfTexts,
    NullableArrays,
    FollowsKey(Type),
    OtherWord {
        stored: String,
        after: Type,
    },
    NoSuchType {
        before: Type,
        after: Type,
        grade: Grade,
    },
    /// The other server's numbers need this type here.
    NumberOfServer {
        /// It does not hold the greatest of them.
        narrower: bool,
    },
    KeptByCheck,
    ZoneOfMoment,
    /// Digits of a second.
    DigitsOfKeptTime(u32),
    NoFormats,
    /// The server keeps the name that a framework gives to a type.
    KeptName {
        before: String,
        after: String,
    },
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

impl OfType {
    pub(super) fn words(&self, Speaker { framework, server }: &Speaker<'_>) -> Words {
        match self {
            OfType::NoEnumTypes => words(
                Weakened,
                format!("{framework} has no enumeration types of the database"),
                "text that the application restricts to the values; the database no longer does",
            ),
            OfType::HeldAs { ty, stored, held } => words(Respelled, format!("`{ty}` is held as `{stored}`"), format!("`{held}`")),
            OfType::FractionsOnRequest => {
                words(Respelled, "this server keeps fractions of a second only where it is told to", "six digits, as before")
            }
            OfType::ChoicesByTypeOnly => words(
                Dropped,
                format!("{framework} restricts a column to a list of values only by a type of the database"),
                "the column takes any value of its type",
            )
            .then_do(VALIDATE),
            OfType::ChoicesOfBoundedTexts => words(
                Dropped,
                format!("{framework} restricts only bounded texts to a list of values"),
                "the column takes any value of its type",
            )
            .then_do(VALIDATE),
            OfType::ChoicesOfTexts => {
                words(Dropped, format!("{framework} restricts only texts to a list of values"), "the column takes any value of its type")
                    .then_do(VALIDATE)
            }
            OfType::NullableArrays => words(
                Weakened,
                format!("{framework} cannot say NOT NULL of an array"),
                "the column may be null; the application reads an empty list",
            ),
            OfType::FollowsKey(ty) => words(Respelled, "the column follows the type of the key that it refers to", format!("`{ty}`")),
            OfType::OtherWord { stored, after } => {
                words(Respelled, format!("{framework} has another word for `{stored}`"), format!("`{after}`"))
            }
            OfType::NoSuchType { before, after, grade } => {
                words(*grade, format!("{framework} cannot say `{before}` on this server"), format!("`{after}`"))
            }
            OfType::NumberOfServer { narrower: true } => {
                words(Weakened, format!("{server} has no unsigned numbers of 64 bits"), "a signed one, which holds half of them")
                    .then_do("see to it that no number is over 9223372036854775807")
            }
            OfType::NumberOfServer { narrower: false } => {
                words(Respelled, format!("{server} has fewer kinds of whole numbers"), "the next one that holds all of them")
            }
            OfType::KeptByCheck => {
                words(Respelled, format!("{server} has no unsigned numbers"), "a check keeps the column at zero or above")
            }
            OfType::ZoneOfMoment => {
                words(Respelled, "a moment without a zone becomes one with a zone", "the default is meant in universal time")
            }
            OfType::DigitsOfKeptTime(digits) => {
                words(Respelled, format!("{framework} chooses the digits of a time that it keeps"), format!("{digits} digits of a second"))
            }
            OfType::NoFormats => words(Dropped, format!("{framework} does not check text formats"), "any text is taken")
                .then_do("check them where input is validated"),
            OfType::KeptName { before, after } => words(
                Respelled,
                format!("{server} keeps the name that a framework gives to a type"),
                format!("`{after}` instead of `{before}`"),
            ),
            OfType::UnusedEnumeration => words(Dropped, "no column uses this enumeration any more", "it is left out"),
            OfType::ListNeedsName(name) => words(Respelled, "a list of values must have a name", format!("it is called `{name}`")),
            OfType::KeepsName(name) => words(
                Respelled,
                format!("{framework} has a name of its own for an enumeration type"),
                format!("the type keeps its name `{name}`, which is written"),
            ),
            OfType::CalledAfterColumn => {
                words(Respelled, format!("{framework} calls an enumeration type after its table and its column"), "the values are the same")
            }
            OfType::NoTypeToName => words(Dropped, "an enumeration type of the database is not made", "its stored name is not used"),
            OfType::LabelsNeeded => words(Added, "choices need a text to show", "the value is the text"),
            OfType::NoLabels => words(Dropped, "members of an enumeration have no texts to show", "left out")
                .then_do("keep the texts where records are shown"),
            OfType::NoCodeValues => words(
                Weakened,
                "members of an enumeration are worth in the code what the database stores",
                "the stored values are what the code sees",
            )
            .then_do("change code that compares with other values"),
        }
    }
}
