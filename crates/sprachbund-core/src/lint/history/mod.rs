//! History: the declarations beside the tables that exist, or that the history makes.

mod declared_unlike_tables;
mod required_of_stored_rows;
mod step_loses_data;
mod step_without_way_back;
mod unique_of_stored_rows;

use super::Family;

pub(super) const FAMILY: Family = Family {
    name: "history",
    title: "History",
    about: "the declarations beside the tables that exist, or that the history makes",
    rules: &[
        declared_unlike_tables::RULE,
        required_of_stored_rows::RULE,
        step_loses_data::RULE,
        step_without_way_back::RULE,
        unique_of_stored_rows::RULE,
    ],
};
