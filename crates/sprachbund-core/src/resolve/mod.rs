//! Declarations to schema: what was written, plus what the dialect's conventions make of silence. Written once for all
//! dialects; the inverse is [`crate::elide`].
//!
//! Three passes: [`inherit`] gives every class the attributes of its bases, [`keys`] answers which columns a
//! reference to a class needs, [`entity`] spells each class out (and [`join`] the join tables it implies).

mod defaults;
mod entity;
mod inherit;
mod join;
mod keys;

use std::collections::{HashMap, HashSet};
use std::sync::OnceLock;

use rayon::prelude::*;

use crate::declaration::{Declarations, Form, Model};
use crate::diagnostic::{Diagnostic, Severity};
use crate::dialect::Conventions;
use crate::schema::{Entity, Origin, Schema, Source};
use crate::source::{Sources, Span};

pub use defaults::coerce;
pub(crate) use defaults::of_purpose;
pub(crate) use entity::{json_check, pattern_class, reference_type, unsigned_check};
use inherit::Flat;
use keys::KeyColumn;

/// Everything that the passes share.
pub(crate) struct Resolver<'d> {
    pub(crate) conventions: &'d Conventions,
    enums: &'d [crate::schema::EnumType],
    sources: &'d Sources,
    models: &'d [Model],
    by_id: HashMap<&'d str, usize>,
    flats: Vec<OnceLock<Flat<'d>>>,
    keys: Vec<OnceLock<Vec<KeyColumn>>>,
}

/// Gives declarations their meaning.
pub fn resolve(declarations: Declarations, conventions: &Conventions, sources: &Sources, mut source: Source) -> (Schema, Vec<Diagnostic>) {
    source.assumed.extend(declarations.assumed.iter().cloned());
    let models = &declarations.models;
    let mut by_id = HashMap::new();
    for (at, model) in models.iter().enumerate() {
        by_id.entry(model.id.as_str()).or_insert(at);
    }
    let fresh = |_| OnceLock::new();
    let resolver = Resolver {
        conventions,
        enums: &declarations.enums,
        sources,
        models,
        by_id,
        flats: (0..models.len()).map(fresh).collect(),
        keys: (0..models.len()).map(|_| OnceLock::new()).collect(),
    };
    let mut diagnostics = resolver.duplicates();
    let wanted: Vec<usize> = (0..models.len()).filter(|at| !matches!(models[*at].form, Form::Abstract | Form::External)).collect();
    let parts: Vec<(Vec<Entity>, Vec<Diagnostic>)> = wanted.into_par_iter().map(|at| resolver.entity(at)).collect();
    let mut schema = Schema::new(source);
    for (entities, found) in parts {
        schema.entities.extend(entities);
        diagnostics.extend(found);
    }
    resolver.add_referenced(&mut schema);
    resolver.inverse_sides(&mut schema, &mut diagnostics);
    mark_join_entities(&mut schema);
    schema.enums = used_enums(declarations.enums, &schema);
    (schema, diagnostics)
}

impl<'d> Resolver<'d> {
    pub(crate) fn model(&self, id: &str) -> Option<(usize, &'d Model)> {
        self.by_id.get(id).map(|at| (*at, &self.models[*at]))
    }

    fn origin(&self, span: Option<Span>, otherwise: &'static str) -> Origin {
        let Some(span) = span else { return Origin::implied(otherwise) };
        let file = self.sources.file(span.file);
        let (line, column) = file.position(span.start);
        Origin::Declared { file: file.path.clone(), line, column, span: Some(span) }
    }

    /// The table of a class: written, or by convention.
    pub(crate) fn table(&self, model: &Model) -> String {
        if let (Form::SameTable, Some((_, parent))) = (model.form, model.extends.first().and_then(|id| self.model(id))) {
            return self.table(parent);
        }
        model.table.clone().unwrap_or_else(|| {
            let name = self.conventions.table.apply(&[("module", &model.module), ("name", &model.name)]);
            (self.conventions.shorten)(&name, self.conventions.identifier_limit)
        })
    }

    fn duplicates(&self) -> Vec<Diagnostic> {
        let mut found = Vec::new();
        for (at, model) in self.models.iter().enumerate() {
            let first = self.by_id[model.id.as_str()];
            if first != at && model.form == Form::Concrete {
                let message = format!("`{}` is declared twice", model.id);
                found.push(
                    Diagnostic::new("declared-twice", Severity::Warning, message)
                        .at(model.span, "declared again here")
                        .and_at(self.models[first].span, "first declared here")
                        .because("references to it mean the first declaration"),
                );
            }
        }
        found
    }

    /// Adds key-only entities for classes of other packages that are referred to.
    fn add_referenced(&self, schema: &mut Schema) {
        let known: HashSet<String> = schema.entities.iter().map(|entity| entity.id.clone()).collect();
        let mut pending: Vec<String> =
            schema.entities.iter().flat_map(|entity| &entity.relations).map(|relation| relation.target.clone()).collect();
        pending.extend(schema.entities.iter().filter_map(|entity| Some(entity.inherits.as_ref()?.entity.clone())));
        pending.sort();
        pending.dedup();
        for id in pending.into_iter().filter(|id| !known.contains(id)) {
            schema.entities.extend(self.model(&id).and_then(|(at, _)| self.external(at)));
        }
    }
}

/// Enumerations that a column uses, each once, in the order of declaration.
fn used_enums(enums: Vec<crate::schema::EnumType>, schema: &Schema) -> Vec<crate::schema::EnumType> {
    let mut used: HashSet<&str> = HashSet::new();
    for field in schema.entities.iter().flat_map(|entity| &entity.fields) {
        used.extend(field.choices.as_deref());
        used.extend(enum_name(&field.r#type));
    }
    let mut seen = HashSet::new();
    enums.into_iter().filter(|enumeration| used.contains(enumeration.name.as_str()) && seen.insert(enumeration.name.clone())).collect()
}

/// The enumeration that a type, or the element of an array type, names.
pub(crate) fn enum_name(ty: &crate::schema::Type) -> Option<&str> {
    match ty {
        crate::schema::Type::Enum(name) => Some(name),
        crate::schema::Type::Array(element) => enum_name(element),
        _ => None,
    }
}

fn mark_join_entities(schema: &mut Schema) {
    let through: HashSet<String> =
        schema.entities.iter().flat_map(|entity| &entity.relations).filter_map(|relation| relation.through.clone()).collect();
    for entity in &mut schema.entities {
        entity.join |= through.contains(&entity.id);
    }
}
