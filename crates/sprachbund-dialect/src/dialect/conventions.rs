//! What silence means in a dialect: the closed list of questions that `resolve` asks and `elide`
//! asks again.

use crate::declaration::{FieldDeclaration, Spelling};
use crate::dialect::Dialect;
use crate::dialect::capabilities::Feature;
use crate::dialect::grammar::{Grammar, Limits};
use crate::dialect::naming::NamePattern;
use crate::dialect::type_table::TypeRow;
use crate::schema::{Action, Database, Default_, Deferrable, Identity, Type, UniqueAs};
use crate::server::is_unbounded;

/// The answers of one dialect, version and database, in groups. There are no defaults: a new
/// question is one that every dialect answers, and the compiler lists those that have not.
#[derive(Clone, Debug)]
pub struct Conventions {
    pub dialect: &'static Dialect,
    pub version: String,
    pub database: Database,
    pub words: Words,
    pub grammar: Grammar,
    pub limits: Limits,
    pub keys: Keys,
    /// What does a class get that extends a class with a table of its own?
    pub extended_table: ExtendedTable,
    pub nullability: Nullability,
    pub layers: Layers,
    pub names: Names,
    pub joins: JoinTables,
    pub references: References,
    pub delete: DeleteActions,
    pub indexes: Indexes,
    pub times: Times,
    pub checks: Checks,
}

/// The dialect's words for types.
#[derive(Clone, Debug)]
pub struct Words {
    pub types: &'static [TypeRow],
    /// Type words without a neutral type: word and the server's name.
    pub natives: &'static [(&'static str, &'static str)],
    /// Whether a type without a neutral name can be written as the server calls it.
    pub takes_native: fn(&str, Database) -> bool,
    /// Which words can stand in an array?
    pub element: fn(&str) -> bool,
    /// The word for an array.
    pub array: &'static str,
}

