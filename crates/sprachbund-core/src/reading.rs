//! From texts to a schema: the whole way in, for one dialect.

use crate::codes;
use crate::declaration::Declarations;
use crate::diagnostic::{Diagnostic, Severity};
use crate::dialect::grammar::ColumnPlace;
use crate::dialect::{Conventions, Dialect, Medium, Settings};
use crate::dialects::{DIALECTS, sql};
use crate::host::project::{Outlines, Project};
use crate::recognise::recognise;
use crate::resolve::overlay::overlay;
use crate::resolve::{history, resolve};
use crate::schema::{Schema, Source};
use crate::source::{FileProvider, SourceFile, Sources, Span};
use crate::subjects;

/// What was read.
pub struct Reading {
    pub schema: Schema,
    pub diagnostics: Vec<Diagnostic>,
    pub sources: Sources,
}

/// Reads inputs (path and text) in a dialect. Settings that the project's own files make are put
/// into `settings`.
pub fn read(
    inputs: Vec<(String, String)>,
    dialect: &Dialect,
    settings: &mut Settings,
    provider: &dyn FileProvider,
) -> Reading {
    read_keeping(inputs, dialect, settings, provider, None)
}

/// The same; what files are lowered to is taken from those that are kept, or kept there.
pub(crate) fn read_keeping(
    inputs: Vec<(String, String)>,
    dialect: &Dialect,
    settings: &mut Settings,
    provider: &dyn FileProvider,
    kept: Option<&Outlines>,
) -> Reading {
    let inputs: Vec<(String, String)> =
        inputs.into_iter().filter(|(path, _)| has_extension(path, dialect)).collect();
    let read = match dialect.medium {
        Medium::Classes { read, .. } => read,
        Medium::Statements { .. } => return read_scripts(inputs, dialect, settings),
    };
    let mut project = Project::load_keeping(inputs, &dialect.wanted(), provider, kept);
    (dialect.details.project_settings)(&project, settings);
    let (declarations, mut diagnostics) = read(&mut project, settings);
    diagnostics.extend(project.budget.diagnostics());
    let conventions = (dialect.conventions)(settings);
    let mut assumed = Vec::new();
    if settings.database.is_none() {
        assumed.push("no database is named: PostgreSQL".to_owned());
    }
    let source = Source {
        dialect: dialect.id.to_owned(),
        version: conventions.version.clone(),
        database: conventions.database,
        files: project
            .files()
            .filter(|(file, _)| project.is_input(*file))
            .map(|(file, _)| project.path(file).to_owned())
            .collect(),
        assumed,
    };
    let statements: Vec<Vec<Span>> = project
        .outlines
        .iter_mut()
        .map(|outline| std::mem::take(&mut outline.statements))
        .collect();
    let sources = project.into_sources();
    let (schema, found) = meaning(declarations, &conventions, &sources, source);
    diagnostics.extend(found);
    subjects::assign(&mut diagnostics, &schema, &statements, &sources);
    diagnostics.extend(nothing_declared(&schema, &diagnostics, dialect));
    Reading { schema, diagnostics, sources }
}

/// The schema that declarations mean, by classes and by steps: each knows some of the tables, or
/// steps make what classes are laid over.
pub fn meaning(
    mut declarations: Declarations,
    conventions: &Conventions,
    sources: &Sources,
    source: Source,
) -> (Schema, Vec<Diagnostic>) {
    let mut steps = std::mem::take(&mut declarations.history);
    let enums = if steps.steps.is_empty() { Vec::new() } else { declarations.enums.clone() };
    match conventions.grammar.columns {
        ColumnPlace::Class => {
            let (schema, mut diagnostics) = resolve(declarations, conventions, sources, source);
            let (schema, found) = history::replay(&steps, &enums, conventions, sources, schema);
            diagnostics.extend(found);
            (schema, diagnostics)
        }
        ColumnPlace::History => {
            let (made, mut diagnostics) = match steps.made.take() {
                Some(made) => (Schema { source, ..*made }, Vec::new()),
                None => history::replay(&steps, &enums, conventions, sources, Schema::new(source)),
            };
            let (schema, found) = overlay(declarations, made, conventions, sources);
            diagnostics.extend(found);
            (schema, diagnostics)
        }
    }
}

