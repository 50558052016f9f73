//! Addresses of databases: URLs, and files of SQLite.
//!
//! What a person typed may hold a password. It lives in two types only, [`AddressText`] as typed
//! and `Address` taken apart, and neither can print it: `Display` and `Debug` leave it out.

#[cfg(feature = "clients")]
mod parts;

use std::fmt;
use std::path::Path;

use sprachbund_core::schema::Database;

#[cfg(feature = "clients")]
pub(crate) use parts::{Address, Password, Tls};

/// Schemes and their servers.
const SCHEMES: &[(&str, Database)] = &[
    ("postgresql", Database::PostgreSql),
    ("postgres", Database::PostgreSql),
    ("mariadb", Database::MariaDb),
    ("mysql", Database::MySql),
    ("sqlite", Database::Sqlite),
];

/// Endings of SQLite's files.
const ENDINGS: &[&str] = &["db", "sqlite", "sqlite3"];

/// Names under which a password is given, in any case of letters.
const PASSWORD_KEYS: &[&str] = &["password", "passwd", "pwd", "pass"];

/// What stands in the place of a password, and of parameters that are not known.
const HIDDEN: &str = "***";
const UNKNOWN: &str = "?***";

/// The address of a database as somebody typed it, well or not.
#[derive(Clone, PartialEq, Eq)]
pub struct AddressText(String);

impl AddressText {
    /// The address that an input is, or seems to be meant for: a misspelt one is an address too, so
    /// that its error is one of addresses and its password is not shown. Files and folders that
    /// exist are none, but for the files of SQLite.
    pub fn of(input: &str) -> Option<Self> {
        let scheme = |text: &str| SCHEMES.iter().any(|(known, _)| text.starts_with(known));
        let meant = input.contains("://")
            || input.starts_with("sqlite:")
            || input.starts_with("jdbc:")
            || password_key(input).is_some()
            || (input.contains('@') && (scheme(input) || input.contains(':')));
        let address = is_file(input) || (meant && !Path::new(input).exists());
        address.then(|| AddressText(input.to_owned()))
    }
}

impl fmt::Display for AddressText {
    fn fmt(&self, formatter: &mut fmt::Formatter<'_>) -> fmt::Result {
        formatter.write_str(&without_password(&self.0))
    }
}

impl fmt::Debug for AddressText {
    fn fmt(&self, formatter: &mut fmt::Formatter<'_>) -> fmt::Result {
        fmt::Display::fmt(self, formatter)
    }
}

fn is_file(input: &str) -> bool {
    let path = Path::new(input);
    path.is_file()
        && path.extension().is_some_and(|ending| ENDINGS.iter().any(|known| ending == *known))
}

/// Where the name of a password, with its `=`, ends in a text.
fn password_key(text: &str) -> Option<usize> {
    let lower = text.to_ascii_lowercase();
    let ends = PASSWORD_KEYS
        .iter()
        .flat_map(|key| lower.match_indices(key).map(|(at, key)| at + key.len()));
    let given = |end: usize| {
        lower[end..]
            .trim_start()
            .starts_with('=')
            .then(|| end + lower[end..].find('=').unwrap_or(0) + 1)
    };
    ends.filter_map(given).min()
}

/// An address without its password, however it is spelt: rather too little is shown than too much.
/// What stands between the first `:` of the login and the last `@` goes, and all that follows the
/// name of a password.
fn without_password(text: &str) -> String {
    let (text, tail) = match password_key(text) {
        Some(end) => (&text[..end], HIDDEN),
        None => (text, ""),
    };
    // What stands behind the `?` under a name that is not known may be one, too.
    let (text, tail) = match text.split_once('?') {
        Some((head, query)) if tail.is_empty() && !query.split('&').all(is_harmless) => {
            (head, UNKNOWN)
        }
        _ => (text, tail),
    };
    let login = text.find("//").map_or_else(|| scheme_end(text), |at| at + 2);
    let shown = match text[login..].rsplit_once('@') {
        Some((names, host)) => {
            format!("{}{}@{host}", &text[..login], names.split(':').next().unwrap_or_default())
        }
        None => text.to_owned(),
    };
    shown + tail
}

/// Whether a parameter tells no secret.
fn is_harmless(parameter: &str) -> bool {
    parameter.split_once('=').is_some_and(|(key, _)| ["tls", "sslmode", "user"].contains(&key))
}

/// Where the login of an address without `//` begins.
fn scheme_end(text: &str) -> usize {
    let known = SCHEMES
        .iter()
        .map(|(scheme, _)| *scheme)
        .find(|scheme| text.starts_with(&format!("{scheme}:")));
    known.map_or(0, |scheme| scheme.len() + 1)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_looks_like_an_address_is_one() {
        for (input, meant) in [
            ("postgresql://quay/harbour", true),
            ("postgres//pilot:secret@quay/harbour", true),
            ("jdbc:mysql:quay", true),
            ("pilot:secret@quay/harbour", true),
            ("host=quay password=secret", true),
            ("sqlite:harbour.db", true),
            ("harbour/models.py", false),
            ("harbour@2/models.py", false),
            ("-", false),
        ] {
            assert_eq!(AddressText::of(input).is_some(), meant, "{input}");
            assert!(
                AddressText::of(input)
                    .is_none_or(|text| !format!("{text} {text:?}").contains("secret")),
                "{input}"
            );
        }
    }
}
