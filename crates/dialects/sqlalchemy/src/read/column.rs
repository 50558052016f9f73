//! One column, declared by a call, by an annotation, or by both.

use serde_json::{Value, json};
use smol_str::SmolStr;

use super::annotation::{self, Annotation};
use super::expression::{Names, unescaped};
use super::known::Flavour;
use super::spelling::{Read, Site, options_as_extra};
use super::{last, word};
use crate::codes;
use crate::declaration::{
    CheckDeclaration, FieldDeclaration, IndexDeclaration, IndexPartDeclaration,
    ReferenceDeclaration, Spelling,
};
use crate::diagnostic::Diagnostic;
use crate::host::arguments::Arguments;
use crate::host::callable::{application_default, exact};
use crate::host::evaluate::{Scope, is_enumeration};
use crate::host::outline::{Call, Expr, ExprKind};
use crate::host::project::Found;
use crate::schema::expression::Tree;
use crate::schema::{Database, Default_, Deferrable, Expression, Generated, Identity, InputRule};
use crate::source::Span;

/// A column with what it says of its class.
#[derive(Default)]
pub(super) struct Column {
    pub(super) declared: FieldDeclaration,
    pub(super) indexes: Vec<IndexDeclaration>,
    pub(super) checks: Vec<CheckDeclaration>,
    /// Foreign keys beyond the first one.
    pub(super) references: Vec<ReferenceDeclaration>,
    /// Id of the class, and the attribute, that the foreign key names instead of a table.
    pub(super) by_class: Option<(String, String)>,
}

/// Options of the application alone, kept as they are.
const RULES: &[(&str, &str)] = &[
    ("ge", "min_value"),
    ("le", "max_value"),
    ("min_length", "min_length"),
    ("regex", "pattern"),
    ("pattern", "pattern"),
];

/// What stands among the arguments: those of the column's own call, then those of the types that
/// its annotation names.
struct Given<'p> {
    positional: Vec<(Scope<'p>, Expr)>,
    named: Arguments<'p>,
}

/// Where a column stands.
pub(super) struct Place<'e> {
    /// The attribute, or nothing in a table without a class.
    pub(super) attribute: Option<&'e str>,
    pub(super) annotation: Option<&'e Annotation>,
    pub(super) call: Option<&'e Call>,
    pub(super) flavour: Flavour,
    pub(super) span: Span,
}

/// Reads a column.
pub(super) fn read<'p>(site: &mut Site<'_, 'p>, place: &Place<'_>) -> Column {
    let mut given = given(site.scope, place.call, place.flavour);
    // What an alias stands for may be optional in itself.
    let unwrapped = place
        .annotation
        .map(|annotation| unwrap_annotated(site.scope, annotation.inner.clone(), &mut given, 0));
    let unwrapped = unwrapped.and_then(|ty| annotation::read(&ty));
    let within = unwrapped.as_ref().is_some_and(|unwrapped| unwrapped.optional);
    let inner = unwrapped.map(|unwrapped| unwrapped.inner);
    let mut column = Column::default();
    column.declared.name = place.attribute.map(str::to_owned);
    column.declared.span = Some(place.span);
    if let Some(annotation) = place
        .annotation
        .filter(|annotation| annotation.mapped || place.flavour == Flavour::Validated)
    {
        column.declared.optional_in_code = Some(annotation.optional || within);
    }
    let mut ty = positional(site, &mut given, &mut column);
    if let Some(expr) = given.named.take_raw("type_").or_else(|| given.named.take_raw("sa_type")) {
        ty = site.read(&expr).or(ty);
    }
    let named = given.named.take_text("name");
    column.declared.column = column.declared.column.take().or(named);
    foreign_key_option(site, &mut given.named, &mut column);
    let refers = column.declared.reference.is_some() || column.by_class.is_some();
    let ty = ty.or_else(|| {
        if refers { None } else { inner.as_ref().and_then(|inner| site.inferred(inner)) }
    });
    let length = given.named.take_number("max_length");
    match ty {
        Some(read) => {
            column.checks.extend(checked(site, &read, &column.declared));
            apply(read, length, &mut column);
        }
        None if refers => {}
        None => untyped(site, place, inner.as_ref(), &mut column),
    }
    options(site, given.named, &mut column, place);
    column
}

