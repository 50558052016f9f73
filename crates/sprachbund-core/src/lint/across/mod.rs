//! Across dialects: the same words with another meaning in the dialect that they are carried to.

mod default_kept_elsewhere;
mod other_side_not_made_there;
mod reference_checked_elsewhen;
mod same_word_other_type;
mod silent_deletion_elsewhere;
mod silent_index_elsewhere;
mod silent_name_elsewhere;
mod silent_null_elsewhere;
mod silent_number_elsewhere;
mod time_filled_by_another;
mod unique_null_elsewhere;
mod whole_number_lacking_there;

use super::Family;

pub(super) const FAMILY: Family = Family {
    name: "across",
    title: "Across dialects",
    about: "the same words with another meaning in the dialect that they are carried to",
    rules: &[
        default_kept_elsewhere::RULE,
        other_side_not_made_there::RULE,
        reference_checked_elsewhen::RULE,
        same_word_other_type::RULE,
        silent_deletion_elsewhere::RULE,
        silent_index_elsewhere::RULE,
        silent_name_elsewhere::RULE,
        silent_null_elsewhere::RULE,
        silent_number_elsewhere::RULE,
        time_filled_by_another::RULE,
        unique_null_elsewhere::RULE,
        whole_number_lacking_there::RULE,
    ],
};
