//! What things are called that nobody names.

use super::{Decision, Silence};
use crate::declaration::InverseName;
use crate::dialect::Conventions;
use crate::dialect::naming::NamePattern;

/// The name of a table.
#[derive(Clone, Copy, Debug)]
pub struct TableName<'c> {
    pub conventions: &'c Conventions,
    pub module: &'c str,
    pub class: &'c str,
}

impl Silence for TableName<'_> {
    type Value = String;

    fn silent(&self) -> String {
        let names = &self.conventions.names;
        let name = names.table.apply(&[("module", self.module), ("name", self.class)]);
        (names.shorten)(&name, self.conventions.identifier_limit())
    }
}

/// The name of the column of an attribute.
#[derive(Clone, Copy, Debug)]
pub struct ColumnName<'c> {
    pub conventions: &'c Conventions,
    /// Empty where the column has none.
    pub attribute: &'c str,
}

impl Silence for ColumnName<'_> {
    type Value = String;

    fn silent(&self) -> String {
        self.conventions.names.column.apply(&[("attribute", self.attribute)])
    }
}

/// The name of the column of a relation.
#[derive(Clone, Copy, Debug)]
pub struct ReferenceColumnName<'c> {
    pub conventions: &'c Conventions,
    /// The relation's; empty where it has no name.
    pub attribute: &'c str,
    /// The attribute that it refers to, or the column where that has none.
    pub referenced: &'c str,
}

impl Silence for ReferenceColumnName<'_> {
    type Value = String;

    fn silent(&self) -> String {
        self.conventions
            .names
            .reference_column
            .apply(&[("attribute", self.attribute), ("column", self.referenced)])
    }
}

/// The name of the relation from a child table to its parent's.
pub fn parent_link(conventions: &Conventions, module: &str, parent: &str) -> String {
    conventions.names.parent_link.apply(&[("name", parent), ("module", module)])
}

/// The name by which the target of a relation knows its owner.
#[derive(Clone, Copy, Debug)]
pub struct InverseOf<'c> {
    pub conventions: &'c Conventions,
    /// Of the owner.
    pub module: &'c str,
    pub class: &'c str,
    pub one_to_one: bool,
}

impl Decision for InverseOf<'_> {
    type Said = InverseName;
    type Meant = Option<String>;

    fn fill(&self, said: InverseName) -> Option<String> {
        let names = [("name", self.class), ("module", self.module)];
        match said {
            InverseName::Hidden => None,
            InverseName::Named(name) if name.contains('{') => Some(
                NamePattern::parse(&name)
                    .map_or_else(|_| name.clone(), |pattern| pattern.apply(&names)),
            ),
            InverseName::Named(name) => Some(name),
            InverseName::Silent => {
                let (many, one) = self.conventions.names.inverse.as_ref()?;
                Some(if self.one_to_one { one } else { many }.apply(&names))
            }
        }
    }

    fn ways(&self, meant: &Option<String>) -> Vec<InverseName> {
        vec![InverseName::Silent, meant.clone().map_or(InverseName::Hidden, InverseName::Named)]
    }
}

/// A class that a join table refers to.
#[derive(Clone, Copy, Debug)]
pub struct JoinedClass<'c> {
    pub name: &'c str,
    pub table: &'c str,
}

/// The name of the join table of a many-to-many.
#[derive(Clone, Copy, Debug)]
pub struct JoinTableName<'c> {
    pub conventions: &'c Conventions,
    /// Of the class that declares the relation.
    pub module: &'c str,
    pub owner: JoinedClass<'c>,
    pub attribute: &'c str,
    pub target: JoinedClass<'c>,
}

impl Silence for JoinTableName<'_> {
    type Value = String;

    fn silent(&self) -> String {
        let names = [
            ("table", self.owner.table),
            ("attribute", self.attribute),
            ("target_table", self.target.table),
            ("module", self.module),
            ("first", self.owner.name.min(self.target.name)),
            ("second", self.owner.name.max(self.target.name)),
        ];
        (self.conventions.names.shorten)(
            &self.conventions.joins.table.apply(&names),
            self.conventions.identifier_limit(),
        )
    }
}

/// A side of a join table: the class, and the columns of its key.
#[derive(Clone, Debug)]
pub struct JoinSide<'c> {
    pub class: JoinedClass<'c>,
    pub key: Vec<&'c str>,
}

/// The names of the columns of a join table: those that refer to the owner of the relation, those
/// that refer to its target.
#[derive(Clone, Debug)]
pub struct JoinColumnNames<'c> {
    pub conventions: &'c Conventions,
    pub sides: [JoinSide<'c>; 2],
}

impl Decision for JoinColumnNames<'_> {
    /// A name for each side; it stands for all of its columns.
    type Said = [Option<String>; 2];
    type Meant = [Vec<String>; 2];

    fn fill(&self, said: Self::Said) -> Self::Meant {
        let joins = &self.conventions.joins;
        let names = |side: &JoinSide, said: &Option<String>| -> Vec<String> {
            let silent = |key: &&str| {
                joins.column.apply(&[
                    ("name", side.class.name),
                    ("table", side.class.table),
                    ("column", key),
                ])
            };
            side.key.iter().map(|key| said.clone().unwrap_or_else(|| silent(key))).collect()
        };
        let [own, other] = &self.sides;
        let (own_names, other_names) = (names(own, &said[0]), names(other, &said[1]));
        if !own_names.iter().any(|name| other_names.contains(name)) {
            return [own_names, other_names];
        }
        // Columns that would have one name get the names of a join to itself.
        let apart = |pattern: &NamePattern, side: &JoinSide, names: Vec<String>| {
            names
                .iter()
                .map(|ordinary| pattern.apply(&[("name", side.class.name), ("ordinary", ordinary)]))
                .collect()
        };
        let (from, to) = &joins.column_to_self;
        [apart(from, own, own_names), apart(to, other, other_names)]
    }

    fn ways(&self, meant: &Self::Meant) -> Vec<Self::Said> {
        let [own, other] = [0, 1].map(|side| meant[side].first().cloned());
        vec![[None, None], [own.clone(), None], [None, other.clone()], [own, other]]
    }
}
