use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::{Entity, Field};

pub(super) const RULE: Rule = Rule {
    name: "case-styles-mixed",
    severity: Severity::Note,
    finds: "a column that is written in another style than most: capitals inside where others \
            have underscores, or the reverse",
    consequence: "On PostgreSQL a name with capitals must stand in quotes in every query; \
                  without them it is another, unknown name.",
    sql: "SELECT arrivedAt FROM port_calls;  -- refused: column \"arrivedat\" does not exist",
    cure: "Choose one style and rename, or map, the others.",
    exception: "When the tables are not yours to change.",
    wrong: sql(
        "CREATE TABLE port_calls (id integer PRIMARY KEY, expected_at date, sailed_at date, \
         \"arrivedAt\" date);\n",
    ),
    right: sql(
        "CREATE TABLE port_calls (id integer PRIMARY KEY, expected_at date, sailed_at date, \
         arrived_at date);\n",
    ),
    cases: &[(
        0,
        sql("CREATE TABLE port_calls (id integer PRIMARY KEY, \"expectedAt\" date, \
             \"arrivedAt\" date);"),
    )],
    whole: true,
    check,
    ..PLAIN
};

/// Whether a name of several words has underscores (else capitals); nothing for a single word.
fn underscored(name: &str) -> Option<bool> {
    let capitals =
        name.chars().skip(1).any(char::is_uppercase) && name.chars().any(char::is_lowercase);
    let underscores = name.trim_matches('_').contains('_');
    (capitals != underscores).then_some(underscores)
}

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let styled: Vec<(&Entity, &Field, bool)> = context
        .columns()
        .filter_map(|(entity, field)| Some((entity, field, underscored(&field.column)?)))
        .collect();
    let with = styled.iter().filter(|(.., underscores)| *underscores).count();
    let usual = with * 2 >= styled.len();
    for (entity, field, _) in styled.iter().filter(|(.., underscores)| *underscores != usual) {
        let (style, others) =
            if usual { ("capitals", "underscores") } else { ("underscores", "capitals") };
        found.push(
            RULE.of_column(
                entity,
                field,
                format!(
                    "`{}.{}` has {style} between its words, most columns {others}",
                    entity.table, field.column
                ),
            )
            .at(field.origin.span().or(entity.origin.span()), format!("{style} between its words"))
            .because(if usual {
                "it must stand in quotes in every query"
            } else {
                "who writes a query must know which style it is"
            })
            .with_help(format!("call it `{}`", restyled(&field.column, usual))),
        );
    }
}

fn restyled(name: &str, underscores: bool) -> String {
    use crate::dialect::naming::Case;
    if underscores { Case::Snake.apply(name) } else { Case::Camel.apply(name) }
}
