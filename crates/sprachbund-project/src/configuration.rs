//! The project's `sprachbund.toml`.
//!
//! ```toml
//! [project]
//! database = "postgresql"          # server that types are meant for
//! default_key = "BigAutoField"     # class of a key that nobody declares
//! naming = "snake"                 # naming strategy of the inputs
//! largest_file = 4194304           # bytes
//!
//! [project.names]                  # name patterns that replace single answers of the strategy
//! table = "{name|snake|plural}"
//!
//! [project.environment]            # variables of the environment that declarations ask for
//! HARBOUR_SERVER = "postgresql"    # false: it is not set
//!
//! [connection]                     # how many seconds a database is waited for
//! connect = 15                     # until it lets the user in
//! answer = 60                      # until one question is answered
//! total = 300                      # for everything together
//!
//! [recognise]                      # what is made of tables that no class stands for
//! prefixes = ["hb_"]               # beginnings of table names that no class name has
//! singular = true                  # port_calls gives PortCall
//! join_tables = true               # a table of two references is a many-to-many
//! one_to_one = true                # a unique reference is one-to-one
//! other_sides = true               # the other side of a relation has an attribute too
//! times = true                     # created_at and updated_at are kept by the framework
//! soft_delete = true               # deleted_at marks a record as deleted
//!
//! [documents]                      # what is made of documents inside others
//! nested = "entities"              # tables of their own, or "json": one value
//!
//! [lint]
//! threshold = "warning"            # severity from which the exit status is 1
//! known = "known-findings.json"    # findings that are known, and do not count
//!
//! [lint.rules]
//! money-in-binary-float = "error"  # note, warning, error or off
//!
//! [lint.parameters.money-in-binary-float]
//! words = ["dues", "toll"]         # what a rule may be told; `explain RULE` says what
//!
//! [[lint.accept]]                  # findings that are as they should be
//! rule = "entity-without-key"      # `*` stands for any text, here and in the two below
//! entity = "Tide*"
//! path = "harbour/old/*"
//! because = "filled by the gauge, one row an hour"
//!
//! [lint.on.mariadb.rules]          # the same, for one server only
//! not-made-here = "error"
//!
//! [compare]
//! threshold = "error"              # severity from which the exit status is 1
//! disregard = ["comment-differs"]  # kinds of differences
//! tables = ["django_*"]            # tables whose differences do not count
//! ```

use std::collections::BTreeMap;
use std::num::NonZeroU32;
use std::path::{Path, PathBuf};
use std::time::Duration;

use serde::Deserialize;
use sprachbund_catalog::Patience;
use sprachbund_core::compare::CODES;
use sprachbund_core::diagnostic::Severity;
use sprachbund_core::dialect::naming::NamePattern;
use sprachbund_core::dialect::{Settings, nearest};
use sprachbund_core::lint::exceptions::{Exception, fits};
use sprachbund_core::lint::rule::Value;
use sprachbund_core::lint::{LintSettings, Setting, names, rule};
use sprachbund_core::recognise::Recognitions;
use sprachbund_core::schema::Database;
use sprachbund_core::server::release;
use sprachbund_core::source::{FileId, Span};
use toml::Spanned;

use crate::{ProjectError, Request, files};

/// Largest file read when nothing is said.
const LARGEST_FILE: u64 = 4 * 1024 * 1024;

/// Questions whose answer `[project.names]` may replace.
const NAME_QUESTIONS: &[&str] =
    &["table", "column", "reference_column", "join_table", "join_column"];

#[derive(Debug, Default, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Configuration {
    #[serde(default)]
    project: ProjectTable,
    #[serde(default)]
    connection: Connection,
    #[serde(default)]
    recognise: Recognise,
    #[serde(default)]
    documents: Documents,
    #[serde(default)]
    lint: Lint,
    #[serde(default)]
    compare: Compare,
    /// Where it was read, and what.
    #[serde(skip)]
    file: Option<PathBuf>,
    #[serde(skip)]
    text: String,
}

#[derive(Debug, Default, Deserialize)]
#[serde(deny_unknown_fields)]
struct ProjectTable {
    database: Option<String>,
    default_key: Option<String>,
    naming: Option<String>,
    largest_file: Option<u64>,
    #[serde(default)]
    names: BTreeMap<String, String>,
    #[serde(default)]
    environment: BTreeMap<String, serde_json::Value>,
}

