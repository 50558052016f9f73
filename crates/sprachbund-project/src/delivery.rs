//! Emitted files on their way into a folder: what is new there, what would change, what somebody
//! changed by hand, and what an earlier run left.

use std::collections::BTreeMap;
use std::path::{Component, Path, PathBuf};

use md5::{Digest, Md5};
use serde::{Deserialize, Serialize};
use sprachbund_core::dialect::PrintedFile;

use crate::ProjectError;
use crate::files::{self, Unreadable, Writing};

/// Remembers, beside the emitted files, what they held when they were emitted.
const RECORD: &str = ".sprachbund-emitted.json";

/// Largest file at the place of an emitted one that is looked at.
const LARGEST_BEFORE: u64 = 256 * 1024 * 1024;

/// What becomes of a folder into which files are emitted.
pub struct Delivery {
    pub files: Vec<PlannedFile>,
    pub stale: Vec<StaleFile>,
    record: Record,
}

impl Delivery {
    /// What would become of the folder; nothing is written.
    ///
    /// # Errors
    /// When two files would be one, a path would leave the folder, or a file cannot be read.
    pub fn plan(folder: &Path, files: Vec<PrintedFile>) -> Result<Self, ProjectError> {
        one_file_each(&files)?;
        let record = Record::load(folder)?;
        let files = planned(folder, files, &record)?;
        let stale = stale(folder, &files, &record);
        Ok(Delivery { files, stale, record })
    }

    /// Writes the files into the folder, all or none: none where one of them was changed by hand
    /// since it was emitted, unless it is to be overwritten. Files of an earlier run that are no
    /// longer part of the result stay, unless they are to be removed.
    ///
    /// # Errors
    /// Those of [`Delivery::plan`], files that were changed by hand, and a disk that takes nothing.
    pub fn write(
        folder: &Path,
        files: Vec<PrintedFile>,
        overwrite: bool,
        remove_stale: bool,
    ) -> Result<Self, ProjectError> {
        one_file_each(&files)?;
        let writing = Writing::into(folder)?;
        let delivery = Delivery::plan(folder, files)?;
        let by_hand = delivery.files.iter().filter(|file| file.state == State::ChangedByHand);
        let by_hand: Vec<String> = by_hand.map(|file| file.path.display().to_string()).collect();
        if !by_hand.is_empty() && !overwrite {
            return Err(ProjectError::Disk(format!(
                "changed by hand since they were emitted, or never emitted from here: {}; \
                 nothing was written. Emit into another folder, look with --preview, or use \
                 --overwrite",
                by_hand.join(", ")
            )));
        }
        write_all(&writing, &delivery, remove_stale)?;
        Ok(delivery)
    }

    /// How many files are in a state.
    pub fn count(&self, state: State) -> usize {
        self.files.iter().filter(|file| file.state == state).count()
    }
}

/// Refuses files that would overwrite each other, also where the disk does not tell letters by
/// their case.
///
/// # Errors
/// Two elements that would be one file.
pub fn one_file_each(files: &[PrintedFile]) -> Result<(), ProjectError> {
    let mut taken: BTreeMap<String, &str> = BTreeMap::new();
    for file in files {
        if let Some(other) = taken.insert(file.path.to_lowercase(), &file.path) {
            let what = if other == file.path {
                format!("the file `{other}`")
            } else {
                format!("`{other}` and `{}`", file.path)
            };
            return Err(ProjectError::Disk(format!(
                "two elements would be written into one file: {what}; nothing was written. \
                 Rename one of the classes or enumerations"
            )));
        }
    }
    Ok(())
}

/// How an emitted file stands to the one at its place.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum State {
    New,
    Unchanged,
    Changes,
    ChangedByHand,
}

/// A file that is emitted, and what becomes of it.
pub struct PlannedFile {
    pub path: PathBuf,
    /// Its path in the folder.
    pub relative: String,
    /// What is there now.
    pub before: Vec<u8>,
    pub text: String,
    pub state: State,
}

fn planned(
    folder: &Path,
    files: Vec<PrintedFile>,
    record: &Record,
) -> Result<Vec<PlannedFile>, ProjectError> {
    files.into_iter().map(|file| plan(folder, file, record)).collect()
}

/// What would become of one file. Its path must stay inside the folder.
fn plan(folder: &Path, file: PrintedFile, record: &Record) -> Result<PlannedFile, ProjectError> {
    let relative = Path::new(&file.path);
    if relative.components().any(|part| !matches!(part, Component::Normal(_))) {
        return Err(ProjectError::Disk(format!(
            "a name in the schema makes the path `{}`, which would leave the output folder",
            file.path
        )));
    }
    if let Some(link) = linked(folder, relative) {
        return Err(ProjectError::Disk(format!(
            "`{}` is a link, which may lead out of the output folder; remove it first",
            link.display()
        )));
    }
    let path = folder.join(relative);
    let (before, state) = match files::read(&path, LARGEST_BEFORE) {
        Err(Unreadable::Disk(error)) if error.kind() == std::io::ErrorKind::NotFound => {
            (Vec::new(), State::New)
        }
        Err(error) => {
            return Err(ProjectError::Disk(format!(
                "{}: {error}; nothing was written",
                path.display()
            )));
        }
        Ok(before) if before == file.text.as_bytes() => (before, State::Unchanged),
        Ok(before) if record.is_ours(&file.path, &before) => (before, State::Changes),
        Ok(before) => (before, State::ChangedByHand),
    };
    Ok(PlannedFile { path, relative: file.path, before, text: file.text, state })
}

