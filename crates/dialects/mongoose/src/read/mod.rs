//! Schemas and models to declarations. [`read`] finds every schema and what statements add to it,
//! then the models over them; one file each reads paths, types, values, indexes and the other sides
//! of relations.

pub(super) mod definition;
pub(super) mod index;
mod path;
pub(super) mod populate;
pub(super) mod spelling;
mod value;

use std::collections::{HashMap, HashSet};

pub(super) use definition::kept;
use definition::{Definition, Extending};
use rayon::prelude::*;

use crate::codes;
use crate::declaration::{Attribute, Declarations, Form, Model};
use crate::diagnostic::Diagnostic;
use crate::dialect::naming::{Case, module_of};
use crate::dialect::{Conventions, Settings};
use crate::host::evaluate::Scope;
use crate::host::outline::{Class, ClassKind, Expr, ExprKind};
use crate::host::project::Project;
use crate::host::typescript::place::{self, Place, last, last_name};
use crate::host::typescript::value::enumeration;
use crate::schema::{EnumType, Origin, OwnedBy, Purpose, Shape};
use crate::source::{FileId, Span};

/// Folders that say nothing of the module whose schemas they hold.
const PLAIN_FOLDERS: &[&str] = &[
    "models",
    "model",
    "schemas",
    "schema",
    "entities",
    "db",
    "database",
    "src",
    "dist",
    "lib",
    "collections",
];

/// Endings of the names of variables that hold schemas.
const SCHEMA_ENDINGS: &[&str] = &["_schema", "Schema", "_SCHEMA", "SCHEMA"];

/// Reads every schema that a model stands over, and those that nobody names.
pub(super) fn read(project: &mut Project, settings: &Settings) -> (Declarations, Vec<Diagnostic>) {
    project.database = settings.database();
    project.environment.clone_from(&settings.environment);
    let fallback = settings.default_module.as_deref().unwrap_or("main");
    let modules = project
        .files()
        .map(|(file, _)| module_of(project.path(file), PLAIN_FOLDERS, fallback))
        .collect();
    let conventions = super::conventions::conventions(settings);
    let mut reader = Reader {
        project,
        conventions,
        modules,
        found: Found::default(),
        names: HashMap::new(),
        owners: HashMap::new(),
        nested_as_json: settings.nested_as_json,
    };
    let files = 0..reader.project.outlines.len();
    let each: Vec<Found> =
        files.clone().into_par_iter().map(|at| reader.found(FileId(at as u32))).collect();
    each.into_iter().for_each(|found| reader.found.append(found));
    reader.found.index();
    let titles = reader.titles();
    reader.names = titles.iter().map(|title| (title.name.clone(), reader.id(title))).collect();
    let plain = titles.iter().filter(|title| title.kind_of.is_none());
    reader.owners = plain.map(|title| (title.schema, reader.id(title))).collect();
    let each: Vec<Part> = titles.par_iter().map(|title| reader.model(title)).collect();
    let mut part = Part::default();
    each.into_iter().for_each(|one| part.append(one));
    part.enums.extend(files.flat_map(|at| reader.enumerations(FileId(at as u32))));
    reader.discriminate(&mut part);
    populate::connect(&mut part.models, &mut part.diagnostics);
    for (_, outline) in reader.project.files().filter(|(file, _)| reader.project.is_input(*file)) {
        part.diagnostics.extend(outline.syntax_errors("TypeScript"));
    }
    (
        Declarations { models: part.models, enums: part.enums, ..Declarations::default() },
        part.diagnostics,
    )
}

/// What the files hold, before anything is made of it.
#[derive(Default)]
struct Found {
    definitions: Vec<Definition>,
    models: Vec<Named>,
    extending: Vec<Extending>,
    /// Places in these lists, by the keys of schemas.
    by_key: HashMap<Span, usize>,
    extending_of: HashMap<Span, Vec<usize>>,
}

impl Found {
    /// Notes where everything is, once all is found.
    fn index(&mut self) {
        self.by_key = self
            .definitions
            .iter()
            .enumerate()
            .map(|(at, definition)| (definition.key, at))
            .collect();
        for (at, extending) in self.extending.iter().enumerate() {
            self.extending_of.entry(extending.schema).or_default().push(at);
        }
    }

