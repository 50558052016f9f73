//! Prisma's types: a scalar and, after it, the database's own type (`native_types` and the SQL of
//! Prisma 7.10). The first row of a kind is the one that is written. A type without a scalar is
//! `Unsupported`: the column is made, the client does not read it.

use std::sync::LazyLock;

use crate::declaration::Spelling;
use crate::dialect::release::at_least;
use crate::dialect::type_table::{Takes, TypeRow};
use crate::schema::{Database, TypeKind as Kind};

/// Types on PostgreSQL.
const POSTGRESQL: &[TypeRow] = &[
    TypeRow::new("Boolean", Kind::Boolean, "", "boolean"),
    TypeRow::new("Boolean @db.Boolean", Kind::Boolean, "", "boolean").read_only(),
    TypeRow::new("Int @db.SmallInt", Kind::SmallInt, "", "number"),
    TypeRow::new("Int @db.SmallInt", Kind::SmallInt, "", "number").numbered(),
    TypeRow::new("Int", Kind::Integer, "", "number"),
    TypeRow::new("Int", Kind::Integer, "", "number").numbered(),
    TypeRow::new("Int @db.Integer", Kind::Integer, "", "number").read_only(),
    TypeRow::new("BigInt", Kind::BigInt, "", "bigint"),
    TypeRow::new("BigInt", Kind::BigInt, "", "bigint").numbered(),
    TypeRow::new("BigInt @db.BigInt", Kind::BigInt, "", "bigint").read_only(),
    TypeRow::new("Float", Kind::Double, "", "number"),
    TypeRow::new("Float @db.DoublePrecision", Kind::Double, "", "number").read_only(),
    TypeRow::new("Float @db.Real", Kind::Real, "", "number"),
    TypeRow::new("Decimal", Kind::Numeric, "", "Decimal").silent_digits(65, 30),
    TypeRow::new("Decimal @db.Decimal", Kind::Numeric, "", "Decimal").taking(Takes::BothDigits, ""),
    TypeRow::new("Decimal @db.Decimal", Kind::Numeric, "", "Decimal"),
    TypeRow::new("String", Kind::Text, "", "string"),
    TypeRow::new("String @db.Text", Kind::Text, "", "string").read_only(),
    TypeRow::new("String @db.VarChar", Kind::Varchar, "", "string").taking(Takes::Length, ""),
    TypeRow::new("String @db.Char", Kind::Char, "", "string").taking(Takes::Length, ""),
    TypeRow::new("String @db.Citext", Kind::CaseFoldedText, "", "string"),
    TypeRow::new("String @db.Uuid", Kind::Uuid, "", "string"),
    TypeRow::new("String @db.Inet", Kind::NetworkAddress, "", "string"),
    TypeRow::new("DateTime", Kind::Timestamp, "", "Date").silent_digits(3, 0),
    TypeRow::new("DateTime @db.Timestamp", Kind::Timestamp, "", "Date").taking(Takes::Fraction, ""),
    TypeRow::new("DateTime @db.Timestamptz", Kind::TimestampZoned, "", "Date")
        .taking(Takes::Fraction, ""),
    TypeRow::new("DateTime @db.Date", Kind::Date, "", "Date"),
    TypeRow::new("DateTime @db.Time", Kind::Time, "", "Date").taking(Takes::Fraction, ""),
    TypeRow::new("DateTime @db.Timetz", Kind::TimeZoned, "", "Date").taking(Takes::Fraction, ""),
    TypeRow::new("Json", Kind::BinaryJson, "", "JsonValue"),
    TypeRow::new("Json @db.JsonB", Kind::BinaryJson, "", "JsonValue").read_only(),
    TypeRow::new("Json @db.Json", Kind::Json, "", "JsonValue"),
    TypeRow::new("Bytes", Kind::Binary, "", "Uint8Array"),
    TypeRow::new("Bytes @db.ByteA", Kind::Binary, "", "Uint8Array").read_only(),
    TypeRow::new("Unsupported(\"interval\")", Kind::Interval, "", ""),
    TypeRow::new("Unsupported(\"int4range\")", Kind::IntegerRange, "", ""),
    TypeRow::new("Unsupported(\"int8range\")", Kind::BigIntRange, "", ""),
    TypeRow::new("Unsupported(\"numrange\")", Kind::NumericRange, "", ""),
    TypeRow::new("Unsupported(\"daterange\")", Kind::DateRange, "", ""),
    TypeRow::new("Unsupported(\"tstzrange\")", Kind::TimestampRange, "", ""),
    TypeRow::new("Unsupported(\"tsvector\")", Kind::SearchVector, "", ""),
];

