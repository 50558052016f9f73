//! What printers share: lines and lists, the order of classes, files and their names; and the names
//! that conventions make.

use sprachbund_dialect::declaration::{Declarations, Model};
use sprachbund_dialect::dialect::circle::{Ways, has_circle, in_circles};
use sprachbund_dialect::dialect::naming::{
    NamePattern, module_of, name_of_table, plural, singular,
};
use sprachbund_dialect::dialect::source_text::{SourceText, parents_first};
use sprachbund_dialect::dialect::typescript_files::{Files, enumeration};
use sprachbund_schema::schema::{EnumMember, EnumType, Origin};

fn model(name: &str, extends: &[&str]) -> Model {
    Model {
        id: format!("harbour.{name}"),
        name: name.to_owned(),
        module: "harbour".to_owned(),
        extends: extends.iter().map(|name| format!("harbour.{name}")).collect(),
        ..Model::default()
    }
}

fn written(write: impl FnOnce(&mut SourceText)) -> String {
    let mut text = SourceText::new(4);
    write(&mut text);
    text.finish()
}

#[test]
fn lines_stand_at_their_indentation() {
    let text = written(|text| {
        text.gap();
        text.line(0, "class Quay:");
        text.line(4, "pass");
        text.line(8, "");
        text.gap();
        text.gap();
        text.line(0, "end");
    });
    assert_eq!(text, "class Quay:\n    pass\n\nend\n", "nothing hangs behind a line");
}

#[test]
fn a_list_is_broken_when_it_is_long() {
    let items =
        |count: usize| -> Vec<String> { (0..count).map(|n| format!("berth{n:02}")).collect() };
    let list =
        |indent: usize, count: usize| written(|text| text.list(indent, "[", &items(count), "]"));
    assert_eq!(list(4, 2), "    [berth00, berth01]\n");
    let long = list(0, 12);
    let lines: Vec<&str> = long.lines().collect();
    assert_eq!((lines.len(), lines[0], lines[1]), (14, "[", "    berth00,"));
    assert_eq!(lines[13], "]");
    // Ten items of seven letters with what stands between and around them are 90 columns.
    for (indent, whole) in [(0, true), (10, true), (11, false)] {
        assert_eq!(list(indent, 10).lines().count() == 1, whole, "at {indent}");
    }
    let with_lines = written(|text| text.list(0, "(", &["a\nb".to_owned()], ")"));
    assert_eq!(with_lines, "(\n    a\nb,\n)\n", "a text of several lines is never joined");
    assert_eq!(written(|text| text.list(0, "()", &[], "")), "()\n");
}

/// Classes with those that they extend, and the order in which they are written.
#[test]
fn parents_stand_before_their_children() {
    for (models, wanted) in [
        (vec![model("Tug", &["Vessel"]), model("Vessel", &[])], ["Vessel", "Tug", ""]),
        (vec![model("Quay", &[]), model("Berth", &[])], ["Quay", "Berth", ""]),
        (
            vec![model("Pilot", &["Tug"]), model("Tug", &["Vessel"]), model("Vessel", &[])],
            ["Vessel", "Tug", "Pilot"],
        ),
        (vec![model("Self", &["Self"]), model("Far", &["Gone"])], ["Self", "Far", ""]),
        (vec![model("Left", &["Right"]), model("Right", &["Left"])], ["Left", "Right", ""]),
    ] {
        let sorted = parents_first(&models.iter().collect::<Vec<_>>());
        let names: Vec<&str> = sorted.iter().map(|model| model.name.as_str()).collect();
        let wanted: Vec<&str> = wanted.into_iter().filter(|name| !name.is_empty()).collect();
        assert_eq!(names, wanted);
    }
}

fn side(name: &str, inline: bool) -> EnumType {
    let member = |name: &str, value: &str| EnumMember {
        name: name.to_owned(),
        value: value.into(),
        ..EnumMember::default()
    };
    EnumType {
        name: name.to_owned(),
        stored_name: None,
        members: vec![member("Port", "port"), member("low water", "it's")],
        module: "harbour".to_owned(),
        inline,
        origin: Origin::implied("a test"),
    }
}

