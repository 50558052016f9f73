//! Diagnostics for people: the source excerpt with the place underlined, the reason, a way out.

use annotate_snippets::{AnnotationKind, Group, Level, Renderer, Snippet};
use anstyle::{AnsiColor, Style};
use sprachbund_core::diagnostic::{Diagnostic, Label, Severity};
use sprachbund_core::source::{FileId, Sources};

/// Style of headings.
pub(crate) const STRONG: Style = Style::new().bold();
/// Style of what matters less.
pub(crate) const FAINT: Style = Style::new().dimmed();

/// `error`, in its colour.
pub(crate) fn error_word() -> String {
    let style = AnsiColor::Red.on_default().bold();
    format!("{style}error{style:#}")
}

/// A severity, in its colour.
pub(crate) fn severity_word(severity: Severity) -> String {
    let colour = match severity {
        Severity::Error => AnsiColor::Red,
        Severity::Warning => AnsiColor::Yellow,
        Severity::Note => AnsiColor::Cyan,
    };
    let style = colour.on_default().bold();
    format!("{style}{}{style:#}", severity.word())
}

/// All diagnostics, one after the other, each followed by an empty line.
pub(crate) fn render(
    diagnostics: &[Diagnostic],
    sources: &Sources,
    colour: bool,
    width: usize,
) -> String {
    let renderer = if colour { Renderer::styled() } else { Renderer::plain() }.term_width(width);
    diagnostics
        .iter()
        .map(|diagnostic| format!("{}\n\n", one(diagnostic, sources, &renderer)))
        .collect()
}

fn level(severity: Severity) -> Level<'static> {
    match severity {
        Severity::Error => Level::ERROR,
        Severity::Warning => Level::WARNING,
        Severity::Note => Level::NOTE,
    }
}

fn one(diagnostic: &Diagnostic, sources: &Sources, renderer: &Renderer) -> String {
    let message = match &diagnostic.path {
        Some(path) => format!("{path}: {}", diagnostic.message),
        None => diagnostic.message.clone(),
    };
    // A line break in a name must not look like the beginning of another message.
    let message = message.replace('\n', "\u{240a}");
    let mut group =
        Group::with_title(level(diagnostic.severity).primary_title(message).id(diagnostic.code));
    for (file, labels) in by_file(diagnostic) {
        let source = sources.file(file);
        // The renderer goes through all of the text that it is given, so it is given the lines in
        // question alone.
        let spans = labels.iter().map(|(label, _)| label.span);
        let window = source.lines_of(
            spans.clone().map(|span| span.start).min().unwrap_or(0),
            spans.map(|span| span.end).max().unwrap_or(0),
        );
        let (text, from) = (&source.text[window.clone()], window.start);
        let mut snippet = Snippet::source(text)
            .path(&*source.path)
            .line_start(source.position(from as u32).0 as usize)
            .fold(true);
        for (label, kind) in labels {
            let (start, end) =
                (label.span.start as usize, label.span.end.max(label.span.start + 1) as usize);
            let end = first_line(&source.text, start, end.min(source.text.len()));
            snippet = snippet.annotation(
                kind.span(start - from..end.max(start) - from).label(label.text.clone()),
            );
        }
        group = group.element(snippet);
    }
    for note in &diagnostic.notes {
        group = group.element(Level::NOTE.message(note.clone()));
    }
    if let Some(help) = &diagnostic.help {
        group = group.element(Level::HELP.message(help.clone()));
    }
    renderer.render(&[group])
}

/// Long places are underlined in their first line only.
fn first_line(text: &str, start: usize, end: usize) -> usize {
    text.get(start..end).and_then(|inside| inside.find('\n')).map_or(end, |length| start + length)
}

fn by_file(diagnostic: &Diagnostic) -> Vec<(FileId, Vec<(&Label, AnnotationKind)>)> {
    let mut files: Vec<(FileId, Vec<(&Label, AnnotationKind)>)> = Vec::new();
    let primary = diagnostic.primary.iter().map(|label| (label, AnnotationKind::Primary));
    let secondary = diagnostic.secondary.iter().map(|label| (label, AnnotationKind::Context));
    for (label, kind) in primary.chain(secondary) {
        match files.iter_mut().find(|(file, _)| *file == label.span.file) {
            Some((_, labels)) => labels.push((label, kind)),
            None => files.push((label.span.file, vec![(label, kind)])),
        }
    }
    files
}
