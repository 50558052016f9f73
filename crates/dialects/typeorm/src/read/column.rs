//! One decorated property to columns (or, by [`super::relation`], to a relation).

use serde_json::{Number, Value};

use super::spelling::{Site, signed};
use super::{FilePart, Reader, embedded_column, last, relation};
use crate::codes;
use crate::conventions::makes_generated;
use crate::decision::values::coerce;
use crate::declaration::{Attribute, CheckDeclaration, FieldDeclaration, Spelling};
use crate::diagnostic::Diagnostic;
use crate::dialect::Conventions;
use crate::dialect::naming::Case;
use crate::dialect::type_table;
use crate::host::arguments::Arguments;
use crate::host::evaluate::{Scope, constant};
use crate::host::outline::{Call, Class, ClassKind, Expr, ExprKind, Member};
use crate::host::project::Found;
use crate::host::typescript::value::made;
use crate::schema::{Database, Default_, Expression, Function, Generated, Identity, Purpose};
use crate::types;

/// Decorators that make a column, with what they say by themselves.
pub(crate) const COLUMN_DECORATORS: &[(&str, Option<Purpose>)] = &[
    ("Column", None),
    ("PrimaryColumn", None),
    ("PrimaryGeneratedColumn", None),
    ("CreateDateColumn", Some(Purpose::CreationTime)),
    ("UpdateDateColumn", Some(Purpose::UpdateTime)),
    ("DeleteDateColumn", Some(Purpose::DeletionTime)),
    ("VersionColumn", Some(Purpose::Version)),
    ("ViewColumn", None),
];

/// Reads the decorators of one property.
pub(super) struct MemberReader<'r, 'p> {
    pub(super) reader: &'r Reader<'p>,
    pub(super) scope: Scope<'p>,
    pub(super) class: &'p Class,
    pub(super) member: &'p Member,
    pub(super) part: &'r mut FilePart,
    /// Checks that the property's type brings along.
    pub(super) checks: &'r mut Vec<CheckDeclaration>,
}

