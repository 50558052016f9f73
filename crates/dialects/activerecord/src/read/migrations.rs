//! Migrations in the order in which they are run.

use smol_str::SmolStr;

use super::history::Steps;
use super::program::{Program, base_name};
use super::run::{Run, Scope, Stop, Value};
use crate::bracket::Bracket;
use crate::codes;
use crate::diagnostic::Diagnostic;
use crate::host::outline::{Class, Expr, ExprKind, Method};
use crate::source::{FileId, Span};

/// The class that all of them come from.
const BASE: &str = "ActiveRecord::Migration";

/// How far a chain of bases is followed.
const DEEPEST: u32 = 8;

/// A migration.
pub(super) struct Migration<'p> {
    file: FileId,
    class: &'p Class,
    bracket: Bracket,
    number: u64,
    method: &'p Method,
}

/// The bracket of a class that is a migration, by its own base or by one further up.
pub(super) fn bracket_of(program: &Program<'_>, class: &str) -> Option<Bracket> {
    bracket_at(program, class, 0)
}

fn bracket_at(program: &Program<'_>, class: &str, depth: u32) -> Option<Bracket> {
    let base = program.opened(class).iter().find_map(|(_, class)| class.bases.first())?;
    let name = base_name(base)?;
    if name == BASE {
        return Some(match &base.kind {
            ExprKind::Operation { operands, .. } => match operands.get(1).map(|said| &said.kind) {
                Some(ExprKind::Number(text) | ExprKind::Text(text)) => Bracket::of(text)?,
                // Whatever release runs it.
                _ => Bracket::NEWEST,
            },
            _ => Bracket::OLDEST,
        });
    }
    if depth > DEEPEST {
        return None;
    }
    let base = program.class(class, name)?;
    bracket_at(program, &base, depth + 1)
}

/// Migrations by their numbers, as files say them; those of other databases are named.
pub(super) fn in_order<'p>(
    program: &Program<'p>,
    diagnostics: &mut Vec<Diagnostic>,
) -> Vec<Migration<'p>> {
    let mut found = Vec::new();
    let mut others: Vec<(&str, Span)> = Vec::new();
    for (file, class) in program.classes() {
        let path = program.project.path(file);
        let (folder, name) = path.rsplit_once('/').unwrap_or(("", path));
        let digits = name.bytes().take_while(u8::is_ascii_digit).count();
        let Some(bracket) = Some(&class.name)
            .filter(|_| digits > 0 && program.project.is_input(file))
            .and_then(|name| bracket_of(program, name))
        else {
            continue;
        };
        let Some(method) = way_forward(class) else { continue };
        let number = name[..digits].parse().unwrap_or(u64::MAX);
        let place = folder.rsplit('/').next().unwrap_or(folder);
        if place.ends_with("migrate") && place != "migrate" && place != "db_migrate" {
            others.push((folder, class.span));
            continue;
        }
        found.push(Migration { file, class, bracket, number, method });
    }
    if found.is_empty() && !others.is_empty() {
        // One folder alone is the whole history.
        return in_one_folder(program);
    }
    others.dedup_by_key(|(folder, _)| *folder);
    for (folder, span) in others {
        let message = format!("the migrations in `{folder}` are those of another database");
        let diagnostic = Diagnostic::of(&codes::OTHER_DATABASE, message);
        diagnostics.push(
            diagnostic
                .at(Some(span), "the first of them")
                .with_help("give that folder alone to see the tables of that database"),
        );
    }
    found.sort_by(|left, right| {
        let path = |migration: &Migration<'p>| program.project.path(migration.file);
        left.number.cmp(&right.number).then_with(|| path(left).cmp(path(right)))
    });
    found
}

fn in_one_folder<'p>(program: &Program<'p>) -> Vec<Migration<'p>> {
    let mut found: Vec<Migration<'p>> = program
        .classes()
        .filter_map(|(file, class)| {
            let name = program.project.path(file).rsplit('/').next()?;
            let digits = name.bytes().take_while(u8::is_ascii_digit).count();
            let number = name[..digits].parse().ok()?;
            let bracket = bracket_of(program, &class.name)?;
            Some(Migration { file, class, bracket, number, method: way_forward(class)? })
        })
        .collect();
    found.sort_by_key(|migration| migration.number);
    found
}

/// What a migration does on its way forward.
fn way_forward(class: &Class) -> Option<&Method> {
    let method = |name: &str| class.methods.iter().find(|method| method.name == name);
    method("up").or_else(|| method("self.up")).or_else(|| method("change"))
}

impl<'p> Migration<'p> {
    /// Runs it.
    pub(super) fn take(
        &self,
        run: &mut Run<'_, 'p>,
        steps: &mut Steps<'_, 'p>,
        diagnostics: &mut Vec<Diagnostic>,
    ) {
        let name: SmolStr = self.class.name.clone();
        let own = Value::Class(name.clone());
        let scope = Scope::new(self.file, name, own, None);
        let left = steps.take(run, &scope, &self.method.statements, self.bracket);
        if let Some(Stop::Raised) = left {
            let message = format!("`{}` raises an error on its way forward", self.class.name);
            let diagnostic = Diagnostic::of(&codes::STEP_RAISES, message);
            diagnostics
                .push(diagnostic.at(Some(self.method.span), "what stands behind it is not run"));
        }
    }
}

/// The bracket that an expression like `ActiveRecord::Schema[7.0]` says.
pub(super) fn bracket_said(expr: &Expr) -> Option<Bracket> {
    match &expr.kind {
        ExprKind::Operation { operator, operands } if operator == "[]" => {
            match operands.get(1).map(|said| &said.kind) {
                Some(ExprKind::Number(text) | ExprKind::Text(text)) => Bracket::of(text),
                _ => None,
            }
        }
        _ => None,
    }
}
