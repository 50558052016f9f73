//! What silence means in TypeORM, and what it can say. Source: TypeORM 0.3.31 itself, run on PostgreSQL, MariaDB and SQLite; of MySQL,
//! which cannot be installed here, its documentation, unverified.

use crate::dialect::conventions::{Actor, Conventions, ExtendedTable, JoinIndexed, JoinKey, KeyNumbered, Makes, SilentActions, Unheld};
use crate::dialect::naming::NamePattern;
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
    Unheld { feature: Feature::PartialIndex, of_index: Makes::TheRest, of_constraint: Makes::TheRest },
    Unheld { feature: Feature::DeferrableUnique, of_index: Makes::TheRest, of_constraint: Makes::TheRest },
    Unheld { feature: Feature::Deferrable, of_index: Makes::TheRest, of_constraint: Makes::TheRest },
    Unheld { feature: Feature::Check, of_index: Makes::TheRest, of_constraint: Makes::Nothing },
    Unheld { feature: Feature::Exclusion, of_index: Makes::TheRest, of_constraint: Makes::Nothing },
];

/// The answers for these settings.
pub(super) fn conventions(settings: &Settings) -> Conventions {
    let database = settings.database();
    let chosen = settings.naming.as_deref().unwrap_or("default");
    let strategy = STRATEGIES.iter().find(|strategy| strategy.name == chosen).unwrap_or(&STRATEGIES[0]);
    let pattern = |question: &str, answer: &'static str| {
        let own = settings.name_patterns.iter().find(|(known, _)| known == question);
        own.map_or_else(|| NamePattern::fixed(answer), |(_, pattern)| pattern.clone())
    };
    Conventions {
        dialect: &super::DIALECT,
        version: settings.version.clone().unwrap_or_else(|| "0.3".into()),
        database,
        types: super::types::table(database),
        natives: &[],
        takes_native: |name, database| super::types::is_supported(name.split('(').next().unwrap_or(name), database),
        column_nullable: false,
        documents: false,
        reference_nullable: true,
        implied_key: None,
        implied_key_default: None,
        key_written: false,
        extended_table: ExtendedTable::Copied,
        // MariaDB's grammar has no NOT NULL for them.
        generated_nullable: database == Database::MariaDb,
        key_listed: false,
        join_columns: true,
        references_on_columns: false,
        relation_lists_columns: false,
        join_named: true,
        joins_by_class: false,
        kind_by_uniqueness: false,
        uniques_named: true,
        enum_type_named: true,
        both_defaults: true,
        purposes_repeat: true,
        refers_to_any: false,
        key_references_in_circles: true,
        required_in_circles: false,
        keyless_readable: true,
        both_sides: false,
        references_enforced: true,
        silent_actions: SilentActions::default(),
        one_to_one_unique: true,
        indexes_listed: false,
        unique_of_key_listed: true,
        unique_as_index: false,
        code_as_column: false,
        untyped: false,
        arrays_nullable: false,
        identities: match database {
            Database::PostgreSql | Database::MongoDb => &[Identity::ByDefault, Identity::Always, Identity::Sequence],
            Database::MySql | Database::MariaDb => &[Identity::ByDefault],
            Database::Sqlite => &[Identity::AutoIncrement],
        },
        numbers_any_column: database == Database::PostgreSql,
        nullable_as_in_code: false,
        whole_key_numbered: KeyNumbered::WhenSaid,
        expressions_name_attributes: false,
        query_form: |_| false,
        element_word: |_| true,
        array_word: "array",
        time_actor: Actor::Database,
        enum_type: NamePattern::fixed("{table}_{column|lower}_enum"),
        shorten: |name, _| name.to_owned(),
        generated_key: match database {
            Database::PostgreSql | Database::MongoDb => Identity::Sequence,
            Database::MySql | Database::MariaDb => Identity::ByDefault,
            Database::Sqlite => Identity::AutoIncrement,
        },
        table: pattern("table", strategy.table),
        column: pattern("column", strategy.column),
        reference_column: pattern("reference_column", strategy.reference_column),
        parent_link: NamePattern::fixed("{name|snake}"),
        join_table: pattern("join_table", strategy.join_table),
        join_column: pattern("join_column", strategy.join_column),
        join_column_to_self: (NamePattern::fixed("{ordinary}_1"), NamePattern::fixed("{ordinary}_2")),
        join_key: JoinKey::Pair,
        join_actions: (Action::Cascade, Action::Cascade),
        join_inverse_actions: (Action::NoAction, Action::NoAction),
        join_indexed: JoinIndexed::Both,
        reference_indexed: false,
        index_name: None,
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
        update_time_stored: database.is_mysql(),
        kept_time_digits: Some(6).filter(|_| database.is_mysql()),
        unheld: if database.is_mysql() { UNHELD_BY_MYSQL } else { &[] },
        json_check: false,
        comments_stored: database != Database::Sqlite,
        index_name_limit: None,
        // `createTable` of its query runners puts them into the statement as they are.
        table_comments_quoted: false,
    }
}

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
    match settings.database() {
        Database::Sqlite => missing.push(Feature::Collation),
        Database::MySql | Database::MariaDb => missing.push(Feature::Check),
        Database::PostgreSql | Database::MongoDb => {}
    }
    let index_methods: &[&str] = if settings.database() == Database::PostgreSql { &["gist"] } else { &[] };
    Capabilities { index_methods, ..Capabilities::all_but(&missing).on(settings.database().server()) }
}
