//! What the number in brackets behind a migration's base class decides (`Migration[5.1]`), whatever
//! release is installed. Source: releases 6.1.7.10 to 8.1.4, each with all brackets that it takes.

/// The number in brackets.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub(crate) struct Bracket(u32, u32);

impl Bracket {
    /// What stands in brackets, as a number or as a text; `None` where it is no release.
    pub(crate) fn of(text: &str) -> Option<Self> {
        let (major, minor) = text.split_once('.')?;
        Some(Bracket(major.parse().ok()?, minor.parse().ok()?))
    }

    /// Before there were brackets every migration had the rules of 4.2.
    pub(crate) const OLDEST: Bracket = Bracket(4, 2);

    /// The newest rules.
    pub(crate) const NEWEST: Bracket = Bracket(u32::MAX, 0);

    fn since(self, major: u32, minor: u32) -> bool {
        self >= Bracket(major, minor)
    }

    /// Whether keys that nobody types, references and columns of join tables have eight bytes
    /// (where the server counts them).
    pub(crate) fn has_large_keys(self) -> bool {
        self.since(5, 1)
    }

    /// Whether a key that is typed by hand (`id: :integer`) is numbered by a sequence.
    pub(crate) fn numbers_typed_keys(self) -> bool {
        self.since(5, 1)
    }

    /// Whether a reference is indexed where nothing is said.
    pub(crate) fn indexes_references(self) -> bool {
        self.since(5, 0)
    }

    /// Whether the index of a reference to any class is named after the reference alone, and not
    /// after its two columns.
    pub(crate) fn names_polymorphic_shortly(self) -> bool {
        self.since(6, 1)
    }

    /// Whether `timestamps` are never null where nothing is said.
    pub(crate) fn requires_timestamps(self) -> bool {
        self.since(5, 0)
    }

    /// The digits of a second of `timestamps` where nothing is said.
    pub(crate) fn digits_of_timestamps(self) -> Option<u32> {
        self.since(6, 0).then_some(6)
    }

    /// The digits of a second of a plain `datetime` where nothing is said.
    pub(crate) fn digits_of_datetime(self) -> Option<u32> {
        self.since(7, 0).then_some(6)
    }

    /// What fills in `id: :uuid` on PostgreSQL where nothing is said.
    pub(crate) fn identifier(self) -> &'static str {
        if self.since(5, 1) { "gen_random_uuid()" } else { "uuid_generate_v4()" }
    }

    /// Whether an index is called after its table alone, and not after the named schema, too.
    pub(crate) fn names_without_schema(self) -> bool {
        self.since(7, 1)
    }

    /// Whether a name of an index that is too long is shortened (else it is refused).
    pub(crate) fn shortens_names(self) -> bool {
        self.since(7, 1)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn each_bracket_has_its_answers() {
        type Answer = fn(Bracket) -> String;
        let answers: &[(Answer, &str)] = &[
            (|bracket| bracket.has_large_keys().to_string(), "4.2 false, 5.0 false, 5.1 true"),
            (|bracket| bracket.indexes_references().to_string(), "4.2 false, 5.0 true"),
            (|bracket| bracket.requires_timestamps().to_string(), "4.2 false, 5.0 true"),
            (
                |bracket| format!("{:?}", bracket.digits_of_timestamps()),
                "5.2 None, 6.0 Some(6), 8.1 Some(6)",
            ),
            (|bracket| format!("{:?}", bracket.digits_of_datetime()), "6.1 None, 7.0 Some(6)"),
            (|bracket| bracket.names_polymorphic_shortly().to_string(), "6.0 false, 6.1 true"),
            (
                |bracket| bracket.identifier().to_owned(),
                "5.0 uuid_generate_v4(), 5.1 gen_random_uuid()",
            ),
        ];
        for (answer, wanted) in answers {
            for pair in wanted.split(", ") {
                let (bracket, wanted) = pair.split_once(' ').expect("a bracket and its answer");
                assert_eq!(answer(Bracket::of(bracket).expect("a number")), wanted, "{pair}");
            }
        }
        assert_eq!(Bracket::of("main"), None);
    }
}
