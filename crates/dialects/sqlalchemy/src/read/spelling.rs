//! Types as they are written, to spellings.

use serde_json::{Map, Value, json};

use super::{FilePart, Reader, last, word};
use crate::codes;
use crate::declaration::Spelling;
use crate::diagnostic::Diagnostic;
use crate::dialect::naming::Case;
use crate::host::arguments::Arguments;
use crate::host::evaluate::{Scope, constant, is_enumeration};
use crate::host::outline::{Call, Class, Expr, ExprKind};
use crate::host::project::Found;
use crate::schema::{Database, EnumMember, EnumType};
use crate::source::Span;
use crate::types::{NATIVE, SYNONYMS, inferred, of_release};

/// A type with what it says beyond the type itself.
#[derive(Clone, Debug, Default)]
pub(super) struct Read {
    pub(super) spelling: Spelling,
    /// Values that the application restricts the column to.
    pub(super) choices: Option<String>,
    /// The same, checked by the database: the name of the check.
    pub(super) checked: Option<Option<String>>,
    pub(super) collation: Option<String>,
    /// Arguments that say nothing of the column.
    pub(super) options: Map<String, Value>,
}

impl Read {
    fn word(word: &str) -> Self {
        Read { spelling: Spelling::word(word), ..Read::default() }
    }
}

/// Where a type stands.
pub(super) struct Site<'s, 'p> {
    pub(super) reader: &'s Reader<'p>,
    pub(super) scope: Scope<'p>,
    /// Class and attribute, for names of lists in place.
    pub(super) class: &'s str,
    pub(super) attribute: &'s str,
    pub(super) part: &'s mut FilePart,
}

/// Steps from a type to the one behind it.
const DEEPEST: u32 = 16;

/// Arguments of types by their places.
fn places(word: &str) -> &'static [&'static str] {
    match word {
        "Numeric" | "DECIMAL" | "NUMERIC" => &["precision", "scale", "asdecimal"],
        "Float" | "FLOAT" | "Double" | "DOUBLE" => &["precision", "asdecimal"],
        "DateTime" | "TIMESTAMP" | "DATETIME" | "Time" | "TIME" => &["timezone"],
        "JSON" | "JSONB" => &["none_as_null"],
        "Boolean" | "Uuid" | "UUID" | "Interval" | "PickleType" => &[],
        "ARRAY" => &["item_type", "as_tuple", "dimensions"],
        _ => &["length", "collation"],
    }
}

