//! What one server holds and another does not, whoever declares it: numbers without a sign, the
//! small numbers of MariaDB and MySQL, and the collations that go by a server's own names.

use super::Fitting;
use super::causes::enumerations::OfEnumeration;
use super::causes::layers::OfLayer;
use super::causes::types::OfType;
use crate::decision::companions::not_negative;
use crate::schema::facts::{Aspect, Element};
use crate::schema::{Check, Database, Entity, Field, Origin, Type};
use crate::server::WholeNumbers;

/// What was changed in a table.
pub(super) enum Carried {
    /// The column at this place has another type, which may not hold the greatest numbers.
    Number { at: usize, narrower: bool },
    /// A check keeps a column at zero or above, as the server did.
    Check(Element),
    /// The column at this place has no collation any more.
    Collation(usize),
}

/// Carries every table over from the server of the source.
pub(super) fn fit(fitting: &mut Fitting) {
    let (from, to) = (fitting.schema.source.database, fitting.database());
    fitting.each_entity(|fitting, entity| {
        for carried in carry(entity, from, to) {
            match carried {
                Carried::Number { at, narrower } => {
                    fitting.because_column(
                        entity,
                        at,
                        Aspect::Type,
                        OfType::NumberOfServer { narrower },
                    );
                }
                Carried::Check(check) => {
                    fitting.because_element(entity, check, OfEnumeration::KeptByCheck)
                }
                Carried::Collation(at) => fitting.because_column(
                    entity,
                    at,
                    Aspect::Collation,
                    OfLayer::CollationOfServer,
                ),
            }
        }
    });
}

/// Carries one table over from server to server.
pub(super) fn carry(entity: &mut Entity, from: Database, to: Database) -> Vec<Carried> {
    let mut carried = Vec::new();
    if from == to {
        return carried;
    }
    for at in 0..entity.fields.len() {
        if entity.fields[at].collation.is_some()
            && from.server().collations != to.server().collations
        {
            entity.fields[at].collation = None;
            carried.push(Carried::Collation(at));
        }
        let referring =
            entity.foreign_keys.iter().any(|key| key.columns.contains(&entity.fields[at].column));
        let check = kept_by_server(&entity.fields[at], from, to).filter(|_| !referring);
        if let Some(ty) = number(&entity.fields[at].r#type, from, to) {
            let field = &mut entity.fields[at];
            // A counter does not come that far, and so does nothing that refers to one.
            let narrower =
                field.r#type == Type::UnsignedBigInt && field.identity.is_none() && !referring;
            field.r#type = ty;
            carried.push(Carried::Number { at, narrower });
        }
        if let Some(check) = check
            .filter(|check| !entity.checks.iter().any(|known| known.expression == check.expression))
        {
            carried.push(Carried::Check(Element::of_check(&check)));
            entity.checks.push(check);
        }
    }
    carried
}

/// The type that holds the numbers of a type of the other server; `None` where its own does, or it
/// is no such number.
fn number(ty: &Type, from: Database, to: Database) -> Option<Type> {
    if !loses_unsigned(from, to) {
        return None;
    }
    match ty {
        Type::UnsignedSmallInt => Some(Type::Integer),
        // Nothing is wider but decimals, which programs do not count with.
        Type::UnsignedInteger | Type::UnsignedBigInt => Some(Type::BigInt),
        // What has fewer than its bits without a sign has room for it.
        Type::Native(word) => small_number(word).map(|ty| match ty {
            Type::UnsignedSmallInt => Type::SmallInt,
            Type::UnsignedInteger => Type::Integer,
            signed => signed,
        }),
        _ => None,
    }
}

/// The check that says what the other server saw to: a number is not negative. Counters are not,
/// and references are what they refer to.
fn kept_by_server(field: &Field, from: Database, to: Database) -> Option<Check> {
    let ty = match &field.r#type {
        Type::Native(word) => small_number(word)?,
        ty => ty.clone(),
    };
    let unsigned =
        matches!(ty, Type::UnsignedSmallInt | Type::UnsignedInteger | Type::UnsignedBigInt);
    let kept = unsigned && loses_unsigned(from, to) && field.identity.is_none();
    kept.then(|| {
        Check::new(
            None,
            not_negative(&field.column),
            Origin::implied("the server kept the number from being negative"),
        )
    })
}

fn loses_unsigned(from: Database, to: Database) -> bool {
    let unsigned =
        |database: Database| database.server().whole_numbers == WholeNumbers::SignedAndUnsigned;
    unsigned(from) && !unsigned(to)
}

/// The nearest number for the small ones of MariaDB and MySQL.
pub(super) fn small_number(word: &str) -> Option<Type> {
    let (word, unsigned) =
        word.strip_suffix(" unsigned").map_or((word, false), |word| (word, true));
    Some(match (word.split('(').next()?, unsigned) {
        ("tinyint" | "year", false) => Type::SmallInt,
        ("tinyint", true) => Type::UnsignedSmallInt,
        ("mediumint", false) => Type::Integer,
        ("mediumint", true) => Type::UnsignedInteger,
        _ => return None,
    })
}

#[cfg(test)]
mod tests {
    use crate::fit::tests::{Case, check};

