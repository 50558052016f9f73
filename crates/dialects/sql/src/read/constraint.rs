//! Keys, unique constraints, foreign keys, checks and indexes.

use sqlparser::ast::{
    ConstraintCharacteristics, ConstraintReferenceMatchKind, CreateIndex, DeferrableInitial,
    ExcludeConstraint, Expr, ForeignKeyConstraint, Ident, IndexColumn, IndexConstraint,
    IndexOption, IndexType, NullsDistinctOption, OrderBySort, PrimaryKeyConstraint,
    ReferentialAction, TableConstraint, UniqueConstraint,
};
use sqlparser::tokenizer::Span as Place;

use super::{Reader, Script};
use crate::codes;
use crate::diagnostic::Diagnostic;
use crate::history::Operation;
use crate::history::sql::default_index_name;
use crate::schema::{
    Action, Check, Database, Deferrable, Entity, Expression, Field, ForeignKey, Index, IndexPart,
    NamedBy, Origin, PrimaryKey, References, Unique,
};

impl Reader {
    /// Adds a constraint to a table that is being made or changed.
    pub(super) fn constraint(
        &mut self,
        script: &Script<'_>,
        constraint: &TableConstraint,
        entity: &mut Entity,
    ) {
        match constraint {
            TableConstraint::PrimaryKey(key) => {
                self.primary_key(script, key, entity);
            }
            TableConstraint::Unique(unique) => {
                self.unique(script, unique, entity);
            }
            TableConstraint::ForeignKey(key) if is_note(key) => {
                self.unread_of_key(script, true, "a foreign key that is not enforced");
            }
            TableConstraint::ForeignKey(key) => {
                let full = key
                    .match_kind
                    .as_ref()
                    .is_some_and(|kind| !matches!(kind, ConstraintReferenceMatchKind::Simple));
                self.unread_of_key(script, full, "how a partly null reference is matched");
                let key = self.foreign_key(script, key);
                entity.foreign_keys.push(key);
            }
            TableConstraint::Check(check) if check.enforced == Some(false) => {
                self.unread_of_key(script, true, "a check that is not enforced");
            }
            TableConstraint::Check(check) => {
                let name = check.name.as_ref().map(|name| self.name(name));
                let expression = self.expression(&entity.fields, &check.expr);
                entity.checks.push(Check::new(name, expression, script.origin(Place::empty())));
            }
            TableConstraint::Index(index) => {
                self.index_of_table(script, index, entity);
            }
            TableConstraint::Exclude(exclusion) => {
                let name = exclusion.name.as_ref().map(|name| self.name(name));
                let text = ExcludeConstraint { name: None, ..exclusion.clone() }.to_string();
                let expression = Expression::parse_sql(text.trim_start_matches("EXCLUDE "));
                entity.exclusions.push(Check::new(name, expression, script.origin(Place::empty())));
            }
            other => self.diagnostics.push(
                Diagnostic::of(
                    &codes::UNREAD_CONSTRAINT,
                    format!("`{other}` of `{}` was not read", entity.table),
                )
                .at(Some(script.whole()), "in this statement"),
            ),
        }
    }

    fn primary_key(
        &mut self,
        script: &Script<'_>,
        key: &PrimaryKeyConstraint,
        entity: &mut Entity,
    ) {
        let columns = self.columns(&entity.fields, &key.columns);
        let place = key.columns.first().map_or_else(Place::empty, place_of);
        let name = key.name.as_ref().map(|name| self.name(name));
        self.unread_of_key(
            script,
            deferrable(key.characteristics.as_ref()).is_some(),
            "that the key may be checked at commit",
        );
        self.unread_of_key(
            script,
            !key.include.is_empty(),
            "the further columns of the key's index",
        );
        self.unread_of_parts(script, &entity.fields, &key.columns);
        entity.primary_key = Some(PrimaryKey { columns, name, origin: script.origin(place) });
    }

    fn unique(&mut self, script: &Script<'_>, unique: &UniqueConstraint, entity: &mut Entity) {
        let name = unique.name.as_ref().or(unique.index_name.as_ref()).map(|name| self.name(name));
        let parts: Vec<IndexPart> =
            unique.columns.iter().map(|column| self.part(&entity.fields, column)).collect();
        let place = unique.columns.first().map_or_else(Place::empty, place_of);
        self.unread_of_parts(script, &entity.fields, &unique.columns);
        // Of which more is said than plain columns is an index, not a constraint.
        if !parts.iter().all(IndexPart::is_plain) || !unique.include.is_empty() {
            let mut index = self.built(parts, name, script.origin(place));
            index.unique = true;
            index.include = unique.include.iter().map(|column| self.name(column)).collect();
            index.nulls_not_distinct = unique.nulls_distinct == NullsDistinctOption::NotDistinct;
            return entity.indexes.push(unless_given(&entity.table, index));
        }
        let columns: Vec<String> = parts.iter().filter_map(|part| part.column.clone()).collect();
        let own = format!("{}_{}_key", entity.table, columns.join("_"));
        let named_by = if name.as_ref().is_some_and(|name| *name != own) {
            NamedBy::Author
        } else {
            NamedBy::Server
        };
        entity.uniques.push(Unique {
            columns,
            name,
            named_by,
            deferrable: deferrable(unique.characteristics.as_ref()),
            nulls_not_distinct: unique.nulls_distinct == NullsDistinctOption::NotDistinct,
            origin: script.origin(place),
            ..Unique::default()
        });
    }