impl<'p> MemberReader<'_, 'p> {
    /// The attributes of the property; several when it is embedded, none when no decorator makes a
    /// column.
    pub(super) fn read(&mut self) -> Option<Vec<Attribute>> {
        let calls: Vec<&Call> = self.member.decorators.iter().filter_map(Expr::call).collect();
        if let Some(relation) =
            calls.iter().find(|call| relation::KINDS.contains(&last(call.callee_name())))
        {
            return relation::read(self, relation, &calls);
        }
        let (call, purpose) = calls.iter().find_map(|call| {
            let (_, purpose) =
                COLUMN_DECORATORS.iter().find(|(word, _)| *word == last(call.callee_name()))?;
            Some((*call, *purpose))
        })?;
        if let Some(embedded) = self.embedded(call, &[]) {
            return Some(embedded);
        }
        let mut declared = self.column(call, purpose)?;
        let conventions = &self.reader.known.conventions;
        let mut made = last(call.callee_name()) == "PrimaryGeneratedColumn";
        if let Some(generated) = calls.iter().find(|call| last(call.callee_name()) == "Generated") {
            let strategy = generated.arguments.first().and_then(Expr::text).unwrap_or("increment");
            self::generated(strategy, conventions, &mut declared);
            made = strategy == "uuid";
        }
        plain_identifier(&mut declared, conventions, made);
        let vain = unmade_expression(&mut declared, conventions, &self.class.name);
        self.part.diagnostics.extend(vain);
        Some(vec![Attribute::Field(Box::new(declared))])
    }

    fn site(&mut self) -> Site<'_, 'p> {
        Site {
            reader: self.reader,
            scope: self.scope,
            class: &self.class.name,
            attribute: &self.member.name,
            span: self.member.span,
            part: self.part,
            checks: self.checks,
        }
    }

    fn column(&mut self, call: &Call, purpose: Option<Purpose>) -> Option<FieldDeclaration> {
        let word = last(call.callee_name());
        let mut options = super::trailing_options(self.scope, call);
        let first = call.arguments.first().map(|first| self.scope.value(first));
        let mut declared = FieldDeclaration {
            name: Some(self.member.name.to_string()),
            purpose,
            optional_in_code: Some(self.optional()),
            span: Some(self.member.span),
            ..FieldDeclaration::default()
        };
        let mut written = first.as_ref().and_then(Expr::text).map(str::to_owned);
        match word {
            "PrimaryGeneratedColumn" => {
                declared.key = true;
                let strategy = written.take().unwrap_or_else(|| "increment".into());
                self.key_strategy(&strategy, &mut declared, &mut options);
            }
            "PrimaryColumn" => declared.key = true,
            "DeleteDateColumn" => declared.nullable = Some(true),
            _ => {}
        }
        let written = written.or_else(|| self.type_option(&mut options));
        self::options(&self.scope, &mut declared, &mut options);
        if word != "Column" && declared.unique.take().is_some() {
            let message = format!(
                "`unique` does nothing in `@{word}` of `{}.{}`",
                self.class.name, self.member.name
            );
            self.part.diagnostics.push(
                Diagnostic::of(&codes::SAID_IN_VAIN, message)
                    .at(Some(call.callee.span), "TypeORM hears it in `@Column` only")
                    .with_help(format!("say `@Unique(['{}'])` of the class", self.member.name)),
            );
        }
        if declared.spelling.word.is_empty() {
            declared.spelling = self.spelling(written, purpose, &mut declared, &mut options)?;
        }
        typed_default(&mut declared, self.reader.database());
        if declared.application_default.is_none()
            && let Some(value) = &self.member.value
        {
            declared.application_default = self.initialiser(value).map(Box::new);
        }
        declared.extras.append(&mut options.into_extras());
        self.coerce_initialiser(&mut declared);
        Some(declared)
    }

    /// Wide integers and decimals are texts in the code; their constants are the numbers that the
    /// column holds.
    fn coerce_initialiser(&self, declared: &mut FieldDeclaration) {
        let conventions = &self.reader.known.conventions;
        let row =
            type_table::row(conventions.words.types, &declared.spelling.word, conventions.database);
        if let (Some(row), Some(Default_::Literal(value))) =
            (row, declared.application_default.as_deref_mut())
        {
            *value = coerce(&row.read(&declared.spelling), std::mem::take(value));
        }
    }

    /// `type:` as text, or one of the constructors.
    fn type_option(&self, options: &mut Arguments<'_>) -> Option<String> {
        let value = options.take("type")?;
        match &value.kind {
            ExprKind::Text(text) => Some(text.to_string()),
            ExprKind::Name(name) => Some(name.to_string()),
            _ => None,
        }
    }

    fn key_strategy(
        &self,
        strategy: &str,
        declared: &mut FieldDeclaration,
        options: &mut Arguments<'_>,
    ) {
        generated(strategy, &self.reader.known.conventions, declared);
        if declared.identity.is_none() {
            declared.spelling = Spelling::word("uuid");
            return;
        }
        let always = options.take_text("generatedIdentity").is_some_and(|text| text == "ALWAYS");
        if always && strategy == "identity" && self.reader.database() == Database::PostgreSql {
            declared.identity = Some(Identity::Always);
        }
        let word = options.take_text("type").unwrap_or_else(|| "integer".into());
        let whole = if word == "int" || word == "int4" { "integer".to_owned() } else { word };
        declared.spelling = Spelling::word(signed(whole, options, self.reader.database()));
    }

    /// The type as written, or as TypeORM infers it from the property's type.
    fn spelling(
        &mut self,
        written: Option<String>,
        purpose: Option<Purpose>,
        declared: &mut FieldDeclaration,
        options: &mut Arguments<'_>,
    ) -> Option<Spelling> {
        let word = match (written, purpose) {
            (Some(word), _) => {
                types::inferred(&word, self.reader.database()).map_or(word, str::to_owned)
            }
            (None, Some(Purpose::Version)) => "integer".into(),
            (None, Some(_)) => types::moment(self.reader.database()).into(),
            (None, None) if options.has("enum") => "enum".into(),
            (None, None) => self.inferred()?,
        };
        let array = options.take_bool("array").unwrap_or(false);
        let spelling = self.site().spelling(word, purpose, declared, options);
        if spelling.enumeration.is_none() && declared.choices.is_none() {
            declared.choices = self.choices();
        }
        Some(if array {
            Spelling {
                word: "array".into(),
                element: Some(Box::new(spelling)),
                ..Spelling::default()
            }
        } else {
            spelling
        })
    }

    /// Whether the property's own type lets it be missing: `name?`, or a union with null.
    pub(super) fn optional(&self) -> bool {
        let null = |annotation: &Expr| match &annotation.kind {
            ExprKind::Operation { operator, operands } => {
                operator == "|" && operands.iter().any(|operand| operand.kind == ExprKind::Null)
            }
            _ => false,
        };
        self.member.optional || self.member.annotation.as_ref().is_some_and(null)
    }

    /// The word for the property's own type: a primitive, a date, an enumeration or a union of
    /// constants.
    fn inferred(&mut self) -> Option<String> {
        let Some(annotation) = &self.member.annotation else {
            self.site().unknown_type("the property has no type to infer it from");
            return None;
        };
        let mut operands = match &annotation.kind {
            ExprKind::Operation { operator, operands } if operator == "|" => operands.clone(),
            _ => vec![annotation.clone()],
        };
        operands.retain(|operand| operand.kind != ExprKind::Null);
        let word = match operands.as_slice() {
            [only] => self
                .primitive(self.scope, only, 0)
                .and_then(|host| types::inferred(&host, self.reader.database()))
                .map(str::to_owned),
            several if several.iter().all(|operand| operand.text().is_some()) => {
                types::inferred("string", self.reader.database()).map(str::to_owned)
            }
            several
                if several.iter().all(|operand| matches!(operand.kind, ExprKind::Number(_))) =>
            {
                types::inferred("number", self.reader.database()).map(str::to_owned)
            }
            _ => None,
        };
        if word.is_none() {
            self.site().unknown_type("it cannot be inferred from this type");
        }
        word
    }

    /// The host type that the compiler writes down for a named type
    /// (`getTypeReferenceSerializationKind`): aliases are followed, a union is what all its members
    /// are, an intersection what one of them is.
    fn primitive(&self, scope: Scope<'_>, ty: &Expr, depth: u32) -> Option<String> {
        if depth > 8 {
            return None;
        }
        match &ty.kind {
            ExprKind::Text(_) => Some("string".into()),
            ExprKind::Number(_) => Some("number".into()),
            ExprKind::Boolean(_) => Some("boolean".into()),
            ExprKind::Operation { operator, operands } if operator == "|" => {
                let mut kinds = operands.iter().filter(|operand| operand.kind != ExprKind::Null);
                let first = self.primitive(scope, kinds.next()?, depth + 1)?;
                kinds
                    .all(|operand| {
                        self.primitive(scope, operand, depth + 1).as_ref() == Some(&first)
                    })
                    .then_some(first)
            }
            ExprKind::Operation { operator, operands } if operator == "&" => {
                operands.iter().find_map(|operand| self.primitive(scope, operand, depth + 1))
            }
            ExprKind::Name(name) if types::inferred(name, self.reader.database()).is_some() => {
                Some(name.to_string())
            }
            ExprKind::Name(name) => match scope.lookup(name) {
                Found::Class(_, class) if class.kind == ClassKind::Enum => {
                    let text = class
                        .members
                        .first()
                        .and_then(|member| member.value.as_ref())
                        .is_some_and(|value| value.text().is_some());
                    Some(if text { "string" } else { "number" }.into())
                }
                Found::Value(file, alias) => {
                    self.primitive(Scope { file, class: None, ..scope }, alias, depth + 1)
                }
                _ => None,
            },
            _ => None,
        }
    }

    /// The enumeration that the property's own type restricts values to.
    fn choices(&mut self) -> Option<String> {
        let annotation = self.member.annotation.as_ref()?;
        let mut operands = match &annotation.kind {
            ExprKind::Operation { operator, operands } if operator == "|" => operands.clone(),
            _ => vec![annotation.clone()],
        };
        operands.retain(|operand| operand.kind != ExprKind::Null);
        if let [Expr { kind: ExprKind::Name(name), .. }] = operands.as_slice() {
            return match self.scope.lookup(name) {
                Found::Class(_, class) if class.kind == ClassKind::Enum => {
                    Some(class.name.to_string())
                }
                _ => None,
            };
        }
        let list = Expr { kind: ExprKind::List(operands), span: annotation.span };
        self.site().enumeration(&list, None).filter(|_| !list.list().unwrap_or_default().is_empty())
    }

    fn initialiser(&self, value: &Expr) -> Option<Default_> {
        let text = self.scope.project.sources.text(value.span);
        if let Some(function) = made(value, text) {
            return Some(Default_::Function(function));
        }
        match constant(&self.scope.value(value)) {
            Some(Value::Null) => None,
            Some(value) => Some(Default_::Literal(value)),
            None => Some(Default_::host("typescript", text)),
        }
    }

    /// `@Column(() => Address)`: the embedded class's columns under a prefix.
    fn embedded(&mut self, call: &Call, outer: &[String]) -> Option<Vec<Attribute>> {
        let ExprKind::Function { returns: Some(returned), .. } = &call.arguments.first()?.kind
        else {
            return None;
        };
        let Found::Class(file, class) = self.scope.lookup(returned.name()?) else { return None };
        let mut options = super::trailing_options(self.scope, call);
        let mut prefixes = outer.to_vec();
        match options.take("prefix").map(|prefix| prefix.kind) {
            Some(ExprKind::Boolean(false)) => {}
            Some(ExprKind::Text(text)) if text.is_empty() => {}
            Some(ExprKind::Text(text)) => prefixes.push(text.to_string()),
            _ => prefixes.push(self.member.name.to_string()),
        }
        let snake =
            self.reader.known.conventions.names.column.apply(&[("attribute", "aB")]) == "a_b";
        let scope = Scope { project: self.scope.project, file, class: Some(class) };
        let mut attributes = Vec::new();
        for member in &class.members {
            let mut inner = MemberReader {
                reader: self.reader,
                scope,
                class,
                member,
                part: self.part,
                checks: self.checks,
            };
            for mut attribute in inner.read().unwrap_or_default() {
                if let Attribute::Field(field) = &mut attribute {
                    let own = field.column.take().unwrap_or_else(|| {
                        self.reader
                            .known
                            .conventions
                            .names
                            .column
                            .apply(&[("attribute", &member.name)])
                    });
                    field.column = Some(embedded_column(&prefixes, &own, snake));
                    field.name = field
                        .name
                        .as_ref()
                        .map(|name| format!("{}{}", self.member.name, Case::Pascal.apply(name)));
                }
                attributes.push(attribute);
            }
        }
        Some(attributes)
    }
}

