//! Host languages: each lowers its syntax tree into the one [`outline`] that all readers share.

pub(crate) mod arguments;
pub(crate) mod callable;
pub(crate) mod decorators;
pub(crate) mod effort;
pub mod evaluate;
mod grammar;
pub mod language;
pub mod outline;
pub mod project;
pub mod python;
mod recover;
pub mod sql;
pub mod typescript;

pub use language::Language;
