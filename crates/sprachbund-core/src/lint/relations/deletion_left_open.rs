use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::reference_name;
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::facts::foreign_key_element;
use crate::schema::{Action, EnforcedBy};

pub(super) const RULE: Rule = Rule {
    name: "deletion-left-open",
    severity: Severity::Note,
    finds: "a relation of which neither the database nor the application knows what to do when \
            its target is deleted",
    consequence: "Here the deletion is refused. Other frameworks fill the same silence with set \
                  null or with deleting along: carried over as it stands, the relation does \
                  something else.",
    sql: "DELETE FROM quays WHERE id = 1;  -- refused while a berth refers to it",
    cure: "Say what is meant, even if it is to refuse (RESTRICT). No row changes.",
    exception: "When refusing is meant everywhere and nothing is ever carried over.",
    wrong: sql("CREATE TABLE quays (id integer PRIMARY KEY);\n\
                CREATE TABLE berths (id integer PRIMARY KEY, quay_id integer REFERENCES quays \
                (id));\n"),
    right: sql("CREATE TABLE quays (id integer PRIMARY KEY);\n\
                CREATE TABLE berths (id integer PRIMARY KEY, quay_id integer REFERENCES quays \
                (id) ON DELETE RESTRICT);\n"),
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for entity in context.tables() {
        let open = entity.foreign_keys.iter().filter(|key| {
            key.enforced == EnforcedBy::Database && key.on_delete == Action::NoAction
        });
        for key in open {
            let relation = entity.relation_over(&key.columns);
            if relation.is_some_and(|relation| relation.on_delete.is_some()) {
                continue;
            }
            let name = reference_name(entity, key);
            let table = &key.references.table;
            found.push(
                RULE.finding(
                    entity,
                    foreign_key_element(key),
                    format!("what happens to `{}.{name}` on deletion is left open", entity.name),
                )
                .at(key.origin.span(), format!("nothing is said of deleting one of `{table}`"))
                .because(format!(
                    "{} refuses the deletion; other frameworks fill the silence otherwise",
                    context.database().title()
                ))
                .with_help("say what is meant: refuse, delete along, or set to null"),
            );
        }
    }
}
