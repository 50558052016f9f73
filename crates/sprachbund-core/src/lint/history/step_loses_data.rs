use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::place;
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::{Database, Field, Type};

pub(super) const RULE: Rule = Rule {
    name: "step-loses-data",
    severity: Severity::Error,
    finds: "a stored column that is no longer declared, or is declared narrower than it is \
            stored (with --beside)",
    consequence: "The step from the tables to the declarations drops the values, cuts them, or \
                  is refused by the first row that does not fit. No way back brings them again.",
    sql: "ALTER TABLE vessels DROP COLUMN draught;  -- and what was in it is gone",
    cure: "If it was renamed, rename it in the history, too. Else keep a copy until the release \
           has proved itself.",
    exception: "When the values are worth nothing.",
    wrong: sql("CREATE TABLE vessels (id integer PRIMARY KEY, name varchar(40));\n").beside(
        "CREATE TABLE vessels (id integer PRIMARY KEY, name varchar(80), draught integer);",
    ),
    right: sql(
        "CREATE TABLE vessels (id integer PRIMARY KEY, name varchar(80), draught integer);\n",
    )
    .beside("CREATE TABLE vessels (id integer PRIMARY KEY, name varchar(40));"),
    cases: &[(
        2,
        sql("CREATE TABLE vessels (id integer PRIMARY KEY, name varchar(40));").beside(
            "CREATE TABLE vessels (id integer PRIMARY KEY, name varchar(80), draught integer);",
        ),
    )],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for (entity, stored) in context.stored() {
        for before in &stored.fields {
            let of = |field: &Field, message: String, label: String| {
                RULE.of_column(entity, field, message)
                    .at(
                        field
                            .origin
                            .span()
                            .filter(|_| !std::ptr::eq(field, before))
                            .or(entity.origin.span()),
                        label,
                    )
                    .because("values that are stored are lost, or refuse the step")
            };
            match entity.field(&before.column) {
                None => found.push(
                    of(
                        before,
                        format!(
                            "`{}.{}` is stored, and no longer declared",
                            entity.table, before.column
                        ),
                        "not declared here".into(),
                    )
                    .with_help("rename it in the history if it was renamed; else keep a copy"),
                ),
                Some(field) if narrower(&field.r#type, &before.r#type, context.database()) => {
                    let message = format!(
                        "`{}` is to be a {}, and is stored as {}",
                        place(entity, field),
                        field.r#type,
                        before.r#type
                    );
                    found.push(
                        of(field, message, "narrower than it is stored".into())
                            .with_help("look for values that do not fit first"),
                    );
                }
                Some(_) => {}
            }
        }
    }
}

/// Whether values of the second type may not fit the first.
fn narrower(new: &Type, old: &Type, server: Database) -> bool {
    let digits = |precision: Option<u32>, scale: Option<u32>| {
        (
            precision.unwrap_or(1000) - scale.unwrap_or(0).min(precision.unwrap_or(1000)),
            scale.unwrap_or(1000),
        )
    };
    match (new, old) {
        (
            Type::Varchar(Some(new)) | Type::Char(Some(new)),
            Type::Varchar(old) | Type::Char(old),
        ) => old.is_none_or(|old| old > *new),
        (Type::Varchar(Some(_)) | Type::Char(Some(_)), Type::Text | Type::CaseFoldedText) => true,
        (Type::Numeric { precision: Some(p), scale: s }, Type::Numeric { precision, scale }) => {
            let ((whole, places), (whole_before, places_before)) =
                (digits(Some(*p), s.or(Some(0))), digits(*precision, *scale));
            whole < whole_before || places < places_before
        }
        (new, old) if new.is_whole_number() && old.is_whole_number() => {
            match (server.server().whole_range(new), server.server().whole_range(old)) {
                (Some(new), Some(old)) => new.0 > old.0 || new.1 < old.1,
                _ => false,
            }
        }
        (new, Type::Numeric { .. } | Type::Real | Type::Double) if new.is_whole_number() => true,
        (Type::Date, Type::Timestamp { .. }) => true,
        (new, old) if !new.is_text() && old.is_text() => true,
        _ => false,
    }
}
