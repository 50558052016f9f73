//! A dialect that no program ships: the cargo manifests of a harbour, which declare tables in JSON.
//! It is made of the public API alone, in this one file, with answers and a grammar in a
//! combination that no shipped dialect has; the laws run over it as over the others. Whoever adds a
//! dialect finds here every thing that one must say.

use serde_json::{Map, Value, json};
use sprachbund_core::declaration::{
    Attribute, CheckDeclaration, Declarations, FieldDeclaration, Form, History, IndexDeclaration,
    IndexPartDeclaration, InverseDeclaration, InverseKind, InverseName, JoinColumn, JoinTable,
    Model, ReferenceDeclaration, RelationDeclaration, Spelling, UniqueDeclaration,
};
use sprachbund_core::diagnostic::{Diagnostic, Severity};
use sprachbund_core::dialect::conventions::{
    Actor, Checks, Conventions, DeleteActions, ExtendedTable, Indexes, JoinIndexed, JoinKey,
    JoinTables, KeyNumbered, Keys, Layers, Names, Nullability, References, SilentActions, Times,
    Words,
};
use sprachbund_core::dialect::grammar::{
    ActionPlace, ColumnPlace, ConstraintNames, ExpressionNames, Grammar, IndexPlace, JoinNames,
    JoinTablePlace, KeyPlace, Limits, NowFunction, ReferencePlace,
};
use sprachbund_core::dialect::naming::{Case, NamePattern};
use sprachbund_core::dialect::type_table::{Takes, TypeRow};
use sprachbund_core::dialect::{
    Capabilities, Details, Dialect, Feature, Medium, PlainWord, PrintedFile, Settings,
};
use sprachbund_core::host::Language;
use sprachbund_core::host::language::{
    Imports, Layout, LegalNames, Reserved, file_name, letter_first,
};
use sprachbund_core::host::outline::Outline;
use sprachbund_core::host::project::Project;
use sprachbund_core::schema::{
    Action, Database, Default_, Deferrable, EnumType, Expression, Extras, Generated, Identity,
    InputRule, OrderKey, OwnedBy, Purpose, RelationKind, TypeKind as Kind, UniqueAs,
};
use sprachbund_core::source::{FileId, Span};

/// The entry of a list of dialects.
pub(super) const DIALECT: Dialect = Dialect {
    id: "manifest",
    framework: "Manifest",
    versions: &["1"],
    databases: &[Database::PostgreSql, Database::MariaDb, Database::Sqlite],
    unverified: &[],
    language: &LANGUAGE,
    extensions: &["manifest"],
    marks: &["\"models\""],
    signs: &["\"models\""],
    conventions,
    capabilities,
    medium: Medium::Classes { read, print },
    details: Details {
        names: Reserved { members: &["hold"], classes: &["Hold"], ..Reserved::NOTHING },
        plain_words: &[(PlainWord::Text, "label"), (PlainWord::Number, "count")],
        plain_default: Some(("database_default", Actor::Database)),
        ..Details::USUAL
    },
};

/// A language of its own, in which nothing is imported.
const LANGUAGE: Language = Language {
    id: "manifest",
    extensions: &["manifest"],
    grammar: None,
    lower: |file, text| {
        let whole = Span { file, start: 0, end: text.len() as u32 };
        let errors = serde_json::from_str::<Value>(text).err().map(|_| whole);
        Outline { errors: errors.into_iter().collect(), ..Outline::default() }
    },
    imports: Imports::Nothing,
    attribute_case: Case::Kebab,
    names: LegalNames {
        attribute: |name, reserved| match reserved.members.contains(&name) || name.is_empty() {
            true => format!("{name}-goods"),
            false => name.to_owned(),
        },
        class: |name, _| {
            letter_first(
                &name.replace(|letter: char| !letter.is_alphanumeric() && letter != '_', "_"),
                "Goods",
            )
        },
        module: file_name,
        member: str::to_owned,
        keywords: &[],
    },
    layout: Layout {
        comment: "//",
        block_comments: false,
        triple_quotes: false,
        backslashes: true,
    },
    code_stays: |_, same_framework| same_framework,
    shares_literals: false,
};

