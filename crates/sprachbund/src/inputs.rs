//! Inputs to a schema: walking folders, reading files, recognising dialects.

use std::collections::{HashMap, HashSet};
use std::io::IsTerminal;
use std::path::{Path, PathBuf};
use std::sync::Mutex;

use ignore::WalkBuilder;
use sprachbund_catalog::AddressText;
use sprachbund_core::diagnostic::{Diagnostic, Severity};
use sprachbund_core::dialect::release::{counted, is_release};
use sprachbund_core::dialect::{Dialect, Settings, nearest};
use sprachbund_core::dialects::sql::sieve;
use sprachbund_core::dialects::{DIALECTS, by_id};
use sprachbund_core::host::sql::SQL;
use sprachbund_core::lint::exceptions::fits;
use sprachbund_core::reading::{Reading, dialects_of, has_extension, read};
use sprachbund_core::schema::{Database, Schema, json};
use sprachbund_core::source::{FileProvider, Sources};

use crate::arguments::{Input, InputOptions};
use crate::configuration::Configuration;
use crate::files::{self, Unreadable};
use crate::{Failure, output, releases};

/// Folders that hold no declarations of the project itself.
const SKIPPED_FOLDERS: &[&str] = &["node_modules", "migrations", "__pycache__", "venv", "dist", "build", "target", "site-packages"];

/// Seconds between two messages about a server that does not answer, where no terminal shows each.
const QUIET_NEWS: u64 = 10;

/// A script is a whole database in one file: so much larger than a file of declarations may it be.
const SCRIPTS_LARGER: u64 = 64;

/// What the inputs gave.
pub(crate) struct Loaded {
    pub(crate) schema: Schema,
    pub(crate) diagnostics: Vec<Diagnostic>,
    pub(crate) sources: Sources,
    /// Dialect of the source; a schema file has the one that it names.
    pub(crate) dialect: &'static Dialect,
    pub(crate) settings: Settings,
    /// The server that is meant, where one is named or was read.
    pub(crate) wanted: Option<Database>,
}

/// Reads all inputs; of their tables those that are wanted.
pub(crate) fn load(options: &InputOptions, configuration: &Configuration) -> Result<Loaded, Failure> {
    let mut loaded = load_whole(options, configuration)?;
    if !options.reach.tables.is_empty() {
        loaded.schema.entities.retain(|entity| options.reach.tables.iter().any(|pattern| fits(pattern, &entity.table)));
        let kept: HashSet<String> = loaded.schema.entities.iter().map(|entity| entity.id.clone()).collect();
        for entity in &mut loaded.schema.entities {
            entity.relations.retain(|relation| kept.contains(&relation.target));
        }
    }
    Ok(loaded)
}

/// Reads all inputs, with all of their tables.
pub(crate) fn load_whole(options: &InputOptions, configuration: &Configuration) -> Result<Loaded, Failure> {
    let mut settings = configuration.settings(options)?;
    match options.inputs.as_slice() {
        [Input::Database(address)] => return load_database(address, options, configuration, settings),
        [Input::Path(path)] => {
            if let Some(text) = schema_text(path, configuration.largest_file(options))? {
                return load_schema(path, &text, settings);
            }
        }
        _ => {}
    }
    if let Some(address) = options.inputs.iter().find(|input| matches!(input, Input::Database(_))) {
        return Err(Failure(format!("`{address}` is a database: give it alone; two databases are set side by side with `compare`")));
    }
    let (named, release) = match options.from.as_deref().map(dialect_and_release).transpose()? {
        Some((dialect, release)) => (Some(dialect), release),
        None => (None, None),
    };
    let mut collector = Collector {
        largest: configuration.largest_file(options),
        named,
        database: settings.database,
        files: Vec::new(),
        diagnostics: Vec::new(),
    };
    for input in &options.inputs {
        collector.input(input)?;
    }
    let Collector { files, mut diagnostics, .. } = collector;
    let dialect = match named {
        Some(dialect) => dialect,
        None => match dialects_of(&files).as_slice() {
            [only] => *only,
            [] => return nothing(diagnostics, &options.inputs),
            several => {
                let ids: Vec<&str> = several.iter().map(|dialect| dialect.id).collect();
                return Err(Failure(format!(
                    "the inputs hold declarations of several dialects: {}; choose one with --from",
                    ids.join(", ")
                )));
            }
        },
    };
    let wanted = settings.database;
    check_covered(dialect, if dialect.keeps_documents() { None } else { wanted })?;
    check_naming(dialect, options.naming.as_deref())?;
    if dialect.details.namings.is_empty() && (settings.naming.is_some() || !settings.name_patterns.is_empty()) {
        output::news(&format!("{} has no naming strategies: what sprachbund.toml says of them is not used\n", dialect.framework));
    } else {
        check_naming(dialect, settings.naming.as_deref())?;
    }
    if settings.default_module.is_none() {
        settings.default_module = folder_name(&options.inputs);
    }
    let (release, assumed) = release_of(options, dialect, release);
    settings.version = release;
    let disk = disk(options, configuration);
    let Reading { mut schema, diagnostics: found, sources } = read(files, dialect, &mut settings, &disk);
    schema.source.assumed.extend(assumed);
    diagnostics.extend(found);
    Ok(Loaded { schema, diagnostics, sources, dialect, settings, wanted })
}

