//! `emit`: declarations of another framework, and the account of what differs.

use std::collections::BTreeMap;
use std::io::Write;
use std::path::{Component, Path, PathBuf};

use md5::{Digest, Md5};
use serde_json::json;
use similar::TextDiff;
use sprachbund_core::dialect::{Dialect, Feature, PrintedFile, Settings};
use sprachbund_core::fit::{Fitted, Grade, fit};
use sprachbund_core::schema::facts::namesakes;

use crate::arguments::{EmitOptions, Format};
use crate::configuration::Configuration;
use crate::inputs::{self, Loaded};
use crate::report::human::STRONG;
use crate::{Failure, Outcome, account};

/// Remembers, beside the emitted files, what they held when they were emitted.
const LEDGER: &str = ".sprachbund-emitted.json";

/// The script for what declarations cannot say.
const SCRIPT: &str = "after_tables.sql";

pub(crate) fn run(options: &EmitOptions) -> Result<Outcome, Failure> {
    let configuration = Configuration::load(&options.input)?;
    let loaded = inputs::load(&options.input, &configuration)?;
    let reading = super::report_reading(&loaded);
    super::something(&loaded)?;
    anstream::eprintln!("read {} ({})", account::size(&loaded.schema), loaded.dialect.framework);
    let target = inputs::dialect(&options.to)?;
    inputs::check_naming(options.naming_out.as_deref())?;
    inputs::check_covered(target, Some(target.database(loaded.wanted)))?;
    check_style(target, options.style.as_deref())?;
    one_table_each(&loaded, target)?;
    let (fitted, files) = translate(&loaded, target, (options.naming_out.clone(), options.style.clone()));
    let written = deliver(options, files)?;
    match options.format {
        Format::Human if options.preview && !options.detail => super::print(&account::summary(&fitted))?,
        Format::Human => {
            let account = account::render(&fitted, target.framework, options.detail, super::width());
            // Where the files themselves are the result, the account is beside it.
            match options.out {
                Some(_) => super::print(&account)?,
                None => anstream::eprint!("{account}"),
            }
        }
        Format::Json => {
            let value = json!({ "files": written, "losses": fitted.losses, "names": fitted.renames });
            super::print(&(serde_json::to_string_pretty(&value).unwrap_or_default() + "\n"))?;
        }
    }
    let lossy = fitted.losses.iter().any(|loss| matches!(loss.grade, Grade::Dropped | Grade::Weakened));
    Ok(if options.strict && lossy { Outcome::Findings } else { reading })
}

/// Refuses tables of one name in several named schemas where the target has only one.
fn one_table_each(loaded: &Loaded, target: &Dialect) -> Result<(), Failure> {
    let settings = Settings { database: Some(target.database(loaded.wanted)), ..Settings::default() };
    let several = namesakes(&loaded.schema);
    let Some(name) = several.iter().min().filter(|_| !(target.capabilities)(&settings).has(Feature::Namespace)) else { return Ok(()) };
    let named = loaded.schema.entities.iter().filter(|entity| entity.table == **name);
    let places: Vec<&str> = named.map(|entity| entity.namespace.as_deref().unwrap_or("the usual one")).collect();
    Err(Failure(format!(
        "the table `{name}` stands in several named schemas ({}), and {} has one for all; give one of them only (of a live database with --namespace)",
        places.join(", "),
        target.framework
    )))
}

/// Refuses a style that the target does not have.
fn check_style(target: &Dialect, style: Option<&str>) -> Result<(), Failure> {
    let Some(style) = style.filter(|style| !target.styles.contains(style)) else { return Ok(()) };
    let known = if target.styles.is_empty() { "it has one only".to_owned() } else { format!("it has {}", target.styles.join(" and ")) };
    Err(Failure(format!("{} has no style `{style}`; {known}", target.framework)))
}

