//! Django's field classes and the types they stand for (`DatabaseWrapper.data_types` of Django
//! 5.2's back ends).

use std::sync::LazyLock;

use crate::dialect::release::at_least;
use crate::dialect::type_table::{Takes, TypeRow};
use crate::schema::Database::{self, MariaDb, MySql, PostgreSql, Sqlite};
use crate::schema::TypeKind as Kind;

/// Servers with types without a sign, which positive numbers take. The check is made on all of
/// them, and input is held to it (by `integer_field_range` of the back end, or by `formfield`
/// alone: seen in Django 4.2.30 and 5.2.19).
const UNSIGNED: &[Database] = &[MySql, MariaDb];
const SIGNED: &[Database] = &[PostgreSql, Sqlite];

/// Every field class that makes a column.
pub(super) const TYPES: &[TypeRow] = &[
    TypeRow::new("AutoField", Kind::Integer, "integer", "int").numbered(),
    TypeRow::new("BigAutoField", Kind::BigInt, "integer", "int").numbered(),
    TypeRow::new("SmallAutoField", Kind::SmallInt, "integer", "int").numbered(),
    TypeRow::new("BooleanField", Kind::Boolean, "bool", "bool"),
    TypeRow::new("NullBooleanField", Kind::Boolean, "bool", "bool").read_only(),
    TypeRow::new("SmallIntegerField", Kind::SmallInt, "smallint", "int"),
    TypeRow::new("IntegerField", Kind::Integer, "integer", "int"),
    TypeRow::new("BigIntegerField", Kind::BigInt, "bigint", "int"),
    TypeRow::new("PositiveSmallIntegerField", Kind::UnsignedSmallInt, "", "int")
        .not_negative()
        .on(UNSIGNED),
    TypeRow::new("PositiveIntegerField", Kind::UnsignedInteger, "", "int")
        .not_negative()
        .on(UNSIGNED),
    TypeRow::new("PositiveBigIntegerField", Kind::UnsignedBigInt, "", "int")
        .not_negative()
        .on(UNSIGNED),
    TypeRow::new("PositiveSmallIntegerField", Kind::SmallInt, "smallint unsigned", "int")
        .not_negative()
        .on(SIGNED),
    TypeRow::new("PositiveIntegerField", Kind::Integer, "integer unsigned", "int")
        .not_negative()
        .on(SIGNED),
    TypeRow::new("PositiveBigIntegerField", Kind::BigInt, "bigint unsigned", "int")
        .not_negative()
        .on(SIGNED),
    TypeRow::new("FloatField", Kind::Double, "real", "float"),
    TypeRow::new("DecimalField", Kind::Numeric, "decimal", "Decimal")
        .taking(Takes::BothDigits, "decimal"),
    TypeRow::new("CharField", Kind::Varchar, "varchar", "str").taking(Takes::Length, "varchar({})"),
    TypeRow::new("SlugField", Kind::Varchar, "varchar", "str")
        .taking(Takes::Length, "varchar({})")
        .silent(50)
        .format("slug")
        .indexed(),
    TypeRow::new("EmailField", Kind::Varchar, "varchar", "str")
        .taking(Takes::Length, "varchar({})")
        .silent(254)
        .format("email"),
    TypeRow::new("URLField", Kind::Varchar, "varchar", "str")
        .taking(Takes::Length, "varchar({})")
        .silent(200)
        .format("url"),
    TypeRow::new("FileField", Kind::Varchar, "varchar", "str")
        .taking(Takes::Length, "varchar({})")
        .silent(100)
        .format("file"),
    TypeRow::new("ImageField", Kind::Varchar, "varchar", "str")
        .taking(Takes::Length, "varchar({})")
        .silent(100)
        .format("image"),
    TypeRow::new("FilePathField", Kind::Varchar, "varchar", "str")
        .taking(Takes::Length, "varchar({})")
        .silent(100)
        .format("path"),
    TypeRow::new("TextField", Kind::Text, "text", "str"),
    TypeRow::new("BinaryField", Kind::Binary, "blob", "bytes"),
    TypeRow::new("DateField", Kind::Date, "date", "date"),
    TypeRow::new("TimeField", Kind::Time, "time", "time").mysql("time(6)", "time(6)"),
    TypeRow::new("DateTimeField", Kind::TimestampZoned, "datetime", "datetime")
        .mysql("datetime(6)", "datetime(6)"),
    TypeRow::new("DurationField", Kind::Interval, "bigint", "timedelta"),
    TypeRow::new("UUIDField", Kind::Uuid, "char(32)", "UUID")
        .mysql("char(32)", "char(32)")
        .on(&[MySql]),
    TypeRow::new("UUIDField", Kind::Uuid, "char(32)", "UUID")
        .mysql("uuid", "uuid")
        .on(&[PostgreSql, MariaDb, Sqlite]),
    TypeRow::new("GenericIPAddressField", Kind::NetworkAddress, "char(39)", "str")
        .mysql("char(39)", "char(39)"),
    TypeRow::new("JSONField", Kind::BinaryJson, "text", "dict"),
    TypeRow::new("IntegerRangeField", Kind::IntegerRange, "", "Range").on(&[PostgreSql]),
    TypeRow::new("BigIntegerRangeField", Kind::BigIntRange, "", "Range").on(&[PostgreSql]),
    TypeRow::new("DecimalRangeField", Kind::NumericRange, "", "Range").on(&[PostgreSql]),
    TypeRow::new("DateRangeField", Kind::DateRange, "", "Range").on(&[PostgreSql]),
    TypeRow::new("DateTimeRangeField", Kind::TimestampRange, "", "Range").on(&[PostgreSql]),
    TypeRow::new("SearchVectorField", Kind::SearchVector, "", "str").on(&[PostgreSql]),
];

