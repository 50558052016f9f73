//! One column to the declaration of its attribute.

use super::{Eliding, Rest};
use crate::decision::companions::{is_positive, positive_rule};
use crate::decision::counter::{Counter, Numbering};
use crate::decision::index::{Uniqueness, ValueIndex};
use crate::decision::names::ColumnName;
use crate::decision::presence::{Carries, Presence};
use crate::decision::values::{Filled, Moment};
use crate::decision::{Decision, Silence};
use crate::declaration::{FieldDeclaration, Spelling};
use crate::dialect::conventions::{Actor, KeyNumbered};
use crate::dialect::grammar::{IndexPlace, KeyPlace, ReferencePlace};
use crate::dialect::type_table::{self, TypeRow, spell};
use crate::schema::enum_name;
use crate::schema::{Entity, Field, Relation, RelationKind, Type};

impl<'s> Eliding<'s> {
    /// The declaration of a column with a name; nothing when the class would get it by itself.
    pub(super) fn field(
        &self,
        entity: &'s Entity,
        field: &'s Field,
        rest: &mut Rest<'s>,
    ) -> Option<FieldDeclaration> {
        let conventions = self.conventions;
        let (row, spelling) = self.spelling(entity, field);
        let mut declared =
            FieldDeclaration { name: field.name.clone(), spelling, ..FieldDeclaration::default() };
        let key = entity.key_columns();
        let alone_in_key = key.len() == 1 && key[0] == field.column;
        declared.key = key.contains(&field.column)
            && (alone_in_key || conventions.grammar.key != KeyPlace::Class);
        let attribute = field.name.as_deref().unwrap_or_default();
        declared.column = ColumnName { conventions, attribute }.omit(&field.column);
        self.presence(entity, field, Carries::Value, &mut declared);
        // The type says by itself that it is never negative: of the rules just copied, the first.
        if row.is_some_and(|row| row.not_negative)
            && declared.rules.first() == Some(&positive_rule())
        {
            declared.rules.remove(0);
        }
        declared.reference = self.reference_of(entity, field).map(Box::new);
        // Its type goes unsaid where the dialect gives it the one of what it refers to.
        if declared.reference.as_deref().is_some_and(|reference| self.follows(field, reference)) {
            declared.spelling = Spelling::default();
        }
        declared.generated = field.generated.clone().map(|mut generated| {
            generated.expression = self.with_attributes(entity, generated.expression.clone());
            generated
        });
        declared.format = field
            .format
            .as_deref()
            .filter(|format| row.is_none_or(|row| row.format != Some(format)))
            .map(str::to_owned);
        let columns = std::slice::from_ref(&field.column);
        // A one-to-one makes its column unique by itself, where the relation stands for the column.
        let one_to_one = |relation: &Relation| {
            relation.kind == RelationKind::OneToOne && relation.columns == columns
        };
        let by_relation = conventions.grammar.reference != ReferencePlace::Column
            && conventions.references.one_to_one_unique
            && entity.relations.iter().any(one_to_one);
        let listed = conventions.grammar.unique_of_key == IndexPlace::Class
            && (declared.key || declared.purpose.is_some());
        let unique = !alone_in_key && !by_relation && !listed && rest.take_unique(columns);
        let uniqueness = Uniqueness {
            conventions,
            one_to_one: false,
            whole_key: alone_in_key,
            of_several: false,
        };
        declared.unique = uniqueness.omit(&unique);
        // What is unique has an index, so whether one goes without saying is decided after it.
        let served = unique || alone_in_key;
        let makeable = conventions.makes_index(&field.r#type);
        let index = ValueIndex { by_word: row.is_some_and(|row| row.indexed), served, makeable };
        let at_column = conventions.grammar.index == IndexPlace::Column && index.fixed().is_none();
        let indexed = at_column && rest.take_index(columns);
        declared.indexed = index.omit(&indexed);
        if conventions.indexes.text_pattern && (served || indexed) {
            rest.take_pattern_index(&field.column);
        }
        let numbering = self.numbering(field, &declared, alone_in_key);
        (declared.identity, declared.numbered) = (numbering.identity, numbering.numbered);
        // All of it must be what silence makes, so everything else is decided before.
        let implied = alone_in_key
            && conventions.implied_key_field().is_some_and(|silent| declared == silent);
        Some(declared).filter(|_| !implied || conventions.keys.written)
    }

    /// Who numbers a column, in so far as that is said.
    fn numbering(
        &self,
        field: &Field,
        declared: &FieldDeclaration,
        alone_in_key: bool,
    ) -> Numbering {
        let conventions = self.conventions;
        // By the word that is written: one whose type follows its reference has none, and numbers
        // nothing by itself.
        let row =
            type_table::row(conventions.words.types, &declared.spelling.word, conventions.database);
        let counter = Counter {
            conventions,
            ty: &field.r#type,
            by_word: row.is_some_and(|row| row.numbered),
            alone_in_key,
            valued: declared.is_valued(),
        };
        counter.omit(&field.identity)
    }

    /// Whether a column has the number that SQLite gives to its row.
    fn is_row_number(&self, field: &Field) -> bool {
        self.conventions.keys.whole_numbered == KeyNumbered::ByRow
            && field.identity == Some(self.conventions.silent_identity())
    }

    /// The dialect's spelling of a column's type.
    fn spelling(&self, entity: &Entity, field: &Field) -> (Option<&'static TypeRow>, Spelling) {
        let database = self.conventions.database;
        let positive = is_positive(self.conventions, entity, field);
        let found = match self.is_row_number(field) {
            true => spell(
                self.conventions.words.types,
                &Field { identity: None, ..field.clone() },
                positive,
                database,
            ),
            false => spell(self.conventions.words.types, field, positive, database),
        };
        if let Some((row, spelling)) = found {
            return (Some(row), spelling);
        }
        (None, self.composed(&field.r#type))
    }

    fn composed(&self, ty: &Type) -> Spelling {
        match ty {
            Type::Array(element) => Spelling {
                element: Some(Box::new(self.element(element))),
                ..Spelling::word(self.conventions.words.array)
            },
            Type::Enum(name) => {
                Spelling { enumeration: Some(name.clone()), ..Spelling::word("enum") }
            }
            Type::Native(name) => {
                let word = self
                    .conventions
                    .words
                    .natives
                    .iter()
                    .find(|(_, native)| native == name)
                    .map_or(name.as_str(), |(word, _)| word);
                Spelling::word(word)
            }
            other => Spelling::word(other.to_string()),
        }
    }

    pub(super) fn element(&self, ty: &Type) -> Spelling {
        let rows = self
            .conventions
            .words
            .types
            .iter()
            .filter(|row| row.written && !row.numbered && row.format.is_none());
        rows.filter(|row| row.is_on(self.conventions.database))
            .find_map(|row| row.spell(ty))
            .unwrap_or_else(|| self.composed(ty))
    }

    /// What fields and relations share: nullability, presence, defaults and texts.
    pub(super) fn presence(
        &self,
        entity: &Entity,
        field: &Field,
        carries: Carries,
        declared: &mut FieldDeclaration,
    ) {
        let conventions = self.conventions;
        let presence = Presence::of(conventions, carries, field, entity.key_columns());
        declared.purpose = field.purpose;
        // A table without a class has no code.
        let in_code = presence.optional_in_code(field.nullable).filter(|_| entity.mapped.code);
        declared.optional_in_code =
            field.optional_in_code.filter(|_| in_code.is_some_and(|in_code| in_code.is_written()));
        declared.nullable = presence.nullable(declared.optional_in_code).omit(&field.nullable);
        let required = presence.required_on_input().zip(field.required_on_input);
        declared.required_on_input =
            required.and_then(|(decision, required)| decision.omit(&required));
        let said = |moment, actor, meant: &Option<_>| {
            let filled = Filled::of(conventions, field, moment, actor);
            filled.omit(&filled.in_form(meant.clone()))
        };
        declared.database_default = said(Moment::Insert, Actor::Database, &field.defaults.database);
        declared.application_default =
            said(Moment::Insert, Actor::Application, &field.defaults.application);
        declared.database_update = said(Moment::Update, Actor::Database, &field.on_update.database);
        declared.application_update =
            said(Moment::Update, Actor::Application, &field.on_update.application);
        declared.choices.clone_from(&field.choices);
        declared.collation.clone_from(&field.collation);
        declared.comment.clone_from(&field.comment);
        declared.rules.clone_from(&field.rules);
        declared.extras.clone_from(&field.extras);
        debug_assert!(
            enum_name(&field.r#type).is_none_or(|name| self.schema.enumeration(name).is_some())
        );
    }
}