    fn append(&mut self, mut other: Found) {
        self.definitions.append(&mut other.definitions);
        self.models.append(&mut other.models);
        self.extending.append(&mut other.extending);
    }
}

/// A call that makes a model: `model('Berth', schema, 'collection')`, or `Base.discriminator('Tug',
/// schema, 'value')`.
#[derive(Clone, Debug)]
struct Named {
    /// The name of the model, where it is known.
    name: Option<String>,
    /// The variable that holds the model.
    variable: Option<String>,
    /// What it is a kind of.
    base: Option<Base>,
    /// The key of the schema's definition.
    schema: Option<Span>,
    /// The collection, or the value that tells the kind.
    last: Option<Expr>,
    span: Span,
    file: FileId,
}

/// What a kind of documents is told apart from others in.
#[derive(Clone, Debug)]
enum Base {
    /// The documents of a model, by its variable, and later by its name.
    Model(String),
    /// Documents inside those of a schema, by its key.
    Inside { schema: Span, path: String },
}

/// A model, or a schema that is taken for one.
struct Title {
    name: String,
    collection: Option<String>,
    /// What it is a kind of, and the value that tells it.
    kind_of: Option<(Base, Option<Expr>)>,
    schema: Span,
    /// What names the collection, where that is not known.
    opaque_collection: Option<Expr>,
    /// Taken from the variable of the schema, for want of a model.
    assumed: bool,
    span: Span,
    file: FileId,
}

/// What is made of one model.
#[derive(Default)]
pub(super) struct Part {
    models: Vec<Model>,
    enums: Vec<EnumType>,
    diagnostics: Vec<Diagnostic>,
}

impl Part {
    fn append(&mut self, mut other: Part) {
        self.models.append(&mut other.models);
        self.enums.append(&mut other.enums);
        self.diagnostics.append(&mut other.diagnostics);
    }
}

/// Reads single models.
pub(super) struct Reader<'p> {
    project: &'p Project,
    conventions: Conventions,
    /// Module of each file.
    modules: Vec<String>,
    found: Found,
    /// Ids of models by their names.
    names: HashMap<String, String>,
    /// Ids of models by the keys of their schemas.
    owners: HashMap<Span, String>,
    nested_as_json: bool,
}

impl<'p> Reader<'p> {
    /// The schemas of a file, what is said of them later, and models.
    fn found(&self, file: FileId) -> Found {
        let mut found = Found::default();
        for statement in place::statements(self.project, file) {
            let name = statement.name.map(|name| name.as_str());
            self.found_in(&statement.place, name, statement.written(), &mut found, 0);
        }
        for (at, body) in self.project.outlines[file.0 as usize].bodies.iter().enumerate() {
            let place = Place::inside(self.project, file, at);
            body.returns.iter().for_each(|returned| {
                self.found_in(&place, Some(&body.name), &returned.value, &mut found, 0)
            });
        }
        found.definitions.dedup_by_key(|definition| definition.key);
        found
    }

    /// What a value holds: schemas, models, and what is said of schemas.
    fn found_in(
        &self,
        place: &Place<'_>,
        name: Option<&str>,
        value: &Expr,
        found: &mut Found,
        depth: u32,
    ) {
        match &value.kind {
            ExprKind::Call(_) => {
                definition::within(place, name, value, found);
                if let Some(model) = self.named(place, name.map(str::to_owned), value) {
                    found.models.push(model);
                } else if let Some(extending) = definition::extending(place, value) {
                    found.extending.push(extending);
                }
            }
            // Models that are given away together.
            ExprKind::Map(pairs) if depth < 4 => {
                pairs.iter().for_each(|(key, value)| {
                    self.found_in(place, key.text(), value, found, depth + 1)
                });
            }
            // `mongoose.models.Berth || mongoose.model('Berth', schema)`
            ExprKind::Operation { operands, .. } if depth < 4 => {
                operands
                    .iter()
                    .for_each(|operand| self.found_in(place, name, operand, found, depth + 1));
            }
            _ => {}
        }
    }

