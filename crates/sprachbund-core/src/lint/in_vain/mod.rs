//! Said in vain: what its author believes in, and no database has.

mod action_of_application_only;
mod check_over_nothing;
mod length_in_vain;
mod limit_of_application_only;
mod not_made_here;
mod option_in_vain;
mod order_by_nothing;

use super::Family;

pub(super) const FAMILY: Family = Family {
    name: "in-vain",
    title: "Said in vain",
    about: "what its author believes in, and no database has",
    rules: &[
        action_of_application_only::RULE,
        check_over_nothing::RULE,
        length_in_vain::RULE,
        limit_of_application_only::RULE,
        not_made_here::RULE,
        option_in_vain::RULE,
        order_by_nothing::RULE,
    ],
};
