//! Declarations to schemas: one file for each model and each enumeration, in a folder for each
//! module. What stands inside other documents is printed where it stands.

mod path;
mod statement;

use std::collections::{BTreeMap, BTreeSet, HashMap, HashSet};

use serde_json::Value;

use crate::ONLY_IN;
use crate::declaration::{Attribute, Declarations, FieldDeclaration, Form, Model};
use crate::dialect::naming::Case;
use crate::dialect::source_text::SourceText;
use crate::dialect::typescript_files::{Files, enumeration};
use crate::dialect::{Conventions, PrintedFile};
use crate::quoting::typescript::{literal, property_key, text};
use crate::read::{definition::TIMESTAMPS, index::OVER_SEVERAL, populate::VIRTUALS};
use crate::schema::{EnumType, Extras, Purpose, Shape};

/// Words of extras that are not options of a schema.
const NO_OPTIONS: &[&str] = &[OVER_SEVERAL, VIRTUALS, TIMESTAMPS, "path", "discriminator_value"];

/// Prints every model and enumeration.
pub(super) fn print(declarations: &Declarations, _: &Conventions) -> Vec<PrintedFile> {
    let enums = declarations.enums.iter().filter(|enumeration| !enumeration.inline);
    let places = Files::of(declarations, ".ts");
    let mut files: Vec<PrintedFile> = enums.map(|known| enumeration(known, &places)).collect();
    let models: HashMap<&str, &Model> =
        declarations.models.iter().map(|model| (model.id.as_str(), model)).collect();
    let mut owned: HashMap<&str, Vec<&Model>> = HashMap::new();
    for model in &declarations.models {
        if let Some(place) = &model.owned_by {
            owned.entry(place.entity.as_str()).or_default().push(model);
        }
    }
    let bases = declarations
        .models
        .iter()
        .filter(|model| model.form == Form::SameTable)
        .filter_map(|model| model.extends.first());
    let shared = Shared {
        declarations,
        models,
        owned,
        bases: bases.map(String::as_str).collect(),
        files: places,
    };
    for model in declarations.models.iter().filter(|model| model.owned_by.is_none()) {
        let mut printer =
            Printer { shared: &shared, model, values: BTreeSet::new(), imports: BTreeMap::new() };
        files.push(PrintedFile {
            path: shared.files.class(&model.module, &model.name),
            text: printer.file(),
        });
    }
    files
}

/// What all files have in common.
struct Shared<'d> {
    declarations: &'d Declarations,
    models: HashMap<&'d str, &'d Model>,
    /// Models of what stands inside other documents, by the ids of those.
    owned: HashMap<&'d str, Vec<&'d Model>>,
    /// Ids of the models that have kinds.
    bases: HashSet<&'d str>,
    files: Files,
}

impl<'d> Shared<'d> {
    fn enumeration(&self, name: &str) -> Option<&'d EnumType> {
        self.declarations.enums.iter().find(|enumeration| enumeration.name == name)
    }

    fn owned(&self, id: &str) -> &[&'d Model] {
        self.owned.get(id).map_or(&[], Vec::as_slice)
    }

    /// The model whose documents hold this one, and the path there; the model itself where nothing
    /// does.
    fn root(&self, model: &'d Model) -> (&'d Model, String) {
        let (mut at, mut path) = (model, String::new());
        while let Some(place) = &at.owned_by {
            path = format!("{}.{path}", place.path);
            match self.models.get(place.entity.as_str()) {
                Some(owner) => at = owner,
                None => break,
            }
        }
        (at, path)
    }
}

/// The variable of a model's schema.
fn variable(model: &Model) -> String {
    format!("{}Schema", Case::Camel.apply(&model.name))
}

/// The stored path of an attribute.
fn stored(attribute: &Attribute) -> Option<&str> {
    match attribute {
        Attribute::Field(field) => field.column.as_deref().or(field.name.as_deref()),
        Attribute::Relation(relation) => relation
            .join_columns
            .first()
            .and_then(|join| join.name.as_deref())
            .or(relation.name.as_deref()),
        Attribute::Inverse(_) | Attribute::Removed(_) => None,
    }
}

