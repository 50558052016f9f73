//! `CREATE TABLE`: columns with their types, defaults, identities, and the constraints written
//! beside them.

use std::collections::HashMap;
use std::collections::hash_map::Entry;

use serde_json::Value;
use sqlparser::ast::{
    self, ArrayElemTypeDef, ColumnDef, ColumnOption, ColumnOptionDef, CreateTable,
    CreateTableOptions, DataType, EnumMember, Expr, GeneratedAs, GeneratedExpressionMode, Ident,
    ObjectName, SqlOption, TableConstraint,
};
use sqlparser::tokenizer::Span as Place;

use super::changes::SHOWN_WHERE_NAMED;
use super::virtual_columns::unmarked;
use super::{Reader, Script};
use crate::codes;
use crate::diagnostic::Diagnostic;
use crate::dialect::remarks::inherits;
use crate::history::Operation;
use crate::history::sql::members;
use crate::schema::{
    Database, Default_, Entity, Field, Function, Generated, Identity, PrimaryKey, Type, Unique,
};
use crate::server::postgresql::{self, SERIAL};

/// Further SQL texts, in small letters, of the functions that fill in a value. Declarations keep
/// these as they are written; a script means no more by them than by the usual ones.
const FUNCTIONS: &[(&str, Function)] = &[
    ("localtimestamp", Function::Now),
    ("transaction_timestamp()", Function::Now),
    ("current_date()", Function::Today),
    ("curdate()", Function::Today),
    ("gen_random_uuid()", Function::RandomUuid),
    ("uuid()", Function::RandomUuid),
    ("lower(hex(randomblob(16)))", Function::RandomUuid),
];

impl Reader {
    pub(super) fn create_table(&mut self, script: &Script<'_>, table: CreateTable) {
        let name = self.stored_name(&table.name);
        // SQLite's own tables are no part of a schema (documentation, "Internal Schema Objects").
        if table.temporary || (self.database == Database::Sqlite && name.starts_with("sqlite_")) {
            return;
        }
        if table.partition_of.is_some() {
            self.parts.insert(self.address(&table.name));
            return self.left_out.push((format!("part `{name}`"), script.whole()));
        }
        let known = self.table(&self.address(&table.name)).is_some();
        if table.if_not_exists && known {
            return;
        }
        if table.or_replace && known {
            self.step(script, Operation::DropTable { table: self.address(&table.name) });
        }
        if table.query.is_some() || table.like.is_some() {
            self.diagnostics.push(
                Diagnostic::of(
                    &codes::TABLE_FROM_QUERY,
                    format!(
                        "the columns of `{name}` are those of a query or of another table: they \
                         were not read"
                    ),
                )
                .at(Some(script.whole()), "made from something else")
                .with_help("read the table from the database itself, or from a dump of it"),
            );
        }
        let mut entity =
            Entity::stored(self.namespace(&table.name), &name, script.origin(name_place(&table)));
        for parent in table.inherits.iter().flatten() {
            self.inherit(script, parent, &mut entity);
        }
        let mut places: HashMap<String, usize> = entity
            .fields
            .iter()
            .enumerate()
            .map(|(at, field)| (field.column.clone(), at))
            .collect();
        for column in &table.columns {
            let field = self.field(script, column, &name);
            match places.entry(field.column.clone()) {
                Entry::Occupied(place) => entity.fields[*place.get()] = field,
                Entry::Vacant(place) => {
                    place.insert(entity.fields.len());
                    entity.fields.push(field);
                }
            }
        }
        for column in &table.columns {
            self.column_constraints(script, column, &mut entity);
        }
        for constraint in &table.constraints {
            self.constraint(script, constraint, &mut entity);
        }
        entity.comment = table
            .comment
            .as_ref()
            .map(comment_text)
            .or_else(|| options_comment(&table.table_options))
            .filter(|text| !text.is_empty());
        self.row_number(&mut entity);
        if self.database == Database::PostgreSql {
            unique_keys(&mut entity);
        }
        let key = entity.key_columns().to_vec();
        if self.database == Database::Sqlite {
            self.keys_that_take_null(&table, &entity);
        }
        entity
            .fields
            .iter_mut()
            .filter(|field| key.contains(&field.column))
            .for_each(|field| field.nullable = false);
        self.step(script, Operation::CreateTable(Box::new(entity)));
    }

