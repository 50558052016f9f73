//! `lint` as a team uses it: configuration, known findings, mending, reports.

mod program;

use std::fs;
use std::path::Path;

use program::{folder, sprachbund};
use serde_json::Value;

/// A release whose keys are small where nothing is said.
const RELEASE: (&str, &[u8]) = ("requirements.txt", b"Django==5.2\n");

const BERTHS: &str = "from django.db import models


class Quay(models.Model):
    name = models.CharField( max_length = 40 )   # as painted on it


class Berth(models.Model):
    quay = models.ForeignKey(
        Quay,
        on_delete=models.CASCADE,
        db_index=False,  # too many
    )
    fee = models.FloatField()
";

#[test]
fn lint_finds_what_was_planted() {
    let demo = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo");
    for dialect in ["django", "mongoose", "prisma", "sequelize", "sqlalchemy", "typeorm"] {
        let source = demo.join(dialect).display().to_string();
        let run = sprachbund(&demo, &["lint", &source, "--format", "json"]);
        assert_eq!(run.status, 1);
        let findings: Vec<serde_json::Value> = serde_json::from_str(&run.out).expect("findings");
        let lines: Vec<String> = findings
            .iter()
            .map(|finding| {
                format!(
                    "{} {}: {}",
                    finding["severity"].as_str().unwrap_or_default(),
                    finding["rule"].as_str().unwrap_or_default(),
                    finding["message"].as_str().unwrap_or_default()
                )
            })
            .collect();
        insta::assert_snapshot!(format!("planted_in_{dialect}"), lines.join("\n"));
    }
}

#[test]
fn configuration_and_comments_decide_what_lint_says() {
    let models = "from django.db import models


class Invoice(models.Model):
    # sprachbund: accept money-in-binary-float: an estimate
    fee = models.FloatField()
    total = models.FloatField()  # sprachbund: accept money-in-binary-float
";
    let off = b"[lint.rules]\nmoney-in-binary-float = \"error\"\n";
    let folder = folder(&[("h/models.py", models.as_bytes()), ("sprachbund.toml", off)]);
    let run = sprachbund(folder.path(), &["lint", "h"]);
    assert!(run.out.contains("error[money-in-binary-float]: `Invoice.total`"), "{}", run.out);
    assert!(run.out.contains("its severity is set under"), "{}", run.out);
    assert!(run.out.contains("an accepted finding needs its reason"), "{}", run.out);
    assert!(!run.out.contains("[money-in-binary-float]: `Invoice.fee`"), "{}", run.out);
    assert_eq!(run.status, 1);
}

/// Files beside the models, arguments, exit status, texts on standard output, texts that must not
/// be there.
type Case<'a> = (&'a str, &'a [&'a str], i32, &'a [&'a str], &'a [&'a str]);

