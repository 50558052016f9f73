//! Revision scripts (those of Alembic 1.20): what each step does to the tables, replayed from the first to the last. They count where
//! neither classes nor tables are declared beside them, so that a history can be compared with the models.

use std::collections::HashSet;

use smol_str::SmolStr;

use super::column::{self, Place};
use super::connect::Draft;
use super::known::Flavour;
use super::spelling::Site;
use super::{FilePart, Reader, constraint, last, table};
use crate::declaration::{Attribute, FieldDeclaration};
use crate::diagnostic::{Diagnostic, Severity};
use crate::history::dropping;
use crate::host::arguments::Arguments;
use crate::host::evaluate::Scope;
use crate::host::outline::{Call, Expr, ExprKind};
use crate::host::project::Project;
use crate::source::{FileId, Span};

/// Operations over a table, with the names of their unnamed arguments. Inside a batch the argument that names the table is left out.
const OPERATIONS: &[(&str, &[&str])] = &[
    ("add_column", &["table_name", "column"]),
    ("alter_column", &["table_name", "column_name"]),
    ("create_check_constraint", &["constraint_name", "table_name", "condition"]),
    ("create_foreign_key", &["constraint_name", "source_table", "referent_table", "local_cols", "remote_cols"]),
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

/// The tables after the last step.
pub(super) fn history<'p>(reader: &Reader<'p>) -> FilePart {
    let mut history = History { reader, part: FilePart::default() };
    let scripts = in_order(scripts(reader.project), &mut history.part.diagnostics);
    for script in &scripts {
        let back = reader.project.outlines[script.file.0 as usize].functions.iter().find(|function| function.name == "downgrade");
        if let (Some(first), true) = (script.steps.first(), back.is_none_or(|back| back.statements.is_empty())) {
            history.part.diagnostics.push(crate::dialect::remarks::one_way(first.span));
        }
        let scope = reader.scope(script.file, None);
        script.steps.iter().for_each(|step| history.step(scope, step, None));
    }
    history.part
}

fn scripts(project: &Project) -> Vec<Script<'_>> {
    let script = |(file, outline): (FileId, &'_ crate::host::outline::Outline)| {
        let value = |name: &str| outline.assignments.iter().find(|assignment| assignment.name == name).map(|assignment| &assignment.value);
        let upgrade = project.outlines[file.0 as usize].functions.iter().find(|function| function.name == "upgrade")?;
        let texts = |value: Option<&Expr>| match value {
            Some(value) => value.list().unwrap_or(std::slice::from_ref(value)).iter().filter_map(Expr::text).map(str::to_owned).collect(),
            None => Vec::new(),
        };
        let mut after: Vec<String> = texts(value("down_revision"));
        after.extend(texts(value("depends_on")));
        Some(Script { file, id: value("revision")?.text()?.to_owned(), after, steps: &upgrade.statements })
    };
    project.files().filter(|(file, _)| project.is_input(*file)).filter_map(script).collect()
}

