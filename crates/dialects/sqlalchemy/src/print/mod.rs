//! Declarations to mapped classes in today's typed style: one `models.py` for each module over one
//! base, with the imports that it needs. Tables without a class stand as table objects below the
//! classes.

mod column;
mod constraint;
mod relation;

use std::collections::{BTreeMap, HashMap, HashSet};

use serde_json::Value;

use crate::declaration::{
    Attribute, Declarations, FieldDeclaration, Form, InverseDeclaration, Model, RelationDeclaration,
};
use crate::dialect::naming::Case;
use crate::dialect::release::at_least;
use crate::dialect::source_text::SourceText;
use crate::dialect::{Conventions, PrintedFile};
use crate::quoting::python::{Imports, keyword, literal, text};
use crate::schema::{EnumType, Identity, Purpose, address};

/// The file and the class that every mapped class comes from.
const BASE: &str =
    "from sqlalchemy.orm import DeclarativeBase\n\n\nclass Base(DeclarativeBase):\n    pass\n";

/// The same before 2.0.
const BASE_1_4: &str =
    "from sqlalchemy.orm import declarative_base\n\n\nBase = declarative_base()\n";

/// Options that the mapper takes, not the table.
const MAPPER_OPTIONS: &[&str] = &[
    "polymorphic_on",
    "polymorphic_identity",
    "polymorphic_load",
    "eager_defaults",
    "confirm_deleted_rows",
    "passive_updates",
];

/// Prints one package for each module, and the base of all classes.
pub(super) fn print(declarations: &Declarations, conventions: &Conventions) -> Vec<PrintedFile> {
    let mut modules: BTreeMap<&str, Vec<&Model>> = BTreeMap::new();
    for model in declarations.models.iter().filter(|model| model.form != Form::External) {
        modules.entry(&model.module).or_default().push(model);
    }
    let known = KnownDeclarations::of(declarations);
    let mut files = Vec::new();
    if !modules.is_empty() {
        let base = if at_least(&conventions.version, (2, 0)) { BASE } else { BASE_1_4 };
        files.push(PrintedFile { path: "base.py".into(), text: base.into() });
    }
    for (module, models) in modules {
        let mut printer = Printer {
            declarations,
            known: &known,
            conventions,
            module,
            imports: Imports::of(conventions.database),
            variables: HashSet::new(),
        };
        files.push(PrintedFile { path: format!("{module}/__init__.py"), text: String::new() });
        files
            .push(PrintedFile { path: format!("{module}/models.py"), text: printer.file(&models) });
    }
    files
}

/// What printers look up.
pub(super) struct KnownDeclarations<'d> {
    models: HashMap<&'d str, &'d Model>,
    tables: HashMap<String, &'d Model>,
    /// Sides that lead back, by the owner and its attribute.
    inverses: HashMap<(&'d str, &'d str), &'d InverseDeclaration>,
    /// Class names that several modules have.
    ambiguous: HashSet<&'d str>,
}

impl<'d> KnownDeclarations<'d> {
    fn of(declarations: &'d Declarations) -> Self {
        let mut known = KnownDeclarations {
            models: HashMap::new(),
            tables: HashMap::new(),
            inverses: HashMap::new(),
            ambiguous: HashSet::new(),
        };
        let mut names = HashSet::new();
        for model in &declarations.models {
            known.models.insert(&model.id, model);
            if model.form != Form::Table && !names.insert(model.name.as_str()) {
                known.ambiguous.insert(&model.name);
            }
            for attribute in &model.attributes {
                if let Attribute::Inverse(inverse) = attribute {
                    known.inverses.insert((&inverse.target, &inverse.owner), inverse);
                }
            }
        }
        known
    }
}

pub(super) struct Printer<'d> {
    declarations: &'d Declarations,
    known: &'d KnownDeclarations<'d>,
    pub(super) conventions: &'d Conventions,
    module: &'d str,
    pub(super) imports: Imports,
    /// Names of table objects.
    variables: HashSet<String>,
}

