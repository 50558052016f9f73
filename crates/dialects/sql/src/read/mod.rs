//! Scripts to schema operations, which are replayed as they are read. One file each lowers columns,
//! constraints and indexes, and changes of tables.

mod alter;
mod changes;
mod column;
mod conditional;
mod constraint;
mod elements;
mod virtual_columns;

use std::borrow::Cow;
use std::collections::HashSet;

use rayon::prelude::*;
use sqlparser::ast::{
    self, Ident, ObjectName, ObjectType, Statement as Parsed, UserDefinedTypeRepresentation,
};
use sqlparser::dialect::{Dialect as Grammar, MySqlDialect, PostgreSqlDialect, SQLiteDialect};
use sqlparser::parser::{Parser, ParserError};
use sqlparser::tokenizer::{Span as Place, Token, TokenWithSpan};

use changes::{Changes, changes};
use conditional::laid_open;
use elements::LeftOut;

use super::statements::{Statement, statements};
use crate::codes;
use crate::diagnostic::{Diagnostic, Severity};
use crate::dialect::Settings;
use crate::history::{Operation, Tables, impossible};
use crate::schema::expression::Tree;
use crate::schema::expression_sql::{Names, nests_too_far, tokens};
use crate::schema::{
    Check, Database, Default_, Entity, EnumMember, EnumType, Expression, Field, Origin, Schema,
    Source, Type, address,
};
use crate::server::{ServerRelease, index_references};
use crate::source::{FileId, SourceFile, Span};

/// Nesting that the parser follows.
const DEEPEST: usize = 64;

/// First words of statements that say nothing of tables.
const OTHER: &[&str] = &[
    "ANALYZE",
    "BEGIN",
    "CALL",
    "CHECKPOINT",
    "CLUSTER",
    "COMMIT",
    "DEALLOCATE",
    "DO",
    "END",
    "EXECUTE",
    "FLUSH",
    "GRANT",
    "LISTEN",
    "LOAD",
    "LOCK",
    "NOTIFY",
    "OPTIMIZE",
    "PRAGMA",
    "PREPARE",
    "REFRESH",
    "REINDEX",
    "RELEASE",
    "REPAIR",
    "RESET",
    "REVOKE",
    "ROLLBACK",
    "SAVEPOINT",
    "SECURITY",
    "SET",
    "SHOW",
    "START",
    "TRUNCATE",
    "UNLOCK",
    "USE",
    "VACUUM",
];

/// What `CREATE`, `ALTER`, `DROP` and `COMMENT ON` may name that is no part of a table.
const OTHER_OBJECTS: &[&str] = &[
    "ACCESS",
    "AGGREGATE",
    "CAST",
    "COLLATION",
    "CONVERSION",
    "DATABASE",
    "DEFINER",
    "EVENT",
    "EXTENSION",
    "FOREIGN",
    "FUNCTION",
    "GROUP",
    "LANGUAGE",
    "OPERATOR",
    "POLICY",
    "PROCEDURAL",
    "PROCEDURE",
    "PUBLICATION",
    "ROLE",
    "RULE",
    "SCHEMA",
    "SEQUENCE",
    "SERVER",
    "STATISTICS",
    "SUBSCRIPTION",
    "TABLESPACE",
    "TEXT",
    "TRIGGER",
    "USER",
    "DEFAULT",
    "ROUTINE",
    "CONSTRAINT",
];

/// Statements that are parsed, on all cores, before they take effect one after the other.
const PARSED_AT_ONCE: usize = 1024;

/// A statement of this server, parsed.
enum Understood {
    /// With what was left out of them.
    Statements(Vec<Parsed>, Vec<LeftOut>),
    Changes(Changes),
}

fn grammar(database: Database) -> &'static dyn Grammar {
    match database {
        Database::PostgreSql | Database::MongoDb => &PostgreSqlDialect {},
        Database::MySql | Database::MariaDb => &MySqlDialect {},
        Database::Sqlite => &SQLiteDialect {},
    }
}

