//! The way out: what goes to standard output and standard error.
//!
//! A *result* is for programs: it is written byte for byte, whatever it holds. A *page* is for
//! people: of the control characters in it only the line's own layout and the [`PALETTE`] go out,
//! because names, texts and messages come from files and servers that nobody here knows. *News* are
//! pages on standard error.

use std::io::{ErrorKind, IsTerminal, Write};

use sprachbund_project::News;

use crate::Failure;

/// The sequences of styles that this program writes (ECMA-48, section 8.3.117): weights, and
/// colours of the foreground.
const PALETTE: &[&str] = &[
    "0", "1", "2", "31", "32", "33", "34", "35", "36", "91", "92", "93", "94", "95", "96",
    "38;5;9", "38;5;10", "38;5;11", "38;5;12", "38;5;14",
];

/// Writes a result as it stands. On a terminal nobody takes its bytes, and it is written as a page.
pub(crate) fn result(text: &str) -> Result<(), Failure> {
    let mut stdout = std::io::stdout().lock();
    if stdout.is_terminal() {
        written(stdout.write_all(neutral(text).as_bytes()))
    } else {
        written(stdout.write_all(text.as_bytes()))
    }
    .and_then(|()| written(stdout.flush()))
}

/// Writes a page; its styles are left out where nobody sees them.
pub(crate) fn page(text: &str) -> Result<(), Failure> {
    let mut stdout = anstream::stdout().lock();
    written(stdout.write_all(neutral(text).as_bytes())).and_then(|()| written(stdout.flush()))
}

/// Writes to standard error; that nobody reads it is no fault.
pub(crate) fn news(text: &str) {
    let mut stderr = anstream::stderr().lock();
    let _ = stderr.write_all(neutral(text).as_bytes()).and_then(|()| stderr.flush());
}

/// Seconds between two messages about a server that does not answer, where no terminal shows each.
const QUIET_NEWS: u64 = 10;

/// Tells what there is to tell while a project is read. A terminal shows in one line what a server
/// is being asked for; elsewhere it is said now and then.
pub(crate) fn tell(said: News<'_>) {
    let terminal = std::io::stderr().is_terminal();
    match said {
        News::Settings(path) => news(&format!("settings: {}\n", path.display())),
        News::Line(line) => news(&format!("{line}\n")),
        News::Answered if terminal => over(""),
        News::Answered => {}
        News::Asking { server, step, seconds } => {
            let waiting = if seconds > 0 { format!(" ({seconds} s)") } else { String::new() };
            if terminal {
                over(&format!("{server}: {step}{waiting}"));
            } else if seconds > 0 && seconds.is_multiple_of(QUIET_NEWS) {
                news(&format!("{server}: {step}{waiting}\n"));
            }
        }
    }
}

/// The same of a further project: where its settings are was told with the first one.
pub(crate) fn tell_further(said: News<'_>) {
    if !matches!(said, News::Settings(_)) {
        tell(said);
    }
}

/// Writes over the line of standard error that a terminal shows last; an empty text clears it.
pub(crate) fn over(text: &str) {
    let mut stderr = std::io::stderr().lock();
    let _ = write!(stderr, "\r\x1b[2K{}", neutral(text)).and_then(|()| stderr.flush());
}

/// Whether colour belongs on a stream.
pub(crate) fn colour(stream: &impl IsTerminal) -> bool {
    stream.is_terminal() && std::env::var_os("NO_COLOR").is_none_or(|value| value.is_empty())
}

/// A reader that went away is no fault.
fn written(done: std::io::Result<()>) -> Result<(), Failure> {
    match done {
        Err(error) if error.kind() != ErrorKind::BrokenPipe => {
            Err(Failure(format!("standard output: {error}")))
        }
        _ => Ok(()),
    }
}

/// The text with control characters shown instead of sent: as their pictures (Unicode, block
/// Control Pictures), and as U+FFFD where they have none. Line feeds, tabs and the palette stay.
pub(crate) fn neutral(text: &str) -> String {
    let mut out = String::with_capacity(text.len());
    let mut rest = text;
    while let Some(letter) = rest.chars().next() {
        let style = style_length(rest);
        let length = style.unwrap_or(letter.len_utf8());
        match letter {
            _ if style.is_some() => out.push_str(&rest[..length]),
            '\n' | '\t' => out.push(letter),
            '\0'..='\x1f' => out.push(char::from_u32(0x2400 + letter as u32).unwrap_or('\u{fffd}')),
            '\x7f' => out.push('\u{2421}'),
            _ if letter.is_control() || is_direction(letter) => out.push('\u{fffd}'),
            _ => out.push(letter),
        }
        rest = &rest[length..];
    }
    out
}

/// Bytes of the sequence of the palette that a text begins with.
fn style_length(text: &str) -> Option<usize> {
    let inside = text.strip_prefix("\x1b[")?;
    let end = inside.find('m')?;
    PALETTE.contains(&&inside[..end]).then_some(end + 3)
}

/// Marks that turn the direction of writing round, or hide what follows (Unicode, annex 9, section
/// 2).
fn is_direction(letter: char) -> bool {
    matches!(letter,
        '\u{200e}' | '\u{200f}' | '\u{061c}' | '\u{202a}'..='\u{202e}' | '\u{2066}'..='\u{2069}')
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn only_the_palette_and_the_layout_go_out() {
        for (text, shown) in [
            ("harbour\n\tquay", "harbour\n\tquay"),
            ("\x1b[1mharbour\x1b[0m", "\x1b[1mharbour\x1b[0m"),
            ("a\x1b]0;title\x07b", "a␛]0;title␇b"),
            ("a\x1b[2Jb", "a␛[2Jb"),
            ("a\x1b[8mb\x1b[30;40mc", "a␛[8mb␛[30;40mc"),
            ("a\rb\x7f\0", "a␍b␡␀"),
            ("a\u{9b}2Jb", "a\u{fffd}2Jb"),
            ("a\u{202e}b", "a\u{fffd}b"),
            ("\x1b", "␛"),
            ("\x1b[", "␛["),
            ("länge ½", "länge ½"),
        ] {
            assert_eq!(neutral(text), shown);
        }
    }

    #[test]
    fn the_palette_holds_every_style_of_ours() {
        use crate::report::human::{FAINT, STRONG, error_word, severity_word};
        use sprachbund_core::diagnostic::{Diagnostic, Severity};
        use sprachbund_core::source::{FileId, SourceFile, Sources, Span};
        let sources = Sources { files: vec![SourceFile::new("quay.py", "one\ntwo\nthree\n")] };
        let span = |start| Some(Span { file: FileId(0), start, end: start + 2 });
        let mut texts = vec![format!("{STRONG}a{STRONG:#}{FAINT}b{FAINT:#}"), error_word()];
        for (_, severity) in Severity::ALL {
            let one = Diagnostic::new("code", severity, "message")
                .at(span(0), "here")
                .and_at(span(4), "there")
                .because("note")
                .with_help("help");
            texts.push(
                severity_word(severity) + &crate::report::human::render(&[one], &sources, true, 80),
            );
        }
        for text in texts {
            assert_eq!(neutral(&text), text, "{text:?}");
        }
    }
}
