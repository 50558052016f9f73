//! Schemas of documents: the same plans, in the voice of a framework whose database holds no rule
//! but uniqueness.

use super::*;

/// Types of paths, and those that only a list of rules goes with.
const TYPES: &[Type] = &[
    Type::Text,
    Type::Double,
    Type::Integer,
    Type::BigInt,
    Type::Numeric { precision: None, scale: None },
    Type::Boolean,
    Type::Timestamp { precision: Some(3), zoned: true },
    Type::Binary(None),
    Type::Uuid,
    Type::ObjectId,
    Type::BinaryJson,
];

const NEW_ID: &str = "() => new Types.ObjectId()";

/// The schema of a plan.
pub(super) fn build(plans: &[EntityPlan]) -> Schema {
    let source = Source {
        dialect: "mongoose".into(),
        version: "8".into(),
        database: Database::MongoDb,
        ..Source::default()
    };
    let mut schema = Schema::new(source);
    let member = |name: &str, value: &str| EnumMember {
        name: name.into(),
        value: json!(value),
        label: None,
        in_code: None,
    };
    schema.enums.push(EnumType {
        name: "CallStatus".into(),
        stored_name: None,
        members: vec![member("EXPECTED", "expected"), member("MOORED", "it's moored")],
        module: "harbour".into(),
        inline: false,
        origin: Origin::default(),
    });
    for (at, plan) in plans.iter().enumerate() {
        let mut entity = document(ENTITIES[at], collection(plans, at));
        key(&mut entity, plan.key);
        fill(&mut entity, plan, plans);
        let kept = plan.constraints & 0b11;
        for (bit, name, purpose) in
            [(1, "createdAt", Purpose::CreationTime), (2, "updatedAt", Purpose::UpdateTime)]
        {
            if kept & bit != 0 && entity.fields.iter().all(|field| field.purpose != Some(purpose)) {
                entity.fields.push(kept_by_framework(name, purpose));
            }
        }
        if plan.constraints & 4 != 0 {
            entity.fields.push(kept_by_framework("__v", Purpose::Version));
        }
        let owner = entity.clone();
        schema.entities.push(entity);
        inside(&mut schema, &owner, plan);
    }
    if !schema
        .entities
        .iter()
        .flat_map(|entity| &entity.fields)
        .any(|field| field.choices.is_some())
    {
        schema.enums.clear();
    }
    schema
}

fn collection(plans: &[EntityPlan], at: usize) -> String {
    if plans[at].own_table {
        format!("Collection of {}", ENTITIES[at])
    } else {
        format!("{}s", ENTITIES[at].to_lowercase())
    }
}

fn document(name: &str, table: String) -> Entity {
    let empty = json!({ "id": format!("harbour.{name}"), "name": name, "module": "harbour",
        "table": table, "kind": "document",
        "mapped": { "table": true, "code": true }, "fields": [] });
    serde_json::from_value(empty).expect("an entity")
}

fn path(name: &str, ty: Type) -> Field {
    let mut field = blank(name, ty);
    (field.name, field.nullable, field.required_on_input) =
        (Some(name.to_owned()), true, Some(false));
    field
}

/// The key: made by the framework, or given.
fn key(entity: &mut Entity, plan: u8) {
    let ty = [Type::ObjectId, Type::ObjectId, Type::Text, Type::Uuid, Type::Integer][plan as usize]
        .clone();
    let mut field = path("_id", ty);
    field.nullable = false;
    if plan == 0 {
        field.defaults.application = Some(Box::new(Default_::host("typescript", NEW_ID)));
    }
    entity.fields.push(field);
    entity.primary_key =
        Some(PrimaryKey { columns: vec!["_id".into()], name: None, origin: Origin::default() });
}

