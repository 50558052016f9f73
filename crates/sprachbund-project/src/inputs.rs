//! Inputs to a schema: walking folders, reading files and databases, recognising dialects.

use std::collections::{HashMap, HashSet};
use std::convert::Infallible;
use std::fmt;
use std::path::{Path, PathBuf};
use std::str::FromStr;
use std::sync::Mutex;

use ignore::WalkBuilder;
use sprachbund_catalog::AddressText;
use sprachbund_core::codes;
use sprachbund_core::diagnostic::{Code, Diagnostic};
use sprachbund_core::dialect::release::{counted, is_release};
use sprachbund_core::dialect::{Dialect, Settings};
use sprachbund_core::dialects::DIALECTS;
use sprachbund_core::dialects::sql::sieve;
use sprachbund_core::host::sql::SQL;
use sprachbund_core::lint::exceptions::fits;
use sprachbund_core::reading::has_extension;
use sprachbund_core::schema::{Database, Schema};
use sprachbund_core::session::{Read, ReadError, Session, check_naming, dialect, dialect_of};
use sprachbund_core::source::FileProvider;

use crate::files::{self, Unreadable};
use crate::{News, Project, ProjectError, releases};

/// Folders that hold no declarations of the project itself.
const SKIPPED_FOLDERS: &[&str] = &[
    "node_modules",
    "migrations",
    "__pycache__",
    "venv",
    "dist",
    "build",
    "target",
    "site-packages",
];

/// A script is a whole database in one file: so much larger than a file of declarations may it be.
const SCRIPTS_LARGER: u64 = 64;

/// One input as typed. A password in it is not printed.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Input {
    /// `-`
    Piped,
    Database(AddressText),
    Path(String),
}

impl FromStr for Input {
    type Err = Infallible;

    fn from_str(typed: &str) -> Result<Self, Infallible> {
        Ok(match (typed, AddressText::of(typed)) {
            ("-", _) => Input::Piped,
            (_, Some(address)) => Input::Database(address),
            (path, None) => Input::Path(path.to_owned()),
        })
    }
}

impl fmt::Display for Input {
    fn fmt(&self, formatter: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Input::Piped => formatter.write_str("-"),
            Input::Database(address) => address.fmt(formatter),
            Input::Path(path) => path.fmt(formatter),
        }
    }
}

/// What is to be read, and how; what is not said is found in the settings or in the inputs.
#[derive(Clone, Debug, Default)]
pub struct Request {
    pub inputs: Vec<Input>,
    /// Dialect of the inputs, `dialect@release` where the project does not say which.
    pub from: Option<String>,
    /// Server that types are meant for, `server@release` where its release matters.
    pub database: Option<String>,
    /// Naming strategy of the inputs, for dialects that have several.
    pub naming: Option<String>,
    /// Folders of installed packages whose classes the inputs extend.
    pub follow: Vec<PathBuf>,
    /// Named schemas of a database that are read.
    pub namespaces: Vec<String>,
    /// Names of the tables that are wanted, in which `*` stands for any text; none for all.
    pub tables: Vec<String>,
    /// The file with the settings.
    pub config: Option<PathBuf>,
    /// Largest file of declarations that is read, in bytes; a script may be 64 times as large.
    pub largest_file: Option<u64>,
}

impl Request {
    /// Files and folders, with nothing said of them.
    pub fn of<I: AsRef<str>>(inputs: impl IntoIterator<Item = I>) -> Self {
        let inputs = inputs.into_iter().map(|typed| match Input::from_str(typed.as_ref()) {
            Ok(input) => input,
            Err(never) => match never {},
        });
        Request { inputs: inputs.collect(), ..Request::default() }
    }
}