/// Reads scripts (name and text) in their order, whatever they are called.
pub fn read_scripts(
    inputs: Vec<(String, String)>,
    dialect: &Dialect,
    settings: &mut Settings,
) -> Reading {
    if settings.database.is_none() {
        settings.database = inputs.iter().find_map(|(_, text)| sql::database_of(text));
    }
    if settings.server_release.is_none() {
        settings.server_release = inputs.iter().find_map(|(_, text)| sql::release_of(text));
    }
    let sources = Sources {
        files: inputs.into_iter().map(|(path, text)| SourceFile::new(path, text)).collect(),
    };
    let (mut schema, mut diagnostics) = match dialect.medium {
        Medium::Statements { read, .. } => read(&sources, settings),
        Medium::Classes { .. } => (Schema::new(Source::default()), Vec::new()),
    };
    schema.source.files = sources.files.iter().map(|file| file.path.to_string()).collect();
    if settings.database.is_none() {
        schema
            .source
            .assumed
            .push("no database is named, and the scripts do not show one: PostgreSQL".to_owned());
    }
    recognise(
        &mut schema,
        &settings.recognitions,
        settings.default_module.as_deref().unwrap_or("main"),
    );
    diagnostics.extend(nothing_declared(&schema, &diagnostics, dialect));
    Reading { schema, diagnostics, sources }
}

fn nothing_declared(
    schema: &Schema,
    diagnostics: &[Diagnostic],
    dialect: &Dialect,
) -> Option<Diagnostic> {
    let silent = schema.entities.is_empty()
        && !diagnostics.iter().any(|diagnostic| diagnostic.severity == Severity::Error);
    silent.then(|| {
        let (message, help) = match dialect.medium {
            Medium::Classes { .. } => (
                format!("no {} declaration was found in the inputs", dialect.framework),
                "name the folder that holds the models, or the dialect with --from",
            ),
            Medium::Statements { .. } => (
                "no table was found in the inputs".to_owned(),
                "name the scripts that make the tables, or another named schema of the database \
                 with --namespace",
            ),
        };
        Diagnostic::of(&codes::NOTHING_DECLARED, message).with_help(help)
    })
}

/// Whether a file's name says that a dialect may be in it.
pub fn has_extension(path: &str, dialect: &Dialect) -> bool {
    path.rsplit_once('.').is_some_and(|(stem, extension)| {
        dialect.extensions.contains(&extension) && !stem.ends_with(".d")
    })
}

/// The dialects whose marks the inputs hold.
pub fn dialects_of(inputs: &[(String, String)]) -> Vec<&'static Dialect> {
    let marked = |dialect: &&Dialect| {
        inputs.iter().any(|(path, text)| {
            has_extension(path, dialect)
                && dialect
                    .marks
                    .iter()
                    .any(|mark| memchr::memmem::find(text.as_bytes(), mark.as_bytes()).is_some())
        })
    };
    let found: Vec<&Dialect> = DIALECTS.iter().filter(marked).collect();
    // Scripts beside classes belong to them.
    let declared: Vec<&Dialect> = found
        .iter()
        .copied()
        .filter(|dialect| matches!(dialect.medium, Medium::Classes { .. }))
        .collect();
    let holds = |sign: &&str| {
        inputs
            .iter()
            .any(|(_, text)| memchr::memmem::find(text.as_bytes(), sign.as_bytes()).is_some())
    };
    let signed: Vec<&Dialect> =
        declared.iter().copied().filter(|dialect| dialect.signs.iter().any(holds)).collect();
    match (declared.as_slice(), signed.is_empty()) {
        ([], _) => found,
        ([_, _, ..], false) => signed,
        _ => declared,
    }
}
