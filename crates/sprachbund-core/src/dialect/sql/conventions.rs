//! What silence means in a script: next to nothing is implied. And what a script can say: what a database stores.

use crate::dialect::conventions::{Actor, Conventions, ExtendedTable, JoinIndexed, JoinKey, KeyNumbered, SilentActions};
use crate::dialect::naming::NamePattern;
use crate::dialect::{Capabilities, Feature, Settings};
use crate::schema::{Action, Database, EnforcedBy, Entity, Identity, Index, NamedBy, Origin, Type, UniqueAs};

pub(super) fn conventions(settings: &Settings) -> Conventions {
    let database = settings.database();
    let nothing = || NamePattern::fixed("{column}");
    Conventions {
        dialect: "sql",
        version: String::new(),
        database,
        types: &[],
        natives: &[],
        takes_native: |_, _| true,
        column_nullable: true,
        documents: false,
        reference_nullable: true,
        implied_key: None,
        implied_key_default: None,
        key_written: false,
        extended_table: ExtendedTable::Copied,
        generated_nullable: false,
        key_listed: false,
        join_columns: true,
        references_on_columns: false,
        relation_lists_columns: false,
        join_named: true,
        joins_by_class: true,
        kind_by_uniqueness: false,
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
        code_as_column: false,
        untyped: false,
        arrays_nullable: false,
        identities: &[],
        numbers_any_column: true,
        nullable_as_in_code: false,
        whole_key_numbered: KeyNumbered::WhenSaid,
        expressions_name_attributes: false,
        query_form: |_| false,
        element_word: |_| true,
        array_word: "array",
        time_actor: Actor::Database,
        enum_type: NamePattern::fixed("{table}_{column}"),
        shorten: |name, limit| name.chars().take(limit).collect(),
        generated_key: match database {
            Database::Sqlite => Identity::AutoIncrement,
            _ => Identity::ByDefault,
        },
        table: NamePattern::fixed("{table}"),
        column: nothing(),
        reference_column: nothing(),
        parent_link: nothing(),
        join_table: NamePattern::fixed("{table}"),
        join_column: nothing(),
        join_column_to_self: (nothing(), nothing()),
        join_key: JoinKey::Pair,
        join_actions: (Action::NoAction, Action::NoAction),
        join_inverse_actions: (Action::NoAction, Action::NoAction),
        join_indexed: JoinIndexed::Neither,
        reference_indexed: database.is_mysql(),
        server_indexes_references: database.is_mysql(),
        index_name: None,
        unbounded_indexed: true,
        references_unsigned: true,
        delete_actor: Actor::Database,
        application_actions: &[],
        null_set_on_required: true,
        deferrable: None,
        unique_pair_as: UniqueAs::Constraint,
        inverse: Some((NamePattern::fixed("{name|snake|plural}"), NamePattern::fixed("{name|snake}"))),
        input_voice: false,
        input_required: false,
        code_voice: false,
        text_pattern_index: false,
        unsigned_check: false,
        update_time_stored: false,
        kept_time_digits: None,
        unheld: &[],
        json_check: false,
        comments_stored: database != Database::Sqlite,
        index_name_limit: None,
        table_comments_quoted: true,
        identifier_limit: database.identifier_limit(),
    }
}

/// What an application alone can hold is missing everywhere; the rest by server.
pub(super) fn capabilities(settings: &Settings) -> Capabilities {
    let mut missing = vec![
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
    missing.extend(match settings.database() {
        Database::PostgreSql | Database::MongoDb => &[Feature::VirtualGenerated][..],
        Database::MySql | Database::MariaDb => &[
            Feature::Deferrable,
            Feature::SetDefault,
            Feature::ExpressionIndex,
            Feature::OperatorClass,
            Feature::IndexMethod,
            Feature::CoveringIndex,
            Feature::PartialIndex,
            Feature::DeferrableUnique,
            Feature::NullsNotDistinct,
            Feature::Exclusion,
            Feature::NestedArray,
            Feature::Namespace,
        ],
        Database::Sqlite => &[
            Feature::OperatorClass,
            Feature::IndexMethod,
            Feature::CoveringIndex,
            Feature::DeferrableUnique,
            Feature::NullsNotDistinct,
            Feature::Exclusion,
            Feature::ColumnComment,
            Feature::TableComment,
            Feature::EnumType,
            Feature::NestedArray,
            Feature::Namespace,
        ],
    });
    Capabilities::all_but(&missing)
}

/// InnoDB indexes the columns of a foreign key where no index begins with them (documentation, "FOREIGN KEY Constraints").
pub(crate) fn index_references(entity: &mut Entity) {
    let begins = |columns: &[String], wanted: &[String]| columns.starts_with(wanted);
    for at in 0..entity.foreign_keys.len() {
        if entity.foreign_keys[at].enforced == EnforcedBy::Application {
            continue;
        }
        let wanted = entity.foreign_keys[at].columns.clone();
        let indexed = begins(entity.key_columns(), &wanted)
            || entity.uniques.iter().any(|unique| begins(&unique.columns, &wanted))
            || entity.indexes.iter().any(|index| begins(&index.plain_columns(), &wanted));
        if !indexed {
            let mut index = Index::over(&wanted, Origin::implied("the server indexes references"));
            index.named_by = NamedBy::Server;
            entity.indexes.push(index);
        }
    }
}

/// Whether the server makes this plain index for a foreign key by itself.
pub(crate) fn is_index_of_reference(entity: &Entity, index: &Index) -> bool {
    let columns = index.plain_columns();
    let begins = |list: &[String]| list.starts_with(&columns);
    entity.foreign_keys.iter().any(|key| key.enforced == EnforcedBy::Database && key.columns == columns)
        && !begins(entity.key_columns())
        && !entity.uniques.iter().any(|unique| begins(&unique.columns))
        && !entity.indexes.iter().any(|other| !std::ptr::eq(other, index) && begins(&other.plain_columns()))
}

/// An index over such a column holds its beginning only, which no script says by itself. MariaDB 10.11 keeps a whole one
/// unique by a digest, unless a numbered column stands beside it; MySQL refuses (its documentation, "Column Indexes", unverified).
pub(crate) fn is_unbounded(ty: &Type) -> bool {
    matches!(ty, Type::Text | Type::CaseFoldedText | Type::Varchar(None) | Type::Binary(None)) || ty.is_json()
}
