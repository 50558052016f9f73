//! Every rule on its own examples, as they stand and in every other dialect that can say them.

use std::collections::BTreeSet;

use super::*;
use crate::diagnostic::Safety;
use crate::dialect::{Dialect, Medium, Settings};
use crate::dialects::{DIALECTS, by_id};
use crate::elide::printed;
use crate::fit::{fit, suit};
use crate::reading::{Reading, read};
use crate::schema::Entity;
use crate::source::NoFiles;

/// Findings of one rule in an example.
fn findings(rule: &Rule, example: &Example) -> Vec<Diagnostic> {
    let dialect = by_id(example.dialect).expect("a dialect");
    let (reading, settings) =
        reading(dialect, example, format!("{}{}", example.head(), example.text));
    assert!(!reading.schema.entities.is_empty(), "{}: nothing read of {}", rule.name, example.text);
    found(rule, example, &reading, &settings)
}

fn reading(dialect: &'static Dialect, example: &Example, text: String) -> (Reading, Settings) {
    let mut settings = Settings {
        database: Some(dialect.database(Some(example.database))),
        ..Settings::default()
    };
    let path = format!("harbour/models.{}", dialect.extensions[0]);
    (read(vec![(path, text)], dialect, &mut settings, &NoFiles), settings)
}

/// The tables beside an example, if it has some.
fn beside(dialect: &Dialect, example: &Example, files: usize) -> Option<Beside> {
    let sql = by_id("sql").expect("a dialect");
    let (tables, settings) = reading(sql, example, example.beside?.to_owned());
    Some(Beside::new(tables.schema, dialect, sql, &settings, files))
}

fn found(
    rule: &Rule,
    example: &Example,
    reading: &Reading,
    settings: &Settings,
) -> Vec<Diagnostic> {
    let dialect = by_id(&reading.schema.source.dialect).expect("a dialect");
    let conventions = (dialect.conventions)(settings);
    let target =
        example.to.and_then(by_id).map(|target| Target::new(target, None, &reading.schema));
    let beside = beside(dialect, example, reading.sources.files.len());
    let mut only = LintSettings::default();
    only.severities.extend(
        rules().filter(|other| other.name != rule.name).map(|other| (other.name.to_owned(), None)),
    );
    lint(&Linting {
        schema: &reading.schema,
        conventions: &conventions,
        sources: &reading.sources,
        raised: &reading.diagnostics,
        target: target.as_ref(),
        beside: beside.as_ref(),
        settings: &only,
    })
    .found
}

#[test]
fn every_rule_finds_its_wrong_example_and_not_its_right_one() {
    let mut wrong = Vec::new();
    for rule in rules() {
        let cases = [(1, rule.wrong), (0, rule.right)];
        for (at, (count, example)) in cases.iter().chain(rule.cases).enumerate() {
            let found = findings(rule, example);
            // The wrong example may show a rule several times.
            if if at == 0 { found.is_empty() } else { found.len() != *count } {
                let messages: Vec<&str> = found.iter().map(|one| one.message.as_str()).collect();
                wrong.push(format!(
                    "{}: {count} expected, found {messages:?}\n{}",
                    rule.name, example.text
                ));
            }
        }
    }
    assert!(wrong.is_empty(), "{} cases fail:\n{}", wrong.len(), wrong.join("\n"));
}

#[test]
fn every_rule_file_is_registered_and_each_list_is_sorted() {
    for family in FAMILIES {
        let folder =
            format!("{}/src/lint/{}", env!("CARGO_MANIFEST_DIR"), family.name.replace('-', "_"));
        let mut files: Vec<String> = std::fs::read_dir(folder)
            .expect("the family's folder")
            .flatten()
            .map(|entry| {
                entry.file_name().to_string_lossy().trim_end_matches(".rs").replace('_', "-")
            })
            .filter(|name| name != "mod")
            .collect();
        files.sort();
        let names: Vec<&str> = family.rules.iter().map(|rule| rule.name).collect();
        assert_eq!(names, files, "add the missing file to the family's list");
    }
}