/// How many seconds a database is waited for.
#[derive(Debug, Default, Deserialize)]
#[serde(deny_unknown_fields)]
struct Connection {
    connect: Option<NonZeroU32>,
    answer: Option<NonZeroU32>,
    total: Option<NonZeroU32>,
}

#[derive(Debug, Default, Deserialize)]
#[serde(deny_unknown_fields)]
struct Documents {
    #[serde(default)]
    nested: Nested,
}

/// What is made of documents inside others.
#[derive(Debug, Default, PartialEq, Deserialize)]
#[serde(rename_all = "lowercase")]
enum Nested {
    #[default]
    Entities,
    Json,
}

/// What is not said is recognised.
#[derive(Debug, Default, Deserialize)]
#[serde(deny_unknown_fields)]
struct Recognise {
    #[serde(default)]
    prefixes: Vec<String>,
    singular: Option<bool>,
    join_tables: Option<bool>,
    one_to_one: Option<bool>,
    other_sides: Option<bool>,
    times: Option<bool>,
    soft_delete: Option<bool>,
}

impl Recognise {
    fn recognitions(&self) -> Recognitions {
        let said = |value: Option<bool>| value.unwrap_or(true);
        Recognitions {
            prefixes: self.prefixes.clone(),
            singular: said(self.singular),
            join_tables: said(self.join_tables),
            one_to_one: said(self.one_to_one),
            inverses: said(self.other_sides),
            times: said(self.times),
            soft_delete: said(self.soft_delete),
        }
    }
}

#[derive(Debug, Default, Deserialize)]
#[serde(deny_unknown_fields)]
struct Lint {
    threshold: Option<String>,
    known: Option<PathBuf>,
    #[serde(default)]
    rules: BTreeMap<String, String>,
    #[serde(default)]
    parameters: Parameters,
    #[serde(default)]
    accept: Vec<Spanned<Accept>>,
    /// By server.
    #[serde(default)]
    on: BTreeMap<String, Choices>,
}

/// Values by rule and parameter.
type Parameters = BTreeMap<String, BTreeMap<String, toml::Value>>;

/// What is chosen for one server.
#[derive(Debug, Default, Deserialize)]
#[serde(deny_unknown_fields)]
struct Choices {
    #[serde(default)]
    rules: BTreeMap<String, String>,
    #[serde(default)]
    parameters: Parameters,
}

/// Findings that are as they should be.
#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
struct Accept {
    rule: String,
    entity: Option<String>,
    path: Option<String>,
    because: String,
}

#[derive(Debug, Default, Deserialize)]
#[serde(deny_unknown_fields)]
struct Compare {
    threshold: Option<String>,
    #[serde(default)]
    disregard: Vec<String>,
    #[serde(default)]
    tables: Vec<String>,
}

impl Configuration {
    /// The file that is named, or the nearest one at or above the current folder; nothing is fine
    /// too. A file of a folder above, which nobody named, is told.
    ///
    /// # Errors
    /// When it cannot be read or cannot be meant.
    pub fn load(named: Option<&Path>) -> Result<(Self, Option<PathBuf>), ProjectError> {
        let Some(path) = named.map(Path::to_owned).or_else(nearest_file) else {
            return Ok(Default::default());
        };
        let above = path.parent().is_some_and(|folder| !folder.as_os_str().is_empty());
        let found = (named.is_none() && above).then(|| path.clone());
        let text = files::read_own(&path)
            .map_err(|error| ProjectError::Settings(format!("{}: {error}", path.display())))?;
        let mut configuration: Configuration = toml::from_str(&text)
            .map_err(|error| ProjectError::Settings(format!("{}: {error}", path.display())))?;
        configuration
            .lint
            .settings(None)
            .map_err(|reason| ProjectError::Settings(format!("{}: {reason}", path.display())))?;
        for server in configuration.lint.on.keys() {
            let server = database(server)?;
            configuration.lint.settings(Some(server)).map_err(|reason| {
                ProjectError::Settings(format!("{}: {reason}", path.display()))
            })?;
        }
        for name in &configuration.compare.disregard {
            if !CODES.iter().any(|code| code.name == name) {
                let hint = nearest(name, CODES.iter().map(|code| code.name))
                    .map_or(String::new(), |name| format!("; did you mean `{name}`?"));
                return Err(ProjectError::Settings(format!(
                    "{}: no kind of difference is called `{name}`{hint}",
                    path.display()
                )));
            }
        }
        configuration.file = Some(path);
        configuration.text = text;
        Ok((configuration, found))
    }

