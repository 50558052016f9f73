//! `type`: a data type, a text that goes to the server as it is, or a list of values.

use super::{FilePart, Reader};
use crate::codes;
use crate::declaration::Spelling;
use crate::diagnostic::Diagnostic;
use crate::dialect::naming::Case;
use crate::dialect::type_table::row;
use crate::host::outline::{Expr, ExprKind};
use crate::host::typescript::choices::{Choices, choices};
use crate::host::typescript::place::{Place, last_name};
use crate::schema::{Database, EnumType, Type};
use crate::source::Span;
use crate::types;

/// What a `type` says.
pub(super) enum FoundType {
    Type(Spelling),
    /// Values that the application alone restricts a text to.
    Choices(Spelling, String),
    Virtual,
    Unknown,
}

/// The attribute whose type is read.
pub(super) struct Site<'r, 'p> {
    pub(super) reader: &'r Reader<'p>,
    pub(super) place: &'r Place<'p>,
    pub(super) class: &'r str,
    pub(super) attribute: &'r str,
    pub(super) span: Span,
    pub(super) part: &'r mut FilePart,
}

impl Site<'_, '_> {
    pub(super) fn unknown_type(&mut self, reason: &str) {
        let message = format!("`{}.{}` has no column type: {reason}", self.class, self.attribute);
        let help = "write it (`type: DataTypes.STRING(40)`), or say under `project.environment` \
                    of sprachbund.toml what it depends on";
        let diagnostic = Diagnostic::of(&codes::UNKNOWN_COLUMN_TYPE, message);
        self.part
            .diagnostics
            .push(diagnostic.at(Some(self.span), "its type is not known").with_help(help));
    }

    fn database(&self) -> Database {
        self.reader.conventions.database
    }
}

/// Reads a type; `values` are those of an enumeration that are said beside it.
pub(super) fn read(site: &mut Site<'_, '_>, written: &Expr, values: Option<&Expr>) -> FoundType {
    let ty = site.place.value(written);
    if let ExprKind::Text(text) = &ty.kind {
        return FoundType::Type(raw(text, site.database()));
    }
    let (callee, arguments) = match ty.call() {
        Some(call) => (&call.callee, call.arguments.as_slice()),
        None => (&ty, &[][..]),
    };
    let path = match (&callee.kind, last_name(callee)) {
        (ExprKind::Name(path), _) => path.trim_start_matches("new ").to_owned(),
        // A type with a word more: `DataTypes.STRING(24).BINARY`.
        (ExprKind::Operation { operands, .. }, Some(more))
            if operands.first().and_then(Expr::call).is_some() =>
        {
            let inner = operands[0].call().map_or("", |call| call.callee_name());
            format!("{inner}.{more}")
        }
        (_, word) => word.unwrap_or_default().to_owned(),
    };
    let words: Vec<&str> = path.split('.').collect();
    let known = |word: &&&str| {
        word.len() > 2
            && word.chars().all(|letter| letter.is_ascii_uppercase() || letter.is_ascii_digit())
    };
    let Some(word) = words.iter().find(known) else {
        site.unknown_type("it is known only at run time");
        return FoundType::Unknown;
    };
    of_word(site, word, &words, arguments, (written, values))
}

fn of_word(
    site: &mut Site<'_, '_>,
    word: &str,
    words: &[&str],
    arguments: &[Expr],
    (written, values): (&Expr, Option<&Expr>),
) -> FoundType {
    let database = site.database();
    let number = |at: usize| arguments.get(at).and_then(Expr::number);
    let entry = |name: &str| {
        arguments.first().and_then(|argument| argument.entry(name)).and_then(Expr::number)
    };
    let mut spelling = Spelling::word(word);
    match word {
        "VIRTUAL" => return FoundType::Virtual,
        "ENUM" => return of_values(site, arguments, (written, values)),
        "ARRAY" => {
            let Some(element) = arguments.first() else {
                site.unknown_type("the array has no type of its elements");
                return FoundType::Unknown;
            };
            let inner = match written.call().and_then(|call| call.arguments.first()) {
                Some(inner) => read(site, inner, None),
                None => read(site, element, None),
            };
            return match inner {
                FoundType::Type(element) => {
                    FoundType::Type(Spelling { element: Some(Box::new(element)), ..spelling })
                }
                other => other,
            };
        }
        "RANGE" => {
            let of = arguments.first().and_then(last_name).unwrap_or("INTEGER");
            spelling.word = format!("RANGE({of})");
        }
        "STRING"
            if words.contains(&"BINARY")
                || arguments.get(1).and_then(Expr::boolean) == Some(true) =>
        {
            spelling.word = "BLOB".into()
        }
        "STRING" | "CHAR" => {
            spelling.length = number(0)
                .or_else(|| entry("length"))
                .filter(|length| Some(*length) != silent_length(word, database));
        }
        "DECIMAL" | "NUMERIC" => {
            spelling.word = "DECIMAL".into();
            spelling.precision = number(0).or_else(|| entry("precision"));
            spelling.scale = number(1).or_else(|| entry("scale"));
        }
        // The server takes so many binary digits for a number of single precision.
        "FLOAT" if database == Database::PostgreSql => {
            spelling.word =
                if number(0).is_some_and(|digits| digits <= 24) { "REAL" } else { "DOUBLE" }.into();
        }
        _ => {}
    }
    let natives = types::NATIVE.iter().any(|(known, _)| *known == spelling.word);
    if row(types::table(database), &spelling.word, database).is_none() && !natives {
        let message = format!(
            "Sequelize cannot make the type `{word}` of `{}.{}` on {}",
            site.class,
            site.attribute,
            database.title()
        );
        site.part.diagnostics.push(
            Diagnostic::of(&codes::UNSUPPORTED_TYPE, message)
                .at(Some(site.span), "its type")
                .with_help("write a type that this server has"),
        );
    }
    // Words that mean the same as another one.
    spelling.word = match spelling.word.as_str() {
        "CITEXT" if database == Database::Sqlite => "TEXT".into(),
        other => other.to_owned(),
    };
    FoundType::Type(spelling)
}

