//! Prisma's schema language, lowered by a parser of its own: the language is small, and no grammar
//! of it is kept well.
//!
//! A block is a class whose one base is its keyword (`model`, `view`, `enum`, `type`, `datasource`,
//! `generator`); a field is a member, `@...` a decorator of it, `@@...` a decorator of the class,
//! `key = value` a member with a value.

use smol_str::SmolStr;

use super::literal::identifier;
use crate::host::Language;
use crate::host::language::{Imports, Layout, LegalNames, file_name, letter_first};
use crate::host::outline::{Call, Class, ClassKind, Expr, ExprKind, Member, Outline};
use crate::quoting::case::Case;
use crate::source::{FileId, Span};

/// Nested parentheses and brackets that are followed.
const DEEPEST: u32 = 48;

/// The language, as far as the middle asks of it.
pub(super) const PRISMA: Language = Language {
    id: "prisma",
    extensions: &["prisma"],
    grammar: None,
    lower,
    imports: Imports::Nothing,
    attribute_case: Case::Camel,
    names: LegalNames {
        attribute: |name, _| letter_first(&identifier(name), "value"),
        class: |name, _| letter_first(&identifier(name), "Table"),
        module: file_name,
        member: |name| letter_first(&identifier(name), "Other"),
        keywords: &[],
    },
    layout: Layout { comment: "//", block_comments: true, triple_quotes: false, backslashes: true },
    code_stays: |_, same_framework| same_framework,
    shares_literals: false,
};

/// Lowers a file.
fn lower(file: FileId, text: &str) -> Outline {
    let mut parser = Parser { text, at: 0, file, documentation: Vec::new(), errors: Vec::new() };
    let mut outline = Outline::default();
    let mut start = parser.at;
    while let Some(class) = parser.block() {
        outline.classes.push(class);
        outline.statements.push(Span { file, start: start as u32, end: parser.at as u32 });
        start = parser.at;
    }
    outline.errors = parser.errors;
    outline
}

struct Parser<'t> {
    text: &'t str,
    at: usize,
    file: FileId,
    /// Lines of `///` that wait for what they describe.
    documentation: Vec<&'t str>,
    errors: Vec<Span>,
}

