//! What silence means in a Prisma schema, and what it can say. Source: the schema engine of Prisma
//! 7.10 itself; of 5.22 and 6.19 what their validation takes. Of MariaDB and MySQL, for which npm
//! carries no SQL, and of the join tables of 5, its documentation, unverified.

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
use crate::dialect::{Capabilities, Feature, Settings};
use crate::schema::{Action, Database, Identity, UniqueAs};

/// What the client does where the database keeps no references; the last one on MySQL and MariaDB
/// only.
const CLIENT_ACTIONS: [Action; 4] =
    [Action::Cascade, Action::Restrict, Action::SetNull, Action::NoAction];

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
        version: settings.release(&super::DIALECT),
        database,
        words: Words {
            types: super::types::of_release(&settings.release(&super::DIALECT), database),
            natives: &[],
            takes_native: |_, _| true,
            element: |_| true,
            array: "[]",
        },
        grammar: grammar(),
        limits: limits(database, counter),
        keys: Keys {
            implied: None,
            implied_default: None,
            written: false,
            generated: counter[0],
            whole_numbered: if database == Database::Sqlite {
                KeyNumbered::Always
            } else {
                KeyNumbered::WhenSaid
            },
        },
        extended_table: ExtendedTable::Copied,
        nullability: Nullability {
            column: false,
            reference: false,
            arrays: true,
            generated: false,
            follows_code: false,
            code_follows: true,
            required_on_input: false,
        },
        layers: Layers { input: false, code: true },
        names: names(),
        joins: joins(settings),
        references: References {
            enforced,
            indexed: false,
            one_to_one_unique: false,
            kind_by_uniqueness: false,
            deferrable: None,
        },
        delete: DeleteActions {
            silent: SilentActions {
                required: Action::Restrict,
                optional: Action::SetNull,
                on_update: Action::Cascade,
            },
            actor: if enforced { Actor::Database } else { Actor::Application },
            application: if database.is_mysql() { &CLIENT_ACTIONS } else { &CLIENT_ACTIONS[..3] },
            database: &[],
            null_on_required: database == Database::PostgreSql && enforced,
        },
        indexes: Indexes {
            unique_as_index: true,
            unique_pair_as: UniqueAs::Index,
            unbounded: true,
            text_pattern: false,
            unheld: &[],
        },
        times: Times { actor: Actor::Application, update_stored: false, kept_digits: None },
        checks: Checks { json: false },
    }
}

/// Where each thing is declared.
fn grammar() -> Grammar {
    Grammar {
        columns: ColumnPlace::Class,
        reference: ReferencePlace::ListedColumns,
        join_table: JoinTablePlace::Relation,
        key: KeyPlace::Class,
        index: IndexPlace::Class,
        unique_of_key: IndexPlace::Column,
        constraint_names: ConstraintNames::Optional,
        expressions: ExpressionNames::Columns,
        now: NowFunction::Transaction,
        application_action: ActionPlace::Reference,
        query_form: |_| false,
        untyped: false,
        both_sides: true,
    }
}

/// What can be said of it, and how much.
fn limits(database: Database, counter: &'static [Identity]) -> Limits {
    Limits {
        join_names: JoinNames::Nothing,
        exclusions_as_sql: true,
        uniques_repeat: true,
        sequence_beside_key: true,
        joins_by_class: false,
        uniques_named: true,
        enum_type_named: true,
        both_defaults: false,
        purposes_repeat: true,
        refers_to_any: false,
        key_references_in_circles: true,
        required_in_circles: true,
        keyless_readable: false,
        texts_without_length: true,
        numbers_any_column: database == Database::PostgreSql,
        identities: counter,
        index_name: None,
        table_comments_quoted: true,
        comments_stored: false,
    }
}

/// The names of what nobody named.
fn names() -> Names {
    Names {
        table: NamePattern::fixed("{name}"),
        column: NamePattern::fixed("{attribute}"),
        reference_column: NamePattern::fixed("{attribute}_{column} | camel"),
        parent_link: NamePattern::fixed("{name|camel}"),
        index: Some(NamePattern::fixed("{table}_{columns}_idx")),
        enum_type: NamePattern::fixed("{enumeration}"),
        inverse: None,
        shorten: |name, _| name.to_owned(),
    }
}

/// Join tables that nobody declared.
fn joins(settings: &Settings) -> JoinTables {
    // Until 6 the pair is unique, and no key, on PostgreSQL, too.
    let keyed = settings.database() == Database::PostgreSql
        && at_least(&settings.release(&super::DIALECT), (6, 0));
    JoinTables {
        table: NamePattern::fixed("_{first}To{second}"),
        // One letter for both sides, which are then told apart.
        column: NamePattern::fixed("A"),
        column_to_self: (NamePattern::fixed("A"), NamePattern::fixed("B")),
        key: if keyed { JoinKey::Pair } else { JoinKey::None },
        actions: (Action::Cascade, Action::Cascade),
        inverse_actions: (Action::Cascade, Action::Cascade),
        indexed: JoinIndexed::Second,
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
        Database::Sqlite => &[
            Feature::OperatorClass,
            Feature::IndexMethod,
            Feature::EnumType,
            Feature::Namespace,
            Feature::ConstraintName,
        ],
        Database::MySql | Database::MariaDb => &[
            Feature::Choices,
            Feature::OperatorClass,
            Feature::IndexMethod,
            Feature::Namespace,
            Feature::ConstraintName,
        ],
    });
    if database == Database::Sqlite && !at_least(&settings.release(&super::DIALECT), (6, 0)) {
        // It has no enumerations there (refused by 5.22).
        missing.push(Feature::Choices);
    }
    let index_methods: &[&str] = if database == Database::PostgreSql {
        &["gin", "gist", "brin", "hash", "spgist"]
    } else {
        &[]
    };
    Capabilities { index_methods, ..Capabilities::all_but(&missing).on(settings.server()) }
}
