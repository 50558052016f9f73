//! `explain`: the page of a rule, of a kind of difference, or of a dialect.

use sprachbund_core::compare::CODES;
use sprachbund_core::dialect::nearest;
use sprachbund_core::dialects::DIALECTS;
use sprachbund_core::lint::{FAMILIES, rule, rules};
use sprachbund_core::pages as page;

use crate::arguments::ExplainOptions;
use crate::report::human::{FAINT, STRONG};
use crate::{Failure, Outcome, output};

pub(crate) fn run(options: &ExplainOptions) -> Result<Outcome, Failure> {
    let Some(topic) = &options.topic else {
        let mut out = String::new();
        for family in FAMILIES {
            out.push_str(&format!(
                "{STRONG}{}{STRONG:#} {FAINT}{}{FAINT:#}\n",
                family.title, family.about
            ));
            out.extend(
                family.rules.iter().map(|rule| format!("  {:<34} {}\n", rule.name, rule.finds)),
            );
            out.push('\n');
        }
        out.push_str(&format!("{STRONG}differences{STRONG:#}\n"));
        out.extend(CODES.iter().map(|code| format!("  {:<34} {}\n", code.name, code.finds)));
        out.push_str(&format!("\n{STRONG}dialects{STRONG:#}\n"));
        out.extend(DIALECTS.iter().map(|dialect| {
            format!("  {:<34} what silence means in {}\n", dialect.id, dialect.framework)
        }));
        output::page(&out)?;
        return Ok(Outcome::Clean);
    };
    let code = CODES.iter().find(|code| code.name == topic);
    let text = match (rule(topic), code, sprachbund_core::dialects::by_id(topic)) {
        (Some(rule), ..) => page::of_rule(rule),
        (_, Some(code), _) => page::of_code(code),
        (.., Some(dialect)) => page::of_dialect(dialect),
        (None, None, None) => {
            let topics = rules().map(|rule| rule.name).chain(CODES.iter().map(|code| code.name));
            let topics = topics.chain(DIALECTS.iter().map(|dialect| dialect.id));
            let hint = nearest(topic, topics)
                .map_or("`sprachbund explain` lists what there is".to_owned(), |name| {
                    format!("did you mean `{name}`?")
                });
            return Err(Failure(format!(
                "there is no rule, difference or dialect `{topic}`; {hint}"
            )));
        }
    };
    output::page(&text)?;
    Ok(Outcome::Clean)
}