/// The words for types: kind, what SQLite holds, the type in the code.
const TYPES: &[TypeRow] = &[
    TypeRow::new("tally", Kind::Integer, "integer", "number").numbered(),
    TypeRow::new("small-tally", Kind::SmallInt, "integer", "number").numbered(),
    TypeRow::new("big-tally", Kind::BigInt, "integer", "number").numbered(),
    TypeRow::new("flag", Kind::Boolean, "boolean", "flag"),
    TypeRow::new("small", Kind::SmallInt, "smallint", "number"),
    TypeRow::new("count", Kind::Integer, "integer", "number"),
    TypeRow::new("big", Kind::BigInt, "bigint", "number"),
    TypeRow::new("measure", Kind::Double, "real", "number"),
    TypeRow::new("money", Kind::Numeric, "decimal", "number").taking(Takes::Digits, "decimal({})"),
    TypeRow::new("code", Kind::Char, "char", "text").taking(Takes::Length, "char({})"),
    TypeRow::new("label", Kind::Varchar, "varchar", "text")
        .taking(Takes::Length, "varchar({})")
        .silent(80),
    TypeRow::new("remark", Kind::Text, "text", "text"),
    TypeRow::new("papers", Kind::Binary, "blob", "bytes"),
    TypeRow::new("day", Kind::Date, "date", "day"),
    TypeRow::new("moment", Kind::TimestampZoned, "datetime", "moment")
        .taking(Takes::Fraction, "datetime({})"),
    TypeRow::new("watch", Kind::Time, "time", "watch").taking(Takes::Fraction, "time({})"),
    TypeRow::new("seal", Kind::Uuid, "char(36)", "text"),
    TypeRow::new("list", Kind::Json, "json", "value"),
    TypeRow::new("parsed", Kind::BinaryJson, "jsonb", "value"),
];

/// What silence means, where things are declared, and what cannot be.
fn conventions(settings: &Settings) -> Conventions {
    let database = settings.database();
    let postgresql = database == Database::PostgreSql;
    let pattern = NamePattern::fixed;
    Conventions {
        dialect: &DIALECT,
        version: settings.version.clone().unwrap_or_else(|| "1".into()),
        database,
        words: Words {
            types: TYPES,
            natives: &[],
            takes_native: |_, _| false,
            element: |_| true,
            array: "series",
        },
        grammar: GRAMMAR,
        limits: limits(database),
        keys: Keys {
            implied: Some(("number", "big-tally".to_owned())),
            implied_default: None,
            written: true,
            generated: if database == Database::Sqlite {
                Identity::AutoIncrement
            } else {
                Identity::ByDefault
            },
            whole_numbered: KeyNumbered::WhenSaid,
        },
        extended_table: ExtendedTable::Copied,
        nullability: Nullability {
            column: true,
            reference: false,
            arrays: false,
            generated: true,
            follows_code: false,
            code_follows: false,
            required_on_input: false,
        },
        layers: Layers { input: true, code: true },
        names: names(),
        joins: JoinTables {
            table: pattern("{table}_with_{target_table}"),
            column: pattern("{name|snake}_{column}"),
            column_to_self: (pattern("from_{ordinary}"), pattern("to_{ordinary}")),
            key: JoinKey::Pair,
            actions: (Action::Cascade, Action::NoAction),
            inverse_actions: (Action::Restrict, Action::NoAction),
            indexed: JoinIndexed::Second,
        },
        references: References {
            enforced: true,
            indexed: true,
            one_to_one_unique: true,
            kind_by_uniqueness: false,
            deferrable: Some(Deferrable::InitiallyImmediate).filter(|_| postgresql),
        },
        delete: DeleteActions {
            silent: SilentActions {
                required: Action::Restrict,
                optional: Action::SetNull,
                on_update: Action::Cascade,
            },
            actor: Actor::Database,
            application: &[],
            database: &[],
            null_on_required: false,
        },
        indexes: Indexes {
            unique_as_index: false,
            unique_pair_as: UniqueAs::Index,
            unbounded: true,
            text_pattern: false,
            unheld: &[],
        },
        times: Times { actor: Actor::Application, update_stored: false, kept_digits: None },
        checks: Checks { json: false },
    }
}