/// The arguments of a call; `sa_column` stands for the whole of it.
fn given<'p>(scope: Scope<'p>, call: Option<&Call>, flavour: Flavour) -> Given<'p> {
    let Some(call) = call else {
        return Given { positional: Vec::new(), named: Arguments::of_call(scope, &[], &[], &[]) };
    };
    if let Some(inner) = call.argument("sa_column").and_then(Expr::call) {
        return given(scope, Some(inner), Flavour::Plain);
    }
    let mut positional = Vec::new();
    let mut named: Vec<(SmolStr, Expr)> = call.named.clone();
    if flavour == Flavour::Validated && word(&scope, call) == "Field" {
        named.extend(call.arguments.first().map(|default| ("default".into(), default.clone())));
    } else {
        for argument in &call.arguments {
            match &argument.kind {
                ExprKind::Spread(inner) => positional.extend(
                    scope
                        .value(inner)
                        .list()
                        .unwrap_or_default()
                        .iter()
                        .map(|item| (scope, item.clone())),
                ),
                _ => positional.push((scope, argument.clone())),
            }
        }
    }
    let mut named = Arguments::of_call(scope, &[], &[], &named);
    if let Some(ExprKind::Map(pairs)) = named.take("sa_column_kwargs").map(|kwargs| kwargs.kind) {
        named.extend_missing(
            pairs
                .into_iter()
                .filter_map(|(key, value)| Some((SmolStr::new(key.text()?), value)))
                .collect(),
        );
    }
    if let Some(args) = named.take_raw("sa_column_args") {
        positional.extend(args.list().unwrap_or_default().iter().map(|item| (scope, item.clone())));
    }
    Given { positional, named }
}

/// `Annotated[type, mapped_column(...)]`, here or behind a name, adds its arguments to those given.
fn unwrap_annotated<'p>(scope: Scope<'p>, ty: Expr, given: &mut Given<'p>, depth: u32) -> Expr {
    if depth > 8 {
        return ty;
    }
    if let Some(name) = ty.name()
        && let Found::Value(file, value) = scope.lookup(name)
        && matches!(&value.kind, ExprKind::Operation { operator, .. } if operator == "[]")
    {
        return unwrap_annotated(
            Scope { file, class: None, ..scope },
            value.clone(),
            given,
            depth + 1,
        );
    }
    let ExprKind::Operation { operator, operands } = &ty.kind else { return ty };
    if operator != "[]" || operands.first().and_then(Expr::name).map(last) != Some("Annotated") {
        return ty;
    }
    for call in operands.iter().skip(2).filter_map(Expr::call) {
        given.positional.extend(call.arguments.iter().map(|argument| (scope, argument.clone())));
        given.named.extend_missing(
            call.named.iter().map(|(name, value)| (name.clone(), scope.value(value))).collect(),
        );
    }
    operands
        .get(1)
        .map_or(ty.clone(), |inner| unwrap_annotated(scope, inner.clone(), given, depth + 1))
}

/// Positional arguments: a name, a type, and whatever else belongs to a column.
fn positional<'p>(
    site: &mut Site<'_, 'p>,
    given: &mut Given<'p>,
    column: &mut Column,
) -> Option<Read> {
    let mut ty = None;
    for (scope, argument) in std::mem::take(&mut given.positional) {
        let value =
            if argument.name().is_some() { scope.value(&argument) } else { argument.clone() };
        if let Some(text) = scope.value(&argument).text() {
            column.declared.column.get_or_insert_with(|| text.to_owned());
            continue;
        }
        let call =
            value.call().filter(|call| !matches!(call.callee.kind, ExprKind::Operation { .. }));
        let name = call.map_or_else(
            || argument.name().map(|name| super::name_word(&scope, name)),
            |call| Some(word(&scope, call)),
        );
        match (name.as_deref(), call) {
            (Some("ForeignKey"), Some(call)) => reference(site, scope, call, column, value.span),
            (Some("Sequence"), call) => sequence(site, scope, call, column),
            (Some("Identity"), call) => identity(site.scope.project.database, scope, call, column),
            (Some("Computed"), Some(call)) => {
                let in_silence = site.reader.known.computed_is_stored;
                column.declared.generated = generated(scope, call, in_silence).map(Box::new)
            }
            (Some("CheckConstraint"), Some(call)) => {
                column.checks.extend(check(scope, call, value.span, &|name| Some(name.to_owned())));
            }
            (Some("FetchedValue"), _) => {
                column.declared.extras.insert(
                    "server_default".into(),
                    json!({ "code": scope.project.sources.text(argument.span) }),
                );
            }
            (Some("DefaultClause"), Some(call)) => {
                let default =
                    call.arguments.first().and_then(|inner| database_default(site, &scope, inner));
                column.declared.database_default = default.map(Box::new);
            }
            _ => {
                let before = site.scope;
                site.scope = scope;
                ty = site.read(&argument).or(ty);
                site.scope = before;
            }
        }
    }
    ty
}

