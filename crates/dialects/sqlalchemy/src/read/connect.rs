//! Both sides of every relationship: which class refers, by which columns, and how the other side
//! knows it.
//!
//! A relationship says little: the foreign keys of the tables say who owns it. So it is settled
//! when all classes are read.

use std::collections::{HashMap, HashSet};

use serde_json::json;

use super::column::Column;
use super::relationship::{Path, Relationship, Secondary};
use crate::codes;
use crate::declaration::{
    Attribute, Form, InverseDeclaration, InverseKind, JoinColumn, Model, ReferenceDeclaration,
    RelationDeclaration,
};
use crate::diagnostic::{Diagnostic, Severity};
use crate::schema::{Action, RelationKind, address};

/// A class or a table whose relationships are not settled yet.
#[derive(Default)]
pub(super) struct Draft {
    pub(super) model: Model,
    /// Relationships with their places among the attributes.
    pub(super) relationships: Vec<(usize, Relationship)>,
    /// Foreign keys that name a class and an attribute: the attribute that declares them, class and
    /// attribute.
    pub(super) by_class: Vec<(String, String, String)>,
    /// The name of the variable that holds a table.
    pub(super) variable: String,
    /// Id of the table that a class was mapped to by a call.
    pub(super) replaces: Option<String>,
}

impl Draft {
    /// Adds a column with what it says of its class.
    pub(super) fn add(&mut self, column: Column) {
        let own = column
            .declared
            .name
            .clone()
            .or_else(|| column.declared.column.clone())
            .unwrap_or_default();
        self.model.indexes.extend(column.indexes);
        self.model.checks.extend(column.checks);
        self.model.references.extend(
            column
                .references
                .into_iter()
                .map(|reference| ReferenceDeclaration { columns: vec![own.clone()], ..reference }),
        );
        self.by_class.extend(column.by_class.map(|(id, attribute)| (own, id, attribute)));
        self.model.attributes.push(Attribute::Field(Box::new(column.declared)));
    }
}

/// Models with their relations.
pub(super) fn connect(mut drafts: Vec<Draft>, diagnostics: &mut Vec<Diagnostic>) -> Vec<Model> {
    let replaced: HashSet<String> =
        drafts.iter().filter_map(|draft| draft.replaces.clone()).collect();
    drafts.retain(|draft| !replaced.contains(&draft.model.id));
    // Keys name classes and their attributes, which afterwards stand in the class of the parent.
    name_targets(&mut drafts);
    merge_children(&mut drafts);
    let settled = Connecting::of(&drafts).settle(diagnostics);
    let mut models: Vec<Model> = drafts.into_iter().map(|draft| draft.model).collect();
    for (model, (attributes, extras)) in models.iter_mut().zip(settled) {
        model.attributes = attributes;
        model.extras.extend(extras);
    }
    models
}

/// Puts tables of which no named schema is said into that of the metadata, and references to them.
pub(super) fn in_schema(drafts: &mut [Draft], schema: &str) {
    let put = |namespace: &mut Option<String>| {
        namespace.get_or_insert_with(|| schema.to_owned());
    };
    for draft in drafts.iter_mut().filter(|draft| draft.model.form != Form::Abstract) {
        put(&mut draft.model.namespace);
    }
    for draft in drafts {
        draft.model.references.iter_mut().for_each(|reference| put(&mut reference.namespace));
        for attribute in &mut draft.model.attributes {
            if let Attribute::Field(field) = attribute {
                field.reference.iter_mut().for_each(|reference| put(&mut reference.namespace));
            }
        }
    }
}

