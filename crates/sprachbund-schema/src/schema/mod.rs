//! The neutral schema: what a set of declarations *means*, with nothing left unsaid.
//!
//! One [`Schema`] holds [`Entity`] values (a table, or a document, and the class that maps it). An
//! entity spells out every column, default, key, index and foreign key, whatever its author wrote
//! and whatever a framework filled in; the [`Origin`] of each element says which of the two it was.
//! Three things are kept apart on purpose:
//!
//! * **who does it**: a default, or an action on delete, may live in the database or in the
//!   application;
//! * **presence** has three voices: the column (`nullable`), the host language (`optional_in_code`)
//!   and input validation (`required_on_input`); a voice that the source dialect lacks is `None`;
//! * **names** of columns and tables are stored names and never change on the way; names of
//!   attributes and classes are host names, which a printer may respell for its language.
//!
//! A relation is stored once, on the side that owns its columns (or its join table); `inverse`
//! names the other side if that has a name. A plain many-to-many has its join table as an
//! [`Entity`] with `join: true`.
//!
//! The JSON form (see [`json`]) is these types as they stand; its JSON Schema is generated from
//! them.

mod change;
mod constraint;
mod default;
pub mod expression;
pub mod expression_sql;
mod expressions;
pub mod facts;
pub mod feature;
mod implied;
pub mod json;
mod stored;
mod types;

use std::borrow::Cow;
use std::collections::BTreeMap;
use std::sync::Arc;

use serde::{Deserialize, Serialize};
use serde_json::Value;

pub use change::Change;
pub use constraint::{
    Action, Check, Deferrable, EnforcedBy, ForeignKey, Index, IndexPart, NamedBy, PrimaryKey,
    References, Unique, UniqueAs,
};
pub use default::plain_decimal;
pub use expression::Expression;
pub use feature::{FEATURES, Feature};
pub use implied::{Implied, Part};
pub use stored::address;
pub use types::{RangeKind, Type, TypeKind, TypeParameters, enum_name};

use crate::source::{SourceFile, Span};

/// What one dialect says and no other: kept under its own word, written back at home.
pub type Extras = BTreeMap<String, Value>;

/// A database server, for which types and names are meant.
#[derive(
    Clone, Copy, Debug, Default, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize,
)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "lowercase")]
pub enum Database {
    /// PostgreSQL 12 and later.
    #[default]
    PostgreSql,
    /// MySQL 8 and later.
    MySql,
    /// MariaDB 10.5 and later.
    MariaDb,
    /// SQLite 3.35 and later.
    Sqlite,
    /// MongoDB 4.4 and later, which keeps documents.
    MongoDb,
}

impl Database {
    /// Every server, by the name that `--database` takes.
    pub const ALL: [(&'static str, Database); 5] = [
        ("postgresql", Database::PostgreSql),
        ("mysql", Database::MySql),
        ("mariadb", Database::MariaDb),
        ("sqlite", Database::Sqlite),
        ("mongodb", Database::MongoDb),
    ];

    /// Whether it is MariaDB or MySQL, which share their words.
    pub fn is_mysql(self) -> bool {
        matches!(self, Database::MySql | Database::MariaDb)
    }

    /// Whether it keeps documents instead of tables.
    pub fn keeps_documents(self) -> bool {
        self.server().keeps_documents
    }

    /// How long a name may be.
    pub fn identifier_limit(self) -> usize {
        self.server().identifier_limit
    }

    /// The server's own name.
    pub fn title(self) -> &'static str {
        self.server().title
    }

    /// The name that `--database` takes.
    pub fn id(self) -> &'static str {
        self.server().id
    }
}

/// A whole schema.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields)]
pub struct Schema {
    /// Version of this file format; 1.
    pub sprachbund: u32,
    pub source: Source,
    #[serde(default)]
    pub enums: Vec<EnumType>,
    pub entities: Vec<Entity>,
    #[serde(default, skip_serializing_if = "Extras::is_empty")]
    pub extras: Extras,
}

/// Where a schema was read from, and what had to be assumed while reading it.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields)]
pub struct Source {
    pub dialect: String,
    pub version: String,
    #[serde(default)]
    pub database: Database,
    #[serde(default)]
    pub files: Vec<String>,
    /// Facts of the project that no declaration states, in the words in which they were reported.
    #[serde(default)]
    pub assumed: Vec<String>,
}

/// Where an element comes from.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
pub enum Origin {
    /// Written by the author; `line` and `column` count from 1, columns in characters.
    Declared {
        file: Arc<str>,
        line: u32,
        column: u32,
        #[serde(skip)]
        span: Option<Span>,
    },
    /// Filled in by a convention, in words.
    Implied { implied: Cow<'static, str> },
}

impl Origin {
    /// An origin that a convention answers for.
    pub fn implied(convention: &'static str) -> Self {
        Origin::Implied { implied: Cow::Borrowed(convention) }
    }

