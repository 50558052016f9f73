//! SQLAlchemy's types and what its compilers make of them (SQLAlchemy 2.0.58, `DDLCompiler` of each
//! server). The first row of a kind is the one that is written. A word with a value in brackets is
//! the type with that argument.

use std::sync::LazyLock;

use crate::dialect::release::at_least;
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

/// The types of a release on a server, as 1.4.54, 2.0.58 and 2.1.9 make them.
pub(super) fn of_release(release: &str, database: Database) -> &'static [TypeRow] {
    type Rows = LazyLock<Vec<TypeRow>>;
    // 1.4 has no `Uuid`; PostgreSQL's own module has one, which is printed for it, but no `CITEXT`.
    static POSTGRESQL_1: Rows = LazyLock::new(|| without(Kind::CaseFoldedText, POSTGRESQL));
    static SQLITE_1: Rows = LazyLock::new(|| without(Kind::Uuid, SQLITE));
    static MYSQL_1: Rows = LazyLock::new(|| without(Kind::Uuid, MYSQL));
    // 2.1 takes `Double` for fractions, and MariaDB's own type for identifiers.
    static POSTGRESQL_2_1: Rows = LazyLock::new(|| with_double(POSTGRESQL));
    static SQLITE_2_1: Rows = LazyLock::new(|| with_double(SQLITE));
    static MARIADB_2_1: Rows = LazyLock::new(|| {
        let own = |row: &TypeRow| match row.kind {
            Kind::Uuid => row.mysql("uuid", "uuid"),
            _ => *row,
        };
        MYSQL.iter().map(own).collect()
    });
    let (is_2_0, is_2_1) = (at_least(release, (2, 0)), at_least(release, (2, 1)));
    match database {
        Database::PostgreSql | Database::MongoDb if is_2_1 => &POSTGRESQL_2_1,
        Database::PostgreSql | Database::MongoDb if is_2_0 => POSTGRESQL,
        Database::PostgreSql | Database::MongoDb => &POSTGRESQL_1,
        Database::Sqlite if is_2_1 => &SQLITE_2_1,
        Database::Sqlite if is_2_0 => SQLITE,
        Database::Sqlite => &SQLITE_1,
        Database::MariaDb if is_2_1 => &MARIADB_2_1,
        Database::MySql | Database::MariaDb if is_2_0 => MYSQL,
        Database::MySql | Database::MariaDb => &MYSQL_1,
    }
}

fn without(kind: Kind, rows: &[TypeRow]) -> Vec<TypeRow> {
    rows.iter().filter(|row| row.kind != kind).copied().collect()
}

fn with_double(rows: &[TypeRow]) -> Vec<TypeRow> {
    let written = |row: &TypeRow| match row.word {
        "Float" => row.read_only(),
        "Double" => TypeRow { written: true, ..*row },
        _ => *row,
    };
    rows.iter().map(written).collect()
}

/// How 1.4 says what later releases have a word of their own for: from the server's module.
pub(super) const SAID_IN_1_4: &[(&str, &str)] =
    &[("Uuid", "UUID(as_uuid=True)"), ("Double", "DOUBLE")];

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
    "UUID",
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
    "DOUBLE",
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
const INFERRED: &[(&str, &str)] = &[
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

/// The word for a type in the code, by its last name.
pub(super) fn inferred(release: &str, host: &str) -> Option<&'static str> {
    match host {
        "float" if at_least(release, (2, 1)) => Some("Double"),
        _ => INFERRED.iter().find(|(known, _)| *known == host).map(|(_, word)| *word),
    }
}

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