    /// Settings for reading; the command line wins over the file.
    pub fn settings(&self, request: &Request) -> Result<Settings, ProjectError> {
        let named = request.database.as_ref().or(self.project.database.as_ref());
        let server = named.map(|name| server(name)).transpose()?;
        let mut name_patterns = Vec::new();
        for (question, pattern) in &self.project.names {
            if !NAME_QUESTIONS.contains(&question.as_str()) {
                return Err(ProjectError::Settings(format!(
                    "[project.names] has no question `{question}`; it takes {}",
                    NAME_QUESTIONS.join(", ")
                )));
            }
            name_patterns.push((
                question.clone(),
                NamePattern::parse(pattern)
                    .map_err(|error| ProjectError::Settings(error.to_string()))?,
            ));
        }
        Ok(Settings {
            references_enforced: None,
            version: None,
            database: server.map(|(database, _)| database),
            server_release: server.and_then(|(_, release)| release),
            default_key: self.project.default_key.clone(),
            default_module: None,
            style: None,
            naming: request.naming.clone().or_else(|| self.project.naming.clone()),
            name_patterns,
            environment: self.project.environment.clone().into_iter().collect(),
            recognitions: self.recognise.recognitions(),
            nested_as_json: self.documents.nested == Nested::Json,
        })
    }

    /// How long a database is waited for.
    pub fn patience(&self) -> Patience {
        let usual = Patience::default();
        let or = |seconds: Option<NonZeroU32>, usual| {
            seconds.map_or(usual, |seconds| Duration::from_secs(seconds.get().into()))
        };
        let Connection { connect, answer, total } = &self.connection;
        Patience {
            connect: or(*connect, usual.connect),
            answer: or(*answer, usual.answer),
            total: or(*total, usual.total),
        }
    }

    pub fn largest_file(&self, request: &Request) -> u64 {
        request.largest_file.or(self.project.largest_file).unwrap_or(LARGEST_FILE)
    }

    /// What the project decides about the rules where a server is meant. The places of exceptions
    /// are those in the settings' own text.
    ///
    /// # Errors
    /// When it cannot be meant.
    pub fn lint_settings(&self, database: Database) -> Result<LintSettings, ProjectError> {
        let mut settings = self.lint.settings(Some(database))?;
        for (exception, accept) in settings.exceptions.iter_mut().zip(&self.lint.accept) {
            let (range, file) = (accept.span(), FileId(0));
            exception.place = Some(Span { file, start: range.start as u32, end: range.end as u32 });
        }
        Ok(settings)
    }

    /// Where the settings were read, and their text.
    pub fn file(&self) -> Option<(&Path, &str)> {
        Some((self.file.as_deref()?, self.text.as_str()))
    }

    /// The record of known findings, beside the file that names it.
    pub fn known_findings(&self) -> Option<PathBuf> {
        let known = self.lint.known.as_ref()?;
        let folder = self.file.as_ref().and_then(|file| file.parent());
        Some(folder.map_or_else(|| known.clone(), |folder| folder.join(known)))
    }

    /// Where a rule's severity comes from, in words.
    pub fn severity_source(&self, rule: &str, database: Database) -> Option<String> {
        let own =
            self.lint.on.get(database.id()).filter(|choices| choices.rules.contains_key(rule));
        let table = match own {
            Some(_) => format!("[lint.on.{}.rules]", database.id()),
            None => self.lint.rules.get(rule).map(|_| "[lint.rules]".to_owned())?,
        };
        let file = self.file.as_ref().map_or_else(String::new, |file| file.display().to_string());
        Some(format!("its severity is set under {table} in {file}"))
    }

    pub fn compare_threshold(&self, option: Option<&String>) -> Result<Severity, ProjectError> {
        option
            .or(self.compare.threshold.as_ref())
            .map_or(Ok(Severity::Warning), |word| severity(word))
    }

    /// Whether a kind of difference, or all differences of a table, do not count.
    pub fn disregards(&self, code: &str, table: &str) -> bool {
        self.compare.disregard.iter().any(|known| known == code)
            || self.compare.tables.iter().any(|pattern| fits(pattern, table))
    }

    pub fn threshold(&self, option: Option<&String>) -> Result<Severity, ProjectError> {
        option.or(self.lint.threshold.as_ref()).map_or(Ok(Severity::Warning), |word| severity(word))
    }
}

