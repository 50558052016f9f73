//! ActiveRecord's column types on each server, as releases 6.1.7.10 to 8.1.4 make them. A word is
//! the method of a column, with the options that choose the type behind it.

use sprachbund_dialect::dialect::type_table::{Takes, TypeRow};
use sprachbund_schema::schema::{Database, TypeKind as Kind};

/// Types on PostgreSQL; the lengths of `text` and `binary` are dropped there.
const POSTGRESQL: &[TypeRow] = &[
    TypeRow::new("boolean", Kind::Boolean, "", "boolean"),
    TypeRow::new("integer limit: 2", Kind::SmallInt, "", "integer"),
    TypeRow::new("integer limit: 2", Kind::SmallInt, "", "integer").numbered(),
    TypeRow::new("integer", Kind::Integer, "", "integer"),
    TypeRow::new("integer", Kind::Integer, "", "integer").numbered(),
    TypeRow::new("bigint", Kind::BigInt, "", "integer"),
    TypeRow::new("bigint", Kind::BigInt, "", "integer").numbered(),
    TypeRow::new("float limit: 24", Kind::Real, "", "float"),
    TypeRow::new("float", Kind::Double, "", "float"),
    TypeRow::new("decimal", Kind::Numeric, "", "decimal").taking(Takes::Digits, ""),
    TypeRow::new("string", Kind::Varchar, "", "string").taking(Takes::Length, ""),
    TypeRow::new("char", Kind::Char, "", "string").taking(Takes::Length, "").silent(1),
    TypeRow::new("citext", Kind::CaseFoldedText, "", "string"),
    TypeRow::new("text", Kind::Text, "", "string"),
    TypeRow::new("binary", Kind::Binary, "", "string"),
    TypeRow::new("date", Kind::Date, "", "date"),
    TypeRow::new("time", Kind::Time, "", "time").taking(Takes::Fraction, ""),
    TypeRow::new("datetime", Kind::Timestamp, "", "time").taking(Takes::Fraction, ""),
    TypeRow::new("timestamp", Kind::Timestamp, "", "time").read_only(),
    // Its digits are dropped.
    TypeRow::new("timestamptz", Kind::TimestampZoned, "", "time"),
    TypeRow::new("timestamp with time zone", Kind::TimestampZoned, "", "time")
        .taking(Takes::Fraction, ""),
    TypeRow::new("time with time zone", Kind::TimeZoned, "", "time").taking(Takes::Fraction, ""),
    TypeRow::new("interval", Kind::Interval, "", "duration"),
    TypeRow::new("uuid", Kind::Uuid, "", "string"),
    TypeRow::new("json", Kind::Json, "", "hash"),
    TypeRow::new("jsonb", Kind::BinaryJson, "", "hash"),
    TypeRow::new("inet", Kind::NetworkAddress, "", "string"),
    TypeRow::new("int4range", Kind::IntegerRange, "", "range"),
    TypeRow::new("int8range", Kind::BigIntRange, "", "range"),
    TypeRow::new("numrange", Kind::NumericRange, "", "range"),
    TypeRow::new("daterange", Kind::DateRange, "", "range"),
    TypeRow::new("tstzrange", Kind::TimestampRange, "", "range"),
    TypeRow::new("tsvector", Kind::SearchVector, "", "string"),
];

