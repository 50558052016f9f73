//! `lint`: what does not fit together.

use std::collections::BTreeMap;

use anstyle::AnsiColor;
use similar::TextDiff;
use sprachbund_core::diagnostic::Diagnostic;
use sprachbund_core::lint::rule;
use sprachbund_core::report::{json, junit, sarif};
use sprachbund_core::session::{
    Findings, Fixed, FixedFile, LintRequest, Read, Session, suggest, suggested,
};
use sprachbund_project::files::{self, write_together};
use sprachbund_project::known::KnownFindings;
use sprachbund_project::{Project, Request, dialect_and_release};

use crate::arguments::{LintFormat, LintOptions};
use crate::report::findings::{self, Look};
use crate::report::human::{FAINT, STRONG};
use crate::{Failure, Outcome, output};

pub(crate) fn run(options: &LintOptions) -> Result<Outcome, Failure> {
    if let Some(name) = options.also.iter().find(|name| rule(name).is_none()) {
        return Err(Failure(format!(
            "no rule is called `{name}`; `sprachbund explain` lists them"
        )));
    }
    let project = Project::open(options.input.request(), &output::tell)?;
    let threshold = project.configuration.threshold(options.threshold.as_ref())?;
    let session = project.session();
    let read = project.read_whole(&session)?;
    let (beside, mut findings) = found(options, &project, &session, &read)?;
    let reading = tell_reading(&read, beside.as_ref(), &findings);
    super::something(&read)?;
    let known = options.known.clone().or_else(|| project.configuration.known_findings());
    let known = KnownFindings::load(known)?;
    if options.remember {
        output::news(&known.remember(&findings.found)?);
        return Ok(Outcome::Clean);
    }
    let taken = known.take_out(&mut findings.found);
    findings.keep_only(&read.schema, &project.request.tables);
    let Findings { mut found, sources, .. } = findings;
    let database = read.schema.source.database;
    for diagnostic in &mut found {
        let set = project.configuration.severity_source(diagnostic.code, database);
        diagnostic.notes.extend(set);
    }
    if options.mend {
        found = fix(options, &session, &read, found)?;
    } else {
        match options.format {
            LintFormat::Human => {
                let colour = output::colour(&std::io::stdout());
                let look = Look { colour, width: super::width(), detail: options.detail };
                let lines = suggest(&read, &found, suggested(&found, options.detail));
                add_suggestions(&read, &mut found, lines);
                output::page(&findings::render(&found, &sources, &look))?;
                output::page(&findings::summary(&found, read.schema.entities.len()))?;
                output::page(&known.summary(taken.0, taken.1))?;
            }
            LintFormat::Sarif => {
                let fixes = session.fixes(&read, &found, &[]);
                let fixes = fixes.iter().map(|(at, edits)| (*at, sarif::Fix::of(edits, &sources)));
                let fixes = fixes.collect();
                suggest_all(&read, &mut found);
                let value = sarif::render(&found, &sources, sarif::lint_rules(), &fixes);
                output::result(&super::pretty(&value))?;
            }
            LintFormat::Json => {
                suggest_all(&read, &mut found);
                output::result(&super::pretty(&json::render(&found, &sources)))?;
            }
            LintFormat::Junit => {
                suggest_all(&read, &mut found);
                output::result(&junit::render("lint", &found, &sources)?)?;
            }
        }
    }
    let over = found.iter().any(|diagnostic| diagnostic.severity >= threshold);
    Ok(if over { Outcome::Findings } else { reading })
}

/// Lints, with the tables beside the declarations, where some are named.
fn found(
    options: &LintOptions,
    project: &Project<'_>,
    session: &Session<'_>,
    read: &Read,
) -> Result<(Option<Read>, Findings), Failure> {
    let target = options.to.as_deref().map(|target| dialect_and_release(target, project));
    let target = target.transpose()?;
    let beside = match &options.beside {
        Some(input) => Some(read_beside(input, options, read)?),
        None => None,
    };
    let request = LintRequest { target, beside: beside.as_ref(), ..project.lint_request(read)? };
    let findings = session.lint(read, &request);
    Ok((beside, findings))
}

