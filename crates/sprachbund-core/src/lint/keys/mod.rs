//! Keys: what tells one record from another.

mod entity_without_key;
mod key_begins_with_few_values;
mod key_in_binary_float;
mod key_left_to_caller;
mod key_made_twice;
mod key_runs_out;
mod key_types_mixed;

use super::Family;

pub(super) const FAMILY: Family = Family {
    name: "keys",
    title: "Keys",
    about: "what tells one record from another",
    rules: &[
        entity_without_key::RULE,
        key_begins_with_few_values::RULE,
        key_in_binary_float::RULE,
        key_left_to_caller::RULE,
        key_made_twice::RULE,
        key_runs_out::RULE,
        key_types_mixed::RULE,
    ],
};
