//! The compiler of Sprachbund. Text goes in and text comes out; this crate opens no file, prints nothing and reads no
//! arguments.
//!
//! Where to look:
//!
//! * [`schema`]: the neutral schema, the middle of everything. Start with its module text.
//! * [`declaration`]: what an author wrote, with everything unsaid still unsaid.
//! * [`host`]: programming languages to one outline; [`dialect`]: frameworks, each a reader and a printer over it.
//! * [`resolve`]: declarations to schema; [`elide`]: back again, leaving out what conventions imply.
//! * [`reading`]: the whole way in, as one function.
//! * [`fit`]: the only place where meaning may change, with an account of each change.
//! * [`lint`]: one file per rule. [`mend`]: cures carried over to the source text. [`history`]: schema operations and SQL.

#![warn(clippy::print_stdout, clippy::print_stderr)]

pub mod compare;
pub mod declaration;
pub mod diagnostic;
pub mod dialect;
pub mod dialects;
pub mod elide;
pub mod fit;
pub mod history;
pub mod host;
pub mod lint;
pub mod mend;
pub mod pages;
pub mod quoting;
pub mod reading;
pub mod recognise;
pub mod resolve;
pub mod schema;
pub mod server;
pub mod source;
mod subjects;
