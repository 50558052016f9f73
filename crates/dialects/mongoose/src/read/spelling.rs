//! What a path says of its type: a type's name, options with a `type`, a list, a map, another
//! schema, or an object of paths (`Schema.prototype.interpretAsType` of 8.24.10).

use super::path::{Site, schema_of};
use super::word_of;
use crate::declaration::Spelling;
use crate::host::outline::{Expr, ExprKind};
use crate::schema::Shape;
use crate::source::Span;
use crate::types;

/// The option under which what is said of the items of a list is handed on.
pub(crate) const ITEMS: &str = "items";

/// The option under which the type of a map's values is handed on.
pub(crate) const MAP: &str = "map";

/// What a path holds.
pub(super) enum Kind {
    Type(Spelling),
    /// Paths of the same document.
    Nested(Expr),
    /// Documents of a schema, by the place of its definition.
    Holding(Shape, Span),
    /// Documents whose paths stand in place.
    HoldingObject(Shape, Expr),
    Unknown,
}

/// A type, and the options beside it.
pub(super) struct Said {
    pub(super) kind: Kind,
    pub(super) options: Expr,
}

/// Reads what stands after the name of a path.
pub(super) fn read(site: &Site<'_, '_>, written: &Expr) -> Said {
    let empty = Expr { kind: ExprKind::Map(Vec::new()), span: written.span };
    let bare = |kind: Kind| Said { kind, options: empty.clone() };
    if schema_of(site, written).is_some() {
        return bare(kind(site, written));
    }
    let value = site.place.value(written);
    match &value.kind {
        ExprKind::Map(pairs) => match pairs.iter().find(|(key, _)| key.text() == Some("type")) {
            // `type` is an option, unless it is a path itself.
            Some((_, ty)) if ty.entry("type").is_none() => {
                let mut options: Vec<(Expr, Expr)> =
                    pairs.iter().filter(|(key, _)| key.text() != Some("type")).cloned().collect();
                let kind = match ty.list() {
                    Some(items) => of_list(site, items, &mut options),
                    None => with_options(site, ty, &mut options),
                };
                Said { kind, options: Expr { kind: ExprKind::Map(options), span: value.span } }
            }
            _ if pairs.is_empty() => bare(Kind::Type(Spelling::word("Mixed"))),
            _ => bare(Kind::Nested(value.clone())),
        },
        ExprKind::List(items) => {
            let mut options = Vec::new();
            let kind = of_list(site, items, &mut options);
            Said { kind, options: Expr { kind: ExprKind::Map(options), span: value.span } }
        }
        _ => {
            let mut options = Vec::new();
            let kind = with_options(site, &value, &mut options);
            Said { kind, options: Expr { kind: ExprKind::Map(options), span: value.span } }
        }
    }
}

/// A type that is told more by its options: the values of a map, the items of an array.
fn with_options(site: &Site<'_, '_>, ty: &Expr, options: &mut Vec<(Expr, Expr)>) -> Kind {
    let mut of = || {
        let at = options.iter().position(|(key, _)| key.text() == Some("of"))?;
        Some(options.remove(at).1)
    };
    match word_of(ty) {
        Some("Map") => match of() {
            Some(of) => match read(site, &of).kind {
                Kind::Holding(_, schema) => Kind::Holding(Shape::Keyed, schema),
                Kind::HoldingObject(_, object) | Kind::Nested(object) => {
                    Kind::HoldingObject(Shape::Keyed, object)
                }
                Kind::Type(values) if values.element.is_none() => {
                    of_map(&values.word, ty.span, options)
                }
                _ => {
                    options.push((text(MAP, ty.span), of));
                    Kind::Type(Spelling::word("Mixed"))
                }
            },
            None => of_map("Mixed", ty.span, options),
        },
        Some("Array") => {
            let items: Vec<Expr> = of().into_iter().collect();
            of_list(site, &items, options)
        }
        _ => kind(site, ty),
    }
}

/// A map is one value whose own values are of one type.
fn of_map(word: &str, span: Span, options: &mut Vec<(Expr, Expr)>) -> Kind {
    options.push((text(MAP, span), text(word, span)));
    Kind::Type(Spelling::word("Mixed"))
}

fn text(word: &str, span: Span) -> Expr {
    Expr { kind: ExprKind::Text(word.into()), span }
}

/// `[type]`: several values, or several documents.
fn of_list(site: &Site<'_, '_>, items: &[Expr], options: &mut Vec<(Expr, Expr)>) -> Kind {
    let list = |element: Spelling| {
        Kind::Type(Spelling { element: Some(Box::new(element)), ..Spelling::word("Array") })
    };
    let Some(item) = items.first() else { return list(Spelling::word("Mixed")) };
    let said = read(site, item);
    match said.kind {
        Kind::Type(element) => {
            if let ExprKind::Map(of_item) = said.options.kind {
                hand_on(of_item, options, item.span);
            }
            list(element)
        }
        Kind::Holding(_, schema) => Kind::Holding(Shape::Many, schema),
        Kind::Nested(object) | Kind::HoldingObject(_, object) => {
            Kind::HoldingObject(Shape::Many, object)
        }
        Kind::Unknown => Kind::Unknown,
    }
}

/// What is said of each item counts for the list where that says nothing of it; what remains is
/// handed on as it is.
fn hand_on(of_item: Vec<(Expr, Expr)>, options: &mut Vec<(Expr, Expr)>, span: Span) {
    let (shared, own): (Vec<_>, Vec<_>) =
        of_item.into_iter().partition(|(key, _)| matches!(key.text(), Some("ref" | "enum")));
    for (key, value) in shared {
        if !options.iter().any(|(known, _)| known.text() == key.text()) {
            options.push((key, value));
        }
    }
    if !own.is_empty() {
        options.push((text(ITEMS, span), Expr { kind: ExprKind::Map(own), span }));
    }
}

/// A type without options.
fn kind(site: &Site<'_, '_>, ty: &Expr) -> Kind {
    if let Some(schema) = schema_of(site, ty) {
        return Kind::Holding(Shape::One, schema);
    }
    let value = site.place.value(ty);
    match &value.kind {
        ExprKind::Text(word) => {
            types::word(word).map_or(Kind::Unknown, |word| Kind::Type(Spelling::word(word)))
        }
        ExprKind::List(items) => of_list(site, items, &mut Vec::new()),
        ExprKind::Map(pairs) if pairs.is_empty() => Kind::Type(Spelling::word("Mixed")),
        ExprKind::Map(_) => Kind::HoldingObject(Shape::One, value.clone()),
        _ => match word_of(&value) {
            Some("Array") => of_list(site, &[], &mut Vec::new()),
            Some("Map") => with_options(site, &value, &mut Vec::new()),
            Some(word) => {
                types::word(word).map_or(Kind::Unknown, |word| Kind::Type(Spelling::word(word)))
            }
            None => Kind::Unknown,
        },
    }
}
