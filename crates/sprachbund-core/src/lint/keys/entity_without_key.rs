use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::rule::{PLAIN, Rule, django, typeorm};
use crate::schema::EntityKind;

pub(super) const RULE: Rule = Rule {
    name: "entity-without-key",
    severity: Severity::Error,
    finds: "an entity that declares and inherits no key, in a dialect that adds none",
    consequence: "Its rows cannot be told apart: they cannot be updated, deleted or referred to one by one. Most frameworks refuse \
                  to start with such a class.",
    sql: "UPDATE tide_window SET opens = now() WHERE opens = '2026-04-01 06:00';  -- changes every row that looks alike",
    cure: "Declare the columns that identify a row, or add a generated number.",
    exception: "Views, which the rule leaves alone.",
    wrong: typeorm("@Entity()\nexport class TideWindow {\n  @Column()\n  opens!: Date;\n}\n"),
    right: typeorm(
        "@Entity()\nexport class TideWindow {\n  @PrimaryGeneratedColumn()\n  id!: number;\n\n  @Column()\n  opens!: Date;\n}\n",
    ),
    cases: &[(0, django("class TideWindow(models.Model):\n    opens = models.DateTimeField()\n"))],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for entity in
        context.tables().filter(|entity| entity.kind == EntityKind::Table && entity.primary_key.is_none() && entity.inherits.is_none())
    {
        found.push(
            RULE.finding(entity, "key", format!("`{}` has no key", entity.name))
                .at(entity.origin.span(), "declares and inherits no key")
                .because("its rows cannot be told apart")
                .with_help("declare the columns that identify a row, or add a generated number"),
        );
    }
}