/// Parses a statement; `head` are its first words.
fn parse(
    text: &str,
    head: &[String],
    server: ServerRelease,
    database: Database,
) -> Result<Understood, ParserError> {
    let grammar = grammar(database);
    let numbered = head.first().is_some_and(|word| word == "ALTER")
        && head.iter().any(|word| word == "GENERATED");
    let text = if numbered { understandable(text) } else { laid_open(text, server) };
    let mut tokens = tokens(&text, grammar)?;
    if database.is_mysql() {
        remainders(&mut tokens);
    }
    if nests_too_far(&tokens) {
        return Err(ParserError::RecursionLimitExceeded);
    }
    if database == Database::PostgreSql {
        tokens = virtual_columns::marked(tokens);
    }
    if let Some(changes) = changes(grammar, &tokens)? {
        return Ok(Understood::Changes(changes));
    }
    let elements::Known { tokens, left_out } = elements::known(tokens, head, database.is_mysql());
    let statements = Parser::new(grammar)
        .with_recursion_limit(DEEPEST)
        .with_tokens_with_locations(tokens)
        .parse_statements()?;
    Ok(Understood::Statements(statements, left_out))
}

/// `MOD` between two numbers is `%`, which the parser knows; MariaDB writes it so, behind a number,
/// a bracket or a name in quotes.
fn remainders(tokens: &mut [TokenWithSpan]) {
    let mut behind_number = false;
    for token in tokens {
        match &token.token {
            Token::Whitespace(_) => continue,
            Token::Word(word) if behind_number && word.value.eq_ignore_ascii_case("mod") => {
                token.token = Token::Mod;
                behind_number = false;
            }
            Token::Word(word) => behind_number = word.quote_style.is_some(),
            Token::Number(..) | Token::RParen => behind_number = true,
            _ => behind_number = false,
        }
    }
}

