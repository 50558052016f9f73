//! Host languages: each lowers its syntax tree into the one [`outline`] that all readers share.

pub(crate) mod arguments;
pub(crate) mod callable;
pub(crate) mod decorators;
pub(crate) mod effort;
pub mod evaluate;
mod grammar;
pub mod outline;
mod prisma;
pub mod project;
pub mod python;
mod recover;
pub mod typescript;

use outline::Outline;

use crate::source::{FileId, SourceFile};

/// A language in which declarations are written.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum Language {
    Python,
    TypeScript,
    Prisma,
    /// Not lowered to an outline: scripts are read by statements.
    Sql,
}

impl Language {
    /// The language of a file extension.
    pub fn of_extension(extension: &str) -> Option<Self> {
        match extension {
            "py" => Some(Language::Python),
            "ts" | "mts" | "cts" | "js" | "mjs" | "cjs" => Some(Language::TypeScript),
            "prisma" => Some(Language::Prisma),
            "sql" => Some(Language::Sql),
            _ => None,
        }
    }

    /// The name in expressions of the neutral schema.
    pub fn id(self) -> &'static str {
        match self {
            Language::Python => "python",
            Language::TypeScript => "typescript",
            Language::Prisma => "prisma",
            Language::Sql => "sql",
        }
    }

    /// The bare syntax tree of a language that has a grammar, for benchmarks.
    pub fn parse(self, text: &str) -> Option<tree_sitter::Tree> {
        self.parser()?.parse(text, None)
    }

    fn parser(self) -> Option<tree_sitter::Parser> {
        let grammar = match self {
            Language::Python => tree_sitter_python::LANGUAGE.into(),
            Language::TypeScript => tree_sitter_typescript::LANGUAGE_TYPESCRIPT.into(),
            Language::Prisma | Language::Sql => return None,
        };
        let mut parser = tree_sitter::Parser::new();
        parser.set_language(&grammar).ok()?;
        Some(parser)
    }

    /// Lowers a file.
    pub fn outline(self, id: FileId, file: &SourceFile) -> Outline {
        if self == Language::Prisma {
            return prisma::lower(id, &file.text);
        }
        let Some(mut parser) = self.parser() else { return Outline::default() };
        let Some(tree) = parser.parse(&*file.text, None) else { return Outline::default() };
        match self {
            Language::Python => python::lower(&tree, id, &file.text),
            Language::TypeScript if tree.root_node().has_error() => {
                typescript::lower(&recover::trees(&mut parser, &file.text), id, &file.text)
            }
            Language::TypeScript => typescript::lower(&[tree], id, &file.text),
            Language::Prisma | Language::Sql => Outline::default(),
        }
    }
}