/// Every script after those that it names; what names an unknown one, or itself in a circle, is told.
fn in_order<'p>(mut scripts: Vec<Script<'p>>, diagnostics: &mut Vec<Diagnostic>) -> Vec<Script<'p>> {
    scripts.sort_by(|left, right| left.id.cmp(&right.id));
    let known: HashSet<String> = scripts.iter().map(|script| script.id.clone()).collect();
    for script in &mut scripts {
        for missing in script.after.iter().filter(|id| !known.contains(*id)) {
            let message = format!("the revision `{}` comes after `{missing}`, which was not read", script.id);
            diagnostics.push(
                Diagnostic::new("history-gap", Severity::Error, message)
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
            let message = format!("the revisions {} come after each other in a circle: they are left out", ids.join(", "));
            diagnostics.push(Diagnostic::new("history-circle", Severity::Error, message));
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

/// The tables so far.
struct History<'r, 'p> {
    reader: &'r Reader<'p>,
    part: FilePart,
}

impl<'p> History<'_, 'p> {
    fn step(&mut self, scope: Scope<'p>, step: &Expr, batch: Option<&Batch>) {
        let step = &unwrapped(step);
        match &step.kind {
            // A documentation text.
            ExprKind::Text(_) => {}
            ExprKind::Call(call) => self.operation(scope, call, step, batch),
            ExprKind::Operation { operator, operands } if operator == "with" => self.batch(scope, operands, step),
            _ => self.unread(scope, step.span),
        }
    }

    fn unread(&mut self, scope: Scope<'p>, at: Span) {
        let text: String = scope.project.sources.text(at).lines().next().unwrap_or_default().chars().take(60).collect();
        self.part.diagnostics.push(
            Diagnostic::new(
                "unread-step",
                Severity::Warning,
                format!("the step `{text}` was not read: what it does to the tables is not known"),
            )
            .at(Some(at), "this step")
            .with_help("compare the database itself, or a script of it, if the step changes tables"),
        );
    }

    fn batch(&mut self, scope: Scope<'p>, operands: &[Expr], step: &Expr) {
        let [opened, alias, inside] = operands else { return self.unread(scope, step.span) };
        let Some(call) = opened.call().filter(|call| last(call.callee_name()) == "batch_alter_table") else {
            return self.unread(scope, step.span);
        };
        let mut arguments = Arguments::of_call(scope, &call.arguments, &["table_name", "schema"], &call.named);
        let Some(table) = arguments.take_text("table_name") else { return self.unread(scope, step.span) };
        let batch = Batch { table, namespace: arguments.take_text("schema"), alias: alias.name().unwrap_or_default().into() };
        inside.list().unwrap_or_default().iter().for_each(|step| self.step(scope, step, Some(&batch)));
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
        let places: Vec<&str> = places.iter().copied().filter(|place| in_batch.is_none() || !TABLES.contains(place)).collect();
        let mut arguments = Arguments::of_call(scope, &call.arguments, &places, &call.named);
        OF_THE_RUN.iter().for_each(|name| drop(arguments.take_raw(name)));
        let named = TABLES.iter().find_map(|name| arguments.take_text(name));
        let namespace = arguments.take_text("schema").or_else(|| arguments.take_text("source_schema"));
        let (table, namespace) = match in_batch {
            Some(batch) => (Some(batch.table.clone()), batch.namespace.clone()),
            None => (named, namespace),
        };
        let at = match &table {
            Some(table) => self.part.drafts.iter().position(|draft| is_table(draft, table, namespace.as_deref())),
            // An index may be dropped by its name alone.
            None => self.part.drafts.iter().position(|draft| {
                let name = call.arguments.first().and_then(Expr::text);
                draft.model.indexes.iter().any(|index| index.name.as_deref() == name)
            }),
        };
        let Some(at) = at else {
            let message = format!("the step works on the table `{}`, which no step before it makes", table.unwrap_or_default());
            self.part.diagnostics.push(Diagnostic::new("history-gap", Severity::Error, message).at(Some(step.span), "this step"));
            return;
        };
        match word {
            "drop_table" => drop(self.part.drafts.remove(at)),
            "rename_table" => self.rename_table(at, arguments.take_text("new_table_name")),
            "add_column" => self.add_column(scope, at, arguments.take_raw("column"), step),
            "alter_column" => self.alter_column(scope, at, &mut arguments, step),
            "drop_column" => {
                let column = arguments.take_text("column_name").filter(|column| field_of(&mut self.part.drafts[at], column).is_some());
                match column {
                    Some(column) => {
                        dropping::attribute(&mut self.part.drafts[at].model, &column, self.reader.project.database);
                    }
                    None => self.unread(scope, step.span),
                }
            }
            "create_table_comment" => self.part.drafts[at].model.comment = arguments.take_text("comment"),
            "drop_table_comment" => self.part.drafts[at].model.comment = None,
            "drop_index" | "drop_constraint" => {
                let name = arguments.take_text("constraint_name").or_else(|| arguments.take_text("index_name"));
                arguments.take("type_");
                if !name.as_deref().is_some_and(|name| drop_named(&mut self.part.drafts[at], name)) {
                    self.unread(scope, step.span);
                }
            }
            _ => return self.create(scope, at, word, arguments, call, step),
        }
        self.part.diagnostics.extend(arguments.unread(&format!("`{word}`"), step.span));
    }

    fn create_table(&mut self, scope: Scope<'p>, call: &Call, step: &Expr) {
        let Some(table) = call.arguments.first().map(|name| scope.value(name)).and_then(|name| name.text().map(str::to_owned)) else {
            return self.unread(scope, step.span);
        };
        let draft = table::made(self.reader, scope, "", table, step, &mut self.part);
        self.part.drafts.push(draft);
    }

    /// Constraints and indexes beside the table, as they would stand in it.
    fn create(&mut self, scope: Scope<'p>, at: usize, word: &str, mut arguments: Arguments<'p>, call: &Call, step: &Expr) {
        let name = arguments.take_raw("constraint_name").or_else(|| arguments.take_raw("index_name"));
        let columns = arguments.take_raw("columns").map(|list| list.list().map(<[Expr]>::to_vec).unwrap_or_default()).unwrap_or_default();
        let rest = |own: &[&str]| {
            let of_place = |key: &str| OPERATIONS.iter().any(|(_, places)| places.contains(&key)) || OF_THE_RUN.contains(&key);
            let kept = call.named.iter().filter(|(key, _)| !of_place(key) && key != "schema" && !own.contains(&key.as_str()));
            kept.cloned().collect::<Vec<_>>()
        };
        let with_name = |mut named: Vec<(SmolStr, Expr)>| {
            named.extend(name.clone().filter(|name| name.text().is_some()).map(|name| ("name".into(), name)));
            named
        };
        let called = |arguments: Vec<Expr>, named: Vec<(SmolStr, Expr)>| Call { callee: call.callee.clone(), arguments, named };
        let model = &mut self.part.drafts[at].model;
        match word {
            "create_index" => {
                let listed = name.clone().into_iter().chain(columns).collect();
                model.indexes.extend(constraint::index(scope, &called(listed, rest(&[])), step, model));
            }
            "create_unique_constraint" => {
                model.uniques.push(constraint::unique(scope, &called(columns, with_name(rest(&[]))), step, model));
            }
            "create_primary_key" => {
                constraint::key(scope, &called(columns, with_name(rest(&[]))), model);
                // The columns were made before they were the key, and so without a counter.
                for attribute in &mut model.attributes {
                    if let Attribute::Field(field) = attribute
                        && field.key
                    {
                        field.numbered = Some(false);
                    }
                }
            }
            "create_check_constraint" => {
                let condition = arguments.take_raw("condition").into_iter().collect();
                model
                    .checks
                    .extend(column::check(scope, &called(condition, with_name(rest(&[]))), step.span, &|name| Some(name.to_owned())));
            }
            _ => {
                let names = |list: Option<Expr>| list.and_then(|list| list.list().map(<[Expr]>::to_vec)).unwrap_or_default();
                let (local, remote) = (names(arguments.take_raw("local_cols")), names(arguments.take_raw("remote_cols")));
                let Some(target) = arguments.take_text("referent_table") else { return self.unread(scope, step.span) };
                let target = arguments.take_text("referent_schema").map_or(target.clone(), |namespace| format!("{namespace}.{target}"));
                let dotted = |column: &Expr| {
                    let text = format!("{target}.{}", scope.value(column).text().unwrap_or_default());
                    Expr { kind: ExprKind::Text(text.into()), span: column.span }
                };
                let lists = [local.clone(), remote.iter().map(dotted).collect()];
                let lists = lists.map(|items| Expr { kind: ExprKind::List(items), span: step.span });
                let named = with_name(rest(&["source_schema", "referent_schema"]));
                constraint::reference(scope, &called(lists.to_vec(), named), step, model);
            }
        }
    }

    fn add_column(&mut self, scope: Scope<'p>, at: usize, column: Option<Expr>, step: &Expr) {
        let Some(call) = column.as_ref().and_then(Expr::call) else { return self.unread(scope, step.span) };
        let (class, attribute) = (self.part.drafts[at].model.name.clone(), call.arguments.first().and_then(Expr::text).unwrap_or_default());
        let mut site = Site { reader: self.reader, scope, class: &class, attribute, part: &mut self.part };
        let place = Place { attribute: None, annotation: None, call: Some(call), flavour: Flavour::Plain, span: step.span };
        let read = column::read(&mut site, &place);
        self.part.drafts[at].add(read);
    }

    fn alter_column(&mut self, scope: Scope<'p>, at: usize, arguments: &mut Arguments<'p>, step: &Expr) {
        let Some(name) = arguments.take_text("column_name") else { return self.unread(scope, step.span) };
        let Some(mut field) = field_of(&mut self.part.drafts[at], &name).map(|field| field.clone()) else {
            let message = format!("the step alters the column `{name}`, which no step before it makes");
            self.part.diagnostics.push(Diagnostic::new("history-gap", Severity::Error, message).at(Some(step.span), "this step"));
            return;
        };
        let class = self.part.drafts[at].model.name.clone();
        let mut site = Site { reader: self.reader, scope, class: &class, attribute: &name, part: &mut self.part };
        if let Some(read) = arguments.take_raw("type_").and_then(|ty| site.read(&ty)) {
            let mut column = column::Column { declared: field, ..column::Column::default() };
            column::apply(read, None, &mut column);
            field = column.declared;
        }
        if let Some(value) = arguments.take_raw("server_default") {
            let none = matches!(value.kind, ExprKind::Null | ExprKind::Boolean(false));
            field.database_default = column::database_default(&site, &scope, &value).filter(|_| !none).map(Box::new);
        }
        field.nullable = arguments.take_bool("nullable").or(field.nullable);
        if arguments.has("comment") {
            field.comment = arguments.take("comment").and_then(|text| text.text().map(str::to_owned));
        }
        if let Some(known) = field_of(&mut self.part.drafts[at], &name) {
            *known = field;
        }
        if let Some(new) = arguments.take_text("new_column_name") {
            self.rename_column(at, &name, &new);
        }
    }

    fn rename_table(&mut self, at: usize, new: Option<String>) {
        let Some(new) = new else { return };
        let old = self.part.drafts[at].model.table.replace(new.clone()).unwrap_or_default();
        let draft = &mut self.part.drafts[at].model;
        draft.name = crate::dialect::naming::name_of_table(&new);
        draft.id = draft.id.rsplit_once('.').map_or(draft.name.clone(), |(module, _)| format!("{module}.{}", draft.name));
        for reference in self.part.drafts.iter_mut().flat_map(references).filter(|reference| reference.table == old) {
            reference.table.clone_from(&new);
        }
    }

    fn rename_column(&mut self, at: usize, old: &str, new: &str) {
        let table = self.part.drafts[at].model.table.clone();
        let draft = &mut self.part.drafts[at];
        if let Some(field) = field_of(draft, old) {
            field.column = Some(new.to_owned());
        }
        let model = &mut draft.model;
        let listed = model.uniques.iter_mut().flat_map(|unique| &mut unique.attributes).chain(model.key.iter_mut().flatten());
        let indexed = model.indexes.iter_mut().flat_map(|index| &mut index.parts).filter_map(|part| part.attribute.as_mut());
        let referring = model.references.iter_mut().flat_map(|reference| &mut reference.columns);
        listed.chain(indexed).chain(referring).filter(|name| *name == old).for_each(|name| new.clone_into(name));
        let leading_here = self.part.drafts.iter_mut().flat_map(references).filter(|reference| Some(&reference.table) == table.as_ref());
        leading_here.flat_map(|reference| &mut reference.references).filter(|name| *name == old).for_each(|name| new.clone_into(name));
    }
}

/// A step with every `op.f("name")` as the name that it stands for.
fn unwrapped(expr: &Expr) -> Expr {
    let each = |items: &[Expr]| items.iter().map(unwrapped).collect::<Vec<_>>();
    let kind = match &expr.kind {
        ExprKind::Call(call) if last(call.callee_name()) == "f" && call.callee_name().contains('.') => {
            return call.arguments.first().cloned().unwrap_or_else(|| expr.clone());
        }
        ExprKind::Call(call) => ExprKind::Call(Box::new(Call {
            callee: call.callee.clone(),
            arguments: each(&call.arguments),
            named: call.named.iter().map(|(name, value)| (name.clone(), unwrapped(value))).collect(),
        })),
        ExprKind::List(items) => ExprKind::List(each(items)),
        other => other.clone(),
    };
    Expr { kind, span: expr.span }
}

fn is_table(draft: &Draft, table: &str, namespace: Option<&str>) -> bool {
    draft.model.table.as_deref() == Some(table) && draft.model.namespace.as_deref() == namespace
}

fn field_of<'d>(draft: &'d mut Draft, column: &str) -> Option<&'d mut FieldDeclaration> {
    draft.model.attributes.iter_mut().find_map(|attribute| match attribute {
        Attribute::Field(field) if field.column.as_deref() == Some(column) => Some(&mut **field),
        _ => None,
    })
}

