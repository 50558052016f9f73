//! What reading SQL scripts may say, beside what any dialect may.

use sprachbund_schema::diagnostic::{Code, CodeFamily, Severity};

pub(crate) use sprachbund_dialect::codes::*;
pub(crate) use sprachbund_host::codes::*;

/// All of them, sorted by name.
pub(crate) const CODES: &[Code] =
    &[KEY_TAKES_NULL, TABLE_FROM_QUERY, UNREAD_CHANGE, UNREAD_CONSTRAINT, VIEWS_LEFT_OUT];

pub(crate) const KEY_TAKES_NULL: Code = Code {
    name: "key-takes-null",
    severity: Severity::Warning,
    family: CodeFamily::Contradiction,
    finds: "a column of the key that may be null",
    follows: "SQLite keeps any number of rows whose key is null.",
    advice: "say NOT NULL",
};

pub(crate) const TABLE_FROM_QUERY: Code = Code {
    name: "table-from-query",
    severity: Severity::Error,
    family: CodeFamily::Unread,
    finds: "a table that is made from a query or from another table",
    follows: "Its columns were not read.",
    advice: "read the table from the database itself, or from a dump of it",
};

pub(crate) const UNREAD_CHANGE: Code = Code {
    name: "unread-change",
    severity: Severity::Warning,
    family: CodeFamily::Unread,
    finds: "a change of a table that is not read",
    follows: "What it changes is not in the schema.",
    advice: "look whether a column or a constraint depends on it",
};

pub(crate) const UNREAD_CONSTRAINT: Code = Code {
    name: "unread-constraint",
    severity: Severity::Warning,
    family: CodeFamily::Unread,
    finds: "a constraint that is not read",
    follows: "It is missing in the schema.",
    advice: "compare with the live database",
};

pub(crate) const VIEWS_LEFT_OUT: Code = Code {
    name: "views-left-out",
    severity: Severity::Note,
    family: CodeFamily::Unread,
    finds: "views",
    follows: "They are left out, since their columns are those of other tables.",
    advice: "nothing",
};
