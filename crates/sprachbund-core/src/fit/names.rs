//! Host names in the target language's manner: letter case, reserved words, collisions. Stored names never change.

use std::collections::{HashMap, HashSet};

use super::Rename;
use crate::dialect::naming::{Case, plural};
use crate::dialect::{Conventions, Dialect};
use crate::host::Language;
use crate::schema::{Entity, Part, RelationKind, Schema, Type};

/// Names that a Python attribute or a model's attribute cannot have (language reference, keywords; Django 5.2,
/// `Field._check_field_name` and `Model._check_property_name_related_field_accessor_clashes`).
const PYTHON_RESERVED: &[&str] = &[
    "False",
    "None",
    "True",
    "and",
    "as",
    "assert",
    "async",
    "await",
    "break",
    "class",
    "continue",
    "def",
    "del",
    "elif",
    "else",
    "except",
    "finally",
    "for",
    "from",
    "global",
    "if",
    "import",
    "in",
    "is",
    "lambda",
    "nonlocal",
    "not",
    "or",
    "pass",
    "raise",
    "return",
    "try",
    "while",
    "with",
    "yield",
    "pk",
    "objects",
    "check",
    "clean",
    "save",
    "delete",
    "full_clean",
    "refresh_from_db",
    "_state",
    "Meta",
];

/// Names that a TypeScript class property cannot have.
const TYPESCRIPT_RESERVED: &[&str] = &["constructor", "prototype"];

/// Names that a TypeScript class cannot have.
const TYPESCRIPT_CLASSES: &[&str] = &[
    "Date",
    "Object",
    "String",
    "Number",
    "Boolean",
    "Array",
    "Buffer",
    "Promise",
    "Column",
    "Entity",
    "Index",
    "Unique",
    "Check",
    "Exclusion",
];

/// Respells every host name; tells which ones changed.
pub(super) fn respell(schema: &mut Schema, dialect: &Dialect, conventions: &Conventions, same_language: bool) -> Vec<Rename> {
    let namer = Namer { language: dialect.language, same_language };
    let mut renames = Vec::new();
    modules(schema, &namer, &mut renames);
    classes(schema, &namer, &mut renames);
    enums(schema, &namer);
    let has_inverse = conventions.inverse.is_some();
    let mut taken: HashMap<String, HashSet<String>> = HashMap::new();
    for entity in &mut schema.entities {
        let used = taken.entry(entity.id.clone()).or_default();
        attributes(entity, &namer, conventions, used, &mut renames);
    }
    inverse_sides(schema, &namer, has_inverse, &mut taken, &mut renames);
    renames
}

struct Namer {
    language: Language,
    same_language: bool,
}

impl Namer {
    /// A legal attribute name that is not taken yet.
    fn attribute(&self, name: &str, taken: &mut HashSet<String>) -> String {
        let cased = match (self.same_language, self.language) {
            (true, _) => name.to_owned(),
            (false, Language::Python) => Case::Snake.apply(name),
            (false, Language::TypeScript) => Case::Camel.apply(name),
            (false, Language::Sql) => name.to_owned(),
        };
        let legal = match self.language {
            Language::Python => python_name(&cased),
            Language::TypeScript if TYPESCRIPT_RESERVED.contains(&cased.as_str()) || cased.is_empty() => format!("{cased}Value"),
            Language::TypeScript | Language::Sql => cased,
        };
        let mut unique = legal.clone();
        let mut count = 2;
        while !taken.insert(unique.clone()) {
            unique = format!("{legal}{count}");
            count += 1;
        }
        unique
    }

    fn class(&self, name: &str) -> String {
        let mut cased = identifier(name);
        if cased != name || cased.starts_with(char::is_lowercase) {
            cased = Case::Pascal.apply(&cased);
        }
        let reserved = match self.language {
            Language::Python => PYTHON_RESERVED.contains(&cased.as_str()),
            Language::TypeScript => TYPESCRIPT_CLASSES.contains(&cased.as_str()),
            Language::Sql => false,
        };
        if reserved { format!("{cased}Record") } else { cased }
    }
}

