//! What a difference means: its code, how bad it is, the words, what to do.

use std::collections::{BTreeMap, HashMap};

use serde_json::Value;

use super::Divergence;
use super::pair::{Pair, Renamed};
use crate::diagnostic::{Code, CodeFamily, Severity};
use crate::dialect::{Capabilities, Feature};
use crate::schema::facts::{Aspect, Element, ElementKind, FactKey};
use crate::schema::{Action, Entity, Schema};
use crate::source::Span;

const fn code(
    name: &'static str,
    severity: Severity,
    finds: &'static str,
    advice: &'static str,
) -> Code {
    Code { name, severity, family: CodeFamily::Difference, finds, follows: "", advice }
}

/// Every kind, sorted by name.
pub const CODES: &[Code] = &[
    code(
        "check-one-sided",
        Severity::Warning,
        "a check that only one side has",
        "rows that one side refuses are taken by the other: add the check, or drop it",
    ),
    code(
        "checked-elsewhen",
        Severity::Note,
        "another moment at which a constraint is checked",
        "what is refused is the same; a transaction may see it at another moment",
    ),
    code(
        "choices-differ",
        Severity::Warning,
        "values that the applications restrict differently",
        "agree on the values; one side may meet a value that it does not know",
    ),
    code(
        "code-type-differs",
        Severity::Note,
        "presence in the types of the code",
        "let the type of the code follow the column",
    ),
    code(
        "collation-differs",
        Severity::Warning,
        "another collation",
        "text is ordered and compared differently: choose one",
    ),
    code(
        "column-name-differs",
        Severity::Error,
        "a column that is probably the same under another name",
        "queries that name it fail on one side: rename it there, or map the attribute to it",
    ),
    code(
        "column-one-sided",
        Severity::Error,
        "a column that only one side has",
        "queries that name it fail on the other side: add it there, or remove it here",
    ),
    code(
        "comment-differs",
        Severity::Note,
        "another comment",
        "nothing breaks; copy the better one",
    ),
    code(
        "default-differs",
        Severity::Warning,
        "another default",
        "inserts that leave the column out get another value, or fail: agree on one default",
    ),
    code(
        "deletion-differs",
        Severity::Warning,
        "another action on delete or update",
        "a deletion that one side lets through is refused, or goes further, on the other: agree \
         on the action",
    ),
    code(
        "exclusion-one-sided",
        Severity::Warning,
        "an exclusion constraint that only one side has",
        "rows that one side refuses are taken by the other: add it, or drop it",
    ),
    code(
        "generated-differs",
        Severity::Error,
        "another way of computing a column",
        "values differ, or inserts fail: agree on the expression",
    ),
    code(
        "index-differs",
        Severity::Note,
        "an index of another kind",
        "queries may be slower on one side",
    ),
    code(
        "index-one-sided",
        Severity::Note,
        "an index that only one side has",
        "queries over it are slower without it: add it, or drop it",
    ),
    code(
        "input-differs",
        Severity::Note,
        "other rules of input validation",
        "agree on what input must give",
    ),
    code(
        "key-differs",
        Severity::Error,
        "another primary key",
        "references and updates by key break: agree on the key",
    ),
    code(
        "name-differs",
        Severity::Note,
        "another name of a constraint or attribute",
        "scripts that name it fail; nothing else does",
    ),
    code(
        "null-differs",
        Severity::Error,
        "a column that may be null on one side only",
        "inserts without a value fail on one side, and null reaches code that does not expect \
         it on the other: agree",
    ),
    code(
        "numbering-differs",
        Severity::Note,
        "another way of numbering a key",
        "numbers go on either way; copy the last number when data moves",
    ),
    code(
        "order-differs",
        Severity::Note,
        "another natural order",
        "order where it matters in the query",
    ),
    code(
        "reference-differs",
        Severity::Error,
        "a reference to something else",
        "rows refer to other records: agree on the target",
    ),
    code(
        "reference-one-sided",
        Severity::Warning,
        "a foreign key that only one side has",
        "orphans may remain on the side without it: add it, or drop it",
    ),
    code(
        "relation-differs",
        Severity::Note,
        "a relation that the code sees differently",
        "the tables agree; agree on the attributes too",
    ),
    code(
        "schema-differs",
        Severity::Error,
        "another named schema",
        "queries do not find the table: agree on the schema, or set the search path",
    ),
    code(
        "table-name-differs",
        Severity::Error,
        "another table of the same class",
        "queries do not find the table: give the class the same table, or rename it",
    ),
    code(
        "table-one-sided",
        Severity::Error,
        "a table that only one side has",
        "queries to it fail on the other side: add it there, or remove it here",
    ),
    code(
        "type-differs",
        Severity::Warning,
        "another type",
        "values of one side may not fit, or be rounded, on the other: agree on the wider one",
    ),
    code(
        "unique-differs",
        Severity::Warning,
        "uniqueness that counts null differently",
        "agree on whether null may be there twice",
    ),
    code(
        "unique-one-sided",
        Severity::Warning,
        "uniqueness that only one side asks for",
        "duplicates get in on the side without it: add it after a look at the data",
    ),
    code(
        "who-acts",
        Severity::Note,
        "an action on deletion that the database takes on one side, the application on the other",
        "a hand-written DELETE is refused on the side of the application, and acts on the other",
    ),
    code(
        "who-fills-in",
        Severity::Warning,
        "a default that the database fills in on one side, the application on the other",
        "a hand-written insert gets no value on the side of the application: move the default \
         into the database",
    ),
];