impl<'t> Parser<'t> {
    fn rest(&self) -> &'t str {
        &self.text[self.at..]
    }

    fn span(&self, start: usize) -> Span {
        Span { file: self.file, start: start as u32, end: self.at.max(start) as u32 }
    }

    fn expr(&self, kind: ExprKind, start: usize) -> Expr {
        Expr { kind, span: self.span(start) }
    }

    /// Takes this text if it stands here.
    fn take(&mut self, wanted: &str) -> bool {
        let here = self.rest().starts_with(wanted);
        self.at += if here { wanted.len() } else { 0 };
        here
    }

    fn take_while(&mut self, wanted: impl Fn(char) -> bool) -> &'t str {
        let rest = self.rest();
        let end = rest.find(|letter| !wanted(letter)).unwrap_or(rest.len());
        self.at += end;
        &rest[..end]
    }

    fn identifier(&mut self) -> Option<&'t str> {
        let starts =
            self.rest().starts_with(|letter: char| letter.is_alphabetic() || letter == '_');
        starts.then(|| {
            self.take_while(|letter| letter.is_alphanumeric() || matches!(letter, '_' | '-'))
        })
    }

    /// Goes past spaces in a line.
    fn spaces(&mut self) {
        self.take_while(|letter| matches!(letter, ' ' | '\t' | '\r'));
    }

    /// Goes past spaces, line ends and comments; `///` is remembered.
    fn trivia(&mut self) {
        loop {
            self.take_while(char::is_whitespace);
            if self.take("/*") {
                let end = self.rest().find("*/").map_or(self.rest().len(), |end| end + 2);
                self.at += end;
            } else if self.take("///") {
                let line = self.line();
                self.documentation.push(line.strip_prefix(' ').unwrap_or(line).trim_end());
            } else if self.take("//") {
                self.line();
            } else {
                return;
            }
        }
    }

    /// The rest of the line, gone past.
    fn line(&mut self) -> &'t str {
        self.take_while(|letter| letter != '\n')
    }

    /// Notes that the rest of the line is not understood.
    fn not_understood(&mut self) {
        let start = self.at;
        self.line();
        let span = self.span(start);
        self.errors.push(span);
    }

    fn documented(&mut self) -> Option<String> {
        let lines = std::mem::take(&mut self.documentation);
        (!lines.is_empty()).then(|| lines.join("\n"))
    }

    fn block(&mut self) -> Option<Class> {
        loop {
            self.trivia();
            if self.rest().is_empty() {
                return None;
            }
            let start = self.at;
            if let Some(class) = self.head() {
                return Some(self.body(class));
            }
            self.at = start;
            self.documentation.clear();
            self.not_understood();
        }
    }

    /// `model PortCall {`.
    fn head(&mut self) -> Option<Class> {
        let start = self.at;
        let keyword = self.identifier()?;
        let base = self.expr(ExprKind::Name(keyword.into()), start);
        self.spaces();
        let name_start = self.at;
        let name = self.identifier()?;
        let span = self.span(name_start);
        self.spaces();
        if !self.take("{") {
            return None;
        }
        Some(Class {
            name: name.into(),
            kind: if keyword == "enum" { ClassKind::Enum } else { ClassKind::Class },
            bases: vec![base],
            keywords: Vec::new(),
            decorators: Vec::new(),
            members: Vec::new(),
            methods: Vec::new(),
            nested: Vec::new(),
            statements: Vec::new(),
            documentation: self.documented(),
            span,
            conditional: false,
        })
    }

    fn body(&mut self, mut class: Class) -> Class {
        let settings = class
            .bases
            .iter()
            .filter_map(Expr::name)
            .any(|keyword| matches!(keyword, "datasource" | "generator"));
        loop {
            self.trivia();
            if self.take("}") {
                break;
            }
            if self.rest().is_empty() {
                self.errors.push(class.span);
                break;
            }
            let understood = if self.take("@@") {
                self.attribute().map(|attribute| class.decorators.push(attribute))
            } else {
                self.member(class.kind == ClassKind::Enum, settings)
                    .map(|member| class.members.push(member))
            };
            self.spaces();
            if understood.is_none() || !self.at_line_end() {
                self.not_understood();
            }
            if let (true, Some(last)) = (self.take("///"), class.members.last_mut()) {
                let line = self.line();
                let line = line.trim();
                last.documentation = Some(
                    last.documentation
                        .take()
                        .map_or(line.to_owned(), |before| format!("{before}\n{line}")),
                );
            }
        }
        self.documentation.clear();
        class.tighten();
        class
    }

    fn at_line_end(&self) -> bool {
        let rest = self.rest();
        rest.is_empty()
            || rest.starts_with(['\n', '}'])
            || rest.starts_with("//")
            || rest.starts_with("/*")
    }

    fn member(&mut self, of_enum: bool, settings: bool) -> Option<Member> {
        let start = self.at;
        let name = self.identifier()?;
        let mut member = Member {
            name: name.into(),
            annotation: None,
            optional: false,
            decorators: Vec::new(),
            value: None,
            documentation: self.documented(),
            accessor: false,
            span: self.span(start),
        };
        self.spaces();
        if settings {
            if !self.take("=") {
                return None;
            }
            self.spaces();
            member.value = Some(self.value(0)?);
            return Some(member);
        }
        if !of_enum {
            member.annotation = Some(self.value(0)?);
            self.spaces();
            if self.take("[]") {
                let element = member.annotation.take()?;
                let operation =
                    ExprKind::Operation { operator: "[]".into(), operands: vec![element] };
                member.annotation = Some(self.expr(operation, start));
            }
            member.optional = self.take("?");
        }
        self.spaces();
        while !self.rest().starts_with("@@") && self.take("@") {
            member.decorators.push(self.attribute()?);
            self.spaces();
        }
        Some(member)
    }

    /// What follows `@` or `@@`: a name, with arguments or without.
    fn attribute(&mut self) -> Option<Expr> {
        self.name_or_call(0)
    }

    fn name_or_call(&mut self, depth: u32) -> Option<Expr> {
        let start = self.at;
        self.identifier()?;
        while self.rest().starts_with('.') {
            self.at += 1;
            self.identifier()?;
        }
        let name = SmolStr::new(&self.text[start..self.at]);
        let callee = self.expr(ExprKind::Name(name), start);
        if !self.take("(") {
            return Some(callee);
        }
        let call = self.call(callee, depth + 1)?;
        Some(self.expr(ExprKind::Call(Box::new(call)), start))
    }

    /// Arguments up to the closing parenthesis.
    fn call(&mut self, callee: Expr, depth: u32) -> Option<Call> {
        let (mut arguments, mut named) = (Vec::new(), Vec::new());
        loop {
            self.trivia();
            if self.take(")") {
                return Some(Call { callee, arguments, named });
            }
            let start = self.at;
            let name = self.identifier();
            self.trivia();
            match name {
                Some(name) if self.take(":") => {
                    self.trivia();
                    named.push((SmolStr::new(name), self.value(depth)?));
                }
                _ => {
                    self.at = start;
                    arguments.push(self.value(depth)?);
                }
            }
            self.trivia();
            if !self.take(",") && !self.rest().starts_with(')') {
                return None;
            }
        }
    }

    fn value(&mut self, depth: u32) -> Option<Expr> {
        if depth > DEEPEST {
            return None;
        }
        let start = self.at;
        match self.rest().chars().next()? {
            '"' => {
                let text = self.string()?;
                Some(self.expr(ExprKind::Text(text.into()), start))
            }
            '[' => {
                self.at += 1;
                let items = self.items(depth + 1)?;
                Some(self.expr(ExprKind::List(items), start))
            }
            first if first.is_ascii_digit() || first == '-' => {
                self.at += 1;
                let digits = self.take_while(|letter| letter.is_ascii_digit() || letter == '.');
                let number = SmolStr::new(&self.text[start..self.at]);
                (first != '-' || !digits.is_empty())
                    .then(|| self.expr(ExprKind::Number(number), start))
            }
            _ => {
                let found = self.name_or_call(depth)?;
                let word = match found.name() {
                    Some("true") => ExprKind::Boolean(true),
                    Some("false") => ExprKind::Boolean(false),
                    _ => return Some(found),
                };
                Some(self.expr(word, start))
            }
        }
    }

    fn items(&mut self, depth: u32) -> Option<Vec<Expr>> {
        let mut items = Vec::new();
        loop {
            self.trivia();
            if self.take("]") {
                return Some(items);
            }
            items.push(self.value(depth)?);
            self.trivia();
            if !self.take(",") && !self.rest().starts_with(']') {
                return None;
            }
        }
    }

    /// A text in double quotes, which ends in its line. Its escapes are those of JSON.
    fn string(&mut self) -> Option<String> {
        let start = self.at;
        let mut escaped = false;
        for (offset, letter) in self.text[start + 1..].char_indices() {
            match letter {
                '\n' => return None,
                '"' if !escaped => {
                    self.at = start + 1 + offset + 1;
                    return serde_json::from_str(&self.text[start..self.at]).ok();
                }
                _ => escaped = letter == '\\' && !escaped,
            }
        }
        None
    }
}