pub(super) fn apply(read: Read, length: Option<u32>, column: &mut Column) {
    let declared = &mut column.declared;
    if let Some(options) = options_as_extra(&read) {
        declared.extras.insert("type options".into(), options);
    }
    declared.spelling = read.spelling;
    if declared.spelling.word == "String" {
        declared.spelling.length = declared.spelling.length.or(length);
    }
    declared.choices = read.choices;
    declared.collation = read.collation;
}

/// The check that keeps a column to the values of its enumeration.
fn checked(
    site: &Site<'_, '_>,
    read: &Read,
    declared: &FieldDeclaration,
) -> Option<CheckDeclaration> {
    let (name, enumeration) = (read.checked.clone()?, read.choices.as_ref()?);
    let known = site.part.enums.iter().rev().find(|known| known.name == *enumeration)?;
    let column = declared.column.clone().or_else(|| declared.name.clone())?;
    let list = known.members.iter().map(|member| Tree::Literal(member.value.clone())).collect();
    let expression = Expression::sql(Tree::In { item: Box::new(Tree::Column(column)), list });
    let name = name.or_else(|| (!known.inline).then(|| known.name.to_lowercase()));
    Some(CheckDeclaration { name, expression, extras: Default::default(), span: declared.span })
}

/// A column whose type cannot be known here.
fn untyped(site: &mut Site<'_, '_>, place: &Place<'_>, inner: Option<&Expr>, column: &mut Column) {
    column.declared.spelling = Spelling::word("unknown");
    let text = inner.map_or("nothing", |inner| site.scope.project.sources.text(inner.span));
    let message = format!(
        "the type of `{}.{}` is not known: {text} says no type that a database has",
        site.class, site.attribute
    );
    site.part.diagnostics.push(
        Diagnostic::of(&codes::UNKNOWN_TYPE, message)
            .at(Some(place.span), "this column")
            .with_help(
                "write the column's type, or name the folder of the package that declares it \
                 with --follow",
            ),
    );
}

/// Named arguments.
fn options<'p>(
    site: &mut Site<'_, 'p>,
    mut arguments: Arguments<'p>,
    column: &mut Column,
    place: &Place<'_>,
) {
    let scope = site.scope;
    let declared = &mut column.declared;
    declared.nullable = arguments.take_bool("nullable");
    declared.key = arguments.take_bool("primary_key").unwrap_or(false);
    declared.comment = arguments.take_text("comment");
    declared.numbered = match arguments.take_raw("autoincrement").map(|value| scope.value(&value)) {
        Some(value) if value.boolean().is_some() => value.boolean(),
        Some(value) if value.text() == Some("ignore_fk") => Some(true),
        _ => declared.numbered,
    };
    let (unique, indexed) = (arguments.take_bool("unique"), arguments.take_bool("index"));
    match (unique, indexed) {
        (Some(true), Some(true)) => column.indexes.push(IndexDeclaration {
            parts: vec![IndexPartDeclaration {
                attribute: Some(
                    declared.name.clone().or_else(|| declared.column.clone()).unwrap_or_default(),
                ),
                ..IndexPartDeclaration::default()
            }],
            unique: true,
            span: Some(place.span),
            ..IndexDeclaration::default()
        }),
        _ => {
            (declared.unique, declared.indexed) =
                (unique.filter(|unique| *unique), indexed.filter(|indexed| *indexed))
        }
    }
    for name in ["insert_default", "default", "default_factory"] {
        let Some(expr) =
            arguments.take_raw(name).filter(|_| column.declared.application_default.is_none())
        else {
            continue;
        };
        if is_call(&scope, &expr, "Sequence") {
            sequence(site, scope, expr.call(), column);
        } else {
            column.declared.application_default =
                in_application(site, &scope, &expr, &column.declared).map(Box::new);
        }
    }
    if let Some(expr) = arguments.take_raw("onupdate") {
        column.declared.application_update =
            in_application(site, &scope, &expr, &column.declared).map(Box::new);
    }
    if let Some(expr) = arguments.take_raw("server_default") {
        server_default(site, &scope, &expr, &mut column.declared);
    }
    if place.flavour == Flavour::Validated {
        for (option, rule) in RULES {
            let value =
                arguments.take(option).and_then(|value| crate::host::evaluate::constant(&value));
            column.declared.rules.extend(value.map(|value| InputRule {
                rule: (*rule).into(),
                value,
                message: None,
            }));
        }
    }
    column.declared.extras.append(&mut arguments.into_extras());
}