fn silent_length(word: &str, database: Database) -> Option<u32> {
    row(types::table(database), word, database).and_then(|row| row.silent_length)
}

/// A text that goes to the server as it is: the data type that means the same, or the server's own
/// name.
fn raw(text: &str, database: Database) -> Spelling {
    let rows = types::table(database);
    if database == Database::Sqlite {
        let written = rows.iter().find(|row| {
            row.word.eq_ignore_ascii_case(text) && row.word.starts_with(char::is_lowercase)
        });
        return Spelling::word(written.map_or(text, |row| row.word));
    }
    let ty = database.server().read_type(text, &|_| false);
    if let Type::Array(element) = &ty {
        let element = Box::new(spelled(element, database));
        return Spelling { element: Some(element), ..Spelling::word("ARRAY") };
    }
    spelled(&ty, database)
}

fn spelled(ty: &Type, database: Database) -> Spelling {
    let mut rows = types::table(database).iter().filter(|row| row.written && !row.numbered);
    if let Some(spelling) = rows.find_map(|row| row.spell(ty)) {
        return spelling;
    }
    let name = ty.to_string();
    let name = if let Type::Native(name) = ty { name } else { &name };
    Spelling::word(
        types::NATIVE
            .iter()
            .find(|(_, native)| native == name)
            .map_or(name.as_str(), |(word, _)| word),
    )
}

/// `ENUM(...)`: a type of the database, or a text that the application restricts.
fn of_values(
    site: &mut Site<'_, '_>,
    arguments: &[Expr],
    (written, values): (&Expr, Option<&Expr>),
) -> FoundType {
    let given = |call: &Expr| call.call().map(|call| call.arguments.clone());
    // As written, a list may still name the enumeration that it comes from.
    let as_written = given(written).unwrap_or_else(|| arguments.to_vec());
    let list = match (as_written.as_slice(), values) {
        ([], Some(values)) => values.clone(),
        ([Expr { kind: ExprKind::Spread(inner), .. }], _) => {
            as_texts(inner).unwrap_or(inner).clone()
        }
        ([single], _) if single.text().is_none() => match single.entry("values") {
            Some(values) => values.clone(),
            None => single.clone(),
        },
        _ => Expr { kind: ExprKind::List(arguments.to_vec()), span: written.span },
    };
    let Some(name) = enumeration(site, &list) else {
        site.unknown_type("the values of its enumeration are known only at run time");
        return FoundType::Unknown;
    };
    match site.database() {
        Database::Sqlite => FoundType::Choices(Spelling::word("TEXT"), name),
        _ => FoundType::Type(Spelling { enumeration: Some(name), ..Spelling::word("enum") }),
    }
}

/// The list of `[...].map(String)`.
fn as_texts(expr: &Expr) -> Option<&Expr> {
    let call =
        expr.call().filter(|call| call.arguments.first().and_then(Expr::name) == Some("String"))?;
    match &call.callee.kind {
        ExprKind::Operation { operator, operands } if operator == ".map" => operands.first(),
        _ => None,
    }
}

/// The enumeration behind a list of values: an `enum` of the language, or one named after class and
/// attribute.
pub(super) fn enumeration(site: &mut Site<'_, '_>, list: &Expr) -> Option<String> {
    let values = match choices(site.place, list)? {
        Choices::Enumeration(name) => return Some(name),
        Choices::Values(values) => values,
    };
    let (module, origin) =
        (site.reader.module(site.place.file).to_owned(), site.reader.origin(list.span));
    let enumeration = EnumType::inline(
        format!("{}{}", site.class, Case::Pascal.apply(site.attribute)),
        module,
        values,
        origin,
    );
    site.part.enums.push(enumeration.clone());
    Some(enumeration.name)
}
