//! Host names in the target language's manner: letter case, reserved words, collisions. Stored
//! names never change.

use std::collections::{HashMap, HashSet};

use super::Rename;
use crate::dialect::grammar::{ColumnPlace, JoinTablePlace, ReferencePlace};
use crate::dialect::naming::{Case, name_of_table, plural};
use crate::dialect::{Capabilities, Conventions, Dialect, Feature};
use crate::quoting::identifier;
use crate::schema::{
    EnforcedBy, Entity, EnumType, Field, ForeignKey, Inheritance, Part, Relation, RelationKind,
    Schema, Type,
};

/// Respells every host name; tells which ones changed.
pub(super) fn respell(
    schema: &mut Schema,
    dialect: &Dialect,
    (conventions, capabilities): (&Conventions, &Capabilities),
    same_language: bool,
) -> Vec<Rename> {
    let over_several = capabilities.has(Feature::CompositeReference);
    let home = schema.source.dialect == conventions.dialect.id;
    let gone = if home || conventions.limits.refers_to_any {
        HashSet::new()
    } else {
        super::references::to_any(schema)
    };
    let names_inline = !capabilities.has(Feature::InlineEnum);
    let namer = Namer { dialect, same_language, over_several, names_inline };
    let mut renames = Vec::new();
    modules(schema, &namer, &mut renames);
    classes(schema, &namer, &mut renames);
    enums(schema, &namer, &mut renames);
    if conventions.grammar.join_table == JoinTablePlace::Table {
        tables_without_class(schema);
    }
    relations_without_name(schema, conventions, &mut renames);
    let mut taken: HashMap<String, HashSet<String>> = HashMap::new();
    for entity in &mut schema.entities {
        let used = taken.entry(entity.id.clone()).or_default();
        // A class without a key would get one of this name.
        if let (true, true, Some((key, _))) =
            (conventions.keys.written, entity.primary_key.is_none(), &conventions.keys.implied)
        {
            used.insert((*key).to_owned());
        }
        attributes(entity, &namer, (conventions, &gone), used, &mut renames);
    }
    inverse_sides(schema, &namer, conventions, &mut taken, &mut renames);
    renames
}

#[derive(Clone, Copy)]
struct Namer<'d> {
    dialect: &'d Dialect,
    same_language: bool,
    /// Whether a relation can stand for several columns.
    over_several: bool,
    /// Whether lists of values that belong to one column have names, too.
    names_inline: bool,
}

impl Namer<'_> {
    /// A legal attribute name that is not taken yet.
    fn attribute(&self, name: &str, taken: &mut HashSet<String>) -> String {
        let language = self.dialect.language;
        let cased =
            if self.same_language { name.to_owned() } else { language.attribute_case.apply(name) };
        let legal = (language.names.attribute)(&cased, &self.dialect.details.names);
        unique(&legal, |name| taken.insert(name.to_owned()))
    }

    /// A legal class name, in the spelling of classes unless it has that already.
    fn class(&self, name: &str) -> String {
        let (names, reserved) = (&self.dialect.language.names, &self.dialect.details.names);
        let mut cased = (names.class)(name, reserved);
        let begins = cased.starts_with(|first: char| first.is_alphabetic());
        if (reserved.single_underscores && !begins) || !cased.contains(char::is_alphanumeric) {
            cased.insert_str(0, "Table");
        }
        if cased != name || cased.starts_with(char::is_lowercase) {
            cased = Case::Pascal.apply(&cased);
        }
        let taken =
            names.keywords.contains(&cased.as_str()) || reserved.classes.contains(&cased.as_str());
        if taken { format!("{cased}Record") } else { cased }
    }
}

/// The name, or the first of it with a number behind it that `take` takes.
fn unique(name: &str, mut take: impl FnMut(&str) -> bool) -> String {
    let numbered = (2u32..).map(|count| format!("{name}{count}"));
    std::iter::once(name.to_owned()).chain(numbered).find(|name| take(name)).unwrap_or_default()
}

/// A legal name of an attribute in this dialect that is not taken yet.
pub(super) fn member(dialect: &Dialect, name: &str, taken: &mut HashSet<String>) -> String {
    Namer { dialect, same_language: false, over_several: true, names_inline: false }
        .attribute(name, taken)
}

