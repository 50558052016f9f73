//! What silence means in a dialect: the closed list of questions that `resolve` asks and `elide` asks again.

use crate::declaration::{FieldDeclaration, Spelling};
use crate::dialect::Dialect;
use crate::dialect::capabilities::{Feature, words};
use crate::dialect::naming::NamePattern;
use crate::dialect::type_table::TypeRow;
use crate::schema::expression::Tree;
use crate::schema::{Action, Database, Default_, Deferrable, Identity, Type, UniqueAs};

/// The answers of one dialect, version and database, in the order in which they are asked.
#[derive(Clone, Debug)]
pub struct Conventions {
    pub dialect: &'static Dialect,
    pub version: String,
    pub database: Database,
    /// The dialect's words for types.
    pub types: &'static [TypeRow],
    /// Is a silent column null?
    pub column_nullable: bool,
    /// Does it declare documents, in which the database holds no rule but uniqueness?
    pub documents: bool,
    /// Is the column of a silent relation null?
    pub reference_nullable: bool,
    /// Type words without a neutral type: word and the server's name.
    pub natives: &'static [(&'static str, &'static str)],
    /// Whether a type without a neutral name can be written as the server calls it.
    pub takes_native: fn(&str, Database) -> bool,
    /// What does a class get that extends a class with a table of its own?
    pub extended_table: ExtendedTable,
    /// Is a generated column always null, whatever is said?
    pub generated_nullable: bool,
    /// Is a key of several columns listed for the class as a whole?
    pub key_listed: bool,
    /// Do the columns of a relation have a declaration of their own (else the relation carries their options)?
    pub join_columns: bool,
    /// Does a column declare what it refers to (else the relation does)? Join tables are then declared, too.
    pub references_on_columns: bool,
    /// Does a relation list its columns, each of which is an attribute, and the columns that they refer to?
    pub relation_lists_columns: bool,
    /// Can a join table and its columns be called as one likes?
    pub join_named: bool,
    /// Can a many-to-many go by a class of the join table?
    pub joins_by_class: bool,
    /// Is a relation that the other side does not know a one-to-one where its column is unique?
    pub kind_by_uniqueness: bool,
    /// Can a unique constraint have a name, and a column stand in several of them?
    pub uniques_named: bool,
    /// Can an enumeration type of the database be called as one likes?
    pub enum_type_named: bool,
    /// Can a column have a default of the database and one of the application?
    pub both_defaults: bool,
    /// Can a class have several times of creation, of the last change, or the like, that the framework keeps?
    pub purposes_repeat: bool,
    /// Can a relation refer to columns that are not unique?
    pub refers_to_any: bool,
    /// Is a foreign key made of a column of the key where tables refer to each other in a circle?
    pub key_references_in_circles: bool,
    /// Can references that are never null stand in a circle?
    pub required_in_circles: bool,
    /// Can the records of a table without a key be read?
    pub keyless_readable: bool,
    /// Must both sides of a relation be declared?
    pub both_sides: bool,
    /// Is a foreign key made of a silent relation?
    pub references_enforced: bool,
    /// What does the database do when a referenced row goes or changes its key, and nothing is said?
    pub silent_actions: SilentActions,
    /// Does a one-to-one make its columns unique by itself?
    pub one_to_one_unique: bool,
    /// Are plain indexes listed for the class as a whole (else at their column)?
    /// Unique ones stand first then.
    pub indexes_listed: bool,
    /// Is it listed for the class as a whole that a part of the key, or a time that the framework keeps, is unique?
    pub unique_of_key_listed: bool,
    /// Is whatever is unique kept so by an index?
    pub unique_as_index: bool,
    /// Does the type in the code follow the column?
    pub code_as_column: bool,
    /// Are attributes written without types of the code?
    pub untyped: bool,
    /// Is a silent array null, and can it be nothing else?
    pub arrays_nullable: bool,
    /// Which counters can be said?
    pub identities: &'static [Identity],
    /// Can a column be numbered that is not the key?
    pub numbers_any_column: bool,
    /// Does a silent column follow its type in the code?
    pub nullable_as_in_code: bool,
    /// Is a key of one whole number numbered without a word?
    pub whole_key_numbered: KeyNumbered,
    /// Do checks and conditions name attributes (else columns)?
    pub expressions_name_attributes: bool,
    /// Which of these expressions are written in the dialect's own query language (else as SQL text over columns)?
    pub query_form: fn(&Tree) -> bool,
    /// Which words for types can stand in an array?
    pub element_word: fn(&str) -> bool,
    /// The word for an array.
    pub array_word: &'static str,
    /// Who fills in times of creation and update on insert?
    pub time_actor: Actor,
    /// What is an enumeration type of the database called?
    pub enum_type: NamePattern,
    /// How is a name shortened that is longer than the server allows?
    pub shorten: fn(&str, usize) -> String,
    /// Which key does a class without one get: its attribute and type word.
    pub implied_key: Option<(&'static str, String)>,
    /// What does the application fill in there?
    pub implied_key_default: Option<fn() -> Default_>,
    /// Is that key written all the same?
    pub key_written: bool,
    /// How does a key that the framework generates get its numbers?
    pub generated_key: Identity,
    /// What is a table called?
    pub table: NamePattern,
    /// What is a column called?
    pub column: NamePattern,
    /// What is the column of a relation called?
    pub reference_column: NamePattern,
    /// What is the column of the key that a child table shares with its parent's called?
    pub parent_link: NamePattern,
    /// What is a join table called?
    pub join_table: NamePattern,
    /// What are its columns called?
    pub join_column: NamePattern,
    /// What are its columns called when it joins a table to itself: to the owner, to the other?
    pub join_column_to_self: (NamePattern, NamePattern),
    /// What is the key of a join table: a column of its own, or both references?
    pub join_key: JoinKey,
    /// What does the database do to join rows when a side is deleted, and when its key changes?
    pub join_actions: (Action, Action),
    /// And on the reference to the other side, when that side declares the relation too?
    pub join_inverse_actions: (Action, Action),
    /// Which references of a join table are indexed?
    pub join_indexed: JoinIndexed,
    /// Is the column of a relation indexed (unless it is unique)?
    pub reference_indexed: bool,
    /// What is an index without a name called, where the framework's name may be another index's too?
    pub index_name: Option<NamePattern>,
    /// Is an indexed text or binary column without a bound indexed?
    pub unbounded_indexed: bool,
    /// Does the column of a relation keep that its key is unsigned?
    pub references_unsigned: bool,
    /// Who acts when the target of a relation is deleted?
    pub delete_actor: Actor,
    /// What can the application be told to do then?
    pub application_actions: &'static [Action],
    /// May a reference that is never null be told to be set to null?
    pub null_set_on_required: bool,
    /// When is a foreign key checked?
    pub deferrable: Option<Deferrable>,
    /// What does a unique pair of a class become in the database?
    pub unique_pair_as: UniqueAs,
    /// What is the other side of a silent relation called (many-to-one and many-to-many; one-to-one)?
    pub inverse: Option<(NamePattern, NamePattern)>,
    /// Does input validation have a voice?
    pub input_voice: bool,
    /// Is a silent attribute required on input?
    pub input_required: bool,
    /// Does the host type have a voice?
    pub code_voice: bool,
    /// Does an indexed or unique text column get a second index for patterns?
    pub text_pattern_index: bool,
    /// Does an unsigned column get a check that it is not negative?
    pub unsigned_check: bool,
    /// Does the database, too, set the time of an update?
    pub update_time_stored: bool,
    /// What becomes of indexes and constraints of which the server cannot hold something?
    pub unheld: &'static [Unheld],
    /// How many digits of a second has a time that the framework keeps, where it chooses?
    pub kept_time_digits: Option<u32>,
    /// Does a JSON column get a check that its text is JSON?
    pub json_check: bool,
    /// Do column comments reach the database?
    pub comments_stored: bool,
    /// How many characters may the name of a plain index have, where the framework allows fewer than the server?
    pub index_name_limit: Option<usize>,
    /// May the comment of a table hold quotes?
    pub table_comments_quoted: bool,
}

/// What a framework makes, without a word, of an index or a constraint that the server cannot hold whole.
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

/// The answer where nothing is made in silence.
const DECLARED: &str = "it is declared";

impl Conventions {
    /// Whether the server makes an index for the columns of a foreign key where no index begins with them.
    pub(crate) fn server_indexes_references(&self) -> bool {
        self.database.server().indexes_references && self.references_enforced
    }

