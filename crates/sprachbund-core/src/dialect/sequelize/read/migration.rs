//! Migrations: what each step does to the tables, replayed from the first to the last. They count where no model is declared.

use super::{FilePart, Reader};

/// Replays every migration of the project.
pub(super) fn replay(_reader: &Reader<'_>, _parts: &mut FilePart) {}
