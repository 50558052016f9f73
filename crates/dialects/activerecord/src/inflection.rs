//! How ActiveRecord makes names of names: plural and singular of a word, words of a class's name.
//! Rules and words as releases 7.0.10 to 8.1.4 answered (they are the same in all of them), in
//! tables of our own; the first rule that fits is taken.

use regex::Regex;

/// What must stand before an ending.
#[derive(Clone, Copy, Debug)]
enum Before {
    Anything,
    /// Nothing: the ending is the word.
    Nothing,
    /// The text ends in one of these.
    One(&'static [&'static str]),
    /// Some letter, and none of these.
    NotOne(&'static str),
    /// A consonant (`y` is none), or `qu`.
    Consonant,
}

/// What must stand before, the ending, and what the ending becomes.
type Rule = (Before, &'static str, &'static str);

use Before::{Anything, Consonant, NotOne, Nothing, One};

/// Singular and plural of words that follow no rule; longer words that end in them do so, too.
const IRREGULAR: &[(&str, &str)] = &[
    ("person", "people"),
    ("man", "men"),
    ("child", "children"),
    ("sex", "sexes"),
    ("move", "moves"),
    ("zombie", "zombies"),
];

/// Words that are their own plural.
const UNCOUNTABLE: &[&str] = &[
    "equipment",
    "information",
    "rice",
    "money",
    "species",
    "series",
    "fish",
    "sheep",
    "jeans",
    "police",
];

const PLURAL: &[Rule] = &[
    (Anything, "quiz", "quizzes"),
    (Nothing, "oxen", "oxen"),
    (Nothing, "ox", "oxen"),
    (Nothing, "mice", "mice"),
    (Nothing, "lice", "lice"),
    (Nothing, "mouse", "mice"),
    (Nothing, "louse", "lice"),
    (One(&["matr", "vert", "ind"]), "ix", "ices"),
    (One(&["matr", "vert", "ind"]), "ex", "ices"),
    (Anything, "x", "xes"),
    (Anything, "ch", "ches"),
    (Anything, "ss", "sses"),
    (Anything, "sh", "shes"),
    (Consonant, "y", "ies"),
    (Anything, "hive", "hives"),
    (NotOne("f"), "fe", "ves"),
    (One(&["l", "r"]), "f", "ves"),
    (Anything, "sis", "ses"),
    (One(&["t", "i"]), "a", "a"),
    (One(&["t", "i"]), "um", "a"),
    (One(&["buffal", "tomat"]), "o", "oes"),
    (Anything, "bus", "buses"),
    (Anything, "alias", "aliases"),
    (Anything, "status", "statuses"),
    (One(&["octop", "vir"]), "i", "i"),
    (One(&["octop", "vir"]), "us", "i"),
    (Nothing, "axis", "axes"),
    (Nothing, "testis", "testes"),
    (Anything, "s", "s"),
    (Anything, "", "s"),
];

const SINGULAR: &[Rule] = &[
    (Anything, "databases", "database"),
    (Anything, "quizzes", "quiz"),
    (Anything, "matrices", "matrix"),
    (One(&["vert", "ind"]), "ices", "ex"),
    (Nothing, "oxen", "ox"),
    (One(&["alias", "status"]), "es", ""),
    (One(&["alias", "status"]), "", ""),
    (One(&["octop", "vir"]), "us", "us"),
    (One(&["octop", "vir"]), "i", "us"),
    (Nothing, "axis", "axis"),
    (Nothing, "axes", "axis"),
    (One(&["cris", "test"]), "is", "is"),
    (One(&["cris", "test"]), "es", "is"),
    (Anything, "shoes", "shoe"),
    (Anything, "oes", "o"),
    (Anything, "buses", "bus"),
    (Anything, "bus", "bus"),
    (Nothing, "mice", "mouse"),
    (Nothing, "lice", "louse"),
    (Anything, "xes", "x"),
    (Anything, "ches", "ch"),
    (Anything, "sses", "ss"),
    (Anything, "shes", "sh"),
    (Anything, "movies", "movie"),
    (Anything, "series", "series"),
    (Consonant, "ies", "y"),
    (One(&["l", "r"]), "ves", "f"),
    (Anything, "tives", "tive"),
    (Anything, "hives", "hive"),
    (NotOne("f"), "ves", "fe"),
    (One(&["analy", "ba", "diagno", "parenthe", "progno", "synop", "the"]), "sis", "sis"),
    (One(&["analy", "ba", "diagno", "parenthe", "progno", "synop", "the"]), "ses", "sis"),
    (One(&["t", "i"]), "a", "um"),
    (Anything, "news", "news"),
    (Anything, "ss", "ss"),
    (Anything, "s", ""),
];

