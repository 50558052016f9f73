//! Linting: the rules over what was read, with what the project decides about them.

use super::{Read, Session};
use crate::compare::joined;
use crate::diagnostic::Diagnostic;
use crate::dialect::Dialect;
use crate::lint::exceptions::fits;
use crate::lint::{Beside, LintSettings, Linted, Linting, Target, lint};
use crate::schema::Schema;
use crate::source::{FileId, SourceFile, Sources};

/// What is asked of [`Session::lint`].
#[derive(Default)]
pub struct LintRequest<'r> {
    /// What the project decides about the rules.
    pub settings: LintSettings,
    /// The file that these are written in, to which the places of exceptions lead.
    pub settings_file: Option<SourceFile>,
    /// The dialect that the declarations are to be carried to, and its release.
    pub target: Option<(&'static Dialect, Option<String>)>,
    /// The tables that exist, or that a history makes.
    pub beside: Option<&'r Read>,
}

/// What [`Session::lint`] found.
pub struct Findings {
    /// Of the rules, by their places.
    pub found: Vec<Diagnostic>,
    /// What there is to say of the inputs and is no rule's: what could not be read or known.
    pub reading: Vec<Diagnostic>,
    /// Of all places: the declarations, then the tables beside them, then the settings.
    pub sources: Sources,
}

impl Session<'_> {
    /// What the rules find, without what the project or a comment at the place accepts.
    pub fn lint(&self, read: &Read, request: &LintRequest<'_>) -> Findings {
        let files = read.sources.files.len();
        let mut raised = read.diagnostics.clone();
        let mut sources = read.sources.clone();
        let beside = request.beside.map(|tables| {
            raised.extend(tables.diagnostics.iter().map(|one| one.clone().shifted(files)));
            sources = joined(std::mem::take(&mut sources), tables.sources.clone());
            Beside::new(
                tables.schema.clone(),
                read.dialect,
                tables.dialect,
                &tables.settings,
                files,
            )
        });
        let mut settings = request.settings.clone();
        if let Some(file) = &request.settings_file {
            let at = FileId(sources.files.len() as u32);
            sources.files.push(file.clone());
            for exception in &mut settings.exceptions {
                exception.place =
                    exception.place.map(|span| crate::source::Span { file: at, ..span });
            }
        }
        let target = request.target.clone();
        let target = target.map(|(dialect, release)| Target::new(dialect, release, &read.schema));
        let Linted { found, reading } = lint(&Linting {
            schema: &read.schema,
            conventions: &(read.dialect.conventions)(&read.settings),
            sources: &sources,
            raised: &raised,
            target: target.as_ref(),
            beside: beside.as_ref(),
            settings: &settings,
        });
        Findings { found, reading, sources }
    }
}

impl Findings {
    /// Keeps the findings about tables of these names, in which `*` stands for any text; all, if
    /// none is given. Rules look at all tables, since what refers to a table is part of it; so does
    /// a record of known findings, which is to be asked before.
    pub fn keep_only(&mut self, schema: &Schema, tables: &[String]) {
        self.found.retain(|one| is_wanted(one, schema, tables));
    }
}

fn is_wanted(one: &Diagnostic, schema: &Schema, tables: &[String]) -> bool {
    let Some(subject) = one.subject.as_ref().filter(|_| !tables.is_empty()) else { return true };
    let entity = schema.entity(&subject.entity);
    let table = entity.map_or(subject.entity.as_str(), |entity| &entity.table);
    tables.iter().any(|pattern| fits(pattern, table))
}
