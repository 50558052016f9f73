//! One relation to its declaration on the owning side.

use super::{Eliding, Rest};
use crate::decision::action::{Checked, Enforced, InApplication, OnDelete, OnUpdate};
use crate::decision::index::{ReferenceIndex, Uniqueness};
use crate::decision::names::{
    InverseOf, JoinColumnNames, JoinSide, JoinTableName, JoinedClass, ReferenceColumnName,
    parent_link,
};
use crate::decision::presence::Carries;
use crate::decision::{Decision, Silence};
use crate::declaration::{InverseName, JoinColumn, JoinTable, RelationDeclaration, Spelling};
use crate::dialect::conventions::Actor;
use crate::dialect::grammar::{ColumnPlace, JoinTablePlace, KeyPlace, ReferencePlace};
use crate::schema::{
    Action, EnforcedBy, Entity, Field, ForeignKey, Inheritance, Relation, RelationKind, Type,
};

impl<'s> Eliding<'s> {
    /// A relation over columns; nothing when the class would get it by itself.
    pub(super) fn relation(
        &self,
        entity: &'s Entity,
        relation: &'s Relation,
        rest: &mut Rest<'s>,
    ) -> Option<RelationDeclaration> {
        let conventions = self.conventions;
        let key = entity.foreign_keys.iter().find(|key| key.columns == relation.columns);
        let mut declared =
            RelationDeclaration::new(relation.name.clone(), relation.kind, relation.target.clone());
        let one = relation.kind == RelationKind::OneToOne;
        let field = entity.field(relation.columns.first()?)?;
        self.columns(relation, key, &mut declared);
        if field.name.is_none() {
            let key_columns = entity.key_columns();
            let whole_key = key_columns == relation.columns;
            let in_key = key_columns.iter().any(|column| relation.columns.contains(column));
            declared.carrier.key =
                in_key && (whole_key || conventions.grammar.key != KeyPlace::Class);
            self.presence(entity, field, Carries::Reference, &mut declared.carrier);
            let of_several = relation.columns.len() > 1;
            let uniqueness = Uniqueness { conventions, one_to_one: one, whole_key, of_several };
            // Elsewhere the column of a relation has no options beside it.
            let said_here = one || conventions.grammar.reference == ReferencePlace::Relation;
            // Several columns are unique together by a one-to-one alone.
            let implied = one && conventions.references.one_to_one_unique;
            let unique = !whole_key
                && said_here
                && (!of_several || implied)
                && rest.take_unique(&relation.columns);
            declared.carrier.unique = uniqueness.omit(&unique);
            if conventions.grammar.reference == ReferencePlace::Path {
                declared.carrier.spelling = self.type_of_reference(field);
            }
            let served = unique || whole_key;
            let enforced = key.is_some_and(|key| key.enforced == EnforcedBy::Database);
            let index =
                ReferenceIndex { conventions, served, of_several, has_attribute: false, enforced };
            // A relation has no word for an index beside the server's: it is listed by itself.
            let sayable = index.fixed().is_none() && !index.is_left_to_server();
            let indexed = sayable && rest.take_index(&relation.columns);
            declared.carrier.indexed = index.omit(&indexed);
            if conventions.indexes.text_pattern && (unique || indexed || whole_key) {
                relation.columns.iter().for_each(|column| rest.take_pattern_index(column));
            }
        } else {
            if one && conventions.references.one_to_one_unique {
                rest.take_unique(&relation.columns);
            }
            let listed = conventions.grammar.reference == ReferencePlace::ListedColumns;
            let nullable =
                |column: &String| entity.field(column).is_some_and(|field| field.nullable);
            let optional =
                if listed { relation.columns.iter().any(nullable) } else { field.nullable };
            declared.carrier.optional_in_code = conventions.layers.code.then_some(optional);
        }
        self.actions(entity, relation, key, &mut declared);
        declared.inverse = self.inverse_name(entity, relation, one);
        declared.extras.clone_from(&relation.extras);
        declared.parent_link = entity.inherits.as_ref().is_some_and(|inherits| {
            inherits.how == Inheritance::Joined && inherits.entity == relation.target
        }) && entity.key_columns() == relation.columns;
        Some(declared).filter(|declared| !(declared.parent_link && self.is_silent_link(declared)))
    }