fn kept_by_framework(name: &str, purpose: Purpose) -> Field {
    let ty = if purpose == Purpose::Version { Type::Double } else { TYPES[6].clone() };
    let mut field = path(name, ty);
    field.purpose = Some(purpose);
    let now = Some(Box::new(Default_::Function(Function::Now)));
    if purpose != Purpose::Version {
        field.defaults.application.clone_from(&now);
    }
    if purpose == Purpose::UpdateTime {
        field.on_update.application = now;
    }
    field
}

fn fill(entity: &mut Entity, plan: &EntityPlan, plans: &[EntityPlan]) {
    for (number, plan) in plan.fields.iter().enumerate() {
        value(entity, number, plan);
    }
    for (number, plan) in plan.relations.iter().enumerate() {
        reference(entity, number, plan, plans);
    }
    indexes(entity, plan.constraints);
}

fn value(entity: &mut Entity, number: usize, plan: &FieldPlan) {
    let base = TYPES[plan.ty % TYPES.len()].clone();
    let ty = if plan.generated { Type::Array(Box::new(base)) } else { base };
    let name = format!(
        "{}{}",
        NAMES[(plan.texts as usize + number) % NAMES.len()],
        if number > 0 { number.to_string() } else { String::new() }
    );
    let mut field = path(&name, ty);
    if plan.own_column {
        field.column = format!("Path {number}");
    }
    field.required_on_input = Some(!plan.nullable);
    let text = TEXTS[plan.texts as usize % TEXTS.len()];
    if plan.choices && field.r#type == Type::Text {
        field.choices = Some("CallStatus".into());
    } else if field.r#type == Type::Text && plan.voice {
        let message = Some(text.to_owned()).filter(|_| plan.database_default == 1);
        field.rules.push(InputRule { rule: "min_length".into(), value: json!(1), message });
        field.rules.push(InputRule { rule: "max_length".into(), value: json!(24), message: None });
    } else if field.r#type == Type::Double && plan.voice {
        field.rules.push(InputRule { rule: "min_value".into(), value: json!(0), message: None });
    }
    field.defaults.application = match (&field.r#type, plan.application_default) {
        (_, 0) => None,
        (Type::Array(_), _) => Some(Default_::Literal(json!([]))),
        (Type::Timestamp { .. }, _) => Some(Default_::Function(Function::Now)),
        (Type::Uuid, 2) => Some(Default_::Function(Function::RandomUuid)),
        (Type::BinaryJson, 1) => Some(Default_::Literal(json!({}))),
        (Type::Text, 3) => Some(Default_::host("typescript", "() => nextBerth(this)")),
        _ => default(&field, plan.application_default, text, Database::MongoDb),
    }
    .map(Box::new);
    if plan.texts % 5 == 1 && field.r#type == Type::Text {
        field.extras.insert("lowercase".into(), json!(true));
    }
    let own = vec![field.column.clone()];
    let required = field.required_on_input == Some(true);
    match plan.access {
        1 => entity.uniques.push(Unique {
            nulls_not_distinct: !required && plan.nullable && plan.voice,
            r#as: UniqueAs::Index,
            ..unique(own, None)
        }),
        2 => entity.indexes.push(Index::over(&own, Origin::default())),
        _ => {}
    }
    entity.fields.push(field);
}