    /// The origin of what is written at `span` of `file`.
    pub fn declared(file: &SourceFile, span: Span) -> Self {
        let (line, column) = file.position(span.start);
        Origin::Declared { file: file.path.clone(), line, column, span: Some(span) }
    }

    /// The place in the sources, if this session read them.
    pub fn span(&self) -> Option<Span> {
        match self {
            Origin::Declared { span, .. } => *span,
            Origin::Implied { .. } => None,
        }
    }

    /// Whether an author wrote it.
    pub fn is_declared(&self) -> bool {
        matches!(self, Origin::Declared { .. })
    }
}

impl Default for Origin {
    fn default() -> Self {
        Origin::implied("not said")
    }
}

/// An enumeration: a database type when a column is typed `enum(Name)`, else a list of choices.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields)]
pub struct EnumType {
    pub name: String,
    /// Name of the type in the database, if it is one there and the author named it.
    #[serde(default)]
    pub stored_name: Option<String>,
    pub members: Vec<EnumMember>,
    /// Module (application, folder) that declares it.
    #[serde(default)]
    pub module: String,
    /// Written in place at its one column, without a name of its own.
    #[serde(default)]
    pub inline: bool,
    #[serde(default)]
    pub origin: Origin,
}

impl EnumType {
    /// A list of values that stands in place, whose members are called after them.
    pub fn inline(name: String, module: String, values: Vec<Value>, origin: Origin) -> Self {
        let member = |value: Value| {
            let name = value.as_str().map_or_else(|| value.to_string(), str::to_owned);
            EnumMember { name, value, ..EnumMember::default() }
        };
        EnumType {
            name,
            stored_name: None,
            members: values.into_iter().map(member).collect(),
            module,
            inline: true,
            origin,
        }
    }
}

/// One member of an enumeration.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields)]
pub struct EnumMember {
    pub name: String,
    /// The stored value: text, number or null.
    pub value: Value,
    #[serde(default)]
    pub label: Option<String>,
    /// What it is worth in the code, where that is not what is stored.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub in_code: Option<Value>,
}

/// What an entity is in the database.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
pub enum EntityKind {
    #[default]
    Table,
    View,
    Document,
}

/// Which sides of the mapping exist.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields)]
pub struct Mapped {
    /// The framework creates the table.
    pub table: bool,
    /// A class (model) stands for it.
    pub code: bool,
}

/// How an entity extends another.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields)]
pub struct Inherits {
    pub entity: String,
    pub how: Inheritance,
}

/// The ways in which tables follow class inheritance.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Inheritance {
    /// The child has a table of its own whose key refers to the parent's.
    Joined,
    /// Parent and children share one table with a discriminator.
    SingleTable,
    /// Another class over the parent's table, with no columns of its own.
    SameTable,
}

/// One key of an entity's natural order.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields)]
pub struct OrderKey {
    /// Attribute name (a path over relations is kept as it was written).
    pub field: String,
    #[serde(default)]
    pub descending: bool,
}

/// Parent of a nested document.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields)]
pub struct OwnedBy {
    /// Id of the entity whose documents hold it.
    pub entity: String,
    /// Where it stands in them.
    pub path: String,
    pub shape: Shape,
}

/// How a nested document stands in its parent.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Shape {
    /// Always there: its fields are fields of the parent under a path.
    Part,
    /// One, or none.
    One,
    /// A list in an order.
    Many,
    /// Any number, each under a key of its own.
    Keyed,
}

/// A table and the class that maps it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields)]
pub struct Entity {
    /// `module.Name`, unique in the schema.
    pub id: String,
    pub name: String,
    pub module: String,
    pub table: String,
    #[serde(default)]
    pub namespace: Option<String>,
    #[serde(default)]
    pub kind: EntityKind,
    /// A join table of a many-to-many relation.
    #[serde(default)]
    pub join: bool,
    pub mapped: Mapped,
    /// Declared in another package: only its key is known.
    #[serde(default)]
    pub external: bool,
    #[serde(default)]
    pub comment: Option<String>,
    /// Attribute that gives a record its display text.
    #[serde(default)]
    pub label: Option<String>,
    #[serde(default)]
    pub order: Vec<OrderKey>,
    #[serde(default)]
    pub inherits: Option<Inherits>,
    #[serde(default)]
    pub owned_by: Option<OwnedBy>,
    /// Attribute whose value marks a record as deleted.
    #[serde(default)]
    pub soft_delete: Option<String>,
    pub fields: Vec<Field>,
    #[serde(default)]
    pub primary_key: Option<PrimaryKey>,
    #[serde(default)]
    pub uniques: Vec<Unique>,
    #[serde(default)]
    pub indexes: Vec<Index>,
    #[serde(default)]
    pub foreign_keys: Vec<ForeignKey>,
    #[serde(default)]
    pub checks: Vec<Check>,
    #[serde(default)]
    pub exclusions: Vec<Check>,
    #[serde(default)]
    pub relations: Vec<Relation>,
    /// Parts of this entity that a convention filled in (`table`, ...).
    #[serde(default)]
    pub implied: Implied,
    #[serde(default)]
    pub origin: Origin,
    #[serde(default, skip_serializing_if = "Extras::is_empty")]
    pub extras: Extras,
}

