//! What printers of TypeScript share: constants and names as it writes them.

use serde_json::Value;

use crate::quoting::case::Case;

/// A text in single quotes, with everything escaped that could end it.
pub fn text(content: &str) -> String {
    let mut out = String::with_capacity(content.len() + 2);
    out.push('\'');
    for letter in content.chars() {
        match letter {
            '\'' => out.push_str("\\'"),
            '\\' => out.push_str("\\\\"),
            '\n' => out.push_str("\\n"),
            '\r' => out.push_str("\\r"),
            '\t' => out.push_str("\\t"),
            special if special.is_control() || matches!(special, '\u{2028}' | '\u{2029}') => {
                out.push_str(&format!("\\u{{{:x}}}", special as u32));
            }
            other => out.push(other),
        }
    }
    out.push('\'');
    out
}

/// A property name, quoted where it must be.
pub fn property_key(name: &str) -> String {
    let plain = |letter: char| letter.is_ascii_alphanumeric() || letter == '_' || letter == '$';
    let identifier = name.chars().all(plain)
        && !name.is_empty()
        && !name.starts_with(|first: char| first.is_ascii_digit());
    if identifier { name.to_owned() } else { text(name) }
}

/// A constant.
pub fn literal(value: &Value) -> String {
    match value {
        Value::Null => "null".into(),
        Value::Bool(_) | Value::Number(_) => value.to_string(),
        Value::String(content) => text(content),
        Value::Array(items) => {
            format!("[{}]", items.iter().map(literal).collect::<Vec<_>>().join(", "))
        }
        Value::Object(entries) if entries.is_empty() => "{}".into(),
        Value::Object(entries) => {
            let entry = |(key, value): (&String, &Value)| {
                format!("{}: {}", property_key(key), literal(value))
            };
            format!("{{ {} }}", entries.iter().map(entry).collect::<Vec<_>>().join(", "))
        }
    }
}

/// Words that no variable may be called (ECMAScript 2025, section 12.7.2, in strict code; and what
/// TypeScript 5.9 adds to them).
const RESERVED: &[&str] = &[
    "arguments",
    "await",
    "break",
    "case",
    "catch",
    "class",
    "const",
    "continue",
    "debugger",
    "default",
    "delete",
    "do",
    "else",
    "enum",
    "eval",
    "export",
    "extends",
    "false",
    "finally",
    "for",
    "function",
    "if",
    "implements",
    "import",
    "in",
    "instanceof",
    "interface",
    "let",
    "new",
    "null",
    "package",
    "private",
    "protected",
    "public",
    "return",
    "static",
    "super",
    "switch",
    "this",
    "throw",
    "true",
    "try",
    "typeof",
    "undefined",
    "var",
    "void",
    "while",
    "with",
    "yield",
];

/// A parameter called after a class.
pub fn parameter(class: &str) -> String {
    let name = Case::Camel.apply(class);
    if RESERVED.contains(&name.as_str()) || !super::is_identifier(&name) {
        "other".to_owned()
    } else {
        name
    }
}

/// `.name`, or `['a name']` where it must be.
pub fn member_access(name: &str) -> String {
    let key = property_key(name);
    if key == name { format!(".{name}") } else { format!("[{key}]") }
}
