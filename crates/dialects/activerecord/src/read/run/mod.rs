//! Runs the part of Ruby in which migrations and classes are written: names, conditions, loops over
//! known values, blocks, methods of the project. What only the application itself would tell is an
//! unknown value; code that depends on one is gone through without effect, so that what it might
//! change can be named.

mod methods;
mod value;

use std::rc::Rc;

use smol_str::SmolStr;

use super::program::Program;
use crate::host::outline::{Call, Expr, ExprKind, Method};
use crate::inflection::Inflections;
use crate::source::Span;

pub(crate) use value::{Arguments, Block, Object, Scope, Value};

/// Calls in calls that are followed.
const DEEPEST: u32 = 48;

/// Values that one run works out at the most.
const MOST: u32 = 4_000_000;

/// Why code is left before its end.
#[derive(Debug)]
pub(crate) enum Stop<'p> {
    Return(Value<'p>),
    Next(Value<'p>),
    Break(Value<'p>),
    /// It raises an error, on purpose.
    Raised,
    /// It has taken more than is spent on it.
    Exhausted,
}

/// What code comes to.
pub(crate) type Done<'p> = Result<Value<'p>, Stop<'p>>;

/// A call that the framework answers.
pub(crate) struct Called<'c, 'p> {
    pub(crate) receiver: &'c Value<'p>,
    pub(crate) name: &'c str,
    pub(crate) arguments: Arguments<'p>,
    pub(crate) scope: &'c Rc<Scope<'p>>,
    pub(crate) span: Span,
}

/// What the framework is to the code that is run.
pub(crate) trait Framework<'p> {
    /// Answers a call that neither the language nor the project does.
    fn call(&mut self, run: &mut Run<'_, 'p>, called: Called<'_, 'p>) -> Done<'p>;

    /// What follows may not happen, or not in this way: nothing takes effect until
    /// [`Framework::sure`].
    fn unsure(&mut self);

    /// The end of that; `at` is what decides, `leaves` whether the code may end there.
    fn sure(&mut self, at: Span, leaves: bool);
}

/// A run of code.
pub(crate) struct Run<'r, 'p> {
    pub(crate) program: &'r Program<'p>,
    pub(crate) words: &'r Inflections,
    depth: u32,
    left: u32,
}

impl<'r, 'p> Run<'r, 'p> {
    pub(crate) fn new(program: &'r Program<'p>, words: &'r Inflections) -> Self {
        Run { program, words, depth: 0, left: MOST }
    }

    /// Runs statements one after the other; what the last one comes to.
    pub(crate) fn statements(
        &mut self,
        scope: &Rc<Scope<'p>>,
        statements: &'p [Expr],
        framework: &mut dyn Framework<'p>,
    ) -> Done<'p> {
        let mut last = Value::Nil;
        for statement in statements {
            last = self.value(scope, statement, framework)?;
        }
        Ok(last)
    }

    /// What an expression comes to.
    pub(crate) fn value(
        &mut self,
        scope: &Rc<Scope<'p>>,
        expr: &'p Expr,
        framework: &mut dyn Framework<'p>,
    ) -> Done<'p> {
        self.left = self.left.checked_sub(1).ok_or(Stop::Exhausted)?;
        Ok(match &expr.kind {
            ExprKind::Text(text) => Value::Text(text.clone()),
            ExprKind::Number(number) => Value::Number(number.clone()),
            ExprKind::Boolean(value) => Value::Boolean(*value),
            ExprKind::Null => Value::Nil,
            ExprKind::Name(path) => self.path(scope, path, expr.span, framework)?,
            ExprKind::Call(call) => self.call(scope, call, expr.span, framework)?,
            ExprKind::List(items) => Value::List(self.items(scope, items, framework)?),
            ExprKind::Map(pairs) => self.map(scope, pairs, framework)?,
            ExprKind::Spread(inner) => self.value(scope, inner, framework)?,
            ExprKind::Function { parameters, returns } => match returns.as_deref() {
                Some(body) => {
                    let scope = scope.clone();
                    Value::Block(Rc::new(Block::Code { parameters, body, scope }))
                }
                None => Value::Nil,
            },
            ExprKind::Operation { operator, operands } => {
                self.operation(scope, operator, operands, expr.span, framework)?
            }
            ExprKind::Opaque => Value::Unknown(expr.span),
        })
    }

    /// A name, or a chain of calls without arguments behind one.
    fn path(
        &mut self,
        scope: &Rc<Scope<'p>>,
        path: &str,
        span: Span,
        framework: &mut dyn Framework<'p>,
    ) -> Done<'p> {
        let mut parts = path.split('.');
        let mut value = self.name(scope, parts.next().unwrap_or_default(), span, framework)?;
        for method in parts {
            let method = method.trim_start_matches('&');
            value = self.method(scope, Some(value), method, Arguments::none(), span, framework)?;
        }
        Ok(value)
    }

    fn name(
        &mut self,
        scope: &Rc<Scope<'p>>,
        name: &str,
        span: Span,
        framework: &mut dyn Framework<'p>,
    ) -> Done<'p> {
        if let Some(value) = scope.local(name) {
            return Ok(value);
        }
        match name {
            "self" => return Ok(scope.own.clone()),
            "ENV" => return Ok(Value::Object(Object::Environment)),
            "super" => return Ok(Value::Nil),
            _ => {}
        }
        let plain = name.trim_start_matches("::");
        if name.starts_with('@') {
            return Ok(Value::Nil);
        }
        if plain.starts_with(|first: char| first.is_ascii_uppercase()) {
            return self.constant(scope, name, span, framework);
        }
        self.method(scope, None, name, Arguments::none(), span, framework)
    }

    fn constant(
        &mut self,
        scope: &Rc<Scope<'p>>,
        name: &str,
        span: Span,
        framework: &mut dyn Framework<'p>,
    ) -> Done<'p> {
        if let Some(class) = self.program.class(&scope.class, name) {
            return Ok(Value::Class(class));
        }
        let Some((full, file, value)) = self.program.constant(&scope.class, name) else {
            return Ok(Value::Class(name.trim_start_matches("::").into()));
        };
        if self.depth >= DEEPEST {
            return Ok(Value::Unknown(span));
        }
        let class = full.rsplit_once("::").map_or("", |(class, _)| class);
        let inside = Scope::new(file, class.into(), Value::Class(class.into()), None);
        self.depth += 1;
        let value = self.value(&inside, value, framework);
        self.depth -= 1;
        value
    }

    /// Values in a list, those of lists that are spread out in it too.
    fn items(
        &mut self,
        scope: &Rc<Scope<'p>>,
        items: &'p [Expr],
        framework: &mut dyn Framework<'p>,
    ) -> Result<Vec<Value<'p>>, Stop<'p>> {
        let mut list = Vec::with_capacity(items.len());
        for item in items {
            let value = self.value(scope, item, framework)?;
            match (&item.kind, value) {
                (ExprKind::Spread(_), Value::List(values)) => list.extend(values),
                (ExprKind::Spread(_), Value::Nil) => {}
                (_, value) => list.push(value),
            }
        }
        Ok(list)
    }

    fn map(
        &mut self,
        scope: &Rc<Scope<'p>>,
        pairs: &'p [(Expr, Expr)],
        framework: &mut dyn Framework<'p>,
    ) -> Done<'p> {
        let mut map = Vec::with_capacity(pairs.len());
        for (key, value) in pairs {
            if let ExprKind::Spread(inner) = &key.kind {
                match self.value(scope, inner, framework)? {
                    Value::Map(more) => map.extend(more),
                    Value::Nil => {}
                    _ => return Ok(Value::Unknown(key.span)),
                }
                continue;
            }
            map.push((self.value(scope, key, framework)?, self.value(scope, value, framework)?));
        }
        Ok(Value::Map(map))
    }

    fn call(
        &mut self,
        scope: &Rc<Scope<'p>>,
        call: &'p Call,
        span: Span,
        framework: &mut dyn Framework<'p>,
    ) -> Done<'p> {
        let (receiver, name): (Option<Value<'p>>, &str) = match &call.callee.kind {
            ExprKind::Name(path) => match path.rsplit_once('.') {
                Some((before, name)) => {
                    (Some(self.path(scope, before, call.callee.span, framework)?), name)
                }
                None => (None, path.as_str()),
            },
            ExprKind::Operation { operator, operands } if operator == "." => {
                let [receiver, name] = operands.as_slice() else {
                    return Ok(Value::Unknown(span));
                };
                let receiver = self.value(scope, receiver, framework)?;
                (Some(receiver), name.name().unwrap_or_default())
            }
            _ => return Ok(Value::Unknown(span)),
        };
        let arguments = self.arguments(scope, call, framework)?;
        self.method(scope, receiver, name, arguments, span, framework)
    }

    fn arguments(
        &mut self,
        scope: &Rc<Scope<'p>>,
        call: &'p Call,
        framework: &mut dyn Framework<'p>,
    ) -> Result<Arguments<'p>, Stop<'p>> {
        let mut given = Arguments::none();
        let last = call.arguments.len();
        for (at, argument) in call.arguments.iter().enumerate() {
            let value = self.value(scope, argument, framework)?;
            match (&argument.kind, value) {
                (ExprKind::Function { .. }, Value::Block(block)) if at + 1 == last => {
                    given.block = Some(block);
                }
                (ExprKind::Operation { operator, operands }, value) if operator == "&" => {
                    given.block = match value {
                        _ if operands.is_empty() => scope.given.clone(),
                        Value::Block(block) => Some(block),
                        value => value.as_text().map(|name| Rc::new(Block::Method(name))),
                    };
                }
                (ExprKind::Spread(_), Value::List(values)) => given.list.extend(values),
                (ExprKind::Spread(_), Value::Map(pairs)) => {
                    let named = pairs.into_iter();
                    given
                        .named
                        .extend(named.filter_map(|(key, value)| Some((key.as_text()?, value))));
                }
                (ExprKind::Spread(_), Value::Nil) => {}
                (_, value) => given.list.push(value),
            }
        }
        for (name, value) in &call.named {
            given.named.push((name.clone(), self.value(scope, value, framework)?));
        }
        Ok(given)
    }

    /// A call: of the project's own method, of one of the language, else of the framework's.
    pub(crate) fn method(
        &mut self,
        scope: &Rc<Scope<'p>>,
        receiver: Option<Value<'p>>,
        name: &str,
        arguments: Arguments<'p>,
        span: Span,
        framework: &mut dyn Framework<'p>,
    ) -> Done<'p> {
        if self.depth >= DEEPEST {
            return Ok(Value::Unknown(span));
        }
        self.depth += 1;
        let done = self.answered(scope, receiver, name, arguments, span, framework);
        self.depth -= 1;
        match done {
            Err(Stop::Break(value)) => Ok(value),
            done => done,
        }
    }

    fn answered(
        &mut self,
        scope: &Rc<Scope<'p>>,
        receiver: Option<Value<'p>>,
        name: &str,
        arguments: Arguments<'p>,
        span: Span,
        framework: &mut dyn Framework<'p>,
    ) -> Done<'p> {
        let own = match &receiver {
            None => true,
            Some(receiver) => receiver.equals(&scope.own) == Some(true),
        };
        if own {
            if name == "yield" {
                return match scope.given.clone() {
                    Some(block) => self.block(&block, arguments.list, framework),
                    None => Ok(Value::Nil),
                };
            }
            if let Some((class, file, method)) = self.own_method(scope, name) {
                let inside = Scope::new(file, class, scope.own.clone(), arguments.block.clone());
                return self.invoke(&inside, method, arguments, framework);
            }
            if let Some(done) = self.of_kernel(scope, name, &arguments, span, framework) {
                return done;
            }
        }
        let receiver = receiver.unwrap_or_else(|| scope.own.clone());
        if let Value::Class(class) = &receiver
            && let Some((class, file, method)) = self.program.method(class, &format!("self.{name}"))
        {
            let inside = Scope::new(file, class, receiver.clone(), arguments.block.clone());
            return self.invoke(&inside, method, arguments, framework);
        }
        if let Some(done) = self.of_value(scope, &receiver, name, &arguments, span, framework) {
            return done;
        }
        framework.call(self, Called { receiver: &receiver, name, arguments, scope, span })
    }

    /// A method of the class that the code stands in, of what it is run for, or of the modules that
    /// either includes.
    fn own_method(
        &self,
        scope: &Scope<'p>,
        name: &str,
    ) -> Option<(SmolStr, crate::source::FileId, &'p Method)> {
        let of = |class: &str| {
            self.program
                .method(class, name)
                .or_else(|| self.program.method(class, &format!("self.{name}")))
        };
        let own = match &scope.own {
            Value::Class(class) => of(class),
            _ => None,
        };
        own.or_else(|| of(&scope.class)).map(|(class, file, method)| {
            // Constants and methods are those of whatever the code is run for.
            let inside = if class == scope.class { class } else { scope.class.clone() };
            (inside, file, method)
        })
    }

    /// Runs a method with what it is given.
    fn invoke(
        &mut self,
        inside: &Rc<Scope<'p>>,
        method: &'p Method,
        arguments: Arguments<'p>,
        framework: &mut dyn Framework<'p>,
    ) -> Done<'p> {
        self.bind(inside, method, arguments, framework)?;
        match self.statements(inside, &method.statements, framework) {
            Err(Stop::Return(value)) => Ok(value),
            done => done,
        }
    }

    fn bind(
        &mut self,
        inside: &Rc<Scope<'p>>,
        method: &'p Method,
        arguments: Arguments<'p>,
        framework: &mut dyn Framework<'p>,
    ) -> Result<(), Stop<'p>> {
        let Arguments { mut list, mut named, block } = arguments;
        let by_name = |name: &SmolStr| name.ends_with(':') || name.starts_with("**");
        let takes_names = method.parameters.iter().any(|(name, _)| by_name(name));
        if !takes_names && !named.is_empty() {
            let pairs = named.drain(..).map(|(key, value)| (Value::Text(key), value)).collect();
            list.push(Value::Map(pairs));
        }
        let required = |(name, value): &&(SmolStr, Option<Expr>)| {
            value.is_none() && !by_name(name) && !name.starts_with(['*', '&'])
        };
        let mut to_come = method.parameters.iter().filter(required).count();
        let mut list = list.into_iter();
        for (name, otherwise) in &method.parameters {
            let plain = name.trim_matches(['*', '&', ':']);
            let given = if let Some(rest) = name.strip_prefix("**") {
                let pairs = named.drain(..).map(|(key, value)| (Value::Text(key), value));
                inside.declare(rest, Value::Map(pairs.collect()));
                continue;
            } else if name.starts_with('*') {
                let count = list.len().saturating_sub(to_come);
                Some(Value::List(list.by_ref().take(count).collect()))
            } else if name.starts_with('&') {
                Some(block.clone().map_or(Value::Nil, Value::Block))
            } else if name.ends_with(':') {
                let at = named.iter().position(|(known, _)| known == plain);
                at.map(|at| named.remove(at).1)
            } else if otherwise.is_some() && list.len() <= to_come {
                None
            } else {
                to_come -= usize::from(otherwise.is_none());
                list.next()
            };
            let value = match (given, otherwise) {
                (Some(value), _) => value,
                (None, Some(otherwise)) => self.value(inside, otherwise, framework)?,
                (None, None) => Value::Nil,
            };
            inside.declare(plain, value);
        }
        Ok(())
    }

    /// Runs a block with values.
    pub(crate) fn block(
        &mut self,
        block: &Block<'p>,
        values: Vec<Value<'p>>,
        framework: &mut dyn Framework<'p>,
    ) -> Done<'p> {
        self.block_as(block, values, None, framework)
    }

    /// The same, with what `self` is in it.
    pub(crate) fn block_as(
        &mut self,
        block: &Block<'p>,
        values: Vec<Value<'p>>,
        own: Option<Value<'p>>,
        framework: &mut dyn Framework<'p>,
    ) -> Done<'p> {
        match block {
            Block::Code { parameters, body, scope } => {
                let inside = Scope::inside(scope, own);
                bind_block(&inside, parameters, values);
                match self.value(&inside, body, framework) {
                    Err(Stop::Next(value)) => Ok(value),
                    done => done,
                }
            }
            Block::Method(name) => {
                let mut values = values.into_iter();
                let receiver = values.next().unwrap_or(Value::Nil);
                let nowhere = Span { file: crate::source::FileId(0), start: 0, end: 0 };
                let scope = Scope::new(nowhere.file, "".into(), Value::Nil, None);
                let arguments = Arguments::of(values.collect());
                self.method(&scope, Some(receiver), name, arguments, nowhere, framework)
            }
        }
    }

    fn operation(
        &mut self,
        scope: &Rc<Scope<'p>>,
        operator: &str,
        operands: &'p [Expr],
        span: Span,
        framework: &mut dyn Framework<'p>,
    ) -> Done<'p> {
        let value_of = |operands: &'p [Expr], run: &mut Self, framework: &mut dyn Framework<'p>| {
            match operands {
                [] => Ok(Value::Nil),
                [one] => run.value(scope, one, framework),
                several => Ok(Value::List(run.items(scope, several, framework)?)),
            }
        };
        match (operator, operands) {
            ("do", statements) => self.statements(scope, statements, framework),
            ("rescue", _) => Ok(Value::Nil),
            ("return", values) => Err(Stop::Return(value_of(values, self, framework)?)),
            ("next", values) => Err(Stop::Next(value_of(values, self, framework)?)),
            ("break", values) => Err(Stop::Break(value_of(values, self, framework)?)),
            ("if", [asked, then, rest @ ..]) => {
                self.choice(scope, asked, (then, rest.first()), framework)
            }
            ("=", [name, value]) => {
                let value = self.value(scope, value, framework)?;
                self.assign(scope, name, value, span, framework)
            }
            ("template", parts) => self.template(scope, parts, span, framework),
            ("regex", [pattern, flags]) => {
                let flags = flags.text().unwrap_or_default();
                Ok(methods::pattern(pattern.text().unwrap_or_default(), flags)
                    .unwrap_or(Value::Unknown(span)))
            }
            ("&", [one]) => self.value(scope, one, framework),
            ("!", [one]) => Ok(match self.value(scope, one, framework)?.holds() {
                Some(holds) => Value::Boolean(!holds),
                None => Value::Unknown(span),
            }),
            ("&&" | "and", [left, right]) => {
                let value = self.value(scope, left, framework)?;
                match value.holds() {
                    Some(true) => self.value(scope, right, framework),
                    Some(false) => Ok(value),
                    None => Ok(match self.value(scope, right, framework)?.holds() {
                        Some(false) => Value::Boolean(false),
                        _ => value,
                    }),
                }
            }
            ("||" | "or", [left, right]) => {
                let value = self.value(scope, left, framework)?;
                match value.holds() {
                    Some(false) => self.value(scope, right, framework),
                    Some(true) => Ok(value),
                    None => Ok(match self.value(scope, right, framework)?.holds() {
                        Some(true) => Value::Boolean(true),
                        _ => value,
                    }),
                }
            }
            ("<<", [left, right]) => self.pushed(scope, left, right, span, framework),
            (".", [receiver, name]) => {
                let receiver = self.value(scope, receiver, framework)?;
                let name = name.name().unwrap_or_default();
                self.method(scope, Some(receiver), name, Arguments::none(), span, framework)
            }
            (_, [left, rest @ ..]) => {
                let left = self.value(scope, left, framework)?;
                let arguments = Arguments::of(self.items(scope, rest, framework)?);
                self.method(scope, Some(left), operator, arguments, span, framework)
            }
            _ => Ok(Value::Unknown(span)),
        }
    }

    /// A variable gets a value, or an attribute of the object itself by its method.
    fn assign(
        &mut self,
        scope: &Rc<Scope<'p>>,
        name: &'p Expr,
        value: Value<'p>,
        span: Span,
        framework: &mut dyn Framework<'p>,
    ) -> Done<'p> {
        match assigned(name).map(|name| (name, name.strip_prefix("self."))) {
            Some((_, Some(attribute))) => {
                let given = Arguments::of(vec![value.clone()]);
                let (own, setter) = (Some(scope.own.clone()), format!("{attribute}="));
                self.method(scope, own, &setter, given, span, framework)?;
            }
            Some((name, None)) => scope.assign(name, value.clone()),
            None => {}
        }
        Ok(value)
    }

    /// What is done where something holds, or where it does not; both without effect where that is
    /// not known.
    fn choice(
        &mut self,
        scope: &Rc<Scope<'p>>,
        asked: &'p Expr,
        (then, otherwise): (&'p Expr, Option<&'p Expr>),
        framework: &mut dyn Framework<'p>,
    ) -> Done<'p> {
        let decides = self.value(scope, asked, framework)?.holds();
        let chosen = match decides {
            Some(true) => Some(then),
            Some(false) => otherwise,
            None => {
                framework.unsure();
                let mut leaves = false;
                for way in [Some(then), otherwise].into_iter().flatten() {
                    match self.value(scope, way, framework) {
                        Err(Stop::Exhausted) => return Err(Stop::Exhausted),
                        Err(Stop::Raised | Stop::Return(_)) => leaves = true,
                        _ => {}
                    }
                }
                framework.sure(asked.span, leaves);
                return Ok(Value::Unknown(asked.span));
            }
        };
        chosen.map_or(Ok(Value::Nil), |chosen| self.value(scope, chosen, framework))
    }

    fn template(
        &mut self,
        scope: &Rc<Scope<'p>>,
        parts: &'p [Expr],
        span: Span,
        framework: &mut dyn Framework<'p>,
    ) -> Done<'p> {
        let mut text = String::new();
        for part in parts {
            match self.value(scope, part, framework)? {
                Value::Nil => {}
                Value::Boolean(value) => text.push_str(if value { "true" } else { "false" }),
                value => match value.as_text() {
                    Some(part) => text.push_str(&part),
                    None => return Ok(Value::Unknown(value.unknown_inside().unwrap_or(span))),
                },
            }
        }
        Ok(Value::text(text))
    }

    /// `list << value` puts it into the list that the name stands for.
    fn pushed(
        &mut self,
        scope: &Rc<Scope<'p>>,
        left: &'p Expr,
        right: &'p Expr,
        span: Span,
        framework: &mut dyn Framework<'p>,
    ) -> Done<'p> {
        let (list, item) =
            (self.value(scope, left, framework)?, self.value(scope, right, framework)?);
        let longer = match (list, item) {
            (Value::List(mut items), item) => {
                items.push(item);
                Value::List(items)
            }
            (Value::Text(text), Value::Text(more)) => Value::text(format!("{text}{more}")),
            _ => return Ok(Value::Unknown(span)),
        };
        if let Some(name) = left.name() {
            scope.assign(name, longer.clone());
        }
        Ok(longer)
    }
}

