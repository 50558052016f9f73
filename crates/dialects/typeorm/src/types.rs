//! TypeORM's column types (the drivers' `normalizeType` and `supportedDataTypes` of TypeORM
//! 0.3.31). The first row of a kind is the one that is written.

use std::sync::LazyLock;

use crate::dialect::Conventions;
use crate::dialect::release::at_least;
use crate::dialect::type_table::{Takes, TypeRow, row};
use crate::schema::{Database, TypeKind as Kind};

/// Types on PostgreSQL.
const POSTGRESQL: &[TypeRow] = &[
    TypeRow::new("boolean", Kind::Boolean, "", "boolean"),
    TypeRow::new("bool", Kind::Boolean, "", "boolean").read_only(),
    TypeRow::new("smallint", Kind::SmallInt, "", "number"),
    TypeRow::new("smallint", Kind::SmallInt, "", "number").numbered(),
    TypeRow::new("int2", Kind::SmallInt, "", "number").read_only(),
    TypeRow::new("integer", Kind::Integer, "", "number"),
    TypeRow::new("integer", Kind::Integer, "", "number").numbered(),
    TypeRow::new("int", Kind::Integer, "", "number").read_only(),
    TypeRow::new("int4", Kind::Integer, "", "number").read_only(),
    TypeRow::new("bigint", Kind::BigInt, "", "string"),
    TypeRow::new("bigint", Kind::BigInt, "", "string").numbered(),
    TypeRow::new("int8", Kind::BigInt, "", "string").read_only(),
    TypeRow::new("numeric", Kind::Numeric, "", "string").taking(Takes::Digits, ""),
    TypeRow::new("decimal", Kind::Numeric, "", "string").taking(Takes::Digits, "").read_only(),
    TypeRow::new("real", Kind::Real, "", "number"),
    TypeRow::new("float4", Kind::Real, "", "number").read_only(),
    TypeRow::new("double precision", Kind::Double, "", "number"),
    TypeRow::new("float", Kind::Double, "", "number").read_only(),
    TypeRow::new("float8", Kind::Double, "", "number").read_only(),
    TypeRow::new("char", Kind::Char, "", "string").taking(Takes::Length, ""),
    TypeRow::new("character", Kind::Char, "", "string").taking(Takes::Length, "").read_only(),
    TypeRow::new("varchar", Kind::Varchar, "", "string").taking(Takes::Length, ""),
    TypeRow::new("character varying", Kind::Varchar, "", "string")
        .taking(Takes::Length, "")
        .read_only(),
    TypeRow::new("citext", Kind::CaseFoldedText, "", "string"),
    TypeRow::new("text", Kind::Text, "", "string"),
    TypeRow::new("bytea", Kind::Binary, "", "Buffer"),
    TypeRow::new("date", Kind::Date, "", "string"),
    TypeRow::new("time", Kind::Time, "", "string").taking(Takes::Fraction, ""),
    TypeRow::new("time without time zone", Kind::Time, "", "string")
        .taking(Takes::Fraction, "")
        .read_only(),
    TypeRow::new("timetz", Kind::TimeZoned, "", "string").taking(Takes::Fraction, ""),
    TypeRow::new("time with time zone", Kind::TimeZoned, "", "string")
        .taking(Takes::Fraction, "")
        .read_only(),
    TypeRow::new("timestamp", Kind::Timestamp, "", "Date").taking(Takes::Fraction, ""),
    TypeRow::new("timestamp without time zone", Kind::Timestamp, "", "Date")
        .taking(Takes::Fraction, "")
        .read_only(),
    TypeRow::new("datetime", Kind::Timestamp, "", "Date").taking(Takes::Fraction, "").read_only(),
    TypeRow::new("timestamptz", Kind::TimestampZoned, "", "Date").taking(Takes::Fraction, ""),
    TypeRow::new("timestamp with time zone", Kind::TimestampZoned, "", "Date")
        .taking(Takes::Fraction, "")
        .read_only(),
    TypeRow::new("interval", Kind::Interval, "", "string"),
    TypeRow::new("uuid", Kind::Uuid, "", "string"),
    TypeRow::new("json", Kind::Json, "", "unknown"),
    TypeRow::new("jsonb", Kind::BinaryJson, "", "unknown"),
    TypeRow::new("simple-json", Kind::Text, "", "unknown").format("json text"),
    TypeRow::new("simple-array", Kind::Text, "", "string[]").format("comma list"),
    TypeRow::new("inet", Kind::NetworkAddress, "", "string"),
    TypeRow::new("int4range", Kind::IntegerRange, "", "string"),
    TypeRow::new("int8range", Kind::BigIntRange, "", "string"),
    TypeRow::new("numrange", Kind::NumericRange, "", "string"),
    TypeRow::new("daterange", Kind::DateRange, "", "string"),
    TypeRow::new("tstzrange", Kind::TimestampRange, "", "string"),
    TypeRow::new("tsvector", Kind::SearchVector, "", "string"),
];

