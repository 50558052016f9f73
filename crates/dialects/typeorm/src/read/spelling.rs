//! A column's type: the word with its options, and the values of an enumeration; beside a property
//! or in an object.

use serde_json::Value;

use super::{FilePart, Reader};
use crate::codes;
use crate::declaration::{CheckDeclaration, FieldDeclaration, Spelling};
use crate::diagnostic::Diagnostic;
use crate::dialect::naming::Case;
use crate::host::arguments::Arguments;
use crate::host::evaluate::{Scope, constant};
use crate::host::outline::{Class, Expr, ExprKind};
use crate::host::project::Found;
use crate::schema::expression::Tree;
use crate::schema::{Database, EnumMember, EnumType, Expression, Purpose};
use crate::source::Span;
use crate::types;

/// Where a column is declared, and where what is found of it goes.
pub(super) struct Site<'r, 'p> {
    pub(super) reader: &'r Reader<'p>,
    pub(super) scope: Scope<'p>,
    pub(super) class: &'r str,
    pub(super) attribute: &'r str,
    pub(super) span: Span,
    pub(super) part: &'r mut FilePart,
    /// Checks that a type brings along.
    pub(super) checks: &'r mut Vec<CheckDeclaration>,
}

impl<'p> Site<'_, 'p> {
    /// The type that a word with its options means.
    pub(super) fn spelling(
        &mut self,
        word: String,
        purpose: Option<Purpose>,
        declared: &mut FieldDeclaration,
        options: &mut Arguments<'_>,
    ) -> Spelling {
        let word = self.supported(signed(word, options, self.reader.database()));
        // A time that the framework keeps has digits of its own.
        let kept = self
            .reader
            .known
            .conventions
            .times
            .kept_digits
            .filter(|_| purpose.is_some_and(Purpose::is_time));
        let mut spelling = Spelling {
            length: options.take_number("length"),
            precision: options.take_number("precision").or(kept),
            scale: options.take_number("scale"),
            ..Spelling::word(word)
        };
        if !matches!(spelling.word.as_str(), "enum" | "simple-enum") {
            // A type without a neutral name has its length in its name.
            if let (false, Some(length)) =
                (types::is_named(&spelling.word, self.reader.database()), spelling.length)
            {
                spelling = Spelling::word(format!(
                    "{}({length})",
                    if spelling.word == "varbit" { "bit varying" } else { &spelling.word }
                ));
            }
            return spelling;
        }
        let enumeration = options
            .take_raw("enum")
            .and_then(|value| self.enumeration(&value, options.take_text("enumName")));
        match (enumeration, self.reader.database()) {
            (Some(name), Database::Sqlite) => {
                spelling = Spelling::word("varchar");
                self.check_values(&name, declared);
                declared.choices = Some(name);
            }
            (Some(name), _) => {
                spelling.word = "enum".into();
                spelling.enumeration = Some(name);
            }
            (None, _) => {
                self.unknown_type("the values of its enumeration are known only at run time")
            }
        }
        spelling
    }

    /// A word that the server's driver takes; one that it refuses is named, and taken for what it
    /// means elsewhere.
    fn supported(&mut self, word: String) -> String {
        let database = self.reader.database();
        if types::is_supported(&word, database) {
            return word;
        }
        let elsewhere = types::elsewhere(&word, database);
        let help = elsewhere.map_or("write a type that this server has".into(), |other| {
            format!("write `{other}`, as which it is read here")
        });
        let message = format!(
            "TypeORM refuses `{word}` for `{}.{}` on {}",
            self.class,
            self.attribute,
            database.title()
        );
        self.part.diagnostics.push(
            Diagnostic::of(&codes::UNSUPPORTED_TYPE, message)
                .at(Some(self.span), "its type")
                .with_help(help),
        );
        elsewhere.map_or(word, str::to_owned)
    }

    /// On SQLite an enumeration is text with a check of its values.
    fn check_values(&mut self, name: &str, declared: &FieldDeclaration) {
        let listed = self.part.enums.iter().find(|enumeration| enumeration.name == name).cloned();
        let known = listed.or_else(|| match self.scope.lookup(name) {
            Found::Class(file, class) => self.reader.enumeration(file, class),
            _ => None,
        });
        let column = declared.column.clone().unwrap_or_else(|| {
            self.reader.known.conventions.names.column.apply(&[("attribute", self.attribute)])
        });
        let list = known
            .into_iter()
            .flat_map(|enumeration| enumeration.members)
            .map(|member| Tree::Literal(member.value))
            .collect();
        let expression = Expression::sql(Tree::In { item: Box::new(Tree::Column(column)), list });
        self.checks.push(CheckDeclaration {
            name: None,
            expression,
            extras: Default::default(),
            span: Some(self.span),
        });
    }

    pub(super) fn unknown_type(&mut self, reason: &str) {
        let message = format!("`{}.{}` has no column type: {reason}", self.class, self.attribute);
        self.part.diagnostics.push(
            Diagnostic::of(&codes::UNKNOWN_COLUMN_TYPE, message)
                .at(Some(self.span), "this column is left out")
                .with_help("write the type: `@Column({ type: \"varchar\" })`"),
        );
    }

    /// The enumeration behind `enum:`: an `enum`, an object of constants, or a list (named after
    /// class and property).
    pub(super) fn enumeration(
        &mut self,
        expr: &Expr,
        stored_name: Option<String>,
    ) -> Option<String> {
        if let Some(name) = expr.name()
            && let Found::Class(_, class) = self.scope.lookup(name)
        {
            if stored_name.is_some() {
                self.name_enumeration(class, stored_name);
            }
            return Some(class.name.to_string());
        }
        let value = self.scope.value(expr);
        let values: Vec<Value> = match &value.kind {
            ExprKind::List(items) => items.iter().map(constant).collect::<Option<_>>()?,
            ExprKind::Map(pairs) => {
                pairs.iter().map(|(_, value)| constant(value)).collect::<Option<_>>()?
            }
            _ => return None,
        };
        let name = format!("{}{}", self.class, Case::Pascal.apply(self.attribute));
        let member = |value: Value| EnumMember {
            name: value.as_str().map_or_else(|| value.to_string(), str::to_owned),
            value,
            ..EnumMember::default()
        };
        let module = self.reader.known.modules[self.scope.file.0 as usize].clone();
        let origin = self.reader.origin(expr.span);
        let members = values.into_iter().map(member).collect();
        self.part.enums.push(EnumType {
            name: name.clone(),
            stored_name,
            members,
            module,
            inline: true,
            origin,
        });
        Some(name)
    }

    /// `enumName:` names the type of an enumeration that its own file declares without one.
    fn name_enumeration(&mut self, class: &'p Class, stored_name: Option<String>) {
        let at = class.span.file;
        if let Some(enumeration) = self.reader.enumeration(at, class) {
            self.part.enums.insert(0, EnumType { stored_name, ..enumeration });
        }
    }
}

/// The word of a number, which may be unsigned on MariaDB and MySQL.
pub(super) fn signed(word: String, options: &mut Arguments<'_>, database: Database) -> String {
    let unsigned = database.is_mysql() && options.take_bool("unsigned") == Some(true);
    if unsigned { format!("{word} unsigned") } else { word }
}
