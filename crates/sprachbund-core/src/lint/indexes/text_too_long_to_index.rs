use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::{Database, Entity, Type};
use crate::server::{LongestIndex, Unbounded};
use crate::source::Span;

pub(super) const RULE: Rule = Rule {
    name: "text-too-long-to-index",
    severity: Severity::Error,
    finds: "a key, a unique constraint or an index over texts that are longer than MySQL and \
            MariaDB index",
    consequence: "The table, or the index, is refused: a key may have 3,072 bytes, and a letter \
                  takes up to four. MariaDB keeps a unique constraint all the same, and of a \
                  single text indexes only the first 768 letters, without an error.",
    sql: "CREATE TABLE vessels (name varchar(800) PRIMARY KEY);  -- refused: Specified key was \
          too long; max key length is 3072 bytes",
    cure: "Give the text a length of at most 768 letters, or index its beginning in a script.",
    exception: "When the database has another character set, in which a letter takes fewer bytes.",
    wrong: sql(
        "CREATE TABLE vessels (id integer PRIMARY KEY, name varchar(800), UNIQUE (name));\n",
    )
    .on(Database::MySql),
    right: sql(
        "CREATE TABLE vessels (id integer PRIMARY KEY, name varchar(200), UNIQUE (name));\n",
    )
    .on(Database::MariaDb),
    cases: &[
        (
            1,
            sql("CREATE TABLE vessels (id integer PRIMARY KEY, a varchar(500), b varchar(500));\n\
                 CREATE INDEX ab ON vessels (a, b);")
            .on(Database::MariaDb),
        ),
        (
            1,
            sql("CREATE TABLE vessels (id integer PRIMARY KEY, a varchar(800));\n\
                 CREATE INDEX by_a ON vessels (a);")
            .on(Database::MariaDb),
        ),
        (
            1,
            sql("CREATE TABLE vessels (name varchar(800) NOT NULL PRIMARY KEY);")
                .on(Database::MariaDb),
        ),
        (
            0,
            sql("CREATE TABLE vessels (id integer PRIMARY KEY, name varchar(800), UNIQUE (name));")
                .on(Database::MariaDb),
        ),
        (
            0,
            sql("CREATE TABLE vessels (id integer PRIMARY KEY, name varchar(800), UNIQUE (name));"),
        ),
    ],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let database = context.database();
    let Some(longest) = database.server().longest_index else { return };
    for entity in context.tables() {
        let key = entity.primary_key.iter().map(|key| (Kind::Key, &key.columns, key.origin.span()));
        // Some keep them by a digest of the whole text.
        let uniques =
            entity.uniques.iter().filter(|_| database.server().unbounded != Unbounded::Digest);
        let uniques = uniques.map(|unique| (Kind::Unique, &unique.columns, unique.origin.span()));
        let plain = entity.indexes.iter().filter(|index| index.method.is_none());
        let indexes = plain.map(|index| (Kind::Index, &index.columns, index.origin.span()));
        for (kind, columns, span) in key.chain(uniques).chain(indexes) {
            found.extend(too_long((database, longest), entity, kind, columns, span));
        }
    }
}

#[derive(Clone, Copy, PartialEq)]
enum Kind {
    Key,
    Unique,
    Index,
}

fn too_long(
    (database, longest): (Database, LongestIndex),
    entity: &Entity,
    kind: Kind,
    columns: &[String],
    span: Option<Span>,
) -> Option<Diagnostic> {
    let bytes = |column: &String| match entity.field(column).map(|field| &field.r#type) {
        Some(Type::Varchar(Some(limit)) | Type::Char(Some(limit))) => u64::from(*limit) * 4,
        _ => 0,
    };
    let sum: u64 = columns.iter().map(bytes).sum();
    if sum <= longest.bytes {
        return None;
    }
    let names = columns.join(", ");
    let what = match kind {
        Kind::Key => "the key",
        Kind::Unique => "a unique constraint",
        Kind::Index => "an index",
    };
    let finding = RULE.finding(
        entity,
        format!("{what} over {names}"),
        format!("{what} of `{}` over `{names}` takes up to {sum} bytes", entity.name),
    );
    let cut = longest.cuts && kind == Kind::Index && columns.len() == 1;
    let finding = match cut {
        true => Diagnostic { severity: Severity::Warning, ..finding }.because(format!(
            "{} indexes only its first {} letters",
            database.title(),
            longest.bytes / 4
        )),
        false => finding.because(format!("{} refuses to make it", database.title())),
    };
    Some(
        finding
            .at(span.or(entity.origin.span()), format!("{} bytes are the most", longest.bytes))
            .with_help("give the texts fewer letters: four bytes each"),
    )
}
