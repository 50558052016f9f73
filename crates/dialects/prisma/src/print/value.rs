//! Default values as the language writes them; what it has no words for, as SQL.

use serde_json::Value;

use super::Printer;
use crate::declaration::FieldDeclaration;
use crate::literal::text as quoted;
use crate::moment;
use crate::quoting::sql;
use crate::schema::{Database, Default_, Function};

impl Printer<'_> {
    pub(super) fn database_default(
        &self,
        field: &FieldDeclaration,
        scalar: &str,
        default: &Default_,
    ) -> String {
        match default {
            Default_::Literal(value) => {
                let written = if field.spelling.element.is_some() {
                    self.list(field, scalar, value)
                } else {
                    self.constant(field, scalar, value)
                };
                written.unwrap_or_else(|| generated(&self.literal(scalar, value)))
            }
            Default_::Function(Function::Now) if scalar == "DateTime" => "now()".into(),
            Default_::Function(function) => generated(self.function(*function)),
            Default_::Expression(expression) => {
                let text = expression.text_for(self.conventions.database);
                generated(&if self.conventions.database == Database::PostgreSql {
                    text.into_owned()
                } else {
                    format!("({text})")
                })
            }
        }
    }

    fn function(&self, function: Function) -> &'static str {
        match (function, self.conventions.database) {
            (Function::Now, _) => "CURRENT_TIMESTAMP",
            (Function::StatementNow, Database::PostgreSql) => "statement_timestamp()",
            (Function::StatementNow, _) => "CURRENT_TIMESTAMP",
            (Function::Today, Database::MySql | Database::MariaDb) => "(CURRENT_DATE)",
            (Function::Today, _) => "CURRENT_DATE",
            (Function::RandomUuid, Database::MySql | Database::MariaDb) => "(uuid())",
            (Function::RandomUuid, _) => "gen_random_uuid()",
        }
    }

    /// A constant as SQL.
    fn literal(&self, scalar: &str, value: &Value) -> String {
        let whole = if scalar == "Json" { Value::String(value.to_string()) } else { value.clone() };
        sql::literal(&whole, self.conventions.database)
    }

    fn list(&self, field: &FieldDeclaration, scalar: &str, value: &Value) -> Option<String> {
        let items = value
            .as_array()?
            .iter()
            .map(|item| self.constant(field, scalar, item))
            .collect::<Option<Vec<_>>>()?;
        Some(format!("[{}]", items.join(", ")))
    }

    /// A constant that the scalar can take; nothing where only SQL can say it.
    fn constant(&self, field: &FieldDeclaration, scalar: &str, value: &Value) -> Option<String> {
        let spelling = field.spelling.element.as_deref().unwrap_or(&field.spelling);
        if let Some(name) = spelling.enumeration.as_ref().or(field.choices.as_ref()) {
            let enumeration =
                self.declarations.enums.iter().find(|enumeration| enumeration.name == *name)?;
            return enumeration
                .members
                .iter()
                .find(|member| member.value == *value)
                .map(|member| member.name.clone());
        }
        match (scalar, value) {
            ("Boolean", Value::Bool(value)) => Some(value.to_string()),
            ("Int", Value::Number(number)) => number
                .as_i64()
                .filter(|number| i32::try_from(*number).is_ok())
                .map(|number| number.to_string()),
            ("BigInt", Value::Number(number)) => number.as_i64().map(|number| number.to_string()),
            ("Float", Value::Number(number)) => {
                Some(number.to_string()).filter(|text| is_plain_number(text))
            }
            ("Decimal", Value::String(text)) => {
                Some(text.clone()).filter(|text| is_plain_number(text))
            }
            ("String", Value::String(text)) => Some(quoted(text)),
            ("DateTime", Value::String(text)) => {
                moment::written(text, &spelling.word, self.conventions.database)
                    .map(|text| quoted(&text))
            }
            // The engine leaves out the quotes of such a default on SQLite.
            ("Json", value) if self.conventions.database != Database::Sqlite => {
                Some(quoted(&value.to_string()))
            }
            _ => None,
        }
    }
}

/// `dbgenerated("...")`.
fn generated(sql: &str) -> String {
    format!("dbgenerated({})", quoted(sql))
}

fn is_plain_number(text: &str) -> bool {
    let digits = text.strip_prefix('-').unwrap_or(text);
    let (whole, fraction) = digits.split_once('.').unwrap_or((digits, "0"));
    [whole, fraction]
        .iter()
        .all(|part| !part.is_empty() && part.bytes().all(|digit| digit.is_ascii_digit()))
}
