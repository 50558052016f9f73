//! Revision scripts (those of Alembic 1.20): what each step says, from the first to the last. They
//! count where neither classes nor tables are declared beside them, so that a history can be
//! compared with the models.

use std::collections::HashSet;

use smol_str::SmolStr;

use super::column::{self, Place};
use super::connect::Draft;
use super::known::Flavour;
use super::spelling::Site;
use super::{FilePart, Reader, connect, constraint, last, table};
use crate::codes;
use crate::declaration::{ColumnChange, Form, History, Model, Said, Step};
use crate::diagnostic::Diagnostic;
use crate::host::arguments::Arguments;
use crate::host::evaluate::Scope;
use crate::host::outline::{Call, Expr, ExprKind};
use crate::host::project::Project;
use crate::schema::address;
use crate::source::{FileId, Span};

/// Operations over a table, with the names of their unnamed arguments. Inside a batch the argument
/// that names the table is left out.
const OPERATIONS: &[(&str, &[&str])] = &[
    ("add_column", &["table_name", "column"]),
    ("alter_column", &["table_name", "column_name"]),
    ("create_check_constraint", &["constraint_name", "table_name", "condition"]),
    (
        "create_foreign_key",
        &["constraint_name", "source_table", "referent_table", "local_cols", "remote_cols"],
    ),
    ("create_index", &["index_name", "table_name", "columns"]),
    ("create_primary_key", &["constraint_name", "table_name", "columns"]),
    ("create_table_comment", &["table_name", "comment"]),
    ("create_unique_constraint", &["constraint_name", "table_name", "columns"]),
    ("drop_column", &["table_name", "column_name"]),
    ("drop_constraint", &["constraint_name", "table_name", "type_"]),
    ("drop_index", &["index_name", "table_name"]),
    ("drop_table", &["table_name"]),
    ("drop_table_comment", &["table_name"]),
    ("rename_table", &["old_table_name", "new_table_name"]),
];

/// Arguments that name the table of an operation.
const TABLES: &[&str] = &["table_name", "source_table", "old_table_name"];

/// What says nothing of the tables.
const SILENT: &[&str] = &["bulk_insert", "get_bind", "get_context", "f"];

/// Arguments that tell how a step is run, or what was before it.
const OF_THE_RUN: &[&str] = &[
    "existing_type",
    "existing_nullable",
    "existing_server_default",
    "existing_comment",
    "existing_autoincrement",
    "if_exists",
    "if_not_exists",
    "postgresql_concurrently",
    "postgresql_using",
];

/// One script.
struct Script<'p> {
    file: FileId,
    id: String,
    after: Vec<String>,
    steps: &'p [Expr],
}

/// What the framework calls an index that nobody named.
const INDEX_NAME: &str = "ix_{table}_{columns}";

/// What the scripts do, step by step, with the enumerations of their columns.
pub(super) fn history<'p>(reader: &Reader<'p>) -> (History, FilePart) {
    let mut told = Telling { reader, part: FilePart::default(), steps: Vec::new() };
    let scripts = in_order(scripts(reader.project), &mut told.part.diagnostics);
    for script in &scripts {
        let back = reader.project.outlines[script.file.0 as usize]
            .functions
            .iter()
            .find(|function| function.name == "downgrade");
        if let (Some(first), true) =
            (script.steps.first(), back.is_none_or(|back| back.statements.is_empty()))
        {
            told.part.diagnostics.push(crate::dialect::remarks::one_way(first.span));
        }
        let scope = reader.scope(script.file, None);
        script.steps.iter().for_each(|step| told.step(scope, step, None));
    }
    (History { steps: told.steps, index_name: INDEX_NAME, made: None }, told.part)
}