/// What every column may say, beside a property or in an object.
pub(super) fn options(
    scope: &Scope<'_>,
    declared: &mut FieldDeclaration,
    options: &mut Arguments<'_>,
) {
    let database = scope.project.database;
    declared.column = options.take_text("name");
    declared.nullable = options.take_bool("nullable").or(declared.nullable);
    declared.unique = options.take_bool("unique").filter(|unique| *unique);
    declared.key |= options.take_bool("primary").unwrap_or(false);
    declared.comment = options.take_text("comment");
    declared.collation = options.take_text("collation");
    if let Some(default) = options.take_raw("default") {
        declared.database_default = database_default(scope, &default).map(Box::new);
    }
    if let Some(text) = options.take_text("asExpression") {
        let stored = options.take_text("generatedType").is_some_and(|kind| kind == "STORED");
        declared.generated = Some(Box::new(Generated {
            expression: Expression::parse_sql_of(&text, database),
            stored,
        }));
    }
    if database.is_mysql() {
        let update = options.take_text("onUpdate");
        declared.database_update =
            update.map(|text| Box::new(Default_::parse_sql(&text, database)));
    } else {
        for ignored in ["unsigned", "width", "zerofill", "onUpdate"] {
            options.take_raw(ignored);
        }
    }
}

/// The default of a column whose type is known, as the MySQL driver writes it.
pub(super) fn typed_default(declared: &mut FieldDeclaration, database: Database) {
    let floating =
        matches!(declared.spelling.word.as_str(), "float" | "double" | "double precision" | "real");
    let scale = declared.spelling.scale.unwrap_or(0);
    let Some(Default_::Literal(value)) =
        declared.database_default.as_deref_mut().filter(|_| database.is_mysql())
    else {
        return;
    };
    match value {
        Value::Number(number) => *number = fixed(number, scale),
        Value::String(text) if floating => {
            if let Some(number) = text.parse().ok().and_then(Number::from_f64) {
                *value = Value::Number(number);
            }
        }
        _ => {}
    }
}

