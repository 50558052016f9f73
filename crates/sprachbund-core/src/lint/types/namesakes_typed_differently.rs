use std::collections::BTreeMap;

use foldhash::HashMap;

use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::{is_reference, place};
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::{Entity, Field};

/// Names that say so little that their types may differ.
const SAY_LITTLE: &[&str] = &[
    "id", "type", "value", "data", "kind", "key", "content", "options", "settings", "payload",
    "order", "position",
];

pub(super) const RULE: Rule = Rule {
    name: "namesakes-typed-differently",
    severity: Severity::Note,
    finds: "a column that is typed unlike most columns of the same name in other entities",
    consequence: "A value that fits one table is refused or cut by the other, and a join or a \
                  union over both converts one of them.",
    sql: "INSERT INTO archive SELECT flag FROM vessels;  -- refused: value too long for type \
          character varying(2)",
    cure: "Give both the same type. A shorter text or a narrower number must fit what is stored.",
    exception: "When the same word means two things.",
    wrong: sql("CREATE TABLE vessels (id integer PRIMARY KEY, flag char(2));
CREATE TABLE owners (id integer PRIMARY KEY, flag char(2));
CREATE TABLE port_calls (id integer PRIMARY KEY, flag varchar(40));
"),
    right: sql("CREATE TABLE vessels (id integer PRIMARY KEY, flag char(2));
CREATE TABLE owners (id integer PRIMARY KEY, flag char(2));
CREATE TABLE port_calls (id integer PRIMARY KEY, flag char(2));
"),
    cases: &[(
        0,
        sql("CREATE TABLE vessels (id integer PRIMARY KEY, flag char(2));\n\
             CREATE TABLE owners (id integer PRIMARY KEY, flag varchar(40));"),
    )],
    whole: true,
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let mut named: BTreeMap<&str, Vec<(&Entity, &Field)>> = BTreeMap::new();
    for (entity, field) in context.columns() {
        let own =
            !is_reference(entity, &field.column) && !entity.key_columns().contains(&field.column);
        if own && !SAY_LITTLE.contains(&field.column.as_str()) {
            named.entry(&field.column).or_default().push((entity, field));
        }
    }
    for (name, fields) in named.into_iter().filter(|(_, fields)| fields.len() > 2) {
        if fields.iter().all(|(_, field)| field.r#type == fields[0].1.r#type) {
            continue;
        }
        let mut counts: HashMap<&crate::schema::Type, usize> = HashMap::default();
        fields.iter().for_each(|(_, field)| *counts.entry(&field.r#type).or_default() += 1);
        let Some((usual, count)) = counts.into_iter().max_by_key(|(_, count)| *count) else {
            continue;
        };
        if count * 3 < fields.len() * 2 {
            continue;
        }
        let example = fields.iter().find(|(_, field)| field.r#type == *usual);
        for (entity, field) in fields.iter().filter(|(_, field)| field.r#type != *usual) {
            let message = format!(
                "`{}` is a {}, {count} other columns called `{name}` are {usual}",
                place(entity, field),
                field.r#type
            );
            found.push(
                RULE.of_column(entity, field, message)
                    .at(field.origin.span(), format!("`{}`", field.r#type))
                    .and_at(
                        example.and_then(|(_, field)| field.origin.span()),
                        format!("`{usual}`"),
                    )
                    .because("a value of one may not fit the other")
                    .with_help(format!("use {usual} here too, or another name")),
            );
        }
    }
}
