//! Whole tables: inheritance, other packages' classes, namespaces, comments, natural order and the
//! like.

use std::collections::HashSet;

use super::Fitting;
use super::causes::Elsewhere;
use super::causes::keys::OfKey;
use super::causes::tables::OfTable;
use super::report::Touched;
use crate::declaration::Spelling;
use crate::dialect::Feature;
use crate::dialect::grammar::{KeyPlace, ReferencePlace};
use crate::dialect::type_table::{row, stored};
use crate::history::sql;
use crate::quoting::sql as quoting;
use crate::schema::facts::{Aspect, Element};
use crate::schema::{
    Entity, EntityKind, Field, Inheritance, Mapped, OrderKey, Origin, PrimaryKey, Type, Unique,
};
use crate::server::Comments;

/// Fits what is said of tables as a whole.
pub(super) fn fit(fitting: &mut Fitting) {
    drop_same_table(fitting);
    drop_undeclared(fitting);
    fitting.each_entity(|fitting, entity| {
        joined(fitting, entity);
        external(fitting, entity);
        unmanaged(fitting, entity);
        namespace(fitting, entity);
        texts(fitting, entity);
        key_name(fitting, entity);
        key_order(fitting, entity);
        view(fitting, entity);
        composite_key(fitting, entity);
        key_by_uniqueness(fitting, entity);
        keyless(fitting, entity);
    });
}

/// The keys of tables that got a class only now.
pub(super) fn keys_of_joins(fitting: &mut Fitting) {
    fitting.each_entity(|fitting, entity| {
        if entity.kind == EntityKind::Table
            && entity.primary_key.as_ref().is_some_and(|key| key.columns.len() > 1)
        {
            composite_key(fitting, entity);
            keyless(fitting, entity);
        }
    });
}

/// A view has no key in the database; what tells its records apart is said as the target says it.
fn view(fitting: &mut Fitting, entity: &mut Entity) {
    if entity.kind != EntityKind::View {
        return;
    }
    if !fitting.capabilities.has(Feature::View) {
        entity.kind = EntityKind::Table;
        fitting.because(entity, Element::Table, Aspect::Kind, OfKey::NoViews);
    }
    if let (false, Some(key)) = (fitting.capabilities.has(Feature::KeyOfView), &entity.primary_key)
    {
        let columns = key.columns.clone();
        key_or_unique(fitting, entity, &columns, OfKey::NoKeyOfView);
        entity.primary_key = None;
        if !entity.is_unique(&columns) {
            let r#as = fitting.conventions.unique_as(columns.len(), false);
            entity.uniques.push(Unique {
                columns,
                r#as,
                origin: Origin::implied("it told the records apart"),
                ..Unique::default()
            });
        }
    }
}

/// A key of several columns becomes unique where keys have one column only; another key takes its
/// place.
fn composite_key(fitting: &mut Fitting, entity: &mut Entity) {
    let sayable =
        fitting.capabilities.has(Feature::CompositeKey) || !entity.mapped.code || entity.external;
    let Some(key) = entity.primary_key.take_if(|key| key.columns.len() > 1 && !sayable) else {
        return;
    };
    key_or_unique(fitting, entity, &key.columns, OfKey::KeyOfOneColumn);
    if !entity.is_unique(&key.columns) {
        let r#as = fitting.conventions.unique_as(key.columns.len(), false);
        entity.uniques.push(Unique {
            columns: key.columns,
            r#as,
            origin: Origin::implied("it was the key"),
            ..Unique::default()
        });
    }
}

/// Columns that tell the records apart change between the key and a unique constraint.
fn key_or_unique(fitting: &mut Fitting, entity: &Entity, columns: &[String], cause: OfKey) {
    fitting.because_elements(entity, [Element::Unique(columns.to_vec()), Element::Key], cause);
}

