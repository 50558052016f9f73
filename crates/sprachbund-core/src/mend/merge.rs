//! Carrying the difference of two texts over to a third that says the same as the first in other words.

use std::borrow::Cow;

use similar::{Algorithm, DiffOp, capture_diff_slices};

use super::tokens::{Token, tokens};
use crate::host::Language;

/// Text to be put in the place of a range of bytes.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(super) struct Edit {
    pub(super) start: usize,
    pub(super) end: usize,
    pub(super) text: String,
}

impl Edit {
    /// The same in a text of which the first is a part, from `by` on.
    pub(super) fn moved(self, by: usize) -> Self {
        Edit { start: self.start + by, end: self.end + by, ..self }
    }
}

/// A text after its edits, which must not overlap.
pub(super) fn apply(text: &str, edits: &[&Edit]) -> String {
    let mut edits: Vec<&Edit> = edits.to_vec();
    edits.sort_by_key(|edit| (edit.start, edit.end));
    let (mut out, mut at) = (String::with_capacity(text.len()), 0);
    // Lines end as the author's do.
    let carriage = text.contains("\r\n");
    for edit in edits {
        out.push_str(text.get(at..edit.start).unwrap_or_default());
        out.push_str(&if carriage { Cow::Owned(edit.text.replace('\n', "\r\n")) } else { Cow::Borrowed(edit.text.as_str()) });
        at = edit.end.max(at);
    }
    out + text.get(at..).unwrap_or_default()
}

/// What a difference comes to in another text.
#[derive(Debug, Default)]
pub(super) struct Merged {
    pub(super) placed: Vec<Edit>,
    /// Changes of what does not stand there as it stands in the first text.
    pub(super) unplaced: usize,
}

/// What must be edited in `ours` so that it differs from `theirs` as it differs from `base`.
pub(super) fn merge(base: &str, theirs: &str, ours: &str, language: Language) -> Merged {
    let (base_tokens, their_tokens, our_tokens) = (tokens(base, language), tokens(theirs, language), tokens(ours, language));
    let same = counterparts(&base_tokens, &our_tokens);
    let texts = (words(&base_tokens), words(&their_tokens));
    let carrying = Carrying { ours, theirs, our_tokens: &our_tokens, their_tokens: &their_tokens };
    let mut merged = Merged::default();
    for change in capture_diff_slices(Algorithm::Myers, &texts.0, &texts.1) {
        let edit = match change {
            DiffOp::Equal { .. } => continue,
            DiffOp::Delete { old_index, old_len, .. } => run(&same, old_index, old_len).map(|(first, last)| Edit {
                start: our_tokens[first].lead,
                end: our_tokens[last].end(),
                text: String::new(),
            }),
            DiffOp::Replace { old_index, old_len, new_index, new_len } => run(&same, old_index, old_len).map(|(first, last)| Edit {
                start: our_tokens[first].start,
                end: our_tokens[last].end(),
                text: carrying.text(new_index, new_len, first, false),
            }),
            DiffOp::Insert { old_index, new_index, new_len } => {
                // Where the printer had to break what was one line, the author's line stays one.
                let breaks =
                    |token: Option<&Token<'_>>, text: &str| token.is_some_and(|token| text[token.lead..token.start].contains('\n'));
                let broken = breaks(their_tokens.get(new_index + new_len), theirs) && !breaks(base_tokens.get(old_index), base);
                if broken && texts.1[new_index..new_index + new_len] == [","] {
                    continue;
                }
                let before = old_index.checked_sub(1).and_then(|at| same[at]);
                carrying.insertion(before, same.get(old_index).copied().flatten(), (new_index, new_len), broken)
            }
        };
        match edit {
            Some(edit) => merged.placed.push(edit),
            None => merged.unplaced += 1,
        }
    }
    merged
}

/// The end of the line of a token, if nothing but a comment follows in it: the comment stays with the token.
fn after_comment(tokens: &[Token<'_>], text: &str, at: usize) -> Option<usize> {
    let next = tokens.get(at + 1).map_or(text.len(), |next| next.start);
    let end = tokens[at].end();
    text[end..next].find('\n').map(|line| end + text[end..end + line].trim_end().len())
}

fn words<'t>(tokens: &[Token<'t>]) -> Vec<&'t str> {
    tokens.iter().map(|token| token.text).collect()
}

/// For each token of the first text its counterpart in the second.
fn counterparts(base: &[Token<'_>], ours: &[Token<'_>]) -> Vec<Option<usize>> {
    let mut same = vec![None; base.len()];
    for step in capture_diff_slices(Algorithm::Myers, &words(base), &words(ours)) {
        if let DiffOp::Equal { old_index, new_index, len } = step {
            (0..len).for_each(|at| same[old_index + at] = Some(new_index + at));
        }
    }
    same
}

/// The first and the last of the counterparts, if they stand together.
fn run(same: &[Option<usize>], first: usize, length: usize) -> Option<(usize, usize)> {
    let start = same[first]?;
    let together = (0..length).all(|at| same[first + at] == Some(start + at));
    together.then_some((start, start + length - 1))
}