/// Types on SQLite.
const SQLITE: &[TypeRow] = &[
    TypeRow::new("boolean", Kind::Boolean, "boolean", "boolean"),
    TypeRow::new("smallint", Kind::SmallInt, "smallint", "number"),
    TypeRow::new("integer", Kind::Integer, "integer", "number"),
    TypeRow::new("integer", Kind::Integer, "integer", "number").numbered(),
    TypeRow::new("int", Kind::Integer, "integer", "number").read_only(),
    TypeRow::new("bigint", Kind::BigInt, "bigint", "string"),
    TypeRow::new("int8", Kind::BigInt, "bigint", "string").read_only(),
    TypeRow::new("decimal", Kind::Numeric, "decimal", "string")
        .taking(Takes::Digits, "decimal({})"),
    TypeRow::new("numeric", Kind::Numeric, "numeric", "string")
        .taking(Takes::Digits, "numeric({})")
        .read_only(),
    TypeRow::new("float", Kind::Real, "float", "number"),
    TypeRow::new("double", Kind::Double, "double", "number"),
    TypeRow::new("real", Kind::Double, "real", "number").read_only(),
    TypeRow::new("double precision", Kind::Double, "double precision", "number").read_only(),
    TypeRow::new("character", Kind::Char, "character", "string")
        .taking(Takes::Length, "character({})"),
    TypeRow::new("varchar", Kind::Varchar, "varchar", "string")
        .taking(Takes::Length, "varchar({})"),
    TypeRow::new("text", Kind::Text, "text", "string"),
    TypeRow::new("blob", Kind::Binary, "blob", "Buffer"),
    TypeRow::new("date", Kind::Date, "date", "string"),
    TypeRow::new("time", Kind::Time, "time", "string").taking(Takes::Fraction, "time({})"),
    TypeRow::new("datetime", Kind::Timestamp, "datetime", "Date")
        .taking(Takes::Fraction, "datetime({})"),
    TypeRow::new("uuid", Kind::Uuid, "varchar", "string"),
    TypeRow::new("simple-json", Kind::Json, "text", "unknown"),
    TypeRow::new("simple-array", Kind::Text, "text", "string[]").format("comma list"),
];

