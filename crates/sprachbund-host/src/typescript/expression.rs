//! Values and types.

use smol_str::{SmolStr, format_smolstr};
use tree_sitter::Node;

use super::{DEEPEST, Field, Lowering, child, kind};
use crate::outline::{Call, Expr, ExprKind};

impl<'t> Lowering<'t> {
    pub(super) fn single_return(&self, body: Node<'t>) -> Option<Expr> {
        let mut cursor = body.walk();
        let mut statements =
            body.named_children(&mut cursor).filter(|child| kind(*child) != "comment");
        let only = statements.next().filter(|statement| kind(*statement) == "return_statement")?;
        if statements.next().is_some() {
            return None;
        }
        Some(self.expr(only.named_child(0)?, 0))
    }

    pub(super) fn expr(&self, node: Node<'t>, depth: u32) -> Expr {
        let kind = if depth > DEEPEST { ExprKind::Opaque } else { self.expr_kind(node, depth + 1) };
        Expr { kind, span: self.span(node) }
    }

    fn children(&self, node: Node<'t>, depth: u32) -> Vec<Expr> {
        let mut cursor = node.walk();
        let mut children = Vec::with_capacity(node.named_child_count());
        let named = node.named_children(&mut cursor).filter(|child| kind(*child) != "comment");
        children.extend(named.map(|child| self.expr(child, depth)));
        children
    }

    fn inner(&self, node: Node<'t>, depth: u32) -> ExprKind {
        node.named_child(0).map_or(ExprKind::Opaque, |inner| self.expr(inner, depth).kind)
    }

    fn expr_kind(&self, node: Node<'t>, depth: u32) -> ExprKind {
        match kind(node) {
            "identifier"
            | "type_identifier"
            | "property_identifier"
            | "predefined_type"
            | "this"
            | "undefined" => match self.slice(node) {
                "null" | "undefined" => ExprKind::Null,
                name => ExprKind::Name(name.into()),
            },
            "member_expression" | "nested_type_identifier" | "nested_identifier" => {
                self.dotted(node, depth)
            }
            "subscript_expression" => {
                ExprKind::Operation { operator: "[]".into(), operands: self.children(node, depth) }
            }
            "true" => ExprKind::Boolean(true),
            "false" => ExprKind::Boolean(false),
            "null" => ExprKind::Null,
            "number" => ExprKind::Number(number(self.slice(node))),
            "string" => ExprKind::Text(self.string_text(node)),
            "template_string" => self.template(node, depth),
            "array" | "tuple_type" => ExprKind::List(self.children(node, depth)),
            "object" => self.object(node, depth),
            "call_expression" => self.call(node, [Field::Function, Field::Arguments], depth),
            "new_expression" => {
                match self.call(node, [Field::Constructor, Field::Arguments], depth) {
                    ExprKind::Call(mut call) => {
                        call.callee.kind =
                            ExprKind::Name(format_smolstr!("new {}", call.callee_name()));
                        ExprKind::Call(call)
                    }
                    other => other,
                }
            }
            "generic_type" => self.call(node, [Field::Name, Field::TypeArguments], depth),
            "parenthesized_expression"
            | "parenthesized_type"
            | "literal_type"
            | "await_expression"
            | "non_null_expression"
            | "as_expression"
            | "satisfies_expression"
            | "type_annotation"
            | "readonly_type" => self.inner(node, depth),
            "spread_element" => ExprKind::Spread(Box::new(Expr {
                kind: self.inner(node, depth),
                span: self.span(node),
            })),
            "arrow_function" | "function_expression" => self.arrow(node, depth),
            "union_type" => self.union(node, depth),
            "intersection_type" => {
                ExprKind::Operation { operator: "&".into(), operands: self.children(node, depth) }
            }
            "array_type" => {
                ExprKind::Operation { operator: "[]".into(), operands: self.children(node, depth) }
            }
            "unary_expression" => self.unary(node, depth),
            "ternary_expression" => {
                let parts = [Field::Condition, Field::Consequence, Field::Alternative];
                self.operation(node, "?:".into(), &parts, depth)
            }
            "sequence_expression" => {
                match node.named_child(node.named_child_count().saturating_sub(1) as u32) {
                    Some(last) => self.expr(last, depth).kind,
                    None => ExprKind::Opaque,
                }
            }
            "binary_expression" => {
                let operator = child(node, Field::Operator)
                    .map_or(SmolStr::default(), |operator| self.owned(operator));
                self.operation(node, operator, &[Field::Left, Field::Right], depth)
            }
            _ => ExprKind::Opaque,
        }
    }

