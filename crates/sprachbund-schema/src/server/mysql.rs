//! MySQL 9.7, as seen; the words for types are those of its manual, "Data Types". MariaDB shares
//! all that is `pub(super)` here.

use std::borrow::Cow;

use super::words::Arguments::{Digits, Fraction, Ignored, Length};
use super::words::{Word, word};
use super::{
    Backslash, Comments, Drops, Enumerations, Folds, Functions, HeldWord, LongNames, LongestIndex,
    Quotes, Server, SilentDecimal, Statements, Unbounded, WholeNumbers,
};
use crate::schema::Expression;
use crate::schema::Feature;
use crate::schema::Identity;
use crate::schema::expression::Tree;
use crate::schema::{Field, Type, TypeKind, TypeParameters};

/// Quotes of MySQL and MariaDB.
pub(super) const QUOTES: Quotes = Quotes {
    name: '`',
    backslash: Backslash::Escape,
    double_around_texts: true,
    hash_comments: true,
    code_in_comments: &['!', 'M', '+'],
    runs_comment,
    mode: Some("SET SESSION sql_mode = REPLACE(@@SESSION.sql_mode, 'NO_BACKSLASH_ESCAPES', '');\n"),
    ..Quotes::STANDARD
};

/// Statements of MySQL and MariaDB.
pub(super) const STATEMENTS: Statements = Statements {
    column_anew: true,
    index_of_table: true,
    drops_primary_key: true,
    counter: Some("AUTO_INCREMENT"),
    // Timestamps of MariaDB are not null unless it is said that they may be.
    says_null: true,
    long_defaults_as_expressions: true,
    moment_with_digits: true,
};

pub(crate) const SERVER: Server = Server {
    id: "mysql",
    title: "MySQL",
    // Characters (manual, "Identifier Length Limits").
    identifier_limit: 64,
    keeps_documents: false,
    quotes: QUOTES,
    statements: STATEMENTS,
    lacks: LACKS,
    since: &[],
    words: WORDS,
    type_name,
    reads_itself,
    // Manual, "Integer Types".
    whole_numbers: WholeNumbers::SignedAndUnsigned,
    // InnoDB (manual, "FOREIGN KEY Constraints").
    indexes_references: true,
    drops_column: Drops::ItsPlaceInKeys,
    keeps_fractions: false,
    enumerations: Enumerations::InColumns,
    unbounded: Unbounded::Beginning,
    comments: Comments::InTables,
    arrays: false,
    adds_constraints: true,
    generated_not_null: true,
    two_moments: false,
    makes_uuids: true,
    updates_columns: true,
    varchar_needs_length: true,
    numbers_rows: false,
    several_words: true,
    keeps_word,
    held_word: HeldWord::MysqlOfRow,
    kept_type: |word| kept_type(&SERVER, word),
    rewrites: in_stored_words,
    truth_values: false,
    // InnoDB refuses at once either way (documentation, "FOREIGN KEY Constraints").
    restricts_at_once: true,
    one_kind_of_index: false,
    holds_types: true,
    zoned_times: false,
    silent_decimal: SilentDecimal::Whole,
    checks_json: false,
    collations: Some("MySQL"),
    alters_nullability: false,
    identities: &[Identity::ByDefault],
    functions: FUNCTIONS,
    long_names: LongNames::Refused,
    folds: Folds::Columns,
    index_names_by_table: true,
    // They were not tried.
    reserved: &[],
    // Its documentation, unverified.
    longest_index: Some(LongestIndex { bytes: 3072, cuts: false }),
    can_refer,
    refuses_unlike_references: true,
    refuses_other_breadth: true,
};

/// The release that is meant where none is known: a dump that a server wrote is for itself.
const CURRENT: (u32, u32) = (9, 7);

