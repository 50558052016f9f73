use serde_json::Value;

use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::place;
use crate::lint::examples::{django, sql};
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::{Default_, Entity, Field};

pub(super) const RULE: Rule = Rule {
    name: "text-with-two-empties",
    severity: Severity::Note,
    finds: "a text that may be both null and empty, where forms or a default write the empty text",
    consequence: "Two values mean that nothing was entered. A search for one of them misses the \
                  rows that hold the other.",
    sql: "SELECT * FROM pilot WHERE radio_name IS NULL;  -- misses those who left the form \
          empty: they hold ''",
    cure: "Decide for one of the two: NOT NULL with an empty default, or null and no empty text.",
    exception: "When null and empty mean different things.",
    wrong: django(
        "class Pilot(models.Model):\n    radio_name = models.CharField(max_length=20, \
         null=True, blank=True)\n",
    ),
    right: django(
        "class Pilot(models.Model):\n    radio_name = models.CharField(max_length=20, \
         blank=True, default=\"\")\n",
    ),
    cases: &[
        (
            0,
            django(
                "class Pilot(models.Model):\n    radio_name = models.CharField(max_length=20, \
                 null=True, blank=True, unique=True)\n",
            ),
        ),
        (
            1,
            sql("CREATE TABLE pilots (id integer PRIMARY KEY, radio_name varchar(20) DEFAULT '');"),
        ),
        (0, sql("CREATE TABLE pilots (id integer PRIMARY KEY, radio_name varchar(20));")),
    ],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let nullable = |(_, field): &(_, &Field)| {
        field.nullable && field.r#type.is_text() && field.choices.is_none()
    };
    for (entity, field) in context.columns().filter(nullable) {
        let Some(writer) = writer_of_empty(entity, field) else { continue };
        found.push(
            RULE.of_column(
                entity,
                field,
                format!("nothing in `{}` is either null or an empty text", place(entity, field)),
            )
            .at(field.origin.span(), format!("may be null, and {writer} writes ''"))
            .because(format!("`{} IS NULL` misses the empty texts", field.column))
            .with_help("keep one of the two"),
        );
    }
}

/// Who writes the empty text. A form that may be left empty does, but where it must be unique null
/// stands for it.
fn writer_of_empty(entity: &Entity, field: &Field) -> Option<&'static str> {
    let empty = Default_::Literal(Value::String(String::new()));
    let by_default = [&field.defaults.database, &field.defaults.application]
        .into_iter()
        .flatten()
        .any(|default| **default == empty);
    let unique = entity.is_unique(std::slice::from_ref(&field.column));
    match (by_default, field.required_on_input) {
        (true, _) => Some("its default"),
        (false, Some(false)) if !unique => Some("a form that is left empty"),
        _ => None,
    }
}
