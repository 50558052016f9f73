//! Calls of a migration that change tables.

use smol_str::SmolStr;

use super::super::run::{Arguments, Done, Object, Run, Value};
use super::reference::{addressed, parted};
use super::{Command, DIRECTED, Steps};
use crate::declaration::{Attribute, ColumnChange, FieldDeclaration, Form, Model, Said};
use crate::names;
use crate::schema::{EnumMember, EnumType, Identity, Type};
use crate::source::Span;

/// Calls that change tables, or what columns are made of.
const CHANGES: &[&str] = &[
    "add_belongs_to",
    "add_check_constraint",
    "add_column",
    "add_columns",
    "add_enum_value",
    "add_exclusion_constraint",
    "add_foreign_key",
    "add_index",
    "add_reference",
    "add_timestamps",
    "add_unique_constraint",
    "change_column",
    "change_column_comment",
    "change_column_default",
    "change_column_null",
    "change_table_comment",
    "create_enum",
    "create_join_table",
    "create_schema",
    "create_table",
    "create_virtual_table",
    "disable_extension",
    "disable_index",
    "drop_enum",
    "drop_join_table",
    "drop_schema",
    "drop_table",
    "drop_virtual_table",
    "enable_extension",
    "enable_index",
    "execute",
    "remove_belongs_to",
    "remove_check_constraint",
    "remove_column",
    "remove_columns",
    "remove_exclusion_constraint",
    "remove_foreign_key",
    "remove_index",
    "remove_reference",
    "remove_timestamps",
    "remove_unique_constraint",
    "rename_column",
    "rename_enum",
    "rename_enum_value",
    "rename_index",
    "rename_schema",
    "rename_table",
    "validate_check_constraint",
    "validate_constraint",
    "validate_foreign_key",
];

/// Calls for which SQLite's tables are made anew.
const REBUILDS: &[&str] = &[
    "add_check_constraint",
    "add_foreign_key",
    "change_column",
    "change_column_default",
    "change_column_null",
    "remove_check_constraint",
    "remove_column",
    "remove_columns",
    "remove_foreign_key",
    "remove_reference",
    "remove_belongs_to",
    "remove_timestamps",
    "rename_column",
];

/// Calls of these names run SQL.
const SQL: &[&str] = &[
    "exec_query",
    "exec_update",
    "exec_insert",
    "exec_delete",
    "select_all",
    "update",
    "insert",
    "delete",
];

/// Calls that say nothing of tables.
const SILENT: &[&str] = &[
    "announce",
    "clear_cache!",
    "copy",
    "disable_ddl_transaction!",
    "extend",
    "include",
    "reset_column_information",
    "reset_sequence!",
    "reset_pk_sequence!",
    "say",
    "schema_cache",
    "set_pk_sequence!",
    "write",
];

