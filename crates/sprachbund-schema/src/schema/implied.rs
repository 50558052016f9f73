//! Which parts of an element a convention filled in.

use serde::{Deserialize, Deserializer, Serialize, Serializer};

/// A part of an element that an author may leave unsaid.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "json-schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "lowercase")]
#[repr(u8)]
pub enum Part {
    /// The table's name.
    Table,
    /// The field as a whole.
    Field,
    /// The column's name.
    Column,
    Nullable,
    /// The name of the other side.
    Inverse,
    /// The relation as a whole.
    Relation,
    /// The name of the class or attribute.
    Name,
    /// What the framework uses the column for.
    Purpose,
}

impl Part {
    /// In the order in which they are written down.
    const ALL: [Part; 8] = [
        Part::Table,
        Part::Field,
        Part::Column,
        Part::Nullable,
        Part::Inverse,
        Part::Relation,
        Part::Name,
        Part::Purpose,
    ];
}

/// A set of parts; a list of words in JSON.
#[derive(Clone, Copy, Default, PartialEq, Eq)]
pub struct Implied(u8);

impl Implied {
    /// Whether the part was filled in.
    pub fn has(self, part: Part) -> bool {
        self.0 & (1 << part as u8) != 0
    }

    /// Marks the part as filled in.
    pub fn add(&mut self, part: Part) {
        self.0 |= 1 << part as u8;
    }

    /// Marks the part as written.
    pub fn remove(&mut self, part: Part) {
        self.0 &= !(1 << part as u8);
    }

    fn parts(self) -> impl Iterator<Item = Part> {
        Part::ALL.into_iter().filter(move |part| self.has(*part))
    }
}

impl FromIterator<Part> for Implied {
    fn from_iter<I: IntoIterator<Item = Part>>(parts: I) -> Self {
        let mut implied = Implied::default();
        parts.into_iter().for_each(|part| implied.add(part));
        implied
    }
}

impl std::fmt::Debug for Implied {
    fn fmt(&self, formatter: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        formatter.debug_set().entries(self.parts()).finish()
    }
}

impl Serialize for Implied {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        serializer.collect_seq(self.parts())
    }
}

impl<'de> Deserialize<'de> for Implied {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        Ok(Vec::<Part>::deserialize(deserializer)?.into_iter().collect())
    }
}

#[cfg(feature = "json-schema")]
impl schemars::JsonSchema for Implied {
    fn schema_name() -> std::borrow::Cow<'static, str> {
        "Implied".into()
    }

    fn json_schema(generator: &mut schemars::SchemaGenerator) -> schemars::Schema {
        Vec::<Part>::json_schema(generator)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_set_of_parts_is_a_list_of_words() {
        for (parts, text) in [
            (&[][..], "[]"),
            (&[Part::Nullable, Part::Column, Part::Column], r#"["column","nullable"]"#),
            (
                &Part::ALL,
                r#"["table","field","column","nullable","inverse","relation","name","purpose"]"#,
            ),
        ] {
            let implied: Implied = parts.iter().copied().collect();
            assert_eq!(serde_json::to_string(&implied).unwrap(), text);
            assert_eq!(serde_json::from_str::<Implied>(text).unwrap(), implied);
        }
    }
}
