//! Mongoose's schema types, by what MongoDB holds of them (`lib/schema/` of 8.24.10). A word that
//! only reads means the same to the database as another one.

use std::sync::LazyLock;

use crate::dialect::release::at_least;
use crate::dialect::type_table::TypeRow;
use crate::schema::{Type, TypeKind as Kind};

/// The types.
pub(super) const TYPES: &[TypeRow] = &[
    TypeRow::new("String", Kind::Text, "", "string"),
    TypeRow::new("Number", Kind::Double, "", "number"),
    TypeRow::new("Double", Kind::Double, "", "number").read_only(),
    TypeRow::new("Int32", Kind::Integer, "", "number"),
    TypeRow::new("BigInt", Kind::BigInt, "", "bigint"),
    TypeRow::new("Decimal128", Kind::Numeric, "", "Types.Decimal128"),
    TypeRow::new("Boolean", Kind::Boolean, "", "boolean"),
    // Three digits of a second.
    TypeRow::new("Date", Kind::TimestampZoned, "", "Date").silent_digits(3, 0),
    TypeRow::new("Buffer", Kind::Binary, "", "Buffer"),
    TypeRow::new("UUID", Kind::Uuid, "", "string"),
    TypeRow::new("ObjectId", Kind::ObjectId, "", "Types.ObjectId"),
    TypeRow::new("Mixed", Kind::BinaryJson, "", "unknown"),
];

/// Those that 6.13.11 does not know.
const SINCE_8: &[&str] = &["Double", "Int32", "BigInt"];

/// The types of a release.
pub(super) fn of_release(release: &str) -> &'static [TypeRow] {
    static BEFORE_8: LazyLock<Vec<TypeRow>> = LazyLock::new(|| {
        TYPES.iter().filter(|row| !SINCE_8.contains(&row.word)).copied().collect()
    });
    if at_least(release, (8, 0)) { TYPES } else { &BEFORE_8 }
}

/// Words that mean the same as another one.
const OTHER_WORDS: &[(&str, &str)] = &[
    ("Bool", "Boolean"),
    ("ObjectID", "ObjectId"),
    ("Oid", "ObjectId"),
    ("Object", "Mixed"),
    ("Uuid", "UUID"),
    ("Bigint", "BigInt"),
    ("Decimal", "Decimal128"),
    ("Schema.Types.Mixed", "Mixed"),
];

/// What each type checks of its values; the framework takes any other option in silence, and does
/// nothing with it (seen of 8.24.10).
const CHECKED: &[(&str, &[&str])] = &[
    ("String", &["minlength", "minLength", "maxlength", "maxLength", "match", "enum"]),
    ("Number", &["min", "max", "enum"]),
    ("Date", &["min", "max", "expires"]),
    ("Array", &["enum"]),
];

/// Options that some type checks.
pub(super) const CHECKS: &[&str] =
    &["minlength", "minLength", "maxlength", "maxLength", "match", "min", "max", "enum", "expires"];

/// Rules, and the options that say them; the first of each is the one that is written.
pub(super) const RULES: &[(&str, &str)] = &[
    ("min_length", "minlength"),
    ("min_length", "minLength"),
    ("max_length", "maxlength"),
    ("max_length", "maxLength"),
    ("min_value", "min"),
    ("max_value", "max"),
    ("pattern", "match"),
];

/// Whether a type checks an option.
pub(super) fn checks(word: &str, option: &str) -> bool {
    CHECKED.iter().any(|(known, options)| *known == word && options.contains(&option))
}

/// Whether values of a type can be kept to a rule (or to choices, as `enum`).
pub(crate) fn keeps_to(ty: &Type, rule: &str) -> bool {
    let option = RULES.iter().find(|(known, _)| *known == rule).map_or(rule, |(_, option)| option);
    let word = match ty {
        Type::Array(element) if option == "enum" => return keeps_to(element, rule),
        _ => TYPES.iter().find(|row| row.spell(ty).is_some()).map_or("", |row| row.word),
    };
    checks(word, option)
}

/// The word of the table for a word as it is written: as a class, or as a text, whose first letter
/// may be small.
pub(super) fn word(written: &str) -> Option<&'static str> {
    let mut letters = written.chars();
    let capital: String =
        letters.next().into_iter().flat_map(char::to_uppercase).chain(letters).collect();
    let named = |name: &str| TYPES.iter().find(|row| row.word == name).map(|row| row.word);
    named(&capital).or_else(|| named(OTHER_WORDS.iter().find(|(other, _)| *other == capital)?.1))
}
