//! Pages made from the tables: what silence means in a dialect, what it can say, which words its
//! types have; and the page of a lint rule.

use crate::diagnostic::{Code, CodeFamily};
use crate::dialect::answers::{Answer, answers};
use crate::dialect::capabilities::FEATURES;
use crate::dialect::{Dialect, Medium, Settings};
use crate::lint::rule::Value;
use crate::lint::{Example, FAMILIES, Rule};
use crate::schema::Database;

/// What an older release answers, or can say, in another way than the newest.
fn of_release(dialect: &Dialect, release: &str) -> String {
    let at = |database: Database, version: Option<&str>| Settings {
        database: Some(database),
        version: version.map(str::to_owned),
        ..Settings::default()
    };
    let mut rows = String::new();
    let newest = |database: &Database| answers(&(dialect.conventions)(&at(*database, None)));
    let older =
        |database: &Database| answers(&(dialect.conventions)(&at(*database, Some(release))));
    let (newest, older): (Vec<_>, Vec<_>) =
        dialect.databases.iter().map(|database| (newest(database), older(database))).unzip();
    for (place, first) in older[0].iter().enumerate() {
        if older
            .iter()
            .zip(&newest)
            .any(|(older, newest)| older[place].answer != newest[place].answer)
        {
            rows.push_str(&row(
                first.question,
                older.iter().map(|list| list[place].answer.clone()),
            ));
        }
    }
    for (feature, words) in FEATURES {
        let has = |database: &Database, version| {
            (dialect.capabilities)(&at(*database, version)).has(*feature)
        };
        if dialect
            .databases
            .iter()
            .any(|database| has(database, None) != has(database, Some(release)))
        {
            let cell = |database: &Database| {
                if has(database, Some(release)) { "yes" } else { "no" }.to_owned()
            };
            rows.push_str(&row(words, dialect.databases.iter().map(cell)));
        }
    }
    let head = row(
        "question or feature",
        dialect.databases.iter().map(|database| database.id().to_owned()),
    );
    let line = row("---", dialect.databases.iter().map(|_| "---".to_owned()));
    format!("\n## What is different in {release}\n\n{head}{line}{rows}")
}

/// Markdown page of a dialect.
pub fn of_dialect(dialect: &Dialect) -> String {
    let against = match dialect.medium {
        Medium::Classes { .. } => format!("version {}", dialect.versions.join(", ")),
        Medium::Statements { .. } => dialect.versions.join(", "),
    };
    let mut out = format!("# {}\n\nChecked against {against}.\n", dialect.framework);
    if matches!(dialect.medium, Medium::Classes { .. }) && !dialect.unverified.is_empty() {
        let servers: Vec<&str> =
            dialect.unverified.iter().map(|database| database.title()).collect();
        let servers = servers.join(" and ");
        out.push_str(&format!(
            "What is said of {servers} is from documentation, unverified; of the other servers \
             it is checked.\n"
        ));
    }
    let settings =
        |database: Database| Settings { database: Some(database), ..Settings::default() };
    out.push_str("\n## What silence means\n\n");
    out.push_str(&row(
        "question",
        dialect.databases.iter().map(|database| database.id().to_owned()),
    ));
    out.push_str(&row("---", dialect.databases.iter().map(|_| "---".to_owned())));
    let answers: Vec<Vec<Answer>> = dialect
        .databases
        .iter()
        .map(|database| answers(&(dialect.conventions)(&settings(*database))))
        .collect();
    let applies =
        |answer: &Answer| matches!(dialect.medium, Medium::Classes { .. }) || answer.of_statements;
    for (at, first) in answers[0].iter().enumerate().filter(|(_, first)| applies(first)) {
        out.push_str(&row(first.question, answers.iter().map(|list| list[at].answer.clone())));
    }
    out.push_str("\n## What it can say\n\n");
    out.push_str(&row(
        "feature",
        dialect.databases.iter().map(|database| database.id().to_owned()),
    ));
    out.push_str(&row("---", dialect.databases.iter().map(|_| "---".to_owned())));
    for (feature, words) in FEATURES {
        let has = |database: &Database| {
            if (dialect.capabilities)(&settings(*database)).has(*feature) { "yes" } else { "no" }
                .to_owned()
        };
        out.push_str(&row(words, dialect.databases.iter().map(has)));
    }
    if matches!(dialect.medium, Medium::Classes { .. }) {
        dialect
            .versions
            .iter()
            .skip(1)
            .for_each(|release| out.push_str(&of_release(dialect, release)));
    }
    if let Medium::Statements { .. } = dialect.medium {
        for database in dialect.databases {
            out.push_str(&format!("\n## Words for types on {}\n\n", database.id()));
            out.push_str(&row("word", ["type".to_owned()]));
            out.push_str(&row("---", ["---".to_owned()]));
            out.extend(database.server().types().map(|(word, ty)| row(word, [ty.to_string()])));
        }
        return out;
    }
    dialect.databases.iter().for_each(|database| out.push_str(&words_of_types(dialect, *database)));
    out
}

