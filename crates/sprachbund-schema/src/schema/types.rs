//! Column types in the words of the SQL standard, plus what targets make necessary.

use std::borrow::Cow;
use std::fmt;
use std::str::FromStr;

use serde::{Deserialize, Deserializer, Serialize, Serializer};

/// What a column is meant to hold. Its text form (`varchar(24)`, `integer array`) is the JSON form
/// too.
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
pub enum Type {
    Boolean,
    SmallInt,
    Integer,
    BigInt,
    /// Integers that a check keeps at zero or above.
    UnsignedSmallInt,
    UnsignedInteger,
    UnsignedBigInt,
    Numeric {
        precision: Option<u32>,
        scale: Option<u32>,
    },
    Real,
    Double,
    Char(Option<u32>),
    Varchar(Option<u32>),
    /// Text without limit that compares without regard to case.
    CaseFoldedText,
    Text,
    Binary(Option<u32>),
    Date,
    Time {
        precision: Option<u32>,
        zoned: bool,
    },
    Timestamp {
        precision: Option<u32>,
        zoned: bool,
    },
    Interval,
    Uuid,
    Json,
    /// JSON kept in a parsed form that can be indexed.
    BinaryJson,
    /// An enumeration type of the database, by the name of its [`super::EnumType`].
    Enum(String),
    Array(Box<Type>),
    /// An internet host address, with or without its network.
    NetworkAddress,
    Range(RangeKind),
    SearchVector,
    /// Twelve bytes by which a document database tells documents apart.
    ObjectId,
    /// A type of the database that has no neutral word, as its server spells it.
    Native(String),
}

/// What a range is made of.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum RangeKind {
    Integer,
    BigInt,
    Numeric,
    Date,
    Timestamp,
}

/// A type without its parameters: the row of a type table.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum TypeKind {
    Boolean,
    SmallInt,
    Integer,
    BigInt,
    UnsignedSmallInt,
    UnsignedInteger,
    UnsignedBigInt,
    Numeric,
    Real,
    Double,
    Char,
    Varchar,
    CaseFoldedText,
    Text,
    Binary,
    Date,
    Time,
    TimeZoned,
    Timestamp,
    TimestampZoned,
    Interval,
    Uuid,
    Json,
    BinaryJson,
    Enum,
    Array,
    NetworkAddress,
    IntegerRange,
    BigIntRange,
    NumericRange,
    DateRange,
    TimestampRange,
    SearchVector,
    ObjectId,
    Native,
}

/// The parameters of a type.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct TypeParameters {
    pub length: Option<u32>,
    pub precision: Option<u32>,
    pub scale: Option<u32>,
}

/// Kind and text form, for the kinds whose text form is fixed or starts a parameter list.
const WORDS: &[(TypeKind, &str)] = &[
    (TypeKind::Boolean, "boolean"),
    (TypeKind::SmallInt, "smallint"),
    (TypeKind::Integer, "integer"),
    (TypeKind::BigInt, "bigint"),
    (TypeKind::UnsignedSmallInt, "unsigned smallint"),
    (TypeKind::UnsignedInteger, "unsigned integer"),
    (TypeKind::UnsignedBigInt, "unsigned bigint"),
    (TypeKind::Numeric, "numeric"),
    (TypeKind::Real, "real"),
    (TypeKind::Double, "double precision"),
    (TypeKind::Char, "char"),
    (TypeKind::Varchar, "varchar"),
    (TypeKind::CaseFoldedText, "case-folded text"),
    (TypeKind::Text, "text"),
    (TypeKind::Binary, "binary"),
    (TypeKind::Date, "date"),
    (TypeKind::Time, "time"),
    (TypeKind::TimeZoned, "time with time zone"),
    (TypeKind::Timestamp, "timestamp"),
    (TypeKind::TimestampZoned, "timestamp with time zone"),
    (TypeKind::Interval, "interval"),
    (TypeKind::Uuid, "uuid"),
    (TypeKind::Json, "json"),
    (TypeKind::BinaryJson, "binary json"),
    (TypeKind::NetworkAddress, "network address"),
    (TypeKind::IntegerRange, "integer range"),
    (TypeKind::BigIntRange, "bigint range"),
    (TypeKind::NumericRange, "numeric range"),
    (TypeKind::DateRange, "date range"),
    (TypeKind::TimestampRange, "timestamp range"),
    (TypeKind::SearchVector, "search vector"),
    (TypeKind::ObjectId, "object id"),
];

