//! What reading any language may say.

use crate::diagnostic::{Code, CodeFamily, Severity};

/// All of them, sorted by name.
pub const CODES: &[Code] =
    &[CONDITIONAL_CLASS, DECORATORS_LEFT_OUT, SYNTAX_ERROR, UNREAD_OPTION, VALUE_TOO_LARGE];

pub const CONDITIONAL_CLASS: Code = Code {
    name: "conditional-class",
    severity: Severity::Warning,
    family: CodeFamily::Unknown,
    finds: "a class that is declared inside a condition or a function",
    follows: "It is read as if it existed; whether it does is decided when the program runs.",
    advice: "declare it at the level of the module, or leave the file out where the class is \
             not meant",
};

pub const DECORATORS_LEFT_OUT: Code = Code {
    name: "decorators-left-out",
    severity: Severity::Note,
    family: CodeFamily::Unread,
    finds: "decorators of classes and attributes that say nothing of tables",
    follows: "They are left out; a class that a decorator changes is read as it is written.",
    advice: "look whether one of them adds columns, and declare those in the class",
};

pub const SYNTAX_ERROR: Code = Code {
    name: "syntax-error",
    severity: Severity::Error,
    family: CodeFamily::Unread,
    finds: "text that is no valid program of its language",
    follows: "What stands around it is read; what stands in it is missing.",
    advice: "repair the syntax at the place, and run again",
};

pub const UNREAD_OPTION: Code = Code {
    name: "unread-option",
    severity: Severity::Warning,
    family: CodeFamily::Unread,
    finds: "an option that the reader does not know",
    follows: "What it says is not in the schema; it is kept with the element where the dialect \
              keeps such words.",
    advice: "look whether it is spelt right; if it changes the table, compare with the live \
             database",
};

pub const VALUE_TOO_LARGE: Code = Code {
    name: "value-too-large",
    severity: Severity::Error,
    family: CodeFamily::Unknown,
    finds: "a constant, or a call of functions, that grows too large to be worked out",
    follows: "The value stays unknown, and what hangs on it too.",
    advice: "write the value itself where it is used",
};