/// The table of a release: before 5.0 an identifier was held as text by MariaDB, too.
pub(super) fn of_release(release: &str) -> &'static [TypeRow] {
    static BEFORE_5: LazyLock<Vec<TypeRow>> = LazyLock::new(|| {
        let as_text = |row: &TypeRow| {
            if row.kind == Kind::Uuid { row.mysql("char(32)", "char(32)") } else { *row }
        };
        TYPES.iter().map(as_text).collect()
    });
    if at_least(release, (5, 0)) { TYPES } else { &BEFORE_5 }
}

/// Field classes of the framework's PostgreSQL extras; they are imported from there.
pub(super) const POSTGRESQL_FIELDS: &[&str] = &[
    "ArrayField",
    "IntegerRangeField",
    "BigIntegerRangeField",
    "DecimalRangeField",
    "DateRangeField",
    "DateTimeRangeField",
];

/// Field classes whose type has no neutral word: class and the server's name.
pub(super) const NATIVE: &[(&str, &str)] = &[("HStoreField", "hstore")];

/// Validators whose rule has a neutral word: class and rule.
pub(super) const VALIDATORS: &[(&str, &str)] = &[
    ("MinValueValidator", "min_value"),
    ("MaxValueValidator", "max_value"),
    ("MinLengthValidator", "min_length"),
    ("MaxLengthValidator", "max_length"),
    ("RegexValidator", "pattern"),
];

/// Functions of query expressions and their SQL names.
pub(super) const FUNCTIONS: &[(&str, &str)] = &[
    ("Lower", "lower"),
    ("Upper", "upper"),
    ("Length", "length"),
    ("Coalesce", "coalesce"),
    ("Abs", "abs"),
    ("Trim", "trim"),
    ("Greatest", "greatest"),
    ("Least", "least"),
    ("Concat", "concat"),
];

/// Index classes and the access method each stands for.
pub(super) const INDEX_METHODS: &[(&str, &str)] = &[
    ("GinIndex", "gin"),
    ("GistIndex", "gist"),
    ("BrinIndex", "brin"),
    ("HashIndex", "hash"),
    ("SpGistIndex", "spgist"),
    ("BTreeIndex", "btree"),
    ("BloomIndex", "bloom"),
];
