//! What tests of the dialects share: declarations are read and written again, without giving them a
//! meaning in between.

use sprachbund_dialect::dialect::{Dialect, Medium, Settings};
use sprachbund_host::project::Project;
use sprachbund_schema::source::NoFiles;

/// A file with a class, whose body is filled in.
pub(crate) struct Class {
    pub(crate) path: &'static str,
    /// What stands before the class.
    pub(crate) head: &'static str,
    /// The class up to its body.
    pub(crate) before: &'static str,
    /// What stands before each line of the body.
    pub(crate) indentation: &'static str,
    /// The class after its body.
    pub(crate) after: &'static str,
    /// A part of the line with which the class begins when it is written again.
    pub(crate) first_line: &'static str,
}

impl Class {
    fn with(&self, body: &str) -> String {
        let body: String =
            body.lines().map(|line| format!("{}{line}\n", self.indentation)).collect();
        format!("{}{}{body}{}", self.head, self.before, self.after)
    }
}

/// Holds what is written again of each body against what should be: the second text, or the first
/// where that is empty.
pub(crate) fn check(dialect: &'static Dialect, class: &Class, cases: &[(&str, &str)]) {
    let mut wrong = String::new();
    for (written, wanted) in cases {
        let wanted = if wanted.is_empty() { written } else { wanted };
        let found = own_lines(dialect, class, written);
        if found != *wanted {
            wrong.push_str(&format!("{written}\nis written as\n{found}\n\n"));
        }
    }
    assert!(wrong.is_empty(), "{wrong}");
}

/// What is written of a body, without the lines that are written of any.
fn own_lines(dialect: &'static Dialect, class: &Class, body: &str) -> String {
    let mut frame = again(dialect, class, "");
    assert!(!frame.is_empty(), "nothing is written");
    let mut own = again(dialect, class, body);
    own.retain(|line| match frame.iter().position(|known| known == line) {
        Some(at) => {
            frame.remove(at);
            false
        }
        None => true,
    });
    own.join("\n")
}

/// The lines of the class as it is written again, with one blank where there are several.
fn again(dialect: &'static Dialect, class: &Class, body: &str) -> Vec<String> {
    let settings = Settings::default();
    let mut project =
        Project::load(vec![(class.path.into(), class.with(body))], &dialect.wanted(), &NoFiles);
    let Medium::Classes { read, print } = dialect.medium else {
        panic!("{} declares no classes", dialect.framework)
    };
    let (declarations, diagnostics) = read(&mut project, &settings);
    assert!(diagnostics.is_empty(), "{diagnostics:#?}");
    let files = print(&declarations, &(dialect.conventions)(&settings));
    let text = files
        .iter()
        .map(|file| file.text.as_str())
        .find(|text| text.contains(class.first_line))
        .unwrap_or_default();
    let from = text.find(class.first_line).unwrap_or_default();
    let line = |line: &str| line.split_whitespace().collect::<Vec<_>>().join(" ");
    text[from..].lines().skip(1).map(line).filter(|line| !line.is_empty()).collect()
}
