//! The one list of the dialects that are shipped, a room each. No room knows another one.

pub mod django;
pub mod mongoose;
pub mod prisma;
pub mod sequelize;
pub mod sql;
pub mod sqlalchemy;
pub mod typeorm;

use crate::dialect::Dialect;

/// Every dialect, sorted by id.
pub const DIALECTS: &[Dialect] =
    &[django::DIALECT, mongoose::DIALECT, prisma::DIALECT, sequelize::DIALECT, sql::DIALECT, sqlalchemy::DIALECT, typeorm::DIALECT];

/// The dialect with this id.
pub fn by_id(id: &str) -> Option<&'static Dialect> {
    DIALECTS.iter().find(|dialect| dialect.id == id)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_folder_is_registered_and_the_list_is_sorted() {
        let folder = concat!(env!("CARGO_MANIFEST_DIR"), "/src/dialects");
        let mut folders: Vec<String> = std::fs::read_dir(folder)
            .expect("the rooms of the dialects")
            .flatten()
            .filter(|entry| entry.path().is_dir())
            .map(|entry| entry.file_name().to_string_lossy().into_owned())
            .collect();
        folders.sort();
        let ids: Vec<&str> = DIALECTS.iter().map(|dialect| dialect.id).collect();
        assert_eq!(ids, folders, "add the missing folder to DIALECTS");
    }
}
