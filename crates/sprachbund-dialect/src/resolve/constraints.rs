//! What a class says as a whole: unique constraints, indexes, checks and exclusions, as far as the
//! framework makes them on this server.

use std::borrow::Cow;

use super::entity::Builder;
use crate::codes;
use crate::declaration::{CheckDeclaration, IndexDeclaration, UniqueDeclaration};
use crate::diagnostic::Diagnostic;
use crate::dialect::conventions::{Makes, Unheld};
use crate::dialect::{Feature, capabilities};
use crate::schema::{Check, Index, IndexPart, NamedBy, Unique};
use crate::server::index_references;
use crate::source::Span;

impl Builder<'_, '_, '_> {
    /// Uniques, indexes, checks and exclusions of the class as a whole, and the indexes that the
    /// server makes besides.
    pub(super) fn class_constraints(&mut self) {
        let model = self.model;
        model.uniques.iter().for_each(|declared| self.unique(declared));
        model.indexes.iter().for_each(|declared| self.class_index(declared));
        for declared in &model.checks {
            let check = self.check(declared, "check", Feature::Check);
            self.entity.checks.extend(check);
        }
        for declared in &model.exclusions {
            let exclusion = self.check(declared, "exclusion constraint", Feature::Exclusion);
            self.entity.exclusions.extend(exclusion);
        }
        // In a history, an index that is made later may serve the reference: only after the last
        // step it is known.
        if self.resolver.tables.is_none() && self.resolver.conventions.server_indexes_references() {
            index_references(self.entity);
        }
    }

    fn unique(&mut self, declared: &UniqueDeclaration) {
        let used = [
            (declared.deferrable.is_some(), Feature::DeferrableUnique),
            (declared.nulls_not_distinct, Feature::NullsNotDistinct),
        ];
        let used: Vec<Feature> =
            used.into_iter().filter(|(used, _)| *used).map(|(_, feature)| feature).collect();
        let name = declared.name.as_deref();
        let Some(lacking) = self.made(
            "unique constraint",
            name,
            &used,
            |unheld| unheld.of_constraint,
            declared.span,
        ) else {
            return;
        };
        let columns = self.stored_columns(&declared.attributes, declared.span);
        let named = declared.name.is_some();
        self.entity.uniques.push(Unique {
            columns,
            r#as: self.resolver.conventions.unique_as(2, named),
            name: declared.name.clone(),
            named_by: if named { NamedBy::Author } else { NamedBy::Framework },
            deferrable: declared
                .deferrable
                .filter(|_| !lacking.contains(&Feature::DeferrableUnique)),
            nulls_not_distinct: declared.nulls_not_distinct,
            origin: self.resolver.origin(declared.span, ""),
            extras: declared.extras.clone(),
        });
    }

    fn class_index(&mut self, declared: &IndexDeclaration) {
        let mut index = self.index(declared);
        let used = capabilities::of_index(&index);
        let (element, makes): (_, fn(&Unheld) -> Makes) = if index.unique {
            ("unique constraint", |unheld| unheld.of_constraint)
        } else {
            ("index", |unheld| unheld.of_index)
        };
        let Some(lacking) =
            self.made(element, declared.name.as_deref(), &used, makes, declared.span)
        else {
            return;
        };
        index.condition = index.condition.filter(|_| !lacking.contains(&Feature::PartialIndex));
        if lacking.contains(&Feature::CoveringIndex) {
            index.include.clear();
        }
        self.entity.indexes.push(index);
    }

    fn check(
        &mut self,
        declared: &CheckDeclaration,
        element: &str,
        feature: Feature,
    ) -> Option<Check> {
        self.made(
            element,
            declared.name.as_deref(),
            &[feature],
            |unheld| unheld.of_constraint,
            declared.span,
        )?;
        Some(Check {
            name: declared.name.clone(),
            expression: self.with_columns(declared.expression.clone()),
            origin: self.resolver.origin(declared.span, ""),
            extras: declared.extras.clone(),
        })
    }

    /// What of these features the framework leaves out here, which is said; `None` when it makes
    /// nothing at all.
    pub(super) fn made(
        &mut self,
        element: &str,
        name: Option<&str>,
        used: &[Feature],
        makes: impl Fn(&Unheld) -> Makes,
        span: Option<Span>,
    ) -> Option<Vec<Feature>> {
        let conventions = self.resolver.conventions;
        let unheld: Vec<&Unheld> = conventions
            .indexes
            .unheld
            .iter()
            .filter(|unheld| used.contains(&unheld.feature))
            .collect();
        let whole = unheld.iter().find(|unheld| makes(unheld) == Makes::Nothing);
        if let Some(first) = whole.or(unheld.first()) {
            let called = name
                .map_or_else(|| format!("the {element}"), |name| format!("the {element} `{name}`"));
            self.not_held(&called, whole.is_some(), capabilities::words(first.feature), span);
        }
        whole.is_none().then(|| unheld.iter().map(|unheld| unheld.feature).collect())
    }

    /// Tells what the framework leaves out without a word.
    pub(super) fn not_held(&mut self, called: &str, whole: bool, what: &str, span: Option<Span>) {
        let conventions = self.resolver.conventions;
        let database = conventions.database.title();
        let framework = conventions.dialect.framework;
        let extent = if whole { "not made" } else { "made only in part" };
        self.diagnostics.push(
            Diagnostic::of(
                &codes::NOT_HELD,
                format!("{called} of `{}` is {extent} on {database}", self.model.name),
            )
            .at(span, extent)
            .because(format!("{framework} makes no {what} on {database}, and says nothing"))
            .with_help("keep the rule in the application, or take it out of the declarations"),
        );
    }

    fn index(&mut self, declared: &IndexDeclaration) -> Index {
        let mut parts = Vec::new();
        for part in &declared.parts {
            let class = part.operator_class.clone().map(Cow::Owned);
            match &part.attribute {
                Some(name) => {
                    for column in self.stored_columns(std::slice::from_ref(name), declared.span) {
                        parts.push(IndexPart {
                            column: Some(column),
                            expression: None,
                            descending: part.descending,
                            operator_class: class.clone(),
                        });
                    }
                }
                None => {
                    let expression = part
                        .expression
                        .as_deref()
                        .map(|expression| Box::new(self.with_columns(expression.clone())));
                    parts.push(IndexPart {
                        column: None,
                        expression,
                        descending: part.descending,
                        operator_class: class,
                    });
                }
            }
        }
        Index {
            columns: parts.iter().filter_map(|part| part.column.clone()).collect(),
            parts,
            unique: declared.unique,
            condition: declared
                .condition
                .as_deref()
                .map(|condition| Box::new(self.with_columns(condition.clone()))),
            method: declared.method.clone(),
            include: self.stored_columns(&declared.include, declared.span),
            name: declared.name.clone(),
            named_by: if declared.name.is_some() { NamedBy::Author } else { NamedBy::Framework },
            only_on: None,
            nulls_not_distinct: declared.nulls_not_distinct,
            origin: self.resolver.origin(declared.span, ""),
            extras: declared.extras.clone(),
        }
    }

    /// Stored names for attribute names (or stored names as they are).
    fn stored_columns(&mut self, names: &[String], span: Option<Span>) -> Vec<String> {
        let mut columns = Vec::with_capacity(names.len());
        for name in names {
            match self.column_of(name) {
                Some(found) => columns.extend(found),
                None => {
                    let message = format!(
                        "`{}` has no attribute `{name}` for a constraint or index to stand on",
                        self.model.name
                    );
                    self.diagnostics.push(
                        Diagnostic::of(&codes::UNKNOWN_ATTRIBUTE, message)
                            .at(span, "names it here")
                            .with_help(
                                "name an attribute that this class declares or inherits as a \
                                 column",
                            ),
                    );
                    columns.push(name.clone());
                }
            }
        }
        columns
    }
}