/// The first part of a path below the folder that is a link.
fn linked(folder: &Path, relative: &Path) -> Option<PathBuf> {
    let inner = relative.ancestors().collect::<Vec<_>>();
    let paths = inner
        .into_iter()
        .rev()
        .filter(|part| !part.as_os_str().is_empty())
        .map(|part| folder.join(part));
    paths.into_iter().find(|path| {
        std::fs::symlink_metadata(path).is_ok_and(|known| known.file_type().is_symlink())
    })
}

/// A file of an earlier run that this one does not write.
pub struct StaleFile {
    /// Its path in the folder.
    pub relative: String,
    /// Somebody changed it since: it is nobody's to remove.
    pub by_hand: bool,
}

/// Files that were emitted into the folder, are still there, and are not part of what is emitted
/// now.
fn stale(folder: &Path, plan: &[PlannedFile], record: &Record) -> Vec<StaleFile> {
    let gone =
        record.emitted.keys().filter(|path| !plan.iter().any(|planned| planned.relative == **path));
    let there = gone.filter_map(|path| {
        let inside = Path::new(path).components().all(|part| matches!(part, Component::Normal(_)));
        let before = files::read(&folder.join(path), LARGEST_BEFORE)
            .ok()
            .filter(|_| inside && linked(folder, Path::new(path)).is_none())?;
        Some(StaleFile { relative: path.clone(), by_hand: !record.is_ours(path, &before) })
    });
    there.collect()
}

/// Writes what changed. A run that is killed in between leaves files of which each is either as it
/// was or as it was to be; the record that is written before them takes both for its own.
fn write_all(
    writing: &Writing,
    Delivery { files: plan, stale, record }: &Delivery,
    remove_stale: bool,
) -> Result<(), ProjectError> {
    let (mut between, mut after) = (Record::default(), Record::default());
    for planned in plan {
        let new = digest(planned.text.as_bytes());
        let old = (planned.state == State::Changes).then(|| digest(&planned.before));
        between
            .emitted
            .insert(planned.relative.clone(), old.into_iter().chain([new.clone()]).collect());
        after.emitted.insert(planned.relative.clone(), vec![new]);
    }
    for file in stale {
        let known = record.emitted.get(&file.relative).cloned().unwrap_or_default();
        between.emitted.insert(file.relative.clone(), known.clone());
        if !remove_stale || file.by_hand {
            after.emitted.insert(file.relative.clone(), known);
        }
    }
    let changed: Vec<&PlannedFile> =
        plan.iter().filter(|planned| planned.state != State::Unchanged).collect();
    if changed.iter().any(|planned| planned.state != State::New) {
        writing.write([(RECORD, between.text()?.as_str())].into_iter())?;
    }
    let after = after.text()?;
    let files = changed.iter().map(|planned| (planned.relative.as_str(), planned.text.as_str()));
    writing.write(files.chain([(RECORD, after.as_str())]))?;
    for file in stale.iter().filter(|file| remove_stale && !file.by_hand) {
        let path = writing.path(&file.relative);
        std::fs::remove_file(&path)
            .map_err(|error| ProjectError::Disk(format!("{}: {error}", path.display())))?;
    }
    Ok(())
}

/// What the emitted files held when they were emitted, by their paths: digests, several while they
/// are being written.
#[derive(Default, Serialize, Deserialize)]
#[serde(transparent)]
struct Record {
    emitted: BTreeMap<String, Vec<String>>,
}

impl Record {
    /// The record of a folder; none is an empty one, and a damaged one too: then every file counts
    /// as changed by hand.
    fn load(folder: &Path) -> Result<Self, ProjectError> {
        let path = folder.join(RECORD);
        match files::read_own(&path) {
            Ok(text) => Ok(serde_json::from_str(&text).unwrap_or_default()),
            Err(Unreadable::Disk(_)) => Ok(Record::default()),
            Err(error) => {
                Err(ProjectError::Disk(format!("{}: {error}; nothing was written", path.display())))
            }
        }
    }

    fn is_ours(&self, path: &str, content: &[u8]) -> bool {
        self.emitted.get(path).is_some_and(|known| known.contains(&digest(content)))
    }

    fn text(&self) -> Result<String, ProjectError> {
        Ok(serde_json::to_string_pretty(self).unwrap_or_default() + "\n")
    }
}

fn digest(content: &[u8]) -> String {
    Md5::digest(content).iter().map(|byte| format!("{byte:02x}")).collect()
}
