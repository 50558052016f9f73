//! Where a thing is declared, and what declarations cannot hold. A new way to declare something is
//! a new variant here, and the compiler lists what it touches.

use crate::schema::Identity;
use crate::schema::expression::Tree;

/// Where things are declared.
#[derive(Clone, Debug)]
pub struct Grammar {
    /// The columns of a class.
    pub columns: ColumnPlace,
    /// A reference to another table.
    pub reference: ReferencePlace,
    /// A join table that no class stands for.
    pub join_table: JoinTablePlace,
    /// A key of several columns.
    pub key: KeyPlace,
    /// A plain index. What is unique stands before others where they are listed.
    pub index: IndexPlace,
    /// That a part of the key, or a time that the framework keeps, is unique.
    pub unique_of_key: IndexPlace,
    /// Whether checks, and what is unique with more than its columns, need a name.
    pub constraint_names: ConstraintNames,
    /// What checks and conditions name.
    pub expressions: ExpressionNames,
    /// Which of these expressions are written in the dialect's own query language (else as SQL text
    /// over columns)?
    pub query_form: fn(&Tree) -> bool,
    /// What the database's `now` is taken for, on a server that has one moment only.
    pub now: NowFunction,
    /// What the application does when the target of a relation is deleted.
    pub application_action: ActionPlace,
    /// Must both sides of a relation be declared?
    pub both_sides: bool,
    /// Are attributes written without types of the code?
    pub untyped: bool,
}

/// Where the columns of a class are declared.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum ColumnPlace {
    /// In the class.
    Class,
    /// In the steps that make its table; the class is laid over that.
    History,
}

/// Where a reference is declared.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum ReferencePlace {
    /// In the relation, whose attribute stands for the column and carries the column's options.
    Relation,
    /// In the relation; its columns have a declaration of their own.
    JoinColumns,
    /// In the relation, which lists its columns, each of them an attribute, and the columns that
    /// they refer to.
    ListedColumns,
    /// At the column; a relation only uses it.
    Column,
    /// At a path of a document, whose value is the key of another: the database knows nothing of
    /// it.
    Path,
}

impl ReferencePlace {
    /// How the dialect's page says it.
    pub fn words(self) -> &'static str {
        match self {
            ReferencePlace::Relation => "in the relation, with the options of its column",
            ReferencePlace::JoinColumns => {
                "in the relation; options of its columns in a declaration of their own"
            }
            ReferencePlace::ListedColumns => {
                "in the relation, which lists its columns; each is an attribute"
            }
            ReferencePlace::Column => "with its column; a relation only uses it",
            ReferencePlace::Path => "at the path that keeps the key of another document",
        }
    }
}

/// Where a join table is declared that no class stands for.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum JoinTablePlace {
    /// Nowhere: the many-to-many makes it, and may name it.
    Relation,
    /// As a table, like any other.
    Table,
}

/// Where a key of several columns is declared.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum KeyPlace {
    /// For the class as a whole.
    Class,
    /// At each of its columns, whose order is the key's.
    Columns,
    /// At each of its columns, or for the class as a whole where the order is another one.
    Either,
}

impl KeyPlace {
    /// How the dialect's page says it.
    pub fn words(self) -> &'static str {
        match self {
            KeyPlace::Class => "for the class as a whole",
            KeyPlace::Columns => "at its columns, in their order",
            KeyPlace::Either => "at its columns; for the class where their order is another one",
        }
    }
}

/// Where an index is declared.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum IndexPlace {
    /// At its column; one over several columns for the class as a whole.
    Column,
    /// For the class as a whole.
    Class,
}

/// Whether checks, and what is unique with more than its columns, need a name.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum ConstraintNames {
    Optional,
    /// They are refused without one; what is unique and has one is listed apart, behind the others.
    Required,
}

/// What checks and conditions name.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum ExpressionNames {
    Attributes,
    Columns,
}

/// The moment that a function of the database gives.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum NowFunction {
    /// When the transaction began: `CURRENT_TIMESTAMP` of PostgreSQL.
    Transaction,
    /// When the statement began: `STATEMENT_TIMESTAMP()` of PostgreSQL.
    Statement,
}

/// Where it is said what the application does when the target of a relation is deleted.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum ActionPlace {
    /// With the reference.
    Reference,
    /// On the other side of the relation, of which there must be one.
    Inverse,
}

/// What declarations cannot hold, though tables can.
#[derive(Clone, Debug)]
pub struct Limits {
    /// What of a join table can be called as one likes?
    pub join_names: JoinNames,
    /// Can a many-to-many go by a class of the join table?
    pub joins_by_class: bool,
    /// Can a unique constraint have a name, and a column stand in several of them?
    pub uniques_named: bool,
    /// Can two unique constraints, one of them without a name, be over the same columns?
    pub uniques_repeat: bool,
    /// Can an exclusion constraint be written as SQL (else as code of the framework's own)?
    pub exclusions_as_sql: bool,
    /// Can an enumeration type of the database be called as one likes?
    pub enum_type_named: bool,
    /// Can a column have a default of the database and one of the application?
    pub both_defaults: bool,
    /// Can a class have several times of creation, of the last change, or the like, that the
    /// framework keeps?
    pub purposes_repeat: bool,
    /// Can a relation refer to columns that are not unique?
    pub refers_to_any: bool,
    /// Is a foreign key made of a column of the key where tables refer to each other in a circle?
    pub key_references_in_circles: bool,
    /// Can references that are never null stand in a circle?
    pub required_in_circles: bool,
    /// Can the records of a table without a key be read?
    pub keyless_readable: bool,
    /// Can a bounded text be without a length, where the server takes that?
    pub texts_without_length: bool,
    /// Which counters can be said?
    pub identities: &'static [Identity],
    /// Can a column be numbered that is not the key?
    pub numbers_any_column: bool,
    /// Can a column be numbered by a sequence that is not the whole key?
    pub sequence_beside_key: bool,
    /// How many characters may the name of a plain index have, where the framework allows fewer
    /// than the server?
    pub index_name: Option<usize>,
    /// May the comment of a table hold quotes?
    pub table_comments_quoted: bool,
    /// Do column comments reach the database?
    pub comments_stored: bool,
}

/// What of a join table can be called as one likes.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum JoinNames {
    Nothing,
    Table,
    TableAndColumns,
}

impl JoinNames {
    /// How the dialect's page says it.
    pub fn words(self) -> &'static str {
        match self {
            JoinNames::Nothing => "nothing",
            JoinNames::Table => "the table",
            JoinNames::TableAndColumns => "the table and its columns",
        }
    }
}
