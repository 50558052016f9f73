//! SQLite 3.40, as seen. It keeps any word for a type; those here are what frameworks write.

use std::borrow::Cow;

use serde_json::Value;

use super::words::Arguments::{Digits, Fraction, Ignored, Length};
use super::words::{Word, word};
use super::{
    Comments, Drops, Enumerations, Folds, Functions, HeldWord, LongNames, Quotes, Server,
    SilentDecimal, Statements, Unbounded, WholeNumbers, breadth, reserved,
};
use crate::schema::Expression;
use crate::schema::Feature;
use crate::schema::Identity;
use crate::schema::expression::Tree;
use crate::schema::{Type, TypeKind};

pub(crate) const SERVER: Server = Server {
    id: "sqlite",
    title: "SQLite",
    identifier_limit: usize::MAX,
    keeps_documents: false,
    // It takes any words for a type, but nothing behind their parameters.
    quotes: Quotes { type_ends_with_parameters: true, ..Quotes::STANDARD },
    statements: Statements::STANDARD,
    lacks: &[
        Feature::OperatorClass,
        Feature::IndexMethod,
        Feature::CoveringIndex,
        Feature::DeferrableUnique,
        Feature::NullsNotDistinct,
        Feature::Exclusion,
        Feature::ColumnComment,
        Feature::TableComment,
        Feature::EnumType,
        Feature::NestedArray,
        Feature::Namespace,
    ],
    since: &[],
    words: WORDS,
    type_name,
    reads_itself: |_, _| None,
    // "Datatypes In SQLite".
    whole_numbers: WholeNumbers::Of64Bits,
    indexes_references: false,
    drops_column: Drops::WhatUsesIt,
    keeps_fractions: true,
    enumerations: Enumerations::Nowhere,
    unbounded: Unbounded::Whole,
    comments: Comments::Nowhere,
    arrays: false,
    adds_constraints: false,
    generated_not_null: true,
    two_moments: false,
    makes_uuids: false,
    updates_columns: false,
    varchar_needs_length: false,
    numbers_rows: true,
    several_words: false,
    keeps_word: |_| true,
    held_word: HeldWord::SqliteOfRow,
    kept_type: affinity,
    rewrites: without_quoted_numbers,
    truth_values: false,
    restricts_at_once: false,
    one_kind_of_index: true,
    // "Datatypes In SQLite": a type is an affinity.
    holds_types: false,
    zoned_times: false,
    silent_decimal: SilentDecimal::Binary,
    checks_json: false,
    collations: None,
    alters_nullability: false,
    identities: &[Identity::ByDefault, Identity::AutoIncrement],
    functions: Functions {
        now: "CURRENT_TIMESTAMP",
        statement_now: "CURRENT_TIMESTAMP",
        today: "CURRENT_DATE",
        random_uuid: "(lower(hex(randomblob(16))))",
    },
    long_names: LongNames::Cut,
    folds: Folds::ColumnsAndTables,
    index_names_by_table: false,
    reserved: &[
        reserved::EVERYWHERE,
        reserved::NOT_ON_POSTGRESQL,
        reserved::NOT_ON_MARIADB,
        "commit escape transaction",
    ],
    longest_index: None,
    can_refer: |own, target| {
        breadth(own).is_some() == breadth(target).is_some() && own.is_text() == target.is_text()
    },
    refuses_unlike_references: false,
    refuses_other_breadth: false,
};

const WORDS: &[Word] = &[
    word("bigint", TypeKind::BigInt, Ignored),
    word("bigint unsigned", TypeKind::BigInt, Ignored),
    word("binary", TypeKind::Binary, Length),
    word("blob", TypeKind::Binary, Ignored),
    word("bool", TypeKind::Boolean, Ignored),
    word("boolean", TypeKind::Boolean, Ignored),
    word("char", TypeKind::Char, Length),
    word("character", TypeKind::Char, Length),
    word("character varying", TypeKind::Varchar, Length),
    word("clob", TypeKind::Text, Ignored),
    word("date", TypeKind::Date, Ignored),
    word("datetime", TypeKind::Timestamp, Fraction),
    word("dec", TypeKind::Numeric, Digits),
    word("decimal", TypeKind::Numeric, Digits),
    word("double", TypeKind::Double, Ignored),
    word("double precision", TypeKind::Double, Ignored),
    word("float", TypeKind::Double, Ignored),
    word("int", TypeKind::Integer, Ignored),
    word("int unsigned", TypeKind::Integer, Ignored),
    word("int2", TypeKind::SmallInt, Ignored),
    word("int8", TypeKind::BigInt, Ignored),
    word("integer", TypeKind::Integer, Ignored),
    word("integer unsigned", TypeKind::Integer, Ignored),
    word("json", TypeKind::Json, Ignored),
    word("nchar", TypeKind::Char, Length),
    word("numeric", TypeKind::Numeric, Digits),
    word("nvarchar", TypeKind::Varchar, Length),
    word("real", TypeKind::Double, Ignored),
    word("smallint", TypeKind::SmallInt, Ignored),
    word("smallint unsigned", TypeKind::SmallInt, Ignored),
    word("text", TypeKind::Text, Ignored),
    word("time", TypeKind::Time, Fraction),
    word("timestamp", TypeKind::Timestamp, Fraction),
    word("uuid", TypeKind::Uuid, Ignored),
    word("varbinary", TypeKind::Binary, Length),
    word("varchar", TypeKind::Varchar, Length),
];

/// A word that reads as the same type, where there is one.
fn type_name(ty: &Type, _: &str) -> Cow<'static, str> {
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
        Type::Array(_)
        | Type::Enum(_)
        | Type::Range(_)
        | Type::SearchVector
        | Type::CaseFoldedText
        | Type::NetworkAddress => "text".into(),
        Type::Native(text) => text.clone().into(),
        other => other.to_string().into(),
    }
}

/// What SQLite makes of a word (documentation, "Datatypes In SQLite", 3.1): it keeps no lengths.
fn affinity(word: &str) -> Type {
    let word = word.to_uppercase();
    let has = |parts: &[&str]| parts.iter().any(|part| word.contains(part));
    if has(&["INT"]) {
        Type::BigInt
    } else if has(&["CHAR", "CLOB", "TEXT"]) {
        Type::Text
    } else if has(&["BLOB"]) || word.is_empty() {
        Type::Binary(None)
    } else if has(&["REAL", "FLOA", "DOUB"]) {
        Type::Double
    } else {
        Type::Numeric { precision: None, scale: None }
    }
}

/// SQLite gives a constant the affinity of the column that it is compared with (documentation,
/// "Datatypes In SQLite", 4.2).
fn without_quoted_numbers(expression: &mut Expression) {
    if let Some(tree) = expression.tree.take() {
        *expression = Expression::sql(tree.map(&|tree| match tree {
            Tree::Literal(Value::String(text)) => {
                Tree::Literal(text.parse().map_or(Value::String(text), Value::Number))
            }
            other => other,
        }));
    }
}
