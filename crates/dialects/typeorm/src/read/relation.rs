//! `@ManyToOne`, `@OneToOne`, `@OneToMany` and `@ManyToMany`, with their join columns and tables.

use super::column::MemberReader;
use super::{Reader, last};
use crate::codes;
use crate::declaration::{
    Attribute, FieldDeclaration, InverseDeclaration, InverseKind, JoinColumn, JoinTable,
    RelationDeclaration,
};
use crate::diagnostic::Diagnostic;
use crate::host::arguments::Arguments;
use crate::host::evaluate::Scope;
use crate::host::outline::{Call, Expr, ExprKind};
use crate::host::project::Found;
use crate::schema::{Action, Deferrable, RelationKind};
use crate::source::Span;

/// The relation decorators.
pub(super) const KINDS: &[&str] =
    &["ManyToOne", "OneToOne", "OneToMany", "ManyToMany", "TreeParent", "TreeChildren"];

/// Values of `onDelete` and `onUpdate`.
const ACTIONS: &[(&str, Action)] = &[
    ("CASCADE", Action::Cascade),
    ("SET NULL", Action::SetNull),
    ("SET DEFAULT", Action::SetDefault),
    ("RESTRICT", Action::Restrict),
    ("NO ACTION", Action::NoAction),
    ("DEFAULT", Action::NoAction),
];

/// Values of `deferrable`.
pub(super) const DEFERRABLE: &[(&str, Deferrable)] = &[
    ("INITIALLY DEFERRED", Deferrable::InitiallyDeferred),
    ("INITIALLY IMMEDIATE", Deferrable::InitiallyImmediate),
];

/// Reads the relation that `call` declares, with the other decorators of its property.
pub(super) fn read(
    member: &mut MemberReader<'_, '_>,
    call: &Call,
    all: &[&Call],
) -> Option<Vec<Attribute>> {
    let scope = member.scope;
    let word = last(call.callee_name());
    let decorator =
        |name: &str| all.iter().find(|other| last(other.callee_name()) == name).copied();
    let own = member.reader.id(scope.file, member.class);
    let target = match word {
        "TreeParent" | "TreeChildren" => Some(own),
        _ => call.arguments.first().and_then(|target| self::target(member.reader, &scope, target)),
    };
    let Some(target) = target else {
        member.part.diagnostics.push(
            Diagnostic::of(
                &codes::OPAQUE_TARGET,
                format!("the target of `{}` is known only at run time", member.member.name),
            )
            .at(Some(member.member.span), "relation to an unknown entity")
            .with_help("name the entity as `() => Class`, and import it from a file in reach"),
        );
        return None;
    };
    let inverse = call.arguments.get(1).and_then(|inverse| property(&scope, inverse));
    let mut options = super::trailing_options(scope, call);
    let owning = match word {
        "ManyToOne" | "TreeParent" => true,
        "OneToOne" => decorator("JoinColumn").is_some(),
        "ManyToMany" => decorator("JoinTable").is_some(),
        _ => false,
    };
    if !owning {
        return inverse_side(member, word, target, inverse, options).map(|side| vec![side]);
    }
    let kind = match word {
        "OneToOne" => RelationKind::OneToOne,
        "ManyToMany" => RelationKind::ManyToMany,
        _ => RelationKind::ManyToOne,
    };
    let mut relation = RelationDeclaration::new(Some(member.member.name.to_string()), kind, target);
    relation.span = Some(member.member.span);
    relation_options(&mut relation, &mut options);
    relation.carrier.optional_in_code = Some(member.optional());
    relation.carrier.span = Some(member.member.span);
    relation.carrier.key = decorator("PrimaryColumn").is_some();
    if let Some(join) = decorator("JoinColumn") {
        relation.join_columns = join_columns(scope, join, &mut member.part.diagnostics);
    }
    if let Some(join) = decorator("JoinTable") {
        let options = super::trailing_options(scope, join);
        relation.join_table =
            table_of(scope, options, join.callee.span, &mut member.part.diagnostics);
    }
    relation.extras = options.into_extras();
    Some(vec![Attribute::Relation(Box::new(relation))])
}

/// The options that classes and schema objects share.
pub(super) fn relation_options(relation: &mut RelationDeclaration, options: &mut Arguments<'_>) {
    relation.carrier =
        FieldDeclaration { nullable: options.take_bool("nullable"), ..FieldDeclaration::default() };
    let action = |text: Option<String>| {
        ACTIONS.iter().find(|(known, _)| Some(*known) == text.as_deref()).map(|(_, action)| *action)
    };
    relation.on_delete = action(options.take_text("onDelete"));
    relation.on_update = action(options.take_text("onUpdate"));
    relation.constraint = options.take_bool("createForeignKeyConstraints");
    let deferrable = options.take_text("deferrable");
    relation.deferrable = DEFERRABLE
        .iter()
        .find(|(known, _)| Some(*known) == deferrable.as_deref())
        .map(|(_, deferrable)| *deferrable);
}