/// Fits, elides and prints.
fn translate(loaded: &Loaded, target: &Dialect, (naming, style): (Option<String>, Option<String>)) -> (Fitted, Vec<PrintedFile>) {
    let home = loaded.dialect.id == target.id;
    let mut settings = Settings { database: Some(target.database(loaded.wanted)), naming, ..Settings::default() };
    if home {
        settings = Settings { naming: settings.naming.or_else(|| loaded.settings.naming.clone()), ..loaded.settings.clone() };
    }
    settings.style = style;
    (target.target_settings)(&loaded.schema, &mut settings);
    let fitted = fit(&loaded.schema, target, &settings);
    let conventions = (target.conventions)(&settings);
    let mut files = target.print(&fitted.schema, &conventions);
    if !fitted.script.is_empty() {
        let head = format!("-- What {} cannot declare. Run it after the framework has made its tables.\n\n", target.framework);
        files.push(PrintedFile { path: SCRIPT.into(), text: head + &fitted.script.join("\n") + "\n" });
    }
    (fitted, files)
}

/// Writes, previews, or (without a folder) prints the files; returns their paths.
fn deliver(options: &EmitOptions, files: Vec<PrintedFile>) -> Result<Vec<String>, Failure> {
    let paths = files.iter().map(|file| file.path.clone()).collect();
    let Some(folder) = &options.out else {
        if options.format == Format::Human {
            let told: Vec<&PrintedFile> = files.iter().filter(|file| !file.text.is_empty()).collect();
            for file in &told {
                // A single file can go straight into another program.
                match told.len() {
                    1 => super::print(&file.text)?,
                    _ => super::print(&format!("{STRONG}{}{STRONG:#}\n\n{}\n", file.path, file.text))?,
                }
            }
        }
        return Ok(paths);
    };
    let ledger = Ledger::load(folder);
    let plan: Vec<Planned> = files.into_iter().map(|file| plan(folder, file, &ledger)).collect::<Result<_, _>>()?;
    if options.preview {
        preview(&plan)?;
        return Ok(paths);
    }
    let changed: Vec<String> =
        plan.iter().filter(|planned| planned.state == State::ChangedByHand).map(|planned| planned.path.display().to_string()).collect();
    if !changed.is_empty() && !options.overwrite {
        return Err(Failure(format!(
            "changed by hand since they were emitted, or never emitted from here: {}; nothing was written. Emit into another folder, look with --preview, or use --overwrite",
            changed.join(", ")
        )));
    }
    write_all(folder, &plan, ledger)?;
    let count = |state: State| plan.iter().filter(|planned| planned.state == state).count();
    let (new, same) = (count(State::New), count(State::Unchanged));
    anstream::eprintln!("{} files in {}: {new} new, {} changed, {same} unchanged", plan.len(), folder.display(), plan.len() - new - same);
    Ok(paths)
}

#[derive(Clone, Copy, PartialEq, Eq)]
enum State {
    New,
    Unchanged,
    Changes,
    ChangedByHand,
}

struct Planned {
    path: PathBuf,
    relative: String,
    before: String,
    text: String,
    state: State,
}

/// What would become of one file. Its path must stay inside the folder.
fn plan(folder: &Path, file: PrintedFile, ledger: &Ledger) -> Result<Planned, Failure> {
    let relative = Path::new(&file.path);
    if relative.components().any(|part| !matches!(part, Component::Normal(_))) {
        return Err(Failure(format!("a name in the schema makes the path `{}`, which would leave the output folder", file.path)));
    }
    let path = folder.join(relative);
    let (before, state) = match std::fs::read_to_string(&path) {
        Err(error) if error.kind() == std::io::ErrorKind::NotFound => (String::new(), State::New),
        Err(error) => return Err(Failure(format!("{}: {error}", path.display()))),
        Ok(before) if before == file.text => (before, State::Unchanged),
        Ok(before) if ledger.emitted.get(&file.path) == Some(&digest(&before)) => (before, State::Changes),
        Ok(before) => (before, State::ChangedByHand),
    };
    Ok(Planned { path, relative: file.path, before, text: file.text, state })
}