/// What a rule finds in a schema, whoever wrote it: tables and their elements.
fn subjects(
    rule: &Rule,
    example: &Example,
    dialect: &Dialect,
    schema: &Schema,
    settings: &Settings,
) -> BTreeSet<(String, String)> {
    let conventions = (dialect.conventions)(settings);
    let target = example.to.and_then(by_id).map(|target| Target::new(target, None, schema));
    let (beside, nothing_set) = (beside(dialect, example, 0), LintSettings::default());
    let mut found = Vec::new();
    (rule.check)(
        &Context::new(schema, &conventions, target.as_ref(), beside.as_ref(), &nothing_set),
        &mut found,
    );
    let table = |id: &str| {
        schema
            .entities
            .iter()
            .find(|entity| entity.id == id)
            .map_or_else(|| id.to_owned(), Entity::address)
    };
    let subject =
        |one: Diagnostic| one.subject.map(|subject| (table(&subject.entity), subject.element));
    found.into_iter().filter_map(subject).collect()
}

/// What the rule finds in an example in a dialect: in the schema that fits it, and in what its
/// printer wrote and its reader read again.
fn carried(
    rule: &Rule,
    example: &Example,
    dialect: &'static Dialect,
) -> Option<[BTreeSet<(String, String)>; 2]> {
    let home = by_id(example.dialect).expect("a dialect");
    let (read_first, _) = reading(home, example, format!("{}{}", example.head(), example.text));
    let mut settings = Settings {
        database: Some(dialect.database(Some(example.database))),
        ..Settings::default()
    };
    if !dialect.databases.contains(&settings.database()) || example.to == Some(dialect.id) {
        return None;
    }
    suit(&read_first.schema, dialect, &mut settings);
    let fitted = fit(&read_first.schema, dialect, &settings).schema;
    let expected = subjects(rule, example, dialect, &fitted, &settings);
    let files = printed(dialect, &fitted, &(dialect.conventions)(&settings))
        .into_iter()
        .map(|file| (file.path, file.text))
        .collect();
    let again = read(files, dialect, &mut settings, &NoFiles);
    let found = subjects(rule, example, dialect, &again.schema, &settings);
    Some([expected, found])
}

#[test]
fn every_rule_finds_the_same_in_every_dialect_that_can_say_it() {
    let mut wrong = Vec::new();
    let mut table = "# In which dialects a rule finds what\n\n\
                     Made by printing and reading every rule's own cases in every dialect. \
                     `yes`: the dialect can say it, and the rule finds it there. `no`: it \
                     cannot be said there, so that there is nothing to find. `reading`: no \
                     schema shows it any more; the dialect's reader says it.\n"
        .to_owned();
    for family in FAMILIES {
        let ids: Vec<&str> = DIALECTS.iter().map(|dialect| dialect.id).collect();
        table.push_str(&format!(
            "\n## {}\n\n| rule | {} |\n| --- |{}\n",
            family.title,
            ids.join(" | "),
            " --- |".repeat(ids.len())
        ));
        for rule in family.rules {
            let cells = DIALECTS.iter().map(|dialect| cell(rule, dialect, &mut wrong));
            let cells: Vec<&str> = cells.collect();
            table.push_str(&format!("| [{0}]({0}.md) | {1} |\n", rule.name, cells.join(" | ")));
        }
    }
    assert!(wrong.is_empty(), "{} differ:\n{}", wrong.len(), wrong.join("\n"));
    let path = concat!(env!("CARGO_MANIFEST_DIR"), "/../../docs/rules/in-which-dialects.md");
    if std::env::var_os("UPDATE").is_some() {
        std::fs::write(path, &table).expect("docs/rules is writable");
    }
    assert_eq!(
        std::fs::read_to_string(path).unwrap_or_default(),
        table,
        "run the tests with UPDATE=1"
    );
}

