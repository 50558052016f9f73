//! What migrations do, run one after the other over the tables that those before them made.

mod column;
mod constraint;
mod index;
mod naming;
mod operation;
mod question;
mod reference;
mod reverse;
mod table;

use std::collections::BTreeSet;
use std::rc::Rc;

use smol_str::SmolStr;

use super::run::{Arguments, Block, Called, Done, Framework, Object, Run, Scope, Stop, Value};
use crate::bracket::Bracket;
use crate::codes;
use crate::declaration::{Attribute, Model, Said, Step};
use crate::diagnostic::Diagnostic;
use crate::dialect::{Conventions, Settings};
use crate::history::Operation;
use crate::resolve::history::Replay;
use crate::schema::expression::Tree;
use crate::schema::{Database, Entity, Expression, Origin, Schema, address};
use crate::source::{Sources, Span};

pub(in crate::read) use table::join_table_name;

/// What the framework calls an index that nobody named.
pub(super) const INDEX_NAME: &str = "index_{table}_on_{columns}";

/// A part that is told for each direction: it is run where it stands, whichever way.
const DIRECTED: &str = "(directed)";

/// A call that changes tables, kept until it is taken, or taken back.
#[derive(Clone, Debug)]
struct Command<'p> {
    name: SmolStr,
    arguments: Arguments<'p>,
    span: Span,
}

/// Tables while migrations are run.
pub(super) struct Steps<'r, 'p> {
    settings: &'r Settings,
    sources: &'r Sources,
    database: Database,
    /// Release of the framework.
    release: String,
    bracket: Bracket,
    replay: Replay<'r>,
    statements: sprachbund_sql::Within,
    /// Tables that are being made or changed, the innermost last.
    open: Vec<table::Open>,
    /// What is done in a part that is taken back, in its order.
    recorded: Option<Vec<Command<'p>>>,
    /// Whether the migration, or a part of it, is run to take it back.
    backwards: bool,
    /// What SQLite holds for the columns of the step that is put together, in the words by which
    /// they were made.
    held: Vec<(String, String)>,
    /// The words for the type that was put together last.
    last_held: Option<String>,
    /// Whether whatever is unique is kept so by an index.
    uniques_are_indexes: bool,
    /// Names of checks and exclusions that the framework gave.
    given: naming::Given,
    /// Tables that the migration makes for itself alone.
    temporary: Vec<String>,
    /// Whether the changes of a table are put into one statement.
    in_bulk: bool,
    /// How many conditions around this place are not decided.
    unsure: u32,
    /// Tables that what is not decided would change.
    touched: BTreeSet<String>,
    diagnostics: Vec<Diagnostic>,
}

impl<'r, 'p> Steps<'r, 'p> {
    pub(super) fn new(
        settings: &'r Settings,
        conventions: &'r Conventions,
        sources: &'r Sources,
        schema: Schema,
    ) -> Self {
        Steps {
            settings,
            sources,
            database: settings.database(),
            release: settings.release(&crate::DIALECT),
            bracket: Bracket::OLDEST,
            replay: Replay::new(INDEX_NAME, &[], conventions, sources, schema),
            statements: sprachbund_sql::Within::new(settings),
            open: Vec::new(),
            recorded: None,
            backwards: false,
            held: Vec::new(),
            last_held: None,
            uniques_are_indexes: conventions.indexes.unique_as_index,
            given: naming::Given::new(),
            temporary: Vec::new(),
            in_bulk: false,
            unsure: 0,
            touched: BTreeSet::new(),
            diagnostics: Vec::new(),
        }
    }

