//! Tables and columns as a database knows them: without class, attribute or voice of an
//! application.

use std::borrow::Cow;

use super::{Entity, Field, Implied, Mapped, Origin, Type, Voices};

/// A table's name with that of its named schema, if it is in one: what tells it from every other
/// table.
pub fn address(namespace: Option<&str>, table: &str) -> String {
    namespace.map_or_else(|| table.to_owned(), |namespace| format!("{namespace}.{table}"))
}

impl Entity {
    /// The table's name with that of its named schema.
    pub fn address(&self) -> String {
        address(self.namespace.as_deref(), &self.table)
    }

    /// A table without columns. Its id and name are those of the table until names are recognised.
    pub fn stored(namespace: Option<String>, table: &str, origin: Origin) -> Self {
        let id = address(namespace.as_deref(), table);
        Entity {
            id,
            name: table.to_owned(),
            module: String::new(),
            table: table.to_owned(),
            namespace,
            kind: Default::default(),
            join: false,
            mapped: Mapped { table: true, code: true },
            external: false,
            comment: None,
            label: None,
            order: Vec::new(),
            inherits: None,
            owned_by: None,
            soft_delete: None,
            fields: Vec::new(),
            primary_key: None,
            uniques: Vec::new(),
            indexes: Vec::new(),
            foreign_keys: Vec::new(),
            checks: Vec::new(),
            exclusions: Vec::new(),
            relations: Vec::new(),
            implied: Implied::default(),
            origin,
            extras: Default::default(),
        }
    }
}

impl Field {
    /// A column of which nothing more is said; it must have a value.
    pub fn plain(
        name: Option<String>,
        column: String,
        ty: Type,
        stored: Cow<'static, str>,
    ) -> Self {
        Field {
            name,
            column,
            r#type: ty,
            stored,
            nullable: false,
            optional_in_code: None,
            required_on_input: None,
            defaults: Voices::default(),
            on_update: Voices::default(),
            identity: None,
            generated: None,
            choices: None,
            format: None,
            collation: None,
            comment: None,
            purpose: None,
            rules: Vec::new(),
            implied: Implied::default(),
            origin: Origin::default(),
            extras: Default::default(),
        }
    }
}
