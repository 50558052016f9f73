//! One column to the declaration of its attribute.

use super::{Eliding, Rest};
use crate::declaration::{FieldDeclaration, Spelling};
use crate::dialect::conventions::{Actor, KeyNumbered};
use crate::dialect::grammar::{IndexPlace, KeyPlace, ReferencePlace};
use crate::dialect::type_table::{self, TypeRow, spell};
use crate::resolve::of_purpose;
use crate::schema::enum_name;
use crate::schema::{Default_, Entity, Field, Purpose, Relation, RelationKind, Type};
use crate::server::is_unbounded;

impl<'s> Eliding<'s> {
    /// The declaration of a column with a name; nothing when the class would get it by itself.
    pub(super) fn field(&self, entity: &'s Entity, field: &'s Field, rest: &mut Rest<'s>) -> Option<FieldDeclaration> {
        let conventions = self.conventions;
        let (row, spelling) = self.spelling(field);
        let mut declared = FieldDeclaration { name: field.name.clone(), spelling, ..FieldDeclaration::default() };
        let key = entity.key_columns();
        let alone_in_key = key.len() == 1 && key[0] == field.column;
        declared.key = key.contains(&field.column) && (alone_in_key || conventions.grammar.key != KeyPlace::Class);
        let silent_column = conventions.names.column.apply(&[("attribute", field.name.as_deref().unwrap_or_default())]);
        declared.column = Some(field.column.clone()).filter(|column| *column != silent_column);
        self.presence(entity, field, conventions.nullability.column, &mut declared);
        let word_numbers =
            type_table::row(conventions.words.types, &declared.spelling.word, conventions.database).is_some_and(|row| row.numbered);
        declared.identity = field.identity.filter(|identity| !word_numbers || *identity != conventions.keys.generated);
        declared.reference = self.reference_of(entity, field).map(Box::new);
        if declared.reference.as_deref().is_some_and(|reference| self.follows(field, reference)) {
            declared.spelling = Spelling::default();
        }
        declared.generated = field.generated.clone().map(|mut generated| {
            generated.expression = self.with_attributes(entity, generated.expression.clone());
            generated
        });
        declared.format = field.format.as_deref().filter(|format| row.is_none_or(|row| row.format != Some(format))).map(str::to_owned);
        let columns = std::slice::from_ref(&field.column);
        // A one-to-one makes its column unique by itself, where the relation stands for the column.
        let one_to_one = |relation: &Relation| relation.kind == RelationKind::OneToOne && relation.columns == columns;
        let by_relation = conventions.grammar.reference != ReferencePlace::Column
            && conventions.references.one_to_one_unique
            && entity.relations.iter().any(one_to_one);
        let listed = conventions.grammar.unique_of_key == IndexPlace::Class && (declared.key || declared.purpose.is_some());
        let unique = !alone_in_key && !by_relation && !listed && rest.take_unique(columns);
        declared.unique = unique.then_some(true);
        let indexable = conventions.indexes.unbounded || !is_unbounded(&field.r#type);
        let silent_index = row.is_some_and(|row| row.indexed) && indexable;
        let indexed = !unique && !alone_in_key && conventions.grammar.index == IndexPlace::Column && rest.take_index(columns);
        declared.indexed = Some(indexed).filter(|indexed| !unique && !alone_in_key && *indexed != silent_index);
        if conventions.indexes.text_pattern && (unique || indexed || alone_in_key) {
            rest.take_pattern_index(&field.column);
        }
        let plain = declared.reference.is_none() && declared.database_default.is_none() && declared.application_default.is_none();
        if conventions.keys.whole_numbered == KeyNumbered::Always && alone_in_key && !plain {
            declared.identity = None;
        }
        if self.is_row_number(field) && alone_in_key {
            declared.identity = None;
        }
        if conventions.keys.whole_numbered == KeyNumbered::UnlessValued {
            let silent = alone_in_key && plain && conventions.numbers_by_itself(&field.r#type);
            let own_way = field.identity == Some(conventions.keys.generated);
            declared.identity = field.identity.filter(|_| !own_way);
            declared.numbered = Some(own_way).filter(|_| own_way != silent && (own_way || field.identity.is_none()));
        }
        let implied = alone_in_key && conventions.implied_key_field().is_some_and(|silent| declared == silent);
        Some(declared).filter(|_| !implied || conventions.keys.written)
    }

    /// Whether a column has the number that SQLite gives to its row.
    fn is_row_number(&self, field: &Field) -> bool {
        self.conventions.keys.whole_numbered == KeyNumbered::ByRow && field.identity == Some(self.conventions.silent_identity())
    }

    /// The dialect's spelling of a column's type.
    fn spelling(&self, field: &Field) -> (Option<&'static TypeRow>, Spelling) {
        let database = self.conventions.database;
        let found = match self.is_row_number(field) {
            true => spell(self.conventions.words.types, &Field { identity: None, ..field.clone() }, database),
            false => spell(self.conventions.words.types, field, database),
        };
        if let Some((row, spelling)) = found {
            return (Some(row), spelling);
        }
        (None, self.composed(&field.r#type))
    }

    fn composed(&self, ty: &Type) -> Spelling {
        match ty {
            Type::Array(element) => {
                Spelling { element: Some(Box::new(self.element(element))), ..Spelling::word(self.conventions.words.array) }
            }
            Type::Enum(name) => Spelling { enumeration: Some(name.clone()), ..Spelling::word("enum") },
            Type::Native(name) => {
                let word = self.conventions.words.natives.iter().find(|(_, native)| native == name).map_or(name.as_str(), |(word, _)| word);
                Spelling::word(word)
            }
            other => Spelling::word(other.to_string()),
        }
    }

    pub(super) fn element(&self, ty: &Type) -> Spelling {
        let rows = self.conventions.words.types.iter().filter(|row| row.written && !row.numbered && row.format.is_none());
        rows.filter(|row| row.only_on.is_none_or(|only| only == self.conventions.database))
            .find_map(|row| row.spell(ty))
            .unwrap_or_else(|| self.composed(ty))
    }

    /// What fields and relations share: nullability, presence, defaults and texts.
    pub(super) fn presence(&self, entity: &Entity, field: &Field, silent_null: bool, declared: &mut FieldDeclaration) {
        let conventions = self.conventions;
        let in_key = entity.key_columns().contains(&field.column);
        let forced = field.generated.is_some() && conventions.nullability.generated;
        let has_class = entity.mapped.code;
        let silent_null = match (conventions.nullability.follows_code, has_class) {
            (true, true) => field.optional_in_code.unwrap_or(true),
            (true, false) => true,
            (false, _) => silent_null || (conventions.nullability.arrays && matches!(field.r#type, Type::Array(_))),
        };
        declared.nullable = Some(field.nullable).filter(|nullable| !in_key && !forced && *nullable != silent_null);
        declared.purpose = field.purpose;
        let automatic = field.identity.is_some()
            || field.generated.is_some()
            || matches!(field.purpose, Some(Purpose::CreationTime | Purpose::UpdateTime));
        let silent_required = conventions.nullability.required_on_input && !automatic;
        declared.required_on_input = field.required_on_input.filter(|required| conventions.layers.input && *required != silent_required);
        declared.optional_in_code =
            field.optional_in_code.filter(|_| conventions.layers.code && has_class && !conventions.nullability.code_follows);
        let filled = field.purpose.and_then(|purpose| of_purpose(purpose, &field.r#type, conventions.times.actor));
        let written = |default: &Option<Box<Default_>>, actor| {
            default.as_deref().cloned().filter(|default| conventions.times.actor != actor || Some(default) != filled.as_ref())
        };
        declared.database_default = written(&field.defaults.database, Actor::Database).map(Box::new);
        declared.application_default = written(&field.defaults.application, Actor::Application).map(Box::new);
        let kept = field.purpose == Some(Purpose::UpdateTime) && conventions.times.update_stored;
        declared.application_update = field.on_update.application.clone().filter(|_| field.purpose != Some(Purpose::UpdateTime));
        declared.database_update = field.on_update.database.clone().filter(|_| !kept);
        declared.choices.clone_from(&field.choices);
        declared.collation.clone_from(&field.collation);
        declared.comment.clone_from(&field.comment);
        declared.rules.clone_from(&field.rules);
        declared.extras.clone_from(&field.extras);
        debug_assert!(enum_name(&field.r#type).is_none_or(|name| self.schema.enumeration(name).is_some()));
    }
}
