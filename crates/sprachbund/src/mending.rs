//! `lint --mend`: cures written into the source files, with a preview.

use std::collections::BTreeMap;

use anstyle::AnsiColor;
use similar::TextDiff;
use sprachbund_core::diagnostic::{Diagnostic, Safety};
use sprachbund_core::dialect::Settings;
use sprachbund_core::mend::{FileEdit, Mending, suggestions};
use sprachbund_core::reading::read;
use sprachbund_core::source::Sources;

use crate::arguments::{Input, LintFormat, LintOptions};
use crate::configuration::Configuration;
use crate::files::{self, write_together};
use crate::inputs::{Loaded, disk};
use crate::report::human::{FAINT, STRONG};
use crate::report::sarif::Fix;
use crate::{Failure, output};

/// Findings of which it is said how their cure is written.
const MOST_SUGGESTIONS: usize = 500;

/// What mending made of the files.
#[derive(Default)]
pub(crate) struct Mended {
    /// Changed files: path, text before, text after.
    files: Vec<(String, String, String)>,
    /// Places of the mended findings.
    made: Vec<usize>,
    /// Places of findings whose cure could not be carried over to the text.
    refused: Vec<usize>,
    /// Places of findings with a cure that somebody must agree to.
    unasked: Vec<usize>,
    /// For a report: each finding's own change of a file.
    alone: BTreeMap<usize, Vec<FileEdit>>,
}

/// Makes the cures: the certain ones, and those of the rules that were agreed to.
pub(crate) fn mend(options: &LintOptions, configuration: &Configuration, loaded: &Loaded, found: &[Diagnostic]) -> Result<Mended, Failure> {
    for name in &options.also {
        if sprachbund_core::lint::rule(name).is_none() {
            return Err(Failure(format!("no rule is called `{name}`; `sprachbund explain` lists them")));
        }
    }
    let safety = |one: &Diagnostic| one.cure.as_ref().map(|cure| cure.safety);
    let agreed = |one: &Diagnostic| safety(one) == Some(Safety::Certain) || options.also.iter().any(|name| name == one.code);
    let curable = found.iter().enumerate().filter(|(_, one)| safety(one) > Some(Safety::Shown));
    let (wanted, unasked): (Vec<_>, Vec<_>) = curable.partition(|(_, one)| agreed(one));
    let mut mended = Mended { unasked: unasked.iter().map(|(at, _)| *at).collect(), ..Mended::default() };
    let changes: Vec<_> = wanted.iter().filter_map(|(_, one)| one.cure.as_ref()).map(|cure| &cure.change).collect();
    // What a catalog was put together to is nobody's file.
    let live = options.input.inputs.iter().any(|input| matches!(input, Input::Database(_)));
    let files = if live { Vec::new() } else { inputs_of(loaded) };
    if files.is_empty() || changes.is_empty() {
        mended.refused = wanted.iter().map(|(at, _)| *at).collect();
        return Ok(mended);
    }
    let disk = disk(&options.input, configuration);
    let read_again = |files: Vec<(String, String)>| {
        let mut settings: Settings = configuration.settings(&options.input).unwrap_or_else(|_| loaded.settings.clone());
        settings.default_module = loaded.settings.default_module.clone();
        read(files, loaded.dialect, &mut settings, &disk)
    };
    let mut mending = Mending {
        dialect: loaded.dialect,
        settings: &loaded.settings,
        read: &read_again,
        files: files.clone(),
        schema: loaded.schema.clone(),
        sources: loaded.sources.clone(),
    };
    if options.format == LintFormat::Sarif && !options.mend {
        let alone = mending.each_alone(&changes).into_iter();
        mended.alone = alone.map(|(place, edits)| (wanted[place].0, edits)).collect();
        return Ok(mended);
    }
    let made = mending.make(&changes);
    mended.made = made.iter().map(|place| wanted[*place].0).collect();
    mended.refused = wanted.iter().map(|(at, _)| *at).filter(|at| !mended.made.contains(at)).collect();
    mended.files = changed(&files, &mending.files);
    Ok(mended)
}

