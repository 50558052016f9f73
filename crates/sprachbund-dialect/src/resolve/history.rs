//! A history to the tables after its last step. Each step gets its meaning in the tables as they
//! are then, by the same rules as a class does, and becomes operations; the one replay of
//! [`history`](crate::history) takes them.

use std::borrow::Cow;
use std::collections::HashSet;

use crate::declaration::{
    Attribute, ColumnChange, FieldDeclaration, History, Model, ReferenceDeclaration, Said, Step,
};
use crate::diagnostic::Diagnostic;
use crate::dialect::Conventions;
use crate::dialect::naming::name_of_table;
use crate::history::{Operation, Tables, additions, impossible};
use crate::schema::{
    EnforcedBy, Entity, EnumType, Field, ForeignKey, Origin, Part, PrimaryKey, Relation,
    RelationKind, Schema, address,
};
use crate::server::index_references;
use crate::source::{Sources, Span};

use super::Resolver;

/// Takes the steps of a history, one after the other, over the tables of a schema. What cannot be
/// done is said, and left out.
pub fn replay(
    history: &History,
    enums: &[EnumType],
    conventions: &Conventions,
    sources: &Sources,
    schema: Schema,
) -> (Schema, Vec<Diagnostic>) {
    if history.steps.is_empty() {
        return (schema, Vec::new());
    }
    let mut replay = Replay::new(history.index_name, enums, conventions, sources, schema);
    for step in &history.steps {
        replay.step(step);
    }
    replay.finish()
}

/// The tables so far. A reader whose steps hang on what those before them made takes them here as
/// it reads them, and gives away the tables after the last one ([`History::made`]).
pub struct Replay<'r> {
    index_name: &'static str,
    enums: &'r [EnumType],
    conventions: &'r Conventions,
    sources: &'r Sources,
    /// Ids of what classes declare: no step made it.
    declared: HashSet<String>,
    /// The tables as they are now.
    pub tables: Tables,
    diagnostics: Vec<Diagnostic>,
}

impl<'r> Replay<'r> {
    /// Before the first step: the tables of a schema, and the enumerations that columns use without
    /// a step that makes them.
    pub fn new(
        index_name: &'static str,
        enums: &'r [EnumType],
        conventions: &'r Conventions,
        sources: &'r Sources,
        schema: Schema,
    ) -> Self {
        let declared = schema.entities.iter().map(|entity| entity.id.clone()).collect();
        let tables = Tables::of(schema);
        let diagnostics = Vec::new();
        Replay { index_name, enums, conventions, sources, declared, tables, diagnostics }
    }

    /// Takes a step, or says why it cannot be taken; whether it was.
    pub fn step(&mut self, step: &Step) -> bool {
        let taken = self.operations(step).and_then(|operations| {
            operations
                .iter()
                .try_for_each(|operation| self.tables.apply(operation).map_err(|error| error.why()))
        });
        match taken {
            Ok(()) => true,
            Err(_) if step.if_possible => false,
            Err(why) => {
                self.diagnostics.push(impossible(&why, step.span, "this step"));
                false
            }
        }
    }

    /// The tables after the last step, and what could not be done.
    pub fn finish(mut self) -> (Schema, Vec<Diagnostic>) {
        self.settle();
        (self.tables.schema, self.diagnostics)
    }

