//! The shape of a dialect's type table, read in both directions, and what each server calls a type.

use std::borrow::Cow;

use crate::declaration::Spelling;
use crate::schema::{Database, Field, Type, TypeKind, TypeParameters};
use crate::server::HeldWord;

/// Which arguments a type word takes.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Takes {
    Nothing,
    Length,
    /// Digits in all and digits after the point.
    Digits,
    /// Both of them, whatever happens.
    BothDigits,
    /// Fractional digits of a second.
    Fraction,
}

/// One word of a dialect for a type.
#[derive(Clone, Copy, Debug)]
pub struct TypeRow {
    /// The dialect's word.
    pub word: &'static str,
    pub kind: TypeKind,
    pub takes: Takes,
    /// The length when nothing is said.
    pub silent_length: Option<u32>,
    /// The format that input validation checks.
    pub format: Option<&'static str>,
    /// Values are numbered by the database.
    pub numbered: bool,
    /// Indexed when nothing is said.
    pub indexed: bool,
    /// The framework refuses negative numbers on input, and has the database check them, whatever
    /// the server's type takes.
    pub not_negative: bool,
    /// Digits in all and after the point when nothing is said.
    pub silent_digits: Option<(u32, u32)>,
    /// What SQLite holds: without arguments, and with (`{}` stands for them); empty where it cannot
    /// be made.
    pub sqlite: (&'static str, &'static str),
    /// What MariaDB and MySQL hold, in the same form; empty where the type itself says it.
    pub mysql: (&'static str, &'static str),
    /// Type in the host language.
    pub host: &'static str,
    /// Only on these servers; everywhere where none is named.
    pub only_on: &'static [Database],
    /// Written by the printer (else only read).
    pub written: bool,
}

impl TypeRow {
    /// A row that takes no arguments and is stored under `sqlite` there.
    pub const fn new(
        word: &'static str,
        kind: TypeKind,
        sqlite: &'static str,
        host: &'static str,
    ) -> Self {
        TypeRow {
            word,
            kind,
            takes: Takes::Nothing,
            silent_length: None,
            silent_digits: None,
            format: None,
            numbered: false,
            indexed: false,
            not_negative: false,
            sqlite: (sqlite, sqlite),
            mysql: ("", ""),
            host,
            only_on: &[],
            written: true,
        }
    }

    /// The same, taking arguments; `sqlite` is its form with them.
    pub const fn taking(mut self, takes: Takes, sqlite: &'static str) -> Self {
        self.takes = takes;
        self.sqlite.1 = sqlite;
        self
    }

    /// The same, held by MariaDB and MySQL under this name; `{}` stands for the arguments.
    pub const fn mysql(mut self, bare: &'static str, with_arguments: &'static str) -> Self {
        self.mysql = (bare, with_arguments);
        self
    }

    /// The same, with digits of its own.
    pub const fn silent_digits(mut self, precision: u32, scale: u32) -> Self {
        self.silent_digits = Some((precision, scale));
        self
    }

    /// The same, with a length of its own.
    pub const fn silent(mut self, length: u32) -> Self {
        self.silent_length = Some(length);
        self
    }

    /// The same, checking a format.
    pub const fn format(mut self, format: &'static str) -> Self {
        self.format = Some(format);
        self
    }

    /// The same, numbered by the database.
    pub const fn numbered(mut self) -> Self {
        self.numbered = true;
        self
    }

    /// The same, indexed when nothing is said.
    pub const fn indexed(mut self) -> Self {
        self.indexed = true;
        self
    }

    /// The same, taking no negative number.
    pub const fn not_negative(mut self) -> Self {
        self.not_negative = true;
        self
    }

    /// The same, on these servers only.
    pub const fn on(mut self, databases: &'static [Database]) -> Self {
        self.only_on = databases;
        self
    }

    /// The same, read but never written.
    pub const fn read_only(mut self) -> Self {
        self.written = false;
        self
    }

    /// Whether the word is there, or means this, on a server.
    pub fn is_on(&self, database: Database) -> bool {
        self.only_on.is_empty() || self.only_on.contains(&database)
    }

    /// The type that a spelling with this word means.
    pub fn read(&self, spelling: &Spelling) -> Type {
        let parameters = match self.takes {
            Takes::Nothing => {
                let digits = self.silent_digits;
                TypeParameters {
                    length: self.silent_length,
                    precision: digits.map(|(all, _)| all),
                    scale: digits.map(|(_, after)| after),
                }
            }
            Takes::Length => TypeParameters {
                length: spelling.length.or(self.silent_length),
                ..TypeParameters::default()
            },
            Takes::Digits | Takes::BothDigits => {
                let silent = self.silent_digits.filter(|_| spelling.precision.is_none());
                let (precision, scale) = silent
                    .map_or((spelling.precision, spelling.scale), |(all, after)| {
                        (Some(all), Some(after))
                    });
                TypeParameters { precision, scale, ..TypeParameters::default() }
            }
            Takes::Fraction => {
                TypeParameters { precision: spelling.precision, ..TypeParameters::default() }
            }
        };
        Type::from_kind(self.kind, parameters).unwrap_or(Type::Native(self.word.to_owned()))
    }

