//! One field call to a column's declaration.

use serde_json::{Value, json};
use smol_str::SmolStr;

use super::attributes::Sink;
use super::{Reader, last, origin, query};
use crate::codes;
use crate::declaration::{Attribute, FieldDeclaration, Spelling};
use crate::diagnostic::Diagnostic;
use crate::dialect::naming::Case;
use crate::host::arguments::Arguments;
use crate::host::callable::{Callable, application_default};
use crate::host::evaluate::{Scope, constant, is_enumeration};
use crate::host::outline::{Call, Class, Expr, ExprKind, Member};
use crate::host::project::Found;
use crate::schema::{Default_, EnumMember, EnumType, Function, Generated, InputRule, Purpose};
use crate::source::FileId;
use crate::types::{NATIVE, TYPES, VALIDATORS};

/// Expressions of the framework that the database evaluates.
const DATABASE_FUNCTIONS: &[(&str, Function)] = &[
    ("Now", Function::StatementNow),
    ("TransactionNow", Function::Now),
    ("RandomUUID", Function::RandomUuid),
];

/// Whether a class name is a field class that makes a column of its own.
pub(super) fn is_known(word: &str) -> bool {
    word == "ArrayField"
        || word == "GeneratedField"
        || word == "CompositePrimaryKey"
        || word == "Field"
        || TYPES.iter().any(|row| row.word == word)
        || NATIVE.iter().any(|(known, _)| *known == word)
}

/// The framework's class behind a home-made field class, and the arguments that its constructor
/// fills in.
pub(super) fn known_base(
    reader: &Reader<'_>,
    file: FileId,
    class: &Class,
    depth: u32,
) -> Option<(String, Vec<(SmolStr, Expr)>)> {
    if depth > 16 {
        return None;
    }
    let mut defaults = constructor_defaults(class);
    for base in class.bases.iter().filter_map(Expr::name) {
        match reader.project.lookup(file, None, base) {
            Found::Class(file, class) => {
                if let Some((word, more)) = known_base(reader, file, class, depth + 1) {
                    defaults.extend(more);
                    return Some((word, defaults));
                }
            }
            Found::External(path) if path.ends_with("Field") || path.ends_with("ForeignKey") => {
                return Some((last(&path), defaults));
            }
            Found::Unknown if is_known(&last(base)) => return Some((last(base), defaults)),
            _ => {}
        }
    }
    None
}

/// `kwargs["x"] = v`, `kwargs.setdefault("x", v)` and `super().__init__(x=v)` of a constructor.
fn constructor_defaults(class: &Class) -> Vec<(SmolStr, Expr)> {
    let Some(constructor) = class.methods.iter().find(|method| method.name == "__init__") else {
        return Vec::new();
    };
    let mut defaults = Vec::new();
    for statement in &constructor.statements {
        match &statement.kind {
            ExprKind::Operation { operator, operands } if operator == "=" => {
                if let [Expr { kind: ExprKind::Operation { operator, operands: key }, .. }, value] =
                    operands.as_slice()
                    && let ("[]", [_, name]) = (operator.as_str(), key.as_slice())
                {
                    defaults.extend(name.text().map(|name| (SmolStr::new(name), value.clone())));
                }
            }
            ExprKind::Call(call) if call.callee_name().ends_with(".setdefault") => {
                if let [name, value] = call.arguments.as_slice() {
                    defaults.extend(name.text().map(|name| (SmolStr::new(name), value.clone())));
                }
            }
            ExprKind::Call(call) => defaults.extend(call.named.iter().cloned()),
            _ => {}
        }
    }
    defaults
}

/// Reads a field of the framework's class `word`.
pub(super) fn read(
    sink: &mut Sink<'_, '_>,
    member: &Member,
    call: &Call,
    word: &str,
    defaults: Vec<(SmolStr, Expr)>,
) -> Option<Attribute> {
    let places: &[&str] = match word {
        "ArrayField" => &["base_field", "size"],
        "DecimalField" => &["verbose_name", "name", "max_digits", "decimal_places"],
        "CompositePrimaryKey" => return None,
        _ => &["verbose_name", "name"],
    };
    let mut arguments = Arguments::of_call(sink.scope, &call.arguments, places, &call.named);
    arguments.extend_missing(defaults);
    let mut declared = FieldDeclaration {
        name: Some(member.name.to_string()),
        span: Some(member.span),
        ..FieldDeclaration::default()
    };
    declared.spelling = spelling(sink, word, &mut arguments);
    if word == "GeneratedField" {
        declared.generated = generated(sink, &mut arguments).map(Box::new);
    }
    common(sink, &member.name, &mut declared, &mut arguments);
    if word == "NullBooleanField" {
        declared.nullable = Some(true);
        declared.spelling.word = "BooleanField".into();
    }
    let automatic = [("auto_now_add", Purpose::CreationTime), ("auto_now", Purpose::UpdateTime)];
    for (name, purpose) in automatic {
        if arguments.take_bool(name) == Some(true) {
            declared.purpose = Some(purpose);
        }
    }
    declared.extras.append(&mut arguments.into_extras());
    Some(Attribute::Field(Box::new(declared)))
}

