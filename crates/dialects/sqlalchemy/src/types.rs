//! SQLAlchemy's types and what its compilers make of them (SQLAlchemy 2.0.58, `DDLCompiler` of each
//! server). The first row of a kind is the one that is written. A word with a value in brackets is
//! the type with that argument.

use crate::dialect::type_table::{Takes, TypeRow};
use crate::schema::{Database, TypeKind as Kind};

/// Types on PostgreSQL.
const POSTGRESQL: &[TypeRow] = &[
    TypeRow::new("Boolean", Kind::Boolean, "", "bool"),
    TypeRow::new("SmallInteger", Kind::SmallInt, "", "int"),
    TypeRow::new("SmallInteger", Kind::SmallInt, "", "int").numbered(),
    TypeRow::new("Integer", Kind::Integer, "", "int"),
    TypeRow::new("Integer", Kind::Integer, "", "int").numbered(),
    TypeRow::new("BigInteger", Kind::BigInt, "", "int"),
    TypeRow::new("BigInteger", Kind::BigInt, "", "int").numbered(),
    TypeRow::new("Numeric", Kind::Numeric, "", "Decimal").taking(Takes::Digits, ""),
    TypeRow::new("REAL", Kind::Real, "", "float"),
    TypeRow::new("Float", Kind::Double, "", "float"),
    TypeRow::new("Double", Kind::Double, "", "float").read_only(),
    TypeRow::new("CHAR", Kind::Char, "", "str").taking(Takes::Length, ""),
    TypeRow::new("String", Kind::Varchar, "", "str").taking(Takes::Length, ""),
    TypeRow::new("CITEXT", Kind::CaseFoldedText, "", "str"),
    TypeRow::new("Text", Kind::Text, "", "str"),
    TypeRow::new("LargeBinary", Kind::Binary, "", "bytes"),
    TypeRow::new("Date", Kind::Date, "", "date"),
    TypeRow::new("Time", Kind::Time, "", "time"),
    TypeRow::new("TIME", Kind::Time, "", "time").taking(Takes::Fraction, ""),
    TypeRow::new("Time(timezone=True)", Kind::TimeZoned, "", "time"),
    TypeRow::new("TIME(timezone=True)", Kind::TimeZoned, "", "time").taking(Takes::Fraction, ""),
    TypeRow::new("DateTime", Kind::Timestamp, "", "datetime"),
    TypeRow::new("TIMESTAMP", Kind::Timestamp, "", "datetime").taking(Takes::Fraction, ""),
    TypeRow::new("DateTime(timezone=True)", Kind::TimestampZoned, "", "datetime"),
    TypeRow::new("TIMESTAMP(timezone=True)", Kind::TimestampZoned, "", "datetime")
        .taking(Takes::Fraction, ""),
    TypeRow::new("Interval", Kind::Interval, "", "timedelta"),
    TypeRow::new("Uuid", Kind::Uuid, "", "UUID"),
    TypeRow::new("JSON", Kind::Json, "", "Any"),
    TypeRow::new("JSONB", Kind::BinaryJson, "", "Any"),
    TypeRow::new("INET", Kind::NetworkAddress, "", "str"),
    TypeRow::new("INT4RANGE", Kind::IntegerRange, "", "Any"),
    TypeRow::new("INT8RANGE", Kind::BigIntRange, "", "Any"),
    TypeRow::new("NUMRANGE", Kind::NumericRange, "", "Any"),
    TypeRow::new("DATERANGE", Kind::DateRange, "", "Any"),
    TypeRow::new("TSTZRANGE", Kind::TimestampRange, "", "Any"),
    TypeRow::new("TSVECTOR", Kind::SearchVector, "", "str"),
];