struct Carrying<'t> {
    ours: &'t str,
    theirs: &'t str,
    our_tokens: &'t [Token<'t>],
    their_tokens: &'t [Token<'t>],
}

impl Carrying<'_> {
    /// New tokens (their first and their number), put behind or before the counterpart of a neighbour.
    fn insertion(&self, before: Option<usize>, after: Option<usize>, (first, length): (usize, usize), one_line: bool) -> Option<Edit> {
        if let Some(anchor) = before {
            let text = match one_line {
                true => self.in_one_line(first, length),
                false => self.text(first, length, anchor, true),
            };
            let end = self.our_tokens[anchor].end();
            let at = if text.starts_with('\n') { after_comment(self.our_tokens, self.ours, anchor).unwrap_or(end) } else { end };
            return Some(Edit { start: at, end: at, text });
        }
        let anchor = after?;
        let at = self.our_tokens[anchor].start;
        let next = self.their_tokens.get(first + length);
        let gap = next.map_or("", |next| &self.theirs[next.lead..next.start]);
        Some(Edit { start: at, end: at, text: self.text(first, length, anchor, false) + gap })
    }

    /// Tokens of `theirs` with a blank in the place of each line break.
    fn in_one_line(&self, first: usize, length: usize) -> String {
        let tokens = self.their_tokens.iter().skip(first).take(length);
        let one = |token: &Token<'_>| {
            let lead = &self.theirs[token.lead..token.start];
            format!("{}{}", if lead.contains('\n') { " " } else { lead }, token.text)
        };
        tokens.map(one).collect()
    }

    /// Tokens of `theirs`, with what stands before the first one or without, indented as the text around `anchor` is.
    fn text(&self, first: usize, length: usize, anchor: usize, with_lead: bool) -> String {
        let mut out = String::new();
        for (at, token) in self.their_tokens.iter().enumerate().skip(first).take(length) {
            let lead = &self.theirs[token.lead..token.start];
            match lead.rfind('\n') {
                _ if at == first && !with_lead => {}
                None => out.push_str(lead),
                Some(line) => {
                    let breaks = lead[..=line].matches('\n').count();
                    out.push_str(&"\n".repeat(breaks));
                    out.push_str(&self.indentation(first, lead.len() - line - 1, anchor));
                }
            }
            out.push_str(token.text);
        }
        out
    }

    /// Blanks that stand in `ours` for `width` blanks in `theirs`.
    fn indentation(&self, first: usize, width: usize, anchor: usize) -> String {
        let their_anchor = self.their_tokens[first.saturating_sub(1).min(self.their_tokens.len() - 1)].start;
        let (their_line, our_line) = (indentation_at(self.theirs, their_anchor), indentation_at(self.ours, self.our_tokens[anchor].start));
        let (their_unit, our_unit) = (unit(self.theirs), unit(self.ours));
        let deeper = (width as isize - their_line.len() as isize) / their_unit as isize * our_unit as isize;
        let blanks = (our_line.len() as isize + deeper).max(0) as usize;
        if our_line.starts_with('\t') { "\t".repeat(blanks) } else { " ".repeat(blanks) }
    }
}

/// The blanks at the beginning of the line of this place.
fn indentation_at(text: &str, at: usize) -> &str {
    let start = text[..at].rfind('\n').map_or(0, |line| line + 1);
    let line = &text[start..];
    &line[..line.len() - line.trim_start_matches([' ', '\t']).len()]
}

/// How far one level is indented.
fn unit(text: &str) -> usize {
    let indented = text.lines().skip(1).filter(|line| !line.trim().is_empty());
    indented.map(|line| indentation_at(line, 0).len()).filter(|width| *width > 0).min().unwrap_or(4)
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Base, theirs, ours, and what ours becomes.
    const CASES: &[(&str, &str, &str, Option<&str>)] = &[
        ("f(a)", "f(a, b)", "f( a , x )  # why\n", Some("f( a, b , x )  # why\n")),
        ("f(a, b)", "f(a)", "f(\n  a,\n  b,\n)", Some("f(\n  a,\n)")),
        (
            "class A:\n    x = 1\n",
            "class A:\n    x = 1\n    y = 2\n",
            "class A:\n  x = 1  # one\n",
            Some("class A:\n  x = 1  # one\n  y = 2\n"),
        ),
        ("x = 1\n", "x = 1\ny = 2\n", "x = 1\r\n", Some("x = 1\r\ny = 2\r\n")),
        ("{ a, c }", "{\n  a,\n  b,\n  c,\n}", "{ a, c }", Some("{ a, b, c }")),
        ("f(1)", "f(2)", "g(3)", None),
    ];

    #[test]
    fn a_difference_is_carried_over_to_a_text_in_other_words() {
        for (base, theirs, ours, expected) in CASES {
            let merged = merge(base, theirs, ours, Language::Python);
            let edited = (merged.unplaced == 0).then(|| apply(ours, &merged.placed.iter().collect::<Vec<_>>()));
            assert_eq!(edited.as_deref(), *expected, "{base} -> {theirs} in {ours}");
        }
    }
}
