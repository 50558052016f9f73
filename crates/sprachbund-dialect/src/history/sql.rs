//! Operations as SQL for PostgreSQL, MariaDB and MySQL, and SQLite.
//!
//! What a server cannot add to an existing table (on SQLite: a foreign key, a check) is written
//! inside `CREATE TABLE`.

use std::collections::{BTreeSet, HashMap};

use md5::{Digest, Md5};

use super::{Operation, operations};
use crate::quoting::sql as quoting;
use crate::schema::Feature;
use crate::schema::{
    Check, Database, Default_, Deferrable, Entity, EnumType, Expression, Field, ForeignKey,
    Function, Identity, Index, Schema, Type, Unique, UniqueAs,
};
use crate::server::{Comments, Enumerations, HeldWord, Statements, postgresql};

/// The whole script that makes a schema's tables in an empty database.
pub fn script(schema: &Schema, database: Database) -> String {
    let steps = operations(schema);
    let printer = Printer::of(schema, database);
    let mut out: String = printer
        .addresses
        .values()
        .filter_map(|(namespace, _)| *namespace)
        .collect::<BTreeSet<_>>()
        .into_iter()
        .map(|name| printer.create_namespace(name))
        .collect();
    // Some take foreign keys with the table only.
    let with_table = !database.server().adds_constraints;
    let mut keys: HashMap<&str, Vec<&ForeignKey>> = HashMap::new();
    for step in steps.iter().filter(|_| with_table) {
        if let Operation::AddForeignKey { table, key } = step {
            keys.entry(table).or_default().push(key);
        }
    }
    for step in &steps {
        let statement = match step {
            Operation::CreateTable(entity) => printer.create_table(
                entity,
                keys.get(entity.address().as_str()).map_or(&[], Vec::as_slice),
            ),
            Operation::AddForeignKey { .. } if with_table => continue,
            other => printer.statement(other),
        };
        if !statement.is_empty() {
            out.push_str(&statement);
            out.push('\n');
        }
    }
    quoting::settled(out, database)
}

/// One step on the table of `entity` as a statement.
pub fn statement(
    operation: &Operation,
    entity: &Entity,
    schema: &Schema,
    database: Database,
) -> String {
    let mut printer = Printer::of(schema, database);
    printer.addresses.insert(entity.address(), (entity.namespace.as_deref(), &entity.table));
    printer.statement(operation)
}

/// The type of a column, as it stands in a statement.
pub fn type_of(field: &Field, schema: &Schema, database: Database) -> String {
    Printer::of(schema, database).type_name(field)
}

