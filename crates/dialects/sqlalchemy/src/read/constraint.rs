//! What is said of a class or a table as a whole: its indexes, constraints and options.

use serde_json::Value;

use super::expression::Names;
use super::{FilePart, Reader, column, last, word};
use crate::codes;
use crate::declaration::{
    Attribute, CheckDeclaration, Form, IndexDeclaration, IndexPartDeclaration, Model,
    ReferenceDeclaration, UniqueDeclaration,
};
use crate::diagnostic::Diagnostic;
use crate::host::arguments::{Arguments, kept};
use crate::host::evaluate::Scope;
use crate::host::outline::{Call, Expr, ExprKind};
use crate::schema::expression::Tree;
use crate::schema::{Action, Database, Expression, Identity};

/// Referential actions, as SQL spells them.
const ACTIONS: &[Action] =
    &[Action::NoAction, Action::Restrict, Action::Cascade, Action::SetNull, Action::SetDefault];

/// An action by its SQL text, in any case.
pub(super) fn action(text: &str) -> Option<Action> {
    ACTIONS.iter().copied().find(|action| action.sql().eq_ignore_ascii_case(text.trim()))
}

/// The value of `__table_args__`: constraints, then options.
pub(super) fn table_arguments(
    reader: &Reader<'_>,
    scope: Scope<'_>,
    value: &Expr,
    model: &mut Model,
    part: &mut FilePart,
) {
    let value = match value.name().map(|name| scope.lookup(name)) {
        Some(crate::host::project::Found::Value(_, known)) => known.clone(),
        _ => value.clone(),
    };
    match &value.kind {
        ExprKind::List(items) => {
            items.iter().for_each(|entry| item(reader, scope, entry, model, part))
        }
        ExprKind::Map(_) => options(Arguments::of_object(scope, &value), model),
        ExprKind::Operation { operator, operands } if operator == "+" => {
            operands
                .iter()
                .for_each(|operand| table_arguments(reader, scope, operand, model, part));
        }
        ExprKind::Null => {}
        _ => {
            let message = format!(
                "the constraints and options of `{}` are made at run time: they were not read",
                model.name
            );
            part.diagnostics.push(
                Diagnostic::of(&codes::OPAQUE_OPTIONS, message)
                    .at(Some(value.span), "this expression")
                    .with_help("write them as a tuple of constraints"),
            );
        }
    }
}

/// One constraint, index or dictionary of options.
pub(super) fn item(
    reader: &Reader<'_>,
    scope: Scope<'_>,
    entry: &Expr,
    model: &mut Model,
    part: &mut FilePart,
) {
    if let ExprKind::Map(_) = &entry.kind {
        return options(Arguments::of_object(scope, entry), model);
    }
    if let ExprKind::Spread(inner) = &entry.kind {
        return table_arguments(reader, scope, inner, model, part);
    }
    let Some(call) = entry.call() else { return unread(scope, entry, model, part) };
    // What only one server gets.
    if let ExprKind::Operation { operator, operands } = &call.callee.kind {
        let server =
            call.argument("dialect").or(call.arguments.first()).map(|name| scope.value(name));
        let here = server
            .as_ref()
            .and_then(Expr::text)
            .is_none_or(|name| is_here(name, scope.project.database));
        return match (operator.as_str(), operands.first()) {
            (".ddl_if", Some(inner)) if here => item(reader, scope, inner, model, part),
            (".ddl_if", Some(_)) => {}
            _ => unread(scope, entry, model, part),
        };
    }
    match word(&scope, call).as_str() {
        "Index" => model.indexes.extend(index(scope, call, entry, model)),
        "UniqueConstraint" => {
            let declared = unique(scope, call, entry, model);
            model.uniques.extend(Some(declared).filter(|declared| !declared.attributes.is_empty()));
        }
        "CheckConstraint" => {
            let columns = columns_of(model);
            let found = column::check(scope, call, entry.span, &|name| stored(&columns, name));
            model.checks.extend(found.map(|mut check| {
                check.name = given_name(reader, "ck", check.name, &model.table);
                check
            }));
        }
        "PrimaryKeyConstraint" => key(scope, call, model),
        "ForeignKeyConstraint" => reference(scope, call, entry, model),
        "ExcludeConstraint" => model.exclusions.push(exclusion(scope, call, entry)),
        _ => unread(scope, entry, model, part),
    }
}

fn is_here(name: &str, database: Database) -> bool {
    name == database.id() || (name == "mysql" && database == Database::MariaDb)
}

