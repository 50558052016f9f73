//! TypeScript, and JavaScript as far as it is TypeScript, by the tree-sitter grammar, to the
//! outline.

pub mod choices;
mod class;
mod expression;
mod import;
pub mod place;
pub mod value;

use smol_str::{SmolStr, format_smolstr};
use tree_sitter::{Node, Tree};

use crate::evaluate::constant;
use crate::grammar::grammar;
use crate::language::{Imports, Language, Layout, LegalNames, file_name};
use crate::outline::{Assignment, Body, Call, Expr, ExprKind, Function, Outline, Returned};
use crate::python::collect_errors;
use crate::quoting::case::Case;
use crate::quoting::identifier;
use crate::recover;
use crate::source::{FileId, Span};

grammar!(
    tree_sitter_typescript::LANGUAGE_TYPESCRIPT,
    Alias = "alias",
    Alternative = "alternative",
    Argument = "argument",
    Arguments = "arguments",
    Body = "body",
    Condition = "condition",
    Consequence = "consequence",
    Constructor = "constructor",
    Declaration = "declaration",
    Function = "function",
    Key = "key",
    Left = "left",
    Name = "name",
    Operator = "operator",
    Parameter = "parameter",
    Parameters = "parameters",
    Pattern = "pattern",
    Property = "property",
    ReturnType = "return_type",
    Right = "right",
    Source = "source",
    Type = "type",
    TypeArguments = "type_arguments",
    Value = "value",
);

/// Nesting beyond which an expression is left opaque, so that hostile input cannot exhaust the
/// stack.
const DEEPEST: u32 = 64;

/// The language, as far as the middle asks of it.
pub const TYPESCRIPT: Language = Language {
    id: "typescript",
    extensions: &["ts", "mts", "cts", "js", "mjs", "cjs"],
    grammar: Some(|| tree_sitter_typescript::LANGUAGE_TYPESCRIPT.into()),
    lower: lower_text,
    imports: Imports::Paths,
    attribute_case: Case::Camel,
    names: LegalNames {
        // Other names of properties are quoted.
        attribute: |name, reserved| match reserved.members.contains(&name) || name.is_empty() {
            true => format!("{name}Value"),
            false => name.to_owned(),
        },
        class: |name, _| identifier(name),
        module: file_name,
        member: str::to_owned,
        keywords: &[],
    },
    layout: Layout { comment: "//", block_comments: true, triple_quotes: false, backslashes: true },
    code_stays: |_, same_framework| same_framework,
    shares_literals: false,
};

/// Parses and lowers a file; one with errors is taken declaration by declaration, so that an error
/// spoils no more than its own.
fn lower_text(file: FileId, text: &str) -> Outline {
    let Some(mut parser) = TYPESCRIPT.parser() else { return Outline::default() };
    let Some(tree) = parser.parse(text, None) else { return Outline::default() };
    match tree.root_node().has_error() {
        true => lower(&recover::trees(&mut parser, text), file, text),
        false => lower(&[tree], file, text),
    }
}

/// Lowers one file, given as one tree or as one for each of its parts.
pub fn lower(trees: &[Tree], file: FileId, text: &str) -> Outline {
    let mut lowering =
        Lowering { file, text, outline: Outline::default(), body: None, when: Vec::new() };
    for root in trees.iter().map(Tree::root_node) {
        lowering.statements(root, 0);
        lowering.outline.statements.extend(super::python::statements(root, file));
        if root.has_error() {
            collect_errors(root, file, &mut lowering.outline.errors);
        }
    }
    lowering.outline
}

