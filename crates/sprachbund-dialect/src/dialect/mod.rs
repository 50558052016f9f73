//! What a dialect is: what everything outside its room knows of it. The rooms themselves are crates
//! of their own.

pub mod answers;
pub mod capabilities;
pub mod circle;
pub mod conventions;
pub mod grammar;
pub mod naming;
mod recognitions;
pub mod release;
pub mod remarks;
pub mod source_text;
pub mod type_table;
pub mod typescript_files;

use crate::declaration::Declarations;
use crate::diagnostic::{Code, Diagnostic};
use crate::dialect::conventions::Actor;
use crate::host::Language;
use crate::host::language::Reserved;
use crate::host::project::{Project, Wanted};
use crate::schema::expression::Tree;
use crate::schema::{Database, Schema, Type};
use crate::server::ServerRelease;
use crate::source::Sources;

pub use capabilities::{Capabilities, Feature};
pub use conventions::Conventions;
pub use recognitions::Recognitions;

/// What the project says beside its declarations, or what was assumed for it.
#[derive(Clone, Debug, Default)]
pub struct Settings {
    /// Release of the framework, as the dialect counts them ([`release::counted`]); the newest that
    /// was tried when `None`.
    pub version: Option<String>,
    /// `--database`, or what the project's settings name.
    pub database: Option<Database>,
    /// Release of the server: what `--database` names behind an `@`, or what a live one answers.
    pub server_release: Option<(u32, u32)>,
    /// Class of the key that a model without one gets (`BigAutoField`, ...), where the dialect has
    /// such a setting.
    pub default_key: Option<String>,
    /// Module that files outside any folder belong to.
    pub default_module: Option<String>,
    /// Naming strategy by name (`default`, `snake`), for dialects that have several.
    pub naming: Option<String>,
    /// Whether relations have foreign keys, where the project says it of all of them.
    pub references_enforced: Option<bool>,
    /// The manner in which declarations are written, where the dialect has several.
    pub style: Option<String>,
    /// Name patterns that replace single answers of the naming strategy, by question.
    pub name_patterns: Vec<(String, naming::NamePattern)>,
    /// Variables of the environment that the project is run in, where its declarations ask for
    /// them.
    pub environment: Vec<(String, serde_json::Value)>,
    /// What is made of stored tables that no class stands for.
    pub recognitions: Recognitions,
    /// Whether what stands inside documents is read as one value (else as an entity of its own).
    pub nested_as_json: bool,
}

impl Settings {
    /// The database that types are meant for.
    pub fn database(&self) -> Database {
        self.database.unwrap_or_default()
    }

    /// The release of the framework that is meant: the one that is asked for, else the newest that
    /// was tried.
    pub fn release(&self, dialect: &Dialect) -> String {
        self.version.clone().unwrap_or_else(|| dialect.versions[0].to_owned())
    }

    /// The server that tables are meant for, in its release.
    pub fn server(&self) -> ServerRelease {
        self.database().server().in_release(self.server_release)
    }
}

/// A file that a printer wrote, by its path inside the output folder.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct PrintedFile {
    pub path: String,
    pub text: String,
}

/// One dialect: what everything outside its room knows of it. It is data and functions, so that
/// pages and tests can go through it; the crate `sprachbund-dialects` is the one list of those that
/// are shipped, and a program may bring its own.
#[derive(Debug)]
pub struct Dialect {
    /// The id that `--from` and `--to` take.
    pub id: &'static str,
    /// The framework's own name.
    pub framework: &'static str,
    /// The versions whose behaviour was checked, newest first.
    pub versions: &'static [&'static str],
    /// The servers that its type table covers.
    pub databases: &'static [Database],
    /// Those of them of which everything is from the framework's documentation: nothing could be
    /// run.
    pub unverified: &'static [Database],
    pub language: &'static Language,
    /// File extensions of its declarations.
    pub extensions: &'static [&'static str],
    /// Texts one of which every file with declarations holds.
    pub marks: &'static [&'static str],
    /// Texts one of which the files of a project hold that is written in it: they tell it from
    /// others of its language.
    pub signs: &'static [&'static str],
    pub conventions: fn(&Settings) -> Conventions,
    pub capabilities: fn(&Settings) -> Capabilities,
    pub medium: Medium,
    pub details: Details,
}

