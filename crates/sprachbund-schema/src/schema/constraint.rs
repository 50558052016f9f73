//! Keys, uniqueness, indexes, foreign keys and checks: what a table holds beside its columns.

use std::borrow::Cow;

use serde::{Deserialize, Serialize};

use super::{Database, Expression, Extras, Origin};

/// The primary key.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields)]
pub struct PrimaryKey {
    pub columns: Vec<String>,
    #[serde(default)]
    pub name: Option<String>,
    #[serde(default)]
    pub origin: Origin,
}

/// Who gave an index or constraint its name.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "lowercase")]
pub enum NamedBy {
    Author,
    #[default]
    Framework,
    Server,
}

/// When a constraint is checked.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Deferrable {
    InitiallyImmediate,
    InitiallyDeferred,
}

/// Which object of the database makes values unique.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "lowercase")]
pub enum UniqueAs {
    #[default]
    Constraint,
    Index,
}

/// An unconditional unique constraint over plain columns. (With a condition or parts it is an
/// [`Index`].)
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields)]
pub struct Unique {
    pub columns: Vec<String>,
    #[serde(default)]
    pub r#as: UniqueAs,
    #[serde(default)]
    pub name: Option<String>,
    #[serde(default)]
    pub named_by: NamedBy,
    #[serde(default)]
    pub deferrable: Option<Deferrable>,
    /// Null counts as a value like others (SQL's `NULLS NOT DISTINCT`).
    #[serde(default)]
    pub nulls_not_distinct: bool,
    #[serde(default)]
    pub origin: Origin,
    #[serde(default, skip_serializing_if = "Extras::is_empty")]
    pub extras: Extras,
}

/// One key of an index.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields)]
pub struct IndexPart {
    #[serde(default)]
    pub column: Option<String>,
    #[serde(default)]
    pub expression: Option<Box<Expression>>,
    #[serde(default)]
    pub descending: bool,
    #[serde(default)]
    pub operator_class: Option<Cow<'static, str>>,
}

impl IndexPart {
    /// A plain ascending column.
    pub fn column(column: impl Into<String>) -> Self {
        IndexPart {
            column: Some(column.into()),
            expression: None,
            descending: false,
            operator_class: None,
        }
    }

    /// Whether it is nothing but a column.
    pub fn is_plain(&self) -> bool {
        self.column.is_some() && !self.descending && self.operator_class.is_none()
    }
}

/// An index.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields)]
pub struct Index {
    /// Columns among the parts, for reading; `parts` is what counts.
    #[serde(default)]
    pub columns: Vec<String>,
    pub parts: Vec<IndexPart>,
    #[serde(default)]
    pub unique: bool,
    #[serde(default)]
    pub condition: Option<Box<Expression>>,
    /// Access method; `None` is the server's usual one (a B-tree).
    #[serde(default)]
    pub method: Option<String>,
    /// Further columns that the index carries without ordering by them.
    #[serde(default)]
    pub include: Vec<String>,
    #[serde(default)]
    pub name: Option<String>,
    #[serde(default)]
    pub named_by: NamedBy,
    /// Servers on which the source framework makes it at all; `None` is every one.
    #[serde(default)]
    pub only_on: Option<Vec<Database>>,
    /// Of a unique index: null counts as a value like others (SQL's `NULLS NOT DISTINCT`).
    #[serde(default)]
    pub nulls_not_distinct: bool,
    #[serde(default)]
    pub origin: Origin,
    #[serde(default, skip_serializing_if = "Extras::is_empty")]
    pub extras: Extras,
}

impl Index {
    /// Whether it is over columns as they are, and nothing more is said of it but a name and that
    /// it is unique.
    pub fn is_over_columns_alone(&self) -> bool {
        self.condition.is_none()
            && self.method.is_none()
            && self.include.is_empty()
            && self.extras.is_empty()
            && self.parts.iter().all(IndexPart::is_plain)
    }

    /// A plain index over `columns`.
    pub fn over(columns: &[String], origin: Origin) -> Self {
        Index {
            columns: columns.to_vec(),
            parts: columns.iter().map(IndexPart::column).collect(),
            origin,
            ..Index::default()
        }
    }

    /// The columns when every part is a plain column, else nothing.
    pub fn plain_columns(&self) -> Vec<String> {
        if self.parts.iter().all(|part| part.column.is_some()) {
            self.parts.iter().filter_map(|part| part.column.clone()).collect()
        } else {
            Vec::new()
        }
    }
}

/// What happens to referring rows.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "lowercase")]
pub enum Action {
    #[default]
    #[serde(rename = "no action")]
    NoAction,
    Restrict,
    /// The application refuses at once, whatever else would be deleted (application only).
    Protect,
    Cascade,
    #[serde(rename = "set null")]
    SetNull,
    #[serde(rename = "set default")]
    SetDefault,
    /// The application writes a given value (application only).
    #[serde(rename = "set value")]
    SetValue,
}

impl Action {
    /// All that is known.
    pub const ALL: [Action; 7] = [
        Action::NoAction,
        Action::Restrict,
        Action::Protect,
        Action::Cascade,
        Action::SetNull,
        Action::SetDefault,
        Action::SetValue,
    ];

    /// As SQL spells it, for the actions that a database has.
    pub fn sql(self) -> &'static str {
        match self {
            Action::NoAction | Action::SetValue => "NO ACTION",
            Action::Restrict | Action::Protect => "RESTRICT",
            Action::Cascade => "CASCADE",
            Action::SetNull => "SET NULL",
            Action::SetDefault => "SET DEFAULT",
        }
    }

    /// As the neutral schema spells it.
    pub fn word(self) -> &'static str {
        match self {
            Action::NoAction => "no action",
            Action::Restrict => "restrict",
            Action::Protect => "protect",
            Action::Cascade => "cascade",
            Action::SetNull => "set null",
            Action::SetDefault => "set default",
            Action::SetValue => "set value",
        }
    }
}

/// What a foreign key points to.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields)]
pub struct References {
    pub table: String,
    #[serde(default)]
    pub namespace: Option<String>,
    pub columns: Vec<String>,
}

impl References {
    /// The table's name with that of its named schema.
    pub fn address(&self) -> String {
        super::address(self.namespace.as_deref(), &self.table)
    }
}

/// Who refuses a reference to nothing.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "lowercase")]
pub enum EnforcedBy {
    #[default]
    Database,
    Application,
}

/// A foreign key. Its actions are what the *database* does.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields)]
pub struct ForeignKey {
    pub columns: Vec<String>,
    pub references: References,
    #[serde(default)]
    pub on_delete: Action,
    #[serde(default)]
    pub on_update: Action,
    #[serde(default)]
    pub deferrable: Option<Deferrable>,
    #[serde(default)]
    pub enforced: EnforcedBy,
    #[serde(default)]
    pub name: Option<String>,
    #[serde(default)]
    pub origin: Origin,
}

/// A check or exclusion constraint.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(deny_unknown_fields)]
pub struct Check {
    #[serde(default)]
    pub name: Option<String>,
    pub expression: Expression,
    #[serde(default)]
    pub origin: Origin,
    #[serde(default, skip_serializing_if = "Extras::is_empty")]
    pub extras: Extras,
}

impl Check {
    /// A check of which nothing else is said.
    pub fn new(name: Option<String>, expression: Expression, origin: Origin) -> Self {
        Check { name, expression, origin, extras: Extras::new() }
    }
}
