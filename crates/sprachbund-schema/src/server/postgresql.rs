//! PostgreSQL 15, as seen, with what 18 holds besides; the words for types are those of its manual,
//! section 8.

use std::borrow::Cow;

use serde_json::Value;

use super::words::Arguments::{Digits, Fraction, Ignored, Length};
use super::words::{Word, word};
use super::{
    Backslash, Comments, Drops, Enumerations, Folds, Functions, HeldWord, LongNames, Quotes,
    Server, SilentDecimal, Statements, Unbounded, WholeNumbers, breadth, reserved,
};
use crate::schema::Expression;
use crate::schema::Feature;
use crate::schema::Identity;
use crate::schema::expression::Tree;
use crate::schema::{RangeKind, Type, TypeKind};

pub(crate) const SERVER: Server = Server {
    id: "postgresql",
    title: "PostgreSQL",
    // Bytes (manual, section 4.1.1).
    identifier_limit: 63,
    keeps_documents: false,
    quotes: Quotes { backslash: Backslash::EscapeWithPrefix, dollars: true, ..Quotes::STANDARD },
    statements: Statements::STANDARD,
    lacks: &[],
    // As seen in 18.6; 17.12 refuses them.
    since: &[((18, 0), Feature::VirtualGenerated)],
    words: WORDS,
    type_name,
    reads_itself: |_, _| None,
    // Manual, section 8.1.1.
    whole_numbers: WholeNumbers::Signed,
    indexes_references: false,
    drops_column: Drops::WhatUsesIt,
    keeps_fractions: true,
    enumerations: Enumerations::Types,
    unbounded: Unbounded::Whole,
    comments: Comments::Statements,
    arrays: true,
    adds_constraints: true,
    generated_not_null: true,
    two_moments: true,
    makes_uuids: true,
    updates_columns: false,
    varchar_needs_length: false,
    numbers_rows: false,
    several_words: false,
    // A type of its own for each enumeration.
    keeps_word: |field| matches!(field.r#type, Type::Enum(_)),
    held_word: HeldWord::OfType,
    kept_type,
    rewrites: without_compared_truth,
    truth_values: true,
    restricts_at_once: false,
    one_kind_of_index: false,
    holds_types: true,
    zoned_times: true,
    silent_decimal: SilentDecimal::Any,
    checks_json: true,
    collations: Some("PostgreSQL"),
    alters_nullability: true,
    identities: &[Identity::ByDefault, Identity::Always, Identity::Sequence],
    functions: Functions {
        now: "now()",
        statement_now: "statement_timestamp()",
        today: "CURRENT_DATE",
        random_uuid: "gen_random_uuid()",
    },
    long_names: LongNames::Cut,
    folds: Folds::Nothing,
    index_names_by_table: false,
    reserved: &[reserved::EVERYWHERE, reserved::NOT_ON_SQLITE, reserved::NOT_ON_MARIADB, RESERVED],
    longest_index: None,
    can_refer,
    refuses_unlike_references: true,
    refuses_other_breadth: false,
};

const WORDS: &[Word] = &[
    word("bigint", TypeKind::BigInt, Ignored),
    word("bigserial", TypeKind::BigInt, Ignored),
    word("bool", TypeKind::Boolean, Ignored),
    word("boolean", TypeKind::Boolean, Ignored),
    word("bpchar", TypeKind::Char, Length),
    word("bytea", TypeKind::Binary, Ignored),
    word("char", TypeKind::Char, Length),
    word("character", TypeKind::Char, Length),
    word("character varying", TypeKind::Varchar, Length),
    word("cidr", TypeKind::Native, Ignored),
    word("citext", TypeKind::CaseFoldedText, Ignored),
    word("date", TypeKind::Date, Ignored),
    word("daterange", TypeKind::DateRange, Ignored),
    word("dec", TypeKind::Numeric, Digits),
    word("decimal", TypeKind::Numeric, Digits),
    word("double", TypeKind::Double, Ignored),
    word("double precision", TypeKind::Double, Ignored),
    word("float", TypeKind::Double, Ignored),
    word("float4", TypeKind::Real, Ignored),
    word("float8", TypeKind::Double, Ignored),
    word("inet", TypeKind::NetworkAddress, Ignored),
    word("int", TypeKind::Integer, Ignored),
    word("int2", TypeKind::SmallInt, Ignored),
    word("int4", TypeKind::Integer, Ignored),
    word("int4range", TypeKind::IntegerRange, Ignored),
    word("int8", TypeKind::BigInt, Ignored),
    word("int8range", TypeKind::BigIntRange, Ignored),
    word("integer", TypeKind::Integer, Ignored),
    word("interval", TypeKind::Interval, Ignored),
    word("json", TypeKind::Json, Ignored),
    word("jsonb", TypeKind::BinaryJson, Ignored),
    word("numeric", TypeKind::Numeric, Digits),
    word("numrange", TypeKind::NumericRange, Ignored),
    word("real", TypeKind::Real, Ignored),
    word("serial", TypeKind::Integer, Ignored),
    word("smallint", TypeKind::SmallInt, Ignored),
    word("smallserial", TypeKind::SmallInt, Ignored),
    word("text", TypeKind::Text, Ignored),
    word("time", TypeKind::Time, Fraction),
    word("time with time zone", TypeKind::TimeZoned, Fraction),
    word("time without time zone", TypeKind::Time, Fraction),
    word("timestamp", TypeKind::Timestamp, Fraction),
    word("timestamp with time zone", TypeKind::TimestampZoned, Fraction),
    word("timestamp without time zone", TypeKind::Timestamp, Fraction),
    word("timestamptz", TypeKind::TimestampZoned, Fraction),
    word("timetz", TypeKind::TimeZoned, Fraction),
    word("tstzrange", TypeKind::TimestampRange, Ignored),
    word("tsvector", TypeKind::SearchVector, Ignored),
    word("uuid", TypeKind::Uuid, Ignored),
    word("varchar", TypeKind::Varchar, Length),
];

/// Words that number a column besides typing it.
pub const SERIAL: &[&str] =
    &["bigserial", "serial", "smallserial", "serial2", "serial4", "serial8"];

/// The type's name as `format_type` gives it.
pub fn type_name(ty: &Type, enum_name: &str) -> Cow<'static, str> {
    let plain = match ty {
        Type::Boolean => "boolean",
        Type::SmallInt | Type::UnsignedSmallInt => "smallint",
        Type::Integer | Type::UnsignedInteger => "integer",
        Type::BigInt | Type::UnsignedBigInt => "bigint",
        Type::Real => "real",
        Type::Double => "double precision",
        Type::CaseFoldedText => "citext",
        Type::Text => "text",
        Type::Binary(_) => "bytea",
        Type::Date => "date",
        Type::Interval => "interval",
        Type::Uuid => "uuid",
        Type::Json => "json",
        Type::BinaryJson => "jsonb",
        Type::NetworkAddress => "inet",
        Type::Range(RangeKind::Integer) => "int4range",
        Type::Range(RangeKind::BigInt) => "int8range",
        Type::Range(RangeKind::Numeric) => "numrange",
        Type::Range(RangeKind::Date) => "daterange",
        Type::Range(RangeKind::Timestamp) => "tstzrange",
        Type::SearchVector => "tsvector",
        Type::ObjectId => "character(24)",
        Type::Native(text) => return Cow::Owned(text.clone()),
        Type::Enum(_) => return Cow::Owned(enum_name.to_owned()),
        Type::Array(element) => {
            let inner = type_name(element, enum_name);
            return if inner.ends_with("[]") { inner } else { Cow::Owned(format!("{inner}[]")) };
        }
        Type::Numeric { precision: Some(precision), scale } => {
            return Cow::Owned(format!("numeric({precision},{})", scale.unwrap_or(0)));
        }
        Type::Numeric { precision: None, .. } => "numeric",
        Type::Char(length) => return Cow::Owned(format!("character({})", length.unwrap_or(1))),
        Type::Varchar(None) => "character varying",
        Type::Varchar(Some(length)) => return Cow::Owned(format!("character varying({length})")),
        Type::Time { precision, zoned } | Type::Timestamp { precision, zoned } => {
            let word = if matches!(ty, Type::Time { .. }) { "time" } else { "timestamp" };
            let digits = precision.map_or(String::new(), |digits| format!("({digits})"));
            return Cow::Owned(format!(
                "{word}{digits} {} time zone",
                if *zoned { "with" } else { "without" }
            ));
        }
    };
    Cow::Borrowed(plain)
}

