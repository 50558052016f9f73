//! What goes with a column that is dropped.
//!
//! Seen on PostgreSQL 15.18, MariaDB 10.11.19, MySQL 9.7.4 and SQLite 3.40.1:
//!
//! * PostgreSQL drops every index and constraint that uses the column, also in a condition or as a
//!   further column.
//! * MariaDB and MySQL take the column out of each index and drop those that have no other; MySQL
//!   does so with unique constraints and the primary key, too (where MariaDB refuses the step). A
//!   check over this column alone goes; over more they refuse the step.
//! * SQLite refuses the step where anything but the column's own check or reference uses it.
//!
//! A history that ran to its end took no step that was refused, so what is refused need not be told
//! apart here.

use crate::schema::{Database, Entity, Expression, Index, IndexPart};
use crate::server::Drops;

/// Drops a column of a table.
pub fn column(entity: &mut Entity, column: &str, server: Database) {
    let uses = |expression: &Expression| mentions(expression, column);
    entity.fields.retain(|field| field.column != column);
    entity.foreign_keys.retain(|key| !key.columns.iter().any(|own| own == column));
    entity.relations.retain(|relation| !relation.columns.iter().any(|own| own == column));
    entity.checks.retain(|check| !uses(&check.expression));
    entity.exclusions.retain(|check| !uses(&check.expression));
    if server.server().drops_column == Drops::ItsPlaceInKeys {
        entity.uniques.iter_mut().for_each(|unique| unique.columns.retain(|own| own != column));
        entity.primary_key.iter_mut().for_each(|key| key.columns.retain(|own| own != column));
        entity.indexes.iter_mut().for_each(|index| narrow(index, column));
    } else {
        entity.uniques.retain(|unique| !unique.columns.iter().any(|own| own == column));
        entity.indexes.retain(|index| !index_uses(index, column));
        entity.primary_key.take_if(|key| key.columns.iter().any(|own| own == column));
    }
    entity.uniques.retain(|unique| !unique.columns.is_empty());
    entity.indexes.retain(|index| !index.parts.is_empty());
    entity.primary_key.take_if(|key| key.columns.is_empty());
}

/// Takes a column out of an index.
fn narrow(index: &mut Index, column: &str) {
    index.columns.retain(|own| own != column);
    index.include.retain(|own| own != column);
    index.parts.retain(|part| part.column.as_deref() != Some(column));
}

fn index_uses(index: &Index, column: &str) -> bool {
    let of_part = |part: &IndexPart| {
        part.column.as_deref() == Some(column)
            || part.expression.as_deref().is_some_and(|expression| mentions(expression, column))
    };
    index.columns.iter().chain(&index.include).any(|own| own == column)
        || index.parts.iter().any(of_part)
        || index.condition.as_deref().is_some_and(|condition| mentions(condition, column))
}

/// Whether an expression names a column; of one that was not understood, whether its text has the
/// word.
fn mentions(expression: &Expression, column: &str) -> bool {
    match &expression.tree {
        Some(_) => expression.columns().contains(&column),
        None => words(&expression.text).any(|word| word == column),
    }
}

fn words(text: &str) -> impl Iterator<Item = &str> {
    text.split(|letter: char| !(letter.is_alphanumeric() || letter == '_'))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn code_that_was_not_understood_goes_by_its_words() {
        let code = |text: &str| Expression::host("python", text);
        assert!(mentions(&code("Q(depth__gt=0) & (F('draught') > 1)"), "draught"));
        assert!(!mentions(&code("Q(depth=0)"), "dept"));
    }
}
