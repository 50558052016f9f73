//! What a fact is about: a table, an element of it, an aspect of that element. Text only where
//! people read it.

use std::fmt;

use serde::ser::SerializeStruct;
use serde::{Serialize, Serializer};

use crate::schema::{Check, Field, ForeignKey, Index, IndexPart, Unique};

/// What a fact is about.
#[derive(Clone, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct FactKey {
    /// Stored name of the table, as [`TableKeys`](super::TableKeys) tells it from others; empty for
    /// facts of the whole schema.
    pub table: String,
    pub element: Element,
    pub aspect: Aspect,
}

impl FactKey {
    /// A key.
    pub fn new(table: &str, element: Element, aspect: Aspect) -> Self {
        FactKey { table: table.to_owned(), element, aspect }
    }

    /// An aspect of an enumeration, which belongs to no table.
    pub fn of_enumeration(name: &str, aspect: Aspect) -> Self {
        FactKey::new("", Element::Enumeration(name.to_owned()), aspect)
    }
}

/// `berths, column quay_id, nullable`: what is empty is left out.
impl fmt::Display for FactKey {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let parts = [self.table.clone(), self.element.to_string(), self.aspect.to_string()];
        let said: Vec<String> = parts.into_iter().filter(|part| !part.is_empty()).collect();
        f.write_str(&said.join(", "))
    }
}

/// As texts: `table`, `element`, `aspect`.
impl Serialize for FactKey {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        let mut object = serializer.serialize_struct("FactKey", 3)?;
        object.serialize_field("table", &self.table)?;
        object.serialize_field("element", &self.element.to_string())?;
        object.serialize_field("aspect", &self.aspect.to_string())?;
        object.end()
    }
}

/// A part of a table, told from its like by what it stands over.
#[derive(Clone, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Element {
    /// The table itself.
    Table,
    /// An enumeration of the whole schema.
    Enumeration(String),
    /// The primary key.
    Key,
    Column(String),
    Unique(Vec<String>),
    /// An index, by its keys and its condition.
    Index {
        unique: bool,
        keys: String,
    },
    ForeignKey(Vec<String>),
    /// A check, by its expression.
    Check(String),
    Exclusion(String),
    /// A relation that owns these columns.
    Relation(Vec<String>),
    /// A many-to-many, by its join table.
    Join(String),
}

/// What an element is.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum ElementKind {
    Table,
    Column,
    Key,
    Unique,
    UniqueIndex,
    Index,
    ForeignKey,
    Check,
    Exclusion,
    /// A relation over columns, or a many-to-many.
    Relation,
    Enumeration,
}

impl Element {
    /// What it is.
    pub fn kind(&self) -> ElementKind {
        match self {
            Element::Table => ElementKind::Table,
            Element::Enumeration(_) => ElementKind::Enumeration,
            Element::Key => ElementKind::Key,
            Element::Column(_) => ElementKind::Column,
            Element::Unique(_) => ElementKind::Unique,
            Element::Index { unique: true, .. } => ElementKind::UniqueIndex,
            Element::Index { unique: false, .. } => ElementKind::Index,
            Element::ForeignKey(_) => ElementKind::ForeignKey,
            Element::Check(_) => ElementKind::Check,
            Element::Exclusion(_) => ElementKind::Exclusion,
            Element::Relation(_) | Element::Join(_) => ElementKind::Relation,
        }
    }

    /// The element of a column.
    pub fn column(name: &str) -> Self {
        Element::Column(name.to_owned())
    }

    /// The element of a column.
    pub fn of_field(field: &Field) -> Self {
        Element::Column(field.column.clone())
    }

    /// The element of a unique constraint.
    pub fn of_unique(unique: &Unique) -> Self {
        Element::Unique(unique.columns.clone())
    }

    /// The element of a foreign key.
    pub fn of_foreign_key(key: &ForeignKey) -> Self {
        Element::ForeignKey(key.columns.clone())
    }

    /// The element of a check.
    pub fn of_check(check: &Check) -> Self {
        Element::Check(check.expression.text.clone())
    }

    /// The element of an exclusion constraint.
    pub fn of_exclusion(check: &Check) -> Self {
        Element::Exclusion(check.expression.text.clone())
    }

    /// The element of an index: `berth_id, arrived_at desc where ...` tells it from the others of
    /// its table.
    pub fn of_index(index: &Index) -> Self {
        let part = |part: &IndexPart| {
            let expression = || part.expression.as_ref().map(|expression| expression.text.clone());
            let what = part.column.clone().or_else(expression).unwrap_or_default();
            let class =
                part.operator_class.as_ref().map_or(String::new(), |class| format!(" {class}"));
            format!("{what}{}{class}", if part.descending { " desc" } else { "" })
        };
        let parts: Vec<String> = index.parts.iter().map(part).collect();
        let condition = index
            .condition
            .as_ref()
            .map_or(String::new(), |condition| format!(" where {}", condition.text));
        Element::Index { unique: index.unique, keys: format!("{}{condition}", parts.join(", ")) }
    }
}

