//! From texts to a schema: the whole way in, for one dialect.

use crate::diagnostic::{Diagnostic, Severity};
use crate::dialect::{DIALECTS, Dialect, Settings};
use crate::host::project::{Project, Wanted};
use crate::resolve::resolve;
use crate::schema::{Schema, Source};
use crate::source::{FileProvider, Sources};

/// What was read.
pub struct Reading {
    pub schema: Schema,
    pub diagnostics: Vec<Diagnostic>,
    pub sources: Sources,
}

/// Reads inputs (path and text) in a dialect. Settings that the project's own files make are put into `settings`.
pub fn read(inputs: Vec<(String, String)>, dialect: &Dialect, settings: &mut Settings, provider: &dyn FileProvider) -> Reading {
    let inputs = inputs.into_iter().filter(|(path, _)| has_extension(path, dialect)).collect();
    let mut project = Project::load(inputs, &Wanted::by(dialect), provider);
    (dialect.project_settings)(&project, settings);
    let (declarations, mut diagnostics) = (dialect.read)(&mut project, settings);
    let conventions = (dialect.conventions)(settings);
    let mut assumed = Vec::new();
    if settings.database.is_none() {
        assumed.push("no database is named: PostgreSQL".to_owned());
    }
    let source = Source {
        dialect: dialect.id.to_owned(),
        version: conventions.version.clone(),
        database: conventions.database,
        files: project.files().filter(|(file, _)| project.is_input(*file)).map(|(file, _)| project.path(file).to_owned()).collect(),
        assumed,
    };
    let sources = project.into_sources();
    let (schema, found) = resolve(declarations, &conventions, &sources, source);
    diagnostics.extend(found);
    if schema.entities.is_empty() && !diagnostics.iter().any(|diagnostic| diagnostic.severity == Severity::Error) {
        diagnostics.push(
            Diagnostic::new("nothing-declared", Severity::Error, format!("no {} declaration was found in the inputs", dialect.framework))
                .with_help("name the folder that holds the models, or the dialect with --from"),
        );
    }
    Reading { schema, diagnostics, sources }
}

/// Whether a file's name says that a dialect may be in it.
pub fn has_extension(path: &str, dialect: &Dialect) -> bool {
    path.rsplit_once('.').is_some_and(|(stem, extension)| dialect.extensions.contains(&extension) && !stem.ends_with(".d"))
}

/// The dialects whose marks the inputs hold.
pub fn recognise(inputs: &[(String, String)]) -> Vec<&'static Dialect> {
    let marked = |dialect: &&Dialect| {
        inputs.iter().any(|(path, text)| {
            has_extension(path, dialect)
                && dialect.marks.iter().any(|mark| memchr::memmem::find(text.as_bytes(), mark.as_bytes()).is_some())
        })
    };
    DIALECTS.iter().filter(marked).collect()
}