    /// The enumerations that a column may be of now.
    fn enums(&self) -> Cow<'r, [EnumType]> {
        match self.tables.schema.enums.as_slice() {
            [] => Cow::Borrowed(self.enums),
            made => Cow::Owned([self.enums, made].concat()),
        }
    }

    /// What a step does to the tables as they are; why it cannot be taken where it cannot.
    fn operations(&mut self, step: &Step) -> Result<Vec<Operation>, String> {
        Ok(match &step.said {
            Said::CreateTable(model) => self.create(model),
            Said::DropTable { table } => vec![Operation::DropTable { table: table.clone() }],
            Said::RenameTable { table, to } => {
                vec![Operation::RenameTable { table: table.clone(), to: to.clone() }]
            }
            Said::Add { table, parts } => self.add(table, parts)?,
            Said::AlterColumn { table, column, change } => {
                let field = self.changed(table, column, change)?;
                vec![Operation::AlterColumn {
                    table: table.clone(),
                    column: column.clone(),
                    field: Box::new(field),
                }]
            }
            Said::ReplaceColumn { table, column, parts } => self.replaced(table, column, parts)?,
            Said::RenameColumn { table, column, to } => {
                vec![Operation::RenameColumn {
                    table: table.clone(),
                    column: column.clone(),
                    to: to.clone(),
                }]
            }
            Said::DropColumn { table, column } => {
                vec![Operation::DropColumn { table: table.clone(), column: column.clone() }]
            }
            Said::SetKey { table, columns, name } => {
                let origin = self.origin(step.span);
                let key = PrimaryKey { columns: columns.clone(), name: name.clone(), origin };
                vec![Operation::SetKey { table: table.clone(), key: Some(key) }]
            }
            Said::DropNamed { table, name } => vec![self.drop_named(table.as_deref(), name)?],
            Said::RenameNamed { table, name, to } => self.rename_named(table, name, to)?,
            Said::CreateEnum(enumeration) => vec![Operation::CreateEnum((**enumeration).clone())],
            Said::AlterEnum { name, to } => {
                let known = self.tables.schema.enums.iter().find(|known| known.name == *name);
                let from = known.ok_or_else(|| format!("there is no type `{name}`"))?;
                vec![Operation::AlterEnum { from: Box::new(from.clone()), to: to.clone() }]
            }
            Said::DropEnum { name } => vec![Operation::DropEnum { name: name.clone() }],
            Said::DropIndexOver { table, columns } => vec![self.drop_index_over(table, columns)?],
            Said::CommentTable { table, text } => {
                vec![Operation::Comment { table: table.clone(), column: None, text: text.clone() }]
            }
        })
    }

    fn create(&mut self, model: &Model) -> Vec<Operation> {
        let mut model = model.clone();
        self.name_targets(&mut model, None);
        let enums = self.enums();
        let resolver =
            Resolver::in_history(model, &enums, self.conventions, self.sources, &self.tables);
        let (entities, found) = resolver.entity(0);
        self.diagnostics.extend(found);
        entities.into_iter().map(|entity| Operation::CreateTable(Box::new(entity))).collect()
    }

    fn add(&mut self, table: &str, parts: &Model) -> Result<Vec<Operation>, String> {
        let before = self.table(table)?.clone();
        let mut parts = parts.clone();
        self.name_targets(&mut parts, Some(&before));
        if let Some(column) = parts
            .attributes
            .iter()
            .filter_map(column_of)
            .find(|column| before.field(column).is_some())
        {
            return Err(format!("`{table}` has a column `{column}` already"));
        }
        let after = self.grown(before.clone(), parts);
        Ok(additions(table, &before, after))
    }

    /// A table with what is said besides.
    fn grown(&mut self, table: Entity, parts: Model) -> Entity {
        let parts = Model {
            name: table.name.clone(),
            key: parts.key.or_else(|| Some(Vec::new())),
            ..parts
        };
        let has_key = parts
            .attributes
            .iter()
            .any(|attribute| matches!(attribute, Attribute::Field(field) if field.key));
        let parts = Model { key: parts.key.filter(|_| !has_key), ..parts };
        let enums = self.enums();
        let resolver =
            Resolver::in_history(parts, &enums, self.conventions, self.sources, &self.tables);
        let (table, found) = resolver.grown(table);
        self.diagnostics.extend(found);
        table
    }

    /// References that name a table alone lead to its key.
    fn name_targets(&self, model: &mut Model, own: Option<&Entity>) {
        let name = |reference: &mut ReferenceDeclaration| {
            if reference.references.is_empty() {
                let target = self
                    .tables
                    .get(&address(reference.namespace.as_deref(), &reference.table))
                    .or(own);
                reference.references =
                    target.map_or_else(Vec::new, |target| target.key_columns().to_vec());
            }
        };
        for attribute in &mut model.attributes {
            if let Attribute::Field(field) = attribute {
                field.reference.as_deref_mut().into_iter().for_each(name);
            }
        }
        model.references.iter_mut().for_each(name);
    }

    fn changed(
        &mut self,
        table: &str,
        column: &str,
        change: &ColumnChange,
    ) -> Result<Field, String> {
        let mut field = self.column(table, column)?;
        if let Some(spelling) = &change.spelling {
            let declared = FieldDeclaration {
                column: Some(column.to_owned()),
                spelling: spelling.clone(),
                ..FieldDeclaration::default()
            };
            let typed = self.alone(table, declared)?;
            (field.r#type, field.stored, field.format) = (typed.r#type, typed.stored, typed.format);
        }
        if let Some(nullable) = change.nullable {
            // No class says more of such a column than that.
            (field.nullable, field.optional_in_code) =
                (nullable, field.optional_in_code.map(|_| nullable));
        }
        if let Some(default) = &change.database_default {
            field.defaults.database = default.clone().map(Box::new);
        }
        if let Some(comment) = &change.comment {
            field.comment.clone_from(comment);
        }
        Ok(field)
    }

    fn replaced(
        &mut self,
        table: &str,
        column: &str,
        parts: &Model,
    ) -> Result<Vec<Operation>, String> {
        let before = self.column(table, column)?;
        let mut rest = self.table(table)?.clone();
        rest.fields.retain(|field| field.column != column);
        let in_key = rest.key_columns().iter().any(|own| own == column);
        let place = rest.fields.len();
        let mut parts = parts.clone();
        self.name_targets(&mut parts, Some(&rest));
        let mut after = self.grown(rest.clone(), parts);
        let missing = || format!("nothing is said of `{column}`");
        let mut field = after
            .fields
            .get(place)
            .is_some()
            .then(|| after.fields.remove(place))
            .ok_or_else(missing)?;
        if in_key {
            (after.primary_key, field.nullable) = (rest.primary_key.clone(), false);
            field.identity = field.identity.or(before.identity);
        }
        let table = rest.address();
        let mut operations = vec![Operation::AlterColumn {
            table,
            column: column.to_owned(),
            field: Box::new(field),
        }];
        // What is there is not made again.
        let (uniques, keys) = (
            after.uniques.split_off(rest.uniques.len()),
            after.foreign_keys.split_off(rest.foreign_keys.len()),
        );
        let is_known =
            |columns: &[String]| rest.uniques.iter().any(|unique| unique.columns == columns);
        after.uniques.extend(uniques.into_iter().filter(|unique| !is_known(&unique.columns)));
        let refers = |key: &ForeignKey| {
            rest.foreign_keys
                .iter()
                .any(|known| known.columns == key.columns && known.references == key.references)
        };
        after.foreign_keys.extend(keys.into_iter().filter(|key| !refers(key)));
        operations.extend(additions(&rest.address(), &rest, after));
        Ok(operations)
    }

    /// A column as it would be in a table, were it alone there.
    fn alone(&mut self, table: &str, declared: FieldDeclaration) -> Result<Field, String> {
        let mut bare = self.table(table)?.clone();
        (bare.fields, bare.primary_key) = (Vec::new(), None);
        let parts =
            Model { attributes: vec![Attribute::Field(Box::new(declared))], ..Model::default() };
        self.grown(bare, parts).fields.pop().ok_or_else(|| format!("`{table}` has no such column"))
    }

    fn drop_named(&self, table: Option<&str>, name: &str) -> Result<Operation, String> {
        let Some(table) = table else {
            let found =
                self.tables.schema.entities.iter().find_map(|entity| self.named(entity, name));
            return found.ok_or_else(|| format!("no table has an index or a constraint `{name}`"));
        };
        self.named(self.table(table)?, name)
            .ok_or_else(|| format!("`{table}` has no index and no constraint `{name}`"))
    }

    /// The step that drops what is called so in a table: what nobody named by the names that the
    /// server and the framework give.
    fn named(&self, entity: &Entity, name: &str) -> Option<Operation> {
        let is_it = |given: &Option<String>, columns: &[String], patterns: &[&str]| match given {
            Some(given) => given == name,
            None => patterns.iter().any(|pattern| called(pattern, entity, columns) == name),
        };
        let table = entity.address();
        let index = entity
            .indexes
            .iter()
            .find(|index| is_it(&index.name, &index.columns, &[INDEX, self.index_name]));
        if let Some(index) = index {
            return Some(Operation::DropIndex { table, index: index.clone() });
        }
        if let Some(unique) = entity
            .uniques
            .iter()
            .find(|unique| is_it(&unique.name, &unique.columns, &[UNIQUE, self.index_name]))
        {
            return Some(Operation::DropUnique { table, unique: unique.clone() });
        }
        if let Some(key) =
            entity.foreign_keys.iter().find(|key| is_it(&key.name, &key.columns, &[REFERENCE]))
        {
            return Some(Operation::DropForeignKey { table, key: key.clone() });
        }
        let columns = |expression: &crate::schema::Expression| {
            expression.columns().into_iter().map(str::to_owned).collect::<Vec<_>>()
        };
        if let Some(check) = entity
            .checks
            .iter()
            .find(|check| is_it(&check.name, &columns(&check.expression), &[CHECK]))
        {
            return Some(Operation::DropCheck { table, check: check.clone() });
        }
        let exclusion = entity.exclusions.iter().find(|check| check.name.as_deref() == Some(name));
        if let Some(check) = exclusion {
            return Some(Operation::DropExclusion { table, check: check.clone() });
        }
        let key = entity.primary_key.as_ref().filter(|key| is_it(&key.name, &[], &[KEY]));
        key.map(|_| Operation::SetKey { table, key: None })
    }

    fn rename_named(&self, table: &str, name: &str, to: &str) -> Result<Vec<Operation>, String> {
        let drop = self.drop_named(Some(table), name)?;
        let to = Some(to.to_owned());
        let add = match drop.clone() {
            Operation::DropIndex { table, mut index } => {
                index.name = to;
                Operation::AddIndex { table, index }
            }
            Operation::DropUnique { table, mut unique } => {
                unique.name = to;
                Operation::AddUnique { table, unique }
            }
            Operation::DropForeignKey { table, mut key } => {
                key.name = to;
                Operation::AddForeignKey { table, key }
            }
            Operation::DropCheck { table, mut check } => {
                check.name = to;
                Operation::AddCheck { table, check }
            }
            Operation::DropExclusion { table, mut check } => {
                check.name = to;
                Operation::AddExclusion { table, check }
            }
            _ => return Err(format!("`{name}` of `{table}` cannot be renamed")),
        };
        Ok(vec![drop, add])
    }

    fn drop_index_over(&self, table: &str, columns: &[String]) -> Result<Operation, String> {
        let entity = self.table(table)?;
        let index = entity.indexes.iter().find(|index| index.columns == columns);
        let missing = || format!("`{table}` has no index over {}", columns.join(", "));
        index
            .map(|index| Operation::DropIndex { table: entity.address(), index: index.clone() })
            .ok_or_else(missing)
    }

    fn table(&self, table: &str) -> Result<&Entity, String> {
        self.tables.get(table).ok_or_else(|| format!("there is no table `{table}`"))
    }

    fn column(&self, table: &str, column: &str) -> Result<Field, String> {
        self.table(table)?
            .field(column)
            .cloned()
            .ok_or_else(|| format!("table `{table}` has no column `{column}`"))
    }

    fn origin(&self, span: Span) -> Origin {
        Origin::declared(self.sources.file(span.file), span)
    }

    /// What holds after the last step: indexes that the server makes by itself, names, and
    /// relations over references.
    fn settle(&mut self) {
        let indexes = self.conventions.server_indexes_references();
        for entity in self
            .tables
            .schema
            .entities
            .iter_mut()
            .filter(|entity| !self.declared.contains(&entity.id))
        {
            if indexes {
                index_references(entity);
            }
            entity.name = name_of_table(&entity.table);
            entity.id = if entity.module.is_empty() {
                entity.name.clone()
            } else {
                format!("{}.{}", entity.module, entity.name)
            };
        }
        let targets: Vec<(String, String)> = self
            .tables
            .schema
            .entities
            .iter()
            .map(|entity| (entity.address(), entity.id.clone()))
            .collect();
        for entity in self
            .tables
            .schema
            .entities
            .iter_mut()
            .filter(|entity| !self.declared.contains(&entity.id))
        {
            unnamed_relations(entity, &targets);
        }
        let used = super::used_enums(self.enums().into_owned(), &self.tables.schema);
        let known = &mut self.tables.schema.enums;
        known.extend(
            used.into_iter()
                .filter(|used| !known.iter().any(|one| one.name == used.name))
                .collect::<Vec<_>>(),
        );
    }
}

