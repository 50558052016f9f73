//! Diagnostics as JUnit XML: a test case for each rule, failed where it found something.

use std::collections::BTreeMap;
use std::io;

use crate::diagnostic::{Diagnostic, Severity};
use crate::source::Sources;
use quick_xml::Writer;
use quick_xml::events::BytesText;

/// One suite; a finding is a failed case of the class that it is about, notes are its output.
pub fn render(verb: &str, found: &[Diagnostic], sources: &Sources) -> io::Result<String> {
    let mut by_rule: BTreeMap<&str, Vec<&Diagnostic>> = BTreeMap::new();
    found.iter().for_each(|one| by_rule.entry(one.code).or_default().push(one));
    let failures = found.iter().filter(|one| one.severity > Severity::Note).count().to_string();
    let tests = found.len().to_string();
    let counts = [("name", verb), ("tests", tests.as_str()), ("failures", failures.as_str())];
    let mut writer = Writer::new_with_indent(Vec::new(), b' ', 2);
    writer.create_element("testsuites").write_inner_content(|writer| {
        writer.create_element("testsuite").with_attributes(counts).write_inner_content(
            |writer| {
                for (rule, findings) in &by_rule {
                    for one in findings {
                        case(writer, rule, one, sources)?;
                    }
                }
                Ok(())
            },
        )?;
        Ok(())
    })?;
    let text = String::from_utf8(writer.into_inner()).map_err(io::Error::other)?;
    Ok(format!("<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n{text}\n"))
}

fn case(
    writer: &mut Writer<Vec<u8>>,
    rule: &str,
    one: &Diagnostic,
    sources: &Sources,
) -> io::Result<()> {
    let class = legal(one.subject.as_ref().map_or("", |subject| subject.entity.as_str()));
    let element = one.subject.as_ref().map_or("", |subject| subject.element.as_str());
    let name = legal(&format!("{rule} {element}"));
    let place = one.primary.as_ref().map(|label| {
        let file = sources.file(label.span.file);
        let (line, column) = file.position(label.span.start);
        format!("{}:{line}:{column}\n", file.path)
    });
    let help = one.help.iter().map(|help| format!("help: {help}\n"));
    let lines: String = place
        .into_iter()
        .chain(one.notes.iter().map(|note| format!("{note}\n")))
        .chain(help)
        .collect();
    let case = writer
        .create_element("testcase")
        .with_attributes([("classname", class.as_str()), ("name", name.trim_end())]);
    case.write_inner_content(|writer| {
        let failed = one.severity > Severity::Note;
        let element = if failed { "failure" } else { "system-out" };
        let mut outcome = writer.create_element(element);
        if failed {
            outcome = outcome.with_attributes([
                ("type", one.severity.word()),
                ("message", legal(&one.message).as_str()),
            ]);
        }
        outcome.write_text_content(BytesText::new(&legal(&lines)))?;
        Ok(())
    })?;
    Ok(())
}

/// The text with what no document of XML 1.0 may hold (section 2.2, not even as a reference) shown
/// as U+FFFD.
fn legal(text: &str) -> String {
    let allowed = |letter: char| {
        matches!(letter,
        '\t' | '\n' | '\r' | '\u{20}'..='\u{d7ff}' | '\u{e000}'..='\u{fffd}' | '\u{10000}'..)
    };
    text.chars().map(|letter| if allowed(letter) { letter } else { '\u{fffd}' }).collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn any_text_gives_a_document_that_can_be_read() {
        let hostile: String = ('\0'..'\u{a0}')
            .chain(['\u{fffe}', '\u{ffff}', '<', '&', '"', ']', ']', '>'])
            .collect();
        let one = Diagnostic::new("rule", Severity::Error, hostile.clone())
            .because(hostile.clone())
            .with_help(hostile);
        let text = render("lint", &[one], &Sources::default()).expect("a report");
        let mut reader = quick_xml::Reader::from_str(&text);
        loop {
            match reader.read_event() {
                Ok(quick_xml::events::Event::Eof) => break,
                Ok(_) => {}
                Err(error) => panic!("{error} in {text}"),
            }
        }
        assert!(
            text.chars().all(|letter| matches!(letter, '\n' | '\t' | '\r')
                || !letter.is_control()
                || letter >= '\u{7f}'),
            "{text:?}"
        );
    }
}
