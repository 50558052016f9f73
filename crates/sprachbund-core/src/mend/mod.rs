//! Mending declarations in their own source files, minimally: formatting, comments and whatever
//! else stands there stay.
//!
//! A cure is a [`Change`] of the schema, the same for every dialect. The schema is printed as it is
//! and as it is to be; the difference between the two texts, token by token, is carried over to the
//! text that the author wrote (`merge`). Nothing is taken on trust: the mended files are read
//! again, and must mean what was intended. What does not is left as it was.

mod merge;
mod suggest;
mod tokens;

use std::cell::OnceCell;
use std::cmp::Reverse;
use std::collections::{BTreeMap, BTreeSet, HashMap, HashSet};

use crate::diagnostic::Diagnostic;
use crate::dialect::{Dialect, Settings};
use crate::fit::fit;
use crate::host::project::Outlines;
use crate::reading::{self, Reading};
use crate::schema::facts::differences;
use crate::schema::{Change, Entity, Schema};
use crate::source::{FileId, NoFiles, Sources, Span};

use merge::{Edit, apply, merge};
pub use suggest::suggestions;

/// A project that is being mended.
pub struct Mending<'m> {
    pub dialect: &'static Dialect,
    pub settings: &'m Settings,
    /// Reads the project's files (path and text) as they were read first.
    pub read: &'m dyn Fn(Vec<(String, String)>) -> Reading,
    /// The project's files.
    pub files: Vec<(String, String)>,
    pub schema: Schema,
    pub sources: Sources,
    /// The schema as its own dialect writes it: the same for all tries until one is made.
    printed: OnceCell<Reading>,
    /// What the printed files are lowered to: from one try to the next few of them differ.
    lowered: Outlines,
}

/// How often the project's files are read again for one call, however many changes there are. What
/// does not fit by then is left.
const MOST_READINGS: usize = 48;

/// Changes of one class that are tried one after the other: each round of them prints and reads
/// everything once.
const MOST_ROUNDS: usize = 12;

/// An edit of one of the project's files: text to be put in the place of a range of bytes.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct FileEdit {
    pub path: String,
    pub start: usize,
    pub end: usize,
    pub text: String,
}

/// Edits that were carried over, and the tables of the classes for which that did not work.
#[derive(Default)]
struct Carried {
    /// Each with the table of its class; none where it belongs to a file as a whole.
    edits: Vec<(Option<String>, FileEdit)>,
    failed: BTreeSet<String>,
}

/// Why changes could not be made together: the tables that are not as they should be.
struct Refused(BTreeSet<String>);

impl<'m> Mending<'m> {
    /// A project as it was read; `read` reads its files (path and text) in the same way again.
    pub fn new(
        dialect: &'static Dialect,
        settings: &'m Settings,
        read: &'m dyn Fn(Vec<(String, String)>) -> Reading,
        files: Vec<(String, String)>,
        schema: Schema,
        sources: Sources,
    ) -> Self {
        let (printed, lowered) = (OnceCell::new(), Outlines::default());
        Mending { dialect, settings, read, files, schema, sources, printed, lowered }
    }

    /// Makes as many of the changes as can be made; says which were, by their places in the list.
    ///
    /// All are made together, without those that turn out to spoil it; these are then tried one of
    /// each class at a time.
    pub fn make(&mut self, changes: &[&Change]) -> Vec<usize> {
        let tables = self.tables_of(changes);
        let mut readings = MOST_READINGS;
        let all = (0..changes.len()).collect();
        let mut made = self.together(changes, &tables, all, &mut readings);
        let done: HashSet<usize> = made.iter().copied().collect();
        let mut waiting: Vec<usize> = (0..changes.len()).filter(|at| !done.contains(at)).collect();
        for _ in 0..MOST_ROUNDS {
            let (now, later) = one_of_each(changes, waiting);
            if now.is_empty() {
                break;
            }
            made.extend(self.together(changes, &tables, now, &mut readings));
            waiting = later;
        }
        made.sort_unstable();
        made
    }