/// Foreign keys that name an attribute of a class get its table and column.
fn name_targets(drafts: &mut [Draft]) {
    let mut known: HashMap<(String, String), ReferenceDeclaration> = HashMap::new();
    for draft in drafts.iter().filter(|draft| !draft.model.id.is_empty()) {
        let Some(table) = &draft.model.table else { continue };
        for (attribute, column) in super::constraint::columns_of(&draft.model) {
            let target = ReferenceDeclaration {
                namespace: draft.model.namespace.clone(),
                table: table.clone(),
                references: vec![column],
                ..ReferenceDeclaration::default()
            };
            known.insert((draft.model.id.clone(), attribute), target);
        }
    }
    for draft in drafts {
        for (own, id, attribute) in std::mem::take(&mut draft.by_class) {
            let Some(target) = known.get(&(id, attribute)) else { continue };
            for field in draft.model.attributes.iter_mut() {
                if let Attribute::Field(field) = field
                    && field.name.as_ref().or(field.column.as_ref()) == Some(&own)
                    && let Some(reference) = &mut field.reference
                {
                    (reference.namespace, reference.table) =
                        (target.namespace.clone(), target.table.clone());
                    reference.references.clone_from(&target.references);
                }
            }
        }
    }
}

/// Columns of classes that share their parent's table go there.
fn merge_children(drafts: &mut [Draft]) {
    let places: HashMap<String, usize> =
        drafts.iter().enumerate().map(|(at, draft)| (draft.model.id.clone(), at)).collect();
    for child in 0..drafts.len() {
        if drafts[child].model.form != Form::SameTable {
            continue;
        }
        let is_table = |at: &usize| drafts[*at].model.form == Form::Concrete;
        let mut parent = drafts[child]
            .model
            .extends
            .iter()
            .filter_map(|id| places.get(id))
            .copied()
            .find(|at| drafts[*at].model.form != Form::Abstract);
        // More than anybody writes: classes may extend each other in a circle.
        for _ in 0..16 {
            match parent {
                Some(at) if !is_table(&at) => {
                    parent = drafts[at]
                        .model
                        .extends
                        .iter()
                        .filter_map(|id| places.get(id))
                        .copied()
                        .next()
                }
                _ => break,
            }
        }
        let Some(parent) = parent else { continue };
        drafts[child].model.extends = vec![drafts[parent].model.id.clone()];
        let attributes = std::mem::take(&mut drafts[child].model.attributes);
        let relationships = std::mem::take(&mut drafts[child].relationships);
        let (uniques, indexes, checks) = {
            let model = &mut drafts[child].model;
            (
                std::mem::take(&mut model.uniques),
                std::mem::take(&mut model.indexes),
                std::mem::take(&mut model.checks),
            )
        };
        let start = drafts[parent].model.attributes.len();
        let known: Vec<String> = drafts[parent]
            .model
            .attributes
            .iter()
            .filter_map(|one| one.name().map(str::to_owned))
            .collect();
        let target = &mut drafts[parent];
        target
            .relationships
            .extend(relationships.into_iter().map(|(at, relationship)| (start + at, relationship)));
        // The places of relationships stay what they are.
        target.model.attributes.extend(attributes.into_iter().map(
            |attribute| match attribute.name() {
                Some(name) if !name.is_empty() && known.iter().any(|own| own == name) => {
                    Attribute::Removed(String::new())
                }
                _ => attribute,
            },
        ));
        target.model.uniques.extend(uniques);
        target.model.indexes.extend(indexes);
        target.model.checks.extend(checks);
    }
}

/// A foreign key, or what a condition makes of two columns.
#[derive(Clone, Debug, PartialEq)]
struct Key {
    /// Attributes of the class that refers.
    attributes: Vec<String>,
    /// Address of the table referred to.
    table: String,
    references: Vec<String>,
    /// Nothing but a condition says it.
    unenforced: bool,
}

/// What a relationship turned out to be.
#[derive(Clone, Debug)]
enum Role {
    /// The class refers, by this key.
    Owner(Key),
    /// The other class refers here, by this key of its own.
    Inverse(Key),
    /// A join table, and whether this side is the one that it refers to first.
    Many { through: usize, first: bool },
    /// It was not understood.
    Unknown,
}

struct RelationshipSide<'d> {
    draft: usize,
    /// Place among the attributes; none for sides that another one makes.
    place: Option<usize>,
    relationship: &'d Relationship,
    target: usize,
    role: Role,
}

