//! One column to `mapped_column(...)`, or to the `Column(...)` of a table object.

use serde_json::Value;

use super::{Printer, column_name, keywords};
use crate::declaration::{Attribute, FieldDeclaration, ReferenceDeclaration, Spelling};
use crate::dialect::release::at_least;
use crate::dialect::source_text::SourceText;
use crate::dialect::type_table::row;
use crate::quoting::python::{boolean, literal, path, text};
use crate::quoting::sql;
use crate::schema::expression::Tree;
use crate::schema::{
    Action, Database, Default_, Deferrable, EnumType, Function, Identity, Purpose,
};
use crate::types::{HOST_MODULES, MYSQL_TYPES, POSTGRESQL_TYPES, SAID_IN_1_4, inferred};

/// Extras that stand inside the type, a sequence or an identity.
const INNER_EXTRAS: &[&str] = &["type options", "sequence", "identity options"];

/// References that are followed to find the type of a column.
const DEEPEST: u32 = 16;

impl Printer<'_> {
    pub(super) fn column(&mut self, field: &FieldDeclaration, body: &mut SourceText) {
        let name = field.name.as_deref().unwrap_or_default();
        if self.conventions.grammar.untyped {
            let mut arguments: Vec<String> =
                field.column.iter().map(|column| text(column)).collect();
            arguments
                .extend((field.spelling != Spelling::default()).then(|| self.type_text(field)));
            self.common(field, &mut arguments);
            let package = self.sa();
            return body.list(4, &format!("{name} = {package}.Column("), &arguments, ")");
        }
        let host = self.host(field, 0);
        let wrapper = self.imports.name("sqlalchemy.orm", "Mapped");
        let annotation = match field.optional_in_code {
            Some(true) => format!("{wrapper}[{}[{host}]]", self.imports.name("typing", "Optional")),
            _ => format!("{wrapper}[{host}]"),
        };
        let mut arguments: Vec<String> = field.column.iter().map(|column| text(column)).collect();
        arguments.extend(self.written_type(field, &host));
        self.common(field, &mut arguments);
        // A version is named in the body of the class, so it must be there.
        if arguments.is_empty() && field.purpose != Some(Purpose::Version) {
            return body.line(4, &format!("{name}: {annotation}"));
        }
        let function = self.imports.name("sqlalchemy.orm", "mapped_column");
        body.list(4, &format!("{name}: {annotation} = {function}("), &arguments, ")");
    }

    /// A column of a table object.
    pub(super) fn table_column(&mut self, field: &FieldDeclaration) -> String {
        let mut arguments = vec![text(column_name(field))];
        if field.spelling != Spelling::default() {
            arguments.push(self.type_text(field));
        }
        self.common(field, &mut arguments);
        format!("{}.Column({})", self.sa(), arguments.join(", "))
    }

    /// What stands after the name and the type.
    fn common(&mut self, field: &FieldDeclaration, arguments: &mut Vec<String>) {
        if let Some(reference) = &field.reference {
            let options = actions(reference);
            let target = target(
                reference.namespace.as_deref(),
                &reference.table,
                reference.references.first().map_or("", String::as_str),
            );
            arguments.push(format!(
                "{}.ForeignKey({})",
                self.sa(),
                [vec![text(&target)], options].concat().join(", ")
            ));
        }
        if let Some(name) = field.extras.get("sequence") {
            arguments.push(format!("{}.Sequence({})", self.sa(), literal(name)));
        }
        if let Some(identity) =
            field.identity.filter(|identity| *identity != Identity::AutoIncrement)
        {
            let mut options: Vec<String> = (identity == Identity::Always)
                .then(|| "always=True".to_owned())
                .into_iter()
                .collect();
            if let Some(Value::Object(more)) = field.extras.get("identity options") {
                options.extend(keywords(more));
            }
            arguments.push(format!("{}.Identity({})", self.sa(), options.join(", ")));
        }
        if let Some(generated) = &field.generated {
            let postgresql = self.conventions.database == Database::PostgreSql;
            // From 2.1 on the server's release decides what silence means on PostgreSQL.
            let kept = match (generated.stored, postgresql) {
                (true, true) if !at_least(&self.conventions.version, (2, 1)) => "",
                (true, _) => ", persisted=True",
                (false, true) => ", persisted=False",
                (false, false) => "",
            };
            let expression =
                text(&escaped(&generated.expression.text_for(self.conventions.database)));
            arguments.push(format!("{}.Computed({expression}{kept})", self.sa()));
        }
        let mut flag = |name: &str, value: Option<bool>| {
            arguments.extend(value.map(|value| format!("{name}={}", boolean(value))))
        };
        flag("primary_key", Some(true).filter(|_| field.key));
        // A sequence numbers what it stands at.
        flag("autoincrement", field.numbered.filter(|_| !field.extras.contains_key("sequence")));
        flag("nullable", field.nullable);
        flag("unique", field.unique);
        flag("index", field.indexed);
        if let Some(default) = &field.application_default {
            arguments.extend(
                self.in_application(field, default).map(|value| format!("default={value}")),
            );
        }
        if let Some(default) = &field.database_default {
            let value = self.in_database(field, default);
            arguments.push(format!("server_default={value}"));
        }
        if let Some(update) = &field.application_update {
            arguments.extend(
                self.in_application(field, update).map(|value| format!("onupdate={value}")),
            );
        }
        arguments
            .extend(field.comment.as_ref().map(|comment| format!("comment={}", text(comment))));
        arguments.extend(keywords(
            field.extras.iter().filter(|(name, _)| !INNER_EXTRAS.contains(&name.as_str())),
        ));
    }

    /// The type in the code.
    fn host(&mut self, field: &FieldDeclaration, depth: u32) -> String {
        if let Some(enumeration) = field
            .choices
            .as_ref()
            .or(field.spelling.enumeration.as_ref())
            .and_then(|name| self.find_enumeration(name))
        {
            return if enumeration.inline {
                "str".into()
            } else {
                self.enumeration_class(enumeration)
            };
        }
        if let Some(referred) = field
            .reference
            .as_ref()
            .filter(|_| field.spelling == Spelling::default() && depth < DEEPEST)
        {
            let column = referred.references.first();
            let model = self.model_over(referred.namespace.as_deref(), &referred.table);
            let target = model.zip(column).and_then(|(model, column)| {
                model.attributes.iter().find_map(|attribute| match attribute {
                    Attribute::Field(field) if column_name(field) == column => Some(&**field),
                    _ => None,
                })
            });
            return match target {
                Some(target) => self.host(target, depth + 1),
                None => self.host_word("Any"),
            };
        }
        self.host_of(&field.spelling)
    }

    fn host_of(&mut self, spelling: &Spelling) -> String {
        if let Some(element) = &spelling.element {
            return format!("list[{}]", self.host_of(element));
        }
        if let Some(enumeration) = spelling
            .enumeration
            .as_ref()
            .and_then(|name| self.find_enumeration(name))
            .filter(|found| !found.inline)
        {
            return self.enumeration_class(enumeration);
        }
        let host = row(self.conventions.words.types, &spelling.word, self.conventions.database)
            .map_or("Any", |row| row.host);
        self.host_word(host)
    }

    fn host_word(&mut self, host: &str) -> String {
        match HOST_MODULES.iter().find(|(known, _)| *known == host) {
            Some((name, "datetime")) => {
                self.imports.module("datetime");
                format!("datetime.{name}")
            }
            Some((name, module)) => self.imports.name(module, name).to_owned(),
            None => host.to_owned(),
        }
    }

    fn enumeration_class(&mut self, enumeration: &EnumType) -> String {
        if enumeration.module != self.module {
            self.imports.name(&format!("{}.models", enumeration.module), &enumeration.name);
        }
        enumeration.name.clone()
    }

    /// The type, unless the annotation says the same.
    fn written_type(&mut self, field: &FieldDeclaration, host: &str) -> Option<String> {
        let spelling = &field.spelling;
        if *spelling == Spelling::default() {
            return None;
        }
        let bare = host.rsplit('.').next().unwrap_or(host);
        let silent = inferred(&self.conventions.version, bare).map(Spelling::word);
        let plain = field.choices.is_none()
            && field.collation.is_none()
            && !field.extras.contains_key("type options");
        // A column that refers to another one takes its type from there.
        let same = field.reference.is_none() && plain && silent.as_ref() == Some(spelling);
        if same { None } else { Some(self.type_text(field)) }
    }

    fn type_text(&mut self, field: &FieldDeclaration) -> String {
        let mut options = Vec::new();
        if let Some(Value::Object(more)) = field.extras.get("type options") {
            options = keywords(more);
        }
        let enumeration = field
            .choices
            .as_ref()
            .or(field.spelling.enumeration.as_ref())
            .and_then(|name| self.find_enumeration(name));
        if let Some(enumeration) = enumeration {
            let native = field.spelling.enumeration.is_some();
            return self.enumeration_type(native, field.spelling.length, enumeration, options);
        }
        if let Some(collation) = &field.collation {
            options.push(format!("collation={}", text(collation)));
        }
        self.spelled(&field.spelling, options)
    }

    fn spelled(&mut self, spelling: &Spelling, options: Vec<String>) -> String {
        let mysql = self.conventions.database.is_mysql();
        let written = match at_least(&self.conventions.version, (2, 0)) {
            true => None,
            false => SAID_IN_1_4.iter().find(|(word, _)| spelling.word == *word),
        };
        let written = written.map_or(spelling.word.as_str(), |(_, said)| said);
        let (word, inside) = written
            .split_once('(')
            .map_or((written, None), |(word, inside)| (word, Some(inside.trim_end_matches(')'))));
        let mut arguments = Vec::new();
        if let Some(element) = &spelling.element {
            let enumeration =
                element.enumeration.as_ref().and_then(|name| self.find_enumeration(name));
            arguments.push(match enumeration {
                Some(enumeration) => self.enumeration_type(true, None, enumeration, Vec::new()),
                None => self.spelled(element, Vec::new()),
            });
        }
        let fraction =
            spelling.scale.is_none() && matches!(word, "TIME" | "TIMESTAMP" | "DATETIME");
        arguments.extend(spelling.length.map(|length| length.to_string()));
        let plain = |inside: &str| {
            inside.chars().all(|letter| {
                letter.is_alphanumeric() || matches!(letter, '_' | '=' | ',' | '.' | ' ')
            })
        };
        arguments.extend(
            inside.map(|inside| if plain(inside) { inside.to_owned() } else { text(inside) }),
        );
        let word = &*path(word);
        arguments.extend(spelling.precision.map(|digits| match (fraction, mysql) {
            (true, true) => format!("fsp={digits}"),
            (true, false) => format!("precision={digits}"),
            (false, _) => digits.to_string(),
        }));
        arguments.extend(spelling.scale.map(|scale| scale.to_string()));
        arguments.extend(options);
        let own = if mysql { MYSQL_TYPES } else { POSTGRESQL_TYPES };
        let of_server = self.conventions.database != Database::Sqlite && own.contains(&word);
        let package = match (of_server, mysql) {
            (true, true) => self.imports.name("sqlalchemy.dialects", "mysql"),
            (true, false) => self.imports.name("sqlalchemy.dialects", "postgresql"),
            (false, _) => self.sa(),
        };
        if arguments.is_empty() {
            format!("{package}.{word}")
        } else {
            format!("{package}.{word}({})", arguments.join(", "))
        }
    }

    /// `Enum(...)`: a type of the database, or a bounded text that takes these values only.
    /// An enumeration as a type of the database, or as a text of this length.
    fn enumeration_type(
        &mut self,
        native: bool,
        length: Option<u32>,
        enumeration: &EnumType,
        options: Vec<String>,
    ) -> String {
        let mut arguments = Vec::new();
        if enumeration.inline {
            arguments.extend(enumeration.members.iter().map(|member| literal(&member.value)));
            let name =
                enumeration.stored_name.clone().unwrap_or_else(|| enumeration.name.to_lowercase());
            arguments.extend(native.then(|| format!("name={}", text(&name))));
        } else {
            arguments.push(self.enumeration_class(enumeration));
            arguments.extend(
                enumeration
                    .stored_name
                    .as_ref()
                    .filter(|_| native)
                    .map(|name| format!("name={}", text(name))),
            );
        }
        if !native {
            arguments.push("native_enum=False".into());
            arguments.extend(length.map(|length| format!("length={length}")));
        }
        let by_name =
            |member: &crate::schema::EnumMember| member.value == Value::String(member.name.clone());
        if !enumeration.inline && !enumeration.members.iter().all(by_name) {
            let texts = enumeration.members.iter().all(|member| member.value.is_string());
            let value = if texts { "member.value" } else { "str(member.value)" };
            arguments.push(format!("values_callable=lambda kind: [{value} for member in kind]"));
        }
        arguments.extend(options);
        format!("{}.Enum({})", self.sa(), arguments.join(", "))
    }

    /// What the application fills in.
    fn in_application(&mut self, field: &FieldDeclaration, default: &Default_) -> Option<String> {
        Some(match default {
            Default_::Literal(Value::Array(items)) if items.is_empty() => "list".into(),
            Default_::Literal(Value::Object(entries)) if entries.is_empty() => "dict".into(),
            Default_::Literal(value) => self.constant(field, value),
            Default_::Function(Function::Now) => format!("{}.func.now()", self.sa()),
            Default_::Function(Function::StatementNow) => {
                format!("{}.func.statement_timestamp()", self.sa())
            }
            Default_::Function(Function::Today) => format!("{}.func.current_date()", self.sa()),
            Default_::Function(Function::RandomUuid) => {
                let made = self.imports.name("uuid", "uuid4").to_owned();
                // A type of text takes texts.
                match field.spelling.word.as_str() {
                    "Uuid" | "UUID" => made,
                    _ => format!("lambda: str({made}())"),
                }
            }
            Default_::Expression(expression) => {
                let (module, name) = expression.text.rsplit_once('.')?;
                self.imports.name(module, name).to_owned()
            }
        })
    }

    /// A constant, as the exact number, identifier or member that the column holds.
    fn constant(&mut self, field: &FieldDeclaration, value: &Value) -> String {
        let enumeration = field
            .choices
            .as_ref()
            .or(field.spelling.enumeration.as_ref())
            .and_then(|name| self.find_enumeration(name));
        if let Some(enumeration) = enumeration.filter(|enumeration| !enumeration.inline)
            && let Some(member) = enumeration.members.iter().find(|member| member.value == *value)
        {
            return format!("{}.{}", self.enumeration_class(enumeration), member.name);
        }
        match (field.spelling.word.as_str(), value) {
            ("Numeric" | "DECIMAL", Value::String(number)) => {
                format!("{}({})", self.imports.name("decimal", "Decimal"), text(number))
            }
            ("Uuid" | "UUID", Value::String(id)) => {
                format!("{}({})", self.imports.name("uuid", "UUID"), text(id))
            }
            _ => literal(value),
        }
    }

    /// What the database fills in.
    fn in_database(&mut self, field: &FieldDeclaration, default: &Default_) -> String {
        let database = self.conventions.database;
        let (mysql, sqlite) = (database.is_mysql(), database == Database::Sqlite);
        let kind =
            row(self.conventions.words.types, &field.spelling.word, database).map(|row| row.kind);
        let is_json = matches!(
            kind,
            Some(crate::schema::TypeKind::Json | crate::schema::TypeKind::BinaryJson)
        );
        let long =
            matches!(kind, Some(crate::schema::TypeKind::Text | crate::schema::TypeKind::Binary))
                || is_json;
        let sql = match default {
            Default_::Literal(Value::Bool(value)) if !is_json => {
                return format!("{}.{value}()", self.sa());
            }
            Default_::Literal(Value::Array(items)) if field.spelling.element.is_some() => {
                return text(&array(items));
            }
            Default_::Literal(value) if is_json && !mysql => return text(&value.to_string()),
            Default_::Literal(value) if is_json => {
                sql::literal(&Value::String(value.to_string()), database)
            }
            Default_::Literal(Value::String(content)) if !(mysql && long) => return text(content),
            Default_::Literal(value) => sql::literal(value, database),
            Default_::Function(Function::Now | Function::StatementNow)
                if mysql && field.spelling.precision.is_some() =>
            {
                format!("CURRENT_TIMESTAMP({})", field.spelling.precision.unwrap_or_default())
            }
            Default_::Function(Function::Now) => return format!("{}.func.now()", self.sa()),
            Default_::Function(Function::StatementNow) if mysql || sqlite => {
                return format!("{}.func.now()", self.sa());
            }
            Default_::Function(Function::StatementNow) => "statement_timestamp()".into(),
            Default_::Function(Function::Today) if mysql => "(CURRENT_DATE)".into(),
            Default_::Function(Function::Today) => {
                return format!("{}.func.current_date()", self.sa());
            }
            Default_::Function(Function::RandomUuid) if mysql => "(uuid())".into(),
            Default_::Function(Function::RandomUuid) => "gen_random_uuid()".into(),
            Default_::Expression(expression) if database == Database::PostgreSql => {
                expression.text_for(database).into_owned()
            }
            Default_::Expression(expression) => format!("({})", expression.text_for(database)),
        };
        let constant = matches!(default, Default_::Literal(_));
        let sql = if mysql && long && constant { format!("({sql})") } else { sql };
        format!("{}.text({})", self.sa(), text(&escaped(&sql)))
    }
}

