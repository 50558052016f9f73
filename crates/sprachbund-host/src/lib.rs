//! Host languages: each lowers its syntax tree into the one [`outline`] that all readers share.

pub mod arguments;
pub mod callable;
pub mod codes;
pub mod decorators;
pub(crate) mod effort;
pub mod evaluate;
mod grammar;
pub mod language;
pub mod outline;
pub mod project;
pub mod python;
mod recover;
pub mod ruby;
pub mod sql;
pub mod typescript;

use sprachbund_schema::{diagnostic, quoting, schema, source};

pub use language::Language;
