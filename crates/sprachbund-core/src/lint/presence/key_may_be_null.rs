use crate::diagnostic::Severity;
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::Database;

pub(super) const RULE: Rule = Rule {
    name: "key-may-be-null",
    severity: Severity::Warning,
    finds: "a column of the key that may be null",
    consequence: "SQLite keeps rows whose key is null, any number of them: nothing can refer to \
                  them, and no update by key reaches them. Other servers make the column NOT \
                  NULL without a word.",
    sql: "INSERT INTO pilots (licence) VALUES (NULL);\n\
          INSERT INTO pilots (licence) VALUES (NULL);  -- SQLite accepts both",
    cure: "Say NOT NULL. Rows whose key is null must get one first.",
    exception: "Never: a key that may be null identifies nothing.",
    raised: &["key-takes-null"],
    wrong: sql("CREATE TABLE pilots (licence varchar(9) PRIMARY KEY, name varchar(80));\n")
        .on(Database::Sqlite),
    right: sql(
        "CREATE TABLE pilots (licence varchar(9) NOT NULL PRIMARY KEY, name varchar(80));\n",
    )
    .on(Database::Sqlite),
    cases: &[
        (0, sql("CREATE TABLE pilots (licence varchar(9) PRIMARY KEY);")),
        (0, sql("CREATE TABLE pilots (id integer PRIMARY KEY);").on(Database::Sqlite)),
        (
            1,
            sql("CREATE TABLE shares (vessel text NOT NULL, owner text, PRIMARY KEY (vessel, \
                 owner));")
            .on(Database::Sqlite),
        ),
    ],
    ..PLAIN
};