/// Types on SQLite, which takes no native types.
const SQLITE: &[TypeRow] = &[
    TypeRow::new("Boolean", Kind::Boolean, "BOOLEAN", "boolean"),
    TypeRow::new("Int", Kind::Integer, "INTEGER", "number"),
    TypeRow::new("Int", Kind::Integer, "INTEGER", "number").numbered(),
    TypeRow::new("BigInt", Kind::BigInt, "BIGINT", "bigint"),
    TypeRow::new("Float", Kind::Double, "REAL", "number"),
    TypeRow::new("Decimal", Kind::Numeric, "DECIMAL", "Decimal"),
    TypeRow::new("String", Kind::Text, "TEXT", "string"),
    TypeRow::new("DateTime", Kind::Timestamp, "DATETIME", "Date"),
    TypeRow::new("Json", Kind::BinaryJson, "JSONB", "JsonValue"),
    TypeRow::new("Bytes", Kind::Binary, "BLOB", "Uint8Array"),
];

/// Types on MariaDB and MySQL.
const MYSQL: &[TypeRow] = &[
    TypeRow::new("Boolean", Kind::Boolean, "", "boolean"),
    TypeRow::new("Boolean @db.TinyInt", Kind::Boolean, "", "boolean").read_only(),
    TypeRow::new("Int @db.SmallInt", Kind::SmallInt, "", "number"),
    TypeRow::new("Int @db.SmallInt", Kind::SmallInt, "", "number").numbered(),
    TypeRow::new("Int @db.UnsignedSmallInt", Kind::UnsignedSmallInt, "", "number"),
    TypeRow::new("Int", Kind::Integer, "", "number"),
    TypeRow::new("Int", Kind::Integer, "", "number").numbered(),
    TypeRow::new("Int @db.Int", Kind::Integer, "", "number").read_only(),
    TypeRow::new("Int @db.UnsignedInt", Kind::UnsignedInteger, "", "number"),
    TypeRow::new("Int @db.UnsignedInt", Kind::UnsignedInteger, "", "number").numbered(),
    TypeRow::new("BigInt", Kind::BigInt, "", "bigint"),
    TypeRow::new("BigInt", Kind::BigInt, "", "bigint").numbered(),
    TypeRow::new("BigInt @db.BigInt", Kind::BigInt, "", "bigint").read_only(),
    TypeRow::new("BigInt @db.UnsignedBigInt", Kind::UnsignedBigInt, "", "bigint"),
    TypeRow::new("BigInt @db.UnsignedBigInt", Kind::UnsignedBigInt, "", "bigint").numbered(),
    TypeRow::new("Float", Kind::Double, "", "number"),
    TypeRow::new("Float @db.Double", Kind::Double, "", "number").read_only(),
    TypeRow::new("Float @db.Float", Kind::Real, "", "number"),
    TypeRow::new("Decimal", Kind::Numeric, "", "Decimal").silent_digits(65, 30),
    TypeRow::new("Decimal @db.Decimal", Kind::Numeric, "", "Decimal").taking(Takes::BothDigits, ""),
    TypeRow::new("String", Kind::Varchar, "", "string").silent(191),
    TypeRow::new("String @db.VarChar", Kind::Varchar, "", "string").taking(Takes::Length, ""),
    TypeRow::new("String @db.Char", Kind::Char, "", "string").taking(Takes::Length, ""),
    TypeRow::new("String @db.LongText", Kind::Text, "", "string").mysql("longtext", "longtext"),
    TypeRow::new("String @db.MediumText", Kind::Text, "", "string")
        .mysql("mediumtext", "mediumtext"),
    TypeRow::new("String @db.Text", Kind::Text, "", "string").mysql("text", "text"),
    TypeRow::new("String @db.TinyText", Kind::Text, "", "string").mysql("tinytext", "tinytext"),
    TypeRow::new("DateTime", Kind::Timestamp, "", "Date").silent_digits(3, 0),
    TypeRow::new("DateTime @db.DateTime", Kind::Timestamp, "", "Date").taking(Takes::Fraction, ""),
    TypeRow::new("DateTime @db.Timestamp", Kind::TimestampZoned, "", "Date")
        .taking(Takes::Fraction, ""),
    TypeRow::new("DateTime @db.Date", Kind::Date, "", "Date"),
    TypeRow::new("DateTime @db.Time", Kind::Time, "", "Date").taking(Takes::Fraction, ""),
    TypeRow::new("Json", Kind::Json, "", "JsonValue"),
    TypeRow::new("Json @db.Json", Kind::Json, "", "JsonValue").read_only(),
    TypeRow::new("Bytes", Kind::Binary, "", "Uint8Array").mysql("longblob", "longblob"),
    TypeRow::new("Bytes @db.MediumBlob", Kind::Binary, "", "Uint8Array")
        .mysql("mediumblob", "mediumblob"),
    TypeRow::new("Bytes @db.Blob", Kind::Binary, "", "Uint8Array").mysql("blob", "blob"),
    TypeRow::new("Bytes @db.TinyBlob", Kind::Binary, "", "Uint8Array")
        .mysql("tinyblob", "tinyblob"),
    TypeRow::new("Bytes @db.LongBlob", Kind::Binary, "", "Uint8Array")
        .mysql("longblob", "longblob")
        .read_only(),
];

