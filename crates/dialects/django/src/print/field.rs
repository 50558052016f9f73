//! One column to a field call.

use serde_json::Value;

use super::{Printer, query};
use crate::declaration::{FieldDeclaration, Spelling};
use crate::dialect::source_text::SourceText;
use crate::quoting::python::{boolean, keyword, literal, path, text};
use crate::quoting::sql;
use crate::schema::{Default_, Function, InputRule, Purpose};
use crate::types::{POSTGRESQL_FIELDS, VALIDATORS};

impl Printer<'_> {
    pub(super) fn field(&mut self, field: &FieldDeclaration, body: &mut SourceText) {
        let name = field.name.as_deref().unwrap_or_default();
        let (class, mut arguments) = self.spelling(&field.spelling);
        let mut head = format!("{name} = {class}(");
        if let Some(generated) = &field.generated {
            let output = format!("{class}({})", arguments.join(", "));
            let expression = query::value_expression(&mut self.imports, &generated.expression);
            arguments = vec![
                format!("expression={expression}"),
                format!("output_field={output}"),
                format!("db_persist={}", boolean(generated.stored)),
            ];
            head = format!("{name} = models.GeneratedField(");
        }
        match field.purpose {
            Some(Purpose::CreationTime) => arguments.push("auto_now_add=True".into()),
            Some(Purpose::UpdateTime) => arguments.push("auto_now=True".into()),
            Some(Purpose::DeletionTime | Purpose::Version) | None => {}
        }
        self.common(field, &mut arguments);
        arguments.extend(field.extras.iter().map(|(name, value)| keyword(name, value)));
        body.list(4, &head, &arguments, ")");
    }

    /// The class and its own arguments.
    fn spelling(&mut self, spelling: &Spelling) -> (String, Vec<String>) {
        let mut arguments = Vec::new();
        if let Some(element) = &spelling.element {
            let (class, inner) = self.spelling(element);
            arguments.push(format!("{class}({})", inner.join(", ")));
        }
        arguments.extend(spelling.length.map(|length| format!("max_length={length}")));
        arguments.extend(spelling.precision.map(|digits| format!("max_digits={digits}")));
        arguments.extend(spelling.scale.map(|places| format!("decimal_places={places}")));
        let word = spelling.word.as_str();
        let class = match word {
            "HStoreField" => self.imports.name("django.contrib.postgres.fields", word).to_owned(),
            "SearchVectorField" => {
                self.imports.name("django.contrib.postgres.search", word).to_owned()
            }
            _ if POSTGRESQL_FIELDS.contains(&word) => {
                self.imports.name("django.contrib.postgres.fields", word).to_owned()
            }
            _ => format!("models.{}", path(word)),
        };
        (class, arguments)
    }

    /// The options that fields and relations share.
    pub(super) fn common(&mut self, field: &FieldDeclaration, arguments: &mut Vec<String>) {
        let mut flag = |name: &str, value: Option<bool>| {
            arguments.extend(value.map(|value| format!("{name}={}", boolean(value))))
        };
        flag("primary_key", Some(true).filter(|_| field.key));
        flag("null", field.nullable);
        flag("blank", field.required_on_input.map(|required| !required));
        flag("unique", field.unique);
        flag("db_index", field.indexed);
        if let Some(default) = &field.application_default {
            arguments.extend(
                self.application_default(&field.spelling, default)
                    .map(|value| format!("default={value}")),
            );
        }
        if let Some(default) = &field.database_default {
            let value = self.database_default(&field.spelling, default);
            arguments.push(format!("db_default={value}"));
        }
        if let Some(choices) = &field.choices {
            arguments.extend(self.choices(choices).map(|value| format!("choices={value}")));
        }
        let max_length = field
            .rules
            .iter()
            .find(|rule| field.spelling.word == "TextField" && rule.rule == "max_length");
        arguments.extend(max_length.map(|rule| format!("max_length={}", literal(&rule.value))));
        let validators: Vec<String> = field
            .rules
            .iter()
            .filter(|rule| max_length.is_none_or(|own| own != *rule))
            .map(|rule| self.validator(rule))
            .collect();
        if !validators.is_empty() {
            arguments.push(format!("validators=[{}]", validators.join(", ")));
        }
        for (name, value) in [
            ("db_column", &field.column),
            ("db_collation", &field.collation),
            ("db_comment", &field.comment),
        ] {
            arguments.extend(value.as_ref().map(|value| format!("{name}={}", text(value))));
        }
    }

    fn application_default(&mut self, spelling: &Spelling, default: &Default_) -> Option<String> {
        Some(match default {
            Default_::Literal(Value::Array(items)) if items.is_empty() => "list".into(),
            Default_::Literal(Value::Object(entries)) if entries.is_empty() => "dict".into(),
            Default_::Literal(value) => self.typed_literal(spelling, value),
            Default_::Function(Function::Now | Function::StatementNow) => {
                self.imports.name("django.utils", "timezone");
                "timezone.now".into()
            }
            Default_::Function(Function::Today) => {
                self.imports.module("datetime");
                "datetime.date.today".into()
            }
            Default_::Function(Function::RandomUuid) => {
                self.imports.module("uuid");
                "uuid.uuid4".into()
            }
            Default_::Expression(expression) => {
                let (module, name) = expression.text.rsplit_once('.')?;
                self.imports.name(module, name).to_owned()
            }
        })
    }

    fn database_default(&mut self, spelling: &Spelling, default: &Default_) -> String {
        match default {
            // What the framework takes for bytes is no text, and SQLite keeps the text of a moment
            // as it is.
            Default_::Literal(value @ Value::String(text))
                if spelling.word == "BinaryField"
                    || (spelling.word == "DateTimeField" && text.ends_with(" +00:00")) =>
            {
                query::raw(&mut self.imports, &sql::literal(value, self.conventions.database), None)
            }
            Default_::Literal(value) => self.typed_literal(spelling, value),
            Default_::Function(Function::StatementNow) => {
                self.imports.name("django.db.models.functions", "Now");
                "Now()".into()
            }
            Default_::Function(Function::Now) => {
                let one_moment = self.conventions.database != crate::schema::Database::PostgreSql;
                let (module, name) = if one_moment {
                    ("django.db.models.functions", "Now")
                } else {
                    ("django.contrib.postgres.functions", "TransactionNow")
                };
                format!("{}()", self.imports.name(module, name))
            }
            Default_::Function(Function::RandomUuid) if self.conventions.database.is_mysql() => {
                query::raw(&mut self.imports, "uuid()", None)
            }
            Default_::Function(Function::RandomUuid) => {
                format!(
                    "{}()",
                    self.imports.name("django.contrib.postgres.functions", "RandomUUID")
                )
            }
            Default_::Function(Function::Today) => {
                query::raw(&mut self.imports, "CURRENT_DATE", None)
            }
            Default_::Expression(expression) => {
                query::raw_expression(&mut self.imports, expression, None)
            }
        }
    }

    /// A constant, as the exact number or identifier that the field expects.
    fn typed_literal(&mut self, spelling: &Spelling, value: &Value) -> String {
        match (spelling.word.as_str(), value) {
            ("DecimalField", Value::String(number)) => {
                self.imports.name("decimal", "Decimal");
                format!("Decimal({})", text(number))
            }
            _ => literal(value),
        }
    }

    fn choices(&mut self, name: &str) -> Option<String> {
        let enumeration =
            self.declarations.enums.iter().find(|enumeration| enumeration.name == name)?;
        if enumeration.inline {
            let pair = |member: &crate::schema::EnumMember| {
                let label = member.label.clone().unwrap_or_else(|| member.name.clone());
                format!("({}, {})", literal(&member.value), text(&label))
            };
            return Some(format!(
                "[{}]",
                enumeration.members.iter().map(pair).collect::<Vec<_>>().join(", ")
            ));
        }
        if enumeration.module != self.module {
            self.imports.name(&format!("{}.models", enumeration.module), name);
        }
        Some(format!("{name}.choices"))
    }

    fn validator(&mut self, rule: &InputRule) -> String {
        let message = rule
            .message
            .as_ref()
            .map_or(String::new(), |message| format!(", message={}", text(message)));
        match VALIDATORS.iter().find(|(_, known)| *known == rule.rule) {
            Some((class, _)) => {
                self.imports.name("django.core.validators", class);
                format!("{class}({}{message})", literal(&rule.value))
            }
            None => match rule.rule.rsplit_once('.') {
                Some((module, name)) => self.imports.name(module, name).to_owned(),
                None => rule.rule.clone(),
            },
        }
    }
}
