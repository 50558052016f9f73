//! Life cycle: when a record was made, changed, deleted, and by which version.

mod deleted_still_unique;
mod deletion_marked_in_part;
mod time_of_one_kind_only;
mod time_that_nothing_fills;
mod update_time_left_to_application;
mod version_without_lock;

use super::Family;

pub(super) const FAMILY: Family = Family {
    name: "life-cycle",
    title: "Life cycle",
    about: "when a record was made, changed, deleted, and by which version",
    rules: &[
        deleted_still_unique::RULE,
        deletion_marked_in_part::RULE,
        time_of_one_kind_only::RULE,
        time_that_nothing_fills::RULE,
        update_time_left_to_application::RULE,
        version_without_lock::RULE,
    ],
};
