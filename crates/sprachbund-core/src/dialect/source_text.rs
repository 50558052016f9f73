//! What printers share: lines with indentation, and argument lists that are broken when they are long.

/// Longest line that is left whole.
const WIDTH: usize = 100;

/// A text that grows line by line.
pub(crate) struct SourceText {
    text: String,
    /// Spaces of one step of indentation.
    step: usize,
}

impl SourceText {
    /// An empty text with this step of indentation (in spaces).
    pub(crate) fn new(step: usize) -> Self {
        SourceText { text: String::new(), step }
    }

    /// A line at an indentation (in spaces).
    pub(crate) fn line(&mut self, indent: usize, text: &str) {
        if !text.is_empty() {
            self.text.extend(std::iter::repeat_n(' ', indent));
            self.text.push_str(text);
        }
        self.text.push('\n');
    }

    /// An empty line, unless there is one already.
    pub(crate) fn gap(&mut self) {
        if !self.text.is_empty() && !self.text.ends_with("\n\n") {
            self.text.push('\n');
        }
    }

    /// `head` `items` `tail` in one line, or with one item a line when that would be long.
    pub(crate) fn list(&mut self, indent: usize, head: &str, items: &[String], tail: &str) {
        let whole = format!("{head}{}{tail}", items.join(", "));
        if indent + whole.chars().count() <= WIDTH && !whole.contains('\n') {
            return self.line(indent, &whole);
        }
        self.line(indent, head.trim_end());
        for item in items {
            self.line(indent + self.step, &format!("{item},"));
        }
        self.line(indent, tail.trim_start());
    }

    /// The text so far.
    pub(crate) fn finish(self) -> String {
        self.text
    }
}
