//! What reading Django models may say, beside what any dialect may.

use sprachbund_schema::diagnostic::{Code, CodeFamily, Severity};

pub(crate) use sprachbund_dialect::codes::*;

/// All of them, sorted by name.
pub(crate) const CODES: &[Code] =
    &[GENERIC_RELATION, LOOKED_UP_TARGET, SHARED_DEFAULT, UNKNOWN_CONSTRAINT, UNKNOWN_FIELD_CLASS];

pub(crate) const GENERIC_RELATION: Code = Code {
    name: "generic-relation",
    severity: Severity::Note,
    family: CodeFamily::Unknown,
    finds: "a relation that may refer to any class",
    follows: "It is kept, but no foreign key stands behind it.",
    advice: "keep the references right where records are deleted",
};

pub(crate) const LOOKED_UP_TARGET: Code = Code {
    name: "looked-up-target",
    severity: Severity::Note,
    family: CodeFamily::Unknown,
    finds: "a relation whose target is looked up by a call",
    follows: "It is taken to be the class that the call names.",
    advice: "nothing, if the call gives that class",
};

pub(crate) const SHARED_DEFAULT: Code = Code {
    name: "shared-default",
    severity: Severity::Warning,
    family: CodeFamily::Contradiction,
    finds: "a default that all records share",
    follows: "It is made once, when the class is: what one record adds to it, later ones begin \
              with.",
    advice: "name a function that makes a new one for each record",
};

pub(crate) const UNKNOWN_CONSTRAINT: Code = Code {
    name: "unknown-constraint",
    severity: Severity::Warning,
    family: CodeFamily::Unknown,
    finds: "a class of constraints that is not known",
    follows: "It is kept, but its effect on the table is not.",
    advice: "compare with the live database",
};

pub(crate) const UNKNOWN_FIELD_CLASS: Code = Code {
    name: "unknown-field-class",
    severity: Severity::Error,
    family: CodeFamily::Unknown,
    finds: "a class of fields that is declared in another package",
    follows: "Its column type is not known, or it is taken to make no column.",
    advice: "name the folder of the installed package with --follow",
};