fn cell(rule: &'static Rule, dialect: &'static Dialect, wrong: &mut Vec<String>) -> &'static str {
    let telling = std::iter::once(&rule.wrong)
        .chain(rule.cases.iter().filter(|(count, _)| *count > 0).map(|(_, example)| example));
    let telling: Vec<&Example> = telling.collect();
    let mut cell = "no";
    for example in &telling {
        let Some([expected, found]) = carried(rule, example, dialect) else { continue };
        // What crosses dialects is about what a text leaves unsaid; a script has no classes, they
        // are recognised.
        let by_schema =
            !rule.finds.contains("--to") && matches!(dialect.medium, Medium::Classes { .. });
        if by_schema && expected != found {
            wrong.push(format!(
                "{} in {}: {expected:?} expected, found {found:?}\n{}",
                rule.name, dialect.id, example.text
            ));
        }
        if !found.is_empty() {
            cell = "yes";
        }
    }
    let at_home = telling.iter().any(|example| example.dialect == dialect.id);
    if cell == "no" && at_home && !rule.raised.is_empty() { "reading" } else { cell }
}

#[test]
fn every_cure_mends_the_text_and_nothing_is_found_any_more() {
    let mut wrong = Vec::new();
    let mut mended = BTreeSet::new();
    for rule in rules() {
        for dialect in DIALECTS {
            let Some((text, settings)) = written(rule, dialect) else { continue };
            let example = Example { dialect: dialect.id, ..rule.wrong };
            let read_again = |files: Vec<(String, String)>| {
                read(files, dialect, &mut settings.clone(), &NoFiles)
            };
            let reading = read_again(text.clone());
            let cures: Vec<_> = found(rule, &example, &reading, &settings)
                .into_iter()
                .filter_map(|one| one.cure)
                .filter(|cure| cure.safety > Safety::Shown)
                .collect();
            let changes: Vec<_> = cures.iter().map(|cure| &cure.change).collect();
            let mut mending = crate::mend::Mending::new(
                dialect,
                &settings,
                &read_again,
                text.clone(),
                reading.schema,
                reading.sources,
            );
            let made = mending.make(&changes);
            if made.len() < changes.len() {
                wrong.push(format!(
                    "{} in {}: {:?} is not made in\n{}",
                    rule.name, dialect.id, changes, text[0].1
                ));
            } else if !changes.is_empty() {
                let left = found(rule, &example, &read_again(mending.files.clone()), &settings);
                assert!(
                    left.is_empty(),
                    "{} in {} is found again: {}",
                    rule.name,
                    dialect.id,
                    mending.files[0].1
                );
                mended.insert(rule.name);
            }
        }
    }
    assert!(wrong.is_empty(), "{} are not mended:\n{}", wrong.len(), wrong.join("\n"));
    assert!(mended.len() > 6, "{mended:?}");
}

/// The wrong example of a rule as a dialect's printer writes it.
fn written(rule: &Rule, dialect: &'static Dialect) -> Option<(Vec<(String, String)>, Settings)> {
    let home = by_id(rule.wrong.dialect).expect("a dialect");
    let (first, _) =
        reading(home, &rule.wrong, format!("{}{}", rule.wrong.head(), rule.wrong.text));
    let mut settings = Settings {
        database: Some(dialect.database(Some(rule.wrong.database))),
        ..Settings::default()
    };
    if !dialect.databases.contains(&settings.database()) {
        return None;
    }
    suit(&first.schema, dialect, &mut settings);
    let fitted = fit(&first.schema, dialect, &settings).schema;
    let files = printed(dialect, &fitted, &(dialect.conventions)(&settings))
        .into_iter()
        .filter(|file| !file.text.trim().is_empty());
    Some((files.map(|file| (file.path, file.text)).collect(), settings))
}