/// A default of the database. A text for an array or for JSON is read as what it stands for.
fn server_default<'p>(
    site: &mut Site<'_, 'p>,
    scope: &Scope<'p>,
    expr: &Expr,
    declared: &mut FieldDeclaration,
) {
    let whole =
        declared.spelling.element.as_deref().map(|element| element.word.ends_with("Integer"));
    let json = matches!(declared.spelling.word.as_str(), "JSON" | "JSONB");
    let typed = |default| match (default, whole) {
        (Default_::Literal(Value::String(text)), Some(whole)) => {
            Default_::Literal(array(&text, whole).unwrap_or(Value::String(text)))
        }
        (Default_::Literal(Value::String(text)), None) if json => {
            Default_::Literal(serde_json::from_str(&text).unwrap_or(Value::String(text)))
        }
        (default, _) => default,
    };
    match database_default(site, scope, expr).map(typed) {
        Some(default) => declared.database_default = Some(Box::new(default)),
        None if expr.kind == ExprKind::Null => {}
        None => {
            declared.extras.insert(
                "server_default".into(),
                json!({ "code": scope.project.sources.text(expr.span) }),
            );
        }
    }
}

fn is_call(scope: &Scope<'_>, expr: &Expr, name: &str) -> bool {
    expr.call().is_some_and(|call| word(scope, call) == name)
}

/// `ForeignKey("quays.id", ...)`.
fn reference<'p>(
    site: &mut Site<'_, 'p>,
    scope: Scope<'p>,
    call: &Call,
    column: &mut Column,
    span: Span,
) {
    let mut arguments = Arguments::of_call(scope, &call.arguments, &["column"], &call.named);
    let Some(target) = arguments.take_raw("column") else { return };
    let mut declared = ReferenceDeclaration { span: Some(span), ..ReferenceDeclaration::default() };
    actions(&mut declared, &mut arguments);
    match refers_to(site, &scope, &target) {
        Some(Target::Column(namespace, table, name)) => {
            (declared.namespace, declared.table, declared.references) =
                (namespace, table, vec![name]);
        }
        Some(Target::Attribute(id, attribute)) => column.by_class = Some((id, attribute)),
        None => {
            let message = format!(
                "what `{}.{}` refers to is known only at run time",
                site.class, site.attribute
            );
            site.part.diagnostics.push(
                Diagnostic::of(&codes::OPAQUE_TARGET, message)
                    .at(Some(target.span), "this target")
                    .with_help("name the column as text, `\"table.column\"`"),
            );
            return;
        }
    }
    site.part.diagnostics.extend(arguments.unread("the foreign key", span));
    if column.declared.reference.is_none() {
        column.declared.reference = Some(Box::new(declared));
    } else {
        column.references.push(declared);
    }
}

/// What a foreign key names.
pub(super) enum Target {
    /// Named schema, table, column.
    Column(Option<String>, String, String),
    /// Class and attribute.
    Attribute(String, String),
}

/// What a target names: a column by text, an attribute of a class, a column of a table object.
pub(super) fn refers_to(site: &Site<'_, '_>, scope: &Scope<'_>, target: &Expr) -> Option<Target> {
    if let Some(text) = scope.value(target).text() {
        let (rest, column) = text.rsplit_once('.')?;
        let (namespace, table) = rest
            .rsplit_once('.')
            .map_or((None, rest), |(namespace, table)| (Some(namespace.to_owned()), table));
        return Some(Target::Column(namespace, table.to_owned(), column.to_owned()));
    }
    let name = target.name()?;
    if let Some(class) = scope.class.filter(|class| class.member(name).is_some()) {
        return Some(Target::Attribute(site.reader.id(scope.file, &class.name), name.to_owned()));
    }
    let (owner, attribute) = name.rsplit_once('.')?;
    let owner = owner.strip_suffix(".c").unwrap_or(owner);
    match scope.lookup(owner) {
        Found::Class(file, class) => {
            Some(Target::Attribute(site.reader.id(file, &class.name), attribute.to_owned()))
        }
        Found::Value(file, value) => {
            let (namespace, table) = super::table::address(&Scope { file, ..*scope }, value)?;
            Some(Target::Column(namespace, table, attribute.to_owned()))
        }
        _ => None,
    }
}

