//! Default values: constants, the functions of the language, and SQL.

use base64::Engine;
use base64::engine::general_purpose::STANDARD;
use serde_json::{Number, Value};

use super::Reader;
use crate::codes;
use crate::declaration::FieldDeclaration;
use crate::diagnostic::Diagnostic;
use crate::host::outline::{Expr, ExprKind};
use crate::moment;
use crate::schema::{Database, Default_, Function};

impl Reader<'_> {
    /// `@default(...)`.
    pub(super) fn default(
        &self,
        field: &mut FieldDeclaration,
        value: &Expr,
        found: &mut Vec<Diagnostic>,
    ) {
        if let Some(call) = value.call() {
            let known = if call.named.is_empty() { call.callee_name() } else { "" };
            match (known, call.arguments.first()) {
                ("now", None) => {
                    field.database_default = Some(Box::new(Default_::Function(Function::Now)))
                }
                ("autoincrement", None) => {
                    field.identity = Some(self.known.conventions.keys.generated)
                }
                ("uuid", None) => {
                    field.application_default =
                        Some(Box::new(Default_::Function(Function::RandomUuid)))
                }
                ("dbgenerated", Some(text)) => {
                    field.database_default =
                        text.text().map(|text| Box::new(self.sql(field, text)));
                }
                // The database has one, of which nothing is said.
                ("dbgenerated", None) => {
                    field.extras.insert("default".into(), "dbgenerated()".into());
                }
                _ => {
                    let text = self.project.sources.text(value.span);
                    field.application_default = Some(Box::new(Default_::host("prisma", text)));
                }
            }
            return;
        }
        field.database_default =
            self.constant(field, value).map(|value| Box::new(Default_::Literal(value)));
        if field.database_default.is_none() {
            let message = format!(
                "the default `{}` is no value of the field's type",
                self.project.sources.text(value.span)
            );
            found.push(
                Diagnostic::of(&codes::UNREAD_DEFAULT, message)
                    .at(Some(value.span), "is left out")
                    .with_help(
                        "write a constant of the type, or `dbgenerated(\"...\")` with the SQL \
                         of the default",
                    ),
            );
        }
    }

    /// Bytes as the engine writes them into SQL: in hexadecimal digits, which mean bytes on
    /// PostgreSQL.
    fn bytes(&self, text: &str) -> Option<String> {
        let mark = if self.known.conventions.database == Database::PostgreSql { "\\x" } else { "" };
        let digits = STANDARD.decode(text).ok()?.into_iter().map(|byte| format!("{byte:02x}"));
        Some(mark.to_owned() + &digits.collect::<String>())
    }

    fn sql(&self, field: &FieldDeclaration, text: &str) -> Default_ {
        match Default_::parse_sql(text, self.known.conventions.database) {
            Default_::Literal(Value::String(text)) if field.spelling.word.starts_with("Json") => {
                Default_::Literal(serde_json::from_str(&text).unwrap_or(Value::String(text)))
            }
            default => default,
        }
    }

    /// A constant in the form that the neutral schema has for the type.
    fn constant(&self, field: &FieldDeclaration, value: &Expr) -> Option<Value> {
        if let Some(items) = value.list() {
            return items.iter().map(|item| self.constant(field, item)).collect();
        }
        let spelling = field.spelling.element.as_deref().unwrap_or(&field.spelling);
        let scalar = spelling.word.split(' ').next().unwrap_or_default();
        match &value.kind {
            ExprKind::Boolean(value) => Some((*value).into()),
            ExprKind::Number(text) if scalar == "Decimal" => Some(text.as_str().into()),
            ExprKind::Number(text) => number(text),
            ExprKind::Text(text) if scalar == "Json" => serde_json::from_str(text).ok(),
            ExprKind::Text(text) if scalar == "DateTime" => {
                Some(moment::stored(text, &spelling.word, self.known.conventions.database).into())
            }
            ExprKind::Text(text) if scalar == "Bytes" => self.bytes(text).map(Value::from),
            ExprKind::Text(text) => Some(text.as_str().into()),
            ExprKind::Name(name) => {
                let enumeration = self
                    .known
                    .enumeration(field.choices.as_ref().or(spelling.enumeration.as_ref())?)?;
                Some(enumeration.members.iter().find(|member| member.name == *name)?.value.clone())
            }
            _ => None,
        }
    }
}

fn number(text: &str) -> Option<Value> {
    let whole = text.parse::<i64>().ok().map(Value::from);
    whole.or_else(|| Number::from_f64(text.parse().ok()?).map(Value::Number))
}
