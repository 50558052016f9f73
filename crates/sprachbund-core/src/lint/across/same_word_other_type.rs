use crate::declaration::Spelling;
use crate::diagnostic::{Diagnostic, Severity};
use crate::dialect::{Conventions, PlainWord};
use crate::lint::Context;
use crate::lint::context::place;
use crate::lint::examples::django;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::Type;

pub(super) const RULE: Rule = Rule {
    name: "same-word-other-type",
    severity: Severity::Warning,
    finds: "a column of a dialect's plain word for texts, numbers or times, where the other \
            dialect's plain word means another type (with --to)",
    consequence: "Carried over word by word, a text gets (or loses) a greatest length, a time \
                  loses its zone, a decimal its places. Values that fitted are refused or cut.",
    sql: "INSERT INTO vessels (name) VALUES (repeat('x', 300));  -- accepted before; after: \
          value too long for type character varying(255)",
    cure: "Say the length, the digits or the zone in the target.",
    exception: "When `emit` writes the declarations: it says what must be said.",
    wrong: django("class PortCall(models.Model):\n    arrived_at = models.DateTimeField()\n")
        .to("typeorm"),
    right: django("class PortCall(models.Model):\n    arrived_at = models.DateTimeField()\n")
        .to("sequelize"),
    check,
    ..PLAIN
};

/// The plain word of a dialect and what it means when nothing more is said.
fn meaning(conventions: &Conventions, plain: PlainWord) -> Option<(&'static str, Type)> {
    let (_, word) =
        conventions.dialect.details.plain_words.iter().find(|(kind, _)| *kind == plain)?;
    let on_server = |row: &&crate::dialect::type_table::TypeRow| row.is_on(conventions.database);
    let row = conventions.words.types.iter().filter(on_server).find(|row| row.word == *word)?;
    Some((word, row.read(&Spelling::word(*word))))
}

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let Some(target) = context.target else { return };
    for plain in PlainWord::ALL {
        let Some(((word, here), (other_word, there))) =
            meaning(context.conventions, plain).zip(meaning(&target.conventions, plain))
        else {
            continue;
        };
        if here == there {
            continue;
        }
        for (entity, field) in context
            .columns()
            .filter(|(_, field)| field.r#type == here && field.origin.span().is_some())
        {
            let framework = target.dialect.framework;
            found.push(
                RULE.of_column(
                    entity,
                    field,
                    format!(
                        "`{word}` of `{}` is a {here}; `{other_word}` of {framework} is a {there}",
                        place(entity, field)
                    ),
                )
                .at(field.origin.span(), format!("`{here}` without saying so"))
                .because(format!("carried over word by word, it turns from {here} to {there}"))
                .with_help(format!("say what makes it a {here} in {framework}")),
            );
        }
    }
}
