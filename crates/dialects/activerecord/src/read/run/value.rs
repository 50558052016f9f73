//! What running Ruby works with.

use std::cell::RefCell;
use std::collections::HashMap;
use std::rc::Rc;

use regex::Regex;
use smol_str::SmolStr;

use crate::host::outline::Expr;
use crate::source::{FileId, Span};

/// A value while code is run. Symbols are texts.
#[derive(Clone, Debug)]
pub(crate) enum Value<'p> {
    Nil,
    Boolean(bool),
    /// As it is written.
    Number(SmolStr),
    Text(SmolStr),
    List(Vec<Value<'p>>),
    Map(Vec<(Value<'p>, Value<'p>)>),
    /// A block or a lambda.
    Block(Rc<Block<'p>>),
    Pattern(Rc<Regex>),
    /// A class or a module by its full name.
    Class(SmolStr),
    /// What the framework gives to the code.
    Object(Object),
    /// Only running it would tell; the place where that began.
    Unknown(Span),
}

/// What the framework gives to the code that it runs.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Object {
    /// What the code belongs to: a migration, a dumped schema, a class.
    Own,
    /// The connection to the database.
    Connection,
    /// A table that is made or changed, by its place among those that are open.
    Table(usize),
    /// The direction of a part that is told for each of them.
    Direction,
    /// The variables of the environment.
    Environment,
}

/// Code that is run later, in the scope in which it stands.
#[derive(Debug)]
pub(crate) enum Block<'p> {
    Code {
        parameters: &'p [SmolStr],
        body: &'p Expr,
        scope: Rc<Scope<'p>>,
    },
    /// A method of what it is given (`&:strip`).
    Method(SmolStr),
}

/// The names that code sees.
#[derive(Debug)]
pub(crate) struct Scope<'p> {
    locals: RefCell<HashMap<SmolStr, Value<'p>>>,
    /// The scope around a block.
    outer: Option<Rc<Scope<'p>>>,
    pub(crate) file: FileId,
    /// The class whose constants and methods are meant, by its full name.
    pub(crate) class: SmolStr,
    /// What `self` is.
    pub(crate) own: Value<'p>,
    /// The block that is given to the method.
    pub(crate) given: Option<Rc<Block<'p>>>,
}

impl<'p> Scope<'p> {
    /// A scope of its own: the body of a file, a class or a method.
    pub(crate) fn new(
        file: FileId,
        class: SmolStr,
        own: Value<'p>,
        given: Option<Rc<Block<'p>>>,
    ) -> Rc<Self> {
        let locals = RefCell::default();
        Rc::new(Scope { locals, outer: None, file, class, own, given })
    }

    /// The scope of a block.
    pub(crate) fn inside(outer: &Rc<Scope<'p>>, own: Option<Value<'p>>) -> Rc<Self> {
        Rc::new(Scope {
            locals: RefCell::default(),
            outer: Some(outer.clone()),
            file: outer.file,
            class: outer.class.clone(),
            own: own.unwrap_or_else(|| outer.own.clone()),
            given: outer.given.clone(),
        })
    }

    pub(crate) fn local(&self, name: &str) -> Option<Value<'p>> {
        let own = self.locals.borrow().get(name).cloned();
        own.or_else(|| self.outer.as_ref().and_then(|outer| outer.local(name)))
    }

    /// A name of this scope, whatever the ones around it call so.
    pub(crate) fn declare(&self, name: &str, value: Value<'p>) {
        self.locals.borrow_mut().insert(name.into(), value);
    }

    /// Gives a name a value: in the scope that has it, else here.
    pub(crate) fn assign(&self, name: &str, value: Value<'p>) {
        match &self.outer {
            Some(outer)
                if !self.locals.borrow().contains_key(name) && outer.local(name).is_some() =>
            {
                outer.assign(name, value)
            }
            _ => self.declare(name, value),
        }
    }
}

impl<'p> Value<'p> {
    pub(crate) fn text(text: impl Into<SmolStr>) -> Self {
        Value::Text(text.into())
    }

    pub(crate) fn number(number: i64) -> Self {
        Value::Number(number.to_string().into())
    }

    /// The text of a text, a number or a class; `None` of anything else.
    pub(crate) fn as_text(&self) -> Option<SmolStr> {
        match self {
            Value::Text(text) | Value::Number(text) | Value::Class(text) => Some(text.clone()),
            _ => None,
        }
    }

    pub(crate) fn as_number(&self) -> Option<i64> {
        match self {
            Value::Number(number) => number.parse().ok(),
            _ => None,
        }
    }

    /// One or several texts, where they are all known.
    pub(crate) fn as_texts(&self) -> Option<Vec<String>> {
        match self {
            Value::List(items) => {
                items.iter().map(|item| item.as_text().map(String::from)).collect()
            }
            one => one.as_text().map(|text| vec![text.into()]),
        }
    }

    /// Whether a condition holds for it, where that is known: `nil` and `false` are what does not.
    pub(crate) fn holds(&self) -> Option<bool> {
        match self {
            Value::Nil | Value::Boolean(false) => Some(false),
            Value::Unknown(_) => None,
            _ => Some(true),
        }
    }

