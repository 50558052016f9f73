//! A project on the disk: which files and databases are read ([`inputs`]), what its settings say
//! ([`configuration`]), which release of a framework it has ([`releases`]), which findings are
//! known ([`known`]), and where emitted files go ([`delivery`]).
//!
//! [`Project`] puts these together for a [`Session`]; `examples/tour.rs` shows, lints, fixes and
//! emits with it in thirty lines. Nothing here prints: what there is to tell on the way goes to the
//! caller as [`News`].

#![warn(clippy::print_stdout, clippy::print_stderr)]

pub mod configuration;
pub mod delivery;
pub mod files;
pub mod inputs;
pub mod known;
mod releases;

use std::path::Path;

use sprachbund_catalog::CatalogError;
use sprachbund_core::session::{EmitError, LintRequest, Read, ReadError, Session};
use sprachbund_core::source::SourceFile;

pub use configuration::Configuration;
pub use inputs::{Disk, Input, Request, dialect_and_release, release_at};

/// Why something could not be done with a project; each text names the way out.
#[derive(Debug, thiserror::Error)]
pub enum ProjectError {
    /// An input, or a word about it, that means nothing.
    #[error("{0}")]
    Input(String),
    /// What the settings say cannot be meant.
    #[error("{0}")]
    Settings(String),
    /// A file that cannot be read or written.
    #[error("{0}")]
    Disk(String),
    #[error(transparent)]
    Read(#[from] ReadError),
    #[error(transparent)]
    Emit(#[from] EmitError),
    #[error(transparent)]
    Catalog(#[from] CatalogError),
}

/// What there is to tell while a project is read.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum News<'n> {
    /// Where settings were found that nobody named.
    Settings(&'n Path),
    /// Something else that the caller should know.
    Line(String),
    /// What a server is being asked for, and for how many seconds it has been waited for.
    Asking { server: &'n str, step: &'n str, seconds: u64 },
    /// The server has answered, or is out of reach.
    Answered,
}

/// A project as it was asked for.
pub struct Project<'n> {
    pub request: Request,
    pub configuration: Configuration,
    disk: Disk,
    news: &'n dyn Fn(News<'_>),
}

impl<'n> Project<'n> {
    /// Finds the settings of what is asked for; nothing else is read yet. `news` is told what there
    /// is to tell, then and later.
    ///
    /// # Errors
    /// When the settings cannot be read or cannot be meant.
    pub fn open(request: Request, news: &'n dyn Fn(News<'_>)) -> Result<Self, ProjectError> {
        let (configuration, found) = Configuration::load(request.config.as_deref())?;
        // A file of a folder above may switch rules off: nobody should have to guess that.
        if let Some(path) = &found {
            news(News::Settings(path));
        }
        let disk = Disk::new(configuration.largest_file(&request), &request.follow);
        Ok(Project { request, configuration, disk, news })
    }

    /// A session over the project's files.
    pub fn session(&self) -> Session<'_> {
        Session::new(&self.disk)
    }

    /// Reads all inputs; of their tables those that are wanted.
    ///
    /// # Errors
    /// When there is nothing that could be read.
    pub fn read(&self, session: &Session<'_>) -> Result<Read, ProjectError> {
        let mut read = self.read_whole(session)?;
        inputs::only(&mut read.schema, &self.request.tables);
        Ok(read)
    }

    /// Reads all inputs, with all of their tables.
    ///
    /// # Errors
    /// When there is nothing that could be read.
    pub fn read_whole(&self, session: &Session<'_>) -> Result<Read, ProjectError> {
        inputs::read(self, session)
    }

    /// What linting needs to know of the project.
    ///
    /// # Errors
    /// When the settings cannot be meant.
    pub fn lint_request(&self, read: &Read) -> Result<LintRequest<'_>, ProjectError> {
        let settings = self.configuration.lint_settings(read.schema.source.database)?;
        let file = self.configuration.file();
        let settings_file = file
            .filter(|_| !settings.exceptions.is_empty())
            .map(|(path, text)| SourceFile::new(path.display().to_string(), text));
        Ok(LintRequest { settings, settings_file, ..LintRequest::default() })
    }

    fn tell(&self, line: String) {
        (self.news)(News::Line(line));
    }
}
