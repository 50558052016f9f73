use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::{default_in_database, place};
use crate::lint::examples::django;
use crate::lint::rule::{PLAIN, Rule};

pub(super) const RULE: Rule = Rule {
    name: "default-only-in-application",
    severity: Severity::Note,
    finds: "a NOT NULL column whose default only the application knows",
    consequence: "A row that is inserted by hand, by a script or by a second application is \
                  refused without it. In a reader's eyes the column has no default.",
    sql: "INSERT INTO port_call (berth) VALUES (7);  -- refused: null value in column \"tugs\" \
          of relation \"port_call\" violates not-null constraint",
    cure: "Give the column the default in the database as well. It changes no existing row.",
    exception: "When nothing but the one application ever writes to the table.",
    wrong: django("class PortCall(models.Model):\n    tugs = models.IntegerField(default=1)\n"),
    right: django("class PortCall(models.Model):\n    tugs = models.IntegerField(db_default=1)\n"),
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let bare = |(_, field): &(_, &crate::schema::Field)| {
        !field.nullable && field.defaults.database.is_none() && field.identity.is_none()
    };
    for (entity, field) in context.columns().filter(bare) {
        if field.defaults.application.is_none()
            || field.purpose.is_some()
            || field.generated.is_some()
        {
            continue;
        }
        found.push(
            RULE.of_column(
                entity,
                field,
                format!("only the application knows the default of `{}`", place(entity, field)),
            )
            .at(field.origin.span().or(entity.origin.span()), "not a default of the database")
            .because(format!("`INSERT INTO {}` without it is refused: NOT NULL", entity.table))
            .with_help("give the column the default in the database as well")
            .curable_if_asked(default_in_database(context, entity, field)),
        );
    }
}
