//! Entities to declarations. [`read`] finds the classes; one file each reads columns, relations,
//! class decorators and schema objects.

mod column;
mod constraints;
mod relation;
mod schema_object;
mod spelling;

use std::collections::HashMap;

use serde_json::{Value, json};

use crate::codes;
use crate::declaration::{Attribute, Declarations, FieldDeclaration, Form, Model, Spelling};
use crate::diagnostic::Diagnostic;
use crate::dialect::naming::{Case, module_of};
use crate::dialect::{Conventions, Settings};
use crate::host::arguments::{Arguments, kept};
use crate::host::decorators;
use crate::host::evaluate::Scope;
use crate::host::outline::{Call, Class, ClassKind, Expr, ExprKind, Member};
use crate::host::project::{Found, Project};
use crate::host::typescript::value::enumeration;
use crate::schema::{Database, EnumType, OrderKey, Origin};
use crate::source::FileId;

/// Decorators that make a class an entity.
const ENTITY_DECORATORS: &[&str] = &["Entity", "ViewEntity", "ChildEntity"];

/// Decorators that are read beside those of entities, columns and relations.
const OTHER_DECORATORS: &[&str] = &[
    "Check",
    "Exclusion",
    "Generated",
    "Index",
    "JoinColumn",
    "JoinTable",
    "TableInheritance",
    "Tree",
    "Unique",
];

/// Folders that say nothing of the module whose entities they hold.
const PLAIN_FOLDERS: &[&str] = &["entities", "entity", "models", "model", "src"];

/// Reads every entity of the project.
pub(super) fn read(project: &mut Project, settings: &Settings) -> (Declarations, Vec<Diagnostic>) {
    project.database = settings.database();
    let known = KnownProject::of(project, settings);
    let left_out = decorators::left_out(project, |_, class| all_decorators(class), is_taken);
    let parts = project.read_each(
        |project, file| Reader { project, known: &known }.file(file),
        |_, class| is_entity(class),
    );
    let mut declarations = Declarations::default();
    let mut diagnostics: Vec<Diagnostic> = left_out.into_iter().collect();
    for part in parts {
        declarations.models.extend(part.models);
        declarations.enums.extend(part.enums);
        diagnostics.extend(part.diagnostics);
    }
    merge_children(&mut declarations.models);
    declarations.models.iter_mut().for_each(name_key);
    if settings.naming.is_none() && settings.name_patterns.is_empty() {
        declarations.assumed.push(
            "the naming strategy is set where the data source is made: TypeORM's default strategy"
                .into(),
        );
    }
    (declarations, diagnostics)
}

#[derive(Default)]
pub(super) struct FilePart {
    models: Vec<Model>,
    enums: Vec<EnumType>,
    diagnostics: Vec<Diagnostic>,
}

/// What has to be known of the whole project before a class is read.
struct KnownProject {
    conventions: Conventions,
    /// Module of each file.
    modules: Vec<String>,
    /// Ids of entities by class name, for targets given as text.
    ids: HashMap<String, String>,
}

impl KnownProject {
    fn of(project: &Project, settings: &Settings) -> Self {
        let fallback = settings.default_module.as_deref().unwrap_or("main");
        let modules: Vec<String> = project
            .files()
            .map(|(file, _)| module_of(project.path(file), PLAIN_FOLDERS, fallback))
            .collect();
        let mut ids = HashMap::new();
        for (file, outline) in project.files() {
            for class in &outline.classes {
                ids.entry(class.name.to_string())
                    .or_insert_with(|| format!("{}.{}", modules[file.0 as usize], class.name));
            }
            for name in outline
                .assignments
                .iter()
                .filter_map(|assignment| relation::schema_name(&assignment.value))
            {
                ids.entry(name.clone())
                    .or_insert_with(|| format!("{}.{name}", modules[file.0 as usize]));
            }
        }
        KnownProject { conventions: super::conventions::conventions(settings), modules, ids }
    }
}

/// Reads single classes.
pub(super) struct Reader<'p> {
    project: &'p Project,
    known: &'p KnownProject,
}

