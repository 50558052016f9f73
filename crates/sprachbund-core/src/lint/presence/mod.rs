//! Presence: whether a value may be missing, said in several places.

mod boolean_with_three_answers;
mod key_may_be_null;
mod null_beside_default;
mod presence_disagrees;
mod rows_need_each_other;
mod text_with_two_empties;
mod unique_lets_nulls_repeat;

use super::Family;

pub(super) const FAMILY: Family = Family {
    name: "presence",
    title: "Presence",
    about: "whether a value may be missing, said in several places",
    rules: &[
        boolean_with_three_answers::RULE,
        key_may_be_null::RULE,
        null_beside_default::RULE,
        presence_disagrees::RULE,
        rows_need_each_other::RULE,
        text_with_two_empties::RULE,
        unique_lets_nulls_repeat::RULE,
    ],
};