impl Type {
    /// The row of a type table that this type belongs to.
    pub fn kind(&self) -> TypeKind {
        match self {
            Type::Boolean => TypeKind::Boolean,
            Type::SmallInt => TypeKind::SmallInt,
            Type::Integer => TypeKind::Integer,
            Type::BigInt => TypeKind::BigInt,
            Type::UnsignedSmallInt => TypeKind::UnsignedSmallInt,
            Type::UnsignedInteger => TypeKind::UnsignedInteger,
            Type::UnsignedBigInt => TypeKind::UnsignedBigInt,
            Type::Numeric { .. } => TypeKind::Numeric,
            Type::Real => TypeKind::Real,
            Type::Double => TypeKind::Double,
            Type::Char(_) => TypeKind::Char,
            Type::Varchar(_) => TypeKind::Varchar,
            Type::CaseFoldedText => TypeKind::CaseFoldedText,
            Type::Text => TypeKind::Text,
            Type::Binary(_) => TypeKind::Binary,
            Type::Date => TypeKind::Date,
            Type::Time { zoned: false, .. } => TypeKind::Time,
            Type::Time { zoned: true, .. } => TypeKind::TimeZoned,
            Type::Timestamp { zoned: false, .. } => TypeKind::Timestamp,
            Type::Timestamp { zoned: true, .. } => TypeKind::TimestampZoned,
            Type::Interval => TypeKind::Interval,
            Type::Uuid => TypeKind::Uuid,
            Type::Json => TypeKind::Json,
            Type::BinaryJson => TypeKind::BinaryJson,
            Type::Enum(_) => TypeKind::Enum,
            Type::Array(_) => TypeKind::Array,
            Type::NetworkAddress => TypeKind::NetworkAddress,
            Type::Range(RangeKind::Integer) => TypeKind::IntegerRange,
            Type::Range(RangeKind::BigInt) => TypeKind::BigIntRange,
            Type::Range(RangeKind::Numeric) => TypeKind::NumericRange,
            Type::Range(RangeKind::Date) => TypeKind::DateRange,
            Type::Range(RangeKind::Timestamp) => TypeKind::TimestampRange,
            Type::SearchVector => TypeKind::SearchVector,
            Type::ObjectId => TypeKind::ObjectId,
            Type::Native(_) => TypeKind::Native,
        }
    }

    /// The parameters that this type carries.
    pub fn parameters(&self) -> TypeParameters {
        let mut parameters = TypeParameters::default();
        match self {
            Type::Char(length) | Type::Varchar(length) | Type::Binary(length) => {
                parameters.length = *length
            }
            Type::Numeric { precision, scale } => {
                (parameters.precision, parameters.scale) = (*precision, *scale)
            }
            Type::Time { precision, .. } | Type::Timestamp { precision, .. } => {
                parameters.precision = *precision
            }
            _ => {}
        }
        parameters
    }

    /// The type of a table row with these parameters; enumerations, arrays and native types have
    /// none.
    pub fn from_kind(kind: TypeKind, parameters: TypeParameters) -> Option<Type> {
        let TypeParameters { length, precision, scale } = parameters;
        Some(match kind {
            TypeKind::Boolean => Type::Boolean,
            TypeKind::SmallInt => Type::SmallInt,
            TypeKind::Integer => Type::Integer,
            TypeKind::BigInt => Type::BigInt,
            TypeKind::UnsignedSmallInt => Type::UnsignedSmallInt,
            TypeKind::UnsignedInteger => Type::UnsignedInteger,
            TypeKind::UnsignedBigInt => Type::UnsignedBigInt,
            TypeKind::Numeric => Type::Numeric { precision, scale },
            TypeKind::Real => Type::Real,
            TypeKind::Double => Type::Double,
            TypeKind::Char => Type::Char(length),
            TypeKind::Varchar => Type::Varchar(length),
            TypeKind::CaseFoldedText => Type::CaseFoldedText,
            TypeKind::Text => Type::Text,
            TypeKind::Binary => Type::Binary(length),
            TypeKind::Date => Type::Date,
            TypeKind::Time => Type::Time { precision, zoned: false },
            TypeKind::TimeZoned => Type::Time { precision, zoned: true },
            TypeKind::Timestamp => Type::Timestamp { precision, zoned: false },
            TypeKind::TimestampZoned => Type::Timestamp { precision, zoned: true },
            TypeKind::Interval => Type::Interval,
            TypeKind::Uuid => Type::Uuid,
            TypeKind::Json => Type::Json,
            TypeKind::BinaryJson => Type::BinaryJson,
            TypeKind::NetworkAddress => Type::NetworkAddress,
            TypeKind::IntegerRange => Type::Range(RangeKind::Integer),
            TypeKind::BigIntRange => Type::Range(RangeKind::BigInt),
            TypeKind::NumericRange => Type::Range(RangeKind::Numeric),
            TypeKind::DateRange => Type::Range(RangeKind::Date),
            TypeKind::TimestampRange => Type::Range(RangeKind::Timestamp),
            TypeKind::SearchVector => Type::SearchVector,
            TypeKind::ObjectId => Type::ObjectId,
            TypeKind::Enum | TypeKind::Array | TypeKind::Native => return None,
        })
    }

