//! Why the target says something in another way: what a pass leaves on the facts that it touches.
//! The words of all causes stand here, one file to an area.

pub(super) mod actions;
pub(super) mod constraints;
pub(super) mod defaults;
pub(super) mod documents;
pub(super) mod enumerations;
pub(super) mod generated;
pub(super) mod indexes;
pub(super) mod joins;
pub(super) mod keys;
pub(super) mod layers;
pub(super) mod references;
pub(super) mod tables;
pub(super) mod times;
pub(super) mod types;
pub(super) mod uniques;

use super::Grade;
use crate::schema::facts::{Aspect, ElementKind, FactKey};

/// The reason of a change for which no pass left a cause: a defect.
pub const UNEXPLAINED: &str = "it differs, and no reason is known";

/// Why something differs.
#[derive(Clone, Debug, PartialEq)]
pub(super) enum Cause {
    Key(keys::OfKey),
    Table(tables::OfTable),
    Join(joins::OfJoin),
    Enumeration(enumerations::OfEnumeration),
    Type(types::OfType),
    Generated(generated::OfGenerated),
    Time(times::OfTime),
    Default(defaults::OfDefault),
    Layer(layers::OfLayer),
    Action(actions::OfAction),
    Reference(references::OfReference),
    Unique(uniques::OfUnique),
    Index(indexes::OfIndex),
    Constraint(constraints::OfConstraint),
    Document(documents::OfDocument),
    /// Between an application and a server, or between tables and documents: a row of the
    /// crossing's table.
    Crossed(&'static Row),
    /// No pass says why. That is a defect, which the laws name.
    Unexplained,
}

impl Cause {
    /// Its words.
    pub(super) fn words(&self, speaker: &Speaker<'_>) -> Words {
        match self {
            Cause::Key(cause) => cause.words(speaker),
            Cause::Table(cause) => cause.words(speaker),
            Cause::Join(cause) => cause.words(speaker),
            Cause::Enumeration(cause) => cause.words(speaker),
            Cause::Type(cause) => cause.words(speaker),
            Cause::Generated(cause) => cause.words(speaker),
            Cause::Time(cause) => cause.words(speaker),
            Cause::Default(cause) => cause.words(speaker),
            Cause::Layer(cause) => cause.words(speaker),
            Cause::Action(cause) => cause.words(speaker),
            Cause::Reference(cause) => cause.words(speaker),
            Cause::Unique(cause) => cause.words(speaker),
            Cause::Index(cause) => cause.words(speaker),
            Cause::Constraint(cause) => cause.words(speaker),
            Cause::Document(cause) => cause.words(speaker),
            Cause::Crossed(row) => words(row.grade, row.reason, row.result).then_do(row.to_do),
            Cause::Unexplained => words(Grade::Dropped, UNEXPLAINED, "what the declarations say")
                .then_do("compare it by hand, and report this: it is a defect of Sprachbund"),
        }
    }

    /// How much it changes; the gravest is the least.
    pub(super) fn grade(&self) -> Grade {
        self.words(&Speaker { framework: "", server: "" }).grade
    }
}

macro_rules! into_cause {
    ($($area:ident($of:ty)),* $(,)?) => {
        $(impl From<$of> for Cause {
            fn from(cause: $of) -> Self {
                Cause::$area(cause)
            }
        })*
    };
}

into_cause!(
    Key(keys::OfKey),
    Table(tables::OfTable),
    Join(joins::OfJoin),
    Enumeration(enumerations::OfEnumeration),
    Type(types::OfType),
    Generated(generated::OfGenerated),
    Time(times::OfTime),
    Default(defaults::OfDefault),
    Layer(layers::OfLayer),
    Action(actions::OfAction),
    Reference(references::OfReference),
    Unique(uniques::OfUnique),
    Index(indexes::OfIndex),
    Constraint(constraints::OfConstraint),
    Document(documents::OfDocument),
    Crossed(&'static Row),
);

/// Who keeps what declarations cannot say.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum Elsewhere {
    Script,
    Nowhere,
}

/// What is told of a change.
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
pub(super) struct Words {
    pub(super) grade: Grade,
    /// What cannot be said, and why.
    pub(super) reason: String,
    /// What was done.
    pub(super) result: String,
    /// What a person must do; empty for nothing.
    pub(super) to_do: String,
}

impl Words {
    fn then_do(mut self, to_do: impl Into<String>) -> Self {
        self.to_do = to_do.into();
        self
    }
}

fn words(grade: Grade, reason: impl Into<String>, result: impl Into<String>) -> Words {
    Words { grade, reason: reason.into(), result: result.into(), to_do: String::new() }
}

/// What is no longer said, and has nothing in its place.
fn left_out(reason: impl Into<String>) -> Words {
    words(Grade::Dropped, reason, "left out")
}

/// Words that take nothing from the schema.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct Row {
    grade: Grade,
    reason: &'static str,
    result: &'static str,
    to_do: &'static str,
}

/// A row without anything to do.
pub(super) const fn row(grade: Grade, reason: &'static str, result: &'static str) -> Row {
    Row { grade, reason, result, to_do: "" }
}

impl Row {
    /// The same row with something to do.
    pub(super) const fn then_do(self, to_do: &'static str) -> Self {
        Row { to_do, ..self }
    }
}

/// What becomes of the facts of a kind: of this aspect, or of any. The first row that fits counts.
pub(super) type Rows = &'static [(ElementKind, Option<Aspect>, Row)];

/// The first row that fits a fact.
pub(super) fn find(rows: Rows, key: &FactKey) -> Option<&'static Row> {
    let fits = |(kind, aspect, _): &&(ElementKind, Option<Aspect>, Row)| {
        *kind == key.element.kind() && aspect.as_ref().is_none_or(|aspect| *aspect == key.aspect)
    };
    rows.iter().find(fits).map(|(_, _, row)| row)
}

/// Who is spoken of.
pub(super) struct Speaker<'s> {
    /// The target framework's name.
    pub(super) framework: &'s str,
    /// The target server's name.
    pub(super) server: &'s str,
}
