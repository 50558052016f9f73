//! What a dialect can say at all.

pub use crate::schema::feature::{FEATURES, Feature};
use crate::schema::{Index, IndexPart};
use crate::server::ServerRelease;

/// What an index needs beyond plain columns.
pub fn of_index(index: &Index) -> Vec<Feature> {
    let part = |test: fn(&IndexPart) -> bool| index.parts.iter().any(test);
    let needs = [
        (part(|part| part.descending), Feature::DescendingIndex),
        (part(|part| part.expression.is_some()), Feature::ExpressionIndex),
        (part(|part| part.operator_class.is_some()), Feature::OperatorClass),
        (index.method.is_some(), Feature::IndexMethod),
        (!index.include.is_empty(), Feature::CoveringIndex),
        (index.condition.is_some(), Feature::PartialIndex),
        (index.nulls_not_distinct, Feature::NullsNotDistinct),
    ];
    needs.into_iter().filter(|(needed, _)| *needed).map(|(_, feature)| feature).collect()
}

/// The words for a feature.
pub fn words(feature: Feature) -> &'static str {
    FEATURES.iter().find(|(known, _)| *known == feature).map_or("", |(_, words)| words)
}

/// The capabilities of one dialect, version and database.
#[derive(Clone, Debug)]
pub struct Capabilities {
    pub has: Vec<Feature>,
    /// Access methods of indexes that can be said, beside the server's usual one.
    pub index_methods: &'static [&'static str],
}

impl Capabilities {
    /// Whether the dialect can say it.
    pub fn has(&self, feature: Feature) -> bool {
        self.has.contains(&feature)
    }

    /// The same, without what the server cannot hold.
    pub fn on(mut self, server: ServerRelease) -> Self {
        self.has.retain(|feature| !server.lacks(*feature));
        self
    }

    /// Everything but these.
    pub fn all_but(missing: &[Feature]) -> Self {
        let all = FEATURES.iter().map(|(feature, _)| *feature);
        Capabilities {
            has: all.filter(|feature| !missing.contains(feature)).collect(),
            index_methods: &[],
        }
    }
}
