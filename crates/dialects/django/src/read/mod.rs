//! Model classes to declarations. [`read`] finds the classes; one file each reads fields,
//! relations, class options and query expressions.

mod field;
mod options;
mod query;
mod relation;

pub(super) use options::{ORDER_FIELD, ORDER_WITHIN};
pub(super) use relation::{ACTIONS, DATABASE_ACTIONS};

use std::collections::HashMap;

use serde_json::json;
use smol_str::SmolStr;

use crate::codes;
use crate::declaration::{Attribute, Declarations, FieldDeclaration, Form, Model, Spelling};
use crate::diagnostic::{Diagnostic, Severity};
use crate::dialect::Settings;
use crate::host::decorators;
use crate::host::evaluate::{Scope, is_enumeration};
use crate::host::outline::{Class, Expr, ExprKind, Member};
use crate::host::project::{Found, Project};
use crate::host::python;
use crate::schema::{EnumMember, EnumType, Origin};
use crate::source::FileId;

/// Classes that every model comes from.
const ROOTS: &[&str] = &["django.db.models.Model", "django.db.models.base.Model"];

/// Last names of bases that bring no columns.
const HARMLESS_BASES: &[&str] = &["object", "Generic", "ABC", "Protocol"];

/// Reads every model of the project.
pub(super) fn read(project: &mut Project, settings: &Settings) -> (Declarations, Vec<Diagnostic>) {
    project.database = settings.database();
    let known = KnownProject::of(project, settings);
    let of_model = |file, class: &'_ Class| known.is_model(file, class);
    let left_out = decorators::left_out(
        project,
        |file, class| {
            if of_model(file, class) { class.decorators.iter().collect() } else { Vec::new() }
        },
        |_| false,
    );
    let key_is_known = settings.default_key.is_some() || default_key(project).is_some();
    let parts =
        project.read_each(|project, file| Reader { project, known: &known }.file(file), of_model);
    let mut declarations = Declarations::default();
    let mut diagnostics: Vec<Diagnostic> = left_out.into_iter().collect();
    for (models, enums, found) in parts {
        declarations.models.extend(models);
        declarations.enums.extend(enums);
        diagnostics.extend(found);
    }
    if !key_is_known {
        let release = settings.release(&crate::DIALECT);
        let key = crate::conventions::default_key(&release);
        let kind = if key == "AutoField" { "integer" } else { "bigint" };
        declarations.assumed.push(format!(
            "DEFAULT_AUTO_FIELD is not set in any file read: models without a key get {key} \
             ({kind}), as Django {release} does"
        ));
    }
    (declarations, diagnostics)
}

/// The key class that the project's settings choose, if a file of the project says so.
pub(crate) fn default_key(project: &Project) -> Option<String> {
    let setting = project.files().find_map(|(_, outline)| {
        outline
            .assignments
            .iter()
            .find(|assignment| assignment.name == "DEFAULT_AUTO_FIELD")?
            .value
            .text()
            .map(last)
    });
    setting.or_else(|| {
        project
            .files()
            .flat_map(|(_, outline)| &outline.classes)
            .find_map(|class| class.member("default_auto_field")?.value.as_ref()?.text().map(last))
    })
}

fn last(path: &str) -> String {
    path.rsplit('.').next().unwrap_or(path).to_owned()
}

/// What has to be known of the whole project before a class is read.
struct KnownProject {
    /// Application label of each file.
    labels: Vec<String>,
    /// Whether a class is a model, by file and name.
    models: HashMap<(FileId, SmolStr), bool>,
    /// `AUTH_USER_MODEL`, as `label.Name`.
    user_model: String,
}

impl KnownProject {
    fn of(project: &Project, settings: &Settings) -> Self {
        let setting = |name: &str| {
            project.files().find_map(|(_, outline)| {
                outline
                    .assignments
                    .iter()
                    .find(|assignment| assignment.name == name)?
                    .value
                    .text()
                    .map(str::to_owned)
            })
        };
        let mut known = KnownProject {
            labels: labels(project, settings),
            models: HashMap::new(),
            user_model: setting("AUTH_USER_MODEL").unwrap_or_else(|| "auth.User".into()),
        };
        for (file, outline) in project.files() {
            for class in &outline.classes {
                known.classify(project, file, class, 0);
            }
        }
        known
    }

