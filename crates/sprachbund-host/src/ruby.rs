//! Ruby, by the tree-sitter grammar, to the outline.
//!
//! Bodies of classes and methods are run from the top down, so what they say stays in the order of
//! the text ([`Class::statements`], [`Method::statements`]). Classes and modules stand side by
//! side, each by its full name (`Harbour::Berth`). Of the one kind of value there is:
//!
//! - a block or a lambda is a function value whose result is the operation `do` over its
//!   statements; a block is the last argument of its call;
//! - `if` (a condition, what is done then, what is done else, each of them a `do`), `=`, `return`,
//!   `next`, `break` and `rescue` are operations; `unless`, modifiers and `case` are an `if`, too,
//!   the last over `===`; `a ||= b` is an assignment of `a || b`;
//! - a range, a pattern (`regex`) and a method as a block (`&`) are operations;
//! - a symbol is a text; a receiver that is a name, or a call of one without arguments, stands
//!   before the name of what is called (`Rails.env.test?`), any other in the operation `.`.

use std::collections::HashMap;

use smol_str::{SmolStr, format_smolstr};
use tree_sitter::{Node, Tree};

use crate::grammar::grammar;
use crate::language::{Imports, Language, Layout, LegalNames, Reserved, letter_first};
use crate::outline::{Assignment, Call, Class, ClassKind, Expr, ExprKind, Member, Method, Outline};
use crate::python::{collect_errors, statements};
use crate::quoting::case::Case;
use crate::quoting::identifier;
use crate::source::{FileId, Span};

grammar!(
    tree_sitter_ruby::LANGUAGE,
    Alternative = "alternative",
    Arguments = "arguments",
    Begin = "begin",
    Block = "block",
    Body = "body",
    Condition = "condition",
    Consequence = "consequence",
    End = "end",
    Key = "key",
    Left = "left",
    MethodName = "method",
    Name = "name",
    Operand = "operand",
    Operator = "operator",
    Parameters = "parameters",
    Receiver = "receiver",
    Right = "right",
    Superclass = "superclass",
    Value = "value",
);

/// Nesting beyond which an expression is left opaque, so that hostile input cannot exhaust the
/// stack.
const DEEPEST: u32 = 64;

/// What says nothing where it stands: the text of a mark is read with the mark.
const SILENT: &[&str] = &["comment", "empty_statement", "heredoc_body"];

/// Words that nothing may be called (the language's reserved words).
const KEYWORDS: &[&str] = &[
    "BEGIN", "END", "alias", "and", "begin", "break", "case", "class", "def", "defined", "do",
    "else", "elsif", "end", "ensure", "false", "for", "if", "in", "module", "next", "nil", "not",
    "or", "redo", "rescue", "retry", "return", "self", "super", "then", "true", "undef", "unless",
    "until", "when", "while", "yield",
];

/// The language, as far as the middle asks of it.
pub const RUBY: Language = Language {
    id: "ruby",
    extensions: &["rb"],
    grammar: Some(|| tree_sitter_ruby::LANGUAGE.into()),
    lower: |file, text| {
        RUBY.parse(text).map_or_else(Outline::default, |tree| lower(&tree, file, text))
    },
    imports: Imports::Nothing,
    attribute_case: Case::Snake,
    names: LegalNames {
        attribute: attribute_name,
        class: |name, _| identifier(name).trim_matches('_').to_owned(),
        module: |module| Case::Snake.apply(&identifier(module)),
        member: member_name,
        keywords: KEYWORDS,
    },
    layout: Layout { comment: "#", block_comments: false, triple_quotes: false, backslashes: true },
    code_stays: |_, same_framework| same_framework,
    shares_literals: false,
};

/// A legal name that no method of the framework's base class has.
fn attribute_name(name: &str, reserved: &Reserved) -> String {
    let plain = letter_first(&identifier(name), "value");
    let taken = KEYWORDS.contains(&plain.as_str()) || reserved.members.contains(&plain.as_str());
    if taken { format!("{plain}_value") } else { plain }
}

fn member_name(name: &str) -> String {
    let plain = letter_first(&Case::Snake.apply(&identifier(name)), "value");
    if KEYWORDS.contains(&plain.as_str()) { format!("{plain}_value") } else { plain }
}

/// Lowers one file.
fn lower(tree: &Tree, file: FileId, text: &str) -> Outline {
    let root = tree.root_node();
    let mut lowering =
        Lowering { file, text, outline: Outline::default(), heredocs: heredocs(root) };
    lowering.top(root, 0);
    lowering.outline.statements = statements(root, file);
    if root.has_error() {
        collect_errors(root, file, &mut lowering.outline.errors);
    }
    lowering.outline
}

