//! What silence means in Django, and what it can say. Source: Django 5.2 itself, run on PostgreSQL,
//! MariaDB, MySQL and SQLite.

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
        version: settings.release(&super::DIALECT),
        database,
        words: Words {
            types: super::types::of_release(&settings.release(&super::DIALECT)),
            natives: super::types::NATIVE,
            takes_native: |name, _| super::types::NATIVE.iter().any(|(_, native)| *native == name),
            element: |_| true,
            array: "ArrayField",
        },
        grammar: grammar(),
        limits: limits(settings, database),
        keys: Keys {
            implied: Some((
                "id",
                settings
                    .default_key
                    .clone()
                    .unwrap_or_else(|| default_key(&settings.release(&super::DIALECT)).into()),
            )),
            implied_default: None,
            written: false,
            generated: if database == Database::Sqlite {
                Identity::AutoIncrement
            } else {
                Identity::ByDefault
            },
            whole_numbered: KeyNumbered::WhenSaid,
        },
        extended_table: ExtendedTable::Joined,
        nullability: Nullability {
            column: false,
            reference: false,
            arrays: false,
            generated: true,
            follows_code: false,
            code_follows: false,
            required_on_input: true,
        },
        layers: Layers { input: true, code: false },
        names: names(),
        joins: joins(),
        references: References {
            enforced: true,
            indexed: true,
            one_to_one_unique: true,
            kind_by_uniqueness: false,
            deferrable: Some(Deferrable::InitiallyDeferred).filter(|_| !database.is_mysql()),
        },
        delete: DeleteActions {
            silent: SilentActions::default(),
            actor: Actor::Application,
            application: &Action::ALL,
            database: of_database(settings),
            null_on_required: true,
        },
        indexes: Indexes {
            unique_as_index: false,
            unique_pair_as: if database == Database::Sqlite {
                UniqueAs::Index
            } else {
                UniqueAs::Constraint
            },
            unbounded: !database.is_mysql(),
            text_pattern: postgresql,
            unheld: match database {
                Database::PostgreSql | Database::MongoDb => &[],
                Database::Sqlite => UNHELD.split_at(3).0,
                Database::MariaDb => UNHELD,
                Database::MySql => UNHELD.split_at(4).0,
            },
        },
        times: Times { actor: Actor::Application, update_stored: false, kept_digits: None },
        checks: Checks { json: database == Database::Sqlite },
    }
}

/// Where each thing is declared.
fn grammar() -> Grammar {
    Grammar {
        columns: ColumnPlace::Class,
        reference: ReferencePlace::Relation,
        join_table: JoinTablePlace::Relation,
        key: KeyPlace::Class,
        index: IndexPlace::Column,
        unique_of_key: IndexPlace::Column,
        constraint_names: ConstraintNames::Required,
        expressions: ExpressionNames::Attributes,
        now: NowFunction::Statement,
        application_action: ActionPlace::Reference,
        query_form: super::print::query::sayable,
        untyped: false,
        both_sides: false,
    }
}

/// What can be said of it, and how much.
fn limits(settings: &Settings, database: Database) -> Limits {
    Limits {
        join_names: JoinNames::Table,
        exclusions_as_sql: false,
        uniques_repeat: true,
        sequence_beside_key: true,
        joins_by_class: true,
        uniques_named: true,
        enum_type_named: true,
        both_defaults: true,
        purposes_repeat: true,
        refers_to_any: false,
        key_references_in_circles: true,
        required_in_circles: true,
        keyless_readable: true,
        // Seen: 4.2.30, 5.0.14 and 5.1.15 demand one on SQLite (fields.E120), 5.2.19 does not.
        texts_without_length: database != Database::Sqlite
            || at_least(&settings.release(&super::DIALECT), (5, 2)),
        numbers_any_column: false,
        identities: match settings.database() {
            Database::Sqlite => &[Identity::AutoIncrement],
            _ => &[Identity::ByDefault],
        },
        // `Index.max_name_length`.
        index_name: Some(30),
        table_comments_quoted: true,
        comments_stored: database != Database::Sqlite,
    }
}

