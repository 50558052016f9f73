//! Pages made from the tables: what silence means in a dialect, what it can say, which words its types have; and the
//! page of a lint rule.

use super::capabilities::FEATURES;
use super::{Dialect, Medium, Settings};
use crate::compare::Code;
use crate::lint::{Example, Rule};
use crate::schema::Database;

/// The questions that statements leave open; the others are about classes.
const ASKED_OF_STATEMENTS: &[&str] = &[
    "Is a silent column null?",
    "How does a generated key get its numbers?",
    "Is the column of a relation indexed?",
    "Who acts when the target of a relation is deleted?",
    "When is a foreign key checked?",
    "What is the other side of a silent relation called?",
    "Are comments kept in the database?",
    "How long may a name be (bytes)?",
];

/// Markdown page of a dialect.
pub fn of_dialect(dialect: &Dialect) -> String {
    let against = match dialect.medium {
        Medium::Classes { .. } => format!("version {}", dialect.versions.join(", ")),
        Medium::Statements { .. } => dialect.versions.join(", "),
    };
    let mut out = format!("# {}\n\nChecked against {against}.\n", dialect.framework);
    if matches!(dialect.medium, Medium::Classes { .. }) && !dialect.unverified.is_empty() {
        let servers: Vec<&str> = dialect.unverified.iter().map(|database| database.title()).collect();
        let servers = servers.join(" and ");
        out.push_str(&format!("What is said of {servers} is from documentation, unverified; of the other servers it is checked.\n"));
    }
    let settings = |database: Database| Settings { database: Some(database), ..Settings::default() };
    out.push_str("\n## What silence means\n\n");
    out.push_str(&row("question", dialect.databases.iter().map(|database| database.id().to_owned())));
    out.push_str(&row("---", dialect.databases.iter().map(|_| "---".to_owned())));
    let answers: Vec<Vec<(&str, String)>> =
        dialect.databases.iter().map(|database| (dialect.conventions)(&settings(*database)).answers()).collect();
    let applies = |question: &str| matches!(dialect.medium, Medium::Classes { .. }) || ASKED_OF_STATEMENTS.contains(&question);
    for (at, (question, _)) in answers[0].iter().enumerate().filter(|(_, (question, _))| applies(question)) {
        out.push_str(&row(
            question,
            answers.iter().map(|list| if list[at].1 == usize::MAX.to_string() { "any length".into() } else { list[at].1.clone() }),
        ));
    }
    out.push_str("\n## What it can say\n\n");
    out.push_str(&row("feature", dialect.databases.iter().map(|database| database.id().to_owned())));
    out.push_str(&row("---", dialect.databases.iter().map(|_| "---".to_owned())));
    for (feature, words) in FEATURES {
        let has = |database: &Database| if (dialect.capabilities)(&settings(*database)).has(*feature) { "yes" } else { "no" }.to_owned();
        out.push_str(&row(words, dialect.databases.iter().map(has)));
    }
    if let Medium::Statements { .. } = dialect.medium {
        for database in dialect.databases {
            out.push_str(&format!("\n## Words for types on {}\n\n", database.id()));
            out.push_str(&row("word", ["type".to_owned()]));
            out.push_str(&row("---", ["---".to_owned()]));
            out.extend(super::sql::words(*database).map(|(word, ty)| row(word, [ty.to_string()])));
        }
        return out;
    }
    for database in dialect.databases {
        out.push_str(&format!("\n## Its words for types on {}\n\n", database.id()));
        out.push_str(&row("word", ["type".to_owned(), "held as".to_owned(), "in the code".to_owned()]));
        out.push_str(&row("---", ["---".to_owned(), "---".to_owned(), "---".to_owned()]));
        let conventions = (dialect.conventions)(&settings(*database));
        for ty in conventions.types.iter().filter(|ty| ty.only_on.is_none_or(|only| only == *database)) {
            let spelling = crate::declaration::Spelling::word(ty.word);
            let meant = ty.read(&spelling);
            let held = super::type_table::stored(Some(ty), &meant, *database, "").into_owned();
            let numbered = if ty.numbered { ", numbered" } else { "" };
            out.push_str(&row(ty.word, [format!("{meant}{numbered}"), held, ty.host.to_owned()]));
        }
    }
    out
}

fn row(first: &str, rest: impl IntoIterator<Item = String>) -> String {
    let cells = rest.into_iter().map(|cell| cell.replace('|', "\\|")).collect::<Vec<_>>();
    format!("| {first} | {} |\n", cells.join(" | "))
}

/// Markdown page of a kind of difference.
pub fn of_code(code: &Code) -> String {
    let severity = code.severity.word();
    format!(
        "# {}\n\nTells of {}. Severity: {severity}.\n\n## What to do\n\n{}\n\nTo disregard it: `disregard = [\"{}\"]` under `[compare]` in sprachbund.toml.\n",
        code.name,
        code.finds,
        sentence(code.advice),
        code.name
    )
}

fn sentence(text: &str) -> String {
    let mut letters = text.chars();
    letters.next().map_or(String::new(), |first| format!("{}{}.", first.to_uppercase(), letters.as_str()))
}

/// Markdown page of a rule.
pub fn of_rule(rule: &Rule) -> String {
    format!(
        "# {}\n\nFinds {}. Severity: {}.\n\n## What follows from it\n\n{}\n\n## How to mend it\n\n{}\n\n## When to turn it off\n\n{}\n\n\
         At one place: `sprachbund: accept {}: REASON` in a comment on the line or above it. Everywhere: `{} = \"off\"` under \
         `[lint.rules]` in sprachbund.toml.\n\n## Wrong\n\n{}\n## Right\n\n{}",
        rule.name,
        rule.finds,
        rule.severity.word(),
        squeezed(rule.consequence),
        squeezed(rule.cure),
        squeezed(rule.exception),
        rule.name,
        rule.name,
        example(&rule.wrong),
        example(&rule.right)
    )
}

fn squeezed(text: &str) -> String {
    text.split_whitespace().collect::<Vec<_>>().join(" ")
}

fn example(example: &Example) -> String {
    let language = match example.dialect {
        "django" => "python",
        "typeorm" => "typescript",
        _ => "json",
    };
    format!("```{language}\n{}\n```\n", example.text.trim_end())
}
