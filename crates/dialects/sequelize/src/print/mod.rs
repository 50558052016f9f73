//! Declarations to typed classes: one file for each class and each enumeration, in a folder for
//! each module, and one that tells a connection of all of them and says what belongs to what.

mod association;
mod attribute;

use std::collections::{BTreeMap, BTreeSet, HashMap};

use crate::declaration::{
    Attribute, Declarations, FieldDeclaration, Form, IndexDeclaration, IndexPartDeclaration, Model,
};
use crate::dialect::source_text::SourceText;
use crate::dialect::typescript_files::{Files, enumeration};
use crate::dialect::{Conventions, PrintedFile};
use crate::quoting::typescript::{literal, property_key, text};
use crate::schema::{EnumType, Extras, Purpose};

/// The file that tells a connection of every class.
const WHOLE: &str = "models.ts";

/// The method by which a class is told to a connection.
const DECLARE: &str = "declareIn";

/// Prints every class and enumeration.
pub(super) fn print(declarations: &Declarations, conventions: &Conventions) -> Vec<PrintedFile> {
    let enums = declarations.enums.iter().filter(|enumeration| !enumeration.inline);
    let places = Files::of(declarations, ".ts");
    let mut files: Vec<PrintedFile> = enums.map(|known| enumeration(known, &places)).collect();
    let models = declarations.models.iter().map(|model| (model.id.as_str(), model)).collect();
    let shared = Shared { declarations, conventions, models, files: places };
    for model in &declarations.models {
        let mut printer = Printer {
            shared: &shared,
            model,
            values: BTreeSet::new(),
            types: BTreeSet::new(),
            imports: BTreeMap::new(),
        };
        files.push(PrintedFile {
            path: shared.files.class(&model.module, &model.name),
            text: printer.file(),
        });
    }
    files.push(PrintedFile { path: WHOLE.to_owned(), text: association::whole(&shared) });
    files
}

/// What all files have in common.
pub(super) struct Shared<'d> {
    pub(super) declarations: &'d Declarations,
    pub(super) conventions: &'d Conventions,
    models: HashMap<&'d str, &'d Model>,
    pub(super) files: Files,
}

impl<'d> Shared<'d> {
    pub(super) fn model(&self, id: &str) -> Option<&'d Model> {
        self.models.get(id).copied()
    }

    pub(super) fn find_enumeration(&self, name: &str) -> Option<&'d EnumType> {
        self.declarations.enums.iter().find(|enumeration| enumeration.name == name)
    }

    /// The table of a class.
    pub(super) fn table(&self, model: &Model) -> String {
        let convention = || {
            self.conventions.names.table.apply(&[("module", &model.module), ("name", &model.name)])
        };
        model.table.clone().unwrap_or_else(convention)
    }
}

/// The fields of a class.
pub(super) fn fields(model: &Model) -> impl Iterator<Item = &FieldDeclaration> {
    model.attributes.iter().filter_map(|attribute| match attribute {
        Attribute::Field(field) => Some(&**field),
        _ => None,
    })
}

/// The stored name of an attribute.
pub(super) fn column_of(model: &Model, attribute: &str) -> String {
    let field = fields(model).find(|field| field.name.as_deref() == Some(attribute));
    field.and_then(|field| field.column.clone()).unwrap_or_else(|| attribute.to_owned())
}

/// The attribute of a stored name.
pub(super) fn attribute_of(model: &Model, column: &str) -> String {
    let own = fields(model)
        .find(|field| field.column.as_deref().or(field.name.as_deref()) == Some(column));
    own.and_then(|field| field.name.clone()).unwrap_or_else(|| column.to_owned())
}

/// One class and what its file imports.
pub(super) struct Printer<'d> {
    pub(super) shared: &'d Shared<'d>,
    pub(super) model: &'d Model,
    /// Values taken from the framework.
    values: BTreeSet<&'static str>,
    /// Types taken from the framework.
    types: BTreeSet<&'static str>,
    /// Types and enumerations of other files, by module path; the latter are values.
    imports: BTreeMap<String, (bool, BTreeSet<String>)>,
}