/// Only letters, digits and underscores, not starting with a digit.
fn identifier(name: &str) -> String {
    let mut out: String = name.chars().map(|letter| if letter.is_alphanumeric() || letter == '_' { letter } else { '_' }).collect();
    if out.starts_with(|first: char| first.is_numeric()) || out.is_empty() {
        out.insert(0, 'n');
    }
    out
}

/// A name that Django takes for a field: no double or trailing underscore, no reserved word.
fn python_name(name: &str) -> String {
    let mut out = identifier(name);
    while out.contains("__") {
        out = out.replace("__", "_");
    }
    let trimmed = out.trim_end_matches('_');
    let out = if trimmed.is_empty() { "value".to_owned() } else { trimmed.to_owned() };
    if PYTHON_RESERVED.contains(&out.as_str()) { format!("{out}_value") } else { out }
}

fn modules(schema: &mut Schema, namer: &Namer, renames: &mut Vec<Rename>) {
    let fitting = |module: &str| match namer.language {
        _ if module.is_empty() => "main".to_owned(),
        Language::Python => Case::Snake.apply(&identifier(module)),
        Language::TypeScript | Language::Sql => module.replace(['/', '\\', '.'], "_"),
    };
    let mut changed: HashMap<String, String> = HashMap::new();
    for entity in schema.entities.iter_mut().filter(|entity| !entity.external) {
        let module = fitting(&entity.module);
        if module != entity.module {
            let id = format!("{module}.{}", entity.name);
            renames.push(Rename { element: entity.id.clone(), from: Some(entity.module.clone()), to: Some(module.clone()) });
            changed.insert(std::mem::replace(&mut entity.id, id.clone()), id);
            entity.module = module;
        }
    }
    for enumeration in &mut schema.enums {
        enumeration.module = fitting(&enumeration.module);
    }
    retarget(schema, &changed);
}

fn classes(schema: &mut Schema, namer: &Namer, renames: &mut Vec<Rename>) {
    let mut taken: HashSet<String> = HashSet::new();
    let mut changed: HashMap<String, String> = HashMap::new();
    for entity in schema.entities.iter_mut().filter(|entity| entity.mapped.code && !entity.external) {
        let legal = namer.class(&entity.name);
        let mut unique = legal.clone();
        let mut count = 2;
        // Class names are global in one framework and by module in the other; global is legal in both.
        while !taken.insert(if namer.same_language { format!("{}.{unique}", entity.module) } else { unique.clone() }) {
            unique = format!("{legal}{count}");
            count += 1;
        }
        if unique != entity.name {
            renames.push(Rename { element: entity.id.clone(), from: Some(entity.name.clone()), to: Some(unique.clone()) });
            let id = format!("{}.{unique}", entity.module);
            changed.insert(std::mem::replace(&mut entity.id, id.clone()), id);
            entity.name = unique;
        }
    }
    retarget(schema, &changed);
}

fn retarget(schema: &mut Schema, changed: &HashMap<String, String>) {
    if changed.is_empty() {
        return;
    }
    let put = |id: &mut String| {
        if let Some(new) = changed.get(id) {
            id.clone_from(new);
        }
    };
    for entity in &mut schema.entities {
        entity.inherits.iter_mut().for_each(|inherits| put(&mut inherits.entity));
        for relation in &mut entity.relations {
            put(&mut relation.target);
            relation.through.iter_mut().for_each(put);
        }
    }
}

