//! Diagnostics in the forms that programs read; how people see them is the command's affair.

pub mod alike;
pub mod fingerprint;
pub mod json;
pub mod junit;
pub mod sarif;