impl<'d> Printer<'d> {
    fn file(&mut self) -> String {
        let mut body = SourceText::new(2);
        let name = &self.model.name;
        let (of, given) =
            (self.type_of("InferAttributes"), self.type_of("InferCreationAttributes"));
        let base = self.value("Model");
        body.line(
            0,
            &format!("export class {name} extends {base}<{of}<{name}>, {given}<{name}>> {{"),
        );
        let model = self.model;
        for attribute in &model.attributes {
            let line = match attribute {
                Attribute::Field(field) => self.member(field),
                Attribute::Relation(relation) => relation.name.as_ref().map(|name| {
                    let many = relation.kind == crate::schema::RelationKind::ManyToMany;
                    self.related(name, &relation.target, many)
                }),
                Attribute::Inverse(inverse) => {
                    let many = inverse.kind != crate::declaration::InverseKind::OneToOne;
                    Some(self.related(&inverse.name, &inverse.target, many))
                }
                Attribute::Removed(_) => None,
            };
            line.into_iter().for_each(|line| body.line(2, &line));
        }
        body.gap();
        self.declare(&mut body);
        if model.managed == Some(false) || model.form == Form::External {
            body.gap();
            body.line(2, "// Something else makes its table.");
            body.line(2, "static override async sync<M extends Model>(): Promise<M> {");
            body.line(4, "return this as unknown as M;");
            body.line(2, "}");
        }
        body.line(0, "}");
        self.imports() + &body.finish()
    }