fn scripts(project: &Project) -> Vec<Script<'_>> {
    let script = |(file, outline): (FileId, &'_ crate::host::outline::Outline)| {
        let value = |name: &str| {
            outline
                .assignments
                .iter()
                .find(|assignment| assignment.name == name)
                .map(|assignment| &assignment.value)
        };
        let upgrade = project.outlines[file.0 as usize]
            .functions
            .iter()
            .find(|function| function.name == "upgrade")?;
        let texts = |value: Option<&Expr>| match value {
            Some(value) => value
                .list()
                .unwrap_or(std::slice::from_ref(value))
                .iter()
                .filter_map(Expr::text)
                .map(str::to_owned)
                .collect(),
            None => Vec::new(),
        };
        let mut after: Vec<String> = texts(value("down_revision"));
        after.extend(texts(value("depends_on")));
        Some(Script {
            file,
            id: value("revision")?.text()?.to_owned(),
            after,
            steps: &upgrade.statements,
        })
    };
    project.files().filter(|(file, _)| project.is_input(*file)).filter_map(script).collect()
}

/// Every script after those that it names; what names an unknown one, or itself in a circle, is
/// told.
fn in_order<'p>(
    mut scripts: Vec<Script<'p>>,
    diagnostics: &mut Vec<Diagnostic>,
) -> Vec<Script<'p>> {
    scripts.sort_by(|left, right| left.id.cmp(&right.id));
    let known: HashSet<String> = scripts.iter().map(|script| script.id.clone()).collect();
    for script in &mut scripts {
        for missing in script.after.iter().filter(|id| !known.contains(*id)) {
            let message =
                format!("the revision `{}` comes after `{missing}`, which was not read", script.id);
            diagnostics.push(
                Diagnostic::of(&codes::HISTORY_GAP, message)
                    .at(script.steps.first().map(|step| step.span), "a step of the revision")
                    .because("what the missing one does to the tables is not known")
                    .with_help("name the folder that holds all revisions"),
            );
        }
        script.after.retain(|id| known.contains(id));
    }
    let mut done: HashSet<String> = HashSet::new();
    let mut ordered = Vec::with_capacity(scripts.len());
    while !scripts.is_empty() {
        let ready = |script: &Script<'_>| script.after.iter().all(|id| done.contains(id));
        let (now, later): (Vec<_>, Vec<_>) = scripts.into_iter().partition(ready);
        if now.is_empty() {
            let ids: Vec<&str> = later.iter().map(|script| script.id.as_str()).collect();
            let message = format!(
                "the revisions {} come after each other in a circle: they are left out",
                ids.join(", ")
            );
            diagnostics.push(Diagnostic::of(&codes::HISTORY_CIRCLE, message));
            return ordered;
        }
        done.extend(now.iter().map(|script| script.id.clone()));
        ordered.extend(now);
        scripts = later;
    }
    ordered
}

/// The table of a batch: its name, its named schema, and what the batch is called.
struct Batch {
    table: String,
    namespace: Option<String>,
    alias: SmolStr,
}

/// What was told so far.
struct Telling<'r, 'p> {
    reader: &'r Reader<'p>,
    part: FilePart,
    steps: Vec<Step>,
}