/// Types without a neutral name that have a scalar: what the database calls them, the words, and
/// whether they take a length.
const NATIVES: &[(&str, &str, Database)] = &[
    ("bit", "String @db.Bit", Database::PostgreSql),
    ("bit varying", "String @db.VarBit", Database::PostgreSql),
    ("xml", "String @db.Xml", Database::PostgreSql),
    ("money", "Decimal @db.Money", Database::PostgreSql),
    ("oid", "Int @db.Oid", Database::PostgreSql),
    ("bit", "Bytes @db.Bit", Database::MySql),
    ("year", "Int @db.Year", Database::MySql),
    ("tinyint", "Int @db.TinyInt", Database::MySql),
    ("tinyint unsigned", "Int @db.UnsignedTinyInt", Database::MySql),
    ("mediumint", "Int @db.MediumInt", Database::MySql),
    ("mediumint unsigned", "Int @db.UnsignedMediumInt", Database::MySql),
    ("binary", "Bytes @db.Binary", Database::MySql),
    ("varbinary", "Bytes @db.VarBinary", Database::MySql),
];

/// The types of a release on a server. SQLite got documents with 6 (refused by 5.22).
pub(super) fn of_release(release: &str, database: Database) -> &'static [TypeRow] {
    static SQLITE_5: LazyLock<Vec<TypeRow>> = LazyLock::new(|| {
        SQLITE.iter().filter(|row| row.kind != Kind::BinaryJson).copied().collect()
    });
    match database {
        Database::Sqlite if !at_least(release, (6, 0)) => &SQLITE_5,
        _ => table(database),
    }
}

/// The type table for a server.
fn table(database: Database) -> &'static [TypeRow] {
    match database {
        Database::PostgreSql | Database::MongoDb => POSTGRESQL,
        Database::Sqlite => SQLITE,
        Database::MySql | Database::MariaDb => MYSQL,
    }
}

fn natives(database: Database) -> impl Iterator<Item = (&'static str, &'static str)> {
    let family = if database.is_mysql() { Database::MySql } else { database };
    NATIVES
        .iter()
        .filter(move |(_, _, only)| *only == family)
        .map(|(native, words, _)| (*native, *words))
}

/// What the database calls the type behind these words and arguments, where no row of the table
/// does.
pub(super) fn native_of(words: &str, arguments: &[String], database: Database) -> Option<String> {
    let (native, _) = natives(database).find(|(_, known)| *known == words)?;
    Some(if arguments.is_empty() {
        native.to_owned()
    } else {
        format!("{native}({})", arguments.join(","))
    })
}

/// The scalar, and the database's own type as an attribute.
pub(super) fn written(spelling: &Spelling, database: Database) -> (String, Option<String>) {
    let known = table(database).iter().any(|row| row.word == spelling.word);
    if !known {
        let (name, arguments) = spelling
            .word
            .split_once('(')
            .map_or((spelling.word.as_str(), ""), |(name, rest)| (name, rest));
        return match natives(database).find(|(native, _)| *native == name) {
            Some((_, words)) => split(
                words,
                Some(arguments.trim_end_matches(')')).filter(|arguments| !arguments.is_empty()),
            ),
            None => (format!("Unsupported({})", crate::literal::text(&spelling.word)), None),
        };
    }
    let numbers = [spelling.length, spelling.precision, spelling.scale];
    let arguments: Vec<String> = numbers.iter().flatten().map(u32::to_string).collect();
    split(&spelling.word, (!arguments.is_empty()).then(|| arguments.join(", ")).as_deref())
}

fn split(words: &str, arguments: Option<&str>) -> (String, Option<String>) {
    match words.split_once(' ') {
        None => (words.to_owned(), None),
        Some((scalar, native)) => {
            let arguments = arguments.map_or(String::new(), |arguments| format!("({arguments})"));
            (scalar.to_owned(), Some(format!("{native}{arguments}")))
        }
    }
}
