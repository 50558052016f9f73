//! What silence means in Sequelize, and what it can say. Source: Sequelize 6.37.8 itself, run on
//! PostgreSQL and SQLite.

use super::types::NUMBERED;

use crate::dialect::conventions::{
    Actor, Checks, Conventions, DeleteActions, ExtendedTable, Indexes, JoinIndexed, JoinKey,
    JoinTables, KeyNumbered, Keys, Layers, Makes, Names, Nullability, References, SilentActions,
    Times, Unheld, Words,
};
use crate::dialect::grammar::{
    ActionPlace, ColumnPlace, ConstraintNames, ExpressionNames, Grammar, IndexPlace, JoinNames,
    JoinTablePlace, KeyPlace, Limits, NowFunction, ReferencePlace,
};
use crate::dialect::naming::NamePattern;
use crate::dialect::{Capabilities, Feature, Settings};
use crate::schema::{Action, Database, Identity, UniqueAs};

/// What its query generators leave out without a word.
const UNHELD: &[Unheld] = &[Unheld {
    feature: Feature::CoveringIndex,
    of_index: Makes::TheRest,
    of_constraint: Makes::TheRest,
}];

/// The answers for these settings.
pub(super) fn conventions(settings: &Settings) -> Conventions {
    let database = settings.database();
    Conventions {
        dialect: &super::DIALECT,
        version: settings.version.clone().unwrap_or_else(|| "6".into()),
        database,
        words: Words {
            types: super::types::table(database),
            natives: super::types::NATIVE,
            takes_native: |_, _| true,
            // A text that goes to the server as it is is no type of `ARRAY`.
            element: |word| word.starts_with(|first: char| first.is_ascii_uppercase()),
            array: "ARRAY",
        },
        grammar: grammar(),
        limits: limits(database),
        keys: Keys {
            implied: Some(("id", format!("INTEGER{NUMBERED}"))),
            implied_default: None,
            written: true,
            generated: if database == Database::Sqlite {
                Identity::AutoIncrement
            } else {
                Identity::Sequence
            },
            whole_numbered: if database == Database::Sqlite {
                KeyNumbered::ByRow
            } else {
                KeyNumbered::WhenSaid
            },
        },
        extended_table: ExtendedTable::Copied,
        nullability: Nullability {
            column: true,
            reference: true,
            arrays: false,
            generated: false,
            follows_code: false,
            code_follows: true,
            required_on_input: false,
        },
        layers: Layers { input: false, code: true },
        names: names(),
        joins: joins(),
        references: References {
            enforced: true,
            indexed: false,
            one_to_one_unique: false,
            kind_by_uniqueness: true,
            deferrable: None,
        },
        delete: DeleteActions {
            silent: SilentActions {
                required: Action::NoAction,
                optional: Action::NoAction,
                on_update: Action::Cascade,
            },
            actor: Actor::Database,
            application: &[],
            database: &[],
            null_on_required: true,
        },
        indexes: Indexes {
            unique_as_index: false,
            unique_pair_as: UniqueAs::Constraint,
            unbounded: true,
            text_pattern: false,
            unheld: UNHELD,
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
        key: KeyPlace::Columns,
        index: IndexPlace::Class,
        unique_of_key: IndexPlace::Column,
        constraint_names: ConstraintNames::Optional,
        expressions: ExpressionNames::Columns,
        now: NowFunction::Transaction,
        application_action: ActionPlace::Reference,
        query_form: |_| false,
        untyped: false,
        both_sides: false,
    }
}

/// What can be said of it, and how much.
fn limits(database: Database) -> Limits {
    Limits {
        join_names: JoinNames::TableAndColumns,
        exclusions_as_sql: true,
        uniques_repeat: true,
        sequence_beside_key: true,
        joins_by_class: true,
        uniques_named: false,
        enum_type_named: false,
        both_defaults: false,
        purposes_repeat: false,
        refers_to_any: true,
        key_references_in_circles: database == Database::Sqlite,
        required_in_circles: true,
        keyless_readable: true,
        texts_without_length: true,
        numbers_any_column: database == Database::PostgreSql,
        identities: match database {
            Database::Sqlite => &[Identity::AutoIncrement, Identity::ByDefault],
            _ => &[Identity::Sequence, Identity::ByDefault],
        },
        index_name: None,
        table_comments_quoted: true,
        comments_stored: database != Database::Sqlite,
    }
}

/// The names of what nobody named.
fn names() -> Names {
    Names {
        table: NamePattern::own("{name|inflected}", &[("inflected", super::inflection::plural)]),
        column: NamePattern::fixed("{attribute}"),
        reference_column: NamePattern::fixed("{attribute}_{column} | camel"),
        parent_link: NamePattern::fixed("{name|camel}"),
        index: Some(NamePattern::fixed("{table}_{columns} | snake")),
        enum_type: NamePattern::fixed("enum_{table}_{column}"),
        inverse: None,
        shorten: |name, _| name.to_owned(),
    }
}

/// Join tables that nobody declared.
fn joins() -> JoinTables {
    JoinTables {
        table: NamePattern::fixed(""),
        // Both are named where the relation is declared.
        column: NamePattern::fixed(""),
        column_to_self: (NamePattern::fixed(""), NamePattern::fixed("")),
        key: JoinKey::Pair,
        actions: (Action::Cascade, Action::Cascade),
        inverse_actions: (Action::Cascade, Action::Cascade),
        indexed: JoinIndexed::Neither,
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
    let index_methods: &[&str] = if database == Database::PostgreSql {
        &["gin", "gist", "brin", "hash", "spgist"]
    } else {
        &[]
    };
    Capabilities { index_methods, ..Capabilities::all_but(&missing).on(settings.server()) }
}