impl<'p> Telling<'_, 'p> {
    fn step(&mut self, scope: Scope<'p>, step: &Expr, batch: Option<&Batch>) {
        let step = &unwrapped(step);
        match &step.kind {
            // A documentation text.
            ExprKind::Text(_) => {}
            ExprKind::Call(call) => self.operation(scope, call, step, batch),
            ExprKind::Operation { operator, operands } if operator == "with" => {
                self.batch(scope, operands, step)
            }
            _ => self.unread(scope, step.span),
        }
    }

    fn unread(&mut self, scope: Scope<'p>, at: Span) {
        let text: String = scope
            .project
            .sources
            .text(at)
            .lines()
            .next()
            .unwrap_or_default()
            .chars()
            .take(60)
            .collect();
        self.part.diagnostics.push(
            Diagnostic::of(
                &codes::UNREAD_STEP,
                format!("the step `{text}` was not read: what it does to the tables is not known"),
            )
            .at(Some(at), "this step")
            .with_help(
                "compare the database itself, or a script of it, if the step changes tables",
            ),
        );
    }

    fn batch(&mut self, scope: Scope<'p>, operands: &[Expr], step: &Expr) {
        let [opened, alias, inside] = operands else { return self.unread(scope, step.span) };
        let Some(call) =
            opened.call().filter(|call| last(call.callee_name()) == "batch_alter_table")
        else {
            return self.unread(scope, step.span);
        };
        let mut arguments =
            Arguments::of_call(scope, &call.arguments, &["table_name", "schema"], &call.named);
        let Some(table) = arguments.take_text("table_name") else {
            return self.unread(scope, step.span);
        };
        let batch = Batch {
            table,
            namespace: arguments.take_text("schema"),
            alias: alias.name().unwrap_or_default().into(),
        };
        inside
            .list()
            .unwrap_or_default()
            .iter()
            .for_each(|step| self.step(scope, step, Some(&batch)));
    }

    fn operation(&mut self, scope: Scope<'p>, call: &Call, step: &Expr, batch: Option<&Batch>) {
        let (owner, word) = call.callee_name().rsplit_once('.').unwrap_or_default();
        let in_batch = batch.filter(|batch| batch.alias == owner);
        if in_batch.is_none() && last(owner) != "op" {
            return self.unread(scope, step.span);
        }
        if word == "create_table" {
            return self.create_table(scope, call, step);
        }
        let Some((_, places)) = OPERATIONS.iter().find(|(known, _)| *known == word) else {
            if !SILENT.contains(&word) {
                self.unread(scope, step.span);
            }
            return;
        };
        let places: Vec<&str> = places
            .iter()
            .copied()
            .filter(|place| in_batch.is_none() || !TABLES.contains(place))
            .collect();
        let mut arguments = Arguments::of_call(scope, &call.arguments, &places, &call.named);
        let named = TABLES.iter().find_map(|name| arguments.take_text(name));
        let namespace =
            arguments.take_text("schema").or_else(|| arguments.take_text("source_schema"));
        let (table, namespace) = match in_batch {
            Some(batch) => (Some(batch.table.clone()), batch.namespace.clone()),
            None => (named, namespace.or_else(|| self.reader.known.schema.clone())),
        };
        let table = table.map(|table| address(namespace.as_deref(), &table));
        let if_possible = ["if_exists", "if_not_exists"]
            .iter()
            .any(|name| arguments.take_bool(name) == Some(true));
        OF_THE_RUN.iter().for_each(|name| drop(arguments.take_raw(name)));
        let said = match (word, table) {
            // An index may be dropped by its name alone.
            ("drop_index" | "drop_constraint", table) => {
                let name = arguments
                    .take_text("constraint_name")
                    .or_else(|| arguments.take_text("index_name"));
                arguments.take("type_");
                name.map(|name| Said::DropNamed { table, name })
            }
            (_, None) => None,
            ("drop_table", Some(table)) => Some(Said::DropTable { table }),
            ("rename_table", Some(table)) => {
                arguments.take_text("new_table_name").map(|to| Said::RenameTable { table, to })
            }
            ("add_column", Some(table)) => {
                self.add_column(scope, table, arguments.take_raw("column"), step)
            }
            ("alter_column", Some(table)) => {
                self.altered(scope, table, &mut arguments, if_possible, step)
            }
            ("drop_column", Some(table)) => {
                arguments.take_text("column_name").map(|column| Said::DropColumn { table, column })
            }
            ("create_table_comment", Some(table)) => {
                Some(Said::CommentTable { table, text: arguments.take_text("comment") })
            }
            ("drop_table_comment", Some(table)) => Some(Said::CommentTable { table, text: None }),
            (_, Some(table)) => {
                let said = self.create(scope, table, word, &mut arguments, call, step);
                return self.tell(scope, said, if_possible, step);
            }
        };
        self.tell(scope, said, if_possible, step);
        self.part.diagnostics.extend(arguments.unread(&format!("`{word}`"), step.span));
    }

    /// Puts a step among those told; one that was not understood is named.
    fn tell(&mut self, scope: Scope<'p>, said: Option<Said>, if_possible: bool, step: &Expr) {
        match said {
            Some(said) => self.steps.push(Step { said, if_possible, span: step.span }),
            None => self.unread(scope, step.span),
        }
    }

    /// A column that is changed; one that is renamed, too, takes two steps.
    fn altered(
        &mut self,
        scope: Scope<'p>,
        table: String,
        arguments: &mut Arguments<'p>,
        if_possible: bool,
        step: &Expr,
    ) -> Option<Said> {
        let said = self.alter_column(scope, table.clone(), arguments);
        match (said, arguments.take_text("new_column_name")) {
            (Some(Said::AlterColumn { table, column, change }), Some(to)) => {
                let rename =
                    Said::RenameColumn { table: table.clone(), column: column.clone(), to };
                self.tell(
                    scope,
                    Some(Said::AlterColumn { table, column, change }),
                    if_possible,
                    step,
                );
                Some(rename)
            }
            (said, _) => said,
        }
    }

    fn create_table(&mut self, scope: Scope<'p>, call: &Call, step: &Expr) {
        let Some(table) = call
            .arguments
            .first()
            .map(|name| scope.value(name))
            .and_then(|name| name.text().map(str::to_owned))
        else {
            return self.unread(scope, step.span);
        };
        let mut draft = table::made(self.reader, scope, "", table, step, &mut self.part);
        if let Some(schema) = &self.reader.known.schema {
            connect::in_schema(std::slice::from_mut(&mut draft), schema);
        }
        let if_possible = call
            .argument("if_not_exists")
            .is_some_and(|value| matches!(value.kind, ExprKind::Boolean(true)));
        draft.model.extras.remove("if_not_exists");
        self.tell(scope, Some(Said::CreateTable(Box::new(draft.model))), if_possible, step);
    }

    /// Constraints and indexes beside the table, as they would stand in it.
    fn create(
        &mut self,
        scope: Scope<'p>,
        table: String,
        word: &str,
        arguments: &mut Arguments<'p>,
        call: &Call,
        step: &Expr,
    ) -> Option<Said> {
        let name =
            arguments.take_raw("constraint_name").or_else(|| arguments.take_raw("index_name"));
        let columns = arguments
            .take_raw("columns")
            .map(|list| list.list().map(<[Expr]>::to_vec).unwrap_or_default())
            .unwrap_or_default();
        let rest = |own: &[&str]| {
            let of_place = |key: &str| {
                OPERATIONS.iter().any(|(_, places)| places.contains(&key))
                    || OF_THE_RUN.contains(&key)
            };
            let kept = call.named.iter().filter(|(key, _)| {
                !of_place(key) && key != "schema" && !own.contains(&key.as_str())
            });
            kept.cloned().collect::<Vec<_>>()
        };
        let with_name = |mut named: Vec<(SmolStr, Expr)>| {
            named.extend(
                name.clone().filter(|name| name.text().is_some()).map(|name| ("name".into(), name)),
            );
            named
        };
        let called = |arguments: Vec<Expr>, named: Vec<(SmolStr, Expr)>| Call {
            callee: call.callee.clone(),
            arguments,
            named,
        };
        let mut model = Model { form: Form::Table, ..Model::default() };
        match word {
            "create_index" => {
                let listed = name.clone().into_iter().chain(columns).collect();
                model.indexes.extend(constraint::index(
                    scope,
                    &called(listed, rest(&[])),
                    step,
                    &model,
                ));
            }
            "create_unique_constraint" => {
                model.uniques.push(constraint::unique(
                    scope,
                    &called(columns, with_name(rest(&[]))),
                    step,
                    &model,
                ));
            }
            "create_primary_key" => {
                let columns = columns
                    .iter()
                    .filter_map(|column| scope.value(column).text().map(str::to_owned))
                    .collect();
                let name = name.as_ref().and_then(Expr::text).map(str::to_owned);
                return Some(Said::SetKey { table, columns, name });
            }
            "create_check_constraint" => {
                let condition = arguments.take_raw("condition").into_iter().collect();
                model.checks.extend(column::check(
                    scope,
                    &called(condition, with_name(rest(&[]))),
                    step.span,
                    &|name| Some(name.to_owned()),
                ));
            }
            _ => {
                let named = with_name(rest(&["source_schema", "referent_schema"]));
                let lists = self.reference_lists(scope, arguments, step)?;
                constraint::reference(scope, &called(lists, named), step, &mut model);
            }
        }
        Some(Said::Add { table, parts: Box::new(model) })
    }

    /// The columns of a reference, and those that it leads to, as its constraint takes them.
    fn reference_lists(
        &self,
        scope: Scope<'p>,
        arguments: &mut Arguments<'p>,
        step: &Expr,
    ) -> Option<Vec<Expr>> {
        let names = |list: Option<Expr>| {
            list.and_then(|list| list.list().map(<[Expr]>::to_vec)).unwrap_or_default()
        };
        let (local, remote) =
            (names(arguments.take_raw("local_cols")), names(arguments.take_raw("remote_cols")));
        let target = arguments.take_text("referent_table")?;
        let namespace =
            arguments.take_text("referent_schema").or_else(|| self.reader.known.schema.clone());
        let target = namespace.map_or(target.clone(), |namespace| format!("{namespace}.{target}"));
        let dotted = |column: &Expr| {
            let text = format!("{target}.{}", scope.value(column).text().unwrap_or_default());
            Expr { kind: ExprKind::Text(text.into()), span: column.span }
        };
        let list = |items| Expr { kind: ExprKind::List(items), span: step.span };
        Some(vec![list(local), list(remote.iter().map(dotted).collect())])
    }

    fn add_column(
        &mut self,
        scope: Scope<'p>,
        table: String,
        column: Option<Expr>,
        step: &Expr,
    ) -> Option<Said> {
        let column = column?;
        let call = column.call()?;
        let attribute = call.arguments.first().and_then(Expr::text).unwrap_or_default();
        let class = crate::dialect::naming::name_of_table(&table);
        let mut site =
            Site { reader: self.reader, scope, class: &class, attribute, part: &mut self.part };
        let place = Place {
            attribute: None,
            annotation: None,
            call: Some(call),
            flavour: Flavour::Plain,
            span: step.span,
        };
        let read = column::read(&mut site, &place);
        let mut draft =
            Draft { model: Model { form: Form::Table, ..Model::default() }, ..Draft::default() };
        draft.add(read);
        if let Some(schema) = &self.reader.known.schema {
            connect::in_schema(std::slice::from_mut(&mut draft), schema);
        }
        Some(Said::Add { table, parts: Box::new(draft.model) })
    }

    fn alter_column(
        &mut self,
        scope: Scope<'p>,
        table: String,
        arguments: &mut Arguments<'p>,
    ) -> Option<Said> {
        let name = arguments.take_text("column_name")?;
        let class = crate::dialect::naming::name_of_table(&table);
        let mut site = Site {
            reader: self.reader,
            scope,
            class: &class,
            attribute: &name,
            part: &mut self.part,
        };
        let mut change = ColumnChange::default();
        if let Some(read) = arguments.take_raw("type_").and_then(|ty| site.read(&ty)) {
            let mut column = column::Column::default();
            column::apply(read, None, &mut column);
            change.spelling = Some(column.declared.spelling);
        }
        if let Some(value) = arguments.take_raw("server_default") {
            let none = matches!(value.kind, ExprKind::Null | ExprKind::Boolean(false));
            change.database_default =
                Some(column::database_default(&site, &scope, &value).filter(|_| !none));
        }
        change.nullable = arguments.take_bool("nullable");
        if arguments.has("comment") {
            change.comment =
                Some(arguments.take("comment").and_then(|text| text.text().map(str::to_owned)));
        }
        Some(Said::AlterColumn { table, column: name, change: Box::new(change) })
    }
}

/// A step with every `op.f("name")` as the name that it stands for.
fn unwrapped(expr: &Expr) -> Expr {
    let each = |items: &[Expr]| items.iter().map(unwrapped).collect::<Vec<_>>();
    let kind = match &expr.kind {
        ExprKind::Call(call)
            if last(call.callee_name()) == "f" && call.callee_name().contains('.') =>
        {
            return call.arguments.first().cloned().unwrap_or_else(|| expr.clone());
        }
        ExprKind::Call(call) => ExprKind::Call(Box::new(Call {
            callee: call.callee.clone(),
            arguments: each(&call.arguments),
            named: call
                .named
                .iter()
                .map(|(name, value)| (name.clone(), unwrapped(value)))
                .collect(),
        })),
        ExprKind::List(items) => ExprKind::List(each(items)),
        other => other.clone(),
    };
    Expr { kind, span: expr.span }
}
