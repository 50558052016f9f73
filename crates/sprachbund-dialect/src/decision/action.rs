//! What happens when the target of a reference goes or changes its key, when the reference is
//! checked, and by whom.

use super::Silence;
use crate::dialect::Conventions;
use crate::dialect::conventions::{Actor, SilentActions};
use crate::dialect::grammar::ActionPlace;
use crate::schema::{Action, Deferrable, EnforcedBy};

/// What the database does when the target is deleted.
#[derive(Clone, Copy, Debug)]
pub struct OnDelete<'c> {
    pub conventions: &'c Conventions,
    /// Whether all columns of the reference may be null.
    pub optional: bool,
}

impl Silence for OnDelete<'_> {
    type Value = Action;

    fn silent(&self) -> Action {
        self.conventions.delete.silent.on_delete(self.optional)
    }

    fn fixed(&self) -> Option<Action> {
        (self.conventions.delete.actor == Actor::Application).then_some(Action::NoAction)
    }
}

/// What the database does when the key of the target changes.
#[derive(Clone, Copy, Debug)]
pub struct OnUpdate<'c> {
    pub conventions: &'c Conventions,
}

impl Silence for OnUpdate<'_> {
    type Value = Action;

    fn silent(&self) -> Action {
        self.conventions.delete.silent.on_update
    }

    fn fixed(&self) -> Option<Action> {
        (self.conventions.delete.actor == Actor::Application).then_some(Action::NoAction)
    }
}

/// What the application does when the target is deleted, if it does something by itself.
#[derive(Clone, Copy, Debug)]
pub struct InApplication<'c> {
    pub conventions: &'c Conventions,
    /// Whether all columns of the reference may be null.
    pub optional: bool,
}

impl Silence for InApplication<'_> {
    type Value = Option<Action>;

    fn silent(&self) -> Option<Action> {
        let silent = self.conventions.delete.silent;
        (silent != SilentActions::default()).then(|| silent.on_delete(self.optional))
    }

    fn fixed(&self) -> Option<Option<Action>> {
        // Where the other side says what the application does, the reference may say what the
        // database does, too.
        let by_inverse = self.conventions.grammar.application_action == ActionPlace::Inverse;
        let acts = self.conventions.delete.actor == Actor::Application || by_inverse;
        (!acts).then_some(None)
    }
}

/// When the database checks a reference, if not at each statement.
#[derive(Clone, Copy, Debug)]
pub struct Checked<'c> {
    pub conventions: &'c Conventions,
}

impl Silence for Checked<'_> {
    type Value = Option<Deferrable>;

    fn silent(&self) -> Option<Deferrable> {
        self.conventions.references.deferrable
    }
}

/// Who keeps a reference.
#[derive(Clone, Copy, Debug)]
pub struct Enforced<'c> {
    pub conventions: &'c Conventions,
}

impl Silence for Enforced<'_> {
    type Value = bool;

    fn silent(&self) -> bool {
        self.conventions.references.enforced
    }
}

/// Who keeps a reference of which a foreign key is made, or not.
pub fn keeper(constraint: bool) -> EnforcedBy {
    if constraint { EnforcedBy::Database } else { EnforcedBy::Application }
}
