//! Tables that are made in one piece, and tables that are changed through a block.

use smol_str::SmolStr;

use super::super::run::{Arguments, Done, Object, Run, Value};
use super::reference::{addressed, parted};
use super::{Command, Steps};
use crate::declaration::{Attribute, FieldDeclaration, Form, Model, ReferenceDeclaration, Said};
use crate::dialect::release::at_least;
use crate::schema::{Database, Default_, Type};
use crate::source::Span;
use crate::types;

/// A table in the block that makes or changes it.
pub(super) enum Open {
    /// Made as a whole at the end of the block; what its name is as it is written.
    New { name: String, model: Box<Model>, later: Vec<String>, key: Vec<String> },
    /// Changed call by call.
    Known { name: String },
}

/// What methods of a table in a block are as calls of the migration.
const CHANGES: &[(&str, &str)] = &[
    ("belongs_to", "add_reference"),
    ("change", "change_column"),
    ("change_default", "change_column_default"),
    ("change_null", "change_column_null"),
    ("check_constraint", "add_check_constraint"),
    ("column", "add_column"),
    ("disable_index", "disable_index"),
    ("enable_index", "enable_index"),
    ("exclusion_constraint", "add_exclusion_constraint"),
    ("foreign_key", "add_foreign_key"),
    ("index", "add_index"),
    ("references", "add_reference"),
    ("remove_belongs_to", "remove_reference"),
    ("remove_check_constraint", "remove_check_constraint"),
    ("remove_exclusion_constraint", "remove_exclusion_constraint"),
    ("remove_foreign_key", "remove_foreign_key"),
    ("remove_index", "remove_index"),
    ("remove_references", "remove_reference"),
    ("remove_timestamps", "remove_timestamps"),
    ("remove_unique_constraint", "remove_unique_constraint"),
    ("rename", "rename_column"),
    ("rename_index", "rename_index"),
    ("timestamps", "add_timestamps"),
    ("unique_constraint", "add_unique_constraint"),
    ("validate_check_constraint", "validate_check_constraint"),
    ("validate_constraint", "validate_constraint"),
];

/// Questions that a table in a block answers of itself.
const QUESTIONS: &[&str] =
    &["column_exists?", "index_exists?", "foreign_key_exists?", "check_constraint_exists?"];

