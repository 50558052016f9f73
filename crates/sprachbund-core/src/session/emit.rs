//! Emitting: the declarations of another framework, and the report of what differs.

use super::{Read, ReadError, Session, check_covered};
use crate::dialect::{Dialect, Feature, PrintedFile, Settings};
use crate::elide::printed;
use crate::fit::{Fitted, Grade, fit, suit};
use crate::quoting::sql::settled;
use crate::schema::facts::namesakes;

/// The script for what declarations cannot say.
const SCRIPT: &str = "after_tables.sql";

/// What is asked of [`Session::emit`].
#[derive(Clone, Debug)]
pub struct EmitRequest {
    pub target: &'static Dialect,
    /// The newest that was tried, if none is named.
    pub release: Option<String>,
    /// Naming strategy, for dialects that have several.
    pub naming: Option<String>,
    /// Style, for dialects that have several.
    pub style: Option<String>,
}

impl EmitRequest {
    /// The usual way of writing a dialect.
    pub fn to(target: &'static Dialect) -> Self {
        EmitRequest { target, release: None, naming: None, style: None }
    }
}

/// What [`Session::emit`] made.
pub struct Emission {
    /// Path and text of each file; nothing is written.
    pub files: Vec<PrintedFile>,
    /// What was fitted to the target, and the changes that this took.
    pub fitted: Fitted,
}

impl Emission {
    /// Whether anything that was declared is dropped or weakened.
    pub fn loses(&self) -> bool {
        let mut changes = self.fitted.changes.iter().chain(&self.fitted.refused);
        changes.any(|change| matches!(change.grade, Grade::Dropped | Grade::Weakened))
    }
}

/// Why a schema cannot be emitted as it is asked for.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
pub enum EmitError {
    #[error(transparent)]
    Server(#[from] ReadError),
    #[error("{framework} has no naming strategies, so `{name}` is none of them")]
    NoNamings { framework: &'static str, name: String },
    #[error(
        "`{name}` is no naming strategy of {framework}; known are {}; any other can be \
         described by [project.names] in sprachbund.toml",
        .known.join(", ")
    )]
    UnknownNaming { framework: &'static str, name: String, known: &'static [&'static str] },
    #[error("{framework} has no style `{style}`; {}", styles(.known))]
    UnknownStyle { framework: &'static str, style: String, known: &'static [&'static str] },
    #[error(
        "the table `{table}` stands in several named schemas ({}), and {framework} has one for \
         all; give one of them only (of a live database with --namespace)",
        .places.join(", ")
    )]
    Namesakes { table: String, places: Vec<String>, framework: &'static str },
}

fn styles(known: &[&str]) -> String {
    match known {
        [] => "it has one only".to_owned(),
        several => format!("it has {}", several.join(" and ")),
    }
}

/// Refuses a naming strategy that the dialect does not have.
///
/// # Errors
/// The name, and the strategies that are known.
pub fn check_naming(dialect: &Dialect, name: Option<&str>) -> Result<(), EmitError> {
    let (framework, known) = (dialect.framework, dialect.details.namings);
    match (name, known) {
        (None, _) => Ok(()),
        (Some(name), _) if known.contains(&name) => Ok(()),
        (Some(name), []) => Err(EmitError::NoNamings { framework, name: name.to_owned() }),
        (Some(name), _) => {
            Err(EmitError::UnknownNaming { framework, name: name.to_owned(), known })
        }
    }
}

impl Session<'_> {
    /// The files of another framework, with a report of each difference.
    ///
    /// # Errors
    /// When the target has no such naming, style or server, or would have two tables of one name.
    pub fn emit(&self, read: &Read, request: &EmitRequest) -> Result<Emission, EmitError> {
        let target = request.target;
        check_naming(target, request.naming.as_deref())?;
        check_covered(target, Some(target.database(read.server)))?;
        check_style(target, request.style.as_deref())?;
        one_table_each(read, target)?;
        let settings = settings_of(read, request);
        let fitted = fit(&read.schema, target, &settings);
        let conventions = (target.conventions)(&settings);
        let mut files = printed(target, &fitted.schema, &conventions);
        if !fitted.script.is_empty() {
            let head = format!(
                "-- What {} cannot declare. Run it after the framework has made its tables.\n\n",
                target.framework
            );
            let statements = settled(fitted.script.join("\n") + "\n", conventions.database);
            files.push(PrintedFile { path: SCRIPT.into(), text: head + &statements });
        }
        Ok(Emission { files, fitted })
    }
}

/// Refuses tables of one name in several named schemas where the target has only one.
fn one_table_each(read: &Read, target: &Dialect) -> Result<(), EmitError> {
    if (target.capabilities)(&settings_on(read, target)).has(Feature::Namespace) {
        return Ok(());
    }
    let Some(table) = namesakes(&read.schema).into_iter().min() else { return Ok(()) };
    let named = read.schema.entities.iter().filter(|entity| entity.table == *table);
    let place = |namespace: Option<&str>| namespace.unwrap_or("the usual one").to_owned();
    Err(EmitError::Namesakes {
        table: table.to_string(),
        places: named.map(|entity| place(entity.namespace.as_deref())).collect(),
        framework: target.framework,
    })
}

/// Refuses a style that the target does not have.
fn check_style(target: &Dialect, style: Option<&str>) -> Result<(), EmitError> {
    let (framework, known) = (target.framework, target.details.styles);
    match style.filter(|style| !known.contains(style)) {
        Some(style) => Err(EmitError::UnknownStyle { framework, style: style.to_owned(), known }),
        None => Ok(()),
    }
}

/// Settings of the target on the server that is meant: in the release of the one that was read, if
/// it is the same.
fn settings_on(read: &Read, target: &Dialect) -> Settings {
    let database = target.database(read.server);
    let server_release =
        read.settings.server_release.filter(|_| read.settings.database == Some(database));
    Settings { database: Some(database), server_release, ..Settings::default() }
}

/// Settings of what is written: those of what was read, where it is written in its own dialect.
fn settings_of(read: &Read, request: &EmitRequest) -> Settings {
    let target = request.target;
    let mut settings = match read.dialect.id == target.id {
        true => read.settings.clone(),
        false => settings_on(read, target),
    };
    settings.naming = request.naming.clone().or(settings.naming);
    settings.style = request.style.clone();
    settings.version = request.release.clone().or(settings.version);
    suit(&read.schema, target, &mut settings);
    settings
}