impl Entity {
    /// Gives back the room that its lists do not need.
    pub fn tighten(&mut self) {
        self.fields.shrink_to_fit();
        self.uniques.shrink_to_fit();
        self.indexes.shrink_to_fit();
        self.foreign_keys.shrink_to_fit();
        self.checks.shrink_to_fit();
        self.relations.shrink_to_fit();
    }

    /// The field stored in `column`.
    pub fn field(&self, column: &str) -> Option<&Field> {
        self.fields.iter().find(|field| field.column == column)
    }

    /// Whether all of these columns may be null.
    pub fn may_be_null(&self, columns: &[String]) -> bool {
        columns.iter().all(|column| self.field(column).is_some_and(|field| field.nullable))
    }

    /// Columns of the primary key, in order; empty without one.
    pub fn key_columns(&self) -> &[String] {
        self.primary_key.as_ref().map_or(&[], |key| &key.columns)
    }

    /// The relation that owns exactly these columns.
    pub fn relation_over(&self, columns: &[String]) -> Option<&Relation> {
        self.relations
            .iter()
            .find(|relation| !relation.columns.is_empty() && relation.columns == columns)
    }

    /// Whether a primary key, unique constraint or unconditional unique index holds exactly these
    /// columns.
    pub fn is_unique(&self, columns: &[String]) -> bool {
        let same = |other: &[String]| {
            other.len() == columns.len() && other.iter().all(|column| columns.contains(column))
        };
        same(self.key_columns())
            || self.uniques.iter().any(|unique| same(&unique.columns))
            || self.indexes.iter().any(|index| {
                index.unique && index.condition.is_none() && same(&index.plain_columns())
            })
    }
}

/// A column and the attribute that maps it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields)]
pub struct Field {
    /// Attribute name; `None` when only a relation or the table knows the column.
    pub name: Option<String>,
    pub column: String,
    /// What is meant.
    pub r#type: Type,
    /// What the named database holds.
    #[serde(default)]
    pub stored: Cow<'static, str>,
    pub nullable: bool,
    #[serde(default)]
    pub optional_in_code: Option<bool>,
    #[serde(default)]
    pub required_on_input: Option<bool>,
    #[serde(default)]
    pub defaults: Voices,
    #[serde(default)]
    pub on_update: Voices,
    #[serde(default)]
    pub identity: Option<Identity>,
    #[serde(default)]
    pub generated: Option<Box<Generated>>,
    /// Name of the enumeration that the application restricts values to.
    #[serde(default)]
    pub choices: Option<String>,
    /// Text format that input validation checks: `email`, `url`, `slug`, `file`, `image`, `path`,
    /// `ip`.
    #[serde(default)]
    pub format: Option<Cow<'static, str>>,
    #[serde(default)]
    pub collation: Option<String>,
    #[serde(default)]
    pub comment: Option<String>,
    /// What the framework uses this column for.
    #[serde(default)]
    pub purpose: Option<Purpose>,
    #[serde(default)]
    pub rules: Vec<InputRule>,
    /// Parts of this field that a convention filled in (`column`, `nullable`, ...).
    #[serde(default)]
    pub implied: Implied,
    #[serde(default)]
    pub origin: Origin,
    #[serde(default, skip_serializing_if = "Extras::is_empty")]
    pub extras: Extras,
}

/// A value in its two voices: what the database fills in and what the application fills in.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields)]
pub struct Voices {
    #[serde(default)]
    pub database: Option<Box<Default_>>,
    #[serde(default)]
    pub application: Option<Box<Default_>>,
}

/// A default value.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "json-schema", schemars(rename = "Default"))]
pub enum Default_ {
    /// A constant. Exact decimals and dates are text.
    Literal(Value),
    /// A function that every dialect has.
    Function(Function),
    /// Anything else, in the language it was written in.
    Expression(Box<Expression>),
}

