//! `relationship(...)` as it is written. Which side owns it is known once all classes are read (see
//! [`super::connect`]).

use serde_json::json;

use super::annotation::Annotation;
use super::{Reader, last, table, word};
use crate::host::arguments::Arguments;
use crate::host::evaluate::Scope;
use crate::host::outline::{Call, Expr, ExprKind};
use crate::host::project::Found;
use crate::schema::{Extras, address};
use crate::source::Span;

/// A relationship of one class.
#[derive(Clone, Debug)]
pub(super) struct Relationship {
    pub(super) name: String,
    /// Name or id of the other class.
    pub(super) target: Option<String>,
    /// Whether there are many, where that is said.
    pub(super) many: Option<bool>,
    pub(super) optional: bool,
    pub(super) secondary: Option<Secondary>,
    pub(super) back_populates: Option<String>,
    /// The other side, made by this one.
    pub(super) backref: Option<Box<Relationship>>,
    /// Attributes or columns, with the class where it is named.
    pub(super) foreign_keys: Vec<Path>,
    pub(super) remote_side: Vec<Path>,
    /// What its condition names; of more than equalities, nothing.
    pub(super) condition: Option<Vec<(Path, Path)>>,
    pub(super) cascade: Option<String>,
    pub(super) passive: bool,
    pub(super) view_only: bool,
    pub(super) extras: Extras,
    pub(super) code: String,
    pub(super) span: Span,
}

/// `Berth.quay_id`, or `quay_id` alone.
pub(super) type Path = (Option<String>, String);

/// The join table of a many-to-many.
#[derive(Clone, Debug, PartialEq)]
pub(super) enum Secondary {
    /// By its address, or by the name of its variable.
    Table(String),
    /// The table of a class.
    Class(String),
}

/// Reads one.
pub(super) fn read<'p>(
    reader: &Reader<'p>,
    scope: Scope<'p>,
    name: &str,
    annotation: Option<&Annotation>,
    call: Option<&Call>,
    span: Span,
) -> Relationship {
    let nothing = (Vec::new(), Vec::new());
    let (positional, named) =
        call.map_or(nothing, |call| (call.arguments.clone(), call.named.clone()));
    let mut arguments = Arguments::of_call(scope, &positional, &["argument", "secondary"], &named);
    let by_annotation = annotation.and_then(|annotation| target(reader, &scope, &annotation.inner));
    let written = arguments
        .take_raw("argument")
        .or_else(|| arguments.take_raw("target"))
        .and_then(|target| self::target(reader, &scope, &target));
    let uselist = arguments.take_bool("uselist");
    let of_annotation = annotation.map(|annotation| annotation.many || annotation.by_key);
    let secondary = arguments.take_raw("secondary").or_else(|| arguments.take_raw("link_model"));
    let backref =
        arguments.take_raw("backref").and_then(|backref| backref_of(reader, scope, &backref));
    let primary = arguments.take_raw("primaryjoin");
    let of_mark = |mark: &str| {
        primary.as_ref().map(|condition| marked(&scope, mark, condition)).unwrap_or_default()
    };
    let (remote, foreign) = (of_mark("remote"), of_mark("foreign"));
    let condition = primary.map(|condition| equalities(&scope, &condition));
    // The join table says the rest.
    arguments.take_raw("secondaryjoin");
    let code = call.map_or(String::new(), |_| scope.project.sources.text(span).to_owned());
    Relationship {
        name: name.to_owned(),
        target: written.or(by_annotation),
        many: uselist.or(of_annotation),
        optional: annotation.is_none_or(|annotation| annotation.optional),
        secondary: secondary.and_then(|secondary| self::secondary(reader, &scope, &secondary)),
        back_populates: arguments.take_text("back_populates"),
        backref: backref.map(Box::new),
        foreign_keys: arguments.take_raw("foreign_keys").map_or(foreign, |keys| paths(&keys)),
        remote_side: arguments.take_raw("remote_side").map_or(remote, |side| paths(&side)),
        condition,
        cascade: arguments.take_text("cascade"),
        passive: arguments.take("passive_deletes").is_some_and(|value| value.text() == Some("all")),
        view_only: arguments.take_bool("viewonly") == Some(true),
        extras: arguments.into_extras(),
        code,
        span,
    }
}

/// `backref="berths"`, `backref("berths", uselist=False)`.
fn backref_of<'p>(reader: &Reader<'p>, scope: Scope<'p>, expr: &Expr) -> Option<Relationship> {
    if let Some(text) = scope.value(expr).text() {
        return Some(read(reader, scope, text, None, None, expr.span));
    }
    let call = expr.call().filter(|call| word(&scope, call) == "backref")?;
    let name = scope.value(call.arguments.first()?).text()?.to_owned();
    let rest =
        Call { callee: call.callee.clone(), arguments: Vec::new(), named: call.named.clone() };
    Some(read(reader, scope, &name, None, Some(&rest), expr.span))
}

/// The class that a target names: its id where it is at hand, else its name.
fn target(reader: &Reader<'_>, scope: &Scope<'_>, expr: &Expr) -> Option<String> {
    match &expr.kind {
        ExprKind::Function { returns: Some(returned), .. } => target(reader, scope, returned),
        ExprKind::Text(text) => Some(last(text.trim_matches(['(', ')', ' '])).to_owned()),
        ExprKind::Name(name) => match scope.lookup(name) {
            Found::Class(file, class) => Some(reader.id(file, &class.name)),
            _ => Some(last(name).to_owned()),
        },
        // Records by a key.
        ExprKind::Operation { operator, operands } if operator == "[]" && operands.len() == 3 => {
            target(reader, scope, &operands[2])
        }
        _ => None,
    }
}

