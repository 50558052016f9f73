//! Which variants of the schema's types a generated schema makes use of, and which must be
//! generated.

use sprachbund_core::schema::*;

/// Every variant of an enumeration by name, and the name of a value's. A variant that is not listed
/// does not compile.
macro_rules! variants_of {
    ($list:ident, $name:ident, $ty:ident, [$($variant:ident),* $(,)?]) => {
        const $list: &[&str] = &[$(concat!(stringify!($ty), " ", stringify!($variant))),*];

        fn $name(value: &$ty) -> &'static str {
            match value {
                $($ty::$variant { .. } => concat!(stringify!($ty), " ", stringify!($variant)),)*
            }
        }
    };
}

variants_of!(
    TYPES_OF,
    of_type,
    Type,
    [
        Boolean,
        SmallInt,
        Integer,
        BigInt,
        UnsignedSmallInt,
        UnsignedInteger,
        UnsignedBigInt,
        Numeric,
        Real,
        Double,
        Char,
        Varchar,
        CaseFoldedText,
        Text,
        Binary,
        Date,
        Time,
        Timestamp,
        Interval,
        Uuid,
        Json,
        BinaryJson,
        NetworkAddress,
        Range,
        SearchVector,
        ObjectId,
        Enum,
        Array,
        Native,
    ]
);
variants_of!(RANGES_OF, of_range, RangeKind, [Integer, BigInt, Numeric, Date, Timestamp]);
variants_of!(DEFAULTS_OF, of_default, Default_, [Literal, Function, Expression]);
variants_of!(FUNCTIONS_OF, of_function, Function, [Now, StatementNow, Today, RandomUuid]);
variants_of!(IDENTITIES_OF, of_identity, Identity, [ByDefault, Always, Sequence, AutoIncrement]);
variants_of!(PURPOSES_OF, of_purpose, Purpose, [CreationTime, UpdateTime, DeletionTime, Version]);
variants_of!(
    ACTIONS_OF,
    of_action,
    Action,
    [NoAction, Restrict, Protect, Cascade, SetNull, SetDefault, SetValue]
);
variants_of!(DEFERRABLE_OF, of_deferrable, Deferrable, [InitiallyImmediate, InitiallyDeferred]);
variants_of!(ENFORCED_OF, of_enforced, EnforcedBy, [Database, Application]);
variants_of!(NAMED_OF, of_named, NamedBy, [Author, Framework, Server]);
variants_of!(UNIQUE_OF, of_unique, UniqueAs, [Constraint, Index]);
variants_of!(RELATIONS_OF, of_relation, RelationKind, [ManyToOne, OneToOne, ManyToMany]);
variants_of!(KINDS_OF, of_kind, EntityKind, [Table, View, Document]);
variants_of!(SHAPES_OF, of_shape, Shape, [Part, One, Many, Keyed]);
variants_of!(INHERITANCE_OF, of_inheritance, Inheritance, [Joined, SingleTable, SameTable]);

/// Variants that the laws do not generate, and where they are tried instead.
const ELSEWHERE: &[(&str, &str)] = &[
    ("NamedBy Server", "only catalogs say it: the tests of servers"),
    ("EntityKind View", "the cases of conformance"),
    ("Inheritance Joined", "the cases of conformance"),
    ("Inheritance SingleTable", "the cases of conformance"),
    ("Inheritance SameTable", "the cases of conformance"),
];

/// Every variant that must be generated, and features of indexes and constraints besides.
pub(crate) fn wanted() -> Vec<&'static str> {
    let lists = [
        TYPES_OF,
        RANGES_OF,
        DEFAULTS_OF,
        FUNCTIONS_OF,
        IDENTITIES_OF,
        PURPOSES_OF,
        ACTIONS_OF,
        DEFERRABLE_OF,
        ENFORCED_OF,
        NAMED_OF,
        UNIQUE_OF,
        RELATIONS_OF,
        KINDS_OF,
        SHAPES_OF,
        INHERITANCE_OF,
        FLAGS,
    ];
    let all = lists.into_iter().flatten().copied();
    all.filter(|word| !ELSEWHERE.iter().any(|(elsewhere, _)| elsewhere == word)).collect()
}

