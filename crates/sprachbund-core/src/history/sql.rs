//! Operations as SQL for PostgreSQL and SQLite.
//!
//! What a server cannot add to an existing table (on SQLite: a foreign key, a check) is written inside `CREATE TABLE`.

use super::{Operation, operations};
use crate::schema::expression::{literal_sql, quote_name};
use crate::schema::{
    Check, Database, Default_, Deferrable, Entity, EnumType, Expression, Field, ForeignKey, Function, Identity, Index, Schema, Type,
    Unique, UniqueAs,
};

/// The whole script that makes a schema's tables in an empty database.
pub fn script(schema: &Schema, database: Database) -> String {
    let steps = operations(schema);
    let printer = Printer { database, schema };
    let inline = database == Database::Sqlite;
    let mut out = String::new();
    for step in &steps {
        let statement = match step {
            Operation::CreateTable(entity) => {
                let keys: Vec<&ForeignKey> =
                    steps.iter().filter(|_| inline).filter_map(|step| foreign_key_of(step, &entity.table)).collect();
                printer.create_table(entity, &keys)
            }
            Operation::AddForeignKey { .. } if inline => continue,
            other => printer.statement(other),
        };
        out.push_str(&statement);
        out.push('\n');
    }
    out
}

/// One step as a statement.
pub fn statement(operation: &Operation, schema: &Schema, database: Database) -> String {
    Printer { database, schema }.statement(operation)
}

/// A comment on a table or one of its columns; nothing where the server keeps none.
pub fn comment(table: &str, column: Option<&str>, text: &str, database: Database) -> Option<String> {
    let quoted = literal_sql(&serde_json::Value::String(text.to_owned()));
    match (database, column) {
        (Database::Sqlite, _) => None,
        (_, Some(column)) => Some(format!("COMMENT ON COLUMN {}.{} IS {quoted};", quote_name(table), quote_name(column))),
        (_, None) => Some(format!("COMMENT ON TABLE {} IS {quoted};", quote_name(table))),
    }
}

fn foreign_key_of<'o>(step: &'o Operation, wanted: &str) -> Option<&'o ForeignKey> {
    match step {
        Operation::AddForeignKey { table, key } if table == wanted => Some(key),
        _ => None,
    }
}

struct Printer<'s> {
    database: Database,
    schema: &'s Schema,
}

