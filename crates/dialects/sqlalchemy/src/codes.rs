//! What reading SQLAlchemy classes may say, beside what any dialect may.

use sprachbund_schema::diagnostic::{Code, CodeFamily, Severity};

pub(crate) use sprachbund_dialect::codes::*;
pub(crate) use sprachbund_host::codes::*;

/// All of them, sorted by name.
pub(crate) const CODES: &[Code] = &[
    ENUMERATION_STORED_TWICE,
    GUESSED_TABLE,
    HISTORY_CIRCLE,
    HISTORY_GAP,
    OPAQUE_ATTRIBUTE,
    OPAQUE_OPTIONS,
    RELATIONSHIP_KEPT,
    TYPE_BY_SERVER,
    UNREAD_STEP,
];

pub(crate) const ENUMERATION_STORED_TWICE: Code = Code {
    name: "enumeration-stored-twice",
    severity: Severity::Warning,
    family: CodeFamily::Contradiction,
    finds: "an enumeration whose columns store different values",
    follows: "It is read as the first column stores it.",
    advice: "store it in one way",
};

pub(crate) const GUESSED_TABLE: Code = Code {
    name: "guessed-table",
    severity: Severity::Warning,
    family: CodeFamily::Unknown,
    finds: "a class whose table is named at run time",
    follows: "A name is taken for it.",
    advice: "write the name as a text",
};

pub(crate) const HISTORY_CIRCLE: Code = Code {
    name: "history-circle",
    severity: Severity::Error,
    family: CodeFamily::History,
    finds: "revisions that come after each other in a circle",
    follows: "They are left out.",
    advice: "repair what they say of the revision before them",
};

pub(crate) const HISTORY_GAP: Code = Code {
    name: "history-gap",
    severity: Severity::Error,
    family: CodeFamily::History,
    finds: "a revision after one that was not read",
    follows: "What the missing one does to the tables is not known.",
    advice: "name the folder that holds all revisions",
};

pub(crate) const OPAQUE_ATTRIBUTE: Code = Code {
    name: "opaque-attribute",
    severity: Severity::Warning,
    family: CodeFamily::Unknown,
    finds: "an attribute that is made by code which does more than return it",
    follows: "It was not read.",
    advice: "return the column or the relationship in one statement",
};

pub(crate) const OPAQUE_OPTIONS: Code = Code {
    name: "opaque-options",
    severity: Severity::Warning,
    family: CodeFamily::Unknown,
    finds: "constraints and options that are made by a method",
    follows: "They were not read.",
    advice: "write them as a tuple or a dictionary",
};

pub(crate) const RELATIONSHIP_KEPT: Code = Code {
    name: "relationship-kept",
    severity: Severity::Warning,
    family: CodeFamily::Unread,
    finds: "a relationship that stands over no foreign key, or is only for reading",
    follows: "It is kept with the class, and is no relation of the schema.",
    advice: "nothing, where it is meant so",
};

pub(crate) const TYPE_BY_SERVER: Code = Code {
    name: "type-by-server",
    severity: Severity::Warning,
    family: CodeFamily::Unknown,
    finds: "a type that is decided at run time",
    follows: "It is taken to be the type that it decorates.",
    advice: "compare with the live database",
};

pub(crate) const UNREAD_STEP: Code = Code {
    name: "unread-step",
    severity: Severity::Warning,
    family: CodeFamily::History,
    finds: "a step of a revision that was not read",
    follows: "What it does to the tables is not known.",
    advice: "compare the database itself, if the step changes tables",
};