    /// Whole numbers, signed or not.
    pub fn is_whole_number(&self) -> bool {
        matches!(
            self,
            Type::SmallInt
                | Type::Integer
                | Type::BigInt
                | Type::UnsignedSmallInt
                | Type::UnsignedInteger
                | Type::UnsignedBigInt
        )
    }

    /// Text of any length.
    pub fn is_text(&self) -> bool {
        matches!(self, Type::Char(_) | Type::Varchar(_) | Type::Text | Type::CaseFoldedText)
    }

    /// JSON in either form.
    pub fn is_json(&self) -> bool {
        matches!(self, Type::Json | Type::BinaryJson)
    }
}

impl fmt::Display for Type {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Type::Enum(name) => return write!(f, "enum({name})"),
            Type::Array(element) => return write!(f, "{element} array"),
            Type::Native(text) => return write!(f, "native({text})"),
            _ => {}
        }
        let kind = self.kind();
        let word = WORDS.iter().find(|(row, _)| *row == kind).map_or("text", |(_, word)| word);
        let TypeParameters { length, precision, scale } = self.parameters();
        let arguments = match (length.or(precision), scale) {
            (Some(first), Some(second)) => format!("({first},{second})"),
            (Some(first), None) => format!("({first})"),
            (None, _) => String::new(),
        };
        match word.split_once(" with time zone") {
            Some((head, _)) => write!(f, "{head}{arguments} with time zone"),
            None => write!(f, "{word}{arguments}"),
        }
    }
}

/// A type's text form that does not parse.
#[derive(Debug, thiserror::Error, PartialEq, Eq)]
#[error(
    "`{0}` is not a type; expected one such as `integer`, `varchar(24)`, `numeric(12,2)`, \
     `enum(Name)`, `text array` or `native(...)`"
)]
pub struct UnknownType(pub String);

impl FromStr for Type {
    type Err = UnknownType;

    fn from_str(text: &str) -> Result<Self, UnknownType> {
        let unknown = || UnknownType(text.to_owned());
        let inside = |prefix: &str| text.strip_prefix(prefix)?.strip_prefix('(')?.strip_suffix(')');
        if let Some(name) = inside("native") {
            return Ok(Type::Native(name.to_owned()));
        }
        if let Some(element) = text.strip_suffix(" array") {
            return Ok(Type::Array(Box::new(element.parse()?)));
        }
        if let Some(name) = inside("enum") {
            return Ok(Type::Enum(name.to_owned()));
        }
        let (word, numbers): (Cow<'_, str>, Vec<u32>) = match text.split_once('(') {
            None => (text.into(), Vec::new()),
            Some((head, rest)) => {
                let (arguments, tail) = rest.split_once(')').ok_or_else(unknown)?;
                let numbers: Result<Vec<u32>, _> =
                    arguments.split(',').map(|part| part.trim().parse()).collect();
                (format!("{head}{tail}").into(), numbers.map_err(|_| unknown())?)
            }
        };
        let (kind, _) = WORDS.iter().find(|(_, known)| *known == word).ok_or_else(unknown)?;
        let first = numbers.first().copied();
        let parameters =
            TypeParameters { length: first, precision: first, scale: numbers.get(1).copied() };
        let parsed = Type::from_kind(*kind, parameters).ok_or_else(unknown)?;
        if parsed.to_string() == text { Ok(parsed) } else { Err(unknown()) }
    }
}

impl Serialize for Type {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        serializer.collect_str(self)
    }
}

impl<'de> Deserialize<'de> for Type {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        Cow::<'de, str>::deserialize(deserializer)?.parse().map_err(serde::de::Error::custom)
    }
}

#[cfg(feature = "json-schema")]
impl schemars::JsonSchema for Type {
    fn schema_name() -> Cow<'static, str> {
        "Type".into()
    }

    fn json_schema(_: &mut schemars::SchemaGenerator) -> schemars::Schema {
        schemars::json_schema!({
            "type": "string",
            "description": "A type in the words of the SQL standard: integer, varchar(24), \
                            numeric(12,2), enum(Name), text array, native(...)."
        })
    }
}

/// The enumeration that a type, or the element of an array type, names.
pub fn enum_name(ty: &Type) -> Option<&str> {
    match ty {
        Type::Enum(name) => Some(name),
        Type::Array(element) => enum_name(element),
        _ => None,
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn text_forms_read_back() {
        for text in [
            "boolean",
            "varchar",
            "varchar(24)",
            "numeric(12,2)",
            "numeric",
            "numeric(6)",
            "timestamp(3) with time zone",
            "time",
            "enum(CallStatus)",
            "text array",
            "varchar(7) array array",
            "native(money)",
            "unsigned integer",
            "binary json",
            "double precision",
        ] {
            assert_eq!(text.parse::<Type>().map(|ty| ty.to_string()), Ok(text.to_owned()));
        }
        for text in ["", "varchar(", "varchar(x)", "integer(3)", "string"] {
            assert!(text.parse::<Type>().is_err(), "{text}");
        }
    }
}
