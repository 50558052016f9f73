//! Associations between models that are all known: which attribute carries each, and what the
//! database does.

use std::collections::HashMap;

use super::{Association, ForeignKey, Kind, many};
use crate::codes;
use crate::declaration::{
    FieldDeclaration, InverseDeclaration, InverseKind, JoinColumn, Model, RelationDeclaration,
    Spelling,
};
use crate::diagnostic::Diagnostic;
use crate::dialect::circle::has_circle;
use crate::dialect::naming::{Case, singular};
use crate::read::{Draft, Reader, Reference, Target};
use crate::schema::{Action, Deferrable, Extras, RelationKind};
use crate::source::{FileId, Span};
use crate::types::NUMBERED;

/// Every model with its relations.
pub(in crate::read) fn connect(
    reader: &Reader<'_>,
    drafts: Vec<Draft>,
    associations: Vec<Association>,
    diagnostics: &mut Vec<Diagnostic>,
) -> Vec<Model> {
    let names = Names::of(&drafts);
    let (keys, key_places, sides, side_places, pairs) = Default::default();
    let mut connecting = Connecting {
        reader,
        drafts,
        names,
        keys,
        key_places,
        sides,
        side_places,
        pairs,
        diagnostics,
    };
    // References may name tables, and associations take over the key that an attribute declares,
    // which is there before `associate` is called.
    (0..connecting.drafts.len()).for_each(|at| connecting.name_table(at));
    connecting.written_references();
    for association in associations {
        connecting.associate(association);
    }
    connecting.finish()
}

/// Where models are found.
#[derive(Default)]
struct Names {
    by_name: HashMap<String, usize>,
    by_folded_name: HashMap<String, usize>,
    by_file: HashMap<FileId, usize>,
    /// Models by the names of their tables.
    by_table: HashMap<String, Vec<usize>>,
}

impl Names {
    fn of(drafts: &[Draft]) -> Self {
        let mut names = Names::default();
        for (at, draft) in drafts.iter().enumerate() {
            names.add(draft, at);
        }
        names
    }

    fn add(&mut self, draft: &Draft, at: usize) {
        for name in [&draft.title, &draft.model.name] {
            self.by_name.entry(name.clone()).or_insert(at);
            self.by_folded_name.entry(name.to_lowercase()).or_insert(at);
        }
        self.by_file.entry(draft.file).or_insert(at);
    }
}

/// A foreign key over an attribute, as it comes to be.
struct Key {
    holder: usize,
    attribute: String,
    target: Option<usize>,
    /// The attribute that it refers to.
    references: String,
    on_delete: Option<Action>,
    on_update: Option<Action>,
    deferrable: Option<Deferrable>,
    /// Whether the database keeps it.
    enforced: bool,
    name: Option<String>,
    span: Span,
    extras: Extras,
}

/// The other side of a foreign key.
struct AssociationSide {
    model: usize,
    name: String,
    kind: InverseKind,
    key: usize,
    span: Span,
    extras: Extras,
}

pub(super) struct Connecting<'c, 'p> {
    pub(super) reader: &'c Reader<'p>,
    pub(super) drafts: Vec<Draft>,
    names: Names,
    keys: Vec<Key>,
    /// Places of keys, by model and attribute.
    key_places: HashMap<(usize, String), usize>,
    sides: Vec<AssociationSide>,
    /// Places of sides, by key.
    side_places: HashMap<usize, usize>,
    pub(super) pairs: Vec<many::Pair>,
    pub(super) diagnostics: &'c mut Vec<Diagnostic>,
}

