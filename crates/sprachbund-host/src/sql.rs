//! SQL: scripts are read by statements, and not lowered to an outline.

use crate::language::{Imports, Language, Layout, LegalNames, file_name};
use crate::outline::Outline;
use crate::quoting::case::Case;
use crate::quoting::identifier;

/// The language of scripts.
pub const SQL: Language = Language {
    id: "sql",
    extensions: &["sql"],
    grammar: None,
    lower: |_, _| Outline::default(),
    imports: Imports::Nothing,
    attribute_case: Case::Verbatim,
    names: LegalNames {
        attribute: |name, _| name.to_owned(),
        class: |name, _| identifier(name),
        module: file_name,
        member: str::to_owned,
        keywords: &[],
    },
    layout: Layout {
        comment: "--",
        block_comments: true,
        triple_quotes: false,
        backslashes: false,
    },
    code_stays: |_, same_framework| same_framework,
    shares_literals: false,
};
