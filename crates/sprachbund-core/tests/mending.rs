//! Mending over generated schemas, in every dialect: what is made is found no more, nothing new is,
//! and all that an author wrote beside it stays.

mod generator;

use std::cell::RefCell;
use std::collections::{BTreeMap, BTreeSet};

use generator::{EntityPlan, Voice, build, plans};
use proptest::test_runner::{Config, TestRunner};
use similar::{Algorithm, DiffOp, capture_diff_slices};
use sprachbund_core::diagnostic::{Diagnostic, Safety};
use sprachbund_core::dialect::{Dialect, Medium, Settings};
use sprachbund_core::dialects::DIALECTS;
use sprachbund_core::elide::printed;
use sprachbund_core::fit::fit;
use sprachbund_core::fit::suit;
use sprachbund_core::host::Language;
use sprachbund_core::lint::{LintSettings, Linting, lint};
use sprachbund_core::mend::Mending;
use sprachbund_core::reading::{Reading, read};
use sprachbund_core::schema::facts::differences;
use sprachbund_core::source::NoFiles;

type Files = Vec<(String, String)>;

/// What begins a comment.
fn mark(language: &Language) -> String {
    format!("{} note ", language.layout.comment)
}

/// Each line with a comment above it or behind it, as an author may have written them.
fn annotated(files: Files, language: &Language) -> Files {
    let (mark, mut count) = (mark(language), 0);
    let mut with_comment = |line: &str| {
        count += 1;
        let indentation = &line[..line.len() - line.trim_start().len()];
        match line.trim().is_empty() {
            true => "\n".to_owned(),
            false if count % 2 == 0 => format!("{indentation}{mark}{count}.\n{line}\n"),
            false => format!("{line}  {mark}{count}.\n"),
        }
    };
    files
        .into_iter()
        .map(|(path, text)| (path, text.lines().map(&mut with_comment).collect()))
        .collect()
}

/// The lines without their comments, and the comment of each, where it has one.
fn noted<'t>(text: &'t str, mark: &str) -> (Vec<&'t str>, Vec<Option<&'t str>>) {
    let (mut found, mut above) = ((Vec::new(), Vec::new()), None);
    for line in text.lines().filter(|line| !line.trim().is_empty()) {
        let (code, note) =
            line.find(mark).map_or((line, None), |at| (&line[..at], Some(&line[at..])));
        if code.trim().is_empty() {
            above = note;
            continue;
        }
        found.0.push(code.trim());
        found.1.push(note.or(above.take()));
    }
    found
}

/// Comments that are gone although their lines are not, or that stand there twice.
fn lost<'t>(before: &'t str, after: &str, mark: &str) -> Vec<&'t str> {
    let (old, new) = (noted(before, mark), noted(after, mark));
    let steps = capture_diff_slices(Algorithm::Myers, &old.0, &new.0);
    let equal = steps
        .iter()
        .filter(|step| matches!(step, DiffOp::Equal { .. }))
        .flat_map(DiffOp::old_range);
    // Of lines that are alike either may be the one that is gone.
    let count = |lines: &[&str], line: &str| lines.iter().filter(|known| **known == line).count();
    let kept: BTreeSet<usize> =
        equal.filter(|at| count(&new.0, old.0[*at]) >= count(&old.0, old.0[*at])).collect();
    let times = |note: &str| after.matches(note).count();
    let notes = old.1.iter().enumerate().filter_map(|(at, note)| Some((at, (*note)?)));
    notes
        .filter(|(at, note)| times(note) > 1 || (times(note) == 0 && kept.contains(at)))
        .map(|(_, note)| note)
        .collect()
}

fn found(reading: &Reading, dialect: &Dialect, settings: &Settings) -> Vec<Diagnostic> {
    lint(&Linting {
        schema: &reading.schema,
        conventions: &(dialect.conventions)(settings),
        sources: &reading.sources,
        raised: &reading.diagnostics,
        target: None,
        beside: None,
        settings: &LintSettings::default(),
    })
    .found
}