/// The options of a foreign key.
pub(super) fn actions(declared: &mut ReferenceDeclaration, arguments: &mut Arguments<'_>) {
    let action = |text: Option<String>| text.and_then(|text| super::constraint::action(&text));
    declared.on_delete = action(arguments.take_text("ondelete"));
    declared.on_update = action(arguments.take_text("onupdate"));
    declared.deferrable = deferrable(arguments);
    declared.name = arguments.take_text("name");
    arguments.take_raw("use_alter");
}

/// `deferrable=True, initially="DEFERRED"`.
pub(super) fn deferrable(arguments: &mut Arguments<'_>) -> Option<Deferrable> {
    let (deferrable, initially) =
        (arguments.take_bool("deferrable"), arguments.take_text("initially"));
    match initially {
        Some(text) if text.eq_ignore_ascii_case("deferred") => Some(Deferrable::InitiallyDeferred),
        _ => deferrable.filter(|deferrable| *deferrable).map(|_| Deferrable::InitiallyImmediate),
    }
}

/// `foreign_key="quays.id"` of a class that validates.
fn foreign_key_option<'p>(
    site: &mut Site<'_, 'p>,
    arguments: &mut Arguments<'p>,
    column: &mut Column,
) {
    let Some(target) = arguments.take_raw("foreign_key") else { return };
    let scope = site.scope;
    if let Some(Target::Column(namespace, table, name)) = refers_to(site, &scope, &target) {
        let on_delete =
            arguments.take_text("ondelete").and_then(|text| super::constraint::action(&text));
        let reference = ReferenceDeclaration {
            namespace,
            table,
            references: vec![name],
            on_delete,
            span: Some(target.span),
            ..Default::default()
        };
        column.declared.reference = Some(Box::new(reference));
    }
}

/// A sequence that the application asks for numbers; on SQLite there is none.
fn sequence<'p>(site: &Site<'_, 'p>, scope: Scope<'p>, call: Option<&Call>, column: &mut Column) {
    if site.scope.project.database == Database::Sqlite {
        return;
    }
    let name = call
        .and_then(|call| call.arguments.first())
        .map(|name| scope.value(name))
        .and_then(|name| name.text().map(str::to_owned));
    column.declared.numbered = Some(false);
    column.declared.extras.insert("sequence".into(), json!(name));
}

/// `Identity(...)`, which PostgreSQL alone has.
fn identity<'p>(database: Database, scope: Scope<'p>, call: Option<&Call>, column: &mut Column) {
    let Some(call) = call.filter(|_| database == Database::PostgreSql) else { return };
    let mut arguments =
        Arguments::of_call(scope, &call.arguments, &["start", "increment"], &call.named);
    let always = arguments.take_bool("always") == Some(true);
    column.declared.identity = Some(if always { Identity::Always } else { Identity::ByDefault });
    let rest = arguments.into_extras();
    if !rest.is_empty() {
        column
            .declared
            .extras
            .insert("identity options".into(), Value::Object(rest.into_iter().collect()));
    }
}

/// `Computed("...", persisted=...)`.
fn generated(scope: Scope<'_>, call: &Call, in_silence: bool) -> Option<Generated> {
    let names = Names { scope, columns: &|_| None };
    let stored = call
        .argument("persisted")
        .map(|value| scope.value(value))
        .and_then(|value| value.boolean());
    let expression = names.expression(call.arguments.first().or_else(|| call.argument("sqltext"))?);
    Some(Generated { expression, stored: stored.unwrap_or(in_silence) })
}

/// `CheckConstraint("...", name=...)`.
pub(super) fn check(
    scope: Scope<'_>,
    call: &Call,
    span: Span,
    columns: &dyn Fn(&str) -> Option<String>,
) -> Option<CheckDeclaration> {
    let mut arguments =
        Arguments::of_call(scope, &call.arguments, &["sqltext", "name"], &call.named);
    let names = Names { scope, columns };
    let expression = names.expression(&arguments.take_raw("sqltext")?);
    let name = arguments.take_text("name");
    Some(CheckDeclaration { name, expression, extras: arguments.into_extras(), span: Some(span) })
}

