//! Values that columns get by themselves: numbers of keys, defaults, times, generated columns.

use super::Fitting;
use super::causes::defaults::{Instead, OfDefault};
use super::causes::generated::OfGenerated;
use super::causes::times::OfTime;
use crate::decision::values::of_purpose;
use crate::dialect::Feature;
use crate::dialect::conventions::Actor;
use crate::dialect::grammar::NowFunction;
use crate::history::sql;
use crate::schema::facts::Aspect;
use crate::schema::{Default_, Entity, Field, Function, Identity, Purpose, Type, Voices};

/// Fits every column's values.
pub(super) fn fit(fitting: &mut Fitting) {
    fitting.each_entity(|fitting, entity| {
        for at in 0..entity.fields.len() {
            // A numbered column has no default, so the counter is settled before.
            identity(fitting, entity, at);
            // Times that the framework keeps bring defaults of their own and decide what happens at
            // an update.
            purpose(fitting, entity, at);
            database_update(fitting, entity, at);
            // The application's default may become one of the database, which is fitted then.
            application_default(fitting, entity, at);
            database_default(fitting, entity, at);
            generated(fitting, entity, at);
        }
    });
}

/// Finds a word for what the application sets at an update: it decides about the type of the
/// column, too.
pub(super) fn updates(fitting: &mut Fitting) {
    fitting.each_entity(|fitting, entity| {
        for at in 0..entity.fields.len() {
            application_update(fitting, entity, at);
        }
    });
}

