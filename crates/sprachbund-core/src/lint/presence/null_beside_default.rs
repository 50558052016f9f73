use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::place;
use crate::lint::examples::{django, sql};
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::{Change, Default_};

pub(super) const RULE: Rule = Rule {
    name: "null-beside-default",
    severity: Severity::Note,
    finds: "a column that may be null although its default gives every new row a value",
    consequence: "New rows never hold null unless somebody writes it on purpose, yet every \
                  query and every reader must allow for it. `WHERE status <> 'closed'` leaves \
                  the rows with null out without a word.",
    sql: "SELECT count(*) FROM port_call WHERE status <> 'closed';  -- rows whose status is \
          null are not counted",
    cure: "Make the column NOT NULL. Rows that hold null must get a value first.",
    exception: "When null means something of its own (not yet known) and code writes it.",
    wrong: django(
        "class PortCall(models.Model):\n    status = models.CharField(max_length=9, null=True, \
         default=\"planned\")\n",
    ),
    right: django(
        "class PortCall(models.Model):\n    status = models.CharField(max_length=9, \
         default=\"planned\")\n",
    ),
    cases: &[
        (0, sql("CREATE TABLE port_calls (id integer PRIMARY KEY, pilot varchar(20));")),
        (1, sql("CREATE TABLE port_calls (id integer PRIMARY KEY, tugs integer DEFAULT 1);")),
        (0, sql("CREATE TABLE port_calls (id integer PRIMARY KEY, tugs integer DEFAULT NULL);")),
    ],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let optional = |(_, field): &(_, &crate::schema::Field)| {
        field.nullable && field.generated.is_none() && field.purpose.is_none()
    };
    for (entity, field) in context.columns().filter(optional) {
        let defaults = [&field.defaults.database, &field.defaults.application];
        let constant = defaults.into_iter().flatten().find_map(|default| match &**default {
            Default_::Literal(value) if !value.is_null() => Some(value),
            _ => None,
        });
        let Some(value) = constant else { continue };
        found.push(
            RULE.of_column(
                entity,
                field,
                format!("`{}` may be null, yet new rows get {value}", place(entity, field)),
            )
            .at(field.origin.span(), "may be null")
            .because(format!(
                "comparisons such as `{} <> {value}` leave rows with null out",
                field.column
            ))
            .with_help("make it NOT NULL, or leave the default out")
            .curable_by_hand(Change::Nullable {
                entity: entity.id.clone(),
                columns: vec![field.column.clone()],
                nullable: false,
            }),
        );
    }
}
