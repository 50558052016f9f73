//! The registry of what reading and comparing may say, whatever is read: each kind can be
//! explained, and those of reading can be graded and accepted as findings of lint can. Each crate
//! and each dialect says its own; those of this crate are here.

use crate::compare;
use crate::diagnostic::{Code, CodeFamily, Severity};
use crate::dialects::DIALECTS;

/// Those of this crate, sorted by name.
const CODES: &[Code] = &[
    ACCEPTED_IN_VAIN,
    BINARY_FILE,
    FILE_TOO_LARGE,
    NOT_UTF_8,
    NOTHING_DECLARED,
    SPECIAL_FILE,
    UNREADABLE_ENTRY,
    UNREADABLE_FILE,
];

pub const ACCEPTED_IN_VAIN: Code = Code {
    name: "accepted-in-vain",
    severity: Severity::Warning,
    family: CodeFamily::Contradiction,
    finds: "a comment, or an entry of the settings, that accepts nothing",
    follows: "It would hide a finding that comes later.",
    advice: "take it out",
};

pub const BINARY_FILE: Code = Code {
    name: "binary-file",
    severity: Severity::Error,
    family: CodeFamily::Files,
    finds: "a file that holds no text",
    follows: "It was left out.",
    advice: "leave it out of the inputs",
};

pub const FILE_TOO_LARGE: Code = Code {
    name: "file-too-large",
    severity: Severity::Error,
    family: CodeFamily::Files,
    finds: "a file with more bytes than are read",
    follows: "It was left out.",
    advice: "raise the limit with --largest-file, or leave the file out",
};

pub const NOT_UTF_8: Code = Code {
    name: "not-utf-8",
    severity: Severity::Error,
    family: CodeFamily::Files,
    finds: "a text in another encoding than UTF-8",
    follows: "It was left out.",
    advice: "convert it, for example with `iconv -f latin1 -t utf-8`",
};

pub const NOTHING_DECLARED: Code = Code {
    name: "nothing-declared",
    severity: Severity::Error,
    family: CodeFamily::Unread,
    finds: "inputs in which nothing is declared",
    follows: "There is no schema to work on.",
    advice: "name the folder that holds the models, or the dialect with --from",
};

pub const SPECIAL_FILE: Code = Code {
    name: "special-file",
    severity: Severity::Error,
    family: CodeFamily::Files,
    finds: "a pipe, a device or a socket among the inputs",
    follows: "It was left out, since it may never end.",
    advice: "leave it out, or give what it holds to standard input (`-`)",
};

pub const UNREADABLE_ENTRY: Code = Code {
    name: "unreadable-entry",
    severity: Severity::Error,
    family: CodeFamily::Files,
    finds: "a part of a folder that cannot be looked into",
    follows: "It was left out.",
    advice: "repair or remove it",
};

pub const UNREADABLE_FILE: Code = Code {
    name: "unreadable-file",
    severity: Severity::Error,
    family: CodeFamily::Files,
    finds: "a file that cannot be read",
    follows: "It was left out.",
    advice: "check its rights, what it links to, and that it is text",
};

/// Every kind of message that reading may give.
pub fn of_reading() -> impl Iterator<Item = &'static Code> {
    let of_dialects = DIALECTS.iter().flat_map(|dialect| dialect.details.codes);
    let shared = crate::host::codes::CODES.iter().chain(sprachbund_dialect::codes::CODES);
    CODES.iter().chain(shared).chain(of_dialects)
}

/// Every kind of message that reading or comparing may give.
pub fn all() -> impl Iterator<Item = &'static Code> {
    of_reading().chain(compare::CODES)
}

/// The kind of this name.
pub fn code(name: &str) -> Option<&'static Code> {
    all().find(|code| code.name == name)
}

#[cfg(test)]
mod tests {
    use std::collections::HashSet;

    use super::*;
    use crate::lint::{rule, rules};

    #[test]
    fn every_name_means_one_thing() {
        let mut seen = HashSet::new();
        for code in all() {
            assert!(seen.insert(code.name), "{} is there twice", code.name);
        }
        for claimed in rules().flat_map(|rule| rule.raised) {
            assert!(code(claimed).is_some(), "a rule claims {claimed}, which nobody says");
        }
        // A kind that is called like the rule which claims it needs no name of its own in settings.
        for code in all().filter(|code| rule(code.name).is_some()) {
            let raised = rule(code.name).map_or(&[][..], |rule| rule.raised);
            assert!(raised.contains(&code.name), "{} is another rule", code.name);
        }
    }

    #[test]
    fn lists_are_sorted_and_sentences_are_whole() {
        let lists = DIALECTS.iter().map(|dialect| dialect.details.codes);
        for list in
            lists.chain([CODES, crate::host::codes::CODES, sprachbund_dialect::codes::CODES])
        {
            assert!(list.is_sorted_by_key(|code| code.name), "{list:?}");
        }
        for code in of_reading() {
            assert!(code.follows.ends_with('.'), "{}: {}", code.name, code.follows);
            assert!(!code.finds.ends_with('.') && !code.advice.ends_with('.'), "{}", code.name);
        }
    }
}
