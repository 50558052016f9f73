//! Classes whose members say by decorators what they are (those of sequelize-typescript 2.1.6).

use smol_str::SmolStr;

use super::association::{self, Association, ForeignKey, Kind, Through};
use super::{Draft, FilePart, Reader, Target, attribute, index, model};
use crate::declaration::{FieldDeclaration, IndexDeclaration, IndexPartDeclaration};
use crate::diagnostic::Diagnostic;
use crate::host::arguments::Arguments;
use crate::host::decorators;
use crate::host::outline::{Call, Class, Expr, ExprKind, Member};
use crate::host::project::Project;
use crate::host::typescript::place::{Place, last};
use crate::source::FileId;

/// Decorators of associations.
const ASSOCIATIONS: &[(&str, Kind)] = &[
    ("BelongsTo", Kind::BelongsTo),
    ("HasMany", Kind::HasMany),
    ("HasOne", Kind::HasOne),
    ("BelongsToMany", Kind::BelongsToMany),
];

/// Decorators that make a column, or say more of one.
const COLUMNS: &[&str] = &[
    "Column",
    "PrimaryKey",
    "AutoIncrement",
    "AllowNull",
    "Default",
    "Unique",
    "Comment",
    "CreatedAt",
    "UpdatedAt",
    "DeletedAt",
    "ForeignKey",
    "Index",
];

/// Decorators of times that the framework keeps.
const TIMES: &[&str] = &["CreatedAt", "UpdatedAt", "DeletedAt"];

/// The data type of a member's own type, where the column says none.
const INFERRED: &[(&str, &str)] = &[
    ("string", "STRING"),
    ("number", "INTEGER"),
    ("boolean", "BOOLEAN"),
    ("bigint", "BIGINT"),
    ("Date", "DATE"),
];

/// Reads every decorated class of a file.
pub(super) fn read(reader: &Reader<'_>, file: FileId, part: &mut FilePart) {
    for class in
        reader.project.outlines[file.0 as usize].classes.iter().filter(|class| is_decorated(class))
    {
        let place = Place::top(reader.project, file);
        let draft = draft(reader, &place, class, part);
        part.drafts.push(draft);
    }
}

/// What is said once of decorators that say nothing of tables.
pub(super) fn left_out(project: &Project) -> Option<Diagnostic> {
    decorators::left_out(
        project,
        |_, class| {
            let members = class.members.iter().flat_map(|member| &member.decorators);
            let all = class.decorators.iter().chain(members);
            if is_decorated(class) { all.collect() } else { Vec::new() }
        },
        |name| {
            name == "Table"
                || COLUMNS.contains(&name)
                || ASSOCIATIONS.iter().any(|(known, _)| *known == name)
        },
    )
}

fn is_decorated(class: &Class) -> bool {
    class.decorators.iter().any(|decorator| word(decorator) == "Table")
}

/// The last name of a decorator.
fn word(decorator: &Expr) -> &str {
    let callee = decorator.call().map_or(decorator, |call| &call.callee);
    callee.name().map_or("", last)
}

fn draft(reader: &Reader<'_>, place: &Place<'_>, class: &Class, part: &mut FilePart) -> Draft {
    let options =
        class.decorators.iter().find(|decorator| word(decorator) == "Table").and_then(Expr::call);
    let mut arguments = match options.and_then(|call| call.arguments.first()) {
        Some(options) => Arguments::of_object(place.scope(), &place.value(options)),
        None => Arguments::of_call(place.scope(), &[], &[], &[]),
    };
    let mut draft = model::begin(reader, place, class.name.to_string(), &mut arguments, class.span);
    for member in &class.members {
        for decorator in &member.decorators {
            draft.options.keep(word(decorator), &member.name);
        }
        match member
            .decorators
            .iter()
            .find_map(|decorator| association(place, class, member, decorator))
        {
            Some(association) => part.associations.push(association),
            None => column(reader, place, &mut draft, member, part),
        }
    }
    model::finish(reader, place, &mut draft, &mut arguments, part);
    draft.model.extras.append(&mut arguments.into_extras());
    draft
}

fn column(
    reader: &Reader<'_>,
    place: &Place<'_>,
    draft: &mut Draft,
    member: &Member,
    part: &mut FilePart,
) {
    let found = |name: &str| member.decorators.iter().find(|decorator| word(decorator) == name);
    let times = TIMES.iter().any(|name| found(name).is_some());
    // A time without a column of its own is what the framework appends.
    if !member.decorators.iter().any(|decorator| COLUMNS.contains(&word(decorator)))
        || (times && found("Column").is_none())
    {
        return;
    }
    let first = |name: &str| {
        found(name).and_then(Expr::call).and_then(|call| call.arguments.first()).cloned()
    };
    let written = first("Column");
    let of_column = written.as_ref().map(|written| place.value(written));
    let mut options = match of_column.as_ref().map(|value| &value.kind) {
        Some(ExprKind::Map(_)) => Arguments::of_object(
            place.scope(),
            &of_column.clone().unwrap_or_else(|| member_name(member)),
        ),
        _ => Arguments::of_call(place.scope(), &[], &[], &[]),
    };
    let at = |kind: ExprKind| Expr { kind, span: member.span };
    let mut said: Vec<(SmolStr, Expr)> = Vec::new();
    if let Some(ty) = written
        .filter(|_| !matches!(of_column.as_ref().map(|value| &value.kind), Some(ExprKind::Map(_))))
    {
        said.push(("type".into(), ty));
    }
    if let Some(word) = inferred(member).or(times.then_some("DATE")) {
        said.push(("type".into(), at(ExprKind::Name(format!("DataType.{word}").into()))));
    }
    for (decorator, option) in [("PrimaryKey", "primaryKey"), ("AutoIncrement", "autoIncrement")] {
        said.extend(found(decorator).map(|_| (option.into(), at(ExprKind::Boolean(true)))));
    }
    for (decorator, option) in [("AllowNull", "allowNull"), ("Unique", "unique")] {
        let value = first(decorator).unwrap_or_else(|| at(ExprKind::Boolean(true)));
        said.extend(found(decorator).map(|_| (option.into(), value)));
    }
    for (decorator, option) in [("Default", "defaultValue"), ("Comment", "comment")] {
        said.extend(first(decorator).map(|value| (option.into(), value)));
    }
    options.extend_missing(said);
    let name = member.name.to_string();
    let column = options.take_text("field").unwrap_or_else(|| draft.options.stored(&name));
    let key = member_name(member);
    if let Some(field) =
        attribute::field(reader, place, (draft, &name, column), &mut options, &key, part)
    {
        draft.fields.push(FieldDeclaration { extras: options.into_extras(), ..field });
    }
    if let Some(target) = first("ForeignKey").and_then(|target| association::target(place, &target))
    {
        draft.foreign_keys.push((target, name.clone()));
    }
    indexes(reader, place, draft, member, part);
}

