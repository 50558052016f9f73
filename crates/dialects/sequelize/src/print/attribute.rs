//! One attribute: its declaration in the class, and its column in `init`.

use serde_json::Value;

use super::{Printer, others};
use crate::declaration::{
    Attribute, FieldDeclaration, ReferenceDeclaration, RelationDeclaration, Spelling,
};
use crate::dialect::source_text::SourceText;
use crate::host::typescript::value::{EXACT, TODAY};
use crate::quoting::sql;
use crate::quoting::typescript::{literal, member_access, property_key, text};
use crate::schema::{Action, Database, Default_, Deferrable, EnumType, Function, Identity};
use crate::types::{self, NUMBERED};

impl<'d> Printer<'d> {
    /// `declare name: string | null;`
    pub(super) fn member(&mut self, field: &FieldDeclaration) -> Option<String> {
        let name = field.name.as_deref()?;
        let host = match field.choices.as_ref().or(field.spelling.enumeration.as_ref()) {
            Some(name) => self.enumeration_type(name),
            None => self.host_of(&field.spelling),
        };
        let null = field.nullable.unwrap_or(true) && !field.key;
        let host = if null { format!("{host} | null") } else { host };
        let given = field.spelling.word.ends_with(NUMBERED)
            || field.identity.is_some()
            || field.purpose.is_some()
            || field.database_default.is_some()
            || field.application_default.is_some();
        let host =
            if given { format!("{}<{host}>", self.type_of("CreationOptional")) } else { host };
        Some(format!("declare {}: {host};", property_key(name)))
    }

    fn host_of(&mut self, spelling: &Spelling) -> String {
        match (&spelling.element, &spelling.enumeration) {
            (Some(element), _) => match self.host_of(element) {
                several if several.contains(' ') => format!("({several})[]"),
                one => format!("{one}[]"),
            },
            (None, Some(name)) => self.enumeration_type(name),
            (None, None) => {
                types::host(&spelling.word, self.shared.conventions.database).to_owned()
            }
        }
    }

    fn enumeration_type(&mut self, name: &str) -> String {
        match self.shared.find_enumeration(name) {
            Some(enumeration) if enumeration.inline => enumeration
                .members
                .iter()
                .map(|member| literal(&member.value))
                .collect::<Vec<_>>()
                .join(" | "),
            Some(enumeration) => self.enumeration(enumeration),
            None => "string".into(),
        }
    }

    /// The column in `init`.
    pub(super) fn attribute(&mut self, field: &FieldDeclaration, body: &mut SourceText) {
        let name = property_key(field.name.as_deref().unwrap_or_default());
        let (ty, restricted) = self.data_type(field);
        let mut options = vec![format!("type: {ty}")];
        options.extend(field.column.as_ref().map(|column| format!("field: {}", text(column))));
        options.extend(field.nullable.map(|nullable| format!("allowNull: {nullable}")));
        if field.spelling.word.ends_with(NUMBERED) {
            options.push("autoIncrement: true".to_owned());
        }
        if field.identity == Some(Identity::ByDefault) {
            options.push("autoIncrementIdentity: true".to_owned());
        }
        if field.key {
            options.push("primaryKey: true".to_owned());
        }
        options.extend(self.unique(field));
        options.extend(self.default(field).map(|default| format!("defaultValue: {default}")));
        options.extend(field.comment.as_ref().map(|comment| format!("comment: {}", text(comment))));
        options.extend(self.references(field));
        options.extend(self.validate(field, restricted));
        options.extend(others(&field.extras).filter(|option| !option.starts_with("validate: ")));
        match options.as_slice() {
            [_] => body.line(8, &format!("{name}: {ty},")),
            _ => body.list(8, &format!("{name}: {{ "), &options, " },"),
        }
    }

    /// The data type, and whether it restricts values as the attribute's choices do.
    fn data_type(&mut self, field: &FieldDeclaration) -> (String, bool) {
        let sqlite = self.shared.conventions.database == Database::Sqlite;
        let choices = field.choices.as_ref().and_then(|name| self.shared.find_enumeration(name));
        let texts = |enumeration: &EnumType| {
            enumeration.members.iter().all(|member| member.value.is_string())
        };
        if let Some(enumeration) =
            choices.filter(|known| sqlite && field.spelling.word == "TEXT" && texts(known))
        {
            return (self.enumeration_of_values(enumeration), true);
        }
        (self.spelled(&field.spelling), false)
    }

