//! What silence means to ActiveRecord, and what can be said. Where nothing is said here of a
//! bracket, [`bracket`](crate::bracket) does: migrations are read with nothing left unsaid.

use crate::dialect::Settings;
use crate::dialect::capabilities::{Capabilities, Feature};
use crate::dialect::conventions::{
    Actor, Checks, Conventions, DeleteActions, ExtendedTable, Indexes, JoinIndexed, JoinKey,
    JoinTables, KeyNumbered, Keys, Layers, Names, Nullability, References, SilentActions, Times,
    Words,
};
use crate::dialect::grammar::{
    ActionPlace, ColumnPlace, ConstraintNames, ExpressionNames, Grammar, IndexPlace, JoinNames,
    JoinTablePlace, KeyPlace, Limits, NowFunction, ReferencePlace,
};
use crate::dialect::naming::NamePattern;
use crate::dialect::release::at_least;
use crate::schema::{Action, Database, Identity, UniqueAs};

/// The answers for these settings.
pub(super) fn conventions(settings: &Settings) -> Conventions {
    let database = settings.database();
    let counter: &'static [Identity] = match database {
        Database::PostgreSql | Database::MongoDb => &[Identity::Sequence],
        Database::MySql | Database::MariaDb => &[Identity::ByDefault],
        Database::Sqlite => &[Identity::AutoIncrement],
    };
    Conventions {
        dialect: &super::DIALECT,
        version: settings.release(&super::DIALECT),
        database,
        words: Words {
            types: super::types::table(database),
            natives: &[],
            takes_native: |_, _| true,
            element: |_| true,
            array: "array",
        },
        grammar: grammar(),
        limits: limits(database, counter),
        keys: Keys {
            implied: None,
            implied_default: None,
            written: false,
            generated: counter[0],
            whole_numbered: KeyNumbered::WhenSaid,
        },
        extended_table: ExtendedTable::Copied,
        nullability: Nullability {
            column: true,
            reference: true,
            arrays: false,
            generated: false,
            follows_code: false,
            code_follows: false,
            required_on_input: false,
        },
        layers: Layers { input: true, code: false },
        names: names(),
        joins: JoinTables {
            table: NamePattern::fixed("{first}_{second}"),
            column: NamePattern::fixed("{target|snake}_{column}"),
            column_to_self: (
                NamePattern::fixed("{name|snake}_{column}"),
                NamePattern::fixed("{target|snake}_{column}"),
            ),
            key: JoinKey::None,
            actions: (Action::NoAction, Action::NoAction),
            inverse_actions: (Action::NoAction, Action::NoAction),
            indexed: JoinIndexed::Neither,
        },
        references: References {
            enforced: true,
            indexed: false,
            one_to_one_unique: false,
            kind_by_uniqueness: true,
            deferrable: None,
        },
        delete: DeleteActions {
            silent: SilentActions::default(),
            actor: Actor::Database,
            application: &[Action::Cascade, Action::SetNull, Action::Restrict],
            database: &[],
            null_on_required: true,
        },
        indexes: Indexes {
            unique_as_index: uniques_are_indexes(settings),
            unique_pair_as: UniqueAs::Constraint,
            unbounded: true,
            text_pattern: false,
            unheld: &[],
        },
        times: Times { actor: Actor::Application, update_stored: false, kept_digits: Some(6) },
        checks: Checks { json: false },
    }
}

/// Unique constraints came with 7.1, for PostgreSQL.
fn uniques_are_indexes(settings: &Settings) -> bool {
    let release = settings.release(&super::DIALECT);
    settings.database() != Database::PostgreSql || !at_least(&release, (7, 1))
}

/// Where each thing is declared.
fn grammar() -> Grammar {
    Grammar {
        columns: ColumnPlace::History,
        reference: ReferencePlace::JoinColumns,
        join_table: JoinTablePlace::Relation,
        key: KeyPlace::Class,
        index: IndexPlace::Class,
        unique_of_key: IndexPlace::Class,
        constraint_names: ConstraintNames::Optional,
        expressions: ExpressionNames::Columns,
        now: NowFunction::Transaction,
        application_action: ActionPlace::Inverse,
        query_form: |_| false,
        untyped: true,
        both_sides: false,
    }
}

