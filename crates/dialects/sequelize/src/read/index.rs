//! `indexes` of a model.

use serde_json::Value;

use super::{Draft, FilePart, Reader, value};
use crate::codes;
use crate::declaration::{IndexDeclaration, IndexPartDeclaration};
use crate::diagnostic::Diagnostic;
use crate::host::arguments::Arguments;
use crate::host::evaluate::constant;
use crate::host::outline::{Expr, ExprKind};
use crate::host::typescript::place::{Place, last_name};
use crate::quoting::sql::{standard_literal, standard_name};
use crate::schema::{Expression, expression::Tree};

/// Comparisons of a condition, and their SQL.
const COMPARISONS: &[(&str, &str)] = &[
    ("eq", "="),
    ("ne", "<>"),
    ("gt", ">"),
    ("gte", ">="),
    ("lt", "<"),
    ("lte", "<="),
    ("is", "IS"),
    ("not", "IS NOT"),
    ("like", "LIKE"),
];

/// Reads every index.
pub(super) fn read(
    reader: &Reader<'_>,
    place: &Place<'_>,
    draft: &mut Draft,
    list: &Expr,
    part: &mut FilePart,
) {
    for item in list.list().unwrap_or_default() {
        let mut options = Arguments::of_object(place.scope(), item);
        if let Some(index) = index(reader, draft, &mut options, item, part) {
            draft.model.indexes.push(IndexDeclaration { extras: options.into_extras(), ..index });
        }
    }
    if list.list().is_none() {
        part.diagnostics.push(opaque(draft, list, "the indexes"));
    }
}

fn opaque(draft: &Draft, at: &Expr, what: &str) -> Diagnostic {
    Diagnostic::of(&codes::OPAQUE_INDEX, format!("{what} of `{}` cannot be read", draft.title))
        .at(Some(at.span), "known only at run time")
        .with_help("write them as a list of objects, a condition as `literal('...')`")
}

/// One index from its options; what is left of them is kept by the caller.
pub(super) fn index(
    reader: &Reader<'_>,
    draft: &Draft,
    options: &mut Arguments<'_>,
    item: &Expr,
    part: &mut FilePart,
) -> Option<IndexDeclaration> {
    let fields = options.take("fields")?;
    let operator = options.take_text("operator");
    let mut parts = Vec::new();
    for field in fields.list().unwrap_or_default() {
        match self::part(draft, field, operator.as_deref()) {
            Some(part) => parts.push(part),
            None => part.diagnostics.push(opaque(draft, field, "a key of an index")),
        }
    }
    let kind = options.take_text("type");
    let unique = options.take_bool("unique") == Some(true)
        || kind.as_deref().is_some_and(|kind| kind.eq_ignore_ascii_case("unique"));
    let method = options
        .take_text("using")
        .or_else(|| options.take_text("method"))
        .map(|method| method.to_lowercase());
    let condition = options.take("where").and_then(|condition| {
        let found = self::condition(&condition);
        if found.is_none() {
            part.diagnostics.push(opaque(draft, &condition, "the condition of an index"));
        }
        found.map(|text| Box::new(Expression::parse_sql_of(&text, reader.conventions.database)))
    });
    let name = options.take_text("name");
    let span = Some(item.span);
    Some(IndexDeclaration {
        parts,
        unique,
        condition,
        method: method.filter(|method| method != "btree"),
        name,
        span,
        ..Default::default()
    })
}

fn part(draft: &Draft, field: &Expr, operator: Option<&str>) -> Option<IndexPartDeclaration> {
    if let Some(sql) = value::sql(field) {
        let (sql, descending) = ordered(&sql);
        let (sql, class) = classed(sql);
        let expression = Expression::parse_sql(sql);
        let operator_class = class.or(operator).map(str::to_owned);
        let part = IndexPartDeclaration { descending, operator_class, ..Default::default() };
        return Some(match &expression.tree {
            Some(Tree::Column(column)) => {
                IndexPartDeclaration { attribute: Some(attribute(draft, column)), ..part }
            }
            _ => IndexPartDeclaration { expression: Some(Box::new(expression)), ..part },
        });
    }
    let text = |name: &str| field.entry(name).and_then(Expr::text);
    let name = field.text().or_else(|| text("name")).or_else(|| text("attribute"))?;
    Some(IndexPartDeclaration {
        attribute: Some(attribute(draft, name)),
        descending: text("order").is_some_and(|order| order.to_uppercase().starts_with("DESC")),
        operator_class: text("operator").or(operator).map(str::to_owned),
        ..Default::default()
    })
}