/// The names of what nobody named.
fn names() -> Names {
    Names {
        table: NamePattern::fixed("{module}_{name|lower}"),
        column: NamePattern::fixed("{attribute}"),
        reference_column: NamePattern::fixed("{attribute}_id"),
        parent_link: NamePattern::fixed("{name|lower}_ptr"),
        index: None,
        enum_type: NamePattern::fixed("{table}_{column}_enum"),
        inverse: Some((NamePattern::fixed("{name|lower}_set"), NamePattern::fixed("{name|lower}"))),
        shorten,
    }
}

/// Join tables that nobody declared.
fn joins() -> JoinTables {
    JoinTables {
        table: NamePattern::fixed("{table}_{attribute}"),
        column: NamePattern::fixed("{name|lower}_id"),
        column_to_self: (
            NamePattern::fixed("from_{name|lower}_id"),
            NamePattern::fixed("to_{name|lower}_id"),
        ),
        key: JoinKey::OwnColumn("id"),
        actions: (Action::NoAction, Action::NoAction),
        inverse_actions: (Action::NoAction, Action::NoAction),
        indexed: JoinIndexed::Both,
    }
}

/// What a release from 6.1 on lets a relation tell the database. Source:
/// `django.db.models.deletion` of 6.1.3; its MySQL backend has no SET DEFAULT
/// (`supports_on_delete_db_default`).
fn of_database(settings: &Settings) -> &'static [Action] {
    let actions = &[Action::Cascade, Action::SetNull, Action::SetDefault];
    match (at_least(&settings.release(&super::DIALECT), (6, 1)), settings.database().is_mysql()) {
        (false, _) => &[],
        (true, true) => actions.split_at(2).0,
        (true, false) => actions,
    }
}

/// The class of a key that nobody declares: `DEFAULT_AUTO_FIELD` of `django.conf.global_settings`,
/// seen in 4.2.30, 5.2.19 and 6.1.3.
pub(super) fn default_key(release: &str) -> &'static str {
    if at_least(release, (6, 0)) { "BigAutoField" } else { "AutoField" }
}

/// What came with a release after 4.2, tried on 4.2.30, 5.2.19 and 6.1.3: `db_default`,
/// `GeneratedField` and `nulls_distinct` with 5.0, `CompositePrimaryKey` with 5.2, `DB_CASCADE` and
/// its like with 6.1.
const SINCE: &[((u32, u32), Feature)] = &[
    ((5, 0), Feature::DatabaseDefault),
    ((5, 0), Feature::StoredGenerated),
    ((5, 0), Feature::VirtualGenerated),
    ((5, 0), Feature::NullsNotDistinct),
    ((5, 2), Feature::CompositeKey),
    ((6, 1), Feature::DatabaseAction),
];

/// What can be said.
pub(super) fn capabilities(settings: &Settings) -> Capabilities {
    let mut missing = vec![
        Feature::ApplicationUpdate,
        Feature::CodeValues,
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
        // It can be said, in classes of `django.contrib.postgres` whose operators only their own
        // file can name.
        Feature::Exclusion,
    ];
    let release = settings.release(&super::DIALECT);
    missing.extend(
        SINCE.iter().filter(|(since, _)| !at_least(&release, *since)).map(|(_, feature)| *feature),
    );
    if !of_database(settings).contains(&Action::SetDefault) {
        missing.push(Feature::SetDefault);
    }
    if settings.database() == Database::PostgreSql && !at_least(&release, (6, 1)) {
        // Whatever the server's release (`DatabaseFeatures.supports_virtual_generated_columns`,
        // 5.2.19).
        missing.push(Feature::VirtualGenerated);
    }
    Capabilities::all_but(&missing).on(settings.server())
}

/// A name cut to the server's limit, its last four characters a digest of the whole
/// (`truncate_name` of Django 5.2).
fn shorten(name: &str, limit: usize) -> String {
    if name.chars().count() <= limit {
        return name.to_owned();
    }
    let digest = Md5::digest(name.as_bytes());
    let head: String = name.chars().take(limit - 4).collect();
    format!("{head}{:02x}{:02x}", digest[0], digest[1])
}
