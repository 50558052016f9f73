//! The compiler of Sprachbund. Text goes in and text comes out; this crate opens no file, prints
//! nothing and reads no arguments.
//!
//! Where to look:
//!
//! * [`schema`]: the neutral schema, the middle of everything. Start with its module text.
//! * [`declaration`]: what an author wrote, with everything unsaid still unsaid.
//! * [`host`]: programming languages to one outline; [`dialect`]: what a framework is, with a
//!   reader and a printer over it; [`dialects`]: those that are shipped.
//! * [`resolve`]: declarations to schema; [`elide`]: back again, leaving out what conventions
//!   imply; [`decision`]: what both of them ask, for each thing that may go unsaid.
//! * [`reading`]: the whole way in, as one function.
//! * [`fit`]: the only place where meaning may change, with an account of each change.
//! * [`lint`]: one file per rule. [`mend`]: cures carried over to the source text. [`history`]:
//!   schema operations and SQL.
//!
//! What stands on lower floors (schemas, languages, dialects) is passed on from here: whoever uses
//! this crate needs no other.

#![warn(clippy::print_stdout, clippy::print_stderr)]

pub mod codes;
pub mod compare;
pub mod fit;
pub mod lint;
pub mod mend;
pub mod pages;
pub mod reading;
pub mod recognise;
pub mod report;
pub mod session;
mod subjects;

pub use sprachbund_dialect::{decision, declaration, dialect, elide, history, resolve};
pub use sprachbund_dialects as dialects;
pub use sprachbund_host as host;
pub use sprachbund_schema::{diagnostic, quoting, schema, server, source};
