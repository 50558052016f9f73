use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::facts::unique_element;

pub(super) const RULE: Rule = Rule {
    name: "unique-of-stored-rows",
    severity: Severity::Warning,
    finds: "a unique constraint over columns that are stored already and may hold equal values \
            (with --beside)",
    consequence: "If two rows agree, the step is refused, at the deployment first.",
    sql: "ALTER TABLE vessels ADD UNIQUE (imo);  -- refused: could not create unique index \
          \"vessels_imo_key\"",
    cure: "Look for equal rows before: GROUP BY with HAVING count(*) > 1. Tell them apart, then \
           add the constraint.",
    exception: "When the values are known to differ.",
    wrong: sql("CREATE TABLE vessels (id integer PRIMARY KEY, imo char(7) UNIQUE);\n")
        .beside("CREATE TABLE vessels (id integer PRIMARY KEY, imo char(7));"),
    right: sql("CREATE TABLE vessels (id integer PRIMARY KEY, imo char(7) UNIQUE);\n")
        .beside("CREATE TABLE vessels (id integer PRIMARY KEY, imo char(7) UNIQUE);"),
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for (entity, stored) in context.stored() {
        let known =
            |columns: &[String]| columns.iter().all(|column| stored.field(column).is_some());
        for unique in entity
            .uniques
            .iter()
            .filter(|unique| known(&unique.columns) && !stored.is_unique(&unique.columns))
        {
            let columns = unique.columns.join(", ");
            found.push(
                RULE.finding(
                    entity,
                    unique_element(unique),
                    format!("`{columns}` of `{}` is to be unique, and is not today", entity.name),
                )
                .at(unique.origin.span().or(entity.origin.span()), "stored rows may agree")
                .because(format!("two equal rows in `{}` and the step is refused", entity.table))
                .with_help(format!(
                    "look first: SELECT {columns} FROM {} GROUP BY {columns} HAVING count(*) > 1",
                    entity.table
                )),
            );
        }
    }
}
