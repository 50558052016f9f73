//! `emit`: declarations of another framework, and the account of what differs.

use std::collections::BTreeMap;
use std::path::{Component, Path, PathBuf};

use md5::{Digest, Md5};
use serde::{Deserialize, Serialize};
use serde_json::json;
use similar::TextDiff;
use sprachbund_core::dialect::{Dialect, Feature, PrintedFile, Settings};
use sprachbund_core::elide::printed;
use sprachbund_core::fit::suit;
use sprachbund_core::fit::{Fitted, Grade, fit};
use sprachbund_core::quoting::sql::settled;
use sprachbund_core::schema::facts::namesakes;

use crate::arguments::{EmitOptions, Format};
use crate::configuration::Configuration;
use crate::files::{self, Unreadable, Writing};
use crate::inputs::{self, Loaded};
use crate::report::human::STRONG;
use crate::{Failure, Outcome, account, output};

/// Remembers, beside the emitted files, what they held when they were emitted.
const RECORD: &str = ".sprachbund-emitted.json";

/// Largest file at the place of an emitted one that is looked at.
const LARGEST_BEFORE: u64 = 256 * 1024 * 1024;

/// The script for what declarations cannot say.
const SCRIPT: &str = "after_tables.sql";

pub(crate) fn run(options: &EmitOptions) -> Result<Outcome, Failure> {
    let configuration = Configuration::load(&options.input)?;
    let loaded = inputs::load(&options.input, &configuration)?;
    let reading = super::report_reading(&loaded);
    super::something(&loaded)?;
    output::news(&(format!("read {} ({})", account::size(&loaded.schema), loaded.dialect.framework) + "\n"));
    let (target, release) = inputs::dialect_and_release(&options.to)?;
    inputs::check_naming(target, options.naming_out.as_deref())?;
    inputs::check_covered(target, Some(target.database(loaded.wanted)))?;
    check_style(target, options.style.as_deref())?;
    one_table_each(&loaded, target)?;
    let wanted = Wanted { release, naming: options.naming_out.clone(), style: options.style.clone() };
    let (fitted, files) = translate(&loaded, target, wanted);
    let written = deliver(options, files)?;
    match options.format {
        Format::Human if options.preview && !options.detail => output::page(&account::summary(&fitted))?,
        Format::Human => {
            let account = account::render(&fitted, target.framework, options.detail, super::width());
            // Where the files themselves are the result, the account is beside it.
            match options.out {
                Some(_) => output::page(&account)?,
                None => output::news(&account),
            }
        }
        Format::Json => {
            let value = json!({ "files": written, "losses": fitted.changes, "refused": fitted.refused, "names": fitted.renames });
            output::result(&(serde_json::to_string_pretty(&value).unwrap_or_default() + "\n"))?;
        }
    }
    let lossy = fitted.changes.iter().chain(&fitted.refused).any(|change| matches!(change.grade, Grade::Dropped | Grade::Weakened));
    Ok(if options.strict && lossy { Outcome::Findings } else { reading })
}

/// Refuses tables of one name in several named schemas where the target has only one.
fn one_table_each(loaded: &Loaded, target: &Dialect) -> Result<(), Failure> {
    let settings = settings_on(loaded, target);
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
    let Some(style) = style.filter(|style| !target.details.styles.contains(style)) else { return Ok(()) };
    let known = if target.details.styles.is_empty() {
        "it has one only".to_owned()
    } else {
        format!("it has {}", target.details.styles.join(" and "))
    };
    Err(Failure(format!("{} has no style `{style}`; {known}", target.framework)))
}

/// What is wanted of the target, where it has several ways.
struct Wanted {
    release: Option<String>,
    naming: Option<String>,
    style: Option<String>,
}

/// Settings of the target on the server that is meant: in the release of the one that was read, if it is the same.
fn settings_on(loaded: &Loaded, target: &Dialect) -> Settings {
    let database = target.database(loaded.wanted);
    let server_release = loaded.settings.server_release.filter(|_| loaded.settings.database == Some(database));
    Settings { database: Some(database), server_release, ..Settings::default() }
}

/// Fits, elides and prints.
fn translate(loaded: &Loaded, target: &Dialect, wanted: Wanted) -> (Fitted, Vec<PrintedFile>) {
    let Wanted { release, naming, style } = wanted;
    let home = loaded.dialect.id == target.id;
    let mut settings = settings_on(loaded, target);
    settings.naming = naming;
    if home {
        settings = Settings { naming: settings.naming.or_else(|| loaded.settings.naming.clone()), ..loaded.settings.clone() };
    }
    settings.style = style;
    settings.version = release.or(settings.version);
    suit(&loaded.schema, target, &mut settings);
    let fitted = fit(&loaded.schema, target, &settings);
    let conventions = (target.conventions)(&settings);
    let mut files = printed(target, &fitted.schema, &conventions);
    if !fitted.script.is_empty() {
        let head = format!("-- What {} cannot declare. Run it after the framework has made its tables.\n\n", target.framework);
        let statements = settled(fitted.script.join("\n") + "\n", conventions.database);
        files.push(PrintedFile { path: SCRIPT.into(), text: head + &statements });
    }
    (fitted, files)
}

