//! Schemas for the laws: small, with every variant of every type, default, key, index and relation
//! kind, and with names and texts chosen to break out of literals.

mod documents;

use proptest::collection::vec;
use proptest::prelude::*;
use serde_json::{Value, json};
use sprachbund_core::decision::companions::positive_rule;
use sprachbund_core::schema::expression::Tree;
use sprachbund_core::schema::*;

/// Attribute names: reserved words of both languages, other scripts, mixed case.
const NAMES: &[&str] = &[
    "name",
    "class",
    "constructor",
    "from",
    "portCall",
    "tide_window",
    "länge",
    "pk",
    "save",
    "check",
    "type",
    "x1",
];

/// Texts that try to end a literal.
const TEXTS: &[&str] = &[
    "plain",
    "it's",
    "say \"so\"",
    "back\\slash",
    "two\nlines",
    "${evil}",
    "{evil}",
    "`tick`",
    "水先人",
    "*/ // #",
];

const ENTITIES: &[&str] = &["Harbour", "Quay", "Berth", "PortCall", "TideWindow"];

/// The types that a column may have; the last one names the enumeration that every schema holds.
pub(crate) fn types() -> Vec<Type> {
    let mut types = vec![
        Type::Boolean,
        Type::SmallInt,
        Type::Integer,
        Type::BigInt,
        Type::UnsignedSmallInt,
        Type::UnsignedInteger,
        Type::UnsignedBigInt,
        Type::Numeric { precision: Some(12), scale: Some(2) },
        Type::Numeric { precision: None, scale: None },
        Type::Numeric { precision: Some(8), scale: None },
        Type::Real,
        Type::Double,
        Type::Char(Some(3)),
        Type::Varchar(Some(24)),
        Type::Varchar(None),
        Type::CaseFoldedText,
        Type::Text,
        Type::Binary(None),
        Type::Date,
        Type::Time { precision: None, zoned: false },
        Type::Time { precision: Some(3), zoned: true },
        Type::Timestamp { precision: None, zoned: false },
        Type::Timestamp { precision: Some(6), zoned: true },
        Type::Timestamp { precision: None, zoned: true },
        Type::Interval,
        Type::Uuid,
        Type::Json,
        Type::BinaryJson,
        Type::NetworkAddress,
        Type::SearchVector,
        Type::Native("hstore".into()),
        Type::Array(Box::new(Type::Varchar(Some(8)))),
        Type::Enum("CallStatus".into()),
    ];
    let ranges = [
        RangeKind::Integer,
        RangeKind::BigInt,
        RangeKind::Numeric,
        RangeKind::Date,
        RangeKind::Timestamp,
    ];
    types.extend(ranges.map(Type::Range));
    types
}

/// What decides about one column.
#[derive(Clone, Debug)]
pub(crate) struct FieldPlan {
    pub(crate) ty: usize,
    nullable: bool,
    /// 0 none, 1 constant, 2 function, 3 expression.
    pub(crate) database_default: u8,
    pub(crate) application_default: u8,
    /// 0 none, 1 unique, 2 index.
    pub(crate) access: u8,
    /// 0 none, then the purposes.
    pub(crate) purpose: u8,
    texts: u8,
    own_column: bool,
    pub(crate) choices: bool,
    pub(crate) generated: bool,
    voice: bool,
}

/// What decides about one relation.
#[derive(Clone, Debug)]
pub(crate) struct RelationPlan {
    pub(crate) kind: u8,
    target: usize,
    nullable: bool,
    pub(crate) action: u8,
    inverse: bool,
    indexed: bool,
    pub(crate) deferrable: bool,
    pub(crate) enforced: bool,
    own_column: bool,
}

/// What decides about one entity.
#[derive(Clone, Debug)]
pub(crate) struct EntityPlan {
    /// 0 identity, 1 big identity, 2 text, 3 uuid, 4 other identity.
    pub(crate) key: u8,
    pub(crate) fields: Vec<FieldPlan>,
    pub(crate) relations: Vec<RelationPlan>,
    /// Bits: unique pair, named unique, index, descending, partial, expression, covering, check,
    /// raw check, comment.
    pub(crate) constraints: u16,
    own_table: bool,
}

