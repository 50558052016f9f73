//! The migration that makes all tables, in an order that runs.

use std::collections::BTreeSet;

use super::column::{self, Column, Target};
use crate::bracket::Bracket;
use crate::dialect::release::at_least;
use crate::dialect::source_text::SourceText;
use crate::dialect::{Conventions, PrintedFile};
use crate::inflection::Inflections;
use crate::names;
use crate::quoting::ruby;
use crate::schema::{
    Action, Check, Database, Deferrable, Entity, Field, ForeignKey, Index, NamedBy, Schema, Type,
    Unique, UniqueAs, enum_name,
};

/// Its number: the day from which on these tables are there.
const NUMBER: &str = "20260101000000";

/// Prints the migration.
pub(super) fn print(schema: &Schema, conventions: &Conventions) -> PrintedFile {
    let printer = Printer { schema, conventions, database: conventions.database };
    PrintedFile { path: format!("db/migrate/{NUMBER}_create_tables.rb"), text: printer.file() }
}

struct Printer<'s> {
    schema: &'s Schema,
    conventions: &'s Conventions,
    database: Database,
}

/// Tables after those that they refer to, otherwise in their order; those of a circle as they come.
fn in_order(schema: &Schema) -> Vec<&Entity> {
    let mut waiting: Vec<&Entity> = schema.entities.iter().collect();
    let mut sorted = Vec::with_capacity(waiting.len());
    while !waiting.is_empty() {
        let names: BTreeSet<String> = waiting.iter().map(|entity| entity.address()).collect();
        let waits = |entity: &Entity| {
            let own = entity.address();
            let others = entity.foreign_keys.iter().map(|key| key.references.address());
            others.into_iter().any(|table| table != own && names.contains(&table))
        };
        let at = waiting.iter().position(|entity| !waits(entity)).unwrap_or(0);
        sorted.push(waiting.remove(at));
    }
    sorted
}

impl<'s> Printer<'s> {
    fn file(&self) -> String {
        let mut out = SourceText::new(2);
        let release = &self.conventions.version;
        out.line(0, &format!("class CreateTables < ActiveRecord::Migration[{release}]"));
        out.line(2, "def change");
        let mut namespaces: Vec<&String> =
            self.schema.entities.iter().filter_map(|entity| entity.namespace.as_ref()).collect();
        namespaces.sort();
        namespaces.dedup();
        for name in namespaces {
            out.line(4, &format!("create_schema {}", ruby::text(name)));
        }
        self.enumerations(&mut out);
        let mut made = BTreeSet::new();
        let mut later = Vec::new();
        for entity in in_order(self.schema) {
            made.insert(entity.address());
            if made.len() > 1 {
                out.gap();
            }
            self.table(entity, &made, &mut later, &mut out);
        }
        if !later.is_empty() {
            out.gap();
        }
        later.iter().for_each(|line| out.line(4, line));
        out.line(2, "end");
        out.line(0, "end");
        out.finish()
    }

    fn target(&self) -> Target {
        let bracket = Bracket::of(&self.conventions.version).unwrap_or(Bracket::NEWEST);
        Target { database: self.database, bracket }
    }

