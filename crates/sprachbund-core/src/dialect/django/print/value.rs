//! Constants as Python writes them.

use serde_json::Value;

/// A text in double quotes, with everything escaped that could end it.
pub(in crate::dialect::django) fn text(content: &str) -> String {
    let mut out = String::with_capacity(content.len() + 2);
    out.push('"');
    for letter in content.chars() {
        match letter {
            '"' => out.push_str("\\\""),
            '\\' => out.push_str("\\\\"),
            '\n' => out.push_str("\\n"),
            '\r' => out.push_str("\\r"),
            '\t' => out.push_str("\\t"),
            control if control.is_control() => out.push_str(&format!("\\U{:08x}", control as u32)),
            other => out.push(other),
        }
    }
    out.push('"');
    out
}

/// `True` or `False`.
pub(in crate::dialect::django) fn boolean(value: bool) -> &'static str {
    if value { "True" } else { "False" }
}

/// A constant.
pub(in crate::dialect::django) fn literal(value: &Value) -> String {
    match value {
        Value::Null => "None".into(),
        Value::Bool(value) => boolean(*value).into(),
        Value::Number(number) => number.to_string(),
        Value::String(content) => text(content),
        Value::Array(items) => format!("[{}]", items.iter().map(literal).collect::<Vec<_>>().join(", ")),
        Value::Object(entries) => {
            let entry = |(key, value): (&String, &Value)| format!("{}: {}", text(key), literal(value));
            format!("{{{}}}", entries.iter().map(entry).collect::<Vec<_>>().join(", "))
        }
    }
}