/// Each module gets a name that is one of the language, and of its own: modules are folders and
/// files, also on disks that do not tell letters by their case.
fn modules(schema: &mut Schema, namer: &Namer<'_>, renames: &mut Vec<Rename>) {
    let legal = |module: &str| match module {
        "" => "main".to_owned(),
        // A file of this name holds what is said of the project as a whole.
        module if namer.dialect.details.names.modules.contains(&module) => format!("{module}s"),
        module => (namer.dialect.language.names.module)(module),
    };
    let mut known: HashMap<String, String> = HashMap::new();
    let mut taken: HashSet<String> = HashSet::new();
    let mut fitting = |module: &str| -> String {
        let found = known.entry(module.to_owned()).or_insert_with(|| {
            let plain = legal(module);
            unique(&plain, |name| taken.insert(name.to_lowercase()))
        });
        found.clone()
    };
    let mut changed: HashMap<String, String> = HashMap::new();
    for entity in schema.entities.iter_mut().filter(|entity| !entity.external) {
        let module = fitting(&entity.module);
        if module != entity.module {
            let id = format!("{module}.{}", entity.name);
            renames.push(Rename {
                element: entity.id.clone(),
                from: Some(entity.module.clone()),
                to: Some(module.clone()),
            });
            changed.insert(std::mem::replace(&mut entity.id, id.clone()), id);
            entity.module = module;
        }
    }
    for enumeration in &mut schema.enums {
        enumeration.module = fitting(&enumeration.module);
    }
    retarget(schema, &changed);
}

