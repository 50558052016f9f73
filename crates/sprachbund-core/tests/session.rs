//! A session as a program uses it: reading, linting with what the project decides, fixing, emitting
//! and comparing.

use std::collections::BTreeMap;

use sprachbund_core::diagnostic::{Diagnostic, Severity};
use sprachbund_core::dialect::{Dialect, Settings};
use sprachbund_core::dialects::by_id;
use sprachbund_core::lint::exceptions::Exception;
use sprachbund_core::lint::{LintSettings, accepted_reading};
use sprachbund_core::schema::facts::differences;
use sprachbund_core::schema::{Database, json};
use sprachbund_core::session::{
    EmitRequest, LintRequest, Read, ReadError, Session, dialect, dialect_of, suggest,
};
use sprachbund_core::source::{FileProvider, NoFiles, SourceFile};

const QUAYS: &str = "from django.db import models


class Quay(models.Model):
    name = models.CharField(max_length=40)
    dues = models.FloatField(default=0)


class Berth(models.Model):
    quay = models.ForeignKey(Quay, on_delete=models.CASCADE, db_index=False)
    code = models.CharField(max_length=9, unique=True, db_index=True)
";

const VESSELS: &str = "import { Column, Entity, PrimaryColumn } from 'typeorm';

@Entity()
export class Vessel {
  @PrimaryColumn()
  id!: number;

  @Column({ type: 'integer', length: 9 })
  masts!: number;
}
";

const UNKNOWN: &str = "from django.db import models
from elsewhere import Place


class Mark(models.Model):
    place = Place()
";

fn named(id: &str) -> &'static Dialect {
    by_id(id).expect("it is shipped")
}

fn files(path: &str, text: &str) -> Vec<(String, String)> {
    vec![(path.to_owned(), text.to_owned())]
}

fn read(path: &str, text: &str) -> Read {
    let files = files(path, text);
    let dialect = dialect_of(&files).expect("one dialect");
    Session::new(&NoFiles).read(files, dialect, Settings::default()).expect("it is covered")
}

fn codes(found: &[Diagnostic]) -> Vec<&str> {
    found.iter().map(|one| one.code).collect()
}

#[test]
fn what_cannot_be_read_at_all_says_why() {
    let session = Session::new(&NoFiles);
    let mixed = [files("a/models.py", QUAYS), files("b/vessel.ts", VESSELS)].concat();
    let mysql = Settings { database: Some(Database::MySql), ..Settings::default() };
    let refused = |result: Result<Read, ReadError>| match result {
        Ok(_) => panic!("it was read"),
        Err(error) => error.to_string(),
    };
    for (found, wanted) in [
        (dialect_of(&mixed).map(|_| ()).map_err(|error| error.to_string()), "several dialects"),
        (
            dialect_of(&files("a/tide.py", "LEVEL = 3\n")).map(|_| ()).map_err(|e| e.to_string()),
            "no declarations were found",
        ),
        (
            dialect("djanggo").map(|_| ()).map_err(|error| error.to_string()),
            "did you mean `django`?",
        ),
        (
            Err(refused(session.read(files("m.ts", ""), named("sequelize"), mysql))),
            "mysql is not covered for sequelize yet; expected postgresql",
        ),
        (
            Err(refused(session.read_schema("{}", Settings::default()))),
            "missing field `sprachbund`",
        ),
        (
            Err(refused(session.read_schema(
                r#"{"sprachbund":1,"source":{"dialect":"djang","version":""},"entities":[]}"#,
                Settings::default(),
            ))),
            "source.dialect: `djang` is no dialect",
        ),
    ] {
        let error = found.expect_err(wanted);
        assert!(error.contains(wanted), "{wanted} in {error}");
    }
}

#[test]
fn a_schema_file_is_read_as_what_was_written() {
    let before = read("harbour/models.py", QUAYS);
    let text = json::write(&before.schema);
    let after = Session::new(&NoFiles).read_schema(&text, Settings::default()).expect("it is one");
    assert_eq!(differences(&after.schema, &before.schema), []);
    assert_eq!((after.dialect.id, after.server), ("django", Some(Database::PostgreSql)));
    assert!(!after.written, "nobody's text is behind it");
}

