use crate::diagnostic::{Diagnostic, Severity};
use crate::dialect::conventions::Actor;
use crate::lint::Context;
use crate::lint::context::place;
use crate::lint::examples::django;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::{Default_, Voices};

pub(super) const RULE: Rule = Rule {
    name: "default-kept-elsewhere",
    severity: Severity::Warning,
    finds: "a default written with a word that both dialects have, and that puts it into the \
            database in one and into the application in the other (with --to)",
    consequence: "Carried over word by word, rows inserted by hand are refused that had a \
                  default before, or the database gets a default that only the application was \
                  to know.",
    sql: "INSERT INTO port_calls (berth) VALUES (7);  -- tugs had a default of the database \
          before, and is refused now",
    cure: "Use the target's word for a default of the database, or of the application, as it is \
           meant.",
    exception: "When `emit` writes the declarations: it uses the right word.",
    wrong: django("class PortCall(models.Model):\n    tugs = models.IntegerField(default=1)\n")
        .to("typeorm"),
    right: django("class PortCall(models.Model):\n    tugs = models.IntegerField(default=1)\n")
        .to("mongoose"),
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let Some(target) = context.target else { return };
    let both =
        context.conventions.dialect.details.plain_default.zip(target.dialect.details.plain_default);
    let Some(((word, keeper), (there_word, there))) = both else { return };
    if keeper == there {
        return;
    }
    for (entity, field) in context
        .columns()
        .filter(|(_, field)| field.purpose.is_none() && kept_by(&field.defaults, keeper))
    {
        let (name, framework) = (place(entity, field), target.dialect.framework);
        found.push(
            RULE.of_column(
                entity,
                field,
                format!(
                    "`{word}` of `{name}` is kept by {}; `{there_word}` of {framework} by {}",
                    keeper.title(),
                    there.title()
                ),
            )
            .at(field.origin.span(), format!("kept by {}", keeper.title()))
            .because(match there {
                Actor::Application => "a row that is inserted by hand then has no default",
                Actor::Database => "the database then has a default that it had not",
            })
            .with_help(format!("use {framework}'s word for a default of {}", keeper.title())),
        );
    }
}

/// Whether a constant is kept there, and nowhere else.
fn kept_by(defaults: &Voices, keeper: Actor) -> bool {
    let constant =
        |default: &Option<Box<Default_>>| matches!(default.as_deref(), Some(Default_::Literal(_)));
    match keeper {
        Actor::Database => constant(&defaults.database) && defaults.application.is_none(),
        Actor::Application => constant(&defaults.application) && defaults.database.is_none(),
    }
}
