//! Column types: where the target lacks one, the nearest that it has.

use std::borrow::Cow;
use std::collections::HashMap;

use serde_json::Value;

use super::causes::enumerations::OfEnumeration;
use super::causes::types::OfType;
use super::servers::small_number;
use super::{Fitting, Grade};
use crate::decision::companions::is_positive;
use crate::decision::values::coerce;
use crate::dialect::Feature;
use crate::dialect::conventions::KeyNumbered;
use crate::dialect::type_table::{row, stored};
use crate::history::sql::members;
use crate::schema::facts::{Aspect, held_as};
use crate::schema::{Default_, Entity, EnumMember, Field, Purpose, Type, TypeKind};
use crate::server::Enumerations;

/// What stands in for a type, nearest first, with the grade of the change.
const STAND_INS: &[(TypeKind, Grade, Type)] = &[
    (TypeKind::Json, Grade::Respelled, Type::BinaryJson),
    (TypeKind::BinaryJson, Grade::Respelled, Type::Json),
    (TypeKind::Json, Grade::Weakened, Type::Text),
    (TypeKind::Real, Grade::Strengthened, Type::Double),
    (TypeKind::CaseFoldedText, Grade::Weakened, Type::Text),
    (TypeKind::Date, Grade::Weakened, Type::Timestamp { precision: None, zoned: false }),
    (TypeKind::Time, Grade::Weakened, Type::Text),
    (TypeKind::Timestamp, Grade::Respelled, Type::Timestamp { precision: None, zoned: true }),
    (TypeKind::TimestampZoned, Grade::Weakened, Type::Timestamp { precision: None, zoned: false }),
    (TypeKind::TimeZoned, Grade::Weakened, Type::Time { precision: None, zoned: false }),
    (TypeKind::Integer, Grade::Weakened, Type::Double),
    (TypeKind::BigInt, Grade::Weakened, Type::Numeric { precision: None, scale: None }),
    (TypeKind::UnsignedSmallInt, Grade::Respelled, Type::SmallInt),
    (TypeKind::UnsignedInteger, Grade::Respelled, Type::Integer),
    (TypeKind::UnsignedBigInt, Grade::Respelled, Type::BigInt),
    (TypeKind::Interval, Grade::Weakened, Type::BigInt),
    (TypeKind::Uuid, Grade::Weakened, Type::Char(Some(36))),
    (TypeKind::NetworkAddress, Grade::Weakened, Type::Varchar(Some(43))),
    (TypeKind::IntegerRange, Grade::Weakened, Type::Text),
    (TypeKind::BigIntRange, Grade::Weakened, Type::Text),
    (TypeKind::NumericRange, Grade::Weakened, Type::Text),
    (TypeKind::DateRange, Grade::Weakened, Type::Text),
    (TypeKind::TimestampRange, Grade::Weakened, Type::Text),
    (TypeKind::SearchVector, Grade::Weakened, Type::Text),
    (TypeKind::Native, Grade::Weakened, Type::Text),
];

/// Digits of a decimal whose author gave none, where the target demands them.
const SILENT_DIGITS: (u32, u32) = (38, 10);

