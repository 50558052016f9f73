use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::place;
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::Type;

pub(super) const RULE: Rule = Rule {
    name: "key-in-binary-float",
    severity: Severity::Error,
    finds: "a key or a unique constraint over a binary floating-point number",
    consequence: "Two results of one sum that differ in the last bit are two keys. A value that \
                  was read, printed and written again no longer finds its row.",
    sql: "SELECT * FROM depths WHERE metres = 0.1::float8 + 0.2::float8;  -- does not find the \
          row of 0.3",
    cure: "Use an exact decimal or a whole number of the smallest unit. Converting a filled \
           column rounds each value once; some may then be equal.",
    exception: "Never: equality of binary numbers is not what people mean by it.",
    wrong: sql("CREATE TABLE depths (metres double precision PRIMARY KEY);\n"),
    right: sql("CREATE TABLE depths (metres numeric(6, 2) PRIMARY KEY);\n"),
    cases: &[(
        1,
        sql("CREATE TABLE depths (id integer PRIMARY KEY, metres real NOT NULL UNIQUE);"),
    )],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for (entity, field) in
        context.columns().filter(|(_, field)| matches!(field.r#type, Type::Real | Type::Double))
    {
        let in_key = entity.key_columns().contains(&field.column);
        if !in_key && !entity.uniques.iter().any(|unique| unique.columns.contains(&field.column)) {
            continue;
        }
        let what = if in_key { "the key" } else { "a unique constraint" };
        found.push(
            RULE.of_column(
                entity,
                field,
                format!("{what} is over `{}`, a {}", place(entity, field), field.r#type),
            )
            .at(field.origin.span(), "equal to the last bit, or not equal")
            .because("a value that was computed another way does not find its row")
            .with_help("use an exact decimal, or a whole number of the smallest unit"),
        );
    }
}