/// An array as PostgreSQL's text of it (documentation, section 8.15.2).
fn array(items: &[Value]) -> String {
    let item = |item: &Value| match item {
        Value::String(content) => {
            format!("\"{}\"", content.replace('\\', "\\\\").replace('"', "\\\""))
        }
        other => other.to_string(),
    };
    format!("{{{}}}", items.iter().map(item).collect::<Vec<_>>().join(","))
}

/// `schema.table.column`.
pub(super) fn target(namespace: Option<&str>, table: &str, column: &str) -> String {
    namespace.map_or_else(
        || format!("{table}.{column}"),
        |namespace| format!("{namespace}.{table}.{column}"),
    )
}

/// The options of a foreign key.
pub(super) fn actions(reference: &ReferenceDeclaration) -> Vec<String> {
    let mut options = Vec::new();
    let action = |action: Option<Action>| action.map(|action| text(action.sql()));
    options.extend(action(reference.on_delete).map(|action| format!("ondelete={action}")));
    options.extend(action(reference.on_update).map(|action| format!("onupdate={action}")));
    options.extend(deferrable(reference.deferrable));
    options.extend(reference.name.as_ref().map(|name| format!("name={}", text(name))));
    options
}

/// `deferrable=True, initially="DEFERRED"`.
pub(super) fn deferrable(deferrable: Option<Deferrable>) -> Option<String> {
    Some(match deferrable? {
        Deferrable::InitiallyDeferred => "deferrable=True, initially=\"DEFERRED\"".into(),
        Deferrable::InitiallyImmediate => "deferrable=True".into(),
    })
}

/// SQL in which no word after a colon is taken for a parameter (`TextClause._bind_params_regex` of
/// SQLAlchemy 2.0).
pub(super) fn escaped(sql: &str) -> String {
    let letters: Vec<char> = sql.chars().collect();
    let is_word = |letter: Option<&char>| {
        letter.is_some_and(|letter| letter.is_alphanumeric() || *letter == '_')
    };
    let mut out = String::with_capacity(sql.len());
    for (at, letter) in letters.iter().enumerate() {
        let before = at.checked_sub(1).map(|at| &letters[at]);
        let begins = *letter == ':'
            && is_word(letters.get(at + 1))
            && !is_word(before)
            && !matches!(before, Some(':' | '\\'));
        if begins {
            out.push('\\');
        }
        out.push(*letter);
    }
    out
}

/// Whether an expression must stand in brackets to be the key of an index.
pub(super) fn needs_brackets(tree: Option<&Tree>) -> bool {
    tree.is_some_and(|tree| !matches!(tree, Tree::Call { .. } | Tree::Column(_)))
}