impl<'p> Reader<'p> {
    fn id(&self, file: FileId, class: &Class) -> String {
        format!("{}.{}", self.known.modules[file.0 as usize], class.name)
    }

    fn database(&self) -> Database {
        self.known.conventions.database
    }

    fn file(&self, file: FileId) -> FilePart {
        let mut part = FilePart::default();
        let outline = &self.project.outlines[file.0 as usize];
        for class in &outline.classes {
            if class.kind == ClassKind::Enum {
                part.enums.extend(self.enumeration(file, class));
            } else if is_entity(class) || has_columns(class) {
                let model = self.model(file, class, &mut part);
                part.models.push(model);
            }
        }
        for assignment in &outline.assignments {
            let call =
                assignment.value.call().filter(|call| call.callee_name() == "new EntitySchema");
            if let Some(call) = call {
                let scope = Scope { project: self.project, file, class: None };
                let model = schema_object::read(
                    self,
                    scope,
                    &self.known.modules[file.0 as usize],
                    call,
                    &mut part,
                );
                part.models.extend(model);
            }
        }
        if self.project.is_input(file) {
            part.diagnostics.extend(outline.syntax_errors("TypeScript"));
        }
        part
    }

    fn model(&self, file: FileId, class: &'p Class, part: &mut FilePart) -> Model {
        let scope = Scope { project: self.project, file, class: Some(class) };
        let mut model = Model {
            id: self.id(file, class),
            name: class.name.to_string(),
            module: self.known.modules[file.0 as usize].clone(),
            form: if is_entity(class) { Form::Concrete } else { Form::Abstract },
            extends: self.bases(file, class, part),
            span: Some(class.span),
            ..Model::default()
        };
        for decorator in &class.decorators {
            self.entity_decorator(&scope, decorator, &mut model);
        }
        for member in &class.members {
            self.member(&scope, class, member, &mut model, part);
        }
        self.class_decorators(file, class, &mut model, 0);
        part.diagnostics.extend(class.doubt());
        model
    }

    fn bases(&self, file: FileId, class: &'p Class, part: &mut FilePart) -> Vec<String> {
        let mut ids = Vec::new();
        for base in &class.bases {
            match base.name().map(|name| (name, self.project.lookup(file, None, name))) {
                Some((_, Found::Class(file, class))) => ids.push(self.id(file, class)),
                Some((_, Found::External(path))) if path.starts_with("typeorm.") => {}
                _ => {
                    let text = self.project.sources.text(base.span);
                    let message = format!(
                        "base `{text}` of `{}` was not read: its columns, if it has any, are \
                         missing",
                        class.name
                    );
                    part.diagnostics.push(
                        Diagnostic::of(&codes::UNREAD_BASE, message)
                            .at(Some(base.span), "declared elsewhere")
                            .with_help(
                                "name the folder of the installed package with --follow, or add \
                                 the file to the inputs",
                            ),
                    );
                }
            }
        }
        ids
    }

    /// `@Entity(...)`, `@ViewEntity(...)`, `@ChildEntity(...)`, `@TableInheritance(...)`.
    fn entity_decorator(&self, scope: &Scope<'p>, decorator: &Expr, model: &mut Model) {
        let Some(call) = decorator.call() else { return };
        match last(call.callee_name()) {
            "Entity" => {
                let mut options = trailing_options(*scope, call);
                let name = call
                    .arguments
                    .first()
                    .map(|first| scope.value(first))
                    .and_then(|first| first.text().map(str::to_owned));
                entity_options(&mut options, model);
                model.table = name.or(model.table.take());
                model.extras.append(&mut options.into_extras());
            }
            "ViewEntity" => {
                let mut options = trailing_options(*scope, call);
                let name = call
                    .arguments
                    .first()
                    .map(|first| scope.value(first))
                    .and_then(|first| first.text().map(str::to_owned));
                model.form = Form::View;
                entity_options(&mut options, model);
                model.table = name.or(model.table.take());
                model.managed = None;
                model.extras.append(&mut options.into_extras());
            }
            "ChildEntity" => {
                model.form = Form::SameTable;
                let value = call
                    .arguments
                    .first()
                    .map_or_else(|| json!(model.name), |value| kept(scope, value));
                model.extras.insert("discriminator_value".into(), value);
            }
            "TableInheritance" => {
                let mut options = trailing_options(*scope, call);
                let name = options.take("column").map_or("type".to_owned(), |column| {
                    let mut inner = Arguments::of_object(*scope, &column);
                    column
                        .text()
                        .map(str::to_owned)
                        .or_else(|| inner.take_text("name"))
                        .unwrap_or_else(|| "type".into())
                });
                model.extras.insert("discriminator".into(), json!(name));
            }
            "Tree" => {
                let kind = call.arguments.first().map_or(Value::Null, |kind| kept(scope, kind));
                model.extras.insert("tree".into(), kind);
            }
            _ => {}
        }
    }

