//! Models to declarations. [`read`] goes through the statements of every file, also those inside
//! functions, in the order of the text; one file each reads models, attributes, types, values,
//! indexes, associations, decorated classes and migrations.

mod association;
mod attribute;
mod decorated;
mod index;
mod migration;
mod model;
mod spelling;
mod value;

pub(super) use association::KEYS;

use std::collections::{HashMap, HashSet};

use association::Association;
use model::Options;
use rayon::prelude::*;

use crate::declaration::{
    Attribute, Declarations, FieldDeclaration, Form, History, InverseDeclaration, Model,
    RelationDeclaration, UniqueDeclaration,
};
use crate::diagnostic::Diagnostic;
use crate::dialect::naming::module_of;
use crate::dialect::{Conventions, Settings};
use crate::host::evaluate::Scope;
use crate::host::outline::{Class, ClassKind, Expr};
use crate::host::project::Project;
use crate::host::typescript::place::{self, Statement};
use crate::host::typescript::value::enumeration;
use crate::schema::{Action, Database, Deferrable, EnumType, Origin};
use crate::source::{FileId, Span};

/// Folders that say nothing of the module whose models they hold.
const PLAIN_FOLDERS: &[&str] =
    &["models", "model", "entities", "db", "database", "src", "dist", "lib", "migrations"];

/// Reads every model of the project; where there is none, what its migrations made.
pub(super) fn read(project: &mut Project, settings: &Settings) -> (Declarations, Vec<Diagnostic>) {
    project.database = settings.database();
    project.environment.clone_from(&settings.environment);
    project.known_calls = match project.database {
        Database::Sqlite => &[("getDialect", "sqlite")],
        _ => &[("getDialect", "postgres")],
    };
    let conventions = super::conventions::conventions(settings);
    let fallback = settings.default_module.as_deref().unwrap_or("main");
    let modules = project
        .files()
        .map(|(file, _)| module_of(project.path(file), PLAIN_FOLDERS, fallback))
        .collect();
    let reader = Reader { project, conventions, modules, shared: Options::default() };
    let reader = Reader { shared: reader.shared_options(), ..reader };
    let mut parts = FilePart::default();
    let each: Vec<FilePart> = (0..reader.project.outlines.len())
        .into_par_iter()
        .map(|at| reader.file(FileId(at as u32)))
        .collect();
    each.into_iter().for_each(|part| parts.append(part));
    let history = if parts.drafts.is_empty() {
        migration::history(&reader, &mut parts)
    } else {
        History::default()
    };
    let FilePart { drafts, associations, enums, mut diagnostics } = parts;
    diagnostics.extend(decorated::left_out(reader.project));
    let models = association::connect(&reader, drafts, associations, &mut diagnostics);
    (Declarations { models, enums, assumed: Vec::new(), history }, diagnostics)
}

/// What one file declares.
#[derive(Default)]
pub(super) struct FilePart {
    drafts: Vec<Draft>,
    associations: Vec<Association>,
    enums: Vec<EnumType>,
    diagnostics: Vec<Diagnostic>,
}

impl FilePart {
    fn append(&mut self, mut other: FilePart) {
        self.drafts.append(&mut other.drafts);
        self.associations.append(&mut other.associations);
        self.enums.append(&mut other.enums);
        self.diagnostics.append(&mut other.diagnostics);
    }
}

/// A model while associations still add to it.
pub(super) struct Draft {
    model: Model,
    /// The name by which Sequelize knows the model.
    title: String,
    file: FileId,
    options: Options,
    fields: Vec<FieldDeclaration>,
    /// Attributes that allow null in so many words.
    allowing_null: HashSet<String>,
    /// Unique constraints by the names that attributes give them, and where they are in the model.
    groups: HashMap<String, usize>,
    references: Vec<Reference>,
    /// Attributes that decorators mark as the foreign key to another model.
    foreign_keys: Vec<(Target, String)>,
    /// Options of attributes that do nothing: word, attribute, place.
    in_vain: Vec<(&'static str, String, Span)>,
    relations: Vec<RelationDeclaration>,
    inverses: Vec<InverseDeclaration>,
}

impl Draft {
    /// Nothing yet.
    fn empty(file: FileId) -> Self {
        let (model, title, options) = (Model::default(), String::new(), Options::default());
        let (fields, allowing_null, groups, references) = Default::default();
        let (foreign_keys, in_vain, relations, inverses) = Default::default();
        Draft {
            model,
            title,
            file,
            options,
            fields,
            allowing_null,
            groups,
            references,
            foreign_keys,
            in_vain,
            relations,
            inverses,
        }
    }

    fn field(&self, name: &str) -> Option<&FieldDeclaration> {
        self.fields.iter().find(|field| field.name.as_deref() == Some(name))
    }

