use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::EnforcedBy;
use crate::schema::facts::foreign_key_element;

pub(super) const RULE: Rule = Rule {
    name: "reference-to-not-unique",
    severity: Severity::Error,
    finds: "a foreign key to columns that are neither the key nor unique",
    consequence: "PostgreSQL and MySQL refuse to make the table; SQLite refuses every write to \
                  it. MariaDB takes it if there is an index, and a reference then means any of \
                  several rows.",
    sql: "CREATE TABLE berths (quay_name varchar(20) REFERENCES quays (name));\n\
          -- refused: there is no unique constraint matching given keys for referenced table \
          \"quays\"",
    cure: "Refer to the key, or make the columns unique. Rows that share a value must be told \
           apart first.",
    exception: "Never: such a reference does not say which row is meant.",
    wrong: sql("CREATE TABLE quays (id integer PRIMARY KEY, name varchar(20) NOT NULL);
CREATE TABLE berths (id integer PRIMARY KEY, quay_name varchar(20) REFERENCES quays (name));
"),
    right: sql("CREATE TABLE quays (id integer PRIMARY KEY, name varchar(20) NOT NULL UNIQUE);
CREATE TABLE berths (id integer PRIMARY KEY, quay_name varchar(20) REFERENCES quays (name));
"),
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for entity in context.tables() {
        for key in entity.foreign_keys.iter().filter(|key| key.enforced == EnforcedBy::Database) {
            let Some(target) =
                context.referenced(&key.references).filter(|target| !target.external)
            else {
                continue;
            };
            let columns = &key.references.columns;
            let known = columns.iter().all(|column| target.field(column).is_some());
            if !known || target.is_unique(columns) {
                continue;
            }
            let columns = columns.join(", ");
            found.push(
                RULE.finding(
                    entity,
                    foreign_key_element(key),
                    format!(
                        "`{}` refers to `{}.{columns}`, which is not unique",
                        entity.name, target.name
                    ),
                )
                .at(key.origin.span(), format!("refers to `{}.{columns}`", target.table))
                .and_at(target.origin.span(), format!("`{columns}` may repeat here"))
                .because(format!("{} cannot tell which row is meant", context.database().title()))
                .with_help(format!(
                    "refer to the key of `{}`, or make `{columns}` unique",
                    target.name
                )),
            );
        }
    }
}
