//! The dumped schema: what the framework wrote of the tables as they were.

use super::history::Steps;
use super::migrations::bracket_said;
use super::run::{Run, Scope};
use crate::bracket::Bracket;
use crate::diagnostic::Diagnostic;
use crate::host::outline::{Expr, ExprKind};

/// Takes the first dump among the files.
pub(super) fn take<'p>(
    run: &mut Run<'_, 'p>,
    steps: &mut Steps<'_, 'p>,
    _diagnostics: &mut Vec<Diagnostic>,
) {
    let project = run.program.project;
    for (file, outline) in project.files() {
        for said in &outline.calls {
            let Some((bracket, body)) = dumped(said) else { continue };
            let own = super::own();
            let scope = Scope::new(file, "".into(), own, None);
            steps.take(run, &scope, std::slice::from_ref(body), bracket);
            return;
        }
    }
}

/// The bracket and the body of a dump.
fn dumped(said: &Expr) -> Option<(Bracket, &Expr)> {
    let call = said.call()?;
    let bracket = match &call.callee.kind {
        ExprKind::Name(path) if path.as_str() == "ActiveRecord::Schema.define" => Bracket::NEWEST,
        ExprKind::Operation { operator, operands } if operator == "." => {
            let is_define = operands.get(1)?.name() == Some("define");
            bracket_said(operands.first().filter(|_| is_define)?)?
        }
        _ => return None,
    };
    match &call.arguments.last()?.kind {
        ExprKind::Function { returns: Some(body), .. } => Some((bracket, body)),
        _ => None,
    }
}
