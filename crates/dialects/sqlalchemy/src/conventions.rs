//! What silence means in SQLAlchemy, and what it can say. Source: SQLAlchemy 1.4.54, 2.0.58
//! and 2.1.9 themselves, run on PostgreSQL, MariaDB, MySQL and SQLite.

use md5::{Digest, Md5};

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
use crate::dialect::release::at_least;
use crate::dialect::{Capabilities, Feature, Settings};
use crate::schema::{Action, Database, Identity, UniqueAs};

/// What the compilers of other servers than PostgreSQL leave out.
const UNHELD: &[Unheld] = &[
    Unheld {
        feature: Feature::DeferrableUnique,
        of_index: Makes::TheRest,
        of_constraint: Makes::TheRest,
    },
    Unheld {
        feature: Feature::Deferrable,
        of_index: Makes::TheRest,
        of_constraint: Makes::TheRest,
    },
];

/// Whether a computed column of which nothing more is said is kept in its row: always on PostgreSQL
/// before 2.1; since then as the server does it, of which 18 is the first that computes.
pub(super) fn computed_is_stored(settings: &Settings) -> bool {
    let computes = settings.server_release.is_some_and(|release| release >= (18, 0));
    settings.database() == Database::PostgreSql
        && !(computes && at_least(&settings.release(&super::DIALECT), (2, 1)))
}

/// The answers for these settings.
pub(super) fn conventions(settings: &Settings) -> Conventions {
    let database = settings.database();
    let release = settings.release(&super::DIALECT);
    // Columns with types of the code came with 2.0.
    let classic = settings.style.as_deref() == Some(super::CLASSIC) || !at_least(&release, (2, 0));
    Conventions {
        dialect: &super::DIALECT,
        version: release.clone(),
        database,
        words: Words {
            types: super::types::of_release(&release, database),
            natives: super::types::NATIVE,
            takes_native: |name, _| super::types::NATIVE.iter().any(|(_, native)| *native == name),
            element: |_| true,
            array: "ARRAY",
        },
        grammar: grammar(classic),
        limits: limits(database),
        keys: Keys {
            implied: None,
            implied_default: None,
            written: false,
            generated: match database {
                Database::PostgreSql | Database::MongoDb => Identity::Sequence,
                Database::MySql | Database::MariaDb | Database::Sqlite => Identity::ByDefault,
            },
            whole_numbered: KeyNumbered::UnlessValued,
        },
        extended_table: ExtendedTable::Joined,
        nullability: Nullability {
            column: true,
            reference: true,
            arrays: false,
            // The grammars of MariaDB and SQLite's compiler have no NOT NULL for them.
            generated: matches!(database, Database::MariaDb | Database::Sqlite),
            follows_code: !classic,
            code_follows: classic,
            required_on_input: false,
        },
        layers: Layers { input: false, code: true },
        names: names(),
        joins: joins(),
        references: References {
            enforced: true,
            indexed: false,
            one_to_one_unique: true,
            kind_by_uniqueness: true,
            deferrable: None,
        },
        delete: DeleteActions {
            silent: SilentActions::default(),
            actor: Actor::Database,
            application: &[Action::Cascade],
            database: &[],
            null_on_required: true,
        },
        indexes: Indexes {
            unique_as_index: false,
            unique_pair_as: UniqueAs::Constraint,
            unbounded: true,
            text_pattern: false,
            unheld: if database == Database::PostgreSql { &[] } else { UNHELD },
        },
        times: Times { actor: Actor::Application, update_stored: false, kept_digits: None },
        checks: Checks { json: false },
    }
}

/// Where each thing is declared.
fn grammar(classic: bool) -> Grammar {
    Grammar {
        columns: ColumnPlace::Class,
        reference: ReferencePlace::Column,
        join_table: JoinTablePlace::Table,
        key: KeyPlace::Either,
        index: IndexPlace::Column,
        unique_of_key: IndexPlace::Column,
        constraint_names: ConstraintNames::Optional,
        expressions: ExpressionNames::Columns,
        now: NowFunction::Transaction,
        application_action: ActionPlace::Inverse,
        query_form: |_| false,
        untyped: classic,
        both_sides: false,
    }
}

/// What can be said of it, and how much.
fn limits(database: Database) -> Limits {
    Limits {
        join_names: JoinNames::TableAndColumns,
        exclusions_as_sql: false,
        uniques_repeat: true,
        sequence_beside_key: false,
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
        numbers_any_column: database == Database::PostgreSql,
        identities: match database {
            Database::PostgreSql | Database::MongoDb => {
                &[Identity::ByDefault, Identity::Always, Identity::Sequence]
            }
            Database::MySql | Database::MariaDb => &[Identity::ByDefault],
            Database::Sqlite => &[Identity::ByDefault, Identity::AutoIncrement],
        },
        index_name: None,
        table_comments_quoted: true,
        comments_stored: database != Database::Sqlite,
    }
}

/// The names of what nobody named.
fn names() -> Names {
    Names {
        // Classes and tables are named by their authors; the Flask extension's names are read
        // as if written.
        table: NamePattern::fixed(""),
        column: nothing(),
        reference_column: nothing(),
        parent_link: nothing(),
        index: Some(NamePattern::fixed("ix_{table}_{column}")),
        enum_type: NamePattern::fixed("{enumeration|lower}"),
        inverse: None,
        shorten,
    }
}

/// Join tables that nobody declared.
fn joins() -> JoinTables {
    JoinTables {
        table: nothing(),
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
    NamePattern::fixed("{attribute}")
}

/// What can be said.
pub(super) fn capabilities(settings: &Settings) -> Capabilities {
    let database = settings.database();
    let mut missing = vec![
        Feature::SymmetricalRelation,
        Feature::ThroughFields,
        Feature::ChoicesOfAny,
        Feature::NestedArray,
        Feature::InputRules,
        Feature::Format,
        Feature::InputVoice,
        Feature::DisplayLabel,
        Feature::Order,
        Feature::SoftDelete,
        Feature::CreationTime,
        Feature::UpdateTime,
        Feature::Keyless,
    ];
    if database == Database::PostgreSql && !at_least(&settings.release(&super::DIALECT), (2, 1)) {
        // Refused, whatever the release of the server (2.0.58).
        missing.push(Feature::VirtualGenerated);
    }
    let index_methods: &[&str] = if database == Database::PostgreSql {
        &["gin", "gist", "brin", "hash", "spgist", "bloom"]
    } else {
        &[]
    };
    Capabilities { index_methods, ..Capabilities::all_but(&missing).on(settings.server()) }
}

/// A name cut to eight characters less than the server's limit, then the last four digits of its
/// digest (`IdentifierPreparer._truncate_and_render_maxlen_name` of SQLAlchemy 2.0).
fn shorten(name: &str, limit: usize) -> String {
    if name.chars().count() <= limit {
        return name.to_owned();
    }
    let digest = Md5::digest(name.as_bytes());
    let head: String = name.chars().take(limit - 8).collect();
    format!("{head}_{:02x}{:02x}", digest[14], digest[15])
}
