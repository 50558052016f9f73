use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::place;
use crate::lint::rule::{PLAIN, Rule, mongoose, sql};
use crate::schema::facts::foreign_key_element;
use crate::schema::{EnforcedBy, Type};

pub(super) const RULE: Rule = Rule {
    name: "reference-unlike-its-target",
    severity: Severity::Error,
    finds: "a reference whose column is of another kind of type than the column that it refers to",
    consequence: "The database refuses the foreign key, and the table with it. Where no foreign key is made, every join converts one \
                  of the two and uses no index.",
    sql: "CREATE TABLE berths (quay_id varchar(20) REFERENCES quays (id));\n-- refused: key columns \"quay_id\" and \"id\" are of incompatible types: character varying and integer",
    cure: "Give the reference the type of its target. A filled column must be converted.",
    exception: "Never for a foreign key of the database.",
    wrong: sql(
        "CREATE TABLE quays (id integer PRIMARY KEY);\nCREATE TABLE berths (id integer PRIMARY KEY, quay_id varchar(20) REFERENCES quays (id));\n",
    ),
    right: sql(
        "CREATE TABLE quays (id integer PRIMARY KEY);\nCREATE TABLE berths (id integer PRIMARY KEY, quay_id integer REFERENCES quays (id));\n",
    ),
    cases: &[
        (
            0,
            sql(
                "CREATE TABLE quays (id bigint PRIMARY KEY);\nCREATE TABLE berths (id integer PRIMARY KEY, quay_id integer REFERENCES quays (id));",
            ),
        ),
        (
            0,
            sql(
                "CREATE TABLE flags (code char(2) PRIMARY KEY);\nCREATE TABLE vessels (id integer PRIMARY KEY, flag varchar(2) REFERENCES flags);",
            ),
        ),
        (
            0,
            mongoose(
                "const Quay = mongoose.model('Quay', new mongoose.Schema({ depth: Number }));\nconst Berth = mongoose.model('Berth', new mongoose.Schema({ quay: { type: mongoose.Types.ObjectId, ref: 'Quay' } }));\n",
            ),
        ),
    ],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for entity in context.tables() {
        for key in entity.foreign_keys.iter().filter(|key| key.enforced == EnforcedBy::Database) {
            let Some(target) = context.referenced(&key.references) else { continue };
            let pairs = key.columns.iter().zip(&key.references.columns);
            for (own, other) in pairs.filter_map(|(own, other)| Some((entity.field(own)?, target.field(other)?))) {
                if own.r#type == other.r#type || family(&own.r#type) == family(&other.r#type) {
                    continue;
                }
                let message =
                    format!("`{}` is a {}, and refers to `{}`, a {}", place(entity, own), own.r#type, place(target, other), other.r#type);
                found.push(
                    RULE.finding(entity, foreign_key_element(key), message)
                        .at(own.origin.span().or(key.origin.span()), format!("`{}`", own.r#type))
                        .and_at(other.origin.span(), format!("`{}`", other.r#type))
                        .because(format!("{} refuses the foreign key", context.database().title()))
                        .with_help(format!("give it the type {}", other.r#type)),
                );
            }
        }
    }
}

/// Types that servers compare with each other in a foreign key.
fn family(ty: &Type) -> std::mem::Discriminant<Type> {
    let kind = match ty {
        ty if ty.is_whole_number() => &Type::Integer,
        Type::Numeric { .. } => &Type::Integer,
        ty if ty.is_text() => &Type::Text,
        Type::Double => &Type::Real,
        other => other,
    };
    std::mem::discriminant(kind)
}
