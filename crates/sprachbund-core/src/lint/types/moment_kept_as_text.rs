use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::{is_reference, place, words_of};
use crate::lint::examples::{mongoose, sql};
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::{Database, Field};

pub(super) const RULE: Rule = Rule {
    name: "moment-kept-as-text",
    severity: Severity::Warning,
    finds: "a column that by its name holds a moment or a day and by its type a text",
    consequence: "`31.12.2026` sorts behind `01.01.2027`, `tomorrow` is stored, and no query \
                  can add an hour.",
    sql: "SELECT max(arrived_at) FROM port_calls;  -- '31.12.2025', in 2026",
    cure: "Use a type for times. Texts that are none must be mended first.",
    exception: "When the text is somebody else's and is only handed on.",
    wrong: sql("CREATE TABLE port_calls (id integer PRIMARY KEY, arrived_at varchar(20));\n"),
    right: sql("CREATE TABLE port_calls (id integer PRIMARY KEY, arrived_at timestamptz);\n"),
    cases: &[
        (1, mongoose("mongoose.model('PortCall', new mongoose.Schema({ arrivedAt: String }));\n")),
        (
            0,
            sql("CREATE TABLE port_calls (id integer PRIMARY KEY, moored_at text);")
                .on(Database::Sqlite),
        ),
        (0, sql("CREATE TABLE port_calls (id integer PRIMARY KEY, look_at_me boolean);")),
    ],
    check,
    ..PLAIN
};

/// Last words of names that mean a moment or a day.
const MOMENTS: &[&str] = &["at", "date", "time", "timestamp", "datetime", "day"];

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    if !context.database().server().holds_types {
        return;
    }
    let text = |(_, field): &(_, &Field)| field.r#type.is_text() && field.choices.is_none();
    for (entity, field) in context.fields().filter(text) {
        let moment =
            words_of(field).rsplit_once('_').is_some_and(|(_, last)| MOMENTS.contains(&last));
        if !moment || is_reference(entity, &field.column) {
            continue;
        }
        found.push(
            RULE.of_column(
                entity,
                field,
                format!("`{}` keeps a moment as text", place(entity, field)),
            )
            .at(field.origin.span(), format!("`{}`", field.r#type))
            .because("texts sort by their letters, and any text is stored")
            .with_help("use a type for times"),
        );
    }
}
