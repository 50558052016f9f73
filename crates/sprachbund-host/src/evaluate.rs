//! What an expression is worth without running the program: constants, templates, arithmetic,
//! members of enumerations and functions that return one known value. What stays unknown is
//! returned as it stands.

use serde_json::Value;
use smol_str::{ToSmolStr, format_smolstr};

use crate::effort::{Effort, of_text};
use crate::outline::{Class, ClassKind, Expr, ExprKind};
use crate::project::{Found, Project};
use crate::source::FileId;

const DEEPEST: u32 = 24;

/// Bases, by their last name, whose members are values (with a label as second item).
const ENUMERATION_BASES: &[&str] =
    &["TextChoices", "IntegerChoices", "Choices", "Enum", "IntEnum", "StrEnum"];

/// A place from which names are looked up.
#[derive(Clone, Copy)]
pub struct Scope<'p> {
    pub project: &'p Project,
    pub file: FileId,
    pub class: Option<&'p Class>,
}

impl<'p> Scope<'p> {
    /// What a dotted name means here.
    pub fn lookup(&self, dotted: &str) -> Found<'p> {
        self.project.lookup(self.file, self.class, dotted)
    }

    /// The full path of a name in another package, or its own text.
    pub fn path(&self, dotted: &str) -> String {
        match self.lookup(dotted) {
            Found::External(path) => path,
            _ => dotted.to_owned(),
        }
    }

    /// `expr` with everything known put in.
    pub fn value(&self, expr: &Expr) -> Expr {
        let effort = Effort::of(&self.project.budget);
        let value = self.value_within(expr, &effort);
        effort.settled(value, expr)
    }

    /// The same as a part of a larger value.
    pub(crate) fn value_within(&self, expr: &Expr, effort: &Effort<'_>) -> Expr {
        self.evaluate(expr, 0, effort)
    }

    fn evaluate(&self, expr: &Expr, depth: u32, effort: &Effort<'_>) -> Expr {
        if !effort.takes(1) {
            return Expr { kind: ExprKind::Opaque, span: expr.span };
        }
        if depth > DEEPEST {
            return copy(expr, effort);
        }
        let kind =
            match &expr.kind {
                ExprKind::Name(name) => return self.named(expr, name, depth, effort),
                ExprKind::Operation { operator, operands } => {
                    let operands: Vec<Expr> = operands
                        .iter()
                        .map(|operand| self.evaluate(operand, depth + 1, effort))
                        .collect();
                    fold(operator, operands, effort)
                }
                ExprKind::List(items) => ExprKind::List(self.spread(items, depth, effort)),
                ExprKind::Map(pairs) => ExprKind::Map(self.entries(pairs, depth, effort)),
                ExprKind::Call(call) => {
                    let returned = match (
                        call.arguments.is_empty() && call.named.is_empty(),
                        call.callee.name(),
                    ) {
                        (true, Some(name)) => match self.lookup(name) {
                            Found::Function(file, function) => {
                                function.returns.as_ref().map(|returned| (file, returned))
                            }
                            Found::Value(
                                file,
                                Expr {
                                    kind: ExprKind::Function { returns: Some(returned), .. },
                                    ..
                                },
                            ) => Some((file, &**returned)),
                            _ => None,
                        },
                        _ => None,
                    };
                    match returned {
                        Some((file, value)) => {
                            let value = Scope { project: self.project, file, class: None }
                                .evaluate(value, depth + 1, effort);
                            return Expr { kind: value.kind, span: expr.span };
                        }
                        None => return copy(expr, effort),
                    }
                }
                _ => return copy(expr, effort),
            };
        Expr { kind, span: expr.span }
    }

    fn named(&self, expr: &Expr, name: &str, depth: u32, effort: &Effort<'_>) -> Expr {
        let bare = name.strip_suffix(".value").unwrap_or(name);
        match self.lookup(bare) {
            Found::Value(file, value) => {
                let class = bare.rsplit_once('.').and_then(|(owner, _)| match self.lookup(owner) {
                    Found::Class(_, class) => Some(class),
                    _ => None,
                });
                let scope = Scope {
                    project: self.project,
                    file,
                    class: class.or(self.class).filter(|_| file == self.file || class.is_some()),
                };
                let value = match (&value.kind, class) {
                    (ExprKind::List(items), Some(class)) if is_enumeration(class) => {
                        items.first().unwrap_or(value)
                    }
                    _ => value,
                };
                let kind = scope.evaluate(value, depth + 1, effort).kind;
                Expr { kind, span: expr.span }
            }
            _ => expr.clone(),
        }
    }

    fn spread(&self, items: &[Expr], depth: u32, effort: &Effort<'_>) -> Vec<Expr> {
        let mut out = Vec::with_capacity(items.len());
        for item in items {
            match &item.kind {
                ExprKind::Spread(inner) => match self.evaluate(inner, depth + 1, effort).kind {
                    ExprKind::List(inner) => out.extend(inner),
                    _ => out.push(item.clone()),
                },
                _ => out.push(self.evaluate(item, depth + 1, effort)),
            }
        }
        out
    }

    fn entries(
        &self,
        pairs: &[(Expr, Expr)],
        depth: u32,
        effort: &Effort<'_>,
    ) -> Vec<(Expr, Expr)> {
        let mut out = Vec::with_capacity(pairs.len());
        for (key, value) in pairs {
            match &key.kind {
                ExprKind::Spread(inner) => match self.evaluate(inner, depth + 1, effort).kind {
                    ExprKind::Map(inner) => out.extend(inner),
                    _ => out.push((key.clone(), value.clone())),
                },
                _ => out.push((
                    self.evaluate(key, depth + 1, effort),
                    self.evaluate(value, depth + 1, effort),
                )),
            }
        }
        out
    }
}