/// Reads scripts one after the other, as if they were run so.
pub(super) fn read(files: &[SourceFile], settings: &Settings) -> (Schema, Vec<Diagnostic>) {
    let (database, server) = (settings.database(), settings.server());
    let source = Source { dialect: "sql".into(), database, ..Source::default() };
    let tables = Tables::of(Schema::new(source));
    let mut reader = Reader::over(database, tables);
    for (at, file) in files.iter().enumerate() {
        let wanted = |statement: &Statement| {
            !statement.is_data() && !says_nothing_of_tables(&statement.head)
        };
        let mut statements = statements(&file.text, Some(database));
        reader.unread_modes(file, FileId(at as u32), &statements);
        statements.retain(wanted);
        for together in statements.chunks(PARSED_AT_ONCE) {
            let parsed: Vec<(Script<'_>, Result<Understood, ParserError>)> = together
                .par_iter()
                .map(|statement| {
                    let script = Script {
                        file,
                        id: FileId(at as u32),
                        start: statement.bytes.start,
                        end: statement.bytes.end,
                        within: None,
                    };
                    (script, parse(script.text(), &statement.head, server, database))
                })
                .collect();
            parsed.into_iter().for_each(|(script, parsed)| reader.statement(&script, parsed));
        }
    }
    reader.finish();
    (reader.tables.schema, reader.diagnostics)
}

/// Statements that stand in the code of a migration, run one after the other over the tables that
/// its other steps make.
pub struct Within {
    reader: Reader,
    server: ServerRelease,
}

impl Within {
    /// Nothing was run so far.
    pub fn new(settings: &Settings) -> Self {
        let source = Source { database: settings.database(), ..Source::default() };
        let reader = Reader::over(settings.database(), Tables::of(Schema::new(source)));
        Within { reader, server: settings.server() }
    }

    /// Runs what stands at a place of the code; whatever it makes comes from there. What cannot be
    /// read, or cannot be done, is told.
    pub fn run(
        &mut self,
        tables: &mut Tables,
        text: &str,
        at: Span,
        origin: &Origin,
    ) -> Vec<Diagnostic> {
        let Within { reader, server } = self;
        std::mem::swap(&mut reader.tables, tables);
        reader.enums = reader.tables.schema.enums.iter().map(|known| known.name.clone()).collect();
        let file = SourceFile::new("", text);
        let wanted = |statement: &Statement| {
            !statement.is_data() && !says_nothing_of_tables(&statement.head)
        };
        for statement in statements(text, Some(reader.database)).into_iter().filter(wanted) {
            let (start, end) = (statement.bytes.start, statement.bytes.end);
            let script =
                Script { file: &file, id: at.file, start, end, within: Some((at, origin)) };
            let parsed = parse(script.text(), &statement.head, *server, reader.database);
            reader.statement(&script, parsed);
        }
        std::mem::swap(&mut reader.tables, tables);
        std::mem::take(&mut reader.diagnostics)
    }

    /// An expression over columns of a table; what is not understood stays as it is.
    pub fn expression(&self, text: &str, fields: &[Field]) -> Expression {
        let parsed = tokens(text, grammar(self.reader.database)).ok().and_then(|tokens| {
            let mut parser =
                Parser::new(grammar(self.reader.database)).with_recursion_limit(DEEPEST);
            let deep = nests_too_far(&tokens);
            parser = parser.with_tokens_with_locations(tokens);
            let parsed = parser.parse_expr().ok().filter(|_| !deep)?;
            matches!(parser.peek_token().token, Token::EOF).then_some(parsed)
        });
        match parsed {
            Some(parsed) => self.reader.expression(fields, &parsed),
            None => Expression::parse_sql_of(text, self.reader.database),
        }
    }

    /// What was left out of all that was run: views, and tables that are parts of others.
    pub fn finish(mut self) -> Vec<Diagnostic> {
        self.reader.name_left_out();
        self.reader.diagnostics
    }
}

/// A statement in its file.
#[derive(Clone, Copy)]
struct Script<'s> {
    file: &'s SourceFile,
    id: FileId,
    start: usize,
    end: usize,
    /// Where the code stands that it is part of.
    within: Option<(Span, &'s Origin)>,
}

impl Script<'_> {
    fn text(&self) -> &str {
        &self.file.text[self.start..self.end]
    }

    /// The place of a node; the parser counts lines and characters from the statement's start.
    fn span(&self, place: Place) -> Span {
        if let Some((span, _)) = self.within {
            return span;
        }
        let offset = |line: u64, column: u64| {
            self.file.offset_from(self.start, line as usize, column as usize).min(self.end)
        };
        let (from, to) = (place.start, place.end);
        if from.line == 0 {
            return self.whole();
        }
        Span {
            file: self.id,
            start: offset(from.line, from.column) as u32,
            end: offset(to.line, to.column) as u32,
        }
    }

    /// The first line of the statement.
    fn whole(&self) -> Span {
        if let Some((span, _)) = self.within {
            return span;
        }
        let length = self.text().lines().next().map_or(0, |line| line.trim_end().len());
        Span { file: self.id, start: self.start as u32, end: (self.start + length) as u32 }
    }

    fn origin(&self, place: Place) -> Origin {
        match self.within {
            Some((_, origin)) => origin.clone(),
            None => Origin::declared(self.file, self.span(place)),
        }
    }
}

struct Reader {
    database: Database,
    tables: Tables,
    /// Names of the enumerations that there are.
    enums: HashSet<String>,
    diagnostics: Vec<Diagnostic>,
    /// Views, and tables that are parts of others.
    left_out: Vec<(String, Span)>,
    /// Addresses of views, and of tables that are parts of others.
    parts: HashSet<String>,
}

/// Modes of a session in which texts and names are written otherwise.
const MODES: &[(&str, &str)] = &[
    ("NO_BACKSLASH_ESCAPES", "that a backslash is a letter like others from here on"),
    ("ANSI_QUOTES", "that names stand in double quotes from here on"),
];

