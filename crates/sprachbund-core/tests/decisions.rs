//! What may go unsaid: what silence means in each dialect, and that leaving out is the inverse of
//! filling in, in every circumstance and with answers that no shipped dialect combines.

mod manifest;

use std::fmt::Debug;

use proptest::prelude::*;
use proptest::sample::select;
use sprachbund_core::decision::Decision;
use sprachbund_core::decision::action::{Checked, Enforced, InApplication, OnDelete, OnUpdate};
use sprachbund_core::decision::counter::{Counter, Numbering};
use sprachbund_core::decision::index::{ReferenceIndex, Uniqueness, ValueIndex};
use sprachbund_core::decision::names::{
    ColumnName, InverseOf, JoinColumnNames, JoinSide, JoinTableName, JoinedClass,
    ReferenceColumnName, TableName,
};
use sprachbund_core::decision::presence::{Carries, Presence};
use sprachbund_core::decision::values::{Filled, Moment};
use sprachbund_core::declaration::InverseName;
use sprachbund_core::dialect::conventions::{Actor, KeyNumbered, Nullability, SilentActions};
use sprachbund_core::dialect::grammar::ActionPlace;
use sprachbund_core::dialect::naming::NamePattern;
use sprachbund_core::dialect::{Conventions, Dialect, Medium, Settings};
use sprachbund_core::dialects::{DIALECTS, by_id};
use sprachbund_core::schema::{
    Action, Database, Default_, Deferrable, Function, Identity, Purpose, Type,
};

const PURPOSES: [Option<Purpose>; 5] = [
    None,
    Some(Purpose::CreationTime),
    Some(Purpose::UpdateTime),
    Some(Purpose::DeletionTime),
    Some(Purpose::Version),
];
const MOMENTS: [Moment; 2] = [Moment::Insert, Moment::Update];
const ACTORS: [Actor; 2] = [Actor::Database, Actor::Application];
const IDENTITIES: [Option<Identity>; 5] = [
    None,
    Some(Identity::ByDefault),
    Some(Identity::Always),
    Some(Identity::Sequence),
    Some(Identity::AutoIncrement),
];
const ACTIONS: [Action; 5] =
    [Action::NoAction, Action::Restrict, Action::Cascade, Action::SetNull, Action::SetDefault];
const VESSEL: JoinedClass<'_> = JoinedClass { name: "Vessel", table: "vessels" };
const OWNER: JoinedClass<'_> = JoinedClass { name: "Owner", table: "owners" };
const BOTH: [bool; 2] = [false, true];
const MAYBE: [Option<bool>; 3] = [None, Some(false), Some(true)];

fn types() -> [Type; 6] {
    [
        Type::Integer,
        Type::SmallInt,
        Type::BigInt,
        Type::Varchar(Some(40)),
        Type::Date,
        Type::Numeric { precision: Some(9), scale: Some(2) },
    ]
}

fn dialects() -> impl Iterator<Item = &'static Dialect> {
    DIALECTS
        .iter()
        .filter(|dialect| matches!(dialect.medium, Medium::Classes { .. }))
        .chain(std::iter::once(&manifest::DIALECT))
}

/// The answers of each dialect, in each release, on each server.
fn answers() -> Vec<Conventions> {
    let of = |dialect: &'static Dialect, version: &str, database| {
        (dialect.conventions)(&Settings {
            version: Some(version.to_owned()),
            database: Some(database),
            ..Settings::default()
        })
    };
    let of_release = |dialect: &'static Dialect, version| {
        dialect.databases.iter().map(move |database| of(dialect, version, *database))
    };
    dialects()
        .flat_map(|dialect| {
            dialect.versions.iter().flat_map(move |version| of_release(dialect, version))
        })
        .collect()
}

