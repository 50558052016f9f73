//! Types and defaults: what a column holds, and what it holds when nothing is said.

mod choice_longer_than_its_column;
mod decimal_without_digits;
mod default_never_used;
mod default_only_in_application;
mod default_taken_once;
mod default_unlike_its_type;
mod enumeration_as_free_text;
mod enumeration_by_position;
mod enumeration_value_twice;
mod flag_kept_as_other_type;
mod list_shared_as_default;
mod moment_kept_as_text;
mod money_in_binary_float;
mod namesakes_typed_differently;
mod text_unbounded_among_bounded;
mod time_without_zone;

use super::Family;

pub(super) const FAMILY: Family = Family {
    name: "types",
    title: "Types and defaults",
    about: "what a column holds, and what it holds when nothing is said",
    rules: &[
        choice_longer_than_its_column::RULE,
        decimal_without_digits::RULE,
        default_never_used::RULE,
        default_only_in_application::RULE,
        default_taken_once::RULE,
        default_unlike_its_type::RULE,
        enumeration_as_free_text::RULE,
        enumeration_by_position::RULE,
        enumeration_value_twice::RULE,
        flag_kept_as_other_type::RULE,
        list_shared_as_default::RULE,
        moment_kept_as_text::RULE,
        money_in_binary_float::RULE,
        namesakes_typed_differently::RULE,
        text_unbounded_among_bounded::RULE,
        time_without_zone::RULE,
    ],
};
