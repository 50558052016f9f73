use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};

pub(super) const RULE: Rule = Rule {
    name: "name-needs-quotes",
    severity: Severity::Note,
    finds: "a table or column with spaces, signs or a digit in front in its name",
    consequence: "It must stand in quotes in every query, and no programming language can have \
                  an attribute of that name.",
    sql: "SELECT depth m FROM quays;  -- the column `depth` under the name `m`, if there is one",
    cure: "Rename it, or map an attribute of another name to it.",
    exception: "When the tables are not yours to change.",
    wrong: sql("CREATE TABLE quays (id integer PRIMARY KEY, \"depth (m)\" integer);\n"),
    right: sql("CREATE TABLE quays (id integer PRIMARY KEY, depth_in_metres integer);\n"),
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let plain = |name: &str| {
        name.chars().all(|letter| letter.is_alphanumeric() || letter == '_')
            && !name.starts_with(|letter: char| letter.is_ascii_digit())
    };
    for entity in context.tables() {
        if !plain(&entity.table) {
            found.push(
                RULE.finding(
                    entity,
                    "",
                    format!("the table `{}` must stand in quotes in every query", entity.table),
                )
                .at(entity.origin.span(), "signs in its name")
                .with_help("rename it"),
            );
        }
        for field in entity.fields.iter().filter(|field| !plain(&field.column)) {
            found.push(
                RULE.of_column(
                    entity,
                    field,
                    format!(
                        "the column `{}` of `{}` must stand in quotes",
                        field.column, entity.table
                    ),
                )
                .at(field.origin.span().or(entity.origin.span()), "signs in its name")
                .with_help("rename it, or map an attribute of another name to it"),
            );
        }
    }
}
