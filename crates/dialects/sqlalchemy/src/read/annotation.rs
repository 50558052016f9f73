//! What `Mapped[...]` says: the type, whether it may be missing, whether there are many.

use smol_str::SmolStr;

use super::last;
use crate::host::outline::{Expr, ExprKind};
use crate::source::Span;

/// Names that stand for several of something.
const MANY: &[&str] = &[
    "List",
    "list",
    "Set",
    "set",
    "Sequence",
    "Collection",
    "Iterable",
    "MutableSequence",
    "FrozenSet",
];

/// Wrappers of mapped attributes; the last ones hold several records.
const WRAPPERS: &[&str] = &["Mapped", "WriteOnlyMapped", "DynamicMapped"];

/// An annotation, taken apart.
#[derive(Clone, Debug)]
pub(super) struct Annotation {
    /// What stands inside.
    pub(super) inner: Expr,
    pub(super) optional: bool,
    pub(super) many: bool,
    /// It stands in `Mapped[...]`.
    pub(super) mapped: bool,
    /// A dictionary, of records perhaps.
    pub(super) by_key: bool,
}

/// Takes an annotation apart; `None` for those of constants of the class.
pub(super) fn read(expr: &Expr) -> Option<Annotation> {
    let mut annotation = Annotation {
        inner: expr.clone(),
        optional: false,
        many: false,
        mapped: false,
        by_key: false,
    };
    for _ in 0..16 {
        let parsed = annotation.inner.text().map(|text| parse(text, annotation.inner.span));
        if let Some(parsed) = parsed {
            annotation.inner = parsed;
        }
        let inner = match &annotation.inner.kind {
            ExprKind::Operation { operator, operands } => {
                match (operator.as_str(), operands.as_slice()) {
                    ("[]", [outer, inner, ..]) => {
                        let name = outer.name().map_or("", last);
                        match name {
                            "ClassVar" | "InitVar" => return None,
                            "Optional" => annotation.optional = true,
                            name if WRAPPERS.contains(&name) => {
                                annotation.mapped = true;
                                annotation.many |= name != "Mapped";
                            }
                            name if MANY.contains(&name) => annotation.many = true,
                            "dict" | "Dict" | "Mapping"
                                if operands.len() == 3 && annotation.mapped =>
                            {
                                // Records by a key; of plain values nothing is known.
                                annotation.by_key = true;
                                break;
                            }
                            "Union" => {
                                match without_null(operands[1..].iter().flat_map(|item| {
                                    item.list().unwrap_or(std::slice::from_ref(item))
                                })) {
                                    Some((inner, optional)) => {
                                        annotation.optional |= optional;
                                        annotation.inner = inner;
                                        continue;
                                    }
                                    None => break,
                                }
                            }
                            _ => break,
                        }
                        inner.clone()
                    }
                    ("|", sides) => match without_null(sides) {
                        Some((inner, optional)) => {
                            annotation.optional |= optional;
                            inner
                        }
                        None => break,
                    },
                    _ => break,
                }
            }
            _ => break,
        };
        annotation.inner = inner;
    }
    Some(annotation)
}

/// The one alternative that is not null.
fn without_null<'e>(items: impl IntoIterator<Item = &'e Expr>) -> Option<(Expr, bool)> {
    let items: Vec<&Expr> = items.into_iter().collect();
    let is_null = |expr: &&&Expr| {
        expr.kind == ExprKind::Null
            || expr.name() == Some("None")
            || expr.name().map(last) == Some("NoneType")
    };
    let rest: Vec<&Expr> = items.iter().filter(|item| !is_null(item)).copied().collect();
    match rest.as_slice() {
        [one] => Some(((*one).clone(), rest.len() < items.len())),
        _ => None,
    }
}

/// An annotation that stands in quotes.
fn parse(text: &str, span: Span) -> Expr {
    let make = |kind| Expr { kind, span };
    let text = text.trim();
    let parts = split(text, '|');
    if parts.len() > 1 {
        return make(ExprKind::Operation {
            operator: "|".into(),
            operands: parts.into_iter().map(|part| parse(part, span)).collect(),
        });
    }
    match text.split_once('[') {
        Some((outer, rest)) if rest.ends_with(']') => {
            let mut operands = vec![make(ExprKind::Name(outer.trim().into()))];
            operands.extend(
                split(&rest[..rest.len() - 1], ',').into_iter().map(|part| parse(part, span)),
            );
            make(ExprKind::Operation { operator: "[]".into(), operands })
        }
        _ if text == "None" => make(ExprKind::Null),
        _ => make(ExprKind::Name(SmolStr::new(text.trim_matches(['\'', '"'])))),
    }
}

/// Parts between separators that stand in no bracket.
fn split(text: &str, separator: char) -> Vec<&str> {
    let (mut parts, mut depth, mut start) = (Vec::new(), 0usize, 0);
    for (at, letter) in text.char_indices() {
        match letter {
            '[' => depth += 1,
            ']' => depth = depth.saturating_sub(1),
            _ if letter == separator && depth == 0 => {
                parts.push(&text[start..at]);
                start = at + letter.len_utf8();
            }
            _ => {}
        }
    }
    parts.push(&text[start..]);
    parts
}
