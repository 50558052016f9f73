//! What printers of Python share: constants as Python writes them, and the imports of a file.

use std::collections::{BTreeMap, BTreeSet};

use serde_json::Value;

use crate::schema::Database;

/// Words that no name of Python may be (language reference, keywords).
pub const KEYWORDS: &[&str] = &[
    "False", "None", "True", "and", "as", "assert", "async", "await", "break", "class", "continue",
    "def", "del", "elif", "else", "except", "finally", "for", "from", "global", "if", "import",
    "in", "is", "lambda", "nonlocal", "not", "or", "pass", "raise", "return", "try", "while",
    "with", "yield",
];

/// Modules of the standard library that printers use; they stand before those of packages.
const STANDARD: &[&str] = &["datetime", "decimal", "enum", "typing", "uuid"];

/// A text in double quotes (in single ones where it holds only double ones), with everything
/// escaped that could end it.
pub fn text(content: &str) -> String {
    let mut out = String::with_capacity(content.len() + 2);
    let quote = if content.contains('"') && !content.contains('\'') { '\'' } else { '"' };
    out.push(quote);
    for letter in content.chars() {
        match letter {
            '"' if quote == '"' => out.push_str("\\\""),
            '\\' => out.push_str("\\\\"),
            '\n' => out.push_str("\\n"),
            '\r' => out.push_str("\\r"),
            '\t' => out.push_str("\\t"),
            control if control.is_control() => out.push_str(&format!("\\U{:08x}", control as u32)),
            other => out.push(other),
        }
    }
    out.push(quote);
    out
}

/// An argument by its name; a name that is none goes by way of a dictionary.
pub fn keyword(name: &str, value: &Value) -> String {
    match super::is_identifier(name) && !KEYWORDS.contains(&name) {
        true => format!("{name}={}", literal(value)),
        false => format!("**{{{}: {}}}", text(name), literal(value)),
    }
}

/// A path of names with dots between them, whatever it holds.
pub fn path(text: &str) -> String {
    text.split('.').map(super::identifier).collect::<Vec<_>>().join(".")
}

/// `True` or `False`.
pub fn boolean(value: bool) -> &'static str {
    if value { "True" } else { "False" }
}

/// A constant.
pub fn literal(value: &Value) -> String {
    match value {
        Value::Null => "None".into(),
        Value::Bool(value) => boolean(*value).into(),
        Value::Number(number) => number.to_string(),
        Value::String(content) => text(content),
        Value::Array(items) => {
            format!("[{}]", items.iter().map(literal).collect::<Vec<_>>().join(", "))
        }
        Value::Object(entries) => {
            let entry =
                |(key, value): (&String, &Value)| format!("{}: {}", text(key), literal(value));
            format!("{{{}}}", entries.iter().map(entry).collect::<Vec<_>>().join(", "))
        }
    }
}

/// The names that a file takes from elsewhere.
#[derive(Default)]
pub struct Imports {
    from: BTreeMap<String, BTreeSet<String>>,
    whole: BTreeSet<String>,
    aliases: BTreeSet<String>,
    /// The server that raw SQL is written for.
    pub database: Database,
}

impl Imports {
    /// None yet.
    pub fn of(database: Database) -> Self {
        Imports { database, ..Imports::default() }
    }

    /// Imports a name from a module and returns the name.
    pub fn name<'n>(&mut self, module: &str, name: &'n str) -> &'n str {
        self.from.entry(module.to_owned()).or_default().insert(name.to_owned());
        name
    }

    /// Imports a module under another name.
    pub fn alias(&mut self, module: &str, name: &str) {
        self.aliases.insert(format!("import {module} as {name}"));
    }

    /// Imports a module as a whole.
    pub fn module(&mut self, module: &str) {
        self.whole.insert(module.to_owned());
    }

    pub fn lines(&self) -> Vec<String> {
        let standard = |module: &str| STANDARD.contains(&module);
        let from = |(module, names): (&String, &BTreeSet<String>)| {
            format!("from {module} import {}", names.iter().cloned().collect::<Vec<_>>().join(", "))
        };
        let mut first: Vec<String> =
            self.whole.iter().map(|module| format!("import {module}")).collect();
        first.extend(self.from.iter().filter(|(module, _)| standard(module)).map(from));
        let mut second: Vec<String> = self.aliases.iter().cloned().collect();
        second.extend(self.from.iter().filter(|(module, _)| !standard(module)).map(from));
        if !first.is_empty() {
            first.push(String::new());
        }
        first.extend(second);
        first
    }
}
