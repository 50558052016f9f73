//! Migrations: what each step says, from the first file to the last. They count where no model is
//! declared, so that a history can be compared with the models.

use super::{Draft, FilePart, Reader, Target, attribute, index};
use crate::codes;
use crate::declaration::{
    CheckDeclaration, Form, History, Model, ReferenceDeclaration, Said, Step, UniqueDeclaration,
};
use crate::diagnostic::Diagnostic;
use crate::dialect::naming::name_of_table;
use crate::host::arguments::Arguments;
use crate::host::outline::{Call, Expr, ExprKind};
use crate::host::typescript::place::{Place, last_name, statements};
use crate::schema::{Expression, address};
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

/// Steps that do nothing where there is nothing to drop, or a table is there already: the framework
/// says `IF EXISTS` and `IF NOT EXISTS` (6.37).
const IF_POSSIBLE: &[&str] = &["createTable", "dropTable", "removeIndex"];

/// Steps that change tables in a way that is not replayed.
const NOT_REPLAYED: &[&str] = &["query", "dropAllTables", "createSchema", "dropEnum"];

/// What the framework calls an index that nobody named.
const INDEX_NAME: &str = "{table}_{columns}";

/// What every migration of the project does, in the order of the files.
pub(super) fn history(reader: &Reader<'_>, parts: &mut FilePart) -> History {
    let mut files: Vec<FileId> = reader
        .project
        .files()
        .map(|(file, _)| file)
        .filter(|file| reader.project.is_input(*file))
        .collect();
    files.sort_by_key(|file| reader.project.path(*file).to_owned());
    let mut told = Vec::new();
    for file in files {
        let steps: Vec<(Place<'_>, Expr)> = statements(reader.project, file)
            .into_iter()
            .filter_map(|statement| statement.value())
            .collect();
        let is_step = |value: &Expr| {
            value
                .call()
                .and_then(|call| last_name(&call.callee))
                .is_some_and(|word| STEPS.iter().any(|(known, _)| *known == word))
        };
        let first = steps.iter().find(|(place, value)| place.is_within("up") && is_step(value));
        if !steps.iter().any(|(place, _)| place.is_within("down")) {
            parts
                .diagnostics
                .extend(first.map(|(_, value)| crate::dialect::remarks::one_way(value.span)));
        }
        for (place, value) in steps.into_iter().filter(|(place, _)| place.is_within("up")) {
            if let Some(call) = value.call() {
                Telling { reader, place, parts, steps: &mut told }.step(call, &value);
            }
        }
    }
    History { steps: told, index_name: INDEX_NAME, made: None }
}

/// One step beside those told so far.
struct Telling<'h, 'p> {
    reader: &'h Reader<'p>,
    place: Place<'p>,
    parts: &'h mut FilePart,
    steps: &'h mut Vec<Step>,
}

impl Telling<'_, '_> {
    fn step(&mut self, call: &Call, at: &Expr) {
        let Some(word) = last_name(&call.callee) else { return };
        if NOT_REPLAYED.contains(&word) {
            return self.not_replayed(word, at);
        }
        let Some((_, least)) = STEPS.iter().find(|(known, _)| *known == word) else { return };
        let arguments: Vec<Expr> =
            call.arguments.iter().map(|argument| self.place.value(argument)).collect();
        match (arguments.len() >= *least).then(|| self.said(word, &arguments)).flatten() {
            Some(said) => self.steps.push(Step {
                said,
                if_possible: IF_POSSIBLE.contains(&word),
                span: at.span,
            }),
            None => self.not_replayed(word, at),
        }
    }

    fn not_replayed(&mut self, word: &str, at: &Expr) {
        self.parts.diagnostics.push(
            Diagnostic::of(
                &codes::STEP_NOT_REPLAYED,
                format!("`{word}` of this migration is not replayed"),
            )
            .at(Some(at.span), "what it does to the tables is not known")
            .with_help("compare with the live database instead"),
        );
    }

    /// What a step says; nothing where it is not known.
    fn said(&mut self, word: &str, arguments: &[Expr]) -> Option<Said> {
        let (namespace, name) = table_of(&arguments[0])?;
        let table = address(namespace.as_deref(), &name);
        let text = |at: usize| arguments[at].text().map(str::to_owned);
        Some(match word {
            "createTable" => Said::CreateTable(Box::new(self.create(namespace, name, arguments)?)),
            "dropTable" => Said::DropTable { table },
            "renameTable" => Said::RenameTable { table, to: table_of(&arguments[1])?.1 },
            "addColumn" => {
                Said::Add { table, parts: Box::new(self.column(&arguments[1], &arguments[2])?) }
            }
            "removeColumn" => Said::DropColumn { table, column: text(1)? },
            "changeColumn" => {
                let parts = Box::new(self.column(&arguments[1], &arguments[2])?);
                Said::ReplaceColumn { table, column: text(1)?, parts }
            }
            "renameColumn" => Said::RenameColumn { table, column: text(1)?, to: text(2)? },
            "addIndex" => Said::Add { table, parts: Box::new(self.index(arguments)?) },
            "removeIndex" => match text(1) {
                Some(name) => Said::DropNamed { table: Some(table), name },
                None => Said::DropIndexOver { table, columns: texts(&arguments[1]) },
            },
            "addConstraint" => self.constraint(table, arguments)?,
            _ => Said::DropNamed { table: Some(table), name: text(1)? },
        })
    }

    fn draft(&self) -> Draft {
        Draft {
            model: Model { form: Form::Table, key: Some(Vec::new()), ..Model::default() },
            ..Draft::empty(self.place.file)
        }
    }

    fn create(
        &mut self,
        namespace: Option<String>,
        table: String,
        arguments: &[Expr],
    ) -> Option<Model> {
        let ExprKind::Map(pairs) = &arguments[1].kind else { return None };
        let module = self.reader.module(self.place.file).to_owned();
        let name = name_of_table(&table);
        let options = arguments.get(2);
        let model = Model {
            id: format!("{module}.{name}"),
            name,
            module,
            table: Some(table),
            namespace,
            comment: options
                .and_then(|options| options.entry("comment"))
                .and_then(Expr::text)
                .map(str::to_owned),
            span: Some(arguments[0].span),
            ..self.draft().model
        };
        let mut draft = Draft { model, ..self.draft() };
        for (key, value) in pairs {
            key.text()?;
            attribute::read(self.reader, &self.place, &mut draft, key, value, self.parts);
        }
        if let Some(ExprKind::Map(keys)) =
            options.and_then(|options| options.entry("uniqueKeys")).map(|keys| &keys.kind)
        {
            for (name, key) in keys {
                let attributes = texts(key.entry("fields").unwrap_or(key));
                draft.model.uniques.push(UniqueDeclaration {
                    attributes,
                    span: Some(name.span),
                    ..UniqueDeclaration::default()
                });
            }
        }
        Some(declared(draft))
    }

    /// A column with what it says of its table.
    fn column(&mut self, key: &Expr, value: &Expr) -> Option<Model> {
        key.text()?;
        let mut draft = self.draft();
        attribute::read(self.reader, &self.place, &mut draft, key, value, self.parts);
        Some(declared(draft))
    }

    /// `addIndex(table, fields, options)`, or `addIndex(table, { fields, ... })`.
    fn index(&mut self, arguments: &[Expr]) -> Option<Model> {
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
        let mut model = self.draft().model;
        model.indexes.push(index::index(
            self.reader,
            &self.draft(),
            &mut options,
            &whole,
            self.parts,
        )?);
        Some(model)
    }

    /// `addConstraint(table, { type, fields, name, ... })`, or with the fields before the options.
    fn constraint(&mut self, table: String, arguments: &[Expr]) -> Option<Said> {
        let options =
            arguments.iter().skip(1).find(|argument| matches!(argument.kind, ExprKind::Map(_)))?;
        let fields = options
            .entry("fields")
            .or_else(|| arguments.iter().skip(1).find(|argument| argument.list().is_some()));
        let fields = fields.map_or(Vec::new(), texts);
        let text = |name: &str| options.entry(name).and_then(Expr::text).map(str::to_owned);
        let (name, span) = (text("name"), Some(options.span));
        let mut model = self.draft().model;
        match text("type")?.to_lowercase().as_str() {
            "unique" => {
                model.uniques.push(UniqueDeclaration {
                    attributes: fields,
                    name,
                    span,
                    ..UniqueDeclaration::default()
                });
            }
            "primary key" => return Some(Said::SetKey { table, columns: fields, name }),
            "check" => {
                let expression = Expression::parse_sql(&index::condition(options.entry("where")?)?);
                model.checks.push(CheckDeclaration {
                    name,
                    expression,
                    extras: Default::default(),
                    span,
                });
            }
            "foreign key" => {
                let references = options.entry("references")?;
                let (namespace, target) =
                    table_of(references.entry("table").or(references.entry("model"))?)?;
                let key = references
                    .entry("field")
                    .or(references.entry("key"))
                    .and_then(Expr::text)
                    .map(str::to_owned);
                model.references.push(ReferenceDeclaration {
                    columns: fields,
                    namespace,
                    table: target,
                    references: key.into_iter().collect(),
                    on_delete: text("onDelete").as_deref().and_then(attribute::action),
                    on_update: text("onUpdate").as_deref().and_then(attribute::action),
                    deferrable: None,
                    name,
                    span,
                });
            }
            _ => return None,
        }
        Some(Said::Add { table, parts: Box::new(model) })
    }
}

/// What a draft of a migration declares, with its references as of columns.
fn declared(mut draft: Draft) -> Model {
    let references = std::mem::take(&mut draft.references);
    if draft.fields.iter().any(|field| field.key) {
        draft.model.key = None;
    }
    let mut model = draft.declaration();
    for reference in references {
        let Some((namespace, table)) = reference.target.and_then(|target| match target {
            Target::Table { namespace, name } => Some((namespace, name)),
            Target::Model(names) => names.into_iter().next().map(|name| (None, name)),
            Target::File(_) => None,
        }) else {
            continue;
        };
        model.references.push(ReferenceDeclaration {
            columns: vec![reference.attribute],
            namespace,
            table,
            references: reference.key.into_iter().collect(),
            on_delete: reference.on_delete,
            on_update: reference.on_update,
            deferrable: reference.deferrable,
            name: None,
            span: Some(reference.span),
        });
    }
    model
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
