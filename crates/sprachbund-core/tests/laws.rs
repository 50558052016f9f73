//! The laws of docs/architecture.md over generated schemas, for every dialect, database and source
//! voice.

mod generator;
mod manifest;
#[path = "generator/variants.rs"]
mod variants;

use std::cell::Cell;
use std::collections::BTreeSet;

use generator::{EntityPlan, Voice, build, plans};
use proptest::prelude::*;
use proptest::strategy::ValueTree;
use proptest::test_runner::{Config, TestRunner};
use sprachbund_core::declaration::{Attribute, Declarations, Form, without_spans};
use sprachbund_core::dialect::conventions::KeyNumbered;
use sprachbund_core::dialect::{Conventions, Dialect, Medium, PrintedFile, Settings};
use sprachbund_core::dialects::{DIALECTS, by_id};
use sprachbund_core::elide::{elide, printed};
use sprachbund_core::fit::suit;
use sprachbund_core::fit::{Fitted, UNEXPLAINED, fit};
use sprachbund_core::history::{operations, replay, stored_part};
use sprachbund_core::host::project::Project;
use sprachbund_core::reading::{Reading, meaning, read};
use sprachbund_core::schema::facts::{Aspect, FactKey, Facts, differences, facts};
use sprachbund_core::schema::{Database, Schema, Source};
use sprachbund_core::source::{NoFiles, Sources};
use variants::{variants, wanted};

const VOICES: [Voice; 6] = [
    Voice::Django,
    Voice::Mongoose,
    Voice::Prisma,
    Voice::Sequelize,
    Voice::SqlAlchemy,
    Voice::TypeOrm,
];

/// The dialects of classes, and one from outside; what a database stores has laws of its own below.
fn declared() -> impl Iterator<Item = &'static Dialect> {
    DIALECTS
        .iter()
        .filter(|dialect| matches!(dialect.medium, Medium::Classes { .. }))
        .chain(std::iter::once(&manifest::DIALECT))
}

struct Written {
    fitted: Fitted,
    conventions: Conventions,
    declarations: Declarations,
    files: Vec<PrintedFile>,
    settings: Settings,
}

fn write(schema: &Schema, way: &Way<'_>) -> Written {
    let Way { dialect, database, style, release, .. } = *way;
    let [style, version] = [style, release].map(|said| said.map(str::to_owned));
    let mut settings = Settings { database: Some(database), style, version, ..Settings::default() };
    suit(schema, dialect, &mut settings);
    let fitted = fit(schema, dialect, &settings);
    let conventions = (dialect.conventions)(&settings);
    let declarations = elide(&fitted.schema, &conventions);
    let files = printed(dialect, &fitted.schema, &conventions);
    Written { fitted, conventions, declarations, files, settings }
}

fn inputs(files: &[PrintedFile]) -> Vec<(String, String)> {
    files.iter().map(|file| (file.path.clone(), file.text.clone())).collect()
}

fn texts(files: &[PrintedFile]) -> String {
    files.iter().map(|file| format!("--- {}\n{}", file.path, file.text)).collect()
}

fn read_back(written: &Written, dialect: &Dialect) -> Reading {
    // However it is written, it is read alike.
    let mut settings = Settings { default_key: None, style: None, ..written.settings.clone() };
    read(inputs(&written.files), dialect, &mut settings, &NoFiles)
}

/// Declarations of the project itself, in the order of their ids.
fn comparable(declarations: Declarations) -> Declarations {
    let mut declarations = without_spans(declarations);
    declarations.models.retain(|model| !matches!(model.form, Form::External | Form::Abstract));
    declarations.models.sort_by(|left, right| left.id.cmp(&right.id));
    declarations.enums.sort_by(|left, right| left.name.cmp(&right.name));
    declarations.assumed.clear();
    // What steps make is held against what was meant by law 3.
    declarations.history = Default::default();
    declarations
}

/// Where a schema comes from and where it goes.
#[derive(Clone, Copy)]
struct Way<'d> {
    voice: Voice,
    from: Database,
    dialect: &'d Dialect,
    database: Database,
    style: Option<&'d str>,
    /// An older release than the newest that was tried.
    release: Option<&'d str>,
}

impl std::fmt::Display for Way<'_> {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        let Way { voice, from, dialect, database, style, release } = self;
        write!(
            f,
            "{voice:?} on {} to {} {release:?} on {}, style {style:?}",
            from.title(),
            dialect.framework,
            database.title()
        )
    }
}

