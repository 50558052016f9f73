//! One pass alone: what it makes of tables, and the reason that it leaves.

use super::{Cause, Change, Fitting, Pass, Speaker};
use crate::dialect::{Dialect, Settings};
use crate::dialects::by_id;
use crate::reading::read;
use crate::schema::facts::{Facts, facts};
use crate::schema::{Database, Schema, Source};
use crate::source::NoFiles;

/// From which dialect and server to which (`sql postgresql > django@5.2 sqlite`, in the newest
/// release where none is named), what is written, and each fact that is another after the pass:
/// what it was, what it is, and why.
pub(super) type Case = (&'static str, &'static str, &'static [&'static str]);

/// What stands before the classes of a dialect.
const HEADS: &[(&str, &str)] = &[
    (
        "django",
        "import uuid\nfrom django.core.validators import MaxValueValidator, MinValueValidator\n\
         from django.db import models\n\n",
    ),
    ("typeorm", "import { Column, Entity } from 'typeorm';\n\n"),
    (
        "sqlalchemy",
        "import datetime\nimport sqlalchemy as sa\nfrom sqlalchemy.orm import DeclarativeBase, \
         Mapped, mapped_column\n\nclass Base(DeclarativeBase): pass\n\n",
    ),
];

/// Holds what a pass does against what it should do.
pub(super) fn check(pass: Pass, cases: &[Case]) {
    check_each(cases, |before, to, settings| changed(pass, before, to, settings));
}

/// The same of all that `fit` does.
pub(super) fn check_whole(cases: &[Case]) {
    check_each(cases, |before, to, settings| {
        let fitted = super::fit(before, to, settings);
        (fitted.named, fitted.schema, fitted.changes, fitted.refused, fitted.script)
    });
}

/// The schema before and after, what changed, what is refused, and the script.
type Outcome = (Schema, Schema, Vec<Change>, Vec<Change>, Vec<String>);

fn changed(pass: Pass, before: &Schema, to: &'static Dialect, settings: &Settings) -> Outcome {
    let mut fitting = Fitting::of(before.clone(), &before.source, to, settings);
    pass(&mut fitting);
    let Fitting { schema: mut after, causes, script, .. } = fitting;
    after.source = Source { dialect: to.id.into(), database: settings.database(), ..after.source };
    let speaker = Speaker { framework: to.framework, server: settings.database().title() };
    let changes = causes.report((before, &after), &speaker, None, |_| Cause::Unexplained);
    (before.clone(), after, changes, causes.refusals(&speaker), script)
}

fn check_each(cases: &[Case], run: impl Fn(&Schema, &'static Dialect, &Settings) -> Outcome) {
    let mut wrong = String::new();
    for (route, text, wanted) in cases {
        let found = told(route, text, &run);
        if found != *wanted {
            wrong.push_str(&format!("(\n    {route:?},\n    {text:?},\n    &{found:#?},\n),\n"));
        }
    }
    assert!(wrong.is_empty(), "other than wanted:\n{wrong}");
}

fn told(
    route: &str,
    text: &str,
    run: impl Fn(&Schema, &'static Dialect, &Settings) -> Outcome,
) -> Vec<String> {
    let words: Vec<&str> = route.split([' ', '>']).filter(|word| !word.is_empty()).collect();
    let [from, source, to, target] = words[..] else { panic!("not a route: {route}") };
    let released = |text: &str| {
        let (id, release) = text.split_once('@').unwrap_or((text, ""));
        let release = Some(release.to_owned()).filter(|release| !release.is_empty());
        (by_id(id).expect("a dialect"), release)
    };
    let ((from, from_release), (to, to_release)) = (released(from), released(to));
    let named = |id: &str| {
        Database::ALL.iter().find(|(known, _)| *known == id).map(|(_, database)| *database)
    };
    let mut settings =
        Settings { database: named(source), version: from_release, ..Settings::default() };
    assert!(settings.database.is_some() && named(target).is_some(), "not a server in {route}");
    let head = HEADS.iter().find(|(id, _)| *id == from.id).map_or("", |(_, head)| head);
    let input = (format!("harbour.{}", from.extensions[0]), format!("{head}{text}"));
    let before = read(vec![input], from, &mut settings, &NoFiles).schema;
    assert!(!before.entities.is_empty(), "nothing was read of {text}");
    let settings = Settings { database: named(target), version: to_release, ..Settings::default() };
    let (before, after, changes, refused, script) = run(&before, to, &settings);
    let (was, is) = (facts(&before), facts(&after));
    let mut lines = Vec::new();
    for change in changes {
        for fact in &change.facts {
            let value =
                |facts: &Facts| facts.get(fact).map_or("nothing".to_owned(), ToString::to_string);
            lines.push(format!(
                "{fact}: {} -> {} ({}: {})",
                value(&was),
                value(&is),
                change.grade.word(),
                change.reason
            ));
        }
    }
    lines.extend(refused.iter().map(|refused| format!("refused: {}", refused.reason)));
    lines.extend(script.iter().map(|statement| format!("script: {statement}")));
    lines
}
