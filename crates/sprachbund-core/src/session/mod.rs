//! Everything that can be done with declarations, as one value: a [`Session`] reads, lints, fixes,
//! emits and compares. The command and the editor service are two that use it; so can any program.
//!
//! ```
//! use sprachbund_core::dialect::Settings;
//! use sprachbund_core::session::{EmitRequest, LintRequest, Session, dialect_of};
//! use sprachbund_core::source::NoFiles;
//!
//! let models = "from django.db import models
//!
//! class Berth(models.Model):
//!     number = models.IntegerField()
//!     dues = models.FloatField(default=0)
//! ";
//! let files = vec![("harbour/models.py".to_owned(), models.to_owned())];
//! let session = Session::new(&NoFiles);
//!
//! let read = session.read(files.clone(), dialect_of(&files)?, Settings::default())?;
//! assert_eq!(read.schema.entities[0].table, "harbour_berth");
//!
//! let findings = session.lint(&read, &LintRequest::default());
//! assert!(findings.found.iter().any(|one| one.code == "money-in-binary-float"));
//!
//! let typeorm = sprachbund_core::dialects::by_id("typeorm").expect("it is shipped");
//! let emission = session.emit(&read, &EmitRequest::to(typeorm))?;
//! assert!(emission.files[0].text.contains("export class Berth"));
//! # Ok::<(), Box<dyn std::error::Error>>(())
//! ```
//!
//! It opens no file and prints nothing: texts come in, with a provider for the files that they
//! import; data goes out. What a file was lowered to is kept by its text, so that reading a project
//! again after one file changed costs that file.

mod compare;
mod emit;
mod fix;
mod lint;
mod read;

pub use compare::Compared;
pub use emit::{Emission, EmitError, EmitRequest, check_naming};
pub use fix::{Fixed, FixedFile, suggest, suggested};
pub use lint::{Findings, LintRequest};
pub use read::{Read, ReadError, check_covered, dialect, dialect_of};

use crate::host::project::Outlines;
use crate::source::FileProvider;

/// Reads, lints, fixes, emits and compares.
pub struct Session<'f> {
    /// The files that inputs may import.
    provider: &'f dyn FileProvider,
    /// What files were lowered to, by their texts.
    outlines: Outlines,
}

impl<'f> Session<'f> {
    /// A session over the files that a provider gives.
    pub fn new(provider: &'f dyn FileProvider) -> Self {
        Session { provider, outlines: Outlines::default() }
    }
}