/// `!`, and the release from which on it is run: 5 or 6 digits, of which the last four are those
/// behind the point (manual, "Comments"; seen on 9.7.4).
fn runs_comment(comment: &str, release: Option<(u32, u32)>) -> Option<usize> {
    let digits = leading_digits(comment.strip_prefix('!')?);
    let since = digits.parse().unwrap_or(0);
    (since <= last_of(release.unwrap_or(CURRENT))).then_some(1 + digits.len())
}

/// The digits of a release in front of a comment's statements.
pub(super) fn leading_digits(text: &str) -> &str {
    let length = text.bytes().take(6).take_while(u8::is_ascii_digit).count();
    if length < 5 { "" } else { &text[..length] }
}

/// The last number that a release has in comments.
pub(super) fn last_of((major, minor): (u32, u32)) -> u32 {
    major * 10_000 + minor * 100 + 99
}

/// It has indexes on expressions (seen on 9.7.4; manual, "CREATE INDEX", from 8.0.13 on).
const LACKS: &[Feature] = &[
    Feature::Deferrable,
    Feature::SetDefault,
    Feature::OperatorClass,
    Feature::IndexMethod,
    Feature::CoveringIndex,
    Feature::PartialIndex,
    Feature::DeferrableUnique,
    Feature::NullsNotDistinct,
    Feature::Exclusion,
    Feature::NestedArray,
    Feature::Namespace,
];

pub(super) const WORDS: &[Word] = &[
    word("bigint", TypeKind::BigInt, Ignored),
    word("bigint unsigned", TypeKind::UnsignedBigInt, Ignored),
    word("binary", TypeKind::Binary, Length),
    word("blob", TypeKind::Binary, Ignored),
    word("bool", TypeKind::Boolean, Ignored),
    word("boolean", TypeKind::Boolean, Ignored),
    word("char", TypeKind::Char, Length),
    word("character", TypeKind::Char, Length),
    word("character varying", TypeKind::Varchar, Length),
    word("date", TypeKind::Date, Ignored),
    word("datetime", TypeKind::Timestamp, Fraction),
    word("dec", TypeKind::Numeric, Digits),
    word("decimal", TypeKind::Numeric, Digits),
    word("double", TypeKind::Double, Ignored),
    word("double precision", TypeKind::Double, Ignored),
    word("float", TypeKind::Real, Ignored),
    word("int", TypeKind::Integer, Ignored),
    word("int unsigned", TypeKind::UnsignedInteger, Ignored),
    word("int2", TypeKind::SmallInt, Ignored),
    word("int8", TypeKind::BigInt, Ignored),
    word("integer", TypeKind::Integer, Ignored),
    word("integer unsigned", TypeKind::UnsignedInteger, Ignored),
    word("json", TypeKind::Json, Ignored),
    word("longblob", TypeKind::Binary, Ignored),
    word("longtext", TypeKind::Text, Ignored),
    word("mediumblob", TypeKind::Binary, Ignored),
    word("mediumtext", TypeKind::Text, Ignored),
    word("nchar", TypeKind::Char, Length),
    word("numeric", TypeKind::Numeric, Digits),
    word("nvarchar", TypeKind::Varchar, Length),
    word("real", TypeKind::Double, Ignored),
    word("smallint", TypeKind::SmallInt, Ignored),
    word("smallint unsigned", TypeKind::UnsignedSmallInt, Ignored),
    word("text", TypeKind::Text, Ignored),
    word("time", TypeKind::Time, Fraction),
    word("timestamp", TypeKind::TimestampZoned, Fraction),
    word("tinyblob", TypeKind::Binary, Ignored),
    word("tinytext", TypeKind::Text, Ignored),
    word("uuid", TypeKind::Uuid, Ignored),
    word("varbinary", TypeKind::Binary, Length),
    word("varchar", TypeKind::Varchar, Length),
];

/// `tinyint(1)` is what `boolean` becomes; the width at which other small numbers are shown says
/// nothing of their values.
pub(super) fn reads_itself(word: &str, numbers: &[u32]) -> Option<Type> {
    let small = ["tinyint", "mediumint", "year"].iter().any(|small| word.starts_with(small));
    match (word, numbers) {
        ("tinyint", [1]) => Some(Type::Boolean),
        _ => small.then(|| Type::Native(word.to_owned())),
    }
}