fn unread(scope: Scope<'_>, entry: &Expr, model: &Model, part: &mut FilePart) {
    let text: String = scope.project.sources.text(entry.span).chars().take(60).collect();
    let message =
        format!("`{text}` among the constraints of `{}` was not read: it is left out", model.name);
    part.diagnostics
        .push(Diagnostic::of(&codes::UNREAD_OPTION, message).at(Some(entry.span), "not known"));
}

/// A name to which the project's own pattern is applied, where the pattern asks for it.
pub(super) fn given_name(
    reader: &Reader<'_>,
    kind: &str,
    name: Option<String>,
    table: &Option<String>,
) -> Option<String> {
    let name = name?;
    let Some(pattern) = reader
        .known
        .name_patterns
        .get(kind)
        .filter(|pattern| pattern.contains("%(constraint_name)s"))
    else {
        return Some(name);
    };
    Some(
        pattern
            .replace("%(constraint_name)s", &name)
            .replace("%(table_name)s", table.as_deref().unwrap_or_default()),
    )
}

/// The options of a table.
pub(super) fn options(mut arguments: Arguments<'_>, model: &mut Model) {
    model.namespace = arguments.take_text("schema").or(model.namespace.take());
    model.comment = arguments.take_text("comment").or(model.comment.take());
    if arguments.take_bool("sqlite_autoincrement") == Some(true)
        && arguments.scope.project.database == Database::Sqlite
    {
        for attribute in &mut model.attributes {
            if let Attribute::Field(field) = attribute
                && field.key
            {
                field.identity = Some(Identity::AutoIncrement);
            }
        }
    }
    if let Some(info) = arguments.take("info") {
        let says = |word: &str| info.entry(word).and_then(Expr::boolean) == Some(true);
        match (says("created_elsewhere"), says("is_view")) {
            (true, _) => model.managed = Some(false),
            (_, true) => model.form = Form::View,
            _ => {
                model.extras.insert("info".into(), kept(&arguments.scope, &info));
            }
        }
    }
    model.extras.append(&mut arguments.into_extras());
}

/// Attributes with their columns.
pub(super) type Columns = Vec<(String, String)>;

pub(super) fn columns_of(model: &Model) -> Columns {
    let column = |attribute: &Attribute| match attribute {
        Attribute::Field(field) => {
            let column = field.column.clone().or_else(|| field.name.clone())?;
            Some((field.name.clone().unwrap_or_else(|| column.clone()), column))
        }
        _ => None,
    };
    model.attributes.iter().filter_map(column).collect()
}

/// The column behind a name of the class.
pub(super) fn stored(columns: &Columns, name: &str) -> Option<String> {
    columns.iter().find(|(attribute, _)| attribute == name).map(|(_, column)| column.clone())
}

/// The attribute that stands for a column, which texts name.
fn attribute(columns: &Columns, column: &str) -> String {
    columns
        .iter()
        .find(|(_, known)| known == column)
        .map_or_else(|| column.to_owned(), |(attribute, _)| attribute.clone())
}

/// Attributes named by texts or by themselves.
fn attributes(scope: &Scope<'_>, items: &[Expr], model: &Model) -> Vec<String> {
    let columns = columns_of(model);
    let name =
        |item: &Expr| match item.name().map(last).filter(|name| stored(&columns, name).is_some()) {
            Some(name) => Some(name.to_owned()),
            None => scope
                .value(item)
                .text()
                .map(|text| attribute(&columns, text))
                .or_else(|| item.name().map(|name| last(name).to_owned())),
        };
    items
        .iter()
        .flat_map(|item| item.list().unwrap_or(std::slice::from_ref(item)))
        .filter_map(name)
        .collect()
}

pub(super) fn unique(
    scope: Scope<'_>,
    call: &Call,
    entry: &Expr,
    model: &Model,
) -> UniqueDeclaration {
    let mut arguments = Arguments::of_call(scope, &[], &[], &call.named);
    let items: Vec<Expr> = spread(&scope, &call.arguments);
    let nulls = arguments.take_bool("postgresql_nulls_not_distinct") == Some(true);
    UniqueDeclaration {
        attributes: attributes(&scope, &items, model),
        name: arguments.take_text("name"),
        deferrable: column::deferrable(&mut arguments),
        nulls_not_distinct: nulls && scope.project.database == Database::PostgreSql,
        extras: arguments.into_extras(),
        span: Some(entry.span),
    }
}

