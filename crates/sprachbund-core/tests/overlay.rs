//! Classes over the tables of a history: what they lay over them, and what only one of the two
//! knows.

mod manifest;

use std::collections::BTreeSet;

use sprachbund_core::declaration::{
    Attribute, CheckDeclaration, Declarations, FieldDeclaration, Form, IndexDeclaration,
    InverseDeclaration, InverseKind, JoinColumn, JoinTable, Model, RelationDeclaration, Spelling,
    UniqueDeclaration,
};
use sprachbund_core::dialect::grammar::ColumnPlace;
use sprachbund_core::dialect::naming::NamePattern;
use sprachbund_core::dialect::{Conventions, Settings};
use sprachbund_core::dialects::by_id;
use sprachbund_core::reading::read_scripts;
use sprachbund_core::resolve::overlay::overlay;
use sprachbund_core::schema::facts::differences;
use sprachbund_core::schema::{
    Database, Default_, Entity, EnumMember, EnumType, Expression, InputRule, Purpose, RelationKind,
    Schema,
};
use sprachbund_core::source::Sources;

/// What the steps made.
const TABLES: &str = "
    CREATE TABLE quays (id bigint PRIMARY KEY, name varchar(40) NOT NULL);
    CREATE TABLE berths (
        id bigint PRIMARY KEY, code varchar(9) NOT NULL UNIQUE, depth numeric(4,1) DEFAULT 2.5, \
     made_at timestamptz NOT NULL,
        quay_id bigint NOT NULL REFERENCES quays (id) ON DELETE CASCADE, pilot_id bigint);
    CREATE TABLE pilots (id bigint PRIMARY KEY, licence varchar(20) NOT NULL);
    CREATE TABLE quays_with_pilots (quay_id bigint NOT NULL REFERENCES quays (id), pilot_id bigint \
     NOT NULL REFERENCES pilots (id),
        PRIMARY KEY (quay_id, pilot_id));";

/// A dialect whose classes have no columns: the one from outside, but for that and for names that
/// tables are known by.
fn conventions() -> Conventions {
    let settings = Settings { database: Some(Database::PostgreSql), ..Settings::default() };
    let mut conventions = (manifest::DIALECT.conventions)(&settings);
    conventions.grammar.columns = ColumnPlace::History;
    conventions.names.column = NamePattern::fixed("{attribute}");
    conventions.names.reference_column = NamePattern::fixed("{attribute}_{column}");
    conventions
}

fn class(name: &str, attributes: Vec<Attribute>) -> Model {
    Model {
        id: format!("harbour.{name}"),
        name: name.into(),
        module: "harbour".into(),
        attributes,
        ..Model::default()
    }
}

fn field(name: &str, change: impl FnOnce(&mut FieldDeclaration)) -> Attribute {
    let mut field = FieldDeclaration { name: Some(name.into()), ..FieldDeclaration::default() };
    change(&mut field);
    Attribute::Field(Box::new(field))
}

fn relation(
    name: &str,
    kind: RelationKind,
    target: &str,
    change: impl FnOnce(&mut RelationDeclaration),
) -> Attribute {
    let mut relation =
        RelationDeclaration::new(Some(name.into()), kind, format!("harbour.{target}"));
    change(&mut relation);
    Attribute::Relation(Box::new(relation))
}

fn to_one(name: &str, target: &str) -> Attribute {
    relation(name, RelationKind::ManyToOne, target, |_| ())
}

fn inverse(name: &str, target: &str, owner: &str) -> Attribute {
    Attribute::Inverse(Box::new(InverseDeclaration {
        name: name.into(),
        kind: InverseKind::OneToMany,
        target: format!("harbour.{target}"),
        owner: owner.into(),
        columns: Vec::new(),
        extras: Default::default(),
        span: None,
    }))
}

fn quay() -> Model {
    class("Quay", vec![])
}

fn pilot() -> Model {
    class("Pilot", vec![])
}

/// Classes that say nothing, but for the berth.
fn berth(attributes: Vec<Attribute>) -> Vec<Model> {
    vec![quay(), pilot(), class("Berth", attributes)]
}

