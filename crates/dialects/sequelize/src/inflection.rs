//! English plurals as Sequelize makes them: by the rules of the `inflection` package 1.13.4, on
//! which it stands.

/// Nouns that have no plural of their own.
#[rustfmt::skip]
const UNCOUNTABLE: &[&str] = &[
    "accommodation", "adulthood", "advertising", "advice", "aggression", "aid", "air", "aircraft",
        "alcohol", "anger", "applause",
    "arithmetic", "assistance", "athletics", "bacon", "baggage", "beef", "biology", "blood",
        "botany", "bread", "butter", "carbon",
    "cardboard", "cash", "chalk", "chaos", "chess", "crossroads", "countryside", "dancing", "deer",
        "dignity", "dirt", "dust",
    "economics", "education", "electricity", "engineering", "enjoyment", "envy", "equipment",
        "ethics", "evidence", "evolution", "fame",
    "fiction", "flour", "flu", "food", "fuel", "fun", "furniture", "gallows", "garbage", "garlic",
        "genetics", "gold", "golf", "gossip",
    "gratitude", "grief", "guilt", "gymnastics", "happiness", "hardware", "harm", "hate", "hatred",
        "health", "heat", "help", "homework",
    "honesty", "honey", "hospitality", "housework", "humour", "hunger", "hydrogen", "ice",
        "importance", "inflation", "information",
    "innocence", "iron", "irony", "jam", "jewelry", "judo", "karate", "knowledge", "lack",
        "laughter", "lava", "leather", "leisure",
    "lightning", "linguine", "linguini", "linguistics", "literature", "litter", "livestock",
        "logic", "loneliness", "luck", "luggage",
    "macaroni", "machinery", "magic", "management", "mankind", "marble", "mathematics",
        "mayonnaise", "measles", "methane", "milk",
    "minus", "money", "mud", "music", "mumps", "nature", "news", "nitrogen", "nonsense", "nurture",
        "nutrition", "obedience", "obesity",
    "oxygen", "pasta", "patience", "physics", "poetry", "pollution", "poverty", "pride",
        "psychology", "publicity", "punctuation",
    "quartz", "racism", "relaxation", "reliability", "research", "respect", "revenge", "rice",
        "rubbish", "rum", "safety", "scenery",
    "seafood", "seaside", "series", "shame", "sheep", "shopping", "sleep", "smoke", "smoking",
        "snow", "soap", "software", "soil",
    "spaghetti", "species", "steam", "stuff", "stupidity", "sunshine", "symmetry", "tennis",
        "thirst", "thunder", "timber", "traffic",
    "transportation", "trust", "underwear", "unemployment", "unity", "validity", "veal",
        "vegetation", "vegetarianism", "vengeance",
    "violence", "vitality", "warmth", "wealth", "weather", "welfare", "wheat", "wildlife", "wisdom",
        "yoga", "zinc", "zoology",
];

/// Whole words that are plurals already.
const PLURALS: &[&str] = &[
    "men",
    "women",
    "summonses",
    "bonuses",
    "feet",
    "teeth",
    "geese",
    "whereases",
    "criteria",
    "genera",
];

/// Endings of words that are plurals already; before the last two there must be another letter than
/// these.
const PLURAL_ENDINGS: &[(&str, &str)] = &[
    ("people", ""),
    ("children", ""),
    ("ta", ""),
    ("ia", ""),
    ("analyses", ""),
    ("bases", ""),
    ("diagnoses", ""),
    ("parentheses", ""),
    ("prognoses", ""),
    ("synopses", ""),
    ("theses", ""),
    ("databases", ""),
    ("drives", ""),
    ("hives", ""),
    ("tives", ""),
    ("curves", ""),
    ("lves", ""),
    ("rves", ""),
    ("ves", "fo"),
    ("quies", ""),
    ("ies", "aeiouy"),
    ("series", ""),
    ("movies", ""),
    ("xes", ""),
    ("ches", ""),
    ("sses", ""),
    ("shes", ""),
    ("mice", ""),
    ("lice", ""),
    ("buses", ""),
    ("oes", ""),
    ("shoes", ""),
    ("crises", ""),
    ("axes", ""),
    ("testes", ""),
    ("octopuses", ""),
    ("viruses", ""),
    ("aliases", ""),
    ("canvases", ""),
    ("statuses", ""),
    ("campuses", ""),
    ("matrices", ""),
    ("quizzes", ""),
];

