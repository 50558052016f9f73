//! What has to be known of the whole project before a class is read: which classes are mapped, and
//! to which tables.

use std::collections::HashMap;

use smol_str::SmolStr;

use super::{is_call_of, last, name_word, word};
use crate::conventions::computed_is_stored;
use crate::dialect::Settings;
use crate::dialect::naming::Case;
use crate::host::evaluate::Scope;
use crate::host::outline::{Class, Expr, ExprKind};
use crate::host::project::{Found, Project};
use crate::host::python::package;
use crate::source::{FileId, Span};

/// Where a declarative class comes from.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum Flavour {
    Plain,
    /// The Flask extension's model base, which names tables by itself.
    Flask,
    /// A class that also validates; its annotations alone are columns.
    Validated,
}

/// What a class is.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum Kind {
    Other,
    /// The base of mapped classes.
    Root(Flavour),
    /// It brings columns to mapped classes that extend it, and does not make them so.
    Mixin,
    /// Its columns go to the mapped classes that extend it.
    Abstract(Flavour),
    Mapped(Flavour),
    /// It shares the table of the class that it extends.
    Child(Flavour),
}

impl Kind {
    fn flavour(self) -> Option<Flavour> {
        match self {
            Kind::Other | Kind::Mixin => None,
            Kind::Root(flavour)
            | Kind::Abstract(flavour)
            | Kind::Mapped(flavour)
            | Kind::Child(flavour) => Some(flavour),
        }
    }
}

/// Classes of the framework that every mapped class comes from.
const ROOTS: &[&str] = &["sqlalchemy.orm.DeclarativeBase", "sqlalchemy.orm.DeclarativeBaseNoMeta"];

/// Functions that make such a class.
const ROOT_FUNCTIONS: &[&str] =
    &["declarative_base", "generate_base", "automap_base", "as_declarative"];

/// Callees that make a column or a relation of a class.
const MEMBERS: &[&str] =
    &["Column", "mapped_column", "relationship", "Relationship", "Field", "deferred"];

pub(super) struct KnownProject {
    pub(super) release: String,
    /// Whether a computed column of which nothing more is said is kept in its row.
    pub(super) computed_is_stored: bool,
    /// Module of each file.
    pub(super) modules: Vec<String>,
    kinds: HashMap<(FileId, SmolStr), Kind>,
    /// Patterns for the names of constraints, by kind (`ck`, `uq`, ...).
    pub(super) name_patterns: HashMap<String, String>,
    /// The named schema of tables of which none is said.
    pub(super) schema: Option<String>,
    /// Options of a metadata that say nothing here, and where.
    pub(super) unread: Vec<(String, Span)>,
    /// What annotations mean in this project: last name, and the type with its file.
    pub(super) annotations: Vec<(String, FileId, Expr)>,
}

impl KnownProject {
    pub(super) fn of(project: &Project, settings: &Settings) -> Self {
        let fallback = settings.default_module.as_deref().unwrap_or("main");
        let module = |path: &str| {
            let name = package(path).rsplit('/').next().unwrap_or_default();
            if name.is_empty() || name == "." { fallback.to_owned() } else { name.to_owned() }
        };
        let mut known = KnownProject {
            release: settings.release(&crate::DIALECT),
            computed_is_stored: computed_is_stored(settings),
            modules: project.files().map(|(file, _)| module(project.path(file))).collect(),
            kinds: HashMap::new(),
            name_patterns: HashMap::new(),
            schema: None,
            unread: Vec::new(),
            annotations: Vec::new(),
        };
        for (file, outline) in project.files() {
            for class in &outline.classes {
                known.classify(project, file, class, 0);
                let settings = class.members.iter().filter(|member| {
                    matches!(&*member.name, "metadata" | "registry" | "type_annotation_map")
                });
                for (name, value) in
                    settings.filter_map(|member| Some((&member.name, member.value.as_ref()?)))
                {
                    known.setting(project, file, name, value);
                }
            }
            outline.assignments.iter().for_each(|assignment| {
                known.setting(project, file, &assignment.name, &assignment.value)
            });
        }
        known
    }

    /// Patterns of names and meanings of annotations, where a metadata or a registry is made.
    fn setting(&mut self, project: &Project, file: FileId, name: &str, value: &Expr) {
        let scope = Scope { project, file, class: None };
        if name == "type_annotation_map" {
            return self.annotation_map(&scope, value);
        }
        let Some(call) = value.call() else { return };
        if let Some(ExprKind::Map(pairs)) =
            call.argument("naming_convention").map(|patterns| scope.value(patterns).kind)
        {
            let texts = pairs.iter().filter_map(|(key, value)| {
                Some((key.text()?.to_owned(), value.text()?.to_owned()))
            });
            self.name_patterns.extend(texts);
        }
        if word(&scope, call) == "MetaData" {
            let schema = call
                .argument("schema")
                .map(|schema| scope.value(schema))
                .and_then(|schema| schema.text().map(str::to_owned));
            self.schema = self.schema.take().or(schema);
            let others = call.named.iter().filter(|(name, _)| {
                !matches!(name.as_str(), "naming_convention" | "schema" | "info")
            });
            self.unread.extend(others.map(|(name, value)| (name.to_string(), value.span)));
        }
        if let Some(map) = call.argument("type_annotation_map") {
            self.annotation_map(&scope, map);
        }
        for inner in call.named.iter().filter(|(name, _)| name == "metadata") {
            self.setting(project, file, "metadata", &inner.1);
        }
    }

