//! Declarations to schema: what was written, plus what the dialect's conventions make of silence.
//! Written once for all dialects; the inverse is [`crate::elide`], and both ask the same
//! [`crate::decision`]s.
//!
//! The passes: [`inherit`] gives every class the attributes of its bases, [`keys`] answers which
//! columns a reference to a class needs, [`entity`] spells each class out, [`constraints`] what is
//! said of it as a whole, [`references`] the foreign keys that columns declare, and [`join`] the
//! join tables that relations imply.
//!
//! Where tables are made by steps, [`history`] replays them; where classes have no columns of their
//! own, [`overlay`] lays them over what was replayed.

mod constraints;
mod entity;
pub mod history;
mod inherit;
mod join;
mod keys;
pub mod overlay;
mod references;

use std::collections::{HashMap, HashSet};
use std::ops::Range;
use std::sync::OnceLock;

use inherit::Flat;
use keys::KeyColumn;
use rayon::prelude::*;

use crate::codes;
use crate::decision::Decision;
use crate::decision::names::TableName;
use crate::declaration::{Attribute, Declarations, FieldDeclaration, Form, Model};
use crate::diagnostic::Diagnostic;
use crate::dialect::Conventions;
use crate::dialect::grammar::ReferencePlace;
use crate::history::Tables;
use crate::schema::{Entity, EnumType, Origin, Schema, Source, address, enum_name};
use crate::source::{Sources, Span};

/// Classes that are spelled out before the fields of the next ones are looked at.
const CLASSES_AT_ONCE: usize = 512;

/// Everything that the passes share.
pub(crate) struct Resolver<'d> {
    pub(crate) conventions: &'d Conventions,
    enums: &'d [EnumType],
    sources: &'d Sources,
    models: Vec<Model>,
    by_id: HashMap<String, usize>,
    /// Classes by the addresses of their tables, where columns name them.
    by_table: HashMap<String, usize>,
    flats: Vec<OnceLock<Flat>>,
    keys: Vec<OnceLock<Vec<KeyColumn>>>,
    /// The tables that a history has made so far.
    tables: Option<&'d Tables>,
}

/// Gives declarations their meaning.
pub fn resolve(
    declarations: Declarations,
    conventions: &Conventions,
    sources: &Sources,
    mut source: Source,
) -> (Schema, Vec<Diagnostic>) {
    source.assumed.extend(declarations.assumed.iter().cloned());
    let Declarations { models, enums, assumed: _, history: _ } = declarations;
    let mut resolver = Resolver::new(models, &enums, conventions, sources);
    let mut diagnostics = resolver.duplicates();
    let mut schema = Schema::new(source);
    let looked_into = resolver.looked_into();
    for start in (0..resolver.models.len()).step_by(CLASSES_AT_ONCE) {
        let batch = start..(start + CLASSES_AT_ONCE).min(resolver.models.len());
        let shared = &resolver;
        let wanted = batch
            .clone()
            .into_par_iter()
            .filter(|at| !matches!(shared.models[*at].form, Form::Abstract | Form::External));
        let parts: Vec<(Vec<Entity>, Vec<Diagnostic>)> =
            wanted.map(|at| shared.entity(at)).collect();
        // In the order of the classes, whichever core was done first.
        for (entities, found) in parts {
            schema.entities.extend(entities);
            diagnostics.extend(found);
        }
        resolver.release(batch, &looked_into);
    }
    // Classes of other packages are added first: an inverse side may lead back along a relation of
    // one.
    resolver.add_referenced(&mut schema);
    resolver.inverse_sides(&mut schema, &mut diagnostics);
    mark_join_entities(&mut schema);
    schema.enums = used_enums(enums, &schema);
    (schema, diagnostics)
}

impl<'d> Resolver<'d> {
    fn new(
        models: Vec<Model>,
        enums: &'d [EnumType],
        conventions: &'d Conventions,
        sources: &'d Sources,
    ) -> Self {
        let mut by_id = HashMap::with_capacity(models.len());
        for (at, model) in models.iter().enumerate() {
            by_id.entry(model.id.clone()).or_insert(at);
        }
        let flats = models.iter().map(|_| OnceLock::new()).collect();
        let keys = models.iter().map(|_| OnceLock::new()).collect();
        let mut resolver = Resolver {
            conventions,
            enums,
            sources,
            models,
            by_id,
            by_table: HashMap::new(),
            flats,
            keys,
            tables: None,
        };
        if conventions.grammar.reference == ReferencePlace::Column {
            let with_table =
                |model: &Model| !matches!(model.form, Form::Abstract | Form::SameTable);
            let tables = resolver.models.iter().enumerate().filter(|(_, model)| with_table(model));
            resolver.by_table = tables
                .map(|(at, model)| {
                    (address(model.namespace.as_deref(), &resolver.table(model)), at)
                })
                .collect();
        }
        resolver
    }

    /// One table, or what is added to one, in the tables that a history has made so far.
    fn in_history(
        model: Model,
        enums: &'d [EnumType],
        conventions: &'d Conventions,
        sources: &'d Sources,
        tables: &'d Tables,
    ) -> Self {
        Resolver { tables: Some(tables), ..Resolver::new(vec![model], enums, conventions, sources) }
    }

    /// The class over a table.
    fn at_table(&self, namespace: Option<&str>, table: &str) -> Option<usize> {
        self.by_table.get(&address(namespace, table)).copied()
    }

