//! What the settings of a project say, and what of them cannot be meant.

use std::path::PathBuf;
use std::time::Duration;

use sprachbund_core::diagnostic::{Diagnostic, Severity, Subject};
use sprachbund_core::schema::Database;
use sprachbund_project::known::KnownFindings;
use sprachbund_project::{Configuration, News, Project, Request};

/// A folder with a settings file, and the settings.
fn load(text: &str) -> (tempfile::TempDir, Result<Configuration, String>) {
    let folder = tempfile::tempdir().expect("a folder");
    let path = folder.path().join("sprachbund.toml");
    std::fs::write(&path, text).expect("a file");
    let loaded = Configuration::load(Some(&path));
    (folder, loaded.map(|(configuration, _)| configuration).map_err(|error| error.to_string()))
}

fn sound(text: &str) -> (tempfile::TempDir, Configuration) {
    let (folder, configuration) = load(text);
    (folder, configuration.expect("it can be meant"))
}

#[test]
fn what_cannot_be_meant_is_named_with_its_file() {
    for (text, wanted) in [
        (
            "[lint.rules]\nmoney-in-binary-flote = \"off\"\n",
            "did you mean `money-in-binary-float`?",
        ),
        ("[lint.rules]\nunread-bse = \"off\"\n", "did you mean `unread-base`?"),
        ("[lint.rules]\nunread-base = \"of\"\n", "`of` is no severity"),
        ("[lint.parameters.money-in-binary-float]\nword = [\"toll\"]\n", "it takes words"),
        ("[lint.parameters.money-in-binary-float]\nwords = \"toll\"\n", "takes a list of words"),
        ("[lint.parameters.index-over-boolean]\nwords = []\n", "has no parameter `words`"),
        ("[lint.on.mariadbb.rules]\n", "did you mean `mariadb`?"),
        ("[lint.on.mariadb.rules]\nnot-made = \"error\"\n", "no rule is called `not-made`"),
        ("[[lint.accept]]\nrule = \"index-over-bool\"\nbecause = \"x\"\n", "no rule is called"),
        ("[[lint.accept]]\nrule = \"index-over-boolean\"\n", "missing field `because`"),
        ("[compare]\ndisregard = [\"type-difers\"]\n", "did you mean `type-differs`?"),
        ("[projekt]\n", "unknown field `projekt`"),
        ("[connection]\nconnect = 0\n", "nonzero"),
        ("[project\n", "sprachbund.toml"),
    ] {
        let error = load(text).1.err().unwrap_or_else(|| panic!("{text} can be meant"));
        assert!(error.contains(wanted), "{wanted} in {error}");
        assert!(error.contains("sprachbund.toml") || error.contains("server"), "{error}");
    }
}

#[test]
fn what_is_asked_for_wins_over_the_settings() {
    let (_folder, settings) = sound(
        "[project]\ndatabase = \"mariadb\"\nnaming = \"snake\"\nlargest_file = 9\n\
         default_key = \"BigAutoField\"\n[project.names]\ntable = \"{name|snake|plural}\"\n\
         [project.environment]\nHARBOUR = \"postgresql\"\n[documents]\nnested = \"json\"\n\
         [recognise]\ntimes = false\n",
    );
    let of = |request: &Request| settings.settings(request).expect("it can be meant");
    let silent = of(&Request::default());
    assert_eq!(silent.database, Some(Database::MariaDb));
    assert_eq!((silent.naming.as_deref(), silent.nested_as_json), (Some("snake"), true));
    assert_eq!(silent.default_key.as_deref(), Some("BigAutoField"));
    assert_eq!((silent.name_patterns.len(), silent.environment.len()), (1, 1));
    assert!(!silent.recognitions.times && silent.recognitions.singular);
    assert_eq!(settings.largest_file(&Request::default()), 9);
    let asked = Request {
        database: Some("postgresql@18".into()),
        naming: Some("default".into()),
        largest_file: Some(7),
        ..Request::default()
    };
    let told = of(&asked);
    assert_eq!((told.database, told.server_release), (Some(Database::PostgreSql), Some((18, 0))));
    assert_eq!((told.naming.as_deref(), settings.largest_file(&asked)), (Some("default"), 7));
}

#[test]
fn servers_and_releases_that_are_none_are_named() {
    let settings = Configuration::default();
    for (database, wanted) in [
        ("postgres", "did you mean `postgresql`?"),
        ("postgresql@new", "`new` is no release of a server"),
        ("postgresql@", "is no release of a server"),
    ] {
        let request = Request { database: Some(database.into()), ..Request::default() };
        let error = settings.settings(&request).map(|_| ()).expect_err(wanted).to_string();
        assert!(error.contains(wanted), "{wanted} in {error}");
    }
}