    /// How long a name may be.
    pub(crate) fn identifier_limit(&self) -> usize {
        self.database.server().identifier_limit
    }

    /// Whether the framework itself would index references, and leaves that to the server.
    pub(crate) fn leaves_indexes_to_server(&self) -> bool {
        self.server_indexes_references() && self.reference_indexed
    }

    /// The key that a class without one gets.
    pub(crate) fn implied_key_field(&self) -> Option<FieldDeclaration> {
        let (name, word) = self.implied_key.as_ref()?;
        Some(FieldDeclaration {
            name: Some((*name).to_owned()),
            spelling: Spelling::word(word),
            application_default: self.implied_key_default.map(|default| Box::new(default())),
            key: true,
            ..FieldDeclaration::default()
        })
    }

    /// What keeps columns unique: one column, or several, with a name of their own or without.
    pub(crate) fn unique_as(&self, columns: usize, named: bool) -> UniqueAs {
        match (self.unique_as_index, columns == 1 || named) {
            (true, _) => UniqueAs::Index,
            (false, true) => UniqueAs::Constraint,
            (false, false) => self.unique_pair_as,
        }
    }

    /// Whether a column of this type, if it is the whole key and nothing else gives it a value, is numbered.
    pub(crate) fn numbers_by_itself(&self, ty: &Type) -> bool {
        // SQLite numbers an INTEGER key only.
        let small_or_big = matches!(ty, Type::SmallInt | Type::BigInt) && self.database != Database::Sqlite;
        // SQLAlchemy makes a `SERIAL` of any number (`_autoincrement_column` of its `sql/schema.py`, 2.0.58).
        let by_affinity = self.whole_key_numbered == KeyNumbered::UnlessValued
            && self.database == Database::PostgreSql
            && matches!(ty, Type::Numeric { .. } | Type::Real | Type::Double);
        self.whole_key_numbered != KeyNumbered::WhenSaid && (*ty == Type::Integer || small_or_big || by_affinity)
    }

