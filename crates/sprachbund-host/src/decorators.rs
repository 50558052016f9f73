//! Decorators that no reader takes, said once for a whole project: what they do is not in the
//! schema.

use std::collections::BTreeMap;

use smol_str::SmolStr;

use crate::codes;
use crate::diagnostic::Diagnostic;
use crate::outline::{Class, Expr};
use crate::project::Project;
use crate::source::{FileId, Span};

/// Names, with their number, those that are not `known` among the decorators which count of each
/// class.
pub fn left_out<'p>(
    project: &'p Project,
    counting: impl Fn(FileId, &'p Class) -> Vec<&'p Expr>,
    known: impl Fn(&str) -> bool,
) -> Option<Diagnostic> {
    let mut counts: BTreeMap<SmolStr, usize> = BTreeMap::new();
    let mut first: Option<Span> = None;
    for (file, outline) in project.files().filter(|(file, _)| project.is_input(*file)) {
        for decorator in outline.classes.iter().flat_map(|class| counting(file, class)) {
            let name = name(project, decorator);
            if !known(&name) {
                first = first.or(Some(decorator.span));
                *counts.entry(name).or_default() += 1;
            }
        }
    }
    let names: Vec<String> =
        counts.iter().map(|(name, count)| format!("{name} ({count})")).collect();
    first.map(|span| {
        let message =
            format!("decorators that say nothing of tables were left out: {}", names.join(", "));
        Diagnostic::of(&codes::DECORATORS_LEFT_OUT, message).at(Some(span), "the first of them")
    })
}

/// The last name of what decorates, without its arguments.
fn name(project: &Project, decorator: &Expr) -> SmolStr {
    let callee = decorator.call().map_or(decorator, |call| &call.callee);
    let path = callee.name().unwrap_or_else(|| project.sources.text(callee.span));
    path.rsplit('.').next().unwrap_or(path).into()
}
