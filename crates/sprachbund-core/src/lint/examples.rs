//! What rules write their examples with: one word for each dialect that has examples of its own.

use super::rule::Example;

/// Statements that make tables.
pub(super) const fn sql(text: &'static str) -> Example {
    Example::new("sql", text)
}

/// Classes for Django.
pub(super) const fn django(text: &'static str) -> Example {
    Example::new("django", text)
}

/// Classes for TypeORM.
pub(super) const fn typeorm(text: &'static str) -> Example {
    Example::new("typeorm", text)
}

/// Models for Prisma.
pub(super) const fn prisma(text: &'static str) -> Example {
    Example::new("prisma", text)
}

/// Models for Sequelize.
pub(super) const fn sequelize(text: &'static str) -> Example {
    Example::new("sequelize", text)
}

/// Schemas for Mongoose.
pub(super) const fn mongoose(text: &'static str) -> Example {
    Example::new("mongoose", text)
}