    fn member(
        &self,
        scope: &Scope<'p>,
        class: &'p Class,
        member: &'p Member,
        model: &mut Model,
        part: &mut FilePart,
    ) {
        if member.decorators.is_empty() {
            return;
        }
        let mut checks = Vec::new();
        let mut reader = column::MemberReader {
            reader: self,
            scope: *scope,
            class,
            member,
            part,
            checks: &mut checks,
        };
        model.attributes.extend(reader.read().into_iter().flatten());
        model.checks.extend(checks);
        constraints::of_member(scope, &self.known.conventions, member, model);
    }

    /// Indexes, uniques and checks of the class and of the classes that it extends.
    fn class_decorators(&self, file: FileId, class: &'p Class, model: &mut Model, depth: u32) {
        if depth > 16 {
            return;
        }
        let conventions = &self.known.conventions;
        for base in class.bases.iter().filter_map(Expr::name) {
            if let Found::Class(file, base) = self.project.lookup(file, None, base) {
                self.class_decorators(file, base, model, depth + 1);
                let scope = Scope { project: self.project, file, class: Some(base) };
                base.members
                    .iter()
                    .for_each(|member| constraints::of_member(&scope, conventions, member, model));
            }
        }
        let scope = Scope { project: self.project, file, class: Some(class) };
        for decorator in &class.decorators {
            constraints::of_class(&scope, conventions, decorator, model);
        }
    }

    /// A TypeScript `enum`.
    fn enumeration(&self, file: FileId, class: &'p Class) -> Option<EnumType> {
        let scope = Scope { project: self.project, file, class: Some(class) };
        enumeration(&scope, class, self.known.modules[file.0 as usize].clone())
    }

    fn origin(&self, span: crate::source::Span) -> Origin {
        Origin::declared(self.project.sources.file(span.file), span)
    }
}

/// What follows the last dot.
pub(super) fn last(path: &str) -> &str {
    path.rsplit('.').next().unwrap_or(path)
}

/// Those of an entity or of a class that others extend, of its members and of its methods.
fn all_decorators(class: &Class) -> Vec<&Expr> {
    if !is_entity(class) && !has_columns(class) {
        return Vec::new();
    }
    let members = class.members.iter().flat_map(|member| &member.decorators);
    let methods = class.methods.iter().flat_map(|method| &method.decorators);
    class.decorators.iter().chain(members).chain(methods).collect()
}

fn is_taken(decorator: &str) -> bool {
    let lists = [ENTITY_DECORATORS, OTHER_DECORATORS, relation::KINDS];
    lists.iter().any(|list| list.contains(&decorator))
        || column::COLUMN_DECORATORS.iter().any(|(word, _)| *word == decorator)
}

fn is_entity(class: &Class) -> bool {
    class
        .decorators
        .iter()
        .filter_map(Expr::call)
        .any(|call| ENTITY_DECORATORS.contains(&last(call.callee_name())))
}

fn has_columns(class: &Class) -> bool {
    class.members.iter().flat_map(|member| &member.decorators).filter_map(Expr::call).any(|call| {
        let word = last(call.callee_name());
        word.ends_with("Column")
            || matches!(word, "ManyToOne" | "OneToMany" | "OneToOne" | "ManyToMany")
    })
}