fn spelling(sink: &mut Sink<'_, '_>, word: &str, arguments: &mut Arguments<'_>) -> Spelling {
    let mut spelling = Spelling::word(word);
    match word {
        "ArrayField" => {
            spelling.element = arguments
                .take_raw("base_field")
                .and_then(|base| element(sink, &base))
                .map(Box::new);
        }
        "GeneratedField" => {
            if let Some(inner) =
                arguments.take_raw("output_field").and_then(|output| element(sink, &output))
            {
                spelling = inner;
            }
        }
        "DecimalField" => {
            spelling.precision = arguments.take_number("max_digits");
            spelling.scale = arguments.take_number("decimal_places");
        }
        "TextField" => {}
        _ => spelling.length = arguments.take_number("max_length"),
    }
    spelling
}

/// The type inside an array or a generated column.
fn element(sink: &mut Sink<'_, '_>, expr: &Expr) -> Option<Spelling> {
    let call = expr.call()?;
    let word = match sink.scope.lookup(call.callee_name()) {
        Found::Class(file, class) => known_base(sink.reader, file, class, 0)?.0,
        Found::External(path) => last(&path),
        _ => last(call.callee_name()),
    };
    let places: &[&str] = if word == "ArrayField" {
        &["base_field", "size"]
    } else {
        &["verbose_name", "name", "max_digits", "decimal_places"]
    };
    let mut arguments = Arguments::of_call(sink.scope, &call.arguments, places, &call.named);
    Some(spelling(sink, &word, &mut arguments))
}

fn generated(sink: &mut Sink<'_, '_>, arguments: &mut Arguments<'_>) -> Option<Generated> {
    let expression = arguments.take_raw("expression")?;
    let stored = arguments.take_bool("db_persist").unwrap_or(true);
    Some(Generated { expression: query::expression(&sink.scope, &expression), stored })
}

/// What is said of a list or a map that is made once, when the class is, and that all records
/// share.
fn shared_default(sink: &Sink<'_, '_>, name: &str, default: &Expr) -> Option<Diagnostic> {
    let shared = matches!(default.kind, ExprKind::List(_) | ExprKind::Map(_));
    shared.then(|| {
        let message = format!("all records share the default of `{}.{name}`", sink.class.name);
        Diagnostic::of(&codes::SHARED_DEFAULT, message)
            .at(Some(default.span), "made once, when the class is")
            .because("what one record adds to it, later ones begin with")
            .with_help("name a function that makes a new one, such as `list`")
    })
}

/// Callables of the framework.
const CALLABLES: &[Callable] = &[
    ("django.utils.timezone.now", Function::Now),
    ("django.utils.timezone.localdate", Function::Today),
];

/// The options that every field and every relation has.
pub(super) fn common(
    sink: &mut Sink<'_, '_>,
    name: &str,
    declared: &mut FieldDeclaration,
    arguments: &mut Arguments<'_>,
) {
    declared.nullable = arguments.take_bool("null");
    declared.required_on_input = arguments.take_bool("blank").map(|blank| !blank);
    declared.key = arguments.take_bool("primary_key").unwrap_or(false);
    declared.unique = arguments.take_bool("unique");
    declared.indexed = arguments.take_bool("db_index");
    declared.column = arguments.take_text("db_column");
    declared.comment = arguments.take_text("db_comment");
    declared.collation = arguments.take_text("db_collation");
    if let Some(default) = arguments.take_raw("default") {
        sink.diagnostics.extend(shared_default(sink, name, &default));
        declared.application_default =
            application_default(&sink.scope, &default, CALLABLES, literal).map(Box::new);
    }
    if let Some(default) = arguments.take_raw("db_default") {
        declared.database_default = Some(Box::new(database_default(&sink.scope, &default)));
    }
    if let Some(choices) = arguments.take_raw("choices") {
        match read_choices(sink, name, &choices) {
            Some(enumeration) => declared.choices = Some(enumeration),
            None if choices.kind == ExprKind::Null => {}
            None => {
                let code = sink.scope.project.sources.text(choices.span);
                declared.extras.insert("choices".into(), json!({ "code": code }));
            }
        }
    }
    if let Some(validators) = arguments.take("validators") {
        declared.rules.extend(
            validators.list().unwrap_or_default().iter().map(|item| rule(&sink.scope, item)),
        );
    }
    for text in ["verbose_name", "help_text"] {
        let plain = arguments.take_raw(text).filter(|expr| expr.kind != ExprKind::Null);
        if let Some(value) = plain.and_then(|expr| query::plain_text(&sink.scope, &expr)) {
            declared.extras.insert(text.into(), Value::String(value));
        }
    }
    if declared.spelling.word == "TextField"
        && let Some(length) = arguments.take_number("max_length")
    {
        declared.rules.push(InputRule {
            rule: "max_length".into(),
            value: json!(length),
            message: None,
        });
    }
}

