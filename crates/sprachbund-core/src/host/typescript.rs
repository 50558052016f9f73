//! TypeScript, by the tree-sitter grammar, to the outline.

use smol_str::{SmolStr, format_smolstr};
use tree_sitter::{Node, Tree};

use crate::host::grammar::grammar;
use crate::host::outline::{Assignment, Call, Class, ClassKind, Expr, ExprKind, Function, Import, Member, Method, Outline};
use crate::host::python::collect_errors;
use crate::source::{FileId, Span};

grammar!(
    tree_sitter_typescript::LANGUAGE_TYPESCRIPT,
    Alias = "alias",
    Argument = "argument",
    Arguments = "arguments",
    Body = "body",
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

/// Nesting beyond which an expression is left opaque, so that hostile input cannot exhaust the stack.
const DEEPEST: u32 = 64;

/// Lowers one file, given as one tree or as one for each of its parts.
pub fn lower(trees: &[Tree], file: FileId, text: &str) -> Outline {
    let mut lowering = Lowering { file, text, outline: Outline::default() };
    for root in trees.iter().map(Tree::root_node) {
        lowering.statements(root, 0);
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
                    let own = statement.children(&mut inner).filter(|child| kind(*child) == "decorator");
                    decorators.extend(own.filter_map(|decorator| self.decorator(decorator)).collect::<Vec<_>>());
                    match child(statement, Field::Declaration) {
                        Some(declaration) => self.statement(declaration, std::mem::take(&mut decorators), depth),
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
                self.outline.classes.extend(self.class(node, decorators, false));
            }
            "enum_declaration" => self.outline.classes.extend(self.enumeration(node)),
            "lexical_declaration" | "variable_declaration" => {
                let constant = self.slice(node).starts_with("const");
                let mut cursor = node.walk();
                for declarator in node.named_children(&mut cursor) {
                    let name = child(declarator, Field::Name).filter(|name| kind(*name) == "identifier");
                    if let (Some(name), Some(value)) = (name, child(declarator, Field::Value)) {
                        // What is not constant may be another value by the time it is used.
                        let known = if constant { self.expr(value, 0) } else { Expr { kind: ExprKind::Opaque, span: self.span(value) } };
                        self.outline.assignments.push(Assignment { name: self.owned(name), value: known });
                        child(value, Field::Body).into_iter().for_each(|body| self.classes_within(body, depth));
                    }
                }
            }
            "type_alias_declaration" => {
                if let (Some(name), Some(value)) = (child(node, Field::Name), child(node, Field::Value)) {
                    self.outline.assignments.push(Assignment { name: self.owned(name), value: self.expr(value, 0) });
                }
            }
            "function_declaration" => {
                if let Some(name) = child(node, Field::Name) {
                    let returns = child(node, Field::Body).and_then(|body| self.single_return(body));
                    self.outline.functions.push(Function {
                        name: self.owned(name),
                        returns,
                        statements: Vec::new(),
                        span: self.span(name),
                    });
                    child(node, Field::Body).into_iter().for_each(|body| self.classes_within(body, depth));
                }
            }
            "expression_statement" => {
                if let Some(inner) = node.named_child(0).filter(|inner| kind(*inner) == "call_expression") {
                    let call = self.expr(inner, 0);
                    self.outline.calls.push(call);
                }
                let namespace = node.named_child(0).filter(|inner| kind(*inner) == "internal_module");
                namespace.into_iter().for_each(|namespace| self.statement(namespace, Vec::new(), depth + 1));
            }
            "internal_module" | "module" => child(node, Field::Body).into_iter().for_each(|body| self.statements(body, depth + 1)),
            "if_statement" | "else_clause" | "statement_block" | "ERROR" => self.statements(node, depth + 1),
            _ => {}
        }
    }

    /// Classes that a function makes: they exist for whoever calls it.
    fn classes_within(&mut self, body: Node<'t>, depth: u32) {
        if depth > DEEPEST || !self.slice(body).contains("class ") {
            return;
        }
        let mut decorators = Vec::new();
        let mut cursor = body.walk();
        for statement in body.named_children(&mut cursor) {
            match kind(statement) {
                "decorator" => decorators.extend(self.decorator(statement)),
                "class_declaration" | "abstract_class_declaration" => {
                    self.outline.classes.extend(self.class(statement, std::mem::take(&mut decorators), true));
                }
                "if_statement" | "else_clause" | "statement_block" | "try_statement" => self.classes_within(statement, depth + 1),
                _ => decorators.clear(),
            }
        }
    }

    fn import(&mut self, node: Node<'t>) {
        let span = self.span(node);
        let Some(module) = child(node, Field::Source).map(|source| self.string_text(source)) else { return };
        let mut found = Vec::new();
        let mut cursor = node.walk();
        for clause in node.named_children(&mut cursor).filter(|child| kind(*child) == "import_clause") {
            let mut inner = clause.walk();
            for part in clause.named_children(&mut inner) {
                match kind(part) {
                    "identifier" => found.push((self.owned(part), SmolStr::new_static("default"))),
                    "namespace_import" => {
                        found.extend(part.named_child(0).map(|name| (self.owned(name), SmolStr::default())));
                    }
                    _ => self.specifiers(part, "import_specifier", &mut found),
                }
            }
        }
        self.bind(found, &module, span);
    }

    fn reexport(&mut self, node: Node<'t>) {
        let Some(source) = child(node, Field::Source) else { return };
        let module = self.string_text(source);
        let mut found = Vec::new();
        let mut cursor = node.walk();
        for clause in node.named_children(&mut cursor) {
            self.specifiers(clause, "export_specifier", &mut found);
        }
        if found.is_empty() {
            found.push((SmolStr::new_static("*"), SmolStr::new_static("*")));
        }
        self.bind(found, &module, self.span(node));
    }

    fn specifiers(&self, clause: Node<'t>, wanted: &str, found: &mut Vec<(SmolStr, SmolStr)>) {
        let mut cursor = clause.walk();
        for specifier in clause.named_children(&mut cursor).filter(|child| kind(*child) == wanted) {
            if let Some(name) = child(specifier, Field::Name).map(|name| self.owned(name)) {
                let local = child(specifier, Field::Alias).map(|alias| self.owned(alias));
                found.push((local.unwrap_or_else(|| name.clone()), name));
            }
        }
    }

    fn bind(&mut self, found: Vec<(SmolStr, SmolStr)>, module: &str, span: Span) {
        let import = |(local, name)| Import { local, module: module.into(), name, span };
        self.outline.imports.extend(found.into_iter().map(import));
    }

    fn class(&self, node: Node<'t>, mut decorators: Vec<Expr>, conditional: bool) -> Option<Class> {
        let name = child(node, Field::Name)?;
        let mut cursor = node.walk();
        let own = node.children(&mut cursor).filter(|child| kind(*child) == "decorator");
        decorators.extend(own.filter_map(|decorator| self.decorator(decorator)));
        let mut class = Class {
            name: self.owned(name),
            kind: if kind(node) == "abstract_class_declaration" { ClassKind::Abstract } else { ClassKind::Class },
            bases: self.heritage(node),
            keywords: Vec::new(),
            decorators,
            members: Vec::new(),
            methods: Vec::new(),
            nested: Vec::new(),
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
        for heritage in node.named_children(&mut cursor).filter(|child| kind(*child) == "class_heritage") {
            let mut inner = heritage.walk();
            for clause in heritage.named_children(&mut inner).filter(|child| kind(*child) == "extends_clause") {
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
                    class.members.extend(self.member(part, std::mem::take(&mut pending), comment.take()));
                }
                "method_definition" => {
                    let decorators = std::mem::take(&mut pending);
                    let mut inner = part.walk();
                    let accessor = part.children(&mut inner).any(|child| matches!(kind(child), "get" | "set"));
                    if accessor && !decorators.is_empty() {
                        let member = self.member(part, decorators, comment.take());
                        class.members.extend(member.map(|member| Member { accessor: true, ..member }));
                    } else if let Some(name) = child(part, Field::Name) {
                        let returns = child(part, Field::Body).and_then(|body| self.single_return(body));
                        class.methods.push(Method {
                            name: self.owned(name),
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

    fn member(&self, node: Node<'t>, mut decorators: Vec<Expr>, comment: Option<String>) -> Option<Member> {
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
            annotation: annotation.and_then(|annotation| annotation.named_child(0)).map(|ty| self.expr(ty, 0)),
            optional,
            decorators,
            value: child(node, Field::Value).map(|value| self.expr(value, 0)),
            documentation: comment,
            accessor: false,
            span: self.span(name),
        })
    }

    fn enumeration(&self, node: Node<'t>) -> Option<Class> {
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
                "enum_assignment" => (child(entry, Field::Name), child(entry, Field::Value).map(|value| self.expr(value, 0))),
                "property_identifier" | "string" => {
                    let counted = |next: i64| Expr { kind: ExprKind::Number(format_smolstr!("{next}")), span: self.span(entry) };
                    (Some(entry), next.map(counted))
                }
                _ => continue,
            };
            let written = value.as_ref().map(|value| &value.kind);
            next = written.and_then(|kind| if let ExprKind::Number(text) = kind { text.parse::<i64>().ok()?.checked_add(1) } else { None });
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

    fn property_name(&self, node: Node<'t>) -> SmolStr {
        if kind(node) == "string" { self.string_text(node) } else { self.owned(node) }
    }

    fn decorator(&self, node: Node<'t>) -> Option<Expr> {
        Some(self.expr(node.named_child(0)?, 0))
    }

    fn comment_before(&self, node: Node<'t>) -> Option<String> {
        let holder = node.parent().filter(|parent| kind(*parent) == "export_statement").unwrap_or(node);
        holder.prev_named_sibling().filter(|before| kind(*before) == "comment").and_then(|comment| self.documentation(comment))
    }

    /// The text of a `/** ... */` comment.
    fn documentation(&self, comment: Node<'t>) -> Option<String> {
        let body = self.slice(comment).strip_prefix("/**")?.strip_suffix("*/")?;
        let lines: Vec<&str> = body.lines().map(|line| line.trim().trim_start_matches('*').trim()).collect();
        Some(lines.join("\n").trim().to_owned())
    }

    fn single_return(&self, body: Node<'t>) -> Option<Expr> {
        let mut cursor = body.walk();
        let mut statements = body.named_children(&mut cursor).filter(|child| kind(*child) != "comment");
        let only = statements.next().filter(|statement| kind(*statement) == "return_statement")?;
        if statements.next().is_some() {
            return None;
        }
        Some(self.expr(only.named_child(0)?, 0))
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

    fn inner(&self, node: Node<'t>, depth: u32) -> ExprKind {
        node.named_child(0).map_or(ExprKind::Opaque, |inner| self.expr(inner, depth).kind)
    }

    fn expr_kind(&self, node: Node<'t>, depth: u32) -> ExprKind {
        match kind(node) {
            "identifier" | "type_identifier" | "property_identifier" | "predefined_type" | "this" | "undefined" => match self.slice(node) {
                "null" | "undefined" => ExprKind::Null,
                name => ExprKind::Name(name.into()),
            },
            "member_expression" | "nested_type_identifier" | "nested_identifier" => self.dotted(node, depth),
            "subscript_expression" => ExprKind::Operation { operator: "[]".into(), operands: self.children(node, depth) },
            "true" => ExprKind::Boolean(true),
            "false" => ExprKind::Boolean(false),
            "null" => ExprKind::Null,
            "number" => ExprKind::Number(number(self.slice(node))),
            "string" => ExprKind::Text(self.string_text(node)),
            "template_string" => self.template(node, depth),
            "array" | "tuple_type" => ExprKind::List(self.children(node, depth)),
            "object" => self.object(node, depth),
            "call_expression" => self.call(node, [Field::Function, Field::Arguments], depth),
            "new_expression" => match self.call(node, [Field::Constructor, Field::Arguments], depth) {
                ExprKind::Call(mut call) => {
                    call.callee.kind = ExprKind::Name(format_smolstr!("new {}", call.callee_name()));
                    ExprKind::Call(call)
                }
                other => other,
            },
            "generic_type" => self.call(node, [Field::Name, Field::TypeArguments], depth),
            "parenthesized_expression"
            | "parenthesized_type"
            | "literal_type"
            | "non_null_expression"
            | "as_expression"
            | "satisfies_expression"
            | "type_annotation"
            | "readonly_type" => self.inner(node, depth),
            "spread_element" => ExprKind::Spread(Box::new(Expr { kind: self.inner(node, depth), span: self.span(node) })),
            "arrow_function" => self.arrow(node, depth),
            "union_type" => self.union(node, depth),
            "intersection_type" => ExprKind::Operation { operator: "&".into(), operands: self.children(node, depth) },
            "array_type" => ExprKind::Operation { operator: "[]".into(), operands: self.children(node, depth) },
            "unary_expression" => self.unary(node, depth),
            "binary_expression" => {
                let operator = child(node, Field::Operator).map_or(SmolStr::default(), |operator| self.owned(operator));
                let operands = [Field::Left, Field::Right].iter().filter_map(|field| child(node, *field));
                ExprKind::Operation { operator, operands: operands.map(|operand| self.expr(operand, depth)).collect() }
            }
            _ => ExprKind::Opaque,
        }
    }

    fn dotted(&self, node: Node<'t>, depth: u32) -> ExprKind {
        let mut head = node;
        while matches!(kind(head), "member_expression" | "nested_type_identifier" | "nested_identifier") {
            match head.named_child(0) {
                Some(object) => head = object,
                None => return ExprKind::Opaque,
            }
        }
        match kind(head) {
            "identifier" | "this" => ExprKind::Name(self.slice(node).chars().filter(|letter| !letter.is_whitespace()).collect()),
            // A call on a value, `x().y`: the property is the callee's last name.
            _ => {
                let property = child(node, Field::Property).map_or(SmolStr::default(), |property| self.owned(property));
                let object = node.named_child(0).map(|object| self.expr(object, depth));
                ExprKind::Operation { operator: format_smolstr!(".{property}"), operands: object.into_iter().collect() }
            }
        }
    }

    fn union(&self, node: Node<'t>, depth: u32) -> ExprKind {
        let mut operands = Vec::new();
        for operand in self.children(node, depth) {
            match operand.kind {
                ExprKind::Operation { operator, operands: inner } if operator == "|" => operands.extend(inner),
                _ => operands.push(operand),
            }
        }
        ExprKind::Operation { operator: "|".into(), operands }
    }

    fn unary(&self, node: Node<'t>, depth: u32) -> ExprKind {
        let operator = child(node, Field::Operator).map_or(SmolStr::default(), |operator| self.owned(operator));
        let Some(operand) = child(node, Field::Argument) else { return ExprKind::Opaque };
        match (operator.as_str(), self.expr(operand, depth)) {
            ("-", Expr { kind: ExprKind::Number(number), .. }) => ExprKind::Number(format_smolstr!("-{number}")),
            (_, operand) => ExprKind::Operation { operator, operands: vec![operand] },
        }
    }

    fn call(&self, node: Node<'t>, fields: [Field; 2], depth: u32) -> ExprKind {
        let callee = child(node, fields[0]).or_else(|| node.named_child(0));
        let Some(callee) = callee.map(|callee| self.expr(callee, depth)) else { return ExprKind::Opaque };
        let list = child(node, fields[1]).or_else(|| node.named_child(1));
        let arguments = list.map_or(Vec::new(), |list| self.children(list, depth));
        ExprKind::Call(Box::new(Call { callee, arguments, named: Vec::new() }))
    }

    fn arrow(&self, node: Node<'t>, depth: u32) -> ExprKind {
        let parameters = match (child(node, Field::Parameter), child(node, Field::Parameters)) {
            (Some(single), _) => vec![self.owned(single)],
            (None, Some(list)) => {
                let mut cursor = list.walk();
                list.named_children(&mut cursor)
                    .map(|parameter| child(parameter, Field::Pattern).unwrap_or(parameter))
                    .map(|pattern| self.owned(pattern))
                    .collect()
            }
            (None, None) => Vec::new(),
        };
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
                    let (Some(key), Some(value)) = (child(entry, Field::Key), child(entry, Field::Value)) else {
                        continue;
                    };
                    let name = match kind(key) {
                        "computed_property_name" => self.inner(key, depth),
                        _ => ExprKind::Text(self.property_name(key)),
                    };
                    pairs.push((Expr { kind: name, span: self.span(key) }, self.expr(value, depth)));
                }
                "shorthand_property_identifier" => {
                    let name = self.owned(entry);
                    pairs.push((Expr { kind: ExprKind::Text(name.clone()), span }, Expr { kind: ExprKind::Name(name), span }));
                }
                "spread_element" => pairs.push((self.expr(entry, depth), Expr { kind: ExprKind::Null, span })),
                "method_definition" => {
                    let name = child(entry, Field::Name).map_or(SmolStr::default(), |name| self.property_name(name));
                    pairs.push((Expr { kind: ExprKind::Text(name), span }, Expr { kind: ExprKind::Opaque, span }));
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
        for part in node.named_children(&mut cursor).filter(|part| kind(*part) == "template_substitution") {
            text.push_str(&unescape(self.text.get(at..part.start_byte()).unwrap_or_default()));
            operands.push(Expr { kind: ExprKind::Text(std::mem::take(&mut text).into()), span: self.span(part) });
            operands.push(Expr { kind: self.inner(part, depth), span: self.span(part) });
            at = part.end_byte();
        }
        text.push_str(&unescape(self.text.get(at..node.end_byte().saturating_sub(1)).unwrap_or_default()));
        if operands.is_empty() {
            return ExprKind::Text(text.into());
        }
        operands.push(Expr { kind: ExprKind::Text(text.into()), span: self.span(node) });
        ExprKind::Operation { operator: "template".into(), operands }
    }

    fn string_text(&self, node: Node<'t>) -> SmolStr {
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
