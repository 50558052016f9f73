//! What the database calls its enumeration types: each framework has names of its own for them.

use std::collections::BTreeSet;

use super::Fitting;
use super::causes::enumerations::OfEnumeration;
use crate::dialect::Feature;
use crate::schema::Database;
use crate::schema::enum_name;
use crate::schema::facts::Aspect;
use crate::server::Enumerations;

/// Gives a name to lists of values where they must have one.
pub(super) fn name_lists(fitting: &mut Fitting) {
    if fitting.capabilities.has(Feature::InlineEnum) {
        return;
    }
    for at in 0..fitting.schema.enums.len() {
        if std::mem::take(&mut fitting.schema.enums[at].inline) {
            let name = fitting.schema.enums[at].name.clone();
            fitting.because_enumeration(
                &name,
                Aspect::Inline,
                OfEnumeration::ListNeedsName(name.clone()),
            );
        }
    }
}

/// Keeps the name of each type that has one name only.
pub(super) fn keep_names(fitting: &mut Fitting) {
    if !fitting.conventions.limits.enum_type_named {
        return lose_names(fitting);
    }
    let has_types = |server: Database| server.server().enumerations == Enumerations::Types;
    let here = has_types(fitting.database()) && has_types(fitting.schema.source.database);
    if fitting.home || !here || !fitting.capabilities.has(Feature::EnumType) {
        return;
    }
    for at in 0..fitting.schema.enums.len() {
        let name = fitting.schema.enums[at].name.clone();
        if fitting.schema.enums[at].stored_name.is_some() {
            continue;
        }
        let (mut before, mut after) = (BTreeSet::new(), BTreeSet::new());
        for entity in &fitting.schema.entities {
            for field in entity
                .fields
                .iter()
                .filter(|field| enum_name(&field.r#type) == Some(&name) && !field.stored.is_empty())
            {
                before.insert(field.stored.trim_end_matches("[]").to_owned());
                let names = [
                    ("table", entity.table.as_str()),
                    ("column", &field.column),
                    ("enumeration", &name),
                ];
                after.insert(fitting.conventions.names.enum_type.apply(&names));
            }
        }
        if before == after || before.is_empty() {
            continue;
        }
        if let Some(only) = before.first().filter(|_| before.len() == 1) {
            fitting.schema.enums[at].stored_name = Some(only.clone());
            fitting.because_enumeration(
                &name,
                Aspect::StoredName,
                OfEnumeration::KeepsName(only.clone()),
            );
        }
    }
}

/// The framework calls each type after its table and its column.
fn lose_names(fitting: &mut Fitting) {
    for at in 0..fitting.schema.enums.len() {
        if fitting.schema.enums[at].stored_name.take().is_none() {
            continue;
        }
        let name = fitting.schema.enums[at].name.clone();
        fitting.because_enumeration(&name, Aspect::StoredName, OfEnumeration::CalledAfterColumn);
    }
}

#[cfg(test)]
mod tests {
    use crate::fit::tests::{Case, check};

    const CASES: &[Case] = &[
        (
            "sql postgresql > typeorm postgresql",
            "CREATE TYPE side AS ENUM ('port', 'starboard'); CREATE TABLE t (id integer PRIMARY \
             KEY, a side, b side);",
            &[],
        ),
        (
            "sql postgresql > sequelize postgresql",
            "CREATE TYPE side AS ENUM ('port', 'starboard'); CREATE TABLE t (id integer PRIMARY \
             KEY, a side);",
            &["enum side, stored_name: \"side\" -> nothing (respelled: Sequelize calls an \
               enumeration type after its table and its column)"],
        ),
        (
            "sql postgresql > sqlalchemy postgresql",
            "CREATE TYPE side AS ENUM ('port', 'starboard'); CREATE TABLE t (id integer PRIMARY \
             KEY, a side);",
            &[],
        ),
        (
            "sql postgresql > prisma postgresql",
            "CREATE TYPE side AS ENUM ('port', 'starboard'); CREATE TABLE t (id integer PRIMARY \
             KEY, a side);",
            &[],
        ),
        (
            "sql mariadb > prisma mariadb",
            "CREATE TABLE t (id integer PRIMARY KEY, a enum('port', 'starboard'), b \
             enum('port', 'starboard'));",
            &[
                "enum t_a, inline: true -> nothing (respelled: a list of values must have a name)",
                "enum t_b, inline: true -> nothing (respelled: a list of values must have a name)",
            ],
        ),
        (
            "sql mariadb > sqlalchemy mariadb",
            "CREATE TABLE t (id integer PRIMARY KEY, a enum('port', 'starboard'));",
            &[],
        ),
        (
            "prisma postgresql > typeorm postgresql",
            "enum Side {\n  port\n  starboard\n}\nmodel T {\n  id Int @id\n  a Side\n}\n",
            &["enum Side, stored_name: nothing -> \"Side\" (respelled: TypeORM has a name of \
               its own for an enumeration type)"],
        ),
        (
            "sequelize postgresql > prisma postgresql",
            "const T = sequelize.define('T', { a: DataTypes.ENUM('port', 'starboard') }, \
             { timestamps: false });\n",
            &[
                "enum TA, inline: true -> nothing (respelled: a list of values must have a name)",
                "enum TA, stored_name: nothing -> \"enum_Ts_a\" (respelled: Prisma has a name \
                 of its own for an enumeration type)",
            ],
        ),
    ];

    #[test]
    fn what_the_pass_makes_of_tables() {
        check(
            |fitting| {
                super::name_lists(fitting);
                super::keep_names(fitting);
            },
            CASES,
        );
    }
}
