use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::Change;
use crate::schema::facts::unique_element;

pub(super) const RULE: Rule = Rule {
    name: "unique-given-by-key",
    severity: Severity::Note,
    finds: "a unique constraint over columns that the key, or a shorter unique constraint, \
            makes unique already",
    consequence: "It refuses nothing that is not refused before, and each insert writes one \
                  more index.",
    sql: "CREATE TABLE quays (id integer PRIMARY KEY, name varchar(20), UNIQUE (id, name));  -- \
          no second row with that id in any case",
    cure: "Drop it. No row changes.",
    exception: "When something refers to the columns of the longer one (a foreign key over both).",
    wrong: sql("CREATE TABLE quays (id integer PRIMARY KEY, name varchar(20) NOT NULL, UNIQUE \
                (id, name));\n"),
    right: sql("CREATE TABLE quays (id integer PRIMARY KEY, name varchar(20) NOT NULL);\n"),
    cases: &[
        (
            1,
            sql("CREATE TABLE quays (id integer PRIMARY KEY, code varchar(9) UNIQUE, name \
                 varchar(20), UNIQUE (code, name));"),
        ),
        (
            0,
            sql("CREATE TABLE quays (id integer PRIMARY KEY, harbour integer NOT NULL, \
                 UNIQUE (id, harbour));
CREATE TABLE berths (id integer PRIMARY KEY, quay integer, harbour integer, FOREIGN KEY (quay, \
                 harbour) REFERENCES quays (id, harbour));
"),
        ),
    ],
    whole: true,
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let keys = context.tables().flat_map(|entity| &entity.foreign_keys);
    let referred: foldhash::HashSet<(&str, &[String])> = keys
        .map(|key| (key.references.table.as_str(), key.references.columns.as_slice()))
        .collect();
    for entity in context.tables() {
        for unique in &entity.uniques {
            let over = |columns: &[String]| {
                !columns.is_empty() && columns.iter().all(|column| unique.columns.contains(column))
            };
            let by_key = over(entity.key_columns());
            let shorter = entity
                .uniques
                .iter()
                .find(|other| other.columns.len() < unique.columns.len() && over(&other.columns));
            let (first, place) = match (by_key, shorter) {
                (true, _) => (
                    "the key".to_owned(),
                    entity.primary_key.as_ref().and_then(|key| key.origin.span()),
                ),
                (false, Some(other)) => (
                    format!("`{}`, unique by itself,", other.columns.join(", ")),
                    other.origin.span(),
                ),
                (false, None) => continue,
            };
            if referred.contains(&(entity.table.as_str(), unique.columns.as_slice())) {
                continue;
            }
            let columns = unique.columns.join(", ");
            found.push(
                RULE.finding(
                    entity,
                    unique_element(unique),
                    format!("{first} makes `{columns}` of `{}` unique already", entity.name),
                )
                .at(unique.origin.span().or(entity.origin.span()), "refuses nothing more")
                .and_at(
                    place.filter(|place| Some(*place) != unique.origin.span()),
                    "makes it unique",
                )
                .because("each insert writes one more index")
                .with_help("leave it out")
                .curable(Change::RemoveUnique {
                    entity: entity.id.clone(),
                    columns: unique.columns.clone(),
                }),
            );
        }
    }
}
