//! What belongs to what.

use super::model::{Project, column_of, fields};
use crate::declaration::{Attribute, InverseDeclaration, InverseKind, Model, RelationDeclaration};
use crate::quoting::ruby;
use crate::schema::{Action, RelationKind};

/// The associations of a class, those that own the columns first.
pub(super) fn lines(project: &Project<'_>, model: &Model) -> Vec<String> {
    let relations = model.attributes.iter().filter_map(|attribute| match attribute {
        Attribute::Relation(relation) => Some(&**relation),
        _ => None,
    });
    let (many, one): (Vec<_>, Vec<_>) =
        relations.partition(|relation| relation.kind == RelationKind::ManyToMany);
    let inverses = model.attributes.iter().filter_map(|attribute| match attribute {
        Attribute::Inverse(inverse) => Some(&**inverse),
        _ => None,
    });
    let mut lines: Vec<String> =
        one.into_iter().filter_map(|relation| belongs_to(project, model, relation)).collect();
    lines.extend(inverses.filter_map(|inverse| leads_back(project, model, inverse)));
    lines.extend(many.into_iter().filter_map(|relation| to_many(project, model, relation)));
    lines
}

fn belongs_to(
    project: &Project<'_>,
    model: &Model,
    relation: &RelationDeclaration,
) -> Option<String> {
    let name = relation.name.as_deref()?;
    let mut parts = vec![ruby::symbol(name)];
    let columns = columns_of(relation, name);
    parts.extend(class_name(project, model, &relation.target, &project.words.camelized(name)));
    if columns != [format!("{name}_id")] {
        parts.push(format!("foreign_key: {}", ruby::symbols(&columns)));
    }
    let referenced: Vec<&str> =
        relation.join_columns.iter().filter_map(|join| join.references.as_deref()).collect();
    let target = project.model(&relation.target);
    let key = target.map_or(&[][..], |target| project.key(target));
    if !referenced.is_empty() && referenced != key {
        parts.push(format!("primary_key: {}", ruby::symbols(&referenced)));
    }
    if !is_required(model, relation, &columns) {
        parts.push("optional: true".into());
    }
    let inverse = inverse_of(project, model, relation);
    parts.extend(inverse.map(|inverse| format!("inverse_of: {}", ruby::symbol(&inverse.name))));
    Some(format!("belongs_to {}", parts.join(", ")))
}

/// Whether input must bring the target.
fn is_required(model: &Model, relation: &RelationDeclaration, columns: &[String]) -> bool {
    relation.carrier.required_on_input == Some(true)
        || fields(model).any(|field| {
            columns.iter().any(|column| column == column_of(field))
                && field.required_on_input == Some(true)
        })
}

/// The columns of a relation.
fn columns_of(relation: &RelationDeclaration, name: &str) -> Vec<String> {
    let named = relation.join_columns.iter().filter_map(|join| join.name.clone());
    let named: Vec<String> = named.collect();
    if named.is_empty() { vec![format!("{name}_id")] } else { named }
}

/// The other side of a relation, in its target's class.
fn inverse_of<'d>(
    project: &Project<'d>,
    model: &Model,
    relation: &RelationDeclaration,
) -> Option<&'d InverseDeclaration> {
    let target = project.model(&relation.target)?;
    target.attributes.iter().find_map(|attribute| match attribute {
        Attribute::Inverse(inverse)
            if inverse.target == model.id && relation.name.as_ref() == Some(&inverse.owner) =>
        {
            Some(&**inverse)
        }
        _ => None,
    })
}

fn class_name(project: &Project<'_>, model: &Model, target: &str, silent: &str) -> Option<String> {
    let name = project.class_name(model, target);
    (name != silent).then(|| format!("class_name: {}", ruby::text(&name)))
}

