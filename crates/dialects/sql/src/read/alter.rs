//! `ALTER TABLE` and `ALTER TYPE`.

use sqlparser::ast::{
    AlterColumnOperation, AlterTableOperation, AlterType, AlterTypeAddValuePosition,
    AlterTypeOperation, ColumnDef, ColumnOption, ColumnOptionDef, DataType, GeneratedAs, Ident,
    RenameTableNameKind, TableConstraint,
};

use sqlparser::tokenizer::Span as Place;

use super::changes::{Change, Changes};
use super::{Reader, Script, reason};
use crate::codes;
use crate::diagnostic::Diagnostic;
use crate::history::{Operation, additions, impossible};
use crate::schema::{Check, Database, Entity, EnumMember, Field, Identity, NamedBy, address};

impl Reader {
    pub(super) fn alter_table(&mut self, script: &Script<'_>, changes: Changes) {
        let mut table = self.address(&changes.name);
        let left_out = self.parts.contains(&table);
        if left_out || (self.table(&table).is_none() && changes.if_exists) {
            return;
        }
        let renames = self.swapped(script, &table, &changes.changes);
        for (place, change) in changes.changes {
            let renamed = match change {
                Change::Parsed(operation)
                    if renames
                        && matches!(*operation, AlterTableOperation::RenameColumn { .. }) =>
                {
                    None
                }
                Change::Parsed(operation) => self.change(script, &table, *operation),
                other => self.change_apart(script, &table, place, other),
            };
            table = renamed.unwrap_or(table);
        }
    }

    /// Renames columns that take each other's names, all at once; whether there were such.
    fn swapped(&mut self, script: &Script<'_>, table: &str, changes: &[(Place, Change)]) -> bool {
        let renames: Vec<(String, String)> = changes
            .iter()
            .filter_map(|(_, change)| match change {
                Change::Parsed(operation) => match operation.as_ref() {
                    AlterTableOperation::RenameColumn { old_column_name, new_column_name } => {
                        Some((self.name(old_column_name), self.name(new_column_name)))
                    }
                    _ => None,
                },
                _ => None,
            })
            .collect();
        let is_taken = |name: &String| renames.iter().any(|(from, _)| from == name);
        if !renames.iter().any(|(_, to)| is_taken(to)) {
            return false;
        }
        let between = |at: usize| format!("\u{0}{at}");
        let rename = |column: String, to: String| {
            let table = table.to_owned();
            Operation::RenameColumn { table, column, to }
        };
        for (at, (from, _)) in renames.iter().enumerate() {
            self.step(script, rename(from.clone(), between(at)));
        }
        for (at, (_, to)) in renames.into_iter().enumerate() {
            self.step(script, rename(between(at), to));
        }
        true
    }

    /// A change that the parser does not know; the table's new address when it was moved.
    fn change_apart(
        &mut self,
        script: &Script<'_>,
        table: &str,
        place: Place,
        change: Change,
    ) -> Option<String> {
        match change {
            Change::Parsed(_) | Change::Nothing => {}
            Change::Beside(what) => self.unread_at(script, place, what),
            Change::RenameIndex { from, to } => {
                self.rename_index(table, &self.name(&from), self.name(&to))
            }
            Change::DropIdentity(column) => {
                self.changed(script, table, &column, |field| field.identity = None)
            }
            Change::DropExpression(column) => {
                self.changed(script, table, &column, |field| field.generated = None)
            }
            Change::SetExpression(column, expression) => {
                let expression = self.expression(&[], &expression);
                self.changed(script, table, &column, |field| {
                    if let Some(generated) = &mut field.generated {
                        generated.expression = expression;
                    }
                });
            }
            Change::NotNull(column) => {
                self.changed(script, table, &column, |field| field.nullable = false)
            }
            Change::Comment(text) => {
                let text = Some(text).filter(|text| !text.is_empty());
                let table = table.to_owned();
                self.step(script, Operation::Comment { table, column: None, text });
            }
            Change::Unenforced(name) => {
                self.drop_constraint(script, table, &self.name(&name), false);
                self.unread_of_key(script, true, "a check that is not enforced");
            }
            Change::ToNamespace(name) => {
                let name = self.name(&name);
                let namespace = (name != "public").then_some(name);
                return self.tables.move_to(table, namespace);
            }
            Change::Attach(part) => {
                let part = self.address(&part);
                if self.table(&part).is_some() {
                    self.step(script, Operation::DropTable { table: part.clone() });
                }
                self.left_out.push((format!("part `{part}`"), script.whole()));
                self.parts.insert(part);
            }
            Change::Unparsed(text, error) => {
                let message = format!("`{text}` of `{table}` was not read ({})", reason(&error));
                let unread = Diagnostic::of(&codes::UNREAD_CHANGE, message);
                self.diagnostics.push(unread.at(Some(script.span(place)), "this change"));
            }
        }
        None
    }