impl Reader {
    fn over(database: Database, tables: Tables) -> Self {
        Reader {
            database,
            tables,
            enums: HashSet::new(),
            diagnostics: Vec::new(),
            left_out: Vec::new(),
            parts: HashSet::new(),
        }
    }

    /// Names the modes that a script sets for itself. One that takes them out, as ours do, is what
    /// is read.
    fn unread_modes(&mut self, file: &SourceFile, id: FileId, statements: &[Statement]) {
        let mysql = self.database.is_mysql();
        let sets = |statement: &&Statement| {
            mysql && statement.head.first().is_some_and(|word| word == "SET")
        };
        for statement in statements.iter().filter(sets) {
            let (start, end) = (statement.bytes.start, statement.bytes.end);
            let script = Script { file, id, start, end, within: None };
            let text = script.text().to_uppercase();
            for (mode, what) in MODES {
                self.unread_of_key(
                    &script,
                    text.contains(mode) && !text.contains("REPLACE("),
                    what,
                );
            }
        }
    }

    fn statement(&mut self, script: &Script<'_>, parsed: Result<Understood, ParserError>) {
        match parsed {
            Ok(Understood::Changes(changes)) => self.alter_table(script, changes),
            Ok(Understood::Statements(parsed, left_out)) => {
                for LeftOut { what, place } in left_out {
                    self.unread_at(script, place, what);
                }
                parsed.into_iter().for_each(|parsed| self.parsed(script, parsed));
            }
            Err(error) => {
                let message = format!(
                    "this statement was not understood ({}); what it makes or changes is missing",
                    reason(&error)
                );
                self.diagnostics.push(
                    Diagnostic::of(&codes::UNREAD_STATEMENT, message)
                        .graded(Severity::Error)
                        .at(Some(script.whole()), "starts here")
                        .with_help(
                            "check that --database names the server that this script is for, or \
                             rewrite the statement in plain SQL",
                        ),
                );
            }
        }
    }

    fn parsed(&mut self, script: &Script<'_>, parsed: Parsed) {
        match parsed {
            Parsed::CreateTable(table) => self.create_table(script, table),
            Parsed::CreateIndex(index) => self.create_index(script, index),
            Parsed::CreateType {
                name,
                representation: Some(UserDefinedTypeRepresentation::Enum { labels }),
            } => {
                let values = labels.into_iter().map(|label| label.value).collect();
                let enumeration = self.enumeration(
                    &self.stored_name(&name),
                    values,
                    script.origin(Place::empty()),
                );
                self.step(script, Operation::CreateEnum(enumeration));
            }
            Parsed::Drop { object_type: ObjectType::Table, names, if_exists, .. } => {
                for name in names {
                    let table = self.address(&name);
                    if !if_exists || self.table(&table).is_some() {
                        self.step(script, Operation::DropTable { table });
                    }
                }
            }
            Parsed::Drop { object_type: ObjectType::Type, names, .. } => {
                for name in names {
                    let name = self.stored_name(&name);
                    self.step(script, Operation::DropEnum { name });
                }
            }
            Parsed::Drop { object_type: ObjectType::Index, names, if_exists, .. } => {
                for name in names {
                    self.drop_index(script, &self.stored_name(&name), if_exists);
                }
            }
            Parsed::RenameTable(renames) => {
                for rename in renames {
                    let (table, to) =
                        (self.address(&rename.old_name), self.stored_name(&rename.new_name));
                    self.step(script, Operation::RenameTable { table, to });
                }
            }
            Parsed::Comment { object_type, object_name, comment, .. } => {
                self.comment(script, object_type, object_name, comment)
            }
            Parsed::CreateView(view) => {
                self.parts.insert(self.address(&view.name));
                let named = format!("view `{}`", self.stored_name(&view.name));
                self.left_out.push((named, script.whole()));
            }
            Parsed::AlterType(change) => self.alter_type(script, change),
            Parsed::AlterSchema(change) => self.alter_schema(script, &change),
            Parsed::Drop { object_type: ObjectType::Schema, names, .. } => {
                names.iter().for_each(|name| self.drop_schema(script, &self.stored_name(name)))
            }
            Parsed::Drop { .. } => {}
            _ => self.diagnostics.push(
                Diagnostic::of(
                    &codes::UNREAD_STATEMENT,
                    "what this statement makes or changes is not read",
                )
                .at(Some(script.whole()), "this statement")
                .with_help("look whether a table depends on it"),
            ),
        }
    }

