//! Comparing: two descriptions of one schema, whatever each is written in.

use super::{Read, Session};
use crate::compare::{Comparison, Side, compare, joined};
use crate::diagnostic::Diagnostic;
use crate::fit::carried;
use crate::schema::{Database, Schema};
use crate::source::Sources;

/// How two descriptions differ.
pub struct Compared {
    pub comparison: Comparison,
    /// The server on which they were compared.
    pub database: Database,
    /// Of both sides, the left one's first.
    pub sources: Sources,
    /// Number of the left side's files.
    pub shift: usize,
}

impl Compared {
    /// Each difference with its places.
    pub fn diagnostics(&self) -> Vec<Diagnostic> {
        self.comparison.found.iter().map(|found| found.diagnostic(self.shift)).collect()
    }
}

impl Session<'_> {
    /// Compares on a server; on the one that both are meant for, if none is named.
    pub fn compare(&self, left: &Read, right: &Read, database: Option<Database>) -> Compared {
        let database = database.unwrap_or_else(|| meant(left, right));
        let (left_tables, right_tables) = (as_tables(left, right), as_tables(right, left));
        let capabilities = [left, right].map(|side| (side.dialect.capabilities)(&side.settings));
        let comparison = compare(
            &Side { schema: &left_tables, capabilities: &capabilities[0] },
            &Side { schema: &right_tables, capabilities: &capabilities[1] },
            database,
        );
        let shift = left.sources.files.len();
        let sources = joined(left.sources.clone(), right.sources.clone());
        Compared { comparison, database, sources, shift }
    }
}

/// Documents are set beside tables as the tables that they would be.
fn as_tables<'s>(side: &'s Read, other: &Read) -> std::borrow::Cow<'s, Schema> {
    if side.dialect.keeps_documents() && !other.dialect.keeps_documents() {
        return carried(&side.schema, other.dialect, other.schema.source.database);
    }
    std::borrow::Cow::Borrowed(&side.schema)
}

/// The server that both are meant for; a script or a database knows it better than declarations do.
fn meant(left: &Read, right: &Read) -> Database {
    let knows = |read: &Read| read.settings.database.is_some();
    let known = if knows(right) && !knows(left) { right } else { left };
    known.schema.source.database
}
