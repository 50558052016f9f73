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
            application_default(fitting, entity, at, &column);
            database_default(fitting, entity, at, &column);
            generated(fitting, entity, at, &column);
        }
    });
}

/// Finds a word for what the application sets at an update: it decides about the type of the column, too.
pub(super) fn updates(fitting: &mut Fitting) {
    fitting.each_entity(|fitting, entity| {
        for at in 0..entity.fields.len() {
            let column = element(entity, &entity.fields[at].column);
            application_update(fitting, entity, at, &column);
        }
    });
}

fn fact(entity: &Entity, at: usize, aspect: &str) -> Vec<FactKey> {
    vec![FactKey::new(&entity.table, format!("column {}", entity.fields[at].column), aspect)]
}

fn identity(fitting: &mut Fitting, entity: &mut Entity, at: usize, column: &str) {
    let several = fitting.conventions.numbers_any_column;
    let alone = matches!(entity.key_columns(), [only] if *only == entity.fields[at].column);
    let own_way = fitting.conventions.generated_key;
    let always = fitting.conventions.numbers_every_key() && fitting.conventions.numbers_by_itself(&entity.fields[at].r#type);
    let Some(before) = entity.fields[at].identity else {
        if always && alone {
            entity.fields[at].identity = Some(fitting.conventions.silent_identity());
            let reason = format!("{} has every key of one whole number numbered", fitting.framework);
            let instead = "a row that comes without a key gets the next number";
            fitting.lose(Grade::Added, reason, instead, column.to_owned(), fact(entity, at, "identity"));
        }
        return;
    };
    // A column that is numbered by its framework's own counter must be the key.
    let counted = !fitting.conventions.references_on_columns || alone;
    let known = fitting.conventions.identities;
    let sayable = |identity: Identity| known.contains(&identity) && (identity != Identity::Sequence || counted);
    if !fitting.home && entity.fields[at].defaults.database.take().is_some() {
        let facts = fact(entity, at, "default in the database");
        let reason = "a column that is numbered needs no default";
        fitting.lose(Grade::Dropped, reason, "the database numbers it", column.to_owned(), facts);
    }
    let facts = fact(entity, at, "identity");
    if !alone && !several {
        entity.fields[at].identity = None;
        let reason = format!("{} numbers only a key of one column", fitting.framework);
        fitting.lose(Grade::Dropped, reason, "the application must fill it in", column.to_owned(), facts);
    } else if !sayable(before) {
        let after = if counted { own_way } else { Identity::ByDefault };
        entity.fields[at].identity = Some(after);
        let grade = if before == Identity::Always { Grade::Weakened } else { Grade::Respelled };
        let reason = "the key's numbers come from another kind of counter";
        fitting.lose(grade, reason, format!("{} numbers it in its own way", fitting.framework), column.to_owned(), facts);
    }
}

fn feature_of(purpose: Purpose) -> Option<Feature> {
    match purpose {
        Purpose::CreationTime => Some(Feature::CreationTime),
        Purpose::UpdateTime => Some(Feature::UpdateTime),
        Purpose::DeletionTime => Some(Feature::SoftDelete),
        Purpose::Version => Some(Feature::VersionColumn),
    }
}

/// Times that the framework fills in: by the application in one framework, by a default of the database in another.
fn purpose(fitting: &mut Fitting, entity: &mut Entity, at: usize, column: &str) {
    let Some(purpose) = entity.fields[at].purpose else { return };
    let is_time = matches!(entity.fields[at].r#type, Type::Timestamp { .. } | Type::Date | Type::Time { .. });
    let again = !fitting.conventions.purposes_repeat && entity.fields[..at].iter().any(|field| field.purpose == Some(purpose));
    let unsayable = again || feature_of(purpose).is_some_and(|feature| !fitting.capabilities.has(feature));
    let needs_time = matches!(purpose, Purpose::CreationTime | Purpose::UpdateTime);
    if unsayable && needs_time && fitting.capabilities.has(Feature::ApplicationUpdate) {
        entity.fields[at].purpose = None;
        let facts = fact(entity, at, "purpose");
        let reason = format!("{} has no word for times of creation and update", fitting.framework);
        return fitting.lose(Grade::Respelled, reason, "a default, and what an update sets, say the same", column.to_owned(), facts);
    }
    let defaults = &entity.fields[at].defaults;
    let by_default = defaults.database.is_some() || defaults.application.is_some();
    if unsayable && purpose == Purpose::CreationTime && by_default {
        entity.fields[at].purpose = None;
        let facts = fact(entity, at, "purpose");
        let reason = match again {
            true => format!("{} keeps one time of creation of a record", fitting.framework),
            false => format!("{} has no word for the time of creation", fitting.framework),
        };
        return fitting.lose(Grade::Respelled, reason, "a default says the same", column.to_owned(), facts);
    }
    if unsayable || (needs_time && !is_time) {
        entity.fields[at].purpose = None;
        let mut facts = fact(entity, at, "purpose");
        if entity.fields[at].on_update.application.take().is_some() {
            facts.extend(fact(entity, at, "update in the application"));
        }
        if entity.fields[at].on_update.database.take().is_some() {
            facts.extend(fact(entity, at, "update in the database"));
        }
        let reason = match again {
            true => format!("{} keeps one such column of a record", fitting.framework),
            false => format!("{} does not keep such a column by itself", fitting.framework),
        };
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

/// What the application sets at an update: the framework's own column of that purpose, where the target has no other word.
fn application_update(fitting: &mut Fitting, entity: &mut Entity, at: usize, column: &str) {
    let field = &entity.fields[at];
    let Some(update) = field.on_update.application.as_deref().filter(|_| field.purpose.is_none()) else { return };
    if fitting.capabilities.has(Feature::ApplicationUpdate) {
        let kept = match update {
            Default_::Expression(expression) => expression.language == fitting.language && stays(fitting, &expression.text),
            Default_::Literal(_) | Default_::Function(_) => true,
        };
        if !kept {
            let facts = fact(entity, at, "update in the application");
            entity.fields[at].on_update.application = None;
            fitting.lose(Grade::Dropped, "what an update sets is code of the source", "write it anew", column.to_owned(), facts);
        }
        return;
    }
    let wanted = of_purpose(Purpose::UpdateTime, &field.r#type, Actor::Application);
    let is_time = matches!(field.r#type, Type::Timestamp { .. } | Type::Date | Type::Time { .. });
    if is_time && wanted.as_ref() == Some(update) && fitting.capabilities.has(Feature::UpdateTime) {
        entity.fields[at].purpose = Some(Purpose::UpdateTime);
        let reason = format!("{} has a word for the time of an update", fitting.framework);
        let facts = fact(entity, at, "purpose");
        return fitting.lose(Grade::Respelled, reason, "it is used", column.to_owned(), facts);
    }
    entity.fields[at].on_update.application = None;
    let reason = format!("{} sets no value by itself at an update", fitting.framework);
    let facts = fact(entity, at, "update in the application");
    fitting.lose(Grade::Weakened, reason, "the application must do it", column.to_owned(), facts);
}

/// Whether code of the host language means the same in the target: at home what can be imported, elsewhere only what the
/// standard library has, since other code may need the framework that it was written for.
fn stays(fitting: &Fitting, text: &str) -> bool {
    let path = text.contains('.') && text.chars().all(|letter| letter.is_alphanumeric() || matches!(letter, '.' | '_'));
    let standard = text.split('.').next().is_some_and(|package| STANDARD_PACKAGES.contains(&package));
    match fitting.language {
        "python" => path && (fitting.home || standard),
        _ => fitting.home,
    }
}

/// Packages of Python's standard library whose functions give values.
const STANDARD_PACKAGES: &[&str] = &["datetime", "os", "random", "secrets", "socket", "time", "uuid"];

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

/// What the application fills in, where the target has few words for that: the database does it, if it can.
fn into_database(fitting: &mut Fitting, entity: &mut Entity, at: usize, column: &str) {
    let field = &mut entity.fields[at];
    let Some(default) = field.defaults.application.as_deref() else { return };
    // One default to a column, be it of the application or of the database; what an update sets stands beside it.
    let alone = field.defaults.database.is_none();
    let own_words = match default {
        Default_::Function(Function::RandomUuid) => {
            alone && matches!(field.r#type, Type::Uuid | Type::Text | Type::Varchar(_) | Type::Char(_))
        }
        Default_::Function(_) => field.purpose == Some(Purpose::UpdateTime),
        Default_::Expression(_) => alone,
        Default_::Literal(_) => false,
    };
    if own_words {
        return;
    }
    let random = matches!(default, Default_::Function(Function::RandomUuid));
    let default = field.defaults.application.take();
    let mut facts = fact(entity, at, "default in the application");
    let reason = format!("{} has no word for such a default of the application", fitting.framework);
    if let Some(own) = entity.fields[at].defaults.database.as_deref() {
        let now = |default: &Default_| matches!(default, Default_::Function(Function::Now | Function::StatementNow));
        let same = default.as_deref().is_some_and(|default| default == own || (now(default) && now(own)));
        let grade = if same { Grade::Respelled } else { Grade::Weakened };
        return fitting.lose(grade, reason, "the database's own default is what counts", column.to_owned(), facts);
    }
    if random || entity.fields[at].generated.is_some() {
        return fitting.lose(Grade::Dropped, reason, "the application must fill it in", column.to_owned(), facts);
    }
    entity.fields[at].defaults.database = default;
    facts.extend(fact(entity, at, "default in the database"));
    let instead = "the database fills it in; so a hand-written insert gets it too";
    fitting.lose(Grade::Strengthened, reason, instead, column.to_owned(), facts);
}

fn application_default(fitting: &mut Fitting, entity: &mut Entity, at: usize, column: &str) {
    moment_of_no_time(fitting, entity, at, column);
    if !fitting.capabilities.has(Feature::ApplicationDefault) {
        into_database(fitting, entity, at, column);
    }
    if !fitting.conventions.both_defaults {
        one_default(fitting, entity, at, column);
    }
    let Some(default) = entity.fields[at].defaults.application.as_deref().cloned() else { return };
    let facts = fact(entity, at, "default in the application");
    match default {
        Default_::Expression(expression) => {
            let kept = expression.language == fitting.language && stays(fitting, &expression.text);
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

/// A moment that the application fills into a column of another type; a framework that is written in types refuses it.
fn moment_of_no_time(fitting: &mut Fitting, entity: &mut Entity, at: usize, column: &str) {
    let field = &entity.fields[at];
    let is_time = matches!(field.r#type, Type::Timestamp { .. } | Type::Date | Type::Time { .. });
    let moment = matches!(field.defaults.application.as_deref(), Some(Default_::Function(function)) if *function != Function::RandomUuid);
    if fitting.home || is_time || !moment {
        return;
    }
    entity.fields[at].defaults.application = None;
    let facts = fact(entity, at, "default in the application");
    fitting.lose(Grade::Dropped, "a moment is no value of the column's type", "write what is meant", column.to_owned(), facts);
}

/// Of two defaults the one of the database stays; times that the framework keeps are no defaults.
fn one_default(fitting: &mut Fitting, entity: &mut Entity, at: usize, column: &str) {
    let field = &mut entity.fields[at];
    if matches!(field.purpose, Some(Purpose::CreationTime | Purpose::UpdateTime)) {
        return;
    }
    let (Some(own), Some(default)) = (field.defaults.database.as_deref(), field.defaults.application.as_deref()) else { return };
    if matches!(own, Default_::Expression(expression) if !expression.is_sql()) {
        return;
    }
    let grade = if own == default { Grade::Respelled } else { Grade::Weakened };
    field.defaults.application = None;
    let facts = fact(entity, at, "default in the application");
    let reason = format!("{} has one default to a column", fitting.framework);
    fitting.lose(grade, reason, "the database's own default is what counts", column.to_owned(), facts);
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
    let neither = [Feature::StoredGenerated, Feature::VirtualGenerated].iter().all(|feature| !fitting.capabilities.has(*feature));
    if neither {
        entity.fields[at].generated = None;
        let reason = format!("{} has no generated columns", fitting.framework);
        let instead = "the column is an ordinary one; the application must fill it in";
        return fitting.lose(Grade::Dropped, reason, instead, column.to_owned(), facts);
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
