//! `define`, `init`, and what is said of a model as a whole.

use super::{Draft, FilePart, Reader, attribute, index};
use crate::codes;
use crate::declaration::{FieldDeclaration, Form, Model, Spelling};
use crate::diagnostic::Diagnostic;
use crate::dialect::naming::Case;
use crate::host::arguments::Arguments;
use crate::host::outline::{Call, Class, Expr, ExprKind};
use crate::host::project::Found;
use crate::host::typescript::place::{Place, Statement, last, last_name};
use crate::inflection::plural;
use crate::schema::{Database, Default_, Purpose};

/// Options of a model that say how its tables and columns are called, and what the framework keeps.
#[derive(Clone, Debug, Default, PartialEq)]
pub(super) struct Options {
    pub(super) underscored: Option<bool>,
    freeze: Option<bool>,
    timestamps: Option<bool>,
    paranoid: Option<bool>,
    /// Names of the columns that the framework keeps; an empty one stands for none.
    created: Option<String>,
    updated: Option<String>,
    deleted: Option<String>,
    version: Option<String>,
    pub(super) namespace: Option<String>,
}

impl Options {
    /// Takes what is said, over what was said for all.
    fn take(options: &mut Arguments<'_>, shared: &Options) -> Self {
        let mut kept = |name: &str, silent: &str, otherwise: &Option<String>| {
            let said = match options.take(name).map(|value| value.kind) {
                Some(ExprKind::Text(text)) => Some(text.to_string()),
                Some(ExprKind::Boolean(true)) => Some(silent.to_owned()),
                Some(ExprKind::Boolean(false)) => Some(String::new()),
                _ => None,
            };
            said.or_else(|| otherwise.clone())
        };
        let created = kept("createdAt", "createdAt", &shared.created);
        let updated = kept("updatedAt", "updatedAt", &shared.updated);
        let deleted = kept("deletedAt", "deletedAt", &shared.deleted);
        let version = kept("version", "version", &shared.version);
        Options {
            underscored: options.take_bool("underscored").or(shared.underscored),
            freeze: options.take_bool("freezeTableName").or(shared.freeze),
            timestamps: options.take_bool("timestamps").or(shared.timestamps),
            paranoid: options.take_bool("paranoid").or(shared.paranoid),
            namespace: options.take_text("schema").or_else(|| shared.namespace.clone()),
            created,
            updated,
            deleted,
            version,
        }
    }

    /// Gives a column that the framework keeps the name of the member that a decorator marks.
    pub(super) fn keep(&mut self, decorator: &str, name: &str) {
        match decorator {
            "CreatedAt" => self.created = Some(name.to_owned()),
            "UpdatedAt" => self.updated = Some(name.to_owned()),
            "DeletedAt" => (self.deleted, self.paranoid) = (Some(name.to_owned()), Some(true)),
            _ => {}
        }
    }

    /// Whether times of creation and update are kept, where it is said.
    pub(super) fn timestamps(&self) -> Option<bool> {
        self.timestamps
    }

    /// A name as it is stored where nothing is said of it.
    pub(super) fn stored(&self, name: &str) -> String {
        if self.underscored == Some(true) { Case::Snake.apply(name) } else { name.to_owned() }
    }

    /// The columns that the framework keeps, in the order in which it appends them.
    fn kept(&self) -> Vec<(String, Purpose)> {
        let name =
            |said: &Option<String>, silent: &str| said.clone().unwrap_or_else(|| silent.to_owned());
        let mut kept = Vec::new();
        if self.timestamps != Some(false) {
            kept.push((name(&self.created, "createdAt"), Purpose::CreationTime));
            kept.push((name(&self.updated, "updatedAt"), Purpose::UpdateTime));
            if self.paranoid == Some(true) {
                kept.push((name(&self.deleted, "deletedAt"), Purpose::DeletionTime));
            }
        }
        kept.extend(self.version.clone().map(|name| (name, Purpose::Version)));
        kept.retain(|(name, _)| !name.is_empty());
        kept
    }
}

/// A model that a statement declares.
pub(super) struct Declared {
    /// The name of the class, or the first argument of `define`.
    name: String,
    attributes: Option<Expr>,
    options: Option<Expr>,
    span: crate::source::Span,
}

/// The options of a connection that hold for all its models.
pub(super) fn shared(place: &Place<'_>, value: &Expr) -> Option<Options> {
    let call = value
        .call()
        .filter(|call| last(call.callee_name().trim_start_matches("new ")) == "Sequelize")?;
    let options = call
        .arguments
        .iter()
        .map(|argument| place.value(argument))
        .find(|argument| matches!(argument.kind, ExprKind::Map(_)))?;
    let define = options.entry("define")?.clone();
    Some(Options::take(&mut Arguments::of_object(place.scope(), &define), &Options::default()))
}