    /// An operation over the parts of a node that stand in these fields.
    fn operation(
        &self,
        node: Node<'t>,
        operator: SmolStr,
        fields: &[Field],
        depth: u32,
    ) -> ExprKind {
        let operands = fields.iter().filter_map(|field| child(node, *field));
        let operands = operands.map(|operand| self.expr(operand, depth)).collect();
        ExprKind::Operation { operator, operands }
    }

    fn dotted(&self, node: Node<'t>, depth: u32) -> ExprKind {
        let mut head = node;
        while matches!(
            kind(head),
            "member_expression" | "nested_type_identifier" | "nested_identifier"
        ) {
            match head.named_child(0) {
                Some(object) => head = object,
                None => return ExprKind::Opaque,
            }
        }
        match kind(head) {
            "identifier" | "this" | "super" => ExprKind::Name(
                self.slice(node).chars().filter(|letter| !letter.is_whitespace()).collect(),
            ),
            // A call on a value, `x().y`: the property is the callee's last name.
            _ => {
                let property = child(node, Field::Property)
                    .map_or(SmolStr::default(), |property| self.owned(property));
                let object = node.named_child(0).map(|object| self.expr(object, depth));
                ExprKind::Operation {
                    operator: format_smolstr!(".{property}"),
                    operands: object.into_iter().collect(),
                }
            }
        }
    }

    fn union(&self, node: Node<'t>, depth: u32) -> ExprKind {
        let mut operands = Vec::new();
        for operand in self.children(node, depth) {
            match operand.kind {
                ExprKind::Operation { operator, operands: inner } if operator == "|" => {
                    operands.extend(inner)
                }
                _ => operands.push(operand),
            }
        }
        ExprKind::Operation { operator: "|".into(), operands }
    }

    fn unary(&self, node: Node<'t>, depth: u32) -> ExprKind {
        let operator = child(node, Field::Operator)
            .map_or(SmolStr::default(), |operator| self.owned(operator));
        let Some(operand) = child(node, Field::Argument) else { return ExprKind::Opaque };
        match (operator.as_str(), self.expr(operand, depth)) {
            ("-", Expr { kind: ExprKind::Number(number), .. }) => {
                ExprKind::Number(format_smolstr!("-{number}"))
            }
            (_, operand) => ExprKind::Operation { operator, operands: vec![operand] },
        }
    }

    fn call(&self, node: Node<'t>, fields: [Field; 2], depth: u32) -> ExprKind {
        let callee = child(node, fields[0]).or_else(|| node.named_child(0));
        let Some(callee) = callee.map(|callee| self.expr(callee, depth)) else {
            return ExprKind::Opaque;
        };
        let list = child(node, fields[1]).or_else(|| node.named_child(1));
        let arguments = list.map_or(Vec::new(), |list| self.children(list, depth));
        ExprKind::Call(Box::new(Call { callee, arguments, named: Vec::new() }))
    }

    /// Names of a function's parameters.
    pub(super) fn parameters(&self, node: Node<'t>) -> Vec<SmolStr> {
        match (child(node, Field::Parameter), child(node, Field::Parameters)) {
            (Some(single), _) => vec![self.owned(single)],
            (None, Some(list)) => {
                let mut cursor = list.walk();
                list.named_children(&mut cursor)
                    .map(|parameter| child(parameter, Field::Pattern).unwrap_or(parameter))
                    .map(|pattern| self.owned(pattern))
                    .collect()
            }
            (None, None) => Vec::new(),
        }
    }

    fn arrow(&self, node: Node<'t>, depth: u32) -> ExprKind {
        let parameters = self.parameters(node);
        let body = child(node, Field::Body);
        let returns = body.and_then(|body| match kind(body) {
            "statement_block" => self.single_return(body),
            _ => Some(self.expr(body, depth)),
        });
        ExprKind::Function { parameters, returns: returns.map(Box::new) }
    }

