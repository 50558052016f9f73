//! Names that conventions make: patterns over the names at hand, and the letter cases that
//! frameworks use.

use std::fmt;

pub use crate::quoting::case::Case;

const CASES: &[(&str, Case)] = &[
    ("lower", Case::Lower),
    ("snake", Case::Snake),
    ("camel", Case::Camel),
    ("pascal", Case::Pascal),
    ("kebab", Case::Kebab),
];

/// What stands for a table that no class stands for: `vessel_owners` gives `VesselOwnersTable`.
pub fn name_of_table(table: &str) -> String {
    let legal: String =
        table.chars().map(|letter| if letter.is_alphanumeric() { letter } else { '_' }).collect();
    format!("{}Table", Case::Pascal.apply(&legal))
}

/// The module of a file: its folder, skipping folders that say nothing.
pub fn module_of(path: &str, plain_folders: &[&str], fallback: &str) -> String {
    let mut folders: Vec<&str> =
        path.split('/').filter(|part| !part.is_empty() && *part != ".").collect();
    folders.pop();
    let speaking =
        folders.iter().rev().find(|folder| !plain_folders.contains(folder)).or(folders.last());
    speaking.map_or_else(|| fallback.to_owned(), |folder| (*folder).to_owned())
}

/// English plural of the last word of a name, as far as names of things need it.
pub fn plural(name: &str) -> String {
    let ends = |suffixes: &[&str]| suffixes.iter().any(|suffix| name.ends_with(suffix));
    match name.strip_suffix('y') {
        Some(stem) if !ends(&["ay", "ey", "oy", "uy"]) => format!("{stem}ies"),
        _ if ends(&["s", "x", "z", "ch", "sh"]) => format!("{name}es"),
        _ => format!("{name}s"),
    }
}

/// What one of the things is called that a name in the plural stands for; the way back of
/// [`plural`].
pub fn singular(name: &str) -> String {
    const IRREGULAR: &[(&str, &str)] = &[
        ("people", "person"),
        ("children", "child"),
        ("men", "man"),
        ("series", "series"),
        ("news", "news"),
    ];
    if let Some((many, one)) =
        IRREGULAR.iter().find(|(many, _)| name == *many || name.ends_with(&format!("_{many}")))
    {
        return format!("{}{one}", name.strip_suffix(many).unwrap_or_default());
    }
    let strip = |suffix: &str| name.strip_suffix(suffix).filter(|stem| !stem.is_empty());
    let ends = |suffixes: &[&str]| suffixes.iter().any(|suffix| name.ends_with(suffix));
    match (strip("ies"), strip("es"), strip("s")) {
        (Some(stem), _, _) => format!("{stem}y"),
        (_, Some(stem), _)
            if ["us", "ss", "x", "z", "ch", "sh"].iter().any(|end| stem.ends_with(end)) =>
        {
            stem.to_owned()
        }
        (_, _, Some(stem)) if !ends(&["ss", "us", "is"]) => stem.to_owned(),
        _ => name.to_owned(),
    }
}

/// A name made from others: `{module}_{name|lower}`, and a case for the whole after ` | `.
///
/// The names at hand are, as far as the question has them: `module`, `name` (the class),
/// `attribute`, `column` (the referenced one), `table`, `target` (the other class), `target_table`,
/// `ordinary` (what the name would be elsewhere), `enumeration`.
#[derive(Clone, Debug)]
pub struct NamePattern {
    text: String,
    /// What a framework makes of names in a way of its own: the word for it, and how.
    own: &'static [OwnFilter],
}

/// A word for what a framework makes of a name, and how it does it.
pub type OwnFilter = (&'static str, fn(&str) -> String);

/// A pattern that does not parse.
#[derive(Debug, thiserror::Error, PartialEq, Eq)]
#[error(
    "`{0}` is not a name pattern; expected text with `{{word}}` or `{{word|case}}` and words \
     from module, name, attribute, column, table, target, target_table"
)]
pub struct BadPattern(String);

const WORDS: &[&str] = &[
    "module",
    "name",
    "attribute",
    "column",
    "table",
    "target",
    "target_table",
    "ordinary",
    "enumeration",
];

impl NamePattern {
    /// Checks and keeps a pattern.
    pub fn parse(text: &str) -> Result<Self, BadPattern> {
        let bad = || BadPattern(text.to_owned());
        let (body, whole) =
            text.rsplit_once(" | ").map_or((text, None), |(body, case)| (body, Some(case)));
        if whole.is_some_and(|case| filter(case).is_none()) {
            return Err(bad());
        }
        let mut rest = body;
        while let Some((_, tail)) = rest.split_once('{') {
            let (inside, tail) = tail.split_once('}').ok_or_else(bad)?;
            let mut steps = inside.split('|');
            let known = steps.next().is_some_and(|word| WORDS.contains(&word));
            if !known || !steps.all(|step| filter(step).is_some()) {
                return Err(bad());
            }
            rest = tail;
        }
        Ok(NamePattern { text: text.to_owned(), own: &[] })
    }