/// The key of a class, and who numbers it.
#[derive(Clone, Debug)]
pub struct Keys {
    /// Which key does a class without one get: its attribute and type word.
    pub implied: Option<(&'static str, String)>,
    /// What does the application fill in there?
    pub implied_default: Option<fn() -> Default_>,
    /// Is that key written all the same?
    pub written: bool,
    /// How does a key that the framework generates get its numbers?
    pub generated: Identity,
    /// Is a key of one whole number numbered without a word?
    pub whole_numbered: KeyNumbered,
}

/// What may be null, or missing, where nothing is said.
#[derive(Clone, Debug)]
pub struct Nullability {
    /// Is a silent column null?
    pub column: bool,
    /// Is the column of a silent relation null?
    pub reference: bool,
    /// Is a silent array null, and can it be nothing else?
    pub arrays: bool,
    /// Is a generated column always null, whatever is said?
    pub generated: bool,
    /// Does a silent column follow its type in the code?
    pub follows_code: bool,
    /// Does the type in the code follow the column?
    pub code_follows: bool,
    /// Is a silent attribute required on input?
    pub required_on_input: bool,
}

/// Which layers beside the column say whether something may be missing.
#[derive(Clone, Debug)]
pub struct Layers {
    /// Does input validation?
    pub input: bool,
    /// Does the type in the code?
    pub code: bool,
}

/// What things are called that nobody names.
#[derive(Clone, Debug)]
pub struct Names {
    /// What is a table called?
    pub table: NamePattern,
    /// What is a column called?
    pub column: NamePattern,
    /// What is the column of a relation called?
    pub reference_column: NamePattern,
    /// What is the column of the key that a child table shares with its parent's called?
    pub parent_link: NamePattern,
    /// What is an index without a name called, where the framework's name may be another index's
    /// too?
    pub index: Option<NamePattern>,
    /// What is an enumeration type of the database called?
    pub enum_type: NamePattern,
    /// What is the other side of a silent relation called (many-to-one and many-to-many;
    /// one-to-one)?
    pub inverse: Option<(NamePattern, NamePattern)>,
    /// How is a name shortened that is longer than the server allows?
    pub shorten: fn(&str, usize) -> String,
}

/// What a many-to-many makes.
#[derive(Clone, Debug)]
pub struct JoinTables {
    /// What is a join table called?
    pub table: NamePattern,
    /// What are its columns called?
    pub column: NamePattern,
    /// What are its columns called when it joins a table to itself: to the owner, to the other?
    pub column_to_self: (NamePattern, NamePattern),
    /// What is the key of a join table: a column of its own, or both references?
    pub key: JoinKey,
    /// What does the database do to join rows when a side is deleted, and when its key changes?
    pub actions: (Action, Action),
    /// And on the reference to the other side, when that side declares the relation too?
    pub inverse_actions: (Action, Action),
    /// Which references of a join table are indexed?
    pub indexed: JoinIndexed,
}

/// What a relation makes.
#[derive(Clone, Debug)]
pub struct References {
    /// Is a foreign key made of a silent relation?
    pub enforced: bool,
    /// Is the column of a relation indexed (unless it is unique)?
    pub indexed: bool,
    /// Does a one-to-one make its columns unique by itself?
    pub one_to_one_unique: bool,
    /// Is a relation that the other side does not know a one-to-one where its column is unique?
    pub kind_by_uniqueness: bool,
    /// When is a foreign key checked?
    pub deferrable: Option<Deferrable>,
}

/// What happens when the target of a relation goes, or changes its key.
#[derive(Clone, Debug)]
pub struct DeleteActions {
    /// What does the database do when nothing is said?
    pub silent: SilentActions,
    /// Who acts when the target of a relation is deleted?
    pub actor: Actor,
    /// What can the application be told to do then?
    pub application: &'static [Action],
    /// What can the database be told to do where the application usually acts?
    pub database: &'static [Action],
    /// May a reference that is never null be told to be set to null?
    pub null_on_required: bool,
}

/// What indexes and unique constraints become in the database.
#[derive(Clone, Debug)]
pub struct Indexes {
    /// Is whatever is unique kept so by an index?
    pub unique_as_index: bool,
    /// What does a unique pair of a class become in the database?
    pub unique_pair_as: UniqueAs,
    /// Is an indexed text or binary column without a bound indexed?
    pub unbounded: bool,
    /// Does an indexed or unique text column get a second index for patterns?
    pub text_pattern: bool,
    /// What becomes of indexes and constraints of which the server cannot hold something?
    pub unheld: &'static [Unheld],
}

/// Times that the framework keeps.
#[derive(Clone, Debug)]
pub struct Times {
    /// Who fills in times of creation and update on insert?
    pub actor: Actor,
    /// Does the database, too, set the time of an update?
    pub update_stored: bool,
    /// How many digits of a second has a time that the framework keeps, where it chooses?
    pub kept_digits: Option<u32>,
}

/// Checks that the framework makes by itself.
#[derive(Clone, Debug)]
pub struct Checks {
    /// Does a JSON column get a check that its text is JSON?
    pub json: bool,
}

/// What a framework makes, without a word, of an index or a constraint that the server cannot hold
/// whole.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Unheld {
    /// What the server cannot hold.
    pub feature: Feature,
    /// Of an index that says it.
    pub of_index: Makes,
    /// Of a constraint, or a unique index, that says it.
    pub of_constraint: Makes,
}

/// What is made.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Makes {
    /// Everything but what the server cannot hold.
    TheRest,
    Nothing,
}

/// What the database does of a reference of which nothing is said.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct SilentActions {
    /// On deletion, where a column of the reference may not be null.
    pub required: Action,
    /// On deletion, where all may be null.
    pub optional: Action,
    pub on_update: Action,
}

impl SilentActions {
    /// On deletion.
    pub fn on_delete(self, optional: bool) -> Action {
        if optional { self.optional } else { self.required }
    }
}

/// Which references of a join table without a class are indexed.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum JoinIndexed {
    Neither,
    Both,
    /// The one that the key does not begin with.
    Second,
}

