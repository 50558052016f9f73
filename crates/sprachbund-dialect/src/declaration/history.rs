//! What the author of a history *wrote*: steps over tables, before conventions say what silence
//! means. Step readers build them, [`resolve::history`](crate::resolve::history) replays them.

use super::{Model, Spelling};
use crate::schema::{Default_, EnumType, Schema};
use crate::source::Span;

/// The steps that a project's history takes, in their order.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct History {
    pub steps: Vec<Step>,
    /// What the framework calls an index without a name: a pattern over `table` and `columns`.
    pub index_name: &'static str,
    /// The tables after the last step, where reading the steps had to take them: what a step does
    /// may hang on what those before it made.
    pub made: Option<Box<Schema>>,
}

/// One step.
#[derive(Clone, Debug, PartialEq)]
pub struct Step {
    pub said: Said,
    /// Nothing happens where what it works on is not there, or is there already.
    pub if_possible: bool,
    pub span: Span,
}

/// What a step says. Tables are named by their addresses
/// ([`schema::address`](crate::schema::address)), columns by their stored names.
#[derive(Clone, Debug, PartialEq)]
pub enum Said {
    /// A table with all that is said of it at once.
    CreateTable(Box<Model>),
    DropTable {
        table: String,
    },
    RenameTable {
        table: String,
        to: String,
    },
    /// Columns, constraints and indexes that a table gets besides those it has: the model says
    /// nothing else.
    Add {
        table: String,
        parts: Box<Model>,
    },
    /// What is said of a column changes; the rest stays.
    AlterColumn {
        table: String,
        column: String,
        change: Box<ColumnChange>,
    },
    /// All of a column is said anew; that it is in the key, and what keeps it apart, stays.
    ReplaceColumn {
        table: String,
        column: String,
        /// The column, and what constraints it says.
        parts: Box<Model>,
    },
    RenameColumn {
        table: String,
        column: String,
        to: String,
    },
    DropColumn {
        table: String,
        column: String,
    },
    SetKey {
        table: String,
        columns: Vec<String>,
        name: Option<String>,
    },
    /// An index or a constraint by its name; in whichever table has it where none is named.
    DropNamed {
        table: Option<String>,
        name: String,
    },
    /// An index or a constraint gets another name.
    RenameNamed {
        table: String,
        name: String,
        to: String,
    },
    /// An enumeration type of the database.
    CreateEnum(Box<EnumType>),
    /// Another name for it, or other members.
    AlterEnum {
        name: String,
        to: Box<EnumType>,
    },
    DropEnum {
        name: String,
    },
    /// The index over these columns.
    DropIndexOver {
        table: String,
        columns: Vec<String>,
    },
    CommentTable {
        table: String,
        text: Option<String>,
    },
}

/// What a step says anew of a column; `None` where it says nothing.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct ColumnChange {
    pub spelling: Option<Spelling>,
    pub nullable: Option<bool>,
    /// The default of the database: another one, or none.
    pub database_default: Option<Option<Default_>>,
    pub comment: Option<Option<String>>,
}
