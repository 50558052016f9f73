//! One relation to its declaration on the owning side.

use super::{Eliding, Rest};
use crate::declaration::{InverseName, JoinColumn, JoinTable, RelationDeclaration, Spelling};
use crate::dialect::conventions::{Actor, SilentActions};
use crate::dialect::grammar::{JoinTablePlace, KeyPlace, ReferencePlace};
use crate::schema::{Action, EnforcedBy, Entity, Field, ForeignKey, Inheritance, Relation, RelationKind, Type};

impl<'s> Eliding<'s> {
    /// A relation over columns; nothing when the class would get it by itself.
    pub(super) fn relation(&self, entity: &'s Entity, relation: &'s Relation, rest: &mut Rest<'s>) -> Option<RelationDeclaration> {
        let conventions = self.conventions;
        let key = entity.foreign_keys.iter().find(|key| key.columns == relation.columns);
        let mut declared = RelationDeclaration::new(relation.name.clone(), relation.kind, relation.target.clone());
        let one = relation.kind == RelationKind::OneToOne;
        let field = entity.field(relation.columns.first()?)?;
        self.columns(relation, key, &mut declared);
        if field.name.is_none() {
            let key_columns = entity.key_columns();
            let whole_key = key_columns == relation.columns;
            let in_key = key_columns.iter().any(|column| relation.columns.contains(column));
            declared.carrier.key = in_key && (whole_key || conventions.grammar.key != KeyPlace::Class);
            self.presence(entity, field, conventions.nullability.reference, &mut declared.carrier);
            // Elsewhere the column of a relation has no options beside it.
            let said_here = one || conventions.grammar.reference == ReferencePlace::Relation;
            let unique = !whole_key && said_here && rest.take_unique(&relation.columns);
            declared.carrier.unique = (unique && !(one && conventions.references.one_to_one_unique)).then_some(true);
            if conventions.grammar.reference == ReferencePlace::Path {
                declared.carrier.spelling = self.type_of_reference(field);
            }
            let by_server = conventions.leaves_indexes_to_server() && key.is_some_and(|key| key.enforced == EnforcedBy::Database);
            let indexed = !unique && !whole_key && !by_server && rest.take_index(&relation.columns);
            let silent = conventions.references.indexed && relation.columns.len() == 1;
            declared.carrier.indexed = Some(indexed).filter(|indexed| !unique && !whole_key && !by_server && *indexed != silent);
            if conventions.indexes.text_pattern && (unique || indexed || whole_key) {
                relation.columns.iter().for_each(|column| rest.take_pattern_index(column));
            }
        } else {
            if one && conventions.references.one_to_one_unique {
                rest.take_unique(&relation.columns);
            }
            let listed = conventions.grammar.reference == ReferencePlace::ListedColumns;
            let nullable = |column: &String| entity.field(column).is_some_and(|field| field.nullable);
            let optional = if listed { relation.columns.iter().any(nullable) } else { field.nullable };
            declared.carrier.optional_in_code = conventions.layers.code.then_some(optional);
        }
        self.actions(entity, relation, key, &mut declared);
        declared.inverse = self.inverse_name(entity, relation, one);
        declared.extras.clone_from(&relation.extras);
        declared.parent_link =
            entity.inherits.as_ref().is_some_and(|inherits| inherits.how == Inheritance::Joined && inherits.entity == relation.target)
                && entity.key_columns() == relation.columns;
        Some(declared).filter(|declared| !(declared.parent_link && self.is_silent_link(declared)))
    }

    /// Whether a child class gets this link to its parent by itself.
    fn is_silent_link(&self, declared: &RelationDeclaration) -> bool {
        let Some(parent) = self.entities.get(declared.target.as_str()) else { return false };
        let name = self.conventions.names.parent_link.apply(&[("name", &parent.name), ("module", &parent.module)]);
        let mut silent = RelationDeclaration::new(Some(name), RelationKind::OneToOne, declared.target.clone());
        silent.parent_link = true;
        silent.carrier.key = true;
        silent.on_delete = Some(Action::Cascade);
        silent == *declared
    }

