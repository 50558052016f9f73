//! Columns as a bracket and a server make them.

use super::super::run::{Arguments, Run, Value};
use super::{Steps, written};
use crate::declaration::{FieldDeclaration, Spelling};
use crate::dialect::release::at_least;
use crate::dialect::type_table::spell;
use crate::schema::{Database, Default_, Field, Generated, Identity, Type, plain_decimal};
use crate::source::Span;
use crate::types::{self, Sized};

impl<'p> Steps<'_, 'p> {
    /// A column, by the method or the type that makes it. What is not taken out of the options is
    /// said of something else, or of nothing.
    pub(super) fn column(
        &mut self,
        run: &mut Run<'_, 'p>,
        (name, method): (&str, &str),
        options: &mut Arguments<'p>,
        span: Span,
    ) -> FieldDeclaration {
        let mut declared = FieldDeclaration {
            column: Some(name.to_owned()),
            span: Some(span),
            ..FieldDeclaration::default()
        };
        let expression = options.take("as").and_then(|value| self.sql_of(run, &value));
        let method = match method {
            "virtual" => {
                let of = options.take("type").and_then(|of| of.as_text());
                of.unwrap_or_else(|| "string".into())
            }
            method => method.into(),
        };
        let null = options.take("null");
        let numbered = matches!(&*method, "serial" | "bigserial") && self.is_postgresql();
        let enumeration = options.take("enum_type").and_then(|of| of.as_text());
        let array = options.take("array").is_some_and(|array| array.holds() == Some(true));
        let spelling = self.spelling(&method, enumeration.as_deref(), options);
        let held = self.last_held.take();
        self.held.extend(held.map(|text| (name.to_owned(), text)));
        declared.spelling = match array && self.is_postgresql() {
            true => {
                Spelling { element: Some(Box::new(spelling)), ..Spelling::word(self.array_word()) }
            }
            false => spelling,
        };
        declared.nullable = Some(match null {
            Some(Value::Boolean(null)) => null,
            _ => !numbered,
        });
        if numbered {
            declared.identity = Some(Identity::Sequence);
            declared.numbered = Some(true);
        }
        if let Some(value) = options.take("default") {
            declared.database_default = self.default(run, &value, &declared.spelling, span);
            let counts = |default: &Default_| match default {
                Default_::Expression(code) => code.text.starts_with("nextval("),
                Default_::Literal(_) | Default_::Function(_) => false,
            };
            if self.is_postgresql() && declared.database_default.as_deref().is_some_and(counts) {
                declared.database_default = None;
                (declared.identity, declared.numbered) = (Some(Identity::Sequence), Some(true));
            }
        }
        declared.collation = options.take("collation").and_then(|of| of.as_text()).map(Into::into);
        declared.comment = self.comment(options);
        if let Some(text) = expression {
            let said = options.take("stored").map(|stored| stored.holds() == Some(true));
            declared.generated = self.generated(&text, said);
            if self.database == Database::MariaDb && declared.generated.is_some() {
                declared.nullable = Some(true);
            }
        }
        declared
    }

    pub(super) fn is_postgresql(&self) -> bool {
        self.database == Database::PostgreSql
    }

    pub(super) fn array_word(&self) -> &'static str {
        "array"
    }

    /// A comment, which SQLite does not keep.
    pub(super) fn comment(&self, options: &mut Arguments<'p>) -> Option<String> {
        let text = options.take("comment").and_then(|text| text.as_text());
        text.filter(|text| self.database != Database::Sqlite && !text.is_empty()).map(Into::into)
    }

    fn generated(&self, text: &str, stored: Option<bool>) -> Option<Box<Generated>> {
        // Source: 7.0.10 makes a plain column there, 7.1.6 refuses it.
        if self.database == Database::Sqlite && !at_least(&self.release, (7, 2)) {
            return None;
        }
        let stored = stored.unwrap_or(
            self.is_postgresql()
                && self.settings.server_release.is_none_or(|release| release < (18, 0)),
        );
        let expression = written(text);
        Some(Box::new(Generated { expression, stored }))
    }

    /// The digits of a second that a column has of which none are said.
    fn silent_digits(&self, method: &str) -> Option<u32> {
        match method {
            "datetime" => self.bracket.digits_of_datetime(),
            "timestamp" if self.database == Database::Sqlite => self.bracket.digits_of_datetime(),
            _ => None,
        }
    }

    /// The type of a column; what says it is taken out of the options.
    pub(super) fn spelling(
        &mut self,
        method: &str,
        enumeration: Option<&str>,
        options: &mut Arguments<'p>,
    ) -> Spelling {
        let method = method.trim();
        let mut number = |name: &str| {
            options.take(name).map(|value| value.as_number().and_then(|n| u32::try_from(n).ok()))
        };
        let (limit, precision, scale) =
            (number("limit").flatten(), number("precision"), number("scale").flatten());
        let size = options.take("size").and_then(|size| size.as_text()).map(String::from);
        let unsigned = options.take("unsigned").is_some_and(|said| said.holds() == Some(true));
        let known = |name: &str| self.enumeration(name).is_some();
        if let Some(name) = enumeration.or_else(|| Some(method).filter(|method| known(method))) {
            return Spelling { enumeration: Some(name.to_owned()), ..Spelling::word("enum") };
        }
        // No zone of a server has digits of its own here: they are dropped.
        let precision = match method {
            "timestamptz" => None,
            _ => precision.unwrap_or_else(|| self.silent_digits(method)),
        };
        let sized = Sized { limit, precision, scale, size, unsigned };
        match types::text(method, &sized, self.database) {
            Some(text) => {
                self.last_held = Some(text.clone());
                self.spelled(&text)
            }
            None => Spelling::word(method),
        }
    }

    /// The dialect's word for a type in the server's words.
    pub(super) fn spelled(&self, text: &str) -> Spelling {
        let is_enum = |name: &str| self.enumeration(name).is_some();
        let ty = self.database.server().read_type(text, &is_enum);
        self.spelled_type(&ty, text)
    }

    /// A column with its type alone.
    pub(super) fn plain_field(&self, declared: &FieldDeclaration) -> Field {
        let spelling = &declared.spelling;
        let rows = types::table(self.database);
        let row = crate::dialect::type_table::row(rows, &spelling.word, self.database);
        let ty = match (&spelling.enumeration, row) {
            (Some(name), _) => Type::Enum(name.clone()),
            (None, Some(row)) => row.read(spelling),
            (None, None) => Type::Native(spelling.word.clone()),
        };
        let column = declared.column.clone().unwrap_or_default();
        Field::plain(None, column, ty, "".into())
    }

    /// The same of a type as a column has it.
    pub(super) fn spelled_of(&self, ty: &Type, text: &str) -> Spelling {
        self.spelled_type(ty, text)
    }

    fn spelled_type(&self, ty: &Type, text: &str) -> Spelling {
        match ty {
            Type::Array(element) => Spelling {
                element: Some(Box::new(self.spelled_type(element, text.trim_end_matches("[]")))),
                ..Spelling::word(self.array_word())
            },
            Type::Enum(name) => {
                Spelling { enumeration: Some(name.clone()), ..Spelling::word("enum") }
            }
            Type::Native(name) => Spelling::word(name),
            ty => {
                let field = Field::plain(None, String::new(), ty.clone(), text.to_owned().into());
                spell(types::table(self.database), &field, false, self.database)
                    .map_or_else(|| Spelling::word(text), |(_, spelling)| spelling)
            }
        }
    }

    /// The text of a piece of SQL: a text, or a lambda that gives one.
    pub(super) fn sql_of(&mut self, run: &mut Run<'_, 'p>, value: &Value<'p>) -> Option<String> {
        match value {
            Value::Block(block) => {
                let text = run.block(block, Vec::new(), self).ok()?;
                text.as_text().map(Into::into)
            }
            value => value.as_text().map(Into::into),
        }
    }

    /// What the database fills in: a constant, or code in a lambda.
    pub(super) fn default(
        &mut self,
        run: &mut Run<'_, 'p>,
        value: &Value<'p>,
        spelling: &Spelling,
        span: Span,
    ) -> Option<Box<Default_>> {
        if let Value::Block(_) = value {
            let text = self.sql_of(run, value)?;
            return Some(Box::new(Default_::parse_sql(&self.without_update(&text), self.database)));
        }
        if value.unknown_inside().is_some() {
            self.unread(span, "its default is not known");
            return None;
        }
        let constant = value.json()?;
        use serde_json::Value as Json;
        let constant = match (spelling.word.as_str(), constant) {
            (_, Json::Null) => return None,
            ("boolean", Json::String(text)) => match text.as_str() {
                "t" | "true" | "1" => Json::Bool(true),
                "f" | "false" | "0" => Json::Bool(false),
                "" => return None,
                _ => Json::String(text),
            },
            ("string" | "text" | "char", Json::Number(number)) => Json::String(number.to_string()),
            ("string" | "text" | "char", Json::Bool(value)) => {
                Json::String(if value { "t" } else { "f" }.into())
            }
            // The server writes it in its own way.
            ("decimal", Json::Number(number)) => {
                let text = number.to_string();
                return Some(Box::new(Default_::parse_sql(&text, self.database)));
            }
            ("decimal", Json::String(text)) => match plain_decimal(&text) {
                Some(number) => Json::String(number),
                None if text.parse::<f64>().is_ok() => {
                    return Some(Box::new(Default_::parse_sql(&text, self.database)));
                }
                None => Json::String(text),
            },
            ("integer" | "bigint", Json::Bool(value)) => Json::from(i32::from(value)),
            // A text is encoded once more.
            (_, Json::String(text)) if spelling.element.is_some() && text == "{}" => {
                Json::Array(Vec::new())
            }
            (_, constant) => constant,
        };
        Some(Box::new(Default_::Literal(constant)))
    }

    /// The code of a default without what it says of updates.
    fn without_update<'t>(&self, text: &'t str) -> std::borrow::Cow<'t, str> {
        let folded = text.to_uppercase();
        match folded.find(" ON UPDATE ") {
            Some(at) if self.database.is_mysql() => text[..at].into(),
            _ => text.into(),
        }
    }

    /// A key of a table: numbered, unless its type, or that something else is its default, says
    /// otherwise.
    pub(super) fn key_column(
        &mut self,
        run: &mut Run<'_, 'p>,
        (name, method): (&str, &str),
        options: &mut Arguments<'p>,
        span: Span,
    ) -> FieldDeclaration {
        let large = self.bracket.has_large_keys();
        let valued = options.named("default").is_some();
        let said = match method {
            "primary_key" if large => "bigint",
            "primary_key" => "integer",
            method => method,
        };
        let whole = matches!(said, "integer" | "bigint");
        let by_itself = method == "primary_key"
            || self.bracket.numbers_typed_keys()
            || self.database.is_mysql() && said == "bigint";
        let sqlite = self.database == Database::Sqlite;
        // There every whole number that is the key is the number of a row.
        let numbered = whole && (by_itself && !valued || sqlite);
        let said = if sqlite && whole { "integer" } else { said };
        let mut declared = self.column(run, (name, said), options, span);
        (declared.key, declared.nullable) = (true, Some(false));
        if numbered {
            declared.identity = Some(match self.database {
                Database::PostgreSql | Database::MongoDb => Identity::Sequence,
                Database::MySql | Database::MariaDb => Identity::ByDefault,
                Database::Sqlite => Identity::AutoIncrement,
            });
            declared.numbered = Some(true);
        }
        if said == "uuid" && !valued && self.is_postgresql() {
            let text = self.bracket.identifier();
            declared.database_default = Some(Box::new(Default_::parse_sql(text, self.database)));
        }
        declared
    }
}
