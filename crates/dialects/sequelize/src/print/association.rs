//! The file that tells a connection of every class, and then says what belongs to what: first from
//! the side that holds the foreign key, so that its word counts, then from the other.

use serde_json::Value;

use super::{DECLARE, Shared, attribute_of, others};
use crate::declaration::{Attribute, InverseDeclaration, InverseKind, Model, RelationDeclaration};
use crate::dialect::source_text::SourceText;
use crate::quoting::typescript::text;
use crate::read::KEYS;
use crate::schema::{Action, RelationKind};

/// The whole file.
pub(super) fn whole(shared: &Shared<'_>) -> String {
    let mut file = SourceText::new(2);
    file.line(0, "import type { Sequelize } from 'sequelize';");
    let mut models: Vec<&Model> = shared.declarations.models.iter().collect();
    models.sort_by_key(|model| shared.files.class(&model.module, &model.name));
    for model in models {
        let path =
            format!("./{}", shared.files.class(&model.module, &model.name).trim_end_matches(".ts"));
        file.line(0, &format!("import {{ {} }} from {};", model.name, text(&path)));
    }
    file.gap();
    file.line(0, "/** Tells a connection of every model, and the models of each other. */");
    file.line(0, "export function register(sequelize: Sequelize): void {");
    for model in &shared.declarations.models {
        file.line(2, &format!("{}.{DECLARE}(sequelize);", model.name));
    }
    let (owning, other) = (lines(shared, owning), lines(shared, leading_back));
    for group in [owning, other].iter().filter(|group| !group.is_empty()) {
        file.gap();
        for Line { head, options } in group {
            file.list(2, head, options, " });");
        }
    }
    file.line(0, "}");
    file.finish()
}

/// One call.
struct Line {
    head: String,
    options: Vec<String>,
}

fn lines(
    shared: &Shared<'_>,
    of: fn(&Shared<'_>, &Model, &Attribute) -> Option<Line>,
) -> Vec<Line> {
    let models = shared.declarations.models.iter();
    models
        .flat_map(|model| {
            model
                .attributes
                .iter()
                .filter_map(|attribute| of(shared, model, attribute))
                .collect::<Vec<_>>()
        })
        .collect()
}

/// What the side with the foreign key says, or the side that a many-to-many is counted to.
fn owning(shared: &Shared<'_>, model: &Model, attribute: &Attribute) -> Option<Line> {
    let Attribute::Relation(relation) = attribute else { return None };
    let name = relation.name.as_ref()?;
    let target = shared.model(&relation.target)?;
    let mut options = vec![format!("as: {}", text(name))];
    if relation.kind == RelationKind::ManyToMany {
        let (through, own, other) = joined(shared, model, relation)?;
        options.extend([
            through,
            format!("foreignKey: {}", text(&own)),
            format!("otherKey: {}", text(&other)),
        ]);
        options.push(of_joining(relation));
        options.extend(others(&relation.extras).filter(|option| !option.starts_with(KEYS)));
        return Some(Line {
            head: format!("{}.belongsToMany({}, {{ ", model.name, target.name),
            options,
        });
    }
    options.extend(carrier(model, target, relation));
    options.extend(actions(relation, Action::NoAction));
    options.extend(others(&relation.extras));
    Some(Line { head: format!("{}.belongsTo({}, {{ ", model.name, target.name), options })
}

/// What the other side says.
fn leading_back(shared: &Shared<'_>, model: &Model, attribute: &Attribute) -> Option<Line> {
    let Attribute::Inverse(inverse) = attribute else { return None };
    let owner = shared.model(&inverse.target)?;
    let relation = relation_of(owner, model, inverse)?;
    let mut options = vec![format!("as: {}", text(&inverse.name))];
    if inverse.kind == InverseKind::ManyToMany {
        let (through, own, other) = joined(shared, owner, relation)?;
        options.extend([
            through,
            format!("foreignKey: {}", text(&other)),
            format!("otherKey: {}", text(&own)),
        ]);
        options.push(of_joining(relation));
        options.extend(others(&inverse.extras));
        return Some(Line {
            head: format!("{}.belongsToMany({}, {{ ", model.name, owner.name),
            options,
        });
    }
    options.extend(
        carrier(owner, model, relation)
            .into_iter()
            .map(|option| option.replacen("targetKey", "sourceKey", 1)),
    );
    match relation.name {
        // It alone makes the foreign key.
        None => options.extend(actions(relation, Action::Cascade)),
        Some(_) => options
            .extend(relation.constraint.map(|constraint| format!("constraints: {constraint}"))),
    }
    options.extend(others(&inverse.extras));
    let method = if inverse.kind == InverseKind::OneToOne { "hasOne" } else { "hasMany" };
    Some(Line { head: format!("{}.{method}({}, {{ ", model.name, owner.name), options })
}

/// The relation along which an inverse side leads back.
fn relation_of<'d>(
    owner: &'d Model,
    model: &Model,
    inverse: &InverseDeclaration,
) -> Option<&'d RelationDeclaration> {
    owner.attributes.iter().find_map(|attribute| match attribute {
        Attribute::Relation(relation) if relation.target == model.id => {
            let columns = || {
                relation
                    .join_columns
                    .iter()
                    .filter_map(|join| join.name.clone())
                    .collect::<Vec<_>>()
            };
            let same = match inverse.owner.is_empty() {
                true => relation.name.is_none() && columns() == inverse.columns,
                false => relation.name.as_deref() == Some(&inverse.owner),
            };
            same.then_some(&**relation)
        }
        _ => None,
    })
}

