//! Schema back to declarations: exactly what must be written so that `resolve` gives the same
//! schema again, and no more. The inverse of [`crate::resolve`]: both ask the same
//! [`crate::decision`]s.

mod attribute;
mod reference;
mod relation;
mod steps;

use std::collections::HashMap;

use crate::decision::Decision;
use crate::decision::companions::{is_positive, json_check, positive_check};
use crate::decision::names::TableName;
use crate::declaration::{
    Attribute, CheckDeclaration, Declarations, Form, History, IndexDeclaration,
    IndexPartDeclaration, InverseDeclaration, InverseKind, Model, UniqueDeclaration,
};
use crate::dialect::grammar::{
    ColumnPlace, ConstraintNames, IndexPlace, JoinTablePlace, KeyPlace, ReferencePlace,
};
use crate::dialect::{Conventions, Dialect, Medium, PrintedFile};
use crate::history::stored_part;
use crate::schema::expression::Tree;
use crate::schema::{
    Check, Entity, EntityKind, Expression, Index, Inheritance, Inherits, NamedBy, Relation,
    RelationKind, Schema, Unique, UniqueAs,
};
use crate::server::is_index_of_reference;

/// Prints a schema (that `fit` made fit the dialect).
pub fn printed(dialect: &Dialect, fitted: &Schema, conventions: &Conventions) -> Vec<PrintedFile> {
    match dialect.medium {
        Medium::Classes { print, .. } => print(&elide(fitted, conventions), conventions),
        Medium::Statements { print, .. } => print(fitted, conventions.database),
    }
}

/// Writes a schema (that `fit` made fit the dialect) as declarations.
pub fn elide(schema: &Schema, conventions: &Conventions) -> Declarations {
    let entities = schema.entities.iter().map(|entity| (entity.id.as_str(), entity)).collect();
    let mut inverse: HashMap<&str, Vec<(&Entity, usize)>> = HashMap::new();
    for owner in &schema.entities {
        let mut named: Vec<usize> = (0..owner.relations.len())
            .filter(|at| owner.relations[*at].inverse.is_some())
            .collect();
        named.sort_by_key(|at| place(owner, &owner.relations[*at]));
        for at in named {
            inverse.entry(&owner.relations[at].target).or_default().push((owner, at));
        }
    }
    let tables = schema
        .entities
        .iter()
        .filter(|entity| !is_second(entity))
        .map(|entity| (entity.address(), entity))
        .collect();
    let eliding = Eliding { schema, conventions, entities, tables, inverse };
    let written = schema.entities.iter().filter(|entity| {
        entity.mapped.code || conventions.grammar.join_table == JoinTablePlace::Table
    });
    // Where columns live in steps, these make the tables as they are meant to be.
    let made = (conventions.grammar.columns == ColumnPlace::History)
        .then(|| Box::new(stored_part(schema)));
    Declarations {
        models: written.map(|entity| eliding.model(entity)).collect(),
        enums: schema.enums.clone(),
        history: History { made, ..History::default() },
        ..Declarations::default()
    }
}

/// Where a relation is written: those of a name first, then those that the other side alone knows,
/// many-to-many last.
fn place(owner: &Entity, relation: &Relation) -> (bool, Option<Vec<String>>) {
    let attribute = |column: &String| {
        owner.field(column).and_then(|field| field.name.clone()).unwrap_or_else(|| column.clone())
    };
    let unnamed = relation.name.is_none().then(|| relation.columns.iter().map(attribute).collect());
    (relation.kind == RelationKind::ManyToMany, unnamed)
}

/// Where a relation is said: with its column, by its own class, by the other one alone;
/// many-to-many last.
fn said(owner: &Entity, relation: &Relation) -> (bool, u8, usize) {
    let column = || {
        owner
            .fields
            .iter()
            .position(|field| relation.columns.first() == Some(&field.column))
            .unwrap_or(0)
    };
    let (rank, at) = match (&relation.name, &relation.inverse) {
        (Some(_), _) => (1, 0),
        (None, None) => (0, column()),
        (None, Some(_)) => (2, column()),
    };
    (relation.kind == RelationKind::ManyToMany, rank, at)
}

/// Whether another class stands for the table in the first place.
fn is_second(entity: &Entity) -> bool {
    entity.inherits.as_ref().is_some_and(|inherits| inherits.how == Inheritance::SameTable)
}

