//! What printers share: lines with indentation, and argument lists that are broken when they are
//! long.

use std::collections::BTreeSet;

use crate::declaration::Model;

/// Longest line that is left whole.
const WIDTH: usize = 100;

/// A text that grows line by line.
pub struct SourceText {
    text: String,
    /// Spaces of one step of indentation.
    step: usize,
}

impl SourceText {
    /// An empty text with this step of indentation (in spaces).
    pub fn new(step: usize) -> Self {
        SourceText { text: String::new(), step }
    }

    /// A line at an indentation (in spaces).
    pub fn line(&mut self, indent: usize, text: &str) {
        if !text.is_empty() {
            self.text.extend(std::iter::repeat_n(' ', indent));
            self.text.push_str(text);
        }
        self.text.push('\n');
    }

    /// An empty line, unless there is one already.
    pub fn gap(&mut self) {
        if !self.text.is_empty() && !self.text.ends_with("\n\n") {
            self.text.push('\n');
        }
    }

    /// `head` `items` `tail` in one line, or with one item a line when that would be long.
    pub fn list(&mut self, indent: usize, head: &str, items: &[String], tail: &str) {
        let whole = format!("{head}{}{tail}", items.join(", "));
        if indent + whole.chars().count() <= WIDTH && !whole.contains('\n') {
            return self.line(indent, &whole);
        }
        self.lines(indent, head.trim_end(), items, tail.trim_start_matches([' ', ',']));
    }

    /// `head`, one item a line, and `tail`.
    pub fn lines(&mut self, indent: usize, head: &str, items: &[String], tail: &str) {
        self.line(indent, head);
        for item in items {
            self.line(indent + self.step, &format!("{item},"));
        }
        self.line(indent, tail);
    }

    /// The text so far.
    pub fn finish(self) -> String {
        self.text
    }
}

/// Classes after the classes that they extend, otherwise in their order.
pub fn parents_first<'m>(models: &[&'m Model]) -> Vec<&'m Model> {
    let mut sorted: Vec<&Model> = Vec::with_capacity(models.len());
    let mut waiting: Vec<&'m Model> = models.to_vec();
    while !waiting.is_empty() {
        let known: BTreeSet<&str> = waiting.iter().map(|model| model.id.as_str()).collect();
        let (later, now): (Vec<_>, Vec<_>) = waiting.iter().copied().partition(|model| {
            model.extends.iter().any(|id| id != &model.id && known.contains(id.as_str()))
        });
        if now.is_empty() {
            sorted.extend(later);
            break;
        }
        sorted.extend(now);
        waiting = later;
    }
    sorted
}
