use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::facts::{index_element, unique_element};

pub(super) const RULE: Rule = Rule {
    name: "index-over-nothing",
    severity: Severity::Error,
    finds: "an index, a unique constraint or a key over a column that its table does not have",
    consequence: "The database refuses it, and with it the migration. A framework that checks \
                  nothing fails at its first start.",
    sql: "CREATE INDEX ON quays (dept);  -- refused: column \"dept\" does not exist",
    cure: "Mend the name, or leave the index out.",
    exception: "Never.",
    raised: &["unknown-attribute"],
    wrong: sql("CREATE TABLE quays (id integer PRIMARY KEY, depth integer);\n\
                CREATE INDEX by_depth ON quays (dept);\n"),
    right: sql("CREATE TABLE quays (id integer PRIMARY KEY, depth integer);\n\
                CREATE INDEX by_depth ON quays (depth);\n"),
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for entity in context.tables().filter(|entity| entity.inherits.is_none()) {
        let missing = |column: &&String| entity.field(column).is_none();
        let key = entity.primary_key.iter().filter_map(|key| {
            Some((key.columns.iter().find(missing)?, "key".into(), key.origin.span()))
        });
        let uniques = entity.uniques.iter().filter_map(|unique| {
            let column = unique.columns.iter().find(missing)?;
            Some((column, unique_element(unique), unique.origin.span()))
        });
        let indexes = entity.indexes.iter().filter_map(|index| {
            let column =
                index.parts.iter().filter_map(|part| part.column.as_ref()).find(missing)?;
            Some((column, index_element(index), index.origin.span()))
        });
        for (column, element, span) in key.chain(uniques).chain(indexes) {
            let known = entity.fields.iter().map(|field| field.column.as_str());
            let near = crate::dialect::nearest(column, known);
            found.push(
                RULE.finding(
                    entity,
                    element,
                    format!("`{}` has no column `{column}` to index", entity.name),
                )
                .at(span.or(entity.origin.span()), "over a column that is not there")
                .because("the database refuses it")
                .with_help(
                    near.map_or("leave it out".into(), |near| format!("did you mean `{near}`?")),
                ),
            );
        }
        for index in entity.indexes.iter().filter(|index| index.parts.is_empty()) {
            found.push(
                RULE.finding(
                    entity,
                    "index",
                    format!("an index of `{}` is over no column at all", entity.name),
                )
                .at(index.origin.span().or(entity.origin.span()), "over nothing")
                .with_help("leave it out, or say what it is over"),
            );
        }
    }
}
