//! What silence means in TypeORM, and what it can say. Source: TypeORM 0.2.45, 0.3.31 and 1.1.1
//! themselves, run on PostgreSQL, MariaDB, MySQL and SQLite.

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

/// A naming strategy: its name and its answers.
pub struct Strategy {
    pub name: &'static str,
    pub table: &'static str,
    pub column: &'static str,
    pub reference_column: &'static str,
    pub join_table: &'static str,
    pub join_column: &'static str,
}

/// The framework's own naming strategy and the common snake-case one.
pub const STRATEGIES: &[Strategy] = &[
    Strategy {
        name: "default",
        table: "{name|snake}",
        column: "{attribute}",
        reference_column: "{attribute}_{column} | camel",
        join_table: "{table}_{attribute}_{target_table} | snake",
        join_column: "{table}_{column} | camel",
    },
    Strategy {
        name: "snake",
        table: "{name|snake}",
        column: "{attribute|snake}",
        reference_column: "{attribute}_{column} | snake",
        join_table: "{table}_{attribute}_{target_table} | snake",
        join_column: "{table}_{column} | snake",
    },
];

/// What the MySQL driver leaves out.
const UNHELD_BY_MYSQL: &[Unheld] = &[
    Unheld {
        feature: Feature::PartialIndex,
        of_index: Makes::TheRest,
        of_constraint: Makes::TheRest,
    },
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
    Unheld { feature: Feature::Check, of_index: Makes::TheRest, of_constraint: Makes::Nothing },
    Unheld { feature: Feature::Exclusion, of_index: Makes::TheRest, of_constraint: Makes::Nothing },
];

/// The answers for these settings.
pub(super) fn conventions(settings: &Settings) -> Conventions {
    let database = settings.database();
    let release = settings.release(&super::DIALECT);
    let chosen = settings.naming.as_deref().unwrap_or("default");
    let strategy =
        STRATEGIES.iter().find(|strategy| strategy.name == chosen).unwrap_or(&STRATEGIES[0]);
    Conventions {
        dialect: &super::DIALECT,
        version: release.clone(),
        database,
        words: Words {
            types: super::types::of_release(&release, database),
            natives: &[],
            takes_native: |name, database| {
                super::types::is_supported(name.split('(').next().unwrap_or(name), database)
            },
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
                Database::PostgreSql | Database::MongoDb => Identity::Sequence,
                Database::MySql | Database::MariaDb => Identity::ByDefault,
                Database::Sqlite => Identity::AutoIncrement,
            },
            whole_numbered: KeyNumbered::WhenSaid,
        },
        extended_table: ExtendedTable::Copied,
        nullability: Nullability {
            column: false,
            reference: true,
            arrays: false,
            // MariaDB's grammar has no NOT NULL for them; 0.2.45 does not write it for PostgreSQL.
            generated: database == Database::MariaDb
                || database == Database::PostgreSql && !at_least(&release, (0, 3)),
            follows_code: false,
            code_follows: false,
            required_on_input: false,
        },
        layers: Layers { input: false, code: true },
        names: names(settings, strategy),
        joins: joins(settings, strategy),
        references: References {
            enforced: true,
            indexed: false,
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
            unheld: if database.is_mysql() { UNHELD_BY_MYSQL } else { &[] },
        },
        times: Times {
            actor: Actor::Database,
            update_stored: database.is_mysql(),
            kept_digits: Some(6).filter(|_| database.is_mysql()),
        },
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
        unique_of_key: IndexPlace::Class,
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
        joins_by_class: false,
        uniques_named: true,
        enum_type_named: true,
        both_defaults: true,
        purposes_repeat: true,
        refers_to_any: false,
        key_references_in_circles: true,
        required_in_circles: false,
        keyless_readable: true,
        texts_without_length: true,
        numbers_any_column: database == Database::PostgreSql,
        identities: match database {
            Database::PostgreSql | Database::MongoDb => {
                &[Identity::ByDefault, Identity::Always, Identity::Sequence]
            }
            Database::MySql | Database::MariaDb => &[Identity::ByDefault],
            Database::Sqlite => &[Identity::AutoIncrement],
        },
        index_name: None,
        // `createTable` of its query runners puts them into the statement as they are.
        table_comments_quoted: false,
        comments_stored: database != Database::Sqlite,
    }
}