    pub(crate) fn is_unknown(&self) -> bool {
        matches!(self, Value::Unknown(_))
    }

    /// Where something in it is not known, the place where that began.
    pub(crate) fn unknown_inside(&self) -> Option<Span> {
        match self {
            Value::Unknown(span) => Some(*span),
            Value::List(items) => items.iter().find_map(Value::unknown_inside),
            Value::Map(pairs) => {
                pairs.iter().flat_map(|(key, value)| [key, value]).find_map(Value::unknown_inside)
            }
            _ => None,
        }
    }

    /// The value of a key.
    pub(crate) fn entry(&self, key: &str) -> Option<&Value<'p>> {
        let Value::Map(pairs) = self else { return None };
        let is_it =
            |(known, _): &&(Value<'p>, Value<'p>)| known.as_text().is_some_and(|k| k == key);
        pairs.iter().rev().find(is_it).map(|(_, value)| value)
    }

    /// Whether two values are the same, where that is known.
    pub(crate) fn equals(&self, other: &Value<'p>) -> Option<bool> {
        Some(match (self, other) {
            (Value::Unknown(_), _) | (_, Value::Unknown(_)) => return None,
            (Value::Nil, Value::Nil) => true,
            (Value::Boolean(left), Value::Boolean(right)) => left == right,
            (Value::Number(left), Value::Number(right)) => {
                match (left.parse::<f64>(), right.parse::<f64>()) {
                    (Ok(left), Ok(right)) => left == right,
                    _ => left == right,
                }
            }
            (Value::Text(left), Value::Text(right)) => left == right,
            (Value::Class(left), Value::Class(right)) => left == right,
            (Value::Object(left), Value::Object(right)) => left == right,
            (Value::List(left), Value::List(right)) => {
                if left.len() != right.len() {
                    return Some(false);
                }
                let mut pairs = left.iter().zip(right);
                return pairs
                    .try_fold(true, |same, (left, right)| Some(same && left.equals(right)?));
            }
            (Value::Map(left), Value::Map(right)) => {
                if left.len() != right.len() {
                    return Some(false);
                }
                let mut pairs = left.iter().zip(right);
                return pairs.try_fold(true, |same, ((key, value), (other, thing))| {
                    Some(same && key.equals(other)? && value.equals(thing)?)
                });
            }
            _ => false,
        })
    }

    /// The value as JSON has it; `None` where it is none.
    pub(crate) fn json(&self) -> Option<serde_json::Value> {
        use serde_json::Value as Json;
        Some(match self {
            Value::Nil => Json::Null,
            Value::Boolean(value) => Json::Bool(*value),
            Value::Number(number) => Json::Number(serde_json::from_str(number).ok()?),
            Value::Text(text) => Json::String(text.to_string()),
            Value::List(items) => items.iter().map(Value::json).collect::<Option<Vec<_>>>()?.into(),
            Value::Map(pairs) => {
                let entry = |(key, value): &(Value<'p>, Value<'p>)| {
                    Some((key.as_text()?.to_string(), value.json()?))
                };
                Json::Object(pairs.iter().map(entry).collect::<Option<_>>()?)
            }
            _ => return None,
        })
    }
}

/// What a method is given.
#[derive(Clone, Debug)]
pub(crate) struct Arguments<'p> {
    pub(crate) list: Vec<Value<'p>>,
    pub(crate) named: Vec<(SmolStr, Value<'p>)>,
    pub(crate) block: Option<Rc<Block<'p>>>,
}

impl<'p> Arguments<'p> {
    pub(crate) fn none() -> Self {
        Arguments { list: Vec::new(), named: Vec::new(), block: None }
    }

    pub(crate) fn of(list: Vec<Value<'p>>) -> Self {
        Arguments { list, ..Arguments::none() }
    }

    pub(crate) fn first(&self) -> Option<&Value<'p>> {
        self.list.first()
    }

    /// The first argument, if it is a text.
    pub(crate) fn first_text(&self) -> Option<SmolStr> {
        self.first().and_then(Value::as_text)
    }

    /// A named argument; of several by one name the last.
    pub(crate) fn named(&self, name: &str) -> Option<&Value<'p>> {
        self.named.iter().rev().find(|(known, _)| known == name).map(|(_, value)| value)
    }

    /// Where something that is given is not known, the place where that began.
    pub(crate) fn unknown(&self) -> Option<Span> {
        let named = self.named.iter().map(|(_, value)| value);
        self.list.iter().chain(named).find_map(Value::unknown_inside)
    }

    /// The same, taken out.
    pub(crate) fn take(&mut self, name: &str) -> Option<Value<'p>> {
        let found = self.named(name).cloned();
        self.named.retain(|(known, _)| known != name);
        found
    }

    /// A map as the last argument stands for named ones.
    pub(crate) fn unfold(&mut self) {
        if self.named.is_empty()
            && let Some(Value::Map(pairs)) = self.list.last()
        {
            let named = pairs.iter().map(|(key, value)| Some((key.as_text()?, value.clone())));
            if let Some(named) = named.collect::<Option<Vec<_>>>() {
                self.named = named;
                self.list.pop();
            }
        }
    }
}
