//! What Mongoose calls a collection: the plural of the model's name, in small letters
//! (`lib/helpers/pluralize.js` of 8.24.10).

/// Words that have no plural.
const UNCOUNTABLE: &[&str] = &[
    "advice",
    "energy",
    "excretion",
    "digestion",
    "cooperation",
    "health",
    "justice",
    "labour",
    "machinery",
    "equipment",
    "information",
    "pollution",
    "sewage",
    "paper",
    "money",
    "species",
    "series",
    "rain",
    "rice",
    "fish",
    "sheep",
    "moose",
    "deer",
    "news",
    "expertise",
    "status",
    "media",
];

/// Whole words.
const WHOLE: &[(&str, &str)] = &[("ox", "oxen"), ("goose", "geese")];

/// Endings in the order in which they are tried: how many letters go, and what is added.
const ENDINGS: &[(&str, usize, &str)] = &[
    ("human", 0, "s"),
    ("man", 2, "en"),
    ("person", 4, "ople"),
    ("child", 0, "ren"),
    ("axis", 2, "es"),
    ("testis", 2, "es"),
    ("octopus", 2, "i"),
    ("virus", 2, "i"),
    ("alias", 0, "es"),
    ("status", 0, "es"),
    ("bus", 0, "es"),
    ("buffalo", 0, "es"),
    ("tomato", 0, "es"),
    ("potato", 0, "es"),
    ("tum", 2, "a"),
    ("ium", 2, "a"),
    ("sis", 2, "es"),
    ("lf", 1, "ves"),
    ("rf", 1, "ves"),
    ("ffe", 0, "s"),
    ("fe", 2, "ves"),
    ("hive", 0, "s"),
    ("quy", 1, "ies"),
    ("ay", 0, "s"),
    ("ey", 0, "s"),
    ("iy", 0, "s"),
    ("oy", 0, "s"),
    ("uy", 0, "s"),
    ("yy", 0, "s"),
    ("y", 1, "ies"),
    ("x", 0, "es"),
    ("ch", 0, "es"),
    ("ss", 0, "es"),
    ("sh", 0, "es"),
    ("mouse", 4, "ice"),
    ("louse", 4, "ice"),
    ("quiz", 0, "zes"),
    ("s", 0, ""),
];

/// The name of the collection of a model.
pub(crate) fn name(model: &str) -> String {
    let word = model.to_lowercase();
    if UNCOUNTABLE.contains(&word.as_str()) {
        return word;
    }
    if let Some((_, plural)) = WHOLE.iter().find(|(whole, _)| *whole == word) {
        return (*plural).to_owned();
    }
    // A bare ending of one letter or two has nothing before it that a rule could look at.
    let fits = |(ending, cut, _): &&(&str, usize, &str)| {
        word.ends_with(ending) && (*cut < ending.len() || word.len() > ending.len())
    };
    match ENDINGS.iter().find(fits) {
        Some((_, cut, added)) => format!("{}{added}", &word[..word.len() - cut]),
        None if word.ends_with(|last: char| !last.is_ascii_lowercase()) => word,
        None => word + "s",
    }
}

#[cfg(test)]
mod tests {
    use super::name;

    /// As the framework itself answers.
    #[test]
    fn collections_are_called_as_mongoose_calls_them() {
        for (model, collection) in [
            ("Person", "people"),
            ("Category", "categories"),
            ("SignalStatus", "signalstatuses"),
            ("sensorData", "sensordatas"),
            ("Tram", "trams"),
            ("PortCall", "portcalls"),
            ("Quay", "quays"),
            ("Status", "status"),
            ("Helmsman", "helmsmen"),
            ("Wharf", "wharves"),
            ("Box", "boxes"),
            ("Goods", "goods"),
            ("Berth2", "berth2"),
            ("Knife", "knives"),
            ("Stadium", "stadia"),
            ("Y", "ys"),
        ] {
            assert_eq!(name(model), collection);
        }
    }
}
