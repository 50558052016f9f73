//! Expression trees as query expressions; what these cannot say is written as raw SQL.

use serde_json::Value;

use super::{Printer, texts};
use crate::declaration::{CheckDeclaration, IndexDeclaration, IndexPartDeclaration};
use crate::dialect::release::at_least;
use crate::quoting::python::Imports;
use crate::quoting::python::{keyword, literal, text};
use crate::schema::expression::Tree;
use crate::schema::{Expression, Extras};
use crate::types::{FUNCTIONS, INDEX_METHODS};

/// Comparison operators and the lookups that say them.
const LOOKUPS: &[(&str, &str)] =
    &[("=", ""), (">", "__gt"), (">=", "__gte"), ("<", "__lt"), ("<=", "__lte")];

const ARITHMETIC: &[&str] = &["+", "-", "*", "/", "%"];

/// Whether a tree can be said as a `Q` or as a value over attributes.
pub(crate) fn sayable(tree: &Tree) -> bool {
    condition(&mut Imports::default(), tree).is_some()
        || value(&mut Imports::default(), tree).is_some()
}

/// An expression in the server's own quotes, as raw SQL.
pub(super) fn raw_expression(
    imports: &mut Imports,
    expression: &Expression,
    output: Option<&str>,
) -> String {
    let text = expression.text_for(imports.database);
    raw(imports, &text, output)
}

/// `RawSQL("...", ())`; with an output field when it is a condition.
pub(super) fn raw(imports: &mut Imports, sql: &str, output: Option<&str>) -> String {
    imports.name("django.db.models.expressions", "RawSQL");
    let output = output.map_or(String::new(), |output| format!(", output_field=models.{output}()"));
    format!("RawSQL({}, (){output})", text(sql))
}

/// A condition: `Q` where it can be said, else raw SQL.
fn condition_expression(imports: &mut Imports, expression: &Expression) -> String {
    expression
        .tree
        .as_ref()
        .and_then(|tree| condition(imports, tree))
        .unwrap_or_else(|| raw_expression(imports, expression, Some("BooleanField")))
}

/// A value: attributes and functions where it can be said, else raw SQL.
pub(super) fn value_expression(imports: &mut Imports, expression: &Expression) -> String {
    let said = expression.tree.as_ref().and_then(|tree| match tree {
        Tree::Literal(constant) => Some(wrapped(constant)),
        other => value(imports, other),
    });
    said.unwrap_or_else(|| raw_expression(imports, expression, None))
}

fn condition(imports: &mut Imports, tree: &Tree) -> Option<String> {
    let mut joined = |list: &[Tree], operator: &str| {
        let parts: Option<Vec<String>> = list
            .iter()
            .map(|part| condition(imports, part).map(|text| bracketed(part, text)))
            .collect();
        parts.filter(|parts| !parts.is_empty()).map(|parts| parts.join(operator))
    };
    match tree {
        Tree::And(list) => joined(list, " & "),
        Tree::Or(list) => joined(list, " | "),
        Tree::Not(item) => match &**item {
            Tree::IsNull(inner) => Some(format!("models.Q({}__isnull=False)", attribute(inner)?)),
            other => Some(format!("~{}", bracketed(other, condition(imports, other)?))),
        },
        Tree::IsNull(item) => Some(format!("models.Q({}__isnull=True)", attribute(item)?)),
        Tree::In { item, list } => {
            let items: Option<Vec<String>> = list.iter().map(|item| value(imports, item)).collect();
            Some(format!("models.Q({}__in=[{}])", attribute(item)?, items?.join(", ")))
        }
        Tree::Binary { operator, left, right } if operator == "<>" => {
            Some(format!("~models.Q({}={})", attribute(left)?, operand(imports, right)?))
        }
        Tree::Binary { operator, left, right } => {
            let (_, lookup) = LOOKUPS.iter().find(|(known, _)| known == operator)?;
            Some(format!("models.Q({}{lookup}={})", attribute(left)?, operand(imports, right)?))
        }
        Tree::Between { .. } | Tree::Column(_) | Tree::Literal(_) | Tree::Call { .. } => None,
    }
}

fn bracketed(tree: &Tree, text: String) -> String {
    if matches!(tree, Tree::And(_) | Tree::Or(_)) { format!("({text})") } else { text }
}

/// The attribute of a lookup; its name must be one that a keyword can be.
fn attribute(tree: &Tree) -> Option<&str> {
    match tree {
        Tree::Column(name) if !name.contains("__") && is_identifier(name) => Some(name),
        _ => None,
    }
}

fn is_identifier(name: &str) -> bool {
    name.chars().all(|letter| letter.is_ascii_alphanumeric() || letter == '_')
        && !name.starts_with(|first: char| first.is_ascii_digit())
}

/// The right side of a lookup: null has a lookup of its own.
fn operand(imports: &mut Imports, tree: &Tree) -> Option<String> {
    if *tree == Tree::Literal(Value::Null) { None } else { value(imports, tree) }
}