/// Columns that tell the records apart become the key where there must be one.
fn key_by_uniqueness(fitting: &mut Fitting, entity: &mut Entity) {
    if entity.primary_key.is_some()
        || entity.inherits.is_some()
        || entity.external
        || fitting.capabilities.has(Feature::Keyless)
    {
        return;
    }
    let required = |column: &String| entity.field(column).is_some_and(|field| !field.nullable);
    let apart =
        |unique: &&Unique| unique.deferrable.is_none() && unique.columns.iter().all(required);
    let Some(columns) = entity.uniques.iter().find(apart).map(|unique| unique.columns.clone())
    else {
        return;
    };
    if columns.len() > 1 && !fitting.capabilities.has(Feature::CompositeKey) {
        return;
    }
    key_or_unique(fitting, entity, &columns, OfKey::KeyByUniqueness(columns.clone()));
    entity.uniques.retain(|unique| unique.columns != columns);
    entity.primary_key = Some(PrimaryKey {
        columns,
        name: None,
        origin: Origin::implied("it told the records apart"),
    });
}

/// Second classes over one table go where the target has none; relations to them lead to the
/// table's own class.
fn drop_same_table(fitting: &mut Fitting) {
    if fitting.capabilities.has(Feature::SameTable) {
        return;
    }
    let same = |entity: &Entity| {
        entity
            .inherits
            .as_ref()
            .filter(|inherits| inherits.how == Inheritance::SameTable)
            .map(|inherits| inherits.entity.clone())
    };
    let gone: Vec<(String, String, String)> = fitting
        .schema
        .entities
        .iter()
        .filter(|entity| {
            !(fitting.own_dialect && entity.extras.contains_key("discriminator_value"))
        })
        .filter_map(|entity| Some((entity.id.clone(), same(entity)?, fitting.keys.key(entity))))
        .collect();
    for (id, parent, table) in &gone {
        fitting.schema.entities.retain(|entity| entity.id != *id);
        for relation in fitting
            .schema
            .entities
            .iter_mut()
            .flat_map(|entity| &mut entity.relations)
            .filter(|relation| relation.target == *id)
        {
            relation.target.clone_from(parent);
        }
        fitting.causes.note(Touched::Table(table.clone()), OfTable::NoSecondClass);
    }
}

