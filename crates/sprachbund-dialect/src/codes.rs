//! What reading declarations and histories of any dialect may say.

use crate::diagnostic::{Code, CodeFamily, Severity};

/// All of them, sorted by name.
pub const CODES: &[Code] = &[
    CIRCULAR_BASE,
    COLUMN_NOT_MADE,
    DECLARED_TWICE,
    IMPOSSIBLE_STEP,
    LENGTH_IN_VAIN,
    LENGTH_MISSING,
    MISSING_OWNER,
    NOT_HELD,
    ONE_WAY_STEP,
    OPAQUE_INDEX,
    OPAQUE_TARGET,
    RELATION_WITHOUT_REFERENCE,
    SAID_BESIDE_THE_HISTORY,
    SAID_IN_VAIN,
    SIDES_DISAGREE,
    TABLE_INHERITS,
    TABLE_NOT_MADE,
    TABLE_WITHOUT_CLASS,
    TOO_MANY_BASES,
    UNDECLARED_TARGET,
    UNKNOWN_ATTRIBUTE,
    UNKNOWN_COLUMN_TYPE,
    UNKNOWN_TYPE,
    UNREAD_BASE,
    UNREAD_STATEMENT,
    UNSUPPORTED_TYPE,
];

pub const CIRCULAR_BASE: Code = Code {
    name: "circular-base",
    severity: Severity::Error,
    family: CodeFamily::Contradiction,
    finds: "a class that extends itself by way of its bases",
    follows: "Its inherited columns are incomplete.",
    advice: "remove one of the bases that lead back",
};

pub const COLUMN_NOT_MADE: Code = Code {
    name: "column-not-made",
    severity: Severity::Error,
    family: CodeFamily::History,
    finds: "an attribute that needs a column which no step of the history makes",
    follows: "It is left out.",
    advice: "add a step that makes the column, or name the column that is meant",
};

pub const DECLARED_TWICE: Code = Code {
    name: "declared-twice",
    severity: Severity::Warning,
    family: CodeFamily::Contradiction,
    finds: "two declarations of one class",
    follows: "References to it mean the first declaration.",
    advice: "rename or remove one of them",
};

pub const IMPOSSIBLE_STEP: Code = Code {
    name: "impossible-step",
    severity: Severity::Error,
    family: CodeFamily::History,
    finds: "a step of a history that cannot be done on the tables as they are then",
    follows: "It is left out; the tables after it may differ from those of the database.",
    advice: "give all steps of the history, in the order in which they are run",
};

pub const LENGTH_IN_VAIN: Code = Code {
    name: "length-in-vain",
    severity: Severity::Warning,
    family: CodeFamily::Contradiction,
    finds: "a length or a precision at a type that takes none",
    follows: "It is ignored, or refused when the program starts.",
    advice: "leave it out, or use a type that takes one",
};

pub const LENGTH_MISSING: Code = Code {
    name: "length-missing",
    severity: Severity::Error,
    family: CodeFamily::Contradiction,
    finds: "a text without a length, where the framework or the server demands one",
    follows: "The framework refuses to make the column.",
    advice: "give it a length, or make it an unbounded text",
};

pub const MISSING_OWNER: Code = Code {
    name: "missing-owner",
    severity: Severity::Error,
    family: CodeFamily::Contradiction,
    finds: "the other side of a relation that leads back along no relation",
    follows: "The program fails when it starts, or finds nothing.",
    advice: "name the attribute that carries the relation",
};

pub const NOT_HELD: Code = Code {
    name: "not-held",
    severity: Severity::Warning,
    family: CodeFamily::Contradiction,
    finds: "something that is declared and that the server does not make",
    follows: "It protects nothing.",
    advice: "leave it out, or see to it where input is validated",
};

pub const ONE_WAY_STEP: Code = Code {
    name: "one-way-step",
    severity: Severity::Note,
    family: CodeFamily::History,
    finds: "a step that nothing takes back",
    follows: "A release that must be taken back leaves the tables of the new one behind.",
    advice: "write the steps back, or say there that there are none by raising an error",
};

pub const OPAQUE_INDEX: Code = Code {
    name: "opaque-index",
    severity: Severity::Error,
    family: CodeFamily::Unknown,
    finds: "an index whose keys are known only at run time",
    follows: "The index is missing.",
    advice: "write its keys where it is declared",
};

pub const OPAQUE_TARGET: Code = Code {
    name: "opaque-target",
    severity: Severity::Error,
    family: CodeFamily::Unknown,
    finds: "a relation whose target is known only at run time",
    follows: "The relation is missing, and with it its column and its foreign key.",
    advice: "name the class, or give its name as a text",
};