struct Eliding<'s> {
    schema: &'s Schema,
    conventions: &'s Conventions,
    entities: HashMap<&'s str, &'s Entity>,
    /// Entities by the addresses of their tables.
    tables: HashMap<String, &'s Entity>,
    /// Relations that lead to an entity and have a name there.
    inverse: HashMap<&'s str, Vec<(&'s Entity, usize)>>,
}

/// What of an entity is still to be written.
struct Rest<'s> {
    /// What keeps one column unique where nothing more is said.
    unique_as: UniqueAs,
    uniques: Vec<&'s Unique>,
    indexes: Vec<&'s Index>,
    checks: Vec<&'s Check>,
}

impl<'s> Rest<'s> {
    /// Takes an unnamed unique constraint over one column.
    fn take_unique(&mut self, columns: &[String]) -> bool {
        let unique_as = self.unique_as;
        let plain = |unique: &&Unique| {
            unique.columns == columns
                && unique.named_by != NamedBy::Author
                && unique.deferrable.is_none()
                && !unique.nulls_not_distinct
                && unique.extras.is_empty()
                && unique.r#as == unique_as
        };
        take(&mut self.uniques, plain)
    }

    /// Takes an unnamed plain index.
    fn take_index(&mut self, columns: &[String]) -> bool {
        take(&mut self.indexes, |index| is_plain(index) && index.plain_columns() == columns)
    }

    /// Takes the second index for patterns.
    fn take_pattern_index(&mut self, column: &str) {
        take(&mut self.indexes, |index| {
            index.named_by != NamedBy::Author
                && matches!(index.parts.as_slice(), [part] if part.column.as_deref() == Some(column)
                    && part
                .operator_class
                .as_deref()
                .is_some_and(|class| class.ends_with("_pattern_ops")))
        });
    }

    fn take_check(&mut self, implied: &Check) {
        take(&mut self.checks, |check| {
            check.name.is_none() && check.expression == implied.expression
        });
    }
}

fn take<T>(list: &mut Vec<T>, wanted: impl Fn(&T) -> bool) -> bool {
    let at = list.iter().position(wanted);
    if let Some(at) = at {
        list.remove(at);
    }
    at.is_some()
}

fn is_plain(index: &Index) -> bool {
    index.named_by != NamedBy::Author && !index.unique && index.is_over_columns_alone()
}

/// The parent in whose table the class stands.
fn in_same_table(entity: &Entity) -> Option<&Inherits> {
    entity.inherits.as_ref().filter(|inherits| inherits.how == Inheritance::SameTable)
}

impl<'s> Eliding<'s> {
    fn model(&self, entity: &'s Entity) -> Model {
        let mut rest = Rest {
            unique_as: self.conventions.unique_as(1, false),
            uniques: entity.uniques.iter().collect(),
            indexes: entity
                .indexes
                .iter()
                .filter(|index| !self.is_made_by_server(entity, index))
                .collect(),
            checks: entity.checks.iter().collect(),
        };
        let same_table = in_same_table(entity);
        let mut model = self.head(entity);
        if same_table.is_some() {
            return model;
        }
        let name = TableName {
            conventions: self.conventions,
            module: &entity.module,
            class: &entity.name,
        };
        model.table = name.omit(&entity.table).filter(|_| entity.owned_by.is_none());
        model.attributes = self.attributes(entity, &mut rest);
        model.references = self.class_references(entity);
        let key = entity.key_columns();
        let listed = self.lists_key(entity, key);
        if key.len() > 1 && listed {
            model.key = Some(key.iter().map(|column| self.attribute_of(entity, column)).collect());
        }
        if key.is_empty()
            && (self.conventions.keys.written || self.conventions.dialect.keeps_documents())
        {
            // A key that is listed, and of nothing, is none.
            model.key = Some(Vec::new());
        }
        model.key_name = entity.primary_key.as_ref().and_then(|key| key.name.clone());
        for field in &entity.fields {
            if is_positive(self.conventions, entity, field) {
                rest.take_check(&positive_check(&field.column));
            }
            if self.conventions.checks.json {
                json_check(field).iter().for_each(|check| rest.take_check(check));
            }
        }
        model.uniques = rest.uniques.iter().map(|unique| self.unique(entity, unique)).collect();
        if self.conventions.grammar.constraint_names == ConstraintNames::Required {
            // Those with a name stand in a list of their own, behind the others.
            model.uniques.sort_by_key(|unique| unique.name.is_some());
        }
        model.indexes = rest.indexes.iter().map(|index| self.index(entity, index)).collect();
        if self.conventions.grammar.index == IndexPlace::Class {
            model
                .indexes
                .sort_by_key(|index| (!index.unique, index.extras.contains_key("fulltext")));
        }
        model.checks = rest.checks.iter().map(|check| self.check(entity, check)).collect();
        model.exclusions =
            entity.exclusions.iter().map(|check| self.check(entity, check)).collect();
        if self.conventions.grammar.columns == ColumnPlace::History {
            steps::beside(&mut model, self.conventions);
        }
        model
    }

