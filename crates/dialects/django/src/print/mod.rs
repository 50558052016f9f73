//! Declarations to model classes: one `models.py` for each module, with the imports that it needs.

mod field;
pub(crate) mod query;

use std::collections::{BTreeMap, BTreeSet};

use crate::conventions::default_key;
use crate::declaration::{
    Attribute, Declarations, Form, InverseName, Model, RelationDeclaration, UniqueDeclaration,
};
use crate::dialect::conventions::Actor;
use crate::dialect::source_text::{SourceText, parents_first};
use crate::dialect::{Conventions, PrintedFile};
use crate::quoting::python::{Imports, boolean, keyword, literal, text};
use crate::read::{ORDER_FIELD, ORDER_WITHIN};
use crate::schema::{Action, EnumType, RelationKind};

/// Prints one package for each module.
pub(super) fn print(declarations: &Declarations, conventions: &Conventions) -> Vec<PrintedFile> {
    let mut modules: BTreeMap<&str, Vec<&Model>> = BTreeMap::new();
    for model in declarations.models.iter().filter(|model| model.form != Form::External) {
        modules.entry(&model.module).or_default().push(model);
    }
    let mut files = Vec::new();
    for (module, models) in modules {
        let mut printer = Printer {
            declarations,
            conventions,
            module,
            imports: Imports::of(conventions.database),
            declared: BTreeSet::new(),
        };
        files.push(PrintedFile { path: format!("{module}/__init__.py"), text: String::new() });
        let silent = default_key(&conventions.version);
        if let Some((_, word)) =
            conventions.keys.implied.as_ref().filter(|(_, word)| word != silent)
        {
            files.push(PrintedFile {
                path: format!("{module}/apps.py"),
                text: configuration(module, word),
            });
        }
        files
            .push(PrintedFile { path: format!("{module}/models.py"), text: printer.file(&models) });
    }
    files
}

fn configuration(module: &str, key: &str) -> String {
    let class = crate::dialect::naming::Case::Pascal.apply(module);
    format!(
        "from django.apps import AppConfig


class {class}Config(AppConfig):
    default_auto_field = \"django.db.models.{key}\"
    name = {}
",
        text(module)
    )
}

pub(super) struct Printer<'d> {
    declarations: &'d Declarations,
    pub(super) conventions: &'d Conventions,
    module: &'d str,
    pub(super) imports: Imports,
    /// Names of classes that stand above the current line.
    declared: BTreeSet<String>,
}