/// A number with so many digits after the point, as the MySQL driver writes it (`normalizeDefault`
/// of its driver).
fn fixed(number: &Number, scale: u32) -> Number {
    let Some(value) = number.as_f64().filter(|_| !number.is_i64()) else { return number.clone() };
    let step = 10f64.powi(scale.min(20) as i32);
    let rounded = (value.abs() * step + 0.5).floor() / step * value.signum();
    match rounded.fract() == 0.0 && rounded.abs() < 1e15 {
        true => Number::from(rounded as i64),
        false => Number::from_f64(rounded).unwrap_or_else(|| number.clone()),
    }
}

/// Who makes a generated value, and how: identifiers are made by the application, but on
/// PostgreSQL.
pub(super) fn generated(
    strategy: &str,
    conventions: &Conventions,
    declared: &mut FieldDeclaration,
) {
    let postgresql = conventions.database == Database::PostgreSql;
    let random = || Some(Box::new(Default_::Function(Function::RandomUuid)));
    match strategy {
        "uuid" if postgresql => declared.database_default = random(),
        "uuid" => declared.application_default = random(),
        "identity" if postgresql => declared.identity = Some(Identity::ByDefault),
        _ => declared.identity = Some(conventions.keys.generated),
    }
}

/// An identifier that the framework does not make is a text of any length where the server has no
/// type of that name (seen in 0.2.45, 0.3.31 and 1.1.1), unless its length is said.
pub(super) fn plain_identifier(
    declared: &mut FieldDeclaration,
    conventions: &Conventions,
    made: bool,
) {
    if declared.spelling.word != "uuid" || !types::identifiers_are_texts(conventions) {
        return;
    }
    let length = declared.spelling.length.take().unwrap_or(if made { 36 } else { 255 });
    if length != 36 {
        declared.spelling = Spelling { length: Some(length), ..Spelling::word("varchar") };
    }
}

