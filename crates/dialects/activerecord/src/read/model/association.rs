//! Associations: the side that owns the columns, the side that leads back, and join tables.

use std::rc::Rc;

use super::super::run::{Arguments, Value};
use super::{Classes, Macro};
use crate::declaration::{
    FieldDeclaration, InverseDeclaration, InverseKind, InverseName, JoinColumn, JoinTable,
    RelationDeclaration,
};
use crate::schema::{Action, RelationKind};
use crate::source::Span;

/// What happens to the rows of the other side, by the word for it.
const DEPENDENT: &[(&str, Action)] = &[
    ("delete", Action::Cascade),
    ("delete_all", Action::Cascade),
    ("destroy", Action::Cascade),
    ("destroy_async", Action::Cascade),
    ("nullify", Action::SetNull),
    ("restrict_with_error", Action::Restrict),
    ("restrict_with_exception", Action::Restrict),
];

/// The options of an association and where it leads.
struct Association<'p> {
    name: String,
    options: Arguments<'p>,
    target: Option<usize>,
    span: Span,
}

impl<'p> Classes<'_, 'p> {
    fn association(&self, at: usize, one: &Macro<'p>, many: bool) -> Option<Association<'p>> {
        let mut options = one.arguments.clone();
        options.unfold();
        let name = String::from(options.first_text()?);
        let class = options.named("class_name").and_then(Value::as_text);
        let class = class.map(String::from).unwrap_or_else(|| match many {
            true => self.words.camelized(&self.words.singular(&name)),
            false => self.words.camelized(&name),
        });
        let target = self.class_in(&self.known[at].name, &class);
        Some(Association { name, options, target, span: one.span })
    }

    /// `belongs_to`, and the first side of a `has_and_belongs_to_many`.
    pub(super) fn owning_sides(&mut self, at: usize) {
        let said = Rc::clone(&self.known[at].said);
        for one in said.iter() {
            match one.name.as_str() {
                "belongs_to" => {
                    if let Some(association) = self.association(at, one, false) {
                        self.belongs_to(at, association);
                    }
                }
                "has_and_belongs_to_many" => {
                    if let Some(association) = self.association(at, one, true) {
                        self.many_to_many(at, association);
                    }
                }
                _ => {}
            }
        }
    }

    fn belongs_to(&mut self, at: usize, association: Association<'p>) {
        let Association { name, options, target, span } = association;
        let texts = |option: &str| options.named(option).and_then(Value::as_texts);
        let holds = |option: &str| options.named(option).and_then(Value::holds);
        let columns = texts("foreign_key").or_else(|| texts("query_constraints"));
        let columns = columns.unwrap_or_else(|| vec![format!("{name}_id")]);
        let required = match (holds("optional"), holds("required")) {
            (Some(optional), _) => !optional,
            (None, Some(required)) => required,
            (None, None) => self.required_by_default,
        };
        if holds("polymorphic") == Some(true) {
            let field = self.drafts[at].field(&columns[0], span);
            field.required_on_input = Some(required);
            field.extras.insert("polymorphic".into(), name.into());
            return;
        }
        let join_columns = self.join_columns(&name, &columns, texts("primary_key"), target);
        let id = match target {
            Some(target) => self.id(self.root(target)),
            None => {
                let class = options.named("class_name").and_then(Value::as_text);
                class.map_or_else(|| self.words.camelized(&name), Into::into)
            }
        };
        let inverse = options.named("inverse_of").and_then(Value::as_text);
        let mut extras = crate::schema::Extras::new();
        for option in ["counter_cache", "touch"] {
            if let Some(value) = options.named(option).and_then(Value::json) {
                extras.insert(option.to_owned(), value);
            }
        }
        let relation = RelationDeclaration {
            carrier: FieldDeclaration {
                required_on_input: Some(required),
                ..FieldDeclaration::default()
            },
            join_columns,
            inverse: inverse.map_or(InverseName::Silent, |name| InverseName::Named(name.into())),
            extras,
            span: Some(span),
            ..RelationDeclaration::new(Some(name), RelationKind::ManyToOne, id)
        };
        self.drafts[at].relations.push(relation);
    }

    /// The columns of a reference in so far as its name does not say them.
    fn join_columns(
        &self,
        name: &str,
        columns: &[String],
        referenced: Option<Vec<String>>,
        target: Option<usize>,
    ) -> Vec<JoinColumn> {
        let key = target.map(|target| self.key(target)).unwrap_or_default();
        let to_key = referenced.as_ref().is_none_or(|referenced| *referenced == key);
        let referenced = referenced.unwrap_or(key);
        let is_silent = |column: &String| *column == format!("{name}_id");
        if to_key && columns.iter().all(is_silent) {
            return Vec::new();
        }
        let several = columns.len() > 1;
        let joined = |(place, column): (usize, &String)| JoinColumn {
            name: Some(column.clone()).filter(|column| several || !is_silent(column)),
            references: referenced.get(place).cloned().filter(|_| several || !to_key),
            constraint_name: None,
        };
        columns.iter().enumerate().map(joined).collect()
    }

    /// The join table of a `has_and_belongs_to_many`, and its columns: to this class, to the other.
    fn join(&self, at: usize, target: usize, options: &Arguments<'p>, name: &str) -> [String; 3] {
        let text = |option: &str| options.named(option).and_then(Value::as_text).map(String::from);
        let tables = [self.table(at), self.table(target)];
        let table = text("join_table").unwrap_or_else(|| join_table(&tables[0], &tables[1]));
        let last = self.known[at].name.rsplit("::").next().unwrap_or_default();
        let own =
            text("foreign_key").unwrap_or_else(|| format!("{}_id", self.words.underscored(last)));
        let other = text("association_foreign_key");
        let class = self.known[target].name.rsplit("::").next().unwrap_or_default();
        let by_class = || match options.named("class_name") {
            Some(_) => format!("{}_id", self.words.underscored(class)),
            None => format!("{}_id", self.words.singular(name)),
        };
        [table, own, other.unwrap_or_else(by_class)]
    }

    fn many_to_many(&mut self, at: usize, association: Association<'p>) {
        let Association { name, options, target, span } = association;
        let Some(target) = target else {
            return self.unread(at, &format!("has_and_belongs_to_many :{name}"), span);
        };
        let [table, own, other] = self.join(at, target, &options, &name);
        let place = |column: &str| {
            let made = self.tables.get(&table)?;
            made.fields.iter().position(|field| field.column == column)
        };
        let is_first = place(&own) < place(&other);
        // The other class has said it already.
        let (id, known) = (self.id(at), &self.drafts[target].relations);
        let known = known.iter().position(|relation| {
            relation.kind == RelationKind::ManyToMany
                && relation.target == id
                && relation.join_table.name.as_deref() == Some(&table)
                && relation.join_table.column.name.as_deref() == Some(&other)
        });
        let column = |name: String| JoinColumn { name: Some(name), ..JoinColumn::default() };
        let relation = RelationDeclaration {
            join_table: JoinTable {
                name: Some(table),
                namespace: None,
                column: column(own),
                inverse_column: column(other),
            },
            span: Some(span),
            ..RelationDeclaration::new(Some(name), RelationKind::ManyToMany, self.id(target))
        };
        self.goes_both_ways((at, relation), (target, known), is_first);
    }

    /// One side of a many-to-many. Where both classes say it, that one has it whose reference comes
    /// first in between, and the other leads back.
    fn goes_both_ways(
        &mut self,
        (at, mut relation): (usize, RelationDeclaration),
        (target, known): (usize, Option<usize>),
        is_first: bool,
    ) {
        let Some(known) = known else {
            return self.drafts[at].relations.push(relation);
        };
        let name = |relation: &RelationDeclaration| relation.name.clone().unwrap_or_default();
        let leading =
            |name: String, owner: &RelationDeclaration, target: String, span| InverseDeclaration {
                name,
                kind: InverseKind::ManyToMany,
                target,
                owner: owner.name.clone().unwrap_or_default(),
                columns: Vec::new(),
                extras: Default::default(),
                span,
            };
        let (own, other) = (self.id(at), self.id(target));
        if is_first {
            let before = self.drafts[target].relations.remove(known);
            relation.inverse = InverseName::Named(name(&before));
            let inverse = leading(name(&before), &relation, own, before.span);
            self.drafts[target].inverses.push(inverse);
            self.drafts[at].relations.push(relation);
        } else {
            let owner = &mut self.drafts[target].relations[known];
            owner.inverse = InverseName::Named(name(&relation));
            let inverse = leading(name(&relation), owner, other, relation.span);
            self.drafts[at].inverses.push(inverse);
        }
    }

    /// `has_many` and `has_one`, but those by way of another class.
    pub(super) fn other_sides(&mut self, at: usize) {
        let said = Rc::clone(&self.known[at].said);
        for one in said.iter() {
            let many = match one.name.as_str() {
                "has_many" => true,
                "has_one" => false,
                _ => continue,
            };
            let Some(association) = self.association(at, one, many) else { continue };
            let through = association.options.named("through").is_some();
            let to_any = association.options.named("as").is_some();
            // Of some of the rows only: another one stands for all of them.
            let some_rows = association.options.block.is_some();
            if !through && !to_any && !some_rows {
                self.leads_back(at, association, many);
            }
        }
    }

    /// `has_many through:` a class that has a reference to each side.
    pub(super) fn by_way_of_a_class(&mut self, at: usize) {
        let said = Rc::clone(&self.known[at].said);
        for one in said.iter().filter(|one| one.name == "has_many") {
            if let Some(association) = self.association(at, one, true)
                && association.options.named("through").is_some()
            {
                self.through_class(at, association);
            }
        }
    }

    /// What leads further than over one class, chooses rows or leads to one of them looks at what
    /// other relations say.
    fn through_class(&mut self, at: usize, association: Association<'p>) -> Option<()> {
        let Association { name, options, span, .. } = association;
        let text = |option: &str| options.named(option).and_then(Value::as_text);
        if options.block.is_some() || text("source_type").is_some() || self.root(at) != at {
            return None;
        }
        let along = text("through")?;
        let along = self.drafts[at].inverses.iter().find(|inverse| inverse.name == along)?;
        if along.kind != InverseKind::OneToMany || along.owner.is_empty() {
            return None;
        }
        let (through, back) = (along.target.clone(), along.owner.clone());
        let join = (0..self.known.len()).find(|class| self.id(*class) == through)?;
        let named = |name: &str| self.reference_of(join, name);
        let source = text("source");
        let source = match &source {
            Some(source) => named(source)?,
            None => named(&self.words.singular(&name)).or_else(|| named(&name))?,
        };
        let owns = |relation: &&RelationDeclaration| relation.kind != RelationKind::ManyToMany;
        let references: Vec<&RelationDeclaration> =
            self.drafts[join].relations.iter().filter(owns).collect();
        let place = |name: &str| {
            references.iter().position(|relation| relation.name.as_deref() == Some(name))
        };
        let target_id = references[place(&source)?].target.clone();
        let is_first = place(&back)? < place(&source)?;
        let alone = |id: &str| references.iter().filter(|one| one.target == id).count() == 1;
        let own = self.id(at);
        let alone = own != target_id && alone(&own) && alone(&target_id);
        let fields = [back, source];
        let target = (0..self.known.len()).find(|class| self.id(*class) == target_id)?;
        let known = self.drafts[target].relations.iter().position(|relation| {
            relation.kind == RelationKind::ManyToMany
                && relation.target == own
                && relation.through.as_ref() == Some(&through)
                && (alone || relation.through_fields.iter().rev().eq(&fields))
        });
        let relation = RelationDeclaration {
            through: Some(through),
            through_fields: if alone { Vec::new() } else { fields.into() },
            span: Some(span),
            ..RelationDeclaration::new(Some(name), RelationKind::ManyToMany, target_id)
        };
        self.goes_both_ways((at, relation), (target, known), is_first);
        Some(())
    }

    /// The name of a reference of a class, where it has one of that name.
    fn reference_of(&self, at: usize, name: &str) -> Option<String> {
        let mut names = self.drafts[at].relations.iter().filter_map(|one| one.name.clone());
        names.find(|known| known == name)
    }

    fn leads_back(&mut self, at: usize, association: Association<'p>, many: bool) {
        let Association { name, options, target, span } = association;
        let Some(target) = target.map(|target| self.root(target)) else {
            return self.unread(at, &name, span);
        };
        let texts = |option: &str| options.named(option).and_then(Value::as_texts);
        let last = self.known[at].name.rsplit("::").next().unwrap_or_default();
        let columns = texts("foreign_key")
            .unwrap_or_else(|| vec![format!("{}_id", self.words.underscored(last))]);
        let own = self.id(self.root(at));
        let over = |relation: &RelationDeclaration| {
            relation.target == own && columns_of(relation) == columns
        };
        let Some(place) = self.drafts[target].relations.iter().position(over) else {
            return self.without_owner(at, target, (name, columns), many, span);
        };
        let dependent = options.named("dependent").and_then(Value::as_text);
        let action = dependent.and_then(|word| {
            DEPENDENT.iter().find(|(known, _)| *known == word).map(|(_, action)| *action)
        });
        let target_id = self.id(target);
        let relation = &mut self.drafts[target].relations[place];
        let owner = relation.name.clone().unwrap_or_default();
        relation.on_delete = action.or(relation.on_delete);
        // A second one over the same columns is another way to look at the same rows.
        let taken = matches!(&relation.inverse, InverseName::Named(known) if *known != name)
            || self.drafts[at]
                .inverses
                .iter()
                .any(|inverse| inverse.owner == owner && inverse.target == target_id);
        if taken || self.root(at) != at {
            return;
        }
        let relation = &mut self.drafts[target].relations[place];
        relation.inverse = InverseName::Named(name.clone());
        if !many {
            relation.kind = RelationKind::OneToOne;
        }
        self.drafts[at].inverses.push(InverseDeclaration {
            name,
            kind: if many { InverseKind::OneToMany } else { InverseKind::OneToOne },
            target: target_id,
            owner,
            columns: Vec::new(),
            extras: Default::default(),
            span: Some(span),
        });
    }

    /// A side that leads back along a column of which the other class says nothing.
    fn without_owner(
        &mut self,
        at: usize,
        target: usize,
        (name, columns): (String, Vec<String>),
        many: bool,
        span: Span,
    ) {
        let refers = self
            .made(target)
            .is_some_and(|made| made.foreign_keys.iter().any(|key| key.columns == columns));
        if !refers || self.root(at) != at {
            return;
        }
        let target = self.id(target);
        self.drafts[at].inverses.push(InverseDeclaration {
            name,
            kind: if many { InverseKind::OneToMany } else { InverseKind::OneToOne },
            target,
            owner: String::new(),
            columns,
            extras: Default::default(),
            span: Some(span),
        });
    }
}

/// The columns of a reference.
pub(super) fn columns_of(relation: &RelationDeclaration) -> Vec<String> {
    let named = relation.join_columns.iter().filter_map(|join| join.name.clone());
    let named: Vec<String> = named.collect();
    match named.as_slice() {
        [] => vec![format!("{}_id", relation.name.as_deref().unwrap_or_default())],
        _ => named,
    }
}

/// The join table of two tables, without the named schemas before them.
fn join_table(first: &str, second: &str) -> String {
    super::super::history::join_table_name(first, second)
}
