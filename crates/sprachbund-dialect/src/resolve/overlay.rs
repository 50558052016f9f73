//! Classes over the tables of a history. Where columns live in steps, a class says what the steps
//! do not know: relations, names of attributes, what input must be like, what the application fills
//! in. It is laid over its table as that is after the last step, whose columns, keys and
//! constraints stay. What only one of the two knows is said: a class without a table, what a class
//! says of a column that is not there, a table without a class.

use std::collections::HashSet;

use super::entity::Builder;
use super::history::unnamed_relations;
use super::{Resolver, mark_join_entities, used_enums};
use crate::codes;
use crate::decision::Decision;
use crate::decision::names::{ColumnName, JoinTableName, JoinedClass};
use crate::decision::presence::{Carries, Presence};
use crate::decision::values::{Filled, Moment};
use crate::declaration::{
    Attribute, Declarations, FieldDeclaration, Form, Model, RelationDeclaration, Spelling,
};
use crate::diagnostic::Diagnostic;
use crate::dialect::Conventions;
use crate::dialect::conventions::Actor;
use crate::dialect::grammar::ColumnPlace;
use crate::history::Tables;
use crate::schema::{
    EnforcedBy, Entity, Field, ForeignKey, Part, Purpose, References, RelationKind, Schema, address,
};
use crate::source::{Sources, Span};

/// Lays classes over the tables that a history has made.
pub fn overlay(
    declarations: Declarations,
    made: Schema,
    conventions: &Conventions,
    sources: &Sources,
) -> (Schema, Vec<Diagnostic>) {
    let Declarations { models, mut enums, assumed, history: _ } = declarations;
    let tables = Tables::of(made);
    let known = &tables.schema.enums;
    enums.extend(
        known
            .iter()
            .filter(|known| !enums.iter().any(|one| one.name == known.name))
            .cloned()
            .collect::<Vec<_>>(),
    );
    let resolver =
        Resolver { tables: Some(&tables), ..Resolver::new(models, &enums, conventions, sources) };
    let mut diagnostics = resolver.duplicates();
    let mut schema = Schema::new(tables.schema.source.clone());
    schema.source.assumed.extend(assumed);
    for (at, model) in resolver.models.iter().enumerate() {
        if !matches!(model.form, Form::Abstract | Form::External) {
            schema.entities.push(resolver.laid(at, &mut diagnostics));
        }
    }
    resolver.add_tables_without_class(&mut schema, &mut diagnostics);
    resolver.add_referenced(&mut schema);
    resolver.inverse_sides(&mut schema, &mut diagnostics);
    mark_join_entities(&mut schema);
    schema.enums = used_enums(enums.clone(), &schema);
    (schema, diagnostics)
}

