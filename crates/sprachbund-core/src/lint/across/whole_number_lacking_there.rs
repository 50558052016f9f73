use crate::decision::companions::is_positive;
use crate::diagnostic::{Diagnostic, Severity};
use crate::dialect::type_table::TypeRow;
use crate::lint::Context;
use crate::lint::context::place;
use crate::lint::examples::django;
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::Type;

pub(super) const RULE: Rule = Rule {
    name: "whole-number-lacking-there",
    severity: Severity::Warning,
    finds: "a number that may not be negative, where the dialect that it is carried to has no \
            such type (with --to)",
    consequence: "With the plain type, negative values are stored that were refused before; on \
                  MySQL and MariaDB the upper half of the numbers no longer fits.",
    sql: "INSERT INTO quays (length) VALUES (-5);  -- refused before, accepted after",
    cure: "Add a check that it is not negative, and on MySQL and MariaDB use the next wider type.",
    exception: "When `emit` writes the declarations: it says what becomes of the rule.",
    wrong: django("class Quay(models.Model):\n    length = models.PositiveIntegerField()\n")
        .to("typeorm"),
    right: django("class Quay(models.Model):\n    length = models.IntegerField()\n").to("typeorm"),
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    let Some(target) = context.target else { return };
    let there = || {
        target.conventions.words.types.iter().filter(|row| row.is_on(target.conventions.database))
    };
    for (entity, field) in context.columns() {
        let unsigned = matches!(
            field.r#type,
            Type::UnsignedSmallInt | Type::UnsignedInteger | Type::UnsignedBigInt
        );
        let refused = is_positive(context.conventions, entity, field);
        let said = |row: &TypeRow| {
            if unsigned { row.kind == field.r#type.kind() } else { row.not_negative }
        };
        if !(unsigned || refused) || there().any(said) {
            continue;
        }
        let framework = target.dialect.framework;
        found.push(
            RULE.of_column(
                entity,
                field,
                format!(
                    "`{}` is never negative, and {framework} has no such type",
                    place(entity, field)
                ),
            )
            .at(field.origin.span(), format!("`{}`", field.r#type))
            .because("with the plain type negative values are stored")
            .with_help(format!("add a check to it in {framework}")),
        );
    }
}