impl Lint {
    /// Choices for all servers, then those for one.
    fn settings(&self, database: Option<Database>) -> Result<LintSettings, ProjectError> {
        let mut settings = LintSettings::default();
        let own = database.and_then(|database| self.on.get(database.id()));
        let own = own.map(|choices| (&choices.rules, &choices.parameters));
        for (rules, parameters) in std::iter::once((&self.rules, &self.parameters)).chain(own) {
            for (name, word) in rules {
                let severity = if word == "off" { None } else { Some(severity(word)?) };
                settings.severities.insert(known_rule(name)?, severity);
            }
            for (name, values) in parameters {
                for (parameter, value) in values {
                    settings.parameters.insert(
                        (known_rule(name)?, parameter.clone()),
                        setting(name, parameter, value)?,
                    );
                }
            }
        }
        for accept in self.accept.iter().map(Spanned::get_ref) {
            if !names().any(|name| fits(&accept.rule, name)) {
                known_rule(&accept.rule)?;
            }
            let Accept { rule, entity, path, because } = accept;
            let (entity, path, reason) = (entity.clone(), path.clone(), because.clone());
            settings.exceptions.push(Exception {
                rule: rule.clone(),
                entity,
                path,
                reason,
                place: None,
            });
        }
        Ok(settings)
    }
}

fn known_rule(name: &str) -> Result<String, ProjectError> {
    if names().any(|known| known == name) {
        return Ok(name.to_owned());
    }
    let hint =
        nearest(name, names()).map_or(String::new(), |name| format!("; did you mean `{name}`?"));
    Err(ProjectError::Settings(format!("no rule is called `{name}`{hint}")))
}

/// A value for a parameter of a rule, of the kind that it takes.
fn setting(name: &str, parameter: &str, value: &toml::Value) -> Result<Setting, ProjectError> {
    let known = rule(name).and_then(|rule| rule.parameter(parameter));
    let words = || {
        value
            .as_array()?
            .iter()
            .map(|word| Some(word.as_str()?.to_owned()))
            .collect::<Option<Vec<_>>>()
    };
    match known.map(|known| known.value) {
        Some(Value::Number(_)) => {
            let number = value.as_integer().and_then(|number| u32::try_from(number).ok());
            number.map(Setting::Number).ok_or_else(|| {
                ProjectError::Settings(format!("`{parameter}` of `{name}` takes a number"))
            })
        }
        Some(Value::Words(_)) => words().map(Setting::Words).ok_or_else(|| {
            ProjectError::Settings(format!("`{parameter}` of `{name}` takes a list of words"))
        }),
        None => {
            let takes: Vec<&str> = rule(name)
                .iter()
                .flat_map(|rule| rule.parameters)
                .map(|parameter| parameter.name)
                .collect();
            let takes = if takes.is_empty() {
                "it takes none".to_owned()
            } else {
                format!("it takes {}", takes.join(", "))
            };
            Err(ProjectError::Settings(format!("`{name}` has no parameter `{parameter}`; {takes}")))
        }
    }
}

fn nearest_file() -> Option<PathBuf> {
    let here = std::env::current_dir().ok()?;
    let path = here
        .ancestors()
        .map(|folder: &Path| folder.join("sprachbund.toml"))
        .find(|path| path.is_file())?;
    Some(path.strip_prefix(&here).map(Path::to_owned).unwrap_or(path))
}

fn severity(word: &str) -> Result<Severity, ProjectError> {
    let known = Severity::ALL.iter().find(|(name, _)| *name == word);
    known.map(|(_, severity)| *severity).ok_or_else(|| {
        ProjectError::Settings(format!(
            "`{word}` is no severity; expected note, warning, error or off"
        ))
    })
}

/// A server, and the release that stands behind an `@`.
fn server(name: &str) -> Result<(Database, Option<(u32, u32)>), ProjectError> {
    let Some((server, named)) = name.split_once('@') else { return Ok((database(name)?, None)) };
    let release = release(named).ok_or_else(|| {
        ProjectError::Settings(format!(
            "`{named}` is no release of a server; expected numbers with a point between them, \
             as in `{server}@18`"
        ))
    })?;
    Ok((database(server)?, Some(release)))
}

fn database(name: &str) -> Result<Database, ProjectError> {
    let known = Database::ALL.iter().find(|(id, _)| *id == name);
    known.map(|(_, database)| *database).ok_or_else(|| {
        let hint = nearest(name, Database::ALL.iter().map(|(id, _)| *id))
            .map_or(String::new(), |id| format!("; did you mean `{id}`?"));
        ProjectError::Settings(format!(
            "`{name}` is no server that is known here: postgresql, mysql, mariadb, sqlite{hint}"
        ))
    })
}
