//! The command line as typed.

use std::path::PathBuf;

use clap::{Args, Parser, Subcommand, ValueEnum};
use sprachbund_project::{Input, Request};

/// Reads model declarations of one framework, lints them, and writes them for another, with an
/// account of every difference.
#[derive(Parser)]
#[command(name = "sprachbund", version, max_term_width = 100)]
pub(crate) struct Arguments {
    #[command(subcommand)]
    pub(crate) verb: Verb,
}

#[derive(Subcommand)]
pub(crate) enum Verb {
    /// Read declarations and write the neutral schema as JSON
    Parse(ParseOptions),
    /// Show every table column by column: what was declared and what a convention filled in
    Show(ShowOptions),
    /// Find what does not fit together
    Lint(LintOptions),
    /// Write the declarations of another framework, and say what differs
    Emit(EmitOptions),
    /// Say how two descriptions of one schema differ, whatever they are written in
    Compare(CompareOptions),
    /// Explain a rule, a kind of difference, or what silence means in a dialect
    Explain(ExplainOptions),
    /// List the dialects
    Dialects(DialectsOptions),
    /// Unpack the demo project and take the whole tour on it
    Demo(DemoOptions),
}

/// How far reading reaches.
#[derive(Args, Clone, Default)]
pub(crate) struct ReachOptions {
    /// Folder of installed packages whose classes the inputs extend (may be given several times)
    #[arg(long, value_name = "FOLDER")]
    pub(crate) follow: Vec<PathBuf>,
    /// Named schema of a database that is read (may be given several times)
    #[arg(long, value_name = "NAME")]
    pub(crate) namespace: Vec<String>,
    /// Only tables of these names; `*` stands for any text (may be given several times)
    #[arg(long, value_name = "PATTERN")]
    pub(crate) tables: Vec<String>,
    /// Configuration file [default: sprachbund.toml here or in a folder above]
    #[arg(long, value_name = "FILE")]
    pub(crate) config: Option<PathBuf>,
}

/// What is read, and how.
#[derive(Args, Clone, Default)]
pub(crate) struct InputOptions {
    /// Files and folders with declarations, scripts, a schema file, the address of a database, or
    /// `-` for standard input
    #[arg(required = true)]
    pub(crate) inputs: Vec<Input>,
    /// Dialect of the inputs, when it is not to be recognised; `dialect@release` where the project
    /// does not say which
    #[arg(long, value_name = "DIALECT")]
    pub(crate) from: Option<String>,
    /// Server that types are meant for: postgresql, mysql, mariadb or sqlite; `postgresql@18` where
    /// its release matters
    #[arg(long, value_name = "SERVER")]
    pub(crate) database: Option<String>,
    /// Naming strategy of the inputs, for dialects that have several
    #[arg(long, value_name = "NAME")]
    pub(crate) naming: Option<String>,
    #[command(flatten)]
    pub(crate) reach: ReachOptions,
    /// Largest file of declarations that is read, in bytes; a script may be 64 times as large
    #[arg(long, value_name = "BYTES")]
    pub(crate) largest_file: Option<u64>,
}

impl ReachOptions {
    /// A request that reaches so far, of nothing yet.
    pub(crate) fn request(&self) -> Request {
        Request {
            follow: self.follow.clone(),
            namespaces: self.namespace.clone(),
            tables: self.tables.clone(),
            config: self.config.clone(),
            ..Request::default()
        }
    }
}

impl InputOptions {
    /// What is to be read, as it was typed.
    pub(crate) fn request(&self) -> Request {
        Request {
            inputs: self.inputs.clone(),
            from: self.from.clone(),
            database: self.database.clone(),
            naming: self.naming.clone(),
            largest_file: self.largest_file,
            ..self.reach.request()
        }
    }
}

#[derive(Args)]
pub(crate) struct ParseOptions {
    #[command(flatten)]
    pub(crate) input: InputOptions,
    /// Write the schema to this file instead of standard output
    #[arg(long, value_name = "FILE")]
    pub(crate) out: Option<PathBuf>,
}

#[derive(Args)]
pub(crate) struct ShowOptions {
    #[command(flatten)]
    pub(crate) input: InputOptions,
    /// Only this entity, by class or table (may be given several times)
    #[arg(long, value_name = "NAME")]
    pub(crate) entity: Vec<String>,
    #[arg(long, value_enum, default_value_t = Format::Human)]
    pub(crate) format: Format,
}