fn member_name(member: &Member) -> Expr {
    Expr { kind: ExprKind::Text(member.name.clone()), span: member.span }
}

/// The data type of the member's own type, null aside.
fn inferred(member: &Member) -> Option<&'static str> {
    let annotation = member.annotation.as_ref()?;
    let parts = match &annotation.kind {
        ExprKind::Operation { operator, operands } if operator == "|" => operands.as_slice(),
        _ => std::slice::from_ref(annotation),
    };
    let name = parts.iter().find(|part| part.kind != ExprKind::Null)?.name()?;
    INFERRED.iter().find(|(known, _)| *known == name).map(|(_, word)| *word)
}

/// `@Index`, `@Index('name')` and `@Index({ name, unique })`; members of one name stand in one
/// index.
fn indexes(
    reader: &Reader<'_>,
    place: &Place<'_>,
    draft: &mut Draft,
    member: &Member,
    part: &mut FilePart,
) {
    for decorator in member.decorators.iter().filter(|decorator| word(decorator) == "Index") {
        let written = decorator
            .call()
            .and_then(|call| call.arguments.first())
            .map(|first| place.value(first));
        let own =
            IndexPartDeclaration { attribute: Some(member.name.to_string()), ..Default::default() };
        let mut found = IndexDeclaration {
            parts: vec![own.clone()],
            span: Some(member.span),
            ..Default::default()
        };
        match written.as_ref().map(|written| &written.kind) {
            Some(ExprKind::Text(name)) => found.name = Some(name.to_string()),
            Some(ExprKind::Map(pairs)) => {
                let mut pairs = pairs.clone();
                let name = member_name(member);
                let key = Expr { kind: ExprKind::Text("fields".into()), span: member.span };
                pairs.push((key, Expr { kind: ExprKind::List(vec![name]), span: member.span }));
                let whole = Expr { kind: ExprKind::Map(pairs), span: member.span };
                let mut options = Arguments::of_object(place.scope(), &whole);
                if let Some(read) = index::index(reader, draft, &mut options, &whole, part) {
                    found = IndexDeclaration {
                        parts: vec![own.clone()],
                        extras: options.into_extras(),
                        ..read
                    };
                }
            }
            _ => {}
        }
        let known = found.name.as_ref().and_then(|name| {
            draft.model.indexes.iter_mut().find(|index| index.name.as_ref() == Some(name))
        });
        match known {
            Some(known) => known.parts.push(own),
            None => draft.model.indexes.push(found),
        }
    }
}

/// The association of a decorator, if it is one of the four.
fn association(
    place: &Place<'_>,
    class: &Class,
    member: &Member,
    decorator: &Expr,
) -> Option<Association> {
    let (_, kind) = ASSOCIATIONS.iter().find(|(known, _)| *known == word(decorator))?;
    let call: &Call = decorator.call()?;
    let target = association::target(place, call.arguments.first()?)?;
    let source = Target::Model(vec![class.name.to_string()]);
    let many = *kind == Kind::BelongsToMany;
    let rest = &call.arguments[1..];
    let object = rest.iter().find(|argument| matches!(argument.kind, ExprKind::Map(_)));
    let mut options = match object {
        Some(object) => Arguments::of_object(place.scope(), &place.value(object)),
        None => Arguments::of_call(place.scope(), &[], &[], &[]),
    };
    let through = object
        .and_then(|object| object.entry("through").cloned())
        .or_else(|| rest.first().filter(|_| many && object.is_none()).cloned());
    let mut association =
        association::of_options(place, (source, *kind, target), &mut options, None, decorator.span);
    association.through = through.and_then(|written| {
        Some(Through {
            target: association::target(place, &written)?,
            unique: true,
            timestamps: None,
        })
    });
    let texts: Vec<ForeignKey> = rest
        .iter()
        .skip(usize::from(many))
        .filter_map(|argument| place.value(argument).text().map(str::to_owned))
        .map(|name| ForeignKey { name: Some(name), ..ForeignKey::default() })
        .collect();
    let mut texts = texts.into_iter();
    if association.foreign_key.name.is_none() {
        association.foreign_key = texts.next().unwrap_or_default();
    }
    if association.other_key.name.is_none() {
        association.other_key = texts.next().unwrap_or_default();
    }
    association.alias = association.alias.or_else(|| Some(member.name.to_string()));
    association.extras = options.into_extras();
    Some(association)
}
