//! How names and texts are written: the one place that puts quotes around anything, with one file
//! for each language; a dialect with a language of its own has that file in its room. Whatever a
//! name or a text holds, what is written here stays one name or one text of the language;
//! `tests/hostile.rs` holds that.
//!
//! Names that a language cannot write at all are respelled before printing (`fit/names.rs`), by
//! [`identifier`].

pub mod case;
pub mod python;
pub mod ruby;
pub mod sql;
pub mod typescript;

use unicode_ident::{is_xid_continue, is_xid_start};
use unicode_normalization::UnicodeNormalization;

/// A name as the host languages take one (Unicode, annex 31: XID): compatible letters become the
/// ones that they stand for, as Python does itself (`m²` is `m2`), what is no letter or digit
/// becomes `_`, and no digit comes first.
pub fn identifier(name: &str) -> String {
    // Joiners are let in by newer editions of the standard than the languages go by.
    let letter = |letter: char| {
        if is_xid_continue(letter) && !matches!(letter, '\u{200c}' | '\u{200d}') {
            letter
        } else {
            '_'
        }
    };
    let mut out: String = name.nfkc().map(letter).collect();
    if !out.starts_with(|first: char| is_xid_start(first) || first == '_') {
        out.insert(0, 'n');
    }
    // Letters that stand together now may be written as one.
    out.nfkc().collect()
}

/// Whether every host language takes the name as it stands.
pub fn is_identifier(name: &str) -> bool {
    identifier(name) == name
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn names_become_identifiers() {
        for (name, expected) in [
            ("berth_id", "berth_id"),
            ("fläche_m²", "fläche_m2"),
            ("½", "n1_2"),
            ("٣", "n٣"),
            ("2nd", "n2nd"),
            ("depth (m)", "depth__m_"),
            ("x = 1\n    import os", "x___1_____import_os"),
            ("ﬁeld", "field"),
            ("a\u{200d}b", "a_b"),
            ("", "n"),
            ("_", "_"),
            ("\u{301}a", "\u{144}a"),
        ] {
            assert_eq!(identifier(name), expected, "{name:?}");
            assert!(is_identifier(&identifier(name)), "{name:?}");
        }
    }
}
