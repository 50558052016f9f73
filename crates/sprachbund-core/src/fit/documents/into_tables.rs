//! Collections become tables. What the application requires, the database holds from now on; what
//! stands inside documents gets a table of its own that refers to its owner.

use std::collections::{HashMap, HashSet};

use super::Crossed;
use crate::dialect::naming::Case;
use crate::fit::Grade;
use crate::fit::causes::documents::OfDocument;
use crate::fit::causes::{Rows, row};
use crate::fit::report::{Causes, Touched};
use crate::fit::types::coerced;
use crate::schema::facts::{Aspect, Element, ElementKind, FactKey};
use crate::schema::{
    Action, Database, EnforcedBy, Entity, EntityKind, Field, ForeignKey, Identity, Index, Origin,
    PrimaryKey, Purpose, References, Relation, RelationKind, Schema, Shape, Type, Unique, UniqueAs,
};
use crate::server::Unbounded;

const REASONS: Rows = &[
    (
        ElementKind::Column,
        Some(Aspect::Nullable),
        row(Grade::Strengthened, "what the application requires, the column holds", "NOT NULL")
            .then_do("give the value to documents that lack it"),
    ),
    (
        ElementKind::Column,
        Some(Aspect::Type),
        row(
            Grade::Respelled,
            "a database of tables has other types",
            "the one that holds its values",
        ),
    ),
    (
        ElementKind::Column,
        Some(Aspect::HeldAs),
        row(
            Grade::Respelled,
            "a database of tables has other types",
            "the one that holds its values",
        ),
    ),
    (
        ElementKind::Column,
        Some(Aspect::Rules),
        row(
            Grade::Strengthened,
            "a length is a part of the column's type",
            "the database holds it",
        ),
    ),
    (
        ElementKind::Column,
        None,
        row(Grade::Added, "a table refers to what it belongs to, and has a key", "the column"),
    ),
    (
        ElementKind::ForeignKey,
        None,
        row(Grade::Strengthened, "the database holds references", "a foreign key")
            .then_do("remove references to nothing first"),
    ),
    (
        ElementKind::Relation,
        None,
        row(
            Grade::Respelled,
            "a table holds no lists of references and no documents",
            "rows of another table refer to both",
        ),
    ),
    (ElementKind::Key, None, row(Grade::Added, "a table has a key", "one is made")),
    (
        ElementKind::Unique,
        Some(Aspect::NullsNotDistinct),
        row(Grade::Respelled, "none of its columns may be null", "null need not be told apart"),
    ),
    (
        ElementKind::Unique,
        Some(Aspect::As),
        row(
            Grade::Respelled,
            "uniqueness is kept by another object of the database",
            "values are as unique as before",
        ),
    ),
    (
        ElementKind::Unique,
        None,
        row(Grade::Added, "an owner has one such row", "a unique constraint"),
    ),
    (
        ElementKind::UniqueIndex,
        Some(Aspect::NullsNotDistinct),
        row(Grade::Respelled, "none of its columns may be null", "null need not be told apart"),
    ),
    (
        ElementKind::UniqueIndex,
        None,
        row(
            Grade::Respelled,
            "uniqueness is kept by another object of the database",
            "values are as unique as before",
        ),
    ),
    (ElementKind::Index, None, row(Grade::Added, "rows are looked up by their owner", "the index")),
    (
        ElementKind::Table,
        Some(Aspect::Kind),
        row(Grade::Respelled, "documents become rows", "the collection becomes a table"),
    ),
    (
        ElementKind::Table,
        Some(Aspect::OwnedBy),
        row(
            Grade::Respelled,
            "a table holds no documents",
            "a table of its own, which refers to its owner",
        ),
    ),
    (
        ElementKind::Table,
        None,
        row(
            Grade::Respelled,
            "a table holds no documents and no lists of references",
            "a table of its own",
        ),
    ),
];

/// Characters of a text that is a key, where it must have a bound.
const LONGEST_KEY: u32 = 255;

