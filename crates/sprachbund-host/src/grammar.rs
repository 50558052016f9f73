//! Names and numbers of a grammar's fields and node kinds, looked up once: the grammar's own
//! look-ups compare or measure texts at every call.

/// Declares `Field` with a variant for each field of a grammar, `child(node, field)` and
/// `kind(node)`.
macro_rules! grammar {
    ($language:expr, $($variant:ident = $name:literal),+ $(,)?) => {
        #[derive(Clone, Copy)]
        enum Field { $($variant),+ }

        static GRAMMAR: std::sync::LazyLock<tree_sitter::Language> =
            std::sync::LazyLock::new(|| $language.into());

        static FIELD_IDS: std::sync::LazyLock<Vec<u16>> = std::sync::LazyLock::new(|| {
            let id = |name| GRAMMAR.field_id_for_name(name).map_or(0, std::num::NonZeroU16::get);
            [$($name),+].into_iter().map(id).collect()
        });

        static KINDS: std::sync::LazyLock<Vec<&'static str>> = std::sync::LazyLock::new(|| {
            (0..GRAMMAR.node_kind_count())
                .map(|id| GRAMMAR.node_kind_for_id(id as u16).unwrap_or_default())
                .collect()
        });

        /// The child of a node in a field.
        fn child(node: tree_sitter::Node<'_>, field: Field) -> Option<tree_sitter::Node<'_>> {
            node.child_by_field_id(FIELD_IDS[field as usize])
        }

        /// The kind of a node; that of a syntax error has no number of the grammar's.
        fn kind(node: tree_sitter::Node<'_>) -> &'static str {
            KINDS.get(node.kind_id() as usize).copied().unwrap_or("ERROR")
        }
    };
}

pub(super) use grammar;
