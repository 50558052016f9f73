//! What is made of stored tables that no class stands for.

/// What is recognised. The default is everything.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Recognitions {
    /// Beginnings of table names that no class name has, such as `hb_`.
    pub prefixes: Vec<String>,
    /// A class is named by one of its records: `port_calls` gives `PortCall`.
    pub singular: bool,
    /// A table that only holds two references is a many-to-many relation.
    pub join_tables: bool,
    /// A reference that is unique is one-to-one.
    pub one_to_one: bool,
    /// The other side of a relation has an attribute too.
    pub inverses: bool,
    /// Columns that the database fills with the time of creation or update are such times.
    pub times: bool,
    /// A time of deletion that is usually null marks a record as deleted.
    pub soft_delete: bool,
}

impl Default for Recognitions {
    fn default() -> Self {
        Recognitions {
            prefixes: Vec::new(),
            singular: true,
            join_tables: true,
            one_to_one: true,
            inverses: true,
            times: true,
            soft_delete: true,
        }
    }
}