    /// The type of a reference, or of each in a list of them.
    fn type_of_reference(&self, field: &Field) -> Spelling {
        match &field.r#type {
            Type::Array(element) => self.element(element),
            ty => self.element(ty),
        }
    }

    fn columns(&self, relation: &Relation, key: Option<&ForeignKey>, declared: &mut RelationDeclaration) {
        if self.conventions.grammar.reference == ReferencePlace::Path {
            let name = relation.columns.first().filter(|column| relation.name.as_ref() != Some(column)).cloned();
            declared.join_columns = name.into_iter().map(|name| JoinColumn { name: Some(name), ..JoinColumn::default() }).collect();
            return;
        }
        let Some(target) = self.entities.get(relation.target.as_str()) else { return };
        let conventions = self.conventions;
        let target_key = target.key_columns();
        let references = key.map_or(target_key, |key| &key.references.columns);
        let silent_references = references == target_key;
        let attribute = relation.name.as_deref().unwrap_or_default();
        // A relation's column is called after the attribute that it refers to.
        let called =
            |referenced: &str| target.field(referenced).and_then(|field| field.name.clone()).unwrap_or_else(|| referenced.to_owned());
        let silent_name =
            |referenced: &str| conventions.names.reference_column.apply(&[("attribute", attribute), ("column", &called(referenced))]);
        let silent_names = relation.columns.iter().zip(references).all(|(column, referenced)| *column == silent_name(referenced));
        let constraint_name = key.and_then(|key| key.name.clone());
        if conventions.grammar.reference != ReferencePlace::Relation {
            let listed = conventions.grammar.reference == ReferencePlace::ListedColumns;
            let several = relation.columns.len() > 1 || listed;
            if silent_names && silent_references && constraint_name.is_none() && !listed {
                return;
            }
            declared.join_columns = relation
                .columns
                .iter()
                .zip(references)
                .enumerate()
                .map(|(at, (column, referenced))| JoinColumn {
                    name: Some(column.clone()).filter(|column| several || *column != silent_name(referenced)),
                    references: Some(self.attribute_of(target, referenced)).filter(|_| several || !silent_references),
                    constraint_name: constraint_name.clone().filter(|_| at == 0),
                })
                .collect();
        } else {
            declared.carrier.column = relation.columns.first().cloned().filter(|_| !silent_names);
            if let (false, Some(referenced)) = (silent_references, references.first()) {
                declared.join_columns =
                    vec![JoinColumn { references: Some(self.attribute_of(target, referenced)), ..JoinColumn::default() }];
            }
        }
    }

    fn actions(&self, entity: &Entity, relation: &Relation, key: Option<&ForeignKey>, declared: &mut RelationDeclaration) {
        let conventions = self.conventions;
        let silent = conventions.delete.silent;
        let optional = relation.columns.iter().all(|column| entity.field(column).is_some_and(|field| field.nullable));
        let unsaid = |action: &Action| silent != SilentActions::default() && *action == silent.on_delete(optional);
        declared.on_delete = match conventions.delete.actor {
            Actor::Application => relation.on_delete.filter(|action| !unsaid(action)),
            Actor::Database => key.map(|key| key.on_delete).filter(|action| *action != silent.on_delete(optional)),
        };
        let Some(key) = key else { return };
        if conventions.delete.actor == Actor::Database {
            declared.on_update = Some(key.on_update).filter(|action| *action != silent.on_update);
        }
        declared.deferrable = key.deferrable.filter(|_| key.deferrable != conventions.references.deferrable);
        let enforced = key.enforced == EnforcedBy::Database;
        declared.constraint = (enforced != conventions.references.enforced).then_some(enforced);
    }

    fn inverse_name(&self, entity: &Entity, relation: &Relation, one: bool) -> InverseName {
        let Some((many, single)) = &self.conventions.names.inverse else { return InverseName::Silent };
        let silent = if one { single } else { many }.apply(&[("name", &entity.name), ("module", &entity.module)]);
        match &relation.inverse {
            None => InverseName::Hidden,
            Some(name) if *name == silent => InverseName::Silent,
            Some(name) => InverseName::Named(name.clone()),
        }
    }

    /// A many-to-many: by the class of its join table, or with what the join table says beyond the convention.
    pub(super) fn many_to_many(&self, entity: &'s Entity, relation: &'s Relation) -> Option<RelationDeclaration> {
        let conventions = self.conventions;
        let mut declared = RelationDeclaration::new(relation.name.clone(), RelationKind::ManyToMany, relation.target.clone());
        declared.inverse = self.inverse_name(entity, relation, false);
        declared.extras.clone_from(&relation.extras);
        declared.through_fields.clone_from(&relation.through_fields);
        declared.carrier.required_on_input = relation.required_on_input;
        if conventions.layers.code {
            declared.carrier.optional_in_code = Some(false);
        }
        if relation.target == entity.id && conventions.names.inverse.is_some() {
            declared.symmetrical = (!relation.symmetrical).then_some(false);
            if relation.symmetrical {
                declared.inverse = InverseName::Silent;
            }
        }
        let join = self.entities.get(relation.through.as_deref()?)?;
        if join.mapped.code || conventions.grammar.join_table == JoinTablePlace::Table {
            declared.through = Some(join.id.clone());
            return Some(declared);
        }
        declared.join_table = self.join_table(entity, relation, join);
        Some(declared)
    }

    fn join_table(&self, entity: &Entity, relation: &Relation, join: &Entity) -> JoinTable {
        let conventions = self.conventions;
        let Some(target) = self.entities.get(relation.target.as_str()) else { return JoinTable::default() };
        let attribute = relation.name.as_deref().unwrap_or_default();
        let names = [
            ("table", entity.table.as_str()),
            ("attribute", attribute),
            ("target_table", &target.table),
            ("module", &entity.module),
            ("first", entity.name.as_str().min(&target.name)),
            ("second", entity.name.as_str().max(&target.name)),
        ];
        let silent = (conventions.names.shorten)(&conventions.joins.table.apply(&names), conventions.identifier_limit());
        let ordinary = |side: &Entity| {
            let column = side.key_columns().first().map_or("", String::as_str);
            conventions.joins.column.apply(&[("name", &side.name), ("table", &side.table), ("column", column)])
        };
        let (own, other) = (ordinary(entity), ordinary(target));
        let (from, to) = &conventions.joins.column_to_self;
        let apart = |pattern: &crate::dialect::naming::NamePattern, side: &Entity, ordinary: &str| {
            pattern.apply(&[("name", &side.name), ("ordinary", ordinary)])
        };
        let silent_columns = if own == other { (apart(from, entity, &own), apart(to, target, &other)) } else { (own, other) };
        let written = |at: usize, silent: String| {
            let column = join.relations.get(at).and_then(|side| side.columns.first()).cloned();
            JoinColumn { name: column.filter(|column| *column != silent), ..JoinColumn::default() }
        };
        JoinTable {
            name: Some(join.table.clone()).filter(|table| *table != silent),
            namespace: join.namespace.clone().filter(|_| join.namespace != entity.namespace),
            column: written(0, silent_columns.0),
            inverse_column: written(1, silent_columns.1),
        }
    }
}