/// The files that the inputs may ask for.
pub(crate) fn disk(options: &InputOptions, configuration: &Configuration) -> Disk {
    Disk {
        largest: configuration.largest_file(options),
        roots: options.reach.follow.iter().map(|path| display(path)).collect(),
        folders: Mutex::default(),
    }
}

/// The dialect of an id, or the nearest one as a hint.
pub(crate) fn dialect(id: &str) -> Result<&'static Dialect, Failure> {
    by_id(id).ok_or_else(|| {
        let ids: Vec<&str> = DIALECTS.iter().map(|dialect| dialect.id).collect();
        let hint = nearest(id, ids.iter().copied()).map_or(String::new(), |id| format!("; did you mean `{id}`?"));
        Failure(format!("`{id}` is no dialect; known are {}{hint}", ids.join(", ")))
    })
}

/// A dialect, and the release that is named behind an `@`: `django@4.2`.
pub(crate) fn dialect_and_release(text: &str) -> Result<(&'static Dialect, Option<String>), Failure> {
    let Some((id, release)) = text.split_once('@') else { return Ok((dialect(text)?, None)) };
    let dialect = dialect(id)?;
    if dialect.details.packages.is_empty() {
        return Err(Failure(format!("{} has no releases: write `{id}`", dialect.framework)));
    }
    if !is_release(release) {
        return Err(Failure(format!(
            "`{release}` is no release of {}: write numbers, as in `{id}@{}`",
            dialect.framework, dialect.versions[0]
        )));
    }
    let release = counted(dialect, release);
    untried(dialect, &release).iter().for_each(|words| output::news(&format!("{words}\n")));
    Ok((dialect, Some(release)))
}

/// What is to be said of a release that was not tried.
fn untried(dialect: &Dialect, release: &str) -> Option<String> {
    let (framework, tried) = (dialect.framework, dialect.versions.join(", "));
    (!dialect.versions.contains(&release)).then(|| format!("{framework} {release} was not tried; tried: {tried}"))
}

/// The release of the project that is read: as named, else as its own files say; what had to be assumed, in words.
fn release_of(options: &InputOptions, dialect: &Dialect, named: Option<String>) -> (Option<String>, Option<String>) {
    if named.is_some() || dialect.details.packages.is_empty() {
        return (named, None);
    }
    let folder = options.inputs.iter().find_map(|input| match input {
        Input::Path(path) if path != "-" => Some(PathBuf::from(path)),
        _ => None,
    });
    let folder = folder.map_or_else(|| PathBuf::from("."), |path| if path.is_dir() { path } else { path.join("..") });
    match releases::of_project(&folder, dialect) {
        Some(releases::Found { release, file }) => {
            let release = counted(dialect, &release);
            let untried = untried(dialect, &release).map(|words| format!("{words} ({})", file.display()));
            (Some(release), untried)
        }
        None => (None, Some(format!("no lock file or manifest names a release: {} {}", dialect.framework, dialect.versions[0]))),
    }
}

/// Refuses a server of which nothing is known in a dialect.
pub(crate) fn check_covered(dialect: &Dialect, wanted: Option<Database>) -> Result<(), Failure> {
    let unknown = wanted.filter(|database| !dialect.databases.contains(database));
    let known: Vec<&str> = dialect.databases.iter().map(|database| database.id()).collect();
    match unknown {
        Some(unknown) => Err(Failure(format!("{} is not covered for {} yet; expected {}", unknown.id(), dialect.id, known.join(" or ")))),
        None => Ok(()),
    }
}

