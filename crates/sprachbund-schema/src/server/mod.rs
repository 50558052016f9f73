//! The database servers, one room each: what each of them holds, and what it does by itself.
//!
//! What the rest of the house asks of a server is a field of [`Server`]; which server a schema is
//! meant for is a [`Database`], and [`Database::server`] is the only place where one becomes the
//! other. MariaDB and MySQL are two servers that share much: what they share stands in [`mysql`],
//! what MariaDB does in its own way in [`mariadb`].

pub mod mariadb;
pub(crate) mod mongodb;
pub(crate) mod mysql;
pub mod postgresql;
mod reserved;
pub(crate) mod sqlite;
mod statements;
pub(crate) mod words;

use std::borrow::Cow;

pub use statements::{Backslash, Quotes, RunsComment, Statements};

use crate::schema::{
    Database, EnforcedBy, Entity, Expression, Feature, Field, Identity, Index, NamedBy, Origin,
    Type,
};

/// A server.
pub struct Server {
    /// The name that `--database` takes.
    pub id: &'static str,
    /// The server's own name.
    pub title: &'static str,
    /// How long a name may be: bytes on PostgreSQL, characters on MariaDB and MySQL; [`usize::MAX`]
    /// where no name is too long.
    pub identifier_limit: usize,
    /// Whether it keeps documents instead of tables.
    pub keeps_documents: bool,
    pub quotes: Quotes,
    pub statements: Statements,
    /// What no table of it can hold, in any release.
    pub lacks: &'static [Feature],
    /// What its tables can hold from this release on.
    pub since: &'static [((u32, u32), Feature)],
    /// Its words for types, and what they mean.
    pub(crate) words: &'static [words::Word],
    /// What it calls a type; for an enumeration, given its name or its values.
    pub type_name: fn(&Type, &str) -> Cow<'static, str>,
    /// What it takes for another type than its word says, before the words are looked up.
    pub(crate) reads_itself: fn(word: &str, numbers: &[u32]) -> Option<Type>,
    pub whole_numbers: WholeNumbers,
    /// Whether it makes an index for the columns of a foreign key where no index begins with them.
    pub indexes_references: bool,
    /// What goes with a column that is dropped.
    pub drops_column: Drops,
    /// Whether it keeps fractions of a second where nothing is said.
    pub keeps_fractions: bool,
    pub enumerations: Enumerations,
    pub unbounded: Unbounded,
    pub comments: Comments,
    pub arrays: bool,
    /// Whether constraints can be added to a table that is there.
    pub adds_constraints: bool,
    /// Whether a generated column may be NOT NULL.
    pub generated_not_null: bool,
    /// Whether the moment of a statement and that of its transaction are told apart.
    pub two_moments: bool,
    /// Whether it makes random identifiers.
    pub makes_uuids: bool,
    /// Whether it sets the value of a column at an update.
    pub updates_columns: bool,
    /// Whether a `varchar` must have a length.
    pub varchar_needs_length: bool,
    /// Whether a key of one integer is the number of its row.
    pub numbers_rows: bool,
    /// Whether one type has several words, of which frameworks choose.
    pub several_words: bool,
    /// Whether a framework chooses among several words for a type, and the server keeps the one
    /// that was chosen.
    pub(crate) keeps_word: fn(&Field) -> bool,
    /// Where the word stands that a framework's type is held under.
    pub held_word: HeldWord,
    /// The type that it keeps under a word, so that words for one and the same are one.
    pub kept_type: fn(&str) -> Type,
    /// Brings an expression into the words in which it stores one.
    pub rewrites: fn(&mut Expression),
    /// Whether a truth value is no number.
    pub truth_values: bool,
    /// Whether `RESTRICT` and `NO ACTION` are one.
    pub restricts_at_once: bool,
    /// Whether indexes have no methods, classes of operators, or columns beside their keys.
    pub one_kind_of_index: bool,
    /// Whether a column takes values of its type alone; else a type is a hint, and there is none
    /// for times and truth values.
    pub holds_types: bool,
    /// Whether a time can have a zone.
    pub zoned_times: bool,
    /// What a decimal without digits is.
    pub silent_decimal: SilentDecimal,
    /// Whether a JSON column takes JSON alone, without a check.
    pub checks_json: bool,
    /// Whose names its collations go by; `None` where columns have none that are written.
    pub collations: Option<&'static str>,
    /// Whether a statement of its own makes a column NOT NULL.
    pub alters_nullability: bool,
    /// How it can number a column, the usual way first.
    pub identities: &'static [Identity],
    /// Functions that fill in defaults.
    pub functions: Functions,
    /// What becomes of a name that is too long.
    pub long_names: LongNames,
    /// Which names are one that differ in their case only.
    pub folds: Folds,
    /// Whether an index may be called like one of another table.
    pub index_names_by_table: bool,
    /// Words that name nothing without quotes.
    pub reserved: &'static [&'static str],
    /// Bytes of the longest key of an index, where there is such a limit.
    pub longest_index: Option<LongestIndex>,
    /// Whether a foreign key can be made from a column of one type to a column of another.
    pub can_refer: fn(&Type, &Type) -> bool,
    /// Whether a foreign key between types that do not go together is refused; else no row is
    /// equal.
    pub refuses_unlike_references: bool,
    /// Whether it refuses a foreign key between whole numbers of different breadth.
    pub refuses_other_breadth: bool,
}