    /// The edits that make each of the changes alone, by its place in the list, as far as they were
    /// found. Nothing is made.
    pub fn each_alone(&self, changes: &[&Change]) -> BTreeMap<usize, Vec<FileEdit>> {
        let mut found = BTreeMap::new();
        let tables = self.tables_of(changes);
        let mut waiting: Vec<usize> = (0..changes.len()).collect();
        let mut readings = MOST_READINGS;
        for _ in 0..MOST_ROUNDS {
            let (mut now, later) = one_of_each(changes, waiting);
            while !now.is_empty() && readings > 0 {
                let Some((wanted, after)) = self.intended(changes, &mut now) else { break };
                let carried = self.by_class(self.before(), &after);
                readings -= 1;
                let edits: Vec<FileEdit> =
                    carried.edits.iter().map(|(_, edit)| edit.clone()).collect();
                let mut spoilt = self
                    .spoilt(&edits, &wanted)
                    .map_or_else(|Refused(tables)| tables, |_| BTreeSet::new());
                spoilt.extend(carried.failed.iter().cloned());
                let is_spoilt =
                    |at: &usize| tables[*at].as_ref().is_none_or(|table| spoilt.contains(table));
                if spoilt.is_empty() {
                    let shares = Shares::of(&carried, &self.files);
                    let own = |at: usize| Some((at, shares.of_table(tables[at].as_ref()?)));
                    found.extend(now.drain(..).filter_map(own));
                } else if now.iter().any(is_spoilt) {
                    now.retain(|at| !is_spoilt(at));
                } else {
                    break;
                }
            }
            waiting = later;
        }
        found.retain(|_, edits: &mut Vec<FileEdit>| !edits.is_empty());
        found
    }

    /// Makes those of the changes that go together.
    fn together(
        &mut self,
        changes: &[&Change],
        of: &[Option<String>],
        mut wanted: Vec<usize>,
        readings: &mut usize,
    ) -> Vec<usize> {
        while !wanted.is_empty() && *readings > 0 {
            let before = *readings;
            let Refused(tables) = match self.tried(changes, &mut wanted, readings) {
                Ok((files, reading)) => {
                    (self.files, self.schema, self.sources) =
                        (files, reading.schema, reading.sources);
                    self.printed = OnceCell::new();
                    return wanted;
                }
                Err(refused) => refused,
            };
            // A try that was over before anything was read has printed everything all the same.
            if *readings == before {
                *readings -= 1;
            }
            let spoilt = |at: &usize| of[*at].as_ref().is_some_and(|table| tables.contains(table));
            if wanted.iter().any(spoilt) {
                wanted.retain(|at| !spoilt(at));
            } else if wanted.len() > 1 {
                // Nobody can be blamed: one half after the other.
                let other = wanted.split_off(wanted.len() / 2);
                let mut made = self.together(changes, of, wanted, readings);
                made.extend(self.together(changes, of, other, readings));
                return made;
            } else {
                break;
            }
        }
        Vec::new()
    }

    /// The table of each change, which no change gives another name.
    fn tables_of(&self, changes: &[&Change]) -> Vec<Option<String>> {
        // The first of several with one id is what stays in the map.
        let entities = self.schema.entities.iter().rev();
        let tables: HashMap<&str, &String> =
            entities.map(|entity| (entity.id.as_str(), &entity.table)).collect();
        changes.iter().map(|change| tables.get(change.entity()).copied().cloned()).collect()
    }

    /// The schema after the changes, and as it is printed then. Changes that find nothing to change
    /// are taken out of the list.
    fn intended(&self, changes: &[&Change], wanted: &mut Vec<usize>) -> Option<(Schema, Reading)> {
        let mut schema = self.schema.clone();
        let mut entities: HashMap<String, &mut Entity> = HashMap::new();
        for entity in &mut schema.entities {
            // Of two classes that are declared as one the first counts, as everywhere.
            entities.entry(entity.id.clone()).or_insert(entity);
        }
        wanted.retain(|at| {
            let entity = entities.get_mut(changes[*at].entity());
            entity.is_some_and(|entity| changes[*at].apply_to(entity))
        });
        if wanted.is_empty() {
            return None;
        }
        let after = printed(&schema, self.dialect, self.settings, &self.lowered);
        Some((schema, after))
    }

    /// The schema as it is printed now.
    fn before(&self) -> &Reading {
        let print = || printed(&self.schema, self.dialect, self.settings, &self.lowered);
        self.printed.get_or_init(print)
    }

