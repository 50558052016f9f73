//! What the servers' words for types mean.

use super::Server;
use crate::schema::{Type, TypeKind, TypeParameters};

/// How the arguments of a word are taken.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Arguments {
    /// They say nothing of the values (the width at which MySQL shows a number).
    Ignored,
    Length,
    Digits,
    Fraction,
}

/// A word for a type.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Word {
    pub(super) word: &'static str,
    pub(super) kind: TypeKind,
    pub(super) takes: Arguments,
}

pub(super) const fn word(word: &'static str, kind: TypeKind, takes: Arguments) -> Word {
    Word { word, kind, takes }
}

impl Server {
    /// Its words, each with the type that it means.
    pub fn types(&'static self) -> impl Iterator<Item = (&'static str, Type)> {
        self.words.iter().map(|known| (known.word, self.read_type(known.word, &|_| false)))
    }

    /// The type that a text of the server means; enumerations are looked up by `is_enum`.
    ///
    /// `Type::Native` holds the words that have no neutral name.
    pub fn read_type(&self, text: &str, is_enum: &dyn Fn(&str) -> bool) -> Type {
        let text = text.trim();
        if let Some(element) = text.strip_suffix("[]").or_else(|| text.strip_suffix(" array")) {
            return Type::Array(Box::new(self.read_type(element, is_enum)));
        }
        if is_enum(text) {
            return Type::Enum(text.to_owned());
        }
        let folded = text.to_lowercase();
        let (word, numbers) = split(&folded);
        if let Some(ty) = (self.reads_itself)(&word, &numbers) {
            return ty;
        }
        // Where an extension was installed says nothing of what its type holds.
        let folded = folded.strip_prefix("public.").map_or(folded.clone(), str::to_owned);
        let Some(Word { kind, takes, .. }) = self.words.iter().find(|known| known.word == word)
        else {
            return Type::Native(folded);
        };
        let first = numbers.first().copied();
        let parameters = match takes {
            Arguments::Ignored => TypeParameters::default(),
            Arguments::Length => TypeParameters {
                length: first.or((*kind == TypeKind::Char).then_some(1)),
                ..TypeParameters::default()
            },
            Arguments::Digits => {
                let scale = first.map(|_| numbers.get(1).copied().unwrap_or(0));
                TypeParameters { precision: first, scale, ..TypeParameters::default() }
            }
            Arguments::Fraction => TypeParameters { precision: first, ..TypeParameters::default() },
        };
        Type::from_kind(*kind, parameters).unwrap_or(Type::Native(folded))
    }
}

/// A word without its arguments, and these, if all are numbers.
fn split(text: &str) -> (String, Vec<u32>) {
    let Some((head, rest)) = text.split_once('(') else { return (squeezed(text), Vec::new()) };
    let (inside, tail) = rest.split_once(')').unwrap_or((rest, ""));
    let numbers: Option<Vec<u32>> =
        inside.split(',').map(|part| part.trim().parse().ok()).collect();
    match numbers {
        Some(numbers) => (squeezed(&format!("{head} {tail}")), numbers),
        None => (text.to_owned(), Vec::new()),
    }
}

fn squeezed(text: &str) -> String {
    text.split_whitespace().collect::<Vec<_>>().join(" ")
}

#[cfg(test)]
mod tests {
    use crate::schema::Database;

    #[test]
    fn words_of_the_servers() {
        use Database::{MariaDb, PostgreSql, Sqlite};
        for (database, text, expected) in [
            (PostgreSql, "character varying(24)", "varchar(24)"),
            (PostgreSql, "CHARACTER VARYING", "varchar"),
            (PostgreSql, "character(3)", "char(3)"),
            (PostgreSql, "char", "char(1)"),
            (PostgreSql, "numeric(12,2)", "numeric(12,2)"),
            (PostgreSql, "NUMERIC(6)", "numeric(6,0)"),
            (PostgreSql, "timestamp(3) with time zone", "timestamp(3) with time zone"),
            (PostgreSql, "timestamptz", "timestamp with time zone"),
            (PostgreSql, "timestamp without time zone", "timestamp"),
            (PostgreSql, "integer[]", "integer array"),
            (PostgreSql, "character varying(4)[]", "varchar(4) array"),
            (PostgreSql, "jsonb", "binary json"),
            (PostgreSql, "float", "double precision"),
            (PostgreSql, "money", "native(money)"),
            (PostgreSql, "call_status", "enum(call_status)"),
            (MariaDb, "tinyint(1)", "boolean"),
            (MariaDb, "tinyint(4)", "native(tinyint)"),
            (MariaDb, "int(11)", "integer"),
            (MariaDb, "int(10) unsigned", "unsigned integer"),
            (MariaDb, "datetime(6)", "timestamp(6)"),
            (MariaDb, "timestamp", "timestamp with time zone"),
            (MariaDb, "float", "real"),
            (MariaDb, "longtext", "text"),
            (Sqlite, "varchar(40)", "varchar(40)"),
            (Sqlite, "datetime", "timestamp"),
            (Sqlite, "BOOL", "boolean"),
            (Sqlite, "anything", "native(anything)"),
        ] {
            let ty = database.server().read_type(text, &|name| name == "call_status");
            assert_eq!(ty.to_string(), expected, "{text}");
        }
    }
}