impl<'d> Printer<'d> {
    fn file(&mut self, models: &[&'d Model]) -> String {
        let mut body = SourceText::new(4);
        let own =
            |enumeration: &&EnumType| !enumeration.inline && enumeration.module == self.module;
        let enums: Vec<&'d EnumType> = self.declarations.enums.iter().filter(own).collect();
        for enumeration in enums {
            self.enumeration(enumeration, &mut body);
        }
        let (tables, classes): (Vec<&Model>, Vec<&Model>) =
            models.iter().copied().partition(|model| model.form == Form::Table);
        for model in crate::dialect::source_text::parents_first(&classes) {
            self.model(model, &mut body);
        }
        for model in tables {
            self.table(model, &mut body);
        }
        let mut file = SourceText::new(4);
        self.imports.lines().iter().for_each(|line| file.line(0, line));
        file.finish() + &body.finish()
    }

    /// `sa`, the framework itself.
    pub(super) fn sa(&mut self) -> &'static str {
        self.imports.alias("sqlalchemy", "sa");
        "sa"
    }

    /// An enumeration; its members are worth what the code compares with.
    fn enumeration(&mut self, enumeration: &EnumType, body: &mut SourceText) {
        self.imports.module("enum");
        body.line(0, "\n");
        body.line(0, &format!("class {}(enum.Enum):", enumeration.name));
        for member in &enumeration.members {
            body.line(
                4,
                &format!(
                    "{} = {}",
                    member.name,
                    literal(member.in_code.as_ref().unwrap_or(&member.value))
                ),
            );
        }
    }

    fn model(&mut self, model: &'d Model, body: &mut SourceText) {
        let base = match model.extends.first() {
            Some(id) => self.class(id),
            None => self.imports.name("base", "Base").to_owned(),
        };
        body.line(0, "\n");
        body.line(0, &format!("class {}({base}):", model.name));
        let mut members = SourceText::new(4);
        if model.form != Form::SameTable {
            members.line(4, &format!("__tablename__ = {}", text(&self.table_name(model))));
        }
        let options = self.table_options(model);
        let mut items = self.constraints(model);
        match (items.is_empty(), options) {
            (true, None) => {}
            (true, Some(options)) => members.list(4, "__table_args__ = {", &options, "}"),
            (false, options) => {
                items.extend(options.map(|options| format!("{{{}}}", options.join(", "))));
                let single = items.len() == 1;
                members.list(4, "__table_args__ = (", &items, if single { ",)" } else { ")" });
            }
        }
        members.gap();
        let mut last_was_column = true;
        for attribute in &model.attributes {
            let is_column = matches!(attribute, Attribute::Field(_));
            if !is_column && last_was_column {
                members.gap();
            }
            last_was_column = is_column;
            match attribute {
                Attribute::Field(field) => self.column(field, &mut members),
                Attribute::Relation(relation) => self.relation(model, relation, &mut members),
                Attribute::Inverse(inverse) => self.inverse(model, inverse, &mut members),
                Attribute::Removed(_) => {}
            }
        }
        let mapper = mapper_options(model);
        if !mapper.is_empty() {
            members.gap();
            members.list(4, "__mapper_args__ = {", &mapper, "}");
        }
        let members = members.finish();
        let members = members.trim_matches('\n');
        body.line(0, if members.is_empty() { "    pass" } else { members });
    }

    /// A table object.
    fn table(&mut self, model: &'d Model, body: &mut SourceText) {
        let sa = self.sa();
        let base = self.imports.name("base", "Base");
        let mut items =
            vec![text(model.table.as_deref().unwrap_or(&model.name)), format!("{base}.metadata")];
        for attribute in &model.attributes {
            if let Attribute::Field(field) = attribute {
                items.push(self.table_column(field));
            }
        }
        items.extend(self.constraints(model));
        items.extend(self.table_options(model).into_iter().flatten().map(|option| {
            match option.split_once(": ") {
                Some((name, value)) => format!("{}={value}", name.trim_matches('"')),
                None => option,
            }
        }));
        let variable = self.variable(model);
        body.line(0, "\n");
        body.lines(0, &format!("{variable} = {sa}.Table("), &items, ")");
    }

    fn variable(&mut self, model: &Model) -> String {
        let plain = model.table.as_deref().unwrap_or(&model.name);
        let legal: String = plain
            .chars()
            .map(|letter| if letter.is_alphanumeric() { letter } else { '_' })
            .collect();
        let snake = Case::Snake.apply(&legal);
        let mut name = if snake.starts_with(|first: char| first.is_numeric()) {
            format!("table_{snake}")
        } else {
            snake.clone()
        };
        while matches!(name.as_str(), "sa" | "enum" | "datetime")
            || !self.variables.insert(name.clone())
        {
            name.push_str("_table");
        }
        name
    }