struct Lowering<'t> {
    file: FileId,
    text: &'t str,
    outline: Outline,
    /// The function whose statements are being lowered.
    body: Option<usize>,
    /// What must hold for the statements of that function to be reached.
    when: Vec<(Expr, bool)>,
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

    fn statements(&mut self, block: Node<'t>, depth: u32) {
        if depth > DEEPEST {
            return;
        }
        let mut decorators = Vec::new();
        let mut cursor = block.walk();
        for statement in block.named_children(&mut cursor) {
            match kind(statement) {
                "decorator" => decorators.extend(self.decorator(statement)),
                "comment" => {}
                "import_statement" => self.import(statement),
                "export_statement" => {
                    let mut inner = statement.walk();
                    let own =
                        statement.children(&mut inner).filter(|child| kind(*child) == "decorator");
                    decorators.extend(
                        own.filter_map(|decorator| self.decorator(decorator)).collect::<Vec<_>>(),
                    );
                    match child(statement, Field::Declaration) {
                        Some(declaration) => {
                            self.statement(declaration, std::mem::take(&mut decorators), depth)
                        }
                        None => self.reexport(statement),
                    }
                }
                _ => self.statement(statement, std::mem::take(&mut decorators), depth),
            }
        }
    }

    fn statement(&mut self, node: Node<'t>, decorators: Vec<Expr>, depth: u32) {
        match kind(node) {
            "class_declaration" | "abstract_class_declaration" => {
                // A class that a function makes exists for whoever calls it.
                self.outline.classes.extend(self.class(node, decorators, self.body.is_some()));
                self.methods(node, depth);
            }
            "enum_declaration" => self.outline.classes.extend(self.enumeration(node)),
            "ambient_declaration" => {
                let mut cursor = node.walk();
                node.named_children(&mut cursor).for_each(|declared| self.ambient(declared));
            }
            "lexical_declaration" | "variable_declaration" => {
                let constant = self.slice(node).starts_with("const");
                let mut cursor = node.walk();
                for declarator in node.named_children(&mut cursor) {
                    if let (Some(name), Some(value)) =
                        (child(declarator, Field::Name), child(declarator, Field::Value))
                    {
                        self.variable(name, value, constant, depth);
                    }
                }
            }
            "type_alias_declaration" => {
                if let (Some(name), Some(value)) =
                    (child(node, Field::Name), child(node, Field::Value))
                {
                    self.assign(Assignment { name: self.owned(name), value: self.expr(value, 0) });
                }
            }
            "function_declaration" | "generator_function_declaration" => {
                if let Some(name) = child(node, Field::Name) {
                    let returns =
                        child(node, Field::Body).and_then(|body| self.single_return(body));
                    let function = Function {
                        name: self.owned(name),
                        returns,
                        statements: Vec::new(),
                        span: self.span(name),
                    };
                    if self.body.is_none() {
                        self.outline.functions.push(function);
                    }
                    self.function(node, self.owned(name), depth);
                }
            }
            "expression_statement" | "return_statement" => {
                if let Some(inner) = node.named_child(0) {
                    self.done(inner, kind(node) == "return_statement", depth);
                }
            }
            "internal_module" | "module" => child(node, Field::Body)
                .into_iter()
                .for_each(|body| self.statements(body, depth + 1)),
            "if_statement" if self.body.is_some() => self.branches(node, depth),
            "if_statement" | "else_clause" | "statement_block" | "try_statement"
            | "catch_clause" | "finally_clause" | "for_statement" | "for_in_statement"
            | "while_statement" | "ERROR" => self.statements(node, depth + 1),
            _ => {}
        }
    }

    /// What the types of a package declare: of enumerations, and of constants whose type is a
    /// value, the value is known.
    fn ambient(&mut self, node: Node<'t>) {
        match kind(node) {
            "enum_declaration" => self.outline.classes.extend(self.enumeration(node)),
            "lexical_declaration" => {
                let mut cursor = node.walk();
                for declarator in node.named_children(&mut cursor) {
                    let Some(name) = child(declarator, Field::Name) else { continue };
                    let value = child(declarator, Field::Value)
                        .or_else(|| child(declarator, Field::Type))
                        .map(|value| self.expr(value, 0));
                    if let Some(value) = value.filter(|value| constant(value).is_some()) {
                        self.assign(Assignment { name: self.owned(name), value });
                    }
                }
            }
            _ => {}
        }
    }

    /// `if (condition) consequence else alternative`, inside a function.
    fn branches(&mut self, node: Node<'t>, depth: u32) {
        let condition = child(node, Field::Condition).map(|condition| self.expr(condition, 0));
        for (field, holds) in [(Field::Consequence, true), (Field::Alternative, false)] {
            let Some(branch) = child(node, field) else { continue };
            self.when.extend(condition.clone().map(|condition| (condition, holds)));
            match kind(branch) {
                "statement_block" | "else_clause" => self.statements(branch, depth + 1),
                _ => self.statement(branch, Vec::new(), depth + 1),
            }
            self.when.truncate(self.when.len() - usize::from(condition.is_some()));
        }
    }

    /// What an expression does that stands as a statement, or is returned.
    fn done(&mut self, node: Node<'t>, returned: bool, depth: u32) {
        match kind(node) {
            "internal_module" => self.statement(node, Vec::new(), depth + 1),
            "assignment_expression" => {
                let (Some(left), Some(right)) =
                    (child(node, Field::Left), child(node, Field::Right))
                else {
                    return;
                };
                if kind(right) == "class" {
                    return self.class_value(left, right, depth);
                }
                let value = self.expr(right, 0);
                if let Some(path) = self.expr(left, 0).name().map(SmolStr::new) {
                    // A name that stands alone is a variable's, which is known where it is made.
                    if path.contains('.') {
                        self.assign(Assignment { name: path.clone(), value });
                    }
                    self.functions(right, path, depth);
                }
            }
            "sequence_expression" => {
                let mut cursor = node.walk();
                node.named_children(&mut cursor).for_each(|part| self.done(part, false, depth + 1));
            }
            "parenthesized_expression" => node
                .named_child(0)
                .into_iter()
                .for_each(|inner| self.done(inner, returned, depth + 1)),
            "class" => self.class_value(node, node, depth),
            _ => {
                let value = self.expr(node, 0);
                self.called(&value);
                if let Some(body) = self.body.filter(|_| returned) {
                    self.outline.bodies[body]
                        .returns
                        .push(Returned { when: self.when.clone(), value });
                }
                self.functions(node, SmolStr::default(), depth);
            }
        }
    }

    /// `name = class Called extends Base {...}`: the name is another one for the class.
    fn class_value(&mut self, name: Node<'t>, class: Node<'t>, depth: u32) {
        let Some(lowered) = self.class(class, Vec::new(), self.body.is_some()) else { return };
        let value = Expr { kind: ExprKind::Name(lowered.name.clone()), span: lowered.span };
        if kind(name) == "identifier" && self.slice(name) != lowered.name {
            self.assign(Assignment { name: self.owned(name), value });
        }
        self.outline.classes.push(lowered);
        self.methods(class, depth);
    }

    /// Notes a call, and before it those on whose value it is made (`made().then(...)`).
    fn called(&mut self, value: &Expr) {
        let Some(call) = value.call() else { return };
        if let Call {
            callee: Expr { kind: ExprKind::Operation { operator, operands }, .. }, ..
        } = call
            && operator.starts_with('.')
        {
            operands.iter().for_each(|inner| self.called(inner));
        }
        match self.body {
            Some(body) => self.outline.bodies[body].calls.push(value.clone()),
            None => self.outline.calls.push(value.clone()),
        }
    }

    fn assign(&mut self, assignment: Assignment) {
        match self.body {
            Some(body) => self.outline.bodies[body].assignments.push(assignment),
            None => self.outline.assignments.push(assignment),
        }
    }

    fn variable(&mut self, name: Node<'t>, value: Node<'t>, constant: bool, depth: u32) {
        if self.required(name, value) {
            return;
        }
        if kind(name) == "object_pattern" {
            return self.taken_apart(name, value);
        }
        if kind(value) == "class" {
            return self.class_value(name, value, depth);
        }
        // What is not constant may be another value by the time it is used.
        let known = match constant || self.is_given_once(self.slice(name)) {
            true => self.expr(value, 0),
            false => Expr { kind: ExprKind::Opaque, span: self.span(value) },
        };
        self.assign(Assignment { name: self.owned(name), value: known });
        self.functions(value, self.owned(name), depth);
    }

    /// `const { a, b } = whole`: names of its parts.
    fn taken_apart(&mut self, pattern: Node<'t>, value: Node<'t>) {
        let whole = self.expr(value, 0);
        let Some(path) = whole.name() else { return };
        for (local, name) in self.parts(pattern) {
            let part =
                Expr { kind: ExprKind::Name(format_smolstr!("{path}.{name}")), span: whole.span };
            self.assign(Assignment { name: local, value: part });
        }
    }

    /// Whether a variable gets no other value after its first.
    fn is_given_once(&self, name: &str) -> bool {
        let word = |letter: char| letter.is_alphanumeric() || matches!(letter, '_' | '$' | '.');
        let gives = |after: &str| {
            let assigns =
                after.starts_with('=') && !after.starts_with("==") && !after.starts_with("=>");
            assigns
                || ["+=", "-=", "*=", "/=", "||=", "&&=", "??=", "++", "--"]
                    .iter()
                    .any(|sign| after.starts_with(sign))
        };
        let given = self.text.match_indices(name).filter(|(at, _)| {
            let before = &self.text[..*at];
            !before.ends_with(word)
                && (gives(self.text[at + name.len()..].trim_start())
                    || before.ends_with("++")
                    || before.ends_with("--"))
        });
        given.take(2).count() < 2
    }

    /// The methods of a class.
    fn methods(&mut self, class: Node<'t>, depth: u32) {
        let (Some(name), Some(body)) = (child(class, Field::Name), child(class, Field::Body))
        else {
            return;
        };
        let mut cursor = body.walk();
        for part in body.named_children(&mut cursor) {
            match (kind(part), child(part, Field::Name)) {
                ("method_definition", Some(method)) => {
                    let called = format_smolstr!("{}.{}", self.slice(name), self.slice(method));
                    self.function(part, called, depth + 1);
                }
                ("class_static_block", _) => self.function(part, self.owned(name), depth + 1),
                _ => {}
            }
        }
    }

    /// The functions in an expression, called after what they are given to.
    fn functions(&mut self, node: Node<'t>, name: SmolStr, depth: u32) {
        let text = self.slice(node);
        if depth > DEEPEST
            || !["=>", "function", ") {", "){"].iter().any(|sign| text.contains(sign))
        {
            return;
        }
        if matches!(
            kind(node),
            "arrow_function" | "function_expression" | "generator_function" | "method_definition"
        ) {
            return self.function(node, name, depth);
        }
        let mut cursor = node.walk();
        for part in node.named_children(&mut cursor) {
            let key = match kind(part) {
                "pair" => child(part, Field::Key),
                "method_definition" => child(part, Field::Name),
                _ => None,
            };
            let called = key.map(|key| format_smolstr!("{name}.{}", self.property_name(key)));
            self.functions(part, called.unwrap_or_else(|| name.clone()), depth + 1);
        }
    }

    /// A function's own statements.
    fn function(&mut self, node: Node<'t>, name: SmolStr, depth: u32) {
        let Some(block) = child(node, Field::Body).filter(|_| depth <= DEEPEST) else { return };
        let class = if kind(node) == "method_definition" {
            name.split_once('.').map(|(class, _)| class.into())
        } else {
            None
        };
        let parameters = self.parameters(node);
        let (assignments, calls) = (Vec::new(), Vec::new());
        let body = Body {
            name,
            class,
            parameters,
            outer: self.body,
            assignments,
            calls,
            returns: Vec::new(),
            span: self.span(node),
        };
        let outer = self.body.replace(self.outline.bodies.len());
        let when = std::mem::take(&mut self.when);
        self.outline.bodies.push(body);
        match kind(block) {
            "statement_block" => self.statements(block, depth + 1),
            _ => self.done(block, true, depth + 1),
        }
        (self.body, self.when) = (outer, when);
    }
}