/// The table of a dialect's words for types on a server.
fn words_of_types(dialect: &Dialect, database: Database) -> String {
    let settings = Settings { database: Some(database), ..Settings::default() };
    let mut out = format!("\n## Its words for types on {}\n\n", database.id());
    out.push_str(&row("word", ["type".to_owned(), "held as".to_owned(), "in the code".to_owned()]));
    out.push_str(&row("---", ["---".to_owned(), "---".to_owned(), "---".to_owned()]));
    let conventions = (dialect.conventions)(&settings);
    for ty in conventions.words.types.iter().filter(|ty| ty.is_on(database)) {
        let spelling = crate::declaration::Spelling::word(ty.word);
        let meant = ty.read(&spelling);
        let held = crate::dialect::type_table::stored(Some(ty), &meant, database, "").into_owned();
        let numbered = if ty.numbered { ", numbered" } else { "" };
        let positive = if ty.not_negative { ", never negative: checked, and on input" } else { "" };
        out.push_str(&row(
            ty.word,
            [format!("{meant}{numbered}{positive}"), held, ty.host.to_owned()],
        ));
    }
    out
}

fn row(first: &str, rest: impl IntoIterator<Item = String>) -> String {
    let cells = rest.into_iter().map(|cell| cell.replace('|', "\\|")).collect::<Vec<_>>();
    format!("| {first} | {} |\n", cells.join(" | "))
}

/// Markdown page of a kind of message: of a difference, or of something that reading says.
pub fn of_code(code: &Code) -> String {
    let (name, severity) = (code.name, code.severity.word());
    let (family, about) = code.family.words();
    let head = format!("# {name}\n\nTells of {}. Severity: {severity}.\n", code.finds);
    let follows = match code.follows {
        "" => String::new(),
        follows => format!("\n## What follows from it\n\n{follows}\n"),
    };
    let settings = match code.family {
        CodeFamily::Difference => {
            format!(
                "To disregard it: `disregard = [\"{name}\"]` under `[compare]` in sprachbund.toml."
            )
        }
        _ => {
            let rule = claiming(code);
            let place = of_place(rule.map_or(name, |rule| rule.name));
            let grade = if rule.is_some() { "" } else { ", or another severity" };
            format!(
                "Family: {family} ({about}). {place} Everywhere: `{name} = \"off\"` under \
                 `[lint.rules]` in sprachbund.toml{grade}."
            )
        }
    };
    let lint = claiming(code).map_or(String::new(), |rule| {
        format!("\n`lint` tells it as a finding of [{0}]({0}.md).\n", rule.name)
    });
    let advice = sentence(code.advice);
    format!("{head}{follows}\n## What to do\n\n{advice}\n{lint}\n{settings}\n")
}

/// The rule that tells what readers say of this kind.
fn claiming(code: &Code) -> Option<&'static Rule> {
    crate::lint::rules().find(|rule| rule.raised.contains(&code.name))
}

/// How a finding is accepted at its place, and for an entity or a file.
fn of_place(name: &str) -> String {
    format!(
        "At one place: `sprachbund: accept {name}: REASON` in a comment on the line or above \
         it. For an entity or a file: `[[lint.accept]]` in sprachbund.toml."
    )
}