/// The kind of difference that a fact makes, by its element and its aspect (none for any); the
/// first that fits counts.
const KINDS: &[(ElementKind, Option<Aspect>, &str)] = &[
    (ElementKind::Column, Some(Aspect::Attribute), "name-differs"),
    (ElementKind::Column, Some(Aspect::Type), "type-differs"),
    (ElementKind::Column, Some(Aspect::Nullable), "null-differs"),
    (ElementKind::Column, Some(Aspect::OptionalInCode), "code-type-differs"),
    (ElementKind::Column, Some(Aspect::RequiredOnInput), "input-differs"),
    (ElementKind::Column, Some(Aspect::Rules), "input-differs"),
    (ElementKind::Column, Some(Aspect::DatabaseDefault), "default-differs"),
    (ElementKind::Column, Some(Aspect::ApplicationDefault), "default-differs"),
    (ElementKind::Column, Some(Aspect::DatabaseUpdate), "default-differs"),
    (ElementKind::Column, Some(Aspect::ApplicationUpdate), "default-differs"),
    (ElementKind::Column, Some(Aspect::Identity), "numbering-differs"),
    (ElementKind::Column, Some(Aspect::Generated), "generated-differs"),
    (ElementKind::Column, Some(Aspect::Choices), "choices-differ"),
    (ElementKind::Column, Some(Aspect::Collation), "collation-differs"),
    (ElementKind::Column, Some(Aspect::Comment), "comment-differs"),
    (ElementKind::Key, Some(Aspect::Name), "name-differs"),
    (ElementKind::Key, None, "key-differs"),
    (ElementKind::UniqueIndex, Some(Aspect::Exists), "unique-one-sided"),
    (ElementKind::UniqueIndex, Some(Aspect::Name), "name-differs"),
    (ElementKind::UniqueIndex, None, "index-differs"),
    (ElementKind::Unique, Some(Aspect::As), "unique-one-sided"),
    (ElementKind::Unique, Some(Aspect::Name), "name-differs"),
    (ElementKind::Unique, Some(Aspect::Deferrable), "checked-elsewhen"),
    (ElementKind::Unique, None, "unique-differs"),
    (ElementKind::Index, Some(Aspect::Exists), "index-one-sided"),
    (ElementKind::Index, Some(Aspect::Name), "name-differs"),
    (ElementKind::Index, None, "index-differs"),
    (ElementKind::ForeignKey, Some(Aspect::Enforced), "reference-one-sided"),
    (ElementKind::ForeignKey, Some(Aspect::OnDelete), "deletion-differs"),
    (ElementKind::ForeignKey, Some(Aspect::OnUpdate), "deletion-differs"),
    (ElementKind::ForeignKey, Some(Aspect::Name), "name-differs"),
    (ElementKind::ForeignKey, Some(Aspect::Deferrable), "checked-elsewhen"),
    (ElementKind::ForeignKey, None, "reference-differs"),
    (ElementKind::Check, Some(Aspect::Exists), "check-one-sided"),
    (ElementKind::Check, None, "name-differs"),
    (ElementKind::Exclusion, Some(Aspect::Exists), "exclusion-one-sided"),
    (ElementKind::Exclusion, None, "name-differs"),
    (ElementKind::Relation, Some(Aspect::OnDelete), "deletion-differs"),
    (ElementKind::Relation, None, "relation-differs"),
    (ElementKind::Table, Some(Aspect::Exists), "table-one-sided"),
    (ElementKind::Table, Some(Aspect::Namespace), "schema-differs"),
    (ElementKind::Table, Some(Aspect::Comment), "comment-differs"),
    (ElementKind::Table, Some(Aspect::Order), "order-differs"),
];