/// Types on SQLite, which keeps the names that the compiler writes.
const SQLITE: &[TypeRow] = &[
    TypeRow::new("Boolean", Kind::Boolean, "boolean", "bool"),
    TypeRow::new("SmallInteger", Kind::SmallInt, "smallint", "int"),
    TypeRow::new("Integer", Kind::Integer, "integer", "int"),
    TypeRow::new("Integer", Kind::Integer, "integer", "int").numbered(),
    TypeRow::new("BigInteger", Kind::BigInt, "bigint", "int"),
    TypeRow::new("Numeric", Kind::Numeric, "numeric", "Decimal")
        .taking(Takes::Digits, "numeric({})"),
    TypeRow::new("DECIMAL", Kind::Numeric, "decimal", "Decimal")
        .taking(Takes::Digits, "decimal({})")
        .read_only(),
    TypeRow::new("REAL", Kind::Real, "real", "float"),
    TypeRow::new("Float", Kind::Double, "float", "float"),
    TypeRow::new("Double", Kind::Double, "double", "float").read_only(),
    TypeRow::new("DOUBLE_PRECISION", Kind::Double, "double precision", "float").read_only(),
    TypeRow::new("CHAR", Kind::Char, "char", "str").taking(Takes::Length, "char({})"),
    TypeRow::new("String", Kind::Varchar, "varchar", "str").taking(Takes::Length, "varchar({})"),
    TypeRow::new("NVARCHAR", Kind::Varchar, "nvarchar", "str")
        .taking(Takes::Length, "nvarchar({})")
        .read_only(),
    TypeRow::new("Text", Kind::Text, "text", "str"),
    TypeRow::new("LargeBinary", Kind::Binary, "blob", "bytes"),
    TypeRow::new("Date", Kind::Date, "date", "date"),
    TypeRow::new("Time", Kind::Time, "time", "time"),
    TypeRow::new("DateTime", Kind::Timestamp, "datetime", "datetime"),
    TypeRow::new("TIMESTAMP", Kind::Timestamp, "timestamp", "datetime").read_only(),
    TypeRow::new("Interval", Kind::Interval, "datetime", "timedelta"),
    TypeRow::new("Uuid", Kind::Uuid, "char(32)", "UUID"),
    TypeRow::new("UUID", Kind::Uuid, "uuid", "UUID").read_only(),
    TypeRow::new("JSON", Kind::Json, "json", "Any"),
];

/// Types on MariaDB and MySQL. A decimal without digits has ten there.
const MYSQL: &[TypeRow] = &[
    TypeRow::new("Boolean", Kind::Boolean, "", "bool"),
    TypeRow::new("SmallInteger", Kind::SmallInt, "", "int"),
    TypeRow::new("SmallInteger", Kind::SmallInt, "", "int").numbered(),
    TypeRow::new("Integer", Kind::Integer, "", "int"),
    TypeRow::new("Integer", Kind::Integer, "", "int").numbered(),
    TypeRow::new("BigInteger", Kind::BigInt, "", "int"),
    TypeRow::new("BigInteger", Kind::BigInt, "", "int").numbered(),
    TypeRow::new("SMALLINT(unsigned=True)", Kind::UnsignedSmallInt, "", "int"),
    TypeRow::new("INTEGER(unsigned=True)", Kind::UnsignedInteger, "", "int"),
    TypeRow::new("BIGINT(unsigned=True)", Kind::UnsignedBigInt, "", "int"),
    TypeRow::new("Numeric", Kind::Numeric, "", "Decimal")
        .taking(Takes::Digits, "")
        .silent_digits(10, 0),
    TypeRow::new("Float", Kind::Real, "", "float"),
    TypeRow::new("Double", Kind::Double, "", "float"),
    TypeRow::new("CHAR", Kind::Char, "", "str").taking(Takes::Length, "").silent(1),
    TypeRow::new("String", Kind::Varchar, "", "str").taking(Takes::Length, ""),
    TypeRow::new("Text", Kind::Text, "", "str").mysql("text", "text"),
    TypeRow::new("TINYTEXT", Kind::Text, "", "str").mysql("tinytext", "tinytext").read_only(),
    TypeRow::new("MEDIUMTEXT", Kind::Text, "", "str").mysql("mediumtext", "mediumtext").read_only(),
    TypeRow::new("LONGTEXT", Kind::Text, "", "str").mysql("longtext", "longtext").read_only(),
    TypeRow::new("LargeBinary", Kind::Binary, "", "bytes").mysql("blob", "blob"),
    TypeRow::new("TINYBLOB", Kind::Binary, "", "bytes").mysql("tinyblob", "tinyblob").read_only(),
    TypeRow::new("MEDIUMBLOB", Kind::Binary, "", "bytes")
        .mysql("mediumblob", "mediumblob")
        .read_only(),
    TypeRow::new("LONGBLOB", Kind::Binary, "", "bytes").mysql("longblob", "longblob").read_only(),
    TypeRow::new("Date", Kind::Date, "", "date"),
    TypeRow::new("Time", Kind::Time, "", "time").mysql("time", "time"),
    TypeRow::new("TIME", Kind::Time, "", "time")
        .taking(Takes::Fraction, "")
        .mysql("time", "time({})"),
    TypeRow::new("DateTime", Kind::Timestamp, "", "datetime").mysql("datetime", "datetime"),
    TypeRow::new("DATETIME", Kind::Timestamp, "", "datetime")
        .taking(Takes::Fraction, "")
        .mysql("datetime", "datetime({})"),
    TypeRow::new("TIMESTAMP", Kind::TimestampZoned, "", "datetime")
        .taking(Takes::Fraction, "")
        .mysql("timestamp", "timestamp({})"),
    TypeRow::new("Interval", Kind::Interval, "", "timedelta").mysql("datetime", "datetime"),
    TypeRow::new("Uuid", Kind::Uuid, "", "UUID").mysql("char(32)", "char(32)"),
    TypeRow::new("JSON", Kind::Json, "", "Any"),
];