/// A default of a column, as it stands behind `DEFAULT`.
pub fn default_of(
    field: &Field,
    default: &Default_,
    schema: &Schema,
    database: Database,
) -> String {
    Printer::of(schema, database).default(default, &field.r#type)
}

/// The statement that gives a column a default.
pub fn set_default(
    entity: &Entity,
    field: &Field,
    default: &Default_,
    schema: &Schema,
    database: Database,
) -> String {
    let mut printer = Printer::of(schema, database);
    printer.addresses.insert(entity.address(), (entity.namespace.as_deref(), &entity.table));
    let (table, column) = (printer.table(&entity.address()), printer.quote(&field.column));
    let value = printer.default(default, &field.r#type);
    // MySQL takes functions only in brackets here (as seen in 9.7.4), MariaDB in both ways.
    let in_brackets = printer.says().column_anew
        && matches!(default, Default_::Function(_))
        && !value.starts_with('(');
    let value = if in_brackets { format!("({value})") } else { value };
    format!("ALTER TABLE {table} ALTER COLUMN {column} SET DEFAULT {value};")
}

/// A comment on a table (as it is quoted) or one of its columns; nothing where the server keeps
/// none.
pub fn comment(
    table: &str,
    column: Option<&str>,
    text: &str,
    database: Database,
) -> Option<String> {
    let quoted = quoting::text(text, database);
    if database.server().comments != Comments::Statements {
        return None;
    }
    match column {
        Some(column) => Some(format!(
            "COMMENT ON COLUMN {table}.{} IS {quoted};",
            quoting::name(column, database)
        )),
        None => Some(format!("COMMENT ON TABLE {table} IS {quoted};")),
    }
}

/// The comment of a table on MariaDB and MySQL, which a table gets when it is made.
pub fn comment_of_table(table: &str, text: &str, database: Database) -> String {
    format!(
        "ALTER TABLE {} COMMENT = {};",
        quoting::name(table, database),
        quoting::text(text, database)
    )
}

/// Types of PostgreSQL that an enumeration may be called like (`pg_type` of PostgreSQL 15, those
/// without a special sign).
const OWN_TYPES: &[&str] = &[
    "bit",
    "bool",
    "box",
    "bpchar",
    "bytea",
    "char",
    "cid",
    "cidr",
    "circle",
    "date",
    "daterange",
    "float4",
    "float8",
    "inet",
    "int2",
    "int4",
    "int4range",
    "int8",
    "int8range",
    "interval",
    "json",
    "jsonb",
    "jsonpath",
    "line",
    "lseg",
    "macaddr",
    "money",
    "name",
    "numeric",
    "numrange",
    "oid",
    "path",
    "point",
    "polygon",
    "record",
    "text",
    "tid",
    "time",
    "timestamp",
    "timestamptz",
    "timetz",
    "tsquery",
    "tsrange",
    "tstzrange",
    "tsvector",
    "uuid",
    "varbit",
    "varchar",
    "void",
    "xid",
    "xml",
];

struct Printer<'s> {
    database: Database,
    schema: &'s Schema,
    /// The named schema and the name of each table, by its address.
    addresses: HashMap<String, (Option<&'s str>, &'s str)>,
}

impl<'s> Printer<'s> {
    fn of(schema: &'s Schema, database: Database) -> Self {
        let address = |entity: &'s Entity| {
            (entity.address(), (entity.namespace.as_deref(), entity.table.as_str()))
        };
        Printer { database, schema, addresses: schema.entities.iter().map(address).collect() }
    }

    fn create_namespace(&self, name: &str) -> String {
        format!("CREATE SCHEMA IF NOT EXISTS {};\n", self.quote(name))
    }

    /// The named schema and the name of the table at an address.
    fn parts<'t>(&'t self, address: &'t str) -> (Option<&'t str>, &'t str) {
        self.addresses.get(address).copied().unwrap_or((None, address))
    }

    /// A table, with its named schema.
    fn table(&self, address: &str) -> String {
        let (namespace, table) = self.parts(address);
        self.qualified(namespace, table)
    }

    /// The name alone, of which the server makes names of constraints.
    fn bare<'t>(&'t self, address: &'t str) -> &'t str {
        self.parts(address).1
    }

    fn qualified(&self, namespace: Option<&str>, table: &str) -> String {
        namespace.map_or_else(
            || self.quote(table),
            |namespace| format!("{}.{}", self.quote(namespace), self.quote(table)),
        )
    }

    /// Where the server's statements differ from the standard's.
    fn says(&self) -> &'static Statements {
        &self.database.server().statements
    }

    fn quote(&self, name: &str) -> String {
        quoting::name(name, self.database)
    }

    fn names(&self, columns: &[String]) -> String {
        columns.iter().map(|column| self.quote(column)).collect::<Vec<_>>().join(", ")
    }

    fn constraint(&self, name: &Option<String>) -> String {
        name.as_ref().map_or(String::new(), |name| format!("CONSTRAINT {} ", self.quote(name)))
    }

    fn statement(&self, operation: &Operation) -> String {
        let alter =
            |table: &str, change: String| format!("ALTER TABLE {} {change};", self.table(table));
        match operation {
            Operation::CreateEnum(enumeration) => self.create_enum(enumeration),
            Operation::DropEnum { name } => format!("DROP TYPE {};", self.quote(name)),
            Operation::AlterEnum { from, to } => self.alter_enum(from, to),
            Operation::CreateTable(entity) => self.create_table(entity, &[]),
            Operation::DropTable { table } => format!("DROP TABLE {};", self.table(table)),
            Operation::RenameTable { table, to } => {
                alter(table, format!("RENAME TO {}", self.quote(to)))
            }
            Operation::AddColumn { table, field } => {
                alter(table, format!("ADD COLUMN {}", self.column(field, false)))
            }
            Operation::AlterColumn { table, field, .. } if self.says().column_anew => {
                alter(table, format!("MODIFY COLUMN {}", self.column(field, false)))
            }
            Operation::AlterColumn { table, column, field } => {
                alter(table, self.alter_column(column, field))
            }
            Operation::RenameColumn { table, column, to } => {
                alter(table, format!("RENAME COLUMN {} TO {}", self.quote(column), self.quote(to)))
            }
            Operation::DropColumn { table, column } => {
                alter(table, format!("DROP COLUMN {}", self.quote(column)))
            }
            Operation::AddUnique { table, unique } => self.add_unique(table, unique),
            Operation::DropUnique { table, unique } => {
                alter(table, self.drop_constraint(&unique.name, table, &unique.columns, "key"))
            }
            Operation::AddIndex { table, index } => self.create_index(table, index),
            Operation::DropIndex { table, index } => self.drop_index(table, index),
            Operation::AddForeignKey { table, key } => {
                alter(table, format!("ADD {}", self.foreign_key(key)))
            }
            Operation::DropForeignKey { table, key } => {
                alter(table, self.drop_constraint(&key.name, table, &key.columns, "fkey"))
            }
            Operation::AddCheck { table, check } => {
                alter(table, format!("ADD {}", self.check(check)))
            }
            Operation::AddExclusion { table, check } => alter(
                table,
                format!("ADD {}EXCLUDE {}", self.constraint(&check.name), check.expression.text),
            ),
            Operation::DropCheck { table, check } | Operation::DropExclusion { table, check } => {
                match &check.name {
                    Some(name) => alter(table, format!("DROP CONSTRAINT {}", self.quote(name))),
                    None => comment_line(&format!(
                        "drop the check of {}: {}",
                        self.table(table),
                        check.expression.text
                    )),
                }
            }
            Operation::SetKey { table, key: Some(key) } => {
                let (name, columns) = (self.constraint(&key.name), self.names(&key.columns));
                alter(table, format!("ADD {name}PRIMARY KEY ({columns})"))
            }
            Operation::SetKey { table, key: None } if self.says().drops_primary_key => {
                alter(table, "DROP PRIMARY KEY".into())
            }
            Operation::SetKey { table, key: None } => alter(
                table,
                format!("DROP CONSTRAINT {}", self.quote(&format!("{}_pkey", self.bare(table)))),
            ),
            Operation::Comment { table, column, text } => comment(
                &self.table(table),
                column.as_deref(),
                text.as_deref().unwrap_or_default(),
                self.database,
            )
            .unwrap_or_default(),
        }
    }

    /// Without a name, one has the name that PostgreSQL gives it.
    fn drop_constraint(
        &self,
        name: &Option<String>,
        table: &str,
        columns: &[String],
        ending: &str,
    ) -> String {
        let by_server = || format!("{}_{}_{ending}", self.bare(table), columns.join("_"));
        format!("DROP CONSTRAINT {}", self.quote(&name.clone().unwrap_or_else(by_server)))
    }

    /// What a column changes to, on servers that are told each part of it.
    fn alter_column(&self, column: &str, field: &Field) -> String {
        let column = self.quote(column);
        let null = if field.nullable { "DROP NOT NULL" } else { "SET NOT NULL" };
        let default =
            field.defaults.database.as_ref().map_or("DROP DEFAULT".to_owned(), |default| {
                format!("SET DEFAULT {}", self.default(default, &field.r#type))
            });
        let ty = self.type_name(field);
        format!(
            "ALTER COLUMN {column} TYPE {ty}, ALTER COLUMN {column} {null}, ALTER COLUMN \
             {column} {default}"
        )
    }

    fn drop_index(&self, table: &str, index: &Index) -> String {
        let name =
            index.name.clone().unwrap_or_else(|| default_index_name(self.bare(table), index));
        if self.says().index_of_table {
            return format!("DROP INDEX {} ON {};", self.quote(&name), self.table(table));
        }
        format!("DROP INDEX {};", self.qualified(self.parts(table).0, &name))
    }

    /// A member at the same place has another name; one that is nowhere in the old list is new.
    fn alter_enum(&self, from: &EnumType, to: &EnumType) -> String {
        if self.database.server().enumerations != Enumerations::Types {
            return String::new();
        }
        let name = self.quote(&to.name);
        let (before, after) = (members(from, self.database), members(to, self.database));
        let mut statements = Vec::new();
        if from.name != to.name {
            statements.push(format!("ALTER TYPE {} RENAME TO {name};", self.quote(&from.name)));
        }
        let renamed = before.len() == after.len();
        for (at, value) in after.iter().enumerate().filter(|(_, value)| !before.contains(value)) {
            let change = match (renamed, at.checked_sub(1)) {
                (true, _) => format!("RENAME VALUE {} TO {value}", before[at]),
                (false, Some(earlier)) => format!("ADD VALUE {value} AFTER {}", after[earlier]),
                (false, None) => {
                    let first = before.first().map(|first| format!(" BEFORE {first}"));
                    format!("ADD VALUE {value}{}", first.unwrap_or_default())
                }
            };
            statements.push(format!("ALTER TYPE {name} {change};"));
        }
        statements.join("\n")
    }

    fn create_enum(&self, enumeration: &EnumType) -> String {
        let name = enumeration.stored_name.as_ref().unwrap_or(&enumeration.name);
        let values = members(enumeration, self.database);
        match self.database.server().enumerations {
            Enumerations::Nowhere => {
                comment_line(&format!("{name} is kept as text: {}", values.join(", ")))
            }
            Enumerations::InColumns => String::new(),
            Enumerations::Types => {
                format!("CREATE TYPE {} AS ENUM ({});", self.enum_name(name), values.join(", "))
            }
        }
    }

    fn create_table(&self, entity: &Entity, keys: &[&ForeignKey]) -> String {
        let alone = |column: &str| matches!(entity.key_columns(), [only] if only == column);
        let inline_key = |field: &Field| {
            self.database.server().numbers_rows && field.identity.is_some() && alone(&field.column)
        };
        let mut lines: Vec<String> =
            entity.fields.iter().map(|field| self.column(field, inline_key(field))).collect();
        let key = entity.primary_key.as_ref().filter(|_| !entity.fields.iter().any(inline_key));
        lines.extend(key.map(|key| {
            format!("{}PRIMARY KEY ({})", self.constraint(&key.name), self.names(&key.columns))
        }));
        lines.extend(
            entity
                .uniques
                .iter()
                .filter(|unique| unique.r#as == UniqueAs::Constraint)
                .map(|unique| self.unique(unique)),
        );
        lines.extend(entity.checks.iter().map(|check| self.check(check)));
        let excluded = entity
            .exclusions
            .iter()
            .filter(|_| !self.database.server().lacks.contains(&Feature::Exclusion));
        lines.extend(excluded.map(|check| {
            format!("{}EXCLUDE {}", self.constraint(&check.name), check.expression.text)
        }));
        lines.extend(keys.iter().map(|key| self.foreign_key(key)));
        let comment_of_table = entity
            .comment
            .as_ref()
            .filter(|_| self.database.server().comments == Comments::InTables);
        let options = comment_of_table.map_or(String::new(), |text| {
            format!(" COMMENT={}", self.literal(&text.clone().into()))
        });
        let mut out = format!(
            "CREATE TABLE {} (\n    {}\n){options};",
            self.table(&entity.address()),
            lines.join(",\n    ")
        );
        for unique in entity.uniques.iter().filter(|unique| unique.r#as == UniqueAs::Index) {
            out.push('\n');
            out.push_str(&self.add_unique(&entity.address(), unique));
        }
        let table = self.table(&entity.address());
        let comments = entity.fields.iter().filter_map(|field| {
            comment(&table, Some(&field.column), field.comment.as_ref()?, self.database)
        });
        for line in entity
            .comment
            .iter()
            .filter_map(|text| comment(&table, None, text, self.database))
            .chain(comments)
        {
            out.push('\n');
            out.push_str(&line);
        }
        out
    }

    fn type_name(&self, field: &Field) -> String {
        let written = self.written_type(field);
        // Written from names and texts that are quoted already; where types are hints, a column may
        // have none.
        let whole = matches!(field.r#type, Type::Enum(_))
            || (written.is_empty() && !self.database.server().holds_types);
        if whole { written } else { quoting::type_name(&written, self.database).into_owned() }
    }

    fn written_type(&self, field: &Field) -> String {
        let server = self.database.server();
        match (&field.r#type, server.held_word) {
            (ty, HeldWord::OfType) if field.identity == Some(Identity::Sequence) => match ty {
                Type::SmallInt | Type::UnsignedSmallInt => "smallserial".into(),
                Type::BigInt | Type::UnsignedBigInt => "bigserial".into(),
                _ => "serial".into(),
            },
            (Type::Enum(name), HeldWord::OfType) => self.enum_type(name),
            (_, HeldWord::SqliteOfRow) if !field.stored.is_empty() => field.stored.to_string(),
            (ty, HeldWord::MysqlOfRow) => {
                let values = |name: &str| {
                    self.schema
                        .enumeration(name)
                        .map_or(Vec::new(), |known| members(known, self.database))
                        .join(",")
                };
                let chosen = self.schema.source.database.server().held_word != HeldWord::OfType;
                let stored_as_said = chosen && !field.stored.is_empty();
                if stored_as_said {
                    field.stored.to_string()
                } else {
                    (self.database.server().type_name)(
                        ty,
                        &crate::schema::enum_name(ty).map_or(String::new(), values),
                    )
                    .into_owned()
                }
            }
            _ => {
                let name = crate::schema::enum_name(&field.r#type)
                    .map_or(String::new(), |name| self.enum_type(name));
                postgresql::type_name(&field.r#type, &name).into_owned()
            }
        }
    }

    fn enum_type(&self, name: &str) -> String {
        let stored = self
            .schema
            .enumeration(name)
            .and_then(|enumeration| enumeration.stored_name.as_deref());
        self.enum_name(stored.unwrap_or(name))
    }

    /// Under the name of a type of its own the server finds its own, unless it is told where to
    /// look.
    fn enum_name(&self, name: &str) -> String {
        let own =
            self.database.server().enumerations == Enumerations::Types && OWN_TYPES.contains(&name);
        if own { format!("public.{}", self.quote(name)) } else { self.quote(name) }
    }

    fn column(&self, field: &Field, inline_key: bool) -> String {
        let mut out = format!("{} {}", self.quote(&field.column), self.type_name(field));
        if let (Some(collation), true) =
            (&field.collation, self.database.server().collations.is_some())
        {
            out.push_str(&format!(" COLLATE {}", self.quote(collation)));
        }
        if inline_key {
            out.push_str(" NOT NULL PRIMARY KEY");
            out.push_str(if field.identity == Some(Identity::AutoIncrement) {
                " AUTOINCREMENT"
            } else {
                ""
            });
            if let Some(default) = &field.defaults.database {
                out.push_str(&format!(" DEFAULT {}", self.default(default, &field.r#type)));
            }
            return out;
        }
        if let Some(generated) = &field.generated {
            let kind = if generated.stored { "STORED" } else { "VIRTUAL" };
            out.push_str(&format!(
                " GENERATED ALWAYS AS ({}) {kind}",
                self.expression(&generated.expression)
            ));
        }
        match (field.identity, self.says().counter) {
            (Some(_), Some(counter)) => out.push_str(&format!(" {counter}")),
            (Some(Identity::Always), None) => out.push_str(" GENERATED ALWAYS AS IDENTITY"),
            (Some(Identity::ByDefault | Identity::AutoIncrement), None) => {
                out.push_str(" GENERATED BY DEFAULT AS IDENTITY")
            }
            (Some(Identity::Sequence) | None, _) => {}
        }
        if let Some(default) = &field.defaults.database {
            out.push_str(&format!(" DEFAULT {}", self.default(default, &field.r#type)));
        }
        if self.database.server().updates_columns && field.on_update.database.is_some() {
            out.push_str(&format!(" ON UPDATE {}", self.moment(&field.r#type)));
        }
        out.push_str(match field.nullable {
            false => " NOT NULL",
            true if self.says().says_null && field.generated.is_none() => " NULL",
            true => "",
        });
        if let Some(text) =
            field.comment.as_ref().filter(|_| self.database.server().comments == Comments::InTables)
        {
            out.push_str(&format!(" COMMENT {}", self.literal(&text.clone().into())));
        }
        out
    }

    /// The moment with as many digits as the column has: MySQL refuses others.
    fn moment(&self, ty: &Type) -> String {
        ty.parameters()
            .precision
            .map_or("CURRENT_TIMESTAMP".into(), |digits| format!("CURRENT_TIMESTAMP({digits})"))
    }

    fn literal(&self, value: &serde_json::Value) -> String {
        quoting::literal(value, self.database)
    }

    fn default(&self, default: &Default_, ty: &Type) -> String {
        let functions = &self.database.server().functions;
        let long =
            matches!(ty, Type::Text | Type::CaseFoldedText | Type::Binary(None)) || ty.is_json();
        match default {
            Default_::Literal(value)
                if self.says().long_defaults_as_expressions && ty.is_json() =>
            {
                format!("({})", self.literal(&serde_json::Value::String(value.to_string())))
            }
            Default_::Literal(value) if self.says().long_defaults_as_expressions && long => {
                format!("({})", self.literal(value))
            }
            Default_::Function(Function::Now | Function::StatementNow)
                if self.says().moment_with_digits =>
            {
                self.moment(ty)
            }
            Default_::Literal(serde_json::Value::Array(items)) if matches!(ty, Type::Array(_)) => {
                format!(
                    "ARRAY[{}]::{}",
                    items.iter().map(|item| self.literal(item)).collect::<Vec<_>>().join(", "),
                    postgresql::type_name(ty, "text")
                )
            }
            Default_::Literal(value) if ty.is_json() => {
                self.literal(&serde_json::Value::String(value.to_string()))
            }
            Default_::Literal(value) => self.literal(value),
            Default_::Function(Function::Now) => functions.now.into(),
            Default_::Function(Function::StatementNow) => functions.statement_now.into(),
            Default_::Function(Function::Today) => functions.today.into(),
            Default_::Function(Function::RandomUuid) => functions.random_uuid.into(),
            Default_::Expression(expression) => format!("({})", self.expression(expression)),
        }
    }

    fn expression(&self, expression: &Expression) -> String {
        expression.text_for(self.database).into_owned()
    }

    fn unique(&self, unique: &Unique) -> String {
        let nulls = nulls(unique.nulls_not_distinct);
        format!(
            "{}UNIQUE{nulls} ({}){}",
            self.constraint(&unique.name),
            self.names(&unique.columns),
            deferrable(unique.deferrable)
        )
    }

    fn add_unique(&self, table: &str, unique: &Unique) -> String {
        if unique.r#as == UniqueAs::Index || !self.database.server().adds_constraints {
            let name = unique
                .name
                .clone()
                .unwrap_or_else(|| format!("{table}_{}_uniq", unique.columns.join("_")));
            let held = !self.database.server().lacks.contains(&Feature::NullsNotDistinct);
            let nulls = if held { nulls(unique.nulls_not_distinct) } else { "" };
            return format!(
                "CREATE UNIQUE INDEX {} ON {} ({}){nulls};",
                self.quote(&name),
                self.table(table),
                self.names(&unique.columns)
            );
        }
        format!("ALTER TABLE {} ADD {};", self.table(table), self.unique(unique))
    }

    fn check(&self, check: &Check) -> String {
        format!("{}CHECK ({})", self.constraint(&check.name), self.expression(&check.expression))
    }

    fn foreign_key(&self, key: &ForeignKey) -> String {
        let table = self.qualified(key.references.namespace.as_deref(), &key.references.table);
        let action = |when: &str, action: crate::schema::Action| {
            if action == crate::schema::Action::NoAction {
                String::new()
            } else {
                format!(" ON {when} {}", action.sql())
            }
        };
        format!(
            "{}FOREIGN KEY ({}) REFERENCES {table} ({}){}{}{}",
            self.constraint(&key.name),
            self.names(&key.columns),
            self.names(&key.references.columns),
            action("DELETE", key.on_delete),
            action("UPDATE", key.on_update),
            deferrable(key.deferrable)
        )
    }

    fn create_index(&self, table: &str, index: &Index) -> String {
        let holds = |feature| !self.database.server().lacks.contains(&feature);
        let part = |part: &crate::schema::IndexPart| {
            let mut out = match (&part.column, &part.expression) {
                (Some(column), _) => self.quote(column),
                (None, Some(expression)) => format!("({})", self.expression(expression)),
                (None, None) => String::new(),
            };
            if let Some(class) =
                part.operator_class.as_ref().filter(|_| holds(Feature::OperatorClass))
            {
                out.push_str(&format!(" {}", quoting::path(class, Some(self.database))));
            }
            if part.descending {
                out.push_str(" DESC");
            }
            out
        };
        let parts: Vec<String> = index.parts.iter().map(part).collect();
        let method = index
            .method
            .as_ref()
            .filter(|_| holds(Feature::IndexMethod))
            .map_or(String::new(), |method| {
                format!(" USING {}", quoting::path(method, Some(self.database)))
            });
        let include = if index.include.is_empty() || !holds(Feature::CoveringIndex) {
            String::new()
        } else {
            format!(" INCLUDE ({})", self.names(&index.include))
        };
        let condition = index
            .condition
            .as_ref()
            .map_or(String::new(), |condition| format!(" WHERE {}", self.expression(condition)));
        let name = index.name.clone().unwrap_or_else(|| default_index_name(table, index));
        let unique = if index.unique { "UNIQUE " } else { "" };
        let nulls =
            if holds(Feature::NullsNotDistinct) { nulls(index.nulls_not_distinct) } else { "" };
        let parts = parts.join(", ");
        format!(
            "CREATE {unique}INDEX {} ON {}{method} ({parts}){include}{nulls}{condition};",
            self.quote(&name),
            self.table(table)
        )
    }
}

/// A comment that ends with its line.
fn comment_line(text: &str) -> String {
    format!(
        "-- {}",
        text.replace(
            |letter: char| letter.is_control() || matches!(letter, '\u{2028}' | '\u{2029}'),
            " "
        )
    )
}

/// The values of an enumeration, as texts of SQL.
pub fn members(enumeration: &EnumType, database: Database) -> Vec<String> {
    let text =
        |value: &serde_json::Value| value.as_str().map_or_else(|| value.to_string(), str::to_owned);
    enumeration.members.iter().map(|member| quoting::text(&text(&member.value), database)).collect()
}

/// A name for an index that nobody named: table, columns and what sets it apart.
pub fn default_index_name(table: &str, index: &Index) -> String {
    let kind = match index.parts.first().and_then(|part| part.operator_class.as_deref()) {
        Some(class) if class.ends_with("_pattern_ops") => "like",
        _ => "idx",
    };
    let columns = index.columns.join("_");
    let name = format!("{table}_{}{}{kind}", columns, if columns.is_empty() { "" } else { "_" });
    if name.len() <= SHORTEST_LIMIT {
        return name;
    }
    // Names that differ only at their ends must not become one.
    let digest = Md5::digest(name.as_bytes());
    let head: String = name
        .chars()
        .scan(0, |bytes, letter| {
            *bytes += letter.len_utf8();
            (*bytes <= SHORTEST_LIMIT - 9).then_some(letter)
        })
        .collect();
    format!("{head}_{:02x}{:02x}{:02x}{:02x}", digest[0], digest[1], digest[2], digest[3])
}

/// How long a name may be on every server: PostgreSQL keeps the least.
const SHORTEST_LIMIT: usize = 63;

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
