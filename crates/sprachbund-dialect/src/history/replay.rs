//! Operations to the stored part of a schema.

use std::collections::HashMap;

use super::{Operation, dropping};
use crate::codes;
use crate::diagnostic::Diagnostic;
use crate::schema::{
    Entity, EnumType, Expression, Field, ForeignKey, PrimaryKey, Schema, Source, Type, enum_name,
};
use crate::server::index_reference;
use crate::source::Span;

/// A step that cannot be taken where it stands.
#[derive(Debug, thiserror::Error, PartialEq, Eq)]
pub enum Impossible {
    #[error("step {step}: there is no table `{table}`")]
    NoTable { step: usize, table: String },
    #[error("step {step}: table `{table}` has no {what}")]
    Missing { step: usize, table: String, what: String },
    #[error("step {step}: there is no type `{name}`")]
    NoEnum { step: usize, name: String },
    #[error("step {step}: table `{table}` is there already")]
    Exists { step: usize, table: String },
}

impl Impossible {
    /// Why, without the number of the step.
    pub fn why(&self) -> String {
        let text = self.to_string();
        text.split_once(": ").map_or(text.clone(), |(_, why)| why.to_owned())
    }
}

/// A step that cannot be taken where it stands; `what` says what stands there.
pub fn impossible(why: &str, at: Span, what: &'static str) -> Diagnostic {
    Diagnostic::of(&codes::IMPOSSIBLE_STEP, format!("this cannot be done where it stands: {why}"))
        .at(Some(at), what)
        .with_help("give all steps of the history, in the order in which they are run")
}

/// Takes the steps one after the other, from an empty database.
pub fn replay(operations: &[Operation], source: Source) -> Result<Schema, Impossible> {
    let mut tables = Tables::of(Schema::new(source));
    for operation in operations {
        tables.apply(operation)?;
    }
    Ok(tables.schema)
}

/// The tables as they are after the steps taken so far.
pub struct Tables {
    pub schema: Schema,
    /// Place of each table.
    places: HashMap<String, usize>,
    /// Steps taken.
    step: usize,
}

impl Tables {
    /// Tables from which steps go on.
    pub fn of(schema: Schema) -> Self {
        let mut tables = Tables { schema, places: HashMap::new(), step: 0 };
        tables.index();
        tables
    }

    fn index(&mut self) {
        self.places = self
            .schema
            .entities
            .iter()
            .enumerate()
            .map(|(at, entity)| (entity.address(), at))
            .collect();
    }

    /// Moves a table into another named schema of the database, with what refers to it; its new
    /// address.
    pub fn move_to(&mut self, table: &str, namespace: Option<String>) -> Option<String> {
        let entity = self.get_mut(table)?;
        let before = std::mem::replace(&mut entity.namespace, namespace.clone());
        let (name, address) = (entity.table.clone(), entity.address());
        let keys = self.schema.entities.iter_mut().flat_map(|entity| &mut entity.foreign_keys);
        for key in keys {
            if key.references.table == name && key.references.namespace == before {
                key.references.namespace = namespace.clone();
            }
        }
        self.index();
        Some(address)
    }

    /// The table of this address; one without a named schema is looked for in all of them.
    pub fn get(&self, table: &str) -> Option<&Entity> {
        self.place(table).map(|at| &self.schema.entities[at])
    }

    /// The same, to be changed in what is no step of its own.
    pub fn get_mut(&mut self, table: &str) -> Option<&mut Entity> {
        self.place(table).map(|at| &mut self.schema.entities[at])
    }

    fn place(&self, table: &str) -> Option<usize> {
        self.places.get(table).copied().or_else(|| {
            let mut named =
                self.schema.entities.iter().enumerate().filter(|(_, entity)| entity.table == table);
            let only = named.next()?;
            named.next().is_none().then_some(only.0)
        })
    }