/// The functions whose meaning every dialect knows.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Function {
    /// The moment: in the database, the start of the transaction.
    Now,
    /// The moment at which the statement started (database only).
    StatementNow,
    /// The calendar day.
    Today,
    /// A random (version 4) identifier.
    RandomUuid,
}

/// How a key column gets its numbers.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Identity {
    /// `GENERATED BY DEFAULT AS IDENTITY`.
    ByDefault,
    /// `GENERATED ALWAYS AS IDENTITY`.
    Always,
    /// A default that takes the next value of an owned sequence.
    Sequence,
    /// SQLite's `AUTOINCREMENT`.
    AutoIncrement,
}

/// A column computed from others.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields)]
pub struct Generated {
    pub expression: Expression,
    /// Kept in the table (else computed when read).
    pub stored: bool,
}

/// What the framework itself uses a column for.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Purpose {
    CreationTime,
    UpdateTime,
    DeletionTime,
    Version,
}

impl Purpose {
    /// Whether the column holds a moment.
    pub fn is_time(self) -> bool {
        self != Purpose::Version
    }
}

/// A rule that input validation applies.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields)]
pub struct InputRule {
    /// `max_length`, `min_value`, `max_value`, `min_length`, `pattern`, or a name of the source
    /// language.
    pub rule: String,
    pub value: Value,
    #[serde(default)]
    pub message: Option<String>,
}

/// How many records stand on each side of a relation, seen from the side that owns it.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
pub enum RelationKind {
    ManyToOne,
    OneToOne,
    ManyToMany,
}

impl RelationKind {
    /// As the neutral schema spells it.
    pub fn word(self) -> &'static str {
        match self {
            RelationKind::ManyToOne => "many-to-one",
            RelationKind::OneToOne => "one-to-one",
            RelationKind::ManyToMany => "many-to-many",
        }
    }
}

/// A relation, stored on its owning side. Its action is what the *application* does.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields)]
pub struct Relation {
    /// Attribute name; `None` when only the other side or the join table knows it.
    pub name: Option<String>,
    pub kind: RelationKind,
    /// Id of the other entity.
    pub target: String,
    /// Owned columns (none for many-to-many).
    #[serde(default)]
    pub columns: Vec<String>,
    /// Id of the join entity of a many-to-many.
    #[serde(default)]
    pub through: Option<String>,
    /// Attribute of the target that leads back.
    #[serde(default)]
    pub inverse: Option<String>,
    #[serde(default)]
    pub on_delete: Option<Action>,
    /// What stands in for the target's key when the target may be any entity.
    #[serde(default)]
    pub polymorphic: Option<String>,
    /// To itself, both ways at once.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub symmetrical: bool,
    /// Attributes of the join table's class: the one that refers to the owner, the one that refers
    /// to the target. Empty where there is one of each.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub through_fields: Vec<String>,
    /// Whether input must give a many-to-many; relations over columns say it there.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub required_on_input: Option<bool>,
    #[serde(default)]
    pub comment: Option<String>,
    #[serde(default)]
    pub implied: Implied,
    #[serde(default)]
    pub origin: Origin,
    /// Place of the other side's declaration, where it has one.
    #[serde(default)]
    pub inverse_origin: Option<Origin>,
    #[serde(default, skip_serializing_if = "Extras::is_empty")]
    pub extras: Extras,
    /// What one dialect says of the inverse relation and no other.
    #[serde(default, skip_serializing_if = "Extras::is_empty")]
    pub inverse_extras: Extras,
}

impl Relation {
    /// A relation over these columns of which nothing more is known.
    pub fn over(kind: RelationKind, target: &str, columns: Vec<String>, origin: Origin) -> Self {
        Relation {
            name: None,
            kind,
            target: target.to_owned(),
            columns,
            through: None,
            inverse: None,
            on_delete: None,
            polymorphic: None,
            symmetrical: false,
            through_fields: Vec::new(),
            required_on_input: None,
            comment: None,
            implied: Implied::default(),
            origin,
            inverse_origin: None,
            extras: Extras::new(),
            inverse_extras: Extras::new(),
        }
    }
}

impl Schema {
    /// An empty schema from `source`.
    pub fn new(source: Source) -> Self {
        Schema {
            sprachbund: 1,
            source,
            enums: Vec::new(),
            entities: Vec::new(),
            extras: Extras::new(),
        }
    }

    /// The entity with this id.
    pub fn entity(&self, id: &str) -> Option<&Entity> {
        self.entities.iter().find(|entity| entity.id == id)
    }

    /// The enumeration with this name.
    pub fn enumeration(&self, name: &str) -> Option<&EnumType> {
        self.enums.iter().find(|enumeration| enumeration.name == name)
    }
}
