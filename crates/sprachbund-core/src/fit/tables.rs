//! Whole tables: inheritance, other packages' classes, namespaces, comments, natural order and the like.

use std::collections::HashSet;

use super::{Fitting, Grade};
use crate::declaration::Spelling;
use crate::dialect::Feature;
use crate::dialect::type_table::{row, stored};
use crate::history::sql;
use crate::quoting::sql as quoting;
use crate::schema::facts::{FactKey, index_element, unique_element};
use crate::schema::{Entity, EntityKind, Field, Inheritance, Mapped, OrderKey, Origin, PrimaryKey, Type, Unique};

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
        key_by_uniqueness(fitting, entity);
        keyless(fitting, entity);
    });
}

/// A view has no key in the database; what tells its records apart is said as the target says it.
fn view(fitting: &mut Fitting, entity: &mut Entity) {
    if entity.kind != EntityKind::View {
        return;
    }
    if !fitting.capabilities.has(Feature::View) {
        entity.kind = EntityKind::Table;
        let reason = format!("{} has no word for a view", fitting.framework);
        let facts = vec![FactKey::new(&entity.table, "", "kind")];
        fitting.lose(Grade::Respelled, reason, "a class of a table that it does not make", entity.id.clone(), facts);
    }
    if let (false, Some(key)) = (fitting.capabilities.has(Feature::KeyOfView), &entity.primary_key) {
        let (columns, facts) = (key.columns.clone(), key_facts(&entity.table, &key.columns));
        entity.primary_key = None;
        if !entity.is_unique(&columns) {
            let r#as = fitting.conventions.unique_as(columns.len(), false);
            entity.uniques.push(Unique { columns, r#as, origin: Origin::implied("it told the records apart"), ..Unique::default() });
        }
        let reason = format!("{} has no key of a view", fitting.framework);
        fitting.lose(Grade::Respelled, reason, "its columns are unique", entity.id.clone(), facts);
    }
}

fn key_facts(table: &str, columns: &[String]) -> Vec<FactKey> {
    let unique = Unique { columns: columns.to_vec(), ..Unique::default() };
    vec![FactKey::new(table, "key", "columns"), FactKey::new(table, unique_element(&unique), "")]
}

/// Columns that tell the records apart become the key where there must be one.
fn key_by_uniqueness(fitting: &mut Fitting, entity: &mut Entity) {
    if entity.primary_key.is_some() || entity.inherits.is_some() || entity.external || fitting.capabilities.has(Feature::Keyless) {
        return;
    }
    let required = |column: &String| entity.field(column).is_some_and(|field| !field.nullable);
    let apart = |unique: &&Unique| unique.deferrable.is_none() && unique.columns.iter().all(required);
    let Some(columns) = entity.uniques.iter().find(apart).map(|unique| unique.columns.clone()) else { return };
    if columns.len() > 1 && !fitting.capabilities.has(Feature::CompositeKey) {
        return;
    }
    let facts = key_facts(&entity.table, &columns);
    entity.uniques.retain(|unique| unique.columns != columns);
    let instead = format!("({}) is unique and never null: it becomes the key", columns.join(", "));
    entity.primary_key = Some(PrimaryKey { columns, name: None, origin: Origin::implied("it told the records apart") });
    let reason = format!("{} has no class without a key", fitting.framework);
    fitting.lose(Grade::Strengthened, reason, instead, entity.id.clone(), facts);
}

/// Second classes over one table go where the target has none; relations to them lead to the table's own class.
fn drop_same_table(fitting: &mut Fitting) {
    if fitting.capabilities.has(Feature::SameTable) {
        return;
    }
    let same = |entity: &Entity| {
        entity.inherits.as_ref().filter(|inherits| inherits.how == Inheritance::SameTable).map(|inherits| inherits.entity.clone())
    };
    let gone: Vec<(String, String, String)> = fitting
        .schema
        .entities
        .iter()
        .filter(|entity| !(fitting.home && entity.extras.contains_key("discriminator_value")))
        .filter_map(|entity| Some((entity.id.clone(), same(entity)?, format!("{} as {}", entity.table, entity.name))))
        .collect();
    for (id, parent, table) in &gone {
        fitting.schema.entities.retain(|entity| entity.id != *id);
        for relation in
            fitting.schema.entities.iter_mut().flat_map(|entity| &mut entity.relations).filter(|relation| relation.target == *id)
        {
            relation.target.clone_from(parent);
        }
        let reason = format!("{} has no second class over one table", fitting.framework);
        fitting.lose(
            Grade::Dropped,
            reason,
            "the class is left out; relations to it lead to the first one",
            id.clone(),
            vec![FactKey::new(table, "", "")],
        );
    }
}

/// References to classes that nobody declares go, with their columns: the type of these is not known.
fn drop_undeclared(fitting: &mut Fitting) {
    // Documents say the types of their references themselves.
    if fitting.home && fitting.conventions.documents {
        return;
    }
    let known: HashSet<String> = fitting.schema.entities.iter().map(|entity| entity.id.clone()).collect();
    fitting.each_entity(|fitting, entity| {
        let gone: Vec<_> = entity.relations.iter().filter(|relation| !known.contains(&relation.target)).cloned().collect();
        entity.relations.retain(|relation| known.contains(&relation.target));
        for relation in gone {
            let unknown = |column: &String| entity.field(column).is_some_and(|field| field.r#type == Type::Native("unknown".into()));
            let columns: Vec<String> = relation.columns.iter().filter(|column| unknown(column)).cloned().collect();
            let mut facts = vec![FactKey::new(&entity.table, format!("relation {}", relation.columns.join(", ")), "")];
            for column in &columns {
                facts.push(FactKey::new(&entity.table, format!("column {column}"), ""));
                for unique in entity.uniques.iter().filter(|unique| unique.columns.contains(column)) {
                    facts.push(FactKey::new(&entity.table, unique_element(unique), ""));
                }
                for index in entity.indexes.iter().filter(|index| index.columns.contains(column)) {
                    facts.push(FactKey::new(&entity.table, index_element(index), ""));
                }
                entity.fields.retain(|field| field.column != *column);
                entity.uniques.retain(|unique| !unique.columns.contains(column));
                entity.indexes.retain(|index| !index.columns.contains(column));
            }
            let name = format!("{}.{}", entity.name, relation.name.as_deref().unwrap_or_default());
            let reason = format!("nobody declares `{}`, so the type of the reference is not known", relation.target);
            fitting.lose(
                Grade::Dropped,
                reason,
                "the reference and its column are left out; add the declaration to the inputs",
                name,
                facts,
            );
        }
    });
}

fn joined(fitting: &mut Fitting, entity: &mut Entity) {
    let joined = entity.inherits.as_ref().is_some_and(|inherits| inherits.how == Inheritance::Joined);
    if joined && !fitting.capabilities.has(Feature::JoinedInheritance) {
        entity.inherits = None;
        let reason = format!("{} has no child tables joined to their parent's", fitting.framework);
        let facts = vec![FactKey::new(&entity.table, "", "inherits")];
        fitting.lose(Grade::Respelled, reason, "the child is a class of its own with a one-to-one to its parent", entity.id.clone(), facts);
    }
}

fn external(fitting: &mut Fitting, entity: &mut Entity) {
    if entity.external && !fitting.home {
        entity.external = false;
        entity.mapped = Mapped { table: false, code: true };
        let reason = format!("this class belongs to a package of the source framework that {} does not have", fitting.framework);
        let facts = vec![FactKey::new(&entity.table, "", "external")];
        fitting.lose(Grade::Respelled, reason, "a stub with its key only, for which no table is created", entity.id.clone(), facts);
    }
}

/// A table that something else creates.
fn unmanaged(fitting: &mut Fitting, entity: &mut Entity) {
    let second = entity.inherits.as_ref().is_some_and(|inherits| inherits.how == Inheritance::SameTable);
    if fitting.capabilities.has(Feature::Unmanaged) || entity.mapped.table || second || entity.kind != EntityKind::Table {
        return;
    }
    entity.mapped.table = true;
    let reason = format!("{} creates every table that its declarations name", fitting.framework);
    let instead = "tell it to leave out this table (`tables.external` of its configuration)";
    fitting.lose(Grade::Added, reason, instead, entity.id.clone(), vec![FactKey::new(&entity.table, "", "created")]);
}

fn namespace(fitting: &mut Fitting, entity: &mut Entity) {
    if !fitting.capabilities.has(Feature::Namespace)
        && let Some(name) = entity.namespace.take()
    {
        let reason = format!("{} cannot put a table into a named schema", fitting.framework);
        let instead = format!("the table is expected on the search path; set it to `{name}` for the connection");
        let mut facts = vec![FactKey::new(&entity.table, "", "namespace")];
        facts.extend(
            entity.foreign_keys.iter().map(|key| FactKey::new(&entity.table, crate::schema::facts::foreign_key_element(key), "references")),
        );
        fitting.lose(Grade::Dropped, reason, instead, entity.id.clone(), vec![facts.remove(0)]);
    }
    if !fitting.capabilities.has(Feature::Namespace) {
        for key in entity.foreign_keys.iter_mut().filter(|key| key.references.namespace.is_some()) {
            key.references.namespace = None;
            let fact = FactKey::new(&entity.table, crate::schema::facts::foreign_key_element(key), "references");
            let reason = format!("{} cannot refer to a table of a named schema", fitting.framework);
            fitting.lose(Grade::Dropped, reason, "the table is expected on the search path", entity.id.clone(), vec![fact]);
        }
    }
}

fn texts(fitting: &mut Fitting, entity: &mut Entity) {
    let fact = |aspect: &str| vec![FactKey::new(&entity.table, "", aspect)];
    let unsayable = |text: &String| !fitting.conventions.table_comments_quoted && !fitting.home && text.contains(['\'', '"', '\\']);
    let lacking = !fitting.capabilities.has(Feature::TableComment);
    if let Some(text) = entity.comment.clone().filter(|text| lacking || unsayable(text)) {
        entity.comment = None;
        let moved = match fitting.database().is_mysql() {
            true => Some(sql::comment_of_table(&entity.table, &text, fitting.database())),
            false => sql::comment(&quoting::name(&entity.table, fitting.database()), None, &text, fitting.database()),
        };
        let reason = "the comment of the table cannot be said";
        match moved {
            Some(statement) => {
                fitting.script.push(statement);
                fitting.lose(Grade::Moved, reason, "the script adds it", entity.id.clone(), fact("comment"));
            }
            None => fitting.lose(Grade::Dropped, reason, "this server keeps none either", entity.id.clone(), fact("comment")),
        }
    }
    if entity.label.is_some() && !fitting.capabilities.has(Feature::DisplayLabel) {
        entity.label = None;
        fitting.lose(
            Grade::Dropped,
            "the display text of a record has no place in an entity",
            "format records where they are shown",
            entity.id.clone(),
            fact("label"),
        );
    }
    let plain = |key: &OrderKey| key.field.chars().all(|letter| letter.is_alphanumeric() || letter == '_');
    let known = entity.order.iter().all(plain);
    if !entity.order.is_empty() && (!fitting.capabilities.has(Feature::Order) || (!fitting.home && !known)) {
        entity.order.clear();
        fitting.lose(Grade::Dropped, "this natural order cannot be said", "order each query", entity.id.clone(), fact("order"));
    }
    if entity.soft_delete.is_some() && !fitting.capabilities.has(Feature::SoftDelete) {
        entity.soft_delete = None;
        let reason = format!("{} does not leave out records that are marked as deleted", fitting.framework);
        fitting.lose(Grade::Weakened, reason, "the column stays; filter by it in each query", entity.id.clone(), fact("soft_delete"));
    }
}

fn key_name(fitting: &mut Fitting, entity: &mut Entity) {
    let unsayable = !fitting.capabilities.has(Feature::ConstraintName);
    if let Some(key) = entity.primary_key.as_mut().filter(|_| unsayable)
        && key.name.take().is_some()
    {
        let facts = vec![FactKey::new(&entity.table, "key", "name")];
        fitting.lose(Grade::Dropped, "the name of a primary key cannot be said", "the server names it", entity.id.clone(), facts);
    }
    if unsayable {
        for key in entity.foreign_keys.iter_mut().filter(|key| key.name.is_some()) {
            key.name = None;
            let fact = FactKey::new(&entity.table, crate::schema::facts::foreign_key_element(key), "name");
            fitting.lose(
                Grade::Dropped,
                "the name of a foreign key cannot be said",
                "the framework names it",
                entity.id.clone(),
                vec![fact],
            );
        }
    }
}

/// A table without a key gets one where the framework gives every class one.
fn keyless(fitting: &mut Fitting, entity: &mut Entity) {
    let known = |columns: &[String]| columns.iter().all(|column| entity.field(column).is_some_and(|field| !field.nullable));
    let identified = entity.primary_key.is_some() || entity.uniques.iter().any(|unique| known(&unique.columns));
    if !fitting.conventions.keyless_readable && !identified && !fitting.home {
        let reason = format!("{} does not read records that nothing tells apart", fitting.framework);
        let instead = "the table is made, and is not used; give it a key";
        fitting.lose(Grade::Weakened, reason, instead, entity.id.clone(), Vec::new());
    }
    if entity.primary_key.is_some() || !entity.mapped.table || entity.inherits.is_some() || fitting.capabilities.has(Feature::Keyless) {
        return;
    }
    let reason = format!("{} has no class without a key", fitting.framework);
    let implied = fitting.conventions.implied_key.clone().filter(|(name, _)| entity.field(name).is_none());
    if let Some((name, word)) = implied {
        give_key(fitting, entity, name, &word);
        let facts = vec![FactKey::new(&entity.table, format!("column {name}"), ""), FactKey::new(&entity.table, "key", "columns")];
        let instead = format!("it gets a column `{name}` that is numbered; the table must get it, too");
        return fitting.lose(Grade::Added, reason, instead, entity.id.clone(), facts);
    }
    let facts = vec![FactKey::new(&entity.table, "key", "columns")];
    fitting.lose(
        Grade::Weakened,
        reason,
        "the framework refuses the class until it has one; declare the columns that identify a record",
        entity.id.clone(),
        facts,
    );
}

/// The key that the target gives to a class without one.
fn give_key(fitting: &Fitting, entity: &mut Entity, name: &str, word: &str) {
    let conventions = &fitting.conventions;
    let Some(row) = row(conventions.types, word, conventions.database) else { return };
    let ty = row.read(&Spelling::word(word));
    let held = stored(Some(row), &ty, conventions.database, "");
    let mut field = Field::plain(Some(name.to_owned()), name.to_owned(), ty, held);
    field.identity = Some(conventions.generated_key);
    field.required_on_input = conventions.input_voice.then_some(false);
    field.optional_in_code = conventions.code_voice.then_some(false);
    field.origin = Origin::implied("a class without a key gets one");
    entity.fields.insert(0, field);
    let origin = Origin::implied("a class without a key gets one");
    entity.primary_key = Some(PrimaryKey { columns: vec![name.to_owned()], name: None, origin });
}

/// Where a key cannot be listed, its order is that of its columns.
fn key_order(fitting: &Fitting, entity: &mut Entity) {
    if fitting.conventions.key_listed || fitting.conventions.references_on_columns {
        return;
    }
    let key = entity.key_columns().to_vec();
    let places: Vec<usize> = (0..entity.fields.len()).filter(|at| key.contains(&entity.fields[*at].column)).collect();
    let in_order: Vec<Field> = key.iter().filter_map(|column| entity.field(column).cloned()).collect();
    if in_order.len() == places.len() {
        places.into_iter().zip(in_order).for_each(|(place, field)| entity.fields[place] = field);
    }
}
