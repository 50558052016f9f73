//! A column as a method of its table, with the options that say the rest.

use serde_json::Value;

use crate::bracket::Bracket;
use crate::history::sql;
use crate::quoting::ruby;
use crate::schema::{Database, Default_, Field, Schema, Type, enum_name, plain_decimal};
use crate::types::{self, Sized};

/// What columns are written for.
#[derive(Clone, Copy, Debug)]
pub(super) struct Target {
    pub(super) database: Database,
    pub(super) bracket: Bracket,
}

/// A column of a new table.
pub(super) struct Column {
    /// The method of the table; `column` where the type is given beside the name.
    pub(super) method: String,
    /// The type beside the name, as code.
    pub(super) beside: Option<String>,
    /// Options, each with its value.
    pub(super) options: Vec<String>,
}

impl Column {
    /// The line: `t.string :code, limit: 5, null: false`.
    pub(super) fn line(&self, name: &str) -> String {
        let mut parts = vec![ruby::symbol(name)];
        parts.extend(self.beside.clone());
        parts.extend(self.options.iter().cloned());
        format!("t.{} {}", self.method, parts.join(", "))
    }
}

/// A way to say a type that is tried: the method, with the options that choose it.
type Candidate = (&'static str, Sized);

fn plain(method: &'static str) -> Candidate {
    (method, Sized::default())
}

fn limited(method: &'static str, limit: Option<u32>) -> Candidate {
    (method, Sized { limit, ..Sized::default() })
}

fn precise(method: &'static str, precision: Option<u32>) -> Candidate {
    (method, Sized { precision, ..Sized::default() })
}

fn unsigned((method, sized): Candidate) -> Candidate {
    (method, Sized { unsigned: true, ..sized })
}

fn sized(method: &'static str, size: &str) -> Candidate {
    (method, Sized { size: Some(size.to_owned()), ..Sized::default() })
}

/// The methods that may make a type, the usual one first. Whether one does is seen by what it makes
/// on the server.
fn candidates(ty: &Type, database: Database) -> Vec<Candidate> {
    match ty {
        Type::Boolean => vec![plain("boolean")],
        Type::SmallInt => vec![limited("integer", Some(2))],
        Type::Integer => vec![plain("integer")],
        Type::BigInt => vec![plain("bigint")],
        Type::UnsignedSmallInt => vec![unsigned(limited("integer", Some(2)))],
        Type::UnsignedInteger => vec![unsigned(plain("integer"))],
        Type::UnsignedBigInt => vec![unsigned(plain("bigint"))],
        Type::Real if database.is_mysql() => vec![plain("float")],
        Type::Real => vec![limited("float", Some(24))],
        Type::Double if database.is_mysql() => vec![limited("float", Some(53))],
        Type::Double => vec![plain("float")],
        Type::Numeric { .. } => {
            let parameters = ty.parameters();
            let (precision, scale) = (parameters.precision, parameters.scale);
            vec![("decimal", Sized { precision, scale, ..Sized::default() })]
        }
        Type::Varchar(length) => {
            let silent = database.is_mysql() && *length == Some(255);
            vec![limited("string", length.filter(|_| !silent))]
        }
        Type::Text => {
            let sizes = ["tiny", "medium", "long"].map(|size| sized("text", size));
            std::iter::once(plain("text")).chain(sizes).collect()
        }
        Type::Binary(length) => {
            let sizes = ["tiny", "medium", "long"].map(|size| sized("binary", size));
            std::iter::once(limited("binary", *length)).chain(sizes).collect()
        }
        Type::Date => vec![plain("date")],
        Type::Time { .. } => vec![precise("time", ty.parameters().precision)],
        Type::Timestamp { zoned: false, precision } => vec![precise("datetime", *precision)],
        Type::Timestamp { zoned: true, precision } if database.is_mysql() => {
            vec![precise("timestamp", *precision)]
        }
        Type::Timestamp { zoned: true, .. } => vec![plain("timestamptz")],
        Type::Uuid => vec![plain("uuid")],
        _ => METHODS.iter().copied().map(plain).collect(),
    }
}

/// Methods of types that have neither length nor digits.
const METHODS: &[&str] = &[
    "json",
    "jsonb",
    "citext",
    "inet",
    "int4range",
    "int8range",
    "numrange",
    "daterange",
    "tstzrange",
    "tsvector",
    "interval",
    "tsrange",
    "hstore",
    "ltree",
    "xml",
    "money",
    "cidr",
    "macaddr",
    "point",
    "line",
    "lseg",
    "box",
    "path",
    "polygon",
    "circle",
    "oid",
];

/// The method that makes a type on a server, with its options; the type's own text where none does.
fn of_type(field: &Field, text: &str, target: Target) -> Column {
    let database = target.database;
    let server = database.server();
    let read = |text: &str| server.read_type(text, &|_| false);
    let wanted = read(text);
    let by_text = database == Database::Sqlite
        || database.is_mysql() && matches!(field.r#type, Type::Text | Type::Binary(_));
    let makes = |(method, sized): &Candidate| {
        types::is_method(method, database)
            && types::text(method, sized, database).is_some_and(|made| match by_text {
                true => made.eq_ignore_ascii_case(text),
                false => read(&made) == wanted,
            })
    };
    match candidates(&field.r#type, database).into_iter().find(makes) {
        Some((method, sized)) => {
            let options = options(method, &sized, target.bracket);
            Column { method: method.into(), beside: None, options }
        }
        None => {
            Column { method: "column".into(), beside: Some(ruby::text(text)), options: Vec::new() }
        }
    }
}

/// The options that choose a type.
fn options(method: &str, sized: &Sized, bracket: Bracket) -> Vec<String> {
    let mut options = Vec::new();
    let number = |name: &str, number: Option<u32>| number.map(|number| format!("{name}: {number}"));
    options.extend(number("limit", sized.limit));
    match (method, sized.precision) {
        ("datetime", digits) if digits == bracket.digits_of_datetime() => {}
        ("datetime", None) => options.push("precision: nil".into()),
        (_, precision) => options.extend(number("precision", precision)),
    }
    options.extend(number("scale", sized.scale));
    options.extend(sized.size.as_ref().map(|size| format!("size: :{size}")));
    options.extend(sized.unsigned.then(|| "unsigned: true".to_owned()));
    options
}

/// The type of a column alone.
pub(super) fn typed(field: &Field, schema: &Schema, target: Target) -> Column {
    let database = target.database;
    // The counter of a key is said by the key.
    let plain = Field { identity: None, ..field.clone() };
    let text = sql::type_of(&plain, schema, database);
    if let (Type::Enum(name), false) = (&field.r#type, database.is_mysql()) {
        let known = schema.enumeration(name);
        let stored = known.and_then(|known| known.stored_name.clone());
        let name = stored.unwrap_or_else(|| name.clone());
        if database == Database::PostgreSql {
            let options = vec![format!("enum_type: {}", ruby::symbol(&name))];
            return Column { method: "enum".into(), beside: None, options };
        }
    }
    if let Type::Array(element) = &field.r#type
        && enum_name(element).is_none()
    {
        let element = Field { r#type: (**element).clone(), ..plain };
        let mut column = typed(&element, schema, target);
        column.options.push("array: true".into());
        return column;
    }
    of_type(field, &text, target)
}

/// A column with all that is said of it.
pub(super) fn column(field: &Field, schema: &Schema, target: Target) -> Column {
    let database = target.database;
    let mut column = typed(field, schema, target);
    if let Some(generated) = &field.generated {
        let of = column.beside.take().unwrap_or_else(|| ruby::symbol(&column.method));
        let expression = generated.expression.text_for(database);
        let mut options = vec![format!("type: {of}"), format!("as: {}", ruby::text(&expression))];
        options.push(format!("stored: {}", generated.stored));
        options.append(&mut column.options);
        column = Column { method: "virtual".into(), beside: None, options };
    }
    column.options.extend(said(field, schema, database));
    column
}

/// What is said of a column beside its type.
pub(super) fn said(field: &Field, schema: &Schema, database: Database) -> Vec<String> {
    let mut options = Vec::new();
    if !field.nullable {
        options.push("null: false".to_owned());
    }
    if let Some(value) = &field.defaults.database {
        options.push(format!("default: {}", default(field, value, schema, database)));
    }
    if let Some(collation) = &field.collation {
        options.push(format!("collation: {}", ruby::text(collation)));
    }
    if let Some(comment) = field.comment.as_ref().filter(|_| database != Database::Sqlite) {
        options.push(format!("comment: {}", ruby::text(comment)));
    }
    options
}

/// A default: a constant, or SQL in a block.
fn default(field: &Field, value: &Default_, schema: &Schema, database: Database) -> String {
    let long = matches!(field.r#type, Type::Text | Type::CaseFoldedText | Type::Binary(None))
        || field.r#type.is_json();
    let as_sql = database.server().statements.long_defaults_as_expressions && long;
    let is_decimal = matches!(field.r#type, Type::Numeric { .. });
    match value {
        Default_::Literal(Value::String(digits)) if is_decimal => {
            ruby::text(&plain_decimal(digits).unwrap_or_else(|| digits.clone()))
        }
        Default_::Literal(constant) if !as_sql => ruby::literal(constant),
        value => {
            let mut text = sql::default_of(field, value, schema, database);
            if field.on_update.database.is_some() {
                text.push_str(&format!(" ON UPDATE {text}"));
            }
            format!("-> {{ {} }}", ruby::text(&text))
        }
    }
}
