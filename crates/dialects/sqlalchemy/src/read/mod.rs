//! Mapped classes and table objects to declarations. [`read`] finds them; one file each reads
//! classes, columns, types, annotations, tables, constraints and relationships; [`connect`] gives
//! relationships their two sides at the end.

mod annotation;
mod class;
mod column;
mod connect;
mod constraint;
mod expression;
mod known;
mod relationship;
mod revision;
mod spelling;
mod table;

pub(crate) use connect::DELETE;

use std::collections::HashMap;

use connect::Draft;
use known::{Kind, KnownProject};

use crate::codes;
use crate::declaration::{Declarations, Form};
use crate::diagnostic::Diagnostic;
use crate::dialect::Settings;
use crate::host::evaluate::Scope;
use crate::host::outline::{Call, Class, Expr};
use crate::host::project::{Found, Project};
use crate::schema::{EnumType, Origin};
use crate::source::{FileId, Span};

/// Reads every mapped class and table of the project.
pub(super) fn read(project: &mut Project, settings: &Settings) -> (Declarations, Vec<Diagnostic>) {
    project.database = settings.database();
    let known = KnownProject::of(project, settings);
    let parts = project.read_each(
        |project, file| Reader { project, known: &known }.file(file),
        |file, class| known.is_mapped(file, class),
    );
    let mut declarations = Declarations::default();
    let mut diagnostics = Vec::new();
    let mut drafts = Vec::new();
    for part in parts {
        drafts.extend(part.drafts);
        declarations.enums.extend(part.enums);
        diagnostics.extend(part.diagnostics);
    }
    // Revision scripts tell the tables again, step by step: they count where nothing else does.
    if !drafts.iter().any(|draft: &Draft| draft.model.form != Form::External) {
        let (history, told) = revision::history(&Reader { project, known: &known });
        declarations.history = history;
        declarations.enums.extend(told.enums);
        diagnostics.extend(told.diagnostics);
    }
    once_each(&mut declarations.enums, &mut diagnostics);
    let unread = known.unread.iter().map(|(name, span)| {
        let message = format!("`{name}` of the metadata was not read: it is left out");
        Diagnostic::of(&codes::UNREAD_OPTION, message)
            .at(Some(*span), "has an option that is not known")
    });
    diagnostics.extend(unread);
    if let Some(schema) = &known.schema {
        connect::in_schema(&mut drafts, schema);
    }
    declarations.models = connect::connect(drafts, &mut diagnostics);
    (declarations, diagnostics)
}

/// An enumeration is declared once, however many columns use it; that two of them store it
/// differently is said.
fn once_each(enums: &mut Vec<EnumType>, diagnostics: &mut Vec<Diagnostic>) {
    let mut known: HashMap<String, EnumType> = HashMap::new();
    enums.retain(|enumeration| match known.get(&enumeration.name) {
        None => known.insert(enumeration.name.clone(), enumeration.clone()).is_none(),
        Some(first) => {
            if first.members != enumeration.members {
                let message = format!(
                    "columns of `{}` store different values: some the names of its members, \
                     some their values",
                    enumeration.name
                );
                diagnostics.push(
                    Diagnostic::of(&codes::ENUMERATION_STORED_TWICE, message)
                        .at(enumeration.origin.span(), "this enumeration")
                        .because("it is read as the first column stores it")
                        .with_help("store it in one way"),
                );
            }
            false
        }
    });
}

/// What one file gives.
#[derive(Default)]
pub(super) struct FilePart {
    drafts: Vec<Draft>,
    enums: Vec<EnumType>,
    diagnostics: Vec<Diagnostic>,
}

/// Reads single files.
pub(super) struct Reader<'p> {
    project: &'p Project,
    known: &'p KnownProject,
}

impl<'p> Reader<'p> {
    fn id(&self, file: FileId, name: &str) -> String {
        format!("{}.{name}", self.module(file))
    }

    fn module(&self, file: FileId) -> &str {
        &self.known.modules[file.0 as usize]
    }

    fn scope(&self, file: FileId, class: Option<&'p Class>) -> Scope<'p> {
        Scope { project: self.project, file, class }
    }

    fn file(&self, file: FileId) -> FilePart {
        let mut part = FilePart::default();
        let outline = &self.project.outlines[file.0 as usize];
        for class in &outline.classes {
            match self.known.kind(file, class) {
                Kind::Other => {}
                kind => class::read(self, file, class, kind, &mut part),
            }
        }
        for assignment in &outline.assignments {
            table::read(self, file, &assignment.name, &assignment.value, &mut part);
        }
        for call in &outline.calls {
            table::statement(self, file, call, &mut part);
        }
        if self.project.is_input(file) {
            part.diagnostics.extend(outline.syntax_errors("Python"));
        } else {
            part.diagnostics.clear();
            let own = |draft: &&mut Draft| matches!(draft.model.form, Form::Concrete | Form::Table);
            part.drafts.iter_mut().filter(own).for_each(|draft| draft.model.form = Form::External);
        }
        part
    }

    fn origin(&self, span: Span) -> Origin {
        Origin::declared(self.project.sources.file(span.file), span)
    }
}

/// What follows the last dot.
fn last(path: &str) -> &str {
    path.rsplit('.').next().unwrap_or(path)
}

/// The last name of what a call calls, whatever it is called in this file.
fn word(scope: &Scope<'_>, call: &Call) -> String {
    match &call.callee.kind {
        crate::host::outline::ExprKind::Operation { operator, .. } => {
            operator.trim_start_matches('.').to_owned()
        }
        _ => name_word(scope, call.callee_name()),
    }
}

/// The last name behind a name of this file.
fn name_word(scope: &Scope<'_>, name: &str) -> String {
    match scope.lookup(name) {
        Found::External(path) => last(&path).to_owned(),
        _ => last(name).to_owned(),
    }
}

/// The value that a call gets where no name is used.
fn is_call_of(scope: &Scope<'_>, expr: &Expr, names: &[&str]) -> bool {
    expr.call().is_some_and(|call| names.contains(&word(scope, call).as_str()))
}