/// Aspects that count only where both dialects have the feature.
const VOICES: &[(Aspect, Feature)] = &[
    (Aspect::ApplicationDefault, Feature::ApplicationDefault),
    (Aspect::ApplicationUpdate, Feature::ApplicationDefault),
    (Aspect::Choices, Feature::Choices),
    (Aspect::Rules, Feature::InputRules),
    (Aspect::RequiredOnInput, Feature::InputVoice),
    (Aspect::OptionalInCode, Feature::CodeVoice),
    (Aspect::Order, Feature::Order),
    (Aspect::Collation, Feature::Collation),
];

/// What both sides can say.
pub(super) struct Shared {
    silent: Vec<Aspect>,
    /// Both sides have classes with attributes.
    pub(super) classes: bool,
    pub(super) relations: bool,
    /// Both sides can say a reference that the database does not keep.
    pub(super) unenforced: bool,
    actions: bool,
}

pub(super) fn shared(left: &Capabilities, right: &Capabilities) -> Shared {
    let both = |feature| left.has(feature) && right.has(feature);
    let has_classes = |side: &Capabilities| side.has(Feature::ApplicationDefault);
    let classes = has_classes(left) && has_classes(right);
    let silent = VOICES
        .iter()
        .filter(|(_, feature)| !both(*feature))
        .map(|(aspect, _)| aspect.clone())
        .collect();
    Shared {
        silent,
        classes,
        relations: classes,
        unenforced: both(Feature::UnenforcedReference),
        actions: both(Feature::ApplicationAction),
    }
}

impl Shared {
    /// Whether a difference in this fact is one.
    pub(super) fn counts(&self, key: &FactKey) -> bool {
        // Names of the other side are each framework's own; its actions count where both
        // applications act.
        let untold = match key.aspect {
            Aspect::OnDelete => !self.actions,
            Aspect::Target | Aspect::Inverse => true,
            _ => false,
        };
        let told = key.element.kind() != ElementKind::Relation || (self.relations && !untold);
        // How many there are of one shape is a matter of names.
        known_kind(key).is_some()
            && told
            && key.aspect != Aspect::Times
            && !self.silent.contains(&key.aspect)
    }
}

/// The kind of difference that a fact makes, if any.
fn known_kind(key: &FactKey) -> Option<&'static str> {
    let fits = |(kind, aspect, _): &&(ElementKind, Option<Aspect>, &str)| {
        *kind == key.element.kind() && aspect.as_ref().is_none_or(|aspect| *aspect == key.aspect)
    };
    KINDS.iter().find(fits).map(|(_, _, name)| *name)
}

fn kind(name: &str) -> &'static Code {
    CODES.iter().find(|code| code.name == name).unwrap_or(&CODES[0])
}

