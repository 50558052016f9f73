//! Declarations to entity files: one file for each class and each enumeration, in a folder for each
//! module.

mod column;
mod relation;

use std::collections::{BTreeMap, BTreeSet, HashMap};

use serde_json::Value;

use crate::declaration::{
    Attribute, CheckDeclaration, Declarations, FieldDeclaration, Form, IndexDeclaration, Model,
    UniqueDeclaration,
};
use crate::dialect::release::at_least;
use crate::dialect::source_text::SourceText;
use crate::dialect::typescript_files::{Files, enumeration};
use crate::dialect::{Conventions, PrintedFile};
use crate::quoting::typescript::{literal, property_key, text};
use crate::schema::{Deferrable, EnumType, Extras};

/// Prints every class and enumeration.
pub(super) fn print(declarations: &Declarations, conventions: &Conventions) -> Vec<PrintedFile> {
    let enums = declarations.enums.iter().filter(|enumeration| !enumeration.inline);
    let places = Files::of(declarations, ".entity.ts");
    let mut files: Vec<PrintedFile> = enums.map(|known| enumeration(known, &places)).collect();
    let inverses = inverses(declarations);
    for model in &declarations.models {
        let mut printer = Printer {
            declarations,
            files: &places,
            inverses: &inverses,
            conventions,
            model,
            decorators: BTreeSet::new(),
            imports: BTreeMap::new(),
        };
        files.push(PrintedFile {
            path: places.class(&model.module, &model.name),
            text: printer.file(),
        });
    }
    files
}

/// By owning class and attribute.
type Inverses<'d> = HashMap<(&'d str, &'d str), &'d str>;

fn inverses(declarations: &Declarations) -> Inverses<'_> {
    let mut found = Inverses::new();
    for attribute in declarations.models.iter().flat_map(|model| &model.attributes) {
        if let Attribute::Inverse(inverse) = attribute {
            found.insert((&inverse.target, &inverse.owner), &inverse.name);
        }
    }
    found
}

pub(super) struct Printer<'d> {
    pub(super) declarations: &'d Declarations,
    files: &'d Files,
    /// Properties that lead back along a relation, by its owner and name there.
    inverses: &'d Inverses<'d>,
    pub(super) conventions: &'d Conventions,
    model: &'d Model,
    /// Names taken from the framework.
    decorators: BTreeSet<&'static str>,
    /// Names taken from other files, by module path.
    imports: BTreeMap<String, BTreeSet<String>>,
}

impl<'d> Printer<'d> {
    fn file(&mut self) -> String {
        let mut body = SourceText::new(2);
        self.class_decorators(&mut body);
        let parent = self
            .model
            .extends
            .first()
            .map_or(String::new(), |id| format!(" extends {}", self.class(id)));
        body.line(0, &format!("export class {}{parent} {{", self.model.name));
        for (at, attribute) in self.model.attributes.iter().enumerate() {
            if at > 0 {
                body.gap();
            }
            match attribute {
                // The framework indexes what tells the children apart by itself.
                Attribute::Field(field) if self.tells_children_apart(field) => {
                    self.column(
                        &FieldDeclaration { indexed: None, ..(**field).clone() },
                        &mut body,
                    );
                }
                Attribute::Field(field) => self.column(field, &mut body),
                Attribute::Relation(relation) => self.relation(relation, &mut body),
                Attribute::Inverse(inverse) => self.inverse(inverse, &mut body),
                Attribute::Removed(_) => {}
            }
        }
        body.line(0, "}");
        let mut file = SourceText::new(2);
        let names: Vec<String> = self.decorators.iter().map(|name| (*name).to_owned()).collect();
        file.list(0, "import { ", &names, " } from 'typeorm';");
        for (path, names) in &self.imports {
            let names = names.iter().cloned().collect::<Vec<_>>().join(", ");
            file.line(0, &format!("import {{ {names} }} from {};", text(path)));
        }
        file.gap();
        file.finish() + &body.finish()
    }

