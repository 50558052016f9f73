//! Declarations to a project: a class for each model, and one migration that makes all tables.

mod association;
mod column;
mod migration;
mod model;
mod validation;

use crate::declaration::Declarations;
use crate::dialect::{Conventions, PrintedFile};

/// The class between the framework's and the project's own.
const BASE: &str = "ApplicationRecord";

/// Prints the migration and every class.
pub(super) fn print(declarations: &Declarations, conventions: &Conventions) -> Vec<PrintedFile> {
    let mut files = Vec::new();
    if let Some(made) = &declarations.history.made {
        files.push(migration::print(made, conventions));
    }
    files.push(base());
    files.extend(model::print(declarations, conventions));
    files
}

fn base() -> PrintedFile {
    PrintedFile {
        path: "app/models/application_record.rb".to_owned(),
        text: format!("class {BASE} < ActiveRecord::Base\n  self.abstract_class = true\nend\n"),
    }
}