/// Whatever is said: what is left of it means the same; silence is left silent, unless the first
/// way to say it is a word.
fn both_ways<D: Decision>(decision: &D, all: impl IntoIterator<Item = D::Said>)
where
    D::Said: Clone + Debug + PartialEq,
    D::Meant: Debug,
{
    let name = std::any::type_name::<D>();
    for said in all {
        let meant = decision.fill(said.clone());
        let left = decision.omit(&meant);
        assert_eq!(decision.fill(left.clone()), meant, "{name}: {left:?} is left of {said:?}");
    }
    let silent = decision.fill(D::Said::default());
    let first =
        decision.ways(&silent).into_iter().find(|said| decision.fill(said.clone()) == silent);
    assert_eq!(first.as_ref(), Some(&decision.omit(&silent)), "{name}");
    if decision.ways(&silent).first() == Some(&D::Said::default()) {
        assert_eq!(first, Some(D::Said::default()), "{name} says what silence means");
    }
}

/// All of a set of answers.
fn each_both_ways(conventions: &Conventions) {
    presence_both_ways(conventions);
    values_both_ways(conventions);
    counters_both_ways(conventions);
    names_both_ways(conventions);
    indexes_both_ways(conventions);
    actions_both_ways(conventions);
}

fn presence_both_ways(conventions: &Conventions) {
    for circumstances in 0..32 {
        let is = |bit: usize| circumstances & (1 << bit) != 0;
        let carries = if is(0) { Carries::Reference } else { Carries::Value };
        let presence = Presence {
            conventions,
            carries,
            in_key: is(1),
            array: is(2),
            generated: is(3),
            automatic: is(4),
        };
        MAYBE.iter().for_each(|optional| both_ways(&presence.nullable(*optional), MAYBE));
        presence.required_on_input().iter().for_each(|decision| both_ways(decision, MAYBE));
        for nullable in BOTH {
            presence
                .optional_in_code(nullable)
                .iter()
                .for_each(|decision| both_ways(decision, MAYBE));
        }
    }
}

fn values_both_ways(conventions: &Conventions) {
    let values = || {
        let literal = |value: serde_json::Value| Some(Box::new(Default_::Literal(value)));
        let function = |function| Some(Box::new(Default_::Function(function)));
        [
            None,
            literal("12".into()),
            literal(12.into()),
            literal("deep".into()),
            function(Function::Now),
            function(Function::Today),
        ]
    };
    for (purpose, ty) in PURPOSES.iter().flat_map(|purpose| types().map(|ty| (*purpose, ty))) {
        for (moment, actor) in
            MOMENTS.iter().flat_map(|moment| ACTORS.map(|actor| (*moment, actor)))
        {
            both_ways(&Filled { conventions, purpose, ty: &ty, moment, actor }, values());
        }
    }
}

fn counters_both_ways(conventions: &Conventions) {
    let said = || {
        IDENTITIES
            .iter()
            .flat_map(|identity| MAYBE.map(|numbered| Numbering { identity: *identity, numbered }))
    };
    for (circumstances, ty) in
        (0..8).flat_map(|circumstances| types().map(|ty| (circumstances, ty)))
    {
        let is = |bit: usize| circumstances & (1 << bit) != 0;
        both_ways(
            &Counter { conventions, ty: &ty, by_word: is(0), alone_in_key: is(1), valued: is(2) },
            said(),
        );
    }
}

