//! What the body of a class says, call by call, with what the modules that it includes say of it.

use smol_str::SmolStr;

use super::super::program::Program;
use super::super::run::{Arguments, Called, Done, Framework, Object, Run, Scope, Value};
use crate::host::outline::Class;
use crate::source::{FileId, Span};

/// One call in the body of a class.
#[derive(Debug)]
pub(super) struct Macro<'p> {
    pub(super) name: SmolStr,
    pub(super) arguments: Arguments<'p>,
    pub(super) span: Span,
}

/// The body of a class while it is run.
pub(super) struct Body<'p> {
    /// The class, by its full name.
    class: SmolStr,
    pub(super) said: Vec<Macro<'p>>,
    /// Options that hold for all calls in a block.
    options: Vec<Vec<(SmolStr, Value<'p>)>>,
    /// Inside a scope, whose calls choose rows.
    in_scope: bool,
    /// How many conditions around this place are not decided.
    unsure: u32,
}

impl<'p> Body<'p> {
    /// Runs the bodies of a class, wherever it is opened.
    pub(super) fn of(
        run: &mut Run<'_, 'p>,
        opened: &[(FileId, &'p Class)],
        class: &SmolStr,
    ) -> Self {
        let mut body = Body {
            class: class.clone(),
            said: Vec::new(),
            options: Vec::new(),
            in_scope: false,
            unsure: 0,
        };
        for (file, opened) in opened {
            let own = Value::Class(class.clone());
            let scope = Scope::new(*file, class.clone(), own, None);
            // What raises an error is left where it does.
            let _left = run.statements(&scope, &opened.statements, &mut body);
        }
        body
    }

    /// What a module says of the class that includes it.
    fn include(&mut self, run: &mut Run<'_, 'p>, module: &SmolStr, span: Span) {
        let program: &Program<'p> = run.program;
        for (file, opened) in program.opened(module).to_vec() {
            let own = Value::Class(self.class.clone());
            let scope = Scope::new(file, module.clone(), own, None);
            let _left = run.statements(&scope, &opened.statements, self);
        }
        if program.method(module, "self.included").is_some() {
            let own = Value::Class(module.clone());
            let scope = Scope::new(span.file, module.clone(), own.clone(), None);
            let given = Arguments::of(vec![Value::Class(self.class.clone())]);
            let _left = run.method(&scope, Some(own), "included", given, span, self);
        }
    }

    fn within(&mut self, run: &mut Run<'_, 'p>, mut arguments: Arguments<'p>) -> Done<'p> {
        arguments.unfold();
        let Some(block) = arguments.block.clone() else { return Ok(Value::Nil) };
        self.options.push(arguments.named);
        let done = run.block(&block, vec![Value::Class(self.class.clone())], self);
        self.options.pop();
        done
    }

    fn own_call(
        &mut self,
        run: &mut Run<'_, 'p>,
        name: &str,
        mut arguments: Arguments<'p>,
        span: Span,
    ) -> Done<'p> {
        let own = || Ok(Value::Class(self.class.clone()));
        if self.in_scope {
            self.said.push(Macro { name: format!("({name})").into(), arguments, span });
            return own();
        }
        match name {
            "include" | "prepend" => {
                let modules: Vec<SmolStr> =
                    arguments.list.iter().filter_map(Value::as_text).collect();
                for module in modules {
                    let known = run.program.class(&self.class, &module).unwrap_or(module);
                    self.include(run, &known, span);
                }
                Ok(Value::Nil)
            }
            "included" | "prepended" => match arguments.block {
                Some(block) => {
                    let own = Value::Class(self.class.clone());
                    run.block_as(&block, Vec::new(), Some(own), self)
                }
                None => Ok(Value::Nil),
            },
            "with_options" => self.within(run, arguments),
            "default_scope" => {
                let Some(block) = arguments.block.clone() else { return Ok(Value::Nil) };
                self.in_scope = true;
                let _rows = run.block(&block, Vec::new(), self);
                self.in_scope = false;
                Ok(Value::Nil)
            }
            "ignored_columns" => Ok(Value::List(Vec::new())),
            "table_name" | "name" | "primary_key" => Ok(Value::Unknown(span)),
            _ => {
                for (option, value) in self.options.iter().rev().flatten() {
                    if arguments.named(option).is_none() {
                        arguments.named.push((option.clone(), value.clone()));
                    }
                }
                self.said.push(Macro { name: name.into(), arguments, span });
                Ok(Value::Nil)
            }
        }
    }
}

impl<'p> Framework<'p> for Body<'p> {
    fn call(&mut self, run: &mut Run<'_, 'p>, called: Called<'_, 'p>) -> Done<'p> {
        let Called { receiver, name, arguments, span, .. } = called;
        match receiver {
            Value::Class(class) if *class == self.class => {
                self.own_call(run, name, arguments, span)
            }
            Value::Object(Object::Own) => self.own_call(run, name, arguments, span),
            _ => Ok(Value::Unknown(span)),
        }
    }

    fn unsure(&mut self) {
        self.unsure += 1;
    }

    fn sure(&mut self, _: Span, _: bool) {
        self.unsure -= 1;
    }
}
