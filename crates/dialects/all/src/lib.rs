//! The one list of the dialects that are shipped, a room each. No room knows another one.

pub use sprachbund_django as django;
pub use sprachbund_mongoose as mongoose;
pub use sprachbund_prisma as prisma;
pub use sprachbund_sequelize as sequelize;
pub use sprachbund_sql as sql;
pub use sprachbund_sqlalchemy as sqlalchemy;
pub use sprachbund_typeorm as typeorm;

use sprachbund_dialect::dialect::Dialect;

/// Every dialect, sorted by id.
pub const DIALECTS: &[Dialect] = &[
    django::DIALECT,
    mongoose::DIALECT,
    prisma::DIALECT,
    sequelize::DIALECT,
    sql::DIALECT,
    sqlalchemy::DIALECT,
    typeorm::DIALECT,
];

/// The dialect with this id.
pub fn by_id(id: &str) -> Option<&'static Dialect> {
    DIALECTS.iter().find(|dialect| dialect.id == id)
}

#[cfg(test)]
mod tests {
    use sprachbund_dialect::dialect::release::counted;

    use super::*;

    /// Rooms where the laws do not hold yet: nobody is offered half a dialect.
    const UNFINISHED: &[&str] = &["activerecord"];

    #[test]
    fn every_folder_is_registered_and_the_list_is_sorted() {
        let folder = concat!(env!("CARGO_MANIFEST_DIR"), "/..");
        let mut folders: Vec<String> = std::fs::read_dir(folder)
            .expect("the rooms of the dialects")
            .flatten()
            .filter(|entry| entry.path().is_dir())
            .map(|entry| entry.file_name().to_string_lossy().into_owned())
            .filter(|name| name != "all" && !UNFINISHED.contains(&name.as_str()))
            .collect();
        folders.sort();
        let ids: Vec<&str> = DIALECTS.iter().map(|dialect| dialect.id).collect();
        assert_eq!(ids, folders, "add the missing folder to DIALECTS");
    }

    #[test]
    fn a_release_has_as_many_numbers_as_those_that_were_tried() {
        for (dialect, release, expected) in
            [("django", "5.2.19", "5.2"), ("django", "5", "5"), ("prisma", "7.10.1", "7")]
        {
            assert_eq!(counted(by_id(dialect).expect("a dialect"), release), expected);
        }
    }
}
