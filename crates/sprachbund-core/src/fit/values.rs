//! Values that columns get by themselves: numbers of keys, defaults, times, generated columns.

use super::{Fitting, Grade, element};
use crate::dialect::Feature;
use crate::dialect::conventions::Actor;
use crate::resolve::of_purpose;
use crate::schema::facts::FactKey;
use crate::schema::{Database, Default_, Entity, Field, Function, Identity, Purpose, Type};

/// Fits every column's values.
pub(super) fn fit(fitting: &mut Fitting) {
    fitting.each_entity(|fitting, entity| {
        for at in 0..entity.fields.len() {
            let column = element(entity, &entity.fields[at].column);
            identity(fitting, entity, at, &column);
            purpose(fitting, entity, at, &column);
            database_update(fitting, entity, at, &column);
            database_default(fitting, entity, at, &column);
            application_default(fitting, entity, at, &column);
            generated(fitting, entity, at, &column);
        }
    });
}

fn fact(entity: &Entity, at: usize, aspect: &str) -> Vec<FactKey> {
    vec![FactKey::new(&entity.table, format!("column {}", entity.fields[at].column), aspect)]
}

fn identity(fitting: &mut Fitting, entity: &mut Entity, at: usize, column: &str) {
    let Some(before) = entity.fields[at].identity else { return };
    let several = fitting.conventions.join_columns && fitting.database() == Database::PostgreSql;
    let sayable =
        |identity: Identity| if several { identity != Identity::AutoIncrement } else { identity == fitting.conventions.generated_key };
    let alone = matches!(entity.key_columns(), [only] if *only == entity.fields[at].column);
    let facts = fact(entity, at, "identity");
    if !alone && !several {
        entity.fields[at].identity = None;
        let reason = format!("{} numbers only a key of one column", fitting.framework);
        fitting.lose(Grade::Dropped, reason, "the application must fill it in", column.to_owned(), facts);
    } else if !sayable(before) {
        let after = fitting.conventions.generated_key;
        entity.fields[at].identity = Some(after);
        let grade = if before == Identity::Always { Grade::Weakened } else { Grade::Respelled };
        let reason = "the key's numbers come from another kind of counter";
        fitting.lose(grade, reason, format!("{} numbers it in its own way", fitting.framework), column.to_owned(), facts);
    }
}

fn feature_of(purpose: Purpose) -> Option<Feature> {
    match purpose {
        Purpose::CreationTime => None,
        Purpose::UpdateTime => Some(Feature::UpdateTime),
        Purpose::DeletionTime => Some(Feature::SoftDelete),
        Purpose::Version => Some(Feature::VersionColumn),
    }
}