fn classes(schema: &mut Schema, namer: &Namer<'_>, renames: &mut Vec<Rename>) {
    let mut taken: HashSet<String> = HashSet::new();
    let mut changed: HashMap<String, String> = HashMap::new();
    let by_module = namer.same_language && !namer.dialect.details.names.classes_global;
    for entity in schema.entities.iter_mut().filter(|entity| entity.mapped.code && !entity.external)
    {
        let legal = namer.class(&entity.name);
        // Class names are global in one framework and by module in the other; global is legal in
        // both.
        let name = unique(&legal, |name| {
            taken.insert(if by_module {
                format!("{}.{name}", entity.module)
            } else {
                name.to_owned()
            })
        });
        if name != entity.name {
            renames.push(Rename {
                element: entity.id.clone(),
                from: Some(entity.name.clone()),
                to: Some(name.clone()),
            });
            let id = format!("{}.{name}", entity.module);
            changed.insert(std::mem::replace(&mut entity.id, id.clone()), id);
            entity.name = name;
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
        entity.owned_by.iter_mut().for_each(|place| put(&mut place.entity));
        for relation in &mut entity.relations {
            put(&mut relation.target);
            relation.through.iter_mut().for_each(put);
        }
    }
}

/// Tables without a class are called after themselves.
fn tables_without_class(schema: &mut Schema) {
    let mut changed: HashMap<String, String> = HashMap::new();
    for entity in schema.entities.iter_mut().filter(|entity| !entity.mapped.code) {
        entity.name = name_of_table(&entity.table);
        let id = format!("{}.{}", entity.module, entity.name);
        changed.insert(std::mem::replace(&mut entity.id, id.clone()), id);
    }
    retarget(schema, &changed);
}

/// Relations that nobody named get a name where the target's relations have one, and the link to a
/// parent's table loses its own where that is no attribute.
fn relations_without_name(
    schema: &mut Schema,
    conventions: &Conventions,
    renames: &mut Vec<Rename>,
) {
    let at_home = schema.source.dialect == conventions.dialect.id;
    let ids: HashMap<String, (String, String)> = schema
        .entities
        .iter()
        .map(|entity| (entity.id.clone(), (entity.name.clone(), entity.module.clone())))
        .collect();
    for entity in schema.entities.iter_mut().filter(|entity| entity.mapped.code) {
        let parent = entity
            .inherits
            .as_ref()
            .filter(|inherits| inherits.how == Inheritance::Joined)
            .map(|inherits| inherits.entity.clone());
        let key = entity.key_columns().to_vec();
        let kept = |key: &&ForeignKey| key.enforced == EnforcedBy::Application;
        let by_application: Vec<Vec<String>> =
            entity.foreign_keys.iter().filter(kept).map(|key| key.columns.clone()).collect();
        for relation in
            entity.relations.iter_mut().filter(|relation| relation.kind != RelationKind::ManyToMany)
        {
            let before = relation.name.clone();
            // What no foreign key says must be an attribute.
            let alone = relation.inverse.is_none() && by_application.contains(&relation.columns);
            let link = parent
                .as_ref()
                .is_some_and(|parent| *parent == relation.target && relation.columns == key);
            match (&before, conventions.grammar.reference == ReferencePlace::Column) {
                (Some(_), true) if link => (relation.name, relation.inverse) = (None, None),
                (None, false) if link => {
                    let (name, module) = ids.get(&relation.target).cloned().unwrap_or_default();
                    relation.name = Some(
                        conventions
                            .names
                            .parent_link
                            .apply(&[("name", &name), ("module", &module)]),
                    );
                }
                // Its own language says such a relation from the other side, or with the column
                // alone.
                (None, false) if at_home && conventions.references.kind_by_uniqueness && !alone => {
                }
                (None, false) => relation.name = Some(relation_name(&relation.columns)),
                (None, true) if alone => relation.name = Some(relation_name(&relation.columns)),
                _ => {}
            }
            if relation.name != before {
                renames.push(Rename {
                    element: entity.id.clone(),
                    from: before,
                    to: relation.name.clone(),
                });
            }
        }
    }
}

/// `quay_id` is called `quay`; other columns lend their own name.
fn relation_name(columns: &[String]) -> String {
    let snake = Case::Snake.apply(&identifier(columns.first().map_or("relation", String::as_str)));
    snake.strip_suffix("_id").filter(|stem| !stem.is_empty()).map_or(snake.clone(), str::to_owned)
}

/// Enumerations share the classes' space of names.
fn enums(schema: &mut Schema, namer: &Namer<'_>, renames: &mut Vec<Rename>) {
    enum_members(schema, namer, renames);
    let classes: HashSet<String> = schema
        .entities
        .iter()
        .filter(|entity| entity.mapped.code)
        .map(|entity| entity.name.clone())
        .collect();
    let mut changed: HashMap<String, String> = HashMap::new();
    let mut taken: HashSet<String> = HashSet::new();
    let named = |enumeration: &&mut EnumType| !enumeration.inline || namer.names_inline;
    for enumeration in schema.enums.iter_mut().filter(named) {
        // One of a single column keeps a name that is legal, however it is spelt.
        let legal_as_it_is =
            (namer.dialect.language.names.class)(&enumeration.name, &namer.dialect.details.names)
                == enumeration.name;
        let kept = enumeration.inline && legal_as_it_is;
        let mut legal =
            if kept { enumeration.name.clone() } else { namer.class(&enumeration.name) };
        if classes.contains(&legal) {
            legal.push_str("Choice");
        }
        let name = unique(&legal, |name| !classes.contains(name) && taken.insert(name.to_owned()));
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

/// Members whose names are no names of the language get one; their values stay.
fn enum_members(schema: &mut Schema, namer: &Namer<'_>, renames: &mut Vec<Rename>) {
    for enumeration in
        schema.enums.iter_mut().filter(|enumeration| !enumeration.inline || namer.names_inline)
    {
        let mut taken: HashSet<String> = HashSet::new();
        for member in &mut enumeration.members {
            let name = unique(&(namer.dialect.language.names.member)(&member.name), |name| {
                taken.insert(name.to_owned())
            });
            if name != member.name {
                let from = std::mem::replace(&mut member.name, name.clone());
                renames.push(Rename {
                    element: enumeration.name.clone(),
                    from: Some(from),
                    to: Some(name),
                });
            }
        }
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

/// The name of a column's own attribute, before the namer; none where a relation stands for it.
fn wanted_name(
    field: &Field,
    (owned, in_key, of_code): (bool, bool, bool),
    reference: ReferencePlace,
) -> Option<String> {
    let more_than_a_relation_says = field.defaults.database.is_some()
        || field.defaults.application.is_some()
        || field.comment.is_some()
        || field.choices.is_some()
        || in_key;
    match (&field.name, reference) {
        // The relation's own class attribute stands for its column.
        (_, ReferencePlace::Relation | ReferencePlace::Path) if owned => None,
        (Some(name), _) => Some(name.clone()),
        (None, ReferencePlace::ListedColumns | ReferencePlace::Column) => {
            Some(field.column.clone()).filter(|_| of_code)
        }
        (None, ReferencePlace::Relation | ReferencePlace::JoinColumns | ReferencePlace::Path) => {
            Some(field.column.clone()).filter(|_| of_code && (!owned || more_than_a_relation_says))
        }
    }
}

fn attributes(
    entity: &mut Entity,
    namer: &Namer<'_>,
    (conventions, gone): (&Conventions, &HashSet<(String, Vec<String>)>),
    taken: &mut HashSet<String>,
    renames: &mut Vec<Rename>,
) {
    let mut changed: HashMap<String, String> = HashMap::new();
    let key: Vec<String> = entity.key_columns().to_vec();
    // Relations that the target cannot say leave their columns behind.
    let address = entity.address();
    let stands = |relation: &Relation| {
        (namer.over_several || relation.columns.len() < 2)
            && !gone.contains(&(address.clone(), relation.columns.clone()))
    };
    let standing = entity.relations.iter().filter(|relation| stands(relation));
    let relation_columns: HashSet<String> =
        standing.flat_map(|relation| relation.columns.clone()).collect();
    let mut note = |renames: &mut Vec<Rename>, from: &Option<String>, to: &Option<String>| {
        if from != to {
            renames.push(Rename { element: entity.id.clone(), from: from.clone(), to: to.clone() });
            if let (Some(from), Some(to)) = (from, to) {
                changed.insert(from.clone(), to.clone());
            }
        }
    };
    // Where columns live in steps, they are attributes by their own names.
    let by_column = conventions.grammar.columns == ColumnPlace::History;
    if by_column {
        taken.extend(entity.fields.iter().map(|field| field.column.clone()));
    }
    for relation in
        entity.relations.iter_mut().filter(|relation| relation.name.is_some() && stands(relation))
    {
        let before = relation.name.clone();
        relation.name = before.as_deref().map(|name| namer.attribute(name, taken));
        note(renames, &before, &relation.name);
    }
    for field in &mut entity.fields {
        let before = field.name.clone();
        if by_column {
            field.name = Some(field.column.clone()).filter(|_| entity.mapped.code);
            note(renames, &before, &field.name);
            continue;
        }
        let owned = relation_columns.contains(&field.column);
        let wanted = wanted_name(
            field,
            (owned, key.contains(&field.column), entity.mapped.code),
            conventions.grammar.reference,
        );
        // A name that is made of the column's is the target's own.
        let of_column = Namer { same_language: namer.same_language && before.is_some(), ..*namer };
        field.name = wanted.map(|name| of_column.attribute(&name, taken));
        note(renames, &before, &field.name);
    }
    let respelled = |name: &mut String| {
        if let Some(new) = changed.get(name) {
            name.clone_from(new);
        }
    };
    entity.label.iter_mut().for_each(respelled);
    // It is printed as code, so it must be an attribute.
    let named = |label: &String| {
        let fields = entity.fields.iter().filter_map(|field| field.name.as_ref());
        fields
            .chain(entity.relations.iter().filter_map(|relation| relation.name.as_ref()))
            .any(|name| name == label)
    };
    if !entity
        .label
        .as_ref()
        .is_none_or(|label| named(label) || crate::quoting::is_identifier(label))
    {
        entity.label = None;
    }
    entity.soft_delete.iter_mut().for_each(respelled);
    entity.order.iter_mut().for_each(|key| respelled(&mut key.field));
}

/// The names by which relations are reached from their targets.
fn inverse_sides(
    schema: &mut Schema,
    namer: &Namer<'_>,
    conventions: &Conventions,
    taken: &mut HashMap<String, HashSet<String>>,
    renames: &mut Vec<Rename>,
) {
    let has_inverse = conventions.names.inverse.is_some();
    if namer.same_language && has_inverse {
        return;
    }
    for entity in &mut schema.entities {
        let one = namer.dialect.language.attribute_case.apply(&entity.name);
        let demanded = conventions.grammar.both_sides && entity.mapped.code;
        for relation in
            entity.relations.iter_mut().filter(|relation| relation.inverse.is_some() || demanded)
        {
            let before = relation.inverse.clone();
            let implied = relation.implied.has(Part::Inverse);
            let wanted = match ((implied && !has_inverse) || before.is_none(), relation.kind) {
                (true, RelationKind::OneToOne) => one.clone(),
                (true, _) => plural(&one),
                (false, _) => before.clone().unwrap_or_default(),
            };
            relation.inverse =
                Some(namer.attribute(&wanted, taken.entry(relation.target.clone()).or_default()));
            if relation.inverse != before {
                renames.push(Rename {
                    element: relation.target.clone(),
                    from: before,
                    to: relation.inverse.clone(),
                });
            }
        }
    }
}