/// Words that it alone keeps for itself.
const RESERVED: &str = "analyse any array asymmetric authorization cast collation concurrently \
                        current_catalog current_schema do end freeze full ilike initially \
                        lateral only overlaps placing session_user similar some symmetric \
                        tablesample user variadic verbose window";

/// What is narrower is made into what is broader, never the other way round (tried on 15.18, both
/// ways for each pair of types).
fn can_refer(own: &Type, target: &Type) -> bool {
    match (breadth(own), breadth(target)) {
        (Some(own), Some(target)) => own <= target,
        _ => [own, target].iter().all(|ty| matches!(ty, Type::Date | Type::Timestamp { .. })),
    }
}

/// A type of an extension is the same in whatever schema it was installed.
fn kept_type(word: &str) -> Type {
    fn bare(ty: Type) -> Type {
        match ty {
            Type::Native(name) => Type::Native(name.rsplit('.').next().unwrap_or(&name).to_owned()),
            Type::Array(element) => Type::Array(Box::new(bare(*element))),
            known => known,
        }
    }
    bare(SERVER.read_type(word, &|_| false))
}

/// Only truth compares with truth (PostgreSQL documentation, section 9.2): `landed = true` says
/// `landed`.
fn without_compared_truth(expression: &mut Expression) {
    if let Some(tree) = expression.tree.take() {
        *expression = Expression::sql(tree.map(&|tree| match tree {
            Tree::Binary { operator, left, right } if operator == "=" => match *right {
                Tree::Literal(Value::Bool(true)) => *left,
                Tree::Literal(Value::Bool(false)) => Tree::Not(left),
                right => Tree::Binary { operator, left, right: Box::new(right) },
            },
            other => other,
        }));
    }
}