fn field() -> impl Strategy<Value = FieldPlan> {
    let first = (0..types().len(), any::<bool>(), 0u8..4, 0u8..4, 0u8..3, 0u8..9);
    let second = (0..TEXTS.len() as u8 * 2, any::<bool>(), 0u8..4, 0u8..6, any::<bool>());
    (first, second).prop_map(
        |(
            (ty, nullable, database_default, application_default, access, purpose),
            (texts, own_column, choices, generated, voice),
        )| {
            FieldPlan {
                ty,
                nullable,
                database_default,
                application_default,
                access,
                purpose,
                texts,
                own_column,
                choices: choices == 0,
                generated: generated == 0,
                voice,
            }
        },
    )
}

fn relation() -> impl Strategy<Value = RelationPlan> {
    let first = (0u8..3, 0usize..5, any::<bool>(), 0u8..7);
    (first, any::<bool>(), any::<bool>(), any::<bool>(), 0u8..4, any::<bool>()).prop_map(
        |((kind, target, nullable, action), inverse, indexed, deferrable, enforced, own_column)| {
            RelationPlan {
                kind,
                target,
                nullable,
                action,
                inverse,
                indexed,
                deferrable,
                enforced: enforced > 0,
                own_column,
            }
        },
    )
}

fn entity() -> impl Strategy<Value = EntityPlan> {
    (0u8..5, vec(field(), 0..6), vec(relation(), 0..3), any::<u16>(), any::<bool>()).prop_map(
        |(key, fields, relations, constraints, own_table)| EntityPlan {
            key,
            fields,
            relations,
            constraints,
            own_table,
        },
    )
}

/// Plans of whole schemas.
pub(crate) fn plans() -> impl Strategy<Value = Vec<EntityPlan>> {
    vec(entity(), 1..4)
}

/// Whose voices a schema speaks with.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Voice {
    Django,
    Mongoose,
    Prisma,
    Sequelize,
    SqlAlchemy,
    TypeOrm,
}