/// Keeps the tables of these names; all, if none is given.
pub(crate) fn only(schema: &mut Schema, tables: &[String]) {
    if tables.is_empty() {
        return;
    }
    schema.entities.retain(|entity| tables.iter().any(|pattern| fits(pattern, &entity.table)));
    let kept: HashSet<String> = schema.entities.iter().map(|entity| entity.id.clone()).collect();
    for entity in &mut schema.entities {
        entity.relations.retain(|relation| kept.contains(&relation.target));
    }
}

/// Reads all inputs of a project.
pub(crate) fn read(project: &Project<'_>, session: &Session<'_>) -> Result<Read, ProjectError> {
    let request = &project.request;
    let settings = project.configuration.settings(request)?;
    match request.inputs.as_slice() {
        [Input::Database(address)] => return read_database(address, project, settings),
        [Input::Path(path)] => {
            if let Some(text) = schema_text(path, project.configuration.largest_file(request))? {
                let read = session.read_schema(&text, settings);
                return read.map_err(|error| in_schema_file(path, error));
            }
        }
        _ => {}
    }
    if let Some(address) = request.inputs.iter().find(|input| matches!(input, Input::Database(_))) {
        return Err(ProjectError::Input(format!(
            "`{address}` is a database: give it alone; two databases are set side by side with \
             `compare`"
        )));
    }
    read_files(project, session, settings)
}

/// The fault with its place, as `file:line`.
fn in_schema_file(path: &str, error: ReadError) -> ProjectError {
    match error {
        ReadError::SchemaFile { line: Some(line), message } => {
            ProjectError::Input(format!("{path}:{line}: at {message}"))
        }
        error => ProjectError::Input(format!("{path}: {error}")),
    }
}

fn read_files(
    project: &Project<'_>,
    session: &Session<'_>,
    mut settings: Settings,
) -> Result<Read, ProjectError> {
    let request = &project.request;
    let named = request.from.as_deref().map(|text| dialect_and_release(text, project));
    let (named, release) = match named.transpose()? {
        Some((dialect, release)) => (Some(dialect), release),
        None => (None, None),
    };
    let mut collector = Collector {
        largest: project.configuration.largest_file(request),
        named,
        database: settings.database,
        files: Vec::new(),
        diagnostics: Vec::new(),
    };
    for input in &request.inputs {
        collector.input(input)?;
    }
    let Collector { files, diagnostics, .. } = collector;
    let dialect = match named.map_or_else(|| dialect_of(&files), Ok) {
        Err(ReadError::NoDialect) => return Err(nothing(project, &diagnostics)),
        dialect => dialect?,
    };
    check_naming(dialect, request.naming.as_deref())?;
    if dialect.details.namings.is_empty()
        && (settings.naming.is_some() || !settings.name_patterns.is_empty())
    {
        project.tell(format!(
            "{} has no naming strategies: what sprachbund.toml says of them is not used",
            dialect.framework
        ));
    } else {
        check_naming(dialect, settings.naming.as_deref())?;
    }
    if settings.default_module.is_none() {
        settings.default_module = folder_name(&request.inputs);
    }
    let (release, assumed) = release_of(&request.inputs, dialect, release);
    settings.version = release;
    let mut read = session.read(files, dialect, settings)?;
    read.schema.source.assumed.extend(assumed);
    read.diagnostics.splice(0..0, diagnostics);
    Ok(read)
}

/// A dialect, and the release that is named behind an `@`: `django@4.2`. One that was not tried is
/// told.
///
/// # Errors
/// When the dialect is not shipped, or the release is none.
pub fn dialect_and_release(
    text: &str,
    project: &Project<'_>,
) -> Result<(&'static Dialect, Option<String>), ProjectError> {
    let Some((id, release)) = text.split_once('@') else { return Ok((dialect(text)?, None)) };
    let dialect = dialect(id)?;
    if dialect.details.packages.is_empty() {
        return Err(ProjectError::Input(format!(
            "{} has no releases: write `{id}`",
            dialect.framework
        )));
    }
    if !is_release(release) {
        return Err(ProjectError::Input(format!(
            "`{release}` is no release of {}: write numbers, as in `{id}@{}`",
            dialect.framework, dialect.versions[0]
        )));
    }
    let release = counted(dialect, release);
    if let Some(words) = untried(dialect, &release) {
        project.tell(words);
    }
    Ok((dialect, Some(release)))
}

