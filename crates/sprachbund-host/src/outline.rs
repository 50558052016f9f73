//! What readers see of a source file, whatever its language: classes with members, calls,
//! assignments, imports and one kind of [`Expr`] for values and types. Every node keeps its span.

use smol_str::SmolStr;

use crate::codes;
use crate::diagnostic::Diagnostic;
use crate::source::Span;

/// One file.
#[derive(Clone, Debug, Default)]
pub struct Outline {
    pub imports: Vec<Import>,
    pub classes: Vec<Class>,
    /// Assignments of names, and of attributes (by their paths), at the top of the file.
    pub assignments: Vec<Assignment>,
    /// Functions at the top of the file that do nothing but return a value.
    pub functions: Vec<Function>,
    /// Calls that stand as statements at the top of the file.
    pub calls: Vec<Expr>,
    /// What functions and methods do, in the order of the text.
    pub bodies: Vec<Body>,
    /// Places that the grammar could not make sense of.
    pub errors: Vec<Span>,
    /// Every statement at the top of the file, in the order of the text.
    pub statements: Vec<Span>,
}

impl Outline {
    /// What every reader says of places that are not valid `language`; more than five of them say
    /// nothing new.
    pub fn syntax_errors(&self, language: &str) -> impl Iterator<Item = Diagnostic> {
        let message = format!("this is not valid {language}; what stands around it is still read");
        self.errors.iter().take(5).map(move |span| {
            Diagnostic::of(&codes::SYNTAX_ERROR, message.clone())
                .at(Some(*span), "not understood")
                .with_help("repair the syntax here, then run again")
        })
    }
}

/// A name that comes from another module.
#[derive(Clone, Debug)]
pub struct Import {
    /// The name in this file; `*` for all of them.
    pub local: SmolStr,
    /// The module as written: `django.db`, `.base`, `./berth`.
    pub module: SmolStr,
    /// The name in that module; empty when the module itself is bound.
    pub name: SmolStr,
    pub span: Span,
}

/// `name = value` (Python), `const name = value` or a type alias (TypeScript).
#[derive(Clone, Debug)]
pub struct Assignment {
    pub name: SmolStr,
    pub value: Expr,
}

/// A function whose value is known.
#[derive(Clone, Debug)]
pub struct Function {
    pub name: SmolStr,
    pub returns: Option<Expr>,
    /// What a function without parameters does: values, and `with` blocks as an operation over what
    /// is opened, its name and the list of what is done there. Anything else is opaque.
    pub statements: Vec<Expr>,
    pub span: Span,
}

/// What a function does, as far as readers need it.
#[derive(Clone, Debug)]
pub struct Body {
    /// The function's name, or the path of what it is given to (`module.exports`,
    /// `Berth.associate`).
    pub name: SmolStr,
    /// The class of a method.
    pub class: Option<SmolStr>,
    pub parameters: Vec<SmolStr>,
    /// The function that it stands in.
    pub outer: Option<usize>,
    pub assignments: Vec<Assignment>,
    pub calls: Vec<Expr>,
    pub returns: Vec<Returned>,
    pub span: Span,
}

/// A value that a function returns, and what must hold for that.
#[derive(Clone, Debug)]
pub struct Returned {
    /// Conditions, and what each of them must be.
    pub when: Vec<(Expr, bool)>,
    pub value: Expr,
}

/// A class, interface-like enumeration included.
#[derive(Clone, Debug)]
pub struct Class {
    pub name: SmolStr,
    pub kind: ClassKind,
    pub bases: Vec<Expr>,
    /// What is said beside the bases (`table=True`).
    pub keywords: Vec<(SmolStr, Expr)>,
    pub decorators: Vec<Expr>,
    pub members: Vec<Member>,
    pub methods: Vec<Method>,
    /// Classes written inside this one (`Meta`, enumerations).
    pub nested: Vec<Class>,
    /// What its body does besides, in the order of the text, where bodies are run (Ruby).
    pub statements: Vec<Expr>,
    pub documentation: Option<String>,
    /// Span of the name.
    pub span: Span,
    /// Inside a condition, a function or a `try`: it may not exist at run time.
    pub conditional: bool,
}

impl Class {
    /// What every reader says of a class that may not exist.
    pub fn doubt(&self) -> Option<Diagnostic> {
        let message = format!(
            "whether `{}` exists is decided at run time: it is read as if it did",
            self.name
        );
        let diagnostic = Diagnostic::of(&codes::CONDITIONAL_CLASS, message);
        self.conditional.then(|| diagnostic.at(Some(self.span), "inside a condition or a function"))
    }
}

/// Kinds of classes.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum ClassKind {
    Class,
    Abstract,
    /// TypeScript's `enum`; members are its values.
    Enum,
}

/// An attribute of a class body.
#[derive(Clone, Debug)]
pub struct Member {
    pub name: SmolStr,
    pub annotation: Option<Expr>,
    /// `name?: type`.
    pub optional: bool,
    pub decorators: Vec<Expr>,
    pub value: Option<Expr>,
    pub documentation: Option<String>,
    /// A getter or setter.
    pub accessor: bool,
    /// Span of the name.
    pub span: Span,
}

