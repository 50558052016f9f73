//! `lint`: what does not fit together.

use sprachbund_core::diagnostic::{Diagnostic, Severity};
use sprachbund_core::lint::exceptions::fits;
use sprachbund_core::lint::{Beside, Linting, Target, is_claimed, lint, rules};
use sprachbund_core::schema::Schema;
use sprachbund_core::source::Sources;

use crate::arguments::{InputOptions, LintFormat, LintOptions};
use crate::configuration::Configuration;
use crate::inputs::{self, Loaded};
use crate::known::Known;
use crate::mending::Mended;
use crate::{Failure, Outcome, mending, output, report};

pub(crate) fn run(options: &LintOptions) -> Result<Outcome, Failure> {
    let configuration = Configuration::load(&options.input)?;
    let threshold = configuration.threshold(options.threshold.as_ref())?;
    let mut loaded = inputs::load_whole(&options.input, &configuration)?;
    let mut raised = claimed(&mut loaded);
    let reading = super::report_reading(&loaded);
    super::something(&loaded)?;
    let side = beside(options, &configuration, &loaded, &mut raised)?;
    let target = options.to.as_deref().map(inputs::dialect_and_release).transpose()?;
    let target = target.map(|(target, release)| Target::new(target, release, &loaded.schema));
    let mut sources = side.as_ref().map_or_else(|| loaded.sources.clone(), |(_, sources)| sources.clone());
    let database = loaded.schema.source.database;
    let settings = configuration.lint_settings(database, &mut sources)?;
    let mut found = lint(&Linting {
        schema: &loaded.schema,
        conventions: &(loaded.dialect.conventions)(&loaded.settings),
        sources: &sources,
        raised: &raised,
        target: target.as_ref(),
        beside: side.as_ref().map(|(beside, _)| beside),
        settings: &settings,
    });
    let known = Known::load(options.known.clone().or_else(|| configuration.known_findings()))?;
    if options.remember {
        return known.remember(&found);
    }
    let (remembered, gone) = known.take_out(&mut found);
    found.retain(|one| is_wanted(one, &loaded.schema, &options.input.reach.tables));
    let mended = if options.mend || options.format == LintFormat::Sarif {
        mending::mend(options, &configuration, &loaded, &found)?
    } else {
        Mended::default()
    };
    if !options.mend {
        mending::suggest(&loaded, &mut found);
    }
    for diagnostic in &mut found {
        diagnostic.notes.extend(configuration.severity_source(diagnostic.code, database));
    }
    match options.format {
        LintFormat::Human if options.mend => mending::tell(&mended, &found, options.preview)?,
        LintFormat::Human => {
            let stdout = std::io::stdout();
            let look = report::findings::Look { colour: output::colour(&stdout), width: super::width(), detail: options.detail };
            output::page(&report::findings::render(&found, &sources, &look))?;
            output::page(&report::findings::summary(&found, loaded.schema.entities.len()))?;
            output::page(&known.summary(remembered, gone))?;
        }
        LintFormat::Json => output::result(&pretty(&report::json::render(&found, &sources)))?,
        LintFormat::Sarif => output::result(&pretty(&sarif(&found, &sources, &mended)))?,
        LintFormat::Junit => output::result(&report::junit::render("lint", &found, &sources)?)?,
    }
    if options.mend && !options.preview {
        mended.write()?;
        found = mended.left(found);
    }
    let over = found.iter().any(|diagnostic| diagnostic.severity >= threshold);
    Ok(if over { Outcome::Findings } else { reading })
}

/// Whether a finding is about one of the tables that are wanted: rules look at all of them, what refers to a table is part of it.
fn is_wanted(one: &Diagnostic, schema: &Schema, tables: &[String]) -> bool {
    let Some(subject) = one.subject.as_ref().filter(|_| !tables.is_empty()) else { return true };
    let table = schema.entity(&subject.entity).map_or(subject.entity.as_str(), |entity| &entity.table);
    tables.iter().any(|pattern| fits(pattern, table))
}

/// What was said while reading that a rule claims.
fn claimed(loaded: &mut Loaded) -> Vec<Diagnostic> {
    let (claimed, said) = std::mem::take(&mut loaded.diagnostics).into_iter().partition(|one| is_claimed(one.code));
    loaded.diagnostics = said;
    claimed
}

/// The tables beside the declarations, with the sources of both.
fn beside(
    options: &LintOptions,
    configuration: &Configuration,
    declared: &Loaded,
    raised: &mut Vec<Diagnostic>,
) -> Result<Option<(Beside, Sources)>, Failure> {
    let Some(input) = &options.beside else { return Ok(None) };
    let input = InputOptions {
        inputs: vec![input.clone()],
        database: options.input.database.clone().or_else(|| Some(declared.schema.source.database.id().to_owned())),
        reach: options.input.reach.clone(),
        ..InputOptions::default()
    };
    let mut loaded = inputs::load(&input, configuration)?;
    let files = declared.sources.files.len();
    raised.extend(claimed(&mut loaded).into_iter().map(|one| one.shifted(files)));
    super::report_reading(&loaded);
    super::something(&loaded)?;
    let sources = sprachbund_core::compare::joined(declared.sources.clone(), loaded.sources);
    Ok(Some((Beside::new(loaded.schema, declared.dialect, loaded.dialect, &loaded.settings, files), sources)))
}

fn sarif(found: &[Diagnostic], sources: &Sources, mended: &Mended) -> serde_json::Value {
    let rules = rules().map(|rule| {
        let help = sprachbund_core::pages::of_rule(rule);
        report::sarif::rule(rule.name, rule.finds, rule.cure, Some(&help), rule.severity)
    });
    let accepted = report::sarif::rule(
        "accepted-in-vain",
        "a comment, or an entry of the settings, that accepts nothing",
        "take it out",
        None,
        Severity::Warning,
    );
    report::sarif::render(found, sources, rules.chain([accepted]).collect(), &mended.fixes(sources))
}

fn pretty(value: &serde_json::Value) -> String {
    serde_json::to_string_pretty(value).unwrap_or_default() + "\n"
}