/// What a finding is about, whatever its words.
fn key(one: &Diagnostic) -> (&'static str, String) {
    (
        one.code,
        one.subject
            .as_ref()
            .map(|subject| format!("{}: {}", subject.entity, subject.element))
            .unwrap_or_default(),
    )
}

/// How many cures were made, of how many.
fn check(plans: &[EntityPlan], voice: Voice, dialect: &'static Dialect) -> (usize, usize) {
    let mut settings = Settings { database: Some(dialect.database(None)), ..Settings::default() };
    let schema = build(plans, voice, settings.database());
    suit(&schema, dialect, &mut settings);
    let fitted = fit(&schema, dialect, &settings).schema;
    let printed = printed(dialect, &fitted, &(dialect.conventions)(&settings))
        .into_iter()
        .map(|file| (file.path, file.text))
        .collect();
    let files = annotated(printed, dialect.language);
    let read_again = |files: Files| read(files, dialect, &mut settings.clone(), &NoFiles);
    let reading = read_again(files.clone());
    assert_eq!(
        differences(&fitted, &reading.schema),
        [],
        "comments change what is read of\n{files:#?}"
    );

    let before = found(&reading, dialect, &settings);
    let curable: Vec<_> = before
        .iter()
        .filter(|one| one.cure.as_ref().is_some_and(|cure| cure.safety > Safety::Shown))
        .collect();
    let changes: Vec<_> =
        curable.iter().filter_map(|one| one.cure.as_ref()).map(|cure| &cure.change).collect();
    let (schema, sources) = (reading.schema, reading.sources);
    let mut mending = Mending::new(dialect, &settings, &read_again, files.clone(), schema, sources);
    let made = mending.make(&changes);
    let texts: String =
        mending.files.iter().map(|(path, text)| format!("--- {path}\n{text}")).collect();

    let after: BTreeSet<_> =
        found(&read_again(mending.files.clone()), dialect, &settings).iter().map(key).collect();
    let known: BTreeSet<_> = before.iter().map(key).collect();
    for one in made.iter().map(|at| key(curable[*at])) {
        assert!(!after.contains(&one), "{}: {one:?} is found again in\n{texts}", dialect.id);
    }
    // An index for a reference may be the one too many.
    let new: Vec<_> =
        after.difference(&known).filter(|(rule, _)| *rule != "index-one-too-many").collect();
    assert!(new.is_empty(), "{}: {new:?} are found after mending in\n{texts}", dialect.id);
    for ((path, before), (_, after)) in files.iter().zip(&mending.files) {
        let lost = lost(before, after, &mark(dialect.language));
        assert!(
            lost.is_empty(),
            "{}: {lost:?} of {path} stand no more, or twice, in\n{texts}\n--- once\n{before}",
            dialect.id
        );
    }
    (made.len(), changes.len())
}

#[test]
fn what_is_mended_is_found_no_more_and_comments_stay() {
    let cases =
        std::env::var("PROPTEST_CASES").ok().and_then(|text| text.parse().ok()).unwrap_or(24);
    let mut runner =
        TestRunner::new(Config { cases, failure_persistence: None, ..Config::default() });
    let counts: RefCell<BTreeMap<&str, (usize, usize)>> = RefCell::default();
    let outcome = runner.run(&plans(), |plan| {
        for dialect in
            DIALECTS.iter().filter(|dialect| matches!(dialect.medium, Medium::Classes { .. }))
        {
            for voice in [Voice::Django, Voice::TypeOrm] {
                let (made, wanted) = check(&plan, voice, dialect);
                let mut counts = counts.borrow_mut();
                let count = counts.entry(dialect.id).or_default();
                *count = (count.0 + made, count.1 + wanted);
            }
        }
        Ok(())
    });
    if let Err(error) = outcome {
        panic!("{error}");
    }
    for (dialect, (made, wanted)) in counts.into_inner() {
        assert!(made > 0, "{dialect}: none of {wanted} cures is made");
        println!("{dialect}: {made} of {wanted}");
    }
}