/// The tables that exist, or that the history makes: on the server of the declarations.
fn read_beside(
    input: &sprachbund_project::Input,
    options: &LintOptions,
    declared: &Read,
) -> Result<Read, Failure> {
    let server = || declared.schema.source.database.id().to_owned();
    let whole = options.input.request();
    let request = Request {
        inputs: vec![input.clone()],
        database: Some(options.input.database.clone().unwrap_or_else(server)),
        from: None,
        naming: None,
        ..whole
    };
    let project = Project::open(request, &output::tell_further)?;
    let read = project.read(&project.session())?;
    super::something(&read)?;
    Ok(read)
}

/// Says what was assumed and what is no finding of a rule.
fn tell_reading(read: &Read, beside: Option<&Read>, findings: &Findings) -> Outcome {
    for read in std::iter::once(read).chain(beside) {
        super::tell_assumed(read);
    }
    super::tell_diagnostics(&findings.reading, &findings.sources)
}

/// Adds to findings how their cure is written in the dialect of the inputs.
fn add_suggestions(read: &Read, found: &mut [Diagnostic], lines: BTreeMap<usize, Vec<String>>) {
    for (at, lines) in lines {
        if let Some(help) = &mut found[at].help {
            let framework = read.dialect.framework;
            help.push_str(&format!("; in {framework}:\n{}", lines.join("\n")));
        }
    }
}

fn suggest_all(read: &Read, found: &mut [Diagnostic]) {
    let lines = suggest(read, found, suggested(found, true));
    add_suggestions(read, found, lines);
}

/// Fixes the files, or shows what would change; the findings that are left.
fn fix(
    options: &LintOptions,
    session: &Session<'_>,
    read: &Read,
    found: Vec<Diagnostic>,
) -> Result<Vec<Diagnostic>, Failure> {
    let fixed = session.fix(read, &found, &options.also);
    tell(&fixed, &found, options.preview)?;
    if options.preview {
        return Ok(found);
    }
    write(&fixed.files)?;
    let left = found.into_iter().enumerate().filter(|(at, _)| !fixed.made.contains(at));
    Ok(left.map(|(_, one)| one).collect())
}

/// Writes the files, unless somebody changed one since it was read.
fn write(fixed: &[FixedFile]) -> Result<(), Failure> {
    for FixedFile { path, before, .. } in fixed {
        let now = files::read(path.as_ref(), before.len() as u64);
        if !now.is_ok_and(|now| now == before.as_bytes()) {
            return Err(Failure(format!(
                "{path} was changed since it was read; nothing was written"
            )));
        }
    }
    // A link stays one: what it leads to is written.
    let real = |path: &String| std::fs::canonicalize(path).unwrap_or_else(|_| path.into());
    let files: Vec<_> = fixed.iter().map(|file| (real(&file.path), file.after.as_str())).collect();
    Ok(write_together(files.iter().map(|(path, text)| (path.as_path(), *text)))?)
}

/// Says what was, or would be, mended.
fn tell(fixed: &Fixed, found: &[Diagnostic], preview: bool) -> Result<(), Failure> {
    for FixedFile { path, before, after } in &fixed.files {
        output::page(&format!("{STRONG}{path}{STRONG:#}\n"))?;
        let diff = TextDiff::from_lines(before.as_str(), after.as_str());
        let mut diff = diff.unified_diff();
        let diff = diff.context_radius(2).header("as it is", "as it would be");
        output::page(&coloured(&diff.to_string()))?;
    }
    let done = if preview { "would be mended" } else { "mended" };
    let (made, files) = (fixed.made.len(), fixed.files.len());
    let mut out = format!("{made} of {} findings {done} in {files} files\n", found.len());
    for (places, why) in [
        (
            &fixed.refused,
            "have a cure that could not be carried over to the text: it stands there in other \
             words",
        ),
        (
            &fixed.unasked,
            "have a cure by which the database does more than before: agree to it with --also RULE",
        ),
    ] {
        if places.is_empty() {
            continue;
        }
        out.push_str(&format!("{} {why}\n", places.len()));
        let one =
            |at: &usize| format!("  {FAINT}{}: {}{FAINT:#}\n", found[*at].code, found[*at].message);
        out.extend(places.iter().map(one));
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
