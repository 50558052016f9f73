//! What readers of several dialects say in the same words.

use crate::codes;
use crate::diagnostic::Diagnostic;
use crate::source::Span;

/// What is said of a table that inherits from another: the schema has its columns, and no
/// inheritance of rows.
pub fn inherits(child: &str, parent: &str) -> Diagnostic {
    let message = format!(
        "`{child}` inherits from `{parent}`: it has the columns, but its rows no longer show up \
         there"
    );
    Diagnostic::of(&codes::TABLE_INHERITS, message)
        .with_help("query both tables where the parent was queried, or make a view over them")
}

/// What is said of a migration that nothing takes back.
pub fn one_way(first: Span) -> Diagnostic {
    Diagnostic::of(&codes::ONE_WAY_STEP, "nothing takes this migration back")
        .at(Some(first), "its first step")
        .because("a release that must be taken back leaves the tables of the new one behind")
        .with_help("write the steps back, or say there that there are none by raising an error")
}
