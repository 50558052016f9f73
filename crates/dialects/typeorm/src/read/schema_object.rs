//! `new EntitySchema({...})`: the same options as the decorators, as one object.

use super::relation::{join_column, relation_options, table_of, target};
use super::spelling::Site;
use super::{FilePart, Reader, column, constraints, entity_options};
use crate::codes;
use crate::declaration::{
    Attribute, CheckDeclaration, FieldDeclaration, Form, IndexDeclaration, IndexPartDeclaration,
    InverseDeclaration, InverseKind, Model, RelationDeclaration, UniqueDeclaration,
};
use crate::diagnostic::Diagnostic;
use crate::dialect::Conventions;
use crate::host::arguments::Arguments;
use crate::host::evaluate::Scope;
use crate::host::outline::{Call, Expr, ExprKind};
use crate::schema::{Expression, Purpose, RelationKind};
use crate::types::inferred;

/// Switches of a column object and the purposes that they stand for.
const PURPOSES: &[(&str, Purpose)] = &[
    ("createDate", Purpose::CreationTime),
    ("updateDate", Purpose::UpdateTime),
    ("deleteDate", Purpose::DeletionTime),
    ("version", Purpose::Version),
];

/// Reads one schema object.
pub(super) fn read(
    reader: &Reader<'_>,
    scope: Scope<'_>,
    module: &str,
    call: &Call,
    part: &mut FilePart,
) -> Option<Model> {
    let object = call.arguments.first()?;
    let mut options = Arguments::of_object(scope, object);
    let name = options.take_text("name")?;
    let table = options.take_text("tableName");
    let mut model = Model {
        id: format!("{module}.{name}"),
        name,
        module: module.to_owned(),
        form: Form::Concrete,
        span: Some(object.span),
        ..Model::default()
    };
    entity_options(&mut options, &mut model);
    model.table = table;
    for (name, value) in entries(options.take("columns")) {
        let class = model.name.clone();
        let site = Site {
            reader,
            scope,
            class: &class,
            attribute: &name,
            span: value.span,
            part,
            checks: &mut model.checks,
        };
        let column = column_of(site, &value);
        model.attributes.push(Attribute::Field(Box::new(column)));
    }
    for (name, value) in entries(options.take("relations")) {
        match relation(reader, scope, &name, &value, part) {
            Some(attribute) => model.attributes.push(attribute),
            None => part.diagnostics.push(
                Diagnostic::of(
                    &codes::OPAQUE_TARGET,
                    format!("the relation `{name}` is known only at run time"),
                )
                .at(Some(value.span), "relation to an unknown entity")
                .with_help("give `type` and `target` as texts"),
            ),
        }
    }
    for item in list(options.take("indices")) {
        model.indexes.push(index(scope, &reader.known.conventions, &item));
    }
    for item in list(options.take("uniques")) {
        model.uniques.push(unique(scope, &item));
    }
    for item in list(options.take("checks")) {
        let mut check = Arguments::of_object(scope, &item);
        let name = check.take_text("name");
        let text = check.take_text("expression");
        let extras = check.into_extras();
        let declared = |text: String| CheckDeclaration {
            name,
            expression: Expression::parse_sql_of(&text, scope.project.database),
            extras,
            span: Some(item.span),
        };
        model.checks.extend(text.map(declared));
    }
    options.take_raw("target");
    model.extras.append(&mut options.into_extras());
    Some(model)
}

fn index(scope: Scope<'_>, conventions: &Conventions, item: &Expr) -> IndexDeclaration {
    let mut index = Arguments::of_object(scope, item);
    let columns = index
        .take("columns")
        .map_or(Vec::new(), |columns| constraints::properties(&scope, &columns));
    let part =
        |name| IndexPartDeclaration { attribute: Some(name), ..IndexPartDeclaration::default() };
    IndexDeclaration {
        parts: columns.into_iter().map(part).collect(),
        unique: index.take_bool("unique").unwrap_or(false),
        condition: index
            .take_text("where")
            .map(|text| Box::new(Expression::parse_sql_of(&text, scope.project.database))),
        method: constraints::method(&mut index, conventions),
        name: index.take_text("name"),
        extras: index.into_extras(),
        span: Some(item.span),
        ..IndexDeclaration::default()
    }
}

fn unique(scope: Scope<'_>, item: &Expr) -> UniqueDeclaration {
    let mut unique = Arguments::of_object(scope, item);
    let attributes = unique
        .take("columns")
        .map_or(Vec::new(), |columns| constraints::properties(&scope, &columns));
    let (deferrable, name) = (constraints::deferrable(&mut unique), unique.take_text("name"));
    let extras = unique.into_extras();
    UniqueDeclaration {
        attributes,
        name,
        deferrable,
        extras,
        span: Some(item.span),
        ..Default::default()
    }
}