fn secondary(reader: &Reader<'_>, scope: &Scope<'_>, expr: &Expr) -> Option<Secondary> {
    match &expr.kind {
        ExprKind::Function { returns: Some(returned), .. } => secondary(reader, scope, returned),
        ExprKind::Text(text) => Some(Secondary::Table(text.to_string())),
        ExprKind::Name(name) => {
            let bare = name.strip_suffix(".__table__").unwrap_or(name);
            match scope.lookup(bare) {
                Found::Class(file, class) => Some(Secondary::Class(reader.id(file, &class.name))),
                Found::Value(file, value) => {
                    let (namespace, table) =
                        table::address(&Scope { file, class: None, ..*scope }, value)?;
                    Some(Secondary::Table(address(namespace.as_deref(), &table)))
                }
                _ => Some(Secondary::Table(last(bare).to_owned())),
            }
        }
        _ => None,
    }
}

/// `Berth.quay_id`, a list of such, or a text of them.
fn paths(expr: &Expr) -> Vec<Path> {
    match &expr.kind {
        ExprKind::Function { returns: Some(returned), .. } => paths(returned),
        ExprKind::List(items) => items.iter().flat_map(paths).collect(),
        ExprKind::Text(text) => {
            let words = text
                .split(|letter: char| !(letter.is_alphanumeric() || matches!(letter, '_' | '.')));
            words.filter(|word| !word.is_empty()).filter_map(path).collect()
        }
        ExprKind::Name(name) => path(name).into_iter().collect(),
        ExprKind::Call(call) => call.arguments.iter().flat_map(paths).collect(),
        _ => Vec::new(),
    }
}

/// The sides of a condition that it marks as `remote` or `foreign`.
fn marked(scope: &Scope<'_>, mark: &str, expr: &Expr) -> Vec<Path> {
    let within = |inner: &Expr| marked(scope, mark, inner);
    match &expr.kind {
        ExprKind::Function { returns: Some(returned), .. } => within(returned),
        ExprKind::Text(text) => text
            .split(&format!("{mark}("))
            .skip(1)
            .filter_map(|rest| path(rest.split(')').next()?.trim()))
            .collect(),
        ExprKind::Call(call) if word(scope, call) == mark => {
            call.arguments.iter().flat_map(paths).collect()
        }
        ExprKind::Call(call) => call.arguments.iter().flat_map(within).collect(),
        ExprKind::Operation { operands, .. } => operands.iter().flat_map(within).collect(),
        _ => Vec::new(),
    }
}

fn path(name: &str) -> Option<Path> {
    let name = name.replace(".c.", ".").replace(".__table__.", ".").replace(".table.", ".");
    match name.rsplit_once('.') {
        Some((owner, attribute)) => Some((Some(last(owner).to_owned()), attribute.to_owned())),
        None => Some((None, name)),
    }
}

/// The equalities that a condition consists of; nothing if it says more.
fn equalities(scope: &Scope<'_>, expr: &Expr) -> Vec<(Path, Path)> {
    match &expr.kind {
        ExprKind::Function { returns: Some(returned), .. } => equalities(scope, returned),
        ExprKind::Text(text) => of_text(text),
        ExprKind::Operation { operator, operands } => {
            match (operator.as_str(), operands.as_slice()) {
                ("==", [left, right]) => match (paths(left).as_slice(), paths(right).as_slice()) {
                    ([left], [right]) => vec![(left.clone(), right.clone())],
                    _ => Vec::new(),
                },
                ("&", [left, right]) => both(equalities(scope, left), equalities(scope, right)),
                _ => Vec::new(),
            }
        }
        ExprKind::Call(call) if word(scope, call) == "and_" => call
            .arguments
            .iter()
            .map(|argument| equalities(scope, argument))
            .reduce(both)
            .unwrap_or_default(),
        _ => Vec::new(),
    }
}

fn both(left: Vec<(Path, Path)>, right: Vec<(Path, Path)>) -> Vec<(Path, Path)> {
    if left.is_empty() || right.is_empty() {
        Vec::new()
    } else {
        left.into_iter().chain(right).collect()
    }
}

/// A condition in quotes: `Berth.quay_id == Quay.id`, also with marks of which side is foreign or
/// remote.
fn of_text(text: &str) -> Vec<(Path, Path)> {
    let inner =
        text.trim().strip_prefix("and_(").and_then(|text| text.strip_suffix(')')).unwrap_or(text);
    let side = |side: &str| {
        let bare =
            side.trim().replace("foreign(", "").replace("remote(", "").replace([')', '('], "");
        let plain =
            bare.chars().all(|letter| letter.is_alphanumeric() || matches!(letter, '_' | '.'));
        path(bare.trim()).filter(|_| plain && !bare.is_empty())
    };
    let equality = |part: &str| {
        let (left, right) = part.split_once("==")?;
        Some((side(left)?, side(right)?))
    };
    inner.split(',').map(equality).collect::<Option<Vec<_>>>().unwrap_or_default()
}

impl Relationship {
    /// What of it is kept beside the relation: options, and a condition that says more than the
    /// foreign key.
    pub(super) fn kept(&self) -> Extras {
        let mut extras = self.extras.clone();
        if self.view_only {
            extras.insert("viewonly".into(), json!(true));
        }
        if self.passive {
            extras.insert("passive_deletes".into(), json!("all"));
        }
        extras
    }
}