/// A server in one of its releases.
#[derive(Clone, Copy)]
pub struct ServerRelease {
    pub server: &'static Server,
    /// The first two numbers of it; the oldest that is read where it is not known.
    pub release: Option<(u32, u32)>,
}

impl ServerRelease {
    /// Whether its tables cannot hold something.
    pub fn lacks(self, feature: Feature) -> bool {
        let comes_later = |since: &(u32, u32)| self.release.is_none_or(|release| release < *since);
        self.server.lacks.contains(&feature)
            || self
                .server
                .since
                .iter()
                .any(|(since, later)| *later == feature && comes_later(since))
    }
}

/// The first two numbers of a server's release (`18`, `10.11`, `8.4.7`); `None` where the text is
/// none.
pub fn release(text: &str) -> Option<(u32, u32)> {
    let mut numbers = text.split('.').map(|number| number.parse::<u32>());
    let major = numbers.next()?.ok()?;
    let minor = numbers.next().map_or(Ok(0), |minor| minor).ok()?;
    numbers.all(|number| number.is_ok()).then_some((major, minor))
}

/// Where the word stands that a framework's type is held under.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum HeldWord {
    /// The type says it.
    OfType,
    /// In the framework's own table of types, for SQLite.
    SqliteOfRow,
    /// In the framework's own table of types, for MariaDB and MySQL; else the type says it.
    MysqlOfRow,
}

/// What a decimal without digits is.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum SilentDecimal {
    /// Of any digits.
    Any,
    /// Ten digits, none of them behind the point.
    Whole,
    /// A binary fraction, where it has a point.
    Binary,
}

/// Functions that fill in defaults, as statements write them.
#[derive(Clone, Copy, Debug)]
pub struct Functions {
    /// The moment of the transaction; without digits of a second where these are to be said.
    pub now: &'static str,
    pub statement_now: &'static str,
    pub today: &'static str,
    pub random_uuid: &'static str,
}

/// What becomes of a name that is too long.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum LongNames {
    /// Cut to the limit, in bytes.
    Cut,
    /// Refused; the limit is in letters.
    Refused,
}

/// Which names are one that differ in their case only.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Folds {
    Nothing,
    Columns,
    ColumnsAndTables,
}

/// The longest key of an index.
#[derive(Clone, Copy, Debug)]
pub struct LongestIndex {
    /// Bytes, with up to four of them a letter.
    pub bytes: u64,
    /// Whether a plain index over one longer text has its beginning instead; else it is refused.
    pub cuts: bool,
}

/// What whole numbers a server has.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum WholeNumbers {
    /// With a sign only: half of an unsigned number's range is left.
    Signed,
    /// With a sign and without.
    SignedAndUnsigned,
    /// Of 64 bits, whatever they are called.
    Of64Bits,
}

/// What goes with a column that is dropped.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Drops {
    /// All that uses it.
    WhatUsesIt,
    /// Indexes and keys lose the column; what has no other goes.
    ItsPlaceInKeys,
}

/// Where the values of an enumeration stand.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Enumerations {
    /// In a type of its own.
    Types,
    /// In the type of its one column.
    InColumns,
    /// Nowhere: the column holds any text.
    Nowhere,
}

/// What an index over a text without a bound holds.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Unbounded {
    Whole,
    /// Its beginning, which must be given; nothing keeps the whole unique.
    Beginning,
    /// Its beginning; what is unique is kept so by a digest of the whole.
    Digest,
}

/// Where comments stand.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Comments {
    /// In statements of their own.
    Statements,
    /// In the table and its columns.
    InTables,
    Nowhere,
}

impl Database {
    /// Whether the two are one server, or share their words.
    pub fn shares_words_with(self, other: Database) -> bool {
        self == other || (self.server().several_words && other.server().several_words)
    }

    /// What is known of the server.
    pub fn server(self) -> &'static Server {
        match self {
            Database::PostgreSql => &postgresql::SERVER,
            Database::MySql => &mysql::SERVER,
            Database::MariaDb => &mariadb::SERVER,
            Database::Sqlite => &sqlite::SERVER,
            Database::MongoDb => &mongodb::SERVER,
        }
    }
}

impl Server {
    /// The server in a release; in the oldest that is read where none is known.
    pub fn in_release(&'static self, release: Option<(u32, u32)>) -> ServerRelease {
        ServerRelease { server: self, release }
    }

