//! `explain`: the page of a rule, of something that reading says, of a kind of difference, or of a
//! dialect.

use sprachbund_core::codes;
use sprachbund_core::diagnostic::CodeFamily;
use sprachbund_core::dialect::nearest;
use sprachbund_core::dialects::{DIALECTS, by_id};
use sprachbund_core::lint::{FAMILIES, rule, rules};
use sprachbund_core::pages as page;

use crate::arguments::ExplainOptions;
use crate::report::human::{FAINT, STRONG};
use crate::{Failure, Outcome, output};

pub(crate) fn run(options: &ExplainOptions) -> Result<Outcome, Failure> {
    let Some(topic) = &options.topic else {
        output::page(&everything())?;
        return Ok(Outcome::Clean);
    };
    let text = match (rule(topic), codes::code(topic), by_id(topic)) {
        (Some(rule), ..) => page::of_rule(rule),
        (_, Some(code), _) => page::of_code(code),
        (.., Some(dialect)) => page::of_dialect(dialect),
        (None, None, None) => return Err(unknown(topic)),
    };
    output::page(&text)?;
    Ok(Outcome::Clean)
}

/// Every topic, with one line about it.
fn everything() -> String {
    let mut out = String::new();
    for family in FAMILIES {
        out.push_str(&head(family.title, family.about));
        out.extend(family.rules.iter().map(|rule| line(rule.name, rule.finds)));
        out.push('\n');
    }
    for family in CodeFamily::ALL {
        let (title, about) = family.words();
        out.push_str(&head(title, about));
        let mut of_family: Vec<_> = codes::all().filter(|code| code.family == family).collect();
        of_family.sort_by_key(|code| code.name);
        out.extend(of_family.iter().map(|code| line(code.name, code.finds)));
        out.push('\n');
    }
    out.push_str(&head("dialects", "what silence means in each"));
    let meaning = |framework: &str| format!("what silence means in {framework}");
    out.extend(DIALECTS.iter().map(|dialect| line(dialect.id, &meaning(dialect.framework))));
    out
}

fn head(title: &str, about: &str) -> String {
    format!("{STRONG}{title}{STRONG:#} {FAINT}{about}{FAINT:#}\n")
}

fn line(name: &str, about: &str) -> String {
    format!("  {name:<34} {about}\n")
}

fn unknown(topic: &str) -> Failure {
    let topics = rules().map(|rule| rule.name).chain(codes::all().map(|code| code.name));
    let topics = topics.chain(DIALECTS.iter().map(|dialect| dialect.id));
    let hint = nearest(topic, topics)
        .map_or("`sprachbund explain` lists what there is".to_owned(), |name| {
            format!("did you mean `{name}`?")
        });
    Failure(format!("there is no rule, message, difference or dialect `{topic}`; {hint}"))
}
