//! What a dialect can say at all.

use crate::schema::{Index, IndexPart};
use crate::server::Server;

/// Something that declarations may be able to say.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum Feature {
    DatabaseDefault,
    ApplicationDefault,
    ApplicationUpdate,
    DatabaseAction,
    SetDefault,
    ApplicationAction,
    Deferrable,
    UnenforcedReference,
    DescendingIndex,
    ExpressionIndex,
    OperatorClass,
    IndexMethod,
    CoveringIndex,
    PartialIndex,
    UniqueIndex,
    DeferrableUnique,
    NullsNotDistinct,
    Check,
    Exclusion,
    StoredGenerated,
    VirtualGenerated,
    ColumnComment,
    TableComment,
    Collation,
    Choices,
    ChoicesOfAny,
    CodeValues,
    EnumType,
    NestedArray,
    InputRules,
    Format,
    InputVoice,
    CodeVoice,
    DisplayLabel,
    Order,
    SoftDelete,
    VersionColumn,
    CreationTime,
    UpdateTime,
    JoinedInheritance,
    SameTable,
    Namespace,
    CompositeKey,
    CompositeReference,
    Keyless,
    View,
    KeyOfView,
    Unmanaged,
    InlineEnum,
    ConstraintName,
    SymmetricalRelation,
    ThroughFields,
}

/// Every feature with its words and what is done with it where a dialect lacks it.
pub const FEATURES: &[(Feature, &str)] = &[
    (Feature::DatabaseDefault, "default kept in the database"),
    (Feature::ApplicationDefault, "default filled in by the application"),
    (Feature::ApplicationUpdate, "value set by the application at an update"),
    (Feature::DatabaseAction, "action on delete taken by the database"),
    (Feature::SetDefault, "default set on delete by the database"),
    (Feature::ApplicationAction, "action on delete taken by the application"),
    (Feature::Deferrable, "foreign key checked at commit"),
    (Feature::UnenforcedReference, "reference without a foreign key in the database"),
    (Feature::DescendingIndex, "descending key of an index"),
    (Feature::ExpressionIndex, "index over an expression"),
    (Feature::OperatorClass, "operator class of an index key"),
    (Feature::IndexMethod, "access method of an index"),
    (Feature::CoveringIndex, "further columns carried by an index"),
    (Feature::PartialIndex, "index with a condition"),
    (Feature::UniqueIndex, "unique index apart from a unique constraint"),
    (Feature::DeferrableUnique, "unique constraint checked at commit"),
    (Feature::NullsNotDistinct, "uniqueness for which null counts as a value"),
    (Feature::Check, "check constraint"),
    (Feature::Exclusion, "exclusion constraint"),
    (Feature::StoredGenerated, "generated column kept in the table"),
    (Feature::VirtualGenerated, "generated column computed when read"),
    (Feature::ColumnComment, "comment of a column"),
    (Feature::TableComment, "comment of a table"),
    (Feature::Collation, "collation of a column"),
    (Feature::Choices, "values restricted by the application"),
    (Feature::ChoicesOfAny, "values restricted by the application, of any column"),
    (Feature::CodeValues, "values of an enumeration in the code, apart from those stored"),
    (Feature::EnumType, "enumeration type of the database"),
    (Feature::NestedArray, "array of arrays"),
    (Feature::InputRules, "rules of input validation"),
    (Feature::Format, "text format checked on input"),
    (Feature::InputVoice, "presence required on input"),
    (Feature::CodeVoice, "presence in the type of the code"),
    (Feature::DisplayLabel, "display text of a record"),
    (Feature::Order, "natural order of records"),
    (Feature::SoftDelete, "records marked as deleted"),
    (Feature::VersionColumn, "version counted by the framework"),
    (Feature::CreationTime, "time of creation kept by the framework"),
    (Feature::UpdateTime, "time of the last change kept by the framework"),
    (Feature::JoinedInheritance, "child table joined to its parent's"),
    (Feature::SameTable, "second class over one table"),
    (Feature::Namespace, "table in a named schema of the database"),
    (Feature::CompositeKey, "key of several columns"),
    (Feature::CompositeReference, "relation over several columns"),
    (Feature::Keyless, "table without a key"),
    (Feature::View, "class of a view"),
    (Feature::KeyOfView, "key of a view"),
    (Feature::Unmanaged, "table that something else creates"),
    (Feature::InlineEnum, "list of values without a name of its own"),
    (Feature::ConstraintName, "name of a key constraint"),
    (Feature::SymmetricalRelation, "relation to itself that goes both ways at once"),
    (Feature::ThroughFields, "references of a join table that are named at the relation"),
];

/// What an index needs beyond plain columns.
pub(crate) fn of_index(index: &Index) -> Vec<Feature> {
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
pub(crate) fn words(feature: Feature) -> &'static str {
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
    pub fn on(mut self, server: &Server) -> Self {
        self.has.retain(|feature| !server.lacks.contains(feature));
        self
    }

    /// Everything but these.
    pub fn all_but(missing: &[Feature]) -> Self {
        let all = FEATURES.iter().map(|(feature, _)| *feature);
        Capabilities { has: all.filter(|feature| !missing.contains(feature)).collect(), index_methods: &[] }
    }
}