/// The class has another table on the other side.
pub(super) fn table_name(pair: &Pair, places: &Places<'_>) -> Divergence {
    let class = |entity: Option<&&Entity>| {
        entity.map(|entity| (entity.name.clone(), entity.origin.span())).unwrap_or_default()
    };
    let (one, two) =
        (class(places.left.get(pair.left.as_str())), class(places.right.get(pair.right.as_str())));
    let code = kind("table-name-differs");
    Divergence {
        code: code.name,
        severity: code.severity,
        table: pair.left.clone(),
        element: String::new(),
        aspect: "name".into(),
        left: Some(pair.left.clone().into()),
        right: Some(pair.right.clone().into()),
        message: format!(
            "the class `{}` has the table `{}` on the left, `{}` the table `{}` on the right",
            one.0, pair.left, two.0, pair.right
        ),
        advice: code.advice.to_owned(),
        left_place: one.1,
        right_place: two.1,
    }
}

/// A column that has another name on the right.
pub(super) fn column_name(renamed: &Renamed, places: &Places<'_>) -> Divergence {
    let place = |side: &HashMap<&str, &Entity>, table: &str, column: &str| {
        side.get(table)?.field(column)?.origin.span()
    };
    let code = kind("column-name-differs");
    let Renamed { table, right_table, from, to, evidence } = renamed;
    Divergence {
        code: code.name,
        severity: code.severity,
        table: table.clone(),
        element: format!("column {from}"),
        aspect: "name".into(),
        left: Some(from.clone().into()),
        right: Some(to.clone().into()),
        message: format!("the column `{table}.{from}` is probably `{to}` on the right: {evidence}"),
        advice: code.advice.to_owned(),
        left_place: place(&places.left, table, from),
        right_place: place(&places.right, right_table, to),
    }
}

/// Each difference, weighed; what is told by another difference already is left out.
pub(super) fn weigh(
    found: Vec<(FactKey, Option<Value>, Option<Value>)>,
    left: &Schema,
    right: &Schema,
) -> Vec<Divergence> {
    let place = Places::of(left, right);
    let mut out: BTreeMap<(usize, usize, String), Vec<Divergence>> = BTreeMap::new();
    let mut order: HashMap<&str, usize> = HashMap::new();
    for (at, entity) in left.entities.iter().chain(&right.entities).enumerate() {
        order.entry(entity.table.as_str()).or_insert(at);
    }
    for (key, one, two) in found {
        if key.aspect == Aspect::Name && place.has_namesake(&key) {
            continue;
        }
        let Some(name) = counted(&key, (&one, &two), &place) else { continue };
        let name = who_fills_in(name, &key, &one, &two, &place)
            .or(who_acts(name, &key, &place))
            .unwrap_or(name);
        let code = kind(name);
        let moments = [&one, &two].iter().all(|value| value.as_ref().is_some_and(is_moment));
        let rank = (
            order.get(key.table.as_str()).copied().unwrap_or_default(),
            rank(key.element.kind()),
            key.element.to_string(),
        );
        let divergence = Divergence {
            code: code.name,
            severity: if moments { Severity::Note } else { code.severity },
            message: message(code.name, &key, &one, &two),
            advice: code.advice.to_owned(),
            left_place: place.find(&place.left, &key),
            right_place: place.find(&place.right, &key),
            table: key.table,
            element: key.element.to_string(),
            aspect: key.aspect.to_string(),
            left: one,
            right: two,
        };
        out.entry(rank).or_default().push(divergence);
    }
    out.into_values().flatten().collect()
}

/// The kind of a difference; none where another one tells of it.
fn counted(
    key: &FactKey,
    (one, two): (&Option<Value>, &Option<Value>),
    place: &Places<'_>,
) -> Option<&'static str> {
    let (has_left, has_right) = (place.has(&place.left, key), place.has(&place.right, key));
    let name = known_kind(key).unwrap_or("name-differs");
    let one_sided = has_left != has_right;
    let name = match key.element.kind() {
        // A table that is not there is one difference, not one for each of its parts.
        _ if !place.left.contains_key(key.table.as_str())
            || !place.right.contains_key(key.table.as_str()) =>
        {
            if name != "table-one-sided" {
                return None;
            } else {
                name
            }
        }
        ElementKind::Column if one_sided => match key.aspect {
            Aspect::Type => "column-one-sided",
            _ => return None,
        },
        ElementKind::Unique
        | ElementKind::UniqueIndex
        | ElementKind::Index
        | ElementKind::Check
        | ElementKind::Exclusion
            if one_sided && !matches!(key.aspect, Aspect::Exists | Aspect::As) =>
        {
            return None;
        }
        ElementKind::ForeignKey if one_sided => match key.aspect {
            Aspect::Enforced => "reference-one-sided",
            _ => return None,
        },
        ElementKind::Relation if one_sided => match key.aspect {
            Aspect::Kind => "relation-differs",
            _ => return None,
        },
        ElementKind::Relation if key.aspect != Aspect::Kind && (one.is_none() || two.is_none()) => {
            return None;
        }
        // What the application fills in on one side, the database fills in on the other:
        // told by its default.
        _ if key.aspect == Aspect::ApplicationDefault && place.filled_elsewhere(key, one, two) => {
            return None;
        }
        // A name counts where both sides give one.
        _ if name == "name-differs" && (one.is_none() || two.is_none()) => return None,
        _ => name,
    };
    Some(name)
}

