//! What silence means in a script: next to nothing is implied. And what a script can say: what a
//! database stores.

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
use crate::dialect::{Capabilities, Feature, Settings};
use crate::schema::{Action, Database, Identity, UniqueAs};

pub(super) fn conventions(settings: &Settings) -> Conventions {
    let database = settings.database();
    Conventions {
        dialect: &super::DIALECT,
        version: String::new(),
        database,
        words: Words {
            types: &[],
            natives: &[],
            takes_native: |_, _| true,
            element: |_| true,
            array: "array",
        },
        grammar: grammar(),
        limits: limits(database),
        keys: Keys {
            implied: None,
            implied_default: None,
            written: false,
            generated: match database {
                Database::Sqlite => Identity::AutoIncrement,
                _ => Identity::ByDefault,
            },
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
        layers: Layers { input: false, code: false },
        names: names(),
        joins: joins(),
        references: References {
            enforced: true,
            indexed: database.is_mysql(),
            one_to_one_unique: true,
            kind_by_uniqueness: false,
            deferrable: None,
        },
        delete: DeleteActions {
            silent: SilentActions::default(),
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
            unheld: &[],
        },
        times: Times { actor: Actor::Database, update_stored: false, kept_digits: None },
        checks: Checks { json: false },
    }
}

/// Where each thing is declared.
fn grammar() -> Grammar {
    Grammar {
        columns: ColumnPlace::Class,
        reference: ReferencePlace::JoinColumns,
        join_table: JoinTablePlace::Relation,
        key: KeyPlace::Columns,
        index: IndexPlace::Column,
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
        uniques_repeat: false,
        sequence_beside_key: true,
        joins_by_class: true,
        uniques_named: true,
        enum_type_named: true,
        both_defaults: true,
        purposes_repeat: true,
        refers_to_any: true,
        key_references_in_circles: true,
        required_in_circles: true,
        keyless_readable: true,
        texts_without_length: true,
        numbers_any_column: true,
        identities: &[],
        index_name: None,
        table_comments_quoted: true,
        comments_stored: database != Database::Sqlite,
    }
}

/// The names of what nobody named.
fn names() -> Names {
    Names {
        table: NamePattern::fixed("{table}"),
        column: nothing(),
        reference_column: nothing(),
        parent_link: nothing(),
        index: None,
        enum_type: NamePattern::fixed("{table}_{column}"),
        inverse: Some((
            NamePattern::fixed("{name|snake|plural}"),
            NamePattern::fixed("{name|snake}"),
        )),
        shorten: |name, limit| name.chars().take(limit).collect(),
    }
}

/// Join tables that nobody declared.
fn joins() -> JoinTables {
    JoinTables {
        table: NamePattern::fixed("{table}"),
        column: nothing(),
        column_to_self: (nothing(), nothing()),
        key: JoinKey::Pair,
        actions: (Action::NoAction, Action::NoAction),
        inverse_actions: (Action::NoAction, Action::NoAction),
        indexed: JoinIndexed::Neither,
    }
}

/// What is always named by its author.
fn nothing() -> NamePattern {
    NamePattern::fixed("{column}")
}

/// What an application alone can hold is missing everywhere; the rest by server.
pub(super) fn capabilities(settings: &Settings) -> Capabilities {
    let missing = [
        Feature::SymmetricalRelation,
        Feature::ThroughFields,
        Feature::ApplicationDefault,
        Feature::ApplicationUpdate,
        Feature::ChoicesOfAny,
        Feature::CodeValues,
        Feature::CreationTime,
        Feature::ApplicationAction,
        Feature::UnenforcedReference,
        Feature::Choices,
        Feature::InputRules,
        Feature::Format,
        Feature::InputVoice,
        Feature::CodeVoice,
        Feature::DisplayLabel,
        Feature::Order,
        Feature::SoftDelete,
        Feature::VersionColumn,
        Feature::UpdateTime,
        Feature::JoinedInheritance,
        Feature::SameTable,
    ];
    Capabilities::all_but(&missing).on(settings.server())
}
