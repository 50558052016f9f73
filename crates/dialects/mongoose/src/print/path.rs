//! One path of a schema.

use serde_json::Value;

use super::{Printer, others, stored};
use crate::ONLY_IN;
use crate::declaration::{Attribute, FieldDeclaration, Spelling};
use crate::dialect::source_text::SourceText;
use crate::host::typescript::value::{EXACT, TODAY};
use crate::quoting::typescript::{literal, member_access, property_key, text};
use crate::read::spelling::{ITEMS, MAP};
use crate::schema::{Default_, Function, InputRule, RelationKind};
use crate::types::RULES;

/// Types that are values of the language; the others are the framework's.
const OF_LANGUAGE: &[&str] = &["String", "Number", "Boolean", "Date", "Buffer", "Map", "BigInt"];

/// Words of extras that are said with an option of their own.
const SAID: &[&str] = &["required", ITEMS, MAP, ONLY_IN, "enum_message"];

impl Printer<'_> {
    /// One attribute as a path.
    pub(super) fn path(&mut self, attribute: &Attribute, indent: usize, body: &mut SourceText) {
        let (declared, reference, list) = match attribute {
            Attribute::Field(field) => (&**field, None, field.spelling.element.as_deref()),
            Attribute::Relation(relation) => {
                let many = relation.kind == RelationKind::ManyToMany;
                (
                    &relation.carrier,
                    Some(relation.target.as_str()),
                    many.then_some(&relation.carrier.spelling),
                )
            }
            Attribute::Inverse(_) | Attribute::Removed(_) => return,
        };
        let Some(path) = stored(attribute) else { return };
        let ty = match list {
            Some(element) => self.list(element, declared),
            None => self.spelled(&declared.spelling, declared),
        };
        let mut options = vec![format!("type: {ty}")];
        options.extend(
            declared
                .extras
                .get(MAP)
                .and_then(Value::as_str)
                .map(|word| format!("of: {}", self.word(word))),
        );
        if let Some(target) = reference {
            let name = target.rsplit('.').next().unwrap_or(target);
            options.push(format!("ref: {}", text(name)));
        }
        options.extend(
            attribute
                .name()
                .filter(|name| *name != path)
                .map(|name| format!("alias: {}", text(name))),
        );
        let required = declared.required_on_input == Some(true);
        match declared.extras.get("required") {
            Some(said) => options.push(format!("required: {}", literal(said))),
            None => options.extend(required.then(|| "required: true".to_owned())),
        }
        options.extend(declared.rules.iter().filter_map(rule));
        options.extend(self.restricted(declared));
        if declared.unique == Some(true) {
            options.push("unique: true".to_owned());
            options.extend((!required && !declared.key).then(|| "sparse: true".to_owned()));
        }
        options.extend((declared.indexed == Some(true)).then(|| "index: true".to_owned()));
        options.extend(
            self.default(declared, list.is_some()).map(|default| format!("default: {default}")),
        );
        options.extend(others(&declared.extras, SAID));
        let name = property_key(path);
        match options.as_slice() {
            // A bare type under the name `type` would be taken for that of the whole.
            [_] if path != "type" => body.line(indent, &format!("{name}: {ty},")),
            _ => body.list(indent, &format!("{name}: {{ "), &options, " },"),
        }
    }

    fn list(&mut self, element: &Spelling, declared: &FieldDeclaration) -> String {
        let inner = self.spelled(element, declared);
        match declared.extras.get(ITEMS).and_then(Value::as_object) {
            Some(items) => {
                let items = items
                    .iter()
                    .map(|(name, value)| format!(", {}: {}", property_key(name), literal(value)));
                format!("[{{ type: {inner}{} }}]", items.collect::<String>())
            }
            None => format!("[{inner}]"),
        }
    }

    fn spelled(&mut self, spelling: &Spelling, declared: &FieldDeclaration) -> String {
        match &spelling.element {
            Some(element) => format!("[{}]", self.spelled(element, declared)),
            None if declared.extras.contains_key(MAP) => "Map".to_owned(),
            None => self.word(&spelling.word),
        }
    }

    fn word(&mut self, word: &str) -> String {
        if OF_LANGUAGE.contains(&word) {
            word.to_owned()
        } else {
            format!("{}.Types.{word}", self.value("Schema"))
        }
    }

    /// Values to which the application restricts the path.
    fn restricted(&mut self, declared: &FieldDeclaration) -> Option<String> {
        let enumeration = self.shared.enumeration(declared.choices.as_deref()?)?;
        let list = if enumeration.inline {
            format!(
                "[{}]",
                enumeration
                    .members
                    .iter()
                    .map(|member| literal(&member.value))
                    .collect::<Vec<_>>()
                    .join(", ")
            )
        } else if enumeration.members.iter().all(|member| member.value.is_string()) {
            format!("Object.values({})", self.enumeration(enumeration))
        } else {
            // The language lists the names beside the numbers.
            let name = self.enumeration(enumeration);
            let members = enumeration
                .members
                .iter()
                .map(|member| format!("{name}{}", member_access(&member.name)));
            format!("[{}]", members.collect::<Vec<_>>().join(", "))
        };
        Some(match declared.extras.get("enum_message") {
            Some(message) => format!("enum: {{ values: {list}, message: {} }}", literal(message)),
            None => format!("enum: {list}"),
        })
    }

    fn default(&mut self, declared: &FieldDeclaration, list: bool) -> Option<String> {
        let Some(default) = declared.application_default.as_deref() else {
            return list.then(|| "undefined".to_owned());
        };
        Some(match default {
            Default_::Literal(Value::Array(items)) if list && items.is_empty() => return None,
            Default_::Literal(value) => {
                let constant = self.constant(declared, value);
                match value {
                    Value::Array(_) => format!("() => {constant}"),
                    Value::Object(_) => format!("() => ({constant})"),
                    _ => constant,
                }
            }
            Default_::Function(Function::Now | Function::StatementNow) => "Date.now".to_owned(),
            Default_::Function(Function::Today) => format!("() => {TODAY}"),
            Default_::Function(Function::RandomUuid) => {
                self.imports
                    .entry("node:crypto".to_owned())
                    .or_default()
                    .insert("randomUUID".to_owned());
                "() => randomUUID()".to_owned()
            }
            Default_::Expression(expression) => {
                if expression.text.contains("Types.") {
                    self.value("Types");
                }
                expression.text.clone()
            }
        })
    }

    /// A constant; a member of the path's enumeration by its name.
    fn constant(&mut self, declared: &FieldDeclaration, value: &Value) -> String {
        let known = declared
            .choices
            .as_deref()
            .and_then(|name| self.shared.enumeration(name))
            .filter(|known| !known.inline);
        match known.and_then(|known| {
            Some((known, known.members.iter().find(|member| member.value == *value)?))
        }) {
            Some((enumeration, member)) => {
                format!("{}{}", self.enumeration(enumeration), member_access(&member.name))
            }
            // The language rounds greater numbers.
            None if value.as_i64().is_some_and(|number| number.unsigned_abs() > EXACT) => {
                text(&value.to_string())
            }
            // Every number of the language may have digits after the point.
            None => match value.as_f64().filter(|number| {
                value.is_f64() && number.fract() == 0.0 && number.abs() < EXACT as f64
            }) {
                Some(whole) => format!("{whole}"),
                None => literal(value),
            },
        }
    }
}

fn rule(rule: &InputRule) -> Option<String> {
    let (_, option) = RULES.iter().find(|(known, _)| *known == rule.rule)?;
    let value = match (*option, &rule.value) {
        ("match", Value::String(pattern)) => format!("new RegExp({})", text(pattern)),
        (_, value) => literal(value),
    };
    Some(match &rule.message {
        Some(message) => format!("{option}: [{value}, {}]", text(message)),
        None => format!("{option}: {value}"),
    })
}
