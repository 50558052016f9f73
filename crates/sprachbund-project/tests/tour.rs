//! The example is what it says: the command's work in thirty lines.

#[path = "../examples/tour.rs"]
mod example;

const DEMO: &str = concat!(env!("CARGO_MANIFEST_DIR"), "/../../demo/django");

#[test]
fn the_example_shows_lints_fixes_and_emits_the_demo_register() {
    let mut out = Vec::new();
    example::tour(DEMO, &mut out).expect("the demo register is sound");
    let text = String::from_utf8(out).expect("text");
    for line in ["berths: ", "port_calls: ", " findings\n", " of them fixed, in ", " changes\n"] {
        assert!(text.contains(line), "{line:?} in\n{text}");
    }
    let number = |before: &str| -> usize {
        let line = text.lines().find(|line| line.contains(before)).expect(before);
        line.split(' ').next().and_then(|word| word.parse().ok()).expect(before)
    };
    assert!(
        number("findings") > 5 && number("of them fixed") > 0 && number("files, ") > 3,
        "{text}"
    );
}

#[test]
fn the_example_is_thirty_lines() {
    let text = include_str!("../examples/tour.rs");
    let body = text.split("fn tour").nth(1).and_then(|rest| rest.split("\n}\n").next());
    assert!(body.expect("the example").lines().count() <= 30);
}
