//! Facts about what is wrong, with their places. Words for them are chosen where they arise; how
//! they look is the command's affair.

use crate::schema::Change;
use crate::source::{FileId, Span};

/// How much a diagnostic matters.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Severity {
    Note,
    Warning,
    Error,
}

impl Severity {
    /// Every severity by its name in reports and configuration.
    pub const ALL: [(&'static str, Severity); 3] =
        [("note", Severity::Note), ("warning", Severity::Warning), ("error", Severity::Error)];

    /// The name in reports and configuration.
    pub fn word(self) -> &'static str {
        match self {
            Severity::Note => "note",
            Severity::Warning => "warning",
            Severity::Error => "error",
        }
    }
}

/// A kind of message that reading, or comparing, may give: what `explain` tells of it, and what the
/// settings may grade and accept. Rules of lint say the same of themselves, and more.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Code {
    /// Its stable name, such as `unread-base`.
    pub name: &'static str,
    /// How much it matters, unless the place or the project says otherwise.
    pub severity: Severity,
    pub family: CodeFamily,
    /// What is told of, as a sentence goes on after "Tells of".
    pub finds: &'static str,
    /// What follows from it, in one sentence.
    pub follows: &'static str,
    /// What to do.
    pub advice: &'static str,
}

/// What messages of one kind have in common.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum CodeFamily {
    Files,
    Unknown,
    Unread,
    Contradiction,
    History,
    Difference,
}

impl CodeFamily {
    /// Every family, in the order in which an input is read.
    pub const ALL: [CodeFamily; 6] = [
        CodeFamily::Files,
        CodeFamily::Unread,
        CodeFamily::Unknown,
        CodeFamily::Contradiction,
        CodeFamily::History,
        CodeFamily::Difference,
    ];

    /// Its title, and what it is about, in one line.
    pub fn words(self) -> (&'static str, &'static str) {
        match self {
            CodeFamily::Files => ("files", "inputs that cannot be read as text"),
            CodeFamily::Unread => ("not read", "what stands there is left out, or kept as it is"),
            CodeFamily::Unknown => ("not known", "only running the program would tell"),
            CodeFamily::Contradiction => {
                ("declarations that cannot hold", "found while they are read")
            }
            CodeFamily::History => ("histories", "steps, and classes over the tables they make"),
            CodeFamily::Difference => ("differences", "found by `compare`"),
        }
    }
}

/// A place with what is to be seen there.
#[derive(Clone, Debug, PartialEq)]
pub struct Label {
    pub span: Span,
    pub text: String,
}

/// What a message is about: its names stay the same when lines move.
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
pub struct Subject {
    /// Id of the entity.
    pub entity: String,
    /// `column berth_id`, `index berth_id`, ...; empty for the entity itself.
    pub element: String,
}

/// A change of the schema after which there is nothing to say any more.
#[derive(Clone, Debug, PartialEq)]
pub struct Cure {
    pub change: Change,
    pub safety: Safety,
}

/// What making a cure takes.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum Safety {
    /// It may change data, or there are other ways out: it is only shown.
    Shown,
    /// The database then does something more than before: somebody must agree to it.
    IfAsked,
    /// Neither data nor meaning changes by it.
    Certain,
}

impl Safety {
    /// The name in reports.
    pub fn word(self) -> &'static str {
        match self {
            Safety::Shown => "shown",
            Safety::IfAsked => "if asked",
            Safety::Certain => "certain",
        }
    }
}

/// One message about the input.
#[derive(Clone, Debug, PartialEq)]
pub struct Diagnostic {
    /// Stable name of the kind of message, such as `unknown-field-class` or a lint rule's name.
    pub code: &'static str,
    pub severity: Severity,
    /// One line, without its place.
    pub message: String,
    /// The place that matters most.
    pub primary: Option<Label>,
    pub secondary: Vec<Label>,
    /// Why it matters.
    pub notes: Vec<String>,
    /// A way out.
    pub help: Option<String>,
    /// File that the message is about when no place in it can be given.
    pub path: Option<String>,
    pub subject: Option<Subject>,
    pub cure: Option<Cure>,
}

impl Diagnostic {
    /// A message without a place.
    pub fn new(code: &'static str, severity: Severity, message: impl Into<String>) -> Self {
        Diagnostic {
            code,
            severity,
            message: message.into(),
            primary: None,
            secondary: Vec::new(),
            notes: Vec::new(),
            help: None,
            path: None,
            subject: None,
            cure: None,
        }
    }

    /// A message of a known kind, without a place.
    pub fn of(code: &'static Code, message: impl Into<String>) -> Self {
        Diagnostic::new(code.name, code.severity, message)
    }

    /// The same message where it matters more, or less, than its kind.
    pub fn graded(self, severity: Severity) -> Self {
        Diagnostic { severity, ..self }
    }

    /// Adds the place that matters most.
    pub fn at(mut self, span: Option<Span>, text: impl Into<String>) -> Self {
        self.primary = span.map(|span| Label { span, text: text.into() });
        self
    }

    /// Adds a further place.
    pub fn and_at(mut self, span: Option<Span>, text: impl Into<String>) -> Self {
        self.secondary.extend(span.map(|span| Label { span, text: text.into() }));
        self
    }

    /// Adds a reason.
    pub fn because(mut self, note: impl Into<String>) -> Self {
        self.notes.push(note.into());
        self
    }

    /// Adds a way out.
    pub fn with_help(mut self, help: impl Into<String>) -> Self {
        self.help = Some(help.into());
        self
    }

    /// Adds a cure that changes neither data nor meaning.
    pub fn curable(mut self, change: Change) -> Self {
        self.cure = Some(Cure { change, safety: Safety::Certain });
        self
    }

    /// Adds a cure that somebody must agree to: the database then does something more than before.
    pub fn curable_if_asked(mut self, change: Option<Change>) -> Self {
        self.cure = change.map(|change| Cure { change, safety: Safety::IfAsked });
        self
    }

    /// Adds a cure that is only shown, as the dialect writes it.
    pub fn curable_by_hand(mut self, change: Change) -> Self {
        self.cure = Some(Cure { change, safety: Safety::Shown });
        self
    }

    /// The same where its files come after `files` others.
    pub fn shifted(mut self, files: usize) -> Self {
        for label in self.primary.iter_mut().chain(&mut self.secondary) {
            label.span.file = FileId(label.span.file.0 + files as u32);
        }
        self
    }

    /// Names the file when there is no place in it.
    pub fn in_file(mut self, path: impl Into<String>) -> Self {
        self.path = Some(path.into());
        self
    }
}
