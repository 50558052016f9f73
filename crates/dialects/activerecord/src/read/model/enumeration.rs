//! `enum`, in all of its forms.

use smol_str::SmolStr;

use super::super::run::{Arguments, Value};
use super::Classes;
use crate::schema::{Default_, EnumMember, EnumType, Origin};
use crate::source::Span;

/// Options of an enumeration; in the older form with a line before them.
const OPTIONS: &[&str] = &[
    "prefix",
    "suffix",
    "scopes",
    "default",
    "instance_methods",
    "validate",
    "_prefix",
    "_suffix",
    "_scopes",
    "_default",
    "_instance_methods",
];

impl<'p> Classes<'_, 'p> {
    pub(super) fn enumerations(&mut self, at: usize, mut given: Arguments<'p>, span: Span) {
        // `enum :kind, bulk: 0, tank: 1`: whatever is named is a value, `default` too.
        let first = given.list.first().and_then(Value::as_text);
        match (first, given.list.get(1).cloned()) {
            (Some(column), Some(values)) => {
                let default = given.named("default").or(given.named("_default")).cloned();
                self.enumeration(at, &column, &values, default, span);
            }
            (Some(column), None) => {
                let named = std::mem::take(&mut given.named);
                let pairs = named.into_iter().map(|(name, value)| (Value::Text(name), value));
                self.enumeration(at, &column, &Value::Map(pairs.collect()), None, span);
            }
            (None, _) => {
                given.unfold();
                let default = given.named("_default").cloned();
                for (column, values) in &given.named {
                    if !OPTIONS.contains(&column.as_str()) {
                        self.enumeration(at, column, values, default.clone(), span);
                    }
                }
            }
        }
    }

    fn enumeration(
        &mut self,
        at: usize,
        column: &str,
        values: &Value<'p>,
        default: Option<Value<'p>>,
        span: Span,
    ) {
        let pairs: Option<Vec<(SmolStr, serde_json::Value)>> = match values {
            Value::List(items) => items
                .iter()
                .enumerate()
                .map(|(number, name)| Some((name.as_text()?, number.into())))
                .collect(),
            Value::Map(pairs) => {
                pairs.iter().map(|(name, value)| Some((name.as_text()?, value.json()?))).collect()
            }
            _ => None,
        };
        let Some(pairs) = pairs else {
            return self.unread(at, "enum", span);
        };
        let (module, class) = self.parted(&self.known[at].name.clone());
        let name = format!("{class}{}", self.words.camelized(column));
        let members = pairs.iter().map(|(name, value)| EnumMember {
            name: name.to_string(),
            value: value.clone(),
            label: None,
            in_code: (value.as_str() != Some(name)).then(|| name.to_string().into()),
        });
        let file = self.program.project.sources.file(span.file);
        self.enums.push(EnumType {
            name: name.clone(),
            stored_name: None,
            members: members.collect(),
            module,
            inline: true,
            origin: Origin::declared(file, span),
        });
        let default = default.and_then(|default| default.as_text());
        let stored = default.and_then(|default| {
            pairs.iter().find(|(name, _)| *name == default).map(|(_, value)| value.clone())
        });
        let field = self.drafts[at].field(column, span);
        field.choices = Some(name);
        if let Some(value) = stored {
            field.application_default = Some(Box::new(Default_::Literal(value)));
        }
    }
}