/// The model that a statement declares, if it does.
pub(super) fn declared(place: &Place<'_>, value: &Expr) -> Option<Declared> {
    let call = value.call()?;
    match last_name(&call.callee)? {
        "define" => {
            let name = place.value(call.arguments.first()?);
            let name = name.text()?.to_owned();
            let attributes = call.arguments.get(1).cloned();
            let is_model = attributes.is_some() && is_connection(place, call);
            is_model.then(|| Declared {
                name,
                attributes,
                options: call.arguments.get(2).cloned(),
                span: call.arguments[0].span,
            })
        }
        "init" => {
            let name = owner(place, call)?;
            if !is_model_class(place, &name) {
                return None;
            }
            let (attributes, options) =
                (call.arguments.first().cloned(), call.arguments.get(1).cloned());
            options.as_ref()?;
            Some(Declared { name, attributes, options, span: value.span })
        }
        _ => None,
    }
}

/// Whether what `define` is called on may be a connection.
fn is_connection(place: &Place<'_>, call: &Call) -> bool {
    let path = call.callee_name();
    let head = path.split('.').next().unwrap_or_default();
    let owner = path.rsplit('.').nth(1).unwrap_or(head);
    let made = place
        .variable(owner)
        .and_then(Expr::call)
        .is_some_and(|call| last(call.callee_name()).ends_with("Sequelize"));
    made || owner.to_lowercase().contains("sequelize")
        || matches!(owner, "db" | "database" | "connection" | "conn" | "orm")
}

/// The class on which a method is called: by its name, or the one in whose method the place is.
pub(super) fn owner(place: &Place<'_>, call: &Call) -> Option<String> {
    match &call.callee.kind {
        ExprKind::Name(path) => {
            let (head, _) = path.rsplit_once('.')?;
            match head {
                "this" | "super" => place.class().map(str::to_owned),
                _ => Some(last(head).to_owned()),
            }
        }
        ExprKind::Operation { operands, .. } => last_name(operands.first()?).map(str::to_owned),
        _ => None,
    }
}

/// Whether a class extends the framework's own, by however many others.
fn is_model_class(place: &Place<'_>, name: &str) -> bool {
    fn extends(place: &Place<'_>, class: &Class, depth: u32) -> bool {
        class.bases.iter().any(|base| {
            let Some(path) = last_name(base) else { return false };
            if path == "Model" || depth > 8 {
                return path == "Model";
            }
            let found = base
                .name()
                .or(base.call().map(|call| call.callee_name()))
                .map(|name| place.scope().lookup(name));
            matches!(found, Some(Found::Class(_, class)) if extends(place, class, depth + 1))
        })
    }
    let outline = &place.project.outlines[place.file.0 as usize];
    let own = outline.classes.iter().find(|class| class.name == name);
    let found = match (own, place.scope().lookup(name)) {
        (Some(class), _) | (None, Found::Class(_, class)) => class,
        _ => return false,
    };
    extends(place, found, 0)
}

/// Reads one model.
pub(super) fn read(
    reader: &Reader<'_>,
    place: &Place<'_>,
    declared: Declared,
    part: &mut FilePart,
) -> Option<Draft> {
    let Declared { name, attributes, options, span } = declared;
    let empty = Expr { kind: ExprKind::Map(Vec::new()), span };
    let written = options.unwrap_or(empty);
    let mut arguments = Arguments::of_object(place.scope(), &place.value(&written));
    let mut draft = begin(reader, place, name, &mut arguments, span);
    arguments.take_raw("sequelize");
    let attributes = attributes.map(|attributes| place.value(&attributes));
    match attributes.as_ref().map(|attributes| &attributes.kind) {
        Some(ExprKind::Map(pairs)) => {
            for (key, value) in pairs {
                attribute::read(reader, place, &mut draft, key, value, part);
            }
        }
        _ => part
            .diagnostics
            .push(opaque(&draft.title, attributes.map_or(span, |attributes| attributes.span))),
    }
    finish(reader, place, &mut draft, &mut arguments, part);
    draft.model.extras.append(&mut arguments.into_extras());
    Some(draft)
}

fn opaque(title: &str, span: crate::source::Span) -> Diagnostic {
    Diagnostic::of(
        &codes::OPAQUE_ATTRIBUTES,
        format!("the attributes of `{title}` are known only at run time"),
    )
    .at(Some(span), "not an object that can be read here")
    .because("its columns are missing")
    .with_help("write them as an object, or as a constant of a file in reach")
}

