//! Migrations: what each step does to the tables, replayed from the first file to the last. They count where no model is declared, so
//! that a history can be compared with the models.

use super::{Draft, FilePart, Reader, Reference, Target, attribute, index};
use crate::declaration::{CheckDeclaration, Form, Model, UniqueDeclaration};
use crate::diagnostic::{Diagnostic, Severity};
use crate::dialect::naming::name_of_table;
use crate::history::dropping;
use crate::host::arguments::Arguments;
use crate::host::outline::{Call, Expr, ExprKind};
use crate::host::typescript::place::{Place, last_name, statements};
use crate::schema::Expression;
use crate::source::FileId;

/// Steps over a table, with how many arguments each must have.
const STEPS: &[(&str, usize)] = &[
    ("createTable", 2),
    ("dropTable", 1),
    ("renameTable", 2),
    ("addColumn", 3),
    ("removeColumn", 2),
    ("changeColumn", 3),
    ("renameColumn", 3),
    ("addIndex", 2),
    ("removeIndex", 2),
    ("addConstraint", 2),
    ("removeConstraint", 2),
];

/// Steps that change tables in a way that is not replayed.
const NOT_REPLAYED: &[&str] = &["query", "dropAllTables", "createSchema", "dropEnum"];

/// Replays every migration of the project.
pub(super) fn replay(reader: &Reader<'_>, parts: &mut FilePart) {
    let mut files: Vec<FileId> = reader.project.files().map(|(file, _)| file).filter(|file| reader.project.is_input(*file)).collect();
    files.sort_by_key(|file| reader.project.path(*file).to_owned());
    for file in files {
        let steps: Vec<(Place<'_>, Expr)> =
            statements(reader.project, file).into_iter().filter_map(|statement| statement.value()).collect();
        let is_step = |value: &Expr| {
            value.call().and_then(|call| last_name(&call.callee)).is_some_and(|word| STEPS.iter().any(|(known, _)| *known == word))
        };
        let first = steps.iter().find(|(place, value)| place.is_within("up") && is_step(value));
        if !steps.iter().any(|(place, _)| place.is_within("down")) {
            parts.diagnostics.extend(first.map(|(_, value)| crate::dialect::remarks::one_way(value.span)));
        }
        for (place, value) in steps.into_iter().filter(|(place, _)| place.is_within("up")) {
            if let Some(call) = value.call() {
                History { reader, place, parts }.step(call, &value);
            }
        }
    }
}

/// One step over the tables so far.
struct History<'h, 'p> {
    reader: &'h Reader<'p>,
    place: Place<'p>,
    parts: &'h mut FilePart,
}

impl History<'_, '_> {
    fn step(&mut self, call: &Call, at: &Expr) {
        let Some(word) = last_name(&call.callee) else { return };
        if NOT_REPLAYED.contains(&word) {
            return self.not_replayed(word, at);
        }
        let Some((_, least)) = STEPS.iter().find(|(known, _)| *known == word) else { return };
        let arguments: Vec<Expr> = call.arguments.iter().map(|argument| self.place.value(argument)).collect();
        let done = (arguments.len() >= *least).then(|| self.done(word, &arguments)).flatten();
        if done.is_none() {
            self.not_replayed(word, at);
        }
    }

    fn not_replayed(&mut self, word: &str, at: &Expr) {
        self.parts.diagnostics.push(
            Diagnostic::new("step-not-replayed", Severity::Warning, format!("`{word}` of this migration is not replayed"))
                .at(Some(at.span), "what it does to the tables is not known")
                .with_help("compare with the live database instead"),
        );
    }

    /// Carries out a step; nothing where it cannot be.
    fn done(&mut self, word: &str, arguments: &[Expr]) -> Option<()> {
        let (namespace, table) = table_of(&arguments[0])?;
        if word == "createTable" {
            return self.create(namespace, table, arguments);
        }
        let at = self.parts.drafts.iter().position(|draft| draft.title == table)?;
        match word {
            "dropTable" => {
                self.parts.drafts.remove(at);
            }
            "renameTable" => {
                let (_, name) = table_of(&arguments[1])?;
                self.rename(at, name);
            }
            "addColumn" => self.column(at, &arguments[1], &arguments[2])?,
            "removeColumn" => self.remove(at, arguments[1].text()?),
            "changeColumn" => self.change(at, &arguments[1], &arguments[2])?,
            "renameColumn" => self.rename_column(at, arguments[1].text()?, arguments[2].text()?),
            "addIndex" => self.add_index(at, arguments)?,
            "removeIndex" => self.remove_index(at, &arguments[1]),
            "addConstraint" => self.constrain(at, arguments)?,
            _ => {
                let name = arguments[1].text()?;
                let draft = &mut self.parts.drafts[at];
                draft.model.uniques.retain(|unique| unique.name.as_deref() != Some(name));
                draft.model.checks.retain(|check| check.name.as_deref() != Some(name));
                draft.references.retain(|reference| name != format!("{table}_{}_fkey", reference.attribute));
            }
        }
        Some(())
    }

    fn create(&mut self, namespace: Option<String>, table: String, arguments: &[Expr]) -> Option<()> {
        let ExprKind::Map(pairs) = &arguments[1].kind else { return None };
        let module = self.reader.module(self.place.file).to_owned();
        let name = name_of_table(&table);
        let options = arguments.get(2);
        let model = Model {
            id: format!("{module}.{name}"),
            name,
            module,
            form: Form::Table,
            table: Some(table.clone()),
            namespace,
            comment: options.and_then(|options| options.entry("comment")).and_then(Expr::text).map(str::to_owned),
            span: Some(arguments[0].span),
            key: Some(Vec::new()),
            ..Model::default()
        };
        self.parts.drafts.retain(|draft| draft.title != table);
        self.parts.drafts.push(Draft { model, title: table, ..Draft::empty(self.place.file) });
        let at = self.parts.drafts.len() - 1;
        for (key, value) in pairs {
            self.column(at, key, value)?;
        }
        if let Some(ExprKind::Map(keys)) = options.and_then(|options| options.entry("uniqueKeys")).map(|keys| &keys.kind) {
            for (name, key) in keys {
                let fields = texts(key.entry("fields").unwrap_or(key));
                self.parts.drafts[at].model.uniques.push(UniqueDeclaration {
                    attributes: fields,
                    name: None,
                    span: Some(name.span),
                    ..UniqueDeclaration::default()
                });
            }
        }
        Some(())
    }

    fn column(&mut self, at: usize, key: &Expr, value: &Expr) -> Option<()> {
        key.text()?;
        let mut draft = std::mem::replace(&mut self.parts.drafts[at], Draft::empty(self.place.file));
        attribute::read(self.reader, &self.place, &mut draft, key, value, self.parts);
        if draft.fields.iter().any(|field| field.key) {
            draft.model.key = None;
        }
        self.parts.drafts[at] = draft;
        Some(())
    }

    /// Says a column anew: what is not said again is gone, but for what keeps it apart.
    fn change(&mut self, at: usize, key: &Expr, value: &Expr) -> Option<()> {
        let name = key.text()?;
        let place = self.parts.drafts[at].fields.iter().position(|field| field.name.as_deref() == Some(name))?;
        let before = self.parts.drafts[at].fields.remove(place);
        self.column(at, key, value)?;
        let fields = &mut self.parts.drafts[at].fields;
        if let Some(mut field) = fields.pop() {
            field.key |= before.key;
            field.unique = field.unique.or(before.unique);
            fields.insert(place, field);
        }
        Some(())
    }

    fn remove(&mut self, at: usize, name: &str) {
        let server = self.reader.project.database;
        let draft = &mut self.parts.drafts[at];
        draft.fields.retain(|field| field.name.as_deref() != Some(name));
        draft.references.retain(|reference| reference.attribute != name);
        // Where its named constraints stand in the model, they may stand no more.
        draft.groups.clear();
        dropping::attribute(&mut draft.model, name, server);
    }

    fn rename(&mut self, at: usize, name: String) {
        let before = std::mem::replace(&mut self.parts.drafts[at].title, name.clone());
        let draft = &mut self.parts.drafts[at];
        draft.model.name = name_of_table(&name);
        draft.model.id = format!("{}.{}", draft.model.module, draft.model.name);
        draft.model.table = Some(name.clone());
        for reference in self.parts.drafts.iter_mut().flat_map(|draft| &mut draft.references) {
            if let Some(Target::Table { name: target, .. }) = reference.target.as_mut().filter(|target| target.is_table(&before)) {
                target.clone_from(&name);
            }
        }
    }

    fn rename_column(&mut self, at: usize, before: &str, after: &str) {
        let draft = &mut self.parts.drafts[at];
        let put = |name: &mut String| {
            if name == before {
                after.clone_into(name);
            }
        };
        draft.fields.iter_mut().filter_map(|field| field.name.as_mut()).for_each(put);
        draft.references.iter_mut().for_each(|reference| put(&mut reference.attribute));
        draft.model.uniques.iter_mut().flat_map(|unique| &mut unique.attributes).for_each(put);
        let parts = draft.model.indexes.iter_mut().flat_map(|index| &mut index.parts);
        parts.filter_map(|part| part.attribute.as_mut()).for_each(put);
    }

    /// `addIndex(table, fields, options)`, or `addIndex(table, { fields, ... })`.
    fn add_index(&mut self, at: usize, arguments: &[Expr]) -> Option<()> {
        let mut pairs = match (&arguments[1].kind, arguments.get(2).map(|options| &options.kind)) {
            (ExprKind::Map(pairs), _) => pairs.clone(),
            (ExprKind::List(_), Some(ExprKind::Map(pairs))) => pairs.clone(),
            (ExprKind::List(_), _) => Vec::new(),
            _ => return None,
        };
        if matches!(arguments[1].kind, ExprKind::List(_)) {
            let key = Expr { kind: ExprKind::Text("fields".into()), span: arguments[1].span };
            pairs.push((key, arguments[1].clone()));
        }
        // Older words for the same.
        for (key, _) in &mut pairs {
            let word = match key.text() {
                Some("indexName") => "name",
                Some("indicesType") => "type",
                _ => continue,
            };
            key.kind = ExprKind::Text(word.into());
        }
        let whole = Expr { kind: ExprKind::Map(pairs), span: arguments[1].span };
        let mut options = Arguments::of_object(self.place.scope(), &whole);
        let draft = std::mem::replace(&mut self.parts.drafts[at], Draft::empty(self.place.file));
        let found = index::index(self.reader, &draft, &mut options, &whole, self.parts);
        self.parts.drafts[at] = draft;
        self.parts.drafts[at].model.indexes.push(found?);
        Some(())
    }

    fn remove_index(&mut self, at: usize, which: &Expr) {
        let fields = texts(which);
        let name = which.text();
        let draft = &mut self.parts.drafts[at];
        let silent = |parts: &[String]| format!("{}_{}", draft.title, parts.join("_"));
        draft.model.indexes.retain(|index| {
            let own: Vec<String> = index.parts.iter().filter_map(|part| part.attribute.clone()).collect();
            let called = index.name.clone().unwrap_or_else(|| silent(&own));
            !(name == Some(called.as_str()) || (name.is_none() && own == fields))
        });
    }

    /// `addConstraint(table, { type, fields, name, ... })`, or with the fields before the options.
    fn constrain(&mut self, at: usize, arguments: &[Expr]) -> Option<()> {
        let options = arguments.iter().skip(1).find(|argument| matches!(argument.kind, ExprKind::Map(_)))?;
        let fields = options.entry("fields").or_else(|| arguments.iter().skip(1).find(|argument| argument.list().is_some()));
        let fields = fields.map_or(Vec::new(), texts);
        let text = |name: &str| options.entry(name).and_then(Expr::text).map(str::to_owned);
        let (name, span) = (text("name"), Some(options.span));
        let draft = &mut self.parts.drafts[at];
        match text("type")?.to_lowercase().as_str() {
            "unique" => {
                draft.model.uniques.push(UniqueDeclaration { attributes: fields, name, span, ..UniqueDeclaration::default() });
            }
            "primary key" => {
                draft.fields.iter_mut().filter(|field| field.name.as_ref().is_some_and(|name| fields.contains(name))).for_each(|field| {
                    (field.key, field.nullable) = (true, None);
                });
                draft.model.key = None;
            }
            "check" => {
                let expression = Expression::parse_sql(&index::condition(options.entry("where")?)?);
                draft.model.checks.push(CheckDeclaration { name, expression, extras: Default::default(), span });
            }
            "foreign key" => {
                let references = options.entry("references")?;
                let (namespace, table) = table_of(references.entry("table").or(references.entry("model"))?)?;
                draft.references.push(Reference {
                    attribute: fields.first()?.clone(),
                    target: Some(Target::Table { namespace, name: table }),
                    key: references.entry("field").or(references.entry("key")).and_then(Expr::text).map(str::to_owned),
                    on_delete: text("onDelete").as_deref().and_then(attribute::action),
                    on_update: text("onUpdate").as_deref().and_then(attribute::action),
                    deferrable: None,
                    span: options.span,
                });
            }
            _ => return None,
        }
        Some(())
    }
}

/// A table by its name, or by its name and its named schema.
fn table_of(expr: &Expr) -> Option<(Option<String>, String)> {
    let text = |name: &str| expr.entry(name).and_then(Expr::text).map(str::to_owned);
    match &expr.kind {
        ExprKind::Text(name) => Some((None, name.to_string())),
        ExprKind::Map(_) => Some((text("schema"), text("tableName")?)),
        _ => None,
    }
}

fn texts(expr: &Expr) -> Vec<String> {
    expr.list()
        .unwrap_or_default()
        .iter()
        .filter_map(|item| item.text().or(item.entry("name").and_then(Expr::text)))
        .map(str::to_owned)
        .collect()
}
