//! What a rule sees: the schema, what may stand beside it, and what the project set.

use std::sync::Arc;

use foldhash::HashMap;

use super::rule::{Rule, Value};
use super::settings::{LintSettings, Setting};
use crate::dialect::naming::Case;
use crate::dialect::{Capabilities, Conventions, Dialect, Settings};
use crate::schema::{
    Change, Database, Entity, EntityKind, EnumType, Field, ForeignKey, Index, IndexPart,
    References, Schema,
};

/// What a rule sees.
#[derive(Clone)]
pub struct Context<'s> {
    pub schema: &'s Schema,
    /// The entities that it looks at: all, or a part of them.
    part: &'s [Entity],
    pub conventions: &'s Conventions,
    /// The dialect that the declarations are to be carried to.
    pub target: Option<&'s Target>,
    /// The tables that exist, or that the history makes.
    pub beside: Option<&'s Beside>,
    settings: &'s LintSettings,
    named: Arc<Named<'s>>,
}

/// What is looked up by its name.
struct Named<'s> {
    by_id: HashMap<&'s str, &'s Entity>,
    by_table: HashMap<(Option<&'s str>, &'s str), &'s Entity>,
    enumerations: HashMap<&'s str, &'s EnumType>,
    stored: HashMap<&'s str, &'s Entity>,
}

/// A dialect that the declarations are to be carried to.
pub struct Target {
    pub dialect: &'static Dialect,
    pub conventions: Conventions,
}

impl Target {
    /// With what silence means there in a release (the newest that was tried, if none is named), on
    /// the server that suits the schema.
    pub fn new(dialect: &'static Dialect, release: Option<String>, schema: &Schema) -> Self {
        let database = dialect.database(Some(schema.source.database));
        let settings =
            Settings { database: Some(database), version: release, ..Settings::default() };
        Target { dialect, conventions: (dialect.conventions)(&settings) }
    }
}

/// Tables that exist, or that a history makes.
pub struct Beside {
    pub schema: Schema,
    /// What its dialect can say, and what that of the declarations can.
    pub capabilities: Capabilities,
    pub declared: Capabilities,
    /// Place of its first file among the sources.
    pub first_file: usize,
}

impl Beside {
    /// Tables that were read in a dialect, beside declarations of another; their files come after
    /// `files` others.
    pub fn new(
        schema: Schema,
        declared: &Dialect,
        dialect: &Dialect,
        settings: &Settings,
        files: usize,
    ) -> Self {
        Beside {
            schema,
            capabilities: (dialect.capabilities)(settings),
            declared: (declared.capabilities)(settings),
            first_file: files,
        }
    }
}

impl<'s> Context<'s> {
    pub(super) fn new(
        schema: &'s Schema,
        conventions: &'s Conventions,
        target: Option<&'s Target>,
        beside: Option<&'s Beside>,
        settings: &'s LintSettings,
    ) -> Self {
        // The first of several classes over one table stands for it.
        let by_table = schema
            .entities
            .iter()
            .rev()
            .map(|entity| ((entity.namespace.as_deref(), entity.table.as_str()), entity));
        let by_id = schema.entities.iter().map(|entity| (entity.id.as_str(), entity));
        let enumerations = schema
            .enums
            .iter()
            .map(|enumeration| (enumeration.name.as_str(), enumeration))
            .collect();
        let stored = beside
            .into_iter()
            .flat_map(|beside| &beside.schema.entities)
            .map(|entity| (entity.table.as_str(), entity))
            .collect();
        let named = Arc::new(Named {
            by_id: by_id.collect(),
            by_table: by_table.collect(),
            enumerations,
            stored,
        });
        Context { schema, part: &schema.entities, conventions, target, beside, settings, named }
    }

    /// The same, looking at these entities only.
    pub(super) fn of_part(&self, part: &'s [Entity]) -> Self {
        Context { part, ..self.clone() }
    }

    /// The server that the types are meant for.
    pub fn database(&self) -> Database {
        self.schema.source.database
    }