/// The names of what nobody named.
fn names(settings: &Settings, strategy: &Strategy) -> Names {
    Names {
        table: pattern(settings, "table", strategy.table),
        column: pattern(settings, "column", strategy.column),
        reference_column: pattern(settings, "reference_column", strategy.reference_column),
        parent_link: NamePattern::fixed("{name|snake}"),
        index: None,
        enum_type: NamePattern::fixed("{table}_{column|lower}_enum"),
        inverse: None,
        shorten: |name, _| name.to_owned(),
    }
}

/// Join tables that nobody declared.
fn joins(settings: &Settings, strategy: &Strategy) -> JoinTables {
    JoinTables {
        table: pattern(settings, "join_table", strategy.join_table),
        column: pattern(settings, "join_column", strategy.join_column),
        column_to_self: (NamePattern::fixed("{ordinary}_1"), NamePattern::fixed("{ordinary}_2")),
        key: JoinKey::Pair,
        actions: (Action::Cascade, Action::Cascade),
        // Seen: 0.3.31 makes the other side's key without actions, 1.1.1 with them.
        inverse_actions: if at_least(&settings.release(&super::DIALECT), (1, 0)) {
            (Action::Cascade, Action::Cascade)
        } else {
            (Action::NoAction, Action::NoAction)
        },
        indexed: JoinIndexed::Both,
    }
}

/// The project's own pattern for a question, or else the strategy's.
fn pattern(settings: &Settings, question: &str, answer: &'static str) -> NamePattern {
    let own = settings.name_patterns.iter().find(|(known, _)| known == question);
    own.map_or_else(|| NamePattern::fixed(answer), |(_, pattern)| pattern.clone())
}

/// Whether `asExpression` makes a generated column: on SQLite 0.2.45 makes a plain one, in silence.
pub(super) fn makes_generated(release: &str, database: Database) -> bool {
    database != Database::Sqlite || at_least(release, (0, 3))
}

/// What `type` of an index may be on PostgreSQL (1.1.1).
const INDEX_METHODS: &[&str] = &["btree", "hash", "gist", "spgist", "gin", "brin"];

/// What can be said.
pub(super) fn capabilities(settings: &Settings) -> Capabilities {
    let mut missing = vec![
        Feature::SymmetricalRelation,
        Feature::ThroughFields,
        Feature::ApplicationUpdate,
        Feature::CodeValues,
        Feature::ApplicationAction,
        Feature::SetDefault,
        Feature::NestedArray,
        Feature::DescendingIndex,
        Feature::ExpressionIndex,
        Feature::OperatorClass,
        Feature::IndexMethod,
        Feature::CoveringIndex,
        Feature::NullsNotDistinct,
        Feature::InputRules,
        Feature::Format,
        Feature::InputVoice,
        Feature::DisplayLabel,
        Feature::JoinedInheritance,
        Feature::SameTable,
        Feature::Keyless,
    ];
    if !at_least(&settings.release(&super::DIALECT), (0, 3)) {
        // `@Entity` takes no comment (0.2.45).
        missing.push(Feature::TableComment);
    }
    if !makes_generated(&settings.release(&super::DIALECT), settings.database()) {
        missing.extend([Feature::StoredGenerated, Feature::VirtualGenerated]);
    }
    match settings.database() {
        Database::Sqlite => missing.push(Feature::Collation),
        Database::MySql | Database::MariaDb => missing.push(Feature::Check),
        // It takes the word, and makes a plain column (`PostgresQueryRunner.buildCreateColumnSql`,
        // 0.3).
        Database::PostgreSql => missing.push(Feature::VirtualGenerated),
        Database::MongoDb => {}
    }
    // `spatial` makes a gist; `type` is heard from 1.0 on, and refused on other servers.
    let index_methods: &[&str] = match at_least(&settings.release(&super::DIALECT), (1, 0)) {
        _ if settings.database() != Database::PostgreSql => &[],
        true => INDEX_METHODS,
        false => &["gist"],
    };
    Capabilities { index_methods, ..Capabilities::all_but(&missing).on(settings.server()) }
}