fn identity(fitting: &mut Fitting, entity: &mut Entity, at: usize) {
    let several = fitting.conventions.limits.numbers_any_column;
    let alone = matches!(entity.key_columns(), [only] if *only == entity.fields[at].column);
    let own_way = fitting.conventions.keys.generated;
    let always = fitting.conventions.numbers_every_key()
        && fitting.conventions.numbers_by_itself(&entity.fields[at].r#type);
    let Some(before) = entity.fields[at].identity else {
        if always && alone {
            entity.fields[at].identity = Some(fitting.conventions.silent_identity());
            fitting.because_column(entity, at, Aspect::Identity, OfGenerated::NumbersEveryKey);
        }
        return;
    };
    // A column that is numbered by its framework's own counter must be the key.
    let counted = fitting.conventions.limits.sequence_beside_key || alone;
    let known = fitting.conventions.limits.identities;
    let sayable = |identity: Identity| {
        known.contains(&identity) && (identity != Identity::Sequence || counted)
    };
    if !fitting.home && entity.fields[at].defaults.database.take().is_some() {
        fitting.because_column(
            entity,
            at,
            Aspect::DatabaseDefault,
            OfGenerated::NumberedNeedsNoDefault,
        );
    }
    if !alone && !several {
        entity.fields[at].identity = None;
        fitting.because_column(entity, at, Aspect::Identity, OfGenerated::NumbersKeysOnly);
    } else if !sayable(before) {
        let after = if counted { own_way } else { Identity::ByDefault };
        entity.fields[at].identity = Some(after);
        fitting.because_column(entity, at, Aspect::Identity, OfGenerated::OtherCounter(before));
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

/// Times that the framework fills in: by the application in one framework, by a default of the
/// database in another.
fn purpose(fitting: &mut Fitting, entity: &mut Entity, at: usize) {
    let Some(purpose) = entity.fields[at].purpose else { return };
    let is_time =
        matches!(entity.fields[at].r#type, Type::Timestamp { .. } | Type::Date | Type::Time { .. });
    let again = !fitting.conventions.limits.purposes_repeat
        && entity.fields[..at].iter().any(|field| field.purpose == Some(purpose));
    let unsayable =
        again || feature_of(purpose).is_some_and(|feature| !fitting.capabilities.has(feature));
    let needs_time = matches!(purpose, Purpose::CreationTime | Purpose::UpdateTime);
    if unsayable && needs_time && fitting.capabilities.has(Feature::ApplicationUpdate) {
        entity.fields[at].purpose = None;
        return fitting.because_column(entity, at, Aspect::Purpose, OfTime::NoWordForTimes);
    }
    let defaults = &entity.fields[at].defaults;
    let by_default = defaults.database.is_some() || defaults.application.is_some();
    if unsayable && purpose == Purpose::CreationTime && by_default {
        entity.fields[at].purpose = None;
        return fitting.because_column(
            entity,
            at,
            Aspect::Purpose,
            OfTime::DefaultForCreation { again },
        );
    }
    if unsayable || (needs_time && !is_time) {
        entity.fields[at].purpose = None;
        entity.fields[at].on_update = Voices::default();
        for aspect in [Aspect::Purpose, Aspect::ApplicationUpdate, Aspect::DatabaseUpdate] {
            fitting.because_column(entity, at, aspect, OfTime::NotKept { again });
        }
        return;
    }
    let field = &mut entity.fields[at];
    let actor = fitting.conventions.times.actor;
    let filled = of_purpose(purpose, &field.r#type, actor).map(Box::new);
    if filled.is_none() {
        return;
    }
    let before = (field.defaults.database.clone(), field.defaults.application.clone());
    let (after, cause) = match actor {
        Actor::Database => ((filled, None), OfTime::TimesByDatabase),
        // A default of the database stays beside what the application fills in.
        Actor::Application => ((before.0.clone(), filled), OfTime::TimesByApplication),
    };
    let changed = [
        (before.0 != after.0, Aspect::DatabaseDefault),
        (before.1 != after.1, Aspect::ApplicationDefault),
    ];
    (field.defaults.database, field.defaults.application) = after;
    for (_, aspect) in changed.into_iter().filter(|(changed, _)| *changed) {
        fitting.because_column(entity, at, aspect, cause.clone());
    }
    let changed = (purpose == Purpose::UpdateTime)
        .then(|| of_purpose(purpose, &entity.fields[at].r#type, Actor::Application))
        .flatten()
        .map(Box::new);
    if entity.fields[at].on_update.application != changed {
        entity.fields[at].on_update.application = changed;
        fitting.because_column(entity, at, Aspect::ApplicationUpdate, OfTime::UpdateTakenOtherwise);
    }
}

/// What the application sets at an update: the framework's own column of that purpose, where the
/// target has no other word.
fn application_update(fitting: &mut Fitting, entity: &mut Entity, at: usize) {
    let field = &entity.fields[at];
    let Some(update) = field.on_update.application.as_deref().filter(|_| field.purpose.is_none())
    else {
        return;
    };
    if fitting.capabilities.has(Feature::ApplicationUpdate) {
        let kept = match update {
            Default_::Expression(expression) => {
                expression.language == fitting.language.id
                    && (fitting.language.code_stays)(&expression.text, fitting.own_dialect)
            }
            Default_::Literal(_) | Default_::Function(_) => true,
        };
        if !kept {
            entity.fields[at].on_update.application = None;
            fitting.because_column(entity, at, Aspect::ApplicationUpdate, OfTime::UpdateIsCode);
        }
        return;
    }
    let wanted = of_purpose(Purpose::UpdateTime, &field.r#type, Actor::Application);
    let is_time = matches!(field.r#type, Type::Timestamp { .. } | Type::Date | Type::Time { .. });
    if is_time && wanted.as_ref() == Some(update) && fitting.capabilities.has(Feature::UpdateTime) {
        entity.fields[at].purpose = Some(Purpose::UpdateTime);
        return fitting.because_column(entity, at, Aspect::Purpose, OfTime::WordForUpdate);
    }
    entity.fields[at].on_update.application = None;
    fitting.because_column(entity, at, Aspect::ApplicationUpdate, OfTime::NothingAtUpdate);
}

/// What the database does at an update: by the framework's own column, or where the dialect has a
/// word for it.
fn database_update(fitting: &mut Fitting, entity: &mut Entity, at: usize) {
    let conventions = &fitting.conventions;
    let field = &mut entity.fields[at];
    let kept = field.purpose == Some(Purpose::UpdateTime);
    if kept && conventions.times.update_stored {
        let wanted =
            of_purpose(Purpose::UpdateTime, &field.r#type, Actor::Application).map(Box::new);
        if field.on_update.database != wanted {
            field.on_update.database = wanted;
            fitting.because_column(entity, at, Aspect::DatabaseUpdate, OfTime::UpdateByDatabaseToo);
        }
    } else if field.on_update.database.is_some() && !conventions.times.update_stored {
        field.on_update.database = None;
        fitting.because_column(
            entity,
            at,
            Aspect::DatabaseUpdate,
            OfTime::NoDatabaseUpdate { kept },
        );
    }
}

fn database_default(fitting: &mut Fitting, entity: &mut Entity, at: usize) {
    let Some(default) = entity.fields[at].defaults.database.as_deref().cloned() else { return };
    let host = matches!(&default, Default_::Expression(expression) if !expression.is_sql());
    if host {
        entity.fields[at].defaults.database = None;
        return fitting.because_column(
            entity,
            at,
            Aspect::DatabaseDefault,
            OfDefault::DatabaseDefaultIsCode,
        );
    }
    if !fitting.capabilities.has(Feature::DatabaseDefault) {
        return without_database_default(fitting, entity, at, &default);
    }
    let (no_uuids, one_moment) = (!fitting.host().makes_uuids, !fitting.host().two_moments);
    let lacking = match &default {
        Default_::Function(Function::RandomUuid) => no_uuids,
        Default_::Function(Function::StatementNow) => {
            one_moment && fitting.conventions.grammar.now == NowFunction::Transaction
        }
        Default_::Function(Function::Now) => {
            one_moment && fitting.conventions.grammar.now == NowFunction::Statement
        }
        _ => false,
    };
    if lacking {
        let after = match default {
            Default_::Function(Function::StatementNow) => {
                Some(Box::new(Default_::Function(Function::Now)))
            }
            Default_::Function(Function::Now) => {
                Some(Box::new(Default_::Function(Function::StatementNow)))
            }
            _ => None,
        };
        let replaced = after.is_some();
        entity.fields[at].defaults.database = after;
        fitting.because_column(
            entity,
            at,
            Aspect::DatabaseDefault,
            OfDefault::NoSuchFunction { replaced },
        );
    }
}

/// The application fills in what the database did; the script gives the column its default again,
/// where a statement can.
fn without_database_default(
    fitting: &mut Fitting,
    entity: &mut Entity,
    at: usize,
    default: &Default_,
) {
    let by_script = fitting.host().adds_constraints;
    let field = &mut entity.fields[at];
    field.defaults.database = None;
    let nothing_else = field.defaults.application.is_none()
        && field.purpose.is_none()
        && field.generated.is_none();
    let fills = nothing_else && !matches!(default, Default_::Expression(_));
    if fills {
        // An application knows of one moment only.
        let now = matches!(default, Default_::Function(Function::StatementNow));
        field.defaults.application =
            Some(Box::new(if now { Default_::Function(Function::Now) } else { default.clone() }));
    }
    if by_script {
        let statement = sql::set_default(
            entity,
            &entity.fields[at],
            default,
            &fitting.schema,
            fitting.database(),
        );
        fitting.script.push(statement);
    }
    let cause = OfDefault::NoDefaultInDatabase { by_script, fills };
    fitting.because_column(entity, at, Aspect::DatabaseDefault, cause.clone());
    if fills {
        fitting.because_column(entity, at, Aspect::ApplicationDefault, cause);
        // It came after those of the application were fitted.
        application_default(fitting, entity, at);
    }
}

/// What the application fills in, where the target has few words for that: the database does it, if
/// it can.
fn into_database(fitting: &mut Fitting, entity: &mut Entity, at: usize) {
    let field = &mut entity.fields[at];
    let Some(default) = field.defaults.application.as_deref() else { return };
    // One default to a column, be it of the application or of the database; what an update sets
    // stands beside it.
    let alone = field.defaults.database.is_none();
    let own_words = match default {
        Default_::Function(Function::RandomUuid) => {
            alone
                && matches!(
                    field.r#type,
                    Type::Uuid | Type::Text | Type::Varchar(_) | Type::Char(_)
                )
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
    if let Some(own) = entity.fields[at].defaults.database.as_deref() {
        let now = |default: &Default_| {
            matches!(default, Default_::Function(Function::Now | Function::StatementNow))
        };
        let same =
            default.as_deref().is_some_and(|default| default == own || (now(default) && now(own)));
        let instead = if same { Instead::Same } else { Instead::Other };
        return fitting.because_column(
            entity,
            at,
            Aspect::ApplicationDefault,
            OfDefault::NoApplicationDefault(instead),
        );
    }
    if random || entity.fields[at].generated.is_some() {
        return fitting.because_column(
            entity,
            at,
            Aspect::ApplicationDefault,
            OfDefault::NoApplicationDefault(Instead::Nobody),
        );
    }
    entity.fields[at].defaults.database = default;
    for aspect in [Aspect::ApplicationDefault, Aspect::DatabaseDefault] {
        fitting.because_column(
            entity,
            at,
            aspect,
            OfDefault::NoApplicationDefault(Instead::Database),
        );
    }
}

fn application_default(fitting: &mut Fitting, entity: &mut Entity, at: usize) {
    moment_of_no_time(fitting, entity, at);
    if !fitting.capabilities.has(Feature::ApplicationDefault) {
        into_database(fitting, entity, at);
    }
    if !fitting.conventions.limits.both_defaults {
        one_default(fitting, entity, at);
    }
    let Some(default) = entity.fields[at].defaults.application.as_deref().cloned() else { return };
    match default {
        Default_::Expression(expression) => {
            let kept = expression.language == fitting.language.id
                && (fitting.language.code_stays)(&expression.text, fitting.own_dialect);
            if !kept {
                entity.fields[at].defaults.application = None;
                let cause = OfDefault::ApplicationDefaultIsCode(one_line(&expression.text));
                fitting.because_column(entity, at, Aspect::ApplicationDefault, cause);
            }
        }
        Default_::Literal(value) => {
            let filled = matches!(&value, serde_json::Value::Array(items) if !items.is_empty())
                || matches!(&value, serde_json::Value::Object(entries) if !entries.is_empty());
            if filled && fitting.language.shares_literals {
                entity.fields[at].defaults.application = None;
                fitting.because_column(
                    entity,
                    at,
                    Aspect::ApplicationDefault,
                    OfDefault::Changeable(value),
                );
            }
        }
        Default_::Function(_) => {}
    }
}

/// A moment that the application fills into a column of another type; a framework that is written
/// in types refuses it.
fn moment_of_no_time(fitting: &mut Fitting, entity: &mut Entity, at: usize) {
    let field = &entity.fields[at];
    let is_time = matches!(field.r#type, Type::Timestamp { .. } | Type::Date | Type::Time { .. });
    let moment = matches!(field.defaults.application.as_deref(), Some(Default_::Function(function))
        if *function != Function::RandomUuid);
    if fitting.own_dialect || is_time || !moment {
        return;
    }
    entity.fields[at].defaults.application = None;
    fitting.because_column(entity, at, Aspect::ApplicationDefault, OfDefault::MomentForNoTime);
}

/// Of two defaults the one of the database stays; times that the framework keeps are no defaults.
fn one_default(fitting: &mut Fitting, entity: &mut Entity, at: usize) {
    let field = &mut entity.fields[at];
    if matches!(field.purpose, Some(Purpose::CreationTime | Purpose::UpdateTime)) {
        return;
    }
    let (Some(own), Some(default)) =
        (field.defaults.database.as_deref(), field.defaults.application.as_deref())
    else {
        return;
    };
    if matches!(own, Default_::Expression(expression) if !expression.is_sql()) {
        return;
    }
    let same = own == default;
    field.defaults.application = None;
    fitting.because_column(entity, at, Aspect::ApplicationDefault, OfDefault::OneDefault { same });
}

fn generated(fitting: &mut Fitting, entity: &mut Entity, at: usize) {
    let Some(generated) = entity.fields[at].generated.as_deref().cloned() else { return };
    let feature =
        if generated.stored { Feature::StoredGenerated } else { Feature::VirtualGenerated };
    if !generated.expression.is_sql() {
        entity.fields[at].generated = None;
        return fitting.because_column(entity, at, Aspect::Generated, OfGenerated::GeneratedByCode);
    }
    let neither = [Feature::StoredGenerated, Feature::VirtualGenerated]
        .iter()
        .all(|feature| !fitting.capabilities.has(*feature));
    if neither {
        entity.fields[at].generated = None;
        return fitting.because_column(entity, at, Aspect::Generated, OfGenerated::NoGenerated);
    }
    if !fitting.capabilities.has(feature) {
        let field = &mut entity.fields[at];
        field.generated.iter_mut().for_each(|generated| generated.stored = !generated.stored);
        fitting.because_column(entity, at, Aspect::Generated, OfGenerated::StoredOnly);
    }
    if fitting.conventions.nullability.generated && !entity.fields[at].nullable {
        entity.fields[at].nullable = true;
        fitting.because_column(entity, at, Aspect::Nullable, OfGenerated::NullableGenerated);
    }
}

fn one_line(text: &str) -> String {
    let line: String = text.split_whitespace().collect::<Vec<_>>().join(" ");
    if line.chars().count() > 60 {
        format!("{}...", line.chars().take(57).collect::<String>())
    } else {
        line
    }
}

/// Whether a column is filled in without anybody giving a value.
pub(super) fn is_automatic(field: &Field) -> bool {
    field.identity.is_some()
        || field.generated.is_some()
        || matches!(field.purpose, Some(Purpose::CreationTime | Purpose::UpdateTime))
}

#[cfg(test)]
mod tests {
    use crate::fit::tests::{Case, check};

    const CASES: &[Case] = &[
        (
            "sql postgresql > django postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, a integer DEFAULT 3, b timestamptz DEFAULT \
             now(), c uuid DEFAULT gen_random_uuid(), d date DEFAULT CURRENT_DATE);",
            &[],
        ),
        (
            "sql postgresql > typeorm sqlite",
            "CREATE TABLE t (id integer PRIMARY KEY, a uuid DEFAULT gen_random_uuid(), b \
             timestamptz DEFAULT clock_timestamp());",
            &["t, column a, default in the database: {\"function\":\"random-uuid\"} -> nothing \
               (dropped: this server has no such function)"],
        ),
        (
            "sql postgresql > prisma postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, a text DEFAULT upper('x'), b integer \
             GENERATED ALWAYS AS (id + 1) STORED);",
            &["t, column b, generated: {\"expression\":{\"language\":\"sql\",\"database\":null,\
               \"text\":\"\\\"id\\\" + 1\",\"tree\":{\"binary\":{\"operator\":\"+\",\
               \"left\":{\"column\":\"id\"},\"right\":{\"literal\":1}}}},\"stored\":true} -> \
               nothing (dropped: Prisma has no generated columns)"],
        ),
        (
            "sql postgresql > sequelize postgresql",
            "CREATE TABLE t (id integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY, a integer \
             GENERATED ALWAYS AS (id * 2) STORED);",
            &[
                "t, column a, generated: \
                 {\"expression\":{\"language\":\"sql\",\"database\":null,\"text\":\"\\\"id\\\" \
                 * 2\",\"tree\":{\"binary\":{\"operator\":\"*\",\"left\":{\"column\":\"id\"},\
                 \"right\":{\"literal\":2}}}},\"stored\":true} -> nothing (dropped: Sequelize \
                 has no generated columns)",
                "t, column id, identity: \"always\" -> \"sequence\" (weakened: the key's \
                 numbers come from another kind of counter)",
            ],
        ),
        (
            "sql postgresql > sequelize sqlite",
            "CREATE TABLE t (id integer PRIMARY KEY, a integer GENERATED BY DEFAULT AS IDENTITY);",
            &[
                "t, column a, identity: \"by-default\" -> nothing (dropped: Sequelize numbers \
                 only a key of one column)",
                "t, column id, identity: nothing -> \"by-default\" (added: Sequelize has every \
                 key of one whole number numbered)",
            ],
        ),
        (
            "sql mariadb > django postgresql",
            "CREATE TABLE t (id integer PRIMARY KEY, a timestamp NOT NULL DEFAULT \
             CURRENT_TIMESTAMP ON UPDATE CURRENT_TIMESTAMP);",
            &["t, column a, update in the database: {\"function\":\"now\"} -> nothing \
               (weakened: Django does not tell the database to set a value at an update)"],
        ),
        (
            "sql mariadb > typeorm mariadb",
            "CREATE TABLE t (id integer PRIMARY KEY, a datetime(6) DEFAULT CURRENT_TIMESTAMP(6) \
             ON UPDATE CURRENT_TIMESTAMP(6));",
            &[],
        ),
        (
            "django postgresql > sqlalchemy postgresql",
            "class T(models.Model):
    a = models.DateTimeField(auto_now_add=True)
    b = models.DateTimeField(auto_now=True)
",
            &[
                "main_t, column a, purpose: \"creation-time\" -> nothing (respelled: SQLAlchemy \
                 has no word for times of creation and update)",
                "main_t, column b, purpose: \"update-time\" -> nothing (respelled: SQLAlchemy \
                 has no word for times of creation and update)",
            ],
        ),
        (
            "django postgresql > typeorm postgresql",
            "class T(models.Model):
    a = models.DateTimeField(auto_now_add=True)
    b = models.DateTimeField(auto_now=True)
    c = models.UUIDField(default=uuid.uuid4)
",
            &[
                "main_t, column a, default in the application: {\"function\":\"now\"} -> \
                 nothing (strengthened: TypeORM fills in times of creation and update in its \
                 own way)",
                "main_t, column b, default in the application: {\"function\":\"now\"} -> \
                 nothing (strengthened: TypeORM fills in times of creation and update in its \
                 own way)",
                "main_t, column a, default in the database: nothing -> {\"function\":\"now\"} \
                 (strengthened: TypeORM fills in times of creation and update in its own way)",
                "main_t, column b, default in the database: nothing -> {\"function\":\"now\"} \
                 (strengthened: TypeORM fills in times of creation and update in its own way)",
            ],
        ),
        (
            "django postgresql > prisma postgresql",
            "class T(models.Model):
    a = models.DateField(auto_now_add=True)
    b = models.IntegerField(default=3)
    c = models.CharField(max_length=9, default=make_code)
",
            &[
                "main_t, column c, default in the application: \
                 {\"expression\":{\"language\":\"python\",\"database\":null,\
                 \"text\":\"make_code\",\"tree\":null}} -> nothing (dropped: the default \
                 `make_code` is code of the source's language)",
                "main_t, column a, default in the application: {\"function\":\"today\"} -> \
                 nothing (strengthened: Prisma has no word for such a default of the \
                 application)",
                "main_t, column b, default in the application: {\"literal\":3} -> nothing \
                 (strengthened: Prisma has no word for such a default of the application)",
                "main_t, column a, default in the database: nothing -> {\"function\":\"today\"} \
                 (strengthened: Prisma has no word for such a default of the application)",
                "main_t, column b, default in the database: nothing -> {\"literal\":3} \
                 (strengthened: Prisma has no word for such a default of the application)",
                "main_t, column id, identity: \"by-default\" -> \"sequence\" (respelled: the \
                 key's numbers come from another kind of counter)",
                "main_t, column a, purpose: \"creation-time\" -> nothing (respelled: Prisma has \
                 no word for the time of creation)",
            ],
        ),
        (
            "django postgresql > sequelize postgresql",
            "class T(models.Model):
    a = models.CharField(max_length=9, default='x', db_default='y')
    b = models.DateTimeField(auto_now=True)
",
            &["main_t, column a, default in the application: {\"literal\":\"x\"} -> nothing \
               (weakened: Sequelize has one default to a column)"],
        ),
        (
            "django sqlite > typeorm sqlite",
            "class T(models.Model):\n    a = models.GeneratedField(expression=models.F('id') + \
             1, output_field=models.IntegerField(), db_persist=True)\n",
            &[],
        ),
        (
            "sqlalchemy postgresql > django postgresql",
            "class T(Base):
    __tablename__ = 't'
    id: Mapped[int] = mapped_column(primary_key=True)
    a: Mapped[int] = mapped_column(default=3, server_default='4')
    b: Mapped[datetime.datetime] = mapped_column(onupdate=sa.func.now())
",
            &[
                "t, column b, default in the application: nothing -> {\"function\":\"now\"} \
                 (added: Django fills in times of creation and update in its own way)",
                "t, column b, purpose: nothing -> \"update-time\" (respelled: Django has a word \
                 for the time of an update)",
                "t, column id, identity: \"sequence\" -> \"by-default\" (respelled: the key's \
                 numbers come from another kind of counter)",
            ],
        ),
    ];

    #[test]
    fn what_the_pass_makes_of_tables() {
        check(
            |fitting| {
                super::updates(fitting);
                super::fit(fitting);
            },
            CASES,
        );
    }
}