#[derive(Args)]
pub(crate) struct LintOptions {
    #[command(flatten)]
    pub(crate) input: InputOptions,
    /// Severity from which the exit status is 1: note, warning or error
    #[arg(long, value_name = "SEVERITY")]
    pub(crate) threshold: Option<String>,
    /// Dialect that the declarations are to be carried to: says where its silence means something
    /// else
    #[arg(long, value_name = "DIALECT")]
    pub(crate) to: Option<String>,
    /// Tables that exist, or that the history makes: a script, a folder of migrations or the
    /// address of a database
    #[arg(long, value_name = "INPUT")]
    pub(crate) beside: Option<Input>,
    /// Show each finding by itself, alike ones too
    #[arg(long)]
    pub(crate) detail: bool,
    /// Mend in the source files what can be mended without changing data or meaning
    #[arg(long)]
    pub(crate) mend: bool,
    /// With --mend, agree to the cures of this rule, by which the database does more than before
    /// (may be given several times)
    #[arg(long, value_name = "RULE", requires = "mend")]
    pub(crate) also: Vec<String>,
    /// With --mend, only show what would change
    #[arg(long, requires = "mend")]
    pub(crate) preview: bool,
    /// Record of known findings, which do not count
    #[arg(long, value_name = "FILE")]
    pub(crate) known: Option<PathBuf>,
    /// Write the record of known findings anew
    #[arg(long, conflicts_with = "mend")]
    pub(crate) remember: bool,
    #[arg(long, value_enum, default_value_t = LintFormat::Human)]
    pub(crate) format: LintFormat,
}

#[derive(Args)]
pub(crate) struct EmitOptions {
    #[command(flatten)]
    pub(crate) input: InputOptions,
    /// Dialect to write, `dialect@release` for another release than the newest that was tried
    #[arg(long, value_name = "DIALECT")]
    pub(crate) to: String,
    /// Folder to write into
    #[arg(long, value_name = "FOLDER")]
    pub(crate) out: Option<PathBuf>,
    /// Naming strategy of what is written, for dialects that have several
    #[arg(long, value_name = "NAME")]
    pub(crate) naming_out: Option<String>,
    /// Style of what is written, for dialects that have several
    #[arg(long, value_name = "NAME")]
    pub(crate) style: Option<String>,
    /// Only say which files are new, would change, or are as they would be
    #[arg(long)]
    pub(crate) preview: bool,
    /// Overwrite files that were changed by hand since they were emitted
    #[arg(long)]
    pub(crate) overwrite: bool,
    /// Remove files of an earlier run that are no longer part of the result
    #[arg(long, requires = "out")]
    pub(crate) remove_stale: bool,
    /// Exit with status 1 when anything was dropped or weakened
    #[arg(long)]
    pub(crate) strict: bool,
    /// List every element of every loss and every respelled name
    #[arg(long)]
    pub(crate) detail: bool,
    #[arg(long, value_enum, default_value_t = Format::Human)]
    pub(crate) format: Format,
}

#[derive(Args)]
pub(crate) struct CompareOptions {
    /// Declarations, scripts, a schema file or the address of a database
    pub(crate) left: Input,
    /// What it is compared with
    pub(crate) right: Input,
    /// Dialect of the left side, when it is not to be recognised
    #[arg(long, value_name = "DIALECT")]
    pub(crate) left_from: Option<String>,
    /// Dialect of the right side, when it is not to be recognised
    #[arg(long, value_name = "DIALECT")]
    pub(crate) right_from: Option<String>,
    /// Server on which both are compared: postgresql, mysql, mariadb or sqlite
    #[arg(long, value_name = "SERVER")]
    pub(crate) database: Option<String>,
    #[command(flatten)]
    pub(crate) reach: ReachOptions,
    /// Severity from which the exit status is 1: note, warning or error
    #[arg(long, value_name = "SEVERITY")]
    pub(crate) threshold: Option<String>,
    /// List every note by itself
    #[arg(long)]
    pub(crate) detail: bool,
    #[arg(long, value_enum, default_value_t = LintFormat::Human)]
    pub(crate) format: LintFormat,
}

#[derive(Args)]
pub(crate) struct ExplainOptions {
    /// A rule, a kind of difference or a dialect; without one, all of them are listed
    pub(crate) topic: Option<String>,
}

#[derive(Args)]
pub(crate) struct DialectsOptions {
    #[arg(long, value_enum, default_value_t = Format::Human)]
    pub(crate) format: Format,
}

#[derive(Args)]
pub(crate) struct DemoOptions {
    /// Folder to unpack into [default: harbour-register, or the next free name]
    pub(crate) folder: Option<PathBuf>,
}

#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub(crate) enum Format {
    Human,
    Json,
}

#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub(crate) enum LintFormat {
    Human,
    Json,
    Sarif,
    Junit,
}