    fn classify(&mut self, project: &Project, file: FileId, class: &Class, depth: u32) -> bool {
        let place = (file, class.name.clone());
        if let Some(known) = self.models.get(&place) {
            return *known;
        }
        self.models.insert(place.clone(), false);
        let mut model = false;
        for base in class.bases.iter().filter_map(Expr::name) {
            model |= match project.lookup(file, None, base) {
                Found::External(path) => ROOTS.contains(&path.as_str()),
                Found::Class(file, class) if depth < 64 => {
                    self.classify(project, file, class, depth + 1)
                }
                _ => false,
            };
        }
        self.models.insert(place, model);
        model
    }

    fn is_model(&self, file: FileId, class: &Class) -> bool {
        self.models.get(&(file, class.name.clone())).copied().unwrap_or(false)
    }
}

/// Reads single classes.
pub(super) struct Reader<'p> {
    project: &'p Project,
    known: &'p KnownProject,
}

impl<'p> Reader<'p> {
    fn is_model(&self, file: FileId, class: &Class) -> bool {
        self.known.is_model(file, class)
    }

    /// `label.Name`.
    fn id(&self, file: FileId, class: &Class) -> String {
        format!("{}.{}", self.module(file, class), class.name)
    }

    fn module(&self, file: FileId, class: &Class) -> String {
        let own = class
            .nested("Meta")
            .and_then(|meta| meta.member("app_label"))
            .and_then(|member| member.value.as_ref());
        own.and_then(Expr::text)
            .map_or_else(|| self.known.labels[file.0 as usize].clone(), str::to_owned)
    }