/// The release of what is written into a folder: that of the project which it belongs to, and the
/// file that names it.
pub fn release_at(folder: &Path, dialect: &Dialect) -> Option<(String, PathBuf)> {
    // It may not be there yet.
    let there = std::path::absolute(folder).ok()?;
    let there = there.ancestors().find(|folder| folder.is_dir())?;
    let releases::ProjectRelease { release, file } = releases::of_project(there, dialect)?;
    Some((counted(dialect, &release), file))
}

/// What is to be said of a release that was not tried.
fn untried(dialect: &Dialect, release: &str) -> Option<String> {
    let (framework, tried) = (dialect.framework, dialect.versions.join(", "));
    (!dialect.versions.contains(&release))
        .then(|| format!("{framework} {release} was not tried; tried: {tried}"))
}

/// The release of the project that is read: as named, else as its own files say; what had to be
/// assumed, in words.
fn release_of(
    inputs: &[Input],
    dialect: &Dialect,
    named: Option<String>,
) -> (Option<String>, Option<String>) {
    if named.is_some() || dialect.details.packages.is_empty() {
        return (named, None);
    }
    let folder = inputs.iter().find_map(|input| match input {
        Input::Path(path) if path != "-" => Some(PathBuf::from(path)),
        _ => None,
    });
    let folder = folder.map_or_else(
        || PathBuf::from("."),
        |path| if path.is_dir() { path } else { path.join("..") },
    );
    match releases::of_project(&folder, dialect) {
        Some(releases::ProjectRelease { release, file }) => {
            let release = counted(dialect, &release);
            let untried =
                untried(dialect, &release).map(|words| format!("{words} ({})", file.display()));
            (Some(release), untried)
        }
        None => (
            None,
            Some(format!(
                "no lock file or manifest names a release: {} {}",
                dialect.framework, dialect.versions[0]
            )),
        ),
    }
}

/// The text of a schema file, if the input is one. It may be as large as a script.
fn schema_text(input: &str, largest: u64) -> Result<Option<String>, ProjectError> {
    if !(input.ends_with(".json") && Path::new(input).is_file()) {
        return Ok(None);
    }
    let failed = |why: String| {
        ProjectError::Input(format!(
            "{input}: {why}; raise the limit with --largest-file, or check the file"
        ))
    };
    let bytes = files::read(Path::new(input), largest.saturating_mul(SCRIPTS_LARGER))
        .map_err(|error| failed(error.to_string()))?;
    String::from_utf8(bytes).map(Some).map_err(|error| failed(error.to_string()))
}

/// What went wrong with the files is told, since no schema will tell it.
fn nothing(project: &Project<'_>, diagnostics: &[Diagnostic]) -> ProjectError {
    for diagnostic in diagnostics {
        let path = diagnostic.path.as_deref().unwrap_or_default();
        project.tell(format!("{}: {path}: {}", diagnostic.severity.word(), diagnostic.message));
    }
    let inputs: Vec<String> = project.request.inputs.iter().map(Input::to_string).collect();
    ProjectError::Input(format!(
        "no declarations were found in {}; name the folder that holds the models, or the \
         dialect with --from",
        inputs.join(", ")
    ))
}

/// The name of the folder that the first input is or lies in; files beside it belong to that
/// module. A folder of what was built, which would not be looked into when it lies in another,
/// lends no name.
fn folder_name(inputs: &[Input]) -> Option<String> {
    let Input::Path(path) = inputs.first()? else { return None };
    let path = std::fs::canonicalize(path).ok()?;
    let folder = if path.is_dir() { path.as_path() } else { path.parent()? };
    let mut names =
        folder.ancestors().filter_map(Path::file_name).map(|name| name.to_string_lossy());
    names.find(|name| !SKIPPED_FOLDERS.contains(&&**name)).map(|name| name.into_owned())
}

