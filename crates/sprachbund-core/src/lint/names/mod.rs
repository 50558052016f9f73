//! Names: what tables and columns are called.

mod case_styles_mixed;
mod index_name_taken;
mod name_kept_by_host;
mod name_needs_quotes;
mod name_too_long;
mod names_fold_together;
mod number_of_table_names_mixed;
mod table_declared_twice;
mod word_reserved_by_sql;

use super::Family;

pub(super) const FAMILY: Family = Family {
    name: "names",
    title: "Names",
    about: "what tables and columns are called",
    rules: &[
        case_styles_mixed::RULE,
        index_name_taken::RULE,
        name_kept_by_host::RULE,
        name_needs_quotes::RULE,
        name_too_long::RULE,
        names_fold_together::RULE,
        number_of_table_names_mixed::RULE,
        table_declared_twice::RULE,
        word_reserved_by_sql::RULE,
    ],
};