    fn imports(&self) -> String {
        let mut file = SourceText::new(2);
        let list = |names: &BTreeSet<&'static str>| {
            names.iter().map(|name| (*name).to_owned()).collect::<Vec<_>>()
        };
        file.list(0, "import { ", &list(&self.values), " } from 'sequelize';");
        file.list(0, "import type { ", &list(&self.types), " } from 'sequelize';");
        for (path, (value, names)) in &self.imports {
            let names = names.iter().cloned().collect::<Vec<_>>().join(", ");
            file.line(
                0,
                &format!(
                    "import {}{{ {names} }} from {};",
                    if *value { "" } else { "type " },
                    text(path)
                ),
            );
        }
        file.gap();
        file.finish()
    }

    pub(super) fn value(&mut self, name: &'static str) -> &'static str {
        self.values.insert(name);
        name
    }

    pub(super) fn type_of(&mut self, name: &'static str) -> &'static str {
        self.types.insert(name);
        name
    }

    /// A class of another file, as a type.
    fn class(&mut self, id: &str) -> String {
        let (module, name) = id.rsplit_once('.').unwrap_or((&self.model.module, id));
        if id != self.model.id {
            self.import(module, &self.shared.files.class(module, name), name, false);
        }
        name.to_owned()
    }

    /// An enumeration, whose members are values.
    pub(super) fn enumeration(&mut self, enumeration: &EnumType) -> String {
        self.import(
            &enumeration.module,
            &self.shared.files.enumeration(enumeration),
            &enumeration.name,
            true,
        );
        enumeration.name.clone()
    }

    fn import(&mut self, module: &str, path: &str, name: &str, value: bool) {
        let bare = path.trim_end_matches(".ts");
        let place = match module == self.model.module {
            true => format!("./{}", bare.rsplit('/').next().unwrap_or(bare)),
            false => format!("../{bare}"),
        };
        self.imports
            .entry(place)
            .or_insert_with(|| (value, BTreeSet::new()))
            .1
            .insert(name.to_owned());
    }

    /// `declare quay?: NonAttribute<Quay>;`
    fn related(&mut self, name: &str, target: &str, many: bool) -> String {
        let class = self.class(target);
        let kept_out = self.type_of("NonAttribute");
        format!(
            "declare {}?: {kept_out}<{class}{}>;",
            property_key(name),
            if many { "[]" } else { "" }
        )
    }

    /// The method that tells a connection of the class.
    fn declare(&mut self, body: &mut SourceText) {
        let connection = self.type_of("Sequelize");
        let name = &self.model.name;
        body.line(2, &format!("static {DECLARE}(sequelize: {connection}): void {{"));
        body.line(4, &format!("{name}.init("));
        body.line(6, "{");
        let model = self.model;
        for field in fields(model) {
            self.attribute(field, body);
        }
        body.line(6, "},");
        let options = self.options();
        if model.indexes.is_empty() {
            body.list(6, "{ ", &options, " },");
        } else {
            self.with_indexes(&options, body);
        }
        body.line(4, ");");
        if model.key.as_ref().is_some_and(Vec::is_empty) {
            body.line(4, &format!("{name}.removeAttribute('id');"));
        }
        body.line(2, "}");
    }

    /// Options one a line, and so the indexes.
    fn with_indexes(&mut self, options: &[String], body: &mut SourceText) {
        body.line(6, "{");
        options.iter().for_each(|option| body.line(8, &format!("{option},")));
        body.line(8, "indexes: [");
        for index in &self.model.indexes {
            let options = self.index(index);
            body.list(10, "{ ", &options, " },");
        }
        body.line(8, "],");
        body.line(6, "},");
    }

    fn options(&mut self) -> Vec<String> {
        let model = self.model;
        let mut options = vec!["sequelize".to_owned()];
        options.extend(model.table.as_ref().map(|table| format!("tableName: {}", text(table))));
        options.extend(model.namespace.as_ref().map(|name| format!("schema: {}", text(name))));
        options.extend(model.comment.as_ref().map(|comment| format!("comment: {}", text(comment))));
        options.extend(kept(model));
        options.extend(others(&model.extras));
        options
    }

    fn index(&mut self, index: &IndexDeclaration) -> Vec<String> {
        let mut options: Vec<String> =
            index.name.iter().map(|name| format!("name: {}", text(name))).collect();
        if index.unique {
            options.push("unique: true".to_owned());
        }
        options.extend(index.method.as_ref().map(|method| format!("using: {}", text(method))));
        let parts: Vec<String> = index.parts.iter().map(|part| self.part(part)).collect();
        options.push(format!("fields: [{}]", parts.join(", ")));
        if let Some(condition) = &index.condition {
            let literal = self.value("literal");
            options.push(format!(
                "where: {literal}({})",
                text(&condition.text_for(self.shared.conventions.database))
            ));
        }
        options.extend(others(&index.extras));
        options
    }

    fn part(&mut self, part: &IndexPartDeclaration) -> String {
        if let Some(expression) = &part.expression {
            let sql = expression.text_for(self.shared.conventions.database);
            let class =
                part.operator_class.as_ref().map_or(String::new(), |class| format!(" {class}"));
            let order = if part.descending { " DESC" } else { "" };
            return format!(
                "{}({})",
                self.value("literal"),
                text(&format!("({sql}){class}{order}"))
            );
        }
        let name = text(&column_of(self.model, part.attribute.as_deref().unwrap_or_default()));
        let mut options = Vec::new();
        options
            .extend(part.operator_class.as_ref().map(|class| format!("operator: {}", text(class))));
        options.extend(part.descending.then(|| "order: 'DESC'".to_owned()));
        if options.is_empty() {
            name
        } else {
            format!("{{ name: {name}, {} }}", options.join(", "))
        }
    }
}

/// Options that nothing neutral stands for.
pub(super) fn others(extras: &Extras) -> impl Iterator<Item = String> + '_ {
    extras.iter().map(|(name, value)| format!("{}: {}", property_key(name), literal(value)))
}

/// What the framework keeps: times, marks of deletion, versions.
fn kept(model: &Model) -> Vec<String> {
    let of = |purpose: Purpose| {
        fields(model)
            .find(|field| field.purpose == Some(purpose))
            .and_then(|field| field.name.as_deref())
    };
    let times = [(Purpose::CreationTime, "createdAt"), (Purpose::UpdateTime, "updatedAt")];
    let mut options = Vec::new();
    let deleted = of(Purpose::DeletionTime);
    if deleted.is_none() && times.iter().all(|(purpose, _)| of(*purpose).is_none()) {
        options.push("timestamps: false".to_owned());
    } else {
        for (purpose, silent) in times {
            match of(purpose) {
                None => options.push(format!("{silent}: false")),
                Some(name) if name != silent => options.push(format!("{silent}: {}", text(name))),
                Some(_) => {}
            }
        }
    }
    if let Some(name) = deleted {
        options.push("paranoid: true".to_owned());
        options.extend((name != "deletedAt").then(|| format!("deletedAt: {}", text(name))));
    }
    options.extend(of(Purpose::Version).map(|name| match name {
        "version" => "version: true".to_owned(),
        name => format!("version: {}", text(name)),
    }));
    options
}
