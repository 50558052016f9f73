use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::{is_reference, place};
use crate::lint::examples::django;
use crate::lint::rule::{PLAIN, Rule};

pub(super) const RULE: Rule = Rule {
    name: "silent-null-elsewhere",
    severity: Severity::Warning,
    finds: "a column of which nothing is said about null, where the dialect that it is carried \
            to takes the silence the other way (with --to)",
    consequence: "Carried over word by word, a NOT NULL turns nullable, and rows without a \
                  value are stored; or the reverse, and rows that were fine are refused.",
    sql: "INSERT INTO vessels (name) VALUES (NULL);  -- refused before, accepted after",
    cure: "Say it in the target.",
    exception: "When `emit` writes the declarations: it says what must be said.",
    wrong: django("class Vessel(models.Model):\n    draught = models.IntegerField()\n")
        .to("sequelize"),
    right: django("class Vessel(models.Model):\n    draught = models.IntegerField()\n")
        .to("typeorm"),
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let Some(target) = context.target else { return };
    let (here, there) = (context.conventions, &target.conventions);
    // Where the type in the code decides, nothing is silent.
    if here.nullability.follows_code
        || there.nullability.follows_code
        || here.dialect.keeps_documents()
        || there.dialect.keeps_documents()
    {
        return;
    }
    for (entity, field) in context.columns().filter(|(entity, field)| {
        !entity.key_columns().contains(&field.column) && field.generated.is_none()
    }) {
        let reference = is_reference(entity, &field.column);
        let silence = |conventions: &crate::dialect::Conventions| {
            if reference {
                conventions.nullability.reference
            } else {
                conventions.nullability.column
            }
        };
        if field.nullable != silence(here)
            || silence(there) == field.nullable
            || field.origin.span().is_none()
        {
            continue;
        }
        let null = |nullable: bool| if nullable { "NULL" } else { "NOT NULL" };
        let framework = target.dialect.framework;
        found.push(
            RULE.of_column(
                entity,
                field,
                format!(
                    "silent here, `{}` is {}; silent in {framework} it is {}",
                    place(entity, field),
                    null(field.nullable),
                    null(!field.nullable)
                ),
            )
            .at(field.origin.span(), format!("{} by silence", null(field.nullable)))
            .because(format!("carried over word by word, it turns {}", null(!field.nullable)))
            .with_help(format!("say {} in {framework}", null(field.nullable))),
        );
    }
}
