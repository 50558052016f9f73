use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::django;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::facts::foreign_key_element;

pub(super) const RULE: Rule = Rule {
    name: "silent-index-elsewhere",
    severity: Severity::Warning,
    finds: "a reference that is indexed without a word, which the dialect that it is carried to \
            leaves without an index (with --to)",
    consequence: "The index is gone after the move. Nothing fails; lookups and deletions of \
                  targets read the whole table.",
    sql: "DELETE FROM quays WHERE id = 1;  -- reads all of berths: the index was made without a \
          word before",
    cure: "Declare the index in the target.",
    exception: "When `emit` writes the declarations: it says what must be said.",
    wrong: django(
        "class Quay(models.Model):
    pass


class Berth(models.Model):
    quay = models.ForeignKey(Quay, on_delete=models.PROTECT)
",
    )
    .to("typeorm"),
    right: django(
        "class Quay(models.Model):
    pass


class Berth(models.Model):
    quay = models.ForeignKey(Quay, on_delete=models.PROTECT, db_index=False)
",
    )
    .to("typeorm"),
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let Some(target) = context.target else { return };
    let made = |conventions: &crate::dialect::Conventions| {
        conventions.references.indexed || conventions.server_indexes_references()
    };
    if !made(context.conventions) || made(&target.conventions) {
        return;
    }
    for entity in context.tables().filter(|entity| !entity.join) {
        for key in &entity.foreign_keys {
            let index = entity.indexes.iter().find(|index| index.plain_columns() == key.columns);
            if index.is_none() && !context.conventions.server_indexes_references() {
                continue;
            }
            let framework = target.dialect.framework;
            let columns = key.columns.join(", ");
            found.push(
                RULE.finding(
                    entity,
                    foreign_key_element(key),
                    format!(
                        "`{columns}` of `{}` is indexed here without a word, not in {framework}",
                        entity.name
                    ),
                )
                .at(key.origin.span(), "indexed by silence")
                .because("the index is gone after the move, and nothing fails")
                .with_help(format!("declare an index over `{columns}` in {framework}")),
            );
        }
    }
}
