//! Reading around broken syntax: a file that does not parse as a whole is parsed again declaration
//! by declaration, so that a mistake in one costs that one only.

use std::ops::Range;

use tree_sitter::{Parser, Point, Tree};

/// What a line at the left margin begins with when a declaration begins there.
const OPENINGS: &[&str] = &[
    "@",
    "abstract ",
    "class ",
    "const ",
    "declare ",
    "enum ",
    "export ",
    "function ",
    "import ",
    "interface ",
    "let ",
    "namespace ",
    "type ",
];

/// Parses each declaration at the left margin by itself; places stay those of the whole text.
pub(super) fn trees(parser: &mut Parser, text: &str) -> Vec<Tree> {
    let mut trees = Vec::new();
    for (first_line, bytes) in regions(text) {
        let last_line = first_line + text[bytes.clone()].matches('\n').count();
        let range = tree_sitter::Range {
            start_byte: bytes.start,
            end_byte: bytes.end,
            start_point: Point::new(first_line, 0),
            end_point: Point::new(last_line, 0),
        };
        if parser.set_included_ranges(&[range]).is_ok() {
            trees.extend(parser.parse(text, None));
        }
    }
    trees
}

/// The line and the bytes of each declaration, its decorators before it included.
fn regions(text: &str) -> Vec<(usize, Range<usize>)> {
    let mut regions: Vec<(usize, Range<usize>)> = vec![(0, 0..0)];
    let mut only_decorators = false;
    let mut at = 0;
    for (number, line) in text.split_inclusive('\n').enumerate() {
        if OPENINGS.iter().any(|opening| line.starts_with(opening)) {
            if !only_decorators {
                regions.push((number, at..at));
            }
            only_decorators = line.starts_with('@');
        }
        at += line.len();
        if let Some((_, last)) = regions.last_mut() {
            last.end = at;
        }
    }
    regions
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_region_holds_a_declaration_and_its_decorators() {
        for (text, expected) in [
            ("", vec![""]),
            ("// said\nclass A {\n}\n", vec!["// said\n", "class A {\n}\n"]),
            (
                "@E()\n@F({\n})\nexport class A {\n  b;\n}\nconst c = 1;",
                vec!["", "@E()\n@F({\n})\nexport class A {\n  b;\n}\n", "const c = 1;"],
            ),
            ("@E() class A {}\n@E() class B {}\n", vec!["", "@E() class A {}\n@E() class B {}\n"]),
        ] {
            let found: Vec<&str> =
                regions(text).into_iter().map(|(_, bytes)| &text[bytes]).collect();
            assert_eq!(found, expected);
        }
    }
}