/// Types on MariaDB and MySQL.
const MYSQL: &[TypeRow] = &[
    TypeRow::new("boolean", Kind::Boolean, "", "boolean"),
    TypeRow::new("integer limit: 2", Kind::SmallInt, "", "integer"),
    TypeRow::new("integer limit: 2", Kind::SmallInt, "", "integer").numbered(),
    TypeRow::new("integer limit: 2 unsigned: true", Kind::UnsignedSmallInt, "", "integer"),
    TypeRow::new("integer", Kind::Integer, "", "integer"),
    TypeRow::new("integer", Kind::Integer, "", "integer").numbered(),
    TypeRow::new("integer unsigned: true", Kind::UnsignedInteger, "", "integer"),
    TypeRow::new("integer unsigned: true", Kind::UnsignedInteger, "", "integer").numbered(),
    TypeRow::new("bigint", Kind::BigInt, "", "integer"),
    TypeRow::new("bigint", Kind::BigInt, "", "integer").numbered(),
    TypeRow::new("bigint unsigned: true", Kind::UnsignedBigInt, "", "integer"),
    TypeRow::new("bigint unsigned: true", Kind::UnsignedBigInt, "", "integer").numbered(),
    TypeRow::new("float", Kind::Real, "", "float"),
    TypeRow::new("float limit: 53", Kind::Double, "", "float"),
    TypeRow::new("decimal", Kind::Numeric, "", "decimal")
        .taking(Takes::Digits, "")
        .silent_digits(10, 0),
    TypeRow::new("string", Kind::Varchar, "", "string").taking(Takes::Length, "").silent(255),
    TypeRow::new("char", Kind::Char, "", "string").taking(Takes::Length, "").silent(1),
    TypeRow::new("text", Kind::Text, "", "string").mysql("text", "text"),
    TypeRow::new("text size: :tiny", Kind::Text, "", "string").mysql("tinytext", "tinytext"),
    TypeRow::new("text size: :medium", Kind::Text, "", "string").mysql("mediumtext", "mediumtext"),
    TypeRow::new("text size: :long", Kind::Text, "", "string").mysql("longtext", "longtext"),
    TypeRow::new("binary", Kind::Binary, "", "string").mysql("blob", "blob"),
    TypeRow::new("binary limit", Kind::Binary, "", "string")
        .taking(Takes::Length, "")
        .mysql("varbinary({})", "varbinary({})"),
    TypeRow::new("binary size: :tiny", Kind::Binary, "", "string").mysql("tinyblob", "tinyblob"),
    TypeRow::new("binary size: :medium", Kind::Binary, "", "string")
        .mysql("mediumblob", "mediumblob"),
    TypeRow::new("binary size: :long", Kind::Binary, "", "string").mysql("longblob", "longblob"),
    TypeRow::new("date", Kind::Date, "", "date"),
    TypeRow::new("time", Kind::Time, "", "time").taking(Takes::Fraction, ""),
    TypeRow::new("datetime", Kind::Timestamp, "", "time").taking(Takes::Fraction, ""),
    TypeRow::new("timestamp", Kind::TimestampZoned, "", "time").taking(Takes::Fraction, ""),
    TypeRow::new("json", Kind::Json, "", "hash"),
    TypeRow::new("uuid", Kind::Uuid, "", "string").mysql("uuid", "uuid").on(&[Database::MariaDb]),
];

/// Types on SQLite, which keeps the words.
const SQLITE: &[TypeRow] = &[
    TypeRow::new("boolean", Kind::Boolean, "boolean", "boolean"),
    TypeRow::new("integer", Kind::Integer, "integer", "integer"),
    TypeRow::new("integer", Kind::Integer, "integer", "integer").numbered(),
    TypeRow::new("bigint", Kind::BigInt, "bigint", "integer"),
    TypeRow::new("float", Kind::Double, "float", "float"),
    TypeRow::new("decimal", Kind::Numeric, "decimal", "decimal")
        .taking(Takes::Digits, "decimal({})"),
    TypeRow::new("string", Kind::Varchar, "varchar", "string").taking(Takes::Length, "varchar({})"),
    TypeRow::new("char", Kind::Char, "char", "string")
        .taking(Takes::Length, "char({})")
        .read_only(),
    TypeRow::new("text", Kind::Text, "text", "string"),
    TypeRow::new("binary", Kind::Binary, "blob", "string").taking(Takes::Length, "blob({})"),
    TypeRow::new("date", Kind::Date, "date", "date"),
    TypeRow::new("time", Kind::Time, "time", "time"),
    TypeRow::new("datetime", Kind::Timestamp, "datetime", "time")
        .taking(Takes::Fraction, "datetime({})"),
    TypeRow::new("json", Kind::Json, "json", "hash"),
];

/// The types of a server.
pub(crate) fn table(database: Database) -> &'static [TypeRow] {
    match database {
        Database::PostgreSql | Database::MongoDb => POSTGRESQL,
        Database::MySql | Database::MariaDb => MYSQL,
        Database::Sqlite => SQLITE,
    }
}

/// A column's method with the options that choose its type.
#[derive(Clone, Debug, Default)]
pub(crate) struct Sized {
    pub(crate) limit: Option<u32>,
    pub(crate) precision: Option<u32>,
    pub(crate) scale: Option<u32>,
    /// `size:` of texts and binaries.
    pub(crate) size: Option<String>,
    pub(crate) unsigned: bool,
}

/// Methods of columns that every server has, with another name for the same.
const METHODS: &[(&str, &str)] = &[
    ("bigint", "bigint"),
    ("binary", "binary"),
    ("blob", "binary"),
    ("boolean", "boolean"),
    ("date", "date"),
    ("datetime", "datetime"),
    ("decimal", "decimal"),
    ("float", "float"),
    ("integer", "integer"),
    ("json", "json"),
    ("numeric", "decimal"),
    ("string", "string"),
    ("text", "text"),
    ("time", "time"),
    ("timestamp", "timestamp"),
    ("virtual", "virtual"),
];