/// What stands before `=`: a name, or an attribute of something.
pub(crate) fn assigned(left: &Expr) -> Option<&str> {
    left.name().or_else(|| {
        let call = left.call().filter(|call| call.arguments.is_empty() && call.named.is_empty())?;
        call.callee.name()
    })
}

/// Gives the parameters of a block their values; one list is spread over several of them.
fn bind_block<'p>(inside: &Scope<'p>, parameters: &[SmolStr], mut values: Vec<Value<'p>>) {
    if let ([Value::List(items)], true) = (values.as_slice(), parameters.len() > 1) {
        values = items.clone();
    }
    let mut values = values.into_iter();
    for parameter in parameters {
        if let Some(inner) = parameter.strip_prefix('(').and_then(|rest| rest.strip_suffix(')')) {
            let names: Vec<SmolStr> = inner.split(',').map(|name| name.trim().into()).collect();
            let value = values.next().unwrap_or(Value::Nil);
            bind_block(inside, &names, vec![value]);
            continue;
        }
        let name = parameter.split(['=', ':']).next().unwrap_or_default().trim();
        let value = match name.strip_prefix('*') {
            Some(_) => Value::List(values.by_ref().collect()),
            None => values.next().unwrap_or(Value::Nil),
        };
        inside.declare(name.trim_start_matches(['*', '&']), value);
    }
}