    fn index_of_table(
        &mut self,
        script: &Script<'_>,
        index: &IndexConstraint,
        entity: &mut Entity,
    ) {
        self.unread_of_parts(script, &entity.fields, &index.columns);
        let parts: Vec<IndexPart> =
            index.columns.iter().map(|column| self.part(&entity.fields, column)).collect();
        let name = index.name.as_ref().map(|name| self.name(name));
        let place = index.columns.first().map_or_else(Place::empty, place_of);
        let mut built = self.built(parts, name, script.origin(place));
        built.method = self.method(index.index_type.as_ref(), &index.index_options);
        entity.indexes.push(unless_given(&entity.table, built));
    }

    pub(super) fn create_index(&mut self, script: &Script<'_>, index: CreateIndex) {
        let table = self.address(&index.table_name);
        if self.parts.contains(&table) {
            return;
        }
        let Some(entity) = self.table(&table) else {
            let missing = Index::default();
            return self.step(script, Operation::AddIndex { table, index: missing });
        };
        let fields = entity.fields.clone();
        self.unread_of_parts(script, &fields, &index.columns);
        self.unread_of_key(script, !index.with.is_empty(), "how an index is stored (WITH)");
        let parts: Vec<IndexPart> =
            index.columns.iter().map(|column| self.part(&fields, column)).collect();
        let condition =
            index.predicate.as_ref().map(|condition| Box::new(self.expression(&fields, condition)));
        let name = index.name.as_ref().map(|name| self.stored_name(name));
        let place = index
            .name
            .as_ref()
            .and_then(|name| name.0.last()?.as_ident())
            .map_or_else(Place::empty, |name| name.span);
        let mut built = self.built(parts, name, script.origin(place));
        built.unique = index.unique;
        built.condition = condition;
        built.method = self.method(index.using.as_ref(), &index.index_options);
        built.include = index.include.iter().map(|column| self.name(column)).collect();
        built.nulls_not_distinct = index.nulls_distinct == Some(false);
        if index.if_not_exists && self.index_named(&built.name).is_some() {
            return;
        }
        let bare = self.stored_name(&index.table_name);
        let index = unless_given(&bare, built);
        self.step(script, Operation::AddIndex { table, index });
    }

    /// Names what a constraint says beside what the schema holds.
    pub(super) fn unread_of_key(&mut self, script: &Script<'_>, said: bool, what: &str) {
        if said {
            self.diagnostics.push(
                Diagnostic::of(&codes::UNREAD_OPTION, format!("not read: {what}"))
                    .at(Some(script.whole()), "in this statement"),
            );
        }
    }

    /// Names what is said at a place beside what the schema holds.
    pub(super) fn unread_at(&mut self, script: &Script<'_>, place: Place, what: &str) {
        self.diagnostics.push(
            Diagnostic::of(&codes::UNREAD_OPTION, format!("not read: {what}"))
                .at(Some(script.span(place)), "here"),
        );
    }

    /// Names what the keys of an index say beside what the schema holds.
    fn unread_of_parts(&mut self, script: &Script<'_>, fields: &[Field], columns: &[IndexColumn]) {
        let heads = columns.iter().any(|column| head_of(fields, &column.column.expr).is_some());
        self.unread_of_key(
            script,
            heads,
            "that an index holds the beginning of a column only; it is taken to hold the whole",
        );
        let nulls = columns.iter().any(|column| column.column.options.nulls_first.is_some());
        self.unread_of_key(script, nulls, "on which end of an index null stands");
    }

    fn built(&self, parts: Vec<IndexPart>, name: Option<String>, origin: Origin) -> Index {
        let named_by = if name.is_some() { NamedBy::Author } else { NamedBy::Server };
        Index {
            columns: parts.iter().filter_map(|part| part.column.clone()).collect(),
            parts,
            name,
            named_by,
            origin,
            ..Index::default()
        }
    }

    /// The table and the index of a name.
    fn index_named(&self, name: &Option<String>) -> Option<(&Entity, &Index)> {
        name.as_ref()?;
        self.tables.schema.entities.iter().find_map(|entity| {
            Some((entity, entity.indexes.iter().find(|index| index.name == *name)?))
        })
    }

    pub(super) fn drop_index(&mut self, script: &Script<'_>, name: &str, if_exists: bool) {
        match self
            .index_named(&Some(name.to_owned()))
            .map(|(entity, index)| (entity.address(), index.clone()))
        {
            Some((table, index)) => self.step(script, Operation::DropIndex { table, index }),
            None if if_exists => {}
            None => self.diagnostics.push(
                Diagnostic::of(
                    &codes::IMPOSSIBLE_STEP,
                    format!("this cannot be done where it stands: no index is called `{name}`"),
                )
                .at(Some(script.whole()), "this statement")
                .with_help("give all scripts of the history, in the order in which they are run"),
            ),
        }
    }