impl<'p> Steps<'_, 'p> {
    /// A call on a table in a block.
    pub(super) fn on_table(
        &mut self,
        run: &mut Run<'_, 'p>,
        at: usize,
        name: &str,
        arguments: Arguments<'p>,
        span: Span,
    ) -> Done<'p> {
        match self.open.get(at) {
            Some(Open::New { .. }) => self.in_new_table(run, at, name, arguments, span),
            Some(Open::Known { name: table }) => {
                let table = table.clone();
                self.in_known_table(run, &table, name, arguments, span)
            }
            None => Ok(Value::Nil),
        }
    }

    fn in_known_table(
        &mut self,
        run: &mut Run<'_, 'p>,
        table: &str,
        name: &str,
        mut arguments: Arguments<'p>,
        span: Span,
    ) -> Done<'p> {
        arguments.unfold();
        let named = Value::text(table);
        if name == "name" {
            return Ok(named);
        }
        if QUESTIONS.contains(&name) {
            arguments.list.insert(0, named);
            return self.on_migration(run, name, arguments, span);
        }
        if let "references" | "belongs_to" | "remove_references" | "remove_belongs_to" = name {
            let call = CHANGES.iter().find(|(known, _)| *known == name).map_or(name, |(_, to)| to);
            for one in std::mem::take(&mut arguments.list) {
                let list = vec![named.clone(), one];
                let command = Command {
                    name: call.into(),
                    arguments: Arguments { list, ..arguments.clone() },
                    span,
                };
                self.command(run, command)?;
            }
            return Ok(Value::Nil);
        }
        if name == "remove" {
            arguments.list.insert(0, named);
            return self.command(run, Command { name: "remove_columns".into(), arguments, span });
        }
        if let Some((_, call)) = CHANGES.iter().find(|(known, _)| *known == name) {
            arguments.list.insert(0, named);
            return self.command(run, Command { name: (*call).into(), arguments, span });
        }
        if name == "primary_key" || types::is_method(name, self.database) {
            for column in std::mem::take(&mut arguments.list) {
                let list = vec![named.clone(), column, Value::text(name)];
                let arguments = Arguments { list, ..arguments.clone() };
                self.command(run, Command { name: "add_column".into(), arguments, span })?;
            }
            return Ok(Value::Nil);
        }
        self.unread(span, "no method of a table that is known");
        Ok(Value::Nil)
    }

    fn in_new_table(
        &mut self,
        run: &mut Run<'_, 'p>,
        at: usize,
        name: &str,
        mut arguments: Arguments<'p>,
        span: Span,
    ) -> Done<'p> {
        arguments.unfold();
        let Some(Open::New { name: table, .. }) = self.open.get(at) else {
            return Ok(Value::Nil);
        };
        let table = table.clone();
        let texts = |values: &[Value<'p>]| -> Option<Vec<SmolStr>> {
            values.iter().map(Value::as_text).collect()
        };
        match name {
            "name" => return Ok(Value::text(table)),
            "column" => {
                let Some([column, method]) =
                    texts(&arguments.list).and_then(|all| <[SmolStr; 2]>::try_from(all).ok())
                else {
                    self.unread(span, "its name or its type is not known");
                    return Ok(Value::Nil);
                };
                self.new_column(run, at, (&column, &method), arguments, span);
            }
            "references" | "belongs_to" => {
                let Some(names) = texts(&arguments.list) else {
                    self.unread(span, "its name is not known");
                    return Ok(Value::Nil);
                };
                for name in names {
                    self.new_reference(run, at, (&table, &name), arguments.clone(), span);
                }
            }
            "timestamps" => self.stamps(run, arguments, span).into_iter().for_each(|column| {
                self.put(at, column);
            }),
            "index"
            | "foreign_key"
            | "check_constraint"
            | "exclusion_constraint"
            | "unique_constraint" => self.new_constraint(run, (at, &table), name, arguments, span),
            "primary_key" => {
                let Some(column) = arguments.first_text() else {
                    self.unread(span, "its name is not known");
                    return Ok(Value::Nil);
                };
                let of = arguments.list.get(1).and_then(Value::as_text);
                let of = of.unwrap_or_else(|| "primary_key".into());
                let key = self.key_column(run, (&column, &of), &mut arguments, span);
                self.put(at, key);
            }
            "column_exists?" | "index_exists?" => return Ok(Value::Unknown(span)),
            method if types::is_method(method, self.database) => {
                let Some(columns) = texts(&arguments.list) else {
                    self.unread(span, "its name is not known");
                    return Ok(Value::Nil);
                };
                for column in columns {
                    self.new_column(run, at, (&column, method), arguments.clone(), span);
                }
            }
            _ => self.unread(span, "no method of a table that is known"),
        }
        Ok(Value::Nil)
    }

    fn new_reference(
        &mut self,
        run: &mut Run<'_, 'p>,
        at: usize,
        (table, name): (&str, &str),
        mut arguments: Arguments<'p>,
        span: Span,
    ) {
        let made = self.reference(run, (table, name), &mut arguments, span);
        made.columns.into_iter().for_each(|column| self.put(at, column));
        let key = made.key.map(|key| self.inside_table(key));
        self.with_new(at, |model| {
            model.indexes.extend(made.index);
            model.references.extend(key);
        });
    }

    /// What a new table gets beside its columns.
    fn new_constraint(
        &mut self,
        run: &mut Run<'_, 'p>,
        (at, table): (usize, &str),
        name: &str,
        mut arguments: Arguments<'p>,
        span: Span,
    ) {
        match name {
            "index" => {
                let columns = arguments.first().and_then(Value::as_texts).unwrap_or_default();
                let over: Vec<&str> = columns.iter().map(String::as_str).collect();
                let index = self.index(run, table, &over, &mut arguments, span);
                self.with_new(at, |model| model.indexes.extend(index));
            }
            "foreign_key" => {
                let Some(to) = arguments.first_text() else {
                    return self.unread(span, "its table is not known");
                };
                let key = self.foreign_key(run, (table, &to), &mut arguments, span);
                let key = self.inside_table(key);
                self.with_new(at, |model| model.references.push(key));
            }
            "check_constraint" => {
                let check = self.check(run, table, &mut arguments, span);
                self.with_new(at, |model| model.checks.extend(check));
            }
            "exclusion_constraint" => {
                let check = self.exclusion(run, table, &mut arguments, span);
                self.with_new(at, |model| model.exclusions.extend(check));
            }
            _ => {
                let unique = self.unique(table, &mut arguments, span);
                self.with_new(at, |model| model.uniques.extend(unique));
            }
        }
    }

    /// A foreign key as it is made together with its table: 7.0.10 does not say there when it is
    /// checked.
    fn inside_table(&self, mut key: ReferenceDeclaration) -> ReferenceDeclaration {
        key.deferrable = key.deferrable.filter(|_| self.since(7, 1));
        key
    }

    fn new_column(
        &mut self,
        run: &mut Run<'_, 'p>,
        at: usize,
        (name, method): (&str, &str),
        mut options: Arguments<'p>,
        span: Span,
    ) {
        if let Some(statement) = self.listed(run, at, (name, method), &mut options) {
            if let Some(Open::New { later, .. }) = self.open.get_mut(at) {
                later.push(statement);
            }
            return;
        }
        let key = options.take("primary_key").is_some_and(|said| said.holds() == Some(true));
        let index = options.take("index").filter(|said| said.holds() == Some(true));
        let column = if key || method == "primary_key" {
            // Disregards the bracket where it is typed.
            let method = if method == "primary_key" { "bigint" } else { method };
            self.key_column(run, (name, method), &mut options, span)
        } else {
            self.column(run, (name, method), &mut options, span)
        };
        self.put(at, column);
        let Some(said) = index else { return };
        let Some(Open::New { name: table, .. }) = self.open.get(at) else { return };
        let table = table.clone();
        let mut of_index = Arguments::of(vec![said]);
        of_index.unfold();
        of_index.list.clear();
        let index = self.index(run, &table, &[name], &mut of_index, span);
        self.with_new(at, |model| model.indexes.extend(index));
    }

    /// The statement that makes a column whose type lists its values.
    fn listed(
        &mut self,
        run: &mut Run<'_, 'p>,
        at: usize,
        (name, method): (&str, &str),
        options: &mut Arguments<'p>,
    ) -> Option<String> {
        let Some(Open::New { name: table, .. }) = self.open.get(at) else { return None };
        let table = table.clone();
        self.listed_column(run, &table, (name, method), options)
    }

    /// The same of a table that is there.
    pub(super) fn listed_column(
        &mut self,
        run: &mut Run<'_, 'p>,
        table: &str,
        (name, method): (&str, &str),
        options: &mut Arguments<'p>,
    ) -> Option<String> {
        let lists = method.starts_with("enum(") || method.starts_with("set(");
        if !lists || !self.database.is_mysql() {
            return None;
        }
        let mut statement = format!("ALTER TABLE `{table}` ADD COLUMN `{name}` {method}");
        if options.take("null").and_then(|null| null.holds()) == Some(false) {
            statement.push_str(" NOT NULL");
        }
        let default = options.take("default").and_then(|value| match value {
            Value::Block(_) => self.sql_of(run, &value),
            value => value.as_text().map(|text| format!("'{}'", text.replace('\'', "''"))),
        });
        statement.extend(default.map(|text| format!(" DEFAULT {text}")));
        Some(statement)
    }

    /// Puts a column into a table; of two by one name the last counts, where that is not refused.
    fn put(&mut self, at: usize, column: FieldDeclaration) {
        self.with_new(at, |model| {
            let same = model.attributes.iter().position(|attribute| {
                matches!(attribute, Attribute::Field(known) if known.column == column.column)
            });
            let field = Attribute::Field(Box::new(column));
            match same {
                Some(same) => model.attributes[same] = field,
                None => model.attributes.push(field),
            }
        });
    }

    fn with_new(&mut self, at: usize, change: impl FnOnce(&mut Model)) {
        if let Some(Open::New { model, .. }) = self.open.get_mut(at) {
            change(model);
        }
    }

    /// The columns of `timestamps`.
    pub(super) fn stamps(
        &mut self,
        run: &mut Run<'_, 'p>,
        mut options: Arguments<'p>,
        span: Span,
    ) -> Vec<FieldDeclaration> {
        if options.named("null").is_none() {
            let null = Value::Boolean(!self.bracket.requires_timestamps());
            options.named.push(("null".into(), null));
        }
        if options.named("precision").is_none() {
            let digits = self.bracket.digits_of_timestamps();
            let digits = digits.map_or(Value::Nil, |digits| Value::number(digits.into()));
            options.named.push(("precision".into(), digits));
        }
        ["created_at", "updated_at"]
            .map(|name| self.column(run, (name, "datetime"), &mut options.clone(), span))
            .into()
    }

    pub(super) fn create_table(
        &mut self,
        run: &mut Run<'_, 'p>,
        name: &str,
        mut options: Arguments<'p>,
        span: Span,
    ) -> Done<'p> {
        options.unfold();
        let force = options.take("force").filter(|force| force.holds() == Some(true));
        let careful = options.take("if_not_exists").is_some_and(|said| said.holds() == Some(true));
        let there = self.made(&addressed(name)).is_some();
        if there && careful {
            return Ok(Value::Nil);
        }
        if there && force.is_some() && self.unsure == 0 {
            let cascade = force.and_then(|force| force.as_text());
            self.drop_table(name, cascade.as_deref() == Some("cascade"), span);
        }
        let (namespace, table) = parted(name);
        let model = Model {
            name: table.to_owned(),
            table: Some(table.to_owned()),
            namespace: namespace.map(str::to_owned),
            form: Form::Table,
            comment: self.comment(&mut options),
            key: Some(Vec::new()),
            span: Some(span),
            ..Model::default()
        };
        let at = self.open.len();
        let (later, key) = (Vec::new(), Vec::new());
        let new = Open::New { name: name.to_owned(), model: Box::new(model), later, key };
        self.open.push(new);
        let temporary = options.take("temporary").is_some_and(|said| said.holds() == Some(true));
        let query = options.take("as").map(|query| self.sql_of(run, &query));
        match query {
            Some(query) => {
                let columns = query.and_then(|query| self.of_query(&query));
                if columns.is_none() {
                    self.unread(span, "its columns are those of a query");
                }
                columns.into_iter().flatten().for_each(|column| self.put(at, column));
            }
            None => self.key(run, at, &mut options, span),
        }
        let left = match options.block.clone() {
            Some(block) => run.block(&block, vec![Value::Object(Object::Table(at))], self),
            None => Ok(Value::Nil),
        };
        if temporary {
            self.temporary.push(addressed(name));
        }
        self.close(span);
        left
    }

    /// The columns of a query that takes some of a table: their types, and nothing else.
    fn of_query(&mut self, query: &str) -> Option<Vec<FieldDeclaration>> {
        let words: Vec<&str> = query.split_whitespace().collect();
        let from = words.iter().position(|word| word.eq_ignore_ascii_case("from"))?;
        let first = words.first()?.eq_ignore_ascii_case("select");
        let entity = self.made(&addressed(words.get(from + 1)?)).filter(|_| first)?;
        let listed = words[1..from].join(" ");
        let names = listed.split(',').map(str::trim);
        let mut held_words = Vec::new();
        let column = |name: &str| {
            let field = entity.field(name)?;
            // MariaDB and MySQL take more of a column along.
            let more = self.database.is_mysql();
            let zero = || Some(Box::new(Default_::Literal(0.into())));
            let default = match field.identity {
                Some(_) => zero(),
                None => field.defaults.database.clone(),
            };
            let held = self.is_sqlite().then(|| affinity(&field.r#type));
            let spelling = match held {
                Some(word) => self.spelled(word),
                None => self.spelled_of(&field.r#type, &field.stored),
            };
            held_words.extend(held.map(|word| (name.to_owned(), word.to_owned())));
            Some(FieldDeclaration {
                column: Some(name.to_owned()),
                spelling,
                nullable: Some(field.nullable || !more),
                database_default: default.filter(|_| more),
                ..FieldDeclaration::default()
            })
        };
        let columns = names.map(column).collect();
        self.held.extend(held_words);
        columns
    }

    /// Makes the table whose block has ended.
    fn close(&mut self, span: Span) {
        let Some(Open::New { name, mut model, later, key }) = self.open.pop() else { return };
        keyed(&mut model);
        let model = self.understood(*model);
        self.say(Said::CreateTable(Box::new(model)), span);
        if !key.is_empty() {
            let said = Said::SetKey { table: addressed(&name), columns: key, name: None };
            self.say(said, span);
        }
        for statement in later {
            self.sql(&statement, span);
        }
    }

    /// The key of a table, by the options of the call that makes it.
    fn key(&mut self, run: &mut Run<'_, 'p>, at: usize, options: &mut Arguments<'p>, span: Span) {
        let id = options.take("id").unwrap_or(Value::text("primary_key"));
        let named = options.take("primary_key");
        // A list makes no column by itself, even one of one name.
        let is_listed = matches!(named, Some(Value::List(_)));
        let named = named.and_then(|key| key.as_texts());
        let mut of_key = Arguments::none();
        for name in ["default", "limit", "unsigned", "precision", "scale"] {
            of_key.named.extend(options.take(name).map(|value| (name.into(), value)));
        }
        let method = match id {
            Value::Map(_) => {
                let mut said = Arguments::of(vec![id]);
                said.unfold();
                let method = said.take("type").and_then(|of| of.as_text());
                of_key.named.extend(said.named);
                method.unwrap_or_else(|| "primary_key".into())
            }
            id => match id.as_text() {
                Some(method) => method,
                // Nothing, or no.
                None => return,
            },
        };
        match named.as_deref() {
            Some([name]) if !is_listed => {
                let key = self.key_column(run, (name, &method), &mut of_key, span);
                self.put(at, key);
            }
            Some(names) => {
                if let Some(Open::New { key, .. }) = self.open.get_mut(at) {
                    *key = names.to_vec();
                }
            }
            None => {
                let key = self.key_column(run, ("id", &method), &mut of_key, span);
                self.put(at, key);
            }
        }
    }

    pub(super) fn drop_table(&mut self, name: &str, cascade: bool, span: Span) {
        let table = addressed(name);
        if cascade && self.is_postgresql() {
            let schema = &self.replay.tables.schema;
            let refers = |entity: &crate::schema::Entity| -> Vec<(String, String)> {
                let keys = entity.foreign_keys.iter();
                let to_it = keys.filter(|key| key.references.address() == table);
                to_it.filter_map(|key| Some((entity.address(), key.name.clone()?))).collect()
            };
            let keys: Vec<_> = schema.entities.iter().flat_map(refers).collect();
            for (of, name) in keys.into_iter().filter(|(of, _)| *of != table) {
                self.say(Said::DropNamed { table: Some(of), name }, span);
            }
        }
        self.say(Said::DropTable { table }, span);
    }

    pub(super) fn create_join_table(
        &mut self,
        run: &mut Run<'_, 'p>,
        mut arguments: Arguments<'p>,
        span: Span,
    ) -> Done<'p> {
        arguments.unfold();
        let (Some(first), Some(second)) =
            (arguments.first_text(), arguments.list.get(1).and_then(Value::as_text))
        else {
            self.unread(span, "its tables are not known");
            return Ok(Value::Nil);
        };
        let name = arguments.take("table_name").and_then(|name| name.as_text());
        let name = name.map_or_else(|| join_table_name(&first, &second), Into::into);
        let mut of_columns = Arguments::of(arguments.take("column_options").into_iter().collect());
        of_columns.unfold();
        of_columns.list.clear();
        for (option, value) in [("null", Value::Boolean(false)), ("index", Value::Boolean(false))] {
            if of_columns.named(option).is_none() {
                of_columns.named.push((option.into(), value));
            }
        }
        let block = arguments.block.take();
        arguments.named.push(("id".into(), Value::Boolean(false)));
        arguments.list.clear();
        arguments.list.push(Value::text(name.as_str()));
        let at = self.open.len();
        let (namespace, table) = parted(&name);
        let careful = arguments.take("if_not_exists").is_some_and(|s| s.holds() == Some(true));
        if careful && self.made(&addressed(&name)).is_some() {
            return Ok(Value::Nil);
        }
        let model = Model {
            name: table.to_owned(),
            table: Some(table.to_owned()),
            namespace: namespace.map(str::to_owned),
            form: Form::Table,
            comment: self.comment(&mut arguments),
            key: Some(Vec::new()),
            span: Some(span),
            ..Model::default()
        };
        let (later, key) = (Vec::new(), Vec::new());
        let new = Open::New { name: name.clone(), model: Box::new(model), later, key };
        self.open.push(new);
        for table in [&first, &second] {
            let one = run.words.singular(parted(table).1);
            let of_one = of_columns.clone();
            let call = Arguments { list: vec![Value::text(one)], ..of_one };
            self.in_new_table(run, at, "references", call, span)?;
        }
        let left = match block {
            Some(block) => run.block(&block, vec![Value::Object(Object::Table(at))], self),
            None => Ok(Value::Nil),
        };
        self.close(span);
        left
    }

    pub(super) fn change_table(
        &mut self,
        run: &mut Run<'_, 'p>,
        name: &str,
        arguments: &Arguments<'p>,
    ) -> Done<'p> {
        let at = self.open.len();
        self.open.push(Open::Known { name: name.to_owned() });
        let bulk = arguments.named("bulk").and_then(Value::holds) == Some(true);
        let around = std::mem::replace(&mut self.in_bulk, bulk);
        let left = match &arguments.block {
            Some(block) => run.block(block, vec![Value::Object(Object::Table(at))], self),
            None => Ok(Value::Nil),
        };
        self.open.truncate(at);
        self.in_bulk = around;
        left
    }

    /// Whether a table is kept apart by the server's rows: SQLite numbers rows by themselves.
    pub(super) fn is_sqlite(&self) -> bool {
        self.database == Database::Sqlite
    }

    /// Whether the release is this one or a later one.
    pub(super) fn since(&self, major: u32, minor: u32) -> bool {
        at_least(&self.release, (major, minor))
    }
}