    fn annotation_map(&mut self, scope: &Scope<'_>, map: &Expr) {
        let map = match map.name().map(|name| scope.lookup(name)) {
            Some(Found::Value(_, value)) => value.clone(),
            _ => map.clone(),
        };
        let ExprKind::Map(pairs) = map.kind else { return };
        for (key, value) in pairs {
            let name = key.name().map_or_else(
                || scope.project.sources.text(key.span).to_owned(),
                |name| last(name).to_owned(),
            );
            self.annotations.push((name, scope.file, value));
        }
    }

    pub(super) fn kind(&self, file: FileId, class: &Class) -> Kind {
        self.kinds.get(&(file, class.name.clone())).copied().unwrap_or(Kind::Other)
    }

    pub(super) fn is_mapped(&self, file: FileId, class: &Class) -> bool {
        matches!(self.kind(file, class), Kind::Mapped(_) | Kind::Child(_))
    }

    fn classify(&mut self, project: &Project, file: FileId, class: &Class, depth: u32) -> Kind {
        let place = (file, class.name.clone());
        if let Some(known) = self.kinds.get(&place) {
            return *known;
        }
        self.kinds.insert(place.clone(), Kind::Other);
        let kind = self.kind_of(project, file, class, depth);
        self.kinds.insert(place, kind);
        kind
    }

    fn kind_of(&mut self, project: &Project, file: FileId, class: &Class, depth: u32) -> Kind {
        let scope = Scope { project, file, class: None };
        let mut parents = Vec::new();
        for base in class.bases.iter().filter(|_| depth < 64) {
            let Some(name) = base.name().or_else(|| of_generic(base)) else { continue };
            parents.push(match project.lookup(file, None, name) {
                Found::External(path) if ROOTS.contains(&path.as_str()) => {
                    return Kind::Root(Flavour::Plain);
                }
                Found::External(path)
                    if path.starts_with("sqlmodel.") && last(&path) == "SQLModel" =>
                {
                    Kind::Root(Flavour::Validated)
                }
                Found::External(path) if path.ends_with("db.Model") => Kind::Root(Flavour::Flask),
                Found::Value(file, value)
                    if is_call_of(&Scope { file, ..scope }, value, ROOT_FUNCTIONS) =>
                {
                    Kind::Root(Flavour::Plain)
                }
                Found::Class(file, class) => self.classify(project, file, class, depth + 1),
                _ if is_flask_model(&scope, name) => Kind::Root(Flavour::Flask),
                // Imported with everything else of the framework.
                Found::Unknown if matches!(name, "DeclarativeBase" | "DeclarativeBaseNoMeta") => {
                    return Kind::Root(Flavour::Plain);
                }
                Found::Unknown if name == "SQLModel" => Kind::Root(Flavour::Validated),
                _ => Kind::Other,
            });
        }
        let decorators: Vec<String> = class
            .decorators
            .iter()
            .map(|decorator| decorator.call().map_or(decorator, |call| &call.callee))
            .filter_map(Expr::name)
            .map(|name| last(name).to_owned())
            .collect();
        let decorated =
            |names: &[&str]| decorators.iter().any(|name| names.contains(&name.as_str()));
        let metaclass = class
            .keywords
            .iter()
            .find(|(name, _)| name == "metaclass")
            .and_then(|(_, value)| value.name());
        if decorated(&["as_declarative"])
            || metaclass.is_some_and(|name| last(name) == "DeclarativeMeta")
        {
            return Kind::Root(Flavour::Plain);
        }
        let flavour = match parents.iter().find_map(|parent| parent.flavour()) {
            Some(flavour) => flavour,
            None if decorated(&["mapped", "mapped_as_dataclass"]) => Flavour::Plain,
            None if has_columns(&scope, class) || parents.contains(&Kind::Mixin) => {
                return Kind::Mixin;
            }
            None => return Kind::Other,
        };
        if flag(class, "__abstract__") {
            return Kind::Abstract(flavour);
        }
        let child = parents.iter().any(|parent| matches!(parent, Kind::Mapped(_) | Kind::Child(_)));
        let named = class
            .member("__tablename__")
            .and_then(|member| member.value.as_ref())
            .is_some_and(|value| value.kind != ExprKind::Null);
        let own = named
            || class.member("__table__").is_some()
            || keyword(class, "table")
            || decorated(&["mapped", "mapped_as_dataclass"]);
        let made = || table_method(project, file, class, 0).is_some();
        match (own, child, flavour) {
            (true, _, _) => Kind::Mapped(flavour),
            (false, true, Flavour::Flask) if has_key(&scope, class) => Kind::Mapped(flavour),
            (false, true, _) => Kind::Child(flavour),
            (false, false, Flavour::Flask) => Kind::Mapped(flavour),
            (false, false, _) if made() => Kind::Mapped(flavour),
            (false, false, _) => Kind::Abstract(flavour),
        }
    }
}