    fn named(&self, place: &Place<'_>, variable: Option<String>, value: &Expr) -> Option<Named> {
        let call = value.call()?;
        let word = last_name(&call.callee)?;
        let known = match word {
            "model" => call.arguments.len() > 1,
            "discriminator" => call.arguments.len() > 1,
            _ => false,
        };
        if !known {
            return None;
        }
        let schema = definition::of(place, call.arguments.get(1)?);
        let base = if word == "discriminator" { Some(base(place, &call.callee)?) } else { None };
        let name = place.value(call.arguments.first()?).text().map(str::to_owned);
        let third = call.arguments.get(2).map(|last| place.value(last));
        let file = place.file;
        Some(Named {
            name,
            variable: variable.map(|name| last(&name).to_owned()),
            base,
            schema,
            last: third,
            span: value.span,
            file,
        })
    }

    /// The models, and schemas that no model stands over and no other schema holds.
    fn titles(&self) -> Vec<Title> {
        let mut titles: Vec<Title> = Vec::new();
        let mut seen: HashSet<(String, Span)> = HashSet::new();
        let named = |variable: &str| {
            let model = self
                .found
                .models
                .iter()
                .find(|model| model.variable.as_deref() == Some(variable))?;
            model.name.clone().or_else(|| model.variable.clone())
        };
        for model in &self.found.models {
            let Some(schema) = model.schema.filter(|schema| self.definition(*schema).is_some())
            else {
                continue;
            };
            let variable =
                || model.variable.clone().filter(|name| name != "exports" && name != "default");
            let Some(name) = model.name.clone().or_else(variable).or_else(|| self.title_of(schema))
            else {
                continue;
            };
            let said = model.last.as_ref().filter(|_| model.base.is_none());
            let collection = said.and_then(Expr::text).map(str::to_owned);
            let opaque_collection =
                said.filter(|said| said.text().is_none() && said.kind != ExprKind::Null).cloned();
            let kind_of = model.base.clone().map(|base| match base {
                Base::Model(variable) => {
                    (Base::Model(named(&variable).unwrap_or(variable)), model.last.clone())
                }
                inside => (inside, model.last.clone()),
            });
            if seen.insert((name.clone(), schema)) {
                let (span, file) = (model.span, model.file);
                titles.push(Title {
                    name,
                    collection,
                    kind_of,
                    schema,
                    opaque_collection,
                    assumed: false,
                    span,
                    file,
                });
            }
        }
        let used = self.used();
        for definition in
            self.found.definitions.iter().filter(|definition| !used.contains(&definition.key))
        {
            if let Some(name) = self.title_of(definition.key) {
                let Definition { key: schema, span, file, .. } = *definition;
                let (collection, kind_of, opaque_collection) = (None, None, None);
                titles.push(Title {
                    name,
                    collection,
                    kind_of,
                    schema,
                    opaque_collection,
                    assumed: true,
                    span,
                    file,
                });
            }
        }
        titles.sort_by_key(|title| (title.file, title.span.start));
        titles
    }

    /// Schemas that a model stands over, or that other schemas hold or take over.
    fn used(&self) -> HashSet<Span> {
        let mut used: HashSet<Span> =
            self.found.models.iter().filter_map(|model| model.schema).collect();
        for definition in &self.found.definitions {
            let place = Place::top(self.project, definition.file);
            definition
                .written
                .iter()
                .for_each(|written| definition::held(&place, written, &mut used, 0));
        }
        for extending in &self.found.extending {
            let place = Place::top(self.project, extending.file);
            extending
                .arguments
                .iter()
                .for_each(|argument| definition::held(&place, argument, &mut used, 0));
        }
        used
    }

    fn definition(&self, schema: Span) -> Option<&Definition> {
        self.found.by_key.get(&schema).map(|at| &self.found.definitions[*at])
    }

    /// `berthSchema` is for `Berth`.
    fn title_of(&self, schema: Span) -> Option<String> {
        let variable = last(self.definition(schema)?.variable.as_deref()?);
        let stem = SCHEMA_ENDINGS
            .iter()
            .find_map(|ending| variable.strip_suffix(ending))
            .unwrap_or(variable);
        (!stem.is_empty()).then(|| Case::Pascal.apply(stem))
    }

