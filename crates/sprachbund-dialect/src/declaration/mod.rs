//! What an author *wrote*, in one structure for all dialects. Everything that may go unsaid is an
//! `Option`; no convention is applied here. Readers build it, `resolve` gives it its meaning,
//! `elide` builds it back from a schema, printers write it down.

mod history;

pub use history::{ColumnChange, History, Said, Step};

use crate::dialect::conventions::Actor;
use crate::schema::{
    Action, Default_, Deferrable, EnumType, Expression, Extras, Generated, Identity, InputRule,
    OrderKey, OwnedBy, Purpose, RelationKind,
};
use crate::source::Span;

/// Everything that was declared in one project.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Declarations {
    pub models: Vec<Model>,
    pub enums: Vec<EnumType>,
    /// Facts of the project that had to be assumed, in words.
    pub assumed: Vec<String>,
    /// What a history does to tables that no class here stands for.
    pub history: History,
}

/// What kind of class a model is.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum Form {
    /// It has a table of its own.
    #[default]
    Concrete,
    /// Its attributes are copied into the classes that extend it.
    Abstract,
    /// It stands for the table of the class that it extends.
    SameTable,
    /// It belongs to another package; its key is known, nothing is created for it.
    External,
    /// It maps a view.
    View,
    /// A table that no class stands for.
    Table,
}

/// One class (or schema object).
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Model {
    /// `module.Name`.
    pub id: String,
    pub name: String,
    pub module: String,
    pub form: Form,
    /// Ids of the declared classes that it extends, in the order of the text.
    pub extends: Vec<String>,
    pub table: Option<String>,
    pub namespace: Option<String>,
    /// Where it stands, if it is a part of other documents.
    pub owned_by: Option<OwnedBy>,
    pub comment: Option<String>,
    pub label: Option<String>,
    pub order: Option<Vec<OrderKey>>,
    /// Whether the framework creates the table.
    pub managed: Option<bool>,
    pub attributes: Vec<Attribute>,
    /// Attributes of a key that is declared for the class as a whole.
    pub key: Option<Vec<String>>,
    pub key_name: Option<String>,
    pub uniques: Vec<UniqueDeclaration>,
    pub indexes: Vec<IndexDeclaration>,
    pub checks: Vec<CheckDeclaration>,
    pub exclusions: Vec<CheckDeclaration>,
    /// Foreign keys that are declared for the class as a whole.
    pub references: Vec<ReferenceDeclaration>,
    pub extras: Extras,
    pub span: Option<Span>,
}

/// A foreign key that a column, or a class as a whole, declares apart from any relation.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct ReferenceDeclaration {
    /// Attributes or columns; empty where a column declares it.
    pub columns: Vec<String>,
    pub namespace: Option<String>,
    pub table: String,
    /// Columns of that table.
    pub references: Vec<String>,
    pub on_delete: Option<Action>,
    pub on_update: Option<Action>,
    pub deferrable: Option<Deferrable>,
    pub name: Option<String>,
    pub span: Option<Span>,
}

/// One attribute of a class.
#[derive(Clone, Debug, PartialEq)]
pub enum Attribute {
    Field(Box<FieldDeclaration>),
    Relation(Box<RelationDeclaration>),
    Inverse(Box<InverseDeclaration>),
    /// An inherited attribute of this name is taken away.
    Removed(String),
}

impl Attribute {
    /// The name in the class.
    pub fn name(&self) -> Option<&str> {
        match self {
            Attribute::Field(field) => field.name.as_deref(),
            Attribute::Relation(relation) => relation.name.as_deref(),
            Attribute::Inverse(inverse) => Some(&inverse.name),
            Attribute::Removed(name) => Some(name),
        }
    }
}

/// A type as it was written: the dialect's own word and the arguments given to it.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Spelling {
    /// `CharField`, `varchar`, or the host type when `inferred`.
    pub word: String,
    pub length: Option<u32>,
    pub precision: Option<u32>,
    pub scale: Option<u32>,
    /// Element of an array.
    pub element: Option<Box<Spelling>>,
    /// Name of the enumeration behind an enumeration type.
    pub enumeration: Option<String>,
}

impl Spelling {
    /// A word without arguments.
    pub fn word(word: impl Into<String>) -> Self {
        Spelling { word: word.into(), ..Spelling::default() }
    }
}

/// A column and its attribute.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct FieldDeclaration {
    pub name: Option<String>,
    pub column: Option<String>,
    pub spelling: Spelling,
    pub nullable: Option<bool>,
    pub optional_in_code: Option<bool>,
    pub required_on_input: Option<bool>,
    pub database_default: Option<Box<Default_>>,
    /// What the database sets at an update.
    pub database_update: Option<Box<Default_>>,
    pub application_default: Option<Box<Default_>>,
    /// What the application sets at an update.
    pub application_update: Option<Box<Default_>>,
    pub key: bool,
    pub unique: Option<bool>,
    pub indexed: Option<bool>,
    pub identity: Option<Identity>,
    /// Whether the database numbers it in the framework's own way.
    pub numbered: Option<bool>,
    /// The column that it refers to.
    pub reference: Option<Box<ReferenceDeclaration>>,
    pub generated: Option<Box<Generated>>,
    pub choices: Option<String>,
    pub format: Option<String>,
    pub collation: Option<String>,
    pub comment: Option<String>,
    pub purpose: Option<Purpose>,
    pub rules: Vec<InputRule>,
    pub extras: Extras,
    pub span: Option<Span>,
}

