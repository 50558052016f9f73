//! MongoDB 8, from its manual (not seen here: there is no such server). It keeps documents, and
//! holds no rule but uniqueness.

use std::borrow::Cow;

use super::{
    Comments, Drops, Enumerations, Folds, Functions, HeldWord, LongNames, Quotes, Server,
    SilentDecimal, Statements, Unbounded, WholeNumbers, breadth,
};
use crate::schema::Feature;
use crate::schema::Identity;
use crate::schema::Type;

pub(crate) const SERVER: Server = Server {
    id: "mongodb",
    title: "MongoDB",
    identifier_limit: usize::MAX,
    keeps_documents: true,
    quotes: Quotes::STANDARD,
    statements: Statements::STANDARD,
    // Of what an index may need; all else that it lacks is told where tables become documents.
    lacks: &[Feature::ExpressionIndex, Feature::OperatorClass, Feature::CoveringIndex],
    since: &[],
    words: &[],
    type_name: |ty, _| Cow::Borrowed(bson(ty)),
    reads_itself: |_, _| None,
    whole_numbers: WholeNumbers::Signed,
    indexes_references: false,
    drops_column: Drops::WhatUsesIt,
    keeps_fractions: true,
    enumerations: Enumerations::Nowhere,
    unbounded: Unbounded::Whole,
    comments: Comments::Nowhere,
    arrays: true,
    adds_constraints: true,
    generated_not_null: true,
    two_moments: false,
    makes_uuids: true,
    updates_columns: false,
    varchar_needs_length: false,
    numbers_rows: false,
    several_words: false,
    keeps_word: |_| false,
    held_word: HeldWord::OfType,
    kept_type: |word| Type::Native(word.to_owned()),
    rewrites: |_| {},
    truth_values: true,
    restricts_at_once: false,
    one_kind_of_index: false,
    holds_types: true,
    zoned_times: false,
    silent_decimal: SilentDecimal::Any,
    checks_json: false,
    collations: Some("MongoDB"),
    alters_nullability: false,
    identities: &[Identity::ByDefault],
    // What the application fills in.
    functions: Functions { now: "", statement_now: "", today: "", random_uuid: "" },
    long_names: LongNames::Cut,
    folds: Folds::Nothing,
    index_names_by_table: true,
    reserved: &[],
    longest_index: None,
    can_refer: |own, target| {
        breadth(own).is_some() == breadth(target).is_some() && own.is_text() == target.is_text()
    },
    refuses_unlike_references: true,
    refuses_other_breadth: false,
};

/// The alias of a BSON type (manual, "BSON Types").
fn bson(ty: &Type) -> &'static str {
    match ty {
        Type::Boolean => "bool",
        Type::SmallInt | Type::Integer | Type::UnsignedSmallInt => "int",
        Type::BigInt | Type::UnsignedInteger | Type::UnsignedBigInt => "long",
        Type::Numeric { .. } => "decimal",
        Type::Real | Type::Double => "double",
        Type::Binary(_) | Type::Uuid => "binData",
        Type::Date | Type::Timestamp { .. } => "date",
        Type::ObjectId => "objectId",
        Type::Array(_) => "array",
        Type::Json | Type::BinaryJson => "object",
        _ => "string",
    }
}