/// Rules and kinds of messages of readers, what is decided about them, and what is told then.
#[test]
fn what_readers_say_is_graded_like_findings() {
    let read = read("harbour/models.py", UNKNOWN);
    assert_eq!(codes(&read.diagnostics), ["unknown-field-class"]);
    let exception = |rule: &str, entity: &str| Exception {
        rule: rule.into(),
        entity: Some(entity.into()),
        path: None,
        reason: "it is a package of ours".into(),
        place: None,
    };
    let severities = |severity| BTreeMap::from([("unknown-field-class".to_owned(), severity)]);
    let off = LintSettings { severities: severities(None), ..LintSettings::default() };
    let graver =
        LintSettings { severities: severities(Some(Severity::Warning)), ..LintSettings::default() };
    let accepted = |exception| LintSettings { exceptions: vec![exception], ..Default::default() };
    for (settings, told, vain) in [
        (LintSettings::default(), Some(Severity::Note), 0),
        (off, None, 0),
        (graver, Some(Severity::Warning), 0),
        (accepted(exception("unknown-field-class", "Mark")), None, 0),
        (accepted(exception("unknown-*", "harbour.Mark")), None, 0),
        (accepted(exception("unknown-type", "Mark")), Some(Severity::Note), 1),
        (accepted(exception("unknown-field-class", "Quay")), Some(Severity::Note), 0),
    ] {
        let said = accepted_reading(&read.diagnostics, &read.sources, &settings);
        assert_eq!(said.first().map(|one| one.severity), told, "{settings:?}");
        let request = LintRequest { settings: settings.clone(), ..LintRequest::default() };
        let findings = Session::new(&NoFiles).lint(&read, &request);
        assert_eq!(findings.reading, said, "{settings:?}");
        let complaints = findings.found.iter().filter(|one| one.code == "accepted-in-vain");
        assert_eq!(complaints.count(), vain, "{settings:?}");
    }
}

#[test]
fn a_comment_accepts_what_readers_say() {
    let accept =
        |comment: &str| UNKNOWN.replace("    place", &format!("    # {comment}\n    place"));
    for (comment, told, complaint) in [
        ("sprachbund: accept unknown-field-class: a package of ours", 0, None),
        ("sprachbund: accept unknown-field-class", 1, Some("needs its reason")),
        ("sprachbund: accept unread-base: a package of ours", 1, Some("finds nothing here")),
        ("sprachbund: accept unknown-field-clas: a package", 1, Some("no rule is called")),
    ] {
        let read = read("harbour/models.py", &accept(comment));
        let findings = Session::new(&NoFiles).lint(&read, &LintRequest::default());
        assert_eq!(findings.reading.len(), told, "{comment}");
        let vain = findings.found.iter().find(|one| one.code == "accepted-in-vain");
        match (vain, complaint) {
            (None, None) => {}
            (Some(vain), Some(words)) => assert!(vain.message.contains(words), "{}", vain.message),
            other => panic!("{comment}: {other:?}"),
        }
    }
}

#[test]
fn exceptions_lead_to_the_settings_file() {
    let read = read("harbour/models.py", QUAYS);
    let settings_text = "[[lint.accept]]\nrule = \"key-in-binary-float\"\n";
    let place = sprachbund_core::source::Span {
        file: sprachbund_core::source::FileId(0),
        start: 0,
        end: 15,
    };
    let exception = Exception {
        rule: "key-in-binary-float".into(),
        reason: "nothing".into(),
        place: Some(place),
        ..Exception::default()
    };
    let request = LintRequest {
        settings: LintSettings { exceptions: vec![exception], ..LintSettings::default() },
        settings_file: Some(SourceFile::new("sprachbund.toml", settings_text)),
        ..LintRequest::default()
    };
    let findings = Session::new(&NoFiles).lint(&read, &request);
    let vain = findings.found.iter().find(|one| one.code == "accepted-in-vain").expect("it is one");
    let span = vain.primary.as_ref().expect("a place").span;
    assert_eq!(&*findings.sources.file(span.file).path, "sprachbund.toml");
    assert_eq!(findings.sources.text(span), "[[lint.accept]]");
}