    fn part(&self, fields: &[Field], column: &IndexColumn) -> IndexPart {
        let mut expr = &column.column.expr;
        while let Expr::Nested(inner) = expr {
            expr = inner;
        }
        let mut part = match expr {
            Expr::Identifier(name) => IndexPart::column(self.name(name)),
            other if head_of(fields, other).is_some() => {
                IndexPart::column(head_of(fields, other).unwrap_or_default())
            }
            other => IndexPart {
                column: None,
                expression: Some(Box::new(self.expression(fields, other))),
                descending: false,
                operator_class: None,
            },
        };
        part.descending = matches!(column.column.options.sort, Some(OrderBySort::Desc));
        part.operator_class =
            column.operator_class.as_ref().map(|class| self.stored_name(class).into());
        part
    }

    fn columns(&self, fields: &[Field], columns: &[IndexColumn]) -> Vec<String> {
        let name = |column: &IndexColumn| match &column.column.expr {
            Expr::Identifier(name) => self.name(name),
            other => head_of(fields, other).unwrap_or_else(|| other.to_string()),
        };
        columns.iter().map(name).collect()
    }

    pub(super) fn foreign_key(
        &self,
        script: &Script<'_>,
        key: &ForeignKeyConstraint,
    ) -> ForeignKey {
        let names =
            |names: &[Ident]| -> Vec<String> { names.iter().map(|name| self.name(name)).collect() };
        let table = self.stored_name(&key.foreign_table);
        let referred = names(&key.referred_columns);
        let own_key = || {
            self.table(&self.address(&key.foreign_table))
                .map_or(vec!["id".to_owned()], |entity| entity.key_columns().to_vec())
        };
        ForeignKey {
            columns: names(&key.columns),
            references: References {
                columns: if referred.is_empty() { own_key() } else { referred },
                namespace: self.namespace(&key.foreign_table),
                table,
            },
            on_delete: self.action(key.on_delete),
            on_update: self.action(key.on_update),
            deferrable: deferrable(key.characteristics.as_ref()),
            enforced: Default::default(),
            name: key.name.as_ref().map(|name| self.name(name)),
            origin: script.origin(key.columns.first().map_or_else(Place::empty, |name| name.span)),
        }
    }
}

impl Reader {
    /// What is done to a reference. MariaDB keeps no `SET DEFAULT`: it refuses instead (as seen in
    /// 10.11.19 and 11.8.9).
    fn action(&self, said: Option<ReferentialAction>) -> Action {
        match action(said) {
            Action::SetDefault if self.database == Database::MariaDb => Action::Restrict,
            other => other,
        }
    }

    /// The access method, unless it is the usual one; InnoDB has no other (as seen in MySQL 9.7.4).
    fn method(&self, method: Option<&IndexType>, options: &[IndexOption]) -> Option<String> {
        if self.database.is_mysql() {
            return None;
        }
        let method = method.or_else(|| used(options));
        method.map(|method| method.to_string().to_lowercase()).filter(|method| method != "btree")
    }
}

/// An index whose name is the one that it gets without one.
fn unless_given(table: &str, mut index: Index) -> Index {
    if index.name.as_ref().is_some_and(|name| *name == default_index_name(table, &index)) {
        index.named_by = NamedBy::Server;
    }
    index
}

/// The column whose beginning MySQL indexes: `name(10)`.
fn head_of(fields: &[Field], expression: &Expr) -> Option<String> {
    let Expr::Function(function) = expression else { return None };
    let name = function.name.to_string().trim_matches('`').to_owned();
    fields.iter().any(|field| field.column == name).then_some(name)
}

fn place_of(column: &IndexColumn) -> Place {
    match &column.column.expr {
        Expr::Identifier(name) => name.span,
        _ => Place::empty(),
    }
}

fn used(options: &[IndexOption]) -> Option<&IndexType> {
    options.iter().find_map(|option| match option {
        IndexOption::Using(method) => Some(method),
        IndexOption::Comment(_) => None,
    })
}

fn action(action: Option<ReferentialAction>) -> Action {
    match action {
        None | Some(ReferentialAction::NoAction) => Action::NoAction,
        Some(ReferentialAction::Restrict) => Action::Restrict,
        Some(ReferentialAction::Cascade) => Action::Cascade,
        Some(ReferentialAction::SetNull) => Action::SetNull,
        Some(ReferentialAction::SetDefault) => Action::SetDefault,
    }
}

fn is_note(key: &ForeignKeyConstraint) -> bool {
    key.characteristics
        .as_ref()
        .is_some_and(|characteristics| characteristics.enforced == Some(false))
}

pub(super) fn deferrable(
    characteristics: Option<&ConstraintCharacteristics>,
) -> Option<Deferrable> {
    let characteristics = characteristics?;
    match (characteristics.deferrable, characteristics.initially) {
        (Some(false), _) => None,
        (_, Some(DeferrableInitial::Deferred)) => Some(Deferrable::InitiallyDeferred),
        (Some(true), _) => Some(Deferrable::InitiallyImmediate),
        (None, _) => None,
    }
}