fn value(imports: &mut Imports, tree: &Tree) -> Option<String> {
    match tree {
        Tree::Column(name) => Some(format!("models.F({})", text(name))),
        Tree::Literal(constant) => Some(literal(constant)),
        Tree::Binary { operator, left, right } if ARITHMETIC.contains(&operator.as_str()) => {
            let side = |tree: &Tree, text: String| {
                if matches!(tree, Tree::Binary { .. }) { format!("({text})") } else { text }
            };
            // Python would add up two constants by itself, and leave no expression.
            let left_text = match (&**left, &**right) {
                (Tree::Literal(constant), Tree::Literal(_)) => wrapped(constant),
                _ => value(imports, left)?,
            };
            let right_text = value(imports, right)?;
            Some(format!("{} {operator} {}", side(left, left_text), side(right, right_text)))
        }
        Tree::Call { function, arguments } => {
            let (class, _) = FUNCTIONS.iter().find(|(_, name)| name == function)?;
            let arguments: Option<Vec<String>> =
                arguments.iter().map(|argument| function_argument(imports, argument)).collect();
            imports.name("django.db.models.functions", class);
            Some(format!("{class}({})", arguments?.join(", ")))
        }
        _ => None,
    }
}

/// An argument of a function: texts name attributes, constants are wrapped.
fn function_argument(imports: &mut Imports, tree: &Tree) -> Option<String> {
    match tree {
        Tree::Column(name) => Some(text(name)),
        Tree::Literal(constant) => Some(wrapped(constant)),
        other => value(imports, other),
    }
}

fn wrapped(constant: &Value) -> String {
    format!("models.Value({})", literal(constant))
}

/// What only this framework says of a constraint, after its other arguments.
pub(super) fn keywords(extras: &Extras) -> String {
    extras.iter().map(|(name, value)| format!(", {}", keyword(name, value))).collect()
}

impl Printer<'_> {
    pub(super) fn check(&mut self, check: &CheckDeclaration) -> String {
        let condition = condition_expression(&mut self.imports, &check.expression);
        let extras = keywords(&check.extras);
        // Its name since 5.1.
        let keyword =
            if at_least(&self.conventions.version, (5, 1)) { "condition" } else { "check" };
        format!(
            "models.CheckConstraint({keyword}={condition}, name={}{extras})",
            text(check.name.as_deref().unwrap_or_default())
        )
    }

    pub(super) fn index(&mut self, index: &IndexDeclaration) -> String {
        let class = index
            .method
            .as_deref()
            .and_then(|method| INDEX_METHODS.iter().find(|(_, known)| *known == method));
        let class = match class {
            Some((class, _)) => {
                self.imports.name("django.contrib.postgres.indexes", class).to_owned()
            }
            None => "models.Index".to_owned(),
        };
        format!("{class}({})", self.index_arguments(index).join(", "))
    }

    pub(super) fn unique_index(&mut self, index: &IndexDeclaration) -> String {
        format!("models.UniqueConstraint({})", self.index_arguments(index).join(", "))
    }

    fn index_arguments(&mut self, index: &IndexDeclaration) -> Vec<String> {
        let by_expression = index.parts.iter().any(|part| part.attribute.is_none())
            || (index.unique && index.parts.iter().any(|part| part.descending));
        let mut arguments = Vec::new();
        if by_expression {
            for part in &index.parts {
                arguments.push(self.expression_part(part));
            }
        } else {
            let names: Vec<String> = index.parts.iter().map(named).collect();
            arguments.push(format!("fields={}", texts(&names)));
            let classes: Vec<String> =
                index.parts.iter().filter_map(|part| part.operator_class.clone()).collect();
            if !classes.is_empty() {
                arguments.push(format!("opclasses={}", texts(&classes)));
            }
        }
        if let Some(condition) = &index.condition {
            arguments
                .push(format!("condition={}", condition_expression(&mut self.imports, condition)));
        }
        if !index.include.is_empty() {
            arguments.push(format!("include={}", texts(&index.include)));
        }
        arguments.extend(index.name.as_ref().map(|name| format!("name={}", text(name))));
        arguments.extend(index.nulls_not_distinct.then(|| "nulls_distinct=False".to_owned()));
        arguments.extend(index.extras.iter().map(|(name, value)| keyword(name, value)));
        arguments
    }

    fn expression_part(&mut self, part: &IndexPartDeclaration) -> String {
        let mut out = match (&part.attribute, &part.expression) {
            (Some(name), _) => format!("models.F({})", text(name)),
            (None, Some(expression)) => value_expression(&mut self.imports, expression),
            (None, None) => String::new(),
        };
        if part.descending {
            out.push_str(".desc()");
        }
        if let Some(class) = &part.operator_class {
            self.imports.name("django.contrib.postgres.indexes", "OpClass");
            out = format!("OpClass({out}, name={})", text(class));
        }
        out
    }
}

fn named(part: &IndexPartDeclaration) -> String {
    format!(
        "{}{}",
        if part.descending { "-" } else { "" },
        part.attribute.as_deref().unwrap_or_default()
    )
}