    fn comment(
        &mut self,
        script: &Script<'_>,
        of: ast::CommentObject,
        ObjectName(mut parts): ObjectName,
        text: Option<String>,
    ) {
        let column = match of {
            ast::CommentObject::Table => None,
            ast::CommentObject::Column => {
                parts.pop().and_then(|part| part.as_ident().map(|name| self.name(name)))
            }
            _ => return,
        };
        let table = self.address(&ObjectName(parts));
        // Columns of views have comments, too.
        if of == ast::CommentObject::Table || self.table(&table).is_some() {
            let text = text.filter(|text| !text.is_empty());
            self.step(script, Operation::Comment { table, column, text });
        }
    }

    /// The tables in a named schema of the database.
    fn inside(&self, schema: &str) -> Vec<String> {
        let entities = self.tables.schema.entities.iter();
        let inside = entities.filter(|entity| entity.namespace.as_deref() == Some(schema));
        inside.map(Entity::address).collect()
    }

    fn alter_schema(&mut self, script: &Script<'_>, change: &ast::AlterSchema) {
        let schema = self.stored_name(&change.name);
        for operation in &change.operations {
            match operation {
                ast::AlterSchemaOperation::Rename { name } => {
                    let to = self.stored_name(name);
                    for table in self.inside(&schema) {
                        self.tables.move_to(&table, Some(to.clone()));
                    }
                }
                ast::AlterSchemaOperation::OwnerTo { .. } => {}
                _ => self.unread_at(script, Place::empty(), "what it changes of the schema"),
            }
        }
    }

    /// Its tables go with it.
    fn drop_schema(&mut self, script: &Script<'_>, schema: &str) {
        for table in self.inside(schema) {
            self.step(script, Operation::DropTable { table });
        }
    }

    /// Takes a step, or says why it cannot be taken.
    fn step(&mut self, script: &Script<'_>, operation: Operation) {
        match &operation {
            Operation::CreateEnum(enumeration) => drop(self.enums.insert(enumeration.name.clone())),
            Operation::DropEnum { name } => drop(self.enums.remove(name)),
            _ => {}
        }
        if let Err(error) = self.tables.apply(&operation) {
            self.diagnostics.push(impossible(&error.why(), script.whole(), "this statement"));
        }
    }

    fn table(&self, table: &str) -> Option<&Entity> {
        self.tables.get(table)
    }

    /// A name as the server stores it: PostgreSQL folds what is not quoted.
    fn name(&self, name: &Ident) -> String {
        match (self.database, name.quote_style) {
            (Database::PostgreSql, None) => name.value.to_lowercase(),
            _ => name.value.clone(),
        }
    }

    /// The address of the table that a dotted name means.
    fn address(&self, name: &ObjectName) -> String {
        address(self.namespace(name).as_deref(), &self.stored_name(name))
    }

    /// The last part of a dotted name.
    fn stored_name(&self, name: &ObjectName) -> String {
        name.0
            .last()
            .and_then(|part| part.as_ident())
            .map_or_else(|| name.to_string(), |name| self.name(name))
    }

    /// The named schema of a dotted name, unless it is the server's usual one.
    fn namespace(&self, name: &ObjectName) -> Option<String> {
        let before = name
            .0
            .len()
            .checked_sub(2)
            .and_then(|at| name.0[at].as_ident())
            .map(|name| self.name(name))?;
        (self.database == Database::PostgreSql && before != "public").then_some(before)
    }

