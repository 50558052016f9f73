//! Letter cases of names.

/// A letter case.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Case {
    Verbatim,
    /// `PortCall` becomes `portcall`.
    Lower,
    /// `PortCall` becomes `port_call`, `HTTPLogV2` becomes `http_log_v2`.
    Snake,
    /// `port_call` becomes `portCall`; a first capital is made small.
    Camel,
    /// `port_call` becomes `PortCall`.
    Pascal,
    /// `portCall` becomes `port-call`.
    Kebab,
}

impl Case {
    /// `text` in this case.
    pub fn apply(self, text: &str) -> String {
        match self {
            Case::Verbatim => text.to_owned(),
            Case::Lower => text.to_lowercase(),
            Case::Snake => separated(text, '_'),
            Case::Kebab => separated(text, '-').replace('_', "-"),
            Case::Camel => joined(text, false),
            Case::Pascal => joined(text, true),
        }
    }
}

/// Lower case with a separator before each capital that starts a word.
fn separated(text: &str, separator: char) -> String {
    if !text.contains(char::is_uppercase) {
        return text.to_lowercase();
    }
    let mut out = String::with_capacity(text.len() + 4);
    let mut letters = text.chars().peekable();
    let mut before: Option<char> = None;
    while let Some(letter) = letters.next() {
        let starts_word = letter.is_uppercase()
            && match before {
                None => false,
                Some(before) if before.is_lowercase() || before.is_ascii_digit() => true,
                Some(before) => {
                    before.is_uppercase() && letters.peek().is_some_and(|next| next.is_lowercase())
                }
            };
        if starts_word {
            out.push(separator);
        }
        out.extend(letter.to_lowercase());
        before = Some(letter);
    }
    out
}

/// Words joined with a capital at each start; the first letter small unless `capital`.
fn joined(text: &str, capital: bool) -> String {
    let mut out = String::with_capacity(text.len());
    let mut raise = capital;
    for letter in text.chars() {
        if matches!(letter, '_' | '-' | ' ' | '.') && !out.is_empty() {
            raise = true;
        } else if raise {
            out.extend(letter.to_uppercase());
            raise = false;
        } else if out.is_empty() {
            out.extend(letter.to_lowercase());
        } else {
            out.push(letter);
        }
    }
    out
}