/// Every reference of a table, whether a column says it or the table as a whole.
fn references(draft: &mut Draft) -> impl Iterator<Item = &mut crate::declaration::ReferenceDeclaration> {
    let of_columns = draft.model.attributes.iter_mut().filter_map(|attribute| match attribute {
        Attribute::Field(field) => field.reference.as_deref_mut(),
        _ => None,
    });
    of_columns.chain(&mut draft.model.references)
}

/// Drops what has this name; a constraint without one by the name that PostgreSQL gives it. Whether there was one.
fn drop_named(draft: &mut Draft, name: &str) -> bool {
    let model = &mut draft.model;
    let table = model.table.clone().unwrap_or_default();
    let is_it = |given: &Option<String>, columns: &[String], ending: &str| match given {
        Some(given) => given == name,
        None => name == format!("{table}_{}_{ending}", columns.join("_")),
    };
    let before = model.indexes.len() + model.uniques.len() + model.checks.len() + model.references.len();
    model.indexes.retain(|index| {
        let columns: Vec<String> = index.parts.iter().filter_map(|part| part.attribute.clone()).collect();
        !is_it(&index.name, &columns, "idx")
    });
    model.uniques.retain(|unique| !is_it(&unique.name, &unique.attributes, "key"));
    model.checks.retain(|check| check.name.as_deref() != Some(name));
    model.references.retain(|reference| !is_it(&reference.name, &reference.columns, "fkey"));
    let mut dropped = before != model.indexes.len() + model.uniques.len() + model.checks.len() + model.references.len();
    let key = model.key_name.as_deref() == Some(name) || (model.key_name.is_none() && name == format!("{table}_pkey"));
    for attribute in &mut model.attributes {
        let Attribute::Field(field) = attribute else { continue };
        let own: Vec<String> = field.column.iter().cloned().collect();
        if field.reference.as_ref().is_some_and(|reference| is_it(&reference.name, &own, "fkey")) {
            field.reference = None;
            dropped = true;
        }
        if field.unique == Some(true) && is_it(&None, &own, "key") {
            field.unique = None;
            dropped = true;
        }
        if field.indexed == Some(true) && name == format!("ix_{table}_{}", own.join("_")) {
            field.indexed = None;
            dropped = true;
        }
        dropped |= key && std::mem::take(&mut field.key);
    }
    if key {
        (model.key, model.key_name) = (None, None);
    }
    dropped
}