#[test]
fn classes_whose_names_fold_together_get_two_files() {
    let declarations = Declarations {
        models: vec![model("PortCall", &[]), model("portCall", &[]), model("Portcall", &[])],
        enums: vec![side("Side", false), side("Inside", true)],
        ..Declarations::default()
    };
    let files = Files::of(&declarations, ".entity.ts");
    for (class, path) in [
        ("PortCall", "harbour/port-call.entity.ts"),
        ("portCall", "harbour/port-call-2.entity.ts"),
        ("Portcall", "harbour/portcall.entity.ts"),
        ("Quay", "harbour/quay.entity.ts"),
    ] {
        assert_eq!(files.class("harbour", class), path);
    }
    let printed = enumeration(&side("Side", false), &files);
    assert_eq!(printed.path, "harbour/side.enum.ts");
    assert_eq!(
        printed.text,
        "export enum Side {\n  Port = 'port',\n  'low water' = 'it\\'s',\n}\n"
    );
}

#[test]
fn modules_are_called_after_folders_that_say_something() {
    for (path, wanted) in [
        ("harbour/models.py", "harbour"),
        ("src/harbour/models/berth.py", "harbour"),
        ("./harbour//models/berth.py", "harbour"),
        ("models/berth.py", "models"),
        ("src/models/berth.py", "models"),
        ("berth.py", "main"),
        ("./berth.py", "main"),
    ] {
        assert_eq!(module_of(path, &["models", "src"], "main"), wanted, "{path}");
    }
}

#[test]
fn tables_without_a_class_are_named() {
    for (table, wanted) in [
        ("vessel_owners", "VesselOwnersTable"),
        ("port-calls", "PortCallsTable"),
        ("harbour.quays", "HarbourQuaysTable"),
        ("2nd", "2ndTable"),
    ] {
        assert_eq!(name_of_table(table), wanted);
    }
}

#[test]
fn one_of_many_and_many_of_one() {
    for (one, many) in [
        ("quay", "quays"),
        ("entry", "entries"),
        ("box", "boxes"),
        ("branch", "branches"),
        ("port_call", "port_calls"),
        ("bus", "buses"),
    ] {
        assert_eq!((plural(one), singular(many)), (many.to_owned(), one.to_owned()));
    }
    for (many, one) in [("people", "person"), ("series", "series"), ("status", "status")] {
        assert_eq!(singular(many), one);
    }
}

/// A pattern, and what it makes of a class `PortCall` with a column `berth_id`.
#[test]
fn patterns_make_names() {
    let names = [("name", "PortCall"), ("column", "berth_id"), ("table", "port_calls")];
    for (pattern, wanted) in [
        ("{name}", "PortCall"),
        ("{name|lower}", "portcall"),
        ("{name|snake|plural}", "port_calls"),
        ("fk_{table}_{column}", "fk_port_calls_berth_id"),
        ("{table}_{column} | pascal", "PortCallsBerthId"),
        ("{column|camel}", "berthId"),
        ("same", "same"),
        ("", ""),
    ] {
        let made = NamePattern::parse(pattern).expect(pattern).apply(&names);
        assert_eq!(made, wanted, "{pattern}");
    }
    for (pattern, word) in [("{berth}", "berth"), ("{name|loud}", "loud"), ("{name", "name")] {
        let error = NamePattern::parse(pattern).expect_err(pattern).to_string();
        assert!(error.contains(word), "{error}");
    }
}

/// References from table to table, and the tables that stand in a circle or lead to one.
#[test]
fn circles_are_found() {
    let references = |pairs: &[(&'static str, &'static str)]| pairs.to_vec();
    for (pairs, wanted) in [
        (&[][..], &[][..]),
        (&[("berths", "quays"), ("quays", "harbours")], &[]),
        (&[("berths", "berths")], &[]),
        (&[("a", "b"), ("b", "a")], &["a", "b"]),
        (&[("far", "a"), ("a", "b"), ("b", "a"), ("b", "end")], &["a", "b", "far"]),
        (&[("a", "b"), ("b", "c"), ("c", "a")], &["a", "b", "c"]),
    ] {
        let mut found: Vec<&str> = in_circles(references(pairs)).into_iter().collect();
        found.sort_unstable();
        assert_eq!(found, wanted, "{pairs:?}");
        assert_eq!(has_circle(references(pairs)), !wanted.is_empty(), "{pairs:?}");
        let mut ways = Ways::default();
        let closes = |(from, to): &(&str, &str), ways: &mut Ways| {
            let closes = from != to && ways.would_circle(from, to);
            ways.add(from, to);
            closes
        };
        let closed = pairs.iter().filter(|pair| closes(pair, &mut ways)).count() > 0;
        assert_eq!(closed, !wanted.is_empty(), "{pairs:?}");
    }
}