/// The types of a server.
pub(super) fn table(database: Database) -> &'static [TypeRow] {
    match database {
        Database::PostgreSql | Database::MongoDb => POSTGRESQL,
        Database::Sqlite => SQLITE,
        Database::MySql | Database::MariaDb => MYSQL,
    }
}

/// Other words for the same type: word and the one that the table has.
pub(super) const SYNONYMS: &[(&str, &str)] = &[
    ("BOOLEAN", "Boolean"),
    ("SMALLINT", "SmallInteger"),
    ("INTEGER", "Integer"),
    ("INT", "Integer"),
    ("BIGINT", "BigInteger"),
    ("NUMERIC", "Numeric"),
    ("DECIMAL", "Numeric"),
    ("FLOAT", "Float"),
    ("DOUBLE", "Double"),
    ("DOUBLE_PRECISION", "Double"),
    ("NCHAR", "CHAR"),
    ("VARCHAR", "String"),
    ("NVARCHAR", "String"),
    ("Unicode", "String"),
    ("AutoString", "String"),
    ("TEXT", "Text"),
    ("UnicodeText", "Text"),
    ("CLOB", "Text"),
    ("BLOB", "LargeBinary"),
    ("BYTEA", "LargeBinary"),
    ("BINARY", "LargeBinary"),
    ("VARBINARY", "LargeBinary"),
    ("PickleType", "LargeBinary"),
    ("DATE", "Date"),
    ("DATETIME", "DateTime"),
    ("TIMESTAMP", "DateTime"),
    ("TIME", "Time"),
    ("DATETIME(timezone=True)", "DateTime(timezone=True)"),
    ("TIMESTAMP(timezone=True)", "DateTime(timezone=True)"),
    ("TIME(timezone=True)", "Time(timezone=True)"),
    ("DateTime(timezone=True)", "DateTime"),
    ("Time(timezone=True)", "Time"),
    ("INTERVAL", "Interval"),
    ("UUID", "Uuid"),
    ("JSONB", "JSON"),
    ("Enum", "Enum"),
];

/// Types that are imported from a server's own module.
pub(super) const POSTGRESQL_TYPES: &[&str] = &[
    "CITEXT",
    "TIME",
    "TIMESTAMP",
    "JSONB",
    "INET",
    "INT4RANGE",
    "INT8RANGE",
    "NUMRANGE",
    "DATERANGE",
    "TSTZRANGE",
    "TSVECTOR",
    "ARRAY",
    "HSTORE",
    "CIDR",
    "MACADDR",
    "MONEY",
    "BIT",
    "OID",
    "REGCLASS",
    "TSRANGE",
    "TSQUERY",
];

/// The same of MariaDB and MySQL.
pub(super) const MYSQL_TYPES: &[&str] = &[
    "SMALLINT",
    "INTEGER",
    "BIGINT",
    "TINYINT",
    "MEDIUMINT",
    "TINYTEXT",
    "MEDIUMTEXT",
    "LONGTEXT",
    "TINYBLOB",
    "MEDIUMBLOB",
    "LONGBLOB",
    "TIME",
    "DATETIME",
    "TIMESTAMP",
    "YEAR",
    "SET",
];

/// Types without a neutral word: word and the server's name.
pub(super) const NATIVE: &[(&str, &str)] = &[
    ("HSTORE", "hstore"),
    ("CIDR", "cidr"),
    ("MACADDR", "macaddr"),
    ("MONEY", "money"),
    ("BIT", "bit"),
    ("OID", "oid"),
    ("REGCLASS", "regclass"),
    ("TSRANGE", "tsrange"),
    ("TSQUERY", "tsquery"),
    ("TINYINT", "tinyint"),
    ("MEDIUMINT", "mediumint"),
    ("YEAR", "year"),
];

/// What a type in the code means where nothing else is said: its last name and the word
/// (`registry.type_annotation_map` and `sqltypes._type_map` of SQLAlchemy 2.0).
pub(super) const INFERRED: &[(&str, &str)] = &[
    ("int", "Integer"),
    ("str", "String"),
    ("bool", "Boolean"),
    ("float", "Float"),
    ("bytes", "LargeBinary"),
    ("Decimal", "Numeric"),
    ("datetime", "DateTime"),
    ("date", "Date"),
    ("time", "Time"),
    ("timedelta", "Interval"),
    ("UUID", "Uuid"),
];

/// Where the host types come from.
pub(super) const HOST_MODULES: &[(&str, &str)] = &[
    ("Decimal", "decimal"),
    ("datetime", "datetime"),
    ("date", "datetime"),
    ("time", "datetime"),
    ("timedelta", "datetime"),
    ("UUID", "uuid"),
    ("Any", "typing"),
];