impl<'d> Printer<'d> {
    fn file(&mut self, models: &[&'d Model]) -> String {
        self.imports.name("django.db", "models");
        let mut body = SourceText::new(4);
        let enums: Vec<&EnumType> = self
            .declarations
            .enums
            .iter()
            .filter(|enumeration| !enumeration.inline && enumeration.module == self.module)
            .collect();
        for enumeration in enums {
            self.enumeration(enumeration, &mut body);
        }
        for model in parents_first(models) {
            self.model(model, &mut body);
            self.declared.insert(model.name.clone());
        }
        let mut file = SourceText::new(4);
        for line in self.imports.lines() {
            file.line(0, &line);
        }
        file.finish() + &body.finish()
    }

    /// An enumeration as a class of choices; members whose label follows from their name leave it
    /// out.
    fn enumeration(&mut self, enumeration: &EnumType, body: &mut SourceText) {
        let whole = enumeration.members.iter().all(|member| member.value.is_i64());
        let base = if whole { "IntegerChoices" } else { "TextChoices" };
        body.line(0, "\n");
        body.line(0, &format!("class {}(models.{base}):", enumeration.name));
        for member in &enumeration.members {
            let value = literal(&member.value);
            match &member.label {
                Some(label) => body.line(4, &format!("{} = {value}, {}", member.name, text(label))),
                None => body.line(4, &format!("{} = {value}", member.name)),
            }
        }
    }

    fn model(&mut self, model: &Model, body: &mut SourceText) {
        let base =
            model.extends.first().map_or("models.Model".to_owned(), |id| self.class_reference(id));
        body.line(0, "\n");
        body.line(0, &format!("class {}({base}):", model.name));
        let mut members = SourceText::new(4);
        if let Some(key) = &model.key {
            let names: Vec<String> =
                key.iter().map(|name| text(&self.key_part(model, name))).collect();
            members.line(4, &format!("pk = models.CompositePrimaryKey({})", names.join(", ")));
        }
        for attribute in &model.attributes {
            match attribute {
                // What the option makes by itself clashes with a field of that name.
                Attribute::Field(field) if is_made_by_order(model, field.name.as_deref()) => {}
                Attribute::Field(field) => self.field(field, &mut members),
                Attribute::Relation(relation) => self.relation(relation, &mut members),
                Attribute::Inverse(_) | Attribute::Removed(_) => {}
            }
        }
        let options = self.options(model);
        if !options.is_empty() {
            members.gap();
            members.line(4, "class Meta:");
            for (head, items) in options {
                match items {
                    None => members.line(8, &head),
                    Some(items) => members.list(8, &format!("{head} = ["), &items, "]"),
                }
            }
        }
        if let Some(label) = &model.label {
            members.gap();
            members.line(4, "def __str__(self):");
            members.line(8, &format!("return str(self.{label})"));
        }
        let members = members.finish();
        body.line(
            0,
            if members.is_empty() {
                "    pass"
            } else {
                members.trim_end_matches('\n').trim_start_matches('\n')
            },
        );
    }

    fn key_part(&self, model: &Model, name: &str) -> String {
        let relation = model.attributes.iter().any(|attribute| {
            matches!(attribute, Attribute::Relation(_)) && attribute.name() == Some(name)
        });
        if relation { format!("{name}_id") } else { name.to_owned() }
    }

    /// A class of this file by its name, once it stands above; any other as text.
    fn target(&self, id: &str) -> String {
        let (module, name) = id.rsplit_once('.').unwrap_or(("", id));
        match module == self.module {
            true if self.declared.contains(name) => name.to_owned(),
            true => text(name),
            false => text(id),
        }
    }

    fn class_reference(&mut self, id: &str) -> String {
        let (module, name) = id.rsplit_once('.').unwrap_or(("", id));
        if module != self.module {
            self.imports.name(&format!("{module}.models"), name);
        }
        name.to_owned()
    }

    fn relation(&mut self, relation: &RelationDeclaration, body: &mut SourceText) {
        let class = match relation.kind {
            RelationKind::ManyToOne => "ForeignKey",
            RelationKind::OneToOne => "OneToOneField",
            RelationKind::ManyToMany => "ManyToManyField",
        };
        let mut arguments = vec![self.target(&relation.target)];
        if relation.kind != RelationKind::ManyToMany {
            arguments.push(self.on_delete(relation));
        }
        if let Some(name) = relation.join_columns.first().and_then(|join| join.references.as_ref())
        {
            arguments.push(format!("to_field={}", text(name)));
        }
        match &relation.inverse {
            InverseName::Silent => {}
            InverseName::Hidden => arguments.push("related_name=\"+\"".into()),
            InverseName::Named(name) => arguments.push(format!("related_name={}", text(name))),
        }
        if let Some(through) = &relation.through {
            arguments.push(format!("through={}", self.target(through)));
        }
        if let Some(name) = &relation.join_table.name {
            arguments.push(format!("db_table={}", text(name)));
        }
        if let Some(symmetrical) = relation.symmetrical {
            arguments.push(format!("symmetrical={}", boolean(symmetrical)));
        }
        if let [own, other] = relation.through_fields.as_slice() {
            arguments.push(format!("through_fields=[{}, {}]", text(own), text(other)));
        }
        if let Some(constraint) = relation.constraint {
            arguments.push(format!("db_constraint={}", boolean(constraint)));
        }
        if relation.parent_link {
            arguments.push("parent_link=True".into());
        }
        self.common(&relation.carrier, &mut arguments);
        arguments.extend(
            relation
                .extras
                .iter()
                .filter(|(name, _)| *name != "set_value")
                .map(|(name, value)| keyword(name, value)),
        );
        let name = relation.name.as_deref().unwrap_or_default();
        body.list(4, &format!("{name} = models.{class}("), &arguments, ")");
    }

    fn on_delete(&self, relation: &RelationDeclaration) -> String {
        let action = relation.on_delete.unwrap_or_default();
        if let (Action::SetValue, Some(value)) = (action, relation.extras.get("set_value")) {
            return format!("on_delete=models.SET({})", literal(value));
        }
        let words = match relation.acts {
            Some(Actor::Database) => super::read::DATABASE_ACTIONS,
            _ => super::read::ACTIONS,
        };
        let word =
            words.iter().find(|(_, known)| *known == action).map_or("DO_NOTHING", |(word, _)| word);
        format!("on_delete=models.{word}")
    }

    /// Lines of `class Meta`, each with its items when it is a list.
    fn options(&mut self, model: &Model) -> Vec<(String, Option<Vec<String>>)> {
        let mut options = Vec::new();
        let mut put = |name: &str, value: String| options.push((format!("{name} = {value}"), None));
        if let Some(table) = &model.table {
            put("db_table", text(table));
        }
        if let Some(comment) = &model.comment {
            put("db_table_comment", text(comment));
        }
        if let Some(managed) = model.managed {
            put("managed", boolean(managed).into());
        }
        if model.form == Form::SameTable {
            put("proxy", "True".into());
        }
        for (name, value) in
            model.extras.iter().filter(|(name, _)| crate::quoting::is_identifier(name))
        {
            put(name, literal(value));
        }
        if let Some(order) = &model.order {
            let keys = order.iter().map(|key| {
                text(&format!("{}{}", if key.descending { "-" } else { "" }, key.field))
            });
            options.push(("ordering".into(), Some(keys.collect())));
        }
        let pairs: Vec<String> = model
            .uniques
            .iter()
            .filter(|unique| unique.name.is_none())
            .map(|unique| texts(&unique.attributes))
            .collect();
        if !pairs.is_empty() {
            options.push(("unique_together".into(), Some(pairs)));
        }
        let indexes: Vec<String> = model
            .indexes
            .iter()
            .filter(|index| !index.unique)
            .map(|index| self.index(index))
            .collect();
        if !indexes.is_empty() {
            options.push(("indexes".into(), Some(indexes)));
        }
        let mut constraints: Vec<String> =
            model.uniques.iter().filter_map(|unique| self.unique(unique)).collect();
        constraints.extend(
            model
                .indexes
                .iter()
                .filter(|index| index.unique)
                .map(|index| self.unique_index(index))
                .collect::<Vec<_>>(),
        );
        constraints.extend(model.checks.iter().map(|check| self.check(check)).collect::<Vec<_>>());
        if !constraints.is_empty() {
            options.push(("constraints".into(), Some(constraints)));
        }
        options
    }

    fn unique(&mut self, unique: &UniqueDeclaration) -> Option<String> {
        let name = unique.name.as_ref()?;
        let deferrable = unique.deferrable.map_or(String::new(), |deferrable| {
            let word = if deferrable == crate::schema::Deferrable::InitiallyDeferred {
                "DEFERRED"
            } else {
                "IMMEDIATE"
            };
            format!(", deferrable=models.Deferrable.{word}")
        });
        let nulls = if unique.nulls_not_distinct { ", nulls_distinct=False" } else { "" };
        let extras = query::keywords(&unique.extras);
        Some(format!(
            "models.UniqueConstraint(fields={}, name={}{deferrable}{nulls}{extras})",
            texts(&unique.attributes),
            text(name)
        ))
    }
}

/// Whether a field comes with an option of its class.
fn is_made_by_order(model: &Model, field: Option<&str>) -> bool {
    field == Some(ORDER_FIELD) && model.extras.contains_key(ORDER_WITHIN)
}

/// A list of texts.
pub(super) fn texts(names: &[String]) -> String {
    format!("[{}]", names.iter().map(|name| text(name)).collect::<Vec<_>>().join(", "))
}