/// Carries documents over into tables.
pub(super) fn carry(schema: &Schema, database: Database) -> Crossed {
    let mut schema = schema.clone();
    let mut own = Causes::default();
    for entity in &mut schema.entities {
        entity.kind = EntityKind::Table;
        indexes(entity, &mut own);
        over_several(entity, &mut own);
        let key = entity.key_columns().to_vec();
        for field in &mut entity.fields {
            column(field, &key);
            coerced(field);
            // A key must have a bound there.
            if database.server().unbounded != Unbounded::Whole
                && key.contains(&field.column)
                && field.r#type == Type::Text
            {
                field.r#type = Type::Varchar(Some(LONGEST_KEY));
            }
        }
        nulls(entity);
        entity.uniques.iter_mut().for_each(|unique| unique.r#as = UniqueAs::Constraint);
    }
    let before: HashMap<String, String> =
        schema.entities.iter().map(|entity| (entity.id.clone(), entity.table.clone())).collect();
    lists_of_documents(&mut schema, &mut own);
    let names = schema
        .entities
        .iter()
        .filter_map(|entity| Some((before.get(&entity.id)?.clone(), entity.table.clone())));
    let renamed = names.filter(|(before, after)| before != after).collect();
    lists_of_references(&mut schema, &mut own);
    references(&mut schema);
    schema.source.database = database;
    Crossed { schema, rows: REASONS, causes: own, renamed }
}

/// What is said of several documents at once.
fn over_several(entity: &mut Entity, own: &mut Causes) {
    for (word, cause) in
        [("indexes", OfDocument::IndexOverSeveral), ("virtuals", OfDocument::VirtualPath)]
    {
        if entity.extras.remove(word).is_some() {
            own.note(
                FactKey::new(&entity.table, Element::Table, Aspect::Extra(word.to_owned())),
                cause,
            );
        }
    }
}

/// Kinds of indexes that no other database has.
fn indexes(entity: &mut Entity, own: &mut Causes) {
    let table = entity.table.clone();
    entity.indexes.retain(|index| {
        let special = index.method.is_some() || index.extras.contains_key("expireAfterSeconds");
        if special {
            let cause = match index.method.as_deref() {
                None => OfDocument::DeletesByIndex,
                Some("text") => OfDocument::IndexOverWords,
                Some(_) => OfDocument::OtherIndexMethod,
            };
            own.note(Touched::Element(table.clone(), Element::of_index(index)), cause);
        }
        !special
    });
}

fn column(field: &mut Field, key: &[String]) {
    field.nullable =
        field.nullable && field.required_on_input != Some(true) && !key.contains(&field.column);
    field.r#type = table_type(&field.r#type);
    // The word that the other kind of database has for it counts no more.
    field.stored = "".into();
    if field.purpose == Some(Purpose::Version) {
        field.r#type = Type::Integer;
    }
    let length =
        field.rules.iter().position(|rule| rule.rule == "max_length" && rule.message.is_none());
    let length = length.and_then(|at| {
        Some((at, field.rules[at].value.as_u64().and_then(|length| u32::try_from(length).ok())?))
    });
    if let (Type::Text, Some((at, length))) =
        (&field.r#type, length.filter(|(_, length)| *length > 0))
    {
        field.r#type = Type::Varchar(Some(length));
        field.rules.remove(at);
    }
}

fn table_type(ty: &Type) -> Type {
    match ty {
        Type::ObjectId => Type::Char(Some(24)),
        Type::Array(element) => Type::Array(Box::new(table_type(element))),
        other => other.clone(),
    }
}

/// Where nothing may be null, null is not told apart.
fn nulls(entity: &mut Entity) {
    let required: HashSet<String> = entity
        .fields
        .iter()
        .filter(|field| !field.nullable)
        .map(|field| field.column.clone())
        .collect();
    let never = |columns: &[String]| columns.iter().all(|column| required.contains(column));
    for unique in entity.uniques.iter_mut().filter(|unique| never(&unique.columns)) {
        unique.nulls_not_distinct = false;
    }
    for index in entity.indexes.iter_mut().filter(|index| never(&index.columns)) {
        index.nulls_not_distinct = false;
    }
}

/// What stands inside documents: the outer ones first, since the inner ones refer to their keys.
fn lists_of_documents(schema: &mut Schema, own: &mut Causes) {
    let mut waiting: Vec<usize> =
        (0..schema.entities.len()).filter(|at| schema.entities[*at].owned_by.is_some()).collect();
    let mut tables: HashSet<String> =
        schema.entities.iter().map(|entity| entity.table.clone()).collect();
    while !waiting.is_empty() {
        let by_id: HashMap<&str, &Entity> =
            schema.entities.iter().map(|entity| (entity.id.as_str(), entity)).collect();
        let owner =
            |at: usize| by_id.get(schema.entities[at].owned_by.as_ref()?.entity.as_str()).copied();
        let ready = |at: &usize| owner(*at).is_none_or(|owner| owner.owned_by.is_none());
        let (now, later): (Vec<usize>, Vec<usize>) = waiting.into_iter().partition(ready);
        let owners: Vec<Option<Entity>> = now.iter().map(|at| owner(*at).cloned()).collect();
        if now.is_empty() {
            break;
        }
        for (at, owner) in now.into_iter().zip(owners) {
            inside(&mut schema.entities[at], owner.as_ref(), &mut tables, own);
        }
        waiting = later;
    }
}

/// Gives a table to what stands inside the documents of `owner`.
fn inside(
    entity: &mut Entity,
    owner: Option<&Entity>,
    tables: &mut HashSet<String>,
    own: &mut Causes,
) {
    let Some(place) = entity.owned_by.take() else { return };
    entity.mapped.table = true;
    entity.extras.remove("path");
    let before = entity.table.clone();
    entity.table = unused(&table_name(&before), tables);
    for table in [&before, &entity.table] {
        own.note(Touched::Table(table.clone()), OfDocument::DocumentsInside);
    }
    let Some(owner) = owner else { return };
    let Some(owner_key) = owner.key_columns().first().and_then(|key| owner.field(key)) else {
        return;
    };
    let (key_type, key_column) = (owner_key.r#type.clone(), owner_key.column.clone());
    let column = unused_column(entity, &format!("{}_id", Case::Snake.apply(&owner.name)));
    let mut field = blank(column.clone(), key_type);
    field.nullable = false;
    entity.fields.insert(0, field);
    let columns = vec![column];
    let one = matches!(place.shape, Shape::Part | Shape::One);
    let origin = || Origin::implied("it stands inside its owner");
    entity.foreign_keys.push(ForeignKey {
        columns: columns.clone(),
        references: References {
            table: owner.table.clone(),
            namespace: None,
            columns: vec![key_column],
        },
        on_delete: Action::Cascade,
        on_update: Action::NoAction,
        deferrable: None,
        enforced: EnforcedBy::Database,
        name: None,
        origin: origin(),
    });
    let kind = if one { RelationKind::OneToOne } else { RelationKind::ManyToOne };
    let inverse = Some(Case::Camel.apply(&place.path));
    entity.relations.push(Relation { inverse, ..relation(kind, &owner.id, columns.clone()) });
    if place.shape == Shape::Keyed {
        let name = unused_column(entity, "key");
        let mut field = Field { name: Some(name.clone()), ..blank(name.clone(), Type::Text) };
        field.nullable = false;
        entity.fields.insert(1, field);
        entity.uniques.push(Unique {
            columns: vec![columns[0].clone(), name],
            origin: origin(),
            ..Unique::default()
        });
    }
    match (entity.primary_key.is_some(), one) {
        (false, true) => {
            entity.primary_key = Some(PrimaryKey { columns, name: None, origin: origin() })
        }
        (true, true) => {
            entity.uniques.push(Unique { columns, origin: origin(), ..Unique::default() })
        }
        (known, false) => {
            if !known {
                numbered(entity);
            }
            if place.shape == Shape::Many {
                entity.indexes.push(Index::over(&columns, origin()));
            }
        }
    }
}

/// A key of numbers, for rows that nothing tells apart.
fn numbered(entity: &mut Entity) {
    let name = unused_column(entity, "id");
    let mut key = Field { name: Some(name.clone()), ..blank(name.clone(), Type::BigInt) };
    key.nullable = false;
    key.identity = Some(Identity::ByDefault);
    entity.fields.insert(0, key);
    entity.primary_key = Some(PrimaryKey {
        columns: vec![name],
        name: None,
        origin: Origin::implied("a table has a key"),
    });
}

fn blank(column: String, ty: Type) -> Field {
    let stored = std::borrow::Cow::Owned(ty.to_string());
    let mut field = Field::plain(None, column, ty, stored);
    field.origin = Origin::implied("it stands inside its owner");
    field
}

fn relation(kind: RelationKind, target: &str, columns: Vec<String>) -> Relation {
    Relation::over(kind, target, columns, Origin::implied("it stands inside its owner"))
}

/// A name that needs no quotes.
fn table_name(path: &str) -> String {
    path.chars().map(|letter| if letter.is_alphanumeric() { letter } else { '_' }).collect()
}

fn unused(name: &str, taken: &mut HashSet<String>) -> String {
    let mut unique = name.to_owned();
    for count in 2.. {
        if taken.insert(unique.clone()) {
            break;
        }
        unique = format!("{name}{count}");
    }
    unique
}

fn unused_column(entity: &Entity, name: &str) -> String {
    let mut taken: HashSet<String> =
        entity.fields.iter().map(|field| field.column.clone()).collect();
    unused(name, &mut taken)
}

/// A list of references becomes a table whose rows refer to both sides.
fn lists_of_references(schema: &mut Schema, own: &mut Causes) {
    let keys: HashMap<String, (String, String, Type, String)> = schema
        .entities
        .iter()
        .filter_map(|entity| {
            let key = entity.field(entity.key_columns().first()?)?;
            Some((
                entity.id.clone(),
                (entity.table.clone(), key.column.clone(), key.r#type.clone(), entity.name.clone()),
            ))
        })
        .collect();
    let mut tables: HashSet<String> =
        schema.entities.iter().map(|entity| entity.table.clone()).collect();
    let mut joins = Vec::new();
    for entity in &mut schema.entities {
        let Some((own_table, own_key, own_type, _)) = keys.get(&entity.id).cloned() else {
            continue;
        };
        for at in (0..entity.relations.len()).rev() {
            let [column] = entity.relations[at].columns.as_slice() else { continue };
            if entity.relations[at].kind != RelationKind::ManyToMany {
                continue;
            }
            let Some((table, key, ty, target)) = keys.get(&entity.relations[at].target) else {
                continue;
            };
            let column = column.clone();
            let name = format!("{}{}", entity.name, Case::Pascal.apply(&column));
            let mut join = Entity::stored(
                None,
                &unused(&table_name(&format!("{own_table}_{column}")), &mut tables),
                Origin::implied("a list of references"),
            );
            (join.id, join.name, join.module) =
                (format!("{}.{name}", entity.module), name, entity.module.clone());
            join.join = true;
            join.mapped.code = false;
            refer(
                &mut join,
                [
                    (&entity.id, &own_table, &own_key, &own_type, &entity.name),
                    (&entity.relations[at].target, table, key, ty, target),
                ],
            );
            let cause = OfDocument::ListOfReferences(join.table.clone());
            own.note(Touched::Table(join.table.clone()), cause.clone());
            for element in [
                Element::column(&column),
                Element::Relation(vec![column.clone()]),
                Element::Join(join.table.clone()),
            ] {
                own.note(Touched::Element(entity.table.clone(), element), cause.clone());
            }
            entity.fields.retain(|field| field.column != column);
            entity.uniques.retain(|unique| !unique.columns.contains(&column));
            entity.indexes.retain(|index| !index.columns.contains(&column));
            entity.relations[at].columns = Vec::new();
            entity.relations[at].through = Some(join.id.clone());
            joins.push(join);
        }
    }
    schema.entities.extend(joins);
}

/// Id, table, key column, its type and the class that a row of a join table refers to.
type Referred<'r> = (&'r str, &'r str, &'r str, &'r Type, &'r str);

/// A join table's columns, references and key.
fn refer(join: &mut Entity, sides: [Referred<'_>; 2]) {
    for (id, table, key, ty, class) in sides {
        let column = unused_column(join, &format!("{}_id", Case::Snake.apply(class)));
        let mut field = blank(column.clone(), ty.clone());
        field.nullable = false;
        join.fields.push(field);
        join.foreign_keys.push(ForeignKey {
            columns: vec![column.clone()],
            references: References {
                table: table.to_owned(),
                namespace: None,
                columns: vec![key.to_owned()],
            },
            on_delete: Action::Cascade,
            on_update: Action::NoAction,
            deferrable: None,
            enforced: EnforcedBy::Database,
            name: None,
            origin: Origin::implied("a list of references"),
        });
        join.relations.push(relation(RelationKind::ManyToOne, id, vec![column]));
    }
    let columns = join.fields.iter().map(|field| field.column.clone()).collect();
    join.primary_key =
        Some(PrimaryKey { columns, name: None, origin: Origin::implied("a list of references") });
}

/// The database holds references, which have the type of the key.
fn references(schema: &mut Schema) {
    let keys: HashMap<String, (String, Vec<(String, Type)>)> = schema
        .entities
        .iter()
        .map(|entity| {
            let key = entity
                .key_columns()
                .iter()
                .filter_map(|column| Some((column.clone(), entity.field(column)?.r#type.clone())))
                .collect();
            (entity.id.clone(), (entity.table.clone(), key))
        })
        .collect();
    for entity in &mut schema.entities {
        for at in 0..entity.relations.len() {
            let relation = &entity.relations[at];
            let Some((table, key)) =
                keys.get(&relation.target).filter(|_| relation.columns.len() == 1)
            else {
                continue;
            };
            let [(key, ty)] = key.as_slice() else { continue };
            let columns = relation.columns.clone();
            if let Some(field) = entity.fields.iter_mut().find(|field| field.column == columns[0]) {
                field.r#type = ty.clone();
            }
            match entity.foreign_keys.iter_mut().find(|known| known.columns == columns) {
                Some(known) => known.enforced = EnforcedBy::Database,
                None => entity.foreign_keys.push(ForeignKey {
                    columns,
                    references: References {
                        table: table.clone(),
                        namespace: None,
                        columns: vec![key.clone()],
                    },
                    on_delete: Action::NoAction,
                    on_update: Action::NoAction,
                    deferrable: None,
                    enforced: EnforcedBy::Database,
                    name: None,
                    origin: Origin::implied("the database holds references"),
                }),
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use crate::fit::tests::{Case, check_whole};

    const CASES: &[Case] = &[
        (
            "mongoose mongodb > django postgresql",
            "const T = mongoose.model('T', new Schema({ a: { type: String, enum: ['x', 'y'] }, \
             b: { type: Number, min: 1 } }, { timestamps: true }), 't');\n",
            &[
                "t, column _id, default in the application: \
                 {\"expression\":{\"language\":\"typescript\",\"database\":null,\"text\":\"() \
                 => new Types.ObjectId()\",\"tree\":null}} -> nothing (dropped: the default \
                 `() => new Types.ObjectId()` is code of the source's language)",
                "t, column __v, purpose: \"version\" -> nothing (weakened: Django does not keep \
                 such a column by itself)",
                "enum TA, labels: nothing -> [\"x\",\"y\"] (added: choices need a text to show)",
                "t, index _id varchar_pattern_ops, exists: nothing -> true (added: an indexed \
                 text gets a second index for patterns)",
                "t, column createdAt, type: \"timestamp(3) with time zone\" -> \"timestamp with \
                 time zone\" (strengthened: Django cannot say `timestamp(3) with time zone` on \
                 this server)",
                "t, column updatedAt, type: \"timestamp(3) with time zone\" -> \"timestamp with \
                 time zone\" (strengthened: Django cannot say `timestamp(3) with time zone` on \
                 this server)",
                "t, column _id, type: \"object id\" -> \"varchar(24)\" (respelled: Django \
                 cannot say `char(24)` on this server)",
                "t, kind: \"document\" -> \"table\" (respelled: documents become rows)",
                "t, column __v, type: \"double precision\" -> \"integer\" (respelled: a \
                 database of tables has other types)",
            ],
        ),
        (
            "mongoose mongodb > typeorm postgresql",
            "const T = mongoose.model('T', new Schema({ part: { a: String, b: Number }, tags: \
             [String] }, { versionKey: false }), 't');\n",
            &[
                "t, column _id, default in the application: \
                 {\"expression\":{\"language\":\"typescript\",\"database\":null,\"text\":\"() \
                 => new Types.ObjectId()\",\"tree\":null}} -> nothing (dropped: the default \
                 `() => new Types.ObjectId()` is code of the source's language)",
                "t, column _id, required_on_input: \"optional\" -> nothing (dropped: TypeORM \
                 does not validate input)",
                "t, column tags, required_on_input: \"optional\" -> nothing (dropped: TypeORM \
                 does not validate input)",
                "t.part, column a, required_on_input: \"optional\" -> nothing (dropped: TypeORM \
                 does not validate input)",
                "t.part, column b, required_on_input: \"optional\" -> nothing (dropped: TypeORM \
                 does not validate input)",
                "t, column _id, optional_in_code: nothing -> \"required\" (added: the type in \
                 the code also says what may be missing)",
                "t, column tags, optional_in_code: nothing -> \"optional\" (added: the type in \
                 the code also says what may be missing)",
                "t_part, column a, optional_in_code: nothing -> \"optional\" (added: the type \
                 in the code also says what may be missing)",
                "t_part, column b, optional_in_code: nothing -> \"optional\" (added: the type \
                 in the code also says what may be missing)",
                "t_part, column t_id, optional_in_code: nothing -> \"required\" (added: the \
                 type in the code also says what may be missing)",
                "t.part, exists: true -> nothing (respelled: a table holds no documents)",
                "t.part, module: \"main\" -> nothing (respelled: a table holds no documents)",
                "t.part, has a class: true -> nothing (respelled: a table holds no documents)",
                "t.part, class: \"TPart\" -> nothing (respelled: a table holds no documents)",
                "t.part, kind: \"document\" -> nothing (respelled: a table holds no documents)",
                "t.part, owned_by: {\"entity\":\"main.T\",\"path\":\"part\",\"shape\":\"part\"} \
                 -> nothing (respelled: a table holds no documents)",
                "t.part, column a, attribute: \"a\" -> nothing (respelled: a table holds no \
                 documents)",
                "t.part, column a, type: \"text\" -> nothing (respelled: a table holds no \
                 documents)",
                "t.part, column a, nullable: \"null\" -> nothing (respelled: a table holds no \
                 documents)",
                "t.part, column b, attribute: \"b\" -> nothing (respelled: a table holds no \
                 documents)",
                "t.part, column b, type: \"double precision\" -> nothing (respelled: a table \
                 holds no documents)",
                "t.part, column b, nullable: \"null\" -> nothing (respelled: a table holds no \
                 documents)",
                "t_part, exists: nothing -> true (respelled: a table holds no documents)",
                "t_part, module: nothing -> \"main\" (respelled: a table holds no documents)",
                "t_part, has a class: nothing -> true (respelled: a table holds no documents)",
                "t_part, class: nothing -> \"TPart\" (respelled: a table holds no documents)",
                "t_part, created: nothing -> true (respelled: a table holds no documents)",
                "t_part, kind: nothing -> \"table\" (respelled: a table holds no documents)",
                "t_part, key, columns: nothing -> [\"t_id\"] (respelled: a table holds no \
                 documents)",
                "t_part, column a, attribute: nothing -> \"a\" (respelled: a table holds no \
                 documents)",
                "t_part, column a, type: nothing -> \"text\" (respelled: a table holds no \
                 documents)",
                "t_part, column a, nullable: nothing -> \"null\" (respelled: a table holds no \
                 documents)",
                "t_part, column b, attribute: nothing -> \"b\" (respelled: a table holds no \
                 documents)",
                "t_part, column b, type: nothing -> \"double precision\" (respelled: a table \
                 holds no documents)",
                "t_part, column b, nullable: nothing -> \"null\" (respelled: a table holds no \
                 documents)",
                "t_part, column t_id, attribute: nothing -> \"tId\" (respelled: a table holds \
                 no documents)",
                "t_part, column t_id, type: nothing -> \"char(24)\" (respelled: a table holds \
                 no documents)",
                "t_part, column t_id, nullable: nothing -> \"not null\" (respelled: a table \
                 holds no documents)",
                "t_part, foreign key t_id, references: nothing -> [null,\"t\",[\"_id\"]] \
                 (respelled: a table holds no documents)",
                "t_part, foreign key t_id, on_delete: nothing -> \"cascade\" (respelled: a \
                 table holds no documents)",
                "t_part, foreign key t_id, on_update: nothing -> \"no action\" (respelled: a \
                 table holds no documents)",
                "t_part, foreign key t_id, enforced: nothing -> \"database\" (respelled: a \
                 table holds no documents)",
                "t_part, relation t_id, kind: nothing -> \"one-to-one\" (respelled: a table \
                 holds no documents)",
                "t_part, relation t_id, attribute: nothing -> \"t\" (respelled: a table holds \
                 no documents)",
                "t_part, relation t_id, target: nothing -> \"t\" (respelled: a table holds no \
                 documents)",
                "t_part, relation t_id, inverse: nothing -> \"part\" (respelled: a table holds \
                 no documents)",
                "t, kind: \"document\" -> \"table\" (respelled: documents become rows)",
                "t, column _id, type: \"object id\" -> \"char(24)\" (respelled: a database of \
                 tables has other types)",
            ],
        ),
        (
            "mongoose mongodb > prisma postgresql",
            "const T = mongoose.model('T', new Schema({ lines: [new Schema({ a: Number })] }, \
             { versionKey: false }), 't');\n",
            &[
                "t, column _id, default in the application: \
                 {\"expression\":{\"language\":\"typescript\",\"database\":null,\"text\":\"() \
                 => new Types.ObjectId()\",\"tree\":null}} -> nothing (dropped: the default \
                 `() => new Types.ObjectId()` is code of the source's language)",
                "t.lines, column _id, default in the application: \
                 {\"expression\":{\"language\":\"typescript\",\"database\":null,\"text\":\"() \
                 => new Types.ObjectId()\",\"tree\":null}} -> nothing (dropped: the default \
                 `() => new Types.ObjectId()` is code of the source's language)",
                "t, column _id, required_on_input: \"optional\" -> nothing (dropped: Prisma \
                 does not validate input)",
                "t.lines, column _id, required_on_input: \"optional\" -> nothing (dropped: \
                 Prisma does not validate input)",
                "t.lines, column a, required_on_input: \"optional\" -> nothing (dropped: Prisma \
                 does not validate input)",
                "t, column _id, optional_in_code: nothing -> \"required\" (added: the type in \
                 the code also says what may be missing)",
                "t_lines, column _id, optional_in_code: nothing -> \"required\" (added: the \
                 type in the code also says what may be missing)",
                "t_lines, column a, optional_in_code: nothing -> \"optional\" (added: the type \
                 in the code also says what may be missing)",
                "t_lines, column t_id, optional_in_code: nothing -> \"required\" (added: the \
                 type in the code also says what may be missing)",
                "t.lines, exists: true -> nothing (respelled: a table holds no documents)",
                "t.lines, module: \"main\" -> nothing (respelled: a table holds no documents)",
                "t.lines, has a class: true -> nothing (respelled: a table holds no documents)",
                "t.lines, class: \"TLines\" -> nothing (respelled: a table holds no documents)",
                "t.lines, kind: \"document\" -> nothing (respelled: a table holds no documents)",
                "t.lines, owned_by: {\"entity\":\"main.T\",\"path\":\"lines\",\
                 \"shape\":\"many\"} -> nothing (respelled: a table holds no documents)",
                "t.lines, key, columns: [\"_id\"] -> nothing (respelled: a table holds no \
                 documents)",
                "t.lines, column _id, attribute: \"id\" -> nothing (respelled: a table holds no \
                 documents)",
                "t.lines, column _id, type: \"object id\" -> nothing (respelled: a table holds \
                 no documents)",
                "t.lines, column _id, nullable: \"not null\" -> nothing (respelled: a table \
                 holds no documents)",
                "t.lines, column a, attribute: \"a\" -> nothing (respelled: a table holds no \
                 documents)",
                "t.lines, column a, type: \"double precision\" -> nothing (respelled: a table \
                 holds no documents)",
                "t.lines, column a, nullable: \"null\" -> nothing (respelled: a table holds no \
                 documents)",
                "t_lines, exists: nothing -> true (respelled: a table holds no documents)",
                "t_lines, module: nothing -> \"main\" (respelled: a table holds no documents)",
                "t_lines, has a class: nothing -> true (respelled: a table holds no documents)",
                "t_lines, class: nothing -> \"TLines\" (respelled: a table holds no documents)",
                "t_lines, created: nothing -> true (respelled: a table holds no documents)",
                "t_lines, kind: nothing -> \"table\" (respelled: a table holds no documents)",
                "t_lines, key, columns: nothing -> [\"_id\"] (respelled: a table holds no \
                 documents)",
                "t_lines, column _id, attribute: nothing -> \"id\" (respelled: a table holds no \
                 documents)",
                "t_lines, column _id, type: nothing -> \"char(24)\" (respelled: a table holds \
                 no documents)",
                "t_lines, column _id, nullable: nothing -> \"not null\" (respelled: a table \
                 holds no documents)",
                "t_lines, column a, attribute: nothing -> \"a\" (respelled: a table holds no \
                 documents)",
                "t_lines, column a, type: nothing -> \"double precision\" (respelled: a table \
                 holds no documents)",
                "t_lines, column a, nullable: nothing -> \"null\" (respelled: a table holds no \
                 documents)",
                "t_lines, column t_id, attribute: nothing -> \"tId\" (respelled: a table holds \
                 no documents)",
                "t_lines, column t_id, type: nothing -> \"char(24)\" (respelled: a table holds \
                 no documents)",
                "t_lines, column t_id, nullable: nothing -> \"not null\" (respelled: a table \
                 holds no documents)",
                "t_lines, index t_id, exists: nothing -> true (respelled: a table holds no \
                 documents)",
                "t_lines, foreign key t_id, references: nothing -> [null,\"t\",[\"_id\"]] \
                 (respelled: a table holds no documents)",
                "t_lines, foreign key t_id, on_delete: nothing -> \"cascade\" (respelled: a \
                 table holds no documents)",
                "t_lines, foreign key t_id, on_update: nothing -> \"no action\" (respelled: a \
                 table holds no documents)",
                "t_lines, foreign key t_id, enforced: nothing -> \"database\" (respelled: a \
                 table holds no documents)",
                "t_lines, relation t_id, kind: nothing -> \"many-to-one\" (respelled: a table \
                 holds no documents)",
                "t_lines, relation t_id, attribute: nothing -> \"t\" (respelled: a table holds \
                 no documents)",
                "t_lines, relation t_id, target: nothing -> \"t\" (respelled: a table holds no \
                 documents)",
                "t_lines, relation t_id, inverse: nothing -> \"lines\" (respelled: a table \
                 holds no documents)",
                "t, kind: \"document\" -> \"table\" (respelled: documents become rows)",
                "t, column _id, type: \"object id\" -> \"char(24)\" (respelled: a database of \
                 tables has other types)",
            ],
        ),
        (
            "mongoose mongodb > sequelize sqlite",
            "const T = mongoose.model('T', new Schema({ far: \
             [{ type: Schema.Types.ObjectId, ref: 'T' }], any: Schema.Types.Mixed, m: \
             { type: Map, of: Number } }, { versionKey: false }), 't');\n",
            &[
                "t, column _id, default in the application: \
                 {\"expression\":{\"language\":\"typescript\",\"database\":null,\"text\":\"() \
                 => new Types.ObjectId()\",\"tree\":null}} -> nothing (dropped: the default \
                 `() => new Types.ObjectId()` is code of the source's language)",
                "t, column _id, required_on_input: \"optional\" -> nothing (dropped: Sequelize \
                 does not validate input)",
                "t, column any, required_on_input: \"optional\" -> nothing (dropped: Sequelize \
                 does not validate input)",
                "t, column m, required_on_input: \"optional\" -> nothing (dropped: Sequelize \
                 does not validate input)",
                "t, column m, extra map: [\"Number\"] -> nothing (dropped: `map` has no meaning \
                 outside its own framework)",
                "t_far, has a class: nothing -> true (added: the join table `t_far` has a shape \
                 that Sequelize would not give it)",
                "t_far, class: nothing -> \"TFar\" (added: the join table `t_far` has a shape \
                 that Sequelize would not give it)",
                "t_far, column t_id, attribute: nothing -> \"tId\" (added: the join table \
                 `t_far` has a shape that Sequelize would not give it)",
                "t_far, column t_id2, attribute: nothing -> \"tId2\" (added: the join table \
                 `t_far` has a shape that Sequelize would not give it)",
                "t_far, relation t_id, attribute: nothing -> \"fromT\" (added: the join table \
                 `t_far` has a shape that Sequelize would not give it)",
                "t_far, relation t_id, inverse: nothing -> \"tFarsFromT\" (added: the join \
                 table `t_far` has a shape that Sequelize would not give it)",
                "t_far, relation t_id2, attribute: nothing -> \"toT\" (added: the join table \
                 `t_far` has a shape that Sequelize would not give it)",
                "t_far, relation t_id2, inverse: nothing -> \"tFarsToT\" (added: the join table \
                 `t_far` has a shape that Sequelize would not give it)",
                "t, column _id, optional_in_code: nothing -> \"required\" (added: the type in \
                 the code also says what may be missing)",
                "t, column any, optional_in_code: nothing -> \"optional\" (added: the type in \
                 the code also says what may be missing)",
                "t, column m, optional_in_code: nothing -> \"optional\" (added: the type in the \
                 code also says what may be missing)",
                "t_far, column t_id, optional_in_code: nothing -> \"required\" (added: the type \
                 in the code also says what may be missing)",
                "t_far, column t_id2, optional_in_code: nothing -> \"required\" (added: the \
                 type in the code also says what may be missing)",
                "t, column far, attribute: \"far2\" -> nothing (respelled: a table holds no \
                 lists of references)",
                "t, column far, type: \"object id array\" -> nothing (respelled: a table holds \
                 no lists of references)",
                "t, column far, nullable: \"null\" -> nothing (respelled: a table holds no \
                 lists of references)",
                "t, column far, required_on_input: \"optional\" -> nothing (respelled: a table \
                 holds no lists of references)",
                "t, column far, default in the application: {\"literal\":[]} -> nothing \
                 (respelled: a table holds no lists of references)",
                "t, relation far, kind: \"many-to-many\" -> nothing (respelled: a table holds \
                 no lists of references)",
                "t, relation far, attribute: \"far\" -> nothing (respelled: a table holds no \
                 lists of references)",
                "t, relation far, target: \"t\" -> nothing (respelled: a table holds no lists \
                 of references)",
                "t, relation through t_far, kind: nothing -> \"many-to-many\" (respelled: a \
                 table holds no lists of references)",
                "t, relation through t_far, attribute: nothing -> \"far\" (respelled: a table \
                 holds no lists of references)",
                "t, relation through t_far, target: nothing -> \"t\" (respelled: a table holds \
                 no lists of references)",
                "t_far, exists: nothing -> true (respelled: a table holds no lists of references)",
                "t_far, module: nothing -> \"main\" (respelled: a table holds no lists of \
                 references)",
                "t_far, created: nothing -> true (respelled: a table holds no lists of references)",
                "t_far, kind: nothing -> \"table\" (respelled: a table holds no lists of \
                 references)",
                "t_far, key, columns: nothing -> [\"t_id\",\"t_id2\"] (respelled: a table holds \
                 no lists of references)",
                "t_far, column t_id, type: nothing -> \"char(24)\" (respelled: a table holds no \
                 lists of references)",
                "t_far, column t_id, nullable: nothing -> \"not null\" (respelled: a table \
                 holds no lists of references)",
                "t_far, column t_id2, type: nothing -> \"char(24)\" (respelled: a table holds \
                 no lists of references)",
                "t_far, column t_id2, nullable: nothing -> \"not null\" (respelled: a table \
                 holds no lists of references)",
                "t_far, foreign key t_id, references: nothing -> [null,\"t\",[\"_id\"]] \
                 (respelled: a table holds no lists of references)",
                "t_far, foreign key t_id, on_delete: nothing -> \"cascade\" (respelled: a table \
                 holds no lists of references)",
                "t_far, foreign key t_id, on_update: nothing -> \"no action\" (respelled: a \
                 table holds no lists of references)",
                "t_far, foreign key t_id, enforced: nothing -> \"database\" (respelled: a table \
                 holds no lists of references)",
                "t_far, foreign key t_id2, references: nothing -> [null,\"t\",[\"_id\"]] \
                 (respelled: a table holds no lists of references)",
                "t_far, foreign key t_id2, on_delete: nothing -> \"cascade\" (respelled: a \
                 table holds no lists of references)",
                "t_far, foreign key t_id2, on_update: nothing -> \"no action\" (respelled: a \
                 table holds no lists of references)",
                "t_far, foreign key t_id2, enforced: nothing -> \"database\" (respelled: a \
                 table holds no lists of references)",
                "t_far, relation t_id, kind: nothing -> \"many-to-one\" (respelled: a table \
                 holds no lists of references)",
                "t_far, relation t_id, target: nothing -> \"t\" (respelled: a table holds no \
                 lists of references)",
                "t_far, relation t_id2, kind: nothing -> \"many-to-one\" (respelled: a table \
                 holds no lists of references)",
                "t_far, relation t_id2, target: nothing -> \"t\" (respelled: a table holds no \
                 lists of references)",
                "t, kind: \"document\" -> \"table\" (respelled: documents become rows)",
                "t, column _id, type: \"object id\" -> \"char(24)\" (respelled: a database of \
                 tables has other types)",
            ],
        ),
        (
            "mongoose mongodb > sqlalchemy postgresql",
            "const s = new Schema({ a: { type: String, unique: true, sparse: true }, b: \
             { type: Date, expires: 60 } }, { versionKey: false });\ns.index({ a: 1, b: -1 });\n\
             const T = mongoose.model('T', s, 't');\n",
            &[
                "t, column _id, default in the application: \
                 {\"expression\":{\"language\":\"typescript\",\"database\":null,\"text\":\"() \
                 => new Types.ObjectId()\",\"tree\":null}} -> nothing (dropped: the default \
                 `() => new Types.ObjectId()` is code of the source's language)",
                "t, index b, exists: true -> nothing (dropped: no other database deletes what \
                 is too old by an index)",
                "t, index b, extra expireAfterSeconds: [60] -> nothing (dropped: no other \
                 database deletes what is too old by an index)",
                "t, column _id, required_on_input: \"optional\" -> nothing (dropped: SQLAlchemy \
                 does not validate input)",
                "t, column a, required_on_input: \"optional\" -> nothing (dropped: SQLAlchemy \
                 does not validate input)",
                "t, column b, required_on_input: \"optional\" -> nothing (dropped: SQLAlchemy \
                 does not validate input)",
                "t, column _id, optional_in_code: nothing -> \"required\" (added: the type in \
                 the code also says what may be missing)",
                "t, column a, optional_in_code: nothing -> \"optional\" (added: the type in the \
                 code also says what may be missing)",
                "t, column b, optional_in_code: nothing -> \"optional\" (added: the type in the \
                 code also says what may be missing)",
                "t, kind: \"document\" -> \"table\" (respelled: documents become rows)",
                "t, column _id, type: \"object id\" -> \"char(24)\" (respelled: a database of \
                 tables has other types)",
                "t, unique a, as: \"index\" -> \"constraint\" (respelled: uniqueness is kept by \
                 another object of the database)",
            ],
        ),
    ];

    #[test]
    fn what_the_pass_makes_of_tables() {
        check_whole(CASES);
    }
}