fn check_laws(plans: &[EntityPlan], way: Way<'_>) {
    let Way { voice, from, dialect, database, .. } = way;
    let schema = build(plans, voice, from);
    let written = write(&schema, &way);
    let Written { fitted, conventions, declarations, files, settings } = &written;

    // 1: resolve is the inverse of elide.
    let (resolved, _) = meaning(
        declarations.clone(),
        conventions,
        &Sources::default(),
        Source { database, ..Source::default() },
    );
    assert_eq!(differences(&fitted.schema, &resolved), [], "{way}: law 1\n{declarations:#?}");

    // 8: what is emitted is well-formed.
    let mut project = Project::load(inputs(files), &dialect.wanted(), &NoFiles);
    for (file, outline) in project.files() {
        assert!(
            outline.errors.is_empty(),
            "{way}: law 8: {}\n{}",
            project.path(file),
            texts(files)
        );
    }

    // 2: reading is the inverse of printing.
    let Medium::Classes { read, .. } = dialect.medium else {
        unreachable!("only declared dialects come here")
    };
    let (read_again, _) = read(&mut project, &Settings { style: None, ..settings.clone() });
    let only_used = |mut read: Declarations| {
        read.enums.retain(|enumeration| {
            declarations.enums.iter().any(|known| known.name == enumeration.name)
        });
        read
    };
    assert_eq!(
        comparable(only_used(read_again)),
        comparable(declarations.clone()),
        "{way}: law 2\n{}",
        texts(files)
    );

    // 3: what is read back is what was fitted, and writes the same bytes again.
    let back = read_back(&written, dialect);
    assert_eq!(differences(&fitted.schema, &back.schema), [], "{way}: law 3\n{}", texts(files));
    let again = write(&back.schema, &way);
    assert_eq!(texts(&again.files), texts(files), "{way}: law 3, bytes");

    // 5: home is lossless, and fitting again changes nothing.
    assert_eq!(again.fitted.changes, [], "{way}: law 5\n{}", texts(files));
    assert_eq!(differences(&again.fitted.schema, &back.schema), [], "{way}: law 5, idempotent");

    each_difference_has_one_change(&way, &written, &back.schema);

    // 9: the operations of a schema replay to its stored part.
    let replayed = replay(&operations(&schema), schema.source.clone()).expect("possible steps");
    assert_eq!(facts(&replayed), facts(&stored_part(&schema)), "{way}: law 9");
}

fn each_difference_has_one_change(way: &Way<'_>, written: &Written, back: &Schema) {
    let Written { fitted, files, .. } = written;
    // 4: each difference has exactly one change, which knows its reason; each change has a fact,
    // and each of its facts differs.
    let found: Vec<FactKey> =
        differences(&fitted.named, back).into_iter().map(|difference| difference.key).collect();
    let mut told: Vec<FactKey> =
        fitted.changes.iter().flat_map(|change| change.facts.clone()).collect();
    told.sort();
    assert_eq!(told, sorted(found), "{way}: law 4\n{:#?}\n{}", fitted.changes, texts(files));
    for change in &fitted.changes {
        assert!(
            !change.facts.is_empty() && !change.elements.is_empty(),
            "{way}: law 4: a change of nothing: {change:#?}"
        );
        assert_ne!(
            change.reason,
            UNEXPLAINED,
            "{way}: law 4: no pass says why: {change:#?}\n{}",
            texts(files)
        );
    }
}

fn sorted(mut facts: Vec<FactKey>) -> Vec<FactKey> {
    facts.sort();
    facts
}

/// The servers that a schema of tables may be read for.
const SERVERS: [Database; 4] =
    [Database::PostgreSql, Database::MariaDb, Database::MySql, Database::Sqlite];