    /// Whether another class needs the fields of each class: those that extend it, and those that
    /// refer to its columns by name.
    fn looked_into(&self) -> Vec<bool> {
        let mut looked_into = vec![false; self.models.len()];
        for model in &self.models {
            for attribute in &model.attributes {
                if let Attribute::Field(field) = attribute
                    && let FieldDeclaration { reference: Some(reference), .. } = &**field
                {
                    self.at_table(reference.namespace.as_deref(), &reference.table)
                        .iter()
                        .for_each(|at| looked_into[*at] = true);
                }
            }
            let targets = model.attributes.iter().filter_map(|attribute| match attribute {
                Attribute::Relation(relation)
                    if self.conventions.grammar.reference == ReferencePlace::Column =>
                {
                    Some(&relation.target)
                }
                Attribute::Relation(relation)
                    if relation.join_columns.iter().any(|join| join.references.is_some()) =>
                {
                    Some(&relation.target)
                }
                _ => None,
            });
            for (at, target) in model.extends.iter().chain(targets).filter_map(|id| self.model(id))
            {
                looked_into[at] = true;
                if target.form == Form::SameTable {
                    target
                        .extends
                        .iter()
                        .filter_map(|id| self.model(id))
                        .for_each(|(parent, _)| looked_into[parent] = true);
                }
            }
        }
        looked_into
    }

    /// Lets go of what classes consist of that are spelled out and that no other class looks into,
    /// but for the sides of relations that own nothing: they are matched last.
    fn release(&mut self, batch: Range<usize>, looked_into: &[bool]) {
        let done = self.models[batch.clone()]
            .par_iter_mut()
            .zip(&mut self.flats[batch.clone()])
            .zip(&looked_into[batch]);
        let spelled_out = |model: &Model| matches!(model.form, Form::Concrete | Form::View);
        done.filter(|((model, _), looked_into)| !**looked_into && spelled_out(model)).for_each(
            |((model, flat), _)| {
                model.attributes.retain(|attribute| matches!(attribute, Attribute::Inverse(_)));
                model.attributes.shrink_to_fit();
                (model.uniques, model.indexes, model.checks) = (Vec::new(), Vec::new(), Vec::new());
                *flat = OnceLock::new();
            },
        );
    }

    pub(crate) fn model(&self, id: &str) -> Option<(usize, &Model)> {
        self.by_id.get(id).map(|at| (*at, &self.models[*at]))
    }

    fn origin(&self, span: Option<Span>, otherwise: &'static str) -> Origin {
        let Some(span) = span else { return Origin::implied(otherwise) };
        Origin::declared(self.sources.file(span.file), span)
    }

    /// The table of a class: written, or by convention.
    pub(crate) fn table(&self, model: &Model) -> String {
        if let (Form::SameTable, Some((_, parent))) =
            (model.form, model.extends.first().and_then(|id| self.model(id)))
        {
            return self.table(parent);
        }
        if let Some((owner, owned)) =
            model.owned_by.as_ref().and_then(|owned| Some((self.model(&owned.entity)?.1, owned)))
        {
            return format!("{}.{}", self.table(owner), owned.path);
        }
        TableName { conventions: self.conventions, module: &model.module, class: &model.name }
            .fill(model.table.clone())
    }

    fn duplicates(&self) -> Vec<Diagnostic> {
        let mut found = Vec::new();
        for (at, model) in self.models.iter().enumerate() {
            let first = self.by_id[model.id.as_str()];
            if first != at && model.form == Form::Concrete {
                let message = format!("`{}` is declared twice", model.id);
                found.push(
                    Diagnostic::of(&codes::DECLARED_TWICE, message)
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
        let known: HashSet<String> =
            schema.entities.iter().map(|entity| entity.id.clone()).collect();
        let mut pending: Vec<String> = schema
            .entities
            .iter()
            .flat_map(|entity| &entity.relations)
            .map(|relation| relation.target.clone())
            .collect();
        pending.extend(
            schema
                .entities
                .iter()
                .filter_map(|entity| Some(entity.inherits.as_ref()?.entity.clone())),
        );
        pending.sort();
        pending.dedup();
        for id in pending.into_iter().filter(|id| !known.contains(id)) {
            schema.entities.extend(self.model(&id).and_then(|(at, _)| self.external(at)));
        }
    }
}

/// Enumerations that a column uses, each once, in the order of declaration.
fn used_enums(enums: Vec<EnumType>, schema: &Schema) -> Vec<EnumType> {
    let mut used: HashSet<&str> = HashSet::new();
    for field in schema.entities.iter().flat_map(|entity| &entity.fields) {
        used.extend(field.choices.as_deref());
        used.extend(enum_name(&field.r#type));
    }
    let mut seen = HashSet::new();
    enums
        .into_iter()
        .filter(|enumeration| {
            used.contains(enumeration.name.as_str()) && seen.insert(enumeration.name.clone())
        })
        .collect()
}

fn mark_join_entities(schema: &mut Schema) {
    let through: HashSet<String> = schema
        .entities
        .iter()
        .flat_map(|entity| &entity.relations)
        .filter_map(|relation| relation.through.clone())
        .collect();
    for entity in &mut schema.entities {
        entity.join |= through.contains(&entity.id);
    }
}
