//! What a column brings along, of which nothing can be said.

use crate::dialect::Conventions;
use crate::dialect::type_table::TypeRow;
use crate::schema::expression::Tree;
use crate::schema::{Check, Entity, Expression, Field, InputRule, Origin, Type};

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

/// The check of a column whose word refuses negative numbers.
pub fn positive_check(column: &str) -> Check {
    Check::new(None, not_negative(column), Origin::implied("a positive number is checked"))
}

/// The rule of input that such a word brings along.
pub fn positive_rule() -> InputRule {
    InputRule { rule: "min_value".into(), value: 0.into(), message: None }
}

/// Whether a column gets a word that refuses negative numbers: on input and by a check, or by the
/// server, which has no other word.
pub fn is_positive(conventions: &Conventions, entity: &Entity, field: &Field) -> bool {
    let here = |row: &&TypeRow| row.is_on(conventions.database);
    let mut says = conventions
        .words
        .types
        .iter()
        .filter(here)
        .filter(|row| row.kind == field.r#type.kind())
        .peekable();
    if says.peek().is_none() || !says.clone().any(|row| row.not_negative) {
        return false;
    }
    let checked = || {
        entity
            .checks
            .iter()
            .any(|check| check.name.is_none() && check.expression == not_negative(&field.column))
    };
    says.all(|row| row.not_negative) || (field.rules.first() == Some(&positive_rule()) && checked())
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
