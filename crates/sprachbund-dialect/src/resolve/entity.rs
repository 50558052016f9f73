//! One class to its entity, spelled out.

use std::borrow::Cow;

use super::Resolver;
use crate::codes;
use crate::decision::Decision;
use crate::decision::action::{Checked, Enforced, InApplication, OnDelete, OnUpdate, keeper};
use crate::decision::companions::{json_check, pattern_class, positive_check, positive_rule};
use crate::decision::counter::{Counter, Numbering};
use crate::decision::index::{ReferenceIndex, Uniqueness, ValueIndex};
use crate::decision::names::{InverseOf, ReferenceColumnName};
use crate::decision::presence::{Carries, Presence};
use crate::decision::values::{Filled, Moment};
use crate::declaration::{
    Attribute, FieldDeclaration, Form, InverseName, Model, RelationDeclaration, Spelling,
};
use crate::diagnostic::{Diagnostic, Severity};
use crate::dialect::Feature;
use crate::dialect::conventions::{Actor, Makes};
use crate::dialect::grammar::{ExpressionNames, ReferencePlace};
use crate::dialect::type_table::stored;
use crate::history::sql::members;
use crate::schema::enum_name;
use crate::schema::{
    Entity, EntityKind, Expression, Field, ForeignKey, Index, Inheritance, Inherits, Mapped,
    NamedBy, Origin, Part, PrimaryKey, Purpose, References, Relation, RelationKind, Type, Unique,
};
use crate::server::Enumerations;

/// Attribute names with the columns behind them.
type Columns = Vec<(String, Vec<String>)>;

impl<'d> Resolver<'d> {
    /// The entity of a class, and the join tables that its relations imply.
    pub(super) fn entity(&self, at: usize) -> (Vec<Entity>, Vec<Diagnostic>) {
        let model = &self.models[at];
        let mut diagnostics = Vec::new();
        if self.flat(at).circular {
            let message = format!("`{}` extends itself by way of its bases", model.name);
            diagnostics.push(
                Diagnostic::of(&codes::CIRCULAR_BASE, message)
                    .at(model.span, "circular")
                    .because("its inherited columns are incomplete")
                    .with_help("remove one of the bases that lead back here"),
            );
        }
        if self.flat(at).too_deep {
            let message = format!("`{}` has more bases in a row than are followed", model.name);
            diagnostics.push(
                Diagnostic::of(&codes::TOO_MANY_BASES, message)
                    .at(model.span, "has too many")
                    .because("its inherited columns are incomplete"),
            );
        }
        let mut entity = self.empty(model, self.table(model));
        entity.inherits = self.inherits(model, at);
        let mut joins = Vec::new();
        if model.form != Form::SameTable {
            joins = Builder::over(self, model, &mut entity, &mut diagnostics).build(at);
        }
        entity.tighten();
        let mut all = vec![entity];
        all.extend(joins);
        (all, diagnostics)
    }

    /// A table with what a step of a history adds to it.
    pub(super) fn grown(&self, mut entity: Entity) -> (Entity, Vec<Diagnostic>) {
        let mut diagnostics = Vec::new();
        let model = &self.models[0];
        Builder::over(self, model, &mut entity, &mut diagnostics).build(0);
        entity.tighten();
        (entity, diagnostics)
    }

    /// The key-only entity of a class of another package.
    pub(super) fn external(&self, at: usize) -> Option<Entity> {
        let model = &self.models[at];
        let mut entity = self.empty(model, self.table(model));
        entity.external = true;
        entity.mapped = Mapped { table: false, code: true };
        entity.origin = Origin::implied("declared in another package");
        for key in self.key(at) {
            let stored = self.stored(&key.ty, "");
            let mut field = Field::plain(Some(key.column.clone()), key.column, key.ty, stored);
            field.origin = Origin::implied("the key of a class of another package");
            field.required_on_input = self.conventions.layers.input.then_some(true);
            field.optional_in_code = self.conventions.layers.code.then_some(false);
            entity.fields.push(field);
        }
        let columns = entity.fields.iter().map(|field| field.column.clone()).collect();
        entity.primary_key = Some(PrimaryKey {
            columns,
            name: None,
            origin: Origin::implied("the key of a class of another package"),
        });
        Some(entity)
    }

