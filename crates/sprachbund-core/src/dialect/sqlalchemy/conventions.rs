//! What silence means in SQLAlchemy, and what it can say. Source: SQLAlchemy 2.0.58 itself, run on PostgreSQL, MariaDB and SQLite; of
//! MySQL, which cannot be installed here, its documentation, unverified.

use md5::{Digest, Md5};

use crate::dialect::conventions::{Actor, Conventions, ExtendedTable, JoinIndexed, JoinKey, KeyNumbered, Makes, SilentActions, Unheld};
use crate::dialect::naming::NamePattern;
use crate::dialect::{Capabilities, Feature, Settings};
use crate::schema::{Action, Database, Identity, UniqueAs};

/// What the compilers of other servers than PostgreSQL leave out.
const UNHELD: &[Unheld] = &[
    Unheld { feature: Feature::DeferrableUnique, of_index: Makes::TheRest, of_constraint: Makes::TheRest },
    Unheld { feature: Feature::Deferrable, of_index: Makes::TheRest, of_constraint: Makes::TheRest },
];

/// The answers for these settings.
pub(super) fn conventions(settings: &Settings) -> Conventions {
    let database = settings.database();
    let classic = settings.style.as_deref() == Some(super::CLASSIC);
    let nothing = || NamePattern::fixed("{attribute}");
    Conventions {
        dialect: &super::DIALECT,
        version: settings.version.clone().unwrap_or_else(|| "2.0".into()),
        database,
        types: super::types::table(database),
        natives: super::types::NATIVE,
        takes_native: |name, _| super::types::NATIVE.iter().any(|(_, native)| *native == name),
        column_nullable: true,
        documents: false,
        reference_nullable: true,
        implied_key: None,
        implied_key_default: None,
        key_written: false,
        extended_table: ExtendedTable::Joined,
        // The grammars of MariaDB and SQLite's compiler have no NOT NULL for them.
        generated_nullable: matches!(database, Database::MariaDb | Database::Sqlite),
        key_listed: false,
        join_columns: true,
        references_on_columns: true,
        relation_lists_columns: false,
        join_named: true,
        joins_by_class: true,
        kind_by_uniqueness: true,
        uniques_named: true,
        enum_type_named: true,
        both_defaults: true,
        purposes_repeat: true,
        refers_to_any: true,
        key_references_in_circles: true,
        required_in_circles: true,
        keyless_readable: true,
        both_sides: false,
        references_enforced: true,
        silent_actions: SilentActions::default(),
        one_to_one_unique: true,
        indexes_listed: false,
        unique_of_key_listed: false,
        unique_as_index: false,
        code_as_column: classic,
        untyped: classic,
        arrays_nullable: false,
        identities: match database {
            Database::PostgreSql | Database::MongoDb => &[Identity::ByDefault, Identity::Always, Identity::Sequence],
            Database::MySql | Database::MariaDb => &[Identity::ByDefault],
            Database::Sqlite => &[Identity::ByDefault, Identity::AutoIncrement],
        },
        numbers_any_column: database == Database::PostgreSql,
        nullable_as_in_code: !classic,
        whole_key_numbered: KeyNumbered::UnlessValued,
        expressions_name_attributes: false,
        query_form: |_| false,
        element_word: |_| true,
        array_word: "ARRAY",
        time_actor: Actor::Application,
        enum_type: NamePattern::fixed("{enumeration|lower}"),
        shorten,
        generated_key: match database {
            Database::PostgreSql | Database::MongoDb => Identity::Sequence,
            Database::MySql | Database::MariaDb | Database::Sqlite => Identity::ByDefault,
        },
        // Classes and tables are named by their authors; the Flask extension's names are read as if written.
        table: NamePattern::fixed(""),
        column: nothing(),
        reference_column: nothing(),
        parent_link: nothing(),
        join_table: nothing(),
        join_column: nothing(),
        join_column_to_self: (nothing(), nothing()),
        join_key: JoinKey::Pair,
        join_actions: (Action::NoAction, Action::NoAction),
        join_inverse_actions: (Action::NoAction, Action::NoAction),
        join_indexed: JoinIndexed::Neither,
        reference_indexed: false,
        index_name: Some(NamePattern::fixed("ix_{table}_{column}")),
        unbounded_indexed: true,
        references_unsigned: true,
        delete_actor: Actor::Database,
        application_actions: &[Action::Cascade],
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
        unheld: if database == Database::PostgreSql { &[] } else { UNHELD },
        json_check: false,
        comments_stored: database != Database::Sqlite,
        index_name_limit: None,
        table_comments_quoted: true,
    }
}

/// What can be said.
pub(super) fn capabilities(settings: &Settings) -> Capabilities {
    let database = settings.database();
    let missing = [
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
    let index_methods: &[&str] = if database == Database::PostgreSql { &["gin", "gist", "brin", "hash", "spgist", "bloom"] } else { &[] };
    Capabilities { index_methods, ..Capabilities::all_but(&missing).on(database.server()) }
}

/// A name cut to eight characters less than the server's limit, then the last four digits of its digest
/// (`IdentifierPreparer._truncate_and_render_maxlen_name` of SQLAlchemy 2.0).
fn shorten(name: &str, limit: usize) -> String {
    if name.chars().count() <= limit {
        return name.to_owned();
    }
    let digest = Md5::digest(name.as_bytes());
    let head: String = name.chars().take(limit - 8).collect();
    format!("{head}_{:02x}{:02x}", digest[14], digest[15])
}