#[test]
fn only_findings_of_wanted_tables_are_told() {
    let read = read("harbour/models.py", QUAYS);
    let tables = ["harbour_q*".to_owned()];
    let mut findings = Session::new(&NoFiles).lint(&read, &LintRequest::default());
    let all = findings.found.len();
    findings.keep_only(&read.schema, &[]);
    assert_eq!(findings.found.len(), all, "no name means all");
    findings.keep_only(&read.schema, &tables);
    assert!(!findings.found.is_empty() && findings.found.len() < all);
    for one in &findings.found {
        let subject = one.subject.as_ref().map(|subject| subject.entity.as_str());
        assert_eq!(subject, Some("harbour.Quay"), "{one:?}");
    }
}

#[test]
fn tables_beside_declarations_are_linted_against_them() {
    let declared = read("harbour/models.py", QUAYS);
    let script = "CREATE TABLE harbour_quay (id int PRIMARY KEY, name varchar(40));";
    let tables = read("tables.sql", script);
    let request = LintRequest { beside: Some(&tables), ..LintRequest::default() };
    let findings = Session::new(&NoFiles).lint(&declared, &request);
    assert!(codes(&findings.found).contains(&"declared-unlike-tables"), "{:?}", findings.found);
    let paths: Vec<&str> = findings.sources.files.iter().map(|file| &*file.path).collect();
    assert!(paths.contains(&"harbour/models.py") && paths.contains(&"tables.sql"), "{paths:?}");
}

#[test]
fn what_is_fixed_is_found_no_more_and_the_rest_stays() {
    let session = Session::new(&NoFiles);
    let read = read("harbour/models.py", QUAYS);
    let found = session.lint(&read, &LintRequest::default()).found;
    let fixed = session.fix(&read, &found, &[]);
    assert!(!fixed.made.is_empty() && fixed.files.len() == 1, "{fixed:?}");
    let [file] = fixed.files.as_slice() else { panic!("one file") };
    assert_eq!((file.path.as_str(), file.before.as_str()), ("harbour/models.py", QUAYS));
    let after = self::read("harbour/models.py", &file.after);
    let left = session.lint(&after, &LintRequest::default()).found;
    for at in &fixed.made {
        let again =
            |one: &Diagnostic| (one.code, &one.subject) == (found[*at].code, &found[*at].subject);
        assert!(!left.iter().any(again), "{:?} in\n{}", found[*at], file.after);
    }
    let asked = fixed.unasked.iter().map(|at| found[*at].code.to_owned()).collect::<Vec<_>>();
    assert!(!asked.is_empty(), "adding an index is agreed to");
    let agreed = session.fix(&read, &found, &asked);
    assert!(agreed.unasked.is_empty() && agreed.made.len() > fixed.made.len(), "{agreed:?}");
}

#[test]
fn each_fix_alone_is_told_by_its_place() {
    let session = Session::new(&NoFiles);
    let read = read("harbour/models.py", QUAYS);
    let found = session.lint(&read, &LintRequest::default()).found;
    let alone = session.fixes(&read, &found, &[]);
    assert!(!alone.is_empty());
    for (at, edits) in &alone {
        assert!(found[*at].cure.is_some() && !edits.is_empty(), "{:?}", found[*at]);
        for edit in edits {
            assert_eq!(edit.path, "harbour/models.py");
            assert!(edit.start <= edit.end && edit.end <= QUAYS.len());
        }
    }
}

#[test]
fn nobody_fixes_a_schema_file() {
    let session = Session::new(&NoFiles);
    let text = json::write(&read("harbour/models.py", QUAYS).schema);
    let read = session.read_schema(&text, Settings::default()).expect("it is one");
    let found = session.lint(&read, &LintRequest::default()).found;
    let fixed = session.fix(&read, &found, &[]);
    assert!(fixed.made.is_empty() && fixed.files.is_empty() && !fixed.refused.is_empty());
    assert!(session.fixes(&read, &found, &[]).is_empty());
    assert!(suggest(&read, &found, 0..found.len()).is_empty());
}

/// A suggestion is printed from the class and its neighbours: it says what the whole would say.
#[test]
fn suggestions_say_what_fixing_writes() {
    let session = Session::new(&NoFiles);
    let read = read("harbour/models.py", QUAYS);
    let found = session.lint(&read, &LintRequest::default()).found;
    let lines = suggest(&read, &found, 0..found.len());
    assert!(!lines.is_empty());
    for (at, lines) in lines {
        let one = std::slice::from_ref(&found[at]);
        let fixed = session.fix(&read, one, &[one[0].code.to_owned()]);
        for file in &fixed.files {
            let is_letter = |letter: char| letter.is_alphanumeric() || letter == '_';
            for word in lines.iter().flat_map(|line| line.split(|letter| !is_letter(letter))) {
                let number = word.parse::<f64>().is_ok();
                assert!(number || file.after.contains(word), "{word} in\n{}", file.after);
            }
        }
    }
}

