//! Classes and enumerations, with their members.

use smol_str::{SmolStr, format_smolstr};
use tree_sitter::Node;

use super::{Field, Lowering, child, kind};
use crate::outline::{Class, ClassKind, Expr, ExprKind, Member, Method};

impl<'t> Lowering<'t> {
    pub(super) fn class(
        &self,
        node: Node<'t>,
        mut decorators: Vec<Expr>,
        conditional: bool,
    ) -> Option<Class> {
        let name = child(node, Field::Name)?;
        let mut cursor = node.walk();
        let own = node.children(&mut cursor).filter(|child| kind(*child) == "decorator");
        decorators.extend(own.filter_map(|decorator| self.decorator(decorator)));
        let mut class = Class {
            name: self.owned(name),
            kind: if kind(node) == "abstract_class_declaration" {
                ClassKind::Abstract
            } else {
                ClassKind::Class
            },
            bases: self.heritage(node),
            keywords: Vec::new(),
            decorators,
            members: Vec::new(),
            methods: Vec::new(),
            nested: Vec::new(),
            statements: Vec::new(),
            documentation: self.comment_before(node),
            span: self.span(name),
            conditional,
        };
        if let Some(body) = child(node, Field::Body) {
            self.class_body(body, &mut class);
        }
        class.tighten();
        Some(class)
    }

    fn heritage(&self, node: Node<'t>) -> Vec<Expr> {
        let mut cursor = node.walk();
        let mut bases = Vec::new();
        for heritage in
            node.named_children(&mut cursor).filter(|child| kind(*child) == "class_heritage")
        {
            let mut inner = heritage.walk();
            for clause in
                heritage.named_children(&mut inner).filter(|child| kind(*child) == "extends_clause")
            {
                bases.extend(child(clause, Field::Value).map(|value| self.expr(value, 0)));
            }
        }
        bases
    }

    fn class_body(&self, body: Node<'t>, class: &mut Class) {
        let mut pending = Vec::new();
        let mut comment = None;
        let mut cursor = body.walk();
        for part in body.named_children(&mut cursor) {
            match kind(part) {
                "decorator" => self.decorate(&mut pending, part),
                "comment" => comment = self.documentation(part),
                "public_field_definition" | "abstract_method_signature" | "property_signature" => {
                    class.members.extend(self.member(
                        part,
                        std::mem::take(&mut pending),
                        comment.take(),
                    ));
                }
                "method_definition" => {
                    let decorators = std::mem::take(&mut pending);
                    let mut inner = part.walk();
                    let accessor =
                        part.children(&mut inner).any(|child| matches!(kind(child), "get" | "set"));
                    if accessor && !decorators.is_empty() {
                        let member = self.member(part, decorators, comment.take());
                        class
                            .members
                            .extend(member.map(|member| Member { accessor: true, ..member }));
                    } else if let Some(name) = child(part, Field::Name) {
                        let returns =
                            child(part, Field::Body).and_then(|body| self.single_return(body));
                        class.methods.push(Method {
                            name: self.owned(name),
                            parameters: Vec::new(),
                            decorators,
                            returns,
                            statements: Vec::new(),
                            span: self.span(name),
                        });
                    }
                }
                _ => {}
            }
        }
    }

    /// Adds a decorator; most members have one.
    fn decorate(&self, decorators: &mut Vec<Expr>, node: Node<'t>) {
        decorators.reserve_exact(1);
        decorators.extend(self.decorator(node));
    }

    fn member(
        &self,
        node: Node<'t>,
        mut decorators: Vec<Expr>,
        comment: Option<String>,
    ) -> Option<Member> {
        let name = child(node, Field::Name)?;
        let mut optional = false;
        let mut cursor = node.walk();
        for part in node.children(&mut cursor) {
            match kind(part) {
                "decorator" => self.decorate(&mut decorators, part),
                "?" => optional = true,
                // A constant that other code may name, or nothing that an instance has.
                "static" if child(node, Field::Value).is_none() => return None,
                _ => {}
            }
        }
        let annotation = child(node, Field::Type).or_else(|| child(node, Field::ReturnType));
        Some(Member {
            name: self.property_name(name),
            annotation: annotation
                .and_then(|annotation| annotation.named_child(0))
                .map(|ty| self.expr(ty, 0)),
            optional,
            decorators,
            value: child(node, Field::Value).map(|value| self.expr(value, 0)),
            documentation: comment,
            accessor: false,
            span: self.span(name),
        })
    }

    pub(super) fn enumeration(&self, node: Node<'t>) -> Option<Class> {
        let name = child(node, Field::Name)?;
        let mut class = Class {
            name: self.owned(name),
            kind: ClassKind::Enum,
            bases: Vec::new(),
            keywords: Vec::new(),
            decorators: Vec::new(),
            members: Vec::new(),
            methods: Vec::new(),
            nested: Vec::new(),
            statements: Vec::new(),
            documentation: None,
            span: self.span(name),
            conditional: false,
        };
        let body = child(node, Field::Body)?;
        // What a member without a value is: it counts up from the one before.
        let mut next = Some(0i64);
        let mut cursor = body.walk();
        for entry in body.named_children(&mut cursor) {
            let (name, value) = match kind(entry) {
                "enum_assignment" => (
                    child(entry, Field::Name),
                    child(entry, Field::Value).map(|value| self.expr(value, 0)),
                ),
                "property_identifier" | "string" => {
                    let counted = |next: i64| Expr {
                        kind: ExprKind::Number(format_smolstr!("{next}")),
                        span: self.span(entry),
                    };
                    (Some(entry), next.map(counted))
                }
                _ => continue,
            };
            let written = value.as_ref().map(|value| &value.kind);
            next = written.and_then(|kind| {
                if let ExprKind::Number(text) = kind {
                    text.parse::<i64>().ok()?.checked_add(1)
                } else {
                    None
                }
            });
            class.members.extend(name.map(|name| Member {
                name: self.property_name(name),
                annotation: None,
                optional: false,
                decorators: Vec::new(),
                value,
                documentation: None,
                accessor: false,
                span: self.span(name),
            }));
        }
        Some(class)
    }

    pub(super) fn property_name(&self, node: Node<'t>) -> SmolStr {
        if kind(node) == "string" { self.string_text(node) } else { self.owned(node) }
    }

    pub(super) fn decorator(&self, node: Node<'t>) -> Option<Expr> {
        Some(self.expr(node.named_child(0)?, 0))
    }

    fn comment_before(&self, node: Node<'t>) -> Option<String> {
        let holder =
            node.parent().filter(|parent| kind(*parent) == "export_statement").unwrap_or(node);
        holder
            .prev_named_sibling()
            .filter(|before| kind(*before) == "comment")
            .and_then(|comment| self.documentation(comment))
    }

    /// The text of a `/** ... */` comment.
    fn documentation(&self, comment: Node<'t>) -> Option<String> {
        let body = self.slice(comment).strip_prefix("/**")?.strip_suffix("*/")?;
        let lines: Vec<&str> =
            body.lines().map(|line| line.trim().trim_start_matches('*').trim()).collect();
        Some(lines.join("\n").trim().to_owned())
    }
}
