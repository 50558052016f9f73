//! The record of known findings, by which an old project starts clean and only new findings count.

use std::collections::HashMap;
use std::path::PathBuf;

use md5::{Digest, Md5};
use serde::{Deserialize, Serialize};
use sprachbund_core::diagnostic::Diagnostic;

use crate::files::{self, Unreadable, write_atomically};
use crate::{Failure, Outcome, output};

/// Where findings are remembered when nothing is said.
const FILE: &str = "known-findings.json";

/// Findings that are known, by their fingerprints.
pub(crate) struct Known {
    path: PathBuf,
    /// The record is there, or was asked for.
    used: bool,
    findings: Vec<Finding>,
}

/// One known finding, for people who read the record.
#[derive(Clone, Debug, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
struct Finding {
    fingerprint: String,
    rule: String,
    message: String,
}

impl Known {
    /// Reads the record; one that was asked for and is not there yet is empty.
    pub(crate) fn load(asked: Option<PathBuf>) -> Result<Self, Failure> {
        let (used, path) = (asked.is_some(), asked.unwrap_or_else(|| FILE.into()));
        let findings = match files::read_own(&path) {
            Ok(text) if used => serde_json::from_str(&text)
                .map_err(|error| Failure(format!("{}: {error}; make it anew with `lint --remember`", path.display())))?,
            Err(Unreadable::Disk(error)) if error.kind() == std::io::ErrorKind::NotFound => Vec::new(),
            Err(error) if used => return Err(Failure(format!("{}: {error}", path.display()))),
            _ => Vec::new(),
        };
        Ok(Known { path, used, findings })
    }

    /// Takes known findings out; how many were, and how many of the record are no longer found.
    pub(crate) fn take_out(&self, found: &mut Vec<Diagnostic>) -> (usize, usize) {
        let before = found.len();
        let prints = fingerprints(found);
        let known: std::collections::HashSet<&str> = self.findings.iter().map(|finding| finding.fingerprint.as_str()).collect();
        let mut each = prints.iter();
        found.retain(|_| each.next().is_none_or(|print| !known.contains(print.as_str())));
        let remembered = before - found.len();
        (remembered, self.findings.len() - remembered.min(self.findings.len()))
    }

    /// Writes the record anew.
    pub(crate) fn remember(&self, found: &[Diagnostic]) -> Result<Outcome, Failure> {
        let one = |(diagnostic, fingerprint): (&Diagnostic, String)| Finding {
            fingerprint,
            rule: diagnostic.code.to_owned(),
            message: diagnostic.message.clone(),
        };
        let findings: Vec<Finding> = found.iter().zip(fingerprints(found)).map(one).collect();
        write_atomically(&self.path, &(serde_json::to_string_pretty(&findings)? + "\n"))?;
        output::news(&format!("{} findings are known from now on: {}\n", findings.len(), self.path.display()));
        if !self.used {
            output::news(&format!("name it under [lint] in sprachbund.toml: known = \"{}\"\n", self.path.display()));
        }
        Ok(Outcome::Clean)
    }

    /// One line about the record.
    pub(crate) fn summary(&self, remembered: usize, gone: usize) -> String {
        let gone =
            if gone > 0 { format!("; {gone} of the record are no longer found: forget them with --remember") } else { String::new() };
        match (self.used, remembered) {
            (true, _) => format!("{remembered} more are known ({}){gone}\n", self.path.display()),
            (false, _) => String::new(),
        }
    }
}

/// A text for each finding that stays the same when lines move and words of messages change: of the rule, the entity, the
/// element, and the how-manieth it is of those that share them.
pub(crate) fn fingerprints(found: &[Diagnostic]) -> Vec<String> {
    let mut seen: HashMap<String, usize> = HashMap::new();
    let mut one = |diagnostic: &Diagnostic| {
        let about = match &diagnostic.subject {
            Some(subject) => format!("{}\n{}\n{}", diagnostic.code, subject.entity, subject.element),
            None => format!("{}\n{}", diagnostic.code, diagnostic.message),
        };
        let count = seen.entry(about.clone()).or_default();
        *count += 1;
        let digest = Md5::digest(format!("{about}\n{count}").as_bytes());
        digest.iter().take(8).map(|byte| format!("{byte:02x}")).collect()
    };
    found.iter().map(&mut one).collect()
}
