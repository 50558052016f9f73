//! Constraints and indexes of a class or a table.

use super::column::{actions, deferrable, escaped, needs_brackets, target};
use super::{Printer, column_name, keywords};
use crate::declaration::{
    Attribute, CheckDeclaration, IndexDeclaration, IndexPartDeclaration, Model,
    ReferenceDeclaration, UniqueDeclaration,
};
use crate::quoting::python::text;
use crate::quoting::sql;
use crate::schema::Database;

impl Printer<'_> {
    /// Everything that is said of a class as a whole.
    pub(super) fn constraints(&mut self, model: &Model) -> Vec<String> {
        let mut items: Vec<String> = self.key(model).into_iter().collect();
        items.extend(
            model
                .references
                .iter()
                .map(|reference| self.reference(model, reference))
                .collect::<Vec<_>>(),
        );
        items.extend(
            model.uniques.iter().map(|unique| self.unique(model, unique)).collect::<Vec<_>>(),
        );
        items.extend(model.checks.iter().map(|check| self.check(check)).collect::<Vec<_>>());
        items
            .extend(model.exclusions.iter().map(|check| self.exclusion(check)).collect::<Vec<_>>());
        items
            .extend(model.indexes.iter().map(|index| self.index(model, index)).collect::<Vec<_>>());
        items
    }

    fn key(&mut self, model: &Model) -> Option<String> {
        if model.key.is_none() && model.key_name.is_none() {
            return None;
        }
        let of_column = |attribute: &Attribute| match attribute {
            Attribute::Field(field) if field.key => Some(column_name(field).to_owned()),
            _ => None,
        };
        let columns: Vec<String> = match &model.key {
            Some(names) => names.iter().map(|name| stored(model, name)).collect(),
            None => model.attributes.iter().filter_map(of_column).collect(),
        };
        let mut arguments: Vec<String> = columns.iter().map(|column| text(column)).collect();
        arguments.extend(model.key_name.as_ref().map(|name| format!("name={}", text(name))));
        Some(format!("{}.PrimaryKeyConstraint({})", self.sa(), arguments.join(", ")))
    }

    fn reference(&mut self, model: &Model, reference: &ReferenceDeclaration) -> String {
        let columns: Vec<String> =
            reference.columns.iter().map(|name| text(&stored(model, name))).collect();
        let targets: Vec<String> = reference
            .references
            .iter()
            .map(|column| text(&target(reference.namespace.as_deref(), &reference.table, column)))
            .collect();
        let lists = vec![format!("[{}]", columns.join(", ")), format!("[{}]", targets.join(", "))];
        format!(
            "{}.ForeignKeyConstraint({})",
            self.sa(),
            [lists, actions(reference)].concat().join(", ")
        )
    }

    fn unique(&mut self, model: &Model, unique: &UniqueDeclaration) -> String {
        let mut arguments: Vec<String> =
            unique.attributes.iter().map(|name| text(&stored(model, name))).collect();
        arguments.extend(unique.name.as_ref().map(|name| format!("name={}", text(name))));
        arguments.extend(deferrable(unique.deferrable));
        arguments.extend(
            unique.nulls_not_distinct.then(|| "postgresql_nulls_not_distinct=True".to_owned()),
        );
        arguments.extend(keywords(&unique.extras));
        format!("{}.UniqueConstraint({})", self.sa(), arguments.join(", "))
    }

    fn check(&mut self, check: &CheckDeclaration) -> String {
        let mut arguments =
            vec![text(&escaped(&check.expression.text_for(self.conventions.database)))];
        arguments.extend(check.name.as_ref().map(|name| format!("name={}", text(name))));
        arguments.extend(keywords(&check.extras));
        format!("{}.CheckConstraint({})", self.sa(), arguments.join(", "))
    }

    /// At home, as its author wrote it.
    fn exclusion(&mut self, check: &CheckDeclaration) -> String {
        let package = self.imports.name("sqlalchemy.dialects", "postgresql");
        let code = &check.expression.text;
        let call = code.find("ExcludeConstraint").map_or(code.as_str(), |at| &code[at..]);
        format!("{package}.{call}")
    }

    fn index(&mut self, model: &Model, index: &IndexDeclaration) -> String {
        let mut arguments = vec![index.name.as_ref().map_or("None".to_owned(), |name| text(name))];
        arguments.extend(index.parts.iter().map(|part| self.part(model, part)).collect::<Vec<_>>());
        arguments.extend(index.unique.then(|| "unique=True".to_owned()));
        let server = match self.conventions.database {
            Database::PostgreSql | Database::MongoDb => "postgresql",
            Database::Sqlite => "sqlite",
            Database::MariaDb | Database::MySql => "mysql",
        };
        if let Some(condition) = &index.condition {
            let sql = text(&escaped(&condition.text_for(self.conventions.database)));
            arguments.push(format!("{server}_where={}.text({sql})", self.sa()));
        }
        arguments
            .extend(index.method.as_ref().map(|method| format!("{server}_using={}", text(method))));
        if !index.include.is_empty() {
            let columns: Vec<String> =
                index.include.iter().map(|name| text(&stored(model, name))).collect();
            arguments.push(format!("{server}_include=[{}]", columns.join(", ")));
        }
        let class = |part: &IndexPartDeclaration| {
            let (name, class) = (
                part.attribute.as_ref()?,
                part.operator_class.as_ref().filter(|_| !part.descending)?,
            );
            Some(format!("{}: {}", text(&stored(model, name)), text(class)))
        };
        let classes: Vec<String> = index.parts.iter().filter_map(class).collect();
        if !classes.is_empty() {
            arguments.push(format!("{server}_ops={{{}}}", classes.join(", ")));
        }
        arguments
            .extend(index.nulls_not_distinct.then(|| format!("{server}_nulls_not_distinct=True")));
        let (conditions, others): (Vec<_>, Vec<_>) = index
            .extras
            .iter()
            .partition(|(name, value)| name.ends_with("_where") && value.is_string());
        for (name, value) in conditions {
            arguments.push(format!(
                "{name}={}.text({})",
                self.sa(),
                text(&escaped(value.as_str().unwrap_or_default()))
            ));
        }
        arguments.extend(keywords(others));
        format!("{}.Index({})", self.sa(), arguments.join(", "))
    }

    /// One key of an index: a column by its name, anything else as SQL.
    fn part(&mut self, model: &Model, part: &IndexPartDeclaration) -> String {
        let database = self.conventions.database;
        let sql = match (&part.attribute, &part.expression) {
            (Some(name), _) if !part.descending => return text(&stored(model, name)),
            (Some(name), _) => sql::name(&stored(model, name), database),
            // MySQL takes even a function only in brackets (as seen in 9.7.4).
            (None, Some(expression))
                if database == Database::MySql || needs_brackets(expression.tree.as_ref()) =>
            {
                format!("({})", expression.text_for(database))
            }
            (None, Some(expression)) => expression.text_for(database).into_owned(),
            (None, None) => String::new(),
        };
        let class = part.operator_class.as_ref().map_or(String::new(), |class| format!(" {class}"));
        let direction = if part.descending { " DESC" } else { "" };
        format!("{}.text({})", self.sa(), text(&escaped(&format!("{sql}{class}{direction}"))))
    }
}

/// The column of an attribute, by which constraints name it.
fn stored(model: &Model, name: &str) -> String {
    let column = model.attributes.iter().find_map(|attribute| match attribute {
        Attribute::Field(field) if field.name.as_deref() == Some(name) => field.column.clone(),
        _ => None,
    });
    column.unwrap_or_else(|| name.to_owned())
}
