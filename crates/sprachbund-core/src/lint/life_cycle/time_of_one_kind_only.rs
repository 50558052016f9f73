use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::place;
use crate::lint::examples::django;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::{Entity, Field, Purpose};

pub(super) const RULE: Rule = Rule {
    name: "time-of-one-kind-only",
    severity: Severity::Note,
    finds: "an entity with a time of creation and none of change, or the reverse, where most \
            have both",
    consequence: "What copies changed rows elsewhere by their time misses the changes of this \
                  table, or cannot say since when a row is there.",
    sql: "SELECT * FROM berth WHERE changed_at > '2026-04-01';  -- refused: column \
          \"changed_at\" does not exist",
    cure: "Add the other time. Old rows need a value, such as the time of the migration.",
    exception: "When rows are never changed after they were made (a log).",
    wrong: django(
        "class Quay(models.Model):
    made_at = models.DateTimeField(auto_now_add=True)
    changed_at = models.DateTimeField(auto_now=True)


class Berth(models.Model):
    made_at = models.DateTimeField(auto_now_add=True)


class Pilot(models.Model):
    made_at = models.DateTimeField(auto_now_add=True)
    changed_at = models.DateTimeField(auto_now=True)
",
    ),
    right: django(
        "class Quay(models.Model):
    made_at = models.DateTimeField(auto_now_add=True)
    changed_at = models.DateTimeField(auto_now=True)


class Berth(models.Model):
    made_at = models.DateTimeField(auto_now_add=True)
    changed_at = models.DateTimeField(auto_now=True)
",
    ),
    whole: true,
    check,
    ..PLAIN
};

fn times(entity: &Entity) -> (Option<&Field>, Option<&Field>) {
    let of = |purpose| entity.fields.iter().find(|field| field.purpose == Some(purpose));
    (of(Purpose::CreationTime), of(Purpose::UpdateTime))
}

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let (mut both, mut one) = (0, Vec::new());
    for entity in context.entities() {
        match times(entity) {
            (Some(_), Some(_)) => both += 1,
            (Some(field), None) => one.push((entity, field, "change")),
            (None, Some(field)) => one.push((entity, field, "creation")),
            (None, None) => {}
        }
    }
    if both <= one.len() {
        return;
    }
    for (entity, field, missing) in one {
        found.push(
            RULE.of_column(
                entity,
                field,
                format!(
                    "`{}` has no time of {missing}, as {both} other entities have",
                    entity.name
                ),
            )
            .at(
                field.origin.span().or(entity.origin.span()),
                format!("`{}` alone", place(entity, field)),
            )
            .because("what follows changes by their time misses this table")
            .with_help(format!("add a time of {missing}")),
        );
    }
}
