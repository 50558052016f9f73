//! Many-to-many associations, and the tables that join.

use super::connect::{Connecting, joined};
use super::{Association, Through};
use crate::codes;
use crate::declaration::{
    FieldDeclaration, Form, InverseDeclaration, InverseKind, JoinColumn, JoinTable, Model,
    RelationDeclaration, UniqueDeclaration,
};
use crate::diagnostic::Diagnostic;
use crate::dialect::naming::singular;
use crate::inflection::plural;
use crate::read::model::{Options, kept};
use crate::read::{Draft, Target};
use crate::schema::{Action, Purpose, RelationKind};

/// What names the attributes of a joining model that lead to both sides.
pub(crate) const KEYS: &str = "through_keys";

/// One of the two sides, and the other if it was said.
pub(in crate::read) struct Pair {
    source: usize,
    target: usize,
    through: String,
    /// Attributes, or columns of a table without a model: to the source and to the target.
    keys: (String, String),
    relation: RelationDeclaration,
    inverse: Option<InverseDeclaration>,
}

impl Connecting<'_, '_> {
    pub(super) fn many_to_many(&mut self, source: usize, target: usize, association: Association) {
        let Some(through) = association.through.clone() else {
            self.diagnostics.push(
                Diagnostic::of(
                    &codes::OPAQUE_TARGET,
                    "a many-to-many names no table to go through",
                )
                .at(Some(association.span), "nothing to join by")
                .with_help("say `through: 'table'`, or the model that joins"),
            );
            return;
        };
        let alias = association.alias.clone().unwrap_or_else(|| plural(&self.drafts[target].title));
        let to_self = source == target;
        let class = self.find(&through.target);
        let marked = |side: usize| class.and_then(|class| self.marked(class, side));
        let own = association.foreign_key.name.clone().or_else(|| marked(source));
        let own = own.unwrap_or_else(|| joined(&self.one(source), &self.key_of(source)));
        let other_name = if to_self { singular(&alias) } else { self.one(target) };
        let other =
            association.other_key.name.clone().or_else(|| marked(target).filter(|_| !to_self));
        let other = other.unwrap_or_else(|| joined(&other_name, &self.key_of(target)));
        let name = name_of(&through.target);
        let known = self.pairs.iter_mut().find(|pair| {
            pair.inverse.is_none()
                && pair.through == name
                && (pair.source, pair.target) == (target, source)
                && pair.keys.1 == own
        });
        if let Some(pair) = known {
            let owner = pair.relation.name.clone().unwrap_or_default();
            pair.inverse = Some(InverseDeclaration {
                name: alias,
                kind: InverseKind::ManyToMany,
                target: self.drafts[target].model.id.clone(),
                owner,
                columns: Vec::new(),
                extras: association.extras,
                span: Some(association.span),
            });
            return;
        }
        let mut relation = RelationDeclaration::new(
            Some(alias),
            RelationKind::ManyToMany,
            self.drafts[target].model.id.clone(),
        );
        relation.carrier.optional_in_code = Some(false);
        relation.extras = association.extras.clone();
        relation.span = Some(association.span);
        match self.class_through(source, target, &association, &through, (&own, &other)) {
            Some(id) => relation.through = Some(id),
            None => {
                let column = |name: &str| JoinColumn {
                    name: Some(name.to_owned()),
                    ..JoinColumn::default()
                };
                relation.join_table = JoinTable {
                    name: Some(name.clone()),
                    namespace: None,
                    column: column(&own),
                    inverse_column: column(&other),
                };
            }
        }
        self.pairs.push(Pair {
            source,
            target,
            through: name,
            keys: (own, other),
            relation,
            inverse: None,
        });
    }

    /// The model that joins: declared, or made by the framework where the table has more than the
    /// two keys.
    fn class_through(
        &mut self,
        source: usize,
        target: usize,
        association: &Association,
        through: &Through,
        (own, other): (&str, &str),
    ) -> Option<String> {
        let at = match self.find(&through.target) {
            Some(at) => at,
            None => {
                if through.timestamps.or(self.reader.shared.timestamps()) == Some(false) {
                    return None;
                }
                let draft = self.made(source, &name_of(&through.target), association);
                self.add(draft)
            }
        };
        for (side, attribute, said) in
            [(source, own, &association.foreign_key), (target, other, &association.other_key)]
        {
            let references = self.key_of(side);
            self.ensure(at, attribute, side, &references, said, association.span);
        }
        self.told_apart(at, through, (own, other));
        if association.constraint != Some(false) {
            for (side, attribute) in [(source, own), (target, other)] {
                self.joins(at, side, attribute, association);
            }
        }
        Some(self.drafts[at].model.id.clone())
    }

