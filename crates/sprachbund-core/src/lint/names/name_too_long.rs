use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::{Database, Entity, NamedBy};
use crate::server::LongNames;
use crate::source::Span;

pub(super) const RULE: Rule = Rule {
    name: "name-too-long",
    severity: Severity::Error,
    finds: "a name that is longer than the server keeps",
    consequence: "PostgreSQL cuts it after 63 bytes and says so in a notice only: what asks for \
                  the whole name later does not find it, and two that agree in their beginning \
                  collide. MySQL and MariaDB refuse it.",
    sql: "CREATE INDEX port_calls_by_berth_and_expected_arrival_and_status_of_the_call_idx ON \
          port_calls (id);\n\
          -- NOTICE: identifier \
          \"port_calls_by_berth_and_expected_arrival_and_status_of_the_call_idx\" will be \
          truncated",
    cure: "Choose a shorter name.",
    exception: "Never.",
    wrong: sql("CREATE TABLE port_calls (id integer PRIMARY KEY, code integer);\n\
                CREATE INDEX \
                port_calls_by_berth_and_expected_arrival_and_status_of_the_call_idx ON \
                port_calls (code);\n"),
    right: sql("CREATE TABLE port_calls (id integer PRIMARY KEY, code integer);\n\
                CREATE INDEX port_calls_by_code ON port_calls (code);\n"),
    cases: &[(
        0,
        sql("CREATE TABLE port_calls (id integer PRIMARY KEY, code integer);\n\
             CREATE INDEX port_calls_by_berth_and_expected_arrival_and_status_of_the_call_idx \
             ON port_calls (code);")
        .on(Database::Sqlite),
    )],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let database = context.database();
    let limit = database.identifier_limit();
    let long = database.server().long_names;
    let length =
        |name: &str| if long == LongNames::Refused { name.chars().count() } else { name.len() };
    for entity in context.tables() {
        for (kind, name, span) in
            names(entity).into_iter().filter(|(_, name, _)| length(name) > limit)
        {
            let (unit, then) = match long {
                LongNames::Refused => ("letters", format!("{} refuses it", database.title())),
                LongNames::Cut => (
                    "bytes",
                    format!(
                        "{} cuts it: what asks for the whole name does not find it",
                        database.title()
                    ),
                ),
            };
            found.push(
                RULE.finding(
                    entity,
                    format!("{kind} {name}"),
                    format!(
                        "the {kind} `{name}` has {} {unit}, and {limit} are kept",
                        length(name)
                    ),
                )
                .at(span.or(entity.origin.span()), "too long a name")
                .because(then)
                .with_help("choose a shorter name"),
            );
        }
    }
}

/// Names that an author gave, with their kinds and places.
fn names(entity: &Entity) -> Vec<(&'static str, &str, Option<Span>)> {
    let table = std::iter::once(("table", entity.table.as_str(), entity.origin.span()));
    let columns =
        entity.fields.iter().map(|field| ("column", field.column.as_str(), field.origin.span()));
    let author = |named_by: NamedBy| named_by == NamedBy::Author;
    let uniques = entity.uniques.iter().filter(|unique| author(unique.named_by));
    let uniques = uniques.filter_map(|unique| {
        Some(("unique constraint", unique.name.as_deref()?, unique.origin.span()))
    });
    let indexes = entity.indexes.iter().filter(|index| author(index.named_by));
    let indexes =
        indexes.filter_map(|index| Some(("index", index.name.as_deref()?, index.origin.span())));
    let checks = entity
        .checks
        .iter()
        .filter_map(|check| Some(("check", check.name.as_deref()?, check.origin.span())));
    let keys = entity
        .foreign_keys
        .iter()
        .filter_map(|key| Some(("foreign key", key.name.as_deref()?, key.origin.span())));
    table.chain(columns).chain(uniques).chain(indexes).chain(checks).chain(keys).collect()
}