    fn enumeration_of_values(&mut self, enumeration: &EnumType) -> String {
        let types = self.value("DataTypes");
        if enumeration.inline {
            let texts = enumeration.members.iter().map(|member| {
                member.value.as_str().map_or_else(|| member.value.to_string(), str::to_owned)
            });
            return format!(
                "{types}.ENUM({})",
                texts.map(|value| text(&value)).collect::<Vec<_>>().join(", ")
            );
        }
        let name = self.enumeration(enumeration);
        if enumeration.members.iter().all(|member| member.value.is_string()) {
            return format!("{types}.ENUM(...Object.values({name}))");
        }
        // The database keeps texts.
        let members: Vec<String> = enumeration
            .members
            .iter()
            .map(|member| format!("{name}{}", member_access(&member.name)))
            .collect();
        format!("{types}.ENUM(...[{}].map(String))", members.join(", "))
    }

    fn spelled(&mut self, spelling: &Spelling) -> String {
        if let Some(element) = &spelling.element {
            let inner = self.spelled(element);
            return format!("{}.ARRAY({inner})", self.value("DataTypes"));
        }
        if let Some(enumeration) =
            spelling.enumeration.as_ref().and_then(|name| self.shared.find_enumeration(name))
        {
            return self.enumeration_of_values(enumeration);
        }
        let word = spelling.word.trim_end_matches(NUMBERED);
        let numbers: Vec<String> = [spelling.length, spelling.precision, spelling.scale]
            .into_iter()
            .flatten()
            .map(|number| number.to_string())
            .collect();
        let arguments =
            if numbers.is_empty() { String::new() } else { format!("({})", numbers.join(", ")) };
        if !word.starts_with(|first: char| first.is_ascii_uppercase())
            || word.contains(' ')
            || self.is_raw(word)
        {
            // The digits stand behind the first word: `time(3) with time zone`.
            let (head, rest) =
                word.split_once(' ').filter(|_| !arguments.is_empty()).unwrap_or((word, ""));
            return text(format!("{head}{arguments} {rest}").trim_end());
        }
        let types = self.value("DataTypes");
        match word.strip_prefix("RANGE(") {
            Some(of) => format!("{types}.RANGE({types}.{of}"),
            None => format!("{types}.{word}{arguments}"),
        }
    }

    /// Whether a word is the server's own.
    fn is_raw(&self, word: &str) -> bool {
        let rows = types::table(self.shared.conventions.database);
        !rows.iter().any(|row| row.word == word)
            && !types::NATIVE.iter().any(|(known, _)| *known == word)
    }

    /// `unique: true`, or the name that the attributes of one constraint share.
    fn unique(&self, field: &FieldDeclaration) -> Option<String> {
        if field.unique == Some(true) {
            return Some("unique: true".to_owned());
        }
        let name = field.name.as_ref()?;
        let constraint =
            self.model.uniques.iter().find(|unique| unique.attributes.contains(name))?;
        Some(format!("unique: {}", text(&constraint.attributes.join("_"))))
    }

    /// The foreign key that no association makes, or of which an association cannot say all.
    fn references(&mut self, field: &FieldDeclaration) -> Vec<String> {
        let column = field.column.as_ref().or(field.name.as_ref());
        let relation = self.model.attributes.iter().find_map(|attribute| match attribute {
            Attribute::Relation(relation)
                if relation
                    .join_columns
                    .first()
                    .is_some_and(|join| join.name.as_ref() == column) =>
            {
                Some(&**relation)
            }
            _ => None,
        });
        let Some(relation) = relation else { return Vec::new() };
        let alone = relation.name.is_none()
            && !super::association::is_known_there(self.shared, self.model, relation);
        if !alone && relation.deferrable.is_none() {
            return Vec::new();
        }
        let mut options = vec![self.reference(relation)];
        if alone {
            options
                .extend(relation.on_delete.map(|action| format!("onDelete: '{}'", action.sql())));
            let on_update = relation.on_update.unwrap_or(Action::Cascade);
            options.extend(
                (on_update != Action::NoAction).then(|| format!("onUpdate: '{}'", on_update.sql())),
            );
        }
        options
    }

    fn reference(&mut self, relation: &RelationDeclaration) -> String {
        if relation.deferrable.is_some() {
            self.value("Deferrable");
        }
        let target = self.shared.model(&relation.target);
        let table = target.map_or_else(String::new, |target| self.shared.table(target));
        let reference = ReferenceDeclaration {
            table,
            namespace: target.and_then(|target| target.namespace.clone()),
            ..ReferenceDeclaration::default()
        };
        let key = relation
            .join_columns
            .first()
            .and_then(|join| join.references.clone())
            .unwrap_or_default();
        let column = target.map_or(key.clone(), |target| super::column_of(target, &key));
        let model = match &reference.namespace {
            Some(namespace) => {
                format!("{{ tableName: {}, schema: {} }}", text(&reference.table), text(namespace))
            }
            None => text(&reference.table),
        };
        let mut options = vec![format!("model: {model}"), format!("key: {}", text(&column))];
        options.extend(relation.deferrable.map(|when| format!("deferrable: {}", deferrable(when))));
        format!("references: {{ {} }}", options.join(", "))
    }