/// Types on MariaDB and MySQL. A text without a length has 255 characters there, a decimal ten
/// digits.
const MYSQL: &[TypeRow] = &[
    TypeRow::new("boolean", Kind::Boolean, "", "boolean").mysql("tinyint", "tinyint"),
    TypeRow::new("bool", Kind::Boolean, "", "boolean").mysql("tinyint", "tinyint").read_only(),
    TypeRow::new("smallint", Kind::SmallInt, "", "number"),
    TypeRow::new("smallint", Kind::SmallInt, "", "number").numbered(),
    TypeRow::new("smallint unsigned", Kind::UnsignedSmallInt, "", "number"),
    TypeRow::new("smallint unsigned", Kind::UnsignedSmallInt, "", "number").numbered(),
    TypeRow::new("integer", Kind::Integer, "", "number"),
    TypeRow::new("integer", Kind::Integer, "", "number").numbered(),
    TypeRow::new("integer unsigned", Kind::UnsignedInteger, "", "number"),
    TypeRow::new("integer unsigned", Kind::UnsignedInteger, "", "number").numbered(),
    TypeRow::new("int", Kind::Integer, "", "number").read_only(),
    TypeRow::new("int unsigned", Kind::UnsignedInteger, "", "number").read_only(),
    TypeRow::new("bigint", Kind::BigInt, "", "string"),
    TypeRow::new("bigint", Kind::BigInt, "", "string").numbered(),
    TypeRow::new("bigint unsigned", Kind::UnsignedBigInt, "", "string"),
    TypeRow::new("bigint unsigned", Kind::UnsignedBigInt, "", "string").numbered(),
    TypeRow::new("decimal", Kind::Numeric, "", "string")
        .taking(Takes::Digits, "")
        .silent_digits(10, 0),
    TypeRow::new("numeric", Kind::Numeric, "", "string")
        .taking(Takes::Digits, "")
        .silent_digits(10, 0)
        .read_only(),
    TypeRow::new("dec", Kind::Numeric, "", "string")
        .taking(Takes::Digits, "")
        .silent_digits(10, 0)
        .read_only(),
    TypeRow::new("fixed", Kind::Numeric, "", "string")
        .taking(Takes::Digits, "")
        .silent_digits(10, 0)
        .read_only(),
    TypeRow::new("float", Kind::Real, "", "number"),
    TypeRow::new("double", Kind::Double, "", "number"),
    TypeRow::new("double precision", Kind::Double, "", "number").read_only(),
    TypeRow::new("real", Kind::Double, "", "number").read_only(),
    TypeRow::new("char", Kind::Char, "", "string").taking(Takes::Length, "").silent(1),
    TypeRow::new("varchar", Kind::Varchar, "", "string").taking(Takes::Length, "").silent(255),
    TypeRow::new("nvarchar", Kind::Varchar, "", "string")
        .taking(Takes::Length, "")
        .silent(255)
        .read_only(),
    TypeRow::new("national varchar", Kind::Varchar, "", "string")
        .taking(Takes::Length, "")
        .silent(255)
        .read_only(),
    TypeRow::new("longtext", Kind::Text, "", "string"),
    TypeRow::new("text", Kind::Text, "", "string").mysql("text", "text").read_only(),
    TypeRow::new("tinytext", Kind::Text, "", "string").mysql("tinytext", "tinytext").read_only(),
    TypeRow::new("mediumtext", Kind::Text, "", "string")
        .mysql("mediumtext", "mediumtext")
        .read_only(),
    TypeRow::new("varbinary", Kind::Binary, "", "Buffer").taking(Takes::Length, "").silent(255),
    TypeRow::new("binary", Kind::Binary, "", "Buffer")
        .taking(Takes::Length, "")
        .silent(1)
        .mysql("binary", "binary({})")
        .read_only(),
    TypeRow::new("longblob", Kind::Binary, "", "Buffer"),
    TypeRow::new("blob", Kind::Binary, "", "Buffer").mysql("blob", "blob").read_only(),
    TypeRow::new("tinyblob", Kind::Binary, "", "Buffer").mysql("tinyblob", "tinyblob").read_only(),
    TypeRow::new("mediumblob", Kind::Binary, "", "Buffer")
        .mysql("mediumblob", "mediumblob")
        .read_only(),
    TypeRow::new("date", Kind::Date, "", "string"),
    TypeRow::new("time", Kind::Time, "", "string").taking(Takes::Fraction, ""),
    TypeRow::new("datetime", Kind::Timestamp, "", "Date").taking(Takes::Fraction, ""),
    TypeRow::new("timestamp", Kind::TimestampZoned, "", "Date").taking(Takes::Fraction, ""),
    TypeRow::new("uuid", Kind::Uuid, "", "string")
        .mysql("varchar(36)", "varchar(36)")
        .on(&[Database::MySql]),
    TypeRow::new("uuid", Kind::Uuid, "", "string").mysql("uuid", "uuid").on(&[Database::MariaDb]),
    TypeRow::new("json", Kind::Json, "", "unknown"),
    TypeRow::new("simple-json", Kind::Text, "", "unknown")
        .format("json text")
        .mysql("text", "text"),
    TypeRow::new("simple-array", Kind::Text, "", "string[]")
        .format("comma list")
        .mysql("text", "text"),
];

/// The type word of a TypeScript type when the column says none: on PostgreSQL, and on the other
/// servers.
const INFERRED: &[(&str, &str, &str)] = &[
    ("string", "varchar", "varchar"),
    ("String", "varchar", "varchar"),
    ("number", "integer", "integer"),
    ("Number", "integer", "integer"),
    ("boolean", "boolean", "boolean"),
    ("Boolean", "boolean", "boolean"),
    ("Date", "timestamp", "datetime"),
];

