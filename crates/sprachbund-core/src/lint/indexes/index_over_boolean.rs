use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::place;
use crate::lint::examples::{django, sql};
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::Type;
use crate::schema::facts::index_element;

pub(super) const RULE: Rule = Rule {
    name: "index-over-boolean",
    severity: Severity::Note,
    finds: "an index over nothing but a boolean",
    consequence: "It tells two heaps of rows apart. For the larger one the server reads the \
                  table instead; the writes are paid for all the same.",
    sql: "EXPLAIN SELECT * FROM vessel WHERE active;  -- Seq Scan on vessel",
    cure: "Drop it, or index what is looked up, with the boolean as the condition.",
    exception: "When one of the two answers is very rare and is what queries ask for.",
    wrong: django(
        "class Vessel(models.Model):\n    active = models.BooleanField(default=True, \
         db_index=True)\n",
    ),
    right: django("class Vessel(models.Model):\n    active = models.BooleanField(default=True)\n"),
    cases: &[(
        0,
        sql("CREATE TABLE vessels (id integer PRIMARY KEY, active boolean);\n\
             CREATE INDEX a ON vessels (active) WHERE NOT active;"),
    )],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for entity in context.entities() {
        for index in entity
            .indexes
            .iter()
            .filter(|index| index.condition.is_none() && !index.unique && index.parts.len() == 1)
        {
            let Some(field) =
                index.parts[0].column.as_ref().and_then(|column| entity.field(column))
            else {
                continue;
            };
            if field.r#type != Type::Boolean {
                continue;
            }
            found.push(
                RULE.finding(
                    entity,
                    index_element(index),
                    format!(
                        "an index tells `{}` true from false, and no more",
                        place(entity, field)
                    ),
                )
                .at(index.origin.span().or(field.origin.span()), "an index over a boolean")
                .because("the server reads the table for the more frequent answer")
                .with_help(
                    "drop it, or make the boolean the condition of an index over what is looked up",
                ),
            );
        }
    }
}