impl Connecting<'_, '_> {
    /// The model that is meant.
    pub(super) fn find(&self, target: &Target) -> Option<usize> {
        match target {
            Target::Model(names) => {
                let exact = names.iter().find_map(|name| self.names.by_name.get(name));
                exact
                    .or_else(|| {
                        names
                            .iter()
                            .find_map(|name| self.names.by_folded_name.get(&name.to_lowercase()))
                    })
                    .copied()
            }
            Target::File(file) => self.names.by_file.get(file).copied(),
            Target::Table { namespace, name } => {
                let mut called = self.names.by_table.get(name).into_iter().flatten();
                let meant = |at: &&usize| {
                    namespace.is_none() || self.drafts[**at].model.namespace == *namespace
                };
                called.find(meant).or_else(|| self.names.by_name.get(name)).copied()
            }
        }
    }

    fn table(&self, draft: &Draft) -> String {
        let convention = || {
            self.reader
                .conventions
                .names
                .table
                .apply(&[("module", &draft.model.module), ("name", &draft.model.name)])
        };
        draft.model.table.clone().unwrap_or_else(convention)
    }

    /// Adds a model that an association makes.
    pub(super) fn add(&mut self, draft: Draft) -> usize {
        let at = self.drafts.len();
        self.names.add(&draft, at);
        self.drafts.push(draft);
        self.name_table(at);
        at
    }

    fn name_table(&mut self, at: usize) {
        let table = self.table(&self.drafts[at]);
        self.names.by_table.entry(table).or_default().push(at);
    }

    /// Adds a key, and tells its place.
    fn push_key(&mut self, key: Key) -> usize {
        let at = self.keys.len();
        self.key_places.insert((key.holder, key.attribute.clone()), at);
        self.keys.push(key);
        at
    }

    fn key_place(&self, holder: usize, attribute: &str) -> Option<usize> {
        self.key_places.get(&(holder, attribute.to_owned())).copied()
    }

    /// Foreign keys that attributes declare.
    fn written_references(&mut self) {
        for holder in 0..self.drafts.len() {
            for reference in std::mem::take(&mut self.drafts[holder].references) {
                self.written_reference(holder, reference);
            }
        }
    }

    fn written_reference(&mut self, holder: usize, reference: Reference) {
        let Reference { attribute, target: written, key, on_delete, on_update, deferrable, span } =
            reference;
        let target = written.as_ref().and_then(|target| self.find(target));
        if let (Some(written), None) = (&written, target) {
            return self.undeclared(holder, &attribute, written, span);
        }
        let references =
            target.map(|target| self.referenced(target, key.as_deref())).unwrap_or_default();
        self.push_key(Key {
            holder,
            attribute,
            target,
            references,
            on_delete,
            on_update,
            deferrable,
            enforced: true,
            name: None,
            span,
            extras: Extras::new(),
        });
    }

    /// A reference to a table that no model here stands for.
    fn undeclared(&mut self, holder: usize, attribute: &str, target: &Target, span: Span) {
        let name = match target {
            Target::Model(names) => names.first().cloned().unwrap_or_default(),
            Target::Table { name, .. } => name.clone(),
            Target::File(file) => self.reader.project.path(*file).to_owned(),
        };
        let mut relation =
            RelationDeclaration::new(None, RelationKind::ManyToOne, format!("elsewhere.{name}"));
        let column = Some(self.drafts[holder].column(attribute));
        relation.join_columns = vec![JoinColumn { name: column, ..JoinColumn::default() }];
        relation.span = Some(span);
        self.drafts[holder].relations.push(relation);
    }

    /// The attribute that a key is: the one that is named, or the target's own key.
    fn referenced(&self, target: usize, written: Option<&str>) -> String {
        let draft = &self.drafts[target];
        let named = written.map(|name| {
            draft
                .attribute_of(name)
                .and_then(|field| field.name.clone())
                .unwrap_or_else(|| name.to_owned())
        });
        named.unwrap_or_else(|| self.key_of(target))
    }

    /// The attribute of a model's key.
    pub(super) fn key_of(&self, at: usize) -> String {
        self.drafts[at].key().and_then(|field| field.name.clone()).unwrap_or_else(|| "id".into())
    }

