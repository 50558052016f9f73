use std::sync::LazyLock;

use foldhash::HashMap;

use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::Database;

/// Words that may not name a column without quotes, by the servers that refuse them: each was tried on PostgreSQL 15.18,
/// MariaDB 10.11.19 and SQLite 3.40.1 (words of `pg_get_keywords()` and of `information_schema.keywords`).
const RESERVED: &[(&[Database], &str)] = &[
    (
        &[Database::PostgreSql, Database::MariaDb, Database::Sqlite],
        "all and as case check collate constraint create default distinct else except foreign from group having \
         in intersect into is join limit not null on or order primary references returning select table then to \
         union unique using when where",
    ),
    (&[Database::MariaDb, Database::Sqlite], "add alter between delete drop exists index insert set update values"),
    (
        &[Database::PostgreSql, Database::MariaDb],
        "analyze asc binary both column cross current_date current_role current_time current_timestamp \
         current_user desc false fetch for grant inner leading left like localtime localtimestamp natural offset \
         outer right trailing true with",
    ),
    (&[Database::PostgreSql, Database::Sqlite], "deferrable isnull notnull"),
    (
        &[Database::MariaDb],
        "accessible asensitive before bigint blob by call cascade change char character condition continue \
         convert cursor databases dec decimal declare delayed describe deterministic distinctrow div double dual \
         each elseif enclosed escaped exit explain float force fulltext if ignore infile inout insensitive int \
         integer interval iterate key keys kill leave linear lines load lock long longblob longtext loop match \
         maxvalue mediumblob mediumint mediumtext middleint mod modifies numeric optimize optionally out outfile \
         over partition portion precision procedure purge range read reads real recursive regexp release rename \
         repeat replace require resignal restrict return revoke rlike rows schemas sensitive separator show \
         signal smallint spatial specific sql sqlexception sqlstate sqlwarning ssl starting terminated tinyblob \
         tinyint tinytext trigger undo unlock unsigned usage use varbinary varchar varcharacter varying while \
         write xor zerofill",
    ),
    (
        &[Database::PostgreSql],
        "analyse any array asymmetric authorization cast collation concurrently current_catalog current_schema do \
         end freeze full ilike initially lateral only overlaps placing session_user similar some symmetric \
         tablesample user variadic verbose window",
    ),
    (&[Database::Sqlite], "commit escape transaction"),
];

pub(super) const RULE: Rule = Rule {
    name: "word-reserved-by-sql",
    severity: Severity::Note,
    finds: "a table or column that is called by a word that SQL keeps for itself on some server",
    consequence: "Frameworks put it into quotes, people forget to: a query by hand is a syntax error, or (a column `user` on PostgreSQL) \
                  answers something else without an error.",
    sql: "SELECT user FROM berths;  -- PostgreSQL: the name of the session's user, once for each row",
    cure: "Choose another word. Renaming needs a migration.",
    exception: "When nobody writes SQL by hand.",
    wrong: sql("CREATE TABLE berths (id integer PRIMARY KEY, \"user\" varchar(20), \"order\" integer);\n"),
    right: sql("CREATE TABLE berths (id integer PRIMARY KEY, booked_by varchar(20), place integer);\n"),
    check,
    ..PLAIN
};

/// The servers of each word.
static SERVERS: LazyLock<HashMap<&str, &[Database]>> = LazyLock::new(|| {
    let of_words = |(servers, words): &(&'static [Database], &'static str)| {
        let servers = *servers;
        words.split_whitespace().map(move |word| (word, servers))
    };
    RESERVED.iter().flat_map(of_words).collect()
});

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let folded = |name: &str| match name.contains(|letter: char| letter.is_ascii_uppercase()) {
        true => SERVERS.get(name.to_ascii_lowercase().as_str()),
        false => SERVERS.get(name),
    };
    let servers = |name: &str| folded(name).map(|servers| servers_of(servers));
    for entity in context.tables() {
        if let Some(servers) = servers(&entity.table) {
            found.push(
                RULE.finding(
                    entity,
                    "",
                    format!("the table of `{}` is called `{}`, a word of SQL on {servers}", entity.name, entity.table),
                )
                .at(entity.origin.span(), "must stand in quotes in every query")
                .with_help("choose another name for the table"),
            );
        }
        for (field, servers) in entity.fields.iter().filter_map(|field| Some((field, servers(&field.column)?))) {
            found.push(
                RULE.of_column(entity, field, format!("the column `{}` of `{}` is a word of SQL on {servers}", field.column, entity.name))
                    .at(field.origin.span(), "must stand in quotes in every query")
                    .with_help("choose another name for the column"),
            );
        }
    }
}

fn servers_of(servers: &[Database]) -> String {
    servers.iter().map(|server| server.title()).collect::<Vec<_>>().join(", ")
}