/// The stored path of the attribute with this name.
fn path_of<'m>(model: &'m Model, attribute: &'m str) -> &'m str {
    model
        .attributes
        .iter()
        .find(|known| known.name() == Some(attribute))
        .and_then(stored)
        .unwrap_or(attribute)
}

/// The kind whose documents alone have an attribute.
fn kind_of(attribute: &Attribute) -> Option<&str> {
    let extras = match attribute {
        Attribute::Field(field) => &field.extras,
        Attribute::Relation(relation) => &relation.carrier.extras,
        Attribute::Inverse(inverse) => &inverse.extras,
        Attribute::Removed(_) => return None,
    };
    extras.get(ONLY_IN).and_then(Value::as_str)
}

/// One model and what its file imports.
struct Printer<'d> {
    shared: &'d Shared<'d>,
    model: &'d Model,
    /// Values taken from the framework.
    values: BTreeSet<&'static str>,
    /// Names taken from other files, by module path.
    imports: BTreeMap<String, BTreeSet<String>>,
}

impl<'d> Printer<'d> {
    fn file(&mut self) -> String {
        let mut body = SourceText::new(2);
        let (model, schema) = (self.model, self.value("Schema"));
        let base = model
            .extends
            .first()
            .filter(|_| model.form == Form::SameTable)
            .and_then(|id| self.shared.models.get(id.as_str()));
        body.line(0, &format!("export const {} = new {schema}({{", variable(model)));
        match base {
            Some(base) => self.paths_of_kind(base, &mut body),
            None => self.paths(model, 2, &mut body),
        }
        let options = match base {
            // A kind of what has no key has none, either.
            Some(base)
                if base.owned_by.is_some() && base.key.as_ref().is_some_and(Vec::is_empty) =>
            {
                vec!["_id: false".to_owned()]
            }
            Some(_) => Vec::new(),
            None => options(model),
        };
        body.line(0, &closing(&options, ");"));
        self.statements(&mut body);
        body.gap();
        let name = text(&model.name);
        match base {
            Some(base) => {
                let told = model
                    .extras
                    .get("discriminator_value")
                    .filter(|told| told.as_str() != Some(&model.name))
                    .map(literal);
                let arguments = format!(
                    "{name}, {}{}",
                    variable(model),
                    told.map_or(String::new(), |told| format!(", {told}"))
                );
                let kind = self.kind(base);
                body.line(0, &format!("{kind}.discriminator({arguments});"));
            }
            None => {
                let made = self.value("model");
                let collection = model
                    .table
                    .as_ref()
                    .map_or(String::new(), |table| format!(", {}", text(table)));
                body.line(
                    0,
                    &format!(
                        "export const {} = {made}({name}, {}{collection});",
                        model.name,
                        variable(model)
                    ),
                );
            }
        }
        self.head() + &body.finish()
    }

    /// What the kinds of `base` are told apart in.
    fn kind(&mut self, base: &'d Model) -> String {
        let (root, path) = self.shared.root(base);
        let file = self.shared.files.class(&root.module, &root.name);
        let Some(place) = &base.owned_by else {
            self.import(&root.module, &file, &root.name);
            return format!("export const {} = {}", self.model.name, root.name);
        };
        self.import(&root.module, &file, &variable(root));
        let ty = if place.shape == Shape::One { "Subdocument" } else { "DocumentArray" };
        format!("{}.path<Schema.Types.{ty}>({})", variable(root), text(path.trim_end_matches('.')))
    }