    /// Values that the application restricts the attribute to, beside rules that are kept as they
    /// are.
    fn validate(&mut self, field: &FieldDeclaration, restricted: bool) -> Option<String> {
        let enumeration = field
            .choices
            .as_ref()
            .filter(|_| !restricted)
            .and_then(|name| self.shared.find_enumeration(name));
        let mut rules: Vec<String> = Vec::new();
        if let Some(enumeration) = enumeration {
            let list = match (
                enumeration.inline,
                enumeration.members.iter().all(|member| member.value.is_string()),
            ) {
                (true, _) => {
                    format!(
                        "[{}]",
                        enumeration
                            .members
                            .iter()
                            .map(|member| literal(&member.value))
                            .collect::<Vec<_>>()
                            .join(", ")
                    )
                }
                (false, true) => format!("Object.values({})", self.enumeration(enumeration)),
                (false, false) => {
                    let name = self.enumeration(enumeration);
                    let members = enumeration
                        .members
                        .iter()
                        .map(|member| format!("{name}{}", member_access(&member.name)));
                    format!("[{}]", members.collect::<Vec<_>>().join(", "))
                }
            };
            rules.push(format!("isIn: [{list}]"));
        }
        if let Some(Value::Object(kept)) = field.extras.get("validate") {
            rules.extend(
                kept.iter()
                    .map(|(name, value)| format!("{}: {}", property_key(name), literal(value))),
            );
        }
        (!rules.is_empty()).then(|| format!("validate: {{ {} }}", rules.join(", ")))
    }

    fn default(&mut self, field: &FieldDeclaration) -> Option<String> {
        if let Some(default) = &field.database_default {
            return Some(self.database_default(field, default));
        }
        let types = self.value("DataTypes");
        Some(match field.application_default.as_deref()? {
            Default_::Literal(value) => {
                let constant = self.constant(field, value);
                if constant.starts_with('{') {
                    format!("() => ({constant})")
                } else {
                    format!("() => {constant}")
                }
            }
            Default_::Function(Function::Now | Function::StatementNow) => format!("{types}.NOW"),
            Default_::Function(Function::Today) => format!("() => {TODAY}"),
            Default_::Function(Function::RandomUuid) => format!("{types}.UUIDV4"),
            Default_::Expression(expression) => expression.text.clone(),
        })
    }

    fn database_default(&mut self, field: &FieldDeclaration, default: &Default_) -> String {
        let sqlite = self.shared.conventions.database == Database::Sqlite;
        let sql = match default {
            // The language rounds greater numbers.
            Default_::Literal(Value::Number(number))
                if number.as_i64().is_some_and(|number| number.unsigned_abs() > EXACT) =>
            {
                return text(&number.to_string());
            }
            // Of a text that is meant for bytes Sequelize takes the letters.
            Default_::Literal(value @ Value::String(_)) if field.spelling.word == "BLOB" => {
                sql::literal(value, self.shared.conventions.database)
            }
            Default_::Literal(value) => return self.constant(field, value),
            Default_::Function(Function::Now | Function::StatementNow) if sqlite => {
                "CURRENT_TIMESTAMP".to_owned()
            }
            Default_::Function(Function::Now) => return format!("{}('now')", self.value("fn")),
            Default_::Function(Function::StatementNow) => "statement_timestamp()".to_owned(),
            Default_::Function(Function::Today) => "CURRENT_DATE".to_owned(),
            Default_::Function(Function::RandomUuid) => "gen_random_uuid()".to_owned(),
            Default_::Expression(expression) => {
                let sql = expression.text_for(self.shared.conventions.database);
                if sqlite { format!("({sql})") } else { sql.into_owned() }
            }
        };
        format!("{}({})", self.value("literal"), text(&sql))
    }

    /// A constant; a member of the column's enumeration by its name.
    fn constant(&mut self, field: &FieldDeclaration, value: &Value) -> String {
        let name = field.choices.as_ref().or(field.spelling.enumeration.as_ref());
        let enumeration = name
            .and_then(|name| self.shared.find_enumeration(name))
            .filter(|enumeration| !enumeration.inline);
        match enumeration.and_then(|known| {
            Some((known, known.members.iter().find(|member| member.value == *value)?))
        }) {
            Some((enumeration, member)) => {
                format!("{}{}", self.enumeration(enumeration), member_access(&member.name))
            }
            None => literal(value),
        }
    }
}

fn deferrable(when: Deferrable) -> &'static str {
    match when {
        Deferrable::InitiallyDeferred => "Deferrable.INITIALLY_DEFERRED()",
        Deferrable::InitiallyImmediate => "Deferrable.INITIALLY_IMMEDIATE()",
    }
}