    /// The type that a text means, with the enumerations known so far.
    fn read_type(&self, text: &str) -> Type {
        let bare = |name: &str| last_name(name);
        let ty = self
            .database
            .server()
            .read_type(text, &|name| !self.enums.is_empty() && self.enums.contains(&bare(name)));
        self.bare_type(ty)
    }

    /// A type without the schema that its enumeration or extension is in, where that says nothing.
    fn bare_type(&self, ty: Type) -> Type {
        let bare = |name: &str| last_name(name);
        match ty {
            Type::Enum(name) => Type::Enum(bare(&name)),
            Type::Array(element) => Type::Array(Box::new(self.bare_type(*element))),
            // A type of an extension, under the schema in which it was installed.
            Type::Native(name) if name.contains('.') => {
                match self.database.server().read_type(&bare(&name), &|_| false) {
                    Type::Native(_) => Type::Native(name),
                    known => known,
                }
            }
            other => other,
        }
    }

    fn expression(&self, fields: &[Field], expression: &ast::Expr) -> Expression {
        let column = |name: &Ident| {
            let own = fields.iter().find(|field| {
                field.column.eq_ignore_ascii_case(&name.value) && name.quote_style.is_none()
            });
            own.map_or_else(|| self.name(name), |field| field.column.clone())
        };
        let is_text = |name: &str| {
            fields.iter().any(|field| {
                field.column == name
                    && (field.r#type.is_text() || matches!(field.r#type, Type::Enum(_)))
            })
        };
        Expression::of_ast(
            expression,
            &Names { column: &column, is_text: Some(&is_text), database: self.database },
        )
    }

    fn enumeration(&self, name: &str, values: Vec<String>, origin: Origin) -> EnumType {
        let member = |value: String| EnumMember {
            name: value.clone(),
            value: value.into(),
            ..EnumMember::default()
        };
        EnumType {
            name: name.to_owned(),
            stored_name: Some(name.to_owned()),
            members: values.into_iter().map(member).collect(),
            module: String::new(),
            inline: false,
            origin,
        }
    }

    /// What holds once everything is read: indexes that a server makes by itself, and a word on
    /// what was left out.
    fn finish(&mut self) {
        if self.database == Database::MariaDb {
            self.tables.schema.entities.iter_mut().for_each(json_columns);
        }
        if self.database.is_mysql() {
            self.tables.schema.entities.iter_mut().for_each(index_references);
        }
        self.name_left_out();
    }

    fn name_left_out(&mut self) {
        if let Some((_, first)) = self.left_out.first() {
            let names: Vec<&str> = self.left_out.iter().map(|(name, _)| name.as_str()).collect();
            let message = format!(
                "left out, since their columns are those of other tables: {}",
                names.join(", ")
            );
            self.diagnostics.push(
                Diagnostic::of(&codes::VIEWS_LEFT_OUT, message)
                    .at(Some(*first), "the first of them"),
            );
        }
    }
}

/// MariaDB keeps JSON as a text with a check (documentation, "JSON Data Type").
fn json_columns(entity: &mut Entity) {
    let checked = |check: &Check| match &check.expression.tree {
        Some(Tree::Call { function, arguments }) if function == "json_valid" => {
            match arguments.as_slice() {
                [Tree::Column(column)] => Some(column.clone()),
                _ => None,
            }
        }
        _ => None,
    };
    let columns: Vec<String> = entity.checks.iter().filter_map(checked).collect();
    for field in entity
        .fields
        .iter_mut()
        .filter(|field| field.r#type == Type::Text && columns.contains(&field.column))
    {
        (field.r#type, field.stored, field.collation) = (Type::Json, "json".into(), None);
        if let Some(Default_::Literal(value)) = field.defaults.database.as_deref_mut() {
            *value = column::of_type(std::mem::take(value), &Type::Json);
        }
    }
    let is_json = |column: &String| {
        entity.fields.iter().any(|field| field.column == *column && field.r#type == Type::Json)
    };
    entity.checks.retain(|check| !checked(check).is_some_and(|column| is_json(&column)));
}

/// Whether a statement's first words show that no table is made or changed.
fn says_nothing_of_tables(head: &[String]) -> bool {
    let word = |at: usize| head.get(at).map_or("", String::as_str);
    match word(0) {
        "" => true,
        first if OTHER.contains(&first) => true,
        "CREATE" | "ALTER" | "DROP" | "COMMENT" => {
            let skipped =
                ["OR", "REPLACE", "ON", "TEMP", "TEMPORARY", "GLOBAL", "LOCAL", "UNLOGGED"];
            let object = head
                .iter()
                .skip(1)
                .map(String::as_str)
                .find(|word| !skipped.contains(word))
                .unwrap_or_default();
            let temporary =
                matches!(word(1), "TEMP" | "TEMPORARY") || matches!(word(2), "TEMP" | "TEMPORARY");
            // What is in it goes, or moves, with it.
            let schema = object == "SCHEMA" && matches!(word(0), "ALTER" | "DROP");
            OTHER_OBJECTS.contains(&object) && !schema
                || temporary
                || (object == "INDEX" && word(0) == "ALTER")
                || is_index_comment(head)
                || changes_no_table(head, object)
                || switches_keys(head)
        }
        _ => false,
    }
}

/// Views are left out, and who owns a type says nothing of it.
fn changes_no_table(head: &[String], object: &str) -> bool {
    let owner = || head.iter().any(|word| word == "OWNER");
    head[0] == "ALTER"
        && match object {
            "VIEW" | "MATERIALIZED" => true,
            "TYPE" | "DOMAIN" => owner(),
            _ => false,
        }
}

fn is_index_comment(head: &[String]) -> bool {
    head[0] == "COMMENT"
        && head.get(2).is_some_and(|word| !matches!(word.as_str(), "TABLE" | "COLUMN"))
}

/// MySQL's `ALTER TABLE ... DISABLE KEYS`, around the data of a dump.
fn switches_keys(head: &[String]) -> bool {
    head[0] == "ALTER"
        && matches!(head, [.., switch, keys] if matches!(switch.as_str(), "DISABLE" | "ENABLE")
            && keys == "KEYS")
}

/// What the parser does not know and no table depends on, blanked out so that places stay.
const BLANKED: &[&str] = &["SEQUENCE NAME"];

fn understandable(text: &str) -> Cow<'_, str> {
    let mut text = Cow::Borrowed(text);
    for words in BLANKED {
        while let Some(at) = text.find(words) {
            let name = text[at + words.len()..].trim_start();
            let end =
                text.len() - name.len() + name.find(char::is_whitespace).unwrap_or(name.len());
            let blank: String = text[at..end]
                .chars()
                .map(|letter| if letter == '\n' { '\n' } else { ' ' })
                .collect();
            text.to_mut().replace_range(at..end, &blank);
        }
    }
    text
}

/// The last of the names that a text joins by dots, without its quotes.
fn last_name(text: &str) -> String {
    let (mut last, mut quoted) = (String::new(), false);
    let mut letters = text.chars().peekable();
    while let Some(letter) = letters.next() {
        match letter {
            '"' if quoted && letters.peek() == Some(&'"') => last.extend(letters.next()),
            '"' => quoted = !quoted,
            '.' if !quoted => last.clear(),
            other => last.push(other),
        }
    }
    last
}

/// Why the parser does not understand something.
fn reason(error: &ParserError) -> String {
    match error {
        ParserError::RecursionLimitExceeded => "it nests or chains too many expressions".to_owned(),
        // Its place is that of the statement, which is told better.
        other => {
            let words = other.to_string();
            plain(&words).split(" at Line:").next().unwrap_or_default().to_owned()
        }
    }
}

/// The parser's words without its own prefix.
fn plain(error: &str) -> &str {
    error.trim_start_matches("sql parser error: ")
}
