use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::place;
use crate::lint::examples::django;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::Type;

pub(super) const RULE: Rule = Rule {
    name: "choice-longer-than-its-column",
    severity: Severity::Error,
    finds: "a choice that is longer than the column in which it is to be stored",
    consequence: "Whoever chooses it gets an error from the database: the value is too long. \
                  (SQLite stores it all the same.)",
    sql: "UPDATE port_call SET status = 'cancelled';  -- refused: value too long for type \
          character varying(6)",
    cure: "Widen the column. PostgreSQL need not rewrite the table for it.",
    exception: "Never.",
    wrong: django(
        "class PortCall(models.Model):\n    status = models.CharField(max_length=6, \
         choices=[(\"moored\", \"Moored\"), (\"cancelled\", \"Cancelled\")])\n",
    ),
    right: django(
        "class PortCall(models.Model):\n    status = models.CharField(max_length=9, \
         choices=[(\"moored\", \"Moored\"), (\"cancelled\", \"Cancelled\")])\n",
    ),
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for (entity, field) in context.columns() {
        let (Type::Varchar(Some(limit)) | Type::Char(Some(limit))) = field.r#type else { continue };
        let Some(choices) = field.choices.as_ref().and_then(|name| context.enumeration(name))
        else {
            continue;
        };
        let length = |member: &crate::schema::EnumMember| {
            member.value.as_str().map_or(0, |value| value.chars().count())
        };
        let Some(longest) = choices
            .members
            .iter()
            .max_by_key(|member| length(member))
            .filter(|member| length(member) > limit as usize)
        else {
            continue;
        };
        let database = context.database();
        let then = match database.server().holds_types {
            true => format!("{} refuses the value", database.title()),
            false => format!("{} stores it; other servers refuse it", database.title()),
        };
        found.push(
            RULE.of_column(
                entity,
                field,
                format!(
                    "{} has {} letters, and {limit} fit in `{}`",
                    longest.value,
                    length(longest),
                    place(entity, field)
                ),
            )
            .at(field.origin.span(), format!("`{}`", field.r#type))
            .and_at(
                choices.origin.span().filter(|span| Some(*span) != field.origin.span()),
                "the choices",
            )
            .because(then)
            .with_help(format!("give it at least {} letters", length(longest))),
        );
    }
}
