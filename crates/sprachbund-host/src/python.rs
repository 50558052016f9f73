//! Python, by the tree-sitter grammar, to the outline.

use smol_str::{SmolStr, format_smolstr};
use tree_sitter::{Node, Tree};

use crate::grammar::grammar;
use crate::language::{Imports, Language, Layout, LegalNames, Reserved, letter_first};
use crate::outline::{
    Assignment, Call, Class, ClassKind, Expr, ExprKind, Function, Import, Member, Method, Outline,
};
use crate::quoting::case::Case;
use crate::quoting::identifier;
use crate::quoting::python::KEYWORDS;
use crate::source::{FileId, Span};

grammar!(
    tree_sitter_python::LANGUAGE,
    Alias = "alias",
    Argument = "argument",
    Arguments = "arguments",
    Attribute = "attribute",
    Body = "body",
    Definition = "definition",
    Expression = "expression",
    Function = "function",
    Key = "key",
    Left = "left",
    ModuleName = "module_name",
    Name = "name",
    Object = "object",
    Operator = "operator",
    Parameters = "parameters",
    Right = "right",
    Superclasses = "superclasses",
    Type = "type",
    Value = "value",
);

/// Nesting beyond which an expression is left opaque, so that hostile input cannot exhaust the
/// stack.
const DEEPEST: u32 = 64;

/// The language, as far as the middle asks of it.
pub const PYTHON: Language = Language {
    id: "python",
    extensions: &["py"],
    grammar: Some(|| tree_sitter_python::LANGUAGE.into()),
    lower: |file, text| {
        PYTHON.parse(text).map_or_else(Outline::default, |tree| lower(&tree, file, text))
    },
    imports: Imports::Modules,
    attribute_case: Case::Snake,
    names: LegalNames {
        attribute: attribute_name,
        class: class_name,
        module: |module| Case::Snake.apply(&identifier(module)),
        member: member_name,
        keywords: KEYWORDS,
    },
    layout: Layout { comment: "#", block_comments: false, triple_quotes: true, backslashes: true },
    code_stays,
    shares_literals: true,
};

/// A legal name that no member of the framework's base class has.
fn attribute_name(name: &str, reserved: &Reserved) -> String {
    let mut out = identifier(name);
    if reserved.single_underscores {
        while out.contains("__") {
            out = out.replace("__", "_");
        }
        let trimmed = out.trim_end_matches('_');
        out = if trimmed.is_empty() { "value".to_owned() } else { trimmed.to_owned() };
    }
    // What is put in for a letter may end in an underscore itself, and a name of letters alone may
    // become a keyword.
    let taken = KEYWORDS.contains(&out.as_str()) || reserved.members.contains(&out.as_str());
    // A class hides its members that begin with two underscores.
    let hidden = out.starts_with("__");
    if taken || hidden {
        identifier(&format!("{}_value", out.trim_start_matches('_')))
    } else {
        out
    }
}

/// A class may be mapped to a table of any name, but its own must not begin with an underscore
/// where the framework makes names of it.
fn class_name(name: &str, reserved: &Reserved) -> String {
    let plain = identifier(name);
    if !reserved.single_underscores {
        return plain;
    }
    plain.trim_matches('_').split('_').filter(|part| !part.is_empty()).collect::<Vec<_>>().join("_")
}

/// Names that a class of an enumeration has itself: the order of its ancestors (`type.mro`), and
/// what enumerations of the language and of frameworks have (`Enum` of Python 3.11 and what extends
/// it).
const OF_ENUMERATIONS: &[&str] =
    &["mro", "name", "value", "names", "values", "labels", "choices", "label"];

fn member_name(name: &str) -> String {
    let plain = identifier(name);
    if KEYWORDS.contains(&plain.as_str())
        || OF_ENUMERATIONS.contains(&plain.as_str())
        || plain.starts_with('_')
    {
        letter_first(&format!("{}_value", plain.trim_matches('_')), "value")
    } else {
        plain
    }
}

