//! Fixing: cures of findings carried over to the texts that somebody wrote.

use std::collections::{BTreeMap, HashMap, HashSet};

use super::{Read, Session};
use crate::diagnostic::{Diagnostic, Safety};
use crate::mend::{FileEdit, Mending, suggestions};
use crate::reading::Reading;
use crate::report::alike::groups;
use crate::schema::Change;

/// Findings of which people are told how their cure is written, unless they ask for each by itself:
/// who has seen it of every rule, and forty times, knows how it goes on.
const MOST_SHOWN: usize = 40;

/// Findings of which programs are told how their cure is written.
const MOST_SUGGESTIONS: usize = 500;

/// What fixing made of the texts. Findings are told by their places in the list that was given.
#[derive(Clone, Debug, Default)]
pub struct Fixed {
    pub files: Vec<FixedFile>,
    /// Findings that are no more.
    pub made: Vec<usize>,
    /// Findings whose cure could not be carried over to the text.
    pub refused: Vec<usize>,
    /// Findings with a cure that somebody must agree to.
    pub unasked: Vec<usize>,
}

/// A text that was changed.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct FixedFile {
    pub path: String,
    pub before: String,
    pub after: String,
}

/// Findings with a cure, by whether it may be made.
struct Curable<'f> {
    /// The certain ones, and those of the rules that were agreed to.
    wanted: Vec<(usize, &'f Change)>,
    unasked: Vec<usize>,
}

impl<'f> Curable<'f> {
    fn of(found: &'f [Diagnostic], agreed: &[String]) -> Self {
        let mut curable = Curable { wanted: Vec::new(), unasked: Vec::new() };
        for (at, one) in found.iter().enumerate() {
            let Some(cure) = &one.cure else { continue };
            match cure.safety {
                Safety::Shown => {}
                Safety::IfAsked if !agreed.iter().any(|rule| rule == one.code) => {
                    curable.unasked.push(at);
                }
                Safety::IfAsked | Safety::Certain => curable.wanted.push((at, &cure.change)),
            }
        }
        curable
    }

    fn changes(&self) -> Vec<&'f Change> {
        self.wanted.iter().map(|(_, change)| *change).collect()
    }
}

impl Session<'_> {
    /// Makes the cures: the certain ones, and those of the rules that were `agreed` to. Nothing is
    /// written; what cannot be made so that the texts then mean what they should is left.
    pub fn fix(&self, read: &Read, found: &[Diagnostic], agreed: &[String]) -> Fixed {
        let curable = Curable::of(found, agreed);
        let (files, changes) = (written_files(read), curable.changes());
        let mut fixed = Fixed { unasked: curable.unasked, ..Fixed::default() };
        let places = || curable.wanted.iter().map(|(at, _)| *at);
        if files.is_empty() || changes.is_empty() {
            fixed.refused = places().collect();
            return fixed;
        }
        let again = |files| self.again(read, files);
        let mut mending = mending(read, files.clone(), &again);
        let made = mending.make(&changes);
        fixed.made = made.iter().map(|place| curable.wanted[*place].0).collect();
        // Both lists go up, so what was made can be looked up by halves.
        fixed.refused = places().filter(|at| fixed.made.binary_search(at).is_err()).collect();
        let pairs = files.into_iter().zip(mending.files);
        let changed = pairs.filter(|((_, before), (_, after))| before != after);
        fixed.files =
            changed.map(|((path, before), (_, after))| FixedFile { path, before, after }).collect();
        fixed
    }

    /// Each finding's own edits, by its place, as far as they were found.
    pub fn fixes(
        &self,
        read: &Read,
        found: &[Diagnostic],
        agreed: &[String],
    ) -> BTreeMap<usize, Vec<FileEdit>> {
        let curable = Curable::of(found, agreed);
        let (files, changes) = (written_files(read), curable.changes());
        if files.is_empty() || changes.is_empty() {
            return BTreeMap::new();
        }
        let again = |files| self.again(read, files);
        let alone = mending(read, files, &again).each_alone(&changes);
        alone.into_iter().map(|(place, edits)| (curable.wanted[place].0, edits)).collect()
    }

    /// The texts read as they were read first; files that stay the same are not lowered again.
    fn again(&self, read: &Read, files: Vec<(String, String)>) -> Reading {
        let again = self.reread(files, read.dialect, read.settings.clone(), true);
        Reading { schema: again.schema, diagnostics: again.diagnostics, sources: again.sources }
    }
}

fn mending<'m>(
    read: &'m Read,
    files: Vec<(String, String)>,
    again: &'m dyn Fn(Vec<(String, String)>) -> Reading,
) -> Mending<'m> {
    let (schema, sources) = (read.schema.clone(), read.sources.clone());
    Mending::new(read.dialect, &read.settings, again, files, schema, sources)
}

/// The places of findings of which it is shown how their cure is written: one of each rule before
/// the others. With `detail` each stands by itself, as programs are told them.
pub fn suggested(found: &[Diagnostic], detail: bool) -> Vec<usize> {
    let mut rules = HashSet::new();
    let shown = groups(found, detail).into_iter().map(|group| group[0]);
    let curable = shown.filter(|at| found[*at].cure.is_some());
    let (first, others): (Vec<usize>, Vec<usize>) =
        curable.partition(|at| rules.insert(found[*at].code));
    let most = if detail { MOST_SUGGESTIONS } else { MOST_SHOWN };
    first.into_iter().chain(others).take(most).collect()
}

/// How the cures of the findings at these places are written in the dialect of the inputs, by the
/// places: the lines that are new.
pub fn suggest(
    read: &Read,
    found: &[Diagnostic],
    places: impl IntoIterator<Item = usize>,
) -> BTreeMap<usize, Vec<String>> {
    if written_files(read).is_empty() {
        return BTreeMap::new();
    }
    let curable = places.into_iter().filter_map(|at| Some((at, &found[at].cure.as_ref()?.change)));
    let (places, changes): (Vec<usize>, Vec<&Change>) = curable.unzip();
    let lines = suggestions(&read.schema, read.dialect, &read.settings, &changes);
    lines.into_iter().map(|(place, lines)| (places[place], lines)).collect()
}

/// The texts of the inputs; none where something other than files was read.
fn written_files(read: &Read) -> Vec<(String, String)> {
    if !read.written {
        return Vec::new();
    }
    let texts: HashMap<&str, &str> =
        read.sources.files.iter().map(|file| (&*file.path, &*file.text)).collect();
    let text = |path: &String| Some((path.clone(), (*texts.get(path.as_str())?).to_owned()));
    read.schema.source.files.iter().filter_map(text).collect()
}