/// The order in which the elements of a table are shown.
fn rank(kind: ElementKind) -> usize {
    match kind {
        ElementKind::Table => 0,
        ElementKind::Column => 1,
        ElementKind::Key => 2,
        ElementKind::Unique | ElementKind::UniqueIndex => 3,
        ElementKind::Index => 4,
        ElementKind::ForeignKey => 5,
        ElementKind::Check => 6,
        ElementKind::Exclusion => 7,
        ElementKind::Relation => 8,
        ElementKind::Enumeration => 9,
    }
}

/// A default that is on both sides, in different hands, is one difference of its own.
fn who_fills_in(
    name: &str,
    key: &FactKey,
    one: &Option<Value>,
    two: &Option<Value>,
    place: &Places<'_>,
) -> Option<&'static str> {
    let Element::Column(column) = &key.element else { return None };
    if name != "default-differs"
        || key.aspect != Aspect::DatabaseDefault
        || one.is_some() == two.is_some()
    {
        return None;
    }
    let (value, other) = if one.is_some() { (one, &place.right) } else { (two, &place.left) };
    let field = other.get(key.table.as_str())?.field(column)?;
    let application = serde_json::to_value(field.defaults.application.as_ref()?).ok();
    (application == *value).then_some("who-fills-in")
}

/// `now` in either of its senses: they differ within one transaction only.
fn is_moment(value: &Value) -> bool {
    matches!(value["function"].as_str(), Some("now" | "statement-now"))
}

