use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::place;
use crate::lint::examples::{django, typeorm};
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::Type;

pub(super) const RULE: Rule = Rule {
    name: "length-in-vain",
    severity: Severity::Warning,
    finds: "a length, or numbers of digits, said of a type that takes none",
    consequence: "Either the framework ignores it, at best with a warning, and the column takes \
                  whatever the type takes, which its author does not believe; or it refuses to \
                  start.",
    sql: "INSERT INTO vessels (masts) VALUES (123456);  -- accepted: the length of an integer \
          is no limit",
    cure: "Leave it out, or use a type that has one. Values that do not fit must be mended first.",
    exception: "When a plugin or a form hears it.",
    raised: &["length-in-vain"],
    wrong: typeorm(
        "@Entity()
export class Vessel {
  @PrimaryGeneratedColumn()
  id!: number;

  @Column('int', { length: 5 })
  masts!: number;
}
",
    ),
    right: typeorm(
        "@Entity()
export class Vessel {
  @PrimaryGeneratedColumn()
  id!: number;

  @Column('int')
  masts!: number;
}
",
    ),
    cases: &[
        (1, django("class Vessel(models.Model):\n    masts = models.IntegerField(max_length=5)\n")),
        (1, django("class Vessel(models.Model):\n    masts = models.IntegerField(max_digits=2)\n")),
        (
            0,
            django(
                "class Vessel(models.Model):\n    tonnage = models.DecimalField(max_digits=9, \
                 decimal_places=2)\n",
            ),
        ),
    ],
    check,
    ..PLAIN
};

/// Words that say a length or numbers of digits, which a reader keeps where the type does not take
/// them.
const LENGTHS: &[&str] = &["length", "max_digits", "decimal_places", "precision", "scale"];

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for (entity, field) in context.columns() {
        let checked = field
            .rules
            .iter()
            .map(|rule| &rule.rule)
            .find(|rule| *rule == "max_length")
            .filter(|_| takes_no_length(&field.r#type));
        let Some(word) =
            field.extras.keys().find(|word| LENGTHS.contains(&word.as_str())).or(checked)
        else {
            continue;
        };
        found.push(
            RULE.of_column(
                entity,
                field,
                format!(
                    "`{word}` is said of `{}`, a {}, which has none",
                    place(entity, field),
                    field.r#type
                ),
            )
            .at(field.origin.span(), format!("`{}`", field.r#type))
            .because("it is ignored, or refused when the program starts")
            .with_help(format!("leave `{word}` out, or use a type that has one")),
        );
    }
}

fn takes_no_length(ty: &Type) -> bool {
    ty.is_whole_number()
        || matches!(
            ty,
            Type::Boolean
                | Type::Numeric { .. }
                | Type::Real
                | Type::Double
                | Type::Date
                | Type::Timestamp { .. }
        )
}