    fn associate(&mut self, association: Association) {
        let found = (self.find(&association.source), self.find(&association.target));
        match (found, association.kind) {
            ((Some(source), Some(target)), Kind::BelongsToMany) => {
                self.many_to_many(source, target, association)
            }
            ((Some(source), Some(target)), Kind::BelongsTo) => {
                self.belongs_to(source, target, association)
            }
            ((Some(source), Some(target)), Kind::HasMany | Kind::HasOne) => {
                self.has(source, target, association)
            }
            ((Some(source), None), Kind::BelongsTo) => {
                let alias = association.alias.clone().unwrap_or_default();
                let attribute =
                    association.foreign_key.name.clone().unwrap_or_else(|| joined(&alias, "id"));
                self.undeclared(source, &attribute, &association.target, association.span);
            }
            (found, _) => {
                let side =
                    if found.0.is_none() { &association.source } else { &association.target };
                let name = match side {
                    Target::Model(names) => names.first().cloned().unwrap_or_default(),
                    Target::File(file) => self.reader.project.path(*file).to_owned(),
                    Target::Table { name, .. } => name.clone(),
                };
                self.diagnostics.push(
                    Diagnostic::of(
                        &codes::OPAQUE_TARGET,
                        format!("an association names `{name}`, which nobody declares"),
                    )
                    .at(Some(association.span), "association with an unknown model")
                    .with_help("add the file that declares it to the inputs"),
                );
            }
        }
    }

    /// The name of a model as one of its records is called.
    pub(super) fn one(&self, at: usize) -> String {
        singular(&self.drafts[at].title)
    }

    /// The attribute that a decorator marks as the foreign key to another model.
    pub(super) fn marked(&self, holder: usize, target: usize) -> Option<String> {
        let keys = &self.drafts[holder].foreign_keys;
        keys.iter()
            .find(|(marked, _)| self.find(marked) == Some(target))
            .map(|(_, name)| name.clone())
    }

    fn belongs_to(&mut self, source: usize, target: usize, association: Association) {
        let alias = association.alias.clone().unwrap_or_else(|| self.one(target));
        let references = self.referenced(target, association.key.as_deref());
        let silent = || joined(&alias, &references);
        let attribute = association
            .foreign_key
            .name
            .clone()
            .or_else(|| self.marked(source, target))
            .unwrap_or_else(silent);
        let key =
            self.carried(source, target, (attribute, references), &association, Action::NoAction);
        let Some(key) = key else { return };
        let known = &mut self.keys[key];
        if known.name.is_some() {
            let message = format!(
                "`{}` is a second relation of `{}` over `{}`",
                alias, self.drafts[source].title, known.attribute
            );
            self.diagnostics.push(
                Diagnostic::of(&codes::SECOND_RELATION, message)
                    .at(Some(association.span), "said again here")
                    .because("the first one is read"),
            );
            return;
        }
        (known.name, known.span) = (Some(alias), association.span);
        known.extras.extend(association.extras);
    }

    fn has(&mut self, source: usize, holder: usize, association: Association) {
        let one = association.kind == Kind::HasOne;
        let references = self.referenced(source, association.key.as_deref());
        let marked = association.foreign_key.name.clone().or_else(|| self.marked(holder, source));
        let attribute = marked.unwrap_or_else(|| joined(&self.one(source), &references));
        let key =
            self.carried(holder, source, (attribute, references), &association, Action::Cascade);
        let Some(key) = key else { return };
        let title = &self.drafts[holder].title;
        let silent = if one { singular(title) } else { crate::inflection::plural(title) };
        let side = AssociationSide {
            model: source,
            name: association.alias.unwrap_or(silent),
            kind: if one { InverseKind::OneToOne } else { InverseKind::OneToMany },
            key,
            span: association.span,
            extras: association.extras,
        };
        if self.side_places.contains_key(&side.key) {
            let message = format!(
                "`{}` of `{}` leads back along a relation that leads back already",
                side.name, self.drafts[source].title
            );
            self.diagnostics.push(
                Diagnostic::of(&codes::SECOND_RELATION, message)
                    .at(Some(side.span), "said again here")
                    .because("the first one is read"),
            );
            return;
        }
        self.side_places.insert(side.key, self.sides.len());
        self.sides.push(side);
    }

