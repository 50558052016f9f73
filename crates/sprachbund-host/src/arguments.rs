//! Arguments of a call, taken one by one; what nobody took is kept, so that nothing goes unread.

use serde_json::{Value, json};
use smol_str::{SmolStr, format_smolstr};

use crate::codes;
use crate::diagnostic::Diagnostic;
use crate::evaluate::{Scope, constant};
use crate::outline::{Expr, ExprKind};
use crate::schema::Extras;
use crate::source::Span;

/// Arguments by name. Values are evaluated in their scope.
pub struct Arguments<'p> {
    pub scope: Scope<'p>,
    entries: Vec<(SmolStr, Expr)>,
}

impl<'p> Arguments<'p> {
    /// Named arguments, and positional ones under the names of their places.
    pub fn of_call(
        scope: Scope<'p>,
        positional: &[Expr],
        places: &[&str],
        named: &[(SmolStr, Expr)],
    ) -> Self {
        let mut entries = Vec::with_capacity(positional.len() + named.len());
        for (at, argument) in positional.iter().enumerate() {
            match &argument.kind {
                ExprKind::Spread(inner) => push_map(&mut entries, scope.value(inner)),
                _ => entries.push((
                    places
                        .get(at)
                        .map_or_else(|| format_smolstr!("argument {}", at + 1), SmolStr::new),
                    argument.clone(),
                )),
            }
        }
        for (name, value) in named {
            entries.push((name.clone(), value.clone()));
        }
        Arguments { scope, entries }
    }

    /// The entries of an object literal.
    pub fn of_object(scope: Scope<'p>, object: &Expr) -> Self {
        let mut entries = Vec::new();
        push_map(&mut entries, scope.value(object));
        Arguments { scope, entries }
    }

    /// Adds arguments that are not given yet.
    pub fn extend_missing(&mut self, others: Vec<(SmolStr, Expr)>) {
        for (name, value) in others {
            if !self.has(&name) {
                self.entries.push((name, value));
            }
        }
    }

    /// Whether the argument is given (and not yet taken).
    pub fn has(&self, name: &str) -> bool {
        self.entries.iter().any(|(known, _)| known == name)
    }

    /// Takes the argument as written.
    pub fn take_raw(&mut self, name: &str) -> Option<Expr> {
        let at = self.entries.iter().position(|(known, _)| known == name)?;
        Some(self.entries.remove(at).1)
    }

    /// Takes the argument with everything known put in.
    pub fn take(&mut self, name: &str) -> Option<Expr> {
        self.take_raw(name).map(|expr| self.scope.value(&expr))
    }

    /// Takes a truth value; anything else stays.
    pub fn take_bool(&mut self, name: &str) -> Option<bool> {
        self.take_as(name, Expr::boolean)
    }

    /// Takes a whole number (or text that is one); anything else stays.
    pub fn take_number(&mut self, name: &str) -> Option<u32> {
        self.take_as(name, |expr| expr.number().or_else(|| expr.text()?.parse().ok()))
    }

    /// Takes a text; anything else stays.
    pub fn take_text(&mut self, name: &str) -> Option<String> {
        self.take_as(name, |expr| expr.text().map(str::to_owned))
    }

    fn take_as<T>(&mut self, name: &str, read: impl Fn(&Expr) -> Option<T>) -> Option<T> {
        let at = self.entries.iter().position(|(known, _)| known == name)?;
        let value = read(&self.scope.value(&self.entries[at].1))?;
        self.entries.remove(at);
        Some(value)
    }

    /// A word on everything that nobody took of `whole`, where there is no place to keep it.
    pub fn unread(self, whole: &str, at: Span) -> Option<Diagnostic> {
        let names: Vec<String> = self.entries.iter().map(|(name, _)| format!("`{name}`")).collect();
        (!names.is_empty()).then(|| {
            Diagnostic::of(
                &codes::UNREAD_OPTION,
                format!("{} of {whole} was not read: it is left out", names.join(", ")),
            )
            .at(Some(at), "has an option that is not known")
        })
    }

    /// Everything that nobody took, as extras.
    pub fn into_extras(self) -> Extras {
        let Arguments { scope, entries } = self;
        entries.into_iter().map(|(name, value)| (name.to_string(), kept(&scope, &value))).collect()
    }
}

fn push_map(entries: &mut Vec<(SmolStr, Expr)>, expr: Expr) {
    match expr.kind {
        ExprKind::Map(pairs) => {
            for (key, value) in pairs {
                let name = SmolStr::new(key.text().unwrap_or("..."));
                // What is said again takes the place of what was said before.
                match entries.iter_mut().find(|(known, _)| *known == name && key.text().is_some()) {
                    Some(known) => known.1 = value,
                    None => entries.push((name, value)),
                }
            }
        }
        _ => entries.push((SmolStr::new_static("..."), expr)),
    }
}

/// A value as extras keep it: a constant, or the text of its code.
pub fn kept(scope: &Scope<'_>, expr: &Expr) -> Value {
    let value = scope.value(expr);
    match constant(&value) {
        Some(value) => value,
        None => json!({ "code": scope.project.sources.text(expr.span) }),
    }
}
