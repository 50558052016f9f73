use std::sync::LazyLock;

use foldhash::HashMap;

use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::Database;

pub(super) const RULE: Rule = Rule {
    name: "word-reserved-by-sql",
    severity: Severity::Note,
    finds: "a table or column that is called by a word that SQL keeps for itself on some server",
    consequence: "Frameworks put it into quotes, people forget to: a query by hand is a syntax \
                  error, or (a column `user` on PostgreSQL) answers something else without an \
                  error.",
    sql: "SELECT user FROM berths;  -- PostgreSQL: the name of the session's user, once for \
          each row",
    cure: "Choose another word. Renaming needs a migration.",
    exception: "When nobody writes SQL by hand.",
    wrong: sql(
        "CREATE TABLE berths (id integer PRIMARY KEY, \"user\" varchar(20), \"order\" integer);\n",
    ),
    right: sql(
        "CREATE TABLE berths (id integer PRIMARY KEY, booked_by varchar(20), place integer);\n",
    ),
    check,
    ..PLAIN
};

/// The servers of each word, in their order.
static SERVERS: LazyLock<HashMap<&str, Vec<Database>>> = LazyLock::new(|| {
    let mut servers: HashMap<&str, Vec<Database>> = HashMap::default();
    for (_, database) in Database::ALL {
        for word in database.server().reserved.iter().flat_map(|words| words.split_whitespace()) {
            servers.entry(word).or_default().push(database);
        }
    }
    servers
});

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let folded = |name: &str| match name.contains(|letter: char| letter.is_ascii_uppercase()) {
        true => SERVERS.get(name.to_ascii_lowercase().as_str()),
        false => SERVERS.get(name),
    };
    let servers = |name: &str| folded(name).map(|servers| servers_of(servers));
    for entity in context.tables() {
        if let Some(servers) = servers(&entity.table) {
            found.push(
                RULE.finding(
                    entity,
                    "",
                    format!(
                        "the table of `{}` is called `{}`, a word of SQL on {servers}",
                        entity.name, entity.table
                    ),
                )
                .at(entity.origin.span(), "must stand in quotes in every query")
                .with_help("choose another name for the table"),
            );
        }
        for (field, servers) in
            entity.fields.iter().filter_map(|field| Some((field, servers(&field.column)?)))
        {
            found.push(
                RULE.of_column(
                    entity,
                    field,
                    format!(
                        "the column `{}` of `{}` is a word of SQL on {servers}",
                        field.column, entity.name
                    ),
                )
                .at(field.origin.span(), "must stand in quotes in every query")
                .with_help("choose another name for the column"),
            );
        }
    }
}

fn servers_of(servers: &[Database]) -> String {
    servers.iter().map(|server| server.title()).collect::<Vec<_>>().join(", ")
}