/// The words of a project: those of the framework, and what the project adds (the last first).
#[derive(Clone, Debug, Default)]
pub(crate) struct Inflections {
    plural: Vec<(Regex, String)>,
    singular: Vec<(Regex, String)>,
    irregular: Vec<(String, String)>,
    uncountable: Vec<String>,
    acronyms: Vec<String>,
}

impl Inflections {
    /// `inflect.irregular "one", "many"`.
    pub(crate) fn irregular(&mut self, one: &str, many: &str) {
        self.irregular.insert(0, (one.to_lowercase(), many.to_lowercase()));
    }

    /// `inflect.uncountable "word"`.
    pub(crate) fn uncountable(&mut self, word: &str) {
        self.uncountable.push(word.to_lowercase());
    }

    /// `inflect.acronym "HTML"`.
    pub(crate) fn acronym(&mut self, word: &str) {
        self.acronyms.push(word.to_owned());
    }

    /// `inflect.plural /pattern/, "what it becomes"`, or of `singular`; whether the pattern is
    /// understood.
    pub(crate) fn rule(&mut self, plural: bool, pattern: &str, becomes: &str) -> bool {
        let Ok(pattern) = Regex::new(&format!("(?i){pattern}")) else { return false };
        // `\1` of one language is `${1}` of the other.
        let becomes = becomes.replace('$', "$$");
        let mut translated = String::new();
        let mut letters = becomes.chars();
        while let Some(letter) = letters.next() {
            match (letter, letters.clone().next()) {
                ('\\', Some(digit)) if digit.is_ascii_digit() => {
                    translated.push_str(&format!("${{{digit}}}"));
                    letters.next();
                }
                _ => translated.push(letter),
            }
        }
        let rules = if plural { &mut self.plural } else { &mut self.singular };
        rules.insert(0, (pattern, translated));
        true
    }

    /// The plural of a word in small letters (`sea_buoy`); the first words stay.
    pub(crate) fn plural(&self, word: &str) -> String {
        self.inflected(word, &self.plural, PLURAL, |(one, many)| (one, many))
    }

    /// The singular of a word.
    pub(crate) fn singular(&self, word: &str) -> String {
        self.inflected(word, &self.singular, SINGULAR, |(one, many)| (many, one))
    }

    fn inflected(
        &self,
        word: &str,
        own: &[(Regex, String)],
        rules: &[Rule],
        from_to: impl for<'w> Fn((&'w str, &'w str)) -> (&'w str, &'w str),
    ) -> String {
        if word.is_empty() || self.is_uncountable(word) {
            return word.to_owned();
        }
        if let Some((pattern, becomes)) = own.iter().find(|(pattern, _)| pattern.is_match(word)) {
            return pattern.replace(word, becomes.as_str()).into_owned();
        }
        let irregular = self
            .irregular
            .iter()
            .map(|(one, many)| (one.as_str(), many.as_str()))
            .chain(IRREGULAR.iter().copied());
        for pair in irregular {
            let (from, to) = from_to(pair);
            if let Some(before) = word.strip_suffix(from) {
                return format!("{before}{to}");
            }
            if word.ends_with(to) {
                return word.to_owned();
            }
        }
        let fits = |(before, ending, becomes): &Rule| {
            let rest = word.strip_suffix(ending)?;
            let fits = match before {
                Anything => true,
                Nothing => rest.is_empty(),
                One(ends) => ends.iter().any(|end| rest.ends_with(end)),
                NotOne(letters) => rest.chars().last().is_some_and(|last| !letters.contains(last)),
                Consonant => {
                    rest.ends_with("qu")
                        || rest.chars().last().is_some_and(|last| !"aeiouy".contains(last))
                }
            };
            fits.then(|| format!("{rest}{becomes}"))
        };
        rules.iter().find_map(fits).unwrap_or_else(|| word.to_owned())
    }

    /// Whether the word, or the last one behind a sign that no word has, is its own plural.
    fn is_uncountable(&self, word: &str) -> bool {
        let last = word.rsplit(|letter: char| !letter.is_alphanumeric() && letter != '_').next();
        let last = last.unwrap_or(word);
        UNCOUNTABLE.contains(&last) || self.uncountable.iter().any(|known| known == last)
    }

    /// A class's name in small letters (`PortCall` is `port_call`); of modules, parted by `/`.
    pub(crate) fn underscored(&self, name: &str) -> String {
        let mut text = name.replace("::", "/");
        for acronym in &self.acronyms {
            let small = acronym[..1].to_owned() + &acronym[1..].to_lowercase();
            // Only where the word ends with it.
            let ends = |rest: &str| !rest.starts_with(|letter: char| letter.is_ascii_lowercase());
            let mut at = 0;
            while let Some(found) = text[at..].find(acronym.as_str()) {
                let begin = at + found;
                let end = begin + acronym.len();
                if ends(&text[end..]) {
                    text.replace_range(begin..end, &small);
                }
                at = end;
            }
        }
        let letters: Vec<char> = text.chars().collect();
        let mut out = String::with_capacity(text.len() + 4);
        for (at, letter) in letters.iter().enumerate() {
            let before = at.checked_sub(1).map(|at| letters[at]);
            let after = letters.get(at + 1);
            let begins = letter.is_ascii_uppercase()
                && before.is_some_and(|before| {
                    before.is_ascii_lowercase()
                        || before.is_ascii_digit()
                        || before.is_ascii_uppercase()
                            && after.is_some_and(char::is_ascii_lowercase)
                });
            if begins {
                out.push('_');
            }
            out.extend(letter.to_lowercase());
        }
        out.replace('-', "_")
    }