    fn module(&self, file: FileId) -> &str {
        &self.modules[file.0 as usize]
    }

    fn id(&self, title: &Title) -> String {
        format!("{}.{}", self.module(title.file), class_name(&title.name))
    }

    /// The id of the model of this name, declared or not.
    fn target(&self, name: &str, file: FileId) -> String {
        self.names
            .get(name)
            .cloned()
            .unwrap_or_else(|| format!("{}.{}", self.module(file), class_name(name)))
    }

    /// The id of what a model is a kind of.
    fn base_id(&self, base: &Base, file: FileId) -> String {
        match base {
            Base::Model(name) => self.target(name, file),
            Base::Inside { schema, path } => {
                let owner =
                    self.owners.get(schema).cloned().unwrap_or_else(|| self.target("", file));
                path.split('.').fold(owner, |owner, part| owner + &Case::Pascal.apply(part))
            }
        }
    }

    fn model(&self, title: &Title) -> Part {
        let mut part = Part::default();
        let Some(definition) = self.definition(title.schema) else { return part };
        let module = self.module(title.file).to_owned();
        let name = class_name(&title.name);
        let mut model = Model {
            id: self.id(title),
            name: name.clone(),
            module: module.clone(),
            span: Some(title.span),
            ..Model::default()
        };
        if let Some(opaque) = &title.opaque_collection {
            let message = format!("the collection of `{}` is known only at run time", title.name);
            part.diagnostics.push(
                Diagnostic::of(&codes::OPAQUE_COLLECTION, message)
                    .at(Some(opaque.span), "not a name that can be read here")
                    .because("its usual name is taken instead")
                    .with_help("write the name as a text"),
            );
            let value =
                crate::host::arguments::kept(&Place::top(self.project, title.file).scope(), opaque);
            model.extras.insert("collection".into(), value);
        }
        if title.assumed {
            let message = format!(
                "no model stands over this schema in the inputs: it is read as `{}`",
                title.name
            );
            part.diagnostics.push(
                Diagnostic::of(&codes::SCHEMA_WITHOUT_MODEL, message)
                    .at(Some(title.span), "this schema")
                    .because("the name of its collection follows from that of the model")
                    .with_help("add the file that calls `model('...', schema)` to the inputs"),
            );
        }
        let collection = definition::read(self, definition, &mut model, &mut part);
        let table = title
            .collection
            .clone()
            .or(collection)
            .unwrap_or_else(|| super::collection::name(&title.name));
        let convention =
            self.conventions.names.table.apply(&[("module", &module), ("name", &name)]);
        model.table = Some(table).filter(|table| *table != convention);
        if let Some((base, value)) = &title.kind_of {
            model.form = Form::SameTable;
            model.extends = vec![self.base_id(base, title.file)];
            model.table = None;
            let told = value
                .as_ref()
                .and_then(crate::host::evaluate::constant)
                .unwrap_or_else(|| title.name.clone().into());
            model.extras.insert("discriminator_value".into(), told);
            // The base counts the versions of all kinds.
            let counted = |attribute: &Attribute| {
                matches!(attribute, Attribute::Field(field)
                if field.purpose == Some(Purpose::Version))
            };
            model.attributes.retain(|attribute| !counted(attribute));
        }
        part.models.insert(0, model);
        part
    }

