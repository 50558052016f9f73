//! One class.

use std::collections::HashMap;

use super::{BASE, association, validation};
use crate::declaration::{Attribute, Declarations, FieldDeclaration, Form, Model};
use crate::dialect::release::at_least;
use crate::dialect::source_text::SourceText;
use crate::dialect::{Conventions, PrintedFile};
use crate::inflection::Inflections;
use crate::quoting::ruby;
use crate::schema::{Default_, EnumMember, EnumType, Function, OrderKey, Purpose, Schema};

/// The files of all classes.
pub(super) fn print(declarations: &Declarations, conventions: &Conventions) -> Vec<PrintedFile> {
    let words = Inflections::default();
    let models = declarations.models.iter().map(|model| (model.id.as_str(), model)).collect();
    let project = Project {
        declarations,
        conventions,
        models,
        made: declarations.history.made.as_deref(),
        words,
    };
    let classes = declarations
        .models
        .iter()
        .filter(|model| !matches!(model.form, Form::Table | Form::External | Form::Abstract));
    classes.map(|model| project.file(model)).collect()
}

/// What all classes have in common.
pub(super) struct Project<'d> {
    declarations: &'d Declarations,
    conventions: &'d Conventions,
    models: HashMap<&'d str, &'d Model>,
    made: Option<&'d Schema>,
    pub(super) words: Inflections,
}

impl<'d> Project<'d> {
    fn file(&self, model: &Model) -> PrintedFile {
        let modules = self.modules(model);
        let mut path: Vec<String> =
            modules.iter().map(|module| self.words.underscored(module)).collect();
        path.push(self.words.underscored(&model.name));
        let mut out = SourceText::new(2);
        for (depth, module) in modules.iter().enumerate() {
            out.line(2 * depth, &format!("module {module}"));
        }
        self.class(model, 2 * modules.len(), &mut out);
        for depth in (0..modules.len()).rev() {
            out.line(2 * depth, "end");
        }
        PrintedFile { path: format!("app/models/{}.rb", path.join("/")), text: out.finish() }
    }

    /// The modules around a class, outermost first.
    fn modules(&self, model: &Model) -> Vec<String> {
        match model.module.as_str() {
            "main" | "" => Vec::new(),
            module => module.split('/').map(|part| self.words.camelized(part)).collect(),
        }
    }

    /// The full name of a class.
    fn full_name(&self, model: &Model) -> String {
        let mut parts = self.modules(model);
        parts.push(model.name.clone());
        parts.join("::")
    }