/// The schema of a plan.
pub(crate) fn build(plans: &[EntityPlan], voice: Voice, database: Database) -> Schema {
    if voice == Voice::Mongoose {
        return documents::build(plans);
    }
    // What is carried over into documents comes from tables.
    let database = if database.keeps_documents() { Database::PostgreSql } else { database };
    let dialect = match voice {
        Voice::Django => "django",
        Voice::Mongoose => "mongoose",
        Voice::Prisma => "prisma",
        Voice::Sequelize => "sequelize",
        Voice::SqlAlchemy => "sqlalchemy",
        Voice::TypeOrm => "typeorm",
    };
    let mut schema = Schema::new(Source {
        dialect: dialect.into(),
        version: "1".into(),
        database,
        ..Source::default()
    });
    let label = |text: &str| (voice == Voice::Django).then(|| text.to_owned());
    let members = vec![
        EnumMember {
            name: "EXPECTED".into(),
            value: json!("expected"),
            label: label("Expected"),
            in_code: None,
        },
        EnumMember {
            name: "MOORED".into(),
            value: json!("it's moored"),
            label: label("It's \"moored\""),
            in_code: None,
        },
    ];
    schema.enums.push(EnumType {
        name: "CallStatus".into(),
        stored_name: None,
        members,
        module: "harbour".into(),
        inline: false,
        origin: Origin::default(),
    });
    let keys: Vec<(Type, Option<Identity>)> =
        plans.iter().map(|plan| key(plan, voice, database)).collect();
    for (at, plan) in plans.iter().enumerate() {
        let builder = Builder { plans, keys: &keys, voice, database };
        let (entity, joins) = builder.entity(at, plan);
        schema.entities.push(entity);
        schema.entities.extend(joins);
    }
    if !schema
        .entities
        .iter()
        .flat_map(|entity| &entity.fields)
        .any(|field| field.choices.is_some() || matches!(field.r#type, Type::Enum(_)))
    {
        schema.enums.clear();
    }
    schema
}

fn key(plan: &EntityPlan, voice: Voice, database: Database) -> (Type, Option<Identity>) {
    let identity = match (database, voice, plan.key) {
        (Database::Sqlite, Voice::SqlAlchemy, 0) => Identity::ByDefault,
        (Database::Sqlite, _, _) => Identity::AutoIncrement,
        (Database::PostgreSql, Voice::SqlAlchemy, 0 | 1) => Identity::Sequence,
        (_, Voice::SqlAlchemy, 0 | 1) => Identity::ByDefault,
        (_, Voice::Django, 0 | 1) => Identity::ByDefault,
        (_, Voice::Mongoose | Voice::Prisma | Voice::Sequelize | Voice::TypeOrm, 0 | 1) => {
            Identity::Sequence
        }
        _ => Identity::Always,
    };
    match plan.key {
        0 | 4 => (Type::Integer, Some(identity)),
        1 => (Type::BigInt, Some(identity)),
        2 => (Type::Varchar(Some(7)), None),
        _ => (Type::Uuid, None),
    }
}

struct Builder<'p> {
    plans: &'p [EntityPlan],
    keys: &'p [(Type, Option<Identity>)],
    voice: Voice,
    database: Database,
}

fn table(plan: &EntityPlan, at: usize) -> String {
    if plan.own_table {
        format!("Table of {}", ENTITIES[at])
    } else {
        format!("harbour_{}", ENTITIES[at].to_lowercase())
    }
}

fn blank(column: &str, ty: Type) -> Field {
    let text = json!({ "name": null, "column": column, "type": ty, "nullable": false });
    serde_json::from_value(text).expect("a field")
}

fn plain_relation(kind: RelationKind, target: &str) -> Relation {
    serde_json::from_value(json!({ "name": null, "kind": kind, "target": target }))
        .expect("a relation")
}

impl Builder<'_> {
    fn voices(&self, field: &mut Field, flag: bool) {
        match self.voice {
            Voice::Django => field.required_on_input = Some(flag),
            Voice::Mongoose | Voice::Prisma | Voice::Sequelize => {
                field.optional_in_code = Some(field.nullable)
            }
            Voice::SqlAlchemy | Voice::TypeOrm => {
                field.optional_in_code = Some(flag || field.nullable)
            }
        }
    }

    fn entity(&self, at: usize, plan: &EntityPlan) -> (Entity, Vec<Entity>) {
        let name = ENTITIES[at].to_owned();
        let empty = json!({ "id": format!("harbour.{name}"), "name": name, "module": "harbour",
            "table": table(plan, at),
            "mapped": { "table": true, "code": true }, "fields": [] });
        let mut entity: Entity = serde_json::from_value(empty).expect("an entity");
        let (ty, identity) = self.keys[at].clone();
        let mut id = blank("id", ty);
        id.name = Some("id".into());
        id.identity = identity;
        self.voices(&mut id, false);
        if self.voice == Voice::Django {
            id.required_on_input = Some(id.identity.is_none());
        }
        entity.fields.push(id);
        entity.primary_key =
            Some(PrimaryKey { columns: vec!["id".into()], name: None, origin: Origin::default() });
        for (number, field) in plan.fields.iter().enumerate() {
            self.field(&mut entity, number, field);
        }
        let mut joins = Vec::new();
        for (number, relation) in plan.relations.iter().enumerate() {
            joins.extend(self.relation(&mut entity, at, number, relation));
        }
        self.constraints(&mut entity, plan.constraints);
        (entity, joins)
    }

    fn field(&self, entity: &mut Entity, number: usize, plan: &FieldPlan) {
        let ty = types()[plan.ty].clone();
        let ty =
            if self.database == Database::Sqlite && matches!(ty, Type::Enum(_) | Type::Array(_)) {
                Type::Text
            } else {
                ty
            };
        let name = format!(
            "{}{}",
            NAMES[(plan.texts as usize + number) % NAMES.len()],
            if number > 0 { number.to_string() } else { String::new() }
        );
        let column = if plan.own_column { format!("Column {number}") } else { name.clone() };
        let signed = match ty {
            Type::UnsignedSmallInt => Some(Type::SmallInt),
            Type::UnsignedInteger => Some(Type::Integer),
            Type::UnsignedBigInt => Some(Type::BigInt),
            _ => None,
        };
        let positive = signed.is_some();
        let mut field = blank(&column, signed.filter(|_| !self.database.is_mysql()).unwrap_or(ty));
        field.name = Some(name);
        field.nullable = plan.nullable;
        let text = TEXTS[plan.texts as usize % TEXTS.len()];
        if plan.choices && matches!(field.r#type, Type::Varchar(_)) {
            field.choices = Some("CallStatus".into());
        }
        let is_time = matches!(field.r#type, Type::Timestamp { .. });
        field.purpose = self.purpose(&field.r#type, plan.purpose, is_time);
        self.defaults(entity, &mut field, plan, text);
        if plan.generated && field.r#type == Type::Integer && field.purpose.is_none() {
            let tree = Tree::binary("+", Tree::Column("id".into()), Tree::Literal(json!(1)));
            field.generated =
                Some(Box::new(Generated { expression: Expression::sql(tree), stored: true }));
            field.defaults = Voices::default();
        }
        if plan.texts.is_multiple_of(2) {
            field.comment = Some(text.to_owned()).filter(|_| self.database == Database::PostgreSql);
        }
        if self.voice == Voice::Django && plan.texts % 5 == 1 {
            field.rules.push(InputRule {
                rule: "min_length".into(),
                value: json!(2),
                message: Some(text.to_owned()),
            });
            field.extras.insert("help_text".into(), json!(text));
        }
        self.voices(&mut field, plan.voice);
        let own = vec![field.column.clone()];
        match plan.access {
            1 => entity.uniques.push(unique(own, None)),
            2 => entity.indexes.push(Index::over(&own, Origin::default())),
            _ => {}
        }
        if positive {
            if self.voice == Voice::Django {
                field.rules.insert(0, positive_rule());
            }
            let tree =
                Tree::binary(">=", Tree::Column(field.column.clone()), Tree::Literal(json!(0)));
            entity.checks.push(Check::new(None, Expression::sql(tree), Origin::default()));
        }
        entity.fields.push(field);
    }

    /// What a column of the type is for.
    fn purpose(&self, ty: &Type, purpose: u8, is_time: bool) -> Option<Purpose> {
        match (purpose, is_time, self.voice) {
            (
                1 | 2,
                true,
                Voice::Django | Voice::Sequelize | Voice::SqlAlchemy | Voice::TypeOrm,
            ) => Some(Purpose::CreationTime),
            (3 | 4, true, _) => Some(Purpose::UpdateTime),
            (5, true, Voice::Sequelize | Voice::TypeOrm) => Some(Purpose::DeletionTime),
            (6, _, Voice::Sequelize | Voice::SqlAlchemy | Voice::TypeOrm)
                if *ty == Type::Integer =>
            {
                Some(Purpose::Version)
            }
            _ => None,
        }
    }

    /// What fills the column in.
    fn defaults(&self, entity: &mut Entity, field: &mut Field, plan: &FieldPlan, text: &str) {
        match field.purpose {
            Some(Purpose::CreationTime | Purpose::UpdateTime) => {
                let now = Some(Box::new(Default_::Function(Function::Now)));
                if field.purpose == Some(Purpose::UpdateTime) {
                    field.on_update.application.clone_from(&now);
                }
                if self.voice == Voice::TypeOrm {
                    field.defaults.database = now
                } else {
                    field.defaults.application = now
                }
                if self.voice == Voice::SqlAlchemy {
                    field.purpose = None;
                }
            }
            Some(Purpose::DeletionTime) => {
                field.nullable = true;
                entity.soft_delete.get_or_insert_with(|| field.name.clone().unwrap_or_default());
            }
            _ => {
                field.defaults.database =
                    default(field, plan.database_default, text, self.database).map(Box::new);
                field.defaults.application = default(
                    field,
                    if plan.application_default == 3 { 0 } else { plan.application_default },
                    text,
                    self.database,
                )
                .map(Box::new);
            }
        }
    }

    fn relation(
        &self,
        entity: &mut Entity,
        at: usize,
        number: usize,
        plan: &RelationPlan,
    ) -> Option<Entity> {
        let target = plan.target % self.plans.len();
        let name = format!("link{number}");
        let inverse = plan.inverse.then(|| format!("linked{at}{number}"));
        let relation = |columns: Vec<String>,
                        kind: RelationKind,
                        through: Option<String>,
                        on_delete: Option<Action>| Relation {
            name: Some(name.clone()),
            columns,
            through,
            inverse: inverse.clone(),
            on_delete,
            extras: if self.voice != Voice::Prisma
                && plan.action == 6
                && plan.indexed
                && kind != RelationKind::ManyToMany
            {
                Extras::from([("set_value".to_owned(), json!(1))])
            } else {
                Extras::new()
            },
            ..plain_relation(kind, &format!("harbour.{}", ENTITIES[target]))
        };
        if plan.kind == 2 && (target != at || self.voice == Voice::Django) {
            let (join, through) = self.join(at, target, number, plan.inverse);
            let mut many = relation(Vec::new(), RelationKind::ManyToMany, Some(through), None);
            many.symmetrical = target == at && plan.indexed;
            many.inverse.take_if(|_| many.symmetrical);
            entity.relations.push(many);
            return Some(join);
        }
        let column = if plan.own_column { format!("ref {number}") } else { format!("{name}_id") };
        let mut field = blank(&column, self.keys[target].0.clone());
        field.nullable = plan.nullable;
        self.voices(&mut field, !plan.nullable);
        if matches!(self.voice, Voice::Sequelize | Voice::SqlAlchemy) {
            field.name = Some(column.replace(' ', "_"));
        }
        entity.fields.push(field);
        let own = vec![column];
        let kind = if plan.kind == 1 { RelationKind::OneToOne } else { RelationKind::ManyToOne };
        if kind == RelationKind::OneToOne && self.voice == Voice::SqlAlchemy && plan.indexed {
            entity.indexes.push(Index { unique: true, ..Index::over(&own, Origin::default()) });
        } else if kind == RelationKind::OneToOne {
            entity.uniques.push(unique(own.clone(), None));
        } else if plan.indexed {
            entity.indexes.push(Index::over(&own, Origin::default()));
        }
        let (in_database, in_application) = self.actions(plan);
        entity.foreign_keys.push(self.foreign_key(own.clone(), target, in_database, plan));
        entity.relations.push(relation(own, kind, None, in_application));
        if let (Voice::Sequelize | Voice::SqlAlchemy, true, Some(last)) =
            (self.voice, plan.own_column, entity.relations.last_mut())
        {
            last.name = None;
            last.extras.clear();
        }
        None
    }

    /// What is done on deletion: by the database, and by the application.
    fn actions(&self, plan: &RelationPlan) -> (Action, Option<Action>) {
        let actions = [
            Action::NoAction,
            Action::Restrict,
            Action::Cascade,
            Action::SetNull,
            Action::SetDefault,
            Action::Protect,
            Action::SetValue,
        ];
        let action = actions[plan.action as usize];
        let of_database = if matches!(action, Action::Protect | Action::SetValue) {
            Action::NoAction
        } else {
            action
        };
        match self.voice {
            Voice::Django => (Action::NoAction, Some(action)),
            // Deleting along is said on the other side; a relation may have no name on this one.
            Voice::SqlAlchemy => {
                (of_database, (plan.inverse && plan.deferrable).then_some(Action::Cascade))
            }
            Voice::Mongoose | Voice::Prisma | Voice::Sequelize | Voice::TypeOrm => {
                (of_database, None)
            }
        }
    }

    fn foreign_key(
        &self,
        columns: Vec<String>,
        target: usize,
        on_delete: Action,
        plan: &RelationPlan,
    ) -> ForeignKey {
        let deferrable = match self.voice {
            Voice::Django => true,
            Voice::Mongoose | Voice::Prisma => false,
            Voice::Sequelize | Voice::SqlAlchemy | Voice::TypeOrm => plan.deferrable,
        };
        let when = match self.voice {
            Voice::Sequelize | Voice::SqlAlchemy | Voice::TypeOrm if plan.indexed => {
                Deferrable::InitiallyImmediate
            }
            _ => Deferrable::InitiallyDeferred,
        };
        ForeignKey {
            columns,
            references: References {
                table: table(&self.plans[target], target),
                namespace: None,
                columns: vec!["id".into()],
            },
            on_delete,
            on_update: if matches!(self.voice, Voice::Prisma | Voice::Sequelize) {
                Action::Cascade
            } else {
                Action::NoAction
            },
            deferrable: deferrable.then_some(when),
            enforced: if plan.enforced { EnforcedBy::Database } else { EnforcedBy::Application },
            name: None,
            origin: Origin::default(),
        }
    }

    fn join(&self, at: usize, target: usize, number: usize, inverse: bool) -> (Entity, String) {
        let id = format!("harbour.{}Link{number}", ENTITIES[at]);
        let empty = json!({ "id": id, "name": format!("{}Link{number}", ENTITIES[at]),
            "module": "harbour", "join": true,
            "table": format!("join_{at}_{number}"), "mapped": { "table": true, "code": false },
                "fields": [] });
        let mut join: Entity = serde_json::from_value(empty).expect("an entity");
        let actions = if self.voice == Voice::Django {
            (Action::NoAction, Some(Action::Cascade))
        } else {
            (Action::Cascade, None)
        };
        let mut pair = Vec::new();
        for (side, column) in [(at, "left_id"), (target, "right_id")] {
            let mut field = blank(column, self.keys[side].0.clone());
            match self.voice {
                Voice::Django => field.required_on_input = Some(true),
                Voice::Mongoose
                | Voice::Prisma
                | Voice::Sequelize
                | Voice::SqlAlchemy
                | Voice::TypeOrm => field.optional_in_code = Some(false),
            }
            join.fields.push(field);
            pair.push(column.to_owned());
            if self.voice != Voice::Sequelize {
                join.indexes.push(Index::over(&[column.to_owned()], Origin::default()));
            }
            let plan = RelationPlan {
                kind: 0,
                target: side,
                nullable: false,
                action: 0,
                inverse: false,
                indexed: true,
                deferrable: false,
                enforced: true,
                own_column: true,
            };
            let action = if side == target && inverse && self.voice != Voice::Sequelize {
                Action::NoAction
            } else {
                actions.0
            };
            let mut key = self.foreign_key(vec![column.to_owned()], side, action, &plan);
            key.on_update = action;
            join.foreign_keys.push(key);
            let relation = json!({ "name": null, "kind": "many-to-one",
                "target": format!("harbour.{}", ENTITIES[side]), "columns": [column],
                "on_delete": actions.1 });
            join.relations.push(serde_json::from_value(relation).expect("a relation"));
        }
        if self.voice == Voice::Django {
            let mut key = blank("id", Type::Integer);
            key.identity = Some(if self.database == Database::Sqlite {
                Identity::AutoIncrement
            } else {
                Identity::ByDefault
            });
            key.required_on_input = Some(false);
            join.fields.insert(0, key);
            join.primary_key = Some(PrimaryKey {
                columns: vec!["id".into()],
                name: None,
                origin: Origin::default(),
            });
            join.uniques.push(unique(pair, None));
        } else {
            join.primary_key =
                Some(PrimaryKey { columns: pair, name: None, origin: Origin::default() });
        }
        (join, id)
    }

    fn constraints(&self, entity: &mut Entity, bits: u16) {
        let has = |bit: u16| bits & (1 << bit) != 0;
        let plain: Vec<String> = entity
            .fields
            .iter()
            .filter(|field| field.generated.is_none())
            .map(|field| field.column.clone())
            .collect();
        let [first, .., last] = plain.as_slice() else { return };
        let (first, last) = (first.clone(), last.clone());
        let pair = vec![first.clone(), last.clone()];
        if has(0) {
            entity.uniques.push(unique(pair.clone(), None));
        } else if has(1) {
            entity.uniques.push(unique(pair.clone(), Some("a_named_unique")));
        }
        let postgresql = self.database == Database::PostgreSql;
        let (message, parser) = match self.voice {
            Voice::Django => (("violation_error_message", "it's"), ("parser", "it's")),
            Voice::Prisma => (("name", "byHand"), ("name", "byHand")),
            Voice::Sequelize => (("concurrently", "it's"), ("parser", "it's")),
            _ => (("parser", "it's"), ("parser", "it's")),
        };
        let only_here = |(name, text): (&str, &str)| {
            if has(15) { Extras::from([(name.to_owned(), json!(text))]) } else { Extras::new() }
        };
        if let Some(unique) = entity.uniques.last_mut().filter(|unique| unique.columns == pair) {
            unique.nulls_not_distinct = has(14) && postgresql;
            unique.deferrable =
                (has(15) && has(2) && postgresql).then_some(Deferrable::InitiallyDeferred);
            // Sequelize has no word for more of a constraint than its columns.
            unique.extras =
                if self.voice == Voice::Sequelize { Extras::new() } else { only_here(message) };
        }
        self.special_index(entity, bits, [&first, &last], &|index| {
            index.extras = only_here(if index.unique { message } else { parser });
        });
        if has(8) {
            let texts = [Tree::Literal(json!("it's")), Tree::Literal(json!("say \"so\""))];
            let list =
                Tree::In { item: Box::new(Tree::Column(last.clone())), list: texts.to_vec() };
            let check =
                Check::new(Some("a_named_check".into()), Expression::sql(list), Origin::default());
            entity.checks.push(Check { extras: only_here(message), ..check });
        }
        if has(9) {
            let raw = Expression::parse_sql("\"id\" = ANY('{1,2}')");
            entity.checks.push(Check::new(Some("a_raw_check".into()), raw, Origin::default()));
        }
        if has(11) {
            entity.order = vec![OrderKey { field: "id".into(), descending: true }];
        }
        if has(12) && self.database == Database::PostgreSql {
            entity.comment = Some(TEXTS[usize::from(bits) % TEXTS.len()].to_owned());
        }
        if has(13) && self.voice == Voice::Django {
            entity.label = Some("id".into());
            entity
                .extras
                .insert("verbose_name".into(), json!(TEXTS[usize::from(bits) % TEXTS.len()]));
        }
    }

    /// An index of which more is said than its columns.
    fn special_index(
        &self,
        entity: &mut Entity,
        bits: u16,
        [first, last]: [&String; 2],
        extras: &dyn Fn(&mut Index),
    ) {
        let has = |bit: u16| bits & (1 << bit) != 0;
        let postgresql = self.database == Database::PostgreSql;
        let condition = || {
            Expression::sql(Tree::Not(Box::new(Tree::IsNull(Box::new(Tree::Column(last.clone()))))))
        };
        let mut index = Index::over(&[first.clone(), last.clone()], Origin::default());
        let special = 2..8;
        if special.clone().any(has) {
            index.parts[1].descending = has(3);
            index.condition = has(4).then(condition).map(Box::new);
            index.include = if has(6) && self.database == Database::PostgreSql {
                vec![last.clone()]
            } else {
                Vec::new()
            };
            index.unique = has(7);
            index.nulls_not_distinct = has(7) && has(14) && postgresql;
            extras(&mut index);
            index.method = (has(10)
                && !has(7)
                && !has(3)
                && index.include.is_empty()
                && self.database == Database::PostgreSql)
                .then(|| "hash".to_owned());
            if has(5) {
                let lower = Tree::Call {
                    function: "lower".into(),
                    arguments: vec![Tree::Column(last.clone())],
                };
                index.parts[1] = IndexPart {
                    column: None,
                    expression: Some(Box::new(Expression::sql(lower))),
                    descending: has(3),
                    operator_class: None,
                };
                index.columns = vec![first.clone()];
            }
            if has(2) {
                index.name = Some("a_named_index".into());
                index.named_by = NamedBy::Author;
            }
            entity.indexes.push(index);
        }
    }
}

fn unique(columns: Vec<String>, name: Option<&str>) -> Unique {
    let named_by = if name.is_some() { NamedBy::Author } else { NamedBy::Framework };
    Unique { columns, name: name.map(str::to_owned), named_by, ..Unique::default() }
}

/// A default of the wanted kind, if the type has one.
fn default(field: &Field, kind: u8, text: &str, database: Database) -> Option<Default_> {
    if field.choices.is_some() || matches!(field.r#type, Type::Enum(_)) {
        return (kind == 1).then(|| Default_::Literal(json!("it's moored")));
    }
    let value = match (&field.r#type, kind) {
        (_, 0) => return None,
        (Type::Timestamp { .. }, 2) => return Some(Default_::Function(Function::Now)),
        (Type::Timestamp { .. }, 3) => return Some(Default_::Function(Function::StatementNow)),
        (Type::Date, 2) => return Some(Default_::Function(Function::Today)),
        (Type::Uuid, 2) if database == Database::PostgreSql => {
            return Some(Default_::Function(Function::RandomUuid));
        }
        (Type::Integer, 3) => {
            return Some(Default_::Expression(Box::new(Expression::parse_sql(
                "\"length\"('abc')",
            ))));
        }
        (Type::Boolean, _) => json!(true),
        (ty, _) if ty.is_whole_number() => json!(7),
        // A server that keeps no digits after the point would round them off.
        (Type::Numeric { precision: Some(_), scale: None }, _) => json!("7"),
        (Type::Numeric { .. }, _) => json!("7.50"),
        (Type::Real | Type::Double, _) => json!(0.5),
        (Type::Char(_), _) => json!("abc"),
        (Type::Varchar(_) | Type::Text, _) => json!(text),
        (ty, _) if ty.is_json() => json!({}),
        (Type::Array(_), _) => json!([]),
        _ => Value::Null,
    };
    (!value.is_null()).then_some(Default_::Literal(value))
}