fn names_both_ways(conventions: &Conventions) {
    let names = || {
        [None, Some("pier".to_owned()), Some("TidalBerth".to_owned()), Some("quay_id".to_owned())]
    };
    both_ways(&TableName { conventions, module: "harbour", class: "TidalBerth" }, names());
    both_ways(&ColumnName { conventions, attribute: "homeQuay" }, names());
    for attribute in ["homeQuay", ""] {
        both_ways(&ReferenceColumnName { conventions, attribute, referenced: "id" }, names());
    }
    for one_to_one in BOTH {
        let said = [
            InverseName::Silent,
            InverseName::Hidden,
            InverseName::Named("berths".into()),
            InverseName::Named("{name}_x".into()),
        ];
        both_ways(&InverseOf { conventions, module: "harbour", class: "Berth", one_to_one }, said);
    }
    for target in [VESSEL, OWNER] {
        both_ways(
            &JoinTableName {
                conventions,
                module: "harbour",
                owner: VESSEL,
                attribute: "owners",
                target,
            },
            names(),
        );
        for key in [vec!["id"], vec!["flag", "number"]] {
            let sides = [VESSEL, target].map(|class| JoinSide { class, key: key.clone() });
            let decision = JoinColumnNames { conventions, sides };
            both_ways(
                &decision,
                names().iter().flat_map(|own| names().map(|other| [own.clone(), other])),
            );
        }
    }
}

fn indexes_both_ways(conventions: &Conventions) {
    for circumstances in 0..16 {
        let is = |bit: usize| circumstances & (1 << bit) != 0;
        both_ways(
            &Uniqueness { conventions, one_to_one: is(0), whole_key: is(1), of_several: is(2) },
            MAYBE,
        );
        both_ways(&ValueIndex { by_word: is(0), served: is(1), makeable: is(2) }, MAYBE);
        let decision = ReferenceIndex {
            conventions,
            served: is(0),
            of_several: is(1),
            has_attribute: is(2),
            enforced: is(3),
        };
        both_ways(&decision, MAYBE);
    }
}

fn actions_both_ways(conventions: &Conventions) {
    let actions = || std::iter::once(None).chain(ACTIONS.map(Some));
    for optional in BOTH {
        both_ways(&OnDelete { conventions, optional }, actions());
        both_ways(
            &InApplication { conventions, optional },
            actions().map(|action| action.map(Some)),
        );
    }
    both_ways(&OnUpdate { conventions }, actions());
    both_ways(&Enforced { conventions }, MAYBE);
    let deferrable =
        [None, Some(Deferrable::InitiallyDeferred), Some(Deferrable::InitiallyImmediate)];
    both_ways(&Checked { conventions }, std::iter::once(None).chain(deferrable.map(Some)));
}

#[test]
fn leaving_out_is_the_inverse_of_filling_in() {
    for conventions in answers() {
        println!(
            "{} {} on {:?}",
            conventions.dialect.id, conventions.version, conventions.database
        );
        each_both_ways(&conventions);
    }
}

fn nullability() -> impl Strategy<Value = Nullability> {
    any::<[bool; 7]>().prop_map(
        |[column, reference, arrays, generated, follows_code, code_follows, required_on_input]| {
            Nullability {
                column,
                reference,
                arrays,
                generated,
                follows_code,
                code_follows,
                required_on_input,
            }
        },
    )
}

/// Answers, of which a failure shows the ones that were mixed in.
#[derive(Clone)]
struct Mixed(Conventions);

impl Debug for Mixed {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        let Conventions { dialect, database, nullability, layers, delete, times, .. } = &self.0;
        write!(
            f,
            "{} on {database:?}: {nullability:?}, {layers:?}, {delete:?}, {times:?}, {:?}",
            dialect.id, self.0.keys.whole_numbered
        )
    }
}