/// What a join table is called that nobody named.
pub(in crate::read) fn join_table_name(first: &str, second: &str) -> String {
    let (first, second) = if first <= second { (first, second) } else { (second, first) };
    // What both begin with, up to a `_` or a point, stands once.
    let shared = first
        .char_indices()
        .filter(|(_, letter)| matches!(letter, '_' | '.'))
        .map(|(at, _)| at + 1)
        .filter(|at| *at < first.len() && second.len() > *at)
        .filter(|at| second.is_char_boundary(*at) && first[..*at] == second[..*at])
        .max();
    match shared {
        Some(at) => format!("{first}_{}", &second[at..]),
        None => format!("{first}_{second}"),
    }
}

/// What SQLite calls a column of a query.
fn affinity(ty: &Type) -> &'static str {
    match ty {
        ty if ty.is_whole_number() => "int",
        ty if ty.is_text() => "text",
        Type::Real | Type::Double => "real",
        Type::Binary(_) => "",
        _ => "num",
    }
}

/// A key that columns say for themselves is not said of the table as well.
fn keyed(model: &mut Model) {
    let of_column =
        |attribute: &Attribute| matches!(attribute, Attribute::Field(field) if field.key);
    if model.attributes.iter().any(of_column) {
        model.key = None;
    }
}