/// What most dialects leave as it is: each says what differs, and has the rest from
/// [`Details::USUAL`].
#[derive(Clone, Copy, Debug)]
pub struct Details {
    /// What reading it may say beside what any dialect may, sorted by name.
    pub codes: &'static [Code],
    /// What registries call the packages whose release is the framework's.
    pub packages: &'static [&'static str],
    /// Names that the framework keeps for itself.
    pub names: Reserved,
    /// Manners in which the same can be written, the usual one first; none where there is only one.
    pub styles: &'static [&'static str],
    /// Naming strategies by which a project may call tables and columns; none where there is one
    /// way only.
    pub namings: &'static [&'static str],
    /// What is loaded beside the inputs: path and text.
    pub stand_ins: &'static [(&'static str, &'static str)],
    /// Whether a module is the framework's own and known by name.
    pub is_framework: fn(&str) -> bool,
    /// Puts into the settings what the project's own files say.
    pub project_settings: fn(&Project, &mut Settings),
    /// Puts into the settings what suits a schema that is to be written, carried over to tables or
    /// documents already.
    pub target_settings: fn(&Schema, &mut Settings),
    /// What stands before an example that shall be a file of its own.
    pub example_head: &'static str,
    /// The words that people reach for first, by what they want to keep.
    pub plain_words: &'static [(PlainWord, &'static str)],
    /// The plain word for a default, and who keeps a constant that it says.
    pub plain_default: Option<(&'static str, Actor)>,
    /// How documents are declared, where the dialect declares documents.
    pub documents: Option<&'static DocumentRules>,
}

impl Details {
    /// A framework that keeps no names for itself and has one way of everything.
    pub const USUAL: Details = Details {
        codes: &[],
        packages: &[],
        names: Reserved::NOTHING,
        styles: &[],
        namings: &[],
        stand_ins: &[],
        is_framework: |_| false,
        project_settings: |_, _| {},
        target_settings: |_, _| {},
        example_head: "",
        plain_words: &[],
        plain_default: None,
        documents: None,
    };
}

/// What a value is, before anything is said of its length, its digits or its zone.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum PlainWord {
    Text,
    Time,
    Decimal,
    Number,
    Fraction,
}

impl PlainWord {
    /// Every one of them.
    pub const ALL: [PlainWord; 5] = [
        PlainWord::Text,
        PlainWord::Time,
        PlainWord::Decimal,
        PlainWord::Number,
        PlainWord::Fraction,
    ];
}

/// What a dialect of documents says of them.
#[derive(Debug)]
pub struct DocumentRules {
    /// Code of the host language that makes a new key.
    pub new_key: &'static str,
    /// Whether an index can leave out the documents for which an expression does not hold.
    pub can_filter: fn(&Tree) -> bool,
    /// Whether values of a type can be kept to a rule of input, or to choices (`enum`).
    pub keeps_to: fn(&Type, &str) -> bool,
}

/// What a dialect says a schema with.
#[derive(Debug)]
pub enum Medium {
    /// Classes, which say little: `resolve` fills in what conventions imply, `elide` leaves it out
    /// again.
    Classes {
        read: fn(&mut Project, &Settings) -> (Declarations, Vec<Diagnostic>),
        print: fn(&Declarations, &Conventions) -> Vec<PrintedFile>,
    },
    /// What a database stores, and nothing of an application.
    Statements {
        read: fn(&Sources, &Settings) -> (Schema, Vec<Diagnostic>),
        print: fn(&Schema, Database) -> Vec<PrintedFile>,
    },
}

impl Dialect {
    /// The server that declarations are meant for where `wanted` is named: PostgreSQL where nothing
    /// is.
    pub fn database(&self, wanted: Option<Database>) -> Database {
        match self.keeps_documents() {
            true => self.databases.first().copied().unwrap_or_default(),
            false => wanted.filter(|database| !database.keeps_documents()).unwrap_or_default(),
        }
    }

    /// Whether it declares documents instead of tables.
    pub fn keeps_documents(&self) -> bool {
        self.databases.iter().all(|database| database.keeps_documents())
    }

    /// What it asks of the files of a project.
    pub fn wanted(&self) -> Wanted<'static> {
        Wanted {
            language: self.language,
            marks: self.marks,
            stand_ins: self.details.stand_ins,
            is_framework: self.details.is_framework,
        }
    }
}

/// The known id nearest to a misspelt one.
pub fn nearest<'a>(misspelt: &str, known: impl IntoIterator<Item = &'a str>) -> Option<&'a str> {
    let distance = |candidate: &&str| strsim::damerau_levenshtein(misspelt, candidate);
    known
        .into_iter()
        .min_by_key(distance)
        .filter(|candidate| distance(candidate) <= candidate.len() / 2)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_misspelt_id_finds_its_neighbour() {
        let known = ["django", "mongoose", "typeorm"];
        assert_eq!(nearest("djnago", known), Some("django"));
        assert_eq!(nearest("x", known), None);
    }
}