/// The answers of a dialect with some of another's, and some that nobody gives.
fn mixed() -> impl Strategy<Value = Mixed> {
    let numbered =
        [KeyNumbered::WhenSaid, KeyNumbered::UnlessValued, KeyNumbered::Always, KeyNumbered::ByRow];
    let silent = (select(&ACTIONS[..]), select(&ACTIONS[..]), select(&ACTIONS[..]));
    let parts = (
        select(answers()),
        select(answers()),
        select(answers()),
        nullability(),
        select(numbered.to_vec()),
        silent,
    );
    let flags = (any::<[bool; 6]>(), select(ACTORS.to_vec()), select(ACTORS.to_vec()));
    (parts, flags).prop_map(
        |((of, names, joins, nullability, whole_numbered, silent), (flags, acts, keeps))| {
            let mut mixed =
                Conventions { nullability, names: names.names, joins: joins.joins, ..of };
            (mixed.layers.input, mixed.layers.code) = (flags[0], flags[1]);
            (mixed.references.indexed, mixed.references.one_to_one_unique) = (flags[2], flags[3]);
            mixed.times.update_stored = flags[4];
            mixed.grammar.application_action =
                if flags[5] { ActionPlace::Inverse } else { ActionPlace::Reference };
            (mixed.delete.actor, mixed.times.actor) = (acts, keeps);
            mixed.keys.whole_numbered = whole_numbered;
            mixed.delete.silent =
                SilentActions { required: silent.0, optional: silent.1, on_update: silent.2 };
            Mixed(mixed)
        },
    )
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 64, failure_persistence: None,
        ..ProptestConfig::default() })]

    #[test]
    fn leaving_out_is_the_inverse_of_filling_in_for_any_answers(mixed in mixed()) {
        each_both_ways(&mixed.0);
    }

    #[test]
    fn patterns_of_names_stay_inverse(pattern in select(vec!["{name}", "x_{attribute}",
        "{table}_{column}", "same"])) {
        for mut conventions in answers() {
            let pattern = || NamePattern::parse(pattern).expect("a pattern");
            conventions.joins.column = pattern();
            conventions.names.reference_column = pattern();
            names_both_ways(&conventions);
        }
    }
}

/// Django leaves the index of a reference to MariaDB, which makes none where another begins with
/// the column; a relation of a class of its own, whose columns it does not recognise, says that it
/// has one (`_field_should_be_indexed` of its MySQL back end, 5.2.19).
#[test]
fn an_index_is_left_to_the_server_unless_it_is_said() {
    let django = by_id("django").expect("a dialect");
    for (database, enforced, said, wanted) in [
        (Database::MariaDb, true, None, false),
        (Database::MariaDb, true, Some(true), true),
        (Database::MariaDb, true, Some(false), false),
        (Database::MariaDb, false, None, true),
        (Database::PostgreSql, true, None, true),
        (Database::PostgreSql, true, Some(false), false),
    ] {
        let conventions =
            (django.conventions)(&Settings { database: Some(database), ..Settings::default() });
        let index = ReferenceIndex {
            conventions: &conventions,
            served: false,
            of_several: false,
            has_attribute: false,
            enforced,
        };
        assert_eq!(index.fill(said), wanted, "{database:?}, enforced: {enforced}, said: {said:?}");
    }
}

/// One thing that is asked of a dialect.
type Ask = fn(&Conventions) -> String;

/// What silence means in Django, TypeORM, SQLAlchemy, Prisma, Sequelize, Mongoose and the dialect
/// from outside.
type Row = (&'static str, Ask, [&'static str; 7]);

const COLUMNS: [&str; 7] =
    ["django", "typeorm", "sqlalchemy", "prisma", "sequelize", "mongoose", "manifest"];

fn shown(value: impl Debug) -> String {
    format!("{value:?}").replace("Some(", "").replace('(', " ").replace([')', '"'], "")
}

fn plain(conventions: &Conventions) -> Presence<'_> {
    Presence {
        conventions,
        carries: Carries::Value,
        in_key: false,
        array: false,
        generated: false,
        automatic: false,
    }
}

fn counter(conventions: &Conventions, valued: bool, said: Numbering) -> String {
    shown(
        Counter { conventions, ty: &Type::Integer, by_word: false, alone_in_key: true, valued }
            .fill(said),
    )
}

fn filled(conventions: &Conventions, purpose: Purpose, moment: Moment, actor: Actor) -> String {
    shown(
        Filled {
            conventions,
            purpose: Some(purpose),
            ty: &Type::Timestamp { zoned: true, precision: None },
            moment,
            actor,
        }
        .fill(None),
    )
}

