//! Source files as text, places in them, and the provider through which the core asks for files.

use std::sync::Arc;

/// Index of a file in [`Sources`].
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct FileId(pub u32);

/// A half-open range of bytes in one file.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub struct Span {
    pub file: FileId,
    pub start: u32,
    pub end: u32,
}

/// One source file. `path` is what the user sees; its folders also give modules their names.
#[derive(Clone, Debug)]
pub struct SourceFile {
    pub path: Arc<str>,
    pub text: Arc<str>,
    /// Byte offset of the start of each line.
    line_starts: Vec<u32>,
    /// Every character is one byte: columns need no counting.
    ascii: bool,
}

impl SourceFile {
    /// A file with its line table.
    pub fn new(path: impl Into<Arc<str>>, text: impl Into<Arc<str>>) -> Self {
        let text = text.into();
        let breaks = memchr::memchr_iter(b'\n', text.as_bytes()).map(|at| at as u32 + 1);
        let line_starts = std::iter::once(0).chain(breaks).collect();
        let ascii = text.is_ascii();
        SourceFile { path: path.into(), text, line_starts, ascii }
    }

    /// The byte at a line and column, both from 1, counted from a byte of the file; the end of the
    /// text where there are fewer.
    pub fn offset_from(&self, start: usize, line: usize, column: usize) -> usize {
        let first = self.line_starts.partition_point(|known| *known as usize <= start) - 1;
        let from = match line {
            0 | 1 => start,
            line => self
                .line_starts
                .get(first + line - 1)
                .map_or(self.text.len(), |known| *known as usize),
        };
        let (rest, skipped) = (&self.text[from..], column.saturating_sub(1));
        match self.ascii {
            true => from + skipped.min(rest.len()),
            false => from + rest.char_indices().nth(skipped).map_or(rest.len(), |(at, _)| at),
        }
    }

    /// The whole lines that hold the bytes from `start` to `end`.
    pub fn lines_of(&self, start: u32, end: u32) -> std::ops::Range<usize> {
        let line = |offset: u32| self.line_starts.partition_point(|start| *start <= offset) - 1;
        let from = self.line_starts[line(start)] as usize;
        let to = self
            .line_starts
            .get(line(end.max(start)) + 1)
            .map_or(self.text.len(), |next| *next as usize);
        from..to
    }

    /// Line and column, both from 1, the column in characters.
    pub fn position(&self, offset: u32) -> (u32, u32) {
        let line = self.line_starts.partition_point(|start| *start <= offset) - 1;
        let start = self.line_starts[line] as usize;
        let before = self.text.get(start..offset as usize).unwrap_or_default();
        let column = if self.ascii { before.len() } else { before.chars().count() };
        (line as u32 + 1, column as u32 + 1)
    }
}

/// All files of one run.
#[derive(Clone, Debug, Default)]
pub struct Sources {
    pub files: Vec<SourceFile>,
}

impl Sources {
    /// The file of a span.
    pub fn file(&self, id: FileId) -> &SourceFile {
        &self.files[id.0 as usize]
    }

    /// The text of a span.
    pub fn text(&self, span: Span) -> &str {
        self.file(span.file).text.get(span.start as usize..span.end as usize).unwrap_or_default()
    }
}

/// How the core asks for files that an input imports; it never opens one itself.
pub trait FileProvider: Sync {
    /// The text of the file at `path` (with `/` between folders), if there is a readable one.
    fn read(&self, path: &str) -> Option<String>;
    /// Folders, beside the input's own, in which imported packages are looked for.
    fn roots(&self) -> &[String];
}

/// A provider that has nothing: imports stay unknown.
pub struct NoFiles;

impl FileProvider for NoFiles {
    fn read(&self, _: &str) -> Option<String> {
        None
    }

    fn roots(&self) -> &[String] {
        &[]
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn places_there_and_back() {
        for text in ["quay\nberth one\n\nmole", "quäy\nbérth one\n\nmóle", ""] {
            let file = SourceFile::new("harbour.sql", text);
            for (offset, _) in text.char_indices() {
                let (line, column) = file.position(offset as u32);
                assert_eq!(file.offset_from(0, line as usize, column as usize), offset, "{text:?}");
            }
            assert_eq!(file.offset_from(0, 99, 99), text.len());
        }
        let file = SourceFile::new("harbour.sql", "quay\nberth one\n\nmole");
        assert_eq!(
            file.offset_from(7, 1, 2),
            8,
            "columns of the first line are counted from the start"
        );
        assert_eq!(file.offset_from(7, 3, 1), 16);
        assert_eq!(&file.text[file.lines_of(6, 8)], "berth one\n");
        assert_eq!(&file.text[file.lines_of(1, 17)], &*file.text);
    }
}
