//! One mapped class, or one whose columns go to others.

use serde_json::json;

use super::column::{self, Place};
use super::connect::Draft;
use super::known::{Flavour, Kind, has_columns, table};
use super::spelling::Site;
use super::{FilePart, Reader, annotation, constraint, last, relationship, word};
use crate::codes;
use crate::declaration::{Attribute, Form, Model};
use crate::diagnostic::Diagnostic;
use crate::host::arguments::kept;
use crate::host::evaluate::Scope;
use crate::host::outline::{Call, Class, Expr, ExprKind};
use crate::host::project::Found;
use crate::schema::Purpose;
use crate::source::{FileId, Span};

/// Callees whose attributes are no columns, but worth keeping.
const NOT_COLUMNS: &[&str] = &[
    "synonym",
    "association_proxy",
    "composite",
    "query_expression",
    "column_property",
    "hybrid_property",
];

/// Names of bases that bring no columns.
const HARMLESS_BASES: &[&str] = &[
    "object",
    "Generic",
    "ABC",
    "Protocol",
    "MappedAsDataclass",
    "AsyncAttrs",
    "SQLModel",
    "Model",
    "UserMixin",
];

/// Reads a class.
pub(super) fn read<'p>(
    reader: &Reader<'p>,
    file: FileId,
    class: &'p Class,
    kind: Kind,
    part: &mut FilePart,
) {
    let (form, flavour) = match kind {
        Kind::Other => return,
        Kind::Mixin => (Form::Abstract, Flavour::Plain),
        Kind::Root(flavour) | Kind::Abstract(flavour) => (Form::Abstract, flavour),
        Kind::Mapped(flavour) => (Form::Concrete, flavour),
        Kind::Child(flavour) => (Form::SameTable, flavour),
    };
    let scope = reader.scope(file, Some(class));
    if matches!(kind, Kind::Root(_)) && !has_columns(&scope, class) {
        return;
    }
    let model = Model {
        id: reader.id(file, &class.name),
        name: class.name.to_string(),
        module: reader.module(file).to_owned(),
        form,
        extends: bases(reader, file, class, kind, part),
        span: Some(class.span),
        ..Model::default()
    };
    let mut draft = Draft { model, ..Draft::default() };
    if form == Form::Concrete {
        let named = table(&scope, class, flavour);
        if let Some((name, true)) = &named {
            let message = format!(
                "the table of `{}` is named at run time: it is taken to be `{name}`",
                class.name
            );
            part.diagnostics.push(
                Diagnostic::of(&codes::GUESSED_TABLE, message)
                    .at(Some(class.span), "this class")
                    .with_help("write `__tablename__` as a text"),
            );
        }
        draft.model.table = named.map(|(name, _)| name);
    }
    let mut reading = Reading { reader, scope, class, flavour, draft: &mut draft, part };
    reading.members();
    reading.table_arguments(file, class, 0);
    reading.mapper_arguments();
    part.diagnostics.extend(class.doubt().filter(|_| form == Form::Concrete));
    part.drafts.push(draft);
}

/// Ids of the classes that it extends; of two that say the same, the first one counts, so it comes
/// last.
fn bases(
    reader: &Reader<'_>,
    file: FileId,
    class: &Class,
    kind: Kind,
    part: &mut FilePart,
) -> Vec<String> {
    let mut ids = Vec::new();
    for base in class.bases.iter().rev() {
        let name = match &base.kind {
            ExprKind::Operation { operator, operands } if operator == "[]" => {
                operands.first().and_then(Expr::name)
            }
            _ => base.name(),
        };
        match name.map(|name| (name, reader.project.lookup(file, None, name))) {
            Some((_, Found::Class(file, class))) => {
                let says = match reader.known.kind(file, class) {
                    Kind::Other => false,
                    Kind::Root(_) => has_columns(&reader.scope(file, None), class),
                    Kind::Mixin | Kind::Abstract(_) | Kind::Mapped(_) | Kind::Child(_) => true,
                };
                ids.extend(says.then(|| reader.id(file, &class.name)));
            }
            Some((name, _)) if HARMLESS_BASES.contains(&last(name)) => {}
            Some((_, Found::Value(_, _))) => {}
            Some((_, Found::External(path))) if path.starts_with("sqlalchemy.") => {}
            _ if matches!(kind, Kind::Mapped(_) | Kind::Child(_)) => {
                let text = reader.project.sources.text(base.span);
                let message = format!(
                    "base `{text}` of `{}` was not read: its columns, if it has any, are missing",
                    class.name
                );
                part.diagnostics.push(
                    Diagnostic::of(&codes::UNREAD_BASE, message)
                        .at(Some(base.span), "declared elsewhere")
                        .with_help("name the folder of the installed package with --follow"),
                );
            }
            _ => {}
        }
    }
    ids
}