    /// Runs a body by the rules of a bracket.
    pub(super) fn take(
        &mut self,
        run: &mut Run<'_, 'p>,
        scope: &Rc<Scope<'p>>,
        body: &'p [crate::host::outline::Expr],
        bracket: Bracket,
    ) -> Option<Stop<'p>> {
        self.bracket = bracket;
        let left = run.statements(scope, body, self).err();
        self.open.clear();
        for table in std::mem::take(&mut self.temporary) {
            if self.made(&table).is_some() {
                let _gone = self.replay.tables.apply(&Operation::DropTable { table });
            }
        }
        left
    }

    /// The tables after the last step, and what could not be read or done.
    pub(super) fn finish(self) -> (Schema, Vec<Diagnostic>) {
        let (mut schema, found) = self.replay.finish();
        naming::unsay(&mut schema, &self.given, self.database, self.uniques_are_indexes);
        let mut diagnostics = self.diagnostics;
        diagnostics.extend(found);
        diagnostics.extend(self.statements.finish());
        (schema, diagnostics)
    }

    fn made(&self, table: &str) -> Option<&Entity> {
        self.replay.tables.get(table)
    }

    /// Takes a step, unless it is not decided whether it happens.
    fn say(&mut self, said: Said, span: Span) {
        if self.unsure > 0 {
            self.touched.extend(table_of(&said).map(str::to_owned));
            return;
        }
        let held = std::mem::take(&mut self.held);
        let table = table_of(&said).map(str::to_owned);
        self.replay.step(&Step { said, if_possible: false, span });
        let made = table.filter(|_| self.is_sqlite());
        let Some(entity) = made.and_then(|table| self.replay.tables.get_mut(&table)) else {
            return;
        };
        for (column, text) in held {
            if let Some(field) = entity.fields.iter_mut().find(|field| field.column == column) {
                field.stored = text.into();
            }
        }
    }

    /// Gives the expressions of what is said their meaning, over the columns that a table has and
    /// those that it gets.
    fn understood(&self, mut parts: Model) -> Model {
        let table = address(parts.namespace.as_deref(), parts.table.as_deref().unwrap_or_default());
        let mut fields = self.made(&table).map_or_else(Vec::new, |made| made.fields.clone());
        let own = parts.attributes.iter().filter_map(|attribute| match attribute {
            Attribute::Field(field) => Some(self.plain_field(field)),
            _ => None,
        });
        fields.extend(own);
        let meant = |expression: &mut Expression| {
            if expression.tree.is_none() && expression.is_sql() {
                *expression = self.statements.expression(&expression.text, &fields);
            }
        };
        parts.checks.iter_mut().for_each(|check| meant(&mut check.expression));
        for index in &mut parts.indexes {
            index.condition.iter_mut().for_each(|condition| meant(condition));
            for part in &mut index.parts {
                part.expression.iter_mut().for_each(|expression| meant(expression));
                let tree = part.expression.as_ref().and_then(|known| known.tree.clone());
                if let Some(Tree::Column(column)) = tree {
                    (part.attribute, part.expression) = (Some(column), None);
                }
            }
        }
        for attribute in &mut parts.attributes {
            if let Attribute::Field(field) = attribute {
                field.generated.iter_mut().for_each(|generated| meant(&mut generated.expression));
            }
        }
        parts
    }

    fn origin(&self, span: Span) -> Origin {
        Origin::declared(self.sources.file(span.file), span)
    }

    /// Names a call of which it is not known what it does to the tables.
    fn unread(&mut self, span: Span, why: &str) {
        if self.unsure > 0 {
            return;
        }
        let text = self.sources.text(span);
        let shown: String = text.lines().next().unwrap_or_default().chars().take(60).collect();
        let message =
            format!("the step `{shown}` was not read: what it does to the tables is not known");
        let diagnostic = Diagnostic::of(&codes::UNREAD_STEP, message).at(Some(span), why);
        self.diagnostics.push(diagnostic.with_help(
            "compare the database itself, or its dumped schema, if the step changes tables",
        ));
    }

    /// Takes a command, or keeps it where a part is taken back.
    fn command(&mut self, run: &mut Run<'_, 'p>, command: Command<'p>) -> Done<'p> {
        if let Some(recorded) = &mut self.recorded {
            recorded.push(command);
            return Ok(Value::Nil);
        }
        self.perform(run, command)
    }

    /// Runs a block whose commands are taken back, from the last to the first.
    fn taken_back(
        &mut self,
        run: &mut Run<'_, 'p>,
        body: impl FnOnce(&mut Self, &mut Run<'_, 'p>) -> Result<(), Stop<'p>>,
    ) -> Result<(), Stop<'p>> {
        let around = self.recorded.replace(Vec::new());
        self.backwards = !self.backwards;
        let left = body(self, run);
        self.backwards = !self.backwards;
        let commands = std::mem::replace(&mut self.recorded, around).unwrap_or_default();
        for command in commands.into_iter().rev() {
            match reverse::of(&command) {
                Some(commands) => {
                    for command in commands {
                        self.command(run, command)?;
                    }
                }
                None => self.unread(command.span, "cannot be taken back"),
            }
        }
        left
    }
}

/// SQL as it is written, before its columns are known.
fn written(text: &str) -> Expression {
    Expression { language: "sql".into(), database: None, text: text.trim().to_owned(), tree: None }
}

/// The table that a step works on.
fn table_of(said: &Said) -> Option<&str> {
    match said {
        Said::CreateTable(model) => model.table.as_deref(),
        Said::DropTable { table }
        | Said::RenameTable { table, .. }
        | Said::Add { table, .. }
        | Said::AlterColumn { table, .. }
        | Said::ReplaceColumn { table, .. }
        | Said::RenameColumn { table, .. }
        | Said::DropColumn { table, .. }
        | Said::SetKey { table, .. }
        | Said::RenameNamed { table, .. }
        | Said::DropIndexOver { table, .. }
        | Said::CommentTable { table, .. } => Some(table),
        Said::DropNamed { table, .. } => table.as_deref(),
        Said::CreateEnum(_) | Said::AlterEnum { .. } | Said::DropEnum { .. } => None,
    }
}