    /// What stands at the class itself, without its attributes, keys and constraints.
    fn head(&self, entity: &Entity) -> Model {
        let same_table = in_same_table(entity);
        Model {
            id: entity.id.clone(),
            name: entity.name.clone(),
            module: entity.module.clone(),
            form: match (entity.external, entity.kind, same_table) {
                (true, _, _) => Form::External,
                (false, EntityKind::View, _) => Form::View,
                (false, _, Some(_)) => Form::SameTable,
                (false, _, None) if !entity.mapped.code => Form::Table,
                (false, EntityKind::Table | EntityKind::Document, None) => Form::Concrete,
            },
            extends: entity.inherits.iter().map(|inherits| inherits.entity.clone()).collect(),
            namespace: entity.namespace.clone(),
            owned_by: entity.owned_by.clone(),
            comment: entity.comment.clone(),
            label: entity.label.clone(),
            order: Some(entity.order.clone()).filter(|order| !order.is_empty()),
            managed: Some(entity.mapped.table)
                .filter(|mapped| {
                    !mapped
                        && same_table.is_none()
                        && entity.kind != EntityKind::View
                        && !entity.external
                })
                .filter(|_| entity.owned_by.is_none()),
            extras: entity.extras.clone(),
            ..Model::default()
        }
    }

    /// Whether the key is listed at the class, where a column could say that it is part of it.
    fn lists_key(&self, entity: &Entity, key: &[String]) -> bool {
        let in_order = || {
            entity
                .fields
                .iter()
                .map(|field| &field.column)
                .filter(|column| key.contains(column))
                .eq(key)
        };
        match self.conventions.grammar.key {
            KeyPlace::Class => true,
            KeyPlace::Columns => false,
            KeyPlace::Either => !in_order(),
        }
    }

    fn is_made_by_server(&self, entity: &Entity, index: &Index) -> bool {
        self.conventions.server_indexes_references()
            && is_plain(index)
            && is_index_of_reference(entity, index)
    }