/// All sides, with those that stand in a class and those that lead to one.
#[derive(Default)]
struct Sides<'d> {
    all: Vec<RelationshipSide<'d>>,
    within: HashMap<usize, Vec<usize>>,
    leading_to: HashMap<usize, Vec<usize>>,
}

impl<'d> Sides<'d> {
    fn push(&mut self, side: RelationshipSide<'d>) {
        self.within.entry(side.draft).or_default().push(self.all.len());
        self.leading_to.entry(side.target).or_default().push(self.all.len());
        self.all.push(side);
    }

    fn within(&self, draft: usize) -> impl Iterator<Item = &RelationshipSide<'d>> {
        self.within.get(&draft).into_iter().flatten().map(|at| &self.all[*at])
    }

    fn leading_to(&self, target: usize) -> impl Iterator<Item = &RelationshipSide<'d>> {
        self.leading_to.get(&target).into_iter().flatten().map(|at| &self.all[*at])
    }
}

struct Connecting<'d> {
    drafts: &'d [Draft],
    by_id: HashMap<&'d str, usize>,
    by_name: HashMap<&'d str, usize>,
    by_table: HashMap<String, usize>,
    by_variable: HashMap<&'d str, usize>,
}

/// Attributes of a class, and what is kept of relationships that were not understood.
type Settled = (Vec<Attribute>, Vec<(String, serde_json::Value)>);

impl<'d> Connecting<'d> {
    fn of(drafts: &'d [Draft]) -> Self {
        let mut connecting = Connecting {
            drafts,
            by_id: HashMap::new(),
            by_name: HashMap::new(),
            by_table: HashMap::new(),
            by_variable: HashMap::new(),
        };
        for (at, draft) in drafts.iter().enumerate() {
            connecting.by_id.entry(&draft.model.id).or_insert(at);
            connecting.by_name.entry(&draft.model.name).or_insert(at);
            if let Some(table) = &draft.model.table {
                connecting
                    .by_table
                    .entry(address(draft.model.namespace.as_deref(), table))
                    .or_insert(at);
            }
            if !draft.variable.is_empty() {
                connecting.by_variable.entry(&draft.variable).or_insert(at);
            }
        }
        connecting
    }

    fn settle(&self, diagnostics: &mut Vec<Diagnostic>) -> Vec<Settled> {
        // All sides before any is settled: each asks for the one that answers it.
        let mut sides = Sides::default();
        for (at, draft) in self.drafts.iter().enumerate() {
            for (place, relationship) in &draft.relationships {
                let Some(target) = self.target(at, relationship) else {
                    self.undeclared(draft, relationship, diagnostics);
                    continue;
                };
                let role = self.role(at, target, relationship);
                sides.push(RelationshipSide {
                    draft: at,
                    place: Some(*place),
                    relationship,
                    target,
                    role: role.clone(),
                });
                if let Some(other) = &relationship.backref {
                    sides.push(RelationshipSide {
                        draft: target,
                        place: None,
                        relationship: other,
                        target: at,
                        role: self.turned(role),
                    });
                }
            }
        }
        let mut settled: Vec<Settled> =
            self.drafts.iter().map(|draft| (draft.model.attributes.clone(), Vec::new())).collect();
        let mut added: Vec<Vec<Attribute>> = vec![Vec::new(); self.drafts.len()];
        let mut unnamed: HashMap<(usize, Vec<String>), RelationDeclaration> = HashMap::new();
        for side in &sides.all {
            let declared = match &side.role {
                Role::Owner(key) => Some(self.owner(side, key, &sides)),
                Role::Inverse(key) => Some(self.inverse(side, key, &sides, &mut unnamed)),
                Role::Many { through, first } => Some(self.many(side, *through, *first, &sides)),
                Role::Unknown => {
                    self.unknown(side, &mut settled, diagnostics);
                    None
                }
            };
            match (declared, side.place) {
                (Some(declared), Some(place)) => settled[side.draft].0[place] = declared,
                (Some(declared), None) => added[side.draft].push(declared),
                (None, _) => {}
            }
        }
        let mut without_name: Vec<_> = unnamed.into_iter().collect();
        without_name.sort_by(|(left, _), (right, _)| left.cmp(right));
        for ((draft, _), relation) in without_name {
            settled[draft].0.push(Attribute::Relation(Box::new(relation)));
        }
        for (settled, added) in settled.iter_mut().zip(added) {
            settled.0.extend(added);
            settled.0.retain(
                |attribute| !matches!(attribute, Attribute::Removed(name) if name.is_empty()),
            );
        }
        settled
    }