/// The object that stands last among the arguments, if one does.
pub(super) fn trailing_options<'p>(scope: Scope<'p>, call: &Call) -> Arguments<'p> {
    let object = call
        .arguments
        .last()
        .map(|argument| scope.value(argument))
        .filter(|value| matches!(value.kind, ExprKind::Map(_)));
    object.map_or_else(
        || Arguments::of_call(scope, &[], &[], &[]),
        |object| Arguments::of_object(scope, &object),
    )
}

/// The options that entities and schema objects share.
pub(super) fn entity_options(options: &mut Arguments<'_>, model: &mut Model) {
    model.table = options.take_text("name").or(model.table.take());
    model.namespace = options.take_text("schema");
    model.comment = options.take_text("comment");
    model.managed = options.take_bool("synchronize");
    if let Some(order) = options.take("orderBy")
        && let ExprKind::Map(pairs) = &order.kind
    {
        let key = |(name, direction): &(Expr, Expr)| {
            let descending = direction.text().is_some_and(|text| text.eq_ignore_ascii_case("desc"));
            Some(OrderKey { field: name.text()?.to_owned(), descending })
        };
        model.order = pairs.iter().map(key).collect();
    }
}

/// The name of a primary key, which each of its columns gives.
fn name_key(model: &mut Model) {
    for attribute in &mut model.attributes {
        let (Attribute::Field(field), known) = (attribute, &mut model.key_name) else { continue };
        if let Some(Value::String(name)) = field.extras.get(KEY_NAME).filter(|_| field.key).cloned()
        {
            field.extras.remove(KEY_NAME);
            known.get_or_insert(name);
        }
    }
}

/// The option by which a column of the primary key names it.
pub(super) const KEY_NAME: &str = "primaryKeyConstraintName";

/// Children of a single-table inheritance: their columns go, nullable, into the table of their
/// parent, which gets its discriminator.
fn merge_children(models: &mut [Model]) {
    let at: HashMap<String, usize> =
        models.iter().enumerate().map(|(at, model)| (model.id.clone(), at)).collect();
    for child in 0..models.len() {
        if models[child].form != Form::SameTable {
            continue;
        }
        let Some(parent) = models[child].extends.first().and_then(|id| at.get(id)).copied() else {
            continue;
        };
        for mut attribute in std::mem::take(&mut models[child].attributes) {
            match &mut attribute {
                Attribute::Field(field) => field.nullable = Some(true),
                Attribute::Relation(relation) => relation.carrier.nullable = Some(true),
                Attribute::Inverse(_) | Attribute::Removed(_) => {}
            }
            if !models[parent].attributes.iter().any(|known| known.name() == attribute.name()) {
                models[parent].attributes.push(attribute);
            }
        }
    }
    for model in models.iter_mut() {
        let Some(name) =
            model.extras.get("discriminator").and_then(Value::as_str).map(str::to_owned)
        else {
            continue;
        };
        let column = FieldDeclaration {
            name: Some(name.clone()),
            spelling: Spelling::word("varchar"),
            span: model.span,
            ..Default::default()
        };
        if !model.attributes.iter().any(|known| known.name() == Some(&name)) {
            model.attributes.push(Attribute::Field(Box::new(column)));
        }
        // The framework indexes it by itself.
        for attribute in &mut model.attributes {
            match attribute {
                Attribute::Field(field) if field.name.as_ref() == Some(&name) => {
                    field.indexed = Some(true)
                }
                _ => {}
            }
        }
    }
}

/// A class-level name of a property behind an embedded one: `home` and `streetName` make
/// `homeStreetname` (`DefaultNamingStrategy.columnName`).
pub(super) fn embedded_column(prefixes: &[String], name: &str, snake: bool) -> String {
    if prefixes.is_empty() {
        return name.to_owned();
    }
    if snake {
        return format!("{}_{name}", Case::Snake.apply(&prefixes.join("_")));
    }
    let mut letters = name.chars();
    let head: String = letters.next().into_iter().flat_map(char::to_uppercase).collect();
    format!("{}{head}{}", Case::Camel.apply(&prefixes.join("_")), letters.as_str().to_lowercase())
}