impl<'p> Steps<'_, 'p> {
    /// A call of a migration, or on its connection.
    pub(super) fn on_migration(
        &mut self,
        run: &mut Run<'_, 'p>,
        name: &str,
        mut arguments: Arguments<'p>,
        span: Span,
    ) -> Done<'p> {
        if CHANGES.contains(&name) {
            return self.command(run, Command { name: name.into(), arguments, span });
        }
        if let Some(answer) = self.question(run, name, &arguments, span) {
            return Ok(answer);
        }
        match name {
            "connection" | "current_connection" | "lease_connection" | "connection_pool"
            | "raw_connection" => Ok(Value::Object(Object::Connection)),
            "change_table" => {
                arguments.unfold();
                let Some(table) = arguments.first_text() else {
                    self.unread(span, "its table is not known");
                    return Ok(Value::Nil);
                };
                self.change_table(run, &table, &arguments)
            }
            "reversible" => match arguments.block {
                Some(block) => run.block(&block, vec![Value::Object(Object::Direction)], self),
                None => Ok(Value::Nil),
            },
            "up_only" if !self.backwards => {
                let command = Command { name: DIRECTED.into(), arguments, span };
                self.command(run, command)
            }
            "up_only" => Ok(Value::Nil),
            "reverting?" => Ok(Value::Boolean(self.backwards)),
            "revert" => self.revert(run, arguments, span),
            "run" => self.run_of(run, &arguments, span),
            _ if SILENT.contains(&name) => Ok(Value::Nil),
            _ if SQL.contains(&name) => {
                // Data, unless it is put together to change tables.
                Ok(Value::Unknown(span))
            }
            _ if name.starts_with("select_") || name.starts_with("quote") => {
                Ok(Value::Unknown(span))
            }
            // What wraps steps: whatever it does besides, they are taken.
            _ if arguments.block.is_some() => self.block_of(run, arguments.block.as_ref()),
            _ => {
                self.unread(span, "neither the framework's nor in the files that are read");
                Ok(Value::Unknown(span))
            }
        }
    }

    /// `revert { }`, and `revert OtherMigration`.
    fn revert(&mut self, run: &mut Run<'_, 'p>, arguments: Arguments<'p>, span: Span) -> Done<'p> {
        for class in &arguments.list {
            let Value::Class(name) = class else {
                self.unread(span, "what it takes back is not known");
                continue;
            };
            let name = name.clone();
            if run.program.method(&name, "change").is_some() {
                self.taken_back(run, |steps, run| steps.other(run, &name, "change", span))?;
            } else {
                self.other(run, &name, "down", span)?;
            }
        }
        if let Some(block) = arguments.block {
            self.taken_back(run, |steps, run| run.block(&block, Vec::new(), steps).map(drop))?;
        }
        Ok(Value::Nil)
    }

    /// `run OtherMigration`.
    fn run_of(&mut self, run: &mut Run<'_, 'p>, arguments: &Arguments<'p>, span: Span) -> Done<'p> {
        for class in &arguments.list {
            if let Value::Class(name) = class {
                let name = name.clone();
                let way = if run.program.method(&name, "up").is_some() { "up" } else { "change" };
                self.other(run, &name, way, span)?;
            }
        }
        Ok(Value::Nil)
    }

    /// Runs a method of another migration, by the rules of that one.
    fn other(
        &mut self,
        run: &mut Run<'_, 'p>,
        class: &SmolStr,
        method: &str,
        span: Span,
    ) -> Result<(), super::Stop<'p>> {
        let Some(bracket) = super::super::migrations::bracket_of(run.program, class) else {
            self.unread(span, "the other migration is not in the files that are read");
            return Ok(());
        };
        let around = std::mem::replace(&mut self.bracket, bracket);
        let own = Value::Class(class.clone());
        let file = span.file;
        let scope = super::Scope::new(file, class.clone(), own.clone(), None);
        let left = run.method(&scope, Some(own), method, Arguments::none(), span, self);
        self.bracket = around;
        left.map(drop)
    }

    /// Takes a command.
    pub(super) fn perform(&mut self, run: &mut Run<'_, 'p>, command: Command<'p>) -> Done<'p> {
        let Command { name, mut arguments, span } = command;
        arguments.unfold();
        if self.beside_tables(&name, &mut arguments, span) {
            return Ok(Value::Nil);
        }
        match name.as_str() {
            DIRECTED => {
                let recorded = self.recorded.take();
                let done = self.block_of(run, arguments.block.as_ref());
                self.recorded = recorded;
                return done;
            }
            "execute" => return self.execute(run, &arguments, span),
            "create_join_table" => return self.create_join_table(run, arguments, span),
            _ => {}
        }
        let Some(table) = arguments.first_text() else {
            self.unread(span, "its table is not known");
            return Ok(Value::Nil);
        };
        arguments.list.remove(0);
        // What is added is there under the name that it was given.
        if self.is_sqlite() && self.rebuilds_first(&name, &arguments) {
            self.rebuilt(&table);
        }
        match name.as_str() {
            "create_table" => {
                arguments.list.clear();
                return self.create_table(run, &table, arguments, span);
            }
            "drop_table" => {
                let cascade = arguments.take("force").and_then(|force| force.as_text());
                let careful = said(&mut arguments, "if_exists");
                let rest = arguments.list.iter().filter_map(Value::as_text);
                for table in std::iter::once(table.clone()).chain(rest) {
                    if !careful || self.made(&addressed(&table)).is_some() {
                        self.drop_table(&table, cascade.as_deref() == Some("cascade"), span);
                    }
                }
            }
            "rename_table" => self.rename_table(&table, &arguments, span),
            "change_table_comment" => {
                let text = to_of(&mut arguments, 0).and_then(|text| text.as_text());
                let text = text.filter(|_| !self.is_sqlite()).map(String::from);
                self.say(Said::CommentTable { table: addressed(&table), text }, span);
            }
            "add_timestamps" => {
                let columns = self.stamps(run, arguments, span);
                self.add(&table, columns, span);
            }
            "remove_timestamps" => {
                for column in ["created_at", "updated_at"] {
                    self.remove_column(&table, column, span);
                }
            }
            "add_reference" | "add_belongs_to" => self.add_reference(run, &table, arguments, span),
            "remove_reference" | "remove_belongs_to" => {
                self.remove_reference(run, &table, arguments, span)
            }
            name if name.contains("_column") => self.of_column(run, name, &table, arguments, span),
            name if name.ends_with("_index") => self.of_index(run, name, &table, arguments, span),
            name => self.of_constraint(run, name, &table, arguments, span),
        }
        if self.is_sqlite() && REBUILDS.contains(&name.as_str()) && !name.starts_with("add_") {
            self.rebuilt(&table);
        }
        Ok(Value::Nil)
    }

    /// Takes a command that names no table, or changes nothing that is told of one; whether it is
    /// such a command.
    fn beside_tables(&mut self, name: &str, arguments: &mut Arguments<'p>, span: Span) -> bool {
        match name {
            "create_enum" | "drop_enum" | "add_enum_value" | "rename_enum"
            | "rename_enum_value" => self.of_enumeration(name, arguments.clone(), span),
            "enable_extension"
            | "disable_extension"
            | "create_schema"
            | "enable_index"
            | "disable_index"
            | "create_virtual_table"
            | "drop_virtual_table" => {}
            name if name.starts_with("validate_") => {}
            "rename_schema" | "drop_schema" => self.of_schema(name, arguments),
            "drop_join_table" => self.drop_join_table(arguments, span),
            _ => return false,
        }
        true
    }

    /// Whether a table must be made anew for what a call adds.
    fn rebuilds_first(&self, name: &str, arguments: &Arguments<'p>) -> bool {
        let given = |option: &str| arguments.named(option).and_then(Value::holds);
        let required = given("null") == Some(false) && arguments.named("default").is_none();
        match name {
            "add_reference" | "add_belongs_to" => given("foreign_key") == Some(true) || required,
            "add_column" | "add_timestamps" => required,
            name => name.starts_with("add_") && REBUILDS.contains(&name),
        }
    }

    /// SQLite changes little of a table: the framework makes it anew and copies its rows. Foreign
    /// keys get the names then that nobody gave, and fixed texts become others.
    fn rebuilt(&mut self, table: &str) {
        let keeps_numbers = self.since(7, 1);
        let keeps_sizes = keeps_numbers || !self.since(7, 0);
        let Some(entity) = self.replay.tables.get_mut(&addressed(table)) else { return };
        for field in &mut entity.fields {
            if field.identity.is_some() && !keeps_numbers {
                field.identity = Some(Identity::ByDefault);
            }
            if field.r#type == Type::BigInt && !keeps_sizes {
                (field.r#type, field.stored) = (Type::Integer, "integer".into());
            }
            if let Type::Char(length) = field.r#type {
                field.r#type = Type::Varchar(length);
                field.stored = field.stored.replace("char", "varchar").into();
            }
        }
        for key in &mut entity.foreign_keys {
            let columns: Vec<&str> = key.columns.iter().map(String::as_str).collect();
            key.name = Some(names::foreign_key(table, &columns));
        }
    }

    /// Puts columns into a table that is there.
    fn add(&mut self, table: &str, columns: Vec<FieldDeclaration>, span: Span) {
        let attributes =
            columns.into_iter().map(|column| Attribute::Field(Box::new(column))).collect();
        self.add_parts(table, Model { attributes, ..Model::default() }, span);
    }

    pub(super) fn add_parts(&mut self, table: &str, parts: Model, span: Span) {
        let (namespace, bare) = parted(table);
        let parts = Model {
            name: bare.to_owned(),
            table: Some(bare.to_owned()),
            namespace: namespace.map(str::to_owned),
            form: Form::Table,
            ..parts
        };
        let parts = self.understood(parts);
        self.say(Said::Add { table: addressed(table), parts: Box::new(parts) }, span);
    }

    fn of_column(
        &mut self,
        run: &mut Run<'_, 'p>,
        name: &str,
        table: &str,
        mut arguments: Arguments<'p>,
        span: Span,
    ) {
        if matches!(name, "remove_columns" | "add_columns") {
            return self.of_columns(run, name, table, arguments, span);
        }
        let Some(column) = arguments.first_text() else {
            return self.unread(span, "its column is not known");
        };
        let there = |steps: &Self| {
            steps.made(&addressed(table)).is_some_and(|made| made.field(&column).is_some())
        };
        match name {
            "add_column" => {
                let careful = said(&mut arguments, "if_not_exists");
                if careful && there(self) {
                    return;
                }
                let Some(method) = arguments.list.get(1).and_then(Value::as_text) else {
                    return self.unread(span, "its type is not known");
                };
                if let Some(text) =
                    self.listed_column(run, table, (&column, &method), &mut arguments)
                {
                    return self.sql(&text, span);
                }
                let declared = match (method.as_str(), said(&mut arguments, "primary_key")) {
                    ("primary_key", _) | (_, true) => {
                        let of = if method == "primary_key" { "bigint" } else { &method };
                        self.key_column(run, (&column, of), &mut arguments, span)
                    }
                    _ => self.column(run, (&column, &method), &mut arguments, span),
                };
                self.add(table, vec![declared], span);
            }
            "remove_column" => {
                let careful = said(&mut arguments, "if_exists");
                if !careful || there(self) {
                    self.remove_column(table, &column, span);
                }
            }
            "rename_column" => {
                let Some(to) = arguments.list.get(1).and_then(Value::as_text) else {
                    return self.unread(span, "its new name is not known");
                };
                self.rename_column(table, &column, &to, span);
            }
            "change_column" => self.change_column(run, table, &column, arguments, span),
            "change_column_default" => {
                let Some(value) = to_of(&mut arguments, 1) else {
                    return self.unread(span, "its new default is not known");
                };
                let spelling = self.spelling_of(table, &column);
                let default = self.default(run, &value, &spelling, span).map(|default| *default);
                let change =
                    ColumnChange { database_default: Some(default), ..ColumnChange::default() };
                self.alter(table, &column, change, span);
            }
            "change_column_null" => {
                let null = arguments.list.get(1).and_then(Value::holds).unwrap_or(false);
                let change = ColumnChange { nullable: Some(null), ..ColumnChange::default() };
                self.alter(table, &column, change, span);
            }
            _ => {
                let text = to_of(&mut arguments, 1).and_then(|text| text.as_text());
                if !self.is_sqlite() {
                    let comment = Some(text.map(String::from));
                    let change = ColumnChange { comment, ..ColumnChange::default() };
                    self.alter(table, &column, change, span);
                }
            }
        }
    }

    fn of_columns(
        &mut self,
        run: &mut Run<'_, 'p>,
        name: &str,
        table: &str,
        mut arguments: Arguments<'p>,
        span: Span,
    ) {
        let Some(columns) = arguments.list.iter().map(Value::as_text).collect::<Option<Vec<_>>>()
        else {
            return self.unread(span, "its columns are not known");
        };
        if name == "remove_columns" {
            return columns.iter().for_each(|column| self.remove_column(table, column, span));
        }
        let Some(method) = arguments.take("type").and_then(|of| of.as_text()) else {
            return self.unread(span, "its type is not known");
        };
        let declared = columns
            .iter()
            .map(|column| self.column(run, (column, &method), &mut arguments.clone(), span))
            .collect();
        self.add(table, declared, span);
    }

    fn alter(&mut self, table: &str, column: &str, change: ColumnChange, span: Span) {
        let (table, column) = (addressed(table), column.to_owned());
        self.say(Said::AlterColumn { table, column, change: Box::new(change) }, span);
    }

    fn remove_column(&mut self, table: &str, column: &str, span: Span) {
        // SQLite says nothing of a column that is not there.
        let there = self.made(&addressed(table)).is_some_and(|made| made.field(column).is_some());
        if there || !self.is_sqlite() || self.unsure > 0 {
            let (table, column) = (addressed(table), column.to_owned());
            self.say(Said::DropColumn { table, column }, span);
        }
    }

    fn rename_column(&mut self, table: &str, column: &str, to: &str, span: Span) {
        let said = Said::RenameColumn {
            table: addressed(table),
            column: column.to_owned(),
            to: to.to_owned(),
        };
        self.say(said, span);
        if self.in_bulk && self.database.is_mysql() {
            // One statement for all changes renames no index.
            return;
        }
        let before = |columns: &[String]| {
            let named = |name: &String| if name == to { column.to_owned() } else { name.clone() };
            let has_it = columns.iter().any(|name| name == to);
            has_it.then(|| (table.to_owned(), columns.iter().map(named).collect()))
        };
        self.rename_automatic(table, before, span);
    }

    fn rename_table(&mut self, table: &str, arguments: &Arguments<'p>, span: Span) {
        let Some(to) = arguments.first_text() else {
            return self.unread(span, "its new name is not known");
        };
        let (table_address, new) = (addressed(table), parted(&to).1.to_owned());
        self.say(Said::RenameTable { table: table_address, to: new }, span);
        let before = |columns: &[String]| Some((table.to_owned(), columns.to_vec()));
        self.rename_automatic(&to, before, span);
    }

    /// The type of a column as it is now.
    fn spelling_of(&self, table: &str, column: &str) -> crate::declaration::Spelling {
        let made = self.made(&addressed(table)).and_then(|made| made.field(column));
        made.map_or_else(Default::default, |field| self.spelled_of(&field.r#type, &field.stored))
    }

    fn change_column(
        &mut self,
        run: &mut Run<'_, 'p>,
        table: &str,
        column: &str,
        mut arguments: Arguments<'p>,
        span: Span,
    ) {
        let Some(method) = arguments.list.get(1).and_then(Value::as_text) else {
            return self.unread(span, "its type is not known");
        };
        arguments.take("using");
        arguments.take("cast_as");
        let null = arguments.named("null").and_then(Value::holds);
        let default = arguments.named("default").cloned();
        let comment = arguments.named("comment").cloned();
        let declared = self.column(run, (column, &method), &mut arguments, span);
        if self.is_sqlite() {
            let attributes = vec![Attribute::Field(Box::new(declared))];
            let parts = Box::new(Model { attributes, form: Form::Table, ..Model::default() });
            let (table, column) = (addressed(table), column.to_owned());
            return self.say(Said::ReplaceColumn { table, column, parts }, span);
        }
        let change = ColumnChange {
            spelling: Some(declared.spelling),
            nullable: null,
            database_default: default.map(|_| declared.database_default.map(|value| *value)),
            comment: comment.map(|_| declared.comment),
        };
        self.alter(table, column, change, span);
    }

    fn add_reference(
        &mut self,
        run: &mut Run<'_, 'p>,
        table: &str,
        mut arguments: Arguments<'p>,
        span: Span,
    ) {
        let Some(name) = arguments.first_text() else {
            return self.unread(span, "its name is not known");
        };
        let careful = said(&mut arguments, "if_not_exists");
        let made = self.reference(run, (table, &name), &mut arguments, span);
        let there = |column: &Option<String>| {
            let known = self.made(&addressed(table));
            column.as_ref().zip(known).is_some_and(|(column, known)| known.field(column).is_some())
        };
        if careful && made.columns.iter().all(|column| there(&column.column)) {
            return;
        }
        let columns = made.columns.into_iter().map(|column| Attribute::Field(Box::new(column)));
        let parts = Model {
            attributes: columns.collect(),
            indexes: made.index.into_iter().collect(),
            references: made.key.into_iter().collect(),
            ..Model::default()
        };
        self.add_parts(table, parts, span);
    }

    fn remove_reference(
        &mut self,
        run: &mut Run<'_, 'p>,
        table: &str,
        mut arguments: Arguments<'p>,
        span: Span,
    ) {
        let Some(name) = arguments.first_text() else {
            return self.unread(span, "its name is not known");
        };
        let polymorphic = said(&mut arguments, "polymorphic");
        let column = format!("{name}_id");
        if said(&mut arguments, "foreign_key") || arguments.named("foreign_key").is_some() {
            let to = run.words.plural(&name);
            let key =
                self.key_meant(run, table, Some(&to), Some(std::slice::from_ref(&column)), None);
            self.drop_key(table, key, span);
        }
        self.remove_column(table, &column, span);
        if polymorphic {
            self.remove_column(table, &format!("{name}_type"), span);
        }
    }

    fn of_index(
        &mut self,
        run: &mut Run<'_, 'p>,
        name: &str,
        table: &str,
        mut arguments: Arguments<'p>,
        span: Span,
    ) {
        let columns = match arguments.first() {
            Some(first) => first.as_texts(),
            None => arguments.take("column").and_then(|columns| columns.as_texts()),
        };
        match name {
            "add_index" => {
                let Some(columns) = columns else {
                    return self.unread(span, "its columns are not known");
                };
                let careful = said(&mut arguments, "if_not_exists");
                let over: Vec<&str> = columns.iter().map(String::as_str).collect();
                let Some(index) = self.index(run, table, &over, &mut arguments, span) else {
                    return;
                };
                let named = Arguments {
                    named: index
                        .name
                        .iter()
                        .map(|n| ("name".into(), Value::text(n.as_str())))
                        .collect(),
                    ..Arguments::none()
                };
                if careful && self.has_index(table, None, &named) {
                    return;
                }
                self.add_parts(table, Model { indexes: vec![index], ..Model::default() }, span);
            }
            "remove_index" => {
                let careful = said(&mut arguments, "if_exists");
                let named = arguments.take("name").and_then(|name| name.as_text());
                let found = self.index_meant(table, columns.as_deref(), named.as_deref());
                let found = found.map(str::to_owned);
                let Some(name) = found else {
                    if !careful {
                        let missing = named
                            .map(String::from)
                            .unwrap_or_else(|| columns.unwrap_or_default().join(", "));
                        let said = Said::DropNamed { table: Some(addressed(table)), name: missing };
                        self.say(said, span);
                    }
                    return;
                };
                self.say(Said::DropNamed { table: Some(addressed(table)), name }, span);
            }
            _ => {
                let to = arguments.list.get(1).and_then(Value::as_text);
                let (Some(name), Some(to)) = (arguments.first_text(), to) else {
                    return self.unread(span, "its names are not known");
                };
                let (table, name, to) = (addressed(table), name.into(), to.into());
                self.say(Said::RenameNamed { table, name, to }, span);
            }
        }
    }

    fn of_constraint(
        &mut self,
        run: &mut Run<'_, 'p>,
        name: &str,
        table: &str,
        mut arguments: Arguments<'p>,
        span: Span,
    ) {
        let careful = said(&mut arguments, "if_not_exists") || said(&mut arguments, "if_exists");
        match name {
            "add_foreign_key" => {
                let Some(to) = arguments.first_text() else {
                    return self.unread(span, "its table is not known");
                };
                let key = self.foreign_key(run, (table, &to), &mut arguments, span);
                let columns = key.columns.clone();
                let there = self.key_meant(run, table, Some(&to), Some(&columns), None);
                // SQLite does not hear it.
                if careful && there.is_some() && !self.is_sqlite() {
                    return;
                }
                self.add_parts(table, Model { references: vec![key], ..Model::default() }, span);
            }
            "remove_foreign_key" => {
                let to = arguments
                    .first_text()
                    .or_else(|| arguments.take("to_table").and_then(|to| to.as_text()));
                let columns = arguments.take("column").and_then(|columns| columns.as_texts());
                let named = arguments.take("name").and_then(|name| name.as_text());
                let key =
                    self.key_meant(run, table, to.as_deref(), columns.as_deref(), named.as_deref());
                if key.is_some() || !careful {
                    self.drop_key(table, key, span);
                }
            }
            "add_check_constraint" => {
                let Some(check) = self.check(run, table, &mut arguments, span) else { return };
                if !careful || !self.has_constraint(table, check.name.as_deref()) {
                    self.add_parts(table, Model { checks: vec![check], ..Model::default() }, span);
                }
            }
            "add_exclusion_constraint" => {
                let Some(check) = self.exclusion(run, table, &mut arguments, span) else { return };
                let parts = Model { exclusions: vec![check], ..Model::default() };
                self.add_parts(table, parts, span);
            }
            "add_unique_constraint" => {
                let using = arguments.named("using_index").and_then(Value::as_text);
                let Some(unique) = self.unique(table, &mut arguments, span) else { return };
                if let Some(name) = using {
                    // The index becomes the constraint's.
                    let name = name.into();
                    self.say(Said::DropNamed { table: Some(addressed(table)), name }, span);
                }
                self.add_parts(table, Model { uniques: vec![unique], ..Model::default() }, span);
            }
            "remove_check_constraint"
            | "remove_exclusion_constraint"
            | "remove_unique_constraint" => {
                let said = arguments.take("name").and_then(|name| name.as_text());
                let name = match said {
                    Some(name) => Some(name.to_string()),
                    None => self.automatic_name(run, name, table, &arguments),
                };
                let Some(name) = name else {
                    return self.unread(span, "its name is not known");
                };
                if !careful || self.has_constraint(table, Some(&name)) {
                    self.say(Said::DropNamed { table: Some(addressed(table)), name }, span);
                }
            }
            _ => self.unread(span, "no step that is known"),
        }
    }

    fn automatic_name(
        &mut self,
        run: &mut Run<'_, 'p>,
        name: &str,
        table: &str,
        arguments: &Arguments<'p>,
    ) -> Option<String> {
        let first = arguments.first()?.clone();
        Some(match name {
            "remove_unique_constraint" => {
                let columns = first.as_texts()?;
                names::unique(table, &columns.iter().map(String::as_str).collect::<Vec<_>>())
            }
            "remove_exclusion_constraint" => names::exclusion(table, &self.sql_of(run, &first)?),
            _ => names::check(table, &self.sql_of(run, &first)?),
        })
    }

    fn has_constraint(&self, table: &str, name: Option<&str>) -> bool {
        let Some(made) = self.made(&addressed(table)) else { return false };
        made.checks.iter().any(|check| check.name.as_deref() == name)
    }

    /// The name of the foreign key that a call means.
    pub(super) fn key_meant(
        &self,
        run: &Run<'_, 'p>,
        table: &str,
        to: Option<&str>,
        columns: Option<&[String]>,
        name: Option<&str>,
    ) -> Option<String> {
        let made = self.made(&addressed(table))?;
        let keys = made.foreign_keys.iter();
        let mut fits = keys.filter(|key| {
            let to_it = to.is_none_or(|to| key.references.address() == addressed(to));
            // Several lead there: the one that is called after the table is meant.
            to_it
                && columns.is_none_or(|columns| key.columns == columns)
                && name.is_none_or(|name| key.name.as_deref() == Some(name))
        });
        let usual = |to: &str| format!("{}_id", run.words.singular(parted(to).1));
        let first = fits.next()?;
        let by_name = to.filter(|_| columns.is_none() && name.is_none()).and_then(|to| {
            let usual = usual(to);
            std::iter::once(first).chain(fits).find(|key| key.columns == [usual.clone()])
        });
        by_name.unwrap_or(first).name.clone()
    }

    fn drop_key(&mut self, table: &str, name: Option<String>, span: Span) {
        let name = name.unwrap_or_else(|| "foreign key".into());
        self.say(Said::DropNamed { table: Some(addressed(table)), name }, span);
    }

    fn drop_join_table(&mut self, arguments: &mut Arguments<'p>, span: Span) {
        let name = arguments.take("table_name").and_then(|name| name.as_text());
        let second = arguments.list.get(1).and_then(Value::as_text);
        let name = name
            .map(String::from)
            .or_else(|| Some(super::table::join_table_name(&arguments.first_text()?, &second?)));
        let Some(name) = name else { return self.unread(span, "its tables are not known") };
        let careful = said(arguments, "if_exists");
        if !careful || self.made(&addressed(&name)).is_some() {
            self.say(Said::DropTable { table: addressed(&name) }, span);
        }
    }

    /// Named schemas of the database: their tables go, or move, with them.
    fn of_schema(&mut self, name: &str, arguments: &Arguments<'p>) {
        let Some(schema) = arguments.first_text() else { return };
        let to = arguments.list.get(1).and_then(Value::as_text);
        let inside: Vec<String> = self
            .replay
            .tables
            .schema
            .entities
            .iter()
            .filter(|entity| entity.namespace.as_deref() == Some(schema.as_str()))
            .map(crate::schema::Entity::address)
            .collect();
        for table in inside {
            match (name, &to) {
                ("rename_schema", Some(to)) => {
                    self.replay.tables.move_to(&table, Some(to.to_string()));
                }
                _ => {
                    drop(self.replay.tables.apply(&crate::history::Operation::DropTable { table }))
                }
            }
        }
    }

    fn execute(
        &mut self,
        run: &mut Run<'_, 'p>,
        arguments: &Arguments<'p>,
        span: Span,
    ) -> Done<'p> {
        let text = arguments.first().cloned().and_then(|text| self.sql_of(run, &text));
        let Some(text) = text else {
            // Texts that are put together of rows are data.
            if arguments.first().is_none_or(|text| text.unknown_inside().is_some()) {
                self.unread(span, "its text is not known");
            }
            return Ok(Value::Unknown(span));
        };
        self.sql(&text, span);
        Ok(Value::Unknown(span))
    }

    /// Runs SQL over the tables.
    pub(super) fn sql(&mut self, text: &str, span: Span) {
        if self.unsure > 0 {
            return;
        }
        let origin = self.origin(span);
        let found = self.statements.run(&mut self.replay.tables, text, span, &origin);
        self.diagnostics.extend(found);
    }

    /// An enumeration type by its name.
    pub(super) fn enumeration(&self, name: &str) -> Option<&EnumType> {
        self.replay.tables.schema.enums.iter().find(|known| known.name == name)
    }

    fn of_enumeration(&mut self, call: &str, mut arguments: Arguments<'p>, span: Span) {
        if !self.is_postgresql() {
            return;
        }
        let Some(name) = arguments.first_text() else {
            return self.unread(span, "its type is not known");
        };
        let known = self.enumeration(&name).cloned();
        let second = arguments.list.get(1).cloned();
        let member = |text: &str| EnumMember {
            name: text.to_owned(),
            value: text.into(),
            ..EnumMember::default()
        };
        let careful = said(&mut arguments, "if_exists") || said(&mut arguments, "if_not_exists");
        if call == "create_enum" {
            let Some(values) = second.and_then(|values| values.as_texts()) else {
                return self.unread(span, "its values are not known");
            };
            // Made again, the old one stays.
            if known.is_none() {
                let enumeration = EnumType {
                    name: name.to_string(),
                    stored_name: Some(name.to_string()),
                    members: values.iter().map(|value| member(value)).collect(),
                    module: String::new(),
                    inline: false,
                    origin: self.origin(span),
                };
                self.say(Said::CreateEnum(Box::new(enumeration)), span);
            }
            return;
        }
        if call == "drop_enum" {
            if known.is_some() || !careful {
                self.say(Said::DropEnum { name: name.into() }, span);
            }
            return;
        }
        let Some(mut to) = known else { return self.unread(span, "its type is not known") };
        let text = |value: Option<Value<'p>>| value.and_then(|value| value.as_text());
        let place =
            |to: &EnumType, name: &str| to.members.iter().position(|member| member.name == name);
        match call {
            "rename_enum" => {
                let Some(new) = text(second).or_else(|| text(arguments.take("to"))) else {
                    return self.unread(span, "its new name is not known");
                };
                (to.name, to.stored_name) = (new.to_string(), Some(new.to_string()));
            }
            "rename_enum_value" => {
                let (from, new) = (text(arguments.take("from")), text(arguments.take("to")));
                if let (Some(from), Some(new)) = (from, new)
                    && let Some(at) = place(&to, &from)
                {
                    to.members[at] = member(&new);
                }
            }
            _ => {
                let Some(value) = text(second) else {
                    return self.unread(span, "its value is not known");
                };
                if place(&to, &value).is_some() {
                    return;
                }
                let before = text(arguments.take("before")).and_then(|name| place(&to, &name));
                let after = text(arguments.take("after")).and_then(|name| place(&to, &name));
                let at = before.or(after.map(|at| at + 1)).unwrap_or(to.members.len());
                to.members.insert(at, member(&value));
            }
        }
        self.say(Said::AlterEnum { name: name.into(), to: Box::new(to) }, span);
    }
}

/// Whether an option is there and holds; taken out.
fn said(arguments: &mut Arguments<'_>, name: &str) -> bool {
    arguments.take(name).is_some_and(|value| value.holds() == Some(true))
}

/// The new value of a change: behind `to:`, or at its place.
fn to_of<'p>(arguments: &mut Arguments<'p>, at: usize) -> Option<Value<'p>> {
    match arguments.list.get(at) {
        Some(value) => Some(value.clone()),
        None => {
            arguments.take("from");
            arguments.take("to")
        }
    }
}