fn display(path: &Path) -> String {
    path.to_string_lossy().replace('\\', "/").trim_end_matches('/').to_owned()
}

struct Collector {
    largest: u64,
    named: Option<&'static Dialect>,
    /// The server that scripts are for, where it is named.
    database: Option<Database>,
    files: Vec<(String, String)>,
    diagnostics: Vec<Diagnostic>,
}

impl Collector {
    fn input(&mut self, input: &Input) -> Result<(), ProjectError> {
        let Input::Path(path) = input else {
            let dialect = self.named.ok_or_else(|| {
                ProjectError::Input("standard input needs its dialect: --from DIALECT".into())
            })?;
            let bytes = files::bounded(
                std::io::stdin().lock(),
                self.largest.saturating_mul(SCRIPTS_LARGER),
            )
            .map_err(|error| {
                ProjectError::Input(format!(
                    "standard input: {error}; raise the limit with --largest-file"
                ))
            })?;
            let name = format!("standard-input.{}", dialect.extensions[0]);
            self.text(&name, bytes);
            return Ok(());
        };
        let path = Path::new(path);
        if path.is_dir() {
            self.folder(path);
        } else if path.exists() || path.is_symlink() {
            self.file(path);
        } else {
            return Err(ProjectError::Input(format!("there is no file or folder `{input}`")));
        }
        Ok(())
    }

    fn folder(&mut self, folder: &Path) {
        let skip = |entry: &ignore::DirEntry| {
            let name = entry.file_name().to_string_lossy();
            entry.depth() == 0
                || !(entry.path().is_dir() && SKIPPED_FOLDERS.contains(&name.as_ref()))
        };
        let walk = WalkBuilder::new(folder)
            .parents(false)
            .follow_links(true)
            .sort_by_file_path(Path::cmp)
            .filter_entry(skip)
            .build();
        for entry in walk {
            match entry {
                Ok(entry) if entry.path().is_dir() => {}
                Ok(entry) => self.file_of_folder(entry.path()),
                Err(error) => self.complain(
                    &codes::UNREADABLE_ENTRY,
                    &display(folder),
                    format!("{error}"),
                    "it was left out; repair or remove it",
                ),
            }
        }
    }

    fn file_of_folder(&mut self, path: &Path) {
        let name = display(path);
        let wanted = match self.named {
            Some(dialect) => has_extension(&name, dialect),
            None => DIALECTS.iter().any(|dialect| has_extension(&name, dialect)),
        };
        if wanted {
            self.file(path);
        }
    }

    fn file(&mut self, path: &Path) {
        let name = display(path);
        if name.rsplit_once('.').is_some_and(|(_, extension)| SQL.extensions.contains(&extension)) {
            return self.script(path, &name);
        }
        match files::read(path, self.largest) {
            Ok(bytes) => self.text(&name, bytes),
            Err(error) => self.unread(&name, &error),
        }
    }

    /// A script may be a dump of any size: its data is left out while it is read.
    fn script(&mut self, path: &Path, name: &str) {
        let most = self.largest.saturating_mul(SCRIPTS_LARGER);
        let text = files::open(path)
            .and_then(|(file, _)| Ok(sieve(std::io::BufReader::new(file), most, self.database)?));
        match text {
            Ok(Some(text)) => self.text(name, text.into_bytes()),
            Ok(None) => {
                let message =
                    format!("it has more than the {most} bytes beside its data that are read");
                self.complain(
                    &codes::FILE_TOO_LARGE,
                    name,
                    message,
                    "raise the limit with --largest-file, or leave the file out",
                );
            }
            Err(error) => self.unread(name, &error),
        }
    }