    /// Tables and documents that the project itself declares.
    pub fn entities(&self) -> impl Iterator<Item = &'s Entity> {
        self.part.iter().filter(|entity| {
            !entity.external && entity.mapped.table && entity.kind != EntityKind::View
        })
    }

    /// Those of them that a database keeps as tables, with rules of its own.
    pub fn tables(&self) -> impl Iterator<Item = &'s Entity> {
        self.entities().filter(|entity| entity.kind == EntityKind::Table)
    }

    /// Columns of those tables, each with its entity.
    pub fn columns(&self) -> impl Iterator<Item = (&'s Entity, &'s Field)> {
        self.tables().flat_map(|entity| entity.fields.iter().map(move |field| (entity, field)))
    }

    /// Fields of tables and documents, each with its entity.
    pub fn fields(&self) -> impl Iterator<Item = (&'s Entity, &'s Field)> {
        self.entities().flat_map(|entity| entity.fields.iter().map(move |field| (entity, field)))
    }

    /// The entity with this id.
    pub fn entity(&self, id: &str) -> Option<&'s Entity> {
        self.named.by_id.get(id).copied()
    }

    /// The entity over the table that a foreign key points to.
    pub fn referenced(&self, references: &References) -> Option<&'s Entity> {
        self.named
            .by_table
            .get(&(references.namespace.as_deref(), references.table.as_str()))
            .copied()
    }

    /// The enumeration with this name.
    pub fn enumeration(&self, name: &str) -> Option<&'s EnumType> {
        self.named.enumerations.get(name).copied()
    }

    /// The tables that are declared and stored, each with what is stored.
    pub fn stored(&self) -> impl Iterator<Item = (&'s Entity, &'s Entity)> {
        self.tables()
            .filter_map(|entity| Some((entity, *self.named.stored.get(entity.table.as_str())?)))
    }

    /// A number that the project may set.
    pub fn number(&self, rule: &Rule, name: &str) -> usize {
        match (
            self.settings.parameter(rule.name, name),
            rule.parameter(name).map(|parameter| parameter.value),
        ) {
            (Some(Setting::Number(number)), _) => *number as usize,
            (_, Some(Value::Number(number))) => number as usize,
            _ => 0,
        }
    }

    /// Words that the project may set.
    pub fn words(&self, rule: &Rule, name: &str) -> Vec<&str> {
        match (
            self.settings.parameter(rule.name, name),
            rule.parameter(name).map(|parameter| parameter.value),
        ) {
            (Some(Setting::Words(words)), _) => words.iter().map(String::as_str).collect(),
            (_, Some(Value::Words(words))) => words.to_vec(),
            _ => Vec::new(),
        }
    }
}

/// The cure for a default that only the application knows, in a dialect that can say both.
pub(super) fn default_in_database(
    context: &Context<'_>,
    entity: &Entity,
    field: &Field,
) -> Option<Change> {
    let change =
        || Change::DefaultInDatabase { entity: entity.id.clone(), column: field.column.clone() };
    (context.conventions.limits.both_defaults && field.defaults.application.is_some()).then(change)
}

/// `PortCall.berth`, by attribute where there is one, else by column.
pub(crate) fn place(entity: &Entity, field: &Field) -> String {
    let relation = || {
        entity
            .relations
            .iter()
            .find(|relation| relation.columns.contains(&field.column))?
            .name
            .as_deref()
    };
    format!("{}.{}", entity.name, field.name.as_deref().or_else(relation).unwrap_or(&field.column))
}

/// The words of a column's name, parted by `_`: `totalDue` and `_total__due` are `total_due`.
pub(super) fn words_of(field: &Field) -> String {
    let snake = Case::Snake.apply(field.name.as_deref().unwrap_or(&field.column));
    if snake.starts_with('_') || snake.ends_with('_') || snake.contains("__") {
        return snake.split('_').filter(|word| !word.is_empty()).collect::<Vec<_>>().join("_");
    }
    snake
}

/// Whether a key, a unique constraint or an unconditional index begins with these columns, in any
/// order.
pub(super) fn begins_an_index(entity: &Entity, columns: &[String]) -> bool {
    let begins = |with: &[String]| {
        with.len() >= columns.len()
            && columns.iter().all(|column| with[..columns.len()].contains(column))
    };
    begins(entity.key_columns())
        || entity.uniques.iter().any(|unique| begins(&unique.columns))
        || entity
            .indexes
            .iter()
            .any(|index| index.condition.is_none() && begins(&index.plain_columns()))
}

/// Whether a column is one by which its table refers to another.
pub(super) fn is_reference(entity: &Entity, column: &str) -> bool {
    let holds = |columns: &[String]| columns.iter().any(|known| known == column);
    entity.foreign_keys.iter().any(|key| holds(&key.columns))
        || entity.relations.iter().any(|relation| holds(&relation.columns))
}

/// What a reference is called: after the relation over its columns, else after them.
pub(super) fn reference_name(entity: &Entity, key: &ForeignKey) -> String {
    let relation = entity.relation_over(&key.columns).and_then(|relation| relation.name.clone());
    relation.unwrap_or_else(|| key.columns.join(", "))
}

/// The keys of an index, for reading.
pub(super) fn keys(index: &Index) -> String {
    let part = |part: &IndexPart| {
        let text = part.expression.as_ref().map(|expression| expression.text.clone());
        part.column.clone().or(text).unwrap_or_default()
    };
    index.parts.iter().map(part).collect::<Vec<_>>().join(", ")
}