/// Every voice, dialect and server, in the newest release, and in one of its other releases and
/// styles, each in its turn; the source's server is the target's in half of the cases, else each of
/// them in turn.
fn everywhere(check: impl Fn(&[EntityPlan], Way<'_>)) {
    let mut runner =
        TestRunner::new(Config { cases: cases(), failure_persistence: None, ..Config::default() });
    // One dialect alone, where somebody works on it.
    let wanted = std::env::var("LAWS_OF").ok();
    let (turn, round) = (Cell::new(0_usize), Cell::new(0_usize));
    let outcome = runner.run(&plans(), |plan| {
        // A turn more for each plan and for each voice, so that none of them meets the same release
        // and the same servers each time.
        round.set(round.get() + 1);
        turn.set(turn.get() + 1);
        for (at, voice) in VOICES.into_iter().enumerate() {
            turn.set(turn.get() + 1);
            for dialect in declared()
                .filter(|dialect| wanted.as_ref().is_none_or(|wanted| wanted == dialect.id))
            {
                for database in dialect.databases.iter().copied() {
                    let styles =
                        dialect.details.styles.iter().skip(1).map(|style| (Some(*style), None));
                    let releases =
                        dialect.versions.iter().skip(1).map(|release| (None, Some(*release)));
                    let others: Vec<_> = styles.chain(releases).collect();
                    let other = others.get((round.get() + at) % others.len().max(1)).copied();
                    for (style, release) in std::iter::once((None, None)).chain(other) {
                        turn.set(turn.get() + 1);
                        let from = if turn.get().is_multiple_of(2) {
                            database
                        } else {
                            SERVERS[turn.get() / 2 % SERVERS.len()]
                        };
                        check(&plan, Way { voice, from, dialect, database, style, release });
                    }
                }
            }
        }
        Ok(())
    });
    if let Err(error) = outcome {
        panic!("{error}");
    }
}

/// Cases of each property; PROPTEST_CASES asks for more.
fn cases() -> u32 {
    std::env::var("PROPTEST_CASES").ok().and_then(|text| text.parse().ok()).unwrap_or(48)
}

#[test]
fn laws_1_to_5_8_and_9() {
    everywhere(check_laws);
}

#[test]
fn law_0_of_the_dialect_from_outside() {
    let text = r#"{ "models": [{ "id": "quay.Quay", "name": "Quay", "module": "quay",
        "form": "Concrete", "extras": {} }] }"#;
    for (text, named) in
        [(text.to_owned(), 0), (text.replace("\"module\"", "\"lighthouse\": 1, \"module\""), 1)]
    {
        let mut settings = Settings::default();
        let reading =
            read(vec![("quay.manifest".into(), text)], &manifest::DIALECT, &mut settings, &NoFiles);
        let found =
            reading.diagnostics.iter().filter(|diagnostic| diagnostic.code == "unread-option");
        assert_eq!(found.count(), named, "{:?}", reading.diagnostics);
    }
}

#[test]
fn law_6_nothing_superfluous() {
    everywhere(|plans, way| {
        let Way { voice, from, database, .. } = way;
        let written = write(&build(plans, voice, from), &way);
        let meant = |declarations: &Declarations| {
            let source = Source { database, ..Source::default() };
            let (schema, _) =
                meaning(declarations.clone(), &written.conventions, &Sources::default(), source);
            facts(&schema)
        };
        let whole = meant(&written.declarations);
        for model in 0..written.declarations.models.len() {
            for attribute in 0..written.declarations.models[model].attributes.len() {
                for (what, without) in LEAVE_OUT {
                    // Where every key is numbered, the word tells the client alone that it need not
                    // give one.
                    if *what == "identity"
                        && written.conventions.keys.whole_numbered == KeyNumbered::Always
                    {
                        continue;
                    }
                    let mut less = written.declarations.clone();
                    if without(&mut less.models[model].attributes[attribute]) {
                        assert_ne!(
                            meant(&less),
                            whole,
                            "law 6: {what} says nothing\n{:#?}",
                            written.declarations.models[model].attributes[attribute]
                        );
                    }
                }
            }
        }
    });
}

