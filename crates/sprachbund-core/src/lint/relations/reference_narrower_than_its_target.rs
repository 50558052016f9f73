use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::place;
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::Type;
use crate::schema::facts::foreign_key_element;

pub(super) const RULE: Rule = Rule {
    name: "reference-narrower-than-its-target",
    severity: Severity::Warning,
    finds: "a reference whose column holds fewer values than the column that it refers to",
    consequence: "PostgreSQL takes the foreign key, and refuses rows once the target's numbers \
                  outgrow the reference. (MySQL and MariaDB refuse it at once for numbers: \
                  that is `reference-unlike-its-target`.)",
    sql: "INSERT INTO berths (quay_id) VALUES (2147483648);  -- refused: integer out of range; \
          yet quay 2147483648 exists",
    cure: "Give the reference the type of its target. Widening rewrites the table.",
    exception: "When the target will never have so many rows, on PostgreSQL and SQLite.",
    wrong: sql("CREATE TABLE quays (id bigint PRIMARY KEY);\n\
                CREATE TABLE berths (id bigint PRIMARY KEY, quay_id integer REFERENCES quays \
                (id));\n"),
    right: sql("CREATE TABLE quays (id bigint PRIMARY KEY);\n\
                CREATE TABLE berths (id bigint PRIMARY KEY, quay_id bigint REFERENCES quays \
                (id));\n"),
    cases: &[
        (
            1,
            sql("CREATE TABLE flags (code varchar(6) PRIMARY KEY);\n\
                 CREATE TABLE vessels (id integer PRIMARY KEY, flag varchar(2) REFERENCES \
                 flags);"),
        ),
        (
            0,
            sql("CREATE TABLE quays (id integer PRIMARY KEY);\n\
                 CREATE TABLE berths (id bigint PRIMARY KEY, quay_id bigint REFERENCES quays \
                 (id));"),
        ),
    ],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for entity in context.tables() {
        for key in &entity.foreign_keys {
            let Some(target) = context.referenced(&key.references) else { continue };
            let pairs = key.columns.iter().zip(&key.references.columns);
            for (own, other) in
                pairs.filter_map(|(own, other)| Some((entity.field(own)?, target.field(other)?)))
            {
                let (Some(room), Some(needed)) = (room(&own.r#type), room(&other.r#type)) else {
                    continue;
                };
                let refused = context.database().server().refuses_other_breadth
                    && own.r#type.is_whole_number();
                if refused || room >= needed || own.r#type.is_text() != other.r#type.is_text() {
                    continue;
                }
                let message = format!(
                    "`{}` is a {}, too narrow for `{}`, a {}",
                    place(entity, own),
                    own.r#type,
                    place(target, other),
                    other.r#type
                );
                found.push(
                    RULE.finding(entity, foreign_key_element(key), message)
                        .at(own.origin.span().or(key.origin.span()), format!("`{}`", own.r#type))
                        .and_at(other.origin.span(), format!("`{}`", other.r#type))
                        .because("rows that exist there cannot be referred to from here")
                        .with_help(format!("give it the type {}", other.r#type)),
                );
            }
        }
    }
}

/// Bits of a whole number, letters of a text.
fn room(ty: &Type) -> Option<u32> {
    match ty {
        Type::SmallInt | Type::UnsignedSmallInt => Some(16),
        Type::Integer | Type::UnsignedInteger => Some(32),
        Type::BigInt | Type::UnsignedBigInt => Some(64),
        Type::Char(limit) | Type::Varchar(limit) => Some(limit.unwrap_or(u32::MAX)),
        Type::Text | Type::CaseFoldedText => Some(u32::MAX),
        _ => None,
    }
}