/// Arguments with those in the place of `*names`.
fn spread(scope: &Scope<'_>, items: &[Expr]) -> Vec<Expr> {
    let item = |item: &Expr| match &item.kind {
        ExprKind::Spread(inner) => {
            scope.value(inner).list().map(<[Expr]>::to_vec).unwrap_or_default()
        }
        _ => vec![item.clone()],
    };
    items.iter().flat_map(item).collect()
}

pub(super) fn key(scope: Scope<'_>, call: &Call, model: &mut Model) {
    let names = attributes(&scope, &spread(&scope, &call.arguments), model);
    model.key_name = call
        .argument("name")
        .map(|name| scope.value(name))
        .and_then(|name| name.text().map(str::to_owned));
    for field in model.attributes.iter_mut() {
        if let Attribute::Field(field) = field {
            let own = field.name.as_ref().or(field.column.as_ref());
            field.key |= own.is_some_and(|own| names.contains(own));
        }
    }
    let named = |attribute: &Attribute| match attribute {
        Attribute::Field(field) if field.key => field.name.clone().or_else(|| field.column.clone()),
        _ => None,
    };
    let in_order: Vec<String> = model.attributes.iter().filter_map(named).collect();
    model.key = Some(names).filter(|names| *names != in_order && names.len() > 1);
}

pub(super) fn reference(scope: Scope<'_>, call: &Call, entry: &Expr, model: &mut Model) {
    let mut arguments =
        Arguments::of_call(scope, &call.arguments, &["columns", "refcolumns", "name"], &call.named);
    let list = |arguments: &mut Arguments<'_>, name: &str| {
        arguments
            .take_raw(name)
            .map(|list| spread(&scope, list.list().unwrap_or_default()))
            .unwrap_or_default()
    };
    let own = list(&mut arguments, "columns");
    let targets: Vec<String> = list(&mut arguments, "refcolumns")
        .iter()
        .filter_map(|target| scope.value(target).text().map(str::to_owned))
        .collect();
    let Some((rest, _)) = targets.first().and_then(|target| target.rsplit_once('.')) else {
        return;
    };
    let (namespace, table) = rest
        .rsplit_once('.')
        .map_or((None, rest), |(namespace, table)| (Some(namespace.to_owned()), table));
    let mut declared = ReferenceDeclaration {
        columns: attributes(&scope, &own, model),
        namespace,
        table: table.to_owned(),
        references: targets.iter().map(|target| last(target).to_owned()).collect(),
        span: Some(entry.span),
        ..ReferenceDeclaration::default()
    };
    column::actions(&mut declared, &mut arguments);
    // A key over one column is that column's own.
    if let [only] = declared.columns.as_slice() {
        for attribute in &mut model.attributes {
            if let Attribute::Field(field) = attribute
                && field.name.as_ref().or(field.column.as_ref()) == Some(only)
                && field.reference.is_none()
            {
                declared.columns.clear();
                field.reference = Some(Box::new(declared));
                return;
            }
        }
    }
    model.references.push(declared);
}

fn exclusion(scope: Scope<'_>, call: &Call, entry: &Expr) -> CheckDeclaration {
    let name = call
        .argument("name")
        .map(|name| scope.value(name))
        .and_then(|name| name.text().map(str::to_owned));
    let expression = Expression::host("python", scope.project.sources.text(entry.span));
    CheckDeclaration { name, expression, extras: Default::default(), span: Some(entry.span) }
}

