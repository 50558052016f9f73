use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::{django, typeorm};
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::EntityKind;

pub(super) const RULE: Rule = Rule {
    name: "entity-without-key",
    severity: Severity::Error,
    finds: "an entity that declares and inherits no key, in a dialect that adds none",
    consequence: "Its rows cannot be told apart: they cannot be updated, deleted or referred to \
                  one by one. Most frameworks refuse to start with such a class.",
    sql: "UPDATE tide_window SET opens = now() WHERE opens = '2026-04-01 06:00';  -- changes \
          every row that looks alike",
    cure: "Declare the columns that identify a row, or add a generated number.",
    exception: "Views, which the rule leaves alone.",
    wrong: typeorm("@Entity()\nexport class TideWindow {\n  @Column()\n  opens!: Date;\n}\n"),
    right: typeorm(
        "@Entity()
export class TideWindow {
  @PrimaryGeneratedColumn()
  id!: number;

  @Column()
  opens!: Date;
}
",
    ),
    cases: &[(0, django("class TideWindow(models.Model):\n    opens = models.DateTimeField()\n"))],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for entity in context.tables().filter(|entity| {
        entity.kind == EntityKind::Table
            && entity.primary_key.is_none()
            && entity.inherits.is_none()
    }) {
        let never_null = |columns: &[String]| {
            columns.iter().all(|column| entity.field(column).is_some_and(|field| !field.nullable))
        };
        let told_apart = entity.uniques.iter().find(|unique| never_null(&unique.columns));
        let finding = match told_apart {
            None => RULE
                .finding(entity, "key", format!("`{}` has no key", entity.name))
                .because("its rows cannot be told apart"),
            Some(unique) => Diagnostic {
                severity: Severity::Note,
                ..RULE
                    .finding(
                        entity,
                        "key",
                        format!("`{}` has no key, only what is unique", entity.name),
                    )
                    .because(format!(
                        "`{}` tells its rows apart, but tools that look for a key (replication, \
                         other frameworks) find none",
                        unique.columns.join(", ")
                    ))
            },
        };
        found.push(
            finding
                .at(entity.origin.span(), "declares and inherits no key")
                .with_help("declare the columns that identify a row, or add a generated number"),
        );
    }
}
