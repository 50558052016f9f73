//! What reading TypeORM entities may say, beside what any dialect may.

use sprachbund_schema::diagnostic::{Code, CodeFamily, Severity};

pub(crate) use sprachbund_dialect::codes::*;

/// All of them, sorted by name.
pub(crate) const CODES: &[Code] = &[COMPOSITE_JOIN_TABLE];

pub(crate) const COMPOSITE_JOIN_TABLE: Code = Code {
    name: "composite-join-table",
    severity: Severity::Error,
    family: CodeFamily::Unread,
    finds: "a join table that refers to a key of several columns",
    follows: "Only the first column is read.",
    advice: "declare the join table as an entity of its own",
};
