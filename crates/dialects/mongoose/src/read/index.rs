//! Indexes: those that a path asks for (`lib/helpers/schema/getIndexes.js` of 8.24.10), and
//! `schema.index({...}, {...})`.

use serde_json::{Value, json};

use super::path::Site;
use super::{Part, spelling};
use crate::codes;
use crate::declaration::{
    Attribute, FieldDeclaration, IndexDeclaration, IndexPartDeclaration, Model, UniqueDeclaration,
};
use crate::diagnostic::Diagnostic;
use crate::host::arguments::{Arguments, kept};
use crate::host::outline::{Expr, ExprKind};
use crate::query;
use crate::schema::{Expression, Extras, RelationKind};
use crate::source::Span;

/// Kinds of indexes beside the usual one.
const METHODS: &[&str] = &["text", "2dsphere", "2d", "hashed"];

/// Options that say nothing of what is held.
const OF_NO_EFFECT: &[&str] = &["background"];

/// Words under which extras keep the keys and options of indexes that stand over several documents.
pub(crate) const OVER_SEVERAL: &str = "indexes";

/// A path, whether it goes down, and the kind of index that it asks for.
type Key = (String, bool, Option<String>);

/// One index, before it is put into its model.
#[derive(Default)]
struct Written {
    keys: Vec<Key>,
    unique: bool,
    sparse: bool,
    name: Option<String>,
    condition: Option<Box<Expression>>,
    extras: Extras,
    span: Option<Span>,
}

impl Written {
    /// Takes the options that both ways of saying an index share.
    fn take(&mut self, options: &mut Arguments<'_>) {
        self.unique |= options.take_bool("unique") == Some(true);
        self.sparse |= options.take_bool("sparse") == Some(true);
        self.name = options.take_text("name");
        if let Some(expires) = options.take("expires") {
            self.extras.insert(
                "expireAfterSeconds".into(),
                seconds(&expires).unwrap_or_else(|| kept(&options.scope, &expires)),
            );
        }
        if let Some(written) = options.take("partialFilterExpression") {
            match query::read(&written) {
                Some(tree) => self.condition = Some(Box::new(Expression::sql(tree))),
                None => {
                    self.extras
                        .insert("partialFilterExpression".into(), kept(&options.scope, &written));
                }
            }
        }
        for word in OF_NO_EFFECT {
            options.take_raw(word);
        }
    }

    /// Whether it is no more than its keys and whether they are unique.
    fn is_plain(&self) -> bool {
        let ascending = |(_, down, method): &Key| !down && method.is_none();
        self.keys.iter().all(ascending) && self.condition.is_none()
    }
}

