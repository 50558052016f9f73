//! What reading Prisma schemas may say, beside what any dialect may.

use sprachbund_schema::diagnostic::{Code, CodeFamily, Severity};

pub(crate) use sprachbund_dialect::codes::*;
pub(crate) use sprachbund_host::codes::*;

/// All of them, sorted by name.
pub(crate) const CODES: &[Code] = &[
    ONE_SIDED_RELATION,
    OTHER_DATABASE,
    UNKNOWN_ACTION,
    UNREAD_BLOCK,
    UNREAD_DEFAULT,
    UNREAD_FIELD,
    UNREAD_PROVIDER,
];

pub(crate) const ONE_SIDED_RELATION: Code = Code {
    name: "one-sided-relation",
    severity: Severity::Warning,
    family: CodeFamily::Contradiction,
    finds: "a relation that is declared on one side only",
    follows: "The schema is refused, or the side that does not carry the relation is left out.",
    advice: "declare the other side, too",
};

pub(crate) const OTHER_DATABASE: Code = Code {
    name: "other-database",
    severity: Severity::Warning,
    family: CodeFamily::Contradiction,
    finds: "a schema that is written for another server than the one that is named",
    follows: "Its types are read as those of the named server.",
    advice: "name the server that the schema is for, or none",
};

pub(crate) const UNKNOWN_ACTION: Code = Code {
    name: "unknown-action",
    severity: Severity::Error,
    family: CodeFamily::Contradiction,
    finds: "a word after `onDelete` or `onUpdate` that is no action",
    follows: "The action is left out.",
    advice: "write one of the actions that the message lists",
};

pub(crate) const UNREAD_BLOCK: Code = Code {
    name: "unread-block",
    severity: Severity::Warning,
    family: CodeFamily::Unread,
    finds: "a block that is not known",
    follows: "It is left out.",
    advice: "look whether it declares something",
};

pub(crate) const UNREAD_DEFAULT: Code = Code {
    name: "unread-default",
    severity: Severity::Error,
    family: CodeFamily::Unread,
    finds: "a default that is no value of its type",
    follows: "The column has no default.",
    advice: "write a constant of the type, or the SQL of the default",
};

pub(crate) const UNREAD_FIELD: Code = Code {
    name: "unread-field",
    severity: Severity::Error,
    family: CodeFamily::Unread,
    finds: "a field that only a database of documents holds",
    follows: "It is left out.",
    advice: "declare a model of its own",
};

pub(crate) const UNREAD_PROVIDER: Code = Code {
    name: "unread-provider",
    severity: Severity::Error,
    family: CodeFamily::Unknown,
    finds: "a server that is not read",
    follows: "Its tables are taken for those of another one.",
    advice: "name a server with --database, and compare what it holds",
};