#[test]
fn a_server_has_choices_of_its_own() {
    let (_folder, settings) = sound(
        "[lint]\nthreshold = \"error\"\n[lint.rules]\nunread-base = \"off\"\n\
         not-made-here = \"note\"\n[lint.on.mariadb.rules]\nnot-made-here = \"error\"\n",
    );
    for (server, wanted, told) in [
        (Database::PostgreSql, Severity::Note, "[lint.rules]"),
        (Database::MariaDb, Severity::Error, "[lint.on.mariadb.rules]"),
    ] {
        let lint = settings.lint_settings(server).expect("it can be meant");
        assert_eq!(lint.severities.get("not-made-here"), Some(&Some(wanted)));
        assert_eq!(lint.severities.get("unread-base"), Some(&None));
        let source = settings.severity_source("not-made-here", server).expect("it is set");
        assert!(source.contains(told), "{source}");
    }
    assert_eq!(settings.severity_source("money-in-binary-float", Database::Sqlite), None);
    assert_eq!(settings.threshold(None).expect("a severity"), Severity::Error);
    let asked = "note".to_owned();
    assert_eq!(settings.threshold(Some(&asked)).expect("a severity"), Severity::Note);
    assert_eq!(settings.compare_threshold(None).expect("a severity"), Severity::Warning);
}

#[test]
fn a_database_is_waited_for_as_long_as_the_settings_say() {
    let (_folder, settings) = sound("[connection]\nanswer = 7\n");
    let (patience, usual) = (settings.patience(), sprachbund_catalog::Patience::default());
    assert_eq!(patience.answer, Duration::from_secs(7));
    assert_eq!((patience.connect, patience.total), (usual.connect, usual.total));
}

#[test]
fn differences_are_disregarded_by_kind_and_by_table() {
    let (_folder, settings) =
        sound("[compare]\ndisregard = [\"comment-differs\"]\ntables = [\"django_*\"]\n");
    for (code, table, disregarded) in [
        ("comment-differs", "berths", true),
        ("type-differs", "berths", false),
        ("type-differs", "django_session", true),
    ] {
        assert_eq!(settings.disregards(code, table), disregarded, "{code} of {table}");
    }
}

fn finding(element: &str, message: &str) -> Diagnostic {
    let subject = Subject { entity: "harbour.Quay".into(), element: element.into() };
    let one = Diagnostic::new("money-in-binary-float", Severity::Warning, message);
    Diagnostic { subject: Some(subject), ..one }
}

#[test]
fn a_known_finding_stays_known_when_its_words_change() {
    let folder = tempfile::tempdir().expect("a folder");
    let path: PathBuf = folder.path().join("known.json");
    let load = || KnownFindings::load(Some(path.clone())).expect("a record");
    let (dues, toll) = (finding("column dues", "one"), finding("column toll", "two"));
    let told = load().remember(&[dues, toll.clone()]).expect("it is written");
    assert!(told.contains("2 findings are known from now on"), "{told}");
    let mut found = vec![finding("column dues", "in other words"), finding("column fee", "new")];
    let known = load();
    assert_eq!(known.take_out(&mut found), (1, 1));
    assert_eq!(found.len(), 1, "the new one is left");
    assert!(known.summary(1, 1).contains("1 of the record are no longer found"));
    // The second of two alike is another one.
    let mut twice = vec![toll.clone(), toll];
    assert_eq!(load().take_out(&mut twice).0, 1);
    std::fs::write(&path, "[").expect("a file");
    let error = KnownFindings::load(Some(path.clone())).err().expect("it is damaged").to_string();
    assert!(error.contains("make it anew"), "{error}");
}

/// Inputs, what is said of them, and why they cannot be read.
#[test]
fn inputs_that_cannot_be_meant_are_named() {
    let folder = tempfile::tempdir().expect("a folder");
    let models = folder.path().join("models.py");
    let text = "from django.db import models\n\n\nclass Quay(models.Model):\n    pass\n";
    std::fs::write(&models, text).expect("a file");
    let (models, empty) = (models.display().to_string(), folder.path().join("empty"));
    std::fs::create_dir(&empty).expect("a folder");
    let empty = empty.display().to_string();
    let from = |from: &str| Request { from: Some(from.into()), ..Request::of([&models]) };
    for (request, wanted) in [
        (Request::of(["no/such/folder"]), "there is no file or folder `no/such/folder`"),
        (Request::of([&empty]), "no declarations were found in"),
        (Request::of(["-"]), "standard input needs its dialect"),
        (Request::of([models.as_str(), "sqlite:a.db"]), "is a database: give it alone"),
        (from("djanggo"), "did you mean `django`?"),
        (from("django@x"), "`x` is no release of Django"),
        (from("sql@3"), "SQL has no releases"),
        (
            Request { naming: Some("snake".into()), ..Request::of([&models]) },
            "Django has no naming strategies",
        ),
    ] {
        let quiet = |_: News<'_>| {};
        let project = Project::open(request, &quiet).expect("settings");
        let error = project.read(&project.session()).err().expect(wanted).to_string();
        assert!(error.contains(wanted), "{wanted} in {error}");
    }
}

#[test]
fn only_the_wanted_tables_are_read() {
    let demo = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/sql/harbour.sql");
    let quiet = |_: News<'_>| {};
    let request = Request { tables: vec!["port_*".into()], ..Request::of([demo]) };
    let project = Project::open(request, &quiet).expect("settings");
    let session = project.session();
    let (part, whole) = (project.read(&session), project.read_whole(&session));
    let (part, whole) = (part.expect("a schema").schema, whole.expect("a schema").schema);
    assert!(part.entities.iter().all(|entity| entity.table.starts_with("port_")));
    assert!(!part.entities.is_empty() && part.entities.len() < whole.entities.len());
    let kept = |id: &str| part.entity(id).is_some();
    for relation in part.entities.iter().flat_map(|entity| &entity.relations) {
        assert!(kept(&relation.target), "{relation:?}");
    }
}
