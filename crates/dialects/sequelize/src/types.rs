//! Sequelize's data types (`data-types.js` of Sequelize 6.37.8, and what its query generators make
//! of them). A word in small letters is written as a text, which Sequelize hands to the server as
//! it is. The first row of a kind is the one that is written.

use crate::dialect::type_table::{Takes, TypeRow};
use crate::schema::{Database, TypeKind as Kind};

/// What follows the word of a column that the database numbers.
pub(super) const NUMBERED: &str = " autoIncrement";

/// Length of a text or a character type of which nothing is said.
const SILENT_LENGTH: u32 = 255;

/// Types on PostgreSQL.
const POSTGRESQL: &[TypeRow] = &[
    TypeRow::new("BOOLEAN", Kind::Boolean, "", "boolean"),
    TypeRow::new("SMALLINT", Kind::SmallInt, "", "number"),
    TypeRow::new("SMALLINT autoIncrement", Kind::SmallInt, "", "number").numbered(),
    TypeRow::new("INTEGER", Kind::Integer, "", "number"),
    TypeRow::new("INTEGER autoIncrement", Kind::Integer, "", "number").numbered(),
    TypeRow::new("BIGINT", Kind::BigInt, "", "string"),
    TypeRow::new("BIGINT autoIncrement", Kind::BigInt, "", "string").numbered(),
    TypeRow::new("DECIMAL", Kind::Numeric, "", "string").taking(Takes::Digits, ""),
    TypeRow::new("REAL", Kind::Real, "", "number"),
    TypeRow::new("DOUBLE", Kind::Double, "", "number"),
    TypeRow::new("FLOAT", Kind::Double, "", "number").read_only(),
    TypeRow::new("CHAR", Kind::Char, "", "string").taking(Takes::Length, "").silent(SILENT_LENGTH),
    TypeRow::new("STRING", Kind::Varchar, "", "string")
        .taking(Takes::Length, "")
        .silent(SILENT_LENGTH),
    TypeRow::new("character varying", Kind::Varchar, "", "string").taking(Takes::Length, ""),
    TypeRow::new("CITEXT", Kind::CaseFoldedText, "", "string"),
    TypeRow::new("TEXT", Kind::Text, "", "string"),
    TypeRow::new("BLOB", Kind::Binary, "", "Buffer"),
    TypeRow::new("DATEONLY", Kind::Date, "", "string"),
    TypeRow::new("TIME", Kind::Time, "", "string"),
    TypeRow::new("time", Kind::Time, "", "string").taking(Takes::Fraction, ""),
    TypeRow::new("time with time zone", Kind::TimeZoned, "", "string").taking(Takes::Fraction, ""),
    TypeRow::new("DATE", Kind::TimestampZoned, "", "Date"),
    TypeRow::new("timestamp with time zone", Kind::TimestampZoned, "", "Date")
        .taking(Takes::Fraction, ""),
    TypeRow::new("timestamp", Kind::Timestamp, "", "Date").taking(Takes::Fraction, ""),
    TypeRow::new("interval", Kind::Interval, "", "string"),
    TypeRow::new("UUID", Kind::Uuid, "", "string"),
    TypeRow::new("JSON", Kind::Json, "", "unknown"),
    TypeRow::new("JSONB", Kind::BinaryJson, "", "unknown"),
    TypeRow::new("INET", Kind::NetworkAddress, "", "string"),
    TypeRow::new("RANGE(INTEGER)", Kind::IntegerRange, "", "unknown"),
    TypeRow::new("RANGE(BIGINT)", Kind::BigIntRange, "", "unknown"),
    TypeRow::new("RANGE(DECIMAL)", Kind::NumericRange, "", "unknown"),
    TypeRow::new("RANGE(DATEONLY)", Kind::DateRange, "", "unknown"),
    TypeRow::new("RANGE(DATE)", Kind::TimestampRange, "", "unknown"),
    TypeRow::new("TSVECTOR", Kind::SearchVector, "", "string"),
];

/// Types on SQLite.
const SQLITE: &[TypeRow] = &[
    TypeRow::new("BOOLEAN", Kind::Boolean, "TINYINT(1)", "boolean"),
    TypeRow::new("SMALLINT", Kind::SmallInt, "SMALLINT", "number"),
    TypeRow::new("TINYINT", Kind::SmallInt, "TINYINT", "number").read_only(),
    TypeRow::new("INTEGER", Kind::Integer, "INTEGER", "number"),
    TypeRow::new("INTEGER autoIncrement", Kind::Integer, "INTEGER", "number").numbered(),
    TypeRow::new("MEDIUMINT", Kind::Integer, "MEDIUMINT", "number").read_only(),
    TypeRow::new("BIGINT", Kind::BigInt, "BIGINT", "string"),
    TypeRow::new("DECIMAL", Kind::Numeric, "DECIMAL", "string")
        .taking(Takes::Digits, "DECIMAL({})"),
    TypeRow::new("REAL", Kind::Real, "REAL", "number"),
    TypeRow::new("FLOAT", Kind::Real, "FLOAT", "number").read_only(),
    TypeRow::new("DOUBLE", Kind::Double, "DOUBLE PRECISION", "number"),
    TypeRow::new("CHAR", Kind::Char, "CHAR", "string")
        .taking(Takes::Length, "CHAR({})")
        .silent(SILENT_LENGTH),
    TypeRow::new("STRING", Kind::Varchar, "VARCHAR", "string")
        .taking(Takes::Length, "VARCHAR({})")
        .silent(SILENT_LENGTH),
    TypeRow::new("varchar", Kind::Varchar, "varchar", "string"),
    TypeRow::new("CITEXT", Kind::CaseFoldedText, "TEXT", "string").read_only(),
    TypeRow::new("TEXT", Kind::Text, "TEXT", "string"),
    TypeRow::new("BLOB", Kind::Binary, "BLOB", "Buffer"),
    TypeRow::new("DATEONLY", Kind::Date, "DATE", "string"),
    TypeRow::new("TIME", Kind::Time, "TIME", "string"),
    TypeRow::new("DATE", Kind::Timestamp, "DATETIME", "Date"),
    TypeRow::new("UUID", Kind::Uuid, "UUID", "string"),
    TypeRow::new("JSON", Kind::Json, "JSON", "unknown"),
    TypeRow::new("JSONB", Kind::BinaryJson, "JSONB", "unknown"),
];

/// Types without a neutral name, and what PostgreSQL calls them.
pub(super) const NATIVE: &[(&str, &str)] = &[
    ("HSTORE", "hstore"),
    ("CIDR", "cidr"),
    ("MACADDR", "macaddr"),
    ("GEOMETRY", "geometry"),
    ("GEOGRAPHY", "geography"),
];

/// The types on a server.
pub(super) fn table(database: Database) -> &'static [TypeRow] {
    if database == Database::Sqlite { SQLITE } else { POSTGRESQL }
}

/// The type in the code of a word.
pub(super) fn host(word: &str, database: Database) -> &'static str {
    table(database).iter().find(|row| row.word == word).map_or("string", |row| row.host)
}
