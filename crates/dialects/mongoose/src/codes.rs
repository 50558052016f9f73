//! What reading Mongoose schemas may say, beside what any dialect may.

use sprachbund_schema::diagnostic::{Code, CodeFamily, Severity};

pub(crate) use sprachbund_dialect::codes::*;

/// All of them, sorted by name.
pub(crate) const CODES: &[Code] = &[
    CIRCULAR_SCHEMA,
    NESTED_AS_JSON,
    OPAQUE_CHOICES,
    OPAQUE_COLLECTION,
    OPAQUE_LIMIT,
    OPAQUE_PATHS,
    OPAQUE_REFERENCE,
    OPTION_IN_VAIN,
    SCHEMA_PLUGIN,
    SCHEMA_WITHOUT_MODEL,
    UNKNOWN_PATH_TYPE,
    VIRTUAL_PATH,
    VIRTUAL_WITHOUT_REFERENCE,
];

pub(crate) const CIRCULAR_SCHEMA: Code = Code {
    name: "circular-schema",
    severity: Severity::Error,
    family: CodeFamily::Contradiction,
    finds: "a schema of documents that holds itself",
    follows: "What stands deeper is left out.",
    advice: "refer to the other document by its key",
};

pub(crate) const NESTED_AS_JSON: Code = Code {
    name: "nested-as-json",
    severity: Severity::Note,
    family: CodeFamily::Unread,
    finds: "a document inside another that is read as one value",
    follows: "What it holds is not told apart; the settings say so.",
    advice: "set `nested = \"entities\"` under `[documents]` in sprachbund.toml for tables of \
             their own",
};

pub(crate) const OPAQUE_CHOICES: Code = Code {
    name: "opaque-choices",
    severity: Severity::Warning,
    family: CodeFamily::Unknown,
    finds: "a list of values that is known only at run time",
    follows: "Any value is taken for possible.",
    advice: "write them as a list, or as a constant of a file in reach",
};

pub(crate) const OPAQUE_COLLECTION: Code = Code {
    name: "opaque-collection",
    severity: Severity::Error,
    family: CodeFamily::Unknown,
    finds: "a collection whose name is known only at run time",
    follows: "Its usual name is taken instead.",
    advice: "write the name as a text",
};

pub(crate) const OPAQUE_LIMIT: Code = Code {
    name: "opaque-limit",
    severity: Severity::Warning,
    family: CodeFamily::Unknown,
    finds: "a limit that is known only at run time",
    follows: "The limit is missing.",
    advice: "write it as a number, or as a constant of a file in reach",
};

pub(crate) const OPAQUE_PATHS: Code = Code {
    name: "opaque-paths",
    severity: Severity::Error,
    family: CodeFamily::Unknown,
    finds: "paths of a schema that are known only at run time",
    follows: "What its documents hold there is missing.",
    advice: "write the paths as an object, or as a constant of a file in reach",
};

pub(crate) const OPAQUE_REFERENCE: Code = Code {
    name: "opaque-reference",
    severity: Severity::Warning,
    family: CodeFamily::Unknown,
    finds: "a path whose reference is known only at run time",
    follows: "It is an ordinary path in the schema.",
    advice: "write the name of the model as a text",
};

pub(crate) const OPTION_IN_VAIN: Code = Code {
    name: "option-in-vain",
    severity: Severity::Warning,
    family: CodeFamily::Contradiction,
    finds: "a rule that values of the type are not held to",
    follows: "Any value is taken.",
    advice: "use a type that checks it, or write the check",
};

pub(crate) const SCHEMA_PLUGIN: Code = Code {
    name: "schema-plugin",
    severity: Severity::Warning,
    family: CodeFamily::Unknown,
    finds: "a plugin of a schema",
    follows: "It may add paths when the program runs; those are not known.",
    advice: "compare with the paths that the schema has then",
};

pub(crate) const SCHEMA_WITHOUT_MODEL: Code = Code {
    name: "schema-without-model",
    severity: Severity::Warning,
    family: CodeFamily::Unknown,
    finds: "a schema over which no model stands in the inputs",
    follows: "It is read under a name of its own; its collection has another one.",
    advice: "add the file that makes the model to the inputs",
};

pub(crate) const UNKNOWN_PATH_TYPE: Code = Code {
    name: "unknown-path-type",
    severity: Severity::Error,
    family: CodeFamily::Unknown,
    finds: "a path without a type that is known",
    follows: "The path is missing.",
    advice: "write the type, or add the file that it comes from to the inputs",
};

pub(crate) const VIRTUAL_PATH: Code = Code {
    name: "virtual-path",
    severity: Severity::Note,
    family: CodeFamily::Unread,
    finds: "a path that is not stored",
    follows: "The application computes it; the documents do not hold it.",
    advice: "nothing",
};

pub(crate) const VIRTUAL_WITHOUT_REFERENCE: Code = Code {
    name: "virtual-without-reference",
    severity: Severity::Warning,
    family: CodeFamily::Contradiction,
    finds: "a virtual path that follows no reference back",
    follows: "It finds nothing, or compares other values.",
    advice: "name the path that has the reference",
};