/// What an index, a constraint or a column may have besides.
const FLAGS: &[&str] = &[
    "index unique",
    "index partial",
    "index method",
    "index covering",
    "index named",
    "index nulls",
    "index expression",
    "index descending",
    "unique deferrable",
    "unique nulls",
    "unique extras",
    "generated",
    "check tree",
    "check text",
    "choices",
    "rules",
    "comment",
    "on update",
    "symmetrical",
];

/// Everything that a schema makes use of.
pub(crate) fn variants(schema: &Schema) -> Vec<&'static str> {
    let mut seen: Vec<&'static str> = Vec::new();
    for entity in &schema.entities {
        seen.push(of_kind(&entity.kind));
        seen.extend(entity.owned_by.iter().map(|place| of_shape(&place.shape)));
        seen.extend(entity.inherits.iter().map(|inherits| of_inheritance(&inherits.how)));
        entity.fields.iter().for_each(|field| of_field(field, &mut seen));
        for relation in &entity.relations {
            seen.push(of_relation(&relation.kind));
            seen.extend(relation.on_delete.iter().map(of_action));
            seen.extend(relation.symmetrical.then_some("symmetrical"));
        }
        for key in &entity.foreign_keys {
            seen.extend([of_action(&key.on_delete), of_enforced(&key.enforced)]);
            seen.extend(key.deferrable.iter().map(of_deferrable));
        }
        for index in &entity.indexes {
            seen.push(of_named(&index.named_by));
            let part = |test: fn(&IndexPart) -> bool| index.parts.iter().any(test);
            let flags = [
                (index.unique, "index unique"),
                (index.condition.is_some(), "index partial"),
                (index.method.is_some(), "index method"),
                (!index.include.is_empty(), "index covering"),
                (index.name.is_some(), "index named"),
                (index.nulls_not_distinct, "index nulls"),
                (part(|part| part.expression.is_some()), "index expression"),
                (part(|part| part.descending), "index descending"),
            ];
            seen.extend(flags.iter().filter(|(on, _)| *on).map(|(_, word)| *word));
        }
        for unique in &entity.uniques {
            seen.extend([of_unique(&unique.r#as), of_named(&unique.named_by)]);
            let flags = [
                (unique.deferrable.is_some(), "unique deferrable"),
                (unique.nulls_not_distinct, "unique nulls"),
                (!unique.extras.is_empty(), "unique extras"),
            ];
            seen.extend(flags.iter().filter(|(on, _)| *on).map(|(_, word)| *word));
        }
        seen.extend(entity.checks.iter().map(|check| {
            if check.expression.tree.is_some() { "check tree" } else { "check text" }
        }));
    }
    seen
}

fn of_field(field: &Field, seen: &mut Vec<&'static str>) {
    seen.push(of_type(&field.r#type));
    if let Type::Range(kind) = &field.r#type {
        seen.push(of_range(kind));
    }
    seen.extend(field.identity.iter().map(of_identity));
    seen.extend(field.purpose.iter().map(of_purpose));
    for default in [&field.defaults.database, &field.defaults.application].into_iter().flatten() {
        seen.push(of_default(default));
        if let Default_::Function(function) = &**default {
            seen.push(of_function(function));
        }
    }
    let flags = [
        (field.generated.is_some(), "generated"),
        (field.choices.is_some(), "choices"),
        (!field.rules.is_empty(), "rules"),
        (field.comment.is_some(), "comment"),
        (field.on_update != Voices::default(), "on update"),
    ];
    seen.extend(flags.iter().filter(|(on, _)| *on).map(|(_, word)| *word));
}
