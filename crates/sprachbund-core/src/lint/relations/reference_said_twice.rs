use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::facts::foreign_key_element;

pub(super) const RULE: Rule = Rule {
    name: "reference-said-twice",
    severity: Severity::Warning,
    finds: "two foreign keys over the same columns",
    consequence: "The database makes both and checks both at every write. If they disagree on \
                  deletion, the action that is taken first wins: rows are deleted along \
                  although one of the two says that nothing is to happen.",
    sql: "DELETE FROM quays WHERE id = 1;  -- one key says CASCADE, the other NO ACTION: its \
          berths are gone",
    cure: "Leave one of them out. No row changes.",
    exception: "When the columns truly refer to two tables at once (a shared key).",
    wrong: sql("CREATE TABLE quays (id integer PRIMARY KEY);
CREATE TABLE berths (id integer PRIMARY KEY, quay_id integer REFERENCES quays (id) ON DELETE \
             CASCADE, CONSTRAINT of_quay FOREIGN KEY (quay_id) REFERENCES quays (id));
"),
    right: sql("CREATE TABLE quays (id integer PRIMARY KEY);\n\
                CREATE TABLE berths (id integer PRIMARY KEY, quay_id integer REFERENCES quays \
                (id) ON DELETE CASCADE);\n"),
    raised: &["second-relation"],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for entity in context.tables() {
        for (at, key) in entity.foreign_keys.iter().enumerate() {
            let Some(first) =
                entity.foreign_keys[..at].iter().find(|first| first.columns == key.columns)
            else {
                continue;
            };
            let (columns, table) = (key.columns.join(", "), &key.references.table);
            let message = match first.references == key.references {
                true => format!("`{}.{columns}` refers to `{table}` twice", entity.name),
                false => format!(
                    "`{}.{columns}` refers to `{}` and to `{table}`",
                    entity.name, first.references.table
                ),
            };
            found.push(
                RULE.finding(entity, foreign_key_element(key), message)
                    .at(key.origin.span(), format!("ON DELETE {}", key.on_delete.sql()))
                    .and_at(first.origin.span(), format!("ON DELETE {}", first.on_delete.sql()))
                    .because(
                        "both are checked at each write, and the action that is taken first wins",
                    )
                    .with_help("leave one of them out"),
            );
        }
    }
}