/// What the application fills in.
fn in_application(
    site: &Site<'_, '_>,
    scope: &Scope<'_>,
    expr: &Expr,
    declared: &FieldDeclaration,
) -> Option<Default_> {
    if let Some(default) = member_of_enumeration(site, scope, expr, declared) {
        return Some(default);
    }
    let function =
        expr.call().is_some_and(|call| call.callee_name().rsplit('.').nth(1) == Some("func"));
    let text = is_call(scope, expr, "text");
    if function || text {
        let expression = Names { scope: *scope, columns: &|_| None }.expression(expr);
        let known = Default_::function(&expression.text).map(Default_::Function);
        return Some(
            known
                .unwrap_or_else(|| Default_::host("python", scope.project.sources.text(expr.span))),
        );
    }
    application_default(scope, expr, &[], exact)
}

/// A member of the column's own enumeration stands for what is stored of it.
fn member_of_enumeration(
    site: &Site<'_, '_>,
    scope: &Scope<'_>,
    expr: &Expr,
    declared: &FieldDeclaration,
) -> Option<Default_> {
    let wanted = declared.spelling.enumeration.as_ref().or(declared.choices.as_ref())?;
    let name = expr.name()?;
    let (owner, member) = name.rsplit_once('.')?;
    let Found::Class(_, class) = scope.lookup(owner) else { return None };
    let known = site
        .part
        .enums
        .iter()
        .rev()
        .find(|known| known.name == *wanted)
        .filter(|_| is_enumeration(class))?;
    let member = known.members.iter().find(|known| known.name == member)?;
    Some(Default_::Literal(member.value.clone()))
}

/// What the database fills in.
pub(super) fn database_default(
    site: &Site<'_, '_>,
    scope: &Scope<'_>,
    expr: &Expr,
) -> Option<Default_> {
    let database = scope.project.database;
    if let Some(text) =
        name_of_member(scope, expr).or_else(|| scope.value(expr).text().map(str::to_owned))
    {
        return Some(Default_::Literal(Value::String(text)));
    }
    if let Some(constant) = crate::host::evaluate::constant(&scope.value(expr)) {
        return Some(Default_::Literal(constant))
            .filter(|default| *default != Default_::Literal(Value::Null));
    }
    let call = expr.call().filter(|call| call.named.is_empty())?;
    if word(scope, call) == "text" {
        return scope
            .value(call.arguments.first()?)
            .text()
            .map(|text| Default_::parse_sql(&unescaped(text), database));
    }
    let expression = Names { scope: *scope, columns: &|_| None }.expression(expr);
    let _ = site;
    match expression {
        Expression { tree: Some(Tree::Literal(value)), .. } => Some(Default_::Literal(value)),
        expression if !expression.is_sql() => None,
        expression => Some(
            Default_::function(&expression.text)
                .map_or_else(|| Default_::Expression(Box::new(expression)), Default_::Function),
        ),
    }
}

/// `CallStatus.MOORED.name`.
fn name_of_member(scope: &Scope<'_>, expr: &Expr) -> Option<String> {
    let (owner, member) = expr.name()?.strip_suffix(".name")?.rsplit_once('.')?;
    matches!(scope.lookup(owner), Found::Class(_, class) if is_enumeration(class))
        .then(|| member.to_owned())
}

/// PostgreSQL's text of an array of one dimension, whose items are whole numbers or texts.
fn array(text: &str, whole: bool) -> Option<Value> {
    let inner = text.trim().strip_prefix('{')?.strip_suffix('}')?;
    let (mut items, mut item, mut quoted, mut escaped) = (Vec::new(), String::new(), false, false);
    for letter in inner.chars() {
        match letter {
            _ if escaped => {
                item.push(letter);
                escaped = false;
            }
            '\\' => escaped = true,
            '"' => quoted = !quoted,
            ',' if !quoted => items.push(std::mem::take(&mut item)),
            _ => item.push(letter),
        }
    }
    if !inner.is_empty() {
        items.push(item);
    }
    let value = |item: String| {
        if whole {
            item.trim().parse::<i64>().ok().map(Value::from)
        } else {
            Some(Value::String(item))
        }
    };
    items.into_iter().map(value).collect::<Option<_>>().map(Value::Array)
}