impl FieldDeclaration {
    /// Whether something gives it a value: the column that it refers to, or a default.
    pub fn is_valued(&self) -> bool {
        self.reference.is_some()
            || self.database_default.is_some()
            || self.application_default.is_some()
    }
}

/// How the other side of a relation is named.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub enum InverseName {
    /// Nothing is said: the convention decides.
    #[default]
    Silent,
    /// There is none.
    Hidden,
    Named(String),
}

/// A column of a relation: its own name and the attribute or column that it refers to.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct JoinColumn {
    pub name: Option<String>,
    pub references: Option<String>,
    pub constraint_name: Option<String>,
}

/// The join table of a many-to-many that has no class.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct JoinTable {
    pub name: Option<String>,
    pub namespace: Option<String>,
    pub column: JoinColumn,
    pub inverse_column: JoinColumn,
}

/// A relation on its owning side.
#[derive(Clone, Debug, PartialEq)]
pub struct RelationDeclaration {
    pub name: Option<String>,
    pub kind: RelationKind,
    /// Id of the other class.
    pub target: String,
    /// What is said of the column that carries the relation (its type follows from the target).
    pub carrier: FieldDeclaration,
    pub join_columns: Vec<JoinColumn>,
    pub inverse: InverseName,
    /// The action as written, by whoever takes it in this dialect.
    pub on_delete: Option<Action>,
    /// Who takes it, where a dialect lets each relation say so; `None` for whoever usually does.
    pub acts: Option<Actor>,
    pub on_update: Option<Action>,
    pub deferrable: Option<Deferrable>,
    /// Whether a foreign key is created.
    pub constraint: Option<bool>,
    /// Id of the class that stands for the join table.
    pub through: Option<String>,
    pub join_table: JoinTable,
    /// To itself, both ways at once.
    pub symmetrical: Option<bool>,
    /// Attributes of the class `through`: the one that refers to the owner, the one that refers to
    /// the target.
    pub through_fields: Vec<String>,
    /// Link from a child table to the table of the class that it extends.
    pub parent_link: bool,
    pub extras: Extras,
    pub span: Option<Span>,
}

impl RelationDeclaration {
    /// A relation of which nothing more is said.
    pub fn new(name: Option<String>, kind: RelationKind, target: impl Into<String>) -> Self {
        RelationDeclaration {
            name,
            kind,
            target: target.into(),
            carrier: FieldDeclaration::default(),
            join_columns: Vec::new(),
            inverse: InverseName::Silent,
            on_delete: None,
            acts: None,
            on_update: None,
            deferrable: None,
            constraint: None,
            through: None,
            join_table: JoinTable::default(),
            symmetrical: None,
            through_fields: Vec::new(),
            parent_link: false,
            extras: Extras::new(),
            span: None,
        }
    }
}

/// The side of a relation that owns nothing.
#[derive(Clone, Debug, PartialEq)]
pub struct InverseDeclaration {
    pub name: String,
    pub kind: InverseKind,
    /// Id of the owning class.
    pub target: String,
    /// The attribute of the owning class; empty where that has none.
    pub owner: String,
    /// The columns by which that class refers here, where it has no attribute.
    pub columns: Vec<String>,
    pub extras: Extras,
    pub span: Option<Span>,
}

/// Kinds of the side that owns nothing.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum InverseKind {
    OneToMany,
    OneToOne,
    ManyToMany,
}

/// A unique constraint over attributes.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct UniqueDeclaration {
    pub attributes: Vec<String>,
    pub name: Option<String>,
    pub deferrable: Option<Deferrable>,
    pub nulls_not_distinct: bool,
    pub extras: Extras,
    pub span: Option<Span>,
}

/// One key of a declared index.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct IndexPartDeclaration {
    pub attribute: Option<String>,
    /// Its columns are attribute names until `resolve`.
    pub expression: Option<Box<Expression>>,
    pub descending: bool,
    pub operator_class: Option<String>,
}

/// An index.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct IndexDeclaration {
    pub parts: Vec<IndexPartDeclaration>,
    pub unique: bool,
    pub condition: Option<Box<Expression>>,
    pub method: Option<String>,
    pub include: Vec<String>,
    pub name: Option<String>,
    pub nulls_not_distinct: bool,
    pub extras: Extras,
    pub span: Option<Span>,
}

/// A check or exclusion constraint.
#[derive(Clone, Debug, PartialEq)]
pub struct CheckDeclaration {
    pub name: Option<String>,
    pub expression: Expression,
    pub extras: Extras,
    pub span: Option<Span>,
}

/// The same declarations without any place in a source.
pub fn without_spans(mut declarations: Declarations) -> Declarations {
    for model in &mut declarations.models {
        model.span = None;
        for attribute in &mut model.attributes {
            match attribute {
                Attribute::Field(field) => {
                    field.span = None;
                    field.reference.iter_mut().for_each(|reference| reference.span = None);
                }
                Attribute::Relation(relation) => {
                    (relation.span, relation.carrier.span) = (None, None)
                }
                Attribute::Inverse(inverse) => inverse.span = None,
                Attribute::Removed(_) => {}
            }
        }
        model.uniques.iter_mut().for_each(|unique| unique.span = None);
        model.indexes.iter_mut().for_each(|index| index.span = None);
        model.references.iter_mut().for_each(|reference| reference.span = None);
        model.checks.iter_mut().chain(&mut model.exclusions).for_each(|check| check.span = None);
    }
    declarations.enums.iter_mut().for_each(|enumeration| enumeration.origin = Default::default());
    declarations
}