    /// Takes one step.
    ///
    /// # Errors
    /// When what the step changes is not there.
    pub fn apply(&mut self, operation: &Operation) -> Result<(), Impossible> {
        self.step += 1;
        let step = self.step;
        match operation {
            Operation::CreateEnum(enumeration) => self.schema.enums.push(enumeration.clone()),
            Operation::DropEnum { name } => {
                self.schema.enums.retain(|enumeration| enumeration.name != *name)
            }
            Operation::AlterEnum { from, to } => self.alter_enum(step, &from.name, to)?,
            Operation::CreateTable(entity) => self.create_table(step, entity)?,
            Operation::DropTable { table } => {
                let at = self.find_place(step, table)?;
                self.schema.entities.remove(at);
                self.index();
            }
            Operation::RenameTable { table, to } => self.rename_table(step, table, to)?,
            Operation::AddColumn { table, field } => {
                self.find(step, table)?.fields.push((**field).clone())
            }
            Operation::AlterColumn { table, column, field } => {
                *self.find_column(step, table, column)? = (**field).clone()
            }
            Operation::RenameColumn { table, column, to } => {
                self.rename_column(step, table, column, to)?
            }
            Operation::DropColumn { table, column } => {
                self.find_column(step, table, column)?;
                let server = self.schema.source.database;
                dropping::column(self.find(step, table)?, column, server);
            }
            Operation::AddUnique { table, unique } => {
                self.find(step, table)?.uniques.push(unique.clone())
            }
            Operation::DropUnique { table, unique } => {
                remove(
                    &mut self.find(step, table)?.uniques,
                    step,
                    table,
                    "such unique constraint",
                    unique,
                )?;
            }
            Operation::AddIndex { table, index } => {
                self.find(step, table)?.indexes.push(index.clone())
            }
            Operation::DropIndex { table, index } => {
                remove(&mut self.find(step, table)?.indexes, step, table, "such index", index)?;
            }
            Operation::AddForeignKey { table, key } => {
                self.find(step, table)?.foreign_keys.push(key.clone())
            }
            Operation::DropForeignKey { table, key } => self.drop_foreign_key(step, table, key)?,
            Operation::AddCheck { table, check } => {
                self.find(step, table)?.checks.push(check.clone())
            }
            Operation::AddExclusion { table, check } => {
                self.find(step, table)?.exclusions.push(check.clone())
            }
            Operation::DropCheck { table, check } => {
                remove(&mut self.find(step, table)?.checks, step, table, "such check", check)?;
            }
            Operation::DropExclusion { table, check } => {
                let exclusions = &mut self.find(step, table)?.exclusions;
                remove(exclusions, step, table, "such exclusion constraint", check)?;
            }
            Operation::SetKey { table, key } => self.set_key(step, table, key.as_ref())?,
            Operation::Comment { table, column: None, text } => {
                self.find(step, table)?.comment.clone_from(text)
            }
            Operation::Comment { table, column: Some(column), text } => {
                self.find_column(step, table, column)?.comment.clone_from(text);
            }
        }
        Ok(())
    }

    fn create_table(&mut self, step: usize, entity: &Entity) -> Result<(), Impossible> {
        let table = entity.address();
        if self.places.contains_key(&table) {
            return Err(Impossible::Exists { step, table });
        }
        self.places.insert(table, self.schema.entities.len());
        self.schema.entities.push(entity.clone());
        Ok(())
    }