/// The same once more, where that is not too much.
pub(crate) fn copy(expr: &Expr, effort: &Effort<'_>) -> Expr {
    let kind = if effort.takes_copy_of(expr) { expr.kind.clone() } else { ExprKind::Opaque };
    Expr { kind, span: expr.span }
}

/// Whether the class's members are values of an enumeration.
pub fn is_enumeration(class: &Class) -> bool {
    let known = |base: &Expr| {
        base.name()
            .and_then(|name| name.rsplit('.').next())
            .is_some_and(|last| ENUMERATION_BASES.contains(&last))
    };
    class.kind == ClassKind::Enum || class.bases.iter().any(known)
}

fn fold(operator: &str, operands: Vec<Expr>, effort: &Effort<'_>) -> ExprKind {
    let whole = |expr: &Expr| match &expr.kind {
        ExprKind::Number(text) => text.parse::<i64>().ok(),
        _ => None,
    };
    let folded = match (operator, operands.as_slice()) {
        ("template", parts) => {
            let text = parts.iter().map(display).collect::<Option<String>>();
            text.filter(|text| effort.takes(of_text(text.len())))
                .map(|text| ExprKind::Text(text.into()))
        }
        ("+", [left, right]) => match (&left.kind, &right.kind) {
            (ExprKind::Text(left), ExprKind::Text(right)) => effort
                .takes(of_text(left.len() + right.len()))
                .then(|| ExprKind::Text(format_smolstr!("{left}{right}"))),
            // Both were made for this value alone.
            (ExprKind::List(left), ExprKind::List(right)) => {
                Some(ExprKind::List([&left[..], right].concat()))
            }
            _ => whole(left)
                .zip(whole(right))
                .and_then(|(left, right)| left.checked_add(right))
                .map(number),
        },
        ("[]", [from, key]) => match (&from.kind, &key.kind) {
            (ExprKind::Map(_), ExprKind::Text(key)) => {
                from.entry(key).map(|value| value.kind.clone())
            }
            (ExprKind::List(items), ExprKind::Number(at)) => {
                let spread = items.iter().any(|item| matches!(item.kind, ExprKind::Spread(_)));
                at.parse::<usize>()
                    .ok()
                    .filter(|_| !spread)
                    .and_then(|at| items.get(at))
                    .map(|value| value.kind.clone())
            }
            _ => None,
        },
        // Operators of JavaScript alone.
        ("?:", [condition, consequence, alternative]) => truth(condition)
            .map(|holds| if holds { consequence.kind.clone() } else { alternative.kind.clone() }),
        ("===" | "!==", [left, right]) => {
            let same = constant(left).zip(constant(right)).map(|(left, right)| left == right);
            same.map(|same| ExprKind::Boolean(same == (operator == "===")))
        }
        ("void", [_]) => Some(ExprKind::Null),
        ("!", [operand]) => truth(operand).map(|holds| ExprKind::Boolean(!holds)),
        ("&&" | "||", [left, right]) => truth(left).map(|holds| {
            if holds == (operator == "&&") { right.kind.clone() } else { left.kind.clone() }
        }),
        ("??", [left, right]) => constant(left)
            .map(|value| if value.is_null() { right.kind.clone() } else { left.kind.clone() }),
        ("-" | "*" | "**" | "<<", [left, right]) => {
            whole(left).zip(whole(right)).and_then(|(left, right)| {
                Some(number(match operator {
                    "-" => left.checked_sub(right)?,
                    "*" => left.checked_mul(right)?,
                    "**" => left.checked_pow(u32::try_from(right).ok()?)?,
                    _ => left.checked_shl(u32::try_from(right).ok()?)?,
                }))
            })
        }
        _ => None,
    };
    folded.unwrap_or(ExprKind::Operation { operator: operator.into(), operands })
}