/// A class while it is read.
struct Reading<'r, 'p> {
    reader: &'r Reader<'p>,
    scope: Scope<'p>,
    class: &'p Class,
    flavour: Flavour,
    draft: &'r mut Draft,
    part: &'r mut FilePart,
}

impl<'p> Reading<'_, 'p> {
    fn members(&mut self) {
        let class = self.class;
        for member in &class.members {
            let annotation = member.annotation.as_ref().and_then(annotation::read);
            let value = member.value.as_ref();
            if member.name == "__table__" {
                self.own_table(value);
            } else if !member.name.starts_with("__") {
                self.member(&member.name, annotation.as_ref(), value, member.span);
            }
        }
        for method in &class.methods {
            let declared = method
                .decorators
                .iter()
                .filter_map(Expr::name)
                .any(|name| name.split('.').any(|part| part == "declared_attr"));
            if !declared || method.name.starts_with("__") {
                continue;
            }
            match &method.returns {
                Some(returned) => self.member(&method.name, None, Some(returned), method.span),
                None => {
                    let message = format!(
                        "`{}.{}` is made by code that does more than return it: it was not read",
                        class.name, method.name
                    );
                    self.part.diagnostics.push(
                        Diagnostic::of(&codes::OPAQUE_ATTRIBUTE, message)
                            .at(Some(method.span), "this method")
                            .with_help("return the column or the relationship in one statement"),
                    );
                }
            }
        }
    }

    fn member(
        &mut self,
        name: &str,
        annotation: Option<&annotation::Annotation>,
        value: Option<&'p Expr>,
        span: Span,
    ) {
        let mapped = annotation.is_some_and(|annotation| annotation.mapped);
        let Some(value) = value else {
            let alone = mapped || (annotation.is_some() && self.flavour == Flavour::Validated);
            // What a class that others extend only announces, they declare.
            let known = |annotation: &annotation::Annotation| {
                self.reader.means_type(self.scope, &annotation.inner)
            };
            let announced =
                self.draft.model.form == Form::Abstract && !annotation.is_some_and(known);
            return if alone && !announced {
                self.column(name, annotation, None, span)
            } else {
                Default::default()
            };
        };
        if value.kind == ExprKind::Null && !mapped && self.flavour != Flavour::Validated {
            return self.draft.model.attributes.push(Attribute::Removed(name.to_owned()));
        }
        let call = value.call();
        match call.map(|call| word(&self.scope, call)).as_deref() {
            Some("mapped_column" | "Column") => self.column(name, annotation, call, span),
            Some("Field") if self.flavour == Flavour::Validated => {
                self.column(name, annotation, call, span)
            }
            Some("deferred") => {
                if let Some(inner) = call.and_then(|call| call.arguments.first()) {
                    self.member(name, annotation, Some(inner), span);
                }
            }
            Some("relationship" | "Relationship" | "dynamic_loader") => {
                let relationship =
                    relationship::read(self.reader, self.scope, name, annotation, call, span);
                let at = self.draft.model.attributes.len();
                self.draft.relationships.push((at, relationship));
                // Its place is taken until both sides are known.
                self.draft.model.attributes.push(Attribute::Removed(String::new()));
            }
            Some(other) if NOT_COLUMNS.contains(&other) => {
                self.draft.model.extras.insert(
                    name.to_owned(),
                    json!({ "code": self.scope.project.sources.text(value.span) }),
                );
            }
            _ if mapped || (annotation.is_some() && self.flavour == Flavour::Validated) => {
                self.column(name, annotation, None, span);
                self.constant_default(value);
            }
            _ => {}
        }
    }

    /// `name: str = "x"` of a class that validates.
    fn constant_default(&mut self, value: &Expr) {
        let constant = crate::host::evaluate::constant(&self.scope.value(value))
            .filter(|value| !value.is_null());
        if let (Some(Attribute::Field(field)), Some(constant)) =
            (self.draft.model.attributes.last_mut(), constant)
        {
            field.application_default = Some(Box::new(crate::schema::Default_::Literal(constant)));
        }
    }

    fn column(
        &mut self,
        name: &str,
        annotation: Option<&annotation::Annotation>,
        call: Option<&Call>,
        span: Span,
    ) {
        let mut site = Site {
            reader: self.reader,
            scope: self.scope,
            class: &self.draft.model.name,
            attribute: name,
            part: &mut *self.part,
        };
        let mut read = column::read(
            &mut site,
            &Place { attribute: Some(name), annotation, call, flavour: self.flavour, span },
        );
        for check in &mut read.checks {
            check.name = constraint::given_name(
                self.reader,
                "ck",
                check.name.take(),
                &self.draft.model.table,
            );
        }
        self.draft.add(read);
    }

    /// `__table__ = Table(...)`: its columns are attributes.
    fn own_table(&mut self, value: Option<&'p Expr>) {
        let Some(value) = value else { return };
        let (scope, value) = match value.name().map(|name| self.scope.lookup(name)) {
            Some(Found::Value(file, known)) => (Scope { file, class: None, ..self.scope }, known),
            _ => (self.scope, value),
        };
        let Some(mut draft) = super::table::draft(self.reader, scope, "", value, self.part) else {
            return;
        };
        super::table::as_attributes(&mut draft);
        self.draft.model.table = draft.model.table.take();
        self.draft.model.namespace = draft.model.namespace.take();
        self.draft.model.attributes.append(&mut draft.model.attributes);
        self.draft.model.uniques.append(&mut draft.model.uniques);
        self.draft.model.indexes.append(&mut draft.model.indexes);
        self.draft.model.checks.append(&mut draft.model.checks);
        self.draft.model.references.append(&mut draft.model.references);
        self.draft.by_class.append(&mut draft.by_class);
    }

    /// The class's own constraints and options, or those of the first class that it extends which
    /// has some.
    fn table_arguments(&mut self, file: FileId, class: &'p Class, depth: u32) -> bool {
        let value = class.member("__table_args__").and_then(|member| member.value.as_ref());
        let method = || class.methods.iter().find(|method| method.name == "__table_args__");
        let scope = Scope { file, class: Some(class), ..self.scope };
        if let Some(value) = value.or_else(|| method().and_then(|method| method.returns.as_ref())) {
            constraint::table_arguments(
                self.reader,
                scope,
                value,
                &mut self.draft.model,
                self.part,
            );
            return true;
        }
        if let Some(method) = method() {
            let message = format!(
                "the constraints and options of `{}` are made by a method: they were not read",
                class.name
            );
            self.part.diagnostics.push(
                Diagnostic::of(&codes::OPAQUE_OPTIONS, message)
                    .at(Some(method.span), "this method"),
            );
            return true;
        }
        let abstract_class = |file, class: &Class| {
            matches!(
                self.reader.known.kind(file, class),
                Kind::Mixin | Kind::Abstract(_) | Kind::Root(_)
            )
        };
        let parents: Vec<(FileId, &'p Class)> = class
            .bases
            .iter()
            .filter(|_| depth < 16)
            .filter_map(Expr::name)
            .filter_map(|name| match self.reader.project.lookup(file, None, name) {
                Found::Class(file, class) if abstract_class(file, class) => Some((file, class)),
                _ => None,
            })
            .collect();
        self.draft.model.form != Form::Abstract
            && parents.into_iter().any(|(file, class)| self.table_arguments(file, class, depth + 1))
    }

    /// `__mapper_args__`: what a version, a discriminator or a concrete table is.
    fn mapper_arguments(&mut self) {
        let by_method = || {
            self.class
                .methods
                .iter()
                .find(|method| method.name == "__mapper_args__")
                .and_then(|method| method.returns.as_ref())
        };
        let value = self
            .class
            .member("__mapper_args__")
            .and_then(|member| member.value.as_ref())
            .or_else(by_method);
        let Some(ExprKind::Map(pairs)) = value.map(|value| &value.kind) else { return };
        let model = &mut self.draft.model;
        for (key, value) in pairs {
            let name = value
                .name()
                .map(last)
                .map(str::to_owned)
                .or_else(|| value.text().map(str::to_owned));
            match (key.text().unwrap_or_default(), name) {
                ("version_id_col", Some(name)) => {
                    for attribute in &mut model.attributes {
                        if let Attribute::Field(field) = attribute
                            && field.name.as_deref() == Some(name.as_str())
                        {
                            field.purpose = Some(Purpose::Version);
                        }
                    }
                }
                ("concrete", _) if value.boolean() == Some(true) => model.extends.clear(),
                ("polymorphic_identity", _) if model.form == Form::SameTable => {
                    model.extras.insert("discriminator_value".into(), kept(&self.scope, value));
                }
                ("polymorphic_on", Some(name)) => {
                    model.extras.insert("polymorphic_on".into(), json!(name));
                }
                (option, _) => {
                    model.extras.insert(option.to_owned(), kept(&self.scope, value));
                }
            }
        }
    }
}