fn inverse_side(
    member: &MemberReader<'_, '_>,
    word: &str,
    target: String,
    owner: Option<String>,
    options: Arguments<'_>,
) -> Option<Attribute> {
    let kind = match word {
        "OneToMany" | "TreeChildren" => InverseKind::OneToMany,
        "OneToOne" => InverseKind::OneToOne,
        _ => InverseKind::ManyToMany,
    };
    let owner = match word {
        "TreeChildren" => {
            let parent = |other: &&crate::host::outline::Member| {
                other
                    .decorators
                    .iter()
                    .filter_map(Expr::call)
                    .any(|call| last(call.callee_name()) == "TreeParent")
            };
            member.class.members.iter().find(parent).map(|parent| parent.name.to_string())
        }
        _ => owner,
    }?;
    let name = member.member.name.to_string();
    Some(Attribute::Inverse(Box::new(InverseDeclaration {
        name,
        kind,
        target,
        owner,
        columns: Vec::new(),
        extras: options.into_extras(),
        span: Some(member.member.span),
    })))
}

/// The id of an entity named by a function, by class or by text.
pub(super) fn target(reader: &Reader<'_>, scope: &Scope<'_>, expr: &Expr) -> Option<String> {
    match &expr.kind {
        ExprKind::Function { returns: Some(returned), .. } => target(reader, scope, returned),
        ExprKind::Name(name) => match scope.lookup(name) {
            Found::Class(file, class) => Some(reader.id(file, class)),
            Found::Value(_, value) => {
                schema_name(value).and_then(|name| target_by_name(reader, &name))
            }
            _ => reader
                .known
                .ids
                .get(last(name))
                .cloned()
                .or_else(|| Some(format!("elsewhere.{}", last(name)))),
        },
        ExprKind::Text(name) => target_by_name(reader, name),
        _ => None,
    }
}

fn target_by_name(reader: &Reader<'_>, name: &str) -> Option<String> {
    Some(reader.known.ids.get(name).cloned().unwrap_or_else(|| format!("elsewhere.{name}")))
}

/// The name that a schema object gives itself.
pub(super) fn schema_name(value: &Expr) -> Option<String> {
    let call = value.call().filter(|call| call.callee_name() == "new EntitySchema")?;
    let ExprKind::Map(pairs) = &call.arguments.first()?.kind else { return None };
    pairs
        .iter()
        .find(|(key, _)| key.text() == Some("name"))
        .and_then(|(_, value)| value.text().map(str::to_owned))
}

/// A property named by `(x) => x.property` or by text.
pub(super) fn property(scope: &Scope<'_>, expr: &Expr) -> Option<String> {
    match &expr.kind {
        ExprKind::Function { returns: Some(returned), .. } => selected(returned),
        ExprKind::Map(_) => None,
        _ => scope.value(expr).text().map(str::to_owned),
    }
}

/// The property of `x.property` or `x['property']`.
pub(super) fn selected(expr: &Expr) -> Option<String> {
    match &expr.kind {
        ExprKind::Name(path) => path.split_once('.').map(|(_, name)| name.to_owned()),
        ExprKind::Operation { operator, operands } if operator == "[]" => match operands.as_slice()
        {
            [from, name] if from.name().is_some_and(|from| !from.contains('.')) => {
                name.text().map(str::to_owned)
            }
            _ => None,
        },
        _ => None,
    }
}

fn join_columns(
    scope: Scope<'_>,
    call: &Call,
    diagnostics: &mut Vec<Diagnostic>,
) -> Vec<JoinColumn> {
    let Some(first) = call.arguments.first().map(|first| scope.value(first)) else {
        return Vec::new();
    };
    match &first.kind {
        ExprKind::List(items) => {
            items.iter().map(|item| join_column(scope, item, diagnostics)).collect()
        }
        _ => vec![join_column(scope, &first, diagnostics)],
    }
}

pub(super) fn join_column(
    scope: Scope<'_>,
    expr: &Expr,
    diagnostics: &mut Vec<Diagnostic>,
) -> JoinColumn {
    let mut options = Arguments::of_object(scope, expr);
    let column = JoinColumn {
        name: options.take_text("name"),
        references: options.take_text("referencedColumnName"),
        constraint_name: options.take_text("foreignKeyConstraintName"),
    };
    diagnostics.extend(options.unread("a join column", expr.span));
    column
}

/// `joinTable` as an object.
pub(super) fn table_of(
    scope: Scope<'_>,
    mut options: Arguments<'_>,
    at: Span,
    diagnostics: &mut Vec<Diagnostic>,
) -> JoinTable {
    let mut column = |one: &str, several: &str| {
        let list = options
            .take(several)
            .and_then(|list| list.list().map(<[Expr]>::to_vec))
            .unwrap_or_default();
        let columns: Vec<Expr> = options.take(one).into_iter().chain(list).collect();
        if let Some(second) = columns.get(1) {
            let message = "a join table's second column to one side was not read: only keys of \
                           one column are joined";
            diagnostics.push(
                Diagnostic::of(&codes::COMPOSITE_JOIN_TABLE, message)
                    .at(Some(second.span), "this column is missing from the join table")
                    .with_help("declare the join table as an entity of its own"),
            );
        }
        columns.first().map(|column| join_column(scope, column, diagnostics)).unwrap_or_default()
    };
    let (own, other) =
        (column("joinColumn", "joinColumns"), column("inverseJoinColumn", "inverseJoinColumns"));
    let table = JoinTable {
        name: options.take_text("name"),
        namespace: options.take_text("schema"),
        column: own,
        inverse_column: other,
    };
    diagnostics.extend(options.unread("a join table", at));
    table
}