    /// The files after the changes, if they then mean what they should: edited by class where each
    /// stands in a text of its own, else by file.
    fn tried(
        &self,
        changes: &[&Change],
        wanted: &mut Vec<usize>,
        readings: &mut usize,
    ) -> Result<(Vec<(String, String)>, Reading), Refused> {
        let Some((schema, after)) = self.intended(changes, wanted) else {
            return Err(Refused(BTreeSet::new()));
        };
        let mut blamed: Option<BTreeSet<String>> = None;
        // By class first: it works where the author's classes stand in files of their own, in
        // another order, or among code that is not printed.
        for by_class in [true, false] {
            let carried = match by_class {
                true => Some(self.by_class(self.before(), &after)),
                false => self.by_file(self.before(), &after),
            };
            let Some(carried) = carried else { continue };
            let refused = match carried.failed.is_empty() {
                true => {
                    *readings = readings.saturating_sub(1);
                    let edits: Vec<FileEdit> =
                        carried.edits.into_iter().map(|(_, edit)| edit).collect();
                    match self.spoilt(&edits, &schema) {
                        Ok(done) => return Ok(done),
                        Err(Refused(tables)) => tables,
                    }
                }
                false => carried.failed,
            };
            // Whom both ways blame.
            blamed = Some(match blamed {
                Some(known) if known.intersection(&refused).next().is_some() => {
                    known.intersection(&refused).cloned().collect()
                }
                _ => refused,
            });
        }
        Err(Refused(blamed.unwrap_or_default()))
    }

    /// The files after the edits, or the tables that then are not what was wanted.
    fn spoilt(
        &self,
        edits: &[FileEdit],
        wanted: &Schema,
    ) -> Result<(Vec<(String, String)>, Reading), Refused> {
        let mut files = self.files.clone();
        let mut by_file: HashMap<&str, Vec<Edit>> = HashMap::new();
        for FileEdit { path, start, end, text } in edits {
            let edit = Edit { start: *start, end: *end, text: text.clone() };
            by_file.entry(path).or_default().push(edit);
        }
        for (path, text) in &mut files {
            if let Some(edits) = by_file.get(path.as_str()) {
                *text = apply(text, &edits.iter().collect::<Vec<_>>());
            }
        }
        let reading = (self.read)(files.clone());
        let edited = |span: Span| by_file.contains_key(&*reading.sources.file(span.file).path);
        // Faults of other files are not of these edits.
        let broken = |one: &Diagnostic| {
            one.code == "syntax-error"
                && one.primary.as_ref().is_none_or(|label| edited(label.span))
        };
        let differing: BTreeSet<String> =
            differences(wanted, &reading.schema).into_iter().map(|one| one.key.table).collect();
        let sound = !reading.diagnostics.iter().any(broken);
        if sound && differing.is_empty() { Ok((files, reading)) } else { Err(Refused(differing)) }
    }

    /// The edits of the project's files, each with its path, that carry over what is new in a
    /// printed file to the files that hold the same classes. What stands in none of them has no
    /// place.
    fn by_file(&self, before: &Reading, after: &Reading) -> Option<Carried> {
        let classes = |schema: &Schema, sources: &Sources| -> HashMap<String, Vec<String>> {
            let mut found: HashMap<String, Vec<String>> = HashMap::new();
            for (entity, span) in
                schema.entities.iter().filter_map(|entity| Some((entity, entity.origin.span()?)))
            {
                found
                    .entry(sources.file(span.file).path.to_string())
                    .or_default()
                    .push(entity.address());
            }
            found
        };
        let (printed, own) =
            (classes(&before.schema, &before.sources), classes(&self.schema, &self.sources));
        let mut edits = Vec::new();
        for base in &before.sources.files {
            let Some(theirs) = after.sources.files.iter().find(|file| file.path == base.path)
            else {
                continue;
            };
            if base.text == theirs.text {
                continue;
            }
            let of_class = |path: &String| match printed.get(&*base.path) {
                Some(classes) => own
                    .get(path)
                    .is_some_and(|known| known.iter().any(|class| classes.contains(class))),
                // A file that holds no class connects those of others.
                None => true,
            };
            let candidates = self.files.iter().filter(|(path, _)| of_class(path));
            let merged = candidates.map(|(path, text)| {
                (path, merge(&base.text, &theirs.text, text, self.dialect.language))
            });
            // Into the one that is most alike: in several it would stand twice.
            let Some((path, best)) =
                merged.min_by_key(|(_, merged)| (merged.unplaced, Reverse(merged.alike)))
            else {
                continue;
            };
            edits.extend(best.placed.into_iter().map(|edit| (None, edit.of_file(path))));
        }
        (!edits.is_empty()).then_some(Carried { edits, failed: BTreeSet::new() })
    }

