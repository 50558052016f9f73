use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::place;
use crate::lint::examples::{django, sql};
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::{Change, Type};

pub(super) const RULE: Rule = Rule {
    name: "boolean-with-three-answers",
    severity: Severity::Warning,
    finds: "a boolean column that may be null, and so can be true, false or neither",
    consequence: "`WHERE NOT inspected` and `WHERE inspected` together miss the rows that hold \
                  null. In the code null counts as false in one place and as unknown in \
                  another.",
    sql: "SELECT count(*) FROM vessel WHERE inspected OR NOT inspected;  -- fewer than there are",
    cure: "Make it NOT NULL with a default; rows that hold null need an answer first. Where \
           there are three answers, name them in an enumeration.",
    exception: "When the third answer (not yet asked) is meant.",
    wrong: django("class Vessel(models.Model):\n    inspected = models.BooleanField(null=True)\n"),
    right: django(
        "class Vessel(models.Model):\n    inspected = models.BooleanField(default=False)\n",
    ),
    cases: &[
        (1, sql("CREATE TABLE vessels (id integer PRIMARY KEY, inspected boolean);")),
        (0, sql("CREATE TABLE vessels (id integer PRIMARY KEY, inspected boolean NOT NULL);")),
    ],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for (entity, field) in
        context.columns().filter(|(_, field)| field.nullable && field.r#type == Type::Boolean)
    {
        found.push(
            RULE.of_column(
                entity,
                field,
                format!("`{}` can be true, false or null", place(entity, field)),
            )
            .at(field.origin.span(), "a boolean that may be null")
            .because(format!(
                "neither `{0}` nor `NOT {0}` finds the rows that hold null",
                field.column
            ))
            .with_help("make it NOT NULL with a default, or name three answers in an enumeration")
            .curable_by_hand(Change::Nullable {
                entity: entity.id.clone(),
                columns: vec![field.column.clone()],
                nullable: false,
            }),
        );
    }
}
