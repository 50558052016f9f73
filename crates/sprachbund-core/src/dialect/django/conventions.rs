//! What silence means in Django, and what it can say. Source: Django 5.2 itself, run on PostgreSQL, MariaDB and SQLite; of
//! MySQL, which cannot be installed here, its documentation, unverified.

use md5::{Digest, Md5};

use crate::dialect::conventions::{Actor, Conventions, ExtendedTable, JoinIndexed, JoinKey, KeyNumbered, Makes, SilentActions, Unheld};
use crate::dialect::naming::NamePattern;
use crate::dialect::{Capabilities, Feature, Settings};
use crate::schema::{Action, Database, Deferrable, Identity, UniqueAs};

const fn unheld(feature: Feature, of_index: Makes) -> Unheld {
    Unheld { feature, of_index, of_constraint: Makes::Nothing }
}

/// What Django leaves out where `DatabaseFeatures` says that the server lacks it.
const UNHELD: &[Unheld] = &[
    unheld(Feature::CoveringIndex, Makes::TheRest),
    unheld(Feature::DeferrableUnique, Makes::Nothing),
    unheld(Feature::NullsNotDistinct, Makes::Nothing),
    unheld(Feature::PartialIndex, Makes::TheRest),
    unheld(Feature::ExpressionIndex, Makes::Nothing),
];

/// The answers for these settings.
pub(super) fn conventions(settings: &Settings) -> Conventions {
    let database = settings.database();
    let postgresql = database == Database::PostgreSql;
    Conventions {
        dialect: &super::DIALECT,
        version: settings.version.clone().unwrap_or_else(|| "5.2".into()),
        database,
        types: super::types::TYPES,
        column_nullable: false,
        documents: false,
        reference_nullable: false,
        implied_key: Some(("id", settings.default_key.clone().unwrap_or_else(|| "AutoField".into()))),
        natives: super::types::NATIVE,
        takes_native: |name, _| super::types::NATIVE.iter().any(|(_, native)| *native == name),
        implied_key_default: None,
        key_written: false,
        extended_table: ExtendedTable::Joined,
        generated_nullable: true,
        key_listed: true,
        join_columns: false,
        references_on_columns: false,
        relation_lists_columns: false,
        join_named: true,
        joins_by_class: true,
        kind_by_uniqueness: false,
        uniques_named: true,
        enum_type_named: true,
        both_defaults: true,
        purposes_repeat: true,
        refers_to_any: false,
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
        code_as_column: false,
        untyped: false,
        arrays_nullable: false,
        identities: match settings.database() {
            Database::Sqlite => &[Identity::AutoIncrement],
            _ => &[Identity::ByDefault],
        },
        numbers_any_column: false,
        nullable_as_in_code: false,
        whole_key_numbered: KeyNumbered::WhenSaid,
        expressions_name_attributes: true,
        query_form: super::print::query::sayable,
        element_word: |_| true,
        array_word: "ArrayField",
        time_actor: Actor::Application,
        enum_type: NamePattern::fixed("{table}_{column}_enum"),
        shorten,
        generated_key: if database == Database::Sqlite { Identity::AutoIncrement } else { Identity::ByDefault },
        table: NamePattern::fixed("{module}_{name|lower}"),
        column: NamePattern::fixed("{attribute}"),
        reference_column: NamePattern::fixed("{attribute}_id"),
        parent_link: NamePattern::fixed("{name|lower}_ptr"),
        join_table: NamePattern::fixed("{table}_{attribute}"),
        join_column: NamePattern::fixed("{name|lower}_id"),
        join_column_to_self: (NamePattern::fixed("from_{name|lower}_id"), NamePattern::fixed("to_{name|lower}_id")),
        join_key: JoinKey::OwnColumn("id"),
        join_actions: (Action::NoAction, Action::NoAction),
        join_inverse_actions: (Action::NoAction, Action::NoAction),
        join_indexed: JoinIndexed::Both,
        reference_indexed: true,
        index_name: None,
        unbounded_indexed: !database.is_mysql(),
        references_unsigned: database.is_mysql(),
        delete_actor: Actor::Application,
        application_actions: &Action::ALL,
        null_set_on_required: true,
        deferrable: Some(Deferrable::InitiallyDeferred).filter(|_| !database.is_mysql()),
        unique_pair_as: if database == Database::Sqlite { UniqueAs::Index } else { UniqueAs::Constraint },
        inverse: Some((NamePattern::fixed("{name|lower}_set"), NamePattern::fixed("{name|lower}"))),
        input_voice: true,
        input_required: true,
        code_voice: false,
        text_pattern_index: postgresql,
        unsigned_check: true,
        update_time_stored: false,
        kept_time_digits: None,
        unheld: match database {
            Database::PostgreSql | Database::MongoDb => &[],
            Database::Sqlite => UNHELD.split_at(3).0,
            Database::MariaDb => UNHELD,
            Database::MySql => UNHELD.split_at(4).0,
        },
        json_check: database == Database::Sqlite,
        comments_stored: database != Database::Sqlite,
        // `Index.max_name_length`.
        index_name_limit: Some(30),
        table_comments_quoted: true,
    }
}

/// What can be said.
pub(super) fn capabilities(settings: &Settings) -> Capabilities {
    let missing = [
        Feature::ApplicationUpdate,
        Feature::CodeValues,
        Feature::DatabaseAction,
        Feature::SetDefault,
        Feature::UniqueIndex,
        Feature::EnumType,
        Feature::CodeVoice,
        Feature::SoftDelete,
        Feature::VersionColumn,
        Feature::Namespace,
        Feature::CompositeReference,
        Feature::Keyless,
        Feature::View,
        Feature::KeyOfView,
        Feature::ConstraintName,
        // It can be said, in classes of `django.contrib.postgres` whose operators only their own file can name.
        Feature::Exclusion,
    ];
    Capabilities::all_but(&missing).on(settings.database().server())
}

/// A name cut to the server's limit, its last four characters a digest of the whole (`truncate_name` of Django 5.2).
fn shorten(name: &str, limit: usize) -> String {
    if name.chars().count() <= limit {
        return name.to_owned();
    }
    let digest = Md5::digest(name.as_bytes());
    let head: String = name.chars().take(limit - 4).collect();
    format!("{head}{:02x}{:02x}", digest[0], digest[1])
}
