//! The record of known findings, by which an old project starts clean and only new findings count.

use std::path::PathBuf;

use serde::{Deserialize, Serialize};
use sprachbund_core::diagnostic::Diagnostic;
use sprachbund_core::report::fingerprint::fingerprints;

use crate::ProjectError;
use crate::files::{self, Unreadable, write_atomically};

/// Where findings are remembered when nothing is said.
const FILE: &str = "known-findings.json";

/// Findings that are known, by their fingerprints.
pub struct KnownFindings {
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

impl KnownFindings {
    /// Reads the record; one that was asked for and is not there yet is empty.
    pub fn load(asked: Option<PathBuf>) -> Result<Self, ProjectError> {
        let (used, path) = (asked.is_some(), asked.unwrap_or_else(|| FILE.into()));
        let findings = match files::read_own(&path) {
            Ok(text) if used => serde_json::from_str(&text).map_err(|error| {
                ProjectError::Disk(format!(
                    "{}: {error}; make it anew with `lint --remember`",
                    path.display()
                ))
            })?,
            Err(Unreadable::Disk(error)) if error.kind() == std::io::ErrorKind::NotFound => {
                Vec::new()
            }
            Err(error) if used => {
                return Err(ProjectError::Disk(format!("{}: {error}", path.display())));
            }
            _ => Vec::new(),
        };
        Ok(KnownFindings { path, used, findings })
    }

    /// Takes known findings out; how many were, and how many of the record are no longer found.
    pub fn take_out(&self, found: &mut Vec<Diagnostic>) -> (usize, usize) {
        let before = found.len();
        let prints = fingerprints(found);
        let known: std::collections::HashSet<&str> =
            self.findings.iter().map(|finding| finding.fingerprint.as_str()).collect();
        let mut each = prints.iter();
        found.retain(|_| each.next().is_none_or(|print| !known.contains(print.as_str())));
        let remembered = before - found.len();
        (remembered, self.findings.len() - remembered.min(self.findings.len()))
    }

    /// Writes the record anew; what there is to tell of it.
    ///
    /// # Errors
    /// When the file cannot be written.
    pub fn remember(&self, found: &[Diagnostic]) -> Result<String, ProjectError> {
        let one = |(diagnostic, fingerprint): (&Diagnostic, String)| Finding {
            fingerprint,
            rule: diagnostic.code.to_owned(),
            message: diagnostic.message.clone(),
        };
        let findings: Vec<Finding> = found.iter().zip(fingerprints(found)).map(one).collect();
        let text = serde_json::to_string_pretty(&findings).unwrap_or_default() + "\n";
        write_atomically(&self.path, &text)?;
        let path = self.path.display();
        let done = format!("{} findings are known from now on: {path}\n", findings.len());
        if self.used {
            return Ok(done);
        }
        Ok(format!("{done}name it under [lint] in sprachbund.toml: known = \"{path}\"\n"))
    }

    /// One line about the record.
    pub fn summary(&self, remembered: usize, gone: usize) -> String {
        let gone = if gone > 0 {
            format!("; {gone} of the record are no longer found: forget them with --remember")
        } else {
            String::new()
        };
        match (self.used, remembered) {
            (true, _) => format!("{remembered} more are known ({}){gone}\n", self.path.display()),
            (false, _) => String::new(),
        }
    }
}
