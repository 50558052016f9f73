use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::place;
use crate::lint::examples::django;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::Type;

pub(super) const RULE: Rule = Rule {
    name: "limit-of-application-only",
    severity: Severity::Note,
    finds: "a text whose greatest length only input validation checks",
    consequence: "The column takes any length: what is saved without the form, by hand or by a \
                  second application, may be longer than the declaration says.",
    sql: "INSERT INTO pilot (remarks) VALUES (repeat('x', 1000000));  -- accepted",
    cure: "Use a bounded text. Longer values must be cut first.",
    exception: "When the form's limit is only advice.",
    wrong: django("class Pilot(models.Model):\n    remarks = models.TextField(max_length=200)\n"),
    right: django("class Pilot(models.Model):\n    remarks = models.CharField(max_length=200)\n"),
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for (entity, field) in context.columns() {
        let limit = field
            .rules
            .iter()
            .find(|rule| rule.rule == "max_length")
            .and_then(|rule| rule.value.as_u64());
        let Some(limit) = limit else { continue };
        let held = match field.r#type {
            Type::Varchar(Some(held)) | Type::Char(Some(held)) => u64::from(held),
            Type::Varchar(None) | Type::Text | Type::CaseFoldedText => u64::MAX,
            _ => continue,
        };
        if held <= limit {
            continue;
        }
        found.push(
            RULE.of_column(
                entity,
                field,
                format!(
                    "only input validation keeps `{}` to {limit} letters",
                    place(entity, field)
                ),
            )
            .at(field.origin.span(), format!("stored as `{}`", field.r#type))
            .because("what is saved without it may be longer")
            .with_help(format!("use a text of {limit} letters")),
        );
    }
}