/// Markdown page of all that reading may say.
pub fn of_reading() -> String {
    let mut out =
        "# What reading says\n\nWhat could not be read, or could not be known, is named; \
         `sprachbund explain NAME` tells more of each.\n"
            .to_owned();
    for family in CodeFamily::ALL.iter().filter(|family| **family != CodeFamily::Difference) {
        let (title, about) = family.words();
        out.push_str(&format!("\n## {}\n\n{}\n\n", capital(title), sentence(about)));
        out.push_str(&row(
            "name",
            ["severity".to_owned(), "tells of".to_owned(), "what to do".to_owned()],
        ));
        out.push_str(&row("---", ["---".to_owned(), "---".to_owned(), "---".to_owned()]));
        let mut codes: Vec<&Code> =
            crate::codes::of_reading().filter(|code| code.family == *family).collect();
        codes.sort_by_key(|code| code.name);
        out.extend(codes.iter().map(|code| {
            let cells = [code.severity.word(), code.finds, code.advice].map(str::to_owned);
            row(&format!("`{}`", code.name), cells)
        }));
    }
    out
}

fn sentence(text: &str) -> String {
    format!("{}.", capital(text))
}

fn capital(text: &str) -> String {
    let mut letters = text.chars();
    letters
        .next()
        .map_or(String::new(), |first| format!("{}{}", first.to_uppercase(), letters.as_str()))
}

/// Markdown page of a rule.
pub fn of_rule(rule: &Rule) -> String {
    let name = rule.name;
    let mut out = format!(
        "# {name}\n\nFinds {}. Severity: {}.\n\n## What follows from it\n\n{}\n\n```sql\n{}\n\
         ```\n\n## How to mend it\n\n{}\n\n## When to turn it off\n\n{}\n\n",
        rule.finds,
        rule.severity.word(),
        squeezed(rule.consequence),
        rule.sql,
        squeezed(rule.cure),
        squeezed(rule.exception),
    );
    out.push_str(&format!(
        "{} Everywhere: `{name} = \"off\"` under `[lint.rules]`.\n\n",
        of_place(name)
    ));
    if !rule.parameters.is_empty() {
        out.push_str(&format!("## What it may be told\n\nUnder `[lint.parameters.{name}]`:\n\n"));
        out.extend(rule.parameters.iter().map(|parameter| {
            let value = match parameter.value {
                Value::Number(number) => number.to_string(),
                Value::Words(words) => format!("{words:?}"),
            };
            format!("- `{} = {value}`: {}\n", parameter.name, parameter.says)
        }));
        out.push('\n');
    }
    out + &format!("## Wrong\n\n{}\n## Right\n\n{}", example(&rule.wrong), example(&rule.right))
}

/// Markdown page of all rules: a table for each family, with links to their pages.
pub fn of_rules() -> String {
    let mut out =
        "# Rules\n\nEach rule has a page here; `sprachbund explain RULE` shows the same. Which \
         rule finds what in which dialect stands in \
         [in-which-dialects.md](in-which-dialects.md).\n"
            .to_owned();
    for family in FAMILIES {
        out.push_str(&format!("\n## {}\n\n{}\n\n", family.title, sentence(family.about)));
        out.push_str(&row("rule", ["severity".to_owned(), "finds".to_owned()]));
        out.push_str(&row("---", ["---".to_owned(), "---".to_owned()]));
        out.extend(family.rules.iter().map(|rule| {
            row(
                &format!("[{0}]({0}.md)", rule.name),
                [rule.severity.word().to_owned(), rule.finds.to_owned()],
            )
        }));
    }
    out
}

fn squeezed(text: &str) -> String {
    text.split_whitespace().collect::<Vec<_>>().join(" ")
}

fn example(example: &Example) -> String {
    let on = match example.database {
        usual if usual == Database::default() => String::new(),
        database => format!(" on {}", database.title()),
    };
    let to = example.to.map_or(String::new(), |to| format!(" carried to {to}"));
    let said = if on.is_empty() && to.is_empty() {
        String::new()
    } else {
        format!("For {}{on}{to}:\n\n", example.dialect)
    };
    let beside = example.beside.map_or(String::new(), |script| {
        format!("\nBeside it:\n\n```sql\n{}\n```\n", script.trim_end())
    });
    format!("{said}```{}\n{}\n```\n{beside}", example.language(), example.text.trim_end())
}