    /// The foreign key of an association: found, or made with what the framework does where nothing
    /// is said.
    fn carried(
        &mut self,
        holder: usize,
        target: usize,
        (attribute, references): (String, String),
        association: &Association,
        otherwise: Action,
    ) -> Option<usize> {
        let made = self.ensure(
            holder,
            &attribute,
            target,
            &references,
            &association.foreign_key,
            association.span,
        );
        let optional = match made {
            true => association.foreign_key.nullable != Some(false),
            false => self.drafts[holder].allowing_null.contains(&attribute),
        };
        let silent = if optional { Action::SetNull } else { otherwise };
        let constraint = association.constraint != Some(false);
        let at = self.key_place(holder, &attribute).unwrap_or_else(|| {
            self.push_key(Key {
                holder,
                attribute,
                target: None,
                references: String::new(),
                on_delete: None,
                on_update: None,
                deferrable: None,
                enforced: false,
                name: None,
                span: association.span,
                extras: Extras::new(),
            })
        });
        let key = &mut self.keys[at];
        let fresh = key.target.is_none();
        if key.target.is_some_and(|other| other != target) {
            let title = &self.drafts[holder].title;
            self.diagnostics.push(two_targets(title, &key.attribute, association.span));
            return None;
        }
        if fresh {
            (key.target, key.references, key.enforced) = (Some(target), references, constraint);
            if !constraint {
                // Said of a reference that the database does not keep.
                let said =
                    [("onDelete", association.on_delete), ("onUpdate", association.on_update)];
                let said = said
                    .into_iter()
                    .filter_map(|(name, action)| Some((name.to_owned(), action?.sql().into())));
                key.extras.extend(said);
                return Some(at);
            }
        } else if constraint && !key.enforced {
            key.enforced = true;
        }
        let wanted = association.on_delete.unwrap_or(silent);
        if let (true, false, Some(decided)) =
            (constraint && key.span.file != association.span.file, fresh, key.on_delete)
            && decided != wanted
        {
            let column = format!("{}.{}", self.drafts[holder].title, key.attribute);
            self.diagnostics.push(order_decides(
                &column,
                (decided, key.span),
                (wanted, association.span),
            ));
        }
        if constraint {
            key.on_delete = key.on_delete.or(association.on_delete).or(Some(silent));
            key.on_update = key.on_update.or(association.on_update).or(Some(Action::Cascade));
        }
        Some(at)
    }

    /// Adds the attribute of a foreign key where the model does not declare it; whether it had to.
    pub(super) fn ensure(
        &mut self,
        holder: usize,
        attribute: &str,
        target: usize,
        references: &str,
        said: &ForeignKey,
        span: Span,
    ) -> bool {
        if self.drafts[holder].field(attribute).is_some() {
            return false;
        }
        let spelling = match self.drafts[target].field(references) {
            Some(field) => field.spelling.clone(),
            None => Spelling::word("INTEGER"),
        };
        let word = spelling.word.trim_end_matches(NUMBERED).to_owned();
        let draft = &mut self.drafts[holder];
        let column = said.column.clone().unwrap_or_else(|| draft.options.stored(attribute));
        draft.fields.push(FieldDeclaration {
            column: Some(column).filter(|column| column != attribute),
            name: Some(attribute.to_owned()),
            spelling: Spelling { word, ..spelling },
            nullable: said.nullable.filter(|null| !null),
            span: Some(span),
            ..FieldDeclaration::default()
        });
        true
    }