    /// Columns of the type follow its name.
    fn alter_enum(&mut self, step: usize, name: &str, to: &EnumType) -> Result<(), Impossible> {
        let known = self.schema.enums.iter_mut().find(|known| known.name == name);
        let missing = || Impossible::NoEnum { step, name: name.to_owned() };
        known.ok_or_else(missing)?.clone_from(to);
        if to.name == name {
            return Ok(());
        }
        for field in self.schema.entities.iter_mut().flat_map(|entity| &mut entity.fields) {
            if enum_name(&field.r#type) == Some(name) {
                let renamed = Type::Enum(to.name.clone());
                field.r#type = match &field.r#type {
                    Type::Array(_) => Type::Array(Box::new(renamed)),
                    _ => renamed,
                };
                field.stored = field.stored.replace(name, &to.name).into();
            }
        }
        Ok(())
    }

    fn rename_table(&mut self, step: usize, table: &str, to: &str) -> Result<(), Impossible> {
        let entity = self.find(step, table)?;
        let before = entity.address();
        to.clone_into(&mut entity.table);
        // References follow on every server; what a server keeps as text (checks) does not name
        // tables.
        let keys = self.schema.entities.iter_mut().flat_map(|entity| &mut entity.foreign_keys);
        keys.filter(|key| key.references.address() == before)
            .for_each(|key| to.clone_into(&mut key.references.table));
        self.index();
        Ok(())
    }

    fn drop_foreign_key(
        &mut self,
        step: usize,
        table: &str,
        key: &ForeignKey,
    ) -> Result<(), Impossible> {
        let indexes = self.schema.source.database.server().indexes_references;
        let entity = self.find(step, table)?;
        // MariaDB and MySQL keep the index that they made for the key: it becomes one of its own.
        if indexes && entity.foreign_keys.contains(key) {
            index_reference(entity, &key.columns);
        }
        remove(&mut entity.foreign_keys, step, table, "such foreign key", key)?;
        Ok(())
    }

    /// A column of the key must have a value from then on.
    fn set_key(
        &mut self,
        step: usize,
        table: &str,
        key: Option<&PrimaryKey>,
    ) -> Result<(), Impossible> {
        let entity = self.find(step, table)?;
        let columns = key.map_or(&[][..], |key| &key.columns);
        entity
            .fields
            .iter_mut()
            .filter(|field| columns.contains(&field.column))
            .for_each(|field| field.nullable = false);
        entity.primary_key.clone_from(&key.cloned());
        Ok(())
    }

    fn find(&mut self, step: usize, table: &str) -> Result<&mut Entity, Impossible> {
        let at = self.find_place(step, table)?;
        Ok(&mut self.schema.entities[at])
    }

    fn find_place(&self, step: usize, table: &str) -> Result<usize, Impossible> {
        self.place(table).ok_or_else(|| Impossible::NoTable { step, table: table.to_owned() })
    }

    fn find_column(
        &mut self,
        step: usize,
        table: &str,
        column: &str,
    ) -> Result<&mut Field, Impossible> {
        let missing = Impossible::Missing {
            step,
            table: table.to_owned(),
            what: format!("column `{column}`"),
        };
        self.find(step, table)?
            .fields
            .iter_mut()
            .find(|field| field.column == column)
            .ok_or(missing)
    }

    fn rename_column(
        &mut self,
        step: usize,
        table: &str,
        column: &str,
        to: &str,
    ) -> Result<(), Impossible> {
        self.find_column(step, table, column)?;
        let table = self.find(step, table)?.address();
        self.rename_columns(&HashMap::from([(
            table,
            HashMap::from([(column.to_owned(), to.to_owned())]),
        )]));
        Ok(())
    }

    /// Gives columns other names, by the addresses of their tables; everything that names them
    /// follows.
    pub fn rename_columns(&mut self, renames: &HashMap<String, HashMap<String, String>>) {
        for entity in &mut self.schema.entities {
            for key in &mut entity.foreign_keys {
                if let Some(other) = renames.get(&key.references.address()) {
                    rename(&mut key.references.columns, other);
                }
            }
            let Some(own) = renames.get(&entity.address()) else { continue };
            entity.fields.iter_mut().for_each(|field| rename_one(&mut field.column, own));
            entity.foreign_keys.iter_mut().for_each(|key| rename(&mut key.columns, own));
            entity.primary_key.iter_mut().for_each(|key| rename(&mut key.columns, own));
            entity.relations.iter_mut().for_each(|relation| rename(&mut relation.columns, own));
            entity.uniques.iter_mut().for_each(|unique| rename(&mut unique.columns, own));
            let named = |name: String| own.get(&name).cloned().unwrap_or(name);
            let follow = |expression: &mut Expression| {
                if let Some(tree) = expression.tree.take() {
                    *expression = Expression::sql(tree.map_columns(&named));
                }
            };
            entity.checks.iter_mut().for_each(|check| follow(&mut check.expression));
            for field in &mut entity.fields {
                field.generated.iter_mut().for_each(|generated| follow(&mut generated.expression));
            }
            for index in &mut entity.indexes {
                index.condition.iter_mut().for_each(|condition| follow(condition));
                let parts = index.parts.iter_mut();
                parts.filter_map(|part| part.expression.as_mut()).for_each(|code| follow(code));
            }
            for index in &mut entity.indexes {
                rename(&mut index.columns, own);
                rename(&mut index.include, own);
                index
                    .parts
                    .iter_mut()
                    .filter_map(|part| part.column.as_mut())
                    .for_each(|column| rename_one(column, own));
            }
        }
    }
}

