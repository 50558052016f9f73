//! What reading ActiveRecord may say, beside what any dialect may.

use sprachbund_schema::diagnostic::{Code, CodeFamily, Severity};

/// All of them, sorted by name.
pub(crate) const CODES: &[Code] =
    &[OTHER_DATABASE, STEP_RAISES, UNDECIDED_STEP, UNREAD_MACRO, UNREAD_STEP];

pub(crate) const OTHER_DATABASE: Code = Code {
    name: "other-database",
    severity: Severity::Warning,
    family: CodeFamily::History,
    finds: "migrations of a second database of the project",
    follows: "They are not run: their tables are those of another database.",
    advice: "read the folder by itself to see its tables",
};

pub(crate) const STEP_RAISES: Code = Code {
    name: "step-raises",
    severity: Severity::Warning,
    family: CodeFamily::History,
    finds: "a migration that raises an error on its way forward",
    follows: "What stands behind that place is not run.",
    advice: "take the migration out of the history, or mend it",
};

pub(crate) const UNDECIDED_STEP: Code = Code {
    name: "undecided-step",
    severity: Severity::Warning,
    family: CodeFamily::History,
    finds: "a step that happens or not, as it is decided when the migration is run",
    follows: "The tables are read as if it did not happen.",
    advice: "compare the database itself, or its dumped schema, to know which way was taken",
};

pub(crate) const UNREAD_MACRO: Code = Code {
    name: "unread-macro",
    severity: Severity::Warning,
    family: CodeFamily::Unknown,
    finds: "a call in the body of a class that neither the framework nor the project answers",
    follows: "Columns, associations or validations that it brings are not known.",
    advice: "add the file that defines it to the inputs, or look up what its library brings",
};

pub(crate) const UNREAD_STEP: Code = Code {
    name: "unread-step",
    severity: Severity::Warning,
    family: CodeFamily::History,
    finds: "a step of a migration that was not read",
    follows: "What it does to the tables is not known.",
    advice: "compare the database itself, or its dumped schema, if the step changes tables",
};