/// Adds to each finding how its cure is written in the dialect of the inputs.
pub(crate) fn suggest(loaded: &Loaded, found: &mut [Diagnostic]) {
    let curable: Vec<usize> = (0..found.len()).filter(|at| found[*at].cure.is_some()).take(MOST_SUGGESTIONS).collect();
    if curable.is_empty() || inputs_of(loaded).is_empty() {
        return;
    }
    let changes: Vec<_> = curable.iter().filter_map(|at| found[*at].cure.as_ref()).map(|cure| cure.change.clone()).collect();
    let lines = suggestions(&loaded.schema, loaded.dialect, &loaded.settings, &changes.iter().collect::<Vec<_>>());
    for (place, lines) in lines {
        if let Some(help) = &mut found[curable[place]].help {
            help.push_str(&format!("; in {}:\n{}", loaded.dialect.framework, lines.join("\n")));
        }
    }
}

/// The texts of the inputs; none where something other than files was read.
fn inputs_of(loaded: &Loaded) -> Vec<(String, String)> {
    let text = |path: &String| {
        let file = loaded.sources.files.iter().find(|file| *file.path == **path)?;
        Some((path.clone(), file.text.to_string()))
    };
    loaded.schema.source.files.iter().filter_map(text).collect()
}

fn changed(before: &[(String, String)], after: &[(String, String)]) -> Vec<(String, String, String)> {
    let pairs = before.iter().zip(after).filter(|((_, before), (_, after))| before != after);
    pairs.map(|((path, before), (_, after))| (path.clone(), before.clone(), after.clone())).collect()
}

/// Says what was, or would be, mended.
pub(crate) fn tell(mended: &Mended, found: &[Diagnostic], preview: bool) -> Result<(), Failure> {
    for (path, before, after) in &mended.files {
        output::page(&format!("{STRONG}{path}{STRONG:#}\n"))?;
        let diff = TextDiff::from_lines(before.as_str(), after.as_str());
        output::page(&coloured(&diff.unified_diff().context_radius(2).header("as it is", "as it would be").to_string()))?;
    }
    let done = if preview { "would be mended" } else { "mended" };
    let mut out = format!("{} of {} findings {done} in {} files\n", mended.made.len(), found.len(), mended.files.len());
    for (places, why) in [
        (&mended.refused, "have a cure that could not be carried over to the text: it stands there in other words"),
        (&mended.unasked, "have a cure by which the database does more than before: agree to it with --also RULE"),
    ] {
        if places.is_empty() {
            continue;
        }
        out.push_str(&format!("{} {why}\n", places.len()));
        out.extend(places.iter().map(|at| format!("  {FAINT}{}: {}{FAINT:#}\n", found[*at].code, found[*at].message)));
    }
    output::page(&out)
}

/// What comes and what goes, in their colours.
fn coloured(diff: &str) -> String {
    let style = |line: &str| match line.as_bytes().first() {
        Some(b'+') => AnsiColor::Green.on_default(),
        Some(b'-') => AnsiColor::Red.on_default(),
        Some(b'@') => AnsiColor::Cyan.on_default(),
        _ => anstyle::Style::new(),
    };
    diff.lines().map(|line| format!("{0}{line}{0:#}\n", style(line))).collect()
}

impl Mended {
    /// Writes the files, unless somebody changed one since it was read.
    pub(crate) fn write(&self) -> Result<(), Failure> {
        for (path, before, _) in &self.files {
            let now = files::read(path.as_ref(), before.len() as u64);
            if !now.is_ok_and(|now| now == before.as_bytes()) {
                return Err(Failure(format!("{path} was changed since it was read; nothing was written")));
            }
        }
        // A link stays one: what it leads to is written.
        let real = |path: &String| std::fs::canonicalize(path).unwrap_or_else(|_| path.into());
        let files: Vec<_> = self.files.iter().map(|(path, _, after)| (real(path), after.as_str())).collect();
        write_together(files.iter().map(|(path, text)| (path.as_path(), *text)))
    }

    /// Findings that are still there.
    pub(crate) fn left(&self, found: Vec<Diagnostic>) -> Vec<Diagnostic> {
        found.into_iter().enumerate().filter(|(at, _)| !self.made.contains(at)).map(|(_, one)| one).collect()
    }

    /// Each finding's own fix, by its place.
    pub(crate) fn fixes(&self, sources: &Sources) -> BTreeMap<usize, Fix> {
        self.alone.iter().map(|(at, edits)| (*at, Fix::of(edits, sources))).collect()
    }
}
