//! Join tables that relations imply, and the sides of relations that own nothing.

use std::borrow::Cow;
use std::collections::HashMap;

use super::Resolver;
use super::keys::KeyColumn;

use crate::codes;
use crate::decision::Decision;
use crate::decision::companions::pattern_class;
use crate::decision::names::{JoinColumnNames, JoinSide, JoinTableName, JoinedClass};
use crate::declaration::{
    Attribute, Form, InverseDeclaration, InverseKind, InverseName, Model, RelationDeclaration,
    Spelling,
};
use crate::diagnostic::Diagnostic;
use crate::dialect::conventions::{Actor, JoinKey};
use crate::dialect::naming::Case;
use crate::dialect::type_table::stored;
use crate::schema::{
    Action, EnforcedBy, Entity, Field, ForeignKey, Index, Mapped, Origin, Part, PrimaryKey,
    References, Relation, RelationKind, Schema, Unique,
};
use crate::server::index_references;

/// One side of a join table.
struct JoinedSide<'m> {
    model: &'m Model,
    /// Columns of the join table and the columns that they refer to.
    columns: Vec<(String, KeyColumn)>,
}

/// Whether an inverse side leads back along this relation.
fn leads_back(relation: &Relation, inverse: &InverseDeclaration) -> bool {
    match inverse.owner.is_empty() {
        true => relation.name.is_none() && relation.columns == inverse.columns,
        false => relation.name.as_deref() == Some(&inverse.owner),
    }
}

impl<'d> Resolver<'d> {
    /// The relation, and its join table unless that has a class.
    pub(super) fn many_to_many(
        &self,
        model: &Model,
        entity: &Entity,
        declared: &RelationDeclaration,
        diagnostics: &mut Vec<Diagnostic>,
    ) -> (Option<Relation>, Option<Entity>) {
        let Some((target_at, target)) = self.model(&declared.target) else {
            let message = format!(
                "`{}.{}` refers to `{}`, which nobody declares",
                model.name,
                declared.name.as_deref().unwrap_or_default(),
                declared.target
            );
            diagnostics.push(
                Diagnostic::of(&codes::UNDECLARED_TARGET, message)
                    .at(declared.span, "refers to nothing known")
                    .with_help(
                        "add the file that declares it to the inputs, or name its package with \
                         --follow",
                    ),
            );
            return (None, None);
        };
        let to_self = declared.target == model.id;
        let symmetrical =
            to_self && declared.symmetrical.unwrap_or(self.conventions.names.inverse.is_some());
        let origin = self.origin(declared.span, "");
        let mut relation = Relation {
            name: declared.name.clone(),
            through: declared.through.clone(),
            inverse: if symmetrical { None } else { self.inverse_name(declared, model, false) },
            symmetrical,
            through_fields: declared.through_fields.clone(),
            required_on_input: declared.carrier.required_on_input.filter(|required| !required),
            extras: declared.extras.clone(),
            ..Relation::over(RelationKind::ManyToMany, &declared.target, Vec::new(), origin)
        };
        if declared.inverse == InverseName::Silent && relation.inverse.is_some() {
            relation.implied.add(Part::Inverse);
        }
        if declared.through.is_some() {
            return (Some(relation), None);
        }
        let join = self.join_table(model, entity, declared, (target_at, target));
        relation.through = Some(join.id.clone());
        (Some(relation), Some(join))
    }