/// Whether a value counts as true, as JavaScript has it (ECMAScript, section 7.1.2).
pub(crate) fn truth(expr: &Expr) -> Option<bool> {
    Some(match &expr.kind {
        ExprKind::Text(text) => !text.is_empty(),
        ExprKind::Number(text) => text.parse::<f64>().ok()? != 0.0,
        ExprKind::Boolean(value) => *value,
        ExprKind::Null => false,
        ExprKind::List(_) | ExprKind::Map(_) | ExprKind::Function { .. } => true,
        _ => return None,
    })
}

fn number(value: i64) -> ExprKind {
    ExprKind::Number(value.to_smolstr())
}

fn display(expr: &Expr) -> Option<String> {
    match &expr.kind {
        ExprKind::Text(text) | ExprKind::Number(text) => Some(text.to_string()),
        _ => None,
    }
}

/// A constant as JSON; decimals keep their digits as text when a float could not hold them.
pub fn constant(expr: &Expr) -> Option<Value> {
    Some(match &expr.kind {
        ExprKind::Text(text) => Value::String(text.to_string()),
        ExprKind::Number(text) => number_value(text)?,
        ExprKind::Boolean(value) => Value::Bool(*value),
        ExprKind::Null => Value::Null,
        ExprKind::List(items) => Value::Array(items.iter().map(constant).collect::<Option<_>>()?),
        ExprKind::Map(pairs) => {
            let entry =
                |(key, value): &(Expr, Expr)| Some((key.text()?.to_owned(), constant(value)?));
            Value::Object(pairs.iter().map(entry).collect::<Option<_>>()?)
        }
        _ => return None,
    })
}

fn number_value(text: &str) -> Option<Value> {
    if let Ok(whole) = text.parse::<i64>() {
        return Some(Value::from(whole));
    }
    let radix = |prefix: &str, radix| i64::from_str_radix(text.strip_prefix(prefix)?, radix).ok();
    if let Some(whole) = radix("0x", 16).or_else(|| radix("0o", 8)).or_else(|| radix("0b", 2)) {
        return Some(Value::from(whole));
    }
    serde_json::Number::from_f64(text.parse().ok()?).map(Value::Number)
}