/// Methods of columns on PostgreSQL alone, with the server's word.
const OF_POSTGRESQL: &[(&str, &str)] = &[
    ("bigserial", "bigint"),
    ("bit", "bit"),
    ("bit_varying", "bit varying"),
    ("box", "box"),
    ("cidr", "cidr"),
    ("circle", "circle"),
    ("citext", "citext"),
    ("daterange", "daterange"),
    ("enum", "enum"),
    ("hstore", "hstore"),
    ("inet", "inet"),
    ("int4range", "int4range"),
    ("int8range", "int8range"),
    ("interval", "interval"),
    ("jsonb", "jsonb"),
    ("line", "line"),
    ("lseg", "lseg"),
    ("ltree", "ltree"),
    ("macaddr", "macaddr"),
    ("money", "money"),
    ("numrange", "numrange"),
    ("oid", "oid"),
    ("path", "path"),
    ("point", "point"),
    ("polygon", "polygon"),
    ("serial", "integer"),
    ("timestamptz", "timestamp with time zone"),
    ("tsrange", "tsrange"),
    ("tstzrange", "tstzrange"),
    ("tsvector", "tsvector"),
    ("uuid", "uuid"),
    ("xml", "xml"),
];

/// Methods of columns on MariaDB and MySQL alone, with the server's word.
const OF_MYSQL: &[(&str, &str)] = &[
    ("longblob", "longblob"),
    ("longtext", "longtext"),
    ("mediumblob", "mediumblob"),
    ("mediumtext", "mediumtext"),
    ("tinyblob", "tinyblob"),
    ("tinytext", "tinytext"),
    ("unsigned_bigint", "bigint unsigned"),
    ("unsigned_decimal", "decimal unsigned"),
    ("unsigned_float", "float unsigned"),
    ("unsigned_integer", "int unsigned"),
];

/// Whether a table has a method of this name that makes a column.
pub(crate) fn is_method(name: &str, database: Database) -> bool {
    let own = match database {
        Database::PostgreSql | Database::MongoDb => OF_POSTGRESQL,
        Database::MySql | Database::MariaDb => OF_MYSQL,
        Database::Sqlite => &[],
    };
    METHODS.iter().chain(own).any(|(known, _)| *known == name)
}

/// The type that a method, or a type given as a text, makes on a server, in the server's words;
/// `None` where it is refused.
///
/// A word that is none of the framework's goes through as it is, without its limit.
pub(crate) fn text(method: &str, sized: &Sized, database: Database) -> Option<String> {
    let method = METHODS.iter().find(|(known, _)| *known == method).map_or(method, |(_, of)| of);
    match database {
        Database::PostgreSql | Database::MongoDb => of_postgresql(method, sized),
        Database::MySql | Database::MariaDb => of_mysql(method, sized),
        Database::Sqlite => Some(of_sqlite(method, sized)),
    }
}

/// A word with what stands in brackets behind it.
fn with(word: &str, number: Option<u32>) -> String {
    number.map_or_else(|| word.to_owned(), |number| format!("{word}({number})"))
}

fn with_digits(word: &str, sized: &Sized) -> Option<String> {
    match (sized.precision, sized.scale) {
        (Some(precision), Some(scale)) => Some(format!("{word}({precision},{scale})")),
        (Some(precision), None) => Some(format!("{word}({precision})")),
        (None, Some(_)) => None,
        (None, None) => Some(word.to_owned()),
    }
}

fn of_postgresql(method: &str, sized: &Sized) -> Option<String> {
    Some(match method {
        "string" => with("character varying", sized.limit),
        "integer" => match sized.limit {
            None | Some(3 | 4) => "integer".into(),
            Some(1 | 2) => "smallint".into(),
            Some(5..=8) => "bigint".into(),
            Some(_) => return None,
        },
        "float" => match sized.limit {
            Some(1..=24) => "real".into(),
            _ => "double precision".into(),
        },
        "decimal" => return with_digits("numeric", sized),
        "datetime" | "timestamp" => {
            format!("{} without time zone", with("timestamp", sized.precision))
        }
        "time" => format!("{} without time zone", with("time", sized.precision)),
        "binary" => "bytea".into(),
        // Its limit is dropped, but for bits.
        "bit" | "bit_varying" => {
            let word = OF_POSTGRESQL.iter().find(|(known, _)| *known == method)?.1;
            with(word, sized.limit)
        }
        _ => OF_POSTGRESQL
            .iter()
            .find(|(known, _)| *known == method)
            .map_or_else(|| method.to_owned(), |(_, word)| (*word).to_owned()),
    })
}

/// What MariaDB and MySQL call the sizes of texts and binaries, by the longest value.
const SIZES: &[(&str, &str, u32)] = &[
    ("tiny", "tiny", 255),
    ("", "", 65_535),
    ("medium", "medium", 16_777_215),
    ("long", "long", u32::MAX),
];

