//! Names that come from other files: by `import`, by `export ... from`, or by `require`.

use smol_str::SmolStr;
use tree_sitter::Node;

use super::{Field, Lowering, child, kind};
use crate::outline::{Assignment, Expr, ExprKind, Import};
use crate::source::Span;

impl<'t> Lowering<'t> {
    pub(super) fn import(&mut self, node: Node<'t>) {
        let span = self.span(node);
        let Some(module) = child(node, Field::Source).map(|source| self.string_text(source)) else {
            return;
        };
        let mut found = Vec::new();
        let mut cursor = node.walk();
        for clause in
            node.named_children(&mut cursor).filter(|child| kind(*child) == "import_clause")
        {
            let mut inner = clause.walk();
            for part in clause.named_children(&mut inner) {
                match kind(part) {
                    "identifier" => found.push((self.owned(part), SmolStr::new_static("default"))),
                    "namespace_import" => {
                        found.extend(
                            part.named_child(0).map(|name| (self.owned(name), SmolStr::default())),
                        );
                    }
                    _ => self.specifiers(part, "import_specifier", &mut found),
                }
            }
        }
        self.bind(found, &module, span);
    }

    pub(super) fn reexport(&mut self, node: Node<'t>) {
        let Some(source) = child(node, Field::Source) else { return self.default_export(node) };
        let module = self.string_text(source);
        let mut found = Vec::new();
        let mut cursor = node.walk();
        for clause in node.named_children(&mut cursor) {
            self.specifiers(clause, "export_specifier", &mut found);
        }
        if found.is_empty() {
            found.push((SmolStr::new_static("*"), SmolStr::new_static("*")));
        }
        self.bind(found, &module, self.span(node));
    }

    /// `export default value`.
    fn default_export(&mut self, node: Node<'t>) {
        let Some(value) = child(node, Field::Value) else { return };
        let name = SmolStr::new_static("module.exports");
        self.assign(Assignment { name: name.clone(), value: self.expr(value, 0) });
        self.functions(value, name, 0);
    }

    fn specifiers(&self, clause: Node<'t>, wanted: &str, found: &mut Vec<(SmolStr, SmolStr)>) {
        let mut cursor = clause.walk();
        for specifier in clause.named_children(&mut cursor).filter(|child| kind(*child) == wanted) {
            if let Some(name) = child(specifier, Field::Name).map(|name| self.owned(name)) {
                let local = child(specifier, Field::Alias).map(|alias| self.owned(alias));
                found.push((local.unwrap_or_else(|| name.clone()), name));
            }
        }
    }

    fn bind(&mut self, found: Vec<(SmolStr, SmolStr)>, module: &str, span: Span) {
        let import = |(local, name)| Import { local, module: module.into(), name, span };
        self.outline.imports.extend(found.into_iter().map(import));
    }

    /// Binds what `require` gives, and tells whether that is what the value is.
    pub(super) fn required(&mut self, name: Node<'t>, value: Node<'t>) -> bool {
        let whole = self.expr(value, 0);
        let (call, part) = match &whole.kind {
            ExprKind::Operation { operator, operands }
                if operator.starts_with('.') && operands.len() == 1 =>
            {
                (&operands[0], &operator[1..])
            }
            _ => (&whole, ""),
        };
        let Some(module) = required_module(call) else { return false };
        let found = match kind(name) {
            "object_pattern" if part.is_empty() => self.parts(name),
            "identifier" => vec![(self.owned(name), SmolStr::new(part))],
            _ => return false,
        };
        self.bind(found, &module, self.span(value));
        true
    }

    /// Local names and names of the parts that an object is taken apart into.
    pub(super) fn parts(&self, pattern: Node<'t>) -> Vec<(SmolStr, SmolStr)> {
        let mut cursor = pattern.walk();
        let parts = pattern.named_children(&mut cursor).filter_map(|part| match kind(part) {
            "shorthand_property_identifier_pattern" => Some((self.owned(part), self.owned(part))),
            "pair_pattern" => Some((
                self.owned(child(part, Field::Value)?),
                self.property_name(child(part, Field::Key)?),
            )),
            _ => None,
        });
        parts.collect()
    }
}

/// The module of `require("module")`, whatever helper of a compiler it is wrapped in.
fn required_module(value: &Expr) -> Option<SmolStr> {
    let call = value.call()?;
    match (call.callee_name(), call.arguments.as_slice()) {
        ("require", [Expr { kind: ExprKind::Text(module), .. }]) => Some(module.clone()),
        (helper, [inner, ..])
            if helper.ends_with("__importStar") || helper.ends_with("__importDefault") =>
        {
            required_module(inner)
        }
        _ => None,
    }
}