    pub(super) fn model(&self, id: &str) -> Option<&'d Model> {
        self.models.get(id).copied()
    }

    /// How a class is named from inside another one.
    pub(super) fn class_name(&self, from: &Model, id: &str) -> String {
        match self.model(id) {
            Some(model) if model.module == from.module => model.name.clone(),
            Some(model) => format!("::{}", self.full_name(model)),
            None => id.rsplit('.').next().unwrap_or(id).to_owned(),
        }
    }

    pub(super) fn enumeration(&self, name: &str) -> Option<&'d EnumType> {
        self.declarations.enums.iter().find(|known| known.name == name)
    }

    /// The table of a class, with its named schema.
    pub(super) fn table(&self, model: &Model) -> String {
        let parent = model.extends.first().and_then(|id| self.model(id));
        if let (Form::SameTable, Some(parent)) = (model.form, parent) {
            return self.table(parent);
        }
        let table = model.table.clone().unwrap_or_else(|| {
            let names = &self.conventions.names;
            names.table.apply(&[("module", &model.module), ("name", &model.name)])
        });
        crate::schema::address(model.namespace.as_deref(), &table)
    }

    /// The columns of a class's table that make its key.
    pub(super) fn key(&self, model: &Model) -> &'d [String] {
        let table = self.table(model);
        let made = self.made.and_then(|made| made.entities.iter().find(|it| it.address() == table));
        made.map_or(&[], |made| made.key_columns())
    }

    fn has_column(&self, model: &Model, column: &str) -> bool {
        let table = self.table(model);
        let made = self.made.and_then(|made| made.entities.iter().find(|it| it.address() == table));
        made.is_some_and(|made| made.field(column).is_some())
    }

    fn class(&self, model: &Model, indent: usize, out: &mut SourceText) {
        let parent = model.extends.first().and_then(|id| self.model(id));
        let parent = match parent {
            Some(parent) if model.form == Form::SameTable => self.class_name(model, &parent.id),
            _ => BASE.to_owned(),
        };
        out.line(indent, &format!("class {} < {parent}", model.name));
        let parts = [
            self.table_and_key(model),
            association::lines(self, model),
            self.attributes(model),
            validation::lines(model),
            self.rows(model),
        ];
        let mut is_first = true;
        for lines in parts.into_iter().filter(|lines| !lines.is_empty()) {
            if !std::mem::take(&mut is_first) {
                out.gap();
            }
            lines.iter().for_each(|line| out.line(indent + 2, line));
        }
        if let Some(label) = &model.label {
            if !is_first {
                out.gap();
            }
            out.line(indent + 2, "def to_s");
            out.line(indent + 4, &format!("{label}.to_s"));
            out.line(indent + 2, "end");
        }
        out.line(indent, "end");
    }

    fn table_and_key(&self, model: &Model) -> Vec<String> {
        let mut lines = Vec::new();
        if model.form == Form::SameTable {
            return lines;
        }
        let table = self.table(model);
        if self.words.table(&model.name) != table {
            lines.push(format!("self.table_name = {}", ruby::text(&table)));
        }
        let shared =
            self.declarations.models.iter().any(|other| {
                other.form == Form::SameTable && other.extends.first() == Some(&model.id)
            });
        if self.has_column(model, "type") && !shared {
            lines.push("self.inheritance_column = nil".into());
        }
        let version = fields(model).find(|field| field.purpose == Some(Purpose::Version));
        match version.map(column_of) {
            Some("lock_version") => {}
            Some(column) => {
                lines.push(format!("self.locking_column = {}", ruby::symbol(column)));
            }
            None if self.has_column(model, "lock_version") => {
                lines.push("self.locking_column = nil".into());
            }
            None => {}
        }
        lines.extend(self.times(model));
        lines
    }

    /// Times that the framework fills in have names of its own: other columns get them as second
    /// names, and columns that only happen to have them are left alone. Seen of 6.1.7.10 and 7.2.2:
    /// what has `updated_at` for a second name is set at each change.
    fn times(&self, model: &Model) -> Vec<String> {
        let mut lines = Vec::new();
        let kept = [Purpose::CreationTime, Purpose::UpdateTime];
        let keeps = fields(model).any(|field| field.purpose.is_some_and(|own| kept.contains(&own)));
        let named = ["created_at", "created_on", "updated_at", "updated_on"];
        if !keeps && named.iter().any(|column| self.has_column(model, column)) {
            lines.push("self.record_timestamps = false".into());
        }
        for (purpose, own) in
            [(Purpose::CreationTime, "created_at"), (Purpose::UpdateTime, "updated_at")]
        {
            let kept = fields(model).find(|field| field.purpose == Some(purpose)).map(column_of);
            match kept {
                Some(column) if column != own && !is_kept(column, purpose) => lines.push(format!(
                    "alias_attribute {}, {}",
                    ruby::symbol(own),
                    ruby::symbol(column)
                )),
                _ => {}
            }
        }
        lines
    }

    fn attributes(&self, model: &Model) -> Vec<String> {
        let mut lines = Vec::new();
        for field in fields(model) {
            let column = column_of(field);
            let chosen = field.choices.as_deref().and_then(|name| self.enumeration(name));
            if let Some(known) = chosen {
                lines.push(self.enumerated(column, known));
            }
            if let Some(default) = field.application_default.as_deref().and_then(application) {
                lines.push(format!("attribute {}, default: {default}", ruby::symbol(column)));
            }
        }
        lines
    }

    /// `enum :side, { port: "port", starboard: "starboard" }`, with a prefix, so that no value is
    /// taken for a method of the class. 6.1.7.10 knows the older form alone, 7.2.2 both.
    fn enumerated(&self, column: &str, known: &EnumType) -> String {
        let member = |member: &EnumMember| ruby::pair(&member.name, &ruby::literal(&member.value));
        let members: Vec<String> = known.members.iter().map(member).collect();
        let members = format!("{{ {} }}", members.join(", "));
        match at_least(&self.conventions.version, (7, 0)) {
            true => format!("enum {}, {members}, prefix: true", ruby::symbol(column)),
            false => format!("enum {}, _prefix: true", ruby::pair(column, &members)),
        }
    }

    /// Which rows are there, and in which order.
    fn rows(&self, model: &Model) -> Vec<String> {
        let deleted = fields(model).find(|field| field.purpose == Some(Purpose::DeletionTime));
        let mut lines: Vec<String> = deleted
            .map(|field| {
                let pair = ruby::pair(column_of(field), "nil");
                format!("default_scope {{ where({pair}) }}")
            })
            .into_iter()
            .collect();
        if let Some(order) = model.order.as_deref().filter(|order| !order.is_empty()) {
            let keys: Vec<String> = order.iter().map(order_key).collect();
            lines.push(format!("default_scope {{ order({}) }}", keys.join(", ")));
        }
        lines
    }
}

fn order_key(key: &OrderKey) -> String {
    ruby::pair(&key.field, if key.descending { ":desc" } else { ":asc" })
}

/// Whether the framework fills in a column of this name by itself.
fn is_kept(column: &str, purpose: Purpose) -> bool {
    match purpose {
        Purpose::CreationTime => matches!(column, "created_at" | "created_on"),
        Purpose::UpdateTime => matches!(column, "updated_at" | "updated_on"),
        _ => false,
    }
}

/// The fields of a class.
pub(super) fn fields(model: &Model) -> impl Iterator<Item = &FieldDeclaration> {
    model.attributes.iter().filter_map(|attribute| match attribute {
        Attribute::Field(field) => Some(&**field),
        _ => None,
    })
}

/// The column of an attribute.
pub(super) fn column_of(field: &FieldDeclaration) -> &str {
    field.column.as_deref().or(field.name.as_deref()).unwrap_or_default()
}

/// What the application fills in, as code; `None` where it is code of another language.
fn application(default: &Default_) -> Option<String> {
    Some(match default {
        Default_::Literal(value) => ruby::literal(value),
        Default_::Function(Function::Now | Function::StatementNow) => "-> { Time.current }".into(),
        Default_::Function(Function::Today) => "-> { Date.current }".into(),
        Default_::Function(Function::RandomUuid) => "-> { SecureRandom.uuid }".into(),
        Default_::Expression(code) if code.language == "ruby" => format!("-> {{ {} }}", code.text),
        Default_::Expression(_) => return None,
    })
}
