use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::{django, sql};
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::facts::unique_element;

pub(super) const RULE: Rule = Rule {
    name: "unique-lets-nulls-repeat",
    severity: Severity::Warning,
    finds: "a unique constraint over several columns one of which may be null",
    consequence: "PostgreSQL, MySQL, MariaDB and SQLite hold no two nulls for equal: rows that \
                  agree in every other column are all accepted as soon as one column is null. \
                  Other servers accept a single one.",
    sql: "INSERT INTO tide_window (harbour, berth) VALUES (1, NULL);\n\
          INSERT INTO tide_window (harbour, berth) VALUES (1, NULL);  -- accepted",
    cure: "Make the columns NOT NULL, or add a second unique index over the others for the rows \
           that hold null.",
    exception: "When rows with null may repeat.",
    wrong: django(
        "class TideWindow(models.Model):
    harbour = models.IntegerField()
    berth = models.IntegerField(null=True, blank=True)

    class Meta:
        unique_together = [(\"harbour\", \"berth\")]
",
    ),
    right: django(
        "class TideWindow(models.Model):
    harbour = models.IntegerField()
    berth = models.IntegerField()

    class Meta:
        unique_together = [(\"harbour\", \"berth\")]
",
    ),
    cases: &[
        (
            1,
            sql("CREATE TABLE tides (id integer PRIMARY KEY, harbour integer NOT NULL, berth \
                 integer, UNIQUE (harbour, berth));"),
        ),
        (
            0,
            sql("CREATE TABLE tides (id integer PRIMARY KEY, harbour integer NOT NULL, berth \
                 integer, UNIQUE NULLS NOT DISTINCT (harbour, berth));"),
        ),
        (0, sql("CREATE TABLE tides (id integer PRIMARY KEY, number varchar(9) UNIQUE);")),
    ],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for entity in context.tables() {
        for unique in entity
            .uniques
            .iter()
            .filter(|unique| unique.columns.len() > 1 && !unique.nulls_not_distinct)
        {
            let nullable = unique
                .columns
                .iter()
                .filter_map(|column| entity.field(column))
                .find(|field| field.nullable);
            let Some(field) = nullable else { continue };
            let columns = unique.columns.join(", ");
            found.push(
                RULE.finding(
                    entity,
                    unique_element(unique),
                    format!(
                        "`{}` is unique over `{columns}`, but not where `{}` is null",
                        entity.name, field.column
                    ),
                )
                .at(unique.origin.span(), "does not hold for rows with null")
                .and_at(field.origin.span(), "may be null")
                .because(format!(
                    "{} holds no two nulls for equal and accepts such rows any number of times",
                    context.database().title()
                ))
                .with_help(
                    "make the column NOT NULL, or add a unique index over the others where it \
                     is null",
                ),
            );
        }
    }
}