/// The index that a path asks for.
pub(super) fn of_path(
    name: &str,
    at: Span,
    options: &mut Arguments<'_>,
    declared: &mut FieldDeclaration,
    model: &mut Model,
) {
    let mut written = Written { span: Some(at), ..Written::default() };
    let index = options.take("index");
    // Of a list, what its items ask for counts, too.
    let items = options.take_raw(spelling::ITEMS);
    let mut of_items = items.map(|items| Arguments::of_object(options.scope, &items));
    let flag = |options: &mut Arguments<'_>, word: &str| match options
        .take(word)
        .map(|value| value.kind)
    {
        Some(ExprKind::Boolean(said)) => said,
        Some(ExprKind::List(items)) => items.first().and_then(Expr::boolean) == Some(true),
        Some(ExprKind::Text(_) | ExprKind::Map(_)) => true,
        _ => false,
    };
    let mut either = |word: &str| {
        let own = flag(options, word);
        own || of_items.as_mut().is_some_and(|items| flag(items, word))
    };
    let text = either("text");
    written.unique = either("unique");
    written.sparse = either("sparse");
    let mut asked = written.unique || written.sparse || text;
    let index = index.or_else(|| of_items.as_mut().and_then(|items| items.take("index")));
    let mut key = (name.to_owned(), false, text.then(|| "text".to_owned()));
    match index.as_ref().map(|index| &index.kind) {
        Some(ExprKind::Boolean(false)) | None => {}
        Some(ExprKind::Text(word)) => {
            asked = true;
            key.1 = word.starts_with("desc");
            key.2 = METHODS.contains(&word.as_str()).then(|| word.to_string()).or(key.2);
        }
        Some(ExprKind::Map(_)) => {
            asked = true;
            let mut inner = Arguments::of_object(
                options.scope,
                index.as_ref().unwrap_or(&Expr { kind: ExprKind::Null, span: at }),
            );
            key.2 =
                inner.take_text("type").filter(|word| METHODS.contains(&word.as_str())).or(key.2);
            written.take(&mut inner);
            written.extras.append(&mut inner.into_extras());
        }
        Some(ExprKind::Operation { operator, .. }) if operator == "-" => {
            (asked, key.1) = (true, true)
        }
        Some(ExprKind::Number(number)) if number.starts_with('-') => (asked, key.1) = (true, true),
        Some(_) => asked = true,
    }
    if let Some(expires) = options.take("expires").filter(|_| declared.spelling.word == "Date") {
        asked = true;
        written.extras.insert(
            "expireAfterSeconds".into(),
            seconds(&expires).unwrap_or_else(|| kept(&options.scope, &expires)),
        );
    }
    if let Some(left) = of_items.map(Arguments::into_extras).filter(|left| !left.is_empty()) {
        declared.extras.insert(spelling::ITEMS.into(), Value::Object(left.into_iter().collect()));
    }
    if !asked {
        return;
    }
    written.keys.push(key);
    let plain = written.is_plain() && written.extras.is_empty() && written.name.is_none();
    let required = declared.required_on_input == Some(true) || declared.key;
    if plain && written.unique && (required || written.sparse) {
        declared.unique = Some(true);
    } else if plain && !written.unique && !written.sparse {
        declared.indexed = Some(true);
    } else {
        let attribute = declared.name.clone().unwrap_or_else(|| name.to_owned());
        push(model, written, &|_| Some((attribute.clone(), required)));
    }
}

/// A time in seconds, also as a text (`30d`).
fn seconds(value: &Expr) -> Option<Value> {
    const UNITS: &[(&str, f64)] = &[
        ("ms", 0.001),
        ("s", 1.0),
        ("sec", 1.0),
        ("secs", 1.0),
        ("second", 1.0),
        ("seconds", 1.0),
        ("m", 60.0),
        ("min", 60.0),
        ("mins", 60.0),
        ("minute", 60.0),
        ("minutes", 60.0),
        ("h", 3600.0),
        ("hr", 3600.0),
        ("hrs", 3600.0),
        ("hour", 3600.0),
        ("hours", 3600.0),
        ("d", 86400.0),
        ("day", 86400.0),
        ("days", 86400.0),
        ("w", 604800.0),
        ("week", 604800.0),
        ("weeks", 604800.0),
        ("y", 31557600.0),
        ("yr", 31557600.0),
        ("year", 31557600.0),
        ("years", 31557600.0),
    ];
    match &value.kind {
        ExprKind::Number(_) => crate::host::evaluate::constant(value),
        ExprKind::Text(text) => {
            let cut = text.find(|letter: char| letter.is_ascii_alphabetic()).unwrap_or(text.len());
            let number: f64 = text[..cut].trim().parse().ok()?;
            let unit = text[cut..].trim().to_lowercase();
            let (_, length) = UNITS
                .iter()
                .find(|(word, _)| *word == unit || (unit.is_empty() && *word == "ms"))?;
            let whole = (number * length).round();
            Some(json!(whole as i64))
        }
        _ => None,
    }
}

/// `schema.index({ path: 1 }, { unique: true })`.
pub(super) fn read(
    site: &Site<'_, '_>,
    arguments: &[Expr],
    span: Span,
    model: &mut Model,
    part: &mut Part,
) {
    let specification = arguments.first().map(|keys| site.place.value(keys));
    let Some(keys) = specification.as_ref().and_then(keys) else {
        return part.diagnostics.push(opaque(model, span));
    };
    let mut written = Written { span: Some(span), keys, ..Written::default() };
    let empty = Expr { kind: ExprKind::Map(Vec::new()), span };
    let options = arguments.get(1).map_or(empty, |options| site.place.value(options));
    let mut options = Arguments::of_object(site.place.scope(), &options);
    written.take(&mut options);
    written.extras.append(&mut options.into_extras());
    put(model, written, part);
}