/// A model with what its options say of its names.
pub(super) fn begin(
    reader: &Reader<'_>,
    place: &Place<'_>,
    name: String,
    arguments: &mut Arguments<'_>,
    span: crate::source::Span,
) -> Draft {
    let options = Options::take(arguments, &reader.shared);
    let title = arguments.take_text("modelName").unwrap_or_else(|| name.clone());
    let plural_name =
        arguments.take("name").and_then(|names| names.entry("plural")?.text().map(str::to_owned));
    let silent = match options.freeze == Some(true) {
        true => title.clone(),
        false => options.stored(&plural_name.unwrap_or_else(|| plural(&title))),
    };
    let mut table = arguments.take_text("tableName").unwrap_or(silent);
    let sqlite = reader.conventions.database == Database::Sqlite;
    if let (true, Some(namespace)) = (sqlite, &options.namespace) {
        table = format!("{namespace}.{table}");
    }
    let module = reader.module(place.file).to_owned();
    let convention = reader.conventions.names.table.apply(&[("module", &module), ("name", &name)]);
    let model = Model {
        id: format!("{module}.{name}"),
        name,
        module,
        form: Form::Concrete,
        table: Some(table).filter(|table| *table != convention),
        namespace: options.namespace.clone().filter(|_| !sqlite),
        comment: arguments.take_text("comment"),
        span: Some(span),
        ..Model::default()
    };
    Draft { model, title, options, ..Draft::empty(place.file) }
}

/// What the framework keeps by itself, and the indexes.
pub(super) fn finish(
    reader: &Reader<'_>,
    place: &Place<'_>,
    draft: &mut Draft,
    arguments: &mut Arguments<'_>,
    part: &mut FilePart,
) {
    for (name, purpose) in draft.options.kept() {
        match draft.fields.iter_mut().find(|field| field.name.as_deref() == Some(&name)) {
            Some(field) => field.purpose = Some(purpose),
            None => draft.fields.push(kept(&draft.options, name, purpose, draft.model.span)),
        }
    }
    whole_key(reader, draft);
    if let Some(indexes) = arguments.take("indexes") {
        index::read(reader, place, draft, &indexes, part);
    }
    attribute::in_vain(draft, part);
    if let Some(managed) = static_sync(place, &draft.model.name) {
        draft.model.managed = Some(managed);
    }
}

/// On SQLite every key of one whole number is an `INTEGER` (`createTableQuery` of its query
/// generator).
fn whole_key(reader: &Reader<'_>, draft: &mut Draft) {
    let mut keys = draft.fields.iter_mut().filter(|field| field.key);
    if let (Database::Sqlite, Some(only), None) =
        (reader.conventions.database, keys.next(), keys.next())
        && matches!(only.spelling.word.as_str(), "TINYINT" | "SMALLINT" | "MEDIUMINT" | "BIGINT")
    {
        only.spelling = Spelling::word("INTEGER");
    }
}

/// A class whose own `sync` stands for the framework's has a table that something else makes.
fn static_sync(place: &Place<'_>, name: &str) -> Option<bool> {
    let class = place.project.outlines[place.file.0 as usize]
        .classes
        .iter()
        .find(|class| class.name == name)?;
    class.methods.iter().any(|method| method.name == "sync").then_some(false)
}

/// A column that the framework appends (`_addDefaultAttributes` of its `model.js`).
pub(super) fn kept(
    options: &Options,
    name: String,
    purpose: Purpose,
    span: Option<crate::source::Span>,
) -> FieldDeclaration {
    let column = options.stored(&name);
    let version = purpose == Purpose::Version;
    FieldDeclaration {
        column: Some(column).filter(|column| *column != name),
        name: Some(name),
        spelling: Spelling::word(if version { "INTEGER" } else { "DATE" }),
        nullable: (purpose != Purpose::DeletionTime).then_some(false),
        database_default: version.then(|| Box::new(Default_::Literal(0.into()))),
        purpose: Some(purpose),
        span,
        ..FieldDeclaration::default()
    }
}

/// What a later statement changes: `removeAttribute`, or an own `sync`.
pub(super) fn changed(
    place: &Place<'_>,
    statement: &Statement<'_>,
    value: &Expr,
    part: &mut FilePart,
) {
    if let Some(name) = statement.name.and_then(|path| path.strip_suffix(".sync")) {
        let draft = part
            .drafts
            .iter_mut()
            .find(|draft| draft.model.name == last(name) || draft.title == last(name));
        return draft.into_iter().for_each(|draft| draft.model.managed = Some(false));
    }
    let Some(call) = value.call().filter(|call| last_name(&call.callee) == Some("removeAttribute"))
    else {
        return;
    };
    let (Some(name), Some(gone)) =
        (owner(place, call), call.arguments.first().and_then(Expr::text))
    else {
        return;
    };
    let variable = place
        .variable(&name)
        .and_then(Expr::call)
        .and_then(|call| call.arguments.first())
        .and_then(Expr::text);
    let draft = part
        .drafts
        .iter_mut()
        .rev()
        .find(|draft| draft.model.name == name || Some(draft.title.as_str()) == variable);
    let Some(draft) = draft else { return };
    draft.fields.retain(|field| field.name.as_deref() != Some(gone));
    if gone == "id" {
        // A key that is listed, and of nothing, is none.
        draft.model.key = Some(Vec::new());
    }
}