/// Whether the other side knows a relation that has no name here.
pub(super) fn is_known_there(
    shared: &Shared<'_>,
    model: &Model,
    relation: &RelationDeclaration,
) -> bool {
    let Some(target) = shared.model(&relation.target) else { return false };
    target.attributes.iter().any(|attribute| {
        matches!(attribute, Attribute::Inverse(inverse) if inverse.target == model.id
            && relation_of(model, target, inverse).is_some_and(|found| std::ptr::eq(found,
                relation)))
    })
}

/// The attribute that carries a relation, and the one that it refers to unless that is the key.
fn carrier(holder: &Model, target: &Model, relation: &RelationDeclaration) -> Vec<String> {
    let join = relation.join_columns.first();
    let column = join.and_then(|join| join.name.clone()).unwrap_or_default();
    let mut options = vec![format!("foreignKey: {}", text(&attribute_of(holder, &column)))];
    let references = join.and_then(|join| join.references.clone());
    options.extend(
        references
            .filter(|name| *name != key_of(target))
            .map(|name| format!("targetKey: {}", text(&name))),
    );
    options
}

fn key_of(model: &Model) -> String {
    super::fields(model)
        .find(|field| field.key)
        .and_then(|field| field.name.clone())
        .unwrap_or_else(|| "id".into())
}

/// What happens when the target goes or changes its key, where it is not what the framework does by
/// itself.
fn actions(relation: &RelationDeclaration, silent: Action) -> Vec<String> {
    let mut options = Vec::new();
    if relation.constraint != Some(false) {
        let on_delete = relation.on_delete.unwrap_or(Action::NoAction);
        options.extend((on_delete != silent).then(|| format!("onDelete: '{}'", on_delete.sql())));
        options.extend(relation.on_update.map(|action| format!("onUpdate: '{}'", action.sql())));
    }
    options.extend(relation.constraint.map(|constraint| format!("constraints: {constraint}")));
    options
}

/// Where a many-to-many goes through, and the attributes (or columns) that lead to either side.
fn joined(
    shared: &Shared<'_>,
    owner: &Model,
    relation: &RelationDeclaration,
) -> Option<(String, String, String)> {
    let Some(through) = relation.through.as_ref() else {
        let table = &relation.join_table;
        let through = format!("through: {}", text(table.name.as_deref()?));
        return Some((through, table.column.name.clone()?, table.inverse_column.name.clone()?));
    };
    let class = shared.model(through)?;
    let through = format!("through: {{ model: {}, unique: false }}", class.name);
    if let Some([Value::String(own), Value::String(other)]) =
        relation.extras.get(KEYS).and_then(Value::as_array).map(Vec::as_slice)
    {
        return Some((through, own.clone(), other.clone()));
    }
    let own = leading(class, &owner.id).next()?;
    let other = leading(class, &relation.target).find(|column| *column != own)?;
    Some((through, attribute_of(class, &own), attribute_of(class, &other)))
}

/// Columns of a class by which it refers to another one.
fn leading<'d>(class: &'d Model, id: &'d str) -> impl Iterator<Item = String> + 'd {
    class.attributes.iter().filter_map(move |attribute| match attribute {
        Attribute::Relation(relation) if relation.target == id => {
            relation.join_columns.first()?.name.clone()
        }
        _ => None,
    })
}

/// The class of a join table says itself what it refers to; a table without a class has nothing but
/// the two references.
fn of_joining(relation: &RelationDeclaration) -> String {
    if relation.through.is_some() {
        "constraints: false".to_owned()
    } else {
        "timestamps: false".to_owned()
    }
}
