//! `emit`: declarations of another framework, and the account of what differs.

use serde_json::json;
use similar::TextDiff;
use sprachbund_core::dialect::{Dialect, PrintedFile};
use sprachbund_core::session::EmitRequest;
use sprachbund_project::delivery::{Delivery, PlannedFile, StaleFile, State, one_file_each};
use sprachbund_project::{Project, dialect_and_release, release_at};

use crate::arguments::{EmitOptions, Format};
use crate::report::human::STRONG;
use crate::{Failure, Outcome, account, output};

pub(crate) fn run(options: &EmitOptions) -> Result<Outcome, Failure> {
    let project = Project::open(options.input.request(), &output::tell)?;
    let session = project.session();
    let read = project.read(&session)?;
    let reading = super::report_reading(&project, &read)?;
    super::something(&read)?;
    let size = account::size(&read.schema);
    output::news(&format!("read {size} ({})\n", read.dialect.framework));
    let (target, release) = dialect_and_release(&options.to, &project)?;
    let release = release.or_else(|| release_to_write(options, target, read.dialect));
    let (naming, style) = (options.naming_out.clone(), options.style.clone());
    let emission = session.emit(&read, &EmitRequest { target, release, naming, style })?;
    let (loses, fitted) = (emission.loses(), &emission.fitted);
    let written = deliver(options, emission.files)?;
    match options.format {
        Format::Human if options.preview && !options.detail => {
            output::page(&account::summary(fitted))?
        }
        Format::Human => {
            let account = account::render(fitted, target.framework, options.detail, super::width());
            // Where the files themselves are the result, the account is beside it.
            match options.out {
                Some(_) => output::page(&account)?,
                None => output::news(&account),
            }
        }
        Format::Json => output::result(&super::pretty(&json!({
            "files": written,
            "losses": fitted.changes,
            "refused": fitted.refused,
            "names": fitted.renames,
        })))?,
    }
    Ok(if options.strict && loses { Outcome::Findings } else { reading })
}

/// The release of the project that is written into, said; else the newest that was tried. What
/// stays in its dialect stays in its release.
fn release_to_write(
    options: &EmitOptions,
    target: &'static Dialect,
    from: &'static Dialect,
) -> Option<String> {
    let framework = target.framework;
    if target.id == from.id || target.details.packages.is_empty() {
        return None;
    }
    let found = options.out.as_deref().and_then(|folder| release_at(folder, target));
    match found {
        Some((release, file)) => {
            output::news(&format!("written for {framework} {release}, as in {}\n", file.display()));
            Some(release)
        }
        None => {
            let other = target.versions.get(1).map_or(String::new(), |other| {
                format!("; `--to {}@{other}` writes for another release", target.id)
            });
            let newest = target.versions[0];
            output::news(&format!("written for {framework} {newest}{other}\n"));
            None
        }
    }
}

/// Writes, previews, or (without a folder) prints the files; returns their paths.
fn deliver(options: &EmitOptions, files: Vec<PrintedFile>) -> Result<Vec<String>, Failure> {
    let paths = files.iter().map(|file| file.path.clone()).collect();
    let Some(folder) = &options.out else {
        one_file_each(&files)?;
        if options.format == Format::Human {
            to_standard_output(&files)?;
        }
        return Ok(paths);
    };
    if options.preview {
        let delivery = Delivery::plan(folder, files)?;
        preview(&delivery.files)?;
        tell_stale(&delivery.stale, false);
        return Ok(paths);
    }
    let delivery = Delivery::write(folder, files, options.overwrite, options.remove_stale)?;
    let (all, new, same) =
        (delivery.files.len(), delivery.count(State::New), delivery.count(State::Unchanged));
    output::news(&format!(
        "{all} files in {}: {new} new, {} changed, {same} unchanged\n",
        folder.display(),
        all - new - same
    ));
    tell_stale(&delivery.stale, options.remove_stale);
    Ok(paths)
}

/// A single file can go straight into another program, so it is a result; several are for people to
/// read.
fn to_standard_output(files: &[PrintedFile]) -> Result<(), Failure> {
    let told: Vec<&PrintedFile> = files.iter().filter(|file| !file.text.is_empty()).collect();
    for file in &told {
        if told.len() > 1 {
            output::page(&format!("{STRONG}{}{STRONG:#}\n\n", file.path))?;
        }
        output::result(&file.text)?;
        if told.len() > 1 {
            output::page("\n")?;
        }
    }
    Ok(())
}

fn preview(plan: &[PlannedFile]) -> Result<(), Failure> {
    let unchanged = plan.iter().filter(|planned| planned.state == State::Unchanged).count();
    if unchanged > 0 {
        output::page(&format!("{unchanged} files unchanged\n"))?;
    }
    for planned in plan.iter().filter(|planned| planned.state != State::Unchanged) {
        let word = match planned.state {
            State::New => "new",
            State::Unchanged => "unchanged",
            State::Changes => "would change",
            State::ChangedByHand => "changed by hand; kept unless --overwrite is given",
        };
        output::page(&format!("{STRONG}{}{STRONG:#}: {word}\n", planned.path.display()))?;
        if matches!(planned.state, State::Changes | State::ChangedByHand) {
            let before = String::from_utf8_lossy(&planned.before);
            let diff = TextDiff::from_lines(&*before, planned.text.as_str());
            output::page(
                &diff
                    .unified_diff()
                    .context_radius(2)
                    .header("as it is", "as it would be")
                    .to_string(),
            )?;
        }
    }
    Ok(())
}

fn tell_stale(stale: &[StaleFile], removed: bool) {
    let named = |by_hand: bool| {
        stale
            .iter()
            .filter(|file| file.by_hand == by_hand)
            .map(|file| file.relative.as_str())
            .collect::<Vec<_>>()
    };
    for (files, what) in [
        (
            named(false),
            if removed {
                "removed"
            } else {
                "still in the folder; --remove-stale removes what nobody changed"
            },
        ),
        (named(true), "changed by hand, so kept; remove it yourself where it is no longer wanted"),
    ] {
        if !files.is_empty() {
            output::news(&format!(
                "emitted by an earlier run, and not part of this result: {} ({what})\n",
                files.join(", ")
            ));
        }
    }
}
