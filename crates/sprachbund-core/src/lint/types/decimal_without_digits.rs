use crate::diagnostic::{Diagnostic, Severity};
use crate::lint::Context;
use crate::lint::context::place;
use crate::lint::examples::{sql, typeorm};
use crate::lint::rule::{PLAIN, Rule};
use crate::schema::{Change, Type};
use crate::server::SilentDecimal;

pub(super) const RULE: Rule = Rule {
    name: "decimal-without-digits",
    severity: Severity::Warning,
    finds: "an exact decimal that does not say how many digits it has",
    consequence: "PostgreSQL keeps any number of digits. MySQL and MariaDB keep ten, none of \
                  them behind the point: 12.50 is stored as 13, with a warning that few read.",
    sql: "CREATE TABLE invoices (total decimal);\nINSERT INTO invoices VALUES (12.50);\n\
          SELECT total FROM invoices;  -- MariaDB: 13",
    cure: "Say both numbers of digits. Values with more places are rounded once.",
    exception: "On PostgreSQL, where any number of digits is meant.",
    wrong: typeorm(
        "@Entity()
export class Invoice {
  @PrimaryGeneratedColumn()
  id!: number;

  @Column('decimal')
  total!: string;
}
",
    ),
    right: typeorm(
        "@Entity()
export class Invoice {
  @PrimaryGeneratedColumn()
  id!: number;

  @Column('decimal', { precision: 12, scale: 2 })
  total!: string;
}
",
    ),
    cases: &[
        (1, sql("CREATE TABLE invoices (id integer PRIMARY KEY, total numeric);")),
        (0, sql("CREATE TABLE invoices (id integer PRIMARY KEY, total numeric(12, 2));")),
    ],
    check,
    ..PLAIN
};

fn check(context: &Context<'_>, found: &mut Vec<Diagnostic>) {
    for (entity, field) in context
        .columns()
        .filter(|(_, field)| matches!(field.r#type, Type::Numeric { precision: None, .. }))
    {
        let kept = match context.database().server().silent_decimal {
            SilentDecimal::Whole => "ten digits are kept, none of them behind the point",
            SilentDecimal::Binary => "a number with a point is kept as a binary one",
            SilentDecimal::Any => {
                "any number of digits is kept here; MySQL and MariaDB keep none behind the point"
            }
        };
        found.push(
            RULE.of_column(
                entity,
                field,
                format!("`{}` does not say how many digits it has", place(entity, field)),
            )
            .at(field.origin.span(), format!("`{}`", field.r#type))
            .because(kept)
            .with_help("say how many digits there are, and how many of them behind the point")
            .curable_by_hand(Change::Retype {
                entity: entity.id.clone(),
                column: field.column.clone(),
                to: Type::Numeric { precision: Some(12), scale: Some(2) },
            }),
        );
    }
}
