//! MariaDB 10.11, as seen. What it shares with MySQL stands there.

use super::{Comments, Drops, Enumerations, Server, Unbounded, WholeNumbers, mysql};
use crate::schema::{Entity, Unique};

pub(crate) const SERVER: Server = Server {
    id: "mariadb",
    title: "MariaDB",
    // Characters (documentation, "Identifier Names").
    identifier_limit: 64,
    keeps_documents: false,
    lacks: mysql::LACKS,
    words: mysql::WORDS,
    type_name: mysql::type_name,
    reads_itself: mysql::reads_itself,
    whole_numbers: WholeNumbers::SignedAndUnsigned,
    indexes_references: true,
    // It refuses the step where a unique constraint or the key has more columns, so nothing need be told apart.
    drops_column: Drops::ItsPlaceInKeys,
    keeps_fractions: false,
    enumerations: Enumerations::InColumns,
    unbounded: Unbounded::Digest,
    comments: Comments::InTables,
    arrays: false,
    adds_constraints: true,
    // Its grammar has no NOT NULL for them (documentation, "Generated Columns").
    generated_not_null: false,
    two_moments: false,
    makes_uuids: true,
    updates_columns: true,
    varchar_needs_length: true,
    numbers_rows: false,
    several_words: true,
    keeps_word: mysql::keeps_word,
};

/// Whether it keeps a text without a bound unique as a whole, by a digest: not where a numbered column stands beside it.
pub(crate) fn is_digested(entity: &Entity, unique: &Unique) -> bool {
    !unique.columns.iter().any(|column| entity.field(column).is_some_and(|field| field.identity.is_some()))
}