fn reference(entity: &mut Entity, number: usize, plan: &RelationPlan, plans: &[EntityPlan]) {
    let at = plan.target % plans.len();
    let target = ENTITIES[at];
    let name = format!("link{number}");
    let column = if plan.own_column { format!("ref {number}") } else { name.clone() };
    let many = plan.kind == 2;
    let ty = if many { Type::Array(Box::new(Type::ObjectId)) } else { Type::ObjectId };
    let mut field = path(&column, ty);
    (field.name, field.required_on_input) = (None, Some(!plan.nullable));
    if many && plan.indexed {
        field.defaults.application = Some(Box::new(Default_::Literal(json!([]))));
    }
    entity.fields.push(field);
    let own = vec![column];
    let kind = [RelationKind::ManyToOne, RelationKind::OneToOne, RelationKind::ManyToMany]
        [plan.kind as usize];
    match kind {
        RelationKind::OneToOne => {
            entity.uniques.push(Unique { r#as: UniqueAs::Index, ..unique(own.clone(), None) })
        }
        _ if plan.indexed => entity.indexes.push(Index::over(&own, Origin::default())),
        _ => {}
    }
    let inverse = (plan.inverse && entity.owned_by.is_none())
        .then(|| format!("linked{}{number}", entity.name));
    let relation = json!({ "name": name, "kind": kind, "target": format!("harbour.{target}"),
        "columns": own, "inverse": inverse });
    entity.relations.push(serde_json::from_value(relation).expect("a relation"));
    if !many {
        entity.foreign_keys.push(ForeignKey {
            columns: own,
            references: References {
                table: collection(plans, at),
                namespace: None,
                columns: vec!["_id".into()],
            },
            on_delete: Action::NoAction,
            on_update: Action::NoAction,
            deferrable: None,
            enforced: EnforcedBy::Application,
            name: None,
            origin: Origin::default(),
        });
    }
}

fn indexes(entity: &mut Entity, bits: u16) {
    let has = |bit: u16| bits & (1 << bit) != 0;
    let plain: Vec<String> = entity
        .fields
        .iter()
        .map(|field| field.column.clone())
        .filter(|column| column != "_id")
        .collect();
    let [first, .., last] = plain.as_slice() else { return };
    let required = |column: &String| {
        entity.field(column).is_some_and(|field| field.required_on_input == Some(true))
    };
    let optional = !required(first) || !required(last);
    let pair = vec![first.clone(), last.clone()];
    if has(3) {
        let name = has(4).then_some("a_named_unique");
        entity.uniques.push(Unique {
            nulls_not_distinct: optional,
            r#as: UniqueAs::Index,
            ..unique(pair.clone(), name)
        });
    }
    if has(5) {
        let mut index = Index::over(&pair, Origin::default());
        index.parts[1].descending = true;
        index.unique = has(6);
        index.nulls_not_distinct = has(6) && optional;
        let known = Tree::Not(Box::new(Tree::IsNull(Box::new(Tree::Column(last.clone())))));
        index.condition = has(7).then(|| Box::new(Expression::sql(known)));
        if has(8) {
            index.extras.insert("hidden".into(), json!(true));
        }
        entity.indexes.push(index);
    }
    if has(9) && entity.indexes.iter().all(|index| index.columns != [first.clone()]) {
        let mut index = Index::over(std::slice::from_ref(first), Origin::default());
        index.method = Some("text".into());
        entity.indexes.push(index);
    }
}

/// Documents inside: of each shape, some with a key and some with documents inside themselves.
fn inside(schema: &mut Schema, owner: &Entity, plan: &EntityPlan) {
    let shapes = [Shape::Part, Shape::One, Shape::Many, Shape::Keyed];
    let shape = shapes[usize::from(plan.constraints >> 10) % 4];
    if plan.constraints & (1 << 12) == 0 {
        return;
    }
    let inner = owned(owner, "log", shape, plan.constraints & (1 << 13) != 0, plan.fields.first());
    if plan.constraints & (1 << 14) != 0 {
        let deeper = owned(&inner, "entries", Shape::Many, true, plan.fields.last());
        schema.entities.push(deeper);
    }
    schema.entities.push(inner);
}

fn owned(
    owner: &Entity,
    at: &str,
    shape: Shape,
    with_key: bool,
    plan: Option<&FieldPlan>,
) -> Entity {
    let name = format!("{}{}{}", owner.name, at[..1].to_uppercase(), &at[1..]);
    let mut entity = document(&name, format!("{}.{at}", owner.table));
    entity.owned_by = Some(OwnedBy { entity: owner.id.clone(), path: at.to_owned(), shape });
    entity.mapped.table = false;
    if with_key && shape != Shape::Part {
        key(&mut entity, 0);
    }
    entity.fields.push(path("note", Type::Text));
    if let Some(plan) = plan {
        value(&mut entity, 7, plan);
    }
    entity
}