    fn scope(&self, file: FileId, class: Option<&'p Class>) -> Scope<'p> {
        Scope { project: self.project, file, class }
    }

    fn file(&self, file: FileId) -> (Vec<Model>, Vec<EnumType>, Vec<Diagnostic>) {
        let mut diagnostics = Vec::new();
        let mut enums = Vec::new();
        let mut models = Vec::new();
        let outline = &self.project.outlines[file.0 as usize];
        for class in &outline.classes {
            if is_enumeration(class) {
                enums.extend(self.enumeration(file, class, None));
            } else if self.is_model(file, class) {
                enums.extend(
                    class
                        .nested
                        .iter()
                        .filter(|nested| is_enumeration(nested))
                        .filter_map(|nested| self.enumeration(file, nested, Some(class))),
                );
                models.push(self.model(file, class, &mut enums, &mut diagnostics));
            }
        }
        if self.project.is_input(file) {
            diagnostics.extend(outline.syntax_errors("Python"));
        } else {
            diagnostics.clear();
        }
        (models, enums, diagnostics)
    }

    fn model(
        &self,
        file: FileId,
        class: &'p Class,
        enums: &mut Vec<EnumType>,
        diagnostics: &mut Vec<Diagnostic>,
    ) -> Model {
        let scope = self.scope(file, Some(class));
        let mut model = Model {
            id: self.id(file, class),
            name: class.name.to_string(),
            module: self.module(file, class),
            extends: self.bases(file, class, diagnostics),
            span: Some(class.span),
            ..Model::default()
        };
        let mut attributes = attributes::Sink { reader: self, scope, class, enums, diagnostics };
        for member in &class.members {
            model.attributes.extend(attributes.member(member, &mut model.extras));
        }
        diagnostics.extend(class.doubt());
        model.label = self.label(class);
        options::apply(self, file, class, &mut model, diagnostics);
        if !self.project.is_input(file) && model.form == Form::Concrete {
            model.form = Form::External;
        }
        model
    }

    fn bases(
        &self,
        file: FileId,
        class: &'p Class,
        diagnostics: &mut Vec<Diagnostic>,
    ) -> Vec<String> {
        let mut ids = Vec::new();
        for base in &class.bases {
            match base.name().map(|name| (name, self.project.lookup(file, None, name))) {
                Some((_, Found::Class(file, class))) if self.is_model(file, class) => {
                    ids.push(self.id(file, class))
                }
                Some((_, Found::Class(_, _))) => {}
                Some((_, Found::External(path))) if ROOTS.contains(&path.as_str()) => {}
                Some((name, _)) if HARMLESS_BASES.contains(&last(name).as_str()) => {}
                _ => {
                    let text = self.project.sources.text(base.span);
                    let severity =
                        if text.ends_with("Model") { Severity::Warning } else { Severity::Note };
                    diagnostics.push(
                        Diagnostic::of(
                            &codes::UNREAD_BASE,
                            format!(
                                "base `{text}` of `{}` was not read: its columns, if it has \
                                 any, are missing",
                                class.name
                            ),
                        )
                        .graded(severity)
                        .at(Some(base.span), "declared elsewhere")
                        .with_help("name the folder of the installed package with --follow"),
                    );
                }
            }
        }
        ids
    }

    /// The attribute that `__str__` returns.
    fn label(&self, class: &Class) -> Option<String> {
        let method = class.methods.iter().find(|method| method.name == "__str__")?;
        let mut returned = method.returns.as_ref()?;
        if let ExprKind::Call(call) = &returned.kind {
            returned = call.arguments.first().filter(|_| call.callee_name() == "str")?;
        }
        returned.name()?.strip_prefix("self.").filter(|name| !name.contains('.')).map(str::to_owned)
    }

    /// The name that an enumeration class has in the schema.
    fn enumeration_name(class: &Class, owner: Option<&Class>) -> String {
        match owner {
            Some(owner) if !class.name.starts_with(owner.name.as_str()) => {
                format!("{}{}", owner.name, class.name)
            }
            _ => class.name.to_string(),
        }
    }

    fn enumeration(
        &self,
        file: FileId,
        class: &'p Class,
        owner: Option<&Class>,
    ) -> Option<EnumType> {
        let scope = self.scope(file, Some(class));
        let members: Vec<EnumMember> =
            class.members.iter().filter_map(|member| enumeration_member(&scope, member)).collect();
        Some(EnumType {
            name: Self::enumeration_name(class, owner),
            stored_name: None,
            members,
            module: self.known.labels[file.0 as usize].clone(),
            inline: false,
            origin: origin(self.project, class.span),
        })
        .filter(|enumeration| !enumeration.members.is_empty())
    }
}

fn enumeration_member(scope: &Scope<'_>, member: &Member) -> Option<EnumMember> {
    if member.name.starts_with("__") {
        return None;
    }
    let value = scope.value(member.value.as_ref()?);
    let (value, label) = match value.list() {
        Some([value, label]) => (value.clone(), query::plain_text(scope, label)),
        _ => (value, None),
    };
    Some(EnumMember {
        name: member.name.to_string(),
        value: crate::host::evaluate::constant(&value)?,
        label,
        in_code: None,
    })
}

/// The origin of something written at `span`.
pub(super) fn origin(project: &Project, span: crate::source::Span) -> Origin {
    Origin::declared(project.sources.file(span.file), span)
}

/// The application label of every file: from an AppConfig beside it, else the name of the folder
/// that holds `models`.
fn labels(project: &Project, settings: &Settings) -> Vec<String> {
    let mut configured: HashMap<String, String> = HashMap::new();
    for (file, outline) in project.files() {
        let folder = python::package(project.path(file));
        for class in &outline.classes {
            let is_configuration =
                class.bases.iter().filter_map(Expr::name).any(|base| last(base) == "AppConfig");
            let label =
                class.member("label").and_then(|member| member.value.as_ref()).and_then(Expr::text);
            let name =
                class.member("name").and_then(|member| member.value.as_ref()).and_then(Expr::text);
            if let (true, Some(label)) =
                (is_configuration, label.map(str::to_owned).or_else(|| name.map(last)))
            {
                configured.insert(folder.to_owned(), label);
            }
        }
    }
    let fallback = settings.default_module.as_deref().unwrap_or("main");
    project
        .files()
        .map(|(file, _)| {
            let folder = python::package(project.path(file));
            configured.get(folder).cloned().unwrap_or_else(|| {
                let name = folder.rsplit('/').next().unwrap_or_default();
                if name.is_empty() || name == "." { fallback.to_owned() } else { name.to_owned() }
            })
        })
        .collect()
}

mod attributes {
    //! One assignment of a class body to one attribute.

    use super::{
        Attribute, Class, Diagnostic, EnumType, Expr, ExprKind, FieldDeclaration, Found, Member,
        Reader, Scope, Severity, Spelling, field, json, last, relation,
    };
    use crate::codes;
    use crate::schema::Extras;