fn leads_back(
    project: &Project<'_>,
    model: &Model,
    inverse: &InverseDeclaration,
) -> Option<String> {
    let owner = project.model(&inverse.target)?;
    let relation = owner.attributes.iter().find_map(|attribute| match attribute {
        Attribute::Relation(relation)
            if relation.target == model.id
                && relation.name.as_deref() == Some(inverse.owner.as_str()) =>
        {
            Some(&**relation)
        }
        _ => None,
    });
    let many = inverse.kind != InverseKind::OneToOne;
    let silent = match many {
        true => project.words.camelized(&project.words.singular(&inverse.name)),
        false => project.words.camelized(&inverse.name),
    };
    let mut parts = vec![ruby::symbol(&inverse.name)];
    if inverse.kind == InverseKind::ManyToMany {
        return other_many(project, model, inverse, relation?, &silent);
    }
    parts.extend(class_name(project, model, &owner.id, &silent));
    let columns = match relation {
        Some(relation) => columns_of(relation, &inverse.owner),
        None => inverse.columns.clone(),
    };
    if columns != [format!("{}_id", project.words.underscored(&model.name))] {
        parts.push(format!("foreign_key: {}", ruby::symbols(&columns)));
    }
    if !inverse.owner.is_empty() {
        parts.push(format!("inverse_of: {}", ruby::symbol(&inverse.owner)));
    }
    let action = relation.and_then(|relation| relation.on_delete);
    let word = match action {
        Some(Action::Cascade) => Some("destroy"),
        Some(Action::SetNull) => Some("nullify"),
        Some(Action::Restrict) => Some("restrict_with_exception"),
        _ => None,
    };
    parts.extend(word.map(|word| format!("dependent: :{word}")));
    Some(format!("{} {}", if many { "has_many" } else { "has_one" }, parts.join(", ")))
}

/// The first side of a many-to-many.
fn to_many(project: &Project<'_>, model: &Model, relation: &RelationDeclaration) -> Option<String> {
    let name = relation.name.as_deref()?;
    let silent = project.words.camelized(&project.words.singular(name));
    let mut parts = vec![ruby::symbol(name)];
    parts.extend(class_name(project, model, &relation.target, &silent));
    if relation.through.is_some() {
        return through_class(project, model, relation, &model.id, name);
    }
    let join = &relation.join_table;
    parts.extend(join_options(join.name.as_deref(), join.namespace.as_deref()));
    parts.extend(columns(join.column.name.as_deref(), join.inverse_column.name.as_deref()));
    Some(format!("has_and_belongs_to_many {}", parts.join(", ")))
}

/// The other side of a many-to-many.
fn other_many(
    project: &Project<'_>,
    model: &Model,
    inverse: &InverseDeclaration,
    relation: &RelationDeclaration,
    silent: &str,
) -> Option<String> {
    let mut parts = vec![ruby::symbol(&inverse.name)];
    parts.extend(class_name(project, model, &inverse.target, silent));
    if relation.through.is_some() {
        return through_class(project, model, relation, &inverse.target, &inverse.name);
    }
    let join = &relation.join_table;
    parts.extend(join_options(join.name.as_deref(), join.namespace.as_deref()));
    parts.extend(columns(join.inverse_column.name.as_deref(), join.column.name.as_deref()));
    Some(format!("has_and_belongs_to_many {}", parts.join(", ")))
}

fn join_options(table: Option<&str>, namespace: Option<&str>) -> Option<String> {
    let address = crate::schema::address(namespace, table?);
    Some(format!("join_table: {}", ruby::text(&address)))
}

fn columns(own: Option<&str>, other: Option<&str>) -> Vec<String> {
    let own = own.map(|column| format!("foreign_key: {}", ruby::symbol(column)));
    let other = other.map(|column| format!("association_foreign_key: {}", ruby::symbol(column)));
    own.into_iter().chain(other).collect()
}

/// A many-to-many by way of a class, from the class that owns it or from its target: along that
/// class's own relations.
fn through_class(
    project: &Project<'_>,
    model: &Model,
    relation: &RelationDeclaration,
    owner: &str,
    name: &str,
) -> Option<String> {
    let through = relation.through.as_deref()?;
    let join = project.model(through)?;
    let leads = |to: &str| {
        join.attributes.iter().find_map(|attribute| match attribute {
            Attribute::Relation(found) if found.target == to => found.name.clone(),
            _ => None,
        })
    };
    let (mut back, mut source) = match relation.through_fields.as_slice() {
        [back, source] => (back.clone(), source.clone()),
        _ => (leads(owner)?, leads(&relation.target)?),
    };
    if relation.name.as_deref() != Some(name) || model.id != owner {
        std::mem::swap(&mut back, &mut source);
    }
    let along = model.attributes.iter().find_map(|attribute| match attribute {
        Attribute::Inverse(inverse) if inverse.target == through && inverse.owner == back => {
            Some(inverse.name.clone())
        }
        _ => None,
    })?;
    Some(format!(
        "has_many {}, through: {}, source: {}",
        ruby::symbol(name),
        ruby::symbol(&along),
        ruby::symbol(&source)
    ))
}