impl<'p> Framework<'p> for Steps<'_, 'p> {
    fn call(&mut self, run: &mut Run<'_, 'p>, called: Called<'_, 'p>) -> Done<'p> {
        let Called { receiver, name, arguments, scope, span } = called;
        if receiver.equals(&scope.own) == Some(true) {
            return self.on_migration(run, name, arguments, span);
        }
        match receiver {
            Value::Object(Object::Table(at)) => self.on_table(run, *at, name, arguments, span),
            Value::Object(Object::Direction) => self.in_direction(run, name, arguments, span),
            Value::Class(class) => self.on_class(run, class, name, arguments, span),
            _ => self.on_migration(run, name, arguments, span),
        }
    }

    fn unsure(&mut self) {
        self.unsure += 1;
    }

    fn sure(&mut self, at: Span, leaves: bool) {
        self.unsure -= 1;
        if self.unsure > 0 {
            return;
        }
        let touched = std::mem::take(&mut self.touched);
        if touched.is_empty() && !leaves {
            return;
        }
        let what = match touched.len() {
            0 => "whether the migration goes on here".to_owned(),
            _ => {
                let names: Vec<String> = touched.iter().map(|table| format!("`{table}`")).collect();
                format!("what happens to {} here", names.join(", "))
            }
        };
        let message = format!("{what} is decided when the migration is run: it is not known");
        let diagnostic = Diagnostic::of(&codes::UNDECIDED_STEP, message);
        self.diagnostics.push(diagnostic.at(Some(at), "decides").with_help(
            "compare the database itself, or its dumped schema, to know which way was taken",
        ));
    }
}

impl<'p> Steps<'_, 'p> {
    /// `dir.up { }` and `dir.down { }` of a reversible part.
    fn in_direction(
        &mut self,
        run: &mut Run<'_, 'p>,
        name: &str,
        arguments: Arguments<'p>,
        span: Span,
    ) -> Done<'p> {
        let wanted = if self.backwards { "down" } else { "up" };
        match &arguments.block {
            Some(_) if name == wanted => {
                self.command(run, Command { name: DIRECTED.into(), arguments, span })
            }
            _ => Ok(Value::Nil),
        }
    }

    /// A call on a class: a connection, data, or something of the application.
    fn on_class(
        &mut self,
        run: &mut Run<'_, 'p>,
        class: &SmolStr,
        name: &str,
        arguments: Arguments<'p>,
        span: Span,
    ) -> Done<'p> {
        let is_connection = matches!(name, "connection" | "lease_connection" | "with_connection");
        if is_connection {
            let connection = Value::Object(Object::Connection);
            return match &arguments.block {
                Some(block) => run.block(block, vec![connection], self),
                None => Ok(connection),
            };
        }
        match name {
            "table_name" => {
                Ok(self.table_name(run, class).map_or(Value::Unknown(span), Value::text))
            }
            "quoted_table_name" => Ok(Value::Unknown(span)),
            "primary_key" => Ok(Value::text("id")),
            "reset_column_information" | "table_exists?" => Ok(match name {
                "table_exists?" => match self.table_name(run, class) {
                    Some(table) => Value::Boolean(self.made(&table).is_some()),
                    None => Value::Unknown(span),
                },
                _ => Value::Nil,
            }),
            "current_version" if class.ends_with("Migration") => {
                Ok(Value::text(self.release.as_str()))
            }
            _ => {
                // Data: what a block does to tables for each row of it is not known.
                if let Some(block) = &arguments.block {
                    self.unsure();
                    let row = Value::Unknown(span);
                    let left = run.block(block, vec![row.clone(), row], self);
                    self.sure(span, false);
                    if let Err(Stop::Exhausted) = left {
                        return Err(Stop::Exhausted);
                    }
                }
                Ok(Value::Unknown(span))
            }
        }
    }

    /// The table of a class: what it says, or by its name.
    fn table_name(&self, run: &Run<'_, 'p>, class: &str) -> Option<String> {
        let said = run.program.opened(class).iter().flat_map(|(_, class)| &class.statements);
        let said = said.filter_map(super::table_said).next_back();
        match said {
            Some(value) => value.text().map(str::to_owned),
            None => Some(run.words.table(class)),
        }
    }

    /// Runs a block for what it does to the tables.
    fn block_of(&mut self, run: &mut Run<'_, 'p>, block: Option<&Rc<Block<'p>>>) -> Done<'p> {
        match block {
            Some(block) => run.block(block, Vec::new(), self),
            None => Ok(Value::Nil),
        }
    }
}