    /// A foreign key to one side of a many-to-many.
    pub(super) fn override_key(
        &mut self,
        holder: usize,
        target: usize,
        attribute: &str,
        (on_delete, on_update): (Action, Action),
        span: Span,
    ) {
        let references = self.key_of(target);
        match self.key_place(holder, attribute) {
            Some(at) => {
                let key = &mut self.keys[at];
                (key.target, key.references, key.enforced) = (Some(target), references, true);
                (key.on_delete, key.on_update) = (Some(on_delete), Some(on_update));
            }
            None => {
                self.push_key(Key {
                    holder,
                    attribute: attribute.to_owned(),
                    target: Some(target),
                    references,
                    on_delete: Some(on_delete),
                    on_update: Some(on_update),
                    deferrable: None,
                    enforced: true,
                    name: None,
                    span,
                    extras: Extras::new(),
                });
            }
        }
    }

    /// Makes of each key, and of each side, what a class declares.
    fn finish(mut self) -> Vec<Model> {
        if !self.reader.conventions.limits.key_references_in_circles {
            self.of_key_in_circle();
        }
        let mut order: Vec<usize> = (0..self.keys.len()).collect();
        // Said with the column, by the class itself, by the other one alone; those without a name
        // stand as their columns do.
        let place = |key: &Key| match key.name {
            Some(_) => (key.span.file.0 as usize, key.span.start as usize),
            None => (
                0,
                self.drafts[key.holder]
                    .fields
                    .iter()
                    .position(|field| field.name.as_ref() == Some(&key.attribute))
                    .unwrap_or(0),
            ),
        };
        let rank = |at: usize| match (&self.keys[at].name, self.side_places.contains_key(&at)) {
            (Some(_), _) => 1,
            (None, false) => 0,
            (None, true) => 2,
        };
        order.sort_by_key(|at| (rank(*at), place(&self.keys[*at])));
        for at in order {
            self.relation(at);
        }
        for side in std::mem::take(&mut self.sides) {
            let key = &self.keys[side.key];
            let (holder, attribute) = (key.holder, &key.attribute);
            let columns = if key.name.is_some() {
                Vec::new()
            } else {
                vec![self.drafts[holder].column(attribute)]
            };
            let inverse = InverseDeclaration {
                name: side.name,
                kind: side.kind,
                target: self.drafts[holder].model.id.clone(),
                owner: key.name.clone().unwrap_or_default(),
                columns,
                extras: side.extras,
                span: Some(side.span),
            };
            self.drafts[side.model].inverses.push(inverse);
        }
        self.finish_pairs();
        for draft in &mut self.drafts {
            draft
                .inverses
                .sort_by_key(|inverse| inverse.span.map(|span| (span.file.0, span.start)));
        }
        self.drafts.into_iter().map(Draft::declaration).collect()
    }

    /// References of a key's column that the framework does not make where tables refer to each
    /// other in a circle (`_syncModelsWithCyclicReferences`: foreign keys are added later, by
    /// changing columns, but for those of the key).
    fn of_key_in_circle(&mut self) {
        let references = self
            .keys
            .iter()
            .filter(|key| key.enforced)
            .filter_map(|key| Some((key.holder, key.target?)));
        if !has_circle(references) {
            return;
        }
        for key in self.keys.iter_mut().filter(|key| key.enforced && key.target.is_some()) {
            let draft = &self.drafts[key.holder];
            if !draft.field(&key.attribute).is_some_and(|field| field.key) {
                continue;
            }
            (key.enforced, key.on_delete, key.on_update, key.deferrable) =
                (false, None, None, None);
            let message =
                format!("the foreign key of `{}.{}` is not made", draft.title, key.attribute);
            self.diagnostics.push(
                Diagnostic::of(&codes::NOT_HELD, message)
                    .at(Some(key.span), "a reference of the key's column")
                    .because(
                        "where tables refer to each other in a circle, Sequelize makes no \
                         foreign key of it, and says nothing",
                    )
                    .with_help("break the circle, or add the foreign key in a migration"),
            );
        }
    }