/// Refuses a naming strategy that the dialect does not have.
pub(crate) fn check_naming(dialect: &Dialect, name: Option<&str>) -> Result<(), Failure> {
    let Some(name) = name.filter(|name| !dialect.details.namings.contains(name)) else { return Ok(()) };
    Err(Failure(match dialect.details.namings {
        [] => format!("{} has no naming strategies, so `{name}` is none of them", dialect.framework),
        known => format!(
            "`{name}` is no naming strategy of {}; known are {}; any other can be described by [project.names] in sprachbund.toml",
            dialect.framework,
            known.join(", ")
        ),
    }))
}

/// The text of a schema file, if the input is one. It may be as large as a script.
fn schema_text(input: &str, largest: u64) -> Result<Option<String>, Failure> {
    if !(input.ends_with(".json") && Path::new(input).is_file()) {
        return Ok(None);
    }
    let failed = |why: String| Failure(format!("{input}: {why}; raise the limit with --largest-file, or check the file"));
    let bytes = files::read(Path::new(input), largest.saturating_mul(SCRIPTS_LARGER)).map_err(|error| failed(error.to_string()))?;
    String::from_utf8(bytes).map(Some).map_err(|error| failed(error.to_string()))
}

fn load_schema(path: &str, text: &str, mut settings: Settings) -> Result<Loaded, Failure> {
    let schema = json::read(text).map_err(|error| {
        let line = error.line.map_or(String::new(), |line| format!(":{line}"));
        Failure(format!("{path}{line}: at {error}"))
    })?;
    let dialect = dialect(&schema.source.dialect).map_err(|Failure(error)| Failure(format!("{path}: at source.dialect: {error}")))?;
    settings.database = settings.database.or(Some(schema.source.database));
    let wanted = settings.database;
    Ok(Loaded { schema, diagnostics: Vec::new(), sources: Sources::default(), dialect, settings, wanted })
}

fn nothing(diagnostics: Vec<Diagnostic>, inputs: &[Input]) -> Result<Loaded, Failure> {
    for diagnostic in &diagnostics {
        let path = diagnostic.path.as_deref().unwrap_or_default();
        output::news(&format!("{}: {path}: {}\n", diagnostic.severity.word(), diagnostic.message));
    }
    Err(Failure(format!(
        "no declarations were found in {}; name the folder that holds the models, or the dialect with --from",
        inputs.iter().map(Input::to_string).collect::<Vec<_>>().join(", ")
    )))
}