    fn attributes(&self, entity: &'s Entity, rest: &mut Rest<'s>) -> Vec<Attribute> {
        if !entity.mapped.code {
            return self
                .columns_of_table(entity, rest)
                .into_iter()
                .map(Box::new)
                .map(Attribute::Field)
                .collect();
        }
        let mut attributes = Vec::new();
        let mut written: Vec<usize> = Vec::new();
        for field in &entity.fields {
            let relation = entity
                .relations
                .iter()
                .position(|relation| relation.columns.contains(&field.column));
            match (relation, &field.name) {
                (Some(at), None) => {
                    if !written.contains(&at) {
                        written.push(at);
                        attributes.extend(
                            self.relation(entity, &entity.relations[at], rest)
                                .map(Box::new)
                                .map(Attribute::Relation),
                        );
                    }
                }
                (_, Some(_)) => attributes
                    .extend(self.field(entity, field, rest).map(Box::new).map(Attribute::Field)),
                (None, None) => {}
            }
        }
        let mut left: Vec<(usize, &'s Relation)> =
            entity.relations.iter().enumerate().filter(|(at, _)| !written.contains(at)).collect();
        let mut unnamed = Vec::new();
        left.sort_by_key(|(_, relation)| relation.kind == RelationKind::ManyToMany);
        if self.conventions.grammar.reference == ReferencePlace::Column {
            (unnamed, left) = left.into_iter().partition(|(_, relation)| relation.name.is_none());
            unnamed.sort_by_key(|(_, relation)| place(entity, relation));
        } else if self.conventions.references.kind_by_uniqueness {
            left.sort_by_key(|(_, relation)| said(entity, relation));
        }
        for (_, relation) in left {
            let declared = match (self.conventions.grammar.reference, relation.kind) {
                // A list of keys in a document is a path like any other.
                (ReferencePlace::Path, _) => self.relation(entity, relation, rest),
                (_, RelationKind::ManyToMany) => self.many_to_many(entity, relation),
                (ReferencePlace::Column, _) => self.relation_over_columns(entity, relation),
                (
                    ReferencePlace::Relation
                    | ReferencePlace::JoinColumns
                    | ReferencePlace::ListedColumns,
                    _,
                ) => self.relation(entity, relation, rest),
            };
            attributes.extend(declared.map(Box::new).map(Attribute::Relation));
        }
        if self.conventions.names.inverse.is_none() {
            attributes.extend(self.inverses(entity).map(Box::new).map(Attribute::Inverse));
        }
        let unnamed = unnamed
            .into_iter()
            .filter_map(|(_, relation)| self.relation_over_columns(entity, relation));
        attributes.extend(unnamed.map(Box::new).map(Attribute::Relation));
        attributes
    }

    /// The other sides of relations that lead here.
    fn inverses(&self, entity: &Entity) -> impl Iterator<Item = InverseDeclaration> {
        let here = self.inverse.get(entity.id.as_str()).into_iter().flatten();
        here.filter_map(|(owner, at)| {
            let relation = &owner.relations[*at];
            let (attribute, columns) = self.owner(owner, relation)?;
            Some(InverseDeclaration {
                name: relation.inverse.clone()?,
                kind: match relation.kind {
                    RelationKind::ManyToOne => InverseKind::OneToMany,
                    RelationKind::OneToOne => InverseKind::OneToOne,
                    RelationKind::ManyToMany => InverseKind::ManyToMany,
                },
                target: owner.id.clone(),
                owner: attribute,
                columns,
                extras: relation.inverse_extras.clone(),
                span: None,
            })
        })
    }

    /// The attribute that stands for a column: its own, or the relation that owns it.
    fn attribute_of(&self, entity: &Entity, column: &str) -> String {
        let relation = entity
            .relations
            .iter()
            .find(|relation| relation.columns.iter().any(|own| own == column));
        let field = entity.field(column).and_then(|field| field.name.clone());
        field
            .or_else(|| relation.and_then(|relation| relation.name.clone()))
            .unwrap_or_else(|| column.to_owned())
    }

    fn attributes_of(&self, entity: &Entity, columns: &[String]) -> Vec<String> {
        let mut names: Vec<String> =
            columns.iter().map(|column| self.attribute_of(entity, column)).collect();
        names.dedup();
        names
    }

    fn unique(&self, entity: &Entity, unique: &Unique) -> UniqueDeclaration {
        UniqueDeclaration {
            attributes: self.attributes_of(entity, &unique.columns),
            name: unique.name.clone().filter(|_| unique.named_by == NamedBy::Author),
            deferrable: unique.deferrable,
            nulls_not_distinct: unique.nulls_not_distinct,
            extras: unique.extras.clone(),
            span: None,
        }
    }

    fn index(&self, entity: &Entity, index: &Index) -> IndexDeclaration {
        let mut parts: Vec<IndexPartDeclaration> = Vec::new();
        for part in &index.parts {
            let declared = IndexPartDeclaration {
                attribute: part.column.as_deref().map(|column| self.attribute_of(entity, column)),
                expression: part
                    .expression
                    .as_deref()
                    .map(|expression| Box::new(self.with_attributes(entity, expression.clone()))),
                descending: part.descending,
                operator_class: part.operator_class.as_deref().map(str::to_owned),
            };
            if parts.last() != Some(&declared) {
                parts.push(declared);
            }
        }
        IndexDeclaration {
            parts,
            unique: index.unique,
            condition: index
                .condition
                .as_deref()
                .map(|condition| Box::new(self.with_attributes(entity, condition.clone()))),
            method: index.method.clone(),
            include: self.attributes_of(entity, &index.include),
            name: index.name.clone().filter(|_| index.named_by == NamedBy::Author),
            nulls_not_distinct: index.nulls_not_distinct,
            extras: index.extras.clone(),
            span: None,
        }
    }

    fn check(&self, entity: &Entity, check: &Check) -> CheckDeclaration {
        let expression = self.with_attributes(entity, check.expression.clone());
        CheckDeclaration {
            name: check.name.clone(),
            expression,
            extras: check.extras.clone(),
            span: None,
        }
    }

    /// Attribute names for stored names, where the dialect's expressions name attributes.
    fn with_attributes(&self, entity: &Entity, expression: Expression) -> Expression {
        match expression.tree {
            Some(tree) if (self.conventions.grammar.query_form)(&tree) => {
                Expression::sql(tree.map_columns(&|column| {
                    if entity.field(&column).is_some() {
                        self.attribute_of(entity, &column)
                    } else {
                        column
                    }
                }))
            }
            Some(tree) => Expression::sql(Tree::normal(tree)),
            None => expression,
        }
    }
}
