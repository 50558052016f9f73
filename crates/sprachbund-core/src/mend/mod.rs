//! Mending declarations in their own source files, minimally: formatting, comments and whatever else stands there stay.
//!
//! A cure is a [`Change`] of the schema, the same for every dialect. The schema is printed as it is and as it is to be; the
//! difference between the two texts, token by token, is carried over to the text that the author wrote ([`merge`]). Nothing
//! is taken on trust: the mended files are read again, and must mean what was intended. What does not is left as it was.

mod merge;
mod suggest;
mod tokens;

use std::cmp::Reverse;
use std::collections::{BTreeMap, HashMap};

use crate::diagnostic::Diagnostic;
use crate::dialect::{Dialect, Settings};
use crate::fit::fit;
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
}

impl Mending<'_> {
    /// Makes as many of the changes as can be made; says which were, by their places in the list.
    pub fn make(&mut self, changes: &[&Change]) -> Vec<usize> {
        let mut made = Vec::new();
        self.attempt(changes, 0, &mut made);
        made
    }

    /// All at once if that works, else one half after the other.
    fn attempt(&mut self, changes: &[&Change], first: usize, made: &mut Vec<usize>) {
        if changes.is_empty() {
            return;
        }
        if let Some((files, reading)) = self.mended(changes) {
            (self.files, self.schema, self.sources) = (files, reading.schema, reading.sources);
            made.extend(first..first + changes.len());
            return;
        }
        if changes.len() > 1 {
            let (one, other) = changes.split_at(changes.len() / 2);
            self.attempt(one, first, made);
            self.attempt(other, first + one.len(), made);
        }
    }

    /// The files after the changes, if they then mean what they should.
    fn mended(&self, changes: &[&Change]) -> Option<(Vec<(String, String)>, Reading)> {
        let mut wanted = self.schema.clone();
        if !changes.iter().all(|change| change.apply(&mut wanted)) {
            return None;
        }
        let printed = |schema: &Schema| printed(schema, self.dialect, self.settings);
        let (before, after) = (printed(&self.schema), printed(&wanted));
        // By class where each stands in a text of its own, else by file.
        let ways = [Self::edits_by_class, Self::edits_by_file];
        ways.into_iter().filter_map(|edits| edits(self, &before, &after)).find_map(|edits| self.edited(&edits, &wanted))
    }

    /// The files after the edits, if they then mean what was wanted.
    fn edited(&self, edits: &[(String, Edit)], wanted: &Schema) -> Option<(Vec<(String, String)>, Reading)> {
        let mut files = self.files.clone();
        for (path, text) in &mut files {
            let of_file: Vec<&Edit> = edits.iter().filter(|(known, _)| known == path).map(|(_, edit)| edit).collect();
            *text = apply(text, &of_file);
        }
        let reading = (self.read)(files.clone());
        let edited = |span: Span| edits.iter().any(|(path, _)| *path == *reading.sources.file(span.file).path);
        let broken = |one: &Diagnostic| one.code == "syntax-error" && one.primary.as_ref().is_none_or(|label| edited(label.span));
        let sound = !reading.diagnostics.iter().any(broken);
        (sound && differences(wanted, &reading.schema).is_empty()).then_some((files, reading))
    }

    /// The edits of the project's files, each with its path, that carry over what is new in a printed file to the files that hold
    /// the same classes. What stands in none of them has no place.
    fn edits_by_file(&self, before: &Reading, after: &Reading) -> Option<Vec<(String, Edit)>> {
        let classes = |schema: &Schema, sources: &Sources| -> HashMap<String, Vec<String>> {
            let mut found: HashMap<String, Vec<String>> = HashMap::new();
            for (entity, span) in schema.entities.iter().filter_map(|entity| Some((entity, entity.origin.span()?))) {
                found.entry(sources.file(span.file).path.to_string()).or_default().push(entity.address());
            }
            found
        };
        let (printed, own) = (classes(&before.schema, &before.sources), classes(&self.schema, &self.sources));
        let mut edits = Vec::new();
        for base in &before.sources.files {
            let Some(theirs) = after.sources.files.iter().find(|file| file.path == base.path) else { continue };
            if base.text == theirs.text {
                continue;
            }
            let of_class = |path: &String| match printed.get(&*base.path) {
                Some(classes) => own.get(path).is_some_and(|known| known.iter().any(|class| classes.contains(class))),
                // A file that holds no class connects those of others.
                None => true,
            };
            let candidates = self.files.iter().filter(|(path, _)| of_class(path));
            let merged = candidates.map(|(path, text)| (path, merge(&base.text, &theirs.text, text, self.dialect.language)));
            // Into the one that is most alike: in several it would stand twice.
            let Some((path, best)) = merged.min_by_key(|(_, merged)| (merged.unplaced, Reverse(merged.alike))) else { continue };
            edits.extend(best.placed.into_iter().map(|edit| (path.clone(), edit)));
        }
        (!edits.is_empty()).then_some(edits)
    }

    /// The edits of the project's files, each with its path, that carry over what is new in each class.
    fn edits_by_class(&self, before: &Reading, after: &Reading) -> Option<Vec<(String, Edit)>> {
        let (own, old, new) = (
            Regions::of(&self.schema, &self.sources),
            Regions::of(&before.schema, &before.sources),
            Regions::of(&after.schema, &after.sources),
        );
        let mut edits = Vec::new();
        let mut heads: Vec<(FileId, FileId, FileId)> = Vec::new();
        for (class, place) in &old.classes {
            let (known, written) = (new.classes.get(class)?, own.classes.get(class)?);
            let (base, theirs) = (old.text(place), new.text(known));
            if base != theirs {
                edits.extend(self.merged(base, theirs, &own, written)?);
                heads.push((place.file, known.file, written.file));
            }
        }
        heads.sort();
        heads.dedup();
        for (base, theirs, written) in heads {
            let (base, theirs) = (old.text(old.heads.get(&base)?), new.text(new.heads.get(&theirs)?));
            if base != theirs {
                edits.extend(self.merged(base, theirs, &own, own.heads.get(&written)?)?);
            }
        }
        Some(edits)
    }

    fn merged(&self, base: &str, theirs: &str, own: &Regions<'_>, written: &Region) -> Option<Vec<(String, Edit)>> {
        let path = own.sources.file(written.file).path.to_string();
        let merged = merge(base, theirs, own.text(written), self.dialect.language);
        if merged.unplaced > 0 {
            return None;
        }
        Some(merged.placed.into_iter().map(|edit| (path.clone(), edit.moved(written.start))).collect())
    }
}

