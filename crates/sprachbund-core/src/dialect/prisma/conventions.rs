//! What silence means in a Prisma schema, and what it can say. Source: the schema engine of Prisma 7.10 itself; of MariaDB and
//! MySQL, for which npm carries no SQL, its documentation, unverified.

use crate::dialect::conventions::{Actor, Conventions, ExtendedTable, JoinIndexed, JoinKey, KeyNumbered, SilentActions};
use crate::dialect::naming::NamePattern;
use crate::dialect::{Capabilities, Feature, Settings};
use crate::schema::{Action, Database, Identity, UniqueAs};

/// What the client does where the database keeps no references; the last one on MySQL and MariaDB only.
const CLIENT_ACTIONS: [Action; 4] = [Action::Cascade, Action::Restrict, Action::SetNull, Action::NoAction];

/// The answers for these settings.
pub(super) fn conventions(settings: &Settings) -> Conventions {
    let database = settings.database();
    let enforced = settings.references_enforced.unwrap_or(true);
    let counter = match database {
        Database::PostgreSql | Database::MongoDb => &[Identity::Sequence],
        Database::MySql | Database::MariaDb => &[Identity::ByDefault],
        Database::Sqlite => &[Identity::AutoIncrement],
    };
    Conventions {
        dialect: &super::DIALECT,
        version: settings.version.clone().unwrap_or_else(|| "7".into()),
        database,
        types: super::types::table(database),
        natives: &[],
        takes_native: |_, _| true,
        column_nullable: false,
        documents: false,
        reference_nullable: false,
        implied_key: None,
        implied_key_default: None,
        key_written: false,
        extended_table: ExtendedTable::Copied,
        generated_nullable: false,
        key_listed: true,
        join_columns: true,
        references_on_columns: false,
        relation_lists_columns: true,
        join_named: false,
        joins_by_class: false,
        kind_by_uniqueness: false,
        uniques_named: true,
        enum_type_named: true,
        both_defaults: false,
        purposes_repeat: true,
        refers_to_any: false,
        key_references_in_circles: true,
        required_in_circles: true,
        keyless_readable: false,
        both_sides: true,
        references_enforced: enforced,
        silent_actions: SilentActions { required: Action::Restrict, optional: Action::SetNull, on_update: Action::Cascade },
        one_to_one_unique: false,
        indexes_listed: true,
        unique_of_key_listed: false,
        unique_as_index: true,
        code_as_column: true,
        untyped: false,
        arrays_nullable: true,
        identities: counter,
        numbers_any_column: database == Database::PostgreSql,
        nullable_as_in_code: false,
        whole_key_numbered: if database == Database::Sqlite { KeyNumbered::Always } else { KeyNumbered::WhenSaid },
        expressions_name_attributes: false,
        query_form: |_| false,
        element_word: |_| true,
        array_word: "[]",
        time_actor: Actor::Application,
        enum_type: NamePattern::fixed("{enumeration}"),
        shorten: |name, _| name.to_owned(),
        generated_key: counter[0],
        table: NamePattern::fixed("{name}"),
        column: NamePattern::fixed("{attribute}"),
        reference_column: NamePattern::fixed("{attribute}_{column} | camel"),
        parent_link: NamePattern::fixed("{name|camel}"),
        join_table: NamePattern::fixed("_{first}To{second}"),
        // One letter for both sides, which are then told apart.
        join_column: NamePattern::fixed("A"),
        join_column_to_self: (NamePattern::fixed("A"), NamePattern::fixed("B")),
        join_key: if database == Database::PostgreSql { JoinKey::Pair } else { JoinKey::None },
        join_actions: (Action::Cascade, Action::Cascade),
        join_inverse_actions: (Action::Cascade, Action::Cascade),
        join_indexed: JoinIndexed::Second,
        reference_indexed: false,
        index_name: Some(NamePattern::fixed("{table}_{columns}_idx")),
        unbounded_indexed: true,
        references_unsigned: true,
        delete_actor: if enforced { Actor::Database } else { Actor::Application },
        application_actions: if database.is_mysql() { &CLIENT_ACTIONS } else { &CLIENT_ACTIONS[..3] },
        null_set_on_required: database == Database::PostgreSql && enforced,
        deferrable: None,
        unique_pair_as: UniqueAs::Index,
        inverse: None,
        input_voice: false,
        input_required: false,
        code_voice: true,
        text_pattern_index: false,
        unsigned_check: false,
        update_time_stored: false,
        kept_time_digits: None,
        unheld: &[],
        json_check: false,
        comments_stored: false,
        index_name_limit: None,
        table_comments_quoted: true,
    }
}

/// What can be said.
pub(super) fn capabilities(settings: &Settings) -> Capabilities {
    let database = settings.database();
    let mut missing = vec![
        Feature::SymmetricalRelation,
        Feature::ThroughFields,
        Feature::ApplicationDefault,
        Feature::ApplicationUpdate,
        Feature::Deferrable,
        Feature::UnenforcedReference,
        Feature::ExpressionIndex,
        Feature::CoveringIndex,
        Feature::PartialIndex,
        Feature::UniqueIndex,
        Feature::DeferrableUnique,
        Feature::NullsNotDistinct,
        Feature::Check,
        Feature::Exclusion,
        Feature::StoredGenerated,
        Feature::VirtualGenerated,
        Feature::ColumnComment,
        Feature::TableComment,
        Feature::Collation,
        Feature::ChoicesOfAny,
        Feature::CodeValues,
        Feature::NestedArray,
        Feature::InputRules,
        Feature::Format,
        Feature::InputVoice,
        Feature::DisplayLabel,
        Feature::Order,
        Feature::SoftDelete,
        Feature::VersionColumn,
        Feature::CreationTime,
        Feature::JoinedInheritance,
        Feature::SameTable,
        Feature::Unmanaged,
        Feature::KeyOfView,
        Feature::InlineEnum,
    ];
    if settings.references_enforced != Some(false) {
        missing.push(Feature::ApplicationAction);
    }
    missing.extend(match database {
        Database::PostgreSql | Database::MongoDb => &[Feature::Choices][..],
        Database::Sqlite => &[Feature::OperatorClass, Feature::IndexMethod, Feature::EnumType, Feature::Namespace, Feature::ConstraintName],
        Database::MySql | Database::MariaDb => {
            &[Feature::Choices, Feature::OperatorClass, Feature::IndexMethod, Feature::Namespace, Feature::ConstraintName]
        }
    });
    let index_methods: &[&str] = if database == Database::PostgreSql { &["gin", "gist", "brin", "hash", "spgist"] } else { &[] };
    Capabilities { index_methods, ..Capabilities::all_but(&missing).on(database.server()) }
}
