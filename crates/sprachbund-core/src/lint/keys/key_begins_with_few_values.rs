use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::place;
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::Type;

pub(super) const RULE: Rule = Rule {
    name: "key-begins-with-few-values",
    severity: Severity::Note,
    finds: "a key of several columns that begins with a boolean or an enumeration",
    consequence: "The key's index is sorted by a column with a handful of values. A lookup by \
                  the other columns alone reads all of it.",
    sql: "SELECT * FROM tides WHERE berth_id = 7;  -- reads the whole index: it is sorted by \
          `flood` first",
    cure: "Put the column that lookups name first. The key is built anew; no row changes.",
    exception: "When every query names the first column as well.",
    wrong: sql("CREATE TABLE tides (flood boolean NOT NULL, berth_id integer NOT NULL, opens \
                timestamp NOT NULL, PRIMARY KEY (flood, berth_id, opens));\n"),
    right: sql("CREATE TABLE tides (flood boolean NOT NULL, berth_id integer NOT NULL, opens \
                timestamp NOT NULL, PRIMARY KEY (berth_id, opens, flood));\n"),
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for entity in context.tables() {
        let [first, second, ..] = entity.key_columns() else { continue };
        let few = |ty: &Type| matches!(ty, Type::Boolean | Type::Enum(_));
        let Some(field) =
            entity.field(first).filter(|field| few(&field.r#type) || field.choices.is_some())
        else {
            continue;
        };
        let key = entity.primary_key.as_ref().and_then(|key| key.origin.span());
        found.push(
            RULE.finding(
                entity,
                "key",
                format!(
                    "the key of `{}` begins with `{}`, which has few values",
                    entity.name,
                    place(entity, field)
                ),
            )
            .at(key.or(field.origin.span()), format!("sorted by a `{}` first", field.r#type))
            .because(format!(
                "a lookup by `{second}` alone reads the whole index of `{}`",
                entity.table
            ))
            .with_help(format!("let the key begin with `{second}`")),
        );
    }
}
