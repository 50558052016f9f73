use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};

pub(super) const RULE: Rule = Rule {
    name: "relation-to-anything",
    severity: Severity::Note,
    finds: "two columns that name a kind of record and its key, and so may refer to any table",
    consequence: "No foreign key can hold it: any kind and any number are stored, nothing is \
                  taken along on deletion, and a join needs one query for each kind.",
    sql: "INSERT INTO remarks (about_type, about_id) VALUES ('Vesel', 99);  -- accepted",
    cure: "Give each kind a reference of its own and check that exactly one is set, or give the \
           kinds a table in common.",
    exception: "When the records are only shown and may be lost, such as a log.",
    wrong: sql("CREATE TABLE remarks (id integer PRIMARY KEY, about_type varchar(40) NOT NULL, \
                about_id integer NOT NULL);\n"),
    right: sql("CREATE TABLE vessels (id integer PRIMARY KEY);
CREATE TABLE quays (id integer PRIMARY KEY);
CREATE TABLE remarks (id integer PRIMARY KEY, vessel_id integer REFERENCES vessels (id), quay_id \
             integer REFERENCES quays (id), CHECK ((vessel_id IS NULL) <> (quay_id IS \
             NULL)));
"),
    check,
    ..PLAIN
};

/// Ends of the names of the columns that say the kind, and of those beside them that say which one.
const ENDS: &[(&str, &str)] = &[("_type", "_id"), ("Type", "Id"), ("_kind", "_id")];

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for entity in context.tables() {
        for kind in entity.fields.iter().filter(|field| field.r#type.is_text()) {
            let beside = ENDS.iter().find_map(|(end, other)| {
                let stem = kind.column.strip_suffix(end)?;
                entity.field(&format!("{stem}{other}")).map(|field| (stem, field))
            });
            let Some((stem, number)) = beside else { continue };
            if entity.foreign_keys.iter().any(|key| key.columns.contains(&number.column)) {
                continue;
            }
            found.push(
                RULE.of_column(
                    entity,
                    number,
                    format!("`{}.{stem}` may refer to any table", entity.name),
                )
                .at(number.origin.span().or(kind.origin.span()), "the key of a record of any kind")
                .and_at(kind.origin.span(), "the kind")
                .because("no foreign key keeps it to records that exist")
                .with_help(
                    "give each kind a reference of its own, and check that exactly one is set",
                ),
            );
        }
    }
}