    /// Smallest and largest value that a column of this whole number holds, if it is one.
    pub fn whole_range(&self, ty: &Type) -> Option<(i128, i128)> {
        let bits = match ty {
            Type::SmallInt | Type::UnsignedSmallInt => 16,
            Type::Integer | Type::UnsignedInteger => 32,
            Type::BigInt | Type::UnsignedBigInt => 64,
            _ => return None,
        };
        let unsigned =
            matches!(ty, Type::UnsignedSmallInt | Type::UnsignedInteger | Type::UnsignedBigInt);
        let bits = if self.whole_numbers == WholeNumbers::Of64Bits { 64 } else { bits };
        let half = 1_i128 << (bits - 1);
        Some(match (unsigned, self.whole_numbers) {
            (true, WholeNumbers::SignedAndUnsigned) => (0, 2 * half - 1),
            (true, WholeNumbers::Signed | WholeNumbers::Of64Bits) => (0, half - 1),
            (false, _) => (-half, half - 1),
        })
    }
}

/// Of whole numbers, decimals and binary fractions which takes in which.
pub(crate) fn breadth(ty: &Type) -> Option<u8> {
    match ty {
        ty if ty.is_whole_number() => Some(0),
        Type::Numeric { .. } => Some(1),
        Type::Real | Type::Double => Some(2),
        _ => None,
    }
}

/// InnoDB indexes the columns of a foreign key where no index begins with them (documentation,
/// "FOREIGN KEY Constraints").
pub fn index_references(entity: &mut Entity) {
    for at in 0..entity.foreign_keys.len() {
        if entity.foreign_keys[at].enforced == EnforcedBy::Database {
            let columns = entity.foreign_keys[at].columns.clone();
            index_reference(entity, &columns);
        }
    }
}

/// The same of one foreign key; the index stays when the key is dropped (seen on MariaDB 10.11.19).
pub fn index_reference(entity: &mut Entity, wanted: &[String]) {
    let begins = |columns: &[String]| columns.starts_with(wanted);
    let indexed = begins(entity.key_columns())
        || entity.uniques.iter().any(|unique| begins(&unique.columns))
        || entity.indexes.iter().any(|index| begins(&index.plain_columns()));
    if !indexed {
        let mut index = Index::over(wanted, Origin::implied("the server indexes references"));
        index.named_by = NamedBy::Server;
        entity.indexes.push(index);
    }
}

/// Whether the server makes this plain index for a foreign key by itself.
pub fn is_index_of_reference(entity: &Entity, index: &Index) -> bool {
    let columns = index.plain_columns();
    let begins = |list: &[String]| list.starts_with(&columns);
    entity
        .foreign_keys
        .iter()
        .any(|key| key.enforced == EnforcedBy::Database && key.columns == columns)
        && !begins(entity.key_columns())
        && !entity.uniques.iter().any(|unique| begins(&unique.columns))
        && !entity
            .indexes
            .iter()
            .any(|other| !std::ptr::eq(other, index) && begins(&other.plain_columns()))
}

/// An index over such a column holds its beginning only, which no script says by itself. MariaDB
/// 10.11 keeps a whole one unique by a digest, unless a numbered column stands beside it; MySQL
/// refuses (its documentation, "Column Indexes", unverified).
pub fn is_unbounded(ty: &Type) -> bool {
    matches!(ty, Type::Text | Type::CaseFoldedText | Type::Varchar(None) | Type::Binary(None))
        || ty.is_json()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn releases_are_the_first_two_numbers() {
        for (text, wanted) in [
            ("18", Some((18, 0))),
            ("10.11", Some((10, 11))),
            ("8.4.7", Some((8, 4))),
            ("15.", None),
            ("", None),
            ("x", None),
            ("18beta1", None),
            ("9.7.x", None),
        ] {
            assert_eq!(release(text), wanted, "{text}");
        }
    }

    #[test]
    fn what_came_with_a_release_is_lacking_before_it_and_where_none_is_known() {
        for (database, named, feature, lacks) in [
            (Database::PostgreSql, None, Feature::VirtualGenerated, true),
            (Database::PostgreSql, Some((15, 0)), Feature::VirtualGenerated, true),
            (Database::PostgreSql, Some((17, 12)), Feature::VirtualGenerated, true),
            (Database::PostgreSql, Some((18, 0)), Feature::VirtualGenerated, false),
            (Database::PostgreSql, Some((19, 1)), Feature::VirtualGenerated, false),
            (Database::PostgreSql, Some((15, 0)), Feature::StoredGenerated, false),
            (Database::MySql, None, Feature::VirtualGenerated, false),
            (Database::MySql, Some((99, 0)), Feature::Exclusion, true),
            (Database::Sqlite, Some((99, 0)), Feature::Namespace, true),
        ] {
            let server = database.server().in_release(named);
            assert_eq!(
                server.lacks(feature),
                lacks,
                "{} {named:?}: {feature:?}",
                server.server.title
            );
        }
    }

    #[test]
    fn nothing_is_lacking_for_ever_and_from_a_release_on() {
        for (id, database) in Database::ALL {
            let server = database.server();
            let twice = server.since.iter().find(|(_, feature)| server.lacks.contains(feature));
            assert!(twice.is_none(), "{id}: {twice:?}");
        }
    }
}
