//! How a server's statements are written: what quotes there are, and where servers have words of
//! their own.

/// See [`Quotes::runs_comment`].
pub type RunsComment = fn(&str, Option<(u32, u32)>) -> Option<usize>;

/// Around names and texts. Quotes inside are doubled on every server.
#[derive(Clone, Copy, Debug)]
pub struct Quotes {
    /// Around a name.
    pub name: char,
    pub backslash: Backslash,
    /// Whether double quotes are around a text, too.
    pub double_around_texts: bool,
    /// Whether `$tag$` begins a text.
    pub dollars: bool,
    /// Whether `#` begins a comment.
    pub hash_comments: bool,
    /// Whether a comment whose first character is one of these is code.
    pub code_in_comments: &'static [char],
    /// What stands behind `/*`, in a release: how many bytes come before the statements that the
    /// server runs; `None` where it runs none.
    pub runs_comment: RunsComment,
    /// Whether a type ends with its parameters.
    pub type_ends_with_parameters: bool,
    /// The statement that has texts mean what they say here, where another mode may be set.
    pub mode: Option<&'static str>,
}

/// What a backslash in a text is.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Backslash {
    /// A letter.
    Letter,
    /// A letter, but in a text with `E` before it, or where a mode says otherwise.
    EscapeWithPrefix,
    /// An escape, unless a mode says otherwise.
    Escape,
}

impl Quotes {
    /// Those of the standard.
    pub const STANDARD: Quotes = Quotes {
        name: '"',
        backslash: Backslash::Letter,
        double_around_texts: false,
        dollars: false,
        hash_comments: false,
        code_in_comments: &[],
        runs_comment: |_, _| None,
        type_ends_with_parameters: false,
        mode: None,
    };
}

/// Where the statements that make and change tables differ.
#[derive(Clone, Copy, Debug)]
pub struct Statements {
    /// Whether a column is changed by saying all of it anew.
    pub column_anew: bool,
    /// Whether an index is dropped of its table.
    pub index_of_table: bool,
    /// Whether a primary key is dropped by these words; by the name of its constraint otherwise.
    pub drops_primary_key: bool,
    /// What numbers a column, where it is not the standard's identity.
    pub counter: Option<&'static str>,
    /// Whether it is said that a column may be null.
    pub says_null: bool,
    /// Whether the default of a long text or of JSON is an expression.
    pub long_defaults_as_expressions: bool,
    /// Whether the moment has as many digits of a second as the column.
    pub moment_with_digits: bool,
}

impl Statements {
    /// Those of the standard.
    pub const STANDARD: Statements = Statements {
        column_anew: false,
        index_of_table: false,
        drops_primary_key: false,
        counter: None,
        says_null: false,
        long_defaults_as_expressions: false,
        moment_with_digits: false,
    };
}