    const CASES: &[Case] = &[
        (
            "sql mariadb > typeorm postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, a int unsigned, b smallint unsigned, c \
             bigint unsigned, d tinyint unsigned, e mediumint, f year);",
            &[
                "t, column c, type: \"unsigned bigint\" -> \"bigint\" (weakened: PostgreSQL has \
                 no unsigned numbers of 64 bits)",
                "t, column a, type: \"unsigned integer\" -> \"bigint\" (respelled: PostgreSQL \
                 has fewer kinds of whole numbers)",
                "t, column b, type: \"unsigned smallint\" -> \"integer\" (respelled: PostgreSQL \
                 has fewer kinds of whole numbers)",
                "t, column d, type: \"native(tinyint unsigned)\" -> \"smallint\" (respelled: \
                 PostgreSQL has fewer kinds of whole numbers)",
                "t, column e, type: \"native(mediumint)\" -> \"integer\" (respelled: PostgreSQL \
                 has fewer kinds of whole numbers)",
                "t, column f, type: \"native(year)\" -> \"smallint\" (respelled: PostgreSQL has \
                 fewer kinds of whole numbers)",
                "t, check \"a\" >= 0, exists: nothing -> true (respelled: PostgreSQL has no \
                 unsigned numbers)",
                "t, check \"b\" >= 0, exists: nothing -> true (respelled: PostgreSQL has no \
                 unsigned numbers)",
                "t, check \"c\" >= 0, exists: nothing -> true (respelled: PostgreSQL has no \
                 unsigned numbers)",
                "t, check \"d\" >= 0, exists: nothing -> true (respelled: PostgreSQL has no \
                 unsigned numbers)",
            ],
        ),
        (
            "sql mariadb > django postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, a int unsigned, b bigint unsigned, c \
             tinyint);",
            &[
                "t, column b, type: \"unsigned bigint\" -> \"bigint\" (weakened: PostgreSQL has \
                 no unsigned numbers of 64 bits)",
                "t, column a, type: \"unsigned integer\" -> \"bigint\" (respelled: PostgreSQL \
                 has fewer kinds of whole numbers)",
                "t, column c, type: \"native(tinyint)\" -> \"smallint\" (respelled: PostgreSQL \
                 has fewer kinds of whole numbers)",
                "t, check \"a\" >= 0, exists: nothing -> true (respelled: PostgreSQL has no \
                 unsigned numbers)",
                "t, check \"b\" >= 0, exists: nothing -> true (respelled: PostgreSQL has no \
                 unsigned numbers)",
            ],
        ),
        (
            "sql mysql > django sqlite",
            "CREATE TABLE t (id integer PRIMARY KEY, a int unsigned, b mediumint unsigned);",
            &[
                "t, column a, type: \"unsigned integer\" -> \"bigint\" (respelled: SQLite has \
                 fewer kinds of whole numbers)",
                "t, column b, type: \"native(mediumint unsigned)\" -> \"integer\" (respelled: \
                 SQLite has fewer kinds of whole numbers)",
                "t, check \"a\" >= 0, exists: nothing -> true (respelled: SQLite has no \
                 unsigned numbers)",
                "t, check \"b\" >= 0, exists: nothing -> true (respelled: SQLite has no \
                 unsigned numbers)",
            ],
        ),
        (
            "sql mysql > prisma mariadb",
            "CREATE TABLE t (id integer PRIMARY KEY, a int unsigned, b tinyint);",
            &[],
        ),
        (
            "sql mariadb > sequelize postgresql",
            "CREATE TABLE q (id int unsigned AUTO_INCREMENT PRIMARY KEY); CREATE TABLE t (id \
             bigint unsigned AUTO_INCREMENT PRIMARY KEY, q_id int unsigned, FOREIGN KEY (q_id) \
             REFERENCES q (id));",
            &[
                "q, column id, type: \"unsigned integer\" -> \"bigint\" (respelled: PostgreSQL \
                 has fewer kinds of whole numbers)",
                "t, column id, type: \"unsigned bigint\" -> \"bigint\" (respelled: PostgreSQL \
                 has fewer kinds of whole numbers)",
                "t, column q_id, type: \"unsigned integer\" -> \"bigint\" (respelled: \
                 PostgreSQL has fewer kinds of whole numbers)",
            ],
        ),
        (
            "sql mariadb > django postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, a int unsigned, CHECK (a >= 0));",
            &["t, column a, type: \"unsigned integer\" -> \"bigint\" (respelled: PostgreSQL has \
               fewer kinds of whole numbers)"],
        ),
        (
            "sql sqlite > django postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, a text COLLATE NOCASE);",
            &["t, column a, collation: \"NOCASE\" -> nothing (weakened: PostgreSQL does not \
               know the collation)"],
        ),
        (
            "sql postgresql > sqlalchemy mariadb",
            "CREATE TABLE t (id integer PRIMARY KEY, a text COLLATE \"C\");",
            &["t, column a, collation: \"C\" -> nothing (weakened: MariaDB does not know the \
               collation)"],
        ),
        (
            "sql mysql > sqlalchemy mariadb",
            "CREATE TABLE t (id integer PRIMARY KEY, a varchar(9) COLLATE utf8mb4_bin);",
            &[],
        ),
        (
            "django mariadb > django postgresql",
            "class T(models.Model):
    a = models.PositiveIntegerField()
    b = models.PositiveBigIntegerField()
",
            &[
                "main_t, column b, type: \"unsigned bigint\" -> \"bigint\" (weakened: \
                 PostgreSQL has no unsigned numbers of 64 bits)",
                "main_t, column a, type: \"unsigned integer\" -> \"bigint\" (respelled: \
                 PostgreSQL has fewer kinds of whole numbers)",
            ],
        ),
        (
            "django postgresql > django mariadb",
            "class T(models.Model):\n    a = models.PositiveIntegerField()\n",
            &[],
        ),
    ];

    #[test]
    fn what_the_pass_makes_of_tables() {
        check(super::fit, CASES);
    }
}
