use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::place;
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};

pub(super) const RULE: Rule = Rule {
    name: "required-of-stored-rows",
    severity: Severity::Error,
    finds: "a NOT NULL without a default that rows which are there already cannot meet (with \
            --beside)",
    consequence: "On a table with rows the step is refused: they hold no value. In an empty \
                  development database it passes, so that it fails at the deployment first.",
    sql: "ALTER TABLE vessels ADD COLUMN draught integer NOT NULL;  -- refused: column \
          \"draught\" of relation \"vessels\" contains null values",
    cure: "Add it as nullable or with a default, fill it in, then make it NOT NULL: three steps.",
    exception: "When the table is known to be empty.",
    wrong: sql("CREATE TABLE vessels (id integer PRIMARY KEY, draught integer NOT NULL);\n")
        .beside("CREATE TABLE vessels (id integer PRIMARY KEY);"),
    right: sql(
        "CREATE TABLE vessels (id integer PRIMARY KEY, draught integer NOT NULL DEFAULT 0);\n",
    )
    .beside("CREATE TABLE vessels (id integer PRIMARY KEY);"),
    cases: &[(
        1,
        sql("CREATE TABLE vessels (id integer PRIMARY KEY, draught integer NOT NULL);")
            .beside("CREATE TABLE vessels (id integer PRIMARY KEY, draught integer);"),
    )],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for (entity, stored) in context.stored() {
        for field in entity.fields.iter().filter(|field| {
            !field.nullable && field.identity.is_none() && field.generated.is_none()
        }) {
            let what = match stored.field(&field.column) {
                None if field.defaults.database.is_none() => "is new",
                Some(before)
                    if before.nullable && !stored.key_columns().contains(&before.column) =>
                {
                    "may be null today"
                }
                None | Some(_) => continue,
            };
            found.push(
                RULE.of_column(
                    entity,
                    field,
                    format!("`{}` {what}, and is to be NOT NULL", place(entity, field)),
                )
                .at(
                    field.origin.span().or(entity.origin.span()),
                    "rows that are there have no value for it",
                )
                .because(format!("on a filled `{}` the step is refused", entity.table))
                .with_help(
                    "add it with a default, or as nullable; fill it in; then make it NOT NULL",
                ),
            );
        }
    }
}