    /// The class that a relationship leads to.
    fn target(&self, own: usize, relationship: &Relationship) -> Option<usize> {
        let name = relationship.target.as_deref()?;
        let module = format!("{}.{name}", self.drafts[own].model.module);
        let found = self
            .by_id
            .get(name)
            .or_else(|| self.by_id.get(module.as_str()))
            .or_else(|| self.by_name.get(name));
        found.copied().filter(|at| !matches!(self.drafts[*at].model.form, Form::Table))
    }

    fn undeclared(
        &self,
        draft: &Draft,
        relationship: &Relationship,
        diagnostics: &mut Vec<Diagnostic>,
    ) {
        let target = relationship.target.as_deref().unwrap_or("a class known only at run time");
        let message = format!(
            "`{}.{}` leads to `{target}`, which nobody declares",
            draft.model.name, relationship.name
        );
        diagnostics.push(
            Diagnostic::of(&codes::UNDECLARED_TARGET, message)
                .at(Some(relationship.span), "leads to nothing known")
                .with_help(
                    "add the file that declares it to the inputs, or name its package with \
                     --follow",
                ),
        );
    }

    /// The place of the class whose table this one's is.
    fn with_table(&self, at: usize) -> usize {
        let model = &self.drafts[at].model;
        let parent = model.extends.first().and_then(|id| self.by_id.get(id.as_str()));
        if model.form == Form::SameTable { parent.copied().unwrap_or(at) } else { at }
    }

    fn address(&self, at: usize) -> Option<String> {
        let model = &self.drafts[self.with_table(at)].model;
        Some(address(model.namespace.as_deref(), model.table.as_ref()?))
    }

    /// Addresses of a class's table and of those that it joins.
    fn addresses(&self, at: usize) -> Vec<String> {
        let mut found: Vec<String> = self.address(at).into_iter().collect();
        let mut next = at;
        for _ in 0..16 {
            let with_table = |at: &&usize| self.drafts[**at].model.table.is_some();
            let parents =
                self.drafts[next].model.extends.iter().filter_map(|id| self.by_id.get(id.as_str()));
            let Some(parent) = parents.clone().find(with_table).or_else(|| parents.clone().next())
            else {
                break;
            };
            found.extend(self.address(*parent));
            next = *parent;
        }
        found
    }

    /// Every foreign key of a class, those of the classes whose columns it gets included.
    fn keys(&self, at: usize, depth: u32) -> Vec<Key> {
        let model = &self.drafts[self.with_table(at)].model;
        let mut keys = Vec::new();
        let key = |columns: Vec<String>, reference: &ReferenceDeclaration| Key {
            attributes: columns,
            table: address(reference.namespace.as_deref(), &reference.table),
            references: reference.references.clone(),
            unenforced: false,
        };
        for attribute in &model.attributes {
            if let Attribute::Field(field) = attribute
                && let Some(reference) = &field.reference
            {
                keys.push(key(
                    vec![field.name.clone().or_else(|| field.column.clone()).unwrap_or_default()],
                    reference,
                ));
            }
        }
        keys.extend(
            model.references.iter().map(|reference| key(reference.columns.clone(), reference)),
        );
        for base in
            model.extends.iter().filter(|_| depth < 16).filter_map(|id| self.by_id.get(id.as_str()))
        {
            if self.drafts[*base].model.form == Form::Abstract {
                keys.extend(self.keys(*base, depth + 1));
            }
        }
        keys
    }