/// What PostgreSQL calls what nobody named.
const INDEX: &str = "{table}_{columns}_idx";
const UNIQUE: &str = "{table}_{columns}_key";
const REFERENCE: &str = "{table}_{columns}_fkey";
const CHECK: &str = "{table}_{columns}_check";
const KEY: &str = "{table}_pkey";

fn called(pattern: &str, entity: &Entity, columns: &[String]) -> String {
    pattern.replace("{table}", &entity.table).replace("{columns}", &columns.join("_"))
}

/// The column that an attribute declares.
fn column_of(attribute: &Attribute) -> Option<&String> {
    match attribute {
        Attribute::Field(field) => field.column.as_ref().or(field.name.as_ref()),
        _ => None,
    }
}

/// Foreign keys stand for relations without a name.
pub(super) fn unnamed_relations(entity: &mut Entity, targets: &[(String, String)]) {
    for at in 0..entity.foreign_keys.len() {
        let key = &entity.foreign_keys[at];
        let known = entity.relations.iter().any(|relation| relation.columns == key.columns);
        let address = key.references.address();
        let target = targets.iter().find(|(table, _)| *table == address);
        let Some((_, target)) = target.filter(|_| !known && key.enforced == EnforcedBy::Database)
        else {
            continue;
        };
        let columns = key.columns.clone();
        let kind = if entity.is_unique(&columns) {
            RelationKind::OneToOne
        } else {
            RelationKind::ManyToOne
        };
        let mut relation = Relation::over(
            kind,
            target,
            columns,
            Origin::implied("a foreign key that no relation uses"),
        );
        relation.implied.add(Part::Relation);
        entity.relations.push(relation);
    }
}
