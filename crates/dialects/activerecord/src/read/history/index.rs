//! Indexes, and the names that nobody gave.

use super::super::run::{Arguments, Run, Value};
use super::reference::addressed;
use super::{Steps, written};
use crate::declaration::{IndexDeclaration, IndexPartDeclaration, Said};
use crate::dialect::release::at_least;
use crate::names;
use crate::schema::{Database, Entity, Index};
use crate::source::Span;

/// What says how an index is made, and nothing of the index.
const OF_THE_RUN: &[&str] = &["algorithm", "if_not_exists", "comment", "enabled", "length"];

impl<'p> Steps<'_, 'p> {
    /// The name of an index over columns of a table.
    pub(super) fn index_name(&self, table: &str, columns: &[&str]) -> String {
        let name = names::index(self.bare(table), columns);
        let shortens = self.bracket.shortens_names();
        if name.len() > self.database.server().identifier_limit.min(64) && shortens {
            return names::short_index(self.bare(table), columns);
        }
        name
    }

    /// An index; `None` where its keys are not known.
    pub(super) fn index(
        &mut self,
        run: &mut Run<'_, 'p>,
        table: &str,
        columns: &[&str],
        options: &mut Arguments<'p>,
        span: Span,
    ) -> Option<IndexDeclaration> {
        // What is listed, or comes with a reference, is columns, whatever they are called.
        let is_text = matches!(options.first(), Some(Value::Text(_)));
        let expression = match columns {
            [only] if is_text && !is_plain(only) => Some((*only).to_owned()),
            _ => None,
        };
        let name = options.take("name").and_then(|name| name.as_text()).map(String::from);
        let named = name.is_some();
        let name = name.unwrap_or_else(|| match &expression {
            Some(text) => {
                let words: Vec<&str> = text
                    .split(|letter: char| !(letter.is_alphanumeric() || letter == '_'))
                    .filter(|word| !word.is_empty())
                    .collect();
                self.index_name(table, &[&words.join("_")])
            }
            None => self.index_name(table, columns),
        });
        if expression.is_some() && !named {
            self.given.insert((addressed(table), name.clone()));
        }
        let ordered = self.database != Database::MariaDb || self.since(8, 0);
        let order = options.take("order").filter(|_| ordered);
        let classes = options.take("opclass");
        let parts = match &expression {
            Some(text) => expression_parts(text),
            None => columns
                .iter()
                .map(|column| IndexPartDeclaration {
                    attribute: Some((*column).to_owned()),
                    expression: None,
                    descending: of_column(order.as_ref(), column)
                        .is_some_and(|order| order.to_lowercase().starts_with("desc")),
                    operator_class: of_column(classes.as_ref(), column)
                        .filter(|_| self.is_postgresql()),
                })
                .collect(),
        };
        let condition = options.take("where").and_then(|text| self.sql_of(run, &text));
        let condition = condition.filter(|_| !self.database.is_mysql());
        let using = options.take("using").and_then(|using| using.as_text());
        let kind = options.take("type").and_then(|kind| kind.as_text());
        let method = match self.database {
            Database::MySql | Database::MariaDb => kind.filter(|kind| kind.as_str() != "unique"),
            Database::PostgreSql => using.filter(|using| using.as_str() != "btree"),
            _ => None,
        };
        let include = options.take("include").and_then(|columns| columns.as_texts());
        let distinct = options.take("nulls_not_distinct").and_then(|said| said.holds());
        let unique = options.take("unique").and_then(|said| said.holds());
        OF_THE_RUN.iter().for_each(|name| drop(options.take(name)));
        Some(IndexDeclaration {
            parts,
            unique: unique == Some(true),
            condition: condition.map(|text| Box::new(written(&text))),
            method: method.map(Into::into),
            include: include.filter(|_| self.is_postgresql()).unwrap_or_default(),
            name: Some(name),
            nulls_not_distinct: distinct == Some(true)
                && self.is_postgresql()
                && at_least(&self.release, (7, 1)),
            extras: Default::default(),
            span: Some(span),
        })
    }

    /// The index that a call means: by its name, its columns, or both.
    pub(super) fn index_meant(
        &self,
        table: &str,
        columns: Option<&[String]>,
        name: Option<&str>,
    ) -> Option<&str> {
        let entity = self.made(&addressed(table))?;
        let all = indexes(entity);
        if let Some(name) = name {
            return all.iter().find(|(known, _)| *known == name).map(|(known, _)| *known);
        }
        let columns = columns?;
        let automatic =
            self.index_name(table, &columns.iter().map(String::as_str).collect::<Vec<_>>());
        let named = all.iter().find(|(known, _)| *known == automatic);
        let over = all.iter().find(|(_, over)| over.as_slice() == columns);
        named.or(over).map(|(known, _)| *known)
    }

    /// Gives indexes that are called after something that has another name now the name that goes
    /// with it.
    pub(super) fn rename_automatic(
        &mut self,
        table: &str,
        before: impl Fn(&[String]) -> Option<(String, Vec<String>)>,
        span: Span,
    ) {
        let Some(entity) = self.made(&addressed(table)) else { return };
        let texts = |columns: &[String]| columns.to_vec();
        let mut renames = Vec::new();
        for (name, columns) in indexes(entity) {
            let Some((old_table, old_columns)) = before(&texts(&columns)) else { continue };
            let old: Vec<&str> = old_columns.iter().map(String::as_str).collect();
            let new: Vec<&str> = columns.iter().map(String::as_str).collect();
            if self.index_name(&old_table, &old) == name {
                renames.push((name.to_owned(), self.index_name(table, &new)));
            }
        }
        for (name, to) in renames.into_iter().filter(|(name, to)| name != to) {
            self.say(Said::RenameNamed { table: addressed(table), name, to }, span);
        }
    }

    /// Whether a table has an index over columns, by a name, or either with more said of it.
    pub(super) fn has_index(
        &self,
        table: &str,
        columns: Option<&[String]>,
        options: &Arguments<'p>,
    ) -> bool {
        let Some(entity) = self.made(&addressed(table)) else { return false };
        let name = options.named("name").and_then(Value::as_text);
        let unique = options.named("unique").and_then(Value::holds);
        all_indexes(entity).into_iter().any(|(known, over, is_unique)| {
            columns.is_none_or(|columns| over == columns)
                && name.as_ref().is_none_or(|name| known == name.as_str())
                && unique.is_none_or(|unique| !unique || is_unique)
        })
    }
}

