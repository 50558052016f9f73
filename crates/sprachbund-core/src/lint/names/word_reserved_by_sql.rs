use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::rule::{PLAIN, Rule, sql};

/// Words that may not name a table or a column without quotes, and on which servers: PostgreSQL 17 (`pg_get_keywords()`
/// with `catcode` R), MariaDB 11 (`information_schema.keywords` and its documentation, "Reserved Words"), the SQL
/// standard for what all have.
const RESERVED: &[&str] = &[
    "all",
    "analyze",
    "and",
    "any",
    "as",
    "asc",
    "between",
    "both",
    "by",
    "case",
    "check",
    "collate",
    "column",
    "condition",
    "constraint",
    "create",
    "cross",
    "cursor",
    "default",
    "delete",
    "desc",
    "describe",
    "distinct",
    "drop",
    "else",
    "end",
    "except",
    "exists",
    "explain",
    "fetch",
    "for",
    "force",
    "foreign",
    "from",
    "full",
    "function",
    "grant",
    "group",
    "having",
    "in",
    "index",
    "inner",
    "insert",
    "intersect",
    "interval",
    "into",
    "is",
    "join",
    "key",
    "keys",
    "kill",
    "leading",
    "leave",
    "left",
    "like",
    "limit",
    "lines",
    "load",
    "lock",
    "loop",
    "match",
    "natural",
    "not",
    "null",
    "offset",
    "on",
    "only",
    "optimize",
    "option",
    "or",
    "order",
    "outer",
    "over",
    "partition",
    "placing",
    "primary",
    "procedure",
    "purge",
    "range",
    "read",
    "references",
    "release",
    "rename",
    "repeat",
    "replace",
    "require",
    "restrict",
    "return",
    "returning",
    "right",
    "schema",
    "select",
    "set",
    "show",
    "signal",
    "some",
    "spatial",
    "starting",
    "table",
    "terminated",
    "then",
    "to",
    "trailing",
    "trigger",
    "true",
    "undo",
    "union",
    "unique",
    "unlock",
    "unsigned",
    "update",
    "usage",
    "use",
    "user",
    "using",
    "values",
    "when",
    "where",
    "while",
    "window",
    "with",
    "write",
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

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let reserved = |name: &str| RESERVED.binary_search(&name.to_ascii_lowercase().as_str()).is_ok();
    for entity in context.tables() {
        if reserved(&entity.table) {
            found.push(
                RULE.finding(entity, "", format!("the table of `{}` is called `{}`, a word of SQL", entity.name, entity.table))
                    .at(entity.origin.span(), "must stand in quotes in every query")
                    .with_help("choose another name for the table"),
            );
        }
        for field in entity.fields.iter().filter(|field| reserved(&field.column)) {
            found.push(
                RULE.of_column(entity, field, format!("the column `{}` of `{}` is called by a word of SQL", field.column, entity.name))
                    .at(field.origin.span(), "must stand in quotes in every query")
                    .with_help("choose another name for the column"),
            );
        }
    }
}

#[cfg(test)]
mod tests {
    #[test]
    fn the_words_are_sorted() {
        assert!(super::RESERVED.is_sorted());
    }
}