    fn object(&self, node: Node<'t>, depth: u32) -> ExprKind {
        let mut pairs = Vec::with_capacity(node.named_child_count());
        let mut cursor = node.walk();
        for entry in node.named_children(&mut cursor) {
            let span = self.span(entry);
            match kind(entry) {
                "pair" => {
                    let (Some(key), Some(value)) =
                        (child(entry, Field::Key), child(entry, Field::Value))
                    else {
                        continue;
                    };
                    let name = match kind(key) {
                        "computed_property_name" => self.inner(key, depth),
                        _ => ExprKind::Text(self.property_name(key)),
                    };
                    pairs
                        .push((Expr { kind: name, span: self.span(key) }, self.expr(value, depth)));
                }
                "shorthand_property_identifier" => {
                    let name = self.owned(entry);
                    pairs.push((
                        Expr { kind: ExprKind::Text(name.clone()), span },
                        Expr { kind: ExprKind::Name(name), span },
                    ));
                }
                "spread_element" => {
                    pairs.push((self.expr(entry, depth), Expr { kind: ExprKind::Null, span }))
                }
                "method_definition" => {
                    let name = child(entry, Field::Name)
                        .map_or(SmolStr::default(), |name| self.property_name(name));
                    pairs.push((
                        Expr { kind: ExprKind::Text(name), span },
                        Expr { kind: ExprKind::Opaque, span },
                    ));
                }
                _ => {}
            }
        }
        ExprKind::Map(pairs)
    }

    fn template(&self, node: Node<'t>, depth: u32) -> ExprKind {
        let mut operands = Vec::new();
        let mut text = String::new();
        let mut at = node.start_byte() + 1;
        let mut cursor = node.walk();
        for part in
            node.named_children(&mut cursor).filter(|part| kind(*part) == "template_substitution")
        {
            text.push_str(&unescape(self.text.get(at..part.start_byte()).unwrap_or_default()));
            operands.push(Expr {
                kind: ExprKind::Text(std::mem::take(&mut text).into()),
                span: self.span(part),
            });
            operands.push(Expr { kind: self.inner(part, depth), span: self.span(part) });
            at = part.end_byte();
        }
        text.push_str(&unescape(
            self.text.get(at..node.end_byte().saturating_sub(1)).unwrap_or_default(),
        ));
        if operands.is_empty() {
            return ExprKind::Text(text.into());
        }
        operands.push(Expr { kind: ExprKind::Text(text.into()), span: self.span(node) });
        ExprKind::Operation { operator: "template".into(), operands }
    }

    pub(super) fn string_text(&self, node: Node<'t>) -> SmolStr {
        let text = self.slice(node);
        let inside = text.get(1..text.len().saturating_sub(1)).unwrap_or_default();
        if inside.contains('\\') { unescape(inside).into() } else { inside.into() }
    }
}

/// Escapes of string literals (ECMAScript, section 12.9.4).
fn unescape(source: &str) -> String {
    if !source.contains('\\') {
        return source.to_owned();
    }
    let mut out = String::with_capacity(source.len());
    let mut rest = source.chars().peekable();
    while let Some(letter) = rest.next() {
        if letter != '\\' {
            out.push(letter);
            continue;
        }
        match rest.next() {
            Some('n') => out.push('\n'),
            Some('t') => out.push('\t'),
            Some('r') => out.push('\r'),
            Some('b') => out.push('\u{8}'),
            Some('f') => out.push('\u{c}'),
            Some('v') => out.push('\u{b}'),
            Some('0') => out.push('\0'),
            Some('\n') | None => {}
            Some('x') => {
                let code: String = rest.by_ref().take(2).collect();
                out.extend(u32::from_str_radix(&code, 16).ok().and_then(char::from_u32));
            }
            Some('u') => {
                let code: String = if rest.next_if_eq(&'{').is_some() {
                    rest.by_ref().take_while(|letter| *letter != '}').collect()
                } else {
                    rest.by_ref().take(4).collect()
                };
                out.extend(u32::from_str_radix(&code, 16).ok().and_then(char::from_u32));
            }
            Some(other) => out.push(other),
        }
    }
    out
}

/// A number without its separators.
fn number(text: &str) -> SmolStr {
    if text.contains('_') { text.replace('_', "").into() } else { text.into() }
}