/// Files that can be imported, with how often each was asked for.
struct Shelf(Vec<(String, String)>);

impl FileProvider for Shelf {
    fn read(&self, path: &str) -> Option<String> {
        self.0.iter().find(|(known, _)| known == path).map(|(_, text)| text.clone())
    }

    fn roots(&self) -> &[String] {
        &[]
    }
}

#[test]
fn what_inputs_import_comes_from_the_provider() {
    let base = "from django.db import models\n\n\n\
                class Named(models.Model):\n    name = models.CharField(max_length=40)\n\
                \n    class Meta:\n        abstract = True\n";
    let models = "from django.db import models\nfrom harbour.base import Named\n\n\n\
                  class Quay(Named):\n    depth = models.IntegerField()\n";
    let shelf = Shelf(files("harbour/base.py", base));
    for (provider, columns) in [(&shelf as &dyn FileProvider, Some(3)), (&NoFiles, None)] {
        let session = Session::new(provider);
        let inputs = files("harbour/models.py", models);
        let read = session.read(inputs, named("django"), Settings::default()).expect("it is read");
        let quay = read.schema.entities.iter().find(|entity| entity.name == "Quay");
        assert_eq!(quay.map(|quay| quay.fields.len()), columns);
    }
}

#[test]
fn what_cannot_be_emitted_says_why() {
    let session = Session::new(&NoFiles);
    let read = read("harbour/models.py", QUAYS);
    let two = "CREATE SCHEMA a; CREATE SCHEMA b; CREATE TABLE a.quays (id int PRIMARY KEY); \
               CREATE TABLE b.quays (id int PRIMARY KEY);";
    let namesakes = self::read("tables.sql", two);
    let request = |id: &str| EmitRequest::to(named(id));
    for (read, request, wanted) in [
        (
            &read,
            EmitRequest { naming: Some("camel".into()), ..request("typeorm") },
            "`camel` is no naming strategy of TypeORM; known are",
        ),
        (
            &read,
            EmitRequest { naming: Some("snake".into()), ..request("django") },
            "Django has no naming strategies",
        ),
        (
            &read,
            EmitRequest { style: Some("old".into()), ..request("django") },
            "Django has no style `old`; it has one only",
        ),
        (&read, EmitRequest { style: Some("old".into()), ..request("sqlalchemy") }, "it has "),
        (&namesakes, request("mongoose"), "stands in several named schemas (a, b)"),
    ] {
        let error = session.emit(read, &request).err().expect(wanted).to_string();
        assert!(error.contains(wanted), "{wanted} in {error}");
    }
}

#[test]
fn what_is_emitted_knows_what_it_loses() {
    let session = Session::new(&NoFiles);
    let read = read("harbour/models.py", QUAYS);
    for (target, loses) in [("django", false), ("mongoose", true)] {
        let emission = session.emit(&read, &EmitRequest::to(named(target))).expect("it is emitted");
        assert_eq!(emission.loses(), loses, "{target}: {:?}", emission.fitted.changes);
        assert!(emission.files.iter().any(|file| file.text.contains("Quay")));
    }
}

#[test]
fn two_readings_are_compared_on_the_server_that_both_are_meant_for() {
    let session = Session::new(&NoFiles);
    let declared = read("harbour/models.py", QUAYS);
    let same = session.compare(&declared, &declared, None);
    assert!(same.comparison.found.is_empty() && same.database == Database::PostgreSql);
    let script = "CREATE TABLE `quays` (`id` int PRIMARY KEY) ENGINE=InnoDB;";
    let tables = read("tables.sql", script);
    let other = session.compare(&declared, &tables, None);
    assert_eq!(other.database, Database::MariaDb, "the script knows it better");
    assert_eq!(other.diagnostics().len(), other.comparison.found.len());
    assert!(!other.diagnostics().is_empty());
    let asked = session.compare(&declared, &tables, Some(Database::Sqlite));
    assert_eq!(asked.database, Database::Sqlite);
}
