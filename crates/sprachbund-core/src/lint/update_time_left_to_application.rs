use super::{Context, Example, Rule, place};
use crate::diagnostic::{Diagnostic, Severity};
use crate::schema::Purpose;

pub(super) const RULE: Rule = Rule {
    name: "update-time-left-to-application",
    severity: Severity::Warning,
    finds: "a NOT NULL time of creation or update that only the application fills in",
    consequence: "A row inserted by hand, by a script or by a second application has no time and is refused: NOT NULL violated.",
    cure: "Give the column a default in the database as well (now). It changes no existing row.",
    exception: "When nothing but the one application ever writes to the table.",
    wrong: Example { dialect: "django", text: "class PortCall(models.Model):\n    changed_at = models.DateTimeField(auto_now=True)\n" },
    right: Example {
        dialect: "django",
        text: "from django.db.models.functions import Now\n\n\nclass PortCall(models.Model):\n    changed_at = models.DateTimeField(auto_now=True, db_default=Now())\n",
    },
    cases: &[
        (
            Example {
                dialect: "django",
                text: "class PortCall(models.Model):\n    made_at = models.DateTimeField(auto_now_add=True)\n    changed_at = models.DateTimeField(auto_now=True, null=True)\n",
            },
            1,
        ),
        (
            Example {
                dialect: "typeorm",
                text: "@Entity()\nclass PortCall {\n  @PrimaryColumn()\n  id!: number;\n  @UpdateDateColumn()\n  changedAt!: Date;\n}",
            },
            0,
        ),
    ],
    check,
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
            Diagnostic::new(
                RULE.name,
                RULE.severity,
                format!("nothing fills in the {what} `{}` on a hand-written insert", place(entity, field)),
            )
            .at(field.origin.span(), "filled in by the application only")
            .because(format!("`INSERT INTO {}` without it is refused: NOT NULL", entity.table))
            .with_help("give the column a default in the database too"),
        );
    }
}
