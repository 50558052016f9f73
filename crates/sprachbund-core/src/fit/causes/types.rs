//! Causes that concern types of columns and enumerations.

use super::{Speaker, Words, words};
use crate::fit::Grade::{self, Dropped, Respelled, Weakened};
use crate::schema::Type;

/// Why a type is said in another way.
#[derive(Clone, Debug, PartialEq)]
pub(in crate::fit) enum OfType {
    /// The server holds another type than the declarations mean.
    HeldAs {
        ty: Type,
        stored: String,
        held: Type,
    },
    FractionsOnRequest,
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
    ZoneOfMoment,
    /// Digits of a second.
    DigitsOfKeptTime(u32),
    NoFormats,
    /// The server keeps the name that a framework gives to a type.
    KeptName {
        before: String,
        after: String,
    },
}

impl OfType {
    pub(super) fn words(&self, Speaker { framework, server }: &Speaker<'_>) -> Words {
        match self {
            OfType::HeldAs { ty, stored, held } => {
                words(Respelled, format!("`{ty}` is held as `{stored}`"), format!("`{held}`"))
            }
            OfType::FractionsOnRequest => words(
                Respelled,
                "this server keeps fractions of a second only where it is told to",
                "six digits, as before",
            ),
            OfType::NullableArrays => words(
                Weakened,
                format!("{framework} cannot say NOT NULL of an array"),
                "the column may be null; the application reads an empty list",
            ),
            OfType::FollowsKey(ty) => words(
                Respelled,
                "the column follows the type of the key that it refers to",
                format!("`{ty}`"),
            ),
            OfType::OtherWord { stored, after } => words(
                Respelled,
                format!("{framework} has another word for `{stored}`"),
                format!("`{after}`"),
            ),
            OfType::NoSuchType { before, after, grade } => words(
                *grade,
                format!("{framework} cannot say `{before}` on this server"),
                format!("`{after}`"),
            ),
            OfType::NumberOfServer { narrower: true } => words(
                Weakened,
                format!("{server} has no unsigned numbers of 64 bits"),
                "a signed one, which holds half of them",
            )
            .then_do("see to it that no number is over 9223372036854775807"),
            OfType::NumberOfServer { narrower: false } => words(
                Respelled,
                format!("{server} has fewer kinds of whole numbers"),
                "the next one that holds all of them",
            ),
            OfType::ZoneOfMoment => words(
                Respelled,
                "a moment without a zone becomes one with a zone",
                "the default is meant in universal time",
            ),
            OfType::DigitsOfKeptTime(digits) => words(
                Respelled,
                format!("{framework} chooses the digits of a time that it keeps"),
                format!("{digits} digits of a second"),
            ),
            OfType::NoFormats => words(
                Dropped,
                format!("{framework} does not check text formats"),
                "any text is taken",
            )
            .then_do("check them where input is validated"),
            OfType::KeptName { before, after } => words(
                Respelled,
                format!("{server} keeps the name that a framework gives to a type"),
                format!("`{after}` instead of `{before}`"),
            ),
        }
    }
}