/// The same action, taken by the database on one side and by the application on the other.
fn who_acts(name: &str, key: &FactKey, place: &Places<'_>) -> Option<&'static str> {
    let Element::ForeignKey(columns) = &key.element else { return None };
    if name != "deletion-differs" || key.aspect != Aspect::OnDelete {
        return None;
    }
    let effect = |side: &HashMap<&str, &Entity>| {
        let entity = side.get(key.table.as_str())?;
        let stored = entity.foreign_keys.iter().find(|own| own.columns == *columns)?.on_delete;
        let relation = entity.relations.iter().find(|relation| relation.columns == *columns);
        let acts = relation
            .and_then(|relation| relation.on_delete)
            .filter(|_| stored == Action::NoAction)
            .unwrap_or(stored);
        Some(if matches!(acts, Action::Protect | Action::Restrict) {
            Action::NoAction
        } else {
            acts
        })
    };
    (effect(&place.left)? == effect(&place.right)?).then_some("who-acts")
}

/// `default`, `value on update of the application`.
fn value_of(aspect: &Aspect) -> String {
    let in_application = matches!(aspect, Aspect::ApplicationDefault | Aspect::ApplicationUpdate);
    let on_update = matches!(aspect, Aspect::ApplicationUpdate | Aspect::DatabaseUpdate);
    let who = if in_application { " of the application" } else { "" };
    format!("{}{who}", if on_update { "value on update" } else { "default" })
}

fn message(code: &str, key: &FactKey, left: &Option<Value>, right: &Option<Value>) -> String {
    let table = &key.table;
    let column = if let Element::Column(column) = &key.element { Some(column) } else { None };
    let element = key.element.to_string();
    let side = if left.is_some() { "left" } else { "right" };
    let rest = |prefix: &str| element.strip_prefix(prefix).unwrap_or(&element).to_owned();
    let (one, two) = (words(code, left), words(code, right));
    match (code, column) {
        ("table-one-sided", _) => format!("the table `{table}` is only on the {side}"),
        ("column-one-sided", Some(column)) => {
            format!("the column `{table}.{column}` is only on the {side}")
        }
        ("null-differs", Some(column)) => {
            format!("`{table}.{column}` {one} on the left, {two} on the right")
        }
        ("type-differs" | "numbering-differs", Some(column)) => {
            format!("`{table}.{column}` is {one} on the left, {two} on the right")
        }
        ("default-differs", Some(column)) => {
            let what = value_of(&key.aspect);
            format!("`{table}.{column}` has the {what} {one} on the left, {two} on the right")
        }
        ("who-fills-in", Some(column)) => {
            let other = if side == "left" { "right" } else { "left" };
            format!(
                "the default of `{table}.{column}` is the database's on the {side}, the \
                 application's on the {other}"
            )
        }
        ("who-acts", _) => {
            let by = |value: &str| {
                if value == "no action" {
                    "the application".to_owned()
                } else {
                    format!("the database ({value})")
                }
            };
            format!(
                "on deletion, for {} of `{table}`, {} acts on the left, {} on the right",
                names(&rest("foreign key ")),
                by(&one),
                by(&two)
            )
        }
        ("unique-one-sided", _) => format!(
            "unique values of {} in `{table}` are asked for only on the {side}",
            names(&rest("unique index ").replace("unique ", ""))
        ),
        ("index-one-sided", _) => {
            format!("an index over {} of `{table}` is only on the {side}", names(&rest("index ")))
        }
        ("check-one-sided", _) => {
            format!("the check `{}` of `{table}` is only on the {side}", rest("check "))
        }
        ("exclusion-one-sided", _) => {
            format!("the exclusion `{}` of `{table}` is only on the {side}", rest("exclusion "))
        }
        ("reference-one-sided", _) => format!(
            "the foreign key of {} in `{table}` is only on the {side}",
            names(&rest("foreign key "))
        ),
        ("comment-differs", None) => format!("`{table}` has {one} on the left, {two} on the right"),
        ("comment-differs", Some(column)) => {
            format!("`{table}.{column}` has {one} on the left, {two} on the right")
        }
        (_, place) => {
            let place = match place {
                Some(column) => format!("`{table}.{column}`"),
                None if key.element == Element::Table => format!("`{table}`"),
                None => format!("`{table}`, {element}"),
            };
            let aspect = key.aspect.to_string().replace('_', " ");
            format!("{place}: {aspect} is {one} on the left, {two} on the right")
        }
    }
}

/// `a, b` as names.
fn names(list: &str) -> String {
    list.split(", ").map(|name| format!("`{name}`")).collect::<Vec<_>>().join(", ")
}

/// A fact's value for people.
fn words(code: &str, value: &Option<Value>) -> String {
    let text = |value: &Value| value.as_str().map_or_else(|| value.to_string(), str::to_owned);
    match (code, value) {
        ("comment-differs", None) => "no comment".into(),
        (_, None) => "none".into(),
        ("null-differs", Some(value)) if value == "null" => "may be null".into(),
        ("null-differs", Some(_)) => "must have a value".into(),
        ("numbering-differs", Some(value)) => match value.as_str() {
            Some("sequence") => "numbered from a sequence".into(),
            Some("always") => "always numbered as an identity".into(),
            _ => "as an identity".into(),
        },
        ("default-differs", Some(Value::Object(default))) => match default.iter().next() {
            Some((kind, value)) if kind == "expression" => text(&value["text"]),
            // Numbers may be kept as texts, which say them exactly.
            Some((kind, Value::String(content)))
                if kind == "literal" && content.parse::<f64>().is_err() =>
            {
                format!("'{content}'")
            }
            Some((_, value)) => text(value),
            None => "none".into(),
        },
        ("comment-differs", Some(value)) => value.to_string(),
        ("order-differs", Some(Value::Array(keys))) => {
            let key = |key: &Value| {
                format!(
                    "{}{}",
                    text(&key["field"]),
                    if key["descending"] == true { " descending" } else { "" }
                )
            };
            keys.iter().map(key).collect::<Vec<_>>().join(", ")
        }
        (_, Some(value)) => text(value),
    }
}

fn tables(schema: &Schema) -> HashMap<&str, &Entity> {
    schema.entities.iter().map(|entity| (entity.table.as_str(), entity)).collect()
}

/// Where the elements of both sides are written.
pub(super) struct Places<'s> {
    left: HashMap<&'s str, &'s Entity>,
    right: HashMap<&'s str, &'s Entity>,
}