    fn join_table(
        &self,
        model: &Model,
        entity: &Entity,
        declared: &RelationDeclaration,
        (target_at, target): (usize, &Model),
    ) -> Entity {
        let conventions = self.conventions;
        let attribute_name = declared.name.as_deref().unwrap_or_default();
        let target_table = self.table(target);
        let owner = JoinedClass { name: &model.name, table: &entity.table };
        let other = JoinedClass { name: &target.name, table: &target_table };
        let name = JoinTableName {
            conventions,
            module: &model.module,
            owner,
            attribute: attribute_name,
            target: other,
        };
        let table = name.fill(declared.join_table.name.clone());
        let own = self.model(&model.id).map_or(Vec::new(), |(at, _)| self.key(at));
        let keys = [own, self.key(target_at)];
        let sides = [(owner, &keys[0]), (other, &keys[1])].map(|(class, key)| JoinSide {
            class,
            key: key.iter().map(|key| key.column.as_str()).collect(),
        });
        let names = JoinColumnNames { conventions, sides };
        let [own_names, other_names] = names.fill([
            declared.join_table.column.name.clone(),
            declared.join_table.inverse_column.name.clone(),
        ]);
        let [own, of_target] = keys;
        let sides = [
            JoinedSide { model, columns: own_names.into_iter().zip(own).collect() },
            JoinedSide { model: target, columns: other_names.into_iter().zip(of_target).collect() },
        ];
        let name = format!("{}{}", model.name, Case::Pascal.apply(attribute_name));
        let mut join = blank_join(model, entity, declared, (name, table));
        let pair: Vec<String> = sides
            .iter()
            .flat_map(|side| side.columns.iter().map(|(column, _)| column.clone()))
            .collect();
        self.join_key(&mut join, pair);
        let known_there = self.attributes(target_at).any(|attribute| {
            matches!(attribute, Attribute::Inverse(inverse)
                if inverse.target == model.id && inverse.owner == attribute_name)
        });
        let other = if known_there {
            self.conventions.joins.inverse_actions
        } else {
            self.conventions.joins.actions
        };
        for (place, (side, actions)) in
            sides.iter().zip([self.conventions.joins.actions, other]).enumerate()
        {
            self.join_side(&mut join, side, place, actions);
        }
        if self.conventions.server_indexes_references() {
            index_references(&mut join);
        }
        join
    }

    fn join_key(&self, join: &mut Entity, pair: Vec<String>) {
        let implied = || Origin::implied("the key of a join table");
        match self.conventions.joins.key {
            JoinKey::Pair => {
                join.primary_key = Some(PrimaryKey { columns: pair, name: None, origin: implied() })
            }
            JoinKey::None => self.unique_pair(join, pair),
            JoinKey::OwnColumn(name) => {
                let word = self.conventions.keys.implied.as_ref().map_or("", |(_, word)| word);
                let (ty, row) = self.read_type(&Spelling::word(word));
                let stored = stored(row, &ty, self.conventions.database, "");
                let mut field = Field::plain(None, name.to_owned(), ty, stored);
                field.identity = Some(self.conventions.keys.generated);
                field.origin = implied();
                self.voices(&mut field, false);
                join.fields.push(field);
                join.primary_key = Some(PrimaryKey {
                    columns: vec![name.to_owned()],
                    name: None,
                    origin: implied(),
                });
                self.unique_pair(join, pair);
            }
        }
    }

    fn unique_pair(&self, join: &mut Entity, columns: Vec<String>) {
        let r#as = self.conventions.unique_as(2, false);
        join.uniques.push(Unique {
            columns,
            r#as,
            origin: Origin::implied("a pair is joined once"),
            ..Unique::default()
        });
    }

    fn voices(&self, field: &mut Field, required: bool) {
        field.required_on_input = self.conventions.layers.input.then_some(required);
        field.optional_in_code = self.conventions.layers.code.then_some(false);
    }