    fn role(&self, own: usize, target: usize, relationship: &Relationship) -> Role {
        if let Some(secondary) = &relationship.secondary {
            return self.join(own, relationship, secondary);
        }
        if relationship.view_only {
            return Role::Unknown;
        }
        let (here, there) = (self.addresses(own), self.addresses(target));
        let mut outgoing: Vec<Key> =
            self.keys(own, 0).into_iter().filter(|key| there.contains(&key.table)).collect();
        let mut incoming: Vec<Key> =
            self.keys(target, 0).into_iter().filter(|key| here.contains(&key.table)).collect();
        if relationship.condition.as_ref().is_some_and(Vec::is_empty) {
            // A condition that says more than a foreign key.
            return Role::Unknown;
        }
        let named: Vec<&Path> = relationship
            .foreign_keys
            .iter()
            .chain(relationship.condition.iter().flatten().flat_map(|(left, right)| [left, right]))
            .collect();
        if !named.is_empty() {
            let of = |at: usize, key: &Key| {
                key.attributes.iter().all(|attribute| {
                    named.iter().any(|path| self.is_path(own, at, path, attribute))
                })
            };
            outgoing.retain(|key| of(own, key));
            incoming.retain(|key| of(target, key));
        }
        let to_itself = here.iter().any(|table| there.contains(table));
        if to_itself {
            let owns = self.is_remote_key(target, relationship);
            let list = if owns { &outgoing } else { &incoming };
            return match (list.first(), owns) {
                (Some(key), true) => Role::Owner(key.clone()),
                (Some(key), false) => Role::Inverse(key.clone()),
                (None, _) => match self.by_condition(own, target, relationship) {
                    Role::Owner(key) if !owns => Role::Inverse(key),
                    role => role,
                },
            };
        }
        match (outgoing.as_slice(), incoming.as_slice(), relationship.many) {
            ([key, ..], [], _) => Role::Owner(key.clone()),
            ([], [key, ..], _) => Role::Inverse(key.clone()),
            ([key, ..], _, Some(false) | None) => Role::Owner(key.clone()),
            (_, [key, ..], Some(true)) => Role::Inverse(key.clone()),
            _ => self.by_condition(own, target, relationship),
        }
    }

    /// Whether a path, written in the class `own`, names this attribute (or its column) of the
    /// class `at`.
    fn is_path(&self, own: usize, at: usize, (owner, name): &Path, attribute: &str) -> bool {
        let model = &self.drafts[self.with_table(at)].model;
        let of_class = match owner.as_deref() {
            None | Some("cls" | "self") => own == at,
            Some(owner) => {
                owner == model.name
                    || owner == self.drafts[at].model.name
                    || Some(owner) == model.table.as_deref()
            }
        };
        let column =
            super::constraint::columns_of(model).into_iter().find(|(known, _)| known == attribute);
        of_class && (name == attribute || column.is_some_and(|(_, column)| column == *name))
    }

    /// Whether the other side of a relationship of a class to itself is the one with the key.
    fn is_remote_key(&self, at: usize, relationship: &Relationship) -> bool {
        let own = self.addresses(at);
        let keys: Vec<Key> =
            self.keys(at, 0).into_iter().filter(|key| own.contains(&key.table)).collect();
        let refers = |path: &Path| {
            keys.iter()
                .flat_map(|key| &key.attributes)
                .any(|attribute| self.is_path(at, at, path, attribute))
        };
        !relationship.remote_side.is_empty() && !relationship.remote_side.iter().any(refers)
    }

    /// Columns that only a condition binds: the one that is said to be foreign refers to the other.
    fn by_condition(&self, own: usize, target: usize, relationship: &Relationship) -> Role {
        let Some([(left, right)]) = relationship.condition.as_deref() else { return Role::Unknown };
        let [foreign] = relationship.foreign_keys.as_slice() else { return Role::Unknown };
        let (foreign, other) =
            if foreign.1 == left.1 && (foreign.0.is_none() || foreign.0 == left.0) {
                (left, right)
            } else {
                (right, left)
            };
        let attribute = |at: usize, path: &Path| {
            let model = &self.drafts[self.with_table(at)].model;
            super::constraint::columns_of(model)
                .into_iter()
                .find(|(known, _)| self.is_path(own, at, path, known))
        };
        let key = |from: usize, to: usize| {
            let (attribute_name, _) = attribute(from, foreign)?;
            let (_, column) = attribute(to, other)?;
            Some(Key {
                attributes: vec![attribute_name],
                table: self.address(to)?,
                references: vec![column],
                unenforced: true,
            })
        };
        match (key(own, target), key(target, own)) {
            (Some(key), _) => Role::Owner(key),
            (None, Some(key)) => Role::Inverse(key),
            (None, None) => Role::Unknown,
        }
    }

