//! The command `sprachbund`. [`arguments`] declares it, one file in [`commands`] runs each verb.

mod account;
mod arguments;
mod commands;
mod output;
mod report;

use std::process::ExitCode;

use clap::Parser;

use arguments::{Arguments, Verb};

/// Reading makes very many small values, on every core.
#[global_allocator]
static ALLOCATOR: mimalloc::MiMalloc = mimalloc::MiMalloc;

/// How a run ended.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub(crate) enum Outcome {
    /// Done, and nothing to say against it.
    Clean,
    /// Done, but something at or over the threshold was found.
    Findings,
}

/// Why a run could not be done; its text names the way out.
#[derive(Debug)]
pub(crate) struct Failure(pub(crate) String);

impl<E: std::error::Error> From<E> for Failure {
    fn from(error: E) -> Self {
        Failure(error.to_string())
    }
}

fn main() -> ExitCode {
    let arguments = Arguments::parse();
    let done = match &arguments.verb {
        Verb::Parse(options) => commands::parse::run(options),
        Verb::Show(options) => commands::show::run(options),
        Verb::Lint(options) => commands::lint::run(options),
        Verb::Emit(options) => commands::emit::run(options),
        Verb::Compare(options) => commands::compare::run(options),
        Verb::Explain(options) => commands::explain::run(options),
        Verb::Dialects(options) => commands::dialects::run(options),
        Verb::Demo(options) => commands::demo::run(options),
    };
    match done {
        Ok(Outcome::Clean) => ExitCode::SUCCESS,
        Ok(Outcome::Findings) => ExitCode::from(1),
        Err(Failure(message)) => {
            output::news(&format!("{}: {message}\n", report::human::error_word()));
            ExitCode::from(2)
        }
    }
}