    /// Whether a child class gets this link to its parent by itself.
    fn is_silent_link(&self, declared: &RelationDeclaration) -> bool {
        let Some(parent) = self.entities.get(declared.target.as_str()) else { return false };
        let name = parent_link(self.conventions, &parent.module, &parent.name);
        let mut silent =
            RelationDeclaration::new(Some(name), RelationKind::OneToOne, declared.target.clone());
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

    fn columns(
        &self,
        relation: &Relation,
        key: Option<&ForeignKey>,
        declared: &mut RelationDeclaration,
    ) {
        if self.conventions.grammar.reference == ReferencePlace::Path {
            let name = relation
                .columns
                .first()
                .filter(|column| relation.name.as_ref() != Some(column))
                .cloned();
            declared.join_columns = name
                .into_iter()
                .map(|name| JoinColumn { name: Some(name), ..JoinColumn::default() })
                .collect();
            return;
        }
        let Some(target) = self.entities.get(relation.target.as_str()) else { return };
        let conventions = self.conventions;
        let target_key = target.key_columns();
        let references = key.map_or(target_key, |key| &key.references.columns);
        let silent_references = references == target_key;
        let attribute = relation.name.as_deref().unwrap_or_default();
        // A relation's column is called after the attribute that it refers to.
        let called = |referenced: &str| {
            target
                .field(referenced)
                .and_then(|field| field.name.clone())
                .unwrap_or_else(|| referenced.to_owned())
        };
        let said_name = |column: &String, referenced: &str| {
            ReferenceColumnName { conventions, attribute, referenced: &called(referenced) }
                .omit(column)
        };
        let silent_names = relation
            .columns
            .iter()
            .zip(references)
            .all(|(column, referenced)| said_name(column, referenced).is_none());
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
                    name: if several {
                        Some(column.clone())
                    } else {
                        said_name(column, referenced)
                    },
                    references: Some(self.attribute_of(target, referenced))
                        .filter(|_| several || !silent_references),
                    constraint_name: constraint_name.clone().filter(|_| at == 0),
                })
                .collect();
        } else {
            declared.carrier.column = relation.columns.first().cloned().filter(|_| !silent_names);
            if let (false, Some(referenced)) = (silent_references, references.first()) {
                declared.join_columns = vec![JoinColumn {
                    references: Some(self.attribute_of(target, referenced)),
                    ..JoinColumn::default()
                }];
            }
        }
    }

    fn actions(
        &self,
        entity: &Entity,
        relation: &Relation,
        key: Option<&ForeignKey>,
        declared: &mut RelationDeclaration,
    ) {
        let conventions = self.conventions;
        if conventions.grammar.columns == ColumnPlace::History {
            // What the database does is said by the step that makes the key.
            declared.on_delete = relation.on_delete;
            return;
        }
        let optional = entity.may_be_null(&relation.columns);
        let of_database = key.filter(|key| {
            relation.on_delete.is_none() && conventions.delete.database.contains(&key.on_delete)
        });
        declared.acts = of_database.map(|_| Actor::Database);
        declared.on_delete = match conventions.delete.actor {
            Actor::Application if of_database.is_some() => of_database.map(|key| key.on_delete),
            Actor::Application => {
                InApplication { conventions, optional }.omit(&relation.on_delete).flatten()
            }
            Actor::Database => {
                key.and_then(|key| OnDelete { conventions, optional }.omit(&key.on_delete))
            }
        };
        let Some(key) = key else { return };
        declared.on_update = OnUpdate { conventions }.omit(&key.on_update);
        declared.deferrable = Checked { conventions }.omit(&key.deferrable).flatten();
        declared.constraint =
            Enforced { conventions }.omit(&(key.enforced == EnforcedBy::Database));
    }

    fn inverse_name(&self, entity: &Entity, relation: &Relation, one_to_one: bool) -> InverseName {
        let conventions = self.conventions;
        if conventions.names.inverse.is_none() {
            // The other side says it.
            return InverseName::Silent;
        }
        InverseOf { conventions, module: &entity.module, class: &entity.name, one_to_one }
            .omit(&relation.inverse)
    }

    /// A many-to-many: by the class of its join table, or with what the join table says beyond the
    /// convention.
    pub(super) fn many_to_many(
        &self,
        entity: &'s Entity,
        relation: &'s Relation,
    ) -> Option<RelationDeclaration> {
        let conventions = self.conventions;
        let mut declared = RelationDeclaration::new(
            relation.name.clone(),
            RelationKind::ManyToMany,
            relation.target.clone(),
        );
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

    fn join_table(&self, entity: &'s Entity, relation: &'s Relation, join: &Entity) -> JoinTable {
        let conventions = self.conventions;
        let Some(target) = self.entities.get(relation.target.as_str()) else {
            return JoinTable::default();
        };
        let attribute = relation.name.as_deref().unwrap_or_default();
        let side = |entity: &'s Entity| JoinSide {
            class: JoinedClass { name: &entity.name, table: &entity.table },
            key: entity.key_columns().iter().map(String::as_str).collect(),
        };
        let sides = [side(entity), side(target)];
        let name = JoinTableName {
            conventions,
            module: &entity.module,
            owner: sides[0].class,
            attribute,
            target: sides[1].class,
        };
        let columns =
            [0, 1].map(|at| join.relations.get(at).map_or(Vec::new(), |side| side.columns.clone()));
        let [column, inverse_column] = JoinColumnNames { conventions, sides }
            .omit(&columns)
            .map(|name| JoinColumn { name, ..JoinColumn::default() });
        JoinTable {
            name: name.omit(&join.table),
            namespace: join.namespace.clone().filter(|_| join.namespace != entity.namespace),
            column,
            inverse_column,
        }
    }
}