/// Whole words: how many of their letters stay, and what follows them.
const WORDS: &[(&str, usize, &str)] = &[
    ("man", 1, "en"),
    ("woman", 3, "en"),
    ("ox", 2, "en"),
    ("summons", 7, "es"),
    ("bonus", 5, "es"),
    ("foot", 0, "feet"),
    ("tooth", 0, "teeth"),
    ("goose", 0, "geese"),
    ("whereas", 7, "es"),
    ("criterion", 7, "a"),
    ("genus", 0, "genera"),
];

/// Endings in the order in which they are tried: how many letters go, and what comes; before them
/// there must be another letter than these.
const ENDINGS: &[(&str, &str, usize, &str)] = &[
    ("person", "", 4, "ople"),
    ("child", "", 0, "ren"),
    ("drive", "", 0, "s"),
    ("axis", "", 2, "es"),
    ("testis", "", 2, "es"),
    ("octopus", "", 0, "es"),
    ("virus", "", 0, "es"),
    ("alias", "", 0, "es"),
    ("status", "", 0, "es"),
    ("canvas", "", 0, "es"),
    ("campus", "", 0, "es"),
    ("bus", "", 0, "es"),
    ("buffalo", "", 0, "es"),
    ("tomato", "", 0, "es"),
    ("potato", "", 0, "es"),
    ("tum", "", 2, "a"),
    ("ium", "", 2, "a"),
    ("sis", "", 2, "es"),
    ("fe", "f", 2, "ves"),
    ("lf", "", 1, "ves"),
    ("rf", "", 1, "ves"),
    ("hive", "", 0, "s"),
    ("tive", "", 0, "s"),
    ("quy", "", 1, "ies"),
    ("y", "aeiouy", 1, "ies"),
    ("matrix", "", 1, "ces"),
    ("vertex", "", 2, "ices"),
    ("index", "", 2, "ices"),
    ("x", "", 0, "es"),
    ("ch", "", 0, "es"),
    ("ss", "", 0, "es"),
    ("sh", "", 0, "es"),
    ("mouse", "", 4, "ice"),
    ("louse", "", 4, "ice"),
    ("quiz", "", 0, "zes"),
    ("s", "", 0, ""),
    ("", "", 0, "s"),
];

/// The plural of a name; what comes before the ending stays as it is.
pub(crate) fn plural(name: &str) -> String {
    let lower = name.to_lowercase();
    let ends = |ending: &str, other_than: &str| {
        let before = lower.strip_suffix(ending);
        // Where letters are shut out, there must be a letter.
        before.is_some_and(|before| {
            other_than.is_empty()
                || before.chars().next_back().is_some_and(|letter| !other_than.contains(letter))
        })
    };
    let is_plural = UNCOUNTABLE.contains(&lower.as_str())
        || PLURALS.contains(&lower.as_str())
        || lower.starts_with("oxen")
        || PLURAL_ENDINGS.iter().any(|(ending, other_than)| ends(ending, other_than));
    if is_plural {
        return name.to_owned();
    }
    if let Some((_, kept, added)) = WORDS.iter().find(|(word, _, _)| *word == lower) {
        return name.chars().take(*kept).chain(added.chars()).collect();
    }
    let found = ENDINGS.iter().find(|(ending, other_than, _, _)| ends(ending, other_than));
    let Some((_, _, gone, added)) = found else { return name.to_owned() };
    let kept = name.chars().count().saturating_sub(*gone);
    name.chars().take(kept).chain(added.chars()).collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn plurals_are_those_of_the_framework() {
        for (one, many) in [
            ("Tram", "Trams"),
            ("box", "boxes"),
            ("Category", "Categories"),
            ("Child", "Children"),
            ("Bus", "Buses"),
            ("Status", "Statuses"),
            ("Data", "Data"),
            ("news", "news"),
            ("userAddress", "userAddresses"),
            ("HTTPLog", "HTTPLogs"),
            ("Person", "People"),
            ("Quay", "Quays"),
            ("Woman", "Women"),
            ("Knife", "Knives"),
            ("wharf", "wharves"),
            ("Ox", "Oxen"),
            ("Buffalo", "Buffaloes"),
            ("Stadium", "Stadia"),
            ("Criterion", "Criteria"),
            ("Berths", "Berths"),
        ] {
            assert_eq!(plural(one), many);
        }
    }
}