/// A constant, with the standard library's exact numbers read as text.
pub(super) fn literal(scope: &Scope<'_>, value: &Expr) -> Option<Value> {
    if let Some(call) = value.call()
        && let ([argument], []) = (call.arguments.as_slice(), call.named.as_slice())
    {
        return match last(&scope.path(call.callee_name())).as_str() {
            "Decimal" => match &argument.kind {
                ExprKind::Text(text) | ExprKind::Number(text) => {
                    Some(Value::String(text.to_string()))
                }
                _ => None,
            },
            "UUID" | "Value" => literal(scope, argument),
            _ => query::plain_text(scope, value).map(Value::String),
        };
    }
    constant(value)
}

fn database_default(scope: &Scope<'_>, expr: &Expr) -> Default_ {
    let value = scope.value(expr);
    if let Some(literal) = literal(scope, &value) {
        return Default_::Literal(literal);
    }
    if let Some(call) = value.call() {
        let word = last(&scope.path(call.callee_name()));
        let bare = call.arguments.is_empty() && call.named.is_empty();
        if let Some((_, function)) =
            DATABASE_FUNCTIONS.iter().find(|(known, _)| bare && *known == word)
        {
            return Default_::Function(*function);
        }
    }
    match query::raw_sql(scope, &value) {
        Some(text) => Default_::parse_sql(&text, scope.project.database),
        None => Default_::Expression(Box::new(query::expression(scope, &value))),
    }
}

/// The enumeration behind `choices`: a class, or a list of pairs (which gets a name of the model
/// and attribute).
fn read_choices(sink: &mut Sink<'_, '_>, attribute: &str, expr: &Expr) -> Option<String> {
    if let Some(name) = expr.name() {
        let bare = name.strip_suffix(".choices").unwrap_or(name);
        if let Found::Class(file, class) = sink.scope.lookup(bare)
            && is_enumeration(class)
        {
            let owners = &sink.reader.project.outlines[file.0 as usize].classes;
            let owner = owners
                .iter()
                .find(|owner| owner.nested.iter().any(|nested| nested.span == class.span));
            return Some(Reader::enumeration_name(class, owner));
        }
    }
    let value = sink.value(expr);
    let members: Option<Vec<EnumMember>> =
        value.list()?.iter().map(|item| choice(&sink.scope, item)).collect();
    let name = format!("{}{}", sink.class.name, Case::Pascal.apply(attribute));
    let module = sink.reader.module(sink.scope.file, sink.class);
    let origin = origin(sink.scope.project, expr.span);
    sink.enums.push(EnumType {
        name: name.clone(),
        stored_name: None,
        members: members?,
        module,
        inline: true,
        origin,
    });
    Some(name)
}

fn choice(scope: &Scope<'_>, item: &Expr) -> Option<EnumMember> {
    let [value, label] = item.list()? else { return None };
    let value = constant(&scope.value(value))?;
    let label = query::plain_text(scope, label)?;
    let name: String = value.as_str().map_or_else(|| value.to_string(), str::to_owned);
    Some(EnumMember { name, value, label: Some(label), in_code: None })
}

/// Arguments of a validator that the neutral rule holds.
const RULE_ARGUMENTS: &[&str] = &["limit_value", "regex", "message"];

fn rule(scope: &Scope<'_>, item: &Expr) -> InputRule {
    if let Some(call) = item.call() {
        let path = scope.path(call.callee_name());
        let word = last(&path);
        let known = VALIDATORS.iter().find(|(known, _)| *known == word).map(|(_, rule)| *rule);
        let first = call
            .arguments
            .first()
            .or_else(|| call.argument("limit_value"))
            .or_else(|| call.argument("regex"));
        let value = first.and_then(|value| literal(scope, &scope.value(value)));
        let message = call
            .arguments
            .get(1)
            .or_else(|| call.argument("message"))
            .and_then(|text| query::plain_text(scope, text));
        let read = call.arguments.len() <= 2
            && call.named.iter().all(|(name, _)| RULE_ARGUMENTS.contains(&name.as_str()));
        if let (Some(rule), Some(value), true) = (known, value, read) {
            return InputRule { rule: rule.into(), value, message };
        }
        return InputRule {
            rule: path,
            value: json!({ "code": scope.project.sources.text(item.span) }),
            message: None,
        };
    }
    let path = item
        .name()
        .map_or_else(|| scope.project.sources.text(item.span).to_owned(), |name| scope.path(name));
    InputRule { rule: path, value: Value::Null, message: None }
}