/// `column berth_id`, `unique index a, b desc`, `relation through harbour_vessel_owners`; the table
/// itself is the empty text.
impl fmt::Display for Element {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Element::Table => Ok(()),
            Element::Enumeration(name) => write!(f, "enum {name}"),
            Element::Key => f.write_str("key"),
            Element::Column(name) => write!(f, "column {name}"),
            Element::Unique(columns) => write!(f, "unique {}", columns.join(", ")),
            Element::Index { unique: true, keys } => write!(f, "unique index {keys}"),
            Element::Index { unique: false, keys } => write!(f, "index {keys}"),
            Element::ForeignKey(columns) => write!(f, "foreign key {}", columns.join(", ")),
            Element::Check(text) => write!(f, "check {text}"),
            Element::Exclusion(text) => write!(f, "exclusion {text}"),
            Element::Relation(columns) => write!(f, "relation {}", columns.join(", ")),
            Element::Join(table) => write!(f, "relation through {table}"),
        }
    }
}

/// What is said of an element.
#[derive(Clone, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Aspect {
    Exists,
    /// How many elements there are that nothing but their names tells apart, where that is more
    /// than one.
    Times,
    Name,
    Comment,
    // Of tables.
    Module,
    HasClass,
    Class,
    Created,
    Kind,
    External,
    Namespace,
    Label,
    Order,
    Inherits,
    OwnedBy,
    SoftDelete,
    // Of enumerations.
    Members,
    Labels,
    CodeValues,
    StoredName,
    Inline,
    // Of columns and relations.
    Attribute,
    Type,
    HeldAs,
    Nullable,
    OptionalInCode,
    RequiredOnInput,
    DatabaseDefault,
    ApplicationDefault,
    DatabaseUpdate,
    ApplicationUpdate,
    Identity,
    Generated,
    Choices,
    Format,
    Collation,
    Purpose,
    Rules,
    Target,
    Inverse,
    Symmetrical,
    ThroughFields,
    Polymorphic,
    // Of keys, constraints and indexes.
    Columns,
    As,
    Deferrable,
    NullsNotDistinct,
    Method,
    Include,
    OnlyOn,
    References,
    OnDelete,
    OnUpdate,
    Enforced,
    /// What one dialect says and no other, under its word.
    Extra(String),
    /// The same of the inverse of a relation.
    InverseExtra(String),
}

impl Aspect {
    /// The words for all but the extras.
    fn words(&self) -> &'static str {
        match self {
            Aspect::Exists => "exists",
            Aspect::Times => "times",
            Aspect::Name => "name",
            Aspect::Comment => "comment",
            Aspect::Module => "module",
            Aspect::HasClass => "has a class",
            Aspect::Class => "class",
            Aspect::Created => "created",
            Aspect::Kind => "kind",
            Aspect::External => "external",
            Aspect::Namespace => "namespace",
            Aspect::Label => "label",
            Aspect::Order => "order",
            Aspect::Inherits => "inherits",
            Aspect::OwnedBy => "owned_by",
            Aspect::SoftDelete => "soft_delete",
            Aspect::Members => "members",
            Aspect::Labels => "labels",
            Aspect::CodeValues => "values in the code",
            Aspect::StoredName => "stored_name",
            Aspect::Inline => "inline",
            Aspect::Attribute => "attribute",
            Aspect::Type => "type",
            Aspect::HeldAs => "held as",
            Aspect::Nullable => "nullable",
            Aspect::OptionalInCode => "optional_in_code",
            Aspect::RequiredOnInput => "required_on_input",
            Aspect::DatabaseDefault => "default in the database",
            Aspect::ApplicationDefault => "default in the application",
            Aspect::DatabaseUpdate => "update in the database",
            Aspect::ApplicationUpdate => "update in the application",
            Aspect::Identity => "identity",
            Aspect::Generated => "generated",
            Aspect::Choices => "choices",
            Aspect::Format => "format",
            Aspect::Collation => "collation",
            Aspect::Purpose => "purpose",
            Aspect::Rules => "rules",
            Aspect::Target => "target",
            Aspect::Inverse => "inverse",
            Aspect::Symmetrical => "symmetrical",
            Aspect::ThroughFields => "through_fields",
            Aspect::Polymorphic => "polymorphic",
            Aspect::Columns => "columns",
            Aspect::As => "as",
            Aspect::Deferrable => "deferrable",
            Aspect::NullsNotDistinct => "nulls_not_distinct",
            Aspect::Method => "method",
            Aspect::Include => "include",
            Aspect::OnlyOn => "only_on",
            Aspect::References => "references",
            Aspect::OnDelete => "on_delete",
            Aspect::OnUpdate => "on_update",
            Aspect::Enforced => "enforced",
            Aspect::Extra(_) => "extra",
            Aspect::InverseExtra(_) => "extra of the inverse",
        }
    }
}

/// `nullable`, `extra verbose_name`.
impl fmt::Display for Aspect {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.words())?;
        match self {
            Aspect::Extra(word) | Aspect::InverseExtra(word) => write!(f, " {word}"),
            _ => Ok(()),
        }
    }
}