/// Times that the framework fills in: by the application in one framework, by a default of the database in another.
fn purpose(fitting: &mut Fitting, entity: &mut Entity, at: usize, column: &str) {
    let Some(purpose) = entity.fields[at].purpose else { return };
    let is_time = matches!(entity.fields[at].r#type, Type::Timestamp { .. } | Type::Date | Type::Time { .. });
    let unsayable = feature_of(purpose).is_some_and(|feature| !fitting.capabilities.has(feature));
    let needs_time = matches!(purpose, Purpose::CreationTime | Purpose::UpdateTime);
    if unsayable || (needs_time && !is_time) {
        entity.fields[at].purpose = None;
        let mut facts = fact(entity, at, "purpose");
        if entity.fields[at].on_update.application.take().is_some() {
            facts.extend(fact(entity, at, "update in the application"));
        }
        if entity.fields[at].on_update.database.take().is_some() {
            facts.extend(fact(entity, at, "update in the database"));
        }
        let reason = format!("{} does not keep such a column by itself", fitting.framework);
        fitting.lose(Grade::Weakened, reason, "the column stays; the application must fill it in", column.to_owned(), facts);
        return;
    }
    let field = &mut entity.fields[at];
    let actor = fitting.conventions.time_actor;
    let filled = of_purpose(purpose, &field.r#type, actor).map(Box::new);
    if filled.is_none() {
        return;
    }
    let before = (field.defaults.database.clone(), field.defaults.application.clone());
    let (after, grade, instead) = match actor {
        Actor::Database => {
            ((filled, None), Grade::Strengthened, "the database fills it in, by a default; so a hand-written insert gets it too")
        }
        // A default of the database stays beside what the application fills in.
        Actor::Application => ((before.0.clone(), filled), Grade::Added, "the application fills it in too"),
    };
    if before != after {
        let mut facts = Vec::new();
        if before.0 != after.0 {
            facts.push("default in the database");
        }
        if before.1 != after.1 {
            facts.push("default in the application");
        }
        (field.defaults.database, field.defaults.application) = after;
        let facts = facts.into_iter().flat_map(|aspect| fact(entity, at, aspect)).collect();
        let reason = format!("{} fills in times of creation and update in its own way", fitting.framework);
        fitting.lose(grade, reason, instead, column.to_owned(), facts);
    }
    let changed = (purpose == Purpose::UpdateTime)
        .then(|| of_purpose(purpose, &entity.fields[at].r#type, Actor::Application))
        .flatten()
        .map(Box::new);
    if entity.fields[at].on_update.application != changed {
        entity.fields[at].on_update.application = changed;
        let facts = fact(entity, at, "update in the application");
        fitting.lose(
            Grade::Respelled,
            "the time of an update is taken in another way",
            "as the framework takes it",
            column.to_owned(),
            facts,
        );
    }
}

/// What the database does at an update: by the framework's own column, or where the dialect has a word for it.
fn database_update(fitting: &mut Fitting, entity: &mut Entity, at: usize, column: &str) {
    let conventions = &fitting.conventions;
    let field = &mut entity.fields[at];
    let kept = field.purpose == Some(Purpose::UpdateTime);
    if kept && conventions.update_time_stored {
        let wanted = of_purpose(Purpose::UpdateTime, &field.r#type, Actor::Application).map(Box::new);
        if field.on_update.database != wanted {
            field.on_update.database = wanted;
            let facts = fact(entity, at, "update in the database");
            fitting.lose(Grade::Added, "the time of an update is taken by the database, too", "ON UPDATE", column.to_owned(), facts);
        }
    } else if field.on_update.database.is_some() && !conventions.update_time_stored {
        field.on_update.database = None;
        let facts = fact(entity, at, "update in the database");
        let reason = format!("{} does not tell the database to set a value at an update", fitting.framework);
        let instead = if kept { "the application does it" } else { "the application must do it" };
        fitting.lose(Grade::Weakened, reason, instead, column.to_owned(), facts);
    }
}

fn database_default(fitting: &mut Fitting, entity: &mut Entity, at: usize, column: &str) {
    let Some(default) = entity.fields[at].defaults.database.as_deref().cloned() else { return };
    let facts = fact(entity, at, "default in the database");
    let host = matches!(&default, Default_::Expression(expression) if !expression.is_sql());
    if host {
        entity.fields[at].defaults.database = None;
        fitting.lose(Grade::Dropped, "this default is an expression of the source's language", "write it anew", column.to_owned(), facts);
        return;
    }
    let (sqlite, one_moment) = (fitting.database() == Database::Sqlite, fitting.database() != Database::PostgreSql);
    let lacking = match &default {
        Default_::Function(Function::RandomUuid) => sqlite,
        Default_::Function(Function::StatementNow) => one_moment && fitting.conventions.join_columns,
        Default_::Function(Function::Now) => one_moment && !fitting.conventions.join_columns,
        _ => false,
    };
    if lacking {
        let after = match default {
            Default_::Function(Function::StatementNow) => Some(Box::new(Default_::Function(Function::Now))),
            Default_::Function(Function::Now) => Some(Box::new(Default_::Function(Function::StatementNow))),
            _ => None,
        };
        let grade = if after.is_some() { Grade::Respelled } else { Grade::Dropped };
        let instead = if after.is_some() { "the server's one function for the current time" } else { "the application must fill it in" };
        entity.fields[at].defaults.database = after;
        fitting.lose(grade, "this server has no such function", instead, column.to_owned(), facts);
    }
}

fn application_default(fitting: &mut Fitting, entity: &mut Entity, at: usize, column: &str) {
    let Some(default) = entity.fields[at].defaults.application.as_deref().cloned() else { return };
    let facts = fact(entity, at, "default in the application");
    match default {
        Default_::Expression(expression) => {
            let path = expression.text.contains('.')
                && expression.text.chars().all(|letter| letter.is_alphanumeric() || matches!(letter, '.' | '_'));
            let kept = expression.language == fitting.language && (fitting.language != "python" || path);
            if !kept {
                entity.fields[at].defaults.application = None;
                let reason = format!("the default `{}` is code of the source's language", one_line(&expression.text));
                fitting.lose(Grade::Dropped, reason, "write it anew", column.to_owned(), facts);
            }
        }
        Default_::Literal(value) => {
            let filled = matches!(&value, serde_json::Value::Array(items) if !items.is_empty())
                || matches!(&value, serde_json::Value::Object(entries) if !entries.is_empty());
            if filled && fitting.language == "python" {
                entity.fields[at].defaults.application = None;
                let reason = "a default that can be changed in place must be made by a function";
                fitting.lose(Grade::Dropped, reason, format!("write a function that returns `{value}`"), column.to_owned(), facts);
            }
        }
        Default_::Function(_) => {}
    }
}

fn generated(fitting: &mut Fitting, entity: &mut Entity, at: usize, column: &str) {
    let Some(generated) = entity.fields[at].generated.as_deref().cloned() else { return };
    let feature = if generated.stored { Feature::StoredGenerated } else { Feature::VirtualGenerated };
    let facts = fact(entity, at, "generated");
    if !generated.expression.is_sql() {
        entity.fields[at].generated = None;
        fitting.lose(
            Grade::Dropped,
            "its expression is code of the source's language",
            "the column is an ordinary one",
            column.to_owned(),
            facts,
        );
        return;
    }
    if !fitting.capabilities.has(feature) {
        let field = &mut entity.fields[at];
        field.generated.iter_mut().for_each(|generated| generated.stored = !generated.stored);
        fitting.lose(
            Grade::Respelled,
            "a generated column can only be kept in the table here",
            "it is kept there",
            column.to_owned(),
            facts,
        );
    }
    if fitting.conventions.generated_nullable && !entity.fields[at].nullable {
        entity.fields[at].nullable = true;
        let facts = fact(entity, at, "nullable");
        let reason = format!("{} makes every generated column nullable", fitting.framework);
        fitting.lose(Grade::Weakened, reason, "its values are still computed", column.to_owned(), facts);
    }
}

fn one_line(text: &str) -> String {
    let line: String = text.split_whitespace().collect::<Vec<_>>().join(" ");
    if line.chars().count() > 60 { format!("{}...", line.chars().take(57).collect::<String>()) } else { line }
}

/// Whether a column is filled in without anybody giving a value.
pub(super) fn is_automatic(field: &Field) -> bool {
    field.identity.is_some() || field.generated.is_some() || matches!(field.purpose, Some(Purpose::CreationTime | Purpose::UpdateTime))
}