    fn relation(&mut self, at: usize) {
        let one =
            self.side_places.get(&at).map(|side| self.sides[*side].kind == InverseKind::OneToOne);
        let key = &self.keys[at];
        let Some(target) = key.target else {
            let message = format!(
                "what `{}.{}` says of deletion or update does nothing",
                self.drafts[key.holder].title, key.attribute
            );
            self.diagnostics.push(
                Diagnostic::of(&codes::SAID_IN_VAIN, message)
                    .at(Some(key.span), "it refers to nothing")
                    .with_help("say `references`, or declare an association over it"),
            );
            return;
        };
        let holder = &self.drafts[key.holder];
        let kind = match one.unwrap_or_else(|| is_unique(holder, &key.attribute)) {
            true => RelationKind::OneToOne,
            false => RelationKind::ManyToOne,
        };
        let nullable = holder
            .field(&key.attribute)
            .is_some_and(|field| field.nullable != Some(false) && !field.key);
        let mut relation =
            RelationDeclaration::new(key.name.clone(), kind, self.drafts[target].model.id.clone());
        relation.join_columns = vec![JoinColumn {
            name: Some(holder.column(&key.attribute)),
            references: Some(key.references.clone()),
            constraint_name: None,
        }];
        relation.carrier.optional_in_code = Some(nullable);
        relation.on_delete = key.on_delete.filter(|action| *action != Action::NoAction);
        // Of a reference that no association makes, nothing is done at an update.
        let said_alone = key.name.is_none() && one.is_none();
        let on_update = key.on_update.or((said_alone || !key.enforced).then_some(Action::NoAction));
        relation.on_update = on_update.filter(|action| *action != Action::Cascade);
        relation.deferrable = key.deferrable;
        relation.constraint = (!key.enforced).then_some(false);
        relation.span = Some(key.span);
        relation.extras = key.extras.clone();
        let holder = key.holder;
        self.drafts[holder].relations.push(relation);
    }
}

/// A column refers to two models.
fn two_targets(title: &str, attribute: &str, span: Span) -> Diagnostic {
    let message = format!("`{attribute}` of `{title}` refers to two models");
    Diagnostic::of(&codes::TWO_TARGETS, message)
        .at(Some(span), "another one here")
        .because("the first one is read")
}

/// Two associations say something else of one column; each with its action and its place.
fn order_decides(column: &str, first: (Action, Span), second: (Action, Span)) -> Diagnostic {
    let message =
        format!("`{column}` is said to {} on deletion, and to {}", first.0.word(), second.0.word());
    Diagnostic::of(&codes::ORDER_DECIDES, message)
        .at(Some(second.1), "this association comes second in the order of the files")
        .and_at(Some(first.1), "the first one is read")
        .because(
            "the association that runs first decides, which is settled where the models are put \
             together",
        )
        .with_help("say the same `onDelete` on both sides")
}

/// `berth` and `id` make `berthId` (`camelize` of its utilities).
pub(super) fn joined(alias: &str, key: &str) -> String {
    let whole = format!("{alias}_{key}");
    let first: String = whole.chars().take(1).collect();
    let rest: String = Case::Camel.apply(&whole).chars().skip(1).collect();
    format!("{first}{rest}")
}

/// Whether no two records have the same value in an attribute.
fn is_unique(draft: &Draft, attribute: &str) -> bool {
    let keys: Vec<&str> = draft
        .fields
        .iter()
        .filter(|field| field.key)
        .filter_map(|field| field.name.as_deref())
        .collect();
    let alone = |names: &[String]| names.len() == 1 && names[0] == attribute;
    let index = |index: &crate::declaration::IndexDeclaration| {
        let names: Vec<String> =
            index.parts.iter().filter_map(|part| part.attribute.clone()).collect();
        index.unique && index.condition.is_none() && index.parts.len() == 1 && alone(&names)
    };
    keys == [attribute]
        || draft.field(attribute).is_some_and(|field| field.unique == Some(true))
        || draft.model.uniques.iter().any(|unique| alone(&unique.attributes))
        || draft.model.indexes.iter().any(index)
}