type LeaveOut = (&'static str, fn(&mut Attribute) -> bool);

/// Options that may be left out of an attribute; each tells whether it was there.
const LEAVE_OUT: &[LeaveOut] = &[
    ("column", |attribute| of_field(attribute, |field| field.column.take().is_some())),
    ("nullable", |attribute| of_field(attribute, |field| field.nullable.take().is_some())),
    ("required on input", |attribute| {
        of_field(attribute, |field| field.required_on_input.take().is_some())
    }),
    // Of a relation it follows from the column.
    ("optional in code", |attribute| match attribute {
        Attribute::Field(field) => field.optional_in_code.replace(false) == Some(true),
        _ => false,
    }),
    ("default in the database", |attribute| {
        of_field(attribute, |field| field.database_default.take().is_some())
    }),
    ("default in the application", |attribute| {
        of_field(attribute, |field| field.application_default.take().is_some())
    }),
    ("unique", |attribute| of_field(attribute, |field| field.unique.take().is_some())),
    ("indexed", |attribute| of_field(attribute, |field| field.indexed.take().is_some())),
    ("choices", |attribute| of_field(attribute, |field| field.choices.take().is_some())),
    ("comment", |attribute| of_field(attribute, |field| field.comment.take().is_some())),
    ("purpose", |attribute| of_field(attribute, |field| field.purpose.take().is_some())),
    ("identity", |attribute| of_field(attribute, |field| field.identity.take().is_some())),
    ("generated", |attribute| of_field(attribute, |field| field.generated.take().is_some())),
    ("length", |attribute| of_field(attribute, |field| field.spelling.length.take().is_some())),
    ("constraint", |attribute| {
        of_relation(attribute, |relation| relation.constraint.take().is_some())
    }),
    ("deferrable", |attribute| {
        of_relation(attribute, |relation| relation.deferrable.take().is_some())
    }),
    // Of a relation without a name they are what it is known by.
    ("join columns", |attribute| {
        of_relation(attribute, |relation| {
            relation.name.is_some() && !std::mem::take(&mut relation.join_columns).is_empty()
        })
    }),
    ("join table", |attribute| {
        of_relation(attribute, |relation| {
            std::mem::take(&mut relation.join_table) != Default::default()
        })
    }),
];

fn of_field(
    attribute: &mut Attribute,
    take: fn(&mut sprachbund_core::declaration::FieldDeclaration) -> bool,
) -> bool {
    match attribute {
        Attribute::Field(field) => take(field),
        Attribute::Relation(relation) => take(&mut relation.carrier),
        Attribute::Inverse(_) | Attribute::Removed(_) => false,
    }
}

fn of_relation(
    attribute: &mut Attribute,
    take: fn(&mut sprachbund_core::declaration::RelationDeclaration) -> bool,
) -> bool {
    match attribute {
        Attribute::Relation(relation) => take(relation),
        _ => false,
    }
}

#[test]
fn the_generator_covers_every_variant() {
    let mut runner = TestRunner::deterministic();
    let mut seen = BTreeSet::new();
    for _ in 0..600 {
        let plan = plans().new_tree(&mut runner).expect("a plan").current();
        for voice in VOICES {
            for database in [Database::PostgreSql, Database::MariaDb, Database::Sqlite] {
                seen.extend(variants(&build(&plan, voice, database)));
            }
        }
    }
    let missing: Vec<&str> = wanted().into_iter().filter(|word| !seen.contains(word)).collect();
    assert!(missing.is_empty(), "never generated: {missing:?}");
}

const DJANGO: &str = include_str!("../../../demo/django/harbour/models.py");
const MONGOOSE: &str = include_str!("../../../demo/mongoose/harbour/port-call.ts");
const PRISMA: &str = include_str!("../../../demo/prisma/harbour.prisma");
const SEQUELIZE: &str = include_str!("../../../demo/sequelize/harbour/port-call.ts");
const SQLALCHEMY: &str = include_str!("../../../demo/sqlalchemy/harbour/models.py");
const TYPEORM: &str = include_str!("../../../demo/typeorm/harbour/port-call.entity.ts");

/// Declarations of the demo register, and one small class, in the order of the dialects.
const TEXTS: [(&str, &str); 7] = [
    (DJANGO, "from django.db import models\nclass Quay(models.Model):\n    pass\n"),
    (MONGOOSE, "const Quay = mongoose.model('Quay', new mongoose.Schema({ name: String }));\n"),
    (PRISMA, "model Quay {\n  id Int @id\n}\n"),
    (SEQUELIZE, "const Quay = sequelize.define('Quay', {});\n"),
    (
        SQLALCHEMY,
        "from sqlalchemy.orm import *
Base = declarative_base()
class Quay(Base):
    __tablename__ = \"quays\"
",
    ),
    (TYPEORM, "@Entity() class Quay { @PrimaryColumn() id!: number; }\n"),
    (
        r#"{ "models": [{ "id": "quay.Quay", "name": "Quay", "module": "quay", "form": "Concrete",
            "extras": {}, "attributes": [
            { "field": { "name": ["depth"], "spelling": { "word": "money", "precision": [5],
                "scale": [2] }, "extras": {} } }] }] }"#,
        r#"{ "models": [{ "id": "quay.Quay", "name": "Quay", "module": "quay", "form": "Concrete",
            "extras": {} }] }"#,
    ),
];