/// The keys of an index, in every form that the server's driver takes (mongodb 6.20): an object, a
/// path, a path and its direction, or a list of these.
fn keys(specification: &Expr) -> Option<Vec<Key>> {
    match &specification.kind {
        ExprKind::List(parts) => match parts.as_slice() {
            // Beside a word that is no direction the path is one of two paths.
            [path, direction] if is_direction(direction) => Some(vec![directed(path, direction)?]),
            all => Some(all.iter().map(part).collect::<Option<Vec<_>>>()?.concat()),
        },
        _ => part(specification),
    }
}

/// One of the keys in a list, or an object of several.
fn part(specification: &Expr) -> Option<Vec<Key>> {
    match &specification.kind {
        ExprKind::Map(pairs) => {
            pairs.iter().map(|(path, direction)| directed(path, direction)).collect()
        }
        ExprKind::Text(path) => Some(vec![(path.to_string(), false, None)]),
        ExprKind::List(parts) => match parts.as_slice() {
            [path] => Some(vec![(path.text()?.to_owned(), false, None)]),
            [path, direction] => Some(vec![directed(path, direction)?]),
            _ => None,
        },
        _ => None,
    }
}

/// What the driver takes for a direction where a list might be one of paths.
fn is_direction(part: &Expr) -> bool {
    const WORDS: &[&str] = &["2d", "2dsphere", "text", "geoHaystack"];
    match &part.kind {
        ExprKind::Number(_) => true,
        ExprKind::Operation { operator, operands } => operator == "-" && operands.len() == 1,
        ExprKind::Text(word) => WORDS.contains(&&**word),
        _ => false,
    }
}

/// A path with its direction; nothing where only the running program knows it.
fn directed(path: &Expr, direction: &Expr) -> Option<Key> {
    let (down, method) = match &direction.kind {
        ExprKind::Operation { operator, operands } if operator == "-" && operands.len() == 1 => {
            (true, None)
        }
        ExprKind::Number(number) => (number.starts_with('-'), None),
        ExprKind::Text(word) => match &**word {
            "asc" | "ascending" => (false, None),
            "desc" | "descending" => (true, None),
            word if METHODS.contains(&word) => (false, Some(word.to_owned())),
            _ => return None,
        },
        _ => return None,
    };
    Some((path.text()?.to_owned(), down, method))
}

fn opaque(model: &Model, span: Span) -> Diagnostic {
    Diagnostic::of(&codes::OPAQUE_INDEX, format!("an index of `{}` cannot be read", model.name))
        .at(Some(span), "known only at run time")
        .with_help("write its keys as an object")
}

/// Puts an index into the model whose paths it stands over: the document's own, or those of one
/// document inside.
fn put(model: &mut Model, mut written: Written, part: &mut Part) {
    if over(model, &written) {
        let paths = attributes(model);
        return push(model, written, &|path| {
            paths
                .iter()
                .find(|(known, ..)| known == path)
                .map(|(_, name, required)| (name.clone(), *required))
        });
    }
    let inside = |owner: &Model, owned: &Model| {
        let place = owned.owned_by.as_ref().filter(|place| place.entity == owner.id)?;
        let prefix = format!("{}.", place.path);
        written.keys.iter().all(|(path, ..)| path.starts_with(&prefix)).then_some(prefix)
    };
    let found =
        part.models.iter().enumerate().find_map(|(at, owned)| Some((at, inside(model, owned)?)));
    if let Some((at, prefix)) = found.filter(|_| written.condition.is_none()) {
        for (path, ..) in &mut written.keys {
            *path = path[prefix.len()..].to_owned();
        }
        let mut owned = std::mem::take(&mut part.models[at]);
        put(&mut owned, written, part);
        part.models[at] = owned;
        return;
    }
    let keys: serde_json::Map<String, Value> = written
        .keys
        .iter()
        .map(|(path, down, method)| {
            (
                path.clone(),
                method
                    .as_ref()
                    .map_or_else(|| json!(if *down { -1 } else { 1 }), |method| json!(method)),
            )
        })
        .collect();
    let mut options = written.extras;
    options.extend(written.unique.then(|| ("unique".to_owned(), json!(true))));
    options.extend(written.sparse.then(|| ("sparse".to_owned(), json!(true))));
    options.extend(written.name.map(|name| ("name".to_owned(), json!(name))));
    if let Some(condition) = written.condition {
        options.insert("partialFilterExpression".into(), json!({ "code": condition.text }));
    }
    let list = model.extras.entry(OVER_SEVERAL.to_owned()).or_insert_with(|| json!([]));
    if let Some(list) = list.as_array_mut() {
        list.push(json!([keys, options]));
    }
}

