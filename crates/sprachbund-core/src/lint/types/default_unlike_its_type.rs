use serde_json::Value;

use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::place;
use crate::lint::examples::{django, sql, typeorm};
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::{Database, Default_, Field, Type};

pub(super) const RULE: Rule = Rule {
    name: "default-unlike-its-type",
    severity: Severity::Error,
    finds: "a default that its column cannot hold: of another type, too long, out of range, or \
            outside the choices",
    consequence: "The table cannot be made, or the first insert that relies on the default is \
                  refused, or (on SQLite) a value that no reader expects is stored.",
    sql: "CREATE TABLE vessel (flag varchar(2) DEFAULT 'unknown');\n\
          INSERT INTO vessel DEFAULT VALUES;  -- refused: value too long for type character \
          varying(2)",
    cure: "Write a default that the column can hold, or widen the column.",
    exception: "Never: such a default cannot be stored.",
    wrong: django(
        "class Vessel(models.Model):\n    flag = models.CharField(max_length=2, \
         default=\"unknown\")\n",
    ),
    right: django(
        "class Vessel(models.Model):\n    flag = models.CharField(max_length=2, default=\"\")\n",
    ),
    cases: &[
        (
            1,
            django(
                "class Vessel(models.Model):\n    masts = \
                 models.SmallIntegerField(default=40000)\n",
            ),
        ),
        (
            1,
            django(
                "class Vessel(models.Model):\n    tonnage = models.DecimalField(max_digits=4, \
                 decimal_places=1, default=1234.5)\n",
            ),
        ),
        (
            1,
            django(
                "class Vessel(models.Model):\n    tonnage = models.DecimalField(max_digits=4, \
                 decimal_places=1, default=1.25)\n",
            ),
        ),
        (
            1,
            django(
                "class Vessel(models.Model):\n    masts = models.IntegerField(default=\"three\")\n",
            ),
        ),
        (
            1,
            django(
                "class Vessel(models.Model):\n    kind = models.CharField(max_length=9, \
                 default=\"yacht\", choices=[(\"tug\", \"Tug\")])\n",
            ),
        ),
        (
            0,
            sql("CREATE TABLE vessel (id int PRIMARY KEY, tonnage int unsigned DEFAULT \
                 3000000000);")
            .on(Database::MariaDb),
        ),
        (
            0,
            sql("CREATE TABLE vessel (id int PRIMARY KEY, masts smallint unsigned DEFAULT 50000);")
                .on(Database::MySql),
        ),
        (
            1,
            sql("CREATE TABLE vessel (id int PRIMARY KEY, tonnage int unsigned DEFAULT \
                 5000000000);")
            .on(Database::MariaDb),
        ),
        (
            1,
            sql("CREATE TABLE vessel (id int PRIMARY KEY, tonnage int DEFAULT 3000000000);")
                .on(Database::MariaDb),
        ),
        (1, sql("CREATE TABLE vessel (id int PRIMARY KEY, tonnage int DEFAULT 3000000000);")),
        (
            0,
            sql("CREATE TABLE vessel (id int PRIMARY KEY, tonnage int DEFAULT 3000000000);")
                .on(Database::Sqlite),
        ),
        (
            0,
            django(
                "class Vessel(models.Model):\n    kind = models.CharField(max_length=9, \
                 default=\"\", choices=[(\"tug\", \"Tug\")])\n",
            ),
        ),
        (
            0,
            django(
                "class Vessel(models.Model):\n    tonnage = models.DecimalField(max_digits=9, \
                 decimal_places=1, default=0)\n",
            ),
        ),
        (
            1,
            typeorm(
                "@Entity()
class Vessel {
  @PrimaryColumn()
  id!: number;
  @Column({ default: 0.5 })
  draught!: number;
}",
            ),
        ),
    ],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for (entity, field) in context.columns() {
        for (voice, default) in
            [("database", &field.defaults.database), ("application", &field.defaults.application)]
        {
            let Some(Default_::Literal(value)) = default.as_deref() else { continue };
            let Some(reason) = misfit(context, field, value) else { continue };
            found.push(
                RULE.of_column(
                    entity,
                    field,
                    format!(
                        "the default {value} of `{}` does not fit its column: {reason}",
                        place(entity, field)
                    ),
                )
                .at(field.origin.span(), format!("`{}`, default in the {voice}", field.r#type))
                .with_help("write a default that the column can hold, or widen the column"),
            );
        }
    }
}

fn misfit(context: &Context<'_>, field: &Field, value: &Value) -> Option<String> {
    let enumeration = crate::schema::enum_name(&field.r#type)
        .or(field.choices.as_deref())
        .and_then(|name| context.enumeration(name));
    if let Some(enumeration) =
        enumeration.filter(|_| *value != Value::String(String::new()) && !value.is_array())
    {
        let member = enumeration.members.iter().any(|member| member.value == *value);
        return (!member).then(|| {
            format!(
                "it is not one of the {} values of `{}`",
                enumeration.members.len(),
                enumeration.name
            )
        });
    }
    match (&field.r#type, value) {
        (Type::Varchar(Some(limit)) | Type::Char(Some(limit)), Value::String(text)) => {
            let length = text.chars().count();
            (length > *limit as usize)
                .then(|| format!("it has {length} characters, and {limit} fit"))
        }
        (Type::Boolean, value) => {
            (!value.is_boolean()).then(|| "it is neither true nor false".into())
        }
        (Type::Numeric { precision, scale }, Value::String(text)) => {
            out_of_digits(text, *precision, *scale)
        }
        (Type::Numeric { precision, scale }, Value::Number(number)) => {
            out_of_digits(&number.to_string(), *precision, *scale)
        }
        (Type::Real | Type::Double, value) => {
            (!value.is_number()).then(|| "it is not a number".into())
        }
        (ty, value) if ty.is_whole_number() => {
            let number = value.as_i64().map(i128::from).or_else(|| value.as_u64().map(i128::from));
            let Some(number) = number else { return Some("it is not a whole number".into()) };
            let (low, high) = context.database().server().whole_range(ty)?;
            (number < low || number > high).then(|| format!("it is outside {low} to {high}"))
        }
        (ty, value) if ty.is_text() => {
            (value.is_object() || value.is_array()).then(|| "it is not text".into())
        }
        _ => None,
    }
}

/// Why a decimal does not fit: more digits before the point than there is room for, or more behind
/// it than are kept.
fn out_of_digits(text: &str, precision: Option<u32>, scale: Option<u32>) -> Option<String> {
    if text.parse::<f64>().is_err() {
        return Some("it is not a number".into());
    }
    let (precision, scale) = (precision? as usize, scale.unwrap_or(0) as usize);
    let digits = text.trim_start_matches(['-', '+']);
    let (whole, places) = digits.split_once('.').unwrap_or((digits, ""));
    let (whole, places) = (whole.trim_start_matches('0').len(), places.trim_end_matches('0').len());
    if !digits.chars().all(|letter| letter.is_ascii_digit() || letter == '.') {
        return None;
    }
    let room = precision.saturating_sub(scale);
    (whole > room)
        .then(|| format!("it has {whole} digits before the point, and {room} fit"))
        .or_else(|| {
            (places > scale)
                .then(|| format!("it has {places} digits behind the point, and {scale} are kept"))
        })
}
