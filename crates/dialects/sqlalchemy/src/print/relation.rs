//! Both sides of a relation to `relationship(...)`.

use super::{Printer, column_name, keywords, relation_named};
use crate::declaration::{
    Attribute, InverseDeclaration, InverseKind, JoinColumn, Model, ReferenceDeclaration,
    RelationDeclaration,
};
use crate::dialect::source_text::SourceText;
use crate::quoting::python::text;
use crate::read::DELETE;
use crate::schema::{Action, RelationKind, address};

impl Printer<'_> {
    pub(super) fn relation(
        &mut self,
        model: &Model,
        relation: &RelationDeclaration,
        body: &mut SourceText,
    ) {
        let Some(name) = &relation.name else { return };
        let many = relation.kind == RelationKind::ManyToMany;
        let mut arguments = Vec::new();
        let inverse = self
            .known
            .inverses
            .get(&(model.id.as_str(), name.as_str()))
            .map(|inverse| inverse.name.clone());
        if let Some(table) = relation.through.as_ref().and_then(|id| self.model_of(id)) {
            self.through(model, relation, table, true, &mut arguments);
        }
        arguments.extend(inverse.map(|inverse| format!("back_populates={}", text(&inverse))));
        if !many {
            if relation.constraint == Some(false) {
                arguments.push(self.condition(model, relation));
            }
            if !relation.join_columns.is_empty() {
                let columns: Vec<String> =
                    relation.join_columns.iter().filter_map(|join| join.name.clone()).collect();
                arguments.push(format!("foreign_keys={}", self.attributes(&model.id, &columns)));
            }
            if relation.target == model.id {
                arguments.push(format!(
                    "remote_side={}",
                    self.attributes(&model.id, &referred(model, relation))
                ));
            }
        }
        arguments.extend(keywords(&relation.extras));
        let optional = relation.carrier.optional_in_code == Some(true);
        self.side(name, &relation.target, (many, optional, true), &arguments, body);
    }

    pub(super) fn inverse(
        &mut self,
        model: &Model,
        inverse: &InverseDeclaration,
        body: &mut SourceText,
    ) {
        let mut arguments = Vec::new();
        let owner = self.model_of(&inverse.target);
        let relation = owner.and_then(|owner| match inverse.owner.is_empty() {
            false => relation_named(owner, &inverse.owner),
            true => unnamed(owner, &inverse.columns),
        });
        if inverse.kind == InverseKind::ManyToMany
            && let (Some(relation), Some(owner)) = (relation, owner)
            && let Some(table) = relation.through.as_ref().and_then(|id| self.model_of(id))
        {
            self.through(owner, relation, table, false, &mut arguments);
        }
        if !inverse.owner.is_empty() {
            arguments.push(format!("back_populates={}", text(&inverse.owner)));
        }
        if let (Some(relation), Some(owner)) =
            (relation.filter(|relation| relation.kind != RelationKind::ManyToMany), owner)
        {
            if relation.constraint == Some(false) {
                arguments.push(self.condition(owner, relation));
            }
            let several = relation.name.is_some()
                || keys_between(owner, model, self) > 1
                || relation.constraint == Some(false);
            let columns: Vec<String> =
                relation.join_columns.iter().filter_map(|join| join.name.clone()).collect();
            if !columns.is_empty() && several {
                arguments.push(format!("foreign_keys={}", self.attributes(&owner.id, &columns)));
            }
            if relation.on_delete == Some(Action::Cascade)
                && !inverse.extras.contains_key("cascade")
            {
                arguments.push(format!("cascade={}", text(DELETE)));
            }
        }
        arguments.extend(keywords(&inverse.extras));
        let many = inverse.kind != InverseKind::OneToOne;
        self.side(&inverse.name, &inverse.target, (many, true, false), &arguments, body);
    }

    /// Attributes of a class in quotes: they are looked up when all classes are known.
    fn attributes(&self, class: &str, names: &[String]) -> String {
        let class = self.class_text(class);
        let paths: Vec<String> = names.iter().map(|name| format!("{class}.{name}")).collect();
        text(&if paths.len() == 1 { paths[0].clone() } else { format!("[{}]", paths.join(", ")) })
    }

    fn side(
        &mut self,
        name: &str,
        target: &str,
        (many, optional, owns): (bool, bool, bool),
        arguments: &[String],
        body: &mut SourceText,
    ) {
        let class = text(&self.class_text(target));
        if self.conventions.grammar.untyped {
            let function = self.imports.name("sqlalchemy.orm", "relationship");
            // The side without the key holds a list, unless it is told not to.
            let single = (!many && !owns).then(|| "uselist=False".to_owned());
            let arguments: Vec<String> =
                std::iter::once(class).chain(arguments.iter().cloned()).chain(single).collect();
            return body.list(4, &format!("{name} = {function}("), &arguments, ")");
        }
        let mapped = self.imports.name("sqlalchemy.orm", "Mapped");
        let ty = match (many, optional) {
            (true, _) => format!("list[{class}]"),
            (false, true) => format!("{}[{class}]", self.imports.name("typing", "Optional")),
            (false, false) => class,
        };
        let function = self.imports.name("sqlalchemy.orm", "relationship");
        body.list(4, &format!("{name}: {mapped}[{ty}] = {function}("), arguments, ")");
    }

    /// The join table; one that joins a table to itself is told which of its columns leads where.
    fn through(
        &mut self,
        owner: &Model,
        relation: &RelationDeclaration,
        table: &Model,
        own: bool,
        arguments: &mut Vec<String>,
    ) {
        let name = self.table_name(table);
        arguments.push(format!("secondary={}", text(&address(table.namespace.as_deref(), &name))));
        if relation.target != owner.id {
            return;
        }
        let class = self.class_text(&owner.id);
        let side = |attribute: &Attribute| match attribute {
            Attribute::Field(field) => field.reference.as_ref().map(|reference| {
                (
                    column_name(field).to_owned(),
                    reference.references.first().cloned().unwrap_or_default(),
                )
            }),
            _ => None,
        };
        let mut sides: Vec<(String, String)> = table.attributes.iter().filter_map(side).collect();
        if !own {
            sides.reverse();
        }
        for (option, (column, referenced)) in ["primaryjoin", "secondaryjoin"].iter().zip(sides) {
            let attribute = owner.attributes.iter().find_map(|attribute| match attribute {
                Attribute::Field(field) if column_name(field) == referenced => field.name.clone(),
                _ => None,
            });
            let attribute = attribute.unwrap_or(referenced);
            arguments.push(format!(
                "{option}={}",
                text(&format!("{class}.{attribute} == {name}.c.{column}"))
            ));
        }
    }

    /// What stands for a foreign key that the database does not keep.
    fn condition(&self, owner: &Model, relation: &RelationDeclaration) -> String {
        let (class, target) = (self.class_text(&owner.id), self.class_text(&relation.target));
        let references = self
            .model_of(&relation.target)
            .map_or(Vec::new(), |model| attributes_over(model, relation));
        let equal = |(join, attribute): (&JoinColumn, String)| {
            format!("{class}.{} == {target}.{attribute}", join.name.as_deref().unwrap_or_default())
        };
        let parts: Vec<String> = relation.join_columns.iter().zip(references).map(equal).collect();
        let whole =
            if parts.len() == 1 { parts[0].clone() } else { format!("and_({})", parts.join(", ")) };
        format!("primaryjoin={}", text(&whole))
    }
}