    pub(super) fn table_name(&self, model: &Model) -> String {
        let names = [("module", model.module.as_str()), ("name", model.name.as_str())];
        model.table.clone().unwrap_or_else(|| self.conventions.names.table.apply(&names))
    }

    /// Entries of the dictionary of table options.
    fn table_options(&self, model: &Model) -> Option<Vec<String>> {
        let mut options = Vec::new();
        let mut put = |name: &str, value: String| options.push(format!("{}: {value}", text(name)));
        if let Some(namespace) = &model.namespace {
            put("schema", text(namespace));
        }
        if let Some(comment) = &model.comment {
            put("comment", text(comment));
        }
        let counts = |attribute: &Attribute| {
            matches!(attribute, Attribute::Field(field)
            if field.identity == Some(Identity::AutoIncrement))
        };
        if model.attributes.iter().any(counts) {
            put("sqlite_autoincrement", "True".into());
        }
        match (model.form, model.managed) {
            (Form::View, _) => put("info", "{\"is_view\": True}".into()),
            (_, Some(false)) => put("info", "{\"created_elsewhere\": True}".into()),
            _ => {}
        }
        for (name, value) in model.extras.iter().filter(|(name, _)| {
            !MAPPER_OPTIONS.contains(&name.as_str()) && *name != "discriminator_value"
        }) {
            put(name, literal(value));
        }
        Some(options).filter(|options| !options.is_empty())
    }

    /// The name of another class in this file.
    fn class(&mut self, id: &str) -> String {
        let (module, name) = id.rsplit_once('.').unwrap_or(("", id));
        if module != self.module {
            self.imports.name(&format!("{module}.models"), name);
        }
        name.to_owned()
    }

    /// What a text calls a class: its name, with its module where others have the same.
    pub(super) fn class_text(&self, id: &str) -> String {
        let (module, name) = id.rsplit_once('.').unwrap_or(("", id));
        if self.known.ambiguous.contains(name) {
            format!("{module}.models.{name}")
        } else {
            name.to_owned()
        }
    }

    pub(super) fn find_enumeration(&self, name: &str) -> Option<&'d EnumType> {
        self.declarations.enums.iter().find(|enumeration| enumeration.name == name)
    }

    pub(super) fn model_of(&self, id: &str) -> Option<&'d Model> {
        self.known.models.get(id).copied()
    }

    /// The class over a table.
    pub(super) fn model_over(&self, namespace: Option<&str>, table: &str) -> Option<&'d Model> {
        let wanted = address(namespace, table);
        if let Some(known) = self.known.tables.get(&wanted) {
            return Some(known);
        }
        self.declarations.models.iter().find(|model| {
            model.form != Form::SameTable
                && address(model.namespace.as_deref(), &self.table_name(model)) == wanted
        })
    }
}

/// Entries of the mapper's dictionary.
fn mapper_options(model: &Model) -> Vec<String> {
    let mut options = Vec::new();
    for attribute in &model.attributes {
        if let Attribute::Field(field) = attribute
            && field.purpose == Some(Purpose::Version)
        {
            options
                .push(format!("\"version_id_col\": {}", field.name.as_deref().unwrap_or_default()));
        }
    }
    for (name, value) in &model.extras {
        match name.as_str() {
            "discriminator_value" => {
                options.push(format!("\"polymorphic_identity\": {}", literal(value)))
            }
            name if MAPPER_OPTIONS.contains(&name) => {
                options.push(format!("{}: {}", text(name), literal(value)))
            }
            _ => {}
        }
    }
    options
}

/// Options of which one dialect says nothing more, as named arguments.
pub(super) fn keywords<'e>(
    extras: impl IntoIterator<Item = (&'e String, &'e Value)>,
) -> Vec<String> {
    extras.into_iter().map(|(name, value)| keyword(name, value)).collect()
}

/// The attribute (or column, in a table) of a field.
pub(super) fn column_name(field: &FieldDeclaration) -> &str {
    field.column.as_deref().or(field.name.as_deref()).unwrap_or_default()
}

/// A relation of a class by its attribute.
pub(super) fn relation_named<'m>(model: &'m Model, name: &str) -> Option<&'m RelationDeclaration> {
    model.attributes.iter().find_map(|attribute| match attribute {
        Attribute::Relation(relation) if relation.name.as_deref() == Some(name) => {
            Some(&**relation)
        }
        _ => None,
    })
}