    /// Changes a column of a table.
    fn changed(
        &mut self,
        script: &Script<'_>,
        table: &str,
        column: &Ident,
        change: impl FnOnce(&mut Field),
    ) {
        let column = self.name(column);
        let Some(mut field) = self.table(table).and_then(|entity| entity.field(&column)).cloned()
        else {
            let why = format!("`{table}` has no column `{column}`");
            self.diagnostics.push(impossible(&why, script.whole(), "this statement"));
            return;
        };
        change(&mut field);
        let table = table.to_owned();
        self.step(script, Operation::AlterColumn { table, column, field: Box::new(field) });
    }

    fn rename_index(&mut self, table: &str, from: &str, to: String) {
        let Some(entity) = self.tables.get_mut(table) else { return };
        let indexes = entity.indexes.iter_mut().map(|index| (&mut index.name, &mut index.named_by));
        let uniques = entity.uniques.iter_mut();
        let uniques = uniques.map(|unique| (&mut unique.name, &mut unique.named_by));
        for (name, named_by) in indexes.chain(uniques) {
            if name.as_deref() == Some(from) {
                (*name, *named_by) = (Some(to.clone()), NamedBy::Author);
            }
        }
    }

    /// One change; the table's new name when it was renamed.
    fn change(
        &mut self,
        script: &Script<'_>,
        table: &str,
        operation: AlterTableOperation,
    ) -> Option<String> {
        let table = table.to_owned();
        match operation {
            AlterTableOperation::AddColumn { column_def, if_not_exists, .. } => {
                let known = self
                    .table(&table)
                    .is_some_and(|entity| entity.field(&self.name(&column_def.name)).is_some());
                if !(if_not_exists && known) {
                    self.add_column(script, &table, &column_def);
                }
            }
            AlterTableOperation::AddConstraint { constraint, .. } => {
                self.add_constraint(script, &table, &constraint)
            }
            AlterTableOperation::DropConstraint { name, if_exists, .. } => {
                self.drop_constraint(script, &table, &self.name(&name), if_exists)
            }
            AlterTableOperation::DropForeignKey { name, .. } => {
                self.drop_constraint(script, &table, &self.name(&name), false)
            }
            AlterTableOperation::DropPrimaryKey { .. } => {
                self.step(script, Operation::SetKey { table, key: None })
            }
            AlterTableOperation::DropIndex { name } => {
                self.drop_index_of(script, &table, &self.name(&name))
            }
            AlterTableOperation::DropColumn { column_names, if_exists, .. } => {
                self.drop_columns(script, &table, column_names, if_exists)
            }
            AlterTableOperation::RenameColumn { old_column_name, new_column_name } => {
                let (column, to) = (self.name(&old_column_name), self.name(&new_column_name));
                self.step(script, Operation::RenameColumn { table, column, to });
            }
            AlterTableOperation::RenameTable {
                table_name: RenameTableNameKind::As(to) | RenameTableNameKind::To(to),
            } => {
                let to = self.stored_name(&to);
                let namespace = self.table(&table).and_then(|entity| entity.namespace.clone());
                self.step(script, Operation::RenameTable { table, to: to.clone() });
                return Some(address(namespace.as_deref(), &to));
            }
            AlterTableOperation::RenameConstraint { old_name, new_name } => {
                self.rename_constraint(&table, &self.name(&old_name), self.name(&new_name))
            }
            AlterTableOperation::ChangeColumn {
                old_name, new_name, data_type, options, ..
            } => {
                self.change_column(script, &table, &old_name, &new_name, data_type, options);
            }
            AlterTableOperation::ModifyColumn { col_name, data_type, options, .. } => {
                self.change_column(script, &table, &col_name, &col_name, data_type, options);
            }
            AlterTableOperation::AlterColumn { column_name, op } => {
                self.alter_column(script, &table, &self.name(&column_name), op)
            }
            // Who owns a table, who sees its rows and which triggers fire changes no column.
            AlterTableOperation::OwnerTo { .. }
            | AlterTableOperation::ReplicaIdentity { .. }
            | AlterTableOperation::DisableRowLevelSecurity
            | AlterTableOperation::EnableRowLevelSecurity
            | AlterTableOperation::ForceRowLevelSecurity
            | AlterTableOperation::NoForceRowLevelSecurity
            | AlterTableOperation::DisableTrigger { .. }
            | AlterTableOperation::EnableTrigger { .. }
            | AlterTableOperation::EnableAlwaysTrigger { .. }
            | AlterTableOperation::EnableReplicaTrigger { .. } => {}
            other => {
                let message = format!("`{other}` of `{table}` was not read");
                let unread = Diagnostic::of(&codes::UNREAD_CHANGE, message);
                self.diagnostics.push(unread.at(Some(script.whole()), "in this statement"));
            }
        }
        None
    }

