//! The two sides of a relation.

use super::{Printer, pair};
use crate::declaration::{
    Attribute, InverseDeclaration, InverseKind, JoinColumn, Model, RelationDeclaration,
};
use crate::dialect::naming::Case;
use crate::literal::text as quoted;
use crate::read::ACTIONS;
use crate::schema::{Action, RelationKind};

impl Printer<'_> {
    /// The side that says the columns, or the first one of a many-to-many.
    pub(super) fn relation(&self, model: &Model, relation: &RelationDeclaration) -> Vec<String> {
        let target = self.name(&relation.target);
        let mut arguments: Vec<String> = self.label(model, relation).into_iter().collect();
        let mark = match (relation.kind, relation.carrier.optional_in_code) {
            (RelationKind::ManyToMany, _) => "[]",
            (_, Some(true)) => "?",
            (_, _) => "",
        };
        if relation.kind != RelationKind::ManyToMany {
            let listed = |names: Vec<String>| format!("[{}]", names.join(", "));
            let columns = relation.join_columns.iter().filter_map(|join| join.name.as_deref());
            arguments.push(format!(
                "fields: {}",
                listed(columns.map(|column| attribute_of(model, column)).collect())
            ));
            let references =
                relation.join_columns.iter().filter_map(|join| join.references.clone());
            arguments.push(format!("references: {}", listed(references.collect())));
            let action = |word: &str, action: Option<Action>| {
                let action =
                    action.and_then(|action| ACTIONS.iter().find(|(_, known)| *known == action));
                action.map(|(name, _)| format!("{word}: {name}"))
            };
            arguments.extend(action("onDelete", relation.on_delete));
            arguments.extend(action("onUpdate", relation.on_update));
            let constraint = relation
                .join_columns
                .first()
                .and_then(|JoinColumn { constraint_name, .. }| constraint_name.as_ref());
            arguments.extend(constraint.map(|name| format!("map: {}", quoted(name))));
        }
        let mut row = vec![relation.name.clone().unwrap_or_default(), format!("{target}{mark}")];
        row.extend(self.attributes(
            model,
            &relation.target,
            &arguments,
            relation.extras.contains_key("ignored"),
        ));
        row
    }

    /// The side that leads back.
    pub(super) fn inverse(&self, model: &Model, inverse: &InverseDeclaration) -> Vec<String> {
        let mark = if inverse.kind == InverseKind::OneToOne { "?" } else { "[]" };
        let owner = self.model_of(&inverse.target);
        let relation = owner.and_then(|owner| {
            owner.attributes.iter().find_map(|attribute| match attribute {
                Attribute::Relation(relation)
                    if relation.name.as_deref() == Some(&inverse.owner) =>
                {
                    Some((owner, relation))
                }
                _ => None,
            })
        });
        let label: Vec<String> = relation
            .and_then(|(owner, relation)| self.label(owner, relation))
            .into_iter()
            .collect();
        let mut row = vec![inverse.name.clone(), format!("{}{mark}", self.name(&inverse.target))];
        row.extend(self.attributes(model, &inverse.target, &label, false));
        row
    }

    fn name(&self, id: &str) -> String {
        self.model_of(id).map_or_else(|| id.to_owned(), |model| model.name.clone())
    }

    fn attributes(
        &self,
        model: &Model,
        other: &str,
        arguments: &[String],
        ignored: bool,
    ) -> Option<String> {
        let relation =
            (!arguments.is_empty()).then(|| format!("@relation({})", arguments.join(", ")));
        // What leads to records that are not read is not read either.
        let ignored =
            ignored || (self.ignored.contains(other) && !self.ignored.contains(model.id.as_str()));
        let all: Vec<String> =
            relation.into_iter().chain(ignored.then(|| "@ignore".to_owned())).collect();
        (!all.is_empty()).then(|| all.join(" "))
    }

    /// What tells a relation from others between the same models; of a many-to-many it names the
    /// join table, too.
    fn label(&self, owner: &Model, relation: &RelationDeclaration) -> Option<String> {
        let several = owner.id == relation.target
            || self.pairs.get(&pair(&owner.id, &relation.target)).is_some_and(|count| *count > 1);
        let attribute = Case::Pascal.apply(relation.name.as_deref().unwrap_or_default());
        let table = relation.join_table.name.as_ref().and_then(|table| table.strip_prefix('_'));
        match (table, relation.kind) {
            (Some(table), _) => Some(quoted(table)),
            (None, RelationKind::ManyToMany) => {
                several.then(|| quoted(&format!("{}To{}", owner.name, self.name(&relation.target))))
            }
            (None, _) => several.then(|| quoted(&format!("{}{attribute}", owner.name))),
        }
    }
}

/// The field of a column.
fn attribute_of(model: &Model, column: &str) -> String {
    let of_column = model.attributes.iter().find_map(|attribute| match attribute {
        Attribute::Field(field)
            if field.column.as_deref().or(field.name.as_deref()) == Some(column) =>
        {
            field.name.clone()
        }
        _ => None,
    });
    of_column.unwrap_or_else(|| column.to_owned())
}