fn rename(columns: &mut [String], names: &HashMap<String, String>) {
    columns.iter_mut().for_each(|column| rename_one(column, names));
}

fn rename_one(column: &mut String, names: &HashMap<String, String>) {
    if let Some(name) = names.get(column) {
        column.clone_from(name);
    }
}

fn remove<T: PartialEq>(
    list: &mut Vec<T>,
    step: usize,
    table: &str,
    what: &str,
    wanted: &T,
) -> Result<(), Impossible> {
    let at = list.iter().position(|known| known == wanted).ok_or_else(|| Impossible::Missing {
        step,
        table: table.to_owned(),
        what: what.to_owned(),
    })?;
    list.remove(at);
    Ok(())
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::schema::{Database, json};

    fn two_tables() -> Schema {
        json::read(
            r#"{"sprachbund":1,"source":{"dialect":"django","version":"5.2"},"entities":[
            {"id":"h.Quay","name":"Quay","module":"h","table":"quays","mapped":{"table":true,
                "code":false},
             "fields":[{"name":null,"column":"id","type":"integer","nullable":false}],
                 "primary_key":{"columns":["id"]}},
            {"id":"h.Berth","name":"Berth","module":"h","table":"berths","mapped":{"table":true,
                "code":false},
             "fields":[{"name":null,"column":"quay_id","type":"integer","nullable":false}],
             "foreign_keys":[{"columns":["quay_id"],"references":{"table":"quays",
                 "columns":["id"]}}]}]}"#,
        )
        .expect("a valid schema")
    }

    #[test]
    fn renaming_carries_references_along() {
        let mut steps = super::super::operations(&two_tables());
        steps.push(Operation::RenameTable { table: "quays".into(), to: "piers".into() });
        steps.push(Operation::RenameColumn {
            table: "piers".into(),
            column: "id".into(),
            to: "number".into(),
        });
        let schema = replay(&steps, Source::default()).expect("possible steps");
        let key = &schema.entities[1].foreign_keys[0];
        assert_eq!(
            (key.references.table.as_str(), &key.references.columns[..]),
            ("piers", &["number".to_owned()][..])
        );
        assert!(
            super::super::sql::script(&schema, Database::Sqlite)
                .contains("REFERENCES \"piers\" (\"number\")")
        );
    }

    #[test]
    fn impossible_steps_say_which_and_why() {
        let gone = Operation::DropColumn { table: "quays".into(), column: "depth".into() };
        let mut steps = super::super::operations(&two_tables());
        let first = steps[0].clone();
        steps.push(gone);
        assert_eq!(
            replay(&steps, Source::default()).map_err(|error| error.to_string()),
            Err("step 4: table `quays` has no column `depth`".into())
        );
        assert_eq!(
            replay(&[first.clone(), first], Source::default()).map_err(|error| error.to_string()),
            Err("step 2: table `quays` is there already".into())
        );
    }
}