/// One type has several words, which hold more or less.
pub(super) fn keeps_word(field: &Field) -> bool {
    matches!(
        field.r#type,
        Type::Text
            | Type::Binary(None)
            | Type::Time { .. }
            | Type::Timestamp { .. }
            | Type::Uuid
            | Type::NetworkAddress
            | Type::Interval
    )
}

/// What a script calls a type; `members` are the values of an enumeration.
pub(super) fn type_name(ty: &Type, members: &str) -> Cow<'static, str> {
    let TypeParameters { length, precision, scale } = ty.parameters();
    let digits = |word: &'static str, digits: Option<u32>| {
        digits.map_or(word.into(), |digits| format!("{word}({digits})").into())
    };
    match ty {
        Type::Boolean => "tinyint(1)".into(),
        Type::SmallInt => "smallint".into(),
        Type::Integer => "int".into(),
        Type::BigInt => "bigint".into(),
        Type::UnsignedSmallInt => "smallint unsigned".into(),
        Type::UnsignedInteger => "int unsigned".into(),
        Type::UnsignedBigInt => "bigint unsigned".into(),
        Type::Numeric { .. } => precision.map_or("decimal(65,30)".into(), |precision| {
            format!("decimal({precision},{})", scale.unwrap_or(0)).into()
        }),
        Type::Real => "float".into(),
        Type::Double => "double".into(),
        Type::Char(_) => digits("char", length),
        Type::Varchar(Some(length)) => format!("varchar({length})").into(),
        Type::Varchar(None)
        | Type::Text
        | Type::CaseFoldedText
        | Type::SearchVector
        | Type::Range(_) => "longtext".into(),
        Type::Binary(Some(length)) => format!("varbinary({length})").into(),
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
        Type::Enum(_) => format!("enum({members})").into(),
        Type::Native(text) => text.clone().into(),
    }
}

/// Functions of both servers; a moment has as many digits as its column.
pub(super) const FUNCTIONS: Functions = Functions {
    now: "CURRENT_TIMESTAMP",
    statement_now: "CURRENT_TIMESTAMP",
    today: "(CURRENT_DATE)",
    random_uuid: "(uuid())",
};

/// Only decimals may differ in their digits (tried on MariaDB 10.11.19, both ways for each pair of
/// types; MySQL is taken to be alike).
pub(super) fn can_refer(own: &Type, target: &Type) -> bool {
    [own, target].iter().all(|ty| matches!(ty, Type::Numeric { .. }))
}

/// What MariaDB and MySQL hold: a truth value is a small number, and texts without a bound differ
/// in how much they hold.
pub(super) fn kept_type(server: &Server, word: &str) -> Type {
    match server.read_type(word, &|_| false) {
        Type::Boolean => Type::Native("tinyint".into()),
        Type::Text | Type::Binary(None) => Type::Native(word.to_lowercase()),
        other => other,
    }
}

/// Functions of MariaDB and MySQL under the names by which they are stored (seen of MariaDB 10.11).
const STORED_NAMES: &[(&str, &str)] = &[
    ("length", "octet_length"),
    ("lower", "lcase"),
    ("upper", "ucase"),
    ("character_length", "char_length"),
    ("substring", "substr"),
    ("mid", "substr"),
];

/// An expression in the words in which the server stores it.
pub(super) fn in_stored_words(expression: &mut Expression) {
    let stored = |name: String| {
        STORED_NAMES
            .iter()
            .find(|(said, _)| *said == name)
            .map_or(name, |(_, stored)| (*stored).to_owned())
    };
    if let Some(tree) = expression.tree.take() {
        *expression = Expression::sql(tree.map(&|tree| match tree {
            Tree::Call { function, arguments } => {
                Tree::Call { function: stored(function), arguments }
            }
            other => other,
        }));
    }
}