/// Fits every column's type, and says anew what the server holds.
pub(super) fn fit(fitting: &mut Fitting) {
    fitting.each_entity(|fitting, entity| {
        for at in 0..entity.fields.len() {
            as_held(fitting, entity, at);
            // An enumeration that becomes a text still has to become a text that can be said.
            enumeration(fitting, entity, at);
            column_type(fitting, entity, at);
            // What is said of a type is fitted to the one that the column has in the end.
            array(fitting, entity, at);
            choices(fitting, entity, at);
            kept_time(fitting, entity, at);
            format(fitting, entity, at);
        }
    });
    // A key may stand in a later table than what refers to it: all keys have their types by now.
    follow_keys(fitting);
    // The stored name of an enumeration is part of what its columns are stored as.
    super::enumerations::keep_names(fitting);
    fitting.each_entity(|fitting, entity| {
        (0..entity.fields.len()).for_each(|at| store(fitting, entity, at))
    });
    // Columns that became texts or lost their choices may have been the last of an enumeration.
    let used: Vec<String> = fitting
        .schema
        .entities
        .iter()
        .flat_map(|entity| &entity.fields)
        .flat_map(|field| {
            field.choices.iter().map(String::as_str).chain(crate::schema::enum_name(&field.r#type))
        })
        .map(str::to_owned)
        .collect();
    let gone: Vec<String> = fitting
        .schema
        .enums
        .iter()
        .map(|enumeration| enumeration.name.clone())
        .filter(|name| !used.contains(name))
        .collect();
    for name in gone {
        fitting.schema.enums.retain(|enumeration| enumeration.name != name);
        for aspect in [
            Aspect::Members,
            Aspect::Labels,
            Aspect::CodeValues,
            Aspect::StoredName,
            Aspect::Inline,
        ] {
            fitting.because_enumeration(&name, aspect, OfEnumeration::UnusedEnumeration);
        }
    }
    super::enumerations::name_lists(fitting);
}

/// An enumeration type that the target cannot make becomes text that the application restricts.
fn enumeration(fitting: &mut Fitting, entity: &mut Entity, at: usize) {
    if fitting.capabilities.has(Feature::EnumType) {
        return;
    }
    let Type::Enum(name) = entity.fields[at].r#type.clone() else { return };
    let members = fitting
        .schema
        .enumeration(&name)
        .map_or(Vec::new(), |enumeration| enumeration.members.clone());
    let longest = members
        .iter()
        .filter_map(|member| member.value.as_str())
        .map(|text| text.chars().count())
        .max();
    let field = &mut entity.fields[at];
    field.r#type =
        longest.map_or(Type::Integer, |longest| Type::Varchar(Some((longest as u32).max(16))));
    fitting.because_column(entity, at, Aspect::Type, OfEnumeration::NoEnumTypes);
    if fitting.capabilities.has(Feature::Choices) {
        entity.fields[at].choices = Some(name);
        fitting.because_column(entity, at, Aspect::Choices, OfEnumeration::NoEnumTypes);
    }
}

/// On MariaDB and MySQL another framework holds a type in its own way: what counts is what is held.
/// A time from a server that keeps fractions of seconds by itself says so there.
fn as_held(fitting: &mut Fitting, entity: &mut Entity, at: usize) {
    let field = &entity.fields[at];
    let chosen = field.r#type != Type::Boolean && crate::schema::enum_name(&field.r#type).is_none();
    if fitting.holds_the_same && !fitting.home && !field.stored.is_empty() && chosen {
        let held = fitting.database().server().read_type(&field.stored, &|_| false);
        if held != field.r#type {
            let cause = OfType::HeldAs {
                ty: field.r#type.clone(),
                stored: field.stored.to_string(),
                held: held.clone(),
            };
            fitting.because_column(entity, at, Aspect::Type, cause);
            entity.fields[at].r#type = held;
        }
    }
    if fitting.comes_with_fractions && keep_fraction(&mut entity.fields[at].r#type) {
        fitting.because_column(entity, at, Aspect::Type, OfType::FractionsOnRequest);
    }
}

/// Says the six digits of a second that other servers keep where nothing is said; whether it had
/// to.
pub(super) fn keep_fraction(ty: &mut Type) -> bool {
    let (Type::Time { precision: precision @ None, .. }
    | Type::Timestamp { precision: precision @ None, .. }) = ty
    else {
        return false;
    };
    *precision = Some(6);
    true
}

/// Choices that are said by the column's type must be texts that it can hold.
fn choices(fitting: &mut Fitting, entity: &mut Entity, at: usize) {
    let field = &entity.fields[at];
    let Some(name) =
        field.choices.clone().filter(|_| !fitting.capabilities.has(Feature::ChoicesOfAny))
    else {
        return;
    };
    let longest = |members: &[EnumMember]| {
        members.iter().map(|member| member.value.as_str().map(|text| text.chars().count())).max()
    };
    let texts = fitting
        .schema
        .enumeration(&name)
        .filter(|known| known.members.iter().all(|member| member.value.is_string()));
    let longest = texts.and_then(|known| longest(&known.members).flatten());
    let bounded = can_say(fitting, &Type::Varchar(Some(1)));
    let holds = match (&field.r#type, longest) {
        (Type::Varchar(Some(length)), Some(longest)) => bounded && *length as usize >= longest,
        (Type::Text, Some(_)) => !bounded,
        _ => false,
    };
    if !holds || !fitting.capabilities.has(Feature::Choices) {
        entity.fields[at].choices = None;
        let cause = match (fitting.capabilities.has(Feature::Choices), bounded) {
            (false, _) => OfEnumeration::ChoicesByTypeOnly,
            (true, true) => OfEnumeration::ChoicesOfBoundedTexts,
            (true, false) => OfEnumeration::ChoicesOfTexts,
        };
        fitting.because_column(entity, at, Aspect::Choices, cause);
    }
}

/// Arrays are null where the framework says nothing else of them.
fn array(fitting: &mut Fitting, entity: &mut Entity, at: usize) {
    let field = &mut entity.fields[at];
    if !fitting.conventions.nullability.arrays
        || field.nullable
        || !matches!(field.r#type, Type::Array(_))
    {
        return;
    }
    field.nullable = true;
    fitting.because_column(entity, at, Aspect::Nullable, OfType::NullableArrays);
}

fn can_say(fitting: &Fitting, ty: &Type) -> bool {
    let database = fitting.database();
    let says = |ty: &Type, word: fn(&str) -> bool| {
        let rows = fitting
            .conventions
            .words
            .types
            .iter()
            .filter(|row| row.written && !row.numbered && word(row.word));
        rows.filter(|row| row.is_on(database))
            .any(|row| row.format.is_none() && row.spell(ty).is_some())
    };
    let any_word: fn(&str) -> bool = |_| true;
    // An element that has a word of the table has one that can stand in an array.
    let as_element = |ty: &Type| !says(ty, any_word) || says(ty, fitting.conventions.words.element);
    match ty {
        Type::Varchar(None)
            if database.server().varchar_needs_length
                || !fitting.conventions.limits.texts_without_length =>
        {
            false
        }
        Type::Array(element) => {
            let nested = matches!(**element, Type::Array(_))
                && !fitting.capabilities.has(Feature::NestedArray);
            database.server().arrays && !nested && can_say(fitting, element) && as_element(element)
        }
        Type::Enum(_) => fitting.capabilities.has(Feature::EnumType),
        // A word of one server is none of another.
        Type::Native(name) => {
            fitting.home
                || (fitting.on_same_server()
                    && (fitting.conventions.words.takes_native)(name, database))
        }
        _ => says(ty, any_word),
    }
}

/// Columns of relations have the type of the key that they refer to.
fn follow_keys(fitting: &mut Fitting) {
    let types: HashMap<(String, String), Type> = fitting
        .schema
        .entities
        .iter()
        .flat_map(|entity| {
            entity
                .fields
                .iter()
                .map(|field| ((entity.address(), field.column.clone()), field.r#type.clone()))
        })
        .collect();
    fitting.each_entity(|fitting, entity| {
        let keys: Vec<_> = entity
            .foreign_keys
            .iter()
            .map(|key| (key.columns.clone(), key.references.clone()))
            .collect();
        for (columns, references) in keys {
            let target = references.address();
            for (column, referenced) in columns.iter().zip(references.columns) {
                let referenced = types.get(&(target.clone(), referenced));
                let Some(wanted) = referenced else { continue };
                let Some(at) = entity
                    .fields
                    .iter()
                    .position(|field| field.column == *column && field.r#type != *wanted)
                else {
                    continue;
                };
                entity.fields[at].r#type = wanted.clone();
                fitting.because_column(
                    entity,
                    at,
                    Aspect::Type,
                    OfType::FollowsKey(wanted.clone()),
                );
            }
        }
    });
}

fn column_type(fitting: &mut Fitting, entity: &mut Entity, at: usize) {
    let before = entity.fields[at].r#type.clone();
    let numbered = entity.fields[at].identity.is_some();
    let row_numbers = |ty: &Type| {
        fitting.conventions.words.types.iter().any(|row| row.numbered && row.kind == ty.kind())
    };
    // SQLite numbers the rows of a whole key only where that is an `INTEGER`.
    let by_row = fitting.conventions.keys.whole_numbered == KeyNumbered::ByRow
        && entity.key_columns() == [entity.fields[at].column.clone()];
    let found = match (numbered || by_row) && before.is_whole_number() && !row_numbers(&before) {
        true => {
            let wide =
                matches!(before, Type::BigInt | Type::UnsignedBigInt) && row_numbers(&Type::BigInt);
            Some((Grade::Respelled, if wide { Type::BigInt } else { Type::Integer }))
        }
        false => nearest(fitting, &before, 0),
    };
    let Some((grade, after)) = found else { return };
    if after == before {
        return;
    }
    entity.fields[at].r#type = after.clone();
    moment_of_zone(fitting, entity, at, &before);
    let field = &entity.fields[at];
    let cause = match fitting.holds_the_same && held(fitting, entity, field) == field.stored {
        true => OfType::OtherWord { stored: field.stored.to_string(), after },
        false => OfType::NoSuchType { before, after, grade },
    };
    for aspect in coerced(&mut entity.fields[at]) {
        fitting.because_column(entity, at, aspect, cause.clone());
    }
    fitting.because_column(entity, at, Aspect::Type, cause);
}

/// Constants take the form that values of the column's type have; the defaults that changed.
pub(super) fn coerced(field: &mut Field) -> Vec<Aspect> {
    let Field { r#type, defaults, .. } = field;
    let mut changed = Vec::new();
    for (aspect, default) in [
        (Aspect::DatabaseDefault, &mut defaults.database),
        (Aspect::ApplicationDefault, &mut defaults.application),
    ] {
        let Some(Default_::Literal(value)) = default.as_deref_mut() else { continue };
        let before = value.clone();
        *value = match (&*r#type, std::mem::take(value)) {
            // A document that becomes a text.
            (
                Type::Text | Type::Varchar(_) | Type::Char(_),
                held @ (Value::Array(_) | Value::Object(_)),
            ) => Value::String(held.to_string()),
            (ty, held) => coerce(ty, held),
        };
        if *value != before {
            changed.push(aspect);
        }
    }
    changed
}

/// A moment without a zone that becomes one with a zone is meant in universal time.
fn moment_of_zone(fitting: &mut Fitting, entity: &mut Entity, at: usize, before: &Type) {
    let field = &mut entity.fields[at];
    let gains = matches!(before, Type::Timestamp { zoned: false, .. })
        && matches!(field.r#type, Type::Timestamp { zoned: true, .. });
    if let Some(Default_::Literal(Value::String(text))) = field.defaults.database.as_deref_mut()
        && gains
        && fitting.host().zoned_times
        && !text.ends_with("+00")
    {
        text.push_str("+00");
        fitting.because_column(entity, at, Aspect::DatabaseDefault, OfType::ZoneOfMoment);
    }
}

/// A time that the framework keeps has the digits that it gives it.
fn kept_time(fitting: &mut Fitting, entity: &mut Entity, at: usize) {
    let Some(digits) = fitting.conventions.times.kept_digits else { return };
    let field = &mut entity.fields[at];
    if !field.purpose.is_some_and(Purpose::is_time) {
        return;
    }
    let (Type::Timestamp { precision, .. } | Type::Time { precision, .. }) = &mut field.r#type
    else {
        return;
    };
    if *precision == Some(digits) {
        return;
    }
    *precision = Some(digits);
    fitting.because_column(entity, at, Aspect::Type, OfType::DigitsOfKeptTime(digits));
}

/// The nearest type that can be said, with the worst grade on the way; `None` when nothing stands
/// in.
fn nearest(fitting: &Fitting, ty: &Type, depth: u32) -> Option<(Grade, Type)> {
    if can_say(fitting, ty) {
        return Some((Grade::Respelled, ty.clone()));
    }
    // The stand-ins lead in circles: a number without digits to one with digits, and back.
    if depth > 6 {
        return None;
    }
    for (grade, candidate) in simpler(ty) {
        if let Some((worse, found)) = nearest(fitting, &candidate, depth + 1) {
            return Some((grade.min(worse), found));
        }
    }
    None
}

/// Types that stand in for one: without its fraction or with digits, then by the table. What loses
/// least comes first, since the first that can be said is taken.
fn simpler(ty: &Type) -> Vec<(Grade, Type)> {
    let mut found = Vec::new();
    match ty {
        Type::Numeric { precision: None, .. } => {
            found.push((
                Grade::Weakened,
                Type::Numeric { precision: Some(SILENT_DIGITS.0), scale: Some(SILENT_DIGITS.1) },
            ));
        }
        Type::Numeric { precision, scale: None } => {
            found.push((Grade::Respelled, Type::Numeric { precision: *precision, scale: Some(0) }))
        }
        Type::Numeric { precision: Some(_), scale: Some(_) } => {
            found.push((Grade::Weakened, Type::Numeric { precision: None, scale: None }));
        }
        Type::Time { precision: Some(_), zoned } => {
            found.push((Grade::Strengthened, Type::Time { precision: None, zoned: *zoned }))
        }
        Type::Timestamp { precision: Some(_), zoned } => {
            found.push((Grade::Strengthened, Type::Timestamp { precision: None, zoned: *zoned }))
        }
        Type::Varchar(None) => found.push((Grade::Respelled, Type::Text)),
        Type::Varchar(Some(_)) => found.push((Grade::Weakened, Type::Text)),
        Type::SmallInt => found.push((Grade::Respelled, Type::Integer)),
        Type::Native(word) => found.extend(small_number(word).map(|ty| (Grade::Respelled, ty))),
        Type::Char(length) => {
            found.push((Grade::Respelled, Type::Varchar(Some(length.unwrap_or(1)))))
        }
        Type::Binary(Some(_)) => found.push((Grade::Weakened, Type::Binary(None))),
        Type::Array(element) => {
            // PostgreSQL does not keep the number of dimensions either.
            if let Type::Array(_) = **element {
                found.push((Grade::Respelled, (**element).clone()));
            }
            found.extend(
                simpler(element)
                    .into_iter()
                    .map(|(grade, simpler)| (grade, Type::Array(Box::new(simpler)))),
            );
            found.push((Grade::Weakened, Type::Json));
        }
        _ => {}
    }
    let kind = ty.kind();
    found.extend(
        STAND_INS
            .iter()
            .filter(|(known, _, _)| *known == kind)
            .map(|(_, grade, ty)| (*grade, ty.clone())),
    );
    found
}

/// A format that no row of the target checks.
fn format(fitting: &mut Fitting, entity: &mut Entity, at: usize) {
    let field = &entity.fields[at];
    let Some(format) = field.format.clone() else { return };
    let kept = fitting
        .conventions
        .words
        .types
        .iter()
        .any(|row| row.format == Some(&format) && row.spell(&field.r#type).is_some());
    if !kept {
        entity.fields[at].format = None;
        fitting.because_column(entity, at, Aspect::Format, OfType::NoFormats);
    }
}

/// What the server holds for a column whose type is no enumeration.
fn held(fitting: &Fitting, entity: &Entity, field: &Field) -> Cow<'static, str> {
    let database = fitting.database();
    let positive = is_positive(&fitting.conventions, entity, field);
    let spelled = crate::dialect::type_table::spell(
        fitting.conventions.words.types,
        field,
        positive,
        database,
    );
    let found = spelled.and_then(|(found, _)| {
        row(fitting.conventions.words.types, found.word, database).or(Some(found))
    });
    stored(found, &field.r#type, database, "")
}

fn store(fitting: &mut Fitting, entity: &mut Entity, at: usize) {
    let database = fitting.database();
    let field = &entity.fields[at];
    let written = crate::schema::enum_name(&field.r#type)
        .and_then(|name| fitting.schema.enumeration(name)?.stored_name.clone());
    let enumeration = crate::schema::enum_name(&field.r#type).unwrap_or_default();
    let names =
        [("table", entity.table.as_str()), ("column", &field.column), ("enumeration", enumeration)];
    let name = written.unwrap_or_else(|| fitting.conventions.names.enum_type.apply(&names));
    let members = crate::schema::enum_name(&field.r#type)
        .and_then(|name| fitting.schema.enumeration(name))
        .map(|known| members(known, database));
    let name = members
        .filter(|_| database.server().enumerations == Enumerations::InColumns)
        .map_or(name, |members| members.join(","));
    let held = match crate::schema::enum_name(&field.r#type) {
        Some(_) => stored(None, &field.r#type, database, &name),
        None => held(fitting, entity, field),
    };
    let before = std::mem::replace(&mut entity.fields[at].stored, held).into_owned();
    if let Some(after) = held_as(&entity.fields[at], database).map(str::to_owned) {
        fitting.because_column(entity, at, Aspect::HeldAs, OfType::KeptName { before, after });
    }
}

#[cfg(test)]
mod tests {
    use crate::fit::tests::{Case, check};

    const CASES: &[Case] = &[
        (
            "sql postgresql > django postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, a double precision, b real, c money);",
            &[
                "t, column c, type: \"native(money)\" -> \"text\" (weakened: Django cannot say \
                 `native(money)` on this server)",
                "t, column b, type: \"real\" -> \"double precision\" (strengthened: Django \
                 cannot say `real` on this server)",
            ],
        ),
        (
            "sql postgresql > django sqlite",
            "CREATE TABLE t (id integer PRIMARY KEY, a numeric, b numeric(8, 2));",
            &["t, column a, type: \"numeric\" -> \"numeric(38,10)\" (weakened: Django cannot \
               say `numeric` on this server)"],
        ),
        (
            "sql postgresql > prisma postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, a timestamp(3), b time(0), c char(3));",
            &[],
        ),
        (
            "sql postgresql > django mariadb",
            "CREATE TABLE t (id integer PRIMARY KEY, a timestamptz, b timestamptz(3), c uuid);",
            &["t, column b, type: \"timestamp(3) with time zone\" -> \"timestamp with time \
               zone\" (strengthened: Django cannot say `timestamp(3) with time zone` on this \
               server)"],
        ),
        (
            "sql postgresql > typeorm mariadb",
            "CREATE TABLE t (id integer PRIMARY KEY, a integer[], b jsonb, c interval);",
            &[
                "t, column a, type: \"integer array\" -> \"json\" (weakened: TypeORM cannot say \
                 `integer array` on this server)",
                "t, column c, type: \"interval\" -> \"bigint\" (weakened: TypeORM cannot say \
                 `interval` on this server)",
                "t, column b, type: \"binary json\" -> \"json\" (respelled: TypeORM cannot say \
                 `binary json` on this server)",
            ],
        ),
        (
            "sql postgresql > sequelize sqlite",
            "CREATE TABLE t (id integer PRIMARY KEY, a integer[] NOT NULL, b inet);",
            &[
                "t, column a, type: \"integer array\" -> \"json\" (weakened: Sequelize cannot \
                 say `integer array` on this server)",
                "t, column b, type: \"network address\" -> \"varchar(43)\" (weakened: Sequelize \
                 cannot say `network address` on this server)",
            ],
        ),
        (
            "sql postgresql > prisma postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, a integer[]);",
            &[],
        ),
        (
            "sql mariadb > django postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, a tinyint, b mediumint unsigned, c year, d \
             datetime);",
            &[
                "t, column a, type: \"native(tinyint)\" -> \"smallint\" (respelled: Django \
                 cannot say `native(tinyint)` on this server)",
                "t, column b, type: \"native(mediumint unsigned)\" -> \"integer\" (respelled: \
                 Django cannot say `native(mediumint unsigned)` on this server)",
                "t, column c, type: \"native(year)\" -> \"smallint\" (respelled: Django cannot \
                 say `native(year)` on this server)",
                "t, column d, type: \"timestamp\" -> \"timestamp with time zone\" (respelled: \
                 Django cannot say `timestamp` on this server)",
            ],
        ),
        (
            "sql mariadb > typeorm postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, a int unsigned, b tinyint(1), c longtext);",
            &["t, column a, type: \"unsigned integer\" -> \"integer\" (respelled: TypeORM \
               cannot say `unsigned integer` on this server)"],
        ),
        (
            "sql mariadb > sqlalchemy mariadb",
            "CREATE TABLE t (id integer PRIMARY KEY, a datetime(6), b mediumtext, c bigint \
             unsigned);",
            &[],
        ),
        (
            "sql mariadb > django mariadb",
            "CREATE TABLE t (id integer PRIMARY KEY, a enum('port', 'starboard'));",
            &[
                "t, column a, type: \"enum(t_a)\" -> \"varchar(16)\" (weakened: Django has no \
                 enumeration types of the database)",
                "t, column a, choices: nothing -> \"t_a\" (weakened: Django has no enumeration \
                 types of the database)",
            ],
        ),
        (
            "sql sqlite > django postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, a text, b real, c blob);",
            &[],
        ),
        (
            "sql postgresql > django postgresql",
            "CREATE TYPE side AS ENUM ('port', 'starboard'); CREATE TABLE t (id integer PRIMARY \
             KEY, a side);",
            &[
                "t, column a, type: \"enum(side)\" -> \"varchar(16)\" (weakened: Django has no \
                 enumeration types of the database)",
                "t, column a, held as: \"side\" -> nothing (weakened: Django has no enumeration \
                 types of the database)",
                "t, column a, choices: nothing -> \"side\" (weakened: Django has no enumeration \
                 types of the database)",
            ],
        ),
        (
            "sql postgresql > typeorm sqlite",
            "CREATE TYPE side AS ENUM ('port', 'starboard'); CREATE TABLE t (id integer PRIMARY \
             KEY, a side NOT NULL);",
            &[
                "t, column a, type: \"enum(side)\" -> \"varchar(16)\" (weakened: TypeORM has no \
                 enumeration types of the database)",
                "t, column a, choices: nothing -> \"side\" (weakened: TypeORM has no \
                 enumeration types of the database)",
            ],
        ),
        (
            "django postgresql > sqlalchemy postgresql",
            "class T(models.Model):
    a = models.GenericIPAddressField()
    b = models.EmailField()
    c = models.SlugField()
",
            &[
                "main_t, column b, format: \"email\" -> nothing (dropped: SQLAlchemy does not \
                 check text formats)",
                "main_t, column c, format: \"slug\" -> nothing (dropped: SQLAlchemy does not \
                 check text formats)",
            ],
        ),
        (
            "django postgresql > prisma postgresql",
            "class T(models.Model):
    a = models.PositiveIntegerField()
    b = models.DurationField()
",
            &[],
        ),
        (
            "django postgresql > sequelize postgresql",
            "class T(models.Model):
    a = models.IntegerField(choices=[(1, 'One'), (2, 'Two')])
    b = models.CharField(max_length=9, choices=[('p', 'Port')])
",
            &[],
        ),
        (
            "sql postgresql > prisma postgresql",
            "CREATE TABLE q (id varchar(20) PRIMARY KEY); CREATE TABLE t (id integer PRIMARY \
             KEY, q_id varchar(20) REFERENCES q (id));",
            &[],
        ),
        (
            "sql postgresql > typeorm postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, a hstore, b ltree, c point);",
            &[],
        ),
        (
            "typeorm postgresql > django postgresql",
            "@Entity()
export class T {
  @PrimaryGeneratedColumn()
  id!: number;
  @Column('timestamp without time zone')
  a!: Date;
  @Column('simple-array')
  b!: string[];
}
",
            &[
                "t, column b, format: \"comma list\" -> nothing (dropped: Django does not check \
                 text formats)",
                "t, column a, type: \"timestamp\" -> \"timestamp with time zone\" (respelled: \
                 Django cannot say `timestamp` on this server)",
            ],
        ),
    ];

    #[test]
    fn what_the_pass_makes_of_tables() {
        check(super::fit, CASES);
    }
}