/// A method, as far as readers need one.
#[derive(Clone, Debug)]
pub struct Method {
    pub name: SmolStr,
    /// Its parameters as they are written (`*rest`, `key:`), and what each is where nothing is
    /// given; where bodies are run (Ruby).
    pub parameters: Vec<(SmolStr, Option<Expr>)>,
    pub decorators: Vec<Expr>,
    /// What it returns, when its body is a single return.
    pub returns: Option<Expr>,
    /// Assignments and calls among its statements, for constructors of field classes.
    pub statements: Vec<Expr>,
    pub span: Span,
}

/// A value or a type.
#[derive(Clone, Debug, PartialEq)]
pub struct Expr {
    pub kind: ExprKind,
    pub span: Span,
}

/// Kinds of values.
#[derive(Clone, Debug, PartialEq)]
pub enum ExprKind {
    Text(SmolStr),
    /// As written, without separators.
    Number(SmolStr),
    Boolean(bool),
    Null,
    /// `a.b.c`.
    Name(SmolStr),
    Call(Box<Call>),
    /// List, tuple or set.
    List(Vec<Expr>),
    /// Pairs; a spread has [`ExprKind::Spread`] as key and null as value.
    Map(Vec<(Expr, Expr)>),
    /// `*x`, `...x`.
    Spread(Box<Expr>),
    /// A function value: its parameters and the value it returns, if it only returns one.
    Function {
        parameters: Vec<SmolStr>,
        returns: Option<Box<Expr>>,
    },
    /// `a | b`, `-a`, `not a`, `a[b]`, `T[]` as `[]`, a template as `template`.
    Operation {
        operator: SmolStr,
        operands: Vec<Expr>,
    },
    /// Anything else: its text is under the span.
    Opaque,
}

/// A call; generic types are calls as well (`Promise<Berth>`).
#[derive(Clone, Debug, PartialEq)]
pub struct Call {
    pub callee: Expr,
    pub arguments: Vec<Expr>,
    pub named: Vec<(SmolStr, Expr)>,
}

impl Expr {
    /// The dotted name, if this is one.
    pub fn name(&self) -> Option<&str> {
        match &self.kind {
            ExprKind::Name(name) => Some(name),
            _ => None,
        }
    }

    /// The text, if this is one.
    pub fn text(&self) -> Option<&str> {
        match &self.kind {
            ExprKind::Text(text) => Some(text),
            _ => None,
        }
    }

    /// The truth value, if this is one.
    pub fn boolean(&self) -> Option<bool> {
        match self.kind {
            ExprKind::Boolean(value) => Some(value),
            _ => None,
        }
    }

    /// The whole number, if this is one.
    pub fn number(&self) -> Option<u32> {
        match &self.kind {
            ExprKind::Number(text) => text.parse().ok(),
            _ => None,
        }
    }

    /// The call, if this is one.
    pub fn call(&self) -> Option<&Call> {
        match &self.kind {
            ExprKind::Call(call) => Some(call),
            _ => None,
        }
    }

    /// The items, if this is a list.
    pub fn list(&self) -> Option<&[Expr]> {
        match &self.kind {
            ExprKind::List(items) => Some(items),
            _ => None,
        }
    }

    /// The value of a key, if this is a map whose spreads cannot set it again.
    pub fn entry(&self, name: &str) -> Option<&Expr> {
        let ExprKind::Map(pairs) = &self.kind else { return None };
        let last = pairs
            .iter()
            .rev()
            .find(|(key, _)| matches!(key.kind, ExprKind::Spread(_)) || key.text() == Some(name))?;
        (last.0.text() == Some(name)).then_some(&last.1)
    }

    /// Whether nothing more can be known of it here.
    pub fn is_opaque(&self) -> bool {
        self.kind == ExprKind::Opaque
    }
}

impl Call {
    /// The callee's dotted name, or nothing.
    pub fn callee_name(&self) -> &str {
        self.callee.name().unwrap_or_default()
    }

    /// A named argument.
    pub fn argument(&self, name: &str) -> Option<&Expr> {
        self.named.iter().find(|(known, _)| known == name).map(|(_, value)| value)
    }
}

impl Class {
    /// A member by its name.
    pub fn member(&self, name: &str) -> Option<&Member> {
        self.members.iter().find(|member| member.name == name)
    }

    /// Gives back the room that its lists do not need.
    pub fn tighten(&mut self) {
        self.bases.shrink_to_fit();
        self.keywords.shrink_to_fit();
        self.decorators.shrink_to_fit();
        self.members.shrink_to_fit();
        self.methods.shrink_to_fit();
        self.statements.shrink_to_fit();
    }

    /// Lets go of all but the constants, which other classes may name.
    pub fn spend(&mut self) {
        let is_constant = |member: &Member| {
            let plain = |value: &Expr| !matches!(value.kind, ExprKind::Call(_) | ExprKind::List(_));
            member.decorators.is_empty() && member.value.as_ref().is_some_and(plain)
        };
        (self.methods, self.decorators) = (Vec::new(), Vec::new());
        self.statements = Vec::new();
        let options = self
            .nested
            .iter_mut()
            .filter(|nested| nested.bases.is_empty())
            .map(|nested| &mut nested.members);
        for members in options.chain([&mut self.members]) {
            members.retain(is_constant);
            members.shrink_to_fit();
        }
    }

    /// A class written inside this one.
    pub fn nested(&self, name: &str) -> Option<&Class> {
        self.nested.iter().find(|class| class.name == name)
    }
}
