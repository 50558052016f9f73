use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::place;
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::{Change, Type};

pub(super) const RULE: Rule = Rule {
    name: "time-without-zone",
    severity: Severity::Warning,
    finds: "a time without a zone, in a schema that has times with one",
    consequence: "It holds what a clock on a wall showed, somewhere. Compared with a time that \
                  has a zone, it is taken to be in the zone of the session: the same query \
                  finds other rows on another machine.",
    sql: "SELECT arrived_at < now() FROM port_calls;  -- depends on the session's TimeZone",
    cure: "Use a time with a zone. Converting a filled column needs the zone that was meant.",
    exception: "When a clock on the wall is meant (opening hours).",
    wrong: sql("CREATE TABLE port_calls (id integer PRIMARY KEY, expected_at timestamptz, \
                arrived_at timestamp);\n"),
    right: sql("CREATE TABLE port_calls (id integer PRIMARY KEY, expected_at timestamptz, \
                arrived_at timestamptz);\n"),
    cases: &[(
        0,
        sql("CREATE TABLE port_calls (id integer PRIMARY KEY, expected_at timestamp, arrived_at \
             timestamp);"),
    )],
    whole: true,
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    if !context.database().server().zoned_times {
        return;
    }
    let zoned = context
        .columns()
        .find(|(_, field)| matches!(field.r#type, Type::Timestamp { zoned: true, .. }));
    let Some((with, example)) = zoned else { return };
    for (entity, field) in context
        .columns()
        .filter(|(_, field)| matches!(field.r#type, Type::Timestamp { zoned: false, .. }))
    {
        found.push(
            RULE.of_column(
                entity,
                field,
                format!(
                    "`{}` has no zone, `{}` has one",
                    place(entity, field),
                    place(with, example)
                ),
            )
            .at(field.origin.span(), format!("`{}`", field.r#type))
            .because("compared with the other, it is taken to be in the zone of the session")
            .with_help("use a time with a zone")
            .curable_by_hand(Change::Retype {
                entity: entity.id.clone(),
                column: field.column.clone(),
                to: Type::Timestamp { precision: None, zoned: true },
            }),
        );
    }
}