/// Takes an expression from which the release makes no column, and says so.
pub(super) fn unmade_expression(
    declared: &mut FieldDeclaration,
    conventions: &Conventions,
    class: &str,
) -> Option<Diagnostic> {
    let Conventions { version, database, .. } = conventions;
    if makes_generated(version, *database) {
        return None;
    }
    declared.generated.take()?;
    let name = declared.name.as_deref().unwrap_or_default();
    let message = format!("`asExpression` does nothing for `{class}.{name}`");
    let said = Diagnostic::of(&codes::SAID_IN_VAIN, message).at(declared.span, "a plain column");
    Some(said.because(format!("TypeORM {version} makes no generated columns on SQLite")))
}

/// `default:`: a constant, or a function that returns SQL.
pub(super) fn database_default(scope: &Scope<'_>, expr: &Expr) -> Option<Default_> {
    let value = scope.value(expr);
    if let ExprKind::Function { returns, .. } = &value.kind {
        let text = returns
            .as_ref()
            .map(|returned| scope.value(returned))
            .and_then(|returned| returned.text().map(str::to_owned));
        let Some(text) = text else {
            return Some(Default_::host("typescript", scope.project.sources.text(expr.span)));
        };
        return Some(Default_::parse_sql(&text, scope.project.database));
    }
    match constant(&value) {
        Some(Value::Null) => None,
        Some(value) => Some(Default_::Literal(value)),
        None => Some(Default_::host("typescript", scope.project.sources.text(expr.span))),
    }
}