    /// A decorator's name, imported from the framework.
    pub(super) fn decorator(&mut self, name: &'static str) -> &'static str {
        self.decorators.insert(name);
        name
    }

    /// Imports a name from a package.
    pub(super) fn package(&mut self, package: &str, name: &str) {
        self.imports.entry(package.to_owned()).or_default().insert(name.to_owned());
    }

    /// The name of another class, imported from its file.
    pub(super) fn class(&mut self, id: &str) -> String {
        let (module, name) = id.rsplit_once('.').unwrap_or((&self.model.module, id));
        if id != self.model.id {
            let path = self.relative(module, &self.files.class(module, name));
            self.imports.entry(path).or_default().insert(name.to_owned());
        }
        name.to_owned()
    }

    /// The name of an enumeration, imported from its file.
    pub(super) fn enumeration(&mut self, enumeration: &EnumType) -> String {
        let path = self.relative(&enumeration.module, &self.files.enumeration(enumeration));
        self.imports.entry(path).or_default().insert(enumeration.name.clone());
        enumeration.name.clone()
    }

    fn relative(&self, module: &str, path: &str) -> String {
        let bare = path.trim_end_matches(".ts");
        if module == self.model.module {
            return format!("./{}", bare.rsplit('/').next().unwrap_or(bare));
        }
        format!("../{bare}")
    }

    fn tells_children_apart(&self, field: &FieldDeclaration) -> bool {
        let discriminator = self.model.extras.get("discriminator").and_then(|name| name.as_str());
        discriminator.is_some() && discriminator == field.name.as_deref()
    }

    fn class_decorators(&mut self, body: &mut SourceText) {
        let model = self.model;
        let child =
            model.extras.get("discriminator_value").filter(|_| model.form == Form::SameTable);
        if let Some(value) = child {
            let value = if *value == Value::String(model.name.clone()) {
                String::new()
            } else {
                literal(value)
            };
            let name = self.decorator("ChildEntity");
            return body.line(0, &format!("@{name}({value})"));
        }
        let decorator =
            self.decorator(if model.form == Form::View { "ViewEntity" } else { "Entity" });
        let mut options = Vec::new();
        options.extend(model.namespace.as_ref().map(|name| format!("schema: {}", text(name))));
        options.extend(model.comment.as_ref().map(|comment| format!("comment: {}", text(comment))));
        // A view without the query that makes it must be there.
        let there = model.form == Form::View && !model.extras.contains_key("expression");
        options.extend(
            model
                .managed
                .or(there.then_some(false))
                .map(|managed| format!("synchronize: {managed}")),
        );
        if let Some(order) = &model.order {
            let key = |key: &crate::schema::OrderKey| {
                format!(
                    "{}: '{}'",
                    property_key(&key.field),
                    if key.descending { "DESC" } else { "ASC" }
                )
            };
            options.push(format!(
                "orderBy: {{ {} }}",
                order.iter().map(key).collect::<Vec<_>>().join(", ")
            ));
        }
        let other = |name: &str| !matches!(name, "discriminator" | "discriminator_value" | "tree");
        options.extend(
            model
                .extras
                .iter()
                .filter(|(name, _)| other(name))
                .map(|(name, value)| format!("{}: {}", property_key(name), literal(value))),
        );
        let table = model.table.as_ref().map(|table| text(table));
        match (table, options.is_empty()) {
            (table, true) => body.line(0, &format!("@{decorator}({})", table.unwrap_or_default())),
            (Some(table), false) => {
                body.list(0, &format!("@{decorator}({table}, {{ "), &options, " })")
            }
            (None, false) => body.list(0, &format!("@{decorator}({{ "), &options, " })"),
        }
        if let Some(column) = model.extras.get("discriminator") {
            let name = self.decorator("TableInheritance");
            body.line(0, &format!("@{name}({{ column: {{ name: {} }} }})", literal(column)));
        }
        if let Some(kind) = model.extras.get("tree") {
            let name = self.decorator("Tree");
            body.line(0, &format!("@{name}({})", literal(kind)));
        }
        model.uniques.iter().for_each(|unique| self.unique(unique, body));
        model.indexes.iter().for_each(|index| self.index(index, body));
        model.checks.iter().for_each(|check| self.check("Check", check, body));
        model.exclusions.iter().for_each(|check| self.check("Exclusion", check, body));
    }

    fn unique(&mut self, unique: &UniqueDeclaration, body: &mut SourceText) {
        let decorator = self.decorator("Unique");
        let mut arguments: Vec<String> = unique.name.iter().map(|name| text(name)).collect();
        arguments.push(texts(&unique.attributes));
        let deferrable = unique
            .deferrable
            .map(|deferrable| format!("deferrable: '{}'", deferrable_word(deferrable)));
        arguments.extend(trailing(deferrable.into_iter().collect(), &unique.extras));
        body.line(0, &format!("@{decorator}({})", arguments.join(", ")));
    }

    fn index(&mut self, index: &IndexDeclaration, body: &mut SourceText) {
        let decorator = self.decorator("Index");
        let names: Vec<String> =
            index.parts.iter().filter_map(|part| part.attribute.clone()).collect();
        let mut arguments: Vec<String> = index.name.iter().map(|name| text(name)).collect();
        arguments.push(texts(&names));
        let mut options = Vec::new();
        if index.unique {
            options.push("unique: true".to_owned());
        }
        options.extend(index.condition.as_ref().map(|condition| {
            format!("where: {}", text(&condition.text_for(self.conventions.database)))
        }));
        options.extend(index.method.as_ref().map(|method| {
            match at_least(&self.conventions.version, (1, 0)) {
                true => format!("type: {}", text(method)),
                false => "spatial: true".to_owned(),
            }
        }));
        arguments.extend(trailing(options, &index.extras));
        body.line(0, &format!("@{decorator}({})", arguments.join(", ")));
    }

    fn check(&mut self, decorator: &'static str, check: &CheckDeclaration, body: &mut SourceText) {
        let decorator = self.decorator(decorator);
        let mut arguments: Vec<String> = check.name.iter().map(|name| text(name)).collect();
        arguments.push(text(&check.expression.text_for(self.conventions.database)));
        arguments.extend(trailing(Vec::new(), &check.extras));
        body.line(0, &format!("@{decorator}({})", arguments.join(", ")));
    }
}

/// The framework's word for when a constraint is checked.
pub(super) fn deferrable_word(deferrable: Deferrable) -> &'static str {
    match deferrable {
        Deferrable::InitiallyDeferred => "INITIALLY DEFERRED",
        Deferrable::InitiallyImmediate => "INITIALLY IMMEDIATE",
    }
}

/// The object of options that stands last, if there is anything in it.
fn trailing(mut options: Vec<String>, extras: &Extras) -> Option<String> {
    options.extend(
        extras.iter().map(|(name, value)| format!("{}: {}", property_key(name), literal(value))),
    );
    (!options.is_empty()).then(|| format!("{{ {} }}", options.join(", ")))
}

fn texts(names: &[String]) -> String {
    format!("[{}]", names.iter().map(|name| text(name)).collect::<Vec<_>>().join(", "))
}
