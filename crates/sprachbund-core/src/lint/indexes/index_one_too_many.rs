use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Parameter, Rule, Value};

pub(super) const RULE: Rule = Rule {
    name: "index-one-too-many",
    severity: Severity::Note,
    finds: "a table with more indexes than it should carry",
    consequence: "Each insert writes every one of them, and each update those of the columns \
                  that change (on PostgreSQL often all).",
    sql: "INSERT INTO positions DEFAULT VALUES;  -- one row, ten indexes: eleven writes",
    cure: "Drop those that no query uses; the server counts their uses. No row changes.",
    exception: "When the table is read far more than it is written.",
    parameters: &[Parameter {
        name: "most",
        says: "indexes, unique constraints among them, that a table may have",
        value: Value::Number(8),
    }],
    wrong: sql(
        "CREATE TABLE positions (id integer PRIMARY KEY, a integer UNIQUE, b integer UNIQUE, c \
         integer UNIQUE, d integer UNIQUE, e integer UNIQUE, f integer UNIQUE, g integer \
         UNIQUE, h integer UNIQUE, i integer UNIQUE);\n",
    ),
    right: sql(
        "CREATE TABLE positions (id integer PRIMARY KEY, a integer UNIQUE, b integer UNIQUE, c \
         integer, d integer, e integer, f integer, g integer, h integer);\n",
    ),
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let most = context.number(&RULE, "most");
    for entity in context.entities() {
        let count = entity.indexes.len() + entity.uniques.len();
        if count <= most {
            continue;
        }
        found.push(
            RULE.finding(
                entity,
                "",
                format!("`{}` has {count} indexes, more than {most}", entity.name),
            )
            .at(entity.origin.span(), "each insert writes all of them")
            .because(format!("an insert into `{}` writes {} places", entity.table, count + 1))
            .with_help("drop those that no query uses"),
        );
    }
}