const CASES: &[Case<'_>] = &[
    ("", &[], 1, &["warning[money-in-binary-float]", "by rule", "by entity", "Berth 4"], &[]),
    (
        "[lint.rules]\nmoney-in-binary-float = \"off\"\n",
        &[],
        1,
        &["reference-without-index"],
        &["money-in-binary-float"],
    ),
    (
        "[lint.parameters.money-in-binary-float]\nwords = [\"toll\"]\n",
        &[],
        1,
        &[],
        &["money-in-binary-float"],
    ),
    ("[lint]\nthreshold = \"error\"\n", &[], 0, &["2 warnings"], &[]),
    (
        "[[lint.accept]]\nrule = \"money-*\"\nentity = \"Ber*\"\npath = \"h/*\"\n\
         because = \"an estimate\"\n",
        &[],
        1,
        &["reference-without-index"],
        &["money-in-binary-float", "accepted-in-vain"],
    ),
    (
        "[[lint.accept]]\nrule = \"money-*\"\nentity = \"Quay\"\nbecause = \"-\"\n",
        &[],
        1,
        &["[money-in-binary-float]", "note[accepted-in-vain]", "--> sprachbund.toml:1:1"],
        &[],
    ),
    // What was not asked for, and what was not read, may accept something still.
    ("[[lint.accept]]\nrule = \"silent-*\"\nbecause = \"-\"\n", &[], 1, &[], &["accepted-in-vain"]),
    (
        "[[lint.accept]]\nrule = \"money-*\"\nentity = \"Tide\"\nbecause = \"-\"\n",
        &[],
        1,
        &[],
        &["accepted-in-vain"],
    ),
    (
        "[[lint.accept]]\nrule = \"money-*\"\npath = \"old/*\"\nbecause = \"-\"\n",
        &[],
        1,
        &[],
        &["accepted-in-vain"],
    ),
    (
        "[lint.on.sqlite.rules]\nmoney-in-binary-float = \"error\"\n",
        &["--database", "sqlite"],
        1,
        &["error[money-in-binary-float]", "set under [lint.on.sqlite.rules]"],
        &[],
    ),
    (
        "[lint.on.sqlite.rules]\nmoney-in-binary-float = \"error\"\n",
        &[],
        1,
        &["warning[money-in-binary-float]"],
        &[],
    ),
    (
        "",
        &["--to", "typeorm"],
        1,
        &["silent-name-elsewhere", "name the table `h_quay` in TypeORM"],
        &[],
    ),
    (
        "",
        &["--beside", "old.sql"],
        1,
        &["required-of-stored-rows", "step-loses-data", "`h_quay.draught` is stored"],
        &[],
    ),
];

#[test]
fn the_project_decides_what_lint_says() {
    let old =
        "CREATE TABLE h_quay (id bigint PRIMARY KEY, name varchar(40) NOT NULL, draught integer);
CREATE TABLE h_berth (id bigint PRIMARY KEY, quay_id bigint NOT NULL REFERENCES h_quay);
";
    for (config, more, status, there, not_there) in CASES {
        let folder = folder(&[
            ("h/models.py", BERTHS.as_bytes()),
            RELEASE,
            ("sprachbund.toml", config.as_bytes()),
            ("old.sql", old.as_bytes()),
        ]);
        let run = sprachbund(folder.path(), &[&["lint", "h"], *more].concat());
        assert_eq!(run.status, *status, "{config}{more:?}\n{}{}", run.out, run.err);
        for text in *there {
            assert!(run.out.contains(text), "{config}{more:?}: no {text}\n{}{}", run.out, run.err);
        }
        for text in *not_there {
            assert!(!run.out.contains(text), "{config}{more:?}: {text}\n{}", run.out);
        }
    }
}

/// Configuration, and what standard error says of it.
const MISTAKES: &[(&str, &str)] = &[
    ("[lint.rules]\nmony-in-binary-float = \"off\"\n", "did you mean `money-in-binary-float`?"),
    ("[lint.rules]\nmoney-in-binary-float = \"loud\"\n", "`loud` is no severity"),
    ("[lint.parameters.money-in-binary-float]\nword = []\n", "it takes words"),
    ("[lint.parameters.index-one-too-many]\nmost = \"ten\"\n", "takes a number"),
    ("[[lint.accept]]\nrule = \"money-in-binary-float\"\n", "because"),
    ("[[lint.accept]]\nrule = \"keys-*\"\nbecause = \"-\"\n", "no rule is called `keys-*`"),
    ("[lint.on.oracle.rules]\nmoney-in-binary-float = \"off\"\n", "`oracle` is no server"),
    ("[lint]\ntreshold = \"error\"\n", "treshold"),
];

#[test]
fn mistakes_of_the_configuration_are_named() {
    for (config, said) in MISTAKES {
        let folder = folder(&[
            ("h/models.py", BERTHS.as_bytes()),
            RELEASE,
            ("sprachbund.toml", config.as_bytes()),
        ]);
        let run = sprachbund(folder.path(), &["lint", "h"]);
        assert_eq!(run.status, 2, "{config}");
        assert!(run.err.contains(said), "{config}\n{}", run.err);
    }
}

