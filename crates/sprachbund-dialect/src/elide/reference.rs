//! Foreign keys that columns declare, and the relations that use them.

use super::{Eliding, Rest};
use crate::decision::Decision;
use crate::decision::action::{Checked, OnDelete, OnUpdate};
use crate::declaration::{FieldDeclaration, JoinColumn, ReferenceDeclaration, RelationDeclaration};
use crate::dialect::grammar::ReferencePlace;
use crate::dialect::type_table::plain_stored;
use crate::schema::enum_name;
use crate::schema::{EnforcedBy, Entity, Field, ForeignKey, Relation};

impl<'s> Eliding<'s> {
    /// The foreign key that a column declares: the first one over it alone.
    pub(super) fn reference_of(
        &self,
        entity: &Entity,
        field: &Field,
    ) -> Option<ReferenceDeclaration> {
        self.on_columns(entity)
            .into_iter()
            .find(|key| key.columns == [field.column.clone()])
            .map(|key| self.reference(entity, key, Vec::new()))
    }

    /// The foreign keys that are declared for the class as a whole.
    pub(super) fn class_references(&self, entity: &'s Entity) -> Vec<ReferenceDeclaration> {
        let keys = self.on_columns(entity);
        let first = |at: usize, key: &ForeignKey| {
            key.columns.len() == 1 && !keys[..at].iter().any(|other| other.columns == key.columns)
        };
        let of_class = keys.iter().enumerate().filter(|(at, key)| !first(*at, key));
        of_class
            .map(|(_, key)| self.reference(entity, key, self.attributes_of(entity, &key.columns)))
            .collect()
    }

    fn on_columns<'e>(&self, entity: &'e Entity) -> Vec<&'e ForeignKey> {
        let on_columns = self.conventions.grammar.reference == ReferencePlace::Column;
        entity
            .foreign_keys
            .iter()
            .filter(|key| on_columns && key.enforced == EnforcedBy::Database)
            .collect()
    }

    /// Whether a column has the type that it would take from the column which it refers to.
    pub(super) fn follows(&self, field: &Field, reference: &ReferenceDeclaration) -> bool {
        let target = self
            .tables
            .get(&crate::schema::address(reference.namespace.as_deref(), &reference.table));
        let Some(target) = target
            .zip(reference.references.first())
            .and_then(|(target, column)| target.field(column))
        else {
            return false;
        };
        let wanted = &target.r#type;
        *wanted == field.r#type
            && field.identity.is_none()
            && field.format.is_none()
            && field.choices.is_none()
            && enum_name(wanted).is_none()
            && plain_stored(self.conventions.words.types, wanted, self.conventions.database, "")
                == field.stored
    }

    /// A relation that uses a foreign key; nothing where the key alone says it.
    pub(super) fn relation_over_columns(
        &self,
        entity: &'s Entity,
        relation: &'s Relation,
    ) -> Option<RelationDeclaration> {
        let key = entity.foreign_keys.iter().find(|key| key.columns == relation.columns);
        let unnamed = relation.name.is_none();
        if unnamed && relation.inverse.is_none() && relation.on_delete.is_none() {
            return None;
        }
        let mut declared =
            RelationDeclaration::new(relation.name.clone(), relation.kind, relation.target.clone());
        let by_application = key.is_some_and(|key| key.enforced == EnforcedBy::Application);
        let same_target = |other: &&ForeignKey| {
            key.is_some_and(|key| key.references.address() == other.references.address())
        };
        let forth = self.on_columns(entity).into_iter().filter(|key| same_target(key)).count();
        // Keys that lead the other way make it as hard to tell which one is meant.
        let target =
            self.entities.get(relation.target.as_str()).filter(|target| target.id != entity.id);
        let back = target.map_or(0, |target| {
            self.on_columns(target)
                .into_iter()
                .filter(|key| key.references.address() == entity.address())
                .count()
        });
        let several = forth + back > 1;
        declared.constraint = by_application.then_some(false);
        if by_application || several || unnamed {
            let name = |column: &String| Some(self.attribute_of(entity, column));
            let column =
                |column: &String| JoinColumn { name: name(column), ..JoinColumn::default() };
            declared.join_columns = relation.columns.iter().map(column).collect();
        }
        if let (true, Some(key)) = (by_application, key) {
            let referenced = key.references.columns.iter();
            declared
                .join_columns
                .iter_mut()
                .zip(referenced)
                .for_each(|(join, referenced)| join.references = Some(referenced.clone()));
        }
        // An attribute without a type of the code may be missing.
        let untyped = self.conventions.grammar.untyped && relation.name.is_some();
        let nullable = |column: &String| entity.field(column).is_some_and(|field| field.nullable);
        declared.carrier = FieldDeclaration {
            optional_in_code: Some(untyped || relation.columns.iter().any(nullable)),
            ..FieldDeclaration::default()
        };
        declared.on_delete = relation.on_delete;
        declared.extras.clone_from(&relation.extras);
        Some(declared)
    }

    /// The attribute by which the other side knows the owner of a relation, or the owner's columns.
    pub(super) fn owner(
        &self,
        owner: &Entity,
        relation: &Relation,
    ) -> Option<(String, Vec<String>)> {
        match &relation.name {
            Some(name) => Some((name.clone(), Vec::new())),
            None if self.conventions.references.kind_by_uniqueness => {
                Some((String::new(), relation.columns.clone()))
            }
            None => None,
        }
        .filter(|_| owner.mapped.code)
    }

    /// Columns of a table without a class.
    pub(super) fn columns_of_table(
        &self,
        entity: &'s Entity,
        rest: &mut Rest<'s>,
    ) -> Vec<FieldDeclaration> {
        let column = |field: &'s Field| {
            let mut declared = self.field(entity, field, rest)?;
            declared.column = Some(field.column.clone());
            Some(declared)
        };
        entity.fields.iter().filter_map(column).collect()
    }

    fn reference(
        &self,
        entity: &Entity,
        key: &ForeignKey,
        columns: Vec<String>,
    ) -> ReferenceDeclaration {
        let conventions = self.conventions;
        let optional = entity.may_be_null(&key.columns);
        ReferenceDeclaration {
            columns,
            namespace: key.references.namespace.clone(),
            table: key.references.table.clone(),
            references: key.references.columns.clone(),
            on_delete: OnDelete { conventions, optional }.omit(&key.on_delete),
            on_update: OnUpdate { conventions }.omit(&key.on_update),
            deferrable: Checked { conventions }.omit(&key.deferrable).flatten(),
            name: key.name.clone(),
            span: None,
        }
    }
}
