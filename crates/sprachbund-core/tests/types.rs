//! Tables of types are read in both directions: what a word means is said by a word that means the
//! same.

use std::collections::BTreeSet;

use sprachbund_core::declaration::Spelling;
use sprachbund_core::dialect::type_table::{Takes, TypeRow, row, spell, stored};
use sprachbund_core::dialect::{Conventions, Medium, Settings};
use sprachbund_core::dialects::DIALECTS;
use sprachbund_core::schema::{Database, Field, Type, TypeKind};
use sprachbund_core::server::HeldWord;

/// The answers of each dialect of classes, in each release, on each server.
fn answers() -> Vec<Conventions> {
    let dialects =
        DIALECTS.iter().filter(|dialect| matches!(dialect.medium, Medium::Classes { .. }));
    let mut all = Vec::new();
    for dialect in dialects {
        for (version, database) in dialect
            .versions
            .iter()
            .flat_map(|version| dialect.databases.iter().map(move |on| (version, on)))
        {
            let settings = Settings {
                version: Some((*version).to_owned()),
                database: Some(*database),
                ..Settings::default()
            };
            all.push((dialect.conventions)(&settings));
        }
    }
    all
}

fn title(conventions: &Conventions) -> String {
    format!(
        "{} {} on {}",
        conventions.dialect.framework,
        conventions.version,
        conventions.database.title()
    )
}

/// A word with arguments that it takes.
fn spelling(row: &TypeRow) -> Spelling {
    let word = Spelling::word(row.word);
    match row.takes {
        Takes::Nothing => word,
        Takes::Length => Spelling { length: Some(12), ..word },
        Takes::Digits | Takes::BothDigits => {
            Spelling { precision: Some(12), scale: Some(2), ..word }
        }
        Takes::Fraction => Spelling { precision: Some(3), ..word },
    }
}

/// A column of the type that a row means, numbered and checked as the row says.
fn column(row: &TypeRow, conventions: &Conventions) -> Field {
    let ty = row.read(&spelling(row));
    let held = stored(Some(row), &ty, conventions.database, "");
    let mut field = Field::plain(Some("a".into()), "a".into(), ty, held);
    field.identity = row.numbered.then_some(conventions.keys.generated);
    field.format = row.format.map(Into::into);
    field
}

#[test]
fn what_a_word_means_is_said_by_a_word_that_means_the_same() {
    let mut wrong = BTreeSet::new();
    for conventions in answers() {
        let types = conventions.words.types;
        for known in types.iter().filter(|row| row.is_on(conventions.database)) {
            let field = column(known, &conventions);
            let said = spell(types, &field, known.not_negative, conventions.database);
            let Some((found, said)) = said else {
                wrong.insert(format!(
                    "{}: nothing says `{}` ({})",
                    title(&conventions),
                    known.word,
                    field.r#type
                ));
                continue;
            };
            let same = found.read(&said) == field.r#type
                && found.numbered == known.numbered
                && found.not_negative == known.not_negative
                && found.format == known.format;
            if !same {
                wrong.insert(format!(
                    "{}: `{}` is said by `{}`",
                    title(&conventions),
                    known.word,
                    found.word
                ));
            }
        }
    }
    assert!(wrong.is_empty(), "{wrong:#?}");
}

/// The first row of a word is what the word means: another one may only be numbered where the first
/// is not, or take no arguments where the first takes all of them.
#[test]
fn a_word_has_one_meaning_on_a_server() {
    let mut wrong = BTreeSet::new();
    for conventions in answers() {
        let types = conventions.words.types;
        for other in types.iter().filter(|row| row.is_on(conventions.database)) {
            let first =
                row(types, other.word, conventions.database).expect("a row of its own word");
            let twice = (first.numbered, first.takes) == (other.numbered, other.takes)
                && !std::ptr::eq(first, other);
            if first.kind != other.kind || twice {
                wrong.insert(format!(
                    "{}: `{}` is {:?} and {:?}",
                    title(&conventions),
                    other.word,
                    first.kind,
                    other.kind
                ));
            }
        }
    }
    assert!(wrong.is_empty(), "{wrong:#?}");
}

/// Where the server keeps the word that a framework chose, every word says what is held.
#[test]
fn what_is_held_has_a_name() {
    let mut wrong = BTreeSet::new();
    for conventions in answers() {
        for known in conventions
            .words
            .types
            .iter()
            .filter(|row| row.is_on(conventions.database) && row.written)
        {
            let field = column(known, &conventions);
            if field.stored.is_empty()
                && conventions.database.server().held_word != HeldWord::SqliteOfRow
            {
                wrong.insert(format!(
                    "{}: `{}` is held under no name",
                    title(&conventions),
                    known.word
                ));
            }
            if field.stored.contains("{}") {
                wrong.insert(format!(
                    "{}: `{}` is held as `{}`",
                    title(&conventions),
                    known.word,
                    field.stored
                ));
            }
        }
    }
    assert!(wrong.is_empty(), "{wrong:#?}");
}

/// A number without a sign is a type of those servers alone that have one.
#[test]
fn unsigned_types_are_of_servers_that_have_them() {
    let unsigned =
        [TypeKind::UnsignedSmallInt, TypeKind::UnsignedInteger, TypeKind::UnsignedBigInt];
    for conventions in answers().iter().filter(|conventions| !conventions.database.is_mysql()) {
        let said = conventions
            .words
            .types
            .iter()
            .find(|row| row.is_on(conventions.database) && unsigned.contains(&row.kind));
        assert!(said.is_none(), "{}: `{}`", title(conventions), said.map_or("", |row| row.word));
    }
    for (_, database) in Database::ALL.iter().filter(|(_, database)| !database.is_mysql()) {
        let words: Vec<Type> = database
            .server()
            .types()
            .map(|(_, ty)| ty)
            .filter(|ty| unsigned.contains(&ty.kind()))
            .collect();
        assert!(words.is_empty(), "{}: {words:?}", database.title());
    }
}