/// `Index("name", "column", ...)`.
pub(super) fn index(
    scope: Scope<'_>,
    call: &Call,
    entry: &Expr,
    model: &Model,
) -> Option<IndexDeclaration> {
    let mut arguments = Arguments::of_call(scope, &[], &[], &call.named);
    let items = spread(&scope, &call.arguments);
    let (name, items) = items.split_first()?;
    let columns = columns_of(model);
    let stored = |name: &str| self::stored(&columns, name);
    let names = Names { scope, columns: &stored };
    let database = scope.project.database;
    let mut parts: Vec<IndexPartDeclaration> =
        items.iter().map(|item| part(&names, &columns, item)).collect();
    if let Some(ExprKind::Map(classes)) = arguments
        .take("postgresql_ops")
        .map(|classes| classes.kind)
        .filter(|_| database == Database::PostgreSql)
    {
        for (column, class) in
            classes.iter().filter_map(|(column, class)| Some((column.text()?, class.text()?)))
        {
            let own = attribute(&columns, column);
            parts
                .iter_mut()
                .filter(|part| part.attribute.as_ref() == Some(&own))
                .for_each(|part| part.operator_class = Some(class.to_owned()));
        }
    }
    let mut here = |option: &str| {
        let words: &[&str] = match database {
            Database::PostgreSql | Database::MongoDb => &["postgresql"],
            Database::Sqlite => &["sqlite"],
            Database::MariaDb => &["mariadb", "mysql"],
            Database::MySql => &["mysql"],
        };
        words.iter().find_map(|word| arguments.take_raw(&format!("{word}_{option}")))
    };
    let condition = here("where").map(|condition| Box::new(names.expression(&condition)));
    let method = here("using")
        .and_then(|method| scope.value(&method).text().map(str::to_lowercase))
        .filter(|method| method != "btree");
    let include = here("include")
        .map(|list| attributes(&scope, &[scope.value(&list)], model))
        .unwrap_or_default();
    let nulls =
        here("nulls_not_distinct").and_then(|value| scope.value(&value).boolean()) == Some(true);
    // Conditions for other servers are kept as their SQL.
    let elsewhere: Vec<(String, Value)> = OTHER_CONDITIONS
        .iter()
        .filter_map(|option| Some((option, arguments.take_raw(option)?)))
        .map(|(option, condition)| {
            let text =
                names.text(&condition).map_or_else(|| kept(&scope, &condition), Value::String);
            ((*option).to_owned(), text)
        })
        .collect();
    Some(IndexDeclaration {
        parts,
        unique: arguments.take_bool("unique").unwrap_or(false),
        condition,
        method,
        include,
        name: scope.value(name).text().map(str::to_owned),
        nulls_not_distinct: nulls,
        extras: arguments.into_extras().into_iter().chain(elsewhere).collect(),
        span: Some(entry.span),
    })
}

/// Conditions of an index, by server.
const OTHER_CONDITIONS: &[&str] = &["postgresql_where", "sqlite_where", "mssql_where"];

/// One key of an index: a column, or an expression, up or down.
fn part(names: &Names<'_, '_>, columns: &Columns, item: &Expr) -> IndexPartDeclaration {
    if let Some(name) = item.name().map(last).filter(|name| stored(columns, name).is_some()) {
        return IndexPartDeclaration {
            attribute: Some(name.to_owned()),
            ..IndexPartDeclaration::default()
        };
    }
    if let Some(call) = item.call().filter(|call| call.named.is_empty()) {
        let (turn, inner) = match &call.callee.kind {
            ExprKind::Operation { operator, operands } => {
                (operator.trim_start_matches('.').to_owned(), operands.first().cloned())
            }
            ExprKind::Name(name) => match name.rsplit_once('.') {
                Some((owner, method)) if call.arguments.is_empty() => (
                    method.to_owned(),
                    Some(Expr { kind: ExprKind::Name(owner.into()), span: call.callee.span }),
                ),
                _ => (last(name).to_owned(), call.arguments.first().cloned()),
            },
            _ => (String::new(), None),
        };
        if let ("desc" | "asc", Some(inner)) = (turn.as_str(), inner) {
            return IndexPartDeclaration {
                descending: turn == "desc",
                ..part(names, columns, &inner)
            };
        }
    }
    let text = names.text(item);
    if let (Some(text), None) = (&text, item.call()) {
        return IndexPartDeclaration {
            attribute: Some(attribute(columns, text)),
            ..IndexPartDeclaration::default()
        };
    }
    let Some(text) = text else {
        return IndexPartDeclaration {
            expression: Some(Box::new(names.expression(item))),
            ..IndexPartDeclaration::default()
        };
    };
    let (text, descending) = turned(text.trim());
    let (text, class) = match text.rsplit_once(' ') {
        Some((rest, class)) if class.ends_with("_ops") => (rest, Some(class.to_owned())),
        _ => (text, None),
    };
    let expression = Expression::parse_sql_of(text, names.scope.project.database);
    let part = IndexPartDeclaration {
        descending,
        operator_class: class,
        ..IndexPartDeclaration::default()
    };
    match &expression.tree {
        Some(Tree::Column(column)) => {
            IndexPartDeclaration { attribute: Some(attribute(columns, column)), ..part }
        }
        _ => IndexPartDeclaration { expression: Some(Box::new(expression)), ..part },
    }
}

/// A key of an index without its direction, and whether that is downward.
fn turned(text: &str) -> (&str, bool) {
    let ends = |word: &str| {
        text.len() > word.len()
            && text.is_char_boundary(text.len() - word.len())
            && text[text.len() - word.len()..].eq_ignore_ascii_case(word)
    };
    match (ends(" desc"), ends(" asc")) {
        (true, _) => (text[..text.len() - 5].trim_end(), true),
        (_, true) => (text[..text.len() - 4].trim_end(), false),
        _ => (text, false),
    }
}