fn made() -> Schema {
    let sql = by_id("sql").expect("scripts are a dialect");
    let mut settings = Settings { database: Some(Database::PostgreSql), ..Settings::default() };
    read_scripts(vec![("1.sql".into(), TABLES.into())], sql, &mut settings).schema
}

/// The facts in which the tables differ from the same ones under classes that say nothing, and what
/// is said.
fn laid(models: Vec<Model>) -> Vec<String> {
    let enums = vec![EnumType {
        name: "Cargo".into(),
        members: ["bulk", "tank"]
            .map(|name| EnumMember {
                name: name.into(),
                value: name.into(),
                label: None,
                in_code: None,
            })
            .to_vec(),
        stored_name: None,
        module: "harbour".into(),
        inline: false,
        origin: Default::default(),
    }];
    let declarations = Declarations { models, enums, ..Declarations::default() };
    let (schema, diagnostics) = overlay(declarations, made(), &conventions(), &Sources::default());
    let silent = Declarations { models: berth(vec![]), ..Declarations::default() };
    let (silent, known) = overlay(silent, made(), &conventions(), &Sources::default());
    let shown = |value: &Option<serde_json::Value>| {
        value.as_ref().map_or("nothing".to_owned(), ToString::to_string)
    };
    let mut lines: Vec<String> = differences(&silent, &schema)
        .iter()
        .map(|difference| {
            format!(
                "{}: {} -> {}",
                difference.key,
                shown(&difference.left),
                shown(&difference.right)
            )
        })
        .collect();
    let new = diagnostics
        .iter()
        .filter(|diagnostic| !known.iter().any(|one| one.message == diagnostic.message));
    lines.extend(new.map(|diagnostic| format!("{}: {}", diagnostic.code, diagnostic.message)));
    let tables = |schema: &Schema| -> BTreeSet<String> {
        schema.entities.iter().map(Entity::address).collect()
    };
    assert!(tables(&made()).is_subset(&tables(&schema)), "a table is lost");
    lines
}

