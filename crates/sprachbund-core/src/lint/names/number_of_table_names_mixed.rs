use crate::diagnostic::{Diagnostic, Severity};
use crate::dialect::naming::{plural, singular};
use crate::lint::Context;
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};

pub(super) const RULE: Rule = Rule {
    name: "number-of-table-names-mixed",
    severity: Severity::Note,
    finds: "a table in the singular where most are in the plural, or the reverse",
    consequence: "Nobody remembers which it is: queries by hand fail at the first try, and \
                  frameworks that make names by a rule need the exceptions spelled out.",
    sql: "SELECT * FROM vessels;  -- refused: relation \"vessels\" does not exist; it is called \
          vessel",
    cure: "Choose one number and rename the others, or name them in the declarations.",
    exception: "When the tables are not yours to change.",
    wrong: sql("CREATE TABLE quays (id integer PRIMARY KEY);\n\
                CREATE TABLE berths (id integer PRIMARY KEY);\n\
                CREATE TABLE vessel (id integer PRIMARY KEY);\n"),
    right: sql("CREATE TABLE quays (id integer PRIMARY KEY);\n\
                CREATE TABLE berths (id integer PRIMARY KEY);\n\
                CREATE TABLE vessels (id integer PRIMARY KEY);\n"),
    cases: &[(
        0,
        sql("CREATE TABLE quay (id integer PRIMARY KEY);\n\
             CREATE TABLE berth (id integer PRIMARY KEY);"),
    )],
    whole: true,
    check,
    ..PLAIN
};

/// Whether a name is in the plural; nothing where the word does not tell.
fn in_plural(table: &str) -> Option<bool> {
    let lower = table.to_lowercase();
    let last = lower.rsplit('_').next().unwrap_or(&lower);
    match (plural(last) == last, singular(last) == last) {
        (true, false) => Some(true),
        (false, true) => Some(false),
        _ if last.ends_with('s') && singular(last) != last => Some(true),
        _ => None,
    }
}

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let counted: Vec<_> = context
        .entities()
        .filter(|entity| !entity.join)
        .filter_map(|entity| Some((entity, in_plural(&entity.table)?)))
        .collect();
    let plurals = counted.iter().filter(|(_, plural)| *plural).count();
    let usual = plurals * 2 >= counted.len();
    for (entity, _) in counted.iter().filter(|(_, plural)| *plural != usual) {
        let (number, others) = if usual { ("singular", "plural") } else { ("plural", "singular") };
        let meant = if usual { plural(&entity.table) } else { singular(&entity.table) };
        found.push(
            RULE.finding(
                entity,
                "",
                format!(
                    "the table `{}` is in the {number}, most are in the {others}",
                    entity.table
                ),
            )
            .at(entity.origin.span(), format!("in the {number}"))
            .because("who writes a query must know which tables are the exceptions")
            .with_help(format!("call it `{meant}`")),
        );
    }
}
