use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::examples::django;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::facts::unique_element;

pub(super) const RULE: Rule = Rule {
    name: "unique-null-elsewhere",
    severity: Severity::Warning,
    finds: "a unique column that may be null, carried between a database of tables and one of \
            documents (with --to)",
    consequence: "Tables accept any number of rows without a value. A unique index over \
                  documents accepts one, unless it is sparse: the second document without the \
                  value is refused.",
    sql: "-- E11000 duplicate key error: { radio_name: null }, at the second document without it",
    cure: "Say `sparse` (or a partial index) in the target.",
    exception: "When every record has a value.",
    wrong: django(
        "class Pilot(models.Model):\n    radio_name = models.CharField(max_length=9, null=True, \
         unique=True)\n",
    )
    .to("mongoose"),
    right: django(
        "class Pilot(models.Model):\n    radio_name = models.CharField(max_length=9, null=True, \
         unique=True)\n",
    )
    .to("typeorm"),
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let Some(target) = context.target.filter(|target| {
        target.dialect.keeps_documents() != context.conventions.dialect.keeps_documents()
    }) else {
        return;
    };
    for entity in context.entities() {
        for unique in &entity.uniques {
            let nullable = unique
                .columns
                .iter()
                .filter_map(|column| entity.field(column))
                .any(|field| field.nullable);
            if !nullable {
                continue;
            }
            let columns = unique.columns.join(", ");
            let (many, one) = (context.conventions.dialect.id, target.dialect.framework);
            found.push(
                RULE.finding(
                    entity,
                    unique_element(unique),
                    format!(
                        "`{columns}` of `{}` may be missing any number of times in {many}, not \
                         in {one}",
                        entity.name
                    ),
                )
                .at(unique.origin.span().or(entity.origin.span()), "unique, and may be null")
                .because(
                    "an index over documents holds a missing value for null, and two of them \
                     for equal",
                )
                .with_help("say that the index is sparse, or give it a condition"),
            );
        }
    }
}
