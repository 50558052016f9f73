//! Migrations, dumped schemas and models to declarations.

mod dump;
mod history;
mod migrations;
mod model;
mod program;
mod run;

use program::Program;
use run::{Run, Value};

use crate::declaration::{Declarations, History};
use crate::diagnostic::Diagnostic;
use crate::dialect::Settings;
use crate::dialect::release::at_least;
use crate::history::Tables;
use crate::host::outline::Expr;
use crate::host::project::Project;
use crate::inflection::Inflections;
use crate::schema::{Schema, Source};

/// Reads a project.
pub(super) fn read(project: &mut Project, settings: &Settings) -> (Declarations, Vec<Diagnostic>) {
    let project = &*project;
    let mut diagnostics: Vec<Diagnostic> = project
        .files()
        .filter(|(file, _)| project.is_input(*file))
        .flat_map(|(_, outline)| outline.syntax_errors("Ruby"))
        .collect();
    let program = Program::of(project);
    let words = words(project);
    let conventions = crate::conventions::conventions(settings);
    let source = Source { database: settings.database(), ..Source::default() };
    let mut steps =
        history::Steps::new(settings, &conventions, &project.sources, Schema::new(source));
    let mut run = Run::new(&program, &words);
    let migrations = migrations::in_order(&program, &mut diagnostics);
    if migrations.is_empty() {
        dump::take(&mut run, &mut steps, &mut diagnostics);
    }
    for migration in &migrations {
        migration.take(&mut run, &mut steps, &mut diagnostics);
    }
    let (made, found) = steps.finish();
    diagnostics.extend(found);
    let tables = Tables::of(made);
    let (required, assumed) = required_by_default(&program);
    let (models, enums, found) = model::models(&mut run, &tables, settings, required);
    diagnostics.extend(found);
    let made = tables.schema;
    let history =
        History { steps: Vec::new(), index_name: history::INDEX_NAME, made: Some(Box::new(made)) };
    let assumed = assumed.filter(|_| !models.is_empty()).into_iter().collect();
    (Declarations { models, enums, assumed, history }, diagnostics)
}

/// Whether the target of a `belongs_to` must be there where nothing is said: the project says it,
/// or by the release whose defaults it loads; else what had to be assumed.
fn required_by_default(program: &Program<'_>) -> (bool, Option<String>) {
    use crate::host::outline::ExprKind;
    let (mut defaults, mut said) = (None, None);
    for (_, class) in program.classes() {
        for statement in &class.statements {
            if let Some(call) = statement.call()
                && call.callee_name() == "config.load_defaults"
                && let Some(ExprKind::Number(release) | ExprKind::Text(release)) =
                    call.arguments.first().map(|given| &given.kind)
            {
                defaults = Some(at_least(release, (5, 0)));
            }
            if let ExprKind::Operation { operator, operands } = &statement.kind
                && operator == "="
                && let [name, value] = operands.as_slice()
                && run::assigned(name)
                    == Some("config.active_record.belongs_to_required_by_default")
            {
                said = value.boolean();
            }
        }
    }
    match said.or(defaults) {
        Some(required) => (required, None),
        None => (
            true,
            Some(
                "the target of a belongs_to must be there: config/application.rb is not among the \
                  inputs"
                    .to_owned(),
            ),
        ),
    }
}

/// The words of a project: what its initialisers add.
fn words(project: &Project) -> Inflections {
    let mut words = Inflections::default();
    for (_, outline) in project.files() {
        for call in outline.calls.iter().filter_map(Expr::call) {
            let path = call.callee_name();
            if !path.ends_with("Inflector.inflections") {
                continue;
            }
            let Some(block) = call.arguments.last() else { continue };
            added_words(block, &mut words);
        }
    }
    words
}

fn added_words(block: &Expr, words: &mut Inflections) {
    use crate::host::outline::ExprKind;
    let ExprKind::Function { returns: Some(body), .. } = &block.kind else { return };
    let ExprKind::Operation { operands, .. } = &body.kind else { return };
    for call in operands.iter().filter_map(Expr::call) {
        let method = call.callee_name().rsplit('.').next().unwrap_or_default();
        let texts: Vec<&str> = call
            .arguments
            .iter()
            .flat_map(|given| given.list().unwrap_or(std::slice::from_ref(given)))
            .filter_map(Expr::text)
            .collect();
        match (method, texts.as_slice()) {
            ("irregular", [one, many]) => words.irregular(one, many),
            ("uncountable", all) => all.iter().for_each(|word| words.uncountable(word)),
            ("acronym", [word]) => words.acronym(word),
            ("plural" | "singular", all) => {
                let pattern = call.arguments.first().map(|pattern| &pattern.kind);
                let Some(ExprKind::Operation { operator, operands }) = pattern else { continue };
                let written = operands.first().and_then(Expr::text);
                if let (true, Some(written), [becomes]) = (operator == "regex", written, all) {
                    words.rule(
                        method == "plural",
                        &written.replace("\\A", "^").replace("\\z", "$"),
                        becomes,
                    );
                }
            }
            _ => {}
        }
    }
}

/// The table that a statement of a class says.
fn table_said(statement: &Expr) -> Option<&Expr> {
    use crate::host::outline::ExprKind;
    match &statement.kind {
        ExprKind::Operation { operator, operands } if operator == "=" => {
            match operands.as_slice() {
                [name, value] if run::assigned(name) == Some("self.table_name") => Some(value),
                _ => None,
            }
        }
        _ => None,
    }
}

/// A value for a scope that stands for nothing of the framework's.
fn own<'p>() -> Value<'p> {
    Value::Object(run::Object::Own)
}