const GRAMMAR: Grammar = Grammar {
    columns: ColumnPlace::Class,
    reference: ReferencePlace::JoinColumns,
    join_table: JoinTablePlace::Relation,
    key: KeyPlace::Class,
    index: IndexPlace::Column,
    unique_of_key: IndexPlace::Column,
    constraint_names: ConstraintNames::Required,
    expressions: ExpressionNames::Attributes,
    query_form: |_| false,
    now: NowFunction::Statement,
    application_action: ActionPlace::Reference,
    both_sides: false,
    untyped: false,
};

fn names() -> Names {
    let pattern = NamePattern::fixed;
    Names {
        table: pattern("{name|snake|plural}"),
        column: pattern("{attribute|snake}"),
        reference_column: pattern("{column}_of_{attribute|snake}"),
        parent_link: pattern("{name|snake}"),
        index: None,
        enum_type: pattern("{table}_{column}_list"),
        inverse: None,
        shorten: |name, limit| name.chars().take(limit).collect(),
    }
}

fn limits(database: Database) -> Limits {
    Limits {
        join_names: JoinNames::TableAndColumns,
        joins_by_class: false,
        uniques_named: true,
        exclusions_as_sql: true,
        uniques_repeat: false,
        enum_type_named: false,
        both_defaults: false,
        purposes_repeat: false,
        refers_to_any: false,
        key_references_in_circles: false,
        required_in_circles: false,
        keyless_readable: false,
        texts_without_length: true,
        identities: match database {
            Database::Sqlite => &[Identity::AutoIncrement],
            _ => &[Identity::ByDefault],
        },
        numbers_any_column: false,
        sequence_beside_key: true,
        index_name: Some(24),
        table_comments_quoted: false,
        comments_stored: database != Database::Sqlite,
    }
}

/// What can be said at all.
fn capabilities(settings: &Settings) -> Capabilities {
    let missing = [
        Feature::ApplicationUpdate,
        Feature::ApplicationAction,
        Feature::SetDefault,
        Feature::UnenforcedReference,
        Feature::Exclusion,
        Feature::VirtualGenerated,
        Feature::NestedArray,
        Feature::EnumType,
        Feature::InlineEnum,
        Feature::SoftDelete,
        Feature::VersionColumn,
        Feature::JoinedInheritance,
        Feature::SameTable,
        Feature::Namespace,
        Feature::CompositeReference,
        Feature::Keyless,
        Feature::View,
        Feature::KeyOfView,
        Feature::SymmetricalRelation,
        Feature::ThroughFields,
        Feature::OperatorClass,
        Feature::IndexMethod,
    ];
    Capabilities::all_but(&missing).on(settings.server())
}

/// Reads every manifest of a project.
fn read(project: &mut Project, _: &Settings) -> (Declarations, Vec<Diagnostic>) {
    let (mut read, mut diagnostics) = (Declarations::default(), Vec::new());
    for (at, file) in project.sources.files.iter().enumerate() {
        let Ok(text) = serde_json::from_str::<Value>(&file.text) else { continue };
        let part = Declarations::read(&text);
        // Whatever is there and was not read would not be written again.
        if part.write() != text {
            let span = Span { file: FileId(at as u32), start: 0, end: file.text.len() as u32 };
            diagnostics.push(
                Diagnostic::new(
                    "unread-option",
                    Severity::Warning,
                    "this manifest says something that is not known",
                )
                .at(Some(span), "here"),
            );
        }
        read.models.extend(part.models);
        read.enums.extend(part.enums);
    }
    (read, diagnostics)
}

