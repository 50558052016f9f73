//! What printers of TypeScript share: constants and names as it writes them.

use std::collections::{HashMap, HashSet};

use serde_json::Value;

use crate::declaration::Declarations;
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

/// Words that no variable may be called (ECMAScript 2025, section 12.7.2, in strict code; and what TypeScript 5.9 adds to them).
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
pub(crate) fn parameter(class: &str) -> String {
    let name = Case::Camel.apply(class);
    if RESERVED.contains(&name.as_str()) || !super::is_identifier(&name) { "other".to_owned() } else { name }
}

/// `.name`, or `['a name']` where it must be.
pub(crate) fn member_access(name: &str) -> String {
    let key = property_key(name);
    if key == name { format!(".{name}") } else { format!("[{key}]") }
}

/// The files of classes and enumerations, by module and name: two whose names differ only in the case of letters, or in what
/// stands between words, get two files.
pub(crate) struct Files {
    /// Ending of the file of a class.
    ending: String,
    classes: HashMap<(String, String), String>,
    enumerations: HashMap<(String, String), String>,
}

impl Files {
    /// The files of all that is declared; `ending` is that of a class's file.
    pub(crate) fn of(declarations: &Declarations, ending: &str) -> Self {
        let mut taken: HashSet<String> = HashSet::new();
        let mut path = |module: &str, name: &str, ending: &str| {
            let stem = format!("{module}/{}", Case::Kebab.apply(name));
            let numbered = (2u32..).map(|count| format!("{stem}-{count}"));
            let free = std::iter::once(stem.clone()).chain(numbered).map(|stem| stem + ending);
            free.into_iter().find(|path| taken.insert(path.to_lowercase())).unwrap_or_default()
        };
        let mut files = Files { ending: ending.to_owned(), classes: HashMap::new(), enumerations: HashMap::new() };
        for enumeration in declarations.enums.iter().filter(|enumeration| !enumeration.inline) {
            let path = path(&enumeration.module, &enumeration.name, ".enum.ts");
            files.enumerations.insert((enumeration.module.clone(), enumeration.name.clone()), path);
        }
        for model in &declarations.models {
            let path = path(&model.module, &model.name, ending);
            files.classes.insert((model.module.clone(), model.name.clone()), path);
        }
        files
    }

    /// The file of a class; of one that is not declared what it would be.
    pub(crate) fn class(&self, module: &str, name: &str) -> String {
        let known = self.classes.get(&(module.to_owned(), name.to_owned()));
        known.cloned().unwrap_or_else(|| format!("{module}/{}{}", Case::Kebab.apply(name), self.ending))
    }

    /// The file of an enumeration.
    pub(crate) fn enumeration(&self, enumeration: &EnumType) -> String {
        let known = self.enumerations.get(&(enumeration.module.clone(), enumeration.name.clone()));
        known.cloned().unwrap_or_else(|| format!("{}/{}.enum.ts", enumeration.module, Case::Kebab.apply(&enumeration.name)))
    }
}

/// An `enum` in a file of its own.
pub(crate) fn enumeration(enumeration: &EnumType, files: &Files) -> PrintedFile {
    let mut body = SourceText::new(2);
    body.line(0, &format!("export enum {} {{", enumeration.name));
    for member in &enumeration.members {
        body.line(2, &format!("{} = {},", property_key(&member.name), literal(&member.value)));
    }
    body.line(0, "}");
    PrintedFile { path: files.enumeration(enumeration), text: body.finish() }
}