    pub(super) fn empty(&self, model: &Model, table: String) -> Entity {
        let origin = self.origin(model.span, "not declared");
        let mut entity = Entity {
            id: model.id.clone(),
            name: model.name.clone(),
            module: model.module.clone(),
            kind: match (model.form, self.conventions.dialect.keeps_documents()) {
                (Form::View, _) => EntityKind::View,
                (_, true) => EntityKind::Document,
                (_, false) => EntityKind::Table,
            },
            owned_by: model.owned_by.clone(),
            mapped: Mapped {
                table: model.managed.unwrap_or(true)
                    && model.owned_by.is_none()
                    && matches!(model.form, Form::Concrete | Form::Table),
                code: model.form != Form::Table,
            },
            comment: model.comment.clone(),
            label: model.label.clone(),
            order: model.order.clone().unwrap_or_default(),
            extras: model.extras.clone(),
            ..Entity::stored(model.namespace.clone(), &table, origin)
        };
        if model.table.is_none() {
            entity.implied.add(Part::Table);
        }
        entity
    }

    pub(super) fn inherits(&self, model: &Model, at: usize) -> Option<Inherits> {
        if model.form == Form::SameTable {
            return Some(Inherits {
                entity: model.extends.first()?.clone(),
                how: Inheritance::SameTable,
            });
        }
        Some(Inherits { entity: self.parent(at)?.id.clone(), how: Inheritance::Joined })
    }
}

/// An entity while it is spelled out.
pub(super) struct Builder<'b, 'r, 'd> {
    pub(super) resolver: &'r Resolver<'d>,
    pub(super) model: &'r Model,
    pub(super) entity: &'b mut Entity,
    pub(super) columns: Columns,
    pub(super) diagnostics: &'b mut Vec<Diagnostic>,
}

impl<'b, 'r, 'd> Builder<'b, 'r, 'd> {
    /// Over what is known of the entity so far.
    pub(super) fn over(
        resolver: &'r Resolver<'d>,
        model: &'r Model,
        entity: &'b mut Entity,
        diagnostics: &'b mut Vec<Diagnostic>,
    ) -> Self {
        Builder { resolver, model, entity, columns: Vec::new(), diagnostics }
    }

    fn build(&mut self, at: usize) -> Vec<Entity> {
        let resolver = self.resolver;
        // The key first: a key that nobody declares stands before all other columns.
        let key: Vec<String> = resolver.key(at).into_iter().map(|key| key.column).collect();
        self.key(&key, at);
        if let Some(parent) = resolver
            .parent(at)
            .filter(|_| resolver.conventions.grammar.reference != ReferencePlace::Column)
        {
            let link = resolver.parent_link(at, parent);
            let declared = resolver.attributes(at).any(|attribute| {
                matches!(attribute,
                    Attribute::Relation(relation) if relation.parent_link)
            });
            if !declared {
                self.relation(&link, &key, true);
            }
        }
        let mut joined = Vec::new();
        let mut over_columns = Vec::new();
        for attribute in resolver.attributes(at) {
            match attribute {
                Attribute::Field(field) => self.field(field, &key),
                Attribute::Relation(relation) => {
                    match (resolver.conventions.grammar.reference, relation.kind) {
                        (ReferencePlace::Path, RelationKind::ManyToMany) => {
                            self.list_of_references(relation)
                        }
                        (_, RelationKind::ManyToMany) => joined.push(relation),
                        // Their columns must be known first.
                        (ReferencePlace::Column | ReferencePlace::ListedColumns, _) => {
                            over_columns.push(relation)
                        }
                        (
                            ReferencePlace::Relation
                            | ReferencePlace::JoinColumns
                            | ReferencePlace::Path,
                            _,
                        ) => {
                            self.relation(relation, &key, false);
                        }
                    }
                }
                Attribute::Inverse(_) | Attribute::Removed(_) => {}
            }
        }
        self.model
            .references
            .iter()
            .for_each(|reference| self.reference(&reference.columns, reference));
        over_columns.into_iter().for_each(|relation| {
            match resolver.conventions.grammar.reference {
                ReferencePlace::Column => self.relation_over_columns(relation),
                _ => self.relation(relation, &key, false),
            }
        });
        // Constraints name columns, which are all there now, those of relations too.
        self.class_constraints();
        if resolver.conventions.grammar.reference == ReferencePlace::Column {
            self.unnamed_relations();
        }
        // A join table refers to the whole of this one's key, and may be called after its table.
        let mut joins = Vec::new();
        for relation in joined {
            let (relation, join) =
                resolver.many_to_many(self.model, self.entity, relation, self.diagnostics);
            self.entity.relations.extend(relation);
            joins.extend(join);
        }
        joins
    }

