use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::{default_in_database, place};
use crate::lint::examples::{django, typeorm};
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::Purpose;

pub(super) const RULE: Rule = Rule {
    name: "update-time-left-to-application",
    severity: Severity::Warning,
    finds: "a NOT NULL time of creation or update that only the application fills in",
    consequence: "A row inserted by hand, by a script or by a second application has no time \
                  and is refused: NOT NULL violated.",
    sql: "INSERT INTO port_call (id) VALUES (1);  -- refused: null value in column \
          \"changed_at\" of relation \"port_call\" violates not-null constraint",
    cure: "Give the column a default in the database as well (now). It changes no existing row.",
    exception: "When nothing but the one application ever writes to the table.",
    wrong: django(
        "class PortCall(models.Model):\n    changed_at = models.DateTimeField(auto_now=True)\n",
    ),
    right: django(
        "from django.db.models.functions import Now


class PortCall(models.Model):
    changed_at = models.DateTimeField(auto_now=True, db_default=Now())
",
    ),
    cases: &[
        (
            1,
            django(
                "class PortCall(models.Model):
    made_at = models.DateTimeField(auto_now_add=True)
    changed_at = models.DateTimeField(auto_now=True, null=True)
",
            ),
        ),
        (
            0,
            typeorm(
                "@Entity()
class PortCall {
  @PrimaryColumn()
  id!: number;
  @UpdateDateColumn()
  changedAt!: Date;
}",
            ),
        ),
    ],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for (entity, field) in context.columns() {
        let what = match field.purpose {
            Some(Purpose::UpdateTime) => "time of update",
            Some(Purpose::CreationTime) => "time of creation",
            Some(Purpose::DeletionTime | Purpose::Version) | None => continue,
        };
        if field.nullable || field.defaults.database.is_some() {
            continue;
        }
        found.push(
            RULE.of_column(
                entity,
                field,
                format!(
                    "nothing fills in the {what} `{}` on a hand-written insert",
                    place(entity, field)
                ),
            )
            .at(field.origin.span(), "filled in by the application only")
            .because(format!("`INSERT INTO {}` without it is refused: NOT NULL", entity.table))
            .with_help("give the column a default in the database too")
            .curable_if_asked(default_in_database(context, entity, field)),
        );
    }
}
