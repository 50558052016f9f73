//! What an expression is worth without running the program. What is not known stays as it stands.

mod notation;

use notation::expr;
use sprachbund_host::Language;
use sprachbund_host::evaluate::{Scope, constant};
use sprachbund_host::project::{Found, Project, Wanted};
use sprachbund_host::python::PYTHON;
use sprachbund_host::typescript::TYPESCRIPT;
use sprachbund_schema::source::{FileId, NoFiles};

/// What stands before, the value, and what it is worth.
type Case = (&'static str, &'static str, &'static str);

/// A project of one file, which gives `wanted` a value.
fn project(language: &Language, head: &str, value: &str) -> Project {
    let text = match language.id {
        "python" => format!("{head}\nwanted = {value}\n"),
        _ => format!("{head}\nexport const wanted = {value};\n"),
    };
    let wanted = Wanted { language, marks: &["wanted"], stand_ins: &[], is_framework: |_| false };
    let extension = language.extensions[0];
    Project::load(vec![(format!("harbour/limits.{extension}"), text)], &wanted, &NoFiles)
}

fn check(language: &Language, cases: &[Case]) {
    let mut wrong = String::new();
    for (head, value, expected) in cases {
        let project = project(language, head, value);
        let file = FileId(0);
        let found = match project.lookup(file, None, "wanted") {
            Found::Value(file, written) => {
                expr(&Scope { project: &project, file, class: None }.value(written))
            }
            other => format!("{other:?}"),
        };
        if found != *expected {
            wrong.push_str(&format!("({head:?}, {value:?}, {found:?}),\n"));
        }
    }
    assert!(wrong.is_empty(), "other than wanted:\n{wrong}");
}

#[test]
fn values_of_python() {
    check(
        &PYTHON,
        &[
            ("", "None", "null"),
            ("", "not True", "(not true)"),
            ("", "'a' * 3", "(* 'a' 3)"),
            ("", "1 + 1.5", "(+ 1 1.5)"),
            ("", "9223372036854775807 + 1", "(+ 9223372036854775807 1)"),
            ("", "2 ** -1", "(** 2 -1)"),
            ("", "1 << 70", "(<< 1 70)"),
            ("", "f'{1}{True}'", "(template '' 1 '' true '')"),
            ("", "f'pier {\"a\"}'", "'pier a'"),
            ("", "'a' + 1", "(+ 'a' 1)"),
            ("", "[1] + (2, 3)", "[1, 2, 3]"),
            ("", "{'a': 1}['a']", "1"),
            ("", "{'a': 1}['b']", "([] {'a': 1} 'b')"),
            ("", "[7, 8][-1]", "([] [7, 8] -1)"),
            ("", "[*more(), 7][1]", "([] [...more(), 7] 1)"),
            ("", "{**more(), 'a': 1}['a']", "1"),
            ("", "lambda: 4", "() => 4"),
            ("A = 1\nB = A\nC = B", "[A, B, C]", "[1, 1, 1]"),
            ("A = A", "A", "A"),
            ("def f():\n    return [1, g()]\ndef g():\n    return 2", "f()", "[1, 2]"),
            ("def f():\n    if deep:\n        return 1\n    return 2", "f()", "f()"),
            ("def f():\n    return f()", "f()", "f()"),
            ("class Side:\n    PORT = 'p'\n    BOTH = [PORT, 's']", "Side.BOTH", "['p', 's']"),
            ("import decimal", "decimal.Decimal('1.5')", "decimal.Decimal('1.5')"),
        ],
    );
}

#[test]
fn values_of_typescript() {
    check(
        &TYPESCRIPT,
        &[
            ("", "null", "null"),
            ("", "undefined", "null"),
            ("", "void 0", "null"),
            ("", "!0", "true"),
            ("", "!1", "false"),
            ("", "!''", "true"),
            ("", "!'a'", "false"),
            ("", "!null", "true"),
            ("", "![]", "false"),
            ("", "!deep", "(! deep)"),
            ("", "1 ? 2 : 3", "2"),
            ("", "'' ? 2 : 3", "3"),
            ("", "deep ? 2 : 3", "(?: deep 2 3)"),
            ("", "1 === 1", "true"),
            ("", "1 !== 1", "false"),
            ("", "'a' === 'b'", "false"),
            ("", "deep === 1", "(=== deep 1)"),
            ("", "0 || 4", "4"),
            ("", "3 || 4", "3"),
            ("", "0 && 4", "0"),
            ("", "3 && 4", "4"),
            ("", "deep || 4", "(|| deep 4)"),
            ("", "null ?? 4", "4"),
            ("", "0 ?? 4", "0"),
            ("", "deep ?? 4", "(?? deep 4)"),
            ("", "2 ** 3 - 1", "7"),
            ("", "7 / 2", "(/ 7 2)"),
            ("", "`${1}-${'a'}`", "'1-a'"),
            ("", "`${deep}-a`", "(template '' deep '-a')"),
            ("", "[...[1, 2], 3]", "[1, 2, 3]"),
            ("", "[...more, 3]", "[...more, 3]"),
            ("", "({ ...{ a: 1 }, b: 2 })", "{'a': 1, 'b': 2}"),
            ("", "({ a: 1 }).a", "(.a {'a': 1})"),
            ("", "[7, 8][1]", "8"),
            ("", "[7, 8][2]", "([] [7, 8] 2)"),
            ("const A = [1];\nconst B = [...A, 2];", "B[1]", "2"),
            ("const f = () => ({ a: [1, 2] });", "f()", "{'a': [1, 2]}"),
            ("const f = () => f();", "f()", "f()"),
            ("enum Side { Port = 'p', Both = Port }", "Side.Both", "'p'"),
            ("enum Side { Port = 1 << 2, Star }", "Side.Star", "Side.Star"),
            ("const A = A;", "A", "A"),
        ],
    );
}

/// Constants as JSON: what a default says.
#[test]
fn constants_are_json() {
    for (language, value, expected) in [
        (&PYTHON, "0o17", Some("15")),
        (&PYTHON, "0b11", Some("3")),
        (&PYTHON, "0x1f", Some("31")),
        (&PYTHON, "1.50", Some("1.5")),
        (&PYTHON, "[1, None, True, {'a': 'b'}]", Some(r#"[1,null,true,{"a":"b"}]"#)),
        (&PYTHON, "[1, deep]", None),
        (&PYTHON, "{1: 2}", None),
        (&PYTHON, "lambda: 1", None),
        (&TYPESCRIPT, "{ a: [1, 'x'], 'b c': null }", Some(r#"{"a":[1,"x"],"b c":null}"#)),
        (&TYPESCRIPT, "[...more]", None),
        (&TYPESCRIPT, "-4", Some("-4")),
    ] {
        let project = project(language, "", value);
        let Found::Value(file, written) = project.lookup(FileId(0), None, "wanted") else {
            panic!("no value: {value}")
        };
        let worth = Scope { project: &project, file, class: None }.value(written);
        assert_eq!(constant(&worth).map(|json| json.to_string()).as_deref(), expected, "{value}");
    }
}

/// Constants that hold each other eight times with each line: working them out costs no more than
/// so much, and what is given up is said.
#[test]
fn what_grows_without_end_is_given_up() {
    let mut head = "A0 = ['pier', 'pier']\n".to_owned();
    for at in 1..10 {
        let before = format!("*A{}, ", at - 1).repeat(8);
        head.push_str(&format!("A{at} = [{before}]\n"));
    }
    let project = project(&PYTHON, &head, "A9");
    let Found::Value(file, written) = project.lookup(FileId(0), None, "wanted") else {
        panic!("no value")
    };
    let worth = Scope { project: &project, file, class: None }.value(written);
    assert!(constant(&worth).is_none(), "hundreds of millions of values were worked out");
    assert!(!project.budget.diagnostics().is_empty(), "nothing is said of it");
}
