use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::{place, words_of};
use crate::lint::examples::sql;
use crate::lint::rule::{PLAIN, Parameter, Rule, Value};
use crate::schema::Change;

/// Names of columns by which people look one record up.
const LOOKUPS: &[&str] =
    &["email", "slug", "username", "login", "imo", "mmsi", "isbn", "iban", "vin", "barcode", "sku"];

pub(super) const RULE: Rule = Rule {
    name: "lookup-not-unique",
    severity: Severity::Note,
    finds: "a column by which one record is looked up, without uniqueness",
    consequence: "Two records may have the same value. The lookup then finds either, and which \
                  one changes from day to day. Without an index it reads the whole table \
                  besides.",
    sql: "INSERT INTO vessels (imo) VALUES ('9074729');\n\
          INSERT INTO vessels (imo) VALUES ('9074729');  -- accepted",
    cure: "Make the column unique. Values that stand twice must go first.",
    exception: "When several records share the value (an office's email).",
    parameters: &[Parameter {
        name: "words",
        says: "names of columns by which one record is looked up",
        value: Value::Words(LOOKUPS),
    }],
    wrong: sql("CREATE TABLE vessels (id integer PRIMARY KEY, imo char(7) NOT NULL);\n"),
    right: sql("CREATE TABLE vessels (id integer PRIMARY KEY, imo char(7) NOT NULL UNIQUE);\n"),
    cases: &[
        (
            0,
            sql("CREATE TABLE vessels (id integer PRIMARY KEY, harbour integer, imo char(7), \
                 UNIQUE (harbour, imo));"),
        ),
        (0, sql("CREATE TABLE vessels (id integer PRIMARY KEY, imo_checked boolean);")),
    ],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let lookups = context.words(&RULE, "words");
    for (entity, field) in context
        .fields()
        .filter(|(_, field)| field.r#type.is_text() || field.r#type.is_whole_number())
    {
        if !lookups.contains(&words_of(field).as_str()) {
            continue;
        }
        let held = |columns: &[String]| columns.contains(&field.column);
        let unique = held(entity.key_columns())
            || entity.uniques.iter().any(|unique| held(&unique.columns))
            || entity.indexes.iter().any(|index| {
                index.unique && (held(&index.columns) || mentions(index, &field.column))
            });
        if unique {
            continue;
        }
        found.push(
            RULE.of_column(
                entity,
                field,
                format!(
                    "one `{}` is looked up by `{}`, which may repeat",
                    entity.name,
                    place(entity, field)
                ),
            )
            .at(field.origin.span(), "not unique")
            .because(format!("`WHERE {} = ...` may find several rows", field.column))
            .with_help("make it unique")
            .curable_by_hand(Change::AddUnique {
                entity: entity.id.clone(),
                columns: vec![field.column.clone()],
            }),
        );
    }
}

/// Whether an expression of an index names the column.
fn mentions(index: &crate::schema::Index, column: &str) -> bool {
    index
        .parts
        .iter()
        .filter_map(|part| part.expression.as_ref())
        .any(|expression| expression.columns().contains(&column))
}