/// Writes, previews, or (without a folder) prints the files; returns their paths.
fn deliver(options: &EmitOptions, files: Vec<PrintedFile>) -> Result<Vec<String>, Failure> {
    one_file_each(&files)?;
    let paths = files.iter().map(|file| file.path.clone()).collect();
    let Some(folder) = &options.out else {
        if options.format == Format::Human {
            to_standard_output(&files)?;
        }
        return Ok(paths);
    };
    if options.preview {
        let record = Record::load(folder)?;
        let plan = planned(folder, files, &record)?;
        preview(&plan)?;
        tell_stale(&stale(folder, &plan, &record), false);
        return Ok(paths);
    }
    let writing = Writing::into(folder)?;
    let record = Record::load(folder)?;
    let plan = planned(folder, files, &record)?;
    let changed: Vec<String> =
        plan.iter().filter(|planned| planned.state == State::ChangedByHand).map(|planned| planned.path.display().to_string()).collect();
    if !changed.is_empty() && !options.overwrite {
        return Err(Failure(format!(
            "changed by hand since they were emitted, or never emitted from here: {}; nothing was written. Emit into another folder, look with --preview, or use --overwrite",
            changed.join(", ")
        )));
    }
    let stale = stale(folder, &plan, &record);
    write_all(&writing, &plan, &stale, &record, options.remove_stale)?;
    let count = |state: State| plan.iter().filter(|planned| planned.state == state).count();
    let (new, same) = (count(State::New), count(State::Unchanged));
    output::news(&format!(
        "{} files in {}: {new} new, {} changed, {same} unchanged\n",
        plan.len(),
        folder.display(),
        plan.len() - new - same
    ));
    tell_stale(&stale, options.remove_stale);
    Ok(paths)
}

/// Refuses files that would overwrite each other, also where the disk does not tell letters by their case.
fn one_file_each(files: &[PrintedFile]) -> Result<(), Failure> {
    let mut taken: BTreeMap<String, &str> = BTreeMap::new();
    for file in files {
        if let Some(other) = taken.insert(file.path.to_lowercase(), &file.path) {
            let what = if other == file.path { format!("the file `{other}`") } else { format!("`{other}` and `{}`", file.path) };
            return Err(Failure(format!(
                "two elements would be written into one file: {what}; nothing was written. Rename one of the classes or enumerations"
            )));
        }
    }
    Ok(())
}

/// A single file can go straight into another program, so it is a result; several are for people to read.
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
    before: Vec<u8>,
    text: String,
    state: State,
}

fn planned(folder: &Path, files: Vec<PrintedFile>, record: &Record) -> Result<Vec<Planned>, Failure> {
    files.into_iter().map(|file| plan(folder, file, record)).collect()
}

/// What would become of one file. Its path must stay inside the folder.
fn plan(folder: &Path, file: PrintedFile, record: &Record) -> Result<Planned, Failure> {
    let relative = Path::new(&file.path);
    if relative.components().any(|part| !matches!(part, Component::Normal(_))) {
        return Err(Failure(format!("a name in the schema makes the path `{}`, which would leave the output folder", file.path)));
    }
    if let Some(link) = linked(folder, relative) {
        return Err(Failure(format!("`{}` is a link, which may lead out of the output folder; remove it first", link.display())));
    }
    let path = folder.join(relative);
    let (before, state) = match files::read(&path, LARGEST_BEFORE) {
        Err(Unreadable::Disk(error)) if error.kind() == std::io::ErrorKind::NotFound => (Vec::new(), State::New),
        Err(error) => return Err(Failure(format!("{}: {error}; nothing was written", path.display()))),
        Ok(before) if before == file.text.as_bytes() => (before, State::Unchanged),
        Ok(before) if record.is_ours(&file.path, &before) => (before, State::Changes),
        Ok(before) => (before, State::ChangedByHand),
    };
    Ok(Planned { path, relative: file.path, before, text: file.text, state })
}

/// The first part of a path below the folder that is a link.
fn linked(folder: &Path, relative: &Path) -> Option<PathBuf> {
    let inner = relative.ancestors().collect::<Vec<_>>();
    let paths = inner.into_iter().rev().filter(|part| !part.as_os_str().is_empty()).map(|part| folder.join(part));
    paths.into_iter().find(|path| std::fs::symlink_metadata(path).is_ok_and(|known| known.file_type().is_symlink()))
}

