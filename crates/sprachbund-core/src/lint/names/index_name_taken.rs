use foldhash::HashMap;

use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::{Database, Entity, NamedBy};
use crate::source::Span;

pub(super) const RULE: Rule = Rule {
    name: "index-name-taken",
    severity: Severity::Error,
    finds: "two indexes or unique constraints of one name where the server allows one",
    consequence: "The second one is refused, and the migration with it. On PostgreSQL and \
                  SQLite indexes of all tables share their names; on MySQL and MariaDB those \
                  of one table do.",
    sql: "CREATE INDEX by_code ON quays (code);\n\
          CREATE INDEX by_code ON berths (code);  -- refused: relation \"by_code\" already \
          exists",
    cure: "Give one of them another name.",
    exception: "Never.",
    wrong: sql("CREATE TABLE quays (id integer PRIMARY KEY, code integer);
CREATE TABLE berths (id integer PRIMARY KEY, code integer);
CREATE INDEX by_code ON quays (code);
CREATE INDEX by_code ON berths (code);
"),
    right: sql("CREATE TABLE quays (id integer PRIMARY KEY, code integer);
CREATE TABLE berths (id integer PRIMARY KEY, code integer);
CREATE INDEX quays_by_code ON quays (code);
CREATE INDEX berths_by_code ON berths (code);
"),
    cases: &[(
        0,
        sql("CREATE TABLE quays (id integer PRIMARY KEY, code integer);
CREATE TABLE berths (id integer PRIMARY KEY, code integer);
CREATE INDEX by_code ON quays (code);
CREATE INDEX by_code ON berths (code);
")
        .on(Database::MariaDb),
    )],
    whole: true,
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let of_one_table = context.database().server().index_names_by_table;
    let mut seen: HashMap<(&str, &str, String), (&Entity, Option<Span>)> = HashMap::default();
    for entity in context.entities() {
        for (name, span) in names(entity) {
            let scope = if of_one_table { entity.id.as_str() } else { "" };
            let kept: String = name.chars().take(context.database().identifier_limit()).collect();
            let Some((first, place)) = seen.insert(
                (entity.namespace.as_deref().unwrap_or_default(), scope, kept),
                (entity, span),
            ) else {
                continue;
            };
            found.push(
                RULE.finding(
                    entity,
                    format!("index {name}"),
                    format!(
                        "`{name}` names an index of `{}` and one of `{}`",
                        first.name, entity.name
                    ),
                )
                .at(span.or(entity.origin.span()), "the name again")
                .and_at(place.or(first.origin.span()), "the first of that name")
                .because(format!("{} refuses the second one", context.database().title()))
                .with_help("give one of them another name"),
            );
        }
    }
}

/// Names of the indexes of a table, those that an author gave and those that the framework is known
/// to give.
fn names(entity: &Entity) -> impl Iterator<Item = (&str, Option<Span>)> {
    let known = |named_by: NamedBy| named_by != NamedBy::Server;
    let uniques = entity.uniques.iter().filter(move |unique| known(unique.named_by));
    let indexes = entity.indexes.iter().filter(move |index| known(index.named_by));
    let uniques =
        uniques.filter_map(|unique| Some((unique.name.as_deref()?, unique.origin.span())));
    uniques.chain(indexes.filter_map(|index| Some((index.name.as_deref()?, index.origin.span()))))
}