/// What is tried, the classes, and what follows.
type Case = (&'static str, fn() -> Vec<Model>, &'static [&'static str]);

const CASES: &[Case] = &[
    ("nothing more", || berth(vec![]), &[]),
    (
        "a relation over a foreign key",
        || berth(vec![to_one("quay", "Quay")]),
        &["berths, relation quay_id, attribute: nothing -> \"quay\""],
    ),
    (
        "known on the other side",
        || {
            vec![
                class("Quay", vec![inverse("berths", "Berth", "quay")]),
                pilot(),
                class("Berth", vec![to_one("quay", "Quay")]),
            ]
        },
        &[
            "berths, relation quay_id, attribute: nothing -> \"quay\"",
            "berths, relation quay_id, inverse: nothing -> \"berths\"",
        ],
    ),
    (
        "a relation that the database does not know",
        || berth(vec![to_one("pilot", "Pilot")]),
        &[
            "berths, foreign key pilot_id, references: nothing -> [null,\"pilots\",[\"id\"]]",
            "berths, foreign key pilot_id, on_delete: nothing -> \"no action\"",
            "berths, foreign key pilot_id, on_update: nothing -> \"no action\"",
            "berths, foreign key pilot_id, enforced: nothing -> \"application\"",
            "berths, relation pilot_id, kind: nothing -> \"many-to-one\"",
            "berths, relation pilot_id, attribute: nothing -> \"pilot\"",
            "berths, relation pilot_id, target: nothing -> \"pilots\"",
        ],
    ),
    (
        "one by another column",
        || {
            let over = |relation: &mut RelationDeclaration| {
                relation.join_columns =
                    vec![JoinColumn { name: Some("pilot_id".into()), ..JoinColumn::default() }];
            };
            berth(vec![relation("guide", RelationKind::ManyToOne, "Pilot", over)])
        },
        &[
            "berths, foreign key pilot_id, references: nothing -> [null,\"pilots\",[\"id\"]]",
            "berths, foreign key pilot_id, on_delete: nothing -> \"no action\"",
            "berths, foreign key pilot_id, on_update: nothing -> \"no action\"",
            "berths, foreign key pilot_id, enforced: nothing -> \"application\"",
            "berths, relation pilot_id, kind: nothing -> \"many-to-one\"",
            "berths, relation pilot_id, attribute: nothing -> \"guide\"",
            "berths, relation pilot_id, target: nothing -> \"pilots\"",
        ],
    ),
    (
        "one that input must have",
        || {
            berth(vec![relation("quay", RelationKind::ManyToOne, "Quay", |relation| {
                relation.carrier.required_on_input = Some(true)
            })])
        },
        &[
            "berths, column quay_id, required_on_input: \"optional\" -> \"required\"",
            "berths, relation quay_id, attribute: nothing -> \"quay\"",
        ],
    ),
    (
        "one without its column",
        || berth(vec![to_one("tide", "Pilot")]),
        &["column-not-made: `Berth.tide` needs the column `tide_id`, which `berths` does not have"],
    ),
    (
        "one to a class that nobody declares",
        || berth(vec![to_one("quay", "Crane")]),
        &[
            "berths, relation quay_id, target: \"quays\" -> \"harbour.Crane\"",
            "berths, relation quay_id, attribute: nothing -> \"quay\"",
            "undeclared-target: `Berth.quay` refers to `harbour.Crane`, which nobody declares",
        ],
    ),
    (
        "one of those without its column",
        || berth(vec![to_one("crane", "Crane")]),
        &[
            "undeclared-target: `Berth.crane` refers to `harbour.Crane`, which nobody declares",
            "column-not-made: `Berth.crane` needs the column `crane_id`, which `berths` does \
             not have",
        ],
    ),
    (
        "many to many over a table of the history",
        || {
            vec![
                class("Quay", vec![relation("pilots", RelationKind::ManyToMany, "Pilot", |_| ())]),
                pilot(),
                class("Berth", vec![]),
            ]
        },
        &[
            "quays, relation through quays_with_pilots, kind: nothing -> \"many-to-many\"",
            "quays, relation through quays_with_pilots, attribute: nothing -> \"pilots\"",
            "quays, relation through quays_with_pilots, target: nothing -> \"pilots\"",
        ],
    ),
    (
        "over one of another name",
        || {
            let over = |relation: &mut RelationDeclaration| {
                relation.join_table =
                    JoinTable { name: Some("rosters".into()), ..JoinTable::default() }
            };
            vec![
                class("Quay", vec![relation("pilots", RelationKind::ManyToMany, "Pilot", over)]),
                pilot(),
                class("Berth", vec![]),
            ]
        },
        &["table-not-made: no step makes the table `rosters`, by which `Quay.pilots` goes"],
    ),
    (
        "what the application fills in",
        || {
            let filled = |field: &mut FieldDeclaration| {
                field.application_default = Some(Box::new(Default_::Literal("new".into())));
            };
            berth(vec![field("code", filled)])
        },
        &["berths, column code, default in the application: nothing -> {\"literal\":\"new\"}"],
    ),
    (
        "a time that the framework keeps",
        || berth(vec![field("made_at", |field| field.purpose = Some(Purpose::CreationTime))]),
        &[
            "berths, column made_at, default in the application: nothing -> {\"function\":\"now\"}",
            "berths, column made_at, purpose: nothing -> \"creation-time\"",
        ],
    ),
    (
        "rules of input",
        || {
            let rule = InputRule { rule: "max_length".into(), value: 9.into(), message: None };
            let ruled = |field: &mut FieldDeclaration| {
                field.rules = vec![rule];
                field.required_on_input = Some(true);
            };
            berth(vec![field("code", ruled)])
        },
        &[
            "berths, column code, required_on_input: \"optional\" -> \"required\"",
            "berths, column code, rules: nothing -> \
             [{\"rule\":\"max_length\",\"value\":9,\"message\":null}]",
        ],
    ),
    (
        "choices",
        || berth(vec![field("code", |field| field.choices = Some("Cargo".into()))]),
        &[
            "enum Cargo, members: nothing -> [[\"bulk\",\"bulk\"],[\"tank\",\"tank\"]]",
            "berths, column code, choices: nothing -> \"Cargo\"",
        ],
    ),
    (
        "an attribute of another name",
        || berth(vec![field("draught", |field| field.column = Some("depth".into()))]),
        &["berths, column depth, attribute: \"depth\" -> \"draught\""],
    ),
    (
        "a column that a base does not want",
        || {
            let base = Model {
                form: Form::Abstract,
                ..class("Placed", vec![Attribute::Removed("pilot_id".into())])
            };
            vec![
                quay(),
                pilot(),
                base,
                Model { extends: vec!["harbour.Placed".into()], ..class("Berth", vec![]) },
            ]
        },
        &[
            "berths, column pilot_id, optional_in_code: \"required\" -> nothing",
            "berths, column pilot_id, required_on_input: \"optional\" -> nothing",
        ],
    ),
    (
        "a column that the class does not want",
        || berth(vec![Attribute::Removed("pilot_id".into())]),
        &[
            "berths, column pilot_id, optional_in_code: \"required\" -> nothing",
            "berths, column pilot_id, required_on_input: \"optional\" -> nothing",
        ],
    ),
    (
        "what is said of no column",
        || berth(vec![field("colour", |_| ())]),
        &["column-not-made: `Berth.colour` needs the column `colour`, which `berths` does not \
           have"],
    ),
    (
        "a type beside the history's",
        || berth(vec![field("depth", |field| field.spelling = Spelling::word("tally"))]),
        &["said-beside-the-history: the type of `depth` is said by `Berth`, and the history \
           decides it"],
    ),
    (
        "null beside the history's",
        || berth(vec![field("code", |field| field.nullable = Some(true))]),
        &["said-beside-the-history: the nullability of `code` is said by `Berth`, and the \
           history decides it"],
    ),
    (
        "what the history says, too",
        || berth(vec![field("code", |field| field.nullable = Some(false))]),
        &[],
    ),
    (
        "a default beside the history's",
        || {
            berth(vec![field("depth", |field| {
                field.database_default = Some(Box::new(Default_::Literal("3".into())))
            })])
        },
        &["said-beside-the-history: the default of the database of `depth` is said by `Berth`, \
           and the history decides it"],
    ),
    (
        "constraints of the class",
        || {
            let unique = UniqueDeclaration {
                attributes: vec!["depth".into()],
                ..UniqueDeclaration::default()
            };
            let index =
                IndexDeclaration { name: Some("by_depth".into()), ..IndexDeclaration::default() };
            let check = CheckDeclaration {
                name: None,
                expression: Expression::parse_sql("depth > 0"),
                extras: Default::default(),
                span: None,
            };
            let mut models = berth(vec![]);
            (models[2].uniques, models[2].indexes, models[2].checks) =
                (vec![unique], vec![index], vec![check]);
            models
        },
        &[
            "said-beside-the-history: a unique constraint is said by `Berth`, and the history \
             decides it",
            "said-beside-the-history: the index `by_depth` is said by `Berth`, and the history \
             decides it",
            "said-beside-the-history: a check is said by `Berth`, and the history decides it",
        ],
    ),
    (
        "a class without a table",
        || [berth(vec![]), vec![class("Crane", vec![])]].concat(),
        &[
            "cranes, exists: nothing -> true",
            "cranes, module: nothing -> \"harbour\"",
            "cranes, has a class: nothing -> true",
            "cranes, class: nothing -> \"Crane\"",
            "cranes, kind: nothing -> \"table\"",
            "table-not-made: no step makes the table `cranes` of `Crane`",
        ],
    ),
    (
        "a table of another name",
        || {
            vec![
                quay(),
                Model { table: Some("pilots".into()), ..class("Guide", vec![]) },
                class("Berth", vec![to_one("pilot", "Guide")]),
            ]
        },
        &[
            "berths, foreign key pilot_id, references: nothing -> [null,\"pilots\",[\"id\"]]",
            "berths, foreign key pilot_id, on_delete: nothing -> \"no action\"",
            "berths, foreign key pilot_id, on_update: nothing -> \"no action\"",
            "berths, foreign key pilot_id, enforced: nothing -> \"application\"",
            "berths, relation pilot_id, kind: nothing -> \"many-to-one\"",
            "berths, relation pilot_id, attribute: nothing -> \"pilot\"",
            "berths, relation pilot_id, target: nothing -> \"pilots\"",
            "pilots, class: \"Pilot\" -> \"Guide\"",
        ],
    ),
    (
        "tables without a class",
        || vec![quay(), class("Berth", vec![to_one("quay", "Quay")])],
        &[
            "berths, relation quay_id, attribute: nothing -> \"quay\"",
            "pilots, module: \"harbour\" -> \"main\"",
            "pilots, column id, optional_in_code: \"required\" -> nothing",
            "pilots, column id, required_on_input: \"optional\" -> nothing",
            "pilots, column licence, optional_in_code: \"required\" -> nothing",
            "pilots, column licence, required_on_input: \"optional\" -> nothing",
            "table-without-class: no class stands for the table `pilots`",
        ],
    ),
    (
        "a class of the same table",
        || {
            let part = Model {
                form: Form::SameTable,
                extends: vec!["harbour.Berth".into()],
                ..class("DeepBerth", vec![])
            };
            [berth(vec![]), vec![part]].concat()
        },
        &[
            "berths as DeepBerth, exists: nothing -> true",
            "berths as DeepBerth, module: nothing -> \"harbour\"",
            "berths as DeepBerth, has a class: nothing -> true",
            "berths as DeepBerth, class: nothing -> \"DeepBerth\"",
            "berths as DeepBerth, kind: nothing -> \"table\"",
            "berths as DeepBerth, inherits: nothing -> \
             {\"entity\":\"harbour.Berth\",\"how\":\"same-table\"}",
        ],
    ),
    (
        "attributes of an abstract base",
        || {
            let base =
                Model { form: Form::Abstract, ..class("Placed", vec![to_one("quay", "Quay")]) };
            vec![
                quay(),
                pilot(),
                base,
                Model { extends: vec!["harbour.Placed".into()], ..class("Berth", vec![]) },
            ]
        },
        &["berths, relation quay_id, attribute: nothing -> \"quay\""],
    ),
    (
        "a class of another package",
        || {
            let key = field("number", |field| {
                field.key = true;
                field.spelling = Spelling::word("big-tally");
            });
            let far = Model { form: Form::External, ..class("Crane", vec![key]) };
            let over = |relation: &mut RelationDeclaration| {
                relation.carrier.column = Some("pilot_id".into())
            };
            vec![
                quay(),
                pilot(),
                far,
                class("Berth", vec![relation("crane", RelationKind::ManyToOne, "Crane", over)]),
            ]
        },
        &[
            "berths, foreign key pilot_id, references: nothing -> [null,\"cranes\",[\"number\"]]",
            "berths, foreign key pilot_id, on_delete: nothing -> \"no action\"",
            "berths, foreign key pilot_id, on_update: nothing -> \"no action\"",
            "berths, foreign key pilot_id, enforced: nothing -> \"application\"",
            "berths, relation pilot_id, kind: nothing -> \"many-to-one\"",
            "berths, relation pilot_id, attribute: nothing -> \"crane\"",
            "berths, relation pilot_id, target: nothing -> \"cranes\"",
            "cranes, exists: nothing -> true",
            "cranes, module: nothing -> \"harbour\"",
            "cranes, has a class: nothing -> true",
            "cranes, class: nothing -> \"Crane\"",
            "cranes, kind: nothing -> \"table\"",
            "cranes, external: nothing -> true",
            "cranes, key, columns: nothing -> [\"number\"]",
            "cranes, column number, attribute: nothing -> \"number\"",
            "cranes, column number, type: nothing -> \"bigint\"",
            "cranes, column number, nullable: nothing -> \"not null\"",
            "cranes, column number, optional_in_code: nothing -> \"required\"",
            "cranes, column number, required_on_input: nothing -> \"required\"",
        ],
    ),
];

#[test]
fn a_table_without_a_class_is_named() {
    let declarations = Declarations { models: berth(vec![]), ..Declarations::default() };
    let (_, diagnostics) = overlay(declarations, made(), &conventions(), &Sources::default());
    let said: Vec<String> = diagnostics
        .iter()
        .map(|diagnostic| format!("{}: {}", diagnostic.code, diagnostic.message))
        .collect();
    assert_eq!(said, ["table-without-class: no class stands for the table `quays_with_pilots`"]);
}

#[test]
fn what_classes_lay_over_tables() {
    let mut wrong = String::new();
    for (name, classes, wanted) in CASES {
        let found = laid(classes());
        if found != *wanted {
            wrong.push_str(&format!("{name}: &{found:#?},\n"));
        }
    }
    assert!(wrong.is_empty(), "other than wanted:\n{wrong}");
}