fn of_mysql(method: &str, sized: &Sized) -> Option<String> {
    let signed = |word: String| if sized.unsigned { format!("{word} unsigned") } else { word };
    let size = |word: &str| {
        let fits = |limit: u32| SIZES.iter().find(|(_, _, most)| limit <= *most);
        let size = match (&sized.size, sized.limit) {
            (Some(size), _) => SIZES.iter().find(|(known, ..)| known == size)?.1,
            (None, Some(limit)) => fits(limit)?.1,
            (None, None) => "",
        };
        Some(format!("{size}{word}"))
    };
    Some(match method {
        "string" => with("varchar", sized.limit.or(Some(255))),
        "text" => return size("text"),
        "binary" => match (&sized.size, sized.limit) {
            (None, Some(limit @ 0..=4095)) => format!("varbinary({limit})"),
            _ => return size("blob"),
        },
        "integer" => signed(match sized.limit {
            None | Some(4) => "int".into(),
            Some(1) => "tinyint".into(),
            Some(2) => "smallint".into(),
            Some(3) => "mediumint".into(),
            Some(5..=8) => "bigint".into(),
            Some(_) => return None,
        }),
        "bigint" => signed("bigint".into()),
        "float" => signed(match sized.limit {
            Some(25..) => "double".into(),
            _ => "float".into(),
        }),
        "decimal" => signed(with_digits("decimal", sized)?),
        // No digits are what the server takes for zero of them.
        "datetime" | "timestamp" | "time" => {
            with(method, sized.precision.filter(|digits| *digits > 0))
        }
        "boolean" => "tinyint(1)".into(),
        _ => OF_MYSQL
            .iter()
            .find(|(known, _)| *known == method)
            .map_or_else(|| method.to_owned(), |(_, word)| (*word).to_owned()),
    })
}

fn of_sqlite(method: &str, sized: &Sized) -> String {
    match method {
        "string" => with("varchar", sized.limit),
        "binary" => with("blob", sized.limit),
        "text" | "integer" | "float" => with(method, sized.limit),
        "decimal" => with_digits("decimal", sized).unwrap_or_else(|| "decimal".into()),
        "datetime" | "timestamp" => with("datetime", sized.precision),
        "time" => with("time", sized.precision),
        _ => method.to_owned(),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn types_as_the_servers_hold_them() {
        use Database::{MySql, PostgreSql, Sqlite};
        let cases: &[(&str, &str, [&str; 3])] = &[
            ("string", "", ["character varying", "varchar(255)", "varchar"]),
            ("string", "limit 30", ["character varying(30)", "varchar(30)", "varchar(30)"]),
            ("text", "limit 100", ["text", "tinytext", "text(100)"]),
            ("text", "limit 65536", ["text", "mediumtext", "text(65536)"]),
            ("integer", "limit 1", ["smallint", "tinyint", "integer(1)"]),
            ("integer", "limit 3", ["integer", "mediumint", "integer(3)"]),
            ("integer", "limit 8", ["bigint", "bigint", "integer(8)"]),
            ("integer", "limit 9", ["-", "-", "integer(9)"]),
            ("float", "limit 24", ["real", "float", "float(24)"]),
            ("float", "limit 53", ["double precision", "double", "float(53)"]),
            ("decimal", "precision 8 scale 2", ["numeric(8,2)", "decimal(8,2)", "decimal(8,2)"]),
            ("numeric", "scale 2", ["-", "-", "decimal"]),
            ("binary", "limit 10", ["bytea", "varbinary(10)", "blob(10)"]),
            (
                "datetime",
                "precision 6",
                ["timestamp(6) without time zone", "datetime(6)", "datetime(6)"],
            ),
            (
                "datetime",
                "precision 0",
                ["timestamp(0) without time zone", "datetime", "datetime(0)"],
            ),
            ("bit", "limit 8", ["bit(8)", "bit", "bit"]),
            ("char", "limit 2", ["char", "char", "char"]),
            ("char(2)", "", ["char(2)", "char(2)", "char(2)"]),
        ];
        for (method, said, wanted) in cases {
            let mut words = said.split(' ');
            let mut sized = Sized::default();
            while let (Some(name), Some(number)) = (words.next(), words.next()) {
                let number = number.parse().ok();
                match name {
                    "limit" => sized.limit = number,
                    "precision" => sized.precision = number,
                    _ => sized.scale = number,
                }
            }
            for (database, wanted) in [PostgreSql, MySql, Sqlite].into_iter().zip(wanted) {
                let found = text(method, &sized, database).unwrap_or_else(|| "-".into());
                assert_eq!(found, *wanted, "{method} {said} on {database:?}");
            }
        }
    }
}