impl Resolver<'_> {
    /// The table under a class whose columns live in the history.
    pub(super) fn table_under(&self, at: usize) -> Option<&Entity> {
        let model = &self.models[at];
        let laid = self.conventions.grammar.columns == ColumnPlace::History
            && model.form == Form::Concrete;
        self.tables.filter(|_| laid)?.get(&address(model.namespace.as_deref(), &self.table(model)))
    }

    fn laid(&self, at: usize, diagnostics: &mut Vec<Diagnostic>) -> Entity {
        let model = &self.models[at];
        let mut entity = self.empty(model, self.table(model));
        entity.inherits = self.inherits(model, at);
        if model.form == Form::SameTable {
            return entity;
        }
        let Some(made) = self.table_under(at) else {
            diagnostics.push(without_table(model, &entity.table));
            entity.mapped.table = false;
            return entity;
        };
        let comment = model.comment.clone().or_else(|| made.comment.clone());
        let mut entity = Entity {
            namespace: made.namespace.clone(),
            comment,
            join: made.join,
            fields: made.fields.clone(),
            primary_key: made.primary_key.clone(),
            uniques: made.uniques.clone(),
            indexes: made.indexes.clone(),
            checks: made.checks.clone(),
            exclusions: made.exclusions.clone(),
            foreign_keys: made.foreign_keys.clone(),
            ..entity
        };
        Builder::over(self, model, &mut entity, diagnostics).lay(at);
        entity
    }

    /// The columns that a class, or one of its bases, does not want.
    fn removed(&self, at: usize) -> Vec<&str> {
        let (mut seen, mut next) = (vec![at], 0);
        while let Some(model) = seen.get(next).map(|at| &self.models[*at]) {
            let bases: Vec<usize> =
                model.extends.iter().filter_map(|id| Some(self.model(id)?.0)).collect();
            let unseen: Vec<usize> =
                bases.into_iter().filter(|base| !seen.contains(base)).collect();
            seen.extend(unseen);
            next += 1;
        }
        let attributes = seen.iter().flat_map(|at| &self.models[*at].attributes);
        attributes
            .filter_map(|attribute| match attribute {
                Attribute::Removed(name) => Some(name.as_str()),
                Attribute::Field(_) | Attribute::Relation(_) | Attribute::Inverse(_) => None,
            })
            .collect()
    }

    /// Tables that no class stands for stay as they are.
    fn add_tables_without_class(&self, schema: &mut Schema, diagnostics: &mut Vec<Diagnostic>) {
        let Some(tables) = self.tables else { return };
        let classes: HashSet<String> = schema.entities.iter().map(Entity::address).collect();
        let joined: HashSet<&String> = schema
            .entities
            .iter()
            .flat_map(|entity| &entity.relations)
            .filter_map(|relation| relation.through.as_ref())
            .collect();
        let rest: Vec<Entity> = tables
            .schema
            .entities
            .iter()
            .filter(|made| !classes.contains(&made.address()))
            .cloned()
            .collect();
        diagnostics
            .extend(rest.iter().filter(|made| !joined.contains(&made.id)).map(without_class));
        schema
            .entities
            .extend(rest.into_iter().map(|made| Entity { relations: Vec::new(), ..made }));
        let targets: Vec<(String, String)> =
            schema.entities.iter().map(|entity| (entity.address(), entity.id.clone())).collect();
        schema.entities.iter_mut().for_each(|entity| unnamed_relations(entity, &targets));
    }
}

fn without_table(model: &Model, table: &str) -> Diagnostic {
    let message = format!("no step makes the table `{table}` of `{}`", model.name);
    Diagnostic::of(&codes::TABLE_NOT_MADE, message)
        .at(model.span, "its columns are not known")
        .because("the columns of this class stand in the history alone")
        .with_help("give all steps of the history, or the table's name to the class")
}

fn without_class(table: &Entity) -> Diagnostic {
    Diagnostic::of(
        &codes::TABLE_WITHOUT_CLASS,
        format!("no class stands for the table `{}`", table.table),
    )
    .at(table.origin.span(), "made here")
    .because("nothing is known of how the application uses it")
}