    /// Last names of callees that make no column.
    const NOT_COLUMNS: &[&str] =
        &["Manager", "from_queryset", "as_manager", "FieldTracker", "property", "cached_property"];

    /// Where the parts of a class go while it is read.
    pub(super) struct Sink<'r, 'p> {
        pub(super) reader: &'r Reader<'p>,
        pub(super) scope: Scope<'p>,
        pub(super) class: &'p Class,
        pub(super) enums: &'r mut Vec<EnumType>,
        pub(super) diagnostics: &'r mut Vec<Diagnostic>,
    }

    impl<'p> Sink<'_, 'p> {
        pub(super) fn member(
            &mut self,
            member: &'p Member,
            extras: &mut Extras,
        ) -> Option<Attribute> {
            let value = member.value.as_ref()?;
            if value.kind == ExprKind::Null {
                return Some(Attribute::Removed(member.name.to_string()));
            }
            let call = value.call()?;
            let callee = call.callee.name()?;
            match self.scope.lookup(callee) {
                Found::External(path) => match last(&path).as_str() {
                    "GenericForeignKey" | "GenericRelation" => {
                        extras.insert(
                            member.name.to_string(),
                            json!({ "code": self.scope.project.sources.text(value.span) }),
                        );
                        let message = format!(
                            "`{}` refers to any model: it is kept, but no foreign key stands \
                             behind it",
                            member.name
                        );
                        self.diagnostics.push(
                            Diagnostic::of(&codes::GENERIC_RELATION, message)
                                .at(Some(member.span), "generic relation"),
                        );
                        None
                    }
                    word @ ("ForeignKey"
                    | "OneToOneField"
                    | "ManyToManyField"
                    | "ParentalKey"
                    | "ParentalManyToManyField"
                    | "TreeForeignKey") => relation::read(self, member, call, word, None),
                    word if field::is_known(word) => {
                        field::read(self, member, call, word, Vec::new())
                    }
                    word => self.unknown(member, callee, word),
                },
                Found::Class(file, class) => {
                    let (word, defaults) = field::known_base(self.reader, file, class, 0)?;
                    match word.as_str() {
                        "ForeignKey" | "OneToOneField" | "ManyToManyField" => {
                            relation::read(self, member, call, &word, Some(defaults))
                        }
                        _ if field::is_known(&word) => {
                            field::read(self, member, call, &word, defaults)
                        }
                        _ => self.unknown(member, callee, &word),
                    }
                }
                Found::Unknown => {
                    let word = last(callee);
                    if field::is_known(&word) {
                        field::read(self, member, call, &word, Vec::new())
                    } else {
                        self.unknown(member, callee, &word)
                    }
                }
                Found::Value(_, _) | Found::Function(_, _) | Found::Module(_) => None,
            }
        }

        /// A call that may or may not make a column: named if it looks like a field, noted
        /// otherwise.
        fn unknown(&mut self, member: &Member, callee: &str, word: &str) -> Option<Attribute> {
            if NOT_COLUMNS.iter().any(|end| word.ends_with(end))
                || word.starts_with(char::is_lowercase)
            {
                return None;
            }
            // The framework's abstract class of relations makes no column by itself.
            let looks_like_a_field =
                (word.ends_with("Field") || word.ends_with("Key")) && word != "RelatedField";
            let severity = if looks_like_a_field { Severity::Error } else { Severity::Note };
            let what = if looks_like_a_field {
                "nobody here knows its column type"
            } else {
                "it was taken to make no column"
            };
            self.diagnostics.push(
                Diagnostic::of(
                    &codes::UNKNOWN_FIELD_CLASS,
                    format!(
                        "`{callee}` of `{}.{}` is declared in another package: {what}",
                        self.class.name, member.name
                    ),
                )
                .graded(severity)
                .at(Some(member.span), "this attribute")
                .with_help("name the folder of the installed package with --follow"),
            );
            let mut declared = FieldDeclaration {
                name: Some(member.name.to_string()),
                span: Some(member.span),
                ..Default::default()
            };
            declared.spelling = Spelling::word(word);
            looks_like_a_field.then_some(Attribute::Field(Box::new(declared)))
        }

        pub(super) fn value(&self, expr: &Expr) -> Expr {
            self.scope.value(expr)
        }
    }
}
