//! Numbers of a grammar's fields, looked up once: the grammar's own look-up by name compares texts at every call.

/// Declares `Field` with a variant for each field of a grammar, and `child(node, field)`.
macro_rules! grammar_fields {
    ($language:expr, $($variant:ident = $name:literal),+ $(,)?) => {
        #[derive(Clone, Copy)]
        enum Field { $($variant),+ }

        static FIELD_IDS: std::sync::LazyLock<Vec<u16>> = std::sync::LazyLock::new(|| {
            let language: tree_sitter::Language = $language.into();
            [$($name),+].iter().map(|name| language.field_id_for_name(name).map_or(0, std::num::NonZeroU16::get)).collect()
        });

        /// The child of a node in a field.
        fn child(node: tree_sitter::Node<'_>, field: Field) -> Option<tree_sitter::Node<'_>> {
            node.child_by_field_id(FIELD_IDS[field as usize])
        }
    };
}

pub(super) use grammar_fields;