    /// What is unique is dropped under the name of its index, too.
    fn drop_index_of(&mut self, script: &Script<'_>, table: &str, name: &str) {
        let is_unique = |entity: &Entity| {
            entity.uniques.iter().any(|unique| unique.name.as_deref() == Some(name))
        };
        if self.table(table).is_some_and(is_unique) {
            self.drop_constraint(script, table, name, false);
        } else {
            self.drop_index(script, name, false);
        }
    }

    fn drop_columns(
        &mut self,
        script: &Script<'_>,
        table: &str,
        columns: Vec<Ident>,
        if_exists: bool,
    ) {
        for column in columns {
            let column = self.name(&column);
            if !if_exists || self.table(table).is_some_and(|entity| entity.field(&column).is_some())
            {
                self.step(script, Operation::DropColumn { table: table.to_owned(), column });
            }
        }
    }

    fn add_column(&mut self, script: &Script<'_>, table: &str, column: &ColumnDef) {
        let field = self.field(script, column, table);
        let mut probe = self.probe(table);
        probe.fields = self.table(table).map_or_else(Vec::new, |entity| entity.fields.clone());
        probe.fields.push(field.clone());
        self.step(script, Operation::AddColumn { table: table.to_owned(), field: Box::new(field) });
        self.column_constraints(script, column, &mut probe);
        self.take_over(script, table, probe);
    }

    /// An empty table that takes up what is added to another.
    fn probe(&self, table: &str) -> Entity {
        Entity::stored(
            None,
            self.table(table).map_or(table, |entity| &entity.table),
            Default::default(),
        )
    }

    fn add_constraint(&mut self, script: &Script<'_>, table: &str, constraint: &TableConstraint) {
        let mut probe = self.probe(table);
        probe.fields = self.table(table).map_or_else(Vec::new, |entity| entity.fields.clone());
        self.constraint(script, constraint, &mut probe);
        self.take_over(script, table, probe);
    }

    /// Takes the steps that add what a probe holds.
    fn take_over(&mut self, script: &Script<'_>, table: &str, probe: Entity) {
        let bare = Entity { fields: probe.fields.clone(), ..self.probe(table) };
        let steps = additions(table, &bare, probe);
        steps.into_iter().for_each(|step| self.step(script, step));
    }

    /// The name may be any constraint's; servers name those that nobody named.
    fn drop_constraint(&mut self, script: &Script<'_>, table: &str, name: &str, if_exists: bool) {
        let table = table.to_owned();
        let Some(entity) = self.table(&table) else {
            return self.step(script, Operation::SetKey { table, key: None });
        };
        let given = |own: &Option<String>, tail: &str, columns: &[String]| {
            own.as_deref().map_or_else(
                || name == format!("{}_{}_{tail}", entity.table, columns.join("_")),
                |own| own == name,
            )
        };
        let step = if let Some(unique) =
            entity.uniques.iter().find(|unique| given(&unique.name, "key", &unique.columns))
        {
            Operation::DropUnique { unique: unique.clone(), table }
        } else if let Some(key) =
            entity.foreign_keys.iter().find(|key| given(&key.name, "fkey", &key.columns))
        {
            Operation::DropForeignKey { key: key.clone(), table }
        } else if let Some(check) =
            entity.checks.iter().find(|check| given(&check.name, "check", &own_columns(check)))
        {
            Operation::DropCheck { check: check.clone(), table }
        } else if entity.primary_key.as_ref().is_some_and(|key| {
            given(&key.name, "", &[]) || name == format!("{}_pkey", entity.table)
        }) {
            Operation::SetKey { table, key: None }
        } else {
            if !if_exists {
                let why = format!("`{table}` has no constraint `{name}`");
                self.diagnostics.push(impossible(&why, script.whole(), "this statement"));
            }
            return;
        };
        self.step(script, step);
    }

    fn rename_constraint(&mut self, table: &str, from: &str, to: String) {
        let Some(entity) = self.tables.get_mut(table) else { return };
        let names = entity.uniques.iter_mut().map(|unique| &mut unique.name);
        let names = names.chain(entity.foreign_keys.iter_mut().map(|key| &mut key.name));
        let names = names.chain(entity.checks.iter_mut().map(|check| &mut check.name));
        for name in names.chain(entity.primary_key.iter_mut().map(|key| &mut key.name)) {
            if name.as_deref() == Some(from) {
                *name = Some(to.clone());
            }
        }
    }

