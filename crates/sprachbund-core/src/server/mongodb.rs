//! MongoDB 8, from its manual (not seen here: there is no such server). It keeps documents, and holds no rule but uniqueness.

use std::borrow::Cow;

use super::{Comments, Drops, Enumerations, Server, Unbounded, WholeNumbers};
use crate::schema::Feature;
use crate::schema::Type;

pub(crate) const SERVER: Server = Server {
    id: "mongodb",
    title: "MongoDB",
    identifier_limit: usize::MAX,
    keeps_documents: true,
    // Of what an index may need; all else that it lacks is told where tables become documents.
    lacks: &[Feature::ExpressionIndex, Feature::OperatorClass, Feature::CoveringIndex],
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
