//! Texts of Prisma's schema language: as JSON writes them.

use unicode_normalization::UnicodeNormalization;

/// A name of letters, digits and underscores as Prisma's grammar takes them: letters of any script,
/// digits of ASCII alone.
pub(crate) fn identifier(name: &str) -> String {
    let letter =
        |letter: char| if letter.is_alphabetic() || letter.is_ascii_digit() { letter } else { '_' };
    name.nfkc().map(letter).collect()
}

/// A text in double quotes.
pub(crate) fn text(content: &str) -> String {
    serde_json::Value::from(content).to_string()
}