impl Printer<'_> {
    fn statement(&self, operation: &Operation) -> String {
        let alter = |table: &str, change: String| format!("ALTER TABLE {} {change};", quote_name(table));
        match operation {
            Operation::CreateEnum(enumeration) => self.create_enum(enumeration),
            Operation::DropEnum { name } => format!("DROP TYPE {};", quote_name(name)),
            Operation::CreateTable(entity) => self.create_table(entity, &[]),
            Operation::DropTable { table } => format!("DROP TABLE {};", quote_name(table)),
            Operation::RenameTable { table, to } => alter(table, format!("RENAME TO {}", quote_name(to))),
            Operation::AddColumn { table, field } => alter(table, format!("ADD COLUMN {}", self.column(table, field, false))),
            Operation::AlterColumn { table, column, field } => {
                let column = quote_name(column);
                let null = if field.nullable { "DROP NOT NULL" } else { "SET NOT NULL" };
                let default = field
                    .defaults
                    .database
                    .as_ref()
                    .map_or("DROP DEFAULT".to_owned(), |default| format!("SET DEFAULT {}", self.default(default, &field.r#type)));
                let ty = self.type_name(table, field);
                alter(table, format!("ALTER COLUMN {column} TYPE {ty}, ALTER COLUMN {column} {null}, ALTER COLUMN {column} {default}"))
            }
            Operation::RenameColumn { table, column, to } => {
                alter(table, format!("RENAME COLUMN {} TO {}", quote_name(column), quote_name(to)))
            }
            Operation::DropColumn { table, column } => alter(table, format!("DROP COLUMN {}", quote_name(column))),
            Operation::AddUnique { table, unique } => self.add_unique(table, unique),
            Operation::DropUnique { table, columns } => {
                alter(table, format!("DROP CONSTRAINT {}", quote_name(&format!("{table}_{}_key", columns.join("_")))))
            }
            Operation::AddIndex { table, index } => self.create_index(table, index),
            Operation::DropIndex { table, columns } => format!("DROP INDEX {};", quote_name(&format!("{table}_{}_idx", columns.join("_")))),
            Operation::AddForeignKey { table, key } => alter(table, format!("ADD {}", self.foreign_key(key))),
            Operation::DropForeignKey { table, columns } => {
                alter(table, format!("DROP CONSTRAINT {}", quote_name(&format!("{table}_{}_fkey", columns.join("_")))))
            }
            Operation::AddCheck { table, check } => alter(table, format!("ADD {}", self.check(check))),
            Operation::DropCheck { table, text } => format!("-- drop the check of {}: {}", quote_name(table), text.replace('\n', " ")),
        }
    }

    fn create_enum(&self, enumeration: &EnumType) -> String {
        let name = enumeration.stored_name.as_ref().unwrap_or(&enumeration.name);
        let text = |value: &serde_json::Value| match value {
            serde_json::Value::String(_) => literal_sql(value),
            other => format!("'{other}'"),
        };
        let values: Vec<String> = enumeration.members.iter().map(|member| text(&member.value)).collect();
        match self.database {
            Database::Sqlite => format!("-- {} is kept as text: {}", name, values.join(", ").replace('\n', " ")),
            _ => format!("CREATE TYPE {} AS ENUM ({});", quote_name(name), values.join(", ")),
        }
    }

    fn create_table(&self, entity: &Entity, keys: &[&ForeignKey]) -> String {
        let alone = |column: &str| matches!(entity.key_columns(), [only] if only == column);
        let inline_key = |field: &Field| self.database == Database::Sqlite && field.identity.is_some() && alone(&field.column);
        let mut lines: Vec<String> = entity.fields.iter().map(|field| self.column(&entity.table, field, inline_key(field))).collect();
        let key = entity.primary_key.as_ref().filter(|_| !entity.fields.iter().any(inline_key));
        lines.extend(key.map(|key| format!("PRIMARY KEY ({})", names(&key.columns))));
        lines.extend(entity.uniques.iter().filter(|unique| unique.r#as == UniqueAs::Constraint).map(|unique| self.unique(unique)));
        lines.extend(entity.checks.iter().map(|check| self.check(check)));
        lines.extend(keys.iter().map(|key| self.foreign_key(key)));
        let mut out = format!("CREATE TABLE {} (\n    {}\n);", self.table(entity), lines.join(",\n    "));
        for unique in entity.uniques.iter().filter(|unique| unique.r#as == UniqueAs::Index) {
            out.push('\n');
            out.push_str(&self.add_unique(&entity.table, unique));
        }
        let comments =
            entity.fields.iter().filter_map(|field| comment(&entity.table, Some(&field.column), field.comment.as_ref()?, self.database));
        for line in entity.comment.iter().filter_map(|text| comment(&entity.table, None, text, self.database)).chain(comments) {
            out.push('\n');
            out.push_str(&line);
        }
        out
    }

    fn table(&self, entity: &Entity) -> String {
        entity
            .namespace
            .as_ref()
            .map_or_else(|| quote_name(&entity.table), |schema| format!("{}.{}", quote_name(schema), quote_name(&entity.table)))
    }

    fn type_name(&self, table: &str, field: &Field) -> String {
        match (&field.r#type, self.database) {
            (Type::Enum(name), Database::PostgreSql) => self.enum_type(name),
            (_, Database::Sqlite) if !field.stored.is_empty() => field.stored.to_string(),
            _ => {
                let name = crate::resolve::enum_name(&field.r#type).map_or(String::new(), |name| self.enum_type(name));
                let _ = table;
                crate::dialect::type_table::postgresql_name(&field.r#type, &name).into_owned()
            }
        }
    }

    fn enum_type(&self, name: &str) -> String {
        let stored = self.schema.enumeration(name).and_then(|enumeration| enumeration.stored_name.as_deref());
        quote_name(stored.unwrap_or(name))
    }

    fn column(&self, table: &str, field: &Field, inline_key: bool) -> String {
        let mut out = format!("{} {}", quote_name(&field.column), self.type_name(table, field));
        if let (Some(collation), false) = (&field.collation, self.database == Database::Sqlite) {
            out.push_str(&format!(" COLLATE {}", quote_name(collation)));
        }
        if inline_key {
            out.push_str(" NOT NULL PRIMARY KEY AUTOINCREMENT");
            return out;
        }
        if let Some(generated) = &field.generated {
            let kind = if generated.stored { "STORED" } else { "VIRTUAL" };
            out.push_str(&format!(" GENERATED ALWAYS AS ({}) {kind}", self.expression(&generated.expression)));
        }
        match field.identity {
            Some(Identity::Always) => out.push_str(" GENERATED ALWAYS AS IDENTITY"),
            Some(Identity::ByDefault | Identity::Sequence | Identity::AutoIncrement) => out.push_str(" GENERATED BY DEFAULT AS IDENTITY"),
            None => {}
        }
        if let Some(default) = &field.defaults.database {
            out.push_str(&format!(" DEFAULT {}", self.default(default, &field.r#type)));
        }
        if !field.nullable {
            out.push_str(" NOT NULL");
        }
        out
    }

    fn default(&self, default: &Default_, ty: &Type) -> String {
        let sqlite = self.database == Database::Sqlite;
        match default {
            Default_::Literal(serde_json::Value::Array(items)) if matches!(ty, Type::Array(_)) => {
                format!(
                    "ARRAY[{}]::{}",
                    items.iter().map(literal_sql).collect::<Vec<_>>().join(", "),
                    crate::dialect::type_table::postgresql_name(ty, "text")
                )
            }
            Default_::Literal(value) if ty.is_json() => literal_sql(&serde_json::Value::String(value.to_string())),
            Default_::Literal(value) => literal_sql(value),
            Default_::Function(Function::Now | Function::StatementNow) if sqlite => "CURRENT_TIMESTAMP".into(),
            Default_::Function(Function::Now) => "now()".into(),
            Default_::Function(Function::StatementNow) => "statement_timestamp()".into(),
            Default_::Function(Function::Today) => "CURRENT_DATE".into(),
            Default_::Function(Function::RandomUuid) if sqlite => "(lower(hex(randomblob(16))))".into(),
            Default_::Function(Function::RandomUuid) => "gen_random_uuid()".into(),
            Default_::Expression(expression) => format!("({})", self.expression(expression)),
        }
    }

    fn expression(&self, expression: &Expression) -> String {
        expression.tree.as_ref().map_or_else(|| expression.text.clone(), crate::schema::expression::Tree::to_sql)
    }

    fn unique(&self, unique: &Unique) -> String {
        let nulls = nulls(unique.nulls_not_distinct);
        format!("{}UNIQUE{nulls} ({}){}", constraint(&unique.name), names(&unique.columns), deferrable(unique.deferrable))
    }

    fn add_unique(&self, table: &str, unique: &Unique) -> String {
        if unique.r#as == UniqueAs::Index || self.database == Database::Sqlite {
            let name = unique.name.clone().unwrap_or_else(|| format!("{table}_{}_uniq", unique.columns.join("_")));
            let nulls = if self.database == Database::PostgreSql { nulls(unique.nulls_not_distinct) } else { "" };
            return format!("CREATE UNIQUE INDEX {} ON {} ({}){nulls};", quote_name(&name), quote_name(table), names(&unique.columns));
        }
        format!("ALTER TABLE {} ADD {};", quote_name(table), self.unique(unique))
    }

    fn check(&self, check: &Check) -> String {
        format!("{}CHECK ({})", constraint(&check.name), self.expression(&check.expression))
    }

    fn foreign_key(&self, key: &ForeignKey) -> String {
        let table = key.references.namespace.as_ref().map_or_else(
            || quote_name(&key.references.table),
            |schema| format!("{}.{}", quote_name(schema), quote_name(&key.references.table)),
        );
        let action = |when: &str, action: crate::schema::Action| {
            if action == crate::schema::Action::NoAction { String::new() } else { format!(" ON {when} {}", action.sql()) }
        };
        format!(
            "{}FOREIGN KEY ({}) REFERENCES {table} ({}){}{}{}",
            constraint(&key.name),
            names(&key.columns),
            names(&key.references.columns),
            action("DELETE", key.on_delete),
            action("UPDATE", key.on_update),
            deferrable(key.deferrable)
        )
    }

    fn create_index(&self, table: &str, index: &Index) -> String {
        let postgresql = self.database == Database::PostgreSql;
        let part = |part: &crate::schema::IndexPart| {
            let mut out = match (&part.column, &part.expression) {
                (Some(column), _) => quote_name(column),
                (None, Some(expression)) => format!("({})", self.expression(expression)),
                (None, None) => String::new(),
            };
            if let Some(class) = part.operator_class.as_ref().filter(|_| postgresql) {
                out.push_str(&format!(" {class}"));
            }
            if part.descending {
                out.push_str(" DESC");
            }
            out
        };
        let parts: Vec<String> = index.parts.iter().map(part).collect();
        let method = index.method.as_ref().filter(|_| postgresql).map_or(String::new(), |method| format!(" USING {method}"));
        let include = if index.include.is_empty() || !postgresql { String::new() } else { format!(" INCLUDE ({})", names(&index.include)) };
        let condition = index.condition.as_ref().map_or(String::new(), |condition| format!(" WHERE {}", self.expression(condition)));
        let name = index.name.clone().unwrap_or_else(|| default_index_name(table, index));
        let unique = if index.unique { "UNIQUE " } else { "" };
        let nulls = if postgresql { nulls(index.nulls_not_distinct) } else { "" };
        let parts = parts.join(", ");
        format!("CREATE {unique}INDEX {} ON {}{method} ({parts}){include}{nulls}{condition};", quote_name(&name), quote_name(table))
    }
}

/// A name for an index that nobody named: table, columns and what sets it apart.
fn default_index_name(table: &str, index: &Index) -> String {
    let kind = match index.parts.first().and_then(|part| part.operator_class.as_deref()) {
        Some(class) if class.ends_with("_pattern_ops") => "like",
        _ => "idx",
    };
    let columns = index.columns.join("_");
    let name = format!("{table}_{}{}{kind}", columns, if columns.is_empty() { "" } else { "_" });
    name.chars().take(63).collect()
}

fn constraint(name: &Option<String>) -> String {
    name.as_ref().map_or(String::new(), |name| format!("CONSTRAINT {} ", quote_name(name)))
}

fn nulls(not_distinct: bool) -> &'static str {
    if not_distinct { " NULLS NOT DISTINCT" } else { "" }
}

fn deferrable(deferrable: Option<Deferrable>) -> &'static str {
    match deferrable {
        None => "",
        Some(Deferrable::InitiallyDeferred) => " DEFERRABLE INITIALLY DEFERRED",
        Some(Deferrable::InitiallyImmediate) => " DEFERRABLE INITIALLY IMMEDIATE",
    }
}

fn names(columns: &[String]) -> String {
    columns.iter().map(|column| quote_name(column)).collect::<Vec<_>>().join(", ")
}
