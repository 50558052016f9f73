use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::Action;
use crate::schema::facts::foreign_key_element;

pub(super) const RULE: Rule = Rule {
    name: "default-missing-on-delete",
    severity: Severity::Error,
    finds: "a relation that is to be set to its default when its target is deleted, over a \
            column that has none",
    consequence: "The column without a default is set to null. If it is NOT NULL, every \
                  deletion of a target that is referred to fails.",
    sql: "DELETE FROM quays WHERE id = 1;  -- refused: null value in column \"quay_id\" of \
          relation \"berths\" violates not-null constraint",
    cure: "Give the column a default that refers to an existing row, or choose another action.",
    exception: "Never: the declaration names a default that is not there.",
    wrong: sql("CREATE TABLE quays (id integer PRIMARY KEY);\n\
                CREATE TABLE berths (id integer PRIMARY KEY, quay_id integer NOT NULL \
                REFERENCES quays (id) ON DELETE SET DEFAULT);\n"),
    right: sql("CREATE TABLE quays (id integer PRIMARY KEY);\n\
                CREATE TABLE berths (id integer PRIMARY KEY, quay_id integer NOT NULL DEFAULT \
                1 REFERENCES quays (id) ON DELETE SET DEFAULT);\n"),
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for entity in context.tables() {
        for key in entity.foreign_keys.iter().filter(|key| key.on_delete == Action::SetDefault) {
            let without = key
                .columns
                .iter()
                .filter_map(|column| entity.field(column))
                .find(|field| field.defaults.database.is_none());
            let Some(field) = without else { continue };
            let then = if field.nullable {
                "the column is set to null instead"
            } else {
                "every such deletion is refused: NOT NULL"
            };
            let message = format!(
                "`{}.{}` is to be set to a default that it has not",
                entity.name, field.column
            );
            found.push(
                RULE.finding(entity, foreign_key_element(key), message)
                    .at(key.origin.span().or(field.origin.span()), "ON DELETE SET DEFAULT")
                    .because(then)
                    .with_help("give the column a default, or choose another action"),
            );
        }
    }
}