/// Enumerations share the classes' space of names.
fn enums(schema: &mut Schema, namer: &Namer) {
    let classes: HashSet<String> = schema.entities.iter().filter(|entity| entity.mapped.code).map(|entity| entity.name.clone()).collect();
    let mut changed: HashMap<String, String> = HashMap::new();
    for enumeration in schema.enums.iter_mut().filter(|enumeration| !enumeration.inline) {
        let mut name = namer.class(&enumeration.name);
        if classes.contains(&name) {
            name.push_str("Choice");
        }
        if name != enumeration.name {
            changed.insert(std::mem::replace(&mut enumeration.name, name.clone()), name);
        }
    }
    for field in schema.entities.iter_mut().flat_map(|entity| &mut entity.fields) {
        if let Some(new) = field.choices.as_ref().and_then(|name| changed.get(name)) {
            field.choices = Some(new.clone());
        }
        rename_type(&mut field.r#type, &changed);
    }
}

fn rename_type(ty: &mut Type, changed: &HashMap<String, String>) {
    match ty {
        Type::Enum(name) => {
            if let Some(new) = changed.get(name) {
                name.clone_from(new);
            }
        }
        Type::Array(element) => rename_type(element, changed),
        _ => {}
    }
}

fn attributes(entity: &mut Entity, namer: &Namer, conventions: &Conventions, taken: &mut HashSet<String>, renames: &mut Vec<Rename>) {
    let mut changed: HashMap<String, String> = HashMap::new();
    let key: Vec<String> = entity.key_columns().to_vec();
    let relation_columns: HashSet<String> = entity.relations.iter().flat_map(|relation| relation.columns.clone()).collect();
    let mut note = |renames: &mut Vec<Rename>, from: &Option<String>, to: &Option<String>| {
        if from != to {
            renames.push(Rename { element: entity.id.clone(), from: from.clone(), to: to.clone() });
            if let (Some(from), Some(to)) = (from, to) {
                changed.insert(from.clone(), to.clone());
            }
        }
    };
    for relation in entity.relations.iter_mut().filter(|relation| relation.name.is_some()) {
        let before = relation.name.clone();
        relation.name = before.as_deref().map(|name| namer.attribute(name, taken));
        note(renames, &before, &relation.name);
    }
    for field in &mut entity.fields {
        let before = field.name.clone();
        let owned = relation_columns.contains(&field.column);
        let more_than_a_relation_says = field.defaults.database.is_some()
            || field.defaults.application.is_some()
            || field.comment.is_some()
            || field.choices.is_some()
            || key.contains(&field.column);
        let wanted = match (&before, owned, conventions.join_columns) {
            // The relation's own class attribute stands for its column.
            (_, true, false) => None,
            (Some(name), _, _) => Some(name.clone()),
            (None, true, true) if more_than_a_relation_says && entity.mapped.code => Some(field.column.clone()),
            (None, true, true) => None,
            (None, false, _) if entity.mapped.code => Some(field.column.clone()),
            (None, false, _) => None,
        };
        field.name = wanted.map(|name| namer.attribute(&name, taken));
        note(renames, &before, &field.name);
    }
    let respelled = |name: &mut String| {
        if let Some(new) = changed.get(name) {
            name.clone_from(new);
        }
    };
    entity.label.iter_mut().for_each(respelled);
    entity.soft_delete.iter_mut().for_each(respelled);
    entity.order.iter_mut().for_each(|key| respelled(&mut key.field));
}

/// The names by which relations are reached from their targets.
fn inverse_sides(
    schema: &mut Schema,
    namer: &Namer,
    has_inverse: bool,
    taken: &mut HashMap<String, HashSet<String>>,
    renames: &mut Vec<Rename>,
) {
    if namer.same_language {
        return;
    }
    for entity in &mut schema.entities {
        let one = Case::Camel.apply(&entity.name);
        for relation in entity.relations.iter_mut().filter(|relation| relation.inverse.is_some() && relation.name.is_some()) {
            let before = relation.inverse.clone();
            let implied = relation.implied.has(Part::Inverse);
            let wanted = match (implied && !has_inverse, relation.kind) {
                (true, RelationKind::OneToOne) => one.clone(),
                (true, _) => plural(&one),
                (false, _) => before.clone().unwrap_or_default(),
            };
            relation.inverse = Some(namer.attribute(&wanted, taken.entry(relation.target.clone()).or_default()));
            if relation.inverse != before {
                renames.push(Rename { element: relation.target.clone(), from: before, to: relation.inverse.clone() });
            }
        }
    }
}
