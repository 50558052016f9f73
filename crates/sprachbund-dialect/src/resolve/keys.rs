//! Which columns identify a class, and which columns a relation to it therefore has.

use std::borrow::Cow;

use super::Resolver;
use crate::decision::Decision;
use crate::decision::names::{ColumnName, ReferenceColumnName, parent_link};
use crate::declaration::{
    Attribute, FieldDeclaration, JoinColumn, Model, RelationDeclaration, Spelling,
};
use crate::dialect::type_table::{TypeRow, plain_stored, row};
use crate::schema::{Entity, Type, address};

/// A column that can be referred to.
#[derive(Clone, Debug, PartialEq)]
pub(crate) struct KeyColumn {
    pub(crate) column: String,
    /// The attribute over it, after which a relation's column is called.
    pub(crate) attribute: Option<String>,
    pub(crate) ty: Type,
}

/// A column of a relation and the column that it refers to.
pub(crate) struct ReferenceColumn {
    pub(crate) column: String,
    pub(crate) written: bool,
    pub(crate) references: String,
    pub(crate) ty: Type,
}

const DEEPEST: u32 = 32;

/// A column of a table that a history made.
fn made_column(table: &Entity, column: &str) -> Option<KeyColumn> {
    let field = table.field(column)?;
    Some(KeyColumn {
        column: field.column.clone(),
        attribute: Some(field.column.clone()),
        ty: field.r#type.clone(),
    })
}