    /// Kinds of a model stand in its collection: their paths go there, and a path tells them apart.
    fn discriminate(&self, part: &mut Part) {
        let at: HashMap<String, usize> =
            part.models.iter().enumerate().map(|(at, model)| (model.id.clone(), at)).collect();
        let mut told: Vec<usize> = Vec::new();
        for kind in 0..part.models.len() {
            if part.models[kind].form != Form::SameTable {
                continue;
            }
            let Some(base) = part.models[kind].extends.first().and_then(|id| at.get(id)).copied()
            else {
                continue;
            };
            told.push(base);
            let (id, name) = (part.models[kind].id.clone(), part.models[kind].name.clone());
            for mut attribute in std::mem::take(&mut part.models[kind].attributes) {
                definition::only_in(&mut attribute, &name);
                if !part.models[base]
                    .attributes
                    .iter()
                    .any(|known| known.name() == attribute.name())
                {
                    part.models[base].attributes.push(attribute);
                }
            }
            let (uniques, indexes) = (
                std::mem::take(&mut part.models[kind].uniques),
                std::mem::take(&mut part.models[kind].indexes),
            );
            part.models[base].uniques.extend(uniques);
            part.models[base].indexes.extend(indexes);
            // What the kind's documents hold is held by those of the collection.
            let to = part.models[base].id.clone();
            for owned in part
                .models
                .iter_mut()
                .filter_map(|model| model.owned_by.as_mut())
                .filter(|owned| owned.entity == id)
            {
                owned.entity.clone_from(&to);
            }
        }
        told.dedup();
        for base in told {
            let model = &mut part.models[base];
            let key = model
                .extras
                .get("discriminatorKey")
                .and_then(serde_json::Value::as_str)
                .unwrap_or("__t")
                .to_owned();
            if !model.attributes.iter().any(|known| known.name() == Some(&key)) {
                model.attributes.push(Attribute::Field(Box::new(definition::kept(
                    &key, "String", None, model.span,
                ))));
            }
        }
    }

    /// Every `enum` of the language.
    fn enumerations(&self, file: FileId) -> Vec<EnumType> {
        let classes = &self.project.outlines[file.0 as usize].classes;
        classes
            .iter()
            .filter(|class| class.kind == ClassKind::Enum)
            .filter_map(|class| self.enumeration(file, class))
            .collect()
    }

    fn enumeration(&self, file: FileId, class: &'p Class) -> Option<EnumType> {
        let scope = Scope { project: self.project, file, class: Some(class) };
        // What another package declares is copied to where it is used.
        let module =
            self.module(if self.project.is_input(file) { file } else { FileId(0) }).to_owned();
        enumeration(&scope, class, module)
    }

    fn origin(&self, span: Span) -> Origin {
        Origin::declared(self.project.sources.file(span.file), span)
    }
}

/// What `discriminator` is called on: a model, or `schema.path('...')`.
fn base(place: &Place<'_>, callee: &Expr) -> Option<Base> {
    let path_of = |expr: &Expr| {
        let call = expr.call().filter(|call| last_name(&call.callee) == Some("path"))?;
        let (head, _) = call.callee.name()?.rsplit_once('.')?;
        let schema = definition::of(
            place,
            &Expr { kind: ExprKind::Name(head.into()), span: call.callee.span },
        )?;
        Some(Base::Inside { schema, path: place.value(call.arguments.first()?).text()?.to_owned() })
    };
    match &callee.kind {
        ExprKind::Name(path) => {
            let (head, _) = path.rsplit_once('.')?;
            place
                .variable(head)
                .and_then(path_of)
                .or_else(|| Some(Base::Model(last(head).to_owned())))
        }
        ExprKind::Operation { operands, .. } => operands.first().and_then(path_of),
        _ => None,
    }
}

/// A model's name as that of a class.
fn class_name(name: &str) -> String {
    Case::Pascal.apply(name)
}

/// A model of what stands under a path of the documents of another.
pub(super) fn owned(owner: &Model, path: &str, shape: Shape, span: Span) -> Model {
    let name = format!("{}{}", owner.name, Case::Pascal.apply(path));
    Model {
        id: format!("{}.{name}", owner.module),
        name,
        module: owner.module.clone(),
        owned_by: Some(OwnedBy { entity: owner.id.clone(), path: path.to_owned(), shape }),
        // What is a part of other documents has no key of its own.
        key: (shape == Shape::Part).then(Vec::new),
        span: Some(span),
        ..Model::default()
    }
}

/// The last word of a value that is a name.
pub(super) fn word_of(expr: &Expr) -> Option<&str> {
    match &expr.kind {
        ExprKind::Name(_) | ExprKind::Operation { .. } => last_name(expr),
        _ => None,
    }
}
