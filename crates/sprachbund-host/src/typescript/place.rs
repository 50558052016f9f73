//! Where a statement stands: which names it sees, and what they are worth.

use smol_str::SmolStr;

use crate::effort::Effort;
use crate::evaluate::{Scope, copy, truth};
use crate::outline::{Assignment, Body, Call, Expr, ExprKind};
use crate::project::{Found, Project};
use crate::source::FileId;

/// How deep names of a function are looked up in each other.
const DEEPEST: u32 = 12;

/// A place in a file: inside a function, or at the top.
#[derive(Clone, Copy)]
pub struct Place<'p> {
    pub project: &'p Project,
    pub file: FileId,
    body: Option<usize>,
}

/// A call that stands alone, or a value that is given to a name.
pub struct Statement<'p> {
    pub place: Place<'p>,
    /// The name that gets the value.
    pub name: Option<&'p SmolStr>,
    written: &'p Expr,
}

impl<'p> Statement<'p> {
    /// The value as written, whatever it is.
    pub fn written(&self) -> &'p Expr {
        self.written
    }

    /// The value as written, if it is a call.
    pub fn value(&self) -> Option<(Place<'p>, Expr)> {
        let call =
            |value: &Expr| matches!(value.kind, ExprKind::Call(_) | ExprKind::Function { .. });
        call(self.written).then(|| (self.place, self.written.clone()))
    }
}

/// Every statement of a file, in the order of the text.
pub fn statements(project: &Project, file: FileId) -> Vec<Statement<'_>> {
    let outline = &project.outlines[file.0 as usize];
    let mut found: Vec<Statement<'_>> = Vec::new();
    let top = Place { project, file, body: None };
    found.extend(outline.assignments.iter().map(|given| Statement {
        place: top,
        name: Some(&given.name),
        written: &given.value,
    }));
    found.extend(outline.calls.iter().map(|call| Statement {
        place: top,
        name: None,
        written: call,
    }));
    for (at, body) in outline.bodies.iter().enumerate() {
        let place = Place { project, file, body: Some(at) };
        found.extend(body.assignments.iter().map(|given| Statement {
            place,
            name: Some(&given.name),
            written: &given.value,
        }));
        found.extend(body.calls.iter().map(|call| Statement { place, name: None, written: call }));
    }
    found.sort_by_key(|statement| (statement.written.span.start, statement.written.span.end));
    found
}

impl<'p> Place<'p> {
    /// The top of a file.
    pub fn top(project: &'p Project, file: FileId) -> Self {
        Place { project, file, body: None }
    }

    /// Inside a function of a file.
    pub fn inside(project: &'p Project, file: FileId, body: usize) -> Self {
        Place { project, file, body: Some(body) }
    }