    fn key(&mut self, key: &[String], at: usize) {
        let declares = self.resolver.attributes(at).any(|attribute| match attribute {
            Attribute::Field(field) => field.key,
            Attribute::Relation(relation) => relation.carrier.key,
            _ => false,
        }) || self.model.key.is_some();
        if key.is_empty() {
            return;
        }
        let origin = if declares {
            self.resolver.origin(self.model.span, "")
        } else {
            Origin::implied("a class without a key gets one")
        };
        let implied = self.resolver.conventions.implied_key_field();
        if let (false, None, Some(implied)) = (declares, self.resolver.parent(at), implied) {
            self.field(&implied, key);
            if let Some(field) = self.entity.fields.last_mut() {
                field.origin = origin.clone();
                field.implied.add(Part::Field);
            }
        }
        self.entity.primary_key =
            Some(PrimaryKey { columns: key.to_vec(), name: self.model.key_name.clone(), origin });
    }

    fn field(&mut self, declared: &FieldDeclaration, key: &[String]) {
        let conventions = self.resolver.conventions;
        let column = self.resolver.column(declared);
        let (ty, row) = self.resolver.field_type(declared);
        let type_name =
            enum_name(&ty).map_or(String::new(), |name| self.enum_type_name(name, &column));
        let mut field = Field::plain(declared.name.clone(), column, ty, Cow::Borrowed(""));
        field.stored = match (&field.r#type, row) {
            (_, None) if declared.reference.is_some() => {
                self.resolver.stored(&field.r#type, &type_name)
            }
            (Type::Array(_) | Type::Enum(_), _) => self.resolver.stored(&field.r#type, &type_name),
            _ => stored(row, &field.r#type, conventions.database, ""),
        };
        let counter = Counter {
            conventions,
            ty: &field.r#type,
            by_word: row.is_some_and(|row| row.numbered),
            alone_in_key: *key == [field.column.clone()],
            valued: declared.is_valued(),
        };
        let in_own_way = counter.is_numbered(declared.numbered);
        field.identity =
            counter.fill(Numbering { identity: declared.identity, numbered: declared.numbered });
        if in_own_way && !field.r#type.is_whole_number() {
            // Whatever was meant, the numbers are whole.
            field.r#type = Type::Integer;
            field.stored = self.resolver.stored(&field.r#type, "");
        }
        field.format = declared
            .format
            .clone()
            .map(Cow::Owned)
            .or_else(|| row.and_then(|row| row.format).map(Cow::Borrowed));
        if let Some(generated) = &declared.generated {
            let mut generated = generated.clone();
            generated.expression = self.with_columns(generated.expression.clone());
            field.generated = Some(generated);
        }
        field.origin = self.resolver.origin(declared.span, "not declared");
        self.presence(&mut field, declared, Carries::Value, key);
        // Of several the first one counts, as in TypeORM's EntityMetadataBuilder (0.3).
        if declared.purpose == Some(Purpose::DeletionTime) && self.entity.soft_delete.is_none() {
            self.entity.soft_delete.clone_from(&declared.name);
        }
        if row.is_some_and(|row| row.not_negative) {
            self.entity.checks.push(positive_check(&field.column));
            field.rules.insert(0, positive_rule());
        }
        self.makeable(&field);
        self.heard(&field, row.map_or_else(Vec::new, |row| row.unheard(&declared.spelling)));
        if conventions.checks.json {
            self.entity.checks.extend(json_check(&field));
        }
        let columns = vec![field.column.clone()];
        let whole_key = key == columns;
        let unique = Uniqueness { conventions, one_to_one: false, whole_key, of_several: false }
            .fill(declared.unique);
        let by_word = row.is_some_and(|row| row.indexed);
        let index = ValueIndex {
            by_word,
            served: unique || whole_key,
            makeable: conventions.makes_index(&field.r#type),
        };
        if !index.makeable && !index.served && declared.indexed.unwrap_or(by_word) {
            self.index_not_held(&field);
        }
        self.add_column(
            field,
            declared.name.as_deref(),
            key,
            unique,
            index.fill(declared.indexed),
            None,
        );
        if let Some(reference) = &declared.reference {
            self.reference(&columns, reference);
        }
        self.remember(declared.name.as_deref(), columns);
    }

    fn remember(&mut self, name: Option<&str>, columns: Vec<String>) {
        self.columns.extend(name.map(|name| (name.to_owned(), columns)));
    }

    /// The type of an enumeration; on MariaDB and MySQL its values, quoted.
    fn enum_type_name(&self, name: &str, column: &str) -> String {
        let known = self.resolver.enums.iter().find(|enumeration| enumeration.name == name);
        if let Some(known) = known.filter(|_| {
            self.resolver.conventions.database.server().enumerations == Enumerations::InColumns
        }) {
            return members(known, self.resolver.conventions.database).join(",");
        }
        if let Some(stored) = known.and_then(|enumeration| enumeration.stored_name.clone()) {
            return stored;
        }
        self.resolver.conventions.names.enum_type.apply(&[
            ("table", &self.entity.table),
            ("column", column),
            ("enumeration", name),
        ])
    }

    /// Nullability, presence, defaults and the rest that fields and relations share.
    fn presence(
        &self,
        field: &mut Field,
        declared: &FieldDeclaration,
        carries: Carries,
        key: &[String],
    ) {
        let conventions = self.resolver.conventions;
        field.purpose = declared.purpose;
        let presence = Presence::of(conventions, carries, field, key);
        field.nullable = presence.nullable(declared.optional_in_code).fill(declared.nullable);
        field.required_on_input =
            presence.required_on_input().map(|required| required.fill(declared.required_on_input));
        field.optional_in_code = presence
            .optional_in_code(field.nullable)
            .map(|optional| optional.fill(declared.optional_in_code));
        let filled = |moment, actor| Filled::of(conventions, field, moment, actor);
        let on_insert = |actor, said: &Option<_>| filled(Moment::Insert, actor).fill(said.clone());
        let on_update = |actor, said: &Option<_>| filled(Moment::Update, actor).fill(said.clone());
        let (by_database, by_application) = (
            on_insert(Actor::Database, &declared.database_default),
            on_insert(Actor::Application, &declared.application_default),
        );
        let (updated_by_database, updated_by_application) = (
            on_update(Actor::Database, &declared.database_update),
            on_update(Actor::Application, &declared.application_update),
        );
        (field.defaults.database, field.defaults.application) = (by_database, by_application);
        (field.on_update.database, field.on_update.application) =
            (updated_by_database, updated_by_application);
        field.choices.clone_from(&declared.choices);
        field.collation.clone_from(&declared.collation);
        field.comment.clone_from(&declared.comment);
        field.rules = declared.rules.clone();
        field.extras.clone_from(&declared.extras);
        if declared.column.is_none() {
            field.implied.add(Part::Column);
        }
        if declared.nullable.is_none() && !presence.in_key {
            field.implied.add(Part::Nullable);
        }
    }

    /// Whether the column has an attribute of its own, wherever that stands in the class.
    fn has_attribute(&self, column: &str) -> bool {
        self.model.attributes.iter().any(|attribute| match attribute {
            Attribute::Field(field) => self.resolver.column(field) == column,
            Attribute::Relation(_) | Attribute::Inverse(_) | Attribute::Removed(_) => false,
        })
    }

    fn index_not_held(&mut self, field: &Field) {
        self.not_held(
            &format!("the index of `{}`", field.column),
            true,
            "index over a text without a bound",
            field.origin.span(),
        );
    }

    /// Adds a column with what its own options make: a unique constraint, an index, a second index
    /// for patterns.
    fn add_column(
        &mut self,
        field: Field,
        attribute: Option<&str>,
        key: &[String],
        unique: bool,
        indexed: bool,
        implied: Option<&'static str>,
    ) {
        let conventions = self.resolver.conventions;
        let columns = vec![field.column.clone()];
        let alone_in_key = key == columns;
        let origin = || implied.map_or_else(|| field.origin.clone(), Origin::implied);
        if unique && !alone_in_key {
            self.entity.uniques.push(Unique {
                columns: columns.clone(),
                r#as: conventions.unique_as(1, false),
                named_by: NamedBy::Server,
                origin: origin(),
                ..Unique::default()
            });
        } else if indexed && !alone_in_key && !conventions.makes_index(&field.r#type) {
            self.index_not_held(&field);
        } else if indexed && !alone_in_key {
            let from = if attribute.is_some() && implied.is_none() {
                origin()
            } else {
                Origin::implied(implied.unwrap_or("references are indexed"))
            };
            self.entity.indexes.push(Index::over(&columns, from));
        }
        if let (true, true, Some(class)) = (
            conventions.indexes.text_pattern,
            unique || indexed || alone_in_key,
            pattern_class(&field.r#type),
        ) {
            let mut index = Index::over(
                &columns,
                Origin::implied("an indexed text gets a second index for patterns"),
            );
            index.parts[0].operator_class = Some(Cow::Borrowed(class));
            self.entity.indexes.push(index);
        }
        match self.entity.fields.iter_mut().find(|known| known.column == field.column) {
            Some(known) => merge(known, field),
            None => self.entity.fields.push(field),
        }
    }

    fn relation(&mut self, declared: &RelationDeclaration, key: &[String], implied: bool) {
        let resolver = self.resolver;
        let conventions = resolver.conventions;
        let Some(columns) = resolver.reference_columns(declared) else {
            self.undeclared(declared);
            return;
        };
        let names: Vec<String> = columns.iter().map(|column| column.column.clone()).collect();
        let one_to_one =
            declared.kind == RelationKind::OneToOne && conventions.references.one_to_one_unique;
        let single = columns.len() == 1;
        for column in &columns {
            let ty = self.own_type(declared).unwrap_or_else(|| column.ty.clone());
            let stored = resolver.stored(&ty, "");
            let mut field = Field::plain(None, column.column.clone(), ty, stored);
            field.origin = resolver
                .origin(declared.carrier.span.or(declared.span), "the key of a child table");
            self.presence(&mut field, &declared.carrier, Carries::Reference, key);
            if column.written {
                field.implied.remove(Part::Column);
            }
            let whole_key = key == [column.column.clone()];
            let unique = Uniqueness { conventions, one_to_one, whole_key, of_several: !single }
                .fill(declared.carrier.unique);
            let index = ReferenceIndex {
                conventions,
                served: unique || whole_key,
                of_several: !single,
                has_attribute: self.has_attribute(&column.column),
                enforced: Enforced { conventions }.fill(declared.constraint),
            };
            let indexed = index.fill(declared.carrier.indexed);
            let silent = declared.carrier.unique.is_none() && declared.carrier.indexed.is_none();
            let reason =
                if one_to_one { "a one-to-one is unique" } else { "references are indexed" };
            self.add_column(
                field,
                declared.name.as_deref(),
                key,
                unique,
                indexed,
                silent.then_some(reason),
            );
        }
        if one_to_one && !single && key != names {
            self.entity.uniques.push(Unique {
                columns: names.clone(),
                origin: Origin::implied("a one-to-one is unique"),
                ..Unique::default()
            });
        }
        let referenced: Vec<String> = columns.into_iter().map(|column| column.references).collect();
        self.foreign_key(declared, &names, referenced);
        let relation = self.relation_of(declared, names.clone(), implied);
        self.entity.relations.push(relation);
        self.remember(declared.name.as_deref(), names);
    }

    /// The type that a reference says of itself, where it does not follow that of the key.
    fn own_type(&self, declared: &RelationDeclaration) -> Option<Type> {
        let spelling = &declared.carrier.spelling;
        (*spelling != Spelling::default()).then(|| self.resolver.read_type(spelling).0)
    }

    /// A many-to-many that is a list of references in the document itself.
    fn list_of_references(&mut self, declared: &RelationDeclaration) {
        let resolver = self.resolver;
        let written = declared.join_columns.first().and_then(|join| join.name.clone());
        let column = written.clone().or_else(|| declared.name.clone()).unwrap_or_default();
        let element = self.own_type(declared).unwrap_or(Type::ObjectId);
        let ty = Type::Array(Box::new(element));
        let stored = resolver.stored(&ty, "");
        let mut field = Field::plain(None, column.clone(), ty, stored);
        field.origin = resolver.origin(declared.carrier.span.or(declared.span), "not declared");
        self.presence(&mut field, &declared.carrier, Carries::Reference, &[]);
        if written.is_some() {
            field.implied.remove(Part::Column);
        }
        let (unique, indexed) =
            (declared.carrier.unique == Some(true), declared.carrier.indexed == Some(true));
        self.add_column(field, declared.name.as_deref(), &[], unique, indexed, None);
        let relation = self.relation_of(declared, vec![column.clone()], false);
        self.entity.relations.push(relation);
        self.remember(declared.name.as_deref(), vec![column]);
    }

    fn foreign_key(
        &mut self,
        declared: &RelationDeclaration,
        columns: &[String],
        referenced: Vec<String>,
    ) {
        let conventions = self.resolver.conventions;
        let Some((_, target)) = self.resolver.model(&declared.target) else { return };
        let table = self.resolver.table(target);
        let asked = if declared.deferrable.is_some() { &[Feature::Deferrable][..] } else { &[] };
        let lacking = self.made(
            "foreign key",
            declared.name.as_deref(),
            asked,
            |_| Makes::TheRest,
            declared.span,
        );
        self.entity.foreign_keys.push(ForeignKey {
            columns: columns.to_vec(),
            references: References {
                table,
                namespace: target.namespace.clone(),
                columns: referenced,
            },
            on_delete: match (declared.acts, declared.on_delete) {
                (Some(Actor::Database), Some(action)) => action,
                (_, said) => {
                    OnDelete { conventions, optional: self.is_optional(columns) }.fill(said)
                }
            },
            on_update: OnUpdate { conventions }.fill(declared.on_update),
            deferrable: Checked { conventions }
                .fill(declared.deferrable.map(Some))
                .filter(|_| lacking.is_none_or(|lacking| lacking.is_empty())),
            enforced: keeper(Enforced { conventions }.fill(declared.constraint)),
            name: declared.join_columns.first().and_then(|join| join.constraint_name.clone()),
            origin: self.resolver.origin(declared.span, "the key of a child table"),
        });
    }

    /// Whether all columns of a reference may be null.
    pub(super) fn is_optional(&self, columns: &[String]) -> bool {
        self.entity.may_be_null(columns)
    }

    pub(super) fn relation_of(
        &self,
        declared: &RelationDeclaration,
        columns: Vec<String>,
        implied: bool,
    ) -> Relation {
        let resolver = self.resolver;
        let action = InApplication {
            conventions: resolver.conventions,
            optional: self.is_optional(&columns),
        };
        let on_delete = action
            .fill(declared.on_delete.map(Some))
            .filter(|_| declared.acts != Some(Actor::Database));
        let origin = resolver.origin(declared.span, "the key of a child table");
        let mut relation = Relation {
            name: declared.name.clone(),
            inverse: resolver.inverse_name(
                declared,
                self.model,
                declared.kind == RelationKind::OneToOne,
            ),
            on_delete,
            extras: declared.extras.clone(),
            ..Relation::over(declared.kind, &declared.target, columns, origin)
        };
        if declared.inverse == InverseName::Silent && relation.inverse.is_some() {
            relation.implied.add(Part::Inverse);
        }
        if implied {
            relation.implied.add(Part::Relation);
        }
        relation
    }

    /// A relation to a class that nobody declares: the column is there; its type is known only
    /// where it says it.
    pub(super) fn undeclared(&mut self, declared: &RelationDeclaration) {
        let name = declared.name.clone().unwrap_or_default();
        let own_type = self.own_type(declared);
        self.undeclared_target(declared, own_type.is_some());
        let column = self.reference_column(declared);
        let mut field = match own_type {
            Some(ty) => {
                let stored = self.resolver.stored(&ty, "");
                Field::plain(None, column.clone(), ty, stored)
            }
            None => Field::plain(
                None,
                column.clone(),
                Type::Native("unknown".into()),
                Cow::Borrowed("unknown"),
            ),
        };
        field.origin = self.resolver.origin(declared.span, "not declared");
        self.presence(&mut field, &declared.carrier, Carries::Reference, &[]);
        let conventions = self.resolver.conventions;
        let one_to_one = declared.kind == RelationKind::OneToOne;
        let unique = Uniqueness { conventions, one_to_one, whole_key: false, of_several: false }
            .fill(declared.carrier.unique);
        // Of what is not known no foreign key is made.
        let index = ReferenceIndex {
            conventions,
            served: unique,
            of_several: false,
            has_attribute: false,
            enforced: false,
        };
        let indexed = index.fill(declared.carrier.indexed);
        self.add_column(field, Some(&name), &[], unique, indexed, Some("references are indexed"));
        let relation = self.relation_of(declared, vec![column.clone()], false);
        self.entity.relations.push(relation);
        self.remember(declared.name.as_deref(), vec![column]);
    }

    pub(super) fn undeclared_target(&mut self, declared: &RelationDeclaration, typed: bool) {
        let name = declared.name.as_deref().unwrap_or_default();
        let message = format!(
            "`{}.{name}` refers to `{}`, which nobody declares",
            self.model.name, declared.target
        );
        let (severity, why) = match typed {
            true => (Severity::Warning, "nothing is known of what it refers to"),
            false => (
                Severity::Error,
                "the type of its column follows from the key of the target, so it is not known",
            ),
        };
        self.diagnostics.push(
            Diagnostic::of(&codes::UNDECLARED_TARGET, message)
                .graded(severity)
                .at(declared.span, "refers to nothing known")
                .because(why)
                .with_help(
                    "add the file that declares it to the inputs, or name its package with \
                     --follow",
                ),
        );
    }

    /// The column of a relation whose target is not known.
    pub(super) fn reference_column(&self, declared: &RelationDeclaration) -> String {
        let named = declared.join_columns.first().and_then(|join| join.name.clone());
        let attribute = declared.name.as_deref().unwrap_or_default();
        let name = ReferenceColumnName {
            conventions: self.resolver.conventions,
            attribute,
            referenced: "id",
        };
        name.fill(named.or_else(|| declared.carrier.column.clone()))
    }

    /// Names a column that the server refuses to make.
    fn makeable(&mut self, field: &Field) {
        if self.resolver.conventions.database.server().varchar_needs_length
            && field.r#type == Type::Varchar(None)
        {
            let message =
                format!("`{}.{}` is a text without a length", self.model.name, field.column);
            self.diagnostics.push(
                Diagnostic::of(&codes::LENGTH_MISSING, message)
                    .at(field.origin.span(), "no length")
                    .because(format!(
                        "{} refuses to make such a column",
                        self.resolver.conventions.database.title()
                    ))
                    .with_help("give it a length, or make it an unbounded text"),
            );
        }
    }

    /// Names what is said of a type that does not take it.
    fn heard(&mut self, field: &Field, unheard: Vec<&str>) {
        // MySQL and MariaDB choose by the length which of their texts it is.
        if self.resolver.conventions.database.server().several_words
            && matches!(field.r#type, Type::Text | Type::Binary(_))
        {
            return;
        }
        for word in unheard {
            let name = field.name.as_deref().unwrap_or(&field.column);
            let message = format!(
                "a {word} is said of `{}.{name}`, a {}, which has none",
                self.model.name, field.r#type
            );
            self.diagnostics.push(
                Diagnostic::of(&codes::LENGTH_IN_VAIN, message)
                    .at(field.origin.span(), format!("`{}`", field.r#type))
                    .because("it is ignored, or refused when the program starts")
                    .with_help(format!("leave the {word} out, or use a type that has one")),
            );
        }
    }

    pub(super) fn column_of(&self, name: &str) -> Option<Vec<String>> {
        if let Some((_, columns)) = self.columns.iter().find(|(known, _)| known == name) {
            return Some(columns.clone());
        }
        if name == "pk" {
            return self.entity.primary_key.as_ref().map(|key| key.columns.clone());
        }
        let field = self
            .entity
            .fields
            .iter()
            .find(|field| field.column == name || field.name.as_deref() == Some(name));
        field.map(|field| vec![field.column.clone()])
    }

    pub(super) fn with_columns(&self, expression: Expression) -> Expression {
        match expression.tree {
            Some(tree)
                if self.resolver.conventions.grammar.expressions == ExpressionNames::Columns =>
            {
                Expression::sql(tree)
            }
            Some(tree) => Expression::sql(tree.map_columns(&|name| {
                self.column_of(&name).and_then(|columns| columns.into_iter().next()).unwrap_or(name)
            })),
            None => expression,
        }
    }
}

/// A column that is declared as a field and again as the column of a relation keeps the field's own
/// word on presence.
fn merge(known: &mut Field, again: Field) {
    let of_relation = again.name.is_none();
    if of_relation {
        known.comment = known.comment.take().or(again.comment);
        return;
    }
    if known.name.is_none() {
        let nullable = known.nullable;
        *known = again;
        known.nullable &= nullable || known.nullable;
    }
}

impl<'d> Resolver<'d> {
    /// The other side's name: written, hidden, or by convention.
    pub(super) fn inverse_name(
        &self,
        declared: &RelationDeclaration,
        model: &Model,
        one: bool,
    ) -> Option<String> {
        let inverse = InverseOf {
            conventions: self.conventions,
            module: &model.module,
            class: &model.name,
            one_to_one: one,
        };
        inverse.fill(declared.inverse.clone())
    }
}