/// Writes one manifest for each module; lists of values go into the first.
fn print(declarations: &Declarations, _: &Conventions) -> Vec<PrintedFile> {
    let mut modules: Vec<&str> =
        declarations.models.iter().map(|model| model.module.as_str()).collect();
    modules.sort_unstable();
    modules.dedup();
    let of_module = |(at, module): (usize, &&str)| {
        let models =
            declarations.models.iter().filter(|model| model.module == **module).cloned().collect();
        let enums = if at == 0 { declarations.enums.clone() } else { Vec::new() };
        let part = Declarations { models, enums, ..Declarations::default() };
        PrintedFile { path: format!("{module}.manifest"), text: format!("{:#}\n", part.write()) }
    };
    modules.iter().enumerate().map(of_module).collect()
}

/// Something that a manifest holds; `null`, which is left out, stands for what is not said.
trait Entry: Sized {
    fn write(&self) -> Value;
    fn read(value: &Value) -> Self;
}

impl<T: Entry> Entry for Option<T> {
    fn write(&self) -> Value {
        self.as_ref().map_or(Value::Null, |inside| json!([inside.write()]))
    }

    fn read(value: &Value) -> Self {
        value.get(0).map(T::read)
    }
}

impl<T: Entry> Entry for Vec<T> {
    fn write(&self) -> Value {
        if self.is_empty() { Value::Null } else { self.iter().map(T::write).collect() }
    }

    fn read(value: &Value) -> Self {
        value.as_array().map_or(Vec::new(), |items| items.iter().map(T::read).collect())
    }
}

impl<T: Entry> Entry for Box<T> {
    fn write(&self) -> Value {
        (**self).write()
    }

    fn read(value: &Value) -> Self {
        Box::new(T::read(value))
    }
}

impl Entry for bool {
    fn write(&self) -> Value {
        if *self { Value::Bool(true) } else { Value::Null }
    }

    fn read(value: &Value) -> Self {
        value.as_bool().unwrap_or_default()
    }
}

/// Entries that serde knows.
macro_rules! known {
    ($($name:ty),+ $(,)?) => {$(
        impl Entry for $name {
            fn write(&self) -> Value {
                serde_json::to_value(self).expect("plain data")
            }

            fn read(value: &Value) -> Self {
                serde_json::from_value(value.clone()).expect("what was written")
            }
        }
    )+};
}

known!(
    String, u32, Action, Deferrable, EnumType, Expression, Extras, Generated, Identity, InputRule,
    OrderKey, OwnedBy, Purpose
);
known!(RelationKind, Default_);

impl Entry for Actor {
    fn write(&self) -> Value {
        Value::Bool(*self == Actor::Database)
    }

    fn read(value: &Value) -> Self {
        if value == &Value::Bool(true) { Actor::Database } else { Actor::Application }
    }
}

/// Places are those of the file that is read.
impl Entry for Span {
    fn write(&self) -> Value {
        Value::Null
    }

    fn read(_: &Value) -> Self {
        Span { file: FileId(0), start: 0, end: 0 }
    }
}

/// A manifest says what there is, not how it came to be.
impl Entry for History {
    fn write(&self) -> Value {
        Value::Null
    }

    fn read(_: &Value) -> Self {
        History::default()
    }
}