    /// The edits of the project's files that carry over what is new in each class, and in what
    /// stands before the classes.
    fn by_class(&self, before: &Reading, after: &Reading) -> Carried {
        let (own, old, new) = (
            Regions::of(&self.schema, &self.sources),
            Regions::of(&before.schema, &before.sources),
            Regions::of(&after.schema, &after.sources),
        );
        let tables: HashMap<String, &String> =
            self.schema.entities.iter().map(|entity| (entity.address(), &entity.table)).collect();
        let mut carried = Carried::default();
        let mut heads: BTreeMap<(FileId, FileId, FileId), BTreeSet<String>> = BTreeMap::new();
        for (class, place) in &old.classes {
            let table = tables.get(&class.1).copied().unwrap_or(&class.1);
            let (Some(known), written) = (new.classes.get(class), own.classes.get(class)) else {
                carried.failed.insert(table.clone());
                continue;
            };
            let (base, theirs) = (old.text(place), new.text(known));
            if base == theirs {
                continue;
            }
            let merged = written
                .and_then(|written| Some((self.merged(base, theirs, &own, written)?, written)));
            match merged {
                Some((edits, written)) => {
                    carried.edits.extend(edits.into_iter().map(|edit| (Some(table.clone()), edit)));
                    heads
                        .entry((place.file, known.file, written.file))
                        .or_default()
                        .insert(table.clone());
                }
                None => drop(carried.failed.insert(table.clone())),
            }
        }
        for ((base, theirs, written), tables) in heads {
            let (Some(base), Some(theirs)) = (old.heads.get(&base), new.heads.get(&theirs)) else {
                continue;
            };
            let (base, theirs) = (old.text(base), new.text(theirs));
            if base == theirs {
                continue;
            }
            match own
                .heads
                .get(&written)
                .and_then(|written| self.merged(base, theirs, &own, written))
            {
                Some(edits) => carried.edits.extend(edits.into_iter().map(|edit| (None, edit))),
                None => carried.failed.extend(tables),
            }
        }
        carried
    }

    fn merged(
        &self,
        base: &str,
        theirs: &str,
        own: &Regions<'_>,
        written: &Region,
    ) -> Option<Vec<FileEdit>> {
        let path = own.sources.file(written.file).path.to_string();
        let merged = merge(base, theirs, own.text(written), self.dialect.language);
        if merged.unplaced > 0 {
            return None;
        }
        Some(
            merged
                .placed
                .into_iter()
                .map(|edit| edit.moved(written.start).of_file(&path))
                .collect(),
        )
    }
}

/// Edits that were carried over, by the classes that they are of.
struct Shares<'c> {
    files: HashMap<&'c str, &'c str>,
    own: HashMap<&'c str, Vec<&'c FileEdit>>,
    /// Of the head of each file, with the words that each puts in or takes out.
    heads: HashMap<&'c str, Vec<(&'c FileEdit, BTreeSet<String>)>>,
}

impl<'c> Shares<'c> {
    fn of(carried: &'c Carried, files: &'c [(String, String)]) -> Self {
        let files = files.iter().map(|(path, text)| (path.as_str(), text.as_str())).collect();
        let mut shares = Shares { files, own: HashMap::new(), heads: HashMap::new() };
        for (class, edit) in &carried.edits {
            match class {
                Some(table) => shares.own.entry(table).or_default().push(edit),
                None => {
                    let words = shares.words(edit);
                    shares.heads.entry(&edit.path).or_default().push((edit, words));
                }
            }
        }
        shares
    }

    /// The words that an edit puts in or takes out.
    fn words(&self, edit: &FileEdit) -> BTreeSet<String> {
        let gone =
            self.files.get(edit.path.as_str()).and_then(|text| text.get(edit.start..edit.end));
        let texts = [edit.text.as_str(), gone.unwrap_or_default()];
        let words = texts.into_iter().flat_map(|text| {
            text.split(|letter: char| !(letter.is_alphanumeric() || letter == '_'))
        });
        words.filter(|word| word.len() > 1).map(str::to_owned).collect()
    }

