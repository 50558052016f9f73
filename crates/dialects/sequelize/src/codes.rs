//! What reading Sequelize models may say, beside what any dialect may.

use sprachbund_schema::diagnostic::{Code, CodeFamily, Severity};

pub(crate) use sprachbund_dialect::codes::*;

/// All of them, sorted by name.
pub(crate) const CODES: &[Code] = &[
    OPAQUE_ATTRIBUTES,
    ORDER_DECIDES,
    SECOND_RELATION,
    STEP_NOT_REPLAYED,
    TWO_TARGETS,
    VIRTUAL_ATTRIBUTE,
];

pub(crate) const OPAQUE_ATTRIBUTES: Code = Code {
    name: "opaque-attributes",
    severity: Severity::Error,
    family: CodeFamily::Unknown,
    finds: "attributes of a model that are known only at run time",
    follows: "Their columns are missing.",
    advice: "write them as an object, or as a constant of a file in reach",
};

pub(crate) const ORDER_DECIDES: Code = Code {
    name: "order-decides",
    severity: Severity::Warning,
    family: CodeFamily::Contradiction,
    finds: "two associations over one column that say something else of deletion",
    follows: "The one that runs first decides, which is settled where the models are put together.",
    advice: "say the same on both sides",
};

pub(crate) const SECOND_RELATION: Code = Code {
    name: "second-relation",
    severity: Severity::Warning,
    family: CodeFamily::Contradiction,
    finds: "a second relation over one column",
    follows: "The first one is read.",
    advice: "take one of them out, or name another column",
};

pub(crate) const STEP_NOT_REPLAYED: Code = Code {
    name: "step-not-replayed",
    severity: Severity::Warning,
    family: CodeFamily::History,
    finds: "a step of a migration that is not replayed",
    follows: "What it does to the tables is not known.",
    advice: "compare with the live database",
};

pub(crate) const TWO_TARGETS: Code = Code {
    name: "two-targets",
    severity: Severity::Warning,
    family: CodeFamily::Contradiction,
    finds: "a column that refers to two models",
    follows: "The first one is read.",
    advice: "give each reference a column of its own",
};

pub(crate) const VIRTUAL_ATTRIBUTE: Code = Code {
    name: "virtual-attribute",
    severity: Severity::Note,
    family: CodeFamily::Unread,
    finds: "an attribute without a column",
    follows: "The application computes it; the table does not hold it.",
    advice: "nothing",
};