/// What can be said of it, and how much.
fn limits(database: Database, counter: &'static [Identity]) -> Limits {
    Limits {
        join_names: JoinNames::TableAndColumns,
        exclusions_as_sql: true,
        uniques_repeat: true,
        sequence_beside_key: true,
        joins_by_class: true,
        uniques_named: true,
        enum_type_named: true,
        both_defaults: true,
        purposes_repeat: false,
        refers_to_any: true,
        key_references_in_circles: true,
        required_in_circles: true,
        keyless_readable: true,
        texts_without_length: true,
        numbers_any_column: database == Database::PostgreSql,
        identities: counter,
        index_name: None,
        table_comments_quoted: true,
        comments_stored: database != Database::Sqlite,
    }
}

/// The names of what nobody named.
fn names() -> Names {
    Names {
        table: NamePattern::fixed(""),
        column: NamePattern::fixed("{attribute}"),
        reference_column: NamePattern::fixed("{attribute}_id"),
        parent_link: NamePattern::fixed("{name|snake}_{column}"),
        index: None,
        enum_type: NamePattern::fixed("{enumeration}"),
        inverse: None,
        shorten: |name, _| name.to_owned(),
    }
}

/// What no release says.
const NEVER: &[Feature] = &[
    Feature::ApplicationUpdate,
    Feature::CodeVoice,
    Feature::Format,
    Feature::JoinedInheritance,
    Feature::KeyOfView,
    Feature::NestedArray,
    Feature::SetDefault,
    Feature::SymmetricalRelation,
    Feature::Unmanaged,
    Feature::View,
];

/// From which release on what can be said on these servers; on the others, from the first on.
const SINCE: &[(Feature, (u32, u32), &[Database])] = &[
    (Feature::EnumType, (7, 0), &[Database::PostgreSql]),
    (Feature::Deferrable, (7, 0), &[Database::PostgreSql]),
    (Feature::Deferrable, (7, 2), &[Database::Sqlite]),
    (Feature::DeferrableUnique, (7, 1), &[Database::PostgreSql]),
    (Feature::Exclusion, (7, 1), &[Database::PostgreSql]),
    (Feature::NullsNotDistinct, (8, 0), &[Database::PostgreSql]),
    (Feature::CoveringIndex, (7, 1), &[Database::PostgreSql]),
    (Feature::StoredGenerated, (7, 0), &[Database::PostgreSql]),
    (Feature::StoredGenerated, (7, 2), &[Database::Sqlite]),
    (Feature::VirtualGenerated, (8, 1), &[Database::PostgreSql]),
    (Feature::VirtualGenerated, (7, 2), &[Database::Sqlite]),
    (Feature::DescendingIndex, (8, 0), &[Database::MariaDb]),
    (Feature::CompositeReference, (7, 2), &[]),
    (Feature::Namespace, (7, 2), &[Database::PostgreSql]),
];

/// What can be said.
pub(super) fn capabilities(settings: &Settings) -> Capabilities {
    let (release, database) = (settings.release(&super::DIALECT), settings.database());
    let too_new = |(_, since, on): &&(Feature, (u32, u32), &[Database])| {
        (on.is_empty() || on.contains(&database)) && !at_least(&release, *since)
    };
    let later = SINCE.iter().filter(too_new).map(|(feature, ..)| *feature);
    // Where everything unique is kept so by an index, there is one word for both.
    let one_word = uniques_are_indexes(settings).then_some(Feature::UniqueIndex);
    let missing: Vec<Feature> = NEVER.iter().copied().chain(later).chain(one_word).collect();
    let mut can = Capabilities::all_but(&missing).on(settings.server());
    can.index_methods = match database {
        Database::PostgreSql => &["hash", "gin", "gist", "spgist", "brin"],
        _ => &[],
    };
    can
}
