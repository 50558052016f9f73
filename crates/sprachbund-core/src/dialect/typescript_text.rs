//! What printers of TypeScript share: constants and names as it writes them.

use serde_json::Value;

use crate::dialect::PrintedFile;
use crate::dialect::naming::Case;
use crate::dialect::source_text::SourceText;
use crate::schema::EnumType;

/// A text in single quotes, with everything escaped that could end it.
pub(crate) fn text(content: &str) -> String {
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
pub(crate) fn property_key(name: &str) -> String {
    let plain = |letter: char| letter.is_ascii_alphanumeric() || letter == '_' || letter == '$';
    let identifier = name.chars().all(plain) && !name.is_empty() && !name.starts_with(|first: char| first.is_ascii_digit());
    if identifier { name.to_owned() } else { text(name) }
}

/// A constant.
pub(crate) fn literal(value: &Value) -> String {
    match value {
        Value::Null => "null".into(),
        Value::Bool(_) | Value::Number(_) => value.to_string(),
        Value::String(content) => text(content),
        Value::Array(items) => format!("[{}]", items.iter().map(literal).collect::<Vec<_>>().join(", ")),
        Value::Object(entries) if entries.is_empty() => "{}".into(),
        Value::Object(entries) => {
            let entry = |(key, value): (&String, &Value)| format!("{}: {}", property_key(key), literal(value));
            format!("{{ {} }}", entries.iter().map(entry).collect::<Vec<_>>().join(", "))
        }
    }
}

/// `.name`, or `['a name']` where it must be.
pub(crate) fn member_access(name: &str) -> String {
    let key = property_key(name);
    if key == name { format!(".{name}") } else { format!("[{key}]") }
}

/// The file of an enumeration.
pub(crate) fn enumeration_path(enumeration: &EnumType) -> String {
    format!("{}/{}.enum.ts", enumeration.module, Case::Kebab.apply(&enumeration.name))
}

/// An `enum` in a file of its own.
pub(crate) fn enumeration(enumeration: &EnumType) -> PrintedFile {
    let mut body = SourceText::new(2);
    body.line(0, &format!("export enum {} {{", enumeration.name));
    for member in &enumeration.members {
        body.line(2, &format!("{} = {},", property_key(&member.name), literal(&member.value)));
    }
    body.line(0, "}");
    PrintedFile { path: enumeration_path(enumeration), text: body.finish() }
}