/// References to classes that nobody declares go, with their columns: the type of these is not
/// known.
fn drop_undeclared(fitting: &mut Fitting) {
    // Documents say the types of their references themselves.
    if fitting.own_dialect && fitting.conventions.grammar.reference == ReferencePlace::Path {
        return;
    }
    let known: HashSet<String> =
        fitting.schema.entities.iter().map(|entity| entity.id.clone()).collect();
    fitting.each_entity(|fitting, entity| {
        let gone: Vec<_> = entity
            .relations
            .iter()
            .filter(|relation| !known.contains(&relation.target))
            .cloned()
            .collect();
        entity.relations.retain(|relation| known.contains(&relation.target));
        for relation in gone {
            let unknown = |column: &String| {
                entity
                    .field(column)
                    .is_some_and(|field| field.r#type == Type::Native("unknown".into()))
            };
            let columns: Vec<String> =
                relation.columns.iter().filter(|column| unknown(column)).cloned().collect();
            let mut gone = vec![Element::Relation(relation.columns.clone())];
            for column in &columns {
                gone.push(Element::column(column));
                gone.extend(
                    entity
                        .uniques
                        .iter()
                        .filter(|unique| unique.columns.contains(column))
                        .map(Element::of_unique),
                );
                gone.extend(
                    entity
                        .indexes
                        .iter()
                        .filter(|index| index.columns.contains(column))
                        .map(Element::of_index),
                );
            }
            fitting.because_elements(entity, gone, OfTable::Undeclared(relation.target.clone()));
            for column in &columns {
                entity.fields.retain(|field| field.column != *column);
                entity.uniques.retain(|unique| !unique.columns.contains(column));
                entity.indexes.retain(|index| !index.columns.contains(column));
            }
        }
    });
}

fn joined(fitting: &mut Fitting, entity: &mut Entity) {
    let joined =
        entity.inherits.as_ref().is_some_and(|inherits| inherits.how == Inheritance::Joined);
    if joined && !fitting.capabilities.has(Feature::JoinedInheritance) {
        entity.inherits = None;
        fitting.because(entity, Element::Table, Aspect::Inherits, OfTable::NotJoined);
    }
}

fn external(fitting: &mut Fitting, entity: &mut Entity) {
    if entity.external && !fitting.own_dialect {
        entity.external = false;
        entity.mapped = Mapped { table: false, code: true };
        for aspect in [Aspect::External, Aspect::Created, Aspect::HasClass, Aspect::Class] {
            fitting.because(entity, Element::Table, aspect, OfTable::OfAnotherPackage);
        }
    }
}

/// A table that something else creates.
fn unmanaged(fitting: &mut Fitting, entity: &mut Entity) {
    let second =
        entity.inherits.as_ref().is_some_and(|inherits| inherits.how == Inheritance::SameTable);
    if fitting.capabilities.has(Feature::Unmanaged)
        || entity.mapped.table
        || second
        || entity.kind != EntityKind::Table
    {
        return;
    }
    entity.mapped.table = true;
    fitting.because(entity, Element::Table, Aspect::Created, OfTable::CreatesEveryTable);
}

fn namespace(fitting: &mut Fitting, entity: &mut Entity) {
    if fitting.capabilities.has(Feature::Namespace) {
        return;
    }
    if let Some(name) = &entity.namespace {
        fitting.because(
            entity,
            Element::Table,
            Aspect::Namespace,
            OfTable::NoNamespace(name.clone()),
        );
    }
    for key in entity.foreign_keys.iter().filter(|key| key.references.namespace.is_some()) {
        fitting.because(
            entity,
            Element::of_foreign_key(key),
            Aspect::References,
            OfTable::NoReferenceIntoNamespace,
        );
    }
    entity.namespace = None;
    entity.foreign_keys.iter_mut().for_each(|key| key.references.namespace = None);
}

fn texts(fitting: &mut Fitting, entity: &mut Entity) {
    let unsayable = |text: &String| {
        !fitting.conventions.limits.table_comments_quoted
            && !fitting.home
            && text.contains(['\'', '"', '\\'])
    };
    let lacking = !fitting.capabilities.has(Feature::TableComment);
    if let Some(text) = entity.comment.clone().filter(|text| lacking || unsayable(text)) {
        entity.comment = None;
        let moved = match fitting.host().comments == Comments::InTables {
            true => Some(sql::comment_of_table(&entity.table, &text, fitting.database())),
            false => sql::comment(
                &quoting::name(&entity.table, fitting.database()),
                None,
                &text,
                fitting.database(),
            ),
        };
        let kept = if moved.is_some() { Elsewhere::Script } else { Elsewhere::Nowhere };
        fitting.script.extend(moved);
        fitting.because(entity, Element::Table, Aspect::Comment, OfTable::Comment(kept));
    }
    if entity.label.is_some() && !fitting.capabilities.has(Feature::DisplayLabel) {
        entity.label = None;
        fitting.because(entity, Element::Table, Aspect::Label, OfTable::NoDisplayText);
    }
    let plain =
        |key: &OrderKey| key.field.chars().all(|letter| letter.is_alphanumeric() || letter == '_');
    let known = entity.order.iter().all(plain);
    if !entity.order.is_empty()
        && (!fitting.capabilities.has(Feature::Order) || (!fitting.own_dialect && !known))
    {
        entity.order.clear();
        fitting.because(entity, Element::Table, Aspect::Order, OfTable::NoSuchOrder);
    }
    if entity.soft_delete.is_some() && !fitting.capabilities.has(Feature::SoftDelete) {
        entity.soft_delete = None;
        fitting.because(entity, Element::Table, Aspect::SoftDelete, OfTable::NoSoftDelete);
    }
}

fn key_name(fitting: &mut Fitting, entity: &mut Entity) {
    if fitting.capabilities.has(Feature::ConstraintName) {
        return;
    }
    fitting.because(entity, Element::Key, Aspect::Name, OfKey::NoName);
    for key in &entity.foreign_keys {
        fitting.because(
            entity,
            Element::of_foreign_key(key),
            Aspect::Name,
            OfTable::NoNameOfReference,
        );
    }
    entity.primary_key.iter_mut().for_each(|key| key.name = None);
    entity.foreign_keys.iter_mut().for_each(|key| key.name = None);
}

/// A table without a key gets one where the framework gives every class one.
fn keyless(fitting: &mut Fitting, entity: &mut Entity) {
    let known = |columns: &[String]| {
        columns.iter().all(|column| entity.field(column).is_some_and(|field| !field.nullable))
    };
    let identified =
        entity.primary_key.is_some() || entity.uniques.iter().any(|unique| known(&unique.columns));
    if !fitting.conventions.limits.keyless_readable && !identified && !fitting.own_dialect {
        fitting.causes.refuse(entity.name.clone(), OfKey::Unreadable);
    }
    if entity.primary_key.is_some()
        || !entity.mapped.table
        || entity.inherits.is_some()
        || fitting.capabilities.has(Feature::Keyless)
    {
        return;
    }
    let implied =
        fitting.conventions.keys.implied.clone().filter(|(name, _)| entity.field(name).is_none());
    if let Some((name, word)) = implied {
        give_key(fitting, entity, name, &word);
        fitting.because_elements(
            entity,
            [Element::column(name), Element::Key],
            OfKey::GivenKey(name.to_owned()),
        );
        return;
    }
    fitting.causes.refuse(entity.name.clone(), OfKey::Keyless);
}

/// The key that the target gives to a class without one.
fn give_key(fitting: &Fitting, entity: &mut Entity, name: &str, word: &str) {
    let conventions = &fitting.conventions;
    let Some(row) = row(conventions.words.types, word, conventions.database) else { return };
    let ty = row.read(&Spelling::word(word));
    let held = stored(Some(row), &ty, conventions.database, "");
    let mut field = Field::plain(Some(name.to_owned()), name.to_owned(), ty, held);
    field.identity = Some(conventions.keys.generated);
    field.required_on_input = conventions.layers.input.then_some(false);
    field.optional_in_code = conventions.layers.code.then_some(false);
    field.origin = Origin::implied("a class without a key gets one");
    entity.fields.insert(0, field);
    let origin = Origin::implied("a class without a key gets one");
    entity.primary_key = Some(PrimaryKey { columns: vec![name.to_owned()], name: None, origin });
}

/// Where a key cannot be listed, its order is that of its columns.
fn key_order(fitting: &Fitting, entity: &mut Entity) {
    if fitting.conventions.grammar.key != KeyPlace::Columns {
        return;
    }
    let key = entity.key_columns().to_vec();
    let places: Vec<usize> =
        (0..entity.fields.len()).filter(|at| key.contains(&entity.fields[*at].column)).collect();
    let in_order: Vec<Field> =
        key.iter().filter_map(|column| entity.field(column).cloned()).collect();
    if in_order.len() == places.len() {
        places.into_iter().zip(in_order).for_each(|(place, field)| entity.fields[place] = field);
    }
}

#[cfg(test)]
mod tests {
    use crate::fit::tests::{Case, check};

    const CASES: &[Case] = &[
        (
            "sql postgresql > django@5.2 postgresql",
            "CREATE SCHEMA port; CREATE TABLE port.t (id integer PRIMARY KEY); COMMENT ON TABLE \
             port.t IS 'quays';",
            &["t, namespace: \"port\" -> nothing (dropped: Django cannot put a table into a \
               named schema)"],
        ),
        (
            "sql postgresql > prisma postgresql",
            "CREATE TABLE t (id integer CONSTRAINT by_id PRIMARY KEY); COMMENT ON TABLE t IS \
             'quays';",
            &[
                "t, comment: \"quays\" -> nothing (moved: the comment of the table cannot be said)",
                "script: COMMENT ON TABLE \"t\" IS 'quays';",
            ],
        ),
        (
            "sql postgresql > typeorm sqlite",
            "CREATE TABLE t (id integer PRIMARY KEY); COMMENT ON TABLE t IS 'what it''s for';",
            &["t, comment: \"what it's for\" -> nothing (dropped: the comment of the table \
               cannot be said)"],
        ),
        (
            "sql postgresql > django@5.2 postgresql",
            "CREATE TABLE t (a integer NOT NULL, b text);",
            &[
                "t, key, columns: nothing -> [\"id\"] (added: Django has no class without a key)",
                "t, column id, attribute: nothing -> \"id\" (added: Django has no class without \
                 a key)",
                "t, column id, type: nothing -> \"integer\" (added: Django has no class without \
                 a key)",
                "t, column id, nullable: nothing -> \"not null\" (added: Django has no class \
                 without a key)",
                "t, column id, required_on_input: nothing -> \"optional\" (added: Django has no \
                 class without a key)",
                "t, column id, identity: nothing -> \"by-default\" (added: Django has no class \
                 without a key)",
            ],
        ),
        (
            "sql postgresql > prisma postgresql",
            "CREATE TABLE t (a integer NOT NULL UNIQUE, b text);",
            &[],
        ),
        (
            "sql postgresql > prisma postgresql",
            "CREATE TABLE t (a integer, b text);",
            &["refused: Prisma does not read records that nothing tells apart"],
        ),
        (
            "sql postgresql > typeorm postgresql",
            "CREATE TABLE t (a integer, b text);",
            &["refused: TypeORM has no class without a key"],
        ),
        ("sql postgresql > sequelize postgresql", "CREATE TABLE t (a integer, b text);", &[]),
        (
            "sql postgresql > sqlalchemy postgresql",
            "CREATE TABLE t (a integer NOT NULL, b integer NOT NULL, PRIMARY KEY (b, a));",
            &[],
        ),
        (
            "sql postgresql > django@5.2 postgresql",
            "CREATE TABLE t (a integer NOT NULL, b integer NOT NULL, PRIMARY KEY (b, a));",
            &[],
        ),
        (
            "django postgresql > typeorm postgresql",
            "class T(models.Model):
    a = models.IntegerField()
    class Meta:
        ordering = ['-a']
        verbose_name = 'a quay'
        managed = False
",
            &[],
        ),
        (
            "django postgresql > prisma postgresql",
            "class T(models.Model):
    a = models.IntegerField()
    def __str__(self):
        return self.a
class P(T):
    class Meta:
        proxy = True
",
            &[
                "main_t as P, exists: true -> nothing (dropped: Prisma has no second class over \
                 one table)",
                "main_t as P, module: \"main\" -> nothing (dropped: Prisma has no second class \
                 over one table)",
                "main_t as P, has a class: true -> nothing (dropped: Prisma has no second class \
                 over one table)",
                "main_t as P, class: \"P\" -> nothing (dropped: Prisma has no second class over \
                 one table)",
                "main_t as P, kind: \"table\" -> nothing (dropped: Prisma has no second class \
                 over one table)",
                "main_t as P, inherits: {\"entity\":\"main.T\",\"how\":\"same-table\"} -> \
                 nothing (dropped: Prisma has no second class over one table)",
                "main_t, label: \"a\" -> nothing (dropped: the display text of a record has no \
                 place in an entity)",
            ],
        ),
        (
            "django postgresql > sqlalchemy postgresql",
            "class T(models.Model):
    a = models.IntegerField()
class C(T):
    b = models.IntegerField()
",
            &[],
        ),
        (
            "django postgresql > prisma postgresql",
            "class T(models.Model):
    a = models.IntegerField()
class C(T):
    b = models.IntegerField()
",
            &["main_c, inherits: {\"entity\":\"main.T\",\"how\":\"joined\"} -> nothing \
               (respelled: Prisma has no child tables joined to their parent's)"],
        ),
        (
            "typeorm postgresql > django@5.2 postgresql",
            "@Entity()
export class T {
  @PrimaryGeneratedColumn()
  id!: number;
  @DeleteDateColumn()
  gone!: Date;
}
",
            &["t, soft_delete: \"gone\" -> nothing (weakened: Django does not leave out records \
               that are marked as deleted)"],
        ),
        (
            "typeorm postgresql > sqlalchemy postgresql",
            "@ViewEntity({ expression: 'SELECT 1 AS a' })
export class V {
  @ViewColumn()
  a!: number;
}
@Entity()
export class T {
  @PrimaryGeneratedColumn()
  id!: number;
}
",
            &[],
        ),
    ];

    #[test]
    fn what_the_pass_makes_of_tables() {
        check(super::fit, CASES);
    }
}