/// A key without its order, and whether that goes down.
fn ordered(sql: &str) -> (&str, bool) {
    let text = sql.trim();
    let cut = |word: &str| {
        text.len()
            .checked_sub(word.len())
            .filter(|at| text.is_char_boundary(*at) && text[*at..].eq_ignore_ascii_case(word))
    };
    match (cut(" DESC"), cut(" ASC")) {
        (Some(at), _) => (text[..at].trim_end(), true),
        (None, Some(at)) => (text[..at].trim_end(), false),
        (None, None) => (text, false),
    }
}

/// `(expression) operator_class` in its parts.
fn classed(sql: &str) -> (&str, Option<&str>) {
    let word = |text: &str| {
        !text.is_empty()
            && text.chars().all(|letter| letter.is_ascii_alphanumeric() || letter == '_')
    };
    match sql.rsplit_once(") ") {
        Some((inner, class)) if inner.starts_with('(') && word(class) => {
            (&sql[..=inner.len()], Some(class))
        }
        _ => (sql, None),
    }
}

/// The attribute of a column: indexes name columns.
pub(super) fn attribute(draft: &Draft, column: &str) -> String {
    let own = draft
        .fields
        .iter()
        .find(|field| field.column.as_deref().or(field.name.as_deref()) == Some(column));
    own.and_then(|field| field.name.clone()).unwrap_or_else(|| column.to_owned())
}

/// The SQL of a condition: `literal('...')`, or an object of columns and comparisons.
pub(super) fn condition(value: &Expr) -> Option<String> {
    if let Some(sql) = value::sql(value) {
        return Some(sql);
    }
    let ExprKind::Map(pairs) = &value.kind else { return None };
    let all: Vec<String> =
        pairs.iter().map(|(key, value)| term(key, value)).collect::<Option<_>>()?;
    (!all.is_empty()).then(|| all.join(" AND "))
}

fn term(key: &Expr, value: &Expr) -> Option<String> {
    if let Some(operator) = key.name().and_then(|path| {
        path.strip_prefix("Op.").or(path.rsplit_once(".Op.").map(|(_, name)| name))
    }) {
        let word = match operator {
            "and" => " AND ",
            "or" => " OR ",
            _ => return None,
        };
        let items: Vec<String> = match &value.kind {
            ExprKind::List(items) => items.iter().map(condition).collect::<Option<_>>()?,
            ExprKind::Map(pairs) => {
                pairs.iter().map(|(key, value)| term(key, value)).collect::<Option<_>>()?
            }
            _ => return None,
        };
        return Some(format!("({})", items.join(word)));
    }
    let column = standard_name(key.text()?);
    let ExprKind::Map(pairs) = &value.kind else { return compared(&column, "eq", value) };
    let all: Vec<String> = pairs
        .iter()
        .map(|(key, value)| compared(&column, last_name(key)?, value))
        .collect::<Option<_>>()?;
    Some(all.join(" AND "))
}

fn compared(column: &str, operator: &str, value: &Expr) -> Option<String> {
    let value = constant(value)?;
    let list =
        |values: &[Value]| values.iter().map(standard_literal).collect::<Vec<_>>().join(", ");
    Some(match (operator, &value) {
        ("eq" | "is", Value::Null) => format!("{column} IS NULL"),
        ("ne" | "not", Value::Null) => format!("{column} IS NOT NULL"),
        ("eq" | "in", Value::Array(values)) => format!("{column} IN ({})", list(values)),
        ("ne" | "notIn", Value::Array(values)) => format!("{column} NOT IN ({})", list(values)),
        ("not", value) => format!("{column} <> {}", standard_literal(value)),
        (operator, value) => {
            let (_, sign) = COMPARISONS.iter().find(|(known, _)| *known == operator)?;
            format!("{column} {sign} {}", standard_literal(value))
        }
    })
}
