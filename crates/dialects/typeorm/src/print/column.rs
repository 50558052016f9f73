//! One column to a decorated property.

use serde_json::Value;

use super::Printer;
use crate::declaration::{FieldDeclaration, Spelling};
use crate::dialect::source_text::SourceText;
use crate::host::typescript::value::{EXACT, TODAY};
use crate::quoting::sql;
use crate::quoting::typescript::{literal, member_access, property_key, text};
use crate::read::KEY_NAME;
use crate::schema::{Database, Default_, EnumType, Function, Identity, Purpose};
use crate::types;

impl Printer<'_> {
    pub(super) fn column(&mut self, field: &FieldDeclaration, body: &mut SourceText) {
        let uuid = self.makes_uuid(field);
        let (decorator, first) = self.column_decorator(field, uuid);
        if let (Some(identity), false) = (field.identity, field.key) {
            let generated = self.decorator("Generated");
            body.line(
                2,
                &format!(
                    "@{generated}('{}')",
                    if identity == Identity::Sequence { "increment" } else { "identity" }
                ),
            );
        }
        if uuid && !field.key {
            let generated = self.decorator("Generated");
            body.line(2, &format!("@{generated}('uuid')"));
        }
        if field.indexed == Some(true) {
            let index = self.decorator("Index");
            body.line(2, &format!("@{index}()"));
        }
        let host = self.host_type(field);
        let options = self.options(field, &host, uuid);
        self.decorate(decorator, first, &options, body);
        let initialiser = self.initialiser(field, uuid);
        let name = property_key(field.name.as_deref().unwrap_or_default());
        let null = if field.optional_in_code == Some(true) { " | null" } else { "" };
        match initialiser {
            Some(value) => body.line(2, &format!("{name}: {host}{null} = {value};")),
            None => body.line(2, &format!("{name}!: {host}{null};")),
        }
    }

    /// `@name(first, { options })` with whatever of it there is.
    pub(super) fn decorate(
        &mut self,
        decorator: &str,
        first: Option<String>,
        options: &[String],
        body: &mut SourceText,
    ) {
        match (first, options.is_empty()) {
            (first, true) => body.line(2, &format!("@{decorator}({})", first.unwrap_or_default())),
            (Some(first), false) => {
                body.list(2, &format!("@{decorator}({first}, {{ "), options, " })")
            }
            (None, false) => body.list(2, &format!("@{decorator}({{ "), options, " })"),
        }
    }

    /// The identifier is made by `@PrimaryGeneratedColumn('uuid')` or `@Generated('uuid')`.
    fn makes_uuid(&self, field: &FieldDeclaration) -> bool {
        let random = Some(Default_::Function(Function::RandomUuid));
        let made = if self.conventions.database == Database::PostgreSql {
            field.database_default.as_deref() == random.as_ref()
        } else {
            field.key && field.application_default.as_deref() == random.as_ref()
        };
        made && field.spelling.word == "uuid"
    }

    fn column_decorator(
        &mut self,
        field: &FieldDeclaration,
        uuid: bool,
    ) -> (&'static str, Option<String>) {
        let purpose = match field.purpose {
            Some(Purpose::CreationTime) => Some("CreateDateColumn"),
            Some(Purpose::UpdateTime) => Some("UpdateDateColumn"),
            Some(Purpose::DeletionTime) => Some("DeleteDateColumn"),
            Some(Purpose::Version) => Some("VersionColumn"),
            None => None,
        };
        let (name, first) = match (purpose, field.key, field.identity) {
            (Some(name), _, _) => (name, None),
            (None, true, Some(_)) if self.conventions.database.is_mysql() => {
                ("PrimaryGeneratedColumn", None)
            }
            (None, true, Some(Identity::ByDefault | Identity::Always)) => {
                ("PrimaryGeneratedColumn", Some("'identity'".to_owned()))
            }
            (None, true, Some(Identity::Sequence | Identity::AutoIncrement)) => {
                ("PrimaryGeneratedColumn", None)
            }
            (None, true, None) if uuid => ("PrimaryGeneratedColumn", Some("'uuid'".to_owned())),
            (None, true, None) => ("PrimaryColumn", None),
            (None, false, _) => ("Column", None),
        };
        (self.decorator(name), first)
    }

    /// The type in the code, without null.
    fn host_type(&mut self, field: &FieldDeclaration) -> String {
        let name = field.choices.as_ref().or(field.spelling.enumeration.as_ref());
        if let Some(name) = name {
            return self.enumeration_type(name);
        }
        self.host_of(&field.spelling)
    }

    fn host_of(&mut self, spelling: &Spelling) -> String {
        match (&spelling.element, &spelling.enumeration) {
            (Some(element), _) => format!("{}[]", self.host_of(element)),
            (None, Some(name)) => self.enumeration_type(name),
            (None, None) => types::host(&spelling.word, self.conventions.database).to_owned(),
        }
    }

    fn find_enumeration(&self, name: &str) -> Option<&EnumType> {
        self.declarations.enums.iter().find(|enumeration| enumeration.name == name)
    }

    fn enumeration_type(&mut self, name: &str) -> String {
        match self.find_enumeration(name).cloned() {
            Some(enumeration) if enumeration.inline => enumeration
                .members
                .iter()
                .map(|member| literal(&member.value))
                .collect::<Vec<_>>()
                .join(" | "),
            Some(enumeration) => self.enumeration(&enumeration),
            None => "string".into(),
        }
    }

    fn options(&mut self, field: &FieldDeclaration, host: &str, uuid: bool) -> Vec<String> {
        let mut options = self.type_options(field, host, uuid);
        options.extend(field.column.as_ref().map(|name| format!("name: {}", text(name))));
        if let Some(name) = self.model.key_name.as_ref().filter(|_| field.key) {
            options.push(format!("{KEY_NAME}: {}", text(name)));
        }
        let silent_null = field.purpose == Some(Purpose::DeletionTime);
        options.extend(
            field
                .nullable
                .filter(|nullable| *nullable != silent_null)
                .map(|nullable| format!("nullable: {nullable}")),
        );
        if field.unique == Some(true) {
            options.push("unique: true".into());
        }
        options.extend(self.value_options(field, uuid));
        if field.identity == Some(Identity::Always) {
            options.push("generatedIdentity: 'ALWAYS'".into());
        }
        options.extend(
            field.collation.as_ref().map(|collation| format!("collation: {}", text(collation))),
        );
        options.extend(field.comment.as_ref().map(|comment| format!("comment: {}", text(comment))));
        options.extend(
            field
                .extras
                .iter()
                .map(|(name, value)| format!("{}: {}", property_key(name), literal(value))),
        );
        options
    }

    /// What says the type.
    fn type_options(&mut self, field: &FieldDeclaration, host: &str, uuid: bool) -> Vec<String> {
        let mut options = Vec::new();
        let spelling = field.spelling.element.as_deref().unwrap_or(&field.spelling);
        if let Some(word) = self.written_type(field, host, uuid) {
            let (word, length) = word
                .split_once('(')
                .map_or((word.as_str(), None), |(word, rest)| (word, rest.strip_suffix(')')));
            options.push(format!("type: {}", text(word)));
            options.extend(length.map(|length| format!("length: {length}")));
            if word == "uuid" && !uuid && types::identifiers_are_texts(self.conventions) {
                options.push("length: 36".into());
            }
        }
        if let Some(enumeration) =
            spelling.enumeration.as_ref().and_then(|name| self.find_enumeration(name)).cloned()
        {
            let values = || {
                enumeration
                    .members
                    .iter()
                    .map(|member| literal(&member.value))
                    .collect::<Vec<_>>()
                    .join(", ")
            };
            let value = if enumeration.inline {
                format!("[{}]", values())
            } else {
                self.enumeration(&enumeration)
            };
            options.push(format!("enum: {value}"));
            options.extend(
                enumeration.stored_name.as_ref().map(|name| format!("enumName: {}", text(name))),
            );
        }
        options.extend(spelling.length.map(|length| format!("length: {length}")));
        let kept = self
            .conventions
            .times
            .kept_digits
            .filter(|_| field.purpose.is_some_and(Purpose::is_time));
        options.extend(
            spelling
                .precision
                .filter(|precision| kept != Some(*precision))
                .map(|precision| format!("precision: {precision}")),
        );
        options.extend(spelling.scale.map(|scale| format!("scale: {scale}")));
        if field.spelling.element.is_some() {
            options.push("array: true".into());
        }
        if spelling.word.ends_with(" unsigned") {
            options.push("unsigned: true".into());
        }
        options
    }

    /// What the database fills in by itself.
    fn value_options(&mut self, field: &FieldDeclaration, uuid: bool) -> Vec<String> {
        let mut options = Vec::new();
        if let Some(default) = field.database_default.as_ref().filter(|_| !uuid) {
            let value = self.database_default(field, default);
            options.push(format!("default: {value}"));
        }
        if let Some(update) = &field.database_update {
            let said = self.database_default(field, update);
            options.push(format!("onUpdate: {}", said.strip_prefix("() => ").unwrap_or(&said)));
        }
        if let Some(generated) = &field.generated {
            options.push(format!(
                "asExpression: {}",
                text(&generated.expression.text_for(self.conventions.database))
            ));
            options.push(format!(
                "generatedType: '{}'",
                if generated.stored { "STORED" } else { "VIRTUAL" }
            ));
        }
        options
    }

    /// The type option, unless TypeORM takes the same type by itself.
    fn written_type(&self, field: &FieldDeclaration, host: &str, uuid: bool) -> Option<String> {
        let word = field.spelling.element.as_deref().unwrap_or(&field.spelling).word.clone();
        let word = word.strip_suffix(" unsigned").map_or(word.clone(), str::to_owned);
        let silent = match field.purpose {
            Some(Purpose::Version) => Some("integer"),
            Some(_) => Some(types::moment(self.conventions.database)),
            None if field.identity.is_some() && field.key => Some("integer"),
            None if uuid && field.key => Some("uuid"),
            None if field.optional_in_code == Some(true) || field.spelling.element.is_some() => {
                None
            }
            None => self.inferred(field, host),
        };
        Some(word).filter(|word| Some(word.as_str()) != silent)
    }

    fn inferred(&self, field: &FieldDeclaration, host: &str) -> Option<&'static str> {
        let enumeration = field.choices.as_ref().and_then(|name| self.find_enumeration(name));
        let host = match enumeration {
            Some(enumeration)
                if enumeration.members.iter().all(|member| member.value.is_string()) =>
            {
                "string"
            }
            Some(enumeration)
                if enumeration.members.iter().all(|member| member.value.is_number()) =>
            {
                "number"
            }
            Some(_) => return None,
            None => host,
        };
        types::inferred(host, self.conventions.database)
    }

    fn database_default(&mut self, field: &FieldDeclaration, default: &Default_) -> String {
        let (sqlite, mysql) =
            (self.conventions.database == Database::Sqlite, self.conventions.database.is_mysql());
        match default {
            Default_::Literal(Value::String(content)) if content.contains(['\'', '\\']) => {
                format!("() => {}", text(&sql::text(content, self.conventions.database)))
            }
            // The driver rounds numbers to the digits after the point that the column has.
            Default_::Literal(Value::Number(number)) if mysql && !number.is_i64() => {
                text(&number.to_string())
            }
            // The language rounds greater numbers.
            Default_::Literal(Value::Number(number))
                if number.as_i64().is_some_and(|number| number.unsigned_abs() > EXACT) =>
            {
                format!("() => {}", text(&format!("'{number}'")))
            }
            Default_::Literal(value) => self.constant(field, value),
            Default_::Function(Function::Now) if sqlite => "() => 'CURRENT_TIMESTAMP'".into(),
            Default_::Function(Function::Now | Function::StatementNow) if mysql => {
                let digits =
                    field.spelling.precision.map_or(String::new(), |digits| format!("({digits})"));
                format!("() => 'CURRENT_TIMESTAMP{digits}'")
            }
            Default_::Function(Function::Today) if mysql => "() => '(CURRENT_DATE)'".into(),
            Default_::Function(Function::RandomUuid) if mysql => "() => '(uuid())'".into(),
            Default_::Function(Function::Now) => "() => 'now()'".into(),
            Default_::Function(Function::StatementNow) => "() => 'statement_timestamp()'".into(),
            Default_::Function(Function::Today) => "() => 'CURRENT_DATE'".into(),
            Default_::Function(Function::RandomUuid) => "() => 'uuid_generate_v4()'".into(),
            Default_::Expression(expression) => {
                format!("() => {}", text(&expression.text_for(self.conventions.database)))
            }
        }
    }

    /// A constant; a member of the column's enumeration by its name.
    fn constant(&mut self, field: &FieldDeclaration, value: &Value) -> String {
        let name = field.choices.as_ref().or(field.spelling.enumeration.as_ref());
        let enumeration = name
            .and_then(|name| self.find_enumeration(name))
            .filter(|enumeration| !enumeration.inline)
            .cloned();
        if let Some(enumeration) = enumeration
            && let Some(member) = enumeration.members.iter().find(|member| member.value == *value)
        {
            let name = self.enumeration(&enumeration);
            return format!("{name}{}", member_access(&member.name));
        }
        match field.choices.as_ref().and_then(|name| self.find_enumeration(name)).is_some() {
            true => format!("{} as {}", literal(value), self.host_type(field)),
            false => literal(value),
        }
    }

    fn initialiser(&mut self, field: &FieldDeclaration, uuid: bool) -> Option<String> {
        Some(
            match field
                .application_default
                .as_deref()
                .filter(|_| !(uuid && self.conventions.database != Database::PostgreSql))?
            {
                Default_::Literal(value) => {
                    let host = self.host_of(&field.spelling);
                    match value {
                        Value::Number(number) if host == "string" => text(&number.to_string()),
                        value => self.constant(field, value),
                    }
                }
                Default_::Function(Function::Now | Function::StatementNow) => "new Date()".into(),
                Default_::Function(Function::Today) => TODAY.into(),
                Default_::Function(Function::RandomUuid) => {
                    self.package("node:crypto", "randomUUID");
                    "randomUUID()".into()
                }
                Default_::Expression(expression) => expression.text.clone(),
            },
        )
    }
}
