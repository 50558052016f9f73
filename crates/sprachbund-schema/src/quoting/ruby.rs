//! What printers of Ruby share: constants as Ruby writes them.

use serde_json::Value;

/// A text in double quotes, with everything escaped that could end it or be evaluated in it.
pub fn text(content: &str) -> String {
    let mut out = String::with_capacity(content.len() + 2);
    out.push('"');
    let mut letters = content.chars().peekable();
    while let Some(letter) = letters.next() {
        match letter {
            '"' => out.push_str("\\\""),
            '\\' => out.push_str("\\\\"),
            '\n' => out.push_str("\\n"),
            '\r' => out.push_str("\\r"),
            '\t' => out.push_str("\\t"),
            '#' if matches!(letters.peek(), Some('{' | '$' | '@')) => out.push_str("\\#"),
            control if control.is_control() => {
                out.push_str(&format!("\\u{{{:x}}}", control as u32));
            }
            other => out.push(other),
        }
    }
    out.push('"');
    out
}

/// Whether a name stands in a symbol, or before the colon of a pair, without quotes.
fn is_plain(name: &str) -> bool {
    let mut letters = name.chars();
    letters.next().is_some_and(|first| first.is_ascii_alphabetic() || first == '_')
        && letters.all(|letter| letter.is_ascii_alphanumeric() || letter == '_')
}

/// `:berth`, or `:"berth 1"`.
pub fn symbol(name: &str) -> String {
    if is_plain(name) { format!(":{name}") } else { format!(":{}", text(name)) }
}

/// `[:quay_id, :number]`, or one symbol alone.
pub fn symbols<T: AsRef<str>>(names: &[T]) -> String {
    match names {
        [only] => symbol(only.as_ref()),
        several => {
            let several: Vec<String> = several.iter().map(|name| symbol(name.as_ref())).collect();
            format!("[{}]", several.join(", "))
        }
    }
}

/// A pair of a map, or a named argument: `limit: 5`, `"a b": 5`.
pub fn pair(name: &str, value: &str) -> String {
    if is_plain(name) { format!("{name}: {value}") } else { format!("{}: {value}", text(name)) }
}

/// A constant; the keys of maps are texts.
pub fn literal(value: &Value) -> String {
    match value {
        Value::Null => "nil".into(),
        Value::Bool(value) => value.to_string(),
        Value::Number(number) => number.to_string(),
        Value::String(content) => text(content),
        Value::Array(items) => {
            format!("[{}]", items.iter().map(literal).collect::<Vec<_>>().join(", "))
        }
        Value::Object(entries) if entries.is_empty() => "{}".into(),
        Value::Object(entries) => {
            let entry =
                |(key, value): (&String, &Value)| format!("{} => {}", text(key), literal(value));
            format!("{{ {} }}", entries.iter().map(entry).collect::<Vec<_>>().join(", "))
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn constants_stay_what_they_are() {
        for (content, written) in [
            ("Pier 7", "\"Pier 7\""),
            ("a \"b\" \\", "\"a \\\"b\\\" \\\\\""),
            ("#{evil} # fine", "\"\\#{evil} # fine\""),
            ("#$x #@y", "\"\\#$x \\#@y\""),
            ("a\nb\u{7}", "\"a\\nb\\u{7}\""),
            ("größe", "\"größe\""),
        ] {
            assert_eq!(text(content), written);
        }
        assert_eq!(symbol("berth"), ":berth");
        assert_eq!(symbol("berth 1"), ":\"berth 1\"");
        assert_eq!(symbols(&["a"]), ":a");
        assert_eq!(symbols(&["a", "b-c"]), "[:a, :\"b-c\"]");
        assert_eq!(pair("limit", "5"), "limit: 5");
        assert_eq!(pair("a b", "5"), "\"a b\": 5");
        let value = serde_json::json!({"a": [1, null, true, 1.5], "b": {}});
        assert_eq!(literal(&value), "{ \"a\" => [1, nil, true, 1.5], \"b\" => {} }");
    }
}
