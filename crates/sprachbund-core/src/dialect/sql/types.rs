//! What the servers' words for types mean. The words are those of the servers' documentation: PostgreSQL 15, section 8;
//! MariaDB 10.11 and MySQL 8, "Data Types"; SQLite keeps any word, here are those that frameworks write.

use crate::schema::{Database, Type, TypeKind, TypeParameters};

const POSTGRESQL: u8 = 1;
const MYSQL: u8 = 2;
const SQLITE: u8 = 4;
const EVERYWHERE: u8 = 7;

/// How the arguments of a word are taken.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Arguments {
    /// They say nothing of the values (the width at which MySQL shows a number).
    Ignored,
    Length,
    Digits,
    Fraction,
}

use Arguments::{Digits, Fraction, Ignored, Length};

/// A word, the servers that know it, its kind and its arguments.
type Row = (&'static str, u8, TypeKind, Arguments);

const WORDS: &[Row] = &[
    ("bigint", EVERYWHERE, TypeKind::BigInt, Ignored),
    ("bigint unsigned", MYSQL | SQLITE, TypeKind::UnsignedBigInt, Ignored),
    ("bigserial", POSTGRESQL, TypeKind::BigInt, Ignored),
    ("binary", MYSQL | SQLITE, TypeKind::Binary, Length),
    ("blob", MYSQL | SQLITE, TypeKind::Binary, Ignored),
    ("bool", EVERYWHERE, TypeKind::Boolean, Ignored),
    ("boolean", EVERYWHERE, TypeKind::Boolean, Ignored),
    ("bpchar", POSTGRESQL, TypeKind::Char, Length),
    ("bytea", POSTGRESQL, TypeKind::Binary, Ignored),
    ("char", EVERYWHERE, TypeKind::Char, Length),
    ("character", EVERYWHERE, TypeKind::Char, Length),
    ("character varying", EVERYWHERE, TypeKind::Varchar, Length),
    ("cidr", POSTGRESQL, TypeKind::Native, Ignored),
    ("citext", POSTGRESQL, TypeKind::CaseFoldedText, Ignored),
    ("clob", SQLITE, TypeKind::Text, Ignored),
    ("date", EVERYWHERE, TypeKind::Date, Ignored),
    ("daterange", POSTGRESQL, TypeKind::DateRange, Ignored),
    ("datetime", MYSQL | SQLITE, TypeKind::Timestamp, Fraction),
    ("dec", EVERYWHERE, TypeKind::Numeric, Digits),
    ("decimal", EVERYWHERE, TypeKind::Numeric, Digits),
    ("double", EVERYWHERE, TypeKind::Double, Ignored),
    ("double precision", EVERYWHERE, TypeKind::Double, Ignored),
    ("float", MYSQL, TypeKind::Real, Ignored),
    ("float", POSTGRESQL | SQLITE, TypeKind::Double, Ignored),
    ("float4", POSTGRESQL, TypeKind::Real, Ignored),
    ("float8", POSTGRESQL, TypeKind::Double, Ignored),
    ("inet", POSTGRESQL, TypeKind::NetworkAddress, Ignored),
    ("int", EVERYWHERE, TypeKind::Integer, Ignored),
    ("int unsigned", MYSQL | SQLITE, TypeKind::UnsignedInteger, Ignored),
    ("int2", EVERYWHERE, TypeKind::SmallInt, Ignored),
    ("int4", POSTGRESQL, TypeKind::Integer, Ignored),
    ("int4range", POSTGRESQL, TypeKind::IntegerRange, Ignored),
    ("int8", EVERYWHERE, TypeKind::BigInt, Ignored),
    ("int8range", POSTGRESQL, TypeKind::BigIntRange, Ignored),
    ("integer", EVERYWHERE, TypeKind::Integer, Ignored),
    ("integer unsigned", MYSQL | SQLITE, TypeKind::UnsignedInteger, Ignored),
    ("interval", POSTGRESQL, TypeKind::Interval, Ignored),
    ("json", EVERYWHERE, TypeKind::Json, Ignored),
    ("jsonb", POSTGRESQL, TypeKind::BinaryJson, Ignored),
    ("longblob", MYSQL, TypeKind::Binary, Ignored),
    ("longtext", MYSQL, TypeKind::Text, Ignored),
    ("mediumblob", MYSQL, TypeKind::Binary, Ignored),
    ("mediumtext", MYSQL, TypeKind::Text, Ignored),
    ("nchar", MYSQL | SQLITE, TypeKind::Char, Length),
    ("numeric", EVERYWHERE, TypeKind::Numeric, Digits),
    ("numrange", POSTGRESQL, TypeKind::NumericRange, Ignored),
    ("nvarchar", MYSQL | SQLITE, TypeKind::Varchar, Length),
    ("real", POSTGRESQL, TypeKind::Real, Ignored),
    ("real", MYSQL | SQLITE, TypeKind::Double, Ignored),
    ("serial", POSTGRESQL, TypeKind::Integer, Ignored),
    ("smallint", EVERYWHERE, TypeKind::SmallInt, Ignored),
    ("smallint unsigned", MYSQL | SQLITE, TypeKind::UnsignedSmallInt, Ignored),
    ("smallserial", POSTGRESQL, TypeKind::SmallInt, Ignored),
    ("text", EVERYWHERE, TypeKind::Text, Ignored),
    ("time", EVERYWHERE, TypeKind::Time, Fraction),
    ("time with time zone", POSTGRESQL, TypeKind::TimeZoned, Fraction),
    ("time without time zone", POSTGRESQL, TypeKind::Time, Fraction),
    ("timestamp", POSTGRESQL | SQLITE, TypeKind::Timestamp, Fraction),
    ("timestamp", MYSQL, TypeKind::TimestampZoned, Fraction),
    ("timestamp with time zone", POSTGRESQL, TypeKind::TimestampZoned, Fraction),
    ("timestamp without time zone", POSTGRESQL, TypeKind::Timestamp, Fraction),
    ("timestamptz", POSTGRESQL, TypeKind::TimestampZoned, Fraction),
    ("timetz", POSTGRESQL, TypeKind::TimeZoned, Fraction),
    ("tinyblob", MYSQL, TypeKind::Binary, Ignored),
    ("tinytext", MYSQL, TypeKind::Text, Ignored),
    ("tstzrange", POSTGRESQL, TypeKind::TimestampRange, Ignored),
    ("tsvector", POSTGRESQL, TypeKind::SearchVector, Ignored),
    ("uuid", EVERYWHERE, TypeKind::Uuid, Ignored),
    ("varbinary", MYSQL | SQLITE, TypeKind::Binary, Length),
    ("varchar", EVERYWHERE, TypeKind::Varchar, Length),
];

/// Words of PostgreSQL that number a column besides typing it.
pub(crate) const SERIAL: &[&str] = &["bigserial", "serial", "smallserial", "serial2", "serial4", "serial8"];

/// The words of a server, each with the type that it means.
pub(crate) fn words(database: Database) -> impl Iterator<Item = (&'static str, Type)> {
    let known = WORDS.iter().filter(move |(_, servers, ..)| servers & server(database) != 0);
    known.map(move |(word, ..)| (*word, read(word, database, &|_| false)))
}

fn server(database: Database) -> u8 {
    match database {
        Database::PostgreSql | Database::MongoDb => POSTGRESQL,
        Database::MySql | Database::MariaDb => MYSQL,
        Database::Sqlite => SQLITE,
    }
}

/// The type that a server's text means; enumerations are looked up by `is_enum`.
///
/// `Type::Native` holds the words that have no neutral name.
pub(crate) fn read(text: &str, database: Database, is_enum: &dyn Fn(&str) -> bool) -> Type {
    let text = text.trim();
    if let Some(element) = text.strip_suffix("[]").or_else(|| text.strip_suffix(" array")) {
        return Type::Array(Box::new(read(element, database, is_enum)));
    }
    if is_enum(text) {
        return Type::Enum(text.to_owned());
    }
    let folded = text.to_lowercase();
    let (word, numbers) = split(&folded);
    if database.is_mysql() && word == "tinyint" && numbers == [1] {
        return Type::Boolean;
    }
    let known = WORDS.iter().find(|(known, servers, ..)| *known == word && servers & server(database) != 0);
    // The width at which a number is shown says nothing of its values.
    let shown = database.is_mysql() && ["tinyint", "mediumint", "year"].iter().any(|small| word.starts_with(small));
    // Where an extension was installed says nothing of what its type holds.
    let folded = folded.strip_prefix("public.").map_or(folded.clone(), str::to_owned);
    let Some((_, _, kind, takes)) = known else { return Type::Native(if shown { word } else { folded }) };
    let first = numbers.first().copied();
    let parameters = match takes {
        Ignored => TypeParameters::default(),
        Length => TypeParameters { length: first.or((*kind == TypeKind::Char).then_some(1)), ..TypeParameters::default() },
        Digits => {
            TypeParameters { precision: first, scale: first.map(|_| numbers.get(1).copied().unwrap_or(0)), ..TypeParameters::default() }
        }
        Fraction => TypeParameters { precision: first, ..TypeParameters::default() },
    };
    Type::from_kind(*kind, parameters).unwrap_or(Type::Native(folded))
}

/// A word without its arguments, and these, if all are numbers.
fn split(text: &str) -> (String, Vec<u32>) {
    let Some((head, rest)) = text.split_once('(') else { return (squeezed(text), Vec::new()) };
    let (inside, tail) = rest.split_once(')').unwrap_or((rest, ""));
    let numbers: Option<Vec<u32>> = inside.split(',').map(|part| part.trim().parse().ok()).collect();
    match numbers {
        Some(numbers) => (squeezed(&format!("{head} {tail}")), numbers),
        None => (text.to_owned(), Vec::new()),
    }
}

fn squeezed(text: &str) -> String {
    text.split_whitespace().collect::<Vec<_>>().join(" ")
}

/// What MariaDB and MySQL call a type in a script; `members` are the values of an enumeration.
pub(crate) fn mysql_name(ty: &Type, members: &str) -> String {
    let TypeParameters { length, precision, scale } = ty.parameters();
    let digits = |word: &str, digits: Option<u32>| digits.map_or(word.to_owned(), |digits| format!("{word}({digits})"));
    match ty {
        Type::Boolean => "tinyint(1)".into(),
        Type::SmallInt => "smallint".into(),
        Type::Integer => "int".into(),
        Type::BigInt => "bigint".into(),
        Type::UnsignedSmallInt => "smallint unsigned".into(),
        Type::UnsignedInteger => "int unsigned".into(),
        Type::UnsignedBigInt => "bigint unsigned".into(),
        Type::Numeric { .. } => {
            precision.map_or("decimal(65,30)".into(), |precision| format!("decimal({precision},{})", scale.unwrap_or(0)))
        }
        Type::Real => "float".into(),
        Type::Double => "double".into(),
        Type::Char(_) => digits("char", length),
        Type::Varchar(Some(length)) => format!("varchar({length})"),
        Type::Varchar(None) | Type::Text | Type::CaseFoldedText | Type::SearchVector | Type::Range(_) => "longtext".into(),
        Type::Binary(Some(length)) => format!("varbinary({length})"),
        Type::Binary(None) => "longblob".into(),
        Type::Date => "date".into(),
        Type::Time { .. } => digits("time", precision),
        Type::Timestamp { zoned: true, .. } => digits("timestamp", precision),
        Type::Timestamp { .. } => digits("datetime", precision),
        Type::Interval => "bigint".into(),
        Type::Uuid => "char(36)".into(),
        Type::ObjectId => "char(24)".into(),
        Type::Json | Type::BinaryJson | Type::Array(_) => "json".into(),
        Type::NetworkAddress => "varchar(43)".into(),
        Type::Enum(_) => format!("enum({members})"),
        Type::Native(text) => text.clone(),
    }
}

/// A word for SQLite, which keeps any; one that reads as the same type where there is one.
pub(crate) fn sqlite_name(ty: &Type) -> String {
    match ty {
        Type::Timestamp { .. } => "datetime".into(),
        Type::Time { .. } => "time".into(),
        Type::Binary(None) => "blob".into(),
        Type::Interval => "bigint".into(),
        Type::BinaryJson => "json".into(),
        Type::ObjectId => "char(24)".into(),
        Type::UnsignedSmallInt => "smallint unsigned".into(),
        Type::UnsignedInteger => "integer unsigned".into(),
        Type::UnsignedBigInt => "bigint unsigned".into(),
        Type::Real | Type::Double => "real".into(),
        Type::Array(_) | Type::Enum(_) | Type::Range(_) | Type::SearchVector | Type::CaseFoldedText | Type::NetworkAddress => "text".into(),
        Type::Native(text) => text.clone(),
        other => other.to_string(),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn words_of_the_servers() {
        use Database::{MariaDb, PostgreSql, Sqlite};
        for (database, text, expected) in [
            (PostgreSql, "character varying(24)", "varchar(24)"),
            (PostgreSql, "CHARACTER VARYING", "varchar"),
            (PostgreSql, "character(3)", "char(3)"),
            (PostgreSql, "char", "char(1)"),
            (PostgreSql, "numeric(12,2)", "numeric(12,2)"),
            (PostgreSql, "NUMERIC(6)", "numeric(6,0)"),
            (PostgreSql, "timestamp(3) with time zone", "timestamp(3) with time zone"),
            (PostgreSql, "timestamptz", "timestamp with time zone"),
            (PostgreSql, "timestamp without time zone", "timestamp"),
            (PostgreSql, "integer[]", "integer array"),
            (PostgreSql, "character varying(4)[]", "varchar(4) array"),
            (PostgreSql, "jsonb", "binary json"),
            (PostgreSql, "float", "double precision"),
            (PostgreSql, "money", "native(money)"),
            (PostgreSql, "call_status", "enum(call_status)"),
            (MariaDb, "tinyint(1)", "boolean"),
            (MariaDb, "tinyint(4)", "native(tinyint)"),
            (MariaDb, "int(11)", "integer"),
            (MariaDb, "int(10) unsigned", "unsigned integer"),
            (MariaDb, "datetime(6)", "timestamp(6)"),
            (MariaDb, "timestamp", "timestamp with time zone"),
            (MariaDb, "float", "real"),
            (MariaDb, "longtext", "text"),
            (Sqlite, "varchar(40)", "varchar(40)"),
            (Sqlite, "datetime", "timestamp"),
            (Sqlite, "BOOL", "boolean"),
            (Sqlite, "anything", "native(anything)"),
        ] {
            let ty = read(text, database, &|name| name == "call_status");
            assert_eq!(ty.to_string(), expected, "{text}");
        }
    }
}