proptest! {
    #![proptest_config(Config { cases: 200, failure_persistence: None, ..Config::default() })]

    #[test]
    fn law_7_no_input_panics(cut in 0usize..6000, glue in "[\\PC(){}\\[\\]'\"`@:,=\\n ]{0,40}",
        length in 0usize..200) {
        for (dialect, (text, _)) in declared().zip(TEXTS) {
            let cut = text.floor_char_boundary(cut.min(text.len()));
            let rest = text.floor_char_boundary((cut + length).min(text.len()));
            let broken = format!("{}{glue}{}", &text[..cut], &text[rest..]);
            let path = format!("harbour/models.{}", dialect.extensions[0]);
            let mut settings = Settings::default();
            let reading = read(vec![(path, broken)], dialect, &mut settings, &NoFiles);
            let database = dialect.database(None);
            let way = Way { voice: Voice::Django, from: database, dialect, database, style: None,
                release: None };
            let written = write(&reading.schema, &way);
            prop_assert!(written.files.len() < 1000);
        }
    }
}

#[test]
fn law_7_deep_nesting_neither_overflows_nor_hangs() {
    // A manifest is read as a whole or not at all, by a parser with a limit of its own.
    for (dialect, (_, class)) in
        declared().zip(TEXTS).filter(|(dialect, _)| dialect.id != manifest::DIALECT.id)
    {
        let deep = format!("x = {}1{}\n", "(".repeat(20_000), ")".repeat(20_000));
        let text = format!("{class}{deep}y = {}1{}\n", "[".repeat(20_000), "]".repeat(20_000));
        let path = format!("harbour/models.{}", dialect.extensions[0]);
        let reading = read(vec![(path, text)], dialect, &mut Settings::default(), &NoFiles);
        assert_eq!(reading.schema.entities.len(), 1);
    }
}

/// What a database stores of a schema; names that nobody gave are no facts, nor are names of
/// values.
fn stored(schema: &Schema) -> Facts {
    let mut schema = stored_part(schema);
    for entity in &mut schema.entities {
        (entity.module, entity.extras) = (String::new(), Default::default());
        (entity.name, entity.mapped.code) = (String::new(), false);
        entity.order.clear();
        (entity.label, entity.soft_delete, entity.inherits, entity.join) =
            (None, None, None, false);
        for field in &mut entity.fields {
            // SQLite's words are the framework's own.
            field.stored = Default::default();
        }
    }
    let values = |(key, value): (FactKey, serde_json::Value)| match key.aspect {
        Aspect::Members => {
            (key, value.as_array().into_iter().flatten().map(|member| member[1].clone()).collect())
        }
        _ => (key, value),
    };
    // What a type is called belongs to the server that has it.
    let of_members = |(key, _): &(FactKey, _)| {
        !matches!(
            key.aspect,
            Aspect::StoredName | Aspect::Inline | Aspect::Labels | Aspect::CodeValues
        )
    };
    facts(&schema).into_iter().filter(of_members).map(values).collect()
}

fn scripted(schema: &Schema, database: Database) -> (Schema, String) {
    let dialect = by_id("sql").expect("a dialect");
    let settings = Settings { database: Some(database), ..Settings::default() };
    let fitted = fit(schema, dialect, &settings);
    let conventions = (dialect.conventions)(&settings);
    let text = printed(dialect, &fitted.schema, &conventions).remove(0).text;
    (fitted.schema, text)
}

#[test]
fn laws_3_and_5_of_scripts() {
    let mut runner =
        TestRunner::new(Config { cases: cases(), failure_persistence: None, ..Config::default() });
    let outcome = runner.run(&plans(), |plan| {
        for voice in VOICES {
            for (from, database) in
                SERVERS.into_iter().flat_map(|from| SERVERS.map(|database| (from, database)))
            {
                let (fitted, text) = scripted(&build(&plan, voice, from), database);
                let mut settings = Settings { database: Some(database), ..Settings::default() };
                let sql = by_id("sql").expect("a dialect");
                let back =
                    read(vec![("tables.sql".into(), text.clone())], sql, &mut settings, &NoFiles);
                prop_assert!(back.diagnostics.is_empty(), "{:?}\n{text}", back.diagnostics);
                let (wanted, found) = (stored(&fitted), stored(&back.schema));
                let missing: Vec<_> =
                    wanted.iter().filter(|(key, value)| found.get(key) != Some(value)).collect();
                let more: Vec<_> =
                    found.iter().filter(|(key, value)| wanted.get(key) != Some(value)).collect();
                prop_assert!(
                    missing.is_empty() && more.is_empty(),
                    "wanted {missing:#?}\nfound {more:#?}\n{text}"
                );
                // Home is lossless, and gives the same bytes.
                let (_, again) = scripted(&back.schema, database);
                prop_assert_eq!(&again, &text);
            }
        }
        Ok(())
    });
    if let Err(error) = outcome {
        panic!("{error}");
    }
}
