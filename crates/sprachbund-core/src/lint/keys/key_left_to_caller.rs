use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::{is_reference, place};
use crate::lint::examples::{sql, typeorm};
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::Type;

pub(super) const RULE: Rule = Rule {
    name: "key-left-to-caller",
    severity: Severity::Warning,
    finds: "a number or uuid as the key that neither the database nor the framework fills in",
    consequence: "Whoever saves a record must make up a key that is free. Two that count up \
                  from the highest number take the same one, and the second is refused; code \
                  that saves without a key is refused always.",
    sql: "INSERT INTO quay (name) VALUES ('North');  -- refused: null value in column \"id\" of \
          relation \"quay\" violates not-null constraint",
    cure: "Let the database number it, or give it a default. Rows keep their keys; the counter \
           must start after the highest.",
    exception: "When the number comes from outside (an authority's register).",
    wrong: typeorm("@Entity()\nexport class Quay {\n  @PrimaryColumn()\n  id!: number;\n}\n"),
    right: typeorm(
        "@Entity()\nexport class Quay {\n  @PrimaryGeneratedColumn()\n  id!: number;\n}\n",
    ),
    cases: &[
        (1, sql("CREATE TABLE pilots (id uuid PRIMARY KEY);")),
        (0, sql("CREATE TABLE flags (code char(2) PRIMARY KEY);")),
        (
            0,
            sql("CREATE TABLE vessels (id bigserial PRIMARY KEY);\n\
                 CREATE TABLE certificates (vessel_id bigint PRIMARY KEY REFERENCES vessels);"),
        ),
    ],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for entity in
        context.tables().filter(|entity| entity.inherits.is_none() && entity.owned_by.is_none())
    {
        let [column] = entity.key_columns() else { continue };
        let Some(field) = entity
            .field(column)
            .filter(|field| field.r#type.is_whole_number() || field.r#type == Type::Uuid)
        else {
            continue;
        };
        let made = field.identity.is_some()
            || field.generated.is_some()
            || field.defaults != Default::default();
        if made || is_reference(entity, column) {
            continue;
        }
        found.push(
            RULE.of_column(
                entity,
                field,
                format!("nothing makes up the key `{}`", place(entity, field)),
            )
            .at(
                field.origin.span().or(entity.origin.span()),
                format!("a `{}` without a default or a counter", field.r#type),
            )
            .because(format!("`INSERT INTO {}` without it is refused: NOT NULL", entity.table))
            .with_help("let the database number it, or give it a default"),
        );
    }
}