/// The name of the folder that the first input is or lies in; files beside it belong to that module. A folder of what was built, which
/// would not be looked into when it lies in another, lends no name.
fn folder_name(inputs: &[Input]) -> Option<String> {
    let Input::Path(path) = inputs.first()? else { return None };
    let path = std::fs::canonicalize(path).ok()?;
    let folder = if path.is_dir() { path.as_path() } else { path.parent()? };
    let mut names = folder.ancestors().filter_map(Path::file_name).map(|name| name.to_string_lossy());
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
    fn input(&mut self, input: &Input) -> Result<(), Failure> {
        let Input::Path(path) = input else {
            let dialect = self.named.ok_or_else(|| Failure("standard input needs its dialect: --from DIALECT".into()))?;
            let bytes = files::bounded(std::io::stdin().lock(), self.largest.saturating_mul(SCRIPTS_LARGER))
                .map_err(|error| Failure(format!("standard input: {error}; raise the limit with --largest-file")))?;
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
            return Err(Failure(format!("there is no file or folder `{input}`")));
        }
        Ok(())
    }

    fn folder(&mut self, folder: &Path) {
        let skip = |entry: &ignore::DirEntry| {
            let name = entry.file_name().to_string_lossy();
            entry.depth() == 0 || !(entry.path().is_dir() && SKIPPED_FOLDERS.contains(&name.as_ref()))
        };
        let walk = WalkBuilder::new(folder).parents(false).follow_links(true).sort_by_file_path(Path::cmp).filter_entry(skip).build();
        for entry in walk {
            match entry {
                Ok(entry) if entry.path().is_dir() => {}
                Ok(entry) => self.file_of_folder(entry.path()),
                Err(error) => {
                    self.complain("unreadable-entry", &display(folder), format!("{error}"), "it was left out; repair or remove it")
                }
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
        let text = files::open(path).and_then(|(file, _)| Ok(sieve(std::io::BufReader::new(file), most, self.database)?));
        match text {
            Ok(Some(text)) => self.text(name, text.into_bytes()),
            Ok(None) => {
                let message = format!("it has more than the {most} bytes beside its data that are read");
                self.complain("file-too-large", name, message, "raise the limit with --largest-file, or leave the file out");
            }
            Err(error) => self.unread(name, &error),
        }
    }

    fn unread(&mut self, name: &str, error: &Unreadable) {
        let (code, help) = match error {
            Unreadable::Disk(_) => ("unreadable-file", "check its rights, what it links to, and that it is UTF-8 text"),
            Unreadable::Special(_) => ("special-file", "leave it out, or give what it holds to standard input (`-`)"),
            Unreadable::TooLarge(_) => ("file-too-large", "raise the limit with --largest-file, or leave the file out"),
        };
        let message = match error {
            Unreadable::Disk(error) => format!("it cannot be read: {error}"),
            other => other.to_string(),
        };
        self.complain(code, name, message, help);
    }

    fn text(&mut self, name: &str, bytes: Vec<u8>) {
        if memchr::memchr(0, &bytes).is_some() {
            return self.complain("binary-file", name, "it is not text".into(), "leave it out");
        }
        match String::from_utf8(bytes) {
            Ok(text) => self.files.push((name.to_owned(), text)),
            Err(error) => {
                let at = error.utf8_error().valid_up_to();
                let before = String::from_utf8_lossy(&error.as_bytes()[..at]).into_owned();
                let line = before.matches('\n').count() + 1;
                let column = before.rsplit('\n').next().map_or(0, |tail| tail.chars().count()) + 1;
                let message = format!("it is not UTF-8: byte {:#04x} at line {line}, column {column}", error.as_bytes()[at]);
                self.complain("not-utf-8", name, message, "convert it, for example with `iconv -f latin1 -t utf-8`");
            }
        }
    }

    fn complain(&mut self, code: &'static str, path: &str, message: String, help: &str) {
        self.diagnostics.push(Diagnostic::new(code, Severity::Error, message).in_file(path).with_help(help));
    }
}

/// Reads a live database; what is being asked for is shown on a terminal.
fn load_database(
    typed: &AddressText,
    options: &InputOptions,
    configuration: &Configuration,
    mut settings: Settings,
) -> Result<Loaded, Failure> {
    let address = typed.parse()?;
    let wanted = sprachbund_catalog::Wanted { namespaces: options.reach.namespace.clone(), patience: configuration.patience() };
    let terminal = std::io::stderr().is_terminal();
    let clear = || {
        if terminal {
            output::over("");
        }
    };
    let progress = |step: &str, seconds: u64| {
        let waiting = if seconds > 0 { format!(" ({seconds} s)") } else { String::new() };
        if terminal {
            output::over(&format!("{}: {step}{waiting}", address.shown));
        } else if seconds > 0 && seconds.is_multiple_of(QUIET_NEWS) {
            output::news(&format!("{}: {step}{waiting}\n", address.shown));
        }
    };
    let found = sprachbund_catalog::read(&address, &wanted, &settings, &progress);
    clear();
    let sprachbund_catalog::Found { schema, release, diagnostics, sources } = found?;
    (settings.database, settings.server_release) = (Some(schema.source.database), release);
    let wanted = settings.database;
    Ok(Loaded { schema, diagnostics, sources, dialect: dialect("sql")?, settings, wanted })
}

/// Files of the disk, for imports. Folders that do not exist are asked for once.
pub(crate) struct Disk {
    largest: u64,
    roots: Vec<String>,
    folders: Mutex<HashMap<PathBuf, bool>>,
}

impl FileProvider for Disk {
    fn read(&self, path: &str) -> Option<String> {
        let path = Path::new(path);
        let folder = path.parent().filter(|folder| !folder.as_os_str().is_empty()).unwrap_or(Path::new("."));
        let exists = *self.folders.lock().ok()?.entry(folder.to_path_buf()).or_insert_with(|| folder.is_dir());
        exists.then(|| files::read(path, self.largest).ok()).flatten().and_then(|bytes| String::from_utf8(bytes).ok())
    }

    fn roots(&self) -> &[String] {
        &self.roots
    }
}