/// The names of the constraints and indexes of a table that are this element: there may be several
/// of one shape.
fn names_of<'e>(entity: &'e Entity, element: &Element) -> Vec<&'e str> {
    let uniques = entity
        .uniques
        .iter()
        .filter(|unique| Element::of_unique(unique) == *element)
        .map(|unique| &unique.name);
    let indexes = entity
        .indexes
        .iter()
        .filter(|index| Element::of_index(index) == *element)
        .map(|index| &index.name);
    uniques.chain(indexes).filter_map(|name| name.as_deref()).collect()
}

impl<'s> Places<'s> {
    /// Whether a constraint or an index of which there are several of one shape has the same name
    /// on both sides.
    fn has_namesake(&self, key: &FactKey) -> bool {
        let (Some(left), Some(right)) =
            (self.left.get(key.table.as_str()), self.right.get(key.table.as_str()))
        else {
            return false;
        };
        let (left, right) = (names_of(left, &key.element), names_of(right, &key.element));
        (left.len() > 1 || right.len() > 1) && left.iter().any(|name| right.contains(name))
    }

    pub(super) fn of(left: &'s Schema, right: &'s Schema) -> Self {
        Places { left: tables(left), right: tables(right) }
    }

    /// Whether the side without a default of the application has one in the database.
    fn filled_elsewhere(&self, key: &FactKey, one: &Option<Value>, two: &Option<Value>) -> bool {
        let side = match (one, two) {
            (Some(_), None) => &self.right,
            (None, Some(_)) => &self.left,
            _ => return false,
        };
        let Element::Column(column) = &key.element else { return false };
        side.get(key.table.as_str())
            .and_then(|entity| entity.field(column))
            .is_some_and(|field| field.defaults.database.is_some())
    }

    fn has(&self, side: &HashMap<&str, &Entity>, key: &FactKey) -> bool {
        side.get(key.table.as_str()).is_some_and(|entity| {
            matches!(key.element, Element::Table | Element::Key)
                || element(entity, &key.element).is_some()
        })
    }

    fn find(&self, side: &HashMap<&str, &Entity>, key: &FactKey) -> Option<Span> {
        let entity = side.get(key.table.as_str())?;
        element(entity, &key.element).flatten().or(entity.origin.span())
    }
}

/// The place of an element, if the entity has it.
fn element(entity: &Entity, wanted: &Element) -> Option<Option<Span>> {
    let origin = match wanted {
        Element::Table | Element::Key | Element::Enumeration(_) | Element::Join(_) => return None,
        Element::Column(column) => entity.field(column).map(|field| &field.origin),
        Element::Unique(columns) => entity
            .uniques
            .iter()
            .find(|unique| unique.columns == *columns)
            .map(|unique| &unique.origin),
        Element::Index { .. } => entity
            .indexes
            .iter()
            .find(|index| Element::of_index(index) == *wanted)
            .map(|index| &index.origin),
        Element::ForeignKey(columns) => {
            entity.foreign_keys.iter().find(|key| key.columns == *columns).map(|key| &key.origin)
        }
        Element::Check(text) => entity
            .checks
            .iter()
            .find(|check| check.expression.text == *text)
            .map(|check| &check.origin),
        Element::Exclusion(text) => entity
            .exclusions
            .iter()
            .find(|check| check.expression.text == *text)
            .map(|check| &check.origin),
        Element::Relation(columns) => entity
            .relations
            .iter()
            .find(|relation| relation.columns == *columns)
            .map(|relation| &relation.origin),
    };
    origin.map(|origin| origin.span())
}