    fn join(&self, own: usize, relationship: &Relationship, secondary: &Secondary) -> Role {
        let found = match secondary {
            Secondary::Class(id) => self.by_id.get(id.as_str()),
            Secondary::Table(name) => self
                .by_table
                .get(name)
                .or_else(|| self.by_variable.get(name.as_str()))
                .or_else(|| self.by_name.get(name.as_str())),
        };
        let Some(through) = found.copied() else { return Role::Unknown };
        let keys = self.keys(through, 0);
        let Some(first) = keys.first() else { return Role::Unknown };
        let own_tables = self.addresses(own);
        let others = keys.iter().skip(1).any(|key| own_tables.contains(&key.table));
        let first = match (own_tables.contains(&first.table), others) {
            (true, true) => {
                let names = |path: &Path| first.attributes.contains(&path.1);
                relationship
                    .condition
                    .iter()
                    .flatten()
                    .any(|(left, right)| names(left) || names(right))
            }
            (first, _) => first,
        };
        Role::Many { through, first }
    }

    fn turned(&self, role: Role) -> Role {
        match role {
            Role::Owner(key) => Role::Inverse(key),
            Role::Inverse(key) => Role::Owner(key),
            Role::Many { through, first } => Role::Many { through, first: !first },
            Role::Unknown => Role::Unknown,
        }
    }