/// At home what can be imported, elsewhere only what the standard library has: other code may need
/// the framework that it was written for.
fn code_stays(code: &str, same_framework: bool) -> bool {
    let path = code.contains('.')
        && code.chars().all(|letter| letter.is_alphanumeric() || matches!(letter, '.' | '_'));
    let standard =
        code.split('.').next().is_some_and(|package| STANDARD_PACKAGES.contains(&package));
    path && (same_framework || standard)
}

/// Packages of the standard library whose functions give values.
const STANDARD_PACKAGES: &[&str] =
    &["datetime", "os", "random", "secrets", "socket", "time", "uuid"];

/// Lowers one file.
pub fn lower(tree: &Tree, file: FileId, text: &str) -> Outline {
    let mut lowering = Lowering { file, text, outline: Outline::default() };
    lowering.block(tree.root_node(), false, 0);
    lowering.outline.statements = statements(tree.root_node(), file);
    if tree.root_node().has_error() {
        collect_errors(tree.root_node(), file, &mut lowering.outline.errors);
    }
    lowering.outline
}

/// Spans of the statements at the top of a tree.
pub(super) fn statements(root: Node<'_>, file: FileId) -> Vec<Span> {
    let mut cursor = root.walk();
    let span = |node: Node<'_>| Span {
        file,
        start: node.start_byte() as u32,
        end: node.end_byte() as u32,
    };
    root.named_children(&mut cursor).map(span).collect()
}

/// Spans of error and missing nodes, outermost first.
pub(super) fn collect_errors(root: Node<'_>, file: FileId, errors: &mut Vec<Span>) {
    let mut pending = vec![root];
    while let Some(node) = pending.pop() {
        if node.is_error() || node.is_missing() {
            errors.push(Span {
                file,
                start: node.start_byte() as u32,
                end: node.end_byte() as u32,
            });
        } else if node.has_error() {
            let mut cursor = node.walk();
            pending.extend(
                node.children(&mut cursor).filter(|child| child.has_error() || child.is_missing()),
            );
        }
    }
    errors.sort_by_key(|span| span.start);
}

