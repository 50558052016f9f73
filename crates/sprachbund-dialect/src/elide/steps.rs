//! What is left of a class where its columns live in steps: what these do not say.

use crate::decision::Decision;
use crate::decision::names::ReferenceColumnName;
use crate::declaration::{Attribute, FieldDeclaration, Model, RelationDeclaration};
use crate::dialect::Conventions;
use crate::schema::RelationKind;

/// Takes out of a class what the steps that make its table say.
pub(super) fn beside(model: &mut Model, conventions: &Conventions) {
    model.comment = None;
    (model.key, model.key_name) = (None, None);
    model.uniques.clear();
    model.indexes.clear();
    model.checks.clear();
    model.exclusions.clear();
    model.references.clear();
    required_by_relation(model, conventions);
    model.attributes.retain_mut(|attribute| match attribute {
        Attribute::Field(field) => {
            **field = of_class(std::mem::take(field));
            let silent = FieldDeclaration {
                name: field.name.clone(),
                column: field.column.clone(),
                ..FieldDeclaration::default()
            };
            **field != silent
        }
        Attribute::Relation(relation) => {
            beside_relation(relation);
            true
        }
        Attribute::Inverse(_) | Attribute::Removed(_) => true,
    });
}

/// That input must bring a value for the columns of a relation is said of the relation.
fn required_by_relation(model: &mut Model, conventions: &Conventions) {
    let mut of_columns: Vec<(String, bool)> = Vec::new();
    for attribute in &model.attributes {
        if let Attribute::Field(field) = attribute
            && let (Some(name), Some(required)) = (&field.name, field.required_on_input)
        {
            of_columns.push((name.clone(), required));
        }
    }
    let mut taken: Vec<String> = Vec::new();
    for attribute in &mut model.attributes {
        let Attribute::Relation(relation) = attribute else { continue };
        if relation.kind == RelationKind::ManyToMany {
            continue;
        }
        let columns = columns(relation, conventions);
        let said = of_columns.iter().filter(|(column, _)| columns.contains(column));
        relation.carrier.required_on_input = Some(said.clone().any(|(_, required)| *required));
        taken.extend(columns);
    }
    for attribute in &mut model.attributes {
        if let Attribute::Field(field) = attribute
            && field.name.as_ref().is_some_and(|name| taken.contains(name))
        {
            field.required_on_input = None;
        }
    }
}

/// The columns of a relation: those that it names, or the one that it has by its own name.
fn columns(relation: &RelationDeclaration, conventions: &Conventions) -> Vec<String> {
    let named = relation.join_columns.iter().filter_map(|join| join.name.clone());
    let named: Vec<String> = named.collect();
    let silent = || {
        let attribute = relation.name.as_deref().unwrap_or_default();
        ReferenceColumnName { conventions, attribute, referenced: "" }.fill(None)
    };
    if named.is_empty() { vec![silent()] } else { named }
}

/// What a class says of a column.
fn of_class(field: FieldDeclaration) -> FieldDeclaration {
    FieldDeclaration {
        name: field.name,
        column: field.column,
        optional_in_code: field.optional_in_code,
        required_on_input: field.required_on_input,
        application_default: field.application_default,
        application_update: field.application_update,
        choices: field.choices,
        format: field.format,
        purpose: field.purpose,
        rules: field.rules,
        extras: field.extras,
        ..FieldDeclaration::default()
    }
}

fn beside_relation(relation: &mut RelationDeclaration) {
    let required = relation.carrier.required_on_input;
    relation.carrier =
        FieldDeclaration { required_on_input: required, ..FieldDeclaration::default() };
    (relation.on_update, relation.deferrable, relation.constraint) = (None, None, None);
    relation.join_columns.iter_mut().for_each(|column| column.constraint_name = None);
}