#[test]
fn a_comment_that_accepts_nothing_any_more_is_named() {
    let models = BERTHS
        .replace("name = ", "# sprachbund: accept money-in-binary-float: it was one\n    name = ");
    let folder = folder(&[("h/models.py", models.as_bytes())]);
    let run = sprachbund(folder.path(), &["lint", "h"]);
    assert!(run.out.contains("`money-in-binary-float` finds nothing here any more"), "{}", run.out);
    // Of a rule that was not asked for nothing can be said.
    let models = models.replace("accept money-in-binary-float", "accept silent-null-elsewhere");
    fs::write(folder.path().join("h/models.py"), models).expect("written");
    assert!(!sprachbund(folder.path(), &["lint", "h"]).out.contains("any more"));
    assert!(sprachbund(folder.path(), &["lint", "h", "--to", "typeorm"]).out.contains("any more"));
}

#[test]
fn known_findings_do_not_count_and_new_ones_do() {
    let folder = folder(&[
        ("h/models.py", BERTHS.as_bytes()),
        RELEASE,
        ("sprachbund.toml", b"[lint]\nknown = \"known.json\"\n"),
    ]);
    let lint = |more: &[&str]| sprachbund(folder.path(), &[&["lint", "h"], more].concat());
    assert_eq!(lint(&[]).status, 1);
    assert!(lint(&["--remember"]).err.contains("findings are known from now on"));
    let known = lint(&[]);
    assert!(
        known.status == 0
            && known.out.contains("nothing found in 2 entities")
            && known.out.contains("more are known"),
        "{}",
        known.out
    );
    // To look at some tables only forgets nothing of the others.
    lint(&["--tables", "h_quay", "--remember"]);
    let some = lint(&["--tables", "h_quay"]);
    assert!(some.status == 0 && !some.out.contains("no longer found"), "{}", some.out);
    assert_eq!(lint(&[]).status, 0, "the others are known as before");
    // Lines may move; a new finding counts, one that is gone is told.
    let changed = BERTHS
        .replace("class Quay", "\n\nclass Quay")
        .replace("    fee = models.FloatField()", "    price = models.FloatField()");
    fs::write(folder.path().join("h/models.py"), changed).expect("written");
    let new = lint(&[]);
    assert!(
        new.status == 1
            && new.out.contains("`Berth.price`")
            && !new.out.contains("reference-without-index"),
        "{}",
        new.out
    );
    assert!(new.out.contains("1 of the record are no longer found"), "{}", new.out);
}

#[test]
fn mending_keeps_what_it_does_not_touch() {
    let folder = folder(&[("h/models.py", BERTHS.as_bytes()), RELEASE]);
    let text = || fs::read_to_string(folder.path().join("h/models.py")).expect("there");
    let shown = sprachbund(folder.path(), &["lint", "h", "--mend", "--preview"]);
    assert!(
        shown.out.contains("-        db_index=False,  # too many"),
        "{}{}",
        shown.out,
        shown.err
    );
    assert_eq!(text(), BERTHS, "a preview writes nothing");
    let mended = sprachbund(folder.path(), &["lint", "h", "--mend"]);
    assert!(
        mended.out.contains("1 of 5 findings mended in 1 files"),
        "{}{}",
        mended.out,
        mended.err
    );
    assert!(
        !text().contains("db_index") && text().contains("max_length = 40 )   # as painted on it"),
        "{}",
        text()
    );
    assert!(!sprachbund(folder.path(), &["lint", "h"]).out.contains("reference-without-index"));
}