fn preview(plan: &[Planned]) -> Result<(), Failure> {
    let unchanged = plan.iter().filter(|planned| planned.state == State::Unchanged).count();
    if unchanged > 0 {
        super::print(&format!("{unchanged} files unchanged\n"))?;
    }
    for planned in plan.iter().filter(|planned| planned.state != State::Unchanged) {
        let word = match planned.state {
            State::New => "new",
            State::Unchanged => "unchanged",
            State::Changes => "would change",
            State::ChangedByHand => "changed by hand; kept unless --overwrite is given",
        };
        super::print(&format!("{STRONG}{}{STRONG:#}: {word}\n", planned.path.display()))?;
        if matches!(planned.state, State::Changes | State::ChangedByHand) {
            let diff = TextDiff::from_lines(&planned.before, &planned.text);
            super::print(&diff.unified_diff().context_radius(2).header("as it is", "as it would be").to_string())?;
        }
    }
    Ok(())
}

fn write_all(folder: &Path, plan: &[Planned], mut ledger: Ledger) -> Result<(), Failure> {
    ledger.emitted.extend(plan.iter().map(|planned| (planned.relative.clone(), digest(&planned.text))));
    let path = folder.join(LEDGER);
    let text = serde_json::to_string_pretty(&ledger.emitted)? + "\n";
    let changed = plan.iter().filter(|planned| planned.state != State::Unchanged);
    write_together(changed.map(|planned| (planned.path.as_path(), planned.text.as_str())).chain([(path.as_path(), text.as_str())]))
}

/// Writes everything beside its place first, then moves it there, so that a full disk leaves the folder as it was.
pub(crate) fn write_together<'f>(files: impl Iterator<Item = (&'f Path, &'f str)>) -> Result<(), Failure> {
    let waiting = files.map(|(path, text)| Ok((beside(path, text)?, path)));
    for (file, path) in waiting.collect::<Result<Vec<_>, Failure>>()? {
        file.persist(path).map_err(|error| Failure(format!("{}: {}", path.display(), error.error)))?;
    }
    Ok(())
}

fn beside(path: &Path, text: &str) -> Result<tempfile::NamedTempFile, Failure> {
    let fault = |error: std::io::Error| Failure(format!("{}: {error}; nothing was written", path.display()));
    let folder = path.parent().filter(|folder| !folder.as_os_str().is_empty()).unwrap_or(Path::new("."));
    std::fs::create_dir_all(folder).map_err(fault)?;
    let mut file = tempfile::Builder::new().prefix(".sprachbund-").tempfile_in(folder).map_err(fault)?;
    file.write_all(text.as_bytes()).map_err(fault)?;
    file.flush().map_err(fault)?;
    readable(file.path(), path).map_err(fault)?;
    Ok(file)
}

/// Temporary files are private; one that is written has the rights of the one before it, else the usual ones.
#[cfg(unix)]
fn readable(path: &Path, before: &Path) -> std::io::Result<()> {
    use std::os::unix::fs::PermissionsExt;
    let rights = std::fs::metadata(before).map_or_else(|_| std::fs::Permissions::from_mode(0o644), |known| known.permissions());
    std::fs::set_permissions(path, rights)
}

#[cfg(not(unix))]
fn readable(_: &Path, _: &Path) -> std::io::Result<()> {
    Ok(())
}

/// Writes one file so that it is there whole or not at all.
pub(crate) fn write_atomically(path: &Path, text: &str) -> Result<(), Failure> {
    let failed = |error: std::io::Error| Failure(format!("{}: {error}", path.display()));
    // A device or a pipe is written to, never replaced; a link leads to the file that is.
    if std::fs::metadata(path).is_ok_and(|known| !known.is_file()) {
        return std::fs::write(path, text).map_err(failed);
    }
    let path = &std::fs::canonicalize(path).unwrap_or_else(|_| path.to_owned());
    beside(path, text)?.persist(path).map_err(|error| failed(error.error))?;
    Ok(())
}

#[derive(Default)]
struct Ledger {
    emitted: BTreeMap<String, String>,
}

impl Ledger {
    fn load(folder: &Path) -> Self {
        let text = std::fs::read_to_string(folder.join(LEDGER)).unwrap_or_default();
        Ledger { emitted: serde_json::from_str(&text).unwrap_or_default() }
    }
}

fn digest(text: &str) -> String {
    Md5::digest(text.as_bytes()).iter().map(|byte| format!("{byte:02x}")).collect()
}