    /// What makes a pair stand there once: the key, or a constraint beside the key of the model.
    fn told_apart(&mut self, at: usize, through: &Through, (own, other): (&str, &str)) {
        let draft = &mut self.drafts[at];
        let has_key = draft.fields.iter().any(|field| field.key) || draft.model.key.is_some();
        let pair = |field: &&mut FieldDeclaration| {
            field.name.as_deref().is_some_and(|name| name == own || name == other)
        };
        if !has_key {
            draft
                .fields
                .iter_mut()
                .filter(pair)
                .for_each(|field| (field.key, field.nullable) = (true, None));
            return;
        }
        let mut attributes: Vec<String> =
            draft.fields.iter_mut().filter(pair).filter_map(|field| field.name.clone()).collect();
        attributes.dedup();
        let known = draft.model.uniques.iter().any(|unique| unique.attributes == attributes);
        if through.unique && !known {
            draft.model.uniques.push(UniqueDeclaration {
                attributes,
                span: draft.model.span,
                ..UniqueDeclaration::default()
            });
        }
    }

    /// The model of a table that the framework makes to join.
    fn made(&self, source: usize, name: &str, association: &Association) -> Draft {
        let owner = &self.drafts[source];
        let options = Options::default();
        let module = owner.model.module.clone();
        let convention =
            self.reader.conventions.names.table.apply(&[("module", &module), ("name", name)]);
        let model = Model {
            id: format!("{module}.{name}"),
            name: name.to_owned(),
            module,
            form: Form::Concrete,
            table: Some(name.to_owned()).filter(|table| *table != convention),
            namespace: owner.model.namespace.clone(),
            comment: owner.model.comment.clone(),
            span: Some(association.span),
            ..Model::default()
        };
        let times = [("createdAt", Purpose::CreationTime), ("updatedAt", Purpose::UpdateTime)];
        let fields = times.map(|(name, purpose)| {
            kept(&options, name.to_owned(), purpose, Some(association.span))
        });
        Draft {
            model,
            title: name.to_owned(),
            options,
            fields: fields.to_vec(),
            ..Draft::empty(association.file)
        }
    }

    /// Puts finished pairs into the models.
    pub(super) fn finish_pairs(&mut self) {
        for mut pair in std::mem::take(&mut self.pairs) {
            if let Some(keys) = self.keys_to_tell(&pair) {
                pair.relation.extras.insert(KEYS.to_owned(), keys);
            }
            self.drafts[pair.source].relations.push(pair.relation);
            self.drafts[pair.target].inverses.extend(pair.inverse);
        }
    }

    /// The attributes of the joining model that lead to both sides, where it is not its first
    /// references that do.
    fn keys_to_tell(&self, pair: &Pair) -> Option<serde_json::Value> {
        let class = self
            .drafts
            .iter()
            .find(|draft| Some(&draft.model.id) == pair.relation.through.as_ref())?;
        let leading = |side: usize, other_than: Option<&String>| {
            let id = &self.drafts[side].model.id;
            let columns = class
                .relations
                .iter()
                .filter(|relation| relation.target == *id)
                .filter_map(|relation| relation.join_columns.first());
            columns.filter_map(|join| join.name.clone()).find(|column| Some(column) != other_than)
        };
        let own = leading(pair.source, None);
        let other = leading(pair.target, own.as_ref());
        let said = (Some(class.column(&pair.keys.0)), Some(class.column(&pair.keys.1)));
        ((own, other) != said).then(|| serde_json::json!([pair.keys.0, pair.keys.1]))
    }

    /// The foreign key of the joining model to one side: the association decides, whatever the
    /// attribute says.
    fn joins(&mut self, at: usize, side: usize, attribute: &str, association: &Association) {
        let actions = (
            association.on_delete.unwrap_or(Action::Cascade),
            association.on_update.unwrap_or(Action::Cascade),
        );
        self.override_key(at, side, attribute, actions, association.span);
    }
}

fn name_of(target: &Target) -> String {
    match target {
        Target::Model(names) => names.first().cloned().unwrap_or_default(),
        Target::Table { name, .. } => name.clone(),
        Target::File(file) => file.0.to_string(),
    }
}