    /// The edits of one class, and of the head of its file those that it needs: they put in or take
    /// out a word that it does, too.
    fn of_table(&self, table: &str) -> Vec<FileEdit> {
        let own = self.own.get(table).map_or(&[][..], Vec::as_slice);
        let used: BTreeSet<String> = own.iter().flat_map(|edit| self.words(edit)).collect();
        let paths: BTreeSet<&str> = own.iter().map(|edit| edit.path.as_str()).collect();
        let heads = paths.into_iter().filter_map(|path| self.heads.get(path)).flatten();
        let needed = heads.filter(|(_, words)| !words.is_disjoint(&used)).map(|(edit, _)| *edit);
        own.iter().copied().chain(needed).map(|edit| self.with_its_line_ends(edit)).collect()
    }

    /// The edit with lines that end as the others of its file do.
    fn with_its_line_ends(&self, edit: &FileEdit) -> FileEdit {
        let carriage = self.files.get(edit.path.as_str()).is_some_and(|text| text.contains("\r\n"));
        let text = if carriage { edit.text.replace('\n', "\r\n") } else { edit.text.clone() };
        FileEdit { text, ..edit.clone() }
    }
}

/// Of each class the first change, and the others.
fn one_of_each(changes: &[&Change], waiting: Vec<usize>) -> (Vec<usize>, Vec<usize>) {
    let mut taken: HashSet<&str> = HashSet::new();
    waiting.into_iter().partition(|at| taken.insert(changes[*at].entity()))
}

/// A schema as its own dialect writes it, read again for the places. Files that were lowered before
/// are taken from there.
fn printed(schema: &Schema, dialect: &Dialect, settings: &Settings, lowered: &Outlines) -> Reading {
    let mut settings = settings.clone();
    let fitted = fit(schema, dialect, &settings).schema;
    let files = crate::elide::printed(dialect, &fitted, &(dialect.conventions)(&settings));
    let files = files.into_iter().map(|file| (file.path, file.text)).collect();
    reading::read_keeping(files, dialect, &mut settings, &NoFiles, Some(lowered))
}

/// A part of a file.
#[derive(Clone, Copy)]
struct Region {
    file: FileId,
    start: usize,
    end: usize,
}

/// Files in parts: what stands before the first class, and each class up to the next one.
struct Regions<'s> {
    sources: &'s Sources,
    heads: HashMap<FileId, Region>,
    /// By name and table.
    classes: BTreeMap<(String, String), Region>,
}

impl<'s> Regions<'s> {
    fn of(schema: &Schema, sources: &'s Sources) -> Self {
        let mut starts: BTreeMap<FileId, Vec<(usize, &Entity)>> = BTreeMap::new();
        for (entity, span) in
            schema.entities.iter().filter_map(|entity| Some((entity, entity.origin.span()?)))
        {
            starts.entry(span.file).or_default().push((span.start as usize, entity));
        }
        let (mut heads, mut classes) = (HashMap::new(), BTreeMap::new());
        for (file, mut starts) in starts {
            starts.sort_by_key(|(start, _)| *start);
            let text = &sources.file(file).text;
            let mut least = 0;
            for (start, _) in &mut starts {
                let name = *start;
                *start = beginning(text, least, name);
                least = name;
            }
            let length = text.len();
            heads.insert(file, Region { file, start: 0, end: starts[0].0 });
            for (at, (start, entity)) in starts.iter().enumerate() {
                let end = starts.get(at + 1).map_or(length, |(next, _)| *next);
                classes.insert(
                    (entity.name.clone(), entity.address()),
                    Region { file, start: *start, end },
                );
            }
        }
        Regions { sources, heads, classes }
    }

    fn text(&self, region: &Region) -> &'s str {
        self.sources.file(region.file).text.get(region.start..region.end).unwrap_or_default()
    }
}

/// Where the class begins whose name stands at `name`: after the last empty line before it, with
/// what decorates it and what is said of it.
fn beginning(text: &str, least: usize, name: usize) -> usize {
    let before = text.get(least..name).unwrap_or_default();
    let empty =
        before.rfind("\n\n").map(|at| at + 2).max(before.rfind("\r\n\r\n").map(|at| at + 4));
    let line = before.rfind('\n').map(|at| at + 1);
    least + empty.or(line).unwrap_or(if least == 0 { 0 } else { before.len() })
}