/// An expression without the brackets around all of it.
fn unwrapped(text: &str) -> &str {
    let Some(inner) = text.strip_prefix('(').and_then(|rest| rest.strip_suffix(')')) else {
        return text;
    };
    let mut depth = 0;
    let closes_before_the_end = inner.chars().any(|letter| {
        depth += match letter {
            '(' => 1,
            ')' => -1,
            _ => 0,
        };
        depth < 0
    });
    if closes_before_the_end { text } else { unwrapped(inner.trim()) }
}

/// What is said of one column: for it, or for all of them.
fn of_column(said: Option<&Value<'_>>, column: &str) -> Option<String> {
    let said = said?;
    let found = match said {
        Value::Map(_) => said.entry(column)?,
        all => all,
    };
    found.as_text().map(Into::into)
}

/// The named indexes of a table, with their columns: those that keep something unique, too.
pub(super) fn indexes(entity: &Entity) -> Vec<(&str, Vec<String>)> {
    all_indexes(entity).into_iter().map(|(name, columns, _)| (name, columns)).collect()
}

fn all_indexes(entity: &Entity) -> Vec<(&str, Vec<String>, bool)> {
    let plain = |index: &Index| index.columns.clone();
    let indexes = entity
        .indexes
        .iter()
        .filter_map(|index| Some((index.name.as_deref()?, plain(index), index.unique)));
    let uniques = entity
        .uniques
        .iter()
        .filter_map(|unique| Some((unique.name.as_deref()?, unique.columns.clone(), true)));
    indexes.chain(uniques).collect()
}

/// Whether a text can be nothing but the name of a column.
fn is_plain(text: &str) -> bool {
    text.chars().all(|letter| letter.is_alphanumeric() || letter == '_')
}

/// Keys of an index that are given as SQL: each between commas that stand in no brackets.
fn expression_parts(text: &str) -> Vec<IndexPartDeclaration> {
    let mut parts = Vec::new();
    let (mut depth, mut from, mut quoted) = (0, 0, None);
    let whole = [(text.len(), ',')];
    for (at, letter) in text.char_indices().chain(whole) {
        match (quoted, letter) {
            (Some(quote), letter) if quote == letter => quoted = None,
            (Some(_), _) if at < text.len() => {}
            (None, '\'' | '"' | '`') => quoted = Some(letter),
            (None, '(') => depth += 1,
            (None, ')') => depth -= 1,
            (_, ',') if depth == 0 => {
                parts.push(key_as_sql(&text[from..at]));
                from = at + 1;
            }
            _ => {}
        }
    }
    parts
}

/// A key of an index that is given as SQL: what it is computed of, its operator class, its order.
fn key_as_sql(text: &str) -> IndexPartDeclaration {
    let text = text.trim();
    let (text, descending) = match text.rsplit_once(char::is_whitespace) {
        Some((key, order)) if order.eq_ignore_ascii_case("desc") => (key.trim_end(), true),
        Some((key, order)) if order.eq_ignore_ascii_case("asc") => (key.trim_end(), false),
        _ => (text, false),
    };
    let is_whole = |key: &str| key.ends_with(')') || is_plain(key.trim_matches('"'));
    let (key, class) = match text.rsplit_once(char::is_whitespace) {
        Some((key, class)) if is_plain(class) && is_whole(key.trim_end()) => {
            (key.trim_end(), Some(class.to_owned()))
        }
        _ => (text, None),
    };
    IndexPartDeclaration {
        expression: Some(Box::new(written(unwrapped(key)))),
        descending,
        operator_class: class,
        ..IndexPartDeclaration::default()
    }
}