    /// What a spelling says that this word does not hear.
    pub fn unheard(&self, spelling: &Spelling) -> Vec<&'static str> {
        let (length, digits) = (spelling.length.is_some(), spelling.precision.is_some());
        let said: &[(bool, &str)] = match self.takes {
            Takes::Nothing => &[(length, "length"), (digits, "precision")],
            Takes::Length => &[(digits, "precision")],
            Takes::Digits | Takes::BothDigits | Takes::Fraction => &[(length, "length")],
        };
        said.iter().filter(|(said, _)| *said).map(|(_, word)| *word).collect()
    }

    /// The spelling of `ty` with this word, if the word can say it.
    pub fn spell(&self, ty: &Type) -> Option<Spelling> {
        if self.kind != ty.kind() {
            return None;
        }
        let TypeParameters { length, precision, scale } = ty.parameters();
        let mut spelling = Spelling::word(self.word);
        match self.takes {
            Takes::Nothing if self.read(&Spelling::default()) == *ty => {}
            Takes::Length if length.is_some() || self.silent_length.is_none() => {
                spelling.length = length.filter(|_| length != self.silent_length);
            }
            Takes::BothDigits if precision.is_none() || scale.is_none() => return None,
            Takes::Digits if self.silent_digits.is_some() && precision.is_none() => return None,
            Takes::Digits
                if self.silent_digits.is_some() && self.silent_digits == precision.zip(scale) => {}
            Takes::Digits | Takes::BothDigits => {
                (spelling.precision, spelling.scale) = (precision, scale)
            }
            Takes::Fraction => spelling.precision = precision,
            Takes::Nothing | Takes::Length => return None,
        }
        Some(spelling)
    }
}

/// The row of a word.
pub fn row<'a>(rows: &'a [TypeRow], word: &str, database: Database) -> Option<&'a TypeRow> {
    rows.iter().find(|row| row.word == word && row.is_on(database))
}

/// The row and spelling for a column, preferring the row of its format and its numbering; of
/// numbers, where that is a word of its own, the row that refuses what is negative if the column
/// does.
///
/// Where a server keeps the word that a framework chose, the row of the word that the column has
/// comes first.
pub fn spell<'a>(
    rows: &'a [TypeRow],
    field: &Field,
    not_negative: bool,
    database: Database,
) -> Option<(&'a TypeRow, Spelling)> {
    let like = |refuses: bool| {
        spell_among(rows.iter().filter(move |row| row.not_negative == refuses), field, database)
    };
    like(not_negative).or_else(|| like(!not_negative))
}

fn spell_among<'a>(
    rows: impl Iterator<Item = &'a TypeRow> + Clone,
    field: &Field,
    database: Database,
) -> Option<(&'a TypeRow, Spelling)> {
    let here = |row: &&TypeRow| row.is_on(database) && row.numbered == field.identity.is_some();
    let try_with = |format: Option<&str>, kept: bool| {
        let same_word = |row: &TypeRow| {
            kept && !field.stored.is_empty()
                && stored(Some(row), &field.r#type, database, "") == field.stored
        };
        let mut usable = rows
            .clone()
            .filter(here)
            .filter(|row| row.format == format && if kept { same_word(row) } else { row.written });
        usable.find_map(|row| Some((row, row.spell(&field.r#type)?)))
    };
    let format = field.format.as_deref();
    let keeps_words = database.server().held_word != HeldWord::OfType;
    (if keeps_words { try_with(format, true) } else { None })
        .or_else(|| try_with(format, false))
        .or_else(|| try_with(None, keeps_words))
        .or_else(|| try_with(None, false))
}

/// What the database holds for a column that is not numbered, by the first row that can say its
/// type.
pub fn plain_stored(
    rows: &'static [TypeRow],
    ty: &Type,
    database: Database,
    enum_name: &str,
) -> Cow<'static, str> {
    let here = |row: &&TypeRow| row.is_on(database);
    let row = rows
        .iter()
        .filter(here)
        .find(|row| row.kind == ty.kind() && !row.numbered && row.spell(ty).is_some());
    stored(row, ty, database, enum_name)
}

/// What the database holds for a type that a row of the dialect's table gave, or that none did.
/// `enum_name` is the type of an enumeration; on MariaDB and MySQL its values, quoted.
pub fn stored(
    row: Option<&TypeRow>,
    ty: &Type,
    database: Database,
    enum_name: &str,
) -> Cow<'static, str> {
    match database.server().held_word {
        HeldWord::SqliteOfRow => {
            row.map_or_else(|| Cow::Owned(ty.to_string()), |row| filled(row.sqlite, ty))
        }
        HeldWord::MysqlOfRow => match row.filter(|row| !row.mysql.0.is_empty()) {
            Some(row) => filled(row.mysql, ty),
            None => (database.server().type_name)(ty, enum_name),
        },
        HeldWord::OfType => (database.server().type_name)(ty, enum_name),
    }
}

fn arguments(ty: &Type) -> Option<String> {
    let TypeParameters { length, precision, scale } = ty.parameters();
    let first = length.or(precision)?;
    Some(scale.map_or(first.to_string(), |scale| format!("{first},{scale}")))
}

/// A held name with its arguments put in.
fn filled((bare, with_arguments): (&'static str, &'static str), ty: &Type) -> Cow<'static, str> {
    match arguments(ty).filter(|_| bare != with_arguments || with_arguments.contains("{}")) {
        Some(arguments) => Cow::Owned(with_arguments.replace("{}", &arguments)),
        None => Cow::Borrowed(bare),
    }
}