/// A schema as its own dialect writes it, read again for the places.
fn printed(schema: &Schema, dialect: &Dialect, settings: &Settings) -> Reading {
    let mut settings = settings.clone();
    let fitted = fit(schema, dialect, &settings).schema;
    let files = dialect.print(&fitted, &(dialect.conventions)(&settings));
    let files = files.into_iter().map(|file| (file.path, file.text)).collect();
    reading::read(files, dialect, &mut settings, &NoFiles)
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
        for (entity, span) in schema.entities.iter().filter_map(|entity| Some((entity, entity.origin.span()?))) {
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
                classes.insert((entity.name.clone(), entity.address()), Region { file, start: *start, end });
            }
        }
        Regions { sources, heads, classes }
    }

    fn text(&self, region: &Region) -> &'s str {
        self.sources.file(region.file).text.get(region.start..region.end).unwrap_or_default()
    }
}

/// Where the class begins whose name stands at `name`: after the last empty line before it, with what decorates it and what is
/// said of it.
fn beginning(text: &str, least: usize, name: usize) -> usize {
    let before = text.get(least..name).unwrap_or_default();
    let empty = before.rfind("\n\n").map(|at| at + 2).max(before.rfind("\r\n\r\n").map(|at| at + 4));
    let line = before.rfind('\n').map(|at| at + 1);
    least + empty.or(line).unwrap_or(if least == 0 { 0 } else { before.len() })
}