fn entries(object: Option<Expr>) -> Vec<(String, Expr)> {
    match object.map(|object| object.kind) {
        Some(ExprKind::Map(pairs)) => pairs
            .into_iter()
            .filter_map(|(key, value)| Some((key.text()?.to_owned(), value)))
            .collect(),
        _ => Vec::new(),
    }
}

fn list(expr: Option<Expr>) -> Vec<Expr> {
    expr.and_then(|expr| expr.list().map(<[Expr]>::to_vec)).unwrap_or_default()
}

fn column_of(mut site: Site<'_, '_>, object: &Expr) -> FieldDeclaration {
    let (scope, conventions) = (site.scope, &site.reader.known.conventions);
    let mut options = Arguments::of_object(scope, object);
    let mut declared = FieldDeclaration {
        name: Some(site.attribute.to_owned()),
        optional_in_code: Some(false),
        span: Some(object.span),
        ..FieldDeclaration::default()
    };
    declared.purpose = PURPOSES
        .iter()
        .find(|(switch, _)| options.take_bool(switch) == Some(true))
        .map(|(_, purpose)| *purpose);
    column::options(&scope, &mut declared, &mut options);
    let word = options
        .take("type")
        .and_then(|ty| ty.text().or(ty.name()).map(str::to_owned))
        .unwrap_or_else(|| "varchar".into());
    let word = inferred(&word, conventions.database).map_or(word, str::to_owned);
    declared.spelling = site.spelling(word, declared.purpose, &mut declared, &mut options);
    column::typed_default(&mut declared, conventions.database);
    let mut made = false;
    match options.take("generated").map(|strategy| strategy.kind) {
        Some(ExprKind::Text(strategy)) => {
            made = strategy == "uuid";
            column::generated(&strategy, conventions, &mut declared)
        }
        Some(ExprKind::Boolean(true)) => column::generated("increment", conventions, &mut declared),
        _ => {}
    }
    declared.extras = options.into_extras();
    column::plain_identifier(&mut declared, conventions, made);
    let vain = column::unmade_expression(&mut declared, conventions, site.class);
    site.part.diagnostics.extend(vain);
    declared
}

fn relation(
    reader: &Reader<'_>,
    scope: Scope<'_>,
    name: &str,
    object: &Expr,
    part: &mut FilePart,
) -> Option<Attribute> {
    let mut options = Arguments::of_object(scope, object);
    let word = options.take_text("type")?;
    let target = options.take_raw("target").and_then(|expr| target(reader, &scope, &expr))?;
    let inverse = options.take_text("inverseSide");
    let join_columns = options.take("joinColumn");
    let join_table = options.take("joinTable");
    let kind = match (word.as_str(), &join_columns, &join_table) {
        ("many-to-one", _, _) => RelationKind::ManyToOne,
        ("one-to-one", Some(_), _) => RelationKind::OneToOne,
        ("many-to-many", _, Some(_)) => RelationKind::ManyToMany,
        (word, _, _) => {
            let kind = match word {
                "one-to-many" => InverseKind::OneToMany,
                "one-to-one" => InverseKind::OneToOne,
                _ => InverseKind::ManyToMany,
            };
            let extras = options.into_extras();
            return Some(Attribute::Inverse(Box::new(InverseDeclaration {
                name: name.to_owned(),
                kind,
                target,
                owner: inverse?,
                columns: Vec::new(),
                extras,
                span: Some(object.span),
            })));
        }
    };
    let mut relation = RelationDeclaration::new(Some(name.to_owned()), kind, target);
    relation.span = Some(object.span);
    relation_options(&mut relation, &mut options);
    relation.carrier.optional_in_code = Some(false);
    relation.carrier.span = Some(object.span);
    relation.carrier.key = options.take_bool("primary").unwrap_or(false);
    relation.join_columns = match join_columns {
        Some(join) if matches!(join.kind, ExprKind::Map(_)) => {
            vec![join_column(scope, &join, &mut part.diagnostics)]
        }
        Some(join) => {
            let items = join.list().unwrap_or_default();
            items.iter().map(|join| join_column(scope, join, &mut part.diagnostics)).collect()
        }
        None => Vec::new(),
    };
    if let Some(join) = join_table {
        relation.join_table =
            table_of(scope, Arguments::of_object(scope, &join), join.span, &mut part.diagnostics);
    }
    relation.extras = options.into_extras();
    Some(Attribute::Relation(Box::new(relation)))
}
