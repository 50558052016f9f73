//! Reading: which dialect inputs are in, whether it covers the server that is meant, and the whole
//! way to a schema.

use super::Session;
use crate::diagnostic::Diagnostic;
use crate::dialect::{Dialect, Settings, nearest};
use crate::dialects::{DIALECTS, by_id};
use crate::reading::{self, Reading, dialects_of};
use crate::schema::{Database, Schema, json};
use crate::source::Sources;

/// What was read.
pub struct Read {
    pub schema: Schema,
    /// What there is to say of the inputs.
    pub diagnostics: Vec<Diagnostic>,
    pub sources: Sources,
    pub dialect: &'static Dialect,
    /// As they were given, with what the project's own files say.
    pub settings: Settings,
    /// The server that is meant, where one is named or was read.
    pub server: Option<Database>,
    /// The inputs are texts that somebody wrote, and may be fixed.
    pub written: bool,
}

/// Why inputs could not be read at all.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
pub enum ReadError {
    #[error("no declarations were found")]
    NoDialect,
    #[error("`{id}` is no dialect; known are {}{hint}", .known.join(", "))]
    UnknownDialect { id: String, known: Vec<&'static str>, hint: String },
    #[error(
        "the inputs hold declarations of several dialects: {}; choose one with --from",
        .0.join(", ")
    )]
    SeveralDialects(Vec<&'static str>),
    #[error("{server} is not covered for {dialect} yet; expected {}", .known.join(" or "))]
    NotCovered { server: &'static str, dialect: &'static str, known: Vec<&'static str> },
    /// A schema file; `line` is counted from 1.
    #[error("{}at {message}", .line.map_or(String::new(), |line| format!("line {line}: ")))]
    SchemaFile { line: Option<usize>, message: String },
}

/// The dialect of an id.
///
/// # Errors
/// When nobody ships it, with the nearest one.
pub fn dialect(id: &str) -> Result<&'static Dialect, ReadError> {
    by_id(id).ok_or_else(|| {
        let known: Vec<&str> = DIALECTS.iter().map(|dialect| dialect.id).collect();
        let hint = nearest(id, known.iter().copied())
            .map_or(String::new(), |id| format!("; did you mean `{id}`?"));
        ReadError::UnknownDialect { id: id.to_owned(), known, hint }
    })
}

/// The one dialect whose marks the inputs (path and text) hold.
///
/// # Errors
/// When there is none, or more than one.
pub fn dialect_of(files: &[(String, String)]) -> Result<&'static Dialect, ReadError> {
    match dialects_of(files).as_slice() {
        [only] => Ok(only),
        [] => Err(ReadError::NoDialect),
        several => {
            Err(ReadError::SeveralDialects(several.iter().map(|dialect| dialect.id).collect()))
        }
    }
}

/// Refuses a server of which nothing is known in a dialect.
///
/// # Errors
/// The server that is not covered.
pub fn check_covered(dialect: &Dialect, server: Option<Database>) -> Result<(), ReadError> {
    match server.filter(|server| !dialect.databases.contains(server)) {
        Some(unknown) => Err(ReadError::NotCovered {
            server: unknown.id(),
            dialect: dialect.id,
            known: dialect.databases.iter().map(|database| database.id()).collect(),
        }),
        None => Ok(()),
    }
}

impl Session<'_> {
    /// Reads inputs (path and text) in a dialect.
    ///
    /// # Errors
    /// When the dialect does not cover the server that is meant.
    pub fn read(
        &self,
        files: Vec<(String, String)>,
        dialect: &'static Dialect,
        settings: Settings,
    ) -> Result<Read, ReadError> {
        let server = settings.database;
        // Whoever keeps documents asks no server of tables for anything.
        check_covered(dialect, server.filter(|_| !dialect.keeps_documents()))?;
        Ok(self.reread(files, dialect, settings, false))
    }

    /// Reads a schema file.
    ///
    /// # Errors
    /// When it is none, with the place.
    pub fn read_schema(&self, text: &str, mut settings: Settings) -> Result<Read, ReadError> {
        let fault = |line, message| ReadError::SchemaFile { line, message };
        let schema = json::read(text).map_err(|error| fault(error.line, error.to_string()))?;
        let dialect = dialect(&schema.source.dialect)
            .map_err(|error| fault(None, format!("source.dialect: {error}")))?;
        settings.database = settings.database.or(Some(schema.source.database));
        let server = settings.database;
        let (diagnostics, sources) = (Vec::new(), Sources::default());
        Ok(Read { schema, diagnostics, sources, dialect, settings, server, written: false })
    }

    /// Reads inputs; with `keep`, what each of them is lowered to is kept for the next time.
    pub(super) fn reread(
        &self,
        files: Vec<(String, String)>,
        dialect: &'static Dialect,
        mut settings: Settings,
        keep: bool,
    ) -> Read {
        let server = settings.database;
        let kept = keep.then_some(&self.outlines);
        let Reading { schema, diagnostics, sources } =
            reading::read_keeping(files, dialect, &mut settings, self.provider, kept);
        Read { schema, diagnostics, sources, dialect, settings, server, written: true }
    }
}
