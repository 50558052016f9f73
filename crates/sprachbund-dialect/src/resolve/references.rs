//! Foreign keys that columns declare, and the relations that use them.

use super::entity::Builder;
use crate::codes;
use crate::decision::Decision;
use crate::decision::action::{Checked, OnDelete, OnUpdate};
use crate::declaration::{Attribute, ReferenceDeclaration, RelationDeclaration};
use crate::diagnostic::Diagnostic;
use crate::schema::{
    EnforcedBy, ForeignKey, Origin, Part, References, RelationKind, Type, address,
};

impl Builder<'_, '_, '_> {
    /// The foreign key of a column, or of several for the class as a whole.
    pub(super) fn reference(&mut self, columns: &[String], declared: &ReferenceDeclaration) {
        let columns: Vec<String> = columns
            .iter()
            .flat_map(|name| self.column_of(name).unwrap_or_else(|| vec![name.clone()]))
            .collect();
        let unknown = |column: &String| {
            self.entity
                .field(column)
                .is_some_and(|field| field.r#type == Type::Native("unknown".into()))
        };
        if columns.iter().any(unknown) {
            return self.unknown_target(declared);
        }
        let conventions = self.resolver.conventions;
        let optional = self.is_optional(&columns);
        self.entity.foreign_keys.push(ForeignKey {
            columns,
            references: References {
                table: declared.table.clone(),
                namespace: declared.namespace.clone(),
                columns: declared.references.clone(),
            },
            on_delete: OnDelete { conventions, optional }.fill(declared.on_delete),
            on_update: OnUpdate { conventions }.fill(declared.on_update),
            deferrable: Checked { conventions }.fill(declared.deferrable.map(Some)),
            enforced: EnforcedBy::Database,
            name: declared.name.clone(),
            origin: self.resolver.origin(declared.span, "declared with its column"),
        });
    }

    fn unknown_target(&mut self, declared: &ReferenceDeclaration) {
        let target = format!("{}.{}", declared.table, declared.references.join(", "));
        let message =
            format!("`{}` refers to the column `{target}`, which nobody declares", self.model.name);
        self.diagnostics.push(
            Diagnostic::of(&codes::UNDECLARED_TARGET, message)
                .at(declared.span, "refers to nothing known")
                .because(
                    "the column has no type of its own: it would have that of the column it \
                     refers to",
                )
                .with_help(
                    "add the file that declares it to the inputs, or name its package with \
                     --follow",
                ),
        );
    }

    /// A relation over a foreign key that its columns declare, or over columns that the application
    /// alone keeps.
    pub(super) fn relation_over_columns(&mut self, declared: &RelationDeclaration) {
        if self.resolver.model(&declared.target).is_none() {
            return self.undeclared(declared);
        }
        let names: Vec<String> = declared
            .join_columns
            .iter()
            .filter_map(|join| join.name.as_deref())
            .flat_map(|name| self.stored(name))
            .collect();
        if declared.constraint == Some(false) {
            self.unenforced(declared, &names);
        }
        let tables = self.tables_of(&declared.target);
        let named = |key: &ForeignKey| {
            if names.is_empty() {
                key.enforced == EnforcedBy::Database
            } else {
                key.columns == names
            }
        };
        let fits = |key: &&ForeignKey| tables.contains(&key.references.address()) && named(key);
        let found: Vec<&ForeignKey> = self.entity.foreign_keys.iter().filter(fits).collect();
        let several = names.is_empty() && found.len() + self.keys_back(&declared.target) > 1;
        let Some(columns) = found.first().filter(|_| !several).map(|key| key.columns.clone())
        else {
            let called =
                format!("`{}.{}`", self.model.name, declared.name.as_deref().unwrap_or_default());
            let (message, label, help) = match several {
                true => (
                    format!("several foreign keys could stand behind {called}"),
                    "which one is not said",
                    "name its column with `foreign_keys`",
                ),
                false => (
                    format!("{called} has no foreign key to stand on"),
                    "no column here refers to the other table",
                    "give a column of this class a foreign key to it",
                ),
            };
            let diagnostic = Diagnostic::of(&codes::RELATION_WITHOUT_REFERENCE, message);
            self.diagnostics.push(diagnostic.at(declared.span, label).with_help(help));
            return;
        };
        let relation = self.relation_of(declared, columns, false);
        self.entity.relations.push(relation);
    }

    /// How many foreign keys lead from the other class here.
    fn keys_back(&self, target: &str) -> usize {
        let Some((at, target)) =
            self.resolver.model(target).filter(|(_, target)| target.id != self.model.id)
        else {
            return 0;
        };
        let own = self.entity.address();
        let here = |reference: &ReferenceDeclaration| {
            address(reference.namespace.as_deref(), &reference.table) == own
        };
        let of_columns = self.resolver.attributes(at).filter(|attribute| {
            matches!(attribute, Attribute::Field(field)
                if field.reference.as_deref().is_some_and(here))
        });
        of_columns.count() + target.references.iter().filter(|reference| here(reference)).count()
    }

    fn stored(&self, name: &str) -> Vec<String> {
        self.column_of(name).unwrap_or_else(|| vec![name.to_owned()])
    }

    /// The tables of a class and of those whose tables it joins.
    fn tables_of(&self, id: &str) -> Vec<String> {
        let mut tables = Vec::new();
        let mut next = self.resolver.model(id);
        while let Some((at, model)) = next {
            tables.push(address(model.namespace.as_deref(), &self.resolver.table(model)));
            next = self
                .resolver
                .parent(at)
                .filter(|_| tables.len() < 16)
                .and_then(|parent| self.resolver.model(&parent.id));
        }
        tables
    }

    fn unenforced(&mut self, declared: &RelationDeclaration, columns: &[String]) {
        let Some((at, target)) = self.resolver.model(&declared.target) else { return };
        let written: Vec<String> =
            declared.join_columns.iter().filter_map(|join| join.references.clone()).collect();
        let referenced = if written.is_empty() {
            self.resolver.key(at).into_iter().map(|key| key.column).collect()
        } else {
            written
        };
        self.entity.foreign_keys.push(ForeignKey {
            columns: columns.to_vec(),
            references: References {
                table: self.resolver.table(target),
                namespace: target.namespace.clone(),
                columns: referenced,
            },
            on_delete: Default::default(),
            on_update: Default::default(),
            deferrable: None,
            enforced: EnforcedBy::Application,
            name: None,
            origin: self.resolver.origin(declared.span, "kept by the application"),
        });
    }

    /// Foreign keys that no relation uses stand for relations without a name.
    pub(super) fn unnamed_relations(&mut self) {
        for at in 0..self.entity.foreign_keys.len() {
            let key = &self.entity.foreign_keys[at];
            let known =
                self.entity.relations.iter().any(|relation| relation.columns == key.columns);
            let target =
                self.resolver.at_table(key.references.namespace.as_deref(), &key.references.table);
            let Some(target) = target.filter(|_| !known) else { continue };
            let columns = key.columns.clone();
            let kind = if self.entity.is_unique(&columns) {
                RelationKind::OneToOne
            } else {
                RelationKind::ManyToOne
            };
            let declared =
                RelationDeclaration::new(None, kind, self.resolver.models[target].id.clone());
            let mut relation = self.relation_of(&declared, columns, true);
            relation.implied.remove(Part::Inverse);
            relation.origin = Origin::implied("a foreign key that no relation uses");
            self.entity.relations.push(relation);
        }
    }
}