    /// The table of a class that says none: the plural of the last part of its name.
    pub(crate) fn table(&self, class: &str) -> String {
        let last = class.rsplit("::").next().unwrap_or(class);
        self.plural(&self.underscored(last))
    }

    /// The class of a name in small letters: `port_call` is `PortCall`.
    pub(crate) fn camelized(&self, name: &str) -> String {
        let part = |word: &str| {
            let known = self.acronyms.iter().find(|known| known.to_lowercase() == word);
            known.cloned().unwrap_or_else(|| {
                let mut letters = word.chars();
                letters.next().into_iter().flat_map(char::to_uppercase).chain(letters).collect()
            })
        };
        let module = |module: &str| module.split('_').map(part).collect::<String>();
        name.split('/').map(module).collect::<Vec<_>>().join("::")
    }

    /// The class that a table or an association of many is named after.
    pub(crate) fn class(&self, many: &str) -> String {
        let last = many.rsplit('.').next().unwrap_or(many);
        self.camelized(&self.singular(last))
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn plurals_as_the_framework_has_them() {
        let words = "person people, child children, man men, seaman seamen, woman women, \
                     mouse mice, ox oxen, quiz quizzes, matrix matrices, vertex vertices, \
                     index indices, axis axes, datum data, medium media, analysis analyses, \
                     crisis crises, basis bases, octopus octopi, virus viri, status statuses, \
                     alias aliases, bus buses, shoe shoes, wife wives, knife knives, life lives, \
                     half halves, wolf wolves, shelf shelves, scarf scarves, wharf wharves, \
                     safe saves, tomato tomatoes, stadium stadia, ferry ferries, hatch hatches, \
                     levy levies, quay quays, buoy buoys, equipment equipment, species species, \
                     fish fish, news news, leaf leafs, thief thiefs, loaf loafs, hero heros, \
                     cargo cargos, embargo embargos, potato potatos, echo echos, foot foots, \
                     tooth tooths, goose gooses, criterion criterions, phenomenon phenomenons, \
                     appendix appendixes, staff staffs, crew crews, deer deers, \
                     software softwares, chassis chasses, gas gas, lens lens, campus campus, \
                     bonus bonus, census census, customs customs, data data, \
                     criteria criteria, sms sms, \
                     port_call port_calls, sea_fish sea_fishes";
        for pair in words.split(", ") {
            let (one, many) = pair.split_once(' ').expect("a word and its plural");
            assert_eq!(Inflections::default().plural(one), many, "{one}");
        }
    }

    #[test]
    fn singular_is_not_the_reverse() {
        let words = "berths berth, quays quay, ferries ferry, people person, men man, \
                     cookies cooky, canoes cano, caches cach, waves wafe, leaves leafe, \
                     bases basis, campus campu, gas ga, lens len, chasses chass, customs custom, \
                     statuses status, boxes box, mice mouse, indices index, media medium";
        for pair in words.split(", ") {
            let (many, one) = pair.split_once(' ').expect("a word and its singular");
            assert_eq!(Inflections::default().singular(many), one, "{many}");
        }
    }

    #[test]
    fn tables_of_classes() {
        let words = "PortCall port_calls, Port::Crane cranes, HTTPServer http_servers, \
                     GPSFix gps_fixes, ABTest ab_tests, OAuthToken o_auth_tokens, B2B b2_bs, \
                     Address2 address2s, TideWindow tide_windows";
        for pair in words.split(", ") {
            let (class, table) = pair.split_once(' ').expect("a class and its table");
            assert_eq!(Inflections::default().table(class), table, "{class}");
        }
    }

    #[test]
    fn a_project_has_words_of_its_own() {
        let mut own = Inflections::default();
        own.irregular("quay", "quaies");
        own.uncountable("cargo");
        own.acronym("AIS");
        assert!(own.rule(true, "(hold)$", "\\1z") && !own.rule(false, "(?<=x)y", ""));
        for (word, many) in [("quay", "quaies"), ("cargo", "cargo"), ("hold", "holdz")] {
            assert_eq!(own.plural(word), many);
        }
        assert_eq!(
            (own.table("AISFix"), own.class("ais_fixes")),
            ("ais_fixes".into(), "AISFix".into())
        );
    }
}
