//! Carrying the difference of two texts over to a third that says the same as the first in other
//! words.

use std::borrow::Cow;

use similar::{Algorithm, DiffOp, capture_diff_slices};

use super::FileEdit;
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

impl Edit {
    /// The same in the file of this path.
    pub(super) fn of_file(self, path: &str) -> FileEdit {
        FileEdit { path: path.to_owned(), start: self.start, end: self.end, text: self.text }
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
        out.push_str(&if carriage {
            Cow::Owned(edit.text.replace('\n', "\r\n"))
        } else {
            Cow::Borrowed(edit.text.as_str())
        });
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
    /// Words of the first text that stand there.
    pub(super) alike: usize,
}

/// What must be edited in `ours` so that it differs from `theirs` as it differs from `base`.
pub(super) fn merge(base: &str, theirs: &str, ours: &str, language: &Language) -> Merged {
    let (base_tokens, their_tokens, our_tokens) =
        (tokens(base, language), tokens(theirs, language), tokens(ours, language));
    let (texts, our_words) = ((words(&base_tokens), words(&their_tokens)), words(&our_tokens));
    let same = counterparts(&texts.0, &our_words);
    let carrying = Carrying {
        ours,
        theirs,
        our_tokens: &our_tokens,
        our_words: &our_words,
        their_tokens: &their_tokens,
    };
    let mut merged = Merged { alike: same.iter().flatten().count(), ..Merged::default() };
    let changes =
        joined(capture_diff_slices(Algorithm::Myers, &texts.0, &texts.1), &texts.0, &texts.1);
    let same_at = |at: Option<usize>| match at.and_then(|at| changes.get(at)) {
        Some(DiffOp::Equal { len, .. }) => *len,
        _ => 0,
    };
    for (at, change) in changes.iter().enumerate() {
        let room = (same_at(at.checked_sub(1)), same_at(Some(at + 1)));
        let edit = match *change {
            DiffOp::Equal { .. } => continue,
            DiffOp::Delete { old_index, old_len, .. } => {
                let gone = run(&same, old_index, old_len)
                    .map(|(first, last)| carrying.deletion(first, last, room));
                merged.unplaced += usize::from(gone.is_none());
                merged.placed.extend(gone.into_iter().flatten());
                continue;
            }
            DiffOp::Replace { old_index, old_len, new_index, new_len } => {
                run(&same, old_index, old_len).map(|(first, last)| Edit {
                    start: our_tokens[first].start,
                    end: our_tokens[last].end(),
                    text: carrying.text(new_index, new_len, first, false),
                })
            }
            DiffOp::Insert { old_index, new_index, new_len } => {
                let begins = |at: usize| begins_line(&their_tokens, theirs, at);
                // Blank lines before what follows are there already.
                let follows = |at: usize| {
                    let before = breaks(&base_tokens, base, old_index + at - new_index);
                    before > 0 && breaks(&their_tokens, theirs, at + new_len) == before
                };
                let by =
                    slide(&texts.1, (new_index, new_len), room, |at| begins(at) && follows(at));
                let (old_index, new_index) =
                    (old_index.saturating_add_signed(by), new_index.saturating_add_signed(by));
                // Where the printer had to break what was one line, the author's line stays one.
                let broken =
                    begins(new_index + new_len) && !begins_line(&base_tokens, base, old_index);
                if broken && texts.1[new_index..new_index + new_len] == [","] {
                    continue;
                }
                let before = old_index.checked_sub(1).and_then(|at| same[at]);
                carrying.insertion(
                    before,
                    same.get(old_index).copied().flatten(),
                    (new_index, new_len),
                    broken,
                )
            }
        };
        match edit {
            Some(edit) => merged.placed.push(edit),
            None => merged.unplaced += 1,
        }
    }
    merged
}

/// The end of the line of a token, if nothing but a comment follows in it: the comment stays with
/// the token.
fn after_comment(tokens: &[Token<'_>], text: &str, at: usize) -> Option<usize> {
    let next = tokens.get(at + 1).map_or(text.len(), |next| next.start);
    let end = tokens[at].end();
    text[end..next].find('\n').map(|line| end + text[end..end + line].trim_end().len())
}

/// The steps with fewer pieces: what is taken out (or put in) before and after words that stay is
/// one piece where these words stand at the end, or at the beginning, of it as well.
fn joined(steps: Vec<DiffOp>, base: &[&str], theirs: &[&str]) -> Vec<DiffOp> {
    let equal = |old_index: usize, new_index: usize, len: usize| DiffOp::Equal {
        old_index,
        new_index,
        len,
    };
    let mut out: Vec<DiffOp> = Vec::new();
    for step in steps {
        append(&mut out, step);
        let [.., one, stays, other] = out[..] else { continue };
        let DiffOp::Equal { len, .. } = stays else { continue };
        let (words, ranges) = match other {
            DiffOp::Delete { .. } => (base, [one, stays, other].map(|step| step.old_range())),
            DiffOp::Insert { .. } => (theirs, [one, stays, other].map(|step| step.new_range())),
            _ => continue,
        };
        if one.tag() != other.tag() {
            continue;
        }
        let [first, between, last] = ranges;
        let (length, (old, new)) =
            (first.len() + last.len(), (one.old_range().start, one.new_range().start));
        let ends = words[between.clone()] == words[last.end - len..last.end];
        let piece = |by: usize| match other {
            DiffOp::Delete { .. } => {
                DiffOp::Delete { old_index: old + by, old_len: length, new_index: new + by }
            }
            _ => DiffOp::Insert { old_index: old + by, new_index: new + by, new_len: length },
        };
        let deleted = matches!(other, DiffOp::Delete { .. });
        let pieces = match ends {
            true if deleted => [piece(0), equal(old + length, new, len)],
            true => [piece(0), equal(old, new + length, len)],
            false if words[first.start..first.start + len] == words[between] => {
                [equal(old, new, len), piece(len)]
            }
            false => continue,
        };
        out.truncate(out.len() - 3);
        pieces.into_iter().for_each(|piece| append(&mut out, piece));
    }
    out
}

/// Puts a step behind others; words that stay are one step.
fn append(steps: &mut Vec<DiffOp>, step: DiffOp) {
    match (steps.last_mut(), step) {
        (Some(DiffOp::Equal { len, .. }), DiffOp::Equal { len: more, .. }) => *len += more,
        _ => steps.push(step),
    }
}

fn begins_line(tokens: &[Token<'_>], text: &str, at: usize) -> bool {
    breaks(tokens, text, at) > 0
}

/// Line breaks before a token.
fn breaks(tokens: &[Token<'_>], text: &str, at: usize) -> usize {
    tokens.get(at).map_or(0, |token| text[token.lead..token.start].matches('\n').count())
}

/// By how many words a run that is taken out or put in is to be moved, the text staying the same,
/// to where it `fits`: of `x, y, z` without `y` one may take out `, y` or `y,`. There are so many
/// words on each side that do not change.
fn slide(
    words: &[&str],
    (first, length): (usize, usize),
    room: (usize, usize),
    fits: impl Fn(usize) -> bool,
) -> isize {
    let left =
        (1..=room.0.min(first)).take_while(|by| words[first - by] == words[first + length - by]);
    let right = (1..=room.1)
        .take_while(|by| words.get(first + length + by - 1) == Some(&words[first + by - 1]));
    let left = left.map(|by| -(by as isize));
    let right = right.map(|by| by as isize);
    std::iter::once(0)
        .chain(left)
        .chain(right)
        .find(|by| fits(first.saturating_add_signed(*by)))
        .unwrap_or(0)
}

fn words<'t>(tokens: &[Token<'t>]) -> Vec<&'t str> {
    tokens.iter().map(|token| token.text).collect()
}

/// For each token of the first text its counterpart in the second.
fn counterparts(base: &[&str], ours: &[&str]) -> Vec<Option<usize>> {
    let mut same = vec![None; base.len()];
    for step in capture_diff_slices(Algorithm::Myers, base, ours) {
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
    our_words: &'t [&'t str],
    their_tokens: &'t [Token<'t>],
}