    /// SQLite keeps null in a key that does not say NOT NULL and is not the number of the row (its
    /// documentation of CREATE TABLE, section 3.5). The schema has no such keys.
    fn keys_that_take_null(&mut self, table: &CreateTable, entity: &Entity) {
        let numbered = matches!(entity.key_columns(), [column]
            if entity.field(column).is_some_and(|field| field.r#type == Type::Integer));
        if numbered {
            return;
        }
        for field in entity.key_columns().iter().filter_map(|column| entity.field(column)) {
            let same = |name: &Ident| self.name(name) == field.column;
            let says = |option: &ColumnOptionDef| option.option == ColumnOption::NotNull;
            if table
                .columns
                .iter()
                .filter(|column| same(&column.name))
                .any(|column| column.options.iter().any(says))
            {
                continue;
            }
            let message =
                format!("`{}.{}` is of the key and may be null", entity.table, field.column);
            let diagnostic = Diagnostic::of(&codes::KEY_TAKES_NULL, message)
                .at(field.origin.span(), "does not say NOT NULL");
            self.diagnostics.push(
                diagnostic
                    .because("SQLite keeps any number of rows whose key is null")
                    .with_help("say NOT NULL"),
            );
        }
    }

    /// A child table has its parent's columns and checks, and no more of it (PostgreSQL's
    /// documentation, section 5.10).
    fn inherit(&mut self, script: &Script<'_>, parent: &ObjectName, entity: &mut Entity) {
        let address = self.address(parent);
        if let Some(parent) = self.table(&address) {
            let missing =
                parent.fields.iter().filter(|field| entity.field(&field.column).is_none()).cloned();
            let mut fields: Vec<Field> = missing.collect();
            fields.iter_mut().for_each(|field| field.identity = None);
            let checks = parent.checks.clone();
            entity.fields.extend(fields);
            entity.checks.extend(checks);
        }
        self.diagnostics
            .push(inherits(&entity.table, &address).at(Some(script.whole()), "a child table"));
    }

    /// SQLite numbers a key that is one `INTEGER` column (documentation, "ROWIDs and the INTEGER
    /// PRIMARY KEY").
    fn row_number(&self, entity: &mut Entity) {
        let Some(PrimaryKey { columns, .. }) = &entity.primary_key else { return };
        let [only] = columns.as_slice() else { return };
        if let Some(field) = entity.fields.iter_mut().find(|field| field.column == *only)
            && self.database == Database::Sqlite
            && field.stored == "integer"
        {
            field.identity = field.identity.or(Some(Identity::ByDefault));
        }
    }

    /// A column without the constraints written beside it.
    pub(super) fn field(&mut self, script: &Script<'_>, column: &ColumnDef, table: &str) -> Field {
        let name = self.name(&column.name);
        let (mut ty, mut stored) = self.column_type(script, &column.data_type, table, &name);
        let word = column.data_type.to_string().to_lowercase();
        let serial = SERIAL.contains(&word.as_str()) && self.database == Database::PostgreSql;
        if serial {
            ty = match word.as_str() {
                "bigserial" | "serial8" => Type::BigInt,
                "smallserial" | "serial2" => Type::SmallInt,
                _ => Type::Integer,
            };
            stored = postgresql::type_name(&ty, "").into_owned();
        }
        // MySQL's manual, "Numeric Type Syntax": a number without a sign that numbers its rows.
        let numbers = self.database.is_mysql() && word == "serial";
        if numbers {
            (ty, stored) = (Type::UnsignedBigInt, "bigint unsigned".to_owned());
        }
        let mut field = Field::plain(None, name, ty, stored.into());
        field.nullable = true;
        field.origin = script.origin(column.name.span);
        if serial {
            (field.identity, field.nullable) = (Some(Identity::Sequence), false);
        } else if numbers {
            (field.identity, field.nullable) = (Some(Identity::ByDefault), false);
        }
        for option in &column.options {
            self.option(&mut field, &option.option);
            if let Some(what) = beside(&option.option) {
                self.unread_at(script, column.name.span, what);
            }
        }
        field
    }

    /// The enumeration that a type names, or a list of it.
    fn enum_of(&self, data_type: &DataType) -> Option<Type> {
        match data_type {
            DataType::Custom(name, modifiers) if modifiers.is_empty() => {
                let name = self.stored_name(name);
                self.enums.contains(&name).then_some(Type::Enum(name))
            }
            DataType::Array(ArrayElemTypeDef::SquareBracket(element, _)) => {
                Some(Type::Array(Box::new(self.enum_of(element)?)))
            }
            _ => None,
        }
    }

    /// The type and what the server holds; an enumeration of MySQL is written in place.
    pub(super) fn column_type(
        &mut self,
        script: &Script<'_>,
        data_type: &DataType,
        table: &str,
        column: &str,
    ) -> (Type, String) {
        let text = data_type.to_string();
        if let DataType::Enum(values, _) = data_type {
            let values = values.iter().map(|member| match member {
                EnumMember::Name(name) | EnumMember::NamedValue(name, _) => name.clone(),
            });
            let name = format!("{table}_{column}");
            let mut enumeration =
                self.enumeration(&name, values.collect(), script.origin(Place::empty()));
            (enumeration.inline, enumeration.stored_name) = (true, None);
            let stored = format!("enum({})", members(&enumeration, Database::MySql).join(","));
            if !self.enums.insert(name.clone()) {
                self.tables.schema.enums.retain(|known| known.name != name);
            }
            self.tables.schema.enums.push(enumeration);
            return (Type::Enum(name), stored);
        }
        let ty = self.enum_of(data_type).unwrap_or_else(|| self.read_type(&text));
        // Ten digits where none are said (manual, "Fixed-Point Types").
        if self.database.is_mysql() && ty == (Type::Numeric { precision: None, scale: None }) {
            let ty = Type::Numeric { precision: Some(10), scale: Some(0) };
            return (ty, "decimal(10,0)".to_owned());
        }
        let stored = match (self.database, &ty) {
            (Database::PostgreSql, Type::Enum(name)) => name.clone(),
            (Database::PostgreSql, Type::Native(name)) => name.clone(),
            (Database::PostgreSql, _) => {
                postgresql::type_name(&ty, crate::schema::enum_name(&ty).unwrap_or_default())
                    .into_owned()
            }
            _ => text.to_lowercase(),
        };
        (ty, stored)
    }

    fn option(&mut self, field: &mut Field, option: &ColumnOption) {
        match option {
            ColumnOption::Null => field.nullable = true,
            ColumnOption::NotNull | ColumnOption::PrimaryKey(_) => field.nullable = false,
            ColumnOption::Default(value) => self.default(field, value),
            ColumnOption::Comment(text) => {
                field.comment = Some(text.clone()).filter(|text| !text.is_empty())
            }
            ColumnOption::Collation(name) => field.collation = Some(self.stored_name(name)),
            ColumnOption::OnUpdate(value) => {
                field.on_update.database = self.value(value, &field.r#type).map(Box::new)
            }
            ColumnOption::Generated {
                generated_as,
                generation_expr: Some(expression),
                generation_expr_mode,
                ..
            } => {
                let stored = *generation_expr_mode == Some(GeneratedExpressionMode::Stored)
                    || *generated_as == GeneratedAs::ExpStored;
                let marked = unmarked(expression);
                let expression = self.expression(&[], marked.unwrap_or(expression));
                field.generated =
                    Some(Box::new(Generated { expression, stored: stored && marked.is_none() }));
            }
            ColumnOption::Generated { generated_as, generation_expr: None, .. } => {
                field.identity = Some(if *generated_as == GeneratedAs::Always {
                    Identity::Always
                } else {
                    Identity::ByDefault
                });
                field.nullable = false;
            }
            ColumnOption::DialectSpecific(tokens) => {
                let word =
                    tokens.iter().map(ToString::to_string).collect::<String>().to_uppercase();
                match word.as_str() {
                    "AUTOINCREMENT" => field.identity = Some(Identity::AutoIncrement),
                    "AUTO_INCREMENT" => field.identity = Some(Identity::ByDefault),
                    _ => {
                        field.extras.insert(word.to_lowercase(), true.into());
                    }
                }
            }
            ColumnOption::CharacterSet(name) => {
                field.extras.insert("character set".into(), name.to_string().into());
            }
            // Keys, uniques, references and checks are read with the table.
            ColumnOption::Unique(_) | ColumnOption::ForeignKey(_) | ColumnOption::Check(_) => {}
            other => {
                field.extras.insert("option".into(), other.to_string().into());
            }
        }
    }

    /// The constraints beside a column, as the table's.
    pub(super) fn column_constraints(
        &mut self,
        script: &Script<'_>,
        column: &ColumnDef,
        entity: &mut Entity,
    ) {
        if self.database.is_mysql() && column.data_type.to_string().eq_ignore_ascii_case("serial") {
            let unique = Unique { columns: vec![self.name(&column.name)], ..Unique::default() };
            entity.uniques.push(Unique { origin: script.origin(column.name.span), ..unique });
        }
        for option in &column.options {
            let constraint = match option.option.clone() {
                ColumnOption::PrimaryKey(mut key) => {
                    key.columns = vec![column.name.clone().into()];
                    key.name = option.name.clone();
                    TableConstraint::PrimaryKey(key)
                }
                ColumnOption::Unique(mut unique) => {
                    unique.columns = vec![column.name.clone().into()];
                    unique.name = option.name.clone();
                    TableConstraint::Unique(unique)
                }
                ColumnOption::ForeignKey(mut key) => {
                    key.columns = vec![column.name.clone()];
                    key.name = option.name.clone();
                    TableConstraint::ForeignKey(key)
                }
                ColumnOption::Check(mut check) => {
                    check.name = option.name.clone();
                    TableConstraint::Check(check)
                }
                _ => continue,
            };
            self.constraint(script, &constraint, entity);
        }
    }

    /// A default; the next value of a sequence is an identity.
    pub(super) fn default(&self, field: &mut Field, value: &Expr) {
        let mut whole = value;
        while let Expr::Cast { expr, .. } | Expr::Nested(expr) = whole {
            whole = expr;
        }
        let next = matches!(whole, Expr::Function(function)
            if function.name.to_string().eq_ignore_ascii_case("nextval"));
        if next {
            field.identity = Some(Identity::Sequence);
        } else {
            field.defaults.database = self.value(value, &field.r#type).map(Box::new);
        }
    }

    /// `ARRAY[...]` of constants, cast to its type or not.
    fn array(&self, value: &Expr) -> Option<Vec<Value>> {
        let mut inner = value;
        while let Expr::Cast { expr, .. } | Expr::Nested(expr) = inner {
            inner = expr;
        }
        let Expr::Array(array) = inner else { return None };
        let constant = |item: &Expr| match self.expression(&[], item).tree {
            Some(crate::schema::expression::Tree::Literal(value)) => Some(value),
            _ => None,
        };
        array.elem.iter().map(constant).collect()
    }

    /// A text that does not stand in single quotes: in double ones on MariaDB, MySQL and, for want
    /// of a column that could be meant, SQLite; between dollars on PostgreSQL.
    fn text_in_other_quotes(&self, value: &Expr) -> Option<String> {
        let double = self.database.is_mysql() || self.database == Database::Sqlite;
        match value {
            Expr::Identifier(name) if double && name.quote_style == Some('"') => {
                Some(name.value.clone())
            }
            Expr::Value(value) => match &value.value {
                ast::Value::DoubleQuotedString(text) if double => Some(text.clone()),
                ast::Value::DollarQuotedString(text) => Some(text.value.clone()),
                _ => None,
            },
            _ => None,
        }
    }

    /// What a default or an update fills in; null is nothing.
    fn value(&self, value: &Expr, ty: &Type) -> Option<Default_> {
        let mut inner = value;
        while let Expr::Nested(nested) = inner {
            inner = nested;
        }
        if let Some(text) = self.text_in_other_quotes(inner) {
            return Some(Default_::Literal(of_type(text.into(), ty)));
        }
        let folded = inner.to_string().to_lowercase();
        if folded == "localtime" && self.database.is_mysql() {
            return Some(Default_::Function(Function::Now));
        }
        let with_digits = folded.split_once("timestamp(").or_else(|| folded.split_once("now("));
        let bare = with_digits.filter(|(_, rest)| rest.trim_end_matches(')').parse::<u8>().is_ok());
        let bare = bare.map_or(folded.as_str(), |_| "current_timestamp");
        let own =
            || FUNCTIONS.iter().find(|(known, _)| *known == bare).map(|(_, function)| *function);
        if let Some(function) = Default_::function(bare).or_else(own) {
            return Some(Default_::Function(function));
        }
        if let Some(items) = self.array(inner) {
            return Some(Default_::Literal(Value::Array(items)));
        }
        let expression = self.expression(&[], inner);
        match expression.tree {
            Some(crate::schema::expression::Tree::Literal(Value::Null)) => None,
            Some(crate::schema::expression::Tree::Literal(value)) => {
                Some(Default_::Literal(of_type(value, ty)))
            }
            _ => Some(Default_::Expression(Box::new(expression))),
        }
    }
}

/// `{a,"b,c"}`, PostgreSQL's text of an array (documentation, 8.15.2).
fn array_text(text: &str) -> Option<Vec<Value>> {
    let inside = text.strip_prefix('{')?.strip_suffix('}')?;
    let mut items = Vec::new();
    let mut item = String::new();
    let (mut quoted, mut any, mut letters) = (false, false, inside.chars());
    while let Some(letter) = letters.next() {
        match letter {
            '"' => (quoted, any) = (!quoted, true),
            '\\' => item.extend(letters.next()),
            ',' if !quoted => items.push(std::mem::take(&mut item)),
            '{' if !quoted => return None,
            other => item.push(other),
        }
    }
    if any || !item.is_empty() || !items.is_empty() {
        items.push(item);
    }
    Some(
        items
            .into_iter()
            .map(|item| {
                serde_json::from_str::<serde_json::Number>(&item)
                    .map_or(Value::String(item), Value::Number)
            })
            .collect(),
    )
}

/// The small numbers of MariaDB and MySQL, which have no other name.
fn is_small_number(ty: &Type) -> bool {
    let small = ["tinyint", "mediumint", "year"];
    matches!(ty, Type::Native(word) if small.iter().any(|small| word.starts_with(small)))
}

/// A constant as a value of the column's type: servers write numbers, truth values and JSON as
/// texts too.
pub(super) fn of_type(value: Value, ty: &Type) -> Value {
    match (ty, &value) {
        (Type::Boolean, Value::String(text)) => match text.to_lowercase().as_str() {
            "t" | "true" | "1" | "yes" | "on" => true.into(),
            "f" | "false" | "0" | "no" | "off" => false.into(),
            _ => value,
        },
        (Type::Boolean, Value::Number(number)) => (number.as_i64() != Some(0)).into(),
        (ty, Value::String(text))
            if ty.is_whole_number()
                || matches!(ty, Type::Real | Type::Double)
                || is_small_number(ty) =>
        {
            serde_json::from_str::<serde_json::Number>(text).map_or(value.clone(), Value::Number)
        }
        (Type::Numeric { .. }, Value::Number(number)) => number.to_string().into(),
        (ty, Value::String(text)) if ty.is_json() => {
            serde_json::from_str(text).unwrap_or(value.clone())
        }
        (Type::Array(_), Value::String(text)) => array_text(text).map_or(value, Value::Array),
        _ => value,
    }
}

/// What an option says beside what the schema holds.
fn beside(option: &ColumnOption) -> Option<&'static str> {
    match option {
        ColumnOption::Invisible => Some(SHOWN_WHERE_NAMED),
        ColumnOption::Srid(_) => Some("the system of reference of a place"),
        ColumnOption::OnConflict(_) => Some("what becomes of rows that are in conflict"),
        _ => None,
    }
}

/// PostgreSQL makes one constraint of several on the same columns: the first of them, and the key
/// under the name of the first that has one (as seen in 15.18 to 18.6).
fn unique_keys(entity: &mut Entity) {
    let mut known: Vec<Vec<String>> = Vec::new();
    let (key, uniques) = (&mut entity.primary_key, &mut entity.uniques);
    uniques.retain(|unique| {
        let of_key = key.as_mut().filter(|key| key.columns == unique.columns);
        if let Some(key) = of_key {
            key.name = key.name.take().or_else(|| unique.name.clone());
            return false;
        }
        let first = !known.contains(&unique.columns);
        known.push(unique.columns.clone());
        first
    });
}

fn name_place(table: &CreateTable) -> Place {
    table.name.0.last().and_then(|part| part.as_ident()).map_or_else(Place::empty, |name| name.span)
}

fn comment_text(comment: &ast::CommentDef) -> String {
    match comment {
        ast::CommentDef::WithEq(text) | ast::CommentDef::WithoutEq(text) => text.clone(),
    }
}

/// `COMMENT = '...'` after the columns.
fn options_comment(options: &CreateTableOptions) -> Option<String> {
    let (CreateTableOptions::With(options)
    | CreateTableOptions::Options(options)
    | CreateTableOptions::Plain(options)
    | CreateTableOptions::TableProperties(options)) = options
    else {
        return None;
    };
    options.iter().find_map(|option| match option {
        SqlOption::Comment(comment) => Some(comment_text(comment)),
        _ => None,
    })
}
