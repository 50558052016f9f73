use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::{place, words_of};
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::{Change, Database, Field, Type};

pub(super) const RULE: Rule = Rule {
    name: "flag-kept-as-other-type",
    severity: Severity::Note,
    finds: "a column that by its name answers yes or no and by its type holds a number or a text",
    consequence: "2, -1, `Y`, `yes` and `true` are all stored; each reader takes another of \
                  them for yes.",
    sql: "SELECT count(*) FROM vessels WHERE is_tanker = 1;  -- not those that hold 2",
    cure: "Use a boolean. Each stored value must be decided on, once.",
    exception: "On servers without a boolean, or when there are more than two answers.",
    wrong: sql("CREATE TABLE vessels (id integer PRIMARY KEY, is_tanker integer NOT NULL);\n"),
    right: sql("CREATE TABLE vessels (id integer PRIMARY KEY, is_tanker boolean NOT NULL);\n"),
    cases: &[
        (
            0,
            sql("CREATE TABLE vessels (id integer PRIMARY KEY, is_tanker integer NOT NULL);")
                .on(Database::Sqlite),
        ),
        (0, sql("CREATE TABLE vessels (id integer PRIMARY KEY, island varchar(20));")),
    ],
    check,
    ..PLAIN
};

/// First words of names that ask a question.
const QUESTIONS: &[&str] = &["is", "has", "can", "should", "was"];

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    if !context.database().server().holds_types {
        return;
    }
    let other = |(_, field): &(_, &Field)| {
        (field.r#type.is_text() || field.r#type.is_whole_number()) && field.choices.is_none()
    };
    for (entity, field) in context.fields().filter(other) {
        let asks =
            words_of(field).split_once('_').is_some_and(|(first, _)| QUESTIONS.contains(&first));
        if !asks {
            continue;
        }
        found.push(
            RULE.of_column(
                entity,
                field,
                format!("`{}` answers yes or no with a {}", place(entity, field), field.r#type),
            )
            .at(field.origin.span(), format!("`{}`", field.r#type))
            .because("more than two answers can be stored")
            .with_help("use a boolean")
            .curable_by_hand(Change::Retype {
                entity: entity.id.clone(),
                column: field.column.clone(),
                to: Type::Boolean,
            }),
        );
    }
}