    /// Where names of other files are looked up from.
    pub fn scope(&self) -> Scope<'p> {
        Scope { project: self.project, file: self.file, class: None }
    }

    /// The functions around the place, the innermost first.
    fn bodies(&self) -> impl Iterator<Item = &'p Body> {
        let bodies = &self.project.outlines[self.file.0 as usize].bodies;
        std::iter::successors(self.body.and_then(|at| bodies.get(at)), |body| {
            body.outer.and_then(|at| bodies.get(at))
        })
    }

    /// The class in whose method the place is.
    pub fn class(&self) -> Option<&'p str> {
        self.bodies().find_map(|body| body.class.as_deref())
    }

    /// Whether a function around the place has this name.
    pub fn is_within(&self, function: &str) -> bool {
        self.bodies().any(|body| last(&body.name) == function)
    }

    /// The value that a function around the place, or the file, gives to a variable.
    pub fn variable(&self, name: &str) -> Option<&'p Expr> {
        let given = |assignments: &'p [Assignment]| {
            assignments.iter().find(|given| given.name == name).map(|given| &given.value)
        };
        let outline = &self.project.outlines[self.file.0 as usize];
        self.bodies()
            .find_map(|body| given(&body.assignments))
            .or_else(|| given(&outline.assignments))
    }

    /// `expr` with everything known put in.
    pub fn value(&self, expr: &Expr) -> Expr {
        let effort = Effort::of(&self.project.budget);
        let local = self.local(expr, 0, &effort);
        let value = self.scope().value_within(&local, &effort);
        effort.settled(value, expr)
    }

    /// `expr` with what functions around the place know put in, and what helper functions return.
    fn local(&self, expr: &Expr, depth: u32, effort: &Effort<'_>) -> Expr {
        if !effort.takes(1) {
            return Expr { kind: ExprKind::Opaque, span: expr.span };
        }
        if depth > DEEPEST {
            return copy(expr, effort);
        }
        let each =
            |items: &[Expr]| items.iter().map(|item| self.local(item, depth + 1, effort)).collect();
        let kind = match &expr.kind {
            ExprKind::Name(path) => return self.named(expr, path, depth, effort),
            ExprKind::List(items) => ExprKind::List(each(items)),
            ExprKind::Map(pairs) => {
                let pair = |(key, value): &(Expr, Expr)| {
                    (self.local(key, depth + 1, effort), self.local(value, depth + 1, effort))
                };
                ExprKind::Map(pairs.iter().map(pair).collect())
            }
            ExprKind::Spread(inner) => {
                ExprKind::Spread(Box::new(self.local(inner, depth + 1, effort)))
            }
            ExprKind::Operation { operator, operands } => {
                ExprKind::Operation { operator: operator.clone(), operands: each(operands) }
            }
            ExprKind::Call(call) => match (self.known(call), self.returned(call, depth, effort)) {
                (Some(text), _) => ExprKind::Text(text.into()),
                (None, Some(returned)) => return Expr { kind: returned.kind, span: expr.span },
                (None, None) => {
                    let arguments = each(&call.arguments);
                    ExprKind::Call(Box::new(Call {
                        callee: call.callee.clone(),
                        arguments,
                        named: call.named.clone(),
                    }))
                }
            },
            _ => return copy(expr, effort),
        };
        Expr { kind, span: expr.span }
    }

    /// The constant behind a name that a function knows.
    fn named(&self, expr: &Expr, path: &str, depth: u32, effort: &Effort<'_>) -> Expr {
        if let Some(kind) = self.of_platform(path) {
            return Expr { kind, span: expr.span };
        }
        if let Some(value) = self.of_class(path) {
            return Expr { kind: self.local(value, depth + 1, effort).kind, span: expr.span };
        }
        let (head, rest) =
            path.split_once('.').map_or((path, None), |(head, rest)| (head, Some(rest)));
        let known =
            self.bodies().find_map(|body| body.assignments.iter().find(|given| given.name == head));
        let Some(given) = known else { return expr.clone() };
        let plain = !matches!(
            given.value.kind,
            ExprKind::Opaque | ExprKind::Call(_) | ExprKind::Function { .. }
        );
        let value = match (plain, rest) {
            (false, _) => return expr.clone(),
            (true, None) => self.local(&given.value, depth + 1, effort),
            (true, Some(rest)) => {
                let mut value = self.local(&given.value, depth + 1, effort);
                if let ExprKind::Name(path) = &value.kind {
                    value.kind = ExprKind::Name(format!("{path}.{rest}").into());
                } else {
                    for part in rest.split('.') {
                        let Some(inner) =
                            self.scope().value_within(&value, effort).entry(part).cloned()
                        else {
                            return expr.clone();
                        };
                        value = inner;
                    }
                }
                value
            }
        };
        Expr { kind: value.kind, span: expr.span }
    }

    /// A constant of the class around the place: a static member, or one that is given to the class
    /// from outside.
    fn of_class(&self, path: &str) -> Option<&'p Expr> {
        let (owner, name) = path.split_once('.')?;
        let class = self.class()?;
        let is_alias = |owner: &str| self.variable(owner).and_then(Expr::name) == Some(class);
        if owner != "this" && owner != class && !is_alias(owner) {
            return None;
        }
        let outline = &self.project.outlines[self.file.0 as usize];
        let member = outline
            .classes
            .iter()
            .find(|known| known.name == class)?
            .member(name)
            .and_then(|member| member.value.as_ref());
        let given = |assignments: &'p [Assignment]| {
            let of_class = |given: &&Assignment| {
                given
                    .name
                    .split_once('.')
                    .is_some_and(|(owner, own)| own == name && (owner == class || is_alias(owner)))
            };
            assignments.iter().find(of_class).map(|given| &given.value)
        };
        member
            .or_else(|| self.bodies().find_map(|body| given(&body.assignments)))
            .or_else(|| given(&outline.assignments))
    }

    /// What a call returns of which the dialect knows it.
    fn known(&self, call: &Call) -> Option<&'static str> {
        let name = last_name(&call.callee)?;
        self.project.known_calls.iter().find(|(known, _)| *known == name).map(|(_, text)| *text)
    }

    /// What a helper function of the project returns for these arguments.
    fn returned(&self, call: &Call, depth: u32, effort: &Effort<'_>) -> Option<Expr> {
        let name = call.callee.name().filter(|name| !name.starts_with("new "))?;
        let (file, called) = match self.scope().lookup(name) {
            Found::Function(file, function) => (file, function.name.as_str()),
            Found::Value(file, Expr { kind: ExprKind::Function { .. }, .. }) => (file, last(name)),
            _ => (self.file, name),
        };
        let bodies = &self.project.outlines[file.0 as usize].bodies;
        let at = bodies.iter().position(|body| body.name == called)?;
        let body = &bodies[at];
        let inside = Place { project: self.project, file, body: Some(at) };
        let arguments: Vec<Expr> =
            call.arguments.iter().map(|argument| self.local(argument, depth + 1, effort)).collect();
        let bound: Vec<(&SmolStr, Expr)> = body.parameters.iter().zip(arguments).collect();
        let worth = |expr: &Expr| {
            let local = inside.local(&substituted(expr, &bound, 0, effort), depth + 1, effort);
            inside.scope().value_within(&local, effort)
        };
        for returned in &body.returns {
            let mut reached = true;
            for (condition, wanted) in &returned.when {
                // Where a condition is not known, neither is what comes after it.
                reached &= truth(&worth(condition))? == *wanted;
            }
            if reached {
                return Some(worth(&returned.value));
            }
        }
        None
    }

    /// What a name of the platform stands for: a variable of the environment.
    fn of_platform(&self, path: &str) -> Option<ExprKind> {
        let variable = path.strip_prefix("process.env.")?;
        let (_, value) = self.project.environment.iter().find(|(name, _)| name == variable)?;
        Some(match value {
            serde_json::Value::String(text) => ExprKind::Text(text.as_str().into()),
            serde_json::Value::Bool(value) => ExprKind::Boolean(*value),
            serde_json::Value::Number(number) => ExprKind::Number(number.to_string().into()),
            _ => ExprKind::Null,
        })
    }
}

