use foldhash::HashMap;

use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::Database;
use crate::server::Folds;

pub(super) const RULE: Rule = Rule {
    name: "names-fold-together",
    severity: Severity::Error,
    finds: "two columns of one table, or two tables, whose names differ in case only, where the \
            server holds them for equal",
    consequence: "MySQL, MariaDB and SQLite refuse the second column of that name. On \
                  PostgreSQL both exist, and a query without quotes always means the one in \
                  small letters.",
    sql: "CREATE TABLE quays (depth integer, Depth integer);  -- refused: Duplicate column name \
          'Depth'",
    cure: "Rename one of them.",
    exception: "Never.",
    wrong: sql("CREATE TABLE quays (id integer PRIMARY KEY, depth integer, `Depth` integer);\n")
        .on(Database::MariaDb),
    right: sql("CREATE TABLE quays (id integer PRIMARY KEY, depth integer, draught integer);\n")
        .on(Database::MariaDb),
    cases: &[(
        0,
        sql("CREATE TABLE quays (id integer PRIMARY KEY, depth integer, \"Depth\" integer);"),
    )],
    whole: true,
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let database = context.database();
    let folds = database.server().folds;
    if folds == Folds::Nothing {
        return;
    }
    let mut tables: HashMap<String, &str> = HashMap::default();
    for entity in context.tables() {
        let mut columns: HashMap<String, &str> = HashMap::default();
        for field in &entity.fields {
            let Some(first) = columns
                .insert(field.column.to_lowercase(), &field.column)
                .filter(|first| *first != field.column)
            else {
                continue;
            };
            found.push(
                RULE.of_column(
                    entity,
                    field,
                    format!(
                        "`{first}` and `{}` are one name on {}",
                        field.column,
                        database.title()
                    ),
                )
                .at(field.origin.span().or(entity.origin.span()), "differs in case only")
                .because(format!("{} refuses the second column", database.title()))
                .with_help("rename one of them"),
            );
        }
        let first = tables
            .insert(entity.table.to_lowercase(), &entity.table)
            .filter(|first| *first != entity.table);
        let Some(first) = first.filter(|_| folds == Folds::ColumnsAndTables) else { continue };
        found.push(
            RULE.finding(
                entity,
                "",
                format!("`{first}` and `{}` are one table on {}", entity.table, database.title()),
            )
            .at(entity.origin.span(), "differs in case only")
            .because(format!("{} refuses the second table", database.title()))
            .with_help("rename one of them"),
        );
    }
}
