use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::django;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::{Action, EnforcedBy};

pub(super) const RULE: Rule = Rule {
    name: "action-of-application-only",
    severity: Severity::Note,
    finds: "a relation whose action on delete only the application takes, while the database \
            refuses the deletion",
    consequence: "A deletion by hand, by a script or by a second application is refused, \
                  although the declaration says that rows go along (or are set to null).",
    sql: "DELETE FROM quay WHERE id = 1;  -- refused: update or delete on table \"quay\" \
          violates foreign key constraint \"berth_quay_id_fkey\" on table \"berth\"",
    cure: "Let the database take the action, where the framework can say so; else know that \
           only the framework deletes.",
    exception: "When nothing but the one application ever deletes.",
    wrong: django(
        "class Quay(models.Model):
    pass


class Berth(models.Model):
    quay = models.ForeignKey(Quay, on_delete=models.CASCADE)
",
    ),
    right: django(
        "class Quay(models.Model):
    pass


class Berth(models.Model):
    quay = models.ForeignKey(Quay, on_delete=models.PROTECT)
",
    ),
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for entity in context.tables() {
        for relation in entity.relations.iter().filter(|relation| relation.origin.is_declared()) {
            let Some(action) = relation.on_delete else { continue };
            let refused = matches!(action, Action::NoAction | Action::Restrict | Action::Protect);
            let Some(key) = entity.foreign_keys.iter().find(|key| {
                key.columns == relation.columns && key.enforced == EnforcedBy::Database
            }) else {
                continue;
            };
            if refused || !matches!(key.on_delete, Action::NoAction | Action::Restrict) {
                continue;
            }
            let name = relation.name.as_deref().unwrap_or_default();
            found.push(
                RULE.of_relation(
                    entity,
                    relation,
                    format!(
                        "only the application knows `{}` of `{}.{name}`",
                        action.word(),
                        entity.name
                    ),
                )
                .at(relation.origin.span(), format!("the database is told {}", key.on_delete.sql()))
                .because(format!(
                    "`DELETE FROM {}` by anything else is refused",
                    key.references.table
                ))
                .with_help("let the database take the action, where the framework can say so"),
            );
        }
    }
}
