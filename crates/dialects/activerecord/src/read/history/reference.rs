//! References to other tables: their columns, indexes and foreign keys.

use super::super::run::{Arguments, Run, Value};
use super::Steps;
use crate::declaration::{FieldDeclaration, IndexDeclaration, ReferenceDeclaration};
use crate::dialect::release::at_least;
use crate::names;
use crate::schema::{Action, Database, Deferrable, address};
use crate::source::Span;

/// What `t.references` makes.
pub(super) struct Reference {
    pub(super) columns: Vec<FieldDeclaration>,
    pub(super) index: Option<IndexDeclaration>,
    pub(super) key: Option<ReferenceDeclaration>,
}

/// The name of a table and the named schema before it.
pub(super) fn parted(table: &str) -> (Option<&str>, &str) {
    match table.split_once('.') {
        Some((namespace, table)) => (Some(namespace), table),
        None => (None, table),
    }
}

/// Its address.
pub(super) fn addressed(table: &str) -> String {
    let (namespace, table) = parted(table);
    address(namespace, table)
}

/// Options that a map gives, or none where only the map's place is taken.
fn options_of<'p>(value: Option<&Value<'p>>) -> Arguments<'p> {
    let mut given = Arguments::of(value.into_iter().cloned().collect());
    given.unfold();
    Arguments { list: Vec::new(), ..given }
}

impl<'p> Steps<'_, 'p> {
    pub(super) fn reference(
        &mut self,
        run: &mut Run<'_, 'p>,
        (table, name): (&str, &str),
        options: &mut Arguments<'p>,
        span: Span,
    ) -> Reference {
        let polymorphic = options.take("polymorphic").filter(|said| said.holds() == Some(true));
        let index = options.take("index");
        let foreign_key = options.take("foreign_key");
        let method = options.take("type").and_then(|of| of.as_text());
        let usual = if self.bracket.has_large_keys() { "bigint" } else { "integer" };
        let method = match method {
            Some(method) => method,
            None if self.database == Database::Sqlite => "integer".into(),
            None => usual.into(),
        };
        let column = format!("{name}_id");
        let type_column = format!("{name}_type");
        let mut columns = Vec::new();
        if let Some(polymorphic) = &polymorphic {
            let mut of_type = options_of(Some(polymorphic));
            if let Some(null) = options.named("null").filter(|_| of_type.named("null").is_none()) {
                of_type.named.push(("null".into(), null.clone()));
            }
            columns.push(self.column(run, (&type_column, "string"), &mut of_type, span));
        }
        columns.push(self.column(run, (&column, &method), options, span));
        let wanted = index.as_ref().map_or(Some(self.bracket.indexes_references()), Value::holds);
        let index = (wanted == Some(true)).then(|| {
            let mut of_index = options_of(index.as_ref());
            let over: Vec<&str> = match polymorphic {
                Some(_) => vec![&type_column, &column],
                None => vec![&column],
            };
            if polymorphic.is_some()
                && self.bracket.names_polymorphic_shortly()
                && of_index.named("name").is_none()
            {
                let short = names::index(self.bare(table), &[name]);
                of_index.named.push(("name".into(), Value::text(short)));
            }
            self.index(run, table, &over, &mut of_index, span)
        });
        let wanted = foreign_key.filter(|said| said.holds() == Some(true));
        let key = wanted.map(|said| {
            let mut of_key = options_of(Some(&said));
            let to = of_key.take("to_table").and_then(|to| to.as_text());
            let to = to.map_or_else(|| run.words.plural(name), Into::into);
            if of_key.named("column").is_none() {
                of_key.named.push(("column".into(), Value::text(column.as_str())));
            }
            self.foreign_key(run, (table, &to), &mut of_key, span)
        });
        Reference { columns, index: index.flatten(), key }
    }

    /// A table's name as names of other things have it.
    pub(super) fn bare<'t>(&self, table: &'t str) -> &'t str {
        match self.bracket.names_without_schema() {
            true => parted(table).1,
            false => table,
        }
    }

    pub(super) fn foreign_key(
        &mut self,
        run: &mut Run<'_, 'p>,
        (from, to): (&str, &str),
        options: &mut Arguments<'p>,
        span: Span,
    ) -> ReferenceDeclaration {
        let texts = |value: Option<Value<'p>>| value.and_then(|value| value.as_texts());
        let references = texts(options.take("primary_key"));
        let columns = texts(options.take("column")).unwrap_or_else(|| {
            let one = run.words.singular(parted(to).1);
            match &references {
                Some(references) if references.len() > 1 => {
                    references.iter().map(|column| format!("{one}_{column}")).collect()
                }
                _ => vec![format!("{one}_id")],
            }
        });
        let name = options.take("name").and_then(|name| name.as_text()).map(String::from);
        let name = name.unwrap_or_else(|| {
            names::foreign_key(from, &columns.iter().map(String::as_str).collect::<Vec<_>>())
        });
        let deferrable = options.take("deferrable").filter(|_| self.defers());
        let (namespace, table) = parted(to);
        let declared = ReferenceDeclaration {
            columns,
            namespace: namespace.map(str::to_owned),
            table: table.to_owned(),
            references: references.unwrap_or_else(|| vec!["id".to_owned()]),
            on_delete: action(options.take("on_delete")),
            on_update: action(options.take("on_update")),
            deferrable: deferrable.as_ref().and_then(deferred),
            name: Some(name),
            span: Some(span),
        };
        options.take("validate");
        declared
    }

    /// Whether a key can be checked later.
    fn defers(&self) -> bool {
        match self.database {
            Database::PostgreSql => at_least(&self.release, (7, 0)),
            Database::Sqlite => at_least(&self.release, (7, 2)),
            _ => false,
        }
    }
}

fn action(value: Option<Value<'_>>) -> Option<Action> {
    match value?.as_text()?.as_str() {
        "cascade" => Some(Action::Cascade),
        "nullify" => Some(Action::SetNull),
        "restrict" => Some(Action::Restrict),
        _ => None,
    }
}

/// When a constraint is checked.
pub(super) fn deferred(value: &Value<'_>) -> Option<Deferrable> {
    match value {
        Value::Boolean(true) => Some(Deferrable::InitiallyImmediate),
        value => match value.as_text()?.as_str() {
            "deferred" => Some(Deferrable::InitiallyDeferred),
            "immediate" => Some(Deferrable::InitiallyImmediate),
            _ => None,
        },
    }
}
