use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::{Check, Expression};
use crate::source::Span;

pub(super) const RULE: Rule = Rule {
    name: "check-over-nothing",
    severity: Severity::Error,
    finds: "a check, a condition of an index or a generated column that names a column which \
            its table does not have",
    consequence: "The database refuses the table, or the index, and the migration with it.",
    sql: "CREATE TABLE quays (depth integer CHECK (dept > 0));  -- refused: column \"dept\" \
          does not exist",
    cure: "Mend the name.",
    exception: "Never.",
    wrong: sql("CREATE TABLE quays (id integer PRIMARY KEY, depth integer, CHECK (dept > 0));\n"),
    right: sql("CREATE TABLE quays (id integer PRIMARY KEY, depth integer, CHECK (depth > 0));\n"),
    cases: &[(
        1,
        sql("CREATE TABLE quays (id integer PRIMARY KEY, depth integer);\n\
             CREATE INDEX deep ON quays (depth) WHERE dept > 9;"),
    )],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for entity in context.tables() {
        let of_check = |check: &'_ Check| check.origin.span();
        let checks =
            entity.checks.iter().map(|check| ("a check", &check.expression, of_check(check)));
        let conditions = entity.indexes.iter().filter_map(|index| {
            Some(("a condition", &**index.condition.as_ref()?, index.origin.span()))
        });
        let generated = entity.fields.iter().filter_map(|field| {
            let generated = field.generated.as_ref()?;
            Some(("a generated column", &generated.expression, field.origin.span()))
        });
        let all: Vec<(&str, &Expression, Option<Span>)> =
            checks.chain(conditions).chain(generated).collect();
        for (what, expression, span) in
            all.into_iter().filter(|(_, expression, _)| expression.is_sql())
        {
            let Some(missing) =
                expression.columns().into_iter().find(|column| entity.field(column).is_none())
            else {
                continue;
            };
            let near = crate::dialect::nearest(
                missing,
                entity.fields.iter().map(|field| field.column.as_str()),
            );
            found.push(
                RULE.finding(
                    entity,
                    format!("{what} {}", expression.text),
                    format!("{what} of `{}` names `{missing}`, no column of it", entity.name),
                )
                .at(span.or(entity.origin.span()), "names a column that is not there")
                .because(format!("{} refuses it", context.database().title()))
                .with_help(
                    near.map_or("mend the name".into(), |near| format!("did you mean `{near}`?")),
                ),
            );
        }
    }
}
