//! One column to a field.

use super::Printer;
use crate::declaration::{FieldDeclaration, Model};
use crate::literal::text as quoted;
use crate::schema::{Default_, Extras, Purpose};
use crate::types::written;

/// Extras that are written in a way of their own.
const OWN_EXTRAS: &[&str] = &["default", "documentation", "ignored"];

impl Printer<'_> {
    /// Name, type and attributes.
    pub(super) fn field(&self, model: &Model, field: &FieldDeclaration) -> Vec<String> {
        let name = field.name.clone().unwrap_or_default();
        let (scalar, native) = self.type_of(field);
        let list = field.spelling.element.is_some();
        let optional = field.nullable == Some(true) && !list;
        let mut attributes = Vec::new();
        if field.key {
            attributes.push(
                model
                    .key_name
                    .as_ref()
                    .map_or("@id".to_owned(), |name| format!("@id(map: {})", quoted(name))),
            );
        }
        if field.unique == Some(true) {
            attributes.push("@unique".to_owned());
        }
        attributes
            .extend(self.default_of(field, &scalar).map(|value| format!("@default({value})")));
        if field.purpose == Some(Purpose::UpdateTime) {
            attributes.push("@updatedAt".to_owned());
        }
        attributes.extend(field.column.as_ref().map(|column| format!("@map({})", quoted(column))));
        attributes.extend(native);
        if field.extras.contains_key("ignored") {
            attributes.push("@ignore".to_owned());
        }
        attributes.extend(others(&field.extras, "@"));
        let mark = if list {
            "[]"
        } else if optional {
            "?"
        } else {
            ""
        };
        let mut row = vec![name, format!("{scalar}{mark}")];
        if !attributes.is_empty() {
            row.push(attributes.join(" "));
        }
        row
    }

    /// The scalar or enumeration, and the database's own type as an attribute.
    fn type_of(&self, field: &FieldDeclaration) -> (String, Option<String>) {
        let spelling = field.spelling.element.as_deref().unwrap_or(&field.spelling);
        match spelling.enumeration.as_ref().or(field.choices.as_ref()) {
            Some(name) => (name.clone(), None),
            None => written(spelling, self.conventions.database),
        }
    }

    fn default_of(&self, field: &FieldDeclaration, scalar: &str) -> Option<String> {
        if field.identity.is_some() {
            return Some("autoincrement()".into());
        }
        if field.extras.contains_key("default") {
            return Some("dbgenerated()".into());
        }
        match (field.database_default.as_deref(), field.application_default.as_deref()) {
            (Some(default), _) => Some(self.database_default(field, scalar, default)),
            (None, Some(Default_::Function(_))) => Some("uuid()".into()),
            (None, Some(Default_::Expression(expression))) => Some(expression.text.clone()),
            (None, Some(Default_::Literal(_)) | None) => None,
        }
    }
}

/// Attributes that are kept as they were written.
pub(super) fn others(extras: &Extras, mark: &str) -> Vec<String> {
    let kept = extras.iter().filter(|(name, _)| !OWN_EXTRAS.contains(&name.as_str()));
    kept.filter_map(|(_, value)| Some(format!("{mark}{}", value.as_str()?))).collect()
}