    /// The counter of a key that is numbered without a word.
    pub(crate) fn silent_identity(&self) -> Identity {
        if self.whole_key_numbered == KeyNumbered::ByRow { Identity::ByDefault } else { self.generated_key }
    }

    /// Whether every key of one whole number is numbered, whatever is said.
    pub(crate) fn numbers_every_key(&self) -> bool {
        matches!(self.whole_key_numbered, KeyNumbered::Always | KeyNumbered::ByRow)
    }

    /// Every question with this dialect's answer, for the dialect's page and `explain`.
    pub fn answers(&self) -> Vec<(&'static str, String)> {
        let null = |nullable: bool| if nullable { "NULL" } else { "NOT NULL" }.to_owned();
        let yes = |yes: bool| if yes { "yes" } else { "no" }.to_owned();
        // Where columns declare what they refer to, nothing is called by a convention.
        let named = |name: &NamePattern| match (self.references_on_columns, name.to_string().is_empty()) {
            (true, _) => DECLARED.into(),
            (false, true) => "it must be named".into(),
            (false, false) => format!("`{name}`"),
        };
        vec![
            ("Is a silent column null?", null(self.column_nullable)),
            ("Is the column of a silent relation null?", null(self.reference_nullable)),
            (
                "Which key does a class without one get?",
                self.implied_key.as_ref().map_or("none; the class is refused".into(), |(name, word)| format!("`{name}`, a `{word}`")),
            ),
            (
                "How does a generated key get its numbers?",
                match self.generated_key {
                    Identity::ByDefault => "GENERATED BY DEFAULT AS IDENTITY",
                    Identity::Always => "GENERATED ALWAYS AS IDENTITY",
                    Identity::Sequence => "from a sequence, as the column's default",
                    Identity::AutoIncrement => "AUTOINCREMENT",
                }
                .into(),
            ),
            (
                "What does a class that extends one with a table get?",
                match self.extended_table {
                    ExtendedTable::Joined => "a table of its own, joined to its parent's by the key",
                    ExtendedTable::Copied => "its parent's columns, copied",
                }
                .into(),
            ),
            ("Is a generated column always null?", yes(self.generated_nullable)),
            ("Is a key of several columns listed for the class as a whole?", yes(self.key_listed)),
            (
                "Where are options of a relation's column written?",
                if self.join_columns { "in a declaration of their own" } else { "in the relation" }.into(),
            ),
            ("Can a join table and its columns be called as one likes?", yes(self.join_named)),
            ("Can a many-to-many go by a class of the join table?", yes(self.joins_by_class)),
            ("Is a relation that the other side does not know a one-to-one where its column is unique?", yes(self.kind_by_uniqueness)),
            ("Can a unique constraint have a name, and a column stand in several?", yes(self.uniques_named)),
            ("Can an enumeration type of the database be called as one likes?", yes(self.enum_type_named)),
            ("Can a column have a default of the database and one of the application?", yes(self.both_defaults)),
            ("Can a class have several times of creation, or of the last change, that the framework keeps?", yes(self.purposes_repeat)),
            ("Can a relation refer to columns that are not unique?", yes(self.refers_to_any)),
            (
                "Is a foreign key made of a column of the key where tables refer to each other in a circle?",
                yes(self.key_references_in_circles),
            ),
            ("Can references that are never null stand in a circle?", yes(self.required_in_circles)),
            ("Can the records of a table without a key be read?", yes(self.keyless_readable)),
            ("Must both sides of a relation be declared?", yes(self.both_sides)),
            ("Is a foreign key made of a silent relation?", yes(self.references_enforced)),
            ("What does the database do on delete when nothing is said?", {
                let SilentActions { required, optional, .. } = self.silent_actions;
                match required == optional {
                    true => format!("ON DELETE {}", required.sql()),
                    false => format!("ON DELETE {}; {} where all columns of the reference may be null", required.sql(), optional.sql()),
                }
            }),
            ("And when the key that is referred to changes?", format!("ON UPDATE {}", self.silent_actions.on_update.sql())),
            ("Does a one-to-one make its columns unique by itself?", yes(self.one_to_one_unique)),
            ("Are plain indexes listed for the class as a whole?", yes(self.indexes_listed)),
            ("Is it listed there that a part of the key, or a time that the framework keeps, is unique?", yes(self.unique_of_key_listed)),
            ("Can a column be numbered that is not the key?", yes(self.numbers_any_column)),
            ("Is an array null, whatever is said?", yes(self.arrays_nullable)),
            ("Does the type in the code follow the column?", yes(self.code_as_column)),
            ("Does a silent column follow its type in the code?", yes(self.nullable_as_in_code)),
            (
                "Is a key of one whole number numbered without a word?",
                match self.whole_key_numbered {
                    KeyNumbered::WhenSaid => "no",
                    KeyNumbered::UnlessValued => "yes, unless it refers to another table or has a default",
                    KeyNumbered::Always => "yes, whatever else is said",
                    KeyNumbered::ByRow => "yes, by the numbers of rows, unless another counter is asked for",
                }
                .into(),
            ),
            (
                "Where is a foreign key written?",
                if self.references_on_columns { "with its column; a relation only uses it" } else { "in the relation" }.into(),
            ),
            ("What do checks and conditions name?", if self.expressions_name_attributes { "attributes" } else { "columns" }.into()),
            (
                "Who fills in times of creation and update on insert?",
                match self.time_actor {
                    Actor::Database => "the database, by a default",
                    Actor::Application => "the application; a hand-written insert gets none",
                }
                .into(),
            ),
            (
                "What is a table called?",
                Some(self.table.to_string()).filter(|name| !name.is_empty()).map_or("it must be named".into(), |name| format!("`{name}`")),
            ),
            ("What is a column called?", format!("`{}`", self.column)),
            ("What is the column of a relation called?", named(&self.reference_column)),
            ("What is the key that a child table shares with its parent called?", named(&self.parent_link)),
            ("What is a join table called?", named(&self.join_table)),
            ("What are the columns of a join table called?", named(&self.join_column)),
            (
                "And when it joins a table to itself?",
                match named(&self.join_column_to_self.0) {
                    pattern if pattern.starts_with('`') => format!("{pattern} and `{}`", self.join_column_to_self.1),
                    other => other,
                },
            ),
            (
                "What is the key of a join table?",
                match self.join_key {
                    _ if self.references_on_columns => DECLARED.into(),
                    JoinKey::OwnColumn(name) => format!("a column `{name}` of its own; the pair is unique"),
                    JoinKey::Pair => "both references together".into(),
                    JoinKey::None => "none; the pair is unique".into(),
                },
            ),
            (
                "What does the database do to join rows?",
                format!("ON DELETE {}, ON UPDATE {}", self.join_actions.0.sql(), self.join_actions.1.sql()),
            ),
            (
                "And on the reference to a side that declares the relation too?",
                format!("ON DELETE {}, ON UPDATE {}", self.join_inverse_actions.0.sql(), self.join_inverse_actions.1.sql()),
            ),
            (
                "Which references of a join table are indexed?",
                match self.join_indexed {
                    JoinIndexed::Neither => "neither",
                    JoinIndexed::Both => "both",
                    JoinIndexed::Second => "the one that the key does not begin with",
                }
                .into(),
            ),
            (
                "Is the column of a relation indexed?",
                if self.server_indexes_references() {
                    "yes, by the server, where no index begins with it".into()
                } else {
                    yes(self.reference_indexed)
                },
            ),
            (
                "What is an index without a name called?",
                self.index_name.as_ref().map_or("as the framework likes".into(), |name| format!("`{name}`")),
            ),
            ("Is an indexed text without a bound indexed?", yes(self.unbounded_indexed)),
            ("Does the column of a relation keep that its key is unsigned?", yes(self.references_unsigned)),
            (
                "Who acts when the target of a relation is deleted?",
                match self.delete_actor {
                    Actor::Database => "the database (ON DELETE)",
                    Actor::Application => "the application; the database is told NO ACTION",
                }
                .into(),
            ),
            (
                "What can the application be told to do then?",
                match self.application_actions {
                    [] => "nothing".into(),
                    actions => actions.iter().map(|action| action.word()).collect::<Vec<_>>().join(", "),
                },
            ),
            ("May a reference that is never null be told to be set to null?", yes(self.null_set_on_required)),
            (
                "When is a foreign key checked?",
                match self.deferrable {
                    None => "at each statement",
                    Some(Deferrable::InitiallyDeferred) => "at commit (DEFERRABLE INITIALLY DEFERRED)",
                    Some(Deferrable::InitiallyImmediate) => "at each statement, unless deferred",
                }
                .into(),
            ),
            (
                "What does a unique pair of a class become?",
                match self.unique_as(2, false) {
                    UniqueAs::Constraint => "a unique constraint",
                    UniqueAs::Index => "a unique index",
                }
                .into(),
            ),
            (
                "What is the other side of a silent relation called?",
                self.inverse.as_ref().map_or("it has none".into(), |(many, one)| format!("`{many}`; of a one-to-one `{one}`")),
            ),
            ("Does it declare documents, in which the database holds no rule but uniqueness?", yes(self.documents)),
            ("Does input validation have a voice?", yes(self.input_voice)),
            ("Is a silent attribute required on input?", yes(self.input_required)),
            ("Does the type in the code have a voice?", yes(self.code_voice)),
            ("Does an indexed text column get a second index for patterns?", yes(self.text_pattern_index)),
            ("Does an unsigned column get a check that it is not negative?", yes(self.unsigned_check)),
            ("Does a JSON column get a check of its text?", yes(self.json_check)),
            ("Does the database, too, set the time of an update?", yes(self.update_time_stored)),
            (
                "How many digits of a second has a time that the framework keeps?",
                self.kept_time_digits.map_or("as many as the server keeps".into(), |digits| digits.to_string()),
            ),
            ("What is made, without a word, of what the server cannot hold?", unheld(self.unheld)),
            (
                "How long may the name of an index be?",
                self.index_name_limit.map_or("as the server allows".into(), |limit| format!("{limit} characters")),
            ),
            ("May the comment of a table hold quotes?", yes(self.table_comments_quoted)),
            ("Are comments kept in the database?", yes(self.comments_stored)),
            (
                "How long may a name be?",
                match self.identifier_limit() {
                    usize::MAX => "any length".into(),
                    limit => limit.to_string(),
                },
            ),
        ]
    }
}

/// The table of what is made in part or not at all, in words.
fn unheld(list: &[Unheld]) -> String {
    let said: Vec<String> = list
        .iter()
        .map(|unheld| match (unheld.of_index, unheld.of_constraint) {
            (Makes::Nothing, Makes::Nothing) => format!("{}: nothing", words(unheld.feature)),
            (Makes::TheRest, Makes::TheRest) => format!("{}: the rest of it", words(unheld.feature)),
            (Makes::TheRest, Makes::Nothing) => format!("{}: an index without it, no constraint", words(unheld.feature)),
            (Makes::Nothing, Makes::TheRest) => format!("{}: a constraint without it, no index", words(unheld.feature)),
        })
        .collect();
    if said.is_empty() { "it is made whole, or refused".into() } else { said.join("; ") }
}
