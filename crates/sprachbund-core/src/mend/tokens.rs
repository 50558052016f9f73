//! Texts as tokens: what stands between them (blanks, line breaks, comments) belongs to the one
//! after.

use crate::host::Language;

/// A token and the place where what stands before it begins.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) struct Token<'t> {
    pub(super) lead: usize,
    pub(super) start: usize,
    pub(super) text: &'t str,
}

impl Token<'_> {
    pub(super) fn end(&self) -> usize {
        self.start + self.text.len()
    }
}

/// The tokens of a text. A text that is no program of the language gives tokens all the same.
pub(super) fn tokens<'t>(text: &'t str, language: &Language) -> Vec<Token<'t>> {
    let (mut found, mut lead, mut at) = (Vec::new(), 0, 0);
    while let Some(first) = text[at..].chars().next() {
        let rest = &text[at..];
        if let Some(length) = between(rest, first, language) {
            at += length;
            continue;
        }
        let length = length_of(rest, first, language);
        found.push(Token { lead, start: at, text: &rest[..length] });
        at += length;
        lead = at;
    }
    found
}

/// Bytes of the blank or the comment that a text begins with.
fn between(rest: &str, first: char, language: &Language) -> Option<usize> {
    if first.is_whitespace() {
        return Some(first.len_utf8());
    }
    if rest.starts_with(language.layout.comment) {
        return Some(rest.find('\n').unwrap_or(rest.len()));
    }
    let block = language.layout.block_comments && rest.starts_with("/*");
    block.then(|| rest.find("*/").map_or(rest.len(), |end| end + 2))
}

/// Bytes of the word, the number, the text in quotes or the sign that a text begins with.
fn length_of(rest: &str, first: char, language: &Language) -> usize {
    if first.is_alphanumeric() || first == '_' {
        return rest
            .find(|letter: char| !(letter.is_alphanumeric() || letter == '_'))
            .unwrap_or(rest.len());
    }
    if !matches!(first, '"' | '\'' | '`') {
        return first.len_utf8();
    }
    let three = rest.get(..3).unwrap_or_default();
    if language.layout.triple_quotes && (three == "\"\"\"" || three == "'''") {
        return rest[3..].find(three).map_or(rest.len(), |end| end + 6);
    }
    let mut escaped = false;
    for (at, letter) in rest.char_indices().skip(1) {
        match letter {
            _ if escaped => escaped = false,
            '\\' if language.layout.backslashes => escaped = true,
            letter if letter == first => return at + letter.len_utf8(),
            _ => {}
        }
    }
    rest.len()
}