impl Builder<'_, '_, '_> {
    /// Lays what the class says over the table.
    fn lay(&mut self, at: usize) {
        let resolver = self.resolver;
        self.name_columns(&resolver.removed(at));
        for attribute in resolver.attributes(at) {
            if let Attribute::Field(field) = attribute {
                self.lay_field(field);
            }
        }
        for attribute in resolver.attributes(at) {
            match attribute {
                Attribute::Relation(relation) if relation.kind == RelationKind::ManyToMany => {
                    self.lay_many_to_many(relation)
                }
                Attribute::Relation(relation) => self.lay_relation(relation),
                Attribute::Field(_) | Attribute::Inverse(_) | Attribute::Removed(_) => {}
            }
        }
        self.constraints_in_vain();
    }

    /// Every column is an attribute, unless the class takes it away.
    fn name_columns(&mut self, removed: &[&str]) {
        let conventions = self.resolver.conventions;
        let key = self.entity.key_columns().to_vec();
        for field in
            self.entity.fields.iter_mut().filter(|field| !removed.contains(&field.column.as_str()))
        {
            field.name = Some(field.column.clone());
            if (ColumnName { conventions, attribute: &field.column }).omit(&field.column).is_none()
            {
                field.implied.add(Part::Column);
            }
            let presence = Presence::of(conventions, Carries::Value, field, &key);
            field.required_on_input =
                presence.required_on_input().map(|required| required.fill(None));
            field.optional_in_code =
                presence.optional_in_code(field.nullable).map(|optional| optional.fill(None));
        }
    }

    fn lay_field(&mut self, declared: &FieldDeclaration) {
        let conventions = self.resolver.conventions;
        let column = self.resolver.column(declared);
        let key = self.entity.key_columns().to_vec();
        let Some(at) = self.entity.fields.iter().position(|field| field.column == column) else {
            let attribute = declared.name.as_deref().unwrap_or(&column);
            return self.column_not_made(attribute, &column, declared.span);
        };
        for what in said_by_steps(declared, &self.entity.fields[at]) {
            self.in_vain(&format!("the {what} of `{column}`"), declared.span);
        }
        let field = &mut self.entity.fields[at];
        field.name = declared.name.clone().or(field.name.take());
        field.purpose = declared.purpose.or(field.purpose);
        if field.purpose == Some(Purpose::DeletionTime) && self.entity.soft_delete.is_none() {
            self.entity.soft_delete.clone_from(&field.name);
        }
        let presence = Presence::of(conventions, Carries::Value, field, &key);
        field.required_on_input =
            presence.required_on_input().map(|required| required.fill(declared.required_on_input));
        field.optional_in_code = presence
            .optional_in_code(field.nullable)
            .map(|optional| optional.fill(declared.optional_in_code));
        let by_application = |moment, said: &Option<_>| {
            Filled::of(conventions, field, moment, Actor::Application).fill(said.clone())
        };
        let (on_insert, on_update) = (
            by_application(Moment::Insert, &declared.application_default),
            by_application(Moment::Update, &declared.application_update),
        );
        (field.defaults.application, field.on_update.application) = (on_insert, on_update);
        field.choices = declared.choices.clone().or(field.choices.take());
        field.format = declared.format.clone().map(std::borrow::Cow::Owned).or(field.format.take());
        field.rules.clone_from(&declared.rules);
        field.extras.extend(declared.extras.clone());
    }

    fn lay_relation(&mut self, declared: &RelationDeclaration) {
        let resolver = self.resolver;
        let name = declared.name.as_deref().unwrap_or_default();
        let Some(columns) = resolver.reference_columns(declared) else {
            return self.lay_undeclared(declared);
        };
        let names: Vec<String> = columns.iter().map(|column| column.column.clone()).collect();
        let lacking: Vec<&String> =
            names.iter().filter(|column| self.entity.field(column).is_none()).collect();
        if let Some(column) = lacking.first() {
            return self.column_not_made(name, column, declared.span);
        }
        if let Some(required) =
            declared.carrier.required_on_input.filter(|_| resolver.conventions.layers.input)
        {
            let carriers =
                self.entity.fields.iter_mut().filter(|field| names.contains(&field.column));
            carriers.for_each(|field| field.required_on_input = Some(required));
        }
        let kept = self.entity.foreign_keys.iter().any(|key| key.columns == names);
        if let Some((_, target)) = resolver.model(&declared.target).filter(|_| !kept) {
            let references = columns.into_iter().map(|column| column.references).collect();
            self.entity.foreign_keys.push(ForeignKey {
                columns: names.clone(),
                references: References {
                    table: resolver.table(target),
                    namespace: target.namespace.clone(),
                    columns: references,
                },
                on_delete: Default::default(),
                on_update: Default::default(),
                deferrable: None,
                enforced: EnforcedBy::Application,
                name: None,
                origin: resolver.origin(declared.span, "kept by the application"),
            });
        }
        let relation = self.relation_of(declared, names, false);
        self.entity.relations.push(relation);
    }

    /// A relation to a class that nobody declares, over columns that are there all the same.
    fn lay_undeclared(&mut self, declared: &RelationDeclaration) {
        let name = declared.name.as_deref().unwrap_or_default();
        let column = self.reference_column(declared);
        self.undeclared_target(declared, true);
        if self.entity.field(&column).is_none() {
            return self.column_not_made(name, &column, declared.span);
        }
        let relation = self.relation_of(declared, vec![column], false);
        self.entity.relations.push(relation);
    }

    /// A many-to-many over a table that the history makes.
    fn lay_many_to_many(&mut self, declared: &RelationDeclaration) {
        let (resolver, model) = (self.resolver, self.model);
        let mut declared = declared.clone();
        if let (None, Some((_, target))) = (&declared.through, resolver.model(&declared.target)) {
            let target_table = resolver.table(target);
            let owner = JoinedClass { name: &model.name, table: &self.entity.table };
            let target = JoinedClass { name: &target.name, table: &target_table };
            let attribute = declared.name.as_deref().unwrap_or_default();
            let name = JoinTableName {
                conventions: resolver.conventions,
                module: &model.module,
                owner,
                attribute,
                target,
            };
            let table = name.fill(declared.join_table.name.clone());
            let namespace = declared.join_table.namespace.as_deref().or(model.namespace.as_deref());
            let Some(join) =
                resolver.tables.and_then(|tables| tables.get(&address(namespace, &table)))
            else {
                let message = format!(
                    "no step makes the table `{table}`, by which `{}.{attribute}` goes",
                    model.name
                );
                let diagnostic = Diagnostic::of(&codes::TABLE_NOT_MADE, message);
                self.diagnostics.push(
                    diagnostic
                        .at(declared.span, "needs it")
                        .with_help("give all steps of the history, or the name of the table"),
                );
                return;
            };
            declared.through = Some(join.id.clone());
        }
        let (relation, _) = resolver.many_to_many(model, self.entity, &declared, self.diagnostics);
        self.entity.relations.extend(relation);
    }

    fn column_not_made(&mut self, attribute: &str, column: &str, span: Option<Span>) {
        let message = format!(
            "`{}.{attribute}` needs the column `{column}`, which `{}` does not have",
            self.model.name, self.entity.table
        );
        self.diagnostics.push(
            Diagnostic::of(&codes::COLUMN_NOT_MADE, message)
                .at(span, "needs it")
                .because(
                    "the columns of this class stand in the history alone, and no step makes \
                     this one",
                )
                .with_help("add a step that makes it, or name the column that is meant"),
        );
    }

    /// Constraints and indexes of the class that no step makes are not in the database.
    fn constraints_in_vain(&mut self) {
        let model = self.model;
        let named = |what: &str, name: &Option<String>| match name {
            Some(name) => format!("the {what} `{name}`"),
            None => format!("a {what}"),
        };
        let uniques = model
            .uniques
            .iter()
            .map(|unique| (named("unique constraint", &unique.name), unique.span));
        let indexes = model.indexes.iter().map(|index| (named("index", &index.name), index.span));
        let checks = model
            .checks
            .iter()
            .chain(&model.exclusions)
            .map(|check| (named("check", &check.name), check.span));
        let references =
            model.references.iter().map(|key| (named("foreign key", &key.name), key.span));
        for (what, span) in uniques.chain(indexes).chain(checks).chain(references) {
            self.in_vain(&what, span);
        }
    }

    fn in_vain(&mut self, what: &str, span: Option<Span>) {
        let message =
            format!("{what} is said by `{}`, and the history decides it", self.model.name);
        self.diagnostics.push(
            Diagnostic::of(&codes::SAID_BESIDE_THE_HISTORY, message)
                .at(span, "changes nothing")
                .because("the table is as its steps made it")
                .with_help("say it in a step, or take it out of the class"),
        );
    }
}

/// What a class says of a column that its table has otherwise.
fn said_by_steps(declared: &FieldDeclaration, made: &Field) -> Vec<&'static str> {
    let typed = declared.spelling != Spelling::default();
    let nullable = declared.nullable.is_some_and(|nullable| nullable != made.nullable);
    let default =
        declared.database_default.is_some() && declared.database_default != made.defaults.database;
    [(typed, "type"), (nullable, "nullability"), (default, "default of the database")]
        .into_iter()
        .filter_map(|(said, what)| said.then_some(what))
        .collect()
}