/// Texts that stand below the line of their mark: each by the first byte of the mark, in the order
/// in which both follow each other.
fn heredocs(root: Node<'_>) -> HashMap<usize, Node<'_>> {
    let (mut marks, mut bodies) = (Vec::new(), Vec::new());
    let mut pending = vec![root];
    while let Some(node) = pending.pop() {
        match kind(node) {
            "heredoc_beginning" => marks.push(node),
            "heredoc_body" => bodies.push(node),
            _ => {
                let mut cursor = node.walk();
                pending.extend(node.children(&mut cursor));
            }
        }
    }
    marks.sort_by_key(Node::start_byte);
    bodies.sort_by_key(Node::start_byte);
    marks.iter().map(Node::start_byte).zip(bodies).collect()
}

struct Lowering<'t> {
    file: FileId,
    text: &'t str,
    outline: Outline,
    heredocs: HashMap<usize, Node<'t>>,
}

impl<'t> Lowering<'t> {
    fn span(&self, node: Node<'_>) -> Span {
        Span { file: self.file, start: node.start_byte() as u32, end: node.end_byte() as u32 }
    }

    fn slice(&self, node: Node<'_>) -> &'t str {
        self.text.get(node.byte_range()).unwrap_or_default()
    }

    fn owned(&self, node: Node<'_>) -> SmolStr {
        SmolStr::new(self.slice(node))
    }

    fn operation(&self, operator: &str, operands: Vec<Expr>, node: Node<'_>) -> Expr {
        let kind = ExprKind::Operation { operator: operator.into(), operands };
        Expr { kind, span: self.span(node) }
    }

    fn top(&mut self, root: Node<'t>, depth: u32) {
        let mut cursor = root.walk();
        for statement in root.named_children(&mut cursor) {
            match kind(statement) {
                "class" | "module" => self.class(statement, "", depth),
                "assignment" => {
                    let assignment = self.assignment(statement);
                    self.outline.assignments.extend(assignment);
                }
                "method" => {}
                silent if SILENT.contains(&silent) => {}
                _ => {
                    let said = self.expr(statement, 0);
                    self.outline.calls.push(said);
                }
            }
        }
    }

    fn assignment(&self, node: Node<'t>) -> Option<Assignment> {
        let name = child(node, Field::Left)?;
        let value = child(node, Field::Right)?;
        matches!(kind(name), "constant" | "identifier")
            .then(|| Assignment { name: self.owned(name), value: self.expr(value, 0) })
    }

    /// A class or a module, and what stands inside it, each under its full name.
    fn class(&mut self, node: Node<'t>, outer: &str, depth: u32) {
        let Some(name) = child(node, Field::Name).filter(|_| depth <= DEEPEST) else { return };
        let own = self.slice(name);
        let full = match own.strip_prefix("::") {
            Some(absolute) => SmolStr::new(absolute),
            None if outer.is_empty() => SmolStr::new(own),
            None => format_smolstr!("{outer}::{own}"),
        };
        let base = child(node, Field::Superclass).and_then(|base| base.named_child(0));
        let mut class = Class {
            name: full.clone(),
            kind: if kind(node) == "module" { ClassKind::Abstract } else { ClassKind::Class },
            bases: base.map(|base| self.expr(base, 0)).into_iter().collect(),
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
        if let Some(body) = child(node, Field::Body) {
            self.class_body(body, &mut class, "", &full, depth + 1);
        }
        class.tighten();
        self.outline.classes.push(class);
    }

    /// `receiver` stands before the names of methods: `self.` inside `class << self`.
    fn class_body(
        &mut self,
        body: Node<'t>,
        class: &mut Class,
        receiver: &str,
        full: &str,
        depth: u32,
    ) {
        let mut cursor = body.walk();
        for statement in body.named_children(&mut cursor) {
            match kind(statement) {
                "class" | "module" => self.class(statement, full, depth),
                "singleton_class" => {
                    if let Some(body) = child(statement, Field::Body).filter(|_| depth <= DEEPEST) {
                        self.class_body(body, class, "self.", full, depth + 1);
                    }
                }
                "method" => class.methods.extend(self.method(statement, receiver)),
                "singleton_method" => class.methods.extend(self.method(statement, "self.")),
                silent if SILENT.contains(&silent) => {}
                "assignment" => match self.assignment(statement) {
                    Some(Assignment { name, value }) => class.members.push(Member {
                        name,
                        annotation: None,
                        optional: false,
                        decorators: Vec::new(),
                        value: Some(value),
                        documentation: None,
                        accessor: false,
                        span: self.span(statement),
                    }),
                    None => class.statements.push(self.expr(statement, 0)),
                },
                // `private def depth = 5`.
                "call" => match self.method_given(statement, receiver) {
                    Some(method) => class.methods.push(method),
                    None => class.statements.push(self.expr(statement, 0)),
                },
                _ => class.statements.push(self.expr(statement, 0)),
            }
        }
    }

    /// The method that is defined in the argument of a call.
    fn method_given(&self, call: Node<'t>, receiver: &str) -> Option<Method> {
        let given = child(call, Field::Arguments)?.named_child(0)?;
        match kind(given) {
            "method" => self.method(given, receiver),
            "singleton_method" => self.method(given, "self."),
            _ => None,
        }
    }

    fn method(&self, node: Node<'t>, receiver: &str) -> Option<Method> {
        let name = child(node, Field::Name)?;
        let statements =
            child(node, Field::Body).map(|body| self.statements(body, 0)).unwrap_or_default();
        let returns = match statements.as_slice() {
            [only] => Some(only.clone()),
            _ => None,
        };
        let mut cursor = node.walk();
        let listed = child(node, Field::Parameters);
        let parameters = listed
            .into_iter()
            .flat_map(|list| list.named_children(&mut cursor).collect::<Vec<_>>());
        Some(Method {
            name: format_smolstr!("{receiver}{}", self.slice(name)),
            parameters: parameters.map(|parameter| self.parameter(parameter)).collect(),
            decorators: Vec::new(),
            returns,
            statements,
            span: self.span(name),
        })
    }

    /// A parameter: its name as it is written (`*rest`, `key:`), and what it is where nothing is
    /// given.
    fn parameter(&self, node: Node<'t>) -> (SmolStr, Option<Expr>) {
        let value = child(node, Field::Value).map(|value| self.expr(value, 0));
        let name = child(node, Field::Name).map_or("", |name| self.slice(name));
        let written = match kind(node) {
            "keyword_parameter" => format_smolstr!("{name}:"),
            "splat_parameter" => format_smolstr!("*{name}"),
            "hash_splat_parameter" => format_smolstr!("**{name}"),
            "block_parameter" => format_smolstr!("&{name}"),
            "optional_parameter" => name.into(),
            _ => self.owned(node),
        };
        (written, value)
    }

    /// What is done in a body, in its order; a body of one expression is that expression.
    fn statements(&self, body: Node<'t>, depth: u32) -> Vec<Expr> {
        if !matches!(
            kind(body),
            "body_statement" | "block_body" | "then" | "else" | "begin" | "ensure"
        ) {
            return vec![self.expr(body, depth)];
        }
        let mut cursor = body.walk();
        body.named_children(&mut cursor)
            .filter(|node| !SILENT.contains(&kind(*node)))
            .map(|node| self.expr(node, depth))
            .collect()
    }

    fn done(&self, body: Option<Node<'t>>, at: Node<'t>, depth: u32) -> Expr {
        let statements = body.map(|body| self.statements(body, depth)).unwrap_or_default();
        self.operation("do", statements, body.unwrap_or(at))
    }

    fn expr(&self, node: Node<'t>, depth: u32) -> Expr {
        let kind = if depth > DEEPEST { ExprKind::Opaque } else { self.expr_kind(node, depth + 1) };
        Expr { kind, span: self.span(node) }
    }

    fn expr_kind(&self, node: Node<'t>, depth: u32) -> ExprKind {
        match kind(node) {
            "identifier" | "constant" | "scope_resolution" | "self" | "instance_variable"
            | "super" => ExprKind::Name(self.owned(node)),
            "nil" => ExprKind::Null,
            "true" => ExprKind::Boolean(true),
            "false" => ExprKind::Boolean(false),
            "integer" | "float" => ExprKind::Number(self.slice(node).replace('_', "").into()),
            "simple_symbol" => ExprKind::Text(self.slice(node).trim_start_matches(':').into()),
            "hash_key_symbol" => ExprKind::Text(self.owned(node)),
            "string" | "delimited_symbol" | "bare_string" | "bare_symbol" => {
                self.string(node, depth)
            }
            "heredoc_beginning" => self.heredoc(node, depth),
            "chained_string" => joined(self.children(node, depth)),
            "string_array" | "symbol_array" | "array" => ExprKind::List(self.children(node, depth)),
            "hash" => ExprKind::Map(self.pairs(node, depth)),
            "call" => self.call(node, depth),
            "element_reference" => self.spread_out("[]", node, depth),
            "lambda" => self.function(node, child(node, Field::Body), depth),
            "splat_argument" | "hash_splat_argument" => match node.named_child(0) {
                Some(inner) => ExprKind::Spread(Box::new(self.expr(inner, depth))),
                None => ExprKind::Opaque,
            },
            "parenthesized_statements" if node.named_child_count() == 1 => {
                node.named_child(0).map_or(ExprKind::Opaque, |only| self.expr(only, depth).kind)
            }
            "assignment" => self.pair_of("=", Field::Left, Field::Right, node, depth),
            "unary" => self.unary(node, depth),
            "binary" => match child(node, Field::Operator) {
                Some(operator) => {
                    let word = self.slice(operator);
                    self.pair_of(word, Field::Left, Field::Right, node, depth)
                }
                None => ExprKind::Opaque,
            },
            "if" | "elsif" | "unless" | "conditional" | "if_modifier" | "unless_modifier" => {
                self.condition(node, depth)
            }
            "case" => self.case(node, depth),
            "begin" | "parenthesized_statements" => self.done(Some(node), node, depth).kind,
            "rescue" => ExprKind::Operation { operator: "rescue".into(), operands: Vec::new() },
            word @ ("return" | "next" | "break") => {
                let values = node.named_child(0).map(|list| self.children(list, depth));
                let operands = values.unwrap_or_default();
                ExprKind::Operation { operator: word.into(), operands }
            }
            "yield" => {
                let arguments = node.named_child(0).map(|list| self.children(list, depth));
                let callee = Expr { kind: ExprKind::Name("yield".into()), span: self.span(node) };
                ExprKind::Call(Box::new(Call {
                    callee,
                    arguments: arguments.unwrap_or_default(),
                    named: Vec::new(),
                }))
            }
            "range" => self.pair_of("..", Field::Begin, Field::End, node, depth),
            "regex" => self.pattern(node),
            "block_argument" => self.spread_out("&", node, depth),
            "operator_assignment" => self.assigned_anew(node, depth),
            _ => ExprKind::Opaque,
        }
    }

    fn children(&self, node: Node<'t>, depth: u32) -> Vec<Expr> {
        let mut cursor = node.walk();
        node.named_children(&mut cursor)
            .filter(|child| !SILENT.contains(&kind(*child)))
            .map(|child| self.expr(child, depth))
            .collect()
    }

    fn spread_out(&self, operator: &str, node: Node<'t>, depth: u32) -> ExprKind {
        ExprKind::Operation { operator: operator.into(), operands: self.children(node, depth) }
    }

    fn pair_of(
        &self,
        operator: &str,
        left: Field,
        right: Field,
        node: Node<'t>,
        depth: u32,
    ) -> ExprKind {
        match (child(node, left), child(node, right)) {
            (Some(left), Some(right)) => ExprKind::Operation {
                operator: operator.into(),
                operands: vec![self.expr(left, depth), self.expr(right, depth)],
            },
            _ => ExprKind::Opaque,
        }
    }

    fn unary(&self, node: Node<'t>, depth: u32) -> ExprKind {
        let Some((operator, operand)) =
            child(node, Field::Operator).zip(child(node, Field::Operand))
        else {
            return ExprKind::Opaque;
        };
        let operand = self.expr(operand, depth);
        match (self.slice(operator), &operand.kind) {
            ("-", ExprKind::Number(number)) => ExprKind::Number(format_smolstr!("-{number}")),
            (word, _) => ExprKind::Operation {
                operator: if word == "not" { "!".into() } else { word.into() },
                operands: vec![operand],
            },
        }
    }

    /// Every way to write a condition: what must hold, what is done then, what is done else.
    fn condition(&self, node: Node<'t>, depth: u32) -> ExprKind {
        let Some(asked) = child(node, Field::Condition) else { return ExprKind::Opaque };
        let (then, otherwise) = match kind(node) {
            "if_modifier" | "unless_modifier" => (child(node, Field::Body), None),
            _ => (child(node, Field::Consequence), child(node, Field::Alternative)),
        };
        let mut asked = self.expr(asked, depth);
        if matches!(kind(node), "unless" | "unless_modifier") {
            let span = asked.span;
            let kind = ExprKind::Operation { operator: "!".into(), operands: vec![asked] };
            asked = Expr { kind, span };
        }
        let then = self.done(then, node, depth);
        let otherwise = otherwise.map(|otherwise| self.done(Some(otherwise), node, depth));
        ExprKind::Operation {
            operator: "if".into(),
            operands: [asked, then].into_iter().chain(otherwise).collect(),
        }
    }

    /// A pattern as it is written, and the letters behind it; one that is put together at run time
    /// is not known.
    fn pattern(&self, node: Node<'t>) -> ExprKind {
        let mut cursor = node.walk();
        let parts: Vec<Node<'t>> = node.named_children(&mut cursor).collect();
        let whole = parts.first().zip(parts.last());
        let Some((first, last)) =
            whole.filter(|_| parts.iter().all(|part| kind(*part) != "interpolation"))
        else {
            return ExprKind::Opaque;
        };
        let written = self.text.get(first.start_byte()..last.end_byte()).unwrap_or_default();
        let behind = self.text.get(last.end_byte() + 1..node.end_byte()).unwrap_or_default();
        let text = |text: &str| Expr { kind: ExprKind::Text(text.into()), span: self.span(node) };
        ExprKind::Operation {
            operator: "regex".into(),
            operands: vec![text(written), text(behind)],
        }
    }

    /// A choice among patterns: each is asked for in its turn.
    fn case(&self, node: Node<'t>, depth: u32) -> ExprKind {
        let asked = child(node, Field::Value).map(|value| self.expr(value, depth));
        let mut cursor = node.walk();
        let ways: Vec<Node<'t>> = node.named_children(&mut cursor).collect();
        let mut otherwise = ways
            .iter()
            .find(|way| kind(**way) == "else")
            .map(|way| self.done(Some(*way), node, depth));
        for way in ways.iter().rev().filter(|way| kind(**way) == "when") {
            let mut cursor = way.walk();
            let parts: Vec<Node<'t>> = way.named_children(&mut cursor).collect();
            let patterns = parts.into_iter().filter(|part| kind(*part) == "pattern");
            let fits = patterns.filter_map(|pattern| pattern.named_child(0)).map(|pattern| {
                let pattern = self.expr(pattern, depth);
                match &asked {
                    Some(asked) => self.operation("===", vec![pattern, asked.clone()], *way),
                    None => pattern,
                }
            });
            let Some(condition) =
                fits.reduce(|left, right| self.operation("||", vec![left, right], *way))
            else {
                return ExprKind::Opaque;
            };
            let then = self.done(child(*way, Field::Body), *way, depth);
            let operands = [condition, then].into_iter().chain(otherwise).collect();
            otherwise = Some(self.operation("if", operands, *way));
        }
        otherwise.map_or(ExprKind::Opaque, |chosen| chosen.kind)
    }

    /// `a ||= b`.
    fn assigned_anew(&self, node: Node<'t>, depth: u32) -> ExprKind {
        let operator = child(node, Field::Operator).map(|operator| self.slice(operator));
        let word = operator.and_then(|operator| operator.strip_suffix('='));
        let (Some(word), Some(left)) = (word, child(node, Field::Left)) else {
            return ExprKind::Opaque;
        };
        let kind = self.pair_of(word, Field::Left, Field::Right, node, depth);
        let value = Expr { kind, span: self.span(node) };
        let operands = vec![self.expr(left, depth), value];
        ExprKind::Operation { operator: "=".into(), operands }
    }

    fn function(&self, node: Node<'t>, body: Option<Node<'t>>, depth: u32) -> ExprKind {
        // The body of a lambda is a block of its own.
        let inner =
            body.map_or(
                node,
                |body| {
                    if matches!(kind(body), "block" | "do_block") { body } else { node }
                },
            );
        let listed = child(node, Field::Parameters).or_else(|| child(inner, Field::Parameters));
        let parameters = listed.map(|list| {
            let mut cursor = list.walk();
            list.named_children(&mut cursor).map(|name| self.owned(name)).collect()
        });
        let done = self.done(child(inner, Field::Body), inner, depth);
        ExprKind::Function {
            parameters: parameters.unwrap_or_default(),
            returns: Some(Box::new(done)),
        }
    }

    fn call(&self, node: Node<'t>, depth: u32) -> ExprKind {
        let Some(method) = child(node, Field::MethodName) else { return ExprKind::Opaque };
        let callee = match child(node, Field::Receiver).map(|receiver| self.expr(receiver, depth)) {
            None => Expr { kind: ExprKind::Name(self.owned(method)), span: self.span(method) },
            Some(receiver) => self.received(receiver, method),
        };
        let mut call = Call { callee, arguments: Vec::new(), named: Vec::new() };
        if let Some(list) = child(node, Field::Arguments) {
            let mut cursor = list.walk();
            for argument in list.named_children(&mut cursor) {
                match kind(argument) {
                    silent if SILENT.contains(&silent) => {}
                    "pair" => match self.pair(argument, depth) {
                        Some((Expr { kind: ExprKind::Text(name), .. }, value)) => {
                            call.named.push((name, value))
                        }
                        Some(other) => call.arguments.push(Expr {
                            kind: ExprKind::Map(vec![other]),
                            span: self.span(argument),
                        }),
                        None => {}
                    },
                    _ => call.arguments.push(self.expr(argument, depth)),
                }
            }
        }
        if let Some(block) = child(node, Field::Block) {
            let kind = self.function(block, Some(block), depth);
            call.arguments.push(Expr { kind, span: self.span(block) });
        }
        ExprKind::Call(Box::new(call))
    }

    /// The callee of a method of something.
    fn received(&self, receiver: Expr, method: Node<'t>) -> Expr {
        let span = Span { start: receiver.span.start, ..self.span(method) };
        let method = self.slice(method);
        let path = match &receiver.kind {
            ExprKind::Name(name) => Some(name),
            ExprKind::Call(call) if call.arguments.is_empty() && call.named.is_empty() => {
                match &call.callee.kind {
                    ExprKind::Name(name) => Some(name),
                    _ => None,
                }
            }
            _ => None,
        };
        let kind = match path {
            Some(path) => ExprKind::Name(format_smolstr!("{path}.{method}")),
            None => {
                let name = Expr { kind: ExprKind::Name(method.into()), span };
                ExprKind::Operation { operator: ".".into(), operands: vec![receiver, name] }
            }
        };
        Expr { kind, span }
    }

    fn pair(&self, node: Node<'t>, depth: u32) -> Option<(Expr, Expr)> {
        let key = self.expr(child(node, Field::Key)?, depth);
        // `name:` alone is short for `name: name`.
        let value = match child(node, Field::Value) {
            Some(value) => self.expr(value, depth),
            None => Expr { kind: ExprKind::Name(key.text()?.into()), span: key.span },
        };
        Some((key, value))
    }

    fn pairs(&self, node: Node<'t>, depth: u32) -> Vec<(Expr, Expr)> {
        let mut cursor = node.walk();
        node.named_children(&mut cursor)
            .filter_map(|entry| match kind(entry) {
                "pair" => self.pair(entry, depth),
                "hash_splat_argument" => {
                    let null = Expr { kind: ExprKind::Null, span: self.span(entry) };
                    Some((self.expr(entry, depth), null))
                }
                _ => None,
            })
            .collect()
    }

    /// A text: plain, or a template whose operands are its texts and values in order.
    fn string(&self, node: Node<'t>, depth: u32) -> ExprKind {
        let source = self.slice(node);
        let literal = source.starts_with('\'') || source.starts_with("%q");
        let mut parts = Vec::new();
        let mut text = String::new();
        let mut cursor = node.walk();
        for part in node.named_children(&mut cursor) {
            match kind(part) {
                "escape_sequence" => unescape(self.slice(part), literal, &mut text),
                "interpolation" => self.interpolated(part, &mut text, &mut parts, depth),
                _ => text.push_str(self.slice(part)),
            }
        }
        self.text_of(parts, text, node)
    }

    fn interpolated(&self, part: Node<'t>, text: &mut String, parts: &mut Vec<Expr>, depth: u32) {
        let before = ExprKind::Text(std::mem::take(text).into());
        parts.push(Expr { kind: before, span: self.span(part) });
        parts.extend(part.named_child(0).map(|value| self.expr(value, depth)));
    }

    fn text_of(&self, mut parts: Vec<Expr>, text: String, node: Node<'t>) -> ExprKind {
        let text = ExprKind::Text(text.into());
        if parts.is_empty() {
            return text;
        }
        parts.push(Expr { kind: text, span: self.span(node) });
        ExprKind::Operation { operator: "template".into(), operands: parts }
    }

    /// A text below the line; `<<~` takes the indentation that all of its lines have away.
    fn heredoc(&self, node: Node<'t>, depth: u32) -> ExprKind {
        let Some(body) = self.heredocs.get(&node.start_byte()).copied() else {
            return ExprKind::Opaque;
        };
        let mut parts = Vec::new();
        let mut text = String::new();
        let mut cursor = body.walk();
        for part in body.named_children(&mut cursor) {
            match kind(part) {
                "interpolation" => self.interpolated(part, &mut text, &mut parts, depth),
                "escape_sequence" => unescape(self.slice(part), false, &mut text),
                "heredoc_end" => {}
                _ => text.push_str(self.slice(part)),
            }
        }
        // The line of the mark ends where the text begins.
        let first = parts.first_mut().map(|first| &mut first.kind);
        if let Some(ExprKind::Text(before)) = first {
            *before = before.strip_prefix('\n').unwrap_or(before).into();
        } else if text.starts_with('\n') {
            text.remove(0);
        }
        if self.slice(node).starts_with("<<~") && parts.is_empty() {
            text = dedented(&text);
        }
        self.text_of(parts, text, node)
    }
}

/// Texts side by side are one text.
fn joined(parts: Vec<Expr>) -> ExprKind {
    match parts.iter().map(Expr::text).collect::<Option<String>>() {
        Some(text) => ExprKind::Text(text.into()),
        None => ExprKind::Operation { operator: "template".into(), operands: parts },
    }
}

fn dedented(text: &str) -> String {
    let indent = |line: &str| line.len() - line.trim_start_matches([' ', '\t']).len();
    let filled = || text.lines().filter(|line| !line.trim().is_empty());
    let least = filled().map(indent).min().unwrap_or(0);
    text.split_inclusive('\n')
        .map(|line| line.get(least.min(indent(line))..).unwrap_or(""))
        .collect()
}

/// Escapes of texts in double quotes; in single quotes a backslash hides itself and the quote only
/// (language reference, "Literals").
fn unescape(sequence: &str, literal: bool, out: &mut String) {
    let rest = sequence.strip_prefix('\\').unwrap_or(sequence);
    if literal && !matches!(rest, "\\" | "'") {
        out.push_str(sequence);
        return;
    }
    let code = |digits: &str| u32::from_str_radix(digits, 16).ok().and_then(char::from_u32);
    match rest {
        "n" => out.push('\n'),
        "t" => out.push('\t'),
        "r" => out.push('\r'),
        "0" => out.push('\0'),
        "s" => out.push(' '),
        "e" => out.push('\u{1b}'),
        "a" => out.push('\u{7}'),
        "b" => out.push('\u{8}'),
        "\n" => {}
        _ if rest.starts_with(['u', 'x']) => {
            out.extend(code(rest[1..].trim_matches(['{', '}'])));
        }
        _ => out.push_str(rest),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// A value as the tables below write it: names bare, texts in quotes, operations in brackets.
    fn shown(expr: &Expr) -> String {
        let all = |items: &[Expr]| items.iter().map(shown).collect::<Vec<_>>();
        match &expr.kind {
            ExprKind::Text(text) => format!("{text:?}"),
            ExprKind::Number(text) | ExprKind::Name(text) => text.to_string(),
            ExprKind::Boolean(value) => value.to_string(),
            ExprKind::Null => "nil".into(),
            ExprKind::Call(call) => {
                let named =
                    call.named.iter().map(|(name, value)| format!("{name}: {}", shown(value)));
                let inside: Vec<String> = all(&call.arguments).into_iter().chain(named).collect();
                format!("{}({})", shown(&call.callee), inside.join(", "))
            }
            ExprKind::List(items) => format!("[{}]", all(items).join(", ")),
            ExprKind::Map(pairs) => {
                let pair =
                    |(key, value): &(Expr, Expr)| format!("{} => {}", shown(key), shown(value));
                format!("{{{}}}", pairs.iter().map(pair).collect::<Vec<_>>().join(", "))
            }
            ExprKind::Spread(inner) => format!("*{}", shown(inner)),
            ExprKind::Function { parameters, returns } => {
                let done = returns.as_deref().map(shown).unwrap_or_default();
                format!("|{}| {done}", parameters.join(", "))
            }
            ExprKind::Operation { operator, operands } => {
                format!("<{operator} {}>", all(operands).join("; "))
            }
            ExprKind::Opaque => "?".into(),
        }
    }

    fn outline(text: &str) -> Outline {
        (RUBY.lower)(FileId(0), text)
    }

    const VALUES: &[(&str, &str)] = &[
        (
            "add_index :berths, [:quay_id, :number], unique: true",
            "add_index(\"berths\", [\"quay_id\", \"number\"], unique: true)",
        ),
        ("t.string :code, limit: 5, :null => false", "t.string(\"code\", limit: 5, null: false)"),
        ("t.timestamps", "t.timestamps()"),
        ("Rails.env.test?", "Rails.env.test?()"),
        ("Harbour::Berth.table_name", "Harbour::Berth.table_name()"),
        ("x = -> { \"now()\" }", "=x |_|"),
        ("a(%w[north south], %i[a b])", "a([\"north\", \"south\"], [\"a\", \"b\"])"),
        (
            "a 1_000, -2, 1.5, nil, \"a\\n\\u00e9\", 'a\\n'",
            "a(1000, -2, 1.5, nil, \"a\\né\", \"a\\\\n\")",
        ),
        ("a \"b#{c}d\"", "a(<template \"b\"; c; \"d\">)"),
        ("a 'b' 'c'", "a(\"bc\")"),
        (
            "a({ north: 0, \"south\" => 1, **rest })",
            "a({\"north\" => 0, \"south\" => 1, *rest => nil})",
        ),
        ("a(*list)", "a(*list)"),
        (
            "create_table :quays do |t|\n  t.string :name\n  t.timestamps\nend",
            "create_table(\"quays\", |t| <do t.string(\"name\"); t.timestamps()>)",
        ),
        ("a { b }", "a(|| <do b>)"),
        ("a.each { |x, y| b(x) }", "a.each(|x, y| <do b(x)>)"),
        ("[1].each { |x| b(x) }", "<. [1]; each>(|x| <do b(x)>)"),
        ("a unless b?", "<if <! b?()>; <do a>>"),
        ("if a && !b then c else d end", "<if <&& a; <! b>>; <do c>; <do d>>"),
        ("if a\n b\nelsif c\n d\nend", "<if a; <do b>; <do <if c; <do d>>>>"),
        ("a ? b : c", "<if a; <do b>; <do c>>"),
        ("return if a", "<if a; <do <return >>>"),
        (
            "execute(<<~SQL.squish)\n  SELECT 1\n    FROM x\nSQL\n",
            "execute(<. \"SELECT 1\\n  FROM x\\n\"; squish>())",
        ),
        ("a <<-X, <<-Y\none\nX\ntwo\nY\n", "a(\"one\\n\", \"two\\n\")"),
        ("a[:b]", "<[] a; \"b\">"),
        ("while a; b; end", "?"),
        (
            "case a\nwhen 'b', C then d\nelse e\nend",
            "<if <|| <=== \"b\"; a>; <=== C; a>>; <do d>; <do e>>",
        ),
        (
            "a.each { |b| next if b; yield b, 1 }",
            "a.each(|b| <do <if b; <do <next >>>; yield(b, 1)>)",
        ),
        ("a ||= b", "<= a; <|| a; b>>"),
        ("(1..n).map(&:to_s)", "<. <.. 1; n>; map>(<& \"to_s\">)"),
        ("a =~ /\\Ab\\d/i", "<=~ a; <regex \"\\\\Ab\\\\d\"; \"i\">>"),
    ];

    #[test]
    fn values_and_statements() {
        for (text, wanted) in VALUES {
            let outline = outline(text);
            assert!(outline.errors.is_empty(), "{text}");
            if let Some(name) = wanted.strip_prefix('=') {
                let (name, _) = name.split_once(' ').expect("a name and a value");
                assert_eq!(outline.assignments[0].name, name, "{text}");
                continue;
            }
            let found: Vec<String> = outline.calls.iter().map(shown).collect();
            assert_eq!(found, [*wanted], "{text}");
        }
    }

    #[test]
    fn classes_stand_by_their_full_names() {
        let outline = outline(
            "module Harbour\n  LIMIT = 5\n  class Quay < ::Record\n    belongs_to :port\n    \
             class Gate; end\n    def up\n      a\n      b\n    end\n    def self.down = c\n    \
             class << self\n      def d; end\n    end\n  end\nend\n\
             class Harbour::Berth < ActiveRecord::Migration[7.0]\nend\n",
        );
        let names: Vec<&str> = outline.classes.iter().map(|class| class.name.as_str()).collect();
        assert_eq!(names, ["Harbour::Quay::Gate", "Harbour::Quay", "Harbour", "Harbour::Berth"]);
        let quay = &outline.classes[1];
        assert_eq!(quay.bases.iter().map(shown).collect::<Vec<_>>(), ["::Record"]);
        assert_eq!(quay.statements.iter().map(shown).collect::<Vec<_>>(), ["belongs_to(\"port\")"]);
        let methods: Vec<(&str, usize)> = quay
            .methods
            .iter()
            .map(|method| (method.name.as_str(), method.statements.len()))
            .collect();
        assert_eq!(methods, [("up", 2), ("self.down", 1), ("self.d", 0)]);
        assert_eq!(outline.classes[2].members[0].name, "LIMIT");
        assert_eq!(shown(&outline.classes[3].bases[0]), "<[] ActiveRecord::Migration; 7.0>");
    }

    #[test]
    fn what_is_no_ruby_is_named() {
        for text in ["class Quay <", "def", "a(", "create_table :a do |t|\n t.string"] {
            assert!(!outline(text).errors.is_empty(), "{text}");
        }
    }
}
