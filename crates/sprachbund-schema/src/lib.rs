//! What is meant: the neutral schema and its facts, the servers that hold it, the sources it was
//! read from, the diagnostics about them, and the quotes that texts and names need in every
//! language and on every server. This crate opens no file and prints nothing.
//!
//! Start with the module text of [`schema`].

#![warn(clippy::print_stdout, clippy::print_stderr)]

pub mod diagnostic;
pub mod quoting;
pub mod schema;
pub mod server;
pub mod source;
