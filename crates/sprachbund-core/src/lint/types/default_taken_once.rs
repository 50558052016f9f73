use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::{place, words_of};
use crate::lint::examples::{django, sql};
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::{Default_, Field, Type};

pub(super) const RULE: Rule = Rule {
    name: "default-taken-once",
    severity: Severity::Warning,
    finds: "a default that was meant to be made for each row, and is made once",
    consequence: "The moment (or the random value) is taken when the program starts, or when \
                  the table is made. All rows get the same one.",
    sql: "INSERT INTO port_call DEFAULT VALUES;  -- the time at which the program started, not \
          the time of now",
    cure: "Name the function without calling it, so that it is called for each row. Rows that \
           hold the shared value keep it.",
    exception: "When one fixed value is meant.",
    wrong: django(
        "from datetime import datetime


class PortCall(models.Model):
    booked_at = models.DateTimeField(default=datetime.now())
",
    ),
    right: django(
        "from datetime import datetime


class PortCall(models.Model):
    booked_at = models.DateTimeField(default=datetime.now)
",
    ),
    cases: &[
        (
            1,
            sql("CREATE TABLE port_calls (id integer PRIMARY KEY, created_at timestamp NOT NULL \
                 DEFAULT '2026-04-01 06:00:00');"),
        ),
        (
            0,
            sql("CREATE TABLE port_calls (id integer PRIMARY KEY, closes_at timestamp NOT NULL \
                 DEFAULT '2026-04-01 06:00:00');"),
        ),
        (
            0,
            sql("CREATE TABLE port_calls (id integer PRIMARY KEY, created_at timestamp NOT NULL \
                 DEFAULT now());"),
        ),
    ],
    check,
    ..PLAIN
};

/// Calls that give another value each time, as they end in Python, where an argument is computed
/// when the class is made.
const CHANGING: &[&str] = &[
    "now()",
    "utcnow()",
    "today()",
    "uuid4()",
    "uuid1()",
    "random()",
    "time()",
    "token_hex()",
    "token_urlsafe()",
];

/// Names of times that are taken when a row is made.
const TAKEN_NOW: &[&str] =
    &["created", "updated", "inserted", "modified", "changed", "booked", "joined"];

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for (entity, field) in context.fields() {
        let Some(what) = what_is_taken(field) else { continue };
        found.push(
            RULE.of_column(
                entity,
                field,
                format!("the default of `{}` is taken once: {what}", place(entity, field)),
            )
            .at(field.origin.span(), "the same for all rows")
            .because("it is not made anew for each row")
            .with_help("name the function without calling it, or use the database's clock"),
        );
    }
}

fn what_is_taken(field: &Field) -> Option<String> {
    let defaults = [&field.defaults.application, &field.defaults.database].into_iter().flatten();
    defaults.map(|default| &**default).find_map(|default| match default {
        Default_::Expression(expression) if expression.language == "python" => {
            let text = expression.text.trim();
            let called =
                !text.contains("lambda") && CHANGING.iter().any(|call| text.ends_with(call));
            called.then(|| format!("`{text}` is called when the class is made"))
        }
        Default_::Literal(serde_json::Value::String(text))
            if matches!(field.r#type, Type::Timestamp { .. } | Type::Date) =>
        {
            let now = words_of(field).split('_').any(|word| TAKEN_NOW.contains(&word));
            (now && text.starts_with(|letter: char| letter.is_ascii_digit()))
                .then(|| format!("always {text}"))
        }
        Default_::Literal(_) | Default_::Function(_) | Default_::Expression(_) => None,
    })
}
