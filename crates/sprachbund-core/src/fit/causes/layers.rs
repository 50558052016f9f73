//! Causes that concern what one dialect says in a layer that another lacks: in the code, on input,
//! in words of its own.

use super::{Elsewhere, Speaker, Words, left_out, words};
use crate::fit::Grade::{Added, Dropped, Moved, Respelled, Strengthened, Weakened};

/// Why a layer says something else.
#[derive(Clone, Debug, PartialEq)]
pub(in crate::fit) enum OfLayer {
    NoInput,
    Input,
    NullReadAsEmpty,
    /// The type in the code follows the column, which is `optional`.
    CodeFollowsColumn {
        optional: bool,
    },
    NoCode,
    Code,
    NoInputRules,
    RefusesNegative,
    RuleIsCode,
    Comment(Elsewhere),
    NoCollation,
    CollationOfServer,
    /// The word whose value is code.
    WordIsCode(String),
    /// A word of the source's own.
    OwnWord(String),
    /// A word that scripts do not have.
    NotOfScripts(String),
}

impl OfLayer {
    pub(super) fn words(&self, Speaker { framework, server }: &Speaker<'_>) -> Words {
        match self {
            OfLayer::NoInput => left_out(format!("{framework} does not validate input"))
                .then_do("check what is required where input is validated"),
            OfLayer::Input => words(
                Added,
                format!("{framework} also says what input must give"),
                "what the column lets be null may be left out",
            ),
            OfLayer::NullReadAsEmpty => words(
                Respelled,
                format!("{framework} reads null as an empty array"),
                "its type in the code says nothing of null",
            ),
            OfLayer::CodeFollowsColumn { optional } => {
                let grade = if *optional { Weakened } else { Strengthened };
                words(
                    grade,
                    format!(
                        "the type of a {framework} attribute says of null what the column says"
                    ),
                    "it follows the column",
                )
            }
            OfLayer::NoCode => words(
                Dropped,
                format!("types of {framework} attributes do not say what may be missing"),
                "the column still says it",
            ),
            OfLayer::Code => words(
                Added,
                "the type in the code also says what may be missing",
                "it follows the column",
            ),
            OfLayer::RefusesNegative => words(
                Added,
                format!("{framework} refuses negative numbers of such a column by itself"),
                "input is checked, too",
            ),
            OfLayer::NoInputRules => left_out(format!("{framework} does not validate input"))
                .then_do("check these rules where input is validated"),
            OfLayer::RuleIsCode => {
                left_out("a rule is made by code that only its own file can name")
                    .then_do("add it by hand")
            }
            OfLayer::Comment(Elsewhere::Script) => {
                words(Moved, "the comment of a column cannot be said", "the script adds it")
            }
            OfLayer::Comment(Elsewhere::Nowhere) => words(
                Dropped,
                "the comment of a column cannot be said",
                "this server keeps none either",
            ),
            OfLayer::NoCollation => words(
                Weakened,
                "the collation of a column cannot be said",
                "the database's own is used",
            ),
            OfLayer::CollationOfServer => words(
                Weakened,
                format!("{server} does not know the collation"),
                "the database's own is used",
            )
            .then_do("give the column a collation of this server where order or case counts"),
            OfLayer::WordIsCode(word) => {
                left_out(format!("`{word}` is code that only its own file can name"))
                    .then_do("add it by hand")
            }
            OfLayer::NotOfScripts(word) => {
                left_out(format!("`{word}` is not written into a script"))
            }
            OfLayer::OwnWord(word) => {
                left_out(format!("`{word}` has no meaning outside its own framework"))
            }
        }
    }
}
