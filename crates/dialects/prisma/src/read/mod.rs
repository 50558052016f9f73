//! Schema files to declarations. [`known`] looks over the whole project first: what names stand
//! for, and which two fields are the sides of one relation. Then one file each reads fields,
//! values, relations and what a block says as a whole.

mod block;
mod enumeration;
mod field;
mod known;
mod relation;
mod value;

use crate::codes;
use crate::declaration::{Attribute, Declarations, Form, Model};
use crate::diagnostic::Diagnostic;
use crate::dialect::Settings;
use crate::host::arguments::Arguments;
use crate::host::evaluate::Scope;
use crate::host::outline::{Call, Class, Expr};
use crate::host::project::Project;
use crate::schema::Database;
use crate::source::{FileId, Span};

pub(super) use block::is_identified;
use known::{Block, KnownProject};
pub(super) use relation::ACTIONS;

/// Providers of a datasource that are read, and the server that each means.
const PROVIDERS: &[(&str, Database)] = &[
    ("postgresql", Database::PostgreSql),
    ("postgres", Database::PostgreSql),
    ("mysql", Database::MySql),
    ("sqlite", Database::Sqlite),
];

/// Reads every block of the project.
pub(super) fn read(project: &mut Project, settings: &Settings) -> (Declarations, Vec<Diagnostic>) {
    project.database = settings.database();
    let known = KnownProject::of(project, settings);
    let parts = project
        .read_each(|project, file| Reader { project, file, known: &known }.file(), |_, _| true);
    let mut declarations = Declarations { enums: known.enums, ..Declarations::default() };
    let mut diagnostics = known.diagnostics;
    for (models, found) in parts {
        declarations.models.extend(models);
        diagnostics.extend(found);
    }
    (declarations, diagnostics)
}

/// What the datasource says: the server, and who keeps references.
pub(super) fn settings(project: &Project, settings: &mut Settings) {
    let sources = project
        .files()
        .flat_map(|(_, outline)| &outline.classes)
        .filter(|class| keyword(class) == "datasource");
    for class in sources {
        let text = |name: &str| {
            class.member(name).and_then(|member| member.value.as_ref()).and_then(Expr::text)
        };
        let server = text("provider")
            .and_then(|provider| PROVIDERS.iter().find(|(known, _)| *known == provider));
        settings.database = settings.database.or(server.map(|(_, database)| *database));
        let by_client = text("relationMode") == Some("prisma");
        settings.references_enforced = settings.references_enforced.or(by_client.then_some(false));
    }
}

/// The word before a block's name.
fn keyword(class: &Class) -> &str {
    class.bases.first().and_then(Expr::name).unwrap_or_default()
}

/// The name of an attribute, and its arguments if it has any.
fn parts(attribute: &Expr) -> (&str, Option<&Call>) {
    match attribute.call() {
        Some(call) => (call.callee_name(), Some(call)),
        None => (attribute.name().unwrap_or_default(), None),
    }
}

fn unread(message: String, at: Span) -> Diagnostic {
    Diagnostic::of(&codes::UNREAD_OPTION, message).at(Some(at), "is not known here")
}

/// The name in the database, if an attribute gives one.
fn mapped(attributes: &[Expr]) -> Option<&str> {
    let (_, call) = attributes.iter().map(parts).find(|(name, _)| *name == "map")?;
    call?.argument("name").or(call?.arguments.first())?.text()
}

/// Reads one file.
struct Reader<'p> {
    project: &'p Project,
    file: FileId,
    known: &'p KnownProject,
}

impl<'p> Reader<'p> {
    fn file(&self) -> (Vec<Model>, Vec<Diagnostic>) {
        let outline = &self.project.outlines[self.file.0 as usize];
        let mut found: Vec<Diagnostic> = outline.syntax_errors("Prisma schema language").collect();
        let blocks =
            outline.classes.iter().filter(|class| matches!(keyword(class), "model" | "view"));
        let models = blocks.map(|class| self.model(class, &mut found)).collect();
        let enums = outline.classes.iter().filter(|class| keyword(class) == "enum");
        enums.for_each(|class| self.unread_of_enumeration(class, &mut found));
        (models, found)
    }

    /// The arguments of an attribute, unnamed ones under the names of their places.
    fn arguments(&self, call: Option<&Call>, places: &[&str]) -> Arguments<'p> {
        let scope = Scope { project: self.project, file: self.file, class: None };
        match call {
            Some(call) => Arguments::of_call(scope, &call.arguments, places, &call.named),
            None => Arguments::of_call(scope, &[], places, &[]),
        }
    }

    fn model(&self, class: &Class, found: &mut Vec<Diagnostic>) -> Model {
        let mut model = Model {
            id: self.known.id(&class.name),
            name: class.name.to_string(),
            module: self.known.modules[self.file.0 as usize].clone(),
            form: if keyword(class) == "view" { Form::View } else { Form::Concrete },
            span: Some(class.span),
            ..Model::default()
        };
        if let Some(text) = &class.documentation {
            model.extras.insert("documentation".into(), text.as_str().into());
        }
        let (mut relations, mut joined, mut inverses) = (Vec::new(), Vec::new(), Vec::new());
        for member in &class.members {
            let target = self.known.block(member);
            let read = match target {
                Some((name, Block::Model)) => self.relation(class, member, name, found),
                Some((_, Block::Composite)) => {
                    found.push(
                        Diagnostic::of(
                            &codes::UNREAD_FIELD,
                            format!("`{}.{}` is a part of a document", class.name, member.name),
                        )
                        .at(Some(member.span), "left out")
                        .because("only a database of documents holds such a field"),
                    );
                    None
                }
                Some((_, Block::Enum)) | None => {
                    self.field(&mut model, member, found).map(Box::new).map(Attribute::Field)
                }
            };
            match read {
                Some(Attribute::Relation(relation)) if relation.join_columns.is_empty() => {
                    joined.push(Attribute::Relation(relation))
                }
                Some(relation @ Attribute::Relation(_)) => relations.push(relation),
                Some(inverse @ Attribute::Inverse(_)) => inverses.push(inverse),
                Some(field) => model.attributes.push(field),
                None => {}
            }
        }
        // Relations stand after the columns that they use.
        model.attributes.extend(relations.into_iter().chain(joined).chain(inverses));
        for attribute in &class.decorators {
            self.block_attribute(&mut model, attribute, found);
        }
        block::uniqueness_of_keys(&mut model);
        self.keyless(&mut model);
        model
    }
}
