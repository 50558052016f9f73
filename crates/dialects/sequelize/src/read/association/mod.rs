//! `belongsTo`, `hasMany`, `hasOne` and `belongsToMany`. They are read in the order of the text,
//! and then, when every model is known, put into effect in that order: the first to speak of a
//! foreign key decides, as in the framework.

mod connect;
mod many;

pub(super) use connect::connect;
pub(crate) use many::KEYS;

use smol_str::SmolStr;

use super::{FilePart, Target, attribute};
use crate::host::arguments::Arguments;
use crate::host::outline::{Expr, ExprKind};
use crate::host::project::Found;
use crate::host::typescript::place::{Place, last, last_name};
use crate::schema::{Action, Extras};
use crate::source::{FileId, Span};

/// The four methods.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum Kind {
    BelongsTo,
    HasMany,
    HasOne,
    BelongsToMany,
}

/// The methods by name.
const KINDS: &[(&str, Kind)] = &[
    ("belongsTo", Kind::BelongsTo),
    ("hasMany", Kind::HasMany),
    ("hasOne", Kind::HasOne),
    ("belongsToMany", Kind::BelongsToMany),
];

/// What is said of the attribute that carries an association.
#[derive(Clone, Debug, Default)]
pub(super) struct ForeignKey {
    pub(super) name: Option<String>,
    pub(super) column: Option<String>,
    pub(super) nullable: Option<bool>,
}

/// The model, or the table, of a many-to-many.
#[derive(Clone, Debug)]
pub(super) struct Through {
    pub(super) target: Target,
    /// Whether the pair is made unique where the model has a key of its own.
    pub(super) unique: bool,
    pub(super) timestamps: Option<bool>,
}

/// One call.
#[derive(Debug)]
pub(super) struct Association {
    pub(super) source: Target,
    pub(super) kind: Kind,
    pub(super) target: Target,
    pub(super) alias: Option<String>,
    pub(super) foreign_key: ForeignKey,
    pub(super) other_key: ForeignKey,
    /// `targetKey` or `sourceKey`.
    pub(super) key: Option<String>,
    pub(super) through: Option<Through>,
    pub(super) on_delete: Option<Action>,
    pub(super) on_update: Option<Action>,
    pub(super) constraint: Option<bool>,
    pub(super) extras: Extras,
    pub(super) file: FileId,
    pub(super) span: Span,
}

/// Reads a call, if it is one of the four.
pub(super) fn read(place: &Place<'_>, value: &Expr, part: &mut FilePart) -> bool {
    let Some(call) = value.call() else { return false };
    let Some((_, kind)) =
        last_name(&call.callee).and_then(|word| KINDS.iter().find(|(known, _)| *known == word))
    else {
        return false;
    };
    let source = match &call.callee.kind {
        ExprKind::Name(path) => path.rsplit_once('.').map(|(owner, _)| named(place, owner)),
        ExprKind::Operation { operands, .. } => {
            operands.first().and_then(|owner| target(place, owner))
        }
        _ => None,
    };
    let (Some(source), Some(target)) =
        (source, call.arguments.first().and_then(|first| self::target(place, first)))
    else {
        return false;
    };
    let mut options = match call.arguments.get(1) {
        Some(options) => Arguments::of_object(place.scope(), &place.value(options)),
        None => Arguments::of_call(place.scope(), &[], &[], &[]),
    };
    let raw_through = call.arguments.get(1).and_then(|options| through_of(place, options));
    let association =
        of_options(place, (source, *kind, target), &mut options, raw_through, value.span);
    part.associations.push(Association { extras: options.into_extras(), ..association });
    true
}

/// `through` as it is written: what it names must not be put in.
fn through_of(place: &Place<'_>, options: &Expr) -> Option<Expr> {
    let written = match &options.kind {
        ExprKind::Name(name) => place.variable(name)?,
        _ => options,
    };
    written.entry("through").cloned()
}

