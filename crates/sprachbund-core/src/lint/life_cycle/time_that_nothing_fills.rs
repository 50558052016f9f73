use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::{place, words_of};
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::{Field, Type};

/// Names of times that something is expected to fill in: the name, when, and whether a value at
/// creation is enough.
const EXPECTED: &[(&str, &str, bool)] = &[
    ("created_at", "when a row is made", true),
    ("created_on", "when a row is made", true),
    ("inserted_at", "when a row is made", true),
    ("updated_at", "when a row changes", false),
    ("updated_on", "when a row changes", false),
    ("modified_at", "when a row changes", false),
    ("changed_at", "when a row changes", false),
];

pub(super) const RULE: Rule = Rule {
    name: "time-that-nothing-fills",
    severity: Severity::Warning,
    finds: "a time of creation or change, by its name, that neither the framework nor the \
            database fills in",
    consequence: "It stays null, or keeps the time of creation for ever, unless all code that \
                  writes the row sets it. What copies changed rows by it misses them.",
    sql: "UPDATE quays SET depth = 9 WHERE id = 1;\nSELECT updated_at FROM quays WHERE id = 1;  \
          -- as before",
    cure: "Let the framework keep it, or a default (and, for changes, a trigger). Old rows need \
           a value.",
    exception: "When a trigger fills it in, which declarations do not show.",
    wrong: sql("CREATE TABLE quays (id integer PRIMARY KEY, created_at timestamptz NOT NULL);\n"),
    right: sql(
        "CREATE TABLE quays (id integer PRIMARY KEY, created_at timestamptz NOT NULL DEFAULT \
         now());\n",
    ),
    cases: &[(0, sql("CREATE TABLE quays (id integer PRIMARY KEY, opened_at timestamptz);"))],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let time = |(_, field): &(_, &Field)| {
        matches!(field.r#type, Type::Timestamp { .. } | Type::Date) && field.purpose.is_none()
    };
    for (entity, field) in context.fields().filter(time) {
        let name = words_of(field);
        let Some((_, when, at_creation)) = EXPECTED.iter().find(|(known, ..)| *known == name)
        else {
            continue;
        };
        let made = field.defaults != Default::default() || field.generated.is_some();
        let updated = field.on_update != Default::default();
        if updated || (*at_creation && made) {
            continue;
        }
        found.push(
            RULE.of_column(
                entity,
                field,
                format!("nothing fills in `{}` {when}", place(entity, field)),
            )
            .at(
                field.origin.span(),
                if made {
                    "has a default, and keeps it"
                } else {
                    "no default, and nothing that keeps it"
                },
            )
            .because("it is right only as long as all code that writes the row sets it")
            .with_help("let the framework keep it"),
        );
    }
}