    fn unread(&mut self, name: &str, error: &Unreadable) {
        let (code, help) = match error {
            Unreadable::Disk(_) => (
                &codes::UNREADABLE_FILE,
                "check its rights, what it links to, and that it is UTF-8 text",
            ),
            Unreadable::Special(_) => (
                &codes::SPECIAL_FILE,
                "leave it out, or give what it holds to standard input (`-`)",
            ),
            Unreadable::TooLarge(_) => (
                &codes::FILE_TOO_LARGE,
                "raise the limit with --largest-file, or leave the file out",
            ),
        };
        let message = match error {
            Unreadable::Disk(error) => format!("it cannot be read: {error}"),
            other => other.to_string(),
        };
        self.complain(code, name, message, help);
    }

    fn text(&mut self, name: &str, bytes: Vec<u8>) {
        if memchr::memchr(0, &bytes).is_some() {
            return self.complain(
                &codes::BINARY_FILE,
                name,
                "it is not text".into(),
                "leave it out",
            );
        }
        match String::from_utf8(bytes) {
            Ok(text) => self.files.push((name.to_owned(), text)),
            Err(error) => {
                let at = error.utf8_error().valid_up_to();
                let before = String::from_utf8_lossy(&error.as_bytes()[..at]).into_owned();
                let line = before.matches('\n').count() + 1;
                let column = before.rsplit('\n').next().map_or(0, |tail| tail.chars().count()) + 1;
                let message = format!(
                    "it is not UTF-8: byte {:#04x} at line {line}, column {column}",
                    error.as_bytes()[at]
                );
                self.complain(
                    &codes::NOT_UTF_8,
                    name,
                    message,
                    "convert it, for example with `iconv -f latin1 -t utf-8`",
                );
            }
        }
    }

    fn complain(&mut self, code: &'static Code, path: &str, message: String, help: &str) {
        self.diagnostics.push(Diagnostic::of(code, message).in_file(path).with_help(help));
    }
}

/// Reads a live database; what is being asked for is told.
fn read_database(
    address: &AddressText,
    project: &Project<'_>,
    mut settings: Settings,
) -> Result<Read, ProjectError> {
    let shown = address.to_string();
    let wanted = sprachbund_catalog::Wanted {
        namespaces: project.request.namespaces.clone(),
        patience: project.configuration.patience(),
    };
    let asking = |step: &str, seconds: u64| {
        (project.news)(News::Asking { server: &shown, step, seconds });
    };
    let found = sprachbund_catalog::read(address, &wanted, &settings, &asking);
    (project.news)(News::Answered);
    let sprachbund_catalog::FoundDatabase { schema, release, diagnostics, sources } = found?;
    (settings.database, settings.server_release) = (Some(schema.source.database), release);
    let server = settings.database;
    let dialect = dialect("sql")?;
    Ok(Read { schema, diagnostics, sources, dialect, settings, server, written: false })
}

/// Files of the disk, for imports. Folders that do not exist are asked for once.
pub struct Disk {
    largest: u64,
    roots: Vec<String>,
    folders: Mutex<HashMap<PathBuf, bool>>,
}

impl Disk {
    /// Files up to so many bytes, and the folders of installed packages.
    pub fn new(largest: u64, follow: &[PathBuf]) -> Self {
        let roots = follow.iter().map(|path| display(path)).collect();
        Disk { largest, roots, folders: Mutex::default() }
    }
}

impl FileProvider for Disk {
    fn read(&self, path: &str) -> Option<String> {
        let path = Path::new(path);
        let folder =
            path.parent().filter(|folder| !folder.as_os_str().is_empty()).unwrap_or(Path::new("."));
        let exists = *self
            .folders
            .lock()
            .ok()?
            .entry(folder.to_path_buf())
            .or_insert_with(|| folder.is_dir());
        exists
            .then(|| files::read(path, self.largest).ok())
            .flatten()
            .and_then(|bytes| String::from_utf8(bytes).ok())
    }

    fn roots(&self) -> &[String] {
        &self.roots
    }
}