struct Lowering<'t> {
    file: FileId,
    text: &'t str,
    outline: Outline,
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

    /// Statements of the module, and those inside its conditions.
    fn block(&mut self, block: Node<'t>, conditional: bool, depth: u32) {
        if depth > DEEPEST {
            return;
        }
        let mut cursor = block.walk();
        for statement in block.named_children(&mut cursor) {
            match kind(statement) {
                "import_statement" | "import_from_statement" => self.import(statement),
                "class_definition" | "decorated_definition" => {
                    if let Some(class) = self.class(statement, conditional, depth) {
                        self.outline.classes.push(class);
                    } else if let Some(function) = self.function(statement) {
                        self.outline.functions.push(function);
                        self.classes_within(statement, depth);
                    }
                }
                "function_definition" => {
                    self.outline.functions.extend(self.function(statement));
                    self.classes_within(statement, depth);
                }
                "expression_statement" => self.top_expression(statement),
                "if_statement" | "try_statement" | "with_statement" | "else_clause"
                | "elif_clause" | "except_clause" | "finally_clause" | "block" | "ERROR" => {
                    self.block(statement, conditional || kind(statement) != "ERROR", depth + 1)
                }
                _ => {}
            }
        }
    }

    /// Classes that a function makes: they exist for whoever calls it.
    fn classes_within(&mut self, function: Node<'t>, depth: u32) {
        if depth > DEEPEST || !self.slice(function).contains("class ") {
            return;
        }
        let mut cursor = function.walk();
        for statement in function.named_children(&mut cursor) {
            match self.class(statement, true, depth) {
                Some(class) => self.outline.classes.push(class),
                None => self.classes_within(statement, depth + 1),
            }
        }
    }

    fn import(&mut self, node: Node<'t>) {
        let span = self.span(node);
        let module = child(node, Field::ModuleName).map(|name| self.owned(name));
        let mut cursor = node.walk();
        for name in node.children_by_field_name("name", &mut cursor) {
            let (path, alias) = match kind(name) {
                "aliased_import" => (
                    child(name, Field::Name).map_or(SmolStr::default(), |path| self.owned(path)),
                    child(name, Field::Alias).map(|alias| self.owned(alias)),
                ),
                _ => (self.owned(name), None),
            };
            let import = match &module {
                Some(module) => Import {
                    local: alias.unwrap_or_else(|| path.clone()),
                    module: module.clone(),
                    name: path,
                    span,
                },
                None => {
                    let (local, module) = match alias {
                        Some(alias) => (alias, path),
                        None => {
                            let head: SmolStr = path.split('.').next().unwrap_or_default().into();
                            (head.clone(), head)
                        }
                    };
                    Import { local, module, name: SmolStr::default(), span }
                }
            };
            self.outline.imports.push(import);
        }
        let mut cursor = node.walk();
        let star = node.named_children(&mut cursor).any(|child| kind(child) == "wildcard_import");
        if let (true, Some(module)) = (star, module) {
            self.outline.imports.push(Import { local: "*".into(), module, name: "*".into(), span });
        }
    }

    fn top_expression(&mut self, statement: Node<'t>) {
        let Some(inner) = statement.named_child(0) else { return };
        match kind(inner) {
            "assignment" => {
                let name = child(inner, Field::Left)
                    .filter(|left| matches!(kind(*left), "identifier" | "attribute"));
                if let (Some(name), Some(value)) = (name, child(inner, Field::Right)) {
                    self.outline
                        .assignments
                        .push(Assignment { name: self.owned(name), value: self.expr(value, 0) });
                }
            }
            "call" => {
                let call = self.expr(inner, 0);
                self.outline.calls.push(call);
            }
            _ => {}
        }
    }

    fn class(&mut self, node: Node<'t>, conditional: bool, depth: u32) -> Option<Class> {
        if depth > DEEPEST {
            return None;
        }
        let (node, decorators) = self.undecorated(node)?;
        if kind(node) != "class_definition" {
            return None;
        }
        let name = child(node, Field::Name)?;
        let mut class = Class {
            name: self.owned(name),
            kind: ClassKind::Class,
            bases: Vec::new(),
            keywords: Vec::new(),
            decorators,
            members: Vec::new(),
            methods: Vec::new(),
            nested: Vec::new(),
            statements: Vec::new(),
            documentation: None,
            span: self.span(name),
            conditional,
        };
        if let Some(list) = child(node, Field::Superclasses) {
            let mut cursor = list.walk();
            for base in list.named_children(&mut cursor) {
                match kind(base) {
                    "keyword_argument" => class.keywords.extend(self.keyword(base, 0)),
                    _ => class.bases.push(self.expr(base, 0)),
                }
            }
        }
        if let Some(body) = child(node, Field::Body) {
            self.class_body(body, &mut class, depth);
        }
        class.tighten();
        Some(class)
    }

    fn class_body(&mut self, body: Node<'t>, class: &mut Class, depth: u32) {
        if depth > DEEPEST {
            return;
        }
        let mut cursor = body.walk();
        for statement in body.named_children(&mut cursor) {
            match kind(statement) {
                "expression_statement" => self.class_expression(statement, class),
                "class_definition" => {
                    class.nested.extend(self.class(statement, class.conditional, depth + 1))
                }
                "function_definition" => class.methods.extend(self.method(statement)),
                "decorated_definition" => match self.class(statement, class.conditional, depth + 1)
                {
                    Some(nested) => class.nested.push(nested),
                    None => class.methods.extend(self.method(statement)),
                },
                "if_statement" | "else_clause" | "elif_clause" | "try_statement"
                | "except_clause" | "block" | "ERROR" => {
                    self.class_body(statement, class, depth + 1);
                }
                _ => {}
            }
        }
    }

    fn class_expression(&mut self, statement: Node<'t>, class: &mut Class) {
        let Some(inner) = statement.named_child(0) else { return };
        match kind(inner) {
            "string" if class.documentation.is_none() && class.members.is_empty() => {
                if let ExprKind::Text(text) = self.expr(inner, 0).kind {
                    class.documentation = Some(text.trim().to_owned());
                }
            }
            "assignment" => {
                let Some(name) =
                    child(inner, Field::Left).filter(|left| kind(*left) == "identifier")
                else {
                    return;
                };
                class.members.push(Member {
                    name: self.owned(name),
                    annotation: child(inner, Field::Type).map(|ty| self.expr(ty, 0)),
                    optional: false,
                    decorators: Vec::new(),
                    value: child(inner, Field::Right).map(|value| self.expr(value, 0)),
                    documentation: None,
                    accessor: false,
                    span: self.span(name),
                });
            }
            _ => {}
        }
    }

    fn undecorated(&self, node: Node<'t>) -> Option<(Node<'t>, Vec<Expr>)> {
        if kind(node) != "decorated_definition" {
            return Some((node, Vec::new()));
        }
        let mut cursor = node.walk();
        let decorators = node
            .named_children(&mut cursor)
            .filter(|child| kind(*child) == "decorator")
            .filter_map(|decorator| Some(self.expr(decorator.named_child(0)?, 0)))
            .collect();
        Some((child(node, Field::Definition)?, decorators))
    }

    fn function(&self, node: Node<'t>) -> Option<Function> {
        let (node, _) = self.undecorated(node)?;
        let name = child(node, Field::Name).filter(|_| kind(node) == "function_definition")?;
        let body = child(node, Field::Body);
        let returns = body.and_then(|body| self.single_return(body));
        let plain = node
            .child_by_field_name("parameters")
            .is_some_and(|parameters| parameters.named_child_count() == 0);
        let statements = body
            .filter(|_| plain && returns.is_none())
            .map(|body| self.statements(body, 0))
            .unwrap_or_default();
        Some(Function { name: self.owned(name), returns, statements, span: self.span(name) })
    }

    fn statements(&self, body: Node<'t>, depth: u32) -> Vec<Expr> {
        let mut cursor = body.walk();
        body.named_children(&mut cursor)
            .filter_map(|statement| self.statement(statement, depth))
            .collect()
    }

    /// A statement of a function; nothing for one that does nothing.
    fn statement(&self, statement: Node<'t>, depth: u32) -> Option<Expr> {
        let read = match kind(statement) {
            "comment" | "pass_statement" => return None,
            "expression_statement" => statement.named_child(0).map(|inner| self.expr(inner, depth)),
            "with_statement" if depth < DEEPEST => self.with(statement, depth + 1),
            _ => None,
        };
        Some(read.unwrap_or_else(|| Expr { kind: ExprKind::Opaque, span: self.span(statement) }))
    }

    /// `with opened as name: ...`.
    fn with(&self, statement: Node<'t>, depth: u32) -> Option<Expr> {
        let item = statement.named_child(0)?.named_child(0)?;
        let pattern = item.child_by_field_name("value").unwrap_or(item);
        let opened = pattern.named_child(0).filter(|_| kind(pattern) == "as_pattern")?;
        let alias = pattern.child_by_field_name("alias")?;
        let inside = self.statements(child(statement, Field::Body)?, depth);
        let name = Expr { kind: ExprKind::Name(self.owned(alias)), span: self.span(alias) };
        let list = Expr { kind: ExprKind::List(inside), span: self.span(statement) };
        let operands = vec![self.expr(opened, depth), name, list];
        Some(Expr {
            kind: ExprKind::Operation { operator: "with".into(), operands },
            span: self.span(statement),
        })
    }

    fn method(&self, node: Node<'t>) -> Option<Method> {
        let (node, decorators) = self.undecorated(node)?;
        let name = child(node, Field::Name)?;
        let text = self.owned(name);
        let body = child(node, Field::Body);
        let constructor = text == "__init__";
        let mut statements = Vec::new();
        if let Some(body) = body.filter(|_| constructor) {
            let mut cursor = body.walk();
            for statement in
                body.named_children(&mut cursor).filter_map(|statement| statement.named_child(0))
            {
                statements.push(self.expr(statement, 0));
            }
        }
        let returns = body.and_then(|body| self.single_return(body));
        Some(Method {
            name: text,
            parameters: Vec::new(),
            decorators,
            returns,
            statements,
            span: self.span(name),
        })
    }

    /// The value of a body that, beside a documentation text, only returns.
    fn single_return(&self, body: Node<'t>) -> Option<Expr> {
        let mut cursor = body.walk();
        let mut returned = None;
        for statement in body.named_children(&mut cursor) {
            match kind(statement) {
                "return_statement" if returned.is_none() => {
                    returned = Some(self.expr(statement.named_child(0)?, 0))
                }
                "expression_statement"
                    if statement.named_child(0).is_some_and(|inner| kind(inner) == "string") => {}
                "comment" => {}
                _ => return None,
            }
        }
        returned
    }

    fn expr(&self, node: Node<'t>, depth: u32) -> Expr {
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

    fn expr_kind(&self, node: Node<'t>, depth: u32) -> ExprKind {
        match kind(node) {
            "identifier" => ExprKind::Name(self.owned(node)),
            "attribute" => self.attribute(node, depth),
            "true" => ExprKind::Boolean(true),
            "false" => ExprKind::Boolean(false),
            "none" => ExprKind::Null,
            "integer" | "float" => ExprKind::Number(number(self.slice(node))),
            "string" => self.string(node, depth),
            "concatenated_string" => self.concatenated(node, depth),
            "call" => self.call(node, depth),
            "list" | "tuple" | "set" | "expression_list" => {
                ExprKind::List(self.children(node, depth))
            }
            "dictionary" => self.dictionary(node, depth),
            "parenthesized_expression" | "type" | "await" => {
                node.named_child(0).map_or(ExprKind::Opaque, |inner| self.expr(inner, depth).kind)
            }
            "list_splat" | "dictionary_splat" => {
                node.named_child(0).map_or(ExprKind::Opaque, |inner| {
                    ExprKind::Spread(Box::new(self.expr(inner, depth)))
                })
            }
            "lambda" => ExprKind::Function {
                parameters: child(node, Field::Parameters).map_or(Vec::new(), |list| {
                    self.slice(list).split(',').map(|name| name.trim().into()).collect()
                }),
                returns: child(node, Field::Body).map(|body| Box::new(self.expr(body, depth))),
            },
            "binary_operator" | "boolean_operator" => self.binary(node, depth),
            "comparison_operator" => self.comparison(node, depth),
            "unary_operator" => self.unary(node, self.operator(node), depth),
            "not_operator" => self.unary(node, "not".into(), depth),
            "assignment" => self.operation(node, "=", [Field::Left, Field::Right], depth),
            "subscript" => self.subscript(node, depth),
            "generic_type" => self.generic(node, depth),
            "union_type" => {
                ExprKind::Operation { operator: "|".into(), operands: self.children(node, depth) }
            }
            "member_type" => ExprKind::Name(self.slice(node).split_whitespace().collect()),
            _ => ExprKind::Opaque,
        }
    }

    /// `a[b]`, `a[b, c]`.
    fn subscript(&self, node: Node<'t>, depth: u32) -> ExprKind {
        let mut cursor = node.walk();
        let keys: Vec<Expr> = node
            .children_by_field_name("subscript", &mut cursor)
            .map(|key| self.expr(key, depth))
            .collect();
        let value = child(node, Field::Value).map(|value| self.expr(value, depth));
        ExprKind::Operation {
            operator: "[]".into(),
            operands: value.into_iter().chain(keys).collect(),
        }
    }

    /// The same among types.
    fn generic(&self, node: Node<'t>, depth: u32) -> ExprKind {
        let mut operands = Vec::new();
        let mut cursor = node.walk();
        for part in node.named_children(&mut cursor) {
            match kind(part) {
                "type_parameter" => operands.extend(self.children(part, depth)),
                _ => operands.push(self.expr(part, depth)),
            }
        }
        ExprKind::Operation { operator: "[]".into(), operands }
    }

    fn operator(&self, node: Node<'t>) -> SmolStr {
        child(node, Field::Operator).map_or(SmolStr::default(), |operator| self.owned(operator))
    }

    fn unary(&self, node: Node<'t>, operator: SmolStr, depth: u32) -> ExprKind {
        let Some(operand) = child(node, Field::Argument) else { return ExprKind::Opaque };
        match (operator.as_str(), self.expr(operand, depth)) {
            ("-", Expr { kind: ExprKind::Number(number), .. }) => {
                ExprKind::Number(format_smolstr!("-{number}"))
            }
            (_, operand) => ExprKind::Operation { operator, operands: vec![operand] },
        }
    }

    fn binary(&self, node: Node<'t>, depth: u32) -> ExprKind {
        let operator = self.operator(node);
        self.operation(node, &operator, [Field::Left, Field::Right], depth)
    }

    fn operation(
        &self,
        node: Node<'t>,
        operator: &str,
        fields: [Field; 2],
        depth: u32,
    ) -> ExprKind {
        let operands = fields.iter().filter_map(|field| child(node, *field));
        ExprKind::Operation {
            operator: operator.into(),
            operands: operands.map(|operand| self.expr(operand, depth)).collect(),
        }
    }

    fn attribute(&self, node: Node<'t>, depth: u32) -> ExprKind {
        let mut head = node;
        while kind(head) == "attribute" {
            match child(head, Field::Object) {
                Some(object) => head = object,
                None => return ExprKind::Opaque,
            }
        }
        if kind(head) == "identifier" {
            let text = self.slice(node);
            let plain = !text.contains(char::is_whitespace);
            return ExprKind::Name(if plain {
                text.into()
            } else {
                text.split_whitespace().collect()
            });
        }
        // A name on a value, `f().name`.
        let property = child(node, Field::Attribute).map_or("", |name| self.slice(name));
        let object = child(node, Field::Object).map(|object| self.expr(object, depth));
        ExprKind::Operation {
            operator: format_smolstr!(".{property}"),
            operands: object.into_iter().collect(),
        }
    }

    fn call(&self, node: Node<'t>, depth: u32) -> ExprKind {
        let Some(callee) = child(node, Field::Function) else { return ExprKind::Opaque };
        let mut call =
            Call { callee: self.expr(callee, depth), arguments: Vec::new(), named: Vec::new() };
        let Some(list) = child(node, Field::Arguments) else { return ExprKind::Opaque };
        call.named.reserve_exact(list.named_child_count());
        let mut cursor = list.walk();
        for argument in list.named_children(&mut cursor) {
            match kind(argument) {
                "comment" => {}
                "keyword_argument" => call.named.extend(self.keyword(argument, depth)),
                _ => call.arguments.push(self.expr(argument, depth)),
            }
        }
        ExprKind::Call(Box::new(call))
    }

    fn keyword(&self, argument: Node<'t>, depth: u32) -> Option<(SmolStr, Expr)> {
        let name = child(argument, Field::Name).map(|name| self.owned(name));
        let value = child(argument, Field::Value).map(|value| self.expr(value, depth));
        name.zip(value)
    }

    /// A comparison of two values; of more, only their text is known.
    fn comparison(&self, node: Node<'t>, depth: u32) -> ExprKind {
        let [left, right] = [0, 1].map(|at| node.named_child(at));
        let (Some(left), Some(right), 2) = (left, right, node.named_child_count()) else {
            return ExprKind::Opaque;
        };
        let between = self.text.get(left.end_byte()..right.start_byte()).unwrap_or_default();
        let operator: Vec<&str> = between.split_whitespace().collect();
        ExprKind::Operation {
            operator: operator.join(" ").into(),
            operands: vec![self.expr(left, depth), self.expr(right, depth)],
        }
    }

    fn dictionary(&self, node: Node<'t>, depth: u32) -> ExprKind {
        let mut pairs = Vec::new();
        let mut cursor = node.walk();
        for entry in node.named_children(&mut cursor) {
            let null = Expr { kind: ExprKind::Null, span: self.span(entry) };
            match kind(entry) {
                "pair" => {
                    let key = child(entry, Field::Key).map(|key| self.expr(key, depth));
                    let value = child(entry, Field::Value).map(|value| self.expr(value, depth));
                    pairs.extend(key.zip(value));
                }
                "dictionary_splat" => pairs.push((self.expr(entry, depth), null)),
                _ => {}
            }
        }
        ExprKind::Map(pairs)
    }

    /// A string: plain, or a template whose operands are its texts and values in order.
    fn string(&self, node: Node<'t>, depth: u32) -> ExprKind {
        let mut cursor = node.walk();
        let mut parts: Vec<Expr> = Vec::new();
        let mut text = String::new();
        let (mut raw, mut bytes) = (false, false);
        for part in node.named_children(&mut cursor) {
            match kind(part) {
                "string_start" => {
                    let prefix = self.slice(part).to_lowercase();
                    (raw, bytes) = (prefix.contains('r'), prefix.contains('b'));
                }
                "string_content" if raw => text.push_str(self.slice(part)),
                "string_content" => self.unescape(part, &mut text),
                "interpolation" => {
                    let before = Expr {
                        kind: ExprKind::Text(std::mem::take(&mut text).into()),
                        span: self.span(part),
                    };
                    parts.push(before);
                    parts.extend(
                        child(part, Field::Expression).map(|value| self.expr(value, depth)),
                    );
                }
                _ => {}
            }
        }
        match (parts.is_empty(), bytes) {
            (true, true) => {
                let content = Expr { kind: ExprKind::Text(text.into()), span: self.span(node) };
                ExprKind::Operation { operator: "bytes".into(), operands: vec![content] }
            }
            (true, false) => ExprKind::Text(text.into()),
            (false, _) => {
                parts.push(Expr { kind: ExprKind::Text(text.into()), span: self.span(node) });
                ExprKind::Operation { operator: "template".into(), operands: parts }
            }
        }
    }

    fn concatenated(&self, node: Node<'t>, depth: u32) -> ExprKind {
        let parts = self.children(node, depth);
        match parts.iter().map(Expr::text).collect::<Option<String>>() {
            Some(text) => ExprKind::Text(text.into()),
            None => ExprKind::Operation { operator: "template".into(), operands: parts },
        }
    }

    /// Escapes of Python's string literals (language reference, lexical analysis).
    fn unescape(&self, content: Node<'t>, out: &mut String) {
        let source = self.slice(content);
        if !source.contains('\\') {
            out.push_str(source);
            return;
        }
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
                Some('0') => out.push('\0'),
                Some('a') => out.push('\u{7}'),
                Some('b') => out.push('\u{8}'),
                Some('f') => out.push('\u{c}'),
                Some('v') => out.push('\u{b}'),
                Some('\n') | None => {}
                Some(marker @ ('x' | 'u' | 'U')) => {
                    let digits = match marker {
                        'x' => 2,
                        'u' => 4,
                        _ => 8,
                    };
                    let code: String = rest.by_ref().take(digits).collect();
                    out.extend(u32::from_str_radix(&code, 16).ok().and_then(char::from_u32));
                }
                Some(same @ ('\\' | '\'' | '"')) => out.push(same),
                Some(other) => out.extend(['\\', other]),
            }
        }
    }
}

/// A number without its separators.
fn number(text: &str) -> SmolStr {
    if text.contains('_') { text.replace('_', "").into() } else { text.into() }
}

/// The application's folder: the one that holds `models.py` or the package `models`.
pub fn package(path: &str) -> &str {
    let folder = path.rsplit_once('/').map_or("", |(folder, _)| folder);
    let mut at = folder;
    while !at.is_empty() {
        let (parent, name) = at.rsplit_once('/').unwrap_or(("", at));
        if name == "models" {
            return parent;
        }
        at = parent;
    }
    folder
}