/// Further words that each driver takes (`supportedDataTypes` of TypeORM 0.3.31); what they mean
/// has no neutral name.
const FURTHER: &[(&[Database], &[&str])] = &[
    (
        &[Database::PostgreSql],
        &[
            "money",
            "hstore",
            "bit",
            "varbit",
            "bit varying",
            "point",
            "line",
            "lseg",
            "box",
            "path",
            "polygon",
            "circle",
            "cidr",
            "macaddr",
            "macaddr8",
            "tsquery",
            "xml",
            "jsonpath",
            "tsrange",
            "int4multirange",
            "int8multirange",
            "nummultirange",
            "tsmultirange",
            "tstzmultirange",
            "datemultirange",
            "geometry",
            "geography",
            "cube",
            "ltree",
            "vector",
            "halfvec",
        ],
    ),
    (
        &[Database::MySql, Database::MariaDb],
        &[
            "tinyint",
            "tinyint unsigned",
            "mediumint",
            "mediumint unsigned",
            "bit",
            "year",
            "set",
            "nchar",
            "national char",
            "geometry",
            "point",
            "linestring",
            "polygon",
            "multipoint",
            "multilinestring",
            "multipolygon",
            "geometrycollection",
            "vector",
            "inet4",
            "inet6",
        ],
    ),
    (
        &[Database::Sqlite],
        &[
            "tinyint",
            "mediumint",
            "unsigned big int",
            "int2",
            "varying character",
            "nchar",
            "native character",
            "nvarchar",
            "clob",
            "json",
        ],
    ),
];

/// The types of a release on a server. Before 0.3 identifiers were texts on MariaDB, too, and
/// documents long texts without a check (0.2.45).
pub(super) fn of_release(release: &str, database: Database) -> &'static [TypeRow] {
    static BEFORE_0_3: LazyLock<Vec<TypeRow>> = LazyLock::new(|| {
        let as_text = |row: &TypeRow| match row.kind {
            Kind::Uuid => row.mysql("varchar(36)", "varchar(36)"),
            Kind::Json => row.mysql("json", "longtext"),
            _ => *row,
        };
        MYSQL.iter().map(as_text).collect()
    });
    match database {
        Database::MariaDb if !at_least(release, (0, 3)) => &BEFORE_0_3,
        _ => table(database),
    }
}

/// The types on a server.
fn table(database: Database) -> &'static [TypeRow] {
    match database {
        Database::PostgreSql | Database::MongoDb => POSTGRESQL,
        Database::MySql | Database::MariaDb => MYSQL,
        Database::Sqlite => SQLITE,
    }
}

/// Further words whose values are numbers in the code; those of the others are texts.
const FURTHER_NUMBERS: &[&str] = &[
    "tinyint",
    "tinyint unsigned",
    "mediumint",
    "mediumint unsigned",
    "year",
    "int2",
    "unsigned big int",
];

/// The type in the code of a word for a type.
pub(super) fn host(word: &str, database: Database) -> &'static str {
    let further = if FURTHER_NUMBERS.contains(&word) { "number" } else { "string" };
    row(table(database), word, database).map_or(further, |row| row.host)
}

/// Whether the server has no type for identifiers, so that texts hold them.
pub(super) fn identifiers_are_texts(conventions: &Conventions) -> bool {
    let Conventions { database, words, .. } = conventions;
    database.is_mysql()
        && row(words.types, "uuid", *database).is_some_and(|row| !row.mysql.0.starts_with("uuid"))
}

/// Whether a word stands for a type with a neutral name.
pub(super) fn is_named(word: &str, database: Database) -> bool {
    row(table(database), word, database).is_some()
}

/// Whether the server's driver takes a word for a type.
pub(super) fn is_supported(word: &str, database: Database) -> bool {
    let further = FURTHER
        .iter()
        .filter(|(servers, _)| servers.contains(&database))
        .flat_map(|(_, words)| *words);
    matches!(word, "enum" | "simple-enum")
        || row(table(database), word, database).is_some()
        || further.into_iter().any(|known| *known == word)
}

/// This server's word for what a word means to another server's driver.
pub(super) fn elsewhere(word: &str, database: Database) -> Option<&'static str> {
    let found = [Database::PostgreSql, Database::MariaDb, Database::Sqlite]
        .into_iter()
        .find_map(|other| row(table(other), word, other))?;
    table(database)
        .iter()
        .find(|row| row.written && !row.numbered && row.kind == found.kind)
        .map(|row| row.word)
}

/// The word for a moment.
pub(super) fn moment(database: Database) -> &'static str {
    if database == Database::PostgreSql { "timestamp" } else { "datetime" }
}

/// The type word that TypeORM takes for a TypeScript type.
pub(super) fn inferred(host: &str, database: Database) -> Option<&'static str> {
    let (_, postgresql, others) = INFERRED.iter().find(|(known, _, _)| *known == host)?;
    Some(if database == Database::PostgreSql { postgresql } else { others })
}
