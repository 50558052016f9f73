use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::{is_reference, place};
use crate::lint::examples::prisma;
use crate::lint::rule::{PLAIN, Rule};

pub(super) const RULE: Rule = Rule {
    name: "silent-number-elsewhere",
    severity: Severity::Warning,
    finds: "a whole number as the key that is counted in one of the two dialects without a \
            word, and not in the other (with --to)",
    consequence: "Carried over word by word, every insert without a key is refused; or the \
                  database begins to make up keys that came from somewhere else before, from 1 \
                  on.",
    sql: "INSERT INTO quays (name) VALUES ('North');  -- refused: null value in column \"id\" \
          of relation \"quays\"; or accepted, and numbered 1",
    cure: "Say in the target whether the key is counted.",
    exception: "When `emit` writes the declarations: it says what must be said.",
    wrong: prisma("model Quay {\n  id Int @id\n}\n").to("sqlalchemy"),
    right: prisma("model Quay {\n  id Int @id\n}\n").to("typeorm"),
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let Some(target) = context.target else { return };
    for entity in context.tables() {
        let [column] = entity.key_columns() else { continue };
        let Some(field) = entity.field(column).filter(|field| field.origin.span().is_some()) else {
            continue;
        };
        let (here, there) = (
            context.conventions.numbers_by_itself(&field.r#type),
            target.conventions.numbers_by_itself(&field.r#type),
        );
        let silent = field.identity.is_some() == here
            && field.defaults.database.is_none()
            && field.defaults.application.is_none();
        if here == there || !silent || is_reference(entity, column) {
            continue;
        }
        let framework = target.dialect.framework;
        let says = |counted: bool| if counted { "counted" } else { "not counted" };
        found.push(
            RULE.of_column(
                entity,
                field,
                format!(
                    "silent here, the key `{}` is {}; silent in {framework} it is {}",
                    place(entity, field),
                    says(here),
                    says(there)
                ),
            )
            .at(field.origin.span(), format!("{} by silence", says(here)))
            .because(if here {
                "every insert without a key is refused after the move"
            } else {
                "the database makes up keys after the move"
            })
            .with_help(format!("say in {framework} that it is {}", says(here))),
        );
    }
}
