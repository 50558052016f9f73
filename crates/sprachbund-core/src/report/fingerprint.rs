//! What tells findings apart from one run to the next.

use std::collections::HashMap;

use md5::{Digest, Md5};

use crate::diagnostic::Diagnostic;

/// A text for each finding that stays the same when lines move and words of messages change: of the
/// rule, the entity, the element, and the how-manieth it is of those that share them.
pub fn fingerprints(found: &[Diagnostic]) -> Vec<String> {
    let mut seen: HashMap<String, usize> = HashMap::new();
    let mut one = |diagnostic: &Diagnostic| {
        let about = match &diagnostic.subject {
            Some(subject) => {
                format!("{}\n{}\n{}", diagnostic.code, subject.entity, subject.element)
            }
            None => format!("{}\n{}", diagnostic.code, diagnostic.message),
        };
        let count = seen.entry(about.clone()).or_default();
        *count += 1;
        let digest = Md5::digest(format!("{about}\n{count}").as_bytes());
        digest.iter().take(8).map(|byte| format!("{byte:02x}")).collect()
    };
    found.iter().map(&mut one).collect()
}