/// The association of options that were said beside a call or in a decorator.
pub(super) fn of_options(
    place: &Place<'_>,
    (source, kind, target): (Target, Kind, Target),
    options: &mut Arguments<'_>,
    through: Option<Expr>,
    span: Span,
) -> Association {
    let mut key =
        |name: &str| options.take(name).map_or(ForeignKey::default(), |value| foreign_key(&value));
    let (foreign_key, other_key) = (key("foreignKey"), key("otherKey"));
    let timestamps = options.take_bool("timestamps");
    options.take_raw("through");
    let mut text = |name: &str| options.take_text(name);
    let alias = text("as");
    let key = text("targetKey").or_else(|| text("sourceKey"));
    let (on_delete, on_update) = (text("onDelete"), text("onUpdate"));
    Association {
        source,
        kind,
        target,
        alias,
        foreign_key,
        other_key,
        key,
        through: through.and_then(|written| self::through(place, &written, timestamps)),
        on_delete: on_delete.as_deref().and_then(attribute::action),
        on_update: on_update.as_deref().and_then(attribute::action),
        constraint: options.take_bool("constraints"),
        extras: Extras::new(),
        file: place.file,
        span,
    }
}

fn foreign_key(value: &Expr) -> ForeignKey {
    if let Some(name) = value.text() {
        return ForeignKey { name: Some(name.to_owned()), ..ForeignKey::default() };
    }
    let text = |name: &str| value.entry(name).and_then(Expr::text).map(str::to_owned);
    ForeignKey {
        name: text("name").or_else(|| text("fieldName")),
        column: text("field"),
        nullable: value.entry("allowNull").and_then(Expr::boolean),
    }
}

fn through(place: &Place<'_>, written: &Expr, timestamps: Option<bool>) -> Option<Through> {
    if let ExprKind::Map(_) = written.kind {
        let of_map = place.value(written);
        let flag = |name: &str| of_map.entry(name).and_then(Expr::boolean);
        let model = written.entry("model")?;
        return Some(Through {
            target: target(place, model)?,
            unique: flag("unique") != Some(false),
            timestamps: flag("timestamps").or(timestamps),
        });
    }
    Some(Through { target: target(place, written)?, unique: true, timestamps })
}

/// The model that an expression names.
pub(super) fn target(place: &Place<'_>, expr: &Expr) -> Option<Target> {
    match &expr.kind {
        ExprKind::Name(path) => Some(named(place, path)),
        ExprKind::Text(name) => Some(Target::Model(vec![name.to_string()])),
        ExprKind::Function { returns: Some(returned), .. } => target(place, returned),
        ExprKind::Call(call) if last_name(&call.callee) == Some("model") => {
            Some(Target::Model(vec![call.arguments.first()?.text()?.to_owned()]))
        }
        ExprKind::Operation { operator, operands } if operator == "[]" => {
            let name = place.value(operands.last()?);
            Some(Target::Model(vec![name.text()?.to_owned()]))
        }
        _ => last_name(expr).map(|name| Target::Model(vec![name.to_owned()])),
    }
}

/// The model behind a name: that of the class around the place, a variable's, another file's, or
/// one so called.
fn named(place: &Place<'_>, path: &str) -> Target {
    let own = || Target::Model(vec![last(path).to_owned()]);
    if matches!(path, "this" | "super") {
        return place.class().map_or_else(own, |class| Target::Model(vec![class.to_owned()]));
    }
    if let Some(given) = place.variable(path) {
        if let Some(required) = required(given) {
            return place.project.required(place.file, &required).map_or_else(own, Target::File);
        }
        if let Some(title) = title(place, given) {
            return Target::Model(vec![title, path.to_owned()]);
        }
        if let ExprKind::Name(other) = &given.kind
            && other != path
        {
            return Target::Model(vec![last(other).to_owned(), path.to_owned()]);
        }
    }
    match place.scope().lookup(path) {
        Found::Module(file) => Target::File(file),
        Found::Class(_, class) => {
            Target::Model(vec![class.name.to_string(), last(path).to_owned()])
        }
        Found::Value(file, given) => {
            let title = title(&Place::top(place.project, file), given);
            Target::Model(title.into_iter().chain([last(path).to_owned()]).collect())
        }
        _ => own(),
    }
}

/// The name in `define('Berth', ...)` or `model('Berth')`.
fn title(place: &Place<'_>, given: &Expr) -> Option<String> {
    let call =
        given.call().filter(|call| matches!(last_name(&call.callee), Some("define" | "model")))?;
    place.value(call.arguments.first()?).text().map(str::to_owned)
}

/// The module of `require('./berth')(sequelize, DataTypes)`.
fn required(given: &Expr) -> Option<SmolStr> {
    let call = given.call()?;
    match (call.callee_name(), call.callee.call(), call.arguments.as_slice()) {
        ("require", _, [Expr { kind: ExprKind::Text(module), .. }]) => Some(module.clone()),
        (_, Some(_), _) => required(&call.callee),
        _ => None,
    }
}