/// Records, by all of their fields: one that is added to a declaration does not compile here.
macro_rules! record {
    ($name:ident: $($field:ident),+ $(,)?) => {
        impl Entry for $name {
            fn write(&self) -> Value {
                let $name { $($field),+ } = self;
                let all = [$((stringify!($field), $field.write())),+];
                let said = all
                    .into_iter()
                    .filter(|(name, value)| *name != "span" && !value.is_null())
                    .map(|(name, value)| (name.to_owned(), value));
                Value::Object(said.collect::<Map<_, _>>())
            }

            fn read(value: &Value) -> Self {
                let of = |field: &str| value.get(field).unwrap_or(&Value::Null);
                $name { $($field: Entry::read(of(stringify!($field)))),+ }
            }
        }
    };
}

/// Words for a closed list of cases.
macro_rules! words {
    ($name:ident: $($case:ident),+ $(,)?) => {
        impl Entry for $name {
            fn write(&self) -> Value {
                json!(match self { $($name::$case => stringify!($case)),+ })
            }

            fn read(value: &Value) -> Self {
                match value.as_str().unwrap_or_default() {
                    $(stringify!($case) => $name::$case,)+
                    other => panic!("no {} is called {other}", stringify!($name)),
                }
            }
        }
    };
}

record!(Declarations: models, enums, assumed, history);
words!(Form: Concrete, Abstract, SameTable, External, View, Table);
record!(
    Model: id, name, module, form, extends, table, namespace, owned_by, comment, label, order,
        managed, attributes, key, key_name,
    uniques, indexes, checks, exclusions, references, extras, span,
);
record!(ReferenceDeclaration: columns, namespace, table, references, on_delete, on_update,
    deferrable, name, span);
record!(Spelling: word, length, precision, scale, element, enumeration);
record!(
    FieldDeclaration: name, column, spelling, nullable, optional_in_code, required_on_input,
        database_default, database_update,
    application_default, application_update, key, unique, indexed, identity, numbered, reference,
        generated, choices, format, collation,
    comment, purpose, rules, extras, span,
);
record!(JoinColumn: name, references, constraint_name);
record!(JoinTable: name, namespace, column, inverse_column);
record!(
    RelationDeclaration: name, kind, target, carrier, join_columns, inverse, on_delete, acts,
        on_update, deferrable, constraint, through,
    join_table, symmetrical, through_fields, parent_link, extras, span,
);
words!(InverseKind: OneToMany, OneToOne, ManyToMany);
record!(InverseDeclaration: name, kind, target, owner, columns, extras, span);
record!(UniqueDeclaration: attributes, name, deferrable, nulls_not_distinct, extras, span);
record!(IndexPartDeclaration: attribute, expression, descending, operator_class);
record!(IndexDeclaration: parts, unique, condition, method, include, name, nulls_not_distinct,
    extras, span);
record!(CheckDeclaration: name, expression, extras, span);

impl Entry for InverseName {
    fn write(&self) -> Value {
        match self {
            InverseName::Silent => Value::Null,
            InverseName::Hidden => json!(false),
            InverseName::Named(name) => json!(name),
        }
    }

    fn read(value: &Value) -> Self {
        match value {
            Value::Bool(_) => InverseName::Hidden,
            Value::String(name) => InverseName::Named(name.clone()),
            _ => InverseName::Silent,
        }
    }
}

impl Entry for Attribute {
    fn write(&self) -> Value {
        match self {
            Attribute::Field(field) => json!({ "field": field.write() }),
            Attribute::Relation(relation) => json!({ "relation": relation.write() }),
            Attribute::Inverse(inverse) => json!({ "inverse": inverse.write() }),
            Attribute::Removed(name) => json!({ "removed": name }),
        }
    }

    fn read(value: &Value) -> Self {
        let inside = |kind: &str| value.get(kind);
        match (inside("field"), inside("relation"), inside("inverse")) {
            (Some(field), ..) => Attribute::Field(Entry::read(field)),
            (_, Some(relation), _) => Attribute::Relation(Entry::read(relation)),
            (.., Some(inverse)) => Attribute::Inverse(Entry::read(inverse)),
            _ => Attribute::Removed(Entry::read(&value["removed"])),
        }
    }
}