    fn change_column(
        &mut self,
        script: &Script<'_>,
        table: &str,
        old: &Ident,
        new: &Ident,
        data_type: DataType,
        options: Vec<ColumnOption>,
    ) {
        let (column, to) = (self.name(old), self.name(new));
        if column != to {
            let (table, to) = (table.to_owned(), to.clone());
            self.step(script, Operation::RenameColumn { table, column, to });
        }
        let options =
            options.into_iter().map(|option| ColumnOptionDef { name: None, option }).collect();
        let definition = ColumnDef { name: new.clone(), data_type, options };
        let mut field = self.field(script, &definition, table);
        self.drop_checks_of_column(script, table, &to);
        let in_key =
            self.table(table).is_some_and(|entity| entity.key_columns().contains(&field.column));
        field.nullable &= !in_key;
        let column = field.column.clone();
        self.step(
            script,
            Operation::AlterColumn { table: table.to_owned(), column, field: Box::new(field) },
        );
        let mut probe = self.probe(table);
        probe.fields = self.table(table).map_or_else(Vec::new, |entity| entity.fields.clone());
        self.column_constraints(script, &definition, &mut probe);
        self.take_over(script, table, probe);
    }

    /// The checks of a column go with any change that does not repeat them (MariaDB 10.11.19 and
    /// 11.8.9); they have no names.
    fn drop_checks_of_column(&mut self, script: &Script<'_>, table: &str, column: &str) {
        if self.database != Database::MariaDb {
            return;
        }
        let of_column = |check: &&Check| {
            check.name.is_none() && check.expression.columns().iter().all(|own| *own == column)
        };
        let checks = self.table(table).map(|entity| entity.checks.iter().filter(of_column));
        let checks: Vec<Check> = checks.into_iter().flatten().cloned().collect();
        for check in checks {
            self.step(script, Operation::DropCheck { table: table.to_owned(), check });
        }
    }

    fn alter_column(
        &mut self,
        script: &Script<'_>,
        table: &str,
        column: &str,
        change: AlterColumnOperation,
    ) {
        let known = self.table(table).and_then(|entity| entity.field(column)).cloned();
        let mut field = known.unwrap_or_else(|| {
            Field::plain(None, column.to_owned(), crate::schema::Type::Text, "".into())
        });
        match change {
            AlterColumnOperation::SetNotNull => field.nullable = false,
            AlterColumnOperation::DropNotNull => field.nullable = true,
            AlterColumnOperation::SetDefault { value } => self.default(&mut field, &value),
            AlterColumnOperation::DropDefault => {
                field.defaults.database = None;
                field.identity = field.identity.filter(|identity| *identity != Identity::Sequence);
            }
            AlterColumnOperation::SetDataType { data_type, .. } => {
                let (ty, stored) = self.column_type(script, &data_type, table, column);
                (field.r#type, field.stored) = (ty, stored.into());
            }
            AlterColumnOperation::AddGenerated { generated_as, .. } => {
                field.identity = Some(if generated_as == Some(GeneratedAs::Always) {
                    Identity::Always
                } else {
                    Identity::ByDefault
                });
            }
            AlterColumnOperation::GenericOptions { .. } => return,
        }
        self.step(
            script,
            Operation::AlterColumn {
                table: table.to_owned(),
                column: column.to_owned(),
                field: Box::new(field),
            },
        );
    }

    pub(super) fn alter_type(&mut self, script: &Script<'_>, change: AlterType) {
        let name = self.stored_name(&change.name);
        let Some(known) = self.tables.schema.enums.iter_mut().find(|known| known.name == name)
        else {
            return;
        };
        match change.operation {
            AlterTypeOperation::AddValue(added) => {
                let value = added.value.value;
                let member = EnumMember {
                    name: value.clone(),
                    value: value.into(),
                    ..EnumMember::default()
                };
                let place = |wanted: &Ident| {
                    known
                        .members
                        .iter()
                        .position(|member| member.value.as_str() == Some(wanted.value.as_str()))
                };
                let at = match &added.position {
                    Some(AlterTypeAddValuePosition::Before(other)) => place(other),
                    Some(AlterTypeAddValuePosition::After(other)) => place(other).map(|at| at + 1),
                    None => None,
                };
                known.members.insert(at.unwrap_or(known.members.len()), member);
            }
            AlterTypeOperation::RenameValue(renamed) => {
                for member in known
                    .members
                    .iter_mut()
                    .filter(|member| member.value.as_str() == Some(renamed.from.value.as_str()))
                {
                    (member.name, member.value) =
                        (renamed.to.value.clone(), renamed.to.value.clone().into());
                }
            }
            AlterTypeOperation::Rename(_) => self.diagnostics.push(
                Diagnostic::of(
                    &codes::UNREAD_CHANGE,
                    format!("the new name of the type `{name}` was not read"),
                )
                .at(Some(script.whole()), "in this statement"),
            ),
        }
    }
}

/// The columns of a check, by which PostgreSQL names it.
fn own_columns(check: &crate::schema::Check) -> Vec<String> {
    check.expression.columns().into_iter().map(str::to_owned).collect()
}
