use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::place;
use crate::lint::examples::django;
use crate::lint::rule::{PLAIN, Rule};

pub(super) const RULE: Rule = Rule {
    name: "key-made-twice",
    severity: Severity::Note,
    finds: "a key that both the application and the database make up",
    consequence: "The application's value always wins, so the database's is used by \
                  hand-written inserts only. Where the two differ in kind (random and \
                  counted), their values collide or sort apart.",
    sql: "INSERT INTO pilot (name) VALUES ('Ann');  -- gets a key that the application did not \
          make",
    cure: "Leave out one of the two: the application's, if it need not know the key before \
           saving. No row changes.",
    exception: "When hand-written inserts are to work as well and both make the same kind of \
                value.",
    wrong: django(
        "import uuid
from django.contrib.postgres.functions import RandomUUID


class Pilot(models.Model):
    id = models.UUIDField(primary_key=True, default=uuid.uuid4, db_default=RandomUUID())
",
    ),
    right: django(
        "import uuid


class Pilot(models.Model):
    id = models.UUIDField(primary_key=True, default=uuid.uuid4)
",
    ),
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for entity in context.tables() {
        let [column] = entity.key_columns() else { continue };
        let Some(field) = entity.field(column) else { continue };
        if field.defaults.application.is_none()
            || (field.defaults.database.is_none() && field.identity.is_none())
        {
            continue;
        }
        found.push(
            RULE.of_column(
                entity,
                field,
                format!(
                    "both the application and {} make up `{}`",
                    context.database().title(),
                    place(entity, field)
                ),
            )
            .at(field.origin.span(), "made up twice")
            .because("the database's value is used by hand-written inserts only")
            .with_help("leave one of the two out"),
        );
    }
}