#[test]
fn a_report_in_sarif_holds_to_its_published_schema() {
    let mut schema: Value = serde_json::from_str(include_str!("standards/sarif-schema-2.1.0.json"))
        .expect("the published schema");
    // This pattern of it is no regular expression: a bracket closes that never opened.
    for part in ["run", "toolComponent"] {
        schema["definitions"][part]["properties"]["language"]
            .as_object_mut()
            .expect("a property")
            .remove("pattern");
    }
    let validator = jsonschema::validator_for(&schema).expect("a schema");
    let demo = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo");
    for dialect in ["django", "mongoose", "prisma", "sequelize", "sql", "sqlalchemy", "typeorm"] {
        let run = sprachbund(&demo, &["lint", dialect, "--format", "sarif"]);
        let report: Value = serde_json::from_str(&run.out).expect("JSON");
        let faults: Vec<String> = validator
            .iter_errors(&report)
            .map(|fault| format!("{} at {}", fault, fault.instance_path()))
            .collect();
        assert!(faults.is_empty(), "{dialect}: {faults:?}");
        let results = report["runs"][0]["results"].as_array().expect("results");
        assert!(
            results.iter().all(|result| result["partialFingerprints"]["subject/v1"].is_string()),
            "{dialect}"
        );
        assert!(
            dialect != "typeorm" || results.iter().any(|result| result["fixes"].is_array()),
            "{dialect} has fixes"
        );
    }
}

#[test]
fn a_report_in_junit_is_well_formed() {
    let folder = folder(&[("h/models.py", BERTHS.as_bytes()), RELEASE]);
    let run = sprachbund(folder.path(), &["lint", "h", "--format", "junit"]);
    insta::assert_snapshot!("junit", run.out);
}

/// What a reader finds is about an entity, too: it can be accepted there, is counted there, and
/// keeps its fingerprint when lines move.
#[test]
fn findings_of_readers_have_a_subject() {
    let django = "from django.db import models


class Quay(models.Model):
    pass


class Invoice(models.Model):
    lines = models.JSONField(default=[])
";
    let typeorm = "import { Column, Entity, PrimaryColumn } from 'typeorm';
@Entity()
export class Quay {
  @PrimaryColumn()
  id!: number;
}
@Entity()
export class Berth {
  @PrimaryColumn()
  id!: number;
  @Column({ lenght: 9 })
  name!: string;
}
";
    /// Path, text, rule, and the subjects of what it finds.
    type Case<'c> = (&'c str, &'c str, &'c str, &'c [(&'c str, &'c str)]);
    let cases: [Case<'_>; 2] = [
        ("h/models.py", django, "list-shared-as-default", &[("h.Invoice", "column lines")]),
        ("h/models.ts", typeorm, "option-in-vain", &[("h.Berth", "column name")]),
    ];
    for (path, text, rule, wanted) in cases {
        let folder = folder(&[(path, text.as_bytes())]);
        let run = sprachbund(folder.path(), &["lint", "h", "--format", "json"]);
        let findings: Vec<Value> = serde_json::from_str(&run.out).expect("findings");
        let own: Vec<(&str, &str)> = findings
            .iter()
            .filter(|finding| finding["rule"] == rule)
            .map(|finding| {
                (
                    finding["entity"].as_str().unwrap_or("none"),
                    finding["element"].as_str().unwrap_or("none"),
                )
            })
            .collect();
        assert_eq!(own, wanted, "{}", run.out);
        for (entity, _) in wanted {
            let accept = format!(
                "[[lint.accept]]\nrule = \"{rule}\"\nentity = \"{entity}\"\nbecause = \"-\"\n"
            );
            fs::write(folder.path().join("sprachbund.toml"), accept).expect("a file");
            let run = sprachbund(folder.path(), &["lint", "h", "--format", "json"]);
            let findings: Vec<Value> = serde_json::from_str(&run.out).expect("findings");
            assert!(
                !findings
                    .iter()
                    .any(|finding| finding["rule"] == rule && finding["entity"] == **entity),
                "{}",
                run.out
            );
        }
    }
}
