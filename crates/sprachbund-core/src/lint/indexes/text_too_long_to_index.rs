use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::rule::{PLAIN, Rule, sql};
use crate::schema::{Database, Entity, Type};
use crate::source::Span;

/// Longest key of an index in bytes, of tables as they are made today (MySQL 8.4 and MariaDB 11 documentation, InnoDB
/// limits), with up to four bytes a letter.
const LONGEST_KEY: u64 = 3072;

pub(super) const RULE: Rule = Rule {
    name: "text-too-long-to-index",
    severity: Severity::Error,
    finds: "a key, a unique constraint or an index over texts that are longer than MySQL and MariaDB index",
    consequence: "The table, or the index, is refused: a key may have 3,072 bytes, and a letter takes up to four.",
    sql: "CREATE TABLE vessels (name varchar(800), UNIQUE (name));  -- refused: Specified key was too long; max key length is 3072 bytes",
    cure: "Give the text a length of at most 768 letters, or index its beginning in a script.",
    exception: "When the database has another character set, in which a letter takes fewer bytes.",
    wrong: sql("CREATE TABLE vessels (id integer PRIMARY KEY, name varchar(800), UNIQUE (name));\n").on(Database::MariaDb),
    right: sql("CREATE TABLE vessels (id integer PRIMARY KEY, name varchar(200), UNIQUE (name));\n").on(Database::MariaDb),
    cases: &[
        (
            1,
            sql("CREATE TABLE vessels (id integer PRIMARY KEY, a varchar(500), b varchar(500));\nCREATE INDEX ab ON vessels (a, b);")
                .on(Database::MySql),
        ),
        (0, sql("CREATE TABLE vessels (id integer PRIMARY KEY, name varchar(800), UNIQUE (name));")),
    ],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    if !context.database().is_mysql() {
        return;
    }
    for entity in context.tables() {
        let key = entity.primary_key.iter().map(|key| ("the key", &key.columns, key.origin.span()));
        let uniques = entity.uniques.iter().map(|unique| ("a unique constraint", &unique.columns, unique.origin.span()));
        let plain = entity.indexes.iter().filter(|index| index.method.is_none());
        let indexes = plain.map(|index| ("an index", &index.columns, index.origin.span()));
        for (what, columns, span) in key.chain(uniques).chain(indexes) {
            found.extend(too_long(context, entity, what, columns, span));
        }
    }
}

fn too_long(context: &Context<'_>, entity: &Entity, what: &str, columns: &[String], span: Option<Span>) -> Option<Diagnostic> {
    let bytes = |column: &String| match entity.field(column).map(|field| &field.r#type) {
        Some(Type::Varchar(Some(limit)) | Type::Char(Some(limit))) => u64::from(*limit) * 4,
        _ => 0,
    };
    let sum: u64 = columns.iter().map(bytes).sum();
    let names = columns.join(", ");
    (sum > LONGEST_KEY).then(|| {
        RULE.finding(entity, format!("{what} over {names}"), format!("{what} of `{}` over `{names}` takes up to {sum} bytes", entity.name))
            .at(span.or(entity.origin.span()), format!("{LONGEST_KEY} bytes are the most"))
            .because(format!("{} refuses to make it", context.database().title()))
            .with_help("give the texts fewer letters: four bytes each")
    })
}