    fn head(&self) -> String {
        let mut file = SourceText::new(2);
        for (path, names) in self.imports.iter().filter(|(path, _)| !path.starts_with('.')) {
            file.line(
                0,
                &format!(
                    "import {{ {} }} from {};",
                    names.iter().cloned().collect::<Vec<_>>().join(", "),
                    text(path)
                ),
            );
        }
        let values: Vec<&str> = self.values.iter().copied().collect();
        file.line(0, &format!("import {{ {} }} from 'mongoose';", values.join(", ")));
        for (path, names) in self.imports.iter().filter(|(path, _)| path.starts_with('.')) {
            file.line(
                0,
                &format!(
                    "import {{ {} }} from {};",
                    names.iter().cloned().collect::<Vec<_>>().join(", "),
                    text(path)
                ),
            );
        }
        file.gap();
        file.finish()
    }

    fn value(&mut self, name: &'static str) -> &'static str {
        self.values.insert(name);
        name
    }

    /// The name of an enumeration, which is imported.
    fn enumeration(&mut self, enumeration: &EnumType) -> String {
        self.import(
            &enumeration.module,
            &self.shared.files.enumeration(enumeration),
            &enumeration.name,
        );
        enumeration.name.clone()
    }

    fn import(&mut self, module: &str, path: &str, name: &str) {
        let bare = path.trim_end_matches(".ts");
        let place = match module == self.model.module {
            true => format!("./{}", bare.rsplit('/').next().unwrap_or(bare)),
            false => format!("../{bare}"),
        };
        self.imports.entry(place).or_default().insert(name.to_owned());
    }

    /// The paths of a model, and the documents inside it.
    fn paths(&mut self, model: &'d Model, indent: usize, body: &mut SourceText) {
        let silent = silent_paths(model, self.shared.bases.contains(model.id.as_str()));
        let own = model.attributes.iter().enumerate();
        for (_, attribute) in
            own.filter(|(at, attribute)| !silent.contains(at) && kind_of(attribute).is_none())
        {
            self.path(attribute, indent, body);
        }
        for inner in self.shared.owned(&model.id).to_vec() {
            self.inside(inner, indent, body);
        }
    }

    /// The paths that only documents of this kind have.
    fn paths_of_kind(&mut self, base: &'d Model, body: &mut SourceText) {
        let name = self.model.name.as_str();
        for attribute in base.attributes.iter().filter(|attribute| kind_of(attribute) == Some(name))
        {
            self.path(attribute, 2, body);
        }
    }

    /// A document, or several, inside another.
    fn inside(&mut self, inner: &'d Model, indent: usize, body: &mut SourceText) {
        let Some(place) = &inner.owned_by else { return };
        let name = property_key(&place.path);
        if place.shape == Shape::Part {
            body.line(indent, &format!("{name}: {{"));
            self.paths(inner, indent + 2, body);
            return body.line(indent, "},");
        }
        let whole: Vec<String> =
            inner.extras.get("path").and_then(Value::as_object).map_or(Vec::new(), |options| {
                options
                    .iter()
                    .map(|(name, value)| format!("{}: {}", property_key(name), literal(value)))
                    .collect()
            });
        let schema = self.value("Schema");
        let (head, tail) = match (place.shape, whole.is_empty()) {
            (Shape::Many, true) => (format!("{name}: [new {schema}({{"), ")],".to_owned()),
            (Shape::Many, false) => (
                format!("{name}: {{ type: [new {schema}({{"),
                format!(")], {} }},", whole.join(", ")),
            ),
            (Shape::Keyed, _) => {
                let options: String = whole.iter().map(|option| format!(", {option}")).collect();
                (format!("{name}: {{ type: Map, of: new {schema}({{"), format!("){options} }},"))
            }
            (_, true) => (format!("{name}: new {schema}({{"), "),".to_owned()),
            (_, false) => (
                format!("{name}: {{ type: new {schema}({{"),
                format!("), {} }},", whole.join(", ")),
            ),
        };
        body.line(indent, &head);
        self.paths(inner, indent + 2, body);
        body.line(indent, &closing(&options(inner), &tail));
    }
}

/// `}` with the options of a schema, if there are any.
fn closing(options: &[String], tail: &str) -> String {
    if options.is_empty() {
        format!("}}{tail}")
    } else {
        format!("}}, {{ {} }}{tail}", options.join(", "))
    }
}

/// The fields of a model.
fn fields(model: &Model) -> impl Iterator<Item = &FieldDeclaration> {
    model.attributes.iter().filter_map(|attribute| match attribute {
        Attribute::Field(field) => Some(&**field),
        _ => None,
    })
}

/// Options of a schema.
fn options(model: &Model) -> Vec<String> {
    let path = |field: &'_ FieldDeclaration| field.column.clone().or_else(|| field.name.clone());
    let of = |purpose: Purpose| {
        fields(model).find(|field| field.purpose == Some(purpose)).and_then(path)
    };
    let mut options = Vec::new();
    if model.owned_by.is_some() && model.key.as_ref().is_some_and(Vec::is_empty) {
        options.push("_id: false".to_owned());
    }
    let times = [("createdAt", of(Purpose::CreationTime)), ("updatedAt", of(Purpose::UpdateTime))];
    let more = model.extras.get(TIMESTAMPS).and_then(Value::as_object).into_iter().flatten();
    let more: Vec<String> =
        more.map(|(name, value)| format!("{}: {}", property_key(name), literal(value))).collect();
    if times.iter().any(|(_, name)| name.is_some()) {
        let said = times.iter().filter(|(silent, name)| name.as_deref() != Some(silent));
        let said = said.map(|(silent, name)| {
            format!("{silent}: {}", name.as_deref().map_or("false".to_owned(), text))
        });
        let said: Vec<String> = said.chain(more).collect();
        options.push(if said.is_empty() {
            "timestamps: true".to_owned()
        } else {
            format!("timestamps: {{ {} }}", said.join(", "))
        });
    }
    if model.owned_by.is_none() {
        match of(Purpose::Version).as_deref() {
            Some("__v") => {}
            Some(name) => options.push(format!("versionKey: {}", text(name))),
            None => options.push("versionKey: false".to_owned()),
        }
    }
    if model.managed == Some(false) {
        options.push("autoCreate: false".to_owned());
    }
    options.extend(others(&model.extras, NO_OPTIONS));
    options
}

/// Options that nothing neutral stands for.
fn others<'e>(extras: &'e Extras, not: &'e [&str]) -> impl Iterator<Item = String> + 'e {
    let kept = extras.iter().filter(|(name, _)| !not.contains(&name.as_str()));
    kept.map(|(name, value)| format!("{}: {}", property_key(name), literal(value)))
}

/// Places of the paths that the framework adds by itself, after all others.
fn silent_paths(model: &Model, has_kinds: bool) -> BTreeSet<usize> {
    let mut order: Vec<Purpose> =
        vec![Purpose::Version, Purpose::UpdateTime, Purpose::CreationTime];
    let mut silent = BTreeSet::new();
    let last = model
        .attributes
        .iter()
        .enumerate()
        .rev()
        .skip_while(|(_, attribute)| matches!(attribute, Attribute::Inverse(_)));
    for (at, attribute) in last {
        if let Attribute::Field(field) = attribute
            && has_kinds
            && (is_told(model, field) || kind_of(attribute).is_some())
        {
            silent.insert(at);
            continue;
        }
        let Attribute::Field(field) = attribute else { break };
        let Some(purpose) = field.purpose.filter(|_| is_kept(field)) else { break };
        let Some(place) = order.iter().position(|known| *known == purpose) else { break };
        silent.insert(at);
        order.drain(..=place);
    }
    silent
}

/// Whether a field is no more than what the framework adds.
fn is_kept(field: &FieldDeclaration) -> bool {
    let word = if field.purpose == Some(Purpose::Version) { "Number" } else { "Date" };
    let plain = crate::read::kept(
        field.name.as_deref().unwrap_or_default(),
        word,
        field.purpose,
        field.span,
    );
    *field == plain
}

/// Whether a field tells the kinds of documents of one collection apart.
fn is_told(model: &Model, field: &FieldDeclaration) -> bool {
    let key = model.extras.get("discriminatorKey").and_then(Value::as_str).unwrap_or("__t");
    let plain = crate::read::kept(key, "String", None, field.span);
    *field == plain
}
