//! Causes that concern single things between tables and documents; the rest follows from the tables
//! of the two crossings.

use super::{Speaker, Words, left_out, words};
use crate::fit::Grade::{Dropped, Respelled, Weakened};

/// Why something is said in another way on the other kind of database.
#[derive(Clone, Debug, PartialEq)]
pub(in crate::fit) enum OfDocument {
    IdIsTheKey,
    RuleForCheck,
    NumberForLimits,
    ValueOfNumber,
    RuleNotChecked,
    ChoicesOfTextsAndNumbers,
    NoExpressionIndex,
    PatternsToo,
    NoSuchFilter,
    UniqueIsIndexed,
    OneWordForUnique,
    IndexOverSeveral,
    VirtualPath,
    DeletesByIndex,
    IndexOverWords,
    OtherIndexMethod,
    DocumentsInside,
    /// The join table.
    ListOfReferences(String),
}

const VALIDATE: &str = "check it where input is validated";

impl OfDocument {
    pub(super) fn words(&self, Speaker { framework, .. }: &Speaker<'_>) -> Words {
        match self {
            OfDocument::IdIsTheKey => {
                words(Respelled, "the key of a document is `_id`", "it takes the place of the key")
            }
            OfDocument::RuleForCheck => {
                words(Weakened, "MongoDB holds no checks", "a rule of the application")
            }
            OfDocument::NumberForLimits => words(
                Weakened,
                format!("{framework} checks the limits of a Number only"),
                "a Number, which may have digits after the point, too",
            ),
            OfDocument::ValueOfNumber => words(Respelled, "the type is a Number", "the same value"),
            OfDocument::RuleNotChecked => {
                left_out(format!("{framework} does not check this of values of the type"))
                    .then_do(VALIDATE)
            }
            OfDocument::ChoicesOfTextsAndNumbers => words(
                Dropped,
                format!("{framework} keeps only texts and numbers to a list of values"),
                "any value is taken",
            )
            .then_do(VALIDATE),
            OfDocument::NoExpressionIndex => left_out("MongoDB has no index over an expression")
                .then_do("keep its value under a path of its own"),
            OfDocument::PatternsToo => words(
                Dropped,
                "an index serves comparisons with patterns, too",
                "no second index is needed",
            ),
            OfDocument::NoSuchFilter => words(
                Dropped,
                "MongoDB cannot filter an index so",
                "the index is left out; values may repeat",
            )
            .then_do("let the application see to it that values are unique"),
            OfDocument::UniqueIsIndexed => {
                words(Dropped, "what is unique is indexed", "no second index is needed")
            }
            OfDocument::OneWordForUnique => words(
                Respelled,
                "what is unique is said in one way",
                "values are as unique as before",
            ),
            OfDocument::IndexOverSeveral => left_out("an index stands over one table")
                .then_do("write one for each table that it stood over"),
            OfDocument::VirtualPath => left_out("this virtual path follows no reference")
                .then_do("join the tables where it was used"),
            OfDocument::DeletesByIndex => {
                left_out("no other database deletes what is too old by an index")
                    .then_do("let the application delete it")
            }
            OfDocument::IndexOverWords => {
                left_out("an index over words is made in another way on each database")
                    .then_do("write it for the database that is meant")
            }
            OfDocument::OtherIndexMethod => left_out("no other database has such an index")
                .then_do("write the one that the database has"),
            OfDocument::DocumentsInside => words(
                Respelled,
                "a table holds no documents",
                "a table of its own, which refers to its owner",
            ),
            OfDocument::ListOfReferences(table) => words(
                Respelled,
                "a table holds no lists of references",
                format!("rows of `{table}` refer to both"),
            ),
        }
    }
}
