//! Defaults in the form that fits their column, and times that the framework keeps.

use serde_json::Value;

use super::Decision;
use crate::dialect::Conventions;
use crate::dialect::conventions::Actor;
use crate::schema::{Default_, Field, Function, Purpose, Type};

/// When a value is filled in that nobody gave.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Moment {
    Insert,
    Update,
}

/// What fills in a column at this moment, of this actor's doing.
#[derive(Clone, Copy, Debug)]
pub struct Filled<'c> {
    pub conventions: &'c Conventions,
    pub purpose: Option<Purpose>,
    pub ty: &'c Type,
    pub moment: Moment,
    pub actor: Actor,
}

impl<'c> Filled<'c> {
    /// Of a column whose type and purpose are known.
    pub fn of(
        conventions: &'c Conventions,
        field: &'c Field,
        moment: Moment,
        actor: Actor,
    ) -> Self {
        Filled { conventions, purpose: field.purpose, ty: &field.r#type, moment, actor }
    }

    /// A value in the form that the column gives it.
    pub fn in_form(&self, value: Option<Box<Default_>>) -> Option<Box<Default_>> {
        value.map(|value| Box::new(coerced(self.ty, *value)))
    }

    /// What the framework fills in for the purpose of the column.
    fn silent(&self) -> Option<Default_> {
        let purpose = self.purpose?;
        let times = &self.conventions.times;
        match (self.moment, self.actor) {
            (Moment::Insert, actor) if actor == times.actor => of_purpose(purpose, self.ty, actor),
            (Moment::Update, Actor::Database) if !times.update_stored => None,
            // Whoever does it, the time is the application's word for it.
            (Moment::Update, _) if purpose == Purpose::UpdateTime => {
                of_purpose(purpose, self.ty, Actor::Application)
            }
            (Moment::Insert | Moment::Update, _) => None,
        }
    }
}

impl Decision for Filled<'_> {
    type Said = Option<Box<Default_>>;
    type Meant = Option<Box<Default_>>;

    fn fill(&self, said: Self::Said) -> Self::Meant {
        self.in_form(said).or_else(|| self.silent().map(Box::new))
    }

    fn ways(&self, meant: &Self::Meant) -> Vec<Self::Said> {
        vec![None, meant.clone()]
    }
}

/// A constant in the form that its column's type has in the neutral schema: exact decimals as text,
/// whole numbers as numbers, truth values as booleans. What does not fit is returned as it is (a
/// lint rule names it).
pub fn coerce(ty: &Type, value: Value) -> Value {
    match (ty, value) {
        (Type::Numeric { .. }, Value::Number(number)) => Value::String(number.to_string()),
        (Type::Real | Type::Double, Value::String(text)) => {
            let parsed = text.parse().ok().and_then(serde_json::Number::from_f64);
            parsed.map_or(Value::String(text), Value::Number)
        }
        (ty, Value::String(text)) if ty.is_whole_number() => {
            text.parse::<i64>().map_or(Value::String(text), Value::from)
        }
        (Type::Boolean, Value::Number(number)) if number.as_i64() == Some(0) => Value::Bool(false),
        (Type::Boolean, Value::Number(number)) if number.as_i64() == Some(1) => Value::Bool(true),
        (Type::Real | Type::Double, Value::Number(number)) => number
            .as_f64()
            .and_then(serde_json::Number::from_f64)
            .map_or(Value::Number(number), Value::Number),
        (_, value) => value,
    }
}

/// A default in the form that fits its column.
pub fn coerced(ty: &Type, default: Default_) -> Default_ {
    match default {
        Default_::Literal(value) => Default_::Literal(coerce(ty, value)),
        other => other,
    }
}

/// What fills in a column of this purpose.
pub fn of_purpose(purpose: Purpose, ty: &Type, actor: Actor) -> Option<Default_> {
    match purpose {
        Purpose::CreationTime | Purpose::UpdateTime => {
            let today = *ty == Type::Date && actor == Actor::Application;
            Some(Default_::Function(if today { Function::Today } else { Function::Now }))
        }
        Purpose::DeletionTime | Purpose::Version => None,
    }
}