pub const RELATION_WITHOUT_REFERENCE: Code = Code {
    name: "relation-without-reference",
    severity: Severity::Error,
    family: CodeFamily::Contradiction,
    finds: "a relation of which no side says which columns carry it",
    follows: "The relation is left out.",
    advice: "say on the side whose table has the column which columns carry it",
};

pub const SAID_BESIDE_THE_HISTORY: Code = Code {
    name: "said-beside-the-history",
    severity: Severity::Warning,
    family: CodeFamily::History,
    finds: "a word of a class about something that the history decides",
    follows: "It changes nothing: the table is as its steps made it.",
    advice: "say it in a step, or take it out of the class",
};

pub const SAID_IN_VAIN: Code = Code {
    name: "said-in-vain",
    severity: Severity::Warning,
    family: CodeFamily::Contradiction,
    finds: "an option that does nothing where it stands",
    follows: "Who reads the declaration believes in something that is not there.",
    advice: "take it out, or move it to where it is heard",
};

pub const SIDES_DISAGREE: Code = Code {
    name: "sides-disagree",
    severity: Severity::Error,
    family: CodeFamily::Contradiction,
    finds: "two sides of a relation that say different things of its kind",
    follows: "One of them is wrong about how many records there are.",
    advice: "say the same kind on both sides",
};

pub const TABLE_INHERITS: Code = Code {
    name: "table-inherits",
    severity: Severity::Warning,
    family: CodeFamily::History,
    finds: "a table that inherits from another",
    follows: "It has the columns of the other, but its rows no longer show up there.",
    advice: "query both tables where the parent was queried, or make a view over them",
};

pub const TABLE_NOT_MADE: Code = Code {
    name: "table-not-made",
    severity: Severity::Error,
    family: CodeFamily::History,
    finds: "a class whose table no step of the history makes",
    follows: "The columns of the class are not known.",
    advice: "give all steps of the history, or the name of the table to the class",
};

pub const TABLE_WITHOUT_CLASS: Code = Code {
    name: "table-without-class",
    severity: Severity::Note,
    family: CodeFamily::History,
    finds: "a table that the history makes and no class stands for",
    follows: "Nothing is known of how the application uses it.",
    advice: "nothing, unless a class was forgotten",
};

pub const TOO_MANY_BASES: Code = Code {
    name: "too-many-bases",
    severity: Severity::Error,
    family: CodeFamily::Unread,
    finds: "a class with more bases in a row than are followed",
    follows: "Its inherited columns are incomplete.",
    advice: "declare the columns in the class, or in a base nearer to it",
};

pub const UNDECLARED_TARGET: Code = Code {
    name: "undeclared-target",
    severity: Severity::Error,
    family: CodeFamily::Unknown,
    finds: "a relation to a class that nobody declares",
    follows: "The reference has no target, so neither its type nor its foreign key is known.",
    advice: "add the file that declares the class to the inputs, or name its package with --follow",
};

pub const UNKNOWN_ATTRIBUTE: Code = Code {
    name: "unknown-attribute",
    severity: Severity::Error,
    family: CodeFamily::Contradiction,
    finds: "a constraint, an index or a relation that names an attribute which the class does \
            not have",
    follows: "What names it is missing or incomplete.",
    advice: "name an attribute that the class declares or inherits as a column",
};

pub const UNKNOWN_COLUMN_TYPE: Code = Code {
    name: "unknown-column-type",
    severity: Severity::Error,
    family: CodeFamily::Unknown,
    finds: "a column whose type cannot be known",
    follows: "The column is there, and its type is open.",
    advice: "write the type at the column, or add the file that it comes from to the inputs",
};

pub const UNKNOWN_TYPE: Code = Code {
    name: "unknown-type",
    severity: Severity::Error,
    family: CodeFamily::Unknown,
    finds: "a word for a type that nobody declares",
    follows: "The column is missing, or its type is open.",
    advice: "add the file that declares the type to the inputs, or name its package with --follow",
};

pub const UNREAD_BASE: Code = Code {
    name: "unread-base",
    severity: Severity::Warning,
    family: CodeFamily::Unknown,
    finds: "a base of a class that was not read",
    follows: "Its columns, if it has any, are missing.",
    advice: "add the file that declares the base to the inputs, or name its package with --follow",
};

pub const UNREAD_STATEMENT: Code = Code {
    name: "unread-statement",
    severity: Severity::Warning,
    family: CodeFamily::Unread,
    finds: "a statement that may change tables and is not read",
    follows: "What it makes or changes is not in the schema.",
    advice: "look whether a table depends on it; if so, read the database itself",
};

pub const UNSUPPORTED_TYPE: Code = Code {
    name: "unsupported-type",
    severity: Severity::Error,
    family: CodeFamily::Contradiction,
    finds: "a type that the framework cannot make on this server",
    follows: "The framework refuses it when the tables are made.",
    advice: "write a type that the server has, or name the server that is meant with --database",
};