    fn enumerations(&self, out: &mut SourceText) {
        if self.database != Database::PostgreSql {
            return;
        }
        let types = self.schema.entities.iter().flat_map(|entity| &entity.fields);
        let used: BTreeSet<&str> = types.filter_map(|field| enum_name(&field.r#type)).collect();
        for known in self.schema.enums.iter().filter(|known| used.contains(known.name.as_str())) {
            let values: Vec<String> =
                known.members.iter().map(|member| ruby::literal(&member.value)).collect();
            let name = known.stored_name.as_ref().unwrap_or(&known.name);
            let head = format!("create_enum {}, [", ruby::symbol(name));
            out.list(4, &head, &values, "]");
        }
    }

    fn table(
        &self,
        entity: &Entity,
        made: &BTreeSet<String>,
        later: &mut Vec<String>,
        out: &mut SourceText,
    ) {
        let mut head = vec![ruby::symbol(&entity.address())];
        let key = self.key(entity, &mut head);
        let comment = entity.comment.as_ref().filter(|_| self.database != Database::Sqlite);
        head.extend(comment.map(|text| format!("comment: {}", ruby::text(text))));
        out.line(4, &format!("create_table {} do |t|", head.join(", ")));
        let mut keys: Vec<&ForeignKey> = entity.foreign_keys.iter().collect();
        let mut indexes: Vec<&Index> = entity.indexes.iter().collect();
        for field in entity.fields.iter().filter(|field| key != Some(&field.column)) {
            let reference = self.reference(entity, field, made, (&mut keys, &mut indexes));
            let line = reference.unwrap_or_else(|| {
                column::column(field, self.schema, self.target()).line(&field.column)
            });
            out.line(6, &line);
        }
        let constraints = self.constraints(entity, &indexes);
        if !constraints.is_empty() {
            out.gap();
        }
        constraints.iter().for_each(|line| out.line(6, line));
        let (now, then): (Vec<_>, Vec<_>) = keys
            .into_iter()
            .partition(|key| made.contains(&key.references.address()) && self.inside(key));
        for key in now {
            out.line(6, &format!("t.foreign_key {}", self.foreign_key(entity, key).join(", ")));
        }
        for key in then {
            let mut parts = vec![ruby::symbol(&entity.address())];
            parts.extend(self.foreign_key(entity, key));
            later.push(format!("add_foreign_key {}", parts.join(", ")));
        }
        out.line(4, "end");
    }

    /// What the call that makes a table says of its key; the column that it makes by itself.
    fn key<'e>(&self, entity: &'e Entity, head: &mut Vec<String>) -> Option<&'e String> {
        let columns = entity.key_columns();
        let [column] = columns else {
            head.push(match columns {
                [] => "id: false".to_owned(),
                several => format!("primary_key: {}", ruby::symbols(several)),
            });
            return None;
        };
        let field = entity.field(column)?;
        let first = entity.fields.first().is_some_and(|first| first.column == *column);
        let by_itself = match (&field.r#type, field.identity) {
            (Type::BigInt | Type::Integer, Some(identity)) => {
                identity == self.conventions.keys.generated && first
            }
            _ => false,
        };
        if !by_itself || field.generated.is_some() {
            head.push(format!("primary_key: [{}]", ruby::symbol(column)));
            return None;
        }
        let large = field.r#type == Type::BigInt || self.database == Database::Sqlite;
        let comment = field.comment.as_ref().filter(|_| self.database != Database::Sqlite);
        let comment = comment.map(|text| format!("comment: {}", ruby::text(text)));
        head.extend(match (large, comment) {
            (true, None) => None,
            (false, None) => Some("id: :integer".to_owned()),
            (large, Some(comment)) => {
                let of = if large { "bigint" } else { "integer" };
                Some(format!("id: {{ type: :{of}, {comment} }}"))
            }
        });
        if column != "id" {
            head.push(format!("primary_key: {}", ruby::symbol(column)));
        }
        Some(column)
    }

    /// A column that refers to another table, in one call with its index and its foreign key.
    fn reference(
        &self,
        entity: &Entity,
        field: &Field,
        made: &BTreeSet<String>,
        (keys, indexes): (&mut Vec<&ForeignKey>, &mut Vec<&Index>),
    ) -> Option<String> {
        let name = field.column.strip_suffix("_id").filter(|name| !name.is_empty())?;
        let own = std::slice::from_ref(&field.column);
        let at = keys.iter().position(|key| {
            key.columns == own
                && self.inside(key)
                && made.contains(&key.references.address())
                && key.references.columns == ["id"]
        })?;
        let Column { method, beside: None, mut options } =
            column::typed(field, self.schema, self.target())
        else {
            return None;
        };
        if field.generated.is_some() {
            return None;
        }
        let usual = if self.database == Database::Sqlite { "integer" } else { "bigint" };
        if method != usual {
            options.insert(0, format!("type: {}", ruby::symbol(&method)));
        }
        options.extend(column::said(field, self.schema, self.database));
        let over = indexes.iter().position(|index| {
            index.plain_columns() == own
                && index.is_over_columns_alone()
                && !index.nulls_not_distinct
                && {
                    let name = self.index_name(entity, &[&field.column]);
                    said_name(index.named_by, &index.name).is_none_or(|said| *said == name)
                }
        });
        match over {
            Some(at) if indexes[at].unique => {
                indexes.remove(at);
                options.push("index: { unique: true }".into());
            }
            Some(at) => {
                indexes.remove(at);
            }
            None => options.push("index: false".into()),
        }
        let key = keys.remove(at);
        let mut of_key = Vec::new();
        let table = key.references.address();
        if Inflections::default().plural(name) != table {
            of_key.push(format!("to_table: {}", ruby::symbol(&table)));
        }
        of_key.extend(self.of_key(entity, key));
        options.push(match of_key.as_slice() {
            [] => "foreign_key: true".into(),
            said => format!("foreign_key: {{ {} }}", said.join(", ")),
        });
        let mut parts = vec![ruby::symbol(name)];
        parts.extend(options);
        Some(format!("t.references {}", parts.join(", ")))
    }

