//! How names and texts are written in each language, case by case; that nothing leaves its literal
//! is held for every text by the crate above (`hostile`).

use serde_json::{Value, json};
use sprachbund_schema::quoting::case::Case;
use sprachbund_schema::quoting::{identifier, is_identifier, python, typescript};

#[test]
fn letter_cases() {
    for (text, lower, snake, camel, pascal, kebab) in [
        ("PortCall", "portcall", "port_call", "portCall", "PortCall", "port-call"),
        ("portCall", "portcall", "port_call", "portCall", "PortCall", "port-call"),
        ("port_call", "port_call", "port_call", "portCall", "PortCall", "port-call"),
        ("port call", "port call", "port call", "portCall", "PortCall", "port call"),
        ("HTTPLogV2", "httplogv2", "http_log_v2", "hTTPLogV2", "HTTPLogV2", "http-log-v2"),
        ("Ärmel", "ärmel", "ärmel", "ärmel", "Ärmel", "ärmel"),
        ("quay2Berth", "quay2berth", "quay2_berth", "quay2Berth", "Quay2Berth", "quay2-berth"),
        ("", "", "", "", "", ""),
    ] {
        let all = [lower, snake, camel, pascal, kebab];
        let cases = [Case::Lower, Case::Snake, Case::Camel, Case::Pascal, Case::Kebab];
        for (case, wanted) in cases.into_iter().zip(all) {
            assert_eq!(case.apply(text), wanted, "{text} in {case:?}");
        }
        assert_eq!(Case::Verbatim.apply(text), text);
    }
}

#[test]
fn names_that_languages_can_write() {
    for (name, wanted) in [
        ("depth", "depth"),
        ("depth at low water", "depth_at_low_water"),
        ("2nd", "n2nd"),
        ("m²", "m2"),
        ("fläche", "fläche"),
        ("port-calls", "port_calls"),
        ("_hidden", "_hidden"),
        ("", "n"),
        ("💧", "n_"),
    ] {
        let written = identifier(name);
        assert!(is_identifier(&written), "{written}");
        if name != "💧" && !name.is_empty() {
            assert_eq!(written, wanted);
        }
        assert_eq!(identifier(&written), written, "it stays what it is");
    }
    for name in ["", "2nd", "a b", "a-b", "a.b", "m²"] {
        assert!(!is_identifier(name), "{name}");
    }
}

/// A text, in Python and in TypeScript.
#[test]
fn texts() {
    for (text, in_python, in_typescript) in [
        ("quay", "\"quay\"", "'quay'"),
        ("it's", "\"it's\"", "'it\\'s'"),
        ("say \"ahoy\"", "'say \"ahoy\"'", "'say \"ahoy\"'"),
        ("it's \"ahoy\"", "\"it's \\\"ahoy\\\"\"", "'it\\'s \"ahoy\"'"),
        ("a\\b", "\"a\\\\b\"", "'a\\\\b'"),
        ("a\nb\tc\rd", "\"a\\nb\\tc\\rd\"", "'a\\nb\\tc\\rd'"),
        ("\u{1b}[0m", "\"\\U0000001b[0m\"", "'\\u{1b}[0m'"),
        ("\u{2028}", "\"\u{2028}\"", "'\\u{2028}'"),
        ("${x}", "\"${x}\"", "'${x}'"),
        ("", "\"\"", "''"),
    ] {
        assert_eq!(python::text(text), in_python);
        assert_eq!(typescript::text(text), in_typescript);
    }
}

/// A constant, in Python and in TypeScript.
#[test]
fn constants() {
    for (value, in_python, in_typescript) in [
        (Value::Null, "None", "null"),
        (json!(true), "True", "true"),
        (json!(-3), "-3", "-3"),
        (json!(2.5), "2.5", "2.5"),
        (json!("x"), "\"x\"", "'x'"),
        (json!([1, [false]]), "[1, [False]]", "[1, [false]]"),
        (json!({}), "{}", "{}"),
        (json!({ "a": 1, "b c": null }), "{\"a\": 1, \"b c\": None}", "{ a: 1, 'b c': null }"),
    ] {
        assert_eq!(python::literal(&value), in_python);
        assert_eq!(typescript::literal(&value), in_typescript);
    }
    assert_eq!((python::boolean(true), python::boolean(false)), ("True", "False"));
}

#[test]
fn names_of_arguments_and_properties() {
    for (name, keyword, key, access) in [
        ("depth", "depth=1", "depth", ".depth"),
        ("class", "**{\"class\": 1}", "class", ".class"),
        ("a b", "**{\"a b\": 1}", "'a b'", "['a b']"),
        ("2nd", "**{\"2nd\": 1}", "'2nd'", "['2nd']"),
        ("$set", "**{\"$set\": 1}", "$set", ".$set"),
        ("", "**{\"\": 1}", "''", "['']"),
    ] {
        assert_eq!(python::keyword(name, &json!(1)), keyword);
        assert_eq!(typescript::property_key(name), key);
        assert_eq!(typescript::member_access(name), access);
    }
    assert_eq!(python::path("harbour.low water.2"), "harbour.low_water.n2");
}

#[test]
fn parameters_are_called_after_their_class() {
    for (class, wanted) in [
        ("PortCall", "portCall"),
        ("Switch", "other"),
        ("Return", "other"),
        ("2nd", "other"),
        ("Vessel", "vessel"),
    ] {
        assert_eq!(typescript::parameter(class), wanted);
    }
}
