//! Indexes: what is quick, what is unique, and what it costs.

mod index_begins_another;
mod index_method_unfit;
mod index_one_too_many;
mod index_over_boolean;
mod index_over_nothing;
mod index_said_twice;
mod lookup_not_unique;
mod reference_without_index;
mod state_without_index;
mod text_too_long_to_index;
mod unique_given_by_key;

use super::Family;

pub(super) const FAMILY: Family = Family {
    name: "indexes",
    title: "Indexes",
    about: "what is quick, what is unique, and what it costs",
    rules: &[
        index_begins_another::RULE,
        index_method_unfit::RULE,
        index_one_too_many::RULE,
        index_over_boolean::RULE,
        index_over_nothing::RULE,
        index_said_twice::RULE,
        lookup_not_unique::RULE,
        reference_without_index::RULE,
        state_without_index::RULE,
        text_too_long_to_index::RULE,
        unique_given_by_key::RULE,
    ],
};