    /// A pattern of a dialect's own table.
    pub fn fixed(text: &str) -> Self {
        Self::own(text, &[])
    }

    /// The same, with filters that are the framework's own.
    pub fn own(text: &str, own: &'static [OwnFilter]) -> Self {
        NamePattern { text: text.to_owned(), own }
    }

    /// What a word after `|` does.
    fn filter(&self, word: &str) -> Option<fn(&str) -> String> {
        self.own
            .iter()
            .find(|(own, _)| *own == word)
            .map(|(_, make)| *make)
            .or_else(|| filter(word))
    }

    /// The name that this pattern makes of `names`.
    pub fn apply(&self, names: &[(&str, &str)]) -> String {
        if self.text == "{attribute}" {
            return names
                .iter()
                .find(|(name, _)| *name == "attribute")
                .map_or(String::new(), |(_, value)| (*value).to_owned());
        }
        let (body, whole) = self
            .text
            .rsplit_once(" | ")
            .map_or((self.text.as_str(), None), |(body, case)| (body, self.filter(case)));
        let mut out = String::with_capacity(body.len() + 16);
        let mut rest = body;
        while let Some((head, tail)) = rest.split_once('{') {
            let (inside, tail) = tail.split_once('}').unwrap_or((tail, ""));
            out.push_str(head);
            let mut steps = inside.split('|');
            let word = steps.next().unwrap_or_default();
            let start = names.iter().find(|(name, _)| *name == word).map_or("", |(_, value)| value);
            match steps
                .filter_map(|step| self.filter(step))
                .fold(None, |text: Option<String>, step| {
                    Some(step(text.as_deref().unwrap_or(start)))
                }) {
                Some(changed) => out.push_str(&changed),
                None => out.push_str(start),
            }
            rest = tail;
        }
        out.push_str(rest);
        whole.map_or(out.clone(), |case| case(&out))
    }
}

fn filter(word: &str) -> Option<fn(&str) -> String> {
    Some(match word {
        "plural" => plural,
        _ => match CASES.iter().find(|(name, _)| *name == word)?.1 {
            Case::Lower => |text| Case::Lower.apply(text),
            Case::Snake => |text| Case::Snake.apply(text),
            Case::Camel => |text| Case::Camel.apply(text),
            Case::Pascal => |text| Case::Pascal.apply(text),
            Case::Kebab => |text| Case::Kebab.apply(text),
            Case::Verbatim => |text| text.to_owned(),
        },
    })
}

impl fmt::Display for NamePattern {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(&self.text)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn cases_and_plurals() {
        for (case, from, to) in [
            (Case::Snake, "HTTPServerLogV2", "http_server_log_v2"),
            (Case::Snake, "PortCall", "port_call"),
            (Case::Camel, "port_call", "portCall"),
            (Case::Camel, "Vessel_id", "vesselId"),
            (Case::Pascal, "port_call", "PortCall"),
            (Case::Kebab, "TideWindow", "tide-window"),
            (Case::Lower, "PortCall", "portcall"),
        ] {
            assert_eq!(case.apply(from), to);
        }
        for (one, many) in
            [("quay", "quays"), ("berth", "berths"), ("entry", "entries"), ("box", "boxes")]
        {
            assert_eq!(plural(one), many);
            assert_eq!(singular(many), one);
        }
        for (many, one) in [
            ("port_calls", "port_call"),
            ("statuses", "status"),
            ("licences", "licence"),
            ("status", "status"),
            ("berth", "berth"),
            ("ship_people", "ship_person"),
        ] {
            assert_eq!(singular(many), one);
        }
    }

    #[test]
    fn patterns() {
        let names = [
            ("module", "harbour"),
            ("name", "PortCall"),
            ("attribute", "tide_window"),
            ("column", "id"),
        ];
        for (pattern, made) in [
            ("{module}_{name|lower}", "harbour_portcall"),
            ("{attribute}_{column} | camel", "tideWindowId"),
            ("{name|snake|plural}", "port_calls"),
        ] {
            assert_eq!(
                NamePattern::parse(pattern).map(|pattern| pattern.apply(&names)),
                Ok(made.to_owned())
            );
        }
        for bad in ["{nme}", "{name", "{name|shout}", "{name} | shout"] {
            assert!(NamePattern::parse(bad).is_err(), "{bad}");
        }
    }
}
