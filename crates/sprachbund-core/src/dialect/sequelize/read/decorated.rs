//! Classes whose members say by decorators what they are (those of sequelize-typescript 2.1.6).

use super::{FilePart, Reader};
use crate::source::FileId;

/// Reads every decorated class of a file.
pub(super) fn read(_reader: &Reader<'_>, _file: FileId, _part: &mut FilePart) {}