    /// The side that leads back along a key of `draft`.
    fn back<'s>(
        &self,
        draft: usize,
        target: usize,
        key: &Key,
        sides: &'s Sides<'d>,
        owners: bool,
    ) -> Option<&'s RelationshipSide<'d>> {
        let found: Vec<&RelationshipSide<'d>> = if owners {
            let fits = |side: &&RelationshipSide<'d>| {
                side.target == target && matches!(&side.role, Role::Owner(own) if own == key)
            };
            sides.within(draft).filter(fits).collect()
        } else {
            let same_table = |side: &RelationshipSide<'d>| {
                self.with_table(side.draft) == self.with_table(target)
            };
            let fits = |side: &&RelationshipSide<'d>| {
                same_table(side) && matches!(&side.role, Role::Inverse(own) if own == key)
            };
            sides.leading_to(draft).filter(fits).collect()
        };
        let own = |side: &&&RelationshipSide<'d>| side.relationship.back_populates.is_some();
        found.iter().find(own).or(found.first()).copied()
    }

    fn is_many(&self, side: &RelationshipSide<'_>) -> bool {
        side.relationship.many.unwrap_or(matches!(side.role, Role::Inverse(_) | Role::Many { .. }))
    }

    fn owner(&self, side: &RelationshipSide<'d>, key: &Key, sides: &Sides<'d>) -> Attribute {
        let inverse = self.back(side.draft, side.target, key, sides, false);
        let one = inverse.map_or_else(
            || self.is_unique(side.draft, &key.attributes),
            |inverse| !self.is_many(inverse),
        );
        let kind = if one { RelationKind::OneToOne } else { RelationKind::ManyToOne };
        let name = Some(side.relationship.name.clone());
        let mut declared = self.over(side.draft, name, kind, side.target, key);
        declared.carrier.optional_in_code = Some(side.relationship.optional);
        declared.extras = side.relationship.kept();
        if let Some(cascade) = &side.relationship.cascade {
            declared.extras.insert("cascade".into(), json!(cascade));
        }
        declared.on_delete = inverse.and_then(|inverse| deletes(inverse.relationship));
        declared.span = Some(side.relationship.span);
        Attribute::Relation(Box::new(declared))
    }

    /// A relation over a key, which it names where another key leads to the same table.
    fn over(
        &self,
        draft: usize,
        name: Option<String>,
        kind: RelationKind,
        target: usize,
        key: &Key,
    ) -> RelationDeclaration {
        let unnamed = name.is_none();
        let mut declared =
            RelationDeclaration::new(name, kind, self.drafts[target].model.id.clone());
        let forth = self.keys(draft, 0).iter().filter(|other| other.table == key.table).count();
        let own = self.address(draft);
        let back = if draft == target {
            0
        } else {
            self.keys(target, 0).iter().filter(|other| Some(&other.table) == own.as_ref()).count()
        };
        let several = forth + back > 1;
        declared.constraint = key.unenforced.then_some(false);
        if several || key.unenforced || unnamed {
            let column = |attribute: &String| JoinColumn {
                name: Some(attribute.clone()),
                ..JoinColumn::default()
            };
            declared.join_columns = key.attributes.iter().map(column).collect();
        }
        if key.unenforced {
            declared
                .join_columns
                .iter_mut()
                .zip(&key.references)
                .for_each(|(join, column)| join.references = Some(column.clone()));
        }
        declared
    }

    fn is_unique(&self, at: usize, attributes: &[String]) -> bool {
        let model = &self.drafts[self.with_table(at)].model;
        let same = |names: &[String]| {
            names.len() == attributes.len() && attributes.iter().all(|name| names.contains(name))
        };
        let field = |test: &dyn Fn(&crate::declaration::FieldDeclaration) -> bool| {
            let own = model.attributes.iter().filter_map(|attribute| match attribute {
                Attribute::Field(field) if test(field) => {
                    field.name.clone().or_else(|| field.column.clone())
                }
                _ => None,
            });
            own.collect::<Vec<String>>()
        };
        let unique = field(&|field| field.unique == Some(true));
        let key = field(&|field| field.key);
        let indexed =
            model.indexes.iter().filter(|index| index.unique && index.condition.is_none());
        let parts = |index: &crate::declaration::IndexDeclaration| {
            index.parts.iter().filter_map(|part| part.attribute.clone()).collect::<Vec<_>>()
        };
        matches!(attributes, [only] if unique.contains(only))
            || same(&key)
            || model.uniques.iter().any(|unique| same(&unique.attributes))
            || indexed
                .into_iter()
                .any(|index| same(&parts(index)) && parts(index).len() == index.parts.len())
    }

    fn inverse(
        &self,
        side: &RelationshipSide<'d>,
        key: &Key,
        sides: &Sides<'d>,
        unnamed: &mut HashMap<(usize, Vec<String>), RelationDeclaration>,
    ) -> Attribute {
        let owner = self.back(side.target, side.draft, key, sides, true);
        let one = !self.is_many(side);
        if owner.is_none() {
            let kind = if one { RelationKind::OneToOne } else { RelationKind::ManyToOne };
            let mut relation = self.over(side.target, None, kind, side.draft, key);
            relation.on_delete = deletes(side.relationship);
            relation.carrier.optional_in_code =
                Some(self.is_nullable(side.target, &key.attributes));
            relation.span = Some(side.relationship.span);
            unnamed.insert((side.target, key.attributes.clone()), relation);
        }
        let columns =
            key.attributes.iter().map(|attribute| self.column(side.target, attribute)).collect();
        Attribute::Inverse(Box::new(InverseDeclaration {
            name: side.relationship.name.clone(),
            kind: if one { InverseKind::OneToOne } else { InverseKind::OneToMany },
            target: self.drafts[side.target].model.id.clone(),
            owner: owner.map_or(String::new(), |owner| owner.relationship.name.clone()),
            columns: if owner.is_some() { Vec::new() } else { columns },
            extras: self.kept_of_inverse(side.relationship),
            span: Some(side.relationship.span),
        }))
    }

    fn column(&self, at: usize, attribute: &str) -> String {
        let columns = super::constraint::columns_of(&self.drafts[self.with_table(at)].model);
        super::constraint::stored(&columns, attribute).unwrap_or_else(|| attribute.to_owned())
    }

    fn is_nullable(&self, at: usize, attributes: &[String]) -> bool {
        let nullable = |attribute: &Attribute| match attribute {
            Attribute::Field(field)
                if field.name.as_ref().is_some_and(|name| attributes.contains(name)) =>
            {
                !field.key && field.nullable.or(field.optional_in_code).unwrap_or(true)
            }
            _ => false,
        };
        self.drafts[self.with_table(at)].model.attributes.iter().any(nullable)
    }

    /// Options of the side that owns nothing; deleting along is an action of the application.
    fn kept_of_inverse(&self, relationship: &Relationship) -> crate::schema::Extras {
        let mut extras = relationship.kept();
        let said = relationship
            .cascade
            .as_deref()
            .filter(|cascade| deletes(relationship).is_none() || *cascade != DELETE);
        extras.extend(said.map(|cascade| ("cascade".to_owned(), json!(cascade))));
        extras
    }

    fn many(
        &self,
        side: &RelationshipSide<'d>,
        through: usize,
        first: bool,
        sides: &Sides<'d>,
    ) -> Attribute {
        let partner = sides.within(side.target).find(|other| {
            matches!(other.role, Role::Many { through: also, .. } if also == through)
                && other.target == side.draft
                && !std::ptr::eq(*other, side)
        });
        let owns = partner.is_none() || first;
        let id = |at: usize| self.drafts[at].model.id.clone();
        if let (false, Some(partner)) = (owns, partner) {
            return Attribute::Inverse(Box::new(InverseDeclaration {
                name: side.relationship.name.clone(),
                kind: InverseKind::ManyToMany,
                target: id(side.target),
                owner: partner.relationship.name.clone(),
                columns: Vec::new(),
                extras: self.kept_of_inverse(side.relationship),
                span: Some(side.relationship.span),
            }));
        }
        let name = Some(side.relationship.name.clone());
        let mut declared =
            RelationDeclaration::new(name, RelationKind::ManyToMany, id(side.target));
        declared.through = Some(id(through));
        declared.carrier.optional_in_code = Some(false);
        declared.extras = side.relationship.kept();
        declared.extras.extend(
            side.relationship
                .cascade
                .as_ref()
                .map(|cascade| ("cascade".to_owned(), json!(cascade))),
        );
        declared.span = Some(side.relationship.span);
        Attribute::Relation(Box::new(declared))
    }

    /// What was not understood is kept as code, and said.
    fn unknown(
        &self,
        side: &RelationshipSide<'d>,
        settled: &mut [Settled],
        diagnostics: &mut Vec<Diagnostic>,
    ) {
        let (relationship, class) = (side.relationship, &self.drafts[side.draft].model.name);
        if side.place.is_none() {
            return;
        }
        settled[side.draft]
            .1
            .push((relationship.name.clone(), json!({ "code": relationship.code })));
        let why = match (relationship.view_only, &relationship.condition) {
            (true, _) => "it only shows records, and owns no columns",
            (false, Some(_)) => "its condition says more than that columns are equal",
            (false, None) => "no foreign key leads from one of the two tables to the other",
        };
        let severity = if relationship.view_only || relationship.condition.is_some() {
            Severity::Note
        } else {
            Severity::Warning
        };
        let message = format!("`{class}.{}` is kept as it stands: {why}", relationship.name);
        diagnostics.push(
            Diagnostic::of(&codes::RELATIONSHIP_KEPT, message)
                .graded(severity)
                .at(Some(relationship.span), "this relationship"),
        );
    }
}

/// What is written for deleting along, and nothing more.
pub(crate) const DELETE: &str = "all, delete";

/// What the application does with the referring records when the one that they refer to is deleted.
fn deletes(relationship: &Relationship) -> Option<Action> {
    let cascade = relationship.cascade.as_deref()?;
    let delete = cascade.split(',').map(str::trim).any(|word| word == "all" || word == "delete");
    (delete && !relationship.passive).then_some(Action::Cascade)
}