/// `Base[T]` extends `Base`.
fn of_generic(base: &Expr) -> Option<&str> {
    match &base.kind {
        ExprKind::Operation { operator, operands } if operator == "[]" => operands.first()?.name(),
        _ => None,
    }
}

fn is_flask_model(scope: &Scope<'_>, name: &str) -> bool {
    let Some(head) = name.strip_suffix(".Model") else { return false };
    match scope.lookup(head) {
        Found::Value(file, value) => is_call_of(&Scope { file, ..*scope }, value, &["SQLAlchemy"]),
        Found::External(path) => last(&path) == "db",
        _ => false,
    }
}

fn flag(class: &Class, name: &str) -> bool {
    class.member(name).and_then(|member| member.value.as_ref()).and_then(Expr::boolean)
        == Some(true)
}

fn keyword(class: &Class, name: &str) -> bool {
    class.keywords.iter().any(|(known, value)| known == name && value.boolean() == Some(true))
}

/// Whether a class declares columns or relationships.
pub(super) fn has_columns(scope: &Scope<'_>, class: &Class) -> bool {
    let mapped = |annotation: &Expr| {
        matches!(&annotation.kind, ExprKind::Operation { operator, operands } if operator == "[]"
        && operands.first().and_then(Expr::name).is_some_and(|name| last(name) == "Mapped"))
    };
    let by_member = class.members.iter().any(|member| {
        member.annotation.as_ref().is_some_and(mapped)
            || member.value.as_ref().is_some_and(|value| is_call_of(scope, value, &MEMBERS[..4]))
    });
    by_member
        || class.methods.iter().any(|method| {
            method
                .decorators
                .iter()
                .filter_map(Expr::name)
                .any(|name| name.contains("declared_attr"))
        })
}

fn has_key(scope: &Scope<'_>, class: &Class) -> bool {
    let values = class
        .members
        .iter()
        .filter_map(|member| member.value.as_ref())
        .filter(|value| is_call_of(scope, value, MEMBERS));
    values.filter_map(Expr::call).any(|call| call.argument("primary_key").is_some())
}

/// What the method that names tables returns: of the class, or of the first class that it extends
/// which has one.
fn table_method<'p>(
    project: &'p Project,
    file: FileId,
    class: &'p Class,
    depth: u32,
) -> Option<(FileId, Option<&'p Expr>)> {
    if let Some(method) = class.methods.iter().find(|method| method.name == "__tablename__") {
        return Some((file, method.returns.as_ref()));
    }
    class.bases.iter().filter(|_| depth < 32).filter_map(Expr::name).find_map(|name| match project
        .lookup(file, None, name)
    {
        Found::Class(file, base) => table_method(project, file, base, depth + 1),
        _ => None,
    })
}

/// The table of a class: its name, and whether that had to be guessed.
pub(super) fn table(scope: &Scope<'_>, class: &Class, flavour: Flavour) -> Option<(String, bool)> {
    if let Some(value) = class.member("__tablename__").and_then(|member| member.value.as_ref()) {
        return match scope.value(value).text() {
            Some(text) => Some((text.to_owned(), false)),
            None => named(scope, value, &class.name)
                .map(|name| (name, false))
                .or_else(|| Some((Case::Snake.apply(&class.name), true))),
        };
    }
    if let Some((file, returned)) = table_method(scope.project, scope.file, class, 0) {
        let scope = Scope { file, class: None, ..*scope };
        let name = returned.and_then(|returned| named(&scope, returned, &class.name));
        return Some(
            name.map_or_else(|| (Case::Snake.apply(&class.name), true), |name| (name, false)),
        );
    }
    match flavour {
        Flavour::Validated => Some((class.name.to_lowercase(), false)),
        Flavour::Flask => Some((Case::Snake.apply(&class.name), false)),
        Flavour::Plain => None,
    }
}

/// A name that is made of the class's.
fn named(scope: &Scope<'_>, expr: &Expr, class: &str) -> Option<String> {
    match &expr.kind {
        ExprKind::Name(name) if name.ends_with("__name__") => Some(class.to_owned()),
        ExprKind::Call(call) if call.callee_name().ends_with("__name__.lower") => {
            Some(class.to_lowercase())
        }
        ExprKind::Call(call) if name_word(scope, call.callee_name()).contains("snake") => {
            Some(Case::Snake.apply(class))
        }
        ExprKind::Operation { operator, operands } if operator == ".lower" => {
            Some(named(scope, operands.first()?, class)?.to_lowercase())
        }
        ExprKind::Operation { operator, operands } if operator == "template" || operator == "+" => {
            operands.iter().map(|operand| named(scope, operand, class)).collect()
        }
        _ => scope.value(expr).text().map(str::to_owned),
    }
}