impl Resolver<'_> {
    /// The type that a spelling means, with its row.
    pub(crate) fn read_type(&self, spelling: &Spelling) -> (Type, Option<&'static TypeRow>) {
        if let Some(element) = &spelling.element {
            return (Type::Array(Box::new(self.read_type(element).0)), None);
        }
        if let Some(name) = &spelling.enumeration {
            return (Type::Enum(name.clone()), None);
        }
        match row(self.conventions.words.types, &spelling.word, self.conventions.database) {
            Some(row) => (row.read(spelling), Some(row)),
            None => {
                let native =
                    self.conventions.words.natives.iter().find(|(word, _)| *word == spelling.word);
                (
                    Type::Native(
                        native
                            .map_or_else(|| spelling.word.clone(), |(_, name)| (*name).to_owned()),
                    ),
                    None,
                )
            }
        }
    }

    /// What the database holds for `ty` in a column that is not numbered.
    pub(crate) fn stored(&self, ty: &Type, enum_name: &str) -> Cow<'static, str> {
        plain_stored(self.conventions.words.types, ty, self.conventions.database, enum_name)
    }

    /// The type of a field: its own, or that of the column which it refers to.
    pub(crate) fn field_type(&self, field: &FieldDeclaration) -> (Type, Option<&'static TypeRow>) {
        self.field_type_at(field, 0)
    }

    fn field_type_at(
        &self,
        field: &FieldDeclaration,
        depth: u32,
    ) -> (Type, Option<&'static TypeRow>) {
        let referred = field
            .reference
            .as_deref()
            .filter(|_| field.spelling == Spelling::default() && depth < DEEPEST);
        let Some(reference) = referred else { return self.read_type(&field.spelling) };
        let target = self.at_table(reference.namespace.as_deref(), &reference.table);
        let column = target.zip(reference.references.first()).and_then(|(at, name)| {
            self.attributes(at).find_map(|attribute| match attribute {
                Attribute::Field(field) if self.column(field) == *name => Some(field),
                _ => None,
            })
        });
        let Some(column) = column else {
            let made = self.tables.and_then(|tables| {
                tables.get(&address(reference.namespace.as_deref(), &reference.table))
            });
            let made = made
                .zip(reference.references.first())
                .and_then(|(table, column)| table.field(column));
            let unknown = || Type::Native("unknown".into());
            return (made.map_or_else(unknown, |field| field.r#type.clone()), None);
        };
        (self.field_type_at(column, depth + 1).0, None)
    }

    /// The column of a field.
    pub(crate) fn column(&self, field: &FieldDeclaration) -> String {
        let attribute = field.name.as_deref().unwrap_or_default();
        ColumnName { conventions: self.conventions, attribute }.fill(field.column.clone())
    }

    /// Whether the attribute is part of the key.
    fn in_key(model: &Model, attribute: &Attribute) -> bool {
        let listed = || {
            model.key.as_ref().is_some_and(|key| {
                attribute.name().is_some_and(|name| key.iter().any(|part| part == name))
            })
        };
        match attribute {
            Attribute::Field(field) => field.key || listed(),
            Attribute::Relation(relation) => relation.carrier.key || listed(),
            Attribute::Inverse(_) | Attribute::Removed(_) => false,
        }
    }

    /// The key of the class at `at`; empty when it has none.
    pub(crate) fn key(&self, at: usize) -> Vec<KeyColumn> {
        self.key_at(at, 0)
    }

    fn key_at(&self, at: usize, depth: u32) -> Vec<KeyColumn> {
        if let Some(known) = self.keys[at].get() {
            return known.clone();
        }
        if depth > DEEPEST {
            return Vec::new();
        }
        let found = self.find_key(at, depth);
        self.keys[at].get_or_init(|| found).clone()
    }

    fn find_key(&self, at: usize, depth: u32) -> Vec<KeyColumn> {
        let model = &self.models[at];
        if let Some(table) = self.table_under(at) {
            let key = model.key.as_deref().unwrap_or(table.key_columns());
            return key.iter().filter_map(|column| made_column(table, column)).collect();
        }
        let mut found = Vec::new();
        let mut parts: Vec<&Attribute> =
            self.attributes(at).filter(|attribute| Self::in_key(model, attribute)).collect();
        if let Some(order) = &model.key {
            parts.sort_by_key(|attribute| {
                order.iter().position(|name| Some(name.as_str()) == attribute.name())
            });
        }
        for attribute in parts {
            match attribute {
                Attribute::Field(field) => found.push(KeyColumn {
                    column: self.column(field),
                    attribute: field.name.clone(),
                    ty: self.field_type(field).0,
                }),
                Attribute::Relation(relation) => {
                    let columns =
                        self.reference_columns_at(relation, depth + 1).unwrap_or_default();
                    for column in columns.into_iter().map(|column| KeyColumn {
                        column: column.column,
                        attribute: None,
                        ty: column.ty,
                    }) {
                        if !found.iter().any(|known: &KeyColumn| known.column == column.column) {
                            found.push(column);
                        }
                    }
                }
                Attribute::Inverse(_) | Attribute::Removed(_) => {}
            }
        }
        if found.is_empty()
            && let Some(parent) = self.parent(at)
        {
            let link = self.parent_link(at, parent);
            let columns = self.reference_columns_at(&link, depth + 1).unwrap_or_default();
            found = columns
                .into_iter()
                .map(|column| KeyColumn { column: column.column, attribute: None, ty: column.ty })
                .collect();
        }
        let none = model.key.as_ref().is_some_and(Vec::is_empty);
        if let (true, Some((name, word))) =
            (found.is_empty() && !none, &self.conventions.keys.implied)
        {
            found.push(KeyColumn {
                column: (*name).to_owned(),
                attribute: None,
                ty: self.read_type(&Spelling::word(word)).0,
            });
        }
        found
    }

    /// The relation from a child table to its parent's: declared, or by convention.
    pub(crate) fn parent_link(&self, at: usize, parent: &Model) -> RelationDeclaration {
        let declared = self.attributes(at).find_map(|attribute| match attribute {
            Attribute::Relation(relation)
                if relation.parent_link && relation.target == parent.id =>
            {
                Some((**relation).clone())
            }
            _ => None,
        });
        declared.unwrap_or_else(|| {
            let name = parent_link(self.conventions, &parent.module, &parent.name);
            let mut link = RelationDeclaration::new(
                Some(name),
                crate::schema::RelationKind::OneToOne,
                parent.id.clone(),
            );
            link.parent_link = true;
            link.carrier.key = true;
            link.on_delete = Some(crate::schema::Action::Cascade);
            link
        })
    }

    /// The columns of a relation; `None` when nobody declares its target.
    pub(crate) fn reference_columns(
        &self,
        relation: &RelationDeclaration,
    ) -> Option<Vec<ReferenceColumn>> {
        self.reference_columns_at(relation, 0)
    }

    fn reference_columns_at(
        &self,
        relation: &RelationDeclaration,
        depth: u32,
    ) -> Option<Vec<ReferenceColumn>> {
        let (at, target) = self.model(&relation.target)?;
        let at = if target.form == crate::declaration::Form::SameTable {
            self.model(target.extends.first()?)?.0
        } else {
            at
        };
        let silent = JoinColumn::default();
        let explicit: Vec<Option<&str>> =
            relation.join_columns.iter().map(|join| join.references.as_deref()).collect();
        let targets: Vec<KeyColumn> = if explicit.iter().any(Option::is_some) {
            explicit.iter().filter_map(|name| self.target_column(at, (*name)?, depth)).collect()
        } else {
            self.key_at(at, depth + 1)
        };
        let attribute = relation.name.as_deref().unwrap_or_default();
        let columns = targets.into_iter().enumerate().map(|(index, target)| {
            let join = relation.join_columns.get(index).unwrap_or(&silent);
            let written = join.name.as_ref().or(relation.carrier.column.as_ref());
            let referenced = target.attribute.as_ref().unwrap_or(&target.column);
            let column =
                ReferenceColumnName { conventions: self.conventions, attribute, referenced }
                    .fill(written.cloned());
            ReferenceColumn {
                column,
                written: written.is_some(),
                references: target.column,
                ty: target.ty,
            }
        });
        Some(columns.collect())
    }

    /// A column of the class at `at` by attribute or stored name.
    fn target_column(&self, at: usize, name: &str, depth: u32) -> Option<KeyColumn> {
        if let Some(table) = self.table_under(at) {
            return made_column(table, name);
        }
        let by_attribute = self.attributes(at).find_map(|attribute| match attribute {
            Attribute::Field(field)
                if field.name.as_deref() == Some(name) || self.column(field) == name =>
            {
                Some(KeyColumn {
                    column: self.column(field),
                    attribute: field.name.clone(),
                    ty: self.field_type(field).0,
                })
            }
            Attribute::Relation(relation)
                if relation.name.as_deref() == Some(name) && depth < DEEPEST =>
            {
                let column = self.reference_columns_at(relation, depth + 1)?.into_iter().next()?;
                Some(KeyColumn { column: column.column, attribute: None, ty: column.ty })
            }
            _ => None,
        });
        by_attribute
            .or_else(|| self.key_at(at, depth + 1).into_iter().find(|key| key.column == name))
    }
}
