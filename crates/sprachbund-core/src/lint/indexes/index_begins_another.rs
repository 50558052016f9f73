use super::index_said_twice::superfluous;
use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::keys;
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::{Entity, Index, IndexPart};
use crate::source::Span;

pub(super) const RULE: Rule = Rule {
    name: "index-begins-another",
    severity: Severity::Note,
    finds: "an index whose columns are the first of another index, unique constraint or key",
    consequence: "The longer one serves every query that the shorter one serves. The shorter \
                  one costs a write at each insert.",
    sql: "CREATE INDEX a ON berths (quay_id);\nCREATE INDEX b ON berths (quay_id, number);  -- \
          serves WHERE quay_id = 7 as well",
    cure: "Drop the shorter one. No row changes.",
    exception: "When the shorter one is much smaller and read very often.",
    wrong: sql("CREATE TABLE berths (id integer PRIMARY KEY, quay_id integer, number integer);\n\
                CREATE INDEX a ON berths (quay_id);\n\
                CREATE INDEX b ON berths (quay_id, number);\n"),
    right: sql("CREATE TABLE berths (id integer PRIMARY KEY, quay_id integer, number integer);\n\
                CREATE INDEX b ON berths (quay_id, number);\n"),
    cases: &[
        (
            1,
            sql("CREATE TABLE berths (id integer PRIMARY KEY, quay_id integer, number integer, \
                 UNIQUE (quay_id, number));\nCREATE INDEX a ON berths (quay_id);"),
        ),
        (
            0,
            sql("CREATE TABLE berths (id integer PRIMARY KEY, quay_id integer, number integer);\n\
                 CREATE UNIQUE INDEX a ON berths (quay_id);\n\
                 CREATE INDEX b ON berths (quay_id, number);"),
        ),
        (
            0,
            sql("CREATE TABLE berths (id integer PRIMARY KEY, quay_id integer, number integer);\n\
                 CREATE INDEX a ON berths (number);\n\
                 CREATE INDEX b ON berths (quay_id, number);"),
        ),
    ],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for entity in context.entities() {
        for index in entity
            .indexes
            .iter()
            .filter(|index| !index.unique && index.condition.is_none() && index.method.is_none())
        {
            let Some((longer, place)) = longer(entity, index) else { continue };
            let message = format!(
                "the index of `{}` over `{}` is the beginning of {longer}",
                entity.name,
                keys(index)
            );
            found.push(
                superfluous(
                    &RULE,
                    entity,
                    index,
                    message,
                    ("the shorter one", "the longer one", place),
                )
                .because("the longer one serves the same queries; each insert writes both")
                .with_help("leave the shorter one out"),
            );
        }
    }
}

fn longer(entity: &Entity, index: &Index) -> Option<(String, Option<Span>)> {
    let count = index.parts.len();
    let begins =
        |parts: &[IndexPart]| count > 0 && parts.len() > count && parts[..count] == index.parts;
    let usual = |other: &&Index| {
        other.condition.is_none() && other.method.is_none() && begins(&other.parts)
    };
    if let Some(other) = entity.indexes.iter().find(usual) {
        return Some((format!("the one over `{}`", keys(other)), other.origin.span()));
    }
    let of_columns =
        |columns: &[String]| begins(&columns.iter().map(IndexPart::column).collect::<Vec<_>>());
    if let Some(unique) = entity.uniques.iter().find(|unique| of_columns(&unique.columns)) {
        return Some((
            format!("the unique constraint over `{}`", unique.columns.join(", ")),
            unique.origin.span(),
        ));
    }
    let key = entity.primary_key.as_ref().filter(|key| of_columns(&key.columns))?;
    Some(("the key".into(), key.origin.span()))
}
