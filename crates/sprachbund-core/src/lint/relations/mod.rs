//! Relations: what refers to what, and what becomes of it on deletion.

mod cascade_in_circle;
mod cascade_reaches_far;
mod default_missing_on_delete;
mod deletion_left_open;
mod join_pair_not_unique;
mod one_to_one_not_unique;
mod reference_in_name_only;
mod reference_narrower_than_its_target;
mod reference_said_twice;
mod reference_to_not_unique;
mod reference_to_nothing;
mod reference_unlike_its_target;
mod reference_without_constraint;
mod relation_known_to_one_side;
mod relation_named_like_its_column;
mod relation_to_anything;
mod set_null_on_required;
mod sides_disagree;

use super::Family;

pub(super) const FAMILY: Family = Family {
    name: "relations",
    title: "Relations",
    about: "what refers to what, and what becomes of it on deletion",
    rules: &[
        cascade_in_circle::RULE,
        cascade_reaches_far::RULE,
        default_missing_on_delete::RULE,
        deletion_left_open::RULE,
        join_pair_not_unique::RULE,
        one_to_one_not_unique::RULE,
        reference_in_name_only::RULE,
        reference_narrower_than_its_target::RULE,
        reference_said_twice::RULE,
        reference_to_not_unique::RULE,
        reference_to_nothing::RULE,
        reference_unlike_its_target::RULE,
        reference_without_constraint::RULE,
        relation_known_to_one_side::RULE,
        relation_named_like_its_column::RULE,
        relation_to_anything::RULE,
        set_null_on_required::RULE,
        sides_disagree::RULE,
    ],
};
