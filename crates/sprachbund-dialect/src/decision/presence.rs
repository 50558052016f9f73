//! What may be null, or missing: in the column, in the code, on input.

use super::Silence;
use crate::dialect::Conventions;
use crate::schema::{Field, Purpose, Type};

/// What a column is declared with.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Carries {
    /// An attribute of its own.
    Value,
    /// A relation.
    Reference,
}

/// A column whose presence is asked for.
#[derive(Clone, Copy, Debug)]
pub struct Presence<'c> {
    pub conventions: &'c Conventions,
    pub carries: Carries,
    pub in_key: bool,
    pub array: bool,
    pub generated: bool,
    /// Whether something else than the input gives it a value: a counter, an expression, the
    /// framework's clock.
    pub automatic: bool,
}

impl<'c> Presence<'c> {
    /// Of a column whose type, counter, expression and purpose are known.
    pub fn of(
        conventions: &'c Conventions,
        carries: Carries,
        field: &Field,
        key: &[String],
    ) -> Self {
        let kept = matches!(field.purpose, Some(Purpose::CreationTime | Purpose::UpdateTime));
        Presence {
            conventions,
            carries,
            in_key: key.contains(&field.column),
            array: matches!(field.r#type, Type::Array(_)),
            generated: field.generated.is_some(),
            automatic: field.identity.is_some() || field.generated.is_some() || kept,
        }
    }

    /// Whether the column takes null, where its type in the code says this much.
    pub fn nullable(self, optional_in_code: Option<bool>) -> Nullable<'c> {
        Nullable { presence: self, optional_in_code }
    }

    /// Whether it must be there on input; `None` where the dialect has no such layer.
    pub fn required_on_input(self) -> Option<RequiredOnInput<'c>> {
        self.conventions.layers.input.then_some(RequiredOnInput { presence: self })
    }

    /// Whether its type in the code takes nothing; `None` where the dialect has no such layer, or
    /// reads null as an empty array.
    pub fn optional_in_code(self, nullable: bool) -> Option<OptionalInCode<'c>> {
        let Conventions { layers, nullability, .. } = self.conventions;
        (layers.code && !(self.array && nullability.arrays))
            .then_some(OptionalInCode { presence: self, nullable })
    }
}

/// Whether a column takes null.
#[derive(Clone, Copy, Debug)]
pub struct Nullable<'c> {
    presence: Presence<'c>,
    optional_in_code: Option<bool>,
}

impl Silence for Nullable<'_> {
    type Value = bool;

    fn silent(&self) -> bool {
        let nullability = &self.presence.conventions.nullability;
        let silent = match (nullability.follows_code, self.presence.carries) {
            (true, _) => self.optional_in_code.unwrap_or(true),
            (false, Carries::Value) => nullability.column,
            (false, Carries::Reference) => nullability.reference,
        };
        silent || (nullability.arrays && self.presence.array)
    }

    fn fixed(&self) -> Option<bool> {
        let always_null =
            self.presence.generated && self.presence.conventions.nullability.generated;
        always_null.then_some(true).or(self.presence.in_key.then_some(false))
    }
}

/// Whether an attribute must be there on input.
#[derive(Clone, Copy, Debug)]
pub struct RequiredOnInput<'c> {
    presence: Presence<'c>,
}

impl Silence for RequiredOnInput<'_> {
    type Value = bool;

    fn silent(&self) -> bool {
        self.presence.conventions.nullability.required_on_input && !self.presence.automatic
    }
}

/// Whether the type of an attribute in the code takes nothing.
#[derive(Clone, Copy, Debug)]
pub struct OptionalInCode<'c> {
    presence: Presence<'c>,
    nullable: bool,
}

impl OptionalInCode<'_> {
    /// Whether the type is written in any case, and says it.
    pub fn is_written(&self) -> bool {
        !self.presence.conventions.nullability.code_follows
    }
}

impl Silence for OptionalInCode<'_> {
    type Value = bool;

    fn silent(&self) -> bool {
        self.nullable && (self.presence.conventions.nullability.follows_code || !self.is_written())
    }
}
