//! What the middle asks of a host language: one record for each, in the room of the language.

use super::outline::Outline;
use crate::quoting::case::Case;
use crate::source::{FileId, SourceFile};

/// A language in which declarations are written.
///
/// A dialect with a schema language of its own brings the record along in its own room; the
/// languages that several dialects share stand beside this file.
#[derive(Debug)]
pub struct Language {
    /// The name in expressions of the neutral schema, and of fences in Markdown.
    pub id: &'static str,
    /// Endings of its files, without the dot.
    pub extensions: &'static [&'static str],
    /// Its grammar, for benchmarks; none where `lower` does without.
    pub grammar: Option<fn() -> tree_sitter::Language>,
    /// Lowers a file: never fails, what is no program of the language stands among the errors of
    /// the outline.
    pub lower: fn(FileId, &str) -> Outline,
    /// How a file finds what it imports.
    pub imports: Imports,
    /// How attributes are spelt.
    pub attribute_case: Case,
    /// Names that are legal in it.
    pub names: LegalNames,
    /// What stands between tokens.
    pub layout: Layout,
    /// Whether code that gives a value means the same in another framework of the language, or
    /// (`true`) in another project of the same one.
    pub code_stays: fn(code: &str, same_framework: bool) -> bool,
    /// Whether a list or a map that is written as a default is one and the same for all records.
    pub shares_literals: bool,
}

impl Language {
    /// The bare syntax tree, of a language that has a grammar.
    pub fn parse(&self, text: &str) -> Option<tree_sitter::Tree> {
        self.parser()?.parse(text, None)
    }

    /// A parser, where there is a grammar.
    pub(crate) fn parser(&self) -> Option<tree_sitter::Parser> {
        let mut parser = tree_sitter::Parser::new();
        parser.set_language(&self.grammar?()).ok()?;
        Some(parser)
    }

    /// Lowers a file.
    pub fn outline(&self, id: FileId, file: &SourceFile) -> Outline {
        (self.lower)(id, &file.text)
    }
}

impl PartialEq for Language {
    fn eq(&self, other: &Self) -> bool {
        self.id == other.id
    }
}

/// How a file finds what it imports.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Imports {
    /// By dotted modules, each of which is a file or a folder; a name may be a module inside the
    /// module.
    Modules,
    /// By relative paths, or by the name of a package.
    Paths,
    /// Nothing is imported: files of a project know each other without a word.
    Nothing,
}

/// Names that the framework keeps for itself.
#[derive(Clone, Copy, Debug)]
pub struct Reserved {
    /// What no attribute may be called, beside the language's own words.
    pub members: &'static [&'static str],
    /// What no class may be called.
    pub classes: &'static [&'static str],
    /// Modules whose file holds what is said of the project as a whole.
    pub modules: &'static [&'static str],
    /// Whether no two classes may have one name, whatever their modules.
    pub classes_global: bool,
    /// Whether an attribute's name may neither hold two underscores in a row nor end in one.
    pub single_underscores: bool,
}

impl Reserved {
    /// A framework that keeps no name for itself.
    pub const NOTHING: Reserved = Reserved {
        members: &[],
        classes: &[],
        modules: &[],
        classes_global: false,
        single_underscores: false,
    };
}

/// How names are made legal; a legal name stays as it is.
#[derive(Clone, Copy, Debug)]
pub struct LegalNames {
    /// Of an attribute.
    pub attribute: fn(&str, &Reserved) -> String,
    /// Of a class, before it is spelt as classes are.
    pub class: fn(&str, &Reserved) -> String,
    /// Of a module: a file, or a folder.
    pub module: fn(&str) -> String,
    /// Of a member of an enumeration.
    pub member: fn(&str) -> String,
    /// Words that no class may be called.
    pub keywords: &'static [&'static str],
}

/// What stands between tokens, and how texts end.
#[derive(Clone, Copy, Debug)]
pub struct Layout {
    /// What begins a comment that goes to the end of the line.
    pub comment: &'static str,
    /// Whether `/*` begins a comment that `*/` ends.
    pub block_comments: bool,
    /// Whether texts may stand between three quotes.
    pub triple_quotes: bool,
    /// Whether a backslash takes the meaning of the sign after it.
    pub backslashes: bool,
}

/// A name that begins with a letter, or a letter before what remains.
pub fn letter_first(name: &str, otherwise: &str) -> String {
    let trimmed = name.trim_start_matches('_');
    match trimmed.starts_with(char::is_alphabetic) {
        true => trimmed.to_owned(),
        false if trimmed.is_empty() => otherwise.to_owned(),
        false => format!("n{trimmed}"),
    }
}

/// A module as the name of a file: what parts folders becomes an underscore.
pub fn file_name(module: &str) -> String {
    module.replace(|letter: char| matches!(letter, '/' | '\\' | '.') || letter.is_control(), "_")
}
