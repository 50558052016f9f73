//! Names of what nobody named, as releases 6.1.7.10 to 8.1.4 give them.

use sha2::{Digest, Sha256};

use crate::schema::Database;

/// The longest name that is shortened to (the limit of PostgreSQL less one, whatever the server).
const LONGEST_SHORTENED: usize = 62;

/// `index_berths_on_quay_id_and_number`.
pub(crate) fn index(table: &str, columns: &[&str]) -> String {
    format!("index_{table}_on_{}", columns.join("_and_"))
}

/// The same where that is longer than the server lets names be: `idx_on_quay_id_number_` and ten
/// digits of the digest of the long one.
pub(crate) fn short_index(table: &str, columns: &[&str]) -> String {
    let digits = digest(&index(table, columns));
    let joined = format!("idx_on_{}", columns.join("_"));
    let room = LONGEST_SHORTENED - digits.len() - 1;
    let head: String = joined.chars().take(room).collect();
    format!("{head}_{digits}")
}

/// Either of them, as a server's limit has it.
pub(crate) fn of_index(table: &str, columns: &[&str], database: Database) -> String {
    let name = index(table, columns);
    match name.len() > database.server().identifier_limit.min(64) {
        true => short_index(table, columns),
        false => name,
    }
}

/// `fk_rails_` and ten digits of the digest of the table and the columns.
pub(crate) fn foreign_key(table: &str, columns: &[&str]) -> String {
    format!("fk_rails_{}", digest(&format!("{table}_{}_fk", columns.join("_and_"))))
}

/// `chk_rails_` and ten digits of the digest of the table and the expression.
pub(crate) fn check(table: &str, expression: &str) -> String {
    format!("chk_rails_{}", digest(&format!("{table}_{expression}_chk")))
}

/// `excl_rails_` and ten digits of the digest of the table and the expression.
pub(crate) fn exclusion(table: &str, expression: &str) -> String {
    format!("excl_rails_{}", digest(&format!("{table}_{expression}_excl")))
}

/// `uniq_rails_` and ten digits of the digest of the table and the columns.
pub(crate) fn unique(table: &str, columns: &[&str]) -> String {
    format!("uniq_rails_{}", digest(&format!("{table}_{}_unique", columns.join("_and_"))))
}

fn digest(text: &str) -> String {
    let digest = Sha256::digest(text.as_bytes());
    digest.iter().take(5).map(|byte| format!("{byte:02x}")).collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn names_as_the_framework_gave_them() {
        assert_eq!(index("berths", &["quay_id", "number"]), "index_berths_on_quay_id_and_number");
        assert_eq!(foreign_key("buoys", &["anchored_to_id"]), "fk_rails_c000fe6d1f");
        assert_eq!(foreign_key("slot_bookings", &["berth_id", "slot_no"]), "fk_rails_9f7de801bd");
        assert_eq!(check("pilots", "licence_no > 0"), "chk_rails_777ab736ec");
    }
}
