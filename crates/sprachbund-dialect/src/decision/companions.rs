//! What a column brings along, of which nothing can be said.

use crate::dialect::Conventions;
use crate::schema::expression::Tree;
use crate::schema::{Check, Expression, Field, Origin, Type};

/// The type of a column that refers to a column of this type.
pub fn reference_type(ty: &Type, conventions: &Conventions) -> Type {
    match ty {
        kept if conventions.references.unsigned => kept.clone(),
        Type::UnsignedSmallInt => Type::SmallInt,
        Type::UnsignedInteger => Type::Integer,
        Type::UnsignedBigInt => Type::BigInt,
        other => other.clone(),
    }
}

/// The operator class of a text column's second index, if it gets one.
pub fn pattern_class(ty: &Type) -> Option<&'static str> {
    match ty {
        Type::Varchar(_) => Some("varchar_pattern_ops"),
        Type::Text => Some("text_pattern_ops"),
        _ => None,
    }
}

/// That a column is zero or above.
pub fn not_negative(column: &str) -> Expression {
    Expression::sql(Tree::binary(">=", Tree::Column(column.to_owned()), Tree::Literal(0.into())))
}

/// The check that keeps an unsigned column at zero or above.
pub fn unsigned_check(field: &Field) -> Option<Check> {
    let unsigned = matches!(field.r#type, Type::UnsignedSmallInt | Type::UnsignedInteger | Type::UnsignedBigInt);
    unsigned.then(|| Check::new(None, not_negative(&field.column), Origin::implied("a positive number is checked")))
}

/// The check that a text column holds JSON.
pub fn json_check(field: &Field) -> Option<Check> {
    let column = || Tree::Column(field.column.clone());
    field.r#type.is_json().then(|| {
        let valid = Tree::Call { function: "json_valid".into(), arguments: vec![column()] };
        let tree = Tree::Or(vec![valid, Tree::IsNull(Box::new(column()))]);
        Check::new(None, Expression::sql(tree), Origin::implied("JSON text is checked"))
    })
}
