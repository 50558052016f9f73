use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::place;
use crate::lint::examples::{django, typeorm};
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::Purpose;

pub(super) const RULE: Rule = Rule {
    name: "time-filled-by-another",
    severity: Severity::Note,
    finds: "a time that the framework keeps, filled in by the database in one of the two \
            dialects and by the application in the other (with --to)",
    consequence: "Rows inserted by hand had a time and are refused now, or the reverse; and the \
                  clock is another machine's.",
    sql: "INSERT INTO port_calls (berth) VALUES (7);  -- made_at was filled in by the database \
          before, and is refused now",
    cure: "Give the column a default in the database as well.",
    exception: "When only the application inserts.",
    wrong: typeorm(
        "@Entity()
export class PortCall {
  @PrimaryGeneratedColumn()
  id!: number;

  @CreateDateColumn()
  madeAt!: Date;
}
",
    )
    .to("django"),
    right: django(
        "class PortCall(models.Model):\n    made_at = models.DateTimeField(auto_now_add=True)\n",
    )
    .to("mongoose"),
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let Some(target) = context
        .target
        .filter(|target| target.conventions.times.actor != context.conventions.times.actor)
    else {
        return;
    };
    let kept = |purpose: Option<Purpose>| {
        matches!(purpose, Some(Purpose::CreationTime | Purpose::UpdateTime))
    };
    for (entity, field) in context.fields().filter(|(_, field)| kept(field.purpose)) {
        let by_database = field.defaults.database.is_some();
        let (here, there) = if by_database {
            ("the database", "the application")
        } else {
            ("the application", "the database")
        };
        let framework = target.dialect.framework;
        found.push(
            RULE.of_column(
                entity,
                field,
                format!("{here} fills in `{}`; in {framework} {there} does", place(entity, field)),
            )
            .at(field.origin.span().or(entity.origin.span()), format!("filled in by {here}"))
            .because(if by_database {
                "rows inserted by hand have no time after the move"
            } else {
                "the database's clock counts after the move"
            })
            .with_help("give the column a default in the database as well"),
        );
    }
}