impl<'p> Site<'_, 'p> {
    fn database(&self) -> Database {
        self.reader.project.database
    }

    /// A type as an expression gives it; `None` where it is none.
    pub(super) fn read(&mut self, expr: &Expr) -> Option<Read> {
        self.read_at(expr, self.scope, 0)
    }

    fn read_at(&mut self, expr: &Expr, scope: Scope<'p>, depth: u32) -> Option<Read> {
        if depth > DEEPEST {
            return None;
        }
        if let Some(name) = expr.name() {
            return match scope.lookup(name) {
                Found::Class(file, class) => {
                    self.of_class(Scope { file, class: Some(class), ..scope }, class, None, depth)
                }
                Found::Value(file, value) => {
                    self.read_at(value, Scope { file, class: None, ..scope }, depth + 1)
                }
                Found::External(path) => self.known(last(&path), expr.span),
                _ => self.known(last(name), expr.span),
            };
        }
        let call = expr.call()?;
        match &call.callee.kind {
            ExprKind::Operation { operator, operands } if operator == ".with_variant" => {
                return self.variant(call, operands.first()?, scope, depth);
            }
            ExprKind::Name(name) if last(name) == "as_mutable" => {
                return self.read_at(call.arguments.first()?, scope, depth + 1);
            }
            _ => {}
        }
        if let Found::Class(file, class) = scope.lookup(call.callee_name()) {
            return self.of_class(
                Scope { file, class: Some(class), ..scope },
                class,
                Some((call, scope)),
                depth,
            );
        }
        let word = word(&scope, call);
        match word.as_str() {
            "Enum" | "ENUM" => self.enumeration(call, scope),
            "ARRAY" => self.array(call, scope, depth),
            _ => self.with_arguments(&word, call, scope, expr.span),
        }
    }

    /// The variant for this server, or else the type itself.
    fn variant(&mut self, call: &Call, base: &Expr, scope: Scope<'p>, depth: u32) -> Option<Read> {
        let names = call.arguments.iter().skip(1).map(|name| scope.value(name));
        let here = |name: &str| {
            name == self.database().id()
                || (name == "mysql" && self.database() == Database::MariaDb)
        };
        if names.filter_map(|name| name.text().map(str::to_owned)).any(|name| here(&name)) {
            return self.read_at(call.arguments.first()?, scope, depth + 1);
        }
        self.read_at(base, scope, depth + 1)
    }

    /// A type of the project's own: the one that it decorates, with the arguments given to it.
    fn of_class(
        &mut self,
        own: Scope<'p>,
        class: &'p Class,
        call: Option<(&Call, Scope<'p>)>,
        depth: u32,
    ) -> Option<Read> {
        if is_enumeration(class) {
            return None;
        }
        let by_server = class.methods.iter().find(|method| method.name == "load_dialect_impl");
        if let Some(method) = by_server {
            let described = method
                .returns
                .as_ref()
                .and_then(Expr::call)
                .filter(|call| last(call.callee_name()) == "type_descriptor");
            if let Some(ty) = described.and_then(|call| call.arguments.first()) {
                return self.read_at(ty, Scope { class: None, ..own }, depth + 1);
            }
            self.decided_at_run_time(class, method.span);
        }
        if let Some(implementation) = class.member("impl").and_then(|member| member.value.as_ref())
        {
            let bare = implementation.name().map(|name| last(&own.path(name)).to_owned());
            return match (call, bare) {
                (Some((call, scope)), Some(word)) if !call.arguments.is_empty() => {
                    self.with_arguments(&word, call, scope, call.callee.span)
                }
                _ => self.read_at(implementation, Scope { class: None, ..own }, depth + 1),
            };
        }
        for base in class.bases.iter().filter_map(Expr::name) {
            match own.lookup(base) {
                Found::Class(file, parent) => {
                    if let Some(read) = self.of_class(
                        Scope { file, class: Some(parent), ..own },
                        parent,
                        call,
                        depth + 1,
                    ) {
                        return Some(read);
                    }
                }
                Found::External(path) if self.is_known(last(&path)) => {
                    let word = last(&path).to_owned();
                    return match call {
                        Some((call, scope)) => {
                            self.with_arguments(&word, call, scope, call.callee.span)
                        }
                        None => Some(Read::word(self.canonical(&word)?)),
                    };
                }
                _ => {}
            }
        }
        let written = class
            .methods
            .iter()
            .find(|method| method.name == "get_col_spec")
            .and_then(|method| method.returns.as_ref());
        written.and_then(|text| own.value(text).text().map(Read::word))
    }

    fn decided_at_run_time(&mut self, class: &Class, span: Span) {
        let message = format!(
            "what `{}` of `{}.{}` stores is decided at run time: it is taken to be what it \
             decorates",
            class.name, self.class, self.attribute
        );
        let known =
            self.part.diagnostics.iter().any(|known| {
                known.code == "type-by-server" && known.message.contains(&*class.name)
            });
        if !known {
            let diagnostic =
                Diagnostic::of(&codes::TYPE_BY_SERVER, message).at(Some(span), "this method");
            self.part.diagnostics.push(
                diagnostic
                    .with_help("compare with the live database: `compare` tells what it holds"),
            );
        }
    }

    fn is_known(&self, word: &str) -> bool {
        self.canonical(word).is_some()
    }

    /// The table's word for a type, if it has one here.
    fn canonical<'w>(&self, word: &'w str) -> Option<&'w str> {
        let rows = of_release(&self.reader.known.release, self.database());
        let mut word = word;
        for _ in 0..3 {
            if rows.iter().any(|row| row.word == word)
                || NATIVE.iter().any(|(known, _)| *known == word)
            {
                return Some(word);
            }
            word = SYNONYMS.iter().find(|(known, _)| *known == word)?.1;
        }
        None
    }

    fn known(&mut self, word: &str, span: Span) -> Option<Read> {
        if word == "Enum" {
            return None;
        }
        match self.canonical(word) {
            Some(known) => Some(Read::word(known)),
            None => self.unknown(word, span),
        }
    }

    fn unknown(&mut self, word: &str, span: Span) -> Option<Read> {
        let message = format!(
            "the type `{word}` of `{}.{}` is declared in another package: nobody here knows \
             what it stores",
            self.class, self.attribute
        );
        self.part.diagnostics.push(
            Diagnostic::of(&codes::UNKNOWN_TYPE, message)
                .at(Some(span), "this type")
                .with_help("name the folder of the installed package with --follow"),
        );
        Some(Read::word(word))
    }

    fn with_arguments(
        &mut self,
        word: &str,
        call: &Call,
        scope: Scope<'p>,
        span: Span,
    ) -> Option<Read> {
        let mut arguments = Arguments::of_call(scope, &call.arguments, places(word), &call.named);
        let zoned = arguments.take_bool("timezone") == Some(true);
        let unsigned = arguments.take_bool("unsigned") == Some(true);
        let precision = arguments.take_number("precision").or_else(|| arguments.take_number("fsp"));
        let mut full = match (zoned, unsigned) {
            (true, _) => format!("{word}(timezone=True)"),
            (_, true) => format!("{word}(unsigned=True)"),
            _ => word.to_owned(),
        };
        if matches!(word, "Uuid" | "UUID")
            && arguments.take_bool("native_uuid") == Some(false)
            && self.database() == Database::PostgreSql
        {
            full = "CHAR".into();
            return Some(Read {
                spelling: Spelling { length: Some(32), ..Spelling::word(full) },
                ..Read::default()
            });
        }
        // PostgreSQL keeps up to 24 binary digits in four bytes (documentation, section 8.1.3).
        let single = matches!(word, "Float" | "FLOAT")
            && precision.is_some_and(|digits| digits <= 24)
            && self.database() == Database::PostgreSql;
        if single {
            full = "REAL".into();
        }
        let exact = matches!(word, "TIMESTAMP" | "TIME" | "DATETIME") && precision.is_some();
        let known = if exact { Some(full.as_str()) } else { self.canonical(&full) };
        let Some(known) = known else { return self.unknown(word, span) };
        let mut read = Read::word(known);
        let floating = matches!(word, "Float" | "FLOAT" | "Double" | "DOUBLE" | "REAL");
        read.spelling.precision = precision.filter(|_| !floating);
        read.spelling.scale = arguments.take_number("scale");
        let text = matches!(known, "String" | "CHAR" | "NVARCHAR");
        read.spelling.length = arguments.take_number("length").filter(|_| text);
        read.collation = arguments.take_text("collation");
        if known == "Uuid" && arguments.take_bool("as_uuid") == Some(false) {
            // Texts in the code; the database is told the same.
            read.options.insert("as_uuid".into(), Value::Bool(false));
        }
        read.options.extend(arguments.into_extras());
        Some(read)
    }

    fn array(&mut self, call: &Call, scope: Scope<'p>, depth: u32) -> Option<Read> {
        let mut arguments =
            Arguments::of_call(scope, &call.arguments, places("ARRAY"), &call.named);
        let element = arguments.take_raw("item_type")?;
        let inner = self.read_at(&element, scope, depth + 1)?;
        let spelling =
            Spelling { element: Some(Box::new(inner.spelling)), ..Spelling::word("ARRAY") };
        Some(Read {
            spelling,
            options: arguments.into_extras().into_iter().collect(),
            ..Read::default()
        })
    }

    /// `Enum(Class)` or `Enum("a", "b")`: a type of the database where there is one, else a bounded
    /// text.
    fn enumeration(&mut self, call: &Call, scope: Scope<'p>) -> Option<Read> {
        let mut arguments = Arguments::of_call(scope, &[], &[], &call.named);
        let stored_name = arguments.take_text("name");
        let native = arguments.take_bool("native_enum") != Some(false)
            && self.database() != Database::Sqlite;
        let length = arguments.take_number("length");
        let checked = arguments.take_bool("create_constraint") == Some(true) && !native;
        let by_value = arguments
            .take_raw("values_callable")
            .is_some_and(|callable| callable.kind != ExprKind::Null);
        let first = call.arguments.first()?;
        let class = first.name().map(|name| scope.lookup(name));
        let enumeration = match class {
            Some(Found::Class(file, class)) if is_enumeration(class) => self.of_enumeration(
                Scope { file, class: Some(class), ..scope },
                class,
                by_value,
                native.then(|| stored_name.clone()).flatten(),
            ),
            _ => {
                let items = Arguments::of_call(scope, &call.arguments, &[], &[]).into_extras();
                let spread = scope.value(first);
                let values: Vec<Value> = match spread.list() {
                    Some(items) => items.iter().filter_map(constant).collect(),
                    None => (1..=items.len())
                        .filter_map(|at| items.get(&format!("argument {at}")).cloned())
                        .collect(),
                };
                self.in_place(
                    values,
                    native.then(|| stored_name.clone()).flatten(),
                    call.callee.span,
                )
            }
        };
        self.used(enumeration, native, length, checked.then_some(stored_name), arguments)
    }

    /// `Mapped[Status]` alone, and `Mapped[Literal["a", "b"]]`.
    fn inferred_enumeration(&mut self, scope: Scope<'p>, class: &'p Class) -> Option<Read> {
        let native = self.database() != Database::Sqlite;
        let enumeration = self.of_enumeration(scope, class, false, None);
        self.used(enumeration, native, None, None, Arguments::of_call(scope, &[], &[], &[]))
    }

    fn used(
        &mut self,
        enumeration: EnumType,
        native: bool,
        length: Option<u32>,
        checked: Option<Option<String>>,
        arguments: Arguments<'p>,
    ) -> Option<Read> {
        let longest = enumeration
            .members
            .iter()
            .filter_map(|member| member.value.as_str())
            .map(|text| text.chars().count())
            .max();
        let name = enumeration.name.clone();
        self.part.enums.push(enumeration);
        let mut read = Read {
            checked,
            options: arguments.into_extras().into_iter().collect(),
            ..Read::default()
        };
        if native {
            read.spelling = Spelling { enumeration: Some(name), ..Spelling::word("enum") };
        } else {
            read.spelling = Spelling {
                length: length.or(longest.map(|longest| longest as u32)),
                ..Spelling::word("String")
            };
            read.choices = Some(name);
        }
        Some(read)
    }

    fn of_enumeration(
        &self,
        scope: Scope<'p>,
        class: &'p Class,
        by_value: bool,
        stored_name: Option<String>,
    ) -> EnumType {
        let member = |name: &str, value: &Expr| {
            let value = constant(&scope.value(value));
            match (by_value, value) {
                (true, Some(value)) => {
                    EnumMember { name: name.into(), value, ..EnumMember::default() }
                }
                (_, value) => EnumMember {
                    name: name.into(),
                    value: name.into(),
                    label: None,
                    in_code: value.filter(|value| *value != json!(name)),
                },
            }
        };
        let members = class.members.iter().filter(|one| !one.name.starts_with('_'));
        EnumType {
            name: class.name.to_string(),
            stored_name: stored_name.filter(|name| *name != class.name.to_lowercase()),
            members: members
                .filter_map(|one| Some(member(&one.name, one.value.as_ref()?)))
                .collect(),
            module: self.reader.module(scope.file).to_owned(),
            inline: false,
            origin: self.reader.origin(class.span),
        }
    }

    fn in_place(&self, values: Vec<Value>, stored_name: Option<String>, span: Span) -> EnumType {
        let name = format!("{}{}", self.class, Case::Pascal.apply(self.attribute));
        let member = |value: Value| EnumMember {
            name: value.as_str().map_or_else(|| value.to_string(), str::to_owned),
            value,
            ..EnumMember::default()
        };
        EnumType {
            stored_name: stored_name.filter(|stored| *stored != name.to_lowercase()),
            name,
            members: values.into_iter().map(member).collect(),
            module: self.reader.module(self.scope.file).to_owned(),
            inline: true,
            origin: self.reader.origin(span),
        }
    }

    /// The type that an annotation means by itself.
    pub(super) fn inferred(&mut self, inner: &Expr) -> Option<Read> {
        if let ExprKind::Operation { operator, operands } = &inner.kind {
            let name = operands.first().and_then(Expr::name).map(last).unwrap_or_default();
            let items: Vec<Value> = operands
                .iter()
                .skip(1)
                .filter_map(|item| constant(&self.scope.value(item)))
                .collect();
            if let (Some((file, value)), "[]") =
                (self.mapped_annotation(inner, name), operator.as_str())
            {
                return self.read_at(&value, Scope { file, class: None, ..self.scope }, 0);
            }
            if operator == "[]" && name == "Literal" && !items.is_empty() {
                let enumeration = self.in_place(items, None, inner.span);
                return self.used(
                    enumeration,
                    false,
                    None,
                    None,
                    Arguments::of_call(self.scope, &[], &[], &[]),
                );
            }
            return None;
        }
        let name = inner.name()?;
        if let Some((file, value)) = self.mapped_annotation(inner, last(name)) {
            return self.read_at(&value, Scope { file, class: None, ..self.scope }, 0);
        }
        let bare = match self.scope.lookup(name) {
            Found::Class(file, class) if is_enumeration(class) => {
                return self
                    .inferred_enumeration(Scope { file, class: Some(class), ..self.scope }, class);
            }
            Found::Class(_, _) | Found::Value(_, _) | Found::Function(_, _) | Found::Module(_) => {
                return None;
            }
            Found::External(path) => last(&path).to_owned(),
            Found::Unknown => last(name).to_owned(),
        };
        inferred(&self.reader.known.release, &bare).map(Read::word)
    }

    /// What the project's own map makes of an annotation.
    fn mapped_annotation(&self, inner: &Expr, name: &str) -> Option<(crate::source::FileId, Expr)> {
        let text = self.scope.project.sources.text(inner.span);
        let known = self
            .reader
            .known
            .annotations
            .iter()
            .find(|(known, _, _)| known == name || known == text)?;
        Some((known.1, known.2.clone()))
    }
}

impl<'p> Reader<'p> {
    /// Whether an annotation means a type by itself.
    pub(super) fn means_type(&self, scope: Scope<'p>, inner: &Expr) -> bool {
        // What is found out on the way is thrown away.
        let mut part = FilePart::default();
        let mut site = Site { reader: self, scope, class: "", attribute: "", part: &mut part };
        if let Some(Found::Value(file, value)) = inner.name().map(|name| scope.lookup(name)) {
            let unwrapped = super::annotation::read(value).map(|annotation| annotation.inner);
            return unwrapped.is_some_and(|inner| {
                inner.name().is_none()
                    && self.means_type(Scope { file, class: None, ..scope }, &inner)
            });
        }
        let annotated = matches!(&inner.kind, ExprKind::Operation { operands, .. }
            if operands.first().and_then(Expr::name).map(last) == Some("Annotated"));
        annotated || site.inferred(inner).is_some()
    }
}

/// Options of a type, as extras keep them.
pub(super) fn options_as_extra(read: &Read) -> Option<Value> {
    (!read.options.is_empty()).then(|| Value::Object(read.options.clone()))
}
