//! What a migration asks of the tables, the server and the framework.

use super::super::run::{Arguments, Run, Value};
use super::Steps;
use super::reference::addressed;
use crate::schema::{Database, Entity};
use crate::source::Span;

impl<'p> Steps<'_, 'p> {
    /// The answer to a question; `None` of what is none.
    pub(super) fn question(
        &self,
        run: &Run<'_, 'p>,
        name: &str,
        arguments: &Arguments<'p>,
        span: Span,
    ) -> Option<Value<'p>> {
        let mut given = arguments.clone();
        given.unfold();
        let table = given.first_text();
        let made = table.as_deref().and_then(|table| self.made(&addressed(table)));
        let known = |answer: bool| match given.unknown() {
            Some(at) => Value::Unknown(at),
            None => Value::Boolean(answer),
        };
        let second = given.list.get(1);
        Some(match name {
            "adapter_name" => Value::text(self.adapter()),
            "mariadb?" => Value::Boolean(self.database == Database::MariaDb),
            "table_exists?" | "data_source_exists?" => known(made.is_some()),
            "tables" | "data_sources" => {
                let tables = self.replay.tables.schema.entities.iter();
                Value::List(tables.map(|entity| Value::text(entity.address())).collect())
            }
            "column_exists?" => {
                let column = second?.as_text();
                let there = |made: &Entity| column.is_some_and(|name| made.field(&name).is_some());
                match given.list.len() > 2 || !given.named.is_empty() {
                    // It asks for the type, too.
                    true if made.is_some_and(there) => Value::Unknown(span),
                    _ => known(made.is_some_and(there_of(second))),
                }
            }
            "index_exists?" => {
                let columns = second?.as_texts();
                known(self.has_index(&table?, columns.as_deref(), &given))
            }
            "index_name_exists?" => {
                let name = second?.as_text();
                let named = Arguments {
                    named: name.into_iter().map(|n| ("name".into(), Value::Text(n))).collect(),
                    ..Arguments::none()
                };
                known(self.has_index(&table?, None, &named))
            }
            "foreign_key_exists?" => known(self.has_foreign_key(run, &table?, &given)),
            "check_constraint_exists?" => {
                let name = given.named("name").and_then(Value::as_text);
                let there = |made: &Entity| {
                    made.checks.iter().any(|check| check.name.as_deref() == name.as_deref())
                };
                known(made.is_some_and(there))
            }
            "extension_enabled?" | "extension_available?" | "schema_exists?" | "view_exists?" => {
                Value::Unknown(span)
            }
            "respond_to?" => match table.as_deref() {
                Some("mariadb?") => Value::Boolean(self.database.is_mysql()),
                Some(asked) => match self.supports(asked) {
                    Some(_) => Value::Boolean(true),
                    None => Value::Unknown(span),
                },
                None => Value::Unknown(span),
            },
            "quote_table_name" | "quote_column_name" => {
                table.map_or(Value::Unknown(span), |name| {
                    let quote = if self.database.is_mysql() { '`' } else { '"' };
                    Value::text(format!("{quote}{name}{quote}"))
                })
            }
            asked if asked.starts_with("supports_") => {
                self.supports(asked).map_or(Value::Unknown(span), Value::Boolean)
            }
            _ => return None,
        })
    }

    fn has_foreign_key(&self, run: &Run<'_, 'p>, table: &str, given: &Arguments<'p>) -> bool {
        let named = |name: &str| given.named(name).and_then(Value::as_text);
        let to = given.list.get(1).and_then(Value::as_text).or_else(|| named("to_table"));
        let columns = given.named("column").and_then(Value::as_texts);
        let name = named("name");
        self.key_meant(run, table, to.as_deref(), columns.as_deref(), name.as_deref()).is_some()
    }

    fn adapter(&self) -> &'static str {
        match self.database {
            Database::PostgreSql | Database::MongoDb => "PostgreSQL",
            Database::MySql | Database::MariaDb => "Mysql2",
            Database::Sqlite => "SQLite",
        }
    }

    /// Whether the adapter of the server has something, by the question that it answers. Source:
    /// releases 7.0.10 to 8.1.4 on the servers of `facts`.
    fn supports(&self, asked: &str) -> Option<bool> {
        let (postgresql, sqlite) = (self.is_postgresql(), self.is_sqlite());
        let mysql = self.database.is_mysql();
        Some(match asked {
            "supports_comments?" | "supports_comments_in_create?" => !sqlite,
            "supports_check_constraints?"
            | "supports_foreign_keys?"
            | "supports_views?"
            | "supports_json?"
            | "supports_datetime_with_precision?" => true,
            "supports_virtual_columns?" => !sqlite || self.since(7, 2),
            "supports_index_include?"
            | "supports_extensions?"
            | "supports_exclusion_constraints?"
            | "supports_unique_constraints?"
            | "supports_materialized_views?" => postgresql,
            "supports_nulls_not_distinct?" => postgresql && self.since(7, 1),
            "supports_expression_index?" => self.database != Database::MariaDb,
            "supports_partial_index?" | "supports_ddl_transactions?" => !mysql,
            "supports_bulk_alter?" => !sqlite,
            "supports_disabling_indexes?" => mysql && self.since(8, 1),
            "supports_deferrable_constraints?" => postgresql || sqlite && self.since(7, 2),
            "supports_advisory_locks?" => !sqlite,
            _ => return None,
        })
    }
}

/// Whether a table has the column that is asked for.
fn there_of<'v>(column: Option<&'v Value<'_>>) -> impl Fn(&Entity) -> bool + 'v {
    move |made| column.and_then(Value::as_text).is_some_and(|name| made.field(&name).is_some())
}