/// Whether every key is a path of the document itself.
fn over(model: &Model, written: &Written) -> bool {
    let paths = attributes(model);
    written
        .keys
        .iter()
        .all(|(path, ..)| path == "_id" || paths.iter().any(|(known, ..)| known == path))
}

/// Paths, the attributes over them, and whether these are required.
fn attributes(model: &Model) -> Vec<(String, String, bool)> {
    let of = |attribute: &Attribute| {
        let (path, name, declared) = match attribute {
            Attribute::Field(field) => (field.column.clone(), field.name.clone()?, &**field),
            Attribute::Relation(relation) => (
                relation.join_columns.first().and_then(|join| join.name.clone()),
                relation.name.clone()?,
                &relation.carrier,
            ),
            Attribute::Inverse(_) | Attribute::Removed(_) => return None,
        };
        Some((
            path.unwrap_or_else(|| name.clone()),
            name,
            declared.required_on_input == Some(true) || declared.key,
        ))
    };
    model.attributes.iter().filter_map(of).collect()
}

/// Adds a unique constraint or an index to a model. `attribute` gives the attribute of a path, and
/// whether that is required.
fn push(model: &mut Model, written: Written, attribute: &dyn Fn(&str) -> Option<(String, bool)>) {
    let of = |path: &str| attribute(path).unwrap_or_else(|| (path.to_owned(), path == "_id"));
    let required = written.keys.iter().all(|(path, ..)| of(path).1);
    let plain = written.is_plain();
    let Written { keys, unique, sparse, name, condition, mut extras, span } = written;
    // A document without the path counts as one with the value null, unless the index leaves it
    // out.
    let apart = sparse && keys.len() == 1;
    let nulls_not_distinct = unique && !required && !apart;
    if sparse && !(unique && (apart || required)) {
        extras.insert("sparse".into(), json!(true));
    }
    if let ([(path, ..)], true, true, false) =
        (keys.as_slice(), plain, name.is_none() && extras.is_empty(), nulls_not_distinct)
        && at_path(model, &of(path).0, unique)
    {
        return;
    }
    if unique && plain {
        let attributes = keys.iter().map(|(path, ..)| of(path).0).collect();
        return model.uniques.push(UniqueDeclaration {
            attributes,
            name,
            deferrable: None,
            nulls_not_distinct,
            extras,
            span,
        });
    }
    let method = keys.iter().find_map(|(.., method)| method.clone());
    let mixed = method.is_some() && keys.iter().any(|(.., own)| *own != method);
    if mixed {
        let kinds: Vec<Value> = keys.iter().map(|(.., method)| json!(method)).collect();
        extras.insert("methods".into(), json!(kinds));
    }
    let part = |(path, descending, _): &(String, bool, Option<String>)| IndexPartDeclaration {
        attribute: Some(of(path).0),
        descending: *descending,
        ..IndexPartDeclaration::default()
    };
    let parts = keys.iter().map(part).collect();
    model.indexes.push(IndexDeclaration {
        parts,
        unique,
        condition,
        method,
        name,
        nulls_not_distinct,
        extras,
        span,
        ..Default::default()
    });
}

/// Says at a path that it is unique, or indexed; whether there is such a path.
fn at_path(model: &mut Model, name: &str, unique: bool) -> bool {
    let attribute = model.attributes.iter_mut().find(|attribute| attribute.name() == Some(name));
    let declared = match attribute {
        Some(Attribute::Field(field)) => &mut **field,
        Some(Attribute::Relation(relation)) => {
            if unique && relation.kind == RelationKind::ManyToOne {
                relation.kind = RelationKind::OneToOne;
            }
            &mut relation.carrier
        }
        _ => return false,
    };
    if declared.purpose.is_some() {
        return false;
    }
    if unique {
        declared.unique = Some(true);
    } else {
        declared.indexed = Some(true);
    }
    true
}