impl Carrying<'_> {
    /// Tokens taken out. A comment at the end of their last line goes with them; what stands above
    /// them, or at the end of the line before, stays.
    fn deletion(&self, first: usize, last: usize, room: (usize, usize)) -> Vec<Edit> {
        let cut = |start: usize, end: usize| Edit { start, end, text: String::new() };
        let length = last - first + 1;
        let by = slide(self.our_words, (first, length), room, |at| {
            self.begins_line(at) && self.ends_line(at + length - 1)
        });
        let (first, last) = (first.saturating_add_signed(by), last.saturating_add_signed(by));
        let whole = cut(self.our_tokens[first].lead, self.our_tokens[last].end());
        let Some(line) = (first..=last).find(|at| self.begins_line(*at)) else {
            return vec![whole];
        };
        match (line == first, self.ends_line(last)) {
            (true, true) => vec![self.lines(first, last)],
            (true, false) => {
                vec![cut(self.our_tokens[first].start, self.our_tokens[last + 1].start)]
            }
            (false, true) => vec![
                cut(self.our_tokens[first].lead, self.our_tokens[line - 1].end()),
                self.lines(line, last),
            ],
            (false, false) => vec![whole],
        }
    }

    fn begins_line(&self, at: usize) -> bool {
        begins_line(self.our_tokens, self.ours, at)
    }

    fn ends_line(&self, at: usize) -> bool {
        at + 1 == self.our_tokens.len() || after_comment(self.our_tokens, self.ours, at).is_some()
    }

    /// Lines of these tokens taken out, with the blank lines above them where others follow.
    fn lines(&self, first: usize, last: usize) -> Edit {
        let token = self.our_tokens[first];
        let above = &self.ours[token.lead..token.start];
        let above = &above[..above.rfind('\n').unwrap_or_default()];
        let end = after_comment(self.our_tokens, self.ours, last).unwrap_or(self.ours.len());
        let below =
            self.ours[end..].trim_start_matches('\r').strip_prefix('\n').unwrap_or_default();
        let blank = below.lines().next().is_none_or(|line| line.trim().is_empty());
        let kept = if blank { above.trim_end() } else { above.trim_end_matches('\r') };
        Edit { start: token.lead + kept.len(), end, text: String::new() }
    }

    /// New tokens (their first and their number), put behind or before the counterpart of a
    /// neighbour.
    fn insertion(
        &self,
        before: Option<usize>,
        after: Option<usize>,
        (first, length): (usize, usize),
        one_line: bool,
    ) -> Option<Edit> {
        if let Some(anchor) = before {
            let text = match one_line {
                true => self.in_one_line(first, length),
                false => self.text(first, length, anchor, true),
            };
            let end = self.our_tokens[anchor].end();
            let at = if text.starts_with('\n') {
                after_comment(self.our_tokens, self.ours, anchor).unwrap_or(end)
            } else {
                end
            };
            return Some(Edit { start: at, end: at, text });
        }
        let anchor = after?;
        let at = self.our_tokens[anchor].start;
        let next = self.their_tokens.get(first + length);
        let gap = next.map_or("", |next| &self.theirs[next.lead..next.start]);
        Some(Edit { start: at, end: at, text: self.text(first, length, anchor, false) + gap })
    }

    /// Tokens of `theirs` as they are written in one line: without line breaks, and without the
    /// comma that ends the last line.
    fn in_one_line(&self, first: usize, length: usize) -> String {
        let text = |at: usize| self.their_tokens.get(at).map_or("", |token| token.text);
        let mut out = String::new();
        for (at, token) in self.their_tokens.iter().enumerate().skip(first).take(length) {
            let several = at + 1 == first + length && at > first && text(first) == ",";
            let ends = matches!(text(at + 1), "]" | "}") || (several && text(at + 1) == ")");
            if token.text == "," && ends && begins_line(self.their_tokens, self.theirs, at + 1) {
                continue;
            }
            let lead = &self.theirs[token.lead..token.start];
            let within =
                matches!(token.text, ")" | "]") || (at > 0 && matches!(text(at - 1), "(" | "["));
            out.push_str(match lead.contains('\n') {
                true if within => "",
                true => " ",
                false => lead,
            });
            out.push_str(token.text);
        }
        out
    }

    /// Tokens of `theirs`, with what stands before the first one or without, indented as the text
    /// around `anchor` is.
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
        let their_anchor =
            self.their_tokens[first.saturating_sub(1).min(self.their_tokens.len() - 1)].start;
        let (their_line, our_line) = (
            indentation_at(self.theirs, their_anchor),
            indentation_at(self.ours, self.our_tokens[anchor].start),
        );
        let (their_unit, our_unit) = (unit(self.theirs), unit(self.ours));
        let deeper =
            (width as isize - their_line.len() as isize) / their_unit as isize * our_unit as isize;
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
    use crate::host::python::PYTHON;

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
        // What is taken out takes its own comment along, and no other.
        (
            "x = 1\ny = 2\nz = 3\n",
            "x = 1\nz = 3\n",
            "x = 1  # x\n# more\ny = 2  # y\nz = 3  # z\n",
            Some("x = 1  # x\n# more\nz = 3  # z\n"),
        ),
        (
            "x = 1\ny = 2\nz = 3\n",
            "x = 1\nz = 3\n",
            "x = 1\r\ny = 2 # y\r\nz = 3\r\n",
            Some("x = 1\r\nz = 3\r\n"),
        ),
        ("x = 1\ny = 2\n", "x = 1\n", "x = 1\n\n# more\n\ny = 2\n\n", Some("x = 1\n\n# more\n\n")),
        ("[a, b]", "[a]", "[\n  a,  # a\n  b,  # b\n]", Some("[\n  a,  # a\n]")),
        ("[a, b]", "[a]", "[\n  a,  # a\n  b  # b\n]", Some("[\n  a  # a\n]")),
        ("[a, b, c]", "[b, c]", "[\n  a, b,\n  c]", Some("[\n  b,\n  c]")),
        (
            "t = (
    s.u(\"i\", n=\"u\"),
    s.c(\"x\", n=\"r\"),
    s.i(None, \"i\", p=[\"l\"]),
)

a = 1
",
            "t = (s.c(\"x\", n=\"r\"),)\n\na = 1\n",
            "t = (  # 21
    # 22
    s.u(\"i\", n=\"u\"),
    s.c(\"x\", n=\"r\"),  # 23
    # 24
    s.i(None, \"i\", p=[\"l\"]),
)  # 25

a = 1
",
            Some(
                "t = (  # 21
    # 22
    s.c(\"x\", n=\"r\"),  # 23
    # 24
)  # 25

a = 1
",
            ),
        ),
        (
            "t(a, i(n, p[1]), )",
            "t(a, )",
            "t(\n  a,\n  i(n, p[1]),  # i\n)  # t",
            Some("t(\n  a,\n)  # t"),
        ),
        ("f(a)", "f(\n    a,\n    b,\n)", "f(a)", Some("f(a, b)")),
        ("{ a }", "{\n  a,\n  b: [\n    { c },\n  ],\n}", "{ a }", Some("{ a, b: [{ c }] }")),
        ("x;\n\n@a\ny;", "x;\n\n@b\n@a\ny;", "x;\n\n@a  # a\ny;", Some("x;\n\n@b\n@a  # a\ny;")),
        ("f({ a })", "f()", "f({\n  a,\n})", None),
        ("{ a, c }", "{\n  a,\n  b,\n  c,\n}", "{ a, c }", Some("{ a, b, c }")),
        ("f(1)", "f(2)", "g(3)", None),
    ];

    #[test]
    fn a_difference_is_carried_over_to_a_text_in_other_words() {
        for (base, theirs, ours, expected) in CASES {
            let merged = merge(base, theirs, ours, &PYTHON);
            let edited = (merged.unplaced == 0)
                .then(|| apply(ours, &merged.placed.iter().collect::<Vec<_>>()));
            assert_eq!(edited.as_deref(), *expected, "{base} -> {theirs} in {ours}");
        }
    }
}