    /// The name that an index over columns gets where none is given.
    fn index_name(&self, entity: &Entity, columns: &[&str]) -> String {
        names::of_index(&entity.table, columns, self.database)
    }

    /// Whether all of a key can be said inside its table: 7.0.10 does not say there when it is
    /// checked.
    fn inside(&self, key: &ForeignKey) -> bool {
        key.deferrable.is_none() || at_least(&self.conventions.version, (7, 1))
    }

    fn constraints(&self, entity: &Entity, indexes: &[&Index]) -> Vec<String> {
        let mut lines: Vec<String> = Vec::new();
        for unique in &entity.uniques {
            lines.push(self.unique(entity, unique));
        }
        for index in indexes {
            lines.push(self.index(entity, index));
        }
        for check in &entity.checks {
            lines.push(self.check(entity, check));
        }
        for check in &entity.exclusions {
            lines.push(exclusion(entity, check));
        }
        lines
    }

    fn unique(&self, entity: &Entity, unique: &Unique) -> String {
        let columns: Vec<&str> = unique.columns.iter().map(String::as_str).collect();
        let mut parts = vec![columns_of_index(&columns)];
        let is_index = unique.r#as == UniqueAs::Index || self.database != Database::PostgreSql;
        let (method, usual) = match is_index {
            true => ("index", self.index_name(entity, &columns)),
            false => ("unique_constraint", names::unique(&entity.table, &columns)),
        };
        if is_index {
            parts.push("unique: true".into());
        }
        parts.extend(name(said_name(unique.named_by, &unique.name), &usual));
        parts.extend(deferrable(unique.deferrable));
        if unique.nulls_not_distinct {
            parts.push("nulls_not_distinct: true".into());
        }
        format!("t.{method} {}", parts.join(", "))
    }

    fn index(&self, entity: &Entity, index: &Index) -> String {
        let mut columns = Vec::new();
        let (mut orders, mut classes) = (Vec::new(), Vec::new());
        let single = index.parts.len() == 1;
        for part in &index.parts {
            match (&part.column, &part.expression) {
                (Some(column), _) => {
                    columns.push(column.clone());
                    if part.descending {
                        orders.push(ruby::pair(column, ":desc"));
                    }
                    if let Some(class) = &part.operator_class {
                        classes.push(ruby::pair(column, &ruby::symbol(class)));
                    }
                }
                (None, Some(expression)) => {
                    let text = expression.text_for(self.database);
                    let class = part.operator_class.as_ref();
                    let class = class.map_or_else(String::new, |class| format!(" {class}"));
                    let order = if part.descending { " DESC" } else { "" };
                    columns.push(format!("({text}){class}{order}"));
                }
                (None, None) => {}
            }
        }
        let named: Vec<&str> = columns.iter().map(String::as_str).collect();
        let plain = index.parts.iter().all(|part| part.expression.is_none());
        let mut parts = vec![match (plain, single) {
            (true, _) => columns_of_index(&named),
            // More than one expression is given as the text of all keys.
            (false, _) => {
                let quoted =
                    index.parts.iter().zip(&columns).map(|(part, column)| match part.column {
                        Some(_) => {
                            let name = crate::quoting::sql::name(column, self.database);
                            let order = if part.descending { " DESC" } else { "" };
                            format!("{name}{order}")
                        }
                        None => column.clone(),
                    });
                ruby::text(&quoted.collect::<Vec<_>>().join(", "))
            }
        }];
        let usual = if plain { self.index_name(entity, &named) } else { String::new() };
        if index.unique {
            parts.push("unique: true".into());
        }
        parts.extend(name(said_name(index.named_by, &index.name), &usual));
        if plain && !orders.is_empty() {
            parts.push(format!("order: {{ {} }}", orders.join(", ")));
        }
        if plain && !classes.is_empty() {
            parts.push(format!("opclass: {{ {} }}", classes.join(", ")));
        }
        parts.extend(index.method.as_ref().map(|method| match method.as_str() {
            "fulltext" => "type: :fulltext".into(),
            method => format!("using: {}", ruby::symbol(method)),
        }));
        if !index.include.is_empty() {
            parts.push(format!(
                "include: [{}]",
                ruby::symbols(&index.include).trim_matches(['[', ']'])
            ));
        }
        if let Some(condition) = &index.condition {
            parts.push(format!("where: {}", ruby::text(&condition.text_for(self.database))));
        }
        if index.nulls_not_distinct {
            parts.push("nulls_not_distinct: true".into());
        }
        format!("t.index {}", parts.join(", "))
    }

