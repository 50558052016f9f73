use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::place;
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::Feature;
use crate::schema::Type;
use crate::schema::facts::index_element;

pub(super) const RULE: Rule = Rule {
    name: "index-method-unfit",
    severity: Severity::Error,
    finds: "an index whose method the column's type has no operators for",
    consequence: "PostgreSQL refuses the index: a type needs an operator class for the method.",
    sql: "CREATE INDEX ON vessels USING gin (name);\n\
          -- refused: data type character varying has no default operator class for access \
          method \"gin\"",
    cure: "Leave the method out, or name an operator class that fits (for texts in gin: \
           `gin_trgm_ops`, of an extension).",
    exception: "When an extension gives the type such a class without being named.",
    wrong: sql("CREATE TABLE vessels (id integer PRIMARY KEY, name varchar(80));\n\
                CREATE INDEX by_name ON vessels USING gin (name);\n"),
    right: sql("CREATE TABLE vessels (id integer PRIMARY KEY, name varchar(80));\n\
                CREATE INDEX by_name ON vessels (name);\n"),
    cases: &[
        (
            0,
            sql("CREATE TABLE vessels (id integer PRIMARY KEY, papers jsonb);\n\
                 CREATE INDEX p ON vessels USING gin (papers);"),
        ),
        (
            1,
            sql("CREATE TABLE vessels (id integer PRIMARY KEY, papers json);\n\
                 CREATE INDEX p ON vessels (papers);"),
        ),
        (
            0,
            sql("CREATE TABLE vessels (id integer PRIMARY KEY, name text);\n\
                 CREATE INDEX n ON vessels USING gin (name gin_trgm_ops);"),
        ),
    ],
    check,
    ..PLAIN
};

/// Whether PostgreSQL has an operator class of its own for this type (tried on 15.18: an index of
/// each method over each type); `None` where it depends.
fn has_class(method: &str, ty: &Type) -> Option<bool> {
    let composed = matches!(ty, Type::Array(_) | Type::BinaryJson | Type::SearchVector);
    Some(match (method, ty) {
        (_, Type::Native(_)) => return None,
        (_, Type::CaseFoldedText) => return None,
        ("btree" | "hash", Type::Json) | ("hash", Type::SearchVector) => false,
        ("btree" | "hash", _) => true,
        ("gin", _) => composed,
        ("gist", ty) => matches!(ty, Type::Range(_) | Type::SearchVector),
        ("spgist", ty) => {
            matches!(ty, Type::Text | Type::Varchar(_) | Type::Range(_) | Type::NetworkAddress)
        }
        ("brin", ty) => !matches!(
            ty,
            Type::Json
                | Type::BinaryJson
                | Type::Array(_)
                | Type::Boolean
                | Type::SearchVector
                | Type::Enum(_)
        ),
        _ => return None,
    })
}

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    if context.database().server().lacks.contains(&Feature::IndexMethod) {
        return;
    }
    for entity in context.tables() {
        for index in &entity.indexes {
            let method = index.method.as_deref().unwrap_or("btree");
            for part in index.parts.iter().filter(|part| part.operator_class.is_none()) {
                let Some(field) = part.column.as_ref().and_then(|column| entity.field(column))
                else {
                    continue;
                };
                if has_class(method, &field.r#type) != Some(false) {
                    continue;
                }
                let message = format!(
                    "`{}` is a {}, which {method} cannot index by itself",
                    place(entity, field),
                    field.r#type
                );
                found.push(
                    RULE.finding(entity, index_element(index), message)
                        .at(
                            index.origin.span().or(field.origin.span()),
                            format!("an index by {method}"),
                        )
                        .because("PostgreSQL refuses an index without an operator class")
                        .with_help("choose a method that fits, or name the operator class"),
                );
            }
        }
    }
}