/// `expr` with arguments in the place of parameters.
fn substituted(expr: &Expr, bound: &[(&SmolStr, Expr)], depth: u32, effort: &Effort<'_>) -> Expr {
    if !effort.takes(1) {
        return Expr { kind: ExprKind::Opaque, span: expr.span };
    }
    if depth > DEEPEST * 2 {
        return copy(expr, effort);
    }
    let each = |items: &[Expr]| {
        items.iter().map(|item| substituted(item, bound, depth + 1, effort)).collect()
    };
    let kind = match &expr.kind {
        ExprKind::Name(name) => match bound.iter().find(|(parameter, _)| *parameter == name) {
            Some((_, argument)) => copy(argument, effort).kind,
            None => expr.kind.clone(),
        },
        ExprKind::List(items) => ExprKind::List(each(items)),
        ExprKind::Map(pairs) => {
            let pair = |(key, value): &(Expr, Expr)| {
                (
                    substituted(key, bound, depth + 1, effort),
                    substituted(value, bound, depth + 1, effort),
                )
            };
            ExprKind::Map(pairs.iter().map(pair).collect())
        }
        ExprKind::Spread(inner) => {
            ExprKind::Spread(Box::new(substituted(inner, bound, depth + 1, effort)))
        }
        ExprKind::Operation { operator, operands } => {
            ExprKind::Operation { operator: operator.clone(), operands: each(operands) }
        }
        ExprKind::Call(call) => {
            let callee = substituted(&call.callee, bound, depth + 1, effort);
            ExprKind::Call(Box::new(Call {
                callee,
                arguments: each(&call.arguments),
                named: call.named.clone(),
            }))
        }
        _ => return copy(expr, effort),
    };
    Expr { kind, span: expr.span }
}

/// What follows the last dot of a path.
pub fn last(path: &str) -> &str {
    path.rsplit('.').next().unwrap_or(path)
}

/// The last name of `a.b` or of `a['b']`.
pub fn last_name(expr: &Expr) -> Option<&str> {
    match &expr.kind {
        ExprKind::Name(path) => Some(last(path.trim_start_matches("new "))),
        ExprKind::Operation { operator, operands } if operator == "[]" => operands.last()?.text(),
        ExprKind::Operation { operator, operands }
            if operator.starts_with('.') && !operands.is_empty() =>
        {
            Some(&operator[1..])
        }
        _ => None,
    }
}