    fn join_side(
        &self,
        join: &mut Entity,
        side: &JoinedSide<'_>,
        place: usize,
        (on_delete, on_update): (Action, Action),
    ) {
        let implied = || Origin::implied("a join table refers to both sides");
        let columns: Vec<String> = side.columns.iter().map(|(column, _)| column.clone()).collect();
        for (column, key) in &side.columns {
            let ty = key.ty.clone();
            let stored = self.stored(&ty, "");
            let mut field = Field::plain(None, column.clone(), ty, stored);
            field.origin = implied();
            self.voices(&mut field, true);
            if let (true, Some(class)) =
                (self.conventions.indexes.text_pattern, pattern_class(&field.r#type))
            {
                let mut index = Index::over(
                    &columns,
                    Origin::implied("an indexed text gets a second index for patterns"),
                );
                index.parts[0].operator_class = Some(Cow::Borrowed(class));
                join.indexes.push(index);
            }
            join.fields.push(field);
        }
        if self.conventions.joins.indexed.is_indexed(place)
            && !self.conventions.leaves_indexes_to_server()
        {
            join.indexes.push(Index::over(&columns, Origin::implied("references are indexed")));
        }
        join.foreign_keys.push(ForeignKey {
            columns: columns.clone(),
            references: References {
                table: self.table(side.model),
                namespace: side.model.namespace.clone(),
                columns: side.columns.iter().map(|(_, key)| key.column.clone()).collect(),
            },
            on_delete,
            on_update,
            deferrable: self.conventions.references.deferrable,
            enforced: EnforcedBy::Database,
            name: None,
            origin: implied(),
        });
        join.relations.push(Relation {
            on_delete: (self.conventions.delete.actor == Actor::Application)
                .then_some(Action::Cascade),
            implied: [Part::Relation].into_iter().collect(),
            ..Relation::over(RelationKind::ManyToOne, &side.model.id, columns, implied())
        });
    }

    /// Gives relations the places of their other sides, and names the sides whose relation is
    /// missing.
    pub(super) fn inverse_sides(&self, schema: &mut Schema, diagnostics: &mut Vec<Diagnostic>) {
        let index: HashMap<String, usize> = schema
            .entities
            .iter()
            .enumerate()
            .map(|(at, entity)| (entity.id.clone(), at))
            .collect();
        for at in (0..self.models.len()).filter(|at| self.models[*at].form != Form::External) {
            let model = &self.models[at];
            // What leads back to a table leads to the class that has it, not to each that shares
            // it.
            let attributes: Vec<&Attribute> = match model.form {
                Form::SameTable => model.attributes.iter().collect(),
                _ => self.attributes(at).collect(),
            };
            for attribute in attributes {
                let Attribute::Inverse(inverse) = attribute else { continue };
                let relation = index.get(&inverse.target).and_then(|owner| {
                    schema.entities[*owner].relations.iter_mut().find(|relation| {
                        relation.target == model.id && leads_back(relation, inverse)
                    })
                });
                match relation {
                    Some(relation) => self.found_inverse(relation, inverse, model, diagnostics),
                    None => diagnostics.push(
                        Diagnostic::of(
                            &codes::MISSING_OWNER,
                            format!(
                                "`{}.{}` leads back along `{}.{}`, which is not a relation to `{}`",
                                model.name, inverse.name, inverse.target, inverse.owner, model.name
                            ),
                        )
                        .at(inverse.span, "no such relation on the other side")
                        .with_help("declare the owning side, or name the right attribute here"),
                    ),
                }
            }
        }
    }

    fn found_inverse(
        &self,
        relation: &mut Relation,
        inverse: &InverseDeclaration,
        model: &Model,
        diagnostics: &mut Vec<Diagnostic>,
    ) {
        let expected = match inverse.kind {
            InverseKind::OneToMany => RelationKind::ManyToOne,
            InverseKind::OneToOne => RelationKind::OneToOne,
            InverseKind::ManyToMany => RelationKind::ManyToMany,
        };
        if relation.kind != expected {
            diagnostics.push(
                Diagnostic::of(
                    &codes::SIDES_DISAGREE,
                    format!(
                        "`{}.{}` expects a {} on the other side, which is a {}",
                        model.name,
                        inverse.name,
                        expected.word(),
                        relation.kind.word()
                    ),
                )
                .at(inverse.span, "this side")
                .and_at(relation.origin.span(), "the other side"),
            );
        }
        relation.inverse = Some(inverse.name.clone());
        relation.inverse_origin = Some(self.origin(inverse.span, ""));
        relation.inverse_extras.clone_from(&inverse.extras);
    }
}

/// A join table beside its owner, without any columns yet.
fn blank_join(
    model: &Model,
    entity: &Entity,
    declared: &RelationDeclaration,
    (name, table): (String, String),
) -> Entity {
    let mut join = Entity {
        id: format!("{}.{name}", model.module),
        name,
        table,
        namespace: declared.join_table.namespace.clone().or_else(|| model.namespace.clone()),
        join: true,
        mapped: Mapped { table: true, code: false },
        comment: None,
        label: None,
        order: Vec::new(),
        implied: declared.join_table.name.is_none().then_some(Part::Table).into_iter().collect(),
        origin: Origin::implied("a many-to-many has a join table"),
        extras: Default::default(),
        ..entity.clone()
    };
    join.foreign_keys.clear();
    (join.fields, join.uniques, join.indexes, join.checks, join.exclusions, join.relations) =
        Default::default();
    (join.inherits, join.soft_delete, join.primary_key) = (None, None, None);
    join
}
