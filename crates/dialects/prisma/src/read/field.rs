//! One field to the declaration of its column.

use serde_json::json;

use super::block::constrain;
use super::known::{Block, element, is_list};
use super::{Reader, parts};
use crate::codes;
use crate::declaration::{
    FieldDeclaration, IndexDeclaration, IndexPartDeclaration, Model, Spelling,
};
use crate::diagnostic::Diagnostic;
use crate::dialect::type_table::{Takes, row};
use crate::host::outline::{Call, Expr, ExprKind, Member};
use crate::schema::{Database, Purpose};
use crate::types;

/// Scalars of the language.
const SCALARS: &[&str] =
    &["Boolean", "BigInt", "Bytes", "DateTime", "Decimal", "Float", "Int", "Json", "String"];

/// Numbers that the database's own types take.
const NATIVE_PLACES: &[&str] = &["length or digits", "digits after the point"];

impl Reader<'_> {
    /// The column of a field.
    pub(super) fn field(
        &self,
        model: &mut Model,
        member: &Member,
        found: &mut Vec<Diagnostic>,
    ) -> Option<FieldDeclaration> {
        let mut field = FieldDeclaration {
            name: Some(member.name.to_string()),
            span: Some(member.span),
            ..FieldDeclaration::default()
        };
        let spelling = self.spelling(model, member, found)?;
        match (&spelling.enumeration, self.known.conventions.database) {
            // SQLite has no enumeration types: the client restricts the text.
            (Some(name), Database::Sqlite) => {
                (field.choices, field.spelling) = (Some(name.clone()), Spelling::word("String"))
            }
            _ => field.spelling = spelling,
        }
        if is_list(member) {
            let element = std::mem::take(&mut field.spelling);
            field.spelling = Spelling {
                element: Some(Box::new(element)),
                ..Spelling::word(self.known.conventions.words.array)
            };
        } else if member.optional {
            field.nullable = Some(true);
        }
        if let Some(text) = &member.documentation {
            field.extras.insert("documentation".into(), text.as_str().into());
        }
        for attribute in &member.decorators {
            self.attribute(model, member, &mut field, attribute, found);
        }
        Some(field)
    }

    fn attribute(
        &self,
        model: &mut Model,
        member: &Member,
        field: &mut FieldDeclaration,
        attribute: &Expr,
        found: &mut Vec<Diagnostic>,
    ) {
        let (name, call) = parts(attribute);
        let mut arguments = match name {
            "map" => self.arguments(call, &["name"]),
            "default" => self.arguments(call, &["value"]),
            _ if name.contains('.') => self.arguments(call, NATIVE_PLACES),
            _ => self.arguments(call, &["map"]),
        };
        match name {
            "id" => {
                field.key = true;
                model.key_name = arguments.take_text("map").or(model.key_name.take());
            }
            "unique" if call.is_some() => {
                let descending =
                    arguments.take_raw("sort").is_some_and(|sort| sort.name() == Some("Desc"));
                let length = arguments
                    .take_number("length")
                    .map(|length| json!({ member.name.as_str(): length }));
                constrain(
                    model,
                    IndexDeclaration {
                        parts: vec![IndexPartDeclaration {
                            attribute: field.name.clone(),
                            descending,
                            ..IndexPartDeclaration::default()
                        }],
                        unique: true,
                        name: arguments.take_text("map"),
                        extras: length
                            .map(|length| ("length".to_owned(), length))
                            .into_iter()
                            .collect(),
                        span: Some(attribute.span),
                        ..IndexDeclaration::default()
                    },
                );
            }
            "unique" => field.unique = Some(true),
            "map" => field.column = arguments.take_text("name"),
            "updatedAt" => field.purpose = Some(Purpose::UpdateTime),
            "ignore" => {
                field.extras.insert("ignored".into(), true.into());
            }
            "default" => {
                if let Some(value) = arguments.take("value") {
                    self.default(field, &value, found);
                }
                arguments.take("map");
            }
            _ if name.contains('.') => {
                NATIVE_PLACES.iter().for_each(|place| drop(arguments.take(place)))
            }
            _ => {
                field
                    .extras
                    .insert(name.to_owned(), self.project.sources.text(attribute.span).into());
                return;
            }
        }
        found.extend(arguments.unread(&format!("`@{name}`"), attribute.span));
    }

    /// The type of a field, or of the items of its list.
    fn spelling(
        &self,
        model: &Model,
        member: &Member,
        found: &mut Vec<Diagnostic>,
    ) -> Option<Spelling> {
        let ty = element(member)?;
        if let Some(call) = ty.call().filter(|call| call.callee_name() == "Unsupported") {
            return Some(self.unsupported(call));
        }
        let scalar = ty.name().unwrap_or_default();
        if matches!(self.known.block(member), Some((_, Block::Enum))) {
            return Some(Spelling {
                enumeration: Some(scalar.to_owned()),
                ..Spelling::word("enum")
            });
        }
        if !SCALARS.contains(&scalar) {
            let message =
                format!("the type `{scalar}` of `{}.{}` is not declared", model.name, member.name);
            found.push(
                Diagnostic::of(&codes::UNKNOWN_TYPE, message)
                    .at(Some(ty.span), "no scalar, model or enumeration")
                    .because("the field is left out")
                    .with_help("add the file that declares it to the inputs"),
            );
            return None;
        }
        let native = member.decorators.iter().find_map(|attribute| {
            let (name, call) = parts(attribute);
            Some((name.split_once('.')?.1, call, attribute.span))
        });
        let Some((native, call, at)) = native else { return Some(Spelling::word(scalar)) };
        let words = format!("{scalar} @db.{native}");
        let numbers: Vec<String> =
            call.into_iter().flat_map(|call| &call.arguments).filter_map(text_of_number).collect();
        match self.native(&words, &numbers) {
            Some(spelling) => Some(spelling),
            None => {
                let database = self.known.conventions.database.title();
                let message = format!(
                    "`{words}` of `{}.{}` is no type of {database}",
                    model.name, member.name
                );
                found.push(
                    Diagnostic::of(&codes::UNKNOWN_TYPE, message)
                        .at(Some(at), "not known")
                        .because(format!("it is read as `{scalar}`")),
                );
                Some(Spelling::word(scalar))
            }
        }
    }

    /// A scalar with the database's own type.
    fn native(&self, words: &str, numbers: &[String]) -> Option<Spelling> {
        let conventions = &self.known.conventions;
        let Some(row) = row(conventions.words.types, words, conventions.database) else {
            return types::native_of(words, numbers, conventions.database).map(Spelling::word);
        };
        let number = |at: usize| numbers.get(at).and_then(|text| text.parse().ok());
        let mut spelling = Spelling::word(row.word);
        match row.takes {
            Takes::Nothing => {}
            Takes::Length => spelling.length = number(0),
            Takes::Fraction => spelling.precision = number(0),
            Takes::Digits | Takes::BothDigits => {
                (spelling.precision, spelling.scale) = (number(0), number(1))
            }
        }
        Some(spelling)
    }

    /// `Unsupported("...")`: a type of the database that the client does not read.
    fn unsupported(&self, call: &Call) -> Spelling {
        let native = call.arguments.first().and_then(Expr::text).unwrap_or_default();
        let words = format!("Unsupported({})", crate::literal::text(native));
        let known =
            row(self.known.conventions.words.types, &words, self.known.conventions.database);
        Spelling::word(known.map_or(native, |row| row.word))
    }
}

fn text_of_number(expr: &Expr) -> Option<String> {
    match &expr.kind {
        ExprKind::Number(text) => Some(text.to_string()),
        _ => None,
    }
}