    /// The attribute of a name, or of a column.
    fn attribute_of(&self, name: &str) -> Option<&FieldDeclaration> {
        self.field(name)
            .or_else(|| self.fields.iter().find(|field| field.column.as_deref() == Some(name)))
    }

    /// The stored name of an attribute.
    fn column(&self, name: &str) -> String {
        self.field(name).and_then(|field| field.column.clone()).unwrap_or_else(|| name.to_owned())
    }

    /// The attribute of the key.
    fn key(&self) -> Option<&FieldDeclaration> {
        self.fields.iter().find(|field| field.key)
    }

    /// Adds an attribute to the unique constraint that it names.
    fn add_to_unique(&mut self, group: &str, attribute: &str, at: &Expr) {
        let uniques = &mut self.model.uniques;
        let place = *self.groups.entry(group.to_owned()).or_insert_with(|| {
            uniques.push(UniqueDeclaration { span: Some(at.span), ..UniqueDeclaration::default() });
            uniques.len() - 1
        });
        uniques[place].attributes.push(attribute.to_owned());
    }

    fn declaration(self) -> Model {
        let Draft { mut model, mut fields, relations, inverses, .. } = self;
        // A name given to one attribute alone says no more than that it is unique.
        let (alone, several) = std::mem::take(&mut model.uniques)
            .into_iter()
            .partition(|unique| unique.attributes.len() == 1);
        model.uniques = several;
        let alone: Vec<UniqueDeclaration> = alone;
        let named = |field: &FieldDeclaration| {
            alone.iter().any(|unique| field.name.as_ref() == unique.attributes.first())
        };
        fields.iter_mut().filter(|field| named(field)).for_each(|field| field.unique = Some(true));
        if model.form == Form::Table {
            // Columns of a table that no class stands for have no other name.
            fields.iter_mut().for_each(|field| field.column = field.name.take());
        }
        model.attributes = fields.into_iter().map(Box::new).map(Attribute::Field).collect();
        model.attributes.extend(relations.into_iter().map(Box::new).map(Attribute::Relation));
        model.attributes.extend(inverses.into_iter().map(Box::new).map(Attribute::Inverse));
        model
    }
}

/// A foreign key over one attribute, as far as it is known.
#[derive(Clone, Debug)]
pub(super) struct Reference {
    attribute: String,
    /// Unknown where only actions are said.
    target: Option<Target>,
    /// The column that it refers to.
    key: Option<String>,
    on_delete: Option<Action>,
    on_update: Option<Action>,
    deferrable: Option<Deferrable>,
    span: Span,
}

/// How another model is named.
#[derive(Clone, Debug, PartialEq)]
pub(super) enum Target {
    /// Names under which it may be known, the likeliest first.
    Model(Vec<String>),
    /// The one model of a file.
    File(FileId),
    Table {
        namespace: Option<String>,
        name: String,
    },
}

/// Reads single files.
pub(super) struct Reader<'p> {
    project: &'p Project,
    conventions: Conventions,
    /// Module of each file.
    modules: Vec<String>,
    /// Options that the project gives to all its models.
    shared: Options,
}

impl<'p> Reader<'p> {
    /// The options of `new Sequelize(..., { define: ... })`.
    fn shared_options(&self) -> Options {
        let said = |at: usize| {
            let statements = place::statements(self.project, FileId(at as u32));
            statements
                .iter()
                .filter_map(Statement::value)
                .find_map(|(place, value)| model::shared(&place, &value))
        };
        (0..self.project.outlines.len()).into_par_iter().find_map_first(said).unwrap_or_default()
    }

    fn file(&self, file: FileId) -> FilePart {
        let mut part = FilePart::default();
        for class in &self.project.outlines[file.0 as usize].classes {
            if class.kind == ClassKind::Enum {
                part.enums.extend(self.enumeration(file, class));
            }
        }
        decorated::read(self, file, &mut part);
        for statement in place::statements(self.project, file) {
            let Some((place, value)) = statement.value() else { continue };
            if let Some(found) = model::declared(&place, &value) {
                let draft = model::read(self, &place, found, &mut part);
                part.drafts.extend(draft);
            } else if !association::read(&place, &value, &mut part) {
                model::changed(&place, &statement, &value, &mut part);
            }
        }
        if self.project.is_input(file) {
            part.diagnostics
                .extend(self.project.outlines[file.0 as usize].syntax_errors("TypeScript"));
        }
        part
    }

    fn module(&self, file: FileId) -> &str {
        &self.modules[file.0 as usize]
    }

    /// A TypeScript `enum`.
    fn enumeration(&self, file: FileId, class: &'p Class) -> Option<EnumType> {
        let scope = Scope { project: self.project, file, class: Some(class) };
        enumeration(&scope, class, self.module(file).to_owned())
    }

    fn origin(&self, span: Span) -> Origin {
        Origin::declared(self.project.sources.file(span.file), span)
    }
}
