//! What may go unsaid, and what it means then: one rule for each such thing, in two directions.
//!
//! A decision is the circumstances in which a thing stands, in so far as its meaning depends on
//! them: the dialect's answers, whether the column is in the key, what is known of its type.
//! `resolve` fills in what an author left unsaid; `elide` leaves out what would be filled in again.
//! Both build the same circumstances and ask the same decision, and leaving out is derived: it
//! takes the least that can be said and is filled in as what is meant.
//!
//! * [`presence`]: what may be null or missing, in each of three layers.
//! * [`values`]: defaults, and times that the framework keeps.
//! * [`counter`]: who numbers a column.
//! * [`names`]: tables, columns, other sides, join tables.
//! * [`index`]: what is unique or indexed at its column.
//! * [`action`]: what happens when the target of a reference goes, when it is checked, and by whom.
//! * [`companions`]: what a column brings along of which nothing can be said.

pub mod action;
pub mod companions;
pub mod counter;
pub mod index;
pub mod names;
pub mod presence;
pub mod values;

/// The circumstances of something that may go unsaid.
pub trait Decision {
    /// What can be said; its default is silence.
    type Said: Default;
    /// What it means.
    type Meant: PartialEq;

    /// What is meant where this is said.
    fn fill(&self, said: Self::Said) -> Self::Meant;

    /// What could be said to mean this, the least first.
    fn ways(&self, meant: &Self::Meant) -> Vec<Self::Said>
    where
        Self::Said: Clone;

    /// The least that must be said. Where nothing that can be said means this, nothing is: the
    /// circumstances leave no choice.
    fn omit(&self, meant: &Self::Meant) -> Self::Said
    where
        Self::Said: Clone,
    {
        self.ways(meant)
            .into_iter()
            .find(|said| self.fill(said.clone()) == *meant)
            .unwrap_or_default()
    }
}

/// A decision of which the meaning itself is said, or nothing.
pub trait Silence {
    type Value: Clone + PartialEq;

    /// What silence means.
    fn silent(&self) -> Self::Value;

    /// What the circumstances leave no choice about, whatever is said.
    fn fixed(&self) -> Option<Self::Value> {
        None
    }
}

impl<S: Silence> Decision for S {
    type Said = Option<S::Value>;
    type Meant = S::Value;

    fn fill(&self, said: Option<S::Value>) -> S::Value {
        self.fixed().or(said).unwrap_or_else(|| self.silent())
    }

    fn ways(&self, meant: &S::Value) -> Vec<Option<S::Value>> {
        vec![None, Some(meant.clone())]
    }
}