fn preview(plan: &[Planned]) -> Result<(), Failure> {
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
            output::page(&diff.unified_diff().context_radius(2).header("as it is", "as it would be").to_string())?;
        }
    }
    Ok(())
}

/// A file of an earlier run that this one does not write.
struct Stale {
    relative: String,
    /// Somebody changed it since: it is nobody's to remove.
    by_hand: bool,
}

/// Files that were emitted into the folder, are still there, and are not part of what is emitted now.
fn stale(folder: &Path, plan: &[Planned], record: &Record) -> Vec<Stale> {
    let gone = record.emitted.keys().filter(|path| !plan.iter().any(|planned| planned.relative == **path));
    let there = gone.filter_map(|path| {
        let inside = Path::new(path).components().all(|part| matches!(part, Component::Normal(_)));
        let before =
            files::read(&folder.join(path), LARGEST_BEFORE).ok().filter(|_| inside && linked(folder, Path::new(path)).is_none())?;
        Some(Stale { relative: path.clone(), by_hand: !record.is_ours(path, &before) })
    });
    there.collect()
}

fn tell_stale(stale: &[Stale], removed: bool) {
    let named = |by_hand: bool| stale.iter().filter(|file| file.by_hand == by_hand).map(|file| file.relative.as_str()).collect::<Vec<_>>();
    for (files, what) in [
        (named(false), if removed { "removed" } else { "still in the folder; --remove-stale removes what nobody changed" }),
        (named(true), "changed by hand, so kept; remove it yourself where it is no longer wanted"),
    ] {
        if !files.is_empty() {
            output::news(&format!("emitted by an earlier run, and not part of this result: {} ({what})\n", files.join(", ")));
        }
    }
}

/// Writes what changed. A run that is killed in between leaves files of which each is either as it was or as it was to be; the
/// record that is written before them takes both for its own.
fn write_all(writing: &Writing, plan: &[Planned], stale: &[Stale], record: &Record, remove_stale: bool) -> Result<(), Failure> {
    let (mut between, mut after) = (Record::default(), Record::default());
    for planned in plan {
        let new = digest(planned.text.as_bytes());
        let old = (planned.state == State::Changes).then(|| digest(&planned.before));
        between.emitted.insert(planned.relative.clone(), old.into_iter().chain([new.clone()]).collect());
        after.emitted.insert(planned.relative.clone(), vec![new]);
    }
    for file in stale {
        let known = record.emitted.get(&file.relative).cloned().unwrap_or_default();
        between.emitted.insert(file.relative.clone(), known.clone());
        if !remove_stale || file.by_hand {
            after.emitted.insert(file.relative.clone(), known);
        }
    }
    let changed: Vec<&Planned> = plan.iter().filter(|planned| planned.state != State::Unchanged).collect();
    if changed.iter().any(|planned| planned.state != State::New) {
        writing.write([(RECORD, between.text()?.as_str())].into_iter())?;
    }
    let after = after.text()?;
    let files = changed.iter().map(|planned| (planned.relative.as_str(), planned.text.as_str()));
    writing.write(files.chain([(RECORD, after.as_str())]))?;
    for file in stale.iter().filter(|file| remove_stale && !file.by_hand) {
        let path = writing.path(&file.relative);
        std::fs::remove_file(&path).map_err(|error| Failure(format!("{}: {error}", path.display())))?;
    }
    Ok(())
}

/// What the emitted files held when they were emitted, by their paths: digests, several while they are being written.
#[derive(Default, Serialize, Deserialize)]
#[serde(transparent)]
struct Record {
    emitted: BTreeMap<String, Vec<String>>,
}

impl Record {
    /// The record of a folder; none is an empty one, and a damaged one too: then every file counts as changed by hand.
    fn load(folder: &Path) -> Result<Self, Failure> {
        let path = folder.join(RECORD);
        match files::read_own(&path) {
            Ok(text) => Ok(serde_json::from_str(&text).unwrap_or_default()),
            Err(Unreadable::Disk(_)) => Ok(Record::default()),
            Err(error) => Err(Failure(format!("{}: {error}; nothing was written", path.display()))),
        }
    }

    fn is_ours(&self, path: &str, content: &[u8]) -> bool {
        self.emitted.get(path).is_some_and(|known| known.contains(&digest(content)))
    }

    fn text(&self) -> Result<String, Failure> {
        Ok(serde_json::to_string_pretty(self)? + "\n")
    }
}

fn digest(content: &[u8]) -> String {
    Md5::digest(content).iter().map(|byte| format!("{byte:02x}")).collect()
}
