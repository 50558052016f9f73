//! How much evaluation may cost. A few lines of constants can hold each other so that their value
//! is larger than any memory; what a text is worth may therefore be only so much larger than the
//! text. What is too large stays unknown, and is named.

use std::cell::Cell;
use std::collections::BTreeMap;
use std::sync::Mutex;
use std::sync::atomic::{AtomicU64, Ordering};

use crate::codes;
use crate::diagnostic::Diagnostic;
use crate::outline::{Expr, ExprKind};
use crate::source::{FileId, Span};

/// Steps that every value may take, and how many more for each byte of the project's files. A step
/// makes one part of a value, or sixteen bytes of a text.
const STEPS: u64 = 50_000;
const STEPS_OF_A_BYTE: u64 = 10;

/// All values of a run together may take so many times the steps of one.
const VALUES: u64 = 4;

/// What a run may spend, and what was too large for it.
#[derive(Debug, Default)]
pub struct Budget {
    bytes: u64,
    spent: AtomicU64,
    too_large: Mutex<BTreeMap<(FileId, u32), Span>>,
}

impl Budget {
    /// Counts the text of a file, from which values are made.
    pub(crate) fn add_text(&mut self, bytes: usize) {
        self.bytes += bytes as u64;
    }

    fn of_a_value(&self) -> u64 {
        STEPS + STEPS_OF_A_BYTE * self.bytes
    }

    /// Spends steps that belong to no single value; false when nothing is left.
    pub fn spend(&self, steps: u64) -> bool {
        self.spent.fetch_add(steps, Ordering::Relaxed) + steps <= VALUES * self.of_a_value()
    }

    /// Remembers a place whose value was given up.
    pub fn give_up(&self, span: Span) {
        if let Ok(mut known) = self.too_large.lock() {
            known.insert((span.file, span.start), span);
        }
    }

    /// What is said of the places that were given up, in their order.
    pub fn diagnostics(&self) -> Vec<Diagnostic> {
        let Ok(known) = self.too_large.lock() else { return Vec::new() };
        let most = self.of_a_value();
        let one = |span: &Span| {
            Diagnostic::of(
                &codes::VALUE_TOO_LARGE,
                "the value that stands here is too large to be worked out: it stays unknown",
            )
            .at(
                Some(*span),
                "made of constants that hold each other, or of functions that call each other",
            )
            .because(format!(
                "a value may have {most} parts, and all values together {}",
                most * VALUES
            ))
            .with_help("write the value out, or leave the file out")
        };
        known.values().map(one).collect()
    }
}

/// The effort for one value.
pub(crate) struct Effort<'p> {
    budget: &'p Budget,
    spent: Cell<u64>,
    over: Cell<bool>,
}

impl<'p> Effort<'p> {
    pub(crate) fn of(budget: &'p Budget) -> Self {
        Effort { budget, spent: Cell::new(0), over: Cell::new(false) }
    }

    /// Whether so many more steps may be taken. Once one may not, none may.
    pub(crate) fn takes(&self, steps: u64) -> bool {
        self.spent.set(self.spent.get() + steps);
        if self.spent.get() > self.budget.of_a_value() || !self.budget.spend(steps) {
            self.over.set(true);
        }
        !self.over.get()
    }

    /// Whether a value may be copied as it stands.
    pub(crate) fn takes_copy_of(&self, expr: &Expr) -> bool {
        self.takes(parts(expr, self.budget.of_a_value()))
    }

    /// Whether the value must be given up.
    pub(crate) fn is_over(&self) -> bool {
        self.over.get()
    }

    /// The value, or nothing known at the place of one that was too large.
    pub(crate) fn settled(&self, value: Expr, written: &Expr) -> Expr {
        if !self.is_over() {
            return value;
        }
        self.budget.give_up(written.span);
        Expr { kind: ExprKind::Opaque, span: written.span }
    }
}

/// Parts of a value, counted up to `most`.
fn parts(expr: &Expr, most: u64) -> u64 {
    let mut waiting = vec![expr];
    let mut count = 0;
    while let Some(expr) = waiting.pop() {
        count += 1;
        if count > most {
            break;
        }
        match &expr.kind {
            ExprKind::Call(call) => {
                waiting.push(&call.callee);
                waiting
                    .extend(call.arguments.iter().chain(call.named.iter().map(|(_, value)| value)));
            }
            ExprKind::List(items) | ExprKind::Operation { operands: items, .. } => {
                waiting.extend(items)
            }
            ExprKind::Map(pairs) => {
                waiting.extend(pairs.iter().flat_map(|(key, value)| [key, value]))
            }
            ExprKind::Spread(inner) => waiting.push(inner),
            ExprKind::Function { returns, .. } => waiting.extend(returns.as_deref()),
            ExprKind::Text(_)
            | ExprKind::Number(_)
            | ExprKind::Boolean(_)
            | ExprKind::Null
            | ExprKind::Name(_)
            | ExprKind::Opaque => {}
        }
    }
    count
}

/// Steps that a text of this length takes.
pub(crate) fn of_text(bytes: usize) -> u64 {
    bytes as u64 / 16
}
