//! What a dialect is. A dialect reads its files to [`declaration`]s (or to steps, [`history`]) and
//! prints them; what it leaves unsaid it answers in its [`dialect::Conventions`], by release and
//! [`server`]. [`resolve`] makes a schema of declarations and answers, [`elide`] declarations of a
//! schema and answers; what may go unsaid is decided in [`decision`], for both of them.
//!
//! Each dialect that is shipped is a crate of its own over this one, and knows no other.

#![warn(clippy::print_stdout, clippy::print_stderr)]

pub mod codes;
pub mod decision;
pub mod declaration;
pub mod dialect;
pub mod elide;
pub mod history;
pub mod resolve;

use sprachbund_host as host;
use sprachbund_schema::{diagnostic, quoting, schema, server, source};
