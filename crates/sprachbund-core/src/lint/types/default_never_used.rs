use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::place;
use crate::lint::examples::{django, sql};
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::{Database, Default_};

pub(super) const RULE: Rule = Rule {
    name: "default-never-used",
    severity: Severity::Note,
    finds: "a default of the database that another one of the application always comes before",
    consequence: "The two may drift apart: rows of the application get one value, hand-written \
                  rows the other, and nobody notices.",
    sql: "INSERT INTO port_call (berth) VALUES (7);  -- tugs is 2 here, 1 when the application \
          saves",
    cure: "Let both be equal, or keep the database's only.",
    exception: "When the application's is a better guess and the database's a fallback.",
    wrong: django(
        "class PortCall(models.Model):\n    tugs = models.IntegerField(default=1, db_default=2)\n",
    ),
    right: django("class PortCall(models.Model):\n    tugs = models.IntegerField(db_default=2)\n"),
    cases: &[
        (
            0,
            django(
                "class PortCall(models.Model):\n    tugs = models.IntegerField(default=1, \
                 db_default=1)\n",
            ),
        ),
        (
            0,
            sql("CREATE TABLE port_calls (id integer PRIMARY KEY, tugs integer DEFAULT 1);")
                .on(Database::Sqlite),
        ),
    ],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for (entity, field) in context.columns() {
        let defaults = (field.defaults.database.as_deref(), field.defaults.application.as_deref());
        let (Some(Default_::Literal(database)), Some(Default_::Literal(application))) = defaults
        else {
            continue;
        };
        if database == application || entity.key_columns().contains(&field.column) {
            continue;
        }
        found.push(
            RULE.of_column(
                entity,
                field,
                format!("the two defaults of `{}` differ", place(entity, field)),
            )
            .at(field.origin.span(), "one of the application, another of the database")
            .because("rows of the application get one value, hand-written rows the other")
            .with_help("let them be equal, or keep the database's"),
        );
    }
}
