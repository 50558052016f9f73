use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::place;
use crate::lint::examples::{django, typeorm};
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::Type;

pub(super) const RULE: Rule = Rule {
    name: "text-unbounded-among-bounded",
    severity: Severity::Note,
    finds: "a short text without a length, beside texts of the same entity that have one",
    consequence: "One column takes megabytes where its neighbours refuse the first letter too \
                  many. On another server the silent length differs, and long values are cut \
                  or refused there.",
    sql: "INSERT INTO vessel (number, name) VALUES ('9074729', repeat('x', 1000000));  -- accepted",
    cure: "Give the length that is meant, or the type for long texts. A length on a filled \
           column is refused while longer values are in it.",
    exception: "When any length is right; then write the type for long texts, which the rule \
                leaves alone.",
    wrong: typeorm(
        "@Entity()
export class Vessel {
  @PrimaryColumn({ length: 7 })
  number!: string;

  @Column()
  name!: string;
}
",
    ),
    right: typeorm(
        "@Entity()
export class Vessel {
  @PrimaryColumn({ length: 7 })
  number!: string;

  @Column({ length: 80 })
  name!: string;
}
",
    ),
    cases: &[
        (
            0,
            typeorm(
                "@Entity()
class Vessel {
  @PrimaryColumn()
  number!: string;
  @Column()
  name!: string;
}",
            ),
        ),
        (
            0,
            typeorm(
                "@Entity()
class Vessel {
  @PrimaryColumn({ length: 7 })
  number!: string;
  @Column('text')
  remarks!: string;
}",
            ),
        ),
        (
            1,
            django(
                "class Vessel(models.Model):
    number = models.CharField(max_length=7)
    name = models.CharField()
",
            ),
        ),
    ],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for entity in context.tables() {
        let bounded = |field: &&crate::schema::Field| {
            matches!(field.r#type, Type::Varchar(Some(_)) | Type::Char(_)) && field.format.is_none()
        };
        let Some(sibling) = entity.fields.iter().find(bounded) else { continue };
        for field in entity
            .fields
            .iter()
            .filter(|field| field.r#type == Type::Varchar(None) && field.choices.is_none())
        {
            let mut diagnostic = RULE
                .of_column(
                    entity,
                    field,
                    format!(
                        "`{}` has no length, while `{}` has one",
                        place(entity, field),
                        place(entity, sibling)
                    ),
                )
                .at(field.origin.span(), "any length is taken here")
                .with_help("give the length that is meant, or the type for long texts");
            if field.origin.span() != sibling.origin.span() {
                diagnostic =
                    diagnostic.and_at(sibling.origin.span(), format!("`{}`", sibling.r#type));
            }
            found.push(diagnostic);
        }
    }
}
