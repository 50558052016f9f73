//! What silence means in Mongoose, and what it can say. Source: Mongoose 6.13.11, 8.24.10 and
//! 9.12.1 themselves, by what their schemas report.

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
use crate::schema::{Action, Database, Default_, Identity, UniqueAs};

/// How the application makes the key of a document.
pub(crate) const NEW_ID: &str = "() => new Types.ObjectId()";

/// The answers for these settings.
pub(super) fn conventions(settings: &Settings) -> Conventions {
    let release = settings.release(&super::DIALECT);
    Conventions {
        dialect: &super::DIALECT,
        version: release.clone(),
        database: Database::MongoDb,
        words: Words {
            types: super::types::of_release(&release),
            natives: &[],
            takes_native: |_, _| false,
            element: |_| true,
            array: "Array",
        },
        grammar: grammar(),
        limits: limits(),
        keys: Keys {
            implied: Some(("_id", "ObjectId".into())),
            implied_default: Some(|| Default_::host("typescript", NEW_ID)),
            written: false,
            generated: Identity::ByDefault,
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
        joins: joins(),
        references: References {
            enforced: false,
            indexed: false,
            one_to_one_unique: false,
            kind_by_uniqueness: true,
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
        reference: ReferencePlace::Path,
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
fn limits() -> Limits {
    Limits {
        join_names: JoinNames::Nothing,
        exclusions_as_sql: true,
        uniques_repeat: false,
        sequence_beside_key: true,
        joins_by_class: false,
        uniques_named: true,
        enum_type_named: false,
        both_defaults: false,
        purposes_repeat: false,
        refers_to_any: false,
        key_references_in_circles: true,
        required_in_circles: true,
        keyless_readable: true,
        texts_without_length: true,
        numbers_any_column: false,
        identities: &[],
        index_name: None,
        table_comments_quoted: true,
        comments_stored: false,
    }
}

/// The names of what nobody named.
fn names() -> Names {
    Names {
        table: NamePattern::own("{name|collected}", &[("collected", super::collection::name)]),
        column: NamePattern::fixed("{attribute}"),
        reference_column: NamePattern::fixed("{attribute}"),
        parent_link: NamePattern::fixed("{name|camel}"),
        index: None,
        enum_type: NamePattern::fixed(""),
        inverse: None,
        shorten: |name, _| name.to_owned(),
    }
}

/// Join tables that nobody declared.
fn joins() -> JoinTables {
    JoinTables {
        table: NamePattern::fixed(""),
        column: NamePattern::fixed(""),
        column_to_self: (NamePattern::fixed(""), NamePattern::fixed("")),
        key: JoinKey::None,
        actions: (Action::NoAction, Action::NoAction),
        inverse_actions: (Action::NoAction, Action::NoAction),
        indexed: JoinIndexed::Neither,
    }
}

/// What can be said.
pub(super) fn capabilities(_: &Settings) -> Capabilities {
    let missing = [
        Feature::SymmetricalRelation,
        Feature::ThroughFields,
        Feature::DatabaseDefault,
        Feature::ApplicationUpdate,
        Feature::DatabaseAction,
        Feature::SetDefault,
        Feature::ApplicationAction,
        Feature::Deferrable,
        Feature::ExpressionIndex,
        Feature::OperatorClass,
        Feature::CoveringIndex,
        Feature::DeferrableUnique,
        Feature::Check,
        Feature::Exclusion,
        Feature::StoredGenerated,
        Feature::VirtualGenerated,
        Feature::ColumnComment,
        Feature::TableComment,
        Feature::Collation,
        Feature::CodeValues,
        Feature::EnumType,
        Feature::Format,
        Feature::CodeVoice,
        Feature::DisplayLabel,
        Feature::Order,
        Feature::SoftDelete,
        Feature::JoinedInheritance,
        Feature::SameTable,
        Feature::Namespace,
        Feature::CompositeKey,
        Feature::CompositeReference,
        Feature::Keyless,
        Feature::View,
        Feature::KeyOfView,
        Feature::ConstraintName,
    ];
    Capabilities {
        index_methods: &["text", "2dsphere", "2d", "hashed"],
        ..Capabilities::all_but(&missing).on(Database::MongoDb.server().in_release(None))
    }
}
