//! `demo`: unpacks the demo project and takes the whole tour on it.

use std::path::{Path, PathBuf};

use clap::Parser;

use crate::arguments::{Arguments, DemoOptions, Verb};
use crate::report::human::STRONG;
use crate::{Failure, Outcome, output};

/// The demo project's files: path and text.
const FILES: &[(&str, &str)] = &include!(concat!(env!("OUT_DIR"), "/demo_files.rs"));

/// The tour, with `DEMO` for the folder.
const TOUR: &[&str] = &[
    "parse DEMO/django --out DEMO/register.json",
    "show DEMO/django --entity PortCall",
    "lint DEMO/django",
    "lint DEMO/mongoose",
    "lint DEMO/prisma",
    "lint DEMO/sequelize",
    "lint DEMO/sqlalchemy",
    "lint DEMO/typeorm",
    "lint DEMO/django --to typeorm --tables port_calls",
    "lint DEMO/django --beside DEMO/sql/harbour.sql --threshold error",
    "lint DEMO/typeorm --mend --preview",
    "emit DEMO/django --to typeorm --out DEMO/emitted-typeorm",
    "emit DEMO/typeorm --to django --out DEMO/emitted-django",
    "emit DEMO/django --to prisma --out DEMO/emitted-prisma",
    "emit DEMO/django --to mongoose --out DEMO/emitted-mongoose",
    "emit DEMO/mongoose --to django --out DEMO/emitted-from-documents",
    "emit DEMO/django --to sequelize --out DEMO/emitted-sequelize",
    "emit DEMO/django --to sqlalchemy --out DEMO/emitted-sqlalchemy",
    "compare DEMO/django DEMO/sql/harbour.sql",
    "show DEMO/sql --entity PortCall",
];

pub(crate) fn run(options: &DemoOptions) -> Result<Outcome, Failure> {
    let folder = options.folder.clone().unwrap_or_else(free_folder);
    if folder.exists() {
        return Err(Failure(format!(
            "`{}` is there already; name a folder that is not",
            folder.display()
        )));
    }
    for (path, text) in FILES {
        sprachbund_project::files::write_atomically(&folder.join(path), text)?;
    }
    output::news(
        &(format!("a small harbour's register, in seven dialects, is in {}", folder.display())
            + "\n"),
    );
    for step in TOUR {
        let line = step.replace("DEMO", &folder.display().to_string());
        output::page(&format!("\n{STRONG}$ sprachbund {line}{STRONG:#}\n"))?;
        take(&line.split(' ').map(str::to_owned).collect::<Vec<_>>())?;
    }
    Ok(Outcome::Clean)
}

fn take(words: &[String]) -> Result<Outcome, Failure> {
    let arguments = Arguments::try_parse_from(
        std::iter::once("sprachbund".to_owned()).chain(words.iter().cloned()),
    )?;
    match &arguments.verb {
        Verb::Parse(options) => super::parse::run(options),
        Verb::Show(options) => super::show::run(options),
        Verb::Lint(options) => super::lint::run(options),
        Verb::Emit(options) => super::emit::run(options),
        Verb::Compare(options) => super::compare::run(options),
        Verb::Explain(_) | Verb::Dialects(_) | Verb::Demo(_) => Ok(Outcome::Clean),
    }
}

/// `harbour-register`, or the first free name with a number behind it.
fn free_folder() -> PathBuf {
    let name = |count: u32| {
        if count == 1 { "harbour-register".to_owned() } else { format!("harbour-register-{count}") }
    };
    (1..)
        .map(|count| PathBuf::from(name(count)))
        .find(|path: &PathBuf| !Path::new(path).exists())
        .unwrap_or_default()
}
