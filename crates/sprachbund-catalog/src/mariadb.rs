//! The catalog of MariaDB: it gives defaults and expressions as SQL. Seen in 10.11.19 and 11.8.9.

use sprachbund_core::schema::Database;

use crate::information_schema::{Catalog, Column, CutShort};

pub(crate) const CATALOG: Catalog = Catalog {
    database: Database::MariaDb,
    // Before it, nothing says which indexes queries do without (documentation, "Ignored Indexes",
    // unverified).
    oldest: ((10, 6), "MariaDB 10.6"),
    columns: "SELECT table_name, column_name, column_type, is_nullable, column_default, extra, \
              column_comment, generation_expression,
        collation_name, NULL
    FROM information_schema.columns WHERE table_schema = DATABASE() ORDER BY table_name, \
              ordinal_position",
    indexes: "SELECT table_name, index_name, non_unique, column_name, collation, index_type, \
              sub_part, NULL, ignored = 'YES'
    FROM information_schema.statistics
    WHERE table_schema = DATABASE() ORDER BY table_name, index_name, seq_in_index",
    checks: "SELECT table_name, constraint_name, check_clause, 0, level = 'Column'
    FROM information_schema.check_constraints
    WHERE constraint_schema = DATABASE() ORDER BY table_name, constraint_name",
    limit: |answer| format!("SET SESSION max_statement_time = {}", answer.as_secs()),
    default,
    expression: str::to_owned,
    hidden_index: " IGNORED",
};

/// The text `NULL` is no default; that of a text would stand in quotes.
fn default(column: &Column) -> Result<Option<String>, CutShort> {
    let Some(default) = column.default.as_deref().filter(|default| *default != "NULL") else {
        return Ok(None);
    };
    let moment = default.starts_with("current_timestamp");
    Ok(Some(if moment { default.trim_end_matches("()") } else { default }.to_owned()))
}
