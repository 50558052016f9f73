//! What silence means in Sequelize, and what it can say. Source: Sequelize 6.37.8 itself, run on PostgreSQL and SQLite.

use super::types::NUMBERED;
use crate::dialect::conventions::{Actor, Conventions, ExtendedTable, JoinIndexed, JoinKey, KeyNumbered, Makes, SilentActions, Unheld};
use crate::dialect::naming::NamePattern;
use crate::dialect::{Capabilities, Feature, Settings};
use crate::schema::{Action, Database, Identity, UniqueAs};

/// What its query generators leave out without a word.
const UNHELD: &[Unheld] = &[Unheld { feature: Feature::CoveringIndex, of_index: Makes::TheRest, of_constraint: Makes::TheRest }];

/// The answers for these settings.
pub(super) fn conventions(settings: &Settings) -> Conventions {
    let database = settings.database();
    Conventions {
        dialect: &super::DIALECT,
        version: settings.version.clone().unwrap_or_else(|| "6".into()),
        database,
        types: super::types::table(database),
        natives: super::types::NATIVE,
        takes_native: |_, _| true,
        column_nullable: true,
        documents: false,
        reference_nullable: true,
        implied_key: Some(("id", format!("INTEGER{NUMBERED}"))),
        implied_key_default: None,
        key_written: true,
        extended_table: ExtendedTable::Copied,
        generated_nullable: false,
        key_listed: false,
        join_columns: true,
        references_on_columns: false,
        relation_lists_columns: true,
        join_named: true,
        joins_by_class: true,
        kind_by_uniqueness: true,
        uniques_named: false,
        enum_type_named: false,
        both_defaults: false,
        purposes_repeat: false,
        refers_to_any: true,
        key_references_in_circles: database == Database::Sqlite,
        required_in_circles: true,
        keyless_readable: true,
        both_sides: false,
        references_enforced: true,
        silent_actions: SilentActions { required: Action::NoAction, optional: Action::NoAction, on_update: Action::Cascade },
        one_to_one_unique: false,
        indexes_listed: true,
        unique_of_key_listed: false,
        unique_as_index: false,
        code_as_column: true,
        untyped: false,
        arrays_nullable: false,
        identities: match database {
            Database::Sqlite => &[Identity::AutoIncrement, Identity::ByDefault],
            _ => &[Identity::Sequence, Identity::ByDefault],
        },
        numbers_any_column: database == Database::PostgreSql,
        nullable_as_in_code: false,
        whole_key_numbered: if database == Database::Sqlite { KeyNumbered::ByRow } else { KeyNumbered::WhenSaid },
        expressions_name_attributes: false,
        query_form: |_| false,
        // A text that goes to the server as it is is no type of `ARRAY`.
        element_word: |word| word.starts_with(|first: char| first.is_ascii_uppercase()),
        array_word: "ARRAY",
        time_actor: Actor::Application,
        enum_type: NamePattern::fixed("enum_{table}_{column}"),
        shorten: |name, _| name.to_owned(),
        generated_key: if database == Database::Sqlite { Identity::AutoIncrement } else { Identity::Sequence },
        table: NamePattern::own("{name|inflected}", &[("inflected", super::inflection::plural)]),
        column: NamePattern::fixed("{attribute}"),
        reference_column: NamePattern::fixed("{attribute}_{column} | camel"),
        parent_link: NamePattern::fixed("{name|camel}"),
        join_table: NamePattern::fixed(""),
        // Both are named where the relation is declared.
        join_column: NamePattern::fixed(""),
        join_column_to_self: (NamePattern::fixed(""), NamePattern::fixed("")),
        join_key: JoinKey::Pair,
        join_actions: (Action::Cascade, Action::Cascade),
        join_inverse_actions: (Action::Cascade, Action::Cascade),
        join_indexed: JoinIndexed::Neither,
        reference_indexed: false,
        index_name: Some(NamePattern::fixed("{table}_{columns} | snake")),
        unbounded_indexed: true,
        references_unsigned: true,
        delete_actor: Actor::Database,
        application_actions: &[],
        null_set_on_required: true,
        deferrable: None,
        unique_pair_as: UniqueAs::Constraint,
        inverse: None,
        input_voice: false,
        input_required: false,
        code_voice: true,
        text_pattern_index: false,
        unsigned_check: false,
        update_time_stored: false,
        kept_time_digits: None,
        unheld: UNHELD,
        json_check: false,
        comments_stored: database != Database::Sqlite,
        index_name_limit: None,
        table_comments_quoted: true,
    }
}

/// What can be said.
pub(super) fn capabilities(settings: &Settings) -> Capabilities {
    let database = settings.database();
    let mut missing = vec![
        Feature::KeyOfView,
        Feature::SymmetricalRelation,
        Feature::ThroughFields,
        Feature::ApplicationUpdate,
        Feature::ApplicationAction,
        Feature::CoveringIndex,
        Feature::DeferrableUnique,
        Feature::NullsNotDistinct,
        Feature::Check,
        Feature::Exclusion,
        Feature::StoredGenerated,
        Feature::VirtualGenerated,
        Feature::Collation,
        Feature::CodeValues,
        Feature::InputRules,
        Feature::Format,
        Feature::InputVoice,
        Feature::DisplayLabel,
        Feature::Order,
        Feature::JoinedInheritance,
        Feature::SameTable,
        Feature::CompositeReference,
        Feature::View,
        Feature::ConstraintName,
    ];
    if database == Database::Sqlite {
        missing.extend([Feature::Deferrable, Feature::EnumType]);
    }
    let index_methods: &[&str] = if database == Database::PostgreSql { &["gin", "gist", "brin", "hash", "spgist"] } else { &[] };
    Capabilities { index_methods, ..Capabilities::all_but(&missing).on(database.server()) }
}
