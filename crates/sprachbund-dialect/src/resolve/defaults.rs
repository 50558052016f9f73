//! Defaults in the form that fits their column.

use serde_json::Value;

use crate::dialect::conventions::Actor;
use crate::schema::{Default_, Function, Purpose, Type};

/// A constant in the form that its column's type has in the neutral schema: exact decimals as text, whole numbers as
/// numbers, truth values as booleans. What does not fit is returned as it is (a lint rule names it).
pub fn coerce(ty: &Type, value: Value) -> Value {
    match (ty, value) {
        (Type::Numeric { .. }, Value::Number(number)) => Value::String(number.to_string()),
        (Type::Real | Type::Double, Value::String(text)) => {
            let parsed = text.parse().ok().and_then(serde_json::Number::from_f64);
            parsed.map_or(Value::String(text), Value::Number)
        }
        (ty, Value::String(text)) if ty.is_whole_number() => text.parse::<i64>().map_or(Value::String(text), Value::from),
        (Type::Boolean, Value::Number(number)) if number.as_i64() == Some(0) => Value::Bool(false),
        (Type::Boolean, Value::Number(number)) if number.as_i64() == Some(1) => Value::Bool(true),
        (Type::Real | Type::Double, Value::Number(number)) => {
            number.as_f64().and_then(serde_json::Number::from_f64).map_or(Value::Number(number), Value::Number)
        }
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
