//! `explain`: a rule's page, or a dialect's.

use sprachbund_core::dialect::{DIALECTS, nearest, page};
use sprachbund_core::lint::{RULES, rule};

use crate::arguments::ExplainOptions;
use crate::report::human::STRONG;
use crate::{Failure, Outcome};

pub(crate) fn run(options: &ExplainOptions) -> Result<Outcome, Failure> {
    let Some(topic) = &options.topic else {
        let mut out = format!("{STRONG}rules{STRONG:#}\n");
        out.extend(RULES.iter().map(|rule| format!("  {:<34} {}\n", rule.name, rule.finds)));
        out.push_str(&format!("\n{STRONG}dialects{STRONG:#}\n"));
        out.extend(DIALECTS.iter().map(|dialect| format!("  {:<34} what silence means in {}\n", dialect.id, dialect.framework)));
        super::print(&out)?;
        return Ok(Outcome::Clean);
    };
    let text = match (rule(topic), sprachbund_core::dialect::by_id(topic)) {
        (Some(rule), _) => page::of_rule(rule),
        (None, Some(dialect)) => page::of_dialect(dialect),
        (None, None) => {
            let topics = RULES.iter().map(|rule| rule.name).chain(DIALECTS.iter().map(|dialect| dialect.id));
            let hint = nearest(topic, topics)
                .map_or("`sprachbund explain` lists what there is".to_owned(), |name| format!("did you mean `{name}`?"));
            return Err(Failure(format!("there is no rule or dialect `{topic}`; {hint}")));
        }
    };
    super::print(&text)?;
    Ok(Outcome::Clean)
}