fn join_columns(conventions: &Conventions, target: JoinedClass<'_>) -> String {
    let sides = [VESSEL, target].map(|class| JoinSide { class, key: vec!["id"] });
    JoinColumnNames { conventions, sides }.fill([None, None]).map(|names| names.join(" ")).join(" ")
}

fn reference_index(conventions: &Conventions, enforced: bool, said: Option<bool>) -> String {
    shown(
        ReferenceIndex {
            conventions,
            served: false,
            of_several: false,
            has_attribute: false,
            enforced,
        }
        .fill(said),
    )
}

const ROWS: &[Row] = &[
    (
        "a column is null",
        |c| shown(plain(c).nullable(None).fill(None)),
        ["false", "false", "true", "false", "true", "true", "true"],
    ),
    (
        "of an optional type in the code",
        |c| shown(plain(c).nullable(Some(true)).fill(None)),
        ["false", "false", "true", "false", "true", "true", "true"],
    ),
    (
        "of a type in the code that is not",
        |c| shown(plain(c).nullable(Some(false)).fill(None)),
        ["false", "false", "false", "false", "true", "true", "true"],
    ),
    (
        "in the key",
        |c| shown(Presence { in_key: true, ..plain(c) }.nullable(Some(true)).fill(Some(true))),
        ["false", "false", "false", "false", "false", "false", "false"],
    ),
    (
        "an array",
        |c| shown(Presence { array: true, ..plain(c) }.nullable(Some(false)).fill(None)),
        ["false", "false", "false", "true", "true", "true", "true"],
    ),
    (
        "generated",
        |c| shown(Presence { generated: true, ..plain(c) }.nullable(Some(false)).fill(None)),
        ["true", "false", "false", "false", "true", "true", "true"],
    ),
    (
        "a reference is null",
        |c| {
            shown(
                Presence { carries: Carries::Reference, ..plain(c) }
                    .nullable(Some(false))
                    .fill(None),
            )
        },
        ["false", "true", "false", "false", "true", "true", "false"],
    ),
    (
        "required on input",
        |c| shown(plain(c).required_on_input().map(|decision| decision.fill(None))),
        ["true", "None", "None", "None", "None", "false", "false"],
    ),
    (
        "numbered, required on input",
        |c| {
            shown(
                Presence { automatic: true, ..plain(c) }
                    .required_on_input()
                    .map(|decision| decision.fill(None)),
            )
        },
        ["false", "None", "None", "None", "None", "false", "false"],
    ),
    (
        "null, optional in the code",
        |c| shown(plain(c).optional_in_code(true).map(|decision| decision.fill(None))),
        ["None", "false", "true", "true", "true", "None", "false"],
    ),
    (
        "never null, optional in the code",
        |c| shown(plain(c).optional_in_code(false).map(|decision| decision.fill(None))),
        ["None", "false", "false", "false", "false", "None", "false"],
    ),
    (
        "null array, optional in the code",
        |c| {
            shown(
                Presence { array: true, ..plain(c) }
                    .optional_in_code(true)
                    .map(|decision| decision.fill(None)),
            )
        },
        ["None", "false", "true", "None", "true", "None", "false"],
    ),
    (
        "creation time by the database",
        |c| filled(c, Purpose::CreationTime, Moment::Insert, Actor::Database),
        ["None", "Function Now", "None", "None", "None", "None", "None"],
    ),
    (
        "creation time by the application",
        |c| filled(c, Purpose::CreationTime, Moment::Insert, Actor::Application),
        [
            "Function Now",
            "None",
            "Function Now",
            "Function Now",
            "Function Now",
            "Function Now",
            "Function Now",
        ],
    ),
    (
        "update time by the application",
        |c| filled(c, Purpose::UpdateTime, Moment::Update, Actor::Application),
        [
            "Function Now",
            "Function Now",
            "Function Now",
            "Function Now",
            "Function Now",
            "Function Now",
            "Function Now",
        ],
    ),
    (
        "update time by the database",
        |c| filled(c, Purpose::UpdateTime, Moment::Update, Actor::Database),
        ["None", "None", "None", "None", "None", "None", "None"],
    ),
    (
        "creation time at an update",
        |c| filled(c, Purpose::CreationTime, Moment::Update, Actor::Application),
        ["None", "None", "None", "None", "None", "None", "None"],
    ),
    (
        "deletion time",
        |c| filled(c, Purpose::DeletionTime, Moment::Insert, Actor::Application),
        ["None", "None", "None", "None", "None", "None", "None"],
    ),
    (
        "a key of one number",
        |c| counter(c, false, Numbering::default()),
        ["None", "None", "Sequence", "None", "None", "None", "None"],
    ),
    (
        "one that refers to another table",
        |c| counter(c, true, Numbering::default()),
        ["None", "None", "None", "None", "None", "None", "None"],
    ),
    (
        "one that is said not to be numbered",
        |c| counter(c, false, Numbering { identity: None, numbered: Some(false) }),
        ["None", "None", "None", "None", "None", "None", "None"],
    ),
    (
        "one of a word that numbers",
        |c| {
            shown(
                Counter {
                    conventions: c,
                    ty: &Type::Integer,
                    by_word: true,
                    alone_in_key: false,
                    valued: true,
                }
                .fill(Numbering::default()),
            )
        },
        ["ByDefault", "Sequence", "Sequence", "Sequence", "Sequence", "ByDefault", "ByDefault"],
    ),
    (
        "a number beside the key",
        |c| {
            shown(
                Counter {
                    conventions: c,
                    ty: &Type::Integer,
                    by_word: false,
                    alone_in_key: false,
                    valued: false,
                }
                .fill(Numbering::default()),
            )
        },
        ["None", "None", "None", "None", "None", "None", "None"],
    ),
    (
        "a table",
        |c| TableName { conventions: c, module: "harbour", class: "TidalBerth" }.fill(None),
        [
            "harbour_tidalberth",
            "tidal_berth",
            "",
            "TidalBerth",
            "TidalBerths",
            "tidalberths",
            "tidal_berths",
        ],
    ),
    (
        "a column",
        |c| ColumnName { conventions: c, attribute: "maxDraught" }.fill(None),
        [
            "maxDraught",
            "maxDraught",
            "maxDraught",
            "maxDraught",
            "maxDraught",
            "maxDraught",
            "max_draught",
        ],
    ),
    (
        "the column of a relation",
        |c| {
            ReferenceColumnName { conventions: c, attribute: "homeQuay", referenced: "id" }
                .fill(None)
        },
        [
            "homeQuay_id",
            "homeQuayId",
            "homeQuay",
            "homeQuayId",
            "homeQuayId",
            "homeQuay",
            "id_of_home_quay",
        ],
    ),
    (
        "the other side",
        |c| {
            shown(
                InverseOf {
                    conventions: c,
                    module: "harbour",
                    class: "TidalBerth",
                    one_to_one: false,
                }
                .fill(InverseName::Silent),
            )
        },
        ["tidalberth_set", "None", "None", "None", "None", "None", "None"],
    ),
    (
        "the other side of a one-to-one",
        |c| {
            shown(
                InverseOf {
                    conventions: c,
                    module: "harbour",
                    class: "TidalBerth",
                    one_to_one: true,
                }
                .fill(InverseName::Silent),
            )
        },
        ["tidalberth", "None", "None", "None", "None", "None", "None"],
    ),
    (
        "a join table",
        |c| {
            JoinTableName {
                conventions: c,
                module: "harbour",
                owner: VESSEL,
                attribute: "owners",
                target: OWNER,
            }
            .fill(None)
        },
        [
            "vessels_owners",
            "vessels_owners_owners",
            "owners",
            "_OwnerToVessel",
            "",
            "",
            "vessels_with_owners",
        ],
    ),
    (
        "its columns",
        |c| join_columns(c, OWNER),
        ["vessel_id owner_id", "vesselsId ownersId", " ", "A B", " ", " ", "vessel_id owner_id"],
    ),
    (
        "its columns to one table",
        |c| join_columns(c, VESSEL),
        [
            "from_vessel_id to_vessel_id",
            "vesselsId_1 vesselsId_2",
            " ",
            "A B",
            " ",
            " ",
            "from_vessel_id to_vessel_id",
        ],
    ),
    (
        "a one-to-one is unique",
        |c| {
            shown(
                Uniqueness {
                    conventions: c,
                    one_to_one: true,
                    whole_key: false,
                    of_several: false,
                }
                .fill(None),
            )
        },
        ["true", "true", "true", "false", "false", "false", "true"],
    ),
    (
        "a reference is indexed",
        |c| reference_index(c, true, None),
        ["true", "false", "false", "false", "false", "false", "true"],
    ),
    (
        "one that the application keeps",
        |c| reference_index(c, false, None),
        ["true", "false", "false", "false", "false", "false", "true"],
    ),
    (
        "one of which it is said",
        |c| reference_index(c, true, Some(true)),
        ["true", "true", "true", "true", "true", "true", "true"],
    ),
    (
        "on delete, never null",
        |c| shown(OnDelete { conventions: c, optional: false }.fill(None)),
        ["NoAction", "NoAction", "NoAction", "Restrict", "NoAction", "NoAction", "Restrict"],
    ),
    (
        "on delete, null",
        |c| shown(OnDelete { conventions: c, optional: true }.fill(None)),
        ["NoAction", "NoAction", "NoAction", "SetNull", "NoAction", "NoAction", "SetNull"],
    ),
    (
        "on delete, told to cascade",
        |c| shown(OnDelete { conventions: c, optional: true }.fill(Some(Action::Cascade))),
        ["NoAction", "Cascade", "Cascade", "Cascade", "Cascade", "Cascade", "Cascade"],
    ),
    (
        "on update",
        |c| shown(OnUpdate { conventions: c }.fill(None)),
        ["NoAction", "NoAction", "NoAction", "Cascade", "Cascade", "NoAction", "Cascade"],
    ),
    (
        "the application, on delete",
        |c| shown(InApplication { conventions: c, optional: true }.fill(None)),
        ["None", "None", "None", "None", "None", "None", "None"],
    ),
    (
        "the application, told to cascade",
        |c| {
            shown(
                InApplication { conventions: c, optional: true }.fill(Some(Some(Action::Cascade))),
            )
        },
        ["Cascade", "None", "Cascade", "None", "None", "None", "None"],
    ),
    (
        "checked",
        |c| shown(Checked { conventions: c }.fill(None)),
        ["InitiallyDeferred", "None", "None", "None", "None", "None", "InitiallyImmediate"],
    ),
    (
        "a foreign key is made",
        |c| shown(Enforced { conventions: c }.fill(None)),
        ["true", "true", "true", "true", "true", "false", "true"],
    ),
];

#[test]
fn silence_means_in_each_dialect_what_its_framework_makes_of_it() {
    let mut wrong = String::new();
    let answers = COLUMNS.map(|id| {
        let dialect = by_id(id).unwrap_or(&manifest::DIALECT);
        (dialect.conventions)(&Settings {
            database: dialect.databases.first().copied(),
            ..Settings::default()
        })
    });
    for (name, ask, wanted) in ROWS {
        let found = [0, 1, 2, 3, 4, 5, 6].map(|at| ask(&answers[at]));
        if found != *wanted {
            wrong.push_str(&format!("{name}: {found:?}\n"));
        }
    }
    assert!(wrong.is_empty(), "other than wanted:\n{wrong}");
}
