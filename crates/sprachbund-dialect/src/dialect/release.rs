//! Releases of frameworks: what silence means and what can be said may change from one to the next.

use super::Dialect;

/// Whether a release, as `5.2` or `5.2.19`, is this one or a later one. What is no number is later
/// than any.
pub fn at_least(release: &str, wanted: (u32, u32)) -> bool {
    let mut parts = release.split('.').map(|part| part.parse::<u32>().unwrap_or(u32::MAX));
    (parts.next().unwrap_or_default(), parts.next().unwrap_or_default()) >= wanted
}

/// Whether a text names a release: numbers with points between them.
pub fn is_release(text: &str) -> bool {
    !text.is_empty()
        && text
            .split('.')
            .all(|part| !part.is_empty() && part.chars().all(|letter| letter.is_ascii_digit()))
}

/// The release as the dialect counts them: `5.2.19` is `5.2`, where `5.2` is what was tried.
pub fn counted(dialect: &Dialect, release: &str) -> String {
    let parts = dialect.versions.first().map_or(1, |newest| newest.split('.').count());
    release.split('.').take(parts).collect::<Vec<_>>().join(".")
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn releases_are_compared_by_their_numbers() {
        for (release, wanted, expected) in [
            ("5.2", (5, 0), true),
            ("5.2.19", (5, 2), true),
            ("4.2", (5, 0), false),
            ("10", (9, 9), true),
            ("5", (5, 0), true),
            ("5", (5, 1), false),
            ("main", (99, 0), true),
        ] {
            assert_eq!(at_least(release, wanted), expected, "{release} {wanted:?}");
        }
    }

    #[test]
    fn a_release_is_made_of_numbers() {
        assert!(is_release("4.2.1") && !is_release("4.x") && !is_release("") && !is_release("4."));
    }
}
