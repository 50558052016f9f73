//! One relation, on either side, to a decorated property.

use super::{Printer, deferrable_word};
use crate::declaration::{InverseDeclaration, InverseKind, JoinColumn, RelationDeclaration};
use crate::dialect::source_text::SourceText;
use crate::quoting::typescript::{literal, member_access, parameter, property_key, text};
use crate::read::KEY_NAME;
use crate::schema::RelationKind;

impl Printer<'_> {
    pub(super) fn relation(&mut self, relation: &RelationDeclaration, body: &mut SourceText) {
        let class = self.class(&relation.target);
        let name = relation.name.as_deref().unwrap_or_default();
        if relation.carrier.key {
            let key = self.decorator("PrimaryColumn");
            let named = self
                .model
                .key_name
                .as_ref()
                .map_or(String::new(), |name| format!("{{ {KEY_NAME}: {} }}", text(name)));
            body.line(2, &format!("@{key}({named})"));
        }
        if relation.carrier.indexed == Some(true) {
            let index = self.decorator("Index");
            body.line(2, &format!("@{index}()"));
        }
        let decorator = self.decorator(match relation.kind {
            RelationKind::ManyToOne => "ManyToOne",
            RelationKind::OneToOne => "OneToOne",
            RelationKind::ManyToMany => "ManyToMany",
        });
        let mut first = format!("() => {class}");
        if let Some(inverse) = self.inverse_of(&self.model.id, name) {
            first.push_str(&format!(", {}", property(&class, &inverse)));
        }
        let options = options(relation);
        self.decorate(decorator, Some(first), &options, body);
        self.join(relation, body);
        let (many, null) = (
            if relation.kind == RelationKind::ManyToMany { "[]" } else { "" },
            relation.carrier.optional_in_code == Some(true),
        );
        body.line(
            2,
            &format!(
                "{}!: {class}{many}{};",
                property_key(name),
                if null { " | null" } else { "" }
            ),
        );
    }

    /// The property of the target that leads back along the relation.
    fn inverse_of(&self, owner: &str, name: &str) -> Option<String> {
        self.inverses.get(&(owner, name)).map(|inverse| (*inverse).to_owned())
    }

    fn join(&mut self, relation: &RelationDeclaration, body: &mut SourceText) {
        match relation.kind {
            RelationKind::ManyToMany => {
                let table = &relation.join_table;
                let mut options = Vec::new();
                options.extend(table.name.as_ref().map(|name| format!("name: {}", text(name))));
                options
                    .extend(table.namespace.as_ref().map(|name| format!("schema: {}", text(name))));
                for (option, column) in
                    [("joinColumn", &table.column), ("inverseJoinColumn", &table.inverse_column)]
                {
                    if *column != JoinColumn::default() {
                        options.push(format!("{option}: {{ {} }}", join_column(column).join(", ")));
                    }
                }
                let decorator = self.decorator("JoinTable");
                self.decorate(decorator, None, &options, body);
            }
            RelationKind::ManyToOne | RelationKind::OneToOne => {
                match relation.join_columns.as_slice() {
                    [] if relation.kind == RelationKind::ManyToOne => {}
                    [] => {
                        let decorator = self.decorator("JoinColumn");
                        body.line(2, &format!("@{decorator}()"));
                    }
                    [column] => {
                        let decorator = self.decorator("JoinColumn");
                        self.decorate(decorator, None, &join_column(column), body);
                    }
                    several => {
                        let decorator = self.decorator("JoinColumn");
                        let items: Vec<String> = several
                            .iter()
                            .map(|column| format!("{{ {} }}", join_column(column).join(", ")))
                            .collect();
                        body.list(2, &format!("@{decorator}(["), &items, "])");
                    }
                }
            }
        }
    }

    pub(super) fn inverse(&mut self, inverse: &InverseDeclaration, body: &mut SourceText) {
        let class = self.class(&inverse.target);
        let (decorator, many) = match inverse.kind {
            InverseKind::OneToMany => ("OneToMany", "[]"),
            InverseKind::OneToOne => ("OneToOne", " | null"),
            InverseKind::ManyToMany => ("ManyToMany", "[]"),
        };
        let decorator = self.decorator(decorator);
        let first = format!("() => {class}, {}", property(&class, &inverse.owner));
        let options: Vec<String> = inverse
            .extras
            .iter()
            .map(|(name, value)| format!("{}: {}", property_key(name), literal(value)))
            .collect();
        self.decorate(decorator, Some(first), &options, body);
        body.line(2, &format!("{}!: {class}{many};", property_key(&inverse.name)));
    }
}

fn property(class: &str, name: &str) -> String {
    let parameter = parameter(class);
    format!("({parameter}) => {parameter}{}", member_access(name))
}

fn join_column(column: &JoinColumn) -> Vec<String> {
    let mut options = Vec::new();
    options.extend(column.name.as_ref().map(|name| format!("name: {}", text(name))));
    options.extend(
        column.references.as_ref().map(|name| format!("referencedColumnName: {}", text(name))),
    );
    options.extend(
        column
            .constraint_name
            .as_ref()
            .map(|name| format!("foreignKeyConstraintName: {}", text(name))),
    );
    options
}

fn options(relation: &RelationDeclaration) -> Vec<String> {
    let mut options = Vec::new();
    options.extend(relation.carrier.nullable.map(|nullable| format!("nullable: {nullable}")));
    options.extend(relation.on_delete.map(|action| format!("onDelete: '{}'", action.sql())));
    options.extend(relation.on_update.map(|action| format!("onUpdate: '{}'", action.sql())));
    options.extend(
        relation
            .deferrable
            .map(|deferrable| format!("deferrable: '{}'", deferrable_word(deferrable))),
    );
    options.extend(
        relation.constraint.map(|constraint| format!("createForeignKeyConstraints: {constraint}")),
    );
    options.extend(
        relation
            .extras
            .iter()
            .map(|(name, value)| format!("{}: {}", property_key(name), literal(value))),
    );
    options
}