impl JoinIndexed {
    /// Whether the reference at this place is.
    pub fn is_indexed(self, place: usize) -> bool {
        match self {
            JoinIndexed::Neither => false,
            JoinIndexed::Both => true,
            JoinIndexed::Second => place == 1,
        }
    }
}

/// When the database numbers a key of one whole number.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum KeyNumbered {
    WhenSaid,
    /// Where it neither refers to another table nor has a default.
    UnlessValued,
    Always,
    /// Always, by the numbers that SQLite gives to rows, unless another counter is asked for.
    ByRow,
}

/// The key of a join table without a class.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum JoinKey {
    /// The pair is unique, and no key.
    None,
    /// A column of this name, typed like an implied key; the pair is unique.
    OwnColumn(&'static str),
    /// Both references together.
    Pair,
}

/// What extending a class with a table means.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum ExtendedTable {
    /// A table of its own that is joined to the parent's.
    Joined,
    /// Its parent's columns, copied.
    Copied,
}

/// Who acts on a deletion.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Actor {
    Database,
    Application,
}

impl Actor {
    /// As sentences call it.
    pub fn title(self) -> &'static str {
        match self {
            Actor::Database => "the database",
            Actor::Application => "the application",
        }
    }
}

impl Conventions {
    /// Whether the server makes an index for the columns of a foreign key where no index begins
    /// with them.
    pub fn server_indexes_references(&self) -> bool {
        self.database.server().indexes_references && self.references.enforced
    }

    /// How long a name may be.
    pub fn identifier_limit(&self) -> usize {
        self.database.server().identifier_limit
    }

    /// Whether the framework itself would index references, and leaves that to the server.
    pub fn leaves_indexes_to_server(&self) -> bool {
        self.server_indexes_references() && self.references.indexed
    }

    /// Whether the framework makes an index over a column of this type.
    pub(crate) fn makes_index(&self, ty: &Type) -> bool {
        self.indexes.unbounded || !is_unbounded(ty)
    }

    /// The key that a class without one gets.
    pub(crate) fn implied_key_field(&self) -> Option<FieldDeclaration> {
        let (name, word) = self.keys.implied.as_ref()?;
        Some(FieldDeclaration {
            name: Some((*name).to_owned()),
            spelling: Spelling::word(word),
            application_default: self.keys.implied_default.map(|default| Box::new(default())),
            key: true,
            ..FieldDeclaration::default()
        })
    }

    /// What keeps columns unique: one column, or several, with a name of their own or without.
    pub fn unique_as(&self, columns: usize, named: bool) -> UniqueAs {
        match (self.indexes.unique_as_index, columns == 1 || named) {
            (true, _) => UniqueAs::Index,
            (false, true) => UniqueAs::Constraint,
            (false, false) => self.indexes.unique_pair_as,
        }
    }

    /// Whether a column of this type, if it is the whole key and nothing else gives it a value, is
    /// numbered.
    pub fn numbers_by_itself(&self, ty: &Type) -> bool {
        // The number of a row is an INTEGER.
        let small_or_big =
            matches!(ty, Type::SmallInt | Type::BigInt) && !self.database.server().numbers_rows;
        // SQLAlchemy makes a `SERIAL` of any number (`_autoincrement_column` of its
        // `sql/schema.py`, 2.0.58).
        let by_affinity = self.keys.whole_numbered == KeyNumbered::UnlessValued
            && self.database.server().identities.contains(&Identity::Sequence)
            && matches!(ty, Type::Numeric { .. } | Type::Real | Type::Double);
        self.keys.whole_numbered != KeyNumbered::WhenSaid
            && (*ty == Type::Integer || small_or_big || by_affinity)
    }

    /// The counter of a key that is numbered without a word.
    pub fn silent_identity(&self) -> Identity {
        if self.keys.whole_numbered == KeyNumbered::ByRow {
            Identity::ByDefault
        } else {
            self.keys.generated
        }
    }

    /// Whether every key of one whole number is numbered, whatever is said.
    pub fn numbers_every_key(&self) -> bool {
        matches!(self.keys.whole_numbered, KeyNumbered::Always | KeyNumbered::ByRow)
    }
}