    fn check(&self, entity: &Entity, check: &Check) -> String {
        let text = check.expression.text_for(self.database);
        let mut parts = vec![ruby::text(&text)];
        parts.extend(name(check.name.as_ref(), &names::check(&entity.table, &text)));
        format!("t.check_constraint {}", parts.join(", "))
    }

    /// The table that a key refers to, and what is said of the key.
    fn foreign_key(&self, entity: &Entity, key: &ForeignKey) -> Vec<String> {
        let mut parts = vec![ruby::symbol(&key.references.address())];
        parts.push(format!("column: {}", ruby::symbols(&key.columns)));
        if key.references.columns != ["id"] {
            parts.push(format!("primary_key: {}", ruby::symbols(&key.references.columns)));
        }
        parts.extend(self.of_key(entity, key));
        parts
    }

    fn of_key(&self, entity: &Entity, key: &ForeignKey) -> Vec<String> {
        let columns: Vec<&str> = key.columns.iter().map(String::as_str).collect();
        let mut parts: Vec<String> = Vec::new();
        parts.extend(name(key.name.as_ref(), &names::foreign_key(&entity.table, &columns)));
        for (option, action) in [("on_delete", key.on_delete), ("on_update", key.on_update)] {
            parts.extend(action_word(action).map(|word| format!("{option}: :{word}")));
        }
        parts.extend(deferrable(key.deferrable));
        parts
    }
}

/// The framework's word for an action; none for what happens where nothing is said.
fn action_word(action: Action) -> Option<&'static str> {
    match action {
        Action::Cascade => Some("cascade"),
        Action::SetNull => Some("nullify"),
        Action::Restrict => Some("restrict"),
        _ => None,
    }
}

/// A name that somebody gave.
fn said_name(named_by: NamedBy, name: &Option<String>) -> Option<&String> {
    name.as_ref().filter(|_| named_by == NamedBy::Author)
}

/// The columns of an index. One that is no plain name stands in a list: alone it might be taken for
/// an expression.
fn columns_of_index(columns: &[&str]) -> String {
    match columns {
        [only] if !crate::quoting::is_identifier(only) => format!("[{}]", ruby::symbol(only)),
        columns => ruby::symbols(columns),
    }
}

fn name(name: Option<&String>, usual: &str) -> Option<String> {
    let name = name.filter(|name| *name != usual)?;
    Some(format!("name: {}", ruby::text(name)))
}

fn deferrable(deferrable: Option<Deferrable>) -> Option<String> {
    Some(match deferrable? {
        Deferrable::InitiallyDeferred => "deferrable: :deferred".into(),
        Deferrable::InitiallyImmediate => "deferrable: :immediate".into(),
    })
}

/// An exclusion constraint, all of it as the server says it, but the method that it goes by.
fn exclusion(entity: &Entity, check: &Check) -> String {
    let text = check.expression.text.trim();
    let (using, rest) = match text.strip_prefix("USING ").and_then(|rest| rest.split_once(' ')) {
        Some((method, rest)) => (Some(method), rest),
        None => (None, text),
    };
    let inner = rest.trim().strip_prefix('(').and_then(|rest| rest.strip_suffix(')'));
    let inner = inner.unwrap_or(rest);
    let mut parts = vec![ruby::text(inner)];
    parts.extend(using.map(|method| format!("using: {}", ruby::symbol(method))));
    parts.extend(name(check.name.as_ref(), &names::exclusion(&entity.table, inner)));
    format!("t.exclusion_constraint {}", parts.join(", "))
}
