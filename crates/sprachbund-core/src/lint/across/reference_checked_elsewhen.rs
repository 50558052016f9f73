use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::django;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::Deferrable;
use crate::schema::facts::foreign_key_element;

pub(super) const RULE: Rule = Rule {
    name: "reference-checked-elsewhen",
    severity: Severity::Note,
    finds: "a foreign key that is checked at commit without a word, and at each statement in \
            the dialect that it is carried to, or the reverse (with --to)",
    consequence: "Code that inserts what refers before what is referred to worked inside a \
                  transaction, and is refused after the move.",
    sql: "BEGIN;\nINSERT INTO berths (id, quay_id) VALUES (1, 1);  -- refused after the move: \
          quay 1 comes in the next statement",
    cure: "Say in the target when it is checked, or insert in the order of the references.",
    exception: "When all code inserts in the order of the references.",
    wrong: django(
        "class Quay(models.Model):
    pass


class Berth(models.Model):
    quay = models.ForeignKey(Quay, on_delete=models.PROTECT)
",
    )
    .to("typeorm"),
    right: django("class Quay(models.Model):\n    depth = models.IntegerField()\n").to("typeorm"),
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let Some(target) = context.target.filter(|target| {
        target.conventions.references.deferrable != context.conventions.references.deferrable
    }) else {
        return;
    };
    let when = |deferrable: Option<Deferrable>| match deferrable {
        Some(Deferrable::InitiallyDeferred) => "at commit",
        Some(Deferrable::InitiallyImmediate) | None => "at each statement",
    };
    for entity in context.tables() {
        for key in entity
            .foreign_keys
            .iter()
            .filter(|key| key.deferrable == context.conventions.references.deferrable)
        {
            let (here, there) =
                (when(key.deferrable), when(target.conventions.references.deferrable));
            if here == there {
                continue;
            }
            let (columns, framework) = (key.columns.join(", "), target.dialect.framework);
            found.push(
                RULE.finding(
                    entity,
                    foreign_key_element(key),
                    format!(
                        "`{columns}` of `{}` is checked {here} by silence, {there} in {framework}",
                        entity.name
                    ),
                )
                .at(key.origin.span(), format!("checked {here}"))
                .because("the order of inserts matters in one of the two only")
                .with_help("say when it is checked, or insert in the order of the references"),
            );
        }
    }
}