/// The attributes that the columns named by a relation refer to.
fn attributes_over(target: &Model, relation: &RelationDeclaration) -> Vec<String> {
    let attribute = |column: &str| {
        target.attributes.iter().find_map(|attribute| match attribute {
            Attribute::Field(field) if column_name(field) == column => field.name.clone(),
            _ => None,
        })
    };
    relation
        .join_columns
        .iter()
        .filter_map(|join| join.references.as_deref())
        .map(|column| attribute(column).unwrap_or_else(|| column.to_owned()))
        .collect()
}

/// The attributes that a relation of a class to itself refers to.
fn referred(model: &Model, relation: &RelationDeclaration) -> Vec<String> {
    let written = attributes_over(model, relation);
    if !written.is_empty() {
        return written;
    }
    let names: Vec<&str> =
        relation.join_columns.iter().filter_map(|join| join.name.as_deref()).collect();
    let own_table =
        |reference: &ReferenceDeclaration| Some(&reference.table) == model.table.as_ref();
    let columns = model.attributes.iter().find_map(|attribute| match attribute {
        Attribute::Field(field) => {
            let reference = field.reference.as_deref().filter(|reference| own_table(reference))?;
            (names.is_empty() || names == [field.name.as_deref()?])
                .then(|| reference.references.clone())
        }
        _ => None,
    });
    let columns = columns.or_else(|| {
        model
            .references
            .iter()
            .find(|reference| own_table(reference))
            .map(|reference| reference.references.clone())
    });
    let named = |column: &String| {
        model.attributes.iter().find_map(|attribute| match attribute {
            Attribute::Field(field) if column_name(field) == column => field.name.clone(),
            _ => None,
        })
    };
    columns
        .unwrap_or_default()
        .iter()
        .map(|column| named(column).unwrap_or_else(|| column.clone()))
        .collect()
}

/// The relation without a name over these columns.
fn unnamed<'m>(owner: &'m Model, columns: &[String]) -> Option<&'m RelationDeclaration> {
    let stored = |name: &str| {
        owner.attributes.iter().find_map(|attribute| match attribute {
            Attribute::Field(field) if field.name.as_deref() == Some(name) => {
                Some(column_name(field).to_owned())
            }
            _ => None,
        })
    };
    owner.attributes.iter().find_map(|attribute| match attribute {
        Attribute::Relation(relation) if relation.name.is_none() => {
            let own: Vec<String> = relation
                .join_columns
                .iter()
                .filter_map(|join| stored(join.name.as_deref()?))
                .collect();
            (own == columns).then_some(&**relation)
        }
        _ => None,
    })
}

/// How many foreign keys lead from the table of one class to that of another, and back.
fn keys_between(owner: &Model, model: &Model, printer: &Printer<'_>) -> usize {
    let back = if owner.id == model.id { 0 } else { keys_to(model, owner, printer) };
    keys_to(owner, model, printer) + back
}

fn keys_to(owner: &Model, model: &Model, printer: &Printer<'_>) -> usize {
    let table = address(model.namespace.as_deref(), &printer.table_name(model));
    let leads = |reference: &ReferenceDeclaration| {
        address(reference.namespace.as_deref(), &reference.table) == table
    };
    let of_columns = owner.attributes.iter().filter(|attribute| {
        matches!(attribute, Attribute::Field(field)
            if field.reference.as_deref().is_some_and(leads))
    });
    of_columns.count() + owner.references.iter().filter(|reference| leads(reference)).count()
}
